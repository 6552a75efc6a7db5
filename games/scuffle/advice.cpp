// What rules, suggestions and features may ask about Scuffle.

#include <algorithm>

#include "scuffle/scuffle.hpp"

namespace waterway {

using Game = Scuffle;
using Position = Scuffle::Position;
using Move = Scuffle::Move;
using arvek::QuantityOf;

namespace {

// The kinds of an action: its element, whom it is aimed at, whether it lays a condition.
constexpr std::size_t targets_at = element_count, lays_at = element_count + 4;

std::size_t place_of(std::vector<std::string>& names, const std::string& name) {
    const auto at = std::find(names.begin(), names.end(), name);
    if (at != names.end()) return static_cast<std::size_t>(at - names.begin());
    names.push_back(name);
    return names.size() - 1;
}

const Scuffle::HandState& state_of(const Position& position, const Scuffle::Actor& who) {
    return position.crews[who.side][who.hand];
}

const ScuffleAction& action_of(const Game& game, const Position& position, const Move& move) {
    return game.hand(game.actor(position)).actions[move.action];
}

int standing(const Position& position, std::size_t side) {
    const auto& crew = position.crews[side];
    return static_cast<int>(std::count_if(crew.begin(), crew.end(), [](const auto& hand) { return !hand.out(); }));
}

/// The lowest of a number over all targets.
template <class Value>
double lowest(const Game& game, const Position& position, const Move& move, Value value) {
    double found = 0;
    bool any = false;
    const auto from = game.actor(position);
    game.each_target(position, from, move, [&](const Scuffle::Actor& target) {
        const double number = value(from, target);
        found = any ? std::min(found, number) : number;
        any = true;
    });
    return found;
}

/// What a hit takes off all targets together, less than 0 where it heals.
int harm_of(const Game& game, const Position& position, const Move& move) {
    const auto from = game.actor(position);
    const ScuffleAction& action = game.hand(from).actions[move.action];
    int sum = 0;
    game.each_target(position, from, move,
                     [&](const Scuffle::Actor& target) { sum += game.harm(position, from, action, target); });
    return sum;
}

int put_out_by(const Game& game, const Position& position, const Move& move) {
    const auto from = game.actor(position);
    const ScuffleAction& action = game.hand(from).actions[move.action];
    int count = 0;
    game.each_target(position, from, move, [&](const Scuffle::Actor& target) {
        if (target.side != from.side && game.harm(position, from, action, target) >= state_of(position, target).stamina)
            ++count;
    });
    return count;
}

template <Condition condition>
double actor_has(const Game& game, const Position& position, const Move&) {
    return state_of(position, game.actor(position)).has(condition) ? 1 : 0;
}

template <Condition condition>
double target_has(const Game& game, const Position& position, const Move& move) {
    return lowest(game, position, move, [&](const auto&, const auto& target) {
        return state_of(position, target).has(condition) ? 1.0 : 0.0;
    });
}

double share_of(const Game& game, const Position& position, const Scuffle::Actor& who) {
    return static_cast<double>(state_of(position, who).stamina) / game.hand(who).stamina;
}

const arvek::Quantity<Game> all_quantities[] = {
    {"actions so far", "actions", "of both crews; after 200 it is a draw", QuantityOf::Position,
     [](const Game&, const Position& now, const Move&) { return static_cast<double>(now.actions); }, 0, 200},
    {"own hands", "hands", "of the actor's crew that are not out", QuantityOf::Position,
     [](const Game& game, const Position& now, const Move&) {
         return static_cast<double>(standing(now, game.actor(now).side));
     },
     1, 5},
    {"rival hands", "hands", "of the rival crew that are not out", QuantityOf::Position,
     [](const Game& game, const Position& now, const Move&) {
         return static_cast<double>(standing(now, 1 - game.actor(now).side));
     },
     1, 5},
    {"actor stamina", "points", "what the actor has left", QuantityOf::Actor,
     [](const Game& game, const Position& now, const Move&) {
         return static_cast<double>(state_of(now, game.actor(now)).stamina);
     }},
    {"actor share", "0 to 1", "the actor's stamina, as a share of its most", QuantityOf::Actor,
     [](const Game& game, const Position& now, const Move&) { return share_of(game, now, game.actor(now)); }},
    {"actor braced", "0 or 1", "whether the actor is braced", QuantityOf::Actor, actor_has<Condition::Braced>},
    {"actor soaked", "0 or 1", "whether the actor is soaked", QuantityOf::Actor, actor_has<Condition::Soaked>},
    {"actor winded", "0 or 1", "whether the actor is winded", QuantityOf::Actor, actor_has<Condition::Winded>},
    {"power", "points", "of the action, before attack and guard", QuantityOf::Action,
     [](const Game& game, const Position& now, const Move& move) {
         return static_cast<double>(action_of(game, now, move).power);
     }},
    {"time", "clock", "what the action costs its actor of the clock", QuantityOf::Action,
     [](const Game& game, const Position& now, const Move& move) {
         return static_cast<double>(Scuffle::cost(game.hand(game.actor(now)), action_of(game, now, move).time));
     }},
    {"hits", "percent", "how likely the action hits", QuantityOf::Action,
     [](const Game& game, const Position& now, const Move& move) {
         return static_cast<double>(action_of(game, now, move).hits);
     },
     0, 100},
    {"harm", "points", "what a hit takes off all targets together; less than 0 where it heals", QuantityOf::Target,
     [](const Game& game, const Position& now, const Move& move) {
         return static_cast<double>(harm_of(game, now, move));
     }},
    {"harm a tick", "points", "the harm, as likely as it hits, for each tick of the clock it costs", QuantityOf::Target,
     [](const Game& game, const Position& now, const Move& move) {
         const ScuffleAction& action = action_of(game, now, move);
         return harm_of(game, now, move) * action.hits / 100.0 / Scuffle::cost(game.hand(game.actor(now)), action.time);
     }},
    {"pressure", "percent",
     "the share that a hit takes of what each target has left, added up, as likely as it hits, for ten ticks of the "
     "clock it costs",
     QuantityOf::Target,
     [](const Game& game, const Position& now, const Move& move) {
         const auto from = game.actor(now);
         const ScuffleAction& action = game.hand(from).actions[move.action];
         double sum = 0;
         game.each_target(now, from, move, [&](const Scuffle::Actor& target) {
             if (target.side != from.side)
                 sum += static_cast<double>(game.harm(now, from, action, target)) / state_of(now, target).stamina;
         });
         return 10.0 * sum * action.hits / Scuffle::cost(game.hand(from), action.time);
     }},
    {"target guard", "points", "the target's guard against the action's element, of several the least",
     QuantityOf::Target,
     [](const Game& game, const Position& now, const Move& move) {
         const Element element = action_of(game, now, move).element;
         return lowest(game, now, move, [&](const auto&, const auto& target) {
             return static_cast<double>(game.hand(target).rating(element).guard);
         });
     }},
    {"put out", "hands", "how many rivals a hit puts out", QuantityOf::Target,
     [](const Game& game, const Position& now, const Move& move) {
         return static_cast<double>(put_out_by(game, now, move));
     },
     0, 5},
    {"target stamina", "points", "what the target has left, of several the least", QuantityOf::Target,
     [](const Game& game, const Position& now, const Move& move) {
         return lowest(game, now, move, [&](const auto&, const auto& target) {
             return static_cast<double>(state_of(now, target).stamina);
         });
     }},
    {"target share", "0 to 1", "the target's stamina as a share of its most, of several the least", QuantityOf::Target,
     [](const Game& game, const Position& now, const Move& move) {
         return lowest(game, now, move, [&](const auto&, const auto& target) { return share_of(game, now, target); });
     }},
    {"target wait", "clock", "how much later than the actor the target acts, of several the least", QuantityOf::Target,
     [](const Game& game, const Position& now, const Move& move) {
         return lowest(game, now, move, [&](const auto& from, const auto& target) {
             return static_cast<double>(state_of(now, target).clock - state_of(now, from).clock);
         });
     }},
    {"target threat", "points",
     "the most that one hit of the target's can take off the actor's crew, of several the "
     "least",
     QuantityOf::Target,
     [](const Game& game, const Position& now, const Move& move) {
         return lowest(game, now, move, [&](const auto& from, const auto& target) {
             int most = 0;
             if (target.side != from.side)
                 for (const ScuffleAction& action : game.hand(target).actions)
                     for (std::size_t i = 0; i < game.crew(from.side).hands.size(); ++i)
                         if (action.target == TargetKind::OneRival || action.target == TargetKind::AllRivals)
                             most = std::max(most, game.harm(now, target, action, {from.side, i}));
             return static_cast<double>(most);
         });
     }},
    {"target braced", "0 or 1", "whether the target is braced, of several whether all are", QuantityOf::Target,
     target_has<Condition::Braced>},
    {"target soaked", "0 or 1", "whether the target is soaked, of several whether all are", QuantityOf::Target,
     target_has<Condition::Soaked>},
    {"target winded", "0 or 1", "whether the target is winded, of several whether all are", QuantityOf::Target,
     target_has<Condition::Winded>},
};

using Proposals = arvek::Proposals<Move>;

template <class Each>
void each_move(const Game& game, const Position& now, Each each) {
    arvek::MoveList<Move> moves;
    game.generate_moves(now, moves);
    for (const Move& move : moves) each(move, action_of(game, now, move));
}

std::string name_of_target(const Game& game, const Position& now, const Move& move) {
    const auto from = game.actor(now);
    std::string name = "all rivals";
    if (action_of(game, now, move).target != TargetKind::AllRivals)
        game.each_target(now, from, move, [&](const auto& target) { name = game.hand(target).name; });
    return name;
}

const arvek::Suggester<Game> all_suggesters[] = {
    {"finish", "puts a rival out",
     [](const Game& game, const Position& now, Proposals& proposals) {
         each_move(game, now, [&](const Move& move, const ScuffleAction& action) {
             if (const int out = put_out_by(game, now, move); out > 0)
                 proposals.add(move, 0.12 * action.hits * out, "can put " + name_of_target(game, now, move) + " out");
         });
     }},
    {"harm", "takes stamina off a rival",
     [](const Game& game, const Position& now, Proposals& proposals) {
         each_move(game, now, [&](const Move& move, const ScuffleAction& action) {
             const int harm = harm_of(game, now, move);
             const bool on_rivals = action.target == TargetKind::OneRival || action.target == TargetKind::AllRivals;
             if (harm > 0 && on_rivals)
                 proposals.add(move, harm * action.hits / 10.0 / Scuffle::cost(game.hand(game.actor(now)), action.time),
                               "harms " + name_of_target(game, now, move));
         });
     }},
    {"mend", "gives a mate stamina back",
     [](const Game& game, const Position& now, Proposals& proposals) {
         each_move(game, now, [&](const Move& move, const ScuffleAction& action) {
             if (action.target != TargetKind::OneMate && action.target != TargetKind::Self) return;
             const int healed = -harm_of(game, now, move);
             double share = 1;
             game.each_target(now, game.actor(now), move,
                              [&](const auto& target) { share = std::min(share, share_of(game, now, target)); });
             if (healed > 0)
                 proposals.add(move, 1.5 * healed * (1.2 - share), "mends " + name_of_target(game, now, move));
         });
     }},
    {"hinder", "lays a condition on a rival",
     [](const Game& game, const Position& now, Proposals& proposals) {
         each_move(game, now, [&](const Move& move, const ScuffleAction& action) {
             if (!action.lays || action.condition == Condition::Braced) return;
             int fresh = 0;
             game.each_target(now, game.actor(now), move, [&](const auto& target) {
                 fresh += state_of(now, target).has(action.condition) ? 0 : 1;
             });
             if (fresh > 0)
                 proposals.add(
                     move, 1.5 * fresh * action.turns * action.hits / 100.0,
                     std::string("leaves ") + name_of_target(game, now, move) + " " + name_of(action.condition));
         });
     }},
    {"brace", "braces itself or a mate",
     [](const Game& game, const Position& now, Proposals& proposals) {
         each_move(game, now, [&](const Move& move, const ScuffleAction& action) {
             if (!action.lays || action.condition != Condition::Braced) return;
             game.each_target(now, game.actor(now), move, [&](const auto& target) {
                 if (!state_of(now, target).has(Condition::Braced))
                     proposals.add(move, 2.0 * (1.3 - share_of(game, now, target)) * action.turns,
                                   game.hand(target).name + " would stand firmer");
             });
         });
     }},
};

}  // namespace

std::span<const arvek::Quantity<Scuffle>> Scuffle::quantities() const { return all_quantities; }
std::span<const arvek::Suggester<Scuffle>> Scuffle::suggesters() const { return all_suggesters; }

void Scuffle::name_acts() {
    for (std::size_t i = 0; i < element_count; ++i) names_.kinds.push_back(name_of(static_cast<Element>(i)));
    for (std::size_t i = 0; i < 4; ++i) names_.kinds.push_back(name_of(static_cast<TargetKind>(i)));
    for (std::size_t i = 0; i < condition_count; ++i)
        names_.kinds.push_back(std::string("lays ") + name_of(static_cast<Condition>(i)));
    for (std::size_t side = 0; side < 2; ++side)
        for (std::size_t i = 0; i < hands(side); ++i) {
            const Hand& hand = crews_[side].hands[i];
            const std::size_t actor = place_of(names_.actors, hand.name);
            numbers_[side][i] = static_cast<std::uint16_t>(actor);
            for (const ScuffleAction& action : hand.actions) {
                std::uint64_t kinds = 1ull << static_cast<std::size_t>(action.element) |
                                      1ull << (targets_at + static_cast<std::size_t>(action.target));
                if (action.lays) kinds |= 1ull << (lays_at + static_cast<std::size_t>(action.condition));
                acts_[side][i].push_back({static_cast<std::uint16_t>(actor),
                                          static_cast<std::uint16_t>(place_of(names_.actions, action.name)), kinds});
            }
        }
    names_.targets = names_.actors;
}

}  // namespace waterway
