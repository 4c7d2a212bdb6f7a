// Figures of a stretch and of months, read from a bench file; the same from the command line; and sixty days at
// Whelk Point, which must say what happened there.
#include "demo/demo_bench.h"
#include "store/figures/reading_figures.h"
#include "store/file/data_files.h"
#include "store/samples/samples.h"
#include "store/upkeep/verify.h"
#include "store/zone.h"
#include "support/cli.h"
#include "support/run_tests.h"
#include "support/samples_of.h"
#include "support/support.h"
#include "support/times.h"

#include <cmath>
#include <random>

using namespace cognitum;
using test::bare_reading;
using test::june;
using test::no_cards;

namespace {

struct Made {
    QTemporaryDir folder;
    Bench bench;
    std::unique_ptr<BenchFile> file;

    explicit Made(std::vector<Reading> readings) {
        bench.name = "made";
        bench.readings = std::move(readings);
        auto created = BenchFile::create(path(), [&](BenchFile& f) -> Result<void> {
            COGNITUM_CHECK(f.save_plan(bench));
            return {};
        });
        if (!created) qFatal("%s", created.error().text().c_str());
        file = std::make_unique<BenchFile>(std::move(*created));
    }
    std::string path() const { return test::file_in(folder, "made.cognitum"); }
    void add(const char* reading, std::vector<Sample> samples) {
        const SeriesBatch batch{reading, std::move(samples)};
        if (!add_samples(*file, std::span(&batch, 1))) qFatal("not added");
    }
    ReadingFigures figures(const char* id, std::optional<TimeUs> from = {}, std::optional<TimeUs> to = {}) {
        auto out = figures_of(*file, bench, no_cards, *bench.reading(id), from, to);
        if (!out) qFatal("%s", out.error().text().c_str());
        return *out;
    }
};

/// A value every minute.
std::vector<Sample> minutes(int n, const std::function<double(int)>& value, TimeUs start = june) {
    std::vector<Sample> out;
    for (int i = 0; i < n; ++i)
        out.push_back({start + i * minute_us, no_number, value(i), Cause::none});
    return out;
}

QString demo_file() {
    static QTemporaryDir folder;
    const QString path = folder.filePath("demo.cognitum");
    if (!QFile::exists(path) && !create_demo_bench(path.toStdString(), *parse_time("2026-11-25T14:11:00Z")))
        qFatal("no demo");
    return path;
}

} // namespace

class TestReadingFigures : public QObject {
    Q_OBJECT

  private slots:
    void aStretchKnowsWhatCameBefore() {
        Made m({bare_reading("air", "temperature", "degC")});
        m.add("air", minutes(20000, [](int i) { return double(i % 977); }));
        // Begins between two samples, far into the file, over blocks and tail.
        const TimeUs from = june + 9000 * minute_us + 20 * second_us;
        const ReadingFigures f = m.figures("air", from, from + 6 * hour_us);
        QCOMPARE(f.stretch.n, std::uint64_t(360));
        CLOSE(f.stretch.coverage, 1.0, 1e-9); // the sample before holds into it
        QCOMPARE(f.usual, minute_us);
        double sum = 0;
        for (int i = 9001; i <= 9360; ++i)
            sum += i % 977;
        CLOSE(f.stretch.mean, sum / 360, 1e-9);
        QCOMPARE(m.figures("air").stretch.n, std::uint64_t(20000)); // without limits: all of it
        CLOSE(m.figures("air").stretch.coverage, 1.0, 1e-9);
    }

    void theSampleBeforeIsFoundInBlocksAndTail() {
        Made m({bare_reading("air", "temperature", "degC")});
        m.add("air", minutes(5000, [](int) { return 1.0; }));
        for (const int i : {0, 1, 4095, 4096, 4500, 5001}) {
            VALUE_OF(before, sample_before(*m.file, "air", june + i * minute_us));
            QCOMPARE(before.has_value(), i > 0);
            if (before) QVERIFY(*before < june + i * minute_us);
        }
        VALUE_OF(none, sample_before(*m.file, "nobody", june));
        QVERIFY(!none);
    }

