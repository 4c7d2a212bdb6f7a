// Every way in which boards write, found by itself and told; garbage; mixtures; bounded memory.
#include "core/decode/decoder.h"
#include "core/decode/failure.h"
#include "core/decode/sender.h"
#include "core/decode/sensor_frames.h"
#include "core/decode/stream.h"
#include "support/heard_bytes.h"
#include "support/noise.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <random>

using namespace cognitum;
using test::Heard;
using test::repeated;

namespace {

std::string hex(std::string_view bytes) {
    std::string out;
    for (const char c : bytes)
        out += QStringLiteral("%1 ").arg(static_cast<unsigned char>(c), 2, 16, QLatin1Char('0')).toStdString();
    return out + "\n";
}

/// Records of sync AA 55, a counter and a signed temperature, low byte first.
std::string binary_records(int n, Checksum sum) {
    std::string out;
    for (int i = 0; i < n; ++i) {
        std::string frame = "\xaa\x55";
        const int temperature = -40 + 7 * i;
        frame += static_cast<char>(i);
        frame += static_cast<char>(i >> 8);
        frame += static_cast<char>(temperature & 0xff);
        frame += static_cast<char>((temperature >> 8) & 0xff);
        const unsigned s = checksum(sum, frame);
        if (checksum_size(sum) == 2 && sum == Checksum::crc16_ccitt) frame += static_cast<char>(s >> 8U);
        frame += static_cast<char>(s & 0xffU);
        if (checksum_size(sum) == 2 && sum == Checksum::crc16_modbus) frame += static_cast<char>(s >> 8U);
        out += frame;
    }
    return out;
}

} // namespace

class TestFormats : public QObject {
    Q_OBJECT

