// The question tree: whole, without loops, and what the bench sees answers by itself; every fault of the simulated
// bench is led to a cause that fits it.
#include "core/bringup/facts.h"
#include "support/run_tests.h"
#include "support/simulated_bench.h"

using namespace cognitum;
using namespace cognitum::test;

namespace {

const SymptomTree& tree() {
    static const SymptomTree shipped = load_catalog().guide.symptoms;
    return shipped;
}
const Symptom& symptom(const std::string& id) {
    for (const Symptom& s : tree().symptoms)
        if (s.id == id) return s;
    qFatal("no symptom %s", id.c_str());
}

Result<SymptomTree> read_tree(const std::string& text) {
    const auto document = JsonText::parse("symptoms", text);
    if (!document) return tl::make_unexpected(document.error());
    return read_symptoms(JsonReader(*document));
}

/// Longest way from a symptom to a cause, in questions; by trying them all.
std::size_t longest(const std::string& id) {
    const auto at = tree().questions.find(id);
    if (at == tree().questions.end()) return 0;
    std::size_t most = 0;
    for (const Answer& a : at->second.answers)
        most = std::max(most, longest(a.to));
    return most + 1;
}

const char* const small_tree = R"({
  "symptoms": [{"id": "s", "title": "S", "start": "q1"}],
  "questions": [
    {"id": "q1", "ask": "?", "how": "look", "fact": "f", "answers": [{"say": "a", "to": "c1", "when": "x"}, {"say": "b", "to": "%1"}]},
    {"id": "q2", "ask": "?", "how": "look", "answers": [{"say": "a", "to": "c1"}, {"say": "b", "to": "c2"}]}],
  "causes": [{"id": "c1", "title": "C", "proof": "P", "mend": "M"}, {"id": "c2", "title": "C", "proof": "P", "mend": "M"}]})";

} // namespace

class TestSymptoms : public QObject {
    Q_OBJECT

  private slots:
    void theShippedTreeIsWhole() {
        for (const Error& e : load_catalog().problems)
            QFAIL(e.text().c_str());
        QVERIFY(tree().symptoms.size() >= 12);
        QVERIFY(tree().causes.size() >= 50);
        for (const auto& [id, cause] : tree().causes)
            QVERIFY2(cause.proof.english().size() > 20 && cause.mend.english().size() > 8, id.c_str());
    }
    /// The fewest steps: no symptom asks more than six questions, and each has more than one way out.
    void noWayIsLong() {
        for (const Symptom& s : tree().symptoms) {
            QVERIFY2(longest(s.start) <= 6, (s.id + " asks " + std::to_string(longest(s.start))).c_str());
            QVERIFY2(causes_below(tree(), s.start) >= 2, s.id.c_str());
        }
    }
    /// Every answer narrows: fewer causes are left behind it, or as few as one.
    void everyAnswerNarrows() {
        for (const auto& [id, q] : tree().questions)
            for (const Answer& a : q.answers)
                QVERIFY2(causes_below(tree(), a.to) < causes_below(tree(), id), (id + ": " + a.say).c_str());
    }
    void theIssuesSymptomsAreThere() {
        for (const char* id : {"no-lines", "odd-characters", "always-zero", "jumps", "factor"})
            QVERIFY(!symptom(id).title.empty());
    }

    void badTreesAreRefused_data() {
        QTest::addColumn<QByteArray>("leads_to");
        QTest::addColumn<QByteArray>("says");
        QTest::addRow("sound") << QByteArray("q2") << QByteArray();
        QTest::addRow("nowhere") << QByteArray("q9") << QByteArray("\"q9\" is neither");
        QTest::addRow("loop") << QByteArray("q1") << QByteArray("leads back");
        QTest::addRow("left out") << QByteArray("c2") << QByteArray("nothing leads to the question \"q2\"");
    }
    void badTreesAreRefused() {
        QFETCH(QByteArray, leads_to);
        QFETCH(QByteArray, says);
        const auto result = read_tree(QString::fromLatin1(small_tree).arg(QLatin1String(leads_to)).toStdString());
        QCOMPARE(result.has_value(), says.isEmpty());
        if (!result)
            QVERIFY2(result.error().text().find(says.toStdString()) != std::string::npos,
                     result.error().text().c_str());
    }
    void onlyOneAnswerIsNoQuestion() {
        std::string text = QString::fromLatin1(small_tree).arg(QLatin1String("q2")).toStdString();
        const std::string second = R"(, {"say": "b", "to": "c2"})";
        text.erase(text.find(second), second.size());
        QVERIFY(!read_tree(text));
    }

    void aPersonCountsBeforeTheBench() {
        VALUE_OF(t, read_tree(QString::fromLatin1(small_tree).arg(QLatin1String("q2")).toStdString()));
        const auto asked = walk_symptom(t, t.symptoms[0], {}, {});
        QCOMPARE(asked.next->id, "q1");
        QCOMPARE(asked.causes_left, std::size_t(2));
        const auto seen = walk_symptom(t, t.symptoms[0], {{"f", "x"}}, {});
        QCOMPARE(seen.cause->id, "c1");
        QVERIFY(seen.steps[0].by_itself);
        const auto said = walk_symptom(t, t.symptoms[0], {{"f", "x"}}, {{"q1", 1}});
        QCOMPARE(said.next->id, "q2");
        QVERIFY(!said.steps[0].by_itself);
        // A fact with another value than any answer has is asked.
        QCOMPARE(walk_symptom(t, t.symptoms[0], {{"f", "y"}}, {}).next->id, "q1");
        QCOMPARE(walk_symptom(t, t.symptoms[0], {}, {{"q1", 9}}).next->id, "q1");
    }

