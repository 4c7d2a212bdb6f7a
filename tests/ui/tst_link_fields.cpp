// The fields of each kind of link: what they are shown they say again, and what cannot be is refused with a
// sentence.
#include "support/run_tests.h"
#include "support/support.h"
#include "ui/widgets/link_fields.h"

#include <QComboBox>
#include <QFile>
#include <QLineEdit>
#include <QPushButton>

using namespace cognitum;

namespace {

/// Everything that a person can set, and nothing at its plain value.
std::vector<LinkPlan> plans(const std::string& certificate) {
    LinkPlan port = {.kind = LinkKind::serial, .port = "/dev/ttyACM3", .baud = 9600};
    port.frame = "7E1";
    port.may_reset = true;
    LinkPlan unusual = port;
    unusual.frame = "5N2"; // of a file, not among those that are offered
    LinkPlan broker = LinkPlan::broker("shed.local", 8884);
    broker.mqtt = {.host = "shed.local",
                   .port = 8884,
                   .topics = "shed/# hut/+/level",
                   .status_topic = "shed/status",
                   .gone_word = "gone",
                   .version = 5,
                   .tls = true,
                   .ca_file = certificate,
                   .log_in = true,
                   .command_topic = "shed/do"};
    LinkPlan posts = LinkPlan::posts();
    posts.http = {8080, true, "ab12"};
    LinkPlan file = LinkPlan::growing_file("/tmp/log folder/lines.csv");
    file.file.follow = false;
    file.file.speed = 25; // typed into a bench file, not among those that are offered
    return {port,  unusual, LinkPlan::port_of_unknown_speed("/dev/ttyUSB0"), LinkPlan::simulated_board(77), broker,
            posts, file};
}

} // namespace

class TestLinkFields : public QObject {
    Q_OBJECT

    Theme m_theme;
    QTemporaryDir m_folder;
    std::vector<LinkFields*> m_all;
    template <typename T>
    static T* in(const LinkFields& fields, const char* name) {
        if (T* here = fields.findChild<T*>(QLatin1String(name))) return here;
        return fields.more() ? fields.more()->findChild<T*>(QLatin1String(name)) : nullptr;
    }
    LinkFields& of(LinkKind kind) {
        return **std::find_if(m_all.begin(), m_all.end(), [&](const LinkFields* f) { return f->areFor(kind); });
    }

