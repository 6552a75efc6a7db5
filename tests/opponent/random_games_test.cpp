// Every chooser by its name, as a user asks for it, in games drawn at random of every kind, all in sight or with a part that no
// player sees: it plays a legal move, the same when it is asked again, or refuses in a sentence.
//
//     ARVEK_TEST_GAMES=20000 ARVEK_TEST_SEED=5 ./arvek_tests --gtest_filter='RandomGames.*'

#include <gtest/gtest.h>

#include <arvek/game/view.hpp>
#include <arvek/opponent/game_kit.hpp>
#include <arvek/opponent/make_opponent.hpp>
#include <iostream>
#include <map>

#include "support/environment.hpp"
#include "support/plain_values.hpp"
#include "support/random_game.hpp"
#include "support/sanitized.hpp"

using namespace arvek;
using testing_support::number_from;
using testing_support::PlainValues;
using testing_support::RandomGame;
using testing_support::RandomRules;

namespace {

/// One of four seals is on the game, which nobody sees and nothing depends on: what a player should do is as if there was none.
struct SealedGame : RandomGame<8> {
    using RandomGame<8>::RandomGame;
    struct View {
        std::uint32_t at = 0, whose = 0;
        friend bool operator==(const View&, const View&) = default;
    };

    bool offers(Ability ability) const { return ability == Ability::Views || RandomGame<8>::offers(ability); }
    static unsigned char& seal(Position& p) { return p.rest.back(); }
    View view(const Position& p, Player player) const { return {p.at, static_cast<std::uint32_t>(index_of(player))}; }
    Position sample(const View& view, Random& random) const {
        Position p = RandomGame<8>::read_position(std::to_string(view.at));
        seal(p) = static_cast<unsigned char>(random.below(4));
        return p;
    }
    void play(Position& p, const Move& move) const {
        const unsigned char kept = seal(p);
        RandomGame<8>::play(p, move);
        seal(p) = kept;
    }
    std::uint64_t hash(const Position& p) const { return mix_bits(p.at * 256u + p.rest.back()); }
    std::string position_text(const Position& p) const {
        return RandomGame<8>::position_text(p) + "." + std::to_string(p.rest.back());
    }
    Position read_position(std::string_view text) const {
        const std::size_t point = text.find('.');
        Position p = RandomGame<8>::read_position(text.substr(0, point));
        seal(p) = static_cast<unsigned char>(std::stoi(std::string(text.substr(point + 1))));
        return p;
    }
};

struct Answers {
    int played = 0, refused = 0, best = 0;
};

class Round {
   public:
    Round(const RandomRules& rules, std::uint64_t seed) : rules_(rules), seed_(seed), random_(seed) {}

