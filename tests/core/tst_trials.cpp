// Stimulus tests on Whelk Point's simulated boards: with the hand they pass, without it they do not, and their
// marks are those that the data give.
#include "core/bringup/trial.h"
#include "support/noise.h"
#include "support/run_tests.h"
#include "support/simulated_bench.h"

using namespace cognitum;
using namespace cognitum::test;

namespace {

const Stimulus& stimulus(const std::string& id) {
    static const std::vector<Stimulus> shipped = load_catalog().guide.stimuli;
    for (const Stimulus& s : shipped)
        if (s.id == id) return s;
    qFatal("no stimulus %s", id.c_str());
}

LineCount lines(const HeardBoard& board) {
    const StreamFacts facts = board.stream().facts();
    return {facts.lines, facts.lost};
}

/// Runs a trial as the window does: a look each second, until it is over.
TrialView run_trial(HeardBoard& board, const std::string& id, const std::string& reading, bool with_hand,
                    double read_off = std::nan("")) {
    const Stimulus& s = stimulus(id);
    Trial trial{&s, board.now(), lines(board), read_off, 0.1};
    const TrialAbout about = trial_about(board.placed());
    if (with_hand) board.command("hand " + id + " " + reading);
    TrialView view;
    for (int second = 0; second < 4000; ++second) {
        view = judge_trial(trial, about, board.heard(), lines(board), board.now());
        if (view.over()) break;
        if (with_hand && view.phase == TrialPhase::undoing && s.movement == Movement::returns)
            board.command("hand off");
        if (with_hand && reading == "rain" && s.movement == Movement::counts && second % 4 == 3 && second < 17)
            board.command("hand " + id + " rain");
        board.run(1);
    }
    board.command("hand off");
    return view;
}

/// Codes of a converter, one a second, around `level` with so much noise.
std::vector<RawSample> codes_of(std::mt19937_64& random, int n, double level, double noise, TimeUs from = 0) {
    std::normal_distribution<double> normal(0, noise);
    std::vector<RawSample> out;
    for (int i = 0; i < n; ++i)
        out.push_back({from + i * second_us, std::round(level + (noise > 0 ? normal(random) : 0))});
    return out;
}

TrialAbout about_10_bits() {
    TrialAbout about;
    about.signal = about_codes(10);
    about.signal.promised_s = 1;
    about.kind = "number";
    about.unit = "1";
    return about;
}

} // namespace

class TestTrials : public QObject {
    Q_OBJECT

  private slots:
    void withTheHandItPasses_data() {
        QTest::addColumn<QByteArray>("board");
        QTest::addColumn<QByteArray>("reading");
        QTest::addColumn<QByteArray>("id");
        QTest::addColumn<double>("read_off");
        const auto row = [](const char* board, const char* reading, const char* id,
                            double read_off = std::nan("")) {
            QTest::addRow("%s on %s", id, reading)
                << QByteArray(board) << QByteArray(reading) << QByteArray(id) << read_off;
        };
        row("gauge", "hut-air", "warm-with-fingers");
        row("gauge", "hut-air", "cool-with-cloth");
        row("gauge", "hut-air", "pull-the-wire");
        row("gauge", "rock", "warm-with-fingers"); // an NTC: its code falls when it warms
        row("gauge", "rock", "pull-the-wire");
        row("gauge", "stove-flue", "warm-with-fingers");
        row("gauge", "rain", "five-tips");
        row("shed", "tide-pool", "step-of-board");
        row("shed", "tide-pool", "ruler", 501);
        row("shed", "pool-water", "warm-with-fingers");
        row("shed", "conductivity", "lift-out");
        row("shed", "humidity", "breathe");
        row("shed", "air-pressure", "upstairs");
        row("shed", "jetty", "walk-past");
        row("pump-house", "daylight", "cover");
        row("pump-house", "bed-3", "wet-cloth");
        row("pump-house", "cistern", "litre");
    }
    void withTheHandItPasses() {
        QFETCH(QByteArray, board);
        QFETCH(QByteArray, reading);
        QFETCH(QByteArray, id);
        QFETCH(double, read_off);
        HeardBoard heard(board.toStdString(), reading.toStdString());
        // Somebody else under the lamp is no test of it: wait until nobody is there.
        heard.run(board == "pump-house" ? 1200 : 90);
        for (int i = 0; i < 600 && reading == "jetty" && heard.samples.back().code > 0; ++i)
            heard.run(10);
        if (reading == "jetty") heard.run(60);
        const TrialView view = run_trial(heard, id.toStdString(), reading.toStdString(), true, read_off);
        QVERIFY2(view.phase == TrialPhase::passed, (view.must + " / " + view.seen).c_str());
        QCOMPARE(view.now, stimulus(id.toStdString()).yes.text());
    }

