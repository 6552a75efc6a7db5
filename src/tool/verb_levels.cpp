#include <fmt/format.h>

#include <ostream>

#include "arvek/arena/steady_clock.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/picture/ladder_plot.hpp"
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

PairScore score_of(const Pairing& pairing, const MatchResult& result) {
    return {pairing.a, pairing.b, result.points_a(), result.games};
}

}  // namespace

int run_levels(const Tool& tool, const Arguments& arguments, const Console& console) {
    const OpenedGame game = open_game(tool, arguments);
    OpponentSpec spec = opponent_named(arguments.opponent.value_or(standard_opponent(game)), arguments.game);
    if (arguments.opponent && arguments.opponent->find('@') != std::string::npos)
        throw InputError("--opponent", "all levels are measured, so none is to be named", opponent_text(spec));
    if (spec.profile && spec.profile->kind == ChooserKind::Random)
        throw InputError("--opponent", in_quotes(spec.name) + " has no levels", "another opponent");
    check_level(spec.name, lowest_level);
    const std::vector<int> levels =
        number_list("--levels", arguments.levels.value_or("1..10"), lowest_level, highest_level);
    for (std::size_t i = 1; i < levels.size(); ++i)
        if (levels[i] <= levels[i - 1]) throw InputError("--levels", "they are not in order", "the lower level first");
    if (arguments.plot) check_plot_name(*arguments.plot);  // before long games
    MatchOptions options;
    options.games = static_cast<int>(whole_number("--games", arguments.games.value_or("100"), 1, most_games));
    options.threads = threads_of(arguments);
    options.opening_plies = opening_plies_of(arguments, game.handle->has_chance() ? 0 : 2);  // dice give variety enough
    options.clock = steady_seconds;
    const auto openings = openings_of(arguments);
    require_going_on(game);

    LadderReport report{
        spec.name, spec.profile ? spec.profile->name : spec.name, options.games, seed_of(arguments, 0), {}};
    std::vector<OpponentSpec> opponents{read_opponent("random")};
    std::vector<Pairing> pairings;
    for (std::size_t i = 1; i <= levels.size(); ++i) {
        spec.level = levels[i - 1];
        opponents.push_back(spec);
        pairings.push_back({i, 0});
        if (i >= 2) pairings.push_back({i, i - 1});
        if (i >= 3) pairings.push_back({i, i - 2});
        report.rows.emplace_back().level = spec.level;
    }

    const InterruptGuard guard(console.reads_standard_input);
    options.stop = InterruptGuard::stop_token();
    std::vector<PairScore> scores;
    {
        ProgressBar progress(console, static_cast<int>(pairings.size()) * options.games);
        int done = 0;
        for (const Pairing& pairing : pairings) {
            options.seed = derived_seed(report.seed, scores.size());
            const OpponentSpec &a = opponents[pairing.a], &b = opponents[pairing.b];
            const MatchResult result = game.table->match(a, b, options, openings, [&](const GameRecord&) {
                progress.show(++done, opponent_title(a) + " against " + opponent_title(b));
            });
            if (InterruptGuard::interrupted()) {
                console.err << "\n";
                throw InputError("levels", "interrupted before every level had played", "let it run, or --games fewer");
            }
            scores.push_back(score_of(pairing, result));
            LevelRow& row = report.rows[pairing.a - 1];
            if (pairing.b == 0)
                row.against_random = result;
            else
                (pairing.b + 1 == pairing.a ? row.against_next_below : row.against_two_below) = result;
        }
    }
    const auto ratings = fit_ratings(opponents.size(), scores, 0);
    for (std::size_t i = 0; i < report.rows.size(); ++i) report.rows[i].rating = ratings[i + 1];

    if (arguments.plot) {
        LadderPlot plot;
        plot.title = game.entry->name() + ": levels of " + report.title + ", " + std::to_string(report.games) +
                     " games of each two";
        plot.unit_note = "random moves at 0";
        for (const LevelRow& row : report.rows)
            plot.rungs.push_back({row.level, row.rating, row.against_random.score_a()});
        write_ladder_plot(*arguments.plot, plot);
    }
    console.out << (arguments.format == "json" ? ladder_as_json(game.subject(), report)
                                               : ladder_as_text(game.subject(), report, Paint(console.colour)));
    return 0;
}

}  // namespace arvek::tool
