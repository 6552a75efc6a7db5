#pragma once
// RuleList: choosing by an ordered list of rules. Needs no evaluation and looks two plies ahead at the most, so it is
// the first opponent that a new game can have. For deeper play take search/alpha_beta.hpp.
//
//     arvek::RuleList<MyGame> rules;
//     rules.win_now().stop_rival().prefer("weight", [](const MyGame& game, const auto& position, const auto& move) {
//         return game.weight_of(position, move);
//     });
//     auto decision = rules.decide(game, position, seed);
//
// The first rule that applies decides which moves are to choose from; preferences further down then choose among those,
// and the seed among what is left. When no rule applies, any move. The decision says what every rule that was asked
// answered.

#include <algorithm>
#include <optional>
#include <type_traits>
#include <utility>

#include "arvek/game/decision.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/game/missing.hpp"
#include "arvek/game/random.hpp"
#include "arvek/rules/conditional_rule.hpp"
#include "arvek/rules/rule.hpp"

namespace arvek {

namespace detail {

/// "1 of 7 moves", with the right plural.
std::string some_of_moves(std::size_t some, std::size_t all);

}  // namespace detail

/// For the moves that end the game with the largest gain for the mover, if there are any.
template <Game G>
Rule<G> win_now_rule() {
    return {"win now", [](const Situation<G>& now) {
                RuleAnswer<typename G::Move> answer;
                Payoff most = 0;
                for (const auto& move : now.moves) {
                    typename G::Position after = now.position;
                    now.game.play(after, move);
                    ++answer.positions_seen;
                    const auto outcome = now.game.outcome(after);
                    const Payoff gain = outcome ? outcome->payoff(now.player) : 0;
                    if (gain <= 0 || gain < most) continue;
                    if (gain > most) answer.moves.clear();
                    most = gain;
                    answer.moves.push_back(move);
                }
                answer.why = answer.moves.empty()
                                 ? "no move wins at once"
                                 : move_name_of(now.game, now.position, answer.moves.front()) + " wins at once";
                return answer;
            }};
}

/// For the moves after which no rival can win at once, if there are others after which one can.
template <Game G>
Rule<G> stop_rival_rule() {
    return {"stop the rival", [](const Situation<G>& now) {
                RuleAnswer<typename G::Move> answer;
                std::string threat;
                for (const auto& move : now.moves) {
                    typename G::Position after = now.position;
                    now.game.play(after, move);
                    ++answer.positions_seen;
                    std::string loss;
                    if (const auto outcome = now.game.outcome(after)) {
                        if (outcome->payoff(now.player) < 0) loss = "loses at once";
                    } else if (chance_is_next(now.game, after)) {
                        // What follows is chance's doing.
                    } else if (const Player rival = now.game.player_to_move(after); rival != now.player) {
                        for (const auto& reply : legal_moves(now.game, after)) {
                            typename G::Position end = after;
                            now.game.play(end, reply);
                            ++answer.positions_seen;
                            const auto reply_outcome = now.game.outcome(end);
                            if (reply_outcome && reply_outcome->payoff(rival) > 0) {
                                loss = "lets " + player_name_of(now.game, rival) + " win with " +
                                       move_name_of(now.game, after, reply);
                                break;
                            }
                        }
                    }
                    if (loss.empty()) {
                        answer.moves.push_back(move);
                    } else {
                        answer.notes.push_back({move, loss});
                        if (threat.empty()) threat = move_name_of(now.game, now.position, move) + " " + loss;
                    }
                }
                const std::size_t all = now.moves.size();
                if (answer.moves.size() == all) {
                    answer.moves.clear();
                    answer.why = "after none of the " + std::to_string(all) + " moves can a rival win at once";
                    if (all == 1) answer.why = "after the only move no rival can win at once";
                } else if (answer.moves.empty()) {
                    answer.why = "nothing prevents it: " + threat;
                } else {
                    answer.why = detail::some_of_moves(answer.moves.size(), all) + " prevents it: " + threat;
                }
                return answer;
            }};
}

/// For the moves to which `value(game, position, move)` gives the largest number, if it does not give all the same.
template <Game G, class Value>
Rule<G> prefer_rule(std::string name, Value value) {
    return {std::move(name),
            [value = std::move(value)](const Situation<G>& now) {
                RuleAnswer<typename G::Move> answer;
                using Number = std::decay_t<decltype(value(now.game, now.position, now.moves.front()))>;
                static_assert(std::is_arithmetic_v<Number>, "Arvek: a preference must give a number for each move");
                std::vector<Number> values;
                for (const auto& move : now.moves) values.push_back(value(now.game, now.position, move));
                const Number most = *std::max_element(values.begin(), values.end());
                for (std::size_t i = 0; i < values.size(); ++i)
                    if (values[i] == most) answer.moves.push_back(now.moves[i]);
                if (answer.moves.size() == values.size() && values.size() > 1) {
                    answer.moves.clear();
                    answer.why = "the " + std::to_string(values.size()) + " moves are alike in this";
                } else if (values.size() == 1) {
                    answer.why = "it is the only move left";
                } else {
                    answer.why = move_name_of(now.game, now.position, answer.moves.front()) +
                                 (answer.moves.size() == 1
                                      ? " is liked best"
                                      : " and " + std::to_string(answer.moves.size() - 1) + " more are liked best");
                }
                return answer;
            },
            true};
}

/// One thing to do when no rule applies.
struct Fallback {
    std::string action{};  ///< by name; empty: any move
    double weight = 1.0;   ///< more than 0
};

template <Game G>
class RuleList {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    RuleList& win_now() { return add(win_now_rule<G>()); }
    RuleList& stop_rival() { return add(stop_rival_rule<G>()); }

