// expect: Arvek: the tool needs  Position read_position(std::string_view) const;
// expect: Arvek: the tool needs  std::string move_text(const Position&, const Move&) const;
#include <arvek/tool/tool.hpp>

struct Game {
    using Position = int;
    using Move = int;
    Position initial_position() const { return 0; }
    arvek::Player player_to_move(const Position&) const { return {}; }
    void generate_moves(const Position&, arvek::MoveList<Move>& moves) const { moves.push_back(1); }
    void play(Position& position, const Move& move) const { position += move; }
    std::optional<arvek::Outcome> outcome(const Position&) const { return std::nullopt; }
    std::string position_text(const Position& position) const { return std::to_string(position); }
#ifdef SOUND
    Position read_position(std::string_view) const { return 0; }
    std::string move_text(const Position&, const Move& move) const { return std::to_string(move); }
#endif
};

int run(int argc, char** argv) {
    arvek::tool::Tool tool("game");
    tool.add<Game>("game", "a game");
    return tool.run(argc, argv);
}
