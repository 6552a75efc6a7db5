// Functions that nobody would ask for, since their names have slips of the pen.
// expect: there is evalute(); did you mean  evaluate ?
// expect: there is draw_at_occurence(); did you mean  draw_at_occurrence ?
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
    int draw_at_occurrence() const { return 3; }
    std::uint64_t hash(const Position& position) const { return static_cast<std::uint64_t>(position); }
#else
    arvek::Score evalute(const Position&, arvek::Player) const { return {}; }
    int draw_at_occurence() const { return 3; }
#endif
};

auto decide() { return arvek::Minimax(Game{}).decide(0, {.depth = 2}); }
