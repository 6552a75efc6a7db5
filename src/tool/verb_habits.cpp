#include <algorithm>
#include <ostream>

#include "arvek/arena/steady_clock.hpp"
#include "arvek/lab/habits.hpp"
#include "arvek/session/plain_text.hpp"
#include "line_reader.hpp"
#include "playing.hpp"
#include "progress.hpp"
#include "values.hpp"
#include "verbs.hpp"

namespace arvek::tool {

int run_habits(const Tool& tool, const Arguments& arguments, const Console& console) {
    const Session session = open_session(tool, arguments);
    require_going_on(session);
    HabitsReport report;
    report.seed = seed_of(arguments, 0);
    report.opening_plies = static_cast<int>(integer_value("--plies", arguments.plies.value_or("6"), 1, 100));
    report.games_asked = static_cast<int>(integer_value("--games", arguments.games.value_or("100"), 1, 100'000));
    std::vector<OpponentSpec> specs;
    for (const std::string& name : arguments.opponents) specs.push_back(opponent_named(name, session));
    std::optional<OpponentSpec> partner;
    if (arguments.against) {
        partner = opponent_named(*arguments.against, session);
        report.partner = plain_line(opponent_title(*partner));
    }
    MatchOptions games;
    games.clock = steady_seconds;
    games.seed = report.seed;
    games.games = report.games_asked;
    for (const OpponentSpec& spec : specs) session.check_match(spec, partner ? *partner : spec, games, {});
    Pool pool(arguments, console);
    const InterruptGuard guard(console.reads_standard_input);  // Ctrl-C: the games played so far
    Stopping stopping;
    games.stop = stopping.token();
    const AnyGame& game = session.game().kit.game;
    std::vector<HabitCounter> counters(specs.size(), HabitCounter(game, session.position(), report.opening_plies));
    {
        ProgressBar progress(console, report.games_asked * static_cast<int>(specs.size()));
        int done = 0;
        for (std::size_t i = 0; i < specs.size(); ++i) {
            std::vector<GameRecord> played;
            session.play_for_habits(specs[i], partner ? *partner : specs[i], games, *pool, [&](const GameRecord& one) {
                played.push_back(one);
                progress.show(++done, "games");
            });
            // What is counted does not depend on what ended first.
            std::sort(played.begin(), played.end(),
                      [](const auto& a, const auto& b) { return a.counted.number < b.counted.number; });
            HabitsReport::Of of;
            of.name = plain_line(opponent_text(specs[i]));
            of.title = plain_line(opponent_title(specs[i]));
            double points = 0;
            for (const GameRecord& one : played) {
                if (one.counted.is_lost_by_fault() || one.counted.ended_by == EndedBy::BrokenRules)
                    throw InputError("habits", one.counted.fault, "opponents and rules without faults");
                counters[i].add(one, partner ? WhoseHabits::OfA : WhoseHabits::OfBoth);
                points += one.counted.points_a;
            }
            of.habits = counters[i].habits();
            of.score = played.empty() ? 0.5 : points / static_cast<double>(played.size());
            report.complete = report.complete && static_cast<int>(played.size()) == report.games_asked;
            report.opponents.push_back(std::move(of));
        }
    }
    if (specs.size() >= 2) report.differences = counters[0].differences(counters[1]);
    console.out << (arguments.format == "json" ? habits_as_json(session.subject(), report)
                                               : habits_as_text(session.subject(), report, Paint(console.colour)));
    return report.complete ? 0 : 1;
}

}  // namespace arvek::tool
