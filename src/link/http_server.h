// A small web server for people's own networks, bounded in everything that a neighbour can send: bytes of a
// request, time for a whole one, connections, requests in a second. Refuses what a web page of somebody else makes
// a browser send (a foreign Origin or Host). All connections are served by one thread that never waits for one of
// them.
#pragma once

#include <cstddef>
#include <functional>
#include <memory>
#include <string>

namespace cognitum {

struct HttpRequest {
    std::string method, path;
    std::string token; ///< of the header X-Token, of Authorization: Bearer, or of ?token=
    std::string body;
};

struct HttpAnswer {
    int status = 200;
    std::string body;
    std::string type = "text/plain; charset=utf-8";
};

struct HttpBounds {
    static constexpr std::size_t header_bytes = 16384; ///< request line and headers
    static constexpr int request_s = 10; ///< for a whole request, from its connection or the one before
    static constexpr int connections = 512;
    static constexpr int crowded =
        256; ///< connections; beyond, the one that waits longest for its request is ended
    static constexpr int connections_of_one = 16; ///< of one address
    static constexpr int requests_of_one = 1000;  ///< in a second, of one address
};

class HttpServer {
  public:
    /// Called in the server's thread for a whole request within the bounds.
    using Handler = std::function<HttpAnswer(const HttpRequest&)>;
    /// Told, in the same thread, of a request that was refused before it came to the handler.
    using Refused = std::function<void(const std::string& path, const HttpAnswer&)>;
    /// A body beyond `longest_body` bytes is refused unread.
    HttpServer(std::string address, int port, std::size_t longest_body, Handler handler, Refused refused = {});
    ~HttpServer();
    HttpServer(const HttpServer&) = delete;
    HttpServer& operator=(const HttpServer&) = delete;

    /// False: the port is taken, or cannot be had at that address. Port 0: any free one.
    bool listen();
    [[nodiscard]] int port() const;

  private:
    struct Daemon; ///< of the library
    std::unique_ptr<Daemon> m_daemon;
};

} // namespace cognitum
