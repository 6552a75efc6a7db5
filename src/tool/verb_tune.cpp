#include <fmt/format.h>

#include <charconv>
#include <cmath>
#include <filesystem>
#include <memory>
#include <optional>
#include <ostream>
#include <sstream>

#include "arvek/arena/files.hpp"
#include "arvek/arena/steady_clock.hpp"
#include "arvek/lab/tuning_record.hpp"
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

/// Half of it for either side.
constexpr double error_of_test = 0.05;

std::optional<double> number_of(std::string_view text) {
    double number = 0;
    const auto [end, problem] = std::from_chars(text.data(), text.data() + text.size(), number);
    if (problem != std::errc() || end != text.data() + text.size() || !std::isfinite(number)) return std::nullopt;
    return number;
}

bool is_integer_text(std::string_view text) { return text.find_first_not_of("+-0123456789") == std::string_view::npos; }

/// As a line that is read back to the same.
std::string step_text(const StepResult& step) { return fmt::format("{} {}\n", step.points_a, step.comparisons); }

/// "rule.NAME.chance=0..1"
TunedNumber tuned_number(const std::string& text, const std::string& profile, const std::string& source,
                         const ReadBase& read_base) {
    const auto fail = [&](const std::string& problem) -> void {
        throw InputError("--number", in_quotes(text) + " " + problem,
                         "KEY=LOW..HIGH, such as rule.patience.chance=0.0..1.0");
    };
    const std::size_t equal = text.rfind('='), dots = text.find("..", equal == std::string::npos ? 0 : equal);
    if (equal == std::string::npos || equal == 0 || dots == std::string::npos) fail("has no range");
    const std::string low_text = text.substr(equal + 1, dots - equal - 1), high_text = text.substr(dots + 2);
    const auto low = number_of(low_text), high = number_of(high_text);
    if (!low || !high) fail("has a range that is none of two numbers");
    TunedNumber number{text.substr(0, equal), *low, *high, 0.0, false};
    const auto found = number_of_profile(profile, source, read_base, number.name);
    if (!found || found->place.file != 0)
        throw InputError("--number", number.name + " does not stand in " + in_quotes(source) + " itself",
                         "a profile in which the number is written, as what it starts from");
    number.start = found->value;
    number.whole = found->is_integer && is_integer_text(low_text) && is_integer_text(high_text);
    return number;
}

CoursePlot plot_of(const TuningReport& report, const std::string& game) {
    CoursePlot plot{report.title + ", " + game + ": " + std::to_string(report.games) + " games a step",
                    "step",
                    "share of its range, %",
                    0.0,
                    100.0,
                    {}};
    for (std::size_t i = 0; i < report.numbers.size(); ++i) {
        const TunedNumber& number = report.numbers[i];
        const auto share = [&](double value) { return 100 * (value - number.low) / (number.high - number.low); };
        auto& course = plot.courses.emplace_back();
        course.name = number.name;
        course.values.push_back(share(number.start));
        for (const auto& now : report.history) course.values.push_back(share(now[i]));
    }
    return plot;
}

/// Opponents of one profile with other numbers.
class Candidates {
   public:
    Candidates(const ProfilePath& file, const std::vector<TunedNumber>& numbers) : file_(file), numbers_(numbers) {}

    OpponentSpec with(const std::vector<double>& values) const {
        ProfileReading reading;
        for (std::size_t i = 0; i < numbers_.size(); ++i) reading.numbers.emplace_back(numbers_[i].name, values[i]);
        return opponent_of_profile(profile_in(file_.path, reading), file_.level);
    }

   private:
    const ProfilePath& file_;
    const std::vector<TunedNumber>& numbers_;
};

}  // namespace

void check_out(const std::string& out, const std::string& profile) {
    namespace fs = std::filesystem;
    if (!out.ends_with(".toml")) throw InputError("--out", in_quotes(out) + " is no name of a profile", "FILE.toml");
    std::error_code problem;
    const auto folder = [](const fs::path& path) {
        return path.has_parent_path() ? path.parent_path() : fs::path(".");
    };
    if (!fs::is_directory(folder(out), problem))
        throw InputError(out, "there is no folder " + in_quotes(folder(out).string()), "a folder that is there");
    if (!fs::equivalent(folder(out), folder(profile), problem))
        throw InputError("--out", in_quotes(out) + " lies in another folder than the profile",
                         "a name beside " + profile);
    if (fs::exists(out, problem)) throw InputError(out, "there is such a file already", "another name");
}

