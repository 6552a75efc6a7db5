#include "arvek/link/rpc_server.hpp"

#include <atomic>
#include <condition_variable>
#include <deque>
#include <functional>
#include <istream>
#include <map>
#include <mutex>
#include <nlohmann/json.hpp>
#include <optional>
#include <ostream>
#include <thread>

#include "arvek/arena/steady_clock.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/link/child.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/search/worker_threads.hpp"
#include "arvek/session/json.hpp"
#include "arvek/session/plain_text.hpp"
#include "line_input.hpp"

namespace arvek::link {

namespace {

using Json = nlohmann::ordered_json;

/// The codes of the standard, and those of ours in the range that it leaves free.
enum RpcCode {
    ParseError = -32700,
    InvalidRequest = -32600,
    MethodNotFound = -32601,
    InvalidParams = -32602,
    InternalError = -32603,
    CannotBeDone = -32000,   ///< what is asked is no move, no position, no opponent of the game, and so on
    RulesBroken = -32001,    ///< the game breaks its own contract
    ProgramFailed = -32002,  ///< a program that should have answered did not
    TooMany = -32003         ///< sessions, or requests that wait
};

class RpcError : public std::runtime_error {
   public:
    RpcError(RpcCode code, const std::string& message) : std::runtime_error(message), code_(code) {}
    RpcCode code() const { return code_; }

   private:
    RpcCode code_;
};

std::string kind_text(const Json& value) {
    return value.is_null()           ? "null"
           : value.is_number_float() ? "a number"
                                     : "a value of type " + std::string(value.type_name());
}

/// The params of a request, by name; what is not asked for by the end is too much.
class Params {
   public:
    Params(const std::string& method, const Json& given) : method_(method), given_(given) {
        if (!given.is_object())
            throw RpcError(InvalidParams,
                           method + ": params must be an object, names with values, not " + kind_text(given));
    }

    bool has(const std::string& name) { return find(name) != nullptr; }

    std::string text(const std::string& name) {
        const Json& value = required(name, "a string");
        if (!value.is_string()) fail(name, value, "a string");
        return value.get<std::string>();
    }
    std::optional<std::string> text_if(const std::string& name) {
        return find(name) == nullptr ? std::nullopt : std::optional(text(name));
    }
    std::int64_t integer(const std::string& name, std::int64_t least, std::int64_t most) {
        const std::string range = "an integer from " + std::to_string(least) + " to " + std::to_string(most);
        const Json& value = required(name, range);
        if (!value.is_number_integer()) fail(name, value, range);
        if (value.is_number_unsigned() && value.get<std::uint64_t>() > static_cast<std::uint64_t>(INT64_MAX))
            fail_range(name, range);
        const auto number = value.get<std::int64_t>();
        if (number < least || number > most) fail_range(name, range);
        return number;
    }
    std::optional<std::int64_t> integer_if(const std::string& name, std::int64_t least, std::int64_t most) {
        return find(name) == nullptr ? std::nullopt : std::optional(integer(name, least, most));
    }
    std::optional<double> number_if(const std::string& name, double least, double most) {
        const Json* value = find(name);
        if (value == nullptr) return std::nullopt;
        const std::string range = "a number from " + number_text(least) + " to " + number_text(most);
        if (!value->is_number()) fail(name, *value, range);
        const auto number = value->get<double>();
        if (!(number >= least && number <= most)) fail_range(name, range);
        return number;
    }
    bool boolean_or(const std::string& name, bool otherwise) {
        const Json* value = find(name);
        if (value == nullptr) return otherwise;
        if (!value->is_boolean()) fail(name, *value, "true or false");
        return value->get<bool>();
    }
    std::vector<std::string> texts(const std::string& name) {
        std::vector<std::string> all;
        const Json* value = find(name);
        if (value == nullptr) return all;
        if (!value->is_array()) fail(name, *value, "a list of strings");
        for (const Json& each : *value) {
            if (!each.is_string()) fail(name, each, "a list of strings");
            all.push_back(each.get<std::string>());
        }
        return all;
    }
    const Json* object_if(const std::string& name) {
        const Json* value = find(name);
        if (value != nullptr && !value->is_object()) fail(name, *value, "an object");
        return value;
    }
    const Json& any(const std::string& name) { return required(name, "a value"); }

