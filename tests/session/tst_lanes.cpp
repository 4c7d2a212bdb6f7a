// What the logbook's time line is drawn from: gaps inside long runs, columns of rain, entries by time, text and
// kind; and the report of a stretch.
#include "core/units/format.h"
#include "session/archive/lanes.h"
#include "session/archive/stretch_report.h"
#include "store/samples/samples.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/times.h"

#include <cmath>

using namespace cognitum;
using test::june;

namespace {

Reading named(const char* id, const char* kind, const char* unit) {
    Reading r;
    r.id = r.name = id;
    r.quantity.kind = kind;
    r.quantity.unit = unit;
    return r;
}

struct Recorded {
    QTemporaryDir folder;
    Bench bench;
    std::unique_ptr<BenchFile> file;

    Recorded() {
        bench.name = "recorded";
        bench.readings = {named("air", "temperature", "degC"), named("rain", "rain", "mm"),
                          named("jetty", "motion", "1")};
        auto created = BenchFile::create(test::file_in(folder, "r.cognitum"), [&](BenchFile& f) -> Result<void> {
            COGNITUM_CHECK(f.save_plan(bench));
            return {};
        });
        if (!created) qFatal("%s", created.error().text().c_str());
        file = std::make_unique<BenchFile>(std::move(*created));
    }
    void add(const char* reading, const std::vector<Sample>& samples) {
        const SeriesBatch batch{reading, samples};
        if (!add_samples(*file, std::span(&batch, 1))) qFatal("not added");
    }
    Lanes lanes(std::vector<std::string> readings, TimeUs from, TimeUs to, std::size_t most = 400) {
        LanesQuestion q;
        q.readings = std::move(readings);
        q.from = from;
        q.to = to;
        q.most = most;
        auto out = recorded_lanes(*file, bench, q);
        if (!out) qFatal("%s", out.error().text().c_str());
        return *out;
    }
    void log(TimeUs time, const char* reading, const char* kind, const char* text) {
        if (!file->append_log({0, time, reading, kind, text, 0})) qFatal("not written");
    }
};

std::vector<Sample> every(TimeUs step, TimeUs from, TimeUs to, const std::function<double(TimeUs)>& value) {
    std::vector<Sample> out;
    for (TimeUs t = from; t < to; t += step)
        out.push_back({t, no_number, value(t), Cause::none});
    return out;
}

} // namespace

class TestLanes : public QObject {
    Q_OBJECT

