// What was recorded, asked for and answered later: nothing waits in the asker's thread, and no answer is of another
// bench.
#include "session/archive/recorded.h"
#include "support/clocked_session.h"
#include "support/run_tests.h"

#include <QSemaphore>
#include <QThread>
#include <algorithm>
#include <cmath>
#include <thread>

using namespace cognitum;
using namespace cognitum::test;

namespace {

constexpr TimeUs begin = ClockedSession::start;

/// A value a minute: the sine of the minute, with every 50th measurement failed.
std::vector<Sample> an_evening(int minutes) {
    std::vector<Sample> out;
    for (int i = 0; i < minutes; ++i) {
        Sample s{begin + i * minute_us, double(i), 20 + 5 * std::sin(i / 30.0), Cause::none};
        if (i % 50 == 49) s = {s.time, no_number, no_number, Cause::failed};
        out.push_back(s);
    }
    return out;
}

void record(Session& session, std::vector<Sample> samples) {
    const SeriesBatch batch{"air", std::move(samples)};
    QVERIFY(add_samples(*bench_file(session), std::span(&batch, 1)));
}

} // namespace

class TstArchive : public QObject {
    Q_OBJECT

  private slots:
    /// The other thread often finishes just as somebody begins to wait for it.
    void everyAnswerComesOnce() {
        ClockedSession s;
        open_small_bench(s);
        constexpr int questions = 5000;
        std::vector<int> came(questions);
        int made = 0;
        for (int i = 0; i < questions; ++i) {
            const auto answer = s.session.archive().ask<int>([i](BenchFile&) -> Result<int> { return i; });
            if (i % 3 == 0) QThread::yieldCurrentThread();
            if (i % 2 == 0)
                when_answered(answer, this, [&came, i](const Result<int>& a) { came[std::size_t(i)] += *a == i; });
            else
                when_answered(answered_as<int>(answer, this, [](const Result<int>& a) { return *a + 1; }), this,
                              [&came, &made, i](int a) {
                                  came[std::size_t(i)] += a == i + 1;
                                  ++made;
                              });
        }
        QTRY_COMPARE(made, questions / 2);
        QTRY_COMPARE(std::count(came.begin(), came.end(), 1), questions);
    }

    void anOwnerWhoIsGoneIsNotTold() {
        ClockedSession s;
        open_small_bench(s);
        QSemaphore let_go;
        bool told = false;
        auto owner = std::make_unique<QObject>();
        const auto answer = s.session.archive().ask<int>([&](BenchFile&) -> Result<int> {
            let_go.acquire();
            return 7;
        });
        const auto made = answered_as<int>(answer, owner.get(), [](const Result<int>& a) { return *a; });
        when_answered(answer, owner.get(), [&](const Result<int>&) { told = true; });
        owner.reset();
        let_go.release();
        s.session.archive().finishNow();
        QCoreApplication::processEvents();
        QVERIFY(!told);
        QVERIFY(made.isCanceled()); // nobody waits for it in vain
    }

    void nothingWaitsForAnAnswer() {
        ClockedSession s;
        open_small_bench(s);
        QSemaphore let_go;
        std::thread::id answered_in;
        int answer = 0;
        QStringList order;
        const auto slow = s.session.archive().ask<int>([&](BenchFile&) -> Result<int> {
            let_go.acquire();
            answered_in = std::this_thread::get_id();
            return 7;
        });
        when_answered(slow, this, [&](const Result<int>& a) {
            answer = a.value_or(0);
            order << "first";
        });
        const auto quick = s.session.archive().ask<int>([](BenchFile&) -> Result<int> { return 8; });
        when_answered(quick, this, [&](const Result<int>&) { order << "second"; });
        s.lines(3, 142); // the session goes on meanwhile
        QCOMPARE(s.session.worker().live().boards.at("gauge").lines, std::uint64_t(4)); // with its header
        QCOMPARE(answer, 0);
        let_go.release();
        QTRY_COMPARE(order, (QStringList{"first", "second"}));
        QCOMPARE(answer, 7);
        QVERIFY(answered_in != std::this_thread::get_id());
    }

    void aLongExportHoldsUpNoChart() {
        ClockedSession s;
        open_small_bench(s);
        QSemaphore let_go;
        const auto exported = s.session.exports().ask<int>([&](BenchFile&) -> Result<int> {
            let_go.acquire();
            return 1;
        });
        const auto chart = s.session.archive().ask<int>([](BenchFile&) -> Result<int> { return 2; });
        QCOMPARE(chart.result().value_or(0), 2);
        QVERIFY(!exported.isFinished());
        let_go.release();
        QCOMPARE(exported.result().value_or(0), 1);
    }

