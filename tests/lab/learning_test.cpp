// What is learned from play: the network against its own plain arithmetic, the file, and what learning comes to.

#include <gtest/gtest.h>

#include <array>
#include <cmath>
#include <functional>
#include <thread>

#include <arvek/lab/learning.hpp>
#include <arvek/opponent/game_kit.hpp>
#include <arvek/opponent/make_opponent.hpp>
#include <arvek/opponent/model_file.hpp>
#include <arvek/opponent/profile.hpp>
#include <arvek/search/learned_evaluator.hpp>
#include <arvek/search/monte_carlo.hpp>
#include <arvek/search/standard.hpp>

#include "support/compiled_games.hpp"

using namespace arvek;
using waterway::Lanterns;
using waterway::Nightwatch;
using waterway::Sluice;
using waterway::Windlass;

namespace {

/// Any weights.
template <class G>
LearnedModel random_model(const G& game, int hidden, int second, bool prior, std::uint64_t seed) {
    LearnedModel model;
    model.game = "any";
    model.patterns = game.patterns();
    model.hidden = hidden;
    model.second = second;
    model.prior = prior;
    Random random(seed);
    const auto fill = [&](std::vector<float>& weights, std::size_t size, double spread) {
        for (std::size_t i = 0; i < size; ++i) weights.push_back(static_cast<float>(spread * (2 * random.unit() - 1)));
    };
    const auto units = static_cast<std::size_t>(hidden), later = static_cast<std::size_t>(second);
    const auto outputs = static_cast<std::size_t>(model.outputs());
    fill(model.rows, model.ways() * static_cast<std::size_t>(model.width()), 0.3);
    fill(model.row_bias, units, 0.5);
    fill(model.second_rows, later * 2 * units, 0.4);
    fill(model.second_bias, later, 0.4);
    fill(model.last_rows, hidden > 0 ? outputs * (second > 0 ? later : 2 * units) : 0, 0.7);
    fill(model.last_bias, outputs, 0.5);
    return model;
}

/// The same patterns, of which it is not said how the rival sees them.
template <class G>
struct Unsaid : G {
    using G::G;
    std::vector<Pattern> patterns() const {
        std::vector<Pattern> patterns = G::patterns();
        for (Pattern& pattern : patterns) pattern.rival_ways.clear();
        return patterns;
    }
};

/// What a network says along random games: worked out as positions change, from the start, and without rounding.
template <class G>
void expect_the_same_however_it_is_worked_out(const G& game, int hidden, int second) {
    const LearnedModel model = random_model(game, hidden, second, true, 7);
    const LearnedNetwork network(model), fresh(model);
    const std::size_t count = network.patterns();
    Random random(3);
    double worst = 0;
    for (int play = 0; play < 12; ++play) {
        auto position = game.initial_position();
        for (int ply = 0; ply < 60 && !game.outcome(position); ++ply) {
            std::vector<std::uint16_t> first(count), second_sees(count);
            game.read_patterns(position, Player::First, first);
            game.read_patterns(position, Player::Second, second_sees);
            for (const LearnedNetwork* each : {&network, &fresh}) {
                const auto room = each->room();
                std::copy(first.begin(), first.end(), room.begin());
                if (each->reads_both())
                    std::copy(second_sees.begin(), second_sees.end(),
                              room.begin() + static_cast<std::ptrdiff_t>(count));
            }
            fresh.forget();
            for (const Player own : {Player::First, Player::Second}) {
                const LearnedOutput followed = network.output(own), anew = fresh.output(own);
                const LearnedOutput exact = own == Player::First ? network.exact_output(first, second_sees)
                                                                 : network.exact_output(second_sees, first);
                EXPECT_EQ(followed.value, anew.value);
                EXPECT_EQ(followed.prior, anew.prior);
                worst = std::max(
                    {worst, std::abs(double{exact.value - anew.value}), std::abs(double{exact.prior - anew.prior})});
            }
            MoveList<typename G::Move> moves;
            game.generate_moves(position, moves);
            game.play(position, moves[static_cast<std::size_t>(random.below(moves.size()))]);
        }
    }
    EXPECT_LT(worst, 0.12) << "rounded to 16 bits, " << hidden << " and " << second << " units";
    EXPECT_GT(worst, 0.0);
}

template <class G>
void expect_the_same_of(const G& game) {
    for (const auto& [hidden, second] : {std::pair{0, 0}, {13, 0}, {16, 5}})
        expect_the_same_however_it_is_worked_out(game, hidden, second);
}

/// Random games, in which nobody knows who is ahead.
std::vector<GameRecord> random_games(const AnyGame& game, int count, std::uint64_t seed) {
    std::vector<GameRecord> records;
    for (int number = 0; number < count; ++number) {
        GameRecord& record = records.emplace_back();
        AnyPosition position = game.initial_position();
        Random random(derived_seed(seed, static_cast<std::uint64_t>(number)));
        while (!game.outcome(position)) {
            MoveList<AnyMove> moves;
            game.generate_moves(position, moves);
            const AnyMove move = moves[static_cast<std::size_t>(random.below(moves.size()))];
            record.moves.push_back(game.move_text(position, move));
            record.chances.push_back(0.5);
            game.play(position, move);
        }
        const Payoff first = game.outcome(position)->payoff(Player::First);
        record.counted.number = 2 * number;
        record.counted.points_a = first > 0 ? 1.0 : first < 0 ? 0.0 : 0.5;
        record.counted.winner = first > 0 ? MatchWinner::A : first < 0 ? MatchWinner::B : MatchWinner::Nobody;
    }
    return records;
}

std::string message_of(const std::function<void()>& act) {
    try {
        act();
    } catch (const InputError& error) {
        return error.what();
    }
    return "";
}

}  // namespace

