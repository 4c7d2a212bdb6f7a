// What a stretch amounts to, against a slow model that looks at every second, and by worked examples; and the
// calendar that months are cut by.
#include "core/base/calendar.h"
#include "core/stretch/stretch.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/times.h"

#include <cmath>
#include <map>
#include <random>

using namespace cognitum;
using test::june;

namespace {

struct Point {
    TimeUs time = 0;
    double value = 0;
    Cause cause = Cause::none;
};

StretchFigures counted_over(const std::vector<Point>& points, TimeUs from, TimeUs to, StretchRules rules) {
    UsualStep step;
    for (const Point& p : points)
        if (p.time >= from && p.time < to) step.take(p.time);
    if (rules.usual == 0) rules.usual = step.median();
    StretchCounter counter(from, to, rules);
    for (const Point& p : points)
        counter.take(p.time, p.value, p.cause);
    return counter.finish();
}

/// Every second of the stretch by itself: the sample that holds there, and for how long it may.
struct SlowModel {
    double covered = 0, total = 0, in_gaps = 0;
    std::map<Zone, double> zones;

    SlowModel(const std::vector<Point>& points, TimeUs from, TimeUs to, const StretchRules& rules) {
        const TimeUs gap = steps_to_a_gap * rules.usual;
        std::vector<Zone> zone_after;
        Zone zone = Zone::unknown;
        for (const Point& p : points) {
            if (std::isfinite(p.value) && rules.bands) zone = next_zone(zone, p.value, *rules.bands);
            zone_after.push_back(zone);
        }
        for (TimeUs t = from; t < to; t += second_us) {
            std::size_t at = points.size();
            for (std::size_t i = 0; i < points.size() && points[i].time <= t; ++i)
                at = i;
            if (at == points.size() || !std::isfinite(points[at].value)) continue;
            const bool last = at + 1 == points.size();
            const bool long_step = last || points[at + 1].time - points[at].time > gap;
            if (long_step && t >= points[at].time + rules.usual) continue;
            covered += 1;
            if (rules.bands) zones[zone_after[at]] += 1;
        }
        covered /= seconds(to - from);
        double before = no_number;
        TimeUs before_at = 0;
        for (const Point& p : points) {
            if (!std::isfinite(p.value)) continue;
            if (std::isfinite(before)) {
                const double grown = p.value >= before ? p.value - before : p.value;
                if (p.time - before_at <= gap) {
                    if (p.time >= from && p.time < to) total += grown;
                } else { // second by second
                    for (TimeUs t = before_at; t < p.time; t += second_us)
                        if (t >= from && t < to) {
                            const double part = grown / seconds(p.time - before_at);
                            total += part;
                            in_gaps += part;
                        }
                }
            }
            before = p.value;
            before_at = p.time;
        }
    }
};

std::vector<Point> every_minute(int n, const std::function<double(int)>& value, TimeUs start = june) {
    std::vector<Point> out;
    for (int i = 0; i < n; ++i)
        out.push_back({start + i * minute_us, value(i), Cause::none});
    return out;
}

} // namespace

class TestStretch : public QObject {
    Q_OBJECT

  private slots:
    void aWholeDayIsCoveredWholly() {
        const auto points = every_minute(1440, [](int i) { return 10 + (i == 700 ? 5 : 0) - (i == 90 ? 3 : 0); });
        const StretchFigures s = counted_over(points, june, june + day_us, {});
        QCOMPARE(s.n, std::uint64_t(1440));
        QCOMPARE(s.valued, std::uint64_t(1440));
        CLOSE(s.coverage, 1.0, 1e-12);
        CLOSE(s.least, 7.0, 0);
        QCOMPARE(s.least_at, june + 90 * minute_us);
        CLOSE(s.most, 15.0, 0);
        QCOMPARE(s.most_at, june + 700 * minute_us);
        CLOSE(s.mean, 10 + 2.0 / 1440, 1e-12);
        QVERIFY(s.gaps.empty() && s.failures.empty() && !s.total);
    }

