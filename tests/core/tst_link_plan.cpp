// Link plans, sources and signatures come back from JSON as they were, and nonsense is refused with its place.
#include "core/bench/stored.h"
#include "core/plan/signal_about.h"
#include "support/run_tests.h"
#include "support/support.h"

using namespace cognitum;

namespace {

Result<LinkPlan> read_text(const std::string& text) {
    auto document = JsonText::parse("link", text);
    if (!document) return tl::make_unexpected(document.error());
    return read_described<LinkPlan>(JsonReader(*document));
}

LinkPlan full_plan() {
    LinkPlan plan;
    plan.kind = LinkKind::mqtt;
    plan.port = "/dev/ttyUSB3";
    plan.baud = 9600;
    plan.seed = 77;
    plan.simulated = plan.find_speed = plan.may_reset = true;
    plan.frame = "7E1";
    plan.format = "frames start=0D end=54";
    plan.mqtt = {"harbour", 8883, "a/# b/+", "a/status", "gone", 5, true, "/etc/ca.pem", true, "a/command"};
    plan.http = {9000, true, "abc123"};
    plan.file = {"/var/log/x.csv", false, 10};
    return plan;
}

} // namespace

class TestLinkPlan : public QObject {
    Q_OBJECT

  private slots:
    void plansComeBack() {
        for (const LinkKind kind : {LinkKind::none, LinkKind::serial, LinkKind::simulated, LinkKind::mqtt,
                                    LinkKind::http, LinkKind::file}) {
            LinkPlan plan = full_plan();
            plan.kind = kind;
            VALUE_OF(again, read_text(write_described(plan).dump()));
            QVERIFY(again == plan);
            QCOMPARE(plan.is_wire(), kind == LinkKind::serial || kind == LinkKind::simulated);
        }
        VALUE_OF(plain, read_text(R"({"kind": "serial", "port": "/dev/ttyACM0"})"));
        QCOMPARE(plain.baud, 115200);
        QCOMPARE(plain.format, std::string("auto"));
        QVERIFY(!plain.is_simulated());
        QCOMPARE(write_described(plain).size(), std::size_t(4)); // what is plain is not written
    }
    void nonsenseIsRefused_data() {
        QTest::addColumn<QByteArray>("json");
        QTest::addColumn<QByteArray>("says");
        QTest::newRow("kind") << QByteArray(R"({"kind": "pigeon"})") << QByteArray("mqtt, http or file");
        QTest::newRow("no kind") << QByteArray(R"({"port": "x"})") << QByteArray("kind");
        QTest::newRow("speed") << QByteArray(R"({"kind": "serial", "baud": 3})") << QByteArray("speed must be");
        QTest::newRow("seed") << QByteArray(R"({"kind": "serial", "seed": -1})") << QByteArray("seed");
        QTest::newRow("half a seed") << QByteArray(R"({"kind": "serial", "seed": 1.5})")
                                     << QByteArray("whole number");
        QTest::newRow("frame") << QByteArray(R"({"kind": "serial", "frame": "9X3"})") << QByteArray("8N1");
        QTest::newRow("format") << QByteArray(R"({"kind": "serial", "format": "morse"})") << QByteArray("morse");
        QTest::newRow("broker port") << QByteArray(R"({"kind": "mqtt", "mqtt": {"port": 0}})")
                                     << QByteArray("65 535");
        QTest::newRow("version") << QByteArray(R"({"kind": "mqtt", "mqtt": {"version": 3}})")
                                 << QByteArray("3.1.1");
        QTest::newRow("password") << QByteArray(R"({"kind": "mqtt", "mqtt": {"password": "x"}})")
                                  << QByteArray("not known here");
        QTest::newRow("wide open") << QByteArray(R"({"kind": "http", "http": {"wide": true}})")
                                   << QByteArray("token");
        QTest::newRow("speed of a file")
            << QByteArray(R"({"kind": "file", "file": {"speed": -1}})") << QByteArray("0 or more");
        QTest::newRow("key") << QByteArray(R"({"kind": "none", "pott": "x"})") << QByteArray("not known here");
    }
    void nonsenseIsRefused() {
        QFETCH(QByteArray, json);
        QFETCH(QByteArray, says);
        const auto plan = read_text(json.toStdString());
        QVERIFY(!plan);
        QVERIFY2(plan.error().text().find(says.toStdString()) != std::string::npos, plan.error().text().c_str());
    }
    void readingsKnowWhereTheirNumbersStand() {
        Bench bench = test::small_bench();
        Reading& r = bench.readings[0];
        QCOMPARE(r.field(), r.wiring.pin()); // the label of its pin, until told otherwise
        QCOMPARE(r.feed(), std::string("gauge"));
        r.source = {"outer.t", "outer.wave", "logger", "degC"};
        r.bring_up.signs = {{"sensor-alone", 1795617060LL * second_us, "the warden", true, "moved 30 counts"}};
        r.bring_up.disturbed = 1795617060LL * second_us + 5;
        r.bring_up.disturbed_how = "sealed";
        bench.boards[0].buttons = {{"Faster", "interval 100", 1.5}};
        bench.boards[0].link = full_plan();
        VALUE_OF(text, JsonText::parse("again", bench_json(bench).dump()));
        VALUE_OF(again, read_bench(JsonReader(text)));
        QVERIFY(again == bench);
        QCOMPARE(again.readings[0].field(), std::string("outer.t"));
        QCOMPARE(again.readings[0].feed(), std::string("logger"));
    }
    void theRawSignalIsDescribedByThePlan() {
        const Bench bench = test::small_bench();
        const SignalAbout codes = about_signal(place(bench, test::catalog(), bench.readings[0]));
        QCOMPARE(codes.kind, SignalKind::codes);
        QCOMPARE(codes.bits, 10);
        CLOSE(codes.high, 1023, 0);
        CLOSE(codes.promised_s, 1, 0);
        QVERIFY(codes.expect_low < codes.expect_high && codes.expect_high < 1023);
        VALUE_OF(demo, load_bench_json(data_folder() + "/demo/whelk-point.json"));
        const auto kind = [&](const char* id) {
            return about_signal(place(demo, test::catalog(), *demo.reading(id))).kind;
        };
        QCOMPARE(kind("rock"), SignalKind::codes);
        QCOMPARE(kind("bed-3"), SignalKind::codes);
        QCOMPARE(kind("rain"), SignalKind::counter);
        QCOMPARE(kind("pulse"), SignalKind::wave);
        QCOMPARE(kind("jetty"), SignalKind::contact);
        QCOMPARE(kind("tide-pool"), SignalKind::distance);
        QCOMPARE(kind("humidity"), SignalKind::measured);
        // What is counted, switched or a code has no unit.
        const auto unit = [&](const char* id) {
            return about_signal(place(demo, test::catalog(), *demo.reading(id))).unit;
        };
        for (const char* id : {"rock", "rain", "pulse", "jetty"})
            QCOMPARE(unit(id), std::string());
        QCOMPARE(unit("tide-pool"), std::string("us"));
        QCOMPARE(unit("humidity"), std::string("%"));
        const auto of = [&](const char* id) {
            return about_signal(place(demo, test::catalog(), *demo.reading(id)));
        };
        QVERIFY(!of("trailer-tyre").even); // it reports when it likes
        QVERIFY(of("humidity").even);
        QCOMPARE(of("bed-1").bits, 15); // of the converter in between, not of the board
        CLOSE(of("stove-flue").resolution, 0.25, 0);
        CLOSE(of("humidity").high, 100, 0);
        QVERIFY(of("daylight").never_negative);
        // 2.1 m less the highest level, as an echo at the 15 °C that are assumed.
        CLOSE(of("tide-pool").expect_low, 2000 * 300 / (331.3 * std::sqrt(1 + 15 / 273.15)), 1e-6);
        QVERIFY(!failure_rules_of(place(demo, test::catalog(), *demo.reading("tide-pool"))).empty());
    }
};

RUN_TESTS_OF(TestLinkPlan)
#include "tst_link_plan.moc"