    /// Throws RpcError for a param that was not asked for.
    void finish() const {
        for (const auto& [name, value] : given_.items()) {
            if (std::find(asked_.begin(), asked_.end(), name) != asked_.end()) continue;
            const std::string nearest = nearest_of(name, asked_);
            throw RpcError(InvalidParams,
                           method_ + ": there is no param " + in_quotes(name) + " (expected " +
                               (asked_.empty() ? "none"
                                               : (nearest.empty() ? "" : nearest + ", perhaps; there are ") +
                                                     any_of_text(asked_)) +
                               ")");
        }
    }

    [[noreturn]] void fail_range(const std::string& name, const std::string& range) const {
        throw RpcError(InvalidParams, method_ + ": " + name + " is out of range (expected " + range + ")");
    }

   private:
    const Json* find(const std::string& name) {
        if (std::find(asked_.begin(), asked_.end(), name) == asked_.end()) asked_.push_back(name);
        const auto found = given_.find(name);
        return found == given_.end() ? nullptr : &*found;
    }
    const Json& required(const std::string& name, const std::string& expected) {
        const Json* value = find(name);
        if (value == nullptr)
            throw RpcError(InvalidParams,
                           method_ + ": the param '" + name + "' is missing (expected " + expected + ")");
        return *value;
    }
    [[noreturn]] void fail(const std::string& name, const Json& value, const std::string& expected) const {
        throw RpcError(InvalidParams,
                       method_ + ": " + name + " is " + kind_text(value) + " (expected " + expected + ")");
    }

    std::string method_;
    const Json& given_;
    std::vector<std::string> asked_;
};

/// What came in one line: a message, or several. What is answered of it goes out together.
struct Delivery {
    std::mutex mutex;
    bool is_batch = false;
    std::size_t left = 0;
    Json answers = Json::array();
};

/// A session, and the thread that works for it, a request after another.
struct Desk {
    explicit Desk(Session begun) : session(std::move(begun)) {}

    Session session;
    std::uint64_t seed = 0;
    std::mutex mutex;
    std::condition_variable changed;
    std::deque<std::function<void()>> jobs;
    std::atomic<bool> closed{false};
    std::thread thread;
};

/// Whether a decision is to end: it is cancelled, or its session is closed.
struct RequestStop {
    StopFlag cancelled;
    std::shared_ptr<Desk> desk;

    bool stop_requested() const { return cancelled.stop_requested() || desk->closed; }
};

class RpcServer {
   public:
    RpcServer(std::ostream& out, const RpcServerOptions& options) : out_(out), options_(options) {}
    ~RpcServer() {
        for (auto& [number, desk] : desks_) desk->closed = true;  // all at once
        for (auto& [number, desk] : desks_) close(*desk);
    }

    void take(const std::string& line) {
        auto delivery = std::make_shared<Delivery>();
        delivery->left = 1;
        Json message;
        try {
            message = Json::parse(line, [](int depth, Json::parse_event_t, Json&) {
                if (depth > deepest) throw RpcError(ParseError, "it is nested deeper than " + std::to_string(deepest));
                return true;
            });
        } catch (const RpcError& error) {
            return answer_error(delivery, nullptr, error.code(), error.what());
        } catch (const Json::exception&) {
            return answer_error(delivery, nullptr, ParseError, "this is no JSON");
        }
        if (!message.is_array()) return take_message(delivery, message);
        if (message.empty()) return answer_error(delivery, nullptr, InvalidRequest, "an empty batch asks nothing");
        delivery->is_batch = true;
        delivery->left = message.size();
        for (const Json& each : message) take_message(delivery, each);
    }

