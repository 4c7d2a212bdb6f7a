// A board's budgets as bars with numbers and limits, worst state first in sight: pins, current, heat, bus, line,
// money.
#pragma once

#include "core/plan/budgets.h"
#include "session/path_state.h"
#include "ui/theme.h"

#include <QWidget>

namespace cognitum {

struct BudgetRow {
    QString name, numbers;
    double share = 0; ///< of the limit; above 1: over it
    double peak = 0;  ///< share at the peak; 0: none
    Mark mark = Mark::done;
};

/// Rows for a board; `money` is what its part of the bill comes to.
std::vector<BudgetRow> budget_rows(const BoardBudget& budget, double money, const std::string& currency);

class BudgetBars : public QWidget {
    Q_OBJECT

  public:
    explicit BudgetBars(Theme& theme, QWidget* parent = nullptr);
    void setRows(std::vector<BudgetRow> rows);
    [[nodiscard]] const std::vector<BudgetRow>& rows() const { return m_rows; }
    [[nodiscard]] QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Theme& m_theme;
    std::vector<BudgetRow> m_rows;
};

} // namespace cognitum
