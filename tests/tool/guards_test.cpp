// What levels promise of wins and losses in one, in every game that ships, for every number of seats.

#include <gtest/gtest.h>

#include <arvek/opponent/make_opponent.hpp>
#include <arvek/session/game_entry.hpp>

#include "support/sanitized.hpp"
#include "support/tool.hpp"

using namespace arvek;

namespace {

struct InSight {
    const AnyGame& game;
    std::vector<AnyPosition> worlds;  ///< all that the player cannot tell apart, as far as they were drawn
    Player player;

    /// Whether the move wins at once whatever is hidden.
    bool wins(const AnyMove& move) const {
        return std::all_of(worlds.begin(), worlds.end(), [&](AnyPosition world) {
            game.play(world, move);
            const auto outcome = game.outcome(world);
            return outcome && outcome->payoff(player) > 0;
        });
    }
    /// Whether it loses at once, or lets the one who is next win at once, whatever is hidden and whatever the dice show.
    bool loses(const AnyMove& move) const {
        return std::all_of(worlds.begin(), worlds.end(), [&](AnyPosition world) {
            game.play(world, move);
            return is_lost(world, 2);
        });
    }

   private:
    bool is_lost(const AnyPosition& at, int dice) const {
        if (const auto outcome = game.outcome(at)) return outcome->payoff(player) < 0;
        if (chance_is_next(game, at)) {
            MoveList<Event<AnyMove>> events;
            list_events(game, at, events);
            if (events.empty() || dice == 0) return false;
            return std::all_of(events.begin(), events.end(), [&](const auto& event) {
                AnyPosition after = at;
                game.play(after, event.move);
                return is_lost(after, dice - 1);
            });
        }
        if (game.player_to_move(at) == player) return false;
        const auto replies = legal_moves(game, at);
        return std::any_of(replies.begin(), replies.end(), [&](const AnyMove& reply) {
            AnyPosition after = at;
            game.play(after, reply);
            const auto outcome = game.outcome(after);
            return outcome && outcome->payoff(player) < 0;
        });
    }
};

}  // namespace

TEST(Guards, HoldInEveryGameAtEveryLevelThatPromisesThem) {
    tool::Tool all("arvek");
    waterway::offer_every_game(all);
    const std::vector<std::pair<std::string, std::vector<std::string>>> variants{
        {"lanterns", {"columns=4", "rows=4", "line=3"}},
        {"lanterns", {"players=3", "columns=4", "rows=4", "line=3"}},
        {"lanterns", {"players=4", "columns=5", "rows=4", "line=3"}},
        {"windlass", {"posts=6", "pegs=3"}},
        {"sluice", {"basins=3", "buckets=2"}},
        {"downstream", {"length=6", "boats=1"}},
        {"downstream", {"players=3", "length=6", "boats=1"}},
        {"tolls", {"players=2", "hand=3"}},
        {"tolls", {"players=3", "hand=2"}},
        {"wager", {}},
        {"scuffle", {}}};
    int wins = 0, losses = 0;
    for (const auto& [name, settings] : variants) {
        const auto entry = std::find_if(all.games().begin(), all.games().end(),
                                        [&, wanted = name](const auto& each) { return each->name() == wanted; });
        const OpenGame open = (*entry)->open(settings);
        const AnyGame& game = open.kit.game;
        Random random(7);
        for (int level = 8; level <= 10; ++level) {
            OpponentSpec spec = read_opponent("standard@" + std::to_string(level), open.kit.choosers.infos());
            if (level == 10) spec.nodes = 400;
            const auto opponent = make_opponent(game, spec, {}, open.kit.choosers);
            for (int line = 0; line < (testing_support::sanitized ? 4 : 25); ++line) {
                AnyPosition position = game.initial_position();
                settle_chance(game, position, random);
                for (int ply = 0; ply < 60 && !game.outcome(position); ++ply) {
                    const Player player = game.player_to_move(position);
                    const AnyView view = seen_by(game, position, player);
                    InSight seen{game, {position}, player};
                    for (int i = 0; has_views(game) && i < 40; ++i) seen.worlds.push_back(game.sample(view, random));
                    const auto legal = legal_moves(game, position);
                    bool may_win = false, may_lose = false, may_hold = false;
                    for (const AnyMove& move : legal) {
                        may_win = may_win || seen.wins(move);
                        (seen.loses(move) ? may_lose : may_hold) = true;
                    }
                    if (may_win || (may_lose && may_hold && level >= 9)) {
                        const AnyMove move = opponent->decide(view, random.next()).move;
                        const std::string where =
                            name + " " + game.position_text(position) + " level " + std::to_string(level);
                        if (may_win) {
                            ++wins;
                            EXPECT_TRUE(seen.wins(move)) << where << ": a win in one is missed";
                        } else {
                            ++losses;
                            EXPECT_FALSE(seen.loses(move)) << where << ": a loss in one is not prevented";
                        }
                    }
                    game.play(position, legal[static_cast<std::size_t>(random.below(legal.size()))]);
                    settle_chance(game, position, random);
                }
            }
        }
    }
    EXPECT_GT(wins, testing_support::sanitized ? 20 : 200);
    EXPECT_GT(losses, testing_support::sanitized ? 20 : 200);
    std::cout << wins << " wins and " << losses << " losses in one\n";
}
