#pragma once
// Learning: a value of positions, and a prior over moves, from games that an opponent played against itself.
//
//   arvek::Learner learner(game, game.initial_position(), {.hidden = 32});
//   for (const arvek::GameRecord& played : games) learner.add(played);   // of an opponent that asks learner.model()
//   learner.learn();                                                     // and again with the next games
//   write(arvek::model_as_json(learner.model()));
//
// A position is taught what came of it: the result of its game, mixed with what the player saw by looking ahead at it and at
// the positions after it. With a look of one ply that is learning by temporal differences; with a deeper one it is
// learning from the search as well. What one process learns from the same games in the same order is the same to the bit.
// Sources: Sutton (1988), "Learning to Predict by the Methods of Temporal Differences"; Kingma, Ba (2015), "Adam: A Method for
// Stochastic Optimization"; Polyak, Juditsky (1992) for the mean of the later weights, which is what is played with.

#include <cstdint>
#include <memory>
#include <vector>

#include "arvek/arena/record.hpp"
#include "arvek/game/any_game.hpp"
#include "arvek/opponent/opponent.hpp"
#include "arvek/search/learned_model.hpp"

namespace arvek {

/// How it is learned.
struct LearningOptions {
    int hidden = 32;         ///< units of the first layer for each side, 0 (linear) to most_hidden_units
    int second = 0;          ///< units of the second layer, 0 (none) to most_second_units
    bool prior = true;       ///< whether a prior over moves is learned too
    double outcome = 0.9;    ///< how much what came later counts against what was seen at once, 0 to 1 (lambda)
    double step = 0.0;       ///< how far weights move at a time, up to 1; 0: as suits the kind of model
    int passes = 4;          ///< how often a position is learned from, 1 to 100
    int kept_games = 3'000;  ///< the games that are learned from at a time, the latest, 1 to 1,000,000
    std::uint64_t seed = 0;  ///< of the first weights

    bool operator==(const LearningOptions&) const = default;
};

/// Learns from games, one after another.
class Learner {
   public:
    /// Games begin at `start`. Throws InputError for options out of range and a game of which nothing can be learned: it is
    /// not for two, or has no patterns.
    Learner(const AnyGame& game, const AnyPosition& start, const LearningOptions& options);
    ~Learner();
    Learner(Learner&&) noexcept;
    Learner& operator=(Learner&&) noexcept;

    /// Takes a game with its chances (GameRecord::chances). Games without, and those that ended by a fault, teach nothing.
    /// Throws InputError for moves that are not legal.
    void add(const GameRecord& game);
    /// Learns from the games that were added since, and from those before them.
    void learn();

    /// What has been learned so far.
    LearnedModel model() const;
    std::uint64_t games() const;    ///< that it has learned from
    std::size_t positions() const;  ///< that were added
    /// How far the chances were from the results in what was learned last, as the mean of their squared differences.
    double error() const;

   private:
    class Lessons;
    std::unique_ptr<Lessons> lessons_;
};

/// Throws InputError for options out of range.
void check_options(const LearningOptions& options);

/// An opponent that plays something else than it finds best now and then, so that what is learned from its games is not of
/// one kind of game alone. The decision still says what it found.
std::unique_ptr<Opponent<AnyGame>> straying(std::unique_ptr<Opponent<AnyGame>> opponent, double chance);

}  // namespace arvek
