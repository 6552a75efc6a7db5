#include "scuffle/scuffle.hpp"

#include <algorithm>
#include <sstream>
#include <utility>

#include <arvek/game/text.hpp>
#include <arvek/game/text_reader.hpp>

#include "default_data.hpp"

namespace waterway {

using arvek::InputError;
using arvek::Outcome;
using arvek::Player;

namespace {

constexpr std::string_view condition_letters = "swb";
constexpr int latest_clock = 1'000'000;

}  // namespace

std::string_view Scuffle::eel_street_hands() { return data::eel_street_hands; }
std::string_view Scuffle::malthouse_five() { return data::malthouse_five; }

Scuffle::Scuffle(const Parameters& parameters)
    : Scuffle(parameters.teal.empty() ? read_crew(data::eel_street_hands, "the Eel Street Hands")
                                      : read_crew_file(parameters.teal),
              parameters.amber.empty() ? read_crew(data::malthouse_five, "the Malthouse Five")
                                       : read_crew_file(parameters.amber)) {}

Scuffle::Scuffle(Crew teal, Crew amber) : crews_{std::move(teal), std::move(amber)} { name_acts(); }

Scuffle::Position Scuffle::initial_position() const {
    Position position;
    for (std::size_t side = 0; side < 2; ++side)
        for (std::size_t i = 0; i < hands(side); ++i) {
            const Hand& hand = crews_[side].hands[i];
            position.crews[side][i].stamina = static_cast<std::int16_t>(hand.stamina);
            position.crews[side][i].clock = cost(hand, 10);
        }
    find_actor(position);
    return position;
}

bool Scuffle::all_out(const Position& position, std::size_t side) const {
    for (std::size_t i = 0; i < hands(side); ++i)
        if (!position.crews[side][i].out()) return false;
    return true;
}

void Scuffle::find_actor(Position& position) const {
    position.acting = 0;
    int lowest = -1;
    for (std::size_t side = 0; side < 2; ++side)
        for (std::size_t i = 0; i < hands(side); ++i) {
            const HandState& state = position.crews[side][i];
            if (state.out() || (lowest >= 0 && state.clock >= lowest)) continue;
            lowest = state.clock;
            position.acting = static_cast<std::uint8_t>(side * most_hands + i);
        }
}

std::optional<Outcome> Scuffle::outcome(const Position& position) const {
    const bool teal_out = all_out(position, 0), amber_out = all_out(position, 1);
    if (teal_out && amber_out) return Outcome::draw();
    if (teal_out || amber_out) return Outcome::win(amber_out ? Player::First : Player::Second);
    if (position.actions >= actions_to_draw && !position.pending) return Outcome::draw();
    return std::nullopt;
}

void Scuffle::generate_moves(const Position& position, arvek::MoveList<Move>& moves) const {
    const Actor from = actor(position);
    const auto& actions = hand(from).actions;
    for (std::size_t i = 0; i < actions.size(); ++i) {
        const auto number = static_cast<std::uint8_t>(i);
        if (actions[i].target == TargetKind::AllRivals || actions[i].target == TargetKind::Self) {
            moves.push_back({number, Move::no_target});
            continue;
        }
        const std::size_t side = actions[i].target == TargetKind::OneMate ? from.side : 1 - from.side;
        for (std::size_t target = 0; target < hands(side); ++target) {
            if (position.crews[side][target].out() || (side == from.side && target == from.hand)) continue;
            moves.push_back({number, static_cast<std::uint8_t>(target)});
        }
    }
}

void Scuffle::generate_events(const Position& position, arvek::MoveList<arvek::Event<Move>>& events) const {
    const int hits = hand(actor(position)).actions[position.action.action].hits;
    events.push_back({{Move::hit, Move::no_target}, hits / 100.0});
    events.push_back({{Move::miss, Move::no_target}, (100 - hits) / 100.0});
}

void Scuffle::play(Position& position, const Move& move) const {
    if (move.action == Move::hit || move.action == Move::miss) {
        const Move action = std::exchange(position.action, Move{0, 0});
        position.pending = false;
        resolve(position, action, move.action == Move::hit);
        return;
    }
    ++position.actions;
    if (hand(actor(position)).actions[move.action].hits < 100) {
        position.pending = true;
        position.action = move;
    } else {
        resolve(position, move, true);
    }
}

int Scuffle::harm(const Position& position, const Actor& from, const ScuffleAction& action, const Actor& target) const {
    if (action.power == 0) return 0;
    const HandState& state = position.crews[target.side][target.hand];
    const Rating& against = hand(target).rating(action.element);
    const int guard = against.guard + (state.has(Condition::Braced) ? guard_of_condition : 0) -
                      (state.has(Condition::Soaked) ? guard_of_condition : 0);
    const int amount = std::max(0, action.power + hand(from).rating(action.element).attack - guard);
    return against.mends ? -std::min(amount, hand(target).stamina - state.stamina)
                         : std::min<int>(amount, state.stamina);
}

void Scuffle::resolve(Position& position, const Move& move, bool hit) const {
    const Actor from = actor(position);
    const ScuffleAction& action = hand(from).actions[move.action];
    HandState& own = position.crews[from.side][from.hand];
    own.clock += cost(hand(from), action.time) + (own.has(Condition::Winded) ? clock_of_winded : 0);
    for (std::uint8_t& turns : own.turns)
        if (turns > 0) --turns;
    if (hit)
        each_target(position, from, move, [&](const Actor& target) {
            HandState& state = position.crews[target.side][target.hand];
            state.stamina = static_cast<std::int16_t>(state.stamina - harm(position, from, action, target));
            if (state.out()) {
                state.turns = {};
            } else if (action.lays) {
                auto& turns = state.turns[static_cast<std::size_t>(action.condition)];
                turns = std::max(turns, static_cast<std::uint8_t>(action.turns));
            }
        });
    find_actor(position);
}

int Scuffle::preference(const Position& position, const Move& move) const {
    constexpr int point = 10, healed = 4, out = 40, laid = 5;
    const Actor from = actor(position);
    const ScuffleAction& action = hand(from).actions[move.action];
    int worth = 0;
    each_target(position, from, move, [&](const Actor& target) {
        const HandState& state = position.crews[target.side][target.hand];
        const int sign = target.side == from.side ? -1 : 1;
        const int loss = harm(position, from, action, target);
        worth += sign * ((sign < 0 ? healed : point) * loss + (loss >= state.stamina ? out : 0));
        if (action.lays && !state.has(action.condition))
            worth += sign * (action.condition == Condition::Braced ? -laid : laid);
    });
    return worth * action.hits / cost(hand(from), action.time);
}

arvek::Score Scuffle::evaluate(const Position& position, arvek::Player player) const {
    int sums[2] = {0, 0};
    for (std::size_t side = 0; side < 2; ++side)
        for (std::size_t i = 0; i < hands(side); ++i) sums[side] += std::max<int>(position.crews[side][i].stamina, 0);
    const int teal_leads = sums[0] - sums[1];
    return arvek::Score::estimate(player == arvek::Player::First ? teal_leads : -teal_leads);
}

std::string Scuffle::player_name(Player player) const { return player == Player::First ? "Teal" : "Amber"; }

std::string Scuffle::move_text(const Position& position, const Move& move) const {
    if (move.action == Move::hit) return "hit";
    if (move.action == Move::miss) return "miss";
    const Actor from = actor(position);
    const ScuffleAction& action = hand(from).actions[move.action];
    if (move.target == Move::no_target) return action.name;
    const std::size_t side = action.target == TargetKind::OneMate ? from.side : 1 - from.side;
    return action.name + ":" + crews_[side].hands[move.target].name;
}

std::string Scuffle::position_text(const Position& position) const {
    std::string text;
    for (std::size_t side = 0; side < 2; ++side) {
        if (side > 0) text += '|';
        for (std::size_t i = 0; i < hands(side); ++i) {
            const HandState& state = position.crews[side][i];
            if (i > 0) text += ',';
            text += std::to_string(state.stamina) + "@" + std::to_string(state.clock);
            for (std::size_t c = 0; c < condition_count; ++c)
                if (state.turns[c] > 0) text += condition_letters[c] + std::to_string(state.turns[c]);
        }
    }
    return text + " " + std::to_string(position.actions) + " " +
           (position.pending ? move_text(position, position.action) : "-");
}

Scuffle::Position Scuffle::read_position(std::string_view text) const {
    arvek::TextReader in(text, "such as '" + position_text(initial_position()) + "'");
    Position position;
    for (std::size_t side = 0; side < 2; ++side) {
        if (side > 0) in.take('|', "the crew of Teal");
        for (std::size_t i = 0; i < hands(side); ++i) {
            if (i > 0) in.take(',', crews_[side].hands[i - 1].name);
            HandState& state = position.crews[side][i];
            const Hand& hand = crews_[side].hands[i];
            state.stamina =
                static_cast<std::int16_t>(in.number("number for the stamina of " + hand.name, 0, hand.stamina));
            in.take('@', "the stamina");
            state.clock = in.number("number for a clock", 0, latest_clock);
            for (std::size_t c = 0; c < condition_count; ++c) {
                if (!in.pass_if(condition_letters[c])) continue;
                state.turns[c] = static_cast<std::uint8_t>(in.number("number of turns", 1, 9));
                if (state.out()) in.fail(hand.name + " is out, and a hand that is out is under no condition", "none");
            }
        }
    }
    in.take(' ', "the crews");
    position.actions = static_cast<std::uint8_t>(in.number("number of actions", 0, actions_to_draw));
    in.take(' ', "the number of actions");
    find_actor(position);
    const std::string_view pending = in.rest();
    if (pending == "-") return position;
    std::vector<std::string> chancy;
    if (!all_out(position, 0) && !all_out(position, 1)) {
        arvek::MoveList<Move> moves;
        generate_moves(position, moves);
        for (const Move& move : moves) {
            if (hand(actor(position)).actions[move.action].hits == 100) continue;
            chancy.push_back(move_text(position, move));
            if (chancy.back() != pending) continue;
            position.pending = true;
            position.action = move;
            return position;
        }
    }
    in.fail("'" + std::string(pending) + "' is no action that is still to hit or miss",
            "-" + (chancy.empty() ? std::string() : " or " + arvek::any_of_text(chancy)));
}

std::string Scuffle::drawing(const Position& position) const {
    std::ostringstream out;
    const bool over = outcome(position).has_value();
    const Actor acting = over ? Actor{2, 0} : actor(position);
    std::size_t widest = 0;
    for (const Crew& crew : crews_)
        for (const Hand& hand : crew.hands) widest = std::max(widest, hand.name.size());
    constexpr int bar_length = 20;
    for (std::size_t side = 0; side < 2; ++side) {
        out << "  " << crews_[side].name << "\n";
        for (std::size_t i = 0; i < hands(side); ++i) {
            const HandState& state = position.crews[side][i];
            const Hand& hand = crews_[side].hands[i];
            const int full = state.out() ? 0 : std::max(1, state.stamina * bar_length / hand.stamina);
            std::string stamina = std::to_string(state.stamina) + "/" + std::to_string(hand.stamina);
            stamina.insert(0, 7 - std::min<std::size_t>(7, stamina.size()), ' ');
            out << (acting.side == side && acting.hand == i ? "> " : "  ") << (side == 0 ? "T " : "A ") << hand.name
                << std::string(widest - hand.name.size(), ' ') << " " << stamina << " ["
                << std::string(static_cast<std::size_t>(full), '=')
                << std::string(static_cast<std::size_t>(bar_length - full), ' ') << "]";
            if (state.out()) {
                out << " out";
            } else {
                out << " clock " << state.clock;
                for (std::size_t c = 0; c < condition_count; ++c)
                    if (state.turns[c] > 0)
                        out << ", " << name_of(static_cast<Condition>(c)) << " for " << int{state.turns[c]};
            }
            out << "\n";
        }
    }
    out << "  " << int{position.actions} << " actions so far, a draw at " << actions_to_draw;
    if (position.pending) out << "; " << move_text(position, position.action) << ": hit or miss?";
    out << "\n";
    return out.str();
}

}  // namespace waterway
