// The wireless network of the boards that have one.
#pragma once

#if !defined(__AVR__)
enum wl_status_t { WL_IDLE_STATUS, WL_CONNECTED = 3, WL_DISCONNECTED = 6 };
enum WiFiMode_t { WIFI_OFF, WIFI_STA, WIFI_AP };
struct IPAddress {
    IPAddress(uint8_t a = 0, uint8_t b = 0, uint8_t c = 0, uint8_t d = 0);
    String toString() const;
};
class WiFiClass {
  public:
    int begin(const char* name, const char* password = NULL);
    int status();
    bool mode(WiFiMode_t mode);
    bool disconnect(bool off = false);
    bool reconnect();
    bool setSleep(bool on);
    void setAutoReconnect(bool on);
    void persistent(bool on);
    int RSSI();
    IPAddress localIP();
    String macAddress();
    void setHostname(const char* name);
};
extern WiFiClass WiFi;
class WiFiClient : public Stream {
  public:
    bool connect(const char* host, uint16_t port);
    bool connected();
    void stop();
};
class HTTPClient {
  public:
    bool begin(const String& url);
    bool begin(WiFiClient& client, const String& url);
    void addHeader(const String& name, const String& value);
    void setTimeout(uint16_t ms);
    int GET();
    int POST(const String& body);
    int PUT(const String& body);
    String getString();
    void end();
};
void configTime(long offset_s, int summer_s, const char* server);
#endif
