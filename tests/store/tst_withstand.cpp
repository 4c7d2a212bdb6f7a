// What is done to a bench file while it is open, and to one that somebody changed: nothing saved is lost, nothing
// half-made looks whole, and what is not as it was written is said.
#include "core/base/csv_text.h"
#include "store/samples/unsaved.h"
#include "store/upkeep/bench_copy.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <QDir>
#include <QFile>
#include <QProcess>
#include <SQLiteCpp/Statement.h>
#include <filesystem>

using namespace cognitum;

namespace {

std::vector<Sample> samples(TimeUs first, int n) {
    std::vector<Sample> out;
    for (int i = 0; i < n; ++i)
        out.push_back({first + i * second_us, double(i % 100), double(i % 100) / 4, Cause::none});
    return out;
}

Result<AddResult> add_some(BenchFile& file, const char* reading, TimeUs first, int n) {
    const SeriesBatch batch{reading, samples(first, n)};
    return add_samples(file, std::span(&batch, 1));
}

/// A bench with the reading "air" and `n` samples of it.
Result<BenchFile> bench_with(const std::string& path, int n) {
    return BenchFile::create(path, [n](BenchFile& file) -> Result<void> {
        COGNITUM_CHECK(file.save_plan(test::small_bench()));
        if (n > 0) COGNITUM_CHECK(add_some(file, "air", second_us, n));
        return {};
    });
}

std::uint64_t count(BenchFile& file, const char* reading = "air") {
    const auto known = extent(file, reading);
    return known ? known->n : 0;
}

} // namespace

class TestWithstand : public QObject {
    Q_OBJECT

    QTemporaryDir m_folder;
    int m_n = 0;
    std::string next() { return m_folder.filePath(QStringLiteral("b%1.cognitum").arg(++m_n)).toStdString(); }

  private slots:
    void initTestCase() { qputenv("XDG_DATA_HOME", m_folder.filePath("own").toUtf8()); }

    void anEmptyFileIsTakenUp() {
        const std::string path = next();
        QFile empty(QString::fromStdString(path));
        QVERIFY(empty.open(QIODevice::WriteOnly));
        empty.close();
        VALUE_OF(file, bench_with(path, 3));
        QCOMPARE(count(file), std::uint64_t(3));
        QVERIFY(!BenchFile::create(path));
    }
    void aBenchThatCannotBeFilledIsNotThere() {
        const QTemporaryDir folder;
        const auto made = BenchFile::create(test::file_in(folder, "x.cognitum"),
                                            [](BenchFile&) -> Result<void> { return failure("no."); });
        QVERIFY(!made);
        QVERIFY(QDir(folder.path()).isEmpty());
    }
    void noNameMeansAnotherThing() {
        QVERIFY(!BenchFile::create(""));
        const QTemporaryDir folder;
        const QString before = QDir::currentPath();
        QDir::setCurrent(folder.path());
        for (const char* name : {":memory:", "file:x?mode=memory", "a b%20?.cognitum"}) {
            VALUE_OF(file, bench_with(name, 2));
            QVERIFY2(std::filesystem::exists(folder.path().toStdString() + "/" + name),
                     name); // ":" means another thing to Qt
        }
        QDir::setCurrent(before);
    }

