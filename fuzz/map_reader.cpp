// Whatever bytes a map file holds, reading it gives a map that a game can be played on, or an error that says where.

#include <arvek/game/input_error.hpp>
#include <cstddef>
#include <cstdint>
#include <cstdlib>

#include "nightwatch/nightwatch.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    using waterway::Nightwatch;
    try {
        const auto game = Nightwatch::on_map({reinterpret_cast<const char*>(data), size});
        auto position = game.initial_position();
        if (!(game.read_position(game.position_text(position)) == position)) std::abort();
        arvek::MoveList<Nightwatch::Move> moves;
        for (int ply = 0; ply < 4 && !game.outcome(position); ++ply) {
            moves.clear();
            game.generate_moves(position, moves);
            if (moves.empty()) std::abort();
            game.play(position, moves[size % moves.size()]);
        }
    } catch (const arvek::InputError&) {
    }
    return 0;
}
