#pragma once
// Chooser: what an opponent chooses by. Searches, rules, suggestions, features and random moves are choosers; add one
// of your own by name (registry.hpp), and every verb, profile, level, match and explanation knows it.
//
//     class Lightest final : public arvek::Chooser<MyGame> {
//        public:
//         arvek::Decision<MyGame::Move> choose(const arvek::Choice<MyGame>& now) override { ... }
//     };
//
// It is asked for the best it knows; what a level takes away from that is taken afterwards. examples/own_chooser/
// has a whole one.

#include <cstdint>
#include <span>
#include <string>
#include <vector>

#include "arvek/game/ability.hpp"
#include "arvek/game/decision.hpp"
#include "arvek/game/player.hpp"
#include "arvek/game/view.hpp"
#include "arvek/opponent/options.hpp"
#include "arvek/rules/levels.hpp"
#include "arvek/search/limits.hpp"
#include "arvek/search/request.hpp"

namespace arvek {

class AnyGame;
struct Profile;

/// What a chooser is asked.
template <class G>
struct Choice {
    /// Not finished, and a player's turn. In a game with views one that agrees with what is seen, always the same for the
    /// same view: who wants to know more draws worlds from `view`.
    const typename G::Position& position;
    std::span<const typename G::Position> earlier;   ///< of the game before it, oldest first
    const Limits& limits;                            ///< for one that looks ahead; the stop token for all
    const SearchRequest<typename G::Move>& request;  ///< the seed, the moves to choose from, what else is asked
    const Seen<G>* view = nullptr;                   ///< what the player sees; null where all is in sight
};

/// What an opponent chooses by.
template <class G>
class Chooser {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    virtual ~Chooser() = default;

    /// A legal move, and the legal moves ranked, the best first. With `request.only`, a move among those. A ranking
    /// with scores or worths (Decision::has_scores, has_worths) lets a level pick a worse move in proportion to how
    /// much it costs; without, a level asks again for the moves that it sees. The same question gives the same answer.
    virtual Decision<Move> choose(const Choice<G>& now) = 0;

    /// Is told what was played in the end, which a level may have changed.
    virtual void remember(const Choice<G>&, const Decision<Move>&) {}
};

/// What is known of a chooser without any game.
struct ChooserInfo {
    std::string name{};                 ///< lower-case letters, digits and underscores
    std::string about{};                ///< what it chooses by, in a few words
    std::vector<Ability> needs{};       ///< of the game; without them it cannot be had
    bool looks_ahead = false;           ///< whether limits of depth, nodes and time mean something to it
    bool plays_out = false;             ///< whether a limit of playouts does, rather than one of depth
    bool sees_all = false;              ///< whether it can only choose where all is in sight
    bool has_levels = true;             ///< whether levels below the highest can be had
    bool weighs_chance = true;          ///< whether it can choose in a game of chance
    int least_players = 1;              ///< of the games it is for
    int most_players = max_players;     ///< seats of a game at the most
    std::vector<OptionInfo> options{};  ///< that it can be told
    /// The name of the chooser that it is in the game; null: itself. For one that takes what suits a game.
    std::string (*becomes)(const AnyGame& game) = nullptr;
};

/// What a chooser is made from, besides the game.
struct ChooserSetup {
    Options options{};                 ///< every option that its ChooserInfo has, defaults filled in
    int level = highest_level;         ///< for rules and suggestions that are asleep below one
    const Profile* profile = nullptr;  ///< the file, where the opponent is one of a file
    std::string state{};               ///< what it remembers from before, for rules: "phase=2 turn=31"
};

}  // namespace arvek
