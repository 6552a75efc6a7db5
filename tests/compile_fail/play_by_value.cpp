// A move that is played in a copy of the position.
// expect: play must take the position by reference, or it changes a copy:  void play(Position&, const Move&) const;
#include <arvek/search/minimax.hpp>

struct Game {
    using Position = int;
    using Move = int;
    Position initial_position() const { return 0; }
    arvek::Player player_to_move(const Position&) const { return {}; }
    void generate_moves(const Position&, arvek::MoveList<Move>& moves) const { moves.push_back(1); }
#ifdef SOUND
    void play(Position& position, const Move& move) const { position += move; }
#else
    void play(Position position, const Move& move) const { position += move; }
#endif
    std::optional<arvek::Outcome> outcome(const Position&) const { return std::nullopt; }
    arvek::Score evaluate(const Position&, arvek::Player) const { return {}; }
};

auto decide() { return arvek::Minimax(Game{}).decide(0, {.depth = 2}); }
