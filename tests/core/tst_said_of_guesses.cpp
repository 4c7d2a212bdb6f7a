// Which format is guessed from what boards send, how sure and why, and formats in words; beside what was read by a
// person and kept in tests/fixtures/said.
#include "core/decode/checksum.h"
#include "core/decode/decoder.h"
#include "support/run_tests.h"
#include "support/said.h"
#include "support/sent_streams.h"

using namespace cognitum;
using test::add_said;
using test::five_digits, test::Sent, test::streams;

class TestSaidOfGuesses : public QObject {
    Q_OBJECT

  private slots:
    /// What is guessed from the first bytes: all that could be meant, how sure each is and why, while more comes.
    void guessesWhileItComes() {
        std::string out;
        for (const Sent& sent : streams) {
            out += std::string(sent.what) + "\n";
            std::string before;
            for (const std::size_t bytes : {4UL, 12UL, 20UL, 30UL, 45UL, 64UL, 90UL, 130UL, 250UL, 100000UL}) {
                const std::string start = sent.bytes.substr(0, bytes);
                std::string guessed;
                for (const FormatGuess& g : guess_formats(start))
                    guessed += fmt::format("{} {}: {}; ", format_text(g.format), five_digits(g.score), g.reason);
                if (guessed.empty()) guessed = no_format_reason(start);
                guessed += fmt::format(" text {}", five_digits(text_share(start)));
                if (guessed != before) add_said(out, std::to_string(start.size()).c_str(), guessed);
                before = guessed;
                if (start.size() < bytes) break;
            }
        }
        test::compare_said("guesses", out);
    }

    /// Binary records and numbers between marks are found by what repeats: each checksum behind one to nine bytes,
    /// with and without bytes that stay the same in front, joined midway, few and many.
    void recordsAreGuessed() {
        std::string out;
        const auto guess = [&](const std::string& what, const std::string& bytes) {
            std::string guessed;
            for (const FormatGuess& g : guess_formats(bytes))
                guessed += fmt::format("{} {}: {}; ", format_text(g.format), five_digits(g.score), g.reason);
            add_said(out, what.c_str(), guessed.empty() ? "nothing" : guessed);
        };
        for (const Checksum sum : all_checksums()) {
            out += checksum_name(sum) + "\n";
            for (const std::string& sync :
                 {std::string(), std::string("\xaa"), std::string("\xaa\x55\x07"), std::string(3, '\0')})
                for (const int data : {1, 2, 5})
                    for (const int times : {5, 6, 20}) {
                        std::string bytes;
                        unsigned state = 12345; // numbers that look like measured ones
                        for (int i = 0; i < times; ++i) {
                            std::string record = sync;
                            for (int b = 0; b < data; ++b) {
                                state = state * 1103515245U + 12345U;
                                record += static_cast<char>(state >> 16);
                            }
                            const std::uint16_t is = checksum(sum, record);
                            const char low = static_cast<char>(is & 0xff), high = static_cast<char>(is >> 8);
                            if (checksum_size(sum) == 2)
                                record +=
                                    sum == Checksum::crc16_modbus ? std::string{low, high} : std::string{high, low};
                            else
                                record += low;
                            bytes += record;
                        }
                        if (times == 20) bytes.erase(0, 2); // joined midway
                        guess(fmt::format("{}{} + {} bytes, {} times", sync.size(),
                                          sync.starts_with('\0') ? " of zero" : "", data, times),
                              bytes);
                    }
        }
        for (const std::string start : {"R", "\x02", "<", "\n"})
            for (const std::string end : {"\r", "\x03", ">", "\n"})
                for (const int times : {2, 3, 12}) {
                    std::string bytes = "x";
                    for (int i = 0; i < times; ++i)
                        bytes += i == 7 ? "??" : start + fmt::format("{:.1f}", 21 + 0.1 * i) + end;
                    guess(fmt::format("between {:02X} and {:02X}, {} times", start[0], end[0], times), bytes);
                }
        test::compare_said("guessed_records", out);
    }

    void formatsInWords() {
        std::string out;
        for (const char* text : {"auto",
                                 "table",
                                 "pairs",
                                 "json",
                                 "senml",
                                 "text",
                                 "scratchpad",
                                 "humidity40",
                                 "frames start=0D end=54",
                                 "frames end=0A",
                                 "frames start=0d",
                                 "frames",
                                 "record little u16:level crc8",
                                 "record",
                                 "record sync=AA55 big i32 f4:x u8 crc16-modbus",
                                 "record sync=AG u8",
                                 "record u9",
                                 "record u8 crc9",
                                 "tables",
                                 "",
                                 "frames start=123 end=54",
                                 "record sync= u8",
                                 "record little big u8",
                                 "record i8:a i8:a"}) {
            out += std::string(text) + "\n";
            const auto format = parse_format(text);
            add_said(out, "is", format ? Decoder(*format).format_text() : format.error().text());
        }
        test::compare_said("formats", out);
    }
};

RUN_TESTS_OF(TestSaidOfGuesses)
#include "tst_said_of_guesses.moc"
