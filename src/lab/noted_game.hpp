#pragma once
// A game that notes which of its functions is being asked, so that whatever goes wrong can be blamed on it.

#include <atomic>
#include <cstdint>

#include "arvek/game/any_game.hpp"

namespace arvek::detail {

/// The call that is under way, or the last one. May lie in memory that two processes share.
struct CallNote {
    std::atomic<const char*> function{""};
    std::atomic<std::uint64_t> calls{0};
};

/// The same game, in all it does. `note` must outlive it.
AnyGame noted_game(const AnyGame& game, CallNote& note);

}  // namespace arvek::detail