    void nothingGivesNoNumbers() {
        const StretchFigures s =
            counted_over({}, june, june + day_us, {.usual = minute_us, .adds = Adds::running_total});
        QVERIFY(std::isnan(s.least) && std::isnan(s.mean) && std::isnan(s.most) && !s.total);
        CLOSE(s.coverage, 0.0, 0);
        QCOMPARE(s.gaps.size(), std::size_t(1));
        QVERIFY((s.gaps[0] == Interval{june, june + day_us}));
        // Samples on both sides of the stretch, none within.
        const StretchFigures around =
            counted_over({{june - hour_us, 3}, {june + 2 * day_us, 9}}, june, june + day_us,
                         {.usual = minute_us, .adds = Adds::running_total});
        QVERIFY(!around.total);
        CLOSE(around.coverage, 0.0, 0);
    }

    void theEndIsExcluded() {
        const auto points = every_minute(121, [](int i) { return double(i); });
        const StretchFigures s = counted_over(points, june, june + hour_us, {});
        QCOMPARE(s.n, std::uint64_t(60));
        CLOSE(s.most, 59.0, 0);
        CLOSE(s.last, 59.0, 0);
        CLOSE(s.per_hour, 60.0, 1e-9);
    }

    void failuresAreNoValuesAndCoverNothing() {
        auto points = every_minute(60, [](int) { return 20.0; });
        for (int i = 30; i < 45; ++i)
            points[std::size_t(i)] = {points[std::size_t(i)].time, no_number,
                                      i < 40 ? Cause::failed : Cause::missing};
        const StretchFigures s = counted_over(points, june, june + hour_us, {});
        QCOMPARE(s.n, std::uint64_t(60));
        QCOMPARE(s.valued, std::uint64_t(45));
        CLOSE(s.coverage, 0.75, 1e-12);
        QVERIFY(s.gaps.empty()); // lines came
        QCOMPARE(s.failures.size(), std::size_t(2));
        QCOMPARE(s.failures[0].n, std::uint64_t(10));
        QVERIFY(s.failures[0].cause == Cause::failed && s.failures[1].cause == Cause::missing);
    }

    void aGapIsLongerThanFiveSteps() {
        for (const int missing : {4, 5}) { // minutes without a line: a step of five, and of six
            auto points = every_minute(60, [](int) { return 1.0; });
            points.erase(points.begin() + 20, points.begin() + 20 + missing);
            const StretchFigures s = counted_over(points, june, june + hour_us, {});
            QCOMPARE(s.gaps.size(), std::size_t(missing == 5));
            CLOSE(s.coverage, missing == 5 ? 55.0 / 60 : 1.0, 1e-12);
        }
    }

    void bandsHoldUntilTheNextValue() {
        const Bands bands{10, 20, 1};
        // Low until it is above 11, then in range, then high.
        const auto points = every_minute(60, [](int i) {
            return i < 10 ? 9.0 : i < 20 ? 10.5 : i < 50 ? 15.0 : 25.0;
        });
        const StretchFigures s = counted_over(points, june, june + hour_us, {.bands = bands});
        QCOMPARE(s.bands.size(), std::size_t(3));
        QVERIFY(s.bands[0].name == "low" && s.bands[1].name == "in range" && s.bands[2].name == "high");
        CLOSE(s.bands[0].seconds, 1200.0, 1e-9);
        CLOSE(s.bands[1].seconds, 1800.0, 1e-9);
        CLOSE(s.bands[2].seconds, 600.0, 1e-9);
    }

    void aStateIsOnForSoLong() {
        std::vector<Point> points = {
            {june, 0}, {june + 600 * second_us, 1}, {june + 900 * second_us, 0}, {june + 1800 * second_us, 0}};
        const StretchFigures s = counted_over(points, june, june + 1800 * second_us,
                                              {.usual = 600 * second_us, .on_word = "moves", .off_word = "still"});
        QCOMPARE(s.bands.size(), std::size_t(2));
        CLOSE(s.bands[0].seconds, 300.0, 1e-9);
        CLOSE(s.bands[1].seconds, 1500.0, 1e-9);
    }

