// Series against a slow model (a map), in any order of arrival; summaries against brute force; damage is found.
#include "store/upkeep/bench_copy.h"
#include "support/run_tests.h"
#include "support/samples_of.h"
#include "support/support.h"

#include <SQLiteCpp/Statement.h>
#include <bit>
#include <map>
#include <random>

using namespace cognitum;
using test::add;
using test::all_of;
using test::everything;
using test::start_of_all;

namespace {

BenchFile make(const QTemporaryDir& folder) {
    return std::move(*BenchFile::create(test::file_in(folder, "b.cognitum")));
}

std::vector<Sample> ramp(std::size_t n, TimeUs first = 0, TimeUs step = second_us) {
    std::vector<Sample> out;
    for (std::size_t i = 0; i < n; ++i)
        out.push_back({first + static_cast<TimeUs>(i) * step, static_cast<double>(i % 1024),
                       static_cast<double>(i) * 0.01, Cause::none});
    return out;
}

} // namespace

class TestSamples : public QObject {
    Q_OBJECT

  private slots:
    void anyOrderIsTheSameAsAMap_data() {
        QTest::addColumn<int>("seed");
        QTest::addColumn<int>("most");
        QTest::addRow("small batches") << 1 << 50;
        QTest::addRow("around a block") << 2 << 6000;
        QTest::addRow("large") << 3 << 20000;
    }
    void anyOrderIsTheSameAsAMap() {
        QFETCH(int, seed);
        QFETCH(int, most);
        const QTemporaryDir folder;
        BenchFile file = make(folder);
        std::mt19937_64 random(static_cast<std::uint64_t>(seed));
        std::map<TimeUs, double> model;
        for (int round = 0; round < 25; ++round) {
            // Mostly later than everything, sometimes anywhere, sometimes on top of what is there.
            const TimeUs last = model.empty() ? 0 : model.rbegin()->first;
            const bool later = random() % 3 != 0;
            const std::size_t n = 1 + random() % static_cast<std::uint64_t>(most);
            TimeUs t = later
                           ? last
                           : static_cast<TimeUs>(random() % static_cast<std::uint64_t>(std::max<TimeUs>(last, 1)));
            SeriesBatch batch{"r", {}};
            std::size_t expected_duplicates = 0;
            for (std::size_t i = 0; i < n; ++i) {
                t += 1 + static_cast<TimeUs>(random() % 40);
                const double value = static_cast<double>(random() % 100000) / 7;
                batch.samples.push_back({t, value, value, Cause::none});
                if (!model.emplace(t, value).second) ++expected_duplicates;
            }
            VALUE_OF(result, add_samples(file, std::span(&batch, 1)));
            QCOMPARE(result.left_out[0].size(), expected_duplicates);
            QCOMPARE(result.added, std::uint64_t(n - expected_duplicates));
        }
        const auto stored = all_of(file, "r");
        QCOMPARE(stored.size(), model.size());
        auto it = model.begin();
        for (const Sample& s : stored) {
            QCOMPARE(s.time, it->first);
            QCOMPARE(s.value, it->second);
            ++it;
        }
        VALUE_OF(report, verify(file));
        for (const Problem& p : report.problems)
            qWarning("%s: %s", p.where.c_str(), p.what.c_str());
        QVERIFY(report.problems.empty());
        QCOMPARE(report.samples, std::uint64_t(model.size()));
    }

    void duplicatesInOneBatch() {
        const QTemporaryDir folder;
        BenchFile file = make(folder);
        const SeriesBatch batch{"r", {{1, 1, 1, Cause::none}, {1, 2, 2, Cause::none}, {2, 3, 3, Cause::none}}};
        VALUE_OF(first, add_samples(file, std::span(&batch, 1)));
        QVERIFY((first.left_out[0] == std::vector<std::size_t>{1}));
        VALUE_OF(second, add_samples(file, std::span(&batch, 1)));
        QVERIFY((second.left_out[0] == std::vector<std::size_t>{0, 1, 2}));
        QCOMPARE(all_of(file, "r")[0].value, 1.0); // the first one stays
    }

    void failedMeasurementsKeepTheirCause() {
        const QTemporaryDir folder;
        BenchFile file = make(folder);
        auto samples = ramp(9000);
        for (std::size_t i = 0; i < samples.size(); i += 3) {
            samples[i].value = std::numeric_limits<double>::quiet_NaN();
            samples[i].cause = i % 2 ? Cause::at_high_rail : Cause::at_low_rail;
        }
        add(file, "r", samples);
        const auto stored = all_of(file, "r");
        for (std::size_t i = 0; i < samples.size(); ++i) {
            QCOMPARE(stored[i].cause, samples[i].cause);
            QCOMPARE(stored[i].raw, samples[i].raw);
            QCOMPARE(std::isnan(stored[i].value), i % 3 == 0);
        }
    }

