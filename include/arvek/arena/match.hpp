#pragma once
// Match: two opponents, many games, with error bars.
//
//     auto result = arvek::play_match(game, *a, *b, {.games = 200, .seed = 1});
//     result.score_a();      // 0 to 1
//     result.interval();     // where the score really lies, with 95 % confidence
//
// The two take turns at moving first. Game n has a seed of its own, derived from the match's, so a match can be
// repeated.

#include <cstdint>
#include <optional>
#include <span>
#include <utility>
#include <vector>

#include "arvek/game/missing.hpp"
#include "arvek/game/repetition.hpp"
#include "arvek/opponent/opponent.hpp"

namespace arvek {

struct MatchOptions {
    int games = 100;  ///< at least 1
    std::uint64_t seed = 0;
    int longest_game = 10'000;  ///< plies; a game that goes on longer counts as a draw and as unfinished
    Clock clock = nullptr;      ///< for seconds per move
    StopToken stop{};           ///< asked between games; the games played so far count
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
    int games = 0;  ///< games played
    int wins_a = 0;
    int draws = 0;
    int wins_b = 0;
    int unfinished = 0;     ///< of the draws: games that were cut off at the longest length
    int wins_of_first = 0;  ///< games won by Player::First, whichever opponent it was
    std::uint64_t moves_a = 0;
    std::uint64_t moves_b = 0;
    double seconds_a = 0.0;  ///< thinking, over all games
    double seconds_b = 0.0;

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
    std::vector<typename G::Move> moves{};  ///< and the events of chance, in the order played
    typename G::Position end{};
    std::optional<Outcome> outcome{};  ///< nothing when it was cut off at the longest length
};

/// Plays `options.games` games from `start`, and calls `seen(played_game)` after each. `a` and `b` may be one and the
/// same opponent. Throws InputError for an option out of range or a finished start.
template <Game G, class Seen>
MatchResult play_match(const G& game, Opponent<G>& a, Opponent<G>& b, const MatchOptions& options,
                       const typename G::Position& start, Seen seen) {
    check_match_options(options);
    if (game.outcome(start))
        throw InputError("position", "the game is over, so there is nothing to play", "a position where play goes on");
    MatchResult result;
    const auto now = [&] { return options.clock != nullptr ? options.clock() : 0.0; };
    for (int number = 0; number < options.games && !options.stop.stop_requested(); ++number) {
        const std::uint64_t game_seed = derived_seed(options.seed, static_cast<std::uint64_t>(number));
        PlayedGame<G> played{number, number % 2 == 0 ? Player::First : Player::Second, {}, start, {}};
        std::vector<typename G::Position> positions{start};
        // The two games of a pair, in which the opponents change places, draw their events alike.
        Random chance(derived_seed(derived_seed(options.seed, static_cast<std::uint64_t>(number / 2)), 0));
        const auto let_chance_act = [&] {
            settle_chance(game, played.end, chance, [&](const typename G::Move& event) {
                played.moves.push_back(event);
                positions.push_back(played.end);
            });
            played.outcome = outcome_with_history(game, positions);
        };
        let_chance_act();
        while (!played.outcome && played.moves.size() < static_cast<std::size_t>(options.longest_game)) {
            const bool turn_of_a = game.player_to_move(played.end) == played.player_a;
            const double started = now();
            const std::span<const typename G::Position> earlier(positions.data(), positions.size() - 1);
            const auto move =
                (turn_of_a ? a : b).decide(played.end, derived_seed(game_seed, played.moves.size()), earlier).move;
            (turn_of_a ? result.seconds_a : result.seconds_b) += now() - started;
            ++(turn_of_a ? result.moves_a : result.moves_b);
            game.play(played.end, move);
            played.moves.push_back(move);
            positions.push_back(played.end);
            let_chance_act();
        }
        ++result.games;
        const Payoff payoff = played.outcome ? played.outcome->payoff(played.player_a) : 0;
        if (!played.outcome) ++result.unfinished;
        ++(payoff > 0 ? result.wins_a : payoff < 0 ? result.wins_b : result.draws);
        if (payoff != 0 && (payoff > 0) == (played.player_a == Player::First)) ++result.wins_of_first;
        seen(std::as_const(played));
    }
    return result;
}

template <Game G>
MatchResult play_match(const G& game, Opponent<G>& a, Opponent<G>& b, const MatchOptions& options) {
    return play_match(game, a, b, options, game.initial_position(), [](const PlayedGame<G>&) {});
}

}  // namespace arvek
