#include "session/recorder/one_window.h"

#include "store/file/data_files.h"

#include <QCryptographicHash>
#include <QDataStream>
#include <QDir>
#include <QFileInfo>
#include <QLocalSocket>
#include <QStandardPaths>

namespace cognitum {

namespace {

constexpr int patience_ms = 1000;
constexpr qint64 longest_message = 1 << 16;
const QByteArray heard = "heard";

/// Windows that keep their data in one folder are one; tests and other accounts have folders of their own.
QString meeting_place() {
    const QByteArray folder = QByteArray::fromStdString(own_data_folder());
    const QByteArray print = QCryptographicHash::hash(folder, QCryptographicHash::Sha256).toHex().left(12);
    return QDir(QStandardPaths::writableLocation(QStandardPaths::RuntimeLocation))
        .filePath(QStringLiteral("cognitum-window-") + QString::fromLatin1(print));
}

} // namespace

bool OneWindow::handOver(const QStringList& paths) {
    QLocalSocket socket;
    socket.connectToServer(meeting_place());
    if (!socket.waitForConnected(patience_ms)) return false;
    QString token = qEnvironmentVariable("XDG_ACTIVATION_TOKEN");
    if (token.isEmpty()) token = qEnvironmentVariable("DESKTOP_STARTUP_ID");
    QByteArray message;
    QDataStream out(&message, QIODevice::WriteOnly);
    QStringList whole; // the other program may stand in another folder
    for (const QString& path : paths)
        whole << QFileInfo(path).absoluteFilePath();
    out << whole << token;
    socket.write(message);
    if (!socket.waitForBytesWritten(patience_ms)) return false;
    while (socket.bytesAvailable() < heard.size())
        if (!socket.waitForReadyRead(patience_ms)) return false;
    return socket.readAll().startsWith(heard);
}

bool OneWindow::listen() {
    // To listen at a name that another listens at would take it away from that one without a word.
    QLocalSocket other;
    other.connectToServer(meeting_place());
    if (other.waitForConnected(patience_ms)) return false;
    QLocalServer::removeServer(meeting_place()); // left by one that was killed
    connect(&m_server, &QLocalServer::newConnection, this, &OneWindow::greet);
    m_server.setSocketOptions(QLocalServer::UserAccessOption);
    return m_server.listen(meeting_place());
}

void OneWindow::greet() {
    while (QLocalSocket* socket = m_server.nextPendingConnection()) {
        connect(socket, &QLocalSocket::disconnected, socket, &QObject::deleteLater);
        connect(socket, &QLocalSocket::readyRead, this, [this, socket] {
            if (socket->bytesAvailable() > longest_message) return socket->abort();
            QDataStream in(socket);
            in.startTransaction();
            QStringList paths;
            QString token;
            in >> paths >> token;
            if (!in.commitTransaction()) return; // the rest is still on its way
            socket->write(heard);
            socket->flush();
            socket->disconnectFromServer();
            emit asked(paths, token);
        });
    }
}

} // namespace cognitum