  private slots:
    void initTestCase() {
        m_theme.apply();
        m_all = make_link_fields(m_theme);
        BoardUse board = test::small_bench().boards[0];
        for (LinkFields* fields : m_all)
            fields->listChoices(&board, test::catalog());
    }
    void cleanupTestCase() {
        for (const LinkFields* fields : m_all) {
            delete fields->more();
            delete fields;
        }
    }
    /// Each kind but none has its fields, once.
    void everyKind() {
        for (const auto& [kind, name] : link_kinds) {
            const auto n = std::count_if(m_all.begin(), m_all.end(), [&](auto* f) { return f->areFor(kind); });
            QCOMPARE(n, kind == LinkKind::none ? 0 : 1);
        }
    }
    void saidAsShown() {
        const QString certificate = m_folder.filePath("ca.pem");
        QFile file(certificate);
        QVERIFY(file.open(QIODevice::WriteOnly));
        for (const LinkPlan& plan : plans(certificate.toStdString())) {
            LinkFields& fields = of(plan.kind);
            fields.showPlan(plan);
            LinkPlan said = plan;
            said.kind = LinkKind::none;
            QCOMPARE(fields.readPlan(said), QString());
            QVERIFY2(said == plan, link_kind_name(plan.kind));
        }
        // What is left empty has its plain value.
        LinkPlan broker = LinkPlan::broker("localhost", 1883);
        broker.mqtt.topics = broker.mqtt.gone_word = "";
        of(LinkKind::mqtt).showPlan(broker);
        LinkPlan said;
        QCOMPARE(of(LinkKind::mqtt).readPlan(said), QString());
        QVERIFY(said == LinkPlan::broker("localhost", 1883));
    }
    /// What was typed is kept when a port comes or goes, and a simulated board is chosen by its name.
    void portsComeAndGo() {
        LinkFields& fields = of(LinkKind::serial);
        auto* port = in<QComboBox>(fields, "linkPort");
        port->setEditText("/dev/mine");
        BoardUse board = test::small_bench().boards[0];
        fields.listChoices(&board, test::catalog());
        QCOMPARE(port->currentText(), QStringLiteral("/dev/mine"));
        const auto choose = [&](const char* id) {
            port->setCurrentIndex(port->findData(QLatin1String(id)));
            LinkPlan plan;
            return fields.readPlan(plan).isEmpty() ? plan : LinkPlan{};
        };
        const LinkPlan simulated = choose("simulated:"), program = choose("simulated:program");
        QVERIFY(simulated.kind == LinkKind::simulated && !simulated.processor && simulated.seed != 0);
        QVERIFY(program.runs_the_program() && program.port.empty());
        board.card = "board-3v3-12bit-wifi"; // of which there is no simulated processor
        fields.listChoices(&board, test::catalog());
        QCOMPARE(port->findData(QStringLiteral("simulated:program")), -1);
    }
    void refused_data() {
        QTest::addColumn<int>("kind");
        QTest::addColumn<QString>("field");
        QTest::addColumn<QString>("text");
        const auto row = [](const char* name, LinkKind kind, const char* field, const char* text) {
            QTest::newRow(name) << static_cast<int>(kind) << QString::fromLatin1(field)
                                << QString::fromLatin1(text);
        };
        row("no port", LinkKind::serial, "linkPort", " ");
        row("no broker", LinkKind::mqtt, "linkBroker", "");
        row("a broker's port of words", LinkKind::mqtt, "linkBroker", "shed:often");
        row("a broker's port above all", LinkKind::mqtt, "linkBroker", "shed:65536");
        row("commands to many topics", LinkKind::mqtt, "linkCommandTopic", "shed/#");
        row("commands to any topic", LinkKind::mqtt, "linkCommandTopic", "shed/+/do");
        row("no certificate there", LinkKind::mqtt, "linkCaFile", "/nowhere/ca.pem");
        row("no port to listen on", LinkKind::http, "linkHttpPort", "0");
        row("a port above all", LinkKind::http, "linkHttpPort", "65536");
        row("a port of words", LinkKind::http, "linkHttpPort", "many");
        row("no file", LinkKind::file, "linkPath", "  ");
    }
    void refused() {
        QFETCH(int, kind);
        QFETCH(QString, field);
        QFETCH(QString, text);
        LinkFields& fields = of(static_cast<LinkKind>(kind));
        LinkPlan plan;
        plan.kind = static_cast<LinkKind>(kind);
        fields.showPlan(plan);
        const QByteArray name = field.toLatin1();
        if (auto* box = in<QComboBox>(fields, name.constData()))
            box->setEditText(text);
        else
            in<QLineEdit>(fields, name.constData())->setText(text);
        LinkPlan said;
        QVERIFY(!fields.readPlan(said).isEmpty());
        QVERIFY(said.kind == LinkKind::none); // nothing half-done
    }
    /// From other computers only with a token.
    void wideWithoutAToken() {
        LinkFields& fields = of(LinkKind::http);
        LinkPlan plan = LinkPlan::posts();
        plan.http.wide = true;
        fields.showPlan(plan);
        LinkPlan said;
        QVERIFY(fields.readPlan(said).contains("token"));
        in<QPushButton>(fields, "linkToken")->click();
        QCOMPARE(fields.readPlan(said), QString());
        QVERIFY(said.http.wide && said.http.token_print.size() == 64); // SHA-256, hexadecimal
    }
};

RUN_TESTS_OF(TestLinkFields)
#include "tst_link_fields.moc"
