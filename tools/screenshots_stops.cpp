// Scenes of the seven stops.
#include "screenshots_theatre.h"

namespace cognitum {

namespace {

/// A reading at a stop, behind one of its tabs; `back` is the tab that stands there otherwise.
Scene tab_scene(const QString& name, const char* reading, int stop, const char* tab, const char* back,
                bool kept = false) {
    return {name, kept, [=](Theatre& stage) {
                stage.show(reading, stop);
                stage.press(tab);
                stage.settle();
                stage.shoot(name);
                if (back) stage.press(back);
            }};
}

Scene plain_scene(const QString& name, const char* reading, int stop, bool kept = false) {
    return {name, kept, [=](Theatre& stage) {
                stage.show(reading, stop);
                stage.shoot(name);
            }};
}

/// 200 %, on the same screen.
void large_text(Theatre& stage) {
    stage.show("hut-air", 3);
    const double scale = stage.theme().scale();
    stage.theme().setScale(2);
    stage.shoot(QStringLiteral("large-text"));
    stage.theme().setScale(scale);
}

void load_dialog(Theatre& stage) {
    stage.show("bed-4", 6);
    stage.press("watchTabLoads");
    stage.settle();
    stage.press("loadChange");
    stage.shootDialog(QStringLiteral("watch-load"));
}

void rule_dialog(Theatre& stage) {
    stage.show("rain", 6);
    stage.settle();
    stage.press("watchEditRule");
    stage.shootDialog(QStringLiteral("watch-rule"));
}

void corridor_dialog(Theatre& stage) {
    stage.session().edit(QStringLiteral("A jar"), [&](Bench& bench) {
        WatchCondition c;
        c.reading = "hut-air";
        c.when = WatchWhen::corridor;
        c.corridor = {{1, 18, 20}, {5, 20, 22}};
        c.hysteresis = 0.5;
        bench.watch_rules.insert(bench.watch_rules.begin(),
                                 {"jar-warm", "Cabbage leaves its corridor", WatchRank::look, {c}});
        bench.sessions.push_back(
            {"jar", "Cabbage", SessionKind::fermentation, stage.session().now() - 9 * day_us, 0, {"hut-air"}, {}});
    });
    stage.show("hut-air", 6);
    stage.settle();
    stage.press("watchEditRule");
    stage.shootDialog(QStringLiteral("watch-corridor"));
    stage.session().undoStack()->undo();
}

/// Constants, and a step of one's own, in the dark theme.
void own_formula(Theatre& stage) {
    const bool was_dark = stage.theme().isDark();
    stage.theme().setDark(true);
    stage.session().editReading("daylight", QStringLiteral("own step"), [](Reading& r) {
        const auto text =
            JsonText::parse("own", R"({"stage":"formula","expression":"a * x ^ b","names":["a","b"],"a":1.09,
                "tol_a":0.04,"origin_a":"beside a lux meter","b":0.985,"tol_b":0.005,"origin_b":"beside a lux meter","low":0,
                "high":100000,"input_unit":"lx","unit":"lx"})");
        r.path.input_unit = "lx";
        r.path.stages = {*read_stage(JsonReader(*text))};
    });
    stage.show("daylight", 4);
    stage.press("tabConstants");
    stage.run(12);
    stage.shoot(QStringLiteral("convert-formula"));
    stage.session().undoStack()->undo();
    stage.press("tabSteps");
    stage.theme().setDark(was_dark);
}

/// A stimulus test under way.
void stimulus_test(Theatre& stage) {
    stage.show("rock", 3);
    stage.press("tabBringUp");
    stage.press("stage_sensor-alone");
    stage.run(30);
    stage.press("trialStart");
    stage.run(7);
    stage.tell("hand warm-with-fingers rock");
    stage.run(1);
    stage.shoot(QStringLiteral("raw-test"));
    stage.tell("hand off");
    stage.run(5);
    stage.press("tabSignal");
}

/// Hum, looked at fast enough to be told.
void sick_signal(Theatre& stage) {
    stage.show("rock", 3);
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

/// The question tree, with what the bench answers by itself.
void question_tree(Theatre& stage) {
    stage.show("pool-water", 3);
    stage.tell("fault probe-lost", "shed");
    stage.run(120);
    stage.press("tabFault");
    stage.run(1);
    stage.press("answer1");
    stage.shoot(QStringLiteral("raw-faults"));
    stage.tell("fault none", "shed");
    stage.run(60);
    stage.press("tabSignal");
}

/// The fields of each kind of link, not connected.
void cut_links(Theatre& stage) {
    for (const auto& [board, reading] : {std::pair{"shed", "tide-pool"}, {"beacon-log", "trailer-tyre"}}) {
        stage.session().edit(QStringLiteral("cut"),
                             [b = board](Bench& bench) { bench.board(b)->link.simulated = false; });
        stage.show(reading, 3);
        stage.press("linkClose");
        stage.settle();
        stage.press("linkMore");
        stage.shoot(QStringLiteral("links-") + QLatin1String(board));
    }
}

void mended_finding(Theatre& stage) {
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

void deaf_ranger(Theatre& stage) {
    stage.show("tide-pool", 3);
    stage.tell("fault no-echo", "shed");
    stage.run(60);
    stage.shoot(QStringLiteral("raw-tide"));
}

} // namespace

/// Each with a reading that shows it best; Calibrate comes later, because its baths are in the record then.
Scenes stop_scenes() {
    Scenes out = {plain_scene(QStringLiteral("quantity"), "cistern", 0, true),
                  plain_scene(QStringLiteral("sensor"), "tide-pool", 1, true),
                  plain_scene(QStringLiteral("wiring"), "tide-pool", 2, true),
                  plain_scene(QStringLiteral("raw"), "hut-air", 3, true),
                  plain_scene(QStringLiteral("convert"), "conductivity", 4, true),
                  plain_scene(QStringLiteral("watch"), "cistern", 6, true)};
    for (const char* reading : {"rain", "pulse", "jetty", "hut-air", "rock"})
        out.push_back(plain_scene(QStringLiteral("watch-") + QLatin1String(reading), reading, 6));
    for (const char* reading : {"rain", "pulse", "jetty", "hut-wind"})
        out.push_back(
            tab_scene(QStringLiteral("convert-") + QLatin1String(reading), reading, 4, "tabPulses", "tabSteps"));
    for (const char* tab : {"watchTabBands", "watchTabTold", "watchTabTelling"})
        out.push_back(tab_scene(QLatin1String(tab), "cistern", 6, tab, "watchTabRules"));
    out.push_back({QStringLiteral("large-text"), true, large_text});
    out.push_back(tab_scene(QStringLiteral("watch-loads"), "bed-4", 6, "watchTabLoads", "watchTabRules", true));
    out.push_back({QStringLiteral("watch-load"), false, load_dialog});
    out.push_back({QStringLiteral("watch-rule"), false, rule_dialog});
    out.push_back({QStringLiteral("watch-corridor"), false, corridor_dialog});
    out.push_back(plain_scene(QStringLiteral("wiring-simple"), "hut-air", 2));
    out.push_back(plain_scene(QStringLiteral("wiring-converter"), "bed-2", 2));
    out.push_back(tab_scene(QStringLiteral("wiring-board"), "cistern", 2, "loomBoard", "loomReading"));
    return out;
}

Scenes convert_scenes() {
    Scenes out = {plain_scene(QStringLiteral("quantity-rain"), "rain", 0),
                  plain_scene(QStringLiteral("convert-flue"), "stove-flue", 4), // its cold end is another reading
                  {QStringLiteral("convert-formula"), false, own_formula}};
    const struct {
        const char *view, *reading, *tab;
    } tabs[] = {{"convert-constants", "tide-pool", "tabConstants"}, {"convert-table", "cistern", "tabMeter"},
                {"convert-sender", "tide-pool", "tabSender"},       {"convert-hut", "hut-air", "tabSteps"},
                {"convert-tide", "tide-pool", "tabSteps"},          {"convert-cistern", "cistern", "tabSteps"}};
    for (const auto& tab : tabs)
        out.push_back(tab_scene(QLatin1String(tab.view), tab.reading, 4, tab.tab, "tabSteps"));
    return out;
}

Scenes raw_scenes() {
    return {{QStringLiteral("raw-test"), false, stimulus_test},
            {QStringLiteral("raw-sick"), false, sick_signal},
            {QStringLiteral("raw-faults"), false, question_tree}};
}

Scenes last_scenes() {
    return {{QStringLiteral("links"), false, cut_links},
            {QStringLiteral("mended"), false, mended_finding},
            plain_scene(QStringLiteral("raw-pulse"), "pulse", 3),
            {QStringLiteral("raw-tide"), false, deaf_ranger},
            plain_scene(QStringLiteral("plan"), "rock", 1)};
}

} // namespace cognitum
