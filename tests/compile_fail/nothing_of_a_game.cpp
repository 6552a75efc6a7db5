// expect: Arvek: the game needs a nested type  Move  that is copyable, default-constructible and has operator==
#include <arvek/search/alpha_beta.hpp>

struct Game {
    using Position = int;
#ifdef SOUND
    using Move = int;
#endif
    Position initial_position() const { return 0; }
    arvek::Player player_to_move(const Position&) const { return {}; }
    void generate_moves(const Position&, arvek::MoveList<int>& moves) const { moves.push_back(1); }
    void play(Position& position, const int& move) const { position += move; }
    std::optional<arvek::Outcome> outcome(const Position&) const { return std::nullopt; }
};

auto best_move() { return arvek::AlphaBeta(Game{}).decide(0, {.depth = 2}).move; }
