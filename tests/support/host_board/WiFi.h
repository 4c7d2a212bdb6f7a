// The network of the board on this computer: it is there, unless a file says that it is away.
#pragma once

#include "host_core.h"

constexpr int WL_CONNECTED = 3, WL_DISCONNECTED = 6, WIFI_STA = 1;
struct HostNetwork {
    void mode(int) {}
    void begin(const char* name, const char* password);
    int status();
};
extern HostNetwork WiFi;

class WiFiClient : public Print {
  public:
    bool connect(const char* host, unsigned port);
    bool connected();
    int available();
    int read();
    void stop();
    using Print::write;
    std::size_t write(std::uint8_t byte) override { return write(&byte, 1); }
    std::size_t write(const std::uint8_t* bytes, std::size_t n) override;

  private:
    int m_socket = -1;
};
