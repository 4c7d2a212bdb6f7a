// The parts as rows of a painted table: reach against what is wanted, doubt here, fitness with its reason.
#pragma once

#include "core/plan/candidates.h"
#include "ui/context.h"

#include <QWidget>

namespace cognitum {

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
    void resizeEvent(QResizeEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseDoubleClickEvent(QMouseEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    void paintRow(QPainter& painter, int row);
    void paintReach(QPainter& painter, const QRect& box, const Candidate& candidate, const Measurand& measurand,
                    bool chosen);
    void layRows();
    void layScale();
    /// What the card measures for this reading; null: nothing.
    [[nodiscard]] const Measurand* measurand(const Candidate& candidate) const;
    [[nodiscard]] QRect column(int row, double from, double to) const;

    Context& m_context;
    std::vector<Candidate> m_candidates;
    std::vector<int> m_tops; ///< of the rows, and the bottom of the last
    int m_chosen = -1;
    std::string m_scale_unit; ///< of the common scale; empty: each row has its own
    double m_scale_low = 0, m_scale_high = 1;
};

} // namespace cognitum
