#pragma once
// Tolls: tricks with hidden hands, for two to four. One of the Basin Games of the Lowmere Waterway.
//
// Cards of `suits` suits (r w s g) and `ranks` ranks are dealt one at a time until each side holds `hand`; what is left
// stays unseen. Teal leads the first trick; who takes a trick leads the next. A card of the suit led must be played where
// one is held. The highest trump, or else the highest card of the suit led, takes the trick, which is a toll. In the end
// each side is paid players x (own tolls) - hand. A side sees its own hand and all cards played, and remembers who could
// not follow which suit.
//
// Moves: the card, "r5"; events: "deal-r5". Positions: hands, the cards on the table from the leader on, tolls taken, who
// is known to lack which suit, the cards of finished tricks where there are some, the side to move (while cards are dealt,
// the side that is dealt to): "T:r1,r5 A:s3,w4 P:w1,w2 table:r4 took:1,0,0 lacks:A.w gone:g1,g2,r2 T". What one side sees
// is written the same, "?2" standing for two unknown cards.

#include <array>
#include <bit>
#include <cstdint>
#include <optional>
#include <span>
#include <string>
#include <string_view>

#include <arvek/game/board.hpp>
#include <arvek/game/chance.hpp>
#include <arvek/game/game.hpp>
#include <arvek/game/hashing.hpp>
#include <arvek/game/players.hpp>
#include <arvek/game/playing_out.hpp>
#include <arvek/game/quantities.hpp>
#include <arvek/game/suggesters.hpp>
#include <arvek/game/view.hpp>

namespace waterway {

class Tolls {
   public:
    static constexpr int most_ranks = 13;

    struct Parameters {
        int players = 3;
        int suits = 3;
        int ranks = 5;
        int hand = 4;
        std::string trump = "none";
    };

    /// A set of cards, one bit each: suit * 13 + rank - 1.
    using Cards = std::uint64_t;

    struct Position {
        std::array<Cards, 4> hands{};
        Cards gone = 0;                       ///< of finished tricks
        std::array<std::uint8_t, 4> table{};  ///< from the leader on
        std::array<std::uint8_t, 4> took{};   ///< tolls
        std::array<std::uint8_t, 4> lacks{};  ///< who is known to lack which suit, a bit each
        std::array<std::uint8_t, 4> holds{};  ///< how many cards
        std::uint8_t on_table = 0;
        std::uint8_t to_move = 0;  ///< while cards are dealt: who is dealt to
        std::uint8_t dealing = 1;
        std::uint8_t seen_by = all_see;        ///< of a view: whose it is; all other hands are empty then
        std::array<std::uint8_t, 4> unused{};  ///< so that no bytes lie between

        friend bool operator==(const Position&, const Position&) = default;
    };
    static constexpr std::uint8_t all_see = 255;

    /// What one side sees: the same without the hands of the others.
    struct View {
        Position seen;

        friend bool operator==(const View&, const View&) = default;
    };

    struct Move {
        std::uint8_t card = 0;
        std::uint8_t dealt = 0;  ///< 1: an event

        friend bool operator==(const Move&, const Move&) = default;
    };

    /// Throws arvek::InputError for parameters out of range.
    explicit Tolls(const Parameters& parameters);
    Tolls() : Tolls(Parameters{}) {}

    int players() const { return parameters_.players; }
    arvek::Payoff most_payoff() const { return (parameters_.players - 1) * parameters_.hand; }

    Position initial_position() const { return {}; }
    arvek::Player player_to_move(const Position& position) const {
        return static_cast<arvek::Player>(position.to_move);
    }
    void generate_moves(const Position& position, arvek::MoveList<Move>& moves) const {
        for (Cards left = playable(position); left != 0; left &= left - 1)
            moves.push_back({static_cast<std::uint8_t>(std::countr_zero(left)), 0});
    }
    void play(Position& position, const Move& move) const;
    std::optional<arvek::Outcome> outcome(const Position& position) const;

    bool chance_is_next(const Position& position) const { return position.dealing != 0; }
    void generate_events(const Position& position, arvek::MoveList<arvek::Event<Move>>& events) const;
    Move draw_event(const Position& position, arvek::Random& random) const;

    View view(const Position& position, arvek::Player player) const;
    /// The unseen cards among the other hands and what was not dealt, every way that agrees with who lacks what as likely.
    Position sample(const View& view, arvek::Random& random) const;

    Move random_move(const Position& position, arvek::Random& random) const {
        Cards cards = playable(position);
        for (std::uint64_t skip = random.below(static_cast<std::uint64_t>(std::popcount(cards))); skip > 0; --skip)
            cards &= cards - 1;
        return {static_cast<std::uint8_t>(std::countr_zero(cards)), 0};
    }

    std::uint64_t hash(const Position& position) const;
    /// Leads the highest, takes as cheaply as it can, or else throws the lowest.
    int preference(const Position& position, const Move& move) const;

    std::span<const arvek::Quantity<Tolls>> quantities() const;
    std::span<const arvek::Suggester<Tolls>> suggesters() const;

    std::string position_text(const Position& position) const;
    Position read_position(std::string_view text) const;
    std::string move_text(const Position& position, const Move& move) const;
    std::string view_text(const View& view) const;
    std::string drawing(const Position& position) const;
    arvek::Board board(const Position& position, arvek::Player viewer) const;
    std::string player_name(arvek::Player player) const;

    const Parameters& parameters() const { return parameters_; }

   private:
    static int suit_of(int card) { return card / most_ranks; }
    static int rank_of(int card) { return card % most_ranks + 1; }
    Cards suit_cards(int suit) const { return ranks_mask_ << (suit * most_ranks); }
    Cards playable(const Position& position) const {
        const Cards own = position.hands[position.to_move];
        if (position.on_table == 0) return own;
        const Cards following = own & suit_cards(suit_of(position.table[0]));
        return following != 0 ? following : own;
    }
    /// Whether the card beats the other, where `led` was led.
    bool beats(int card, int other, int led) const {
        const int suit = suit_of(card), others = suit_of(other);
        if (suit == others) return card > other;
        if (suit == trump_) return true;
        return others != trump_ && suit == led;
    }
    /// Whether the card beats all that lies on the table.
    bool takes_so_far(const Position& position, int card) const;
    /// How many higher cards of its suit the side to move has neither seen nor holds.
    int higher_unseen(const Position& position, int card) const;
    Cards on_table(const Position& position) const;
    std::string cards_text(Cards cards) const;
    std::string card_text(int card) const;
    std::string text_of(const Position& position) const;

    Parameters parameters_;
    std::size_t sides_;
    int trump_ = -1;
    Cards ranks_mask_ = 0, all_ = 0;
};

}  // namespace waterway
