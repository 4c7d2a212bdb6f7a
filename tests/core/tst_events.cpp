// Rain that belongs together, gusts, contacts, and numbers that become one: by hand, and against slow plain counts.
#include "core/pulses/beats.h"
#include "core/pulses/collector.h"
#include "core/pulses/events.h"
#include "core/pulses/rain.h"
#include "core/pulses/summary.h"
#include "core/pulses/wind.h"
#include "demo/world.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <random>

using namespace cognitum;

namespace {

TimeUs at(const char* time) {
    return *parse_time(time);
}
std::string value(const std::vector<PulseFact>& facts, const char* label) {
    for (const PulseFact& f : facts)
        if (f.label == label) return test::plain(f.value);
    return "no such row";
}

} // namespace

class TestEvents : public QObject {
    Q_OBJECT

  private slots:
    void aDrySpellEndsAnEvent() {
        const std::vector<TimeUs> tips = {at("2026-05-31T22:00:00Z"), at("2026-05-31T23:30:00Z"),
                                          at("2026-06-01T05:29:00Z"), at("2026-06-01T11:30:00Z")};
        const RainTotals r = rain_totals(tips, 0.5);
        QCOMPARE(r.events.size(), std::size_t(2)); // 5 h 59 min do not end it, 6 h 1 min do
        CLOSE(r.events[0].mm, 1.5, 1e-12);
        QCOMPARE(r.events[0].end, tips[2]);
        CLOSE(r.events[1].mm, 0.5, 1e-12);
        QCOMPARE(r.months.size(), std::size_t(2));
        CLOSE(r.months[0].mm, 1.0, 1e-12);
        QCOMPARE(r.years.size(), std::size_t(1));
        CLOSE(r.corrected_mm, r.total_mm, 1e-12);
    }
    void twoTipsForOnePulseAndWhatIsLost() {
        std::vector<TimeUs> tips;
        for (int i = 0; i < 11; ++i) // 0.2 mm each 12 s: 60 mm/h
            tips.push_back(i * 12 * second_us);
        RainOptions options;
        options.tips_per_pulse = 2;
        CLOSE(rain_totals(tips, 0.1, options).total_mm, 2.2, 1e-9);
        options = {};
        options.loss_a = 0.9;
        options.loss_b = 1.05;
        // Ten intervals at 60 mm/h, and the first tip as it is.
        const double truth = 0.9 * std::pow(60, 1.05) * 12 / 3600;
        CLOSE(rain_totals(tips, 0.2, options).corrected_mm, 0.2 + 10 * truth, 1e-9);
    }
    void aWindowOfHours() {
        const std::vector<TimeUs> tips = {hour_us, 2 * hour_us, 3 * hour_us};
        CLOSE(rain_within(tips, 0.2, 3 * hour_us, hour_us), 0.2, 1e-12); // the one an hour ago is out
        CLOSE(rain_within(tips, 0.2, 3 * hour_us, hour_us + 1), 0.4, 1e-12);
        CLOSE(rain_within(tips, 0.2, 2 * hour_us, day_us), 0.4, 1e-12);
        CLOSE(rain_within({}, 0.2, 0, day_us), 0, 1e-12);
    }
    void countersBecomeTips() {
        const std::vector<TimeUs> times = {0, minute_us, 2 * minute_us, 3 * minute_us, 4 * minute_us};
        const std::vector<double> counts = {10, 10, 13, 1, 1e6}; // it began anew; then another counter altogether
        const std::vector<TimeUs> tips = tips_of_counts(times, counts);
        QCOMPARE(tips, (std::vector<TimeUs>{80 * second_us, 100 * second_us, 120 * second_us, 180 * second_us}));
    }
    /// The sum of hours, days, months and events is the total, whatever the tips are.
    void sumsAgree() {
        std::mt19937_64 random(5);
        std::exponential_distribution<double> pause(1 / 1800.0);
        std::vector<TimeUs> tips;
        for (TimeUs t = at("2026-01-01T00:00:00Z"); tips.size() < 5000; t += from_seconds(0.2 + pause(random)))
            tips.push_back(t);
        const RainTotals r = rain_totals(tips, 0.2, {0.1, 9 * hour_us, 2 * hour_us});
        const auto sum = [](const auto& list) {
            double mm = 0;
            for (const auto& a : list)
                mm += a.mm;
            return mm;
        };
        for (const double mm : {sum(r.hours), sum(r.days), sum(r.months), sum(r.years), sum(r.events)})
            CLOSE(mm, r.total_mm, 1e-6);
    }

