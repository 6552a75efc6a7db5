#include "arvek/arena/record.hpp"

#include <set>

#include "game_line.hpp"

namespace arvek {

using Json = detail::RecordFile::Json;

MatchRecord::MatchRecord(const std::string& path, const MatchIdentity& identity, bool resume) {
    Json head = detail::head_of(identity);
    head["a"] = identity.a;
    head["b"] = identity.b;
    std::set<int> known;
    const auto take_over = [&](const Json& line) -> std::string {
        GameRecord game = detail::game_of(line, identity.a, identity.b, identity.players);
        if (std::string problem = detail::what_cannot_be(game, identity.players); !problem.empty()) return problem;
        if (!known.insert(game.counted.number).second)
            return "game " + std::to_string(game.counted.number) + " is there twice";
        games_.push_back(std::move(game));
        return "";
    };
    file_ = std::make_unique<detail::RecordFile>(path, "match", head, "game of a match", resume, take_over);
}

MatchRecord::~MatchRecord() = default;

void MatchRecord::add(const GameRecord& game) { file_->write(detail::line_of(game)); }

}  // namespace arvek
