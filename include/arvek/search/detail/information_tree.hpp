#pragma once
// The Monte Carlo tree of a game with views: see search/monte_carlo.hpp. Each playout begins in a world drawn from the
// view; what the tree remembers is kept by what a player sees, so that worlds which look alike share it.
//
// Source: Cowling, Powley, Whitehouse (2012), "Information Set Monte Carlo Tree Search".

#include <algorithm>
#include <span>
#include <vector>

#include "arvek/game/chance.hpp"
#include "arvek/game/players.hpp"
#include "arvek/game/text.hpp"
#include "arvek/game/view.hpp"
#include "arvek/search/detail/random_play.hpp"
#include "arvek/search/detail/sampling.hpp"
#include "arvek/search/detail/sampling_choice.hpp"
#include "arvek/search/detail/way_down.hpp"
#include "arvek/search/evaluator.hpp"

namespace arvek::detail {

/// What a tree remembers: moves by what was seen when they were made.
template <class Move>
struct InformationMemory {
    struct Edge {
        Move move{};
        std::uint32_t next = 0;  ///< the next move of the same place; 0: none
        std::uint32_t visits = 0;
        std::uint32_t available = 0;  ///< how often the move was legal when its place was met
        double sum = 0;
    };
    struct Place {
        std::uint64_t key = 0;
        std::uint32_t first = 0;  ///< of its edges
        std::uint32_t next = 0;   ///< of those with the same bucket
    };

    explicit InformationMemory(std::size_t mebibytes) {
        const std::size_t bytes = mebibytes * 1024 * 1024;
        most_edges = bytes / 2 / sizeof(Edge);
        most_places = bytes / 4 / sizeof(Place);
        std::size_t count = 1024;
        while (count * 2 * sizeof(std::uint32_t) <= bytes / 4) count *= 2;
        buckets.assign(count, 0);
        edges.resize(1);
        places.resize(1);
    }
    void clear() {
        for (const Place& place : places) buckets[place.key & (buckets.size() - 1)] = 0;
        edges.resize(1);
        places.resize(1);
    }

    std::vector<Edge> edges;
    std::vector<Place> places;
    std::vector<std::uint32_t> buckets;
    std::size_t most_edges = 0, most_places = 0;
};

template <ViewedGame G>
class InformationTree {
   public:
    using Position = typename G::Position;
    using Move = typename G::Move;
    using View = typename G::View;

    using Memory = InformationMemory<Move>;
    using Edge = typename Memory::Edge;

    InformationTree(const G& game, const SamplingRules& rules, const ValueAxis& axis, TreeSight sight,
                    const Evaluator<G>* evaluator, Memory& memory)
        : game_(game),
          rules_(rules),
          axis_(axis),
          sight_(sight),
          evaluator_(evaluator),
          players_(static_cast<std::size_t>(players_of(game))),
          way_(game, {}),
          edges_(memory.edges),
          places_(memory.places),
          buckets_(memory.buckets),
          most_edges_(memory.most_edges),
          most_places_(memory.most_places) {
        memory.clear();
    }

    void begin(const View& view, std::span<const Move> only, std::uint64_t seed, const Limits& limits) {
        view_ = view;
        only_ = only;
        play = RandomPlay<G>(seed, limits);
        met = axis_.usual_range();
        playouts = 0;
        root_ = 0;
        deepest = 0;
        const Position position = game_.sample(view_, play.random);
        decider_ = game_.player_to_move(position);
    }

    RandomPlay<G> play{1};
    PayoffRange met;  ///< the payoffs that are usual, and all that were met
    std::uint64_t playouts = 0;
    int deepest = 0;

