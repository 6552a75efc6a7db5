#include "arvek/lab/check_report.hpp"

#include <cmath>

#include "arvek/game/input_error.hpp"
#include "arvek/game/text.hpp"

namespace arvek {

namespace {

std::string way_text(const std::vector<std::string>& moves, const std::string& position) {
    std::string text = moves.empty() ? "no move" : "";
    for (std::size_t i = 0; i < moves.size(); ++i) text += (i > 0 ? " " : "") + moves[i];
    text += "\n";
    if (!position.empty()) text += "    at    " + position + "\n";
    return text;
}

}  // namespace

std::string CheckReport::text() const {
    std::string text =
        sound() ? "No fault was found" : std::to_string(faults.size()) + (faults.size() == 1 ? " fault" : " faults");
    text += games == 0 && positions == 1
                ? std::string(" at the end of these moves.\n")
                : " in " + std::to_string(games) + " games and " + std::to_string(positions) + " positions.\n";
    if (!complete)
        text += games == 0 ? "  It was stopped before a game was played, so this says nothing: it needs more time.\n"
                           : "  It was stopped before its end.\n";
    for (const Fault& fault : faults) {
        text += "  " + fault.law + ", " + fault.function + "(): " + fault.what + "\n    after " +
                way_text(fault.moves, fault.position);
        if (fault.of_two) text += "    and after " + way_text(fault.other_moves, fault.other_position);
        if (!fault.repeats)
            text += "    not seen again when the moves were played afresh: it depends on what was asked before\n";
    }
    for (const std::string& remark : remarks) text += "  remark: " + remark + "\n";
    return text;
}

void require_in_range(const CheckOptions& options) {
    const auto require = [](const char* name, int value) {
        if (value < 1) throw InputError(name, std::to_string(value) + " is out of range", "at least 1");
    };
    if (options.games) require("games", *options.games);
    if (options.seconds && !(*options.seconds > 0 && std::isfinite(*options.seconds)))
        throw InputError("seconds", number_text(*options.seconds) + " is out of range", "more than 0");
    require("longest game", options.longest_game);
    require("short positions", options.short_positions);
    if (options.compared < 0)
        throw InputError("compared", std::to_string(options.compared) + " is out of range", "0 or more");
}

}  // namespace arvek
