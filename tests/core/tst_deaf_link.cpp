// A link is not deaf: after seconds of noise that may look like a format, good lines are read within a second. Each
// kind of noise before each kind of lines.
#include "core/decode/decoder.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <fmt/format.h>
#include <functional>
#include <random>

using namespace cognitum;

namespace {

constexpr std::size_t noise_bytes = 2880; // three seconds at 9600 baud
constexpr int good_lines = 300;
constexpr int within = 10; // lines of a second

struct Named {
    const char* name;
    std::function<std::string()> noise;
};

std::string noise_of(std::string_view piece) {
    std::string out;
    while (out.size() < noise_bytes)
        out += piece;
    return out;
}

std::string made(const std::function<unsigned(std::size_t)>& byte) {
    std::string out;
    for (std::size_t i = 0; i < noise_bytes; ++i)
        out.push_back(static_cast<char>(byte(i)));
    return out;
}

std::vector<Named> noises() {
    return {
        {"clear screen", [] { return noise_of("\x1b[2J\x1b[H"); }},
        {"cursor moved",
         [] {
             std::string out;
             for (int i = 0; out.size() < noise_bytes; ++i)
                 out += fmt::format("\x1b[{};{}H*", i % 24 + 1, (i * 7) % 80 + 1);
             return out;
         }},
        {"colours", [] { return noise_of("\x1b[31mred\x1b[0m \x1b[32mgreen\x1b[0m "); }},
        {"counter", [] { return made([](std::size_t i) { return static_cast<unsigned>(i); }); }},
        {"counter of two bytes",
         [] { return made([](std::size_t i) { return static_cast<unsigned>(i % 2 ? i / 2 : i / 512); }); }},
        {"counter down", [] { return made([](std::size_t i) { return 255U - static_cast<unsigned>(i % 256); }); }},
        {"counter by three", [] { return made([](std::size_t i) { return static_cast<unsigned>(3 * i); }); }},
        {"zeros", [] { return noise_of(std::string(64, '\0')); }},
        {"all ones", [] { return noise_of(std::string(64, '\xff')); }},
        {"two bytes in turn", [] { return noise_of("\x55\xaa"); }},
        {"three bytes in turn", [] { return noise_of("\x11\x22\x33"); }},
        {"noise",
         [] {
             std::mt19937 random(7);
             return made([&](std::size_t) { return static_cast<unsigned>(random() & 0xffU); });
         }},
        {"noise of seven bits",
         [] {
             std::mt19937 random(8);
             return made([&](std::size_t) { return static_cast<unsigned>(random() & 0x7fU); });
         }},
        {"noise of few bytes",
         [] {
             std::mt19937 random(9);
             return made([&](std::size_t) { return 0x80U | static_cast<unsigned>(random() & 0x18U); });
         }},
        {"a sine",
         [] {
             return made([](std::size_t i) {
                 return static_cast<unsigned>(128 + 100 * std::sin(static_cast<double>(i) / 9));
             });
         }},
        {"a spinner", [] { return noise_of("|\b/\b-\b\\\b"); }},
        {"progress",
         [] {
             std::string out;
             for (int i = 0; out.size() < noise_bytes; ++i)
                 out += fmt::format("\r{} %", i % 101);
             return out;
         }},
        {"an open bracket", [] { return "{" + noise_of("boot "); }},
        {"an open list", [] { return "[[[" + noise_of("1,2,3,"); }},
        {"marked numbers", [] { return noise_of("<12><13><15>"); }},
        {"records with a checksum",
         [] { // of another program, which ended
             std::string out;
             for (int i = 0; out.size() < noise_bytes; ++i) {
                 const std::string data = {'\xaa', static_cast<char>(i * 37), static_cast<char>(i * 11 + 5)};
                 out += data + static_cast<char>(data[0] ^ data[1] ^ data[2]);
             }
             return out;
         }},
        {"boot messages",
         [] { return noise_of("ets Jan  8 2013,rst cause:4, boot mode:(3,6)\nwdt reset\nload 0x40\n"); }},
    };
}

struct Lines {
    const char* name;
    std::function<std::string(int)> line;
    const char* header;
};

std::vector<Lines> line_forms() {
    return {
        {"table with header", [](int i) { return fmt::format("{},{:.1f},{}", i, 20 + i % 7 * 0.1, 500 + i % 90); },
         "seq,air,level\n"},
        {"table", [](int i) { return fmt::format("{:.2f},{}", 20 + i % 7 * 0.1, 500 + i % 90); }, ""},
        {"one number", [](int i) { return fmt::format("{}", 500 + i % 90); }, ""},
        {"pairs", [](int i) { return fmt::format("air={:.1f} level={}", 20 + i % 7 * 0.1, 500 + i % 90); }, ""},
        {"JSON", [](int i) { return fmt::format(R"({{"air": {:.1f}, "level": {}}})", 20 + i % 7 * 0.1, i % 90); },
         ""},
        {"text", [](int i) { return fmt::format("The air has {:.1f} degrees, level {} mm", 20 + i % 7 * 0.1, i); },
         ""},
    };
}

} // namespace

