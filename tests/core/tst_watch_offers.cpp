// What a kind of reading is offered by its record, and what follows from that for a person.
#include "core/stretch/stretch.h"
#include "core/watch/offers.h"
#include "core/watch/outlook.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/times.h"
#include "support/watched_readings.h"

#include <cmath>
#include <map>
#include <numeric>
#include <random>

using namespace cognitum;
using test::bench_of;
using test::described;
using test::june;
using test::plain;

namespace {

/// A value each `step` over `days`.
HourlyRecord record_of(double days, TimeUs step, const std::function<double(TimeUs)>& value) {
    HourCounter counter;
    for (TimeUs t = 0; t < from_seconds(days * 86400); t += step)
        counter.take(june + t, value(t));
    return counter.finish();
}

const RuleOffer* offer(const std::vector<RuleOffer>& offers, const char* name) {
    for (const RuleOffer& o : offers)
        if (o.rule.name == name) return &o;
    return nullptr;
}

bool any_line(const Outlook& outlook, const char* part) {
    return std::any_of(outlook.lines.begin(), outlook.lines.end(),
                       [&](const std::string& line) { return plain(line).find(part) != std::string::npos; });
}

std::string all_lines(const Outlook& outlook) {
    std::string out;
    for (const std::string& line : outlook.lines)
        out += plain(line) + " | ";
    return out;
}

} // namespace

class TestWatchOffers : public QObject {
    Q_OBJECT

  private slots:
    /// Steps of 1, 2 and 5 at the hint's size. Run again where the desktop has a decimal comma.
    void limitsAreRoundForAPerson() {
        CLOSE(round_for_person(17.26, 0.5), 17.5, 1e-12);
        CLOSE(round_for_person(0.1234, 0.01), 0.12, 1e-12);
        CLOSE(round_for_person(-3.1416, 0.2), -3.2, 1e-12);
        CLOSE(round_for_person(1234.5, 90), 1200, 1e-12);
        CLOSE(round_for_person(0.7, 0), 0.7, 0); // no hint, no rounding
        CLOSE(round_for_person(0.30000000000000004, 0.1), 0.3, 0);
    }

    /// Each kind gets rules without a defect, with and without a record, and none twice.
    void everyKindIsOfferedSoundRules() {
        std::mt19937 random(4);
        for (const QuantityKind& kind : quantity_kinds())
            for (const std::string& unit : kind.units)
                for (const bool recorded : {false, true}) {
                    Reading r = described(kind.id.c_str(), unit.c_str());
                    r.quantity.low = kind.low;
                    r.quantity.high = kind.high;
                    Bench bench = bench_of({r, described("humidity", "%")});
                    if (kind.id == "humidity") bench.readings.pop_back();
                    HourlyRecord record;
                    if (recorded)
                        record = record_of(20, 5 * minute_us, [&](TimeUs) {
                            return kind.low + (kind.high - kind.low) * static_cast<double>(random() % 1000) / 1000;
                        });
                    const auto offers = rule_offers(bench, r, record, 0.1, {});
                    QVERIFY2(!offers.empty(), kind.id.c_str());
                    for (const RuleOffer& o : offers) {
                        QVERIFY2(defect_of(o.rule).empty(), (kind.id + ": " + o.rule.name).c_str());
                        QVERIFY(!o.why.empty() && o.rule.reading() == r.id);
                        bench.watch_rules.push_back(o.rule);
                    }
                    QVERIFY(rule_offers(bench, r, record, 0.1, {}).empty());
                    QVERIFY(defect_of(first_rule(r, record)).empty());
                }
    }

    /// What is looked at over hours or days: the limit and the time that its sentence says.
    void overTheTimeThatIsSaid_data() {
        QTest::addColumn<QString>("kind");
        QTest::addColumn<QString>("unit");
        QTest::addColumn<double>("limit");
        QTest::addColumn<double>("hours");
        QTest::newRow("Rain starts") << "rain"
                                     << "mm" << 0.3 << 3.0;
        QTest::newRow("Heavy rain") << "rain"
                                    << "mm" << 10.0 << 1.0;
        QTest::newRow("Dry for days") << "rain"
                                      << "mm" << 0.0 << 7 * 24.0;
        QTest::newRow("Funnel blocked?") << "rain"
                                         << "mm" << 0.0 << 12.0;
        QTest::newRow("Falls quickly") << "pressure"
                                       << "hPa" << 1.2 << 3.0; // 3.6 hPa in three hours
        QTest::newRow("Watered, or rained") << "soil-moisture"
                                            << "%" << 10.0 << 3.0;
    }
    void overTheTimeThatIsSaid() {
        QFETCH(QString, kind);
        QFETCH(QString, unit);
        QFETCH(double, limit);
        QFETCH(double, hours);
        const Reading r = described(kind.toLatin1().constData(), unit.toLatin1().constData(), 0.1);
        const auto offers = rule_offers(bench_of({r, described("humidity", "%")}), r, {}, 0.1, {});
        const RuleOffer* o = offer(offers, QTest::currentDataTag());
        QVERIFY(o);
        CLOSE(o->rule.conditions[0].value, limit, 1e-9);
        QCOMPARE(o->rule.conditions[0].over_s, hours * 3600);
    }

