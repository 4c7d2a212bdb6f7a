// Units and kinds of quantity: known conversions, there and back, and defaults that make sense.
#include "core/units/format.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"
#include "support/support.h"

#include <cmath>
#include <set>

using namespace cognitum;

class TestUnits : public QObject {
    Q_OBJECT

  private slots:
    void knownConversions_data() {
        QTest::addColumn<double>("value");
        QTest::addColumn<QByteArray>("from");
        QTest::addColumn<QByteArray>("to");
        QTest::addColumn<double>("result");
        const auto row = [](double value, const char* from, const char* to, double result) {
            QTest::addRow("%g %s", value, from) << value << QByteArray(from) << QByteArray(to) << result;
        };
        row(1, "mS/cm", "uS/cm", 1000);
        row(1, "mS/cm", "S/m", 0.1);
        row(2, "m3", "L", 2000);
        row(5, "mL", "L", 0.005);
        row(36, "km/h", "m/s", 10);
        row(72, "/min", "Hz", 1.2);
        row(90, "bpm", "/min", 90);
        row(6, "L/min", "L/h", 360);
        row(1, "bar", "kPa", 100);
        row(1013.25, "mbar", "hPa", 1013.25);
        row(12, "klx", "lux", 12000);
        row(212, "degF", "degC", 100);
        row(0, "degC", "K", 273.15);
        row(50, "%", "1", 0.5);
    }
    void knownConversions() {
        QFETCH(double, value);
        QFETCH(QByteArray, from);
        QFETCH(QByteArray, to);
        QFETCH(double, result);
        VALUE_OF(converted, convert_unit(value, from.toStdString(), to.toStdString()));
        CLOSE(converted, result, 1e-9 * std::max(1.0, std::abs(result)));
    }
    void thereAndBack() {
        for (const Unit& a : all_units())
            for (const Unit& b : all_units()) {
                const auto there = convert_unit(12.5, a.code, b.code);
                QCOMPARE(there.has_value(), a.dimension == b.dimension);
                if (!there) {
                    QVERIFY(!there.error().what.empty());
                    continue;
                }
                const auto back = convert_unit(*there, b.code, a.code);
                QVERIFY2(back && std::abs(*back - 12.5) < 1e-6, (a.code + " " + b.code).c_str());
            }
    }
    void spellingsNameOneUnit() {
        std::set<std::string> seen;
        for (const Unit& unit : all_units()) {
            QVERIFY2(seen.insert(unit.code).second, unit.code.c_str());
            for (const std::string& alias : unit.aliases)
                QVERIFY2(find_unit(alias) == &unit, alias.c_str());
            if (!unit.symbol.empty()) QVERIFY2(find_unit(unit.symbol) == &unit, unit.symbol.c_str());
        }
        QVERIFY(!find_unit("furlong"));
    }
    void kindsHaveSensibleDefaults() {
        std::set<std::string> ids;
        for (const QuantityKind& kind : quantity_kinds()) {
            QVERIFY2(ids.insert(kind.id).second, kind.id.c_str());
            QVERIFY2(!kind.title.empty() && !kind.units.empty(), kind.id.c_str());
            QVERIFY2(kind.low < kind.high && kind.accuracy > 0, kind.id.c_str());
            QVERIFY2(kind.accuracy < kind.high - kind.low, kind.id.c_str());
            for (const std::string& unit : kind.units)
                QVERIFY2(find_unit(unit), unit.c_str());
            QCOMPARE(find_quantity_kind(kind.id), &kind);
        }
        QVERIFY(!find_quantity_kind("mood"));
    }
    void resistancesAreSaidAsTheyArePrinted() {
        QCOMPARE(test::plain(format_ohm(330)), std::string("330 Ω"));
        QCOMPARE(test::plain(format_ohm(1800)), std::string("1.8 kΩ"));
        QCOMPARE(test::plain(format_ohm(10000)), std::string("10 kΩ"));
        QCOMPARE(test::plain(format_ohm(2.2e6)), std::string("2.2 MΩ"));
        QCOMPARE(test::plain(format_ohm(0.5)), std::string("0.5 Ω"));
    }
};

QTEST_APPLESS_MAIN(TestUnits)
#include "tst_units.moc"
