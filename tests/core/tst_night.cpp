// Night by the sun: against sunset and sunrise minute by minute, where the sun does not set or rise, and as a
// condition of a rule.
#include "core/physics/sun.h"
#include "core/watch/keeper.h"
#include "core/watch/rule_words.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/times.h"

using namespace cognitum;
using test::midsummer;

namespace {

/// Between a sunset and the sunrise after it, looked for in the days around.
bool obvious_night(TimeUs t, const GeoPlace& where, double margin_min) {
    const TimeUs margin = from_seconds(60 * margin_min);
    std::vector<std::pair<TimeUs, bool>> events; ///< true: sunset
    const TimeUs midnight = t / day_us * day_us;
    for (int day = -3; day <= 3; ++day) {
        const auto sun = physics::sun_times(midnight + day * day_us, where.latitude_deg, where.longitude_deg);
        if (sun.sunrise) events.emplace_back(*sun.sunrise, false);
        if (sun.sunset) events.emplace_back(*sun.sunset, true);
    }
    std::sort(events.begin(), events.end());
    for (std::size_t i = 0; i + 1 < events.size(); ++i)
        if (events[i].second && !events[i + 1].second && t >= events[i].first + margin &&
            t < events[i + 1].first - margin)
            return true;
    return false;
}

} // namespace

class TestNight : public QObject {
    Q_OBJECT

  private slots:
    void likeSunsetAndSunrise_data() {
        QTest::addColumn<double>("latitude");
        QTest::addColumn<double>("longitude");
        QTest::addColumn<double>("margin");
        QTest::newRow("in the Channel") << 50.0 << 0.0 << 0.0;
        QTest::newRow("with twilight") << 50.0 << 0.0 << 30.0;
        QTest::newRow("far east") << -35.0 << 150.0 << 20.0;
        QTest::newRow("far west") << 21.0 << -158.0 << 0.0;
        QTest::newRow("a night too short for its margin") << 60.0 << 10.0 << 200.0;
        QTest::newRow("on the line") << 0.0 << 180.0 << 5.0;
    }
    void likeSunsetAndSunrise() {
        QFETCH(double, latitude);
        QFETCH(double, longitude);
        QFETCH(double, margin);
        const GeoPlace where{latitude, longitude};
        Night night(where, margin);
        for (int minute = 0; minute < 4 * 1440; minute += 7) {
            const TimeUs t = midsummer + minute * minute_us;
            QVERIFY2(night(t) == obvious_night(t, where, margin), iso_time(t).c_str());
        }
        for (int minute = 4 * 1440; minute > 0; minute -= 311) { // and a clock that goes back
            const TimeUs t = midsummer + minute * minute_us;
            QVERIFY2(night(t) == obvious_night(t, where, margin), iso_time(t).c_str());
        }
    }
    void whereTheSunDoesNotSetOrRise() {
        Night north({80, 0}, 0);
        QVERIFY(!north(midsummer) && !north(midsummer + 12 * hour_us));
        QVERIFY(north(midsummer + 183 * day_us) && north(midsummer + 183 * day_us + 12 * hour_us));
        // Day by day where it does both again, like the nights between its sunsets and sunrises.
        const GeoPlace lapland{68, 25};
        Night low_sun(lapland, 0);
        for (int hour = 0; hour < 24 * 60; hour += 5) {
            const TimeUs t = midsummer + 40 * day_us + hour * hour_us;
            QVERIFY2(low_sun(t) == obvious_night(t, lapland, 0), iso_time(t).c_str());
        }
        // Around the first sunset in autumn it is night for a short while, never for days.
        int dark = 0;
        for (int hour = 0; hour < 24 * 120; ++hour)
            dark += north(midsummer + 30 * day_us + hour * hour_us);
        QVERIFY2(dark > 100 && dark < 24 * 60, qPrintable(QString::number(dark)));
    }
    void asACondition() {
        Bench bench = test::small_bench();
        WatchRule rule;
        rule.id = rule.name = "lamp";
        WatchCondition c;
        c.reading = "air";
        c.when = WatchWhen::night;
        rule.conditions = {c};
        bench.watch_rules = {rule};
        WatchKeeper keeper;
        std::vector<RuleEvent> events;
        const auto passed = [&] {
            events.clear();
            keeper.set_rules(bench.watch_rules, bench);
            for (int minute = 12 * 60; minute < 60 * 60;
                 ++minute) { // no line at all, from noon to noon to midnight
                if (minute % 60 == 0) keeper.take("air", midsummer + minute * minute_us, 20, events);
                keeper.pass(midsummer + minute * minute_us, events);
            }
            QStringList out;
            for (const RuleEvent& e : events)
                out << QString::fromStdString(iso_time(e.event.time).substr(8, 5) + " " +
                                              watch_kind_word(e.event.kind));
            return out;
        };
        QCOMPARE(passed(), QStringList()); // nobody said where
        bench.where = GeoPlace{50, 0};
        QCOMPARE(passed(), (QStringList{"19T20 raised", "20T03 cleared", "20T20 raised", "21T03 cleared"}));
        QCOMPARE(test::plain(event_says(bench.watch_rules[0], events[0].event, bench)),
                 std::string("Air: lamp. The sun is down."));
        // Dark by the sensor while it is night: a hand on the sensor at noon says nothing.
        bench.watch_rules[0].conditions[0].when = WatchWhen::below;
        bench.watch_rules[0].conditions[0].value = 25;
        c.join = WatchJoin::only;
        bench.watch_rules[0].conditions.push_back(c);
        const QStringList both = passed();
        QCOMPARE(both.filter("raised").size(), 1); // it stays dark: once
        QVERIFY2(both[0].startsWith("19T21") || both[0].startsWith("19T20"), qPrintable(both[0]));
        bench.watch_rules[0].conditions = {c};
        bench.watch_rules[0].count = 3;
        QVERIFY(!defect_of(bench.watch_rules[0]).empty());
        bench.watch_rules[0].count = 1;
        bench.watch_rules[0].conditions[0].value = 300;
        QVERIFY(!defect_of(bench.watch_rules[0]).empty());
    }
};

RUN_TESTS_OF(TestNight)
#include "tst_night.moc"
