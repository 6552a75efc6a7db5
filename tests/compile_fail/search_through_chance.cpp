// expect: Arvek: this search does not weigh chance
#include <arvek/search/alpha_beta.hpp>

struct Game {
    using Position = int;
    using Move = int;
    Position initial_position() const { return 0; }
    arvek::Player player_to_move(const Position&) const { return {}; }
    void generate_moves(const Position&, arvek::MoveList<Move>& moves) const { moves.push_back(1); }
    void play(Position& position, const Move& move) const { position += move; }
    std::optional<arvek::Outcome> outcome(const Position&) const { return std::nullopt; }
#ifndef SOUND
    bool chance_is_next(const Position&) const { return false; }
    void generate_events(const Position&, arvek::MoveList<arvek::Event<Move>>&) const {}
#endif
};

auto decide() { return arvek::AlphaBeta(Game{}).decide(0, {.depth = 2}); }