    void twoProgramsChangeThePlan() {
        const std::string path = next();
        VALUE_OF(mine, bench_with(path, 0));
        VALUE_OF(plan, mine.load_plan());
        VALUE_OF(other, BenchFile::open(path, Access::write));
        VALUE_OF(theirs, other.load_plan());
        Bench added = theirs;
        added.readings.push_back(added.readings[0]);
        added.readings[1].id = added.readings[1].name = "added";
        VALUE_OF(quiet, other.save_plan(added));
        QVERIFY(!quiet.merged);
        VALUE_OF(current, mine.plan_is_current());
        QVERIFY(!current);
        Bench renamed = plan;
        renamed.readings[0].name = "Renamed";
        VALUE_OF(saved, mine.save_plan(renamed));
        QVERIFY(saved.merged && saved.both.empty());
        QCOMPARE(saved.plan.readings.size(), std::size_t(2));
        VALUE_OF(now, other.load_plan());
        QCOMPARE(now.reading("air")->name, std::string("Renamed"));
        QVERIFY(now.reading("added"));
    }
    void bothChangeTheSameReading() {
        Bench base = test::small_bench();
        Bench ours = base, theirs = base;
        ours.readings[0].name = "Ours";
        theirs.readings[0].name = "Theirs";
        const MergedPlan merged = merge_plans(base, ours, theirs);
        QCOMPARE(merged.plan.readings[0].name, std::string("Ours"));
        QCOMPARE(merged.both.size(), std::size_t(1));
        QVERIFY(merged.both[0].find("\"Theirs\"") != std::string::npos); // nothing of it is lost
        // What one changed is not removed by the other, whoever it is.
        Bench without = base;
        without.readings.clear();
        QCOMPARE(merge_plans(base, without, theirs).plan.readings.size(), std::size_t(1));
        QCOMPARE(merge_plans(base, ours, without).plan.readings.size(), std::size_t(1));
        QCOMPARE(merge_plans(base, without, base).plan.readings.size(), std::size_t(0));
        // The same change by both is no quarrel.
        QVERIFY(merge_plans(base, ours, ours).both.empty());
        QVERIFY(merge_plans(base, base, theirs).plan == theirs);
    }
    void aRemovedReadingKeepsItsSamples() {
        VALUE_OF(file, bench_with(next(), 10));
        Bench less = test::small_bench();
        less.readings.clear();
        QVERIFY(file.save_plan(less));
        VALUE_OF(report, verify(file));
        QVERIFY(report.problems.empty());                          // it is known whose they were
        file.db().exec("DELETE FROM plan WHERE kind = 'removed'"); // as when a plan is lost
        VALUE_OF(orphans, verify(file));
        QCOMPARE(orphans.problems.size(), std::size_t(1));
        QVERIFY(orphans.problems[0].what.find("neither has nor had") != std::string::npos);
    }

    void aFileThatWasReplacedIsNotWrittenInto() {
        const std::string path = next(), other = next();
        VALUE_OF(file, bench_with(path, 10));
        { VALUE_OF(second, bench_with(other, 4)); }
        std::filesystem::rename(path, path + ".old");
        QVERIFY(!add_some(file, "air", 1000 * second_us, 1)); // gone
        std::filesystem::rename(other, path);
        const auto refused = add_some(file, "air", 1000 * second_us, 1);
        QVERIFY(!refused && refused.error().text().find("replaced") != std::string::npos);
        QVERIFY(!file.save_plan({}) && !file.append_log({}));
        // The new one opens when the old one is closed, and both are sound.
        QVERIFY(!BenchFile::open(path, Access::write));
        { const BenchFile closing = std::move(file); }
        VALUE_OF(now, BenchFile::open(path, Access::write));
        QCOMPARE(count(now), std::uint64_t(4));
        VALUE_OF(old, BenchFile::open(path + ".old", Access::read));
        QCOMPARE(count(old), std::uint64_t(10));
        QVERIFY(verify(old)->problems.empty() && verify(now)->problems.empty());
    }
    void noJournalIsLeftForAnotherFile() {
        const std::string path = next();
        VALUE_OF(file, bench_with(path, 10));
        QVERIFY(add_some(file, "air", 1000 * second_us, 5));
        QVERIFY(file.append_log({0, 1, "", "note", "x", 0}));
        QCOMPARE(std::filesystem::file_size(path + "-wal"), std::uintmax_t(0));
    }
    void lookingAtAnOpenFileKeepsItsLocks() {
        // A second program must not take the journal away from under the first, which it may where locks are lost.
        const std::string path = next();
        VALUE_OF(file, bench_with(path, 10));
        { VALUE_OF(again, BenchFile::open(path, Access::read)); }
        QProcess cli;
        cli.start(QStringLiteral(COGNITUM_BIN_DIR "/cognitum-cli"),
                  {"import", "-", "--bench", QString::fromStdString(path)});
        QVERIFY(cli.waitForStarted());
        cli.write("time,air\n2026-01-01T00:00:00Z,5\n");
        cli.closeWriteChannel();
        QVERIFY(cli.waitForFinished() && cli.exitCode() == 0);
        QVERIFY(std::filesystem::exists(path + "-wal")); // still ours
        QVERIFY(add_some(file, "air", 5000 * second_us, 1));
        VALUE_OF(reader, BenchFile::open(path, Access::read));
        QCOMPARE(count(reader), std::uint64_t(12));
    }

