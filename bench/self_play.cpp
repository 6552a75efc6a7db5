// What each level gives away: every move of some games that a level plays against itself, judged by a search that looks
// farther than most levels do. Levels 9 and 10 play a third as many games, as they give next to nothing away.
//
// A score becomes a chance of winning by a logistic curve whose unit is how far the best scores of the game's positions
// lie apart; a proven result is 0 or 1. A move loses what it lies below the best. A gross blunder loses 0.3 or more. It is
// plain where it passes by a win in one, lets the rival win in one though another move does not, or takes nothing where
// the best move takes something.
//
//     arvek_self_play [GAME [GAMES [NODES]]]

#include <algorithm>
#include <array>
#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <string>
#include <string_view>
#include <vector>

#include <arvek/game/game.hpp>
#include <arvek/opponent/make_opponent.hpp>
#include <arvek/search/standard.hpp>

#include "compiled.hpp"
#include "convoy/convoy.hpp"
#include "lanterns/lanterns.hpp"
#include "nightwatch/nightwatch.hpp"
#include "sluice/sluice.hpp"

namespace {

using arvek::Score;

struct Judged {
    Score best, played;
    bool is_plain = false;
};

template <class G>
bool wins_at_once(const G& game, typename G::Position position, const typename G::Move& move, arvek::Player player) {
    game.play(position, move);
    const auto outcome = game.outcome(position);
    return outcome && outcome->payoff(player) > 0;
}

template <class G>
bool lets_the_rival_win(const G& game, typename G::Position position, const typename G::Move& move,
                        arvek::Player player) {
    game.play(position, move);
    if (game.outcome(position) || game.player_to_move(position) == player) return false;
    const auto replies = arvek::legal_moves(game, position);
    return std::any_of(replies.begin(), replies.end(), [&](const auto& reply) {
        return wins_at_once(game, position, reply, game.player_to_move(position));
    });
}

template <class G>
int gained_at_once(const G& game, typename G::Position position, const typename G::Move& move, arvek::Player player) {
    const int before = game.evaluate(position, player).number();
    game.play(position, move);
    return game.outcome(position) ? 0 : game.evaluate(position, player).number() - before;
}

/// Whether the move takes something off the rival at once; nothing can be taken where a game is not named here.
template <class G>
bool captures(const G&, const typename G::Position&, const typename G::Move&) {
    return false;
}
bool captures(const waterway::Nightwatch& game, const waterway::Nightwatch::Position& position,
              const waterway::Nightwatch::Move& move) {
    return game.effect(position, move).removed > 0;
}
bool captures(const waterway::Sluice& game, const waterway::Sluice::Position& position,
              const waterway::Sluice::Move& move) {
    return gained_at_once(game, position, move, position.to_move) > 1;
}

template <class G>
bool is_plain(const G& game, const typename G::Position& position, const typename G::Move& best,
              const typename G::Move& played) {
    const arvek::Player player = game.player_to_move(position);
    const auto legal = arvek::legal_moves(game, position);
    if (!wins_at_once(game, position, played, player) && std::any_of(legal.begin(), legal.end(), [&](const auto& move) {
            return wins_at_once(game, position, move, player);
        }))
        return true;
    if (lets_the_rival_win(game, position, played, player) &&
        !std::all_of(legal.begin(), legal.end(),
                     [&](const auto& move) { return lets_the_rival_win(game, position, move, player); }))
        return true;
    return captures(game, position, best) && !captures(game, position, played);
}

template <class G>
void measure(const char* name, const G& game, int games, std::uint64_t nodes) {
    using Position = typename G::Position;
    arvek::Standard<G> judge(game);
    std::array<std::vector<Judged>, arvek::highest_level> of_level;
    for (int level = arvek::lowest_level; level <= arvek::highest_level; ++level) {
        const auto opponent = arvek::make_opponent(game, arvek::read_opponent("standard@" + std::to_string(level)));
        auto& judged = of_level[static_cast<std::size_t>(level - arvek::lowest_level)];
        const int games_here = level >= 9 ? (games + 2) / 3 : games;
        for (int i = 0; i < games_here; ++i) {
            std::vector<Position> course{game.initial_position()};
            constexpr std::size_t longest = 120;
            while (course.size() < longest && !game.outcome(course.back())) {
                const Position& now = course.back();
                const auto legal = arvek::legal_moves(game, now);
                const auto decision =
                    opponent->decide(now, static_cast<std::uint64_t>(i) + 1, {course.data(), course.size() - 1});
                if (legal.size() > 1) {
                    const arvek::SearchRequest<typename G::Move> asked{.ranking = arvek::Ranking::Best};
                    const auto best = judge.decide(now, {.nodes = nodes}, asked, {course.data(), course.size() - 1});
                    Judged one{best.ranked.front().score, best.ranked.front().score};
                    if (best.move != decision.move && best.stats.depth > 0) {
                        auto only = asked;
                        const std::vector<typename G::Move> played{decision.move};
                        only.only = played;
                        one.played = judge
                                         .decide(now, {.depth = best.stats.depth, .nodes = nodes}, only,
                                                 {course.data(), course.size() - 1})
                                         .ranked.front()
                                         .score;
                        one.is_plain = is_plain(game, now, best.move, decision.move);
                    }
                    judged.push_back(one);
                }
                Position next = now;
                game.play(next, decision.move);
                course.push_back(next);
            }
        }
    }
    double sum = 0, squares = 0;
    int count = 0;
    for (const auto& judged : of_level)
        for (const Judged& one : judged)
            if (!one.best.is_proven()) {
                sum += one.best.number();
                squares += static_cast<double>(one.best.number()) * one.best.number();
                ++count;
            }
    const double mean = count > 0 ? sum / count : 0.0;
    const double unit = std::max(1.0, count > 0 ? std::sqrt(squares / count - mean * mean) : 1.0);
    const auto chance = [&](Score score) {
        if (score.is_proven()) return score.is_proven_win() ? 1.0 : score.is_proven_loss() ? 0.0 : 0.5;
        return 1.0 / (1.0 + std::exp(-score.number() / unit));
    };
    std::printf("%s: unit of the curve %.1f\n  level  moves  lost a move  gross of 100  plain of these\n", name, unit);
    for (int level = arvek::lowest_level; level <= arvek::highest_level; ++level) {
        const auto& judged = of_level[static_cast<std::size_t>(level - arvek::lowest_level)];
        double lost = 0;
        int gross = 0, plain = 0;
        for (const Judged& one : judged) {
            const double loss = std::max(0.0, chance(one.best) - chance(one.played));
            lost += loss;
            constexpr double gross_from = 0.3;
            if (loss < gross_from) continue;
            ++gross;
            plain += one.is_plain ? 1 : 0;
        }
        const double all = std::max<double>(1.0, static_cast<double>(judged.size()));
        std::printf("  %5d  %5zu  %11.4f  %12.1f  %8d %3.0f %%\n", level, judged.size(), lost / all, 100 * gross / all,
                    plain, gross > 0 ? 100.0 * plain / gross : 0.0);
        std::fflush(stdout);
    }
}

}  // namespace

int main(int count, char** arguments) {
    const std::string_view which = count > 1 ? arguments[1] : "all";
    const int games = count > 2 ? std::atoi(arguments[2]) : 60;
    const auto nodes = static_cast<std::uint64_t>(count > 3 ? std::atol(arguments[3]) : 20'000);
    const auto wanted = [&](std::string_view name) { return which == "all" || which == name; };
    if (wanted("lanterns")) measure("lanterns", waterway::Lanterns(), games, nodes);
    if (wanted("drop")) measure("lanterns 7 x 6 with drop", waterway::Lanterns({7, 6, 4, true}), games, nodes);
    if (wanted("sluice")) measure("sluice", waterway::Sluice(), games, nodes);
    if (wanted("nightwatch")) measure("nightwatch", waterway::Nightwatch(), games, nodes);
    if (wanted("convoy")) measure("convoy", waterway::Convoy(), games, nodes);
}
