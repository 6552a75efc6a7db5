#include "arvek/game/table.hpp"

#include <mutex>

#include "arvek/game/random.hpp"

namespace arvek::detail {

namespace {

std::mutex& adding_moves() {
    static std::mutex mutex;
    return mutex;
}

}  // namespace

AddingMoves::AddingMoves() { adding_moves().lock(); }
AddingMoves::~AddingMoves() { adding_moves().unlock(); }

namespace {

Turn turn(const GameTable& table, GameTable::At position) {
    if (table.outcome(table, position)) return {Player::First, true, false};
    if ((table.offers(Ability::Chance) || table.offers(Ability::DrawnEvents)) && table.chance_is_next(table, position))
        return {Player::First, false, true};
    return {table.player_to_move(table, position), false, false};
}

Turn play_on(const GameTable& table, void* position, AnyMove move) {
    table.play(table, position, move);
    return turn(table, position);
}

std::uint64_t repetition_mark(const GameTable& table, GameTable::At position) {
    if (table.offers(Ability::RepetitionKey)) return table.repetition_key(table, position);
    return table.offers(Ability::Hash) ? table.hash(table, position) : 0;
}

AnyMove drawn_event(const GameTable& table, GameTable::At position, Random& random) {
    if (table.offers(Ability::DrawnEvents)) return table.draw_event(table, position, random);
    MoveList<Event<AnyMove>> events;
    table.generate_events(table, position, events);
    return one_of(events, random);
}

}  // namespace

void add_kernels(GameTable& table) {
    table.turn = turn;
    table.play_on = play_on;
    table.play_into = nullptr;
    table.repetition_mark = repetition_mark;
    table.mark_tells = table.offers(Ability::RepetitionKey);
    table.drawn_event = drawn_event;
    table.leaf = nullptr;
    table.last_ply = nullptr;
    table.count_ply = nullptr;
    table.play_out_plies = nullptr;
}

}  // namespace arvek::detail
