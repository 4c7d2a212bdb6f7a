// What arrives before anybody has said what it is: over real links, each field with its proposal; what a person
// takes becomes a reading whose numbers come.
#include "session/live/arriving.h"
#include "support/pseudo_terminal.h"
#include "support/run_tests.h"
#include "support/support.h"

using namespace cognitum;

namespace {

SessionOptions fast() {
    SessionOptions options;
    options.simulation_arguments = {"--interval", "50", "--response", "0.1"};
    return options;
}

LinkPlan simulated() {
    LinkPlan link;
    link.kind = LinkKind::simulated;
    link.seed = 1;
    return link;
}

} // namespace

class TestArriving : public QObject {
    Q_OBJECT

    QTemporaryDir m_folder;
    static const ArrivedField* find(const std::vector<ArrivingBoard>& boards, const char* field) {
        for (const ArrivingBoard& board : boards)
            for (const ArrivedField& f : board.fields)
                if (f.name == field) return &f;
        return nullptr;
    }

  private slots:
    void initTestCase() { QCoreApplication::setApplicationName("cognitum-test"); }

    /// A board that nobody described: its counter and its clock are told from what it measures, its converter from
    /// what is finished; one field is taken, and the reading lives from the bench's own link.
    void fromALinkToAReading() {
        Session session(fast());
        QVERIFY(session.createBench(m_folder.filePath("one.cognitum"), "Hut"));
        Arrivals& arrivals = session.arrivals();
        arrivals.listenTo(simulated(), "simulated board");
        std::vector<ArrivingBoard> boards;
        const auto enough = [&] {
            boards = arrivals.look(session.worker().live());
            const ArrivedField* air = find(boards, "A2");
            return air && air->samples.size() > 20;
        };
        QTRY_VERIFY_WITH_TIMEOUT(enough(), 20000);
        QCOMPARE(boards.size(), std::size_t(1));
        QVERIFY(session.bench().boards.empty()); // only listened to
        QCOMPARE(find(boards, "seq")->proposal.role, FieldRole::counter);
        QCOMPARE(find(boards, "ms")->proposal.role, FieldRole::clock);
        QCOMPARE(find(boards, "A2")->proposal.role, FieldRole::converter);
        QCOMPARE(find(boards, "A2")->proposal.bits, 10);
        QCOMPARE(find(boards, "tips")->proposal.role, FieldRole::pulses);
        QCOMPARE(boards[0].card, std::string("board-5v-8bit-6-analog"));
        const std::string flue = find(boards, "flue") ? "flue" : "flue_degC";
        QCOMPARE(find(boards, flue.c_str())->proposal.kind, std::string("temperature"));

        const std::string id = arrivals.take(boards[0].id, "A2", boards[0].card, "temperature");
        QVERIFY(session.bench().reading(id));
        const Reading r = *session.bench().reading(id);
        QVERIFY(r.source.field == "A2" && r.quantity.kind == "temperature" && r.wiring.pin() == "A2");
        QCOMPARE(r.name, std::string("Temperature"));
        QCOMPARE(session.bench().boards.size(), std::size_t(1));
        QVERIFY(r.quantity.interval_s < 0.3); // as often as it comes
        QTRY_VERIFY_WITH_TIMEOUT(session.worker().live().readings[id].points.size() > 5, 20000);
        const LiveReading raw_only = session.worker().live().readings[id];
        QVERIFY(!raw_only.value.ok() && std::isfinite(raw_only.raw)); // 141 counts are no 141 °C
        QVERIFY2(raw_only.cause.find("choose the part") != std::string::npos, raw_only.cause.c_str());
        // Now it is one of the bench's boards, and its other fields are offered still.
        QTRY_VERIFY_WITH_TIMEOUT((boards = arrivals.look(session.worker().live()), find(boards, "tips")), 20000);
        QCOMPARE(boards.size(), std::size_t(1));
        QCOMPARE(boards[0].board, r.wiring.board);
        QVERIFY(!find(boards, "A2"));
        const std::string rain = arrivals.take(boards[0].id, "tips", "", "rain");
        QCOMPARE(session.bench().reading(rain)->wiring.board, r.wiring.board);
        QCOMPARE(session.bench().boards.size(), std::size_t(1));
        session.undoStack()->undo();
        session.undoStack()->undo();
        QVERIFY(session.bench().boards.empty() && session.bench().readings.empty());
        arrivals.end();
        QVERIFY(arrivals.look(session.worker().live()).empty());
    }
    /// A serial port whose speed nobody knows; a finished value in another unit than a reading has at first.
    void aPortAndAFinishedValue() {
        Session session;
        QVERIFY(session.createBench(m_folder.filePath("two.cognitum"), "Pool"));
        const QString path = m_folder.filePath("tty");
        test::PseudoTerminal cable(path);
        QVERIFY(cable.ok());
        LinkPlan link;
        link.kind = LinkKind::serial;
        link.port = path.toStdString();
        Arrivals& arrivals = session.arrivals();
        arrivals.listenTo(link, path);
        std::vector<ArrivingBoard> boards;
        int n = 0;
        const auto enough = [&] {
            cable.send(QByteArray("pool_temp=") + QByteArray::number(70.5 + 0.1 * (n % 3)) +
                       " F n=" + QByteArray::number(n) + "\n");
            ++n;
            boards = arrivals.look(session.worker().live());
            return find(boards, "pool_temp") && find(boards, "pool_temp")->samples.size() > 3;
        };
        QTRY_VERIFY_WITH_TIMEOUT(enough(), 20000);
        QVERIFY2(cable.received().isEmpty(), "something was sent to a board that nobody described");
        const FieldProposal& p = find(boards, "pool_temp")->proposal;
        QCOMPARE(p.unit, std::string("degF"));
        const std::string id = arrivals.take(boards[0].id, "pool_temp", boards[0].card, p.kind);
        const Reading& r = *session.bench().reading(id);
        QCOMPARE(r.quantity.unit, std::string("degF"));
        CLOSE(r.quantity.low, 14, 1e-9); // −10 °C
        QCOMPARE(session.bench().boards[0].link.port, path.toStdString());
        const auto value = [&] {
            cable.send("pool_temp=71.5 F n=" + QByteArray::number(++n) + "\n");
            const Live live = session.worker().live();
            const auto known = live.readings.find(id);
            return known != live.readings.end() && known->second.value.ok() && known->second.value.number == 71.5;
        };
        QTRY_VERIFY_WITH_TIMEOUT(value(), 20000);
    }
    /// What cannot be taken: a bench that is closed, a field that is gone.
    void nothingIsMadeUp() {
        Session session;
        QVERIFY(session.arrivals().take("arriving-1", "A0", "", "temperature").empty());
        QVERIFY(session.createBench(m_folder.filePath("three.cognitum"), "Nothing"));
        session.arrivals().begin();
        QVERIFY(session.arrivals().take("arriving-1", "A0", "", "temperature").empty());
        QVERIFY(session.bench().boards.empty());
        QVERIFY(!session.undoStack()->canUndo());
    }
};

RUN_TESTS_OF(TestArriving)
#include "tst_arriving.moc"
