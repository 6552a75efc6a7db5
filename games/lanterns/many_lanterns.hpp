#pragma once
// Lanterns for three and four. Rules, moves and texts are those of Lanterns (lanterns.hpp), with Plum and Slate; a game
// of its own, so that the one for two stays as small as it can be. Who has a line is paid players - 1, the others -1.

#include <array>
#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <string_view>
#include <vector>

#include <arvek/game/board.hpp>
#include <arvek/game/equivalence.hpp>
#include <arvek/game/evaluation.hpp>
#include <arvek/game/game.hpp>
#include <arvek/game/payoff_bounds.hpp>
#include <arvek/game/players.hpp>
#include <arvek/game/quantities.hpp>
#include <arvek/game/suggesters.hpp>

#include "lanterns/lanterns.hpp"

namespace waterway {

class ManyLanterns {
   public:
    using Parameters = Lanterns::Parameters;
    using Hooks = Lanterns::Hooks;
    using Move = Lanterns::Move;

    struct Position {
        std::array<Hooks, 4> lanterns{};
        std::uint64_t to_move = 0;

        Hooks taken() const { return lanterns[0] | lanterns[1] | lanterns[2] | lanterns[3]; }
        friend bool operator==(const Position&, const Position&) = default;
    };

    /// Throws arvek::InputError for parameters out of range.
    explicit ManyLanterns(const Parameters& parameters);
    ManyLanterns() : ManyLanterns(Parameters{.players = 3}) {}

    int players() const { return parameters_.players; }
    arvek::Payoff most_payoff() const { return parameters_.players - 1; }

    Position initial_position() const { return {}; }
    arvek::Player player_to_move(const Position& position) const {
        return static_cast<arvek::Player>(position.to_move);
    }
    void generate_moves(const Position& position, arvek::MoveList<Move>& moves) const {
        const Hooks taken = position.taken();
        for (const std::uint8_t hook : hook_order_)
            if ((taken >> hook & 1) == 0 &&
                (!parameters_.drop || hook % parameters_.rows == 0 || (taken >> (hook - 1) & 1) != 0))
                moves.push_back({hook});
    }
    void play(Position& position, const Move& move) const {
        position.lanterns[position.to_move] |= Hooks{1} << move.hook;
        position.to_move = position.to_move + 1 == sides_ ? 0 : position.to_move + 1;
    }
    std::optional<arvek::Outcome> outcome(const Position& position) const;

    /// Lines that are still open to the player alone: 8 for each that lacks one lantern, 2 for each that lacks two; times
    /// the number of rivals, less those of all rivals.
    arvek::Score evaluate(const Position& position, arvek::Player player) const;
    std::uint64_t hash(const Position& position) const;
    /// A hook that makes a line first, then one that keeps a rival from it.
    int order_hint(const Position& position, const Move& move) const;
    /// Hooks near the middle first.
    int preference(const Position& position, const Move& move) const;

    std::span<const arvek::Quantity<ManyLanterns>> quantities() const;
    std::span<const arvek::Suggester<ManyLanterns>> suggesters() const;

    std::string position_text(const Position& position) const;
    Position read_position(std::string_view text) const;
    std::string move_text(const Position&, const Move& move) const { return two_.move_text({}, {move.hook}); }
    std::string drawing(const Position& position) const;
    arvek::Board board(const Position& position, arvek::Player viewer) const;
    std::string player_name(arvek::Player player) const;

    const Parameters& parameters() const { return parameters_; }

   private:
    bool has_line(Hooks lanterns) const {
        for (const Hooks line : lines_)
            if ((lanterns & line) == line) return true;
        return false;
    }
    int longest_open_line(Hooks own, Hooks others) const;
    /// Where another lantern would finish a line.
    int threats_of(Hooks own, Hooks taken) const;
    int rival_threats(const Position& position, Hooks taken) const;
    int promise(const Position& position, std::size_t side) const;

    Parameters parameters_;
    Lanterns two_;
    std::size_t sides_;
    Hooks all_ = 0;
    std::vector<Hooks> lines_;
    std::vector<std::uint8_t> hook_order_;
};

}  // namespace waterway
