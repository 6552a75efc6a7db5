// What the border to other languages costs: move sequences counted, and positions searched, for a game as it is in C++ and
// for the same game as a table of functions; and what counting through the library costs against a plain loop over the
// same rules of chess. Ratios of times within one run, each the median of nine pairs.

#include <algorithm>
#include <cstdio>
#include <cstring>
#include <vector>

#include <arvek/arena/steady_clock.hpp>
#include <arvek/lab/count.hpp>
#include <arvek/link/table_game.hpp>
#include <arvek/search/standard.hpp>

#include "chess/chess.hpp"
#include "sluice/sluice.hpp"

namespace {

using waterway::Chess;
using waterway::Sluice;

const Sluice sluice;

Sluice::Position& position_in(void* bytes) { return *static_cast<Sluice::Position*>(bytes); }
const Sluice::Position& position_in(const void* bytes) { return *static_cast<const Sluice::Position*>(bytes); }

std::uint32_t put(const arvek::MoveList<Sluice::Move>& all, std::uint32_t* moves, std::uint32_t room) {
    for (std::uint32_t i = 0; i < all.size() && i < room; ++i) moves[i] = all[i].basin;
    return static_cast<std::uint32_t>(all.size());
}

arvek_rules sluice_table() {
    arvek_rules rules{};
    rules.interface = ARVEK_INTERFACE;
    rules.position_bytes = sizeof(Sluice::Position);
    rules.name = "sluice";
    rules.threads = 1;
    rules.initial_position = [](void*, void* p) { position_in(p) = sluice.initial_position(); };
    rules.player_to_move = [](void*, const void* p) { return static_cast<std::int32_t>(position_in(p).to_move); };
    rules.generate_moves = [](void*, const void* p, std::uint32_t* moves, std::uint32_t room) {
        thread_local arvek::MoveList<Sluice::Move> all;
        all.clear();
        sluice.generate_moves(position_in(p), all);
        return put(all, moves, room);
    };
    rules.play = [](void*, void* p, std::uint32_t move) {
        sluice.play(position_in(p), {static_cast<std::uint8_t>(move)});
    };
    rules.outcome = [](void*, const void* p, std::int32_t* payoffs) {
        const auto outcome = sluice.outcome(position_in(p));
        if (!outcome) return 0;
        payoffs[0] = outcome->payoff(arvek::Player::First);
        payoffs[1] = outcome->payoff(arvek::Player::Second);
        return 1;
    };
    rules.evaluate = [](void*, const void* p, std::int32_t player) {
        return static_cast<std::int64_t>(sluice.evaluate(position_in(p), static_cast<arvek::Player>(player)).number());
    };
    rules.hash = [](void*, const void* p) { return sluice.hash(position_in(p)); };
    rules.order_hint = [](void*, const void* p, std::uint32_t move) {
        return sluice.order_hint(position_in(p), {static_cast<std::uint8_t>(move)});
    };
    return rules;
}

template <class Work>
double seconds_of(Work work) {
    const double begin = arvek::steady_seconds();
    work();
    return arvek::steady_seconds() - begin;
}

/// How many times as long the first takes as the second.
template <class One, class Other>
double ratio(One one, Other other) {
    std::vector<double> ratios;
    for (int pair = 0; pair < 9; ++pair) {
        const bool first = pair % 2 == 0;
        const double a = first ? seconds_of(one) : 0.0;
        const double b = seconds_of(other);
        ratios.push_back((first ? a : seconds_of(one)) / b);
    }
    std::sort(ratios.begin(), ratios.end());
    return ratios[ratios.size() / 2];
}

std::uint64_t plain_count(const Chess& game, const Chess::Position& position, int depth) {
    arvek::MoveList<Chess::Move> moves;
    game.generate_moves(position, moves);
    std::uint64_t sequences = 0;
    for (const auto& move : moves) {
        Chess::Position after = position;
        game.play(after, move);
        // Whether it is over is asked at the last ply as well, as the library tells how many are.
        if (const bool over = game.outcome(after).has_value(); depth == 1)
            sequences += 1 + (over ? std::uint64_t{1} << 32 : 0);
        else if (!over)
            sequences += plain_count(game, after, depth - 1);
    }
    return sequences;
}

std::uint64_t bulk_count(const Chess& game, const Chess::Position& position, int depth) {
    if (depth == 1) return static_cast<std::uint64_t>(game.count_moves(position));
    arvek::MoveList<Chess::Move> moves;
    game.generate_moves(position, moves);
    std::uint64_t sequences = 0;
    for (const auto& move : moves) {
        Chess::Position after = position;
        game.play(after, move);
        sequences += bulk_count(game, after, depth - 1);
    }
    return sequences;
}

}  // namespace

int main() {
    const arvek::link::TableGame<64> table(sluice_table());
    std::printf("Sluice as a table of functions / in C++, time:\n");
    std::printf("  move sequences counted, depth 8: %.2f\n",
                ratio([&] { (void)arvek::count_sequences(table, table.initial_position(), 8); },
                      [&] { (void)arvek::count_sequences(sluice, sluice.initial_position(), 8); }));
    arvek::Standard own(sluice);
    arvek::Standard<arvek::link::TableGame<64>> other(table);
    std::printf("  the standard search to depth 10: %.2f\n",
                ratio([&] { (void)other.decide(table.initial_position(), {.depth = 10}); },
                      [&] { (void)own.decide(sluice.initial_position(), {.depth = 10}); }));
    const Chess chess;
    const auto crowded = chess.read_position("r3k2r/p1ppqpb1/bn2pnp1/3PN3/1p2P3/2N2Q1p/PPPBBPPP/R3K2R w KQkq - 0 1");
    std::printf(
        "Chess, move sequences counted from the crowded position to depth 4, the library / a plain loop, speed: %.2f\n",
        ratio([&] { (void)plain_count(chess, crowded, 4); }, [&] { (void)arvek::count_sequences(chess, crowded, 4); }));
    std::uint64_t sequences = 0;
    const double seconds = seconds_of([&] { sequences = bulk_count(chess, crowded, 5); });
    std::printf("  counting the last ply without playing it: %.0f million a second\n",
                static_cast<double>(sequences) / seconds / 1e6);
}
