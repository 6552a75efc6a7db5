#include "chess/chess.hpp"
#include "chess/pgn.hpp"

#include <gtest/gtest.h>
#include <algorithm>
#include <arvek/arena/files.hpp>
#include <arvek/game/text.hpp>
#include <arvek/lab/check.hpp>
#include <arvek/lab/count.hpp>
#include <arvek/search/minimax.hpp>
#include <arvek/search/standard.hpp>
#include <fstream>
#include <map>

#include "games/plain_chess.hpp"
#include "support/brute_force.hpp"
#include "support/tool.hpp"

using arvek::InputError;
using arvek::Player;
using waterway::Chess;

namespace {

const Chess chess_game;

std::uint64_t counted_at(const std::string& fen, int depth) {
    return arvek::count_sequences(chess_game, chess_game.read_position(fen), depth).back().sequences.in_64_bits();
}

std::vector<std::string> chess_names(const std::string& fen) {
    const auto position = chess_game.read_position(fen);
    std::vector<std::string> names;
    for (const auto& move : arvek::legal_moves(chess_game, position))
        names.push_back(chess_game.move_text(position, move));
    std::sort(names.begin(), names.end());
    return names;
}

std::string chess_best(const std::string& fen, int depth) {
    arvek::Standard<Chess> search(chess_game);
    const auto position = chess_game.read_position(fen);
    const auto decision = search.decide(position, {.depth = depth});
    return chess_game.move_text(position, decision.move) +
           (decision.ranked.front().score.is_proven_win() ? " won" : "");
}

}  // namespace

TEST(Chess, GivesThePublishedCounts) {
    const std::vector<std::uint64_t> start{20, 400, 8902, 197281, 4865609};
    const auto counts = arvek::count_sequences(chess_game, chess_game.initial_position(), 5);
    for (std::size_t i = 0; i < start.size(); ++i) EXPECT_EQ(counts[i].sequences, start[i]);
    EXPECT_EQ(counted_at("r3k2r/p1ppqpb1/bn2pnp1/3PN3/1p2P3/2N2Q1p/PPPBBPPP/R3K2R w KQkq - 0 1", 4), 4085603u);
    EXPECT_EQ(counted_at("8/2p5/3p4/KP5r/1R3p1k/8/4P1P1/8 w - - 0 1", 5), 674624u);
    EXPECT_EQ(counted_at("r3k2r/Pppp1ppp/1b3nbN/nP6/BBP1P3/q4N2/Pp1P2PP/R2Q1RK1 w kq - 0 1", 4), 422333u);
    EXPECT_EQ(counted_at("rnbq1k1r/pp1Pbppp/2p5/8/2B5/8/PPP1NnPP/RNBQK2R w KQ - 1 8", 4), 2103487u);
}

TEST(Chess, PlaysAsThePlainRulesSayInRandomGames) {
    arvek::Random random(7);
    int finished = 0, castled = 0, passed = 0;
    for (int number = 0; number < 60; ++number) {
        Chess::Position position = chess_game.initial_position();
        // Half the games start where few pieces are left, so that ends and promotions are met.
        if (number % 2 == 1)
            position = chess_game.read_position(number % 4 == 1 ? "4k3/1P4p1/8/2p5/5P2/8/1p4P1/4K2R w K - 0 1"
                                                                : "r3k2r/8/8/pP4Pp/Pp4pP/8/8/R3K2R w KQkq a6 0 1");
        for (int ply = 0; ply < 160; ++ply) {
            const std::string fen = chess_game.position_text(position);
            const testing_support::PlainChess plain(fen);
            const auto after = plain.after();
            ASSERT_EQ(position.in_check, plain.in_check()) << fen;
            arvek::MoveList<Chess::Move> moves;
            chess_game.generate_moves(position, moves);
            ASSERT_EQ(moves.size(), after.size()) << fen;
            ASSERT_EQ(static_cast<std::size_t>(chess_game.count_moves(position)), after.size()) << fen;
            for (const auto& move : moves) {
                const auto found = after.find(chess_game.coordinates(position, move));
                ASSERT_NE(found, after.end()) << fen << " " << chess_game.coordinates(position, move);
                auto next = position;
                chess_game.play(next, move);
                ASSERT_EQ(chess_game.position_text(next), found->second.fen())
                    << fen << " " << chess_game.coordinates(position, move);
                ASSERT_EQ(next, chess_game.read_position(found->second.fen()));
                castled += chess_game.move_text(position, move).starts_with("O-O") ? 1 : 0;
            }
            passed += position.passed != Chess::no_square ? 1 : 0;
            const auto outcome = chess_game.outcome(position);
            if (after.empty()) {
                ASSERT_TRUE(outcome.has_value()) << fen;
                ASSERT_EQ(outcome->payoff(position.to_move), plain.in_check() ? -1 : 0) << fen;
            } else if (outcome) {
                ASSERT_EQ(outcome->payoff(Player::First), 0) << fen;
            }
            if (outcome) {
                ++finished;
                break;
            }
            chess_game.play(position, moves[static_cast<std::size_t>(random.below(moves.size()))]);
        }
    }
    EXPECT_GT(finished, 5);
    EXPECT_GT(castled, 20);
    EXPECT_GT(passed, 5);
}

