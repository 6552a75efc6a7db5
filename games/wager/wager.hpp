#pragma once
// Wager: one card each, and a bluff. One of the Basin Games of the Lowmere Waterway.
//
// Of cards 1 to `cards` each of two sides is dealt one; each puts in 1. Teal checks or bets 1; after a check Amber checks,
// and the higher card takes what is in, or bets 1. Who faces a bet folds, and loses what was put in, or calls, and the
// higher card takes. Moves: "check", "bet", "fold", "call"; events: "deal-2". Positions: each side's card ('?' where it is
// still to be dealt), what was done so far (k check, b bet, f fold, c call, '-' for nothing), the side to move: "3 1 kb T".
// What one side sees has '?' for the other's card.

#include <array>
#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <string_view>

#include <arvek/game/board.hpp>
#include <arvek/game/chance.hpp>
#include <arvek/game/game.hpp>
#include <arvek/game/hashing.hpp>
#include <arvek/game/quantities.hpp>
#include <arvek/game/suggesters.hpp>
#include <arvek/game/view.hpp>

namespace waterway {

class Wager {
   public:
    struct Parameters {
        int cards = 3;
    };

    enum class Deed : std::uint8_t { None, Check, Bet, Fold, Call };

    struct Position {
        std::array<std::uint8_t, 2> cards{};  ///< 0: not dealt, or not seen
        std::array<Deed, 3> done{};

        friend bool operator==(const Position&, const Position&) = default;
    };
    struct View {
        Position seen;
        std::uint8_t viewer = 0;
        std::uint8_t dealt = 0;  ///< how many have a card

        friend bool operator==(const View&, const View&) = default;
    };
    struct Move {
        Deed deed = Deed::None;
        std::uint8_t card = 0;  ///< of an event

        friend bool operator==(const Move&, const Move&) = default;
    };

    /// Throws arvek::InputError for parameters out of range.
    explicit Wager(const Parameters& parameters);
    Wager() : Wager(Parameters{}) {}

    arvek::Payoff most_payoff() const { return 2; }

    Position initial_position() const { return {}; }
    arvek::Player player_to_move(const Position& position) const {
        return count(position) % 2 == 0 ? arvek::Player::First : arvek::Player::Second;
    }
    void generate_moves(const Position& position, arvek::MoveList<Move>& moves) const;
    void play(Position& position, const Move& move) const;
    std::optional<arvek::Outcome> outcome(const Position& position) const;

    bool chance_is_next(const Position& position) const { return position.cards[1] == 0; }
    void generate_events(const Position& position, arvek::MoveList<arvek::Event<Move>>& events) const;

    View view(const Position& position, arvek::Player player) const;
    Position sample(const View& view, arvek::Random& random) const;

    std::uint64_t hash(const Position& position) const;
    /// Bets and calls with the upper half of the cards.
    int preference(const Position& position, const Move& move) const;

    std::span<const arvek::Quantity<Wager>> quantities() const;
    std::span<const arvek::Suggester<Wager>> suggesters() const;

    std::string position_text(const Position& position) const;
    Position read_position(std::string_view text) const;
    std::string move_text(const Position& position, const Move& move) const;
    std::string view_text(const View& view) const;
    arvek::Board board(const Position& position, arvek::Player viewer) const;
    std::string player_name(arvek::Player player) const;

   private:
    static std::size_t count(const Position& position) {
        std::size_t done = 0;
        while (done < position.done.size() && position.done[done] != Deed::None) ++done;
        return done;
    }
    int own_card(const Position& position) const;
    std::string text_of(const Position& position) const;

    Parameters parameters_;
};

}  // namespace waterway
