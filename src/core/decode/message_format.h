// How a board's bytes are to be read, as a value with one line of text for bench files, the command line and
// people:
//   auto | table | pairs | json | senml | text | scratchpad | humidity40
//   frames start=0D end=54            marks as bytes in hexadecimal; start may be left out
//   record sync=AA55 little u16:level i16:temperature u8 crc16-modbus
#pragma once

#include "core/base/error.h"
#include "core/decode/checksum.h"

#include <string>
#include <string_view>
#include <vector>

namespace cognitum {

enum class FormatKind {
    automatic,  ///< found from what arrives
    table,      ///< numbers between commas, semicolons, tabs or spaces, with or without a header
    pairs,      ///< key=value or key:value
    json,       ///< objects, one after the other, nested or not
    senml,      ///< RFC 8428 in JSON
    text,       ///< labels, numbers and units in sentences
    frames,     ///< text between a start and an end mark of any bytes
    record,     ///< fixed binary records with a checksum
    scratchpad, ///< nine bytes of a one-wire thermometer, as hexadecimal text
    humidity40, ///< five bytes of a single-bus humidity part, as hexadecimal text
};
/// As in the text form: "pairs".
const std::string& format_kind_name(FormatKind kind);
/// For a person: "key=value".
std::string format_kind_title(FormatKind kind);
const std::vector<FormatKind>& all_format_kinds();

struct RecordField {
    std::string name; ///< may be empty
    int bytes = 2;    ///< 1, 2 or 4; 4 and 8 for `floating`
    bool is_signed = false, floating = false;
    bool operator==(const RecordField&) const = default;
};

struct Format {
    FormatKind kind = FormatKind::automatic;
    std::string start, end; ///< frames: marks; record: `start` is the sync
    bool little = true;     ///< record: low byte first
    std::vector<RecordField> fields;
    Checksum sum = Checksum::none;
    bool operator==(const Format&) const = default;
    /// Bytes of one record: sync, fields and checksum.
    [[nodiscard]] std::size_t record_size() const;
};

/// Error names the word that is not understood and what is.
Result<Format> parse_format(std::string_view text);
std::string format_text(const Format& format);

} // namespace cognitum
