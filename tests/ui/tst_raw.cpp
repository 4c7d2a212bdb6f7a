// The Raw stop and its links, driven as a person would: lines, verdicts, words to the board, values by hand.
#include "core/bench/stored.h"
#include "support/run_tests.h"
#include "support/test_window.h"
#include "ui/stops/raw/raw_lines.h"
#include "ui/stops/raw/raw_page.h"

#include <QAbstractItemModelTester>
#include <QCheckBox>
#include <QFile>
#include <QListView>

using namespace cognitum;
using test::TestWindow;

class TestRaw : public QObject {
    Q_OBJECT

  private slots:
    void initTestCase() { QCoreApplication::setApplicationName("cognitum-test"); }

    void rawShowsLinesFiguresAndFaults() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(3);
        for (int i = 0; i < 40; ++i)
            w.clocked.lines(1, 140 + i % 3, "A2");
        w.refresh();
        QAbstractItemModel* lines = w.find<QListView>("rawLines")->model();
        const QAbstractItemModelTester tester(lines);
        const auto last = [&] { return lines->data(lines->index(lines->rowCount() - 1, 0)).toString(); };
        QCOMPARE(lines->rowCount(), 40); // the header brings no value
        QCOMPARE(last(), QStringLiteral("39,40000,140"));
        QVERIFY2(w.text("rawHealth").startsWith(QStringLiteral("●")), qPrintable(w.text("rawHealth")));
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_P); // pause
        w.lines(5, 141);
        QCOMPARE(lines->rowCount(), 40);
        QVERIFY2(w.text("linesNote").contains("5 wait"), qPrintable(w.text("linesNote")));
        QTest::keyClick(QApplication::focusWidget(), Qt::Key_P);
        w.refresh();
        QCOMPARE(lines->rowCount(), 45);  // nothing was lost
        w.clocked.send("what is this\n"); // set aside, and shown
        w.refresh();
        QCOMPARE(last(), QStringLiteral("what is this"));
        w.find<QLineEdit>("linesSearch")->setText("43000");
        QCOMPARE(lines->rowCount(), 1);
        w.find<QLineEdit>("linesSearch")->clear();
        w.lines(30, 1023);
        QVERIFY2(w.text("rawHealth").contains("Clipped"), qPrintable(w.text("rawHealth")));
        QVERIFY(!w.text("rawNextTest").isEmpty());
        QCOMPARE(w.stop(4).mark, Mark::bad);
    }
    void linesAreExported() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(3);
        w.lines(12, 140);
        const QString path = w.clocked.folder.filePath("lines.txt");
        w.window.context().askSavePath = [&](QWidget*, const QString&, const QString&, const QString&) {
            return path;
        };
        w.click("linesExport");
        QFile file(path);
        QVERIFY(file.open(QIODevice::ReadOnly));
        const QByteArray text = file.readAll();
        QCOMPARE(text.count('\n'), 13);
        QVERIFY2(text.startsWith("2026-11-25T") && text.contains("Z 11,12000,140\n"), text.constData());
    }
    void theReadingsOwnNumberStandsOut() {
        const auto at = [](std::string_view text, std::string_view field, int column) {
            const TextSpan span = value_span(text, field, column);
            return std::string(text.substr(span.at, span.length));
        };
        QCOMPARE(at("12,4000,512,140", "A2", 3), std::string("140"));
        QCOMPARE(at("ms=12 A0=512", "A0", 7), std::string("512"));
        QCOMPARE(at("shed/pool {\"seq\":1,\"echo_us\":1432}", "echo_us", -1), std::string("1432"));
        QCOMPARE(at("{\"beds\":{\"A0\":13541,\"A1\":2}}", "beds.A1", -1), std::string("2"));
        QCOMPARE(at("shed/jetty 1", "jetty", -1), std::string("1"));
        QCOMPARE(at("XA0=7 A0=8", "A0", -1), std::string("8"));
        QCOMPARE(at("nothing here", "A0", -1), std::string());
    }
    void aValueReadByHandCounts() {
        TestWindow w;
        w.openDemo();
        w.window.showStop(3);
        w.type("handValue", "12.5");
        QVERIFY2(w.text("handNote").contains("doubt"),
                 qPrintable(w.text("handNote"))); // a value without its doubt is none
        w.find<QLineEdit>("handDoubt")->setText("0.5");
        w.type("handValue", "12.5");
        const LiveReading now = w.clocked.session.worker().live().readings.at("hut-air");
        QVERIFY(now.by_hand);
        CLOSE(now.value.number, 12.5, 0);
        CLOSE(now.hand_doubt, 0.5, 0);
        QVERIFY(now.points.empty()); // no raw signal, and no failed one
        const PathState& state = w.window.context().state("hut-air");
        QCOMPARE(test::plain(state.value.toStdString()), std::string("12.5 °C"));
        QCOMPARE(state.stops[3].text, QStringLiteral("by hand"));
        const auto log = test::entries(w.clocked.session);
        QVERIFY(std::any_of(log.begin(), log.end(), [](const LogEntry& e) { return e.kind == "by hand"; }));
    }
    void aPulseIsTapped() {
        TestWindow w;
        w.openDemo();
        w.window.context().selectReading("pulse");
        w.window.showStop(3);
        auto* page = w.window.findChild<RawPage*>();
        QVERIFY(page && page->isVisible());
        for (int i = 0; i < 21; ++i) {
            QTest::keyClick(page, Qt::Key_T);
            w.clocked.pass(0.8);
        }
        CLOSE(w.find<QLineEdit>("handValue")->text().toDouble(), 75, 0.2);
        QVERIFY(w.find<QLineEdit>("handDoubt")->text().toDouble() > 0.1);
    }
    void aLinkIsChosenAndNothingIsTakenOnTrust() {
        TestWindow w;
        w.openDemo();
        w.clocked.session.edit("cut", [](Bench& b) { b.board("gauge")->link.kind = LinkKind::none; });
        w.window.showStop(3);
        w.refresh();
        auto* kind = w.find<QComboBox>("linkKind");
        kind->setCurrentIndex(1);
        w.find<QLineEdit>("linkBroker")->setText("harbour:99999");
        w.click("linkOpen");
        QVERIFY2(w.text("linkState").contains("port"), qPrintable(w.text("linkState")));
        QCOMPARE(w.clocked.session.bench().board("gauge")->link.kind, LinkKind::none);
        w.find<QLineEdit>("linkBroker")->setText("harbour:1884");
        w.find<QLineEdit>("linkTopics")->setText("gauge/#");
        w.click("linkOpen");
        const LinkPlan mqtt = w.clocked.session.bench().board("gauge")->link;
        QCOMPARE(mqtt.kind, LinkKind::mqtt);
        QCOMPARE(mqtt.mqtt.host, std::string("harbour"));
        QCOMPARE(mqtt.mqtt.port, 1884);
        w.click("linkClose");
        kind->setCurrentIndex(2);
        w.find<QCheckBox>("linkWide")->setChecked(true);
        w.click("linkOpen"); // wide without a token
        QCOMPARE(w.clocked.session.bench().board("gauge")->link.kind, LinkKind::none);
        w.click("linkToken");
        const QString token = w.text("linkTokenText").left(32);
        w.click("linkOpen");
        const LinkPlan http = w.clocked.session.bench().board("gauge")->link;
        QCOMPARE(http.kind, LinkKind::http);
        QVERIFY(write_described(http).dump().find(token.toStdString()) ==
                std::string::npos); // only its fingerprint
        w.click("linkClose");
        kind->setCurrentIndex(0);
        w.find<QComboBox>("linkFormat")->setEditText("morse");
        w.find<QComboBox>("linkPort")->setEditText("/dev/ttyUSB0");
        w.click("linkOpen");
        QVERIFY2(w.text("linkState").contains("morse"), qPrintable(w.text("linkState")));
    }
    void aReadingThatNothingBringsSaysWhatComes() {
        TestWindow w;
        w.openDemo();
        w.window.context().selectReading("rock");
        w.window.showStop(3);
        w.lines(5, 140); // brings A2, and rock is on A1
        QVERIFY2(w.text("rawEmpty").contains("A2 (140)"), qPrintable(w.text("rawEmpty")));
    }
    void verdictsAreJudgedFromWhatAllBoardsSend() {
        TestWindow w;
        w.openDemo();
        for (int i = 0; i < 40; ++i) {
            w.clocked.pass(6);
            w.clocked.session.worker().injectMessageNow("shed", {"shed/pool",
                                                                 QByteArray("{\"seq\":") + QByteArray::number(i) +
                                                                     ",\"echo_us\":" + (i % 3 ? "1400" : "0") + "}",
                                                                 false});
        }
        w.window.context().selectReading("tide-pool");
        w.window.showStop(3);
        w.refresh();
        QVERIFY2(w.text("rawHealth").contains("No value"), qPrintable(w.text("rawHealth")));
        const LiveReading now = w.clocked.session.worker().live().readings.at("tide-pool");
        QCOMPARE(now.value.cause, Cause::failed); // the last one was 0: no echo, and not "full"
        w.clocked.session.worker().injectMessageNow(
            "shed", {"shed/pool", "{\"echo_us\":1500}", true}); // the broker had kept it
        QCOMPARE(w.clocked.session.worker().live().boards.at("shed").kept, std::uint64_t(1));
        QCOMPARE(w.clocked.session.worker().live().readings.at("tide-pool").raw, now.raw);
    }
};

RUN_TESTS_OF(TestRaw)
#include "tst_raw.moc"
