#include "arvek/link/rpc_server.hpp"
#include "../game/json_reader.hpp"

#include <algorithm>
#include <atomic>
#include <chrono>
#include <condition_variable>
#include <deque>
#include <functional>
#include <future>
#include <istream>
#include <map>
#include <mutex>
#include <nlohmann/json.hpp>
#include <optional>
#include <ostream>
#include <thread>
#include <vector>

#include "arvek/game/input_error.hpp"
#include "arvek/link/child.hpp"
#include "arvek/search/worker_threads.hpp"
#include "arvek/session/plain_text.hpp"
#include "line_input.hpp"
#include "rpc_methods.hpp"
#include "rpc_parts.hpp"

namespace arvek::link {

namespace detail {

/// What came in one message, or several. What is answered of it goes out together.
struct RpcDelivery {
    RpcService::Write write;
    std::function<void()> done;
    std::mutex mutex;
    bool is_batch = false;
    std::size_t left = 0;
    Json answers = Json::array();

    void send(const Json& message) {
        const std::string text = message.dump(-1, ' ', false, Json::error_handler_t::replace);
        const std::lock_guard lock(mutex);
        write(text);
    }
    /// `response` null: a notification, which is not answered.
    void answer(const Json& response) {
        std::unique_lock lock(mutex);
        if (!response.is_null()) answers.push_back(response);
        if (--left > 0) return;
        if (!answers.empty())
            write((is_batch ? answers : answers[0]).dump(-1, ' ', false, Json::error_handler_t::replace));
        lock.unlock();
        if (done) done();
    }
};
using RpcDeliveryPointer = std::shared_ptr<RpcDelivery>;

/// A session, and the thread that works for it, a request after another.
struct RpcDesk {
    explicit RpcDesk(Session begun) : at(std::move(begun)) {}

    RpcSession at;
    std::mutex mutex;
    std::condition_variable changed;
    std::deque<std::function<void()>> jobs;
    std::atomic<bool> closed{false};
    std::atomic<std::size_t> in_hand{0};  ///< requests that are not answered
    std::uint64_t last_used = 0;
    std::size_t memory = 0;  ///< MiB that it may take, of the server's
    bool gives_back = false, waits_for_memory = false;
    std::thread thread;

    void work() {
        for (;;) {
            std::unique_lock lock(mutex);
            changed.wait(lock, [&] { return closed || !jobs.empty(); });
            if (jobs.empty()) return;
            const auto job = std::move(jobs.front());
            jobs.pop_front();
            lock.unlock();
            job();
        }
    }
    /// What was asked before is answered before.
    void close() {
        {
            const std::lock_guard lock(mutex);
            closed = true;
        }
        changed.notify_all();
        if (thread.joinable()) thread.join();
    }
};
using RpcDeskPointer = std::shared_ptr<RpcDesk>;

/// Whether a decision is to end: it is cancelled, or its session is closed.
struct RpcStop {
    StopFlag cancelled;
    RpcDeskPointer desk;
    const std::atomic<bool>* all_stop = nullptr;

    bool stop_requested() const { return cancelled.stop_requested() || desk->closed || *all_stop; }
};

inline Json error_of(const Json& id, RpcCode code, const std::string& message) {
    return Json{{"jsonrpc", "2.0"},
                {"id", id},
                {"error", {{"code", static_cast<int>(code)}, {"message", message_line(message)}}}};
}

}  // namespace detail

using namespace detail;

class RpcService::Body {
   public:
    explicit Body(RpcServerOptions options) : options_(std::move(options)) {}
    ~Body() {
        for (auto& [number, desk] : desks_) desk->closed = true;  // all at once
        for (auto& [number, desk] : desks_) desk->close();
        closers_.clear();  // waits for them
    }

    void stop() { all_stop_ = true; }

    void take(const std::string& line, const RpcDeliveryPointer& delivery) {
        delivery->left = 1;
        Json message;
        try {
            if (line.size() > options_.longest_message)
                throw RpcError(ParseError,
                               "the message is longer than " + std::to_string(options_.longest_message) + " bytes");
            message = arvek::read_json<Json>(line, "message");
        } catch (const RpcError& error) {
            return delivery->answer(error_of(nullptr, error.code(), error.what()));
        } catch (const InputError& error) {
            return delivery->answer(error_of(nullptr, ParseError, error.what()));
        }
        if (!message.is_array()) return take_message(delivery, message);
        if (message.empty()) return delivery->answer(error_of(nullptr, InvalidRequest, "an empty batch asks nothing"));
        delivery->is_batch = true;
        delivery->left = message.size();
        for (const Json& each : message) take_message(delivery, each);
    }

