// Stop 7: is it all right now, and when was it not?
#pragma once

#include "session/recorded.h"
#include "ui/page.h"

#include <QTableWidget>

namespace cognitum {

class HistoryPlot;
class NumberField;
class TextLabel;
class MarkLabel;

class WatchPage : public Page {
    Q_OBJECT

  public:
    WatchPage(Context& context, QWidget* parent);

  protected:
    void refresh() override;
    void readingChanged() override;

  private:
    void editBands(const std::function<void(Bands&)>& change);
    void refreshAlerts();
    void showAlerts(const std::vector<LogEntry>& entries);
    void tryOnRecord();

    MarkLabel* m_mark;
    TextLabel *m_value, *m_word, *m_age, *m_cause;
    NumberField *m_low, *m_high, *m_hysteresis;
    TextLabel *m_trouble, *m_tried;
    HistoryPlot* m_plot;
    TextLabel* m_cursor;
    QTableWidget* m_alerts;
    TextLabel* m_no_alerts;
    QString m_alerts_key, m_tried_key;
    ArchiveQuestion<BandTrial> m_trial;
    ArchiveQuestion<std::vector<LogEntry>> m_entries;
};

} // namespace cognitum
