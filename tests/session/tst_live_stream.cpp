// What is live on its way to a window that attaches to a recorder.
#include "session/recorder/live_server.h"
#include "store/file/open_files.h"
#include "support/run_tests.h"
#include "support/watched.h"

#include <QSignalSpy>
#include <random>

using namespace cognitum;
using namespace cognitum::test;

class TestLiveStream : public QObject {
    Q_OBJECT

  private slots:
    /// A board that is linked anew counts its lines from 1 again; those of before are not kept beside them.
    void linesThatBeginAnewGoOverAWire() {
        LiveShare share, mine;
        LineStore lines, my_lines;
        LiveTeller teller;
        const auto say = [&](std::uint64_t number, const char* text) {
            lines.add("b", {{number, static_cast<TimeUs>(number), text, 1, {}}});
            share.change_board("b", [](LiveBoard& b) { ++b.lines; });
            const auto update = teller.next(share, lines);
            const auto read = update ? read_live(live_bytes(*update)) : std::nullopt;
            QVERIFY(read);
            take_update(*read, mine, my_lines);
        };
        for (std::uint64_t n = 1; n <= 9; ++n)
            say(n, "before");
        QCOMPARE(my_lines.since("b", 0, 0, 100).size(), std::size_t(9));
        lines.clear("b");
        say(1, "anew");
        say(2, "anew");
        const auto kept = my_lines.since("b", 0, 0, 100);
        QCOMPARE(kept.size(), std::size_t(2));
        QCOMPARE(kept[0].number, std::uint64_t(1));
    }
    void whatIsLiveGoesOverAWire() {
        std::mt19937 random(11);
        LiveShare share, mine;
        LineStore lines, my_lines;
        LiveTeller teller;
        QVERIFY(teller.next(share, lines));
        QVERIFY(!teller.next(share, lines));
        std::uint64_t number = 0;
        TimeUs t = 1;
        for (int round = 0; round < 200; ++round) {
            for (int i = 0; i < 20; ++i) {
                const std::string id = "r" + std::to_string(random() % 5);
                share.change_reading(id, [&](LiveReading& r) {
                    t += second_us;
                    r.time = t;
                    r.raw = static_cast<double>(random() % 1000);
                    r.value = random() % 5 ? Value{r.raw / 3, Cause::none} : Value::none(Cause::failed);
                    r.cause = random() % 3 ? "" : "It says „nothing“.";
                    r.zone = static_cast<Zone>(random() % 4);
                    r.points.push_back({t, r.raw, r.value.number});
                    if (r.points.size() > LiveReading::ring_size) r.points.pop_front();
                    if (random() % 200 == 0) r.points.clear();
                });
            }
            share.change_board("b", [&](LiveBoard& b) {
                b.state = static_cast<LinkState>(random() % 4);
                b.fields = {{"A0", "V", "1.2", true}};
                b.lines += 20;
                b.last_line = t;
                b.rejections = {{"noise", 3, 1, "xx"}};
                b.rejected_last = {{7, "noise", "xx"}};
            });
            lines.add("b", {{++number, t, "a,b", 3, {}}});
            share.change_rules({{"rule", {random() % 2 == 0, t, true}}});
            if (random() % 20 == 0)
                share.change_all([&](Live& live) { live.readings.erase("r" + std::to_string(random() % 5)); });
            const auto update = teller.next(share, lines);
            QVERIFY(update);
            const auto read = read_live(live_bytes(*update));
            QVERIFY(read);
            take_update(*read, mine, my_lines);
            const Live there = share.copy(), here = mine.copy();
            QCOMPARE(here.readings.size(), there.readings.size());
            for (const auto& [id, r] : there.readings) {
                const LiveReading& other = here.readings.at(id);
                QVERIFY(other.time == r.time && other.value.cause == r.value.cause && other.cause == r.cause);
                QCOMPARE(other.points.size(), r.points.size());
                if (!r.points.empty()) QCOMPARE(other.points.back().time, r.points.back().time);
            }
            QCOMPARE(here.boards.at("b").lines, there.boards.at("b").lines);
            QVERIFY(here.rules == there.rules);
            QCOMPARE(my_lines.since("b", 0, 0, 1000).size(), lines.since("b", 0, 0, 1000).size());
        }
    }
    void brokenBytesAreRefused() {
        LiveShare share;
        LineStore lines;
        share.change_reading("air", [](LiveReading& r) { r.points.push_back({1, 2, 3}); });
        share.change_board("b", [](LiveBoard& b) { b.port = "/dev/x"; });
        const QByteArray good = live_bytes(*LiveTeller().next(share, lines));
        QVERIFY(read_live(good));
        std::mt19937 random(2);
        for (qsizetype n = 0; n < good.size(); ++n)
            QVERIFY(!read_live(good.left(n)));
        for (int i = 0; i < 20'000; ++i) {
            QByteArray bad = good;
            for (unsigned k = 0; k <= random() % 4; ++k)
                bad[static_cast<qsizetype>(random() % static_cast<unsigned>(bad.size()))] =
                    static_cast<char>(random());
            if (const auto read = read_live(bad)) take_update(*read, share, lines); // whatever it is, it is bounded
        }
        const LiveWish wish{LiveWish::Kind::by_hand, "air", "a", "b", 1.5, 0.5};
        const auto again = read_wish(wish_bytes(wish));
        QVERIFY(again && again->target == "air" && again->number == 1.5);
        QVERIFY(!read_wish("hello"));
    }
    void aWindowAttaches() {
        Watched w;
        w.session.savePlan();
        const auto identity = identity_of(w.session.path().toStdString());
        LiveServer server(w.session);
        QVERIFY(server.listen(*identity));
        ClockedSession window;
        window.now = w.now.load();
        QVERIFY(window.session.openBench(w.session.path()));
        QVERIFY(window.session.isAttached() && window.session.lookOnly().isEmpty());
        w.send_lines(5, warm);
        QTRY_VERIFY(window.session.worker().live().readings.contains("air"));
        QTRY_COMPARE(window.session.worker().live().readings.at("air").points.size(), std::size_t(5));
        QVERIFY(window.session.worker().live().rules.at("warm").raised);
        // Recording, a value by hand and “seen” are wishes; an edit goes through the file.
        window.session.worker().startRecording();
        QTRY_VERIFY(window.session.worker().live().recording.on);
        window.session.worker().seen("warm");
        QTRY_VERIFY(!window.session.worker().live().rules.at("warm").unseen);
        window.session.worker().enterByHandNow("air", 17.5, 0.5);
        QTRY_VERIFY(window.session.worker().live().readings.at("air").by_hand);
        window.session.edit("Calm", [](Bench& bench) { bench.watch_rules[0].conditions[0].value = 40; });
        window.session.savePlan();
        QTRY_COMPARE(w.session.bench().watch_rules[0].conditions[0].value, 40.0);
        // What the recorder changes is seen too.
        w.session.applyQuietly([](Bench& bench) { bench.place = "the shore"; });
        w.session.savePlan();
        window.session.lookAround();
        QCOMPARE(window.session.bench().place, std::string("the shore"));
        window.session.closeBench(); // stops nothing
        w.send_lines(3, cool);
        QVERIFY(w.session.worker().live().recording.on);
        QTRY_COMPARE(server.clients(), std::size_t(0));
    }
    void aRecorderThatDoesNotComeBack() {
        auto w = std::make_unique<Watched>();
        w->session.savePlan();
        const auto identity = identity_of(w->session.path().toStdString());
        auto server = std::make_unique<LiveServer>(w->session);
        QVERIFY(server->listen(*identity));
        w->session.worker().startRecording();
        ClockedSession window;
        window.now = w->now.load();
        QVERIFY(window.session.openBench(w->session.path()));
        QTRY_VERIFY(window.session.worker().live().recording.on);
        const QTemporaryDir& folder = w->folder;
        QVERIFY(folder.isValid());
        server.reset();
        QTRY_VERIFY(!window.session.isAttached());
        QVERIFY(!window.session.lookOnly().isEmpty());
        w->session.closeBench();
        window.session.lookAround();
        QVERIFY(!window.session.lookOnly().isEmpty()); // it gets its time
        window.pass(16);
        window.session.lookAround();
        QVERIFY(window.session.lookOnly().isEmpty());
        window.settle();
        QVERIFY(window.session.worker().live().recording.on); // nothing that was wanted is missing
        window.session.closeBench();
    }
};

RUN_TESTS_OF(TestLiveStream)
#include "tst_live_stream.moc"
