#include "arvek/session/vocabulary.hpp"

#include <algorithm>
#include <cmath>

#include "arvek/game/missing.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/session/plain_text.hpp"
#include "arvek/session/session.hpp"

namespace arvek {

VocabularyReport Session::vocabulary() const {
    const AnyGame& game = game_.kit.game;
    VocabularyReport report;
    std::vector<AnyMove> moves;
    report.is_a_turn = !ending() && !chance_is_next() && !has_views(game);
    if (report.is_a_turn) {
        report.to_move = player_name(player_to_move());
        const auto legal = arvek::legal_moves(game, position());
        moves.assign(legal.begin(), legal.end());
        for (const AnyMove& move : moves) report.moves.push_back(plain_line(game.move_text(position(), move)));
    }
    constexpr const char* of_what[] = {"position", "actor", "action", "target"};
    for (const auto& quantity : game.quantities()) {
        const auto [least, most] = range_of(quantity);
        VocabularyReport::Number number{plain_line(quantity.name),
                                        plain_line(quantity.unit),
                                        of_what[static_cast<std::size_t>(quantity.of)],
                                        plain_line(quantity.doc),
                                        least,
                                        most,
                                        0,
                                        0};
        std::vector<double>& values = report.values.emplace_back();
        for (const AnyMove& move : moves) values.push_back(quantity.value(game, position(), move));
        if (!values.empty()) {
            number.least_now = *std::min_element(values.begin(), values.end());
            number.most_now = *std::max_element(values.begin(), values.end());
        }
        report.numbers.push_back(std::move(number));
    }
    if (acts_in(game)) {
        const ActNames names = game.act_names();
        const auto add = [](const std::vector<std::string>& from, std::vector<VocabularyReport::Name>& to) {
            for (const std::string& name : from) to.push_back({plain_line(name), 0});
        };
        add(names.actors, report.actors);
        add(names.actions, report.actions);
        add(names.kinds, report.kinds);
        add(names.targets, report.targets);
        for (const AnyMove& move : moves) {
            const Act act = game.act(position(), move);
            ++report.actors[act.actor].moves;
            ++report.actions[act.action].moves;
            if (act.target < report.targets.size()) ++report.targets[act.target].moves;
            for (std::size_t kind = 0; kind < report.kinds.size(); ++kind)
                if (act.is_of(kind)) ++report.kinds[kind].moves;
        }
    }
    for (const auto& suggester : game.suggesters()) {
        VocabularyReport::Suggestion suggestion{plain_line(suggester.reason), plain_line(suggester.doc), {}};
        Proposals<AnyMove> proposals;
        if (report.is_a_turn) suggester.suggest(game, position(), proposals);
        for (const auto& proposal : proposals.all())
            suggestion.now.push_back(plain_line(game.move_text(position(), proposal.move) + ": " + proposal.note +
                                                ", " + number_text(std::round(proposal.urgency * 100) / 100)));
        report.suggestions.push_back(std::move(suggestion));
    }
    const bool for_two_in_the_open = players() == 2 && !has_views(game) && !has_chance(game);
    for (const std::string& name : ready_rule_names()) {
        if (name.find("double threat") != std::string::npos && !for_two_in_the_open) continue;
        if (name == "suggestions" && game.suggesters().empty()) continue;
        if (name == "the game's preference" && !offers(game, Ability::Preference)) continue;
        report.ready_rules.push_back(name);
    }
    return report;
}

}  // namespace arvek
