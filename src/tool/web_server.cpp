#include "web_server.hpp"

#include <httplib.h>

#include <arpa/inet.h>
#include <sys/socket.h>

#include <algorithm>
#include <array>
#include <condition_variable>
#include <deque>
#include <filesystem>
#include <map>
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
        parsed = read_json<nlohmann::json>(message, "message");
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

/// Ends connections that bring no whole request in time, however slowly they go on, and all of them when the server stops:
/// a time limit of one read starts again with each byte.
class ConnectionWatch {
   public:
    ~ConnectionWatch() { finish(); }

    /// Watches the connections to that port. `most_waiting`: so many may be without a request at a time.
    void begin(int port, std::size_t most_waiting) {
        port_ = port;
        most_waiting_ = most_waiting;
        thread_ = std::thread([this] {
            while (!over_) {
                look();
                std::this_thread::sleep_for(std::chrono::milliseconds(closes_all_ ? 10 : 200));
            }
        });
    }
    void close_all() { closes_all_ = true; }
    void finish() {
        over_ = true;
        if (thread_.joinable()) thread_.join();
    }

    /// What the connection with that port at its other end has come to.
    void came_with_key(int peer) { note(peer, false); }
    void is_answered(int peer) { note(peer, true); }
    void has_answer(int peer) { note(peer, false); }

   private:
    using Clock = std::chrono::steady_clock;
    static constexpr std::chrono::seconds longest_request{10}, shortest_wait{1};

    struct Connection {
        Clock::time_point since = Clock::now();
        bool answered = false;  ///< its request is whole, and the answer may take its time
        bool has_key = false;
        bool seen = true;
    };

    void note(int peer, bool answered) {
        const std::lock_guard lock(mutex_);
        Connection& one = connections_[peer];
        one.since = Clock::now();
        one.answered = answered;
        one.has_key = true;
    }
    /// The port at the other end of a connection to our port; 0 for anything else.
    int peer_of(int file) const {
        sockaddr_in own{}, other{};
        socklen_t own_size = sizeof own, other_size = sizeof other;
        if (::getsockname(file, reinterpret_cast<sockaddr*>(&own), &own_size) != 0 || own.sin_family != AF_INET ||
            ntohs(own.sin_port) != port_)
            return 0;
        if (::getpeername(file, reinterpret_cast<sockaddr*>(&other), &other_size) != 0) return 0;
        return ntohs(other.sin_port);
    }
    void look() {
        std::vector<std::pair<int, int>> open;  // file and the port at the other end
        std::error_code problem;
        for (const auto& entry : std::filesystem::directory_iterator("/proc/self/fd", problem)) {
            const int file = std::atoi(entry.path().filename().c_str());
            if (const int peer = peer_of(file); peer != 0) open.emplace_back(file, peer);
        }
        const std::lock_guard lock(mutex_);
        for (auto& [peer, one] : connections_) one.seen = false;
        std::vector<std::pair<Clock::time_point, int>> waiting;
        const auto now = Clock::now();
        const auto end = [&](int file, int peer) {
            if (peer_of(file) == peer) ::shutdown(file, SHUT_RDWR);
        };
        for (const auto& [file, peer] : open) {
            Connection& one = connections_[peer];
            one.seen = true;
            if (closes_all_ || (!one.answered && now - one.since > longest_request))
                end(file, peer);
            else if (!one.has_key && now - one.since > shortest_wait)
                waiting.emplace_back(one.since, file);
        }
        std::erase_if(connections_, [](const auto& one) { return !one.second.seen; });
        if (waiting.size() <= most_waiting_) return;
        std::sort(waiting.begin(), waiting.end());
        waiting.resize(waiting.size() - most_waiting_);
        for (const auto& [since, file] : waiting) end(file, peer_of(file));
    }

    int port_ = 0;
    std::size_t most_waiting_ = 8;
    std::atomic<bool> over_{false}, closes_all_{false};
    std::mutex mutex_;
    std::map<int, Connection> connections_;
    std::thread thread_;
};

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
        // A port is one server's: a second one that listens on it would take a part of the requests.
        server_.set_socket_options([](socket_t socket) {
            const int yes = 1;
            (void)::setsockopt(socket, SOL_SOCKET, SO_REUSEADDR, &yes, sizeof yes);
        });
        server_.set_logger([this](const httplib::Request& request, const httplib::Response&) {
            watch_.has_answer(request.remote_port);
        });
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
        watch_.begin(port_, static_cast<std::size_t>(options_.threads) / 2);
        thread_ = std::thread([this] { server_.listen_after_bind(); });
        while (!server_.is_running()) std::this_thread::sleep_for(std::chrono::milliseconds(1));
    }
    ~Body() {
        stopping_ = true;
        service_->stop();
        server_.stop();
        watch_.close_all();
        thread_.join();
        watch_.finish();
    }

    std::string address() const {
        return std::string("http://") + host + ":" + std::to_string(port_) + "/" + options_.token + "/";
    }

   private:
    static constexpr const char* host = "127.0.0.1";

    using Handled = httplib::Server::HandlerResponse;

    /// Only what is addressed to this machine by its loopback name, with the token, and not by a page from elsewhere.
    Handled admit(const httplib::Request& request, httplib::Response& response) {
        const auto refuse = [&](int status, const char* why) {
            response.status = status;
            response.set_content(std::string(why) + "\n", "text/plain");
            return Handled::Handled;
        };
        const std::string port = ":" + std::to_string(port_);
        const std::string asked = request.get_header_value("Host");
        if (request.get_header_value_count("Host") != 1 || (asked != host + port && asked != "localhost" + port))
            return refuse(403, "this host is not served here");
        if (request.get_header_value_count("Origin") > 1) return refuse(403, "pages from elsewhere are not served");
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
        // A message of known size, as it is: what is packed or comes in pieces may grow beyond every limit.
        for (const char* header : {"Transfer-Encoding", "Content-Encoding", "Range"})
            if (request.has_header(header)) return refuse(400, "a message comes whole and as it is");
        if (request.get_header_value_count("Content-Length") > 1) return refuse(400, "a message has one length");
        watch_.came_with_key(request.remote_port);
        return Handled::Unhandled;
    }

    void answer(const httplib::Request& request, httplib::Response& response) {
        constexpr const char* lines = "application/x-ndjson";
        if (!request.get_header_value("Content-Type").starts_with("application/json")) {
            response.status = 415;
            response.set_content("a message is application/json\n", "text/plain");
            return;
        }
        watch_.is_answered(request.remote_port);
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
    ConnectionWatch watch_;
    httplib::Server server_;
    int port_ = -1;
    std::thread thread_;
};

WebServer::WebServer(WebServerOptions options) : body_(std::make_unique<Body>(std::move(options))) {}
WebServer::~WebServer() = default;
std::string WebServer::address() const { return body_->address(); }

}  // namespace arvek::tool
