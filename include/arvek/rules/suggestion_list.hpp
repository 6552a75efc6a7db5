#pragma once
// SuggestionList: choosing by what is noteworthy. Small functions propose moves with an urgency and a reason; a
// temperament weighs the reasons; the most urgent move is played.
//
//     arvek::SuggestionList<MyGame> list;
//     list.add("take", [](const MyGame& game, const auto& position, auto& proposals) { ... });
//     list.temperament({{{"daring", 0.8, {{"take", 3.0}}}}, {}});
//     auto decision = list.decide(game, position, seed);
//
// A move that several suggest is worth the sum. Moves that nobody suggests are worth nothing; where nobody suggests
// any, the seed chooses among all.

#include <algorithm>
#include <functional>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/decision.hpp"
#include "arvek/game/missing.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/suggesters.hpp"
#include "arvek/rules/detail/worth_ranking.hpp"
#include "arvek/rules/temperament.hpp"

namespace arvek {

template <Game G>
class SuggestionList {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;
    using Suggest = std::function<void(const G&, const Position&, Proposals<Move>&)>;

    /// `suggest(game, position, proposals)` adds what it proposes, for the player to move.
    SuggestionList& add(std::string reason, Suggest suggest) {
        entries_.push_back({std::move(reason), std::move(suggest), 1.0});
        weigh();
        return *this;
    }

    /// Every suggester of the game.
    SuggestionList& add_all_of(const G& game) requires SuggestingGame<G> {
        for (const Suggester<G>& suggester : std::span<const Suggester<G>>(game.suggesters()))
            add(suggester.reason, suggester.suggest);
        return *this;
    }

    /// Throws InputError for a value out of range.
    SuggestionList& temperament(Temperament temperament) {
        check_temperament(temperament);
        temperament_ = std::move(temperament);
        weigh();
        return *this;
    }

    /// A legal move, and all legal moves ranked by worth, with every suggestion and every factor. Throws InputError for
    /// a finished position, where chance is next, and when something proposed is not legal.
    Decision<Move> decide(const G& game, const Position& position, std::uint64_t seed) const {
        detail::WorthRanking<G> ranking(game, position);
        Proposals<Move> proposals;
        for (const Entry& entry : entries_) {
            proposals.clear();
            entry.suggest(game, position, proposals);
            for (const Proposal<Move>& proposal : proposals.all()) {
                RankedMove<Move>& ranked = ranking.of(proposal.move, entry.reason);
                ranking.add(ranked, entry.reason, proposal.urgency * entry.factor,
                            detail::weighed_text(proposal.note, proposal.urgency, temperament_, entry.reason));
            }
        }
        return ranking.decision(seed, "nothing noteworthy");
    }

   private:
    struct Entry {
        std::string reason;
        Suggest suggest;
        double factor;
    };

    void weigh() {
        for (Entry& entry : entries_) entry.factor = temperament_.factor(entry.reason);
    }

    std::vector<Entry> entries_;
    Temperament temperament_;
};

}  // namespace arvek
