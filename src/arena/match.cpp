#include "arvek/arena/match.hpp"

#include <algorithm>
#include <cmath>
#include <exception>
#include <mutex>
#include <string_view>

#include "arvek/game/input_error.hpp"
#include "arvek/game/repetition.hpp"
#include "arvek/search/worker_threads.hpp"

namespace arvek {

Interval wilson_interval(double points, int games) {
    if (games <= 0) return {};
    constexpr double z = 1.959963984540054;  // the normal quantile of 97.5 %
    const double n = games;
    const double share = points / n;
    const double centre = (share + z * z / (2 * n)) / (1 + z * z / n);
    const double half = z / (1 + z * z / n) * std::sqrt(share * (1 - share) / n + z * z / (4 * n * n));
    return {std::max(0.0, centre - half), std::min(1.0, centre + half)};
}

int SequentialTest::lead_needed() const {
    const double settled = std::log((1 - error) / error);
    const double each = std::log((0.5 + margin) / (0.5 - margin));
    return std::max(1, static_cast<int>(std::ceil(settled / each)));
}

void check_sequential_test(const SequentialTest& test) {
    if (!(test.margin > 0 && test.margin < 0.5))
        throw InputError("sequential test", "a margin of " + std::to_string(test.margin) + " is out of range",
                         "more than 0 and less than 0.5");
    if (!(test.error > 0 && test.error < 0.5))
        throw InputError("sequential test", "an error of " + std::to_string(test.error) + " is out of range",
                         "more than 0 and less than 0.5");
}

void check_match_options(const MatchOptions& options) {
    const auto check = [](const char* what, int value, int least, int most, const char* range) {
        if (value < least || value > most) throw InputError(what, std::to_string(value) + " is out of range", range);
    };
    check("games", options.games, 1, INT32_MAX, "at least 1 game");
    check("longest game", options.longest_game, 1, INT32_MAX, "at least 1 ply");
    check("threads", options.threads, 1, most_threads, "1 to 256");
    check("opening", options.opening_plies, 0, 100, "0 to 100 plies");
    if (options.until_sure) check_sequential_test(*options.until_sure);
    for (const auto& seconds : {options.seconds_a, options.seconds_b}) {
        if (!seconds) continue;
        check_limits({.seconds = *seconds, .clock = options.clock});
    }
    if (!(options.overtime >= 1 && std::isfinite(options.overtime)))
        throw InputError("overtime", std::to_string(options.overtime) + " is out of range", "1 or more");
}

namespace {

constexpr const char* end_names[] = {"rules",     "repetition", "cut off",     "illegal move",
                                     "exception", "time",       "broken rules"};

}  // namespace

const char* name_of(EndedBy end) { return end_names[static_cast<std::size_t>(end)]; }

std::optional<EndedBy> ended_by_named(std::string_view name) {
    for (std::size_t i = 0; i < std::size(end_names); ++i)
        if (name == end_names[i]) return static_cast<EndedBy>(i);
    return std::nullopt;
}

void MatchResult::add(const GameResult& game) {
    if (first_fault.empty() && !game.fault.empty())
        first_fault = "game " + std::to_string(game.number) + ": " + game.fault;
    if (game.ended_by == EndedBy::BrokenRules) {
        ++broken;
        return;
    }
    ++games;
    ++(game.winner == MatchWinner::A ? wins_a : game.winner == MatchWinner::B ? wins_b : draws);
    if (game.ended_by == EndedBy::Repetition) ++repetitions;
    if (game.ended_by == EndedBy::CutOff) ++unfinished;
    if (game.is_lost_by_fault()) ++(game.winner == MatchWinner::A ? faults_b : faults_a);
    if (game.winner != MatchWinner::Nobody && (game.winner == MatchWinner::A) == game.a_first) ++wins_of_first;
    courses.insert(game.course);
    moves_a += game.moves_a;
    moves_b += game.moves_b;
    seconds_a += game.seconds_a;
    seconds_b += game.seconds_b;
    for (const auto& [reason, times] : game.chosen_a) chosen_a[reason] += times;
    for (const auto& [reason, times] : game.chosen_b) chosen_b[reason] += times;
}

namespace {

/// The games of a match and who plays which. Everything in here is asked with `lock` held.
class Schedule {
   public:
    explicit Schedule(const MatchOptions& options)
        : options_(options), results_(static_cast<std::size_t>(options.games)) {
        for (const GameResult& game : options.played)
            if (game.number >= 0 && game.number < options.games) results_[static_cast<std::size_t>(game.number)] = game;
        count();
    }

