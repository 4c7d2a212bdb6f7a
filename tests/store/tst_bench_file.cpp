// What opens, what does not and why; nothing foreign is touched; nothing kept forever can be changed.
#include "demo/demo_bench.h"
#include "store/file/bench_file.h"
#include "store/upkeep/verify.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <QCryptographicHash>
#include <QFile>
#include <SQLiteCpp/Statement.h>

using namespace cognitum;

namespace {

QByteArray hash_of(const std::string& path) {
    QFile file(QString::fromStdString(path));
    if (!file.open(QIODevice::ReadOnly)) return {};
    return QCryptographicHash::hash(file.readAll(), QCryptographicHash::Sha256);
}

void write(const std::string& path, const QByteArray& bytes) {
    QFile file(QString::fromStdString(path));
    QVERIFY(file.open(QIODevice::WriteOnly));
    file.write(bytes);
}

} // namespace

class TestBenchFile : public QObject {
    Q_OBJECT

  private slots:
    void planComesBack() {
        const QTemporaryDir folder;
        const std::string path = test::file_in(folder, "b.cognitum");
        Bench bench = test::small_bench();
        {
            VALUE_OF(file, BenchFile::create(path));
            QVERIFY(file.save_plan(bench));
            bench.readings.push_back(bench.readings[0]);
            bench.readings[1].id = "second";
            bench.boards[0].link = {LinkKind::serial, "/dev/ttyUSB0", 9600, 0};
            QVERIFY(file.save_plan(bench));
        }
        VALUE_OF(file, BenchFile::open(path, Access::read));
        VALUE_OF(again, file.load_plan());
        QVERIFY(again == bench);
        {
            VALUE_OF(writer, BenchFile::open(path, Access::write));
            bench.readings.erase(bench.readings.begin());
            QVERIFY(writer.save_plan(bench));
            VALUE_OF(less, writer.load_plan());
            QVERIFY(less == bench);
        }
    }

