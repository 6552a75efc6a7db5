#pragma once
// The games of a match in a file, one line of JSON each, written as they end: what an interrupted match goes on from.

#include <cstdint>
#include <memory>
#include <string>
#include <vector>

#include "writing.hpp"

namespace arvek::tool {

/// What must be alike for games to belong to the same match.
struct MatchIdentity {
    Subject subject;
    std::string a;
    std::string b;
    std::uint64_t digest_a = 0;  ///< of the profile files, where the opponents are such
    std::uint64_t digest_b = 0;
    std::uint64_t seed = 0;
    int opening_plies = 0;
    std::vector<std::vector<std::string>> openings;
};

class MatchFile {
   public:
    /// Begins a file, or with `resume` reads the one that is there; where there is none, that begins one as well.
    /// Throws InputError for a file that is there without `resume`, that is none of a match or one of another match,
    /// and where it can not be written. A last line that was not finished is taken off; nothing else of the file is
    /// changed.
    MatchFile(const std::string& path, const MatchIdentity& identity, bool resume);
    ~MatchFile();
    MatchFile(const MatchFile&) = delete;
    MatchFile& operator=(const MatchFile&) = delete;

    const std::vector<GameRecord>& games() const { return games_; }
    /// Appends a game; it is in the file when this returns.
    void add(const GameRecord& game);

   private:
    void read(const std::string& expected_head);
    void write_line(const std::string& line);

    std::string path_;
    std::string a_, b_;
    std::vector<GameRecord> games_;
    int file_ = -1;
};

}  // namespace arvek::tool
