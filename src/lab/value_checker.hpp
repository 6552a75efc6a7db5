#pragma once
// The part of checking that compares values: searches against plain minimax, and what a game claims about values
// against looking at every line, as far as that can be done.

#include <algorithm>
#include <cstdio>
#include <functional>
#include <memory>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

#include "arvek/game/chance.hpp"
#include "arvek/game/text.hpp"
#include "arvek/lab/check_report.hpp"
#include "arvek/opponent/game_kit.hpp"
#include "checking.hpp"
#include "exploring.hpp"
#include "findings.hpp"
#include "value_graph.hpp"

namespace arvek::detail {

class ValueChecker {
   public:
    using Position = AnyPosition;
    using Move = AnyMove;

    /// `watcher` may be null.
    ValueChecker(const GameKit& kit, const CheckOptions& options, Findings& findings, CheckWatcher* watcher)
        : kit_(kit),
          game_(kit.game),
          options_(options),
          findings_(findings),
          watcher_(watcher),
          players_(players_of(game_)) {}

    /// Until `late(share)` says that the time up to that share of it is gone. A remark on the game, or nothing.
    template <class Late>
    std::string check(const Late& late) {
        if (has_views(game_) || players_ > 2) return "";
        const bool is_open = players_ == 2 && !has_chance(game_);
        if (is_open) compare_searches(late);
        compare_claims(late);
        compare_equivalents(late);
        return is_open && findings_.none() ? weigh_the_hint() : "";
    }

    /// What is compared at the end of one path.
    void examine(const Path& path) {
        if (has_views(game_) || players_ > 2) return;
        note(path);
        make_searches();
        if (minimax_ && alphabeta_ && standard_ && players_ == 2 && !has_chance(game_)) compare_searches_at(path);
        const Position position = position_after(game_, path);
        if (!game_.outcome(position) && !chance_is_next(game_, position)) compare_claims_at(position, path);
    }

   private:
    void note(const Path& path) {
        if (watcher_ != nullptr) watcher_->path(path);
    }

    /// Shallow alpha-beta and the standard search against plain minimax.
    template <class Late>
    void compare_searches(const Late& late) {
        make_searches();
        if (!minimax_ || !alphabeta_ || !standard_) return;
        Findings::Looking looking(findings_, [this](const Path& path, const Path*) { compare_searches_at(path); });
        Random random(derived_seed(options_.seed, 1'000'003));
        for (int i = 0; i < options_.compared && !late(0.88); ++i) {
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
            compare_searches_at(path);
        }
    }

    void make_searches() {
        minimax_ = made("minimax", even());
        alphabeta_ = made("alphabeta", even());
        standard_ = made("standard", even().set("table", false).set("quiescence", false));
    }

    void compare_searches_at(const Path& path) {
        constexpr std::uint64_t most_nodes = 30'000;
        note(path);
        const Position position = position_after(game_, path);
        if (game_.outcome(position)) return;
        for (int depth = 1; depth <= 4; ++depth) {
            Limits limits{.depth = depth};
            const auto known = decided(*minimax_, position, limits);
            if (known.stats.nodes > most_nodes) break;
            const Score value = known.ranked.front().score;
            for (const auto& [chooser, name] :
                 {std::pair{&alphabeta_, "alpha-beta"}, {&standard_, "the standard search"}})
                if (decided(**chooser, position, limits).ranked.front().score != value)
                    findings_.fault(
                        "search", "standard",
                        std::string(name) + " to depth " + std::to_string(depth) + " finds another value than minimax",
                        path);
            if (known.stats.nodes > most_nodes / 20) break;
        }
    }

    // ---- claims ----

    /// No more than the game pays is known.
    Worth unknown() const {
        const double most = most_payoff_of(game_);
        return {-most, most};
    }

