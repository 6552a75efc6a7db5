// Promises of the searches that hold in every game, in games made to break them.

#include <gtest/gtest.h>

#include <arvek/arena/steady_clock.hpp>
#include <arvek/game/any_game.hpp>
#include <arvek/search/alpha_beta.hpp>
#include <arvek/search/minimax.hpp>
#include <arvek/search/position_features.hpp>
#include <arvek/search/solver.hpp>
#include <arvek/search/standard.hpp>
#include <sluice/sluice.hpp>
#include <windlass/windlass.hpp>

#include "support/hop.hpp"
#include "support/random_tree.hpp"
#include "support/sanitized.hpp"

using namespace arvek;
using testing_support::Hop;
using waterway::Windlass;

namespace promises {

/// One choice among many moves, of which only the last wins; then the rival has one move that changes nothing.
struct ManyMoves {
    struct Position {
        std::int32_t chosen = -1;
        friend bool operator==(const Position&, const Position&) = default;
    };
    using Move = std::int32_t;
    std::int32_t moves = 5'000;

    Position initial_position() const { return {}; }
    Player player_to_move(const Position& p) const { return p.chosen < 0 ? Player::First : Player::Second; }
    void generate_moves(const Position& p, MoveList<Move>& list) const {
        if (p.chosen >= 0) return list.push_back(0);
        for (std::int32_t i = 0; i < moves; ++i) list.push_back(i);
    }
    void play(Position& p, const Move& move) const { p.chosen = p.chosen < 0 ? move : p.chosen + moves; }
    std::optional<Outcome> outcome(const Position& p) const {
        if (p.chosen < moves) return std::nullopt;
        return p.chosen == 2 * moves - 1 ? Outcome::win(Player::First) : Outcome::win(Player::Second);
    }
    std::uint64_t hash(const Position& p) const { return mix_bits(static_cast<std::uint64_t>(p.chosen + 1)); }
};

}  // namespace promises

using promises::ManyMoves;

namespace {

struct ThreeSided : testing_support::RandomTree {
    int players() const { return 3; }
};

template <class G>
typename G::Position somewhere(const G& game, int plies, Random& random, std::vector<typename G::Position>& earlier) {
    auto position = game.initial_position();
    earlier.clear();
    for (int ply = 0; ply < plies; ++ply) {
        const auto moves = legal_moves(game, position);
        auto after = position;
        game.play(after, moves[static_cast<std::size_t>(random.below(moves.size()))]);
        if (game.outcome(after)) break;
        earlier.push_back(position);
        position = after;
    }
    return position;
}

}  // namespace

