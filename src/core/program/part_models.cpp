#include "core/program/part_models.h"

#include <algorithm>
#include <cmath>
#include <memory>

namespace cognitum::program {

namespace {

constexpr double us = 1e-6;
constexpr double conversion_s = 0.22; ///< of the thermocouple converter

/// CRC-8 of the one-wire bus, one bit at a time: x^8 + x^5 + x^4 + 1.
std::uint8_t bus_crc(const std::vector<std::uint8_t>& bytes) {
    unsigned crc = 0;
    for (const std::uint8_t byte : bytes)
        for (int bit = 0; bit < 8; ++bit) {
            const unsigned mix = (crc ^ (static_cast<unsigned>(byte) >> bit)) & 1U;
            crc = crc >> 1 ^ (mix != 0 ? 0x8CU : 0U);
        }
    return static_cast<std::uint8_t>(crc);
}

} // namespace

OneWireThermometer::OneWireThermometer(PinWorld& world, const std::string& pin) : m_world(world), m_pin(pin) {
    world.set_level(pin, true); // its pull-up
    world.on_pin(pin, [this](bool output, bool high) { driven(output && !high); });
}

void OneWireThermometer::pull(double from_s, double for_s) {
    m_world.at(from_s, [this] { m_world.set_level(m_pin, false); });
    m_world.at(from_s + for_s, [this] { m_world.set_level(m_pin, true); });
}

void OneWireThermometer::driven(bool low) {
    const double now = m_world.now_s();
    if (low == m_low) return;
    m_low = low;
    if (low) {
        m_fell_s = now;
        m_world.set_level(m_pin, false);
        return;
    }
    m_world.set_level(m_pin, true);
    if (m_gone) return;
    const double was_low = now - m_fell_s;
    if (was_low > 400 * us) { // reset: it says that it is there
        pull(now + 30 * us, 120 * us);
        m_state = State::command;
        m_bits = 0;
        m_byte = 0;
        return;
    }
    slot(was_low);
}

void OneWireThermometer::slot(double low_s) {
    if (m_state == State::sending) {
        if (low_s > 15 * us) { // no read slot
            m_state = State::idle;
            return;
        }
        const bool one = (m_pad[static_cast<std::size_t>(m_sent / 8)] >> m_sent % 8 & 1) != 0;
        if (!one) {
            m_world.set_level(m_pin, false);
            m_world.at(m_fell_s + 30 * us, [this] { m_world.set_level(m_pin, true); });
        }
        if (++m_sent == 72) m_state = State::idle;
        return;
    }
    if (m_state != State::command) return;
    m_byte = static_cast<std::uint8_t>(m_byte >> 1 | (low_s < 15 * us ? 0x80 : 0));
    if (++m_bits < 8) return;
    m_bits = 0;
    if (m_byte == 0x44) { // measure
        const double began = m_world.now_s();
        m_world.at(began + 0.7,
                   [this] { m_measured = static_cast<std::uint16_t>(static_cast<int>(std::lround(m_degC * 16))); });
        m_state = State::idle;
    } else if (m_byte == 0xBE) { // say it
        m_pad = {static_cast<std::uint8_t>(m_measured & 255),
                 static_cast<std::uint8_t>(m_measured >> 8),
                 0x4B,
                 0x46,
                 0x7F,
                 0xFF,
                 0x0C,
                 0x10};
        m_pad.push_back(bus_crc(m_pad));
        m_sent = 0;
        m_state = State::sending;
    }
    m_byte = 0;
}

ThermocoupleConverter::ThermocoupleConverter(PinWorld& world, const std::string& select, const std::string& clock,
                                             const std::string& data)
    : m_world(world), m_data(data) {
    world.on_pin(select, [this](bool output, bool high) {
        const bool was_selected = m_selected;
        m_selected = output && !high;
        m_at = m_bit = 0;
        m_clock_rose = false;
        const double now = m_world.now_s();
        if (was_selected && !m_selected) m_began_s = now;    // reading it begins a new conversion
        if (m_selected && now - m_began_s >= conversion_s) { // before it is ready it says what it said before
            const int quarters = std::clamp(static_cast<int>(std::floor(m_degC * 4)), 0, 4095);
            m_bits = static_cast<std::uint16_t>(quarters << 3 | (m_open ? 4 : 0));
        }
        show_bit();
    });
    // A program that moves the clock by itself: a bit stands until the clock has risen and fallen again (the data
    // sheet times the output from the falling edge). A clock that rests high falls first, and takes nothing away.
    world.on_pin(clock, [this](bool output, bool high) {
        const bool falls = m_clock_high && !(output && high);
        m_clock_rose = m_clock_rose || (output && high && !m_clock_high);
        m_clock_high = output && high;
        if (!falls || !m_clock_rose || !m_selected) return;
        m_clock_rose = false;
        ++m_bit;
        show_bit();
    });
}

void ThermocoupleConverter::show_bit() {
    if (!m_data.empty() && m_selected) m_world.set_level(m_data, m_bit < 16 && (m_bits >> (15 - m_bit) & 1) != 0);
}

std::uint8_t ThermocoupleConverter::transfer() {
    return static_cast<std::uint8_t>(m_at++ == 0 ? m_bits >> 8 : m_bits & 255);
}

void add_light(PinWorld& world, int address, const double* lux) {
    world.on_i2c({address, {}, [lux](std::size_t index) {
                      const int count = std::clamp(static_cast<int>(*lux * 1.2), 0, 65535);
                      return static_cast<std::uint8_t>(index % 2 == 0 ? count >> 8 : count & 255);
                  }});
}

void add_thermometer(PinWorld& world, int address, const double* degC) {
    world.on_i2c({address, {}, [degC](std::size_t index) {
                      const int count = static_cast<int>(std::floor(*degC * 128)) & 0xFFFF;
                      return static_cast<std::uint8_t>(index % 2 == 0 ? count >> 8 : count & 255);
                  }});
}

SingleWireSensor::SingleWireSensor(PinWorld& world, const std::string& pin, bool fine)
    : m_world(world), m_pin(pin), m_fine(fine) {
    world.set_level(pin, true);
    world.on_pin(pin, [this](bool output, bool high) {
        const bool low = output && !high;
        if (low == m_low) return;
        m_low = low;
        m_world.set_level(m_pin, !low);
        if (low)
            m_fell_s = m_world.now_s();
        else if (m_world.now_s() - m_fell_s >= (m_fine ? 0.8e-3 : 17.9e-3))
            send();
    });
}

void SingleWireSensor::send() {
    const auto tenths = [](double v) { return static_cast<unsigned>(std::lround(std::abs(v) * 10)); };
    const unsigned t = tenths(m_degC) | (m_degC < 0 ? 0x8000U : 0U);
    const unsigned h = tenths(m_percent);
    const auto whole = [](double v) { return static_cast<unsigned>(std::lround(v)) & 255U; };
    std::vector<unsigned> bytes = m_fine ? std::vector<unsigned>{h >> 8, h & 255U, t >> 8, t & 255U}
                                         : std::vector<unsigned>{whole(m_percent), 0, whole(m_degC), 0};
    bytes.push_back((bytes[0] + bytes[1] + bytes[2] + bytes[3]) & 255U);
    double at = m_world.now_s() + 30 * us;
    const auto level = [&](bool high, double for_us) {
        m_world.at(at, [this, high] { m_world.set_level(m_pin, high); });
        at += for_us * us;
    };
    level(false, 80);
    level(true, 80);
    for (const unsigned byte : bytes)
        for (int bit = 7; bit >= 0; --bit) {
            level(false, 50);
            level(true, (byte >> bit & 1U) != 0 ? 70 : 26);
        }
    level(false, 50);
    level(true, 0);
}

LoadCell::LoadCell(PinWorld& world, const std::string& data, const std::string& clock)
    : m_world(world), m_data(data) {
    world.set_level(data, true);
    world.at(0.4, [this] { converted(); }); // it settles
    world.on_pin(clock, [this](bool output, bool high) {
        if (!output || !high || m_sent >= 25) return;
        const bool bit = m_sent < 24 ? (m_bits >> (23 - m_sent) & 1U) != 0 : true; // high: nothing new is there
        m_world.set_level(m_data, bit);
        ++m_sent;
    });
}

/// Ten times a second, whether or not somebody took the one before.
void LoadCell::converted() {
    m_world.at(m_world.now_s() + 0.1, [this] { converted(); });
    if (m_sent > 0 && m_sent < 25) return; // it is being read
    m_bits = static_cast<std::uint32_t>(std::lround(m_count)) & 0xFFFFFFU;
    m_sent = 0;
    m_world.set_level(m_data, false);
}

void add_air(PinWorld& world, int address, const double* percent, const double* degC) {
    world.on_i2c({address, {}, [percent, degC](std::size_t index) {
                      const double share = index < 3 ? (*degC + 45) / 175 : *percent / 100;
                      const auto count = static_cast<unsigned>(std::lround(std::clamp(share, 0.0, 1.0) * 65535));
                      if (index % 3 < 2)
                          return static_cast<std::uint8_t>(index % 3 == 0 ? count >> 8 : count & 255U);
                      unsigned crc = 0xFF; // x^8 + x^5 + x^4 + 1, most significant bit first
                      for (int bit = 15; bit >= 0; --bit) {
                          const unsigned mix = (crc >> 7 ^ count >> bit) & 1U;
                          crc = (crc << 1 ^ (mix != 0 ? 0x31U : 0U)) & 255U;
                      }
                      return static_cast<std::uint8_t>(crc);
                  }});
}

void add_converter(PinWorld& world, int address, bool fine, const double* volts) {
    constexpr double full_scale_V = 4.096;
    const auto input = std::make_shared<std::size_t>(0);
    const auto point = std::make_shared<int>(0);
    const auto written = [input, point](const std::vector<std::uint8_t>& bytes) {
        *point = bytes[0];
        if (bytes[0] == 1 && bytes.size() == 3) *input = bytes[1] >> 4 & 3U;
    };
    world.on_i2c({address, written, [input, point, fine, volts](std::size_t index) {
                      const double codes = fine ? 32768 : 2048;
                      const double code =
                          std::clamp(std::floor(volts[*input] / full_scale_V * codes), 0.0, codes - 1);
                      const auto word = *point == 0 ? static_cast<unsigned>(code) << (fine ? 0 : 4) : 0x8583U;
                      return static_cast<std::uint8_t>(index % 2 == 0 ? word >> 8 : word & 255U);
                  }});
}

EchoRanger::EchoRanger(PinWorld& world, const std::string& trigger, const std::string& echo) {
    world.set_level(echo, false);
    world.on_pin(trigger, [this, &world, echo](bool output, bool high) {
        if (output && high) m_armed = true;
        if (!m_armed || high || !output) return;
        m_armed = false;
        if (m_us <= 0) return; // nothing comes back
        const double begins = world.now_s() + 450 * us;
        world.at(begins, [&world, echo] { world.set_level(echo, true); });
        world.at(begins + m_us * us, [&world, echo] { world.set_level(echo, false); });
    });
}

void add_pulses(PinWorld& world, const std::string& pin, double from_s, int count, double per_s, double bounce_s,
                bool closes_low, bool opening_rings) {
    const double period = 1 / per_s;
    const auto ring = [&](double begin, bool closes) {
        constexpr int swings = 4; // level after the last one stays
        for (int i = 0; i <= 2 * swings; ++i) {
            const bool closed = (i % 2 == 0) == closes;
            world.at(begin + bounce_s * i / (2 * swings),
                     [&world, pin, closed, closes_low] { world.set_level(pin, closed != closes_low); });
        }
    };
    for (int i = 0; i < count; ++i) {
        ring(from_s + i * period, true);
        const double opens = from_s + (i + 0.4) * period;
        if (opening_rings)
            ring(opens, false);
        else
            world.at(opens, [&world, pin, closes_low] { world.set_level(pin, closes_low); });
    }
}

} // namespace cognitum::program
