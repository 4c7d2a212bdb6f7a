// Help beside the work: every stop and page has its text, every link leads somewhere, the reading's numbers are its
// own, and a search finds.
#include "support/run_tests.h"
#include "support/test_window.h"
#include "ui/help/help_panel.h"

#include <QRegularExpression>
#include <QSettings>

using namespace cognitum;
using cognitum::test::TestWindow;

class TestHelp : public QObject {
    Q_OBJECT

  private slots:
    void initTestCase() { QCoreApplication::setApplicationName("cognitum-test"); }

    void everyTopicIsThere() {
        const QRegularExpression link("\\]\\(([a-z]+)\\.md\\)");
        for (const QString& topic : help_topics()) {
            const QString text = help_text(topic);
            QVERIFY2(text.startsWith("# ") && text.size() > 100, qPrintable(topic));
            for (auto links = link.globalMatch(text); links.hasNext();)
                QVERIFY2(help_topics().contains(links.next().captured(1)), qPrintable(topic));
        }
        QVERIFY(help_text("../CHANGELOG").isEmpty());
    }
    void itFollowsTheWork() {
        TestWindow w;
        w.openDemo();
        w.lines(3, 140);
        QVERIFY(!w.sees("helpPanel"));
        w.trigger("help");
        QVERIFY(w.sees("helpPanel"));
        auto* panel = w.find<HelpPanel>("helpPanel");
        auto* text = w.find<QTextBrowser>("helpText");
        const char* topics[] = {"quantity", "sensor", "wiring", "raw", "convert", "calibrate", "watch"};
        for (int i = 0; i < 7; ++i) {
            w.window.showStop(i);
            QCOMPARE(panel->topic(), QLatin1String(topics[i]));
            QVERIFY2(text->toPlainText().startsWith(QString::number(i + 1)), topics[i]);
        }
        w.window.showStop(4);
        // (140 + ½) × 4.998 V ÷ 1 024 = 0.6858 V, which is 18.58 °C.
        QVERIFY2(text->toPlainText().contains("With the numbers of Hut air") &&
                     text->toPlainText().contains("= 0.6858"),
                 qPrintable(text->toPlainText().right(600)));
        for (const char* page : {"overview", "boards", "logbook", "sessions", "new"}) {
            w.window.showPage(page);
            QCOMPARE(panel->topic(), QLatin1String(page));
            QVERIFY(!text->toPlainText().isEmpty());
        }
        w.click("helpClose");
        QVERIFY(!w.sees("helpPanel"));
    }
    /// A stranger's bench may name its readings as it likes: nothing of it is markup, a link or a picture.
    void namesAreNoMarkup() {
        TestWindow w;
        w.openDemo();
        const char* name = "<img src=\"/etc/passwd\"> [x](changes.md) **b** ![p](/dev/zero)";
        w.clocked.session.editReading("hut-air", "rename", [&](Reading& r) { r.name = name; });
        w.window.showStop(0);
        w.trigger("help");
        auto* text = w.find<QTextBrowser>("helpText");
        QVERIFY2(text->toPlainText().contains(QString("With the numbers of ") + name),
                 qPrintable(text->toPlainText()));
        QVERIFY(!text->toHtml().contains("<img") && !text->toHtml().contains("href=\"changes.md"));
    }
    /// Ten stations, each at its place; left and taken up again.
    void theWalk() {
        QSettings().remove("walk");
        TestWindow w;
        w.openDemo();
        w.trigger("walk");
        auto* panel = w.find<HelpPanel>("helpPanel");
        auto* text = w.find<QTextBrowser>("helpText");
        for (int station = 1; station <= walk_stations; ++station) {
            QCOMPARE(panel->topic(), QString("walk-%1").arg(station));
            QVERIFY(text->toPlainText().startsWith(QString("%1 ").arg(station)));
            if (station == 4) QVERIFY(w.window.stopNow() == 2 && w.window.context().readingId() == "tide-pool");
            if (station == 9) QCOMPARE(w.window.pageNow(), QStringLiteral("logbook"));
            if (station == 5) { // somewhere else, away, and back
                w.window.showStop(0);
                QCOMPARE(panel->topic(), QStringLiteral("walk-5"));
                w.click("helpClose");
                w.trigger("help");
                QCOMPARE(panel->topic(), QStringLiteral("quantity"));
                w.click("helpClose");
                w.trigger("walk");
                QCOMPARE(panel->topic(), QStringLiteral("walk-5"));
                QCOMPARE(w.window.stopNow(), 3);
            }
            if (station < walk_stations) emit text->anchorClicked(QUrl(QString("walk-%1.md").arg(station + 1)));
            w.refresh();
        }
        QVERIFY(!text->toPlainText().contains("Next station"));
        QVERIFY(help_text("walk-11").isEmpty() && help_text("walk-0").isEmpty() && help_text("walk-x").isEmpty());
    }
    void aSearchFinds() {
        const QString hits = help_search("Hysteresis  ends");
        QVERIFY2(hits.contains("(watch.md)") && hits.contains("(glossary.md)"), qPrintable(hits));
        QVERIFY(help_search("zeppelin").isEmpty());
        QVERIFY(help_search("  ").isEmpty());
        QVERIFY(help_search("a").count('\n') < 60);
        TestWindow w;
        w.openDemo();
        w.trigger("help");
        w.find<QLineEdit>("helpSearch")->setText("mercury");
        auto* text = w.find<QTextBrowser>("helpText");
        QVERIFY(text->toPlainText().contains("Glass thermometers break"));
        emit text->anchorClicked(QUrl("calibrate.md"));
        QCOMPARE(w.find<HelpPanel>("helpPanel")->topic(), QStringLiteral("calibrate"));
        emit text->anchorClicked(QUrl("file:///etc/passwd")); // a text is no way out
        QCOMPARE(w.find<HelpPanel>("helpPanel")->topic(), QStringLiteral("calibrate"));
    }
};

RUN_TESTS_OF(TestHelp)
#include "tst_help.moc"