TEST(Promises, NoMoveIsTooFarBackInTheList) {
    for (const std::int32_t moves : {4'096, 5'000, 70'000}) {
        const ManyMoves game{moves};
        const auto solution = Solver(game).solve(game.initial_position());
        EXPECT_TRUE(solution.complete);
        EXPECT_EQ(solution.least, 1) << "of " << moves;
        const auto decision = Standard(game).decide(game.initial_position(), {.depth = 2}, {.ranking = Ranking::Best});
        EXPECT_TRUE(decision.ranked.front().score.is_proven_win()) << "of " << moves;
        EXPECT_EQ(decision.move, moves - 1);
    }
    // The same one ply further down.
    struct Later : ManyMoves {
        void generate_moves(const Position& p, MoveList<Move>& list) const {
            if (p.chosen == -1) return list.push_back(-2);
            ManyMoves::generate_moves(p, list);
        }
        Player player_to_move(const Position& p) const { return p.chosen < 0 ? Player::First : Player::Second; }
        void play(Position& p, const Move& move) const {
            p.chosen = p.chosen == -2 ? move : p.chosen == -1 ? -2 : p.chosen + moves;
        }
        std::uint64_t hash(const Position& p) const { return mix_bits(static_cast<std::uint64_t>(p.chosen + 9)); }
    };
    Later game;
    game.moves = 70'000;
    EXPECT_EQ(Solver<Later>(game).solve(game.initial_position()).least, 1);
    EXPECT_TRUE(
        Standard<Later>(game).decide(game.initial_position(), {.depth = 3}).ranked.front().score.is_proven_win());
}

TEST(Promises, EverySearchCountsARepetitionAlike) {
    Techniques plain;
    plain.table = plain.quiescence = false;
    Random random(5);
    int repeated = 0;
    const auto compare = [&](const auto& game, int depth) {
        using G = std::decay_t<decltype(game)>;
        std::vector<typename G::Position> earlier;
        for (int i = 0; i < (testing_support::sanitized ? 15 : 60); ++i) {
            const auto position = somewhere(game, i % 25, random, earlier);
            for (const Score repetition : {Score(), Score::estimate(-3)}) {
                SearchRequest<typename G::Move> request;
                request.repetition = repetition;
                const auto known = Minimax<G>(game).decide(position, {.depth = depth}, request, earlier);
                const Score value = known.ranked.front().score;
                ASSERT_EQ(AlphaBeta<G>(game).decide(position, {.depth = depth}, request, earlier).ranked.front().score,
                          value);
                ASSERT_EQ(Standard<G>(game, {.techniques = plain})
                              .decide(position, {.depth = depth}, request, earlier)
                              .ranked.front()
                              .score,
                          value);
                repeated +=
                    value != Minimax<G>(game).decide(position, {.depth = depth}, request).ranked.front().score ? 1 : 0;
            }
        }
    };
    compare(Hop(), 4);
    compare(Windlass({6, 3}), 5);
    EXPECT_GT(repeated, 0) << "the history never mattered";
}

TEST(Promises, AKeptTableNeverProvesWhatAnotherHistoryForbids) {
    // The same positions again and again, each time with another past: values with a kept table are those without.
    const Windlass game({6, 3});
    StandardOptions keeping;
    keeping.keep_table = true;
    Standard<Windlass> kept(game, keeping);
    Random random(9);
    std::vector<Windlass::Position> earlier;
    for (int i = 0; i < (testing_support::sanitized ? 60 : 300); ++i) {
        const auto position = somewhere(game, 4 + i % 20, random, earlier);
        const int depth = 2 + i % 6;
        const auto fresh = Standard<Windlass>(game).decide(position, {.depth = depth}, {}, earlier);
        const auto again = kept.decide(position, {.depth = depth}, {}, earlier);
        if (again.ranked.front().score.is_proven()) {
            // What is proven holds to the end, so a deeper search without a table cannot see it otherwise.
            Techniques none;
            none.table = false;
            const int plies = again.ranked.front().score.plies();
            ASSERT_EQ(Standard<Windlass>(game, {.techniques = none})
                          .decide(position, {.depth = plies}, {}, earlier)
                          .ranked.front()
                          .score,
                      again.ranked.front().score);
        }
        ASSERT_EQ(fresh.ranked.front().score.is_proven(), again.ranked.front().score.is_proven());
    }
    // And a change of what counts at the end leaves nothing behind.
    const waterway::Sluice sluice({4, 3, false, false});
    Standard<waterway::Sluice> both(sluice, keeping);
    for (const bool margins : {true, false, true, false}) {
        SearchRequest<waterway::Sluice::Move> request;
        request.margins = margins;
        EXPECT_EQ(both.decide(sluice.initial_position(), {.depth = 10}, request).ranked.front().score,
                  Standard<waterway::Sluice>(sluice)
                      .decide(sluice.initial_position(), {.depth = 10}, request)
                      .ranked.front()
                      .score)
            << margins;
    }
}

TEST(Promises, RetrogradeSolvingKeepsToItsTimeItsStopAndItsMemory) {
    const Windlass large({12, 5});
    const auto timed = Solver(large, {.seconds = 0.02, .clock = steady_seconds}).solve(large.initial_position());
    EXPECT_FALSE(timed.complete);
    EXPECT_STREQ(timed.stopped_by, "time");
    EXPECT_LT(timed.seconds, testing_support::sanitized ? 5.0 : 1.0);
    struct Soon {
        mutable int asked = 0;
        bool stop_requested() const { return ++asked > 50; }
    } soon;
    const auto stopped = Solver(large, {.stop = StopToken::of(soon)}).solve(large.initial_position());
    EXPECT_FALSE(stopped.complete);
    EXPECT_STREQ(stopped.stopped_by, "stop");
    const auto small = Solver(large, {.memory_mebibytes = 2}).solve(large.initial_position());
    EXPECT_FALSE(small.complete);
    EXPECT_STREQ(small.stopped_by, "memory");
    EXPECT_LT(small.counters.nodes, 60'000u);
    // Stopped in the middle of the analysis too: at every number of steps.
    const Windlass few({6, 3});
    for (int steps = 1; steps < 40; ++steps) {
        struct After {
            int left;
            mutable int asked = 0;
            bool stop_requested() const { return ++asked > left; }
        } after{steps};
        const auto solution = Solver(few, {.stop = StopToken::of(after)}).solve(few.initial_position());
        if (solution.complete) {
            EXPECT_EQ(solution.least, 1);
        }
    }
}

TEST(Promises, ANodeLimitIsKeptByAnyNumberOfThreads) {
    const waterway::Sluice game;
    for (const int threads : {1, 2, 3, 8})
        for (const std::uint64_t nodes : {1u, 2u, 3u, 7u, 100u, 5'000u}) {
            const auto decision =
                Standard(game, StandardOptions{.threads = threads}).decide(game.initial_position(), {.nodes = nodes});
            EXPECT_LE(decision.stats.nodes, nodes) << threads << " threads";
            EXPECT_TRUE(legal_moves(game, game.initial_position()).contains(decision.move));
        }
}

TEST(Promises, GamesForThreeAreRefusedByWhatIsForTwo) {
    const ThreeSided game;
    const auto said = [](auto make) -> std::string {
        try {
            make();
        } catch (const InputError& error) {
            return error.what();
        }
        return "";
    };
    EXPECT_NE(said([&] { Minimax<ThreeSided>{game}; }).find("two players, and this one has 3"), std::string::npos);
    EXPECT_NE(said([&] { AlphaBeta<ThreeSided>{game}; }).find("two players"), std::string::npos);
    EXPECT_NE(said([&] { Standard<ThreeSided>{game}; }).find("two players"), std::string::npos);
}

TEST(Promises, AClockMayCarryState) {
    struct Counting {
        mutable double now = 0;
    } counting;
    const Clock clock([](const void* state) { return static_cast<const Counting*>(state)->now += 0.01; }, &counting);
    const waterway::Sluice game;
    const auto decision = AlphaBeta(game).decide(game.initial_position(), {.seconds = 0.5, .clock = clock});
    EXPECT_EQ(decision.stats.stopped_by, StoppedBy::Time);
    EXPECT_GT(counting.now, 0.4);
}

TEST(Evaluator, AnObjectFitsInThePlaceOfTheGamesOwn) {
    const waterway::Sluice game({4, 3, false, false});
    // The game's own evaluation as an object gives the same search, to the node.
    struct Own final : Evaluator<waterway::Sluice> {
        Score evaluate(const waterway::Sluice& sluice, const waterway::Sluice::Position& position,
                       Player player) const override {
            return sluice.evaluate(position, player);
        }
    };
    struct Lies final : Evaluator<waterway::Sluice> {
        Score evaluate(const waterway::Sluice&, const waterway::Sluice::Position&, Player) const override {
            return Score::proven(1, 0);
        }
    };
    const auto own = std::make_shared<Own>();
    for (const int depth : {3, 6}) {
        const Limits limits{.depth = depth};
        const auto expect_same = [&](const auto& a, const auto& b) {
            EXPECT_EQ(a.ranked.front().score, b.ranked.front().score);
            EXPECT_EQ(a.stats.nodes, b.stats.nodes);
        };
        expect_same(Minimax<waterway::Sluice>(game, own).decide(game.initial_position(), limits),
                    Minimax<waterway::Sluice>(game).decide(game.initial_position(), limits));
        expect_same(AlphaBeta<waterway::Sluice>(game, own).decide(game.initial_position(), limits),
                    AlphaBeta<waterway::Sluice>(game).decide(game.initial_position(), limits));
        const StandardOptions untabled{.techniques = {.table = false}};
        expect_same(Standard<waterway::Sluice>(game, untabled, own).decide(game.initial_position(), limits),
                    Standard<waterway::Sluice>(game, untabled).decide(game.initial_position(), limits));
        // An object may be slow, so that with it the table answers on the last ply, too.
        EXPECT_EQ(
            Standard<waterway::Sluice>(game, {}, own).decide(game.initial_position(), limits).ranked.front().score,
            Standard<waterway::Sluice>(game).decide(game.initial_position(), limits).ranked.front().score);
    }
    const auto lied =
        AlphaBeta<waterway::Sluice>(game, std::make_shared<Lies>()).decide(game.initial_position(), {.depth = 1});
    EXPECT_FALSE(lied.ranked.front().score.is_proven()) << "no estimate looks proven, whoever gives it";
    // Features add up, each less what the rival has.
    auto features = std::make_shared<PositionFeatures<waterway::Sluice>>();
    features->add("ahead", 2.0,
                  [](const waterway::Sluice& sluice, const waterway::Sluice::Position& at, Player player) {
                      return static_cast<double>(sluice.evaluate(at, player).number());
                  });
    Random random(1);
    std::vector<waterway::Sluice::Position> earlier;
    for (int plies = 0; plies < 12; ++plies) {
        const auto position = somewhere(game, plies, random, earlier);
        for (const Player player : {Player::First, Player::Second})
            EXPECT_EQ(features->evaluate(game, position, player).number(),
                      4 * game.evaluate(position, player).number());
    }
}

TEST(AnyGame, IsTheGameItself) {
    const Windlass windlass({6, 3});
    const AnyGame any(windlass);
    EXPECT_TRUE(offers(any, Ability::Repetition));
    EXPECT_FALSE(offers(any, Ability::Chance));
    for (const AbilityInfo& info : ability_table()) {
        EXPECT_EQ(offers(any, info.ability), offers(windlass, info.ability)) << info.name;
        EXPECT_EQ(&ability_info(info.ability), &info) << "the table is in the order of the enumeration";
    }
    Random random(3);
    auto position = windlass.initial_position();
    auto any_position = any.initial_position();
    for (int ply = 0; ply < 60 && !windlass.outcome(position); ++ply) {
        const auto moves = legal_moves(windlass, position);
        const auto any_moves = legal_moves(any, any_position);
        ASSERT_EQ(moves.size(), any_moves.size());
        const auto pick = static_cast<std::size_t>(random.below(moves.size()));
        ASSERT_EQ(any_moves[pick].get<Windlass::Move>(), moves[pick]);
        ASSERT_EQ(any.hash(any_position), windlass.hash(position));
        ASSERT_EQ(any.position_text(any_position), windlass.position_text(position));
        AnyPosition copy = any_position;
        any.play(any_position, any_moves[pick]);
        windlass.play(position, moves[pick]);
        ASSERT_NE(copy, any_position) << "copies share nothing";
    }
    // A search of it is a search of the game.
    EXPECT_EQ(AlphaBeta(any).decide(any.initial_position(), {.depth = 5}).ranked.front().score,
              AlphaBeta(windlass).decide(windlass.initial_position(), {.depth = 5}).ranked.front().score);
}
