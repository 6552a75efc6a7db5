#include "arvek/tool/report.hpp"

#include <algorithm>

#include "arvek/tool/detail/typed_game.hpp"
#include "values.hpp"

namespace arvek::tool {

namespace {

std::string by_margin(Payoff payoff) {
    const Payoff size = payoff < 0 ? -payoff : payoff;
    return size > 1 ? " by " + std::to_string(size) : "";
}

}  // namespace

std::string ParameterInfo::range_text() const {
    if (kind == ParameterKind::Text) return "text";
    return kind == ParameterKind::TrueOrFalse ? "true or false" : std::to_string(least) + " to " + std::to_string(most);
}

std::string Ending::text() const {
    if (!winner) return "a draw";
    for (const auto& [player, payoff] : payoffs)
        if (player == *winner) return player + " wins" + by_margin(payoff);
    return *winner + " wins";
}

std::pair<std::size_t, int> GameEntry::read_setting(std::string_view text) const {
    const auto equals = text.find('=');
    if (equals == std::string_view::npos || equals == 0)
        throw InputError("--set", in_quotes(text) + " is not a parameter with its value", "name=value");
    const std::string_view name = text.substr(0, equals);
    const std::string_view value = text.substr(equals + 1);
    std::vector<std::string> names;
    for (std::size_t i = 0; i < parameters_.size(); ++i) {
        const ParameterInfo& info = parameters_[i];
        names.push_back(info.name);
        if (info.name != name) continue;
        const std::string option = "--set " + info.name;
        if (info.kind == ParameterKind::WholeNumber)
            return {i, static_cast<int>(whole_number(option, value, info.least, info.most))};
        if (info.kind == ParameterKind::Text) return {i, 0};
        if (value != "true" && value != "false")
            throw InputError(option, in_quotes(value) + " is no truth value", "true or false");
        return {i, value == "true" ? 1 : 0};
    }
    if (names.empty())
        throw InputError("--set", in_quotes(name) + " is not known: " + name_ + " has no parameters", "no --set");
    const std::string nearest = nearest_of(name, names);
    throw InputError("--set", name_ + " has no parameter " + in_quotes(name),
                     (nearest.empty() ? "" : nearest + ", perhaps; it has ") + any_of_text(names));
}

namespace detail {

Ending ending_of(const Outcome& outcome, const std::vector<std::string>& player_names) {
    Ending ending;
    Payoff most = 0;
    std::size_t with_most = 0;
    for (std::size_t i = 0; i < player_names.size(); ++i) {
        const Payoff payoff = outcome.payoff(static_cast<Player>(i));
        ending.payoffs.emplace_back(player_names[i], payoff);
        if (i == 0 || payoff > most) {
            most = payoff;
            with_most = 0;
        }
        if (payoff == most) ++with_most;
    }
    if (with_most == 1)
        for (const auto& [player, payoff] : ending.payoffs)
            if (payoff == most) ending.winner = player;
    return ending;
}

}  // namespace detail

}  // namespace arvek::tool
