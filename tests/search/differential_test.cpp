// Every search against plain recursion, on games drawn at random of every kind.
//
//     ARVEK_TEST_GAMES=100000 ./arvek_tests --gtest_filter='Differential.*'
//     ARVEK_TEST_GAME_FILE=wrong.json ./arvek_tests --gtest_filter=Differential.ReadsAGameBack
//
// A game that a search gets wrong is made as small as it can be and still is, and is printed.

#include <gtest/gtest.h>

#include <arvek/search/alpha_beta.hpp>
#include <arvek/search/engine_game.hpp>
#include <arvek/search/expectation.hpp>
#include <arvek/search/luck_solver.hpp>
#include <arvek/search/many_players.hpp>
#include <arvek/search/minimax.hpp>
#include <arvek/search/monte_carlo.hpp>
#include <arvek/search/nested_playouts.hpp>
#include <arvek/search/solver.hpp>
#include <arvek/search/standard.hpp>
#include <cstdlib>
#include <fstream>
#include <sstream>

#include "support/environment.hpp"
#include "support/plain_values.hpp"
#include "support/random_game.hpp"
#include "support/sanitized.hpp"

using namespace arvek;
using testing_support::number_from;
using testing_support::OddGame;
using testing_support::PlainValues;
using testing_support::RandomGame;
using testing_support::RandomRules;

namespace {

enum class Form { OwnType, SmallTable, LargeTable, OddTable };

/// What was asked of one game, and what was wrong with the answers.
class Inquiry {
   public:
    explicit Inquiry(const RandomRules& rules, std::uint64_t seed) : rules_(rules), random_(seed) {}

    /// What is wrong; empty where nothing is.
    std::string problem;
    int answers = 0;  ///< values that were compared

    /// The game in one of its forms: of its own type, or as a table of functions over small, large or odd positions.
    void ask(Form form) {
        is_odd_ = form == Form::OddTable;
        switch (form) {
            case Form::OwnType: return ask_of(RandomGame<8>(rules_));
            case Form::SmallTable: return ask_of(InTheOpen(AnyGame(RandomGame<8>(rules_))));
            case Form::LargeTable: return ask_of(InTheOpen(AnyGame(RandomGame<700>(rules_))));
            case Form::OddTable: return ask_of(InTheOpen(AnyGame(OddGame(rules_))));
        }
    }

   private:
    static constexpr double most_ways = 30'000;

    template <class G>
    void ask_of(const G& game) {
        const bool two = rules_.seats == 2 && rules_.sums_to_zero();
        const bool lists = rules_.lists || !rules_.has_chance();
        if (rules_.seats == 2 && !two) return refuses_other_sums(game);
        margins_ = random_.below(4) != 0;
        if (two && !rules_.has_chance()) in_the_open(game);
        if (two && rules_.hashes && !rules_.has_chance()) solved(game);
        if (two && lists) expected(game);
        if (lists) many(game);
        if (rules_.seats <= 2 && rules_.hashes && lists) solved_with_luck(game);
        if (rules_.seats == 1 && !rules_.has_chance()) nested(game);
        sampled(game);
    }

    static std::size_t place_of(std::uint16_t move) { return move; }
    std::size_t place_of(const AnyMove& move) const { return is_odd_ ? move.get<OddGame::Move>().place : move.number; }

    template <class... Texts>
    void wrong(const Texts&... texts) {
        if (!problem.empty()) return;
        std::ostringstream all;
        (all << ... << texts);
        problem = all.str();
    }
    int depth_below(int most) { return 1 + static_cast<int>(random_.below(static_cast<std::uint64_t>(most))); }
    PlainValues plain() const { return PlainValues(rules_, margins_); }
    bool is_small(int depth) { return plain().ways(0, depth, most_ways) < most_ways; }
    template <class Move>
    SearchRequest<Move> request() {
        SearchRequest<Move> asked;
        asked.seed = random_.next();
        asked.margins = margins_;
        constexpr Ranking rankings[] = {Ranking::Equals, Ranking::Best, Ranking::All};
        asked.ranking = rankings[random_.below(3)];
        return asked;
    }

