// The opponent in a program of your own: no tool, only the core.

#include <cstdio>

#include <arvek/opponent/make_opponent.hpp>

#include "quayside.hpp"

int main() {
    const Quayside game;
    Quayside::Position position = game.initial_position();
    const auto opponent = arvek::make_opponent(game, arvek::read_opponent("alphabeta"));

    for (std::uint64_t turn = 0; !game.outcome(position); ++turn) {
        const auto decision = opponent->decide(position, turn);
        const arvek::Score score = decision.ranked.front().score;
        std::printf("%s loads %s; expects to end %+d ahead\n", game.player_name(position.to_move).c_str(),
                    game.move_text(position, decision.move).c_str(), score.is_proven() ? score.payoff() : 0);
        game.play(position, decision.move);
    }
    std::printf("Teal %d, Amber %d\n", position.load[0], position.load[1]);
}
