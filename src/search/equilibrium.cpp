#include "arvek/search/equilibrium.hpp"

#include <algorithm>
#include <cmath>

#include "arvek/game/input_error.hpp"
#include "arvek/game/interval.hpp"
#include "arvek/search/detail/regret_tree.hpp"

namespace arvek {

void check_options(const EquilibriumOptions& options) {
    if (!(options.exploitability >= 0 && std::isfinite(options.exploitability)))
        throw InputError("exploitability", std::to_string(options.exploitability) + " is out of range", "0 or more");
    if (options.iterations < 1)
        throw InputError("iterations", std::to_string(options.iterations) + " is out of range", "at least 1");
    if (options.memory_mebibytes < 1) throw InputError("memory", "0 MiB is out of range", "1 or more MiB");
    check_limits({.seconds = options.seconds, .clock = options.clock});
}

namespace detail {

void shares_above_zero(const std::vector<double>& numbers, std::vector<double>& shares) {
    double sum = 0;
    for (const double number : numbers) sum += std::max(number, 0.0);
    shares.assign(numbers.size(), 1.0 / static_cast<double>(numbers.size()));
    for (std::size_t i = 0; i < numbers.size() && sum > 0; ++i) shares[i] = std::max(numbers[i], 0.0) / sum;
}

double DrawnMean::error() const {
    if (count < 2) return 0.0;
    const double variance = std::max(0.0, squares / count - mean() * mean());
    return errors_to_each_side * std::sqrt(variance / count);
}

void throw_view_forgets() {
    throw InputError("equilibrium", "a view is met again after a move of the same player, so views forget",
                     "views that hold all that the player remembers");
}

void throw_moves_differ() {
    throw InputError("equilibrium", "two positions with the same view have different legal moves",
                     "legal moves that follow from what is seen");
}

void throw_sum_not_zero() {
    throw InputError("equilibrium", "payoffs do not sum to zero", "a game in which one wins what the other loses");
}

std::uint32_t RegretTree::add(Node node, std::size_t children) {
    node.first = static_cast<std::uint32_t>(children_.size());
    node.count = static_cast<std::uint32_t>(children);
    children_.resize(children_.size() + children);
    probabilities_.resize(children_.size(), 0.0);
    nodes_.push_back(node);
    return static_cast<std::uint32_t>(nodes_.size() - 1);
}

std::uint32_t RegretTree::add_end(double payoff_of_first) { return add({Kind::End, 0, 0, 0, payoff_of_first}, 0); }

std::uint32_t RegretTree::add_chance(const std::vector<double>& probabilities) {
    const std::uint32_t node = add({Kind::Chance}, probabilities.size());
    std::copy(probabilities.begin(), probabilities.end(), probabilities_.begin() + nodes_[node].first);
    return node;
}

std::uint32_t RegretTree::add_choice(std::uint32_t set) {
    const std::uint32_t node = add({Kind::Choice, set}, sets_[set].regrets.size());
    sets_[set].nodes.push_back(node);
    return node;
}

void RegretTree::add_set(Player player, std::size_t moves) {
    sets_.push_back({player,
                     std::vector<double>(moves, 0.0),
                     std::vector<double>(moves, 1.0 / static_cast<double>(moves)),
                     std::vector<double>(moves, 0.0),
                     {},
                     {}});
}

void RegretTree::find_choices_before(std::uint32_t at, const LastChoices& last) {
    const Node node = nodes_[at];
    LastChoices below = last;
    for (std::uint32_t i = 0; i < node.count; ++i) {
        if (node.kind == Kind::Choice) {
            const std::size_t player = index_of(sets_[node.set].player);
            auto& before = sets_[node.set].before;
            if (i == 0 && last[player] && std::find(before.begin(), before.end(), *last[player]) == before.end())
                before.push_back(*last[player]);
            below[player] = Choice{node.set, i};
        }
        find_choices_before(children_[node.first + i], below);
    }
}

/// What is played now counts in the mean by how likely the player's own moves lead there, whether or not the other goes there.
void RegretTree::add_to_means(Player player, double weight) {
    // Sets come after those before them, as they were added.
    for (Set& set : sets_) {
        if (set.player != player) continue;
        if (!set.before.empty()) {
            set.reached = 0;
            for (const Choice& choice : set.before)
                set.reached += sets_[choice.set].reached * sets_[choice.set].current[choice.move];
            set.reached /= static_cast<double>(set.before.size());
        }
        for (std::size_t i = 0; i < set.sums.size(); ++i) set.sums[i] += weight * set.reached * set.current[i];
    }
}

/// The value for `updated`, whose regrets it adds up. `others`: how likely all else leads here.
double RegretTree::walk(std::uint32_t at, Player updated, double others) {
    const Node node = nodes_[at];
    if (node.kind == Kind::End) return updated == Player::First ? node.payoff : -node.payoff;
    double value = 0;
    if (node.kind == Kind::Chance) {
        for (std::uint32_t i = node.first; i < node.first + node.count; ++i)
            value += probabilities_[i] * walk(children_[i], updated, others * probabilities_[i]);
        return value;
    }
    Set& set = sets_[node.set];
    if (set.player != updated) {
        for (std::uint32_t i = 0; i < node.count; ++i)
            if (set.current[i] > 0)
                value += set.current[i] * walk(children_[node.first + i], updated, others * set.current[i]);
        return value;
    }
    constexpr std::size_t few = 16;
    double inside[few];
    std::vector<double> outside(node.count > few ? node.count : 0);
    double* const of_move = node.count > few ? outside.data() : inside;
    for (std::uint32_t i = 0; i < node.count; ++i) {
        of_move[i] = walk(children_[node.first + i], updated, others);
        value += set.current[i] * of_move[i];
    }
    for (std::uint32_t i = 0; i < node.count; ++i) set.regrets[i] += others * (of_move[i] - value);
    return value;
}

std::vector<std::vector<double>> RegretTree::mean_strategy() const {
    std::vector<std::vector<double>> mean;
    for (const Set& set : sets_) shares_above_zero(set.sums, mean.emplace_back());
    return mean;
}

double RegretTree::mean_value(std::uint32_t at) const {
    const Node& node = nodes_[at];
    if (node.kind == Kind::End) return node.payoff;
    double value = 0;
    for (std::uint32_t i = 0; i < node.count; ++i) {
        const double share = node.kind == Kind::Chance ? probabilities_[node.first + i] : mean_[node.set][i];
        if (share > 0) value += share * mean_value(children_[node.first + i]);
    }
    return value;
}

void RegretTree::reach(std::uint32_t at, Player player, double probability) {
    reached_[at] = probability;
    const Node& node = nodes_[at];
    for (std::uint32_t i = 0; i < node.count; ++i) {
        double share = 1;
        if (node.kind == Kind::Chance) share = probabilities_[node.first + i];
        if (node.kind == Kind::Choice && sets_[node.set].player != player) share = mean_[node.set][i];
        reach(children_[node.first + i], player, probability * share);
    }
}

double RegretTree::answer_value(std::uint32_t at, Player player) {
    const Node node = nodes_[at];
    if (node.kind == Kind::End) return player == Player::First ? node.payoff : -node.payoff;
    if (is_known_[at] != 0) return known_values_[at];
    double value = 0;
    if (node.kind == Kind::Choice && sets_[node.set].player == player) {
        if (answers_[node.set] < 0) choose_answer(node.set, player);
        value = answer_value(children_[node.first + static_cast<std::uint32_t>(answers_[node.set])], player);
    } else {
        for (std::uint32_t i = 0; i < node.count; ++i) {
            const double share = node.kind == Kind::Chance ? probabilities_[node.first + i] : mean_[node.set][i];
            if (share > 0) value += share * answer_value(children_[node.first + i], player);
        }
    }
    is_known_[at] = 1;
    known_values_[at] = value;
    return value;
}

/// The best move behind a view, over all positions that it may be.
void RegretTree::choose_answer(std::uint32_t set, Player player) {
    const std::size_t count = sets_[set].regrets.size();
    std::vector<double> sums(count, 0.0);
    for (const std::uint32_t at : sets_[set].nodes)
        if (reached_[at] > 0)
            for (std::size_t i = 0; i < count; ++i)
                sums[i] += reached_[at] * answer_value(children_[nodes_[at].first + i], player);
    answers_[set] = static_cast<int>(std::max_element(sums.begin(), sums.end()) - sums.begin());
}

/// What the player gets by the best answer to the other's mean strategy.
double RegretTree::best_answer(Player player, std::vector<std::vector<double>>* values) {
    reached_.assign(nodes_.size(), 0.0);
    known_values_.assign(nodes_.size(), 0.0);
    is_known_.assign(nodes_.size(), 0);
    answers_.assign(sets_.size(), -1);
    reach(0, player, 1.0);
    const double value = answer_value(0, player);
    if (values == nullptr) return value;
    // What each move is worth when both go on by the mean strategy.
    for (std::size_t set = 0; set < sets_.size(); ++set) {
        if (sets_[set].player != player) continue;
        auto& row = (*values)[set];
        row.assign(sets_[set].regrets.size(), 0.0);
        double all = 0;
        for (const std::uint32_t at : sets_[set].nodes) all += reached_[at];
        for (const std::uint32_t at : sets_[set].nodes)
            for (std::size_t i = 0; i < row.size() && all > 0; ++i) {
                const double of_first = mean_value(children_[nodes_[at].first + i]);
                row[i] += reached_[at] / all * (player == Player::First ? of_first : -of_first);
            }
    }
    return value;
}

double RegretTree::exploitability() {
    return std::max(0.0, (best_answer(Player::First, nullptr) + best_answer(Player::Second, nullptr)) / 2);
}

void RegretTree::value_moves(RegretReport& report) {
    report.values.resize(sets_.size());
    (void)best_answer(Player::First, &report.values);
    (void)best_answer(Player::Second, &report.values);
    report.probabilities = mean_;
    report.value = mean_value(0);
}

RegretReport RegretTree::judge(std::vector<std::vector<double>> strategy) {
    mean_ = std::move(strategy);
    RegretReport report;
    report.exploitability = exploitability();
    value_moves(report);
    return report;
}

RegretReport RegretTree::minimise(const RegretLimits& limits) {
    find_choices_before(0, {});
    const double started = limits.clock.seconds_or_0();
    RegretReport report;
    int look_at = 64;
    for (int iteration = 1; report.stopped_by.empty(); ++iteration) {
        for (const Player player : {Player::First, Player::Second}) {
            add_to_means(player, iteration);
            (void)walk(0, player, 1.0);
            for (Set& set : sets_) {
                if (set.player != player) continue;
                for (double& regret : set.regrets) regret = std::max(regret, 0.0);
                shares_above_zero(set.regrets, set.current);
            }
        }
        report.iterations = iteration;
        if (limits.stop.stop_requested()) report.stopped_by = "stop";
        if (limits.seconds && limits.clock.seconds() - started >= *limits.seconds) report.stopped_by = "time";
        if (iteration >= limits.iterations) report.stopped_by = "iterations";
        if (iteration < look_at && report.stopped_by.empty()) continue;
        look_at += look_at / 2;
        mean_ = mean_strategy();
        report.exploitability = exploitability();
        report.complete = report.exploitability <= limits.exploitability;
        if (report.complete) report.stopped_by = "end";
    }
    value_moves(report);
    report.seconds = limits.clock.seconds_or_0() - started;
    return report;
}

}  // namespace detail

}  // namespace arvek
