#include "session/live/worker.h"

#include "core/plan/placed.h"
#include "core/plan/signal_about.h"
#include "link/inbox.h"
#include "session/live/ingest.h"
#include "session/recorder/live_server.h"
#include "store/figures/reading_figures.h"
#include "store/file/data_files.h"

#include <QThread>

namespace cognitum {

struct Worker::Thread {
    Inbox<std::function<void()>> tasks;
    QThread thread;
    Ingest* ingest = nullptr; ///< lives in that thread
};

Worker::Worker(Clock clock, const QStringList& simulation_arguments, bool open_links)
    : m_thread(std::make_unique<Thread>()) {
    m_thread->ingest =
        new Ingest({&m_share, &m_lines, &m_watch}, std::move(clock), simulation_arguments, open_links);
    connect(m_thread->ingest, &Ingest::fileReplaced, this, &Worker::fileReplaced);
    connect(m_thread->ingest, &Ingest::said, this, &Worker::said);
    connect(m_thread->ingest, &Ingest::told, this, &Worker::told);
    connect(m_thread->ingest, &Ingest::speedFound, this, &Worker::speedFound);
    m_thread->ingest->moveToThread(&m_thread->thread);
    m_thread->thread.setObjectName(QStringLiteral("ingest"));
    m_thread->thread.start();
}

Worker::~Worker() {
    askNow([this] { delete m_thread->ingest; });
    m_thread->thread.quit();
    m_thread->thread.wait();
}

void Worker::hold() {
    m_held = true;
}

void Worker::begin() {
    if (!m_held) return;
    m_held = false;
    wake();
}

void Worker::wake() {
    QMetaObject::invokeMethod(
        m_thread->ingest,
        [this] {
            for (const auto& waiting : m_thread->tasks.drain())
                waiting();
        },
        Qt::QueuedConnection);
}

void Worker::ask(std::function<void()> task) {
    m_thread->tasks.push(std::move(task), 0, [this] {
        if (!m_held) wake();
    });
}

void Worker::askNow(std::function<void()> task) {
    begin();
    std::promise<void> done;
    ask([&] {
        task();
        done.set_value();
    });
    done.get_future().wait();
}

bool Worker::attach(const FileIdentity& file) {
    auto client = std::make_unique<LiveClient>(m_share, m_lines);
    if (!client->attach(file)) return false;
    connect(client.get(), &LiveClient::lost, this, &Worker::recorderLost, Qt::QueuedConnection);
    m_recorder = std::move(client);
    return true;
}

void Worker::detach() {
    m_recorder.reset();
}

void Worker::wish(const LiveWish& wish) {
    if (m_recorder) m_recorder->send(wish);
}

void Worker::setPlan(const Bench& plan, const QString& path, const Cards& cards) {
    ask([this, plan, path, cards] {
        const Catalog& catalog = cards.get()->catalog;
        Ingest::Facts facts;
        for (const Reading& reading : plan.readings)
            facts[reading.id] = raw_rules(place(plan, catalog, reading));
        const DoubtOf doubt_of = [&](const Reading& reading, double value) {
            return 2 * value_u(plan, catalog, reading, value, m_thread->ingest->now());
        };
        m_thread->ingest->setPlan(plan, facts, doubt_of, path);
    });
}

void Worker::startRecording() {
    if (m_recorder) return wish({LiveWish::Kind::start_recording});
    ask([this] { m_thread->ingest->startRecording(); });
}

void Worker::stopRecording() {
    if (m_recorder) return wish({LiveWish::Kind::stop_recording});
    ask([this] { m_thread->ingest->stopRecording(); });
}

std::uint64_t Worker::endRecordingNow() {
    if (!m_recorder) askNow([this] { m_thread->ingest->stopRecording(); }); // a recorder goes on
    return m_share.copy().recording.saved;
}

void Worker::sendCommand(const std::string& board, const QString& line) {
    if (m_recorder) return wish({LiveWish::Kind::send, QString::fromStdString(board), line});
    ask([this, id = QString::fromStdString(board), line] { m_thread->ingest->sendCommand(id, line); });
}

void Worker::setPlugged(const std::string& board, bool plugged) {
    if (m_recorder) return wish({LiveWish::Kind::plug, QString::fromStdString(board), {}, {}, plugged ? 1.0 : 0.0});
    ask([this, id = QString::fromStdString(board), plugged] { m_thread->ingest->setPlugged(id, plugged); });
}

void Worker::allowWide(const std::string& board) {
    if (m_recorder) return wish({LiveWish::Kind::allow_wide, QString::fromStdString(board)});
    ask([this, id = QString::fromStdString(board)] { m_thread->ingest->allowWide(id); });
}

void Worker::logIn(const std::string& board, const QString& user, const QString& password) {
    if (m_recorder) return wish({LiveWish::Kind::log_in, QString::fromStdString(board), user, password});
    ask([this, id = QString::fromStdString(board), user, password] {
        m_thread->ingest->logIn(id, user, password);
    });
}

void Worker::enterByHandNow(const std::string& reading, double value, double doubt) {
    if (m_recorder) return wish({LiveWish::Kind::by_hand, QString::fromStdString(reading), {}, {}, value, doubt});
    askNow([this, id = QString::fromStdString(reading), value, doubt] {
        m_thread->ingest->takeByHand(id, value, doubt);
    });
}

void Worker::seen(const std::string& rule) {
    if (m_recorder) return wish({LiveWish::Kind::seen, QString::fromStdString(rule)});
    ask([this, id = QString::fromStdString(rule)] { m_thread->ingest->seen(id); });
}

void Worker::handNow(const std::string& control, std::optional<bool> on, TimeUs until) {
    const QString word = !on ? QString() : *on ? QStringLiteral("on") : QStringLiteral("off");
    if (m_recorder)
        return wish({LiveWish::Kind::hand, QString::fromStdString(control), word, {}, static_cast<double>(until)});
    askNow([this, control, on, until] { m_thread->ingest->hand(control, on, until); });
}

void Worker::passTimeNow() {
    askNow([this] { m_thread->ingest->passTime(); });
}

void Worker::injectBytesNow(const std::string& board, const QByteArray& bytes) {
    askNow([this, id = QString::fromStdString(board), bytes] { m_thread->ingest->injectBytes(id, bytes); });
}

void Worker::injectMessageNow(const std::string& board, const LinkMessage& message) {
    askNow([this, id = QString::fromStdString(board), message] { m_thread->ingest->injectMessage(id, message); });
}

void Worker::letGoOfFileNow() {
    askNow([this] { m_thread->ingest->letGoOfFile(); });
}

void Worker::shutDownNow() {
    askNow([this] { m_thread->ingest->shutDown(); });
}

} // namespace cognitum
