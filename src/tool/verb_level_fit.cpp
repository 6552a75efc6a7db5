#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <optional>
#include <ostream>

#include "arvek/arena/files.hpp"
#include "arvek/arena/steady_clock.hpp"
#include "arvek/lab/level_fit.hpp"
#include "arvek/opponent/profile.hpp"
#include "arvek/session/plain_text.hpp"
#include "line_reader.hpp"
#include "playing.hpp"
#include "progress.hpp"
#include "values.hpp"
#include "verbs.hpp"

namespace arvek::tool {

namespace {

/// "[levels.3]" and what is in it.
std::string level_text(int level, const LevelSettings& settings, LevelTable table) {
    std::string text = fmt::format("[levels.{}]\n", level);
    if (table == LevelTable::Playouts) text += fmt::format("playouts = {}\n", *settings.limits.playouts);
    if (table == LevelTable::Search || table == LevelTable::Luck)
        text += fmt::format("depth = {}\ndeeper = {:.3f}\n", *settings.limits.depth, settings.deeper);
    if (table != LevelTable::Other) text += fmt::format("nodes = {}\n", *settings.limits.nodes);
    return text + fmt::format(
                      "overlooks = {:.4f}\nnoise = {:.4f}\nmost_lost = {:.3f}\nsees_wins = {:.3f}\nsees_losses = "
                      "{:.3f}\nvariety = {:.3f}\n",
                      settings.overlooks, settings.noise, settings.most_lost, settings.sees_wins, settings.sees_losses,
                      settings.variety);
}

/// The opponent with levels of other settings.
class Fitted {
   public:
    Fitted(const Session& session, const OpponentSpec& spec, const std::optional<ProfilePath>& file)
        : spec_(spec), file_(file), info_(chooser_of(spec, session)), game_(session.game().name) {
        const AnyGame& game = session.game().kit.game;
        for (int level = lowest_level; level <= highest_level; ++level)
            of_game_[static_cast<std::size_t>(level - lowest_level)] =
                level_change_of(game, level, level_table_of(info_));
        // A few playouts tell nothing apart where each move gets less than one, or luck is most of what they show.
        const double moves = static_cast<double>(session.legal_moves().size());
        playouts_ = std::max(1.0, moves / 10) * (has_chance(game) && !has_views(game) ? 4 : 1);
    }

    LevelSettings at(double place) const {
        LevelSettings settings = settings_between(place, level_table_of(info_), of_game_);
        if (settings.limits.playouts)
            settings.limits.playouts =
                static_cast<std::uint64_t>(std::llround(playouts_ * static_cast<double>(*settings.limits.playouts)));
        return settings;
    }

    /// The profile without any levels.
    std::string head(const std::string& base) const {
        std::string text;
        if (file_)
            text += fmt::format("name = {}\ngame = {}\nbased_on = {}\n", toml_text(spec_.profile->name + ", fitted"),
                                toml_text(game_), toml_text(base));
        else
            text += fmt::format("name = {}\ngame = {}\nchoose = {}\n", toml_text(spec_.name + ", fitted to " + game_),
                                toml_text(game_), toml_text(spec_.name));
        return text;
    }

    std::string levels(int level, double place) const { return level_text(level, at(place), level_table_of(info_)); }

    OpponentSpec opponent(double place) const {
        constexpr int some_level = 5;
        const std::string text = head(file_ ? file_->path : "") + levels(some_level, place);
        ProfileReading reading;
        reading.read_base = read_named_file;
        return opponent_of_profile(read_profile(text, "fitted", reading), some_level);
    }