    /// The next game to play; nothing when there is none.
    std::optional<int> next() {
        if (over_ || options_.stop.stop_requested()) return std::nullopt;
        while (next_ < results_.size() && results_[next_]) ++next_;
        if (next_ == results_.size()) return std::nullopt;
        return static_cast<int>(next_++);
    }

    void add(const GameResult& game) {
        results_[static_cast<std::size_t>(game.number)] = game;
        count();
    }

    void give_up() { over_ = true; }

    /// The games up to the one that settled it; where nothing did, all that were played.
    MatchResult result() {
        if (!over_)
            for (; counted_ < results_.size(); ++counted_)
                if (results_[counted_]) result_.add(*results_[counted_]);
        return result_;
    }

   private:
    /// Counts the games in the order of their numbers, so that it does not matter which ended first. A test looks after
    /// each pair.
    void count() {
        while (!over_ && counted_ < results_.size() && results_[counted_]) {
            result_.add(*results_[counted_++]);
            if (!options_.until_sure || counted_ % 2 != 0) continue;
            result_.verdict = options_.until_sure->verdict(result_.wins_a, result_.wins_b);
            over_ = result_.verdict != 0;
        }
    }

    const MatchOptions& options_;
    std::vector<std::optional<GameResult>> results_;
    std::size_t next_ = 0, counted_ = 0;
    MatchResult result_;
    bool over_ = false;
};

/// Has `threads` workers play the games that are still to play: `play(worker, number)` one each, which gives nothing
/// when it was stopped. `ended(worker)` is called for each that ended, by one worker at a time.
MatchResult run_match(const MatchOptions& options,
                      const std::function<std::optional<GameResult>(std::size_t, int)>& play,
                      const std::function<void(std::size_t)>& ended) {
    Schedule schedule(options);
    std::mutex mutex;
    const auto work = [&](std::size_t worker) {
        try {
            for (;;) {
                std::optional<int> number;
                {
                    const std::lock_guard lock(mutex);
                    number = schedule.next();
                }
                if (!number) return;
                const std::optional<GameResult> result = play(worker, *number);
                if (!result) return;
                const std::lock_guard lock(mutex);
                ended(worker);
                schedule.add(*result);
            }
        } catch (...) {
            const std::lock_guard lock(mutex);
            schedule.give_up();
            throw;
        }
    };
    StopFlag unused;
    const auto help = [&](std::size_t i) { work(i + 1); };
    WorkerThreads helpers(static_cast<std::size_t>(options.threads) - 1, help, unused);
    work(0);
    helpers.finish();
    return schedule.result();
}

/// One game in progress.
class GameOfMatch {
   public:
    using Played = PlayedGame<AnyGame>;

    GameOfMatch(const AnyGame& game, const MatchOptions& options, const MatchStart<AnyGame>& start, int number)
        : game_(game),
          options_(options),
          start_(start),
          seed_(derived_seed(options.seed, static_cast<std::uint64_t>(number))),
          pair_seed_(derived_seed(options.seed, static_cast<std::uint64_t>(number / 2))),
          chance_(derived_seed(pair_seed_, 0)),
          positions_{start.position} {
        played_.number = number;
        played_.player_a = number % 2 == 0 ? Player::First : Player::Second;
        played_.end = start.position;
        played_.result.number = number;
        played_.result.a_first = played_.player_a == Player::First;
    }