    template <class G>
    void ask(std::map<std::string, Answers>& answers) {
        const GameKit kit = game_kit(G(rules_));
        AnyPosition at = kit.game.initial_position();
        settle_chance(kit.game, at, random_);
        if (kit.game.outcome(at)) return;
        const auto legal = legal_moves(kit.game, at);
        for (const ChooserInfo& info : kit.choosers.infos()) {
            const std::uint64_t level = info.has_levels && random_.below(2) == 0 ? 1 + random_.below(10) : 0;
            const std::string text = info.name + (level > 0 ? "@" + std::to_string(level) : "");
            OpponentSpec spec = read_opponent(text, kit.choosers.infos());
            if (info.looks_ahead) spec.nodes = 1 + random_.below(3'000);
            spec.margins = random_.below(2) == 0;
            const std::uint64_t seed = random_.next();
            const auto decide = [&] {
                const auto opponent = make_opponent(kit.game, spec, {}, kit.choosers);
                return opponent->decide(seen_by(kit.game, at, kit.game.player_to_move(at)), seed);
            };
            // As docs/levels.md promises: a win at once, for one seat only where nothing pays more, or a larger one that is
            // proven.
            const auto wins = [&](const AnyMove& move) {
                AnyPosition after = at;
                kit.game.play(after, move);
                const Payoff least = rules_.seats > 1 || !spec.margins ? 1 : most_payoff_of(kit.game);
                return pays(kit.game, after, kit.game.player_to_move(at), least, 1);
            };
            const std::string where = "game " + std::to_string(seed_) + ", " + text + ": ";
            try {
                const auto decision = decide();
                const AnyMove& move = decision.move;
                ASSERT_TRUE(legal.contains(move)) << where << "no legal move";
                ASSERT_EQ(move, decide().move) << where << "another move when it is asked again";
                if (level >= 8 && std::any_of(legal.begin(), legal.end(), wins)) {
                    ASSERT_TRUE(wins(move) || wins_later(decision)) << where << "a win in one is missed";
                    ++wins_seen;
                }
                ++answers[info.name].played;
                answers[info.name].best += is_best(kit.game.move_text(at, move)) ? 1 : 0;
            } catch (const InputError& error) {
                ASSERT_GT(std::string(error.what()).size(), 20u) << where << error.what();
                ++answers[info.name].refused;
            } catch (const RulesError& error) {
                ASSERT_NE(std::string(error.what()).find("do not sum to zero"), std::string::npos)
                    << where << error.what();
                ASSERT_EQ(rules_.seats, 2) << where << error.what();
                ++answers[info.name].refused;
            }
        }
    }

    int wins_seen = 0;

   private:
    /// Whether the game is over, whatever so many dice show, and pays the player so much.
    static bool pays(const AnyGame& game, const AnyPosition& position, Player player, Payoff least, int dice) {
        if (const auto outcome = game.outcome(position)) return outcome->payoff(player) >= least;
        if (dice == 0 || !chance_is_next(game, position) || !lists_events(game)) return false;
        MoveList<Event<AnyMove>> events;
        list_events(game, position, events);
        return std::all_of(events.begin(), events.end(), [&](const auto& event) {
            AnyPosition after = position;
            game.play(after, event.move);
            return pays(game, after, player, least, dice - 1);
        });
    }
    static bool wins_later(const Decision<AnyMove>& decision) {
        const auto& played = decision.ranked.at(static_cast<std::size_t>(decision.rank - 1));
        return played.kind == ScoreKind::Exact && played.score.is_proven_win();
    }
    /// Whether no move is worth more, or that is too much to find out.
    bool is_best(const std::string& move) {
        if (rules_.goes_back()) return true;
        PlainValues plain(rules_, true);
        if (plain.ways(0, -1, 30'000) >= 30'000) return true;
        const auto seat = static_cast<std::size_t>(plain.decider);
        const auto values = plain.values_of_moves(0, -1);
        double best = -1e9;
        for (const auto& value : values) best = std::max(best, value[seat]);
        return values[std::stoul(move)][seat] >= best - 1e-9;
    }

    const RandomRules& rules_;
    std::uint64_t seed_;
    Random random_;
};

template <class G>
void hold_in_random_games() {
    const std::uint64_t first = number_from("ARVEK_TEST_SEED", 1);
    const std::uint64_t games = number_from("ARVEK_TEST_GAMES", testing_support::sanitized ? 150 : 200);
    std::map<std::string, Answers> answers;
    int wins = 0;
    for (std::uint64_t seed = first; seed < first + games; ++seed) {
        const RandomRules rules = RandomRules::drawn(seed);
        Round round(rules, seed);
        round.ask<G>(answers);
        wins += round.wins_seen;
        if (testing::Test::HasFatalFailure()) return;
    }
    for (const auto& [name, of] : answers)
        std::cout << name << ": " << of.played << " played, " << of.best << " of them as good as any, " << of.refused
                  << " refused\n";
    std::cout << wins << " wins in one, none missed\n";
    EXPECT_GT(wins, static_cast<int>(games) / 20);
    EXPECT_GT(answers.size(), 8u);
    EXPECT_GT(answers["standard"].played, static_cast<int>(games) / 2);
    if (games >= 100) {
        EXPECT_GT(answers["standard"].best * 2, answers["random"].best * 2 + answers["random"].played / 5);
    }
}

}  // namespace

TEST(RandomGames, ChoosersPlayOrRefuseWhereAllIsInSight) { hold_in_random_games<RandomGame<8>>(); }
TEST(RandomGames, ChoosersPlayOrRefuseWhereSomethingIsHidden) { hold_in_random_games<SealedGame>(); }
