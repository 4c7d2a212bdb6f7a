// Time, units, formatting, and where a message points in somebody's JSON.
#include "core/base/json_reader.h"
#include "core/base/time.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "support/run_tests.h"
#include "support/support.h"

using namespace cognitum;

class TestBase : public QObject {
    Q_OBJECT

  private slots:
    void timeReadsWhatItWrites() {
        for (const TimeUs t : {TimeUs(0), TimeUs(1), TimeUs(-1), TimeUs(1795617060123456), TimeUs(951782400000000),
                               TimeUs(-5000000000)})
            QCOMPARE(parse_time(iso_time(t)).value_or(-7), t);
        QCOMPARE(iso_time(from_seconds(1780304400.25)), std::string("2026-06-01T09:00:00.250Z"));
    }
    void timeForms() {
        const TimeUs t = *parse_time("2026-06-01T09:00:00Z");
        QCOMPARE(*parse_time("2026-06-01T09:00:00"), t); // without a zone it is UTC
        QCOMPARE(*parse_time("2026-06-01 11:00:00+02:00"), t);
        QCOMPARE(*parse_time("2026-06-01T04:30:00-0430"), t);
        QCOMPARE(*parse_time(" 1780304400 "), t);
        QCOMPARE(*parse_time("2026-06-01"), t - 9 * hour_us);
    }
    void noTime_data() {
        QTest::addColumn<QString>("text");
        for (const char* text :
             {"", "yesterday", "2026-02-29", "2026-13-01", "2026-06-01T24:00:00", "2026-06-01T09:61:00",
              "2026-06-01T09:00:00+99:00", "2026-06-01T09:00:00Zx", "nan", "1e99"})
            QTest::addRow("%s", text) << text;
    }
    void noTime() {
        QFETCH(QString, text);
        QVERIFY(!parse_time(text.toStdString()));
    }

    /// The years 1 to 9999, to the last microsecond; a zone may lead out of them.
    void timesEnd() {
        QCOMPARE(parse_time("0001-01-01T00:00:00Z"), std::optional(earliest_time));
        QCOMPARE(parse_time("9999-12-31T23:59:59.999999Z"), std::optional(latest_time));
        QVERIFY(!parse_time("0001-01-01T00:00:00+00:01") && !parse_time("9999-12-31T23:59:59-01:00"));
        QVERIFY(parse_time("0001-01-01T01:00:00+01:00") && parse_time("9999-12-31T23:00:00-00:59"));
        QVERIFY(parse_time("-1") && !parse_time("1e300") && !parse_time("nan"));
    }
    void unitsConvertBothWays() {
        CLOSE(*convert_unit(20, "degC", "K"), 293.15, 1e-12);
        CLOSE(*convert_unit(212, "degF", "Cel"), 100, 1e-9);
        CLOSE(*convert_unit(1013.25, "hPa", "Pa"), 101325, 1e-9);
        CLOSE(*convert_unit(50, "%", "1"), 0.5, 1e-15);
        for (const Unit& a : all_units())
            for (const Unit& b : all_units())
                if (a.dimension == b.dimension)
                    CLOSE(*convert_unit(*convert_unit(12.5, a.code, b.code), b.code, a.code), 12.5, 1e-8);
    }
    void aUnitThatDoesNotFitNamesTheOnesThatDo() {
        const auto wrong = convert_unit(1, "V", "degC");
        QVERIFY(!wrong);
        QVERIFY(wrong.error().what.find("degC, K, degF") != std::string::npos);
    }
    void measures() {
        QCOMPARE(parse_measure("+3 degC")->value, 3.0);
        QCOMPARE(parse_measure("20°C")->unit, std::string("degC"));
        QCOMPARE(parse_measure("−4.5 degC")->value, -4.5);
        QCOMPARE(parse_measure("10kΩ")->unit, std::string("kohm")); // k and Ω
        for (const char* text : {"", "20", "degC", "20 furlong", "nan V", "+-3 V"})
            QVERIFY2(!parse_measure(text), text);
    }

    void digitsFollowTheDoubt() {
        QCOMPARE(decimals_for(0.5), 1);
        QCOMPARE(decimals_for(0.12), 2); // two digits when it begins with one
        QCOMPARE(decimals_for(0.19), 2);
        QCOMPARE(decimals_for(0.2), 1);
        QCOMPARE(decimals_for(30), 0);
        QCOMPARE(test::plain(format_with_doubt(24.93712, 0.5, "degC")), std::string("24.9 ± 0.5 °C"));
        QCOMPARE(test::plain(format_value(-0.04, 0.5, "degC")), std::string("0.0 °C")); // no minus on nothing
        QCOMPARE(test::plain(format_value(std::nan(""), 0.5, "degC")), std::string("—"));
    }
    void thousandsAndMinus() {
        QCOMPARE(test::plain(format_fixed(-1234567.5, 1)), std::string("−1 234 567.5"));
        QCOMPARE(test::plain(format_constant(0.01)), std::string("0.01"));
        QCOMPARE(test::plain(format_constant(10000)), std::string("10 000"));
        QCOMPARE(test::plain(format_constant(1024)), std::string("1 024"));
    }
    void agesForPeople() {
        QCOMPARE(age_text(-5), std::string("< 1 s"));
        QCOMPARE(age_text(12 * second_us), std::string("12 s"));
        QCOMPARE(age_text(9 * minute_us), std::string("9 min"));
        QCOMPARE(age_text(3 * hour_us), std::string("3 h"));
    }

    void jsonErrorsNameLineAndPointer() {
        const auto broken = JsonText::parse("card.json", "{\n \"a\": 1,\n oops\n}");
        QVERIFY(!broken);
        QCOMPARE(broken.error().where, std::string("card.json:3"));
        VALUE_OF(text, JsonText::parse("card.json", "{\"list\": [\n {\"x\": 1},\n {\"x\": \"one\"}\n]}"));
        const auto items = JsonReader(text).list("list");
        const auto wrong = (*items)[1].number("x");
        QVERIFY(!wrong);
        QCOMPARE(wrong.error().where, std::string("card.json:3: /list/1/x"));
        const auto missing = (*items)[0].string("y");
        QCOMPARE(missing.error().where, std::string("card.json:2: /list/0"));
        QVERIFY((*items)[0].only_keys({"y"}).error().what.find("\"x\" is not known") != std::string::npos);
    }
    void pointersIntoTrickyText() {
        const std::string text = "{\"a\\\"b\": \"}\\\\\",\n\"list\": [1, [2,\n{\"deep\": true}]]}";
        QCOMPARE(line_of_pointer(text, "/list"), 2);
        QCOMPARE(line_of_pointer(text, "/list/1/1/deep"), 3);
        QCOMPARE(line_of_pointer(text, "/nowhere"), 1);
    }
};

RUN_TESTS_OF(TestBase)
#include "tst_base.moc"
