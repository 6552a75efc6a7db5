#include <fmt/format.h>

#include <algorithm>
#include <cmath>
#include <filesystem>
#include <optional>
#include <ostream>
#include <span>
#include <string>
#include <vector>

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

/// A setting that is measured.
struct MeasuredPlace {
    double at = 0.0;
    OpponentSpec opponent{};
    double seconds = 0.0;
    std::uint64_t moves = 0;
    int games = 0;
};

/// Two that meet, and what came of it so far.
struct Meeting {
    std::size_t a = 0, b = 0;
    double points = 0.0;
    int comparisons = 0, games = 0, batches = 0;
    double seconds = 0.0;
};

/// The strengths of the places that games were played at, the weakest place first; random moves, the first place, come
/// into it as what the others are rated by.
struct Strengths {
    std::vector<std::size_t> places;
    std::vector<MeasuredStrength> measured;
};
Strengths strengths_of(const std::vector<MeasuredPlace>& places, const std::vector<Meeting>& meetings) {
    Strengths found;
    for (std::size_t i = 0; i < places.size(); ++i)
        if (places[i].games > 0) found.places.push_back(i);
    std::sort(found.places.begin(), found.places.end(),
              [&](std::size_t one, std::size_t other) { return places[one].at < places[other].at; });
    std::vector<std::size_t> rank(places.size());
    for (std::size_t i = 0; i < found.places.size(); ++i) rank[found.places[i]] = i;
    std::vector<PairScore> scores;
    for (const Meeting& meeting : meetings)
        if (meeting.comparisons > 0)
            scores.push_back({rank[meeting.a], rank[meeting.b], meeting.points, meeting.comparisons, {}});
    const RatingTable ratings = rate_players(found.places.size(), scores, 0);
    for (std::size_t i = 0; i < found.places.size(); ++i)
        found.measured.push_back({places[found.places[i]].at, ratings.ratings[i]});
    return found;
}
std::span<const MeasuredStrength> without_random(const Strengths& strengths) {
    return std::span(strengths.measured).subspan(1);
}

}  // namespace

int run_level_fit(const Tool& tool, const Arguments& arguments, const Console& console) {
    const Session session = open_session(tool, arguments);
    if (arguments.levels || arguments.plot || arguments.report || arguments.games)
        throw InputError(arguments.levels   ? "--levels"
                         : arguments.plot   ? "--plot"
                         : arguments.report ? "--report"
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
    constexpr double random_moves = -1.0;  // a place before all others
    std::vector<MeasuredPlace> places{{random_moves, read_opponent("random")}};
    const auto add_place = [&](double at) { places.push_back({at, fitted.opponent(at)}); };
    add_place(0.0);
    add_place(0.5);
    for (int level = lowest_level; level <= highest_level; ++level) add_place(level);
    std::vector<OpponentSpec> opponents;
    for (const MeasuredPlace& place : places) opponents.push_back(place.opponent);
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
    // Of the time, so much is for strengths; the rest is for the steps between levels.
    constexpr double share_of_strengths = 0.4;
    const double latest = started + 1.2 * time + 1.0;
    Deadline deadline{latest};
    games.stop = deadline.token();
    std::optional<LevelSteps> steps;
    {
        ProgressBar progress(console, static_cast<int>(std::ceil(time)));
        const std::size_t measured_places = places.size();
        const auto meet = [&](Meeting& meeting) {
            games.seed = derived_seed(derived_seed(report.seed, (meeting.a << 8) + meeting.b),
                                      static_cast<std::uint64_t>(meeting.batches++));
            const double before = steady_seconds();
            const std::vector<OpponentSpec> two{places[meeting.a].opponent, places[meeting.b].opponent};
            const LeagueResult result = session.league(two, batch, games, openings.moves, *pool, {}, {});
            for (const Standing& standing : result.standings)
                if (standing.faults > 0)
                    throw InputError("levels", result.first_fault, "an opponent that plays by the rules");
            meeting.seconds += steady_seconds() - before;
            meeting.points += result.pairings[0].result.points_a();
            meeting.comparisons += result.pairings[0].result.comparisons();
            meeting.games += result.games;
            for (const Standing& standing : result.standings) {
                MeasuredPlace& place = places[standing.player == 0 ? meeting.a : meeting.b];
                place.seconds += standing.seconds;
                place.moves += standing.moves;
                place.games += standing.games;
            }
            progress.show(static_cast<int>(std::min(time, steady_seconds() - started)), "seconds");
        };
        const auto is_past = [&](double share) {
            const bool is = steady_seconds() - started >= share * time || InterruptGuard::interrupted();
            return pool->shared(is ? "past" : "") == "past";
        };
        // Each once, the weakest first, which are the quickest. The strongest may be too slow to be measured in the time.
        std::size_t known = 0;
        for (std::size_t i = 0; i < meetings.size(); ++i) {
            if (known >= 2) {
                if (is_past(share_of_strengths)) break;
                deadline.at = started + share_of_strengths * time;
            }
            meet(meetings[i]);
            if (i + 1 == meetings.size() || meetings[i + 1].a != meetings[i].a) known = meetings[i].a;
        }
        deadline.at = latest;
        std::erase_if(meetings, [](const Meeting& meeting) { return meeting.games == 0; });
        // What a game costs counts by its root: so the time tells the most.
        const auto measure_until = [&](double share) {
            while (!is_past(share)) {
                std::size_t next = 0;
                double least = 1e300;
                for (std::size_t i = 0; i < meetings.size(); ++i) {
                    const Meeting& meeting = meetings[i];
                    const double weight = meeting.games * std::sqrt(meeting.seconds / std::max(1, meeting.games));
                    if (weight >= least) continue;
                    least = weight;
                    next = i;
                }
                // Times are told apart by each process; what is played must not be.
                meet(meetings[std::stoull(pool->shared(std::to_string(next)))]);
            }
        };
        measure_until(share_of_strengths);
        const Strengths strengths = strengths_of(places, meetings);
        constexpr std::size_t fewest = 3;  // fewer where it was interrupted
        if (strengths.measured.size() >= fewest)
            steps.emplace(without_random(strengths), LevelFitOptions{.whole_range = arguments.whole_range});
        // Then the levels themselves, each in games against the one that it is to beat.
        for (; steps && !steps->done(); steps->next()) {
            const double until =
                share_of_strengths + (1.0 - share_of_strengths) * steps->level() / static_cast<double>(highest_level);
            int batches = 100'000 * steps->level();  // luck of its own
            for (int size = 1; !is_past(until); size *= 2) {
                const auto against = steps->against();
                add_place(steps->place());
                if (against) add_place(*against);
                Meeting meeting{places.size() - (against ? 2 : 1), against ? places.size() - 1 : 0};
                meeting.batches = batches;
                for (int i = 0; i < size && !is_past(until); ++i) meet(meeting);
                steps->add(meeting.points, meeting.comparisons);
                batches = meeting.batches;
                places.erase(places.begin() + static_cast<std::ptrdiff_t>(measured_places), places.end());
            }
        }
    }
    report.complete = steps && !InterruptGuard::interrupted();
    report.seconds = steady_seconds() - started;
    if (!pool->speaks()) return 0;
    const Strengths strengths = strengths_of(places, meetings);
    for (std::size_t i = 0; i < strengths.places.size(); ++i) {
        const MeasuredPlace& place = places[strengths.places[i]];
        report.measured.push_back({strengths.measured[i], place.games,
                                   place.moves > 0 ? place.seconds / static_cast<double>(place.moves) : 0.0});
    }
    report.farthest = strengths.measured.back().place;
    if (report.complete) {
        report.levels = steps->levels();
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
