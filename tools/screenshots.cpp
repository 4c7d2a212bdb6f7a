// Makes the pictures of docs/screenshots from the demo bench, with a clock that stands still and the simulated
// board inside this program, so that the same source always gives the same pictures. Run it through
// tools/screenshots.
#include "screenshots_theatre.h"

#include "session/language.h"

#include <QCommandLineParser>

using namespace cognitum;

namespace {

void describe(QCommandLineParser& parser) {
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
}

/// What each page says when there is nothing on it.
void shoot_empty(Theatre& stage) {
    stage.newBench({});
    for (const char* page : {"new", "overview", "boards", "logbook", "sessions"}) {
        stage.window().showPage(QLatin1String(page));
        stage.shoot(QStringLiteral("empty-") + QLatin1String(page));
    }
}

} // namespace

int main(int argc, char** argv) {
    QApplication app(argc, argv);
    QApplication::setApplicationName(QStringLiteral("cognitum-screenshots"));
    QCommandLineParser parser;
    describe(parser);
    parser.process(app);
    const QStringList measures = parser.value(QStringLiteral("size")).split(QLatin1Char('x'));
    const QSize size(measures.value(0).toInt(), measures.value(1).toInt());
    const QString out = parser.value(QStringLiteral("out"));
    const QStringList wanted = parser.positionalArguments();

    speak(parser.value(QStringLiteral("language")));
    Theme theme;
    theme.setScale(parser.value(QStringLiteral("scale")).toDouble());
    theme.setDark(parser.isSet(QStringLiteral("dark")));
    theme.apply();
    QDir().mkpath(out);
    Theatre stage(theme, out, size);
    if (wanted.isEmpty() || wanted.contains(QStringLiteral("start"))) stage.shoot(QStringLiteral("start"));
    const bool first = wanted.isEmpty() || wanted.contains(QStringLiteral("first-minutes"));
    if (first || wanted.contains(QStringLiteral("new"))) {
        Theatre beginning(theme, out, size);
        shoot_first_minutes(beginning, first);
    }
    if (wanted.contains(QStringLiteral("empty"))) {
        Theatre empty(theme, out, size);
        shoot_empty(empty);
    }
    stage.openDemo();
    for (const Scenes& scenes : {stop_scenes(), board_scenes(), page_scenes(wanted.isEmpty()), convert_scenes(),
                                 raw_scenes(), calibrate_scenes(), last_scenes()}) {
        stage.window().context().selectReading("hut-air");
        for (const Scene& scene : scenes)
            if (wanted.isEmpty() ? scene.kept : wanted.contains(scene.name)) scene.play(stage);
    }
    return 0;
}
