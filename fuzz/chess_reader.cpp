// Texts of chess: positions, moves and games. What is read must write itself and be read again as the same.

#include <cstdlib>
#include <string_view>

#include <arvek/game/input_error.hpp>
#include <arvek/game/text.hpp>

#include "chess/pgn.hpp"

extern "C" int LLVMFuzzerTestOneInput(const unsigned char* data, std::size_t size) {
    static const waterway::Chess chess;
    if (size == 0) return 0;
    const std::string_view text(reinterpret_cast<const char*>(data) + 1, size - 1);
    try {
        switch (data[0] % 3) {
            case 0: {
                const auto position = chess.read_position(text);
                if (!(chess.read_position(chess.position_text(position)) == position)) std::abort();
                if (chess.outcome(position)) return 0;
                arvek::MoveList<waterway::Chess::Move> moves;
                chess.generate_moves(position, moves);
                for (const auto& move : moves) {
                    auto after = position;
                    chess.play(after, move);
                    if (!(chess.read_position(chess.position_text(after)) == after)) std::abort();
                    if (!(chess.read_move(position, chess.move_text(position, move)) == move)) std::abort();
                }
                break;
            }
            case 1: {
                static const auto start =
                    chess.read_position("r3k2r/pPppqpb1/bn2pnp1/3PN3/1p2P3/2N2Q1p/P1PBBPPP/R3K2R w KQkq - 0 1");
                const auto move = arvek::move_from_text(chess, start, text);
                if (!arvek::legal_moves(chess, start).contains(move)) std::abort();
                break;
            }
            default: {
                for (const auto& game : waterway::read_pgn(chess, text, "fuzzed")) {
                    const auto again = waterway::read_pgn(chess, waterway::pgn_text(chess, game), "written");
                    if (again.size() != 1 || !(again[0].moves == game.moves) || !(again[0].start == game.start))
                        std::abort();
                }
            }
        }
    } catch (const arvek::InputError&) {
    }
    return 0;
}
