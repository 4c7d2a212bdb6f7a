// What is made of what boards send: for each of these streams, written as boards write them, the format that is
// found and why, the fields, each record with its time, what was set aside and the facts of the stream; beside what
// was read by a person and kept in tests/fixtures/said.
#include "core/decode/checksum.h"
#include "core/decode/stream.h"
#include "support/run_tests.h"
#include "support/said.h"

#include <functional>

using namespace cognitum;
using test::add_said;
using test::five_digits;

namespace {

struct Sent {
    const char* what;
    const char* format; ///< as it is told; auto: it is found
    std::string bytes;
};

std::string from_hex(std::string_view hex) {
    std::string out;
    for (std::size_t i = 0; i + 1 < hex.size(); i += 3)
        out += static_cast<char>(std::stoi(std::string(hex.substr(i, 2)), nullptr, 16));
    return out;
}

std::string rows_of(int times, const std::function<std::string(int)>& line) {
    std::string out;
    for (int i = 0; i < times; ++i)
        out += line(i);
    return out;
}

const std::vector<Sent> streams = {
    {"three columns", "auto", "21.5,48,1013.2\n21.6,47,1013.1\n21.6,47,1013.2\n"},
    {"a header line", "auto", "millis,t_degC,rh\n1000,21.5,48\n2000,21.6,47\n3000,nan,47\n"},
    {"semicolons and commas for points", "auto", "t;rh\n21,5;48,2\n21,6;47,9\n21,7;47,8\n"},
    {"tabs", "auto", "21.5\t48\n21.6\t47\n21.7\t46\n"},
    {"blanks", "auto", "  21.5  48\n  21.6  47\n  21.7  46\n"},
    {"one number", "auto", "512\r\n513\r\n515\r\n"},
    {"hexadecimal is no number", "auto", "0x1F\n0x20\n0x21\n"},
    {"names and values", "auto", "t=21.5 rh=48 p=1013.2hPa\nt=21.6 rh=47 p=1013.1hPa\nt=21.6 rh=-- p=1013.2hPa\n"},
    {"names with colons", "auto", "Temp: 21.5 C, Hum: 48 %\nTemp: 21.6 C, Hum: 47 %\nTemp: nan C, Hum: 47 %\n"},
    {"a sentence", "auto", "The tank holds 812 mm now\nThe tank holds 811 mm now\nThe tank holds 811 mm now\n"},
    {"states", "auto", "door=open t=4.1\ndoor=closed t=4.2\ndoor=open t=4.2\n"},
    {"several senders", "auto", "id=FL kPa=221 t=18\nid=FR kPa=219 t=19\nid=FL kPa=222 t=18\n"},
    {"a time in each line", "auto",
     "2026-06-05T09:00:00Z,21.5\n2026-06-05T09:00:10Z,21.6\n2026-06-05T09:00:20Z,21.6\n"},
    {"sequence numbers, one lost and one doubled", "auto",
     "seq=1 t=20\nseq=2 t=21\nseq=4 t=22\nseq=4 t=22\nseq=5 t=23\n"},
    {"a board that begins again", "auto",
     "# gauge 1.2\nms,t\n1000,20\n2000,21\n3000,22\n# gauge 1.2\nms,t\n1000,23\n2000,24\n"},
    {"milliseconds that go back", "auto", "ms=1000 t=1\nms=2000 t=2\nms=1500 t=3\nms=2500 t=4\n"},
    {"JSON", "auto", "{\"t\":21.5,\"rh\":48}\n{\"t\":21.6,\"rh\":null}\n{\"air\":{\"t\":4.5,\"ok\":true}}\n"},
    {"broken JSON", "auto", "{\"t\":21.5}\n{\"t\":21.6\n{\"t\":21.7}\n{\"t\":}\n{\"t\":21.8}\n"},
    {"SenML", "senml",
     "[{\"bn\":\"shed/"
     "\",\"bt\":1780650000,\"n\":\"t\",\"u\":\"Cel\",\"v\":21.5},{\"n\":\"rh\",\"u\":\"%RH\",\"v\":48,\"t\":5}]\n"},
    {"SenML with words, states and sums", "senml",
     "[{\"bn\":\"hut/"
     "\",\"bu\":\"Cel\",\"bv\":20,\"n\":\"t\",\"v\":1.5},{\"n\":\"door\",\"vb\":true},{\"n\":\"lamp\",\"vb\":1},"
     "{\"n\":\"who\",\"vs\":\"FL\"},{\"n\":\"n\",\"vs\":\"21.5\"},{\"n\":\"kWh\",\"s\":3},{\"v\":7,\"t\":-3}]\n"},
    {"SenML with a time of its own", "senml",
     "[{\"n\":\"t\",\"v\":1,\"t\":1780650000},{\"n\":\"t\",\"v\":2,\"t\":1780650010.5}]\n[{\"n\":\"t\",\"v\":3,"
     "\"t\":268435455}]\n"},
    {"sums that hold and one that does not", "auto", "21.5,48*38\n21.6,47*34\n21.7,46*00\n"},
    {"sentences with a sum", "auto", "$WIMTW,18.3,C*07\n$WIMTW,18.4,C*00\n$WIMTW,18.5,C*00\n"},
    {"a line too long", "auto", "1,2\n3,4\n" + std::string(70000, '7') + "\n5,6\n"},
    {"noise before a table", "auto", "\x80\xff\x01\x02garbage\n1.5,2.5\n1.6,2.6\n1.7,2.7\n"},
    {"words for failures", "auto", "t=21.5\nt=fail\nt=85\nt=-127\nt=open\nt=overflow\n"},
    {"words for a failure", "auto",
     "Distance: 81.2 cm, T: 21.5\nDistance: out of range, T: 21.6\nDistance: no echo T: 21.6\nDistance: 81.3 cm, "
     "T: 21.6\n"},
    {"words beside a number", "auto",
     "Sensor: front left T=21.5\nSensor: front left T=21.6\nMode: idle since noon\n"},
    {"large and small numbers", "auto", "1e3,-4.5e-3,+7\n1e4,.5,-0\n1e400,5.,7\n"},
    {"columns that change", "auto", "1,2,3\n4,5,6\n7,8\n9,10,11,12\n13,14,15\n"},
    {"empty fields", "auto", "a,b,c\n1,,3\n,2,\n4,5,6\n"},
    {"the memory of a one-wire thermometer", "scratchpad",
     "50 05 4B 46 7F FF 0C 10 1C\n91 01 4B 46 7F FF 0C 10 70\n5E FF 4B 46 7F FF 02 10 B6\n91 01 4B 46 7F FF 0C 10 "
     "71\nzz\n"},
    {"the memory in small letters", "scratchpad", "91 01 4b 46 7f ff 0c 10 70\n"},
    {"forty bits of a humidity sensor", "humidity40", "02 8C 01 5F EE\n02 8C 80 65 73\n02 8C 01 5F EF\n"},
    {"one word for two numbers", "auto",
     "left 5 mm, left 7 mm, right 3 mm\nleft 6 mm, left 8 mm, right 3 mm\nleft 6 mm, left 9 mm, right 4 mm\n"},
    {"numbers between a letter and a return", "auto", "R0123\rR0124\rR0126\rR9999\rR0127\rR01"},
    {"numbers between marks, with something else", "auto",
     rows_of(12,
             [](int i) { return i == 4 ? std::string("\x02??\x03") : "\x02" + std::to_string(210 + i) + "\x03"; })},
    {"quotes around words with commas and brackets", "auto",
     "{\"where\":\"hut, [north} "
     "\\\"a\\\"\",\"t\":21.5}\n{\"where\":\"hut\",\"t\":21.6}\n{\"where\":\"[[\",\"t\":21.7}\n"},
    {"lists in an object", "auto",
     "{\"t\":[21.5,21.6],\"n\":1}\n{\"t\":[21.7,21.8],\"n\":2}\n{\"t\":[21.9],\"n\":3}\n"},
    {"lists alone", "auto", "[21.5,48]\n[21.6,47]\n[21.7,46]\n"},
    {"units at the numbers", "auto", "21.5C 48% 1013hPa\n21.6C 47% 1013hPa\n21.7C 46% 1012hPa\n"},
    {"a unit at the last number alone", "auto", "21,48%\n22,47%\n22,46%\n"},
    {"arrows", "auto", "hut -> 21.5\nrock -> 19.5\nhut -> 21.6\nrock -> 19.6\n"},
    {"a bar of signs", "auto", "|####      | 40\n|#####     | 50\n|######    | 60\n"},
    {"volts with a fraction of words", "auto", "A0: 512 (2.50 V)\nA0: 513 (2.51 V)\nA0: 515 (2.52 V)\n"},
    {"a clock in front", "auto", "12:00:01 -> 21.5 C\n12:00:02 -> 21.6 C\n12:00:03 -> 21.6 C\n"},
    {"a day and a clock in front", "auto",
     "05/06/2026 12:00:01,21.5\n05/06/2026 12:00:02,21.6\n05/06/2026 12:00:03,21.7\n"},
    {"seconds since 1970 in front", "auto", "1780650000,21.5\n1780650010,21.6\n1780650020,21.7\n"},
    {"separators at both ends", "auto", ",21.5,48,\n,21.6,47,\n,21.7,46,\n"},
    {"a name in each row", "auto", "hut,21.5,ok\nrock,19.5,ok\nhut,21.6,low\nrock,19.6,ok\n"},
    {"lines about one number", "text", "level is 812\nlevel is 811\nno level\nlevel is 810\n"},
    {"frames between two bytes", "frames start=0D end=54", from_hex("0D 01 02 03 54 0D 04 05 06 54 99 0D 07 54")},
    {"records with a sum", "record sync=AA55 little u16:level i16:temperature u8 crc16-modbus",
     from_hex("AA 55 2C 03 D7 FF 01 BC 85 AA 55 2C 03 D7 FF 01 85 8A AA 55")},
    {"records with a plain sum", "record sync=55 u16:a sum8", from_hex("55 01 02 03 55 01 02 58 00 55 FF FE 52")},
    {"a table of many rows", "auto",
     rows_of(300, [](int i) { return std::to_string(i) + "," + std::to_string(2 * i) + "\n"; })},
    {"named in a table", "table", "t,rh\n1,2\n3,4\nx,y\n5,6\n"},
    {"told to be pairs, and a header in it", "pairs", "t,rh\nt=1 rh=2\nt=3 rh=4\n"},
};

constexpr TimeUs began = 1'780'650'000'000'000;

std::string made_of(const Sent& sent, std::size_t piece) {
    std::string out = std::string(sent.what) + "\n";
    const auto format = parse_format(sent.format);
    if (!format) return out + "  no format: " + format.error().text() + "\n";
    Stream stream(*format);
    TimeUs now = began;
    std::size_t shown = 0;
    const auto take = [&](const std::vector<Stream::Row>& rows) {
        for (const Stream::Row& row : rows) {
            const Records::Row& record = stream.records().rows[row.row];
            std::string cells;
            for (std::size_t i = 0; i < record.count; ++i) {
                const Cell& cell = stream.records().cells[record.first + i];
                cells += fmt::format(" {}={}", stream.decoder().fields()[cell.field].name, five_digits(cell.value));
            }
            // Lines cut into pieces come later; only what they hold is the same.
            if (++shown <= 12)
                add_said(out, "record",
                         fmt::format("line {}{}{}", record.line, cells,
                                     record.time ? " at " + iso_time(*record.time) : std::string()));
        }
    };
    for (std::size_t at = 0; at < sent.bytes.size(); at += piece)
        take(stream.feed(std::string_view(sent.bytes).substr(at, piece), now += 1000));
    take(stream.finish(now += 1000));
    const Decoder& decoder = stream.decoder();
    add_said(out, "format", decoder.format_text());
    add_said(out, "because", decoder.reason());
    for (const Field& field : decoder.fields())
        add_said(out, "field",
                 fmt::format("“{}” {} {}{}", field.name, field.unit, field.example,
                             field.numeric ? "" : " never a number"));
    for (const Rejection& r : decoder.rejections().reasons())
        add_said(out, "set aside",
                 fmt::format("{} times: {}; first line {}: {}", r.count, r.reason, r.first_line,
                             r.first_text.substr(0, 40)));
    const StreamFacts facts = stream.facts();
    add_said(out, "facts",
             fmt::format("{} lines, {} rejected, {} bytes, {} odd, {} lost, {} doubled, {} late, {} "
                         "restarts, {} set back, {} records",
                         facts.lines, facts.rejected, facts.bytes, facts.odd_bytes, facts.lost, facts.duplicates,
                         facts.late, facts.restarts, facts.set_back, shown));
    return out;
}

std::string with_each(std::string text, std::string_view what, std::string_view by) {
    for (std::size_t at = 0; (at = text.find(what, at)) != std::string::npos; at += by.size())
        text.replace(at, what.size(), by);
    return text;
}

/// What happens to lines on their way, and how else boards write the same.
struct OnTheWay {
    const char* what;
    std::function<std::string(std::string)> happens;
};
const std::vector<OnTheWay> on_the_way = {
    {"begun in the middle of a line",
     [](const std::string& s) { return s.substr(std::min<std::size_t>(3, s.size())); }},
    {"two lines in one",
     [](std::string s) {
         const std::size_t end = s.find('\n', s.size() / 2 - 2);
         return end == std::string::npos ? s : s.erase(end, 1);
     }},
    {"a bit that fell over",
     [](std::string s) {
         s[s.find('\n') + 2 < s.size() ? s.find('\n') + 2 : 0] ^= 0x40;
         return s;
     }},
    {"a lost byte", [](std::string s) { return s.erase(s.size() * 2 / 3, 1); }},
    {"lines that end as elsewhere", [](const std::string& s) { return with_each(s, "\n", "\r\n"); }},
    {"ends of lines doubled", [](const std::string& s) { return with_each(s, "\n", "\r\r\n"); }},
    {"words in front", [](const std::string& s) { return "Gauge 1.2 ready\nsensor found at 0x76\n" + s; }},
    {"room behind commas", [](const std::string& s) { return with_each(s, ",", ", "); }},
    {"decimal commas", [](const std::string& s) { return with_each(s, ".", ","); }},
    {"below zero", [](const std::string& s) { return with_each(with_each(s, "21", "-2"), "=1", "=-1"); }},
    {"told twice, as by a board that begins again", [](const std::string& s) { return s + s; }},
    {"cut off", [](const std::string& s) { return s.substr(0, s.size() - std::min<std::size_t>(4, s.size())); }},
};

/// Format, fields with the last value of each, what was set aside and the facts, in one line.
std::string shortly(const std::string& bytes, const char* as) {
    const auto format = parse_format(as);
    if (!format) return format.error().text();
    Stream stream(*format);
    std::vector<std::pair<std::string, double>> last;
    std::size_t records = 0;
    const auto take = [&](const std::vector<Stream::Row>& rows) {
        records += rows.size();
        for (const Stream::Row& row : rows) {
            const Records::Row& record = stream.records().rows[row.row];
            for (std::size_t i = 0; i < record.count; ++i) {
                const Cell& cell = stream.records().cells[record.first + i];
                const std::string& name = stream.decoder().fields()[cell.field].name;
                const auto known =
                    std::find_if(last.begin(), last.end(), [&](const auto& l) { return l.first == name; });
                if (known != last.end())
                    known->second = cell.value;
                else
                    last.emplace_back(name, cell.value);
            }
        }
    };
    take(stream.feed(bytes, began));
    take(stream.finish(began + 1000));
    const StreamFacts facts = stream.facts();
    std::string out = stream.decoder().format_text() + ":";
    for (const auto& [name, value] : last)
        out += fmt::format(" {}={}", name, five_digits(value));
    out += fmt::format("; {} lines, {} records", facts.lines, records);
    for (const auto& [n, what] : {std::pair(facts.odd_bytes, "odd bytes"),
                                  {facts.lost, "lost"},
                                  {facts.duplicates, "doubled"},
                                  {facts.late, "late"},
                                  {facts.restarts, "restarts"},
                                  {facts.set_back, "set back"}})
        if (n > 0) out += fmt::format(", {} {}", n, what);
    for (const Rejection& r : stream.decoder().rejections().reasons())
        out += fmt::format("; {} × {}, line {}", r.count, r.reason, r.first_line);
    return out;
}

} // namespace

