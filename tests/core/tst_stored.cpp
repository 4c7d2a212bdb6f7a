// What is stored comes back as it was: each struct by its own description, each member changed in turn. Unknown
// keys, wrong types and missing keys are refused, and docs/file-format.md names every key.
#include "core/bench/stored_control.h"
#include "core/bench/stored_sessions.h"
#include "core/bench/stored_watch.h"
#include "support/run_tests.h"
#include "support/stored.h"

#include <QFile>

using namespace cognitum;
using namespace cognitum::test;

namespace {

Reading a_reading() {
    Reading r;
    r.id = "air";
    r.name = "Air";
    return r;
}

} // namespace

class TestStored : public QObject {
    Q_OBJECT

  private slots:
    void linksComeBack() {
        holds_for(MqttPlan{});
        holds_for(HttpPlan{8765, false, "ab"});
        holds_for(FilePlan{});
        holds_for(LinkPlan{}, {"frame", "format", "processor"}); // no simulated board
        LinkPlan simulated;
        simulated.kind = LinkKind::simulated;
        simulated.processor = true;
        holds_for(simulated, {"frame", "format", "kind"});
        holds_for(CommandButton{"a", "b"});
    }
    void boardsAndWiringComeBack() {
        holds_for(LevelDivider{10, 20});
        holds_for(Connection{"out", "A0"}, {"divider"}); // the changed one has no lower resistor
        holds_for(Wiring{});
        holds_for(Uplink{"a", "1", "2"}, {"divider"});
        BoardUse board;
        board.id = board.name = "b";
        holds_for(board);
        Module module;
        module.id = module.name = "m";
        holds_for(module);
    }
    void readingsComeBack() {
        holds_for(Surroundings{});
        Vessel vessel;
        holds_for(vessel, {"levels_mm", "volumes_L"}); // one without the other
        holds_for(Funnel{});
        holds_for(Quantity{}, {"kind", "unit"});
        holds_for(SensorChoice{});
        holds_for(Source{}, {"collect", "unit"});
        holds_for(SignOff{"table", 5'000'000, "", true, ""});
        holds_for(BringUp{});
        holds_for(Bands{0.1, 5, 0.5});
        holds_for(AppliedCorrection{});
        holds_for(a_reading(), {"quantity", "named_bands"}); // another kind, which is none; one band alone
        holds_for(ReferenceInstrument{"t", "T", "temperature", "degC", 0.1, 0, "", "", 0, 0}, {"kind", "unit"});
    }
    void calibrationsComeBack() {
        holds_for(CalibrationPoint{});
        holds_for(CalibrationDraft{});
        holds_for(CalibrationRecord{});
        // What older files have.
        Json older = write_described(CalibrationRecord{});
        older["path_key"] = "1234";
        older["correction"]["path_key"] = "";
        VALUE_OF(document, JsonText::parse("record", older.dump()));
        VALUE_OF(record, read_record(JsonReader(document)));
        QCOMPARE(record.correction.path_key, std::string("1234"));
    }
    void sessionsAndRulesComeBack() {
        holds_for(TimedSession{"s", "S", SessionKind::drive, 5'000'000, 9'000'000, {"air"}, ""});
        SessionRule session_rule;
        session_rule.id = session_rule.name = "r";
        holds_for(session_rule);
        WatchCondition outside;
        outside.reading = "air";
        outside.when = WatchWhen::outside;
        outside.value = 1;
        outside.upper = 5;
        holds_for(outside, {"clear", "over_s", "corridor"}); // of other conditions
        WatchCondition by_day;
        by_day.reading = "air";
        by_day.when = WatchWhen::corridor;
        by_day.corridor = {{1, 18, 20}};
        holds_for(by_day, {"when", "clear", "over_s", "corridor"}); // a day 0
        holds_for(CorridorStep{1, 18, 20});
        WatchRule rule;
        rule.id = rule.name = "r";
        rule.conditions = {outside};
        rule.count = 2;
        holds_for(rule, {"marked"}); // it ends before it began
        holds_for(MarkedStretch{5, 9, true});
        holds_for(DayHours{5, 9});
        holds_for(Telling{});
        holds_for(Publishing{});
        holds_for(PagePlan{});
    }
    void whatIsPlainIsNotWritten() {
        QCOMPARE(write_described(LinkPlan{}).size(), std::size_t(4));
        QVERIFY(!write_described(a_reading()).contains("bands"));
    }
    void amongManyThingsEachIsSoundAlone() {
        const auto wrong = [](const char* text) {
            auto document = JsonText::parse("bench", text);
            const auto read = document ? read_bench(JsonReader(*document)) : tl::make_unexpected(document.error());
            return read ? std::string() : read.error().text();
        };
        const std::string twice = wrong(R"({"bench": "b", "boards": [{"id": "a", "name": "A"},
            {"id": "a", "name": "B"}], "readings": []})");
        QVERIFY2(twice.find("used twice") != std::string::npos && twice.find("bench:2") != std::string::npos,
                 twice.c_str());
        QVERIFY(wrong(R"({"bench": "b", "boards": [], "readings": []})").empty());
        QVERIFY(!wrong(R"({"bench": "b", "boards": {}, "readings": []})").empty());
        QVERIFY(!wrong(R"({"bench": "b", "boards": []})").empty());
        QVERIFY(!wrong(R"({"bench": "b", "boards": [], "readings": [], "prices": {"each": {"x": -1}}})").empty());
        std::string many = R"({"bench": "b", "readings": [], "boards": [)";
        for (int i = 0; i < 1001; ++i)
            many += (i ? "," : "") + fmt::format("{{\"id\": \"b{}\", \"name\": \"B\"}}", i);
        QVERIFY(wrong((many + "]}").c_str()).find("at most 1000") != std::string::npos);
    }
    /// The document names every key of every stored struct.
    void theDocumentNamesEveryKey() {
        QFile file(QStringLiteral(COGNITUM_SOURCE_DIR "/docs/file-format.md"));
        QVERIFY(file.open(QIODevice::ReadOnly));
        const QString text = QString::fromUtf8(file.readAll());
        QStringList missing;
        const auto look = [&](const char* of, const std::vector<Key>& keys) {
            for (const Key& key : keys)
                if (!text.contains(QRegularExpression("\\b" + QString::fromStdString(key.name) + "\\b")))
                    missing << QLatin1String(of) + QLatin1String(": ") + QString::fromStdString(key.name);
        };
        look("mqtt", keys_of<MqttPlan>());
        look("http", keys_of<HttpPlan>());
        look("file", keys_of<FilePlan>());
        look("link", keys_of<LinkPlan>());
        look("board", keys_of<BoardUse>());
        look("uplink", keys_of<Uplink>());
        look("button", keys_of<CommandButton>());
        look("module", keys_of<Module>());
        look("connection", keys_of<Connection>());
        look("divider", keys_of<LevelDivider>());
        look("wiring", keys_of<Wiring>());
        look("quantity", keys_of<Quantity>());
        look("around", keys_of<Surroundings>());
        look("vessel", keys_of<Vessel>());
        look("funnel", keys_of<Funnel>());
        look("reading", keys_of<Reading>());
        look("sensor", keys_of<SensorChoice>());
        look("rejected", keys_of<Rejected>());
        look("source", keys_of<Source>());
        look("bring_up", keys_of<BringUp>());
        look("sign", keys_of<SignOff>());
        look("bands", keys_of<Bands>());
        look("correction", keys_of<AppliedCorrection>());
        look("reference", keys_of<ReferenceInstrument>());
        look("session", keys_of<TimedSession>());
        look("session-rule", keys_of<SessionRule>());
        look("watch-rule", keys_of<WatchRule>());
        look("named_bands", keys_of<NamedBand>());
        look("where", keys_of<GeoPlace>());
        look("control", keys_of<LoadControl>());
        look("effect", keys_of<LoadEffect>());
        look("condition", keys_of<WatchCondition>());
        look("corridor", keys_of<CorridorStep>());
        look("marked", keys_of<MarkedStretch>());
        look("hours", keys_of<DayHours>());
        look("telling", keys_of<Telling>());
        look("publishing", keys_of<Publishing>());
        look("page", keys_of<PagePlan>());
        look("point", keys_of<CalibrationPoint>());
        look("draft", keys_of<CalibrationDraft>());
        look("record", keys_of<CalibrationRecord>());
        QVERIFY2(missing.isEmpty(), qPrintable(missing.join('\n')));
    }
};

RUN_TESTS_OF(TestStored)
#include "tst_stored.moc"
