#include "core/program/network_texts.h"

namespace cognitum::program {

const char* const network_outbox = R"(
#include <WiFi.h> // of the board's core; where it has another name, change it here
#include "secrets.h" // names and passwords, a file of your own

// What is sent waits here, line by line, until the network has taken it. Where there is no more room the oldest goes:
// seq shows the gap.
const unsigned int LINE = $line$, LINES = $lines$;
struct Waiting {
    unsigned long ended; // ms, when it was whole
    char text[LINE];
};
class Outbox : public Print {
  public:
    size_t write(uint8_t c) override {
        Serial.write(c); // a cable shows the same
        if (c == '\r') return 1;
        if (c != '\n') {
            if (length < LINE - 24) open[length++] = c; // room for late_ms
            return 1;
        }
        if (count == LINES) drop();
        Waiting& line = waiting[(first + count) % LINES];
        memcpy(line.text, open, length);
        line.text[length] = 0;
        line.ended = millis();
        ++count;
        length = 0;
        return 1;
    }
    using Print::write;
    bool empty() const { return count == 0; }
    Waiting& oldest() { return waiting[first]; }
    unsigned long number() const { return dropped; } // of the oldest
    void drop() {
        first = (first + 1) % LINES;
        --count;
        ++dropped;
    }

  private:
    Waiting waiting[LINES];
    char open[LINE];
    unsigned int first = 0, count = 0, length = 0;
    unsigned long dropped = 0;
};
Outbox outbox;
)";

const char* const network_radio = R"(
// ---- The network. Nothing here waits, except that a connection is opened: some cores take seconds for that where
// nobody answers. It is tried every ten seconds.
const unsigned long AGAIN = 10000, PATIENCE = 5000; // ms
WiFiClient client;
unsigned long tried_at = 0, sent_at = 0; // ms
unsigned long sent_number = 0;           // of the line that is on its way
bool on_its_way = false;

void obey(char* line);
void introduce();

void radio_begin() {
    WiFi.mode(WIFI_STA);
    WiFi.begin(NETWORK, NETWORK_PASSWORD);
}

// The oldest line as it is sent: what waited says for how long, so that its time is known where it arrives.
const char* line_to_send() {
    static char text[LINE];
    Waiting& line = outbox.oldest();
    strcpy(text, line.text);
    const unsigned long late = millis() - line.ended;
    if (late >= 100 && text[0] != '#') {
        strcat(text, " late_ms=");
        char digits[12];
        ultoa(late, digits, 10);
        strcat(text, digits);
    }
    sent_number = outbox.number();
    sent_at = millis();
    on_its_way = true;
    return text;
}

// It has arrived. The oldest line may be another by now.
void line_arrived() {
    if (on_its_way && !outbox.empty() && outbox.number() == sent_number) outbox.drop();
    on_its_way = false;
}
)";

const char* const network_broker = R"(
// ---- MQTT 3.1.1 (OASIS standard), as much as a board needs: a will, quality 1 for records, a ping.
const char TOPIC[] = $topic$, STATUS[] = $status$, GONE[] = $gone$, COMMANDS[] = $commands$;
const byte KEEP_ALIVE = 30; // s
byte packet[LINE + 320];
unsigned int packet_length = 0;
unsigned int packet_id = 0;
unsigned long said_at = 0, heard_at = 0; // ms
bool connected = false;
byte answer[128]; // the packet that is being read
unsigned long answer_length = 0, answer_at = 0;
byte answer_part = 0; // 0 its kind, 1 its length, 2 its bytes
byte answer_shift = 0;

void put(byte b) {
    if (packet_length < sizeof packet) packet[packet_length++] = b;
}
void put_text(const char* text) {
    const unsigned int n = strlen(text);
    put(n >> 8);
    put(n & 255);
    while (*text)
        put(*text++);
}
void send_packet(byte kind) {
    byte head[5];
    byte n = 0;
    head[n++] = kind;
    unsigned int rest = packet_length;
    do {
        head[n++] = rest % 128 + (rest > 127 ? 128 : 0);
        rest /= 128;
    } while (rest > 0);
    client.write(head, n);
    if (packet_length > 0) client.write(packet, packet_length);
    packet_length = 0;
    said_at = millis();
}

void close_connection() {
    client.stop();
    connected = false;
    on_its_way = false;
}

void open_connection() {
    connected = false;
    answer_part = 0;
    if (!client.connect(BROKER, BROKER_PORT)) return;
    put_text("MQTT");
    put(4);
    const bool log_in = BROKER_USER[0] != 0, will = STATUS[0] != 0;
    put(2 | (will ? 0x24 : 0) | (log_in ? 0xC0 : 0)); // no session of before; a will that is kept
    put(0);
    put(KEEP_ALIVE);
    put_text("cognitum-$id$");
    if (will) {
        put_text(STATUS);
        put_text(GONE);
    }
    if (log_in) {
        put_text(BROKER_USER);
        put_text(BROKER_PASSWORD);
    }
    send_packet(0x10);
    heard_at = millis();
}

void connection_is_there() {
    connected = true;
    if (STATUS[0] != 0) {
        put_text(STATUS);
        for (const char* c = "online"; *c; ++c)
            put(*c);
        send_packet(0x31); // kept
    }
    if (COMMANDS[0] != 0) {
        packet_id = packet_id % 65535U + 1;
        put(packet_id >> 8);
        put(packet_id & 255);
        put_text(COMMANDS);
        put(0);
        send_packet(0x82);
    }
    introduce();
}