    /// A search for two must not take payoffs that it does not understand for others.
    template <class G>
    void refuses_other_sums(const G& game) {
        const auto refused = [&](const char* name, auto ask) {
            try {
                ask();
                return;  // no such end was met
            } catch (const RulesError& error) {
                if (std::string(error.what()).find("do not sum to zero") == std::string::npos)
                    wrong(name, " says: ", error.what());
                ++answers;
            } catch (const InputError&) {
            }
        };
        const auto at = game.initial_position();
        refused("montecarlo", [&] { (void)MonteCarlo<G>(game, {.memory_mebibytes = 1}).decide(at, {.playouts = 50}); });
        if (!rules_.has_chance()) refused("alphabeta", [&] { (void)AlphaBeta<G>(game).decide(at, {.depth = 3}); });
        margins_ = true;
        if (rules_.lists || !rules_.has_chance()) many(game);
    }

    // ---- two in the open ----

    Score open_score(int node, int depth, int ply, int viewer, std::vector<int>& way) {
        const auto& of = rules_.nodes[static_cast<std::size_t>(node)];
        if (of.kind == RandomRules::End) {
            const int payoff = of.payoffs[static_cast<std::size_t>(viewer)];
            return Score::proven(margins_ ? payoff : std::clamp(payoff, -1, 1), ply);
        }
        if (rules_.draw_at > 0 && std::find(way.begin(), way.end(), node) != way.end()) return {};
        if (depth == 0) return Score::estimate(rules_.evaluates ? of.estimates[static_cast<std::size_t>(viewer)] : 0);
        way.push_back(node);
        Score best;
        for (std::size_t k = 0; k < of.next.size(); ++k) {
            const Score score = open_score(of.next[k], depth - 1, ply + 1, viewer, way);
            const bool better = of.kind == viewer ? score > best : score < best;
            if (k == 0 || better) best = score;
        }
        way.pop_back();
        return best;
    }

    template <class Move>
    void compare(const char* name, const Decision<Move>& decision, int depth, const std::vector<Score>& known) {
        const Score best = *std::max_element(known.begin(), known.end());
        if (decision.ranked.empty() || place_of(decision.move) >= known.size()) return wrong(name, ": no legal move");
        if (known[place_of(decision.move)] != best)
            wrong(name, " to depth ", depth, ": plays a move worth ", known[place_of(decision.move)].number(), " of ",
                  best.number());
        for (const auto& entry : decision.ranked) {
            const Score value = known[place_of(entry.move)];
            const bool holds = entry.kind == ScoreKind::Exact   ? entry.score == value
                               : entry.kind == ScoreKind::Lower ? entry.score <= value
                               : entry.kind == ScoreKind::Upper ? entry.score >= value
                                                                : true;
            if (!holds)
                wrong(name, " to depth ", depth, ": move ", place_of(entry.move), " is ", name_of(entry.kind), " ",
                      entry.score.number(), ", and is worth ", value.number());
            ++answers;
        }
    }

    template <class G>
    void in_the_open(const G& game) {
        const int depth = depth_below(6);
        if (!is_small(depth)) return;
        std::vector<Score> known;
        for (const int next : rules_.nodes[0].next) {
            std::vector<int> way{0};
            known.push_back(open_score(next, depth - 1, 1, rules_.nodes[0].kind, way));
        }
        const auto at = game.initial_position();
        const auto asked = request<typename G::Move>();
        compare("minimax", Minimax<G>(game).decide(at, {.depth = depth}, asked), depth, known);
        compare("alphabeta", AlphaBeta<G>(game).decide(at, {.depth = depth}, asked), depth, known);
        // A table may know more of a position that is met at several depths than was asked for.
        StandardOptions options;
        options.techniques.table = false;
        compare("standard", Standard<G>(game, options).decide(at, {.depth = depth}, asked), depth, known);
        options = {};
        const auto decision = Standard<G>(game, options).decide(at, {.depth = depth}, asked);
        const auto values =
            rules_.draw_at == 0 || is_small(40) ? plain().values_of_moves(0, -1) : std::vector<PlainValues::Values>();
        for (const auto& entry : decision.ranked) {
            const bool says = entry.kind != ScoreKind::Estimate && entry.kind != ScoreKind::Shallow;
            if (values.empty() || !entry.score.is_proven() || !says) continue;
            const double value = values[place_of(entry.move)][index_of(game.player_to_move(at))],
                         said = entry.score.payoff();
            // By how much is known only where all was looked at; who wins always.
            const bool ended = decision.stats.stopped_by == StoppedBy::End && asked.ranking == Ranking::All;
            const bool holds = entry.kind == ScoreKind::Lower   ? (ended ? said <= value : said < 0 || value > 0)
                               : entry.kind == ScoreKind::Upper ? (ended ? said >= value : said > 0 || value < 0)
                                                                : said * value > 0;
            if (!holds)
                wrong("standard with a table: move ", place_of(entry.move), " is proven ", said, ", and is worth ",
                      value);
        }
        const auto again = Standard<G>(game, options).decide(at, {.depth = depth}, asked);
        if (again.move != decision.move || again.stats.nodes != decision.stats.nodes)
            wrong("standard decides otherwise when it is asked again");
    }