TEST(Chess, EndsWhenItIsOver) {
    const auto outcome = [](const std::string& fen) { return chess_game.outcome(chess_game.read_position(fen)); };
    EXPECT_EQ(outcome("rnb1kbnr/pppp1ppp/8/4p3/6Pq/5P2/PPPPP2P/RNBQKBNR w KQkq - 1 3"),
              arvek::Outcome::win(Player::Second));
    EXPECT_EQ(outcome("7k/5Q2/6K1/8/8/8/8/8 b - - 0 1"), arvek::Outcome::draw()) << "stalemate";
    EXPECT_EQ(outcome("7k/8/6K1/8/8/8/8/R7 w - - 100 90"), arvek::Outcome::draw()) << "fifty moves";
    EXPECT_EQ(outcome("7k/8/6K1/8/8/8/8/R7 w - - 99 90"), std::nullopt);
    EXPECT_EQ(outcome("R6k/8/6K1/8/8/8/8/8 b - - 100 90"), arvek::Outcome::win(Player::First))
        << "mate comes before the count of moves";
    for (const char* dead : {"7k/8/6K1/8/8/8/8/8 w - - 0 1", "7k/8/6K1/8/8/8/8/N7 w - - 0 1",
                             "7k/8/8/6K1/8/8/8/1b6 w - - 0 1", "5b1k/8/6K1/8/8/8/8/2B1B1B1 w - - 0 1"})
        EXPECT_EQ(outcome(dead), arvek::Outcome::draw()) << dead;
    for (const char* alive : {"7k/8/6K1/8/8/8/8/N6n w - - 0 1", "7k/8/8/6K1/8/8/8/2Bb4 w - - 0 1",
                              "7k/8/6K1/8/8/8/P7/8 w - - 0 1", "7k/8/6K1/8/8/8/8/NN6 w - - 0 1"})
        EXPECT_EQ(outcome(alive), std::nullopt) << alive;
}

TEST(Chess, DrawsByTheThirdOccurrenceWhateverTheCounts) {
    auto position = chess_game.initial_position();
    std::vector<Chess::Position> history{position};
    for (const char* name : {"Nf3", "Nf6", "Ng1", "Ng8", "Nf3", "Nf6", "Ng1", "Ng8"}) {
        EXPECT_FALSE(arvek::is_draw_by_repetition(chess_game, history));
        chess_game.play(position, arvek::move_from_text(chess_game, position, name));
        history.push_back(position);
    }
    EXPECT_TRUE(arvek::is_draw_by_repetition(chess_game, history));
    // A right that was lost in between makes it another position.
    const auto castles = chess_game.read_position("4k3/8/8/8/8/8/8/4K2R w K - 0 1");
    const auto does_not = chess_game.read_position("4k3/8/8/8/8/8/8/4K2R w - - 4 3");
    EXPECT_FALSE(arvek::is_same_for_repetition(chess_game, castles, does_not));
    // A search sees that going back and forth draws: White, who would be mated, checks for ever.
    arvek::Standard<Chess> search(chess_game);
    const auto lost = chess_game.read_position("n5k1/n5p1/8/7Q/8/8/rr6/6K1 w - - 0 1");
    const auto decision = search.decide(lost, {.depth = 6});
    EXPECT_EQ(chess_game.move_text(lost, decision.move), "Qe8+");
    EXPECT_EQ(decision.ranked.front().score, arvek::Score{});
}

