#include "arvek/arena/league.hpp"

#include <algorithm>
#include <cmath>
#include <numeric>
#include <string>

#include "arvek/game/input_error.hpp"

namespace arvek {

namespace {

constexpr std::size_t most_league_games = 4'000'000;

/// What A did in a game for one, as if it had been B.
GameResult as_of_b(GameResult game) {
    ++game.number;
    game.a_first = false;
    std::swap(game.moves_a, game.moves_b);
    std::swap(game.seconds_a, game.seconds_b);
    std::swap(game.chosen_a, game.chosen_b);
    if (game.is_lost_by_fault()) game.winner = MatchWinner::A;
    return game;
}

}  // namespace

League::League(const LeagueOptions& options) : options_(options) {
    const auto fail = [](const char* what, int value, const std::string& expected) {
        throw InputError(what, std::to_string(value) + " is out of range", expected);
    };
    if (options.players < 2 || options.players > most_league_players)
        fail("league", options.players, "2 to " + std::to_string(most_league_players) + " players");
    if (options.seats < 1 || options.seats > static_cast<int>(max_players))
        fail("league", options.seats, "1 to 4 seats");
    if (options.games < 1) fail("games", options.games, "1 or more");
    if (options.order_error && !(*options.order_error > 0 && *options.order_error < 0.5))
        throw InputError("league", "an error of " + std::to_string(*options.order_error) + " is out of range",
                         "more than 0, less than 0.5");
    const auto players = static_cast<std::size_t>(options.players);
    for (std::size_t a = 0; a < players; ++a)
        for (std::size_t b = a + 1; b < players; ++b)
            if (a == 0 || options.shape == LeagueShape::EveryPair) {
                counted_.tallies.push_back({a, b, {}, {}});
                counted_.tallies.back().result.players = options.seats;
            }
    if (options.seats == 1) {
        for (std::size_t player = 0; player < players; ++player) tables_.emplace_back(player, player);
        counted_.own.resize(players);
    } else {
        for (const Tally& tally : counted_.tallies) tables_.emplace_back(tally.a, tally.b);
    }
    const std::size_t of_round = games_of_round();
    const std::size_t rounds = (static_cast<std::size_t>(options.games) + of_round - 1) / of_round;
    if (rounds > most_league_games / (of_round * tables_.size()))
        throw InputError("games", "there would be more than " + std::to_string(most_league_games) + " in all",
                         "fewer games, or fewer players");
    results_.resize(rounds * of_round * tables_.size());
}

std::size_t League::games_of_round() const {
    return options_.seats == 1 ? 1 : static_cast<std::size_t>(options_.seats);
}

std::size_t League::place_of(const GameTask& task) const {
    const std::size_t number = static_cast<std::size_t>(task.number), of_round = games_of_round();
    if (options_.seats == 1) return number / 2 * tables_.size() + task.pairing;
    return (number / of_round * tables_.size() + task.pairing) * of_round + number % of_round;
}

bool League::knows(const GameTask& task) const {
    if (task.pairing >= tables_.size() || task.number < 0) return false;
    if (options_.seats == 1 && task.number % 2 != 0) return false;
    return place_of(task) < results_.size();
}

std::optional<GameTask> League::next() {
    if (over_ || options_.stop.stop_requested()) return std::nullopt;
    while (next_ < results_.size() && results_[next_]) ++next_;
    if (next_ == results_.size()) return std::nullopt;
    const std::size_t of_round = games_of_round(), place = next_++;
    const std::size_t round = place / of_round / tables_.size();
    const std::size_t number = options_.seats == 1 ? 2 * round : round * of_round + place % of_round;
    return GameTask{place / of_round % tables_.size(), static_cast<int>(number)};
}

void League::add(const GameTask& task, const GameRecord& game) {
    if (!knows(task)) return;
    results_[place_of(task)] = game.counted;
    count();
}

void League::count_round(Counted& counted, std::size_t round) const {
    const std::size_t of_round = games_of_round(), begin = round * tables_.size() * of_round;
    const auto at = [&](std::size_t table, std::size_t game) -> const std::optional<GameResult>& {
        return results_[begin + table * of_round + game];
    };
    for (std::size_t player = 0; player < counted.own.size(); ++player)
        if (const auto& game = at(player, 0)) {
            ++counted.games;
            Own& own = counted.own[player];
            if (game->ended_by != EndedBy::BrokenRules) own.payoffs.push_back(game->payoff_a);
            own.cut_off += game->ended_by == EndedBy::CutOff ? 1 : 0;
            own.moves += game->moves_a;
            own.seconds += game->seconds_a;
        }
    for (std::size_t i = 0; i < counted.tallies.size(); ++i) {
        Tally& tally = counted.tallies[i];
        const double before = tally.result.points;
        const int compared = tally.result.comparisons();
        if (options_.seats == 1) {
            const auto &of_a = at(tally.a, 0), &of_b = at(tally.b, 0);
            // Only where both have played the deal to its end.
            const auto counts = [](const auto& game) { return game && game->ended_by != EndedBy::BrokenRules; };
            for (const auto* game : {&of_a, &of_b})
                if (*game && !counts(*game)) tally.result.add(**game);
            if (counts(of_a) && counts(of_b)) {
                tally.result.add(*of_a);
                tally.result.add(as_of_b(*of_b));
            }
        } else {
            for (std::size_t game = 0; game < of_round; ++game)
                if (const auto& result = at(i, game)) {
                    tally.result.add(*result);
                    ++counted.games;
                }
        }
        if (tally.result.comparisons() == compared) continue;
        tally.rounds.add(tally.result.points - before, tally.result.comparisons() - compared);
    }
    ++counted.rounds;
}

/// Complete rounds in their order, so that it does not matter which games ended first.
void League::count() {
    const std::size_t of_round = games_of_round() * tables_.size();
    for (;;) {
        const std::size_t begin = static_cast<std::size_t>(counted_.rounds) * of_round;
        if (over_ || begin == results_.size()) return;
        for (std::size_t i = 0; i < of_round; ++i)
            if (!results_[begin + i]) return;
        count_round(counted_, static_cast<std::size_t>(counted_.rounds));
        over_ = options_.order_error && is_sure();
    }
}

std::vector<PairScore> League::scores_of(const Counted& counted) const {
    std::vector<PairScore> scores;
    for (const Tally& tally : counted.tallies) {
        const RoundSums& rounds = tally.rounds;
        if (rounds.comparisons == 0) continue;
        scores.push_back({tally.a, tally.b, rounds.points, rounds.comparisons, rounds.variance()});
    }
    return scores;
}

RatingTable League::ratings_of(const Counted& counted, bool intervals) const {
    const std::optional<std::size_t> anchor =
        options_.shape == LeagueShape::AgainstFirst ? std::optional<std::size_t>(0) : std::nullopt;
    try {
        return rate_players(static_cast<std::size_t>(options_.players), scores_of(counted), anchor, intervals);
    } catch (const InputError&) {  // some have not met yet
        return {};
    }
}

namespace {

/// The strongest first; without ratings as they came.
std::vector<std::size_t> order_of(const RatingTable& table, std::size_t players) {
    std::vector<std::size_t> order(players);
    std::iota(order.begin(), order.end(), std::size_t{0});
    if (!table.ratings.empty())
        std::stable_sort(order.begin(), order.end(), [&](std::size_t x, std::size_t y) {
            return table.ratings[x].rating > table.ratings[y].rating;
        });
    return order;
}

}  // namespace

bool League::is_sure() const {
    if (counted_.rounds < SequentialTest::least_rounds) return false;
    const RatingTable table = ratings_of(counted_, false);
    if (table.ratings.empty()) return false;
    const auto order = order_of(table, table.ratings.size());
    const SequentialTest test{*options_.order_error / (options_.players - 1)};
    const double needed = test.deviations_needed(counted_.rounds);
    for (std::size_t i = 0; i + 1 < order.size(); ++i) {
        const double apart = table.ratings[order[i]].rating - table.ratings[order[i + 1]].rating;
        if (apart < needed * table.spread_between(order[i], order[i + 1])) return false;
    }
    return true;
}

LeagueResult League::result() const {
    Counted counted = counted_;
    const std::size_t all = results_.size() / (games_of_round() * tables_.size());
    if (!over_)
        for (std::size_t round = static_cast<std::size_t>(counted_.rounds); round < all; ++round)
            count_round(counted, round);
    LeagueResult result;
    result.rounds = counted_.rounds;
    result.games = counted.games;
    result.is_sure = over_;
    const auto players = static_cast<std::size_t>(options_.players);
    std::vector<Standing> of(players);
    for (const Tally& tally : counted.tallies) {
        const MatchResult& match = tally.result;
        result.pairings.push_back({tally.a, tally.b, match});
        result.broken += match.broken;
        if (result.first_fault.empty()) result.first_fault = match.first_fault;
        for (const bool is_a : {true, false}) {
            Standing& standing = of[is_a ? tally.a : tally.b];
            standing.wins += is_a ? match.wins_a : match.wins_b;
            standing.losses += is_a ? match.wins_b : match.wins_a;
            standing.draws += match.draws;
            standing.comparisons += match.comparisons();
            standing.points += is_a ? match.points : match.comparisons() - match.points;
            standing.repetitions += match.repetitions;
            standing.faults += is_a ? match.faults_a : match.faults_b;
            if (options_.seats == 1) continue;
            standing.games += match.games;
            standing.cut_off += match.unfinished;
            standing.moves += is_a ? match.moves_a : match.moves_b;
            standing.seconds += is_a ? match.seconds_a : match.seconds_b;
        }
    }
    for (std::size_t i = 0; i < counted.own.size(); ++i) {
        const Own& own = counted.own[i];
        of[i].games = static_cast<int>(own.payoffs.size());
        of[i].cut_off = own.cut_off;
        of[i].moves = own.moves;
        of[i].seconds = own.seconds;
        of[i].scores = score_summary(own.payoffs);
    }
    const RatingTable table = ratings_of(counted, true);
    const auto order = order_of(table, players);
    for (std::size_t place = 0; place < players; ++place) {
        Standing standing = of[order[place]];
        standing.player = order[place];
        if (!table.ratings.empty()) {
            standing.rating = table.ratings[order[place]];
            if (place + 1 < players) standing.above_next = table.chance_above(order[place], order[place + 1]);
        }
        result.standings.push_back(std::move(standing));
    }
    return result;
}

}  // namespace arvek
