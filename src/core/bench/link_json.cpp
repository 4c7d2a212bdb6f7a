#include "core/base/json_fields.h"
#include "core/bench/link_plan.h"
#include "core/decode/format.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace cognitum {

namespace {

constexpr std::array<const char*, 6> names = {"none", "serial", "simulated", "mqtt", "http", "file"};

template <typename T>
void put(Json& out, const char* key, const T& value, const T& plain) {
    if (!(value == plain)) out[key] = value;
}

bool is_port(int port) {
    return port > 0 && port < 65536;
}

bool is_frame(const std::string& frame) {
    return frame.size() == 3 && (frame[0] == '7' || frame[0] == '8') &&
           (frame[1] == 'N' || frame[1] == 'E' || frame[1] == 'O') && (frame[2] == '1' || frame[2] == '2');
}

} // namespace

const char* link_kind_name(LinkKind kind) {
    return names[static_cast<std::size_t>(kind)];
}

Json link_json(const LinkPlan& link) {
    const LinkPlan plain;
    Json out = {{"kind", link_kind_name(link.kind)}, {"port", link.port}, {"baud", link.baud}, {"seed", link.seed}};
    put(out, "simulated", link.simulated, plain.simulated);
    put(out, "find_speed", link.find_speed, plain.find_speed);
    put(out, "frame", link.frame, plain.frame);
    put(out, "may_reset", link.may_reset, plain.may_reset);
    put(out, "format", link.format, plain.format);
    if (!(link.mqtt == plain.mqtt)) {
        const MqttPlan& m = link.mqtt;
        Json mqtt = {{"host", m.host}, {"port", m.port}, {"topics", m.topics}};
        put(mqtt, "status_topic", m.status_topic, plain.mqtt.status_topic);
        put(mqtt, "gone_word", m.gone_word, plain.mqtt.gone_word);
        put(mqtt, "version", m.version, plain.mqtt.version);
        put(mqtt, "tls", m.tls, plain.mqtt.tls);
        put(mqtt, "ca_file", m.ca_file, plain.mqtt.ca_file);
        put(mqtt, "log_in", m.log_in, plain.mqtt.log_in);
        put(mqtt, "command_topic", m.command_topic, plain.mqtt.command_topic);
        out["mqtt"] = mqtt;
    }
    if (!(link.http == plain.http)) {
        Json http = {{"port", link.http.port}};
        put(http, "wide", link.http.wide, plain.http.wide);
        put(http, "token_print", link.http.token_print, plain.http.token_print);
        out["http"] = http;
    }
    if (!(link.file == plain.file))
        out["file"] = {{"path", link.file.path}, {"follow", link.file.follow}, {"speed", link.file.speed}};
    return out;
}

Result<LinkPlan> read_link(const JsonReader& json) {
    LinkPlan link;
    std::string kind;
    double seed = 0;
    JsonFields fields(json);
    fields.need("kind", kind)
        .may("port", link.port)
        .may("baud", link.baud)
        .may("seed", seed)
        .may("simulated", link.simulated)
        .may("find_speed", link.find_speed)
        .may("frame", link.frame)
        .may("may_reset", link.may_reset)
        .may("format", link.format)
        .object("mqtt",
                [&](const JsonReader& item) {
                    MqttPlan& m = link.mqtt;
                    JsonFields mqtt(item);
                    mqtt.may("host", m.host)
                        .may("port", m.port)
                        .may("topics", m.topics)
                        .may("status_topic", m.status_topic)
                        .may("gone_word", m.gone_word)
                        .may("version", m.version)
                        .may("tls", m.tls)
                        .may("ca_file", m.ca_file)
                        .may("log_in", m.log_in)
                        .may("command_topic", m.command_topic);
                    mqtt.check(is_port(m.port), "port", "a port is a whole number from 1 to 65 535.");
                    mqtt.check(m.version == 4 || m.version == 5, "version",
                               "the protocol level is 4 (3.1.1) or 5.");
                    return mqtt.done();
                })
        .object("http",
                [&](const JsonReader& item) {
                    JsonFields http(item);
                    http.may("port", link.http.port)
                        .may("wide", link.http.wide)
                        .may("token_print", link.http.token_print);
                    http.check(is_port(link.http.port), "port", "a port is a whole number from 1 to 65 535.");
                    http.check(!link.http.wide || !link.http.token_print.empty(), "wide",
                               "a receiver that listens beyond this computer needs a token.");
                    return http.done();
                })
        .object("file", [&](const JsonReader& item) {
            JsonFields file(item);
            file.may("path", link.file.path).may("follow", link.file.follow).may("speed", link.file.speed);
            file.check(link.file.speed >= 0, "speed", "the speed of a replay is 0 or more.");
            return file.done();
        });
    const auto known = std::find(names.begin(), names.end(), kind);
    fields.check(known != names.end(), "kind", "a link's kind is none, serial, simulated, mqtt, http or file.");
    fields.check(link.baud >= 50 && link.baud <= 4'000'000, "baud", "the speed must be from 50 to 4 000 000 Bd.");
    fields.check(seed >= 0 && seed < 9e15 && seed == std::floor(seed), "seed",
                 "the seed must be a whole number from 0.");
    fields.check(is_frame(link.frame), "frame", "a frame is data bits, parity and stop bits, such as 8N1 or 7E1.");
    const auto format = parse_format(link.format);
    fields.check(format.has_value(), "format", format ? "" : format.error().what);
    COGNITUM_CHECK(fields.done());
    link.kind = static_cast<LinkKind>(known - names.begin());
    link.seed = static_cast<std::uint64_t>(seed);
    return link;
}

} // namespace cognitum
