#include "arvek/arena/match.hpp"

#include <algorithm>
#include <cmath>
#include <exception>
#include <mutex>
#include <string_view>

#include "../game/mean_interval.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/game/repetition.hpp"
#include "arvek/game/seen_so_far.hpp"
#include "arvek/search/worker_threads.hpp"

namespace arvek {

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

namespace {

double mean_of(const std::vector<double>& values) {
    double sum = 0;
    for (const double value : values) sum += value;
    return values.empty() ? 0.0 : sum / static_cast<double>(values.size());
}

/// Payoffs may be as bad as the best that was met is good, but for one player alone.
Interval interval_of(const std::vector<double>& values, bool may_be_lost) {
    double least = 0, most = 1;
    for (const double value : values) {
        least = std::min(least, value);
        most = std::max(most, std::abs(value));
    }
    return mean_interval(values, may_be_lost ? -most : least, most);
}

std::vector<double> in_numbers(const std::vector<Payoff>& payoffs) { return {payoffs.begin(), payoffs.end()}; }

std::vector<double> differences(const MatchResult& result) {
    std::vector<double> all;
    for (std::size_t i = 0; i < result.payoffs_a.size() && i < result.payoffs_b.size(); ++i)
        all.push_back(result.payoffs_a[i] - result.payoffs_b[i]);
    return all;
}

}  // namespace

double MatchResult::mean_payoff_a() const { return mean_of(in_numbers(payoffs_a)); }
Interval MatchResult::payoff_interval() const { return interval_of(in_numbers(payoffs_a), players > 1); }
double MatchResult::mean_difference() const { return mean_of(differences(*this)); }
Interval MatchResult::difference_interval() const { return interval_of(differences(*this), true); }

ScoreSummary MatchResult::summary(bool of_a) const { return score_summary(of_a ? payoffs_a : payoffs_b); }

ScoreSummary score_summary(std::span<const Payoff> payoffs) {
    ScoreSummary summary{static_cast<int>(payoffs.size()), mean_of({payoffs.begin(), payoffs.end()}), 0, 0};
    if (payoffs.empty()) return summary;
    summary.best = *std::max_element(payoffs.begin(), payoffs.end());
    summary.worst = *std::min_element(payoffs.begin(), payoffs.end());
    return summary;
}

void MatchResult::add(const GameResult& game) {
    if (first_fault.empty() && !game.fault.empty())
        first_fault = "game " + std::to_string(game.number) + ": " + game.fault;
    if (game.ended_by == EndedBy::BrokenRules) {
        ++broken;
        return;
    }
    ++games;
    if (players == 1) {
        (game.a_first ? payoffs_a : payoffs_b).push_back(game.payoff_a);
        if (!game.a_first && payoffs_a.size() == payoffs_b.size()) {
            const Payoff more = payoffs_a.back() - payoffs_b.back();
            ++(more > 0 ? wins_a : more < 0 ? wins_b : draws);
            points += more > 0 ? 1.0 : more < 0 ? 0.0 : 0.5;
        }
    } else {
        ++(game.winner == MatchWinner::A ? wins_a : game.winner == MatchWinner::B ? wins_b : draws);
        points += game.points_a;
        payoffs_a.push_back(game.payoff_a);
    }
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
    if (players != 2) return;
    const std::size_t seat_of_a = game.a_first ? 0 : 1, seat_of_b = 1 - seat_of_a;
    for (const auto& [reason, times] : game.chosen_a) chosen_a_by_seat[seat_of_a][reason] += times;
    for (const auto& [reason, times] : game.chosen_b) chosen_b_by_seat[seat_of_b][reason] += times;
    moves_a_by_seat[seat_of_a] += game.moves_a;
    moves_b_by_seat[seat_of_b] += game.moves_b;
    points_a_by_seat[seat_of_a] += game.points_a;
    ++games_by_seat[seat_of_a];
}

namespace {

/// The games of a match and who plays which. Everything in here is asked with `lock` held.
class Schedule {
   public:
    Schedule(const MatchOptions& options, int players)
        : options_(options),
          together_(std::max<std::size_t>(2, static_cast<std::size_t>(players))),
          results_(static_cast<std::size_t>(options.games)) {
        result_.players = players;
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
            if (counted_ % together_ != 0) continue;
            const int comparisons = result_.comparisons() - result_.rounds.comparisons;
            if (comparisons > 0) result_.rounds.add(result_.points - result_.rounds.points, comparisons);
            if (!options_.until_sure) continue;
            result_.tested_by = options_.until_sure;
            result_.verdict = options_.until_sure->verdict(result_.rounds);
            over_ = result_.verdict != 0;
        }
    }

