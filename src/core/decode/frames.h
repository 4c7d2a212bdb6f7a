// Streams that are no lines: text between marks, and binary records. Both find their place again after trouble, and
// count the bytes that belonged to nothing.
#pragma once

#include "core/decode/message_format.h"
#include "core/decode/records.h"
#include "core/decode/rejections.h"

#include <string>

namespace cognitum {

class FrameReader {
  public:
    static constexpr std::size_t longest_frame = 4096;
    /// Kinds `frames` and `record`; the format must be whole, as parse_format() makes sure.
    explicit FrameReader(Format format) : m_format(std::move(format)) {}
    void feed(std::string_view bytes, FieldTable& fields, Records& out, Rejections& rejected);
    [[nodiscard]] std::uint64_t frames() const { return m_frames; }

  private:
    void take_marked(FieldTable& fields, Records& out, Rejections& rejected);
    void take_records(FieldTable& fields, Records& out, Rejections& rejected);
    void skip(std::size_t n, std::string_view reason, Rejections& rejected);

    Format m_format;
    std::string m_rest;
    std::uint64_t m_frames = 0;
    std::size_t m_skipped = 0; ///< in a row: told as one
};

/// The fields of one record, sync and checksum included in `bytes`. Fields without a name are "value 1", …
void read_record(const Format& format, std::string_view bytes, FieldTable& fields, Records& out);

} // namespace cognitum