    void refuse_long_line() {
        auto delivery = std::make_shared<Delivery>();
        delivery->left = 1;
        answer_error(delivery, nullptr, ParseError,
                     "the message is longer than " + std::to_string(options_.longest_message) + " bytes");
    }

   private:
    static constexpr int deepest = 64;

    using DeliveryPointer = std::shared_ptr<Delivery>;

    /// What a method of a session knows of the message.
    struct Request {
        const Json& id;
        StopToken stop;
    };

    void write(const Json& message) {
        const std::string text = message.dump(-1, ' ', false, Json::error_handler_t::replace);
        const std::lock_guard lock(output_);
        out_ << text << "\n" << std::flush;
    }

    /// `response` null: a notification, which is not answered.
    void answer(const DeliveryPointer& delivery, const Json& response) {
        if (!delivery->is_batch) {
            if (!response.is_null()) write(response);
            return;
        }
        std::unique_lock lock(delivery->mutex);
        if (!response.is_null()) delivery->answers.push_back(response);
        if (--delivery->left > 0 || delivery->answers.empty()) return;
        write(delivery->answers);
    }
    void answer_error(const DeliveryPointer& delivery, const Json& id, RpcCode code, const std::string& message) {
        answer(delivery, error_of(id, code, message));
    }

    void take_message(const DeliveryPointer& delivery, const Json& message) {
        if (!message.is_object())
            return answer_error(delivery, nullptr, InvalidRequest, "a request is an object, not " + kind_text(message));
        const auto id_at = message.find("id");
        const bool notifies = id_at == message.end();
        const Json id = notifies ? Json(nullptr) : *id_at;
        if (!id.is_null() && !id.is_string() && !id.is_number())
            return answer_error(delivery, nullptr, InvalidRequest, "an id is a string or a number");
        const auto version = message.find("jsonrpc");
        if (version == message.end() || *version != "2.0")
            return answer_error(delivery, id, InvalidRequest, "'jsonrpc' must be \"2.0\"");
        const auto method = message.find("method");
        if (method == message.end() || !method->is_string())
            return answer_error(delivery, id, InvalidRequest, "'method' must be a string");
        const auto params = message.find("params");
        run(delivery, id, notifies, method->get<std::string>(), params == message.end() ? Json::object() : *params);
    }