    /// What a game claims about the value of a position, against the value found by looking at every line to the end.
    template <class Late>
    void compare_claims(const Late& late) {
        if (!offers(game_, Ability::PayoffBounds) && !offers(game_, Ability::SufficientMoves) &&
            !offers(game_, Ability::NullMove) && !kit_.solver)
            return;
        if (has_chance(game_) && !lists_events(game_)) return;
        if (compare_claims_around(late)) return;
        Findings::Looking looking(findings_, [this](const Path& path, const Path*) {
            const Position position = position_after(game_, path);
            if (!game_.outcome(position) && !chance_is_next(game_, position)) compare_claims_at(position, path);
        });
        Exploring exploring(game_, derived_seed(options_.seed, 2'000'003));
        // With time left, more games than asked for.
        const int most = options_.seconds || !options_.games ? 40 * options_.compared : options_.compared;
        for (int number = 0; number < most && !late(0.92); ++number) {
            Random random(derived_seed(options_.seed, 2'000'003 + static_cast<std::uint64_t>(number)));
            Path path = exploring.begin(number);
            std::vector<Position> history{game_.initial_position()};
            for (const Move& move : path) {
                history.push_back(history.back());
                game_.play(history.back(), move);
            }
            while (!game_.outcome(history.back()) && static_cast<int>(path.size()) < options_.longest_game) {
                const MoveList<Move> moves = legal_moves(game_, history.back());
                const Move move = chance_is_next(game_, history.back())
                                      ? moves[static_cast<std::size_t>(random.below(moves.size()))]
                                      : moves[exploring.choose(history.back(), moves, random)];
                path.push_back(move);
                history.push_back(history.back());
                game_.play(history.back(), move);
                exploring.meet(history[history.size() - 2], history.back(), path);
                if (is_draw_by_repetition(game_, history)) break;
            }
            // From the end backwards, for as long as anything can be told.
            if (draw_at_occurrence_of(game_) > 0) {
                compare_claims_near_the_end(path, history, late);
                continue;
            }
            for (int silent = 0; silent < 3 && !path.empty() && !late(0.92);) {
                history.pop_back();
                path.pop_back();
                note(path);
                if (!chance_is_next(game_, history.back()) && !compare_claims_at(history.back(), path)) ++silent;
            }
        }
    }

    /// All that is near the start, or at the end of a path; whether the whole game is.
    template <class Late>
    bool compare_claims_around(const Late& late) {
        Findings::Looking looking(findings_, nullptr);  // found on the shortest way
        const bool has_time = options_.seconds || !options_.games;
        const ValueGraph graph(
            game_, game_.initial_position(),
            has_time ? 60'000 : std::min<std::size_t>(12'000, 150 * static_cast<std::size_t>(*options_.games)),
            [&] { return late(0.9); });
        for (std::size_t i = 0; i < graph.nodes().size() && !late(0.91); ++i) compare_claims_of(graph, i, {});
        return graph.is_closed();
    }

    /// Where positions come back, lines alone tell little.
    template <class Late>
    void compare_claims_near_the_end(Path path, const std::vector<Position>& history, const Late& late) {
        constexpr std::size_t plies = 3, positions = 1'500;
        const auto compare = [this](const Position& position, const Path& begin) {
            const ValueGraph graph(game_, position, positions, [] { return false; });
            for (std::size_t i = 0; i < graph.nodes().size(); ++i) compare_claims_of(graph, i, begin);
        };
        Findings::Looking looking(findings_, [this, compare](const Path& begin, const Path*) {
            const Position position = position_after(game_, begin);
            if (!game_.outcome(position)) compare(position, begin);
        });
        if (path.size() <= plies || late(0.92)) return;
        path.resize(path.size() - plies);
        note(path);
        compare(history[path.size()], path);
    }

