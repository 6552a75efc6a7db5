#include "arvek/link/table_game.hpp"

#include <algorithm>
#include <charconv>

#include "arvek/game/input_error.hpp"
#include "arvek/game/text.hpp"
#include "arvek/opponent/game_kit.hpp"
#include "arvek/session/plain_text.hpp"

namespace arvek::link {

namespace {

constexpr std::uint32_t text_room = 16'384;

/// What a function of the table wrote; cut where it wrote no end.
std::string written_text(const auto& write) {
    const std::unique_ptr<char[]> text(new char[text_room]());
    write(text.get(), text_room);
    text[text_room - 1] = '\0';
    return text.get();
}

}  // namespace

void check_rules_table(const arvek_rules& rules) {
    if (rules.interface < 1 || rules.interface > ARVEK_INTERFACE)
        throw InputError("rules.interface", std::to_string(rules.interface) + " is not known",
                         "ARVEK_INTERFACE, " + std::to_string(ARVEK_INTERFACE));
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
    if ((rules.chance_is_next != nullptr) != (rules.generate_events != nullptr))
        throw InputError("rules", "chance_is_next and generate_events are one without the other", "both or neither");
    if ((rules.position_text != nullptr) != (rules.read_position != nullptr))
        throw InputError("rules", "position_text and read_position are one without the other", "both or neither");
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
    if (rules.read_position != nullptr) {
        std::string complaint(1'024, '\0');
        if (text.find('\0') == std::string_view::npos &&
            rules.read_position(rules.user, std::string(text).c_str(), position, complaint.data(),
                                static_cast<std::uint32_t>(complaint.size())) != 0)
            return;
        complaint.back() = '\0';
        complaint.resize(complaint.find('\0'));
        throw InputError("position", complaint.empty() ? in_quotes(text) + " is no position" : plain_line(complaint));
    }
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
        case Ability::OrderHint: return rules.order_hint != nullptr;
        case Ability::ForcingMoves: return rules.generate_forcing_moves != nullptr;
        case Ability::Chance: return rules.chance_is_next != nullptr;
        case Ability::Repetition: return rules.draw_at_occurrence > 0;
        case Ability::Drawing: return rules.drawing != nullptr;
        case Ability::PlayerName: return rules.player_name != nullptr;
        default: return false;
    }
}

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

template <std::size_t Bytes>
OpenGame open_table_game_of(const arvek_rules& rules) {
    const TableGame<Bytes> game(rules);
    return {game.name(), {}, game_kit(game)};
}

}  // namespace

OpenGame open_table_game(const arvek_rules& rules) {
    check_rules_table(rules);
    // Small positions are copied quicker.
    return rules.position_bytes <= 64 ? open_table_game_of<64>(rules)
                                      : open_table_game_of<ARVEK_MOST_POSITION_BYTES>(rules);
}

}  // namespace arvek::link
