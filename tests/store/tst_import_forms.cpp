// Every door into a bench beside the plain table: long tables, local clocks, other units, JSON and SenML; whole,
// cut off, and wrong. What goes out comes back the same.
#include "store/exchange/export.h"
#include "store/exchange/json_import.h"
#include "store/samples/samples.h"
#include "store/upkeep/verify.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <QFile>
#include <fcntl.h>
#include <unistd.h>

using namespace cognitum;

namespace {

struct Taken {
    Result<ImportReport> report = failure("not run");
    Bench bench;
    std::unique_ptr<BenchFile> file;

    std::vector<Sample> samples(const char* reading) const {
        std::vector<Sample> out;
        [[maybe_unused]] const auto done =
            for_each_sample(*file, reading, earliest_time, latest_time, [&](std::span<const Sample> s) {
                out.insert(out.end(), s.begin(), s.end());
                return true;
            });
        return out;
    }
    /// "2026-06-01T09:00:00.000Z 21.5; …", failures as their cause.
    std::string said(const char* reading) const {
        std::string out;
        for (const Sample& s : samples(reading))
            out += (out.empty() ? "" : "; ") + iso_time(s.time).substr(0, 19) + " " +
                   (std::isfinite(s.value) ? QString::number(s.value, 'g', 10).toStdString() : cause_text(s.cause));
        return out;
    }
};

Reading thermometer(const char* name, const char* unit = "degC") {
    Reading r;
    r.id = r.name = name;
    r.quantity.kind = "temperature";
    r.quantity.unit = unit;
    return r;
}

} // namespace

class TestImportForms : public QObject {
    Q_OBJECT

    QTemporaryDir m_folder;
    int m_n = 0;
    std::string next(const char* ending) {
        return test::file_in(m_folder, qPrintable(QString::number(m_n++) + ending));
    }

    Taken take(const QByteArray& text, const ImportOptions& options = {}, Bench bench = {}) {
        Taken out;
        out.bench = std::move(bench);
        out.file = std::make_unique<BenchFile>(std::move(*BenchFile::create(next(".cognitum"))));
        const std::string path = next(".in");
        QFile file(QString::fromStdString(path));
        if (!file.open(QIODevice::WriteOnly) || file.write(text) != text.size()) qFatal("not written");
        file.close();
        const int descriptor = ::open(path.c_str(), O_RDONLY | O_CLOEXEC);
        out.report = import_samples(*out.file, out.bench, "log", descriptor, options);
        ::close(descriptor);
        const auto checked = verify(*out.file);
        if (!checked || !checked->problems.empty()) qFatal("the bench is not sound");
        return out;
    }
    static std::string why(const Taken& taken) {
        std::string out = taken.report ? "" : taken.report.error().text();
        if (taken.report)
            for (const Rejection& r : taken.report->rejected.reasons())
                out += std::to_string(r.count) + " × " + r.reason + "; ";
        return out;
    }