class TestDeafLink : public QObject {
    Q_OBJECT

  private slots:
    void linesAreReadWithinASecond_data() {
        QTest::addColumn<int>("noise");
        QTest::addColumn<int>("lines");
        const auto all_noises = noises();
        const auto all_lines = line_forms();
        for (std::size_t n = 0; n < all_noises.size(); ++n)
            for (std::size_t l = 0; l < all_lines.size(); ++l)
                QTest::addRow("%s, then %s", all_noises[n].name, all_lines[l].name)
                    << static_cast<int>(n) << static_cast<int>(l);
    }
    void linesAreReadWithinASecond() {
        QFETCH(int, noise);
        QFETCH(int, lines);
        const Lines good = line_forms()[static_cast<std::size_t>(lines)];
        Decoder decoder;
        Records records;
        const std::string bytes = noises()[static_cast<std::size_t>(noise)].noise();
        for (std::size_t at = 0; at < bytes.size(); at += 96) { // as they come in a tenth of a second
            records.clear();
            decoder.feed(std::string_view(bytes).substr(at, 96), records);
        }
        decoder.feed(std::string("\n") + good.header, records);
        int taken = 0;
        int first = -1;
        for (int i = 0; i < good_lines; ++i) {
            records.clear();
            const FormatKind before = decoder.format().kind;
            decoder.feed(good.line(i) + "\r\n", records);
            taken += static_cast<int>(records.rows.size());
            // A guess that took bytes is given up after four good lines, and these are read again, whole.
            const bool took_bytes = before == FormatKind::frames || before == FormatKind::record;
            if (took_bytes && decoder.format().kind != before) QVERIFY(records.rows.size() >= 4);
            if (first < 0 && !records.rows.empty()) first = i;
        }
        QVERIFY2(taken >= good_lines - within && first >= 0 && first <= within,
                 qPrintable(QStringLiteral("%1 of %2 lines, the first at %3, as %4")
                                .arg(taken)
                                .arg(good_lines)
                                .arg(first)
                                .arg(QString::fromStdString(decoder.format_text()))));
    }
    void whatIsWaitedForIsHeardAmongManyNames() {
        Decoder decoder;
        decoder.want_fields({"level"});
        Records records;
        for (int i = 0; i < 1000; ++i)
            decoder.feed_message(std::to_string(i), "topic" + std::to_string(i), records);
        QCOMPARE(decoder.fields().size(), FieldTable::most_fields);
        records.clear();
        decoder.feed_message("12.5", "level", records);
        decoder.feed_message("12.5", "another", records);
        QCOMPARE(records.value(0, decoder.field("level")), std::optional(12.5));
        QCOMPARE(decoder.field("another"), FieldTable::none);
    }
};

RUN_TESTS_OF(TestDeafLink)
#include "tst_deaf_link.moc"
