// What sessions amount to, found in a bench file; old data through new constants; a thinner copy; fingerprints.
#include "store/figures/reading_figures.h"
#include "store/figures/session_figures.h"
#include "store/samples/fingerprint.h"
#include "store/samples/reevaluate.h"
#include "store/samples/samples.h"
#include "store/upkeep/thin.h"
#include "store/upkeep/verify.h"
#include "support/cli.h"
#include "support/run_tests.h"
#include "support/samples_of.h"
#include "support/support.h"
#include "support/times.h"

#include <cmath>
#include <random>

using namespace cognitum;
using test::june;
using test::no_cards;

namespace {

Reading measured(const char* id, const char* kind, const char* unit) {
    Reading r;
    r.id = r.name = id;
    r.quantity.kind = kind;
    r.quantity.unit = unit;
    r.quantity.accuracy = 1;
    return r;
}

const SessionFact* fact(const SessionFigures& figures, const char* name, const char* reading = nullptr) {
    for (const SessionFact& f : figures.facts)
        if (f.name == name && (!reading || f.reading == reading)) return &f;
    return nullptr;
}

} // namespace

class TestSessions : public QObject {
    Q_OBJECT

    QTemporaryDir m_folder;
    int m_n = 0;
    Bench m_bench;
    std::unique_ptr<BenchFile> m_file;

    std::string next() { return test::file_in(m_folder, qPrintable(QStringLiteral("%1.cognitum").arg(m_n++))); }
    void make(std::vector<Reading> readings) {
        m_bench = {};
        m_bench.name = "made";
        m_bench.readings = std::move(readings);
        m_file = std::make_unique<BenchFile>(std::move(*BenchFile::create(next())));
        QVERIFY(m_file->save_plan(m_bench));
    }
    void add(const char* reading, int n, TimeUs step, const std::function<double(int)>& value, bool raw = false) {
        SeriesBatch batch{reading, {}};
        for (int i = 0; i < n; ++i) {
            const double v = value(i);
            batch.samples.push_back(
                {june + i * step, raw ? v : no_number, v, std::isnan(v) ? Cause::failed : Cause::none});
        }
        QVERIFY(add_samples(*m_file, std::span(&batch, 1)));
    }
    SessionFigures figures(const TimedSession& session, TimeUs now = june + 100 * day_us) {
        auto out = session_figures(*m_file, m_bench, no_cards, session, now, {});
        if (!out) qFatal("%s", out.error().text().c_str());
        return *out;
    }

