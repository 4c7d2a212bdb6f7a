// Outlooks, offered rules and figures of a day for every kind of quantity over made-up records: still, rising,
// falling, drawn and refilled, in bursts, of few hours, asked at the last line and up to days after it. Beside what
// was read by a person and kept in tests/fixtures/said.
#include "core/units/quantity_kind.h"
#include "core/watch/offers.h"
#include "core/watch/outlook.h"
#include "core/watch/rule_words.h"
#include "support/run_tests.h"
#include "support/said.h"
#include "support/times.h"

#include <cmath>
#include <functional>

using namespace cognitum;
using test::add_said;
using test::an_hour_east;
using test::five_digits;
using test::june;

namespace {

struct Course {
    const char* name;
    double days;
    std::function<double(double)> at; ///< share of the quantity's range, by days
};
const std::vector<Course> courses = {
    {"still", 6, [](double) { return 0.4; }},
    {"falls by a hundredth a day", 6, [](double d) { return 0.6 - 0.01 * d; }},
    {"falls by a tenth a day", 6, [](double d) { return 0.8 - 0.1 * d; }},
    {"rises by a tenth a day", 6, [](double d) { return 0.2 + 0.1 * d; }},
    {"turns in the last hours", 6, [](double d) { return d < 5.75 ? 0.5 : 0.5 + 0.5 * (d - 5.75); }},
    {"warm by day", 9, [](double d) { return 0.4 + 0.2 * std::sin(2 * M_PI * d); }},
    {"drawn by day, refilled each fourth", 16,
     [](double d) { return 0.9 - 0.04 * std::fmod(d, 4) - 0.02 * std::min(1.0, 3 * std::fmod(d, 1)); }},
    {"drawn by day, more and more", 16, [](double d) { return 0.9 - 0.01 * d - 0.001 * d * d; }},
    {"in bursts", 9,
     [](double d) { return 0.1 + 0.05 * std::floor(d) + 0.1 * std::clamp(12 * (d - 8.6), 0.0, 1.0); }},
    {"jumps up each third day", 9, [](double d) { return 0.7 - 0.1 * std::fmod(d, 3); }},
    {"an hour", 1.0 / 24, [](double) { return 0.4; }},
    {"five hours", 5.0 / 24, [](double d) { return 0.4 + d; }},
};

HourlyRecord record_of_course(const Course& course, const QuantityKind& kind) {
    HourCounter counter;
    for (TimeUs t = 0; t <= from_seconds(course.days * 86400); t += 10 * minute_us) {
        double share = course.at(seconds(t) / 86400);
        if (kind.is_state()) share = std::fmod(5 * share, 1) < 0.5 ? 0 : 1;
        counter.take(june + t, kind.is_state() ? share : kind.low + share * (kind.high - kind.low));
    }
    return counter.finish();
}

} // namespace

class TestSaidOfOutlooks : public QObject {
    Q_OBJECT

  private slots:
    void ofEveryKind() {
        std::string out;
        for (const char* id : {"temperature", "level", "volume", "pressure", "humidity", "soil-moisture", "rain",
                               "motion", "contact", "voltage", "energy", "water-used", "carbon-dioxide"}) {
            const QuantityKind& kind = *find_quantity_kind(id);
            Reading reading;
            reading.id = reading.name = kind.id;
            reading.quantity.kind = kind.id;
            reading.quantity.unit = kind.units[0];
            reading.quantity.low = kind.low;
            reading.quantity.high = kind.high;
            reading.quantity.accuracy = kind.accuracy;
            reading.quantity.interval_s = 600;
            Bench bench;
            bench.readings = {reading};
            std::string said;
            for (const Course& course : courses) {
                const HourlyRecord record = record_of_course(course, kind);
                said += std::string(course.name) + "\n";
                for (const TimeUs later : {TimeUs(0), hour_us, 2 * hour_us, 6 * hour_us, 2 * day_us}) {
                    const Outlook seen = outlook(reading, record, kind.accuracy, record.last + later, an_hour_east);
                    const std::string at = later > 0 ? fmt::format("{} h later", later / hour_us) : "at its end";
                    add_said(said, at.c_str(), seen.headline);
                    for (const std::string& line : seen.lines)
                        add_said(said, at.c_str(), line);
                }
                for (const RuleOffer& offer : rule_offers(bench, reading, record, kind.accuracy, an_hour_east))
                    add_said(said, "offers", rule_says(offer.rule, bench) + "; " + offer.why);
                add_said(said, "first rule", rule_says(first_rule(reading, record), bench));
            }
            out += kind.id + "\n" + test::each_line_once(said);
        }
        test::compare_said("outlooks_of_kinds", out);
    }
    /// How much is used a day, of few and many days, asked at other hours and zones.
    void dailyUse() {
        std::string out;
        const QuantityKind& volume = *find_quantity_kind("volume");
        for (const Course& course : courses) {
            const HourlyRecord record = record_of_course(course, volume);
            for (const int days : {1, 2, 3, 14})
                for (const TimeUs later : {TimeUs(0), 11 * hour_us, day_us})
                    for (const int zone : {-9, 0, 5}) {
                        const DailyUse use =
                            daily_use(record, days, record.last + later, [&](TimeUs) { return zone * hour_us; });
                        add_said(out, course.name,
                                 fmt::format("of {} days, {} days, used {} ± {}, filled {}, net ± {}", days,
                                             use.days, five_digits(use.used), five_digits(use.u_used),
                                             five_digits(use.filled), five_digits(use.u_net)));
                    }
            const NightFalls nights = night_falls(record, 1, 5, an_hour_east);
            add_said(out, course.name,
                     fmt::format("nights: {} h, {} an hour, scatter {}", nights.hours, five_digits(nights.median),
                                 five_digits(nights.scatter)));
            add_said(out, course.name,
                     fmt::format("{} days, noise {}, step {} s, gap {} s, quantiles {} {} {}",
                                 five_digits(record.days()), five_digits(record.noise),
                                 five_digits(seconds(record.usual)), five_digits(seconds(record.long_gap)),
                                 five_digits(record.quantile(0.1)), five_digits(record.quantile(0.5)),
                                 five_digits(record.quantile(1))));
        }
        test::compare_said("daily_use", test::each_line_once(out));
    }
};

RUN_TESTS_OF(TestSaidOfOutlooks)
#include "tst_said_of_outlooks.moc"
