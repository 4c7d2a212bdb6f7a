#include "WiFi.h"

#include <arpa/inet.h>
#include <csignal>
#include <ctime>
#include <netinet/in.h>
#include <poll.h>
#include <sys/ioctl.h>
#include <sys/prctl.h>
#include <sys/socket.h>
#include <unistd.h>

SerialPort Serial;
HostNetwork WiFi;

namespace {

/// Of this board's clock for a real one.
double speed() {
    static const char* const said = std::getenv("HOST_BOARD_SPEED");
    static const double value = said ? std::atof(said) : 1;
    return value;
}

double now_s() {
    static timespec first{};
    timespec now{};
    clock_gettime(CLOCK_MONOTONIC, &now);
    if (first.tv_sec == 0) first = now;
    return speed() * (static_cast<double>(now.tv_sec - first.tv_sec) +
                      1e-9 * static_cast<double>(now.tv_nsec - first.tv_nsec));
}

} // namespace

unsigned long millis() {
    return static_cast<unsigned long>(1e3 * now_s());
}
unsigned long micros() {
    return static_cast<unsigned long>(1e6 * now_s());
}
void delay(unsigned long ms) {
    usleep(static_cast<useconds_t>(1e3 * static_cast<double>(ms) / speed()));
}
void delayMicroseconds(unsigned) {}
void pinMode(byte, int) {}
void digitalWrite(byte pin, int level) {
    std::fprintf(stderr, "pin %d %d\n", pin, level);
}
int digitalRead(byte) {
    return HIGH;
}
int analogRead(byte) {
    return static_cast<int>(millis() / 100 % 4096);
}
void analogReadResolution(int) {}
unsigned long pulseInLong(byte, int, unsigned long) {
    return 0;
}
void attachInterrupt(int, void (*)(), int) {}
char* ultoa(unsigned long value, char* to, int) {
    std::sprintf(to, "%lu", value);
    return to;
}

std::size_t Print::write(const std::uint8_t* bytes, std::size_t n) {
    for (std::size_t i = 0; i < n; ++i)
        write(bytes[i]);
    return n;
}
std::size_t Print::print(long value) {
    char text[24];
    std::sprintf(text, "%ld", value);
    return print(text);
}
std::size_t Print::print(unsigned long value) {
    char text[24];
    std::sprintf(text, "%lu", value);
    return print(text);
}
std::size_t Print::print(double value, int digits) {
    char text[64];
    std::snprintf(text, sizeof text, "%.*f", digits, value);
    return print(text);
}
std::size_t SerialPort::write(std::uint8_t byte) {
    std::fputc(byte, stdout);
    if (byte == '\n') std::fflush(stdout);
    return 1;
}

void HostNetwork::begin(const char* name, const char* password) {
    std::fprintf(stderr, "network %s %s\n", name, password);
}

int HostNetwork::status() {
    const char* const away = std::getenv("HOST_BOARD_AWAY");
    return away && access(away, F_OK) == 0 ? WL_DISCONNECTED : WL_CONNECTED;
}

bool WiFiClient::connect(const char* host, unsigned port) {
    stop();
    m_socket = ::socket(AF_INET, SOCK_STREAM, 0);
    sockaddr_in to{};
    to.sin_family = AF_INET;
    to.sin_port = htons(static_cast<std::uint16_t>(port));
    if (inet_pton(AF_INET, host, &to.sin_addr) != 1 ||
        ::connect(m_socket, reinterpret_cast<sockaddr*>(&to), sizeof to) != 0)
        stop();
    return m_socket >= 0;
}
int WiFiClient::available() {
    int n = 0;
    return m_socket >= 0 && ioctl(m_socket, FIONREAD, &n) == 0 ? n : 0;
}
/// As on the boards: what has arrived counts as connected, too.
bool WiFiClient::connected() {
    if (m_socket < 0) return false;
    if (available() > 0) return true;
    pollfd asked{m_socket, POLLIN, 0};
    char c = 0;
    return ::poll(&asked, 1, 0) == 0 || ::recv(m_socket, &c, 1, MSG_PEEK | MSG_DONTWAIT) > 0;
}
int WiFiClient::read() {
    std::uint8_t byte = 0;
    return m_socket >= 0 && ::recv(m_socket, &byte, 1, MSG_DONTWAIT) == 1 ? byte : -1;
}
void WiFiClient::stop() {
    if (m_socket >= 0) ::close(m_socket);
    m_socket = -1;
}
std::size_t WiFiClient::write(const std::uint8_t* bytes, std::size_t n) {
    const ssize_t sent = m_socket >= 0 ? ::send(m_socket, bytes, n, MSG_NOSIGNAL) : 0;
    return sent > 0 ? static_cast<std::size_t>(sent) : 0;
}

void setup();
void loop();
int main() {
    prctl(PR_SET_PDEATHSIG, SIGKILL);
    setup();
    for (;;) {
        loop();
        usleep(300);
    }
}
