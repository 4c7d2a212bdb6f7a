// The pins of a board while a program is evaluated, and the models of parts at them, without any program.
#include "core/program/part_models.h"
#include "core/program/read/board_pins.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <cmath>
#include <set>

using namespace cognitum;
using namespace cognitum::program;

namespace {

const BoardCard& card(const char* id = "board-5v-8bit-6-analog") {
    return *test::catalog().board(id);
}

/// The bytes of one reading of a part on I²C.
std::vector<unsigned> bytes(BoardPins& pins, int address, std::size_t n) {
    std::vector<unsigned> out;
    for (std::size_t i = 0; i < n; ++i)
        out.push_back(pins.part(address)->read(i));
    return out;
}

/// Reset and presence of the one-wire bus, and a byte out or in, as its standard times say.
struct OneWire {
    BoardPins& pins;
    std::string pin;
    void low(double us) {
        pins.set_mode(pin, true, false);
        pins.drive(pin, false);
        pins.advance(us);
        pins.set_mode(pin, false, false);
    }
    bool reset() {
        low(480);
        pins.advance(70);
        const bool there = !pins.level(pin);
        pins.advance(410);
        return there;
    }
    void write(unsigned byte) {
        for (int bit = 0; bit < 8; ++bit) {
            const bool one = (byte >> bit & 1) != 0;
            low(one ? 6 : 60);
            pins.advance(one ? 64 : 10);
        }
    }
    unsigned read() {
        unsigned out = 0;
        for (int bit = 0; bit < 8; ++bit) {
            low(6);
            pins.advance(8);
            out |= (pins.level(pin) ? 1U : 0U) << bit;
            pins.advance(55);
        }
        return out;
    }
};

} // namespace

class TestBoardPins : public QObject {
    Q_OBJECT

  private slots:
    /// The example of the data sheet: 25.08 °C and 100 653.27 Pa.
    void airPressureOfTheDataSheet() {
        CLOSE(air_degC(519888), 25.08, 1e-9);
        CLOSE(air_pressure_hPa(415148, 128422), 1006.5327,
              0.0002); // its whole numbers and its real ones differ by 0.016 Pa
        // Its registers, as a program reads them at another temperature, give back what it measures.
        const double degC = 25.08, percent = 40, hPa = 1006.53;
        BoardPins pins(card());
        add_air_pressure(pins, 0x76, &degC, &percent, &hPa);
        const auto bytes = [&](std::uint8_t from, std::size_t n) {
            pins.part(0x76)->written({from});
            std::vector<std::uint8_t> out;
            for (std::size_t i = 0; i < n; ++i)
                out.push_back(pins.part(0x76)->read(i));
            return out;
        };
        QCOMPARE(bytes(0x88, 4), (std::vector<std::uint8_t>{0x70, 0x6B, 0x43, 0x67}));
        const auto measured = bytes(0xF7, 8);
        const std::int64_t raw = std::int64_t(measured[0]) << 12 | measured[1] << 4 | measured[2] >> 4;
        CLOSE(air_pressure_hPa(raw, 128422), hPa, 0.02);
    }
    void whatHappensHappensInOrder() {
        BoardPins pins(card());
        std::vector<int> seen;
        pins.at(0.002, [&] { seen.push_back(2); });
        pins.at(0.001, [&] {
            seen.push_back(1);
            pins.at(0.0015, [&] { seen.push_back(15); }); // one that another brings
        });
        QCOMPARE(*pins.next_event_us(), 1000.0);
        int between = 0;
        pins.advance(1999, [&] { ++between; });
        QVERIFY(seen == std::vector<int>({1, 15}));
        QCOMPARE(between, 2);
        QCOMPARE(pins.now_us(), 1999.0);
        pins.advance(1);
        QVERIFY(seen == std::vector<int>({1, 15, 2}));
        QVERIFY(!pins.next_event_us());
        pins.at(0.0001, [&] { seen.push_back(9); }); // of the past: at once, and the clock does not go back
        pins.advance(0);
        QCOMPARE(seen.back(), 9);
        QCOMPARE(pins.now_us(), 2000.0);
    }