    void compare_claims_of(const ValueGraph& graph, std::size_t place, const Path& begin) {
        const auto& node = graph.nodes()[place];
        if (node.kind != ValueGraph::Node::Kind::Own && node.kind != ValueGraph::Node::Kind::Rivals) return;
        const Player player = game_.player_to_move(node.position);
        const auto for_player = [&](const Worth& worth) { return player == Player::First ? worth : worth.opposite(); };
        const Worth best = for_player(node.worth);
        if (best.least <= unknown().least && best.most >= unknown().most) return;
        Worth best_sufficient = best;
        if (offers(game_, Ability::SufficientMoves)) {
            MoveList<Move> sufficient;
            game_.generate_sufficient_moves(node.position, sufficient);
            best_sufficient = {unknown().least, unknown().least};
            for (const auto& [move, after] : node.after)
                if (sufficient.contains(move)) {
                    const Worth worth = for_player(graph.nodes()[after].worth);
                    best_sufficient = {std::max(best_sufficient.least, worth.least),
                                       std::max(best_sufficient.most, worth.most)};
                }
        }
        std::optional<Worth> nothing;
        if (offers(game_, Ability::NullMove) && players_ == 2 && game_.nothing_is_sound(node.position)) {
            Position after = node.position;
            game_.play_nothing(after);
            if (const std::size_t there = graph.find(after); there < graph.nodes().size())
                nothing = for_player(graph.nodes()[there].worth);
        }
        const auto path = [&] {
            Path all = begin;
            const Path rest = graph.path_to(place);
            all.insert(all.end(), rest.begin(), rest.end());
            return all;
        };
        compare_with_claims(node.position, player, best, best_sufficient, nothing, path);
    }

    /// False where nothing could be told.
    bool compare_claims_at(const Position& position, const Path& path) {
        const int most_positions = has_chance(game_) ? 20'000 : 3'000;
        const Player player = game_.player_to_move(position);
        const MoveList<Move> moves = legal_moves(game_, position);
        MoveList<Move> sufficient = moves;
        if (offers(game_, Ability::SufficientMoves)) {
            sufficient.clear();
            game_.generate_sufficient_moves(position, sufficient);
        }
        // Deeper and deeper, until all is known or too many positions are seen; what is known stays known.
        std::vector<Worth> worths(moves.size(), unknown());
        const double none = unknown().least;
        Worth best{none, none}, best_sufficient{none, none};
        std::vector<Position> line{position};
        int left = most_positions;
        for (const int depth : {3, 6, 10, 16, 40, 200}) {
            best = best_sufficient = {none, none};
            for (std::size_t i = 0; i < moves.size(); ++i) {
                Position after = position;
                game_.play(after, moves[i]);
                const Worth worth = worth_of(after, player, depth, left, line);
                worths[i] = {std::max(worths[i].least, worth.least), std::min(worths[i].most, worth.most)};
                best = {std::max(best.least, worths[i].least), std::max(best.most, worths[i].most)};
                if (sufficient.contains(moves[i]))
                    best_sufficient = {std::max(best_sufficient.least, worths[i].least),
                                       std::max(best_sufficient.most, worths[i].most)};
            }
            if (left < 0 || best.is_known()) break;
        }
        if (best.least <= unknown().least && best.most >= unknown().most) return false;
        std::optional<Worth> nothing;
        if (offers(game_, Ability::NullMove) && players_ == 2 && game_.nothing_is_sound(position)) {
            Position after = position;
            game_.play_nothing(after);
            int more = most_positions;
            nothing = worth_of(after, player, 16, more, line);
        }
        compare_with_claims(position, player, best, best_sufficient, nothing, [&] { return path; });
        if (kit_.solver && has_hash(game_) && players_ == 2 && !has_chance(game_) && best.is_known() &&
            draw_at_occurrence_of(game_) == 0) {
            // A shallow proof may be far for a solver that goes to the end: it is asked to stop after a while.
            int patience = 60;
            SolveOptions solving{.memory_mebibytes = 1};
            solving.stop = StopToken(
                [](const void* asked) { return --*static_cast<int*>(const_cast<void*>(asked)) < 0; }, &patience);
            const auto solution = kit_.solver(game_, position, solving);
            if (best.least < static_cast<double>(solution.least) || best.least > static_cast<double>(solution.most))
                findings_.fault("search", "solve",
                                "exact solving finds " + std::to_string(solution.least) + " to " +
                                    std::to_string(solution.most) + ", looking at every line " +
                                    number_text(best.least),
                                path);
        }
        return true;
    }

