// Controls tried on a bench file: a pump on a cistern's record, with and without what it draws; tips in a board's
// sleep; and the same on the command line.
#include "store/figures/control_trial.h"
#include "store/samples/samples.h"
#include "support/cli.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/times.h"

using namespace cognitum;
using namespace cognitum::test;

namespace {

Reading named(const char* id, const char* kind, const char* unit, double high) {
    Reading r;
    r.id = r.name = id;
    r.quantity.kind = kind;
    r.quantity.unit = unit;
    r.quantity.low = 0;
    r.quantity.high = high;
    r.quantity.interval_s = 60;
    return r;
}

/// A bed that dries from 60 % by 1 % an hour and is watered by hand each second day, and 300 L in a cistern.
Bench garden() {
    Bench bench;
    bench.name = "Garden";
    BoardUse board;
    board.id = board.name = "pump house";
    bench.boards = {board};
    bench.readings = {named("bed", "soil-moisture", "%", 100), named("cistern", "volume", "L", 1500),
                      named("rain", "rain", "mm", 100)};
    bench.readings[2].wiring.board = board.id;
    WatchRule dry;
    dry.id = dry.name = "dry";
    WatchCondition c;
    c.reading = "bed";
    c.when = WatchWhen::below;
    c.value = 30;
    c.clear = 50;
    dry.conditions = {c};
    bench.watch_rules = {dry};
    Module pump;
    pump.id = pump.name = "pump";
    pump.part = "pump-5v";
    pump.board = board.id;
    bench.modules = {pump};
    LoadControl control;
    control.id = control.name = "water";
    control.load = "pump";
    control.rule = "dry";
    control.longest_on_s = 1800;
    control.rest_s = 3600;
    control.effects = {{"cistern", 0, -180}, {"bed", 0, 60}};
    bench.controls = {control};
    return bench;
}

} // namespace

class TestControlTrial : public QObject {
    Q_OBJECT

    QTemporaryDir m_folder;

    std::string made(const Bench& bench) {
        const std::string path = file_in(
            m_folder, qPrintable(QStringLiteral("%1.cognitum").arg(QUuid::createUuid().toString(QUuid::Id128))));
        auto file = BenchFile::create(path);
        if (!file || !file->save_plan(bench)) return {};
        SeriesBatch bed{"bed", {}};
        SeriesBatch cistern{"cistern", {}};
        SeriesBatch rain{"rain", {}};
        for (int i = 0; i < 4 * 1440; ++i) {
            const TimeUs t = june + i * minute_us;
            bed.samples.push_back({t, no_number, 60 - (i % 2880) / 60.0, Cause::none});
            cistern.samples.push_back({t + 1, no_number, 300, Cause::none});
            rain.samples.push_back({t + 2, no_number, 0.2 * (i / 10), Cause::none});
        }
        const std::vector<SeriesBatch> all = {bed, cistern, rain};
        if (!add_samples(*file, all)) return {};
        return path;
    }
    static LoadTrial tried(const std::string& path, const Bench& bench) {
        auto file = BenchFile::open(path, Access::read);
        return file ? try_control(*file, bench, bench.controls[0], {}, {}, {}) : LoadTrial{};
    }

  private slots:
    void aPumpOnTheRecord() {
        const Bench bench = garden();
        const std::string path = made(bench);
        const LoadTrial trial = tried(path, bench);
        QCOMPARE(trial.trouble, std::string());
        QVERIFY(trial.with_effects && trial.lines == 2 * 4 * 1440);
        // Dry after 30 h: 20 min add 20 %. What was added dries with the rest, so that it is dry again 12 h later;
        // the watering by hand comes on top of what is left of it, and makes the second round a little later.
        QVERIFY2(trial.runs >= 3 && trial.runs <= 4, qPrintable(QString::number(trial.runs)));
        CLOSE(seconds(trial.longest), 1260, 90);    // it dries meanwhile
        QCOMPARE(trial.dry_runs, std::uint64_t(0)); // 60 L of 300 L at a time
        QVERIFY(trial.runs_without > trial.runs);   // the recorded bed never gets wet: on and on
        Bench poor = bench;
        poor.controls[0].effects[0].an_hour = -3600;
        const LoadTrial dry = tried(path, poor);
        QVERIFY(dry.dry_runs >= 1 && dry.dry_reading == "cistern");
        WatchCondition low;
        low.reading = "cistern";
        low.when = WatchWhen::below;
        low.value = 100;
        poor.controls[0].never_while = {low};
        QCOMPARE(tried(path, poor).dry_runs, std::uint64_t(0));
    }
    /// A record that was thinned has steps longer than the silence that would end a run: those are no silences.
    void aRecordThatIsCoarse() {
        Bench bench = garden();
        bench.readings[0].quantity.stale_s = 30; // its lines come every 60 s
        const std::string path = made(bench);
        const LoadTrial trial = tried(path, bench);
        QCOMPARE(trial.ends[static_cast<std::size_t>(LoadCause::no_value)], std::uint64_t(0));
        QVERIFY2(trial.runs >= 3 && trial.runs <= 4, qPrintable(QString::number(trial.runs)));
        CLOSE(seconds(trial.unseen_silence), 90, 2);
        bench.controls[0].value_within_s = 20;
        QCOMPARE(tried(path, bench).runs, trial.runs);
        bench.readings[0].quantity.stale_s = 0;
        bench.controls[0].value_within_s = 0;
        QCOMPARE(tried(path, bench).unseen_silence, TimeUs(0));
    }
    void theSleepThatMissesTips() {
        Bench bench = garden();
        const std::string path = made(bench);
        QCOMPARE(tried(path, bench).tips, std::uint64_t(0)); // it is awake
        bench.boards[0].sleep_s = 900;
        bench.boards[0].wake_s = 300;
        const LoadTrial trial = tried(path, bench);
        QCOMPARE(trial.tips, std::uint64_t(575));
        CLOSE(double(trial.tips_missed) / 575, 0.5, 0.06); // tips at :00 and :10 of each 20 minutes
    }
    void whatCannotBeTried() {
        Bench bench = garden();
        const std::string path = made(bench);
        bench.watch_rules[0].on = false; // it is tried all the same
        QVERIFY(tried(path, bench).trouble.empty());
        bench.controls[0].effects[0].reading = "well";
        QVERIFY(tried(path, bench).trouble.find("gone") != std::string::npos);
        bench.controls[0].effects.clear();
        bench.modules.clear();
        QVERIFY(tried(path, bench).trouble.find("load is gone") != std::string::npos);
    }
    void onTheCommandLine() {
        const std::string path = made(garden());
        const Run run = cli({"backtest", QString::fromStdString(path), "--json"});
        QCOMPARE(run.code, 0);
        const Json load = run.json()["loads"]["water"];
        QVERIFY2(load["runs"].get<int>() >= 2, run.out.constData());
        QVERIFY(load["runs_without_effect"].get<int>() > load["runs"].get<int>());
        QVERIFY(load["trouble"].is_null() && load["events"].size() > 3);
        const Run said = cli({"backtest", QString::fromStdString(path)});
        QVERIFY2(said.out.contains("It would have been on"), said.out.constData());
    }
};

RUN_TESTS_OF(TestControlTrial)
#include "tst_control_trial.moc"
