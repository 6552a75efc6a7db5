#pragma once
// Three wherries race for two loads. Each is dealt two of six tokens, which the others do not see. Before a load the tide
// is cast: at high tide the highest token takes the load, at low tide the lowest. In turn each lays a token.

#include <array>
#include <bit>
#include <string>
#include <string_view>

#include <arvek/game/abilities.hpp>
#include <arvek/game/chance.hpp>
#include <arvek/game/players.hpp>
#include <arvek/game/random.hpp>
#include <arvek/game/text.hpp>
#include <arvek/game/view.hpp>

namespace zoo {

using namespace arvek;

struct Wherries {
    static constexpr int tokens = 6;
    enum class Tide : std::uint8_t { NotCast, High, Low };

    struct Position {
        std::array<std::uint8_t, 3> hands{};  // a bit for each token; none before the deal
        std::array<std::uint8_t, 3> laid{};   // for this load: the token, from 1
        std::array<std::uint8_t, 3> loads{};
        std::uint8_t gone = 0;  // tokens laid for the load before
        Tide tide = Tide::NotCast;
        Player to_move = Player::First;
        std::uint8_t unused = 0;
        friend bool operator==(const Position&, const Position&) = default;
    };
    struct Move {
        std::int8_t kind = 0;  // 0 a token, 1 a deal, 2 a tide
        std::int8_t value = 0;
        friend bool operator==(const Move&, const Move&) = default;
    };
    struct View {
        Position seen;  // with no hand but the player's own
        std::uint8_t player = 0;
        friend bool operator==(const View&, const View&) = default;
    };
    using Undo = Position;

    std::string_view broken;
    bool is(std::string_view fault) const { return broken == fault; }

    static constexpr int players() { return 3; }
    static std::size_t seat(Player player) { return index_of(player); }
    static std::uint8_t bit(int token) { return static_cast<std::uint8_t>(1 << (token - 1)); }
    static bool dealt(const Position& p) { return (p.hands[0] | p.hands[1] | p.hands[2] | p.gone | p.laid[0]) != 0; }

    Position initial_position() const { return {}; }
    Player player_to_move(const Position& p) const { return p.to_move; }

