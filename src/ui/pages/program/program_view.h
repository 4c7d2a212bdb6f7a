// The program of a board: as the plan writes it, proven in a simulator, and how it gets onto the board.
#pragma once

#include "core/program/program.h"
#include "session/program/program_proof.h"
#include "ui/context.h"

#include <QCheckBox>
#include <QComboBox>
#include <QPlainTextEdit>
#include <QPushButton>
#include <QStackedWidget>
#include <QVBoxLayout>
#include <optional>

namespace cognitum {

class ProofTable;
class PutOn;
class ReadView;
class TextLabel;

class ProgramView : public QWidget {
    Q_OBJECT

  public:
    explicit ProgramView(Context& context, QWidget* parent = nullptr);
    void setBoard(const std::string& board);
    /// What the board says that it runs; called while the page is seen.
    void refreshLive();
    /// Programs that the maker wrote: read beside the plan.
    void readOwn(const QStringList& paths);

  signals:
    void proofShown();

  private:
    QLayout* buildBar();
    void showOwn(bool own);
    QWidget* buildText();
    QWidget* buildSide();
    [[nodiscard]] ProgramOptions options() const;
    void save();
    void prove();
    void show(const ProofReport& report);
    void fillNotes();
    void resizeEvent(QResizeEvent* event) override;

    Context& m_context;
    std::string m_board;
    std::optional<WrittenProgram> m_written;
    std::string m_proven; ///< text that the shown proof is of
    ProgramProof m_proof;
    QBoxLayout* m_columns;
    QStackedWidget* m_pages; ///< from the plan, and the maker's own
    ReadView* m_own;
    QPushButton *m_from_plan, *m_mine;
    QPlainTextEdit* m_text;
    TextLabel *m_head, *m_proof_head;
    QVBoxLayout* m_notes;
    ProofTable* m_proof_table;
    PutOn* m_put_on;
    QPushButton *m_save, *m_copy, *m_prove;
    QCheckBox *m_constants, *m_sleep;
    QComboBox* m_average;
};

} // namespace cognitum