    /// code = floor(V / reference · 2^N), and the rails at both ends.
    void codes() {
        BoardPins pins(card());
        pins.set_volts("A2", 2.5);
        QCOMPARE(pins.code("A2", 5, 10), 512);
        QCOMPARE(pins.code("A2", 5, 12), 2048);
        QCOMPARE(pins.code("A2", 3.3, 10), 775);
        QCOMPARE(pins.code("A2", 1.1, 10), 1023);
        pins.set_volts("A2", -0.2);
        QCOMPARE(pins.code("A2", 5, 10), 0);
        QCOMPARE(pins.code("A3", 5, 10), 512); // with nothing at it
        QVERIFY(!pins.volts("A3"));
    }

    void levels() {
        BoardPins pins(card());
        QVERIFY(!pins.level("7"));
        pins.set_mode("7", false, true);
        QVERIFY(pins.level("7")); // its pull-up
        pins.set_level("7", false);
        QVERIFY(!pins.level("7")); // something outside is stronger
        pins.set_mode("4", true, false);
        pins.drive("4", true);
        QVERIFY(pins.level("4"));
        pins.set_volts("A0", 3);
        QVERIFY(pins.level("A0"));
        pins.set_volts("A0", 2);
        QVERIFY(!pins.level("A0"));
        const auto changes = pins.take_changes();
        QVERIFY(changes.empty() || changes.front().first == "7");
        QVERIFY(pins.take_changes().empty());
        pins.drive("4", false);
        QCOMPARE(pins.selected(), std::string("4"));
    }

    void numbersAndLabels_data() {
        QTest::addColumn<QString>("board");
        QTest::addColumn<int>("number");
        QTest::addColumn<bool>("analog");
        QTest::addColumn<QString>("label");
        const QString eight = "board-5v-8bit-6-analog";
        QTest::newRow("digital") << eight << 7 << false << "7";
        QTest::newRow("analog by its name") << eight << 16 << true << "A2";
        QTest::newRow("analog counted") << eight << 2 << true << "A2";
        QTest::newRow("the same number as a level") << eight << 2 << false << "2";
        QTest::newRow("none") << eight << 25 << false << "";
        QTest::newRow("no analog input") << eight << 9 << true << "";
        QTest::newRow("a board of 32 bits") << QString("board-3v3-12bit-wifi") << 36 << true << "36";
    }
    void numbersAndLabels() {
        QFETCH(QString, board);
        QFETCH(int, number);
        QFETCH(bool, analog);
        QFETCH(QString, label);
        const BoardPins pins(card(qPrintable(board)));
        QCOMPARE(QString::fromStdString(pins.label(number, analog)), label);
    }

    /// Every pin of every board has one number, and leads back to itself.
    void everyPin() {
        for (const BoardCard& board : test::catalog().boards) {
            const BoardPins pins(board);
            std::set<int> numbers;
            for (const Pin& pin : board.pins) {
                const int n = pins.number(pin.label);
                QVERIFY2(n >= 0 && n < 256, (board.id + " " + pin.label).c_str());
                QVERIFY2(numbers.insert(n).second, (board.id + " " + pin.label).c_str());
                QCOMPARE(pins.label(n, false), pin.label);
            }
            QVERIFY(pins.header().find("LED_BUILTIN") != std::string::npos);
        }
    }

    /// A digital thermometer's twelve bits with their checksum: 25.0625 °C is 0x0191 (its data sheet's own
    /// example).
    void aProbeOnOneWire() {
        BoardPins pins(card());
        OneWireThermometer probe(pins, "7");
        probe.set_degC(25.0625);
        OneWire bus{pins, "7"};
        QVERIFY(bus.reset());
        bus.write(0xCC);
        bus.write(0x44);
        pins.advance(750e3);
        QVERIFY(bus.reset());
        bus.write(0xCC);
        bus.write(0xBE);
        QCOMPARE(bus.read(), 0x91U);
        QCOMPARE(bus.read(), 0x01U);
        probe.take_away(true);
        QVERIFY(!bus.reset());
    }

    /// 85 °C is what it holds after power, and no measurement.
    void aProbeThatDidNotMeasure() {
        BoardPins pins(card());
        const OneWireThermometer probe(pins, "7");
        OneWire bus{pins, "7"};
        bus.reset();
        bus.write(0xCC);
        bus.write(0xBE);
        QCOMPARE(bus.read(), 0x50U);
        QCOMPARE(bus.read(), 0x05U);
    }