    void aChangedRowIsSaid_data() {
        QTest::addColumn<QByteArray>("sql");
        QTest::addColumn<QByteArray>("where");
        QTest::addRow("newest sample") << QByteArray("UPDATE tail SET value = 7.25 WHERE time = 4000000")
                                       << QByteArray("newest samples");
        QTest::addRow("its cause") << QByteArray("UPDATE tail SET cause = 1 WHERE time = 4000000")
                                   << QByteArray("newest samples");
        QTest::addRow("plan") << QByteArray(
                                     "UPDATE plan SET body = replace(body, '0.8', '0.9') WHERE kind = 'reading'")
                              << QByteArray("reading air");
        QTest::addRow("series") << QByteArray("UPDATE series SET reading = 'air2'") << QByteArray("air2");
        QTest::addRow("a text as a time")
            << QByteArray("UPDATE block SET first = 'x', check_sum = NULL") << QByteArray("reading air");
        QTest::addRow("summary") << QByteArray("UPDATE block SET high = 99 WHERE level = 0")
                                 << QByteArray("block 1");
    }
    void aChangedRowIsSaid() {
        QFETCH(QByteArray, sql);
        QFETCH(QByteArray, where);
        const std::string path = next();
        VALUE_OF(file, bench_with(path, 50));
        QVERIFY(add_some(file, "air", 100 * second_us, 5000)); // a block
        QVERIFY(add_some(file, "air", 3 * second_us, 0));
        if (sql.contains("tail")) {
            file.db().exec("DELETE FROM block");
            file.db().exec("DELETE FROM tail");
            QVERIFY(add_some(file, "air", second_us, 50));
        }
        QVERIFY(verify(file)->problems.empty());
        QCOMPARE(file.db().exec(sql.constData()), 1);
        VALUE_OF(report, verify(file));
        bool said = false;
        for (const Problem& p : report.problems)
            said = said || p.where.find(where.toStdString()) != std::string::npos;
        QVERIFY2(said, report.problems.empty() ? "nothing" : report.problems[0].where.c_str());
    }
    void aDamagedSampleIsNoValueAndStaysOutOfBlocks() {
        VALUE_OF(file, bench_with(next(), 50));
        QCOMPARE(file.db().exec("UPDATE tail SET value = 7.25 WHERE time = 4000000"), 1);
        QVERIFY(!for_each_sample(file, "air", 0, latest_time, [](std::span<const Sample>) { return true; }));
        std::vector<Unreadable> unreadable;
        std::size_t n = 0;
        QVERIFY(for_each_sample(
            file, "air", 0, latest_time,
            [&](std::span<const Sample> all) {
                n += all.size();
                return true;
            },
            &unreadable));
        QCOMPARE(n, std::size_t(49));
        QCOMPARE(unreadable.size(), std::size_t(1));
        // Packing the others into a block must not make it look sound.
        QVERIFY(add_some(file, "air", 100 * second_us, 5000));
        VALUE_OF(report, verify(file));
        QVERIFY(!report.problems.empty());
        QCOMPARE(report.samples, std::uint64_t(5049));
    }
    void aDamagedPlanAndRecordAreNotUsed() {
        VALUE_OF(file, bench_with(next(), 5));
        CalibrationRecord record;
        record.reading = "air";
        record.model = "none";
        QVERIFY(file.append_calibration(record));
        file.db().exec("DROP TRIGGER calibration_stays; UPDATE calibration SET time = 5");
        const auto records = file.calibrations("air");
        QVERIFY(!records && records.error().text().find("not what was written") != std::string::npos);
        QCOMPARE(file.db().exec("UPDATE plan SET body = replace(body, '0.8', '0.9') WHERE kind = 'reading'"), 1);
        QVERIFY(!file.load_plan());
        // The mended copy has the row as it stands, and says so.
        VALUE_OF(mended, copy_bench(file, next()));
        QVERIFY(mended.lost.size() >= 2);
        QCOMPARE(mended.samples, std::uint64_t(5));
        VALUE_OF(copy, BenchFile::open(m_folder.filePath(QStringLiteral("b%1.cognitum").arg(m_n)).toStdString(),
                                       Access::read));
        QVERIFY(copy.load_plan());
    }
    void oneDamagedSeriesHoldsUpNoOther() {
        VALUE_OF(file, bench_with(next(), 5000));
        QVERIFY(file.db().exec("UPDATE block SET data = x'00' WHERE level = 0") > 0);
        const std::vector<SeriesBatch> batches = {{"air", samples(2 * second_us + 1, 10)},
                                                  {"other", samples(1, 10)}};
        VALUE_OF(added, add_samples(file, batches));
        QCOMPARE(added.added, std::uint64_t(10));
        QVERIFY(added.damaged.contains(0) && !added.damaged.contains(1));
        QCOMPARE(count(file, "other"), std::uint64_t(10));
    }

