// Bench page: a reading over time with zoom and pan, and everything that happened, newest first.
#pragma once

#include "session/recorded.h"
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
    LogbookPage(Context& context, QWidget* parent);
    [[nodiscard]] bool wantsSide() const override { return false; }

  protected:
    void refresh() override;
    void readingChanged() override { m_key.clear(); }

  private:
    void fillReadings();
    void fillEntries(const std::vector<LogEntry>& entries);

    QComboBox* m_reading;
    HistoryPlot* m_plot;
    TextLabel *m_cursor, *m_empty;
    QLineEdit* m_note;
    QTableWidget* m_entries;
    QString m_key;
    QStringList m_named; ///< readings in the list
    ArchiveQuestion<std::vector<LogEntry>> m_question;
};

} // namespace cognitum
