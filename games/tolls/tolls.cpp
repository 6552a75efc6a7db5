#include "tolls/tolls.hpp"

#include <algorithm>
#include <map>
#include <vector>

#include <arvek/game/text_reader.hpp>

namespace waterway {

using arvek::InputError;
using arvek::Player;

namespace {

constexpr std::string_view sides = "TAPS";
constexpr std::string_view suit_letters = "rwsg";

}  // namespace

Tolls::Tolls(const Parameters& parameters)
    : parameters_(parameters), sides_(static_cast<std::size_t>(parameters.players)) {
    const auto require = [](const char* name, int value, int least, int most) {
        if (value < least || value > most)
            throw InputError(name, std::to_string(value) + " is out of range",
                             std::to_string(least) + " to " + std::to_string(most));
    };
    require("players", parameters.players, 2, 4);
    require("suits", parameters.suits, 1, 4);
    require("ranks", parameters.ranks, 2, most_ranks);
    require("hand", parameters.hand, 1, 13);
    if (parameters.players * parameters.hand > parameters.suits * parameters.ranks)
        throw InputError("hand",
                         std::to_string(parameters.players) + " hands of " + std::to_string(parameters.hand) +
                             " are more than there are cards",
                         "at most " + std::to_string(parameters.suits * parameters.ranks / parameters.players));
    ranks_mask_ = (Cards{1} << parameters.ranks) - 1;
    for (int suit = 0; suit < parameters.suits; ++suit) all_ |= suit_cards(suit);
    if (parameters.trump != "none") {
        const auto suits = suit_letters.substr(0, static_cast<std::size_t>(parameters.suits));
        const auto at = parameters.trump.size() == 1 ? suits.find(parameters.trump[0]) : std::string_view::npos;
        if (at == std::string_view::npos)
            throw InputError("trump", "'" + parameters.trump + "' is no suit", "none, or one of " + std::string(suits));
        trump_ = static_cast<int>(at);
    }
}

Tolls::Cards Tolls::on_table(const Position& position) const {
    Cards cards = 0;
    for (std::size_t i = 0; i < position.on_table; ++i) cards |= Cards{1} << position.table[i];
    return cards;
}

void Tolls::play(Position& position, const Move& move) const {
    const Cards card = Cards{1} << move.card;
    if (move.dealt != 0) {
        position.hands[position.to_move] |= card;
        ++position.holds[position.to_move];
        position.to_move = static_cast<std::uint8_t>((position.to_move + 1u) % sides_);
        position.dealing = position.holds[sides_ - 1] < parameters_.hand ? 1 : 0;
        return;
    }
    const std::size_t player = position.to_move;
    position.hands[player] &= ~card;
    --position.holds[player];
    if (position.on_table > 0 && suit_of(move.card) != suit_of(position.table[0]))
        position.lacks[player] |= static_cast<std::uint8_t>(1u << suit_of(position.table[0]));
    position.table[position.on_table++] = move.card;
    position.to_move = static_cast<std::uint8_t>((player + 1) % sides_);
    if (position.on_table < sides_) return;
    std::size_t best = 0;
    for (std::size_t i = 1; i < sides_; ++i)
        if (beats(position.table[i], position.table[best], suit_of(position.table[0]))) best = i;
    position.gone |= on_table(position);
    const std::size_t taker = (position.to_move + best) % sides_;  // the leader is to move again by now
    ++position.took[taker];
    position.to_move = static_cast<std::uint8_t>(taker);
    position.on_table = 0;
    position.table = {};
}

std::optional<arvek::Outcome> Tolls::outcome(const Position& position) const {
    if (position.dealing != 0 || position.on_table != 0) return std::nullopt;
    for (std::size_t side = 0; side < sides_; ++side)
        if (position.holds[side] != 0) return std::nullopt;
    std::array<arvek::Payoff, arvek::max_players> payoffs{};
    for (std::size_t side = 0; side < sides_; ++side)
        payoffs[side] = parameters_.players * position.took[side] - parameters_.hand;
    return arvek::Outcome::of_payoffs(payoffs);
}

void Tolls::generate_events(const Position& position, arvek::MoveList<arvek::Event<Move>>& events) const {
    Cards left = all_;
    for (const Cards hand : position.hands) left &= ~hand;
    const double each = 1.0 / std::popcount(left);
    for (; left != 0; left &= left - 1)
        events.push_back({{static_cast<std::uint8_t>(std::countr_zero(left)), 1}, each});
}

Tolls::Move Tolls::draw_event(const Position& position, arvek::Random& random) const {
    Cards left = all_;
    for (const Cards hand : position.hands) left &= ~hand;
    for (std::uint64_t skip = random.below(static_cast<std::uint64_t>(std::popcount(left))); skip > 0; --skip)
        left &= left - 1;
    return {static_cast<std::uint8_t>(std::countr_zero(left)), 1};
}

Tolls::View Tolls::view(const Position& position, Player player) const {
    View view{position};
    view.seen.seen_by = static_cast<std::uint8_t>(player);
    for (std::size_t side = 0; side < sides_; ++side)
        if (side != arvek::index_of(player)) view.seen.hands[side] = 0;
    return view;
}

namespace {

/// In how many ways the cards of the suits from one on can lie, by how much room each holder has left.
class Deals {
   public:
    struct Holder {
        std::size_t side;  ///< 4: not dealt
        int room;
        unsigned lacks;
    };