    void theFirstVersionIsReadAndBroughtUpToDate() {
        const std::string path = next();
        {
            VALUE_OF(file, bench_with(path, 5000));
            for (const SummedTable& table : summed_tables)
                file.db().exec("ALTER TABLE " + std::string(table.name) + " DROP COLUMN check_sum");
            file.db().exec("DELETE FROM plan WHERE kind = 'revision'; PRAGMA user_version = 1");
        }
        {
            VALUE_OF(old, BenchFile::open(path, Access::read));
            QCOMPARE(count(old), std::uint64_t(5000));
            VALUE_OF(plan, old.load_plan());
            QVERIFY(plan == test::small_bench());
            QVERIFY(verify(old)->problems.empty());
        }
        VALUE_OF(file, BenchFile::open(path, Access::write));
        QCOMPARE(file.db().execAndGet("PRAGMA user_version").getInt(), bench_version);
        QVERIFY(add_some(file, "air", 100000 * second_us, 10));
        QCOMPARE(count(file), std::uint64_t(5010));
        QVERIFY(verify(file)->problems.empty());
    }
    void aSchemaThatIsNotOursIsRefused_data() {
        QTest::addColumn<QByteArray>("sql");
        QTest::addRow("a view") << QByteArray("DROP TABLE plan; CREATE VIEW plan AS SELECT 1 AS kind");
        QTest::addRow("a trigger") << QByteArray(
            "CREATE TRIGGER t AFTER INSERT ON tail BEGIN DELETE FROM series; END");
        QTest::addRow("no trigger") << QByteArray("DROP TRIGGER logbook_kept");
        QTest::addRow("a table more") << QByteArray("CREATE TABLE more (x)");
        QTest::addRow("a column more") << QByteArray("ALTER TABLE tail ADD COLUMN more INTEGER");
        QTest::addRow("the wrong version") << QByteArray("PRAGMA user_version = 1");
    }
    void aSchemaThatIsNotOursIsRefused() {
        QFETCH(QByteArray, sql);
        const std::string path = next();
        {
            VALUE_OF(file, bench_with(path, 5));
            file.db().exec(sql.constData());
        }
        for (const Access access : {Access::read, Access::write})
            QVERIFY(!BenchFile::open(path, access));
    }

    void whatIsUnsavedIsKeptAndTakenBack() {
        const std::string path = next();
        const Bench plan = test::small_bench();
        const std::vector<SeriesBatch> waiting = {{"air", samples(500 * second_us, 30)}};
        const std::vector<LogEntry> entries = {{0, 5, "air", "alert", "first", 0},
                                               {0, 6, "air", "alert", "second", 0}};
        VALUE_OF(kept, keep_unsaved(path, plan, {waiting, entries}, 1795617060LL * second_us));
        VALUE_OF(kept_plan, keep_unsaved(path, plan, {}, 1795617061LL * second_us));
        QVERIFY(kept.find(".unsaved-2026-11-25") != std::string::npos);
        VALUE_OF(file, bench_with(path, 10));
        VALUE_OF(taken, take_back_unsaved(file));
        QCOMPARE(taken.samples, std::uint64_t(30));
        QCOMPARE(taken.files, std::vector<std::string>{kept});
        QCOMPARE(count(file), std::uint64_t(40));
        QVERIFY(!QFile::exists(QString::fromStdString(kept)));
        VALUE_OF(log, file.log());
        QCOMPARE(log.size(), std::size_t(2));
        QCOMPARE(log[0].text, std::string("second"));              // newest first
        QVERIFY(QFile::exists(QString::fromStdString(kept_plan))); // a person decides about a plan
        QVERIFY(take_back_unsaved(file)->files.empty());
    }