    /// The deals: who holds which token, two each.
    static std::array<std::uint8_t, 3> deal(int number) {
        for (int owners = 0;; ++owners) {
            std::array<std::uint8_t, 3> hands{};
            std::array<int, 3> count{};
            for (int token = 1, rest = owners; token <= tokens; ++token, rest /= 3) {
                hands[static_cast<std::size_t>(rest % 3)] |= bit(token);
                ++count[static_cast<std::size_t>(rest % 3)];
            }
            if (count == std::array{2, 2, 2} && number-- == 0) return hands;
        }
    }
    bool chance_is_next(const Position& p) const { return !dealt(p) || (p.tide == Tide::NotCast && !outcome(p)); }
    void generate_events(const Position& p, MoveList<Event<Move>>& events) const {
        if (!dealt(p)) {
            for (int i = is("a deal is missing") ? 1 : 0; i < 90; ++i)
                events.push_back({{1, static_cast<std::int8_t>(i)}, 1.0 / 90});
            return;
        }
        const double high = is("a tide that is too likely") ? 0.75 : 2.0 / 3;
        events.push_back({{2, 1}, high});
        events.push_back({{2, 2}, 1.0 / 3});
        if (is("low tide twice")) {
            events[1].probability /= 2;
            events.push_back(events[1]);
        }
    }
    Move draw_event(const Position& p, Random& random) const {
        if (!dealt(p)) return {1, static_cast<std::int8_t>(random.below(is("the last deals are not drawn") ? 60 : 90))};
        return {2, static_cast<std::int8_t>(random.below(is("drawn tides are even") ? 2 : 3) == 0 ? 2 : 1)};
    }
    void generate_moves(const Position& p, MoveList<Move>& moves) const {
        for (int token = 1; token <= tokens; ++token)
            if ((p.hands[seat(p.to_move)] & bit(token)) != 0) moves.push_back({0, static_cast<std::int8_t>(token)});
        if (is("the last token twice") && moves.size() == 1) moves.push_back(moves[0]);
        if (is("nothing to lay for the third") && p.to_move == Player::Third && p.gone != 0) moves.clear();
        if (is("an answer by what a rival holds") && moves.size() == 2 && (p.hands[0] & bit(6)) != 0 &&
            p.to_move == Player::Second) {
            MoveList<Move> first;
            first.push_back(moves[0]);
            moves = first;
        }
    }
    void play(Position& p, const Move& move) const {
        if (move.kind == 1) {
            p.hands = deal(move.value);
        } else if (move.kind == 2) {
            p.tide = static_cast<Tide>(move.value);
        } else {
            const std::size_t mover = seat(p.to_move);
            p.laid[mover] = static_cast<std::uint8_t>(move.value);
            p.hands[mover] = static_cast<std::uint8_t>(p.hands[mover] & ~bit(move.value));
            if (is("a token is laid by one who is not next") && move.value == 6 && p.gone != 0) p.laid[mover] = 1;
            p.to_move = static_cast<Player>((mover + 1) % 3);
            if (p.laid[0] != 0 && p.laid[1] != 0 && p.laid[2] != 0) take_load(p);
        }
    }
    void take_load(Position& p) const {
        std::size_t best = 0;
        for (std::size_t i = 1; i < 3; ++i)
            if (p.tide == Tide::High ? p.laid[i] > p.laid[best] : p.laid[i] < p.laid[best]) best = i;
        ++p.loads[best];
        for (auto& laid : p.laid) {
            p.gone |= bit(laid);
            laid = 0;
        }
        p.tide = Tide::NotCast;
        p.to_move = static_cast<Player>(best);
    }
    Undo play_reversibly(Position& p, const Move& move) const {
        const Undo undo = p;
        play(p, move);
        return undo;
    }
    void take_back(Position& p, const Move& move, const Undo& undo) const {
        const Tide tide = p.tide;
        p = undo;
        if (is("the tide stays when taken back") && move.kind == 2) p.tide = tide;
    }
    std::optional<Outcome> outcome(const Position& p) const {
        if (!dealt(p) || p.gone != (1 << tokens) - 1) return std::nullopt;
        std::array<Payoff, max_players> payoffs{};
        for (std::size_t i = 0; i < 3; ++i) payoffs[i] = 3 * p.loads[i] - 2;
        return Outcome::of_payoffs(payoffs);
    }
    View view(const Position& p, Player player) const {
        View view{p, static_cast<std::uint8_t>(player)};
        for (std::size_t i = 0; i < 3; ++i)
            if (i != seat(player)) view.seen.hands[i] = 0;
        if (is("a view that shows a rival's token")) view.seen.unused = p.hands[(seat(player) + 1) % 3] & bit(6);
        if (is("a view that forgets what is gone")) view.seen.gone = p.gone != 0 ? 1 : 0;
        return view;
    }
    Position sample(const View& view, Random& random) const {
        Position p = view.seen;
        p.unused = 0;
        std::array<int, tokens> unseen{};
        std::uint64_t left = 0;
        int laid = p.gone;
        for (const auto token : p.laid)
            if (token != 0) laid |= bit(token);
        if (p.hands[view.player] == 0 && laid == 0) return p;  // not dealt
        for (int token = 1; token <= tokens; ++token)
            if (((laid | p.hands[view.player]) & bit(token)) == 0) unseen[left++] = token;
        for (std::size_t i = 0; i < 3; ++i) {
            if (i == view.player) continue;
            const int holds = (p.gone != 0 ? 1 : 2) - (p.laid[i] != 0 ? 1 : 0);
            for (int n = 0; n < holds && left > 0; ++n) {
                const std::uint64_t at = is("a sample that deals in order") ? 0 : random.below(left);
                p.hands[i] |= bit(unseen[at]);
                unseen[at] = unseen[--left];
            }
        }
        if (is("a sample with a hand too small")) p.hands[(view.player + 1u) % 3] &= 0x1f;
        if (is("a sample of another tide") && p.tide == Tide::Low) p.tide = Tide::High;
        return p;
    }
    std::uint64_t hash(const Position& p) const {
        std::uint64_t all = static_cast<std::uint64_t>(p.to_move) * 8 + p.gone * 64u;
        if (!is("a hash without the tide")) all += static_cast<std::uint64_t>(p.tide);
        for (std::size_t i = 0; i < 3; ++i) {
            if (!(is("a hash without the third hand") && i == 2)) all = mix_bits(all ^ p.hands[i]);
            all = mix_bits(all ^ p.laid[i] ^ (p.loads[i] * 16u));
        }
        return all;
    }
    Score evaluate(const Position& p, Player player) const {
        const std::size_t i = seat(player);
        const int calls = is("an evaluation that counts its calls") ? ++evaluated_ % 2 : 0;
        return Score::estimate(10 * p.loads[i] + calls);
    }
    std::string position_text(const Position& p) const {
        std::string text;
        for (std::size_t i = 0; i < 3; ++i) {
            for (int token = 1; token <= tokens; ++token)
                if ((p.hands[i] & bit(token)) != 0) text += std::to_string(token);
            text += ':' + std::to_string(p.laid[i]) + ':' + std::to_string(p.loads[i]) + ' ';
        }
        for (int token = 1; token <= tokens; ++token)
            if ((p.gone & bit(token)) != 0) text += std::to_string(token);
        const char tide = is("a text without the tide") ? '-' : "-hl"[static_cast<std::size_t>(p.tide)];
        return text + '/' + tide + std::to_string(seat(p.to_move));
    }
    Position read_position(std::string_view text) const {
        const auto refuse = [](const char* why) { throw InputError("position", why, "12:0:0 34:0:0 56:0:0 /-0"); };
        std::size_t at = 0;
        const auto take = [&](char wanted) {
            if (at >= text.size() || text[at] != wanted) refuse("it has another form");
            ++at;
        };
        const auto digit = [&](int most) {
            if (at >= text.size() || text[at] < '0' || text[at] > '0' + most) refuse("a number is out of range");
            return static_cast<std::uint8_t>(text[at++] - '0');
        };
        int all = 0;
        const auto some = [&] {
            int set = 0;
            for (int last = 0; at < text.size() && text[at] >= '1' && text[at] <= '6'; ++at) {
                const int token = text[at] - '0';
                if (token <= last) refuse("tokens are not in order");
                if ((all & bit(token)) != 0) refuse("a token is there twice");
                last = token;
                set |= bit(token);
                all |= bit(token);
            }
            return static_cast<std::uint8_t>(set);
        };
        Position p;
        int loads = 0;
        for (std::size_t i = 0; i < 3; ++i) {
            p.hands[i] = some();
            take(':');
            p.laid[i] = digit(tokens);
            if (p.laid[i] != 0 && (all & bit(p.laid[i])) != 0) refuse("a token is there twice");
            if (p.laid[i] != 0) all |= bit(p.laid[i]);
            take(':');
            p.loads[i] = digit(2);
            loads += p.loads[i];
            take(' ');
        }
        p.gone = some();
        take('/');
        const auto tide = at < text.size() ? std::string_view("-hl").find(text[at]) : std::string_view::npos;
        if (tide == std::string_view::npos) refuse("there is no such tide");
        ++at;
        p.tide = static_cast<Tide>(tide);
        p.to_move = static_cast<Player>(digit(2));
        if (at != text.size()) refuse("something follows it");
        require_possible(p, all, loads, refuse);
        return p;
    }
    template <class Refuse>
    static void require_possible(const Position& p, int all, int loads, const Refuse& refuse) {
        const bool is_dealt = dealt(p), over = p.gone == (1 << tokens) - 1;
        if (all != (is_dealt ? (1 << tokens) - 1 : 0)) refuse("some tokens are missing");
        const auto count = [](int set) { return std::popcount(static_cast<unsigned>(set)); };
        if (count(p.gone) != 3 * loads) refuse("loads and tokens gone do not agree");
        int laid = 0;
        for (std::size_t i = 0; i < 3; ++i) {
            laid += p.laid[i] != 0 ? 1 : 0;
            const int holds = !is_dealt ? 0 : 2 - loads - (p.laid[i] != 0 ? 1 : 0);
            if (count(p.hands[i]) != holds) refuse("a hand is too large or too small");
        }
        if (laid == 3 || (p.tide != Tide::NotCast && (!is_dealt || over))) refuse("play does not stop there");
        if (laid > 0 && p.tide == Tide::NotCast) refuse("tokens are laid without a tide");
        // In turn, so that who has laid stands right before the one to move.
        for (int back = 1; back <= 2; ++back)
            if ((p.laid[(index_of(p.to_move) + 3u - static_cast<unsigned>(back)) % 3] != 0) != (back <= laid))
                refuse("another one is to move");
        if (p.laid[index_of(p.to_move)] != 0) refuse("another one is to move");
        if (!is_dealt && p.to_move != Player::First) refuse("another one is to move");
    }
    Board board(const Position& p, Player viewer) const {
        Board board;
        for (std::size_t i = 0; i < 3; ++i) {
            BoardCell hand = board_label(0, static_cast<double>(i), "hidden");
            if (i == seat(viewer) || (is("a board that shows a rival's hand") && i == 1))
                hand.text = std::to_string(p.hands[i]);
            board.cells.push_back(std::move(hand));
        }
        return board;
    }
    std::string move_text(const Position&, const Move& move) const {
        const char* kinds[] = {"lay-", "deal-", "tide-"};
        if (is("tides that are called alike") && move.kind == 2) return "tide";
        return kinds[move.kind] + std::to_string(move.value);
    }

