// What somebody's program computes, reading by reading, beside the plan; and what its machine code sends in the
// simulator.
#pragma once

#include "session/program/program_proof.h"
#include "ui/context.h"

#include <QWidget>

class QPushButton;
class QVBoxLayout;

namespace cognitum {

class TextLabel;

class ComputedPaths : public QWidget {
    Q_OBJECT

  public:
    explicit ComputedPaths(Context& context, QWidget* parent = nullptr);
    void show(const std::string& board, const std::vector<ProgramText>& files, const ProgramRead& read);

  signals:
    void ran(); ///< in the simulator, and it is shown

  private:
    void run();
    void showRun(const ProofReport& report);
    [[nodiscard]] QString ranText(const ReadPath& path) const;
    void fill();
    void addReading(const ReadPath& path);
    void takePath(const ReadPath& path);

    Context& m_context;
    std::string m_board;
    std::vector<ProgramText> m_files;
    ProgramRead m_read;
    ProgramProof m_machine;
    std::map<std::string, std::vector<QString>> m_sent; ///< by the machine code, of each reading
    TextLabel* m_ran;
    QVBoxLayout* m_readings;
    QPushButton* m_run;
};

} // namespace cognitum
