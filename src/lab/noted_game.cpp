#include "noted_game.hpp"

#include <memory>
#include <tuple>
#include <utility>

namespace arvek::detail {

namespace {

struct Noted {
    std::shared_ptr<const GameTable> game;
    CallNote& note;
};

void note_call(const GameTable& table, const char* function) {
    CallNote& note = static_cast<const Noted*>(table.state)->note;
    note.function.store(function, std::memory_order_relaxed);
    note.calls.fetch_add(1, std::memory_order_relaxed);
}
const GameTable& inner(const GameTable& table) { return *static_cast<const Noted*>(table.state)->game; }

/// In place of a function of the list: notes its name, and asks it.
template <std::size_t Place, class Result, class... Given>
void note_function(GameTable& table, Result (*GameTable::*member)(const GameTable&, Given...)) {
    table.*member = [](const GameTable& noted, Given... given) -> Result {
        constexpr auto& row = std::get<Place>(table_functions);
        note_call(noted, row.first);
        const GameTable& game = inner(noted);
        return (game.*row.second)(game, std::forward<Given>(given)...);
    };
}

template <std::size_t... Places>
void note_all(GameTable& table, std::index_sequence<Places...>) {
    (note_function<Places>(table, std::get<Places>(table_functions).second), ...);
}

}  // namespace

AnyGame noted_game(const AnyGame& game, CallNote& note) {
    auto noted = std::make_shared<const Noted>(Noted{game.shared_table(), note});
    auto table = std::make_shared<GameTable>(game.table());
    table->state = noted.get();
    table->owner = std::move(noted);
    note_all(*table, std::make_index_sequence<std::tuple_size_v<decltype(table_functions)>>{});
    // These are known by the names that the game gave them.
    table->quantity = [](const GameTable& self, int place, GameTable::At position, AnyMove move) {
        note_call(self, self.quantities[static_cast<std::size_t>(place)].name);
        return inner(self).quantity(inner(self), place, position, move);
    };
    table->suggest = [](const GameTable& self, int place, GameTable::At position, Proposals<AnyMove>& proposals) {
        note_call(self, self.suggesters[static_cast<std::size_t>(place)].reason);
        inner(self).suggest(inner(self), place, position, proposals);
    };
    table->move_key = [](const GameTable& self, GameTable::At position, AnyMove move, std::size_t place) {
        return inner(self).move_key(inner(self), position, move, place);
    };
    table->another = [](const GameTable& self) { return inner(self).another(inner(self)); };
    add_kernels(*table);
    return AnyGame(std::move(table));
}

}  // namespace arvek::detail
