#pragma once
// Stowage with lots that are known beforehand: a puzzle for one without chance, some fifty plies long.

#include <arvek/game/game.hpp>
#include <arvek/game/hashing.hpp>
#include <arvek/game/players.hpp>
#include <arvek/game/random.hpp>

#include "stowage/stowage.hpp"

namespace testing_support {

class KnownStowage {
   public:
    using Position = waterway::Stowage::Position;
    using Move = waterway::Stowage::Move;

    KnownStowage(const waterway::Stowage::Parameters& parameters, std::uint64_t seed)
        : game_(parameters), seed_(seed) {}

    static constexpr int players() { return 1; }
    Position initial_position() const { return drawn(game_.initial_position()); }
    arvek::Player player_to_move(const Position&) const { return arvek::Player::First; }
    void generate_moves(const Position& position, arvek::MoveList<Move>& moves) const {
        game_.generate_moves(position, moves);
    }
    void play(Position& position, const Move& move) const {
        game_.play(position, move);
        position = drawn(position);
    }
    std::optional<arvek::Outcome> outcome(const Position& position) const { return game_.outcome(position); }
    arvek::Score evaluate(const Position& position, arvek::Player player) const {
        return game_.evaluate(position, player);
    }
    std::uint64_t hash(const Position& position) const { return game_.hash(position); }

   private:
    /// The next lot follows from the seed and how many were stowed.
    Position drawn(Position position) const {
        arvek::Random random(arvek::derived_seed(seed_, position.stowed));
        while (!game_.outcome(position) && game_.chance_is_next(position))
            game_.play(position, game_.draw_event(position, random));
        return position;
    }

    waterway::Stowage game_;
    std::uint64_t seed_;
};

}  // namespace testing_support
