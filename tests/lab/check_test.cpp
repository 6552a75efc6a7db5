// A zoo of broken games, one fault each: every fault is found and named, and no sound game is accused.

#include <gtest/gtest.h>
#include <arvek/lab/check.hpp>

#include <cstdio>
#include <memory>
#include <stdexcept>

#include "support/compiled_games.hpp"
#include "support/sanitized.hpp"
#include "tolls/tolls.hpp"

using namespace arvek;

namespace {

enum class Break {
    Nothing,
    MoveTwice,
    Throws,
    NoMove,
    TakeBackForgetsTheMover,
    TakeBackForgetsTheCount,
    PlayReversiblyDiffers,
    HashIgnoresTheMover,
    HashOfOtherThings,
    EvaluationOfOneSide,
    EvaluationProven,
    PayoffsDoNotSum,
    PositionTextLoses,
    MoveTextsAlike,
    LeftOverState,
    LeftOverInMoves,
    NeverEnds,
    SharedPosition,
    ThirdPlayer,
    ForcingNotLegal,
    BoundsTooNarrow,
    SufficientNotEnough,
    SufficientNotLegal,
    EquivalentOnlyInName,
    VisitsInAnotherOrder,
    VisitsOn,
    LoserPaidNothing,
};

/// Two sides take one to three crates from a pile or put one back (twice in a game at most each); who takes the last
/// wins. Passing the turn leaves the pile as it is, so the same pile is met with either side to move.
struct Crates {
    struct Position {
        int pile = 12;
        int passes = 0;  // so far
        Player to_move = Player::First;
        friend bool operator==(const Position&, const Position&) = default;
    };
    using Move = int;  // crates taken; 0 passes
    struct Undo {
        Player mover;
    };

    Break broken = Break::Nothing;
    std::shared_ptr<int> memory = std::make_shared<int>(0);