    /// `value(game, position, move)` gives any number; the largest is preferred.
    template <class Value>
    RuleList& prefer(std::string name, Value value) {
        return add(prefer_rule<G>(std::move(name), std::move(value)));
    }

    RuleList& add(Rule<G> rule) {
        rules_.push_back(std::move(rule));
        return *this;
    }

    const std::vector<Rule<G>>& rules() const { return rules_; }

    /// What is done when no rule applies: one of these that is available, drawn by weight. Without any, a decision in
    /// which no rule applies throws InputError. A list to which none was ever given takes any move.
    RuleList& fallback(std::vector<Fallback> choices) {
        fallback_ = std::move(choices);
        return *this;
    }

    /// A legal move and the account of how it was chosen. `only`: the moves to choose from; none: every legal move.
    /// `fired`: Decision::chosen_by of each earlier decision of the game, for rules that fire once or every so often.
    /// Throws InputError for a finished position, and where neither a rule nor the fallback applies.
    Decision<Move> decide(const G& game, const Position& position, std::uint64_t seed,
                          const std::vector<Move>& only = {}, const std::vector<std::string>* fired = nullptr) const {
        const MoveList<Move> legal = moves_to_choose_from(game, position);
        std::vector<Move> moves = only.empty() ? std::vector<Move>(legal.begin(), legal.end()) : only;
        const std::vector<Move> all = moves;
        const Player player = game.player_to_move(position);

        Decision<Move> decision;
        std::vector<MoveNote<Move>> notes;
        bool decided = false;
        std::vector<Act> acts = acts_of(game, position, moves);
        decision.rules.reserve(rules_.size() + 1);
        for (const Rule<G>& rule : rules_) {
            if (decided && (!rule.settles_ties || moves.size() == 1)) continue;
            RuleAnswer<Move> answer =
                rule.ask({game, position, player, moves, acts_in(game) ? &acts : nullptr, fired, seed});
            decision.stats.nodes += answer.positions_seen;
            const bool applies = !answer.moves.empty();
            if (decided) answer.why.insert(0, "among those, ");
            decision.rules.push_back({rule.name, applies, std::move(answer.why)});
            notes.insert(notes.end(), answer.notes.begin(), answer.notes.end());
            if (!applies) continue;
            for (const Move& move : answer.moves) notes.push_back({move, rule.name});
            moves = std::move(answer.moves);
            if (!decided) decision.chosen_by = rule.name;
            decided = true;
            acts = acts_of(game, position, moves);
        }
        if (!decided && fallback_) {
            fall_back(game, player, seed, acts, moves, decision);
        } else if (moves.size() > 1 || !decided)
            decision.rules.push_back(
                {"any move", true,
                 moves.size() == 1 ? "it is the only move" : "one of " + std::to_string(moves.size()) + " at random"});
        decision.move = moves[static_cast<std::size_t>(Random(seed).below(moves.size()))];
        rank(decision, all, moves, notes);
        decision.stats.stopped_by = StoppedBy::Rule;
        return decision;
    }

