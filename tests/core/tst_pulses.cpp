// Tips to rain and waves to beats: by hand, against a slow plain count, and on the simulated heart whose rate is
// known.
#include "core/base/no_number.h"
#include "core/pulses/beats.h"
#include "core/pulses/picture.h"
#include "core/pulses/rain.h"
#include "demo/world.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/times.h"

#include <algorithm>
#include <map>
#include <random>

using namespace cognitum;
using test::november;

namespace {

constexpr double rate = 50;

std::vector<double> pulse(double seconds_long, double noise, std::uint64_t seed = 20261) {
    std::mt19937_64 random(seed);
    std::normal_distribution<double> normal(0, noise);
    std::vector<double> out;
    for (int i = 0; i < seconds_long * rate; ++i)
        out.push_back(505 + 150 * demo::pulse_wave(seed, november + from_seconds(i / rate)) +
                      (noise > 0 ? normal(random) : 0));
    return out;
}

double true_rate(double seconds_long, std::uint64_t seed = 20261) {
    double sum = 0;
    int n = 0;
    for (double t = 0; t < seconds_long; t += 0.5, ++n)
        sum += demo::heart_rate(seed, november + from_seconds(t));
    return sum / n;
}

} // namespace

class TestPulses : public QObject {
    Q_OBJECT

