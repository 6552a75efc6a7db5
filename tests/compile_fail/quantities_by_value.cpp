// Quantities in a container that is gone before it is read.
// expect: quantities is there but must be  std::span<const arvek::Quantity<MyGame>> quantities() const;
#include <arvek/opponent/make_opponent.hpp>

struct Game {
    using Position = int;
    using Move = int;
    int initial_position() const { return 0; }
    arvek::Player player_to_move(const int&) const { return arvek::Player::First; }
    void generate_moves(const int&, arvek::MoveList<int>& moves) const { moves.push_back(1); }
    void play(int& position, const int&) const { ++position; }
    std::optional<arvek::Outcome> outcome(const int&) const { return std::nullopt; }
#ifdef SOUND
    std::span<const arvek::Quantity<Game>> quantities() const { return {}; }
#else
    std::vector<arvek::Quantity<Game>> quantities() const { return {}; }
#endif
};

auto opponent() { return arvek::make_opponent(Game{}, arvek::read_opponent("ruled")); }
