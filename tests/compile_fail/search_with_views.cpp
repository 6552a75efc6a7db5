// A search that sees the whole position, of a game whose players do not.
// expect: Arvek: this search sees the whole position, and players of this game do not, as its view() says
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
    using View = int;
    View view(const Position& position, arvek::Player) const { return position / 2; }
    Position sample(const View& view, arvek::Random&) const { return 2 * view; }
#endif
};

auto decide() { return arvek::AlphaBeta(Game{}).decide(0, {.depth = 2}); }
