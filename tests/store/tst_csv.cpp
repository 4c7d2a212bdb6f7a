// CSV in and out: good rows kept, bad ones counted and named, raw counts through the path, every digit back out.
#include "store/exchange/csv_import.h"
#include "store/exchange/csv_rows.h"
#include "store/exchange/export.h"
#include "store/samples/samples.h"
#include "support/run_tests.h"
#include "support/samples_of.h"
#include "support/support.h"

#include <QFile>
#include <fcntl.h>
#include <thread>
#include <unistd.h>

using namespace cognitum;
using test::all_of;
using test::everything;

namespace {

struct Imported {
    Result<ImportReport> report = failure("not run");
    Bench bench;
};

std::string fixture(const char* name) {
    return std::string(COGNITUM_SOURCE_DIR "/tests/fixtures/") + name;
}

Imported run(BenchFile& file, Bench bench, const std::string& path, ImportOptions options = {}) {
    Imported out;
    out.bench = std::move(bench);
    const int descriptor = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
    out.report = import_csv(file, out.bench, path, descriptor, options);
    ::close(descriptor);
    return out;
}

std::string exported(BenchFile& file, const Bench& bench, ExportFormat format, bool causes = false,
                     const std::vector<std::string>& readings = {}) {
    std::string text;
    [[maybe_unused]] const auto done =
        export_samples(file, bench, {format, earliest_time, latest_time, readings, causes},
                       [&](std::string_view piece) { text += piece; });
    return text;
}

const Rejection* find(const Rejections& rejected, const char* reason) {
    for (const Rejection& r : rejected.reasons())
        if (r.reason.find(reason) != std::string::npos) return &r;
    return nullptr;
}

} // namespace

class TestCsv : public QObject {
    Q_OBJECT

    QTemporaryDir m_folder;
    int m_n = 0;
    BenchFile fresh() {
        return std::move(
            *BenchFile::create(test::file_in(m_folder, qPrintable(QStringLiteral("%1.cognitum").arg(m_n++)))));
    }

