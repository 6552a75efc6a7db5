#pragma once
// SuggestionList: choosing by what stands out. Small functions propose moves with an urgency and a reason; a
// temperament weighs the reasons; the most urgent move is played.
//
//     arvek::SuggestionList<MyGame> list;
//     list.add("take", [](const MyGame& game, const auto& position, auto& proposals) { ... });
//     list.temperament({{{"hunger", 0.8, {{"take", 3.0}}}}, {}});
//     auto decision = list.decide(game, position, seed);
//
// A move that several suggest is worth the sum. Moves that nobody suggests are worth nothing; where nobody suggests
// any, the seed chooses among all.

#include <algorithm>
#include <functional>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/decision.hpp"
#include "arvek/game/missing.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/suggesters.hpp"
#include "arvek/rules/act_filter.hpp"
#include "arvek/rules/condition.hpp"
#include "arvek/rules/detail/worth_ranking.hpp"
#include "arvek/rules/rule.hpp"
#include "arvek/rules/temperament.hpp"

namespace arvek {

/// When a suggestion is listened to, and how much.
template <Game G>
struct SuggestionUse {
    ActFilter acts{};     ///< of the moves that it may propose
    Condition<G> when{};  ///< when it may propose them
    double weight = 1.0;  ///< 0 or more
};

/// Chooses by what stands out.
template <Game G>
class SuggestionList {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;
    using Suggest = std::function<void(const G&, const Position&, Proposals<Move>&)>;  ///< proposes moves

    /// `suggest(game, position, proposals)` adds what it proposes, for the player to move.
    SuggestionList& add(std::string reason, Suggest suggest) {
        entries_.push_back({std::move(reason), std::move(suggest), 1.0, {}});
        weigh();
        return *this;
    }
    /// With uses: of those, the first that fits a proposed move says how much it counts; where none fits, it does not.
    /// Throws InputError for names that the game does not have.
    SuggestionList& add(const G& game, std::string reason, Suggest suggest, const std::vector<SuggestionUse<G>>& uses) {
        ActNames names;
        if constexpr (ActingGame<G>)
            if (acts_in(game)) names = game.act_names();
        add(std::move(reason), std::move(suggest));
        for (const SuggestionUse<G>& use : uses) {
            entries_.back().uses.push_back({BoundActFilter(use.acts, names), use.when, use.weight});
            asks_deeds_ = asks_deeds_ || use.when.asks_deeds();
        }
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

    /// Whether anything asks what was done earlier.
    bool asks_deeds() const { return asks_deeds_; }

    /// A legal move, and all legal moves ranked by worth, with every suggestion and every factor. `only`: the moves to
    /// choose from; none: every legal move. `memory`: of the game so far, for conditions. `game_seed`: deals characters.
    /// Throws InputError for a finished position, where chance is next, and when something proposed is not legal.
    Decision<Move> decide(const G& game, const Position& position, std::uint64_t seed, std::span<const Move> only = {},
                          const GameMemory* memory = nullptr, std::uint64_t game_seed = 0) const {
        detail::WorthRanking<G> ranking(game, position, only);
        const bool has_acts = acts_in(game);
        const bool by_actor = has_acts && temperament_.tells_actors_apart();
        ActNames names;
        if constexpr (ActingGame<G>)
            if (by_actor) names = game.act_names();
        Proposals<Move> proposals;
        for (const Entry& entry : entries_) {
            proposals.clear();
            entry.suggest(game, position, proposals);
            for (const Proposal<Move>& proposal : proposals.all()) {
                RankedMove<Move>* ranked = ranking.find(proposal.move, entry.reason);
                if (ranked == nullptr) continue;
                Act act;
                if constexpr (ActingGame<G>)
                    if (has_acts && (by_actor || !entry.uses.empty())) act = game.act(position, proposal.move);
                const double weight = weight_of(entry, game, position, proposal.move, act, memory);
                if (weight <= 0) continue;
                Individual who;
                if (by_actor) {
                    who = {names.actors[act.actor], index_of(game.player_to_move(position)), game_seed};
                    if (act.individual != Act::no_individual) who.number = who.number << 32u | act.individual;
                }
                const double factor = by_actor ? temperament_.factor(entry.reason, who) : entry.factor;
                ranking.add(
                    *ranked, entry.reason, proposal.urgency * weight * factor,
                    detail::weighed_text(proposal.note, proposal.urgency, temperament_, entry.reason, who, weight));
            }
        }
        return ranking.decision(seed, "nothing stands out");
    }

   private:
    struct Use {
        BoundActFilter acts;
        Condition<G> when;
        double weight;
    };
    struct Entry {
        std::string reason;
        Suggest suggest;
        double factor;
        std::vector<Use> uses;
    };

    void weigh() {
        for (Entry& entry : entries_) entry.factor = temperament_.factor(entry.reason);
    }

    static double weight_of(const Entry& entry, const G& game, const Position& position, const Move& move,
                            const Act& act, const GameMemory* memory) {
        if (entry.uses.empty()) return 1.0;
        for (const Use& use : entry.uses)
            if (use.acts.fits(act) && use.when.holds(game, position, move, memory)) return use.weight;
        return 0.0;
    }

    std::vector<Entry> entries_;
    Temperament temperament_;
    bool asks_deeds_ = false;
};

/// The rule that plays what is suggested: for the moves worth the most, if they are worth more than `least`.
template <Game G>
Rule<G> suggestions_rule(SuggestionList<G> list, double least = 0.0) {
    Rule<G> rule;
    rule.name = "suggestions";
    rule.asks_deeds = list.asks_deeds();
    rule.ask = [list = std::move(list), least](const Situation<G>& now) {
        RuleAnswer<typename G::Move> answer;
        const auto decision = list.decide(now.game, now.position, now.seed, now.moves, now.memory, now.game_seed);
        const double most = decision.ranked.front().worth;
        if (!(most > least)) {
            answer.why = most > 0
                             ? "the most urgent is worth " + number_text(most) + ", not above " + number_text(least)
                             : "nothing is suggested";
            return answer;
        }
        for (const auto& entry : decision.ranked) {
            if (entry.worth == most) answer.moves.push_back(entry.move);
            for (const std::string& reason : entry.reasons) answer.notes.push_back({entry.move, reason});
        }
        answer.why = decision.ranked.front().reasons.front();
        return answer;
    };
    return rule;
}

}  // namespace arvek