   private:
    const OpponentSpec& spec_;
    const std::optional<ProfilePath>& file_;
    const ChooserInfo& info_;
    std::string game_;
    std::array<LevelChange, highest_level> of_game_{};
    double playouts_ = 1.0;
};

/// A moment at which games are stopped, so that a few slow ones do not take far longer than the time that is given.
struct Deadline {
    double at = 0.0;
    StopToken token() const {
        return StopToken(
            [](const void* state) {
                return InterruptGuard::interrupted() || steady_seconds() >= static_cast<const Deadline*>(state)->at;
            },
            this);
    }
};

/// Two that meet, and what came of it so far.
struct Meeting {
    std::size_t a = 0, b = 0;
    double points = 0.0;
    int comparisons = 0, games = 0, batches = 0;
    double seconds = 0.0;
};

}  // namespace

int run_level_fit(const Tool& tool, const Arguments& arguments, const Console& console) {
    const Session session = open_session(tool, arguments);
    if (arguments.levels || arguments.plot || arguments.games)
        throw InputError(arguments.levels ? "--levels"
                         : arguments.plot ? "--plot"
                                          : "--games",
                         "it is for measuring levels", "without --fit");
    const std::string name = arguments.opponent.value_or(usual_opponent(session));
    const OpponentSpec spec = opponent_named(name, session);
    if (spec.level)
        throw InputError("--opponent", "all levels are fitted, so none is to be named", "the opponent alone");
    if (!chooser_of(spec, session).has_levels)
        throw InputError("--opponent", in_quotes(spec.name) + " has no levels", "another opponent");
    const auto file = profile_path(name);
    if (!file && level_table_of(chooser_of(spec, session)) == LevelTable::Other)
        throw InputError("--opponent", in_quotes(spec.name) + " chooses by what a profile says",
                         "FILE.toml, a profile");
    const double time = seconds_value("--time", arguments.time.value_or("240"), false);
    LevelFitReport report;
    report.opponent = plain_line(opponent_text(spec));
    report.title = plain_line(spec.profile ? spec.profile->name : spec.name);
    report.seed = seed_of(arguments, 0);
    MatchOptions games;
    games.clock = steady_seconds;
    games.opening_plies = opening_plies_of_comparison(arguments, session);
    const Openings openings = openings_of(arguments);
    require_going_on(session);
    Pool pool(arguments, console);
    LeagueOptions batch;
    batch.players = 2;
    batch.seats = session.players();
    // As many as keep all threads at work, in whole rounds.
    batch.games = std::max(4, 2 * static_cast<int>(pool->all_workers()));
    const Fitted fitted(session, spec, file);
    std::vector<double> places{-1.0, 0.0, 0.5};  // random moves have no place of their own
    for (int level = lowest_level; level <= highest_level; ++level) places.push_back(level);
    std::vector<OpponentSpec> opponents{read_opponent("random")};
    for (std::size_t i = 1; i < places.size(); ++i) opponents.push_back(fitted.opponent(places[i]));
    try {
        session.check_league(opponents, batch, games, openings.moves);
    } catch (const OpeningError& error) {
        throw InputError(openings.place(*arguments.openings, error.opening()), error.what());
    }
    if (arguments.out && pool->speaks()) check_out(*arguments.out, file ? file->path : *arguments.out);

    std::vector<Meeting> meetings;
    for (std::size_t i = 1; i < places.size(); ++i) {
        meetings.push_back({i, i - 1});
        if (i >= 2) meetings.push_back({i, i - 2});
    }
    const InterruptGuard guard(console.reads_standard_input);
    const double started = steady_seconds();
    const Deadline deadline{started + 1.2 * time + 1.0};
    games.stop = deadline.token();
    std::vector<double> thinking(places.size());
    std::vector<std::uint64_t> moves(places.size());
    std::vector<int> played(places.size());
    std::size_t known = 1;  // so many of the places are measured
    {
        ProgressBar progress(console, static_cast<int>(std::ceil(time)));
        const auto meet = [&](Meeting& meeting) {
            games.seed = derived_seed(derived_seed(report.seed, meeting.a * places.size() + meeting.b),
                                      static_cast<std::uint64_t>(meeting.batches++));
            const double before = steady_seconds();
            const std::vector<OpponentSpec> two{opponents[meeting.a], opponents[meeting.b]};
            const LeagueResult result = session.league(two, batch, games, openings.moves, *pool, {}, {});
            for (const Standing& standing : result.standings)
                if (standing.faults > 0)
                    throw InputError("levels", result.first_fault, "an opponent that plays by the rules");
            meeting.seconds += steady_seconds() - before;
            meeting.points += result.pairings[0].result.points_a();
            meeting.comparisons += result.pairings[0].result.comparisons();
            meeting.games += result.games;
            for (const Standing& standing : result.standings) {
                const std::size_t place = standing.player == 0 ? meeting.a : meeting.b;
                thinking[place] += standing.seconds;
                moves[place] += standing.moves;
                played[place] += standing.games;
            }
            progress.show(static_cast<int>(std::min(time, steady_seconds() - started)), "seconds");
        };
        const auto time_is_up = [&] {
            const bool is_up = steady_seconds() - started >= time || InterruptGuard::interrupted();
            return pool->shared(is_up ? "up" : "") == "up";
        };
        // Each once, the weakest first, which are the quickest.
        for (std::size_t i = 0; i < meetings.size(); ++i) {
            if (time_is_up() && known > 2) break;
            meet(meetings[i]);
            if (i + 1 == meetings.size() || meetings[i + 1].a != meetings[i].a) known = meetings[i].a + 1;
        }
        // What a game costs counts by its root: so the time tells the most.
        while (!time_is_up()) {
            Meeting* next = nullptr;
            double least = 1e300;
            for (Meeting& meeting : meetings) {
                const double weight = meeting.games * std::sqrt(meeting.seconds / std::max(1, meeting.games));
                if (meeting.games == 0 || weight >= least) continue;
                least = weight;
                next = &meeting;
            }
            // Times are told apart by each process; what is played must not be.
            const std::size_t place =
                next == nullptr ? meetings.size() : static_cast<std::size_t>(next - meetings.data());
            const std::size_t chosen = std::stoull(pool->shared(std::to_string(place)));
            if (chosen == meetings.size()) break;
            meet(meetings[chosen]);
        }
    }
    report.complete = !InterruptGuard::interrupted();
    report.seconds = steady_seconds() - started;
    if (!pool->speaks()) return 0;
    std::vector<PairScore> scores;
    for (const Meeting& meeting : meetings)
        if (meeting.a < known && meeting.comparisons > 0)
            scores.push_back({meeting.a, meeting.b, meeting.points, meeting.comparisons, {}});
    const RatingTable ratings = rate_players(known, scores, 0);
    std::vector<MeasuredStrength> measured;
    for (std::size_t i = 0; i < known; ++i) {
        report.measured.push_back({{places[i], ratings.ratings[i]},
                                   played[i],
                                   moves[i] > 0 ? thinking[i] / static_cast<double>(moves[i]) : 0.0});
        if (i > 0) measured.push_back({places[i], ratings.ratings[i]});
    }
    report.farthest = places[known - 1];
    if (report.complete) {
        report.levels = fit_levels(measured, {.whole_range = arguments.whole_range});
        if (arguments.out) {
            std::string text = fmt::format(
                "# Levels that were fitted by measuring: how strong which settings are, in {:.0f} s of games.\n",
                report.seconds);
            text += fitted.head(file ? std::filesystem::path(file->path).filename().string() : "");
            for (int level = lowest_level; level <= highest_level; ++level) {
                const auto at = static_cast<std::size_t>(level - lowest_level);
                text += level > 2 ? fmt::format("\n# {:.0f} % expected against level {}",
                                                100 * report.levels.expected(level, level - 2), level - 2)
                                  : fmt::format("\n# {:.0f} % expected against random moves",
                                                100 / (1 + std::pow(10, -report.levels.ratings[at] / 400)));
                text += ".\n" + fitted.levels(level, report.levels.places[at]) +
                        fmt::format("rating = {:.1f}\n", report.levels.ratings[at]);
            }
            OutputFile out(*arguments.out);
            out.write(text);
            out.commit();
            report.written = *arguments.out;
        }
    }
    console.out << (arguments.format == "json" ? level_fit_as_json(session.subject(), report)
                                               : level_fit_as_text(session.subject(), report, Paint(console.colour)));
    return report.complete ? 0 : 1;
}

}  // namespace arvek::tool