    void ofQuestionsThatWaitTheNewestCounts() {
        ClockedSession s;
        open_small_bench(s);
        QSemaphore let_go;
        ArchiveQuestion<int> question;
        QList<int> asked, taken;
        for (int i = 0; i < 5; ++i)
            question.ask(
                s.session.archive(), this,
                [&, i](BenchFile&) -> Result<int> {
                    let_go.acquire();
                    asked << i;
                    return i;
                },
                [&](const Result<int>& a) { taken << *a; });
        let_go.release(5);
        QTRY_COMPARE(taken, (QList<int>{0, 4}));
        QCOMPARE(asked, taken);
    }

    void anAnswerOfAnotherBenchIsNotTaken() {
        ClockedSession s;
        open_small_bench(s);
        record(s.session, an_evening(10));
        ArchiveQuestion<SeriesExtent> question;
        QList<std::uint64_t> taken;
        const auto ask = [&] {
            question.ask(
                s.session.archive(), this, [](BenchFile& file) { return extent(file, "air"); },
                [&](const Result<SeriesExtent>& a) { taken << (a ? a->n : 999); });
        };
        ask();
        s.session.archive().finishNow(); // answered, and its answer not taken yet
        open_small_bench(s, "other.cognitum");
        ask();
        QTRY_COMPARE(taken.size(), 1);
        QCOMPARE(taken[0], std::uint64_t(0));
    }

    void aClosedBenchAnswersWithAnError() {
        ClockedSession s;
        const auto question = [](BenchFile& file) { return extent(file, "air"); };
        const auto before = s.session.archive().ask<SeriesExtent>(question);
        QVERIFY(!before.result().has_value());
        open_small_bench(s);
        QVERIFY(s.session.archive().ask<SeriesExtent>(question).result().has_value());
        s.session.closeBench();
        const auto after = s.session.archive().ask<SeriesExtent>(question).result();
        QVERIFY(!after);
        QVERIFY(!QString::fromStdString(after.error().text()).isEmpty());
    }

    /// Closing does not wait for a long question: the statement that runs is interrupted.
    void closingEndsTheQuestionUnderWay() {
        ClockedSession s;
        open_small_bench(s);
        QSemaphore begun;
        const auto answer = s.session.archive().ask<int>([&](BenchFile& file) -> Result<int> {
            return guarded("", [&]() -> Result<int> {
                begun.release();
                file.db().exec(
                    "WITH RECURSIVE n(i) AS (SELECT 1 UNION ALL SELECT i + 1 FROM n) SELECT max(i) FROM n");
                return 1; // never: this counts without end
            });
        });
        begun.acquire();
        s.session.archive().close();
        QVERIFY(!answer.result().has_value());
    }

    void aStretchIsWhatWasRecorded() {
        ClockedSession s;
        open_small_bench(s);
        const auto file = bench_file(s.session);
        const TimeUs now = begin + 400 * minute_us;
        VALUE_OF(nothing, recorded_stretch(*file, "air", {}, now, 200));
        QVERIFY(nothing.parts.empty());
        QCOMPARE(nothing.from, now - hour_us);
        record(s.session, an_evening(300));
        VALUE_OF(all, recorded_stretch(*file, "air", {}, now, 5000));
        QCOMPARE(all.from, begin);
        QCOMPARE(all.to, now);
        QCOMPARE(all.parts.size(), std::size_t(300));
        VALUE_OF(part, recorded_stretch(*file, "air", begin + 100 * minute_us, begin + 200 * minute_us, 5000));
        QCOMPARE(part.parts.front().from, begin + 98 * minute_us); // 2 % beyond both ends
        QCOMPARE(part.parts.back().to, begin + 202 * minute_us);
        VALUE_OF(coarse, recorded_stretch(*file, "air", {}, now, 20));
        QVERIFY(coarse.parts.size() <= 20);
        std::uint64_t n = 0, valued = 0;
        for (const Summary& p : coarse.parts) {
            n += p.n;
            valued += p.valued;
        }
        QCOMPARE(n, std::uint64_t(300));
        QCOMPARE(valued, std::uint64_t(294)); // six failed
    }

    void theDayIsTheLastTwentyFourHours() {
        ClockedSession s;
        open_small_bench(s);
        record(s.session, an_evening(3000)); // two days and two hours
        const auto file = bench_file(s.session);
        const TimeUs now = begin + 3000 * minute_us;
        VALUE_OF(days, recorded_days(*file, {"air", "nobody"}, now));
        const DayFigures& day = days.at("air");
        double low = 99, high = -99;
        for (const Sample& sample : an_evening(3000))
            if (sample.time >= now - day_us && std::isfinite(sample.value)) {
                low = std::min(low, sample.value);
                high = std::max(high, sample.value);
            }
        QVERIFY(day.any);
        QCOMPARE(day.low, low);
        QCOMPARE(day.high, high);
        QVERIFY(day.low_at >= now - day_us && day.parts.size() <= 130);
        QVERIFY(!days.at("nobody").any);
    }

