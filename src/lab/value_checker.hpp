#pragma once
// The part of checking that compares values: searches against plain minimax, and what a game claims about values
// against looking at every line.

#include <algorithm>
#include <cstdio>
#include <functional>
#include <memory>
#include <string>
#include <utility>
#include <vector>

#include "arvek/lab/check_report.hpp"
#include "arvek/opponent/game_kit.hpp"

namespace arvek::detail {

/// `fault(law, what, path)` is told what does not hold, and the moves that lead there.
class ValueChecker {
   public:
    using Position = AnyPosition;
    using Move = AnyMove;
    using Path = std::vector<Move>;

    using Fault = std::function<void(const std::string&, const std::string&, const Path&)>;
    using Remark = std::function<void(std::string)>;

    ValueChecker(const GameKit& kit, const CheckOptions& options, Fault fault, Remark remark)
        : kit_(kit), game_(kit.game), options_(options), fault_(std::move(fault)), remark_(std::move(remark)) {}

    void check() {
        compare_searches();
        compare_claims();
        compare_equivalents();
        weigh_the_hint();
    }

   private:
    /// Shallow alpha-beta and the standard search against plain minimax.
    void compare_searches() {
        constexpr std::uint64_t most_nodes = 30'000;
        const auto minimax = made("minimax", even()), alphabeta = made("alphabeta", even());
        const auto standard = made("standard", even().set("table", false).set("quiescence", false));
        if (!minimax || !alphabeta || !standard) return;
        Random random(derived_seed(options_.seed, 1'000'003));
        for (int i = 0; i < options_.compared; ++i) {
            Path path;
            Position position = game_.initial_position();
            for (int ply = 0; ply < i; ++ply) {
                const MoveList<Move> moves = legal_moves(game_, position);
                const Move move = moves[static_cast<std::size_t>(random.below(moves.size()))];
                Position after = position;
                game_.play(after, move);
                if (game_.outcome(after)) break;
                position = after;
                path.push_back(move);
            }
            for (int depth = 1; depth <= 4; ++depth) {
                Limits limits{.depth = depth};
                const auto known = decided(*minimax, position, limits);
                if (known.stats.nodes > most_nodes) break;
                const Score value = known.ranked.front().score;
                for (const auto& [chooser, name] :
                     {std::pair{&alphabeta, "alpha-beta"}, {&standard, "the standard search"}})
                    if (decided(**chooser, position, limits).ranked.front().score != value)
                        fault_("search",
                               std::string(name) + " to depth " + std::to_string(depth) +
                                   " finds another value than minimax",
                               path);
                if (known.stats.nodes > most_nodes / 20) break;
            }
        }
    }

    /// What a game claims about the value of a position, against the value found by looking at every line to the end.
    void compare_claims() {
        if (draw_at_occurrence_of(game_) == 0 &&
            (offers(game_, Ability::PayoffBounds) || offers(game_, Ability::SufficientMoves) || kit_.solver)) {
            for (int number = 0; number < options_.compared; ++number) {
                Random random(derived_seed(options_.seed, 2'000'003 + static_cast<std::uint64_t>(number)));
                Path path;
                std::vector<Position> history{game_.initial_position()};
                while (!game_.outcome(history.back()) && static_cast<int>(path.size()) < options_.longest_game) {
                    const MoveList<Move> moves = legal_moves(game_, history.back());
                    path.push_back(moves[static_cast<std::size_t>(random.below(moves.size()))]);
                    history.push_back(history.back());
                    game_.play(history.back(), path.back());
                }
                // From the end backwards, for as long as all lines can be followed.
                for (bool known = true; known && !path.empty();) {
                    history.pop_back();
                    path.pop_back();
                    known = compare_claims_at(history.back(), path);
                }
            }
        }
    }

    /// False when there are too many lines to tell.
    bool compare_claims_at(const Position& position, const Path& path) {
        constexpr int most_positions = 3'000;
        const Player player = game_.player_to_move(position);
        int left = most_positions;
        Payoff best = -largest_payoff, best_sufficient = -largest_payoff;
        MoveList<Move> sufficient = legal_moves(game_, position);
        const MoveList<Move> moves = sufficient;
        if (offers(game_, Ability::SufficientMoves)) {
            sufficient.clear();
            game_.generate_sufficient_moves(position, sufficient);
        }
        for (const Move& move : moves) {
            Position after = position;
            game_.play(after, move);
            const Payoff payoff = payoff_at_end(after, player, left);
            best = std::max(best, payoff);
            if (sufficient.contains(move)) best_sufficient = std::max(best_sufficient, payoff);
        }
        if (left < 0) return false;
        if (best_sufficient != best)
            fault_("sufficient moves",
                   "the best of them is worth " + std::to_string(best_sufficient) + ", the best of all " +
                       std::to_string(best),
                   path);
        if (offers(game_, Ability::PayoffBounds)) {
            for (const Player viewer : {player, rival_of(player)}) {
                const PayoffBounds bounds = game_.payoff_bounds(position, viewer);
                const Payoff payoff = viewer == player ? best : -best;
                if (payoff < bounds.least || payoff > bounds.most)
                    fault_("payoff bounds",
                           "with best play the payoff is " + std::to_string(payoff) + ", not between " +
                               std::to_string(bounds.least) + " and " + std::to_string(bounds.most),
                           path);
            }
        }
        if (kit_.solver && has_hash(game_)) {
            const auto solution = kit_.solver(game_, position, {.memory_mebibytes = 1});
            if (solution.least != best || solution.most != best)
                fault_("search",
                       "exact solving finds " + std::to_string(solution.least) + ", looking at every line " +
                           std::to_string(best),
                       path);
        }
        return true;
    }