    /// One playout in a world of its own. False where the nodes ran out in the middle.
    bool iterate() {
        Position position = game_.sample(view_, play.random);
        path_.clear();
        way_.shorten(0);
        SampledValues values{};
        for (;;) {
            if (const auto outcome = game_.outcome(position)) {
                values = axis_.values_of(*outcome);
                break;
            }
            if (way_.comes_back(position)) break;  // a draw pays nothing
            way_.enter(position);
            if (chance_is_next(game_, position)) {
                if (!play.spend()) return false;
                game_.play(position, drawn_event(game_, position, play.random));
                continue;
            }
            const Player mover = game_.player_to_move(position);
            bool is_new = false;
            const std::uint32_t place = place_of(position, mover, is_new);
            if (place == 0 || (is_new && !path_.empty())) {
                if (!value_of_leaf(position, values)) return false;
                break;
            }
            play.moves.clear();
            if (path_.empty() && !only_.empty())
                for (const Move& move : only_) play.moves.push_back(move);
            else
                game_.generate_moves(position, play.moves);
            if (play.moves.empty()) throw_no_move();
            const std::uint32_t edge = select(place);
            if (edge == 0) {  // no room for another move
                if (!value_of_leaf(position, values)) return false;
                break;
            }
            path_.push_back({edge, mover});
            if (!play.spend()) return false;
            game_.play(position, edges_[edge].move);
        }
        deepest = std::max(deepest, static_cast<int>(path_.size()));
        for (const auto& step : path_) {
            Edge& edge = edges_[step.edge];
            ++edge.visits;
            edge.sum += values[index_of(step.player)];
        }
        for (std::size_t i = 0; i < players_; ++i) met.include(values[i]);
        ++playouts;
        return true;
    }

    /// Of the first moves, in the order in which they were met.
    template <class Seen>
    void first_moves(Seen seen) const {
        if (root_ == 0) return;
        for (std::uint32_t at = places_[root_].first; at != 0; at = edges_[at].next) seen(edges_[at]);
    }
    std::size_t first_move_count() const {
        std::size_t count = 0;
        first_moves([&](const Edge&) { ++count; });
        return count;
    }

    /// A move after a line, over worlds in which the line can be played.
    struct Branch {
        Move move{};
        std::uint64_t visits = 0;
        double sum = 0;
    };
    /// Worlds that may be behind the view; always the same.
    std::vector<Position> worlds(std::size_t count) const {
        Random random(1);
        std::vector<Position> drawn;
        while (drawn.size() < count) drawn.push_back(game_.sample(view_, random));
        return drawn;
    }
    /// Plays the move in all worlds, and drops those in which it cannot be played, and those after it that go on in
    /// another way than the first.
    void follow(std::vector<Position>& worlds, const Move& move) const {
        std::vector<Position> kept;
        for (Position& world : worlds) {
            const auto legal = legal_moves(game_, world);
            if (!legal.contains(move)) continue;
            game_.play(world, move);
            if (kept.empty() || goes_on_like(world, kept[0])) kept.push_back(world);
        }
        worlds = std::move(kept);
    }
    /// The moves that were tried in any of the worlds, those that were visited most first; none where play is over, or
    /// chance is next.
    std::vector<Branch> branches(const std::vector<Position>& worlds) const {
        std::vector<Branch> found;
        std::vector<std::uint32_t> seen;
        if (worlds.empty() || game_.outcome(worlds[0]) || chance_is_next(game_, worlds[0])) return found;
        const Player mover = game_.player_to_move(worlds[0]);
        for (const Position& world : worlds) {
            const std::uint32_t place = find(key_of(world, mover));
            if (place == 0 || std::find(seen.begin(), seen.end(), place) != seen.end()) continue;
            seen.push_back(place);
            for (std::uint32_t at = places_[place].first; at != 0; at = edges_[at].next) {
                const Edge& edge = edges_[at];
                auto known = std::find_if(found.begin(), found.end(),
                                          [&](const Branch& branch) { return branch.move == edge.move; });
                if (known == found.end()) known = found.insert(found.end(), {edge.move});
                known->visits += edge.visits;
                known->sum += edge.sum;
            }
        }
        std::stable_sort(found.begin(), found.end(),
                         [](const Branch& a, const Branch& b) { return a.visits > b.visits; });
        return found;
    }

