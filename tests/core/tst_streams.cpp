// A board's stream of bytes: noise, lines without end, what was lost, came twice or late.
#include "core/decode/decoder.h"
#include "core/decode/failure.h"
#include "core/decode/sender.h"
#include "core/decode/sensor_frames.h"
#include "core/decode/stream.h"
#include "support/heard_bytes.h"
#include "support/noise.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <random>

using namespace cognitum;
using test::Heard;
using test::repeated;

class TestStreams : public QObject {
    Q_OBJECT

  private slots:
    void noiseIsCountedAndBounded() {
        std::mt19937_64 random(5);
        Decoder decoder;
        Records records;
        std::size_t rows = 0;
        for (int k = 0; k < 400; ++k) {
            records.clear();
            decoder.feed(test::noise(random, 4000), records);
            rows += records.rows.size();
        }
        QVERIFY(decoder.rejections().total() > 100);
        QVERIFY(decoder.rejections().reasons().size() <= Rejections::most_reasons + 1);
        QVERIFY(decoder.rejections().last().size() <= Rejections::most_kept);
        QVERIFY(decoder.fields().size() <= FieldTable::most_fields);
        QVERIFY2(rows < 200, qPrintable(QString::number(rows)));
        // And good lines are heard again after it.
        records.clear();
        decoder.feed("\n" + repeated("1,2,3\n", 400), records);
        QVERIFY2(records.rows.size() > 200,
                 qPrintable(QString::number(records.rows.size()) + decoder.format_text().c_str() +
                            decoder.rejections().last().back().reason.c_str() +
                            decoder.rejections().last().back().text.c_str() + QString::number(decoder.lines())));
    }

    void anyFormatStandsAnyBytes() {
        std::mt19937_64 random(6);
        for (const char* format : {"table", "pairs", "json", "senml", "text", "scratchpad", "humidity40",
                                   "frames start=0D end=54", "record sync=AA little u16 i16 crc8"})
            for (int k = 0; k < 60; ++k) {
                Heard heard(test::noise(random, 3000), format, 1 + random() % 500);
                for (const Cell& cell : heard.records.cells)
                    QVERIFY(cell.field < heard.decoder.fields().size());
            }
    }

    void aLineWithoutEndIsOneRejection() {
        Decoder decoder;
        Records records;
        for (int i = 0; i < 100; ++i)
            decoder.feed(std::string(1000, '7'), records);
        decoder.feed("\n1,2\n3,4\n", records);
        QCOMPARE(records.rows.size(), std::size_t(2));
        QCOMPARE(decoder.rejections().total(), std::uint64_t(1));
    }

    void sequencesTellWhatWasLost() {
        SequenceWatch watch;
        for (const double s : {10.0, 11.0, 12.0, 15.0, 16.0, 16.0, 14.0, 17.0})
            watch.take(s);
        QCOMPARE(watch.lost(), std::uint64_t(1)); // 13; 14 came late
        QCOMPARE(watch.duplicates(), std::uint64_t(1));
        QCOMPARE(watch.late(), std::uint64_t(1));
        QCOMPARE(watch.restarts(), std::uint64_t(0));
        QCOMPARE(watch.take(0), SequenceWatch::Step::restart);
        SequenceWatch round;
        for (const double s : {253.0, 254.0, 255.0, 0.0, 1.0})
            round.take(s);
        QCOMPARE(round.restarts(), std::uint64_t(0)); // rolled over
        QCOMPARE(round.lost(), std::uint64_t(0));
    }

    void countersGoOn() {
        CounterTotal total;
        for (const double c : {65530.0, 65534.0, 2.0, 10.0})
            total.take(c);
        CLOSE(total.total(), 16, 0); // round the end
        total.take(3);               // the board was reset
        CLOSE(total.total(), 19, 0);
        QCOMPARE(total.restarts(), std::uint64_t(1));
    }

    void aStreamDropsDoublesAndSpreadsChunks() {
        Stream stream;
        const TimeUs arrival = 1795617060LL * second_us;
        const auto rows = stream.feed("seq,ms,A0\n0,1000,5\n0,1000,5\n1,1500,6\n2,2000,7\n", arrival);
        QCOMPARE(rows.size(), std::size_t(3));
        QCOMPARE(rows[2].time - rows[0].time, second_us); // a second apart, though they arrived together
        QCOMPARE(rows[2].time, arrival);
        QCOMPARE(stream.facts().duplicates, std::uint64_t(1));
        stream.feed("3,2500,7\n", arrival - hour_us); // this computer's clock was set back
        QVERIFY(stream.feed("4,3000,7\n", arrival - hour_us + second_us)[0].time > arrival);
    }

    /// What waited on its board keeps the time of its measuring; what it says of that is believed within reason.
    void whatWasSentLate() {
        Stream stream;
        const TimeUs arrival = 1795617060LL * second_us;
        const auto at = [&](const char* message, TimeUs then) {
            return stream.feed_message(message, "", then)[0].time;
        };
        QCOMPARE(at("seq=0 ms=1000 ec=1", arrival), arrival);
        const TimeUs back = arrival + minute_us;
        QCOMPARE(at("seq=1 ms=11000 ec=2 late_ms=50000", back), arrival + 10 * second_us);
        QCOMPARE(*stream.started(back), arrival - second_us); // its power-on, not fifty seconds later
        QCOMPARE(at("seq=2 ms=61000 ec=3", back), back);
        // Not before the last one; no negative wait, and none of years.
        QCOMPARE(at("seq=3 ms=62000 ec=4 late_ms=90000", back + second_us), back + 1);
        QCOMPARE(at("seq=4 ms=63000 ec=5 late_ms=-5000", back + 2 * second_us), back + 2 * second_us);
        QCOMPARE(at("seq=5 ms=64000 ec=6 late_ms=1e15", back + 3 * second_us), back + 3 * second_us);
        QCOMPARE(at("seq=6 ms=65000 ec=7 late_ms=nan", back + 4 * second_us), back + 4 * second_us);
    }

    void recentFactsForgetWhatIsOld() {
        Stream stream;
        TimeUs t = 1795617060LL * second_us;
        stream.feed("seq,A0\n0,1\n", t);
        for (int i = 1; i < 20; ++i)
            stream.feed(std::to_string(2 * i) + ",1\n", t += second_us);
        QCOMPARE(stream.recent_facts(t).lost, std::uint64_t(19));
        for (int i = 39; i < 1500; ++i)
            stream.feed(std::to_string(i) + ",1\n", t += second_us);
        QCOMPARE(stream.recent_facts(t).lost, std::uint64_t(0));
        QCOMPARE(stream.facts().lost, std::uint64_t(19));
    }
};

RUN_TESTS_OF(TestStreams)

#include "tst_streams.moc"