  private slots:
    void decimalCommasOfSpreadsheets() {
        using namespace cognitum::csv;
        VALUE_OF(preview, preview_csv("log.csv", "time;Air;Sea\n2026-01-01T10:00:00Z;1;2\n", Bench{}, {}));
        TimeUs time = 0;
        std::vector<Cell> cells;
        RowReader reader(preview.separator, preview.columns);
        QCOMPARE(reader.read("2026-01-01T10:00:00Z;-3,5;1e-3", time, cells), std::string());
        QCOMPARE(cells[1].number, -3.5);
        QCOMPARE(cells[2].number, 1e-3);
        for (const char* wrong : {"1.234,5", "1,2,3", ",", "3,5x", "--3,5"})
            QVERIFY2(!reader.read(std::string("2026-01-01T10:00:00Z;") + wrong + ";1", time, cells).empty(), wrong);
    }
    void columnsBecomeReadings() {
        BenchFile file = fresh();
        const Imported in = run(file, test::small_bench(), fixture("good.csv"));
        QVERIFY2(in.report.has_value(), in.report ? "" : in.report.error().text().c_str());
        QCOMPARE(in.report->rows, std::uint64_t(3));
        QCOMPARE(in.report->samples, std::uint64_t(4));
        QCOMPARE(in.bench.readings.size(), std::size_t(2)); // Air was known, Rock is new
        QCOMPARE(in.bench.readings[1].quantity.unit, std::string("degC"));
        QCOMPARE(in.bench.readings[1].quantity.kind, std::string("temperature"));
        const auto air = all_of(file, "air");
        QCOMPARE(air.size(), std::size_t(2));
        QCOMPARE(air[1].value, 17.625);
        QVERIFY(std::isnan(air[0].raw));
        VALUE_OF(plan, file.load_plan());
        QVERIFY(plan == in.bench);
    }
    void badRowsAreCountedAndNamed() {
        BenchFile file = fresh();
        const Imported in = run(file, test::small_bench(), fixture("bad_rows_between_good_ones.csv"));
        QVERIFY(in.report.has_value());
        QCOMPARE(in.report->rows, std::uint64_t(2));
        QCOMPARE(in.report->rejected.total(), std::uint64_t(5));
        QCOMPARE(find(in.report->rejected, "text where a number belongs")->first_line, std::uint64_t(3));
        QCOMPARE(find(in.report->rejected, "1 fields where 2")->first_line, std::uint64_t(4));
        QCOMPARE(find(in.report->rejected, "a time that cannot be read")->first_line, std::uint64_t(5));
        QCOMPARE(find(in.report->rejected, "no value")->first_line, std::uint64_t(6));
        QCOMPARE(find(in.report->rejected, "already there")->first_line, std::uint64_t(8));
        QCOMPARE(all_of(file, "air")[0].value, 17.5); // the first one stayed
    }
    void timesThatGoBackwardsAreKeptInOrder() {
        BenchFile file = fresh();
        QVERIFY(run(file, test::small_bench(), fixture("time_goes_backwards.csv")).report.has_value());
        const auto samples = all_of(file, "air");
        QCOMPARE(samples.size(), std::size_t(3));
        for (std::size_t i = 0; i < 3; ++i)
            QCOMPARE(samples[i].value, static_cast<double>(i + 1));
    }
    void rawCountsGoThroughThePath() {
        BenchFile file = fresh();
        const Bench bench = test::small_bench();
        QVERIFY(run(file, bench, fixture("raw_counts.csv")).report.has_value());
        const auto samples = all_of(file, "air");
        QCOMPARE(samples.size(), std::size_t(3));
        QCOMPARE(samples[0].cause, Cause::at_low_rail); // kept, as a failed measurement
        QVERIFY(std::isnan(samples[0].value));
        QCOMPARE(samples[1].raw, 142.0);
        CLOSE(samples[1].value, (142.5 * 5 / 1024 - 0.5) / 0.01, 1e-9);
        QCOMPARE(samples[2].cause, Cause::at_high_rail);
    }
    void asRawTreatsPlainColumnsAsCounts() {
        BenchFile file = fresh();
        ImportOptions options;
        options.as_raw = true;
        QVERIFY(run(file, test::small_bench(), fixture("good.csv"), options).report.has_value());
        const auto samples = all_of(file, "air");
        QCOMPARE(samples[0].raw, 17.5);
        CLOSE(samples[0].value, (18.0 * 5 / 1024 - 0.5) / 0.01, 1e-9);
    }
    void quotesSemicolonsAndMarks() {
        BenchFile file = fresh();
        const Imported in = run(file, {}, fixture("quoted_with_semicolons.csv"));
        QVERIFY2(in.report.has_value(), in.report ? "" : in.report.error().text().c_str());
        QCOMPARE(in.bench.readings[0].name, std::string("Air; outside"));
        QCOMPARE(all_of(file, in.bench.readings[0].id)[0].value, 17.5);
    }

    void whatCannotBeTakenChangesNothing_data() {
        QTest::addColumn<QByteArray>("name");
        QTest::addColumn<QByteArray>("says");
        QTest::addRow("no time") << QByteArray("header_without_time.csv")
                                 << QByteArray("no column is called \"time\"");
        QTest::addRow("two names") << QByteArray("two_columns_of_one_name.csv") << QByteArray("two columns");
        QTest::addRow("no good row") << QByteArray("no_good_row.csv") << QByteArray("no row could be taken");
    }
    void whatCannotBeTakenChangesNothing() {
        QFETCH(QByteArray, name);
        QFETCH(QByteArray, says);
        BenchFile file = fresh();
        const Bench bench = test::small_bench();
        QVERIFY(file.save_plan(bench));
        const Imported in = run(file, bench, fixture(name.constData()));
        QVERIFY(!in.report);
        QVERIFY2(in.report.error().what.find(says.toStdString()) != std::string::npos,
                 in.report.error().what.c_str());
        QVERIFY(in.bench == bench);
        QVERIFY(*file.load_plan() == bench);
        QVERIFY(all_of(file, "air").empty());
    }

