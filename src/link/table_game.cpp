#include "arvek/link/table_game.hpp"

#include <algorithm>
#include <charconv>
#include <sstream>
#include <stdexcept>
#include <utility>

#include "arvek/game/input_error.hpp"
#include "arvek/game/text.hpp"
#include "arvek/opponent/game_kit.hpp"
#include "arvek/session/plain_text.hpp"

/// What a function of a table says of a board.
struct arvek_board {
    arvek::Board board;
};
struct arvek_names {
    arvek::ActNames all;
};
struct arvek_proposals {
    arvek::Proposals<arvek::AnyMove>& all;
};

namespace {

std::string text_or_nothing(const char* text) { return text != nullptr ? text : ""; }

/// Whatever goes wrong is told, since nothing is thrown across the border.
template <class Work>
void for_table(Work work) noexcept {
    try {
        work();
    } catch (const std::exception& error) {
        arvek::link::tell_failure(error.what());
    }
}

}  // namespace

extern "C" {

uint64_t arvek_random_next(arvek_random* random) { return reinterpret_cast<arvek::Random*>(random)->next(); }

uint32_t arvek_random_below(arvek_random* random, uint32_t n) {
    return n == 0 ? 0 : static_cast<uint32_t>(reinterpret_cast<arvek::Random*>(random)->below(n));
}

void arvek_propose(arvek_proposals* proposals, uint32_t move, double urgency, const char* note) {
    for_table([&] { proposals->all.add(arvek::link::any_move(move), urgency, text_or_nothing(note)); });
}

void arvek_name(arvek_names* names, int32_t kind, const char* name) {
    for_table([&] {
        std::vector<std::string>* const lists[] = {&names->all.actors, &names->all.actions, &names->all.kinds,
                                                   &names->all.targets};
        if (kind < ARVEK_ACTOR || kind > ARVEK_TARGET) throw std::out_of_range("arvek_name: there is no such kind");
        lists[kind]->push_back(text_or_nothing(name));
    });
}

void arvek_board_squares(arvek_board* board, int32_t columns, int32_t rows, int32_t chequered) {
    for_table([&] {
        if (columns < 1 || rows < 1 || columns > 64 || rows > 64)
            throw std::out_of_range("arvek_board_squares: from 1 to 64 columns and rows");
        board->board = arvek::square_board(columns, rows, chequered != 0);
    });
}

void arvek_board_cell(arvek_board* board, const arvek_cell* cell) {
    for_table([&] {
        if (board->board.cells.size() >= arvek::most_board_cells)
            throw std::out_of_range("arvek_board_cell: there are too many cells");
        arvek::BoardCell made;
        made.name = text_or_nothing(cell->name);
        made.x = cell->x;
        made.y = cell->y;
        if (cell->width > 0) made.width = cell->width;
        if (cell->height > 0) made.height = cell->height;
        made.round = cell->round != 0;
        if (cell->ground < ARVEK_PLAIN || cell->ground > ARVEK_NO_GROUND)
            throw std::out_of_range("arvek_board_cell: there is no such ground");
        made.ground = static_cast<arvek::Ground>(cell->ground);
        made.text = text_or_nothing(cell->text);
        made.player = cell->player;
        made.spoken = text_or_nothing(cell->spoken);
        board->board.cells.push_back(std::move(made));
    });
}

void arvek_board_put(arvek_board* board, const char* cell, const char* text, int32_t player, const char* spoken) {
    for_table([&] {
        const std::string name = text_or_nothing(cell);
        auto& cells = board->board.cells;
        const auto at = std::find_if(cells.begin(), cells.end(), [&](const auto& each) { return each.name == name; });
        if (name.empty() || at == cells.end())
            throw std::out_of_range("arvek_board_put: there is no cell '" + name + "'");
        at->text = text_or_nothing(text);
        at->player = player;
        at->spoken = text_or_nothing(spoken);
    });
}

void arvek_board_path(arvek_board* board, uint32_t one, uint32_t other) {
    for_table([&] { board->board.paths.emplace_back(one, other); });
}

void arvek_board_note(arvek_board* board, const char* text) {
    for_table([&] { board->board.notes.push_back(text_or_nothing(text)); });
}

void arvek_board_move(arvek_board* board, const char* move, const char* cells) {
    for_table([&] {
        arvek::BoardMove& made = board->board.moves.emplace_back();
        made.move = text_or_nothing(move);
        std::istringstream names(text_or_nothing(cells));
        for (std::string name; names >> name;) made.cells.push_back(name);
    });
}

}  // extern "C"

