#pragma once
// Nested playouts: for long puzzles of one player without chance, where a tree does not reach far enough to tell moves
// apart, and one good line is all that is asked for.
//
//     arvek::NestedPlayouts<MyPuzzle> search(puzzle);
//     auto decision = search.decide(position, {.playouts = 5'000});
//     for (const auto& move : decision.ranked[0].line) ...   // the best line that was found, to the end of the game
//
// A playout of level 0 is random. One of level n tries each move of every position on its way with a playout of level
// n - 1 and goes on along the best line that it has met so far. The search makes one of level 1, then one of level 2, and
// so on, until the limits end it. A score is what a line that was found really pays, so it is a lower bound, and exact
// where nothing can be better. `keep_line`: what is left of the best line is where the next decision begins, so that a
// good end is not lost again; a decision then depends on the one before it. Limits: playouts, nodes, time, stop; there
// must be one. The same limits (other than time) and seed give the same decision. Source: Cazenave (2009), "Nested
// Monte-Carlo Search". One object serves one thread at a time.

#include <algorithm>
#include <cstdint>
#include <optional>
#include <span>
#include <utility>
#include <vector>

#include "arvek/game/chance.hpp"
#include "arvek/game/missing.hpp"
#include "arvek/game/payoff_bounds.hpp"
#include "arvek/game/players.hpp"
#include "arvek/search/detail/budget.hpp"
#include "arvek/search/detail/first_moves.hpp"
#include "arvek/search/detail/sampling.hpp"
#include "arvek/search/detail/way_down.hpp"
#include "arvek/search/request.hpp"

namespace arvek {

/// How playouts are nested.
struct NestedPlayoutsOptions {
    int levels = 4;         ///< at the most, 1 to most_nested_levels; the last is made again and again
    bool keep_line = true;  ///< whether a decision begins with what is left of the line that the last one found
};

/// The most levels of nesting.
inline constexpr int most_nested_levels = 8;

/// Throws InputError for an option out of range.
void check_options(const NestedPlayoutsOptions& options);

namespace detail {
/// Throws InputError unless there is a limit of playouts, nodes or time, or a stop token, and none of depth.
void require_end_of_playouts(const Limits& limits);
[[noreturn]] void throw_not_nested(const char* why, const char* expected);

/// What is known of one first move of a puzzle.
struct BestLine {
    std::uint64_t playouts = 0;
    Payoff payoff = 0;
    std::size_t plies = 0;
    bool found = false;     ///< any line to an end
    bool is_whole = false;  ///< nothing is better
};
/// The moves in the order in which they are chosen, equals by the seed; scores in `per_point` a point.
std::vector<SampledRank> rank_lines(const std::vector<BestLine>& moves, std::uint64_t seed, double& per_point);
}  // namespace detail

/// Nested playouts.
template <Game G>
class NestedPlayouts {
    static_assert(game_is_complete<G>());
    static_assert(detail::holds(CountedPlayersGame<G> || AnswersAtRunTime<G>),
                  "Arvek: nested playouts are for one player, so the game must say  static constexpr int players() "
                  "{ return 1; }");

   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    /// Throws InputError for an option out of range, and for a game of more players or with chance.
    explicit NestedPlayouts(const G& game, const NestedPlayoutsOptions& options = {})
        : game_(game), options_((check_options(options), options)) {
        if (players_of(game) != 1) detail::throw_not_nested("the game has more than one player", "a puzzle for one");
        if (has_chance(game))
            detail::throw_not_nested("chance decides in the game, so no line is sure",
                                     "a puzzle without chance; or montecarlo");
    }

    /// The first move of the best line that was found within the limits. Throws InputError for limits out of range, none
    /// at all, a depth, and a finished position.
    Decision<Move> decide(const Position& position, const Limits& limits, const SearchRequest<Move>& request = {},
                          std::span<const Position> earlier = {});

   private:
    struct Line {
        std::vector<Move> moves;
        Payoff payoff = 0;
        bool found = false;
    };

