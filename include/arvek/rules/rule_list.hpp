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
#include <string>
#include <type_traits>
#include <utility>

#include "arvek/game/decision.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/game/missing.hpp"
#include "arvek/game/places_in_order.hpp"
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

/// For the moves after which no rival can win at once, if there are others after which one can. Where moves and answers to
/// them are more than five million it does not apply, and says so.
template <Game G>
Rule<G> stop_rival_rule() {
    return {"stop the rival", [](const Situation<G>& now) {
                constexpr std::uint64_t most_positions = 5'000'000;
                RuleAnswer<typename G::Move> answer;
                std::string threat;
                for (const auto& move : now.moves) {
                    if (answer.positions_seen > most_positions) {
                        answer.moves.clear();
                        answer.notes.clear();
                        answer.why = "there are too many moves and answers to look at them all";
                        return answer;
                    }
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
                    constexpr std::size_t most_named = 4;
                    const std::size_t alike = answer.moves.size();
                    std::string names;
                    for (std::size_t i = 0; i < alike && i < most_named; ++i)
                        names += (i == 0 ? "" : ", ") + move_name_of(now.game, now.position, answer.moves[i]);
                    answer.why = alike == 1 ? names + " is liked best"
                                 : alike <= most_named
                                     ? names + " are liked best, and alike"
                                     : std::to_string(alike) + " moves are liked best, and alike, such as " + names;
                }
                return answer;
            },
            true};
}

/// One thing to do when no rule applies.
template <Game G>
struct Fallback {
    std::string action;   ///< by name; empty: any move that the rest lets through
    double weight = 1.0;  ///< more than 0
    ActFilter acts;       ///< which acts it lets through
    Condition<G> when;    ///< when it may be

    Fallback() = default;
    /// An action by name, with its weight.
    Fallback(std::string action_name, double its_weight) : action(std::move(action_name)), weight(its_weight) {}
};

/// What changes states by itself, at the start of a decision, before any rule is asked.
template <Game G>
struct StandingChange {
    std::string name;                    ///< what explanations call it
    Condition<G> when{};                 ///< it is enough that one move meets it
    std::vector<StateChange> changes{};  ///< what it does to them
};

/// Chooses by an ordered list of rules.
template <Game G>
class RuleList {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    /// Takes a move that wins at once.
    RuleList& win_now() { return add(win_now_rule<G>()); }
    /// Takes from the rival a move that would win at once.
    RuleList& stop_rival() { return add(stop_rival_rule<G>()); }

    /// `value(game, position, move)` gives any number; the largest is preferred.
    template <class Value>
    RuleList& prefer(std::string name, Value value) {
        return add(prefer_rule<G>(std::move(name), std::move(value)));
    }

    /// Adds a rule at the end.
    RuleList& add(Rule<G> rule) {
        asks_deeds_ = asks_deeds_ || rule.asks_deeds;
        rules_.push_back(std::move(rule));
        return *this;
    }

    const std::vector<Rule<G>>& rules() const { return rules_; }  ///< in the order in which they are asked

    /// What is done when no rule applies: one of these that is available, drawn by weight. Without any, a decision in
    /// which no rule applies throws InputError. A list to which none was ever given takes any move.
    RuleList& fallback(std::vector<Fallback<G>> choices) {
        for (const Fallback<G>& choice : choices) asks_deeds_ = asks_deeds_ || choice.when.asks_deeds();
        fallback_ = std::move(choices);
        return *this;
    }

    /// The numbers that rules may set and ask.
    RuleList& state(std::vector<StateInfo> infos) {
        states_ = std::move(infos);
        return *this;
    }
    const std::vector<StateInfo>& states() const { return states_; }  ///< that rules may set and ask

    /// Whether decisions say why. Without, they name the rules and which of them fired, and take about half the time.
    RuleList& explain(bool explains) {
        explains_ = explains;
        return *this;
    }

    /// Adds a change that is looked at before each decision.
    RuleList& change(StandingChange<G> change) {
        asks_deeds_ = asks_deeds_ || change.when.asks_deeds();
        changes_.push_back(std::move(change));
        return *this;
    }

