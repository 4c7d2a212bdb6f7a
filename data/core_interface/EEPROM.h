#pragma once
class EEPROMClass;
extern EEPROMClass EEPROM;
struct EERef;
class EEPROMClass {
  public:
    uint8_t read(int at);
    void write(int at, uint8_t value);
    void update(int at, uint8_t value);
    uint16_t length();
    EERef operator[](int at);
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
// One place of it, as it is written and read between brackets.
struct EERef {
    int at;
    operator uint8_t() const { return EEPROM.read(at); }
    EERef& operator=(uint8_t value) {
        EEPROM.write(at, value);
        return *this;
    }
};
inline EERef EEPROMClass::operator[](int at) {
    return EERef{at};
}