    void theDoubtOfAMeanShrinksWithItsNoiseAlone() {
        Made m({bare_reading("air", "temperature", "degC")});
        std::mt19937 draw(3);
        std::normal_distribution<double> normal(0, 0.5);
        m.add("air", minutes(2500, [&](int) { return 20 + normal(draw); }));
        const ReadingFigures f = m.figures("air");
        QVERIFY(!f.shared_known); // no part, no path: nobody knows what the values share
        CLOSE(f.u_mean, 0.5 / std::sqrt(2500.0), 0.001);

        Reading r = bare_reading("gauge", "temperature", "degC");
        Scale scale;
        scale.factor.value = 2;
        scale.offset.value = 0;
        scale.offset.doubt = 0.3;
        scale.offset.spread = Spread::standard;
        scale.input_unit = "V";
        scale.unit = "degC";
        r.path = {"gauge", "V", {scale}};
        Made with_path({r});
        with_path.add("gauge", minutes(2500, [&](int) { return 20 + normal(draw); }));
        const ReadingFigures g = with_path.figures("gauge");
        QVERIFY(g.shared_known);
        QVERIFY2(g.u_mean >= scale.offset.standard_uncertainty() * 0.99, qPrintable(QString::number(g.u_mean)));
    }

    void rainIsATotalFromItsCount() {
        Reading r = bare_reading("rain", "rain", "mm");
        Scale scale;
        scale.factor.value = 0.2;
        scale.input_unit = "1";
        scale.unit = "mm";
        r.path = {"rain", "1", {scale}};
        Made m({r});
        std::vector<Sample> samples;
        for (int i = 0; i < 1440; ++i) { // 10 tips in one hour; the board restarts after it
            const double count = i < 600 ? 40 : i < 660 ? 40 + (i - 600) / 6 : i < 700 ? 50 : 0;
            samples.push_back({june + i * minute_us, count, 0.2 * count, Cause::none});
        }
        m.add("rain", samples);
        const ReadingFigures f = m.figures("rain", june, june + day_us);
        QVERIFY(f.adds == Adds::running_total);
        CLOSE(*f.stretch.total, 2.0, 1e-9);
        QVERIFY(f.u_total >= 0.2 / std::sqrt(12.0) * 0.99); // known to a tip
        CLOSE(*m.figures("rain", june + 630 * minute_us, june + day_us).stretch.total, 1.2, 1e-9);
    }

    void monthsAddUpToTheWhole() {
        Reading own = bare_reading("own", "rain", "mm");
        Reading other = bare_reading("other", "rain", "mm");
        own.sensor.part = other.sensor.part = "tipping-bucket";
        Made m({own, other});
        std::mt19937 draw(8);
        std::vector<Sample> a, b;
        double total = 0;
        for (TimeUs t = june; t < june + 100 * day_us; t += hour_us) {
            if (t > june + 40 * day_us && t < june + 52 * day_us) continue; // away for twelve days
            if (draw() % 20 == 0) total += 0.2 * double(1 + draw() % 9);
            a.push_back({t, total / 0.2, total, Cause::none});
        }
        for (int day = 0; day < 100; ++day) // somebody else's daily amounts
            b.push_back({june + day * day_us, no_number, day % 4 == 0 ? 6.5 : 0, Cause::none});
        m.add("own", a);
        m.add("other", b);
        VALUE_OF(table, figures_by_period(*m.file, m.bench, no_cards, own, &other, Period::month, {}));
        QVERIFY(table.totals);
        QCOMPARE(table.rows.size(), std::size_t(4));
        double sum = 0;
        for (const PeriodFigures& row : table.rows)
            sum += row.own.value;
        CLOSE(sum, total - a.front().value, 1e-6);
        CLOSE(sum, *m.figures("own").stretch.total, 1e-6);
        CLOSE(table.rows[0].own.coverage, 1.0, 1e-9);
        CLOSE(table.rows[1].own.coverage, (31 * 24 - 287.0 - 0) / (31 * 24), 0.003);
        CLOSE(table.rows[0].other->value, 8 * 6.5, 1e-9);
        CLOSE(table.rows[0].difference, table.rows[0].own.value - 52, 1e-9);
        QVERIFY(table.rows[1].says.find("not counted") != std::string::npos);
        QVERIFY(table.rows[0].says.find("one design") != std::string::npos);
        QVERIFY(table.rows[0].says.find("short storms") != std::string::npos);
        // Nothing of two kinds.
        const Reading air = bare_reading("air", "temperature", "degC");
        QVERIFY(!figures_by_period(*m.file, m.bench, no_cards, own, &air, Period::month, {}));
    }

