#include "link/http_server.h"

#include <algorithm>
#include <arpa/inet.h>
#include <chrono>
#include <condition_variable>
#include <cstring>
#include <list>
#include <map>
#include <microhttpd.h>
#include <mutex>
#include <netinet/in.h>
#include <string_view>
#include <strings.h>
#include <sys/socket.h>
#include <thread>
#include <unistd.h>

namespace cognitum {

namespace {

using SteadyClock = std::chrono::steady_clock;

/// A request whose body is being read.
struct Upload {
    HttpRequest request;
    bool too_long = false;
};

std::string header(MHD_Connection* connection, const char* name) {
    const char* value = MHD_lookup_connection_value(connection, MHD_HEADER_KIND, name);
    return value ? value : "";
}

std::string token_of(MHD_Connection* connection) {
    if (const std::string token = header(connection, "X-Token"); !token.empty()) return token;
    const std::string authorization = header(connection, "Authorization");
    if (authorization.starts_with("Bearer ")) return authorization.substr(7);
    const char* asked = MHD_lookup_connection_value(connection, MHD_GET_ARGUMENT_KIND, "token");
    return asked ? asked : "";
}

/// "[::1]:8080", "10.0.0.4:80", "bench.lan" → the name or address alone.
std::string host_name(std::string host) {
    if (host.starts_with('[')) return host.substr(1, host.find(']') - 1);
    return host.substr(0, host.find(':'));
}

/// True for an address, for this computer's own name, and for none: a name that somebody else's page made a browser
/// look up is neither.
bool is_own_host(const std::string& host) {
    if (host.empty()) return true;
    const std::string name = host_name(host);
    in6_addr address{};
    if (::inet_pton(AF_INET, name.c_str(), &address) == 1 || ::inet_pton(AF_INET6, name.c_str(), &address) == 1)
        return true;
    char own[256] = {};
    ::gethostname(own, sizeof own - 1);
    const std::string bare = name.substr(0, name.find('.'));
    return ::strcasecmp(name.c_str(), "localhost") == 0 || ::strcasecmp(bare.c_str(), own) == 0 ||
           ::strcasecmp(name.c_str(), own) == 0;
}

std::string peer_of(MHD_Connection* connection) {
    const auto* info = MHD_get_connection_info(connection, MHD_CONNECTION_INFO_CLIENT_ADDRESS);
    if (!info || !info->client_addr) return {};
    char text[INET6_ADDRSTRLEN] = {};
    if (info->client_addr->sa_family == AF_INET)
        ::inet_ntop(AF_INET, &reinterpret_cast<const sockaddr_in*>(info->client_addr)->sin_addr, text, sizeof text);
    return text;
}

MHD_Result answer_with(MHD_Connection* connection, const HttpAnswer& answer, bool close = false) {
    MHD_Response* response = MHD_create_response_from_buffer(
        answer.body.size(), const_cast<char*>(answer.body.data()), MHD_RESPMEM_MUST_COPY);
    MHD_add_response_header(response, "Content-Type", answer.type.c_str());
    MHD_add_response_header(response, "Cache-Control", "no-store");
    MHD_add_response_header(response, "X-Content-Type-Options", "nosniff");
    if (close) MHD_add_response_header(response, "Connection", "close");
    const MHD_Result queued = MHD_queue_response(connection, static_cast<unsigned>(answer.status), response);
    MHD_destroy_response(response);
    return queued;
}

} // namespace

struct HttpServer::Daemon {
    /// One connection, and since when its next request is awaited.
    struct Caller {
        int socket = -1;
        SteadyClock::time_point since;
    };

    std::string address;
    int port = 0;
    std::size_t longest_body = 0;
    Handler handler;
    Refused refused;
    MHD_Daemon* daemon = nullptr;

    std::mutex mutex; ///< guards what follows
    std::condition_variable ending;
    bool ends = false;
    std::list<Caller> connections;
    std::map<std::string, int> in_second; ///< requests of each address
    SteadyClock::time_point second{};
    std::thread sweeper;

    ~Daemon() {
        {
            const std::lock_guard lock(mutex);
            ends = true;
        }
        ending.notify_all();
        if (sweeper.joinable()) sweeper.join();
        if (daemon) MHD_stop_daemon(daemon);
    }

    /// Ends connections whose request does not become whole.
    void sweep() {
        std::unique_lock lock(mutex);
        while (!ending.wait_for(lock, std::chrono::milliseconds(500), [this] { return ends; }))
            for (const Caller& c : connections)
                if (SteadyClock::now() - c.since > std::chrono::seconds(HttpBounds::request_s))
                    ::shutdown(c.socket, SHUT_RDWR);
    }

    /// Under the lock: where strangers crowd, the oldest one that says nothing whole gives way.
    void make_room() {
        if (connections.size() < HttpBounds::crowded) return;
        const auto oldest = std::min_element(connections.begin(), connections.end(),
                                             [](const Caller& a, const Caller& b) { return a.since < b.since; });
        ::shutdown(oldest->socket, SHUT_RDWR);
        oldest->since = SteadyClock::now(); // it is on its way out
    }

    bool is_too_often(const std::string& peer) {
        const std::lock_guard lock(mutex);
        if (const auto now = SteadyClock::now(); now - second > std::chrono::seconds(1)) {
            second = now;
            in_second.clear();
        }
        return ++in_second[peer] > HttpBounds::requests_of_one;
    }

