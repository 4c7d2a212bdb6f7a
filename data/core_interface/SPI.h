#pragma once
#define SPI_MODE0 0
#define SPI_MODE1 1
#define SPI_MODE2 2
#define SPI_MODE3 3
#define SPI_CLOCK_DIV2 2
#define SPI_CLOCK_DIV4 4
#define SPI_CLOCK_DIV8 8
#define SPI_CLOCK_DIV16 16
class SPISettings {
  public:
    SPISettings(uint32_t hertz = 4000000, uint8_t order = MSBFIRST, uint8_t mode = SPI_MODE0);
};
class SPIClass {
  public:
    void begin();
    void begin(int clock, int in, int out, int select);
    void end();
    void beginTransaction(SPISettings settings);
    void endTransaction();
    uint8_t transfer(uint8_t value);
    uint16_t transfer16(uint16_t value);
    void setBitOrder(uint8_t order);
    void setDataMode(uint8_t mode);
    void setClockDivider(uint8_t divider);
};
extern SPIClass SPI;