TEST(Learned, NetworksSayTheSameHoweverTheyAreWorkedOut) {
    expect_the_same_of(Lanterns());
    expect_the_same_of(Windlass());
    expect_the_same_of(Nightwatch());
    expect_the_same_of(Sluice());
}

TEST(Learned, WhatTheRivalSeesFollowsOrIsRead) {
    expect_the_same_of(Unsaid<Lanterns>());
    // Both ways come to the same.
    const Lanterns game;
    const Unsaid<Lanterns> unsaid;
    for (const int hidden : {0, 9}) {
        const auto said = std::make_shared<const LearnedNetwork>(random_model(game, hidden, 0, false, 5));
        const auto read = std::make_shared<const LearnedNetwork>(random_model(unsaid, hidden, 0, false, 5));
        EXPECT_FALSE(said->reads_both());
        EXPECT_TRUE(read->reads_both());
        const LearnedEvaluator<Lanterns> one(said);
        const LearnedEvaluator<Unsaid<Lanterns>> other(read);
        Random random(1);
        auto position = game.initial_position();
        while (!game.outcome(position)) {
            for (const Player player : {Player::First, Player::Second})
                EXPECT_NEAR(static_cast<double>(one.evaluate(game, position, player).number()),
                            static_cast<double>(other.evaluate(unsaid, position, player).number()), 3.0);
            MoveList<Lanterns::Move> moves;
            game.generate_moves(position, moves);
            game.play(position, moves[static_cast<std::size_t>(random.below(moves.size()))]);
        }
    }
}

TEST(Learned, EvaluationsAreOppositeForTheTwo) {
    const Sluice game;
    const LearnedEvaluator<Sluice> evaluator(
        std::make_shared<const LearnedNetwork>(random_model(game, 8, 0, false, 2)));
    Random random(4);
    auto position = game.initial_position();
    while (!game.outcome(position)) {
        EXPECT_EQ(evaluator.evaluate(game, position, Player::First),
                  -evaluator.evaluate(game, position, Player::Second));
        MoveList<Sluice::Move> moves;
        game.generate_moves(position, moves);
        game.play(position, moves[static_cast<std::size_t>(random.below(moves.size()))]);
    }
}

namespace {

/// A game in which chance acts between the two.
struct SeenDice : testing_support::Dice {
    std::vector<Pattern> patterns() const {
        return {{"own sum", 19, {}, 1}, {"rival's sum", 19, {}, 0}, {"roll", 7}, {"turns", 7}};
    }
    void read_patterns(const Position& p, Player player, std::span<std::uint16_t> ways) const {
        const std::size_t own = index_of(player);
        ways[0] = static_cast<std::uint16_t>(p.sums[own]);
        ways[1] = static_cast<std::uint16_t>(p.sums[1 - own]);
        ways[2] = static_cast<std::uint16_t>(p.roll);
        ways[3] = static_cast<std::uint16_t>(p.turns);
    }
};

}  // namespace