    void rangesAreCutToTheSample() {
        const QTemporaryDir folder;
        BenchFile file = make(folder);
        add(file, "r", ramp(10000));
        std::size_t n = 0;
        QVERIFY(for_each_sample(file, "r", 4090 * second_us, 8200 * second_us, [&](std::span<const Sample> s) {
            n += s.size();
            return true;
        }));
        QCOMPARE(n, std::size_t(4111));
        VALUE_OF(size, extent(file, "r"));
        QCOMPARE(size.n, std::uint64_t(10000));
        QCOMPARE(size.last, 9999 * second_us);
        VALUE_OF(none, extent(file, "nobody"));
        QCOMPARE(none.n, std::uint64_t(0));
    }

    void summariesHoldEverySampleOnce() {
        const QTemporaryDir folder;
        BenchFile file = make(folder);
        add(file, "r", ramp(600000)); // enough for a second level
        add(file, "r", ramp(1000, 600000 * second_us));
        QVERIFY(file.db().execAndGet("SELECT max(level) FROM block").getInt() >= 1);
        VALUE_OF(all, summaries(file, "r", start_of_all, everything));
        QVERIFY2(all.size() < 9000, qPrintable(QString::number(all.size())));
        std::uint64_t n = 0;
        TimeUs last = start_of_all;
        for (const Summary& s : all) {
            QVERIFY(s.from > last);
            last = s.to;
            n += s.n;
            // A ramp: the extremes are the ends.
            const double first_value = static_cast<double>(s.from / second_us % 600000) * 0.01;
            CLOSE(s.low, first_value, 1e-9);
        }
        QCOMPARE(n, std::uint64_t(601000));
        // After samples in the middle, the levels are built again and still hold everything once.
        add(file, "r", {{123456 * second_us + 1, 5, 5, Cause::none}});
        VALUE_OF(again, summaries(file, "r", start_of_all, everything));
        std::uint64_t m = 0;
        for (const Summary& s : again)
            m += s.n;
        QCOMPARE(m, std::uint64_t(601001));
        VALUE_OF(close, summaries(file, "r", 1000 * second_us, 1100 * second_us));
        QCOMPARE(close.size(), std::size_t(101));
        QCOMPARE(close[0].n, std::uint64_t(1));
    }

    void everyCauseIsReadAgain() {
        for (int i = 0; i <= static_cast<int>(last_cause); ++i) {
            const auto cause = static_cast<Cause>(i);
            const std::vector<Sample> block(7, {i * second_us, 1, std::nan(""), cause});
            VALUE_OF(again, decode_block(encode_block(block)));
            QCOMPARE(again[3].cause, cause);
            QCOMPARE(cause_text(cause).empty(), i == 0);
            if (i > 0) QVERIFY(cause_from_text(cause_text(cause)) == cause);
        }
        // A cause behind the last one has no words: whoever adds one must move the bound.
        QVERIFY(cause_text(static_cast<Cause>(static_cast<int>(last_cause) + 1)).empty());
        QVERIFY(!cause_from_number(static_cast<int>(last_cause) + 1));
    }

