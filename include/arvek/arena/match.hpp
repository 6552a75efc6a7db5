#pragma once
// Match: two opponents, many games, with error bars.
//
//     auto result = arvek::play_match(game, *a, *b, {.games = 200, .seed = 1});
//     result.score_a();      // 0 to 1
//     result.interval();     // where the score really lies, with 95 % confidence
//
// The two take turns at moving first. The two games of a pair, in which they change places, begin with the same opening
// and meet the same luck. With three and four seats A has one and B the others, each seat in turn, and so many games
// belong together; a game for one is played by either on the same deal, and payoffs are compared. Each game has a seed of its own, derived from the match's, so that a match can be repeated,
// by several threads too, and continued where it was left:
//
//     auto make = [&](const char* text) { return arvek::make_opponent(game, arvek::read_opponent(text)); };
//     auto result = arvek::play_match_in_threads(
//         game, [&] { return make("standard@4"); }, [&] { return make("ruled"); },
//         {.games = 200, .threads = 2, .opening_plies = 2});
//
// An opponent that plays an illegal move, throws or takes far too long loses that game, and the match goes on.

#include <array>
#include <concepts>
#include <cstdint>
#include <functional>
#include <map>
#include <memory>
#include <optional>
#include <set>
#include <span>
#include <string>
#include <type_traits>
#include <utility>
#include <vector>

#include "arvek/arena/game_result.hpp"
#include "arvek/arena/sequential_test.hpp"
#include "arvek/game/any_game.hpp"
#include "arvek/game/earlier_positions.hpp"
#include "arvek/game/interval.hpp"
#include "arvek/game/missing.hpp"
#include "arvek/opponent/make_opponent.hpp"
#include "arvek/opponent/opponent.hpp"

namespace arvek {

/// How a match is played.
struct MatchOptions {
    int games = 100;            ///< at least 1
    std::uint64_t seed = 0;     ///< of all luck
    int longest_game = 10'000;  ///< plies; a game that goes on longer counts as a draw
    Clock clock{};              ///< for seconds per move
    StopToken stop{};           ///< asked after each decision; the games that have ended count
    int threads = 1;            ///< 1 to 256; the games are the same with any number of them
    int opening_plies = 0;      ///< random moves before the opponents begin, alike for both games of a pair; 0 to 100
    std::optional<SequentialTest> until_sure{};  ///< stop when it is sure who is better
    std::span<const GameResult> played{};        ///< games of the same match that need not be played again
    /// How long a decision may take, in seconds; needs a clock. Who takes more than `overtime` times as long, and a
    /// twentieth of a second for the machine's own delays, loses the game.
    std::optional<double> seconds_a{}, seconds_b{};
    double overtime = 2.0;         ///< 1 or more
    bool keeps_decisions = false;  ///< whether a PlayedGame has them
};

/// Of a game for one: who got how much.
struct ScoreSummary {
    int games = 0;               ///< how many were counted
    double mean = 0.0;           ///< of the payoffs
    Payoff best = 0, worst = 0;  ///< of the payoffs
};
/// Of payoffs, in any order; zeros for none.
ScoreSummary score_summary(std::span<const Payoff> payoffs);

/// What came of a match.
struct MatchResult {
    int players = 2;            ///< seats of the game
    int games = 0;              ///< games played and counted
    int wins_a = 0;             ///< games that A won
    int draws = 0;              ///< games that nobody won
    int wins_b = 0;             ///< games that B won, or another seat than A's
    int repetitions = 0;        ///< of the draws: by the repetition rule
    int unfinished = 0;         ///< of the draws: games that were cut off at the longest length
    int faults_a = 0;           ///< games that A lost by a fault of its own
    int faults_b = 0;           ///< the same of B
    int broken = 0;             ///< games in which the rules themselves broke; they are not among `games`
    std::string first_fault{};  ///< what was wrong in the first game that ended by any fault
    int wins_of_first = 0;      ///< games won by Player::First, whichever opponent it was
    std::uint64_t moves_a = 0;  ///< decisions of A
    std::uint64_t moves_b = 0;  ///< decisions of B
    double seconds_a = 0.0;     ///< thinking, over all games
    double seconds_b = 0.0;     ///< the same of B
    std::map<std::string, std::uint64_t> chosen_a{};  ///< how often each rule or reason chose A's move
    std::map<std::string, std::uint64_t> chosen_b{};  ///< the same of B's
    /// The same in games of two, by whether the opponent itself was Player::First (0) or Player::Second (1).
    std::array<std::map<std::string, std::uint64_t>, 2> chosen_a_by_seat{}, chosen_b_by_seat{};
    std::array<std::uint64_t, 2> moves_a_by_seat{}, moves_b_by_seat{};  ///< decisions, by the same
    std::array<double, 2> points_a_by_seat{};                           ///< of A as first and as second
    std::array<int, 2> games_by_seat{};                                 ///< in which A was first, and second
    std::set<std::uint64_t> courses{};                                  ///< GameResult::course of each game
    RoundSums rounds{};                         ///< the games that belong together, where all of them ended
    std::optional<SequentialTest> tested_by{};  ///< where the match could stop when it was sure
    int verdict = 0;  ///< of the sequential test: 1 A is better, -1 B is, 0 no difference to be seen, or not asked

