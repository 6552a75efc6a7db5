#pragma once
// League: any number of opponents, every two of them or all against the first, with ratings, how sure they are, and who
// scored what against whom.
//
//   arvek::League league({.players = 4, .games = 200});
//   pool.play(league, play);                        // arena/game_pool.hpp; Session::league does it all
//   for (const auto& standing : league.result().standings) ...
//
// Every pairing meets the same openings and the same luck. A league goes by rounds: in each, every pairing plays as many
// games as belong together (two in a game for two, in which they change places), so that it can stop at any of them with
// all having played as much.

#include <cstdint>
#include <optional>
#include <span>
#include <vector>

#include "arvek/arena/game_pool.hpp"
#include "arvek/arena/match.hpp"
#include "arvek/arena/ratings.hpp"

namespace arvek {

enum class LeagueShape : std::uint8_t {
    EveryPair,    ///< everybody meets everybody
    AgainstFirst  ///< everybody meets the first player alone
};

/// How a league is played.
struct LeagueOptions {
    int players = 2;  ///< who take part, 2 to most_league_players
    int seats = 2;    ///< of the game
    int games = 100;  ///< of each pairing; in a game for one, deals for each player. Rounded up to whole rounds
    LeagueShape shape = LeagueShape::EveryPair;  ///< who meets whom
    /// Stop when the order is sure: where two neighbours are equally strong in truth, they are named in one order or the
    /// other with at most this chance, over all neighbours together, however often it is looked. 0 to 0.5.
    std::optional<double> order_error{};
    StopToken stop{};  ///< asked before each game
};

inline constexpr int most_league_players = 64;

/// Two players who met, and what came of it.
struct LeaguePairing {
    std::size_t a = 0, b = 0;  ///< players; A is the one that comes first
    MatchResult result{};      ///< of A against B
};

/// One player's place.
struct Standing {
    std::size_t player = 0;              ///< which, by its place among those who take part
    Rating rating{};                     ///< 0 is the mean of all, or the first player where all meet that one
    std::optional<double> above_next{};  ///< how probable it is that it is stronger than the next; not for the last
    int games = 0, wins = 0, draws = 0, losses = 0;  ///< of it, over all pairings
    double points = 0.0;                             ///< over all comparisons: games, or in a game for one deals
    int comparisons = 0;                             ///< what its points are counted over
    int repetitions = 0, cut_off = 0;                ///< of the draws; the others are the game's own
    int faults = 0;                                  ///< games lost by a fault of its own
    std::uint64_t moves = 0;                         ///< decisions
    double seconds = 0.0;                            ///< thinking
    ScoreSummary scores{};                           ///< in a game for one
    /// Points by comparisons, 0 to 1; 0.5 for none.
    double score() const { return comparisons > 0 ? points / comparisons : 0.5; }
    /// Thinking, in the mean.
    double seconds_per_move() const { return moves > 0 ? seconds / static_cast<double>(moves) : 0.0; }
};

/// What came of a league.
struct LeagueResult {
    std::vector<LeaguePairing> pairings;  ///< each two who met
    std::vector<Standing> standings;      ///< the strongest first
    int rounds = 0;                       ///< that all pairings have played
    int games = 0;                        ///< played and counted
    int broken = 0;                       ///< in which the rules broke
    std::string first_fault{};            ///< what was wrong in the first game that ended by any fault
    bool is_sure = false;                 ///< whether it stopped because the order is sure
};

class League final : public GameSchedule {
   public:
    /// Throws InputError for an option out of range.
    explicit League(const LeagueOptions& options);

    std::optional<GameTask> next() override;
    void add(const GameTask& task, const GameRecord& game) override;

    /// Who plays the games of a pairing that a task names: A and B; in a game for one a task is one player's, who is both.
    std::pair<std::size_t, std::size_t> players_of(std::size_t pairing) const { return tables_[pairing]; }
    /// Whether there is such a game to be played.
    bool knows(const GameTask& task) const;
    std::size_t all_games() const { return results_.size(); }  ///< that it would play if nothing stopped it

    /// The rounds up to the one that made it sure; where none did, all that was played.
    LeagueResult result() const;

   private:
    /// What is counted of a pairing: the games, and the points of A in each round.
    struct Tally {
        std::size_t a = 0, b = 0;
        MatchResult result{};
        RoundSums rounds{};
    };
    /// In a game for one, what is counted of a player: everything else is of pairings.
    struct Own {
        std::vector<Payoff> payoffs{};
        int cut_off = 0;
        std::uint64_t moves = 0;
        double seconds = 0.0;
    };
    struct Counted {
        std::vector<Tally> tallies;
        std::vector<Own> own;
        int rounds = 0, games = 0;
    };

    std::size_t games_of_round() const;  ///< of each table
    std::size_t place_of(const GameTask& task) const;
    /// Counts a round, of which games may be missing.
    void count_round(Counted& counted, std::size_t round) const;
    void count();
    std::vector<PairScore> scores_of(const Counted& counted) const;
    RatingTable ratings_of(const Counted& counted, bool intervals) const;
    bool is_sure() const;

    LeagueOptions options_;
    std::vector<std::pair<std::size_t, std::size_t>> tables_;  ///< what is played: pairings, or one player each
    std::vector<std::optional<GameResult>> results_;           ///< by round, table and game of the round
    std::size_t next_ = 0;
    Counted counted_;  ///< the complete rounds
    bool over_ = false;
};

}  // namespace arvek