namespace arvek::link {

AnyMove any_move(std::uint32_t number) { return AnyMove(TableGame<64>::Move{number}); }

namespace {

constexpr std::uint32_t text_room = 16'384;

/// Has a function of the table read a text. Throws InputError with its complaint where the text is none.
void read_by_table(const char* what, std::string_view text, const auto& read) {
    std::string complaint(1'024, '\0');
    if (text.find('\0') == std::string_view::npos &&
        read(std::string(text).c_str(), complaint.data(), static_cast<std::uint32_t>(complaint.size())) != 0)
        return;
    complaint.back() = '\0';
    complaint.resize(complaint.find('\0'));
    throw InputError(what, complaint.empty() ? in_quotes(text) + " is no " + what : plain_line(complaint));
}

/// What a function of the table wrote; cut where it wrote no end.
std::string written_text(const auto& write) {
    const std::unique_ptr<char[]> text(new char[text_room]());
    write(text.get(), text_room);
    text[text_room - 1] = '\0';
    return text.get();
}

}  // namespace

void check_rules_table(const arvek_rules& rules) {
    if (rules.interface != ARVEK_INTERFACE)
        throw InputError("rules.interface",
                         "the table is laid out as of interface " + std::to_string(rules.interface) +
                             ", and this library knows " + std::to_string(ARVEK_INTERFACE),
                         "ARVEK_INTERFACE of the arvek.h that belongs to the library");
    if (rules.position_bytes < 1 || rules.position_bytes > ARVEK_MOST_POSITION_BYTES)
        throw InputError("rules.position_bytes", std::to_string(rules.position_bytes) + " is out of range",
                         "1 to " + std::to_string(ARVEK_MOST_POSITION_BYTES));
    if (rules.players < 0 || rules.players > ARVEK_MOST_PLAYERS)
        throw InputError("rules.players", std::to_string(rules.players) + " is out of range",
                         "1 to " + std::to_string(ARVEK_MOST_PLAYERS) + ", or 0 for two");
    if (rules.draw_at_occurrence < 0 || rules.draw_at_occurrence == 1)
        throw InputError("rules.draw_at_occurrence", std::to_string(rules.draw_at_occurrence) + " is out of range",
                         "0 for no such rule, or 2 and more");
    const std::string_view name = rules.name != nullptr ? rules.name : "";
    if (name.empty() || name.find_first_not_of("abcdefghijklmnopqrstuvwxyz0123456789_") != std::string_view::npos)
        throw InputError("rules.name", in_quotes(name) + " is no name", "lower-case letters, digits and underscores");
    const auto require = [](bool there, const char* function) {
        if (!there) throw InputError(std::string("rules.") + function, "it is NULL", "a function");
    };
    require(rules.initial_position != nullptr, "initial_position");
    require(rules.player_to_move != nullptr, "player_to_move");
    require(rules.generate_moves != nullptr, "generate_moves");
    require(rules.play != nullptr, "play");
    require(rules.outcome != nullptr, "outcome");
    const auto together = [](bool one, bool other, const char* both) {
        if (one != other)
            throw InputError("rules", std::string(both) + " are one without the other", "both or neither");
    };
    together(rules.chance_is_next != nullptr, rules.generate_events != nullptr || rules.draw_event != nullptr,
             "chance_is_next and generate_events, or draw_event,");
    together(rules.position_text != nullptr, rules.read_position != nullptr, "position_text and read_position");
    together(rules.view != nullptr, rules.sample != nullptr, "view and sample");
    together(rules.view != nullptr, rules.view_bytes > 0, "view and view_bytes");
    together(rules.play_nothing != nullptr, rules.nothing_is_sound != nullptr, "play_nothing and nothing_is_sound");
    together(rules.act_names != nullptr, rules.act != nullptr, "act_names and act");
    together(rules.read_patterns != nullptr, rules.pattern_count > 0, "read_patterns and pattern_count");
    const auto up_to = [](std::int64_t number, std::int64_t most, const char* field) {
        if (number < 0 || number > most)
            throw InputError(std::string("rules.") + field, std::to_string(number) + " is out of range",
                             "0 to " + std::to_string(most));
    };
    up_to(rules.view_bytes, ARVEK_MOST_POSITION_BYTES, "view_bytes");
    up_to(rules.most_payoff, largest_payoff, "most_payoff");
    up_to(rules.pattern_count, static_cast<std::int64_t>(most_patterns), "pattern_count");
    up_to(rules.quantity_count, 1'000, "quantity_count");
    up_to(rules.suggester_count, 1'000, "suggester_count");
    if (!(rules.units_per_doubling >= 0) || rules.units_per_doubling > 1e9)
        throw InputError("rules.units_per_doubling", number_text(rules.units_per_doubling) + " is out of range",
                         "more than 0, or 0 where it is not known");
    const auto require_each = [](std::uint32_t count, const auto* all, const char* field, auto is_complete) {
        if (count > 0 && all == nullptr) throw InputError(std::string("rules.") + field, "it is NULL", "an array");
        for (std::uint32_t i = 0; i < count; ++i)
            if (!is_complete(all[i]))
                throw InputError(std::string("rules.") + field + "[" + std::to_string(i) + "]",
                                 "a name or a function is NULL, or a number is out of range", "all of it");
    };
    require_each(rules.pattern_count, rules.patterns, "patterns", [](const arvek_pattern& pattern) {
        return pattern.name != nullptr && pattern.ways >= 1 && pattern.ways <= most_ways;
    });
    require_each(rules.quantity_count, rules.quantities, "quantities", [](const arvek_quantity& quantity) {
        return quantity.name != nullptr && quantity.value != nullptr && quantity.of >= 0 && quantity.of <= 3;
    });
    require_each(rules.suggester_count, rules.suggesters, "suggesters", [](const arvek_suggester& suggester) {
        return suggester.reason != nullptr && suggester.suggest != nullptr;
    });
}

namespace detail {

std::string table_position_text(const arvek_rules& rules, const void* position) {
    if (rules.position_text != nullptr)
        return written_text(
            [&](char* text, std::uint32_t room) { rules.position_text(rules.user, position, text, room); });
    std::string text;
    const auto* bytes = static_cast<const unsigned char*>(position);
    for (std::uint32_t i = 0; i < rules.position_bytes; ++i) {
        text += "0123456789abcdef"[bytes[i] >> 4];
        text += "0123456789abcdef"[bytes[i] & 15];
    }
    return text;
}

void read_table_position(const arvek_rules& rules, std::string_view text, void* position) {
    if (rules.read_position != nullptr)
        return read_by_table("position", text, [&](const char* words, char* complaint, std::uint32_t room) {
            return rules.read_position(rules.user, words, position, complaint, room);
        });
    const std::size_t digits = std::size_t{2} * rules.position_bytes;
    if (text.size() != digits || text.find_first_not_of("0123456789abcdef") != std::string_view::npos)
        throw InputError("position", in_quotes(text) + " is no position",
                         std::to_string(digits) + " hexadecimal digits, as the game has no texts of its own");
    for (std::size_t i = 0; i < rules.position_bytes; ++i) {
        unsigned byte = 0;
        std::from_chars(text.data() + 2 * i, text.data() + 2 * i + 2, byte, 16);
        static_cast<unsigned char*>(position)[i] = static_cast<unsigned char>(byte);
    }
}

std::string table_text(void (*write)(void*, const void*, std::uint32_t, char*, std::uint32_t), const arvek_rules& rules,
                       const void* position, std::uint32_t move) {
    if (write == nullptr) return std::to_string(move);
    return written_text([&](char* text, std::uint32_t room) { write(rules.user, position, move, text, room); });
}

std::string table_drawing(const arvek_rules& rules, const void* position) {
    return written_text([&](char* text, std::uint32_t room) { rules.drawing(rules.user, position, text, room); });
}

std::string table_player_name(const arvek_rules& rules, Player player) {
    return written_text([&](char* text, std::uint32_t room) {
        rules.player_name(rules.user, static_cast<std::int32_t>(player), text, room);
    });
}

bool table_offers(const arvek_rules& rules, Ability ability) {
    switch (ability) {
        case Ability::Players:
        case Ability::Hash:
        case Ability::Text: return true;
        case Ability::Evaluation: return rules.evaluate != nullptr;
        case Ability::Equivalence: return rules.equivalence_hash != nullptr;
        case Ability::OrderHint: return rules.order_hint != nullptr;
        case Ability::ForcingMoves: return rules.generate_forcing_moves != nullptr;
        case Ability::QuietMoves: return rules.generate_quiet_moves != nullptr;
        case Ability::MoveCount: return rules.count_moves != nullptr;
        case Ability::NullMove: return rules.play_nothing != nullptr;
        case Ability::Repetition: return rules.draw_at_occurrence > 0;
        case Ability::RepetitionKey: return rules.draw_at_occurrence > 0 && rules.repetition_key != nullptr;
        case Ability::MostPayoff: return rules.most_payoff > 0;
        case Ability::PayoffBounds: return rules.payoff_bounds != nullptr;
        case Ability::SufficientMoves: return rules.generate_sufficient_moves != nullptr;
        case Ability::Chance: return rules.generate_events != nullptr;
        case Ability::DrawnEvents: return rules.draw_event != nullptr;
        case Ability::Views: return rules.view != nullptr;
        case Ability::ViewText: return rules.view != nullptr && rules.view_text != nullptr;
        case Ability::RandomMove: return rules.random_move != nullptr;
        case Ability::PlayOut: return rules.play_out != nullptr;
        case Ability::Scale: return rules.units_per_doubling > 0;
        case Ability::ReadMove: return rules.read_move != nullptr;
        case Ability::Coordinates: return rules.coordinates != nullptr;
        case Ability::Drawing: return rules.drawing != nullptr;
        case Ability::Board: return rules.board != nullptr;
        case Ability::PlayerName: return rules.player_name != nullptr;
        case Ability::Preference: return rules.preference != nullptr;
        case Ability::Salience: return rules.salience != nullptr;
        case Ability::LevelChange: return rules.level_change != nullptr;
        case Ability::Quantities: return rules.quantity_count > 0;
        case Ability::Patterns: return rules.read_patterns != nullptr;
        case Ability::Acting: return rules.act_names != nullptr;
        case Ability::Suggesters: return rules.suggester_count > 0;
        // Across the border both take longer than what they save: see arvek.h.
        case Ability::TakeBack:
        case Ability::Visiting: return false;
    }
    return false;
}

std::string table_view_text(const arvek_rules& rules, const void* view) {
    return written_text([&](char* text, std::uint32_t room) { rules.view_text(rules.user, view, text, room); });
}

std::uint32_t read_table_move(const arvek_rules& rules, const void* position, std::string_view text) {
    std::uint32_t move = 0;
    read_by_table("move", text, [&](const char* words, char* complaint, std::uint32_t room) {
        return rules.read_move(rules.user, position, words, &move, complaint, room);
    });
    return move;
}

Board table_board(const arvek_rules& rules, const void* position, Player viewer) {
    arvek_board made;
    rules.board(rules.user, position, static_cast<std::int32_t>(viewer), &made);
    return std::move(made.board);
}

LevelChange table_level_change(const arvek_rules& rules, int level) {
    arvek_level_change told{0, 0, -1, -1, -1, -1, -1, -1, -1};
    rules.level_change(rules.user, level, &told);
    LevelChange change;
    if (told.depth > 0) change.depth = told.depth;
    if (told.nodes > 0) change.nodes = told.nodes;
    const auto where_given = [](std::optional<double>& to, double number) {
        if (number >= 0) to = number;
    };
    where_given(change.overlooks, told.overlooks);
    where_given(change.noise, told.noise);
    where_given(change.most_lost, told.most_lost);
    where_given(change.sees_wins, told.sees_wins);
    where_given(change.sees_losses, told.sees_losses);
    where_given(change.deeper, told.deeper);
    where_given(change.variety, told.variety);
    return change;
}

ActNames table_act_names(const arvek_rules& rules) {
    arvek_names names;
    rules.act_names(rules.user, &names);
    return std::move(names.all);
}

Act table_act(const arvek_rules& rules, const void* position, std::uint32_t move) {
    arvek_act told{0, 0, ARVEK_NO_TARGET, Act::no_individual, 0};
    rules.act(rules.user, position, move, &told);
    Act act;
    act.actor = static_cast<std::uint16_t>(told.actor);
    act.action = static_cast<std::uint16_t>(told.action);
    act.target = static_cast<std::uint16_t>(told.target);
    act.individual = told.individual;
    act.kinds = told.kinds;
    return act;
}

std::vector<Pattern> table_patterns(const arvek_rules& rules) {
    std::vector<Pattern> patterns;
    for (std::uint32_t i = 0; i < rules.pattern_count; ++i) {
        const arvek_pattern& from = rules.patterns[i];
        Pattern& pattern = patterns.emplace_back();
        pattern.name = from.name;
        pattern.ways = from.ways;
        pattern.rival_place = from.rival_place;
        if (from.rival_ways != nullptr) pattern.rival_ways.assign(from.rival_ways, from.rival_ways + from.ways);
    }
    return patterns;
}

arvek_random* random_for_table(Random& random) { return reinterpret_cast<arvek_random*>(&random); }

void Room::grow_to(std::uint32_t count) {
    constexpr std::uint32_t most_moves = 1u << 20;
    if (count > most_moves)
        throw RulesError(std::string(function) + " says that there are " + std::to_string(count) + " moves");
    if (is_second)
        throw RulesError(std::string(function) + " said that there are " + std::to_string(size) + " moves, and then " +
                         std::to_string(count));
    is_second = true;
    size = count;
}

namespace {

thread_local std::optional<std::string> told;

}  // namespace

void throw_what_this_thread_was_told() {
    if (!told) return;
    const std::string message = std::move(*told);
    told.reset();
    failures_told.fetch_sub(1);
    throw RulesError(message);
}

Outcome table_outcome(const arvek_rules& rules, const std::int32_t* payoffs) {
    std::array<Payoff, max_players> all{};
    const int players = rules.players == 0 ? 2 : rules.players;
    for (int i = 0; i < players; ++i) all[static_cast<std::size_t>(i)] = payoffs[i];
    return Outcome::of_payoffs(all);
}

Player table_player(const arvek_rules& rules, std::int32_t player) {
    const int players = rules.players == 0 ? 2 : rules.players;
    if (player < 0 || player >= players)
        throw RulesError("player_to_move says " + std::to_string(player) + ", and players are 0 to " +
                         std::to_string(players - 1));
    return static_cast<Player>(player);
}

}  // namespace detail

void tell_failure(const char* message) noexcept {
    try {
        std::string line = message_line(message != nullptr ? message : "");
        if (line.empty()) line = "a function of the table failed";
        if (!detail::told) detail::failures_told.fetch_add(1);
        detail::told = std::move(line);
    } catch (...) {  // no memory: the first message stays, or an empty one
        if (!detail::told) detail::failures_told.fetch_add(1);
        if (!detail::told) detail::told.emplace();
    }
}

namespace {

/// Of a function that is asked for one of several: which.
template <std::size_t Bytes>
const TableGame<Bytes>& behind(const GameTable& table) {
    return *static_cast<const TableGame<Bytes>*>(table.game);
}

/// As table_of() makes it, with quantities and suggesters.
template <std::size_t Bytes>
std::shared_ptr<const GameTable> whole_table_of(const TableGame<Bytes>& game) {
    using Own = TableGame<Bytes>;
    auto table = std::make_shared<GameTable>(*table_of(game));
    const arvek_rules& rules = game.rules();
    for (std::uint32_t i = 0; i < rules.quantity_count; ++i) {
        const arvek_quantity& from = rules.quantities[i];
        Quantity<AnyGame>& quantity = table->quantities.emplace_back();
        quantity.name = from.name;
        quantity.unit = from.unit != nullptr ? from.unit : "";
        quantity.doc = from.doc != nullptr ? from.doc : "";
        quantity.of = static_cast<QuantityOf>(from.of);
        quantity.value = {static_cast<int>(i)};
        if (from.least < from.most) {
            quantity.least = from.least;
            quantity.most = from.most;
        }
    }
    for (std::uint32_t i = 0; i < rules.suggester_count; ++i)
        table->suggesters.push_back({rules.suggesters[i].reason,
                                     rules.suggesters[i].doc != nullptr ? rules.suggesters[i].doc : "",
                                     {static_cast<int>(i)}});
    for (const Ability ability : {Ability::Quantities, Ability::Suggesters})
        if (detail::table_offers(rules, ability)) table->abilities |= bit_of(ability);
    table->quantity = [](const GameTable& self, int place, GameTable::At position, AnyMove move) {
        const Own& own = behind<Bytes>(self);
        return own.ask([&] {
            return own.rules().quantities[place].value(own.rules().user, position,
                                                       move.get<typename Own::Move>().number);
        });
    };
    table->suggest = [](const GameTable& self, int place, GameTable::At position, Proposals<AnyMove>& proposals) {
        const Own& own = behind<Bytes>(self);
        arvek_proposals told{proposals};
        own.ask([&] { own.rules().suggesters[place].suggest(own.rules().user, position, &told); });
    };
    table->another = [](const GameTable& self) { return whole_table_of(behind<Bytes>(self)); };
    return table;
}

template <std::size_t Bytes>
OpenGame open_table_game_of(const arvek_rules& rules) {
    const TableGame<Bytes> game(rules);
    return {game.name(), {}, game_kit(AnyGame(whole_table_of(game)))};
}

}  // namespace

OpenGame open_table_game(const arvek_rules& rules) {
    check_rules_table(rules);
    // Small positions are copied quicker, and those of up to 256 bytes need no box.
    const std::uint32_t bytes = std::max(rules.position_bytes, rules.view_bytes);
    if (bytes <= 64) return open_table_game_of<64>(rules);
    return bytes <= AnyValue::room ? open_table_game_of<AnyValue::room>(rules)
                                   : open_table_game_of<ARVEK_MOST_POSITION_BYTES>(rules);
}

}  // namespace arvek::link
