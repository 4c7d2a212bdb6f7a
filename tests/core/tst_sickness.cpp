// Made-up signals, one sickness each: the right verdict, and just inside the limit none. The simulated bench's
// faults are in tst_faults; here each threshold is looked at from both sides.
#include "core/analyse/health.h"
#include "demo/world.h"
#include "support/run_tests.h"
#include "support/said.h"

#include <functional>
#include <numbers>

using namespace cognitum;

namespace {

using Signal = std::function<double(int i, double t)>;

std::vector<RawSample> samples(int n, double interval_s, const Signal& signal) {
    std::vector<RawSample> out;
    for (int i = 0; i < n; ++i) {
        const double t = i * interval_s;
        out.push_back({1795617060LL * second_us + from_seconds(t), signal(i, t)});
    }
    return out;
}

double with_noise(int i, double sd = 0.6) {
    return sd * demo::hash_normal(5, 9, i);
}

/// All that was said of the signals of this file, whole.
std::string all_said;

/// The same as judge_health(), and it is kept.
std::vector<HealthVerdict> judged(const std::vector<RawSample>& s, const SignalAbout& about,
                                  const StreamFacts& facts = {}) {
    std::vector<HealthVerdict> out = judge_health(s, about, facts);
    all_said += fmt::format("{} in {}\n", s.size(), QTest::currentTestFunction());
    for (const HealthVerdict& v : out) {
        test::add_said(all_said, v.id.c_str(),
                       fmt::format("{}, rank {}{}: {}", v.title, static_cast<int>(v.rank),
                                   v.leaves_value ? ", leaves the value" : "", v.evidence));
        for (const std::string& cause : v.causes)
            test::add_said(all_said, "  cause", cause);
        test::add_said(all_said, "  next", v.next_test);
    }
    return out;
}

std::string ids(const std::vector<RawSample>& s, const SignalAbout& about, const StreamFacts& facts = {}) {
    std::string out;
    for (const HealthVerdict& v : judged(s, about, facts))
        if (v.rank != HealthRank::note) out += (out.empty() ? "" : " ") + v.id;
    return out;
}

SignalAbout of(SignalKind kind) {
    SignalAbout about;
    about.kind = kind;
    return about;
}

} // namespace

class TestSickness : public QObject {
    Q_OBJECT

