#pragma once
// What JSON-RPC can ask of one session.

#include <functional>
#include <map>
#include <nlohmann/json.hpp>
#include <optional>
#include <string>

#include "arvek/link/rpc_server.hpp"
#include "arvek/search/limits.hpp"
#include "arvek/session/session.hpp"
#include "rpc_parts.hpp"

namespace arvek::link::detail {

/// A session, and what is kept of the last decision about it.
struct RpcSession {
    explicit RpcSession(Session begun) : session(std::move(begun)) {}

    Session session;
    std::optional<std::string> start{};  ///< the text of the position that it began at; the initial one
    std::uint64_t seed = 0;
    Json tree;  ///< of the last decision that was to keep one
};

/// What a method knows of the message besides its params.
struct RpcRequest {
    const RpcServerOptions& options;
    StopToken stop;
    std::function<void(Json params)> tell;  ///< sends a progress notification
    /// Waits until the session may take so many MiB. Throws RpcError where it never may.
    std::function<void(std::size_t mebibytes)> reserve;
};

struct RpcMethod {
    Json (*run)(RpcSession&, Params&, const RpcRequest&);
    bool takes_long = false;  ///< whether it can be cancelled
};

const std::map<std::string, RpcMethod>& rpc_methods();

/// How the session stands, as its JSON.
Json rpc_state_of(const Session& session);

}  // namespace arvek::link::detail