TEST(Chess, WritesMovesStrictly) {
    // Two rooks on a rank, two on a file, three queens.
    const auto rooks = chess_names("4k3/8/8/8/8/8/4K3/R6R w - - 0 1");
    EXPECT_TRUE(std::count(rooks.begin(), rooks.end(), "Rad1") == 1 &&
                std::count(rooks.begin(), rooks.end(), "Rhd1") == 1);
    EXPECT_TRUE(std::count(rooks.begin(), rooks.end(), "Ra8+") == 1);
    const auto queens = chess_names("6k1/8/8/8/Q6Q/8/K7/Q7 w - - 0 1");
    for (const char* name : {"Qhe4", "Qae4", "Q4d1", "Q1d1", "Qa4d4", "Q1d4", "Qhd4"})
        EXPECT_EQ(std::count(queens.begin(), queens.end(), name), 1) << name;
    const auto promotes = chess_names("3r2k1/4P3/8/8/8/8/8/4K3 w - - 0 1");
    for (const char* name : {"e8=Q+", "e8=R+", "e8=B", "e8=N", "exd8=Q+", "exd8=R+", "exd8=B", "exd8=N"})
        EXPECT_EQ(std::count(promotes.begin(), promotes.end(), name), 1) << name;
    const auto passing = chess_names("4k3/8/8/3pP3/8/8/8/4K3 w - d6 0 2");
    EXPECT_EQ(std::count(passing.begin(), passing.end(), "exd6"), 1);
    const auto castling = chess_names("r3k2r/8/8/8/8/8/8/R3K2R w KQkq - 0 1");
    EXPECT_EQ(std::count(castling.begin(), castling.end(), "O-O"), 1);
    EXPECT_EQ(std::count(castling.begin(), castling.end(), "O-O-O"), 1);
    const auto mates = chess_names("7k/R7/6K1/8/8/8/8/8 w - - 0 1");
    EXPECT_EQ(std::count(mates.begin(), mates.end(), "Ra8#"), 1);
}

TEST(Chess, ReadsMovesLoosely) {
    const auto read = [](const std::string& fen, const char* text) {
        const auto position = chess_game.read_position(fen);
        return chess_game.move_text(position, arvek::move_from_text(chess_game, position, text));
    };
    const std::string start = "rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1";
    for (const char* text : {"Nf3", "g1f3", "Ng1f3", "Ng1-f3", "g1-f3", "Nf3!?", "Nf3+", "Ngf3", "N1f3"})
        EXPECT_EQ(read(start, text), "Nf3") << text;
    for (const char* text : {"e4", "e2e4", "e2-e4", "Pe4", "e4!!"}) EXPECT_EQ(read(start, text), "e4") << text;
    const std::string promotes = "3r2k1/4P3/8/8/8/8/8/4K3 w - - 0 1";
    for (const char* text : {"e8=Q+", "e8Q", "e8q", "e7e8q", "e7e8Q", "e8(Q)", "e8=Q"})
        EXPECT_EQ(read(promotes, text), "e8=Q+");
    for (const char* text : {"exd8=N", "ed8N", "e7d8n", "e7xd8=N", "exd8n"}) EXPECT_EQ(read(promotes, text), "exd8=N");
    const std::string castles = "r3k2r/8/8/8/8/8/8/R3K2R b KQkq - 0 1";
    for (const char* text : {"O-O", "0-0", "o-o", "e8g8", "Kg8"}) EXPECT_EQ(read(castles, text), "O-O") << text;
    EXPECT_EQ(read("4k3/8/8/3pP3/8/8/8/4K3 w - d6 0 2", "exd6e.p."), "exd6");
    // What a bishop or a pawn of the b file may mean.
    const std::string both = "4k3/8/8/8/8/2p5/1P1B4/4K3 w - - 0 1";
    EXPECT_EQ(read(both, "bxc3"), "bxc3");
    EXPECT_EQ(read(both, "Bxc3"), "Bxc3");
}

