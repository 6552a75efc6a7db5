#include "web_server.hpp"

#include <httplib.h>

#include <array>
#include <condition_variable>
#include <deque>
#include <mutex>
#include <nlohmann/json.hpp>
#include <random>
#include <thread>

#include "../game/json_reader.hpp"
#include "arvek/game/input_error.hpp"

namespace arvek::tool {

namespace {

/// 128 bits that cannot be guessed.
std::string random_token() {
    std::random_device device;
    constexpr char digits[] = "0123456789abcdef";
    std::string token;
    for (int i = 0; i < 4; ++i)
        for (unsigned word = device(), digit = 0; digit < 8; ++digit, word >>= 4) token += digits[word & 15];
    return token;
}

/// Takes as long wherever the two differ.
bool is_same(std::string_view one, std::string_view other) {
    unsigned differing = one.size() == other.size() ? 0 : 1;
    for (std::size_t i = 0; i < one.size() && i < other.size(); ++i)
        differing |= static_cast<unsigned>(static_cast<unsigned char>(one[i]) ^ static_cast<unsigned char>(other[i]));
    return differing == 0;
}

/// The lines that answer one message, on their way from the sessions to the connection.
class Answer {
   public:
    void add(const std::string& line) {
        const std::lock_guard lock(mutex_);
        lines_ += line;
        lines_ += '\n';
        changed_.notify_all();
    }
    void finish() {
        const std::lock_guard lock(mutex_);
        finished_ = true;
        changed_.notify_all();
    }
    /// Waits for lines, or so long for the end alone.
    struct Part {
        std::string lines;
        bool last = false;
    };
    Part take(std::chrono::milliseconds at_most, bool for_the_end) {
        std::unique_lock lock(mutex_);
        changed_.wait_for(lock, at_most, [&] { return finished_ || (!for_the_end && !lines_.empty()); });
        if (for_the_end && !finished_) return {};
        Part part{std::move(lines_), finished_};
        lines_.clear();
        return part;
    }