    void meanAndGust() {
        std::vector<WindSample> wind;
        for (int i = 0; i < 600; ++i)
            wind.push_back({i * second_us,
                            i >= 300 && i < 303 ? 20.0
                            : i == 100          ? 30.0
                                                : 5.0,
                            i % 2 ? 350.0 : 10.0});
        const WindReport r = wind_report(wind);
        CLOSE(r.gust, 20, 1e-9); // three seconds of 20; one second of 30 is 13.3 over three
        CLOSE(r.mean, (600 * 5 + 3 * 15 + 25) / 600.0, 1e-9);
        QVERIFY(r.direction_deg < 1 || r.direction_deg > 359); // north, not south as the mean of numbers says
        CLOSE(r.steadiness, std::cos(10 * 3.14159265 / 180), 0.001);
        QVERIFY(std::isnan(wind_report({}).mean));
        // A gust may be the first three seconds that there are.
        std::vector<WindSample> first;
        for (int i = 0; i < 10; ++i)
            first.push_back({i * second_us, i >= 1 && i <= 3 ? 12.0 : 3.0, 0});
        CLOSE(wind_report(first).gust, 12, 1e-9);
        // Only the window counts.
        std::vector<WindSample> old = {{0, 40, 0}, {1000 * second_us, 4, 90}};
        CLOSE(wind_report(old).mean, 4, 1e-12);
        CLOSE(wind_report(old).direction_deg, 90, 1e-9);
    }

    void contactsByHand() {
        const auto s = [](double t, bool on) { return SwitchSample{from_seconds(t), on}; };
        // Bounces at 10 s, off for a moment at 12 s, then a second event.
        const std::vector<SwitchSample> line = {s(10, true),  s(10.005, false), s(10.01, true),
                                                s(12, false), s(12.5, true),    s(14, false),
                                                s(60, true),  s(61, false),     s(100, false)};
        EventOptions options;
        options.hold_s = 2;
        const EventReport r = switch_events(line, options);
        QCOMPARE(r.events.size(), std::size_t(2));
        QCOMPARE(r.events[0].start, from_seconds(10));
        QCOMPARE(r.events[0].end, from_seconds(14));
        QCOMPARE(r.events[0].triggers, std::size_t(2));
        QVERIFY(r.bounces >= 1);
        CLOSE(r.per_hour, 2 * 3600.0 / 90, 1e-9);
        CLOSE(r.on_share, (2 + 1.5 + 1) / 90, 0.001);
        QVERIFY(switch_events({}).events.empty());
    }

