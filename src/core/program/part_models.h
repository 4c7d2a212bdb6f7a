// Parts at the pins of a board, as their data sheets say that they answer.
#pragma once

#include "core/program/pin_world.h"

#include <cstdint>
#include <string>
#include <vector>

namespace cognitum::program {

/// A digital thermometer alone on a one-wire bus. What it gives is what it measured last, as a real one.
class OneWireThermometer {
  public:
    OneWireThermometer(PinWorld& world, const std::string& pin);
    void set_degC(double degC) { m_degC = degC; }
    void take_away(bool gone) { m_gone = gone; }

  private:
    enum class State { idle, command, sending };
    void driven(bool low);
    void slot(double low_s);
    void pull(double from_s, double for_s);
    PinWorld& m_world;
    std::string m_pin;
    double m_degC = 20, m_fell_s = 0;
    bool m_low = false, m_gone = false;
    State m_state = State::idle;
    int m_bits = 0;
    std::uint8_t m_byte = 0;
    std::vector<std::uint8_t> m_pad;
    int m_sent = 0;
    std::uint16_t m_measured = 85 * 16; ///< after power
};

/// Thermocouple converter on SPI: sixteen bits while it is selected.
class ThermocoupleConverter {
  public:
    ThermocoupleConverter(PinWorld& world, const std::string& select, const std::string& clock,
                          const std::string& data);
    void set_degC(double degC) { m_degC = degC; }
    void set_open(bool open) { m_open = open; }
    [[nodiscard]] bool selected() const { return m_selected; }
    std::uint8_t transfer();

  private:
    void show_bit();
    PinWorld& m_world;
    std::string m_data;
    double m_degC = 20, m_began_s = 0;
    bool m_open = false, m_selected = false, m_clock_high = false, m_clock_rose = false;
    std::uint16_t m_bits = 0;
    int m_at = 0, m_bit = 0;
};

/// A humidity sensor that sends forty bits on one wire when it was held low for `start_s`.
class SingleWireSensor {
  public:
    SingleWireSensor(PinWorld& world, const std::string& pin, bool fine);
    void set_humidity(double percent) { m_percent = percent; }
    void set_degC(double degC) { m_degC = degC; }

  private:
    void send();
    PinWorld& m_world;
    std::string m_pin;
    bool m_fine, m_low = false;
    double m_percent = 50, m_degC = 20, m_fell_s = 0;
};

/// Amplifier of a load cell: 24 bits, most significant first, one for each pulse of its clock; ready ten times a
/// second.
class LoadCell {
  public:
    LoadCell(PinWorld& world, const std::string& data, const std::string& clock);
    void set_count(double count) { m_count = count; }

  private:
    void converted();
    PinWorld& m_world;
    std::string m_data;
    double m_count = 0;
    std::uint32_t m_bits = 0;
    int m_sent = 25; ///< bits of the last conversion that were read
};

/// Humidity and temperature on I²C: sixteen bits each, each with its checksum.
void add_air(PinWorld& world, int address, const double* percent, const double* degC);

/// Converter on I²C with four inputs, 4.096 V full scale; `volts` of each input.
void add_converter(PinWorld& world, int address, bool fine, const double* volts);

/// Light sensor, one measurement at a time: lx · 1.2 as sixteen bits.
void add_light(PinWorld& world, int address, const double* lux);
/// Thermometer whose first register is °C · 128.
void add_thermometer(PinWorld& world, int address, const double* degC);

/// Air pressure, humidity and temperature on I²C, with constants of its own (those of the data sheet's example).
void add_air_pressure(PinWorld& world, int address, const double* degC, const double* percent, const double* hPa);
/// Its formulas in whole numbers: hPa of a raw pressure at a temperature that has this fine number; °C of a raw
/// one.
double air_pressure_hPa(std::int64_t raw, std::int64_t fine);
double air_degC(std::int64_t raw);
/// Carbon dioxide, temperature and humidity on I²C, every five seconds after it was told to begin.
void add_carbon_dioxide(PinWorld& world, int address, const double* ppm, const double* degC, const double* percent);
/// A thermometer by infrared light on I²C: kelvin in steps of 0.02, with a checksum over the whole exchange.
void add_infrared(PinWorld& world, int address, const double* degC);
/// Thermocouple converter on I²C: sixteenths of a degree.
void add_couple_on_bus(PinWorld& world, int address, const double* degC);

/// Platinum resistor of 100 ohm behind a converter of its own on SPI, against 430 ohm.
class PlatinumConverter {
  public:
    PlatinumConverter(PinWorld& world, const std::string& select);
    void set_degC(double degC) { m_degC = degC; }
    void set_open(bool open) { m_open = open; }
    [[nodiscard]] bool selected() const { return m_selected; }
    std::uint8_t transfer(std::uint8_t byte);

  private:
    double m_degC = 20;
    bool m_open = false, m_selected = false, m_writes = false, m_on = false;
    int m_at = -1; ///< register; −1: the next byte names it
};

/// An echo ranger: a pulse at `echo` as long as the way there and back, after each trigger.
class EchoRanger {
  public:
    EchoRanger(PinWorld& world, const std::string& trigger, const std::string& echo);
    void set_us(double us) { m_us = us; }

  private:
    double m_us = 0;
    bool m_armed = false;
};

/// `count` closings of a contact that pulls its pin down, from `from_s` on, each closed for 40 % of its time; it
/// rings for `bounce_s` at each closing and, where `opening_rings`, each opening.
void add_pulses(PinWorld& world, const std::string& pin, double from_s, int count, double per_s, double bounce_s,
                bool closes_low, bool opening_rings = true);

} // namespace cognitum::program
