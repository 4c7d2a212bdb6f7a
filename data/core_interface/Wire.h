#pragma once
class TwoWire : public Stream {
  public:
    void begin();
    void begin(int sda, int scl, uint32_t hertz = 0);
    void end();
    void setClock(uint32_t hertz);
    void setWireTimeout(uint32_t us = 25000, bool reset = false);
    bool getWireTimeoutFlag();
    void clearWireTimeoutFlag();
    void beginTransmission(int address);
    uint8_t endTransmission(bool stop = true);
    uint8_t requestFrom(int address, int bytes, int stop = 1);
};
extern TwoWire Wire, Wire1;
