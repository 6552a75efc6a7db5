#include "arvek/game/input_error.hpp"
#include "arvek/search/detail/root.hpp"

namespace arvek::detail {

void throw_no_move_in_search() {
    throw RulesError("generate_moves gave no move in a position that outcome() says is not finished");
}

}  // namespace arvek::detail
