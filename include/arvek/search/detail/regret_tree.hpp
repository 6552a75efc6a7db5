#pragma once
// A game's tree with sets of positions that look alike, on which regrets are minimised: see search/equilibrium.hpp. Knows
// no game and is compiled once.

#include <array>
#include <cstdint>
#include <optional>
#include <string>
#include <vector>

#include "arvek/game/player.hpp"
#include "arvek/search/limits.hpp"

namespace arvek::detail {

struct RegretLimits {
    double exploitability = 0.0;
    int iterations = 1;
    std::optional<double> seconds{};
    Clock clock{};
    StopToken stop{};
};

struct RegretReport {
    double value = 0.0, exploitability = 0.0;
    int iterations = 0;
    bool complete = false;
    double seconds = 0.0;
    std::string stopped_by;
    std::vector<std::vector<double>> probabilities, values;  ///< by set and move
};

class RegretTree {
   public:
    std::uint32_t add_end(double payoff_of_first);
    std::uint32_t add_chance(const std::vector<double>& probabilities);
    std::uint32_t add_choice(std::uint32_t set);
    void set_child(std::uint32_t node, std::size_t place, std::uint32_t child) {
        children_[nodes_[node].first + place] = child;
    }
    void add_set(Player player, std::size_t moves);

    Player player_of(std::size_t set) const { return sets_[set].player; }
    std::size_t size() const { return nodes_.size(); }
    std::size_t bytes() const {
        return nodes_.size() * sizeof(Node) + children_.size() * (sizeof(std::uint32_t) + sizeof(double)) +
               sets_.size() * 200;
    }

    /// The first node that was added is the root. No set may be met again below itself.
    RegretReport minimise(const RegretLimits& limits);
    /// What a strategy of both players is worth; as above.
    RegretReport judge(std::vector<std::vector<double>> strategy);

   private:
    enum class Kind : std::uint8_t { End, Chance, Choice };
    struct Node {
        Kind kind;
        std::uint32_t set = 0;    ///< of a choice
        std::uint32_t first = 0;  ///< of its children
        std::uint32_t count = 0;
        double payoff = 0.0;  ///< of an end
    };
    /// A move behind a view.
    struct Choice {
        std::uint32_t set = 0, move = 0;
        friend bool operator==(const Choice&, const Choice&) = default;
    };
    struct Set {
        Player player;
        std::vector<double> regrets, current, sums;
        std::vector<std::uint32_t> nodes;
        std::vector<Choice> before;  ///< the last choices of the same player: one, where views forget nothing, or none
        double reached = 1.0;        ///< how likely the player's own moves lead here
    };

    std::uint32_t add(Node node, std::size_t children);
    using LastChoices = std::array<std::optional<Choice>, 2>;  ///< by player
    void find_choices_before(std::uint32_t at, const LastChoices& last);
    void add_to_means(Player player, double weight);
    double walk(std::uint32_t at, Player updated, double others);
    double mean_value(std::uint32_t at) const;
    std::vector<std::vector<double>> mean_strategy() const;
    double exploitability();
    void value_moves(RegretReport& report);
    double best_answer(Player player, std::vector<std::vector<double>>* values);
    double answer_value(std::uint32_t at, Player player);
    void choose_answer(std::uint32_t set, Player player);
    void reach(std::uint32_t at, Player player, double probability);

    std::vector<Node> nodes_;
    std::vector<std::uint32_t> children_;
    std::vector<double> probabilities_;  ///< beside the children, of chance
    std::vector<Set> sets_;
    // Of a best answer.
    std::vector<std::vector<double>> mean_;
    std::vector<double> reached_;  ///< by node: how likely chance and the other come to it
    std::vector<double> known_values_;
    std::vector<std::uint8_t> is_known_;
    std::vector<int> answers_;  ///< by set
};

}  // namespace arvek::detail
