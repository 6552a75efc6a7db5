#pragma once
// The tool's view of a game whose type it does not know. What crosses this border is a whole decision, count or match,
// or one step of a person's game; never a move inside a search.

#include <functional>
#include <memory>
#include <string>
#include <string_view>
#include <vector>

#include "arvek/lab/check_report.hpp"
#include "arvek/opponent/opponent.hpp"
#include "arvek/picture/tree_picture.hpp"
#include "arvek/tool/report.hpp"

namespace arvek::tool {

/// One game in progress.
class Table {
   public:
    virtual ~Table() = default;

    virtual std::string position() const = 0;
    virtual std::string drawing() const = 0;
    virtual Player player_to_move() const = 0;
    virtual std::optional<Ending> ending() const = 0;
    virtual std::vector<std::string> legal_moves() const = 0;
    virtual std::vector<std::string> moves_played() const = 0;

    /// Plays a move given as text. Throws InputError, and changes nothing, when it is not legal.
    virtual void play(std::string_view move) = 0;
    /// Draws and plays one event where chance is next; its text, or nothing where a player is to move or play is over.
    virtual std::optional<std::string> let_chance_act(Random& random) = 0;
    virtual bool chance_is_next() const = 0;
    /// Takes the last move, or event, back; false when there is none.
    virtual bool take_back() = 0;

    virtual DecisionReport decide(const OpponentSpec& spec, std::uint64_t seed, const OpponentMeans& means) const = 0;
    /// The same, and a picture of the tree that was searched; the first `plies` plies of it, at most `nodes` positions.
    virtual DecisionReport decide(const OpponentSpec& spec, std::uint64_t seed, const OpponentMeans& means, int plies,
                                  std::size_t nodes, TreePicture& picture) const = 0;
    /// Throws InputError when the game can not have such an opponent.
    virtual void check_opponent(const OpponentSpec& spec) const = 0;
    /// Throws InputError when a table is asked for and the game has no hash.
    virtual std::vector<SequenceCount> count(int depth, bool with_table) const = 0;
    /// Throws InputError when the game has no hash, which solving needs.
    virtual SolutionReport solve(const SolveOptions& options) const = 0;
    /// `openings`: sequences of moves as text, by which the pairs of games begin. Throws InputError for a move in them
    /// that is not legal. `seen` is called as games end, never twice at once.
    virtual MatchResult match(const OpponentSpec& a, const OpponentSpec& b, const MatchOptions& options,
                              const std::vector<std::vector<std::string>>& openings,
                              const std::function<void(const GameRecord&)>& seen) const = 0;
};

/// A game with its parameters set.
class GameHandle {
   public:
    virtual ~GameHandle() = default;

    virtual std::vector<Setting> settings() const = 0;
    virtual std::string player_name(Player player) const = 0;
    virtual bool has_chance() const = 0;
    virtual std::unique_ptr<Table> initial_table() const = 0;
    virtual CheckReport check(const CheckOptions& options) const = 0;
    /// Throws InputError for a text that is no position.
    virtual std::unique_ptr<Table> table_at(std::string_view position) const = 0;
};

/// A game that the tool offers.
class GameEntry {
   public:
    GameEntry(std::string name, std::string summary) : name_(std::move(name)), summary_(std::move(summary)) {}
    virtual ~GameEntry() = default;

    const std::string& name() const { return name_; }
    const std::string& summary() const { return summary_; }
    const std::vector<ParameterInfo>& parameters() const { return parameters_; }

    /// The game with `settings` (texts of "name=value") over the defaults. Throws InputError for what is unknown or
    /// wrong.
    virtual std::unique_ptr<GameHandle> open(const std::vector<std::string>& settings) const = 0;

   protected:
    /// Reads "name=value" and gives back the number of the parameter and the value as a number (for true and false 1
    /// and 0, for a text 0).
    std::pair<std::size_t, int> read_setting(std::string_view text) const;

    std::vector<ParameterInfo> parameters_;

   private:
    std::string name_;
    std::string summary_;
};

}  // namespace arvek::tool
