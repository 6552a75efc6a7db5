// The workbench under load: 200 sessions at once, eight clients that ask for something light at random moments, as many
// requests as they would make in an hour with one every two seconds, while two searches run. How long answers take.
//
//   arvek workbench lanterns      # prints the address
//   arvek_workbench_load ADDRESS [REQUESTS]

#include <httplib.h>

#include <algorithm>
#include <atomic>
#include <chrono>
#include <cstdio>
#include <nlohmann/json.hpp>
#include <random>
#include <string>
#include <thread>
#include <vector>

namespace {

using Json = nlohmann::json;
using Clock = std::chrono::steady_clock;

struct Address {
    std::string host, root;
};

Json ask(httplib::Client& client, const Address& at, const std::string& method, const Json& params,
         const std::string& id) {
    const std::string message = Json{{"jsonrpc", "2.0"}, {"id", id}, {"method", method}, {"params", params}}.dump();
    const auto response = client.Post(at.root + "rpc", message, "application/json");
    if (!response || response->status != 200) return nullptr;
    return Json::parse(response->body.substr(response->body.rfind('\n', response->body.size() - 2) + 1), nullptr,
                       false);
}

}  // namespace

int main(int argc, char** argv) {
    if (argc < 2) return std::fprintf(stderr, "usage: arvek_workbench_load ADDRESS [REQUESTS]\n"), 2;
    const std::string address = argv[1];
    const auto slash = address.find('/', 8);
    if (slash == std::string::npos) return std::fprintf(stderr, "the address has no path\n"), 2;
    const Address at{address.substr(0, slash), address.substr(slash, address.find('#') - slash)};
    const int requests = argc > 2 ? std::atoi(argv[2]) : 14'400;
    constexpr int clients = 8, sessions = 200;
    constexpr auto between = std::chrono::microseconds(25'000);  // on average, by each client

    httplib::Client first(at.host);
    first.set_keep_alive(true);
    const std::vector<std::string> games{"lanterns",   "windlass", "sluice", "nightwatch",
                                         "downstream", "tolls",    "chess"};
    std::vector<Json> open;
    for (std::size_t i = 0; i < sessions; ++i) {
        const Json answer = ask(first, at, "open", {{"game", games[i % games.size()]}}, "open" + std::to_string(i));
        if (!answer.contains("result")) return std::fprintf(stderr, "no session: %s\n", answer.dump().c_str()), 1;
        open.push_back(answer["result"]["session"]);
    }
    std::atomic<bool> over{false};
    std::atomic<int> without{0}, refused{0}, decisions{0};
    std::vector<std::thread> searches;
    for (std::size_t i = 0; i < 2; ++i)
        searches.emplace_back([&, i] {
            httplib::Client own(at.host);
            own.set_read_timeout(60);
            const Json session =
                ask(own, at, "open", {{"game", "chess"}}, "search" + std::to_string(i))["result"]["session"];
            while (!over) {
                (void)ask(own, at, "decide", {{"session", session}, {"seconds", 2}, {"progress", true}},
                          "search" + std::to_string(i));
                ++decisions;
            }
        });
    std::vector<std::vector<double>> times(clients);
    std::vector<std::thread> users;
    const auto started = Clock::now();
    for (int user = 0; user < clients; ++user)
        users.emplace_back([&, user] {
            std::mt19937 random(static_cast<unsigned>(user));
            std::exponential_distribution<double> pause(1.0);
            httplib::Client own(at.host);
            own.set_keep_alive(true);
            own.set_tcp_nodelay(true);
            const char* methods[] = {"state", "board", "words", "take_back", "let_chance_act", "go_to", "play"};
            for (int i = 0; i < requests / clients; ++i) {
                std::this_thread::sleep_for(between * std::min(4.0, pause(random)));
                const std::string method = methods[random() % std::size(methods)];
                Json params{{"session", open[random() % open.size()]}};
                if (method == "go_to") params["moves"] = Json::array();
                if (method == "play") params["move"] = random() % 2 == 0 ? "c3" : "3";
                const auto asked = Clock::now();
                const Json answer = ask(own, at, method, params, std::to_string(user) + "." + std::to_string(i));
                times[static_cast<std::size_t>(user)].push_back(
                    std::chrono::duration<double, std::milli>(Clock::now() - asked).count());
                if (!answer.is_object())
                    ++without;
                else if (answer.contains("error"))
                    ++refused;
            }
        });
    for (std::thread& user : users) user.join();
    const double seconds = std::chrono::duration<double>(Clock::now() - started).count();
    over = true;
    for (std::thread& search : searches) search.join();
    std::vector<double> all;
    for (const auto& each : times) all.insert(all.end(), each.begin(), each.end());
    std::sort(all.begin(), all.end());
    const auto at_share = [&](double share) {
        return all[std::min(all.size() - 1, static_cast<std::size_t>(share * static_cast<double>(all.size())))];
    };
    std::printf("%zu requests in %.0f s to %d sessions beside two searches (%d decisions)\n", all.size(), seconds,
                sessions, decisions.load());
    std::printf("without an answer %d, refused as not legal and the like %d\n", without.load(), refused.load());
    std::printf("ms: median %.2f, 90 %% %.2f, 99 %% %.2f, 99.9 %% %.2f, longest %.1f\n", at_share(0.5), at_share(0.9),
                at_share(0.99), at_share(0.999), all.back());
    return without == 0 ? 0 : 1;
}
