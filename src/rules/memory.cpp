#include "arvek/rules/memory.hpp"

#include <algorithm>
#include <array>
#include <charconv>
#include <cmath>
#include <cstdlib>
#include <limits>

#include "arvek/game/input_error.hpp"
#include "arvek/game/text.hpp"
#include "arvek/rules/condition.hpp"

namespace arvek {

std::string state_text(const StateInfo& info, double value) {
    if (info.is_boolean) return value != 0 ? "true" : "false";
    return number_text(value);
}

std::string state_text(const std::vector<StateInfo>& infos, const GameMemory& memory) {
    std::string text;
    for (std::size_t i = 0; i < infos.size() && i < memory.state.size(); ++i) {
        if (!text.empty()) text += ' ';
        text += infos[i].name + "=" + state_text(infos[i], memory.state[i]);
    }
    return text;
}

void read_state(std::string_view text, const std::vector<StateInfo>& infos, GameMemory& memory) {
    constexpr double most_turn = 1e9, large = 1e9;
    GameMemory read = memory;
    read.state.resize(infos.size());
    std::size_t at = 0;
    while (true) {
        at = text.find_first_not_of(' ', at);
        if (at == std::string_view::npos) break;
        // Names may have spaces in them, values none: what is set ends at a space behind the sign.
        const std::size_t sign = text.find('=', at);
        const std::size_t end =
            sign == std::string_view::npos ? text.size() : std::min(text.find(' ', sign), text.size());
        const std::string each(text.substr(at, end - at));
        at = end;
        const auto wrong = [&](const std::string& problem, const std::string& expected) {
            throw InputError("state", problem, expected);
        };
        if (sign == std::string_view::npos) wrong("'" + each + "' sets nothing", "a name, '=' and a value: phase=2");
        const std::string name = each.substr(0, each.find('=')), value = each.substr(each.find('=') + 1);
        const auto known =
            std::find_if(infos.begin(), infos.end(), [&](const auto& info) { return info.name == name; });
        if (known == infos.end() && name != "turn") {
            std::vector<std::string> names;
            for (const StateInfo& info : infos) names.push_back(info.name);
            names.emplace_back("turn");
            wrong("there is no state '" + name + "'", any_of_text(names));
        }
        double number = 0;
        if (known != infos.end() && known->is_boolean) {
            if (value != "true" && value != "false")
                wrong("'" + each + "' has a value of a wrong kind", "true or false");
            number = value == "true" ? 1 : 0;
        } else {
            char* stopped = nullptr;
            number = std::strtod(value.c_str(), &stopped);
            if (value.empty() || *stopped != '\0' || !(std::abs(number) <= large))
                wrong("'" + each + "' has a value that is no number", name + "=2");
        }
        if (known != infos.end()) {
            read.state[static_cast<std::size_t>(known - infos.begin())] = number;
        } else {
            if (number < 1 || number > most_turn || number != std::floor(number))
                wrong("'" + each + "' is no turn", "an integer from 1");
            const auto turn = static_cast<std::size_t>(number);
            if (turn - 1 < read.fired.size())
                wrong("turn " + value + " is before what was already played", "a later one");
            read.turns_before = turn - 1 - read.fired.size();
        }
    }
    memory = std::move(read);
}

const char* words_of(Arithmetic operation) {
    constexpr std::array<const char*, 4> words{"plus", "minus", "times", "over"};
    return words[static_cast<std::size_t>(operation)];
}

const char* words_of(DoneBy by) {
    constexpr std::array<const char*, 3> words{"own ", "a rival's ", "the actor's "};
    return words[static_cast<std::size_t>(by)];
}

namespace detail {

std::string short_number(double number) {
    constexpr double most_digits = 1e15;
    if (std::abs(number) < most_digits && number == std::trunc(number))
        return std::to_string(static_cast<std::int64_t>(number));
    std::array<char, 400> digits;
    const auto end = std::to_chars(digits.data(), digits.data() + digits.size(), number, std::chars_format::fixed, 4);
    std::string text(digits.data(), end.ptr);
    while (text.ends_with('0')) text.pop_back();
    if (text.ends_with('.')) text.pop_back();
    return text;
}

double calculated(double left, Arithmetic operation, double right) {
    switch (operation) {
        case Arithmetic::Plus: return left + right;
        case Arithmetic::Minus: return left - right;
        case Arithmetic::Times: return left * right;
        case Arithmetic::Over: return right != 0 ? left / right : std::numeric_limits<double>::quiet_NaN();
    }
    return 0;
}

double DeedQuestion::answer(const GameMemory& memory, Player player, std::uint16_t actor) const {
    double turns = 0, times = 0;
    for (auto deed = memory.deeds.rbegin(); deed != memory.deeds.rend(); ++deed) {
        if ((deed->player == player) == (by == DoneBy::Rival)) continue;
        if (by == DoneBy::Actor && deed->act.actor != actor) continue;
        ++turns;
        if (!filter.fits(deed->act)) continue;
        if (asks_when) return turns;
        ++times;
    }
    return asks_when ? std::numeric_limits<double>::infinity() : times;
}

namespace {

std::string value_text(double value, bool is_boolean) {
    if (std::isnan(value)) return "not defined";
    if (std::isinf(value)) return "endless";
    if (is_boolean) return value != 0 ? "true" : "false";
    return short_number(value);
}

void add_extent(std::string& text, const Extent& extent, bool is_boolean) {
    text += value_text(extent.least, is_boolean);
    if (extent.most == extent.least || !extent.any) return;
    text += " to ";
    text += value_text(extent.most, is_boolean);
}

}  // namespace

std::string comparison_text(const std::string& left, const Extent& values, bool holds, Comparison comparison,
                            const std::string& right, const Extent& others, bool right_is_number, bool is_boolean) {
    std::string text;
    text.reserve(96);
    text += left;
    text += " is ";
    add_extent(text, values, is_boolean);
    if (is_boolean && comparison == Comparison::Is && right_is_number) return text;
    text += holds ? ", which is " : ", not ";
    if (comparison != Comparison::Is || holds) {
        text += comparison == Comparison::Is ? "" : words_of(comparison);
        if (comparison != Comparison::Is) text += ' ';
    }
    text += right;
    if (!right_is_number) {
        text += " (";
        add_extent(text, others, false);
        text += ')';
    }
    return text;
}

}  // namespace detail

}  // namespace arvek
