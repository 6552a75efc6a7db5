// expect: Arvek: the game needs a nested type  Position  that is copyable, default-constructible and has operator==
#include <arvek/search/minimax.hpp>

struct Game {
    struct Position {
        int stones = 0;
#ifdef SOUND
        bool operator==(const Position&) const = default;
#endif
    };
    using Move = int;
    Position initial_position() const { return {}; }
    arvek::Player player_to_move(const Position&) const { return {}; }
    void generate_moves(const Position&, arvek::MoveList<Move>& moves) const { moves.push_back(1); }
    void play(Position& position, const Move& move) const { position.stones += move; }
    std::optional<arvek::Outcome> outcome(const Position&) const { return std::nullopt; }
};

auto decide() { return arvek::Minimax(Game{}).decide(Game::Position{}, {.depth = 2}); }
