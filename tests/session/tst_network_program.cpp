// The written programs of network boards, compiled on this computer with a network that is this computer's: through
// a real broker and by real posts into our decoder, with a broker that is away for a while.
#include "core/decode/stream.h"
#include "core/program/program.h"
#include "link/http_receiver.h"
#include "link/make_link.h"
#include "link/mqtt_link.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <QDir>
#include <QElapsedTimer>
#include <QProcess>
#include <QStandardPaths>

using namespace cognitum;

namespace {

constexpr double speed = 8; ///< of the board's clock

/// A written program that runs on this computer.
struct HostBoard {
    QTemporaryDir folder;
    QProcess process;
    QByteArray pins; ///< what it did to them

    ~HostBoard() {
        process.kill();
        process.waitForFinished(3000);
    }
    /// Empty, or what the compiler says. `secrets`: names in its file and what they get.
    QByteArray compile(const Bench& bench, const char* board, const std::map<QByteArray, QByteArray>& secrets) {
        const auto written = write_program(bench, test::catalog(), board);
        if (!written) return QByteArray::fromStdString(written.error().text());
        for (const ProgramFile& file : written->files) {
            QByteArray text = QByteArray::fromStdString(file.text);
            for (const auto& [name, value] : secrets) {
                const auto at = file.yours ? text.indexOf(name) : -1;
                if (at < 0) continue;
                const auto from = text.indexOf("= ", at) + 2;
                text.replace(from, text.indexOf(';', from) - from, value);
            }
            QFile out(folder.filePath(QFileInfo(QString::fromStdString(file.name)).fileName()));
            if (!out.open(QIODevice::WriteOnly) || out.write(text) < 0) return "it cannot be written";
        }
        const QString host = QStringLiteral(COGNITUM_SOURCE_DIR "/tests/support/host_board/");
        const QString source = QDir(folder.path()).entryList({QStringLiteral("*.ino")}).value(0);
        QProcess compiler;
        compiler.setWorkingDirectory(folder.path());
        compiler.start(QStringLiteral("g++"),
                       {QStringLiteral("-std=c++17"), QStringLiteral("-Wall"), QStringLiteral("-Wextra"),
                        QStringLiteral("-Werror"), QStringLiteral("-I") + host, QStringLiteral("-I."),
                        QStringLiteral("-include"), QStringLiteral("host_core.h"), QStringLiteral("-x"),
                        QStringLiteral("c++"), source, host + QStringLiteral("host_core.cpp"), QStringLiteral("-o"),
                        QStringLiteral("board")});
        compiler.waitForFinished(120000);
        return compiler.exitCode() == 0 ? QByteArray() : compiler.readAllStandardError();
    }
    void start() {
        QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
        environment.insert(QStringLiteral("HOST_BOARD_SPEED"), QString::number(speed));
        environment.insert(QStringLiteral("HOST_BOARD_AWAY"), folder.filePath(QStringLiteral("away")));
        process.setProcessEnvironment(environment);
        QObject::connect(&process, &QProcess::readyReadStandardError, &process,
                         [this] { pins += process.readAllStandardError(); });
        process.start(folder.filePath(QStringLiteral("board")), {});
        process.waitForStarted(5000);
    }
};

/// What arrives through a link, read as a board's stream on a clock as fast as the board's.
class Hearing : public QObject {
  public:
    explicit Hearing(Link& link) {
        m_clock.start();
        connect(&link, &Link::stateChanged, this, [this](LinkState s, const QString& r) {
            state = s;
            reason = r;
        });
        connect(&link, &Link::message, this, [this](const LinkMessage& m) { take(m); });
    }
    [[nodiscard]] TimeUs now() const { return static_cast<TimeUs>(speed * 1e3) * m_clock.elapsed() + second_us; }
    [[nodiscard]] bool said(const std::string& words) const {
        return std::any_of(comments.begin(), comments.end(),
                           [&](const std::string& c) { return c.find(words) != std::string::npos; });
    }

    LinkState state = LinkState::closed;
    QString reason;
    Stream stream;
    std::vector<std::string> comments;
    struct Taken {
        TimeUs time;
        double count, late_ms;
        /// It waited for the network, and not only for the line before it.
        [[nodiscard]] bool late() const { return late_ms > 5000; }
    };
    std::vector<Taken> taken; ///< of the field that counts tenths of a second
    std::string field;

  private:
    void take(const LinkMessage& m) {
        const std::string payload = m.payload.toStdString();
        for (const Stream::Row& row : stream.feed_message(payload, "", now()))
            if (const auto count = stream.records().value(row.row, stream.decoder().field(field)))
                taken.push_back({row.time, *count,
                                 stream.records().value(row.row, stream.decoder().field("late_ms")).value_or(0)});
        for (std::string& c : stream.decoder().take_comments())
            comments.push_back(std::move(c));
    }
    QElapsedTimer m_clock;
};

Bench whelk_point() {
    return *load_bench_json(data_folder() + "/demo/whelk-point.json");
}

} // namespace