    void notABench_data() {
        QTest::addColumn<QByteArray>("bytes");
        QTest::addColumn<QByteArray>("says");
        QTest::addRow("empty") << QByteArray() << QByteArray("empty");
        QTest::addRow("text") << QByteArray("time,value\n1,2\n").repeated(20) << QByteArray("not a bench");
        QTest::addRow("short") << QByteArray("SQLite format 3\0", 16) << QByteArray("not a bench");
    }
    void notABench() {
        QFETCH(QByteArray, bytes);
        QFETCH(QByteArray, says);
        const QTemporaryDir folder;
        const std::string path = test::file_in(folder, "x.cognitum");
        write(path, bytes);
        for (const Access access : {Access::read, Access::write}) {
            const auto file = BenchFile::open(path, access);
            QVERIFY(!file);
            QVERIFY2(QByteArray::fromStdString(file.error().what).contains(says), file.error().what.c_str());
            QCOMPARE(file.error().where, path);
            QVERIFY(!file.error().fix.empty());
        }
        QCOMPARE(hash_of(path), QCryptographicHash::hash(bytes, QCryptographicHash::Sha256));
    }
    void missingOrInTheWay() {
        const QTemporaryDir folder;
        QVERIFY(!BenchFile::open(test::file_in(folder, "none.cognitum"), Access::read));
        QVERIFY(!BenchFile::open(folder.path().toStdString(), Access::read)); // a folder
        QVERIFY(!BenchFile::create(test::file_in(folder, "no/such/folder.cognitum")));
        const std::string path = test::file_in(folder, "b.cognitum");
        QVERIFY(BenchFile::create(path));
        const QByteArray before = hash_of(path);
        QVERIFY(!BenchFile::create(path));
        QCOMPARE(hash_of(path), before);
    }
    void anotherProgramsDatabaseIsLeftAlone() {
        const QTemporaryDir folder;
        const std::string path = test::file_in(folder, "other.db");
        {
            SQLite::Database other(path, SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
            other.exec("CREATE TABLE precious (x)");
        }
        const QByteArray before = hash_of(path);
        const auto file = BenchFile::open(path, Access::write);
        QVERIFY(!file);
        QVERIFY(file.error().what.find("another program") != std::string::npos);
        QCOMPARE(hash_of(path), before);
    }
    void aNewerVersionIsLeftAlone() {
        const QTemporaryDir folder;
        const std::string path = test::file_in(folder, "new.cognitum");
        { QVERIFY(BenchFile::create(path)); }
        {
            SQLite::Database db(path, SQLite::OPEN_READWRITE);
            db.exec("PRAGMA journal_mode = DELETE; PRAGMA user_version = 99");
        }
        const QByteArray before = hash_of(path);
        for (const Access access : {Access::read, Access::write}) {
            const auto file = BenchFile::open(path, access);
            QVERIFY(!file);
            QVERIFY2(file.error().what.find("newer Cognitum (file version 99") != std::string::npos,
                     file.error().what.c_str());
        }
        QCOMPARE(hash_of(path), before);
    }
    void aTruncatedFileIsSaid() {
        const QTemporaryDir folder;
        const std::string path = test::file_in(folder, "b.cognitum");
        {
            VALUE_OF(file, BenchFile::create(path));
            QVERIFY(file.save_plan(test::small_bench()));
        }
        QFile file(QString::fromStdString(path));
        QVERIFY(file.size() > 8192);
        QVERIFY(file.resize(file.size() / 2));
        const QByteArray before = hash_of(path);
        const auto opened = BenchFile::open(path, Access::write);
        QVERIFY(!opened);
        QVERIFY2(opened.error().what.find("truncated") != std::string::npos, opened.error().what.c_str());
        QCOMPARE(hash_of(path), before);
    }
    void aReadOnlyFileOpensForReading() {
        const QTemporaryDir folder;
        const std::string path = test::file_in(folder, "b.cognitum");
        {
            VALUE_OF(file, BenchFile::create(path));
            QVERIFY(file.save_plan(test::small_bench()));
        }
        QVERIFY(QFile::setPermissions(QString::fromStdString(path), QFileDevice::ReadOwner));
        const auto writer = BenchFile::open(path, Access::write);
        QVERIFY(!writer);
        QVERIFY(writer.error().what.find("read-only") != std::string::npos);
        VALUE_OF(reader, BenchFile::open(path, Access::read));
        VALUE_OF(plan, reader.load_plan());
        QCOMPARE(plan.readings.size(), std::size_t(1));
        QVERIFY(!reader.save_plan({})); // and says so instead of throwing
    }
    void aDamagedPlanRowNamesItself() {
        const QTemporaryDir folder;
        VALUE_OF(file, BenchFile::create(test::file_in(folder, "b.cognitum")));
        QVERIFY(file.save_plan(test::small_bench()));
        file.db().exec("UPDATE plan SET body = '{\"id\": \"air\", \"name\": 7}' WHERE kind = 'reading'");
        const auto plan = file.load_plan();
        QVERIFY(!plan);
        QVERIFY2(plan.error().where.find("reading air") != std::string::npos, plan.error().where.c_str());
    }

    void logAndCalibrationsStayForever() {
        const QTemporaryDir folder;
        VALUE_OF(file, BenchFile::create(test::file_in(folder, "b.cognitum")));
        VALUE_OF(id, file.append_log({0, 5, "air", "note", "sleeved the probe", 0}));
        QVERIFY(file.append_log({0, 6, "air", "note", "no, the other one", id}));
        CalibrationRecord record;
        record.reading = "air";
        record.unit = "degC";
        record.model = "offset";
        record.correction.offset = -0.6;
        QVERIFY(file.append_calibration(record));
        for (const char* sql : {"UPDATE logbook SET text = 'x'", "DELETE FROM logbook",
                                "UPDATE calibration SET body = '{}'", "DELETE FROM calibration"}) {
            bool refused = false;
            try {
                file.db().exec(sql);
            } catch (const SQLite::Exception& e) {
                refused = std::string(e.what()).find("never") != std::string::npos;
            }
            QVERIFY2(refused, sql);
        }
        VALUE_OF(log, file.log());
        QCOMPARE(log.size(), std::size_t(2));
        QCOMPARE(log[0].corrects, id); // newest first
        VALUE_OF(records, file.calibrations("air"));
        QCOMPARE(records[0].correction.offset, -0.6);
        QVERIFY(records[0].id > 0 && records[0].correction.record == records[0].id);
        QVERIFY(file.calibrations("other")->empty());
    }

    void aCopyIsWholeWhileTheOriginalIsOpen() {
        const QTemporaryDir folder;
        VALUE_OF(file, BenchFile::create(test::file_in(folder, "b.cognitum")));
        QVERIFY(file.save_plan(test::small_bench()));
        const SeriesBatch batch{"air", {{1, 1, 1, Cause::none}, {2, 2, 2, Cause::none}}};
        QVERIFY(add_samples(file, std::span(&batch, 1)));
        const std::string copy = test::file_in(folder, "copy.cognitum");
        QVERIFY(file.save_copy(copy));
        QVERIFY(!file.save_copy(copy)); // never over something
        VALUE_OF(opened, BenchFile::open(copy, Access::write));
        VALUE_OF(plan, opened.load_plan());
        QVERIFY(plan == test::small_bench());
        QCOMPARE(extent(opened, "air")->n, std::uint64_t(2));
        QVERIFY(verify(opened)->problems.empty());
    }

    void theDemoIsTheSameForTheSameEnd() {
        const QTemporaryDir folder;
        const TimeUs end = *parse_time("2026-11-25T14:31:00Z");
        VALUE_OF(one, create_demo_bench(test::file_in(folder, "1.cognitum"), end, DemoHistory::two_days));
        VALUE_OF(two, create_demo_bench(test::file_in(folder, "2.cognitum"), end, DemoHistory::two_days));
        QVERIFY(*one.load_plan() == *two.load_plan());
        QCOMPARE(extent(one, "hut-air")->n, std::uint64_t(5760));
        VALUE_OF(first, summaries(one, "hut-air", 0, end, 10));
        VALUE_OF(second, summaries(two, "hut-air", 0, end, 10));
        for (std::size_t i = 0; i < first.size(); ++i)
            QCOMPARE(first[i].sum, second[i].sum);
        VALUE_OF(records, one.calibrations("hut-air"));
        QCOMPARE(records.size(), std::size_t(4));
        QCOMPARE(records[0].points.size(), std::size_t(3));
        QVERIFY(records[0].verdict_left == "pass");
        const auto log = one.log();
        QVERIFY(std::any_of(log->begin(), log->end(), [](const LogEntry& e) { return e.kind == "alert"; }));
    }

    /// Modules and prices are part of the plan, and go when they are taken out.
    void modulesAndPricesAreKept() {
        QTemporaryDir folder;
        const std::string path = test::file_in(folder, "m.cognitum");
        Bench bench = test::small_bench();
        Module lamp;
        lamp.id = "lamp";
        lamp.name = "jetty lamp";
        lamp.part = "lamp-5v-strip";
        lamp.board = "gauge";
        lamp.own_supply_V = 5;
        lamp.screened = false;
        lamp.pins = {{"control", "4", true, {}}};
        bench.modules.push_back(lamp);
        bench.prices.push_back({"lamp-5v-strip", 7.5});
        bench.currency = "kr";
        bench.readings[0].wiring.colours = {{"output", "blue"}};
        bench.readings[0].wiring.pins[0].divider = {1800, 3300};
        bench.readings[0].sensor.rejected = {{"ntc-10k-in-divider", "too small"}};
        bench.boards[0].uplink = {"gauge", "7", "8", 9600, 19200, {1000, 2000}};
        {
            VALUE_OF(file, BenchFile::create(path));
            QVERIFY(file.save_plan(bench));
        }
        {
            VALUE_OF(file, BenchFile::open(path, Access::write));
            VALUE_OF(again, file.load_plan());
            QVERIFY(again == bench);
            bench.modules.clear();
            bench.prices.clear(); // a currency alone is kept as well
            QVERIFY(file.save_plan(bench));
            VALUE_OF(without_prices, file.load_plan());
            QVERIFY(without_prices == bench);
            bench.currency = Bench{}.currency;
            QVERIFY(file.save_plan(bench));
        }
        VALUE_OF(file, BenchFile::open(path, Access::read));
        VALUE_OF(last, file.load_plan());
        QVERIFY(last == bench);
    }
};

RUN_TESTS_OF(TestBenchFile)
#include "tst_bench_file.moc"
