// Bytes as a decoder hears them: in one piece, in pieces, in a format that is given or found.
#pragma once

#include "core/decode/decoder.h"

#include <string>
#include <string_view>

namespace cognitum::test {

struct Heard {
    Decoder decoder;
    Records records;
    explicit Heard(std::string_view bytes, std::string_view format = "auto", std::size_t piece = std::string::npos)
        : decoder(*parse_format(format)) {
        for (std::size_t at = 0; at < bytes.size(); at += std::min(piece, bytes.size()))
            decoder.feed(bytes.substr(at, piece), records);
        decoder.finish(false, records);
    }
    [[nodiscard]] double value(std::size_t row, std::string_view name) const {
        const std::uint32_t field = decoder.field(name);
        if (field == FieldTable::none || row >= records.rows.size()) return -12345;
        return records.value(row, field).value_or(-12345);
    }
    [[nodiscard]] std::string kind() const { return format_kind_name(decoder.format().kind); }
};

inline std::string repeated(std::string_view text, int n) {
    std::string out;
    for (int i = 0; i < n; ++i)
        out += text;
    return out;
}

} // namespace cognitum::test
