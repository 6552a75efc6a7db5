#include "arvek/link/rpc_server.hpp"

#include <gtest/gtest.h>

#include <fstream>
#include <map>
#include <regex>
#include <sstream>

#include "arvek/link/child.hpp"
#include "support/json.hpp"
#include "support/tool.hpp"

using arvek::link::Child;
using Json = nlohmann::json;

namespace {

/// What stands in the expected answer stands in the answer as well; "..." at the end of a list: there is more.
void expect_within(const Json& expected, const Json& actual, const std::string& where) {
    if (expected.is_object()) {
        ASSERT_TRUE(actual.is_object()) << where << ": " << actual;
        for (const auto& [key, value] : expected.items()) {
            ASSERT_TRUE(actual.contains(key)) << where << " has no " << key << ": " << actual;
            expect_within(value, actual[key], where + "." + key);
        }
    } else if (expected.is_array()) {
        ASSERT_TRUE(actual.is_array()) << where << ": " << actual;
        const bool more = !expected.empty() && expected.back() == "...";
        const std::size_t size = expected.size() - (more ? 1 : 0);
        ASSERT_TRUE(more ? actual.size() > size : actual.size() == size) << where << ": " << actual;
        for (std::size_t i = 0; i < size; ++i)
            expect_within(expected[i], actual[i], where + "[" + std::to_string(i) + "]");
    } else {
        ASSERT_EQ(expected, actual) << where;
    }
}

class Server {
   public:
    Server() : child_({.command = {ARVEK_PROGRAM, "serve"}}) {}
    void tell(const std::string& line) { child_.write_line(line, 5.0); }
    std::string heard() {
        const auto line = child_.read_line(20.0);
        return line ? *line : "nothing";
    }
    Json ask(const std::string& line) {
        tell(line);
        return Json::parse(heard());
    }
    Json ask(const std::string& method, const Json& params, const Json& id = 1) {
        return ask(Json{{"jsonrpc", "2.0"}, {"id", id}, {"method", method}, {"params", params}}.dump());
    }
    bool says_no_more() { return !child_.read_line(0.2); }

   private:
    Child child_;
};

}  // namespace

TEST(Rpc, EveryExampleOfTheDescriptionIsAsItSays) {
    std::ifstream in(std::string(ARVEK_SOURCE_DIR) + "/docs/rpc.md");
    ASSERT_TRUE(in);
    Server server;
    bool inside = false;
    int asked = 0;
    for (std::string line; std::getline(in, line);) {
        if (line.starts_with("```")) inside = line == "```rpc";
        if (!inside) continue;
        if (line.starts_with("--> ")) {
            server.tell(line.substr(4));
            ++asked;
        } else if (line.starts_with("<-- ")) {
            const std::string heard = server.heard();
            ASSERT_TRUE(Json::accept(heard)) << line << "\n" << heard;
            expect_within(Json::parse(line.substr(4)), Json::parse(heard), line);
        }
    }
    EXPECT_GT(asked, 20);
    EXPECT_TRUE(server.says_no_more());
}