TEST(Learned, EvaluationsAreOppositeWhereChanceIsNextToo) {
    const SeenDice game;
    for (const int hidden : {0, 6}) {
        const LearnedEvaluator<SeenDice> evaluator(
            std::make_shared<const LearnedNetwork>(random_model(game, hidden, 0, false, 3)));
        Random random(8);
        int chances = 0;
        for (int play = 0; play < 20; ++play) {
            auto position = game.initial_position();
            while (!game.outcome(position)) {
                EXPECT_EQ(evaluator.evaluate(game, position, Player::First),
                          -evaluator.evaluate(game, position, Player::Second));
                if (game.chance_is_next(position)) {
                    ++chances;
                    game.play(position, static_cast<int>(random.below(6)) + 1);
                } else {
                    game.play(position, random.chance(0.5) ? SeenDice::keep : SeenDice::let_go);
                }
            }
        }
        EXPECT_EQ(chances, 120);
    }
}

TEST(Learned, ManyNetworksInTurnAndThreadsDisturbNoOther) {
    const Lanterns game;
    std::vector<std::shared_ptr<const LearnedNetwork>> networks;
    for (std::uint64_t seed = 0; seed < 7; ++seed)
        networks.push_back(std::make_shared<const LearnedNetwork>(random_model(game, 4, 0, false, seed)));
    const auto values_at = [&](const Lanterns::Position& position) {
        std::vector<std::int64_t> values;
        for (const auto& network : networks)
            values.push_back(LearnedEvaluator<Lanterns>(network).evaluate(game, position, Player::First).number());
        return values;
    };
    auto position = game.initial_position();
    std::vector<std::vector<std::int64_t>> expected;
    std::vector<Lanterns::Position> positions;
    Random random(9);
    while (!game.outcome(position)) {
        positions.push_back(position);
        for (const auto& network : networks) network->forget();
        expected.push_back(values_at(position));
        MoveList<Lanterns::Move> moves;
        game.generate_moves(position, moves);
        game.play(position, moves[static_cast<std::size_t>(random.below(moves.size()))]);
    }
    std::array<bool, 3> alike{};
    std::vector<std::thread> threads;
    for (std::size_t thread = 0; thread < alike.size(); ++thread)
        threads.emplace_back([&, thread] {
            alike[thread] = true;
            for (int round = 0; round < 20; ++round)
                for (std::size_t i = 0; i < positions.size(); ++i)
                    alike[thread] = alike[thread] && values_at(positions[i]) == expected[i];
        });
    for (std::thread& thread : threads) thread.join();
    for (const bool each : alike) EXPECT_TRUE(each);
}

TEST(Learned, WeightsOfAnySizeStayWithinSixteenBits) {
    const Lanterns game;
    for (const float size : {1e-4f, 1.0f, 300.0f, 1e6f}) {
        LearnedModel model = random_model(game, 0, 0, false, 1);
        for (float& weight : model.rows) weight = weight > 0 ? size : -size;
        const LearnedEvaluator<Lanterns> evaluator(std::make_shared<const LearnedNetwork>(model));
        const LearnedNetwork network(model);
        auto position = game.initial_position();
        game.play(position, Lanterns::Move{12});
        std::vector<std::uint16_t> own(network.patterns()), rivals(network.patterns());
        game.read_patterns(position, Player::Second, own);
        game.read_patterns(position, Player::First, rivals);
        const double exact = network.exact_output(own, rivals).value * 100.0 / std::log(2.0);
        const auto told = static_cast<double>(evaluator.evaluate(game, position, Player::Second).number());
        EXPECT_NEAR(told, std::clamp(exact, -1.0 * Score::largest_estimate, 1.0 * Score::largest_estimate),
                    2.0 + 0.01 * std::abs(exact))
            << size;
    }
}

TEST(Learned, ModelsAreReadBackToTheBit) {
    for (const auto& [hidden, second] : {std::pair{0, 0}, {7, 0}, {5, 3}}) {
        LearnedModel model = random_model(Windlass(), hidden, second, true, 11);
        model.settings = {{"posts", "9"}};
        model.games = 12;
        EXPECT_EQ(read_model(model_as_json(model), "model"), model);
    }
}