   private:
    struct Step {
        std::uint32_t edge;
        Player player;
    };

    bool goes_on_like(const Position& a, const Position& b) const {
        const bool over = game_.outcome(a).has_value();
        if (over != game_.outcome(b).has_value()) return false;
        if (over) return true;
        if (chance_is_next(game_, a) != chance_is_next(game_, b)) return false;
        return chance_is_next(game_, a) || game_.player_to_move(a) == game_.player_to_move(b);
    }

    std::uint64_t key_of(const Position& position, Player mover) const {
        const Player whose = sight_ == TreeSight::Mover ? mover : decider_;
        return mix_bits(view_key(game_.view(position, whose)) + index_of(mover));
    }
    std::uint32_t find(std::uint64_t key) const {
        for (std::uint32_t at = buckets_[key & (buckets_.size() - 1)]; at != 0; at = places_[at].next)
            if (places_[at].key == key) return at;
        return 0;
    }

    /// What is known of all positions that look like this one; 0 where there is no room for it.
    std::uint32_t place_of(const Position& position, Player mover, bool& is_new) {
        if (path_.empty() && root_ != 0) return root_;
        const std::uint64_t key = key_of(position, mover);
        if (const std::uint32_t known = find(key); known != 0) return known;
        if (places_.size() >= most_places_) return 0;
        std::uint32_t& bucket = buckets_[key & (buckets_.size() - 1)];
        places_.push_back({key, 0, bucket});
        bucket = static_cast<std::uint32_t>(places_.size() - 1);
        is_new = true;
        if (path_.empty()) root_ = bucket;
        return bucket;
    }

    /// Among the moves that are legal in this world; 0 where there is no room for one that is new.
    std::uint32_t select(std::uint32_t place) {
        std::uint32_t best = 0, last = 0;
        double most = -1e300;
        const float reach = rules_.exploration * axis_.spread(met);
        known_.assign(play.moves.size(), false);
        std::size_t known = 0;
        for (std::uint32_t at = places_[place].first; at != 0; at = edges_[at].next) {
            last = at;
            Edge& edge = edges_[at];
            std::size_t i = 0;
            while (i < play.moves.size() && !(play.moves[i] == edge.move)) ++i;
            if (i == play.moves.size()) continue;  // not legal in this world
            known_[i] = true;
            ++known;
            ++edge.available;
            const float visits = static_cast<float>(edge.visits);
            const double value =
                edge.sum / edge.visits +
                static_cast<double>(reach * root_of(unexplored(static_cast<float>(edge.available)) / visits));
            if (value > most) most = value, best = at;
        }
        if (known == play.moves.size() || edges_.size() >= most_edges_) return best;
        auto skip = play.pick(play.moves.size() - known);
        std::size_t pick = 0;
        while (known_[pick] || skip-- > 0) ++pick;
        Edge& edge = edges_.emplace_back();
        const auto made = static_cast<std::uint32_t>(edges_.size() - 1);
        edge.move = play.moves[pick];
        edge.available = 1;
        if (last == 0)
            places_[place].first = made;
        else
            edges_[last].next = made;
        return made;
    }

    bool value_of_leaf(Position& position, SampledValues& values) {
        if (!rules_.evaluates) return play.play_out(game_, evaluator_, axis_, position, values);
        values = evaluations(game_, evaluator_, axis_, position);
        return true;
    }

    const G& game_;
    const SamplingRules& rules_;
    const ValueAxis& axis_;
    TreeSight sight_;
    const Evaluator<G>* evaluator_;
    std::size_t players_;
    WayDown<G> way_;
    View view_{};
    Player decider_ = Player::First;
    std::span<const Move> only_{};
    std::vector<Edge>& edges_;
    std::vector<typename Memory::Place>& places_;
    std::vector<std::uint32_t>& buckets_;
    std::size_t most_edges_, most_places_;
    std::uint32_t root_ = 0;
    std::vector<Step> path_;
    std::vector<bool> known_;  ///< which of the moves the place has already
};

}  // namespace arvek::detail
