// How a board's bytes reach the bench, as a plan: which kind of link, where, in which format. No secret is ever in
// here: user names and passwords stand in the desktop's secret store, a token only as its fingerprint.
#pragma once

#include <cstdint>
#include <string>
#include <utility>
#include <vector>

namespace cognitum {

enum class LinkKind {
    none,
    serial,
    simulated, ///< cognitum-simboard on a pseudo-terminal
    mqtt,
    http,
    file,
};
/// How they stand in bench files, in the enum's order.
inline constexpr std::pair<LinkKind, const char*> link_kinds[] = {
    {LinkKind::none, "none"}, {LinkKind::serial, "serial"}, {LinkKind::simulated, "simulated"},
    {LinkKind::mqtt, "mqtt"}, {LinkKind::http, "http"},     {LinkKind::file, "file"}};
const char* link_kind_name(LinkKind kind);

struct MqttPlan {
    std::string host = "localhost";
    int port = 1883;
    std::string topics = "#";      ///< with wildcards, blanks between
    std::string status_topic = {}; ///< where the board says that it is there, and its will that it is gone
    std::string gone_word = "offline";
    int version = 4; ///< protocol level: 4 is MQTT 3.1.1, 5 is MQTT 5
    bool tls = false;
    std::string ca_file = {}; ///< empty: the system's
    bool log_in = false;      ///< user name and password from the secret store, or asked for
    std::string command_topic = {};
    bool operator==(const MqttPlan&) const = default;
};

struct HttpPlan {
    int port = 8765;              ///< boards with one port share a receiver
    bool wide = false;            ///< listens beyond this computer; then a token is needed
    std::string token_print = {}; ///< SHA-256 of the token, hexadecimal; empty: none asked for
    bool operator==(const HttpPlan&) const = default;
};

struct FilePlan {
    std::string path = {};
    bool follow = true; ///< goes on as the file grows
    double speed = 0;   ///< of a replay: 1 as it was recorded, 0 as fast as it can
    bool operator==(const FilePlan&) const = default;
};

struct LinkPlan {
    LinkKind kind = LinkKind::none;
    std::string port = {}; ///< device path; empty for simulated
    int baud = 115200;
    std::uint64_t seed = 0;      ///< of the simulated board
    bool simulated = false;      ///< of MQTT, HTTP and file links: cognitum-simboard stands at the other end
    bool processor = false;      ///< of `simulated`: the program written from the plan, in a simulated processor
    bool find_speed = false;     ///< tries speeds until the lines read as text
    std::string frame = "8N1";   ///< data bits, parity, stop bits
    bool may_reset = false;      ///< lets opening the port pull the board's reset line
    std::string format = "auto"; ///< see core/decode/message_format.h
    MqttPlan mqtt = {};
    HttpPlan http = {};
    FilePlan file = {};
    bool operator==(const LinkPlan&) const = default;

    static LinkPlan port_of_unknown_speed(const std::string& path) {
        return {.kind = LinkKind::serial, .port = path, .find_speed = true};
    }
    static LinkPlan simulated_board(std::uint64_t seed) { return {.kind = LinkKind::simulated, .seed = seed}; }
    static LinkPlan broker(const std::string& host, int port) {
        return {.kind = LinkKind::mqtt, .mqtt = {.host = host, .port = port}};
    }
    static LinkPlan posts() { return {.kind = LinkKind::http}; }
    static LinkPlan growing_file(const std::string& path) {
        return {.kind = LinkKind::file, .file = {.path = path}};
    }

    /// A wire with a speed, real or simulated.
    [[nodiscard]] bool is_wire() const { return kind == LinkKind::serial || kind == LinkKind::simulated; }
    /// Its lines may be of long ago.
    [[nodiscard]] bool brings_the_past() const { return kind == LinkKind::file; }
    /// It has a way back to the board.
    [[nodiscard]] bool takes_commands() const {
        return kind != LinkKind::none && kind != LinkKind::file &&
               (kind != LinkKind::mqtt || !mqtt.command_topic.empty());
    }
    /// What it sends comes from the program that the plan's last change made.
    [[nodiscard]] bool runs_the_program() const { return kind == LinkKind::simulated && processor; }
    [[nodiscard]] bool is_simulated() const { return kind == LinkKind::simulated || simulated; }
};

/// A line that a person sends often.
struct CommandButton {
    std::string label, line;
    double answer_s = 2; ///< the answer is promised within
    bool operator==(const CommandButton&) const = default;
};

} // namespace cognitum
