// The workbench's server, asked by whoever can reach the port.

#include "web_server.hpp"

#include <arpa/inet.h>
#include <gtest/gtest.h>
#include <httplib.h>
#include <sys/socket.h>
#include <unistd.h>

#include <atomic>
#include <chrono>
#include <random>
#include <thread>

#include "arvek/link/rpc_server.hpp"
#include "arvek/session/json.hpp"
#include "every_offer.hpp"
#include "support/json.hpp"
#include "support/resident.hpp"
#include "support/sanitized.hpp"

using arvek::tool::WebServer;
using arvek::tool::WebServerOptions;
using Json = nlohmann::json;

namespace {

/// A tool with every game, whose sessions are offered without more ado.
WebServerOptions every_game(const arvek::tool::Tool& tool) {
    WebServerOptions options;
    options.files = arvek::tool::workbench_files();
    options.rpc.games_json = arvek::games_as_json(tool.games());
    options.rpc.closes_left_sessions = true;
    options.rpc.longest_message = 1 << 20;
    options.rpc.open = [&tool](const std::string& game, const std::vector<std::string>& settings) {
        for (const auto& entry : tool.games())
            if (entry->name() == game) return entry->open(settings);
        throw arvek::InputError("game", "there is none");
    };
    options.rpc.read_opponent = [](const std::string& text, const arvek::Session&) {
        return arvek::read_opponent(text);
    };
    return options;
}

class Workbench : public ::testing::Test {
   protected:
    Workbench() : tool_("arvek") {
        waterway::offer_every_game(tool_);
        start(every_game(tool_));
    }
    void start(WebServerOptions options) {
        server_.reset();
        server_ = std::make_unique<WebServer>(std::move(options));
        const std::string address = server_->address();
        const auto slash = address.find('/', 8);
        host_ = address.substr(7, slash - 7);
        root_ = address.substr(slash);
        client_ = client();
    }
    std::unique_ptr<httplib::Client> client() const {
        auto made = std::make_unique<httplib::Client>("http://" + host_);
        made->set_read_timeout(30);
        made->set_keep_alive(true);
        return made;
    }
    static std::string message(const std::string& method, const Json& params, const Json& id) {
        return Json{{"jsonrpc", "2.0"}, {"id", id}, {"method", method}, {"params", params}}.dump();
    }
    Json ask(httplib::Client& by, const std::string& method, const Json& params, const Json& id = 1) const {
        const auto response = by.Post(root_ + "rpc", message(method, params, id), "application/json");
        if (!response || response->status != 200) return Json("no answer");
        const std::string last = response->body.substr(0, response->body.size() - 1);
        const auto line = last.find_last_of('\n');
        return Json::parse(line == std::string::npos ? last : last.substr(line + 1));
    }
    int status(const std::string& path, const httplib::Headers& headers = {}) const {
        const auto response = client()->Get(path, headers);
        return response ? response->status : 0;
    }

    arvek::tool::Tool tool_;
    std::unique_ptr<WebServer> server_;
    std::unique_ptr<httplib::Client> client_;
    std::string host_, root_;
};

}  // namespace

TEST_F(Workbench, ServesItsOwnFilesToWhoeverKnowsTheAddressAndNothingElse) {
    EXPECT_EQ(status(root_), 200);
    for (const auto& file : arvek::tool::workbench_files()) EXPECT_EQ(status(root_ + std::string(file.path)), 200);
    const auto page = client_->Get(root_);
    ASSERT_TRUE(page);
    EXPECT_NE(page->body.find("workbench.js"), std::string::npos);
    EXPECT_NE(page->get_header_value("Content-Security-Policy").find("default-src 'none'"), std::string::npos);
    EXPECT_FALSE(page->has_header("Access-Control-Allow-Origin"));
    std::string wrong = root_;
    wrong[5] = wrong[5] == '0' ? '1' : '0';
    for (const std::string& path :
         {std::string("/"), std::string("/index.html"), wrong, root_.substr(0, root_.size() - 2) + "/", root_ + "../",
          root_ + "..%2f..%2fetc/passwd", root_ + "%2e%2e/%2e%2e/etc/passwd", root_ + "../../../../etc/passwd",
          root_ + "rpc", root_ + "index.html%00.js", "/" + std::string(5000, 'a') + "/"})
        EXPECT_GE(status(path), 400) << path;
}

