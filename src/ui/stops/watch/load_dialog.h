// A load that follows a rule: which, how long, what keeps it off, what it is told; tried at once on the record.
#pragma once

#include "session/archive/load_record.h"
#include "ui/context.h"
#include "ui/widgets/number_field.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QFormLayout>
#include <QLineEdit>
#include <QVBoxLayout>

namespace cognitum {

class ConditionRow;
class TextLabel;

class LoadDialog : public QDialog {
    Q_OBJECT

  public:
    /// `control` without an id is a new one.
    LoadDialog(Context& context, const LoadControl& control, QWidget* parent = nullptr);
    [[nodiscard]] LoadControl control() const;

  private:
    void addTimes(QFormLayout* form);
    void addEffect(QFormLayout* form);
    void addWayOut(QFormLayout* form);
    NumberField* number(const QByteArray& name, const QString& about, const QString& unit);
    void addEffectRow(const LoadEffect& effect);
    void addCondition(const WatchCondition& condition);
    void fill();
    void tryIt();
    void keep();

    Context& m_context;
    LoadControl m_control;
    /// What the load does to one reading.
    struct EffectRow {
        QComboBox* reading = nullptr;
        NumberField *at_once = nullptr, *an_hour = nullptr;
    };
    QComboBox *m_load, *m_rule, *m_safe;
    QLineEdit *m_name, *m_on_line, *m_off_line, *m_topic;
    NumberField *m_least_on, *m_longest, *m_rest, *m_least_off, *m_within, *m_time_out;
    QCheckBox* m_acts;
    QVBoxLayout *m_conditions, *m_effects;
    std::vector<EffectRow> m_effect_rows;
    std::vector<ConditionRow*> m_rows;
    TextLabel *m_care, *m_says, *m_warns;
    QPushButton* m_keep;
    ArchiveQuestion<TriedLoad> m_question;
};

} // namespace cognitum
