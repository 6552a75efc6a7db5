#pragma once
// The common part of searches, connected with a game: places become moves, and the answer a decision.

#include <cstdint>
#include <utility>
#include <vector>

#include "arvek/game/decision.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/game/payoff_bounds.hpp"
#include "arvek/game/text.hpp"
#include "arvek/search/detail/root.hpp"
#include "arvek/search/evaluator.hpp"
#include "arvek/search/request.hpp"

namespace arvek::detail {

/// The moves that a decision chooses from. Throws InputError where nothing is to decide, and for a move of
/// `request.only` that is not legal.
template <Game G>
std::vector<typename G::Move> first_moves(const G& game, const typename G::Position& position,
                                          const SearchRequest<typename G::Move>& request) {
    const auto legal = moves_to_choose_from(game, position);
    if (request.only.empty()) return {legal.begin(), legal.end()};
    for (const auto& move : request.only)
        if (!legal.contains(move)) throw InputError("moves to choose from", "not all of them are legal");
    return {request.only.begin(), request.only.end()};
}

/// The first moves and the lines that were found after them.
template <class M>
struct MoveStore {
    std::vector<M> moves;
    std::vector<std::vector<M>> lines;

    std::uint32_t keep(std::uint32_t place, const MoveList<M>& rest) {
        std::vector<M> line;
        line.reserve(rest.size() + 1);
        line.push_back(moves[place]);
        line.insert(line.end(), rest.begin(), rest.end());
        lines.push_back(std::move(line));
        return static_cast<std::uint32_t>(lines.size() - 1);
    }

    Decision<M> decision(const RootAnswer& answer) const {
        Decision<M> decision;
        decision.ranked.reserve(answer.ranked.size());
        for (const RankedPlace& entry : answer.ranked) {
            auto& ranked = decision.ranked.emplace_back();
            ranked.move = moves[entry.place];
            ranked.score = entry.score;
            ranked.kind = entry.kind;
            if (entry.line == RankedPlace::no_line)
                ranked.line.push_back(ranked.move);
            else
                ranked.line = lines[entry.line];
        }
        decision.move = decision.ranked.front().move;
        decision.stats = answer.stats;
        decision.has_scores = true;
        return decision;
    }
};

/// `Tree` offers:
///     void prepare(int depth);                                        before each search to a depth
///     FirstMoveScore search_move(position, player, move, window);     one first move
///     const MoveList<Move>& line() const;                             what follows that move
///     bool reached_horizon() const;                                   whether a line was cut off by depth since
template <Game G, class Tree>
class TypedRoot final : public RootTree {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    TypedRoot(const G& game, Tree& tree, const Position& position, const SearchRequest<Move>& request)
        : store{first_moves(game, position, request), {}},
          tree_(tree),
          position_(position),
          player_(game.player_to_move(position)),
          watched_(request.tree),
          progress_(request.progress) {}

    void prepare(int depth) override { tree_.prepare(depth); }
    FirstMoveScore search_move(std::uint32_t place, const RootWindow& window) override {
        last_ = place;
        return tree_.search_move(position_, player_, store.moves[place], window);
    }
    std::uint32_t keep_line() override { return store.keep(last_, tree_.line()); }
    bool reached_horizon() const override { return tree_.reached_horizon(); }
    void begin_watching() override {
        if (watched_ != nullptr) watched_->begin(player_);
    }
    void finish_watching(int depth, int first_moves) override {
        if (watched_ != nullptr) watched_->finish(depth, first_moves);
    }

    void tell(const RootAnswer& so_far) override {
        if (progress_ != nullptr) (*progress_)(store.decision(so_far));
    }

    MoveStore<Move> store;

   private:
    Tree& tree_;
    Position position_;
    Player player_;
    SearchedTree<Move>* watched_;
    const Progress<Move>* progress_;
    std::uint32_t last_ = 0;
};

/// A decision at `position` by a tree search. `question` says what kind of search it is; the rest of it is filled in.
template <Game G, class Tree>
Decision<typename G::Move> decide_by_tree(const G& game, Tree& tree, Budget& budget,
                                          const typename G::Position& position, const Limits& limits,
                                          const SearchRequest<typename G::Move>& request, RootQuestion question,
                                          const Evaluator<G>* evaluator) {
    TypedRoot<G, Tree> root(game, tree, position, request);
    question.moves = static_cast<std::uint32_t>(root.store.moves.size());
    question.evaluation = evaluation_by(evaluator, game, position, game.player_to_move(position));
    question.seed = request.seed;
    question.ranking = request.ranking;
    question.margins = request.margins;
    question.tells = request.progress != nullptr;
    question.most_payoff = most_payoff_of(game);
    return root.store.decision(decide_at_root(root, budget, question, limits));
}

}  // namespace arvek::detail
