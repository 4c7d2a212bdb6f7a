// Stop 2: which kind of part, and is it up to it? Cards compared for this quantity, with what speaks against each.
#pragma once

#include "core/plan/candidates.h"
#include "ui/page.h"

#include <QLineEdit>

namespace cognitum {

class TextLabel;

/// The parts as rows of a table that is painted: reach against what is wanted, doubt here, fitness with its reason.
class CandidateTable : public QWidget {
    Q_OBJECT

  public:
    explicit CandidateTable(Context& context, QWidget* parent = nullptr);
    void setCandidates(std::vector<Candidate> candidates);
    [[nodiscard]] const std::vector<Candidate>& candidates() const { return m_candidates; }
    [[nodiscard]] int chosen() const { return m_chosen; }
    void setChosen(int row);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QRect rowRect(int row) const;

  signals:
    void chosenChanged();
    void activated();

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void paintRow(QPainter& painter, int row);

    Context& m_context;
    std::vector<Candidate> m_candidates;
    int m_chosen = -1;
};

class SensorPage : public Page {
    Q_OBJECT

  public:
    explicit SensorPage(Context& context);
    [[nodiscard]] QWidget* side() override { return m_side; }

  protected:
    void refresh() override;
    void readingChanged() override;

  private:
    void choose();
    void refreshSide();

    QLineEdit* m_find;
    CandidateTable* m_table;
    TextLabel* m_empty;
    TextLabel* m_board_note;
    QPushButton* m_choose;
    QWidget* m_side;
    TextLabel *m_asked, *m_about_title, *m_about;
    QString m_key;
};

} // namespace cognitum