    void aTotalGoesOnOverARestart() {
        // 0.2 mm a tip: grows to 1.0, the board restarts, grows to 0.6.
        const double values[] = {5.0, 5.2, 5.2, 6.0, 0.0, 0.2, 0.6};
        const auto points = every_minute(7, [&](int i) { return values[i]; });
        const StretchFigures s = counted_over(points, june, june + hour_us, {.adds = Adds::running_total});
        CLOSE(*s.total, 1.6, 1e-9);
        // The first value's own line is before the stretch: its growth is not in it.
        const StretchFigures later = counted_over(points, june + 2 * minute_us, june + 4 * minute_us,
                                                  {.usual = minute_us, .adds = Adds::running_total});
        CLOSE(*later.total, 0.8, 1e-9);
        // Another counter is no cloudburst.
        const StretchFigures bounded =
            counted_over({{june, 1}, {june + minute_us, 5000}, {june + 2 * minute_us, 5001}}, june, june + hour_us,
                         {.adds = Adds::running_total, .most_step = 200});
        CLOSE(*bounded.total, 1.0, 1e-9);
    }

    void whatCameInAGapIsSpreadAndSaid() {
        std::vector<Point> points = every_minute(10, [](int) { return 2.0; });
        points.push_back({june + 129 * minute_us, 6.0}); // two hours later, four more
        const StretchFigures first =
            counted_over(points, june, june + 69 * minute_us, {.usual = minute_us, .adds = Adds::running_total});
        CLOSE(*first.total, 2.0, 1e-9);
        CLOSE(first.in_gaps, 2.0, 1e-9);
        QCOMPARE(first.gaps.size(), std::size_t(1));
    }

    void totalsOfPartsAddUp() {
        std::mt19937 draw(11);
        std::vector<Point> points;
        double total = 3;
        TimeUs t = june;
        for (int i = 0; i < 3000; ++i) {
            t += second_us * (draw() % 40 == 0 ? 3000 : 50 + int(draw() % 20));
            total = draw() % 300 == 0 ? 0.2 : total + 0.2 * double(draw() % 3);
            points.push_back({t, total});
        }
        const StretchRules rules{.usual = minute_us, .adds = Adds::running_total};
        const StretchFigures whole = counted_over(points, june, t + minute_us, rules);
        double sum = 0;
        double covered = 0;
        for (TimeUs from = june; from < t + minute_us; from += 7 * hour_us) {
            const TimeUs to = std::min(from + 7 * hour_us, t + minute_us);
            const StretchFigures part = counted_over(points, from, to, rules);
            sum += part.total.value_or(0);
            covered += part.coverage * seconds(to - from);
        }
        CLOSE(sum, *whole.total, 1e-6);
        CLOSE(covered, whole.coverage * seconds(whole.to - whole.from), 1e-3);
    }