    /// Does what is asked, here or at the desk of its session.
    void run(const DeliveryPointer& delivery, const Json& id, bool notifies, const std::string& method, Json given) {
        const auto attempt = [this, delivery, id, notifies](const std::function<Json()>& work) {
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
            answer(delivery, notifies ? Json(nullptr) : response);
        };
        using Method = Json (RpcServer::*)(Params&);
        static const std::map<std::string, Method> of_all{{"hello", &RpcServer::hello},
                                                          {"games", &RpcServer::games},
                                                          {"open", &RpcServer::open},
                                                          {"cancel", &RpcServer::cancel}};
        using SessionMethod = Json (RpcServer::*)(Desk&, Params&, const Request&);
        static const std::map<std::string, SessionMethod> of_one{{"state", &RpcServer::state},
                                                                 {"drawing", &RpcServer::drawing},
                                                                 {"play", &RpcServer::play},
                                                                 {"take_back", &RpcServer::take_back},
                                                                 {"restart", &RpcServer::restart},
                                                                 {"let_chance_act", &RpcServer::let_chance_act},
                                                                 {"seat", &RpcServer::seat},
                                                                 {"leave", &RpcServer::leave},
                                                                 {"answer", &RpcServer::answer_of_seat},
                                                                 {"decide", &RpcServer::decide},
                                                                 {"words", &RpcServer::words}};
        if (const auto found = of_all.find(method); found != of_all.end())
            return attempt([&] {
                Params params(method, given);
                return (this->*found->second)(params);
            });
        const auto found = of_one.find(method);
        if (found == of_one.end() && method != "close")
            return attempt([&]() -> Json {
                std::vector<std::string> names{"close"};
                for (const auto& [name, function] : of_all) names.push_back(name);
                for (const auto& [name, function] : of_one) names.push_back(name);
                const std::string nearest = nearest_of(method, names);
                throw RpcError(MethodNotFound, "there is no method " + in_quotes(method) + " (expected " +
                                                   (nearest.empty() ? "" : nearest + ", perhaps; there are ") +
                                                   any_of_text(names) + ")");
            });
        std::shared_ptr<Desk> desk;
        std::int64_t number = 0;
        try {
            Params params(method, given);
            number = params.integer("session", 1, INT64_MAX);
            const auto at = desks_.find(number);
            if (at == desks_.end())
                throw RpcError(CannotBeDone, method + ": there is no session " + std::to_string(number));
            desk = at->second;
            if (waiting_ >= options_.most_waiting)
                throw RpcError(TooMany, std::to_string(options_.most_waiting) + " requests are not answered yet");
        } catch (const RpcError& error) {
            return attempt([&]() -> Json { throw error; });
        }
        if (method == "close") {
            // What was asked before is answered before.
            desks_.erase(number);
            close(*desk);
            return attempt([&] { return Json(true); });
        }
        ++waiting_;
        auto stop = std::make_shared<RequestStop>();
        stop->desk = desk;
        if (!notifies && (method == "decide" || method == "answer")) {
            const std::lock_guard lock(stops_mutex_);
            stops_[id.dump()] = stop;
        }
        const SessionMethod function = found->second;
        auto job = [this, attempt, desk, function, method, id, stop, given = std::move(given)] {
            attempt([&] {
                Params params(method, given);
                (void)params.integer("session", 1, INT64_MAX);
                return (this->*function)(*desk, params, {id, StopToken::of(*stop)});
            });
            {
                const std::lock_guard lock(stops_mutex_);
                if (const auto at = stops_.find(id.dump()); at != stops_.end() && at->second == stop) stops_.erase(at);
            }
            --waiting_;
        };
        {
            const std::lock_guard lock(desk->mutex);
            desk->jobs.push_back(std::move(job));
        }
        desk->changed.notify_all();
    }

    static Json error_of(const Json& id, RpcCode code, const std::string& message) {
        return Json{{"jsonrpc", "2.0"},
                    {"id", id},
                    {"error", {{"code", static_cast<int>(code)}, {"message", message_line(message)}}}};
    }

    static void work_at(Desk& desk) {
        for (;;) {
            std::unique_lock lock(desk.mutex);
            desk.changed.wait(lock, [&] { return desk.closed || !desk.jobs.empty(); });
            if (desk.jobs.empty()) return;
            const auto job = std::move(desk.jobs.front());
            desk.jobs.pop_front();
            lock.unlock();
            job();
        }
    }
    static void close(Desk& desk) {
        {
            const std::lock_guard lock(desk.mutex);
            desk.closed = true;
        }
        desk.changed.notify_all();
        if (desk.thread.joinable()) desk.thread.join();
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
        if (desks_.size() >= options_.most_sessions)
            throw RpcError(TooMany, std::to_string(options_.most_sessions) + " sessions are open");
        OpenGame opened = options_.open(game, settings);
        auto desk =
            std::make_shared<Desk>(position ? Session(std::move(opened), *position) : Session(std::move(opened)));
        for (const std::string& move : moves) desk->session.play(move);
        desk->seed = static_cast<std::uint64_t>(seed.value_or(0));
        Json state = state_of(desk->session);
        desk->thread = std::thread([pointer = desk.get()] { work_at(*pointer); });
        const std::int64_t number = ++last_number_;
        desks_[number] = desk;
        Json answer{{"session", number}};
        answer.update(state);
        return answer;
    }
    Json cancel(Params& params) {
        const Json id = params.any("id");
        params.finish();
        const std::lock_guard lock(stops_mutex_);
        const auto found = stops_.find(id.dump());
        if (found == stops_.end()) return false;
        found->second->cancelled.set();
        return true;
    }

    // ---- of a session, at its desk ----

