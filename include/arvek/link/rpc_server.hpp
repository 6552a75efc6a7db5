#pragma once
// Sessions for any language that can start a process: JSON-RPC 2.0 over two pipes, a message a line. docs/rpc.md has every
// method with an example.

#include <cstddef>
#include <functional>
#include <iosfwd>
#include <memory>
#include <string>
#include <vector>

#include "arvek/session/game_entry.hpp"
#include "arvek/session/session.hpp"

namespace arvek::link {

/// What a server offers and how much it bears.
struct RpcServerOptions {
    std::string name = "arvek";  ///< what it calls itself
    /// A game by name with settings, "name=value". Throws InputError.
    std::function<OpenGame(const std::string& game, const std::vector<std::string>& settings)> open{};
    /// The opponent of a name, or of the path of a profile, each perhaps with a level. Throws InputError.
    std::function<OpponentSpec(const std::string& text, const Session& session)> read_opponent{};
    std::string games_json{};           ///< what games_as_json() says
    std::size_t most_sessions = 1'000;  ///< at once
    bool closes_left_sessions = false;  ///< where there are as many: the one that was left the longest makes room
    /// MiB that the tables and trees of all sessions may take together. What asks for more waits; sessions that are asked
    /// nothing give theirs back, the one left the longest first.
    std::size_t memory_mebibytes = 4'096;
    std::size_t most_waiting = 10'000;                          ///< requests that are not answered yet
    std::size_t longest_message = std::size_t{16} * 1'048'576;  ///< in bytes
};

/// Sessions behind any way to carry messages. Several threads may hand it messages at once.
class RpcService {
   public:
    /// With nothing in hand.
    explicit RpcService(RpcServerOptions options);
    /// Decisions in hand are stopped and answered.
    ~RpcService();
    RpcService(const RpcService&) = delete;
    RpcService& operator=(const RpcService&) = delete;

    /// Ends decisions, and whatever else takes long, with what is known: those in hand and all that are asked for later.
    void stop();

    /// Is given each line of an answer.
    using Write = std::function<void(const std::string& line)>;
    /// A message, or a batch: `write` is given each line that comes of it, one at a time and from any thread, and then
    /// `done` is called, before or after take() returns.
    void take(const std::string& message, Write write, std::function<void()> done = {});

   private:
    class Body;
    std::unique_ptr<Body> body_;
};

/// Answers until the input ends; decisions in hand are then stopped and answered.
void serve_rpc(std::istream& in, std::ostream& out, const RpcServerOptions& options);

}  // namespace arvek::link
