// What a running total grew by the hour, against a sum over every value.
#include "session/archive/lanes.h"
#include "session/archive/recorded.h"
#include "support/run_tests.h"
#include "support/support.h"
#include "support/times.h"

#include <random>

using namespace cognitum;
using test::june;

namespace {

Summary one(TimeUs time, double value) {
    Summary out;
    out.from = out.to = time;
    out.n = out.valued = 1;
    out.low = out.high = out.sum = value;
    return out;
}

} // namespace

class TestGrowth : public QObject {
    Q_OBJECT

  private slots:
    void hoursAreWhole() {
        QCOMPARE(hour_of(june).from, june);
        QCOMPARE(hour_of(june + hour_us - 1).from, june);
        QCOMPARE(hour_of(june + hour_us).from, june + hour_us);
        QCOMPARE(hour_of(june).to, june + hour_us);
        QCOMPARE(hour_of(-1).from, -hour_us); // before 1970
    }
    /// A gauge with tips of 0.2, taken away and put back now and then, so that it counts from zero again.
    void sumsOfEveryStep() {
        std::mt19937_64 random(71);
        for (int turn = 0; turn < 50; ++turn) {
            std::vector<Summary> parts;
            std::map<TimeUs, double> wanted;
            double total = static_cast<double>(random() % 100);
            TimeUs time = june + static_cast<TimeUs>(random() % 3600) * second_us;
            parts.push_back(one(time, total));
            for (int i = 0; i < 500; ++i) {
                time += static_cast<TimeUs>(10 + random() % 600) * second_us;
                const double before = total;
                if (random() % 90 == 0) total = 0;
                if (random() % 3 == 0) total += 0.2;
                const double grown = total >= before ? total - before : total;
                if (grown > 0) wanted[hour_of(time).from] += grown;
                parts.push_back(one(time, total));
            }
            const auto hours = growth_of(parts, hour_of);
            QCOMPARE(hours.size(), wanted.size());
            for (const Growth& hour : hours) {
                CLOSE(hour.amount, wanted[hour.from], 1e-9);
                QCOMPARE(hour.to, hour.from + hour_us);
            }
        }
    }
    /// A stretch of samples that is told as one: from its least to its most, and on from there.
    void stretchesOfSamples() {
        Summary first = one(june, 0);
        first.to = june + 10 * minute_us;
        first.high = 3;
        Summary nothing; // lines without a value
        nothing.from = nothing.to = june + 15 * minute_us;
        nothing.n = 4;
        const auto hours = growth_of({first, nothing, one(june + 20 * minute_us, 5)}, hour_of);
        QCOMPARE(hours.size(), std::size_t(1));
        CLOSE(hours[0].amount, 5, 1e-12);
        QVERIFY(growth_of({}, hour_of).empty());
        QVERIFY(growth_of({one(june, 7), one(june + hour_us, 7)}, hour_of).empty());
        // Moments that are not wanted are left out, and what grew then with them.
        const auto none = [](TimeUs) { return std::optional<Growth>(); };
        QVERIFY(growth_of({first, one(june + 20 * minute_us, 5)}, none).empty());
    }
    void rainIsColumnsAndMotionAShare() {
        Reading reading;
        const auto shape = [&](const char* kind) {
            reading.quantity.kind = kind;
            return lane_shape(reading);
        };
        QCOMPARE(shape("rain"), LaneShape::columns);
        QCOMPARE(shape("motion"), LaneShape::share);
        QCOMPARE(shape("contact"), LaneShape::share);
        QCOMPARE(shape("temperature"), LaneShape::curve);
        QCOMPARE(shape("volume"), LaneShape::curve);
    }
};

RUN_TESTS_OF(TestGrowth)
#include "tst_growth.moc"
