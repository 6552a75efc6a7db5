#include "arvek/search/standard.hpp"

#include <string>

#include "arvek/game/input_error.hpp"

namespace arvek {

void check_threads(int threads, bool has_table) {
    if (threads < 1 || threads > most_threads)
        throw InputError("threads", std::to_string(threads) + " is out of range",
                         "1 to " + std::to_string(most_threads));
    if (threads > 1 && !has_table)
        throw InputError("threads", "without a table there is nothing for them to share",
                         "1 thread, or the technique table and a game with a hash");
}

}  // namespace arvek