    bool may_play_out() {
        if (is_over_) return false;
        if (playouts_left_ == 0) return over(StoppedBy::Playouts);
        --playouts_left_;
        ++playouts_;
        if (progress_ != nullptr && playouts_ > told_) {
            (*progress_)(decision());
            told_ = playouts_ + playouts_ / 4;
        }
        return true;
    }
    bool over(StoppedBy why) {
        if (!is_over_) reason_ = why;
        is_over_ = true;
        return false;
    }
    bool step(Position& position, const Move& move) {
        if (!budget_.spend_node()) return over(budget_.reason());
        way_->enter(position);
        game_.play(position, move);
        return true;
    }
    /// The game's end, or the draw that a position which comes back is.
    std::optional<Outcome> end_at(const Position& position) const {
        if (const auto outcome = game_.outcome(position)) return outcome;
        if (way_->comes_back(position)) return Outcome::draw();
        return std::nullopt;
    }
    /// Back to the position that so many moves lead to.
    void go_back(std::vector<Move>& played, std::size_t moves) {
        played.resize(moves);
        if (way_->counts()) way_->shorten(moves);
    }
    Payoff payoff_of(const Outcome& outcome) const {
        const Payoff payoff = outcome.payoff(Player::First);
        return margins_ ? payoff : payoff > 0 ? 1 : payoff < 0 ? -1 : 0;
    }

    /// The best line from the position, which `played` leads to. What was found counts even where the limits end it.
    Line nested(Position position, int level, std::vector<Move>& played) {
        Line best;
        std::size_t at = 0;  // on the best line
        const std::size_t before = played.size();
        MoveList<Move> moves;
        while (!is_over_) {
            if (const auto outcome = end_at(position)) {
                // One that was led to at once is a playout of no moves.
                if (at == 0 && !may_play_out()) break;
                note(played, *outcome);
                if (!best.found) best = {{}, payoff_of(*outcome), true};
                break;
            }
            moves.clear();
            if (played.empty())
                for (const Move& move : first_) moves.push_back(move);
            else
                game_.generate_moves(position, moves);
            if (moves.empty()) throw_no_move();
            random_.shuffle(moves);
            for (const Move& move : moves) {
                Position next = position;
                if (!step(next, move)) break;
                played.push_back(move);
                Line line = level > 1 ? nested(next, level - 1, played) : random_line(next, played);
                go_back(played, played.size() - 1);
                if (!line.found || (best.found && line.payoff <= best.payoff)) continue;
                best.moves.assign(played.begin() + static_cast<std::ptrdiff_t>(before), played.end());
                best.moves.push_back(move);
                best.moves.insert(best.moves.end(), line.moves.begin(), line.moves.end());
                best.payoff = line.payoff;
                best.found = true;
            }
            if (!best.found || at >= best.moves.size()) break;
            const Move move = best.moves[at++];
            if (!step(position, move)) break;
            played.push_back(move);
        }
        go_back(played, before);
        return best;
    }

    Line random_line(Position position, std::vector<Move>& played) {
        Line line;
        if (!may_play_out()) return line;
        const std::size_t before = played.size();
        MoveList<Move> moves;
        for (int ply = 0; ply < detail::SamplingRules::longest_playout; ++ply) {
            if (const auto outcome = end_at(position)) {
                note(played, *outcome);
                line = {
                    {played.begin() + static_cast<std::ptrdiff_t>(before), played.end()}, payoff_of(*outcome), true};
                break;
            }
            moves.clear();
            game_.generate_moves(position, moves);
            if (moves.empty()) throw_no_move();
            const Move move = moves[static_cast<std::size_t>(random_.below(moves.size()))];
            if (!step(position, move)) break;
            played.push_back(move);
        }
        go_back(played, before);
        return line;
    }

    /// A line from the first position to an end.
    void note(const std::vector<Move>& line, const Outcome& outcome) {
        ++leaves_;
        longest_ = std::max(longest_, static_cast<int>(line.size()));
        if (line.empty()) return;
        const auto place = static_cast<std::size_t>(std::find(first_.begin(), first_.end(), line[0]) - first_.begin());
        if (place == first_.size()) return;
        detail::BestLine& known = known_[place];
        const Payoff payoff = payoff_of(outcome);
        ++known.playouts;
        if (known.found && payoff <= known.payoff) return;
        known.found = true;
        known.payoff = payoff;
        known.plies = line.size();
        known.is_whole = payoff >= most_;
        lines_[place] = line;
        if (known.is_whole) over(StoppedBy::End);
    }