    /// Of the start of a game.
    GameMemory new_memory() const {
        GameMemory memory;
        for (const StateInfo& info : states_) memory.state.push_back(info.first);
        return memory;
    }
    /// Whether anything asks what was done earlier, so that memories need saw().
    bool asks_deeds() const { return asks_deeds_; }
    /// Anybody's move.
    static void saw(GameMemory& memory, Player player, const Act& act) { memory.deeds.push_back({player, act}); }
    /// That the move of a decision was played: what chose it, and the states that it changes.
    void remember(GameMemory& memory, const Decision<Move>& decision) const {
        const auto rule = std::find_if(rules_.begin(), rules_.end(),
                                       [&](const Rule<G>& each) { return each.name == decision.chosen_by; });
        if (rule != rules_.end()) make_changes(memory, rule->changes);
        memory.fired.push_back(decision.chosen_by);
    }

    /// A legal move and the account of how it was chosen. `only`: the moves to choose from; none: every legal move.
    /// `memory`: of the game so far; what changes at the start of the decision is changed in it, and remember() does
    /// the rest. Throws InputError for a finished position, and where neither a rule nor the fallback applies.
    Decision<Move> decide(const G& game, const Position& position, std::uint64_t seed,
                          const std::vector<Move>& only = {}, GameMemory* memory = nullptr,
                          std::uint64_t game_seed = 0) const {
        const MoveList<Move> legal = moves_to_choose_from(game, position);
        std::vector<Move> moves = only.empty() ? std::vector<Move>(legal.begin(), legal.end()) : only;
        const std::vector<Move> all = moves;
        Work work{game, position, game.player_to_move(position), seed, game_seed, memory, {}, {}, {}};
        work.acts = acts_of(game, position, moves);
        work.decision.rules.reserve(changes_.size() + rules_.size() + 1);
        take_note(work, moves);
        bool decided = false;
        for (std::size_t i = 0; i < rules_.size();) {
            std::size_t end = i + 1;
            while (!rules_[i].lot.empty() && end < rules_.size() && rules_[end].lot == rules_[i].lot) ++end;
            const bool is_asked = !decided || (rules_[i].settles_ties && moves.size() > 1);
            if (is_asked && (end - i == 1 ? ask_one(work, rules_[i], end < rules_.size(), decided, moves)
                                          : ask_lot(work, i, end, decided, moves)))
                decided = true;
            i = end;
        }
        if (!decided && fallback_)
            fall_back(work, moves);
        else if (!decided)
            work.decision.rules.push_back(
                {"any move", true,
                 moves.size() == 1 ? "it is the only move" : "one of " + std::to_string(moves.size()) + " at random",
                 RuleKind::Fallback});
        else if (moves.size() > 1)
            work.decision.rules.push_back({"among equals", true,
                                           "one of " + std::to_string(moves.size()) + " moves, drawn by the seed",
                                           RuleKind::TieBreak});
        Decision<Move>& decision = work.decision;
        decision.move = moves[static_cast<std::size_t>(Random(seed).below(moves.size()))];
        rank(decision, all, moves, work.notes);
        decision.stats.stopped_by = StoppedBy::Rule;
        if (memory != nullptr && !states_.empty()) {
            GameMemory after = *memory;
            decision.state_before = state_text(states_, after);
            remember(after, decision);
            decision.state = state_text(states_, after);
        }
        return std::move(decision);
    }

   private:
    struct Work {
        const G& game;
        const Position& position;
        Player player;
        std::uint64_t seed, game_seed;
        GameMemory* memory;
        std::vector<Act> acts;  ///< of the moves that are still to choose from, where the game has acts
        Decision<Move> decision;
        std::vector<MoveNote<Move>> notes;
    };

    static std::vector<Act> acts_of(const G& game, const Position& position, const std::vector<Move>& moves) {
        std::vector<Act> acts;
        if constexpr (ActingGame<G>) {
            if (!acts_in(game)) return acts;
            acts.reserve(moves.size());
            for (const Move& move : moves) acts.push_back(game.act(position, move));
        }
        return acts;
    }