    /// `path()` gives the moves that lead there.
    template <class PathOf>
    void compare_with_claims(const Position& position, Player player, const Worth& best, const Worth& best_sufficient,
                             const std::optional<Worth>& nothing, const PathOf& path) {
        constexpr double rounding = 1e-9;
        if (best_sufficient.most < best.least - rounding)
            findings_.fault("sufficient moves", "generate_sufficient_moves",
                            "the best of them is worth " + number_text(best_sufficient.most) +
                                (best_sufficient.is_known() ? "" : " at the most") + ", the best of all " +
                                number_text(best.least) + (best.is_known() ? "" : " at the least"),
                            path());
        if (offers(game_, Ability::PayoffBounds))
            for (const Player viewer : {player, rival_of(player)}) {
                if (players_ < 2 && viewer != player) continue;
                const PayoffBounds bounds = game_.payoff_bounds(position, viewer);
                const Worth worth = viewer == player ? best : best.opposite();
                if (bounds.most < worth.least - rounding || bounds.least > worth.most + rounding)
                    findings_.fault("payoff bounds", "payoff_bounds",
                                    "with best play the payoff is " + said(worth) + ", not between " +
                                        std::to_string(bounds.least) + " and " + std::to_string(bounds.most),
                                    path());
            }
        if (nothing && nothing->least > best.most + rounding)
            findings_.fault(
                "null move", "nothing_is_sound",
                "no move at all is worth " + said(*nothing) + " to the player to move, and the best move " + said(best),
                path());
    }

    static std::string said(const Worth& worth) {
        return worth.is_known() ? number_text(worth.least)
                                : number_text(worth.least) + " to " + number_text(worth.most);
    }

    /// By looking at every line, so many plies deep and until `left` is spent. Where a position comes back on a line, nothing is known of it.
    Worth worth_of(const Position& position, Player viewer, int depth, int& left, std::vector<Position>& line) {
        if (--left < 0) return unknown();
        if (const auto outcome = game_.outcome(position)) {
            const double payoff = outcome->payoff(viewer);
            return {payoff, payoff};
        }
        if (depth == 0) return unknown();
        const bool repeats = draw_at_occurrence_of(game_) > 0;
        const auto is_same = [&](const Position& met) { return is_same_for_repetition(game_, met, position); };
        if (repeats && std::any_of(line.begin(), line.end(), is_same)) return unknown();
        if (repeats) line.push_back(position);
        const Worth worth = chance_is_next(game_, position) ? mean_worth(position, viewer, depth - 1, left, line)
                                                            : best_worth(position, viewer, depth - 1, left, line);
        if (repeats) line.pop_back();
        return worth;
    }

    Worth mean_worth(const Position& position, Player viewer, int depth, int& left, std::vector<Position>& line) {
        MoveList<Event<Move>> events;
        game_.generate_events(position, events);
        Worth mean{0, 0};
        for (const auto& event : events) {
            Position after = position;
            game_.play(after, event.move);
            const Worth worth = worth_of(after, viewer, depth, left, line);
            mean.least += event.probability * worth.least;
            mean.most += event.probability * worth.most;
        }
        return mean;
    }

    Worth best_worth(const Position& position, Player viewer, int depth, int& left, std::vector<Position>& line) {
        const bool own = game_.player_to_move(position) == viewer;
        const double none = own ? unknown().least : unknown().most;
        Worth best{none, none};
        for (const Move& move : legal_moves(game_, position)) {
            Position after = position;
            game_.play(after, move);
            const Worth worth = worth_of(after, viewer, depth, left, line);
            best.least = own ? std::max(best.least, worth.least) : std::min(best.least, worth.least);
            best.most = own ? std::max(best.most, worth.most) : std::min(best.most, worth.most);
        }
        return best;
    }

    // ---- equivalence ----