  private slots:
    /// So long that only summaries of 64 samples are read: a gap inside one must be found all the same.
    void aGapInsideALongRunIsFound() {
        Recorded r;
        auto samples =
            every(20 * second_us, june, june + 60 * day_us, [](TimeUs t) { return std::sin(double(t) / 1e12); });
        std::erase_if(samples, [](const Sample& s) {
            return s.time > june + 33 * day_us && s.time < june + 33 * day_us + 3 * hour_us;
        });
        QVERIFY(samples.size() > 200'000);
        r.add("air", samples);
        const Lanes l = r.lanes({"air"}, june, june + 60 * day_us);
        QCOMPARE(l.lanes.size(), std::size_t(1));
        QCOMPARE(l.lanes[0].silent.size(), std::size_t(1));
        QVERIFY(std::abs(l.lanes[0].silent[0].from - (june + 33 * day_us)) <= minute_us);
        QVERIFY(std::abs(l.lanes[0].silent[0].to - (june + 33 * day_us + 3 * hour_us)) <= minute_us);
        QVERIFY(l.lanes[0].parts.size() <= 410);
        for (const Summary& s : l.lanes[0].parts) // no part reaches over the gap
            QVERIFY(s.to <= l.lanes[0].silent[0].from || s.from >= l.lanes[0].silent[0].to);
        QCOMPARE(l.recorded.size(), std::size_t(2));
        std::uint64_t n = 0;
        for (const Summary& s : l.lanes[0].parts)
            n += s.n;
        QCOMPARE(n, std::uint64_t(samples.size())); // none is lost, none counted twice
    }

    void columnsAddUpToTheTotal() {
        Recorded r;
        double total = 0;
        r.add("rain", every(10 * minute_us, june, june + 20 * day_us, [&](TimeUs t) {
                  const TimeUs day = (t - june) / day_us;
                  return total += day % 5 == 2 ? 0.2 : 0;
              }));
        const Lanes l = r.lanes({"rain"}, june, june + 20 * day_us);
        QVERIFY(l.lanes[0].shape == LaneShape::columns);
        QCOMPARE(l.lanes[0].columns.size(), std::size_t(4));
        for (const Growth& c : l.lanes[0].columns) {
            CLOSE(c.amount, 144 * 0.2, 1e-9);
            QCOMPARE(c.to - c.from, day_us);
            QCOMPARE((c.from - june) / day_us % 5, TimeUs(2));
        }
        const Lanes hours = r.lanes({"rain"}, june + 2 * day_us, june + 3 * day_us);
        QCOMPARE(hours.lanes[0].columns.front().to - hours.lanes[0].columns.front().from, hour_us);
    }

    void lanesStandAsTheyWereChosen() {
        Recorded r;
        r.add("air", every(minute_us, june, june + hour_us, [](TimeUs) { return 1.0; }));
        const Lanes l = r.lanes({"jetty", "air"}, june, june + hour_us);
        QCOMPARE(l.lanes.size(), std::size_t(2));
        QVERIFY(l.lanes[0].reading == "jetty" && l.lanes[0].parts.empty() && l.lanes[1].reading == "air");
        QCOMPARE(l.recorded.size(), std::size_t(1)); // of the others as well as of the chosen ones
        QVERIFY(r.lanes({}, june, june + hour_us).recorded.size() == 1);
    }

    void entriesStandInOrderOfTime() {
        Recorded r;
        r.log(june + 5 * day_us, "", log_kind::note, "Sleeved the probe");
        r.log(june, "air", log_kind::calibration, "Calibrated at 3 points.");
        r.log(june + 2 * day_us, "rain", log_kind::upkeep, "Cleaned the funnel");
        VALUE_OF(all, r.file->log());
        QVERIFY(all.size() == 3 && all[0].time > all[1].time && all[1].time > all[2].time);
        const auto found = [&](const LogFilter& filter) {
            const auto list = r.file->find_log(filter);
            return list ? list->size() : 99;
        };
        QCOMPARE(found({.text = "PROBE"}), std::size_t(1));
        QCOMPARE(found({.text = "rain"}), std::size_t(1)); // by its reading
        QCOMPARE(found({.text = "%"}), std::size_t(0));    // no pattern
        QCOMPARE(found({.text = "'; DROP TABLE logbook"}), std::size_t(0));
        QCOMPARE(found({.kind = log_kind::calibration}), std::size_t(1));
        QCOMPARE(found({.from = june, .to = june + 2 * day_us}), std::size_t(1)); // the end is excluded
        QCOMPARE(found({.newest = 2}), std::size_t(2));
        VALUE_OF(span, r.file->log_span());
        QVERIFY(span && span->first == june && span->second == june + 5 * day_us);
    }

    void theSpanHoldsSamplesAndEntries() {
        Recorded r;
        VALUE_OF(nothing, recorded_span(*r.file, r.bench));
        QVERIFY(!nothing);
        r.add("air", every(minute_us, june, june + hour_us, [](TimeUs) { return 1.0; }));
        r.log(june - 400 * day_us, "air", log_kind::calibration, "x");
        VALUE_OF(span, recorded_span(*r.file, r.bench));
        QVERIFY((*span == Interval{june - 400 * day_us, june + 59 * minute_us}));
    }

    void whatAStretchSays() {
        Recorded r;
        r.add("air",
              every(minute_us, june, june + hour_us, [](TimeUs t) { return 10 + double(t - june) / hour_us * 5; }));
        r.add("jetty", every(minute_us, june, june + hour_us,
                             [](TimeUs t) { return t < june + 15 * minute_us ? 1.0 : 0.0; }));
        double total = 0;
        r.add("rain", every(minute_us, june, june + hour_us, [&](TimeUs) { return total += 0.1; }));
        const auto said = [&](const char* id, TimeUs from, TimeUs to) {
            const auto f = recorded_figures(*r.file, r.bench, {}, {id}, from, to);
            return f ? QString::fromStdString(stretch_says(f->front(), *r.bench.reading(id)))
                     : QStringLiteral("failed");
        };
        QVERIFY2(said("air", june, june + hour_us).startsWith("rose by 4.9"),
                 qPrintable(said("air", june, june + hour_us)));
        QCOMPARE(said("jetty", june, june + hour_us), QStringLiteral("moves 25 % of the time"));
        QVERIFY(said("rain", june, june + hour_us).contains("in 60"));
        QCOMPARE(said("air", june - day_us, june), QStringLiteral("no lines"));
        QCOMPARE(QString::fromStdString(duration_text(19 * hour_us)),
                 QString::fromStdString("19" + std::string(thin_space) + "h"));
        QVERIFY(!recorded_figures(*r.file, r.bench, {}, {"gone"}, june, june + hour_us));
    }

    void aDamagedSeriesHoldsUpNoOther() {
        Recorded r;
        r.add("air", every(minute_us, june, june + 10 * day_us, [](TimeUs) { return 1.0; }));
        r.add("jetty", every(minute_us, june, june + 10 * day_us, [](TimeUs) { return 0.0; }));
        r.file->db().exec("UPDATE block SET data = x'00' WHERE series = 1 AND level = 0");
        VALUE_OF(figures, recorded_figures(*r.file, r.bench, {}, {"air", "jetty"}, june, june + day_us));
        QVERIFY(!figures[0].trouble.empty() && figures[0].stretch.n == 0);
        QVERIFY(stretch_says(figures[0], r.bench.readings[0]) == figures[0].trouble); // not "no lines"
        QVERIFY(figures[1].trouble.empty() && figures[1].stretch.n == 1440);
        VALUE_OF(report,
                 stretch_report(*r.file, r.bench, {}, {"two", {june, june + day_us}, {"air", "jetty"}}, june));
        QCOMPARE(report.figures.size(), std::size_t(2));
    }

    void aReportIsTheSameForTheSameSamples() {
        Recorded r;
        r.add("air", every(minute_us, june, june + day_us, [](TimeUs t) { return std::cos(double(t) / 1e10); }));
        const Interval stretch{june + hour_us, june + 5 * hour_us};
        VALUE_OF(one, stretch_report(*r.file, r.bench, {}, {"one", stretch, {"air"}}, june));
        VALUE_OF(two, stretch_report(*r.file, r.bench, {}, {"one", stretch, {"air"}}, june));
        QCOMPARE(one.fingerprint, two.fingerprint);
        QCOMPARE(one.fingerprint.size(), std::size_t(16));
        r.add("air", {{june + 2 * hour_us + second_us, no_number, 1.0, Cause::none}}); // one sample more
        VALUE_OF(three, stretch_report(*r.file, r.bench, {}, {"one", stretch, {"air"}}, june));
        QVERIFY(three.fingerprint != one.fingerprint);
        QCOMPARE(one.figures[0].stretch.n, std::uint64_t(240));
    }

    void calibrationsInForceAreThoseOfTheStretch() {
        Recorded r;
        for (const int day : {-40, -10, 3, 9}) {
            CalibrationRecord record;
            record.reading = "air";
            record.time = june + day * day_us;
            record.unit = "degC";
            QVERIFY(r.file->append_calibration(record));
        }
        VALUE_OF(report, stretch_report(*r.file, r.bench, {}, {"some", {june, june + 7 * day_us}, {"air"}}, june));
        QCOMPARE(report.in_force[0].size(), std::size_t(2));
        QCOMPARE(report.in_force[0][0].time, june - 10 * day_us);
    }
};

RUN_TESTS_OF(TestLanes)
#include "tst_lanes.moc"