    void theSlowModelAgrees_data() {
        QTest::addColumn<int>("seed");
        for (int seed = 1; seed <= 25; ++seed)
            QTest::addRow("seed %d", seed) << seed;
    }
    void theSlowModelAgrees() {
        QFETCH(int, seed);
        std::mt19937 draw(static_cast<unsigned>(seed));
        std::vector<Point> points;
        TimeUs t = june - 900 * second_us;
        double value = 15;
        double counter = 0;
        const bool counts = seed % 2 == 0;
        while (t < june + 2 * hour_us) {
            t += second_us * (draw() % 15 == 0 ? 40 + int(draw() % 900) : 8 + int(draw() % 5));
            value += (double(draw() % 1000) / 500 - 1) * 1.5;
            counter = draw() % 90 == 0 ? 0.4 : counter + 0.2 * double(draw() % 4 == 0);
            const bool failed = draw() % 12 == 0;
            points.push_back({t,
                              failed   ? no_number
                              : counts ? counter
                                       : value,
                              failed ? Cause::failed : Cause::none});
        }
        const TimeUs from = june + second_us * int(draw() % 600);
        const TimeUs to = from + second_us * (900 + int(draw() % 4000));
        const StretchRules rules{.usual = 10 * second_us,
                                 .bands = Bands{13, 17, 0.5},
                                 .adds = counts ? Adds::running_total : Adds::nothing};
        const StretchFigures s = counted_over(points, from, to, rules);
        const SlowModel slow(points, from, to, rules);
        CLOSE(s.coverage, slow.covered, 1e-9);
        for (const BandTime& b : s.bands)
            for (const auto& [zone, held] : slow.zones)
                if (b.name == zone_word(zone)) CLOSE(b.seconds, held, 1e-6);
        if (!counts) return;
        CLOSE(s.total.value_or(0), s.valued > 0 ? slow.total : 0, 1e-9);
        CLOSE(s.in_gaps, slow.in_gaps, 1e-9);
    }

    void noiseIsToldFromASlowChange() {
        std::mt19937 draw(5);
        std::normal_distribution<double> normal(0, 0.3);
        const auto noisy = every_minute(20000, [&](int i) { return 15 + 8 * std::sin(i / 400.0) + normal(draw); });
        CLOSE(counted_over(noisy, june, june + 20000 * minute_us, {}).noise, 0.3, 0.01);
    }

    void theUsualStepIsTheMedian() {
        UsualStep even;
        for (int i = 0; i < 5; ++i)
            even.take(june + i * 600 * second_us);
        QCOMPARE(even.median(), 600 * second_us);
        UsualStep gaps; // one in three is a long pause
        TimeUs t = june;
        for (int i = 0; i < 300; ++i)
            gaps.take(t += i % 3 == 0 ? 4 * hour_us : 180 * second_us);
        QCOMPARE(gaps.median(), 180 * second_us);
        QCOMPARE(UsualStep().median(), TimeUs(0));
    }

    /// A band ends with its limit, and the last one never.
    void aValueAtTheEndOfANamedBandIsInIt() {
        StretchRules rules;
        rules.usual = second_us;
        rules.named_bands = {
            {"out", 60, WatchRank::note}, {"burns", 400, WatchRank::note}, {"hot", 500, WatchRank::bad}};
        const StretchFigures s = counted_over({{june, 60},
                                               {june + second_us, std::nextafter(60, 61)},
                                               {june + 2 * second_us, 400},
                                               {june + 3 * second_us, 400},
                                               {june + 4 * second_us, 501}},
                                              june, june + 5 * second_us, rules);
        QCOMPARE(s.bands.size(), std::size_t(3));
        for (const auto& [i, lasted] : {std::pair(0, 1.0), {1, 3.0}, {2, 1.0}})
            CLOSE(s.bands[static_cast<std::size_t>(i)].seconds, lasted, 1e-9);
    }

    void amountsAreToldFromATotal() {
        const auto verdict = [](std::initializer_list<double> values) {
            AddsJudge judge;
            for (const double v : values)
                judge.take(v);
            return judge.verdict();
        };
        QVERIFY(verdict({0, 0, 0.4, 1.2, 0.2, 0, 0, 3.4, 0}) == Adds::amounts);
        QVERIFY(verdict({0, 0, 0.4, 1.6, 1.8, 1.8, 1.8, 5.2, 5.2}) == Adds::running_total);
        QVERIFY(verdict({0, 0.4, 0.4, 0.4, 0, 0, 1.2, 1.2, 1.4, 1.4, 0}) == Adds::running_total); // "rain today"
        QVERIFY(verdict({0, 0, 0}) == Adds::running_total);
        QVERIFY(verdict({0.4, 0.4, 0.1, 0.3, 0, 2, 0}) == Adds::amounts); // two alike are no total yet
        const StretchFigures s = counted_over({{june, 4.2}, {june + day_us, 0}, {june + 2 * day_us, 1.1}}, june,
                                              june + 3 * day_us, {.adds = Adds::amounts});
        CLOSE(*s.total, 5.3, 1e-12);
        CLOSE(s.coverage, 1.0, 1e-12);
    }

