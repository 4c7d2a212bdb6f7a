#include "core/decode/message_format.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <fmt/format.h>
#include <optional>

namespace cognitum {

namespace {

struct NamedFormat {
    FormatKind kind;
    std::string name;
    Phrase title;
};
const std::vector<NamedFormat>& format_names() {
    static const std::vector<NamedFormat> all = {
        {FormatKind::automatic, "auto", for_people("found from what arrives")},
        {FormatKind::table, "table", for_people("table of numbers")},
        {FormatKind::pairs, "pairs", for_people("names and values")},
        {FormatKind::json, "json", for_people("JSON objects")},
        {FormatKind::senml, "senml", for_people("SenML in JSON")},
        {FormatKind::text, "text", for_people("sentences with numbers")},
        {FormatKind::frames, "frames", for_people("text between marks")},
        {FormatKind::record, "record", for_people("binary records")},
        {FormatKind::scratchpad, "scratchpad", for_people("one-wire scratchpad")},
        {FormatKind::humidity40, "humidity40", for_people("40-bit humidity frame")},
    };
    return all;
}

/// "0D0A" to bytes, at most eight; nothing when it is no hexadecimal.
std::optional<std::string> from_hex(std::string_view hex) {
    const auto digit = [](char c) {
        if (c >= '0' && c <= '9') return c - '0';
        if (c >= 'a' && c <= 'f') return c - 'a' + 10;
        if (c >= 'A' && c <= 'F') return c - 'A' + 10;
        return -1;
    };
    if (hex.empty() || hex.size() % 2 != 0 || hex.size() > 16) return {};
    std::string out;
    for (std::size_t i = 0; i < hex.size(); i += 2) {
        if (digit(hex[i]) < 0 || digit(hex[i + 1]) < 0) return {};
        out += static_cast<char>(digit(hex[i]) * 16 + digit(hex[i + 1]));
    }
    return out;
}

std::string to_hex(std::string_view bytes) {
    std::string out;
    for (const char c : bytes)
        out += fmt::format("{:02X}", static_cast<unsigned char>(c));
    return out;
}

std::optional<RecordField> read_record_field(std::string_view word) {
    const std::size_t colon = word.find(':');
    const std::string_view type = word.substr(0, colon);
    RecordField out;
    if (colon != std::string_view::npos) out.name = word.substr(colon + 1, 40);
    if (type.size() < 2) return {};
    const std::string_view bits = type.substr(1);
    out.bytes = bits == "8" ? 1 : bits == "16" ? 2 : bits == "32" ? 4 : bits == "64" ? 8 : 0;
    out.is_signed = type[0] == 'i';
    out.floating = type[0] == 'f';
    const bool known =
        out.floating ? out.bytes == 4 || out.bytes == 8
                     : (type[0] == 'u' || out.is_signed) && (out.bytes == 1 || out.bytes == 2 || out.bytes == 4);
    if (!known) return {};
    return out;
}

tl::unexpected<Error> wrong(std::string_view word, std::string fix) {
    return failure(phrase("“{}” is not understood in a format.", word), {}, std::move(fix));
}

Result<void> read_word(std::string_view word, Format& f) {
    const std::string_view value = word.find('=') == std::string_view::npos ? "" : word.substr(word.find('=') + 1);
    const bool frames = f.kind == FormatKind::frames;
    const auto marks = from_hex(value);
    if (frames && marks && (word.starts_with("start=") || word.starts_with("end="))) {
        (word.starts_with("start=") ? f.start : f.end) = *marks;
        return {};
    }
    if (frames) return wrong(word, phrase("Write start=0D end=54: the bytes of the marks in hexadecimal."));
    if (f.kind != FormatKind::record) return wrong(word, phrase("This format takes no further words."));
    if (word.starts_with("sync=") && marks) {
        f.start = *marks;
        return {};
    }
    if (word == "little" || word == "big") {
        f.little = word == "little";
        return {};
    }
    if (const auto sum = find_checksum(word)) {
        f.sum = *sum;
        return {};
    }
    const auto field = read_record_field(word);
    if (!field)
        return wrong(
            word, phrase("Known are sync=HEX, little, big, u8 u16 u32 i8 i16 i32 f32 f64 (each with :NAME), crc8, "
                         "crc8-one-wire, crc16-modbus, crc16-ccitt, sum8 and xor8."));
    f.fields.push_back(*field);
    return {};
}

} // namespace

const std::string& format_kind_name(FormatKind kind) {
    return format_names()[static_cast<std::size_t>(kind)].name;
}

std::string format_kind_title(FormatKind kind) {
    return format_names()[static_cast<std::size_t>(kind)].title;
}

const std::vector<FormatKind>& all_format_kinds() {
    static const std::vector<FormatKind> all = [] {
        std::vector<FormatKind> out;
        for (const NamedFormat& n : format_names())
            out.push_back(n.kind);
        return out;
    }();
    return all;
}

std::size_t Format::record_size() const {
    std::size_t size = start.size() + checksum_size(sum);
    for (const RecordField& f : fields)
        size += static_cast<std::size_t>(f.bytes);
    return size;
}

Result<Format> parse_format(std::string_view text) {
    Format out;
    bool first = true;
    while (!text.empty()) {
        const std::size_t end = std::min(text.find(' '), text.size());
        const std::string_view word = text.substr(0, end);
        text.remove_prefix(std::min(end + 1, text.size()));
        if (word.empty()) continue;
        if (!first) {
            if (auto done = read_word(word, out); !done) return tl::make_unexpected(done.error());
            continue;
        }
        first = false;
        const auto known = std::find_if(format_names().begin(), format_names().end(),
                                        [&](const NamedFormat& n) { return n.name == word; });
        if (known == format_names().end())
            return wrong(word,
                         phrase("Known are auto, table, pairs, json, senml, text, frames, record, scratchpad and "
                                "humidity40."));
        out.kind = known->kind;
    }
    if (out.kind == FormatKind::frames && out.end.empty())
        return failure(phrase("frames need an end mark."), {},
                       phrase("Write frames start=0D end=54, or only end=3B."));
    if (out.kind == FormatKind::record && (out.fields.empty() || out.record_size() > 256))
        return failure(phrase("a record needs fields, and is at most 256 bytes long."), {},
                       phrase("Write record little u16:level i16:temperature crc8."));
    if (out.kind == FormatKind::record && out.start.empty() && out.sum == Checksum::none)
        return failure(phrase("a record needs a sync or a checksum, or nobody knows where it starts."), {},
                       phrase("Add sync=AA55 or crc8."));
    return out;
}

std::string format_text(const Format& format) {
    std::string out = format_kind_name(format.kind);
    if (format.kind == FormatKind::frames) {
        if (!format.start.empty()) out += " start=" + to_hex(format.start);
        out += " end=" + to_hex(format.end);
    }
    if (format.kind == FormatKind::record) {
        if (!format.start.empty()) out += " sync=" + to_hex(format.start);
        out += format.little ? " little" : " big";
        for (const RecordField& f : format.fields)
            out += fmt::format(" {}{}{}",
                               f.floating    ? 'f'
                               : f.is_signed ? 'i'
                                             : 'u',
                               8 * f.bytes, f.name.empty() ? "" : ":" + f.name);
        if (format.sum != Checksum::none) out += " " + checksum_name(format.sum);
    }
    return out;
}

} // namespace cognitum
