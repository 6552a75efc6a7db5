#include <fmt/format.h>

#include <exception>
#include <ostream>
#include <utility>

#include "arvek/arena/steady_clock.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/picture/plot.hpp"
#include "arvek/session/plain_text.hpp"
#include "line_reader.hpp"
#include "playing.hpp"
#include "progress.hpp"
#include "values.hpp"
#include "verbs.hpp"

namespace arvek::tool {

namespace {

/// Who meets whom: places among the opponents, of which the first plays at random.
struct Pairing {
    std::size_t a = 0, b = 0;
};

LadderPlot plot_of(const LadderReport& report, const std::string& game) {
    LadderPlot plot;
    plot.title = game + ": levels of " + report.title + ", " + std::to_string(report.games) + " games of each two";
    plot.unit_note = "random moves at 0";
    for (const LevelRow& row : report.rows)
        if (row.rating && row.against_random)
            plot.rungs.push_back({row.level, *row.rating, row.against_random->score_a()});
    return plot;
}

}  // namespace

int run_levels(const Tool& tool, const Arguments& arguments, const Console& console) {
    for (const auto& [given, name] : {std::pair{arguments.time.has_value(), "--time"},
                                      {arguments.whole_range, "--whole-range"},
                                      {arguments.out.has_value(), "--out"}})
        if (given) throw InputError(name, "it is for fitting levels", "--fit as well");
    const Session session = open_session(tool, arguments);
    OpponentSpec spec = opponent_named(arguments.opponent.value_or(usual_opponent(session)), session);
    if (spec.level)
        throw InputError("--opponent", "all levels are measured, so none is to be named", "the opponent alone");
    if (!chooser_of(spec, session).has_levels)
        throw InputError("--opponent", in_quotes(spec.name) + " has no levels", "another opponent");
    const std::vector<int> levels =
        number_list("--levels", arguments.levels.value_or("1..10"), lowest_level, highest_level);
    for (std::size_t i = 1; i < levels.size(); ++i)
        if (levels[i] <= levels[i - 1]) throw InputError("--levels", "they are not in order", "the lower level first");
    MatchOptions options;
    options.games = static_cast<int>(integer_value("--games", arguments.games.value_or("100"), 1, most_games));
    options.threads = threads_of(arguments);
    const bool dice = has_chance(session.game().kit.game);
    options.opening_plies = opening_plies_of(arguments, dice ? 0 : 2);  // dice give variety enough
    options.clock = steady_seconds;
    const Openings openings = openings_of(arguments);
    require_going_on(session);

    LadderReport report;
    report.opponent = plain_line(spec.name);
    report.title = plain_line(spec.profile ? spec.profile->name : spec.name);
    report.games = options.games;
    report.seed = seed_of(arguments, 0);
    std::vector<OpponentSpec> opponents{read_opponent("random")};
    std::vector<Pairing> pairings;
    for (std::size_t i = 1; i <= levels.size(); ++i) {
        spec.level = levels[i - 1];
        opponents.push_back(spec);
        pairings.push_back({i, 0});
        if (i >= 2) pairings.push_back({i, i - 1});
        if (i >= 3) pairings.push_back({i, i - 2});
        report.rows.emplace_back().level = levels[i - 1];
    }
    try {
        for (const OpponentSpec& each : opponents) session.check_match(each, opponents[0], options, openings.moves);
    } catch (const OpeningError& error) {
        throw InputError(openings.place(*arguments.openings, error.opening()), error.what());
    }
    std::optional<PlotFile> plot;
    Pool pool(arguments, console);
    PageFile page(pool->speaks() ? arguments.report : std::nullopt);      // before long games
    if (arguments.plot && pool->speaks()) plot.emplace(*arguments.plot);  // before long games
    LeagueOptions of_two;
    of_two.games = options.games;
    of_two.seats = session.players();

    const InterruptGuard guard(console.reads_standard_input);  // Ctrl-C: what is finished
    options.stop = InterruptGuard::stop_token();
    std::vector<PairScore> scores;
    std::size_t players = 1;
    {
        ProgressBar progress(console, static_cast<int>(pairings.size()) * options.games);
        int done = 0;
        for (std::size_t i = 0; i < pairings.size() && report.complete; ++i) {
            const Pairing& pairing = pairings[i];
            options.seed = derived_seed(report.seed, i);
            const OpponentSpec &a = opponents[pairing.a], &b = opponents[pairing.b];
            const std::vector<OpponentSpec> two{a, b};
            const LeagueResult league = session.league(
                two, of_two, options, openings.moves, *pool, {}, [&](const GameTask&, const GameRecord&) {
                    progress.show(++done, plain_line(opponent_title(a) + " against " + opponent_title(b)));
                });
            const MatchResult& result = league.pairings[0].result;
            report.complete = pool->shared(InterruptGuard::interrupted() ? "interrupted" : "").empty();
            if (result.comparisons() == 0) continue;
            scores.push_back({pairing.a, pairing.b, result.points_a(), result.comparisons()});
            players = std::max(players, pairing.a + 1);
            LevelRow& row = report.rows[pairing.a - 1];
            (pairing.b == 0               ? row.against_random
             : pairing.b + 1 == pairing.a ? row.against_next_below
                                          : row.against_two_below) = result;
        }
    }
    if (players > 1) {
        const auto ratings = fit_ratings(players, scores, 0);
        for (std::size_t i = 1; i < players; ++i) report.rows[i - 1].rating = ratings[i];
    }
    console.out << (arguments.format == "json" ? ladder_as_json(session.subject(), report)
                                               : ladder_as_text(session.subject(), report, Paint(console.colour)));
    page.write([&] {
        return ladder_as_page(session.subject(), report, ladder_as_text(session.subject(), report, Paint(false)));
    });
    if (plot && players > 1) plot->write(plot_of(report, session.game().name));
    return report.complete ? 0 : 1;
}

}  // namespace arvek::tool
