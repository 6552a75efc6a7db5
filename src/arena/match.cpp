#include "arvek/arena/match.hpp"

#include <algorithm>
#include <cmath>
#include <mutex>

#include "arvek/search/detail/helpers.hpp"

namespace arvek {

Interval wilson_interval(double points, int games) {
    if (games <= 0) return {};
    constexpr double z = 1.959963984540054;  // the normal quantile of 97.5 %
    const double n = games;
    const double share = points / n;
    const double centre = (share + z * z / (2 * n)) / (1 + z * z / n);
    const double half = z / (1 + z * z / n) * std::sqrt(share * (1 - share) / n + z * z / (4 * n * n));
    return {std::max(0.0, centre - half), std::min(1.0, centre + half)};
}

int SequentialTest::lead_needed() const {
    const double settled = std::log((1 - error) / error);
    const double each = std::log((0.5 + margin) / (0.5 - margin));
    return std::max(1, static_cast<int>(std::ceil(settled / each)));
}

void check_sequential_test(const SequentialTest& test) {
    if (!(test.margin > 0 && test.margin < 0.5))
        throw InputError("sequential test", "a margin of " + std::to_string(test.margin) + " is out of range",
                         "more than 0 and less than 0.5");
    if (!(test.error > 0 && test.error < 0.5))
        throw InputError("sequential test", "an error of " + std::to_string(test.error) + " is out of range",
                         "more than 0 and less than 0.5");
}

void check_match_options(const MatchOptions& options) {
    const auto check = [](const char* what, int value, int least, int most, const char* range) {
        if (value < least || value > most) throw InputError(what, std::to_string(value) + " is out of range", range);
    };
    check("games", options.games, 1, INT32_MAX, "at least 1 game");
    check("longest game", options.longest_game, 1, INT32_MAX, "at least 1 ply");
    check("threads", options.threads, 1, most_threads, "1 to 256");
    check("opening", options.opening_plies, 0, 100, "0 to 100 plies");
    if (options.until_sure) check_sequential_test(*options.until_sure);
}

void MatchResult::add(const GameResult& game) {
    ++games;
    ++(game.winner == MatchWinner::A ? wins_a : game.winner == MatchWinner::B ? wins_b : draws);
    if (!game.finished) ++unfinished;
    if (game.winner != MatchWinner::Nobody && (game.winner == MatchWinner::A) == game.a_first) ++wins_of_first;
    courses.insert(game.course);
    moves_a += game.moves_a;
    moves_b += game.moves_b;
    seconds_a += game.seconds_a;
    seconds_b += game.seconds_b;
    for (const auto& [reason, times] : game.chosen_a) chosen_a[reason] += times;
    for (const auto& [reason, times] : game.chosen_b) chosen_b[reason] += times;
}

namespace detail {

namespace {

/// The games of a match and who plays which. Everything in here is asked with `lock` held.
class Schedule {
   public:
    explicit Schedule(const MatchOptions& options)
        : options_(options), results_(static_cast<std::size_t>(options.games)) {
        for (const GameResult& game : options.played)
            if (game.number >= 0 && game.number < options.games) results_[static_cast<std::size_t>(game.number)] = game;
        count();
    }

    /// The next game to play; nothing when there is none.
    std::optional<int> next() {
        if (over_ || options_.stop.stop_requested()) return std::nullopt;
        while (next_ < results_.size() && results_[next_]) ++next_;
        if (next_ == results_.size()) return std::nullopt;
        return static_cast<int>(next_++);
    }

    void add(const GameResult& game) {
        results_[static_cast<std::size_t>(game.number)] = game;
        count();
    }

    void give_up() { over_ = true; }

    /// The games up to the one that settled it; where nothing did, all that were played.
    MatchResult result() {
        if (!over_)
            for (; counted_ < results_.size(); ++counted_)
                if (results_[counted_]) result_.add(*results_[counted_]);
        return result_;
    }

   private:
    /// Counts the games in the order of their numbers, so that it does not matter which ended first. A test looks after
    /// each pair.
    void count() {
        while (!over_ && counted_ < results_.size() && results_[counted_]) {
            result_.add(*results_[counted_++]);
            if (!options_.until_sure || counted_ % 2 != 0) continue;
            result_.verdict = options_.until_sure->verdict(result_.wins_a, result_.wins_b);
            over_ = result_.verdict != 0;
        }
    }

    const MatchOptions& options_;
    std::vector<std::optional<GameResult>> results_;
    std::size_t next_ = 0, counted_ = 0;
    MatchResult result_;
    bool over_ = false;
};

}  // namespace

MatchResult run_match(const MatchOptions& options,
                      const std::function<std::optional<GameResult>(std::size_t, int)>& play,
                      const std::function<void(std::size_t)>& ended) {
    Schedule schedule(options);
    std::mutex mutex;
    const auto work = [&](std::size_t worker) {
        try {
            for (;;) {
                std::optional<int> number;
                {
                    const std::lock_guard lock(mutex);
                    number = schedule.next();
                }
                if (!number) return;
                const std::optional<GameResult> result = play(worker, *number);
                if (!result) return;
                const std::lock_guard lock(mutex);
                ended(worker);
                schedule.add(*result);
            }
        } catch (...) {
            const std::lock_guard lock(mutex);
            schedule.give_up();
            throw;
        }
    };
    Flag unused;
    const auto help = [&](std::size_t i) { work(i + 1); };
    Helpers helpers(static_cast<std::size_t>(options.threads) - 1, help, unused);
    work(0);
    helpers.finish();
    return schedule.result();
}

}  // namespace detail

}  // namespace arvek