TEST(Chess, SaysWhatIsWrongWithATextAndWhere) {
    const auto complaint = [](const std::string& fen) -> std::string {
        try {
            (void)chess_game.read_position(fen);
        } catch (const InputError& error) {
            return error.what();
        }
        return "";
    };
    const std::vector<std::pair<std::string, std::string>> wrong{
        {"", "the text is empty"},
        {"rnbqkbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBN w KQkq - 0 1", "only 7 squares"},
        {"rnbqkbnr/ppppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1", "/"},
        {"rnbqkbnr/pppppppp/44/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1", "two numbers"},
        {"rnbqxbnr/pppppppp/8/8/8/8/PPPPPPPP/RNBQKBNR w KQkq - 0 1", "column 5"},
        {"8/8/8/8/8/8/8/K7 w - - 0 1", "Black has no king"},
        {"kk6/8/8/8/8/8/8/K7 w - - 0 1", "2 kings"},
        {"k6P/8/8/8/8/8/8/K7 w - - 0 1", "pawn cannot stand"},
        {"k7/8/8/8/8/8/8/K7 x - - 0 1", "player to move"},
        {"k7/8/8/8/8/8/8/K7 w K - 0 1", "right to castle 'K' needs"},
        {"4k3/8/8/8/8/8/8/4K2R w KK - 0 1", "twice"},
        {"k7/8/8/8/8/8/8/K7 w - e3 0 1", "rank 6"},
        {"k7/8/8/8/8/8/8/K7 w - e6 0 1", "no pawn has just passed"},
        {"k7/8/8/8/8/8/8/K7 w - - -1 1", "without capture"},
        {"k7/8/8/8/8/8/8/K7 w - - 0 0", "number of the move"},
        {"k7/8/8/8/8/8/8/K7 w - - 0 1 more", "the end of the text"},
        {"k7/8/8/8/8/8/8/KR5r b - - 0 1", ""},
        {"kR6/8/8/8/8/8/8/K7 w - - 0 1", "in check"},
        {"QQQQQQQQ/QQQQQQQQ/Q7/8/8/8/k7/7K w - - 0 1", "18 pieces"},
    };
    for (const auto& [fen, word] : wrong) {
        const std::string said = complaint(fen);
        if (word.empty())
            EXPECT_EQ(said, "") << fen;
        else
            EXPECT_NE(said.find(word), std::string::npos) << fen << " gave: " << said;
    }
    EXPECT_EQ(chess_game.position_text(chess_game.read_position("k7/8/8/8/8/8/8/K7 w - -")),
              "k7/8/8/8/8/8/8/K7 w - - 0 1");
    // A passed square that no pawn can use is left out, and with it positions are equal.
    EXPECT_EQ(chess_game.read_position("rnbqkbnr/pppppppp/8/8/4P3/8/PPPP1PPP/RNBQKBNR b KQkq e3 0 1"),
              chess_game.read_position("rnbqkbnr/pppppppp/8/8/4P3/8/PPPP1PPP/RNBQKBNR b KQkq - 0 1"));
    const auto start = chess_game.initial_position();
    for (const char* text : {"", "e5", "Ke2", "O-O", "Nd2", "e2e5", "e9", "xx", "N", "e2e4q", "Nf3f3f3", "\xff\xfe"})
        EXPECT_THROW(arvek::move_from_text(chess_game, start, text), InputError) << text;
    try {
        (void)arvek::move_from_text(chess_game, chess_game.read_position("4k3/8/8/8/8/8/4K3/R6R w - - 0 1"), "Rd1");
        ADD_FAILURE() << "two rooks can go there";
    } catch (const InputError& error) {
        EXPECT_NE(std::string(error.what()).find("Rad1 or Rhd1"), std::string::npos) << error.what();
    }
}