    /// Nobody does anything: nothing passes by itself.
    void withoutTheHandItFails_data() { withTheHandItPasses_data(); }
    void withoutTheHandItFails() {
        QFETCH(QByteArray, board);
        QFETCH(QByteArray, reading);
        QFETCH(QByteArray, id);
        QFETCH(double, read_off);
        HeardBoard heard(board.toStdString(), reading.toStdString());
        heard.run(board == "pump-house" ? 1200 : 90);
        if (reading == "jetty") QSKIP("people walk there");
        const TrialView view = run_trial(heard, id.toStdString(), reading.toStdString(), false, read_off);
        QVERIFY2(view.phase == TrialPhase::failed, (view.must + " / " + view.seen).c_str());
        QCOMPARE(view.now, stimulus(id.toStdString()).no.text());
    }

    /// The test that tells a fault's causes apart passes on the simulated fault, and not when the hand does
    /// nothing.
    void aTestTellsTheCauseApart_data() {
        QTest::addColumn<QByteArray>("fault");
        QTest::addColumn<QByteArray>("reading");
        QTest::addColumn<QByteArray>("id");
        QTest::addRow("hum") << QByteArray("hum") << QByteArray("rock") << QByteArray("lift-the-wire");
        QTest::addRow("light") << QByteArray("light-leak") << QByteArray("pulse") << QByteArray("dark-cloth");
    }
    void aTestTellsTheCauseApart() {
        QFETCH(QByteArray, fault);
        QFETCH(QByteArray, reading);
        QFETCH(QByteArray, id);
        for (const bool hand : {true, false}) {
            HeardBoard heard("gauge", reading.toStdString());
            if (fault == "hum") heard.command("interval 20");
            heard.command("fault " + fault.toStdString());
            heard.run(20);
            const TrialView view = run_trial(heard, id.toStdString(), reading.toStdString(), hand);
            QVERIFY2((view.phase == TrialPhase::passed) == hand, (view.must + " / " + view.seen).c_str());
        }
    }