    /// Whatever a Sample can hold goes in at any time and in any order, and the file stays sound and whole.
    void anythingThatFitsASampleIsKeptOrRefusedWhole_data() {
        QTest::addColumn<int>("seed");
        for (int seed = 1; seed <= 12; ++seed)
            QTest::addRow("%d", seed) << seed;
    }
    void anythingThatFitsASampleIsKeptOrRefusedWhole() {
        QFETCH(int, seed);
        const QTemporaryDir folder;
        BenchFile file = make(folder);
        std::mt19937_64 random(static_cast<std::uint64_t>(seed));
        const auto number = [&] {
            constexpr double odd[] = {0.0, -0.0, 1e308, -1e308, 5e-324, 1e-300};
            switch (random() % 4) {
            case 0: return odd[random() % std::size(odd)];
            case 1: return std::bit_cast<double>(random());
            case 2: return std::numeric_limits<double>::infinity() * (random() % 2 ? 1 : -1);
            default: return std::nan("");
            }
        };
        const auto time = [&]() -> TimeUs {
            constexpr TimeUs odd[] = {
                start_of_all, everything, earliest_time, earliest_time - 1, latest_time, latest_time + 1, 0, -1};
            switch (random() % 3) {
            case 0: return odd[random() % std::size(odd)];
            case 1: return static_cast<TimeUs>(random());
            default: return static_cast<TimeUs>(random() % 20'000) * second_us;
            }
        };
        std::map<TimeUs, Sample> model;
        for (int round = 0; round < 6; ++round) {
            SeriesBatch batch{"r", {}};
            for (std::uint64_t i = 0; i < 3000; ++i) {
                const Sample s{time(), number(), number(),
                               static_cast<Cause>(random() % (static_cast<unsigned>(last_cause) + 1))};
                batch.samples.push_back(s);
                if (s.time >= earliest_time && s.time <= latest_time) model.emplace(s.time, s);
            }
            const SeriesBatch other{"other", ramp(100, round * 1000 * second_us)};
            const SeriesBatch both[] = {batch, other};
            VALUE_OF(added, add_samples(file, both));
            QCOMPARE(added.left_out[1].size(), std::size_t(0));
            VALUE_OF(report, verify(file));
            for (const Problem& p : report.problems)
                QFAIL(qPrintable(QString::fromStdString(p.where + ": " + p.what)));
        }
        const auto stored = all_of(file, "r");
        QCOMPARE(stored.size(), model.size());
        const auto same = [](double a, double b) { return a == b || (std::isnan(a) && std::isnan(b)); };
        auto it = model.begin();
        for (const Sample& s : stored) {
            QCOMPARE(s.time, it->first);
            QVERIFY(same(s.raw, it->second.raw) && same(s.value, it->second.value));
            QCOMPARE(s.cause, it->second.cause);
            ++it;
        }
        VALUE_OF(parts, summaries(file, "r", start_of_all, everything));
        std::uint64_t n = 0;
        for (const Summary& s : parts)
            n += s.n;
        QCOMPARE(n, std::uint64_t(model.size()));
    }

    void mendingSavesAllThatCanBeRead() {
        const QTemporaryDir folder;
        BenchFile file = make(folder);
        QVERIFY(file.save_plan(test::small_bench()));
        QVERIFY(file.append_log({0, 5, "air", "note", "kept", 0}));
        add(file, "air", ramp(10000));
        add(file, "b", ramp(5000));
        file.db().exec("UPDATE block SET data = x'0011' WHERE id = (SELECT min(id) FROM block WHERE level = 0)");
        const std::string target = test::file_in(folder, "mended.cognitum");
        VALUE_OF(report, copy_bench(file, target));
        QCOMPARE(report.samples, std::uint64_t(15000 - 4096));
        QCOMPARE(report.lost.size(), std::size_t(1));
        QVERIFY(report.lost[0].what.find("1970-01-01T00:00:00.000Z to 1970-01-01T01:08:15.000Z") !=
                std::string::npos);
        auto mended = BenchFile::open(target, Access::read);
        QVERIFY(mended.has_value());
        VALUE_OF(sound, verify(*mended));
        QVERIFY(sound.problems.empty());
        QCOMPARE(sound.samples, report.samples);
        QVERIFY(mended->load_plan()->reading("air"));
        QCOMPARE(mended->log()->front().text, std::string("kept"));
        QVERIFY(!copy_bench(file, target)); // never over another file
    }

    void severalSeriesInOneTransaction() {
        const QTemporaryDir folder;
        BenchFile file = make(folder);
        const SeriesBatch batches[] = {{"a", ramp(10)}, {"b", ramp(5000)}};
        QVERIFY(add_samples(file, batches));
        QCOMPARE(all_of(file, "a").size(), std::size_t(10));
        QCOMPARE(all_of(file, "b").size(), std::size_t(5000));
    }

    void verifyFindsDamage_data() {
        QTest::addColumn<QByteArray>("sql");
        QTest::addRow("a block's bytes") << QByteArray("UPDATE block SET data = x'00112233' WHERE level = 0");
        QTest::addRow("a count") << QByteArray("UPDATE block SET n = n + 1 WHERE level = 0");
        QTest::addRow("a digest") << QByteArray("UPDATE block SET digest = x'00'");
        QTest::addRow("the plan") << QByteArray(
            "INSERT INTO plan (kind, id, position, body) VALUES ('reading', 'x', 9, '{\"id\": 5}')");
        QTest::addRow("an overlap") << QByteArray("UPDATE block SET first = 0 WHERE level = 0");
        QTest::addRow("an early tail") << QByteArray(
            "INSERT INTO tail (series, time, raw, value, cause) VALUES (1, 5, 1, 1, 0)");
    }
    void verifyFindsDamage() {
        QFETCH(QByteArray, sql);
        const QTemporaryDir folder;
        BenchFile file = make(folder);
        add(file, "r", ramp(10000));
        QVERIFY(verify(file)->problems.empty());
        file.db().exec(sql.constData());
        VALUE_OF(report, verify(file));
        QVERIFY(!report.problems.empty());
    }
};

RUN_TESTS_OF(TestSamples)
#include "tst_samples.moc"