    void aLeakIsAboveWhatNightsDo() {
        Reading tank = described("volume", "L", 10);
        tank.quantity.high = 1500;
        std::mt19937 random(7);
        std::normal_distribution<double> normal(0, 0.5);
        // 30 L a day by day, the walls breathe 1 L at night, ± 0.5 L of noise.
        const auto litres = [&](TimeUs t) {
            const double day = seconds(t) / 86400;
            const double hour = 24 * (day - std::floor(day));
            const double drawn = 30 * (std::floor(day) + std::clamp((hour - 7) / 14, 0.0, 1.0));
            return 1400 - drawn + std::cos(2 * M_PI * (hour - 14) / 24) + normal(random);
        };
        const HourlyRecord record = record_of(20, 3 * minute_us, litres);
        const auto offers = rule_offers(bench_of({tank}), tank, record, 5, {});
        const RuleOffer* leak = offer(offers, "A leak");
        QVERIFY(leak);
        const double limit = leak->rule.conditions[0].value;
        QVERIFY2(limit > 0.2 && limit < 4, qPrintable(QString::number(limit)));
        QVERIFY(leak->rule.hours.holds(120) && !leak->rule.hours.holds(600));
        QCOMPARE(offer(offers, "Nearly empty")->rule.conditions[0].value, 220.0); // 15 % of 1 500, as one writes it
        const Outlook outlook = cognitum::outlook(tank, record, 5, record.last, {});
        QVERIFY2(any_line(outlook, "Draws 3"), all_lines(outlook).c_str());
        QVERIFY2(outlook.headline.find("empty in") == 0, outlook.headline.c_str());
        const DailyUse use = daily_use(record, 14, record.last, {});
        CLOSE(use.used, 30.0, 2.5);
        QVERIFY(use.days >= 13);
    }

    /// Days of known use and filling: mean, and the doubt of the mean from day to day.
    void useOfADayHasItsDoubt() {
        const auto used = [](TimeUs day) { return 20.0 + 3 * static_cast<double>(7 * day % 5); };
        const auto filled = [](TimeUs day) { return day % 3 == 0 ? 50.0 : 0.0; };
        const auto litres = [&](TimeUs t) {
            double out = 5000;
            for (TimeUs day = 0; day <= t / day_us; ++day) {
                const double hour = std::min(24.0, seconds(t - day * day_us) / 3600);
                out -= used(day) * std::clamp((hour - 7) / 14, 0.0, 1.0);
                out += filled(day) * std::clamp(hour - 2, 0.0, 1.0);
            }
            return out;
        };
        const HourlyRecord record = record_of(20, minute_us, litres);
        const DailyUse use = daily_use(record, 14, record.last, {});
        QCOMPARE(use.days, 14);
        double mean = 0, fill = 0, net = 0, squares = 0, net_squares = 0;
        for (TimeUs day = 5; day < 19; ++day) { // the last of twenty is not over
            mean += used(day) / 14;
            fill += filled(day) / 14;
            net += (used(day) - filled(day)) / 14;
        }
        for (TimeUs day = 5; day < 19; ++day) {
            squares += std::pow(used(day) - mean, 2);
            net_squares += std::pow(used(day) - filled(day) - net, 2);
        }
        CLOSE(use.used, mean, 0.1); // changes below the noise of an hour are not counted
        CLOSE(use.filled, fill, 0.1);
        CLOSE(use.u_used, std::sqrt(squares / 13 / 14), 0.02);
        CLOSE(use.u_net, std::sqrt(net_squares / 13 / 14), 0.1);
    }