    void theNewestValuesInAnotherUnit() {
        ClockedSession s;
        open_small_bench(s);
        record(s.session, an_evening(100));
        const auto file = bench_file(s.session);
        const Reading& air = *s.session.bench().reading("air");
        VALUE_OF(all, recorded_values(*file, air, 0, latest_time, "K", 1000));
        QCOMPARE(all.size(), std::size_t(98)); // two failed
        CLOSE(all[0].value, 20 + 273.15, 1e-9);
        VALUE_OF(newest, recorded_values(*file, air, 0, latest_time, "K", 3));
        QCOMPARE(newest.size(), std::size_t(3));
        QCOMPARE(newest.back().time, all.back().time);
        QCOMPARE(newest.front().time, all[95].time);
        VALUE_OF(raw, recorded_raw(*file, "air", begin, begin + 49 * minute_us));
        QCOMPARE(raw.size(), std::size_t(50)); // both ends
        QCOMPARE(raw[7].code, 7.0);
        QVERIFY(std::isnan(raw[49].code));
    }

    /// Of runs only the ends: what counts changes sees the same, however long nothing changed.
    void equalNumbersAreKeptAsRuns() {
        ClockedSession s;
        open_small_bench(s);
        std::vector<Sample> tips;
        for (int i = 0; i < 9000; ++i) // a tip at 4000 and at 4001, and five failures
            tips.push_back({begin + i * second_us, double(i >= 4000) + double(i >= 4001), no_number, Cause::none});
        for (int i = 6000; i < 6005; ++i)
            tips[static_cast<std::size_t>(i)] = {begin + i * second_us, no_number, no_number, Cause::failed};
        record(s.session, tips);
        VALUE_OF(raw, recorded_raw(*bench_file(s.session), "air", begin, latest_time));
        std::vector<int> at;
        for (const RawSample& r : raw)
            at.push_back(static_cast<int>((r.time - begin) / second_us));
        QCOMPARE(at, (std::vector<int>{0, 3999, 4000, 4001, 5999, 6000, 6004, 6005, 8999}));
    }

    /// A damaged series says so, and the others have their figures; a library's exception is an error.
    void whatCannotBeReadSaysSo() {
        ClockedSession s;
        open_small_bench(s);
        record(s.session, an_evening(5000));
        const auto file = bench_file(s.session);
        file->db().exec("UPDATE block SET data = x'00', check_sum = NULL");
        VALUE_OF(days, recorded_days(*file, {"air", "nobody"}, begin + 3000 * minute_us));
        QVERIFY(!days.at("air").any && !days.at("air").trouble.empty());
        QVERIFY(days.at("nobody").trouble.empty());
        const auto thrown =
            s.session.archive().ask<int>([](BenchFile&) -> Result<int> { throw std::runtime_error("too much"); });
        QVERIFY(!thrown.result());
        QVERIFY(thrown.result().error().text().find("too much") != std::string::npos);
        QVERIFY(s.session.archive().ask<int>([](BenchFile&) -> Result<int> { return 1; }).result().has_value());
    }

    /// A band tried on the record speaks as often as a person counts: once for each time it is left.
    void aBandIsTriedOnTheRecord() {
        ClockedSession s;
        open_small_bench(s);
        record(s.session, an_evening(600));
        const auto file = bench_file(s.session);
        const Bands bands{16, 24, 0.5};
        VALUE_OF(trial, try_bands(*file, "air", bands, begin, begin + 600 * minute_us));
        QCOMPARE(trial.values, std::size_t(588)); // twelve failed
        // 600 minutes are 3.18 periods of 188.5 minutes: above four times, below three times.
        int above = 0, below = 0;
        for (double t = 0.5; t < 600; ++t) {
            const double before = 5 * std::sin((t - 1) / 30), after = 5 * std::sin(t / 30);
            above += before <= 4 && after > 4;
            below += before >= -4 && after < -4;
        }
        QCOMPARE(trial.raised, above + below);
        VALUE_OF(none, try_bands(*file, "air", bands, begin - day_us, begin - 1));
        QCOMPARE(none.values, std::size_t(0));
        QCOMPARE(none.raised, 0);
    }
};

RUN_TESTS_OF(TstArchive)
#include "tst_archive.moc"