    template <class G>
    void solved(const G& game) {
        auto values = plain();
        if (rules_.draw_at > 0 && !is_small(40)) return;
        const auto moves = values.values_of_moves(0, -1);
        const auto seat = static_cast<std::size_t>(rules_.nodes[0].kind);
        const bool margins = margins_;
        const auto solution =
            Solver<G>(game, {.memory_mebibytes = 1, .margins = margins}).solve(game.initial_position());
        double best = -1e9;
        for (const auto& value : moves) best = std::max(best, value[seat]);
        if (!solution.complete) wrong("solve: not complete");
        if (solution.least != best || solution.most != best)
            wrong("solve: ", solution.least, " to ", solution.most, ", and it is ", best);
        for (const auto& solved : solution.moves) {
            const double value = moves[place_of(solved.move)][seat];
            const bool holds = solved.kind == ScoreKind::Exact   ? solved.value == value
                               : solved.kind == ScoreKind::Upper ? solved.value >= value
                                                                 : solved.value <= value;
            if (!holds) wrong("solve: move ", place_of(solved.move), " is ", solved.value, ", and is worth ", value);
            ++answers;
        }
    }

    // ---- values as payoffs ----

    template <class G>
    PlainValues::Estimates estimates_on(const G& game, const detail::ValueAxis& axis) const {
        return [&game, &axis, this](int node) {
            std::array<Score, max_players> scores{};
            if (rules_.evaluates)
                for (std::size_t i = 0; i < static_cast<std::size_t>(game.players()); ++i)
                    scores[i] = Score::estimate(rules_.nodes[static_cast<std::size_t>(node)].estimates[i]);
            return axis.values_of(scores);
        };
    }
    /// Whether the outcome of a move is the same whatever chance does.
    bool is_sure(std::size_t move, double value) {
        for (const auto luck : {PlainValues::Luck::Worst, PlainValues::Luck::Best}) {
            auto values = plain();
            values.luck = luck;
            const auto moves = values.values_of_moves(0, -1);
            if (std::abs(moves[move][static_cast<std::size_t>(values.decider)] - value) > 1e-9) return false;
        }
        return true;
    }
    template <class Move>
    static double payoff_of(const Decision<Move>& decision, const RankedMove<Move>& entry) {
        if (entry.score.is_proven()) return entry.score.payoff();
        return entry.score.number() / decision.scores_per_point;
    }

    template <class Move>
    void compare(const char* name, const Decision<Move>& decision, int depth,
                 const std::vector<PlainValues::Values>& known, bool first_of_equals) {
        const auto seat = static_cast<std::size_t>(rules_.nodes[0].kind);
        double best = -1e9, largest = 1;
        for (const auto& value : known) {
            best = std::max(best, value[seat]);
            largest = std::max(largest, std::abs(value[seat]));
        }
        // A unit of a score at each chance node on the way.
        const double error = 1e-9 * largest + 20 / decision.scores_per_point;
        if (known[place_of(decision.move)][seat] < best - error)
            wrong(name, " to depth ", depth, ": plays a move worth ", known[place_of(decision.move)][seat], " of ",
                  best);
        for (const auto& entry : decision.ranked) {
            const double value = known[place_of(entry.move)][seat], said = payoff_of(decision, entry);
            const bool holds = entry.kind == ScoreKind::Exact   ? std::abs(said - value) <= error
                               : entry.kind == ScoreKind::Lower ? said <= value + error
                               : entry.kind == ScoreKind::Upper ? said >= value - error
                                                                : true;
            if (!holds)
                wrong(name, " to depth ", depth, ": move ", place_of(entry.move), " is ", name_of(entry.kind), " ",
                      said, ", and is worth ", value);
            if (entry.score.is_proven() && entry.kind == ScoreKind::Exact && !is_sure(place_of(entry.move), value))
                wrong(name, ": move ", place_of(entry.move), " is proven ", said, ", and luck decides");
            ++answers;
        }
        (void)first_of_equals;
    }

