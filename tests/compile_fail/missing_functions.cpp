// expect: Arvek: the game needs  arvek::Player player_to_move(const Position&) const;
// expect: Arvek: the game needs  void generate_moves(const Position&, arvek::MoveList<Move>&) const;
// expect: Arvek: the game needs  std::optional<arvek::Outcome> outcome(const Position&) const;
#include <arvek/opponent/make_opponent.hpp>

struct Game {
    using Position = int;
    using Move = int;
    Position initial_position() const { return 0; }
    void play(Position& position, const Move& move) const { position += move; }
#ifdef SOUND
    arvek::Player player_to_move(const Position&) const { return {}; }
    void generate_moves(const Position&, arvek::MoveList<Move>& moves) const { moves.push_back(1); }
    std::optional<arvek::Outcome> outcome(const Position&) const { return std::nullopt; }
#else
    bool outcome(const Position&) const { return false; }
#endif
};

auto opponent() { return arvek::make_opponent(Game{}, arvek::OpponentSpec{}); }
