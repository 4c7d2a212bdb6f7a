// The page for the local network: off by default, this computer alone until a token is made, nothing of health,
// nothing that a stranger's text could do; and the rows of the log sheet that it is made of.
#include "link/listening.h"
#include "session/publish/station_page.h"
#include "support/clocked_session.h"
#include "support/run_tests.h"

#include <QElapsedTimer>
#include <QImage>
#include <QProcess>
#include <QRegularExpression>
#include <QStandardPaths>
#include <QTcpServer>
#include <QTcpSocket>
#include <set>

using namespace cognitum;
using namespace cognitum::test;

namespace {

int a_free_port() {
    QTcpServer server;
    server.listen(QHostAddress::LocalHost);
    return server.serverPort();
}

struct WebAnswer {
    int status = 0;
    QByteArray body;
};

/// As a browser asks; 0: nobody answers.
WebAnswer ask(int port, const QByteArray& path, const QByteArray& more = {}, const QByteArray& method = "GET") {
    QTcpSocket socket;
    socket.connectToHost(QStringLiteral("127.0.0.1"), static_cast<quint16>(port));
    if (!socket.waitForConnected(3000)) return {};
    socket.write(method + " " + path + " HTTP/1.1\r\nHost: 127.0.0.1:" + QByteArray::number(port) +
                 "\r\nConnection: close\r\n" + more + "\r\n");
    QByteArray all;
    while (socket.waitForReadyRead(3000))
        all += socket.readAll();
    all += socket.readAll();
    return {all.mid(9, 3).toInt(), all.mid(all.indexOf("\r\n\r\n") + 4)};
}

class Served : public ClockedSession {
  public:
    Served() {
        qputenv("XDG_DATA_HOME", folder.path().toUtf8()); // what was allowed here
        open_small_bench(*this);
        lines(5, 140);
        settle();
    }
    void serve() {
        session.edit("Page", [this](Bench& bench) {
            bench.page.on = true;
            bench.page.port = port;
        });
    }
    int port = a_free_port();
};

} // namespace

class TestStationPage : public QObject {
    Q_OBJECT

  private slots:
    void offByDefault() {
        Served s;
        QCOMPARE(ask(s.port, "/").status, 0);
        QVERIFY(s.session.stationPage().state().isEmpty());
    }
    /// On a phone's width: a stranger's text is text, the page fits, and needs nothing from elsewhere.
    void inARealBrowser() {
        const QString browser = QStandardPaths::findExecutable("chromium");
        if (browser.isEmpty()) QSKIP("no browser here; tools/install installs one");
        Served s;
        s.session.editReading("air", "Name", [](Reading& r) {
            r.name = "Air <script>document.title='gone'</script> behind the pump house, two metres up";
        });
        s.serve();
        QTRY_COMPARE(ask(s.port, "/").status, 200);
        const QString url = QStringLiteral("http://127.0.0.1:%1/").arg(s.port);
        const auto run = [&](const QStringList& arguments) {
            QProcess process;
            process.start(browser, QStringList{"--headless", "--no-sandbox", "--disable-gpu",
                                               "--user-data-dir=" + s.folder.filePath("browser"),
                                               "--window-size=390,844", "--hide-scrollbars"} +
                                       arguments + QStringList{url});
            QElapsedTimer timer;
            timer.start();
            while (process.state() != QProcess::NotRunning && timer.elapsed() < 60000)
                QCoreApplication::processEvents(QEventLoop::AllEvents, 50); // the page is served in this thread
            process.kill();
            process.waitForFinished();
            return process.readAllStandardOutput();
        };
        const QByteArray dom = run({"--dump-dom"});
        QVERIFY2(dom.contains("±") && dom.contains("&lt;script&gt;"), dom.left(400).constData());
        QVERIFY(!dom.contains("<title>gone"));
        const QString picture = s.folder.filePath("page.png");
        run({"--screenshot=" + picture});
        const QImage seen(picture);
        QVERIFY(!seen.isNull());
        std::set<QRgb> colours, at_the_edge;
        for (int y = 0; y < seen.height(); ++y) {
            for (int x = 0; x < seen.width(); x += 3)
                colours.insert(seen.pixel(x, y));
            at_the_edge.insert(seen.pixel(seen.width() - 1, y));
        }
        QVERIFY(colours.size() > 10);     // something is written
        QVERIFY(at_the_edge.size() <= 2); // and nothing runs over the edge
    }
    void oneHtmlPageThatStandsAlone() {
        Served s;
        s.session.editReading("air", "Name", [](Reading& r) { r.name = "Air <script>alert(1)</script>"; });
        s.serve();
        const WebAnswer page = ask(s.port, "/");
        QCOMPARE(page.status, 200);
        QVERIFY(page.body.startsWith("<!doctype html>"));
        QVERIFY(!page.body.contains("<script") && page.body.contains("&lt;script&gt;"));
        QVERIFY(!page.body.contains("src=") && !page.body.contains("href="));
        QVERIFY(page.body.contains("viewport") && page.body.contains("default-src 'none'"));
        QVERIFY2(page.body.contains("±"), page.body.constData());
        const QRegularExpression age("(&lt; 1|\\b[0-9]+) s\\b");
        QVERIFY(QString::fromUtf8(page.body).contains(age));
        QVERIFY(s.session.stationPage().state().contains("This computer alone"));
    }
    void aValueThatIsGoneIsNoNumber() {
        Served s;
        s.pass(3600);
        const QByteArray html = station_html(s.session, s.session.worker().live(), {});
        QVERIFY2(html.contains("—") && html.contains("silent"), html.constData());
    }
    void whatNobodyMayDo() {
        Served s;
        s.serve();
        QCOMPARE(ask(s.port, "/", "Content-Length: 0\r\n", "POST").status, 405);
        QCOMPARE(ask(s.port, "/", {}, "DELETE").status, 405);
        QCOMPARE(ask(s.port, "/../../etc/passwd").status, 404);
        QCOMPARE(ask(s.port, "/", "Origin: http://elsewhere.example\r\n").status, 403);
        QCOMPARE(ask(s.port, "/?token=guess").status, 200); // none was made
    }
    void theNetworkNeedsAToken() {
        Served s;
        s.serve();
        const QString token = s.session.stationPage().makeToken();
        QVERIFY(token.size() >= 32);
        QCOMPARE(ask(s.port, "/").status, 401);
        QCOMPARE(ask(s.port, "/?token=guess").status, 401);
        QCOMPARE(ask(s.port, "/?token=" + token.toUtf8()).status, 200);
        QVERIFY(s.session.stationPage().state().contains("on this network"));
        s.session.savePlan();
        QFile file(s.session.path());
        QVERIFY(file.open(QIODevice::ReadOnly));
        QVERIFY(!file.readAll().contains(token.toUtf8())); // only its fingerprint
        s.session.stationPage().forgetToken();
        QCOMPARE(ask(s.port, "/").status, 200);
        s.session.edit("Off", [](Bench& bench) { bench.page.on = false; });
        QCOMPARE(ask(s.port, "/").status, 0);
    }
    /// A bench file of somebody else asks for the whole network: it gets this computer.
    void aStrangersBenchOpensNothing() {
        Served s;
        s.session.edit("Page", [&](Bench& bench) {
            bench.page.on = true;
            bench.page.port = s.port;
            bench.page.token_print = std::string(64, 'a');
        });
        QVERIFY2(s.session.stationPage().state().contains("This computer alone"),
                 qPrintable(s.session.stationPage().state()));
        QCOMPARE(ask(s.port, "/").status, 401);
    }
    void aPortThatIsTaken() {
        Served s;
        QTcpServer other;
        QVERIFY(other.listen(QHostAddress::LocalHost, static_cast<quint16>(s.port)));
        s.serve();
        QVERIFY(s.session.stationPage().state().contains("is taken"));
    }
    void nothingOfHealth() {
        Served s;
        s.session.edit("Pulse", [](Bench& bench) {
            Reading pulse = bench.readings[0];
            pulse.id = "pulse";
            pulse.name = "Swimmer’s pulse";
            pulse.quantity.kind = "pulse-rate";
            pulse.quantity.unit = "/min";
            bench.readings.push_back(pulse);
        });
        s.settle();
        QVERIFY(!station_html(s.session, s.session.worker().live(), {}).contains("Swimmer"));
    }