void send_line() {
    const char* text = line_to_send();
    put_text(TOPIC);
    packet_id = packet_id % 65535U + 1;
    put(packet_id >> 8);
    put(packet_id & 255);
    while (*text)
        put(*text++);
    send_packet(0x32);
}

// What the broker says: that it is there, that it took a line, or a command.
void take_answer(byte kind) {
    heard_at = millis();
    if (kind >> 4 == 2 && answer_length == 2) {
        if (answer[1] == 0) connection_is_there();
        else close_connection(); // it does not want this name or password
    } else if (kind >> 4 == 4 && answer_length >= 2) {
        if (((unsigned int)answer[0] << 8 | answer[1]) == packet_id) line_arrived();
    } else if (kind >> 4 == 3 && answer_length < sizeof answer) {
        const unsigned int from = 2 + ((unsigned int)answer[0] << 8 | answer[1]);
        if (from > answer_length) return;
        answer[answer_length] = 0;
        for (char* line = strtok((char*)answer + from, "\r\n"); line; line = strtok(0, "\r\n"))
            obey(line);
    }
}

void read_answers() {
    static byte kind = 0;
    while (client.available() > 0) {
        const byte b = client.read();
        if (answer_part == 0) {
            kind = b;
            answer_length = answer_at = answer_shift = 0;
            answer_part = 1;
            continue;
        }
        if (answer_part == 1) {
            answer_length |= (unsigned long)(b & 127) << answer_shift;
            answer_shift += 7;
            if (answer_shift > 28) return close_connection(); // no broker speaks so
            if (b & 128) continue;
            answer_part = 2;
        } else {
            if (answer_at < sizeof answer) answer[answer_at] = b; // of what is longer the rest is left out
            ++answer_at;
        }
        if (answer_at == answer_length) {
            answer_part = 0;
            take_answer(kind);
        }
    }
}

void speak() {
    if (!client.connected()) {
        connected = on_its_way = false;
        if (tried_at != 0 && millis() - tried_at < AGAIN) return;
        tried_at = millis();
        return open_connection();
    }
    read_answers();
    if (on_its_way && millis() - sent_at > PATIENCE) return close_connection();
    if (millis() - heard_at > 1500UL * KEEP_ALIVE) return close_connection();
    if (!connected) return;
    if (millis() - said_at > 500UL * KEEP_ALIVE) send_packet(0xC0); // a ping, which is answered
    if (!on_its_way && !outbox.empty()) send_line();
}
)";

const char* const network_post = R"(
// ---- Posts, a line each; what is answered are commands.
char answer[512];
unsigned int answer_length = 0;

void take_answer() {
    answer[answer_length] = 0;
    const char* status = strchr(answer, ' ');
    if (!status || status[1] != '2') { // it is sent again
        on_its_way = false;
        tried_at = millis();
        return;
    }
    line_arrived();
    char* line = strstr(answer, "\r\n\r\n");
    line = line ? line + 4 : 0;
    while (line && *line) {
        char* end = strchr(line, '\n');
        if (end) *end = 0;
        if (*line && strcmp(line, "ok")) obey(line);
        line = end ? end + 1 : 0;
    }
}

void send_line() {
    if (!client.connect(COMPUTER, COMPUTER_PORT)) {
        tried_at = millis();
        return;
    }
    const char* text = line_to_send();
    answer_length = 0;
    client.print("POST /in/$id$ HTTP/1.1\r\nHost: ");
    client.print(COMPUTER);
    client.print(':');
    client.print(COMPUTER_PORT);
    client.print("\r\nConnection: close\r\nContent-Type: text/plain\r\n");
    if (TOKEN[0] != 0) {
        client.print("X-Token: ");
        client.print(TOKEN);
        client.print("\r\n");
    }
    client.print("Content-Length: ");
    client.print((unsigned int)strlen(text));
    client.print("\r\n\r\n");
    client.print(text);
}

void speak() {
    if (on_its_way) {
        while (client.available() > 0) {
            const char c = client.read();
            if (answer_length < sizeof answer - 1) answer[answer_length++] = c;
        }
        if (client.connected() && millis() - sent_at < PATIENCE) return;
        client.stop();
        return take_answer();
    }
    if (outbox.empty()) return;
    if (tried_at != 0 && millis() - tried_at < AGAIN) return;
    tried_at = 0;
    send_line();
}
)";

const char* const network_turns = R"(
void network_turn() {
    static bool was_there = false;
    const bool is_there = WiFi.status() == WL_CONNECTED;
    if (is_there) speak();
    else if (was_there) client.stop();
    if (!is_there) on_its_way = false;
    was_there = is_there;
}
)";

const char* const secrets_head =
    R"(// Names and passwords of the $board$. Fill them in, and give this file to nobody. Cognitum neither reads nor keeps
// it, and never writes over it.
#pragma once

const char NETWORK[] = "";          // name of the wireless network
const char NETWORK_PASSWORD[] = "";
)";

const char* const secrets_broker =
    R"(const char BROKER[] = $host$; // name or address of the broker as the board sees it: not localhost
const unsigned int BROKER_PORT = $port$;
const char BROKER_USER[] = ""; // empty: it asks for none
const char BROKER_PASSWORD[] = "";
)";

const char* const secrets_post =
    R"(const char COMPUTER[] = ""; // address of the computer on which Cognitum listens, such as 192.168.1.20
const unsigned int COMPUTER_PORT = $port$;
const char TOKEN[] = ""; // the board's token, where its link asks for one
)";

} // namespace cognitum::program