    /// Positions that share an equivalence hash must be worth the same, at every depth.
    template <class Late>
    void compare_equivalents(const Late& late) {
        if (!offers(game_, Ability::Equivalence)) return;
        Findings::Looking looking(findings_, [this](const Path& path, const Path* other) {
            if (other == nullptr) return;
            const Position one = position_after(game_, path), two = position_after(game_, *other);
            if (!(one == two) && game_.equivalence_hash(one) == game_.equivalence_hash(two))
                compare_pair(one, path, two, *other);
        });
        struct Known {
            Path path;
            Position position;
        };
        constexpr std::size_t most_kept = 12'000;
        std::unordered_map<std::uint64_t, std::vector<Known>> known;
        std::size_t count = 0;
        std::vector<std::pair<Known, Known>> pairs;
        const auto meet = [&](const Position& position, const Path& path) {
            auto& alike = known[game_.equivalence_hash(position)];
            for (const Known& each : alike) {
                if (each.position == position) return;
                compare_pair(position, path, each.position, each.path);
                if (pairs.size() < 400) pairs.push_back({{path, position}, each});
            }
            if (alike.size() < 3 && count < most_kept) {
                alike.push_back({path, position});
                ++count;
            }
        };
        // The shortest sequences, where mirror images meet, then games with every position after their moves.
        std::vector<Known> shortest{{{}, game_.initial_position()}};
        for (std::size_t i = 0; i < shortest.size() && !late(0.93); ++i) {
            meet(shortest[i].position, shortest[i].path);
            if (game_.outcome(shortest[i].position)) continue;
            for (const Move& move : legal_moves(game_, shortest[i].position)) {
                if (shortest.size() >= 600) break;
                Known next = shortest[i];
                game_.play(next.position, move);
                next.path.push_back(move);
                shortest.push_back(std::move(next));
            }
        }
        Exploring exploring(game_, derived_seed(options_.seed, 7'000'003));
        for (int number = 0; number < options_.compared && !late(0.94); ++number) {
            Random random(derived_seed(options_.seed, 7'000'003 + static_cast<std::uint64_t>(number)));
            Path path = exploring.begin(number);
            Position position = position_after(game_, path);
            for (int ply = 0; ply < 200 && !game_.outcome(position) && !late(0.94); ++ply) {
                const MoveList<Move> moves = legal_moves(game_, position);
                if (moves.empty()) break;
                for (const Move& move : moves) {
                    Position after = position;
                    game_.play(after, move);
                    Path with_move = path;
                    with_move.push_back(move);
                    meet(after, with_move);
                }
                path.push_back(moves[static_cast<std::size_t>(random.below(moves.size()))]);
                const Position before = position;
                game_.play(position, path.back());
                exploring.meet(before, position, path);
            }
        }
        // Two that are equivalent, played on side by side with moves that are.
        Random random(derived_seed(options_.seed, 8'000'009));
        for (std::size_t i = 0; i < pairs.size() && !late(0.95); ++i) {
            auto [one, two] = pairs[i];
            for (int ply = 0; ply < 60 && !game_.outcome(one.position) && !game_.outcome(two.position); ++ply) {
                const MoveList<Move> moves = legal_moves(game_, one.position),
                                     others = legal_moves(game_, two.position);
                if (moves.empty()) break;
                const Move move = moves[static_cast<std::size_t>(random.below(moves.size()))];
                game_.play(one.position, move);
                one.path.push_back(move);
                const std::uint64_t hash = game_.equivalence_hash(one.position);
                bool found = false;
                for (const Move& answer : others) {
                    Position after = two.position;
                    game_.play(after, answer);
                    if (game_.equivalence_hash(after) != hash) continue;
                    two.position = after;
                    two.path.push_back(answer);
                    found = true;
                    break;
                }
                if (!found || one.position == two.position) break;
                compare_pair(one.position, one.path, two.position, two.path);
            }
        }
    }