int run_tune(const Tool& tool, const Arguments& arguments, const Console& console) {
    const Session session = open_session(tool, arguments);
    const std::string& path = arguments.opponents[0];
    (void)opponent_named(path, session);  // says what is wrong with the profile as it is
    const auto file = profile_path(path);
    if (!file) throw InputError("tune", in_quotes(path) + " is no profile", "FILE.toml, perhaps with a level");
    if (arguments.numbers.empty())
        throw InputError("tune", "it is not said which numbers are to be tuned", "--number rule.NAME.chance=0.0..1.0");
    const std::string text = read_text_file(file->path);
    const ReadBase read_base = read_named_file;
    TuningReport report;
    report.profile = file->path;
    report.seed = seed_of(arguments, 0);
    report.title = plain_line(opponent_title(opponent_named(path, session)));
    for (const std::string& number : arguments.numbers)
        report.numbers.push_back(tuned_number(number, text, file->path, read_base));
    const std::string method = arguments.method.value_or("perturbation");
    if (method != "perturbation" && method != "surface")
        throw InputError("--method", "there is no method " + in_quotes(method), "perturbation or surface");
    const bool surface = method == "surface";
    report.options.method = surface ? TuningMethod::Surface : TuningMethod::Perturbation;
    report.options.seed = derived_seed(report.seed, 0);
    report.options.steps = static_cast<int>(integer_value("--steps", arguments.steps.value_or(surface ? "60" : "200"),
                                                          1, surface ? most_steps_of_surface : 100'000));
    report.games = static_cast<int>(integer_value("--games", arguments.games.value_or("16"), 1, 10'000));
    const int test_games =
        static_cast<int>(integer_value("--test-games", arguments.test_games.value_or("2000"), 2, most_games));
    const int confirm = static_cast<int>(integer_value("--confirm", arguments.confirm.value_or("400"), 0, most_games));
    Tuning tuning(report.numbers, report.options);
    const Candidates candidates(*file, report.numbers);
    MatchOptions games;
    games.clock = steady_seconds;
    games.seed = report.seed;
    games.opening_plies = opening_plies_of_comparison(arguments, session);
    const Openings openings = openings_of(arguments);
    require_going_on(session);
    if (arguments.resume && !arguments.record)
        throw InputError("--resume", "no file is named", "--record FILE, the one that the tuning was written to");
    // Wrong use writes nothing: both ends of every range make an opponent.
    LeagueOptions of_step;
    of_step.players = 2;
    of_step.seats = session.players();
    of_step.games = report.games;
    std::vector<double> lows, highs;
    for (const TunedNumber& number : report.numbers) {
        lows.push_back(number.low);
        highs.push_back(number.high);
    }
    try {
        const std::vector<OpponentSpec> ends{candidates.with(lows), candidates.with(highs)};
        session.check_league(ends, of_step, games, openings.moves);
    } catch (const OpeningError& error) {
        throw InputError(openings.place(*arguments.openings, error.opening()), error.what());
    }
    Pool pool(arguments, console);
    if (arguments.out && pool->speaks()) check_out(*arguments.out, file->path);
    std::optional<PlotFile> plot;
    if (arguments.plot && pool->speaks()) plot.emplace(*arguments.plot);
    PageFile page(pool->speaks() ? arguments.report : std::nullopt);
    std::optional<TuningRecord> record;
    std::string before;  // the steps of an earlier run
    if (arguments.record && pool->speaks()) {
        const OpponentSpec start = opponent_named(path, session);
        const TuningIdentity identity{identity_of(session, games, openings, {&start, 1}, {"tuned"}),
                                      file->path + (file->level ? "@" + std::to_string(*file->level) : ""),
                                      report.numbers, report.options, report.games};
        record.emplace(*arguments.record, identity, arguments.resume);
        for (const StepResult& step : record->steps()) before += step_text(step);
    }
    std::istringstream steps(pool->shared(before));
    const auto take_over = [&](std::istream& from) {
        StepResult step;
        if (!(from >> step.points_a >> step.comparisons)) return false;
        tuning.add(step.points_a, step.comparisons);
        report.history.push_back(tuning.now());
        return true;
    };
    while (take_over(steps)) {
    }

    const InterruptGuard guard(console.reads_standard_input);  // Ctrl-C: what was played so far
    Stopping stopping;
    games.stop = stopping.token();
    Writing writing(stopping);
    const auto write = [&](const auto& add) {
        if (record) writing([&] { add(*record); });
    };
    {
        ProgressBar progress(console, report.options.steps);
        while (const auto step = tuning.next()) {
            const std::vector<OpponentSpec> sides{candidates.with(step->a), candidates.with(step->b)};
            games.seed = derived_seed(derived_seed(report.seed, 1), static_cast<std::uint64_t>(tuning.steps_done()));
            const LeagueResult played = session.league(sides, of_step, games, openings.moves, *pool, {}, {});
            const MatchResult& match = played.pairings[0].result;
            const StepResult came{match.points_a(), match.comparisons()};
            const bool stops = stopping.token().stop_requested();
            if (pool->speaks() && !stops && came.comparisons == 0)
                throw InputError("tune", "the rules of the game broke: " + played.first_fault);
            std::istringstream shared(pool->shared(stops ? "" : step_text(came)));
            if (!take_over(shared)) break;
            write([&](TuningRecord& to) { to.add(*step, came, tuning.now()); });
            progress.show(tuning.steps_done(), "of the steps");
        }
    }
    report.steps = tuning.steps_done();
    report.best = tuning.best();
    // The candidate must show that it is better before it is believed.
    const auto stage = [&](TuningStage which, LeagueOptions options, const char* words) -> LeagueResult {
        const std::vector<OpponentSpec> sides{candidates.with(report.best), candidates.with(tuning.start())};
        games.seed = derived_seed(report.seed, 2 + static_cast<std::uint64_t>(which));
        std::vector<std::pair<GameTask, GameRecord>> played_before;
        if (record) played_before = record->games(which);
        const League all(options);
        std::erase_if(played_before, [&](const auto& game) { return !all.knows(game.first); });
        ProgressBar progress(console, static_cast<int>(all.all_games()));
        int done = static_cast<int>(played_before.size());
        return session.league(sides, options, games, openings.moves, *pool, played_before,
                              [&](const GameTask& task, const GameRecord& game) {
                                  progress.show(++done, words);
                                  write([&](TuningRecord& to) { to.add(which, task, game); });
                              });
    };
    report.complete = report.steps == report.options.steps;
    if (report.complete && report.best != tuning.start()) {
        LeagueOptions options = of_step;
        options.games = test_games;
        options.order_error = error_of_test;
        report.test = stage(TuningStage::Test, options, "test games at the most");
        const bool better = report.test->is_sure && report.test->standings[0].player == 0;
        const std::string verdict = pool->shared(stopping.token().stop_requested() ? "interrupted"
                                                 : better                          ? "better"
                                                                                   : "not better");
        report.accepted = verdict == "better";
        report.complete = verdict != "interrupted";
        if (report.accepted && confirm > 0 && report.complete) {
            options.games = confirm;
            options.order_error.reset();
            report.confirmation = stage(TuningStage::Confirmation, options, "fresh games");
            report.complete = !stopping.token().stop_requested();
        }
    }
    if (report.complete && arguments.out && pool->speaks()) {
        std::vector<std::pair<std::string, double>> numbers;
        for (std::size_t i = 0; i < report.numbers.size(); ++i)
            numbers.emplace_back(report.numbers[i].name, report.accepted ? report.best[i] : report.numbers[i].start);
        OutputFile out(*arguments.out);
        out.write(text_with_numbers(text, file->path, read_base, numbers));
        out.commit();
        report.written = *arguments.out;
    }
    console.out << (arguments.format == "json" ? tuning_as_json(session.subject(), report)
                                               : tuning_as_text(session.subject(), report, Paint(console.colour)));
    page.write([&] {
        return tuning_as_page(session.subject(), report, tuning_as_text(session.subject(), report, Paint(false)));
    });
    writing.done();
    if (plot) plot->write(plot_of(report, session.game().name));
    return report.complete ? 0 : 1;
}

}  // namespace arvek::tool
