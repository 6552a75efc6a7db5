// The verbs for whoever writes opponents: words, opponents check, story, sweep.

#include <fmt/format.h>

#include <algorithm>
#include <charconv>
#include <climits>
#include <cmath>
#include <ostream>

#include "arvek/arena/files.hpp"
#include "arvek/arena/steady_clock.hpp"
#include "arvek/lab/profile_check.hpp"
#include "arvek/picture/plot.hpp"
#include "arvek/session/checked_profile.hpp"
#include "arvek/session/plain_text.hpp"
#include "game_log.hpp"
#include "line_reader.hpp"
#include "playing.hpp"
#include "progress.hpp"
#include "values.hpp"
#include "verbs.hpp"

namespace arvek::tool {

std::string read_named_file(const std::string& path) {
    constexpr std::size_t most_bytes = 600'000'000;
    return read_text_file(path, most_bytes);
}

Profile profile_in(const std::string& path, ProfileReading reading) {
    reading.read_base = read_named_file;
    Profile profile = read_profile(read_text_file(path), path, reading);
    // A path that begins with a dot is one beside the profile.
    const auto slash = path.find_last_of('/');
    for (auto& [name, value] : profile.parameters)
        if (slash != std::string::npos && (value.starts_with("./") || value.starts_with("../")))
            value.insert(0, path.substr(0, slash + 1));
    return profile;
}

int run_words(const Tool& tool, const Arguments& arguments, const Console& console) {
    const Session session = open_session(tool, arguments);
    const VocabularyReport report = session.vocabulary();
    console.out << (arguments.format == "json" ? vocabulary_as_json(session.subject(), report)
                                               : vocabulary_as_text(session.subject(), report, Paint(console.colour)));
    return 0;
}

namespace {

/// Everything that is wrong with one profile, and what it did in games.
CheckedProfile checked(const Tool& tool, const Arguments& arguments, const std::string& path) {
    ProfileCheckOptions options;
    options.games = static_cast<int>(integer_value("--games", arguments.games.value_or("0"), 0, most_games));
    options.seed = seed_of(arguments, 0);
    return checked_profile(
        path, options,
        [&](std::vector<std::string>& problems) {
            return profile_in(path, {{}, &problems, {}});
        },
        [&](const Profile& profile, bool is_partial) {
            Arguments own = arguments;
            own.game = profile.game.name;
            own.opponent = path;
            const auto names = names_of(tool.games());
            if (std::find(names.begin(), names.end(), own.game) == names.end())
                fail_unknown_in_profile(profile, profile.game, "game", names);
            if (is_partial) own.opponent.reset();
            return open_session(tool, own).game().kit;
        });
}

}  // namespace

int run_opponents(const Tool& tool, const Arguments& arguments, const Console& console) {
    if (arguments.what != "check")
        throw InputError("opponents", "there is nothing like " + in_quotes(arguments.what) + " to do", "check FILE");
    std::vector<CheckedProfile> profiles;
    bool all_right = true;
    for (const std::string& path : arguments.files) {
        (void)read_text_file(path);  // what is no file is wrong use
        profiles.push_back(checked(tool, arguments, path));
        all_right = all_right && profiles.back().report.is_right();
    }
    console.out << (arguments.format == "json" ? profiles_as_json(profiles)
                                               : profiles_as_text(profiles, Paint(console.colour)));
    return all_right ? 0 : 1;
}

namespace {

/// The decisions that lost the most, the worst first.
std::vector<JudgedMove> turning_points_of(const Tool& tool, const GameLogFile& log, const LoggedGame& game,
                                          std::size_t most, std::uint64_t nodes, const Console& console) {
    std::vector<std::string> settings;
    for (const Setting& setting : log.settings) settings.push_back(setting.name + "=" + setting.value);
    const Session session(open_game(tool, log.game, settings), log.position);
    OpponentSpec judge = opponent_named(usual_opponent(session), session);
    judge.nodes = nodes;
    const InterruptGuard guard(console.reads_standard_input);
    ProgressBar progress(console, static_cast<int>(game.moves.size()));
    int done = 0;
    auto judged = session.judge(game.moves, judge, {steady_seconds, {}}, InterruptGuard::stop_token(),
                                [&] { progress.show(++done, "decisions judged"); });
    constexpr double least_lost = 0.005;
    std::erase_if(judged, [](const JudgedMove& each) { return each.lost() < least_lost; });
    std::stable_sort(judged.begin(), judged.end(),
                     [](const JudgedMove& x, const JudgedMove& y) { return x.lost() > y.lost(); });
    if (judged.size() > most) judged.resize(most);
    return judged;
}

}  // namespace

int run_story(const Tool& tool, const Arguments& arguments, const Console& console) {
    const GameLogFile log = read_log(arguments.game);
    if (log.games.empty()) throw InputError(arguments.game, "there is no game in the log", "a log of a finished match");
    const LoggedGame* game = &log.games.front();
    if (arguments.games) {
        const auto number = integer_value("--game", *arguments.games, 0, most_games);
        game = nullptr;
        std::vector<std::string> numbers;
        for (const LoggedGame& each : log.games) {
            if (each.number == number) game = &each;
            numbers.push_back(std::to_string(each.number));
        }
        if (game == nullptr)
            throw InputError("--game", "there is no game " + std::to_string(number) + " in the log",
                             any_of_text(numbers));
    }
    if (arguments.ply) {
        const auto ply = static_cast<std::size_t>(integer_value("--ply", *arguments.ply, 0, INT_MAX));
        std::vector<std::string> plies;
        for (const LogEntry& entry : game->entries) {
            plies.push_back(std::to_string(entry.ply));
            if (entry.ply != ply) continue;
            console.out << (arguments.format == "json" ? entry_as_json(log, *game, entry)
                                                       : entry_as_text(log, *game, entry, Paint(console.colour)));
            return 0;
        }
        throw InputError("--ply", "there is no decision after " + std::to_string(ply) + " plies",
                         plies.empty() ? "a game with decisions" : any_of_text(plies));
    }
    std::vector<JudgedMove> turning_points;
    const auto nodes =
        static_cast<std::uint64_t>(integer_value("--nodes", arguments.nodes.value_or("20000"), 1, 1'000'000'000));
    if (arguments.turning_points) {
        const auto most =
            static_cast<std::size_t>(integer_value("--turning-points", *arguments.turning_points, 1, 1000));
        turning_points = turning_points_of(tool, log, *game, most, nodes, console);
    }
    if (arguments.format == "json") {
        console.out << log_as_json(log, *game, turning_points);
    } else {
        console.out << log_as_text(log, *game, Paint(console.colour));
        if (arguments.turning_points) console.out << turning_points_as_text(log, *game, turning_points, nodes);
    }
    return 0;
}

namespace {

std::vector<double> numbers_of(const std::string& text) {
    constexpr std::size_t most_values = 50;
    std::vector<double> numbers;
    for (const std::string& part : comma_parts(text)) {
        double number = 0;
        const auto result = std::from_chars(part.data(), part.data() + part.size(), number);
        if (part.empty() || result.ec != std::errc{} || result.ptr != part.data() + part.size() ||
            !std::isfinite(number))
            throw InputError("--values", in_quotes(part) + " is no number", "numbers with commas, such as 0.2,0.5,0.8");
        numbers.push_back(number);
    }
    if (numbers.size() > most_values) throw InputError("--values", "there are too many", "at most 50");
    return numbers;
}

}  // namespace

int run_sweep(const Tool& tool, const Arguments& arguments, const Console& console) {
    const Session session = open_session(tool, arguments);
    const std::string& path = arguments.opponents[0];
    if (!arguments.key || !arguments.values)
        throw InputError("sweep", "it is not said which number takes which values",
                         "--key temperament.hunger.value --values -0.5,0,0.5");
    (void)opponent_named(path, session);  // says what is wrong with the profile as it is
    const auto file = profile_path(path);
    if (!file)
        throw InputError("sweep", in_quotes(path) + " is no profile", "FILE.toml, perhaps with a level, and its rival");
    const OpponentSpec rival = opponent_named(arguments.opponents[1], session);
    SweepReport report;
    report.key = *arguments.key;
    report.b_title = plain_line(opponent_title(rival));
    report.seed = seed_of(arguments, 0);
    MatchOptions options;
    options.games = report.games =
        static_cast<int>(integer_value("--games", arguments.games.value_or("100"), 1, most_games));
    options.clock = steady_seconds;
    options.threads = threads_of(arguments);
    options.opening_plies = opening_plies_of(arguments, 0);
    options.seed = report.seed;
    require_going_on(session);
    std::vector<OpponentSpec> specs;
    const std::vector<double> values = numbers_of(*arguments.values);
    for (const double value : values) {
        Profile profile = profile_in(file->path, {{}, nullptr, {{*arguments.key, value}}});
        report.a_title = plain_line(profile.name);
        specs.push_back(opponent_of_profile(std::move(profile), file->level));
        session.check_match(specs.back(), rival, options, {});
    }
    std::optional<PlotFile> plot;
    if (arguments.plot) plot.emplace(*arguments.plot);
    const InterruptGuard guard(console.reads_standard_input);  // Ctrl-C: the values that are finished
    options.stop = InterruptGuard::stop_token();
    {
        ProgressBar progress(console, static_cast<int>(values.size()) * options.games);
        int done = 0;
        for (std::size_t i = 0; i < values.size() && report.complete; ++i) {
            MatchResult result = session.match(specs[i], rival, options, {}, [&](const GameRecord&) {
                progress.show(++done, fmt::format("{} = {}", plain_line(report.key), values[i]));
            });
            report.complete = !InterruptGuard::interrupted();
            if (result.comparisons() > 0) report.rows.push_back({values[i], std::move(result)});
        }
    }
    console.out << (arguments.format == "json" ? sweep_as_json(session.subject(), report)
                                               : sweep_as_text(session.subject(), report, Paint(console.colour)));
    if (plot && !report.rows.empty()) {
        CurvePlot curve{report.a_title + " against " + report.b_title + ", " + session.game().name,
                        report.key,
                        "score, % with its 95 % interval",
                        {}};
        for (const SweepRow& row : report.rows) {
            const Interval interval = row.result.interval();
            curve.points.push_back({row.value, 100 * row.result.score_a(), 100 * interval.low, 100 * interval.high});
        }
        plot->write(curve);
    }
    return report.complete ? 0 : 1;
}

}  // namespace arvek::tool
