// Sessions, reports and files from elsewhere in the real window: begun and ended by a person, found by a rule, made
// of a stretch, laid over each other, put on paper.
#include "store/exchange/json_import.h"
#include "support/run_tests.h"
#include "support/test_window.h"
#include "ui/pages/logbook/time_lanes.h"
#include "ui/pages/sessions/since_start_plot.h"
#include "ui/paper/paper.h"

#include <QCheckBox>
#include <QFileInfo>
#include <QMenu>
#include <QPrinter>
#include <QTableWidget>

using namespace cognitum;
using namespace cognitum::test;

namespace {

class Sessions : public TestWindow {
  public:
    explicit Sessions(DemoHistory history = DemoHistory::sixty_days) {
        openDemo(history);
        window.resize(1280, 800);
        open();
    }
    void open() {
        window.showPage("sessions");
        refresh();
    }
    void pick(const char* menu_action) {
        auto* action = window.findChild<QAction*>(QLatin1String(menu_action));
        QVERIFY2(action, menu_action);
        action->trigger();
        refresh();
    }
    QTableWidget* table(const char* name) { return find<QTableWidget>(name); }
    QString column(const char* name, int at) {
        QStringList out;
        for (int row = 0; row < table(name)->rowCount(); ++row)
            if (const auto* item = table(name)->item(row, at)) out << item->text();
        return out.join(QLatin1Char('|'));
    }
    const std::vector<TimedSession>& all() { return clocked.session.bench().sessions; }
    void chooseRow(const QString& name) {
        for (int row = 0; row < table("sessionList")->rowCount(); ++row)
            if (table("sessionList")->item(row, 0)->text().startsWith(name)) {
                table("sessionList")->selectRow(row);
                return refresh();
            }
        QFAIL(qPrintable(name));
    }
    QByteArray file(const QString& name) {
        QFile f(clocked.folder.filePath(name));
        return f.open(QIODevice::ReadOnly) ? f.readAll() : QByteArray();
    }
};

} // namespace

class TestSessions : public QObject {
    Q_OBJECT