    /// The game, played to its end; nothing when it was stopped before: a search that was cut short chose its move.
    std::optional<Played> finish(Opponent<AnyGame>& a, Opponent<AnyGame>& b) {
        GameResult& result = played_.result;
        try {
            begin();
            while (!over()) {
                if (!play_a_move(a, b)) return std::nullopt;
            }
            if (!result.is_lost_by_fault()) {
                const Payoff payoff = played_.outcome ? played_.outcome->payoff(played_.player_a) : 0;
                result.winner = payoff > 0 ? MatchWinner::A : payoff < 0 ? MatchWinner::B : MatchWinner::Nobody;
                if (!played_.outcome) result.ended_by = EndedBy::CutOff;
            }
            result.course = course();
        } catch (const InputError&) {
            throw;  // of the openings: wrong use
        } catch (const std::exception& error) {
            // Not of an opponent: those are caught where they decide.
            result.ended_by = EndedBy::BrokenRules;
            result.fault =
                std::string("after ply ") + std::to_string(played_.moves.size()) + " the game threw: " + error.what();
            result.winner = MatchWinner::Nobody;
            played_.outcome.reset();
        }
        result.plies = played_.moves.size();
        return std::move(played_);
    }

   private:
    void begin() {
        let_chance_act();
        if (start_.openings.empty()) {
            play_random_opening();
            return;
        }
        for (const auto& move :
             start_.openings[static_cast<std::size_t>(played_.number / 2) % start_.openings.size()]) {
            if (played_.outcome || !legal_moves(game_, played_.end).contains(move))
                throw InputError("openings", "move " + std::to_string(played_.moves.size() + 1) +
                                                 " of an opening is not legal where it is played");
            play(move);
        }
    }

    bool over() const {
        return played_.outcome || played_.result.is_lost_by_fault() ||
               played_.moves.size() >= static_cast<std::size_t>(options_.longest_game);
    }

    /// False when the match was stopped.
    bool play_a_move(Opponent<AnyGame>& a, Opponent<AnyGame>& b) {
        GameResult& result = played_.result;
        const bool turn_of_a = game_.player_to_move(played_.end) == played_.player_a;
        const double started = options_.clock.seconds_or_0();
        const std::span<const AnyPosition> earlier(positions_.data(), positions_.size() - 1);
        Decision<AnyMove> decision;
        std::string fault;
        EndedBy end = EndedBy::Exception;
        try {
            decision = (turn_of_a ? a : b).decide(played_.end, seed_, earlier, options_.stop);
        } catch (const RulesError&) {
            throw;
        } catch (const std::exception& error) {
            fault = std::string("threw: ") + error.what();
        } catch (...) {
            fault = "threw what is no std::exception";
        }
        if (options_.stop.stop_requested()) return false;
        const double took = options_.clock.seconds_or_0() - started;
        (turn_of_a ? result.seconds_a : result.seconds_b) += took;
        ++(turn_of_a ? result.moves_a : result.moves_b);
        if (fault.empty()) {
            const auto& most = turn_of_a ? options_.seconds_a : options_.seconds_b;
            constexpr double delays_of_the_machine = 0.05;
            if (!decision.move.has_value() || !legal_moves(game_, played_.end).contains(decision.move)) {
                end = EndedBy::IllegalMove;
                fault = "played a move that is not legal";
            } else if (most && took > *most * options_.overtime + delays_of_the_machine) {
                end = EndedBy::Time;
                fault = "took " + std::to_string(took) + " s, and may take " + std::to_string(*most) + " s";
            }
        }
        if (!fault.empty()) {
            result.ended_by = end;
            result.winner = turn_of_a ? MatchWinner::B : MatchWinner::A;
            result.fault = std::string(turn_of_a ? "A " : "B ") + fault + " (ply " +
                           std::to_string(played_.moves.size() + 1) + ")";
            return true;
        }
        if (!decision.chosen_by.empty()) ++(turn_of_a ? result.chosen_a : result.chosen_b)[decision.chosen_by];
        play(decision.move);
        return true;
    }