    void zonesAreReadByName() {
        VALUE_OF(lisbon, zone_named("Europe/Lisbon"));
        QCOMPARE(lisbon(*parse_time("2026-07-01T00:00:00Z")), hour_us);
        QCOMPARE(lisbon(*parse_time("2026-01-01T00:00:00Z")), TimeUs(0));
        VALUE_OF(fixed, zone_named("-03:30"));
        QCOMPARE(fixed(0), -(3 * hour_us + 30 * minute_us));
        QVERIFY(!zone_named("UTC").value()); // none: UTC
        for (const char* bad : {"Atlantis/Deep", "", "+25:00", "2", "+2", "../../etc/passwd", "Europe"})
            QVERIFY2(!zone_named(bad), bad);
    }

    // From the command line.

    void theSummaryHasItsKeys() {
        const QString demo = demo_file();
        const auto run = test::cli({"summary", demo, "--reading", "Rain", "--from", "2026-11-06T00:00:00Z", "--to",
                                    "2026-11-09", "--json"});
        QCOMPARE(run.code, 0);
        const Json j = run.json();
        for (const char* key : {"n", "valued", "least", "least_at", "mean", "u_mean", "most", "most_at", "total",
                                "bands", "failures", "coverage", "gaps", "unit"})
            QVERIFY2(j.contains(key), key);
        CLOSE(j["total"].get<double>(), 49.6, 3);
        CLOSE(j["coverage"].get<double>(), 1, 1e-9);
        QCOMPARE(j["n"].get<int>(), 3 * 480);
        const auto nothing = test::cli(
            {"summary", demo, "--reading", "rain", "--from", "2020-01-01", "--to", "2020-01-02", "--json"});
        QCOMPARE(nothing.code, 0);
        QVERIFY(nothing.json()["mean"].is_null() && nothing.json()["least_at"].is_null() &&
                nothing.json()["total"].is_null());
        CLOSE(nothing.json()["coverage"].get<double>(), 0, 0);
        QCOMPARE(nothing.json()["gaps"].size(), std::size_t(1));
    }

    void whatIsAskedWronglyIsSaid() {
        const QString demo = demo_file();
        QCOMPARE(test::cli({"summary", demo, "--reading", "Snow"}).code, 3);
        QCOMPARE(test::cli({"summary", demo, "--reading", "Rain", "--from", "yesterday"}).code, 2);
        QCOMPARE(
            test::cli({"summary", demo, "--reading", "Rain", "--from", "2026-11-09", "--to", "2026-11-06"}).code,
            2);
        QCOMPARE(test::cli({"months", demo, "--reading", "Rain", "--by", "fortnight"}).code, 2);
        QCOMPARE(test::cli({"months", demo, "--reading", "Rain", "zone=Mars/Olympus"}).code, 2);
        QCOMPARE(test::cli({"months", demo, "--reading", "Rain", "colour=red"}).code, 2);
        QCOMPARE(test::cli({"months", demo, "--reading", "Rain", "--against", "Hut air"}).code, 3);
        QCOMPARE(test::cli({"summary", "nowhere.cognitum", "--reading", "Rain"}).code, 3);
    }

    void aNeighboursFileStandsBesideTheOwnGauge() {
        const QString bench = m_folder.filePath("neighbour.cognitum");
        QVERIFY(QFile::copy(demo_file(), bench));
        QByteArray rows = "time,Neighbour's rain [mm],Depth [mm]\n";
        for (int day = 1; day <= 31; ++day)
            rows += QStringLiteral("2026-10-%1,%2,%3\n")
                        .arg(day, 2, 10, QLatin1Char('0'))
                        .arg(day % 7 == 3 ? 8.5 : 0)
                        .arg(300 + day)
                        .toUtf8();
        QCOMPARE(test::cli({"import", "-", "--bench", bench}, rows).code, 0);
        const auto run = test::cli(
            {"months", bench, "--reading", "Rain", "--against", "Neighbour's rain", "--json", "zone=UTC"});
        QCOMPARE(run.code, 0);
        const Json october = run.json()["months"][1];
        CLOSE(october["against"].get<double>(), 5 * 8.5, 1e-9);
        CLOSE(october["coverage_of_against"].get<double>(), 1, 1e-9);
        QVERIFY(october["doubt_of_difference"].is_null()); // nobody knows the other gauge
        const auto mixed = test::cli({"months", bench, "--reading", "Rain", "--against", "Depth"});
        QCOMPARE(mixed.code, 3); // millimetres of rain and of depth are two things
        QVERIFY(mixed.err.contains("total"));
    }

