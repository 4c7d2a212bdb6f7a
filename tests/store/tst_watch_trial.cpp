// Rules tried on a bench file, and `cognitum-cli backtest` as its contract says.
#include "store/figures/watch_trial.h"
#include "store/samples/samples.h"
#include "support/cli.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/times.h"

#include <random>

using namespace cognitum;
using namespace cognitum::test;

namespace {

Reading litres(const char* id) {
    Reading r;
    r.id = r.name = id;
    r.quantity.kind = "volume";
    r.quantity.unit = "L";
    r.quantity.high = 1000;
    r.quantity.interval_s = 60;
    return r;
}

WatchCondition looks(const char* reading, WatchWhen when, double value, WatchJoin join = WatchJoin::all) {
    WatchCondition out;
    out.reading = reading;
    out.when = when;
    out.value = value;
    out.join = join;
    return out;
}

WatchRule rule_of(const char* id, std::vector<WatchCondition> conditions) {
    WatchRule out;
    out.id = out.name = id;
    out.conditions = std::move(conditions);
    return out;
}

QByteArray csv(const std::vector<std::pair<double, QByteArray>>& rows) {
    QByteArray out = "time,value\n";
    for (const auto& [t, v] : rows)
        out += QByteArray::number(1780272000 + t, 'f', 3) + "," + v + "\n";
    return out;
}

QStringList kinds(const Run& run) {
    QStringList out;
    const Json json = run.json();
    if (!json.contains("events")) return {QString::fromUtf8(run.err)};
    for (const Json& e : json["events"])
        out << QString::fromStdString(e["time"].get<std::string>().substr(11, 8) + " " +
                                      e["rule"].get<std::string>() + " " + e["kind"].get<std::string>());
    return out;
}

} // namespace

class TestWatchTrial : public QObject {
    Q_OBJECT

    QTemporaryDir m_folder;
    Scratch m_scratch;

    /// A tank that falls from 500 L by 1 L a minute, and a pump that runs in the second half of each hour.
    std::string made(int minutes, const std::vector<WatchRule>& rules) {
        const std::string path = file_in(
            m_folder, qPrintable(QStringLiteral("%1.cognitum").arg(QUuid::createUuid().toString(QUuid::Id128))));
        Bench bench;
        bench.name = "Tank";
        bench.readings = {litres("tank"), litres("pump")};
        bench.watch_rules = rules;
        auto file = BenchFile::create(path);
        if (!file || !file->save_plan(bench)) return {};
        SeriesBatch tank{"tank", {}}, pump{"pump", {}};
        for (int i = 0; i < minutes; ++i) {
            const TimeUs t = june + i * minute_us;
            tank.samples.push_back({t, no_number, 500.0 - i, Cause::none});
            if (i % 3 == 0)
                pump.samples.push_back({t + second_us, no_number, i % 60 >= 30 ? 1.0 : 0.0, Cause::none});
        }
        return add_samples(*file, std::vector<SeriesBatch>{tank, pump}) ? path : std::string();
    }