TEST_F(Workbench, RefusesOtherHostsOriginsAndSites) {
    const std::string port = host_.substr(host_.find(':'));
    EXPECT_EQ(status(root_, {{"Host", "localhost" + port}}), 200);
    EXPECT_EQ(status(root_, {{"Origin", "http://" + host_}}), 200);
    for (const httplib::Headers& headers :
         {httplib::Headers{{"Host", "evil.example" + port}}, httplib::Headers{{"Host", "127.0.0.1"}},
          httplib::Headers{{"Host", ""}}, httplib::Headers{{"Origin", "http://evil.example"}},
          httplib::Headers{{"Origin", "null"}}, httplib::Headers{{"Origin", "http://localhost" + port}},
          httplib::Headers{{"Sec-Fetch-Site", "cross-site"}}, httplib::Headers{{"Sec-Fetch-Site", "same-site"}}})
        EXPECT_EQ(status(root_, headers), 403) << headers.begin()->first << ": " << headers.begin()->second;
    // What a form of another page could send.
    for (const char* type : {"text/plain", "application/x-www-form-urlencoded", "multipart/form-data; boundary=x"}) {
        const auto response = client_->Post(root_ + "rpc", message("games", Json::object(), 1), type);
        ASSERT_TRUE(response);
        EXPECT_GE(response->status, 400) << type;
        EXPECT_EQ(response->body.find("lanterns"), std::string::npos) << type;
    }
}

TEST_F(Workbench, TakesNothingThatMayGrowBeyondItsLimits) {
    for (const char* header : {"Content-Encoding", "Transfer-Encoding", "Range"})
        EXPECT_EQ(status(root_, {{header, std::string(header) == "Range" ? "bytes=0-1" : "gzip"}}), 400) << header;
    EXPECT_EQ(status(root_, {{"Origin", "http://" + host_}, {"Origin", "http://" + host_}}), 403);
}

TEST_F(Workbench, HasItsPortAloneAndIsNotHeldUpByWhoBringsNoRequest) {
    const int port = std::stoi(host_.substr(host_.find(':') + 1));
    WebServerOptions second;
    second.port = port;
    EXPECT_THROW(WebServer{std::move(second)}, arvek::InputError);
    std::vector<int> sockets;
    for (int i = 0; i < 100; ++i) {
        sockaddr_in address{};
        address.sin_family = AF_INET;
        address.sin_port = htons(static_cast<std::uint16_t>(port));
        address.sin_addr.s_addr = htonl(INADDR_LOOPBACK);
        const int file = ::socket(AF_INET, SOCK_STREAM, 0);
        ASSERT_EQ(::connect(file, reinterpret_cast<const sockaddr*>(&address), sizeof address), 0);
        ASSERT_GT(::send(file, "GET / HT", 8, MSG_NOSIGNAL), 0);
        sockets.push_back(file);
    }
    // They take every thread, and yet the page comes.
    auto patient = client();
    patient->set_read_timeout(20);
    const auto page = patient->Get(root_);
    ASSERT_TRUE(page);
    EXPECT_EQ(page->status, 200);
    server_.reset();  // comes to its end, though many connections are open
    for (const int file : sockets) ::close(file);
}

TEST_F(Workbench, AnswersWithProgressAndRefusesWhatIsNoMessage) {
    const Json opened = ask(*client_, "open", {{"game", "nightwatch"}});
    ASSERT_TRUE(opened.contains("result")) << opened;
    int lines = 0;
    std::string last;
    const auto response = client_->Post(root_ + "rpc",
                                        message("decide",
                                                {{"session", opened["result"]["session"]},
                                                 {"seconds", testing_support::sanitized ? 3.0 : 0.3},
                                                 {"progress", true}},
                                                7),
                                        "application/json");
    ASSERT_TRUE(response);
    std::istringstream in(response->body);
    for (std::string line; std::getline(in, line); ++lines) last = line;
    EXPECT_GT(lines, 3);
    EXPECT_TRUE(Json::parse(last)["result"]["ranked"].size() > 5) << last;
    for (const std::string& wrong : {std::string("this is no JSON"), std::string("[]"), std::string("{}"),
                                     std::string(200, '['), std::string("\xff\xfe")}) {
        const auto refused = client_->Post(root_ + "rpc", wrong, "application/json");
        ASSERT_TRUE(refused);
        EXPECT_EQ(refused->status, 200) << wrong;
        EXPECT_TRUE(Json::parse(refused->body).contains("error")) << refused->body;
    }
    const auto empty = client_->Post(root_ + "rpc", "", "application/json");
    ASSERT_TRUE(empty);
    EXPECT_TRUE(Json::parse(empty->body).contains("error"));
    const auto large = client()->Post(root_ + "rpc", std::string(3 << 20, ' '), "application/json");
    EXPECT_TRUE(!large || large->status == 413);
    EXPECT_EQ(status(root_), 200);
}

