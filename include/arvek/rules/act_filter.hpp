#pragma once
// ActFilter: which actions a rule is for, by names of actors, actions, kinds and targets.
//
//     arvek::ActFilter filter{.actors = {"Bram", "Nessa"}, .no_actions = {"dig-in"}};

#include <string>
#include <vector>

#include "arvek/game/acting.hpp"

namespace arvek {

/// What is empty asks nothing. Of a list of names one must fit; of the lists "no" none may.
struct ActFilter {
    std::vector<std::string> actors{}, actions{}, kinds{}, targets{};  ///< of each list one must fit, where it has any
    std::vector<std::string> no_actors{}, no_actions{}, no_kinds{}, no_targets{};  ///< none may fit

    /// Whether it lets everything through.
    bool asks_nothing() const {
        return actors.empty() && actions.empty() && kinds.empty() && targets.empty() && no_actors.empty() &&
               no_actions.empty() && no_kinds.empty() && no_targets.empty();
    }
};

/// A filter whose names were looked up.
class BoundActFilter {
   public:
    /// Lets everything through.
    BoundActFilter() = default;
    /// Throws InputError for a name that the game does not have.
    BoundActFilter(const ActFilter& filter, const ActNames& names);

    bool asks_nothing() const { return asks_nothing_; }  ///< whether it lets everything through
    /// Whether it lets an act through.
    bool fits(const Act& act) const {
        return fits(actors_, act.actor) && fits(actions_, act.action) && fits(targets_, act.target) &&
               (kinds_ == 0 || (act.kinds & kinds_) != 0) && (act.kinds & no_kinds_) == 0;
    }
    /// Whether somebody is asked for.
    bool fits_actor(const Act& act) const { return fits(actors_, act.actor); }
    /// "douse by Bram"; what it asks for.
    const std::string& text() const { return text_; }
    /// Why none of the acts fits, of which there is one at least.
    std::string why_none(const std::vector<Act>& acts) const;

   private:
    /// By place of a name: whether it is let through. Empty: all are, and so are those without a place.
    using Admitted = std::vector<char>;
    static bool fits(const Admitted& admitted, std::size_t place) {
        return admitted.empty() || admitted[place < admitted.size() - 1 ? place : admitted.size() - 1] != 0;
    }

    bool asks_nothing_ = true;
    Admitted actors_, actions_, targets_;  ///< the last is for what has no place
    std::uint64_t kinds_ = 0, no_kinds_ = 0;
    std::vector<std::string> actor_names_;
    std::string text_, actor_text_;
    std::string unavailable_;  ///< why none fits, where somebody who may act does
};

}  // namespace arvek
