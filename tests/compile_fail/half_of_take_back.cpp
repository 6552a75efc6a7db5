// expect: Arvek: take-back must be the pair
#include <arvek/search/alpha_beta.hpp>

struct Game {
    using Position = int;
    using Move = int;
    Position initial_position() const { return 0; }
    arvek::Player player_to_move(const Position&) const { return {}; }
    void generate_moves(const Position&, arvek::MoveList<Move>& moves) const { moves.push_back(1); }
    void play(Position& position, const Move& move) const { position += move; }
    std::optional<arvek::Outcome> outcome(const Position&) const { return std::nullopt; }
    int play_reversibly(Position& position, const Move& move) const { return position += move; }
#ifdef SOUND
    void take_back(Position& position, const Move& move, const int&) const { position -= move; }
#else
    void take_back(Position& position, const Move& move) const { position -= move; }
#endif
};

auto decide() { return arvek::AlphaBeta(Game{}).decide(0, {.depth = 2}); }
