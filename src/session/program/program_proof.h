// The proof of a board's program, run by cognitum-processor beside this program. In the interface's thread.
#pragma once

#include "core/base/json_reader.h"
#include "core/program/program.h"
#include "session/program/program_reader.h"

#include <map>

namespace cognitum {

struct ProofReportRow {
    std::string reading; ///< id
    int points = 0, held = 0;
    double given = 0, truth = 0, said = 0, off_by = 0; ///< at the point that is off the most for its step
    QString sent;
};

/// Something that happened to the board besides measuring.
struct ProofDisturbance {
    bool held = false;
    QString text;
};

struct ProofReport {
    bool holds = false;
    std::vector<ProofReportRow> rows;
    std::vector<std::pair<std::string, QString>> not_proven;      ///< reading and why
    int flash = 0, flash_there = 0, memory = 0, memory_there = 0; ///< bytes
    double longest_loop_ms = 0;
    int restarts = 0;
    bool evaluated = false; ///< by the types of its board, and not compiled: no flash and memory are known
    std::vector<ProofDisturbance> disturbed;
    /// Of a maker's own program: what it sent of each reading at the points at which it was read.
    std::map<std::string, std::vector<QString>> sent_of;
    QString stopped; ///< why an evaluated one went no further
    QString trouble; ///< it could not be run: why, and what to do; empty: it was
};

class ProgramProof : public QObject {
    Q_OBJECT

  public:
    explicit ProgramProof(QObject* parent = nullptr);
    /// Ends a proof that runs, and begins this one.
    void start(const Bench& bench, const Catalog& catalog, const std::string& board, const ProgramOptions& options);
    /// Compiles and runs somebody's own program, of which these are the numbers that were found when it was read.
    void startOwn(const Bench& bench, const std::string& board, const std::vector<ProgramText>& files,
                  const std::vector<ReadPath>& numbers);
    void stop() { m_process.stop(); }
    [[nodiscard]] bool runs() const { return m_process.runs(); }

  signals:
    void finished(const ProofReport& report);

  private:
    void end(const BesideProcess::End& end);
    void findSent(const Json& json, ProofReport& out) const;
    BesideProcess m_process;
    std::vector<ReadPath> m_numbers; ///< of somebody's own program; empty: it is the plan's
};

} // namespace cognitum