    void rainByHourDayAndMonth() {
        const Reading rain = described("rain", "mm", 0.5);
        // 0.2 mm every minute from 10:00 to 11:00 of the last day, and 5 mm ten days before.
        const auto total = [](TimeUs t) {
            const double before = t > 5 * day_us ? 5 : 0;
            const TimeUs wet = std::clamp<TimeUs>(t - (14 * day_us + 10 * hour_us), 0, hour_us);
            return 100 + before + 0.2 * std::floor(seconds(wet) / 60);
        };
        const HourlyRecord record = record_of(14 + 11.0 / 24, minute_us, total);
        const Outlook now = outlook(rain, record, 0.1, record.last, {});
        QVERIFY2(any_line(now, "11.8 mm today"), all_lines(now).c_str());
        QVERIFY2(any_line(now, "16.8 mm this month"), all_lines(now).c_str());
        QVERIFY2(any_line(now, "This rain: 11.8 mm since 10:00"), all_lines(now).c_str());
    }

    void aBedThatWasWatered() {
        const Reading bed = described("soil-moisture", "%", 30);
        const auto moisture = [](TimeUs t) { // dries by 6 % a day; watered at 06:00 of the last day
            return 60 - 6 * seconds(t) / 86400 + (t >= 6 * day_us + 6 * hour_us ? 20 : 0);
        };
        const HourlyRecord record = record_of(6.6, 5 * minute_us, moisture);
        const Outlook now = outlook(bed, record, 15, record.last, {});
        QVERIFY2(any_line(now, "rained on, 8"), all_lines(now).c_str());
        // Nobody watered it: nothing is said of when.
        const Outlook dry =
            outlook(bed, record_of(30, 5 * minute_us, [](TimeUs t) { return 60 - seconds(t) / 86400; }), 15,
                    june + 30 * day_us, {});
        QVERIFY2(!any_line(dry, "rained on"), all_lines(dry).c_str());
        QVERIFY2(any_line(dry, "It dries by"), all_lines(dry).c_str());
    }

    void degreeDaysAreOfWholeDays() {
        const Reading air = described("temperature", "degC");
        const HourlyRecord whole = record_of(
            10, 10 * minute_us, [](TimeUs t) { return 15 + 5 * std::sin(2 * M_PI * seconds(t) / 86400); });
        QVERIFY2(any_line(outlook(air, whole, 1, whole.last, {}), "50 growing degree days"),
                 all_lines(outlook(air, whole, 1, whole.last, {})).c_str());
        HourCounter drives; // two hours a day say nothing of a day's extremes
        for (int day = 0; day < 20; ++day)
            for (int i = 0; i < 12; ++i)
                drives.take(june + day * day_us + i * 10 * minute_us, 30);
        const HourlyRecord parts = drives.finish();
        QVERIFY(!any_line(outlook(air, parts, 1, parts.last, {}), "growing"));
    }

    void pressureInThreeHours() {
        const Reading air = described("pressure", "hPa", 1);
        const HourlyRecord record =
            record_of(2, minute_us, [](TimeUs t) { return 1020 - 1.4 * seconds(t) / 3600; });
        const Outlook now = outlook(air, record, 0.5, record.last, {});
        QVERIFY2(any_line(now, "falling quickly"), all_lines(now).c_str());
        const auto offers = rule_offers(bench_of({air}), air, record, 0.5, {});
        QVERIFY(offer(offers, "Falls quickly"));
        CLOSE(offer(offers, "Falls quickly")->rule.conditions[0].value, 1.2, 1e-9);
    }

    void dewAndTheAirBesideIt() {
        const Reading damp = described("humidity", "%", 3);
        Reading air = described("temperature", "degC");
        air.name = "Hut air";
        const HourlyRecord wet = record_of(2, minute_us, [](TimeUs) { return 80.0; });
        const HourlyRecord warm = record_of(2, minute_us, [](TimeUs) { return 20.0; });
        const Neighbour beside{air, warm};
        // 20 °C and 80 %: the dew point is 16.4 °C (Magnus form of WMO-No. 8).
        const Outlook now = outlook(damp, wet, 3, wet.last, {}, &beside);
        QVERIFY2(any_line(now, "Dew point 16.4 ± 0.6 °C, 3.6 K below Hut air"), all_lines(now).c_str());
        QVERIFY(!any_line(now, "within 1 K"));
        const HourlyRecord wetter = record_of(2, minute_us, [](TimeUs) { return 96.0; });
        const Outlook foggy = outlook(damp, wetter, 3, wetter.last, {}, &beside);
        QVERIFY2(any_line(foggy, "24 of the last 24 hours within 1 K"), all_lines(foggy).c_str());
        QVERIFY(!any_line(outlook(damp, wet, 3, wet.last, {}), "Dew"));
        // Which air: of the same part before the same place before the same board, and never a pool's water.
        Bench bench = bench_of({damp, air});
        bench.readings[1].id = "air";
        QVERIFY(!air_beside(bench, bench.readings[0]));
        bench.readings[0].wiring.board = bench.readings[1].wiring.board = "shed";
        QCOMPARE(air_beside(bench, bench.readings[0])->id, std::string("air"));
        bench.readings[1].quantity.around.water = true;
        QVERIFY(!air_beside(bench, bench.readings[0]));
        QVERIFY(!air_beside(bench, bench.readings[1]));
    }

