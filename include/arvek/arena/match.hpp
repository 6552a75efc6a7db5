#pragma once
// Match: two opponents, many games, with error bars.
//
//     auto result = arvek::play_match(game, *a, *b, {.games = 200, .seed = 1});
//     result.score_a();      // 0 to 1
//     result.interval();     // where the score really lies, with 95 % confidence
//
// The two take turns at moving first. The two games of a pair, in which they change places, begin with the same opening
// and meet the same luck. Each game has a seed of its own, derived from the match's, so that a match can be repeated,
// by several threads too, and continued where it was left:
//
//     auto make = [&](const char* text) { return arvek::make_opponent(game, arvek::read_opponent(text)); };
//     auto result = arvek::play_match_in_threads(game, [&] { return make("standard@4"); }, [&] { return make("ruled");
//     },
//                                                {.games = 200, .threads = 2, .opening_plies = 2});

#include <cstdint>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <set>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include "arvek/arena/game_result.hpp"
#include "arvek/arena/sequential_test.hpp"
#include "arvek/game/hashing.hpp"
#include "arvek/game/missing.hpp"
#include "arvek/game/repetition.hpp"
#include "arvek/opponent/base.hpp"
#include "arvek/opponent/opponent.hpp"

namespace arvek {

struct MatchOptions {
    int games = 100;  ///< at least 1
    std::uint64_t seed = 0;
    int longest_game = 10'000;  ///< plies; a game that goes on longer counts as a draw and as unfinished
    Clock clock = nullptr;      ///< for seconds per move
    StopToken stop{};           ///< asked after each decision; the games that have ended count
    int threads = 1;            ///< 1 to 256; the games are the same with any number of them
    int opening_plies = 0;      ///< random moves before the opponents begin, alike for both games of a pair; 0 to 100
    std::optional<SequentialTest> until_sure{};  ///< stop when it is sure who is better
    std::span<const GameResult> played{};        ///< games of the same match that need not be played again
};

struct Interval {
    double low = 0.0;
    double high = 1.0;
};

/// The 95 % confidence interval of a share of `points` in `games`, points counting 0 to 1 a game.
/// Source: Wilson (1927), "Probable Inference, the Law of Succession, and Statistical Inference". With draws among the
/// games the interval is wider than it need be, never narrower. The whole of 0 to 1 for no games.
Interval wilson_interval(double points, int games);

struct MatchResult {
    int games = 0;  ///< games played and counted
    int wins_a = 0;
    int draws = 0;
    int wins_b = 0;
    int unfinished = 0;     ///< of the draws: games that were cut off at the longest length
    int wins_of_first = 0;  ///< games won by Player::First, whichever opponent it was
    std::uint64_t moves_a = 0;
    std::uint64_t moves_b = 0;
    double seconds_a = 0.0;  ///< thinking, over all games
    double seconds_b = 0.0;
    std::map<std::string, std::uint64_t> chosen_a{};  ///< how often each rule or reason chose A's move
    std::map<std::string, std::uint64_t> chosen_b{};
    std::set<std::uint64_t> courses{};  ///< GameResult::course of each game
    int verdict = 0;                    ///< of the sequential test: 1 A is better, -1 B is, 0 not sure or not asked

    void add(const GameResult& game);

    /// How many of the games differ. Opponents that leave nothing to chance play the same game from the same start
    /// again and again, which says nothing new, though the interval counts it.
    int different_games() const { return static_cast<int>(courses.size()); }

