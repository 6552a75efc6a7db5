#include <algorithm>
#include <memory>
#include <optional>
#include <ostream>

#include "arvek/arena/league_record.hpp"
#include "arvek/arena/steady_clock.hpp"
#include "arvek/picture/plot.hpp"
#include "arvek/session/plain_text.hpp"
#include "line_reader.hpp"
#include "playing.hpp"
#include "progress.hpp"
#include "values.hpp"
#include "verbs.hpp"

namespace arvek::tool {

namespace {

constexpr double error_of_order = 0.05;

/// The same name twice gets a number.
std::vector<std::string> told_apart(std::vector<std::string> names) {
    const std::vector<std::string> all = names;
    for (std::size_t i = 0; i < names.size(); ++i)
        if (std::count(all.begin(), all.end(), all[i]) > 1)
            names[i] +=
                " (" +
                std::to_string(std::count(all.begin(), all.begin() + static_cast<std::ptrdiff_t>(i), all[i]) + 1) + ")";
    return names;
}

StandingsPlot plot_of(const LeagueReport& report, const std::string& game) {
    StandingsPlot plot;
    plot.title = game + ": a league of " + std::to_string(report.names.size()) + ", " +
                 std::to_string(report.result.games) + " games";
    plot.unit_note = report.shape == LeagueShape::EveryPair ? "their mean at 0" : report.titles[0] + " at 0";
    for (const Standing& standing : report.result.standings)
        plot.places.push_back({report.titles[standing.player], standing.rating});
    return plot;
}

}  // namespace

int run_league(const Tool& tool, const Arguments& arguments, const Console& console) {
    const Session session = open_session(tool, arguments);
    LeagueReport report;
    std::vector<OpponentSpec> specs;
    for (const std::string& name : arguments.opponents) {
        specs.push_back(opponent_named(name, session));
        report.names.push_back(plain_line(opponent_text(specs.back())));
        report.titles.push_back(plain_line(opponent_title(specs.back())));
    }
    report.names = told_apart(std::move(report.names));
    report.titles = told_apart(std::move(report.titles));
    report.seats = session.players();
    report.seed = seed_of(arguments, 0);
    report.until_sure = arguments.until_sure;
    report.shape = arguments.against_first ? LeagueShape::AgainstFirst : LeagueShape::EveryPair;
    LeagueOptions options;
    options.players = static_cast<int>(specs.size());
    options.seats = report.seats;
    options.shape = report.shape;
    options.games = report.games_asked =
        static_cast<int>(integer_value("--games", arguments.games.value_or("100"), 1, most_games));
    const int of_round = std::max(1, report.seats);
    report.games_asked = (report.games_asked + of_round - 1) / of_round * of_round;  // in whole rounds
    if (arguments.until_sure) options.order_error = error_of_order;
    MatchOptions games;
    games.seed = report.seed;
    games.clock = steady_seconds;
    games.opening_plies = opening_plies_of_comparison(arguments, session);
    hold_to_time(arguments, session, specs, games);
    const Openings openings = openings_of(arguments);
    require_going_on(session);
    if (arguments.resume && !arguments.record)
        throw InputError("--resume", "no file is named", "--record FILE, the one that the league was written to");
    try {
        session.check_league(specs, options, games, openings.moves);  // wrong use writes nothing
    } catch (const OpeningError& error) {
        throw InputError(openings.place(*arguments.openings, error.opening()), error.what());
    }
    Pool pool(arguments, console);
    std::optional<PlotFile> plot;
    PageFile page(pool->speaks() ? arguments.report : std::nullopt);      // before long games
    if (arguments.plot && pool->speaks()) plot.emplace(*arguments.plot);  // before long games
    std::optional<LeagueRecord> file;
    std::vector<std::pair<GameTask, GameRecord>> played;
    if (arguments.record && pool->speaks()) {
        LeagueIdentity identity{identity_of(session, games, openings, specs, report.names), report.names, report.shape};
        file.emplace(*arguments.record, identity, arguments.resume);
        played = file->games();
    }
    const InterruptGuard guard(console.reads_standard_input);  // Ctrl-C: the games played so far
    Stopping stopping;
    games.stop = stopping.token();
    Writing writing(stopping);
    {
        const League all(options);
        std::erase_if(played, [&](const auto& game) { return !all.knows(game.first); });
        report.taken_over = static_cast<int>(played.size());
        ProgressBar progress(console, static_cast<int>(all.all_games()));
        int done = report.taken_over;
        const auto seen = [&](const GameTask& task, const GameRecord& game) {
            const auto [a, b] = all.players_of(task.pairing);
            progress.show(++done, a == b ? report.titles[a] : report.titles[a] + " against " + report.titles[b]);
            if (file) writing([&] { file->add(task, game); });
        };
        report.result = session.league(specs, options, games, openings.moves, *pool, played, seen);
        report.complete = report.result.is_sure || report.result.games == static_cast<int>(all.all_games()) ||
                          !stopping.token().stop_requested();
    }
    console.out << (arguments.format == "json" ? league_as_json(session.subject(), report)
                                               : league_as_text(session.subject(), report, Paint(console.colour)));
    page.write([&] {
        return league_as_page(session.subject(), report, league_as_text(session.subject(), report, Paint(false)));
    });
    writing.done();
    if (plot) plot->write(plot_of(report, session.game().name));
    return report.complete ? 0 : 1;
}

}  // namespace arvek::tool
