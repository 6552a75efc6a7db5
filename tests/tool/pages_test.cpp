#include <gtest/gtest.h>

#include <regex>

#include "html_report.hpp"
#include "support/tool.hpp"

using namespace testing_support;
using arvek::tool::HtmlReport;

namespace {

/// That every element is closed in its order, and that nothing is loaded from anywhere.
void expect_sound_page(const std::string& page) {
    EXPECT_EQ(page.find("<!doctype html>"), 0u);
    std::vector<std::string> open;
    const std::string body = page.substr(0, page.find("<script>")) + page.substr(page.find("</script>"));
    const std::regex tag("<(/?)([a-z0-9]+)([^>]*)>");
    for (std::sregex_iterator at(body.begin(), body.end(), tag), end; at != end; ++at) {
        const std::string name = (*at)[2], rest = (*at)[3];
        if ((*at)[1] == "/") {
            if (name == "script") continue;
            ASSERT_FALSE(open.empty()) << name;
            EXPECT_EQ(open.back(), name);
            open.pop_back();
        } else if (!rest.ends_with('/') && name != "meta") {
            open.push_back(name);
        }
    }
    EXPECT_TRUE(open.empty());
    for (const char* from_elsewhere : {"http:", "https:", " src=", " href=", "@import", "url("})
        EXPECT_EQ(page.find(from_elsewhere), std::string::npos) << from_elsewhere;
}

}  // namespace

TEST(Pages, HoldTextsAsTextsWhateverTheyAre) {
    const std::string hostile = "<script>alert(1)</script>\"'&</title><!--\x1b[2J";
    HtmlReport report(hostile);
    report.heading(hostile);
    report.text(hostile);
    report.lines(hostile);
    report.table(hostile, {{hostile}, {"n", true}}, {{hostile, "1"}});
    report.intervals(hostile, {{hostile, 0.5, 0.2, 0.8, hostile}}, {0, 1, 0.6, 0.8, true});
    report.curves(hostile, {{hostile, {0.0, 1.0, 0.5}}, {"flat", {1.0, 1.0}}});
    report.curves("nothing", {});
    report.intervals("nothing", {}, {0, 0, {}, {}});
    const std::string page = report.page();
    expect_sound_page(page);
    EXPECT_EQ(page.find("<script>alert"), std::string::npos);
    EXPECT_EQ(page.find('\x1b'), std::string::npos);
    EXPECT_EQ(page.find("nan"), std::string::npos);
}

TEST(Pages, AreWrittenByEveryVerbThatOffersThem) {
    const std::string out =
        (std::filesystem::temp_directory_path() / ("arvek_page_" + std::to_string(::getpid()))).string() + ".html";
    const TemporaryFile tuned(
        "name = \"Wick\"\ngame = \"lanterns\"\nchoose = \"features\"\n[features]\n\"own line\" = 1.0\n");
    const std::vector<std::vector<std::string>> commands{
        words("match lanterns ruled random --games 4"),
        words("levels sluice --games 4 --levels 1..3"),
        words("league windlass ruled random standard@1 --games 4"),
        {"tune", "lanterns", tuned.path(), "--number", "features.own line=-2.0..2.0", "--steps", "4", "--games", "2"},
        words("check windlass --games 3"),
        words("match stowage ruled random --games 2 --set lots=1")};
    for (std::vector<std::string> command : commands) {
        std::filesystem::remove(out);
        command.insert(command.end(), {"--report", out});
        const Ran ran = run(command);
        EXPECT_NE(ran.status, 2) << command[0] << ": " << ran.err;
        std::ostringstream page;
        page << std::ifstream(out).rdbuf();
        expect_sound_page(page.str());
        EXPECT_NE(page.str().find("In words"), std::string::npos) << command[0];
        EXPECT_NE(page.str().find(command[1] == tuned.path() ? "lanterns" : command[1]), std::string::npos);
    }
    std::filesystem::remove(out);
    EXPECT_EQ(run(words("match lanterns ruled random --games 2 --report here.txt")).status, 2);
    EXPECT_EQ(run(words("match lanterns ruled random --games 2 --report /none/here.html")).status, 2);
    EXPECT_EQ(run(words("levels lanterns --fit --report x.html")).status, 2);
}
