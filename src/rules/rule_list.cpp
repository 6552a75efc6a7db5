#include "arvek/rules/rule_list.hpp"

#include "arvek/rules/threat_rules.hpp"

namespace arvek::detail {

std::string some_of_moves(std::size_t some, std::size_t all) {
    return (some == 1 ? "one" : std::to_string(some)) + " of " + std::to_string(all) + (all == 1 ? " move" : " moves");
}

std::string too_many_positions_text(std::uint64_t positions) {
    return "more than " + std::to_string(positions) + " positions to look at, so it cannot be told";
}

}  // namespace arvek::detail
