// What the core says of sixty recorded days of the demo: figures, outlooks, offered rules, sessions, certificates,
// drift, beside what was read by a person and kept in tests/fixtures/said.
#include "core/calibrate/certificate.h"
#include "core/calibrate/drift.h"
#include "core/units/format.h"
#include "core/watch/offers.h"
#include "core/watch/outlook.h"
#include "core/watch/rule_words.h"
#include "demo/demo_bench.h"
#include "store/figures/reading_figures.h"
#include "store/figures/session_figures.h"
#include "store/figures/watch_trial.h"
#include "support/run_tests.h"
#include "support/said.h"
#include "support/times.h"

using namespace cognitum;
using test::add_said;
using test::an_hour_east;
using test::catalog;
using test::five_digits;

namespace {

const TimeUs recorded_to = *parse_time("2026-06-05T12:00:00Z");

std::string figures_said(const StretchFigures& f) {
    std::string out =
        fmt::format("{} of {} values, {} … {} … {}, first {} last {}, noise {}, {} an hour, total {}, in gaps "
                    "{}, covered {}, {} gaps",
                    f.valued, f.n, five_digits(f.least), five_digits(f.mean), five_digits(f.most),
                    five_digits(f.first), five_digits(f.last), five_digits(f.noise), five_digits(f.per_hour),
                    five_digits(f.total.value_or(-1)), five_digits(f.in_gaps), five_digits(f.coverage), f.all_gaps);
    for (const BandTime& band : f.bands)
        out += fmt::format("; {} {} s", band.name, five_digits(band.seconds));
    for (const CauseCount& failed : f.failures)
        out += fmt::format("; cause {} {} times", static_cast<int>(failed.cause), failed.n);
    return out;
}

} // namespace

class TestSaidOfRecords : public QObject {
    Q_OBJECT

    QTemporaryDir m_folder;
    std::optional<BenchFile> m_file;
    Bench m_bench;
    std::vector<Recipe> m_recipes;

    void say_outlook(std::string& out, const Reading& reading, TimeUs now) {
        VALUE_OF(record, hourly_record(*m_file, reading.id, now - 60 * day_us, now));
        const double doubt = reading.quantity.accuracy / 2;
        const Reading* air = air_beside(m_bench, reading);
        HourlyRecord air_record;
        if (air) {
            VALUE_OF(beside, hourly_record(*m_file, air->id, now - 60 * day_us, now));
            air_record = beside;
        }
        std::optional<Neighbour> neighbour;
        if (air) neighbour.emplace(Neighbour{*air, air_record});
        const Outlook seen = outlook(reading, record, doubt, now, an_hour_east, neighbour ? &*neighbour : nullptr);
        add_said(out, "headline", seen.headline);
        for (const std::string& line : seen.lines)
            add_said(out, "outlook", line);
        const DailyUse use = daily_use(record, 14, now, an_hour_east);
        add_said(out, "daily use",
                 fmt::format("{} days, used {} ± {}, filled {}, net ± {}", use.days, five_digits(use.used),
                             five_digits(use.u_used), five_digits(use.filled), five_digits(use.u_net)));
        for (const RuleOffer& offer : rule_offers(m_bench, reading, record, doubt, an_hour_east)) {
            add_said(out, "offers", offer.rule.name + ": " + rule_says(offer.rule, m_bench));
            add_said(out, "because", offer.why);
        }
        add_said(out, "first rule", rule_says(first_rule(reading, record), m_bench));
    }

  private slots:
    void initTestCase() {
        VALUE_OF(file, create_demo_bench(test::file_in(m_folder, "demo.cognitum"), recorded_to));
        VALUE_OF(bench, file.load_plan());
        m_bench = bench;
        m_file.emplace(std::move(file));
        m_recipes = load_catalog().recipes;
    }

