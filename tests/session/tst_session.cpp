// The running bench without a window: lines become values, alerts and samples; edits undo; nothing saved is lost.
#include "session/path_state.h"
#include "support/clocked_session.h"
#include "support/run_tests.h"

#include <QFile>
#include <random>

using namespace cognitum;
using test::ClockedSession;

class TestSession : public QObject {
    Q_OBJECT

  private slots:
    void linesBecomeValues() {
        ClockedSession s;
        test::open_small_bench(s);
        s.lines(3, 142);
        const Live live = s.session.worker().live();
        const LiveReading& air = live.readings.at("air");
        QCOMPARE(air.raw, 142.0);
        CLOSE(air.value.number, (142.5 * 5 / 1024 - 0.5) / 0.01, 1e-9);
        QCOMPARE(air.zone, Zone::in_range);
        QCOMPARE(air.points.size(), std::size_t(3));
        QCOMPARE(live.boards.at("gauge").lines, std::uint64_t(4));
    }
    /// What it was asked while it was held is done when it begins, and who waits for an answer begins it.
    void aHeldWorkerCollects() {
        ClockedSession s;
        s.session.worker().hold();
        QVERIFY(s.session.createBench(s.folder.filePath("held.cognitum"), QStringLiteral("Held")));
        s.session.edit(QStringLiteral("Fill"), [](Bench& bench) {
            bench = test::small_bench();
            bench.boards[0].link = {LinkKind::simulated, "", 115200, 1};
        });
        QVERIFY(s.session.worker().live().boards.empty());
        s.session.worker().begin();
        s.session.worker().begin(); // a second time is nothing
        QTRY_VERIFY(s.session.worker().live().boards.count("gauge"));
        ClockedSession waits;
        waits.session.worker().hold();
        test::open_small_bench(waits);
        waits.lines(3, 142);
        QCOMPARE(waits.session.worker().live().readings.at("air").points.size(), std::size_t(3));
    }
    void aFailedMeasurementIsNoNumber() {
        ClockedSession s;
        test::open_small_bench(s);
        s.lines(2, 142);
        s.lines(1, 0);
        const Live live = s.session.worker().live();
        const LiveReading& air = live.readings.at("air");
        QVERIFY(!air.value.ok() && std::isnan(air.value.number));
        QVERIFY(air.cause.find("lower rail") != std::string::npos);
        const Reading& r = s.session.bench().readings[0];
        const PathState state = path_state(s.session, r, live, {});
        QCOMPARE(state.value, QStringLiteral("—"));
        QCOMPARE(state.word, QStringLiteral("at the rail"));
        QCOMPARE(state.mark, Mark::bad);
        QCOMPARE(state.reaches, 3); // the line is solid as far as Raw
    }
    void silenceIsNotTheLastNumber() {
        ClockedSession s;
        test::open_small_bench(s);
        s.lines(3, 142);
        const Reading& r = s.session.bench().readings[0];
        QCOMPARE(path_state(s.session, r, s.session.worker().live(), {}).reaches, 6);
        s.pass(120);
        const PathState state = path_state(s.session, r, s.session.worker().live(), {});
        QCOMPARE(state.value, QStringLiteral("—"));
        QCOMPARE(state.freshness, Freshness::silent);
        QCOMPARE(state.age, QStringLiteral("2 min"));
    }
    void aMissingColumnIsSaid() {
        ClockedSession s;
        test::open_small_bench(s);
        s.send("seq,ms,A5\n0,1000,142\n"); // its program does not send this one yet: a plan, not a loss
        QVERIFY(!s.session.worker().live().readings.count("air"));
        const PathState planned =
            path_state(s.session, s.session.bench().readings[0], s.session.worker().live(), {});
        QCOMPARE(planned.stops[3].text, QStringLiteral("not in the lines"));
        QCOMPARE(planned.value, QStringLiteral("—"));
        s.send("seq,ms,A0\n1,2000,142\n");
        s.send("seq,ms,A5\n2,3000,142\n"); // sent before, and gone now
        const LiveReading air = s.session.worker().live().readings.at("air");
        QVERIFY(!air.value.ok());
        QVERIFY2(air.cause.find("no column A0") != std::string::npos, air.cause.c_str());
    }
    void lostAndRejectedLinesAreCounted() {
        ClockedSession s;
        test::open_small_bench(s);
        s.send("seq,ms,A0\n0,1000,140\n1,2000,141\n5,6000,142\n6,70");
        s.send("00,143\nseq,ms,A0\n\x01\x02\x03\n1,2\n7,8000,144\n");
        const LiveBoard board = s.session.worker().live().boards.at("gauge");
        QCOMPARE(board.lost, std::uint64_t(3));
        QCOMPARE(board.rejected, std::uint64_t(2));
        QCOMPARE(board.resets, std::uint64_t(1));
        QCOMPARE(s.session.worker().live().readings.at("air").raw, 144.0);
    }
    void linesOfOneChunkKeepTheirOwnTimes() {
        ClockedSession s;
        test::open_small_bench(s);
        s.send("seq,ms,A0\n0,1000,140\n1,1250,141\n2,1500,142\n");
        const auto points = s.session.worker().live().readings.at("air").points;
        QCOMPARE(points[2].time - points[0].time, TimeUs(500'000));
        QCOMPARE(points[2].time, s.now.load());
        // A clock that is set back never makes two samples of one time.
        s.now -= 10 * second_us;
        s.send("3,1750,143\n");
        QVERIFY(s.session.worker().live().readings.at("air").points.back().time > points[2].time);
    }
    void garbageLeavesTheSessionAlive() {
        ClockedSession s;
        test::open_small_bench(s);
        std::mt19937_64 random(1);
        for (int i = 0; i < 20; ++i) {
            QByteArray noise(50000, '\0');
            for (char& c : noise)
                c = static_cast<char>(random());
            s.send(noise);
        }
        s.send("\nseq,ms,A0\n0,1,150\n1,2,151\n2,3,152\n");
        QCOMPARE(s.session.worker().live().readings.at("air").raw, 152.0);
        QVERIFY(s.session.worker().lines().since("gauge", 0, 0, 1'000'000).size() <= LineStore::most);
    }

    void leavingTheBandIsOneAlert() {
        ClockedSession s;
        test::open_small_bench(s);
        s.lines(3, 142); // 19.6 °C
        s.lines(5, 165); // 30.8 °C
        s.lines(2, 150); // 23.5 °C: inside by more than the step back
        const auto log = test::entries(s.session);
        QStringList alerts;
        for (const LogEntry& e : log)
            if (e.kind == log_kind::alert || e.kind == log_kind::recovery)
                alerts.prepend(QString::fromStdString(e.kind + ": " + e.text));
        QCOMPARE(alerts.size(), 2);
        QVERIFY(alerts[0].startsWith("alert: ") && alerts[0].contains("high"));
        QVERIFY(alerts[1].startsWith("recovery: ") && alerts[1].contains("in range"));
    }

    void recordingIsThereAfterReopening() {
        ClockedSession s;
        test::open_small_bench(s);
        const QString path = s.session.path();
        s.lines(2, 140); // before: not recorded
        s.session.worker().startRecording();
        s.settle();
        s.lines(50, 142);
        s.lines(1, 1023);
        s.session.worker().stopRecording();
        s.settle();
        QCOMPARE(s.session.worker().live().recording.saved, std::uint64_t(51));
        s.session.closeBench();
        QVERIFY(s.session.openBench(path));
        VALUE_OF(size, extent(*test::bench_file(s.session), "air"));
        QCOMPARE(size.n, std::uint64_t(51));
        std::vector<Sample> samples;
        QVERIFY(for_each_sample(*test::bench_file(s.session), "air", 0, std::numeric_limits<TimeUs>::max(),
                                [&](std::span<const Sample> part) {
                                    samples.insert(samples.end(), part.begin(), part.end());
                                    return true;
                                }));
        QCOMPARE(samples[0].raw, 142.0); // raw beside the value
        CLOSE(samples[0].value, 19.58, 0.01);
        QCOMPARE(samples.back().cause, Cause::at_high_rail);
    }
    void aFileThatIsTakenAwayIsSaidAndNothingIsLost() {
        ClockedSession s;
        test::open_small_bench(s);
        const QString path = s.session.path();
        s.session.worker().startRecording();
        s.settle();
        s.lines(5, 142);
        s.session.worker().stopRecording();
        s.settle();
        s.session.worker().startRecording();
        s.settle();
        const QString aside = path + ".aside";
        QVERIFY(QFile::rename(path, aside));
        s.lines(5, 143);
        s.session.worker().stopRecording(); // tries to commit
        s.settle();
        const LiveRecording recording = s.session.worker().live().recording;
        QVERIFY2(recording.trouble.contains("gone"), qPrintable(recording.trouble));
        QCOMPARE(recording.waiting, std::uint64_t(5));
        QVERIFY(QFile::rename(aside, path));
        s.session.worker().startRecording();
        s.settle();
        s.lines(1, 144);
        s.session.worker().stopRecording();
        s.settle();
        QVERIFY(s.session.worker().live().recording.trouble.isEmpty());
        VALUE_OF(file, BenchFile::open(path.toStdString(), Access::read));
        QCOMPARE(extent(file, "air")->n, std::uint64_t(11));
    }

    void everyEditUndoes() {
        ClockedSession s;
        test::open_small_bench(s);
        const Bench before = s.session.bench();
        s.session.editReading("air", "Rename", [](Reading& r) { r.name = "Outside"; });
        s.session.edit("Add", [](Bench& b) {
            b.readings.push_back(b.readings[0]);
            b.readings[1].id = "second";
            BoardUse other;
            other.id = "b2";
            other.name = "other";
            other.card = "board-3v3-12bit-wifi";
            b.boards.push_back(other);
            b.place = "elsewhere";
        });
        s.session.edit("Remove", [](Bench& b) { b.readings.erase(b.readings.begin()); });
        const Bench after = s.session.bench();
        QCOMPARE(after.readings.size(), std::size_t(1));
        QCOMPARE(s.session.undoStack()->count(), 3);
        for (int i = 0; i < 3; ++i)
            s.session.undoStack()->undo();
        QVERIFY(s.session.bench() == before);
        for (int i = 0; i < 3; ++i)
            s.session.undoStack()->redo();
        QVERIFY(s.session.bench() == after);
        s.session.edit("Nothing", [](Bench&) {});
        QCOMPARE(s.session.undoStack()->count(), 3); // an edit that changes nothing is none
    }
    void modulesAndPricesUndoToo() {
        ClockedSession s;
        test::open_small_bench(s);
        const Bench before = s.session.bench();
        const auto revision = s.session.planRevision();
        s.session.edit("Add", [](Bench& b) {
            Module m;
            m.id = "lamp";
            m.name = "lamp";
            m.part = "lamp-5v-strip";
            m.board = "gauge";
            m.rail = "5V";
            b.modules.push_back(m);
            b.prices.push_back({"lamp-5v-strip", 4});
        });
        QVERIFY(s.session.planRevision() > revision);
        // The board's finding is seen from its reading as well, at once.
        const auto overloaded = [&] {
            for (const Finding& f : s.session.views().findings(s.session.bench().readings[0], {}))
                if (f.id == "rail-overloaded") return true;
            return false;
        };
        QVERIFY(overloaded());
        s.session.undoStack()->undo();
        QVERIFY(s.session.bench() == before && !overloaded());
        s.session.undoStack()->redo();
        QCOMPARE(s.session.bench().modules.size(), std::size_t(1));
        QCOMPARE(s.session.bench().prices.size(), std::size_t(1));
    }
    void editsAreSavedByThemselves() {
        ClockedSession s;
        test::open_small_bench(s);
        const std::string path = s.session.path().toStdString();
        s.session.editReading("air", "Rename", [](Reading& r) { r.name = "Outside"; });
        QTRY_VERIFY(s.session.savedAt().has_value());
        QTRY_COMPARE(BenchFile::open(path, Access::read)->load_plan()->readings[0].name, std::string("Outside"));
        s.session.undoStack()->undo();
        s.session.closeBench(); // at once, before the half second has passed
        QCOMPARE(BenchFile::open(path, Access::read)->load_plan()->readings[0].name, std::string("Air"));
    }
    void aFindingsWayOutIsAnEdit() {
        ClockedSession s;
        test::open_small_bench(s);
        const auto findings = s.session.views().findings(s.session.bench().readings[0], {});
        const auto f = std::find_if(findings.begin(), findings.end(),
                                    [](const Finding& x) { return x.id == "output-uses-little-of-full-scale"; });
        QVERIFY(f != findings.end());
        s.session.applyFix(*f);
        const Reading& r = s.session.bench().readings[0];
        QCOMPARE(r.wiring.reference, std::string("internal"));
        CLOSE(std::get<Adc>(r.path.stages[0]).reference_V.value, 1.1, 1e-12);
        QCOMPARE(r.wiring.mended.size(), std::size_t(1));
        s.session.undoStack()->undo();
        QCOMPARE(s.session.bench().readings[0].wiring.reference, std::string("supply"));
    }
    void aBoardThatMeasuresAgainstSomethingElseIsAnError() {
        ClockedSession s;
        test::open_small_bench(s);
        s.send("# board=gauge bits=10 reference=internal\n");
        const auto findings = s.session.views().findings(s.session.bench().readings[0], s.session.worker().live());
        QCOMPARE(findings[0].id, std::string("board-reference-differs"));
        QVERIFY2(findings[0].why.find("4.5") != std::string::npos, findings[0].why.c_str());
        s.send("# ok reference=supply\n");
        QVERIFY(s.session.views().findings(s.session.bench().readings[0], s.session.worker().live())[0].id !=
                "board-reference-differs");
    }

    void aCalibrationIsAppliedFromNowOnAndKept() {
        ClockedSession s;
        test::open_small_bench(s);
        s.lines(2, 142);
        const double before = s.session.worker().live().readings.at("air").value.number;
        std::vector<CalibrationPoint> points(2);
        points[0].indication = 0.7;
        points[0].reference = 0;
        points[1].indication = 20.7;
        points[1].reference = 20.0;
        for (CalibrationPoint& p : points)
            p.u_reference = p.u_indication = 0.05;
        VALUE_OF(record, s.session.proof().finish("air", {{}, 0, points, {}, {}, "me"}, Model::offset));
        QVERIFY(record.id > 0);
        s.settle();
        CLOSE(s.session.worker().live().readings.at("air").value.number, before - 0.7,
              1e-9); // the shown value at once
        s.lines(1, 142);
        CLOSE(s.session.worker().live().readings.at("air").value.number, before - 0.7, 1e-9);
        s.session.undoStack()->undo(); // takes it off again, and the record stays
        QVERIFY(!s.session.bench().readings[0].correction);
        QCOMPARE(s.session.proof().calibrations("air").size(), std::size_t(1));
    }

    void openingWhatIsNoBenchKeepsTheOldOne() {
        ClockedSession s;
        test::open_small_bench(s);
        const QString text = s.folder.filePath("notes.txt");
        QFile file(text);
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("dear diary");
        file.close();
        QVERIFY(!s.session.openBench(text));
        QVERIFY(!s.session.createBench(text, "x"));
        QVERIFY(s.session.isOpen());
        QCOMPARE(s.session.bench().name, std::string("Small"));
        s.lines(1, 142);
        QCOMPARE(s.session.worker().live().readings.at("air").raw, 142.0);
    }
    void importedCountsBecomeHistory() {
        ClockedSession s;
        test::open_small_bench(s);
        const QString path = s.folder.filePath("log.csv");
        QFile file(path);
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("time,Air\n2026-06-01T09:00:00Z,142\n2026-06-01T09:00:01Z,143\nlater,1\n");
        file.close();
        ImportOptions options;
        options.as_raw = true;
        auto answer = s.session.importFile(path, options, std::make_shared<Session::ImportWatch>());
        s.session.finishWritingNow();
        QTRY_VERIFY(answer.isFinished());
        VALUE_OF(report, answer.result());
        QCOMPARE(report.rows, std::uint64_t(2));
        QCOMPARE(report.rejected.total(), std::uint64_t(1));
        VALUE_OF(parts, summaries(*test::bench_file(s.session), "air", 0, std::numeric_limits<TimeUs>::max()));
        CLOSE(parts[0].mean(), 19.58, 0.01);
        QCOMPARE(test::entries(s.session)[0].kind, std::string("import"));
    }
};

RUN_TESTS_OF(TestSession)
#include "tst_session.moc"
