// Whatever door a game comes through, it can do the same and decides the same.

#include <gtest/gtest.h>

#include <set>
#include <sstream>
#include <string>

#include <arvek/link/table_game.hpp>
#include <arvek/opponent/make_opponent.hpp>
#include <arvek/session/session.hpp>
#include <arvek/tool/tool.hpp>

#include "every_offer.hpp"
#include "support/through_c.hpp"

using namespace arvek;

namespace {

/// What the game says of a position by its abilities for people and rules, and of its first moves.
std::string told(const AnyGame& game, const AnyPosition& position) {
    std::ostringstream all;
    const auto has = [&](Ability ability) { return offers(game, ability); };
    all << game.position_text(position);
    for (int seat = 0; seat < players_of(game); ++seat) {
        const auto player = static_cast<Player>(seat);
        if (has(Ability::Board))
            for (const BoardCell& cell : game.board(position, player).cells)
                all << cell.name << cell.x << cell.y << cell.text << cell.player << static_cast<int>(cell.ground)
                    << " ";
        if (has(Ability::ViewText)) all << game.view_text(game.view(position, player));
        if (has(Ability::Patterns)) {
            std::vector<std::uint16_t> ways(game.patterns().size());
            game.read_patterns(position, player, ways);
            for (const auto way : ways) all << way << ",";
        }
    }
    if (game.outcome(position) || chance_is_next(game, position)) return all.str();
    MoveList<AnyMove> moves;
    game.generate_moves(position, moves);
    for (std::size_t i = 0; i < moves.size() && i < 5; ++i) {
        const AnyMove& move = moves[i];
        all << "\n" << game.move_text(position, move);
        if (has(Ability::Salience)) all << " " << game.salience(position, move);
        if (has(Ability::Preference)) all << " " << game.preference(position, move);
        if (has(Ability::Coordinates)) all << " " << game.coordinates(position, move);
        for (const auto& quantity : game.quantities())
            all << " " << quantity.name << quantity.value(game, position, move);
        if (has(Ability::Acting)) {
            const Act act = game.act(position, move);
            all << " " << game.act_names().actors.at(act.actor) << game.act_names().actions.at(act.action) << act.kinds
                << act.target << act.individual;
        }
    }
    for (const auto& suggester : game.suggesters()) {
        Proposals<AnyMove> proposals;
        suggester.suggest(game, position, proposals);
        for (const auto& each : proposals.all())
            all << game.move_text(position, each.move) << each.urgency << each.note;
    }
    return all.str();
}

/// What an opponent decides along a game, with its counters.
std::string played(const OpenGame& open, const std::string& opponent) {
    const AnyGame& game = open.kit.game;
    const auto choosers = open.kit.choosers;
    const auto playing = make_opponent(game, read_opponent(opponent, choosers.infos()), {}, choosers);
    std::string all;
    AnyPosition position = game.initial_position();
    Random random(5);
    for (int ply = 0; ply < 12 && !game.outcome(position); ++ply) {
        if (chance_is_next(game, position)) {
            game.play(position, drawn_event(game, position, random));
            continue;
        }
        all += told(game, position);
        const Player player = game.player_to_move(position);
        const auto decision = playing->decide(seen_by(game, position, player), static_cast<std::uint64_t>(ply));
        all += game.move_text(position, decision.move) + " " + std::to_string(decision.stats.nodes) + " " +
               std::to_string(decision.ranked.size()) + " " +
               std::to_string(decision.ranked.empty() ? 0 : decision.ranked[0].score.number()) + "; ";
        game.play(position, decision.move);
    }
    return all;
}

const tool::Tool& shipped() {
    static const tool::Tool* const tool = [] {
        auto* made = new tool::Tool("arvek");
        waterway::offer_every_game(*made);
        return made;
    }();
    return *tool;
}

/// What a table has where the game says nothing: bytes make a hash, a number is a text, and two is a number of players.
bool by_itself(const AbilityInfo& info) {
    return info.ability == Ability::Players || info.ability == Ability::Hash || info.ability == Ability::Text;
}

}  // namespace

TEST(Doors, AGameThroughCCanDoAllThatItCanDo) {
    std::set<Ability> met;
    for (const auto& entry : shipped().games()) {
        const OpenGame open = entry->open({});
        const testing_support::ThroughC table(open.kit.game);
        const OpenGame again = link::open_table_game(table.rules());
        for (const AbilityInfo& info : ability_table()) {
            const bool is_there = offers(open.kit.game, info.ability);
            const bool has_no_door = info.ability == Ability::TakeBack || info.ability == Ability::Visiting;
            if (is_there) met.insert(info.ability);
            EXPECT_EQ(offers(again.kit.game, info.ability) || has_no_door, is_there || has_no_door || by_itself(info))
                << entry->name() << ": " << info.name;
        }
    }
    for (const AbilityInfo& info : ability_table())
        EXPECT_TRUE(met.contains(info.ability)) << "no shipped game has " << info.name << ", so it is not tried here";
}

TEST(Doors, AGameThroughCDecidesAndPlaysAsItself) {
    for (const auto& entry : shipped().games()) {
        const OpenGame open = entry->open({});
        const testing_support::ThroughC table(open.kit.game);
        const OpenGame again = link::open_table_game(table.rules());
        for (const char* opponent : {"standard@4", "ruled@3", "standard@7"})
            EXPECT_EQ(played(open, opponent), played(again, opponent)) << entry->name() << " " << opponent;
        if (!offers(open.kit.game, Ability::Suggesters)) continue;
        EXPECT_EQ(played(open, "suggestions@6"), played(again, "suggestions@6")) << entry->name();
    }
}
