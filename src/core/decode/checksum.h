// Checksums that boards and sensors put behind their bytes. Each is tested with the published check value over the
// nine digits "123456789".
#pragma once

#include <cstdint>
#include <optional>
#include <string>
#include <string_view>
#include <vector>

namespace cognitum {

enum class Checksum {
    none,
    crc8,          ///< polynomial 0x07, start 0 (ITU-T I.432.1 without its last exclusive-or); check 0xF4
    crc8_one_wire, ///< polynomial 0x31 reflected, start 0: one-wire parts; check 0xA1
    crc16_modbus,  ///< polynomial 0x8005 reflected, start 0xFFFF, low byte first; check 0x4B37
    crc16_ccitt,   ///< polynomial 0x1021, start 0xFFFF, high byte first; check 0x29B1
    sum8,          ///< sum of the bytes, its lowest eight bits; check 0xDD
    xor8,          ///< exclusive-or of the bytes; check 0x31
};

/// As in a format's text: "crc8", "crc8-one-wire", "crc16-modbus", "crc16-ccitt", "sum8", "xor8".
const std::string& checksum_name(Checksum sum);
const std::vector<Checksum>& all_checksums();                 ///< without `none`
std::optional<Checksum> find_checksum(std::string_view name); ///< nothing for an unknown name

/// Bytes that it takes behind the data: 0, 1 or 2.
std::size_t checksum_size(Checksum sum);
std::uint16_t checksum(Checksum sum, std::string_view bytes);
/// True when the last bytes of `frame` are the checksum of those before them.
bool checksum_holds(Checksum sum, std::string_view frame);

} // namespace cognitum
