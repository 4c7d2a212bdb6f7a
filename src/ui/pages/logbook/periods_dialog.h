// Days, months or seasons of one reading, or of two beside each other, with what their difference can prove.
#pragma once

#include "session/archive/archive.h"
#include "store/figures/reading_figures.h"
#include "ui/context.h"

#include <QComboBox>
#include <QDialog>
#include <QTableWidget>

namespace cognitum {

class PeriodBars;
class TextLabel;

class PeriodsDialog : public QDialog {
    Q_OBJECT

  public:
    PeriodsDialog(Context& context, const std::string& reading, QWidget* parent);

  private:
    void fillOthers();
    void ask();
    void show(const PeriodTable& table);
    void saveReport();

    Context& m_context;
    PeriodTable m_shown;
    QComboBox *m_reading, *m_other, *m_period, *m_day;
    PeriodBars* m_bars;
    QTableWidget* m_table;
    TextLabel* m_says;
    ArchiveQuestion<PeriodTable> m_question;
};

/// Two bars for each period, with their doubt as a line; a period of which little was measured is hatched.
class PeriodBars : public QWidget {
    Q_OBJECT

  public:
    PeriodBars(Theme& theme, QWidget* parent);
    void show(const PeriodTable& table, const QString& own, const QString& other);
    [[nodiscard]] QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Theme& m_theme;
    PeriodTable m_table;
    QString m_own, m_other; ///< names at the bars
};

} // namespace cognitum
