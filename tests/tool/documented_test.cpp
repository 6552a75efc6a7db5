// What the README and the guide tell people to type.

#include <gtest/gtest.h>
#include <arvek/game/input_error.hpp>

#include <algorithm>
#include <filesystem>
#include <fstream>
#include <sstream>
#include <string>
#include <vector>

#include "arguments.hpp"
#include "support/tool.hpp"

namespace {

namespace fs = std::filesystem;

struct Documented {
    std::string where;  ///< "docs/lab.md, line 12"
    std::vector<std::string> words;
};

/// The words of a line as a shell has them, up to a comment, a pipe or the next command.
std::vector<std::string> shell_words(const std::string& line) {
    std::vector<std::string> words;
    std::string word;
    bool any = false;
    char quote = 0;
    for (const char letter : line) {
        if (quote != 0) {
            if (letter == quote)
                quote = 0;
            else
                word += letter;
        } else if (letter == '"' || letter == '\'') {
            quote = letter;
            any = true;
        } else if (letter == ' ') {
            if (any) words.push_back(word);
            word.clear();
            any = false;
        } else if (!any && (letter == '#' || letter == '|' || letter == '>' || letter == '&')) {
            return words;
        } else if (letter == ';') {
            break;
        } else {
            word += letter;
            any = true;
        }
    }
    if (any) words.push_back(word);
    return words;
}

/// The README and the guide.
std::vector<fs::path> texts() {
    std::vector<fs::path> files{fs::path(ARVEK_SOURCE_DIR) / "README.md"};
    for (const auto& entry : fs::directory_iterator(fs::path(ARVEK_SOURCE_DIR) / "docs"))
        if (entry.path().extension() == ".md") files.push_back(entry.path());
    return files;
}

/// Every command of the program in the blocks of a text.
std::vector<Documented> commands_of(const fs::path& file) {
    std::vector<Documented> found;
    std::ifstream text(file);
    bool inside = false;
    std::string whole;
    int number = 0;
    for (std::string line; std::getline(text, line);) {
        ++number;
        if (line.rfind("```", 0) == 0) {
            inside = !inside;
            continue;
        }
        if (!inside) continue;
        if (!line.empty() && line.back() == '\\') {
            whole += line.substr(0, line.size() - 1);
            continue;
        }
        whole += line;
        auto words = shell_words(whole.rfind("$ ", 0) == 0 ? whole.substr(2) : whole);
        whole.clear();
        if (words.size() < 2 || (words[0] != "arvek" && words[0] != "build/release/bin/arvek")) continue;
        words.erase(words.begin());
        found.push_back({fs::relative(file, ARVEK_SOURCE_DIR).string() + ", line " + std::to_string(number), words});
    }
    return found;
}

}  // namespace

TEST(Documented, EveryWholeProfileIsRight) {
    int profiles = 0;
    for (const fs::path& file : texts()) {
        std::ifstream text(file);
        std::string block;
        bool inside = false;
        for (std::string line; std::getline(text, line);) {
            if (line == "```toml") {
                inside = true;
                block.clear();
            } else if (inside && line == "```") {
                inside = false;
                const auto has = [&](const char* key) { return block.find(key) != std::string::npos; };
                // One that names a model needs its file.
                if (!has("name = ") || !has("\ngame = ") || !has("\nchoose = ") || has("\nmodel = ")) continue;
                ++profiles;
                const testing_support::TemporaryFile profile(block);
                const auto ran = testing_support::run({"opponents", "check", profile.path()});
                EXPECT_EQ(ran.status, 0) << file << "\n" << block << ran.out << ran.err;
                EXPECT_EQ(ran.out.find("warning"), std::string::npos) << file << "\n" << block << ran.out;
            } else if (inside) {
                block += line + "\n";
            }
        }
    }
    EXPECT_GE(profiles, 10);
}

TEST(Documented, EveryCommandIsOneThatTheProgramTakes) {
    std::size_t commands = 0;
    for (const fs::path& file : texts())
        for (const auto& [where, words] : commands_of(file)) {
            ++commands;
            std::string line;
            for (const std::string& word : words) line += " " + word;
            try {
                (void)arvek::tool::parse_command_line("arvek", words);
            } catch (const arvek::InputError& error) {
                ADD_FAILURE() << where << ": arvek" << line << "\n" << error.what();
            }
            // Files that come with the product, as the text names them; not those that are written.
            for (std::size_t i = 1; i < words.size(); ++i) {
                const std::string path = words[i].substr(0, words[i].find('@'));
                if (words[i - 1] == "--out") continue;
                if (path.rfind("demo/", 0) == 0 || path.rfind("examples/", 0) == 0) {
                    EXPECT_TRUE(fs::exists(fs::path(ARVEK_SOURCE_DIR) / path)) << where << ": " << path;
                }
            }
        }
    EXPECT_GT(commands, 60u) << "fewer commands than the texts have";
}
