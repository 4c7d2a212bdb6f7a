#include "screenshots_theatre.h"

namespace cognitum {

namespace {

/// Points that were taken some other day, at raw values of a path.
void lay_out(Theatre& stage, const char* reading, const char* recipe, const char* kind,
             std::initializer_list<std::pair<double, double>> raw_and_reference, double u) {
    const Chain path = uncorrected_path(*stage.session().bench().reading(reading));
    CalibrationDraft draft;
    draft.recipe = recipe;
    for (const auto& [raw, reference] : raw_and_reference) {
        CalibrationPoint p;
        p.time = stage.session().now();
        p.reference_kind = kind;
        p.raw = raw;
        p.indication = forward(path, raw).number;
        p.reference = reference;
        p.u_reference = u;
        p.u_indication = u / 4;
        draft.points.push_back(p);
    }
    draft.step = static_cast<int>(draft.points.size());
    stage.session().proof().saveDraft(reading, draft);
}

void pour(Theatre& stage, int tips) {
    stage.press("beginChange");
    stage.type("input_volume_mL", QStringLiteral("500"));
    for (int i = 0; i < tips; ++i)
        stage.tell("tip");
    stage.run(60);
    stage.press("takePoint");
}

void points_in_four_baths(Theatre& stage) {
    stage.show("hut-air", 5);
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

void help_beside(Theatre& stage) {
    stage.show("hut-air", 5);
    auto* help = stage.window().findChild<QAction*>(QStringLiteral("help"));
    help->trigger();
    stage.shoot(QStringLiteral("help"));
    help->trigger();
}

/// Other states: waiting, failed, overdue, a pour with its check, a state, a vessel's table, dialogs, a
/// certificate.
void more_calibrations(Theatre& stage) {
    stage.window().showStop(5);
    stage.tell("probe bath 32.7");
    for (int s = 0; s < 6; ++s)
        stage.run(1);
    stage.shoot(QStringLiteral("calibrate-waiting"));
    for (const char* id : {"humidity", "air-pressure", "conductivity", "tide-pool", "jetty"}) {
        stage.window().context().selectReading(id);
        stage.run(3);
        stage.shoot(QStringLiteral("calibrate-") + QLatin1String(id));
    }
    stage.window().context().selectReading("rain");
    stage.settle();
    for (const int tips : {120, 121, 120, 121})
        pour(stage, tips);
    stage.shoot(QStringLiteral("calibrate-rain"));
    lay_out(stage, "rock", "ice-and-bath", "reference-instrument",
            {{763, 0.1}, {609, 14.2}, {512, 24.1}, {402, 36.4}}, 0.05);
    lay_out(stage, "cistern", "fill-by-known-amounts", "known-fill",
            {{1040, 62}, {860, 360}, {660, 760}, {440, 1190}, {270, 1450}}, 4);
    for (const char* id : {"rock", "cistern"}) {
        stage.window().context().selectReading(id);
        stage.run(3);
        stage.shoot(QStringLiteral("calibrate-") + QLatin1String(id));
    }
    stage.window().context().selectReading("hut-air");
    stage.settle();
    stage.press("openRegister");
    stage.shootDialog(QStringLiteral("dialog-register"));
    stage.press("boardConstants");
    stage.shootDialog(QStringLiteral("dialog-constants"));
    stage.press("openSideBySide");
    stage.shootDialog(QStringLiteral("dialog-side-by-side"));
    const QString paper = QDir(stage.out()).filePath(QStringLiteral("certificate.pdf"));
    stage.window().context().askSavePath = [&](QWidget*, const QString&, const QString&, const QString&) {
        return paper;
    };
    const std::string link =
        "certificate" + std::to_string(stage.session().bench().reading("hut-air")->correction->record);
    stage.press(link.c_str());
}

} // namespace

Scenes calibrate_scenes() {
    return {{QStringLiteral("calibrate"), true, points_in_four_baths},
            {QStringLiteral("help"), true, help_beside},
            {QStringLiteral("calibrate-more"), false, more_calibrations}};
}

} // namespace cognitum
