#include "arvek/lab/learning.hpp"

#include <Eigen/Dense>
#include <algorithm>
#include <array>
#include <cmath>
#include <deque>
#include <string>

#include "arvek/game/chance.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/text.hpp"
#include "arvek/opponent/model_file.hpp"
#include "arvek/opponent/opponent.hpp"

namespace arvek {

namespace learning_parts {

using Numbers = std::vector<float>;

float squashed(float logit) { return 1.0f / (1.0f + std::exp(-logit)); }

/// About normal, with the same bits everywhere.
float about_normal(Random& random) {
    double sum = -6;
    for (int i = 0; i < 12; ++i) sum += random.unit();
    return static_cast<float>(sum);
}

/// A position and what it is taught.
struct Lesson {
    std::vector<std::uint16_t> ways;  ///< as the player to move sees it, then as the rival does
    float chance = 0.5f;              ///< of the player to move to win
    /// The same of the positions that moves lead to, the one that was found best first; none in most lessons.
    std::vector<std::vector<std::uint16_t>> after{};
};

/// Moves besides the best one that a lesson about moves compares.
constexpr std::size_t most_others = 11;
/// One in so many positions teaches about moves too.
constexpr std::uint64_t moves_one_in = 4;

/// Weights with what Adam remembers of them.
struct Weights {
    Numbers value{}, slope{}, mean{}, square{}, average{};

    void resize(std::size_t size) {
        for (Numbers* each : {&value, &slope, &mean, &square}) each->assign(size, 0.0f);
    }
    /// Takes a step at [from, to), and forgets the slope.
    void move(std::size_t from, std::size_t to, float step, float share) {
        constexpr float keep_mean = 0.9f, keep_square = 0.999f;
        const auto count = static_cast<Eigen::Index>(to - from);
        const auto at = [&](Numbers& numbers) { return Eigen::Map<Eigen::ArrayXf>(numbers.data() + from, count); };
        auto slopes = at(slope), means = at(mean), squares = at(square), values = at(value);
        slopes *= share;
        means = keep_mean * means + (1.0f - keep_mean) * slopes;
        squares = keep_square * squares + (1.0f - keep_square) * slopes.square();
        values -= step * means / (squares.sqrt() + 1e-6f);
        slopes.setZero();
    }
};

/// A model that can be moved.
class Net {
   public:
    Net(std::vector<Pattern> patterns, const LearningOptions& options) {
        shape_.patterns = std::move(patterns);
        shape_.hidden = options.hidden;
        shape_.second = options.second;
        shape_.prior = options.prior;
        width_ = static_cast<std::size_t>(shape_.width());
        hidden_ = static_cast<std::size_t>(shape_.hidden);
        second_ = static_cast<std::size_t>(shape_.second);
        outputs_ = static_cast<std::size_t>(shape_.outputs());
        std::size_t row = 0;
        for (const Pattern& pattern : shape_.patterns) {
            first_row_.push_back(row);
            row += static_cast<std::size_t>(pattern.ways);
        }
        if (row * width_ > most_model_weights)
            throw InputError(
                "model", "it would have " + std::to_string(row * width_) + " weights",
                "at most " + std::to_string(most_model_weights) + ": fewer units, or patterns of fewer ways");
        rows_.resize(row * width_);
        is_touched_.assign(row, false);
        row_bias_.resize(hidden_);
        second_rows_.resize(second_ * 2 * hidden_);
        second_bias_.resize(second_);
        const std::size_t before_last = second_ > 0 ? second_ : 2 * hidden_;
        last_rows_.resize(hidden_ > 0 ? outputs_ * before_last : 0);
        last_bias_.resize(outputs_);
        Random random(derived_seed(options.seed, 1));
        const auto begin = [&](Weights& weights, double spread, float middle = 0.0f) {
            for (float& weight : weights.value) weight = middle + static_cast<float>(spread) * about_normal(random);
        };
        if (hidden_ > 0) {
            begin(rows_, 0.3 / std::sqrt(static_cast<double>(shape_.patterns.size())));
            begin(row_bias_, 0.05, 0.4f);
            begin(second_rows_, 1.0 / std::sqrt(2.0 * static_cast<double>(hidden_)));
            begin(second_bias_, 0.05, 0.3f);
            begin(last_rows_, 0.3 / std::sqrt(static_cast<double>(before_last)));
        }
        for (Weights* each : all()) each->average = each->value;
        step_ = options.step > 0 ? static_cast<float>(options.step) : hidden_ > 0 ? 0.002f : 0.01f;
    }

