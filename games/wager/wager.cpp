#include "wager/wager.hpp"

#include <arvek/game/text_reader.hpp>

namespace waterway {

using arvek::InputError;
using arvek::Outcome;
using arvek::Player;

namespace {

constexpr std::string_view letters = " kbfc";
constexpr const char* names[] = {"", "check", "bet", "fold", "call"};

}  // namespace

Wager::Wager(const Parameters& parameters) : parameters_(parameters) {
    if (parameters.cards < 3 || parameters.cards > 13)
        throw InputError("cards", std::to_string(parameters.cards) + " is out of range", "3 to 13");
}

void Wager::generate_moves(const Position& position, arvek::MoveList<Move>& moves) const {
    const std::size_t done = count(position);
    const bool faces_bet = done > 0 && position.done[done - 1] == Deed::Bet;
    moves.push_back({faces_bet ? Deed::Fold : Deed::Check});
    moves.push_back({faces_bet ? Deed::Call : Deed::Bet});
}

void Wager::play(Position& position, const Move& move) const {
    if (move.card != 0)
        position.cards[position.cards[0] == 0 ? 0 : 1] = move.card;
    else
        position.done[count(position)] = move.deed;
}

std::optional<Outcome> Wager::outcome(const Position& position) const {
    const std::size_t done = count(position);
    if (done < 2) return std::nullopt;
    const Deed last = position.done[done - 1];
    if (last == Deed::Bet) return std::nullopt;
    // Who did it last did it with the last of the turns.
    if (last == Deed::Fold) return Outcome::win(done % 2 == 0 ? Player::First : Player::Second);
    const Player higher = position.cards[0] > position.cards[1] ? Player::First : Player::Second;
    return Outcome::win(higher, last == Deed::Call ? 2 : 1);
}

void Wager::generate_events(const Position& position, arvek::MoveList<arvek::Event<Move>>& events) const {
    const int left = parameters_.cards - (position.cards[0] != 0 ? 1 : 0);
    for (int card = 1; card <= parameters_.cards; ++card)
        if (card != position.cards[0]) events.push_back({{Deed::None, static_cast<std::uint8_t>(card)}, 1.0 / left});
}

Wager::View Wager::view(const Position& position, Player player) const {
    View view{position, static_cast<std::uint8_t>(player), 0};
    for (const std::uint8_t card : position.cards) view.dealt = static_cast<std::uint8_t>(view.dealt + (card != 0));
    view.seen.cards[1u - view.viewer] = 0;
    return view;
}

Wager::Position Wager::sample(const View& view, arvek::Random& random) const {
    Position position = view.seen;
    const std::size_t other = 1u - view.viewer;
    if (view.dealt <= other) return position;  // the other has none yet
    const std::uint8_t own = position.cards[view.viewer];
    const int unseen = parameters_.cards - (own != 0 ? 1 : 0);
    auto card = static_cast<std::uint8_t>(1 + random.below(static_cast<std::uint64_t>(unseen)));
    if (own != 0 && card >= own) ++card;
    position.cards[other] = card;
    return position;
}

std::uint64_t Wager::hash(const Position& position) const {
    std::uint64_t word = static_cast<std::uint64_t>(position.cards[0]) << 8 | position.cards[1];
    for (const Deed deed : position.done) word = word << 8 | static_cast<std::uint64_t>(deed);
    return arvek::mix_bits(word);
}

int Wager::preference(const Position& position, const Move& move) const {
    const std::size_t mover = count(position) % 2;
    const bool high = 2 * position.cards[mover] > parameters_.cards + 1;
    const bool dares = move.deed == Deed::Bet || move.deed == Deed::Call;
    return dares == high ? 1 : 0;
}

std::string Wager::text_of(const Position& position) const {
    std::string text;
    for (const std::uint8_t card : position.cards) text += (card == 0 ? "?" : std::to_string(card)) + " ";
    const std::size_t done = count(position);
    for (std::size_t i = 0; i < done; ++i) text += letters[static_cast<std::size_t>(position.done[i])];
    return text + (done == 0 ? "- " : " ") + (done % 2 == 0 ? "T" : "A");
}

std::string Wager::position_text(const Position& position) const { return text_of(position); }
std::string Wager::view_text(const View& view) const { return text_of(view.seen); }

Wager::Position Wager::read_position(std::string_view text) const {
    arvek::TextReader in(text, "each side's card or ?, what was done or -, and the side to move, such as '3 1 kb T'");
    Position position;
    for (std::size_t side = 0; side < 2; ++side) {
        if (!in.pass_if('?')) position.cards[side] = static_cast<std::uint8_t>(in.number("card", 1, parameters_.cards));
        in.take(' ', "a card");
    }
    if (position.cards[0] == 0 && position.cards[1] != 0)
        in.fail_as_such("Amber has a card and Teal has none", "Teal's card first");
    if (position.cards[0] != 0 && position.cards[0] == position.cards[1])
        in.fail_as_such("both have the same card", "two cards");
    if (!in.pass_if('-')) {
        for (std::size_t done = 0; in.next() != ' '; ++done) {
            if (position.cards[1] == 0) in.fail_as_such("something was done before the cards were dealt", "-");
            if (done == position.done.size() || outcome(position))
                in.fail("more was done than there can be", in.whole());
            arvek::MoveList<Move> moves;
            generate_moves(position, moves);
            const std::string both{letters[static_cast<std::size_t>(moves[0].deed)],
                                   letters[static_cast<std::size_t>(moves[1].deed)]};
            position.done[done] = moves[in.one_of(both, "deed")].deed;
        }
        if (count(position) == 0) in.fail("nothing was done", "- for nothing");
    }
    in.take(' ', "what was done");
    const char to_move = count(position) % 2 == 0 ? 'T' : 'A';
    in.take(to_move, "what was done");
    in.finish("the side to move");
    return position;
}

std::string Wager::move_text(const Position&, const Move& move) const {
    return move.card != 0 ? "deal-" + std::to_string(move.card) : names[static_cast<std::size_t>(move.deed)];
}

std::string Wager::player_name(Player player) const { return player == Player::First ? "Teal" : "Amber"; }

}  // namespace waterway
