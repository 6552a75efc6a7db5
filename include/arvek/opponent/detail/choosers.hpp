#pragma once
// What opponents at a level choose by, besides searches; and the opening book.

#include <algorithm>
#include <memory>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include "arvek/opponent/base.hpp"
#include "arvek/opponent/detail/levelled.hpp"
#include "arvek/rules/feature_list.hpp"
#include "arvek/rules/rule_list.hpp"
#include "arvek/rules/suggestion_list.hpp"
#include "arvek/search/limits.hpp"
#include "arvek/search/request.hpp"

namespace arvek::detail {

/// Ordered rules, with what was chosen earlier in the same game, for rules that fire once or every so often. Only
/// decisions whose positions are among those passed in as earlier count, so a move taken back or a new game is as if
/// nothing had been.
template <Game G>
class RulesChooser final : public Chooser<G> {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    RulesChooser(const G& game, RuleList<G> rules) : game_(game), rules_(std::move(rules)) {}

    Decision<Move> choose(const Position& position, const Limits&, const SearchRequest<Move>& request,
                          std::span<const Position> earlier) override {
        std::vector<std::string> fired;
        const Player player = game_.player_to_move(position);
        for (const Past& past : past_)
            if (past.player == player && is_in(past, earlier)) fired.push_back(past.chosen_by);
        return rules_.decide(game_, position, request.seed, {request.only.begin(), request.only.end()}, &fired);
    }

    void remember(const Position& position, std::span<const Position> earlier,
                  const Decision<Move>& decision) override {
        std::erase_if(past_, [&](const Past& past) { return !is_in(past, earlier); });
        past_.push_back({earlier.size(), position, game_.player_to_move(position), decision.chosen_by});
    }

   private:
    struct Past {
        std::size_t ply;
        Position position;
        Player player;
        std::string chosen_by;
    };

    static bool is_in(const Past& past, std::span<const Position> earlier) {
        return past.ply < earlier.size() && earlier[past.ply] == past.position;
    }

    G game_;
    RuleList<G> rules_;
    std::vector<Past> past_;
};

/// Suggestions or features.
template <Game G, class List>
class WorthChooser final : public Chooser<G> {
   public:
    WorthChooser(const G& game, List list) : game_(game), list_(std::move(list)) {}

    Decision<typename G::Move> choose(const typename G::Position& position, const Limits&,
                                      const SearchRequest<typename G::Move>& request,
                                      std::span<const typename G::Position>) override {
        return list_.decide(game_, position, request.seed);
    }

   private:
    G game_;
    List list_;
};

/// A search.
template <Game G, class Search>
class SearchChooser final : public Chooser<G> {
   public:
    explicit SearchChooser(Search search) : search_(std::move(search)) {}

    Decision<typename G::Move> choose(const typename G::Position& position, const Limits& limits,
                                      const SearchRequest<typename G::Move>& request,
                                      std::span<const typename G::Position> earlier) override {
        if constexpr (requires { search_.decide(position, limits, request, earlier); }) {
            SearchRequest<typename G::Move> best = request;
            if (request.ranking != Ranking::All) best.ranking = Ranking::Best;
            return search_.decide(position, limits, best, earlier);
        } else {
            return search_.decide(position, limits, request);
        }
    }

   private:
    Search search_;
};

/// A position and what is played there.
template <Game G>
struct BookLine {
    typename G::Position position;
    std::vector<std::pair<typename G::Move, double>> replies;
};

/// Plays from its book where that has the position, and else asks another opponent.
template <Game G>
class BookOpponent final : public Opponent<G> {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    BookOpponent(std::vector<BookLine<G>> book, std::unique_ptr<Opponent<G>> other)
        : book_(std::move(book)), other_(std::move(other)) {}

    Decision<Move> decide(const Position& position, std::uint64_t seed, std::span<const Position> earlier) override {
        const auto line =
            std::find_if(book_.begin(), book_.end(), [&](const auto& known) { return known.position == position; });
        if (line == book_.end()) {
            other_->watch(this->watched_);
            return other_->decide(position, seed, earlier);
        }
        Decision<Move> decision;
        std::vector<double> weights;
        double sum = 0;
        for (const auto& [move, weight] : line->replies) {
            weights.push_back(weight);
            sum += weight;
            decision.ranked.push_back(
                {move, {}, ScoreKind::Estimate, {move}, {"in the book, weight " + number_text(weight)}});
        }
        const double drawn = Random(derived_seed(derived_seed(seed, 3), earlier.size())).unit() * sum;
        std::swap(decision.ranked.front(), decision.ranked[weighted_draw(weights, drawn)]);
        decision.move = decision.ranked.front().move;
        decision.chosen_by = "opening book";
        decision.rules.push_back({decision.chosen_by, true, "the position is in it; drawn by weight"});
        decision.stats.stopped_by = StoppedBy::Rule;
        return decision;
    }

   private:
    std::vector<BookLine<G>> book_;
    std::unique_ptr<Opponent<G>> other_;
};

}  // namespace arvek::detail