TEST(Rpc, WrongMessagesGetTheCodesOfTheStandardAndHarmNothing) {
    Server server;
    const std::vector<std::pair<std::string, int>> wrong{
        {"{", -32700},
        {"\"text\"", -32600},
        {"[]", -32600},
        {"{}", -32600},
        {R"({"jsonrpc":"1.0","id":1,"method":"hello"})", -32600},
        {R"({"jsonrpc":"2.0","id":1,"method":7})", -32600},
        {R"({"jsonrpc":"2.0","id":[1],"method":"hello"})", -32600},
        {R"({"jsonrpc":"2.0","id":1,"method":"helo"})", -32601},
        {R"({"jsonrpc":"2.0","id":1,"method":"hello","params":[1]})", -32602},
        {R"({"jsonrpc":"2.0","id":1,"method":"hello","params":{"x":1}})", -32602},
        {R"({"jsonrpc":"2.0","id":1,"method":"open","params":{"game":7}})", -32602},
        {R"({"jsonrpc":"2.0","id":1,"method":"open","params":{"game":"chess","set":{"x":[]}}})", -32602},
        {R"({"jsonrpc":"2.0","id":1,"method":"open","params":{"game":"checkers"}})", -32000},
        {R"({"jsonrpc":"2.0","id":1,"method":"open","params":{"game":"chess","position":"no"}})", -32000},
        {R"({"jsonrpc":"2.0","id":1,"method":"state","params":{"session":12345}})", -32000},
        {R"({"jsonrpc":"2.0","id":1,"method":"state","params":{"session":1.5}})", -32602},
        {R"({"jsonrpc":"2.0","id":1,"method":"state","params":{"session":99999999999999999999}})", -32602},
        {"\xff\xfe", -32700},
        {std::string(100'000, '['), -32700},
        {"{\"jsonrpc\":\"2.0\",\"id\":1,\"method\":\"hello\",\"params\":" + std::string(3'000, '[') +
             std::string(3'000, ']') + "}",
         -32700},
        {std::string(17 << 20, 'x'), -32700},
    };
    for (const auto& [line, code] : wrong) {
        server.tell(line);
        const std::string heard = server.heard();
        ASSERT_TRUE(Json::accept(heard)) << heard;
        EXPECT_EQ(Json::parse(heard)["error"]["code"], code) << line.substr(0, 200) << "\n" << heard;
    }
    server.tell(R"({"jsonrpc":"2.0","method":"nothing of the kind"})");
    server.tell("   ");
    EXPECT_TRUE(server.says_no_more()) << "a notification is not answered, whatever it says";
    EXPECT_EQ(server.ask("hello", Json::object())["result"]["protocol"], 1);
}

TEST(Rpc, SessionsWorkSideBySideAndDecisionsCanBeCancelled) {
    Server server;
    for (int i = 1; i <= 3; ++i) EXPECT_EQ(server.ask("open", {{"game", "chess"}}, i)["result"]["session"], i);
    // A decision without an end, in the first; the others answer meanwhile.
    server.tell(R"({"jsonrpc":"2.0","id":"long","method":"decide","params":{"session":1,"depth":900}})");
    EXPECT_EQ(server.ask("play", {{"session", 2}, {"move", "e2e4"}}, 5)["result"]["moves"][0], "e4");
    EXPECT_EQ(server.ask("state", {{"session", 3}}, 6)["result"]["to_move"], "white");
    server.tell(R"({"jsonrpc":"2.0","id":7,"method":"cancel","params":{"id":"long"}})");
    const Json one = Json::parse(server.heard()), other = Json::parse(server.heard());
    const Json& cancelled = one["id"] == "long" ? one : other;
    const Json& said = one["id"] == "long" ? other : one;
    EXPECT_EQ(said["result"], true);
    EXPECT_EQ(cancelled["result"]["stats"]["stopped_by"], "stop");
    // Closing ends a decision as well.
    server.tell(R"({"jsonrpc":"2.0","id":8,"method":"decide","params":{"session":1,"depth":900}})");
    server.tell(R"({"jsonrpc":"2.0","id":9,"method":"close","params":{"session":1}})");
    EXPECT_EQ(Json::parse(server.heard())["id"], 8);
    EXPECT_EQ(Json::parse(server.heard())["id"], 9);
    EXPECT_EQ(server.ask("state", {{"session", 1}}, 10)["error"]["code"], -32000);
}

TEST(Rpc, OneThatClosesKeepsNobodyWaiting) {
    Server server;
    for (int i = 1; i <= 2; ++i) EXPECT_EQ(server.ask("open", {{"game", "chess"}}, i)["result"]["session"], i);
    // A decision that nobody is told of is cancelled by its session.
    server.tell(R"({"jsonrpc":"2.0","method":"decide","params":{"session":1,"depth":900}})");
    EXPECT_EQ(server.ask("cancel", {{"session", 1}}, 3)["result"], true);
    EXPECT_EQ(server.ask("state", {{"session", 1}}, 4)["result"]["to_move"], "white");
    EXPECT_EQ(server.ask("cancel", {{"session", 1}}, 5)["result"], false) << "nothing is left to cancel";
    // An id belongs to one request at a time.
    server.tell(R"({"jsonrpc":"2.0","id":"long","method":"decide","params":{"session":1,"depth":900}})");
    const Json again = server.ask("decide", {{"session", 2}, {"depth", 900}}, "long");
    EXPECT_EQ(again["error"]["code"], -32600) << again;
    server.tell(R"({"jsonrpc":"2.0","id":6,"method":"close","params":{"session":1}})");
    server.tell(R"({"jsonrpc":"2.0","id":7,"method":"state","params":{"session":2}})");
    std::map<std::string, Json> answers;
    for (int i = 0; i < 3; ++i) {
        const Json answer = Json::parse(server.heard());
        answers[answer["id"].dump()] = answer;
    }
    EXPECT_EQ(answers["7"]["result"]["to_move"], "white");
    EXPECT_EQ(answers["6"]["result"], true);
    EXPECT_TRUE(answers["\"long\""].contains("result"));
}

TEST(Rpc, AProfileAsTextPlaysButRunsNoProgram) {
    Server server;
    (void)server.ask("open", {{"game", "lanterns"}});
    const std::string program =
        "name = \"x\"\ngame = \"lanterns\"\nchoose = \"program\"\n[program]\ncommand = [\"/bin/true\"]\n";
    EXPECT_EQ(server.ask("decide", {{"session", 1}, {"profile", program}})["error"]["code"], -32000);
    const Json wrong = server.ask("decide", {{"session", 1}, {"profile", "name = 3"}});
    EXPECT_NE(wrong["error"]["message"].get<std::string>().find("line 1"), std::string::npos) << wrong;
    const std::string deep = "name = \"Keeper\"\ngame = \"lanterns\"\nchoose = \"search\"\n[search]\ndepth = 2\n";
    EXPECT_EQ(server.ask("decide", {{"session", 1}, {"profile", deep}})["result"]["stats"]["depth"], 2);
}
