// Bench page: a reading over time with zoom and pan, and everything that happened, newest first.
#pragma once

#include "ui/page.h"

#include <QComboBox>
#include <QLineEdit>
#include <QTableWidget>

namespace cognitum {

class HistoryPlot;
class TextLabel;

class LogbookPage : public Page {
    Q_OBJECT

  public:
    explicit LogbookPage(Context& context);
    [[nodiscard]] bool wantsSide() const override { return false; }

  protected:
    void refresh() override;
    void readingChanged() override { m_key.clear(); }

  private:
    void fillReadings();
    void fillEntries();

    QComboBox* m_reading;
    HistoryPlot* m_plot;
    TextLabel *m_cursor, *m_empty;
    QLineEdit* m_note;
    QTableWidget* m_entries;
    QString m_key;
};

} // namespace cognitum
