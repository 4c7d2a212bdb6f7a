// Models of parts that measure air, and of thermometers with arithmetic of their own. They give raw numbers by the
// whole number formulas of the data sheets, where the programs compute with floating point: neither is made from
// the other.
#include "core/program/part_models.h"

#include <algorithm>
#include <cmath>
#include <memory>

namespace cognitum::program {

namespace {

/// The example of the data sheet.
constexpr std::int64_t t1 = 27504, t2 = 26435, t3 = -1000, p1 = 36477, p2 = -10685, p3 = 3024, p4 = 2855, p5 = 140,
                       p6 = -7, p7 = 15500, p8 = -14600, p9 = 6000;
/// Usual ones of humidity.
constexpr std::int64_t h1 = 75, h2 = 362, h3 = 0, h4 = 314, h5 = 50, h6 = 30;

std::int64_t fine_of(std::int64_t adc) {
    const std::int64_t a = (((adc >> 3) - (t1 << 1)) * t2) >> 11;
    const std::int64_t d = (adc >> 4) - t1;
    return a + ((((d * d) >> 12) * t3) >> 14);
}

std::uint32_t with_crc(std::uint16_t word) {
    unsigned crc = 0xFF; // x^8 + x^5 + x^4 + 1, most significant bit first
    for (int bit = 15; bit >= 0; --bit) {
        const unsigned mix = (crc >> 7 ^ static_cast<unsigned>(word) >> bit) & 1U;
        crc = (crc << 1 ^ (mix != 0 ? 0x31U : 0U)) & 255U;
    }
    return static_cast<std::uint32_t>(word) << 8 | crc;
}

std::uint8_t byte_of(std::uint32_t three, std::size_t index) {
    return static_cast<std::uint8_t>(three >> (16 - 8 * (index % 3)));
}

/// The raw number for which a growing or falling function gives this value.
template <typename F>
std::int64_t raw_for(F&& f, double value, std::int64_t low, std::int64_t high) {
    const bool grows = f(high) > f(low);
    while (low + 1 < high) {
        const std::int64_t middle = (low + high) / 2;
        ((f(middle) <= value) == grows ? low : high) = middle;
    }
    return low;
}

} // namespace

double air_pressure_hPa(std::int64_t raw, std::int64_t fine) {
    std::int64_t a = fine - 128000;
    std::int64_t b = a * a * p6 + ((a * p5) << 17) + (p4 << 35);
    a = ((a * a * p3) >> 8) + ((a * p2) << 12);
    a = (((std::int64_t(1) << 47) + a) * p1) >> 33;
    if (a == 0) return 0;
    std::int64_t p = 1048576 - raw;
    p = (((p << 31) - b) * 3125) / a;
    a = (p9 * (p >> 13) * (p >> 13)) >> 25;
    b = (p8 * p) >> 19;
    p = ((p + a + b) >> 8) + (p7 << 4);
    return static_cast<double>(p) / 256 / 100;
}

double air_degC(std::int64_t raw) {
    return static_cast<double>((fine_of(raw) * 5 + 128) >> 8) / 100;
}

static double air_percent(std::int64_t raw, std::int64_t fine) {
    const std::int64_t v = fine - 76800;
    std::int64_t x = ((raw << 14) - (h4 << 20) - h5 * v + 16384) >> 15;
    x *= ((((((v * h6) >> 10) * (((v * h3) >> 11) + 32768)) >> 10) + 2097152) * h2 + 8192) >> 14;
    x -= ((((x >> 15) * (x >> 15)) >> 7) * h1) >> 4;
    return static_cast<double>(std::clamp<std::int64_t>(x, 0, 419430400) >> 12) / 1024;
}

void add_air_pressure(PinWorld& world, int address, const double* degC, const double* percent, const double* hPa) {
    auto at = std::make_shared<std::uint8_t>();
    I2cPart part;
    part.address = address;
    part.written = [at](const std::vector<std::uint8_t>& written) {
        if (!written.empty()) *at = written.front();
    };
    part.read = [at, degC, percent, hPa](std::size_t index) -> std::uint8_t {
        const unsigned place = *at + static_cast<unsigned>(index);
        const auto half = [&](std::int64_t word, unsigned from) {
            return static_cast<std::uint8_t>(word >> (8 * (place - from)));
        };
        constexpr unsigned first = 0x88, humidity = 0xE1, measured = 0xF7;
        static constexpr std::int64_t words[] = {t1, t2, t3, p1, p2, p3, p4, p5, p6, p7, p8, p9};
        if (place >= first && place < first + 24)
            return half(words[(place - first) / 2], first + (place - first) / 2 * 2);
        if (place == 0xA1) return static_cast<std::uint8_t>(h1);
        switch (place) {
        case humidity:
        case humidity + 1: return half(h2, humidity);
        case humidity + 2: return static_cast<std::uint8_t>(h3);
        case humidity + 3: return static_cast<std::uint8_t>(h4 >> 4);
        case humidity + 4: return static_cast<std::uint8_t>((h4 & 15) | (h5 & 15) << 4);
        case humidity + 5: return static_cast<std::uint8_t>(h5 >> 4);
        case humidity + 6: return static_cast<std::uint8_t>(h6);
        default: break;
        }
        if (place < measured || place > measured + 7) return 0;
        const std::int64_t warmth = raw_for(air_degC, *degC, 0, (1 << 20) - 1);
        const std::int64_t fine = fine_of(warmth);
        const unsigned byte = place - measured;
        if (byte < 3) {
            const std::int64_t raw =
                raw_for([&](std::int64_t r) { return air_pressure_hPa(r, fine); }, *hPa, 0, (1 << 20) - 1);
            return static_cast<std::uint8_t>(raw << 4 >> (16 - 8 * byte));
        }
        if (byte < 6) return static_cast<std::uint8_t>(warmth << 4 >> (16 - 8 * (byte - 3)));
        const std::int64_t raw = raw_for([&](std::int64_t r) { return air_percent(r, fine); }, *percent, 0, 65535);
        return static_cast<std::uint8_t>(byte == 6 ? raw >> 8 : raw);
    };
    world.on_i2c(std::move(part));
}

void add_carbon_dioxide(PinWorld& world, int address, const double* ppm, const double* degC,
                        const double* percent) {
    struct State {
        unsigned command = 0;
        double began_s = -1, read_s = -1;
        std::uint32_t words[3] = {};
    };
    constexpr double every_s = 5;
    auto state = std::make_shared<State>();
    I2cPart part;
    part.address = address;
    const auto is_new = [&world, state] {
        return state->began_s >= 0 && world.now_s() - std::max(state->began_s, state->read_s) >= every_s;
    };
    part.written = [&world, state, is_new, ppm, degC, percent](const std::vector<std::uint8_t>& written) {
        if (written.size() < 2) return;
        state->command = static_cast<unsigned>(written[0]) << 8 | written[1];
        if (state->command == 0x21B1) state->began_s = world.now_s();
        if (state->command != 0xEC05 || !is_new()) return;
        state->read_s = world.now_s();
        const auto word = [](double v) {
            return with_crc(static_cast<std::uint16_t>(std::lround(std::clamp(v, 0.0, 65535.0))));
        };
        state->words[0] = word(*ppm);
        state->words[1] = word((*degC + 45) / 175 * 65535);
        state->words[2] = word(*percent / 100 * 65535);
    };
    part.read = [state, is_new](std::size_t index) -> std::uint8_t {
        if (state->command == 0xE4B8) return byte_of(with_crc(is_new() ? 0x8006 : 0x8000), index);
        return state->command == 0xEC05 && index < 9 ? byte_of(state->words[index / 3], index) : 0xFF;
    };
    world.on_i2c(std::move(part));
}

void add_infrared(PinWorld& world, int address, const double* degC) {
    auto at = std::make_shared<std::uint8_t>();
    I2cPart part;
    part.address = address;
    part.written = [at](const std::vector<std::uint8_t>& written) {
        if (!written.empty()) *at = written.front();
    };
    part.read = [at, address, degC](std::size_t index) -> std::uint8_t {
        const auto word =
            *at == 0x07 ? static_cast<unsigned>(std::lround((*degC + 273.15) / 0.02)) & 0x7FFFU : 0x8000U;
        const std::uint8_t low = word & 255U, high = static_cast<std::uint8_t>(word >> 8);
        if (index < 2) return index == 0 ? low : high;
        unsigned crc = 0;
        for (const unsigned byte : {static_cast<unsigned>(address) << 1, unsigned(*at),
                                    static_cast<unsigned>(address) << 1 | 1U, unsigned(low), unsigned(high)})
            for (int bit = 7; bit >= 0; --bit) {
                const unsigned mix = (crc >> 7 ^ byte >> bit) & 1U;
                crc = (crc << 1 ^ (mix != 0 ? 0x07U : 0U)) & 255U;
            }
        return static_cast<std::uint8_t>(crc);
    };
    world.on_i2c(std::move(part));
}

void add_couple_on_bus(PinWorld& world, int address, const double* degC) {
    world.on_i2c({address, {}, [degC](std::size_t index) {
                      const auto sixteenths = static_cast<std::uint16_t>(std::lround(*degC * 16));
                      return static_cast<std::uint8_t>(index == 0 ? sixteenths >> 8 : sixteenths);
                  }});
}

PlatinumConverter::PlatinumConverter(PinWorld& world, const std::string& select) {
    world.on_pin(select, [this](bool output, bool high) {
        m_selected = output && !high;
        m_at = -1;
    });
}

std::uint8_t PlatinumConverter::transfer(std::uint8_t byte) {
    constexpr std::uint8_t write = 0x80, configuration = 0, high_byte = 1, low_byte = 2, on = 0xC0;
    if (m_at < 0) { // its first byte is an address
        m_writes = (byte & write) != 0;
        m_at = byte & 0x7F;
        return 0;
    }
    const int at = m_at++;
    if (m_writes) {
        if (at == configuration) m_on = (byte & on) == on;
        return 0;
    }
    if (!m_on) return 0;
    // IEC 60751, by bisection; the converter's reference is 430 ohm.
    const double t = m_degC;
    const double ohm =
        100 * (1 + 3.9083e-3 * t - 5.775e-7 * t * t - (t < 0 ? 4.183e-12 * (t - 100) * t * t * t : 0));
    const auto ratio = static_cast<unsigned>(std::lround(std::clamp(ohm / 430, 0.0, 0.9999) * 32768));
    const unsigned word = ratio << 1 | (m_open ? 1U : 0U);
    return static_cast<std::uint8_t>(at == high_byte ? word >> 8 : at == low_byte ? word : 0);
}

} // namespace cognitum::program