    double points_a() const { return wins_a + draws / 2.0; }
    /// (wins + draws / 2) / games; 0.5 for no games.
    double score_a() const { return games > 0 ? points_a() / games : 0.5; }
    Interval interval() const { return wilson_interval(points_a(), games); }
    double seconds_per_move_a() const { return moves_a > 0 ? seconds_a / static_cast<double>(moves_a) : 0.0; }
    double seconds_per_move_b() const { return moves_b > 0 ? seconds_b / static_cast<double>(moves_b) : 0.0; }
};

/// Throws InputError when an option is out of its range.
void check_match_options(const MatchOptions& options);

/// One finished game of a match.
template <Game G>
struct PlayedGame {
    int number = 0;  ///< from 0
    Player player_a = Player::First;
    std::vector<typename G::Move> moves{};  ///< and the events of chance, in the order played, the opening included
    typename G::Position end{};
    std::optional<Outcome> outcome{};  ///< nothing when it was cut off at the longest length
    GameResult result{};
};

/// Where the games of a match begin.
template <Game G>
struct MatchStart {
    typename G::Position position{};
    /// Sequences of moves from there; pair n begins with the n-th, and round again. None: as `opening_plies` says.
    std::vector<std::vector<typename G::Move>> openings{};
};

namespace detail {

/// Has `threads` workers play the games that are still to play: `play(worker, number)` one each, which gives nothing
/// when it was stopped. `ended(worker)` is called for each that ended, by one worker at a time.
MatchResult run_match(const MatchOptions& options,
                      const std::function<std::optional<GameResult>(std::size_t, int)>& play,
                      const std::function<void(std::size_t)>& ended);

/// One game in progress.
template <Game G>
class GameOfMatch {
   public:
    GameOfMatch(const G& game, const MatchOptions& options, const MatchStart<G>& start, int number)
        : game_(game),
          options_(options),
          seed_(derived_seed(options.seed, static_cast<std::uint64_t>(number))),
          pair_seed_(derived_seed(options.seed, static_cast<std::uint64_t>(number / 2))),
          chance_(derived_seed(pair_seed_, 0)),
          positions_{start.position} {
        played_.number = number;
        played_.player_a = number % 2 == 0 ? Player::First : Player::Second;
        played_.end = start.position;
        let_chance_act();
        if (start.openings.empty()) {
            play_random_opening(start.position);
            return;
        }
        for (const auto& move : start.openings[static_cast<std::size_t>(number / 2) % start.openings.size()]) {
            if (played_.outcome || !legal_moves(game_, played_.end).contains(move))
                throw InputError("openings", "move " + std::to_string(played_.moves.size() + 1) +
                                                 " of an opening is not legal where it is played");
            play(move);
        }
    }

    /// The game, played to its end; nothing when it was stopped before: a search that was cut short chose its move.
    std::optional<PlayedGame<G>> finish(Opponent<G>& a, Opponent<G>& b) {
        GameResult& result = played_.result;
        const auto now = [&] { return options_.clock != nullptr ? options_.clock() : 0.0; };
        while (!played_.outcome && played_.moves.size() < static_cast<std::size_t>(options_.longest_game)) {
            const bool turn_of_a = game_.player_to_move(played_.end) == played_.player_a;
            const double started = now();
            const std::span<const typename G::Position> earlier(positions_.data(), positions_.size() - 1);
            const auto decision = (turn_of_a ? a : b).decide(played_.end, seed_, earlier);
            if (options_.stop.stop_requested()) return std::nullopt;
            (turn_of_a ? result.seconds_a : result.seconds_b) += now() - started;
            ++(turn_of_a ? result.moves_a : result.moves_b);
            if (!decision.chosen_by.empty()) ++(turn_of_a ? result.chosen_a : result.chosen_b)[decision.chosen_by];
            play(decision.move);
        }
        result.number = played_.number;
        result.a_first = played_.player_a == Player::First;
        result.finished = played_.outcome.has_value();
        result.plies = played_.moves.size();
        result.course = course();
        const Payoff payoff = played_.outcome ? played_.outcome->payoff(played_.player_a) : 0;
        result.winner = payoff > 0 ? MatchWinner::A : payoff < 0 ? MatchWinner::B : MatchWinner::Nobody;
        return std::move(played_);
    }

   private:
    /// By the positions, or by the texts of the moves. Of a game that has neither, each is taken for different.
    std::uint64_t course() const {
        std::uint64_t course = played_.player_a == Player::First ? 1 : 2;
        if constexpr (HashedGame<G>) {
            for (const auto& position : positions_) course = mix_bits(course ^ game_.hash(position));
        } else if constexpr (TextGame<G>) {
            for (std::size_t i = 0; i < played_.moves.size(); ++i)
                course = mix_bits(course ^ hash_of_text(game_.move_text(positions_[i], played_.moves[i])));
        } else {
            course = mix_bits(course ^ seed_);
        }
        return course;
    }