    void previewSaysWhatWillHappen() {
        const std::string text = "time,Air,Cellar\n2026-06-01T09:00:00Z,1,2\nbad,1,2\n2026-06-01T09:00:02Z,3,x\n";
        VALUE_OF(preview, preview_csv("f.csv", text, test::small_bench(), {}));
        QCOMPARE(preview.good, std::uint64_t(1));
        QCOMPARE(preview.rejected.total(), std::uint64_t(2));
        QCOMPARE(preview.columns[1].reading, std::string("air"));
        QVERIFY(preview.columns[2].reading.empty());
        QCOMPARE(preview.rows.size(), std::size_t(3));
        QVERIFY(!preview_csv("f.csv", "a,b\n", {}, {}));
    }

    void aPipeIsCommittedWhileItIsOpen() {
        const std::string path = test::file_in(m_folder, "pipe.cognitum");
        int ends[2];
        QCOMPARE(::pipe(ends), 0);
        std::thread importer([&] {
            auto file = BenchFile::create(path);
            Bench bench;
            [[maybe_unused]] const auto report = import_csv(*file, bench, "stdin", ends[0], {});
        });
        const std::string head = "time,Air\n1,10\n2,20\n";
        QCOMPARE(::write(ends[1], head.data(), head.size()), static_cast<ssize_t>(head.size()));
        // The writer says nothing more, yet what it sent is saved.
        QTRY_VERIFY_WITH_TIMEOUT(
            [&] {
                auto reader = BenchFile::open(path, Access::read);
                return reader && extent(*reader, "air").value_or(SeriesExtent{}).n == 2;
            }(),
            10000);
        ::close(ends[1]);
        importer.join();
        ::close(ends[0]);
    }