TEST(Chess, FindsMates) {
    // Mates in two, three and four, each proven at just that depth.
    struct Mate {
        const char* fen;
        const char* move;
        int moves;
    };
    for (const Mate& mate : {Mate{"8/8/8/6N1/8/r7/p1Q2Kpk/8 w - - 0 1", "Qh7+", 2},
                             Mate{"k7/4p3/8/K7/Q7/4p3/2N5/2r5 w - - 0 1", "Kb6+", 2},
                             Mate{"8/1R6/2pP4/2P2p2/7p/2N5/5K2/7k w - - 0 1", "Rh7", 2},
                             Mate{"2rRK3/8/3pp1R1/8/2P5/p7/8/7k w - - 0 1", "Rxc8", 3},
                             Mate{"8/8/8/6p1/1P6/3qK1p1/6Q1/1k6 w - - 0 1", "Kxd3", 3},
                             Mate{"8/2p3P1/R1p3k1/5p2/7K/3N3P/8/8 w - - 0 1", "g8=Q+", 4},
                             Mate{"3NQ3/8/1k6/7p/8/1p5K/6r1/8 w - - 0 1", "Qc6+", 4},
                             Mate{"8/2p5/7N/3B4/8/1p4BK/8/5k2 w - - 0 1", "Bc4+", 4}}) {
        const int plies = 2 * mate.moves - 1;
        EXPECT_EQ(chess_best(mate.fen, plies), mate.move + std::string(" won")) << mate.fen;
        EXPECT_EQ(chess_best(mate.fen, plies - 2).find("won"), std::string::npos) << mate.fen;
    }
}

TEST(Chess, SeesPastWhatTemptsFromTheDepthWhereItsLossIsSeen) {
    std::ifstream file(std::string(ARVEK_SOURCE_DIR) + "/demo/chess/tempting.epd");
    std::string line;
    ASSERT_TRUE(std::getline(file, line));
    const std::string fen = line.substr(0, line.find(" am ")) + " 0 1";
    for (int depth = 1; depth <= 7; ++depth)
        EXPECT_EQ(chess_best(fen, depth).starts_with("Bxa2"), depth < 7) << chess_best(fen, depth) << " at " << depth;
}

TEST(Chess, SearchesAsMinimaxDoes) {
    // Without quiescence and stages, the values at a depth are those of plain minimax.
    arvek::Random random(11);
    for (int i = 0; i < 6; ++i) {
        const auto position = testing_support::random_position(chess_game, 10 + 7 * i, random);
        if (chess_game.outcome(position)) continue;
        arvek::Minimax<Chess> plain(chess_game);
        const auto expected = plain.decide(position, {.depth = 3});
        for (const bool stages : {true, false}) {
            arvek::Standard<Chess> search(chess_game, {.techniques = {.quiescence = false, .stages = stages}});
            const auto decision = search.decide(position, {.depth = 3});
            EXPECT_EQ(decision.ranked.front().score, expected.ranked.front().score)
                << chess_game.position_text(position) << (stages ? " in stages" : "");
        }
    }
}

TEST(Chess, TakesTheMostValuableFirstAtTheHorizon) {
    arvek::Random random(12);
    std::uint64_t by_hint = 0, as_they_come = 0;
    for (int i = 0; i < 12; ++i) {
        const auto position = testing_support::random_position(chess_game, 8 + 3 * i, random);
        if (chess_game.outcome(position)) continue;
        const auto scores = [&](bool hint, std::uint64_t& nodes) {
            arvek::Standard<Chess> search(chess_game, {.techniques = {.hint = hint}});
            const auto decision = search.decide(position, {.depth = 2}, {.ranking = arvek::Ranking::All});
            nodes += decision.stats.nodes;
            std::map<std::string, arvek::Score> found;
            for (const auto& entry : decision.ranked) found[chess_game.move_text(position, entry.move)] = entry.score;
            return found;
        };
        EXPECT_EQ(scores(true, by_hint), scores(false, as_they_come)) << chess_game.position_text(position);
    }
    EXPECT_LT(2 * by_hint, as_they_come);
}

TEST(Chess, HasNoFaultThatACheckFinds) {
    const auto report = arvek::check_rules(chess_game, {.games = 12, .short_positions = 200, .compared = 10});
    EXPECT_TRUE(report.sound()) << report.text();
}

