// cognitum: the command line of the window, and the wiring of session, theme and window.
#include "link/desktop_wishes.h"
#include "session/language.h"
#include "session/recorder/end_on_signal.h"
#include "session/recorder/one_window.h"
#include "ui/settings.h"
#include "ui/shell/main_window.h"
#include "ui/window_memory.h"

#include <QApplication>
#include <QBuffer>
#include <QCommandLineParser>
#include <QDBusConnection>
#include <QDir>
#include <QFile>
#include <QImageReader>
#include <QTimer>
#include <algorithm>
#include <array>
#include <cstdio>
#include <cstdlib>
#include <cstring>
#include <fontconfig/fontconfig.h>
#include <functional>
#include <future>
#include <memory>
#include <utility>

namespace {

/// For tools/bench: the program ends, without tidying up, when its window has been painted once.
class EndAfterFirstPaint : public QObject {
  public:
    using QObject::QObject;

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override {
        if (event->type() == QEvent::Paint) QTimer::singleShot(0, [] { std::quick_exit(0); });
        return QObject::eventFilter(watched, event);
    }
};

/// The window first, then what it listens to: links, and the programs behind simulated ones, take time from it, and
/// so does the desktop's bus.
class AfterFirstPaint : public QObject {
  public:
    AfterFirstPaint(QObject* window, std::function<void()> then) : QObject(window), m_then(std::move(then)) {
        window->installEventFilter(this);
        constexpr int longest_ms = 1000; // a window may start without being seen
        QTimer::singleShot(longest_ms, this, [this] { run(); });
    }

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override {
        if (event->type() != QEvent::Paint) return QObject::eventFilter(watched, event);
        watched->removeEventFilter(this);
        QTimer::singleShot(0, this, [this] { run(); });
        return false;
    }

  private:
    void run() {
        if (const auto then = std::exchange(m_then, {})) then();
    }
    std::function<void()> m_then;
};

/// With one of these a start is for a window of its own.
constexpr std::array own_start_options = {"demo", "dark", "scale", "stop", "record", "until-painted"};

/// The desktop's own file dialogs: where Qt has none for this desktop, those of its portal.
void prefer_the_desktops_dialogs() {
    if (qEnvironmentVariableIsSet("QT_QPA_PLATFORMTHEME") || !qEnvironmentVariableIsSet("DBUS_SESSION_BUS_ADDRESS"))
        return;
    const QByteArray desktop = qgetenv("XDG_CURRENT_DESKTOP");
    if (desktop.isEmpty() || desktop.contains("KDE")) return;
    // Where no portal answers, no file could be chosen at all.
    const bool portal =
        QFile::exists(QStringLiteral("/usr/share/dbus-1/services/org.freedesktop.portal.Desktop.service")) &&
        !QDir(QStringLiteral("/usr/share/xdg-desktop-portal/portals"))
             .entryList({QStringLiteral("*.portal")}, QDir::Files)
             .isEmpty();
    if (portal) qputenv("QT_QPA_PLATFORMTHEME", "xdgdesktopportal");
}

/// What the first window waits for, asked for while it is made: the desktop's bus, through which Qt offers it to
/// screen readers, and Qt's readers of pictures, of which it loads all for the first one.
void ask_the_desktop() {
    QDBusConnection::sessionBus();
    QBuffer no_picture;
    no_picture.open(QIODevice::ReadOnly);
    static_cast<void>(QImageReader::imageFormat(&no_picture));
}

/// The bench that a start opens; empty: none, or what was given is something else.
QString bench_of_this_start(bool demo, const QStringList& given) {
    using namespace cognitum;
    if (demo) return MainWindow::demoPath();
    if (!given.isEmpty()) return given.first();
    const auto known = Settings::load().open_last ? recent_benches() : std::vector<RecentBench>();
    return known.empty() ? QString() : known.front().path;
}

} // namespace

