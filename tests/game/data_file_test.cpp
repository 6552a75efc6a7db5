#include <gtest/gtest.h>
#include <arvek/game/data_file.hpp>

#include <functional>

using namespace arvek;

namespace {

const char* const sample_text = R"(# a comment in any script: äöü
name = "The Weir"
depth = 3
share = 0.25
open = true
list = [1, "two", { three = 3 }]

[gate.upper]
width = 4

[[boat]]
name = "Skiff"

[[boat]]
name = "Tug"
)";

std::string complaint(const std::function<void(const DataFile&)>& ask, const std::string& content = sample_text) {
    try {
        ask(DataFile(content, "weir.toml"));
    } catch (const InputError& error) {
        return error.what();
    }
    return "no complaint";
}

}  // namespace

TEST(DataFile, GivesValuesWithTheirPlaces) {
    const DataFile file(sample_text, "weir.toml");
    EXPECT_EQ(file.text(file.required(file.root(), "name", ""), "name"), "The Weir");
    EXPECT_EQ(file.integer_or(file.root(), "depth", 0, 1, 9), 3);
    EXPECT_EQ(file.number_or(file.root(), "depth", 0, 1, 9), 3.0) << "an integer is a number";
    EXPECT_EQ(file.number_or(file.root(), "share", 0, 0, 1), 0.25);
    EXPECT_TRUE(file.boolean_or(file.root(), "open", false));
    EXPECT_EQ(file.integer_or(file.root(), "missing", 7, 1, 9), 7);
    EXPECT_EQ(file.root().find("gate")->find("upper")->find("width")->place.line, 9);
    EXPECT_EQ(file.root().find("gate")->find("upper")->find("width")->place.column, 9);
    const auto boats = file.tables(file.root(), "boat", 5);
    ASSERT_EQ(boats.size(), 2u);
    EXPECT_EQ(boats[1]->find("name")->text, "Tug");
    EXPECT_TRUE(file.tables(file.root(), "barge", 5).empty());
    const DataNode& list = *file.root().find("list");
    ASSERT_EQ(list.items.size(), 3u);
    EXPECT_EQ(list.items[2].find("three")->integer, 3);
    std::vector<std::string> keys;
    for (const auto& entry : file.root().entries) keys.push_back(entry.key);
    EXPECT_EQ(keys, (std::vector<std::string>{"name", "depth", "share", "open", "list", "gate", "boat"}))
        << "in the order of the file";
}

TEST(DataFile, EveryComplaintNamesFileLineAndColumn) {
    const auto root = [](const DataFile& file) -> const DataNode& { return file.root(); };
    EXPECT_EQ(
        complaint([&](const DataFile& file) {
            file.allow_only(root(file), {"name", "dept", "share", "open", "list", "gate", "boat"});
        }),
        "weir.toml, line 3, column 1: there is no key 'depth' (expected dept, perhaps; there are name, dept, share, "
        "open, list, gate or boat)");
    EXPECT_EQ(complaint([&](const DataFile& file) { (void)file.integer_or(root(file), "depth", 0, 4, 9); }),
              "weir.toml, line 3, column 9: 'depth' = 3 is out of range (expected 4 to 9)");
    EXPECT_EQ(complaint([&](const DataFile& file) { (void)file.integer_or(root(file), "share", 0, 4, 9); }),
              "weir.toml, line 4, column 9: 'share' is not an integer (expected 4 to 9)");
    EXPECT_EQ(complaint([&](const DataFile& file) { (void)file.number_or(root(file), "name", 0, 0, 1); }),
              "weir.toml, line 2, column 8: 'name' is not a number (expected 0 to 1)");
    EXPECT_EQ(complaint([&](const DataFile& file) { (void)file.text_or(root(file), "open", ""); }),
              "weir.toml, line 5, column 8: 'open' is not a string (expected a string in quotes)");
    EXPECT_EQ(complaint([&](const DataFile& file) { (void)file.tables(root(file), "name", 5); }),
              "weir.toml, line 2, column 8: 'name' is not a list of tables (expected [[name]] before each)");
    EXPECT_NE(complaint([&](const DataFile& file) { (void)file.tables(root(file), "list", 5); }).find("line 6"),
              std::string::npos);
    EXPECT_NE(complaint([&](const DataFile& file) { (void)file.tables(root(file), "boat", 1); }).find("more than 1"),
              std::string::npos);
}