  private slots:
    /// Lit at minute 0 at 20 °C, 220 °C after 40 minutes, then half of the rise is gone after another 60.
    void aFire() {
        make({measured("flue", "temperature", "degC")});
        add("flue", 300, minute_us,
            [](int i) { return i <= 40 ? 20 + 5.0 * i : 20 + 200 * std::exp2(-(i - 40) / 60.0); });
        SessionRule rule;
        rule.id = "rule";
        rule.name = "Fire";
        rule.kind = SessionKind::fire;
        rule.reading = "flue";
        rule.limit = 60;
        rule.least_s = 600;
        rule.pause_s = 600;
        m_bench.session_rules = {rule};
        VALUE_OF(found, find_sessions(*m_file, m_bench, rule, earliest_time, latest_time));
        QCOMPARE(found.size(), std::size_t(1));
        QCOMPARE(found[0].from, june + 9 * minute_us); // 65 °C
        const SessionFigures f =
            figures({"fire", "Fire", SessionKind::fire, june, june + 300 * minute_us, {"flue"}, "rule"});
        CLOSE(fact(f, "hottest")->value, 220, 1e-9);
        CLOSE(fact(f, "reached after")->value, 40 * 60, 1e-6);
        // Back half way to what it started with, the mean of the first five minutes: 30 °C.
        const double half = 40 + 60 * std::log2(200 / (125.0 - 20));
        CLOSE(fact(f, "half cooled after another")->value / 60, std::ceil(half) - 40, 1e-6);
        // From 60 °C upwards at minute 9 to the minute when it is no longer above: 40 + 60·log2(200/40).
        CLOSE(fact(f, "above the limit for")->value / 60, std::ceil(40 + 60 * std::log2(5.0)) - 9, 1.01);
        QVERIFY(session_fact_text(*fact(f, "reached after")).find("40") != std::string::npos);
    }
    void aDriveHasColdAndHotEnds() {
        make({measured("tyre", "pressure", "kPa"), measured("rain", "rain", "mm")});
        add("tyre", 181, minute_us, [](int i) { return 220 + 0.1 * i; });
        add("rain", 181, minute_us, [](int) { return 1; });
        const SessionFigures f =
            figures({"d", "Drive", SessionKind::drive, june, june + 181 * minute_us, {"tyre", "rain", "gone"}});
        CLOSE(fact(f, "at the start")->value, 220.2, 1e-9); // mean of the first five minutes
        CLOSE(fact(f, "at the end")->value, 237.8, 1e-9);
        CLOSE(fact(f, "change")->value, 17.6, 1e-9);
        QVERIFY(std::isnan(fact(f, "change")->doubt)); // nobody knows it, and nothing is claimed
        QCOMPARE(f.readings, (std::vector<std::string>{"tyre", "rain"}));
        QVERIFY(!fact(f, "change", "rain")); // a total has no ends
    }
    void threeWeeksOfFermentation() {
        Reading wort = measured("wort", "temperature", "degC");
        wort.bands = Bands{18, 22, 0.2};
        make({wort});
        // Days at 20 °C, the third at 24: too warm. Nothing from day 10 to day 12.
        add("wort", 21 * 24, hour_us, [](int i) {
            const int day = i / 24;
            return day >= 10 && day < 12 ? no_number : day == 2 ? 24.0 : 20 + 0.5 * std::sin(i * M_PI / 12);
        });
        const SessionFigures f =
            figures({"f", "Cider", SessionKind::fermentation, june, june + 21 * day_us, {"wort"}});
        QCOMPARE(f.days.size(), std::size_t(21));
        CLOSE(f.days[2].figures.mean, 24, 1e-9);
        CLOSE(f.days[10].figures.coverage, 0, 1e-9); // not measured is not cold
        QVERIFY(std::isnan(f.days[10].figures.mean));
        CLOSE(fact(f, "highest mean of a day")->value, 24, 1e-9);
        CLOSE(fact(f, "lowest mean of a day")->value, 20, 0.05);
        CLOSE(fact(f, "of the time in its band")->value, 100 * 18.0 / 19, 0.5);
    }
    void aSwimIsNoDiagnosis() {
        make({measured("pulse", "pulse-rate", "/min"), measured("sea", "temperature", "degC")});
        add("pulse", 360, 5 * second_us, [](int i) { return i % 10 == 0 ? no_number : 110.0 + i / 36; });
        add("sea", 30, minute_us, [](int) { return 14.0; });
        const TimedSession swim{"s", "Swim", SessionKind::swim, june, june + 30 * minute_us, {"pulse", "sea"}};
        const SessionFigures f = figures(swim);
        CLOSE(fact(f, "most", "pulse")->value, 119, 1e-9);
        CLOSE(fact(f, "of the time with a value", "pulse")->value, 90, 1);
        CLOSE(fact(f, "mean", "sea")->value, 14, 1e-9);
        QVERIFY2(f.caution.find("diagnosis") != std::string::npos, f.caution.c_str());
        QVERIFY(m_bench.is_private(swim));
    }
    void aSessionThatGoesOnEndsNow() {
        make({measured("air", "temperature", "degC")});
        add("air", 60, minute_us, [](int i) { return i; });
        const TimedSession going{"s", "S", SessionKind::other, june, 0, {"air"}};
        const SessionFigures f = figures(going, june + 30 * minute_us);
        QCOMPARE(f.stretch.to, june + 30 * minute_us);
        QCOMPARE(f.figures[0].stretch.n, std::uint64_t(30));
        QCOMPARE(figures(going, june - hour_us).figures[0].stretch.n,
                 std::uint64_t(1)); // a clock that was set back
    }
    void twoSessionsAreLaidOverEachOther() {
        make({measured("air", "temperature", "degC")});
        add("air", 2 * 1440, minute_us, [](int i) { return i % 1440; });
        VALUE_OF(first, since_start(*m_file, "air", {june, june + day_us}));
        VALUE_OF(second, since_start(*m_file, "air", {june + day_us, june + 2 * day_us}));
        QVERIFY(first.size() <= 601 && first.size() >= 500);
        QCOMPARE(first.size(), second.size());
        for (std::size_t i = 0; i < first.size(); ++i) {
            QCOMPARE(first[i].seconds, second[i].seconds);
            CLOSE(first[i].mean, second[i].mean, 1e-9);
        }
        VALUE_OF(none, since_start(*m_file, "air", {june - 2 * day_us, june - day_us}));
        QVERIFY(none.empty());
    }
    /// Raw counts through another gain: the new series is that, the old one stays, and the difference is said.
    void oldDataWithBetterConstants() {
        make({});
        m_bench = test::small_bench();
        QVERIFY(m_file->save_plan(m_bench));
        const Reading& air = m_bench.readings[0];
        const Chain path = effective_path(air);
        SeriesBatch batch{"air", {}};
        for (int i = 0; i < 1000; ++i) {
            const double raw = 100 + i % 80;
            batch.samples.push_back({june + i * second_us, raw, forward(path, raw).number, Cause::none});
        }
        batch.samples.push_back({june + 1000 * second_us, no_number, no_number, Cause::missing});
        batch.samples.push_back({june + 1001 * second_us, no_number, 21.0, Cause::none}); // imported, finished
        QVERIFY(add_samples(*m_file, std::span(&batch, 1)));
        AppliedCorrection correction;
        correction.gain = 1.0;
        correction.offset = -0.6;
        correction.from = -10;
        correction.to = 40;
        correction.path_key = path_key(m_bench.readings[0]);
        correction.record = 7;
        correction.time = june + day_us;
        m_bench.readings[0].correction = correction;
        QVERIFY(m_file->save_plan(m_bench));
        VALUE_OF(made, reevaluate(*m_file, "air", Interval{june + 100 * second_us, june + 2000 * second_us}, june));
        QCOMPARE(made.samples, std::uint64_t(901)); // 900 and the failure; a finished number has no raw one
        QCOMPARE(made.both, std::uint64_t(900));
        CLOSE(made.mean_difference, -0.6, 1e-9);
        CLOSE(made.largest_difference, -0.6, 1e-9);
        VALUE_OF(plan, m_file->load_plan());
        const Reading* again = plan.reading(made.reading);
        QVERIFY(again && again->correction && again->correction->record == 7);
        QVERIFY(!correction_is_stale(*again)); // though nothing is wired to it
        QVERIFY2(again->name.find("calibrated on 2026-06-02") != std::string::npos, again->name.c_str());
        QCOMPARE(extent(*m_file, "air")->n, std::uint64_t(1002));
        VALUE_OF(log, m_file->log());
        QVERIFY2(log[0].text.find("−0.60") != std::string::npos &&
                     log[0].text.find("Calibration 7") != std::string::npos,
                 log[0].text.c_str());
        // Stopped half way it says so in its name; nothing to see is said.
        VALUE_OF(before, m_file->load_plan());
        QVERIFY(!reevaluate(*m_file, "air", std::nullopt, june, [] { return false; }));
        VALUE_OF(after, m_file->load_plan());
        QVERIFY(after.readings.size() == before.readings.size() + 1 &&
                after.readings.back().name.find("not finished") != std::string::npos);
        QVERIFY(!reevaluate(*m_file, "air", Interval{june - day_us, june}, june));
        QVERIFY(!reevaluate(*m_file, "nobody", std::nullopt, june));
    }
    void aThinnerCopyKeepsWhatSaysMost() {
        Reading rain = measured("rain", "rain", "mm"), door = measured("door", "contact", "1");
        make({measured("air", "temperature", "degC"), rain, door});
        std::mt19937 random(3);
        add("air", 10'000, 10 * second_us,
            [&](int i) { return i % 777 == 5 ? no_number : double(random() % 1000); });
        double total = 0;
        add("rain", 10'000, 10 * second_us,
            [&](int i) { return i == 6000 ? total = 0 : total += random() % 20 == 0; });
        add("door", 10'000, 10 * second_us, [&](int i) { return double((i / 37) % 2); });
        const std::string copy = next();
        const TimeUs before = june + 50'000 * second_us;
        VALUE_OF(report, thin_into(*m_file, {{}, before, 10 * minute_us}, copy, june));
        QCOMPARE(report.series.size(), std::size_t(3));
        VALUE_OF(thin, BenchFile::open(copy, Access::read));
        VALUE_OF(sound, verify(thin));
        QVERIFY(sound.problems.empty());
        for (TimeUs from = june; from < before; from += 10 * minute_us) {
            const TimeUs to = std::min(from + 10 * minute_us, before);
            VALUE_OF(whole, figures_of(*m_file, m_bench, no_cards, m_bench.readings[0], from, to));
            VALUE_OF(less, figures_of(thin, m_bench, no_cards, m_bench.readings[0], from, to));
            QCOMPARE(less.stretch.least, whole.stretch.least);
            QCOMPARE(less.stretch.most, whole.stretch.most);
            QVERIFY(less.stretch.n <= 6 || to == before);
        }
        for (const char* id : {"rain", "door"}) {
            const Reading& r = *m_bench.reading(id);
            VALUE_OF(whole, figures_of(*m_file, m_bench, no_cards, r, {}, {}));
            VALUE_OF(less, figures_of(thin, m_bench, no_cards, r, {}, {}));
            if (whole.stretch.total) CLOSE(*less.stretch.total, *whole.stretch.total, 1e-9);
        }
        std::uint64_t changes = 0;
        double last = no_number;
        QVERIFY(for_each_sample(thin, "door", earliest_time, latest_time, [&](std::span<const Sample> samples) {
            for (const Sample& s : samples) {
                changes += std::isfinite(last) && s.value != last;
                last = s.value;
            }
            return true;
        }));
        QCOMPARE(changes, std::uint64_t(9999 / 37));
        // After the moment nothing is thrown away; the logbook says what was; the bench itself is as it was.
        QCOMPARE(extent(*m_file, "air")->n, std::uint64_t(10'000));
        std::uint64_t late = 0;
        QVERIFY(for_each_sample(thin, "air", before, latest_time, [&](std::span<const Sample> samples) {
            late += samples.size();
            return true;
        }));
        QCOMPARE(late, std::uint64_t(5000));
        VALUE_OF(log, thin.log());
        QCOMPARE(log.size(), std::size_t(3));
        QVERIFY(log[0].text.find("of 10000 samples are kept") != std::string::npos);
        QVERIFY(!thin_into(*m_file, {{}, before, 10 * minute_us}, copy, june)); // never over another file
    }
    void aFingerprintIsThatOfTheSamples() {
        make({measured("a", "temperature", "degC"), measured("b", "temperature", "degC")});
        add("a", 5000, second_us, [](int i) { return i; });
        add("b", 10, second_us, [](int i) { return i; });
        const Interval all{june, june + day_us};
        VALUE_OF(print, samples_fingerprint(*m_file, {"a", "b"}, all));
        QCOMPARE(print.size(), std::size_t(16));
        VALUE_OF(swapped, samples_fingerprint(*m_file, {"b", "a"}, all));
        VALUE_OF(shorter, samples_fingerprint(*m_file, {"a", "b"}, {june, june + 4999 * second_us}));
        QVERIFY(print != swapped && print != shorter);
        const std::string path = m_file->path();
        const QString bench = QString::fromStdString(path), hex = QString::fromStdString(print);
        const QStringList asked = {"verify",    bench, "--from",    "2026-06-01", "--to",         "2026-06-02",
                                   "--reading", "a",   "--reading", "b",          "--fingerprint"};
        QCOMPARE(test::cli(asked + QStringList{hex}).code, 0);
        QCOMPARE(test::cli(asked + QStringList{"0123456789abcdef"}).code, 1);
        const SeriesBatch late{"b", {{june + hour_us, no_number, 1, Cause::none}}};
        QVERIFY(add_samples(*m_file, std::span(&late, 1)));
        QCOMPARE(test::cli(asked + QStringList{hex}).code, 1);
        // SHA-256 of "abc" (FIPS 180-4).
        QCOMPARE(text_fingerprint("abc"), std::string("ba7816bf8f01cfea"));
    }
    void theVerbs() {
        make({measured("flue", "temperature", "degC"), measured("pulse", "pulse-rate", "/min")});
        add("flue", 600, minute_us, [](int i) { return i % 200 < 60 ? 150.0 : 20.0; });
        m_bench.sessions = {{"fire", "Fire", SessionKind::fire, june, june + hour_us, {"flue"}},
                            {"swim-2", "Swim", SessionKind::swim, june, june + hour_us, {"pulse"}},
                            {"swim", "Swim", SessionKind::swim, june, june + hour_us, {"pulse"}}};
        QVERIFY(m_file->save_plan(m_bench));
        const QString bench = QString::fromStdString(m_file->path());
        const Json list = test::cli({"sessions", bench, "--json"}).json();
        QCOMPARE(list["sessions"].size(), std::size_t(1)); // a health session must be asked for
        QCOMPARE(list["private_left_out"].get<int>(), 2);
        const auto two = test::cli({"sessions", bench, "--name", "Swim"}); // one of two is not guessed
        QVERIFY(two.code == 3 && two.err.contains("swim-2, swim"));
        QCOMPARE(test::cli({"sessions", bench, "--private", "--json"}).json()["sessions"].size(), std::size_t(3));
        const Json one = test::cli({"sessions", bench, "--name", "fire", "--json"}).json();
        QCOMPARE(one["summary"]["facts"][0]["name"].get<std::string>(), std::string("hottest"));
        QVERIFY(test::cli({"sessions", bench, "--name", "fire"}).out.contains("150"));
        const Json found =
            test::cli({"sessions", bench, "--find", "flue", "--above", "140degF", "--json"}).json()["found"];
        QCOMPARE(found.size(), std::size_t(3)); // 140 °F are 60 °C
        QCOMPARE(test::cli({"sessions", bench, "--find", "flue", "--above", "60lx"}).code, 2);
        QCOMPARE(test::cli({"sessions", bench, "--find", "flue"}).code, 2);
        QCOMPARE(test::cli({"sessions", bench, "--find", "flue", "--above", "sixty"}).code, 2);
        QCOMPARE(test::cli({"sessions", bench, "--find", "flue", "--valued", "--pause", "soon"}).code, 2);
        QCOMPARE(test::cli({"sessions", bench, "--name", "nobody"}).code, 3);
        QCOMPARE(test::cli({"reevaluate", bench, "--reading", "flue"}).code, 3); // nothing raw
        const QString copy = QString::fromStdString(next());
        const Json thin = test::cli({"thin", bench, copy, "--before", "2026-06-02", "--step", "10min", "--reading",
                                     "flue", "--json"})
                              .json();
        QCOMPARE(thin["series"].size(), std::size_t(1));
        QCOMPARE(test::cli({"verify", copy}).code, 0);
        QCOMPARE(test::cli({"thin", bench, copy, "--before", "2026-06-02", "--step", "10min"}).code, 3);
        QCOMPARE(test::cli({"thin", bench, copy, "--before", "then", "--step", "10min"}).code, 2);
    }
};

RUN_TESTS_OF(TestSessions)
#include "tst_sessions.moc"
