// Writing what the lab has measured: leagues, tunings, habits, learning, levels, books, weights.

#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <map>

#include "arvek/game/utf8.hpp"
#include "arvek/session/plain_text.hpp"
#include "writing.hpp"
#include "writing_parts.hpp"

namespace arvek::tool {

namespace {

/// A chance that is never told as a certainty.
std::string chance_text(double chance) {
    return chance > 0.9995 ? "over 99.9 %" : chance < 0.0005 ? "below 0.1 %" : percent(chance);
}

/// What each scored against each, in the order of the standings.
std::string cross_table_text(const LeagueReport& report) {
    const auto& standings = report.result.standings;
    constexpr std::size_t most_columns = 12;  // beyond, no screen is wide enough
    if (report.shape != LeagueShape::EveryPair || standings.size() > most_columns || standings.size() < 3) return "";
    std::vector<std::string> heads{"", "opponent"};
    std::string sides = "rl";
    for (std::size_t i = 0; i < standings.size(); ++i) {
        heads.push_back(std::to_string(i + 1));
        sides += "r";
    }
    TextTable table(heads, sides.c_str());
    for (std::size_t row = 0; row < standings.size(); ++row) {
        std::vector<std::string> cells{std::to_string(row + 1), report.titles[standings[row].player]};
        for (std::size_t column = 0; column < standings.size(); ++column) {
            const auto score = score_between(report.result, standings[row].player, standings[column].player);
            cells.push_back(score ? fmt::format("{:.1f}", 100 * *score) : "-");
        }
        table.add(cells);
    }
    return "\nIn percent, each against each:\n" + table.text();
}

}  // namespace

std::string league_as_text(const Subject& subject, const LeagueReport& report, const Paint& paint) {
    const LeagueResult& result = report.result;
    const bool for_one = report.seats == 1, against_first = report.shape == LeagueShape::AgainstFirst;
    std::string text = heading(subject, paint);
    text += for_one ? fmt::format("{} players, {} deals each\n", report.names.size(), report.games_asked)
                    : fmt::format("{} players, {} games of {}\n", report.names.size(), report.games_asked,
                                  against_first ? "each with " + report.titles[0] : "each two");
    std::vector<std::string> heads{"",     "opponent", "rating", "95 % interval", "above the next",
                                   "wins", "draws",    "losses", "score",         "time per move"};
    std::string sides = "rlrrrrrrrr";
    if (for_one) {
        heads.insert(heads.end() - 1, {"mean", "best"});
        sides += "rr";
    }
    TextTable table(heads, sides.c_str());
    for (std::size_t place = 0; place < result.standings.size(); ++place) {
        const Standing& standing = result.standings[place];
        std::vector<std::string> cells{std::to_string(place + 1),
                                       report.titles[standing.player],
                                       fmt::format("{:+.0f}", standing.rating.rating),
                                       fmt::format("{:+.0f} to {:+.0f}", standing.rating.low, standing.rating.high),
                                       standing.above_next ? chance_text(*standing.above_next) : "",
                                       std::to_string(standing.wins),
                                       std::to_string(standing.draws),
                                       std::to_string(standing.losses),
                                       percent(standing.score())};
        if (for_one) {
            cells.push_back(fmt::format("{:.1f}", standing.scores.mean));
            cells.push_back(std::to_string(standing.scores.best));
        }
        cells.push_back(duration_text(standing.seconds_per_move()));
        table.add(cells);
    }
    text += table.text();
    text += against_first ? fmt::format("  Ratings count from {} at 0", report.titles[0])
                          : "  The mean of the ratings is 0";
    text += "; 400 more stand for ten times the chance to win.\n";
    int draws = 0, repetitions = 0, cut_off = 0, different = 0, compared = 0;
    for (const LeaguePairing& pairing : result.pairings) {
        draws += pairing.result.draws;
        repetitions += pairing.result.repetitions;
        cut_off += pairing.result.unfinished;
        different += pairing.result.different_games();
        compared += pairing.result.games;
    }
    text += fmt::format("  {} games in {} rounds", result.games, result.rounds);
    if (draws > 0 && !for_one) {
        MatchResult all;
        all.draws = draws;
        all.repetitions = repetitions;
        all.unfinished = cut_off;
        text += "; drawn: " + draws_text(all);
    }
    if (result.broken > 0)
        text += fmt::format("; in {} the rules of the game broke, and they do not count", result.broken);
    if (report.taken_over > 0) text += fmt::format("; {} had been played before", report.taken_over);
    text += ".\n";
    for (const Standing& standing : result.standings)
        if (standing.faults > 0)
            text += fmt::format("  {} lost {} of its games by a fault of its own.\n", report.titles[standing.player],
                                standing.faults);
    if (!result.first_fault.empty()) text += "  The first fault, " + plain_line(result.first_fault) + ".\n";
    if (compared > 1 && 2 * different <= compared && !for_one)
        text += fmt::format(
            "  Only {} of the games of a pairing differ. Unless luck is at work the others say nothing new, and the "
            "intervals are too "
            "narrow:\n  --opening-plies N lets games begin in different ways.\n",
            different);
    if (result.is_sure)
        text +=
            "  Sure of the order, and stopped: that any two neighbours are equally strong in truth, and are named in "
            "an order all the "
            "same, has a chance of at most 5 %.\n";
    else if (report.until_sure)
        text += "  Not sure of the order.\n";
    if (!report.complete) text += "  Interrupted: this is what was played.\n";
    return text + cross_table_text(report);
}

std::string tuning_as_text(const Subject& subject, const TuningReport& report, const Paint& paint) {
    std::string text = heading(subject, paint);
    text += fmt::format(
        "{}, {} of {} steps by {}, {} games each\n", paint.strong(report.title), report.steps, report.options.steps,
        report.options.method == TuningMethod::Perturbation ? "perturbation" : "a surface", report.games);
    TextTable table({"number", "range", "start", "candidate"}, "lrrr");
    for (std::size_t i = 0; i < report.numbers.size(); ++i) {
        const TunedNumber& number = report.numbers[i];
        table.add({plain_line(number.name), number_text(number.low) + " to " + number_text(number.high),
                   number_text(number.start), number_text(report.best[i])});
    }
    text += table.text();
    const auto played = [](const LeagueResult& stage) {
        const MatchResult& match = stage.pairings[0].result;
        const Interval interval = match.interval();
        return fmt::format("{} wins, {} draws, {} losses: {}, 95 % interval {:.1f} to {:.1f} %", match.wins_a,
                           match.draws, match.wins_b, percent(match.score_a()), 100 * interval.low,
                           100 * interval.high);
    };
    if (report.test) {
        text += "  The candidate against the start: " + played(*report.test) + ".\n";
        if (report.accepted)
            text +=
                "  Better, surely enough to stop: were it no better, it would be taken with a chance of at most 2.5 "
                "%.\n";
        else if (report.complete)
            text += report.test->is_sure ? "  Worse: the start stays.\n" : "  Not surely better: the start stays.\n";
    } else if (report.complete) {
        text += "  The candidate is the start.\n";
    }
    if (report.confirmation) text += "  In fresh games: " + played(*report.confirmation) + ".\n";
    if (!report.written.empty()) text += "  Written to " + plain_line(report.written) + ".\n";
    if (!report.complete) text += "  Interrupted: this is what was played.\n";
    return text;
}

std::string habits_as_text(const Subject& subject, const HabitsReport& report, const Paint& paint) {
    std::string text = heading(subject, paint);
    text += fmt::format("{} games each {}, an opening being {} moves\n", report.games_asked,
                        report.partner.empty() ? "against itself" : "against " + report.partner, report.opening_plies);
    TextTable table({"opponent", "games that differ", "openings", "as even as", "own first moves", "same reply"},
                    "lrrrrr");
    for (const auto& of : report.opponents) {
        const Habits& habits = of.habits;
        table.add({of.title, fmt::format("{} of {}", habits.different_games, habits.games),
                   fmt::format("{}", habits.openings), fmt::format("{:.1f}", habits.effective_openings),
                   fmt::format("{}", habits.first_moves.size()),
                   habits.positions_again > 0 ? percent(habits.same_reply) : "-"});
    }
    text += table.text();
    text +=
        "  As even as: as much variety as so many openings that are equally likely. Same reply: how often a position "
        "that\n"
        "  came up again was answered as it mostly was.\n";
    for (const auto& of : report.opponents) {
        const Habits& habits = of.habits;
        text += "\n" + paint.strong(of.title);
        if (!report.partner.empty()) text += fmt::format(", {} against {}", percent(of.score), report.partner);
        text += "\n";
        if (!habits.common.empty() && habits.common.front().games == 1) {
            text += "  No two of its games begin alike.\n";
        } else {
            TextTable openings({"games", "begin"}, "rl");
            for (const CountedOpening& opening : habits.common)
                openings.add({fmt::format("{}", opening.games), line_text(opening.moves)});
            text += openings.text();
        }
        if (!habits.reasons.empty()) {
            TextTable reasons({"decided by", "moves", "share", "95 % interval"}, "lrrr");
            for (const HabitShare& share : habits.reasons)
                reasons.add({share.reason, fmt::format("{}", share.moves), percent(share.share),
                             fmt::format("{:.1f} to {:.1f} %", 100 * share.low, 100 * share.high)});
            text += reasons.text();
        }
        if (habits.repeats_games())
            text += fmt::format("  WARNING: only {} of its {} games differ.\n", habits.different_games, habits.games);
        else if (habits.repeats_openings())
            text +=
                fmt::format("  WARNING: {} of its {} games begin alike.\n", habits.common.front().games, habits.games);
        if (habits.repeats_games() || habits.repeats_openings())
            text +=
                "  More variety comes of a level below the highest, [levels.N] variety, a temperament, a rule with a "
                "chance, "
                "or an\n  opening book with several replies.\n";
    }
    if (!report.differences.empty()) {
        text +=
            "\n" + paint.strong(report.opponents[0].title + " and " + report.opponents[1].title + " compared") + "\n";
        TextTable differences(
            {"decided by", report.opponents[0].title, report.opponents[1].title, "difference", "95 % interval", ""},
            "lrrrrl");
        for (const HabitDifference& each : report.differences)
            differences.add(
                {each.reason, percent(each.a), percent(each.b), fmt::format("{:+.1f}", 100 * (each.a - each.b)),
                 fmt::format("{:+.1f} to {:+.1f}", 100 * each.low, 100 * each.high), each.is_sure() ? "sure" : ""});
        text += differences.text();
    }
    if (!report.complete) text += "  Interrupted: this is what was played.\n";
    return text;
}

std::string learning_as_text(const Subject& subject, const LearningReport& report, const Paint& paint) {
    std::string text = heading(subject, paint);
    const LearningOptions& options = report.options;
    text += fmt::format("{} patterns, {} weights: {}{}\n", report.patterns, report.weights,
                        options.hidden == 0 ? "linear"
                        : options.second == 0
                            ? fmt::format("one layer of {} units a side", options.hidden)
                            : fmt::format("layers of {} units a side and {}", options.hidden, options.second),
                        options.prior ? ", and a prior over moves" : "");
    text += fmt::format("{} game{} of {} against itself, {} positions, in {}\n", report.games,
                        report.games == 1 ? "" : "s", report.player, report.positions, duration_text(report.seconds));
    if (!report.points.empty()) {
        text += "Strength against " + report.against + ":\n";
        TextTable table({"after", "score", "95 % interval", "wins", "draws", "losses", "error"}, "rrrrrrr");
        for (const auto& point : report.points) {
            const MatchResult& match = point.result.pairings[0].result;
            const Interval interval = match.interval();
            table.add({fmt::format("{}", point.games), percent(match.score_a()),
                       fmt::format("{:.1f} to {:.1f} %", 100 * interval.low, 100 * interval.high),
                       fmt::format("{}", match.wins_a), fmt::format("{}", match.draws), fmt::format("{}", match.wins_b),
                       point.games == 0 ? "" : fmt::format("{:.4f}", point.error)});
        }
        text += table.text();
        text += "  After so many games; the error is that of the chances to win, squared, in what was learned last.\n";
    }
    if (!report.written.empty())
        text += "  Written to " + plain_line(report.written) + " and " + plain_line(report.model) + ".\n";
    if (!report.complete) text += "  Interrupted: this is what was learned.\n";
    return text;
}

std::string level_fit_as_text(const Subject& subject, const LevelFitReport& report, const Paint& paint) {
    std::string text = heading(subject, paint);
    text += fmt::format("Levels of {}, fitted in {}\n", paint.strong(report.title), duration_text(report.seconds));
    TextTable measured({"place", "rating", "95 % interval", "games", "time per move"}, "lrrrr");
    for (const auto& each : report.measured)
        measured.add({&each == &report.measured[0] ? "random moves" : fmt::format("{:.2f}", each.strength.place),
                      fmt::format("{:.0f}", each.strength.rating.rating),
                      fmt::format("{:.0f} to {:.0f}", each.strength.rating.low, each.strength.rating.high),
                      std::to_string(each.games), duration_text(each.seconds_per_move)});
    text += measured.text();
    if (!report.complete) return text + "  Interrupted: this is what was measured.\n";
    TextTable levels({"level", "place", "rating", "expected against two below"}, "rrrr");
    for (int level = highest_level; level >= lowest_level; --level) {
        const auto at = static_cast<std::size_t>(level - lowest_level);
        levels.add({std::to_string(level), fmt::format("{:.2f}", report.levels.places[at]),
                    fmt::format("{:.0f}", report.levels.ratings[at]),
                    level > 2 ? percent(report.levels.expected(level, level - 2)) : ""});
    }
    text += "\n" + levels.text() +
            "  Ratings count from random moves at 0; 400 more stand for ten times the chance to win.\n";
    const double left = report.levels.full_strength - report.levels.ratings.back();
    if (report.farthest < highest_place)
        text += fmt::format("  The time did not do for places beyond {:.0f}: with more of it levels may go farther.\n",
                            report.farthest);
    if (left > 1)
        text += fmt::format(
            "  It can play {:.0f} stronger than level 10: ten even steps do not reach so far. --whole-range makes them "
            "larger.\n",
            left);
    std::vector<std::string> alike;
    for (int level = lowest_level + 1; level <= highest_level; ++level) {
        const auto at = static_cast<std::size_t>(level - lowest_level);
        if (report.levels.places[at] == report.levels.places[at - 1]) alike.push_back(std::to_string(level));
    }
    if (report.levels.hardly_apart.empty() && !alike.empty())
        text += fmt::format(
            "  Level{} {} came out as the one below: so few games do not tell them apart. More --time does.\n",
            alike.size() == 1 ? "" : "s", joined(alike, ", "));
    if (!report.levels.hardly_apart.empty()) {
        std::vector<std::string> names;
        for (const int level : report.levels.hardly_apart) names.push_back(std::to_string(level));
        text += fmt::format(
            "  Between random moves and the best play there is little room: level{} {} will hardly be told from the "
            "one two below.\n",
            names.size() == 1 ? "" : "s", joined(names, ", "));
    }
    if (!report.written.empty()) text += "  Written to " + plain_line(report.written) + ".\n";
    return text;
}

std::string book_as_text(const Subject& subject, const BookReport& report, const Paint& paint) {
    std::string text = heading(subject, paint);
    const std::size_t most_shown = report.checked.empty() ? 12 : 200;
    TextTable table({"after", report.judged ? "replies: what each loses of the chance to win" : "replies, by weight"},
                    "ll");
    // A book that is checked is listed with the worst first.
    std::vector<const BookReport::At*> positions;
    for (const BookReport::At& at : report.positions) positions.push_back(&at);
    const auto worst_of = [](const BookReport::At& at) {
        double worst = 0;
        for (const BookReport::Reply& reply : at.replies) worst = std::max(worst, reply.lost);
        return worst;
    };
    if (!report.checked.empty())
        std::stable_sort(positions.begin(), positions.end(),
                         [&](const auto* x, const auto* y) { return worst_of(*x) > worst_of(*y); });
    for (std::size_t i = 0; i < positions.size() && i < most_shown; ++i) {
        const BookReport::At& at = *positions[i];
        std::vector<std::string> replies;
        for (const BookReport::Reply& reply : at.replies)
            replies.push_back(report.judged
                                  ? fmt::format("{} {:.1f} %{}", reply.move, 100 * reply.lost,
                                                report.most_lost && reply.lost > *report.most_lost ? " TOO MUCH" : "")
                                  : fmt::format("{} {:.2f}", reply.move, reply.weight));
        table.add({at.is_given        ? "at " + at.position
                   : at.moves.empty() ? "-"
                                      : joined(at.moves, " "),
                   joined(replies, ", ")});
    }
    text += table.text();
    if (positions.size() > most_shown) text += fmt::format("  and {} positions more\n", positions.size() - most_shown);
    if (report.blunders > 0)
        text += fmt::format("  {} positions in which it would err, by {}", report.positions.size(), report.judge);
    else
        text += fmt::format("  {} positions, {} different openings; ", report.positions.size(), report.openings) +
                (report.judged ? fmt::format("{} judged by {}", report.searched, report.judge) : "judged by nobody");
    if (report.folded > 0) text += fmt::format(", {} known as images of others", report.folded);
    text += ".";
    if (report.judged && !report.positions.empty()) {
        const char* seen_by = report.judge == "solving" ? "" : ", as the search sees it";
        text +=
            report.most_lost && report.worst > *report.most_lost
                ? fmt::format(" The worst reply loses {:.1f} % of the chance to win{}.", 100 * report.worst, seen_by)
                : fmt::format(" No reply loses more than {:.1f} % of the chance to win{}.", 100 * report.worst,
                              seen_by);
    }
    text += "\n";
    if (!report.complete) text += "  It goes on from here: more positions, or more time.\n";
    if (!report.written.empty()) text += "  Written to " + plain_line(report.written) + ".\n";
    return text;
}

std::string weights_as_text(const Subject& subject, const WeightReport& report, const Paint& paint) {
    std::string text = heading(subject, paint);
    TextTable table({"feature", "weight", "95 % interval"}, "lrr");
    const auto add = [&](const std::string& name, const FittedWeight& fitted) {
        const bool tells = std::isfinite(fitted.low);
        table.add({name, fmt::format("{:.2f}", fitted.weight),
                   tells ? fmt::format("{:.2f} to {:.2f}", fitted.low, fitted.high) : "too few games to tell"});
    };
    for (std::size_t i = 0; i < report.features.size(); ++i) add(plain_line(report.features[i]), report.fit.weights[i]);
    add("being to move", report.fit.to_move);
    text += table.text();
    text += fmt::format("  From {} positions of {} games; by {:.0f} units the odds to win double.\n",
                        report.fit.samples, report.fit.games, fitted_units_per_doubling);
    text += fmt::format("  The weights tell {:.3f} bits a position of who wins, of 1 at the most.\n", report.fit.bits);
    if (!report.written.empty()) text += "  Written to " + plain_line(report.written) + ".\n";
    return text;
}

}  // namespace arvek::tool
