#pragma once
// Ready rules about threats, for any game of two in which all is in sight: make a double threat, and deny the rival's.
//
//     rules.win_now().stop_rival().add(arvek::double_threat_rule<MyGame>()).add(arvek::deny_double_threat_rule<MyGame>());
//
// A move makes a double threat when it wins with the next move whatever the rival answers. Here it may also take a few
// threats before, each of which leaves the rival few answers, and before those one quiet move: that is a proof, found by
// the rules of the game alone.

#include <cstddef>
#include <cstdint>
#include <optional>
#include <string>

#include "arvek/game/game.hpp"
#include "arvek/game/missing.hpp"
#include "arvek/game/players.hpp"
#include "arvek/rules/rule.hpp"

namespace arvek {

/// How far a rule about threats looks.
struct ThreatLimits {
    int threats_before = 2;        ///< how many threats may come before the double one
    std::size_t most_answers = 3;  ///< a move with more answers to it is no threat
    /// In one decision; past that the rule does not apply, and says so. As many again may go into quiet moves before
    /// the first threat; past that they are left out.
    std::uint64_t positions = 100'000;
    bool quiet_before = true;  ///< whether quiet moves before the first threat are looked at too
};

/// Looks for wins that cannot be prevented, by threats alone.
template <Game G>
class ThreatSearch {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    /// With no position looked at yet.
    ThreatSearch(const G& game, const ThreatLimits& limits) : game_(game), limits_(limits) {}

    /// Whether whoever made the last move wins with the next one whatever the rival answers, or after `threats` more
    /// moves that threaten. `quiet`: the last move need not have threatened anything. False too where it could not be
    /// told.
    bool wins_whatever(const Position& position, Player player, int threats, bool quiet = false) {
        if (!is_turn_of_rival(position, player)) return false;
        std::size_t answers = 0;
        for (const Move& reply : legal_moves(game_, position)) {
            Position after = position;
            if (!play(after, reply)) return false;
            if (const auto outcome = game_.outcome(after)) {
                if (outcome->payoff(player) <= 0) return false;
                continue;
            }
            if (chance_is_next(game_, after) || game_.player_to_move(after) != player) return false;
            if (wins_at_once(after, player)) continue;
            if (threats == 0 || (!quiet && ++answers > limits_.most_answers)) return false;
            if (!winning_threat(after, threats - 1)) return false;
        }
        return !gave_up_;
    }

    /// A move of the player to move that makes a double threat, at once or after `threats` others.
    std::optional<Move> winning_threat(const Position& position, int threats, bool quiet = false) {
        const Player player = game_.player_to_move(position);
        for (const Move& move : legal_moves(game_, position)) {
            Position after = position;
            if (!play(after, move)) return std::nullopt;
            if (!game_.outcome(after) && wins_whatever(after, player, threats, quiet)) return move;
        }
        return std::nullopt;
    }

    /// Whether the player, who is to move, can win with one move.
    bool wins_at_once(const Position& position, Player player) {
        for (const Move& move : legal_moves(game_, position)) {
            Position after = position;
            if (!play(after, move)) return false;
            const auto outcome = game_.outcome(after);
            if (outcome && outcome->payoff(player) > 0) return true;
        }
        return false;
    }

    std::uint64_t positions() const { return positions_; }  ///< that were looked at
    /// Whether there were too many positions to tell.
    bool gave_up() const { return gave_up_; }

   private:
    bool is_turn_of_rival(const Position& position, Player player) const {
        return !game_.outcome(position) && !chance_is_next(game_, position) && game_.player_to_move(position) != player;
    }

    bool play(Position& position, const Move& move) {
        gave_up_ = gave_up_ || ++positions_ > limits_.positions;
        if (gave_up_) return false;
        game_.play(position, move);
        return true;
    }

