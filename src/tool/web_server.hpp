#pragma once
// A page and the sessions behind it, served to a browser on this machine and to nobody else.

#include <cstddef>
#include <memory>
#include <span>
#include <string>
#include <string_view>

#include "arvek/link/rpc_server.hpp"
#include "embedded_file.hpp"

namespace arvek::tool {

struct WebServerOptions {
    link::RpcServerOptions rpc{};
    std::span<const EmbeddedFile> files{};
    int port = 0;               ///< 0: one that is free
    std::string token{};        ///< what the address must have; empty: drawn at random
    std::size_t threads = 128;  ///< connections that are served at once
};

/// Listens on the loopback address alone. Every address has a token that cannot be guessed; requests for another host
/// name or from a page of another origin are refused, and there is no path to any file but those of the page.
/// `POST rpc` takes a message of JSON-RPC and answers with a line for each progress notification and one for the answer.
/// A request whose connection is given up is cancelled.
class WebServer {
   public:
    /// Throws InputError when the port cannot be had.
    explicit WebServer(WebServerOptions options);
    ~WebServer();
    WebServer(const WebServer&) = delete;
    WebServer& operator=(const WebServer&) = delete;

    std::string address() const;  ///< "http://127.0.0.1:40321/3f.../"

   private:
    class Body;
    std::unique_ptr<Body> body_;
};

}  // namespace arvek::tool