    /// Whether a state is another now.
    bool make_changes(GameMemory& memory, const std::vector<StateChange>& changes) const {
        bool changed = false;
        for (const StateChange& change : changes)
            for (std::size_t i = 0; i < states_.size() && i < memory.state.size(); ++i) {
                if (states_[i].name != change.state) continue;
                const double number = change.to_turn ? memory.turn() : change.number;
                const double before = memory.state[i];
                memory.state[i] = change.kind == StateChange::Kind::Add ? before + number : number;
                changed = changed || memory.state[i] != before;
            }
        return changed;
    }

    void take_note(Work& work, const std::vector<Move>& moves) const {
        for (const StandingChange<G>& change : changes_) {
            if (work.memory == nullptr) return;
            std::vector<Move> meeting = moves;
            std::string why = change.when.keep(work.game, work.position, meeting, work.memory, explains_);
            bool changed = false;
            if (!meeting.empty()) {
                changed = make_changes(*work.memory, change.changes);
                if (explains_) why = changed ? change.when.text() : "it is so already";
                if (explains_ && why.empty()) why = "always";
            }
            work.decision.rules.push_back({change.name, changed, std::move(why), RuleKind::Change});
        }
    }

    RuleAnswer<Move> answer_of(Work& work, const Rule<G>& rule, const std::vector<Move>& moves) const {
        RuleAnswer<Move> answer =
            rule.ask({work.game, work.position, work.player, moves, work.acts.empty() ? nullptr : &work.acts,
                      work.memory, work.seed, work.game_seed, explains_});
        work.decision.stats.nodes += answer.positions_seen;
        return answer;
    }

    /// That the rule was asked after others that decided already or as the first; whether it is carried out.
    static void report(Work& work, const Rule<G>& rule, RuleAnswer<Move>& answer, bool decided, bool fires) {
        if (decided && !answer.why.empty()) answer.why.insert(0, "among those, ");
        work.decision.rules.push_back({rule.name, fires, std::move(answer.why), RuleKind::Rule});
        work.notes.insert(work.notes.end(), answer.notes.begin(), answer.notes.end());
    }

    void carry_out(Work& work, const Rule<G>& rule, RuleAnswer<Move>& answer, bool more_follow, bool decided,
                   std::vector<Move>& moves) const {
        if (explains_)
            for (const Move& move : answer.moves) work.notes.push_back({move, rule.name});
        moves = std::move(answer.moves);
        if (!decided) work.decision.chosen_by = rule.name;
        if (more_follow) work.acts = acts_of(work.game, work.position, moves);
    }

    /// Asks a rule. Whether it is carried out.
    bool ask_one(Work& work, const Rule<G>& rule, bool more_follow, bool decided, std::vector<Move>& moves) const {
        RuleAnswer<Move> answer = answer_of(work, rule, moves);
        const bool applies = !answer.moves.empty();
        report(work, rule, answer, decided, applies);
        if (applies) carry_out(work, rule, answer, more_follow, decided, moves);
        return applies;
    }

    /// Asks the rules of a lot, from `first` to before `end`. Whether one of them is carried out.
    bool ask_lot(Work& work, std::size_t first, std::size_t end, bool decided, std::vector<Move>& moves) const {
        std::vector<RuleAnswer<Move>> answers;
        std::vector<double> weights;
        double sum = 0;
        for (std::size_t i = first; i < end; ++i) {
            answers.push_back(answer_of(work, rules_[i], moves));
            weights.push_back(answers.back().moves.empty() ? 0.0 : rules_[i].weight);
            sum += weights.back();
        }
        std::size_t chosen = 0;
        if (sum > 0)
            chosen =
                weighted_draw(weights, Random(derived_seed(work.seed, hash_of_text(rules_[first].lot))).unit() * sum);
        for (std::size_t i = 0; i < answers.size(); ++i) {
            RuleAnswer<Move>& answer = answers[i];
            const bool applies = !answer.moves.empty();
            if (applies && explains_)
                answer.why += (i == chosen ? "; drawn by weight, " : "; not drawn, weight ") +
                              number_text(rules_[first + i].weight) + " of " + number_text(sum);
            report(work, rules_[first + i], answer, decided, applies && i == chosen);
        }
        if (sum <= 0) return false;
        carry_out(work, rules_[first + chosen], answers[chosen], end < rules_.size(), decided, moves);
        return true;
    }