    static Json state_of(const Session& session) { return Json::parse(session_as_json(session)); }

    Json state(Desk& desk, Params& params, const Request&) {
        params.finish();
        return state_of(desk.session);
    }
    Json drawing(Desk& desk, Params& params, const Request&) {
        params.finish();
        return Json{{"drawing", desk.session.drawing()}};
    }
    Json play(Desk& desk, Params& params, const Request&) {
        const std::string move = params.text("move");
        params.finish();
        desk.session.play(move);
        return state_of(desk.session);
    }
    Json take_back(Desk& desk, Params& params, const Request&) {
        const auto plies = params.integer_if("plies", 1, 1'000'000).value_or(1);
        params.finish();
        if (static_cast<std::size_t>(plies) > desk.session.plies())
            throw RpcError(CannotBeDone,
                           "take_back: only " + std::to_string(desk.session.plies()) + " moves were played");
        for (std::int64_t i = 0; i < plies; ++i) desk.session.take_back();
        return state_of(desk.session);
    }
    Json restart(Desk& desk, Params& params, const Request&) {
        params.finish();
        desk.session.restart();
        return state_of(desk.session);
    }
    Json let_chance_act(Desk& desk, Params& params, const Request&) {
        params.finish();
        Random random(derived_seed(desk.seed, desk.session.plies()));
        const auto event = desk.session.let_chance_act(random);
        if (!event) throw RpcError(CannotBeDone, "let_chance_act: chance is not next");
        Json answer{{"event", *event}};
        answer.update(state_of(desk.session));
        return answer;
    }

    Player player_of(Desk& desk, Params& params) {
        const std::string name = lower_case(params.text("player"));
        const auto names = desk.session.player_names();
        for (std::size_t i = 0; i < names.size(); ++i)
            if (lower_case(names[i]) == name) return static_cast<Player>(i);
        throw InputError("player", "there is no player " + in_quotes(name), any_of_text(names));
    }

