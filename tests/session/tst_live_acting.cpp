// Controls while lines come: told and told again, tried again and complained about, in the logbook, by hand; on a
// real pseudo-terminal and a real broker with the simulated board at the other end.
#include "link/secret.h"
#include "session/live/live_acting.h"
#include "session/recorder/live_stream.h"
#include "support/clocked_session.h"
#include "support/run_tests.h"

#include <QSignalSpy>

using namespace cognitum;
using namespace cognitum::test;

namespace {

/// A fan that follows the small bench's thermometer.
Bench with_fan(Bench bench) {
    WatchRule rule;
    rule.id = "warm";
    rule.name = "Too warm";
    WatchCondition c;
    c.reading = "air";
    c.value = 24;
    c.clear = 20;
    rule.conditions = {c};
    rule.rank = WatchRank::note;
    bench.watch_rules = {rule};
    Module fan;
    fan.id = "fan";
    fan.name = "fan";
    fan.part = "relay-low-voltage";
    fan.board = "gauge";
    fan.rail = "5V";
    fan.pins = {{"IN", "7"}};
    bench.modules = {fan};
    LoadControl control;
    control.id = "blow";
    control.name = "Fan when it is warm";
    control.load = "fan";
    control.rule = "warm";
    control.acts = true;
    control.on_line = "load fan on {s}";
    control.off_line = "load fan off";
    control.time_out_s = 60;
    bench.controls = {control};
    return bench;
}

/// What acts, with a way out that the test holds.
class Acting {
  public:
    explicit Acting(const Bench& bench = with_fan(small_bench()))
        : acting(
              &share, [this] { return now; },
              [this](const std::string&, const char* kind, const std::string& text) {
                  log << QString::fromStdString(plain(std::string(kind) + ": " + text));
              },
              [this](const ToldNotice& notice) { told << notice; },
              [this](const std::string& board, const std::string& load, const std::string& line,
                     const std::string&) {
                  if (reaches) sent << QString::fromStdString(board + "/" + load + ": " + line);
                  return reaches;
              }) {
        acting.setPlan(bench, {});
    }
    void line(double value) { acting.take("air", now, value); }
    void wait(int n) {
        for (int i = 0; i < n; ++i) {
            now += second_us;
            acting.pass();
        }
    }
    LiveLoad load() {
        const Live live = share.copy();
        return live.loads.contains("blow") ? live.loads.at("blow") : LiveLoad{};
    }
    TimeUs now = ClockedSession::start;
    bool reaches = true;
    QStringList sent, log;
    QList<ToldNotice> told;
    LiveShare share;
    LiveActing acting;
};

} // namespace

class TestLiveActing : public QObject {
    Q_OBJECT

