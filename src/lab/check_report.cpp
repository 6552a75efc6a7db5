#include "arvek/lab/check_report.hpp"

#include "arvek/game/input_error.hpp"

namespace arvek {

void CheckReport::add(Fault fault) {
    for (Fault& known : faults)
        if (known.law == fault.law) {
            if (fault.moves.size() < known.moves.size()) known = std::move(fault);
            return;
        }
    faults.push_back(std::move(fault));
}

std::string CheckReport::text() const {
    std::string text =
        sound() ? "No fault was found" : std::to_string(faults.size()) + (faults.size() == 1 ? " fault" : " faults");
    text += " in " + std::to_string(games) + " games and " + std::to_string(positions) + " positions.\n";
    for (const Fault& fault : faults) {
        text += "  " + fault.law + ": " + fault.what + "\n    after " + (fault.moves.empty() ? "no move" : "");
        for (std::size_t i = 0; i < fault.moves.size(); ++i) text += (i > 0 ? " " : "") + fault.moves[i];
        text += "\n";
        if (!fault.position.empty()) text += "    at    " + fault.position + "\n";
    }
    for (const std::string& remark : remarks) text += "  remark: " + remark + "\n";
    return text;
}

void require_in_range(const CheckOptions& options) {
    const auto require = [](const char* name, int value) {
        if (value < 1) throw InputError(name, std::to_string(value) + " is out of range", "at least 1");
    };
    require("games", options.games);
    require("longest game", options.longest_game);
    require("short positions", options.short_positions);
    if (options.compared < 0)
        throw InputError("compared", std::to_string(options.compared) + " is out of range", "0 or more");
}

}  // namespace arvek
