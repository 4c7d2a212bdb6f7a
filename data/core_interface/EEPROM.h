#pragma once
class EEPROMClass {
  public:
    uint8_t read(int at);
    void write(int at, uint8_t value);
    void update(int at, uint8_t value);
    uint16_t length();
    template <class T>
    T& get(int, T& value) {
        return value;
    }
    template <class T>
    const T& put(int, const T& value) {
        return value;
    }
    void begin(int size);
    bool commit();
};
extern EEPROMClass EEPROM;