    Deals(std::vector<Holder> holders, std::vector<std::vector<int>> suits)
        : holders_(std::move(holders)), suits_(std::move(suits)) {}

    /// Gives each card to a holder: `give(card, side)`. False where it cannot be done.
    template <class Give>
    bool draw(arvek::Random& random, Give give) {
        std::vector<int> room;
        for (const Holder& holder : holders_) room.push_back(holder.room);
        for (std::size_t suit = 0; suit < suits_.size(); ++suit) {
            const double all = ways(suit, room);
            if (!(all > 0)) return false;
            double left = random.unit() * all;
            std::vector<int> share(holders_.size(), 0), chosen;
            splits(suit, 0, static_cast<int>(suits_[suit].size()), room, share, 1.0, [&](double ways_here) {
                if (!chosen.empty() && left < 0) return;
                left -= ways_here;
                if (ways_here > 0) chosen = share;
            });
            std::vector<int> cards = suits_[suit];
            random.shuffle(cards);
            std::size_t next = 0;
            for (std::size_t i = 0; i < holders_.size(); ++i) {
                for (int n = 0; n < chosen[i]; ++n) give(cards[next++], holders_[i].side);
                room[i] -= chosen[i];
            }
        }
        return true;
    }

   private:
    double ways(std::size_t suit, const std::vector<int>& room) {
        if (suit == suits_.size()) return 1;
        std::uint64_t key = suit;
        for (const int each : room) key = key * 64 + static_cast<std::uint64_t>(each);
        if (const auto known = known_.find(key); known != known_.end()) return known->second;
        double all = 0;
        std::vector<int> own_room = room, share(holders_.size(), 0);
        splits(suit, 0, static_cast<int>(suits_[suit].size()), own_room, share, 1.0, [&](double here) { all += here; });
        return known_[key] = all;
    }

    /// Every way to share out `left` cards of the suit among the holders from `at` on, with its weight.
    template <class Each>
    void splits(std::size_t suit, std::size_t at, int left, std::vector<int>& room, std::vector<int>& share,
                double weight, const Each& each) {
        if (at == holders_.size()) {
            if (left > 0) return;
            std::vector<int> after = room;
            for (std::size_t i = 0; i < after.size(); ++i) after[i] -= share[i];
            each(weight * ways(suit + 1, after));
            return;
        }
        const int most = (holders_[at].lacks >> suit & 1) != 0 ? 0 : std::min(left, room[at]);
        double chosen = 1;  // left over n
        for (int n = 0; n <= most; ++n) {
            share[at] = n;
            splits(suit, at + 1, left - n, room, share, weight * chosen, each);
            chosen = chosen * (left - n) / (n + 1);
        }
        share[at] = 0;
    }

