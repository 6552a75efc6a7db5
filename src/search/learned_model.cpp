#include "arvek/search/learned_model.hpp"

#include <algorithm>
#include <array>
#include <atomic>
#include <cmath>
#include <cstring>
#include <set>

#include "arvek/game/input_error.hpp"

namespace arvek {

namespace {

/// Numbers of 16 bits, eight at a time.
constexpr std::size_t lane = 8;

/// As large a scale as keeps a sum of such numbers within 16 bits.
constexpr double most_row_scale = 1024.0, most_row_sum = 32'000.0;

std::size_t padded(std::size_t width) { return (width + lane - 1) / lane * lane; }

std::int16_t rounded(double number) {
    return static_cast<std::int16_t>(std::clamp(std::nearbyint(number), -32'767.0, 32'767.0));
}

float held(float sum) { return std::clamp(sum, 0.0f, 1.0f); }

/// The sum of what the units of a side, held to 0 to `most`, count.
std::int32_t counted(const std::int16_t* sums, const std::int16_t* weights, std::size_t width, std::int16_t most) {
    std::int32_t sum = 0;
    for (std::size_t i = 0; i < width; ++i) {
        const std::int16_t unit = std::min(std::max(sums[i], std::int16_t{0}), most);
        sum += std::int32_t{unit} * weights[i];
    }
    return sum;
}

std::atomic<std::uint64_t> networks_made{0};

}  // namespace

std::size_t LearnedModel::ways() const {
    std::size_t sum = 0;
    for (const Pattern& pattern : patterns) sum += static_cast<std::size_t>(std::max(0, pattern.ways));
    return sum;
}

void check_model(const LearnedModel& model) {
    const auto fail = [](const std::string& problem, const std::string& expected) -> void {
        throw InputError("model", problem, expected);
    };
    if (model.patterns.empty() || model.patterns.size() > most_patterns)
        fail("it has " + std::to_string(model.patterns.size()) + " patterns", "1 to " + std::to_string(most_patterns));
    std::set<std::string> names;
    for (const Pattern& pattern : model.patterns) {
        if (pattern.ways < 1 || pattern.ways > most_ways)
            fail("'" + pattern.name + "' can look " + std::to_string(pattern.ways) + " ways",
                 "1 to " + std::to_string(most_ways));
        if (!pattern.rival_ways.empty()) {
            const bool is_there =
                pattern.rival_place >= -1 && pattern.rival_place < static_cast<int>(model.patterns.size());
            const Pattern& other = pattern.rival_place < 0 || !is_there
                                       ? pattern
                                       : model.patterns[static_cast<std::size_t>(pattern.rival_place)];
            if (!is_there || pattern.rival_ways.size() != static_cast<std::size_t>(pattern.ways) ||
                std::any_of(pattern.rival_ways.begin(), pattern.rival_ways.end(),
                            [&](std::uint16_t way) { return way >= other.ways; }))
                fail("'" + pattern.name + "' cannot look to the rival as it says",
                     "for each of its ways one of the pattern at rival_place");
        }
        if (!names.insert(pattern.name).second)
            fail("two patterns are called '" + pattern.name + "'", "names that differ");
    }
    if (model.hidden < 0 || model.hidden > most_hidden_units)
        fail("a first layer of " + std::to_string(model.hidden) + " units is out of range",
             "0 (linear) to " + std::to_string(most_hidden_units));
    if (model.second < 0 || model.second > most_second_units)
        fail("a second layer of " + std::to_string(model.second) + " units is out of range",
             "0 (none) to " + std::to_string(most_second_units));
    if (model.hidden == 0 && model.second > 0) fail("a linear model has no second layer", "second 0, or a first layer");
    const std::size_t hidden = static_cast<std::size_t>(model.hidden), second = static_cast<std::size_t>(model.second);
    const auto outputs = static_cast<std::size_t>(model.outputs());
    const std::size_t before_last = second > 0 ? second : 2 * hidden;
    const std::size_t rows = model.ways() * static_cast<std::size_t>(model.width());
    if (rows > most_model_weights)
        fail("it has " + std::to_string(rows) + " weights", "at most " + std::to_string(most_model_weights));
    const std::pair<const char*, std::pair<const std::vector<float>*, std::size_t>> parts[] = {
        {"rows", {&model.rows, rows}},
        {"row_bias", {&model.row_bias, hidden}},
        {"second_rows", {&model.second_rows, second * 2 * hidden}},
        {"second_bias", {&model.second_bias, second}},
        {"last_rows", {&model.last_rows, model.hidden > 0 ? outputs * before_last : 0}},
        {"last_bias", {&model.last_bias, outputs}}};
    for (const auto& [name, part] : parts) {
        const auto& [weights, size] = part;
        if (weights->size() != size)
            fail(std::string(name) + " has " + std::to_string(weights->size()) + " weights",
                 std::to_string(size) + ", by its patterns and layers");
        for (const float weight : *weights)
            if (!std::isfinite(weight) || std::abs(weight) > 1e6f)
                fail(std::string("a weight of ") + name + " is no number or too large", "-1e6 to 1e6");
    }
}

struct LearnedNetwork::State {
    std::uint64_t owner = 0;
    std::array<bool, 2> known{};
    std::vector<std::uint16_t> room{};  ///< as the first player sees it, then as the second does
    std::vector<std::uint16_t> seen{};  ///< what the sums are of
    std::vector<std::int16_t> sums{};
};

LearnedNetwork::LearnedNetwork(const LearnedModel& model) : model_((check_model(model), model)) {
    number_ = ++networks_made;
    patterns_ = model_.patterns.size();
    const auto units = static_cast<std::size_t>(model_.width());
    width_ = padded(units);
    std::uint32_t row = 0;
    for (const Pattern& pattern : model_.patterns) {
        first_row_.push_back(row);
        last_way_.push_back(static_cast<std::uint16_t>(pattern.ways - 1));
        row += static_cast<std::uint32_t>(pattern.ways);
    }
    reads_both_ = std::any_of(model_.patterns.begin(), model_.patterns.end(),
                              [](const Pattern& pattern) { return pattern.rival_ways.empty(); });
    std::vector<float> rows = model_.rows;
    if (!reads_both_) {
        for (std::size_t i = 0; i < patterns_; ++i) {
            const Pattern& pattern = model_.patterns[i];
            const std::size_t place = pattern.rival_place < 0 ? i : static_cast<std::size_t>(pattern.rival_place);
            for (const std::uint16_t way : pattern.rival_ways) rival_row_.push_back(first_row_[place] + way);
        }
        if (model_.hidden == 0)
            for (std::size_t at = 0; at < row; ++at)
                for (std::size_t i = 0; i < units; ++i) rows[at * units + i] -= model_.rows[rival_row_[at] * units + i];
    }
    // No sum of one way of each pattern can leave 16 bits.
    std::vector<double> most(units);
    if (!model_.row_bias.empty())
        for (std::size_t i = 0; i < units; ++i) most[i] = std::abs(double{model_.row_bias[i]});
    for (std::size_t pattern = 0; pattern < patterns_; ++pattern) {
        std::vector<double> largest(units);
        for (std::size_t way = 0; way <= last_way_[pattern]; ++way)
            for (std::size_t i = 0; i < units; ++i)
                largest[i] = std::max(largest[i], std::abs(double{rows[(first_row_[pattern] + way) * units + i]}));
        for (std::size_t i = 0; i < units; ++i) most[i] += largest[i];
    }
    const double bound = *std::max_element(most.begin(), most.end());
    // Half a unit may be lost by rounding for each pattern.
    row_scale_ = static_cast<float>(
        std::min(most_row_scale, (most_row_sum - static_cast<double>(patterns_)) / std::max(bound, 1e-6)));
    if (model_.hidden == 0) {
        for (std::size_t output = 0; output < units; ++output) {
            linear_[output].resize(row);
            for (std::size_t at = 0; at < row; ++at)
                linear_[output][at] = rounded(double{rows[at * units + output]} * row_scale_);
        }
        return;
    }
    rows_.assign(row * width_, 0);
    for (std::size_t at = 0; at < row; ++at)
        for (std::size_t i = 0; i < units; ++i)
            rows_[at * width_ + i] = rounded(double{rows[at * units + i]} * row_scale_);
    row_bias_.assign(width_, 0);
    for (std::size_t i = 0; i < model_.row_bias.size(); ++i)
        row_bias_[i] = rounded(double{model_.row_bias[i]} * row_scale_);
    const std::vector<float>& next = model_.second > 0 ? model_.second_rows : model_.last_rows;
    const std::size_t outputs = next.size() / (2 * units);
    double largest = 1e-6, sum = 1e-6;
    for (std::size_t output = 0; output < outputs; ++output) {
        double of_output = 0;
        for (std::size_t i = 0; i < 2 * units; ++i) {
            const double weight = std::abs(double{next[output * 2 * units + i]});
            largest = std::max(largest, weight);
            of_output += weight;
        }
        sum = std::max(sum, of_output);
    }
    constexpr double most_counted = 2e9;
    next_scale_ = static_cast<float>(
        std::min({4'096.0, 32'000.0 / largest, (most_counted / row_scale_ - static_cast<double>(2 * units)) / sum}));
    next_rows_.assign(outputs * 2 * width_, 0);
    for (std::size_t output = 0; output < outputs; ++output)
        for (std::size_t side = 0; side < 2; ++side)
            for (std::size_t i = 0; i < units; ++i)
                next_rows_[(output * 2 + side) * width_ + i] =
                    rounded(double{next[(output * 2 + side) * units + i]} * next_scale_);
}

LearnedNetwork::~LearnedNetwork() = default;

LearnedNetwork::State& LearnedNetwork::state() const {
    // A few, so that two networks that are asked by turns do not forget each time.
    thread_local std::array<State, 4> kept;
    thread_local std::size_t last = 0;
    if (kept[last].owner == number_) return kept[last];
    for (std::size_t i = 0; i < kept.size(); ++i)
        if (kept[i].owner == number_) return kept[last = i];
    last = (last + 1) % kept.size();
    State& state = kept[last];
    state.owner = number_;
    state.known = {};
    const std::size_t sights = reads_both_ ? 2 : 1;
    state.room.assign(sights * patterns_, 0);
    state.seen.assign(sights * patterns_, 0);
    state.sums.assign(2 * width_, 0);
    return state;
}

std::span<std::uint16_t> LearnedNetwork::room() const { return state().room; }

void LearnedNetwork::forget() const { state().known = {}; }

void LearnedNetwork::change(State& state, std::size_t side, std::uint32_t from, std::uint32_t to) const {
    std::int16_t* sums = state.sums.data() + side * width_;
    const std::int16_t* old = rows_.data() + from * width_;
    const std::int16_t* row = rows_.data() + to * width_;
    for (std::size_t unit = 0; unit < width_; ++unit)
        sums[unit] = static_cast<std::int16_t>(sums[unit] + (row[unit] - old[unit]));
}

void LearnedNetwork::follow(State& state, std::size_t sight) const {
    std::uint16_t* seen = state.seen.data() + sight * patterns_;
    const std::uint16_t* room = state.room.data() + sight * patterns_;
    const bool tells_of_both = !reads_both_;
    if (!state.known[sight]) {
        state.known[sight] = true;
        for (std::size_t side = sight; side < (tells_of_both ? 2 : sight + 1); ++side) {
            std::int16_t* sums = state.sums.data() + side * width_;
            std::copy(row_bias_.begin(), row_bias_.end(), sums);
            for (std::size_t i = 0; i < patterns_; ++i) {
                seen[i] = std::min(room[i], last_way_[i]);
                std::uint32_t at = first_row_[i] + seen[i];
                if (side != sight) at = rival_row_[at];
                const std::int16_t* row = rows_.data() + at * width_;
                for (std::size_t unit = 0; unit < width_; ++unit)
                    sums[unit] = static_cast<std::int16_t>(sums[unit] + row[unit]);
            }
        }
        return;
    }
    const auto follow_one = [&](std::size_t i) {
        const std::uint16_t way = std::min(room[i], last_way_[i]);
        if (way == seen[i]) return;
        const std::uint32_t from = first_row_[i] + seen[i], to = first_row_[i] + way;
        change(state, sight, from, to);
        if (tells_of_both) change(state, 1, rival_row_[from], rival_row_[to]);
        seen[i] = way;
    };
    // Four that look as they did are passed over at once.
    std::size_t i = 0;
    for (; i + 4 <= patterns_; i += 4) {
        std::uint64_t before, now;
        std::memcpy(&before, seen + i, sizeof before);
        std::memcpy(&now, room + i, sizeof now);
        if (before == now) continue;
        for (std::size_t j = i; j < i + 4; ++j) follow_one(j);
    }
    for (; i < patterns_; ++i) follow_one(i);
}

float LearnedNetwork::linear(const State& state, Player own, std::size_t output) const {
    const std::int16_t* weights = linear_[output].data();
    const std::uint16_t* room = state.room.data();
    const std::uint32_t* first_row = first_row_.data();
    const std::uint16_t* last_way = last_way_.data();
    std::int32_t sum = 0;
    for (std::size_t i = 0; i < patterns_; ++i) sum += weights[first_row[i] + std::min(room[i], last_way[i])];
    if (reads_both_)
        for (std::size_t i = 0; i < patterns_; ++i)
            sum -= weights[first_row[i] + std::min(room[patterns_ + i], last_way[i])];
    return (own == Player::First ? 1.0f : -1.0f) * static_cast<float>(sum) / row_scale_ + model_.last_bias[output];
}

float LearnedNetwork::value(Player own) const {
    return model_.hidden == 0 ? linear(state(), own, 0) : output(own).value;
}

float LearnedNetwork::prior(Player own) const {
    return model_.hidden == 0 && model_.prior ? linear(state(), own, 1) : output(own).prior;
}

LearnedOutput LearnedNetwork::output(Player own) const {
    State& state = this->state();
    LearnedOutput output;
    if (model_.hidden == 0) {
        output.value = linear(state, own, 0);
        if (model_.prior) output.prior = linear(state, own, 1);
        return output;
    }
    follow(state, 0);
    if (reads_both_) follow(state, 1);
    const std::size_t own_at = own == Player::First ? 0 : 1;
    const std::int16_t* mine = state.sums.data() + own_at * width_;
    const std::int16_t* theirs = state.sums.data() + (1 - own_at) * width_;
    const auto one = rounded(row_scale_);
    const float unit = 1.0f / (static_cast<float>(one) * next_scale_);
    const auto next = [&](std::size_t at) {
        const std::int16_t* weights = next_rows_.data() + 2 * at * width_;
        return static_cast<float>(counted(mine, weights, width_, one) +
                                  counted(theirs, weights + width_, width_, one)) *
               unit;
    };
    if (model_.second == 0) {
        output.value = next(0) + model_.last_bias[0];
        if (model_.prior) output.prior = next(1) + model_.last_bias[1];
        return output;
    }
    const auto second = static_cast<std::size_t>(model_.second);
    output.value = model_.last_bias[0];
    if (model_.prior) output.prior = model_.last_bias[1];
    for (std::size_t i = 0; i < second; ++i) {
        const float y = held(next(i) + model_.second_bias[i]);
        output.value += model_.last_rows[i] * y;
        if (model_.prior) output.prior += model_.last_rows[second + i] * y;
    }
    return output;
}

LearnedOutput LearnedNetwork::exact_output(std::span<const std::uint16_t> own,
                                           std::span<const std::uint16_t> rivals) const {
    const auto units = static_cast<std::size_t>(model_.width());
    std::vector<float> x(2 * units);
    for (std::size_t side = 0; side < 2; ++side) {
        float* sums = x.data() + side * units;
        if (model_.hidden > 0) std::copy(model_.row_bias.begin(), model_.row_bias.end(), sums);
        for (std::size_t i = 0; i < patterns_; ++i) {
            const std::uint16_t way = std::min((side == 0 ? own : rivals)[i], last_way_[i]);
            for (std::size_t unit = 0; unit < units; ++unit)
                sums[unit] += model_.rows[(first_row_[i] + way) * units + unit];
        }
    }
    std::array<float, 2> outputs{};
    const auto count = static_cast<std::size_t>(model_.outputs());
    if (model_.hidden == 0) {
        for (std::size_t i = 0; i < count; ++i) outputs[i] = x[i] - x[units + i] + model_.last_bias[i];
        return {outputs[0], outputs[1]};
    }
    for (float& sum : x) sum = held(sum);
    if (model_.second > 0) {
        std::vector<float> y(static_cast<std::size_t>(model_.second));
        for (std::size_t i = 0; i < y.size(); ++i) {
            y[i] = model_.second_bias[i];
            for (std::size_t j = 0; j < x.size(); ++j) y[i] += model_.second_rows[i * x.size() + j] * x[j];
            y[i] = held(y[i]);
        }
        x = std::move(y);
    }
    for (std::size_t i = 0; i < count; ++i) {
        outputs[i] = model_.last_bias[i];
        for (std::size_t j = 0; j < x.size(); ++j) outputs[i] += model_.last_rows[i * x.size() + j] * x[j];
    }
    return {outputs[0], outputs[1]};
}

}  // namespace arvek