    const std::vector<Pattern>& patterns() const { return shape_.patterns; }

    /// What came of a position, and all that is needed to move towards another answer.
    struct Course {
        Eigen::ArrayXf sums{}, units{}, second{}, second_sums{};
        std::array<float, 2> outputs{};
    };

    void ask(const std::vector<std::uint16_t>& ways, Course& course) const {
        const auto width = static_cast<Eigen::Index>(width_);
        course.sums.resize(2 * width);
        for (int side = 0; side < 2; ++side) {
            auto sums = course.sums.segment(side * width, width);
            if (hidden_ > 0)
                sums = Eigen::Map<const Eigen::ArrayXf>(row_bias_.value.data(), width);
            else
                sums.setZero();
            const std::uint16_t* seen = ways.data() + static_cast<std::size_t>(side) * first_row_.size();
            for (std::size_t i = 0; i < first_row_.size(); ++i)
                sums +=
                    Eigen::Map<const Eigen::ArrayXf>(rows_.value.data() + (first_row_[i] + seen[i]) * width_, width);
        }
        if (hidden_ == 0) {
            for (std::size_t i = 0; i < outputs_; ++i)
                course.outputs[i] = course.sums(static_cast<Eigen::Index>(i)) -
                                    course.sums(static_cast<Eigen::Index>(width_ + i)) + last_bias_.value[i];
            return;
        }
        course.units = course.sums.max(0.0f).min(1.0f);
        const Eigen::ArrayXf* last = &course.units;
        if (second_ > 0) {
            course.second_sums.resize(static_cast<Eigen::Index>(second_));
            for (std::size_t i = 0; i < second_; ++i)
                course.second_sums(static_cast<Eigen::Index>(i)) =
                    second_bias_.value[i] + (row_of(second_rows_.value, i, 2 * hidden_) * course.units).sum();
            course.second = course.second_sums.max(0.0f).min(1.0f);
            last = &course.second;
        }
        for (std::size_t i = 0; i < outputs_; ++i)
            course.outputs[i] = last_bias_.value[i] +
                                (row_of(last_rows_.value, i, static_cast<std::size_t>(last->size())) * *last).sum();
    }

    /// Adds the slopes of a course whose outputs have these.
    void slope(const std::vector<std::uint16_t>& ways, const Course& course, const std::array<float, 2>& of_outputs) {
        const auto width = static_cast<Eigen::Index>(width_);
        Eigen::ArrayXf& of_sums = of_sums_;
        of_sums.setZero(2 * width);
        for (std::size_t i = 0; i < outputs_; ++i) last_bias_.slope[i] += of_outputs[i];
        if (hidden_ == 0) {
            for (std::size_t i = 0; i < outputs_; ++i) {
                of_sums(static_cast<Eigen::Index>(i)) = of_outputs[i];
                of_sums(static_cast<Eigen::Index>(width_ + i)) = -of_outputs[i];
            }
        } else {
            const Eigen::ArrayXf& last = second_ > 0 ? course.second : course.units;
            const auto count = static_cast<std::size_t>(last.size());
            Eigen::ArrayXf& of_last = of_last_;
            of_last.setZero(last.size());
            for (std::size_t i = 0; i < outputs_; ++i) {
                if (of_outputs[i] == 0) continue;
                row_of(last_rows_.slope, i, count) += of_outputs[i] * last;
                of_last += of_outputs[i] * row_of(last_rows_.value, i, count);
            }
            if (second_ > 0) {
                Eigen::ArrayXf& of_units = of_units_;
                of_units.setZero(2 * width);
                for (std::size_t i = 0; i < second_; ++i) {
                    const float sum = course.second_sums(static_cast<Eigen::Index>(i));
                    if (sum <= 0 || sum >= 1) continue;
                    const float own = of_last(static_cast<Eigen::Index>(i));
                    second_bias_.slope[i] += own;
                    row_of(second_rows_.slope, i, 2 * hidden_) += own * course.units;
                    of_units += own * row_of(second_rows_.value, i, 2 * hidden_);
                }
                of_sums = of_units;
            } else {
                of_sums = of_last;
            }
            of_sums = (course.sums > 0.0f && course.sums < 1.0f).select(of_sums, 0.0f);
            Eigen::Map<Eigen::ArrayXf>(row_bias_.slope.data(), width) +=
                of_sums.segment(0, width) + of_sums.segment(width, width);
        }
        for (int side = 0; side < 2; ++side) {
            const std::uint16_t* seen = ways.data() + static_cast<std::size_t>(side) * first_row_.size();
            const auto own = of_sums.segment(side * width, width);
            for (std::size_t i = 0; i < first_row_.size(); ++i) {
                const std::size_t row = first_row_[i] + seen[i];
                if (!is_touched_[row]) {
                    is_touched_[row] = true;
                    touched_.push_back(row);
                }
                Eigen::Map<Eigen::ArrayXf>(rows_.slope.data() + row * width_, width) += own;
            }
        }
    }

