// What rules and suggestions may ask about Tolls: what the side to move sees, and nothing else.

#include <algorithm>

#include "each_move.hpp"
#include "tolls/tolls.hpp"

namespace waterway {

namespace {

using arvek::QuantityOf;
using Game = Tolls;
using Position = Tolls::Position;
using Move = Tolls::Move;
using Proposals = arvek::Proposals<Move>;

}  // namespace

bool Tolls::takes_so_far(const Position& position, int card) const {
    for (std::size_t i = 0; i < position.on_table; ++i)
        if (!beats(card, position.table[i], suit_of(position.table[0]))) return false;
    return true;
}

int Tolls::higher_unseen(const Position& position, int card) const {
    const Cards seen = position.hands[position.to_move] | position.gone | on_table(position);
    const Cards higher = suit_cards(suit_of(card)) & ~((Cards{2} << card) - 1);
    return std::popcount(higher & all_ & ~seen);
}

std::span<const arvek::Quantity<Tolls>> Tolls::quantities() const {
    static const arvek::Quantity<Game> all[] = {
        {"cards on the table", "cards", "of this trick", QuantityOf::Position,
         [](const Game&, const Position& now, const Move&) { return static_cast<double>(now.on_table); }, 0, 3},
        {"is last", "0 or 1", "whether nobody plays to this trick afterwards", QuantityOf::Position,
         [](const Game& game, const Position& now, const Move&) {
             return now.on_table + 1u == game.sides_ ? 1.0 : 0.0;
         },
         0, 1},
        {"own tolls", "tolls", "taken by the side to move", QuantityOf::Position,
         [](const Game&, const Position& now, const Move&) { return static_cast<double>(now.took[now.to_move]); }, 0,
         13},
        {"rival tolls", "tolls", "taken by the rival that has most", QuantityOf::Position,
         [](const Game& game, const Position& now, const Move&) {
             int most = 0;
             for (std::size_t side = 0; side < game.sides_; ++side)
                 if (side != now.to_move) most = std::max<int>(most, now.took[side]);
             return static_cast<double>(most);
         },
         0, 13},
        {"tricks left", "tricks", "this one included", QuantityOf::Position,
         [](const Game&, const Position& now, const Move&) { return static_cast<double>(now.holds[now.to_move]); }, 0,
         13},
        {"rank", "", "of the card", QuantityOf::Action,
         [](const Game&, const Position&, const Move& move) { return static_cast<double>(rank_of(move.card)); }, 1, 13},
        {"is trump", "0 or 1", "whether the card is a trump", QuantityOf::Action,
         [](const Game& game, const Position&, const Move& move) {
             return suit_of(move.card) == game.trump_ ? 1.0 : 0.0;
         },
         0, 1},
        {"takes so far", "0 or 1", "whether the card beats what lies on the table", QuantityOf::Target,
         [](const Game& game, const Position& now, const Move& move) {
             return game.takes_so_far(now, move.card) ? 1.0 : 0.0;
         },
         0, 1},
        {"higher unseen", "cards", "of its suit that are higher and were not seen yet", QuantityOf::Target,
         [](const Game& game, const Position& now, const Move& move) {
             return static_cast<double>(game.higher_unseen(now, move.card));
         },
         0, 12},
        {"left of its suit", "cards", "of the suit that the own hand keeps", QuantityOf::Action,
         [](const Game& game, const Position& now, const Move& move) {
             return static_cast<double>(std::popcount(now.hands[now.to_move] & game.suit_cards(suit_of(move.card))) -
                                        1);
         },
         0, 12},
    };
    return all;
}

std::span<const arvek::Suggester<Tolls>> Tolls::suggesters() const {
    static const arvek::Suggester<Game> all[] = {
        {"take cheaply", "takes the trick so far with as low a card as it can",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 if (now.on_table > 0 && game.takes_so_far(now, move.card))
                     proposals.add(move,
                                   10.0 - 0.5 * rank_of(move.card) - (suit_of(move.card) == game.trump_ ? 3.0 : 0.0),
                                   "takes what lies there");
             });
         }},
        {"lead the highest", "leads a card of whose suit no higher one is unseen",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 if (now.on_table == 0 && game.higher_unseen(now, move.card) == 0)
                     proposals.add(move, 8.0, "no higher one of its suit is unseen");
             });
         }},
        {"throw low", "throws away what takes nothing, the lowest first",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 if (now.on_table > 0 && !game.takes_so_far(now, move.card))
                     proposals.add(move, 5.0 - 0.4 * rank_of(move.card), "is not good for much");
             });
         }},
        {"run short", "gets rid of a suit's last card, to be free later",
         [](const Game& game, const Position& now, Proposals& proposals) {
             each_move(game, now, [&](const Move& move) {
                 const auto left = now.hands[now.to_move] & game.suit_cards(suit_of(move.card));
                 if (std::popcount(left) == 1) proposals.add(move, 1.0, "is the last of its suit");
             });
         }},
    };
    return all;
}

}  // namespace waterway
