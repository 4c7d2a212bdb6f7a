// Runs cognitum-cli as a script would.
#pragma once

#include "core/base/json_reader.h"

#include <QFile>
#include <QProcess>
#include <QTemporaryDir>

namespace cognitum::test {

struct Run {
    int code = -1;
    QByteArray out, err;
    [[nodiscard]] Json json() const { return Json::parse(out.toStdString(), nullptr, false); }
};

inline Run cli(const QStringList& arguments, const QByteArray& input = {}) {
    QProcess process;
    process.start(QStringLiteral(COGNITUM_BIN_DIR "/cognitum-cli"), arguments);
    process.write(input);
    process.closeWriteChannel();
    process.waitForFinished(60000);
    return {process.exitCode(), process.readAllStandardOutput(), process.readAllStandardError()};
}

/// Files for a program to read.
class Scratch {
  public:
    QString write(const char* name, const QByteArray& text) {
        QFile file(m_folder.filePath(QLatin1String(name)));
        if (file.open(QIODevice::WriteOnly)) file.write(text);
        return file.fileName();
    }

  private:
    QTemporaryDir m_folder;
};

} // namespace cognitum::test