    /// By looking at every line; `left` falls below 0 when there are too many.
    Payoff payoff_at_end(const Position& position, Player viewer, int& left) {
        if (--left < 0) return 0;
        if (const auto outcome = game_.outcome(position)) return outcome->payoff(viewer);
        const bool own = game_.player_to_move(position) == viewer;
        Payoff best = own ? -largest_payoff : largest_payoff;
        for (const Move& move : legal_moves(game_, position)) {
            Position after = position;
            game_.play(after, move);
            const Payoff payoff = payoff_at_end(after, viewer, left);
            if (left < 0) return 0;
            best = own ? std::max(best, payoff) : std::min(best, payoff);
        }
        return best;
    }

    /// Positions that share an equivalence hash must be worth the same.
    void compare_equivalents() {
        if (offers(game_, Ability::Equivalence)) {
            const auto minimax = made("minimax", {});
            if (!minimax) return;
            constexpr std::size_t most_positions = 300;
            constexpr int depth = 2;
            struct Known {
                Path path;
                Position position;
                std::uint64_t hash;
            };
            std::vector<Known> known{{{}, game_.initial_position(), 0}};
            for (std::size_t i = 0; i < known.size(); ++i) {
                known[i].hash = game_.equivalence_hash(known[i].position);
                for (std::size_t j = 0; j < i; ++j) {
                    if (known[j].hash != known[i].hash || known[j].position == known[i].position) continue;
                    const auto value = [&](const Position& position) {
                        return game_.outcome(position)
                                   ? Score{}
                                   : decided(*minimax, position, {.depth = depth}).ranked.front().score;
                    };
                    if (value(known[i].position) != value(known[j].position))
                        fault_("equivalence", "it shares an equivalence hash with a position of another value",
                               known[i].path);
                    break;
                }
                if (game_.outcome(known[i].position)) continue;
                for (const Move& move : legal_moves(game_, known[i].position)) {
                    if (known.size() >= most_positions) break;
                    Known next = known[i];
                    game_.play(next.position, move);
                    next.path.push_back(move);
                    known.push_back(std::move(next));
                }
            }
        }
    }

    /// The standard search with the game's ordering hint and without it, on the same positions.
    void weigh_the_hint() {
        if (!offers(game_, Ability::OrderHint)) return;
        constexpr int positions = 12, deepest = 8;
        constexpr std::uint64_t enough_nodes = 20'000, least_nodes = 5'000;
        constexpr double costs = 1.1;
        const auto with = made("standard", {}), without = made("standard", Options().set("hint", false));
        if (!with || !without) return;
        Random random(derived_seed(options_.seed, 3'000'017));
        std::uint64_t nodes_with = 0, nodes_without = 0;
        int left_out = 0, asked = 0;
        for (int i = 0; i < std::min(positions, options_.compared); ++i) {
            Position position = game_.initial_position();
            for (int ply = 0; ply < 2 * i; ++ply) {
                const MoveList<Move> moves = legal_moves(game_, position);
                Position after = position;
                game_.play(after, moves[static_cast<std::size_t>(random.below(moves.size()))]);
                if (game_.outcome(after)) break;
                position = after;
            }
            for (int depth = 2; depth <= deepest; ++depth) {
                const auto plain = decided(*without, position, {.depth = depth, .nodes = 10 * enough_nodes});
                const auto hinted = decided(*with, position, {.depth = depth, .nodes = 30 * enough_nodes});
                if (plain.stats.nodes < enough_nodes && depth < deepest && plain.stats.stopped_by == StoppedBy::Depth)
                    continue;
                nodes_without += plain.stats.nodes;
                nodes_with += hinted.stats.nodes;
                ++asked;
                left_out += static_cast<double>(hinted.stats.no_hint_nodes) <
                                    0.93 * static_cast<double>(hinted.stats.hint_nodes)
                                ? 1
                                : 0;
                break;
            }
        }
        if (nodes_without < least_nodes) return;
        const double ratio = static_cast<double>(nodes_with) / static_cast<double>(nodes_without);
        if (ratio < costs && 2 * left_out < asked) return;
        char text[240];
        std::snprintf(
            text, sizeof text,
            "the ordering hint does not pay: at %d of %d positions the standard search found the first depths "
            "cheaper without it and left it out, and visited %.2f times the positions of a search that never "
            "asks for it",
            left_out, asked, ratio);
        remark_(text);
    }

    /// A search of the game; null where it cannot be had.
    std::unique_ptr<Chooser<AnyGame>> made(const char* name, const Options& options) const {
        const ChooserInfo* info = find_chooser(kit_.choosers.infos(), name);
        if (info == nullptr || !ChooserSet::why_not(game_, *info).empty()) return nullptr;
        return kit_.choosers.make(game_, name, {options});
    }

    /// Repetition as the rules have it.
    static Options even() { return Options().set("avoid_repetition", false); }

    static Decision<Move> decided(Chooser<AnyGame>& chooser, const Position& position, const Limits& limits) {
        return chooser.choose({position, {}, limits, {}});
    }

    const GameKit& kit_;
    const AnyGame& game_;
    const CheckOptions& options_;
    Fault fault_;
    Remark remark_;
};

}  // namespace arvek::detail
