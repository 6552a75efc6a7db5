// Whether the rules hold, and whether an opponent finds what there is to find.

#include <cstdio>
#include <cstdlib>

#include <arvek/lab/check.hpp>
#include <arvek/search/standard.hpp>

#include "game.hpp"

namespace {

void require(bool holds, const char* what) {
    if (holds) return;
    std::fprintf(stderr, "does not hold: %s\n", what);
    std::exit(1);
}

}  // namespace

int main() {
    const @TYPE@ game;

    // The laws that every game must keep to, on positions of random games.
    const arvek::CheckReport report = arvek::check_rules(game, {.games = 200});
    if (!report.sound()) std::fputs(report.text().c_str(), stderr);
    require(report.sound(), "the rules are sound");

    // Of six casks two are to be taken: four are left, and whatever the rival takes, the last is yours.
    const auto decision = arvek::Standard(game).decide(game.read_position("6 T"), {.depth = 8});
    require(decision.move == @TYPE@::Move{2}, "two of six are taken");
    require(decision.ranked.front().score.is_proven_win(), "and it is known to win");

    std::puts("all holds");
}
