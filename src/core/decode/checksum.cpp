#include "core/decode/checksum.h"

#include <algorithm>

namespace cognitum {

namespace {

struct NamedSum {
    Checksum sum;
    std::string name;
};
const std::vector<NamedSum>& sum_names() {
    static const std::vector<NamedSum> all = {
        {Checksum::none, "none"},
        {Checksum::crc8, "crc8"},
        {Checksum::crc8_one_wire, "crc8-one-wire"},
        {Checksum::crc16_modbus, "crc16-modbus"},
        {Checksum::crc16_ccitt, "crc16-ccitt"},
        {Checksum::sum8, "sum8"},
        {Checksum::xor8, "xor8"},
    };
    return all;
}

unsigned byte(char c) {
    return static_cast<unsigned char>(c);
}

/// Remainder with the lowest bit first.
unsigned reflected(std::string_view bytes, unsigned start, unsigned polynomial) {
    unsigned crc = start;
    for (const char c : bytes) {
        crc ^= byte(c);
        for (int bit = 0; bit < 8; ++bit)
            crc = (crc & 1U) ? (crc >> 1U) ^ polynomial : crc >> 1U;
    }
    return crc;
}

/// Remainder with the highest bit first, `width` bits wide.
unsigned straight(std::string_view bytes, unsigned start, unsigned polynomial, unsigned width) {
    unsigned crc = start;
    const unsigned top = 1U << (width - 1);
    const unsigned mask = (1U << width) - 1;
    for (const char c : bytes) {
        crc ^= byte(c) << (width - 8);
        for (int bit = 0; bit < 8; ++bit)
            crc = ((crc & top) ? (crc << 1U) ^ polynomial : crc << 1U) & mask;
    }
    return crc;
}

} // namespace

const std::string& checksum_name(Checksum sum) {
    return sum_names()[static_cast<std::size_t>(sum)].name;
}

const std::vector<Checksum>& all_checksums() {
    static const std::vector<Checksum> all = {Checksum::crc8,         Checksum::crc8_one_wire,
                                              Checksum::crc16_modbus, Checksum::crc16_ccitt,
                                              Checksum::sum8,         Checksum::xor8};
    return all;
}

std::optional<Checksum> find_checksum(std::string_view name) {
    for (const NamedSum& n : sum_names())
        if (n.name == name) return n.sum;
    return {};
}

std::size_t checksum_size(Checksum sum) {
    switch (sum) {
    case Checksum::none: return 0;
    case Checksum::crc16_modbus:
    case Checksum::crc16_ccitt: return 2;
    default: return 1;
    }
}

std::uint16_t checksum(Checksum sum, std::string_view bytes) {
    unsigned out = 0;
    switch (sum) {
    case Checksum::none: break;
    case Checksum::crc8: out = straight(bytes, 0, 0x07, 8); break;
    case Checksum::crc8_one_wire: out = reflected(bytes, 0, 0x8c); break;
    case Checksum::crc16_modbus: out = reflected(bytes, 0xffff, 0xa001); break;
    case Checksum::crc16_ccitt: out = straight(bytes, 0xffff, 0x1021, 16); break;
    case Checksum::sum8:
        for (const char c : bytes)
            out = (out + byte(c)) & 0xffU;
        break;
    case Checksum::xor8:
        for (const char c : bytes)
            out ^= byte(c);
        break;
    }
    return static_cast<std::uint16_t>(out);
}

bool checksum_holds(Checksum sum, std::string_view frame) {
    const std::size_t size = checksum_size(sum);
    if (frame.size() <= size) return false;
    const std::string_view data = frame.substr(0, frame.size() - size);
    const unsigned wanted = checksum(sum, data);
    if (size == 0) return true;
    if (size == 1) return byte(frame.back()) == wanted;
    const unsigned first = byte(frame[frame.size() - 2]);
    const unsigned second = byte(frame.back());
    return (sum == Checksum::crc16_modbus ? first | second << 8U : first << 8U | second) == wanted;
}

} // namespace cognitum
