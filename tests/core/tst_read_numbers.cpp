// Numbers that boards and people write, against Qt's own reading of them: the same in every country.
#include "core/base/csv_text.h"
#include "core/base/letters.h"
#include "core/decode/number.h"
#include "core/decode/number_text.h"
#include "core/units/format.h"
#include "core/units/typed_number.h"
#include "core/units/unit.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <cmath>
#include <random>

using namespace cognitum;

class TestReadNumbers : public QObject {
    Q_OBJECT

  private slots:
    /// Every double that is written in full is read as itself, to the last bit.
    void thereAndBackToTheLastBit() {
        std::mt19937_64 random(61);
        for (int turn = 0; turn < 20000; ++turn) {
            const double mantissa = static_cast<double>(random() % 2000000000) / 1000 - 1000000;
            const double value = mantissa * std::pow(10.0, static_cast<int>(random() % 30) - 15);
            for (const char form : {'g', 'e'}) {
                const std::string text = QString::number(value, form, 17).toStdString();
                const auto read = number_of(text);
                QVERIFY2(read && *read == value, text.c_str());
            }
            const std::string board = QString::number(mantissa, 'f', static_cast<int>(random() % 7)).toStdString();
            const auto read = number_of(board);
            QVERIFY2(read && *read == QString::fromStdString(board).toDouble(), board.c_str());
        }
    }
    void whatIsNoNumber_data() {
        QTest::addColumn<QByteArray>("text");
        for (const char* text : {"",    " ",   "-",    "+",  ".",   "e5",  "1.2.3", "1,5",   "12 ", " 12", "0x10",
                                 "nan", "inf", "-inf", "1e", "1e+", "--1", "+-1",   "1e999", "12V", "1 2", "٣"})
            QTest::newRow(text) << QByteArray(text);
    }
    void whatIsNoNumber() {
        QFETCH(QByteArray, text);
        QVERIFY2(!number_of(text.toStdString()), text.constData());
    }
    void whatIsOne() {
        CLOSE(number_of("+5").value_or(0), 5, 0);
        CLOSE(number_of("-0.5").value_or(0), -0.5, 0);
        CLOSE(number_of(".5").value_or(0), 0.5, 0);
        CLOSE(number_of("5.").value_or(0), 5, 0);
        CLOSE(number_of("1e3").value_or(0), 1000, 0);
        CLOSE(number_of("-1.5E-3").value_or(0), -0.0015, 0);
        QVERIFY(std::signbit(number_of("-0").value_or(1)));
        CLOSE(number_of("123456789012345678901234567890").value_or(0), 1.2345678901234568e29, 0);
        CLOSE(number_of("0.00000000000000000000000000012345").value_or(0), 1.2345e-28, 0);
    }
    /// A number is read up to what follows it, and nothing behind it is looked at.
    void aNumberEndsWhereItEnds() {
        const std::string text = "12.5,7;-3e2x";
        const char* p = text.data();
        const char* const end = p + text.size();
        double value = 0;
        QVERIFY(read_number(p, end, value));
        CLOSE(value, 12.5, 0);
        QCOMPARE(*p, ',');
        QVERIFY(!read_number(p, end, value));
        QCOMPARE(*p, ','); // unmoved
        ++p;
        QVERIFY(read_number(p, end, value));
        CLOSE(value, 7, 0);
        ++p;
        QVERIFY(read_number(p, end, value));
        CLOSE(value, -300, 0);
        QCOMPARE(*p, 'x');
    }
    /// What the window writes for a person can be typed again.
    void whatIsShownCanBeTyped() {
        std::mt19937_64 random(62);
        for (int turn = 0; turn < 5000; ++turn) {
            const double value = (static_cast<double>(random() % 2000001) - 1000000) / 1000;
            const int decimals = static_cast<int>(random() % 4);
            const auto typed = typed_number(format_fixed(value, decimals));
            QVERIFY(typed.has_value());
            CLOSE(*typed, value, 0.5 * std::pow(10.0, -decimals) + 1e-9);
        }
    }
    /// A spreadsheet runs what begins so (CWE-1236); a number below zero is none of that.
    void spreadsheetsRunNothing() {
        for (const char* text : {"=1+1", "+1", "-1+2", "@SUM(A1)", "\tx", "\rx"})
            QVERIFY2(starts_formula(text), text);
        for (const char* text : {"", "a=1", "1-2", " =1"})
            QVERIFY2(!starts_formula(text), text);
        QCOMPARE(csv_field("a,b"), std::string("\"a,b\""));
        QCOMPARE(csv_field("say \"no\""), std::string("\"say \"\"no\"\"\""));
        QCOMPARE(csv_field("plain"), std::string("plain"));
        QVERIFY(csv_field("=cmd").find("'=") != std::string::npos);
        QCOMPARE(csv_field("two\nlines"), std::string("\"two\nlines\""));
    }
    /// Run again on a Turkish desktop, where C's tolower('I') is 'I'.
    void lettersAreThoseOfAscii() {
        QCOMPARE(letters::small("I2C DIGITAL İÄ 9_z"), std::string("i2c digital İÄ 9_z"));
        QCOMPARE(letters::capital('i'), 'I');
        QCOMPARE(letters::capital('{'), '{');
        QCOMPARE(letters::small('@'), '@');
        int letters_there = 0, digits = 0, signs = 0;
        for (int c = 0; c < 256; ++c) {
            letters_there += letters::is_letter(static_cast<char>(c));
            digits += letters::is_digit(static_cast<char>(c));
            signs += letters::is_sign(static_cast<char>(c));
        }
        QCOMPARE(letters_there, 52);
        QCOMPARE(digits, 10);
        QCOMPARE(signs, 32);
        // A part is found by its data sheet's words, however they are written.
        const auto found = [](const char* words) {
            int n = 0;
            for (const PartCard& part : test::catalog().parts)
                n += matches_facts(part, words);
            return n;
        };
        QVERIFY(found("i2c") > 3);
        QCOMPARE(found("I2C"), found("i2c"));
    }
    void unitsOfOneDimension() {
        for (const Unit& a : all_units())
            for (const Unit& b : all_units()) {
                const auto there = convert_unit(12.5, a.code, b.code);
                QCOMPARE(there.has_value(), a.dimension == b.dimension);
                if (!there) continue;
                const auto back = convert_unit(*there, b.code, a.code);
                CLOSE(*back, 12.5, 1e-9 * std::max(1.0, std::abs(*there)));
            }
        for (const Unit& unit : all_units()) {
            QVERIFY(same_unit(unit.code, unit.code));
            for (const std::string& alias : unit.aliases)
                QVERIFY2(same_unit(alias, unit.code), alias.c_str());
            QVERIFY(accepted_units(unit.code).find(unit.code) != std::string::npos);
            QCOMPARE(unit_symbol(unit.code), unit.symbol);
        }
        QVERIFY(!same_unit("mm", "cm"));
        QCOMPARE(unit_symbol("furlong"), std::string("furlong"));
    }

    /// What a sender writes behind a number: a unit begins with any letter, a sign of its own or no ASCII at all.
    void aUnitBeginsWithALetter() {
        for (const char* unit : {"a", "z", "A", "Z", "%", "*", "/min", "\u00b5S", "\u00b0C", "atm", "zzz"}) {
            const NumberText read = read_number_text(std::string("3.5 ") + unit);
            QVERIFY2(read.there && read.value == 3.5 && read.unit == unit, unit);
            const NumberText failed = read_number_text(std::string("nan ") + unit);
            QVERIFY2(!failed.there && failed.failed && failed.unit == unit, unit);
        }
        for (const char* none : {"1", "@", "[", "`", "{", "=", ":", "a b", "a1", "a=", "thirteenchars"}) {
            QVERIFY2(!read_number_text(std::string("3.5 ") + none).there, none);
            QVERIFY2(!read_number_text(std::string("nan ") + none).failed, none);
        }
    }
};

RUN_TESTS_OF(TestReadNumbers)
#include "tst_read_numbers.moc"