   private:
    mutable int evaluated_ = 0;
};

inline constexpr std::array wherries_faults{
    std::pair{"a deal is missing", "probabilities"},
    std::pair{"a tide that is too likely", "probabilities"},
    std::pair{"low tide twice", "probabilities"},
    std::pair{"the last deals are not drawn", "drawn events"},
    std::pair{"drawn tides are even", "drawn events"},
    std::pair{"the last token twice", "duplicate move"},
    std::pair{"nothing to lay for the third", "no move"},
    std::pair{"an answer by what a rival holds", "views"},
    std::pair{"a token is laid by one who is not next", "no move"},
    std::pair{"the tide stays when taken back", "take-back"},
    std::pair{"a view that shows a rival's token", "samples"},
    std::pair{"a view that forgets what is gone", "samples"},
    std::pair{"a board that shows a rival's hand", "board"},
    std::pair{"a sample that deals in order", "samples"},
    std::pair{"a sample with a hand too small", "samples"},
    std::pair{"a sample of another tide", "samples"},
    std::pair{"a hash without the tide", "hash"},
    std::pair{"a hash without the third hand", "hash"},
    std::pair{"an evaluation that counts its calls", "left-over state"},
    std::pair{"a text without the tide", "position text"},
    std::pair{"tides that are called alike", "move text"},
};

}  // namespace zoo
