#include "arvek/arena/league_record.hpp"

#include <set>

#include "game_line.hpp"

namespace arvek {

namespace {
using Json = RecordFile::Json;
}

LeagueRecord::LeagueRecord(const std::string& path, const LeagueIdentity& identity, bool resume) {
    Json head = head_of_record(identity);
    head["names"] = identity.names;
    head["shape"] = identity.shape == LeagueShape::EveryPair ? "every pair" : "against the first";
    // Whose games they are does not depend on how many there are to be.
    const League league({.players = static_cast<int>(identity.names.size()),
                         .seats = identity.players,
                         .games = 1,
                         .shape = identity.shape});
    std::set<std::pair<std::size_t, int>> known;
    const auto take_over = [&](const Json& line) -> std::string {
        const auto pairing = integer_at<std::uint64_t>(line, "pairing");
        if (!league.knows({static_cast<std::size_t>(pairing), 0}))
            return "there is no pairing " + std::to_string(pairing);
        const auto [a, b] = league.players_of(static_cast<std::size_t>(pairing));
        GameRecord game = game_of_line(line, identity.names[a], identity.names[b], identity.players);
        if (std::string problem = what_cannot_be(game, identity.players); !problem.empty()) return problem;
        if (!known.emplace(pairing, game.counted.number).second)
            return "game " + std::to_string(game.counted.number) + " of the pairing is there twice";
        games_.emplace_back(GameTask{static_cast<std::size_t>(pairing), game.counted.number}, std::move(game));
        return "";
    };
    file_ = std::make_unique<RecordFile>(path, "league", head, "game of a league", resume, take_over);
}

LeagueRecord::~LeagueRecord() = default;

void LeagueRecord::add(const GameTask& task, const GameRecord& game) {
    Json line{{"pairing", task.pairing}};
    line.update(line_of_game(game));
    file_->write(line);
}

}  // namespace arvek