    std::vector<Holder> holders_;
    std::vector<std::vector<int>> suits_;
    std::map<std::uint64_t, double> known_;
};

}  // namespace

Tolls::Position Tolls::sample(const View& view, arvek::Random& random) const {
    Position position = view.seen;
    const std::size_t viewer = position.seen_by;
    position.seen_by = all_see;
    const Cards unseen = all_ & ~position.hands[viewer] & ~position.gone & ~on_table(position);
    std::array<std::uint8_t, 52> cards{};
    std::size_t count = 0;
    for (Cards left = unseen; left != 0; left &= left - 1)
        cards[count++] = static_cast<std::uint8_t>(std::countr_zero(left));
    // At random until it agrees with who lacks what, which it mostly does soon.
    constexpr int attempts = 40;
    for (int attempt = 0; attempt < attempts; ++attempt) {
        std::size_t next = 0;
        bool agrees = true;
        for (std::size_t side = 0; side < sides_ && agrees; ++side) {
            if (side == viewer) continue;
            Cards hand = 0;
            for (int n = 0; n < position.holds[side] && agrees; ++n) {
                if (next == count) return position;  // a position that was made up with too few cards
                const std::size_t pick = next + static_cast<std::size_t>(random.below(count - next));
                std::swap(cards[next], cards[pick]);
                agrees = (position.lacks[side] >> suit_of(cards[next]) & 1) == 0;
                hand |= Cards{1} << cards[next++];
            }
            position.hands[side] = hand;
        }
        if (agrees) return position;
    }
    for (std::size_t side = 0; side < sides_; ++side)
        if (side != viewer) position.hands[side] = 0;
    std::vector<Deals::Holder> holders;
    int undealt = static_cast<int>(count);
    for (std::size_t side = 0; side < sides_; ++side) {
        if (side == viewer) continue;
        holders.push_back({side, position.holds[side], position.lacks[side]});
        undealt -= position.holds[side];
    }
    holders.push_back({4, std::max(undealt, 0), 0});
    std::vector<std::vector<int>> suits(static_cast<std::size_t>(parameters_.suits));
    for (Cards left = unseen; left != 0; left &= left - 1) {
        const int card = std::countr_zero(left);
        suits[static_cast<std::size_t>(suit_of(card))].push_back(card);
    }
    Deals(std::move(holders), std::move(suits)).draw(random, [&](int card, std::size_t side) {
        if (side < 4) position.hands[side] |= Cards{1} << card;
    });
    return position;
}

std::uint64_t Tolls::hash(const Position& position) const {
    std::uint64_t words[4] = {0, 0, 0, 0};
    for (std::size_t i = 0; i < 4; ++i) {
        words[0] = words[0] << 8 | position.table[i];
        words[1] = words[1] << 8 | position.took[i];
        words[1] = words[1] << 8 | position.lacks[i];
        words[2] = words[2] << 8 | position.holds[i];
    }
    words[3] = std::uint64_t{position.on_table} | std::uint64_t{position.to_move} << 8 |
               std::uint64_t{position.dealing} << 16 | std::uint64_t{position.seen_by} << 24;
    return arvek::hash_of_words({position.hands[0], position.hands[1], position.hands[2], position.hands[3],
                                 position.gone, words[0], words[1], words[2], words[3]});
}

int Tolls::preference(const Position& position, const Move& move) const {
    const int rank = rank_of(move.card);
    if (position.on_table == 0) return rank;
    const int led = suit_of(position.table[0]);
    int best = position.table[0];
    for (std::size_t i = 1; i < position.on_table; ++i)
        if (beats(position.table[i], best, led)) best = position.table[i];
    return beats(move.card, best, led) ? 100 - rank - (suit_of(move.card) == trump_ ? 20 : 0) : -rank;
}

std::string Tolls::player_name(Player player) const {
    constexpr const char* names[] = {"Teal", "Amber", "Plum", "Slate"};
    return names[arvek::index_of(player)];
}

std::string Tolls::card_text(int card) const {
    return suit_letters[static_cast<std::size_t>(suit_of(card))] + std::to_string(rank_of(card));
}

std::string Tolls::cards_text(Cards cards) const {
    std::string text;
    for (; cards != 0; cards &= cards - 1) text += (text.empty() ? "" : ",") + card_text(std::countr_zero(cards));
    return text.empty() ? "-" : text;
}

std::string Tolls::text_of(const Position& position) const {
    std::string text;
    for (std::size_t side = 0; side < sides_; ++side) {
        text += std::string(1, sides[side]) + ":";
        const bool hidden = position.seen_by != all_see && position.seen_by != side && position.holds[side] > 0;
        text += hidden ? "?" + std::to_string(position.holds[side]) : cards_text(position.hands[side]);
        text += ' ';
    }
    text += "table:";
    for (std::size_t i = 0; i < position.on_table; ++i) text += (i > 0 ? "," : "") + card_text(position.table[i]);
    text += position.on_table == 0 ? "- took:" : " took:";
    for (std::size_t side = 0; side < sides_; ++side)
        text += (side > 0 ? "," : "") + std::to_string(position.took[side]);
    text += " lacks:";
    std::string lacks;
    for (std::size_t side = 0; side < sides_; ++side) {
        if (position.lacks[side] == 0) continue;
        lacks += (lacks.empty() ? "" : ",") + std::string(1, sides[side]) + ".";
        for (std::size_t suit = 0; suit < suit_letters.size(); ++suit)
            if ((position.lacks[side] >> suit & 1) != 0) lacks += suit_letters[suit];
    }
    text += lacks.empty() ? "-" : lacks;
    if (position.gone != 0) text += " gone:" + cards_text(position.gone);
    return text + " " + sides[position.to_move];
}

std::string Tolls::position_text(const Position& position) const { return text_of(position); }
std::string Tolls::view_text(const View& view) const { return text_of(view.seen); }

Tolls::Position Tolls::read_position(std::string_view text) const {
    arvek::TextReader in(text, "hands, table, tolls taken, who lacks what and the side to move, such as '" +
                                   (sides_ == 3 ? std::string("T:r1,r2 A:w1,w2 P:s1,s2 table:- took:1,1,0 lacks:- T")
                                                : position_text(initial_position())) +
                                   "'");
    const auto word = [&](std::string_view name) {
        for (const char letter : name) in.take(letter, "the part before '" + std::string(name) + "'");
    };
    Position position;
    Cards all = 0;
    const auto suits = suit_letters.substr(0, static_cast<std::size_t>(parameters_.suits));
    const auto read_card = [&] {
        const std::size_t suit = in.one_of(suits, "suit");
        const int rank = in.number("rank", 1, parameters_.ranks);
        const int card = static_cast<int>(suit) * most_ranks + rank - 1;
        if ((all >> card & 1) != 0) in.fail_as_such(card_text(card) + " is there twice", "each card once");
        all |= Cards{1} << card;
        return card;
    };
    const auto read_cards = [&](auto&& add) {
        if (in.pass_if('-')) return;
        do add(read_card());
        while (in.pass_if(','));
    };
    int held = 0;
    for (std::size_t side = 0; side < sides_; ++side) {
        word(std::string(1, sides[side]) + ":");
        read_cards([&](int card) {
            position.hands[side] |= Cards{1} << card;
            ++position.holds[side];
            ++held;
        });
        if (position.holds[side] > parameters_.hand)
            in.fail_as_such(
                player_name(static_cast<Player>(side)) + " holds " + std::to_string(position.holds[side]) + " cards",
                "at most " + std::to_string(parameters_.hand));
        in.take(' ', "a hand");
    }
    word("table:");
    read_cards([&](int card) {
        if (position.on_table + 1u >= sides_)
            in.fail_as_such("a full trick lies on the table", "fewer cards than sides: a full trick is taken at once");
        position.table[position.on_table++] = static_cast<std::uint8_t>(card);
    });
    in.take(' ', "the table");
    word("took:");
    int tolls = 0;
    for (std::size_t side = 0; side < sides_; ++side) {
        if (side > 0) in.take(',', "tolls");
        position.took[side] = static_cast<std::uint8_t>(in.number("number of tolls", 0, parameters_.hand));
        tolls += position.took[side];
    }
    in.take(' ', "the tolls");
    word("lacks:");
    if (!in.pass_if('-')) {
        do {
            const std::size_t side = in.one_of(sides.substr(0, sides_), "side");
            in.take('.', "a side");
            do position.lacks[side] |= static_cast<std::uint8_t>(1u << in.one_of(suits, "suit"));
            while (suits.find(in.next()) != std::string_view::npos && in.next() != '\0');
        } while (in.pass_if(','));
    }
    in.take(' ', "who lacks what");
    if (in.next() == 'g') {
        word("gone:");
        read_cards([&](int card) { position.gone |= Cards{1} << card; });
        in.take(' ', "the cards that are gone");
    }
    const std::size_t to_move = in.one_of(sides.substr(0, sides_), "side to move");
    in.finish("the side to move");
    position.to_move = static_cast<std::uint8_t>(to_move);

    position.dealing = tolls == 0 && position.on_table == 0 && held < parameters_.players * parameters_.hand ? 1 : 0;
    if (position.dealing != 0) {
        for (std::size_t side = 0; side < sides_; ++side) {
            const int due = (held + static_cast<int>(sides_ - 1 - side)) / static_cast<int>(sides_);
            if (position.holds[side] != due)
                in.fail_as_such("the hands are not dealt in turn",
                                "hands as large as dealing one card at a time makes them");
        }
        if (to_move != static_cast<std::size_t>(held) % sides_)
            in.fail_as_such("it is not " + player_name(static_cast<Player>(to_move)) + " who is dealt to",
                            std::string(1, sides[static_cast<std::size_t>(held) % sides_]));
        if (position.gone != 0) in.fail_as_such("cards are gone before a trick was played", "no gone:");
        return position;
    }
    const std::size_t leader = (to_move + sides_ - position.on_table) % sides_;
    for (std::size_t i = 0; i < sides_; ++i) {
        const std::size_t side = (leader + i) % sides_;
        const int due = parameters_.hand - tolls - (i < position.on_table ? 1 : 0);
        if (position.holds[side] != due)
            in.fail_as_such(player_name(static_cast<Player>(side)) + " holds " + std::to_string(position.holds[side]) +
                                " cards, after " + std::to_string(tolls) + " tolls",
                            std::to_string(due) + " of " + std::to_string(parameters_.hand));
        for (int suit = 0; suit < parameters_.suits; ++suit)
            if ((position.lacks[side] >> suit & 1) != 0 && (position.hands[side] & suit_cards(suit)) != 0)
                in.fail_as_such(player_name(static_cast<Player>(side)) + " holds a suit that it is said to lack",
                                "a hand without it");
    }
    if (position.gone != 0 && std::popcount(position.gone) != tolls * parameters_.players)
        in.fail_as_such(
            std::to_string(std::popcount(position.gone)) + " cards are gone in " + std::to_string(tolls) + " tricks",
            std::to_string(tolls * parameters_.players) + ", or none named");
    if (tolls == 0 && position.on_table == 0 && to_move != 0)
        in.fail_as_such(player_name(static_cast<Player>(to_move)) + " leads the first trick", "Teal");
    return position;
}

std::string Tolls::move_text(const Position&, const Move& move) const {
    return (move.dealt != 0 ? "deal-" : "") + card_text(move.card);
}

std::string Tolls::drawing(const Position& position) const {
    std::string drawing;
    for (std::size_t side = 0; side < sides_; ++side) {
        const std::string name = player_name(static_cast<Player>(side));
        drawing += (side == position.to_move ? "> " : "  ") + name + std::string(6 - name.size(), ' ');
        const bool hidden = position.seen_by != all_see && position.seen_by != side;
        const std::string cards =
            hidden ? std::to_string(position.holds[side]) + " unseen" : cards_text(position.hands[side]);
        drawing += cards + std::string(cards.size() < 30 ? 30 - cards.size() : 1, ' ') + "tolls " +
                   std::to_string(position.took[side]);
        std::string lacks;
        for (std::size_t suit = 0; suit < suit_letters.size(); ++suit)
            if ((position.lacks[side] >> suit & 1) != 0) lacks += suit_letters[suit];
        if (!lacks.empty()) drawing += ", lacks " + lacks;
        drawing += '\n';
    }
    drawing += "  table ";
    for (std::size_t i = 0; i < position.on_table; ++i) drawing += (i > 0 ? "," : "") + card_text(position.table[i]);
    if (position.on_table == 0) drawing += position.dealing != 0 ? "cards are still to be dealt" : "-";
    return drawing + (trump_ >= 0 ? std::string("   trump ") + suit_letters[static_cast<std::size_t>(trump_)] : "") +
           "\n";
}

}  // namespace waterway