  private slots:
    void severalReadingsComeInOrderOfTime() {
        const std::string path = made(3000, {});
        VALUE_OF(file, BenchFile::open(path, Access::read));
        VALUE_OF(bench, file.load_plan());
        WatchRule dry =
            rule_of("dry", {looks("tank", WatchWhen::below, 100), looks("pump", WatchWhen::above, 0.5)});
        WatchRule gone =
            rule_of("gone", {looks("tank", WatchWhen::below, 100), looks("well", WatchWhen::above, 0.5)});
        WatchRule wrong = rule_of("wrong", {looks("tank", WatchWhen::silent, 0)});
        WatchRule plain_one = rule_of("low", {looks("tank", WatchWhen::below, 100)});
        const auto trials = try_rules(file, bench, {dry, gone, wrong, plain_one}, {}, {}, {});
        // The slow way: all lines of both in one list.
        RuleJudge judge(dry, {about_condition(dry.conditions[0], bench, {}), [&] {
                                  ConditionAbout about = about_condition(dry.conditions[1], bench, {});
                                  about.reading = 1;
                                  return about;
                              }()});
        std::vector<WatchEvent> expected;
        for (int i = 0; i < 3000; ++i) {
            judge.take(0, june + i * minute_us, 500.0 - i, expected);
            if (i % 3 == 0) judge.take(1, june + i * minute_us + second_us, i % 60 >= 30 ? 1.0 : 0.0, expected);
        }
        QVERIFY(expected.size() > 80);
        QCOMPARE(trials[0].events, expected);
        QCOMPARE(trials[0].lines, std::uint64_t(4000));
        QVERIFY(trials[1].trouble.find("well") != std::string::npos);
        QVERIFY(!trials[2].trouble.empty());
        QCOMPARE(trials[3].raised, std::uint64_t(1));
        QVERIFY(trials[3].goes_on);
        QCOMPARE(trials[3].events[0].time, june + 401 * minute_us);
        // Part of it, and a silence that lasts up to now.
        WatchRule silent = rule_of("silent", {looks("tank", WatchWhen::silent, 600)});
        const auto part = try_rules(file, bench, {plain_one, silent},
                                    {june, june + 100 * minute_us, june + 90 * minute_us}, {}, {});
        QCOMPARE(part[0].raised, std::uint64_t(0));
        QCOMPARE(part[0].lines, std::uint64_t(100));
        QCOMPARE(part[1].raised, std::uint64_t(0));
        const auto ended = try_rules(file, bench, {silent}, {june, latest_time, june + 3100 * minute_us}, {}, {});
        QCOMPARE(ended[0].raised, std::uint64_t(1));
        QVERIFY(ended[0].goes_on);
    }
    void theRecordBringsAKeeperUpToDate() {
        const WatchRule low = rule_of("low", {looks("tank", WatchWhen::below, 100)});
        const std::string path = made(450, {low});
        VALUE_OF(file, BenchFile::open(path, Access::read));
        VALUE_OF(bench, file.load_plan());
        QCOMPARE(bench.watch_rules.size(), std::size_t(1));
        WatchKeeper keeper;
        keeper.set_rules(bench.watch_rules, bench);
        QVERIFY(replay(file, keeper, bench, earliest_time, latest_time));
        QVERIFY(keeper.judge("low")->raised());
        QCOMPARE(keeper.judge("low")->raise().time, june + 401 * minute_us);
    }
    void whatStandsInThePlanComesBack() {
        WatchRule rule = rule_of("low", {looks("tank", WatchWhen::below, 100)});
        rule.conditions[0].clear = 120;
        rule.rank = WatchRank::bad;
        rule.marked = {{june, june + hour_us, false}};
        const std::string path = made(3, {rule});
        VALUE_OF(file, BenchFile::open(path, Access::write));
        VALUE_OF(bench, file.load_plan());
        QVERIFY(bench.watch_rules[0] == rule);
        bench.telling.quiet = {22 * 60, 420};
        bench.publishing.host = "broker.lan";
        bench.publishing.readings = {"tank"};
        QVERIFY(file.save_plan(bench));
        VALUE_OF(other, BenchFile::open(path, Access::read));
        VALUE_OF(again, other.load_plan());
        QVERIFY(again == bench);
    }