TEST_F(Workbench, ADecisionThatNobodyWaitsForIsGivenUp) {
    const Json session = ask(*client_, "open", {{"game", "chess"}})["result"]["session"];
    {
        auto impatient = client();
        impatient->set_read_timeout(0, 300'000);
        EXPECT_FALSE(impatient->Post(root_ + "rpc", message("decide", {{"session", session}, {"seconds", 600}}, "long"),
                                     "application/json"));
    }
    // The session is free again, long before ten minutes have passed.
    const auto started = std::chrono::steady_clock::now();
    EXPECT_TRUE(ask(*client_, "state", {{"session", session}}).contains("result"));
    EXPECT_LT(std::chrono::steady_clock::now() - started, std::chrono::seconds(15));
    // And the server ends at once, whatever is thought about.
    std::thread thinker([&] {
        auto other = client();
        (void)other->Post(root_ + "rpc", message("decide", {{"session", session}, {"seconds", 600}}, "more"),
                          "application/json");
    });
    std::this_thread::sleep_for(std::chrono::milliseconds(200));
    const auto ending = std::chrono::steady_clock::now();
    server_.reset();
    EXPECT_LT(std::chrono::steady_clock::now() - ending, std::chrono::seconds(15));
    thinker.join();
}

TEST_F(Workbench, WhoeverClosesASessionWhileOthersAskIsAnsweredAndSoAreThey) {
    for (int round = 0; round < 20; ++round) {
        const Json session = ask(*client_, "open", {{"game", "windlass"}})["result"]["session"];
        std::atomic<int> answered{0};
        std::vector<std::thread> askers;
        for (int i = 0; i < 4; ++i)
            askers.emplace_back([&, i] {
                auto own = client();
                for (int j = 0; j < 10; ++j)
                    if (ask(*own, i == 0 && j == 5 ? "close" : "state", {{"session", session}},
                            std::to_string(i) + "." + std::to_string(j))
                            .is_object())
                        ++answered;
            });
        for (std::thread& asker : askers) asker.join();
        EXPECT_EQ(answered, 40);
    }
}

TEST_F(Workbench, SessionsThatWereLeftMakeRoom) {
    WebServerOptions options = every_game(tool_);
    options.rpc.most_sessions = 3;
    start(std::move(options));
    std::vector<Json> sessions;
    for (int i = 0; i < 3; ++i) sessions.push_back(ask(*client_, "open", {{"game", "sluice"}})["result"]["session"]);
    EXPECT_TRUE(ask(*client_, "state", {{"session", sessions[0]}}).contains("result"));
    EXPECT_TRUE(ask(*client_, "open", {{"game", "sluice"}}).contains("result"));
    EXPECT_TRUE(ask(*client_, "state", {{"session", sessions[0]}}).contains("result"));
    EXPECT_EQ(ask(*client_, "state", {{"session", sessions[1]}})["error"]["code"], -32000);
}

TEST_F(Workbench, SessionsShareOneBudgetOfMemory) {
    WebServerOptions options = every_game(tool_);
    options.rpc.memory_mebibytes = 70;
    start(std::move(options));
    const auto decide = [&](const Json& session, int memory) {
        return ask(*client_, "decide",
                   {{"session", session}, {"nodes", 20'000}, {"options", {{"memory", memory}, {"keep_table", true}}}});
    };
    const Json refused = decide(ask(*client_, "open", {{"game", "sluice"}})["result"]["session"], 100);
    EXPECT_NE(refused["error"]["message"].get<std::string>().find("more than the 70 of all sessions"),
              std::string::npos);
    // 30 sessions of 32 MiB, where two fit: each is answered, the ones left give theirs back, and answer again.
    const long before = testing_support::resident_mebibytes();
    std::vector<Json> sessions;
    for (int i = 0; i < 30; ++i) {
        sessions.push_back(ask(*client_, "open", {{"game", "sluice"}})["result"]["session"]);
        ASSERT_TRUE(decide(sessions.back(), 32).contains("result"));
    }
    if (!testing_support::sanitized) {
        EXPECT_LT(testing_support::resident_mebibytes() - before, 250) << "of 960 MiB";
    }
    std::atomic<int> answered{0};
    std::vector<std::thread> askers;
    for (int i = 0; i < 6; ++i)
        askers.emplace_back([&, i] {
            const auto own = client();
            for (int time = 0; time < 5; ++time)
                answered += ask(*own, "decide",
                                {{"session", sessions[static_cast<std::size_t>(i)]},
                                 {"nodes", 2'000},
                                 {"options", {{"memory", 20 + i % 3 * 25}}}},
                                i)
                                    .contains("result")
                                ? 1
                                : 0;
        });
    for (std::thread& each : askers) each.join();
    EXPECT_EQ(answered, 30);
    // A seat gives back too, and takes its turn all the same.
    EXPECT_TRUE(
        ask(*client_, "seat", {{"session", sessions[0]}, {"player", "teal"}, {"opponent", "standard"}, {"nodes", 500}})
            .contains("result"));
    EXPECT_TRUE(decide(sessions[1], 60).contains("result"));
    EXPECT_TRUE(ask(*client_, "answer", {{"session", sessions[0]}}).contains("result"));
}

TEST_F(Workbench, ATextWithChoicesIsSetFromAPage) {
    const Json games = ask(*client_, "games", Json::object())["result"];
    bool found = false;
    for (const Json& game : games["games"])
        for (const Json& parameter : game["parameters"]) found = found || parameter.contains("choices");
    EXPECT_TRUE(found);
    EXPECT_TRUE(ask(*client_, "open", {{"game", "tolls"}, {"set", {{"trump", "w"}}}}).contains("result"));
    EXPECT_NE(ask(*client_, "open", {{"game", "tolls"}, {"set", {{"trump", "x"}}}})["error"]["message"]
                  .get<std::string>()
                  .find("none, r, w, s or g"),
              std::string::npos);
}

TEST_F(Workbench, HoldsOutUnderManySessionsAndRequestsInAnyOrder) {
    // Fewer for the sanitizers' slower program; bench/workbench_load.cpp measures the same at length.
    const int sessions = testing_support::sanitized ? 60 : 200, requests = testing_support::sanitized ? 150 : 600;
    std::vector<Json> numbers;
    const std::vector<std::string> games{"lanterns",   "windlass", "sluice", "nightwatch",
                                         "downstream", "tolls",    "chess"};
    for (int i = 0; i < sessions; ++i) {
        const Json opened = ask(*client_, "open", {{"game", games[static_cast<std::size_t>(i) % games.size()]}});
        ASSERT_TRUE(opened.contains("result")) << opened;
        numbers.push_back(opened["result"]["session"]);
    }
    std::atomic<int> answered{0}, without{0};
    const auto work = [&](unsigned seed) {
        std::mt19937 random(seed);
        auto own = client();
        for (int i = 0; i < requests; ++i) {
            const Json session = numbers[random() % numbers.size()];
            Json params{{"session", session}};
            std::string method;
            switch (random() % 10) {
                case 0: method = "board"; break;
                case 1: method = "let_chance_act"; break;
                case 2: method = "take_back"; break;
                case 3: method = "go_to", params["moves"] = Json::array(); break;
                case 4: method = "decide", params["depth"] = 1; break;
                case 5: method = "decide", params["depth"] = 2, params["tree"] = 2; break;
                case 6: method = "branch", params["path"] = Json::array(); break;
                case 7: method = "check_profile", params["profile"] = "name = 1\n"; break;
                default: method = "state"; break;
            }
            const Json answer = ask(*own, method, params, std::to_string(seed) + "." + std::to_string(i));
            if (!answer.is_object()) {
                ++without;
                continue;
            }
            ++answered;
            if (method != "state" || !answer.contains("result") || answer["result"]["legal_moves"].empty()) continue;
            const Json& moves = answer["result"]["legal_moves"];
            (void)ask(*own, "play", {{"session", session}, {"move", moves[random() % moves.size()]}},
                      std::to_string(seed) + "p" + std::to_string(i));
        }
    };
    std::vector<std::thread> clients;
    for (unsigned seed = 1; seed <= 8; ++seed) clients.emplace_back(work, seed);
    for (std::thread& each : clients) each.join();
    EXPECT_EQ(without, 0);
    EXPECT_EQ(answered, 8 * requests);
    EXPECT_TRUE(ask(*client_, "state", {{"session", numbers[0]}}).contains("result"));
}