   private:
    std::mutex mutex_;
    std::condition_variable changed_;
    std::string lines_;
    bool finished_ = false;
};

/// What is to be cancelled when nobody waits for the answers any more.
std::vector<nlohmann::json> ids_of(const std::string& message) {
    std::vector<nlohmann::json> ids;
    nlohmann::json parsed;
    try {
        parsed = detail::read_json<nlohmann::json>(message, "message");
    } catch (const InputError&) {
        return ids;
    }
    const auto add = [&](const nlohmann::json& each) {
        if (each.is_object() && each.contains("id")) ids.push_back(each["id"]);
    };
    if (parsed.is_array())
        for (const auto& each : parsed) add(each);
    else
        add(parsed);
    return ids;
}

}  // namespace

class WebServer::Body {
   public:
    explicit Body(WebServerOptions options)
        : options_(std::move(options)), service_(std::make_unique<link::RpcService>(options_.rpc)) {
        if (options_.token.empty()) options_.token = random_token();
        server_.new_task_queue = [threads = options_.threads] { return new httplib::ThreadPool(threads); };
        server_.set_payload_max_length(options_.rpc.longest_message);
        server_.set_read_timeout(5);
        server_.set_write_timeout(5);
        server_.set_keep_alive_timeout(2);
        server_.set_keep_alive_max_count(100'000);
        server_.set_tcp_nodelay(true);
        server_.set_default_headers(
            {{"Content-Security-Policy",
              "default-src 'none'; script-src 'self'; style-src 'self'; img-src 'self' data:; "
              "connect-src 'self'; base-uri 'none'; form-action 'none'; frame-ancestors 'none'"},
             {"X-Content-Type-Options", "nosniff"},
             {"Referrer-Policy", "no-referrer"},
             {"Cross-Origin-Resource-Policy", "same-origin"},
             {"Cross-Origin-Opener-Policy", "same-origin"},
             {"Cache-Control", "no-store"}});
        server_.set_pre_routing_handler(
            [this](const httplib::Request& request, httplib::Response& response) { return admit(request, response); });
        const std::string root = "/" + options_.token + "/";
        for (const EmbeddedFile& file : options_.files)
            server_.Get(root + std::string(file.path), [&file](const httplib::Request&, httplib::Response& response) {
                response.set_content(file.content.data(), file.content.size(),
                                     std::string(file.type) + "; charset=utf-8");
            });
        server_.Post(root + "rpc", [this](const httplib::Request& request, httplib::Response& response) {
            answer(request, response);
        });
        server_.set_error_handler([](const httplib::Request&, httplib::Response& response) {
            if (response.body.empty() && response.status != 200)
                response.set_content(response.status == 413 ? "the message is too long\n" : "this cannot be answered\n",
                                     "text/plain");
        });
        port_ = options_.port == 0 ? server_.bind_to_any_port(host)
                                   : (server_.bind_to_port(host, options_.port) ? options_.port : -1);
        if (port_ <= 0)
            throw InputError("--port", "port " + std::to_string(options_.port) + " cannot be had",
                             "another, or none for one that is free");
        thread_ = std::thread([this] { server_.listen_after_bind(); });
        while (!server_.is_running()) std::this_thread::sleep_for(std::chrono::milliseconds(1));
    }
    ~Body() {
        stopping_ = true;
        service_->stop();
        server_.stop();
        thread_.join();
    }

    std::string address() const {
        return std::string("http://") + host + ":" + std::to_string(port_) + "/" + options_.token + "/";
    }

   private:
    static constexpr const char* host = "127.0.0.1";

    using Handled = httplib::Server::HandlerResponse;

    /// Only what is addressed to this machine by its loopback name, with the token, and not by a page from elsewhere.
    Handled admit(const httplib::Request& request, httplib::Response& response) const {
        const auto refuse = [&](int status, const char* why) {
            response.status = status;
            response.set_content(std::string(why) + "\n", "text/plain");
            return Handled::Handled;
        };
        const std::string port = ":" + std::to_string(port_);
        const std::string asked = request.get_header_value("Host");
        if (request.get_header_value_count("Host") != 1 || (asked != host + port && asked != "localhost" + port))
            return refuse(403, "this host is not served here");
        if (const std::string origin = request.get_header_value("Origin");
            request.has_header("Origin") && origin != "http://" + asked)
            return refuse(403, "pages from elsewhere are not served");
        if (const std::string site = request.get_header_value("Sec-Fetch-Site");
            request.has_header("Sec-Fetch-Site") && site != "same-origin" && site != "none")
            return refuse(403, "pages from elsewhere are not served");
        const std::string_view path = request.path;
        const auto end = path.find('/', 1);
        if (path.empty() || end == std::string_view::npos || !is_same(path.substr(1, end - 1), options_.token))
            return refuse(404, "there is nothing here; the address is the one that the program printed");
        return Handled::Unhandled;
    }

    void answer(const httplib::Request& request, httplib::Response& response) {
        constexpr const char* lines = "application/x-ndjson";
        if (!request.get_header_value("Content-Type").starts_with("application/json")) {
            response.status = 415;
            response.set_content("a message is application/json\n", "text/plain");
            return;
        }
        auto answer = std::make_shared<Answer>();
        service_->take(
            request.body, [answer](const std::string& line) { answer->add(line); }, [answer] { answer->finish(); });
        // Most are answered at once and need no pieces.
        if (auto whole = answer->take(std::chrono::milliseconds(25), true); whole.last) {
            response.set_content(std::move(whole.lines), lines);
            return;
        }
        response.set_chunked_content_provider(
            lines,
            [answer](std::size_t, httplib::DataSink& sink) {
                const auto part = answer->take(std::chrono::milliseconds(100), false);
                if (!sink.is_writable()) return false;
                if (!part.lines.empty() && !sink.write(part.lines.data(), part.lines.size())) return false;
                if (part.last) sink.done();
                return true;
            },
            [this, ids = ids_of(request.body)](bool success) {
                if (success || stopping_) return;
                for (const auto& id : ids)
                    service_->take(
                        nlohmann::json{{"jsonrpc", "2.0"}, {"method", "cancel"}, {"params", {{"id", id}}}}.dump(),
                        [](const std::string&) {});
            });
    }

    WebServerOptions options_;
    std::unique_ptr<link::RpcService> service_;
    std::atomic<bool> stopping_{false};
    httplib::Server server_;
    int port_ = -1;
    std::thread thread_;
};

WebServer::WebServer(WebServerOptions options) : body_(std::make_unique<Body>(std::move(options))) {}
WebServer::~WebServer() = default;
std::string WebServer::address() const { return body_->address(); }

}  // namespace arvek::tool