  private slots:
    void aTipIsItsVolumeOverTheFunnel() {
        CLOSE(millimetres_per_tip(5, 250), 0.2, 1e-12); // 5 mL over 250 cm²
        QVERIFY(std::isnan(millimetres_per_tip(0, 250)) && std::isnan(millimetres_per_tip(5, -1)));
    }
    void rainByHand() {
        const auto at = [](const char* time) { return *parse_time(time); };
        const std::vector<TimeUs> tips = {at("2026-06-01T08:59:00Z"), at("2026-06-01T08:59:00.050Z"), // bounce
                                          at("2026-06-01T09:01:00Z"), at("2026-06-01T09:11:00Z"),
                                          at("2026-06-01T23:59:59Z"), at("2026-06-02T00:00:01Z")};
        const RainTotals r = rain_totals(tips, 0.2);
        QCOMPARE(r.rejected, std::size_t(1));
        CLOSE(r.total_mm, 1.0, 1e-12);
        QCOMPARE(r.hours.size(), std::size_t(4));
        CLOSE(r.hours[1].mm, 0.4, 1e-12);
        QCOMPARE(iso_time(r.hours[1].start), std::string("2026-06-01T09:00:00.000Z"));
        QCOMPARE(r.days.size(), std::size_t(2));
        CLOSE(r.days[0].mm, 0.8, 1e-12);
        // One tip over the two minutes, taken as five; two over twelve minutes are less.
        CLOSE(r.max_intensity_mm_h, 2.4, 1e-9);
        const RainTotals nine = rain_totals(tips, 0.2, {0.1, 9 * hour_us, 0});
        QCOMPARE(nine.days.size(), std::size_t(2));
        CLOSE(nine.days[0].mm, 0.2, 1e-12);
        QCOMPARE(iso_time(nine.days[0].start), std::string("2026-05-31T09:00:00.000Z"));
        const RainTotals east = rain_totals(tips, 0.2, {0.1, 0, 2 * hour_us}); // midnight is 22:00 UTC
        QCOMPARE(iso_time(east.days[1].start), std::string("2026-06-01T22:00:00.000Z"));
        CLOSE(east.days[1].mm, 0.4, 1e-12);
        QCOMPARE(rain_totals({}, 0.2).total_mm, 0.0);
        // A cloudburst: twenty tips, ten seconds apart, are 190 s and 19 tips: over five minutes.
        std::vector<TimeUs> burst;
        for (int i = 0; i < 20; ++i)
            burst.push_back(november + i * 10 * second_us);
        CLOSE(rain_totals(burst, 0.2).max_intensity_mm_h, 19 * 0.2 * 12, 1e-9);
    }
    /// Beside a plain count in a map, over storms with bounces.
    void rainAgainstAPlainCount() {
        std::mt19937_64 random(3);
        for (int round = 0; round < 20; ++round) {
            std::vector<TimeUs> tips;
            TimeUs t = november;
            for (int i = 0; i < 2000; ++i)
                tips.push_back(t += random() % 7 == 0 ? 20'000
                                    : random() % 50 == 0
                                        ? static_cast<TimeUs>(random() % (30 * hour_us))
                                        : static_cast<TimeUs>(random() % (3 * minute_us)) + 100'000);
            const RainOptions options{0.1, static_cast<TimeUs>(random() % 24) * hour_us,
                                      static_cast<TimeUs>(random() % 24) * hour_us - 12 * hour_us};
            std::map<TimeUs, int> hours, days;
            TimeUs before = 0;
            std::size_t counted = 0;
            for (const TimeUs tip : tips) {
                if (before != 0 && tip - before < 100'000) continue;
                before = tip;
                ++counted;
                ++hours[tip / hour_us];
                ++days[(tip + options.zone - options.day_start) / day_us];
            }
            const RainTotals r = rain_totals(tips, 0.25, options);
            QCOMPARE(r.tips, counted);
            QCOMPARE(r.rejected + r.tips, tips.size());
            QCOMPARE(r.hours.size(), hours.size());
            QCOMPARE(r.days.size(), days.size());
            std::size_t i = 0;
            for (const auto& [hour, n] : hours) {
                CLOSE(r.hours[i].mm, 0.25 * n, 1e-9);
                QCOMPARE(r.hours[i++].start, hour * hour_us);
            }
            i = 0;
            for (const auto& [day, n] : days) {
                CLOSE(r.days[i].mm, 0.25 * n, 1e-9);
                QCOMPARE(r.days[i++].start, day * day_us - options.zone + options.day_start);
            }
        }
    }

    void aHeartIsCounted_data() {
        QTest::addColumn<double>("noise");
        QTest::addColumn<int>("seed");
        for (const double noise : {0.0, 5.0, 20.0})
            for (const int seed : {1, 7, 20261})
                QTest::addRow("noise %g, heart %d", noise, seed) << noise << seed;
    }
    void aHeartIsCounted() {
        QFETCH(double, noise);
        QFETCH(int, seed);
        const auto s = static_cast<std::uint64_t>(seed);
        const Beats b = find_beats(pulse(60, noise, s), rate);
        QVERIFY2(b.quality != PulseQuality::bad, b.why.c_str());
        CLOSE(b.bpm, true_rate(60, s), 2.5);
        CLOSE(static_cast<double>(b.times.size()), true_rate(60, s), 3); // and each of them, once
    }
    /// Made-up waves of a known rate: a second wave after each beat is not counted.
    void theSecondWaveIsNoBeat() {
        for (const double bpm : {45.0, 72.0, 120.0, 180.0}) {
            std::vector<double> wave;
            for (int i = 0; i < 40 * 100; ++i) {
                const double t = std::fmod(i / 100.0 * bpm / 60, 1.0) * 60 / bpm;
                wave.push_back(300 + 100 * std::exp(-std::pow((t - 0.12) / 0.05, 2)) +
                               38 * std::exp(-std::pow((t - 0.12 - 0.35 * 60 / bpm) / 0.05, 2)));
            }
            const Beats b = find_beats(wave, 100);
            QVERIFY2(b.quality != PulseQuality::bad, b.why.c_str());
            CLOSE(b.bpm, bpm, 0.02 * bpm);
        }
    }
    void whatIsNoPulseGivesNoNumber() {
        std::mt19937_64 random(9);
        std::normal_distribution<double> normal(0, 30);
        std::vector<double> noise, flat(3000, 512.0), cut;
        for (int i = 0; i < 3000; ++i)
            noise.push_back(512 + normal(random));
        for (const double x : pulse(60, 1))
            cut.push_back(std::min(x, 520.0)); // pressed too hard
        for (const auto* wave : {&noise, &flat, &cut}) {
            const Beats b = find_beats(*wave, rate);
            QVERIFY2(std::isnan(b.bpm) && b.quality == PulseQuality::bad, std::to_string(b.bpm).c_str());
            QVERIFY(!b.why.empty());
        }
        QVERIFY(std::isnan(find_beats(std::vector<double>(10, 1.0), rate).bpm));
        QVERIFY(std::isnan(find_beats(pulse(10, 1), 5).bpm));
    }
    /// The fixed threshold counts as well, as long as nobody presses harder.
    void theFixedThresholdIsFragile() {
        std::vector<double> wave = pulse(60, 0);
        const double n = static_cast<double>(threshold_beats(wave, rate, 560).size());
        CLOSE(n, true_rate(60), 3);
        for (double& x : wave)
            x -= 120;
        QVERIFY(threshold_beats(wave, rate, 560).empty());
        CLOSE(find_beats(wave, rate).bpm, true_rate(60), 2.5);
    }

    // What is drawn is what is counted.
    void theWaveIsDrawnAsItIsCounted() {
        const std::vector<double> wave = pulse(20, 4);
        std::vector<RawSample> samples;
        for (std::size_t i = 0; i < wave.size(); ++i)
            samples.push_back({november + from_seconds(double(i) / rate), wave[i]});
        samples.insert(samples.begin(),
                       {november - 60 * second_us, 700}); // an old one does not hang together with it
        const PulsePicture picture = beats_picture(samples, 8);
        QCOMPARE(picture.panels.size(), std::size_t(2));
        CLOSE(picture.length_s, 8, 1e-9);
        QCOMPARE(picture.from, samples.back().time - 8 * second_us);
        const Beats found = find_beats(wave, rate);
        QCOMPARE(found.accepted.size() + 1, found.times.size());
        QCOMPARE(std::size_t(std::count(found.accepted.begin(), found.accepted.end(), true)),
                 found.intervals.size());
        const double begin = double(wave.size() - 1) / rate - 8;
        std::vector<double> tops;
        for (const double t : found.times)
            if (t >= begin) tops.push_back(t - begin);
        QCOMPARE(picture.panels[1].marks.size(), tops.size());
        for (std::size_t i = 0; i < tops.size(); ++i) {
            CLOSE(picture.panels[1].marks[i].at_s, tops[i], 1e-9);
            QVERIFY(picture.panels[1].marks[i].value >= 0.5 * picture.panels[1].levels[0].value);
        }
        QCOMPARE(picture.panels[1].spans.size(), tops.size() - 1);
        // The fixed threshold stands where its crossings are.
        const double threshold = picture.panels[0].levels.at(0).value;
        CLOSE(threshold, threshold_from_recording(wave, rate), 1e-12);
        QVERIFY(!picture.panels[0].marks.empty());
        QVERIFY2(picture.spoken.find("8 s") != std::string::npos, picture.spoken.c_str());
        // A missed beat leaves a long interval, which is set aside and drawn so.
        std::vector<RawSample> missed = samples;
        const auto from = november + from_seconds(begin + tops[2] - 0.25), to = from + from_seconds(0.5);
        for (RawSample& s : missed)
            if (s.time > from && s.time < to) s.code = 505;
        const PulsePicture gap = beats_picture(missed, 8);
        const auto& spans = gap.panels.at(1).spans;
        QCOMPARE(std::count_if(spans.begin(), spans.end(),
                               [](const auto& s) { return s.use == PulsePicture::Use::set_aside; }),
                 1);
        for (const auto& empty :
             {std::vector<RawSample>{}, std::vector<RawSample>(samples.begin(), samples.begin() + 50)})
            QVERIFY(beats_picture(empty).panels.empty());
    }
    void tipsAreDrawnWithTheirBounces() {
        const TimeUs now = november;
        const std::vector<TimeUs> tips = {now - 25 * hour_us, now - 2 * hour_us, now - 2 * hour_us + 50'000,
                                          now - hour_us, now + second_us};
        const PulsePicture picture = tips_picture(tips, 0.2, now);
        QCOMPARE(picture.panels.at(0).marks.size(), std::size_t(3)); // a day, and not what is still to come
        QVERIFY(picture.panels[0].marks[0].counted && !picture.panels[0].marks[1].counted);
        CLOSE(picture.panels[0].marks[0].at_s, 22 * 3600, 1e-9);
        const auto& sum = picture.panels.at(1).trace;
        CLOSE(sum.back().value, 0.4, 1e-12);
        CLOSE(sum.back().value, rain_within(std::span(tips).first(2), 0.2, now, day_us) + 0.2, 1e-12);
        CLOSE(tips_picture(tips, 0.2, now, {.tips_per_pulse = 2}).panels.at(1).trace.back().value, 0.8, 1e-12);
        QCOMPARE(tips_picture({}, 0.2, now).panels.at(1).trace.back().value, 0.0); // no rain is an answer
        QCOMPARE(bounced_tips(std::vector<TimeUs>{0, 99'999, 100'000, 150'000, 50'000}, 0.1),
                 (std::vector<bool>{false, true, false, true, true}));
    }
    void aContactIsDrawnWithItsEvents() {
        const TimeUs now = november;
        std::vector<RawSample> line;
        for (int i = 0; i < 7200; ++i) { // two hours; on at 3000…3010, 3012…3020, 7000…
            const bool on = (i >= 3000 && i < 3010) || (i >= 3012 && i < 3020) || i >= 7000;
            line.push_back({now + from_seconds(i - 7199), on ? 1.0 : 0.0});
        }
        const PulsePicture picture = switch_picture(line, now, 5);
        QVERIFY(picture.panels.at(0).trace.front().value == 0);
        std::map<PulsePicture::Use, int> spans;
        for (const auto& s : picture.panels.at(1).spans)
            ++spans[s.use];
        QCOMPARE(spans[PulsePicture::Use::held], 1); // the last hour: the one that goes on
        const PulsePicture all = switch_picture(line, now, 5, 7200);
        spans.clear();
        for (const auto& s : all.panels.at(1).spans)
            ++spans[s.use];
        QCOMPARE(spans[PulsePicture::Use::held], 2);    // the first two hang together
        QCOMPARE(spans[PulsePicture::Use::counted], 3); // of three stretches
        QVERIFY(switch_picture({}, now, 5).panels.empty());
        QVERIFY(switch_picture(std::vector<RawSample>{{now, no_number}}, now, 5).panels.empty());
    }
    void windIsDrawnWithItsGust() {
        std::vector<RawSample> speeds;
        for (int i = 0; i < 900; ++i)
            speeds.push_back({november + from_seconds(i), i >= 700 && i < 703 ? 12.0 : 4.0});
        const PulsePicture picture = wind_picture(speeds, "m/s");
        const auto& panel = picture.panels.at(0);
        QCOMPARE(panel.trace.size(), std::size_t(601)); // ten minutes, both ends
        CLOSE(panel.levels.at(1).value, 12, 1e-9);
        CLOSE(panel.levels.at(0).value, (598 * 4 + 3 * 12) / 601.0, 1e-9);
        QVERIFY(wind_picture({}, "m/s").panels.empty());
    }
    /// No line is drawn over a time in which nothing came.
    void aSilenceIsNoLine() {
        std::vector<RawSample> line;
        for (int i = 0; i < 600; ++i)
            if (i < 100 || i >= 400) line.push_back({november + from_seconds(i), 1.0});
        const auto breaks = [](const PulsePicture& picture) {
            std::vector<double> at;
            for (const auto& p : picture.panels.at(0).trace)
                if (!std::isfinite(p.value)) at.push_back(p.at_s);
            return at;
        };
        const TimeUs now = november + from_seconds(599);
        QVERIFY(breaks(wind_picture(line, "m/s")).empty());
        QCOMPARE(breaks(wind_picture(line, "m/s", 20)), std::vector<double>{100 + 20}); // the edge is at −1 s
        QVERIFY(breaks(wind_picture(line, "m/s", 301)).empty());
        QCOMPARE(breaks(switch_picture(line, now, 5, 599, 20)), std::vector<double>{99 + 20});
        QVERIFY(breaks(switch_picture(line, now, 5, 599, 301)).empty()); // a pause is a silence when it is longer
    }
};

RUN_TESTS_OF(TestPulses)
#include "tst_pulses.moc"