    void play(const typename G::Move& move) {
        game_.play(played_.end, move);
        played_.moves.push_back(move);
        positions_.push_back(played_.end);
        let_chance_act();
    }

    void let_chance_act() {
        settle_chance(game_, played_.end, chance_, [&](const typename G::Move& event) {
            played_.moves.push_back(event);
            positions_.push_back(played_.end);
        });
        played_.outcome = outcome_with_history(game_, positions_);
    }

    /// A few random moves after which the game still goes on; as many as can be had in a few attempts.
    void play_random_opening(const typename G::Position& start) {
        constexpr int attempts = 20;
        const PlayedGame<G> before = played_;
        for (int attempt = 0, plies = options_.opening_plies; plies > 0; plies -= attempt % attempts == 0 ? 1 : 0) {
            Random random(derived_seed(derived_seed(pair_seed_, 1), static_cast<std::uint64_t>(attempt++)));
            for (int i = 0; i < plies && !played_.outcome; ++i) {
                const auto moves = legal_moves(game_, played_.end);
                play(moves[static_cast<std::size_t>(random.below(moves.size()))]);
            }
            if (!played_.outcome) return;
            chance_ = Random(derived_seed(pair_seed_, 0));
            played_ = before;
            played_.end = start;
            played_.moves.clear();
            positions_.assign(1, start);
            let_chance_act();
        }
    }

    const G& game_;
    const MatchOptions& options_;
    std::uint64_t seed_, pair_seed_;
    Random chance_;
    std::vector<typename G::Position> positions_;
    PlayedGame<G> played_;
};

}  // namespace detail

/// Plays `options.games` games from `start`, and calls `seen(played_game)` as each ends, never two at once; with one
/// thread in the order of their numbers. `make_a()` and `make_b()` give an opponent each time, for one thread. The
/// result is the same with any number of threads, times aside. Throws InputError for an option out of range, a finished
/// start or an opening that is not legal.
template <Game G, class MakeA, class MakeB, class Seen>
MatchResult play_match_in_threads(const G& game, MakeA make_a, MakeB make_b, const MatchOptions& options,
                                  const MatchStart<G>& start, Seen seen) {
    check_match_options(options);
    if (game.outcome(start.position))
        throw InputError("position", "the game is over, so there is nothing to play", "a position where play goes on");
    const auto workers = static_cast<std::size_t>(options.threads);
    std::vector<decltype(make_a())> as;
    std::vector<decltype(make_b())> bs;
    for (std::size_t i = 0; i < workers; ++i) {
        as.push_back(make_a());
        bs.push_back(make_b());
    }
    std::vector<PlayedGame<G>> last(workers);
    return detail::run_match(
        options,
        [&](std::size_t worker, int number) -> std::optional<GameResult> {
            auto played = detail::GameOfMatch<G>(game, options, start, number).finish(*as[worker], *bs[worker]);
            if (!played) return std::nullopt;
            last[worker] = std::move(*played);
            return last[worker].result;
        },
        [&](std::size_t worker) { seen(std::as_const(last[worker])); });
}

template <Game G, class MakeA, class MakeB>
MatchResult play_match_in_threads(const G& game, MakeA make_a, MakeB make_b, const MatchOptions& options) {
    return play_match_in_threads(game, make_a, make_b, options, MatchStart<G>{game.initial_position(), {}},
                                 [](const PlayedGame<G>&) {});
}

/// The same with one thread, which `options` must ask for. `a` and `b` may be one and the same opponent.
template <Game G, class Seen>
MatchResult play_match(const G& game, Opponent<G>& a, Opponent<G>& b, const MatchOptions& options,
                       const typename G::Position& start, Seen seen) {
    if (options.threads != 1)
        throw InputError("threads", "an opponent serves one thread at a time",
                         "1 thread, or play_match_in_threads(), which makes opponents for each");
    return play_match_in_threads(
        game, [&a] { return &a; }, [&b] { return &b; }, options, MatchStart<G>{start, {}}, seen);
}

template <Game G>
MatchResult play_match(const G& game, Opponent<G>& a, Opponent<G>& b, const MatchOptions& options) {
    return play_match(game, a, b, options, game.initial_position(), [](const PlayedGame<G>&) {});
}

}  // namespace arvek
