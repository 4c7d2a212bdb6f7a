// Scenes of the pages of the whole bench.
#include "screenshots_theatre.h"

#include "ui/pages/logbook/time_lanes.h"
#include "ui/pages/program/read_view.h"

#include <QLabel>
#include <QTableWidget>

namespace cognitum {

namespace {

/// A fifth and a sixth bed, for which the board has no input.
void more_inputs(Theatre& stage) {
    stage.showBoard("pump-house");
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
    stage.press("tabMore");
    stage.shoot(QStringLiteral("boards-inputs"));
    stage.session().undoStack()->undo();
    stage.press("tabBoard");
}

void bill(Theatre& stage) {
    stage.showBoard("gauge");
    stage.press("tabBill");
    stage.shoot(QStringLiteral("boards-bill"));
    stage.press("tabBoard");
}

void somebodys_program(Theatre& stage) {
    stage.showBoard("gauge");
    stage.press("tabProgram");
    stage.press("programMine");
    stage.press("readExample");
    const auto* reader = stage.window().findChild<ReadView*>();
    while (reader->reads()) // in a process of its own
        QApplication::processEvents(QEventLoop::WaitForMoreEvents, 100);
    stage.shoot(QStringLiteral("boards-program-read"));
    stage.press("programFromPlan");
    stage.press("tabBoard");
}

void program_of_the_plan(Theatre& stage) {
    stage.showBoard("gauge");
    stage.press("tabProgram");
    stage.settle();
    stage.shoot(QStringLiteral("boards-program-written"));
    stage.press("programProve");
    const auto* proof = stage.window().findChild<QTableWidget*>(QStringLiteral("programProof"));
    const auto* trouble = stage.window().findChild<QLabel*>(QStringLiteral("programTrouble"));
    while (!proof->isVisible() && !trouble->isVisible()) // it compiles and runs in a process of its own
        QApplication::processEvents(QEventLoop::WaitForMoreEvents, 100);
    stage.shoot(QStringLiteral("boards-program"));
    stage.press("tabBoard");
}

/// A service that takes one update in fifteen seconds.
void rates(Theatre& stage) {
    stage.showBoard("gauge");
    stage.session().edit(QStringLiteral("plan"), [](Bench& b) {
        b.board("gauge")->upload_s = 5;
        b.board("gauge")->quota_s = 15;
    });
    stage.press("tabRates");
    stage.choose("rateReading", "hut-air");
    stage.run(300);
    stage.shoot(QStringLiteral("boards-rates"));
    stage.session().undoStack()->undo();
    stage.press("tabBoard");
}

/// With the storm taken.
void logbook(Theatre& stage) {
    stage.window().showPage(QStringLiteral("logbook"));
    stage.settle();
    const TimeUs midnight = stage.session().now() / day_us * day_us;
    stage.window().findChild<TimeLanes*>()->takeStretch(
        Interval{midnight - 19 * day_us + 9 * hour_us, midnight - 17 * day_us + 14 * hour_us});
}

/// The report of that stretch, as PDF and HTML.
void report(Theatre& stage) {
    logbook(stage);
    stage.settle();
    for (const char* ending : {"/report.pdf", "/report.html"}) {
        const QString path = stage.out() + QLatin1String(ending);
        stage.window().context().askSavePath = [=](QWidget*, const QString&, const QString&, const QString&) {
            return path;
        };
        stage.press("reportStretch");
        stage.settle();
    }
}

void months(Theatre& stage) {
    stage.window().showPage(QStringLiteral("logbook"));
    stage.settle();
    stage.press("logPeriods");
    stage.choose("periodReading", "rock");
    stage.choose("periodOther", "hut-air");
    stage.shootDialog(QStringLiteral("logbook-months"));
}

void show_session(Theatre& stage, const char* name) {
    stage.window().showPage(QStringLiteral("sessions"));
    stage.settle();
    auto* list = stage.window().findChild<QTableWidget*>(QStringLiteral("sessionList"));
    for (int row = 0; row < list->rowCount(); ++row)
        if (list->item(row, 0)->text().startsWith(QLatin1String(name))) {
            list->selectRow(row);
            break;
        }
    stage.settle();
}

void fire_beside_another(Theatre& stage) {
    show_session(stage, "Fire");
    auto* other = stage.window().findChild<QComboBox*>(QStringLiteral("sessionOther"));
    other->setCurrentIndex(2);
    emit other->activated(2);
    stage.shoot(QStringLiteral("sessions"));
}

void session_rule(Theatre& stage) {
    stage.window().showPage(QStringLiteral("sessions"));
    stage.settle();
    stage.press("rule_fire-rule");
    stage.shootDialog(QStringLiteral("sessions-rule"));
}

/// Three weeks of the hut's air stand for a vat.
void fermentation(Theatre& stage) {
    stage.session().edit(QStringLiteral("vat"), [&](Bench& bench) {
        const TimeUs now = stage.session().now();
        bench.sessions.push_back({"vat",
                                  "Cider of the north wall",
                                  SessionKind::fermentation,
                                  now - 21 * day_us,
                                  now - hour_us,
                                  {"hut-air"}});
    });
    show_session(stage, "Cider");
    stage.shoot(QStringLiteral("sessions-fermentation"));
}

Scene page_scene(const char* page) {
    const QString id = QLatin1String(page);
    return {id, true, [id](Theatre& stage) {
                stage.window().showPage(id);
                stage.shoot(id);
            }};
}

} // namespace

Scenes board_scenes() {
    return {{QStringLiteral("boards-inputs"), false, more_inputs},
            {QStringLiteral("boards-bill"), false, bill},
            {QStringLiteral("boards-program-read"), true, somebodys_program},
            {QStringLiteral("boards-program"), false, program_of_the_plan},
            {QStringLiteral("boards-rates"), false, rates}};
}

Scenes page_scenes(bool all) {
    return {page_scene("overview"),
            {QStringLiteral("boards"), true,
             [](Theatre& stage) {
                 stage.showBoard("shed");
                 stage.shoot(QStringLiteral("boards"));
             }},
            {QStringLiteral("logbook"), true,
             [](Theatre& stage) {
                 logbook(stage);
                 stage.shoot(QStringLiteral("logbook"));
             }},
            {QStringLiteral("report"), false, report},
            page_scene("settings"),
            {QStringLiteral("findings"), true,
             [all](Theatre& stage) {
                 stage.window().showPage(QStringLiteral("findings"));
                 if (all) stage.theme().setDark(true);
                 stage.shoot(QStringLiteral("findings"));
                 if (all) stage.theme().setDark(false);
             }},
            {QStringLiteral("logbook-months"), false, months},
            {QStringLiteral("sessions"), true, fire_beside_another},
            {QStringLiteral("sessions-rule"), false, session_rule},
            {QStringLiteral("sessions-fermentation"), false, fermentation}};
}

} // namespace cognitum