    Position initial_position() const { return {}; }
    Player player_to_move(const Position& p) const {
        return broken == Break::ThirdPlayer && p.pile == 5 ? Player::Third : p.to_move;
    }
    void generate_moves(const Position& p, MoveList<Move>& moves) const {
        if (broken == Break::NoMove && p.pile == 3) return;
        for (int taken = std::min(3, p.pile); taken >= 1; --taken) moves.push_back(taken);
        if (p.passes < 4) moves.push_back(0);
        if (broken == Break::MoveTwice && p.pile == 7) moves.push_back(1);
        if (broken == Break::LeftOverInMoves && ++*memory % 500 == 499) moves.push_back(0);
    }
    template <class Visit>
    void visit_moves(const Position& p, Visit visit) const {
        MoveList<Move> moves;
        generate_moves(p, moves);
        if (broken == Break::VisitsInAnotherOrder && p.pile == 8) std::swap(moves[0], moves[1]);
        for (const Move& move : moves)
            if (!visit(move) && broken != Break::VisitsOn) return;
    }
    void play(Position& p, const Move& move) const {
        if (broken == Break::Throws && p.pile == 6 && move == 2) throw std::runtime_error("the crane broke");
        p.pile -= move;
        if (broken == Break::LeftOverState && ++*memory > 5'000) p.passes += 1;
        if (move == 0 && broken != Break::NeverEnds) ++p.passes;
        if (broken == Break::NeverEnds && p.pile <= 0) p.pile = 12;
        p.to_move = rival_of(p.to_move);
    }
    Undo play_reversibly(Position& p, const Move& move) const {
        const Undo undo{p.to_move};
        play(p, move);
        if (broken == Break::PlayReversiblyDiffers && move == 3) ++p.passes;
        return undo;
    }
    void take_back(Position& p, const Move& move, const Undo& undo) const {
        p.pile += move;
        if (move == 0 && broken != Break::TakeBackForgetsTheCount) --p.passes;
        if (broken != Break::TakeBackForgetsTheMover) p.to_move = undo.mover;
        if (broken == Break::PlayReversiblyDiffers && move == 3) --p.passes;
    }
    std::optional<Outcome> outcome(const Position& p) const {
        if (p.pile > 0) return std::nullopt;
        if (broken == Break::LoserPaidNothing) return Outcome::of_payoffs({1, 0});
        return Outcome::win(rival_of(p.to_move));
    }
    Score evaluate(const Position& p, Player player) const {
        if (broken == Break::EvaluationProven && p.pile == 2)
            return player == p.to_move ? Score::proven(1, 1) : Score::proven(-1, 1);
        const int value = p.pile % 4 == 0 ? -1 : 1;
        if (broken == Break::EvaluationOfOneSide) return Score::estimate(value);
        return Score::estimate(player == p.to_move ? value : -value);
    }
    std::uint64_t hash(const Position& p) const {
        if (broken == Break::HashOfOtherThings) return mix_bits(static_cast<std::uint64_t>(++*memory));
        const auto mover = broken == Break::HashIgnoresTheMover ? 0 : static_cast<std::uint64_t>(p.to_move);
        // Passes matter only as far as they can still be made, so they go into the hash of the sound game too.
        return hash_of_words({static_cast<std::uint64_t>(p.pile), static_cast<std::uint64_t>(p.passes), mover});
    }
    void generate_forcing_moves(const Position& p, MoveList<Move>& moves) const {
        if (p.pile <= 3) moves.push_back(p.pile);
        if (broken == Break::ForcingNotLegal && p.pile == 2) moves.push_back(3);
    }
    PayoffBounds payoff_bounds(const Position& p, Player) const {
        if (broken == Break::BoundsTooNarrow && p.pile == 1) return {-1, 0};
        return {-1, 1};
    }
    void generate_sufficient_moves(const Position& p, MoveList<Move>& moves) const {
        if (broken == Break::SufficientNotEnough) return moves.push_back(1);
        if (broken == Break::SufficientNotLegal) moves.push_back(p.pile + 1);
        generate_moves(p, moves);
    }
    std::uint64_t equivalence_hash(const Position& p) const {
        return broken == Break::EquivalentOnlyInName ? static_cast<std::uint64_t>(p.to_move) : hash(p);
    }
    std::string position_text(const Position& p) const {
        return std::to_string(p.pile) + "/" + std::to_string(broken == Break::PositionTextLoses ? 0 : p.passes) +
               (p.to_move == Player::First ? "T" : "A");
    }
    Position read_position(std::string_view text) const {
        Position p;
        char mover = 0;
        if (std::sscanf(std::string(text).c_str(), "%d/%d%c", &p.pile, &p.passes, &mover) != 3)
            throw InputError("position", "wrong", "12/0T");
        p.to_move = mover == 'T' ? Player::First : Player::Second;
        return p;
    }
    std::string move_text(const Position&, const Move& move) const {
        return broken == Break::MoveTextsAlike && move == 2 ? "1" : std::to_string(move);
    }
};

/// A position that shares what it points to with its copies.
struct SharedPile {
    struct Position {
        std::shared_ptr<int> pile = std::make_shared<int>(6);
        Player to_move = Player::First;
        friend bool operator==(const Position& a, const Position& b) {
            return *a.pile == *b.pile && a.to_move == b.to_move;
        }
    };
    using Move = int;
    Position initial_position() const { return {}; }
    Player player_to_move(const Position& p) const { return p.to_move; }
    void generate_moves(const Position& p, MoveList<Move>& moves) const {
        for (int taken = 1; taken <= std::min(2, *p.pile); ++taken) moves.push_back(taken);
    }
    void play(Position& p, const Move& move) const {
        *p.pile -= move;
        p.to_move = rival_of(p.to_move);
    }
    std::optional<Outcome> outcome(const Position& p) const {
        if (*p.pile > 0) return std::nullopt;
        return Outcome::win(rival_of(p.to_move));
    }
};

bool names(const CheckReport& report, const std::string& law) {
    return std::any_of(report.faults.begin(), report.faults.end(),
                       [&](const Fault& fault) { return fault.law == law; });
}

}  // namespace

TEST(Check, AccusesNoSoundGame) {
    const CheckOptions quick{.games = testing_support::sanitized ? 8 : 40};
    const auto crates = check_rules(Crates{});
    EXPECT_TRUE(crates.sound()) << crates.text();
    EXPECT_EQ(crates.games, 200);
    for (const bool drop : {false, true}) {
        const auto lanterns = check_rules(waterway::Lanterns({4, 4, 3, drop}), quick);
        EXPECT_TRUE(lanterns.sound()) << lanterns.text();
        const auto sluice = check_rules(waterway::Sluice({4, 3, drop, !drop}), quick);
        EXPECT_TRUE(sluice.sound()) << sluice.text();
    }
    const auto dice = check_rules(testing_support::Dice{}, quick);
    EXPECT_TRUE(dice.sound()) << dice.text();
    const auto windlass = check_rules(waterway::Windlass({6, 3}), quick);
    EXPECT_TRUE(windlass.sound()) << windlass.text();
    for (std::uint64_t seed = 0; seed < (testing_support::sanitized ? 5u : 20u); ++seed) {
        const auto tree = check_rules(testing_support::RandomTree{seed, 6, false}, quick);
        EXPECT_TRUE(tree.sound()) << tree.text();
    }
}

TEST(Check, FindsAndNamesEveryFaultOfTheZoo) {
    for (const auto& [broken, law] :
         std::vector<std::pair<Break, std::string>>{{Break::MoveTwice, "duplicate move"},
                                                    {Break::Throws, "exception"},
                                                    {Break::NoMove, "no move"},
                                                    {Break::TakeBackForgetsTheMover, "take-back"},
                                                    {Break::TakeBackForgetsTheCount, "take-back"},
                                                    {Break::PlayReversiblyDiffers, "take-back"},
                                                    {Break::HashIgnoresTheMover, "hash"},
                                                    {Break::HashOfOtherThings, "hash"},
                                                    {Break::EvaluationOfOneSide, "evaluation"},
                                                    {Break::EvaluationProven, "evaluation"},
                                                    {Break::PositionTextLoses, "position text"},
                                                    {Break::MoveTextsAlike, "move text"},
                                                    {Break::LeftOverState, "left-over state"},
                                                    {Break::LeftOverInMoves, "left-over state"},
                                                    {Break::NeverEnds, "endless play"},
                                                    {Break::ThirdPlayer, "player"},
                                                    {Break::ForcingNotLegal, "forcing moves"},
                                                    {Break::BoundsTooNarrow, "payoff bounds"},
                                                    {Break::SufficientNotEnough, "sufficient moves"},
                                                    {Break::SufficientNotLegal, "sufficient moves"},
                                                    {Break::EquivalentOnlyInName, "equivalence"},
                                                    {Break::VisitsInAnotherOrder, "visited moves"},
                                                    {Break::VisitsOn, "visited moves"},
                                                    {Break::LoserPaidNothing, "payoffs"}}) {
        Crates game;
        game.broken = broken;
        const auto report = check_rules(game);
        EXPECT_TRUE(names(report, law)) << law << "\n" << report.text();
    }
    for (const testing_support::Dice& wrong :
         {testing_support::Dice{.six = 0.1}, testing_support::Dice{.six = 0.0}, testing_support::Dice{.six = -0.2},
          testing_support::Dice{.six_twice = true}}) {
        const auto report = check_rules(wrong);
        EXPECT_TRUE(names(report, "probabilities")) << wrong.six << "\n" << report.text();
    }
    const auto shared = check_rules(SharedPile{});
    EXPECT_TRUE(names(shared, "copying")) << shared.text();
}

namespace {

/// Tolls with something wrong about what is seen or drawn.
struct WrongTolls : waterway::Tolls {
    enum class Wrong { Leaks, ForgetsVoids, Loaded, AnotherView, UnlistedMove } wrong = Wrong::Leaks;

