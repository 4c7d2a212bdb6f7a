// A row of controls around a stack of pages, which goes below them where there is too little room.
#pragma once

#include "ui/theme.h"

#include <QGridLayout>
#include <QStackedWidget>
#include <vector>

namespace cognitum {

class FoldingRow : public QWidget {
  public:
    /// The pages stand between `before` and `after`, or below all of these. Its least width is that of the
    /// controls.
    FoldingRow(const std::vector<QWidget*>& before, QStackedWidget* pages, const std::vector<QWidget*>& after,
               Theme& theme);
    /// To be called when another page shows.
    void fit();

  protected:
    void resizeEvent(QResizeEvent* event) override;

  private:
    Theme& m_theme;
    QStackedWidget* m_pages;
    QGridLayout* m_grid;
    int m_column; ///< of the pages
    bool m_below = false;
};

} // namespace cognitum
