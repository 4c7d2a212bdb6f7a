// The drivers of parts in programs: the statements that a data sheet asks for, on the pins of the plan.
#include "core/program/driver.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/written_program.h"

using namespace cognitum;
using test::one_part;
using test::text_of;

class TestDrivers : public QObject {
    Q_OBJECT

  private slots:
    void everyDriver_data() {
        QTest::addColumn<QString>("part");
        QTest::addColumn<QStringList>("legs"); ///< leg, pin, …
        QTest::addColumn<QString>("has");
        const auto row = [](const char* part, const QStringList& legs, const char* has) {
            QTest::newRow(part) << QString(part) << legs << QString(has);
        };
        row("one-wire-probe-waterproof", {"yellow", "7"}, "wire_reset(7)");
        row("humidity-fine-single-wire", {"data", "7"}, "Frame frame_7 = {7, 1100U, 1800UL");
        row("humidity-coarse-single-wire", {"data", "7"}, "Frame frame_7 = {7, 18000U, 900UL");
        row("light-i2c", {"SDA", "A4", "SCL", "A5"}, "i2c_write(0x23, 0x20)");
        row("i2c-thermometer-fine", {"SDA", "A4", "SCL", "A5"}, "i2c_read(0x48, two, 2)");
        row("humidity-i2c", {"SDA", "A4", "SCL", "A5"}, "i2c_write2(0x44, 0x24, 0x00)");
        row("thermocouple-k-spi", {"SO", "12", "CS", "4", "SCK", "13"}, "digitalWrite(4, LOW);");
        row("load-cell-amplifier", {"DT", "6", "SCK", "5"}, "i < 25");
        row("air-pressure-i2c", {"SDA", "A4", "SCL", "A5"}, "read_registers_0x76(0xF7, d, 6)");
        row("air-pressure-humidity-i2c", {"SDA", "A4", "SCL", "A5"}, "read_registers_0x76(0xF7, d, 8)");
        row("co2-infrared-i2c", {"SDA", "A4", "SCL", "A5"}, "i2c_write2(0x62, 0x21, 0xB1)");
        row("infrared-thermometer-i2c", {"SDA", "A4", "SCL", "A5"}, "Wire.endTransmission(false)");
        row("thermocouple-k-i2c", {"SDA", "A4", "SCL", "A5"}, "/ 16.0, 2)");
        row("rtd-100-spi", {"SDO", "12", "SDI", "11", "CS", "4", "CLK", "13"}, "platinum_air(0x80, 0xC3)");
        row("echo-ranger-open", {"echo", "7", "trigger", "8"}, "pulseInLong(7, HIGH, 30000UL)");
        row("motion-infrared", {"OUT", "7"}, "millis() < 60000UL");
        row("reed-contact", {"wire 1", "7"}, "level == LOW ? 1 : 0");
        row("wind-cups", {"wire 1", "3"}, ">= 4786UL"); // a reed, at most 52 a second here
        row("tipping-bucket", {"wire 1", "4"}, "if (digitalRead(4) != level_air)"); // it cannot interrupt
    }

    void everyDriver() {
        QFETCH(QString, part);
        QFETCH(QStringList, legs);
        QFETCH(QString, has);
        std::vector<std::pair<const char*, const char*>> pairs;
        std::vector<std::string> kept;
        for (const QString& leg : legs)
            kept.push_back(leg.toStdString());
        for (std::size_t i = 0; i + 1 < kept.size(); i += 2)
            pairs.emplace_back(kept[i].c_str(), kept[i + 1].c_str());
        const QString text = QString::fromStdString(text_of(one_part(part.toStdString(), pairs)));
        QVERIFY2(text.contains(has), qPrintable(text));
        QVERIFY(!text.contains('$'));
    }

    void namesForCode() {
        QCOMPARE(program::code_name("Zaz-09 AZ.9_b"), std::string("Zaz_09_AZ_9_b"));
        QCOMPARE(program::code_name("@[`{/:"), std::string("______")); // neighbours of letters and digits
        QVERIFY(program::is_plain_word("Zaz-09.AZ_9") && !program::is_plain_word(""));
        for (const char* other : {"a b", "a@", "a[", "a`", "a{", "a/", "a:", "ä"})
            QVERIFY2(!program::is_plain_word(other), other);
    }
    void everyDriverOfACardIsKnown() {
        for (const std::string& driver : part_drivers()) {
            const auto& parts = test::catalog().parts;
            QVERIFY2(std::any_of(parts.begin(), parts.end(), [&](const PartCard& p) { return p.driver == driver; }),
                     driver.c_str());
        }
    }
};

RUN_TESTS_OF(TestDrivers)

#include "tst_drivers.moc"
