// Stop 7: is it all right now, and whom does it concern?
#pragma once

#include "session/archive/recorded.h"
#include "session/archive/watch_record.h"
#include "ui/widgets/page.h"

#include <QButtonGroup>
#include <QTableWidget>

namespace cognitum {

class BandNames;
class HistoryPlot;
class LoadView;
class MarkLabel;
class NumberField;
class PictureOfReading;
class RuleTable;
class TellingView;
class TextLabel;
class WatchSide;

class WatchPage : public Page {
    Q_OBJECT

  public:
    WatchPage(Context& context, QWidget* parent);
    [[nodiscard]] QWidget* side() override;

  protected:
    void refresh() override;
    void readingChanged() override;

  private:
    void addView(QWidget* view);
    void showView(int view);
    void buildRules();
    void buildBands();
    void buildTold();
    void showNow();
    void editBands(const std::function<void(Bands&)>& change);
    void editRule(const WatchRule& rule);
    void changeRule(const QString& text, const std::function<void(WatchRule&)>& change);
    void markStretch(bool is_alarm);
    void proposeLimit();
    void showRules();
    void showChosen();
    [[nodiscard]] const TriedRule* chosen() const;
    void refreshTold();
    void showTold(const std::vector<LogEntry>& entries);
    void askRecord();
    void tryBands();

    MarkLabel* m_mark;
    TextLabel *m_value, *m_word, *m_age, *m_cause;
    PictureOfReading* m_picture;
    QButtonGroup* m_tabs;
    std::vector<QWidget*> m_views; ///< of the tabs
    // Rules.
    RuleTable* m_rules;
    TextLabel *m_no_rules, *m_advice;
    QPushButton *m_edit, *m_toggle, *m_seen, *m_calm, *m_is_alarm, *m_is_none, *m_propose;
    WatchSide* m_side = nullptr;
    // Bands.
    NumberField *m_low, *m_high, *m_hysteresis;
    TextLabel *m_trouble, *m_tried;
    BandNames* m_band_names;
    // Told.
    QTableWidget* m_alerts;
    TextLabel* m_no_alerts;
    LoadView* m_loads;
    TellingView* m_telling;
    HistoryPlot* m_plot;
    TextLabel* m_cursor;
    QString m_alerts_key, m_tried_key, m_record_key;
    std::optional<WatchRecord> m_record;
    ArchiveQuestion<BandTrial> m_trial;
    ArchiveQuestion<std::vector<LogEntry>> m_entries;
    ArchiveQuestion<WatchRecord> m_question;
    ArchiveQuestion<LimitProposal> m_proposal;
};

} // namespace cognitum
