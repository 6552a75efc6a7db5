#pragma once
// What was learned from play: weights of the patterns of a game (game/patterns.hpp), and a network that is made of them
// to ask. lab/learning.hpp learns them, opponent/model_file.hpp reads and writes them.
//
//   const auto network = std::make_shared<const arvek::LearnedNetwork>(model);
//   arvek::Standard<MyGame> search(game, {}, std::make_shared<arvek::LearnedEvaluator<MyGame>>(network));

#include <array>
#include <cstddef>
#include <cstdint>
#include <memory>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/patterns.hpp"
#include "arvek/game/player.hpp"

namespace arvek {

/// A model of a game for two. Either linear: each way that a pattern can look has a weight, and a side is worth the sum of
/// what it sees, less that of the rival. Or a network: each way has a row of numbers, one for each unit of the first
/// layer; the rows of what a side sees are summed, held to 0 to 1, and those of both sides, the side that is asked about
/// first, go through a second layer, where there is one, to the end.
struct LearnedModel {
    std::string game{};                                           ///< what it was learned in
    std::vector<std::pair<std::string, std::string>> settings{};  ///< of the game, where it was learned
    std::uint64_t games = 0;                                      ///< that it was learned from
    std::vector<Pattern> patterns{};                              ///< of the game, in its order
    int hidden = 0;                                               ///< units of the first layer for each side; 0: linear
    int second = 0;                                               ///< units of the second layer; 0: there is none
    bool prior = false;  ///< whether it says as well how likely a move is to be good, by the position it leads to

    // Weights. Their sizes follow from the above.
    std::vector<float> rows{};         ///< by pattern, way and unit, of which there are width()
    std::vector<float> row_bias{};     ///< by unit of the first layer; none where it is linear
    std::vector<float> second_rows{};  ///< by unit of the second layer and of the first, those of the own side first
    std::vector<float> second_bias{};  ///< by unit of the second layer
    std::vector<float> last_rows{};    ///< by output and unit of the layer before; none where it is linear
    std::vector<float> last_bias{};    ///< by output: the value, the prior

    int outputs() const { return prior ? 2 : 1; }                  ///< what it says: a value, or a prior too
    int width() const { return hidden > 0 ? hidden : outputs(); }  ///< numbers in a row
    /// How many ways there are in all.
    std::size_t ways() const;
    bool operator==(const LearnedModel&) const = default;
};

/// The most units of a layer.
inline constexpr int most_hidden_units = 512, most_second_units = 64;
/// The most weights of a model.
inline constexpr std::size_t most_model_weights = 50'000'000;

/// Throws InputError for layers out of range, patterns that cannot be, and weights that are too few, too many or no numbers.
void check_model(const LearnedModel& model);

/// What a network says of a position, in natural logarithms of odds.
struct LearnedOutput {
    float value = 0.0f;  ///< of a win for the side that is asked about
    float prior = 0.0f;  ///< of the move of that side that led here; only differences between moves count
};

/// A model in integers of 16 bits. Of layers it remembers, for each thread, what it was asked last, and works out anew only
/// what looks another way; the result is the same to the bit. A linear model is summed up each time, which is quicker.
class LearnedNetwork {
   public:
    /// Throws InputError as check_model().
    explicit LearnedNetwork(const LearnedModel& model);
    ~LearnedNetwork();

    const LearnedModel& model() const { return model_; }  ///< what it was made from
    std::size_t patterns() const { return patterns_; }    ///< how many there are

    /// Whether both players' sight is to be read; else the first player's alone, from which the other's follows.
    bool reads_both() const { return reads_both_; }
    /// Where the ways of the next position are to be written: as the first player sees it, and then, with reads_both(), as the
    /// second does. This thread's, until it asks again.
    std::span<std::uint16_t> room() const;
    /// Of what stands in the room, for that player. Every way must be below its pattern's number; one that is not counts as
    /// the last.
    LearnedOutput output(Player own) const;
    /// The value alone, and the prior alone.
    float value(Player own) const;
    /// Of the move of that player's that led to what stands in the room.
    float prior(Player own) const;
    /// The same from the start, with weights that were not rounded. `own` and `rivals`: as the two see the position.
    LearnedOutput exact_output(std::span<const std::uint16_t> own, std::span<const std::uint16_t> rivals) const;
    /// Forgets what it was asked last in this thread: what is asked next is worked out from the start.
    void forget() const;

   private:
    struct State;
    State& state() const;
    /// Brings a side's sums up to what the side that is read as `sight` sees now.
    void follow(State& state, std::size_t sight) const;
    float linear(const State& state, Player own, std::size_t output) const;
    void change(State& state, std::size_t side, std::uint32_t from, std::uint32_t to) const;

    LearnedModel model_;
    std::uint64_t number_ = 0;  ///< of this network among all that were made
    std::size_t patterns_ = 0, width_ = 0;
    bool reads_both_ = true;
    std::vector<std::uint32_t> rival_row_{};  ///< by row, unless both are read
    std::vector<std::uint32_t> first_row_{};  ///< of each pattern
    std::vector<std::uint16_t> last_way_{};   ///< of each pattern
    std::vector<std::int16_t> rows_{}, row_bias_{};
    std::array<std::vector<std::int16_t>, 2>
        linear_{};                           ///< by output and row; what the rival sees is taken off where it follows
    std::vector<std::int16_t> next_rows_{};  ///< of the layer behind the first
    std::vector<float> next_bias_{};
    float row_scale_ = 1.0f, next_scale_ = 1.0f;
};

}  // namespace arvek
