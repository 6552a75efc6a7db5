#include "arvek/lab/habits.hpp"

#include <algorithm>
#include <cmath>
#include <set>

#include "../game/mean_interval.hpp"
#include "arvek/game/chance.hpp"
#include "arvek/game/hashing.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/game/text.hpp"
#include "position_key.hpp"

namespace arvek {

HabitCounter::HabitCounter(const AnyGame& game, const AnyPosition& start, int opening_plies)
    : game_(game), start_(start), opening_plies_(opening_plies) {
    if (opening_plies < 1 || opening_plies > 100)
        throw InputError("habits", "an opening of " + std::to_string(opening_plies) + " plies is out of range",
                         "1 to 100");
}

void HabitCounter::add(const GameRecord& game, WhoseHabits whose) {
    if (game.counted.ended_by == EndedBy::BrokenRules) return;
    AnyPosition at = start_;
    std::string beginning;
    std::vector<std::string> opening;
    bool has_moved = false;
    for (const std::string& text : game.moves) {
        const AnyMove move = move_from_text(game_, at, text);
        if (!chance_is_next(game_, at)) {
            if (static_cast<int>(opening.size()) < opening_plies_) {
                opening.push_back(text);
                beginning += text + " ";
            }
            const bool counts = whose == WhoseHabits::OfBoth || players_of(game_) == 1 ||
                                static_cast<int>(game_.player_to_move(at)) == game.counted.seat_a;
            if (counts) {
                if (!has_moved) ++first_moves_[text];
                has_moved = true;
                ++replies_[detail::position_key(game_, at)][text];
            }
        }
        game_.play(at, move);
    }
    auto& counted = openings_[beginning];
    counted.moves = std::move(opening);
    ++counted.games;
    // Who moved first is no difference between games of one opponent.
    std::uint64_t course = 0;
    for (const std::string& text : game.moves) course = mix_bits(course ^ hash_of_text(text));
    ++courses_[course];
    auto& [chosen, moves] = chosen_.emplace_back(game.counted.chosen_a, game.counted.moves_a);
    if (whose == WhoseHabits::OfBoth) {
        for (const auto& [reason, times] : game.counted.chosen_b) chosen[reason] += times;
        moves += game.counted.moves_b;
    }
    if (game.counted.ended_by == EndedBy::Repetition) ++repetitions_;
}

std::map<std::string, HabitCounter::Shares> HabitCounter::shares() const {
    std::map<std::string, Shares> shares;
    double all = 0;
    for (const auto& [chosen, moves] : chosen_) {
        all += static_cast<double>(moves);
        for (const auto& [reason, times] : chosen) shares[reason].moves += times;
    }
    if (all == 0) return shares;
    const auto games = static_cast<double>(chosen_.size());
    for (auto& [reason, share] : shares) {
        share.mean = static_cast<double>(share.moves) / all;
        // A ratio of sums, of which games are the sample.
        double squares = 0;
        for (const auto& [chosen, moves] : chosen_) {
            const auto found = chosen.find(reason);
            const double times = found == chosen.end() ? 0.0 : static_cast<double>(found->second);
            const double off = times - share.mean * static_cast<double>(moves);
            squares += off * off;
        }
        share.error = games > 1 ? std::sqrt(squares * games / (games - 1)) / all : 1.0;
    }
    return shares;
}

namespace {

/// Of as many decisions that have nothing to do with each other as would err so much; of games where all have the same share.
Interval interval_by_error(double mean, double error, std::size_t games) {
    if (!(error > 0) || games < 2) return interval_of_share(mean, static_cast<double>(games));
    // The error is itself estimated, from so many games.
    const double errors = errors_to_each_side_with(static_cast<int>(games) - 1) / errors_to_each_side * error;
    return interval_of_share(mean, mean * (1 - mean) / (errors * errors));
}

}  // namespace

Habits HabitCounter::habits() const {
    Habits habits;
    habits.games = static_cast<int>(chosen_.size());
    for (const auto& [chosen, moves] : chosen_) habits.moves += moves;
    habits.different_games = static_cast<int>(courses_.size());
    habits.openings = static_cast<int>(openings_.size());
    habits.repetitions = repetitions_;
    double entropy = 0;
    std::vector<CountedOpening> all;
    for (const auto& [text, opening] : openings_) {
        const double share = static_cast<double>(opening.games) / habits.games;
        entropy -= share * std::log(share);
        all.push_back(opening);
    }
    habits.effective_openings = habits.games > 0 ? std::exp(entropy) : 0.0;
    std::stable_sort(all.begin(), all.end(), [](const auto& a, const auto& b) { return a.games > b.games; });
    constexpr std::size_t most_common = 5;
    if (all.size() > most_common) all.resize(most_common);
    habits.common = std::move(all);
    habits.first_moves.assign(first_moves_.begin(), first_moves_.end());
    std::stable_sort(habits.first_moves.begin(), habits.first_moves.end(),
                     [](const auto& a, const auto& b) { return a.second > b.second; });
    std::size_t again = 0, most = 0;
    for (const auto& [key, replies] : replies_) {
        int times = 0, highest = 0;
        for (const auto& [text, count] : replies) {
            times += count;
            highest = std::max(highest, count);
        }
        if (times < 2) continue;
        again += static_cast<std::size_t>(times);
        most += static_cast<std::size_t>(highest);
    }
    habits.positions_again = again;
    habits.same_reply = again > 0 ? static_cast<double>(most) / static_cast<double>(again) : 0.0;
    for (const auto& [reason, share] : shares()) {
        const Interval interval = interval_by_error(share.mean, share.error, chosen_.size());
        habits.reasons.push_back({reason, share.moves, share.mean, interval.low, interval.high});
    }
    std::stable_sort(habits.reasons.begin(), habits.reasons.end(),
                     [](const auto& a, const auto& b) { return a.moves > b.moves; });
    return habits;
}

std::vector<HabitDifference> HabitCounter::differences(const HabitCounter& other) const {
    const auto own = shares(), theirs = other.shares();
    std::set<std::string> reasons;
    for (const auto& [reason, share] : own) reasons.insert(reason);
    for (const auto& [reason, share] : theirs) reasons.insert(reason);
    std::vector<HabitDifference> differences;
    for (const std::string& reason : reasons) {
        const auto of = [&](const std::map<std::string, Shares>& all) {
            const auto found = all.find(reason);
            return found == all.end() ? Shares{} : found->second;
        };
        const Shares a = of(own), b = of(theirs);
        // Newcombe (1998), "Interval Estimation for the Difference between Independent Proportions".
        const Interval of_a = interval_by_error(a.mean, a.error, chosen_.size());
        const Interval of_b = interval_by_error(b.mean, b.error, other.chosen_.size());
        const double difference = a.mean - b.mean;
        differences.push_back({reason, a.mean, b.mean, difference - std::hypot(a.mean - of_a.low, of_b.high - b.mean),
                               difference + std::hypot(of_a.high - a.mean, b.mean - of_b.low)});
    }
    std::stable_sort(differences.begin(), differences.end(),
                     [](const auto& x, const auto& y) { return std::abs(x.a - x.b) > std::abs(y.a - y.b); });
    return differences;
}

}  // namespace arvek