    /// Goes down the slopes of so many lessons.
    void move(std::size_t lessons, float slowed) {
        const float step = step_ * slowed, share = 1.0f / static_cast<float>(lessons);
        for (const std::size_t row : touched_) {
            rows_.move(row * width_, (row + 1) * width_, step, share);
            is_touched_[row] = false;
        }
        touched_.clear();
        for (Weights* each : all())
            if (each != &rows_ && !each->value.empty()) each->move(0, each->value.size(), step, share);
        if (++moves_ % moves_of_average != 0) return;
        // The mean of the later weights; in the beginning of all.
        const float keep =
            std::min(0.98f, static_cast<float>(moves_) / static_cast<float>(moves_ + 10 * moves_of_average));
        for (Weights* each : all()) {
            const auto count = static_cast<Eigen::Index>(each->value.size());
            Eigen::Map<Eigen::ArrayXf> average(each->average.data(), count);
            average = keep * average + (1.0f - keep) * Eigen::Map<Eigen::ArrayXf>(each->value.data(), count);
        }
    }

    LearnedModel model() const {
        LearnedModel model = shape_;
        model.rows = rows_.average;
        model.row_bias = row_bias_.average;
        model.second_rows = second_rows_.average;
        model.second_bias = second_bias_.average;
        model.last_rows = last_rows_.average;
        model.last_bias = last_bias_.average;
        return model;
    }

    std::size_t outputs() const { return outputs_; }

   private:
    static constexpr std::uint64_t moves_of_average = 16;

    static Eigen::Map<const Eigen::ArrayXf> row_of(const Numbers& numbers, std::size_t row, std::size_t width) {
        return {numbers.data() + row * width, static_cast<Eigen::Index>(width)};
    }
    static Eigen::Map<Eigen::ArrayXf> row_of(Numbers& numbers, std::size_t row, std::size_t width) {
        return {numbers.data() + row * width, static_cast<Eigen::Index>(width)};
    }

    std::array<Weights*, 6> all() {
        return {&rows_, &row_bias_, &second_rows_, &second_bias_, &last_rows_, &last_bias_};
    }

    LearnedModel shape_;  ///< without weights
    std::size_t width_ = 0, hidden_ = 0, second_ = 0, outputs_ = 1;
    std::vector<std::size_t> first_row_;  ///< of each pattern
    Weights rows_, row_bias_, second_rows_, second_bias_, last_rows_, last_bias_;
    std::vector<std::size_t> touched_;  ///< rows that have a slope
    std::vector<bool> is_touched_;
    Eigen::ArrayXf of_sums_{}, of_last_{}, of_units_{};
    float step_ = 0.002f;
    std::uint64_t moves_ = 0;
};

/// An opponent that strays now and then.
class Straying final : public Opponent<AnyGame> {
   public:
    Straying(std::unique_ptr<Opponent<AnyGame>> opponent, double chance)
        : opponent_(std::move(opponent)), chance_(chance) {}

    Decision<AnyMove> decide(const AnyView& seen, std::uint64_t seed, std::span<const AnyView> earlier,
                             StopToken stop) override {
        opponent_->explain(explains_);
        Decision<AnyMove> decision = opponent_->decide(seen, seed, earlier, stop);
        Random random(derived_seed(derived_seed(seed, 0x5712a7), earlier.size()));
        if (random.chance(chance_))
            decision.move = decision.ranked[static_cast<std::size_t>(random.below(decision.ranked.size()))].move;
        return decision;
    }