    void theContractOnASeries() {
        const QString rules = m_scratch.write("rules.json", R"({"rules": [
            {"name": "hot", "when": "above", "value": 30, "clear": 28, "count": 2, "repeat_s": 60, "silent_after_s": 100},
            {"name": "cold", "when": "below", "value": 5}]})");
        const QString series = m_scratch.write("series.csv", csv({{0, "20"},
                                                                  {10, "31"},
                                                                  {20, "30"},
                                                                  {30, "31"},
                                                                  {40, "32"},
                                                                  {50, ""},
                                                                  {60, "29"},
                                                                  {70, "29"},
                                                                  {100, "31"},
                                                                  {110, "28"},
                                                                  {300, "4"},
                                                                  {310, "5"}}));
        const Run run = cli({"backtest", rules, series, "--json"});
        QCOMPARE(run.code, 0);
        QCOMPARE(kinds(run), (QStringList{"00:00:40 hot raised", "00:01:40 hot repeated", "00:01:50 hot cleared",
                                          "00:03:30 hot silent", "00:05:00 hot back", "00:05:00 cold raised",
                                          "00:05:10 cold cleared"}));
        QCOMPARE(run.json()["counts"]["hot"]["raised"].get<int>(), 1);
        QCOMPARE(run.json()["counts"]["hot"]["silent"].get<int>(), 1);
        const Run words = cli({"backtest", rules, series});
        QCOMPARE(words.code, 0);
        QVERIFY(words.out.contains("raised") && words.out.contains("cold: 1 raised"));
        QFile file(series);
        QVERIFY(file.open(QIODevice::ReadOnly));
        QCOMPARE(cli({"backtest", rules, "-", "--json"}, file.readAll()).out, run.out);
    }
    void theContractOnABench() {
        const std::string path = made(500, {rule_of("low", {looks("tank", WatchWhen::below, 100)})});
        const QString bench = QString::fromStdString(path);
        const QString rules =
            m_scratch.write("low.json", R"({"rules": [{"name": "low", "when": "below", "value": 100}]})");
        QCOMPARE(kinds(cli({"backtest", rules, bench, "--reading", "tank", "--json"})),
                 QStringList{"06:41:00 low raised"});
        QCOMPARE(kinds(cli({"backtest", bench, "--json"})), QStringList{"06:41:00 low raised"});
        QCOMPARE(kinds(cli({"backtest", bench, "--to", "2026-06-01T06:00:00Z", "--json"})), QStringList());
        const Run words = cli({"backtest", bench, "--rule", "low"});
        QVERIFY2(words.out.contains("would have spoken once"), words.out.constData());
    }
    void badInputIsSaid_data() {
        QTest::addColumn<QStringList>("arguments");
        QTest::addColumn<int>("code");
        QTest::addColumn<QByteArray>("says");
        const QString good =
            m_scratch.write("good.json", R"({"rules": [{"name": "a", "when": "above", "value": 1}]})");
        const QString side =
            m_scratch.write("side.json", R"({"rules": [{"name": "a", "when": "above", "value": 1, "clear": 3}]})");
        const QString word =
            m_scratch.write("word.json", R"({"rules": [{"name": "a", "when": "near", "value": 1}]})");
        const QString series = m_scratch.write("s.csv", csv({{0, "1"}, {1, "2"}}));
        const QString back = m_scratch.write("back.csv", csv({{5, "1"}, {1, "2"}}));
        const QString text = m_scratch.write("text.csv", csv({{0, "1"}, {1, "warm"}}));
        const QString bench = QString::fromStdString(made(10, {}));
        QTest::addRow("clear on the wrong side") << QStringList{side, series} << 3 << QByteArray("/rules/0/clear");
        QTest::addRow("unknown word") << QStringList{word, series} << 3 << QByteArray("/rules/0/when");
        QTest::addRow("time goes back") << QStringList{good, back} << 3 << QByteArray("back.csv:3");
        QTest::addRow("no number") << QStringList{good, text} << 3 << QByteArray("text.csv:3");
        QTest::addRow("no such file") << QStringList{good, "/nowhere.csv"} << 3 << QByteArray("/nowhere.csv");
        QTest::addRow("no rules file") << QStringList{"/nowhere.json", series} << 3 << QByteArray("/nowhere.json");
        QTest::addRow("nothing to try on") << QStringList{good} << 2 << QByteArray("backtest RULES.json");
        QTest::addRow("a bench without a reading") << QStringList{good, bench} << 2 << QByteArray("--reading");
        QTest::addRow("a reading that is not there")
            << QStringList{good, bench, "--reading", "well"} << 3 << QByteArray("well");
        QTest::addRow("a bench without rules") << QStringList{bench} << 3 << QByteArray("no rules");
        QTest::addRow("both from the pipe") << QStringList{"-", "-"} << 2 << QByteArray("standard input");
        QTest::addRow("an end before the start")
            << QStringList{bench, "--from", "2026-06-02", "--to", "2026-06-01"} << 2 << QByteArray("--to");
    }
    void badInputIsSaid() {
        QFETCH(QStringList, arguments);
        QFETCH(int, code);
        QFETCH(QByteArray, says);
        const Run run = cli(QStringList{"backtest"} + arguments + QStringList{"--json"});
        QVERIFY2(run.code == code, run.err.constData());
        QVERIFY2(run.err.contains(says), run.err.constData());
        QVERIFY(run.out.isEmpty());
    }
};

RUN_TESTS_OF(TestWatchTrial)
#include "tst_watch_trial.moc"
