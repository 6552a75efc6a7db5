// What choosing without a search costs, and how much of it is the game's own code.
//
// Rules: a crew of five against five, fifty rules of two or three conditions each of which the last alone applies, so
// that every one of them is asked. Suggestions: forty pieces on a map of 30 x 30, every suggester of the game with a
// temperament. Times are of whole decisions, the best of several rounds; the game's share is what the same calls into
// the game take by themselves.

#include <algorithm>
#include <array>
#include <cstdio>
#include <functional>
#include <string>
#include <utility>
#include <vector>

#include <arvek/arena/steady_clock.hpp>
#include <arvek/rules/rule_list.hpp>
#include <arvek/rules/suggestion_list.hpp>

#include "nightwatch/nightwatch.hpp"
#include "scuffle/scuffle.hpp"

namespace {

using waterway::Nightwatch;
using waterway::Scuffle;
using Asked = arvek::Quantity<Scuffle>;

/// Seconds for one call, the best of several rounds.
double seconds_of(const std::function<void()>& work) {
    constexpr int rounds = 15;
    constexpr double round_takes = 0.05;
    double best = 1e9;
    for (int round = 0; round < rounds; ++round) {
        int calls = 0;
        const double began = arvek::steady_seconds();
        double now = began;
        for (; now - began < round_takes; now = arvek::steady_seconds()) {
            work();
            ++calls;
        }
        best = std::min(best, (now - began) / calls);
    }
    return best;
}

template <class G>
typename G::Position after_moves(const G& game, int moves, std::uint64_t seed) {
    arvek::Random random(seed);
    for (;;) {
        auto position = game.initial_position();
        for (int i = 0; i < moves && !game.outcome(position); ++i) {
            const auto legal = arvek::legal_moves(game, position);
            game.play(position, legal[static_cast<std::size_t>(random.below(legal.size()))]);
            arvek::settle_chance(game, position, random);
        }
        if (!game.outcome(position)) return position;
    }
}

/// Which quantities a decision asked about which moves.
std::vector<std::pair<std::size_t, Scuffle::Move>> asked;
std::span<const Asked> all_quantities;

template <std::size_t I>
double recorded(const Scuffle& game, const Scuffle::Position& position, const Scuffle::Move& move) {
    asked.emplace_back(I, move);
    return all_quantities[I].value(game, position, move);
}

template <std::size_t... I>
std::vector<Asked> recording(std::index_sequence<I...>) {
    std::vector<Asked> quantities(all_quantities.begin(), all_quantities.end());
    ((quantities[I].value = recorded<I>), ...);
    return quantities;
}

/// Fifty rules over these quantities.
arvek::RuleList<Scuffle> fifty_rules(const Scuffle& game, std::span<const Asked> quantities) {
    const auto of = [&](const char* name) {
        return *std::find_if(quantities.begin(), quantities.end(),
                             [&](const auto& q) { return q.name == std::string(name); });
    };
    using When = arvek::Condition<Scuffle>;
    using arvek::Comparison;
    constexpr std::array kinds{"rope", "one rival", "all rivals", "one mate", "self", ""};
    arvek::RuleList<Scuffle> rules;
    for (int i = 0; i < 49; ++i) {
        arvek::ConditionalRule<Scuffle> rule;
        rule.name = "rule " + std::to_string(i + 1);
        if (const char* kind = kinds[static_cast<std::size_t>(i) % kinds.size()]; *kind != '\0')
            rule.acts.kinds = {kind};
        rule.when = When::all({When::test(of("actor stamina"), Comparison::AtLeast, 1),
                               When::any({When::test(of("target share"), Comparison::Above, 1.5),
                                          When::test(of("harm"), Comparison::Above, 500 + i)}),
                               When::test(of("put out"), Comparison::AtLeast, 1)});
        rule.choose = {{arvek::TargetChoice::Lowest, arvek::Measure<Scuffle>::quantity(of("target stamina"))}};
        rules.add(make_rule(game, rule));
    }
    arvek::ConditionalRule<Scuffle> last;
    last.name = "the last";
    last.choose = {{arvek::TargetChoice::Highest, arvek::Measure<Scuffle>::quantity(of("harm a tick"))}};
    return rules.add(make_rule(game, last));
}

void measure_rules() {
    const std::string folder = ARVEK_DEMO "/scuffle/";
    const Scuffle game({folder + "malthouse_five.toml", folder + "malthouse_five.toml"});
    all_quantities = game.quantities();
    constexpr std::size_t count = 23;
    if (all_quantities.size() != count) {
        std::printf("the game has %zu quantities, and this measures %zu\n", all_quantities.size(), count);
        return;
    }
    const auto rules = fifty_rules(game, all_quantities);
    const auto silent = fifty_rules(game, all_quantities).explain(false);
    const auto watched = fifty_rules(game, recording(std::make_index_sequence<count>()));
    std::printf(
        "fifty rules, a crew of five: microseconds a decision with its texts and without, the game's own share of the "
        "first, moves, quantities asked\n");
    for (const int moves : {0, 7, 16, 25}) {
        const auto position = after_moves(game, moves, 1);
        asked.clear();
        (void)watched.decide(game, position, 1);
        const double whole = seconds_of([&] { (void)rules.decide(game, position, 1); });
        const double without = seconds_of([&] { (void)silent.decide(game, position, 1); });
        const auto legal = arvek::legal_moves(game, position);
        volatile double sink = 0;
        const double own = seconds_of([&] {
            const auto again = arvek::legal_moves(game, position);
            double sum = 0;
            for (const auto& move : again) sum += game.act(position, move).action;
            for (const auto& [number, move] : asked) sum += all_quantities[number].value(game, position, move);
            sink = sum;
        });
        std::printf("  after %2d moves  %6.2f us  %6.2f us  %3.0f %%  %2zu moves  %3zu asked\n", moves, 1e6 * whole,
                    1e6 * without, 100 * own / whole, legal.size(), asked.size());
    }
}

void measure_suggestions() {
    std::string map;
    for (int row = 0; row < 30; ++row) {
        std::string line(30, '.');
        if (row % 6 == 3)
            for (std::size_t i = 2; i < 30; i += 5) line[i] = '#';
        for (std::size_t i = 0; i < 10; ++i) {
            if (row == 10) line[1 + 3 * i] = i == 4 ? 'w' : "rvh"[i % 3];
            if (row == 11) line[2 + 3 * i] = "vhr"[i % 3];
            if (row == 18) line[2 + 3 * i] = "HRV"[i % 3];
            if (row == 19) line[1 + 3 * i] = i == 4 ? 'W' : "RVH"[i % 3];
        }
        map += line + "\n";
    }
    const auto game = Nightwatch::on_map(map);
    arvek::SuggestionList<Nightwatch> list;
    list.add_all_of(game).temperament({{{"daring", 0.7, {{"take", 2.0}, {"close in", 1.5}}}}, {{"strike", 1.2}}});
    std::printf("suggestions, forty pieces on 30 x 30: milliseconds a decision, the game's own share, moves\n");
    for (const int moves : {0, 10, 30, 60}) {
        const auto position = after_moves(game, moves, 2);
        const double whole = seconds_of([&] { (void)list.decide(game, position, 1); });
        const double own = seconds_of([&] {
            arvek::Proposals<Nightwatch::Move> proposals;
            (void)arvek::legal_moves(game, position);
            for (const auto& suggester : game.suggesters()) {
                proposals.clear();
                suggester.suggest(game, position, proposals);
            }
        });
        std::printf("  after %2d moves  %6.3f ms  %3.0f %%  %zu moves, %d pieces\n", moves, 1e3 * whole,
                    100 * own / whole, arvek::legal_moves(game, position).size(), position.count);
    }
}

}  // namespace

int main() {
    measure_rules();
    measure_suggestions();
}
