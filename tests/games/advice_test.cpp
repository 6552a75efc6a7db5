// What the games tell rules, suggestions and features, held against playing the moves.

#include <gtest/gtest.h>
#include <arvek/game/text.hpp>

#include <algorithm>
#include <set>

#include "convoy/convoy.hpp"
#include "downstream/downstream.hpp"
#include "lanterns/many_lanterns.hpp"
#include "nightwatch/nightwatch.hpp"
#include "scuffle/scuffle.hpp"
#include "sluice/sluice.hpp"
#include "stowage/stowage.hpp"
#include "tolls/tolls.hpp"
#include "wager/wager.hpp"
#include "windlass/windlass.hpp"

using namespace arvek;
using waterway::Convoy;
using waterway::Downstream;
using waterway::Lanterns;
using waterway::ManyLanterns;
using waterway::Nightwatch;
using waterway::Scuffle;
using waterway::Stowage;
using waterway::Tolls;
using waterway::Wager;

namespace {

template <class G>
double value(const G& game, const char* name, const typename G::Position& position, const typename G::Move& move) {
    for (const auto& quantity : game.quantities())
        if (quantity.name == std::string(name)) return quantity.value(game, position, move);
    ADD_FAILURE() << "there is no quantity " << name;
    return 0;
}

/// Calls `seen(position)` at every position of some random games where a player is to move.
template <class G, class Seen>
void walk(const G& game, int games, Seen seen) {
    Random random(11);
    for (int i = 0; i < games; ++i) {
        auto position = game.initial_position();
        for (int ply = 0; ply < 120 && !game.outcome(position); ++ply) {
            if (!chance_is_next(game, position)) {
                seen(position);
                const auto legal = legal_moves(game, position);
                game.play(position, legal[static_cast<std::size_t>(random.below(legal.size()))]);
            }
            settle_chance(game, position, random);
        }
    }
}

template <class G>
void expect_names_in_order(const G& game) {
    ActNames names;
    if constexpr (ActingGame<G>) names = game.act_names();
    std::set<std::string> quantities, reasons;
    for (const auto& quantity : game.quantities()) {
        EXPECT_TRUE(quantities.insert(quantity.name).second) << quantity.name << " is there twice";
        EXPECT_STRNE(quantity.doc, "") << quantity.name;
    }
    for (const auto& suggester : game.suggesters()) {
        EXPECT_TRUE(reasons.insert(suggester.reason).second) << suggester.reason << " is there twice";
        EXPECT_STRNE(suggester.doc, "") << suggester.reason;
    }
    ASSERT_LT(names.kinds.size(), 64u);
    std::set<std::string> seen_reasons;
    walk(game, 12, [&](const typename G::Position& position) {
        const auto legal = legal_moves(game, position);
        if constexpr (ActingGame<G>)
            for (const auto& move : legal) {
                const Act act = game.act(position, move);
                ASSERT_LT(act.actor, names.actors.size());
                ASSERT_LT(act.action, names.actions.size());
                ASSERT_EQ(act.kinds >> names.kinds.size(), 0u);
            }
        // A quantity of the position is the same whatever the move; none is other than a number or out of its range.
        for (const auto& quantity : game.quantities()) {
            const double first = quantity.value(game, position, legal[0]);
            const auto [least, most] = range_of(quantity);
            ASSERT_TRUE(first >= least && first <= most) << quantity.name << " is " << first;
            for (const auto& move : legal) {
                const double found = quantity.value(game, position, move);
                ASSERT_TRUE(found == found && found > -1e6 && found < 1e6) << quantity.name;
                ASSERT_TRUE(found >= least && found <= most) << quantity.name << " is " << found;
                if (quantity.of == QuantityOf::Position) {
                    ASSERT_EQ(found, first) << quantity.name;
                }
            }
        }
        for (const auto& suggester : game.suggesters()) {
            Proposals<typename G::Move> proposals;
            suggester.suggest(game, position, proposals);
            for (const auto& proposal : proposals.all()) {
                ASSERT_TRUE(legal.contains(proposal.move)) << suggester.reason;
                ASSERT_FALSE(proposal.note.empty());
                seen_reasons.insert(suggester.reason);
            }
        }
    });
    EXPECT_EQ(seen_reasons, reasons) << "each of them suggests something now and then";
}

}  // namespace

TEST(Advice, NamesAreUniqueAndEverySuggestionIsLegal) {
    expect_names_in_order(Scuffle());
    expect_names_in_order(Nightwatch());
    expect_names_in_order(Convoy());
    expect_names_in_order(Lanterns());
    expect_names_in_order(waterway::Sluice());
    expect_names_in_order(waterway::Windlass());
    expect_names_in_order(ManyLanterns());
    expect_names_in_order(ManyLanterns({.columns = 5, .rows = 4, .line = 3, .drop = true, .players = 4}));
    expect_names_in_order(Downstream({.players = 3}));
    expect_names_in_order(Stowage());
    expect_names_in_order(Tolls({.trump = "w"}));
    expect_names_in_order(Wager());
}

