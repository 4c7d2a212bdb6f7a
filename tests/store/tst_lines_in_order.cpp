// Lines of several readings in one order of time, against a sort of all of them; and samples beside a moment.
#include "store/samples/lines_in_order.h"
#include "support/run_tests.h"
#include "support/samples_of.h"
#include "support/support.h"
#include "support/times.h"

#include <random>

using namespace cognitum;
using test::add;
using test::june;

class TestLinesInOrder : public QObject {
    Q_OBJECT

    static BenchFile made(const QTemporaryDir& folder) {
        return std::move(*BenchFile::create(test::file_in(folder, "b.cognitum")));
    }

  private slots:
    void asIfAllWereSorted() {
        std::mt19937_64 random(81);
        for (int turn = 0; turn < 5; ++turn) {
            QTemporaryDir folder;
            BenchFile file = made(folder);
            const std::vector<std::string> readings = {"air", "never", "sea"};
            std::vector<RecordedLine> wanted;
            for (const int reading : {0, 2}) {
                std::vector<Sample> samples;
                TimeUs time = june + static_cast<TimeUs>(random() % 5000) * second_us;
                for (int i = 0; i < 3000; ++i) {
                    time += static_cast<TimeUs>(1 + random() % 20) * second_us;
                    samples.push_back({time, double(i), double(random() % 1000), Cause::none});
                }
                add(file, readings[static_cast<std::size_t>(reading)], samples);
                for (const Sample& s : samples)
                    wanted.push_back({s.time, reading, s.value});
            }
            const TimeUs from = june + 6000 * second_us, to = june + 20000 * second_us;
            std::erase_if(wanted, [&](const RecordedLine& line) { return line.time < from || line.time > to; });
            std::stable_sort(wanted.begin(), wanted.end(), [](const RecordedLine& a, const RecordedLine& b) {
                return std::pair{a.time, a.reading} < std::pair{b.time, b.reading};
            });
            std::vector<RecordedLine> got;
            const auto done = lines_in_order(file, readings, from, to, [&](std::span<const RecordedLine> part) {
                got.insert(got.end(), part.begin(), part.end());
            });
            QVERIFY(done.has_value());
            QCOMPARE(got.size(), wanted.size());
            for (std::size_t i = 0; i < got.size(); ++i) {
                QCOMPARE(got[i].time, wanted[i].time);
                QCOMPARE(got[i].reading, wanted[i].reading);
                CLOSE(got[i].value, wanted[i].value, 0);
            }
        }
    }
    void ofNothing() {
        QTemporaryDir folder;
        BenchFile file = made(folder);
        int calls = 0;
        const auto count = [&](std::span<const RecordedLine>) { ++calls; };
        QVERIFY(lines_in_order(file, {"air", "sea"}, 0, june, count).has_value());
        QVERIFY(lines_in_order(file, {"air"}, 0, june, count).has_value());
        QCOMPARE(calls, 0);
        QVERIFY(!*has_samples(file));
        QCOMPARE(extent(file, "air")->n, std::uint64_t(0));
    }
    /// The last one before a moment, wherever it lies: in the tail, in a block, between two.
    void theSampleBefore() {
        QTemporaryDir folder;
        BenchFile file = made(folder);
        std::vector<Sample> samples;
        for (int i = 0; i < 9000; ++i)
            samples.push_back({june + i * second_us, 1, 1, Cause::none});
        add(file, "air", samples);
        add(file, "air", {{june + 20000 * second_us, 2, 2, Cause::none}});
        QVERIFY(*has_samples(file));
        QCOMPARE(extent(file, "air")->n, std::uint64_t(9001));
        QCOMPARE(extent(file, "air")->first, june);
        QCOMPARE(extent(file, "air")->last, june + 20000 * second_us);
        QVERIFY(!sample_before(file, "air", june)->has_value());
        QVERIFY(!sample_before(file, "sea", june + hour_us)->has_value());
        const auto before = sample_before(file, "air", june + 20001 * second_us);
        QCOMPARE(**before, june + 20000 * second_us);
        QVERIFY(**sample_before(file, "air", june + 20000 * second_us) < june + 9000 * second_us);
    }
};

RUN_TESTS_OF(TestLinesInOrder)
#include "tst_lines_in_order.moc"
