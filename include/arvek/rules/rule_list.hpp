#pragma once
// RuleList: choosing by an ordered list of rules. Needs no evaluation and looks two plies ahead at the most, so it is
// the first opponent that a new game can have. For deeper play take search/alpha_beta.hpp.
//
//     arvek::RuleList<MyGame> rules;
//     rules.win_now().stop_rival().prefer("near the middle", [](const MyGame&, const auto& position, int move) { ...
//     }); auto decision = rules.decide(game, position, seed);
//
// The first rule that applies decides which moves are to choose from; preferences further down then choose among those,
// and the seed among what is left. When no rule applies, any move. The decision says what every rule that was asked
// answered.

#include <algorithm>
#include <limits>
#include <type_traits>
#include <utility>

#include "arvek/game/decision.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/game/missing.hpp"
#include "arvek/game/random.hpp"
#include "arvek/rules/rule.hpp"

namespace arvek {

namespace detail {

/// The text of a move for people, for any game.
template <Game G>
std::string move_name(const G& game, const typename G::Position& position, const typename G::Move& move) {
    if constexpr (TextGame<G>)
        return game.move_text(position, move);
    else if constexpr (std::is_integral_v<typename G::Move>)
        return std::to_string(move);
    else
        return "a move";
}

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
                                 : detail::move_name(now.game, now.position, answer.moves.front()) + " wins at once";
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
                                       detail::move_name(now.game, after, reply);
                                break;
                            }
                        }
                    }
                    if (loss.empty()) {
                        answer.moves.push_back(move);
                    } else {
                        answer.notes.push_back({move, loss});
                        if (threat.empty()) threat = detail::move_name(now.game, now.position, move) + " " + loss;
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
                    answer.why = detail::move_name(now.game, now.position, answer.moves.front()) +
                                 (answer.moves.size() == 1
                                      ? " is liked best"
                                      : " and " + std::to_string(answer.moves.size() - 1) + " more are liked best");
                }
                return answer;
            },
            true};
}

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

    /// A legal move and the account of how it was chosen. `only`: the moves to choose from; none: every legal move.
    /// Throws InputError for a finished position.
    Decision<Move> decide(const G& game, const Position& position, std::uint64_t seed,
                          const std::vector<Move>& only = {}) const {
        const MoveList<Move> legal = legal_moves(game, position);
        if (legal.empty())
            throw InputError("position", "the game is over, so there is nothing to decide",
                             "a position where play goes on");
        if (chance_is_next(game, position))
            throw InputError("position", "chance is next, so there is nothing to decide",
                             "a position where a player is to move");
        std::vector<Move> moves = only.empty() ? std::vector<Move>(legal.begin(), legal.end()) : only;
        const std::vector<Move> all = moves;
        const Player player = game.player_to_move(position);

        Decision<Move> decision;
        std::vector<MoveNote<Move>> notes;
        bool decided = false;
        for (const Rule<G>& rule : rules_) {
            if (decided && (!rule.settles_ties || moves.size() == 1)) continue;
            RuleAnswer<Move> answer = rule.ask({game, position, player, moves});
            decision.stats.nodes += answer.positions_seen;
            const bool fired = !answer.moves.empty();
            decision.rules.push_back({rule.name, fired, (decided ? "among those, " : "") + answer.why});
            notes.insert(notes.end(), answer.notes.begin(), answer.notes.end());
            if (!fired) continue;
            for (const Move& move : answer.moves) notes.push_back({move, rule.name});
            moves = std::move(answer.moves);
            decided = true;
        }
        if (moves.size() > 1 || !decided)
            decision.rules.push_back(
                {"any move", true,
                 moves.size() == 1 ? "it is the only move" : "one of " + std::to_string(moves.size()) + " at random"});
        decision.move = moves[static_cast<std::size_t>(Random(seed).below(moves.size()))];
        rank(decision, all, moves, notes);
        decision.stats.stopped_by = StoppedBy::Rule;
        return decision;
    }

   private:
    static void rank(Decision<Move>& decision, const std::vector<Move>& all, const std::vector<Move>& last,
                     const std::vector<MoveNote<Move>>& notes) {
        std::vector<Move> order{decision.move};
        for (const auto* group : {&last, &all})
            for (const Move& move : *group)
                if (std::find(order.begin(), order.end(), move) == order.end()) order.push_back(move);
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
};

/// Win now; stop the rival; then what the game itself prefers, if it says so; else any move.
template <Game G>
RuleList<G> standard_rules() {
    RuleList<G> rules;
    rules.win_now().stop_rival();
    if constexpr (PreferringGame<G>)
        rules.prefer("the game's preference",
                     [](const G& game, const typename G::Position& position, const typename G::Move& move) {
                         return game.preference(position, move);
                     });
    return rules;
}

}  // namespace arvek