    void aStretchIsExportedWithWhatIsAskedFor() {
        const QStringList stretch = {"--reading",  "Hut air", "--from",
                                     "2026-11-20", "--to",    "2026-11-20T01:00:00Z"};
        const auto rows = [&](const QStringList& more) {
            const auto run = test::cli(QStringList{"export", demo_file()} + stretch + more);
            return run.code == 0 ? QString::fromUtf8(run.out).trimmed().split('\n')
                                 : QStringList{QString::fromUtf8(run.err)};
        };
        QCOMPARE(rows({}).size(), 21); // every three minutes, the end excluded
        const QStringList all = rows({"--both", "--doubt", "--causes"});
        QCOMPARE(all[0], QStringLiteral("time,Hut air,Hut air raw,Hut air doubt,Hut air cause"));
        const QStringList cells = all[1].split(',');
        QVERIFY(cells[3].toDouble() > 0.05 && cells[3].toDouble() < 1);
        QCOMPARE(rows({"--raw"})[0], QStringLiteral("time,Hut air [count]"));
        QCOMPARE(rows({"--raw"})[1].split(',')[1], cells[2]);
        QCOMPARE(test::cli(QStringList{"export", demo_file(), "--format", "json", "--raw"}).code, 2);

        // What was exported is taken again: raw through the path, the rest as values.
        const QString bench = m_folder.filePath("again.cognitum");
        QVERIFY(QFile::copy(demo_file(), bench));
        QByteArray late = rows({"--raw"}).join('\n').replace("2026-11-20T", "2026-12-20T").toUtf8() + "\n";
        QCOMPARE(test::cli({"import", "-", "--bench", bench}, late).code, 0);
        const auto back = test::cli({"export", bench, "--reading", "Hut air", "--from", "2026-12-20", "--both"});
        QCOMPARE(QString::fromUtf8(back.out).split('\n')[1].section(',', 1), all[1].section(',', 1, 2));
        const auto values = test::cli({"import", "-", "--bench", m_folder.filePath("values.cognitum"), "--json"},
                                      all.join('\n').toUtf8() + "\n");
        QCOMPARE(values.json()["readings"].get<int>(),
                 3); // no column is left out in silence: a board may send them
    }

    void oddStretchesAreAnswered() {
        const auto summary = [&](const QStringList& limits) {
            return test::cli(QStringList{"summary", demo_file(), "--reading", "Rain", "--json"} + limits);
        };
        const auto after = summary({"--from", "2026-12-24"});
        QCOMPARE(after.code, 0);
        QCOMPARE(after.json()["n"].get<int>(), 0);
        QVERIFY(after.json()["from"] == after.json()["to"]);
        QCOMPARE(test::cli({"export", demo_file(), "--from", "2026-11-20", "--to", "2026-11-10"}).code, 2);
        QVERIFY(summary({"--to", "2020-01-01"}).json()["total"].is_null());
        const Json long_one = summary({"--from", "1980-01-01", "--to", "9999-01-01"}).json();
        CLOSE(long_one["total"].get<double>(), summary({}).json()["total"].get<double>(), 1e-9);
        QVERIFY(long_one["u_total"].get<double>() <
                1); // its doubt is that of its last sample, not of the year 9999
        const auto within = test::cli({"summary", demo_file(), "--reading", "Tide pool level", "--json", "--from",
                                       "2026-11-14T20:00:00Z", "--to", "2026-11-15T02:00:00Z"});
        QCOMPARE(within.json()["gaps"].size(), std::size_t(1));
        CLOSE(within.json()["coverage"].get<double>(), 0, 0);
    }

