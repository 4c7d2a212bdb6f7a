// Stages and their signatures, the shipped stimulus tests, the adjuster finder: what is offered, what counts, what
// must be done again.
#include "core/analyse/health.h"
#include "core/bringup/adjuster.h"
#include "core/bringup/stages.h"
#include "core/bringup/trial.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <set>

using namespace cognitum;

namespace {

const std::vector<Stimulus>& stimuli() {
    static const std::vector<Stimulus> shipped = load_catalog().guide.stimuli;
    return shipped;
}

StageState state_of(const BringUp& b, const char* stage) {
    for (const StageReport& report : stage_reports(b))
        if (report.stage->id == stage) return report.state;
    qFatal("no stage %s", stage);
}

Result<std::vector<Stimulus>> read_tests(const std::string& text) {
    const auto document = JsonText::parse("stimuli", text);
    if (!document) return tl::make_unexpected(document.error());
    return read_stimuli(JsonReader(*document));
}

/// A contact that goes on at each of `starts` for `hold` seconds; a sample each tenth of a second over a minute.
std::vector<RawSample> contact(const std::vector<double>& starts, double hold) {
    std::vector<RawSample> out;
    for (int i = 0; i < 600; ++i) {
        const double t = i / 10.0;
        const bool on = std::any_of(starts.begin(), starts.end(), [&](double s) { return t >= s && t < s + hold; });
        out.push_back({from_seconds(t), on ? 1.0 : 0.0});
    }
    return out;
}

/// At `rest`, then pressed by `swing` in the middle; two counts of noise.
std::vector<RawSample> pressed(double rest, double swing) {
    std::vector<RawSample> out;
    for (int i = 0; i < 100; ++i)
        out.push_back({i * second_us, rest + (i > 40 && i < 70 ? swing : 0) + (i % 2 ? 1 : -1)});
    return out;
}

} // namespace

class TestBringUp : public QObject {
    Q_OBJECT

  private slots:
    void stagesCountByTheirLastSignature() {
        BringUp b;
        QCOMPARE(next_stage(stage_reports(b)), std::size_t(0));
        QCOMPARE(test::plain(bring_up_summary(b)), "0 of 7 signed");
        for (const BringUpStage& stage : bring_up_stages())
            b.signs.push_back({stage.id, hour_us, "the warden", true});
        QCOMPARE(next_stage(stage_reports(b)), bring_up_stages().size());
        QCOMPARE(bring_up_summary(b), "7 of 7 signed");
        b.signs.push_back({"together", 2 * hour_us, "the warden", false, "lines are lost"});
        QCOMPARE(state_of(b, "together"), StageState::failed);
        QCOMPARE(next_stage(stage_reports(b)), std::size_t(3)); // what failed comes before what is open
        QCOMPARE(bring_up_summary(b), "together did not pass");
        b.signs.push_back({"together", 3 * hour_us, "the warden", true});
        QCOMPARE(state_of(b, "together"), StageState::passed);
    }

    /// Sealing and mechanical changes ask for what they may have moved, and for nothing else.
    void sealingAsksForTheLastStagesAgain() {
        BringUp b;
        for (const BringUpStage& stage : bring_up_stages())
            b.signs.push_back({stage.id, hour_us, "the warden", true});
        b.disturbed = 2 * hour_us;
        b.disturbed_how = "sealed";
        for (const StageReport& report : stage_reports(b))
            QCOMPARE(report.state, report.stage->repeats ? StageState::again : StageState::passed);
        QCOMPARE(test::plain(bring_up_summary(b)), "3 to repeat");
        for (const BringUpStage& stage : bring_up_stages())
            if (stage.repeats) b.signs.push_back({stage.id, 3 * hour_us, "the warden", true});
        QCOMPARE(next_stage(stage_reports(b)), bring_up_stages().size());
    }

