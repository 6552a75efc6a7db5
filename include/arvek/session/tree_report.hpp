#pragma once
// The searched tree as something to look at: what matters of it, in texts, and its drawing (picture/tree_picture.hpp).
//
//     arvek::SearchedTree<Move> tree(3);
//     auto decision = search.decide(position, {.depth = 6}, {.tree = &tree});
//     arvek::write_tree_picture("why.svg", arvek::tree_report(game, position, tree, decision));
//
// A searched tree is far too large to look at. The picture keeps the chosen line, then the positions that took most of
// the search; of the others each position says how many there were ("and 37 more"). All scores are seen by the player
// who decided; with more than two players, where one's loss is nobody's gain in particular, by whoever moved. Where the
// game has views, positions are worlds that agree with what the player who decided sees, never the true one.

#include <cstdint>
#include <string>
#include <utility>
#include <vector>

#include "arvek/game/players.hpp"
#include "arvek/game/text.hpp"
#include "arvek/game/view.hpp"
#include "arvek/search/searched_tree.hpp"

namespace arvek {

/// One position of a tree report.
struct ReportedNode {
    int parent = -1;                    ///< its place in the report; -1 for the position that was decided at
    int ply = 0;                        ///< moves from the position that was decided at
    std::string move;                   ///< that leads here
    std::string player;                 ///< who made it
    std::string to_move;                ///< whose turn it is here; empty where the game is over
    bool own = false;                   ///< whether it is the turn of the player who decided
    Score score;                        ///< for the player who decided, or for `player` (TreeReport::each_for_itself)
    ScoreKind kind = ScoreKind::Exact;  ///< exact, or a bound
    Fate fate = Fate::Searched;         ///< what became of it
    bool on_line = false;               ///< part of the chosen line
    std::uint64_t positions = 0;        ///< visited below, itself included
    int searches = 0;                   ///< how often it was searched
    std::vector<std::string> spared;    ///< moves that a cutoff made irrelevant
    int more = 0;                       ///< further moves that were searched and are not in the report
    std::uint64_t more_positions = 0;   ///< visited below those
};

/// The searched tree as texts.
struct TreeReport {
    std::string title;                ///< whose decision it is, as people call it
    std::string to_move;              ///< who decided
    std::string move;                 ///< that was chosen
    int depth = 0;                    ///< plies of the search
    int plies = 0;                    ///< plies of it that were kept
    double scores_per_point = 0.0;    ///< as in a Decision
    bool by_playouts = false;         ///< whether what is counted is playouts rather than positions
    bool each_for_itself = false;     ///< whether scores are for whoever moved, as there are more than two players
    std::vector<ReportedNode> nodes;  ///< parents before children, children in the order of the search
};

namespace detail {

/// How many worlds a tree of hidden hands is shown in.
inline constexpr int worlds_of_tree = 64;

/// Positions that a tree stands for: the one that was decided at, or worlds that agree with what is seen there.
template <Game G>
std::vector<typename G::Position> worlds_behind(const G& game, const typename G::Position& position) {
    if constexpr (ViewedGame<G>) {
        if (has_views(game)) {
            const auto view = game.view(position, game.player_to_move(position));
            Random random(1);  // the same that a search of hidden hands shows its tree by
            std::vector<typename G::Position> worlds;
            for (int i = 0; i < worlds_of_tree; ++i) worlds.push_back(game.sample(view, random));
            return worlds;
        }
    }
    return {position};
}

/// Those of the worlds in which the move can be made, after it.
template <Game G>
std::vector<typename G::Position> worlds_after(const G& game, std::vector<typename G::Position> worlds,
                                               const typename G::Move& move) {
    std::vector<typename G::Position> after;
    const bool open = !has_views(game);
    for (auto& world : worlds) {
        if (!open && !legal_moves(game, world).contains(move)) continue;
        game.play(world, move);
        after.push_back(std::move(world));
    }
    return after;
}

/// The bare shape of a searched tree.
struct TreeShape {
    int parent;
    std::uint64_t positions;
    bool on_line;
};

/// Which nodes to show, no more than `most`: the line, then what took most of the search.
std::vector<bool> nodes_to_show(const std::vector<TreeShape>& nodes, std::size_t most);

}  // namespace detail

/// The least and the most nodes that a report may be asked for.
inline constexpr std::size_t least_tree_nodes = 2;
/// The most positions that a report may have.
inline constexpr std::size_t most_tree_nodes = 10'000;

/// What matters of the tree that was searched at `position`, at most `most_nodes` positions of it.
template <TextGame G>
TreeReport tree_report(const G& game, const typename G::Position& position, const SearchedTree<typename G::Move>& tree,
                       const Decision<typename G::Move>& decision, std::size_t most_nodes = 24) {
    using Move = typename G::Move;
    const auto& nodes = tree.nodes();
    const Player decider = game.player_to_move(position);
    TreeReport report;
    report.to_move = player_name_of(game, decider);
    report.move = game.move_text(position, decision.move);
    report.depth = tree.depth();
    report.plies = tree.plies();

    std::vector<detail::TreeShape> shape;
    const std::vector<Move>& line = decision.ranked.front().line;
    for (const auto& node : nodes) {
        const bool on_line = node.parent < 0 || (shape[static_cast<std::size_t>(node.parent)].on_line &&
                                                 static_cast<std::size_t>(node.ply) <= line.size() &&
                                                 line[static_cast<std::size_t>(node.ply) - 1] == node.move);
        shape.push_back({node.parent, node.nodes, on_line});
    }
    const std::vector<bool> shown = detail::nodes_to_show(shape, most_nodes);

    std::vector<int> places(nodes.size(), -1);
    std::vector<std::vector<typename G::Position>> worlds;
    report.each_for_itself = players_of(game) > 2;
    for (std::size_t i = 0; i < nodes.size(); ++i) {
        const auto& node = nodes[i];
        if (!shown[i]) {
            if (node.parent < 0 || places[static_cast<std::size_t>(node.parent)] < 0) continue;
            auto& parent = report.nodes[static_cast<std::size_t>(places[static_cast<std::size_t>(node.parent)])];
            ++parent.more;
            parent.more_positions += node.nodes;
            continue;
        }
        if (node.parent >= 0 && places[static_cast<std::size_t>(node.parent)] < 0) continue;
        places[i] = static_cast<int>(report.nodes.size());
        ReportedNode drawn;
        std::vector<typename G::Position> behind;
        if (node.parent >= 0) {
            drawn.parent = places[static_cast<std::size_t>(node.parent)];
            const auto& before = worlds[static_cast<std::size_t>(drawn.parent)];
            drawn.move = game.move_text(before.front(), node.move);
            behind = detail::worlds_after(game, before, node.move);
            if (behind.empty()) {  // in none of these worlds; those below it neither
                places[i] = -1;
                continue;
            }
        } else {
            behind = detail::worlds_behind(game, position);
        }
        const typename G::Position& here = behind.front();
        drawn.ply = node.ply;
        drawn.player = player_name_of(game, node.player);
        if (drawn.parent >= 0 && chance_is_next(game, worlds[static_cast<std::size_t>(drawn.parent)].front()))
            drawn.player = "chance";
        if (!game.outcome(here) && chance_is_next(game, here)) {
            drawn.to_move = "chance";
        } else if (!game.outcome(here)) {
            drawn.to_move = player_name_of(game, game.player_to_move(here));
            drawn.own = game.player_to_move(here) == decider;
        }
        const bool turned = node.player != decider && !report.each_for_itself;
        drawn.score = turned ? -node.score : node.score;
        drawn.kind = node.kind;
        if (turned && node.kind == ScoreKind::Lower) drawn.kind = ScoreKind::Upper;
        if (turned && node.kind == ScoreKind::Upper) drawn.kind = ScoreKind::Lower;
        drawn.fate = node.fate;
        drawn.on_line = shape[i].on_line;
        drawn.positions = node.nodes;
        drawn.searches = node.searches;
        if (node.spared > 0) {
            MoveList<Move> moves = legal_moves(game, here);
            for (const Move& move : moves) {
                bool searched = false;
                for (std::size_t child = i + 1; child < nodes.size() && !searched; ++child)
                    searched = nodes[child].parent == static_cast<int>(i) && nodes[child].move == move;
                if (!searched) drawn.spared.push_back(game.move_text(here, move));
            }
            // At the last ply that was kept the moves that were searched are not known.
            if (drawn.spared.size() != static_cast<std::size_t>(node.spared))
                drawn.spared.assign(static_cast<std::size_t>(node.spared), std::string());
        }
        report.nodes.push_back(std::move(drawn));
        worlds.push_back(std::move(behind));
    }
    report.scores_per_point = decision.scores_per_point;
    report.by_playouts = decision.has_visits;
    if (!report.nodes.empty() && !decision.ranked.empty()) {
        report.nodes.front().score = decision.ranked.front().score;
        report.nodes.front().kind = decision.ranked.front().kind;
    }
    return report;
}

}  // namespace arvek
