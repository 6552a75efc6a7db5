// A search for two players of a game that says, when it is compiled, that it is for three.
// expect: this search is for games of two players
#include <arvek/search/alpha_beta.hpp>

struct Game {
    using Position = int;
    using Move = int;
    int initial_position() const { return 0; }
    arvek::Player player_to_move(const int&) const { return arvek::Player::First; }
    void generate_moves(const int&, arvek::MoveList<int>& moves) const { moves.push_back(1); }
    void play(int& position, const int&) const { ++position; }
    std::optional<arvek::Outcome> outcome(const int&) const { return std::nullopt; }
#ifdef SOUND
    static constexpr int players() { return 2; }
#else
    static constexpr int players() { return 3; }
#endif
};

auto decide() { return arvek::AlphaBeta(Game{}).decide(0, {.depth = 2}); }