    /// Who is meant, and with which limits.
    OpponentSpec opponent_of(Desk& desk, Params& params) {
        const auto name = params.text_if("opponent");
        const auto profile = params.text_if("profile");
        if (name && profile)
            throw RpcError(InvalidParams, "opponent and profile are both given (expected one of the two)");
        OpponentSpec spec;
        if (profile) {
            Profile read = read_profile(*profile, "profile");
            if (read.program)
                throw InputError("profile", "a profile that is given as text cannot run a program",
                                 "the path of a file");
            spec = opponent_of_profile(std::move(read));
        } else {
            spec = options_.read_opponent(name.value_or("standard"), desk.session);
        }
        if (const auto level = params.integer_if("level", lowest_level, highest_level))
            spec.level = static_cast<int>(*level);
        if (const auto depth = params.integer_if("depth", 0, max_depth)) spec.depth = static_cast<int>(*depth);
        if (const auto nodes = params.integer_if("nodes", 1, INT64_MAX))
            spec.nodes = static_cast<std::uint64_t>(*nodes);
        if (const auto playouts = params.integer_if("playouts", 1, INT64_MAX))
            spec.playouts = static_cast<std::uint64_t>(*playouts);
        if (const auto seconds = params.number_if("seconds", 0.001, 86'400)) spec.seconds = *seconds;
        if (const Json* options = params.object_if("options"))
            for (const auto& [key, value] : options->items()) {
                if (value.is_boolean())
                    spec.options.set(key, value.get<bool>());
                else if (value.is_number_integer())
                    spec.options.set(key, value.get<std::int64_t>());
                else if (value.is_number())
                    spec.options.set(key, value.get<double>());
                else if (value.is_string())
                    spec.options.set(key, value.get<std::string>());
                else
                    throw RpcError(InvalidParams, "options." + key + " is " + kind_text(value) +
                                                      " (expected a boolean, a number or a string)");
            }
        return spec;
    }

    Json seat(Desk& desk, Params& params, const Request&) {
        const Player player = player_of(desk, params);
        const OpponentSpec spec = opponent_of(desk, params);
        params.finish();
        desk.session.take_seat(player, spec, {steady_seconds, {}});
        return state_of(desk.session);
    }
    Json leave(Desk& desk, Params& params, const Request&) {
        const Player player = player_of(desk, params);
        params.finish();
        desk.session.leave_seat(player);
        return state_of(desk.session);
    }

    std::function<void(const Decision<AnyMove>&)> progress_of(Desk& desk, const OpponentSpec& spec, bool wanted,
                                                              const Json& id) {
        if (!wanted) return {};
        return [this, &desk, spec, id](const Decision<AnyMove>& so_far) {
            const Json report =
                Json::parse(decision_as_json(desk.session.subject(), desk.session.report_of(so_far, spec)));
            Json params{{"id", id}};
            for (const char* key : {"move", "stats"})
                if (report.contains(key)) params[key] = report[key];
            if (report.contains("ranked") && !report["ranked"].empty()) {
                params["score"] = report["ranked"][0].value("score", Json(nullptr));
                params["line"] = report["ranked"][0].value("line", Json(nullptr));
            }
            write(Json{{"jsonrpc", "2.0"}, {"method", "progress"}, {"params", std::move(params)}});
        };
    }

    Json answer_of_seat(Desk& desk, Params& params, const Request& request) {
        const auto seed = params.integer_if("seed", 0, INT64_MAX);
        const bool tells = params.boolean_or("progress", false);
        params.finish();
        if (!desk.session.awaits_answer()) throw RpcError(CannotBeDone, "answer: no opponent is to move");
        const OpponentSpec spec = *desk.session.seated(desk.session.player_to_move());
        const auto told = progress_of(desk, spec, tells, request.id);
        const Progress<AnyMove> progress(told);
        const Subject subject = desk.session.subject();
        const DecisionReport report = desk.session.ask_seated(seed ? static_cast<std::uint64_t>(*seed) : desk.seed,
                                                              request.stop, tells ? &progress : nullptr);
        desk.session.play_what_was_asked();
        return Json{{"decision", Json::parse(decision_as_json(subject, report))}, {"state", state_of(desk.session)}};
    }

    Json decide(Desk& desk, Params& params, const Request& request) {
        const OpponentSpec spec = opponent_of(desk, params);
        const auto seed = params.integer_if("seed", 0, INT64_MAX);
        const bool tells = params.boolean_or("progress", false);
        Question question;
        question.only = params.texts("only");
        params.finish();
        const auto told = progress_of(desk, spec, tells, request.id);
        const Progress<AnyMove> progress(told);
        question.stop = request.stop;
        question.progress = tells ? &progress : nullptr;
        const auto decision = desk.session.decide(spec, seed ? static_cast<std::uint64_t>(*seed) : desk.seed,
                                                  {steady_seconds, {}}, question);
        return Json::parse(decision_as_json(desk.session.subject(), desk.session.report_of(decision, spec)));
    }

    Json words(Desk& desk, Params& params, const Request&) {
        params.finish();
        return Json::parse(vocabulary_as_json(desk.session.subject(), desk.session.vocabulary()));
    }

    std::ostream& out_;
    const RpcServerOptions& options_;
    std::map<std::int64_t, std::shared_ptr<Desk>> desks_;  ///< of the thread that reads, alone
    std::int64_t last_number_ = 0;
    std::atomic<std::size_t> waiting_{0};
    std::mutex output_, stops_mutex_;
    std::map<std::string, std::shared_ptr<RequestStop>> stops_;  ///< of decisions that are not answered, by id
};

}  // namespace

void serve_rpc(std::istream& in, std::ostream& out, const RpcServerOptions& options) {
    RpcServer server(out, options);
    for (InputLine line; read_input_line(in, line, options.longest_message);) {
        if (line.too_long)
            server.refuse_long_line();
        else if (line.text.find_first_not_of(" \t") != std::string::npos)
            server.take(line.text);
    }
}

}  // namespace arvek::link
