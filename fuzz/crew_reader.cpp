// Whatever bytes a crew file holds, reading it gives a crew that can play, or an error that says where.

#include <arvek/game/input_error.hpp>
#include <cstddef>
#include <cstdint>
#include <cstdlib>

#include "scuffle/scuffle.hpp"

extern "C" int LLVMFuzzerTestOneInput(const std::uint8_t* data, std::size_t size) {
    using waterway::Scuffle;
    try {
        const auto crew = waterway::read_crew({reinterpret_cast<const char*>(data), size}, "crew");
        const auto game = Scuffle::of_crews(crew, crew);
        auto position = game.initial_position();
        arvek::Random random(size);
        arvek::MoveList<Scuffle::Move> moves;
        for (int action = 0; action < 8 && !game.outcome(position); ++action) {
            if (!(game.read_position(game.position_text(position)) == position)) std::abort();
            moves.clear();
            game.generate_moves(position, moves);
            if (moves.empty()) std::abort();
            game.play(position, moves[size % moves.size()]);
            settle_chance(game, position, random);
        }
    } catch (const arvek::InputError&) {
    }
    return 0;
}
