// Controls of loads as a plan has them: what a change of the plan does to one that acts, whose limits follow the
// doubt, and what is refused.
#include "support/garden.h"
#include "support/run_tests.h"
#include "support/times.h"

using namespace cognitum;
using test::sec;

namespace {

using test::Bed;
using test::garden;
using test::looks;

DoubtOf doubt_of_cistern(double doubt) {
    return [doubt](const Reading& r, double) { return r.id == "cistern" ? doubt : 0; };
}

} // namespace

class TestLoadPlans : public QObject {
    Q_OBJECT

  private slots:
    void aLimitIsMovedByItsDoubt() {
        Bench bench = garden();
        bench.controls[0].never_while = {looks("cistern", WatchWhen::below, 250, 300)};
        const auto on_at = [&](double litres, double doubt) {
            Bed bed(bench, doubt_of_cistern(doubt));
            bed.at(1, 20, litres);
            return bed.judge.on();
        };
        QVERIFY(on_at(255, 0) && !on_at(255, 9) && on_at(260, 9));
        QVERIFY(on_at(900, std::nan("")));           // a doubt that nobody stated moves nothing
        QVERIFY(!on_at(1400, 800));                  // a number that may be anything says nothing
        bench.readings[1].quantity.kind = "contact"; // a door's state has no doubt that could be half of its range
        bench.controls[0].never_while[0].clear = {};
        QVERIFY(on_at(900, 800));
        QCOMPARE(careful(looks("x", WatchWhen::above, 30, 28), 2).value, 28.0);
        QCOMPARE(*careful(looks("x", WatchWhen::above, 30, 28), 2).clear, 26.0);
        WatchCondition band = looks("x", WatchWhen::outside, 10);
        band.upper = 20;
        QCOMPARE(careful(band, 2).value, 12.0);
        QCOMPARE(careful(band, 2).upper, 18.0);
        QCOMPARE(careful(band, 6).value, 10.0); // nothing would be left of it
    }
    /// A calibration while the pump may run: its interlock goes by the new doubt, and nothing else changes.
    void aNewDoubtIsAskedFor() {
        Bench bench = garden();
        bench.controls[0].never_while = {looks("cistern", WatchWhen::below, 250, 250)};
        LoadKeeper keeper;
        std::vector<ControlEvent> events;
        const auto on_with = [&](double doubt, int second) {
            keeper.set_plan(bench, doubt_of_cistern(doubt), second * sec, events);
            keeper.take("cistern", second * sec, 255, events);
            keeper.take("bed", second * sec, 20, events);
            return keeper.judge("water")->on();
        };
        QVERIFY(on_with(0, 1));
        QVERIFY(!on_with(9, 2));
        QVERIFY(on_with(2, 3));
        QVERIFY(!on_with(800, 4)); // it may be anything now
        QVERIFY(on_with(0, 5));
        for (const ControlEvent& e : events) // it was never ended and begun anew
            QVERIFY(e.event.cause != LoadCause::not_acting);
    }
    /// A bench that is moved, or whose place is said, has another night at once.
    void aPlaceIsAskedFor() {
        Bench bench = garden();
        bench.watch_rules[0].conditions = {looks("bed", WatchWhen::night, 0)};
        bench.where = GeoPlace{50, 0};
        constexpr TimeUs june_midnight = 1781827200LL * sec;
        LoadKeeper keeper;
        std::vector<ControlEvent> events;
        keeper.set_plan(bench, {}, june_midnight, events);
        keeper.pass(june_midnight + sec, events);
        QVERIFY(keeper.judge("water")->on());
        bench.where = GeoPlace{50, 180}; // noon
        keeper.set_plan(bench, {}, june_midnight + 2 * sec, events);
        keeper.pass(june_midnight + 3 * sec, events);
        QVERIFY(!keeper.judge("water")->on());
    }
    void plansThatChange() {
        Bench bench = garden();
        LoadKeeper keeper;
        std::vector<ControlEvent> events;
        keeper.set_plan(bench, {}, 0, events);
        keeper.take("bed", sec, 20, events);
        QCOMPARE(events.size(), std::size_t(1));
        events.clear();
        bench.controls[0].name = "Another name";
        bench.controls[0].on_line = "load pump on";
        bench.watch_rules[0].rank = WatchRank::bad;
        bench.watch_rules[0].repeat_s = 3600; // people are told again; the pump runs on
        keeper.set_plan(bench, {}, 2 * sec, events);
        QVERIFY(events.empty() && keeper.judge("water")->on());
        bench.watch_rules[0].on = false; // it follows nothing any more
        keeper.set_plan(bench, {}, 3 * sec, events);
        QCOMPARE(events.size(), std::size_t(1));
        QVERIFY(!events[0].event.on && events[0].event.cause == LoadCause::not_acting);
        QVERIFY(!keeper.judge("water"));
        QVERIFY(test::plain(why_not(bench.controls[0], bench)).find("is off") != std::string::npos);
        bench.watch_rules[0].on = true;
        bench.controls[0].never_while = {looks("cistern", WatchWhen::night, 0)};
        QVERIFY(why_not(bench.controls[0], bench).find("where the bench stands") != std::string::npos);
        bench.where = GeoPlace{50, 0};
        QCOMPARE(why_not(bench.controls[0], bench), std::string());
        bench.readings.erase(bench.readings.begin());
        QVERIFY(why_not(bench.controls[0], bench).find("gone") != std::string::npos);
    }
    void defects_data() {
        QTest::addColumn<std::function<void(LoadControl&)>>("spoil");
        QTest::addColumn<QString>("says");
        using Spoil = std::function<void(LoadControl&)>;
        const auto row = [](const char* name, const Spoil& spoil, const char* says) {
            QTest::newRow(name) << spoil << QString(says);
        };
        row(
            "longest below least", [](LoadControl& c) { c.least_on_s = 60, c.longest_on_s = 30; }, "shorter than");
        row(
            "rest without a longest run", [](LoadControl& c) { c.rest_s = 5; }, "has none");
        row(
            "not a number", [](LoadControl& c) { c.least_off_s = std::nan(""); }, "length of time");
        row(
            "two lines in one", [](LoadControl& c) { c.on_line = "on\noff"; }, "one line");
        row(
            "no line", [](LoadControl& c) { c.off_line = ""; }, "a line for off");
        row(
            "the same line", [](LoadControl& c) { c.on_line = c.off_line; }, "same line");
        row(
            "seconds without a time-out", [](LoadControl& c) { c.time_out_s = 0; }, "{s}");
        row(
            "seconds in off", [](LoadControl& c) { c.off_line = "off {s}"; }, "only the line for on");
        row(
            "a time-out of a second", [](LoadControl& c) { c.time_out_s = 1; }, "at least 3 s");
        row(
            "a topic with a hash", [](LoadControl& c) { c.topic = "a/#"; }, "no + and no #");
        row(
            "an effect on nothing",
            [](LoadControl& c) {
                c.effects = {{"", 1, 0}};
            },
            "needs a reading");
        row(
            "a limit that is none",
            [](LoadControl& c) { c.never_while = {looks("x", WatchWhen::below, 250, 200)}; }, "cannot be over");
    }
    void defects() {
        QFETCH(std::function<void(LoadControl&)>, spoil);
        QFETCH(QString, says);
        LoadControl c = garden().controls[0];
        QCOMPARE(defect_of(c), std::string());
        QCOMPARE(load_line(c, true), std::string("load pump on 60"));
        QCOMPARE(load_line(c, false), std::string("load pump off"));
        spoil(c);
        QVERIFY2(QString::fromStdString(defect_of(c)).contains(says), defect_of(c).c_str());
    }
};

RUN_TESTS_OF(TestLoadPlans)
#include "tst_load_plans.moc"
