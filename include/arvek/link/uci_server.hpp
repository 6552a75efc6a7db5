#pragma once
// The answering side of the open chess protocol (UCI): an opponent of a game, for any interface that speaks it.

#include <functional>
#include <iosfwd>
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

/// Speaks the protocol until "quit" or the end of the input. Throws InputError for a game without coordinates().
void serve_uci(const OpenGame& game, std::istream& in, std::ostream& out, const UciServerOptions& options);

}  // namespace arvek::link