    /// Known ratios of what is shown to what is true, worked out by hand.
    void ratiosNameTheirCause_data() {
        QTest::addColumn<double>("shown");
        QTest::addColumn<double>("is_true");
        QTest::addColumn<QByteArray>("cause");
        QTest::addRow("3.3 for 5") << 3.3 << 5.0 << QByteArray("c-reference-33");
        QTest::addRow("5 for 3.3") << 5.0 << 3.3 << QByteArray("c-reference-5");
        QTest::addRow("12 for 10 bits") << 4092.0 << 1023.0 << QByteArray("c-bits");
        QTest::addRow("10 for 12 bits") << 255.75 << 1023.0 << QByteArray("c-bits");
        QTest::addRow("a third too high") << 40.0 << 30.0 << QByteArray("c-divider-third");
        QTest::addRow("not halved") << 1004.0 << 500.0 << QByteArray("c-round-trip");
        QTest::addRow("USB at 4.7 V") << 5.0 * 20 << 4.7 * 20 << QByteArray("c-supply-high");
        QTest::addRow("cm for mm") << 500.0 << 50.0 << QByteArray("c-unit");
        QTest::addRow("right") << 500.0 << 500.0 << QByteArray();
        QTest::addRow("against zero") << 500.0 << 0.0 << QByteArray();
    }
    void ratiosNameTheirCause() {
        QFETCH(double, shown);
        QFETCH(double, is_true);
        QFETCH(QByteArray, cause);
        const Question& q = tree().questions.at("factor-ratio");
        const auto answer = answer_of_ratio(q, shown, is_true);
        QCOMPARE(answer ? q.answers[*answer].to : std::string(), cause.toStdString());
        // Bands of one question do not overlap: a ratio has one answer.
        for (double ratio = 0.01; ratio < 2000; ratio *= 1.003)
            QVERIFY(std::count_if(q.answers.begin(), q.answers.end(),
                                  [&](const Answer& a) { return ratio >= a.from && ratio < a.below; }) <= 1);
    }

    /// A fault of the simulated bench: the bench's own sight picks the symptom, and leads on without a person.
    void theBenchLeadsOn_data() {
        QTest::addColumn<QByteArray>("fault");
        QTest::addColumn<QByteArray>("board");
        QTest::addColumn<QByteArray>("reading");
        QTest::addColumn<QByteArray>("symptom_id");
        QTest::addColumn<QByteArray>("arrives_at");
        const auto row = [](const char* fault, const char* board, const char* reading, const char* symptom,
                            const char* at) {
            QTest::addRow("%s", fault) << QByteArray(fault) << QByteArray(board) << QByteArray(reading)
                                       << QByteArray(symptom) << QByteArray(at);
        };
        row("hum", "gauge", "rock", "jumps", "hum-lift");
        row("unplugged-sensor", "gauge", "hut-air", "jumps", "c-pin-open");
        row("loose-wire", "gauge", "rock", "jumps", "c-loose-plug");
        row("light-leak", "gauge", "pulse", "jumps", "c-light-leak");
        row("wrong-speed", "gauge", "hut-air", "odd-characters", "speed-found");
        row("probe-lost", "shed", "pool-water", "no-number", "which-value");
        row("no-echo", "shed", "tide-pool", "no-number", "echo-board");
        row("brown-out", "gauge", "hut-air", "comes-and-goes", "restart-supply");
        row("whole-degrees", "gauge", "stove-flue", "too-coarse", "c-whole-division");
        row("bouncing-contact", "gauge", "rain", "counts-wrong", "count-one");
    }
    void theBenchLeadsOn() {
        QFETCH(QByteArray, fault);
        QFETCH(QByteArray, board);
        QFETCH(QByteArray, reading);
        QFETCH(QByteArray, symptom_id);
        QFETCH(QByteArray, arrives_at);
        HeardBoard heard(board.toStdString(), reading.toStdString());
        heard.run(300);
        if (fault == "hum") heard.command("interval 5");
        heard.command("fault " + fault.toStdString());
        for (int i = 0; i < 8 && fault == "bouncing-contact"; ++i) {
            heard.command("tip");
            heard.run(11);
        }
        heard.run(fault == "whole-degrees" ? 2400 : fault == "wrong-speed" ? 500 : 90);
        const auto verdicts = heard.verdicts();
        const Symptom* s = symptom_of_verdicts(tree(), verdicts);
        QVERIFY2(s, verdicts.empty() ? "no verdict" : verdicts.front().id.c_str());
        QCOMPARE(s->id, symptom_id.toStdString());
        SeenByBench seen;
        seen.open = true;
        seen.brings_reading = true;
        const auto samples = heard.heard();
        seen.samples = samples;
        seen.verdicts = verdicts;
        seen.stream = heard.stream().recent_facts(heard.now());
        const SymptomFacts facts = symptom_facts(heard.placed(), about_signal(heard.placed()), seen);
        const SymptomWalk walk = walk_symptom(tree(), *s, facts, {});
        QCOMPARE(walk.cause ? walk.cause->id : walk.next->id, arrives_at.toStdString());
    }
    /// A bench that never heard of the board says only what is sure.
    void nothingSeenIsNothingSaid() {
        const Bench bench = small_bench();
        const Placed placed = place(bench, catalog(), bench.readings[0]);
        const SymptomFacts facts = symptom_facts(placed, about_signal(placed), {});
        QCOMPARE(facts.at("link"), "none");
        QVERIFY(!facts.contains("odd") && !facts.contains("jump") && !facts.contains("field"));
        const SymptomWalk walk = walk_symptom(tree(), symptom("no-lines"), facts, {});
        QCOMPARE(walk.cause->id, "c-no-link");
    }
};

RUN_TESTS_OF(TestSymptoms)
#include "tst_symptoms.moc"
