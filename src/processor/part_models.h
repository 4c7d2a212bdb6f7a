// Parts at the simulated processor's pins, as their data sheets say that they answer.
#pragma once

#include "processor/simulated_avr.h"

namespace cognitum::processor {

/// A digital thermometer alone on a one-wire bus. What it gives is what it measured last, as a real one.
class OneWireThermometer {
  public:
    OneWireThermometer(SimulatedAvr& avr, const PinPlace& pin);
    void set_degC(double degC) { m_degC = degC; }
    void take_away(bool gone) { m_gone = gone; }

  private:
    enum class State { idle, command, sending };
    void driven(bool low);
    void slot(double low_s);
    void pull(double from_s, double for_s);
    SimulatedAvr& m_avr;
    PinPlace m_pin;
    double m_degC = 20, m_fell_s = 0, m_free_at_s = 0;
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
    ThermocoupleConverter(SimulatedAvr& avr, const PinPlace& select);
    void set_degC(double degC) { m_degC = degC; }
    void set_open(bool open) { m_open = open; }
    [[nodiscard]] bool selected() const { return m_selected; }
    std::uint8_t transfer();

  private:
    double m_degC = 20, m_began_s = 0;
    bool m_open = false, m_selected = false;
    std::uint16_t m_bits = 0;
    int m_at = 0;
};

/// A humidity sensor that sends forty bits on one wire when it was held low for `start_s`.
class SingleWireSensor {
  public:
    SingleWireSensor(SimulatedAvr& avr, const PinPlace& pin, bool fine);
    void set_humidity(double percent) { m_percent = percent; }
    void set_degC(double degC) { m_degC = degC; }

  private:
    void send();
    SimulatedAvr& m_avr;
    PinPlace m_pin;
    bool m_fine, m_low = false;
    double m_percent = 50, m_degC = 20, m_fell_s = 0;
};

/// Amplifier of a load cell: 24 bits, most significant first, one for each pulse of its clock; ready ten times a
/// second.
class LoadCell {
  public:
    LoadCell(SimulatedAvr& avr, const PinPlace& data, const PinPlace& clock);
    void set_count(double count) { m_count = count; }

  private:
    void converted();
    SimulatedAvr& m_avr;
    PinPlace m_data;
    double m_count = 0;
    std::uint32_t m_bits = 0;
    int m_sent = 25; ///< bits of the last conversion that were read
};

/// Humidity and temperature on I²C: sixteen bits each, each with its checksum.
void add_air(SimulatedAvr& avr, int address, const double* percent, const double* degC);

/// Converter on I²C with four inputs, 4.096 V full scale; `volts` of each input.
void add_converter(SimulatedAvr& avr, int address, bool fine, const double* volts);

/// Light sensor, one measurement at a time: lx · 1.2 as sixteen bits.
void add_light(SimulatedAvr& avr, int address, const double* lux);
/// Thermometer whose first register is °C · 128.
void add_thermometer(SimulatedAvr& avr, int address, const double* degC);

/// An echo ranger: a pulse at `echo` as long as the way there and back, after each trigger.
class EchoRanger {
  public:
    EchoRanger(SimulatedAvr& avr, const PinPlace& trigger, const PinPlace& echo);
    void set_us(double us) { m_us = us; }

  private:
    double m_us = 0;
    bool m_armed = false;
};

/// `count` closings of a contact that pulls its pin down, from `from_s` on, each closed for 40 % of its time; it
/// rings for `bounce_s` at each closing and each opening.
void add_pulses(SimulatedAvr& avr, const PinPlace& pin, double from_s, int count, double per_s, double bounce_s,
                bool closes_low);

} // namespace cognitum::processor
