// The far ends that are no wire: a broker, a receiver of posts, a file.
#include "simboard/transport.h"

#include <atomic>
#include <cerrno>
#include <chrono>
#include <cstdlib>
#include <cstring>
#include <fstream>
#include <httplib.h>
#include <mosquitto.h>
#include <mutex>
#include <utility>

namespace cognitum::demo {

namespace {

bool split_address(const std::string& address, std::string& host, int& port) {
    const std::size_t colon = address.rfind(':');
    if (colon == std::string::npos) return false;
    host = address.substr(0, colon);
    port = std::atoi(address.c_str() + colon + 1);
    return !host.empty() && port > 0 && port < 65536;
}

std::vector<std::string> lines_of(const std::string& text) {
    std::vector<std::string> out;
    for (std::size_t start = 0; start < text.size();) {
        const std::size_t end = std::min(text.find('\n', start), text.size());
        if (end > start) out.push_back(text.substr(start, end - start));
        start = end + 1;
    }
    return out;
}

class Mqtt : public Transport {
  public:
    Mqtt(std::string host, int port, std::string board)
        : m_host(std::move(host)), m_port(port), m_board(std::move(board)) {
        mosquitto_lib_init();
        m_client = mosquitto_new(nullptr, true, this);
        const std::string status = m_board + "/status";
        mosquitto_will_set(m_client, status.c_str(), 7, "offline", 1, true);
        mosquitto_connect_callback_set(m_client, [](mosquitto* client, void* self, int code) {
            auto* mqtt = static_cast<Mqtt*>(self);
            if (code != 0) return;
            mosquitto_subscribe(client, nullptr, (mqtt->m_board + "/command").c_str(), 1);
            mosquitto_publish(client, nullptr, (mqtt->m_board + "/status").c_str(), 6, "online", 1, true);
        });
        mosquitto_message_callback_set(m_client, [](mosquitto*, void* self, const mosquitto_message* m) {
            auto* mqtt = static_cast<Mqtt*>(self);
            const std::lock_guard lock(mqtt->m_mutex);
            mqtt->m_commands.append(static_cast<const char*>(m->payload), static_cast<std::size_t>(m->payloadlen));
            mqtt->m_commands += '\n';
        });
        mosquitto_reconnect_delay_set(m_client, 1, 4, true);
        connect();
    }
    ~Mqtt() override {
        mosquitto_disconnect(m_client);
        mosquitto_loop_stop(m_client, true);
        mosquitto_destroy(m_client);
    }
    Mqtt(const Mqtt&) = delete;
    Mqtt& operator=(const Mqtt&) = delete;

    void send(const Sent& sent, const Faults&) override {
        const std::string topic = sent.channel.empty() ? m_board + "/answer" : sent.channel;
        mosquitto_publish(m_client, nullptr, topic.c_str(), static_cast<int>(sent.bytes.size()), sent.bytes.data(),
                          0, sent.retained);
    }
    std::vector<std::string> receive() override {
        connect();
        const std::lock_guard lock(m_mutex);
        return lines_of(std::exchange(m_commands, {}));
    }
    [[nodiscard]] std::string place() const override { return m_host + ":" + std::to_string(m_port); }

  private:
    /// The library comes back by itself once it was connected; until then it is asked again, twice a second.
    void connect() {
        const auto now = std::chrono::steady_clock::now();
        if (m_started || now < m_next_try) return;
        m_next_try = now + std::chrono::milliseconds(500);
        if (mosquitto_connect_async(m_client, m_host.c_str(), m_port, 10) != MOSQ_ERR_SUCCESS) return;
        m_started = true;
        mosquitto_loop_start(m_client);
    }

    std::string m_host;
    int m_port;
    std::string m_board;
    bool m_started = false;
    std::chrono::steady_clock::time_point m_next_try;
    mosquitto* m_client = nullptr;
    std::mutex m_mutex;
    std::string m_commands;
};

class Http : public Transport {
  public:
    Http(const std::string& host, int port, std::string board)
        : m_client(host, port),
          m_place("http://" + host + ":" + std::to_string(port) + "/in/" + board),
          m_path("/in/" + board) {
        m_client.set_connection_timeout(1, 0);
        m_client.set_read_timeout(2, 0);
        m_client.set_keep_alive(true);
        if (const char* token = std::getenv("COGNITUM_TOKEN")) m_token = token;
    }
    void send(const Sent& sent, const Faults&) override {
        const bool json = !sent.bytes.empty() && sent.bytes.front() == '{';
        const httplib::Headers headers =
            m_token.empty() ? httplib::Headers{} : httplib::Headers{{"X-Token", m_token}};
        const auto answer = m_client.Post(m_path, headers, sent.bytes,
                                          json ? "application/json" : "application/x-www-form-urlencoded");
        if (answer && answer->status == 200 && answer->body != "ok\n") m_commands += answer->body;
    }
    std::vector<std::string> receive() override { return lines_of(std::exchange(m_commands, {})); }
    [[nodiscard]] std::string place() const override { return m_place; }

  private:
    httplib::Client m_client;
    std::string m_place, m_path, m_token, m_commands;
};

class File : public Transport {
  public:
    File(std::ofstream out, std::string path) : m_out(std::move(out)), m_path(std::move(path)) {}
    void send(const Sent& sent, const Faults&) override { m_out << sent.bytes << std::flush; }
    std::vector<std::string> receive() override { return {}; }
    [[nodiscard]] std::string place() const override { return m_path; }

  private:
    std::ofstream m_out;
    std::string m_path;
};

} // namespace

std::unique_ptr<Transport> open_mqtt(const std::string& address, const std::string& board, std::string& trouble) {
    std::string host;
    int port = 0;
    if (split_address(address, host, port)) return std::make_unique<Mqtt>(host, port, board);
    trouble = "\"" + address + "\" is no HOST:PORT of a broker";
    return nullptr;
}

std::unique_ptr<Transport> open_http(const std::string& address, const std::string& board, std::string& trouble) {
    std::string host;
    int port = 0;
    if (split_address(address, host, port)) return std::make_unique<Http>(host, port, board);
    trouble = "\"" + address + "\" is no HOST:PORT of a receiver";
    return nullptr;
}

std::unique_ptr<Transport> open_file(const std::string& path, std::string& trouble) {
    std::ofstream out(path, std::ios::trunc);
    if (out) return std::make_unique<File>(std::move(out), path);
    trouble = path + ": " + std::strerror(errno);
    return nullptr;
}

} // namespace cognitum::demo
