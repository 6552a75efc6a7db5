#include <fmt/format.h>

#include <algorithm>
#include <filesystem>
#include <optional>
#include <ostream>

#include "arvek/arena/files.hpp"
#include "arvek/arena/steady_clock.hpp"
#include "arvek/lab/learning_record.hpp"
#include "arvek/opponent/model_file.hpp"
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

constexpr const char* usual_nodes = "300";
constexpr const char* usual_playouts = "100";

/// The first words of a profile that `learn` writes.
constexpr std::string_view learned_profile_begins = "# Learned from ";

/// Who plays to learn: a search, how far it looks, and what is known so far.
class Pupil {
   public:
    Pupil(const Session& session, const Arguments& arguments) : session_(session), game_(session.game().name) {
        const std::string name = arguments.algorithm.value_or(usual_opponent(session));
        spec_ = opponent_named(name, session);
        if (spec_.profile != nullptr || spec_.level)
            throw InputError("--algorithm", in_quotes(name) + " is no search alone", "a search such as standard");
        const ChooserInfo& info = chooser_of(spec_, session);
        if (std::none_of(info.options.begin(), info.options.end(),
                         [](const OptionInfo& option) { return option.name == "evaluator"; }))
            throw InputError("--algorithm", in_quotes(name) + " does not ask what a position is worth",
                             "a search such as standard");
        const std::string method = arguments.method.value_or("search");
        if (method != "search" && method != "differences")
            throw InputError("--method", "there is no method " + in_quotes(method), "search or differences");
        if (method == "differences") {
            if (arguments.nodes || arguments.playouts || arguments.depth || info.plays_out)
                throw InputError("--method", "by differences it looks one ply ahead, by a search that counts plies",
                                 "no limits, or --method search");
            spec_.depth = 1;
        } else if (info.plays_out) {
            spec_.playouts = static_cast<std::uint64_t>(
                integer_value("--playouts", arguments.playouts.value_or(usual_playouts), 1, 1'000'000'000));
        } else if (arguments.depth) {
            spec_.depth = static_cast<int>(integer_value("--depth", *arguments.depth, 1, max_depth));
        } else {
            spec_.nodes = static_cast<std::uint64_t>(
                integer_value("--nodes", arguments.nodes.value_or(usual_nodes), 1, 1'000'000'000));
        }
    }

    /// The search without anything learned.
    const OpponentSpec& plain() const { return spec_; }

    /// "standard, 300 nodes"
    std::string text() const {
        return spec_.name + (spec_.depth      ? fmt::format(", {} plies", *spec_.depth)
                             : spec_.playouts ? fmt::format(", {} playouts", *spec_.playouts)
                                              : fmt::format(", {} nodes", *spec_.nodes));
    }

    /// As a file beside that of the model, without limits.
    std::string profile(const std::string& model, std::uint64_t games) const {
        std::string text = fmt::format("{}{} games against itself.\nname = {}\ngame = {}\n", learned_profile_begins,
                                       games, toml_text(game_ + ", learned"), toml_text(game_));
        text += fmt::format("choose = {}\nmodel = {}\n", toml_text(spec_.name), toml_text(model));
        return text + toml_parameters(session_);
    }

    /// With what is known.
    OpponentSpec knowing(const std::string& model) const {
        const std::string text = fmt::format("name = \"learned\"\ngame = {}\nchoose = {}\nmodel = \"model\"\n",
                                             toml_text(game_), toml_text(spec_.name));
        ProfileReading reading;
        reading.read_base = [&](const std::string&) { return model; };
        OpponentSpec spec = opponent_of_profile(read_profile(text, "learned", reading));
        spec.depth = spec_.depth;
        spec.nodes = spec_.nodes;
        spec.playouts = spec_.playouts;
        return spec;
    }

   private:
    const Session& session_;
    std::string game_;
    OpponentSpec spec_;
};

LearningOptions learning_options(const Arguments& arguments, std::uint64_t seed) {
    LearningOptions options;
    const auto integer = [](const char* name, const std::optional<std::string>& text, int otherwise, int least,
                            int most) {
        return text ? static_cast<int>(integer_value(name, *text, least, most)) : otherwise;
    };
    options.hidden = integer("--hidden", arguments.hidden, options.hidden, 0, most_hidden_units);
    options.second = integer("--second", arguments.second, options.second, 0, most_second_units);
    options.prior = !arguments.no_prior;
    options.passes = integer("--passes", arguments.passes, options.passes, 1, 100);
    options.kept_games = integer("--kept", arguments.kept, options.kept_games, 1, 1'000'000);
    if (arguments.outcome) options.outcome = number_value("--outcome", *arguments.outcome, 0, 1);
    if (arguments.learning_step) options.step = number_value("--step", *arguments.learning_step, 0, 1);
    options.seed = seed;
    return options;
}

CurvePlot plot_of(const LearningReport& report, const std::string& game) {
    CurvePlot plot{game + ", learned against " + report.against, "games", "score, %", {}};
    for (const auto& point : report.points) {
        const MatchResult& match = point.result.pairings[0].result;
        const Interval interval = match.interval();
        plot.points.push_back(
            {static_cast<double>(point.games), 100 * match.score_a(), 100 * interval.low, 100 * interval.high});
    }
    return plot;
}

}  // namespace

int run_learn(const Tool& tool, const Arguments& arguments, const Console& console) {
    namespace fs = std::filesystem;
    const Session session = open_session(tool, arguments);
    require_learnable(session.game().kit.game);
    require_going_on(session);
    LearningReport report;
    report.seed = seed_of(arguments, 0);
    const Pupil pupil(session, arguments);
    report.player = pupil.text();
    report.options = learning_options(arguments, derived_seed(report.seed, 0));
    const int all_games = static_cast<int>(integer_value("--games", arguments.games.value_or("5000"), 1, 400'000));
    const int round = static_cast<int>(integer_value("--round", arguments.round.value_or("100"), 1, 100'000));
    const int test_games =
        static_cast<int>(integer_value("--test-games", arguments.test_games.value_or("200"), 0, most_games));
    const int test_every = static_cast<int>(integer_value(
        "--test-every", arguments.test_every.value_or(std::to_string(std::max(round, all_games / 10))), 1, 1'000'000));
    OpponentSpec against = arguments.against ? opponent_named(*arguments.against, session) : pupil.plain();
    report.against = plain_line(arguments.against ? opponent_text(against) : pupil.text());
    SelfPlayOptions play;
    play.opening_plies =
        static_cast<int>(integer_value("--opening-plies", arguments.opening_plies.value_or("8"), 0, 100));
    if (arguments.stray) play.stray = number_value("--stray", *arguments.stray, 0, 1);
    if (arguments.resume && !arguments.record)
        throw InputError("--resume", "no file is named", "--record FILE, the one that the games were written to");
    MatchOptions games;
    games.clock = steady_seconds;
    const int opening_plies_of_tests =
        has_chance(session.game().kit.game) || has_views(session.game().kit.game) ? 0 : 2;

    Learner learner(session.game().kit.game, session.position(), report.options);
    LearnedModel shape = learner.model();
    report.patterns = shape.patterns.size();
    report.weights = shape.rows.size() + shape.row_bias.size() + shape.second_rows.size() + shape.second_bias.size() +
                     shape.last_rows.size() + shape.last_bias.size();
    const auto named = [&](LearnedModel model) {
        model.game = session.game().name;
        for (const Setting& setting : session.game().settings) model.settings.emplace_back(setting.name, setting.value);
        return model;
    };
    Pool pool(arguments, console);
    std::string model_path;
    if (arguments.out && pool->speaks()) {
        // What an earlier part of the same learning wrote is replaced.
        std::error_code problem;
        const bool is_own = arguments.resume && fs::is_regular_file(*arguments.out, problem) &&
                            read_text_file(*arguments.out).starts_with(learned_profile_begins);
        if (!is_own) check_out(*arguments.out, *arguments.out);
        model_path = arguments.out->substr(0, arguments.out->size() - 5) + ".model.json";
        if (!is_own && fs::exists(model_path, problem))
            throw InputError(model_path, "there is such a file already", "another name for --out");
    }
    std::string model = pool->shared(model_as_json(named(shape)));
    OpponentSpec now = pupil.knowing(model);
    LeagueOptions of_test;
    of_test.players = 2;
    of_test.seats = 2;
    of_test.games = std::max(2, test_games);
    // Wrong use writes nothing.
    games.opening_plies = opening_plies_of_tests;
    {
        const std::vector<OpponentSpec> two{now, against};
        session.check_league(two, of_test, games, {});
    }
    std::optional<PlotFile> plot;
    if (arguments.plot && pool->speaks()) plot.emplace(*arguments.plot);
    std::optional<LearningRecord> record;
    if (arguments.record && pool->speaks()) {
        games.seed = report.seed;
        LearningIdentity identity{identity_of(session, games, {}, {&against, 1}, {"against"}),
                                  report.options,
                                  report.player,
                                  report.against,
                                  round,
                                  play.opening_plies,
                                  play.stray};
        record.emplace(*arguments.record, identity, arguments.resume);
    }
    const InterruptGuard guard(console.reads_standard_input);  // Ctrl-C: what was learned so far
    Stopping stopping;
    games.stop = stopping.token();
    Writing writing(stopping);
    const auto write = [&](const auto& add) {
        if (record) writing([&] { add(*record); });
    };
    const double started = steady_seconds();
    const auto goes_on = [&] { return pool->shared(stopping.token().stop_requested() ? "" : "on") == "on"; };
    const auto test = [&](int after) {
        const std::vector<OpponentSpec> two{now, against};
        games.seed = derived_seed(derived_seed(report.seed, 2), static_cast<std::uint64_t>(after));
        games.opening_plies = opening_plies_of_tests;
        std::vector<std::pair<GameTask, GameRecord>> played;
        if (record) played = record->test_games(after);
        const League all(of_test);
        std::erase_if(played, [&](const auto& game) { return !all.knows(game.first); });
        LearningReport::Point point;
        point.games = after;
        point.error = learner.error();
        point.result =
            session.league(two, of_test, games, {}, *pool, played, [&](const GameTask& task, const GameRecord& game) {
                write([&](LearningRecord& to) { to.add(after, task, game); });
            });
        if (!goes_on()) return false;
        if (pool->speaks()) {
            for (const Standing& standing : point.result.standings)
                if (standing.faults > 0 || point.result.broken > 0)
                    throw InputError("learn", point.result.first_fault, "opponents and rules without faults");
            report.points.push_back(std::move(point));
        }
        return true;
    };
    report.complete = test_games == 0 || test(0);
    {
        ProgressBar progress(console, all_games);
        int done = 0, tested = 0;
        while (report.complete && report.games < all_games) {
            play.from = report.games;
            play.games = std::min(round, all_games - report.games);
            std::vector<std::optional<GameRecord>> played(static_cast<std::size_t>(play.games));
            const auto place_of = [&](int number) { return static_cast<std::size_t>(number - play.from); };
            if (record)
                for (auto game = record->games().lower_bound(2 * play.from);
                     game != record->games().end() && game->first < 2 * (play.from + play.games); ++game) {
                    played[place_of(game->first / 2)] = game->second;
                    ++done;
                }
            std::vector<char> known(played.size());
            for (std::size_t i = 0; i < played.size(); ++i) known[i] = played[i].has_value() ? 1 : 0;
            games.seed = derived_seed(report.seed, 1);
            session.self_play(
                now, play, games, *pool, [&](int number) { return known[place_of(number)] != 0; },
                [&](const GameRecord& game) {
                    played[place_of(game.counted.number / 2)] = game;
                    write([&](LearningRecord& to) { to.add(game); });
                    progress.show(++done, "of the games");
                });
            if (!goes_on()) {
                report.complete = false;
                break;
            }
            if (pool->speaks()) {
                // In the order of their numbers, whoever played them and when.
                for (const auto& game : played) {
                    if (!game) throw InputError("learn", "a game is missing", "all games of a round");
                    if (game->counted.ended_by == EndedBy::BrokenRules || game->counted.is_lost_by_fault())
                        throw InputError("learn", game->counted.fault, "opponents and rules without faults");
                    learner.add(*game);
                }
                learner.learn();
            }
            report.games += play.games;
            model = pool->shared(pool->speaks() ? model_as_json(named(learner.model())) : "");
            now = pupil.knowing(model);
            if (test_games > 0 && (report.games - tested >= test_every || report.games == all_games)) {
                tested = report.games;
                report.complete = test(report.games);
            }
        }
    }
    report.seconds = steady_seconds() - started;
    report.positions = learner.positions();
    if (!pool->speaks()) return 0;
    if (arguments.out && report.games > 0) {
        OutputFile model_file(model_path);
        model_file.write(model);
        OutputFile profile(*arguments.out);
        profile.write(pupil.profile(fs::path(model_path).filename().string(), learner.games()));
        model_file.commit();
        profile.commit();
        report.written = *arguments.out;
        report.model = model_path;
    }
    console.out << (arguments.format == "json" ? learning_as_json(session.subject(), report)
                                               : learning_as_text(session.subject(), report, Paint(console.colour)));
    writing.done();
    if (plot && !report.points.empty()) plot->write(plot_of(report, session.game().name));
    return report.complete ? 0 : 1;
}

}  // namespace arvek::tool