   private:
    std::unique_ptr<Opponent<AnyGame>> opponent_;
    double chance_;
};

}  // namespace learning_parts

using namespace learning_parts;

std::unique_ptr<Opponent<AnyGame>> straying(std::unique_ptr<Opponent<AnyGame>> opponent, double chance) {
    return std::make_unique<Straying>(std::move(opponent), chance);
}

void check_options(const LearningOptions& options) {
    const auto in_range = [](const char* what, double value, double least, double most, const char* range) {
        if (!(value >= least && value <= most))
            throw InputError(std::string("learning, ") + what, number_text(value) + " is out of range", range);
    };
    in_range("hidden", options.hidden, 0, most_hidden_units, "0 to 512");
    in_range("second", options.second, 0, most_second_units, "0 to 64");
    if (options.hidden == 0 && options.second > 0)
        throw InputError("learning, second", "a linear model has no second layer", "0, or a first layer");
    in_range("outcome", options.outcome, 0, 1, "0 to 1");
    in_range("step", options.step, 0, 1, "0 to 1");
    in_range("passes", options.passes, 1, 100, "1 to 100");
    in_range("kept games", options.kept_games, 1, 1'000'000, "1 to 1000000");
}

/// What is learned from, and what is learned.
class Learner::Lessons {
   public:
    Lessons(const AnyGame& game, const AnyPosition& start, const LearningOptions& options)
        : game_(game),
          start_(start),
          options_((check_options(options), require_learnable(game), options)),
          net_(game.patterns(), options) {}

    void add(const GameRecord& game) {
        const GameResult& result = game.counted;
        if (game.chances.empty() || result.ended_by == EndedBy::BrokenRules || result.is_lost_by_fault()) return;
        std::vector<Lesson> lessons;
        std::vector<Player> players;
        std::vector<std::size_t> plies;
        std::vector<bool> strayed(game.moves.size());
        for (const std::size_t ply : game.strayed) strayed.at(ply) = true;
        Random random(derived_seed(options_.seed, 2 + games_));
        AnyPosition at = start_;
        for (std::size_t ply = 0; ply < game.moves.size(); ++ply) {
            const AnyMove move = move_from_text(game_, at, game.moves[ply]);
            if (game.chances[ply] >= 0 && !chance_is_next(game_, at)) {
                const Player player = game_.player_to_move(at);
                Lesson& lesson = lessons.emplace_back();
                lesson.ways = ways_at(at, player);
                players.push_back(player);
                plies.push_back(ply);
                if (options_.prior && !strayed[ply] && random.below(moves_one_in) == 0)
                    add_moves(lesson, at, move, random);
            }
            game_.play(at, move);
        }
        // Backwards, since what came later says what came of it.
        double of_first = result.seat_a == 0 ? result.points_a : 1.0 - result.points_a;
        double seen_next = of_first;
        for (std::size_t i = lessons.size(); i-- > 0;) {
            const double seen = players[i] == Player::First ? game.chances[plies[i]] : 1.0 - game.chances[plies[i]];
            // What follows a move that gave something away says nothing of the position before it.
            const bool gave_away = strayed[plies[i]] && std::abs(seen_next - seen) > most_given_away;
            of_first = gave_away ? seen : options_.outcome * of_first + (1.0 - options_.outcome) * seen;
            seen_next = seen;
            lessons[i].chance = static_cast<float>(players[i] == Player::First ? of_first : 1.0 - of_first);
        }
        ++games_;
        positions_ += lessons.size();
        fresh_ += lessons.size();
        kept_.push_back(lessons.size());
        for (Lesson& lesson : lessons) lessons_.push_back(std::move(lesson));
        while (kept_.size() > static_cast<std::size_t>(options_.kept_games)) {
            lessons_.erase(lessons_.begin(), lessons_.begin() + static_cast<std::ptrdiff_t>(kept_.front()));
            kept_.pop_front();
        }
    }

