// expect: Arvek: evaluate is there but must be  arvek::Score evaluate(const Position&, arvek::Player) const;
#include <arvek/search/minimax.hpp>

struct Game {
    using Position = int;
    using Move = int;
    Position initial_position() const { return 0; }
    arvek::Player player_to_move(const Position&) const { return {}; }
    void generate_moves(const Position&, arvek::MoveList<Move>& moves) const { moves.push_back(1); }
    void play(Position& position, const Move& move) const { position += move; }
    std::optional<arvek::Outcome> outcome(const Position&) const { return std::nullopt; }
#ifdef SOUND
    arvek::Score evaluate(const Position&, arvek::Player) const { return {}; }
#else
    int evaluate(const Position&) const { return 0; }
#endif
};

auto decide() { return arvek::Minimax(Game{}).decide(0, {.depth = 2}); }