namespace {

/// What was hidden may not show: as rules are handed one of the worlds that agree with what is seen, a quantity and a
/// suggestion must be the same in all of them.
template <class G>
void expect_no_peeking(const G& game) {
    Random random(5);
    walk(game, 20, [&](const typename G::Position& position) {
        const auto seen = game.view(position, game.player_to_move(position));
        const auto other = game.sample(seen, random);
        for (const auto& move : legal_moves(game, position))
            for (const auto& quantity : game.quantities())
                ASSERT_EQ(quantity.value(game, position, move), quantity.value(game, other, move)) << quantity.name;
        for (const auto& suggester : game.suggesters()) {
            Proposals<typename G::Move> here, there;
            suggester.suggest(game, position, here);
            suggester.suggest(game, other, there);
            ASSERT_EQ(here.all().size(), there.all().size()) << suggester.reason;
            for (std::size_t i = 0; i < here.all().size(); ++i) {
                ASSERT_EQ(here.all()[i].move, there.all()[i].move) << suggester.reason;
                ASSERT_EQ(here.all()[i].urgency, there.all()[i].urgency) << suggester.reason;
            }
        }
    });
}

}  // namespace

TEST(Advice, OfHiddenHandsTellsNothingHidden) {
    expect_no_peeking(Tolls());
    expect_no_peeking(Tolls({.players = 4, .suits = 4, .ranks = 5, .hand = 5, .trump = "s"}));
    expect_no_peeking(Wager({.cards = 5}));
}

TEST(DownstreamAdvice, SaysWhoIsSentBackAndWhoIsInReach) {
    const Downstream game({.players = 3});
    int sent = 0, chased = 0;
    walk(game, 20, [&](const Downstream::Position& position) {
        const auto on_bank = [&](const Downstream::Position& at) {
            int boats = 0;
            for (std::size_t side = 0; side < 3; ++side)
                for (std::size_t boat = 0; side != position.to_move && boat < 2; ++boat)
                    boats += at.cells[side][boat] == 0 ? 1 : 0;
            return boats;
        };
        for (const auto& move : legal_moves(game, position)) {
            auto after = position;
            game.play(after, move);
            ASSERT_EQ(value(game, "sends back", position, move), on_bank(after) - on_bank(position));
            sent += on_bank(after) - on_bank(position);
            // By trying every roll and move of every rival.
            int reach = 0;
            for (std::size_t side = 0; side < 3; ++side) {
                if (side == position.to_move) continue;
                for (std::size_t boat = 0; boat < 2; ++boat)
                    for (int roll = 1; roll <= 4; ++roll) {
                        auto rivals = position;
                        rivals.to_move = static_cast<std::uint8_t>(side);
                        rivals.roll = static_cast<std::uint8_t>(roll);
                        const auto from = rivals.cells[side][boat];
                        if (from > 12) continue;
                        game.play(rivals, {from});
                        const auto &now = rivals.cells[position.to_move], &was = position.cells[position.to_move];
                        if (move.number > 0 && std::count(now.begin(), now.begin() + 2, move.number) <
                                                   std::count(was.begin(), was.begin() + 2, move.number))
                            ++reach;
                    }
            }
            ASSERT_EQ(value(game, "chased from", position, move), reach) << game.position_text(position);
            chased += reach;
        }
    });
    EXPECT_GT(sent, 10);
    EXPECT_GT(chased, 20);
}

TEST(StowageAdvice, SaysWhatACrateScores) {
    const Stowage game;
    int hoisted = 0;
    walk(game, 6, [&](const Stowage::Position& position) {
        for (const auto& move : legal_moves(game, position)) {
            auto after = position;
            game.play(after, move);
            const double columns = value(game, "hoists", position, move);
            ASSERT_EQ(after.score - position.score, value(game, "crate", position, move) + 10 * columns * columns);
            hoisted += columns > 0 ? 1 : 0;
        }
    });
    EXPECT_GT(hoisted, 5);
}

TEST(ManyLanternsAdvice, CountsThreatsByTryingThem) {
    const ManyLanterns game({.columns = 4, .rows = 4, .line = 3, .players = 3});
    int threats = 0;
    walk(game, 20, [&](const ManyLanterns::Position& position) {
        for (const auto& move : legal_moves(game, position)) {
            auto after = position;
            game.play(after, move);
            if (game.outcome(after)) continue;
            int made = 0;
            for (const auto& next : legal_moves(game, after)) {
                auto again = after;
                again.to_move = position.to_move;
                game.play(again, next);
                const auto outcome = game.outcome(again);
                made += outcome && outcome->payoff(static_cast<Player>(position.to_move)) > 0 ? 1 : 0;
            }
            ASSERT_EQ(value(game, "threats made", position, move), made) << game.position_text(position);
            threats += made;
        }
    });
    EXPECT_GT(threats, 50);
}

