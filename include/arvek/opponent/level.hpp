#pragma once
// Levels: one scale of difficulty, 1 to 10, for every kind of chooser.
//
// A level limits what is looked at (depth, nodes, some moves not seen at all), how surely the best is picked (noise in
// proportion to how far the moves are apart, with a most that may be lost on purpose), and which rules and suggestions
// are awake. It never leads to an illegal move. What stands out is hardly overlooked, what hides is overlooked more
// (game/salience.hpp). A win in one is seen, and one of the rival's prevented, more and more surely from level to level:
// LevelSettings::sees_wins and sees_losses say how surely; from level 8 on the first is never missed, from level 9 on the
// second, where anything prevents it. A decision says what its level cost: Decision::rank and Decision::overlooked.

#include <cstdint>
#include <span>
#include <utility>
#include <vector>

#include "arvek/game/level_change.hpp"
#include "arvek/game/score.hpp"
#include "arvek/rules/levels.hpp"
#include "arvek/search/limits.hpp"

namespace arvek {

class AnyGame;

/// From which level on nothing leads past a win in one, and past a loss in one.
inline constexpr int sees_wins_from_level = 8;
inline constexpr int sees_losses_from_level = 9;  ///< the same of losses

/// What a level does to an opponent.
struct LevelSettings {
    Limits limits{};  ///< how far it looks; at every level at most so many nodes, so that it answers soon
    /// Whether limits.playouts are for ten legal moves without luck, and more where there are more moves or dice fall: a
    /// few playouts tell nothing apart where each move gets less than one, or luck is most of what they show.
    bool playouts_by_moves = false;
    /// The share of moves that it does not see, 0 to 1, where they stand out as moves mostly do; of those that stand out
    /// it overlooks fewer, of those that hide more.
    double overlooks = 0.0;
    /// 0 or more: how far chance may lift a worse move over a better one. 1: as much as the better half of the moves
    /// falls short of the best in the mean. (People take the good for the best, hardly ever the worst.)
    double noise = 0.0;
    /// 0 or more, in the same measure: a move that falls short of the best by more is not played for noise.
    double most_lost = 2.0;
    /// How surely, 0 to 1, a move that wins at once is seen and played, and one that lets the rival win at once is not
    /// played where another does not. Drawn once a decision.
    double sees_wins = 1.0, sees_losses = 1.0;
    double deeper = 0.0;  ///< the share of decisions in which it looks a ply deeper, 0 to 1
    /// How many plies deeper it may look in the first plies of a game, where a short search judges badly; limits.nodes
    /// stay as they are.
    int deeper_at_first = 0;
    /// How far, in the measure of `noise`, a move may fall short of the best and still be played for a change, where
    /// nothing proven is lost by it. In the first plies of a game.
    double variety = 0.0;
    bool margins = true;  ///< whether it counts by how much a game is won

    /// How likely a move that stands out so far, 0 to 1, is overlooked.
    double overlooks_at(double salience) const;
    /// Whether the level takes anything away besides how far it looks.
    bool weakens() const { return overlooks > 0 || noise > 0; }
};

/// What a level limits first depends on how an opponent chooses.
enum class LevelTable : std::uint8_t {
    Search,    ///< by looking ahead: how deep
    Luck,      ///< by looking ahead where every second ply is one of chance
    Playouts,  ///< by playouts: how many
    Other      ///< by anything else: which moves it sees
};

struct ChooserInfo;
/// Of a chooser.
LevelTable level_table_of(const ChooserInfo& info);

/// The settings of levels 1 to 10. Requires a level in that range.
LevelSettings level_settings(int level, LevelTable table = LevelTable::Search);

/// The settings with what is given in `change` instead. Nothing is checked.
LevelSettings changed(LevelSettings settings, const LevelChange& change);

/// Of the game itself, for the levels of the table that looks ahead by depth; none for the others.
LevelChange level_change_of(const AnyGame& game, int level, LevelTable table);

/// A level that follows a player. It goes by how strong the player probably is, from all results, the older the less; so
/// that it settles at the level that the player beats about every other time, and does not swing.
class FollowingLevel {
   public:
    /// Requires lowest_level <= least <= first <= most <= highest_level, and after >= 1.
    /// `after`: how many games it takes at the least from one change to the next.
    explicit FollowingLevel(int first, int least = lowest_level, int most = highest_level, int after = 1);
    /// For a player who is known to be about so strong, as a level, with that standard deviation.
    FollowingLevel(double strength, double spread, int least, int most, int after);

    int level() const { return level_; }  ///< that it stands at
    void player_won() { add(1.0); }       ///< a game ended so
    void player_lost() { add(0.0); }      ///< a game ended so
    void drawn() { add(0.5); }            ///< a game ended so

    /// Which level the player is probably equal to, and how far that may be off: mean and standard deviation.
    std::pair<double, double> player() const;

   private:
    void add(double result);

    int level_, least_, most_, after_;
    int games_ = 0;  ///< since the last change
    /// How likely each strength is, from half a level below the lowest in steps of a quarter.
    std::vector<double> likely_;
};

/// Numbers by which moves can be told apart, for their scores: estimates as they are, proven wins above and proven
/// losses below all of them by more than those are apart.
std::vector<double> worths_of(std::span<const Score> scores);

/// What noise is measured in: how far the better half of the moves falls short of the best in the mean.
double spread_of(std::span<const double> worths);

/// The moves in the order in which an opponent with that noise would like them, as places in `worths`; those that would
/// lose too much come last, in order of worth. The same seed gives the same order.
/// Source: adding noise of the extreme value distribution to a worth draws in proportion to its exponential: Yellott
/// (1977), "The relationship between Luce's choice axiom, Thurstone's theory of comparative judgment, and the double
/// exponential distribution".
std::vector<std::size_t> noisy_order(std::span<const double> worths, const LevelSettings& level, std::uint64_t seed);

}  // namespace arvek
