#include "chess/offer.hpp"

#include <arvek/tool/tool.hpp>

#include "chess/pgn.hpp"
#include "compiled.hpp"

namespace waterway {

namespace {

/// The games of a PGN file that begin as chess does and were finished.
std::vector<arvek::GameRecord> games_of_pgn(const Chess& chess, std::string_view text, std::string_view source) {
    std::vector<arvek::GameRecord> games;
    for (const PgnGame& read : read_pgn(chess, text, source)) {
        if (!(read.start == chess.initial_position()) || read.result == "*") continue;
        arvek::GameRecord& game = games.emplace_back();
        game.first = read.tag("White");
        game.second = read.tag("Black");
        Chess::Position position = read.start;
        for (const Chess::Move& move : read.moves) {
            game.moves.push_back(chess.move_text(position, move));
            chess.play(position, move);
        }
        arvek::GameResult& result = game.counted;
        result.number = static_cast<int>(games.size()) - 1;
        result.plies = read.moves.size();
        result.points_a = read.result == "1-0" ? 1.0 : read.result == "0-1" ? 0.0 : 0.5;
        result.winner = read.result == "1-0"   ? arvek::MatchWinner::A
                        : read.result == "0-1" ? arvek::MatchWinner::B
                                               : arvek::MatchWinner::Nobody;
    }
    return games;
}

}  // namespace

void offer_chess(arvek::tool::Tool& tool) {
    tool.add<Chess>("chess", "the standard game")
        .parameter("weights", &Chess::Parameters::weights, "a file of weights for the evaluation")
        .games_in(".pgn", &games_of_pgn);
}

}  // namespace waterway

// For everyone who makes opponents or checks the rules.
WATERWAY_COMPILED(, waterway::Chess)