TEST(ScuffleAdvice, SaysWhatAHitDoes) {
    const Scuffle game;
    int put_out = 0;
    walk(game, 30, [&](const Scuffle::Position& position) {
        const auto from = game.actor(position);
        // The actor is the one with the lowest clock.
        for (std::size_t side = 0; side < 2; ++side)
            for (std::size_t i = 0; i < game.crew(side).hands.size(); ++i)
                if (!position.crews[side][i].out()) {
                    ASSERT_LE(position.crews[from.side][from.hand].clock, position.crews[side][i].clock);
                }
        for (const auto& move : legal_moves(game, position)) {
            auto after = position;
            game.play(after, move);
            if (after.pending) game.play(after, {Scuffle::Move::hit, Scuffle::Move::no_target});
            int taken = 0, out = 0;
            for (std::size_t side = 0; side < 2; ++side)
                for (std::size_t i = 0; i < game.crew(side).hands.size(); ++i) {
                    const auto &was = position.crews[side][i], &is = after.crews[side][i];
                    taken += std::max<int>(was.stamina, 0) - std::max<int>(is.stamina, 0);
                    if (side != from.side && !was.out() && is.out()) ++out;
                }
            ASSERT_EQ(value(game, "harm", position, move), taken) << game.move_text(position, move);
            ASSERT_EQ(value(game, "put out", position, move), out);
            put_out += out;
            const auto& own = position.crews[from.side][from.hand];
            if (!own.has(waterway::Condition::Winded)) {
                ASSERT_EQ(value(game, "time", position, move), after.crews[from.side][from.hand].clock - own.clock);
            }
        }
    });
    EXPECT_GT(put_out, 10);
}

TEST(ScuffleAdvice, KindsSayWhomAnActionIsAimedAt) {
    const Scuffle game;
    const ActNames names = game.act_names();
    walk(game, 10, [&](const Scuffle::Position& position) {
        for (const auto& move : legal_moves(game, position)) {
            const Act act = game.act(position, move);
            const auto& hand = game.hand(game.actor(position));
            const auto& action = hand.actions[move.action];
            ASSERT_EQ(names.actors[act.actor], hand.name);
            ASSERT_EQ(names.actions[act.action], action.name);
            for (std::size_t kind = 0; kind < names.kinds.size(); ++kind) {
                const std::string& name = names.kinds[kind];
                const bool expected = name == name_of(action.element) || name == name_of(action.target) ||
                                      (action.lays && name == std::string("lays ") + name_of(action.condition));
                ASSERT_EQ(act.is_of(kind), expected) << action.name << " " << name;
            }
        }
    });
}

TEST(NightwatchAdvice, SaysWhatAMoveDoesToTheRival) {
    const Nightwatch game;
    int hits_seen = 0, removals_seen = 0;
    walk(game, 30, [&](const Nightwatch::Position& position) {
        const int rival = position.to_move == Player::First ? 1 : 0;
        const auto strength = [&](const Nightwatch::Position& at) {
            std::pair<int, int> left{0, 0};  // pieces, and hits that they can still take
            for (const auto& piece : at)
                if (piece.side == rival) {
                    ++left.first;
                    left.second += Nightwatch::hits_to_remove(piece.kind) - piece.hits;
                }
            return left;
        };
        for (const auto& move : legal_moves(game, position)) {
            auto after = position;
            game.play(after, move);
            const auto effect = game.effect(position, move);
            const auto before = strength(position), now = strength(after);
            ASSERT_EQ(effect.removed, before.first - now.first) << game.move_text(position, move);
            ASSERT_EQ(effect.removes_warden, Nightwatch::warden_of(after, rival) == nullptr);
            // What is taken off may have been dealt more hits than it could take.
            ASSERT_GE(effect.hits, before.second - now.second);
            if (effect.removed == 0) {
                ASSERT_EQ(effect.hits, before.second - now.second);
            }
            ASSERT_EQ(value(game, "hits", position, move), effect.hits);
            ASSERT_EQ(value(game, "removals", position, move), effect.removed);
            hits_seen += effect.hits;
            removals_seen += effect.removed;
        }
    });
    EXPECT_GT(hits_seen, 500);
    EXPECT_GT(removals_seen, 50);
}

TEST(ConvoyAdvice, SaysWhatALaneWouldTakeIfNobodySentAnotherBoat) {
    const Convoy game({.lanes = 3, .length = 8});
    int unbalanced = 0;
    walk(game, 15, [&](const Convoy::Position& position) {
        // Both wait until all boats are gone; walls that would fall are put far away.
        auto later = position;
        later.walls = {100, 100};
        later.tick = 0;
        if (later.to_move == Player::Second) return;  // the tick has begun: a wait of Amber's alone would end it
        for (int tick = 0; tick < 60; ++tick) {
            game.play(later, {});
            game.play(later, {});
        }
        const int walls = later.walls[0] - later.walls[1];
        double lanes = 0;
        for (std::uint8_t lane = 0; lane < 3; ++lane)
            lanes += value(game, "lane balance", position, {lane, Convoy::Kind::Skiff});
        ASSERT_EQ(lanes, walls) << game.position_text(position);
        unbalanced += walls != 0 ? 1 : 0;
        for (const auto& move : legal_moves(game, position)) {
            auto after = position;
            game.play(after, move);
            ASSERT_EQ(value(game, "cost", position, move), position.purses[0] - after.purses[0]);
        }
    });
    EXPECT_GT(unbalanced, 100);
}