   private:
    void take_message(const RpcDeliveryPointer& delivery, const Json& message) {
        const auto refuse = [&](const Json& id, const std::string& why) {
            delivery->answer(error_of(id, InvalidRequest, why));
        };
        if (!message.is_object()) return refuse(nullptr, "a request is an object, not " + kind_text(message));
        const auto id_at = message.find("id");
        const bool notifies = id_at == message.end();
        const Json id = notifies ? Json(nullptr) : *id_at;
        if (!id.is_null() && !id.is_string() && !id.is_number())
            return refuse(nullptr, "an id is a string or a number");
        const auto version = message.find("jsonrpc");
        if (version == message.end() || *version != "2.0") return refuse(id, "'jsonrpc' must be \"2.0\"");
        const auto method = message.find("method");
        if (method == message.end() || !method->is_string()) return refuse(id, "'method' must be a string");
        const auto params = message.find("params");
        run(delivery, id, notifies, method->get<std::string>(), params == message.end() ? Json::object() : *params);
    }

    /// Does what is asked, here or at the desk of its session.
    void run(const RpcDeliveryPointer& delivery, const Json& id, bool notifies, const std::string& method, Json given) {
        const auto attempt = [delivery, id, notifies](const std::function<Json()>& work) {
            Json response;
            try {
                Json result = work();
                response = Json{{"jsonrpc", "2.0"}, {"id", id}, {"result", std::move(result)}};
            } catch (const RpcError& error) {
                response = error_of(id, error.code(), error.what());
            } catch (const InputError& error) {
                response = error_of(id, CannotBeDone, error.what());
            } catch (const RulesError& error) {
                response = error_of(id, RulesBroken, error.what());
            } catch (const ProgramError& error) {
                response = error_of(id, ProgramFailed, error.what());
            } catch (const std::bad_alloc&) {
                response = error_of(id, InternalError, "there is not enough memory for this");
            } catch (const std::exception& error) {
                response = error_of(id, InternalError, error.what());
            } catch (...) {
                response = error_of(id, InternalError, "the game threw what is no std::exception");
            }
            delivery->answer(notifies ? Json(nullptr) : response);
        };
        using Method = Json (Body::*)(Params&);
        static const std::map<std::string, Method> of_all{
            {"hello", &Body::hello}, {"games", &Body::games}, {"open", &Body::open}, {"cancel", &Body::cancel}};
        if (const auto found = of_all.find(method); found != of_all.end())
            return attempt([&] {
                Params params(method, given);
                return (this->*found->second)(params);
            });
        const auto found = rpc_methods().find(method);
        if (found == rpc_methods().end() && method != "close")
            return attempt([&]() -> Json {
                std::vector<std::string> names{"close"};
                for (const auto& [name, function] : of_all) names.push_back(name);
                for (const auto& [name, function] : rpc_methods()) names.push_back(name);
                const std::string nearest = nearest_of(method, names);
                throw RpcError(MethodNotFound, "there is no method " + in_quotes(method) + " (expected " +
                                                   (nearest.empty() ? "" : nearest + ", perhaps; there are ") +
                                                   any_of_text(names) + ")");
            });
        RpcDeskPointer desk;
        // Held until the request stands in line: who closes the session meanwhile closes it after that.
        std::unique_lock desks_lock(desks_mutex_);
        try {
            Params params(method, given);
            const std::int64_t number = params.integer("session", 1, INT64_MAX);
            const auto at = desks_.find(number);
            if (at == desks_.end())
                throw RpcError(CannotBeDone, method + ": there is no session " + std::to_string(number));
            if (waiting_ >= options_.most_waiting && method != "close")
                throw RpcError(TooMany, std::to_string(options_.most_waiting) + " requests are not answered yet");
            desk = at->second;
            desk->last_used = ++uses_;
            if (method == "close")
                desks_.erase(at);
            else
                ++desk->in_hand;
        } catch (const RpcError& error) {
            desks_lock.unlock();
            return attempt([&]() -> Json { throw error; });
        }
        if (method == "close") {
            desks_lock.unlock();
            // What it is at may take a while to end, and nobody else is to wait for that.
            close_aside(desk, [attempt] { attempt([] { return Json(true); }); });
            return;
        }
        ++waiting_;
        auto stop = std::make_shared<RpcStop>();
        stop->desk = desk;
        stop->all_stop = &all_stop_;
        const RpcMethod function = found->second;
        // One that is not to be answered can be cancelled by its session alone.
        std::string name;
        if (function.takes_long) {
            const std::lock_guard lock(stops_mutex_);
            name = notifies ? "notification " + std::to_string(++notifications_) : id.dump();
            if (stops_.contains(name)) {
                --desk->in_hand;
                --waiting_;
                desks_lock.unlock();
                return attempt([&]() -> Json {
                    throw RpcError(InvalidRequest,
                                   "the id " + id.dump() + " is one of a request that is not answered yet");
                });
            }
            stops_[name] = stop;
        }
        auto job = [this, attempt, delivery, desk, function, method, id, name, stop, given = std::move(given)] {
            attempt([&] {
                // It has its id until it is done, and not until its answer was read.
                struct Forget {
                    Body& body;
                    const std::string& name;
                    const std::shared_ptr<RpcStop>& stop;
                    ~Forget() {
                        const std::lock_guard lock(body.stops_mutex_);
                        if (const auto at = body.stops_.find(name); at != body.stops_.end() && at->second == stop)
                            body.stops_.erase(at);
                    }
                } const forget{*this, name, stop};
                Params params(method, given);
                (void)params.integer("session", 1, INT64_MAX);
                const RpcRequest request{
                    options_, StopToken::of(*stop),
                    [&](Json told) {
                        Json with_id{{"id", id}};
                        with_id.update(told);
                        delivery->send(
                            Json{{"jsonrpc", "2.0"}, {"method", "progress"}, {"params", std::move(with_id)}});
                    },
                    [&](std::size_t mebibytes) { reserve(*desk, mebibytes, *stop); }};
                return function.run(desk->at, params, request);
            });
            settle(*desk);
            --desk->in_hand;
            --waiting_;
        };
        {
            const std::lock_guard lock(desk->mutex);
            desk->jobs.push_back(std::move(job));
        }
        desks_lock.unlock();
        desk->changed.notify_all();
    }