class TestSaidOfLines : public QObject {
    Q_OBJECT

  private slots:
    void streamsOfBoards() {
        std::string out;
        for (const Sent& sent : streams)
            out += made_of(sent, sent.bytes.size());
        test::compare_said("lines", out);
    }

    void streamsWithAFault() {
        std::string out;
        for (const Sent& sent : streams) {
            if (sent.bytes.size() > 2000) continue;
            out += std::string(sent.what) + "\n";
            const std::string sound = shortly(sent.bytes, sent.format);
            add_said(out, "as it was sent", sound);
            for (const OnTheWay& fault : on_the_way)
                if (const std::string said = shortly(fault.happens(sent.bytes), sent.format); said != sound)
                    add_said(out, fault.what, said);
        }
        test::compare_said("lines_with_a_fault", out);
    }

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
            for (const std::string sync : {"", "\xaa", "\xaa\x55\x07"})
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
                        guess(fmt::format("{} + {} bytes, {} times", sync.size(), data, times), bytes);
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

    /// Days, clocks, units, signs, pins, names and sums within sentences: what is a number of its own, and its
    /// name.
    void sentences() {
        std::string out;
        for (const char* line : {"2026-06-05T12:00 level 3",
                                 "2026-06-05 12:00 level 3",
                                 "2026-06-05 12:00:01.250 level 3",
                                 "2026-06-05T12:00Z level 3",
                                 "2026-06-05x level 3",
                                 "2026-06-05 level 3",
                                 "5.6.2026 12:00 level 3",
                                 "05/06/2026 level 3",
                                 "5/6/26 level 3",
                                 "2026-6-5 level 3",
                                 "2026-06-051 level 3",
                                 "12:00 level 3",
                                 "12:00:01 level 3",
                                 "12:00:01,5 level 3",
                                 "12:0 level 3",
                                 "123:00 level 3",
                                 "12:00:1 level 3",
                                 "12:00x level 3",
                                 "12:00: level 3",
                                 "1-2 level 3",
                                 "1.2.3 level 3",
                                 "level 3 2026-06-05",
                                 "2026-06-05",
                                 "12:00",
                                 "level at 12:00 is 3",
                                 "level: 3mm",
                                 "level: 3 mm",
                                 "level: 3mm.",
                                 "level:3,temp:4",
                                 "level 3 temp 4",
                                 "level=3;temp=4",
                                 "level 3/4",
                                 "level 3 of 4",
                                 "3 mm of water",
                                 "-3 mm",
                                 "- 3 mm",
                                 "+3 mm",
                                 "A0 3",
                                 "A0: 3",
                                 "A0=3",
                                 "pin 4 level 3",
                                 "sensor 2 level 3",
                                 "sensor2 level 3",
                                 "level (3)",
                                 "level [3]",
                                 "level <3>",
                                 "level ~3",
                                 "level ±3",
                                 "level 3±1",
                                 "level 3 +/- 1",
                                 "level 3%",
                                 "level 3 %",
                                 "level 3°C",
                                 "level 3 °C",
                                 "level 3 deg",
                                 "level .5",
                                 "level 5.",
                                 "level 1e3",
                                 "level 1e",
                                 "level 0x1F",
                                 "level nan",
                                 "level --",
                                 "level ---",
                                 "level open",
                                 "level: open",
                                 "level on 3",
                                 "no level",
                                 "level",
                                 "t=1 t=2",
                                 "t 1 t 2",
                                 "#3 level 4",
                                 "// 3",
                                 "3 # level",
                                 "level 3*1f",
                                 "t,3*2D",
                                 "$t,3*50",
                                 "$t,3*5G",
                                 "t,3*2d",
                                 "t,3*",
                                 "*2D",
                                 "t,3*2D*2D",
                                 "level\t3\ttemp\t4",
                                 "  level   3  ",
                                 "LEVEL 3",
                                 "Level 3",
                                 "level3",
                                 "level_3 4",
                                 "level-3 4",
                                 "water level 3",
                                 "the water level is now at 3 mm in the tank",
                                 "Füllstand 3",
                                 "level 3, 4 and 5",
                                 "1 2 3 4 5",
                                 "a 1 b 2 c 3 d 4 e 5 f 6 g 7 h 8",
                                 "level 3 mm, temp 4 C, air 1013.2 hPa",
                                 "3 4 mm",
                                 "1,234 mm",
                                 "1,234.5 mm",
                                 "1.234,5 mm",
                                 "1 234 mm"}) {
            add_said(out, line, shortly(std::string(line) + "\n" + line + "\n", "text"));
            const std::string found = shortly(std::string(line) + "\n" + line + "\n", "auto");
            add_said(out, "found", found);
        }
        test::compare_said("sentences", out);
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

RUN_TESTS_OF(TestSaidOfLines)
#include "tst_said_of_lines.moc"