    void partsOnTheBus() {
        BoardPins pins(card());
        double lux = 1000, degC = -0.5, air = 20, percent = 50;
        std::array<double, 4> volts = {1.024, 2.048, 0, 5};
        add_light(pins, 0x23, &lux);
        add_thermometer(pins, 0x18, &degC);
        add_air(pins, 0x44, &percent, &air);
        add_converter(pins, 0x48, true, volts.data());
        QVERIFY(bytes(pins, 0x23, 2) == std::vector<unsigned>({1200 >> 8, 1200 & 255}));
        QVERIFY(bytes(pins, 0x18, 2) == std::vector<unsigned>({0xFF, 0xC0})); // −64/128
        const auto both = bytes(pins, 0x44, 6);
        QVERIFY(std::abs(-45 + 175 * (both[0] * 256.0 + both[1]) / 65535 - 20) < 0.01);
        QVERIFY(std::abs(100 * (both[3] * 256.0 + both[4]) / 65535 - 50) < 0.01);
        const auto code = [&](unsigned input) {
            pins.part(0x48)->written({1, static_cast<std::uint8_t>(0xC0 | input << 4 | 3), 0x83});
            pins.part(0x48)->written({0});
            const auto word = bytes(pins, 0x48, 2);
            return word[0] * 256 + word[1];
        };
        QCOMPARE(code(0), 8192U);
        QCOMPARE(code(1), 16384U);
        QCOMPARE(code(2), 0U);
        QCOMPARE(code(3), 32767U); // beyond its full scale
        QVERIFY(!pins.part(0x49));
    }

    /// Sixteen bits while it is selected, by the bus or by a clock that the program moves.
    void aThermocouple() {
        BoardPins pins(card());
        ThermocoupleConverter couple(pins, "4", "13", "12");
        couple.set_degC(100.5);
        pins.set_mode("4", true, false);
        pins.set_mode("13", true, false);
        pins.drive("4", true);
        pins.advance(300e3);
        pins.drive("4", false);
        QVERIFY(couple.selected());
        QCOMPARE((static_cast<unsigned>(couple.transfer()) << 8 | couple.transfer()) >> 3, 402U);
        pins.drive("4", true);
        pins.advance(300e3);
        couple.set_open(true);
        pins.drive("4", false);
        unsigned word = 0;
        for (int i = 0; i < 16; ++i) {
            word = word << 1 | (pins.level("12") ? 1U : 0U);
            pins.drive("13", true);
            pins.drive("13", false);
        }
        QCOMPARE(word, 402U << 3 | 4U);
    }

    void anEcho() {
        BoardPins pins(card());
        EchoRanger ranger(pins, "8", "9");
        ranger.set_us(5800);
        pins.set_mode("8", true, false);
        pins.drive("8", true);
        pins.advance(10);
        pins.drive("8", false);
        double rose = 0, fell = 0;
        while (pins.next_event_us()) {
            const double at = *pins.next_event_us();
            pins.advance(at - pins.now_us());
            (pins.level("9") ? rose : fell) = pins.now_us();
        }
        QCOMPARE(std::round(fell - rose), 5800.0);
        ranger.set_us(0); // nothing comes back
        pins.drive("8", true);
        pins.drive("8", false);
        QVERIFY(!pins.next_event_us());
    }

    /// Each closing once, with its ringing; an opening rings only where it is said.
    void aContact_data() {
        QTest::addColumn<bool>("opening");
        QTest::newRow("rings at both") << true;
        QTest::newRow("rings at closing") << false;
    }
    void aContact() {
        QFETCH(bool, opening);
        BoardPins pins(card());
        pins.set_level("2", true);
        add_pulses(pins, "2", 0.1, 3, 2, 0.002, true, opening);
        int falls = 0;
        bool was = true;
        while (pins.next_event_us()) {
            pins.advance(*pins.next_event_us() - pins.now_us());
            const bool now = pins.level("2");
            falls += was && !now ? 1 : 0;
            was = now;
        }
        QVERIFY(was); // open at the end
        QVERIFY2(opening ? falls > 15 : falls == 15, qPrintable(QString::number(falls)));
    }
};

RUN_TESTS_OF(TestBoardPins)
#include "tst_board_pins.moc"