  private slots:
    void humNeedsToBeSeen() {
        const auto hum = [](double amplitude) {
            return samples(1000, 0.005, [amplitude](int i, double t) {
                return std::floor(512 + with_noise(i) + amplitude * std::sin(2 * std::numbers::pi * 50 * t + 0.3));
            });
        };
        QCOMPARE(ids(hum(8), about_codes(10)), std::string("hum"));
        QCOMPARE(ids(hum(0.2), about_codes(10)), std::string());
        const auto sixty = samples(1000, 0.005, [](int i, double t) {
            return std::floor(512 + with_noise(i) + 6 * std::sin(2 * std::numbers::pi * 60 * t));
        });
        QVERIFY(judged(sixty, about_codes(10)).front().evidence.find("60 Hz") != std::string::npos);
    }
    void clippedNeedsMoreThanASpike() {
        const auto top = [](int every) {
            return samples(200, 1, [every](int i, double) {
                return i % every == 0 ? 1023.0 : std::floor(800 + with_noise(i));
            });
        };
        QVERIFY(ids(top(1), about_codes(10)).find("clipped") == 0);
        QVERIFY(ids(top(100), about_codes(10)).find("clipped") == std::string::npos);
        const auto wave =
            samples(600, 0.016, [](int, double t) { return std::min(1023.0, 1000 + 200 * std::sin(7 * t)); });
        SignalAbout about = about_codes(10);
        about.kind = SignalKind::wave;
        const auto verdicts = judged(wave, about);
        QCOMPARE(verdicts.front().id, std::string("clipped"));
        QVERIFY(verdicts.front().causes.front().find("presses") != std::string::npos);
    }
    void looseIsNotClipped() {
        const auto loose = samples(
            200, 1, [](int i, double) { return (i / 5) % 3 == 0 ? 1023.0 : std::floor(500 + with_noise(i)); });
        QCOMPARE(judged(loose, about_codes(10)).front().id, std::string("loose-contact"));
    }
    void stuckAfterLifeOnly() {
        const auto dead = [](int from) {
            return samples(
                400, 1, [from](int i, double) { return i < from ? std::floor(500 + with_noise(i, 1.5)) : 500.0; });
        };
        QCOMPARE(ids(dead(100), about_codes(10)), std::string("stuck"));
        QCOMPARE(ids(dead(380), about_codes(10)), std::string()); // twenty alike may be chance
        QCOMPARE(ids(dead(0), about_codes(10)), std::string());   // it never moved: a still thing looks like that
        const auto dry = samples(400, 1, [](int, double) { return 7.0; });
        QCOMPARE(ids(dry, of(SignalKind::counter)), std::string()); // no rain is no fault
    }
    void echoesThatNeverCame() {
        const auto echoes = [](int every) {
            return samples(120, 1,
                           [every](int i, double) { return i % every == 0 ? std::nan("") : 1400 + with_noise(i); });
        };
        QCOMPARE(ids(echoes(3), of(SignalKind::distance)), std::string("failed"));
        QCOMPARE(ids(echoes(40), of(SignalKind::distance)), std::string()); // one in forty is weather
        const auto few = [](int failed, int n) {
            return ids(
                samples(n, 1, [=](int i, double) { return i < failed ? std::nan("") : 1400 + with_noise(i); }),
                of(SignalKind::distance));
        };
        QCOMPARE(few(2, 10), std::string()); // two of ten may be chance
        QCOMPARE(few(3, 10), std::string("failed"));
        QCOMPARE(few(3, 60), std::string("failed")); // a twentieth
        QVERIFY(judged(echoes(3), of(SignalKind::distance)).front().next_test.find("board at 1 m") !=
                std::string::npos);
    }
    void wholeStepsNeedAFinerPart() {
        const auto steps = [](double step) {
            return samples(300, 1, [step](int i, double t) {
                return step * std::floor((20 + 3 * std::sin(t / 40) + with_noise(i, 0.1)) / step);
            });
        };
        SignalAbout about = of(SignalKind::measured);
        about.resolution = 0.0625;
        about.unit = "degC";
        QCOMPARE(ids(steps(1), about), std::string("whole-steps"));
        QCOMPARE(ids(steps(0.0625), about), std::string());
        about.resolution = 1; // a part that gives whole degrees
        QCOMPARE(ids(steps(1), about), std::string());
    }
    void driftIsWhatTheThingCannotDo() {
        const auto creep = [](double per_hour) {
            return samples(400, 1, [per_hour](int i, double t) {
                return std::floor(500 + with_noise(i) + per_hour * t / 3600);
            });
        };
        SignalAbout about = about_codes(10);
        about.fastest_per_hour = 200;
        QCOMPARE(ids(creep(600), about), std::string("drift"));
        QCOMPARE(ids(creep(100), about), std::string());
        about.fastest_per_hour = 0; // nobody knows what it does
        QCOMPARE(ids(creep(600), about), std::string());
    }
    void spikesComeBack() {
        const auto spikes =
            samples(300, 1, [](int i, double) { return std::floor(500 + with_noise(i) + (i % 37 == 5 ? 60 : 0)); });
        QCOMPARE(ids(spikes, about_codes(10)), std::string("spikes"));
        const auto steps =
            samples(300, 1, [](int i, double) { return std::floor(500 + with_noise(i) + 60 * ((i / 60) % 2)); });
        QCOMPARE(ids(steps, about_codes(10)), std::string()); // a step is no spike
    }
    void noiseIsRankedByTheConverter() {
        const auto noisy = [](double sd) {
            return samples(300, 1, [sd](int i, double) { return std::floor(2000 + with_noise(i, sd)); });
        };
        QCOMPARE(ids(noisy(6), about_codes(10 + 1)), std::string("noisy"));
        QCOMPARE(ids(noisy(6), about_codes(12)),
                 std::string()); // 0.15 % of its range is what such a converter does
        QCOMPARE(ids(noisy(14), about_codes(12)), std::string("noisy"));
        QCOMPARE(ids(noisy(200), about_codes(12)), std::string("floating"));
    }
    void countersAndContactsBounce() {
        const auto tips = [](int each) {
            return samples(300, 1, [each](int i, double) { return double(each) * std::floor(i / 30.0); });
        };
        QCOMPARE(ids(tips(3), of(SignalKind::counter)), std::string("bounce"));
        QCOMPARE(ids(tips(1), of(SignalKind::counter)), std::string());
        const auto contact = [](int every) {
            return samples(200, 1, [every](int i, double) { return double((i / every) % 2); });
        };
        QCOMPARE(ids(contact(1), of(SignalKind::contact)), std::string("bounce"));
        QCOMPARE(ids(contact(20), of(SignalKind::contact)), std::string());
    }
    void sixteenBitsRunOver() {
        const auto over = samples(100, 1, [](int, double t) {
            const double x = 32000 + 1500 * std::sin(t / 5);
            return x > 32767 ? x - 65536 : x;
        });
        QCOMPARE(judged(over, of(SignalKind::measured)).front().id, std::string("overflow"));
        SignalAbout light = of(SignalKind::measured);
        light.never_negative = true;
        QVERIFY(
            ids(samples(100, 1, [](int i, double) { return -500 + with_noise(i, 20); }), light).find("overflow") ==
            0);
        QCOMPARE(ids(samples(100, 1, [](int i, double) { return 5 + with_noise(i, 0.1); }), light), std::string());
    }
    void theLinesSpeakForThemselves() {
        const auto calm = samples(120, 1, [](int i, double) { return std::floor(500 + with_noise(i)); });
        const auto with = [&](const std::function<void(StreamFacts&)>& change) {
            StreamFacts facts;
            facts.lines = 120;
            facts.bytes = 2400;
            change(facts);
            return ids(calm, about_codes(10), facts);
        };
        QCOMPARE(with([](StreamFacts&) {}), std::string());
        QCOMPARE(with([](StreamFacts& f) { f.odd_bytes = 1500; }), std::string("wrong-speed"));
        QCOMPARE(with([](StreamFacts& f) { f.rejected = 30; }), std::string("half-lines"));
        QCOMPARE(with([](StreamFacts& f) { f.rejected = 3; }), std::string());
        QCOMPARE(with([](StreamFacts& f) { f.restarts = 2; }), std::string("restarts"));
        QCOMPARE(with([](StreamFacts& f) { f.restarts = 1; }), std::string()); // it was switched on
        QCOMPARE(with([](StreamFacts& f) { f.duplicates = 9; }), std::string("duplicates"));
        QCOMPARE(with([](StreamFacts& f) { f.late = 9; }), std::string("reordered"));
        QCOMPARE(with([](StreamFacts& f) { f.lost = 9; }), std::string("gaps"));
        QCOMPARE(with([](StreamFacts& f) { f.set_back = 1; }), std::string("clock-back"));
        const auto clock = [&](double ppm, double offset_s, bool absolute) {
            return with([&](StreamFacts& f) { f.clock = {offset_s, 0.1, ppm, 20, 600, absolute}; });
        };
        QCOMPARE(clock(900, 0, false), std::string());
        QCOMPARE(clock(-5000, 0, false), std::string("clock-rate"));
        QCOMPARE(clock(30, 40, true), std::string("clock-offset"));
        QCOMPARE(clock(30, 1.7e9, false), std::string()); // milliseconds since its start tell no time of day
        QCOMPARE(with([&](StreamFacts& f) { f.now = calm.back().time + 60 * second_us; }), std::string("silent"));
        QCOMPARE(with([&](StreamFacts& f) { f.now = calm.back().time + 2 * second_us; }), std::string());
    }
    void outOfPlaceSaysWhere() {
        SignalAbout about = about_codes(12);
        about.expect_low = 1200;
        about.expect_high = 2200;
        about.quantity = "conductivity";
        const auto dry = samples(60, 6, [](int i, double) { return std::floor(16 + with_noise(i)); });
        const auto verdicts = judged(dry, about);
        QCOMPARE(verdicts.front().id, std::string("outside"));
        QVERIFY(verdicts.front().causes.front().find("not in the water") != std::string::npos);
        QCOMPARE(ids(samples(60, 6, [](int i, double) { return std::floor(1100 + with_noise(i)); }), about),
                 std::string()); // a little out
    }
    void figuresHoldForAStretch() {
        const auto s = samples(600, 0.5, [](int i, double t) { return 500 + with_noise(i, 2) + 10 * t / 3600; });
        const SignalFigures f = signal_figures(s, 10);
        QCOMPARE(f.n, 600);
        CLOSE(f.noise, 2, 0.25);
        CLOSE(f.sd, 2, 0.25);
        CLOSE(f.rate_hz, 2, 1e-9);
        CLOSE(f.interval_s, 0.5, 1e-9);
        CLOSE(f.noise_density, f.noise, 1e-9); // over one hertz
        CLOSE(f.jitter_s, 0, 1e-9);
        CLOSE(f.autocorrelation_s, 0.5, 0.2); // white: one interval
        CLOSE(f.drift_per_hour, 10, 8);
        QCOMPARE(f.gaps, 0);
    }
    /// The last of them: what all signals above were told, beside what a person has read.
    void whatWasSaid() {
        if (!all_said.empty()) test::compare_said("sickness", all_said);
    }
};

RUN_TESTS_OF(TestSickness)
#include "tst_sickness.moc"