    template <class G>
    void expected(const G& game) {
        const bool to_the_end = random_.below(2) == 0;
        const int depth = to_the_end ? 100 : depth_below(5);
        if (!is_small(depth)) return;
        const detail::RandomLines lines = detail::random_lines(game, 1);
        const double units = rules_.units > 0 ? rules_.units : lines.spread;
        const Scale scale = Scale::odds(units, rules_.declared > 0 ? rules_.declared : lines.largest);
        auto values = plain();
        values.estimates = [&](int node) {
            PlainValues::Values estimate{};
            const int number = rules_.evaluates ? rules_.nodes[static_cast<std::size_t>(node)].estimates[0] : 0;
            estimate[0] = scale.payoff_of(number) / (margins_ ? 1 : scale.most());
            estimate[1] = -estimate[0];
            return estimate;
        };
        const auto known = values.values_of_moves(0, depth);
        for (const bool table : {true, false}) {
            const auto decision = Expectation<G>(game, {.table_mebibytes = 1, .table = table})
                                      .decide(game.initial_position(), {.depth = depth}, request<typename G::Move>());
            compare(table ? "expectation" : "expectation without a table", decision, depth, known, false);
        }
    }

    template <class G>
    void many(const G& game) {
        const bool to_the_end = random_.below(2) == 0;
        const int depth = to_the_end ? 100 : depth_below(5);
        if (!is_small(depth)) return;
        const detail::RandomLines lines = detail::random_lines(game, 1);
        const detail::ValueAxis axis(rules_.seats, most_payoff_of(game), lines, detail::units_of<G>(game, lines),
                                     margins_);
        for (const bool against : {false, true}) {
            auto values = plain();
            values.estimates = estimates_on(game, axis);
            if (against) values.others = PlainValues::Others::AgainstDecider;
            const auto known = values.values_of_moves(0, depth);
            if (values.nearly_tied) continue;
            for (const bool table : {true, false}) {
                const auto decision =
                    ManyPlayers<G>(game, {.paranoid = against, .table_mebibytes = 1, .table = table})
                        .decide(game.initial_position(), {.depth = depth}, request<typename G::Move>());
                compare(against ? "paranoid" : table ? "maxn" : "maxn without a table", decision, depth, known, true);
            }
        }
    }

    template <class G>
    void solved_with_luck(const G& game) {
        if (rules_.draw_at > 0 && !is_small(40)) return;
        auto values = plain();
        LuckSolution<typename G::Move> solution;
        try {
            solution = LuckSolver<G>(game).solve(game.initial_position(), {.memory_mebibytes = 1, .margins = margins_});
        } catch (const InputError& error) {
            if (rules_.draw_at == 0) wrong("the solver with luck refuses: ", error.what());
            return;
        }
        if (!solution.complete) return wrong("the solver with luck: not complete, ", solution.stopped_by);
        const auto known = values.value(0, -1);
        const double value = known[static_cast<std::size_t>(rules_.nodes[0].kind)];
        if (std::abs(solution.value - value) > solution.error + 1e-6)
            wrong("the solver with luck: ", solution.value, ", and it is ", value);
        ++answers;
    }

    template <class G>
    void nested(const G& game) {
        if (rules_.draw_at > 0 && !is_small(40)) return;
        const auto known = plain().values_of_moves(0, -1);
        const std::uint64_t playouts = 20 + random_.below(200);
        const auto decision = NestedPlayouts<G>(game).decide(game.initial_position(), {.playouts = playouts},
                                                             request<typename G::Move>());
        if (decision.stats.playouts > playouts) wrong("nested: more playouts than asked for");
        for (const auto& entry : decision.ranked) {
            if (entry.kind == ScoreKind::Estimate) continue;
            const double value = known[place_of(entry.move)][0], said = payoff_of(decision, entry);
            if (said > value + 1e-3 || (entry.kind == ScoreKind::Exact && said < value - 1e-3))
                wrong("nested: move ", place_of(entry.move), " is ", name_of(entry.kind), " ", said, ", and is worth ",
                      value);
            ++answers;
        }
    }

    // ---- playouts ----