    // Those are of Tolls, not of this.
    void quantities() const = delete;
    void suggesters() const = delete;

    explicit WrongTolls(Wrong what) : Tolls({3, 3, 4, 3, "none"}), wrong(what) {}

    View view(const Position& position, Player player) const {
        View seen = Tolls::view(position, player);
        if (wrong == Wrong::Leaks) seen.seen.unused[0] = static_cast<std::uint8_t>(position.hands[2] % 251);
        if (wrong == Wrong::ForgetsVoids)
            for (std::size_t side = 0; side < 4; ++side)
                if (side != index_of(player)) seen.seen.lacks[side] = 0;
        return seen;
    }
    Position sample(const View& view, Random& random) const {
        View plain = view;
        plain.seen.unused[0] = 0;
        Position drawn = Tolls::sample(plain, random);
        drawn.unused[0] = 0;
        if (wrong == Wrong::AnotherView) ++drawn.took[0];
        if (wrong == Wrong::Leaks) drawn.unused[0] = 0;
        return drawn;
    }
    Move draw_event(const Position& position, Random& random) const {
        const Move fair = Tolls::draw_event(position, random);
        // One card in three percent more of the draws.
        return wrong == Wrong::Loaded && position.hands[0] == 0 && random.chance(0.03) ? Move{0, 1} : fair;
    }
    Move random_move(const Position& position, Random& random) const {
        const Move fair = Tolls::random_move(position, random);
        return wrong == Wrong::UnlistedMove ? Move{static_cast<std::uint8_t>((fair.card + 13) % 39), 0} : fair;
    }
};

}  // namespace

TEST(Check, FindsWhatIsWrongWithViewsAndDraws) {
    using Wrong = WrongTolls::Wrong;
    const CheckOptions few{.games = 12, .short_positions = 40};
    for (const auto& [wrong, law] : std::vector<std::pair<Wrong, std::string>>{{Wrong::ForgetsVoids, "samples"},
                                                                               {Wrong::Loaded, "drawn events"},
                                                                               {Wrong::AnotherView, "samples"},
                                                                               {Wrong::UnlistedMove, "random moves"}}) {
        const auto report = check_rules(WrongTolls(wrong), few);
        EXPECT_TRUE(names(report, law)) << law << "\n" << report.text();
    }
    // A view that holds what is not seen: what is drawn from it gives another view, or two views read the same.
    const auto leaking = check_rules(WrongTolls(Wrong::Leaks), few);
    EXPECT_TRUE(names(leaking, "samples") || names(leaking, "views")) << leaking.text();
}

TEST(Check, ShowsTheShortestWayToTheFault) {
    Crates game;
    game.broken = Break::NoMove;
    const auto report = check_rules(game);
    ASSERT_EQ(report.faults.size(), 1u) << report.text();
    // From twelve to three takes three moves: 3 3 3.
    EXPECT_EQ(report.faults[0].moves, (std::vector<std::string>{"3", "3", "3"}));
    EXPECT_EQ(report.faults[0].position, "3/0A");
    EXPECT_NE(report.text().find("after 3 3 3"), std::string::npos);
}

TEST(Check, IsRepeatableAndRefusesOptionsOutOfRange) {
    Crates game;
    game.broken = Break::EvaluationOfOneSide;
    EXPECT_EQ(check_rules(game, {.seed = 4}).text(), check_rules(game, {.seed = 4}).text());
    EXPECT_THROW((void)check_rules(game, {.games = 0}), InputError);
}