    void whatATyreLosesBetweenDrives() {
        Reading tyre = described("pressure", "kPa", 5);
        const auto driven = [](double a_day) { // half an hour every second day
            HourCounter counter;
            for (int drive = 0; drive < 14; ++drive)
                for (int i = 0; i < 10; ++i)
                    counter.take(june + drive * 2 * day_us + i * 3 * minute_us,
                                 230 - a_day * 2 * drive + (drive % 2 ? 0.4 : -0.4));
            return counter.finish();
        };
        const HourlyRecord leaks = driven(0.5);
        const Outlook slow = outlook(tyre, leaks, 5, leaks.last, {});
        QVERIFY2(any_line(slow, "Between drives it loses 3.5 ±"), all_lines(slow).c_str());
        QVERIFY2(any_line(slow, "of 14 drives"), all_lines(slow).c_str());
        QVERIFY2(any_line(slow, "as it was measured"), all_lines(slow).c_str());
        tyre.path.stages = {GasAt{}};
        const HourlyRecord tight = driven(0);
        const Outlook holds = outlook(tyre, tight, 5, tight.last, {});
        QVERIFY2(any_line(holds, "Between 14 drives it holds, at one temperature"), all_lines(holds).c_str());
    }

    void nothingIsSaidOfWhatIsGone() {
        const Reading tank = described("volume", "L", 10);
        const HourlyRecord record = record_of(20, 5 * minute_us, [](TimeUs t) { return 1000 - seconds(t) / 3600; });
        const Outlook late = outlook(tank, record, 5, record.last + day_us, {});
        QVERIFY(late.headline.empty());
        QVERIFY2(any_line(late, "not known"), all_lines(late).c_str());
        QVERIFY(outlook(tank, {}, 5, june, {}).lines.empty());
    }

    void aSilenceFitsThePartsOwnWay() {
        Reading tyre = described("pressure", "kPa", 5);
        tyre.quantity.interval_s = 180;
        // On the road every three minutes, parked for days.
        HourCounter counter;
        for (int drive = 0; drive < 40; ++drive)
            for (int i = 0; i < 60; ++i)
                counter.take(june + drive * 2 * day_us + i * 3 * minute_us, 220);
        const HourlyRecord record = counter.finish();
        QVERIFY(record.long_gap > day_us);
        const auto offers = rule_offers(bench_of({tyre}), tyre, record, 3, {});
        QVERIFY(offer(offers, "No word")->rule.conditions[0].value > 2 * 86400); // parked is not silent
    }

    void hoursAreThoseOfTheRecord() {
        std::mt19937 random(9);
        HourCounter counter;
        std::map<TimeUs, std::vector<double>> obvious;
        for (TimeUs t = 0; t < 50 * hour_us; t += (1 + static_cast<TimeUs>(random() % 600)) * second_us) {
            const double v = random() % 7 == 0 ? no_number : static_cast<double>(random() % 100);
            counter.take(june + t, v);
            if (std::isfinite(v)) obvious[t / hour_us].push_back(v);
        }
        const HourlyRecord record = counter.finish();
        QCOMPARE(record.hours.size(), obvious.size());
        std::size_t i = 0;
        for (const auto& [hour, values] : obvious) {
            const HourFigures& h = record.hours[i++];
            QCOMPARE(h.from, june + hour * hour_us);
            QCOMPARE(h.n, values.size());
            QCOMPARE(h.low, *std::min_element(values.begin(), values.end()));
            QCOMPARE(h.high, *std::max_element(values.begin(), values.end()));
            QCOMPARE(h.last, values.back());
            CLOSE(h.mean(), std::accumulate(values.begin(), values.end(), 0.0) / double(values.size()), 1e-9);
        }
    }
};

RUN_TESTS_OF(TestWatchOffers)
#include "tst_watch_offers.moc"