    // ---- of no session ----

    Json hello(Params& params) {
        params.finish();
        return Json{{"name", options_.name}, {"protocol", 1}};
    }
    Json games(Params& params) {
        params.finish();
        return Json::parse(options_.games_json);
    }
    Json open(Params& params) {
        const std::string game = params.text("game");
        std::vector<std::string> settings;
        if (const Json* set = params.object_if("set"))
            for (const auto& [name, value] : set->items()) {
                if (!value.is_string() && !value.is_boolean() && !value.is_number_integer())
                    throw RpcError(InvalidParams, "open: set." + name + " is " + kind_text(value) +
                                                      " (expected an integer, a boolean or a string)");
                settings.push_back(name + "=" + (value.is_string() ? value.get<std::string>() : value.dump()));
            }
        const auto position = params.text_if("position");
        const auto moves = params.texts("moves");
        const auto seed = params.integer_if("seed", 0, INT64_MAX);
        params.finish();
        make_room();
        OpenGame opened = options_.open(game, settings);
        auto desk =
            std::make_shared<RpcDesk>(position ? Session(std::move(opened), *position) : Session(std::move(opened)));
        for (const std::string& move : moves) desk->at.session.play(move);
        desk->at.start = position;
        desk->at.seed = static_cast<std::uint64_t>(seed.value_or(0));
        Json state = rpc_state_of(desk->at.session);
        std::int64_t number = 0;
        {
            const std::lock_guard lock(desks_mutex_);
            desk->thread = std::thread([pointer = desk.get()] { pointer->work(); });
            number = ++last_number_;
            desk->last_used = ++uses_;
            desks_[number] = desk;
        }
        Json answer{{"session", number}};
        answer.update(state);
        return answer;
    }
    Json cancel(Params& params) {
        if (const auto number = params.integer_if("session", 1, INT64_MAX)) {
            params.finish();
            const std::lock_guard desks_lock(desks_mutex_);
            const auto at = desks_.find(*number);
            const std::lock_guard lock(stops_mutex_);
            bool any = false;
            for (const auto& [name, stop] : stops_)
                if (at != desks_.end() && stop->desk == at->second) stop->cancelled.set(), any = true;
            return any;
        }
        const Json id = params.any("id");
        params.finish();
        const std::lock_guard lock(stops_mutex_);
        const auto found = stops_.find(id.dump());
        if (found == stops_.end()) return false;
        found->second->cancelled.set();
        return true;
    }

    /// Throws where there are as many sessions as there may be; closes the one that was left the longest, if that is wanted.
    void make_room() {
        RpcDeskPointer left;
        {
            const std::lock_guard lock(desks_mutex_);
            if (desks_.size() < options_.most_sessions) return;
            auto oldest = desks_.end();
            for (auto at = desks_.begin(); options_.closes_left_sessions && at != desks_.end(); ++at)
                if (at->second->in_hand == 0 &&
                    (oldest == desks_.end() || at->second->last_used < oldest->second->last_used))
                    oldest = at;
            if (oldest == desks_.end())
                throw RpcError(TooMany, std::to_string(options_.most_sessions) + " sessions are open");
            left = oldest->second;
            desks_.erase(oldest);
        }
        close_aside(left, [] {});
    }

