// A program that a maker wrote, read: its text with what was found on its lines, and what it computes beside the
// plan.
#pragma once

#include "session/program/program_reader.h"
#include "ui/context.h"

#include <QBoxLayout>
#include <QPushButton>
#include <QWidget>

namespace cognitum {

class CodeListing;
class ComputedPaths;
class TextLabel;

class ReadView : public QWidget {
    Q_OBJECT

  public:
    explicit ReadView(Context& context, QWidget* parent = nullptr);
    void setBoard(const std::string& board);
    /// Reads these files; of several the first is shown.
    void read(const std::vector<ProgramText>& files);
    /// The same from their places; of one sketch its neighbours come along.
    void readFiles(const QStringList& paths);
    [[nodiscard]] bool reads() const { return m_reader.runs(); }

  signals:
    void readShown();

  private:
    QWidget* buildText();
    QWidget* buildSide();
    void open();
    void example();
    void readShownText();
    void show(const ProgramReadReport& report);
    void showFindings();
    void addFinding(const ReadFinding& finding);
    void mend(const ReadFinding& finding);
    void dragEnterEvent(QDragEnterEvent* event) override;
    void dropEvent(QDropEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;

    Context& m_context;
    std::string m_board;
    std::uint64_t m_plan = 0;         ///< its revision when it was read
    std::vector<ProgramText> m_files; ///< [0] is shown
    ProgramRead m_read;
    ProgramReader m_reader;
    std::size_t m_example = 0;
    QBoxLayout* m_columns;
    CodeListing* m_text;
    TextLabel *m_head, *m_state, *m_found_head;
    ComputedPaths* m_computed;
    QVBoxLayout* m_found;
    QPushButton* m_again;
};

} // namespace cognitum
