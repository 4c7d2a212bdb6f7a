// Puts a board's program onto it with a loader of this computer. Which one is a person's own command line: words
// with {port}, {hex} (the compiled program), {source} (its text) and {folder}. No shell reads it. In the
// interface's thread.
#pragma once

#include "core/program/program.h"
#include "session/program/beside_process.h"

namespace cognitum {

class ProgramLoader : public QObject {
    Q_OBJECT

  public:
    explicit ProgramLoader(QObject* parent = nullptr);
    ~ProgramLoader() override;

    struct Job {
        QString command, port;
        std::string board;
        WrittenProgram program;
    };
    /// What is wrong with a command line; empty: nothing.
    [[nodiscard]] static QString trouble(const QString& command);
    /// Compiles where the command wants it, and loads. `bench`: the plan that the program is of.
    void start(const Bench& bench, const Job& job);
    [[nodiscard]] bool runs() const { return m_compiler.runs() || m_loader != nullptr; }

  signals:
    /// `said`: the loader's last words; of a failure with what to do.
    void finished(bool done, const QString& said);

  private:
    void load();
    void end(bool done, const QString& said);
    Job m_job;
    QString m_folder;
    BesideProcess m_compiler;
    QProcess* m_loader = nullptr; ///< owned by this
};

} // namespace cognitum