TEST(Chess, ReadsPositionsWithOperations) {
    std::ifstream in(std::string(ARVEK_SOURCE_DIR) + "/demo/chess/mates.epd");
    int read = 0;
    for (std::string line; std::getline(in, line); ++read) {
        const auto position = chess_game.read_position(line);
        // The best move that the line names is the one that is found, in as many moves as it says.
        const auto word_after = [&](const std::string& name) {
            const auto at = line.find(name + " ") + name.size() + 1;
            return line.substr(at, line.find(';', at) - at);
        };
        arvek::Standard<Chess> search(chess_game);
        const auto decision = search.decide(position, {.depth = 2 * std::stoi(word_after("dm")) - 1});
        EXPECT_EQ(chess_game.move_text(position, decision.move), word_after("bm")) << line;
        EXPECT_TRUE(decision.ranked.front().score.is_proven_win()) << line;
    }
    EXPECT_EQ(read, 8);
    const auto counted = chess_game.read_position("k7/8/8/8/8/8/8/K6R w - - hmvc 12; id \"a; b\"; fmvn 34;");
    EXPECT_EQ(chess_game.position_text(counted), "k7/8/8/8/8/8/8/K6R w - - 12 34");
    for (const char* wrong : {"k7/8/8/8/8/8/8/K7 w - - bm Ka2", "k7/8/8/8/8/8/8/K7 w - - hmvc x;",
                              "k7/8/8/8/8/8/8/K7 w - - id \"no end;", "k7/8/8/8/8/8/8/K7 w - - bm Ka2; 7;"})
        EXPECT_THROW(chess_game.read_position(wrong), InputError) << wrong;
}

TEST(Chess, AThousandRandomGamesComeBackFromTheirNotation) {
    arvek::Random random(23);
    std::string all;
    std::vector<waterway::PgnGame> games;
    for (int number = 0; number < 1'000; ++number) {
        waterway::PgnGame game;
        game.tags = {{"Event", "Wharf cup \"no. " + std::to_string(number) + "\" \\"},
                     {"Site", "Lowmere"},
                     {"Date", "????.??.??"},
                     {"Round", "?"},
                     {"White", "Teal"},
                     {"Black", "Amber"}};
        game.start =
            number % 3 == 0 ? testing_support::random_position(chess_game, 20, random) : chess_game.initial_position();
        if (chess_game.outcome(game.start)) game.start = chess_game.initial_position();
        Chess::Position position = game.start;
        const auto plies = static_cast<int>(random.below(120));
        for (int ply = 0; ply < plies && !chess_game.outcome(position); ++ply) {
            if (random.chance(0.02))
                game.comments.emplace_back(game.moves.size(), "a bend in the brook, [and] (a weir)");
            const auto moves = arvek::legal_moves(chess_game, position);
            game.moves.push_back(moves[static_cast<std::size_t>(random.below(moves.size()))]);
            chess_game.play(position, game.moves.back());
        }
        const auto outcome = chess_game.outcome(position);
        game.result = !outcome                             ? "*"
                      : outcome->payoff(Player::First) > 0 ? "1-0"
                      : outcome->payoff(Player::First) < 0 ? "0-1"
                                                           : "1/2-1/2";
        all += waterway::pgn_text(chess_game, game);
        games.push_back(std::move(game));
    }
    const auto read = waterway::read_pgn(chess_game, all, "all.pgn");
    ASSERT_EQ(read.size(), games.size());
    for (std::size_t i = 0; i < read.size(); ++i) {
        EXPECT_EQ(read[i].moves, games[i].moves);
        EXPECT_EQ(read[i].start, games[i].start);
        EXPECT_EQ(read[i].comments, games[i].comments);
        EXPECT_EQ(read[i].result, games[i].result);
        EXPECT_EQ(read[i].tag("Event"), games[i].tag("Event"));
    }
    for (std::size_t begin = 0; begin < all.size();) {
        const auto end = all.find('\n', begin);
        ASSERT_TRUE(end - begin < 80 || all[begin] == '[') << all.substr(begin, end - begin);
        begin = end + 1;
    }
}

