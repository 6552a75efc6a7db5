// The tree that was searched, as the search that chose went through it, and its pictures.

#include <gtest/gtest.h>
#include <arvek/picture/tree_picture.hpp>
#include <arvek/search/alpha_beta.hpp>
#include <arvek/search/minimax.hpp>
#include <arvek/search/standard.hpp>

#include <filesystem>
#include <fstream>

#include "lanterns/lanterns.hpp"
#include "sluice/sluice.hpp"

using namespace arvek;
using waterway::Lanterns;
using waterway::Sluice;

namespace {

template <class Search, class G>
void expect_true_tree(const G& game, const typename G::Position& position, int depth) {
    using Move = typename G::Move;
    SearchedTree<Move> tree(depth);
    Search search(game);
    const auto plain = search.decide(position, {.depth = depth}, {.seed = 3});
    const auto decision = search.decide(position, {.depth = depth}, {.seed = 3, .tree = &tree});
    EXPECT_EQ(decision.stats.nodes, plain.stats.nodes) << "watching must not change the search";
    EXPECT_EQ(decision.move, plain.move);
    EXPECT_FALSE(tree.is_partial());
    ASSERT_FALSE(tree.nodes().empty());

    const auto& nodes = tree.nodes();
    std::vector<std::uint64_t> below(nodes.size(), 1);
    std::vector<int> children(nodes.size(), 0);
    for (std::size_t i = nodes.size(); i-- > 1;) {
        const auto& node = nodes[i];
        ASSERT_LT(node.parent, static_cast<int>(i));
        ++children[static_cast<std::size_t>(node.parent)];
        EXPECT_GE(node.nodes, below[i]);
        below[static_cast<std::size_t>(node.parent)] += below[i];
    }
    for (std::size_t i = 0; i < nodes.size(); ++i)
        if (nodes[i].fate == Fate::Searched) {
            EXPECT_EQ(children[i] + nodes[i].spared, nodes[i].moves);
        } else {
            EXPECT_EQ(children[i], 0);
        }
    // The first moves have the scores of the decision.
    for (const auto& node : nodes)
        if (node.ply == 1)
            for (const auto& entry : decision.ranked)
                if (entry.move == node.move && entry.kind == ScoreKind::Exact) {
                    EXPECT_EQ(node.score, entry.score);
                }
}

}  // namespace

TEST(SearchedTree, IsTheTreeOfTheSearchThatChose) {
    const Lanterns lanterns({4, 4, 3, false});
    const Sluice sluice;
    expect_true_tree<Minimax<Lanterns>>(lanterns, lanterns.initial_position(), 3);
    expect_true_tree<AlphaBeta<Lanterns>>(lanterns, lanterns.initial_position(), 4);
    expect_true_tree<Standard<Lanterns>>(lanterns, lanterns.initial_position(), 5);
    expect_true_tree<AlphaBeta<Sluice>>(sluice, sluice.initial_position(), 5);
    expect_true_tree<Standard<Sluice>>(sluice, sluice.initial_position(), 6);
}

TEST(SearchedTree, OfMinimaxHoldsEveryPosition) {
    const Lanterns game({3, 3, 3, false});
    SearchedTree<Lanterns::Move> tree(9, 1'000'000);
    const auto decision = Minimax<Lanterns>(game).decide(game.initial_position(), {.depth = 9}, {.tree = &tree});
    EXPECT_EQ(tree.nodes().size(), decision.stats.nodes);
    EXPECT_EQ(tree.nodes().size(), 549'946u);
    EXPECT_EQ(tree.nodes().front().nodes, decision.stats.nodes);
    SearchedTree<Lanterns::Move> small(9, 1'000);
    (void)Minimax<Lanterns>(game).decide(game.initial_position(), {.depth = 9}, {.tree = &small});
    EXPECT_TRUE(small.is_partial());
    EXPECT_LE(small.nodes().size(), 1'000u);
}

TEST(SearchedTree, IsOfTheDepthThatDecidedWhenTheNextWasNotFinished) {
    const Sluice game;
    SearchedTree<Sluice::Move> tree(2);
    const auto decision = Standard<Sluice>(game).decide(game.initial_position(), {.nodes = 3'000},
                                                        {.ranking = Ranking::Best, .tree = &tree});
    EXPECT_EQ(tree.depth(), decision.stats.depth);
    EXPECT_EQ(decision.stats.stopped_by, StoppedBy::Nodes);
}

TEST(TreePicture, KeepsTheLineCountsTheRestAndNamesWhatWasSpared) {
    const Sluice game;
    SearchedTree<Sluice::Move> tree(3);
    const auto decision =
        Standard<Sluice>(game).decide(game.initial_position(), {.depth = 6}, {.ranking = Ranking::Best, .tree = &tree});
    const auto picture = tree_report(game, game.initial_position(), tree, decision, 12);
    EXPECT_EQ(picture.nodes.size(), 12u);
    const auto& line = decision.ranked.front().line;
    std::size_t on_line = 0, spared = 0;
    int first_moves = picture.nodes.front().more;
    for (const auto& node : picture.nodes) {
        if (node.on_line && node.ply > 0) {
            EXPECT_EQ(node.ply, static_cast<int>(++on_line));
        }
        spared += node.spared.size();
        first_moves += node.ply == 1 ? 1 : 0;
    }
    EXPECT_EQ(on_line, std::min<std::size_t>(3, line.size()));
    EXPECT_EQ(first_moves, 6);
    EXPECT_GT(spared, 0u);
    const std::string dot = tree_as_dot(picture);
    EXPECT_NE(dot.find("> Teal " + picture.move), std::string::npos);
    EXPECT_NE(dot.find("more, "), std::string::npos);
    EXPECT_NE(dot.find("cutoff spared"), std::string::npos);
}

TEST(TreePicture, ReplacesAFileWholeOrNotAtAll) {
    const Lanterns game({3, 3, 3, false});
    SearchedTree<Lanterns::Move> tree(2);
    const auto decision = AlphaBeta<Lanterns>(game).decide(game.initial_position(), {.depth = 3}, {.tree = &tree});
    const auto picture = tree_report(game, game.initial_position(), tree, decision);
    const auto folder = std::filesystem::temp_directory_path() / "arvek tree 'picture'";
    std::filesystem::create_directories(folder);
    const std::string file = (folder / "a tree.dot").string();
    write_tree_picture(file, picture);
    std::ifstream in(file);
    std::string first;
    std::getline(in, first);
    EXPECT_EQ(first, "digraph search {");
    EXPECT_THROW(write_tree_picture((folder / "tree.jpeg").string(), picture), InputError);
    EXPECT_THROW(write_tree_picture((folder / "missing" / "tree.dot").string(), picture), InputError);
    std::size_t files = 0;
    for ([[maybe_unused]] const auto& entry : std::filesystem::directory_iterator(folder)) ++files;
    EXPECT_EQ(files, 1u) << "nothing half done is left behind";
    std::filesystem::remove_all(folder);
}
