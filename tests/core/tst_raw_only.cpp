// Counts of a converter before its part is chosen: the raw number is there, and no value is made up from it.
#include "core/base/guarded_main.h"
#include "core/plan/intake.h"
#include "core/plan/path.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <stdexcept>

using namespace cognitum;

namespace {

Reading counted_of(const char* unit = "degC", const char* kind = "temperature") {
    Reading r;
    r.id = r.name = "air";
    r.quantity.kind = kind;
    r.quantity.unit = unit;
    r.source.field = "A2";
    r.source.unit = "count";
    return r;
}

QByteArray said_by_main; ///< by the main function that broke off

} // namespace

class TestRawOnly : public QObject {
    Q_OBJECT

  private slots:
    void countsAreNoDegrees() {
        const Reading r = counted_of();
        QVERIFY(no_way(r).find("choose the part") != std::string::npos);
        Intake intake(r, {});
        const auto arrived = intake.take(second_us, 141, {}, 1);
        QVERIFY(arrived && !arrived->value.ok());
        CLOSE(arrived->raw, 141, 0);
        QCOMPARE(arrived->why, no_way(r));
        // A line without a number is that, and not this.
        const auto none = intake.take(2 * second_us, no_number, {}, 1);
        QVERIFY(none && !none->value.ok() && none->why.empty());
    }
    /// With its part, with a unit that converts, and where a count is what is wanted: a value.
    void withAWay() {
        Bench bench = test::small_bench();
        Reading& wired = bench.readings[0];
        wired.source.unit = "count";
        wired.path = build_path(place(bench, test::catalog(), wired));
        QVERIFY(no_way(wired).empty());
        QVERIFY(Intake(wired, {}).take(second_us, 141, {}, 1)->value.ok());
        Reading fahrenheit = counted_of();
        fahrenheit.source.unit = "degF";
        CLOSE(Intake(fahrenheit, {}).take(second_us, 50, {}, 1)->value.number, 10, 1e-9);
        CLOSE(Intake(counted_of("1", "number"), {}).take(second_us, 141, {}, 1)->value.number, 141, 0);
        Reading plain = counted_of();
        plain.source.unit.clear(); // as benches had it before: the number is the value
        CLOSE(Intake(plain, {}).take(second_us, 21.5, {}, 1)->value.number, 21.5, 0);
    }
    /// What a program without a window ends with, whatever happens in it.
    void aMainThatBreaksOff() {
        const auto say = [](const char* what) { said_by_main = what; };
        char name[] = "program";
        char* arguments[] = {name, nullptr};
        QCOMPARE(guarded_main([](int n, char**) { return n + 6; }, 1, arguments, say, 3), 7);
        QVERIFY(said_by_main.isEmpty());
        const auto breaks = [](int, char**) -> int { throw std::runtime_error("no more memory"); };
        QCOMPARE(guarded_main(breaks, 1, arguments, say, 3), 3);
        QCOMPARE(said_by_main, QByteArray("no more memory"));
    }
};

RUN_TESTS_OF(TestRawOnly)
#include "tst_raw_only.moc"