    void theSheetPutsFirstWhatNeedsALook() {
        ClockedSession s;
        QVERIFY(open_demo(s.session, s.folder.filePath("demo.cognitum"), DemoHistory::sixty_days));
        s.settle();
        const Live live = s.session.worker().live();
        std::map<std::string, PathState> states;
        for (const Reading& r : s.session.bench().readings)
            states[r.id] = path_state(s.session, r, live, {});
        const auto state_of = [&](const std::string& id) -> const PathState& { return states[id]; };
        auto file = bench_file(s.session, Access::read);
        VALUE_OF(record, overview_record(*file, s.session.bench(), {}, s.now));
        const auto rows = overview_rows(s.session, live, state_of, record);
        std::size_t readings = 0;
        bool calm = false;
        for (const OverviewRow& row : rows) {
            readings += row.readings.size();
            QVERIFY(!(calm && row.needs_look));
            calm = calm || !row.needs_look;
            QCOMPARE(row.needs_look, !row.why.isEmpty());
            QCOMPARE(row.values.size(), row.readings.size());
        }
        QCOMPARE(readings, s.session.bench().readings.size());
        const auto beds =
            std::find_if(rows.begin(), rows.end(), [](const OverviewRow& r) { return r.readings.size() == 4; });
        QVERIFY(beds != rows.end());
        QCOMPARE(beds->name, QStringLiteral("Samphire bed 1 to 4"));
        const auto cistern =
            std::find_if(rows.begin(), rows.end(), [](const OverviewRow& r) { return r.readings[0] == "cistern"; });
        QVERIFY2(cistern->follows.contains("in "), qPrintable(cistern->follows));
        // A minute later only what came since is read, with the same result.
        VALUE_OF(later, overview_record(*file, s.session.bench(), record, s.now + minute_us));
        QCOMPARE(later.hours.at("cistern").finish().lines, record.hours.at("cistern").finish().lines);
        // Hidden and grouped.
        s.session.edit("Sheet", [](Bench& bench) {
            bench.reading("rock")->hidden = true;
            bench.reading("rain")->group = "Weather";
        });
        const auto after = overview_rows(s.session, live, state_of, record);
        QCOMPARE(after.size(), rows.size() - 1);
    }
    void theOrderOfReadingsIsAStepOfUndo() {
        ClockedSession s;
        QVERIFY(open_demo(s.session, s.folder.filePath("demo.cognitum")));
        const auto order = [&] {
            QStringList out;
            for (const Reading& r : s.session.bench().readings)
                out << QString::fromStdString(r.id);
            return out;
        };
        const QStringList before = order();
        s.session.edit("Move", [](Bench& bench) { std::swap(bench.readings[0], bench.readings[2]); });
        QCOMPARE(order()[0], before[2]);
        s.session.savePlan();
        QCOMPARE(QString::fromStdString(bench_file(s.session)->load_plan()->readings[0].id), before[2]);
        s.session.undoStack()->undo();
        QCOMPARE(order(), before);
        s.session.undoStack()->redo();
        QCOMPARE(order()[2], before[0]);
    }
};

RUN_TESTS_OF(TestStationPage)
#include "tst_station_page.moc"
