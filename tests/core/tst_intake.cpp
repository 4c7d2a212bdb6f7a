// From numbers as they arrive to values: waves that become beats, counts that become a rate, counters over a
// restart, failure values in the unit of the line, and what one intake hands on to the next.
#include "core/plan/intake.h"
#include "support/defects.h"
#include "support/run_tests.h"

#include <cmath>
#include <numbers>

using namespace cognitum;
using test::catalog;

namespace {

const Partners none;

Intake intake_for(const Bench& bench) {
    const Reading& reading = bench.readings[0];
    return {reading, raw_rules(place(bench, catalog(), reading))};
}

Bench collecting(const char* kind, const char* part, const char* collect) {
    Bench bench = test::bench_with(kind, part);
    bench.readings[0].source.collect = collect;
    bench.readings[0].path = {};
    return bench;
}

/// A pulse of 72 beats a minute, in counts.
double wave_at(TimeUs time) {
    return 500 + 100 * std::pow(std::sin(std::numbers::pi * 1.2 * seconds(time)), 8);
}

/// The arrived numbers of a wave, sampled each `step`.
std::vector<Arrived> arrivals(Intake& intake, TimeUs from, TimeUs to, TimeUs step, double (*at)(TimeUs) = wave_at) {
    std::vector<Arrived> out;
    for (TimeUs t = from; t < to; t += step)
        if (const auto arrived = intake.take(t, at(t), none, 1)) out.push_back(*arrived);
    return out;
}

} // namespace

class TestIntake : public QObject {
    Q_OBJECT

  private slots:
    void aWaveBecomesBeats() {
        Intake intake = intake_for(collecting("pulse-rate", "pulse-probe-reflective", "beats"));
        QVERIFY(intake.collects());
        const auto arrived = arrivals(intake, 0, 20 * second_us, 10'000);
        QCOMPARE(arrived.size(), std::size_t(16)); // at 4 s, then once a second
        CLOSE(arrived.back().raw, 72, 0.5);
        QVERIFY(arrived.back().value.ok());
        // Another intake of the same reading goes on with the wave; a new one waits anew.
        Intake next = intake_for(collecting("pulse-rate", "pulse-probe-reflective", "beats"));
        next.carry_on(intake);
        QCOMPARE(arrivals(next, 20 * second_us, 22 * second_us, 10'000).size(), std::size_t(2));
        Intake anew = intake_for(collecting("pulse-rate", "pulse-probe-reflective", "beats"));
        QVERIFY(arrivals(anew, 20 * second_us, 22 * second_us, 10'000).empty());
    }
    void aWaveThatIsNone() {
        const auto why = [](TimeUs step, double (*at)(TimeUs) = wave_at) {
            Intake intake = intake_for(collecting("pulse-rate", "pulse-probe-reflective", "beats"));
            const auto arrived = arrivals(intake, 0, 12 * second_us, step, at);
            return arrived.empty() ? std::string("nothing") : arrived.back().why;
        };
        QVERIFY2(why(500'000).find("Too few samples") != std::string::npos, why(500'000).c_str());
        QVERIFY2(why(51'000).find("too few for a pulse wave") != std::string::npos, why(51'000).c_str());
        QVERIFY2(why(49'000).find("too few") == std::string::npos, why(49'000).c_str());
        QVERIFY2(why(400).find("too many for a pulse wave") != std::string::npos, why(400).c_str());
        QVERIFY2(why(600).find("too many") == std::string::npos, why(600).c_str());
        const auto flat = [](TimeUs) { return 500.0; };
        QVERIFY2(why(10'000, flat).find("No pulse to trust") != std::string::npos, why(10'000, flat).c_str());
        // A gap: what came before it is not counted with what comes behind.
        Intake intake = intake_for(collecting("pulse-rate", "pulse-probe-reflective", "beats"));
        arrivals(intake, 0, 10 * second_us, 10'000);
        auto arrived = arrivals(intake, 12 * second_us, 15 * second_us, 10'000);
        QVERIFY2(arrived.back().why.find("interrupted") != std::string::npos, arrived.back().why.c_str());
        arrived = arrivals(intake, 15 * second_us, 17 * second_us, 10'000);
        QVERIFY2(arrived.back().why.empty(), arrived.back().why.c_str());
        CLOSE(arrived.back().raw, 72, 1);
    }
    void countsBecomeARate() {
        Bench bench = collecting("flow", "flow-turbine", "rate");
        bench.readings[0].quantity.interval_s = 5;
        Intake intake = intake_for(bench);
        std::vector<Arrived> arrived;
        for (int s = 0; s <= 30; ++s)
            if (const auto one = intake.take(s * second_us, 1000 + 12 * s, none, 1)) arrived.push_back(*one);
        QCOMPARE(arrived.size(), std::size_t(6)); // each five seconds
        CLOSE(arrived.back().raw, 12, 1e-9);
        const auto cleared = intake.take(35 * second_us, 3, none, 1); // the board began anew
        QVERIFY(cleared && !(cleared->raw > 1000));
        Intake alone = intake_for(bench);
        QVERIFY(!alone.take(0, 5, none, 1));
        QVERIFY(alone.take(5 * second_us, no_number, none, 1)->why.find("One count alone") != std::string::npos);
    }
    void aCounterGoesOnOverARestart() {
        Intake intake = intake_for(test::bench_with("rain", "tipping-bucket"));
        const double per_tip = intake.take(0, 10, none, 1)->value.number / 10;
        CLOSE(intake.take(second_us, 14, none, 1)->value.number, 14 * per_tip, 1e-9);
        CLOSE(intake.take(2 * second_us, 2, none, 1)->value.number, 16 * per_tip, 1e-9);
        Intake next = intake_for(test::bench_with("rain", "tipping-bucket"));
        next.carry_on(intake);
        CLOSE(next.take(3 * second_us, 3, none, 1)->value.number, 17 * per_tip, 1e-9);
    }
    void failureValuesComeInTheUnitOfTheLine() {
        Bench bench = test::bench_with("temperature", "one-wire-probe-waterproof");
        bench.readings[0].source.unit = "degF";
        const RawRules rules = raw_rules(place(bench, catalog(), bench.readings[0]));
        QVERIFY(failed_by(rules.failures, -127 * 1.8 + 32, no_number, rules.span));
        QVERIFY(!failed_by(rules.failures, -127, no_number, rules.span));
        QVERIFY(failed_by(rules.failures, 185, no_number, rules.span)); // 85 °C at power-on
        CLOSE(rules.span, 160 * 1.8, 1e-9);                             // −55 to 105 °C
        bench.readings[0].source.unit = "m";                            // no such way
        CLOSE(raw_rules(place(bench, catalog(), bench.readings[0])).span, 160, 1e-9);
    }
    void aWaveIsColdOnceASecond() {
        const Bench bench = collecting("pulse-rate", "pulse-probe-reflective", "beats");
        Intake intake = intake_for(bench);
        QVERIFY(raw_rules(place(bench, catalog(), bench.readings[0])).warm_up_s == 5);
        intake.powered(day_us);
        const auto arrived = arrivals(intake, day_us, day_us + 5 * second_us, 10'000);
        QCOMPARE(arrived.size(), std::size_t(5));
        for (const Arrived& cold : arrived)
            QVERIFY(!cold.value.ok() && cold.why.find("warms up") != std::string::npos);
    }
};

RUN_TESTS_OF(TestIntake)
#include "tst_intake.moc"