    template <class G>
    void sampled(const G& game) {
        if (rules_.draw_at > 0 && !is_small(40)) return;
        auto values = plain();
        const auto known = values.values_of_moves(0, -1);
        const auto seat = static_cast<std::size_t>(values.decider);
        for (const LeafValue leaf : {LeafValue::Automatic, LeafValue::PlayOut}) {
            const std::uint64_t playouts = 1 + random_.below(4'000);
            const Limits limits{.playouts = playouts};
            const auto asked = request<typename G::Move>();
            const MonteCarloOptions options{.memory_mebibytes = 1, .leaf = leaf};
            const auto decision = MonteCarlo<G>(game, options).decide(game.initial_position(), limits, asked);
            if (place_of(decision.move) >= known.size()) return wrong("montecarlo: no legal move");
            if (decision.stats.playouts > playouts) wrong("montecarlo: more playouts than asked for");
            for (const auto& entry : decision.ranked) {
                const double value = known[place_of(entry.move)][seat];
                if (entry.mean < entry.low - 1e-9 || entry.mean > entry.high + 1e-9)
                    wrong("montecarlo: the mean ", entry.mean, " lies outside of ", entry.low, " to ", entry.high);
                if (entry.kind != ScoreKind::Exact) continue;
                if (std::abs(entry.mean - value) > 1e-9 || std::abs(payoff_of(decision, entry) - value) > 1e-3)
                    wrong("montecarlo: move ", place_of(entry.move), " is exact ", entry.mean, ", and is worth ",
                          value);
                if (rules_.seats <= 2 && !is_sure(place_of(entry.move), value))
                    wrong("montecarlo: move ", place_of(entry.move), " is exact, and luck decides");
                ++answers;
            }
            const auto again = MonteCarlo<G>(game, options).decide(game.initial_position(), limits, asked);
            if (again.move != decision.move || again.stats.nodes != decision.stats.nodes)
                wrong("montecarlo decides otherwise when it is asked again");
        }
        // With a thousand events the tree is too wide to be seen through.
        const bool is_narrow = std::all_of(rules_.nodes.begin(), rules_.nodes.end(),
                                           [](const RandomRules::Node& node) { return node.each < 40; });
        if (random_.below(10) == 0 && !values.tied && is_narrow) converges(game, known);
    }

    /// The more playouts, the less is spent on moves that are worse.
    template <class G>
    void converges(const G& game, const std::vector<PlainValues::Values>& known) {
        const auto seat = static_cast<std::size_t>(rules_.nodes[0].kind);
        double best = -1e9, worst = 1e9;
        for (const auto& value : known) {
            best = std::max(best, value[seat]);
            worst = std::min(worst, value[seat]);
        }
        SearchRequest<typename G::Move> asked;
        asked.margins = margins_;
        double range = 0;
        for (const auto& node : rules_.nodes)
            for (const int payoff : node.payoffs)
                range = std::max(range, margins_ ? 2.0 * std::abs(payoff) : payoff != 0 ? 2.0 : 0.0);
        double given_away = 0, visits = 0, played = 0;
        // Where rivals are nearly indifferent it takes long to tell what they will do.
        for (const std::uint64_t playouts : {30'000u, 300'000u, 3'000'000u}) {
            const auto decision = MonteCarlo<G>(game, {.memory_mebibytes = 8})
                                      .decide(game.initial_position(), {.playouts = playouts}, asked);
            given_away = visits = 0;
            for (const auto& entry : decision.ranked) {
                given_away += static_cast<double>(entry.visits) * (best - known[place_of(entry.move)][seat]);
                visits += static_cast<double>(entry.visits);
            }
            played = known[place_of(decision.move)][seat];
            const bool settled = visits < static_cast<double>(playouts) / 2;  // the few visits say nothing
            if ((settled || given_away / visits <= 0.05 * range) && played >= best - 0.05 * range) break;
            if (playouts == 3'000'000u)
                wrong("montecarlo: ", given_away / visits, " given away a playout in a range of ", range,
                      ", and plays a move worth ", played, " of ", best);
        }
        ++answers;
    }

    const RandomRules& rules_;
    Random random_;
    bool margins_ = true, is_odd_ = false;
};

/// What is wrong with the answers about the game, asked with this seed; empty where nothing is.
std::string problem_of(const RandomRules& rules, std::uint64_t seed, int* answers = nullptr) {
    Inquiry inquiry(rules, seed);
    try {
        constexpr Form forms[] = {Form::OwnType, Form::SmallTable, Form::OwnType, Form::LargeTable,
                                  Form::OwnType, Form::SmallTable, Form::OwnType, Form::OddTable};
        inquiry.ask(forms[seed % 8]);
    } catch (const std::exception& error) {
        return std::string("thrown: ") + error.what();
    }
    if (answers != nullptr) *answers += inquiry.answers;
    return inquiry.problem;
}

/// A smaller game that the same goes wrong in.
RandomRules smaller(RandomRules rules, std::uint64_t seed) {
    const auto kind = [](const std::string& problem) { return problem.substr(0, problem.find_first_of(":,")); };
    const std::string wanted = kind(problem_of(rules, seed));
    const auto fails = [&](const RandomRules& other) {
        const std::string problem = problem_of(other, seed);
        return !problem.empty() && kind(problem) == wanted;
    };
    for (bool changed = true; changed;) {
        changed = false;
        const auto attempt = [&](auto change) {
            RandomRules other = rules;
            change(other);
            if (other.json() == rules.json() || !fails(other)) return;
            rules = other;
            changed = true;
        };
        attempt([](RandomRules& r) { r.units = 0; });
        attempt([](RandomRules& r) { r.declared = 0; });
        if (!rules.goes_back()) attempt([](RandomRules& r) { r.draw_at = 0; });
        attempt([](RandomRules& r) { r.hashes = false; });
        attempt([](RandomRules& r) { r.evaluates = false; });
        attempt([](RandomRules& r) { r.lists = true; });
        for (std::size_t i = 0; i < rules.nodes.size(); ++i) {
            if (rules.nodes[i].kind != RandomRules::End && i > 0)
                attempt([&](RandomRules& r) {
                    r.nodes[i] = {};
                    r.nodes[i].payoffs = rules.nodes.back().payoffs;
                });
            attempt([&](RandomRules& r) { r.nodes[i].each = 1; });
            for (std::size_t k = 0; k < rules.nodes[i].next.size() && rules.nodes[i].next.size() > 1; ++k)
                attempt([&](RandomRules& r) {
                    auto& node = r.nodes[i];
                    if (k >= node.next.size()) return;
                    node.next.erase(node.next.begin() + static_cast<std::ptrdiff_t>(k));
                    if (!node.weights.empty())
                        node.weights.assign(node.next.size(), 1.0 / static_cast<double>(node.next.size()));
                });
        }
    }
    // What cannot be reached goes.
    std::vector<int> place(rules.nodes.size(), -1), order{0};
    place[0] = 0;
    for (std::size_t i = 0; i < order.size(); ++i)
        for (const int to : rules.nodes[static_cast<std::size_t>(order[i])].next)
            if (place[static_cast<std::size_t>(to)] < 0) {
                place[static_cast<std::size_t>(to)] = static_cast<int>(order.size());
                order.push_back(to);
            }
    RandomRules kept = rules;
    kept.nodes.clear();
    for (const int from : order) {
        kept.nodes.push_back(rules.nodes[static_cast<std::size_t>(from)]);
        for (int& to : kept.nodes.back().next) to = place[static_cast<std::size_t>(to)];
    }
    return fails(kept) ? kept : rules;
}

}  // namespace

TEST(Differential, EverySearchSaysWhatPlainRecursionSays) {
    const std::uint64_t first = number_from("ARVEK_TEST_SEED", 1);
    const std::uint64_t games = number_from("ARVEK_TEST_GAMES", testing_support::sanitized ? 250 : 3'000);
    int answers = 0, found = 0;
    for (std::uint64_t seed = first; seed < first + games; ++seed) {
        const RandomRules rules = RandomRules::drawn(seed);
        const std::string problem = problem_of(rules, seed, &answers);
        if (problem.empty()) continue;
        const RandomRules small = smaller(rules, seed);
        ADD_FAILURE() << "game " << seed << ": " << problem << "\nsmaller: " << problem_of(small, seed) << "\n"
                      << nlohmann::json{{"seed", seed}, {"game", small.json()}};
        if (++found == 5) break;
    }
    RecordProperty("answers", answers);
    std::cout << games << " games, " << answers << " answers compared\n";
    EXPECT_TRUE(found > 0 || answers > static_cast<int>(games)) << "hardly anything was compared";
}

TEST(Differential, ReadsAGameBack) {
    const char* name = std::getenv("ARVEK_TEST_GAME_FILE");
    if (name == nullptr) {
        const RandomRules rules = RandomRules::drawn(5);
        EXPECT_EQ(RandomRules::from(nlohmann::json::parse(rules.json().dump())).json(), rules.json());
        return;
    }
    std::ifstream file(name);
    const auto text = nlohmann::json::parse(file);
    EXPECT_EQ(problem_of(RandomRules::from(text.at("game")), text.at("seed")), "");
}
