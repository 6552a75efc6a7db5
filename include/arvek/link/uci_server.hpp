#pragma once
// The answering side of the open chess protocol (UCI): an opponent of a game, for any interface that speaks it.

#include <functional>
#include <iosfwd>
#include <optional>
#include <string>

#include "arvek/session/session.hpp"

namespace arvek::link {

/// What a server of the open chess protocol offers.
struct UciServerOptions {
    std::string name = "arvek";  ///< that it gives itself
    OpponentSpec opponent{};     ///< who decides where nobody else is set
    /// The opponent of a name, or of the path of a profile, each perhaps with a level; throws InputError.
    std::function<OpponentSpec(const std::string&)> read_opponent{};
};

/// How many seconds to think about a move with `left` seconds on the clock, `increment` more for each move, and so many moves
/// until more time comes (nothing: until the end). Never so many that a clock with 50 ms to spare for the way runs out; at
/// least 0.001.
double seconds_to_think(double left, double increment, std::optional<long long> moves_to_go);

/// Speaks the protocol until "quit" or the end of the input. Throws InputError for a game without coordinates().
void serve_uci(const OpenGame& game, std::istream& in, std::ostream& out, const UciServerOptions& options);

}  // namespace arvek::link
