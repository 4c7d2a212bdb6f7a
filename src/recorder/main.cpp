// cognitum-recorder BENCH: listens, records, watches and tells without a window and without a display. A window on
// the same bench attaches to it.
#include "core/base/phrase.h"
#include "session/language.h"
#include "session/recorder/end_on_signal.h"
#include "session/recorder/live_server.h"
#include "session/session.h"
#include "store/samples/samples.h"

#include <QCommandLineParser>
#include <QCoreApplication>
#include <QTimer>
#include <cstdio>

using namespace cognitum;

namespace {

constexpr TimeUs worth_saying = minute_us; ///< without a line

void say(const QString& sentence) {
    std::fprintf(stderr, "cognitum-recorder: %s\n", qUtf8Printable(sentence));
}

/// Time of the newest line of any reading; empty: nothing was recorded yet.
std::optional<TimeUs> newest_line(const Session& session) {
    std::optional<TimeUs> out;
    auto file = BenchFile::open(session.path().toStdString(), Access::read);
    if (!file) return out;
    for (const Reading& reading : session.bench().readings)
        if (const auto all = extent(*file, reading.id); all && all->n > 0)
            out = std::max(out.value_or(all->last), all->last);
    return out;
}

class Recorder : public QObject {
  public:
    Recorder() : m_server(m_session) {
        connect(&m_session, &Session::trouble, this, [](const QString& sentence) { say(sentence); });
        connect(&m_session.messenger(), &Messenger::told, this,
                [](const ToldNotice& notice) { say(notice.title + QStringLiteral(". ") + notice.text); });
        // Whoever had the bench may let go of it.
        connect(&m_session, &Session::planChanged, this, &Recorder::begin);
        connect(&m_server, &LiveServer::endWished, this, &Recorder::end);
    }

    /// False: it cannot be recorded.
    bool open(const QString& path) {
        if (const auto opened = m_session.openBench(path); !opened) {
            say(QString::fromStdString(opened.error().text()));
            return false;
        }
        if (m_session.isAttached()) {
            say(QCoreApplication::translate("Recorder", "Another recorder has this bench already."));
            return false;
        }
        begin();
        return true;
    }

    void end() {
        m_ends = true;
        const std::uint64_t samples = m_session.worker().endRecordingNow();
        say(QCoreApplication::translate("Recorder", "Told to end; %1 samples of this recording are saved.")
                .arg(samples));
        m_session.closeBench();
        QCoreApplication::quit();
    }

  private:
    void begin() {
        if (m_begun || m_ends || !m_session.lookOnly().isEmpty() || !m_session.isOpen()) return;
        if (m_session.isAttached()) { // another recorder was faster
            m_ends = true;
            return QCoreApplication::exit(1);
        }
        m_begun = true;
        if (const auto identity = identity_of(m_session.path().toStdString()))
            if (const auto listening = m_server.listen(*identity); !listening)
                say(QString::fromStdString(listening.error().text()));
        const auto last = newest_line(m_session);
        if (last && m_session.now() - *last > worth_saying) {
            const auto missing = [from = iso_time(*last), to = iso_time(m_session.now())] {
                return phrase("Nothing was recorded from {} to {}.", from, to);
            };
            m_session.note("", log_kind::recording, missing);
            say(QString::fromStdString(missing()));
        }
        m_session.worker().startRecording();
        say(QCoreApplication::translate("Recorder", "Records %1.").arg(m_session.path()));
    }

    Session m_session;
    LiveServer m_server;
    bool m_begun = false, m_ends = false;
};

} // namespace

int main(int argc, char** argv) {
    QCoreApplication app(argc, argv);
    QCoreApplication::setApplicationName(QStringLiteral("cognitum")); // the same folders as the window
    QCoreApplication::setOrganizationName(QStringLiteral("cognitum"));
    QCoreApplication::setApplicationVersion(QStringLiteral("0.1.0"));
    QCommandLineParser parser;
    parser.setApplicationDescription(QCoreApplication::translate(
        "Recorder", "Listens to the boards of a bench, records, watches and tells, without a window."));
    parser.addHelpOption();
    parser.addVersionOption();
    parser.addPositionalArgument(QStringLiteral("bench"), QCoreApplication::translate("Recorder", "Bench file."),
                                 QStringLiteral("bench.cognitum"));
    parser.process(app);
    if (parser.positionalArguments().size() != 1) {
        say(QCoreApplication::translate("Recorder", "it needs one bench file: cognitum-recorder BENCH"));
        return 2;
    }
    speak(wished_language()); // its notices are read by a person
    Recorder recorder;
    const EndOnSignal told_to_end([&] { recorder.end(); });
    if (!recorder.open(parser.positionalArguments().constFirst())) return 1;
    return QCoreApplication::exec();
}
