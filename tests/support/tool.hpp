#pragma once
// The tool, run in this process.

#include <gtest/gtest.h>
#include <unistd.h>
#include <arvek/tool/tool.hpp>

#include <algorithm>
#include <filesystem>
#include <fstream>
#include <iterator>
#include <sstream>
#include <string>
#include <vector>

#include "every_offer.hpp"
#include "support/json.hpp"

namespace testing_support {

struct Ran {
    int status = 0;
    std::string out;
    std::string err;

    nlohmann::json json() const { return parsed(out); }
};

inline Ran run(const std::vector<std::string>& arguments, const std::string& typed = "", bool colour = false) {
    arvek::tool::Tool tool("arvek");
    waterway::offer_every_game(tool);
    std::istringstream in(typed);
    std::ostringstream out, err;
    const int status = tool.run(arguments, {in, out, err, colour, false, false});
    return {status, out.str(), err.str()};
}

inline std::vector<std::string> words(const std::string& line) {
    std::istringstream in(line);
    return {std::istream_iterator<std::string>(in), {}};
}

/// A file that is gone afterwards.
class TemporaryFile {
   public:
    explicit TemporaryFile(const std::string& content, const std::string& ending = ".toml") {
        static int number = 0;
        path_ = (std::filesystem::temp_directory_path() /
                 ("arvek_test_" + std::to_string(::getpid()) + "_" + std::to_string(number++) + ending))
                    .string();
        std::ofstream(path_) << content;
    }
    ~TemporaryFile() { std::filesystem::remove(path_); }
    const std::string& path() const { return path_; }
    std::string text() const {
        std::ostringstream all;
        all << std::ifstream(path_).rdbuf();
        return all.str();
    }

   private:
    std::string path_;
};

inline void expect_refused(const std::vector<std::string>& arguments, const std::string& part) {
    const Ran ran = run(arguments);
    std::string line;
    for (const std::string& argument : arguments) line += argument + " ";
    EXPECT_EQ(ran.status, 2) << line;
    EXPECT_EQ(ran.out, "") << line;
    EXPECT_EQ(std::count(ran.err.begin(), ran.err.end(), '\n'), 1) << line << ran.err;
    EXPECT_EQ(ran.err.rfind("arvek: ", 0), 0u) << ran.err;
    EXPECT_NE(ran.err.find(part), std::string::npos) << line << ran.err;
}

}  // namespace testing_support
