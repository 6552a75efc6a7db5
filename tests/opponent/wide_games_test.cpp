// Positions with thousands of moves, and evaluations that take long.

#include <gtest/gtest.h>

#include <arvek/opponent/make_opponent.hpp>
#include <arvek/rules/rule_list.hpp>
#include <arvek/search/monte_carlo.hpp>

using namespace arvek;

namespace {

/// Two place numbers by turns; the sum tells who wins. Counts what is asked of it.
struct WideGame {
    struct Move {
        int number = 0;
        bool operator==(const Move& other) const { return ++comparisons, number == other.number; }
        static inline std::uint64_t comparisons = 0;
    };
    struct Position {
        int placed = 0, sum = 0;
        bool operator==(const Position&) const = default;
    };

    int width = 1, plies = 6, answers = 3;
    static inline std::uint64_t evaluations = 0;

    Position initial_position() const { return {}; }
    Player player_to_move(const Position& p) const { return p.placed % 2 == 0 ? Player::First : Player::Second; }
    void generate_moves(const Position& p, MoveList<Move>& moves) const {
        for (int i = 0; i < (p.placed % 2 == 0 ? width : answers); ++i) moves.push_back({i});
    }
    void play(Position& p, const Move& move) const {
        ++p.placed;
        p.sum = (31 * p.sum + move.number) % 1'009;
    }
    std::optional<Outcome> outcome(const Position& p) const {
        if (p.placed < plies) return std::nullopt;
        return Outcome::win(p.sum % 2 == 0 ? Player::First : Player::Second);
    }
    Score evaluate(const Position& p, Player player) const {
        ++evaluations;
        return Score::estimate(player == Player::First ? p.sum % 50 : -(p.sum % 50));
    }
};

}  // namespace

TEST(WideGames, RulesRankManyMovesWithoutComparingAllWithAll) {
    const WideGame game{20'000};
    WideGame::Move::comparisons = 0;
    const auto decision = usual_rules(game).decide(game, game.initial_position(), 5);
    ASSERT_EQ(decision.ranked.size(), 20'000u);
    EXPECT_EQ(decision.ranked.front().move, decision.move);
    EXPECT_LT(WideGame::Move::comparisons, 10u * 20'000u);
}

TEST(WideGames, TheRuleAgainstTheRivalGivesUpWhereThereAreTooManyAnswers) {
    const WideGame game{20'000, 6, 20'000};
    const auto decision = usual_rules(game).decide(game, game.initial_position(), 5);
    ASSERT_EQ(decision.rules.size(), 3u);
    EXPECT_EQ(decision.rules[1].rule, "stop the rival");
    EXPECT_FALSE(decision.rules[1].fired);
    EXPECT_NE(decision.rules[1].why.find("too many moves"), std::string::npos);
    EXPECT_LT(decision.stats.nodes, 6'000'000u);
}

TEST(WideGames, LevelsKeepToTheirTimeWhereAnEvaluationTakesLong) {
    const WideGame game{2'000};
    // A clock by which an evaluation takes a hundredth of a second, and all else nothing.
    const Clock clock([] { return 0.01 * static_cast<double>(WideGame::evaluations); });
    for (const char* name : {"standard@3", "montecarlo@3"}) {
        OpponentSpec spec = read_opponent(name);
        spec.seconds = 1.0;
        WideGame::evaluations = 0;
        const auto opponent = make_opponent(game, spec, {.clock = clock});
        const auto decision = opponent->decide(game.initial_position(), 1);
        EXPECT_LT(WideGame::evaluations, 130u) << name;
        EXPECT_NEAR(decision.stats.seconds, clock.seconds(), 0.02) << name;
    }
}

TEST(WideGames, AnOnlyMoveIsPlayedOutOftenEnoughToTellHowThingsStand) {
    const WideGame game{1, 14};
    const auto decision = MonteCarlo(game).decide(game.initial_position(), {.playouts = 50'000});
    EXPECT_GE(decision.stats.playouts, 100u);
    EXPECT_LT(decision.stats.playouts, 1'000u);
}
