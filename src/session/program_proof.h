// The proof of a board's program, run by cognitum-processor beside this program. In the interface's thread.
#pragma once

#include "core/program/program.h"
#include "session/beside_process.h"

namespace cognitum {

struct ProofReportRow {
    std::string reading; ///< id
    int points = 0, held = 0;
    double given = 0, truth = 0, said = 0, off_by = 0; ///< at the point that is off the most for its step
    QString sent;
};

struct ProofReport {
    bool holds = false;
    std::vector<ProofReportRow> rows;
    std::vector<std::pair<std::string, QString>> not_proven;      ///< reading and why
    int flash = 0, flash_there = 0, memory = 0, memory_there = 0; ///< bytes
    double longest_loop_ms = 0;
    int restarts = 0;
    bool evaluated = false; ///< by the types of its board, and not compiled: no flash and memory are known
    QString stopped;        ///< why an evaluated one went no further
    QString trouble;        ///< it could not be run: why, and what to do; empty: it was
};

class ProgramProof : public QObject {
    Q_OBJECT

  public:
    explicit ProgramProof(QObject* parent = nullptr);
    /// Ends a proof that runs, and begins this one.
    void start(const Bench& bench, const Catalog& catalog, const std::string& board, const ProgramOptions& options);
    [[nodiscard]] bool runs() const { return m_process.runs(); }

  signals:
    void finished(const ProofReport& report);

  private:
    void end(const BesideProcess::End& end);
    BesideProcess m_process;
};

} // namespace cognitum