    void readings() {
        std::string out;
        for (const Reading& reading : m_bench.readings) {
            out += reading.name + "\n";
            VALUE_OF(figures,
                     figures_of(*m_file, m_bench, catalog(), reading, recorded_to - 30 * day_us, recorded_to));
            add_said(out, "thirty days", figures_said(figures.stretch));
            add_said(out, "doubt",
                     fmt::format("mean ± {}, total ± {}, step {} s, shown to ± {}", five_digits(figures.u_mean),
                                 five_digits(figures.u_total), five_digits(seconds(figures.usual)),
                                 five_digits(figures.digits_of_mean(reading.quantity))));
            add_said(out, "one value",
                     five_digits(value_u(m_bench, catalog(), reading, figures.stretch.mean, recorded_to)));
            VALUE_OF(table,
                     figures_by_period(*m_file, m_bench, catalog(), reading, nullptr, Period::month, an_hour_east));
            for (const PeriodFigures& row : table.rows)
                add_said(out, table.totals ? "total" : "mean",
                         fmt::format("{}: {} ± {} {}, covered {}", row.period.label, five_digits(row.own.value),
                                     five_digits(row.own.doubt), table.unit, five_digits(row.own.coverage)));
        }
        test::compare_said("record_readings", out);
    }

    void outlooks() {
        std::string out;
        for (const Reading& reading : m_bench.readings)
            for (const int days_ago : {0, 20}) {
                out += fmt::format("{}, {} days before the end\n", reading.name, days_ago);
                say_outlook(out, reading, recorded_to - days_ago * day_us);
            }
        test::compare_said("record_outlooks", out);
    }

    void sessions() {
        std::string out;
        for (const TimedSession& session : m_bench.sessions) {
            out += session.name + "\n";
            VALUE_OF(figures, session_figures(*m_file, m_bench, catalog(), session, recorded_to, an_hour_east));
            for (const SessionFact& fact : figures.facts)
                add_said(out, "fact", fmt::format("{} {}: {}", fact.reading, fact.name, session_fact_text(fact)));
            for (const ReadingFigures& of_reading : figures.figures)
                add_said(out, "figures", figures_said(of_reading.stretch));
            for (const SessionDay& day : figures.days)
                add_said(out, "day", day.day.label + " " + figures_said(day.figures));
            add_said(out, "caution", figures.caution);
        }
        for (const SessionRule& rule : m_bench.session_rules) {
            VALUE_OF(found, find_sessions(*m_file, m_bench, rule, recorded_to - 60 * day_us, recorded_to));
            for (const Interval& session : found)
                add_said(out, rule.name.c_str(), iso_time(session.from) + " … " + iso_time(session.to));
        }
        test::compare_said("record_sessions", out);
    }

    void certificates() {
        std::string out;
        for (const Reading& reading : m_bench.readings) {
            VALUE_OF(records, m_file->calibrations(reading.id));
            out += reading.name + "\n";
            for (std::size_t i = 0; i < records.size(); ++i) {
                const CertificateOf of{m_bench, reading, catalog().part(reading.sensor.part), m_recipes};
                for (const CertificateRow& row : certificate_rows(certificate(records, i, of)))
                    add_said(out, row.name.c_str(), row.text);
                out += certificate_csv(records[i]);
            }
            const Drift drift = drift_by_card(reading, records, catalog().part(reading.sensor.part));
            add_said(out, "drift",
                     fmt::format("{}; due {} by {}; in a year {} ± {}", drift_text(drift, reading.quantity.unit),
                                 iso_time(drift.due), static_cast<int>(drift.because),
                                 five_digits(drift.shift_at(recorded_to + 365 * day_us)),
                                 five_digits(drift.band_at(recorded_to + 365 * day_us))));
        }
        test::compare_said("record_certificates", out);
    }

    void rules() {
        std::string out;
        for (const WatchRule& rule : m_bench.watch_rules) {
            out += rule.name + "\n";
            add_said(out, "says", rule_says(rule, m_bench));
            add_said(out, "confirmed", confirmation_says(rule));
        }
        test::compare_said("record_rules", out);
    }
};

RUN_TESTS_OF(TestSaidOfRecords)
#include "tst_said_of_records.moc"
