// What a board's own arithmetic prints, against the same arithmetic done here with C's own types; copied factors
// taken apart; the table for a meter.
#include "core/physics/sound.h"
#include "core/signal_path/board_arithmetic.h"
#include "core/signal_path/meter_table.h"
#include "support/chains.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <cstdint>

using namespace cognitum;
using test::chain_of;

namespace {

Chain thermistor_chain(int bits = 10, double reference = 5, const char* convention = "2^N") {
    return chain_of(fmt::format(R"({{"stage":"adc","bits":{},"reference_V":{},"convention":"{}"}},)"
                                R"({{"stage":"linear","zero":0.5,"slope":0.01,"input_unit":"V","unit":"degC"}})",
                                bits, reference, convention));
}
SenderWay way(const std::vector<SenderWay>& ways, const std::string& id) {
    for (const SenderWay& w : ways)
        if (w.id == id) return w;
    return {};
}

} // namespace

class TestSender : public QObject {
    Q_OBJECT

  private slots:
    void asTheBoardWouldCompute() {
        const Chain chain = thermistor_chain();
        for (int code = 20; code < 1000; code += 37) {
            const auto ways = sender_ways(chain, code);
            // int volts = code * 5 / 1024; float degrees = (volts - 0.5) / 0.01;
            const int volts = code * 5 / 1024;
            CLOSE(way(ways, "whole-volts").value, (volts - 0.5) / 0.01, 1e-9);
            // int mV = code * 5000 / 1024; with 16-bit ints.
            const auto product = static_cast<std::int16_t>(static_cast<std::uint16_t>(code * 5000));
            if (code * 5000 > 32767)
                CLOSE(way(ways, "sixteen-bits").value, (product / 1024 / 1000.0 - 0.5) / 0.01, 1e-9);
            const double truth = ((code + 0.5) * 5 / 1024 - 0.5) / 0.01;
            CLOSE(way(ways, "cut-off").value, static_cast<int>(truth), 1e-12);
            QCOMPARE(way(ways, "cut-off").prints, std::to_string(static_cast<int>(truth)));
            CLOSE(way(ways, "two-decimals").value, std::round(truth * 100) / 100, 1e-12);
            CLOSE(way(ways, "single-precision").error, 0, 1e-4);
            for (const SenderWay& w : ways)
                CLOSE(w.error, w.value - truth, 1e-9);
        }
    }
    void theLineThatMendsIt() {
        const auto ways = sender_ways(thermistor_chain(), 139);
        QVERIFY(way(ways, "whole-volts").mend.find("(code + 0.5) * 5.0 / 1024.0") != std::string::npos);
        QVERIFY(way(ways, "sixteen-bits").mend.find("(long)code * 5000 / 1024") != std::string::npos);
        QVERIFY(way(ways, "sixteen-bits").what.find("32 767") != std::string::npos);
    }
    void whereThereIsNoValueThereIsNothingToPrint() {
        QVERIFY(sender_ways(thermistor_chain(), 0).empty());
        QVERIFY(sender_ways(Chain{}, 5).empty());
        // A path without a converter has no product to overflow.
        const auto ways = sender_ways(chain_of(R"({"stage":"echo","temperature_degC":12})"), 7214);
        QVERIFY(way(ways, "sixteen-bits").id.empty());
        QVERIFY(!way(ways, "whole-numbers").id.empty());
    }

    void factorsTakenApart_data() {
        QTest::addColumn<double>("factor");
        QTest::addColumn<int>("bits");
        QTest::addColumn<double>("reference");
        QTest::addColumn<double>("made_for");
        QTest::addColumn<int>("made_bits");
        QTest::addColumn<bool>("fits");
        // 10 mV/°C: reference / codes / 0.01.
        QTest::newRow("1.0 V, on a 3.3 V board") << 0.0977 << 10 << 3.3 << 1.0 << 10 << false;
        QTest::newRow("5 V, and it fits") << 0.48828 << 10 << 5.0 << 5.0 << 10 << true;
        QTest::newRow("1.1 V, on 5 V") << 0.1074 << 10 << 5.0 << 1.1 << 10 << false;
        QTest::newRow("3.3 V and 12 bits, on 10") << 0.080566 << 10 << 5.0 << 3.3 << 12 << false;
    }
    void factorsTakenApart() {
        QFETCH(double, factor);
        QFETCH(int, bits);
        QFETCH(double, reference);
        QFETCH(double, made_for);
        QFETCH(int, made_bits);
        QFETCH(bool, fits);
        const auto parts = take_apart(factor, thermistor_chain(bits, reference));
        QVERIFY(parts);
        CLOSE(parts->reference_V, made_for, 1e-12);
        QCOMPARE(parts->bits, made_bits);
        QCOMPARE(parts->fits, fits);
        CLOSE(parts->right, reference / std::ldexp(1.0, bits) / 0.01, 1e-12);
        QVERIFY2(test::plain(parts->sentence).find("10 mV/°C") != std::string::npos, parts->sentence.c_str());
    }
    void factorsThatSayNothing() {
        QVERIFY(!take_apart(0, thermistor_chain()));
        QVERIFY(!take_apart(0.1, chain_of(R"({"stage":"rtd","r0_ohm":100})")));
        const auto odd = take_apart(0.0333, thermistor_chain());
        QVERIFY(odd && odd->bits == 0);
        QVERIFY(odd->sentence.find("no usual reference") != std::string::npos);
    }

