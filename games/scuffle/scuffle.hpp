#pragma once
// Scuffle: two crews, gear, turn order by time, and dice. One of the Basin Games of the Lowmere Waterway.
//
// The hand with the lowest clock acts (of two, the one with the lower number; Teal's hands come before Amber's). Its
// clock goes on by the action's time, times ten, divided by its quickness, at least 1; at the start it stands where an
// action of time 10 would have put it. Whether the action hits is a chance event where its `hits` is under 100. On a
// hit each target takes harm = max(0, power + attack - guard): the actor's attack and the target's guard for the
// action's element, both with all gear; a target that mends by the element is healed by as much instead. An action of
// power 0 does no harm. It may lay a condition for a number of the target's turns: soaked (guard 3 less), winded (each
// action costs 4 more of the clock) or braced (guard 3 more). Stamina 0 puts a hand out; a crew all out loses; after
// 200 actions it is a draw.
//
// Moves: "haul:Bram" (action and target), or the action alone where there is nothing to choose; events: "hit", "miss".
// Positions: for each hand stamina@clock and its conditions with the turns left, Teal's before '|' and Amber's after;
// the actions so far; the action that is still to hit or miss, or '-': "24@8,18@10s2|20@9,0@12b1 7 -".

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

#include <arvek/game/acting.hpp>
#include <arvek/game/board.hpp>
#include <arvek/game/chance.hpp>
#include <arvek/game/evaluation.hpp>
#include <arvek/game/game.hpp>
#include <arvek/game/quantities.hpp>
#include <arvek/game/suggesters.hpp>

#include "scuffle/crew.hpp"

namespace waterway {

class Scuffle {
   public:
    static constexpr std::size_t most_hands = 5;
    static constexpr int actions_to_draw = 200;
    static constexpr int guard_of_condition = 3, clock_of_winded = 4;

    struct Parameters {
        std::string teal;   ///< the path of a crew file; empty: the Eel Street Hands
        std::string amber;  ///< the same; empty: the Malthouse Five
    };

    struct HandState {
        std::int16_t stamina = 0;
        std::int32_t clock = 0;
        std::array<std::uint8_t, condition_count> turns{};  ///< left of each condition

        bool out() const { return stamina <= 0; }
        bool has(Condition condition) const { return turns[static_cast<std::size_t>(condition)] > 0; }

        friend bool operator==(const HandState&, const HandState&) = default;
    };

    struct Move {
        static constexpr std::uint8_t no_target = 255, hit = 254, miss = 253;

        std::uint8_t action = 0;          ///< of the actor's; or `hit` or `miss`
        std::uint8_t target = no_target;  ///< which hand of its crew

        friend bool operator==(const Move&, const Move&) = default;
    };

    struct Position {
        std::array<std::array<HandState, most_hands>, 2> crews{};
        std::uint8_t actions = 0;  ///< so far
        bool pending = false;      ///< whether `action` is still to hit or miss
        Move action{0, 0};
        std::uint8_t acting = 0;  ///< who acts next: side times most_hands, plus hand; the others say who that is

        friend bool operator==(const Position&, const Position&) = default;
    };

    arvek::Payoff most_payoff() const { return 1; }

    /// Throws arvek::InputError for a file that cannot be read or holds no crew.
    explicit Scuffle(const Parameters& parameters);
    Scuffle() : Scuffle(Parameters{}) {}
    static Scuffle of_crews(Crew teal, Crew amber) { return Scuffle(std::move(teal), std::move(amber)); }

    /// The crews when none are named, as their files have them.
    static std::string_view eel_street_hands();
    static std::string_view malthouse_five();

    Position initial_position() const;
    arvek::Player player_to_move(const Position& position) const {
        return static_cast<arvek::Player>(actor(position).side);
    }
    void generate_moves(const Position& position, arvek::MoveList<Move>& moves) const;
    void play(Position& position, const Move& move) const;
    std::optional<arvek::Outcome> outcome(const Position& position) const;
    bool chance_is_next(const Position& position) const { return position.pending; }
    void generate_events(const Position& position, arvek::MoveList<arvek::Event<Move>>& events) const;

    /// The stamina of the player's crew less that of the other.
    arvek::Score evaluate(const Position& position, arvek::Player player) const;

    /// The harm, and the healing of mates, that the action can be expected to bring for its time.
    int preference(const Position& position, const Move& move) const;

    // What rules, suggestions and features may ask: see advice.cpp for each of them.
    arvek::ActNames act_names() const { return names_; }
    arvek::Act act(const Position& position, const Move& move) const {
        const Actor from = actor(position);
        arvek::Act act = acts_[from.side][from.hand][move.action];
        const TargetKind aimed = hand(from).actions[move.action].target;
        if (aimed == TargetKind::OneMate) act.target = numbers_[from.side][move.target];
        if (aimed == TargetKind::OneRival) act.target = numbers_[1 - from.side][move.target];
        if (aimed == TargetKind::Self) act.target = act.actor;
        return act;
    }
    std::span<const arvek::Quantity<Scuffle>> quantities() const;
    std::span<const arvek::Suggester<Scuffle>> suggesters() const;

    std::string position_text(const Position& position) const;
    Position read_position(std::string_view text) const;
    std::string move_text(const Position& position, const Move& move) const;
    /// A line for each hand: side, name, stamina, clock, conditions; '>' before the one that acts.
    std::string drawing(const Position& position) const;
    arvek::Board board(const Position& position, arvek::Player viewer) const;
    std::string player_name(arvek::Player player) const;

    /// Which hand acts next. Requires: the game is not over.
    struct Actor {
        std::size_t side = 0, hand = 0;
    };
    Actor actor(const Position& position) const { return {position.acting / most_hands, position.acting % most_hands}; }
    const Crew& crew(std::size_t side) const { return crews_[side]; }
    const Hand& hand(const Actor& actor) const { return crews_[actor.side].hands[actor.hand]; }
    /// What a hit would take off the stamina of the target, less than 0 where it heals; as far as there is stamina.
    int harm(const Position& position, const Actor& from, const ScuffleAction& action, const Actor& target) const;
    /// Calls `act(target)` for every hand that the move is aimed at.
    template <class Do>
    void each_target(const Position& position, const Actor& from, const Move& move, Do act) const {
        switch (hand(from).actions[move.action].target) {
            case TargetKind::Self: act(from); break;
            case TargetKind::OneMate: act(Actor{from.side, move.target}); break;
            case TargetKind::OneRival: act(Actor{1 - from.side, move.target}); break;
            case TargetKind::AllRivals:
                for (std::size_t i = 0; i < hands(1 - from.side); ++i)
                    if (!position.crews[1 - from.side][i].out()) act(Actor{1 - from.side, i});
                break;
        }
    }
    /// What the action costs of the clock.
    static int cost(const Hand& hand, int time) {
        return time * 10 / hand.quickness < 1 ? 1 : time * 10 / hand.quickness;
    }

   private:
    Scuffle(Crew teal, Crew amber);

    std::size_t hands(std::size_t side) const { return crews_[side].hands.size(); }
    bool all_out(const Position& position, std::size_t side) const;
    void resolve(Position& position, const Move& action, bool hit) const;

    void name_acts();
    void find_actor(Position& position) const;

    std::array<Crew, 2> crews_;
    arvek::ActNames names_;
    std::array<std::array<std::vector<arvek::Act>, most_hands>, 2> acts_;  ///< by side, hand and action
    std::array<std::array<std::uint16_t, most_hands>, 2> numbers_{};       ///< of hands among the names
};

}  // namespace waterway
