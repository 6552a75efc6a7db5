#pragma once
// The positions around one, each once, and what they are worth with best play as far as that can be told from them.

#include <algorithm>
#include <cstdint>
#include <string>
#include <unordered_map>
#include <utility>
#include <vector>

#include "arvek/game/chance.hpp"
#include "arvek/game/hashing.hpp"
#include "arvek/game/repetition.hpp"
#include "arvek/game/text.hpp"
#include "findings.hpp"

namespace arvek::detail {

/// What a payoff is with best play, as far as is known: expected, where there is chance.
struct Worth {
    double least = 0, most = 0;
    bool is_known() const { return least == most; }
    Worth opposite() const { return {-most, -least}; }
};

class ValueGraph {
   public:
    struct Node {
        AnyPosition position;
        std::size_t before = 0;  ///< the node from which it was met first
        AnyMove move{};          ///< and by which move
        std::vector<std::pair<AnyMove, std::size_t>> after{};
        std::vector<double> probabilities{};  ///< of events
        enum class Kind : std::uint8_t { Open, Finished, Own, Rivals, Chance } kind = Kind::Open;
        Worth worth{};  ///< for the first player
    };

    /// Positions in the order of their distance, until there are so many or `enough()`.
    template <class Enough>
    ValueGraph(const AnyGame& game, const AnyPosition& from, std::size_t most_nodes, const Enough& enough)
        : game_(game), most_(most_payoff_of(game)) {
        (void)place_of(from, 0, {}, most_nodes);
        for (std::size_t i = 0; i < nodes_.size() && !enough(); ++i) grow(i, most_nodes);
        settle(enough);
    }

    const std::vector<Node>& nodes() const { return nodes_; }
    /// Whether every position that can be reached is there.
    bool is_closed() const { return closed_; }
    Worth unknown() const { return {-most_, most_}; }

    /// The moves from where it began to a node.
    Path path_to(std::size_t node) const {
        Path path;
        for (; node != 0; node = nodes_[node].before) path.push_back(nodes_[node].move);
        std::reverse(path.begin(), path.end());
        return path;
    }

    /// Where an equal position is, or the number of nodes.
    std::size_t find(const AnyPosition& position) const {
        const auto [first, last] = places_.equal_range(key_of(position));
        for (auto at = first; at != last; ++at)
            if (nodes_[at->second].position == position) return at->second;
        return nodes_.size();
    }

   private:
    static constexpr std::size_t nowhere = SIZE_MAX;

    std::uint64_t key_of(const AnyPosition& position) const {
        if (offers(game_, Ability::Text)) return hash_of_text(game_.position_text(position));
        return offers(game_, Ability::Hash) ? game_.hash(position) : 0;
    }

    std::size_t place_of(const AnyPosition& position, std::size_t before, const AnyMove& move, std::size_t most_nodes) {
        if (const std::size_t known = find(position); known < nodes_.size()) return known;
        if (nodes_.size() >= most_nodes) return nowhere;
        places_.emplace(key_of(position), nodes_.size());
        Node node;
        node.position = position;
        node.before = before;
        node.move = move;
        node.worth = unknown();
        nodes_.push_back(std::move(node));
        return nodes_.size() - 1;
    }

    void grow(std::size_t at, std::size_t most_nodes) {
        const AnyPosition position = nodes_[at].position;
        if (const auto outcome = game_.outcome(position)) {
            nodes_[at].kind = Node::Kind::Finished;
            const double payoff = outcome->payoff(Player::First);
            nodes_[at].worth = {payoff, payoff};
            return;
        }
        MoveList<AnyMove> moves;
        std::vector<double> probabilities;
        const bool chance = chance_is_next(game_, position);
        if (chance) {
            MoveList<Event<AnyMove>> events;
            list_events(game_, position, events);
            for (const auto& event : events) {
                moves.push_back(event.move);
                probabilities.push_back(event.probability);
            }
        } else {
            game_.generate_moves(position, moves);
        }
        std::vector<std::pair<AnyMove, std::size_t>> after;
        for (const AnyMove& move : moves) {
            AnyPosition next = position;
            game_.play(next, move);
            const std::size_t place = place_of(next, at, move, most_nodes);
            if (place == nowhere) return;  // stays open: something after it is not there
            after.emplace_back(move, place);
        }
        if (after.empty()) return;
        Node& node = nodes_[at];
        node.after = std::move(after);
        node.probabilities = std::move(probabilities);
        node.kind = chance                                            ? Node::Kind::Chance
                    : game_.player_to_move(position) == Player::First ? Node::Kind::Own
                                                                      : Node::Kind::Rivals;
    }

    /// Bounds that hold after every round, until a round changes nothing. Play without end counts as a draw where
    /// positions repeat and there is no chance: what can be forced in so many plies can be forced in more.
    template <class Enough>
    void settle(const Enough& enough) {
        closed_ = true;
        const bool draws = draw_at_occurrence_of(game_) > 0 && !has_chance(game_);
        for (Node& node : nodes_) {
            closed_ = closed_ && node.kind != Node::Kind::Open;
            if (draws && node.kind != Node::Kind::Open && node.kind != Node::Kind::Finished) node.worth = {0, 0};
        }
        std::vector<Worth> now(nodes_.size());
        constexpr int most_rounds = 2'000;
        bool changed = true;
        int round = 0;
        for (; changed && round < most_rounds && !enough(); ++round) {
            changed = false;
            for (std::size_t i = 0; i < nodes_.size(); ++i) {
                now[i] = worth_after(nodes_[i]);
                changed = changed || now[i].least != nodes_[i].worth.least || now[i].most != nodes_[i].worth.most;
            }
            for (std::size_t i = 0; i < nodes_.size(); ++i) nodes_[i].worth = now[i];
        }
        // A draw that was only assumed is known when nothing changes any more.
        if (draws && changed)
            for (Node& node : nodes_)
                if (node.kind != Node::Kind::Finished) node.worth = unknown();
    }

    Worth worth_after(const Node& node) const {
        if (node.kind == Node::Kind::Open || node.kind == Node::Kind::Finished) return node.worth;
        if (node.kind == Node::Kind::Chance) {
            Worth mean{0, 0};
            for (std::size_t i = 0; i < node.after.size(); ++i) {
                const Worth& worth = nodes_[node.after[i].second].worth;
                mean.least += node.probabilities[i] * worth.least;
                mean.most += node.probabilities[i] * worth.most;
            }
            return mean;
        }
        const bool own = node.kind == Node::Kind::Own;
        Worth best{own ? -most_ : most_, own ? -most_ : most_};
        for (const auto& [move, place] : node.after) {
            const Worth& worth = nodes_[place].worth;
            best.least = own ? std::max(best.least, worth.least) : std::min(best.least, worth.least);
            best.most = own ? std::max(best.most, worth.most) : std::min(best.most, worth.most);
        }
        return best;
    }

    const AnyGame& game_;
    double most_;
    std::vector<Node> nodes_;
    std::unordered_multimap<std::uint64_t, std::size_t> places_;
    bool closed_ = false;
};

}  // namespace arvek::detail
