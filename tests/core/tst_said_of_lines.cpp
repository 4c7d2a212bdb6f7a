// What is made of what boards send: for each of these streams, written as boards write them, the format that is
// found and why, the fields, each record with its time, what was set aside and the facts of the stream; beside what
// was read by a person and kept in tests/fixtures/said.
#include "core/decode/stream.h"
#include "support/run_tests.h"
#include "support/said.h"
#include "support/sent_streams.h"

#include <functional>

using namespace cognitum;
using test::add_said;
using test::five_digits, test::Sent, test::streams;

namespace {

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
                                 "gauge v1.5 level 3",
                                 "Temperature: 21.50 *C 70.70 *F",
                                 "level 3 * 4",
                                 "t\n21,5 C\n21,6 C",
                                 "[INFO] 12:00:01.123 tank: level=3",
                                 "[main] level 3",
                                 "[1234] level 3",
                                 "[21.5, 48",
                                 "[21.5] , 48",
                                 "t=21.5 h=48",
                                 "t 21.5 h: 48",
                                 "Sensor 1: 21.5 Sensor 2: 22.0",
                                 "cell 1=3.31 cell 2 = -3.32",
                                 "Level 3: rising",
                                 "ratio 3:4",
                                 "3: 4",
                                 "one reading:\t104.2\t| average:\t104.3",
                                 "2026-06-05T09:00:00Z,21.5",
                                 "Temp.21.5 C",
                                 "No.5 level 3",
                                 "level...5",
                                 "level -.5",
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
};

RUN_TESTS_OF(TestSaidOfLines)
#include "tst_said_of_lines.moc"