    void theTwoDivisors() {
        // (code + ½)·5/1023 against /1024: 0.0977 % of the volts.
        CLOSE(convention_gap(thermistor_chain(), 700), 700.5 * 5 * (1 / 1023.0 - 1 / 1024.0) / 0.01, 1e-9);
        CLOSE(convention_gap(thermistor_chain(10, 5, "2^N-1"), 700), -700.5 * 5 * (1 / 1023.0 - 1 / 1024.0) / 0.01,
              1e-9);
        QVERIFY(std::isnan(convention_gap(chain_of(R"({"stage":"rtd","r0_ohm":100})"), 110)));
    }
    void theFixedSpeedOfSound() {
        const Chain cistern =
            chain_of(R"({"stage":"echo","temperature_degC":5},{"stage":"level","mount_height_mm":1150},
            {"stage":"vessel","shape":"box","length_m":2,"width_m":1,"height_m":1})");
        const double real = physics::dry_speed_of_sound(5), fixed = physics::dry_speed_of_sound(20);
        const double echo = 2000 * 600 / real;
        const auto wrong = with_fixed_speed(cistern, echo, fixed);
        QVERIFY(wrong);
        CLOSE(wrong->distance_mm, 600 * (fixed / real - 1), 1e-9);
        CLOSE(wrong->distance_mm, 600 * 0.0018 * 15, 0.6);   // about 0.18 % for each degree
        CLOSE(wrong->result, -2 * wrong->distance_mm, 1e-9); // 2 L for each millimetre
        QVERIFY(!with_fixed_speed(thermistor_chain(), 139, fixed));
    }

    void whatAMeterShouldShow() {
        const Chain chain = thermistor_chain();
        const MeterTable table = meter_table(chain, -10, 30, 10);
        QCOMPARE(table.rows.size(), std::size_t(5));
        QCOMPARE(table.columns.size(), std::size_t(3));
        QCOMPARE(table.columns[0].unit, std::string("degC"));
        QCOMPARE(table.columns[2].unit, std::string("count"));
        for (std::size_t i = 0; i < 5; ++i) {
            const double t = -10 + 10 * static_cast<double>(i);
            CLOSE(table.rows[i][0].number, t, 1e-12);
            CLOSE(table.rows[i][1].number, 0.5 + 0.01 * t, 1e-12);
            CLOSE(forward(chain, table.rows[i][2].number).number, t, 1e-9);
        }
        const std::string csv = meter_table_csv(table);
        QVERIFY2(csv.starts_with("Temperature_degC,Voltage_V,Sent_count\n-10,0.4,"), csv.c_str());
        // What cannot be reached has a dash and a cause.
        const MeterTable far = meter_table(chain, 440, 460, 10);
        QVERIFY(far.rows[0][2].ok() && !far.rows[2][2].ok() && !far.causes[2].empty() && far.causes[0].empty());
        QVERIFY(meter_table_csv(far).ends_with(",\n"));
        QVERIFY(meter_table(chain, 0, 10, 0).rows.empty());
        QVERIFY(meter_table(chain, 10, 0, 1).rows.empty());
        QCOMPARE(meter_table(chain, 0, 1e9, 1).rows.size(), std::size_t(200));
    }
    void roundSteps() {
        QCOMPARE(round_step(45, 14), 5.0);
        QCOMPARE(round_step(100, 10), 10.0);
        QCOMPARE(round_step(0.7, 14), 0.05);
        QCOMPARE(round_step(0, 5), 1.0);
    }
};

RUN_TESTS_OF(TestSender)
#include "tst_sender.moc"