    void compare_pair(const Position& one, const Path& path, const Position& two, const Path& other) {
        note(path);
        const auto fault = [&](const std::string& what) {
            findings_.fault_of_two("equivalence", "equivalence_hash",
                                   "two positions share an equivalence hash and " + what, path, other);
        };
        const auto end_one = game_.outcome(one), end_two = game_.outcome(two);
        if (end_one.has_value() != end_two.has_value()) return fault("play is over in one of them alone");
        if (end_one) {
            const Payoff a = end_one->payoff(Player::First), b = end_two->payoff(Player::First);
            if (a != b && a != end_two->payoff(Player::Second)) fault("the payoffs of one are not those of the other");
            return;
        }
        if (chance_is_next(game_, one) != chance_is_next(game_, two))
            return fault("chance is next in one of them alone");
        if (chance_is_next(game_, one)) return;
        const Player mover_one = game_.player_to_move(one), mover_two = game_.player_to_move(two);
        for (int depth = 0; depth <= 3; ++depth) {
            int left = 2'000;
            const double a = value_at(one, mover_one, depth, left), b = value_at(two, mover_two, depth, left);
            if (left < 0) return;
            constexpr double rounding = 1e-6;
            if (std::abs(a - b) <= rounding * std::max(1.0, std::abs(a))) continue;
            return fault(depth == 0 ? "for the players to move the evaluations are " + number_text(a) + " and " +
                                          number_text(b)
                                    : "to depth " + std::to_string(depth) + " the players to move can get " +
                                          number_text(a) + " and " + number_text(b));
        }
    }

    /// Plain minimax, with the mean where chance is next.
    double value_at(const Position& position, Player viewer, int depth, int& left) {
        if (--left < 0) return 0;
        constexpr double end = 1e9;
        if (const auto outcome = game_.outcome(position)) return end * outcome->payoff(viewer);
        if (chance_is_next(game_, position)) {
            MoveList<Event<Move>> events;
            list_events(game_, position, events);
            double mean = 0;
            for (const auto& event : events) {
                Position after = position;
                game_.play(after, event.move);
                mean += event.probability * value_at(after, viewer, depth, left);
            }
            return mean;
        }
        if (depth == 0) {
            if (!offers(game_, Ability::Evaluation)) return 0;
            return static_cast<double>(game_.evaluate(position, viewer).number());
        }
        const bool own = game_.player_to_move(position) == viewer;
        double best = own ? -1e300 : 1e300;
        for (const Move& move : legal_moves(game_, position)) {
            Position after = position;
            game_.play(after, move);
            const double value = value_at(after, viewer, depth - 1, left);
            best = own ? std::max(best, value) : std::min(best, value);
        }
        return best;
    }

    /// The standard search with the game's ordering hint and without it, on the same positions.
    std::string weigh_the_hint() {
        if (!offers(game_, Ability::OrderHint)) return "";
        constexpr int positions = 12, deepest = 8;
        constexpr std::uint64_t enough_nodes = 20'000, least_nodes = 5'000;
        constexpr double costs = 1.1;
        const auto with = made("standard", {}), without = made("standard", Options().set("hint", false));
        if (!with || !without) return "";
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
                left_out += hinted.stats.tries_without_hint > 0 &&
                                    hinted.stats.tries_without_hint < hinted.stats.tries_with_hint
                                ? 1
                                : 0;
                break;
            }
        }
        if (nodes_without < least_nodes) return "";
        const double ratio = static_cast<double>(nodes_with) / static_cast<double>(nodes_without);
        if (ratio < costs && (2 * left_out < asked || ratio < 1.0)) return "";
        char text[240];
        std::snprintf(
            text, sizeof text,
            "the ordering hint does not pay: at %d of %d positions the standard search came to a cutoff sooner "
            "without it and left it out, and visited %.2f times the positions of a search that never "
            "asks for it",
            left_out, asked, ratio);
        return text;
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
    Findings& findings_;
    CheckWatcher* watcher_;
    int players_;
    std::unique_ptr<Chooser<AnyGame>> minimax_, alphabeta_, standard_;
};

}  // namespace arvek::detail
