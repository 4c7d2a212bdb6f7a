#include "core/decode/frames.h"

#include "core/base/phrase.h"
#include "core/decode/lines.h"
#include "core/decode/number_text.h"

#include <algorithm>
#include <bit>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

std::uint64_t unsigned_at(std::string_view bytes, bool little) {
    std::uint64_t out = 0;
    for (std::size_t i = 0; i < bytes.size(); ++i) {
        const std::size_t at = little ? bytes.size() - 1 - i : i;
        out = out << 8U | static_cast<unsigned char>(bytes[at]);
    }
    return out;
}

double field_value(const RecordField& field, std::string_view bytes, bool little) {
    const std::uint64_t bits = unsigned_at(bytes, little);
    if (field.floating)
        return field.bytes == 4 ? static_cast<double>(std::bit_cast<float>(static_cast<std::uint32_t>(bits)))
                                : std::bit_cast<double>(bits);
    const auto value = static_cast<double>(bits);
    const double span = std::ldexp(1.0, 8 * field.bytes);
    return field.is_signed && value >= span / 2 ? value - span : value;
}

} // namespace

void read_record(const Format& format, std::string_view bytes, FieldTable& fields, Records& out) {
    std::size_t at = format.start.size();
    for (std::size_t i = 0; i < format.fields.size(); ++i) {
        const RecordField& field = format.fields[i];
        const auto size = static_cast<std::size_t>(field.bytes);
        const double value = field_value(field, bytes.substr(at, size), format.little);
        const std::string name = field.name.empty() ? phrase("value {}", i + 1) : field.name;
        if (std::isfinite(value))
            fields.take(out, name, value);
        else
            fields.take(out, name, std::string_view("nan"));
        at += size;
    }
}

void FrameReader::skip(std::size_t n, std::string_view reason, Rejections& rejected) {
    if (m_skipped == 0) rejected.add(reason, m_frames + 1, std::string_view(m_rest).substr(0, n));
    m_skipped += n;
    m_rest.erase(0, n);
}

void FrameReader::feed(std::string_view bytes, FieldTable& fields, Records& out, Rejections& rejected) {
    while (!bytes.empty()) { // in pieces, so that memory stays bounded
        const std::string_view piece = bytes.substr(0, longest_frame);
        bytes.remove_prefix(piece.size());
        m_rest += piece;
        if (m_format.kind == FormatKind::frames)
            take_marked(fields, out, rejected);
        else
            take_records(fields, out, rejected);
    }
}

void FrameReader::take_marked(FieldTable& fields, Records& out, Rejections& rejected) {
    std::size_t done = 0; // everything before it is dealt with
    while (true) {
        std::size_t begin = done;
        if (!m_format.start.empty()) {
            begin = m_rest.find(m_format.start, done);
            if (begin == std::string::npos) break;
            begin += m_format.start.size();
        }
        const std::size_t end = m_rest.find(m_format.end, begin);
        if (end == std::string::npos) break;
        // A second start before the end: the first frame was cut.
        if (!m_format.start.empty())
            if (const std::size_t again = m_rest.rfind(m_format.start, end - 1);
                again != std::string::npos && again >= begin) {
                rejected.add(phrase("frame without an end"), ++m_frames,
                             std::string_view(m_rest).substr(begin, again - begin));
                begin = again + m_format.start.size();
            }
        ++m_frames;
        const std::string_view inner = std::string_view(m_rest).substr(begin, end - begin);
        Reason reason = phrase("characters that are no text");
        if (is_plain_text(inner)) {
            reason = read_pairs(inner, m_frames, fields, out);
            if (!reason.empty()) reason = read_text(inner, m_frames, fields, out);
        }
        if (!reason.empty()) rejected.add(reason, m_frames, inner);
        done = end + m_format.end.size();
    }
    m_rest.erase(0, done);
    if (m_rest.size() > longest_frame) {
        rejected.add(phrase("no frame in 4096 bytes"), m_frames + 1, m_rest);
        m_rest.erase(0, m_rest.size() - m_format.start.size());
    }
}

void FrameReader::take_records(FieldTable& fields, Records& out, Rejections& rejected) {
    const std::size_t size = m_format.record_size();
    std::size_t at = 0;
    const auto drop_before = [&](std::size_t n) { m_rest.erase(0, n); };
    while (m_rest.size() - at >= size) {
        const std::string_view frame = std::string_view(m_rest).substr(at, size);
        const bool synced = frame.starts_with(m_format.start);
        if (synced && checksum_holds(m_format.sum, frame)) {
            if (m_skipped > 0) m_skipped = 0;
            out.begin(++m_frames);
            read_record(m_format, frame, fields, out);
            at += size;
            continue;
        }
        drop_before(at);
        at = 0;
        skip(1, synced ? phrase("checksum does not hold") : phrase("bytes outside a record"), rejected);
    }
    drop_before(at);
}

} // namespace cognitum
