// Every fault of the simulated bench gets its verdict, and healthy signals get none.
#include "support/run_tests.h"
#include "support/simulated_bench.h"

#include <set>

using namespace cognitum;
using namespace cognitum::test;

namespace {

std::string in_words(const std::vector<HealthVerdict>& verdicts) {
    std::string out;
    for (const HealthVerdict& v : verdicts)
        out += (out.empty() ? "" : "; ") + v.id + ": " + v.evidence;
    return out.empty() ? "nothing" : out;
}

/// The reading at which a fault of the whole board is looked at.
std::string looked_at(const demo::Fault& fault) {
    if (!fault.reading.empty()) return fault.reading;
    return fault.board == "gauge" ? "hut-air" : fault.board == "shed" ? "tide-pool" : "daylight";
}

/// Healthy for a while, then the fault for as long as a person would look; as its next test says, at 5 ms for hum.
std::vector<HealthVerdict> verdicts_under(const demo::Fault& fault, std::uint64_t seed) {
    HeardBoard board(fault.board, looked_at(fault), seed);
    board.run(fault.board == "pump-house" ? 1500 : 300);
    if (fault.name == "hum") board.command("interval 5");
    board.command("fault " + fault.name);
    if (fault.name == "bouncing-contact")
        for (int i = 0; i < 8; ++i) {
            board.command("tip");
            board.run(11);
        }
    board.run(fault.board == "pump-house" || fault.name == "whole-degrees" ? 2400
              : fault.name == "fast-clock" || fault.name == "clock-behind" || fault.name == "wrong-speed" ||
                      fault.name == "drift" || fault.name == "stuck" || fault.name == "spikes"
                  ? 500
                  : 90);
    return board.verdicts();
}

} // namespace

class TestFaults : public QObject {
    Q_OBJECT

  private slots:
    void thereAreEnough() {
        const auto& all = demo::all_faults();
        QVERIFY(all.size() >= 25);
        std::set<std::string> names;
        const auto& ids = all_verdict_ids();
        for (const demo::Fault& f : all) {
            QVERIFY2(names.insert(f.name).second, f.name.c_str());
            QVERIFY2(std::find(ids.begin(), ids.end(), f.verdict) != ids.end(), f.verdict.c_str());
            QVERIFY2(f.reading.empty() || demo_plan().reading(f.reading), f.reading.c_str());
        }
    }
    void theVerdictComesFirst() {
        std::size_t right = 0;
        std::size_t tried = 0;
        for (const demo::Fault& fault : demo::all_faults())
            for (const std::uint64_t seed : {20261ULL, 7ULL}) {
                const auto verdicts = verdicts_under(fault, seed);
                ++tried;
                for (const HealthVerdict& v : verdicts) {
                    QVERIFY2(!v.title.empty() && !v.evidence.empty(), v.id.c_str());
                    if (v.rank == HealthRank::note) continue;
                    QVERIFY2(v.causes.size() >= 2 && v.next_test.size() > 20, v.id.c_str()); // it says what to do
                }
                const bool first = !verdicts.empty() && verdicts.front().id == fault.verdict;
                right += first;
                const bool there = std::any_of(verdicts.begin(), verdicts.end(),
                                               [&](const HealthVerdict& v) { return v.id == fault.verdict; });
                if (!first) qWarning("%s (seed %d): %s", fault.name.c_str(), int(seed), in_words(verdicts).c_str());
                QVERIFY2(there, qPrintable(QString::fromStdString(fault.name + ": " + in_words(verdicts))));
            }
        QVERIFY2(10 * right >= 9 * tried, qPrintable(QStringLiteral("%1 of %2").arg(right).arg(tried)));
    }
    void healthyDataIsLeftAlone_data() {
        QTest::addColumn<QByteArray>("board");
        QTest::addColumn<QByteArray>("reading");
        for (const Reading& r : demo_plan().readings) {
            const std::string feed = r.feed();
            QTest::newRow(r.id.c_str()) << QByteArray::fromStdString(feed) << QByteArray::fromStdString(r.id);
        }
    }
    void healthyDataIsLeftAlone() {
        QFETCH(QByteArray, board);
        QFETCH(QByteArray, reading);
        for (const std::uint64_t seed : {20261ULL, 4711ULL}) {
            HeardBoard heard(board.toStdString(), reading.toStdString(), seed);
            for (int minute = 0; minute < 60; minute += 3) {
                heard.run(180);
                for (const HealthVerdict& v : heard.verdicts())
                    QVERIFY2(v.rank == HealthRank::note, qPrintable(QStringLiteral("minute %1: %2: %3")
                                                                        .arg(minute)
                                                                        .arg(QString::fromStdString(v.id),
                                                                             QString::fromStdString(v.evidence))));
            }
            QVERIFY2(heard.samples.size() > 3, "nothing was heard");
        }
    }
    void aFaultThatIsOverIsForgotten() {
        HeardBoard board("gauge", "hut-air");
        board.run(120);
        board.command("fault clipped");
        board.run(60);
        QVERIFY(!board.verdicts().empty());
        QCOMPARE(board.verdicts().front().id, std::string("clipped"));
        board.command("fault none");
        board.run(1300); // what the window held is gone
        for (const HealthVerdict& v : board.verdicts())
            QVERIFY2(v.rank == HealthRank::note, in_words(board.verdicts()).c_str());
    }
    void faultsAddUp() {
        demo::Faults faults;
        QVERIFY(faults.change("stuck"));
        QVERIFY(faults.change("+noisy"));
        QCOMPARE(faults.text(), std::string("noisy stuck"));
        QVERIFY(faults.change("-stuck"));
        QCOMPARE(faults.text(), std::string("noisy"));
        QVERIFY(!faults.change("bewitched"));
        QCOMPARE(faults.text(), std::string("noisy"));
        QVERIFY(faults.change("none"));
        QCOMPARE(faults.text(), std::string("none"));
    }
    void aWrongSpeedGarblesAsOnAWire() {
        const std::string text = "12,12000,512,138,21.25,0,67\n";
        QCOMPARE(demo::as_heard(text, 9600, 9600), text);
        const std::string heard = demo::as_heard(text, 9600, 115200);
        QVERIFY(heard.size() > 3 * text.size()); // each sent bit is long enough for a whole heard byte
        QVERIFY(text_share(heard) < 0.5);
        const std::string slow = demo::as_heard(text, 115200, 9600);
        QVERIFY(slow.size() < text.size());
        // A per cent off is within what a receiver forgives.
        QCOMPARE(demo::as_heard(text, 9600, 9700), text);
    }
};

RUN_TESTS_OF(TestFaults)
#include "tst_faults.moc"