    void theShippedTestsAreRead() {
        const LoadedCatalog loaded = load_catalog();
        for (const Error& e : loaded.problems)
            QFAIL(e.text().c_str());
        QVERIFY(stimuli().size() > 25);
    }

    /// Every kind of quantity can be tested alone, with a part of every family that measures it.
    void everyFamilyHasATestForItsSensorAlone() {
        for (const PartCard& part : test::catalog().parts) {
            if (part.kind != PartKind::sensor) continue;
            for (const Measurand& m : part.measures) {
                Bench bench = test::small_bench();
                bench.readings[0].quantity.kind = m.quantity;
                bench.readings[0].quantity.unit = m.unit;
                bench.readings[0].sensor.part = part.id;
                const StimulusFor wanted = stimulus_for(place(bench, test::catalog(), bench.readings[0]));
                for (const char* stage : {"sensor-alone", "sealed"})
                    QVERIFY2(!stimuli_for_stage(stimuli(), wanted, stage).empty(),
                             (part.id + " for " + m.quantity + " at " + stage).c_str());
                QVERIFY(!stimuli_for_stage(stimuli(), wanted, "board-alone").empty());
                QVERIFY(!stimuli_for_stage(stimuli(), wanted, "link-alone").empty());
            }
        }
    }

    /// The verdicts that the issue names have a test of their own for a signal that can have them.
    void verdictsHaveTheirTests() {
        const auto test_of = [](const char* verdict, const char* quantity, const char* family, SignalKind kind) {
            const Stimulus* s = stimulus_for_verdict(stimuli(), {quantity, family, kind}, verdict);
            return s ? s->id : std::string();
        };
        const SignalKind codes = SignalKind::codes;
        QCOMPARE(test_of("hum", "temperature", "thermometer", codes), "lift-the-wire");
        QCOMPARE(test_of("noisy", "temperature", "thermometer", codes), "lift-the-wire");
        QCOMPARE(test_of("stuck", "temperature", "thermometer", codes), "warm-with-fingers");
        QCOMPARE(test_of("floating", "temperature", "thermometer", codes), "pin-to-ground");
        QCOMPARE(test_of("clipped", "temperature", "thermometer", codes), "half-way");
        QCOMPARE(test_of("drift", "temperature", "thermometer", codes), "ten-minutes");
        QCOMPARE(test_of("failed", "level", "ranger", SignalKind::distance), "ruler");
        QCOMPARE(test_of("bounce", "rain", "rain gauge", SignalKind::counter), "five-tips");
        QCOMPARE(test_of("light-leak", "pulse-rate", "pulse probe", SignalKind::wave), "dark-cloth");
        QCOMPARE(test_of("hum", "motion", "motion detector", SignalKind::contact), std::string());
    }

    /// What can hurt says so where it is asked for.
    void whatCanHurtSaysSo() {
        for (const Stimulus& s : stimuli()) {
            const bool hurts = s.act.english().find("ladder") != std::string::npos ||
                               s.act.english().find("mains") != std::string::npos || s.id == "warm-with-fingers" ||
                               s.id == "litre" || s.id == "switch-on-load" || s.id == "valve";
            QVERIFY2(!hurts || !s.caution.empty(), s.id.c_str());
            if (s.id == "finger-on" || s.id == "count-at-wrist")
                QVERIFY(s.caution.english().find("no diagnosis") != std::string::npos);
        }
    }

