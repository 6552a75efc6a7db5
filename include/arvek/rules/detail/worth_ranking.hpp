#pragma once
// The legal moves of a position, ranked by what suggestions or features find them worth.

#include <algorithm>
#include <span>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/decision.hpp"
#include "arvek/game/input_error.hpp"
#include "arvek/game/missing.hpp"
#include "arvek/game/random.hpp"
#include "arvek/game/text.hpp"

namespace arvek::detail {

template <Game G>
class WorthRanking {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;

    /// `only`: some legal moves; none: all of them.
    WorthRanking(const G& game, const Position& position, std::span<const Move> only = {})
        : game_(game), position_(position), is_of_all_(only.empty()) {
        const MoveList<Move> legal = moves_to_choose_from(game, position);
        if (is_of_all_) only = {legal.begin(), legal.end()};
        decision_.ranked.resize(only.size());
        most_.resize(only.size());
        for (std::size_t i = 0; i < only.size(); ++i) decision_.ranked[i].move = only[i];
    }

    std::vector<RankedMove<Move>>& all() { return decision_.ranked; }

    /// The entry of a move; nullptr for a legal one that is not among those to choose from. Throws InputError when it is
    /// not legal.
    RankedMove<Move>* find(const Move& move, const std::string& reason) {
        const auto at = std::find_if(decision_.ranked.begin(), decision_.ranked.end(),
                                     [&](const auto& entry) { return entry.move == move; });
        if (at != decision_.ranked.end()) return &*at;
        if (is_of_all_ || !legal_moves(game_, position_).contains(move))
            throw InputError("suggestions", "'" + reason + "' proposes a move that is not legal", "legal moves alone");
        return nullptr;
    }

    void add(RankedMove<Move>& entry, const std::string& reason, double worth, std::string text) {
        double& most = most_[static_cast<std::size_t>(&entry - decision_.ranked.data())];
        if (entry.reasons.empty() || worth > most) {
            most = worth;
            entry.reason = reason;
        }
        entry.worth += worth;
        entry.reasons.push_back(std::move(text));
    }

    /// Of the moves worth the most the seed chooses one. `otherwise`: what chose where nothing was added.
    Decision<Move> decision(std::uint64_t seed, const char* otherwise) {
        std::stable_sort(decision_.ranked.begin(), decision_.ranked.end(),
                         [](const auto& a, const auto& b) { return a.worth > b.worth; });
        const auto equals = std::count_if(decision_.ranked.begin(), decision_.ranked.end(), [&](const auto& entry) {
            return entry.worth == decision_.ranked.front().worth;
        });
        const auto pick = Random(seed).below(static_cast<std::uint64_t>(equals));
        std::swap(decision_.ranked.front(), decision_.ranked[static_cast<std::size_t>(pick)]);
        for (auto& entry : decision_.ranked) {
            entry.line = {entry.move};
            if (entry.reason.empty()) entry.reason = otherwise;
        }
        decision_.move = decision_.ranked.front().move;
        decision_.chosen_by = decision_.ranked.front().reason;
        decision_.has_worths = true;
        decision_.stats.stopped_by = StoppedBy::Rule;
        return std::move(decision_);
    }

   private:
    const G& game_;
    const Position& position_;
    bool is_of_all_;
    Decision<Move> decision_;
    std::vector<double> most_;
};

}  // namespace arvek::detail
