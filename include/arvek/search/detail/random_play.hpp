#pragma once
// What one thread plays out games with: its random numbers, and the nodes that it may look at.

#include <algorithm>
#include <array>
#include <cstdint>

#include "arvek/game/chance.hpp"
#include "arvek/game/evaluation.hpp"
#include "arvek/game/players.hpp"
#include "arvek/game/playing_out.hpp"
#include "arvek/search/detail/budget.hpp"
#include "arvek/search/detail/sampling.hpp"
#include "arvek/search/evaluator.hpp"

namespace arvek::detail {

/// What everybody's evaluation is worth.
template <Game G>
SampledValues evaluations(const G& game, const Evaluator<G>* evaluator, const ValueAxis& axis,
                          const typename G::Position& position) {
    std::array<Score, max_players> scores{};
    const auto players = static_cast<std::size_t>(players_of(game));
    const std::size_t asked = players == 2 ? 1 : players;
    for (std::size_t i = 0; i < asked; ++i)
        scores[i] = evaluation_by(evaluator, game, position, static_cast<Player>(i));
    return axis.values_of(scores);
}

/// Has the loop of a playout as a function of its own.
template <class G>
concept PlaysOutAtOnce = requires(const G& game, typename G::Position& position, Random& random, Outcome& end,
                                  bool& is_over) {
    { game.play_out_plies(position, random, 1, end, is_over) } -> std::same_as<int>;
};

template <Game G>
struct RandomPlay {
    using Position = typename G::Position;
    using Move = typename G::Move;

    explicit RandomPlay(std::uint64_t seed, const Limits& limits = {}) : random(seed), budget(limits) {}

    Random random;
    Budget budget;
    MoveList<Move> moves;

    std::size_t pick(std::size_t n) { return static_cast<std::size_t>((random.next() >> 32) * n >> 32); }
    bool spend() { return budget.spend_node(); }

    /// A random move, or what chance does.
    void play_on(const G& game, Position& position) { play_at_random(game, position, random, moves); }

    /// To the end of the game, from a position that is none; where play has no end, to an evaluation. False where the
    /// limits ended it.
    bool play_out(const G& game, const Evaluator<G>* evaluator, const ValueAxis& axis, Position& position,
                  SampledValues& values) {
        if constexpr (PlayOutGame<G>) {
            if (wants_used<Ability::PlayOut>(game)) {
                if (!spend()) return false;
                values = axis.values_of(game.play_out(position, random));
                return true;
            }
        }
        [[maybe_unused]] Outcome ended = Outcome::draw();
        [[maybe_unused]] bool is_over = false;
        for (int ply = 0; ply < SamplingRules::longest_playout; ++ply) {
            if constexpr (PlaysOutAtOnce<G>) {
                // As many plies in one call as may be spent without a look at the limits.
                const auto most = std::min<std::int64_t>(SamplingRules::longest_playout - ply, budget.left());
                if (most > 0) {
                    const int plies = game.play_out_plies(position, random, static_cast<int>(most), ended, is_over);
                    budget.spend_nodes(plies);
                    if (is_over) {
                        values = axis.values_of(ended);
                        return true;
                    }
                    ply += plies;
                    if (ply >= SamplingRules::longest_playout) break;
                }
            }
            if (!spend()) return false;
            play_on(game, position);
            if (const auto outcome = game.outcome(position)) {
                values = axis.values_of(*outcome);
                return true;
            }
        }
        values = evaluations(game, evaluator, axis, position);
        return true;
    }
};

}  // namespace arvek::detail
