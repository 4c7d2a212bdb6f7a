// A record by the hour and what is read from it, against slow sums over all of its lines.
#include "core/base/no_number.h"
#include "core/watch/corridor.h"
#include "core/watch/hours.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/times.h"

#include <cmath>
#include <random>

using namespace cognitum;
using test::june;
using test::sec;

namespace {

struct TimedLine {
    TimeUs time = 0;
    double value = no_number;
};

HourlyRecord by_hour(const std::vector<TimedLine>& lines) {
    HourCounter counter;
    for (const TimedLine& line : lines)
        counter.take(line.time, line.value);
    return counter.finish();
}

/// A level that falls by `each_hour` in every hour, a line every ten minutes.
std::vector<TimedLine> falling(int hours, double each_hour, TimeUs from = june) {
    std::vector<TimedLine> out;
    for (int i = 0; i < hours * 6; ++i)
        out.push_back({from + i * 10 * minute_us, 1000 - each_hour * i / 6.0});
    return out;
}

TimedSession led_session(TimeUs from, TimeUs to, const char* leads = "jar") {
    TimedSession out;
    out.from = from;
    out.to = to;
    out.readings = {leads};
    return out;
}

} // namespace

class TestHours : public QObject {
    Q_OBJECT

  private slots:
    void hoursAreSumsOfTheirLines() {
        std::mt19937_64 random(21);
        for (int turn = 0; turn < 40; ++turn) {
            std::vector<TimedLine> lines;
            TimeUs time = june - 5 * hour_us + static_cast<TimeUs>(random() % 3600) * sec;
            for (int i = 0; i < 400; ++i) {
                time += static_cast<TimeUs>(1 + random() % 1200) * sec;
                lines.push_back({time, random() % 9 == 0 ? no_number : static_cast<double>(random() % 100)});
            }
            const HourlyRecord record = by_hour(lines);
            QCOMPARE(record.lines, std::uint64_t(400));
            QCOMPARE(record.first, lines.front().time);
            QCOMPARE(record.last, lines.back().time);
            std::size_t valued = 0;
            for (const HourFigures& hour : record.hours) {
                QCOMPARE(hour.from % hour_us, TimeUs(0));
                double sum = 0, low = 1e9, high = -1e9;
                std::uint64_t n = 0;
                for (const TimedLine& line : lines)
                    if (line.time >= hour.from && line.time < hour.from + hour_us && !std::isnan(line.value)) {
                        sum += line.value;
                        low = std::min(low, line.value);
                        high = std::max(high, line.value);
                        ++n;
                    }
                QCOMPARE(hour.n, n);
                CLOSE(hour.mean(), sum / double(n), 1e-9);
                CLOSE(hour.low, low, 0);
                CLOSE(hour.high, high, 0);
                valued += n;
            }
            QCOMPARE(std::size_t(record.valued), valued);
        }
    }
    /// Before 1970 hours still begin at their whole hour, not after it.
    void timesBeforeTheEpoch() {
        const HourlyRecord record = by_hour({{-10 * minute_us, 1}, {-hour_us, 2}, {10 * minute_us, 3}});
        QCOMPARE(record.hours.size(), std::size_t(2));
        QCOMPARE(record.hours[0].from, -hour_us);
        QCOMPARE(record.hours[1].from, TimeUs(0));
    }
    /// White noise of 0.5 around a slow climb: the climb is no noise.
    void noiseLeavesOutWhatIsSlow() {
        std::mt19937_64 random(22);
        std::normal_distribution<double> scatter(0, 0.5);
        HourCounter counter;
        for (int i = 0; i < 20000; ++i)
            counter.take(june + i * sec, i * 0.001 + scatter(random));
        CLOSE(counter.finish().noise, 0.5, 0.02);
        QCOMPARE(by_hour({{june, 7}}).noise, 0.0);
        QCOMPARE(by_hour({}).noise, 0.0);
    }
    /// A gauge that was set back to zero: 3 + 2 before, 4 after. A door that opens twice.
    void growthAndComingOn() {
        const HourlyRecord rain =
            by_hour({{june, 10}, {june + sec, 13}, {june + 2 * sec, 15}, {june + 3 * sec, 4}});
        CLOSE(rain.hours[0].grown, 9, 1e-12);
        const HourlyRecord door =
            by_hour({{june, 0}, {june + sec, 1}, {june + 2 * sec, 1}, {june + 3 * sec, 0}, {june + 4 * sec, 1}});
        QCOMPARE(door.hours[0].came_on, 2);
        QCOMPARE(by_hour({{june, 1}}).hours[0].came_on, 0); // nobody saw it come on
    }
    void usualStepAndLongGap() {
        std::vector<TimedLine> lines;
        TimeUs time = june;
        for (int i = 0; i < 5000; ++i)
            lines.push_back({time += i == 2500 ? 7200 * sec : 60 * sec, 1});
        const HourlyRecord record = by_hour(lines);
        CLOSE(seconds(record.usual), 60, 1.2); // within its bins of 2 %
        CLOSE(seconds(record.long_gap), 60, 1.2);
        CLOSE(record.days(), (4998 * 60.0 + 7200) / 86400, 1e-9);
    }
    void quantilesOfHourlyMeans() {
        std::vector<TimedLine> lines;
        for (int hour = 0; hour < 101; ++hour)
            lines.push_back({june + hour * hour_us, static_cast<double>((hour * 37) % 101)});
        const HourlyRecord record = by_hour(lines);
        for (const double share : {0.0, 0.25, 0.5, 0.9, 1.0})
            CLOSE(record.quantile(share), share * 100, 1e-9);
        QVERIFY(std::isnan(by_hour({}).quantile(0.5)));
    }