    /// Writes down what the session at the desk takes.
    void settle(RpcDesk& desk) {
        const std::size_t memory = desk.at.session.memory_mebibytes();
        const std::lock_guard lock(memory_mutex_);
        held_ += memory - desk.memory;
        desk.memory = memory;
    }
    void give_back(RpcDesk& desk) {
        desk.at.session.release_memory();
        settle(desk);
    }

    /// Waits until the session at the desk may take so many MiB. Sessions that are asked nothing give back what they have;
    /// where only those that wait as well have any, it goes ahead.
    void reserve(RpcDesk& desk, std::size_t needed, const RpcStop& stop) {
        if (needed > options_.memory_mebibytes)
            throw RpcError(CannotBeDone, "memory: " + std::to_string(needed) + " MiB are more than the " +
                                             std::to_string(options_.memory_mebibytes) + " of all sessions together");
        for (;; std::this_thread::sleep_for(std::chrono::milliseconds(5))) {
            RpcDeskPointer idle;
            {
                const std::lock_guard desks_lock(desks_mutex_);
                const std::lock_guard lock(memory_mutex_);
                desk.waits_for_memory = false;
                if (needed <= desk.memory) return;
                bool others = false;
                if (held_ - desk.memory + needed > options_.memory_mebibytes && !stop.stop_requested())
                    for (auto& [number, each] : desks_) {
                        if (each.get() == &desk || each->memory == 0 || each->waits_for_memory) continue;
                        others = true;
                        if (each->in_hand == 0 && !each->gives_back && (!idle || each->last_used < idle->last_used))
                            idle = each;
                    }
                if (!others) {
                    held_ += needed - desk.memory;
                    desk.memory = needed;
                    return;
                }
                desk.waits_for_memory = true;
                if (idle) idle->gives_back = true;
            }
            if (!idle) continue;
            {
                const std::lock_guard lock(idle->mutex);
                idle->jobs.push_back([this, other = idle.get()] {
                    give_back(*other);
                    const std::lock_guard after(memory_mutex_);
                    other->gives_back = false;
                });
            }
            idle->changed.notify_all();
        }
    }

    /// Closes it in a thread of its own, and then says so.
    void close_aside(const RpcDeskPointer& desk, const std::function<void()>& said) {
        desk->closed = true;
        const std::lock_guard lock(closers_mutex_);
        std::erase_if(closers_, [](const auto& closer) {
            return closer.wait_for(std::chrono::seconds(0)) == std::future_status::ready;
        });
        closers_.push_back(std::async(std::launch::async, [this, desk, said] {
            desk->close();
            give_back(*desk);
            said();
        }));
    }

    const RpcServerOptions options_;
    std::mutex desks_mutex_, stops_mutex_, closers_mutex_, memory_mutex_;
    std::size_t held_ = 0;  ///< MiB, by all sessions
    std::map<std::int64_t, RpcDeskPointer> desks_;
    std::int64_t last_number_ = 0;
    std::uint64_t uses_ = 0;
    std::atomic<std::size_t> waiting_{0};
    std::atomic<bool> all_stop_{false};
    std::uint64_t notifications_ = 0;
    std::vector<std::future<void>> closers_;
    std::map<std::string, std::shared_ptr<RpcStop>> stops_;  ///< of what is not answered and can be cancelled, by id
};

RpcService::RpcService(RpcServerOptions options) : body_(std::make_unique<Body>(std::move(options))) {}
RpcService::~RpcService() = default;
void RpcService::stop() { body_->stop(); }

void RpcService::take(const std::string& message, Write write, std::function<void()> done) {
    auto delivery = std::make_shared<RpcDelivery>();
    delivery->write = std::move(write);
    delivery->done = std::move(done);
    body_->take(message, delivery);
}

void serve_rpc(std::istream& in, std::ostream& out, const RpcServerOptions& options) {
    std::mutex output;
    const auto write = [&](const std::string& line) {
        const std::lock_guard lock(output);
        out << line << "\n" << std::flush;
    };
    RpcService service(options);
    for (InputLine line; read_input_line(in, line, options.longest_message);) {
        if (line.too_long)
            write(error_of(nullptr, ParseError,
                           "the message is longer than " + std::to_string(options.longest_message) + " bytes")
                      .dump());
        else if (line.text.find_first_not_of(" \t") != std::string::npos)
            service.take(line.text, write);
    }
}

}  // namespace arvek::link