   private:
    static std::vector<Act> acts_of(const G& game, const Position& position, const std::vector<Move>& moves) {
        std::vector<Act> acts;
        if constexpr (ActingGame<G>) {
            if (!acts_in(game)) return acts;
            acts.reserve(moves.size());
            for (const Move& move : moves) acts.push_back(game.act(position, move));
        }
        return acts;
    }

    void fall_back(const G& game, Player player, std::uint64_t seed, const std::vector<Act>& acts,
                   std::vector<Move>& moves, Decision<Move>& decision) const {
        std::string who = player_name_of(game, player);
        std::vector<std::size_t> actions;
        ActNames names;
        if constexpr (ActingGame<G>) {
            if (!acts.empty()) {
                names = game.act_names();
                const bool one = std::all_of(acts.begin(), acts.end(),
                                             [&](const Act& act) { return act.actor == acts.front().actor; });
                if (one) who = names.actors[acts.front().actor];
            }
        }
        for (const Fallback& choice : *fallback_)
            actions.push_back(acts.empty() || choice.action.empty()
                                  ? names.actions.size()
                                  : detail::place_of_name("action", choice.action, names.actions));
        const auto fits = [&](std::size_t choice, std::size_t move) {
            if ((*fallback_)[choice].action.empty()) return true;
            return !acts.empty() && acts[move].action == actions[choice];
        };
        std::vector<double> weights;
        double sum = 0;
        for (std::size_t choice = 0; choice < fallback_->size(); ++choice) {
            bool available = false;
            for (std::size_t move = 0; move < moves.size() && !available; ++move) available = fits(choice, move);
            weights.push_back(available ? (*fallback_)[choice].weight : 0.0);
            sum += weights.back();
        }
        if (sum <= 0)
            throw InputError(
                "rules",
                "no rule applies to " + who +
                    (fallback_->empty() ? ", and there is no fallback" : ", and nothing of the fallback is available"),
                "a fallback that is always available, or a rule that always applies");
        std::size_t chosen = weighted_draw(weights, Random(derived_seed(seed, 1)).unit() * sum);
        std::vector<Move> kept;
        for (std::size_t move = 0; move < moves.size(); ++move)
            if (fits(chosen, move)) kept.push_back(moves[move]);
        moves = std::move(kept);
        const std::string& action = (*fallback_)[chosen].action;
        decision.chosen_by = "fallback";
        decision.rules.push_back(
            {"fallback", true, (action.empty() ? std::string("any move") : action) + ", drawn by weight"});
    }

    static void rank(Decision<Move>& decision, const std::vector<Move>& all, const std::vector<Move>& last,
                     const std::vector<MoveNote<Move>>& notes) {
        std::vector<Move> order{decision.move};
        order.reserve(all.size());
        for (const auto* group : {&last, &all})
            for (const Move& move : *group)
                if (std::find(order.begin(), order.end(), move) == order.end()) order.push_back(move);
        decision.ranked.reserve(order.size());
        for (const Move& move : order) {
            RankedMove<Move> entry;
            entry.move = move;
            entry.line = {move};
            for (const auto& note : notes)
                if (note.move == move) entry.reasons.push_back(note.text);
            decision.ranked.push_back(std::move(entry));
        }
    }

    std::vector<Rule<G>> rules_;
    std::optional<std::vector<Fallback>> fallback_;
};

/// For the moves that the game itself prefers.
template <PreferringGame G>
Rule<G> game_preference_rule() {
    return prefer_rule<G>("the game's preference",
                          [](const G& game, const typename G::Position& position, const typename G::Move& move) {
                              return game.preference(position, move);
                          });
}

/// Win now; stop the rival; then what the game itself prefers, if it says so; else any move. For one player the end is
/// no win, and where hands are hidden nobody knows what wins: there what the game prefers is all.
template <Game G>
RuleList<G> usual_rules(const G& game) {
    RuleList<G> rules;
    if (players_of(game) > 1 && !has_views(game)) rules.win_now().stop_rival();
    if constexpr (PreferringGame<G>) {
        if (wants_used<Ability::Preference>(game)) rules.add(game_preference_rule<G>());
    }
    return rules;
}

}  // namespace arvek
