#pragma once
class SoftwareSerial : public Stream {
  public:
    SoftwareSerial(uint8_t rx, uint8_t tx, bool inverted = false);
    void begin(long baud);
    bool listen();
};
