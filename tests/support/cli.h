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

/// One of the project's programs.
inline Run beside(const char* program, const QStringList& arguments, const QByteArray& input = {},
                  int most_ms = 150000) {
    QProcess process;
    process.start(QStringLiteral(COGNITUM_BIN_DIR "/") + QLatin1String(program), arguments);
    process.write(input);
    process.closeWriteChannel();
    process.waitForFinished(most_ms);
    return {process.exitCode(), process.readAllStandardOutput(), process.readAllStandardError()};
}

inline Run cli(const QStringList& arguments, const QByteArray& input = {}) {
    return beside("cognitum-cli", arguments, input, 60000);
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
