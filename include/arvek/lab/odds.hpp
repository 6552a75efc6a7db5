#pragma once
// What a lead is worth: by how many units of an evaluation the odds of winning double, fitted to games that were played.
//
//     arvek::OddsFit fit;
//     const arvek::OddsFit::Seen game[] = {{12, 1.0}, {-9, 0.0}};   // estimates for who was to move, and what each got
//     fit.add(game);
//     auto found = fit.report();
//     if (found.units_per_doubling) ...      // what units_per_doubling() of game/scale.hpp may return
//
// An estimate of `e` units is fitted as a chance of winning of 1 / (1 + 2^(-e / units)); a draw counts half. The interval
// takes the games, not the positions, as independent: positions of one game share its end. Source: Cox (1958), "The
// Regression Analysis of Binary Sequences" (the curve); Liang, Zeger (1986), "Longitudinal Data Analysis Using Generalized
// Linear Models" (the error of clustered data).

#include <cstdint>
#include <optional>
#include <span>
#include <vector>

namespace arvek {

/// Estimates of about the same size, and what came of them.
struct OddsRow {
    double least = 0.0, most = 0.0;  ///< estimates, for whoever was to move
    std::uint64_t positions = 0;     ///< how many there are
    double won = 0.0;                ///< share of points, 0 to 1, that whoever was to move got
    double fitted = 0.5;             ///< the mean chance by the fit
};

/// What a lead is worth.
struct OddsFound {
    int games = 0;                ///< that were looked at
    std::uint64_t positions = 0;  ///< that were looked at
    /// Nothing where larger estimates do not win more often, or where those who led always won.
    std::optional<double> units_per_doubling{};
    /// Its 95 % interval, from ten games on; `high` is empty where no end can be told.
    std::optional<double> low{}, high{};  ///< of 95 %
    /// How many units the turn itself is worth: the estimate of a player to move would fit best with so many more.
    std::optional<double> turn{};
    bool always_won = false;    ///< whoever led won, so the odds cannot be told from these games
    std::vector<OddsRow> rows;  ///< from the least estimates to the largest
};

/// Fits the odds of winning to estimates.
class OddsFit {
   public:
    /// A position of a game.
    struct Seen {
        double estimate = 0.0;  ///< for the player to move
        double points = 0.5;    ///< what that player got in the end: 1, 0.5 or 0
    };

    /// The positions of one game, or of several that are not independent of each other.
    void add(std::span<const Seen> game);
    /// From all games so far.
    OddsFound report() const;

   private:
    std::vector<Seen> seen_;
    std::vector<std::size_t> ends_;  ///< of each game among `seen_`
};

}  // namespace arvek