  private slots:
    void theDemoHasSwimsFiresAndDrives() {
        Sessions w;
        const QString names = w.column("sessionList", 0);
        for (const char* name : {"Swim · private", "Fire in the stove", "To the harbour and back"})
            QVERIFY2(names.contains(QString::fromUtf8(name)), qPrintable(names));
        w.chooseRow("Fire");
        const QString facts = w.column("sessionFacts", 1);
        QVERIFY2(facts.contains("hottest") && facts.contains("above the limit for"), qPrintable(facts));
        QVERIFY2(w.column("sessionFacts", 2).contains(QString::fromUtf8("°C")),
                 qPrintable(w.column("sessionFacts", 2)));
        QVERIFY(w.find<SinceStartPlot>("sessionPlot")->points() > 20);
        w.chooseRow("To the harbour");
        QVERIFY2(w.column("sessionFacts", 1).contains("change"), qPrintable(w.column("sessionFacts", 1)));
    }
    void twoAreLaidOverEachOther() {
        Sessions w;
        w.chooseRow("Fire");
        const int alone = w.find<SinceStartPlot>("sessionPlot")->points();
        auto* other = w.find<QComboBox>("sessionOther");
        QVERIFY(other->count() > 3);
        for (int i = 1; i < other->count(); ++i)
            QVERIFY(other->itemText(i).startsWith("Fire")); // of its own kind
        w.choose("sessionOther", qPrintable(other->itemData(2).toString()));
        QVERIFY(w.find<SinceStartPlot>("sessionPlot")->points() > alone + 10);
    }
    void begunNamedAndEndedByHand() {
        Sessions w(DemoHistory::two_days);
        QVERIFY(w.sees("sessionsEmpty")); // a newcomer reads what belongs here
        QVERIFY(!w.sees("sessionList"));
        w.pick("begin_fermentation");
        QCOMPARE(w.all().size(), std::size_t(1));
        QVERIFY(w.all()[0].goes_on() && !w.all()[0].readings.empty());
        QVERIFY2(w.text("statusMessage").contains("Ctrl R"), qPrintable(w.text("statusMessage")));
        w.type("sessionName", "Cider of the north wall");
        QCOMPARE(w.all()[0].name, std::string("Cider of the north wall"));
        w.clocked.pass(3600);
        w.click("sessionEnd");
        QCOMPARE(w.all()[0].to - w.all()[0].from, hour_us);
        QVERIFY(!w.sees("sessionEnd"));
        w.choose("sessionKind", qPrintable(QString::number(int(SessionKind::other))));
        w.clocked.session.undoStack()->undo();
        w.refresh();
        w.click("sessionRemove");
        QVERIFY(w.all().empty() && w.sees("sessionsEmpty"));
        w.clocked.session.undoStack()->undo();
        w.refresh();
        QVERIFY(w.sees("sessionList"));
    }
    void aRuleIsTriedBeforeItIsKept() {
        Sessions w;
        const std::size_t before = w.all().size();
        w.click("newRule");
        QVERIFY(w.sees("ruleDialog"));
        w.type("ruleName", "Warm hut");
        w.choose("ruleReading", "hut-air");
        w.type("ruleLimit", "-60");
        QVERIFY2(w.text("ruleFound").contains("In what was recorded there"), qPrintable(w.text("ruleFound")));
        w.type("ruleLimit", "90");
        QVERIFY2(w.text("ruleFound").contains("there is none"), qPrintable(w.text("ruleFound")));
        QVERIFY(!w.find<QPushButton>("ruleAddFound")->isEnabled());
        w.choose("ruleReading", "stove-flue");
        w.type("ruleLimit", "100");
        w.type("rulePause", "0");
        QVERIFY(!w.find<QPushButton>("ruleKeep")->isEnabled()); // a pause of nothing
        w.type("rulePause", "30");
        QVERIFY(w.find<QPushButton>("ruleKeep")->isEnabled());
        w.find<QCheckBox>("ruleLive")->setChecked(false);
        w.click("ruleAddFound");
        QVERIFY(w.all().size() > before + 20);
        const std::size_t found = w.all().size();
        w.click("ruleClose");
        QCOMPARE(w.clocked.session.bench().session_rules.size(), std::size_t(3));
        const SessionRule& rule = w.clocked.session.bench().session_rules.back();
        QCOMPARE(rule.pause_s, 1800.0);
        QVERIFY(!rule.live);
        // Opened again it finds the same, and adds none twice.
        w.click(qPrintable("rule_" + QString::fromStdString(rule.id)));
        w.click("ruleAddFound");
        QCOMPARE(w.all().size(), found);
        w.click("ruleRemove");
        QCOMPARE(w.clocked.session.bench().session_rules.size(), std::size_t(2));
    }
    void aStretchBecomesASessionAndBack() {
        Sessions w;
        w.window.showPage("logbook");
        w.refresh();
        auto* lanes = w.find<TimeLanes>("timeLanes");
        const TimeUs now = w.clocked.now;
        lanes->takeStretch(Interval{now - 10 * day_us, now - 8 * day_us});
        w.refresh();
        const std::size_t before = w.all().size();
        w.pick("stretchAs_other");
        QCOMPARE(w.all().size(), before + 1);
        QCOMPARE(w.all().back().to - w.all().back().from, 2 * day_us);
        QVERIFY(w.sees("sessionList"));
        QVERIFY2(plain(w.text("sessionWhen").toStdString()).find("2 d") != std::string::npos,
                 qPrintable(w.text("sessionWhen")));
        w.click("sessionInLogbook");
        QCOMPARE(lanes->stretch(), std::optional<Interval>(Interval{now - 10 * day_us, now - 8 * day_us}));
        QVERIFY(w.table("stretchFigures")->rowCount() > 0);
    }
    /// A constant is mended, and a stretch of old data goes through it beside the old.
    void aStretchIsSeenAnew() {
        Sessions w;
        w.window.showPage("logbook");
        w.refresh();
        auto* lanes = w.find<TimeLanes>("timeLanes");
        const TimeUs now = w.clocked.now;
        lanes->takeStretch(Interval{now - 3 * day_us, now - 2 * day_us});
        w.clocked.session.editReading("hut-air", "Mended", [](Reading& r) {
            if (r.correction) r.correction->offset += 1;
        });
        w.refresh();
        const int before = w.table("stretchFigures")->rowCount();
        emit w.window.findChild<QMenu*>("stretchAnewMenu")->aboutToShow();
        w.pick("anew_hut-air");
        w.refresh();
        const Reading& made = w.clocked.session.bench().readings.back();
        QVERIFY2(made.name.find("Hut air, as calibrated on") == 0, made.name.c_str());
        const std::string said = plain(w.text("statusMessage").toStdString());
        QVERIFY2(said.find("+1.00 °C on average") != std::string::npos, said.c_str());
        QCOMPARE(w.table("stretchFigures")->rowCount(), before + 1);
        QCOMPARE(w.table("stretchFigures")->item(1, 0)->text(), QString::fromStdString(made.name));
        VALUE_OF(old, extent(*bench_file(w.clocked.session), made.id));
        QVERIFY(old.first >= now - 3 * day_us && old.last < now - 2 * day_us && old.n > 400);
    }
    /// The same bench gives the same page, byte for byte, with its chart inside.
    void aReportIsOnePageThatStandsAlone() {
        Sessions w;
        w.chooseRow("Fire");
        w.next_path = w.clocked.folder.filePath("a.html");
        w.window.context().askSavePath = [&](QWidget*, const QString&, const QString& name, const QString&) {
            return name.isEmpty() ? QString() : w.next_path;
        };
        w.click("sessionReport");
        w.refresh();
        const QByteArray page = w.file("a.html");
        for (const char* part : {"<!DOCTYPE html>", "<svg", "hottest", "Calibrations in force", "--fingerprint",
                                 "Whelk Point", "<footer>", "Fire in the stove"})
            QVERIFY2(page.contains(part), part);
        QVERIFY(!page.contains("http://") ||
                page.count("http://") == page.count("http://www.w3.org")); // nothing is fetched
        w.next_path = w.clocked.folder.filePath("b.html");
        w.click("sessionReport");
        w.refresh();
        QCOMPARE(w.file("b.html"), page);
        w.next_path = w.clocked.folder.filePath("c.pdf");
        w.click("sessionReport");
        w.refresh();
        QVERIFY(w.file("c.pdf").startsWith("%PDF") && w.file("c.pdf").size() > 10'000);
        w.next_path = w.clocked.folder.filePath("d.odt");
        w.click("sessionReport");
        w.refresh();
        QVERIFY2(w.text("statusMessage").contains(".html"), qPrintable(w.text("statusMessage")));
        w.window.context().showOnPaper = [&](QWidget*, QPageLayout::Orientation, const DrawPages& draw) {
            QPrinter printer(QPrinter::HighResolution);
            printer.setOutputFileName(w.clocked.folder.filePath("printed.pdf"));
            draw(printer);
        };
        w.click("sessionPrint");
        w.refresh();
        QVERIFY(w.file("printed.pdf").startsWith("%PDF"));
        w.next_path = w.clocked.folder.filePath("bench.html");
        w.trigger("benchReport");
        w.refresh();
        const QByteArray whole = w.file("bench.html");
        QVERIFY(whole.contains("period by period") && whole.contains("Cistern"));
        QVERIFY(!whole.contains("Swimmer")); // nobody's health leaves unasked
    }
    void textOfStrangersStaysTextOnPaper() {
        Paper paper(QStringLiteral("<img src=x>"), QStringLiteral("<b>T</b>"), QStringLiteral("a & b"));
        paper.named(QStringLiteral("<i>n</i>"), QStringLiteral("one\ntwo"));
        PaperTable table;
        table.rows << QStringList{QStringLiteral("<script>alert(1)</script>")};
        paper.table(table);
        const QByteArray html = paper.html();
        QVERIFY(!html.contains("<script") && !html.contains("<img") && html.contains("a &amp; b"));
        QVERIFY(html.contains("one<br/>two"));
    }
    void aFileWhoseDatesAreUnclearIsAskedAbout() {
        Sessions w(DemoHistory::two_days);
        QFile file(w.clocked.folder.filePath("log.csv"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write("time;Hut air [°F];Shed [lx]\n1.6.2026 09:00;68;3\n2.6.2026 09:00;x;4\n");
        file.close();
        w.next_path = file.fileName();
        w.trigger("import");
        QVERIFY2(w.text("importAbout").contains("say which"), qPrintable(w.text("importAbout")));
        QVERIFY(!w.find<QPushButton>("importNow")->isEnabled());
        w.choose("importOrder", "dmy");
        QVERIFY2(w.text("importAbout").contains("1 good") &&
                     w.text("importAbout").contains("1 Jun 2026 09:00 to 2 Jun 2026 09:00"),
                 qPrintable(w.text("importAbout")));
        auto* preview = w.table("importPreview");
        QCOMPARE(preview->item(1, 1)->text(), QString::fromUtf8("°F become °C"));
        QCOMPARE(preview->item(1, 2)->text(), QString("a new reading in lx"));
        w.choose("importTarget2", "hut-air"); // light is no temperature
        QVERIFY(!w.find<QPushButton>("importNow")->isEnabled());
        w.choose("importTarget2", "!skip");
        w.click("importNow");
        QVERIFY2(w.text("importResult").contains("1 row taken"), qPrintable(w.text("importResult")));
        w.click("importClose");
        const auto found = bench_file(w.clocked.session);
        std::vector<Sample> first;
        QVERIFY(for_each_sample(*found, "hut-air", *parse_time("2026-06-01"), *parse_time("2026-06-02"),
                                [&](std::span<const Sample> s) {
                                    first.assign(s.begin(), s.end());
                                    return true;
                                }));
        QCOMPARE(first.size(), std::size_t(1));
        CLOSE(first[0].value, 20, 1e-9);
    }
    void senmlComesInByTheSameDoor() {
        Sessions w(DemoHistory::two_days);
        QFile file(w.clocked.folder.filePath("log.senml"));
        QVERIFY(file.open(QIODevice::WriteOnly));
        file.write(
            "[{\"bn\":\"Loft\",\"bt\":1780304400,\"bu\":\"Cel\",\"v\":21.5},{\"t\":60,\"v\":22},{\"t\":120}]");
        file.close();
        w.next_path = file.fileName();
        w.trigger("import");
        QVERIFY2(w.text("importAbout").contains("2 samples"), qPrintable(w.text("importAbout")));
        QCOMPARE(w.table("importPreview")->item(0, 3)->text(), QString::fromUtf8("a new reading in °C"));
        w.click("importNow");
        QVERIFY2(w.text("importResult").contains("2 rows taken"), qPrintable(w.text("importResult")));
        QCOMPARE(w.clocked.session.bench().readings.back().name, std::string("Loft"));
        w.clocked.session.undoStack()->undo(); // of the reading, as of any edit
        QCOMPARE(w.clocked.session.bench().reading("loft"), nullptr);
    }
};

RUN_TESTS_OF(TestSessions)
#include "tst_sessions.moc"