    /// What is wrong with a request before its body is read; status 0: nothing.
    HttpAnswer refusal(MHD_Connection* connection, std::string_view method) {
        if (is_too_often(peer_of(connection))) return {429, "too many requests\n"};
        const std::string host = header(connection, "Host");
        const std::string origin = header(connection, "Origin");
        if (!is_own_host(host)) return {403, "not the name of this computer: use its address\n"};
        if (!origin.empty() && origin != "http://" + host) return {403, "a page of another origin\n"};
        if (method != "GET" && method != "POST" && method != "HEAD") return {405, "only GET and POST\n"};
        const std::string length = header(connection, "Content-Length");
        if (length.size() > 9 || std::strtoull(length.c_str(), nullptr, 10) > longest_body)
            return {413, "body too long\n"};
        return {0, {}};
    }

    MHD_Result refuse(MHD_Connection* connection, const char* path, const HttpAnswer& answer) {
        if (refused) refused(path, answer);
        return answer_with(connection, answer, true);
    }

    static MHD_Result take(void* self, MHD_Connection* connection, const char* url, const char* method, const char*,
                           const char* data, std::size_t* size, void** kept) {
        auto& daemon = *static_cast<Daemon*>(self);
        auto* upload = static_cast<Upload*>(*kept);
        if (!upload) {
            if (const HttpAnswer no = daemon.refusal(connection, method); no.status != 0)
                return daemon.refuse(connection, url, no);
            *kept = new Upload{{method, url, token_of(connection), {}}};
            return MHD_YES;
        }
        if (*size > 0) {
            const std::size_t room = daemon.longest_body - upload->request.body.size();
            if (*size > room) {
                if (upload->too_long) return MHD_NO; // it does not stop: neither do we read on
                upload->too_long = true;
            } else if (!upload->too_long) {
                upload->request.body.append(data, *size);
            }
            *size = 0;
            return MHD_YES;
        }
        if (upload->too_long) return daemon.refuse(connection, url, {413, "body too long\n"});
        return answer_with(connection, daemon.handler(upload->request));
    }

    static void completed(void* self, MHD_Connection* connection, void** kept, MHD_RequestTerminationCode) {
        auto& daemon = *static_cast<Daemon*>(self);
        delete static_cast<Upload*>(*kept);
        *kept = nullptr;
        const auto* info = MHD_get_connection_info(connection, MHD_CONNECTION_INFO_SOCKET_CONTEXT);
        const std::lock_guard lock(daemon.mutex);
        if (info && info->socket_context) static_cast<Caller*>(info->socket_context)->since = SteadyClock::now();
    }

    static void noticed(void* self, MHD_Connection* connection, void** context,
                        MHD_ConnectionNotificationCode code) {
        auto& daemon = *static_cast<Daemon*>(self);
        const std::lock_guard lock(daemon.mutex);
        if (code == MHD_CONNECTION_NOTIFY_STARTED) {
            const auto* info = MHD_get_connection_info(connection, MHD_CONNECTION_INFO_CONNECTION_FD);
            daemon.make_room();
            daemon.connections.push_back({info ? info->connect_fd : -1, SteadyClock::now()});
            *context = &daemon.connections.back();
        } else {
            daemon.connections.remove_if([&](const Caller& c) { return &c == *context; });
            *context = nullptr;
        }
    }
};

HttpServer::HttpServer(std::string address, int port, std::size_t longest_body, Handler handler, Refused refused)
    : m_daemon(std::make_unique<Daemon>()) {
    m_daemon->address = std::move(address);
    m_daemon->port = port;
    m_daemon->longest_body = longest_body;
    m_daemon->handler = std::move(handler);
    m_daemon->refused = std::move(refused);
}

HttpServer::~HttpServer() = default;

bool HttpServer::listen() {
    Daemon& d = *m_daemon;
    sockaddr_in where{};
    where.sin_family = AF_INET;
    where.sin_port = htons(static_cast<std::uint16_t>(d.port));
    if (::inet_pton(AF_INET, d.address.c_str(), &where.sin_addr) != 1) return false;
    d.daemon = MHD_start_daemon(
        MHD_USE_AUTO_INTERNAL_THREAD, 0, nullptr, nullptr, &Daemon::take, &d, MHD_OPTION_SOCK_ADDR, &where,
        MHD_OPTION_NOTIFY_COMPLETED, &Daemon::completed, &d, MHD_OPTION_NOTIFY_CONNECTION, &Daemon::noticed, &d,
        MHD_OPTION_CONNECTION_MEMORY_LIMIT, HttpBounds::header_bytes + 4096, MHD_OPTION_CONNECTION_TIMEOUT,
        static_cast<unsigned>(HttpBounds::request_s), MHD_OPTION_CONNECTION_LIMIT,
        static_cast<unsigned>(HttpBounds::connections), MHD_OPTION_PER_IP_CONNECTION_LIMIT,
        static_cast<unsigned>(HttpBounds::connections_of_one), MHD_OPTION_END);
    if (!d.daemon) return false;
    const auto* info = MHD_get_daemon_info(d.daemon, MHD_DAEMON_INFO_BIND_PORT);
    if (info && info->port != 0) d.port = info->port;
    d.sweeper = std::thread([&d] { d.sweep(); });
    return true;
}

int HttpServer::port() const {
    return m_daemon->port;
}

} // namespace cognitum