  private slots:
    void checksumsGiveTheirPublishedCheckValues() {
        const std::string digits = "123456789";
        QCOMPARE(int(checksum(Checksum::crc8, digits)), 0xf4);
        QCOMPARE(int(checksum(Checksum::crc8_one_wire, digits)), 0xa1);
        QCOMPARE(int(checksum(Checksum::crc16_modbus, digits)), 0x4b37);
        QCOMPARE(int(checksum(Checksum::crc16_ccitt, digits)), 0x29b1);
        QCOMPARE(int(checksum(Checksum::sum8, digits)), 0xdd);
        QCOMPARE(int(checksum(Checksum::xor8, digits)), 0x31);
        for (const Checksum sum : all_checksums()) { // any single bit that turns is seen
            std::string frame = binary_records(1, sum);
            QVERIFY(checksum_holds(sum, frame));
            for (std::size_t bit = 0; bit < 8 * frame.size(); ++bit) {
                std::string broken = frame;
                broken[bit / 8] = static_cast<char>(broken[bit / 8] ^ (1 << (bit % 8)));
                QVERIFY(!checksum_holds(sum, broken));
            }
        }
    }
    void formatsAreFound_data() {
        QTest::addColumn<QByteArray>("bytes");
        QTest::addColumn<QByteArray>("kind");
        QTest::addColumn<QByteArray>("field");
        QTest::addColumn<double>("second"); // value in the second record
        QTest::newRow("comma, header") << QByteArray("t,h\n21.5,40\n21.75,41\n") << QByteArray("table")
                                       << QByteArray("t") << 21.75;
        QTest::newRow("semicolon") << QByteArray("1;2\n3;4\n") << QByteArray("table") << QByteArray("value 2")
                                   << 4.0;
        QTest::newRow("tab") << QByteArray("a\tb\n1\t2\n3\t4\n") << QByteArray("table") << QByteArray("b") << 4.0;
        QTest::newRow("one number") << QByteArray("512\n513\n") << QByteArray("table") << QByteArray("value")
                                    << 513.0;
        QTest::newRow("carriage returns")
            << QByteArray("1,2\r\n3,4\r\n") << QByteArray("table") << QByteArray("value 1") << 3.0;
        QTest::newRow("key=value") << QByteArray("T=21.5 H=40\nT=22.5 H=41\n") << QByteArray("pairs")
                                   << QByteArray("T") << 22.5;
        QTest::newRow("key:value, unit") << QByteArray("temp:21.5C,hum:40%\ntemp:-3.25C,hum:41%\n")
                                         << QByteArray("pairs") << QByteArray("temp") << -3.25;
        QTest::newRow("blank behind colon")
            << QByteArray("pool: 14.2 C\npool: 14.3 C\n") << QByteArray("pairs") << QByteArray("pool") << 14.3;
        QTest::newRow("JSON lines") << QByteArray("{\"a\":1,\"b\":{\"c\":2.5}}\n{\"a\":2,\"b\":{\"c\":3.5}}\n")
                                    << QByteArray("json") << QByteArray("b.c") << 3.5;
        QTest::newRow("JSON over lines")
            << QByteArray("{\n  \"a\": 1\n}\n{\n  \"a\": 2\n}\n") << QByteArray("json") << QByteArray("a") << 2.0;
        QTest::newRow("JSON list") << QByteArray("[{\"a\":1},{\"a\":2}]\n") << QByteArray("json") << QByteArray("a")
                                   << 2.0;
        QTest::newRow("list of numbers")
            << QByteArray("[1000,138]\n[2000,139]\n") << QByteArray("json") << QByteArray("value 2") << 139.0;
        QTest::newRow("list, and no decimal comma")
            << QByteArray("[1,2]\n[3,4]\n[5,6]\n") << QByteArray("json") << QByteArray("value 1") << 3.0;
        QTest::newRow("a table as an interpreter prints it")
            << QByteArray("{'t': 21.5, 'wet': False, 'h': None}\n{'t': 21.6, 'wet': True, 'h': 40}\n")
            << QByteArray("json") << QByteArray("t") << 21.6;
        QTest::newRow("its names stay as they are")
            << QByteArray("{'Truest': 1}\n{'Truest': 2}\n") << QByteArray("json") << QByteArray("Truest") << 2.0;
        QTest::newRow("lists in a list")
            << QByteArray("[[1,2],[3,4]]\n") << QByteArray("json") << QByteArray("value 2") << 4.0;
        QTest::newRow("SenML")
            << QByteArray(
                   "[{\"bn\":\"pool/"
                   "\",\"bt\":1795617060,\"n\":\"t\",\"u\":\"Cel\",\"v\":14},{\"n\":\"t\",\"t\":5,\"v\":15}]\n")
            << QByteArray("senml") << QByteArray("pool/t") << 15.0;
        QTest::newRow("sentences") << QByteArray(
                                          "Water is 14.5 °C now, level 1.2 m\nWater is 14.6 °C now, level 1.3 m\n")
                                   << QByteArray("text") << QByteArray("Water is") << 14.6;
        QTest::newRow("label of two words") << QByteArray("Outside temp: 21.5 degC\nOutside temp: 21.6 degC\n")
                                            << QByteArray("text") << QByteArray("Outside temp") << 21.6;
        QTest::newRow("an arrow") << QByteArray("temp -> 21.5\ntemp -> 21.6\n") << QByteArray("text")
                                  << QByteArray("temp") << 21.6;
        QTest::newRow("carriage return to letter") << QByteArray("\r1234T\r1235T\r1236T\r1237T\r")
                                                   << QByteArray("frames") << QByteArray("value") << 1235.0;
        QTest::newRow("scratchpad") << QByteArray::fromStdString(hex(write_scratchpad(21.5, 12)) +
                                                                 hex(write_scratchpad(-10.0625, 12)))
                                    << QByteArray("scratchpad") << QByteArray("temperature") << -10.0625;
        QTest::newRow("40-bit frame") << QByteArray::fromStdString(
                                             hex(write_humidity_frame(65.2, 21.4, HumidityGrade::fine)) +
                                             hex(write_humidity_frame(65.3, -5.1, HumidityGrade::fine)))
                                      << QByteArray("humidity40") << QByteArray("temperature") << -5.1;
        for (const Checksum sum : all_checksums())
            QTest::newRow(checksum_name(sum).c_str()) << QByteArray::fromStdString(binary_records(120, sum))
                                                      << QByteArray("record") << QByteArray("value 1") << 1.0;
    }
    void formatsAreFound() {
        QFETCH(QByteArray, bytes);
        QFETCH(QByteArray, kind);
        QFETCH(QByteArray, field);
        QFETCH(double, second);
        for (const std::size_t piece : {std::string::npos, std::size_t(7), std::size_t(1)}) {
            const Heard heard({bytes.constData(), static_cast<std::size_t>(bytes.size())}, "auto", piece);
            QCOMPARE(QByteArray::fromStdString(heard.kind()), kind);
            QVERIFY(!heard.decoder.reason().empty());
            CLOSE(heard.value(1, field.constData()), second, 1e-12);
        }
        // Told by name it is the same.
        const Heard told(
            {bytes.constData(), static_cast<std::size_t>(bytes.size())},
            format_text(Heard({bytes.constData(), static_cast<std::size_t>(bytes.size())}).decoder.format()));
        CLOSE(told.value(1, field.constData()), second, 1e-12);
    }
    void aFormatsTextReadsBack() {
        for (const char* text : {"auto", "table", "frames start=0D end=54", "frames end=3B",
                                 "record sync=AA55 little u16:level i16:temperature u8 crc16-modbus",
                                 "record big f32:x crc8-one-wire"}) {
            VALUE_OF(format, parse_format(text));
            QCOMPARE(format_text(format), std::string(text));
        }
        for (const char* wrong : {"morse", "frames", "frames end=5", "frames end=XY", "record u16", "record crc8",
                                  "record u24 crc8", "table wide", "record sync=AA f16"})
            QVERIFY2(!parse_format(wrong), wrong);
    }
    void fieldsOfARecordAreRead() {
        const Heard heard(binary_records(5, Checksum::crc16_modbus),
                          "record sync=AA55 little u16:n i16:t crc16-modbus");
        QCOMPARE(heard.records.rows.size(), std::size_t(5));
        CLOSE(heard.value(3, "n"), 3, 0);
        CLOSE(heard.value(0, "t"), -40, 0);
        // Noise before, a broken one between: the others stand.
        std::string bytes = "xyz" + binary_records(6, Checksum::crc8);
        bytes[3 + 7 * 2 + 3] = 'x'; // in the third record
        const Heard broken(bytes, "record sync=AA55 little u16:n i16:t crc8");
        QCOMPARE(broken.records.rows.size(), std::size_t(5));
        QCOMPARE(broken.decoder.rejections().total(), std::uint64_t(2)); // before, and the broken one
    }
    void byteOrderAndFloats() {
        Heard big(std::string("\xaa\x01\x02\x41\x48\x00\x00", 7), "record sync=AA big u16:n f32:x");
        CLOSE(big.value(0, "n"), 258, 0);
        CLOSE(big.value(0, "x"), 12.5, 0);
        Heard little(std::string("\xaa\xff\xff\x00\x00\x48\x41", 7), "record sync=AA little i16:n f32:x");
        CLOSE(little.value(0, "n"), -1, 0);
        CLOSE(little.value(0, "x"), 12.5, 0);
        Heard none(std::string("\xaa\x00\x00\xc0\x7f", 5), "record sync=AA little f32:x"); // NaN
        QVERIFY(std::isnan(none.value(0, "x")));
    }
    void sensorFramesGiveTheDataSheetsValues() {
        // Rows of the parts' published tables: sixteenths of a degree, low byte first.
        const auto pad = [](unsigned raw) {
            std::string bytes{static_cast<char>(raw & 0xff),
                              static_cast<char>(raw >> 8),
                              '\x4b',
                              '\x46',
                              '\x7f',
                              '\xff',
                              '\x0c',
                              '\x10'};
            bytes += static_cast<char>(checksum(Checksum::crc8_one_wire, bytes));
            std::array<std::uint8_t, 9> out{};
            std::copy(bytes.begin(), bytes.end(), out.begin());
            return read_scratchpad(out);
        };
        CLOSE(pad(0x07d0).temperature_degC, 125, 0);
        CLOSE(pad(0x0191).temperature_degC, 25.0625, 0);
        CLOSE(pad(0x0008).temperature_degC, 0.5, 0);
        CLOSE(pad(0xfff8).temperature_degC, -0.5, 0);
        CLOSE(pad(0xfe6f).temperature_degC, -25.0625, 0);
        CLOSE(pad(0xfc90).temperature_degC, -55, 0);
        QVERIFY(!pad(0x0550).trouble.empty()); // 85.0: the power-on value
        std::array<std::uint8_t, 9> ones{};
        ones.fill(0xff);
        QVERIFY(!read_scratchpad(ones).trouble.empty());
        QVERIFY(!read_scratchpad(std::array<std::uint8_t, 9>{}).trouble.empty()); // zeros pass the checksum
        // 65.2 % and −10.1 °C in the fine grade; 53.0 % and 24.0 °C in the coarse one.
        const auto fine = read_humidity_frame(std::array<std::uint8_t, 5>{0x02, 0x8c, 0x80, 0x65, 0x73});
        CLOSE(fine.humidity_percent, 65.2, 1e-9);
        CLOSE(fine.temperature_degC, -10.1, 1e-9);
        const auto coarse = read_humidity_frame(std::array<std::uint8_t, 5>{0x35, 0x00, 0x18, 0x00, 0x4d});
        CLOSE(coarse.humidity_percent, 53, 1e-9);
        const auto tenths = read_humidity_frame(std::array<std::uint8_t, 5>{0x35, 0x04, 0x18, 0x85, 0xd6});
        CLOSE(tenths.humidity_percent, 53.4, 1e-9);
        CLOSE(tenths.temperature_degC, -24.5, 1e-9);
        CLOSE(coarse.temperature_degC, 24, 1e-9);
        QVERIFY(!read_humidity_frame(std::array<std::uint8_t, 5>{0x35, 0x00, 0x18, 0x01, 0x4d}).trouble.empty());
        for (double t = -40; t < 80; t += 0.3) {
            const std::string bytes = write_humidity_frame(50, t, HumidityGrade::fine);
            std::array<std::uint8_t, 5> frame{};
            std::copy(bytes.begin(), bytes.end(), frame.begin());
            CLOSE(read_humidity_frame(frame).temperature_degC, t, 0.051);
        }
    }
    void aFailedMeasurementIsNoNumber() {
        const Heard heard("T=21.5 E=nan\nT=ERR E=5\nT= E=6\nT=null E=--\n");
        QVERIFY(std::isnan(heard.value(0, "E")));
        QVERIFY(std::isnan(heard.value(1, "T"))); // a word in a field that held a number
        QVERIFY(std::isnan(heard.value(2, "T")));
        QVERIFY(std::isnan(heard.value(3, "E")));
        const Heard json("{\"t\":21.5,\"name\":\"pool\"}\n{\"t\":null}\n{\"t\":\"22.5 C\"}\n");
        QVERIFY(std::isnan(json.value(1, "t")));
        CLOSE(json.value(2, "t"), 22.5, 0); // a number in quotes is one
        QCOMPARE(json.decoder.field("name") == FieldTable::none || json.value(0, "name") == -12345, true);
    }
    /// "open" is the state of a door, and of a broken thermocouple no 1 °C.
    void wordsOfStates() {
        Decoder decoder;
        decoder.want_fields({"air", "door", "Couple"}, {"air", "Couple"});
        Records out;
        decoder.feed("air=open door=open\nair=21.5 door=closed\nair=OFF door=1\n", out);
        const std::uint32_t air = decoder.field("air"), door = decoder.field("door");
        QCOMPARE(out.rows.size(), std::size_t(3));
        QVERIFY(std::isnan(*out.value(0, air)) && std::isnan(*out.value(2, air)));
        CLOSE(*out.value(1, air), 21.5, 0);
        for (std::size_t row = 0; row < 3; ++row)
            CLOSE(*out.value(row, door), row == 1 ? 0 : 1, 0);
        out.clear();
        decoder.feed("air=21.5 door=7\nair=21.5 door=open\n", out); // one garbled number makes a door no measurand
        CLOSE(*out.value(1, door), 1, 0);
        Decoder json;
        json.want_fields({"air", "door"}, {"air"});
        Records of_json;
        json.feed("{\"air\":true,\"door\":true}\n{\"air\":21.5,\"door\":false}\n", of_json);
        QVERIFY(std::isnan(*of_json.value(0, json.field("air"))));
        CLOSE(*of_json.value(0, json.field("door")), 1, 0);
        Decoder said;
        said.want_fields({"Couple"}, {"Couple"});
        Records sentences;
        said.feed("Couple: 412\nCouple open\nCouple: 413\n", sentences);
        for (std::size_t row = 0; row < sentences.rows.size(); ++row)
            if (const auto v = sentences.value(row, said.field("Couple"))) QVERIFY(*v > 400 || std::isnan(*v));
    }
    void cardsSayWhichNumbersFail() {
        const auto rules = failure_rules(*test::catalog().part("one-wire-probe-waterproof"));
        QCOMPARE(rules.size(), std::size_t(2));
        const double nothing = std::nan("");
        QVERIFY(failed_by(rules, -127, 20, 160));
        QVERIFY(failed_by(rules, 85, nothing, 160)); // first value: power-on
        QVERIFY(failed_by(rules, 85, 20, 160));      // a jump to exactly that
        QVERIFY(!failed_by(rules, 85, 84.9, 160));   // it was warmed up to there
        QVERIFY(!failed_by(rules, 21, nothing, 160));
    }
    void senmlResolvesItsBase() {
        const Heard heard(
            "[{\"bn\":\"urn:pool:\",\"bt\":1795617060.5,\"bu\":\"Cel\",\"bv\":10,\"n\":\"t\",\"v\":4.5},"
            "{\"n\":\"lid\",\"vb\":true},{\"n\":\"h\",\"u\":\"%RH\",\"v\":50,\"t\":-1}]\n");
        CLOSE(heard.value(0, "urn:pool:t"), 14.5, 0);
        CLOSE(heard.value(0, "urn:pool:lid"), 1, 0);
        CLOSE(heard.value(1, "urn:pool:h"), 60, 0);
        QCOMPARE(*heard.records.rows[0].time, TimeUs(1795617060500000));
        QCOMPARE(*heard.records.rows[1].time, TimeUs(1795617059500000));
        QCOMPARE(heard.decoder.fields()[0].unit, std::string("Cel"));
        const Heard relative("[{\"n\":\"t\",\"v\":1,\"t\":-5},{\"n\":\"t\",\"v\":2}]\n");
        QVERIFY(!relative.records.rows[0].time); // relative to the arrival
    }
    void messagesAreTakenWhole() {
        Decoder decoder;
        Records records;
        decoder.feed_message("21.5", "pool", records);
        decoder.feed_message("T=4&H=50", "form", records);
        decoder.feed_message("{\n \"x\": [1, 2]\n}", "json", records);
        decoder.feed_message("hello", "x", records);
        QCOMPARE(records.rows.size(), std::size_t(3));
        CLOSE(*records.value(0, decoder.field("pool")), 21.5, 0);
        CLOSE(*records.value(1, decoder.field("H")), 50, 0);
        CLOSE(*records.value(2, decoder.field("x.1")), 2, 0);
        QCOMPARE(decoder.rejections().total(), std::uint64_t(1));
        // What a board says of itself is no record, with one line or two, and no rejected one.
        decoder.feed_message("# board=shed plan=1a2b3c4d", "records", records);
        decoder.feed_message("# ok interval 500\r\n# fields seq ms ec\n", "records", records);
        QCOMPARE(records.rows.size(), std::size_t(3));
        QCOMPARE(decoder.take_comments(),
                 (std::vector<std::string>{"board=shed plan=1a2b3c4d", "ok interval 500", "fields seq ms ec"}));
        QCOMPARE(decoder.rejections().total(), std::uint64_t(1));
    }
    /// The boards of 32 bits call their pins by numbers, and so do the fields of a program that nobody named.
    void pinsThatAreNumbers() {
        const Heard heard("seq=1 ms=1000 36=1400 5=0\nseq=2 ms=2000 36=1401 5=1\n");
        QCOMPARE(heard.kind(), std::string("pairs"));
        CLOSE(heard.value(1, "36"), 1401, 0);
        CLOSE(heard.value(1, "5"), 1, 0);
    }
    void namesAndValuesStandBetweenALinesOfATable() {
        const Heard heard("# board=x\nseq,ms,A2\n0,1000,138\nms=1016 A0=512\n1,2000,139\nms=2016 A0=513\n");
        QCOMPARE(heard.kind(), std::string("table"));
        QCOMPARE(heard.records.rows.size(), std::size_t(4));
        CLOSE(heard.value(3, "A0"), 513, 0);
        QVERIFY(!heard.records.value(3, heard.decoder.field("A2"))); // not there, which is not the same as failed
        QCOMPARE(heard.decoder.rejections().total(), std::uint64_t(0));
    }
    /// A board that answers a hundred commands has not changed its format.
    void answersAreNoSilence() {
        const Heard heard("# board=x\nseq,ms,A2\n0,1000,138\n" + repeated("# ok tipped by hand\n", 200) +
                          "ms=1016 A0=512\n1,2000,139\n2,3000,140\n");
        QCOMPARE(heard.kind(), std::string("table"));
        QCOMPARE(heard.records.rows.size(), std::size_t(4));
        CLOSE(heard.value(3, "A2"), 140, 0);
    }
    void theFormatIsFoundAnewWhenItChanges() {
        const std::string first = repeated("1,2,3\n", 30);
        const std::string then = repeated("T=21.5 H=40\n", 3) + repeated("{\"a\":1}\n", 10);
        const Heard heard(first + then);
        QCOMPARE(heard.kind(), std::string("json"));
        QCOMPARE(heard.records.rows.size(), std::size_t(30 + 3 + 10 - 4)); // four lines to be sure
        QCOMPARE(heard.decoder.rejections().total(), std::uint64_t(4));
    }
    void halfALineAtTheStartIsForgiven() {
        const Heard heard("38\n4,4000,139\n5,5000,140\n6,6000,141\n7,7000,142\n8,8000,143\n");
        QCOMPARE(heard.decoder.format_text(), std::string("3 numbers, comma"));
        CLOSE(heard.value(heard.records.rows.size() - 1, "value 3"), 143, 0);
    }
    /// What a 32-bit board says at its start is no header, and a header that no line fits was none.
    void whatABoardSaysAtItsStart() {
        std::string rows;
        for (int i = 0; i < 24; ++i)
            rows += fmt::format("{},{:.1f},{}\n", 1000 * i, 21 + 0.1 * i, 40 + i);
        for (const char* start :
             {"ets Jun  8 2016 00:22:57\nrst:0x1 (POWERON_RESET),boot:0x13\n",
              "rst:0x10 (RTCWDT_RTC_RESET),boot:0x13\n", "Welcome, keeper\n", "sensors found; starting\n"}) {
            const Heard heard(start + rows);
            QVERIFY2(!heard.records.rows.empty() && heard.records.rows.back().count == 3, start);
            QVERIFY2(heard.records.rows.size() >= 14, start);
            CLOSE(heard.records.cells.back().value, 63, 0);
        }
    }
    void brokenJsonDoesNotSwallowWhatFollows() {
        const Heard heard("{\"a\":1}\n{\"a\":2,\"b\n{\"a\":3}\ngarbage\n{\"a\":4}\n");
        QCOMPARE(heard.records.rows.size(), std::size_t(3));
        CLOSE(heard.value(2, "a"), 4, 0);
        QCOMPARE(heard.decoder.rejections().total(), std::uint64_t(2));
    }
    void theReasonNamesTheRunnerUp() {
        const Heard heard("T=21.5 H=40\nT=21.6 H=41\n");
        QVERIFY2(heard.decoder.reason().find("next likely") != std::string::npos, heard.decoder.reason().c_str());
        QVERIFY(no_format_reason(repeated("\xf0\x9a\x81\xff", 40)).find("speed") != std::string::npos);
    }
};

RUN_TESTS_OF(TestFormats)
#include "tst_formats.moc"