    // The calendar.

    void monthsFollowTheLocalClock() {
        // Two hours ahead until 2026-10-25T01:00Z, then one.
        const TimeUs change = *parse_time("2026-10-25T01:00:00Z");
        const ZoneOffset zone = [=](TimeUs t) { return (t < change ? 2 : 1) * hour_us; };
        const auto months =
            calendar_periods(Period::month, *parse_time("2026-09-15"), *parse_time("2026-11-02"), zone);
        QCOMPARE(months.size(), std::size_t(3));
        QCOMPARE(QString::fromStdString(months[0].label), QStringLiteral("2026-09"));
        QCOMPARE(QString::fromStdString(iso_time(months[1].from)), QStringLiteral("2026-09-30T22:00:00.000Z"));
        QCOMPARE(QString::fromStdString(iso_time(months[1].to)), QStringLiteral("2026-10-31T23:00:00.000Z"));
        const auto days = calendar_periods(Period::day, change - 2 * hour_us, change, zone);
        QCOMPARE(days.size(), std::size_t(1));
        QCOMPARE(days[0].to - days[0].from, 25 * hour_us); // the long day
    }

    void clocksThatJumpAreRead() {
        const TimeUs spring = *parse_time("2026-03-29T01:00:00Z"); // 02:00 becomes 03:00
        const TimeUs autumn = *parse_time("2026-10-25T01:00:00Z"); // 03:00 becomes 02:00
        const ZoneOffset zone = [=](TimeUs t) { return (t >= spring && t < autumn ? 2 : 1) * hour_us; };
        QCOMPARE(from_local(*parse_time("2026-03-29T02:30:00Z"), zone), spring); // nobody's clock showed it
        QCOMPARE(from_local(*parse_time("2026-10-25T02:30:00Z"), zone), autumn - 30 * minute_us); // the first time
        for (TimeUs t = spring - 3 * day_us; t < autumn + 3 * day_us; t += 7 * hour_us + 1)
            QVERIFY(std::abs(from_local(to_local(t, zone), zone) - t) <= hour_us);
    }

    void periodsMeetWithoutGaps() {
        for (const Period period : {Period::day, Period::month, Period::season, Period::year}) {
            const auto list =
                calendar_periods(period, *parse_time("2023-11-20"), *parse_time("2028-03-05"), {}, 9 * hour_us);
            QVERIFY(list.front().from <= *parse_time("2023-11-20") && list.back().to >= *parse_time("2028-03-05"));
            for (std::size_t i = 1; i < list.size(); ++i)
                QCOMPARE(list[i].from, list[i - 1].to);
        }
        const auto seasons = calendar_periods(Period::season, *parse_time("2026-01-10"), *parse_time("2026-12-20"));
        QStringList labels;
        for (const CalendarPeriod& p : seasons)
            labels << QString::fromStdString(p.label);
        QCOMPARE(labels.join(','), QStringLiteral("2026 winter,2026 spring,2026 summer,2026 autumn,2027 winter"));
        const auto leap = calendar_periods(Period::month, *parse_time("2028-02-10"), *parse_time("2028-02-11"));
        QCOMPARE(leap[0].to - leap[0].from, 29 * day_us);
        // Before 09:00 it is still the day before, and the month before.
        const auto early = calendar_periods(Period::month, *parse_time("2026-07-01T08:00:00Z"),
                                            *parse_time("2026-07-01T08:30:00Z"), {}, 9 * hour_us);
        QCOMPARE(QString::fromStdString(early[0].label), QStringLiteral("2026-06"));
    }
};

RUN_TESTS_OF(TestStretch)
#include "tst_stretch.moc"