    void monthsHaveTheirKeys() {
        const QString demo = demo_file();
        const auto run =
            test::cli({"months", demo, "--reading", "Pool water", "--against", "Hut air", "--json", "zone=UTC"});
        QCOMPARE(run.code, 0);
        const Json months = run.json()["months"];
        QCOMPARE(months.size(), std::size_t(3));
        for (const char* key :
             {"month", "value", "doubt", "coverage", "against", "difference", "doubt_of_difference"})
            QVERIFY2(months[1].contains(key), key);
        QCOMPARE(QString::fromStdString(months[1]["month"].get<std::string>()), QStringLiteral("2026-10"));
        CLOSE(months[1]["difference"].get<double>(),
              months[1]["value"].get<double>() - months[1]["against"].get<double>(), 1e-9);
        const auto days = test::cli(
            {"months", demo, "--reading", "Rain", "--by", "day", "--json", "zone=+01:00", "day_start=09:00"});
        QCOMPARE(QString::fromStdString(days.json()["days"][1]["from"].get<std::string>()),
                 QStringLiteral("2026-09-26T08:00:00.000Z"));
    }

    // Sixty days at Whelk Point.

    void theDemoTellsItsStory() {
        VALUE_OF(file, BenchFile::open(demo_file().toStdString(), Access::read));
        VALUE_OF(bench, file.load_plan());
        const LoadedCatalog cards = load_catalog();
        const auto figures = [&](const char* id, const char* from, const char* to) {
            auto out = figures_of(file, bench, cards.catalog, *bench.reading(id), parse_time(from), parse_time(to));
            if (!out) qFatal("%s", out.error().text().c_str());
            return *out;
        };
        QVERIFY(verify(file)->problems.empty());
        for (const Reading& r : bench.readings) { // every one has sixty days behind it
            VALUE_OF(all, extent(file, r.id));
            QVERIFY2(all.n > 300 && all.last - all.first > 50 * day_us, r.id.c_str());
        }
        // The shed was silent for 19 hours.
        const auto level = figures("tide-pool", "2026-11-10", "2026-11-20");
        QCOMPARE(level.stretch.gaps.size(), std::size_t(1));
        QVERIFY(std::abs(level.stretch.gaps[0].to - level.stretch.gaps[0].from - 19 * hour_us) < 10 * minute_us);
        // The pool's probe dropped out until it was sealed, and that is no temperature.
        const auto wet = figures("pool-water", "2026-11-02", "2026-11-05T11:00:00Z");
        QVERIFY(wet.stretch.failures.size() == 1 && wet.stretch.failures[0].cause == Cause::failed);
        QVERIFY(wet.stretch.least > 5);
        QVERIFY(figures("pool-water", "2026-11-05T12:00:00Z", "2026-11-10").stretch.failures.empty());
        // The storm filled the cistern, and the leak of a night emptied some of it.
        QVERIFY(*figures("rain", "2026-11-06", "2026-11-09").stretch.total > 30);
        QVERIFY(figures("air-pressure", "2026-11-06", "2026-11-09").stretch.mean <
                figures("air-pressure", "2026-11-13", "2026-11-24").stretch.mean);
        const auto leak = figures("cistern", "2026-11-17T01:00:00Z", "2026-11-17T05:30:00Z");
        QVERIFY2(leak.stretch.per_hour < -5, qPrintable(QString::number(leak.stretch.per_hour)));
        // Swims, and nothing between them.
        const auto pulse = figures("pulse", "2026-10-01", "2026-11-01");
        QVERIFY(pulse.stretch.valued > 2000 && pulse.stretch.coverage < 0.05 && pulse.stretch.most < 180);
    }

    void valuesAreOfTheCalibrationOfTheirTime() {
        VALUE_OF(file, BenchFile::open(demo_file().toStdString(), Access::read));
        VALUE_OF(bench, file.load_plan());
        VALUE_OF(records, file.calibrations("hut-air"));
        const CalibrationRecord& now = records.back();
        const CalibrationRecord& before = records[records.size() - 2];
        Reading reading = *bench.reading("hut-air");
        for (const auto& [from, correction] :
             {std::pair{now.time - day_us, before.correction}, {now.time + day_us, now.correction}}) {
            reading.correction = correction;
            const Chain path = effective_path(reading);
            double off = 0;
            std::size_t n = 0;
            QVERIFY(for_each_sample(file, "hut-air", from, from + hour_us, [&](std::span<const Sample> samples) {
                for (const Sample& s : samples)
                    off = std::max(off, std::abs(s.value - forward(path, s.raw).number));
                n += samples.size();
                return true;
            }));
            QVERIFY(n > 10 && off < 1e-9);
        }
    }

  private:
    QTemporaryDir m_folder;
};

RUN_TESTS_OF(TestReadingFigures)
#include "tst_reading_figures.moc"