    /// 3 an hour, all day: any night says 3 and no scatter. An hour that is missing is no fall over two hours.
    void nightsSayHowFastItFalls() {
        const NightFalls steady = night_falls(by_hour(falling(24 * 10, 3)), 1, 5, {});
        QCOMPARE(steady.hours, std::size_t(30)); // from 1 to 4, three steps in each of ten nights
        CLOSE(steady.median, 3, 1e-9);
        CLOSE(steady.scatter, 0, 1e-9);
        std::vector<TimedLine> lines = falling(24, 3);
        std::erase_if(lines, [](const TimedLine& line) {
            return line.time >= june + 2 * hour_us && line.time < june + 3 * hour_us;
        });
        const NightFalls broken = night_falls(by_hour(lines), 1, 5, {});
        QCOMPARE(broken.hours, std::size_t(1)); // from 3 to 4 alone
        CLOSE(broken.median, 3, 1e-9);
        QCOMPARE(night_falls(by_hour({}), 1, 5, {}).hours, std::size_t(0));
    }
    /// The night is that of the clock on the wall: two hours ahead of UTC the hours from 1 to 5 begin at 23 UTC.
    void nightsAreLocal() {
        std::vector<TimedLine> lines;
        for (int i = 0; i < 24 * 6 * 4; ++i) {
            const double hour = std::fmod(i / 6.0, 24);
            const bool draws = hour >= 3 && hour < 23; // by UTC
            lines.push_back(
                {june + i * 10 * minute_us, (lines.empty() ? 10000 : lines.back().value) - (draws ? 50.0 : 0.5)});
        }
        const ZoneOffset two_ahead = [](TimeUs) { return 2 * hour_us; };
        CLOSE(night_falls(by_hour(lines), 1, 5, two_ahead).median, 3, 0.1);
        QVERIFY(night_falls(by_hour(lines), 1, 5, {}).median > 50);
    }

    void sessionsThatOverlapEndEachOther() {
        Bench bench;
        bench.sessions = {led_session(june + 4 * day_us, june + 9 * day_us), led_session(june, june + 6 * day_us),
                          led_session(june + 2 * day_us, june + 3 * day_us, "other")};
        const auto runs = corridor_runs(bench, "jar");
        QCOMPARE(runs.size(), std::size_t(2));
        QCOMPARE(runs[0].to, june + 4 * day_us);
        QCOMPARE(runs[1].to, june + 9 * day_us);
        QVERIFY(!corridor_day(runs, june - 1));
        CLOSE(corridor_day(runs, june).value_or(-1), 1, 0);
        CLOSE(corridor_day(runs, june + 36 * hour_us).value_or(-1), 2.5, 1e-12);
        CLOSE(corridor_day(runs, june + 4 * day_us).value_or(-1), 1, 0); // the next one's first day
        QVERIFY(corridor_day(runs, june + 9 * day_us - 1));
        QVERIFY(!corridor_day(runs, june + 9 * day_us));
    }
    void aStepHoldsFromItsDayOn() {
        const std::vector<CorridorStep> steps = {{2, 18, 20}, {5, 20, 22}};
        QVERIFY(!corridor_step(steps, 1.999));
        CLOSE(corridor_step(steps, 2)->low, 18, 0);
        CLOSE(corridor_step(steps, 4.999)->low, 18, 0);
        CLOSE(corridor_step(steps, 5)->low, 20, 0);
        CLOSE(corridor_step(steps, 1000)->high, 22, 0);
        QVERIFY(!corridor_step({}, 3));
    }
};

RUN_TESTS_OF(TestHours)
#include "tst_hours.moc"