  private slots:
    void itIsToldAndToldAgain() {
        Acting a;
        a.wait(1);
        QCOMPARE(a.sent, QStringList{"gauge/fan: load fan off"}); // it begins off, and says so
        a.line(28);
        QCOMPARE(a.sent.takeLast(), QString("gauge/fan: load fan on 60"));
        QCOMPARE(a.log, QStringList{"switching: Fan is on: “Too warm” holds."});
        QVERIFY(a.load().on && a.load().why == "“Too warm” holds");
        a.sent.clear();
        for (int i = 0; i < 60; ++i) {
            a.wait(1);
            a.line(28);
        }
        QCOMPARE(a.sent, (QStringList{"gauge/fan: load fan on 60", "gauge/fan: load fan on 60",
                                      "gauge/fan: load fan on 60"}));
        a.sent.clear();
        a.wait(30); // no line for longer than the reading's own way
        QCOMPARE(a.sent.last(), QString("gauge/fan: load fan off"));
        QCOMPARE(a.log.last(), QString("switching: Fan is off: Air says nothing."));
        QVERIFY(a.told.isEmpty()); // that is the rules' business
        a.line(28);
        a.acting.close();
        QCOMPARE(a.sent.last(), QString("gauge/fan: load fan off"));
        QVERIFY2(a.log.last().contains("because the program ends"), qPrintable(a.log.last()));
    }
    void whatCannotBeToldIsTriedAgainAndSaid() {
        Acting a;
        a.wait(1);
        a.line(28);
        a.reaches = false; // the broker goes away while something must be switched off
        a.sent.clear();
        a.line(10);
        QVERIFY(!a.load().on);
        QVERIFY(!a.load().trouble.empty());
        a.wait(14);
        QVERIFY(a.told.isEmpty());
        a.wait(2);
        QCOMPARE(a.told.size(), 1);
        QVERIFY(a.told[0].rank == WatchRank::bad && a.told[0].urgent);
        const QString text = QString::fromStdString(plain(a.told[0].text.toStdString()));
        QVERIFY2(text.contains("should be off") && text.contains("by itself 60 s"), qPrintable(text));
        a.wait(600);
        QCOMPARE(a.told.size(), 1); // once
        a.reaches = true;
        a.wait(6);
        QCOMPARE(a.sent, QStringList{"gauge/fan: load fan off"});
        QCOMPARE(a.told.size(), 2);
        QVERIFY(a.told[1].over && a.load().trouble.empty());
        QCOMPARE(a.log.filter("alert: ").size(), 1);
        QCOMPARE(a.log.filter("recovery: ").size(), 1);
    }
    void aReplayedFileSwitchesNothing() {
        Bench bench = with_fan(small_bench());
        bench.boards[0].link.kind = LinkKind::file;
        Acting a(bench);
        a.wait(1);
        a.acting.take("air", a.now - hour_us, 28);
        QVERIFY(!a.load().on);
        a.acting.take("air", a.now, 28);
        QVERIFY(a.load().on);
    }
    void aBoardThatRefuses() {
        Acting a;
        a.wait(1);
        a.line(28);
        a.acting.answered("shed", "error it is another board");
        QVERIFY(a.load().trouble.empty());
        a.acting.answered("gauge", "error \"load\" is not understood");
        a.wait(1);
        QVERIFY2(a.load().trouble.find("not understood") != std::string::npos, a.load().trouble.c_str());
        for (int i = 0; i < 20; ++i) { // asked again, it refuses again
            a.wait(1);
            a.line(28);
            a.acting.answered("gauge", "error \"load\" is not understood");
        }
        QCOMPARE(a.told.size(), 1);
        a.acting.answered("gauge", "ok load fan on 60");
        a.wait(6);
        QVERIFY(a.load().trouble.empty());
    }
    /// Whether the last line arrived before the cable was pulled, nobody knows.
    void aLinkThatIsLost() {
        Acting a;
        a.wait(1);
        a.line(28);
        a.sent.clear();
        a.acting.linkChanged("shed", false);
        QVERIFY(a.load().trouble.empty());
        a.reaches = false;
        a.acting.linkChanged("gauge", false);
        a.wait(1);
        QVERIFY(!a.load().trouble.empty());
        a.reaches = true;
        a.acting.linkChanged("gauge", true);
        a.wait(1);
        QCOMPARE(a.sent, QStringList{"gauge/fan: load fan on 60"});
        QVERIFY(a.load().trouble.empty());
    }
    void byHandForAnHour() {
        Acting a;
        a.wait(1);
        a.line(10);
        a.acting.hand("blow", true, a.now + hour_us);
        QVERIFY(a.load().on && a.load().by_hand);
        QCOMPARE(a.log, (QStringList{"switching: Fan when it is warm: on by hand for 60 min.",
                                     "switching: Fan is on: by hand."}));
        a.acting.hand("blow", {}, 0);
        QVERIFY(!a.load().on && !a.load().by_hand);
        a.acting.hand("nobody", true, a.now + hour_us); // a control that went meanwhile
        QCOMPARE(a.log.size(), 4);
    }
    void aControlThatGoesEndsOff() {
        Acting a;
        a.wait(1);
        a.line(28);
        Bench bench = with_fan(small_bench());
        bench.controls[0].acts = false;
        a.acting.setPlan(bench, {});
        QCOMPARE(a.sent.last(), QString("gauge/fan: load fan off"));
        QVERIFY2(a.log.last().contains("was changed or switched off"), qPrintable(a.log.last()));
        QVERIFY(a.share.copy().loads.empty());
    }
    /// Another board, another line: what was on is told to go off where it was told.
    void aLoadThatMoves() {
        Acting a;
        a.wait(1);
        a.line(28);
        a.sent.clear();
        Bench bench = with_fan(small_bench());
        bench.boards.push_back(bench.boards[0]);
        bench.boards.back().id = "shed";
        bench.modules[0].board = "shed";
        a.acting.setPlan(bench, {});
        QCOMPARE(a.sent, QStringList{"gauge/fan: load fan off"});
        a.wait(1);
        QCOMPARE(a.sent.last(), QString("shed/fan: load fan on 60"));
        bench.controls.push_back(bench.controls[0]); // and another one of the same load
        bench.controls.back().id = "second";
        a.sent.clear();
        a.acting.setPlan(bench, {});
        a.line(28);
        QVERIFY(a.sent.isEmpty() && a.share.copy().loads.size() == 1);
    }
    void inASession() {
        ClockedSession s;
        open_small_bench(s);
        s.session.edit("Fan", [](Bench& bench) {
            const Bench fan = with_fan(bench);
            bench.watch_rules = fan.watch_rules;
            bench.modules = fan.modules;
            bench.controls = fan.controls;
        });
        s.lines(3, cool);
        s.lines(3, warm);
        s.settle();
        QVERIFY(s.session.worker().live().loads.at("blow").on);
        s.session.worker().handNow("blow", false, s.now + hour_us);
        QVERIFY(!s.session.worker().live().loads.at("blow").on);
        int switched = 0;
        for (const LogEntry& e : entries(s.session))
            switched += e.kind == std::string(log_kind::switching) && e.reading == "air";
        QCOMPARE(switched, 3); // on, the hand, off
        s.session.undoStack()->undo();
        s.settle();
        QVERIFY(s.session.bench().controls.empty() && s.session.worker().live().loads.empty());
        s.session.undoStack()->redo();
        s.settle();
        const QString path = s.session.path();
        const std::vector<LoadControl> kept = s.session.bench().controls;
        s.session.closeBench();
        QVERIFY(s.session.openBench(path));
        QVERIFY(s.session.bench().controls == kept); // through the file
    }
    /// A stranger's bench opens no door by itself.
    void aPersonOfThisComputerIsAsked() {
        ClockedSession s;
        open_small_bench(s);
        s.session.edit("Fan", [](Bench& bench) {
            const Bench fan = with_fan(bench);
            bench.boards[0].link = {LinkKind::serial, "/dev/none", 115200, 0};
            bench.watch_rules = fan.watch_rules;
            bench.modules = fan.modules;
            bench.controls = fan.controls;
            bench.controls[0].off_line = "load fan off " + new_token().toStdString(); // never asked before
        });
        s.settle();
        QVERIFY(s.session.worker().live().loads.empty());
        s.session.allowActing("blow");
        s.settle();
        QVERIFY(s.session.worker().live().loads.contains("blow"));
        s.session.edit("Another line", [](Bench& bench) { bench.controls[0].on_line = "open sesame"; });
        s.settle();
        QVERIFY(s.session.worker().live().loads.empty());
        s.session.undoStack()->undo();
        s.settle();
        QVERIFY(s.session.worker().live().loads.contains("blow"));
        s.session.edit("Another port", [](Bench& bench) { bench.boards[0].link.port = "/dev/other"; });
        s.settle();
        QVERIFY(s.session.worker().live().loads.empty());
    }
    void overAWire() {
        LiveUpdate update;
        update.loads["blow"] = {true, 12, "“Too warm” holds", true, 99, 7, "not told"};
        const auto read = read_live(live_bytes(update));
        QVERIFY(read && read->loads == update.loads);
        LiveWish wish{LiveWish::Kind::hand, "blow", "on", {}, 17};
        const auto heard = read_wish(wish_bytes(wish));
        QVERIFY(heard && heard->kind == LiveWish::Kind::hand && heard->text == "on" && heard->number == 17);
    }
    /// The simulated board answers, and what it was told it does.
    void onARealLink_data() {
        QTest::addColumn<QString>("board");
        QTest::newRow("pseudo-terminal") << "gauge";
        QTest::newRow("posts") << "pump-house";
    }
    void onARealLink() {
        QFETCH(QString, board);
        QTemporaryDir folder;
        SessionOptions options;
        options.simulation_arguments = {"--interval", "50"};
        Session session(options);
        QVERIFY(open_demo(session, folder.filePath("demo.cognitum")));
        const std::string id = board.toStdString();
        QTRY_VERIFY_WITH_TIMEOUT(session.worker().live().boards.count(id) > 0 &&
                                     session.worker().live().boards.at(id).state == LinkState::open,
                                 15000);
        session.edit("Fan", [&](Bench& bench) {
            const Bench fan = with_fan(small_bench());
            bench.board("gauge")->link.processor = false; // its written program has no fan yet
            bench.controls = fan.controls;
            bench.modules.push_back(fan.modules[0]);
            bench.modules.back().board = id;
            bench.watch_rules.push_back(fan.watch_rules[0]);
            bench.watch_rules.back().conditions[0].reading = "hut-air";
            bench.watch_rules.back().conditions[0].value = -50; // it holds with the next line
            bench.watch_rules.back().conditions[0].clear = {};
        });
        QTRY_VERIFY_WITH_TIMEOUT(
            session.worker().live().loads.count("blow") > 0 && session.worker().live().loads.at("blow").on, 15000);
        if (id == "gauge") QTRY_COMPARE(session.worker().live().boards.at(id).answer, QString("ok load fan on 60"));
        QTRY_VERIFY(session.worker().live().loads.at("blow").trouble.empty());
        session.worker().setPlugged(id, false);
        session.worker().handNow("blow", false, session.now() + hour_us);
        QVERIFY(!session.worker().live().loads.at("blow").on);
        if (id == "gauge")
            QTRY_VERIFY_WITH_TIMEOUT(!session.worker().live().loads.at("blow").trouble.empty(), 15000);
    }
};

RUN_TESTS_OF(TestLiveActing)
#include "tst_live_acting.moc"
