// Facts of the cards against data sheets and standards, and what loads a divider.
#include "core/physics/buffers.h"
#include "core/physics/conductivity.h"
#include "core/plan/candidates.h"
#include "core/signal_path/chain.h"
#include "support/defects.h"
#include "support/run_tests.h"

#include <cmath>
#include <numbers>
#include <set>

using namespace cognitum;
using test::catalog;

namespace {

const Measurand& measured(const char* part, const char* quantity) {
    const PartCard* card = catalog().part(part);
    if (!card || !card->measurand(quantity)) qFatal("%s measures no %s", part, quantity);
    return *card->measurand(quantity);
}

/// A thermistor of 10 kΩ at 25 °C and B = 3950 K.
double thermistor_ohm(double theta) {
    return 10000 * std::exp(3950 * (1 / (theta + 273.15) - 1 / 298.15));
}
double thermistor_degC(double ohm) {
    return 1 / (1 / 298.15 + std::log(ohm / 10000) / 3950) - 273.15;
}

} // namespace

class TestLimits : public QObject {
    Q_OBJECT

  private slots:
    void limitsOfDataSheets_data() {
        QTest::addColumn<QByteArray>("part");
        QTest::addColumn<QByteArray>("quantity");
        QTest::addColumn<double>("at");
        QTest::addColumn<double>("limit");
        const auto row = [](const char* part, const char* quantity, double at, double limit) {
            QTest::addRow("%s at %g", part, at) << QByteArray(part) << QByteArray(quantity) << at << limit;
        };
        // IEC 60751 class B: ± (0.3 °C + 0.005·|t|)
        row("rtd-100-analog", "temperature", 0, 0.3);
        row("rtd-100-analog", "temperature", 100, 0.8);
        row("rtd-100-analog", "temperature", 400, 2.3);
        row("rtd-100-analog", "temperature", -50, 0.55);
        // Digital one-wire parts: ± 0.5 °C from −10 to 85 °C only
        row("one-wire-thermometer", "temperature", 20, 0.5);
        row("one-wire-thermometer", "temperature", 85, 0.5);
        row("one-wire-thermometer", "temperature", -40, 2);
        row("one-wire-thermometer", "temperature", 120, 2);
        row("one-wire-probe-waterproof", "temperature", -40, 2);
        row("i2c-thermometer-fine", "temperature", 20, 0.1);
        row("i2c-thermometer-fine", "temperature", -30, 0.15);
        row("i2c-thermometer-fine", "temperature", 90, 0.2);
        row("infrared-thermometer-i2c", "temperature", 37, 0.5);
        row("infrared-thermometer-i2c", "temperature", 300, 4);
        // IEC 60584-1 class 2 of type K, 2.5 °C or 0.75 %, and the converter's own
        row("thermocouple-k-spi", "temperature", 100, 5);
        row("thermocouple-k-spi", "temperature", 1000, 10);
        row("thermocouple-k-i2c", "temperature", 200, 4);
        row("thermocouple-k-i2c", "temperature", 1000, 9);
    }
    void limitsOfDataSheets() {
        QFETCH(QByteArray, part);
        QFETCH(QByteArray, quantity);
        QFETCH(double, at);
        QFETCH(double, limit);
        CLOSE(measured(part.constData(), quantity.constData()).limit_at(at), limit, 1e-9);
    }
    void everyLimitIsPossible() {
        for (const PartCard& part : catalog().parts)
            for (const Measurand& m : part.measures) {
                const std::string where = part.id + " " + m.quantity;
                QVERIFY2(m.low < m.high || part.measures[0].quantity == "state" || m.quantity == "motion",
                         where.c_str());
                for (const AccuracyRange& range : m.limits) {
                    QVERIFY2(range.low < range.high, where.c_str());
                    QVERIFY2(range.low <= m.high && range.high >= m.low, where.c_str());
                    QVERIFY2(range.accuracy > 0 || range.percent > 0, where.c_str());
                }
                double slow = 0; // ten times as dense as the fast one
                for (int i = 0; i <= 400; ++i)
                    slow = std::max(slow, m.limit_at(m.low + (m.high - m.low) * i / 400));
                QVERIFY2(slow >= m.limit_between(m.low, m.high) - 1e-12, where.c_str());
                QVERIFY2(m.limit_between(m.low, m.high) >= 0.9 * slow, where.c_str());
            }
    }
    void aPartIsJudgedWhereItIsUsed() {
        // In a room the one-wire part is good to half a degree; in a freezer it is not.
        const auto fitness = [](double low, double high) {
            Bench bench = test::bench_with("temperature", "analog-thermometer-with-offset",
                                           "board-5v-8bit-6-analog", [&](Reading& r) {
                                               r.quantity.low = low;
                                               r.quantity.high = high;
                                               r.quantity.accuracy = 0.6;
                                               r.quantity.interval_s = 5;
                                           });
            for (const Candidate& c : candidates(bench, catalog(), bench.readings[0], bench.boards[0]))
                if (c.part == "one-wire-thermometer") return c.fitness;
            return Fitness::does_not;
        };
        QCOMPARE(fitness(10, 30), Fitness::fits);
        QVERIFY(fitness(-40, 10) != Fitness::fits);
    }
    void aSealedRangersBeamIsWide() {
        // A piston of 14 mm at 40 kHz: half-power angle 2·asin(1.616·c / (π·d·f)), 37° between the points (Kinsler,
        // Fundamentals of Acoustics, 4th ed., eq. 7.4.17); such parts are sold as 45 to 75°.
        const double half = std::asin(1.616 * 343 / (std::numbers::pi * 0.014 * 40000));
        CLOSE(2 * half * 180 / std::numbers::pi, 37, 1);
        QVERIFY(catalog().part("echo-ranger-sealed")->beam_deg >= 45);
    }
    void lightEndsWhereItsCodesEnd() {
        CLOSE(measured("light-i2c", "light").high, 54612.5, 1); // 65 535 codes of 1/1.2 lx
        CLOSE(measured("light-i2c", "light").resolution, 1 / 1.2, 0.01);
    }

