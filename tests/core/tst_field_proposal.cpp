// What fields of boards' lines are taken for: names that makers give, with the numbers that they send.
#include "core/bringup/field_proposal.h"
#include "core/units/quantity_kind.h"
#include "support/run_tests.h"
#include "support/support.h"

using namespace cognitum;

namespace {

std::vector<RawSample> spaced(std::vector<double> numbers, double every_s = 1) {
    std::vector<RawSample> out;
    for (std::size_t i = 0; i < numbers.size(); ++i)
        out.push_back({from_seconds(1000 + every_s * static_cast<double>(i)), numbers[i]});
    return out;
}

const char* word(FieldRole role) {
    switch (role) {
    case FieldRole::counter: return "counter";
    case FieldRole::clock: return "clock";
    case FieldRole::converter: return "converter";
    case FieldRole::pulses: return "pulses";
    case FieldRole::state: return "state";
    case FieldRole::value: return "value";
    case FieldRole::words: return "words";
    }
    return "";
}

} // namespace

class TestFieldProposal : public QObject {
    Q_OBJECT

  private slots:
    void proposals_data() {
        QTest::addColumn<QString>("name");
        QTest::addColumn<QString>("unit");
        QTest::addColumn<QList<double>>("numbers");
        QTest::addColumn<double>("every_s");
        QTest::addColumn<QString>("expected"); // role kind unit bits "title"
        const auto row = [](const char* name, const char* unit, QList<double> numbers, const char* expected,
                            double every_s = 1) {
            QTest::newRow(qPrintable(QString("%1 %2 %3").arg(name, unit).arg(numbers.value(0))))
                << QString(name) << QString(unit) << numbers << every_s << QString(expected);
        };
        row("Temp raw", "", {902, 903, 901, 902}, "converter temperature count 10 Temperature");
        row("n", "", {159, 160, 161, 162}, "counter number 1 0 n");
        row("seq", "", {4}, "counter number 1 0 seq");
        row("ms", "", {12000, 12500, 13001, 13500}, "clock number 1 0 ms", 0.5);
        row("uptime", "", {40, 41, 42, 43}, "clock number 1 0 uptime");
        row("x", "", {5000, 6001, 7000, 8002}, "clock number 1 0 x"); // nobody says so, and it runs like one
        row("A0", "", {512, 513, 511}, "converter number count 10 A0");
        row("36", "", {1400, 1402, 1399}, "converter number count 12 36");
        row("gpio34", "", {3100, 3090}, "converter number count 12 gpio34");
        row("airTemp", "C", {21.5, 21.6}, "value temperature degC 0 Air temperature");
        row("temp_f", "", {70.1, 70.2}, "value temperature degF 0 Temperature");
        row("t2", "°C", {4.5}, "value temperature degC 0 Temperature 2");
        row("humidity", "%", {45, 46}, "value humidity % 0 Humidity");
        row("RH", "", {45.2, 46.1}, "value humidity % 0 Humidity");
        row("pressure", "", {101325, 101330}, "value pressure Pa 0 Pressure");
        row("press", "hPa", {1013.2}, "value pressure hPa 0 Pressure");
        row("lux", "", {320, 325}, "value light lx 0 Light");
        row("soil1", "", {2800, 2790}, "converter soil-moisture count 12 Soil moisture 1");
        row("soil_moisture", "%", {41, 40}, "value soil-moisture % 0 Soil moisture");
        row("tips", "", {3, 3, 4, 6}, "pulses rain count 0 Rain");
        row("rain", "mm", {0.2, 0.4}, "value rain mm 0 Rain");
        row("door", "", {0, 1, 0, 0}, "state contact 1 0 Contact");
        row("motion", "", {0, 0, 1}, "state motion 1 0 Motion");
        row("led", "", {0, 1, 0}, "state contact 1 0 led"); // only its numbers say what it is
        row("tank_cm", "", {82.5, 82.4}, "value level cm 0 Level");
        row("distance", "mm", {1231, 1230}, "value level mm 0 Level");
        row("batt", "V", {3.91}, "value voltage V 0 Voltage");
        row("co2", "", {640, 655, 649}, "value carbon-dioxide ppm 0 Carbon dioxide");
        row("bpm", "", {72, 71, 74}, "value pulse-rate /min 0 Pulse rate");
        row("adc", "", {20000, 20100}, "converter number count 16 adc");
        row("shed temp", "", {-127, 21.5}, "value temperature degC 0 Shed temperature");
        row("weight_g", "", {812.5, 812.7}, "value weight g 0 Weight");
        row("blorp", "", {1.25, 1.5}, "value number 1 0 blorp");
        // From makers' benches, which the rules were not written for.
        row("T", "", {21.5, 21.6}, "value temperature degC 0 Temperature");
        row("H", "%", {40, 41}, "value humidity % 0 Humidity");
        row("P", "", {1013.2}, "value pressure hPa 0 Pressure");
        row("rain_mm", "", {2, 2, 3}, "value rain mm 0 Rain"); // says its unit: no count of tips
        row("echo_us", "", {7214, 7220}, "value level us 0 Level");
        row("battery", "%", {80, 79}, "value number % 0 battery");
        row("bat", "V", {3.71}, "value voltage V 0 Voltage");
        row("Luftfeuchte", "", {55.5}, "value humidity % 0 Humidity");
        row("Regen", "", {4, 4, 5}, "pulses rain count 0 Rain");
        row("wind_dir", "", {270, 271}, "value position % 0 Wind position");
        row("water_temp", "", {14.2}, "value temperature degC 0 Water temperature");
        row("water_level", "cm", {82}, "value level cm 0 Water level");
        row("moisture", "", {512, 515}, "converter soil-moisture count 10 Soil moisture");
        row("ph_raw", "", {498, 500}, "converter acidity count 10 Acidity (pH)");
        row("rssi", "", {-67, -66}, "value number 1 0 rssi");
        row("free_heap", "", {20480, 20480}, "converter number count 16 free_heap");
        row("wind_speed", "m/s", {4.2}, "value wind m/s 0 Wind speed");
    }
    void proposals() {
        QFETCH(QString, name);
        QFETCH(QString, unit);
        QFETCH(QList<double>, numbers);
        QFETCH(double, every_s);
        QFETCH(QString, expected);
        const auto held = spaced({numbers.begin(), numbers.end()}, every_s);
        const FieldProposal p = propose_field({name.toStdString(), unit.toStdString(), "", true, held});
        QCOMPARE(
            QString("%1 %2 %3 %4 %5").arg(word(p.role), from(p.kind), from(p.unit)).arg(p.bits).arg(from(p.title)),
            expected);
        QVERIFY(!p.why.empty() && p.why.back() == '.');
        QVERIFY(find_quantity_kind(p.kind));
    }
    /// Whatever comes: a proposal, with a title, and none of nothing but words.
    void anyName() {
        for (const char* name :
             {"", " ", "°", "______", "0", "\xff\xfe", "a\nb", "temp temp temp", "9999999999999999999"}) {
            const FieldProposal p = propose_field({name, "", "", true, {}});
            QVERIFY(find_quantity_kind(p.kind));
            const auto odd = spaced({no_number, 1e300, -1e300, no_number});
            QVERIFY(!propose_field({name, "furlong", "x", true, odd}).why.empty());
        }
        QVERIFY(!propose_field({"name", "", "pool", false, {}}).is_reading());
    }
    void boards() {
        const Catalog& catalog = test::catalog();
        for (const int bits : {0, 10, 12, 14, 16}) {
            const BoardCard* card = catalog.board(propose_board(catalog, bits));
            QVERIFY(card && card->not_advised.empty());
            if (bits == 10 || bits == 12 || bits == 14) QCOMPARE(card->bits, bits);
        }
        QCOMPARE(propose_board(catalog, 10), std::string("board-5v-8bit-6-analog"));
        QVERIFY(propose_board({}, 10).empty());
    }

  private:
    static QString from(const std::string& text) { return QString::fromStdString(text); }
};

RUN_TESTS_OF(TestFieldProposal)
#include "tst_field_proposal.moc"