class TestNetworkProgram : public QObject {
    Q_OBJECT

  private slots:
    /// Nothing is lost while its network is away, and each number keeps the time at which it was measured.
    void throughABroker() {
        LocalBroker broker;
        const int port = broker.port();
        QVERIFY2(port > 0, qPrintable(broker.trouble()));
        const Bench bench = whelk_point();
        HostBoard board;
        const QByteArray trouble = board.compile(
            bench, "shed", {{"BROKER[]", "\"127.0.0.1\""}, {"BROKER_PORT", QByteArray::number(port)}});
        QVERIFY2(trouble.isEmpty(), trouble.constData());
        LinkPlan plan = bench.board("shed")->link;
        plan.mqtt.host = "127.0.0.1";
        plan.mqtt.port = port;
        MqttLink link(plan);
        Hearing heard(link);
        heard.field = "ec";
        link.start();
        QTRY_COMPARE_WITH_TIMEOUT(heard.state, LinkState::open, 10000);
        board.start();
        const std::string print = program_fingerprint(bench, test::catalog(), *bench.board("shed"));
        QTRY_VERIFY_WITH_TIMEOUT(heard.said("board=shed plan=" + print), 20000);
        QTRY_VERIFY_WITH_TIMEOUT(heard.taken.size() >= 2, 20000);
        link.send("interval 10000\n");
        QTRY_VERIFY_WITH_TIMEOUT(heard.said("ok interval 10000"), 20000);
        QFile away(board.folder.filePath(QStringLiteral("away"))); // its network goes
        QVERIFY(away.open(QIODevice::WriteOnly));
        QTRY_VERIFY_WITH_TIMEOUT(heard.reason.contains(QStringLiteral("has left")), 20000); // its will
        const TimeUs from = heard.now();
        const std::size_t before = heard.taken.size();
        QTRY_VERIFY_WITH_TIMEOUT(heard.now() >= from + 60 * second_us, 20000); // of the board's clock
        QCOMPARE(heard.taken.size(), before);
        QVERIFY(away.remove());
        const auto waited = [&] {
            return std::count_if(heard.taken.begin(), heard.taken.end(), [](const auto& t) { return t.late(); });
        };
        QTRY_VERIFY_WITH_TIMEOUT(waited() >= 4 && !heard.taken.back().late(), 30000);
        QCOMPARE(heard.stream.facts().lost, std::uint64_t(0));
        QCOMPARE(heard.stream.facts().restarts, std::uint64_t(0));
        // The number counts tenths of a second of the board's clock: all samples lie on one line.
        const auto& first = heard.taken.front();
        for (const auto& t : heard.taken)
            CLOSE(seconds(t.time - first.time), (t.count - first.count) / 10, 3.0);
        QTRY_VERIFY_WITH_TIMEOUT(heard.reason.isEmpty(), 20000); // it said that it is there again
    }
    /// Commands come back as answers to posts, and a load goes off by itself.
    void byPosts() {
        Bench bench = whelk_point();
        auto receiver = std::make_shared<HttpReceiver>(0, false);
        LinkPlan plan;
        plan.kind = LinkKind::http;
        HttpLink link(plan, "pump-house", receiver);
        Hearing heard(link);
        heard.field = "seq";
        link.start();
        QCOMPARE(heard.state, LinkState::open);
        HostBoard board;
        const QByteArray trouble = board.compile(
            bench, "pump-house",
            {{"COMPUTER[]", "\"127.0.0.1\""}, {"COMPUTER_PORT", QByteArray::number(receiver->port())}});
        QVERIFY2(trouble.isEmpty(), trouble.constData());
        board.start();
        QTRY_VERIFY_WITH_TIMEOUT(heard.said("board=pump_house plan="), 20000);
        link.send("interval 1000\n");
        QTRY_VERIFY_WITH_TIMEOUT(heard.said("ok interval 1000"), 40000);
        QTRY_VERIFY_WITH_TIMEOUT(heard.taken.size() >= 5, 20000);
        QCOMPARE(heard.stream.facts().lost, std::uint64_t(0));
        QVERIFY(board.pins.contains("pin 16 0\n"));
        QVERIFY(link.tellState(QStringLiteral("jetty-lamp"), "load jetty-lamp on 4", {}));
        QTRY_VERIFY_WITH_TIMEOUT(board.pins.contains("pin 16 1\n"), 20000);
        const auto on = board.pins.indexOf("pin 16 1\n");
        QTRY_VERIFY_WITH_TIMEOUT(board.pins.indexOf("pin 16 0\n", on) > on, 20000);
        QTRY_VERIFY_WITH_TIMEOUT(heard.said("load jetty-lamp off: it was not told again"), 20000);
    }
};

RUN_TESTS_OF(TestNetworkProgram)
#include "tst_network_program.moc"
