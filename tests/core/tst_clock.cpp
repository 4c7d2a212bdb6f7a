// A board's clock against this computer's: rate and offset, from lines that come late.
#include "core/analyse/clock.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <random>

using namespace cognitum;

class TestClock : public QObject {
    Q_OBJECT

  private slots:
    void aClockAgainstTheTrueTime() {
        std::vector<TimeUs> truth, board;
        for (int i = 0; i < 10; ++i) { // slow by 20 parts in a million, and 3 s behind
            truth.push_back(i * hour_us);
            board.push_back(static_cast<TimeUs>(static_cast<double>(truth.back()) * (1 - 20e-6)) - 3 * second_us);
        }
        VALUE_OF(clock, fit_clock(board, truth));
        CLOSE(clock.drift_ppm, -20, 0.1);
        CLOSE(clock.offset_s, 3 + 20e-6 * 4.5 * 3600, 0.001);
        QVERIFY(!fit_clock(std::span(board).first(1), std::span(truth).first(1)));
    }
    /// A line can only come late: the rate comes out of lines that are delayed by up to a second, and a million of
    /// them take no more room than a thousand.
    void aClockAgainstArrivals() {
        std::mt19937_64 random(3);
        std::exponential_distribution<double> delay(8);
        ClockCompare compare;
        QVERIFY(!compare.fit().known());
        const double fast = 1 + 350e-6;
        TimeUs arrival = 0;
        for (int i = 0; i < 200'000; ++i) {
            const TimeUs now = i * second_us / 4;
            arrival = std::max(arrival, now + from_seconds(delay(random))); // none overtakes another
            compare.take(static_cast<TimeUs>(fast * static_cast<double>(now)), arrival, false);
            if (i == 4 * 290) QVERIFY(!compare.fit().known()); // five minutes are the least
            if (i == 4 * 600) CLOSE(compare.fit().drift_ppm, 350, 4 * compare.fit().u_drift_ppm);
        }
        const ClockFit fit = compare.fit();
        CLOSE(fit.drift_ppm, 350, 1);
        QVERIFY(fit.span_s > 49'000);
        compare.take(0, 60'000 * second_us, false); // it started anew: the old pairs say nothing of it
        QVERIFY(!compare.fit().known());
    }
    /// One line in fifty comes at once, the others late by up to a second: over hours the pairs that are kept are
    /// the ones that came at once.
    void theLeastDelayedLineStands() {
        std::mt19937_64 random(9);
        std::uniform_real_distribution<double> delay(0.2, 0.9);
        ClockCompare compare;
        const double slow = 1 - 120e-6;
        for (int i = 0; i < 40'000; ++i) {
            const TimeUs now = (1000 + i) * second_us;
            const TimeUs late = i % 50 == 7 ? 0 : from_seconds(delay(random));
            compare.take(static_cast<TimeUs>(slow * static_cast<double>(now)), now + late, false);
        }
        CLOSE(compare.fit().drift_ppm, -120, 0.05);
        QVERIFY(compare.fit().span_s > 39'000);
    }
    void itIsSaidInWords() {
        QCOMPARE(clock_text({40, 0.1, 42.3, 1.2, 600, false}),
                 std::string("Its clock runs 42 ± 3 millionths fast."));
        QCOMPARE(clock_text({-1.24, 0.1, -900, 0, 600, true}),
                 std::string("Its clock runs 900 ± 1 millionths slow, and is 1.2 s ahead."));
        QCOMPARE(clock_text({0.01, 0.1, 0, 0, 600, true}),
                 std::string("Its clock keeps pace within 1 millionth, and has the time."));
    }
    void aRecordThatIsPlayedAgainIsNoClock() {
        ClockCompare fast, late;
        for (int i = 0; i < 2000; ++i) {
            fast.take(60 * i * second_us, i * second_us, true); // an hour in a minute
            late.take(i * second_us, 40 * day_us + i * second_us, true);
        }
        QVERIFY(!fast.fit().known() && !late.fit().known());
    }
};

RUN_TESTS_OF(TestClock)
#include "tst_clock.moc"