TEST(DataFile, WhatIsNoTomlIsSaidAndNothingTrips) {
    const auto nothing = [](const DataFile&) {};
    for (const std::string wrong :
         {"a = ", "a", "[a", "[[a", "[[=", "[ ]\n=", "a = 1\na = 2", "a = \"", "= 3", "a = [1,", "a = {b = 1", "\x01",
          "a = 1\n\xc2\xa0", "ä = 1", "a = \"\"\"\nb", "a = '''"})
        EXPECT_TRUE(complaint(nothing, wrong).starts_with("weir.toml, line "))
            << wrong << ": " << complaint(nothing, wrong);
    EXPECT_NE(complaint(nothing, "a = " + std::string(5'000, '[')).find("nested too deeply"), std::string::npos);
    EXPECT_NE(complaint(nothing, "a = " + std::string(300'000, '1')).find("larger than"), std::string::npos);
    std::string dotted = "a";
    for (int i = 0; i < 30'000; ++i) dotted += ".a";
    for (const std::string& wrong_text :
         {dotted + " = 1", "[" + dotted + "]", "[[" + dotted + "]]", "b = { " + dotted + " = 1 }"})
        EXPECT_NE(complaint(nothing, wrong_text).find("a key has too many parts"), std::string::npos);
    EXPECT_EQ(complaint(nothing, "# " + std::string(500, '[') + "\na = \"" + std::string(500, '{') + "\""),
              "no complaint")
        << "brackets in comments and strings nest nothing";
    EXPECT_NE(complaint([](const DataFile& file) { (void)file.text_or(file.root(), "a", ""); }, "a = \"x\\u001b[2J\"")
                  .find("a control character"),
              std::string::npos);
    EXPECT_EQ(complaint(nothing, ""), "no complaint") << "an empty file is an empty table";
    EXPECT_EQ(complaint(nothing, "a = 1\r\nb = 2\r\n"), "no complaint") << "line ends of any kind";
}

TEST(DataFile, TextsMayHoldLettersOfAnyScript) {
    const std::string content =
        "\xef\xbb\xbfname = \"Zoë \\\"# Ω\\\\\" # ä \"\n"
        "other = 'Käthe # \\' # [[[ '\n"
        "long = \"\"\"\n[ # ñ \"\" \\\"\"\"\"\"\"\n"
        "raw = \'\'\'\n\\ # \'\' 水\'\'\'\n"
        "ends = \"é\"";
    const DataFile file(content, "weir.toml");
    const auto text_of = [&](const char* key) { return file.text_or(file.root(), key, "missing"); };
    EXPECT_EQ(text_of("name"), "Zoë \"# Ω\\");
    EXPECT_EQ(text_of("other"), "Käthe # \\");
    EXPECT_EQ(text_of("long"), "[ # ñ \"\" \"\"\"");
    EXPECT_EQ(text_of("raw"), "\\ # \'\' 水");
    EXPECT_EQ(text_of("ends"), "é");
    EXPECT_EQ(file.root().find("ends")->place.line, 7);
    const DataFile wide("a = { \"ñö\" = \"水水水\", b = \"U0x\", c = \"\\u00551xFF000000\" }", "weir.toml");
    const DataNode& table = *wide.root().find("a");
    EXPECT_EQ(table.entries.at(0).key, "ñö");
    EXPECT_EQ(table.entries.at(0).value.text, "水水水");
    EXPECT_EQ(table.entries.at(0).value.place.column, 14) << "letters are counted";
    EXPECT_EQ(table.entries.at(1).place.column, 21);
    EXPECT_EQ(table.entries.at(1).value.text, "U0x") << "what stands for letters inside is no text of the file";
    EXPECT_EQ(table.entries.at(2).value.text, "U1xFF000000");
    const auto nothing = [](const DataFile&) {};
    EXPECT_EQ(complaint(nothing, "a = \"ää\xff\""),
              "weir.toml, line 1, column 8: a character is not UTF-8 (expected a file that is saved as UTF-8)");
    EXPECT_EQ(complaint(nothing, "b = 2 # ö\na = ä"),
              "weir.toml, line 2, column 5: a letter beyond ASCII stands outside quotes (expected quotes around the "
              "text)");
    for (const std::string wrong : {"\xc0\x80", "\xe0\x80\x80", "\xed\xa0\x80", "\xf4\x90\x80\x80", "\xc3", "\x80"})
        EXPECT_NE(complaint(nothing, "a = \"" + wrong + "\"").find("line 1, column 6: a character is not UTF-8"),
                  std::string::npos);
}
