// Putting a program on its board: the steps for this board, the loader of this computer where one is told, and what
// the board says of itself afterwards.
#pragma once

#include "session/program/program_loader.h"
#include "ui/context.h"

#include <QWidget>

class QPushButton;
class QVBoxLayout;

namespace cognitum {

class TextLabel;

class PutOn : public QWidget {
    Q_OBJECT

  public:
    explicit PutOn(Context& context, QWidget* parent = nullptr);
    /// Null: there is no program.
    void setBoard(const std::string& board, const WrittenProgram* written);
    /// What the board says that it runs; called while the page is seen.
    void refreshLive();

  private:
    void fillSteps();
    void load();
    void askForLoader();
    void loaded(bool done, const QString& said);
    void await();
    [[nodiscard]] const BoardUse* use() const;

    Context& m_context;
    std::string m_board;
    std::optional<WrittenProgram> m_written;
    ProgramLoader m_loader;
    QVBoxLayout* m_steps;
    TextLabel *m_state, *m_runs;
    QPushButton *m_load, *m_await, *m_which;
};

} // namespace cognitum
