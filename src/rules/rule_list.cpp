#include "arvek/rules/rule_list.hpp"

namespace arvek::detail {

std::string some_of_moves(std::size_t some, std::size_t all) {
    return (some == 1 ? "one" : std::to_string(some)) + " of " + std::to_string(all) + (all == 1 ? " move" : " moves");
}

}  // namespace arvek::detail