    void learn() {
        if (lessons_.empty() || fresh_ == 0) return;
        Random random(derived_seed(derived_seed(options_.seed, 3), games_));
        const std::size_t moves =
            std::max<std::size_t>(1, fresh_ * static_cast<std::size_t>(options_.passes) / lessons_at_a_time);
        fresh_ = 0;
        double squares = 0;
        const float slowed = 1.0f / std::sqrt(1.0f + static_cast<float>(games_) / 8'000.0f);
        for (std::size_t i = 0; i < moves; ++i) {
            for (std::size_t j = 0; j < lessons_at_a_time; ++j) {
                const Lesson& lesson = lessons_[static_cast<std::size_t>(random.below(lessons_.size()))];
                net_.ask(lesson.ways, course_);
                const float off = squashed(course_.outputs[0]) - lesson.chance;
                squares += static_cast<double>(off) * off;
                net_.slope(lesson.ways, course_, {off, 0.0f});
                if (!lesson.after.empty()) compare(lesson);
            }
            net_.move(lessons_at_a_time, slowed);
        }
        error_ = squares / static_cast<double>(moves * lessons_at_a_time);
    }

    LearnedModel model() const {
        LearnedModel model = net_.model();
        model.games = games_;
        return model;
    }
    std::uint64_t games() const { return games_; }
    std::size_t positions() const { return positions_; }
    double error() const { return error_; }

   private:
    static constexpr std::size_t lessons_at_a_time = 32;
    static constexpr double most_given_away = 0.05;

    std::vector<std::uint16_t> ways_at(const AnyPosition& position, Player own) const {
        const std::size_t count = net_.patterns().size();
        std::vector<std::uint16_t> ways(2 * count);
        game_.read_patterns(position, own, std::span(ways).first(count));
        game_.read_patterns(position, rival_of(own), std::span(ways).last(count));
        for (std::size_t i = 0; i < ways.size(); ++i)
            if (ways[i] >= net_.patterns()[i % count].ways)
                throw InputError("patterns",
                                 "'" + net_.patterns()[i % count].name + "' looks way " + std::to_string(ways[i]) +
                                     " in " + game_.position_text(position),
                                 "a way below " + std::to_string(net_.patterns()[i % count].ways));
        return ways;
    }

    void add_moves(Lesson& lesson, const AnyPosition& at, const AnyMove& best, Random& random) const {
        MoveList<AnyMove> moves;
        game_.generate_moves(at, moves);
        if (moves.size() < 2) return;
        std::vector<AnyMove> others;
        for (const AnyMove& move : moves)
            if (!(move == best)) others.push_back(move);
        random.shuffle(others);
        if (others.size() > most_others) others.resize(most_others);
        const Player mover = game_.player_to_move(at);
        const auto after = [&](const AnyMove& move) {
            AnyPosition next = at;
            game_.play(next, move);
            lesson.after.push_back(ways_at(next, mover));
        };
        after(best);
        for (const AnyMove& move : others) after(move);
    }

    /// The best move is to be the likeliest.
    void compare(const Lesson& lesson) {
        if (courses_.size() < lesson.after.size()) courses_.resize(lesson.after.size());
        std::array<float, most_others + 1> shares{};
        float most = -1e30f, sum = 0;
        for (std::size_t i = 0; i < lesson.after.size(); ++i) {
            net_.ask(lesson.after[i], courses_[i]);
            most = std::max(most, courses_[i].outputs[1]);
        }
        for (std::size_t i = 0; i < lesson.after.size(); ++i)
            sum += shares[i] = std::exp(courses_[i].outputs[1] - most);
        for (std::size_t i = 0; i < lesson.after.size(); ++i)
            net_.slope(lesson.after[i], courses_[i], {0.0f, shares[i] / sum - (i == 0 ? 1.0f : 0.0f)});
    }

    AnyGame game_;
    AnyPosition start_;
    LearningOptions options_;
    Net net_;
    std::deque<Lesson> lessons_;
    std::deque<std::size_t> kept_;  ///< lessons of each game
    std::size_t fresh_ = 0, positions_ = 0;
    std::uint64_t games_ = 0;
    double error_ = 0.25;
    Net::Course course_;
    std::vector<Net::Course> courses_;
};

Learner::Learner(const AnyGame& game, const AnyPosition& start, const LearningOptions& options)
    : lessons_(std::make_unique<Lessons>(game, start, options)) {}
Learner::~Learner() = default;
Learner::Learner(Learner&&) noexcept = default;
Learner& Learner::operator=(Learner&&) noexcept = default;

void Learner::add(const GameRecord& game) { lessons_->add(game); }
void Learner::learn() { lessons_->learn(); }
LearnedModel Learner::model() const { return lessons_->model(); }
std::uint64_t Learner::games() const { return lessons_->games(); }
std::size_t Learner::positions() const { return lessons_->positions(); }
double Learner::error() const { return lessons_->error(); }

}  // namespace arvek