    void badTestsAreRefusedWithTheirPlace_data() {
        QTest::addColumn<QByteArray>("change");
        QTest::addColumn<QByteArray>("says");
        QTest::addRow("movement") << QByteArray(R"("movement":"dances","stages":["sealed"])")
                                  << QByteArray("movement");
        QTest::addRow("stage") << QByteArray(R"("movement":"moves","stages":["later"])") << QByteArray("later");
        QTest::addRow("verdict") << QByteArray(R"("movement":"moves","verdicts":["sad"])") << QByteArray("sad");
        QTest::addRow("nowhere") << QByteArray(R"("movement":"moves")") << QByteArray("belongs to");
        QTest::addRow("count") << QByteArray(R"("movement":"counts","stages":["sealed"])") << QByteArray("events");
        QTest::addRow("undo") << QByteArray(R"("movement":"returns","stages":["sealed"])") << QByteArray("ends");
        QTest::addRow("key") << QByteArray(R"("movement":"moves","stages":["sealed"],"colour":1)")
                             << QByteArray("colour");
    }
    void badTestsAreRefusedWithTheirPlace() {
        QFETCH(QByteArray, change);
        QFETCH(QByteArray, says);
        const auto result = read_tests(R"({"stimuli":[{"id":"a","title":"A","act":"Do.","yes":"Y","no":"N",)" +
                                       change.toStdString() + "}]}");
        QVERIFY(!result);
        QVERIFY2(result.error().text().find(says.toStdString()) != std::string::npos,
                 result.error().text().c_str());
    }

    void theAdjusterFinderTellsHoldFromReach() {
        const SignalAbout about{SignalKind::contact};
        const std::vector<std::string> could_be = {"hold time", "reach"};
        const auto before = adjuster_figures(contact({5, 25, 45}, 4), about.kind);
        QCOMPARE(before.events, 3);
        CLOSE(before.hold_s, 4, 0.11);
        const auto longer =
            judge_adjuster(before, adjuster_figures(contact({5, 25, 45}, 12), about.kind), true, about, could_be);
        QCOMPARE(longer.sets, "hold time");
        QVERIFY(longer.clockwise_more);
        const auto turned_back =
            judge_adjuster(before, adjuster_figures(contact({5, 25, 45}, 12), about.kind), false, about, could_be);
        QVERIFY(!turned_back.clockwise_more);
        const auto deaf =
            judge_adjuster(before, adjuster_figures(contact({}, 4), about.kind), true, about, could_be);
        QCOMPARE(deaf.sets, "reach");
        QVERIFY(!deaf.clockwise_more);
        // The same again, and a single event more, say nothing.
        QVERIFY(judge_adjuster(before, before, true, about, could_be).sets.empty());
        QVERIFY(
            judge_adjuster(before, adjuster_figures(contact({5, 20, 35, 50}, 4), about.kind), true, about, could_be)
                .sets.empty());
        const auto never = adjuster_figures(contact({}, 4), about.kind);
        QVERIFY(judge_adjuster(never, never, true, about, could_be).text.find("nearer") != std::string::npos);
    }
    /// A hold that outlasts the recording is at least as long as it was seen.
    void aHoldThatOutlastsTheRecordingCounts() {
        const auto f = adjuster_figures(contact({50}, 100), SignalKind::contact);
        QVERIFY(f.held_to_end);
        CLOSE(f.hold_s, 9.9, 0.11);
    }
    void theAdjusterFinderTellsZeroFromGain() {
        const SignalAbout about = about_codes(10);
        const auto before = adjuster_figures(pressed(200, 100), about.kind);
        CLOSE(before.rest, 200, 1.1);
        CLOSE(before.swing, 100, 2);
        const auto zero = judge_adjuster(before, adjuster_figures(pressed(240, 100), about.kind), true, about, {});
        QCOMPARE(zero.sets, "zero");
        QVERIFY(zero.clockwise_more);
        const auto gain = judge_adjuster(before, adjuster_figures(pressed(200, 60), about.kind), true, about, {});
        QCOMPARE(gain.sets, "gain");
        QVERIFY(!gain.clockwise_more);
        const auto none = judge_adjuster(before, adjuster_figures(pressed(203, 103), about.kind), true, about, {});
        QVERIFY2(none.sets.empty(), none.text.c_str());
        QVERIFY(judge_adjuster({}, {}, true, about, {}).sets.empty());
    }
};

RUN_TESTS_OF(TestBringUp)
#include "tst_bringup.moc"