TEST(Learned, ModelsThatAreNoneAreRefused) {
    const Lanterns game;
    const std::string good = model_as_json(random_model(game, 3, 0, true, 1));
    const auto refused = [&](const std::string& text) { return message_of([&] { (void)read_model(text, "m.json"); }); };
    EXPECT_EQ(refused(good), "");
    const auto changed = [&](const std::string& from, const std::string& to) {
        std::string text = good;
        const std::size_t at = text.find(from);
        EXPECT_NE(at, std::string::npos) << from;
        return text.replace(at, from.size(), to);
    };
    EXPECT_NE(refused("").find("m.json"), std::string::npos);
    for (const std::string& text :
         {std::string("{}"), std::string("[]"), good.substr(0, good.size() / 2),
          changed("\"hidden\":3", "\"hidden\":4"), changed("\"hidden\":3", "\"hidden\":-3"),
          changed("\"second\":0", "\"second\":900"), changed("\"ways\":4", "\"ways\":0"),
          changed("\"ways\":4", "\"ways\":\"four\""), changed("\"rival_ways\":[0,", "\"rival_ways\":[70,"),
          changed("\"format\":1", "\"format\":9"), changed("\"name\":\"hook a1\"", "\"name\":\"hook a2\""),
          changed("\"rows\": [", "\"rows\": [\"one\","), changed("\"rows\": [", "\"rows\": [1e30,"),
          changed("\"last_bias\": [", "\"last_bias\": [0.5,")})
        EXPECT_NE(refused(text), "") << text.substr(0, 300);
}

TEST(Learned, ModelsOfAnotherGameAreRefusedWithWhatDiffers) {
    const AnyGame lanterns{Lanterns()};
    const LearnedModel model = random_model(Lanterns({4, 4, 3, false}), 0, 0, false, 1);
    EXPECT_NE(message_of([&] { require_model_fits(lanterns, model); }).find("hook a5"), std::string::npos);
    EXPECT_NE(message_of([&] { require_model_fits(AnyGame(Windlass()), model); }).find("hub and posts"),
              std::string::npos);
    EXPECT_NE(message_of([&] { require_model_fits(AnyGame(waterway::Tolls()), model); }), "");
    EXPECT_NE(message_of([&] { require_learnable(AnyGame(waterway::Convoy())); }).find("patterns"), std::string::npos);
    // As a profile says it, with its place.
    ProfileReading reading;
    reading.read_base = [&](const std::string&) { return model_as_json(model); };
    const auto made = [&](const std::string& more) {
        const std::string text = "name = \"L\"\ngame = \"lanterns\"\n" + more;
        return message_of(
            [&] { (void)make_opponent(Lanterns(), opponent_of_profile(read_profile(text, "l.toml", reading))); });
    };
    EXPECT_NE(made("choose = \"standard\"\nmodel = \"m.json\"\n").find("l.toml, line 4"), std::string::npos);
    EXPECT_NE(made("choose = \"ruled\"\nmodel = \"m.json\"\n").find("does not ask"), std::string::npos);
    EXPECT_NE(message_of([&] {
                  (void)read_profile("name = \"L\"\ngame = \"lanterns\"\nchoose = \"standard\"\nmodel = \"m.json\"\n",
                                     "l.toml");
              }).find("no other files"),
              std::string::npos);
}

TEST(Learned, LearningTwiceComesToTheSameToTheBit) {
    const AnyGame game{Lanterns({4, 4, 3, false})};
    const auto learned = [&](std::uint64_t seed, int hidden, int second) {
        Learner learner(game, game.initial_position(), {.hidden = hidden, .second = second, .seed = seed});
        for (int round = 0; round < 3; ++round) {
            for (const GameRecord& record : random_games(game, 30, static_cast<std::uint64_t>(round)))
                learner.add(record);
            learner.learn();
        }
        return learner.model();
    };
    for (const auto& [hidden, second] : {std::pair{0, 0}, {8, 0}, {8, 4}}) {
        EXPECT_EQ(learned(1, hidden, second), learned(1, hidden, second));
        EXPECT_NE(learned(1, hidden, second), learned(2, hidden, second));
    }
}

