// A computer player for many pieces on a map, by scored suggestions: small functions propose moves that are worth a thought, a
// temperament weighs their reasons. Plays a Nightwatch of a bold side against a wary one and prints why each move was
// chosen, and how often each reason was.

#include <cstdio>
#include <map>

#include <arvek/rules/suggestion_list.hpp>

#include "nightwatch/nightwatch.hpp"

using waterway::Nightwatch;
using Suggestions = arvek::SuggestionList<Nightwatch>;
using Proposals = arvek::Proposals<Nightwatch::Move>;

/// What a side looks for: three suggestions of our own and one of the game's.
Suggestions suggestions(const Nightwatch& nightwatch, double hunger) {
    Suggestions list;
    list.add("strike", [](const Nightwatch& game, const Nightwatch::Position& now, Proposals& proposals) {
        for (const auto& move : arvek::legal_moves(game, now)) {
            const auto effect = game.effect(now, move);
            const std::string whom = Nightwatch::kind_name(effect.kind);
            if (effect.removed > 0)
                proposals.add(move, 8.0 * effect.removed + (effect.removes_warden ? 100 : 0),
                              "takes the " + whom + " off");
            else if (effect.hits > 0)
                proposals.add(move, 2.0 * effect.hits, "hits the " + whom);
        }
    });
    list.add("close in", [](const Nightwatch& game, const Nightwatch::Position& now, Proposals& proposals) {
        const auto* warden = Nightwatch::warden_of(now, now.to_move == arvek::Player::First ? 1 : 0);
        for (const auto& move : arvek::legal_moves(game, now))
            if (!move.passes() && Nightwatch::piece_at(now, move.from)->kind != Nightwatch::Kind::Warden)
                if (const int gained = game.distance(move.from, warden->cell) - game.distance(move.to, warden->cell);
                    gained > 0)
                    proposals.add(move, 0.7 * gained, "nears the Warden");
    });
    list.add("stay together", [](const Nightwatch& game, const Nightwatch::Position& now, Proposals& proposals) {
        const int side = now.to_move == arvek::Player::First ? 0 : 1;
        const auto* warden = Nightwatch::warden_of(now, side);
        for (const auto& move : arvek::legal_moves(game, now))
            if (!move.passes() && game.distance(move.to, warden->cell) == 1 && move.from != warden->cell)
                proposals.add(move, 1.0, "stands by the Warden");
    });
    for (const auto& suggester : nightwatch.suggesters())
        if (std::string(suggester.reason) == "flee") list.add(suggester.reason, suggester.suggest);
    list.temperament({{{"hunger", hunger, {{"strike", 2.0}, {"close in", 3.0}}},
                       {"loyalty", -hunger, {{"flee", 3.0}, {"stay together", 3.0}}}},
                      {}});
    return list;
}

int main() {
    const Nightwatch game;
    const Suggestions sides[] = {suggestions(game, 0.9), suggestions(game, -0.9)};
    std::map<std::string, int> reasons[2];
    auto position = game.initial_position();
    for (std::uint64_t turn = 0; !game.outcome(position) && turn < 200; ++turn) {
        const std::size_t side = turn % 2;
        const auto decision = sides[side].decide(game, position, turn);
        const auto& best = decision.ranked.front();
        std::printf("%-5s %-8s %6.2f  %s\n", game.player_name(position.to_move).c_str(),
                    game.move_text(position, decision.move).c_str(), best.worth,
                    best.reasons.empty() ? "nothing stands out" : best.reasons.front().c_str());
        ++reasons[side][decision.chosen_by];
        game.play(position, decision.move);
    }
    for (const std::size_t side : {std::size_t{0}, std::size_t{1}}) {
        std::printf("%s chose by:", side == 0 ? "The rash side" : "The wary side");
        for (const auto& [reason, times] : reasons[side]) std::printf("  %s %d", reason.c_str(), times);
        std::printf("\n");
    }
    const auto outcome = game.outcome(position);
    std::printf("%s\n", !outcome || outcome->payoff(arvek::Player::First) == 0 ? "Nobody wins."
                        : outcome->payoff(arvek::Player::First) > 0            ? "The rash side wins."
                                                                               : "The wary side wins.");
}