    void whereTheFolderIsGoneItIsKeptAmongThePersonsOwn() {
        QVERIFY(QDir(m_folder.path()).mkpath("stick"));
        const std::string path = m_folder.filePath("stick/b.cognitum").toStdString();
        const std::string other = m_folder.filePath("other/b.cognitum").toStdString();
        QVERIFY(QDir(m_folder.path()).mkpath("other") && QDir(m_folder.filePath("stick")).removeRecursively());
        VALUE_OF(kept, keep_unsaved(path, test::small_bench(), {{{"air", samples(second_us, 4)}}, {}}, 5));
        QVERIFY(kept.starts_with(own_data_folder()));
        QVERIFY(!QDir(m_folder.filePath("stick")).exists());
        VALUE_OF(stranger, bench_with(other, 1)); // of the same name in another folder
        QVERIFY(take_back_unsaved(stranger)->files.empty());
        QVERIFY(QDir(m_folder.path()).mkpath("stick"));
        VALUE_OF(back, bench_with(path, 0));
        QCOMPARE(take_back_unsaved(back)->samples, std::uint64_t(4));
    }

    void bracketsAreCountedBeforeTheyAreParsed() {
        const std::string deep(100000, '[');
        QVERIFY(!JsonText::parse("x", deep));
        QVERIFY(!json_is_shallow(std::string(65, '{')));
        QVERIFY(json_is_shallow(std::string(64, '[') + std::string(64, ']')));
        QVERIFY(json_is_shallow("\"" + deep + "\"")); // within quotes they are text
        QVERIFY(json_is_shallow("[\"\\\"[[[\"]"));
        const auto huge = JsonText::parse("card.json", "{\"a\": 1e400}");
        QVERIFY(!huge && huge.error().where == "card.json");
        QCOMPARE(json_dump(Json("a\xffz")), std::string("\"a\xEF\xBF\xBDz\""));
    }
    void aPlanOfThousandsIsRefusedBeforeAnythingLooksAtEachPair() {
        Bench bench = test::small_bench();
        const Reading air = bench.readings[0];
        for (int i = 0; i < 1000; ++i) {
            bench.readings.push_back(air);
            bench.readings.back().id = "r" + std::to_string(i);
        }
        VALUE_OF(text, JsonText::parse("many.json", bench_json(bench).dump()));
        const auto read = read_bench(JsonReader(text));
        QVERIFY(!read && read.error().text().find("/readings: there are 1001") != std::string::npos);
        VALUE_OF(file, bench_with(next(), 1));
        QVERIFY(!file.save_plan(bench)); // what could not be opened again is not saved
        QVERIFY(file.load_plan());
        std::string stages = "{\"input_unit\": \"V\", \"stages\": [{}";
        for (int i = 0; i < 64; ++i)
            stages += ", {}";
        VALUE_OF(chain, JsonText::parse("chain.json", stages + "]}"));
        const auto path = read_chain(JsonReader(chain));
        QVERIFY(!path && path.error().text().find("65 stages") != std::string::npos);
    }
    void aSpreadsheetRunsNoName() {
        for (const char* name : {"=1+1", "+1", "-1", "@x", "\tx"})
            QVERIFY2(csv_field(name).find('\'') <= 1, name);
        QCOMPARE(csv_field("Cistern level"), std::string("Cistern level"));
        QCOMPARE(csv_field("=a,\"b\""), std::string("\"'=a,\"\"b\"\"\""));
    }
};

RUN_TESTS_OF(TestWithstand)
#include "tst_withstand.moc"