    const MatchOptions& options_;
    std::size_t together_;  ///< games that are one comparison
    std::vector<std::optional<GameResult>> results_;
    std::size_t next_ = 0, counted_ = 0;
    MatchResult result_;
    bool over_ = false;
};

/// Has `threads` workers play the games that are still to play: `play(worker, number)` one each, which gives nothing
/// when it was stopped. `ended(worker)` is called for each that ended, by one worker at a time.
MatchResult run_match(const MatchOptions& options, int players,
                      const std::function<std::optional<GameResult>(std::size_t, int)>& play,
                      const std::function<void(std::size_t)>& ended) {
    Schedule schedule(options, players);
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
          players_(players_of(game)),
          group_(number / std::max(2, players_)),
          seed_(derived_seed(options.seed, static_cast<std::uint64_t>(number))),
          pair_seed_(derived_seed(options.seed, static_cast<std::uint64_t>(group_))),
          chance_(derived_seed(pair_seed_, 0)),
          positions_{start.position} {
        played_.number = number;
        played_.player_a = players_ == 1 ? Player::First : static_cast<Player>(number % players_);
        played_.end = start.position;
        played_.result.number = number;
        played_.result.seat_a = static_cast<int>(index_of(played_.player_a));
        played_.result.a_first = players_ == 1 ? number % 2 == 0 : played_.player_a == Player::First;
    }

    /// The game, played to its end; nothing when it was stopped before: a search that was cut short chose its move.
    std::optional<Played> finish(Opponent<AnyGame>& a, Opponent<AnyGame>& b) {
        GameResult& result = played_.result;
        try {
            begin();
            while (!over()) {
                if (!play_a_move(a, b)) return std::nullopt;
            }
            settle();
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
        for (const auto& move : start_.openings[static_cast<std::size_t>(group_) % start_.openings.size()]) {
            if (played_.outcome || !legal_moves(game_, played_.end).contains(move))
                throw InputError("openings", "move " + std::to_string(played_.moves.size() + 1) +
                                                 " of an opening is not legal where it is played");
            play(move);
        }
    }

    /// Who had how much of it.
    void settle() {
        GameResult& result = played_.result;
        if (result.is_lost_by_fault()) {
            result.points_a = result.winner == MatchWinner::A ? 1.0 : 0.0;
            if (players_ > 1) result.payoff_a = result.winner == MatchWinner::A ? 1 : -1;
            return;
        }
        if (!played_.outcome) {
            result.ended_by = EndedBy::CutOff;
            return;
        }
        result.payoff_a = played_.outcome->payoff(played_.player_a);
        if (players_ == 1) return;
        double points = 0;
        bool a_has_most = true;
        int with_most = 1;
        Payoff most = result.payoff_a;
        for (int seat = 0; seat < players_; ++seat) {
            if (seat == result.seat_a) continue;
            const Payoff payoff = played_.outcome->payoff(static_cast<Player>(seat));
            points += payoff < result.payoff_a ? 1.0 : payoff == result.payoff_a ? 0.5 : 0.0;
            if (payoff > most) {
                most = payoff;
                with_most = 1;
                a_has_most = false;
            } else if (payoff == most) {
                ++with_most;
            }
        }
        result.points_a = points / (players_ - 1);
        if (with_most == 1) result.winner = a_has_most ? MatchWinner::A : MatchWinner::B;
    }

    bool over() const {
        return played_.outcome || played_.result.is_lost_by_fault() ||
               played_.moves.size() >= static_cast<std::size_t>(options_.longest_game);
    }

    /// False when the match was stopped.
    bool play_a_move(Opponent<AnyGame>& a, Opponent<AnyGame>& b) {
        GameResult& result = played_.result;
        const Player mover = game_.player_to_move(played_.end);
        const bool turn_of_a = players_ == 1 ? result.a_first : mover == played_.player_a;
        const double started = options_.clock.seconds_or_0();
        const auto seen = seen_so_far_.of(game_, positions_, mover);
        Decision<AnyMove> decision;
        std::string fault;
        EndedBy end = EndedBy::Exception;
        try {
            Opponent<AnyGame>& opponent = turn_of_a ? a : b;
            opponent.explain(options_.keeps_decisions);
            decision = opponent.decide(seen.back(), seed_, seen.first(seen.size() - 1), options_.stop);
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
            if (!legal_moves(game_, played_.end).contains(decision.move)) {
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
        const AnyMove move = decision.move;
        if (options_.keeps_decisions) played_.decisions.emplace_back(played_.moves.size(), std::move(decision));
        play(move);
        return true;
    }

    /// By the positions, or by the texts of the moves. Of a game that has neither, each is taken for different.
    std::uint64_t course() const {
        std::uint64_t course = played_.result.a_first ? 1 : 2 + static_cast<std::uint64_t>(played_.result.seat_a);
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
            seen_so_far_.forget();
            let_chance_act();
        }
    }

    const AnyGame& game_;
    const MatchOptions& options_;
    const MatchStart<AnyGame>& start_;
    int players_;
    int group_;  ///< games that begin alike and meet the same luck
    std::uint64_t seed_, pair_seed_;
    Random chance_;
    std::vector<AnyPosition> positions_;
    SeenSoFar seen_so_far_;
    PlayedGame<AnyGame> played_;
};

}  // namespace

std::optional<PlayedGame<AnyGame>> play_game_of_match(const AnyGame& game, Opponent<AnyGame>& a, Opponent<AnyGame>& b,
                                                      const MatchOptions& options, const MatchStart<AnyGame>& start,
                                                      int number) {
    return GameOfMatch(game, options, start, number).finish(a, b);
}

MatchResult play_any_match(const AnyGame& game, const AnyOpponentMaker& make_a, const AnyOpponentMaker& make_b,
                           const MatchOptions& options, const MatchStart<AnyGame>& start,
                           const std::function<void(const PlayedGame<AnyGame>&)>& seen) {
    check_match_options(options);
    if (options.until_sure && players_of(game) > 2)
        throw InputError("sequential test", "with more than two seats no game is a duel, which the test counts on",
                         "a number of games");
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
        options, players_of(game),
        [&](std::size_t worker, int number) -> std::optional<GameResult> {
            auto played = play_game_of_match(game, *as[worker], *bs[worker], options, start, number);
            if (!played) return std::nullopt;
            last[worker] = std::move(*played);
            return last[worker].result;
        },
        [&](std::size_t worker) { seen(last[worker]); });
}

}  // namespace arvek
