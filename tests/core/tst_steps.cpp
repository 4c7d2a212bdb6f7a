// The last step of each kind of wiring says what a meter must show; cautions stand at the step where they matter.
#include "core/plan/loom/wiring_steps.h"
#include "support/boards.h"
#include "support/defects.h"
#include "support/run_tests.h"

#include <algorithm>

using namespace cognitum;
using test::catalog;
using test::dual;
using test::small;

namespace {

std::vector<WiringStep> steps_of(const Bench& bench, const char* id = "r1") {
    const Reading& r = *bench.reading(id);
    return wiring_steps(bench, catalog(), r, reading_loom(bench, catalog(), r));
}

std::string last(const Bench& bench) {
    const WiringStep step = steps_of(bench).back();
    return test::plain(step.text + " | " + step.meter);
}

bool holds(const std::string& text, const char* part) {
    return text.find(part) != std::string::npos;
}

} // namespace

class TestSteps : public QObject {
    Q_OBJECT

  private slots:
    void aVoltageIsSaidForARoom() { // 10 mV/°C and 500 mV: 15 to 25 °C
        const std::string text = last(test::bench_with("temperature", "analog-thermometer-with-offset"));
        QVERIFY2(holds(text, "0.65…0.75 V") && holds(text, "measure A0"), text.c_str());
    }
    void theCheckLightsTheSignalsWire() {
        for (const char* part : {"analog-thermometer-with-offset", "ntc-10k-in-divider", "one-wire-thermometer"}) {
            const Bench bench = test::bench_with("temperature", part);
            const Reading& r = bench.readings[0];
            const Loom loom = reading_loom(bench, catalog(), r);
            const int order = wiring_steps(bench, catalog(), r, loom).back().wire;
            const auto wire = std::find_if(loom.wires.begin(), loom.wires.end(),
                                           [&](const LoomWire& w) { return w.order == order; });
            QVERIFY2(wire != loom.wires.end() && wire->net != "GND" && wire->net != "5V", part);
        }
    }
    void aDividerStandsInTheMiddle() { // 10 kΩ over 10 kΩ at 25 °C: half of 5 V
        const std::string text = last(test::bench_with("temperature", "ntc-10k-in-divider"));
        QVERIFY2(holds(text, "2.5…3.06 V"), text.c_str());
    }
    void aBusPartAnswers() {
        Bench bench = test::bench_with("light", "light-i2c", dual);
        QVERIFY2(holds(last(bench), "0x23 answers; 3.3 V on 21"), last(bench).c_str());
        bench.readings[0].wiring.address = 0x5C;
        QVERIFY2(holds(last(bench), "0x5C answers"), last(bench).c_str());
    }
    void aOneWireBusRestsHigh() {
        const std::string text = last(test::bench_with("temperature", "one-wire-thermometer", dual));
        QVERIFY2(holds(text, "at rest") && holds(text, "3.3 V"), text.c_str());
    }
    void aContactSwitchesBetweenTheRails() {
        const std::string text = last(test::bench_with("contact", "reed-contact", dual));
        QVERIFY2(holds(text, "0.0 V and 3.3 V"), text.c_str()); // pulled up to the board's level
        const std::string motion = last(test::bench_with("motion", "motion-infrared", small));
        QVERIFY2(holds(motion, "in turn"), motion.c_str());
    }
    void anEchoPeaksBehindItsDivider() {
        Bench bench = test::bench_with("level", "echo-ranger-open", dual);
        bench.readings[0].wiring.pins[0].divider = {1800, 3300};
        QVERIFY2(holds(last(bench), "0…3.24 V"), last(bench).c_str());
    }
    void theRailIsSaidWithItsTolerance() {
        bool said = false;
        for (const WiringStep& s : steps_of(test::bench_with("temperature", "analog-thermometer-with-offset")))
            said = said || holds(test::plain(s.meter), "4.75…5.25 V at 5V");
        QVERIFY(said);
    }
    void resistorsAreMeasuredBeforeTheyGoIn() {
        Bench bench = test::bench_with("temperature", "one-wire-thermometer", dual);
        QCOMPARE(bench.readings[0].wiring.pull_up_ohm, 4700.0); // its card asks for it
        int measured = 0;
        for (const WiringStep& s : steps_of(bench))
            measured += holds(test::plain(s.meter), "4.7 kΩ ± 1 % before it goes in");
        QCOMPARE(measured, 1);
    }
    void theShortIsLookedForBeforePower() {
        for (const char* part : {"analog-thermometer-with-offset", "ntc-10k-in-divider", "one-wire-thermometer"}) {
            int shorted = 0;
            int plug = 0;
            for (const WiringStep& s : steps_of(test::bench_with("temperature", part))) {
                if (holds(s.text, "Check for a short")) shorted = s.number;
                if (holds(s.text, "Plug in")) plug = s.number;
            }
            QVERIFY2(shorted > 0 && shorted < plug, part);
        }
    }
    void cautionsStandWhereTheyMatter() {
        const auto cautions = [](const Bench& bench) {
            std::string all;
            for (const WiringStep& s : steps_of(bench))
                if (!s.caution.empty()) all += std::to_string(s.number) + ":" + s.caution + ";";
            return all;
        };
        Bench bench = test::bench_with("temperature", "ntc-10k-probe");
        QVERIFY(cautions(bench).empty());
        bench.readings[0].quantity.around.water = true;
        QVERIFY2(holds(cautions(bench), "Dry hands"), cautions(bench).c_str());
        const Bench cell = test::bench_with("temperature", "ntc-10k-probe", "board-3v3-12bit-lithium");
        QVERIFY2(holds(cautions(cell), "1:Take the lithium battery out"), cautions(cell).c_str());
    }
    void everyStepSaysWhatItMeansIfNot() {
        for (const WiringStep& s : steps_of(test::bench_with("level", "echo-ranger-open", small)))
            QVERIFY2(!s.if_not.empty() || holds(s.meter, "nothing yet"), s.text.c_str());
    }
    void numbersRunFromOne() {
        int n = 0;
        for (const WiringStep& s : steps_of(test::bench_with("temperature", "thermocouple-k-spi", small,
                                                             [](Reading& r) { r.quantity.low = 5; })))
            QCOMPARE(s.number, ++n);
        QVERIFY(n >= 9); // ground, four signals, short, supply, plug, feel
    }
    void turnedLegsAreSaidForEachOrder() {
        // Supply in the middle: ground and output change places.
        const Bench soil = test::bench_with("soil-moisture", "soil-capacitive");
        const std::string text = mirror_check(soil, catalog(), soil.readings[0]);
        QVERIFY2(holds(text, "AOUT gets the ground wire"), text.c_str());
        // Supply first, ground last: they change places.
        const Bench echo = test::bench_with("level", "echo-ranger-open", small);
        QVERIFY(holds(mirror_check(echo, catalog(), echo.readings[0]), "supply and ground change places"));
        // Neither: the supply lands on a signal.
        const Bench light = test::bench_with("light", "light-i2c", dual);
        QVERIFY2(holds(mirror_check(light, catalog(), light.readings[0]), "lands on ADDR"),
                 mirror_check(light, catalog(), light.readings[0]).c_str());
    }
};

RUN_TESTS_OF(TestSteps)
#include "tst_steps.moc"