    /// Counts a game.
    void add(const GameResult& game);

    /// How many of the games differ. Opponents that leave nothing to chance play the same game from the same start
    /// again and again, which says nothing new, though the interval counts it.
    int different_games() const { return static_cast<int>(courses.size()); }

    /// Points over all comparisons: a game, or the pair of games on the same deal in a game for one.
    double points_a() const { return points; }
    /// What points are counted over: games, or in a game for one pairs of games.
    int comparisons() const { return players == 1 ? wins_a + draws + wins_b : games; }
    /// 0 to 1: points by comparisons; 0.5 for none. For two players (wins + draws / 2) / games. By it equal strength is
    /// 0.5 with any number of seats.
    double score_a() const { return comparisons() > 0 ? points / comparisons() : 0.5; }
    /// Of the score: 95 %, by Wilson's formula for a number of games that was fixed before; where the match could stop when
    /// it was sure, one that holds at every look.
    Interval interval() const {
        return tested_by ? tested_by->interval(rounds) : wilson_interval(points, comparisons());
    }

    double points = 0.0;              ///< what points_a() gives
    std::vector<Payoff> payoffs_a{};  ///< of A, by game in their order; in a game for one, those that A played
    std::vector<Payoff> payoffs_b{};  ///< in a game for one, those that B played, on the same deals
    /// The mean payoff of A and its 95 % interval: payoffs rarer than one in so many games may not be in it.
    double mean_payoff_a() const;
    /// See mean_payoff_a().
    Interval payoff_interval() const;
    /// In a game for one: how much more A got than B on the same deal, in the mean, and its 95 % interval.
    double mean_difference() const;
    /// See mean_difference().
    Interval difference_interval() const;
    /// Of the payoffs of A, or of B: `of_a`.
    ScoreSummary summary(bool of_a) const;
    /// Thinking; 0 for no move.
    double seconds_per_move_a() const { return moves_a > 0 ? seconds_a / static_cast<double>(moves_a) : 0.0; }
    /// Thinking; 0 for no move.
    double seconds_per_move_b() const { return moves_b > 0 ? seconds_b / static_cast<double>(moves_b) : 0.0; }
};

/// Throws InputError when an option is out of its range.
void check_match_options(const MatchOptions& options);

/// One finished game of a match.
template <Game G>
struct PlayedGame {
    int number = 0;                         ///< from 0
    Player player_a = Player::First;        ///< A's seat
    std::vector<typename G::Move> moves{};  ///< and the events of chance, in the order played, the opening included
    typename G::Position end{};             ///< where it ended
    std::optional<Outcome> outcome{};       ///< nothing when it was cut off at the longest length, or ended by a fault
    GameResult result{};                    ///< what is counted of it
    /// With MatchOptions::keeps_decisions: each, and after how many moves and events.
    std::vector<std::pair<std::size_t, Decision<typename G::Move>>> decisions{};
};

/// Where the games of a match begin.
template <Game G>
struct MatchStart {
    typename G::Position position{};  ///< where every game starts
    /// Sequences of moves from there; pair n begins with the n-th, and round again. None: as `opening_plies` says.
    std::vector<std::vector<typename G::Move>> openings{};
};

/// Makes an opponent for a thread that plays games.
using AnyOpponentMaker = std::function<std::shared_ptr<Opponent<AnyGame>>()>;

/// Plays `options.games` games from `start`, and calls `seen(played_game)` as each ends, never two at once; with one
/// thread in the order of their numbers. `make_a()` and `make_b()` give an opponent each time, for one thread. The
/// result is the same with any number of threads, times aside. Throws InputError for an option out of range, a finished
/// start or an opening that is not legal.
MatchResult play_any_match(const AnyGame& game, const AnyOpponentMaker& make_a, const AnyOpponentMaker& make_b,
                           const MatchOptions& options, const MatchStart<AnyGame>& start,
                           const std::function<void(const PlayedGame<AnyGame>&)>& seen);

/// One game of such a match, by its number; nothing where it was stopped.
std::optional<PlayedGame<AnyGame>> play_game_of_match(const AnyGame& game, Opponent<AnyGame>& a, Opponent<AnyGame>& b,
                                                      const MatchOptions& options, const MatchStart<AnyGame>& start,
                                                      int number);

namespace detail {

/// An opponent of the game's own type, seen as one of AnyGame; `Pointer` is any pointer to one.
template <Game G, class Pointer>
class ErasedOpponent final : public Opponent<AnyGame> {
   public:
    explicit ErasedOpponent(Pointer opponent) : opponent_(std::move(opponent)) {}

