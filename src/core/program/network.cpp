#include "core/program/network.h"

#include "core/base/phrase.h"
#include "core/program/driver.h"
#include "core/program/network_texts.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum::program {

namespace {

/// What may stand between quotes of C++ as it is. A bench may come from a stranger.
bool is_quotable(std::string_view text) {
    constexpr std::size_t longest = 128; // a packet of the program has room for it
    return text.size() <= longest && std::none_of(text.begin(), text.end(), [](char c) {
               const auto u = static_cast<unsigned char>(c);
               return u < 0x20 || u == 0x7F || std::string_view("\"\\$?").find(c) != std::string_view::npos;
           });
}

/// Nothing where it could not stand there.
std::string in_quotes(std::string_view text) {
    return is_quotable(text) ? "\"" + std::string(text) + "\"" : "\"\"";
}

/// Its id as it stands in addresses.
std::string plain_id(const BoardUse& use) {
    return is_plain_word(use.id) ? use.id : code_name(use.id);
}

/// A topic that the plan listens to: wildcards of its first filter are filled in.
std::string topic_of(const BoardUse& use) {
    const std::string filter = use.link.mqtt.topics.substr(0, use.link.mqtt.topics.find(' '));
    const std::string id = plain_id(use);
    std::string out;
    for (const char c : filter) {
        if (c == '+')
            out += id;
        else if (c == '#')
            out += out.empty() ? id + "/records" : "records";
        else
            out += c;
    }
    return out;
}

bool is_this_computer(const std::string& host) {
    return host.empty() || host == "localhost" || host.starts_with("127.") || host == "::1";
}

} // namespace

NetworkPlan network_plan(const BoardUse& use, const BoardCard& card) {
    NetworkPlan out;
    const bool broker = use.link.kind == LinkKind::mqtt;
    if (!broker && use.link.kind != LinkKind::http) return out;
    const std::string by_cable = phrase(" Its lines go to the serial port, for a cable.");
    if (!card.radio.starts_with("Wi-Fi"))
        out.refusal = phrase("this board has no Wi-Fi, and the program knows no other network.") + by_cable;
    else if (broker && use.link.mqtt.tls)
        out.refusal =
            phrase("the broker is reached through an encrypted connection, which this program does not speak.") +
            by_cable;
    else if (broker && !(is_quotable(topic_of(use)) && is_quotable(use.link.mqtt.status_topic) &&
                         is_quotable(use.link.mqtt.command_topic) && is_quotable(use.link.mqtt.gone_word)))
        out.refusal =
            phrase("one of its topics is longer than 128 letters, or has a sign that a program cannot have.") +
            by_cable;
    else
        out.way = broker ? NetworkWay::broker : NetworkWay::post;
    if (out.way == NetworkWay::broker) out.topic = topic_of(use);
    return out;
}

std::string outbox_text(std::size_t longest) {
    constexpr std::size_t memory = 16000, least_line = 256; // the first line of a board is long
    const std::size_t line = std::max(least_line, longest);
    const std::size_t lines = std::max<std::size_t>(4, memory / line);
    return fill(network_outbox, {{"line", std::to_string(line)}, {"lines", std::to_string(lines)}});
}

std::string sender_text(const NetworkPlan& network, const BoardUse& use) {
    const MqttPlan& mqtt = use.link.mqtt;
    const Names names = {{"id", plain_id(use)},
                         {"topic", in_quotes(network.topic)},
                         {"status", in_quotes(mqtt.status_topic)},
                         {"gone", in_quotes(mqtt.gone_word)},
                         {"commands", in_quotes(mqtt.command_topic)}};
    return std::string(network_radio) +
           fill(network.way == NetworkWay::broker ? network_broker : network_post, names) + network_turns;
}

std::string secrets_text(const NetworkPlan& network, const BoardUse& use) {
    const bool broker = network.way == NetworkWay::broker;
    const std::string host = broker && !is_this_computer(use.link.mqtt.host) ? use.link.mqtt.host : std::string();
    const Names names = {{"board", comment_text(use.name)},
                         {"host", in_quotes(host)},
                         {"port", std::to_string(broker ? use.link.mqtt.port : use.link.http.port)}};
    return fill(std::string(secrets_head) + (broker ? secrets_broker : secrets_post), names);
}

std::string through_the_outbox(std::string text) {
    constexpr std::string_view was = "Serial.print", is = "outbox.print";
    for (auto at = text.find(was); at != std::string::npos; at = text.find(was, at + is.size()))
        text.replace(at, was.size(), is);
    return text;
}

} // namespace cognitum::program