    void aCountBecomesAFrequency() {
        Collector turns(Collector::Kind::rate, 3);
        double last = 0;
        int results = 0;
        for (int i = 0; i <= 300; ++i) // ten counts a second; the board starts anew in the middle
            if (const auto r = turns.take(i * 100'000, i < 150 ? i : i - 150)) {
                last = r->number;
                ++results;
                CLOSE(last, 10, 0.4);
            }
        QCOMPARE(results, 10);
        Collector one(Collector::Kind::rate, 1);
        one.take(0, 5);
        QVERIFY(!one.take(0, 5));
        // Each line said twice gives the same numbers as said once; time that goes back begins anew.
        Collector once(Collector::Kind::rate, 3), twice(Collector::Kind::rate, 3);
        results = 0;
        for (int i = 0; i < 100; ++i) {
            const auto r = once.take(i * 100'000, i), same = twice.take(i * 100'000, i);
            QVERIFY(!twice.take(i * 100'000, i));
            QCOMPARE(same.has_value(), r.has_value());
            if (!r) continue;
            ++results;
            QCOMPARE(same->number, r->number);
        }
        QCOMPARE(results, 3);
        QVERIFY(!once.take(5 * second_us, 7));
        for (int i = 51; i < 80; ++i)
            QVERIFY(!once.take(i * 100'000, i));
        QVERIFY(once.take(8 * second_us, 80).has_value());
    }
    void aWaveBecomesBeats() {
        Collector heart(Collector::Kind::beats, 1);
        const TimeUs start = at("2026-11-25T14:31:00Z");
        std::vector<double> said;
        double truth = 0;
        for (TimeUs t = start; t < start + 30 * second_us; t += 16'000)
            if (const auto r = heart.take(t, 505 + 150 * demo::pulse_wave(20261, t));
                r && std::isfinite(r->number)) {
                said.push_back(r->number);
                truth = demo::heart_rate(20261, t);
            }
        QVERIFY(said.size() > 20);
        CLOSE(said.back(), truth, 4);
        // A hand that goes away: no number, and why.
        std::string why;
        for (TimeUs t = start + 30 * second_us; t < start + 50 * second_us; t += 16'000)
            if (const auto r = heart.take(t, 300)) why = std::isfinite(r->number) ? "" : r->why;
        QVERIFY2(why.find("No pulse to trust") != std::string::npos, why.c_str());
        // Time that goes back begins anew.
        QVERIFY(!heart.take(start, 500));
    }
    void aThresholdFromARecording() {
        std::vector<double> wave;
        for (int i = 0; i < 1000; ++i)
            wave.push_back(505 + 150 * demo::pulse_wave(20261, i * 20'000));
        const double threshold = threshold_from_recording(wave, 50);
        QVERIFY(std::isfinite(threshold));
        const auto counted = static_cast<double>(threshold_beats(wave, 50, threshold).size());
        CLOSE(counted, static_cast<double>(find_beats(wave, 50).times.size()), 1.01);
        QVERIFY(std::isnan(threshold_from_recording(std::vector<double>(1000, 5.0), 50)));
    }

    void whatItSaysOfRain() {
        const TimeUs now = at("2026-06-02T12:00:00Z");
        const std::vector<TimeUs> tips = {at("2026-06-01T13:00:00Z"), at("2026-06-02T08:00:00Z"),
                                          at("2026-06-02T11:30:00Z")};
        const auto facts = rain_facts(tips, 0.2, now);
        QCOMPARE(value(facts, "Last hour"), std::string("0.2 mm"));
        QCOMPARE(value(facts, "Today"), std::string("0.4 mm"));
        QCOMPARE(value(facts, "Last 24 hours"), std::string("0.6 mm"));
        QCOMPARE(value(facts, "This rain"), std::string("0.4 mm"));
        RainOptions nine;
        nine.day_start = 9 * hour_us;
        QCOMPARE(value(rain_facts(tips, 0.2, now, nine), "Today"), std::string("0.2 mm"));
        QCOMPARE(value(rain_facts({}, 0.2, now), "This rain"), std::string("none"));
        QCOMPARE(value(rain_facts(tips, 0.2, now + day_us), "The last rain"), std::string("0.4 mm"));
        QCOMPARE(value(rain_facts(tips, 0.2, now + 40 * day_us), "This month"), std::string("0.0 mm")); // a dry one
    }
    void whatItSaysOfBeatsAndContacts() {
        std::vector<RawSample> wave;
        for (TimeUs t = 0; t < 12 * second_us; t += 16'000)
            wave.push_back({t, 505 + 150 * demo::pulse_wave(20261, t)});
        const auto facts = beat_facts(wave);
        QVERIFY(value(facts, "By slope and height").ends_with("/min"));
        QVERIFY(value(facts, "By a fixed threshold").ends_with("/min"));
        QVERIFY(facts.back().note.find("no diagnosis") != std::string::npos);
        QCOMPARE(value(beat_facts({}), "Beats"), std::string("—"));
        std::vector<RawSample> jetty;
        for (int i = 0; i < 3600; ++i)
            jetty.push_back({i * second_us, i >= 600 && i < 660 ? 1.0 : 0.0});
        const auto seen = switch_facts(jetty, 3600 * second_us, 30);
        QCOMPARE(value(seen, "Events"), std::string("1"));
        QVERIFY(value(seen, "The last one").ends_with("ago"));
        QCOMPARE(value(switch_facts({}, 0, 1), "Events"), std::string("—"));
        std::vector<RawSample> gale;
        for (int i = 0; i < 700; ++i)
            gale.push_back({i * second_us, 12.0});
        QCOMPARE(value(wind_facts(gale, "m/s"), "Gust"), std::string("12.0 m/s"));
    }
};

RUN_TESTS_OF(TestEvents)
#include "tst_events.moc"