    Decision<AnyMove> decide(const AnyView& seen, std::uint64_t seed, std::span<const AnyView> earlier,
                             StopToken stop) override {
        using Own = Seen<G>;
        const auto known = earlier_.of(
            earlier, [](const Own& a, const AnyView& b) { return a == b.get<Own>(); },
            [](const AnyView& each) { return each.get<Own>(); });
        // The opponent is the caller's, who shall not find it silent afterwards.
        struct Silence {
            Pointer& opponent;
            ~Silence() { opponent->explain(true); }
        } const silence{opponent_};
        opponent_->explain(explains_);
        return converted_decision<AnyMove>(opponent_->decide(seen.get<Own>(), seed, known, stop),
                                           &erased_move<typename G::Move>);
    }

   private:
    Pointer opponent_;
    EarlierPositions<Seen<G>> earlier_;
};

template <Game G, class Pointer>
std::shared_ptr<Opponent<AnyGame>> erased_opponent(Pointer opponent) {
    if constexpr (!std::same_as<G, AnyGame>)
        return std::make_shared<ErasedOpponent<G, Pointer>>(std::move(opponent));
    else if constexpr (std::is_pointer_v<Pointer>)
        return {std::shared_ptr<void>(), opponent};  // it stays the caller's
    else
        return opponent;
}

}  // namespace detail

/// The same for a game of a type of its own.
template <Game G, class MakeA, class MakeB, class Seen>
MatchResult play_match_in_threads(const G& game, MakeA make_a, MakeB make_b, const MatchOptions& options,
                                  const MatchStart<G>& start, Seen seen) {
    const auto erased = [](auto make) -> AnyOpponentMaker {
        return [make] { return detail::erased_opponent<G>(make()); };
    };
    if constexpr (std::same_as<G, AnyGame>)
        return play_any_match(game, erased(make_a), erased(make_b), options, start, seen);
    MatchStart<AnyGame> any_start{AnyPosition(start.position), {}};
    for (const auto& opening : start.openings) {
        auto& any = any_start.openings.emplace_back();
        for (const auto& move : opening) any.push_back(AnyMove(move));
    }
    return play_any_match(
        AnyGame(game), erased(make_a), erased(make_b), options, any_start, [&](const PlayedGame<AnyGame>& any) {
            PlayedGame<G> played{any.number, any.player_a, {}, {}, any.outcome, any.result, {}};
            for (const AnyMove& move : any.moves) played.moves.push_back(move.get<typename G::Move>());
            played.end = any.end.get<typename G::Position>();
            for (const auto& [ply, decision] : any.decisions)
                played.decisions.emplace_back(
                    ply, converted_decision<typename G::Move>(
                             decision, [](const AnyMove& move) { return move.get<typename G::Move>(); }));
            seen(std::as_const(played));
        });
}

/// The games of `options.threads` threads, for each of which opponents are made: `make_a()` and `make_b()` give a
/// std::shared_ptr to an Opponent<G>. The result is that of one thread. Throws InputError for an option out of range.
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

/// A match of two opponents in this thread. Throws InputError for an option out of range.
template <Game G>
MatchResult play_match(const G& game, Opponent<G>& a, Opponent<G>& b, const MatchOptions& options) {
    return play_match(game, a, b, options, game.initial_position(), [](const PlayedGame<G>&) {});
}

}  // namespace arvek