TEST(Learned, WhatIsLearnedTellsWhoWinsWhereNobodyToldIt) {
    // From random games alone, with no chance that anybody saw: who is ahead wins more often.
    const AnyGame game{Sluice({.basins = 4, .buckets = 3})};
    for (const int hidden : {0, 16}) {
        Learner learner(game, game.initial_position(), {.hidden = hidden, .outcome = 1.0, .seed = 3});
        for (int round = 0; round < 6; ++round) {
            for (const GameRecord& record : random_games(game, 200, static_cast<std::uint64_t>(round)))
                learner.add(record);
            learner.learn();
        }
        EXPECT_LT(learner.error(), 0.19) << hidden;
        const LearnedNetwork network(learner.model());
        double squares = 0, blind = 0;
        int count = 0;
        for (const GameRecord& record : random_games(game, 200, 99)) {
            AnyPosition position = game.initial_position();
            for (const std::string& text : record.moves) {
                const Player mover = game.player_to_move(position);
                std::vector<std::uint16_t> own(network.patterns()), rivals(network.patterns());
                game.read_patterns(position, mover, own);
                game.read_patterns(position, rival_of(mover), rivals);
                const double result = mover == Player::First ? record.counted.points_a : 1.0 - record.counted.points_a;
                const double chance = 1.0 / (1.0 + std::exp(-double{network.exact_output(own, rivals).value}));
                squares += (chance - result) * (chance - result);
                blind += (0.5 - result) * (0.5 - result);
                ++count;
                game.play(position, move_from_text(game, position, text));
            }
        }
        EXPECT_LT(squares, 0.87 * blind) << hidden << " units, " << count << " positions";
    }
}

TEST(Learned, GamesOfFaultsAndWithoutChancesTeachNothing) {
    const AnyGame game{Lanterns({3, 3, 3, false})};
    Learner learner(game, game.initial_position(), {});
    auto records = random_games(game, 3, 1);
    records[0].chances.clear();
    records[1].counted.ended_by = EndedBy::IllegalMove;
    for (const GameRecord& record : records) learner.add(record);
    EXPECT_EQ(learner.games(), 1u);
    records[2].moves[0] = "z9";
    EXPECT_THROW(learner.add(records[2]), InputError);
    EXPECT_THROW(Learner(game, game.initial_position(), {.hidden = 9999}), InputError);
    EXPECT_THROW(Learner(game, game.initial_position(), {.hidden = 0, .second = 3}), InputError);
    EXPECT_THROW(Learner(game, game.initial_position(), {.outcome = 2.0}), InputError);
    EXPECT_THROW(Learner(AnyGame(waterway::Stowage()), AnyGame(waterway::Stowage()).initial_position(), {}),
                 InputError);
}

TEST(Learned, MonteCarloLooksFirstWhereThePriorPoints) {
    const Lanterns game;
    LearnedModel model = random_model(game, 0, 0, true, 1);
    for (float& weight : model.rows) weight = 0.0f;
    // A lantern of one's own on d2 is likely to be good, and nothing else is known.
    std::size_t row = 0;
    for (const Pattern& pattern : model.patterns) {
        if (pattern.name == "hook d2") model.rows[(row + 1) * 2 + 1] = 6.0f;
        row += static_cast<std::size_t>(pattern.ways);
    }
    const auto network = std::make_shared<const LearnedNetwork>(model);
    MonteCarlo<Lanterns> search(game, {}, std::make_shared<LearnedEvaluator<Lanterns>>(network),
                                std::make_shared<LearnedPrior<Lanterns>>(network));
    const auto decision = search.decide(game.initial_position(), {.playouts = 60});
    EXPECT_EQ(game.move_text(game.initial_position(), decision.ranked[0].move), "d2");
    MonteCarlo<Lanterns> blind(game, {}, std::make_shared<LearnedEvaluator<Lanterns>>(network));
    const auto without = blind.decide(game.initial_position(), {.playouts = 60});
    const auto visits_of = [&](const auto& found) {
        for (const auto& entry : found.ranked)
            if (game.move_text(game.initial_position(), entry.move) == "d2") return entry.visits;
        return std::uint64_t{0};
    };
    EXPECT_GT(visits_of(decision), 4 * visits_of(without));
}

TEST(Learned, StrayingOpponentsSayWhatTheyFoundAllTheSame) {
    const GameKit kit = game_kit(Lanterns());
    OpponentSpec spec = read_opponent("standard");
    spec.depth = 2;
    const auto opponent = straying(make_opponent(kit.game, spec, {}, kit.choosers), 0.3);
    int strayed = 0;
    for (std::uint64_t seed = 0; seed < 300; ++seed) {
        const auto decision = opponent->decide(seen_by(kit.game, kit.game.initial_position(), Player::First), seed);
        strayed += decision.move == decision.ranked.front().move ? 0 : 1;
    }
    EXPECT_GT(strayed, 50);
    EXPECT_LT(strayed, 130);
}