    void aHeartIsSeenAndAnEmptyClipIsNot() {
        HeardBoard heard("gauge", "pulse");
        heard.run(15);
        const TrialView view = run_trial(heard, "finger-on", "pulse", false);
        QVERIFY2(view.phase == TrialPhase::passed, view.seen.c_str());
        std::mt19937_64 random(7);
        TrialAbout about = about_10_bits();
        about.signal.kind = SignalKind::wave;
        about.signal.promised_s = 0.02;
        std::vector<RawSample> dark;
        for (int i = 0; i < 2000; ++i)
            dark.push_back({i * 20'000, 500 + std::round(std::normal_distribution<double>(0, 2)(random))});
        const Trial trial{&stimulus("finger-on"), 2 * second_us};
        const TrialView none = judge_trial(trial, about, dark, {}, 40 * second_us);
        QVERIFY2(none.phase == TrialPhase::failed, none.seen.c_str());
    }

    /// The mark is what the path makes of the least change, or five times the noise, whichever is more.
    void theMarkComesFromPathAndNoise() {
        HeardBoard quiet("gauge", "hut-air");
        quiet.run(60);
        const Trial trial{&stimulus("warm-with-fingers"), quiet.now()};
        const TrialAbout about = trial_about(quiet.placed());
        const TrialView view = judge_trial(trial, about, quiet.heard(), {}, quiet.now() + second_us);
        QVERIFY(view.mark_high - view.level >= 2);
        QVERIFY(std::isnan(view.mark_low));
        std::vector<RawSample> steady;
        for (int i = 0; i < 60; ++i)
            steady.push_back({i * second_us, 138});
        Stimulus warm = stimulus("warm-with-fingers");
        const auto mark = [&](double least) {
            warm.least = least;
            const TrialView v = judge_trial({&warm, 60 * second_us}, about, steady, {}, 61 * second_us);
            return v.mark_high - v.level;
        };
        // 8 °C at 10 mV/°C and 4.998 V over 1 024 codes; half a degree is less than two steps of the converter.
        CLOSE(mark(8), 8 * 0.01 * 1024 / 4.998, 1e-6);
        CLOSE(mark(0.5), 2, 1e-9);
        std::mt19937_64 random(11);
        const auto noisy = codes_of(random, 60, 500, 6);
        const TrialView wide =
            judge_trial({&stimulus("half-way"), 60 * second_us}, about_10_bits(), noisy, {}, 61 * second_us);
        CLOSE(wide.mark_high - wide.level, 5 * 6.0, 8);
        CLOSE(wide.level - wide.mark_low, 5 * 6.0, 8);
        const TrialView still =
            judge_trial({&stimulus("ten-minutes"), 60 * second_us}, about_10_bits(), noisy, {}, 61 * second_us);
        QVERIFY(still.mark_high > still.level);
        QVERIFY2(still.must.find('.') == still.must.size() - 1, still.must.c_str()); // whole counts
        CLOSE(still.level - still.mark_low, still.mark_high - still.level, 1e-9);
    }

    /// With nothing known of the level before, the stimulus waits; with nothing coming at all, it says so.
    void aTestWaitsForItsLevel() {
        std::mt19937_64 random(3);
        auto samples = codes_of(random, 4, 500, 0, 10 * second_us);
        const Trial trial{&stimulus("half-way"), 10 * second_us};
        QCOMPARE(judge_trial(trial, about_10_bits(), samples, {}, 14 * second_us).phase, TrialPhase::gathering);
        const auto more = codes_of(random, 3, 500, 0, 14 * second_us);
        samples.insert(samples.end(), more.begin(), more.end());
        QCOMPARE(judge_trial(trial, about_10_bits(), samples, {}, 17 * second_us).phase, TrialPhase::acting);
        const TrialView unheard = judge_trial(trial, about_10_bits(), {}, {}, 80 * second_us);
        QCOMPARE(unheard.phase, TrialPhase::failed);
        QVERIFY(unheard.seen.find("nothing comes") != std::string::npos);
    }

    /// One spike is no answer, and five noise widths are not reached by chance.
    void chanceDoesNotPass() {
        std::mt19937_64 random(5);
        int passed = 0;
        for (int i = 0; i < 200; ++i) {
            auto samples = codes_of(random, 100, 500, 3);
            samples[70].code = 1000; // a spike after the start
            const TrialView view =
                judge_trial({&stimulus("half-way"), 40 * second_us}, about_10_bits(), samples, {}, 100 * second_us);
            passed += view.phase == TrialPhase::passed ? 1 : 0;
        }
        QVERIFY2(passed <= 1, std::to_string(passed).c_str());
    }

    void countsAreExact() {
        TrialAbout about = about_10_bits();
        about.signal.kind = SignalKind::counter;
        const auto judged = [&](int events, double now) {
            std::vector<RawSample> samples;
            for (int i = 0; i < 60; ++i)
                samples.push_back({i * second_us, 7.0 + std::clamp((i - 10) / 3, 0, events)});
            return judge_trial({&stimulus("five-tips"), 9 * second_us}, about, samples, {}, from_seconds(now))
                .phase;
        };
        QCOMPARE(judged(5, 59), TrialPhase::passed);
        QCOMPARE(judged(6, 59), TrialPhase::failed);
        QCOMPARE(judged(4, 59), TrialPhase::acting);
        QCOMPARE(judged(4, 109), TrialPhase::failed);
    }

    /// A measured pour is what came since the start, not the bucket's total; and it counts once nothing tips any
    /// more.
    void aPourIsCountedFromItsStart() {
        HeardBoard rain("gauge", "rain");
        TrialAbout about = trial_about(rain.placed()); // 0.2 mm a tip, 0.5 mm asked for
        const auto judged = [&](double poured_mm, double now) {
            std::vector<RawSample> samples;
            for (int i = 0; i < 1000; ++i)
                samples.push_back({i * second_us, 400.0 + std::clamp((i - 100) / 5, 0, 50)}); // 50 tips: 10 mm
            std::erase_if(samples, [&](const RawSample& s) { return s.time > from_seconds(now); });
            const Trial trial{&stimulus("measured-pour"), 99 * second_us, {}, poured_mm, 0.1};
            return judge_trial(trial, about, samples, {}, from_seconds(now)).phase;
        };
        QCOMPARE(judged(10, 400), TrialPhase::passed);
        QCOMPARE(judged(10, 360), TrialPhase::acting); // ten seconds after the last tip
        QCOMPARE(judged(10, 379), TrialPhase::acting);
        QCOMPARE(judged(10, 380), TrialPhase::passed); // half a minute after it
        QCOMPARE(judged(5, 226), TrialPhase::acting);  // passing by is not agreeing
        QCOMPARE(judged(12, 999), TrialPhase::failed);
        QCOMPARE(judged(90, 999), TrialPhase::failed); // the total since the board's start
    }

    void linesAreCountedFromTheStart() {
        const TrialAbout about = about_10_bits();
        const Trial trial{&stimulus("every-line"), 0, {100, 3}};
        const auto after = [&](std::uint64_t count, std::uint64_t lost) {
            return judge_trial(trial, about, {}, {100 + count, 3 + lost}, 61 * second_us).phase;
        };
        QCOMPARE(after(60, 0), TrialPhase::passed);
        QCOMPARE(after(60, 1), TrialPhase::failed);
        QCOMPARE(after(20, 0), TrialPhase::failed);
        QCOMPARE(judge_trial(trial, about, {}, {130, 3}, 30 * second_us).phase, TrialPhase::acting);
        // A board that started anew counts from zero: nothing is taken as a huge number.
        QCOMPARE(judge_trial(trial, about, {}, {5, 0}, 61 * second_us).phase, TrialPhase::failed);
    }

    void agreementNeedsAValue() {
        HeardBoard heard("shed", "tide-pool");
        heard.run(120);
        const Trial trial{&stimulus("ruler"), heard.now()};
        const TrialView view = judge_trial(trial, trial_about(heard.placed()), heard.heard(), {}, heard.now());
        QVERIFY2(view.now.find("in mm") != std::string::npos, view.now.c_str());
        // 500 mm heard and 560 typed: more than the 12 mm that are asked for.
        QCOMPARE(run_trial(heard, "ruler", "tide-pool", true, 560).phase, TrialPhase::failed);
    }
};

RUN_TESTS_OF(TestTrials)
#include "tst_trials.moc"
