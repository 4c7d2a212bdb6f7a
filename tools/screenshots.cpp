// Makes the pictures of docs/screenshots from the demo bench, with a clock that stands still and the simulated
// board inside this program, so that the same source always gives the same pictures. Run it through
// tools/screenshots.
#include "screenshots_theatre.h"

#include "session/language.h"
#include "ui/pages/logbook/time_lanes.h"
#include "ui/pages/program/read_view.h"
#include "ui/stops/calibrate/calibrate_page.h"

#include <QCommandLineParser>
#include <QLabel>
#include <QTableWidget>

using namespace cognitum;

int main(int argc, char** argv) {
    QApplication app(argc, argv);
    QApplication::setApplicationName(QStringLiteral("cognitum-screenshots"));
    QCommandLineParser parser;
    parser.addHelpOption();
    parser.addOption({QStringLiteral("out"), QStringLiteral("folder for the pictures"), QStringLiteral("folder"),
                      QStringLiteral("docs/screenshots")});
    parser.addOption({QStringLiteral("size"), QStringLiteral("of the window, 1280x800"), QStringLiteral("size"),
                      QStringLiteral("1280x800")});
    parser.addOption({QStringLiteral("dark"), QStringLiteral("dark theme for all")});
    parser.addOption(
        {QStringLiteral("scale"), QStringLiteral("text size"), QStringLiteral("factor"), QStringLiteral("1")});
    parser.addOption({QStringLiteral("language"), QStringLiteral("de: in German"), QStringLiteral("code"),
                      QStringLiteral("en")});
    parser.addPositionalArgument(QStringLiteral("views"), QStringLiteral("those only"));
    parser.process(app);
    const QStringList size = parser.value(QStringLiteral("size")).split(QLatin1Char('x'));
    const QStringList wanted = parser.positionalArguments();
    const auto want = [&](const char* name) { return wanted.isEmpty() || wanted.contains(QLatin1String(name)); };

    speak(parser.value(QStringLiteral("language")));
    Theme theme;
    theme.setScale(parser.value(QStringLiteral("scale")).toDouble());
    theme.setDark(parser.isSet(QStringLiteral("dark")));
    theme.apply();
    QDir().mkpath(parser.value(QStringLiteral("out")));
    Theatre stage(theme, parser.value(QStringLiteral("out")), QSize(size.value(0).toInt(), size.value(1).toInt()));
    if (want("start")) stage.shoot(QStringLiteral("start"));
    if (want("first-minutes") || wanted.contains(QStringLiteral("new"))) {
        Theatre first(theme, parser.value(QStringLiteral("out")),
                      QSize(size.value(0).toInt(), size.value(1).toInt()));
        shoot_first_minutes(first, want("first-minutes"));
    }
    if (wanted.contains(QStringLiteral("empty"))) { // what each page says when there is nothing on it
        Theatre empty(theme, parser.value(QStringLiteral("out")),
                      QSize(size.value(0).toInt(), size.value(1).toInt()));
        empty.newBench({});
        for (const char* page : {"new", "overview", "boards", "logbook", "sessions"}) {
            empty.window().showPage(QLatin1String(page));
            empty.shoot(QStringLiteral("empty-") + QLatin1String(page));
        }
    }
    stage.openDemo();
    // Readings that show a stop best; the others keep the one that is live.
    const std::map<QString, const char*> of = {{QStringLiteral("quantity"), "cistern"},
                                               {QStringLiteral("sensor"), "tide-pool"},
                                               {QStringLiteral("wiring"), "tide-pool"},
                                               {QStringLiteral("convert"), "conductivity"},
                                               {QStringLiteral("watch"), "cistern"}};
    const char* stops[] = {"quantity", "sensor", "wiring", "raw", "convert", "calibrate", "watch"};
    for (int i = 0; i < 7; ++i) {
        if (!want(stops[i])) continue;
        const auto at = of.find(QString::fromLatin1(stops[i]));
        stage.window().context().selectReading(at == of.end() ? "hut-air" : at->second);
        stage.window().showStop(i);
        if (i == 5) continue; // last, because its baths are in the record then
        stage.shoot(QString::fromLatin1(stops[i]));
    }
    const auto press = [&](const char* name) { stage.press(name); };
    for (const char* reading : {"rain", "pulse", "jetty", "hut-air", "rock"}) {
        const QString name = QStringLiteral("watch-") + QLatin1String(reading);
        if (!wanted.contains(name)) continue; // when asked for
        stage.window().context().selectReading(reading);
        stage.window().showStop(6);
        stage.shoot(name);
    }
    for (const char* reading : {"rain", "pulse", "jetty", "hut-wind"}) {
        const QString name = QStringLiteral("convert-") + QLatin1String(reading);
        if (!wanted.contains(name)) continue;
        stage.window().context().selectReading(reading);
        stage.window().showStop(4);
        stage.settle();
        press("tabPulses");
        stage.shoot(name);
    }
    for (const char* tab : {"watchTabBands", "watchTabTold", "watchTabTelling"}) {
        if (!wanted.contains(QLatin1String(tab))) continue;
        stage.window().context().selectReading("cistern");
        stage.window().showStop(6);
        press(tab);
        stage.shoot(QLatin1String(tab));
        press("watchTabRules");
    }
    if (want("large-text")) { // 200 %, on the same screen
        stage.window().context().selectReading("hut-air");
        stage.window().showStop(3);
        theme.setScale(2);
        stage.shoot(QStringLiteral("large-text"));
        theme.setScale(parser.value(QStringLiteral("scale")).toDouble());
    }
    if (want("watch-loads")) {
        stage.window().context().selectReading("bed-4");
        stage.window().showStop(6);
        press("watchTabLoads");
        stage.shoot(QStringLiteral("watch-loads"));
        press("watchTabRules");
    }
    if (wanted.contains(QStringLiteral("watch-load"))) {
        stage.window().context().selectReading("bed-4");
        stage.window().showStop(6);
        press("watchTabLoads");
        stage.settle();
        press("loadChange");
        stage.shootDialog(QStringLiteral("watch-load"));
    }
    if (wanted.contains(QStringLiteral("watch-rule"))) {
        stage.window().context().selectReading("rain");
        stage.window().showStop(6);
        stage.settle();
        press("watchEditRule");
        stage.shootDialog(QStringLiteral("watch-rule"));
    }
    if (wanted.contains(QStringLiteral("watch-corridor"))) {
        stage.window().context().session().edit(QStringLiteral("A jar"), [&](Bench& bench) {
            WatchCondition c;
            c.reading = "hut-air";
            c.when = WatchWhen::corridor;
            c.corridor = {{1, 18, 20}, {5, 20, 22}};
            c.hysteresis = 0.5;
            bench.watch_rules.insert(bench.watch_rules.begin(),
                                     {"jar-warm", "Cabbage leaves its corridor", WatchRank::look, {c}});
            bench.sessions.push_back({"jar",
                                      "Cabbage",
                                      SessionKind::fermentation,
                                      stage.window().context().session().now() - 9 * day_us,
                                      0,
                                      {"hut-air"},
                                      {}});
        });
        stage.window().context().selectReading("hut-air");
        stage.window().showStop(6);
        stage.settle();
        press("watchEditRule");
        stage.shootDialog(QStringLiteral("watch-corridor"));
        stage.window().context().session().undoStack()->undo();
    }
    if (want("wiring-simple")) {
        stage.window().context().selectReading("hut-air");
        stage.window().showStop(2);
        if (!wanted.isEmpty()) stage.shoot(QStringLiteral("wiring-simple"));
    }
    if (wanted.contains(QStringLiteral("wiring-converter"))) {
        stage.window().context().selectReading("bed-2");
        stage.window().showStop(2);
        stage.shoot(QStringLiteral("wiring-converter"));
    }
    if (wanted.contains(QStringLiteral("wiring-board"))) {
        stage.window().context().selectReading("cistern");
        stage.window().showStop(2);
        press("loomBoard");
        stage.shoot(QStringLiteral("wiring-board"));
        press("loomReading");
    }
    stage.window().context().selectReading("hut-air");
    for (const char* tab : {"tabMore", "tabBill"}) {
        const QString name = QStringLiteral("boards-") + (tab[3] == 'M' ? "inputs" : "bill");
        if (!wanted.contains(name)) continue; // when asked for
        stage.window().showPage(QStringLiteral("boards"));
        auto* choice = stage.window().findChild<QComboBox*>(QStringLiteral("boardChoice"));
        choice->setCurrentIndex(tab[3] == 'M' ? 2 : 0);
        emit choice->activated(choice->currentIndex());
        if (tab[3] == 'M') // a fifth bed that has no input
            stage.session().edit(QStringLiteral("plan"), [](Bench& b) {
                Reading r = *b.reading("bed-4");
                r.id = "bed-5";
                r.name = "Samphire bed 5";
                r.wiring = {};
                r.wiring.board = "pump-house";
                r.path = {};
                b.readings.push_back(r);
                r.id = "bed-6";
                r.name = "Samphire bed 6";
                b.readings.push_back(r);
                b.reading("bed-5")->wiring.pins = {{"AOUT", "A0", false, {}}};
            });
        press(tab);
        stage.shoot(name);
        if (tab[3] == 'M') stage.session().undoStack()->undo();
        press("tabBoard");
    }
    if (want("boards-program-read")) {
        stage.window().showPage(QStringLiteral("boards"));
        auto* choice = stage.window().findChild<QComboBox*>(QStringLiteral("boardChoice"));
        choice->setCurrentIndex(choice->findData(QStringLiteral("gauge")));
        emit choice->activated(choice->currentIndex());
        press("tabProgram");
        press("programMine");
        press("readExample");
        const auto* reader = stage.window().findChild<ReadView*>();
        while (reader->reads()) // in a process of its own
            QApplication::processEvents(QEventLoop::WaitForMoreEvents, 100);
        stage.shoot(QStringLiteral("boards-program-read"));
        press("programFromPlan");
        press("tabBoard");
    }
    if (wanted.contains(QStringLiteral("boards-program"))) {
        stage.window().showPage(QStringLiteral("boards"));
        auto* choice = stage.window().findChild<QComboBox*>(QStringLiteral("boardChoice"));
        choice->setCurrentIndex(choice->findData(QStringLiteral("gauge")));
        emit choice->activated(choice->currentIndex());
        press("tabProgram");
        stage.settle();
        stage.shoot(QStringLiteral("boards-program-written"));
        press("programProve");
        const auto* proof = stage.window().findChild<QTableWidget*>(QStringLiteral("programProof"));
        const auto* trouble = stage.window().findChild<QLabel*>(QStringLiteral("programTrouble"));
        while (!proof->isVisible() && !trouble->isVisible()) // it compiles and runs in a process of its own
            QApplication::processEvents(QEventLoop::WaitForMoreEvents, 100);
        stage.shoot(QStringLiteral("boards-program"));
        press("tabBoard");
    }
    for (const char* page : {"overview", "boards", "logbook", "settings", "findings"}) {
        if (!want(page)) continue;
        stage.window().showPage(QLatin1String(page));
        if (page == std::string("boards")) {
            auto* choice = stage.window().findChild<QComboBox*>(QStringLiteral("boardChoice"));
            choice->setCurrentIndex(choice->findData(QStringLiteral("shed")));
            emit choice->activated(choice->currentIndex());
        }
        if (page == std::string("logbook")) { // with the storm taken
            stage.settle();
            const TimeUs midnight = stage.session().now() / day_us * day_us;
            stage.window().findChild<TimeLanes*>()->takeStretch(
                Interval{midnight - 19 * day_us + 9 * hour_us, midnight - 17 * day_us + 14 * hour_us});
        }
        const bool for_docs = wanted.isEmpty() && page == std::string("findings"); // one of them is dark
        if (for_docs) theme.setDark(true);
        stage.shoot(QLatin1String(page));
        if (for_docs) theme.setDark(false);
        if (page == std::string("logbook") && wanted.contains(QStringLiteral("report"))) { // as a PDF
            const QString path = parser.value(QStringLiteral("out")) + QStringLiteral("/report.pdf");
            stage.window().context().askSavePath = [=](QWidget*, const QString&, const QString&, const QString&) {
                return path;
            };
            press("reportStretch");
            stage.settle();
            stage.window().context().askSavePath = [=](QWidget*, const QString&, const QString&, const QString&) {
                return QString(path).replace(QStringLiteral(".pdf"), QStringLiteral(".html"));
            };
            press("reportStretch");
            stage.settle();
        }
    }
    if (wanted.contains(QStringLiteral("logbook-months"))) {
        stage.window().showPage(QStringLiteral("logbook"));
        stage.settle();
        press("logPeriods");
        stage.choose("periodReading", "rock");
        stage.choose("periodOther", "hut-air");
        stage.shootDialog(QStringLiteral("logbook-months"));
    }
    const auto choose_session = [&](const char* name) {
        auto* list = stage.window().findChild<QTableWidget*>(QStringLiteral("sessionList"));
        for (int row = 0; row < list->rowCount(); ++row)
            if (list->item(row, 0)->text().startsWith(QLatin1String(name))) {
                list->selectRow(row);
                break;
            }
        stage.settle();
    };
    if (want("sessions")) {
        stage.window().showPage(QStringLiteral("sessions"));
        stage.settle();
        choose_session("Fire");
        auto* other = stage.window().findChild<QComboBox*>(QStringLiteral("sessionOther"));
        other->setCurrentIndex(2);
        emit other->activated(2);
        stage.shoot(QStringLiteral("sessions"));
    }
    if (wanted.contains(QStringLiteral("sessions-rule"))) {
        stage.window().showPage(QStringLiteral("sessions"));
        stage.settle();
        press("rule_fire-rule");
        stage.shootDialog(QStringLiteral("sessions-rule"));
    }
    if (wanted.contains(QStringLiteral("sessions-fermentation"))) { // three weeks of the hut's air stand for a vat
        stage.session().edit(QStringLiteral("vat"), [&](Bench& bench) {
            const TimeUs now = stage.session().now();
            bench.sessions.push_back({"vat",
                                      "Cider of the north wall",
                                      SessionKind::fermentation,
                                      now - 21 * day_us,
                                      now - hour_us,
                                      {"hut-air"}});
        });
        stage.window().showPage(QStringLiteral("sessions"));
        stage.settle();
        choose_session("Cider");
        stage.shoot(QStringLiteral("sessions-fermentation"));
    }
    if (wanted.contains(QStringLiteral("quantity-rain"))) {
        stage.window().context().selectReading("rain");
        stage.window().showStop(0);
        stage.shoot(QStringLiteral("quantity-rain"));
    }
    if (wanted.contains(QStringLiteral("convert-flue"))) { // a thermocouple whose cold end another reading knows
        stage.window().context().selectReading("stove-flue");
        stage.window().showStop(4);
        stage.shoot(QStringLiteral("convert-flue"));
    }
    if (wanted.contains(
            QStringLiteral("convert-formula"))) { // in the dark theme: constants, and a step of one's own
        const bool was_dark = theme.isDark();
        theme.setDark(true);
        stage.session().editReading("daylight", QStringLiteral("own step"), [](Reading& r) {
            const auto text =
                JsonText::parse("own", R"({"stage":"formula","expression":"a * x ^ b","names":["a","b"],"a":1.09,
                "tol_a":0.04,"origin_a":"beside a lux meter","b":0.985,"tol_b":0.005,"origin_b":"beside a lux meter","low":0,
                "high":100000,"input_unit":"lx","unit":"lx"})");
            r.path.input_unit = "lx";
            r.path.stages = {*read_stage(JsonReader(*text))};
        });
        stage.window().context().selectReading("daylight");
        stage.window().showStop(4);
        press("tabConstants");
        stage.run(12);
        stage.shoot(QStringLiteral("convert-formula"));
        stage.session().undoStack()->undo();
        press("tabSteps");
        theme.setDark(was_dark);
    }
    const struct {
        const char *view, *reading, *tab;
    } tabs[] = {{"convert-constants", "tide-pool", "tabConstants"},
                {"convert-table", "cistern", "tabMeter"},
                {"convert-sender", "tide-pool", "tabSender"},
                {"convert-rain", "rain", "tabPulses"},
                {"convert-pulse", "pulse", "tabPulses"},
                {"convert-hut", "hut-air", "tabSteps"},
                {"convert-tide", "tide-pool", "tabSteps"},
                {"convert-cistern", "cistern", "tabSteps"}};
    for (const auto& tab : tabs)
        if (wanted.contains(QLatin1String(tab.view))) { // when asked for
            stage.window().context().selectReading(tab.reading);
            stage.window().showStop(4);
            press(tab.tab);
            stage.settle();
            stage.shoot(QLatin1String(tab.view));
            press("tabSteps");
        }
    if (wanted.contains(QStringLiteral("raw-test"))) { // a stimulus test under way
        stage.window().context().selectReading("rock");
        stage.window().showStop(3);
        press("tabBringUp");
        press("stage_sensor-alone");
        stage.run(30);
        press("trialStart");
        stage.run(7);
        stage.tell("hand warm-with-fingers rock");
        stage.run(1);
        stage.shoot(QStringLiteral("raw-test"));
        stage.tell("hand off");
        stage.run(5);
        press("tabSignal");
    }
    if (wanted.contains(QStringLiteral("raw-sick"))) { // hum, looked at fast enough to be told
        stage.window().context().selectReading("rock");
        stage.window().showStop(3);
        stage.tell("wave off");
        stage.tell("interval 5");
        stage.tell("fault hum");
        stage.run(8);
        stage.shoot(QStringLiteral("raw-sick"));
        stage.tell("fault none");
        stage.tell("interval 1000");
        stage.tell("wave on");
        stage.run(5);
    }
    if (wanted.contains(QStringLiteral("raw-faults"))) { // the question tree, with what the bench answers by itself
        stage.window().context().selectReading("pool-water");
        stage.window().showStop(3);
        stage.tell("fault probe-lost", "shed");
        stage.run(120);
        press("tabFault");
        stage.run(1);
        press("answer1");
        stage.shoot(QStringLiteral("raw-faults"));
        stage.tell("fault none", "shed");
        stage.run(60);
        press("tabSignal");
    }
    if (wanted.contains(QStringLiteral("boards-rates"))) {
        stage.window().showPage(QStringLiteral("boards"));
        auto* choice = stage.window().findChild<QComboBox*>(QStringLiteral("boardChoice"));
        choice->setCurrentIndex(choice->findData(QStringLiteral("gauge")));
        emit choice->activated(choice->currentIndex());
        stage.session().edit(QStringLiteral("plan"), [](Bench& b) { // a service that takes one update in 15 s
            b.board("gauge")->upload_s = 5;
            b.board("gauge")->quota_s = 15;
        });
        press("tabRates");
        auto* reading = stage.window().findChild<QComboBox*>(QStringLiteral("rateReading"));
        reading->setCurrentIndex(reading->findData(QStringLiteral("hut-air")));
        emit reading->activated(reading->currentIndex());
        stage.run(300);
        stage.shoot(QStringLiteral("boards-rates"));
        stage.session().undoStack()->undo();
        press("tabBoard");
    }
    stage.window().context().selectReading("hut-air");
    if (want("calibrate")) {
        stage.window().showStop(5);
        stage.session().worker().stopRecording();
        stage.takePoint("probe ice", 0, {});
        stage.takePoint("probe bath 12.1", 1, QStringLiteral("12.1"));
        stage.takePoint("probe bath 21.4", 1, QStringLiteral("21.4"));
        stage.takePoint("probe bath 32.7", 1, QStringLiteral("32.7"));
        for (int s = 0; s < 30; ++s)
            stage.run(1);
        stage.window().findChild<QLineEdit*>(QStringLiteral("referenceValue"))->setText(QStringLiteral("32.7"));
        stage.shoot(QStringLiteral("calibrate"));
    }
    if (want("help")) {
        stage.window().context().selectReading("hut-air");
        stage.window().showStop(5);
        auto* help = stage.window().findChild<QAction*>(QStringLiteral("help"));
        help->trigger();
        stage.shoot(QStringLiteral("help"));
        help->trigger();
    }
    if (wanted.contains(QStringLiteral("calibrate-more")))
        shoot_calibrations(stage, parser.value(QStringLiteral("out")));
    if (wanted.contains(QStringLiteral("links"))) { // the fields of each kind of link, not connected
        for (const auto& [board, reading] : {std::pair{"shed", "tide-pool"}, {"beacon-log", "trailer-tyre"}}) {
            stage.session().edit(QStringLiteral("cut"),
                                 [b = board](Bench& bench) { bench.board(b)->link.simulated = false; });
            stage.window().context().selectReading(reading);
            stage.window().showStop(3);
            press("linkClose");
            stage.settle();
            press("linkMore");
            stage.shoot(QStringLiteral("links-") + QLatin1String(board));
        }
    }
    if (wanted.contains(QStringLiteral("mended"))) {
        stage.window().showStop(2);
        for (const Finding& f : stage.window().context().findings())
            if (f.action && f.action->change) {
                stage.session().applyFix(f);
                break;
            }
        stage.tell("reference internal");
        stage.run(20);
        stage.shoot(QStringLiteral("mended"));
    }
    if (wanted.contains(QStringLiteral("raw-pulse"))) {
        stage.window().context().selectReading("pulse");
        stage.window().showStop(3);
        stage.shoot(QStringLiteral("raw-pulse"));
    }
    if (wanted.contains(QStringLiteral("raw-tide"))) {
        stage.window().context().selectReading("tide-pool");
        stage.window().showStop(3);
        stage.tell("fault no-echo", "shed");
        stage.run(60);
        stage.shoot(QStringLiteral("raw-tide"));
    }
    if (wanted.contains(QStringLiteral("plan"))) {
        stage.window().context().selectReading("rock");
        stage.window().showStop(1);
        stage.shoot(QStringLiteral("plan"));
    }
    return 0;
}