    const G& game_;
    ThreatLimits limits_;
    std::uint64_t positions_ = 0;
    bool gave_up_ = false;
};

namespace detail {

/// "1 of 7 moves", with the right plural.
std::string some_of_moves(std::size_t some, std::size_t all);
/// Why a rule about threats did not get to the end of it.
std::string too_many_positions_text(std::uint64_t positions);

}  // namespace detail

/// For the moves that win by a double threat, with the fewest threats before it.
template <Game G>
Rule<G> double_threat_rule(const ThreatLimits& limits = {}) {
    return {"make a double threat", [limits](const Situation<G>& now) {
                RuleAnswer<typename G::Move> answer;
                ThreatSearch<G> search(now.game, limits);
                for (int threats = 0; threats <= limits.threats_before && answer.moves.empty(); ++threats)
                    for (const auto& move : now.moves) {
                        typename G::Position after = now.position;
                        now.game.play(after, move);
                        if (search.gave_up()) break;
                        if (!now.game.outcome(after) && search.wins_whatever(after, now.player, threats)) {
                            answer.moves.push_back(move);
                            answer.why = move_name_of(now.game, now.position, answer.moves.front()) +
                                         (threats == 0 ? " wins next turn whatever the rival does"
                                                       : " forces the rival, and then makes a double threat");
                        }
                    }
                answer.positions_seen = search.positions();
                if (answer.moves.empty() && !search.gave_up() && limits.quiet_before) {
                    ThreatSearch<G> further(now.game, limits);
                    for (const auto& move : now.moves) {
                        typename G::Position after = now.position;
                        now.game.play(after, move);
                        if (now.game.outcome(after) ||
                            !further.wins_whatever(after, now.player, limits.threats_before, true))
                            continue;
                        answer.moves.push_back(move);
                        answer.why = move_name_of(now.game, now.position, answer.moves.front()) +
                                     " leaves the rival no answer to the threats that follow";
                    }
                    answer.positions_seen += further.positions();
                }
                if (answer.moves.empty())
                    answer.why = search.gave_up() ? detail::too_many_positions_text(limits.positions)
                                                  : "no move makes a double threat";
                return answer;
            }};
}

/// For the moves after which the rival can make no double threat, if there are others after which one can.
template <Game G>
Rule<G> deny_double_threat_rule(const ThreatLimits& limits = {}) {
    return {"deny a double threat", [limits](const Situation<G>& now) {
                RuleAnswer<typename G::Move> answer;
                ThreatSearch<G> search(now.game, limits), further(now.game, limits);
                std::string threat;
                for (const auto& move : now.moves) {
                    typename G::Position after = now.position;
                    now.game.play(after, move);
                    std::optional<typename G::Move> reply;
                    const bool is_rivals = !now.game.outcome(after) && !chance_is_next(now.game, after) &&
                                           now.game.player_to_move(after) != now.player;
                    if (is_rivals) reply = search.winning_threat(after, limits.threats_before);
                    if (search.gave_up()) break;
                    if (is_rivals && !reply && limits.quiet_before && !further.gave_up())
                        reply = further.winning_threat(after, limits.threats_before, true);
                    if (!reply) {
                        answer.moves.push_back(move);
                        continue;
                    }
                    answer.notes.push_back(
                        {move, "lets the rival make a double threat after " + move_name_of(now.game, after, *reply)});
                    if (threat.empty())
                        threat = move_name_of(now.game, now.position, move) + " " + answer.notes.back().text;
                }
                answer.positions_seen = search.positions() + further.positions();
                if (search.gave_up()) {
                    answer.moves.clear();
                    answer.notes.clear();
                    answer.why = detail::too_many_positions_text(limits.positions);
                } else if (answer.moves.size() == now.moves.size()) {
                    answer.moves.clear();
                    answer.why = "the rival can make none";
                } else if (answer.moves.empty()) {
                    answer.why = "nothing prevents it: " + threat;
                } else {
                    answer.why =
                        detail::some_of_moves(answer.moves.size(), now.moves.size()) + " prevents it: " + threat;
                }
                return answer;
            }};
}

}  // namespace arvek