int main(int argc, char** argv) {
    using namespace cognitum;
    prefer_the_desktops_dialogs();
    // Help and version need no display: they are answered before one is asked for.
    std::unique_ptr<QCoreApplication> app;
    QCoreApplication::setApplicationName(QStringLiteral("cognitum"));
    QCoreApplication::setOrganizationName(QStringLiteral("cognitum")); // where QSettings keeps what was chosen
    QCoreApplication::setApplicationVersion(QStringLiteral("0.1.0"));
    SessionOptions options;
    std::future<FcBool> fonts;
    std::future<void> asked;
    const auto asks = [&](const char* option) {
        return std::any_of(argv + 1, argv + argc, [&](const char* a) { return std::strcmp(a, option) == 0; });
    };
    if (asks("--help") || asks("-h") || asks("--version") || asks("-v"))
        app = std::make_unique<QCoreApplication>(argc, argv);
    else {
        // Cards and fonts are read beside what Qt asks the display.
        choose_language(wished_language());
        options.cards = begin_reading_cards();
        fonts = std::async(std::launch::async, FcInit);
        app = std::make_unique<QApplication>(argc, argv);
        asked = std::async(std::launch::async, ask_the_desktop);
    }
    QCommandLineParser parser;
    parser.setApplicationDescription(QApplication::tr("From the wire to a number you can trust."));
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addOption({QStringLiteral("demo"),
                      QApplication::tr("Open the demo bench of Whelk Point, with its simulated board.")});
    parser.addOption({QStringLiteral("dark"), QApplication::tr("Dark theme for this start.")});
    parser.addOption({QStringLiteral("scale"), QApplication::tr("Text size for this start, 0.8 to 2."),
                      QStringLiteral("factor")});
    parser.addOption(
        {QStringLiteral("stop"), QApplication::tr("Stop to show first, 1 to 7."), QStringLiteral("number")});
    parser.addOption({QStringLiteral("record"), QApplication::tr("Start to record at once.")});
    QCommandLineOption until_painted(QStringLiteral("until-painted"));
    until_painted.setFlags(QCommandLineOption::HiddenFromHelp); // tools/bench times the start with it
    parser.addOption(until_painted);
    parser.addPositionalArgument(QStringLiteral("bench"), QApplication::tr("Bench file to open."),
                                 QStringLiteral("[bench.cognitum]"));
    // Where process() ends the program, nobody is left to read: tables of the program are gone by then.
    const bool goes_on = parser.parse(QCoreApplication::arguments()) && !parser.isSet(QStringLiteral("help")) &&
                         !parser.isSet(QStringLiteral("help-all")) && !parser.isSet(QStringLiteral("version"));
    if (!goes_on && options.cards.valid()) {
        options.cards.wait();
        fonts.wait();
        asked.wait();
    }
    parser.process(*app);

    const QStringList given = parser.positionalArguments();
    const bool for_this_start =
        std::any_of(own_start_options.begin(), own_start_options.end(),
                    [&](const char* option) { return parser.isSet(QLatin1String(option)); });
    if (!for_this_start && OneWindow::handOver(given)) return 0;

    install_language();
    Theme theme;
    theme.follow(Settings::load(), desktop_was_dark());
    if (parser.isSet(QStringLiteral("scale"))) theme.setScale(parser.value(QStringLiteral("scale")).toDouble());
    if (parser.isSet(QStringLiteral("dark"))) theme.setDark(true);
    Session session(std::move(options));
    const bool demo = parser.isSet(QStringLiteral("demo"));
    if (const QString bench = bench_of_this_start(demo, given); !bench.isEmpty()) session.readAhead(bench);
    theme.apply(); // meanwhile
    session.secrets().setStore(desktop_secrets());
    QObject::connect(&session, &Session::trouble, &session, [](const QString& sentence) {
        std::fprintf(stderr, "cognitum: %s\n", qUtf8Printable(sentence)); // it may be the last that is seen
    });
    MainWindow window(session, theme);
    restore_window(window);
    OneWindow one_window;
    QObject::connect(&one_window, &OneWindow::asked, &window, &MainWindow::askedFromElsewhere);
    one_window.listen();
    bool ends = false;
    const EndOnSignal told_to_end([&] {
        ends = true;
        // A question may stand before the window: quit() is only heard when the program runs.
        if (QWidget* question = QApplication::activeModalWidget()) question->close();
        const bool recorded = session.worker().live().recording.on;
        const std::uint64_t samples = session.worker().endRecordingNow();
        window.close();
        std::fprintf(stderr, "cognitum: told to end; the bench is saved and closed.\n");
        if (recorded)
            std::fprintf(stderr, "cognitum: %llu samples of this recording are saved.\n",
                         static_cast<unsigned long long>(samples));
        QApplication::quit();
    });
    session.worker().hold();
    std::unique_ptr<DesktopWishes> wishes;
    const bool follows_desktop = !parser.isSet(QStringLiteral("dark")) && !parser.isSet(QStringLiteral("scale"));
    new AfterFirstPaint(&window, [&] {
        session.worker().begin();
        if (!follows_desktop) return; // those options hold for this start
        wishes = std::make_unique<DesktopWishes>();
        QObject::connect(wishes.get(), &DesktopWishes::darkWished, &window.context(), &Context::desktopIsDark);
    });
    if (parser.isSet(until_painted)) window.installEventFilter(new EndAfterFirstPaint(&window));
    if (demo)
        window.openDemo(MainWindow::Making::before_the_window); // one layout, with its bench
    else if (!given.isEmpty())
        window.take(given);
    else
        window.openLast();
    if (parser.isSet(QStringLiteral("stop")))
        window.showStop(std::clamp(parser.value(QStringLiteral("stop")).toInt(), 1, 7) - 1);
    if (parser.isSet(QStringLiteral("record")) && session.lookOnly().isEmpty()) session.worker().startRecording();
    if (ends) return 0;
    window.show(); // with its bench, so that nothing is laid out twice
    return QApplication::exec();
}
