#include "link/simulated_link.h"

#include <QCoreApplication>
#include <QDir>

namespace cognitum {

SimulatedLink::SimulatedLink(QStringList arguments, QObject* parent)
    : Link(parent), m_arguments(std::move(arguments)), m_serial({}, 115200) {
    m_board.setParent(this);
    m_serial.setParent(this);
    m_arguments.append(QStringLiteral("--die-with-parent"));
    connect(&m_serial, &Link::bytes, this, &Link::bytes);
    connect(&m_serial, &Link::stateChanged, this, [this](LinkState state, const QString& reason) {
        if (m_wanted) emit stateChanged(state, reason);
    });
    connect(&m_board, &QProcess::readyReadStandardOutput, this, &SimulatedLink::onOutput);
    connect(&m_board, &QProcess::errorOccurred, this, [this](QProcess::ProcessError error) {
        if (error == QProcess::FailedToStart)
            emit stateChanged(LinkState::lost,
                              tr("The simulated board could not be started: %1. Build cognitum-simboard "
                                 "beside this program.")
                                  .arg(m_board.program()));
    });
}

SimulatedLink::~SimulatedLink() {
    m_board.disconnect(this);
    m_board.kill();
    m_board.waitForFinished(1000);
}

void SimulatedLink::start() {
    m_wanted = true;
    setPlugged(true);
}

void SimulatedLink::stop() {
    m_wanted = false;
    m_serial.stop();
    setPlugged(false);
    emit stateChanged(LinkState::closed, {});
}

void SimulatedLink::setPlugged(bool plugged) {
    if (!plugged) {
        m_board.kill();
        m_board.waitForFinished(1000);
        return;
    }
    if (m_board.state() != QProcess::NotRunning) return;
    m_board.start(QDir(QCoreApplication::applicationDirPath()).filePath(QStringLiteral("cognitum-simboard")),
                  m_arguments);
}

void SimulatedLink::onOutput() {
    if (!m_board.canReadLine()) return;
    m_port = QString::fromUtf8(m_board.readLine()).trimmed();
    m_serial.setPort(m_port);
    m_serial.start();
}

} // namespace cognitum
