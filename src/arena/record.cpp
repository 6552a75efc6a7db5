#include "arvek/arena/record.hpp"

#include <set>

#include "game_line.hpp"

namespace arvek {

using Json = RecordFile::Json;

MatchRecord::MatchRecord(const std::string& path, const MatchIdentity& identity, bool resume) {
    Json head = head_of_record(identity);
    head["a"] = identity.a;
    head["b"] = identity.b;
    std::set<int> known;
    const auto take_over = [&](const Json& line) -> std::string {
        GameRecord game = game_of_line(line, identity.a, identity.b, identity.players);
        if (std::string problem = what_cannot_be(game, identity.players); !problem.empty()) return problem;
        if (!known.insert(game.counted.number).second)
            return "game " + std::to_string(game.counted.number) + " is there twice";
        games_.push_back(std::move(game));
        return "";
    };
    file_ = std::make_unique<RecordFile>(path, "match", head, "game of a match", resume, take_over);
}

MatchRecord::~MatchRecord() = default;

void MatchRecord::add(const GameRecord& game) { file_->write(line_of_game(game)); }

}  // namespace arvek
