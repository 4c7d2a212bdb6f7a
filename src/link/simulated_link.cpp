#include "link/simulated_link.h"

#include "link/serial_link.h"

#include <QCoreApplication>
#include <QDir>
#include <QStandardPaths>
#include <QTcpServer>
#include <csignal>
#include <fcntl.h>
#include <pwd.h>
#include <sys/mman.h>
#include <sys/prctl.h>
#include <unistd.h>

namespace cognitum {

namespace {

QString own_user_name() {
    const passwd* own = ::getpwuid(::geteuid());
    return own ? QString::fromLocal8Bit(own->pw_name) : QStringLiteral("root");
}

/// It gets a signal when this program ends, however it does; also when that was before it began. `passed_on`: an
/// open file that it inherits; -1: none.
void end_with_this_program(QProcess& process, int signal, int passed_on = -1) {
    process.setChildProcessModifier([signal, passed_on, own = ::getpid()] {
        ::prctl(PR_SET_PDEATHSIG, signal);
        if (::getppid() != own) ::_exit(0);
        if (passed_on >= 0) ::fcntl(passed_on, F_SETFD, 0);
    });
}

/// Ends a simulated board, and takes away where it compiled its program, if it was at that (named so by
/// src/machine/workplace.cpp, which is linked to nothing of the window).
void kill_board(QProcess& process) {
    const qint64 id = process.processId();
    process.kill();
    process.waitForFinished(1000);
    if (id > 0) QDir(QDir::temp().filePath(QStringLiteral("cognitum-processor-%1").arg(id))).removeRecursively();
}

} // namespace

LocalBroker::~LocalBroker() {
    kill();
}

void LocalBroker::kill() {
    m_process.kill();
    m_process.waitForFinished(3000);
}

int LocalBroker::port() {
    if (m_process.state() == QProcess::Running) return m_port;
    const QString program = QStandardPaths::findExecutable(
        QStringLiteral("mosquitto"), {QStringLiteral("/usr/sbin"), QStringLiteral("/usr/bin")});
    if (program.isEmpty()) {
        m_trouble =
            Link::tr("There is no MQTT broker on this computer for the simulated board. Run tools/install.");
        return 0;
    }
    if (m_port == 0) { // the same port again after it was killed, so that links find it
        QTcpServer probe;
        probe.listen(QHostAddress::LocalHost);
        m_port = probe.serverPort();
    }
    m_process.setStandardErrorFile(QProcess::nullDevice());
    m_process.setStandardOutputFile(QProcess::nullDevice());
    // Its settings are all there before it begins: waiting for them on its standard input, it would go on without
    // them when this program is killed, as another user, and would live on, because who changes its user forgets
    // whose child it is.
    const QByteArray settings =
        QStringLiteral("listener %1 127.0.0.1\nallow_anonymous true\npersistence false\nuser %2\n")
            .arg(m_port)
            .arg(own_user_name())
            .toUtf8();
    const int memory = ::memfd_create("broker settings", MFD_CLOEXEC); // no file is left behind
    if (memory < 0 || ::write(memory, settings.constData(), static_cast<std::size_t>(settings.size())) !=
                          static_cast<ssize_t>(settings.size())) {
        if (memory >= 0) ::close(memory);
        m_trouble = Link::tr("The MQTT broker could not be started: %1.").arg(qt_error_string());
        return 0;
    }
    end_with_this_program(m_process, SIGKILL, memory);
    m_process.start(program, {QStringLiteral("-c"), QStringLiteral("/proc/self/fd/%1").arg(memory)});
    ::close(memory);
    m_process.closeWriteChannel();
    if (!m_process.waitForStarted(3000)) {
        m_trouble = Link::tr("The MQTT broker could not be started: %1.").arg(m_process.errorString());
        return 0;
    }
    m_trouble.clear();
    return m_port;
}

SimulatedBoard::SimulatedBoard(QStringList arguments, QObject* parent)
    : QObject(parent), m_arguments(std::move(arguments)) {
    m_process.setParent(this);
    end_with_this_program(m_process, SIGTERM); // it has something to put away
    m_process.setProcessEnvironment(QProcessEnvironment::systemEnvironment());
    connect(&m_process, &QProcess::readyReadStandardOutput, this, [this] {
        while (m_process.canReadLine())
            emit ready(QString::fromUtf8(m_process.readLine()).trimmed());
    });
    connect(&m_process, &QProcess::finished, this, &SimulatedBoard::ended);
    connect(&m_process, &QProcess::errorOccurred, this, [this](QProcess::ProcessError error) {
        if (error == QProcess::FailedToStart)
            emit failed(
                tr("The simulated board could not be started: %1. Build cognitum-simboard beside this program.")
                    .arg(m_process.program()));
    });
}

SimulatedBoard::~SimulatedBoard() {
    m_process.disconnect(this);
    kill_board(m_process);
}

void SimulatedBoard::start() {
    if (m_process.state() != QProcess::NotRunning) return;
    m_process.start(QDir(QCoreApplication::applicationDirPath()).filePath(QStringLiteral("cognitum-simboard")),
                    m_arguments + m_more);
}

void SimulatedBoard::stop() {
    kill_board(m_process);
}

void SimulatedBoard::command(const QByteArray& line) {
    m_process.write(line);
}

void SimulatedBoard::setToken(const QString& token) {
    QProcessEnvironment environment = QProcessEnvironment::systemEnvironment();
    environment.insert(QStringLiteral("COGNITUM_TOKEN"), token);
    m_process.setProcessEnvironment(environment);
}

SimulatedLink::SimulatedLink(const LinkPlan& plan, QStringList arguments, std::function<QStringList()> more,
                             QObject* parent)
    : Link(parent), m_arguments(std::move(arguments)), m_more(std::move(more)) {
    LinkPlan wire;
    wire.kind = LinkKind::serial;
    wire.baud = plan.baud;
    wire.find_speed = plan.find_speed;
    m_link = std::make_unique<SerialLink>(wire);
    forward();
}

SimulatedLink::SimulatedLink(QStringList arguments, std::unique_ptr<Link> link, std::function<QStringList()> where,
                             const QString& token, QObject* parent)
    : Link(parent), m_link(std::move(link)), m_arguments(std::move(arguments)), m_where(std::move(where)) {
    m_token = token;
    forward();
}

void SimulatedLink::forward() {
    connect(m_link.get(), &Link::bytes, this, &Link::bytes);
    connect(m_link.get(), &Link::message, this, &Link::message);
    connect(m_link.get(), &Link::speedFound, this, &Link::speedFound);
    connect(m_link.get(), &Link::stateChanged, this, [this](LinkState state, const QString& reason) {
        if (m_wanted) emit stateChanged(state, reason);
    });
}

void SimulatedLink::start() {
    m_wanted = true;
    if (m_where) m_link->start();
    m_board = std::make_unique<SimulatedBoard>(m_where ? m_arguments + m_where() : m_arguments);
    if (!m_token.isEmpty()) m_board->setToken(m_token);
    connect(m_board.get(), &SimulatedBoard::failed, this,
            [this](const QString& reason) { emit stateChanged(LinkState::lost, reason); });
    connect(m_board.get(), &SimulatedBoard::ready, this, [this](const QString& place) {
        auto* serial = qobject_cast<SerialLink*>(m_link.get());
        if (!serial || m_where) return;
        m_place = place;
        serial->setPort(place);
        serial->start();
    });
    // The number of its terminal is given to the next that is opened: another board's, or somebody's shell.
    connect(m_board.get(), &SimulatedBoard::ended, this, [this] {
        if (auto* serial = qobject_cast<SerialLink*>(m_link.get()); serial && !m_where) serial->unplug();
    });
    startBoard();
}

void SimulatedLink::startBoard() {
    if (m_more) m_board->setMore(m_more());
    m_board->start();
}

void SimulatedLink::stop() {
    m_wanted = false;
    m_link->stop();
    if (m_board) m_board->stop();
    emit stateChanged(LinkState::closed, {});
}

void SimulatedLink::send(const QByteArray& bytes) {
    // Where the far end has no way back, its bench has: faults and probes are its business, not the board's.
    if (m_where && m_board)
        m_board->command(bytes);
    else
        m_link->send(bytes);
}

bool SimulatedLink::tellState(const QString& name, const QByteArray& line, const QString& topic) {
    return m_link->tellState(name, line, topic); // as any board hears it
}

void SimulatedLink::setPlugged(bool plugged) {
    if (!m_board) return;
    if (plugged)
        startBoard();
    else
        m_board->stop();
}

} // namespace cognitum