    void anInputLoadsADivider_data() {
        QTest::addColumn<double>("theta");
        QTest::addColumn<double>("error");
        QTest::addRow("frost") << -20.0 << 4.9;
        QTest::addRow("ice") << 0.0 << 1.9;
        QTest::addRow("room") << 25.0 << 0.7;
        QTest::addRow("warm") << 50.0 << 0.27;
    }
    // An input of 320 kΩ beside the thermistor: what the voltage says without and with it.
    void anInputLoadsADivider() {
        QFETCH(double, theta);
        QFETCH(double, error);
        const double ohm = thermistor_ohm(theta);
        const double seen = 1 / (1 / ohm + 1 / 320e3);
        const double volts = 3.3 * seen / (10000 + seen);
        const auto exactly = [](double value) {
            Constant c;
            c.value = value;
            return c;
        };
        Divider divider{exactly(10000), exactly(3.3), UnknownLeg::bottom};
        const Value without = forward(Stage{divider}, volts);
        QVERIFY(without.ok());
        CLOSE(thermistor_degC(without.number) - theta, error, 0.06 * error + 0.05);
        divider.load_ohm = exactly(320e3);
        const Value with = forward(Stage{divider}, volts);
        CLOSE(with.number, ohm, 1e-9 * ohm);
        CLOSE(inverse(Stage{divider}, ohm).number, volts, 1e-12);
        // As a resistance on top the input lies beside the fixed one.
        Divider upside{exactly(10000), exactly(3.3), UnknownLeg::top, exactly(320e3)};
        const double fixed = 1 / (1 / 10000. + 1 / 320e3);
        CLOSE(forward(Stage{upside}, 3.3 * fixed / (fixed + ohm)).number, ohm, 1e-9 * ohm);
    }
    void thePlanKnowsTheBoardsInput() {
        const Bench bench = test::bench_with("temperature", "ntc-10k-in-divider", "board-3v3-wifi-1-analog");
        const Chain& path = bench.readings[0].path;
        const auto load = [](const Stage& s) {
            const auto* d = std::get_if<Divider>(&s);
            const auto* r = std::get_if<RatioDivider>(&s);
            return d ? d->load_ohm.value : r ? r->load_ohm.value : 0;
        };
        QVERIFY(std::any_of(path.stages.begin(), path.stages.end(), [&](const Stage& s) { return load(s) > 0; }));
        const Bench other = test::bench_with("temperature", "ntc-10k-in-divider", "board-5v-8bit-6-analog");
        QVERIFY(std::none_of(other.readings[0].path.stages.begin(), other.readings[0].path.stages.end(),
                             [&](const Stage& s) { return load(s) > 0; }));
    }

    void aVaneTakesTheNearestOfItsResistors() {
        const Table table{{1, 2, 4, 8}, {90, 180, 270, 0}, true, "ohm", "deg"};
        CLOSE(forward(Stage{table}, 2.1).number, 180, 0);
        CLOSE(forward(Stage{table}, 3.8).number, 270, 0);
        CLOSE(forward(Stage{table}, 8).number, 0, 0);
        QCOMPARE(forward(Stage{table}, 3).cause, Cause::undecided); // no resistor of that size is there
        CLOSE(inverse(Stage{table}, 180).number, 2, 0);
        const PartCard* vane = catalog().part("wind-vane");
        const Measurand* m = vane->measurand("position");
        QVERIFY(m);
        // Eight directions, each from its own resistor, and none between them.
        std::set<double> directions;
        for (const Stage& stage : m->transfer)
            if (const auto* t = std::get_if<Table>(&stage)) {
                QVERIFY(t->nearest);
                directions.insert(t->outputs.begin(), t->outputs.end());
            }
        QCOMPARE(directions.size(), std::size_t(8));
        for (const double direction : directions)
            CLOSE(std::fmod(direction, 45), 0, 1e-9);
    }

    void buffersAndSea() {
        // IUPAC Recommendations 2002, table 3; and 53.1 mS/cm of standard sea water (S = 35) at 25 °C (UNESCO
        // 1983).
        CLOSE(physics::buffer_pH("phthalate", 25), 4.005, 0.001);
        CLOSE(physics::buffer_pH("phosphate", 25), 6.865, 0.001);
        CLOSE(physics::buffer_pH("borax", 25), 9.180, 0.001);
        QVERIFY(physics::buffer_pH("borax", 0) > physics::buffer_pH("borax", 50)); // colder is more alkaline
        QVERIFY(std::isnan(physics::buffer_pH("borax", 60)) && std::isnan(physics::buffer_pH("tea", 25)));
        CLOSE(physics::sea_water_conductivity(15), 42.914, 0.001); // mS/cm: it defines the scale
        CLOSE(physics::sea_water_conductivity(25), 53.09, 0.06);
    }
};

RUN_TESTS_OF(TestLimits)
#include "tst_limits.moc"