TEST(Chess, ReadsGamesAsPeopleWriteThem) {
    const auto games = waterway::read_pgn(
        chess_game,
        "\xef\xbb\xbf% a line that does not count\n[Event \"x\"]\n[Result \"0-1\"]\n\n"
        "{first} 1.f3 $2 e5 (1... d5 {no ) here} (1... c5 2. Nc3) ; nor ) here\n 2. d4) 2 g4?? {why?}\n"
        "Qh4# 0-1\n\n[Event \"y\"]\n1. e4 e5 2. Nf3 *\n1.d4 d5",
        "people.pgn");
    ASSERT_EQ(games.size(), 3u);
    EXPECT_EQ(games[0].moves.size(), 4u);
    EXPECT_EQ(games[0].result, "0-1");
    EXPECT_EQ(games[0].comments, (std::vector<std::pair<std::size_t, std::string>>{{0, "first"}, {3, "why?"}}));
    EXPECT_EQ(games[1].moves.size(), 3u);
    EXPECT_EQ(games[2].moves.size(), 2u);
    EXPECT_TRUE(waterway::read_pgn(chess_game, "", "empty.pgn").empty());
    const auto complaint = [](const std::string& text) -> std::string {
        try {
            (void)waterway::read_pgn(chess_game, text, "wrong.pgn");
        } catch (const InputError& error) {
            return error.what();
        }
        return "";
    };
    for (const auto& [text, word] : std::vector<std::pair<std::string, std::string>>{
             {"1. e4 e5\n2. Ke3", "wrong.pgn, line 2, column 4: "},
             {"1. e4 {no end", "line 1, column 7: the comment has no end"},
             {"1. e4 (no end", "the variation has no end"},
             {"[Event \"x\n\"]", "has no end"},
             {"[Event x]", "has no value"},
             {"[\"x\"]", "has no name"},
             {"[FEN \"8/8\"]\n1. e4", "line 1, column 6"},
             {"1. e4 )", "')' has no place here"},
             {"1. f3 e5 2. g4 Qh4# 3. a3", "the game is over before 'a3'"}}) {
        const std::string said = complaint(text);
        EXPECT_NE(said.find(word), std::string::npos) << text << "\ngave: " << said;
    }
}

TEST(Chess, TheReadingRoomOpensByItsBook) {
    const auto ran = testing_support::run({"decide", "chess", "--opponent",
                                           std::string(ARVEK_SOURCE_DIR) + "/demo/chess/reading_room.toml", "--moves",
                                           "e4 e5 Nf3 Nc6", "--format", "json"});
    ASSERT_EQ(ran.status, 0) << ran.err;
    const std::string move = ran.json()["move"];
    EXPECT_TRUE(move == "Bb5" || move == "Bc4" || move == "d4") << move;
    const std::string demo = std::string(ARVEK_SOURCE_DIR) + "/demo/chess/";
    std::string cousin = arvek::read_text_file(demo + "cousin.toml");
    const std::string command = "build/release/bin/arvek";  // as seen from where it is to be used
    cousin.replace(cousin.find(command), command.size(), ARVEK_PROGRAM);
    const testing_support::TemporaryFile here(cousin);
    EXPECT_EQ(testing_support::run({"opponents", "check", demo + "reading_room.toml", here.path()}).status, 0);
}

TEST(Chess, WeighsAsAFileSays) {
    const std::string folder = std::string(ARVEK_SOURCE_DIR) + "/demo/chess/";
    const Chess romantic(Chess::Parameters{folder + "romantic.toml"});
    EXPECT_EQ(romantic.weights().pawn, (waterway::chess::Tapered{75, 100}));
    EXPECT_EQ(romantic.weights().rook, chess_game.weights().rook) << "what is not named stays";
    const auto pawn_up = chess_game.read_position("4k3/8/8/8/8/8/4P3/4K3 w - - 0 1");
    EXPECT_NE(romantic.evaluate(pawn_up, Player::First), chess_game.evaluate(pawn_up, Player::First));
    EXPECT_EQ(waterway::chess::read_weights("queen = 900", "one.toml").queen, (waterway::chess::Tapered{900, 900}));
    EXPECT_EQ(waterway::chess::read_weights("", "empty.toml"), waterway::chess::Weights{});
    const auto complaint = [](const std::string& text) -> std::string {
        try {
            (void)waterway::chess::read_weights(text, "wrong.toml");
        } catch (const InputError& error) {
            return error.what();
        }
        return "";
    };
    EXPECT_NE(complaint("kinght = 3").find("line 1, column 1"), std::string::npos);
    EXPECT_NE(complaint("kinght = 3").find("knight"), std::string::npos);
    EXPECT_NE(complaint("rook = [1, 2, 3]").find("has 3 numbers"), std::string::npos);
    EXPECT_NE(complaint("rook = \"five\"").find("rook"), std::string::npos);
    EXPECT_NE(complaint("rook = 99999").find("rook"), std::string::npos);
    EXPECT_THROW(Chess(Chess::Parameters{"/no/such.toml"}), InputError);
}
