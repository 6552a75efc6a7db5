#pragma once
// SearchedTree: the upper part of the tree that a search really went through, for looking at.
//
//     arvek::SearchedTree<Move> tree(3);                              // the first three plies
//     search.decide(position, {.depth = 6}, {.tree = &tree});
//     for (const auto& node : tree.nodes()) ...
//
// It holds the last depth that was finished, as that decided. A search that is watched visits the same nodes as one
// that is not.

#include <algorithm>
#include <cstdint>
#include <vector>

#include "arvek/game/decision.hpp"
#include "arvek/game/player.hpp"

namespace arvek {

/// What became of a position in a search.
enum class Fate : std::uint8_t {
    Searched,    ///< its moves were looked at
    End,         ///< the game is over there
    Horizon,     ///< no plies were left, so it was evaluated
    Repetition,  ///< it came back, which counts as a draw
    Table        ///< it was known from the table
};

/// "searched", "end", "horizon", "repetition", "table".
const char* name_of(Fate fate);

/// A position that a search went through.
template <class Move>
struct SearchedNode {
    int parent = -1;                    ///< its place among the nodes; -1 for the position that was decided at
    int ply = 0;                        ///< moves from the position that was decided at
    Move move{};                        ///< that leads here
    Player player = Player::First;      ///< who made it
    Score score;                        ///< for that player
    ScoreKind kind = ScoreKind::Exact;  ///< exact, or a bound where the search had seen enough
    Fate fate = Fate::Searched;         ///< what became of it
    std::uint64_t nodes = 0;            ///< positions visited below, itself included; all its searches together
    int searches = 0;                   ///< how often it was searched: a test first, perhaps, then in full
    int moves = 0;                      ///< that were generated there
    int spared = 0;                     ///< of those, never looked at, because a cutoff came before
};

/// The upper part of a searched tree.
template <class Move>
class SearchedTree {
   public:
    using Node = SearchedNode<Move>;  ///< what it is made of

    /// Keeps the first `plies` plies (at least 1), and of them no more than `most_nodes` positions.
    explicit SearchedTree(int plies, std::size_t most_nodes = 200'000)
        : plies_(std::max(plies, 1)), most_nodes_(std::max<std::size_t>(most_nodes, 1)) {}

    /// Parents come before their children, and children in the order of their search.
    const std::vector<Node>& nodes() const { return nodes_; }
    /// The depth that the search had then, in plies; 0 when none was finished.
    int depth() const { return depth_; }
    int plies() const { return plies_; }                    ///< that are kept
    std::size_t most_nodes() const { return most_nodes_; }  ///< that are kept at the most
    /// Whether positions were left out because there were too many.
    bool is_partial() const { return partial_; }

    /// Takes over a tree of the same search whose moves are of another type; `converted(move)` gives those of this one.
    template <class Other, class Converted>
    void take_over(const SearchedTree<Other>& other, Converted converted) {
        nodes_.clear();
        nodes_.reserve(other.nodes().size());
        for (const auto& node : other.nodes())
            nodes_.push_back({node.parent, node.ply, converted(node.move), node.player, node.score, node.kind,
                              node.fate, node.nodes, node.searches, node.moves, node.spared});
        depth_ = other.depth();
        partial_ = other.is_partial();
    }

    // What follows is for searches.

    /// Begins a depth: what is written from now on shows when it is finished.
    void begin(Player to_move) {
        growing_.assign(1, Growing{});
        growing_[0].node.player = rival_of(to_move);
        here_ = 0;
        growing_partial_ = false;
    }
    /// A search to `depth` has come to its end: it is what nodes() gives from now on.
    void finish(int depth, int moves) {
        growing_[0].node.moves = moves;
        growing_[0].node.searches = 1;
        depth_ = depth;
        partial_ = growing_partial_;
        nodes_.clear();
        std::vector<int> places(growing_.size(), -1);
        for (std::size_t i = 0; i < growing_.size(); ++i) {
            Node node = growing_[i].node;
            if (i > 0) {
                node.parent = places[static_cast<std::size_t>(node.parent)];
                if (growing_[i].replaced || node.parent < 0) continue;
            }
            places[i] = static_cast<int>(nodes_.size());
            nodes_.push_back(node);
        }
        for (std::size_t i = nodes_.size(); i-- > 1;)
            if (nodes_[i].ply == 1) nodes_[0].nodes += nodes_[i].nodes;
        ++nodes_[0].nodes;
    }

    /// The search goes to the position after `move`; false if that is not kept.
    bool enter(Player player, const Move& move, int ply, std::uint64_t nodes_so_far) {
        Growing entry;
        // The same move again at the same place takes the place of its earlier search.
        for (int child = growing_[at(here_)].last_child; child >= 0; child = growing_[at(child)].before)
            if (!growing_[at(child)].replaced && growing_[at(child)].node.move == move) {
                growing_[at(child)].replaced = true;
                entry.node.nodes = growing_[at(child)].node.nodes;
                entry.node.searches = growing_[at(child)].node.searches;
                break;
            }
        if (growing_.size() >= most_nodes_) {
            growing_partial_ = true;
            return false;
        }
        entry.node.parent = here_;
        entry.node.ply = ply;
        entry.node.move = move;
        entry.node.player = player;
        ++entry.node.searches;
        entry.nodes_before = nodes_so_far;
        entry.before = growing_[at(here_)].last_child;
        growing_[at(here_)].last_child = static_cast<int>(growing_.size());
        here_ = static_cast<int>(growing_.size());
        growing_.push_back(entry);
        return true;
    }
    /// The search leaves the position that it entered last, with what it found.
    void leave(Score score, ScoreKind kind, std::uint64_t nodes_so_far) {
        Growing& entry = growing_[at(here_)];
        entry.node.score = score;
        entry.node.kind = kind;
        entry.node.nodes += nodes_so_far - entry.nodes_before;
        here_ = entry.node.parent;
    }
    /// What became of the position that the search is in.
    void note(Fate fate) { growing_[at(here_)].node.fate = fate; }
    /// How many moves there are where the search is, and how many of them a cutoff spared.
    void note_moves(std::size_t moves, std::size_t spared) {
        growing_[at(here_)].node.moves = static_cast<int>(moves);
        growing_[at(here_)].node.spared = static_cast<int>(spared);
    }

   private:
    struct Growing {
        Node node;
        std::uint64_t nodes_before = 0;
        int last_child = -1;
        int before = -1;  ///< the child of the same parent before it
        bool replaced = false;
    };

    static std::size_t at(int place) { return static_cast<std::size_t>(place); }

    int plies_;
    std::size_t most_nodes_;
    std::vector<Growing> growing_ = std::vector<Growing>(1);
    int here_ = 0;
    bool growing_partial_ = false;
    std::vector<Node> nodes_;
    int depth_ = 0;
    bool partial_ = false;
};

}  // namespace arvek
