#include "core/decode/sensor_frames.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/decode/checksum.h"
#include "core/decode/lines.h"
#include "core/decode/number_text.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <optional>

namespace cognitum {

namespace {

std::string_view view(std::span<const std::uint8_t> bytes) {
    return {reinterpret_cast<const char*>(bytes.data()), bytes.size()};
}

/// "50 05 4B" or "50054B" to exactly N bytes.
template <std::size_t N>
std::optional<std::array<std::uint8_t, N>> read_hex(std::string_view line) {
    std::array<std::uint8_t, N> out{};
    std::size_t digits = 0;
    for (const char c : trimmed(line)) {
        if (c == ' ' || c == ':' || c == ',') {
            if (digits % 2 != 0) return {};
            continue;
        }
        const int digit = c >= '0' && c <= '9'   ? c - '0'
                          : c >= 'a' && c <= 'f' ? c - 'a' + 10
                          : c >= 'A' && c <= 'F' ? c - 'A' + 10
                                                 : -1;
        if (digit < 0 || digits >= 2 * N) return {};
        auto& byte = out[digits / 2];
        byte = static_cast<std::uint8_t>(digits % 2 == 0 ? digit << 4 : byte | digit);
        ++digits;
    }
    if (digits != 2 * N) return {};
    return out;
}

char to_char(unsigned value) {
    return static_cast<char>(value & 0xffU);
}

} // namespace

Scratchpad read_scratchpad(std::span<const std::uint8_t, 9> bytes) {
    Scratchpad out;
    out.temperature_degC = no_number;
    const bool all_ones = std::all_of(bytes.begin(), bytes.end(), [](std::uint8_t b) { return b == 0xff; });
    const bool all_zero = std::all_of(bytes.begin(), bytes.end(), [](std::uint8_t b) { return b == 0; });
    if (all_ones || all_zero) { // zeros pass the checksum: a data wire that is held down
        out.trouble = phrase("the probe does not answer");
        return out;
    }
    if (!checksum_holds(Checksum::crc8_one_wire, view(bytes))) {
        out.sum_holds = false;
        out.trouble = phrase("checksum does not hold");
        return out;
    }
    out.bits = 9 + ((bytes[4] >> 5) & 3);
    const auto raw =
        static_cast<std::int16_t>(static_cast<unsigned>(bytes[0]) | static_cast<unsigned>(bytes[1]) << 8U);
    if (raw == 85 * 16) {
        out.trouble = phrase("85.0 °C is the value after power, not a measurement");
        return out;
    }
    const int unused = 12 - out.bits; // bits that mean nothing at a lower resolution
    out.temperature_degC = std::floor(raw / std::ldexp(1.0, unused)) * std::ldexp(1.0, unused) / 16.0;
    return out;
}

std::string write_scratchpad(double temperature_degC, int bits) {
    const int unused = 12 - bits;
    const double steps = std::floor(temperature_degC * 16 / std::ldexp(1.0, unused));
    const auto raw = static_cast<unsigned>(static_cast<int>(steps * std::ldexp(1.0, unused)));
    std::string out;
    for (const unsigned byte :
         {raw, raw >> 8U, 0x4bU, 0x46U, (static_cast<unsigned>(bits - 9) << 5U) | 0x1fU, 0xffU, 0x0cU, 0x10U})
        out += to_char(byte);
    out += to_char(checksum(Checksum::crc8_one_wire, out));
    return out;
}

HumidityFrame read_humidity_frame(std::span<const std::uint8_t, 5> bytes) {
    HumidityFrame out;
    out.humidity_percent = out.temperature_degC = no_number;
    if (std::all_of(bytes.begin(), bytes.end(), [](std::uint8_t b) { return b == 0; })) {
        out.trouble = phrase("the part does not answer"); // zeros pass the sum
        return out;
    }
    if (!checksum_holds(Checksum::sum8, view(bytes))) {
        out.sum_holds = false;
        out.trouble = phrase("checksum does not hold");
        return out;
    }
    out.grade = bytes[0] > 3 ? HumidityGrade::coarse : HumidityGrade::fine;
    if (out.grade == HumidityGrade::coarse) {
        const double t = bytes[2] + (bytes[3] & 0x7f) / 10.0;
        out.humidity_percent = bytes[0] + bytes[1] / 10.0;
        out.temperature_degC = (bytes[3] & 0x80) ? -t : t;
    } else {
        const double t = ((bytes[2] & 0x7f) * 256 + bytes[3]) / 10.0;
        out.humidity_percent = (bytes[0] * 256 + bytes[1]) / 10.0;
        out.temperature_degC = (bytes[2] & 0x80) ? -t : t;
    }
    if (out.humidity_percent > 100) {
        out.trouble = phrase("more than 100 % humidity");
        out.humidity_percent = out.temperature_degC = no_number;
    }
    return out;
}

std::string write_humidity_frame(double humidity_percent, double temperature_degC, HumidityGrade grade) {
    std::string out;
    const auto tenths = [](double x) { return static_cast<unsigned>(std::lround(std::abs(x) * 10)); };
    const unsigned h = tenths(humidity_percent);
    const unsigned t = tenths(temperature_degC);
    const unsigned sign = temperature_degC < 0 ? 0x80U : 0;
    if (grade == HumidityGrade::coarse)
        for (const unsigned byte : {h / 10, h % 10, t / 10, (t % 10) | sign})
            out += to_char(byte);
    else
        for (const unsigned byte : {h >> 8U, h, (t >> 8U) | sign, t})
            out += to_char(byte);
    out += to_char(checksum(Checksum::sum8, out));
    return out;
}

Reason read_scratchpad_line(std::string_view line, std::uint64_t number, FieldTable& fields, Records& out) {
    const auto bytes = read_hex<9>(line);
    if (!bytes) return phrase("no nine bytes in hexadecimal");
    const Scratchpad pad = read_scratchpad(*bytes);
    if (!pad.sum_holds) return pad.trouble;
    out.begin(number);
    if (pad.trouble.empty())
        fields.take(out, "temperature", pad.temperature_degC);
    else
        fields.take(out, "temperature", std::string_view("nan")); // it answered, and measured nothing
    fields.at("temperature", "degC");
    return {};
}

Reason read_humidity_line(std::string_view line, std::uint64_t number, FieldTable& fields, Records& out) {
    const auto bytes = read_hex<5>(line);
    if (!bytes) return phrase("no five bytes in hexadecimal");
    const HumidityFrame frame = read_humidity_frame(*bytes);
    if (!frame.sum_holds) return frame.trouble;
    out.begin(number);
    if (frame.trouble.empty()) {
        fields.take(out, "humidity", frame.humidity_percent);
        fields.take(out, "temperature", frame.temperature_degC);
    } else {
        fields.take(out, "humidity", std::string_view("nan"));
        fields.take(out, "temperature", std::string_view("nan"));
    }
    fields.at("humidity", "%");
    fields.at("temperature", "degC");
    return {};
}

} // namespace cognitum
