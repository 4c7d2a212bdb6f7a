// Bytes from a board to records, whatever the format: found from what arrives, or told. Finds the format again when
// it changes, reads names=values between the lines of a table, keeps comments apart, and counts what it set aside.
// Memory is bounded whatever arrives.
#pragma once

#include "core/decode/detect.h"
#include "core/decode/frames.h"
#include "core/decode/lines.h"
#include "core/decode/records.h"
#include "core/decode/table_decoder.h"

#include <memory>

namespace cognitum {

class Decoder {
  public:
    static constexpr std::size_t longest_line = TableDecoder::longest_line;
    static constexpr std::size_t longest_message = 65536;
    explicit Decoder(Format format = {});

    /// The stream was joined while it ran: its first line may be half a one, and a record in it is not taken.
    void joined_midway() { m_midway = true; }
    /// Names that somebody waits for: they are taken also when noise, or a broker, has filled the table of names.
    /// `measured`: those of them in which a word for a state ("open") is a failure.
    void want_fields(std::vector<std::string> names, std::vector<std::string> measured = {}) {
        m_fields.want(std::move(names), std::move(measured));
    }

    /// Decodes what is whole in `bytes` (after what was left over) and appends it.
    void feed(std::string_view bytes, Records& out);
    /// A message that is whole by itself, such as a posted body or a payload of a broker. `name` is the field of a
    /// payload that is one bare number.
    void feed_message(std::string_view message, std::string_view name, Records& out);
    /// The end of the stream: what is left over is taken (`take_it`, files) or dropped and counted.
    void finish(bool take_it, Records& out);

    [[nodiscard]] const std::vector<Field>& fields() const { return m_fields.fields(); }
    [[nodiscard]] std::uint32_t field(std::string_view name) const { return m_fields.find(name); }
    [[nodiscard]] const Format& format() const { return m_format; } ///< `automatic`: not known yet
    [[nodiscard]] std::uint64_t lines() const { return m_line; }
    [[nodiscard]] std::uint64_t headers() const { return m_headers; } ///< more than one: the board was reset
    [[nodiscard]] const Rejections& rejections() const { return m_rejections; }
    /// "three numbers, comma, header line", for a person.
    [[nodiscard]] std::string format_text() const;
    /// True when a row is a line of the table, and no names and values between its lines.
    [[nodiscard]] bool is_table_row(const Records& records, std::size_t row) const;
    /// Why this format, and what else it could be; empty when it was told.
    [[nodiscard]] const std::string& reason() const { return m_reason; }
    /// Comment lines ("# …") since the last call, without the mark.
    std::vector<std::string> take_comments();

  private:
    void take_line(std::string_view line, Records& out);
    void take_comment(std::string_view line);
    void take_first_line(std::string_view line, Records& out);
    Reason read_line(std::string_view line, Records& out);
    Reason read_table_line(std::string_view line, Records& out);
    void take_sentence(std::string_view line, Records& out);
    void take_json(Records& out);
    void name_columns();
    void remember(std::string_view line);
    void find_format(std::string_view sample);
    void feed_piece(std::string_view piece, Records& out);
    void feed_text(std::string_view piece, Records& out);
    bool hear_lines(std::string_view piece, std::size_t rows, Records& out);
    void adopt(const Format& format);
    void forget_names_of_noise(Records& out);
    void reject(Reason reason, std::string_view text);
    [[nodiscard]] bool is_json() const;
    [[nodiscard]] bool by_lines() const;

    bool m_told;
    Format m_format;
    std::string m_reason;
    std::string m_rest;
    bool m_skipping = false; ///< inside a line that is too long
    bool m_midway = false;   ///< before the first line of a stream that was joined while it ran
    std::string m_heard;     ///< last bytes that a guess took which reads no lines
    std::size_t m_heard_lines = 0, m_heard_rows = 0; ///< in it, and records made of it
    std::string m_recent;                            ///< lines that fit nothing yet, for finding the format anew
    std::size_t m_bad = 0, m_good_run = 0, m_silent_bytes = 0, m_next_try = 0, m_tries = 0, m_taken = 0;
    struct Asking { ///< lines since the format was last asked, and after how many it is asked again
        std::size_t since = 0, after = 1;
    } m_numbers, m_words;
    std::uint64_t m_line = 0, m_headers = 0;
    std::uint64_t m_sums = 0; ///< lines whose checksum held
    FieldTable m_fields;
    bool m_forget_names = false; ///< those that a wrong guess made up, before the next line is read
    Rejections m_rejections;
    TableDecoder m_table;
    RecordBatch m_batch;
    std::string m_table_reason;
    std::vector<std::string> m_table_names;                   ///< that m_table_fields was made for
    std::vector<std::uint32_t> m_table_fields;                ///< field of each column
    std::size_t m_time_column = static_cast<std::size_t>(-1); ///< the one that holds a time; −1: none
    std::unique_ptr<FrameReader> m_frames;
    std::vector<std::string> m_comments;
};

} // namespace cognitum