    /// What is left of the line that the last decision found.
    void take_up_line(const Position& position) {
        if (!options_.keep_line || kept_.empty() || !(position == kept_from_)) return;
        Position at = position;
        bool fits = true;
        for (const Move& move : kept_) {
            fits = !end_at(at) && legal_moves(game_, at).contains(move);
            if (!fits) break;
            way_->enter(at);
            game_.play(at, move);
        }
        if (const auto outcome = end_at(at); fits && outcome) note(kept_, *outcome);
        way_->shorten(0);
    }

    Decision<Move> decision() const {
        Decision<Move> decision;
        for (const detail::SampledRank& rank : detail::rank_lines(known_, seed_, decision.scores_per_point)) {
            auto& entry = decision.ranked.emplace_back();
            entry.move = first_[rank.place];
            entry.score = rank.score;
            entry.kind = rank.kind;
            entry.line = lines_[rank.place].empty() ? std::vector<Move>{entry.move} : lines_[rank.place];
            entry.visits = known_[rank.place].playouts;
            entry.mean = rank.mean;
            entry.low = rank.low;
            entry.high = rank.high;
        }
        decision.move = decision.ranked.front().move;
        decision.has_scores = true;
        decision.searched_by = "nested";
        decision.stats.depth = longest_;
        static_cast<Counters&>(decision.stats) = budget_.counters();
        decision.stats.leaves = leaves_;
        decision.stats.playouts = playouts_;
        decision.stats.stopped_by = reason_;
        decision.stats.seconds = budget_.seconds();
        return decision;
    }

    G game_;
    NestedPlayoutsOptions options_;
    // Of the decision.
    detail::Budget budget_;
    std::optional<detail::WayDown<G>> way_;
    Random random_{1};
    std::vector<Move> first_;
    std::vector<detail::BestLine> known_;
    std::vector<std::vector<Move>> lines_;
    std::uint64_t playouts_left_ = 0, playouts_ = 0, leaves_ = 0;
    Payoff most_ = 0;
    bool margins_ = true, is_over_ = false;
    StoppedBy reason_ = StoppedBy::Playouts;
    std::uint64_t seed_ = 0;
    const Progress<Move>* progress_ = nullptr;
    std::uint64_t told_ = 0;  ///< after so many playouts it was told how it stands, or is to be told first
    int longest_ = 0;         ///< plies of a line that was followed to its end
    // From one to the next.
    std::vector<Move> kept_;
    Position kept_from_{};
};

// Not inline, so that `extern template` keeps it from being made once more.
template <Game G>
auto NestedPlayouts<G>::decide(const Position& position, const Limits& limits, const SearchRequest<Move>& request,
                               std::span<const Position> earlier) -> Decision<Move> {
    check_limits(limits);
    detail::require_end_of_playouts(limits);
    way_.emplace(game_, earlier);
    first_ = detail::first_moves(game_, position, request);
    budget_ = detail::Budget(limits);
    playouts_left_ = limits.playouts.value_or(UINT64_MAX);
    random_ = Random(request.seed);
    margins_ = request.margins;
    most_ = margins_ ? most_payoff_of(game_) : 1;
    known_.assign(first_.size(), {});
    lines_.assign(first_.size(), {});
    longest_ = 0;
    playouts_ = leaves_ = 0;
    seed_ = request.seed;
    progress_ = request.progress;
    told_ = 128;
    is_over_ = false;
    reason_ = StoppedBy::Playouts;
    (void)budget_.spend_node();  // the first position
    take_up_line(position);
    for (int level = 1; !is_over_; level = std::min(level + 1, options_.levels)) {
        std::vector<Move> played;
        (void)nested(position, level, played);
    }
    auto decided = decision();
    const auto& line = decided.ranked.front().line;
    kept_.assign(line.begin() + 1, line.end());
    kept_from_ = position;
    game_.play(kept_from_, decided.move);
    return decided;
}

template <class G>
NestedPlayouts(const G&) -> NestedPlayouts<G>;
template <class G>
NestedPlayouts(const G&, const NestedPlayoutsOptions&) -> NestedPlayouts<G>;

}  // namespace arvek
