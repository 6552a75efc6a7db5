#pragma once
// Between a game's own types and those of AnyGame, a decision at a time.

#include <memory>
#include <span>
#include <utility>
#include <vector>

#include "arvek/game/any_game.hpp"
#include "arvek/game/earlier_positions.hpp"
#include "arvek/opponent/chooser.hpp"

namespace arvek::detail {

template <class Move>
AnyMove erased_move(const Move& move) {
    return AnyMove(move);
}
template <class Move>
Move own_move(const AnyMove& move) {
    return move.get<Move>();
}

/// A chooser of a game's own type, seen as one of AnyGame.
template <Game G>
class ErasedChooser final : public Chooser<AnyGame> {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    explicit ErasedChooser(std::unique_ptr<Chooser<G>> chooser) : chooser_(std::move(chooser)) {}

    Decision<AnyMove> choose(const Choice<AnyGame>& now) override {
        const auto earlier = own_earlier(now);
        std::vector<Move> only;
        for (const AnyMove& move : now.request.only) only.push_back(move.get<Move>());
        SearchRequest<Move> request;
        request.seed = now.request.seed;
        request.game_seed = now.request.game_seed;
        request.ranking = now.request.ranking;
        request.only = only;
        request.margins = now.request.margins;
        const auto told = [&](const Decision<Move>& so_far) {
            (*now.request.progress)(converted_decision<AnyMove>(Decision<Move>(so_far), &erased_move<Move>));
        };
        const Progress<Move> progress(told);
        if (now.request.progress != nullptr) request.progress = &progress;
        const auto ask = [&] {
            return converted_decision<AnyMove>(
                chooser_->choose({now.position.template get<Position>(), earlier, now.limits, request,
                                  now.view == nullptr ? nullptr : &now.view->template get<Seen<G>>()}),
                &erased_move<Move>);
        };
        if (now.request.tree == nullptr) return ask();
        SearchedTree<Move> tree(now.request.tree->plies(), now.request.tree->most_nodes());
        request.tree = &tree;
        auto decision = ask();
        now.request.tree->take_over(tree, &erased_move<Move>);
        return decision;
    }

    void remember(const Choice<AnyGame>& now, const Decision<AnyMove>& decision) override {
        SearchRequest<Move> request;
        request.seed = now.request.seed;
        request.game_seed = now.request.game_seed;
        chooser_->remember({now.position.template get<Position>(), own_earlier(now), now.limits, request, nullptr},
                           converted_decision<Move>(Decision<AnyMove>(decision), &own_move<Move>));
    }

   private:
    std::span<const Position> own_earlier(const Choice<AnyGame>& now) {
        return earlier_.of(
            now.earlier, [](const Position& a, const AnyPosition& b) { return a == b.get<Position>(); },
            [](const AnyPosition& position) { return position.get<Position>(); });
    }

    std::unique_ptr<Chooser<G>> chooser_;
    EarlierPositions<Position> earlier_;
};

template <Game G>
std::unique_ptr<Chooser<AnyGame>> erased_chooser(std::unique_ptr<Chooser<G>> chooser) {
    if constexpr (std::is_same_v<G, AnyGame>)
        return chooser;
    else
        return std::make_unique<ErasedChooser<G>>(std::move(chooser));
}

}  // namespace arvek::detail
