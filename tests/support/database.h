// A PostgreSQL server of the test's own, on loopback, with data in a folder of its own.
#pragma once

#include <QDir>
#include <QFile>
#include <QProcess>
#include <QTcpServer>
#include <QTemporaryDir>
#include <QTest>
#include <unistd.h>

namespace cognitum::test {

class Database {
  public:
    Database() {
        QFile::setPermissions(m_folder.path(), QFileDevice::Permissions(0x7755)); // another user runs it
        QDir().mkpath(data());
        if (::geteuid() == 0 && ::chown(data().toUtf8().constData(), nobody, nobody) != 0) qFatal("chown");
        QProcess make;
        run(make, "initdb", {"-D", data(), "-A", "trust", "-U", "club", "--no-sync", "-E", "UTF8"});
        make.waitForFinished(60000);
        if (make.exitCode() != 0) qFatal("initdb: %s", make.readAllStandardError().constData());
        QTcpServer probe; // a port that is free now
        probe.listen(QHostAddress::LocalHost);
        m_port = probe.serverPort();
        probe.close();
    }
    ~Database() { kill(); }

    void start() {
        // The children of one that was killed may hold its memory for a moment: then it ends, and is started again.
        const auto answers = [this] {
            if (m_server.state() == QProcess::NotRunning)
                run(m_server, "postgres",
                    {"-D", data(), "-p", QString::number(m_port), "-c", "listen_addresses=127.0.0.1", "-c",
                     "unix_socket_directories=", "-c", "fsync=off"});
            return query("SELECT 1") == "1";
        };
        QTRY_VERIFY_WITH_TIMEOUT(answers(), 40000);
    }
    /// As a plug that is pulled.
    void kill() {
        if (m_server.state() == QProcess::NotRunning) return;
        m_server.kill();
        m_server.waitForFinished(10000);
        QFile::remove(data() + "/postmaster.pid");
    }
    [[nodiscard]] std::string address() const {
        return "postgresql://club@127.0.0.1:" + std::to_string(m_port) + "/postgres";
    }
    /// Rows of an answer, values apart by |.
    QByteArray query(const QString& sql) {
        QProcess psql;
        psql.start(bin("psql"), {QString::fromStdString(address()), "-At", "-c", sql});
        psql.waitForFinished(20000);
        return psql.readAllStandardOutput().trimmed();
    }

  private:
    static constexpr unsigned nobody = 65534;
    [[nodiscard]] QString data() const { return m_folder.filePath("data"); }
    static QString bin(const QString& program) {
        for (const QString& version : QDir("/usr/lib/postgresql").entryList(QDir::Dirs | QDir::NoDotAndDotDot))
            if (const QString path = "/usr/lib/postgresql/" + version + "/bin/" + program; QFile::exists(path))
                return path;
        return program;
    }
    /// The server refuses to run for the system's administrator.
    static void run(QProcess& process, const QString& program, const QStringList& arguments) {
        if (::geteuid() == 0)
            process.start("setpriv", QStringList{"--reuid=65534", "--regid=65534", "--clear-groups", bin(program)} +
                                         arguments);
        else
            process.start(bin(program), arguments);
        process.waitForStarted(10000);
    }
    QTemporaryDir m_folder;
    QProcess m_server;
    quint16 m_port = 0;
};

} // namespace cognitum::test