    void everyDigitComesBack() {
        BenchFile file = fresh();
        Bench bench = test::small_bench();
        SeriesBatch batch{"air", {}};
        for (int i = 0; i < 5000; ++i)
            batch.samples.push_back({i * 1234567LL, static_cast<double>(i), std::sin(i) * 1e3 / 7, Cause::none});
        batch.samples.push_back(
            {7'000'000'000, 1023, std::numeric_limits<double>::quiet_NaN(), Cause::at_high_rail});
        QVERIFY(add_samples(file, std::span(&batch, 1)));
        const std::string csv = exported(file, bench, ExportFormat::csv, true);
        QFile out(m_folder.filePath("again.csv"));
        QVERIFY(out.open(QIODevice::WriteOnly));
        out.write(csv.data(), static_cast<qint64>(csv.size()));
        out.close();
        BenchFile other = fresh();
        const Imported in = run(other, bench, out.fileName().toStdString());
        QVERIFY(in.report.has_value());
        QCOMPARE(in.report->rejected.total(), std::uint64_t(0));
        const auto again = all_of(other, "air");
        QCOMPARE(again.size(), std::size_t(5001));
        QCOMPARE(again[5000].cause, Cause::at_high_rail);
        for (std::size_t i = 0; i < 5000; ++i) {
            QCOMPARE(again[i].time, batch.samples[i].time);
            QCOMPARE(again[i].value, batch.samples[i].value);
        }
    }
    void jsonAndSenml() {
        BenchFile file = fresh();
        const Bench bench = test::small_bench();
        const SeriesBatch batch{"air",
                                {{1'500'000, 1, 17.25, Cause::none},
                                 {2'000'000, 0, std::numeric_limits<double>::quiet_NaN(), Cause::at_low_rail}}};
        QVERIFY(add_samples(file, std::span(&batch, 1)));
        const Json json = Json::parse(exported(file, bench, ExportFormat::json));
        QCOMPARE(json["readings"][0]["name"].get<std::string>(), std::string("Air"));
        QCOMPARE(json["readings"][0]["samples"][0][0].get<std::string>(), std::string("1970-01-01T00:00:01.500Z"));
        QVERIFY(json["readings"][0]["samples"][1][1].is_null());
        const Json senml = Json::parse(exported(file, bench, ExportFormat::senml));
        QCOMPARE(senml.size(), std::size_t(1));
        QCOMPARE(senml[0]["u"].get<std::string>(), std::string("Cel"));
        QCOMPARE(senml[0]["t"].get<double>(), 1.5);
        QCOMPARE(senml[0]["v"].get<double>(), 17.25);
    }
    void twoReadingsShareRowsByTime() {
        BenchFile file = fresh();
        Bench bench = test::small_bench();
        bench.readings.push_back(bench.readings[0]);
        bench.readings[1].id = "b";
        bench.readings[1].name = "B, \"quoted\"";
        const SeriesBatch batches[] = {{"air", {{0, 1, 1, Cause::none}, {2'000'000, 1, 3, Cause::none}}},
                                       {"b", {{1'000'000, 1, 2, Cause::none}, {2'000'000, 1, 4, Cause::none}}}};
        QVERIFY(add_samples(file, batches));
        QCOMPARE(exported(file, bench, ExportFormat::csv),
                 std::string("time,Air,\"B, "
                             "\"\"quoted\"\"\"\n1970-01-01T00:00:00.000Z,1,\n1970-01-01T00:00:01.000Z,,2\n1970-01-"
                             "01T00:00:02.000Z,3,4\n"));
    }
    void everyCauseGoesOutAndComesBack() {
        BenchFile file = fresh();
        const Bench bench = test::small_bench();
        SeriesBatch batch{"air", {}};
        for (int i = 0; i <= static_cast<int>(last_cause); ++i)
            batch.samples.push_back({i * second_us, 1, i == 0 ? 5 : std::nan(""), static_cast<Cause>(i)});
        QVERIFY(add_samples(file, std::span(&batch, 1)));
        const QString csv = write("causes.csv", exported(file, bench, ExportFormat::csv, true));
        BenchFile other = fresh();
        QVERIFY(run(other, bench, csv.toStdString()).report.has_value());
        const auto again = all_of(other, "air");
        QCOMPARE(again.size(), batch.samples.size());
        for (std::size_t i = 0; i < again.size(); ++i)
            QCOMPARE(again[i].cause, batch.samples[i].cause);
        const Json json = Json::parse(exported(file, bench, ExportFormat::json, true));
        QCOMPARE(json["readings"][0]["samples"][8][2].get<std::string>(), std::string("below empty"));
        const Json senml = Json::parse(exported(file, bench, ExportFormat::senml, true));
        QCOMPARE(senml[9]["vs"].get<std::string>(), std::string("overfull"));
    }
    void anUnreadableBlockIsTheOnlyThingThatIsMissing() {
        BenchFile file = fresh();
        Bench bench = test::small_bench();
        bench.readings.push_back(bench.readings[0]);
        bench.readings[1].id = bench.readings[1].name = "b";
        std::vector<Sample> many;
        for (int i = 0; i < 9000; ++i)
            many.push_back({i * second_us, 1.0 * i, 1.0 * i, Cause::none});
        const SeriesBatch batches[] = {{"air", many}, {"b", many}};
        QVERIFY(add_samples(file, batches));
        file.db().exec("UPDATE block SET data = x'0011' WHERE id = (SELECT min(id) FROM block WHERE level = 0)");
        std::string text;
        VALUE_OF(report, export_samples(file, bench, {}, [&](std::string_view piece) { text += piece; }));
        QCOMPARE(report.unreadable.size(), std::size_t(1));
        QCOMPARE(report.unreadable[0].reading, std::string("air"));
        QCOMPARE(report.unreadable[0].last, 4095 * second_us);
        QCOMPARE(report.unreadable[0].n, std::uint64_t(4096));
        QVERIFY(text.find("T00:00:01.000Z,,1\n") != std::string::npos);
        QVERIFY(text.find("T01:08:16.000Z,4096,4096\n") != std::string::npos);
    }
    void privateReadingsLeaveOnlyWhenNamed_data() {
        QTest::addColumn<bool>("by_hand");
        QTest::newRow("about health") << false;
        QTest::newRow("by a person's choice") << true;
    }
    void privateReadingsLeaveOnlyWhenNamed() {
        QFETCH(bool, by_hand);
        BenchFile file = fresh();
        Bench bench = test::small_bench();
        bench.readings[0].quantity.kept_private = by_hand;
        if (!by_hand) bench.readings[0].quantity.kind = "pulse-rate";

        const SeriesBatch batch{"air", {{0, 70, 70, Cause::none}}};
        QVERIFY(add_samples(file, std::span(&batch, 1)));
        for (const ExportFormat format : {ExportFormat::csv, ExportFormat::json, ExportFormat::senml}) {
            QVERIFY(exported(file, bench, format).find("70") == std::string::npos ||
                    exported(file, bench, format).find("Air") == std::string::npos);
            QVERIFY(exported(file, bench, format, false, {"air"}).find("70") != std::string::npos);
        }
        VALUE_OF(report, export_samples(file, bench, {}, [](std::string_view) {}));
        QCOMPARE(report.private_readings, std::vector<std::string>{"Air"});
    }
    void failureValuesAreNoValuesInAFileEither_data() {
        QTest::addColumn<QByteArray>("part");
        QTest::addColumn<QByteArray>("rows");
        QTest::addColumn<int>("values");
        QTest::newRow("power-on and lost")
            << QByteArray("one-wire-probe-waterproof") << QByteArray("0,85.0\n1,20\n2,-127\n3,21\n4,85\n") << 2;
        QTest::newRow("really 85") << QByteArray("one-wire-probe-waterproof") << QByteArray("0,80\n1,85\n") << 2;
        QTest::newRow("words") << QByteArray("one-wire-probe-waterproof")
                               << QByteArray("0,nan\n1,20\n2,fail\n3,--\n") << 1;
    }
    void failureValuesAreNoValuesInAFileEither() {
        QFETCH(QByteArray, part);
        QFETCH(QByteArray, rows);
        QFETCH(int, values);
        BenchFile file = fresh();
        ImportOptions options;
        options.catalog = &test::catalog();
        const QString path = write("failures.csv", ("time,Air\n" + rows).toStdString());
        const auto in = run(file, test::small_bench(part.constData()), path.toStdString(), options);
        QVERIFY2(in.report.has_value(), in.report ? "" : in.report.error().text().c_str());
        const auto samples = all_of(file, "air");
        QCOMPARE(samples.size(), static_cast<std::size_t>(rows.count('\n')));
        int good = 0;
        for (const Sample& s : samples) {
            QCOMPARE(std::isfinite(s.value), s.cause == Cause::none);
            good += std::isfinite(s.value);
        }
        QCOMPARE(good, values);
    }
    void aPartnerInTheSameFileIsFollowed() {
        Bench bench = test::small_bench("one-wire-probe-waterproof");
        Reading k = test::small_bench("conductivity-analog").readings[0];
        k.id = "k";
        k.name = "K";
        k.quantity.kind = "conductivity";
        k.quantity.unit = "mS/cm";
        k.path = {};
        k.path.stages = {Conductivity25{Conductivity25::Compensation::linear,
                                        {25, 0, Spread::none, {}, {}, "air"},
                                        {0.02, 0, Spread::none, {}, {}}}};
        bench.readings.insert(bench.readings.begin(), k); // before the one that it follows
        BenchFile file = fresh();
        ImportOptions options;
        options.catalog = &test::catalog();
        options.as_raw = true;
        const QString path = write("partners.csv", "time,K,Air\n0,1.0,15\n1,1.0,35\n2,1.0,-127\n");
        QVERIFY(run(file, bench, path.toStdString(), options).report.has_value());
        const auto samples = all_of(file, "k");
        CLOSE(samples[0].value, 1 / 0.8, 1e-12);
        CLOSE(samples[1].value, 1 / 1.2, 1e-12);
        CLOSE(samples[2].value, 1 / 1.2, 1e-12); // the failed one is no temperature; the last one is still fresh
    }
    void aLineOfMegabytesIsOneRejectedLine() {
        BenchFile file = fresh();
        std::string text =
            "time,Air\n0,1\n" + std::string(2'500'000, '7') + "\n1,2\n" + std::string(1'100'000, 'x');
        const auto in = run(file, test::small_bench(), write("long.csv", text).toStdString());
        QVERIFY(in.report.has_value());
        QCOMPARE(in.report->rows, std::uint64_t(2));
        QCOMPARE(in.report->rejected.count("longer than a megabyte"), std::uint64_t(2));
        QCOMPARE(in.report->rejected.reasons()[0].first_line, std::uint64_t(3));
    }

  private:
    QString write(const char* name, const std::string& text) {
        QFile out(m_folder.filePath(QLatin1String(name)));
        if (out.open(QIODevice::WriteOnly)) out.write(text.data(), static_cast<qint64>(text.size()));
        return out.fileName();
    }
};

RUN_TESTS_OF(TestCsv)
#include "tst_csv.moc"