    void fall_back(Work& work, std::vector<Move>& moves) const {
        std::vector<std::vector<Move>> fitting;
        std::vector<double> weights;
        double sum = 0;
        ActNames names;
        if constexpr (ActingGame<G>)
            if (!work.acts.empty()) names = work.game.act_names();
        for (const Fallback<G>& choice : *fallback_) {
            ActFilter filter = choice.acts;
            if (!choice.action.empty()) filter.actions.push_back(choice.action);
            std::vector<Move> these;
            if (filter.asks_nothing()) {
                these = moves;
            } else if (!work.acts.empty()) {
                const BoundActFilter bound(filter, names);
                for (std::size_t i = 0; i < moves.size(); ++i)
                    if (bound.fits(work.acts[i])) these.push_back(moves[i]);
            }
            (void)choice.when.keep(work.game, work.position, these, work.memory, false);
            weights.push_back(these.empty() ? 0.0 : choice.weight);
            sum += weights.back();
            fitting.push_back(std::move(these));
        }
        if (sum <= 0) {
            std::string who = player_name_of(work.game, work.player);
            const bool one = !work.acts.empty() && std::all_of(work.acts.begin(), work.acts.end(), [&](const Act& act) {
                return act.actor == work.acts.front().actor;
            });
            if (one) who = names.actors[work.acts.front().actor];
            throw InputError(
                "rules",
                "no rule applies to " + who +
                    (fallback_->empty() ? ", and there is no fallback" : ", and nothing of the fallback is available"),
                "a fallback that is always available, or a rule that always applies");
        }
        const std::size_t chosen = weighted_draw(weights, Random(derived_seed(work.seed, 1)).unit() * sum);
        moves = std::move(fitting[chosen]);
        const Fallback<G>& choice = (*fallback_)[chosen];
        work.decision.chosen_by = "fallback";
        std::string why = choice.action;
        if (why.empty()) why = choice.acts.asks_nothing() ? "any move" : BoundActFilter(choice.acts, names).text();
        if (fallback_->size() > 1)
            why += ", drawn by weight, " + number_text(choice.weight) + " of " + number_text(sum);
        work.decision.rules.push_back({"fallback", true, std::move(why), RuleKind::Fallback});
    }

    static void rank(Decision<Move>& decision, const std::vector<Move>& all, const std::vector<Move>& last,
                     const std::vector<MoveNote<Move>>& notes) {
        PlacesInOrder<Move> places(all);
        std::vector<RankedMove<Move>> entries(all.size());
        for (std::size_t i = 0; i < all.size(); ++i) {
            entries[i].move = all[i];
            entries[i].line = {all[i]};
        }
        for (const auto& note : notes)
            if (const std::size_t place = places.of(note.move); place != places.none())
                entries[place].reasons.push_back(note.text);
        std::vector<bool> is_ranked(all.size() + 1);
        const auto rank_next = [&](std::size_t place) {
            if (is_ranked[place]) return;
            is_ranked[place] = true;
            decision.ranked.push_back(std::move(entries[place]));
        };
        is_ranked[places.none()] = true;
        decision.ranked.reserve(all.size());
        rank_next(places.of(decision.move));
        for (const Move& move : last) rank_next(places.of(move));
        for (std::size_t place = 0; place < all.size(); ++place) rank_next(place);
    }

    std::vector<Rule<G>> rules_;
    std::optional<std::vector<Fallback<G>>> fallback_;
    std::vector<StateInfo> states_;
    std::vector<StandingChange<G>> changes_;
    bool asks_deeds_ = false, explains_ = true;
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