  private slots:
    void aLongTable() {
        const Taken t = take("time,name,value,unit\n2026-06-01T09:00:00Z,Air,21.5,degC\n"
                             "2026-06-01T09:00:00Z,Sea,11,degC\n2026-06-01T09:01:00Z,Air,21.75,degC\n"
                             "2026-06-01T09:02:00Z,,3,degC\n2026-06-01T09:03:00Z,Air,warm,degC\n"
                             "2026-06-01T09:04:00Z,Air,,degC\n");
        QVERIFY2(t.report.has_value(), why(t).c_str());
        QCOMPARE(t.report->rows, std::uint64_t(3));
        QCOMPARE(t.report->rejected.count("no name"), std::uint64_t(1));
        QCOMPARE(t.report->rejected.count("text where a number belongs"), std::uint64_t(1));
        QCOMPARE(t.report->rejected.count("no value"), std::uint64_t(1));
        QCOMPARE(t.said("air"), std::string("2026-06-01T09:00:00 21.5; 2026-06-01T09:01:00 21.75"));
        QCOMPARE(t.bench.reading("sea")->quantity.kind, std::string("temperature"));
    }
    void anotherUnitOfTheReadingIsConverted() {
        Bench bench;
        bench.readings = {thermometer("Air")};
        for (const char* text :
             {"time,Air [degF]\n2026-06-01T09:00:00Z,68\n",
              "time;name;unit;value\n2026-06-01T09:00:00Z;Air;°F;68,0\n",
              "[{\"n\":\"Air\",\"u\":\"degF\",\"t\":1780304400,\"v\":68}]",
              "{\"readings\":[{\"name\":\"air\",\"unit\":\"K\",\"samples\":[[1780304400,293.15]]}]}"}) {
            const Taken t = take(text, {}, bench);
            QVERIFY2(t.report.has_value(), (why(t) + text).c_str());
            QCOMPARE(t.said("Air"), std::string("2026-06-01T09:00:00 20"));
        }
    }
    void aUnitOfSomethingElseIsNeverTakenForIt() {
        Bench bench;
        bench.readings = {thermometer("Air")};
        const Taken table = take("time,Air [hPa]\n2026-06-01T09:00:00Z,1013\n", {}, bench);
        QVERIFY(!table.report && why(table).find("hPa") != std::string::npos);
        const Taken records = take("[{\"n\":\"Air\",\"u\":\"hPa\",\"t\":1780304400,\"v\":1013},"
                                   "{\"n\":\"Air\",\"u\":\"Cel\",\"t\":1780304400,\"v\":20}]",
                                   {}, bench);
        QVERIFY2(records.report && records.report->rejected.total() == 1, why(records).c_str());
        QCOMPARE(records.said("Air"), std::string("2026-06-01T09:00:00 20"));
    }
    void datesThatCanBeReadInTwoWaysAreAsked() {
        const QByteArray text = "time;Air\n1.6.2026 09:00;1\n2.6.2026 09:00;2\n";
        const Taken asked = take(text);
        QVERIFY2(!asked.report && why(asked).find("dates=dmy") != std::string::npos, why(asked).c_str());
        ImportOptions options;
        options.order = DateOrder::month_first;
        QCOMPARE(take(text, options).said("air"), std::string("2026-01-06T09:00:00 1; 2026-02-06T09:00:00 2"));
        const Taken longest =
            take("time;Air\n" + QByteArray(2 << 20, 'x') + "\n1.6.2026 09:00;1\n13.6.2026 09:00;2\n");
        QVERIFY2(longest.report && longest.report->rejected.count("longer than a megabyte") == 1,
                 why(longest).c_str());
        // A later row that leaves no doubt decides, also for those before it.
        QCOMPARE(take(text + "13.6.2026 09:00;3\n").said("air"),
                 std::string("2026-06-01T09:00:00 1; 2026-06-02T09:00:00 2; 2026-06-13T09:00:00 3"));
    }
    void localTimesWithAZone() {
        ImportOptions options;
        options.zone = [](TimeUs) { return 2 * hour_us; };
        const Taken t = take("date,time,Air\n2026-06-01,09:00:00,1\n2026-06-01,09:00:01,2\n", options);
        QVERIFY2(t.report.has_value(), why(t).c_str());
        QCOMPARE(t.said("air"), std::string("2026-06-01T07:00:00 1; 2026-06-01T07:00:01 2"));
    }
    void unitsInRoundBracketsAndMilliseconds() {
        const Taken t = take("time;Rain (mm);Bed (north)\n1780304400000;0,2;3\n1780304401500;0,4;\n");
        QVERIFY2(t.report.has_value(), why(t).c_str());
        QCOMPARE(t.bench.reading("rain")->quantity.kind, std::string("rain"));
        QCOMPARE(t.bench.reading("bed-north")->name, std::string("Bed (north)"));
        QCOMPARE(iso_time(t.samples("rain")[1].time), std::string("2026-06-01T09:00:01.500Z"));
        const Taken lines = take("{\"air\": 1}\n{\"air\": 2}\n"); // what a board sends
        QVERIFY2(!lines.report, why(lines).c_str());
    }
    void textOfOtherPrograms() {
        QCOMPARE(take("\xEF\xBB\xBFTimestamp\tAir\r\n2026-06-01 09:00:00\t1\r\n").said("air"),
                 std::string("2026-06-01T09:00:00 1"));
        const Taken wide = take(QByteArray("\xFF\xFEt\0i\0m\0e\0,\0a\0\n\0", 16));
        QVERIFY2(!wide.report && why(wide).find("UTF-8") != std::string::npos, why(wide).c_str());
        const Taken old = take("time,Air\r2026-06-01T09:00:00Z,1\r");
        QVERIFY2(!old.report && why(old).find("carriage return") != std::string::npos, why(old).c_str());
        const Taken twice = take("time,Air\ntime,Air\n2026-06-01T09:00:00Z,1\n"); // a header again
        QVERIFY2(twice.report && twice.report->rejected.total() == 1, why(twice).c_str());
        const Taken widened = take("time,Air\n2026-06-01T09:00:00Z,1\n2026-06-01T09:00:01Z,1,2\n");
        QVERIFY2(widened.report && why(widened).find("3 fields where 2 belong") != std::string::npos,
                 why(widened).c_str());
    }
    /// RFC 8428, sections 5.1.2 and 5.1.3: base fields hold for what follows.
    void senmlWithBaseFields() {
        const Taken t = take(R"([{"bn":"urn:dev:ow:10e2073a01080063:","bt":1.276020076001e+09,"bu":"A","bver":5,
            "n":"voltage","u":"V","v":120.1},{"n":"current","t":-5,"v":1.2},{"n":"current","t":-4,"v":1.3},
            {"n":"current","v":1.7}])");
        QVERIFY2(t.report.has_value(), why(t).c_str());
        QCOMPARE(t.report->rows, std::uint64_t(4));
        const Reading* current = nullptr;
        for (const Reading& r : t.bench.readings)
            if (r.name == "urn:dev:ow:10e2073a01080063:current") current = &r;
        QVERIFY(current);
        const std::vector<Sample> samples = t.samples(current->id.c_str());
        QCOMPARE(samples.size(), std::size_t(3));
        QCOMPARE(iso_time(samples.back().time), std::string("2010-06-08T18:01:16.001Z"));
        CLOSE(samples.front().value, 1.2, 1e-12);
    }
    void senmlThatCannotBeTakenSaysWhy() {
        const Taken t =
            take(QByteArray::fromStdString(R"([{"bn":"Air","bv":20,"t":1780304400,"v":1.5},{"t":1780304401},
            {"t":-10,"v":3},{"t":1780304402,"vs":"warm"},{"t":1780304403,"v":1,"future_":2},
            {"t":1780304404,"v":[1]},{"t":1780304405,"v":"1"},{"t":1e300,"v":1},{"t":1780304406,"vb":true},
            {"t":1780304407,"vs":")" + cause_text(Cause::failed) +
                                           R"("},7])"));
        QVERIFY2(t.report.has_value(), why(t).c_str());
        const Rejections& r = t.report->rejected;
        for (const char* reason :
             {"a time that counts from now", "text where a number belongs", "a list or an object inside a record",
              "a field that must be understood, \"future_\"", "text where a number belongs, \"v\"",
              "a time that cannot be read", "something that is no record"})
            QVERIFY2(r.count(reason) == 1, (std::string(reason) + " in " + why(t)).c_str());
        const std::vector<Sample> samples = t.samples("air");
        QCOMPARE(samples.front().value, 21.5); // with its base value
        QCOMPARE(samples[1].value, 1.0);       // true has none
        const Taken newer = take(R"([{"bver":11,"n":"Air","t":1780304400,"v":1}])");
        QVERIFY(!newer.report && why(newer).find("newer") != std::string::npos);
    }
    void whatGoesOutComesBack() {
        Bench bench;
        bench.readings = {thermometer("Hut air"), thermometer("Rock", "K")};
        std::vector<Sample> some;
        for (int i = 0; i < 5000; ++i) {
            const bool fails = i % 97 == 5;
            some.push_back({1780304400LL * second_us + i * 333'333LL, no_number,
                            fails ? no_number : 20 + std::sin(i * 0.01) / 3,
                            fails ? Cause::out_of_range : Cause::none});
        }
        BenchFile file = std::move(*BenchFile::create(next(".cognitum")));
        QVERIFY(file.save_plan(bench));
        const SeriesBatch batches[] = {{"Hut air", some}, {"Rock", {some.begin(), some.begin() + 100}}};
        QVERIFY(add_samples(file, batches));
        for (const ExportFormat format : {ExportFormat::json, ExportFormat::senml, ExportFormat::csv}) {
            ExportOptions options;
            options.format = format;
            options.causes = true;
            QByteArray text;
            QVERIFY(export_samples(file, bench, options, [&](std::string_view piece) {
                text.append(piece.data(), static_cast<qsizetype>(piece.size()));
            }));
            const Taken t = take(text, {}, bench);
            QVERIFY2(t.report.has_value(), why(t).c_str());
            const std::vector<Sample> back = t.samples("Hut air");
            QCOMPARE(back.size(), some.size());
            for (std::size_t i = 0; i < some.size(); ++i) {
                QCOMPARE(back[i].time, some[i].time);
                QVERIFY(back[i].value == some[i].value || (std::isnan(back[i].value) && std::isnan(some[i].value)));
                QCOMPARE(back[i].cause, some[i].cause);
            }
            QCOMPARE(t.samples("Rock").size(), std::size_t(100));
        }
    }
    /// Half a file: what came before stands, and the error says where it ended.
    void jsonThatEndsInTheMiddle() {
        const Taken cut = take("[{\"n\":\"Air\",\"t\":1780304400,\"v\":1},\n{\"n\":\"Air\",\"t\":178030");
        QVERIFY(!cut.report);
        QVERIFY2(why(cut).find("log:2") != std::string::npos && why(cut).find("1 rows") != std::string::npos,
                 why(cut).c_str());
        QCOMPARE(cut.said("air"), std::string("2026-06-01T09:00:00 1"));
        for (const QByteArray& nonsense :
             {QByteArray("[}"), QByteArray("{\"readings\": 3}"), QByteArray("[1e400]"), QByteArray("["),
              QByteArray("[[[[[[[[[[[[1]]]]]]]]]]]]"), QByteArray("{\"readings\":[{\"samples\":[[1,2]]}]}")}) {
            const Taken t = take(nonsense);
            QVERIFY2(!t.report && !why(t).empty(), nonsense.constData());
            QVERIFY(t.bench.readings.empty()); // nothing is half there
        }
        const Taken huge = take("[{\"n\":\"" + QByteArray(3 << 20, 'x') + "\"}]");
        QVERIFY2(!huge.report && why(huge).find("megabyte") != std::string::npos, why(huge).c_str());
    }
    void thePreviewSaysWhatWillHappen() {
        Bench bench = test::small_bench(); // counts through a path
        const std::string unit = bench.readings[0].path.first_unit();
        VALUE_OF(table, preview_csv("log", "time,Air [" + unit + "],Sea [degC],Air cause\n1.6.2026 9:00,142,11,\n",
                                    bench, {}));
        QVERIFY(!table.order && table.local_times);
        QCOMPARE(*column_says(table.columns[0], bench), std::string("when"));
        QVERIFY(column_says(table.columns[1], bench)->find("through its path") != std::string::npos);
        QCOMPARE(*column_says(table.columns[2], bench), std::string("a new reading in °C"));
        QCOMPARE(*column_says(table.columns[3], bench), std::string("why there is no value"));
        ImportOptions day_first;
        day_first.order = DateOrder::day_first;
        VALUE_OF(ordered, preview_csv("log", "time;Air\n1.6.2026 9:00;1\n", bench, day_first));
        QCOMPARE(last_time(ordered, "ff 9:00;1\n2.6.2026 9:00;1\n3.6.2026 9:00;2\nnonsense\n3.6.20", day_first),
                 parse_time("2026-06-03T09:00:00Z"));
        QCOMPARE(last_time(ordered, "one line alone", day_first), std::optional<TimeUs>());
        const std::string senml = "[{\"n\":\"Air\",\"u\":\"lx\",\"t\":1780304400,\"v\":1},"
                                  "{\"n\":\"Sea\",\"u\":\"Cel\",\"t\":1780304460,\"v\":1},{\"n\":\"Sea\"";
        VALUE_OF(points, preview_points("log", senml, bench));
        QCOMPARE(points.good, std::uint64_t(2));
        QVERIFY(points.series[0].refused && !points.series[1].refused);
        QCOMPARE(*points.last - *points.first, minute_us);
        QCOMPARE(form_of("  \n[{"), ImportForm::senml);
        QCOMPARE(form_of("{\"bench\": \"x\"}"), ImportForm::plan);
        QCOMPARE(form_of("{\"readings\": [{\"samples\": []}]}"), ImportForm::json);
        QCOMPARE(form_of("{\"readings\": [{\"name\": \"bench\", \"samples\": []}]}"), ImportForm::json);
        QCOMPARE(form_of("time,a\n"), ImportForm::csv);
    }
    void aPipeIsReadAsWell() {
        int ends[2];
        QVERIFY(::pipe(ends) == 0);
        const std::string text = "[{\"n\":\"Air\",\"t\":1780304400,\"v\":1}]";
        QVERIFY(::write(ends[1], text.data(), text.size()) == static_cast<ssize_t>(text.size()));
        ::close(ends[1]);
        BenchFile file = std::move(*BenchFile::create(next(".cognitum")));
        Bench bench;
        VALUE_OF(report, import_samples(file, bench, "stdin", ends[0]));
        ::close(ends[0]);
        QCOMPARE(report.rows, std::uint64_t(1));
    }
};

RUN_TESTS_OF(TestImportForms)
#include "tst_import_forms.moc"