    /// By the positions, or by the texts of the moves. Of a game that has neither, each is taken for different.
    std::uint64_t course() const {
        std::uint64_t course = played_.player_a == Player::First ? 1 : 2;
        if (has_hash(game_)) {
            for (const auto& position : positions_) course = mix_bits(course ^ game_.hash(position));
        } else if (offers(game_, Ability::Text)) {
            for (std::size_t i = 0; i < played_.moves.size(); ++i)
                course = mix_bits(course ^ hash_of_text(game_.move_text(positions_[i], played_.moves[i])));
        } else {
            course = mix_bits(course ^ seed_);
        }
        return course;
    }

    void play(const AnyMove& move) {
        game_.play(played_.end, move);
        played_.moves.push_back(move);
        positions_.push_back(played_.end);
        let_chance_act();
    }

    void let_chance_act() {
        settle_chance(game_, played_.end, chance_, [&](const AnyMove& event) {
            played_.moves.push_back(event);
            positions_.push_back(played_.end);
        });
        played_.outcome = game_.outcome(played_.end);
        played_.result.ended_by = EndedBy::Rules;
        if (!played_.outcome && is_draw_by_repetition(game_, positions_)) {
            played_.outcome = Outcome::draw();
            played_.result.ended_by = EndedBy::Repetition;
        }
    }

    /// A few random moves after which the game still goes on; as many as can be had in a few attempts.
    void play_random_opening() {
        constexpr int attempts = 20;
        const Played before = played_;
        for (int attempt = 0, plies = options_.opening_plies; plies > 0; plies -= attempt % attempts == 0 ? 1 : 0) {
            Random random(derived_seed(derived_seed(pair_seed_, 1), static_cast<std::uint64_t>(attempt++)));
            for (int i = 0; i < plies && !played_.outcome; ++i) {
                const auto moves = legal_moves(game_, played_.end);
                play(moves[static_cast<std::size_t>(random.below(moves.size()))]);
            }
            if (!played_.outcome) return;
            chance_ = Random(derived_seed(pair_seed_, 0));
            played_ = before;
            played_.end = start_.position;
            played_.moves.clear();
            positions_.assign(1, start_.position);
            let_chance_act();
        }
    }

    const AnyGame& game_;
    const MatchOptions& options_;
    const MatchStart<AnyGame>& start_;
    std::uint64_t seed_, pair_seed_;
    Random chance_;
    std::vector<AnyPosition> positions_;
    PlayedGame<AnyGame> played_;
};

}  // namespace

MatchResult play_any_match(const AnyGame& game, const AnyOpponentMaker& make_a, const AnyOpponentMaker& make_b,
                           const MatchOptions& options, const MatchStart<AnyGame>& start,
                           const std::function<void(const PlayedGame<AnyGame>&)>& seen) {
    check_match_options(options);
    require_game_for_two(game, "match");
    if (game.outcome(start.position))
        throw InputError("position", "the game is over, so there is nothing to play", "a position where play goes on");
    const auto workers = static_cast<std::size_t>(options.threads);
    std::vector<std::shared_ptr<Opponent<AnyGame>>> as, bs;
    for (std::size_t i = 0; i < workers; ++i) {
        as.push_back(make_a());
        bs.push_back(make_b());
    }
    std::vector<PlayedGame<AnyGame>> last(workers);
    return run_match(
        options,
        [&](std::size_t worker, int number) -> std::optional<GameResult> {
            auto played = GameOfMatch(game, options, start, number).finish(*as[worker], *bs[worker]);
            if (!played) return std::nullopt;
            last[worker] = std::move(*played);
            return last[worker].result;
        },
        [&](std::size_t worker) { seen(last[worker]); });
}

}  // namespace arvek
