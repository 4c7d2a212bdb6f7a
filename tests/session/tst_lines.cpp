// The store of lines and the inbox between threads: bounded, in order, nothing lost in silence.
#include "link/inbox.h"
#include "session/live/line_store.h"
#include "support/clocked_session.h"
#include "support/run_tests.h"

#include <atomic>
#include <random>
#include <thread>

using namespace cognitum;
using test::ClockedSession;

namespace {

KeptLine line(std::uint64_t number, std::uint64_t fields, const char* text = "1,2") {
    KeptLine out;
    out.number = number;
    out.time = static_cast<TimeUs>(number) * second_us;
    out.text = text;
    out.fields = fields;
    return out;
}

} // namespace

class TestLines : public QObject {
    Q_OBJECT

  private slots:
    void onlyNewLinesOfOneReading() {
        LineStore store;
        store.add("a", {line(1, 1), line(2, 2), line(3, 3), line(4, 0, "# ok")});
        store.add("b", {line(1, 1)});
        QCOMPARE(store.since("a", 0, 0, 100).size(), std::size_t(4));
        QCOMPARE(store.since("a", 2, 0, 100).size(), std::size_t(2));
        const auto second = store.since("a", 0, 2, 100); // field 1: lines 2 and 3, and the comment
        QCOMPARE(second.size(), std::size_t(3));
        QCOMPARE(second.front().number, std::uint64_t(2));
        QCOMPARE(store.since("a", 0, 0, 2).front().number, std::uint64_t(3)); // the newest two
        QVERIFY(store.since("nobody", 0, 0, 100).empty());
        QCOMPARE(store.oldest("a"), std::uint64_t(1));
        store.clear("a");
        QCOMPARE(store.oldest("a"), std::uint64_t(0));
        QCOMPARE(store.since("b", 0, 0, 100).size(), std::size_t(1));
    }
    void oldLinesMakeRoom() {
        LineStore store;
        for (std::uint64_t n = 1; n <= LineStore::most + 500; ++n)
            store.add("a", {line(n, 1)});
        QCOMPARE(store.since("a", 0, 0, 1'000'000).size(), LineStore::most);
        QCOMPARE(store.oldest("a"), std::uint64_t(501));
    }
    void anInboxKeepsOrderAndCountsWhatDidNotFit() {
        Inbox<int> inbox;
        std::atomic<int> woken = 0;
        std::thread sender([&] {
            for (int i = 0; i < 1000; ++i)
                inbox.push(i, 1, [&] { ++woken; });
        });
        std::vector<int> got;
        while (got.size() < 1000)
            for (const int i : inbox.drain())
                got.push_back(i);
        sender.join();
        for (int i = 0; i < 1000; ++i)
            QCOMPARE(got[static_cast<std::size_t>(i)], i);
        QVERIFY(woken >= 1);
        for (std::size_t i = 0; i < Inbox<int>::most + 7; ++i)
            inbox.push(1, 1, [] {});
        QCOMPARE(inbox.dropped(), std::uint64_t(7));
        QCOMPARE(inbox.drain().size(), Inbox<int>::most);
    }
    void tenTimesThePromisedRateIsTakenAndSaid() {
        ClockedSession s;
        test::open_small_bench(s);
        s.send("seq,ms,A0\n");
        int sequence = 0;
        for (int second = 0; second < 60; ++second) {
            s.pass(1);
            QByteArray bytes;
            for (int i = 0; i < 10; ++i, ++sequence)
                bytes += QByteArray::number(sequence) + "," + QByteArray::number(1000 * second + 100 * i) + "," +
                         QByteArray::number(150 + sequence % 2) + "\n";
            s.send(bytes);
        }
        const Live live = s.session.worker().live();
        QCOMPARE(live.boards.at("gauge").lines, std::uint64_t(601));
        QCOMPARE(live.boards.at("gauge").lost, std::uint64_t(0));
        QCOMPARE(live.readings.at("air").points.size(), std::size_t(600));
        const auto& verdicts = s.session.views().health(*s.session.bench().reading("air"), live);
        QVERIFY(std::any_of(verdicts.begin(), verdicts.end(),
                            [](const HealthVerdict& v) { return v.id == "too-fast"; }));
        for (const HealthVerdict& v : verdicts)
            QVERIFY2(v.rank == HealthRank::note, v.id.c_str());
    }
    void tenMegabytesOfNoiseAreSurvived() {
        ClockedSession s;
        test::open_small_bench(s);
        std::mt19937_64 random(3);
        for (int i = 0; i < 100; ++i) {
            QByteArray noise(100'000, '\0');
            for (char& c : noise)
                c = static_cast<char>(random());
            s.send(noise);
        }
        const LiveBoard board = s.session.worker().live().boards.at("gauge");
        QVERIFY(board.rejected > 1000);
        QVERIFY(board.rejections.size() <= Rejections::most_reasons + 1);
        QVERIFY(s.session.worker().lines().since("gauge", 0, 0, 1'000'000).size() <= LineStore::most);
        s.pass(1);
        s.send("\nseq,ms,A0\n");
        for (int i = 0; i < 5; ++i)
            s.send(QByteArray::number(i) + ",1,15" + QByteArray::number(i) + "\n");
        QCOMPARE(s.session.worker().live().readings.at("air").raw, 154.0);
    }
    void aLineWithoutEndIsOneRejection() {
        ClockedSession s;
        test::open_small_bench(s);
        for (int i = 0; i < 50; ++i)
            s.send(QByteArray(100'000, '7'));
        s.send("\n1,2,3\n4,5,6\n");
        QVERIFY(s.session.worker().live().boards.at("gauge").rejected <= 2);
        QVERIFY(s.session.worker().live().boards.at("gauge").lines >= 2);
    }
    void aClockThatIsSetBackLosesNothing() {
        ClockedSession s;
        test::open_small_bench(s);
        s.lines(5, 150);
        s.pass(-3600); // this computer's clock
        s.lines(5, 151);
        const LiveReading air = s.session.worker().live().readings.at("air");
        QCOMPARE(air.points.size(), std::size_t(10));
        for (std::size_t i = 1; i < air.points.size(); ++i)
            QVERIFY(air.points[i].time > air.points[i - 1].time);
    }
    void anotherFieldIsAnotherSignal() {
        ClockedSession s;
        test::open_small_bench(s);
        s.send("seq,ms,A0,B\n0,1000,150,160\n1,2000,151,161\n");
        QCOMPARE(s.session.worker().live().readings.at("air").raw, 151.0);
        s.session.editReading("air", "field", [](Reading& r) { r.source.field = "B"; });
        s.settle();
        QVERIFY(s.session.worker().live().readings.at("air").points.empty()); // those were another thing's
        s.send("2,3000,152,162\n");
        QCOMPARE(s.session.worker().live().readings.at("air").raw, 162.0);
        s.session.undoStack()->undo();
        s.settle();
        s.send("3,4000,153,163\n");
        QCOMPARE(s.session.worker().live().readings.at("air").raw, 153.0);
    }
};

RUN_TESTS_OF(TestLines)
#include "tst_lines.moc"
