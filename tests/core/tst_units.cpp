// Units and kinds of quantity: known conversions, there and back, and defaults that make sense.
#include "core/base/root.h"
#include "core/units/format.h"
#include "core/units/quantity_kind.h"
#include "core/units/typed_number.h"
#include "core/units/unit.h"
#include "core/units/units_beside.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <cmath>
#include <cstdio>
#include <random>
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
    /// SI Brochure, 9th edition, 5.4.1: no second solidus without brackets.
    void slopesHaveOneSolidus() {
        const auto shown = [](const char* above, const char* below) {
            return unit_symbol(quotient_unit(above, below));
        };
        QCOMPARE(shown("V", "degC"), std::string("V/°C"));
        QCOMPARE(shown("V", "mS/cm"), std::string("V/(mS/cm)"));
        QCOMPARE(shown("m/s", "V"), std::string("(m/s)/V"));
        QCOMPARE(shown("m/s", "mS/cm"), std::string("(m/s)/(mS/cm)"));
        QCOMPARE(shown("V", "1"), std::string("V"));
        QCOMPARE(shown("1", "degC"), std::string("1/°C"));
        QCOMPARE(unit_symbol("m/s"), std::string("m/s")); // a unit of its own
        QCOMPARE(unit_symbol("furlongs"), std::string("furlongs"));
        const std::string deep = std::string(100'000, '(') + "V/s" + std::string(100'000, ')');
        QCOMPARE(unit_symbol(deep), deep);
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

    void numbersAsPeopleTypeThem_data() {
        QTest::addColumn<QString>("text");
        QTest::addColumn<double>("number"); // NaN: none
        const double none = std::nan("");
        const auto row = [](const char* text, double number) {
            QTest::newRow(text) << QString::fromUtf8(text) << number;
        };
        row("21", 21);
        row(" 1 234,5 ", 1234.5);
        row("−0.25", -0.25);
        row("-1 000", -1000);
        row("+3", 3);
        row("1e-3", 1e-3);
        row("1,234.5", none); // a comma for thousands is no decimal comma: ask again
        row("1,2,3", none);
        row("", none);
        row("-", none);
        row("nan", none);
        row("inf", none);
        row("1e999", none);
        row("12 V", none);
        row("0x10", none);
    }
    void numbersAsPeopleTypeThem() {
        QFETCH(QString, text);
        QFETCH(double, number);
        const auto typed = typed_number(text.toStdString());
        QCOMPARE(typed.has_value(), !std::isnan(number));
        if (typed) QCOMPARE(*typed, number);
    }
    /// Beside a slow way that is plain: printf, zeros taken off, groups put in.
    void constantsAreWrittenAsBefore() {
        std::mt19937_64 random(5);
        for (int n = 0; n < 20000; ++n) {
            const double magnitude = std::pow(10.0, static_cast<double>(random() % 18) - 6);
            double value = (n % 2 ? 1 : -1) * magnitude * static_cast<double>(random() % 100000) / 99999;
            if (n % 7 == 0) value = std::round(value);
            const double size = std::abs(value);
            if (size >= 1e12 || (size > 0 && size < 1e-6)) continue;
            const int digits = 1 + static_cast<int>(random() % 8);
            int power = 0;
            if (size > 0)
                for (power = -7; std::pow(10.0, power + 1) <= size * (1 + 1e-15);)
                    ++power;
            std::string wanted = QString::number(size, 'f', std::clamp(digits - 1 - power, 0, 12)).toStdString();
            if (wanted.find('.') != std::string::npos) {
                wanted.erase(wanted.find_last_not_of('0') + 1);
                if (wanted.back() == '.') wanted.pop_back();
            }
            const std::size_t point = std::min(wanted.find('.'), wanted.size());
            for (std::size_t at = point; at > 3; at -= 3)
                wanted.insert(at - 3, thin_space);
            if (value < 0) wanted = std::string(minus_sign) + wanted;
            QCOMPARE(format_constant(value, digits), wanted);
        }
    }
    /// Boiling water, the standard atmosphere (101 325 Pa is 14.696 psi), an inch of rain, both gallons.
    void unitsStandBeside() {
        UnitsBeside wanted{"degF", "psi", "in", "gal_us"};
        const std::string thin(thin_space);
        QCOMPARE(beside(100, 0.5, "degC", wanted), "212.0" + thin + "°F"); // ± 0.9 °F
        QCOMPARE(beside(-40, 5, "degC", wanted), std::string(minus_sign) + "40" + thin + "°F");
        QCOMPARE(beside(1013.25, 1.0, "hPa", wanted), "14.696" + thin + "psi");
        QCOMPARE(beside(25.4, 0.5, "mm", wanted), "1.00" + thin + "in");
        QCOMPARE(beside(37.85411784, 0.4, "L", wanted), "10.00" + thin + "US gal");
        wanted.volume = "gal_imp";
        QCOMPARE(beside(4.54609, 0, "L", wanted), "1" + thin + "imp. gal");
        wanted.temperature = "K"; // the offset has no part in the doubt
        QCOMPARE(beside(20, 0.5, "degC", wanted), "293.1" + thin + "K");
        QCOMPARE(beside(20, 0.5, "K", wanted), "");              // the same unit
        QCOMPARE(beside(20, 0.5, "V", wanted), "");              // nothing was asked for
        QCOMPARE(beside(20, 0.5, "furlong", wanted), "");        // no unit
        QCOMPARE(beside(std::nan(""), 0.5, "degC", wanted), ""); // no value
        QCOMPARE(beside(20, 0.5, "degC", {}), "");
        wanted.pressure = "degF"; // a file of settings from elsewhere
        QCOMPARE(beside(20, 0.5, "hPa", wanted), "");
        for (const UnitsOffered& offered : units_offered())
            for (const std::string& code : offered.codes)
                QVERIFY2(find_unit(code) && find_unit(code)->dimension == offered.dimension, code.c_str());
    }
    /// Against roots that are known; what is no bracket is refused.
    void rootsAreFoundBetweenTheirEnds() {
        const auto cubic = [](double x) { return x * x * x - 2; };
        CLOSE(*bracketed_root(cubic, 0, 2), std::cbrt(2.0), 1e-15);
        CLOSE(*bracketed_root([](double x) { return std::expm1(x - 700) - 1; }, 0, 701), 700 + std::log(2.0),
              1e-12);
        CLOSE(*bracketed_root([](double x) { return x; }, -1, 2), 0, 1e-15);
        CLOSE(*bracketed_root([](double x) { return x < 0.3 ? -1.0 : 1.0; }, 0, 1), 0.3, 1e-15); // a jump
        QCOMPARE(bracketed_root([](double x) { return x * x * x - 8; }, 2, 3).value_or(0), 2.0); // at an end
        QVERIFY(!bracketed_root(cubic, 2, 3));
        QVERIFY(!bracketed_root([](double x) { return x > 0.4 && x < 0.6 ? std::nan("") : x - 0.5; }, 0, 1));
        QVERIFY(!bracketed_root([](double) { return std::nan(""); }, 0, 1));
    }
};

RUN_TESTS_OF(TestUnits)
#include "tst_units.moc"
