// A maker's program, read by cognitum-reader beside this program. In the interface's thread.
#pragma once

#include "core/program/read/read_program.h"
#include "session/program/beside_process.h"

#include <QStringList>

namespace cognitum {

struct ProgramText {
    QString name; ///< "hut.ino"
    QString text;
};

struct ProgramReadReport {
    ProgramRead read;
    QString trouble; ///< it could not be read: why, and what to do; empty: it was
};

class ProgramReader : public QObject {
    Q_OBJECT

  public:
    explicit ProgramReader(QObject* parent = nullptr);
    /// Ends what is being read, and reads this.
    void start(const Bench& bench, const std::string& board, const std::vector<ProgramText>& files);
    [[nodiscard]] bool runs() const { return m_process.runs(); }

  signals:
    void finished(const ProgramReadReport& report);

  private:
    void end(const BesideProcess::End& end);
    BesideProcess m_process;
};

} // namespace cognitum
