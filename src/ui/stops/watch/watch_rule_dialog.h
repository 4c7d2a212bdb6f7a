// A watch rule: what it looks at, how it is confirmed, when it is told; tried at once on what was recorded.
#pragma once

#include "session/archive/watch_record.h"
#include "ui/context.h"
#include "ui/widgets/number_field.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QLineEdit>
#include <QVBoxLayout>

namespace cognitum {

class ConditionRow;
class TextLabel;

/// "22:00" in minutes of the day; empty: it is no time of the day.
std::optional<int> minute_of_day(const QString& text);
QString time_of_day(int minute);

class WatchRuleDialog : public QDialog {
    Q_OBJECT

  public:
    /// `rule` without an id is a new one.
    WatchRuleDialog(Context& context, const WatchRule& rule, QWidget* parent = nullptr);
    [[nodiscard]] WatchRule rule() const;

  private:
    void addCondition(const WatchCondition& condition);
    void fill();
    [[nodiscard]] std::optional<GeoPlace> where() const;
    /// With the place that is typed here, where the rule goes by the sun.
    [[nodiscard]] Bench placed(Bench bench) const;
    [[nodiscard]] std::string defect(const WatchRule& rule) const;
    void tryIt();
    void show(const TriedRule& tried);
    void keep();

    Context& m_context;
    WatchRule m_rule;
    std::optional<WatchRule> m_calmer;
    QLineEdit *m_name, *m_from, *m_to;
    QComboBox* m_rank;
    QVBoxLayout* m_conditions;
    std::vector<ConditionRow*> m_rows;
    NumberField *m_count, *m_for, *m_repeat, *m_escalate, *m_latitude, *m_longitude;
    QWidget* m_where; ///< shown for a rule that goes by the sun
    QCheckBox *m_sure, *m_breaks, *m_on;
    TextLabel *m_says, *m_tried;
    QPushButton *m_calm, *m_keep;
    ArchiveQuestion<TriedRule> m_question;
};

} // namespace cognitum
