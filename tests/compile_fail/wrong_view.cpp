// A game whose sample() forgets the generator, and whose View cannot be told from others.
// expect: Arvek: views must be a nested type  View  that is copyable, default-constructible and has operator==, and the pair  View view(const Position&, arvek::Player) const;  Position sample(const View&, arvek::Random&) const;
#include <arvek/search/monte_carlo.hpp>

struct Game {
    using Position = int;
    using Move = int;
    using View = int;
    Position initial_position() const { return 0; }
    arvek::Player player_to_move(const Position&) const { return {}; }
    void generate_moves(const Position&, arvek::MoveList<Move>& moves) const { moves.push_back(1); }
    void play(Position& position, const Move& move) const { position += move; }
    std::optional<arvek::Outcome> outcome(const Position&) const { return std::nullopt; }
    View view(const Position& position, arvek::Player) const { return position / 2; }
#ifdef SOUND
    Position sample(const View& view, arvek::Random&) const { return 2 * view; }
#else
    Position sample(const View& view) const { return 2 * view; }
#endif
};

auto decide() { return arvek::MonteCarlo<Game>(Game{}).decide(0, {.playouts = 2}); }
