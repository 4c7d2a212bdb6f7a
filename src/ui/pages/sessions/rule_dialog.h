// A rule that begins sessions: which reading, above or below what, for how long; tried at once on what was
// recorded, and what it finds there can be kept as sessions.
#pragma once

#include "ui/context.h"
#include "ui/widgets/number_field.h"

#include <QCheckBox>
#include <QComboBox>
#include <QDialog>
#include <QLineEdit>

namespace cognitum {

class TextLabel;

/// "Evening fire: Stove flue above 60 °C".
QString rule_says(const SessionRule& rule, const Bench& bench);

class RuleDialog : public QDialog {
    Q_OBJECT

  public:
    /// `id` empty: a new rule.
    RuleDialog(Context& context, const std::string& id, QWidget* parent = nullptr);

  private:
    void fill();
    void tryIt();
    void keep();
    void addFound();
    [[nodiscard]] SessionRule rule() const;

    Context& m_context;
    SessionRule m_rule;
    bool m_is_new;
    QLineEdit* m_name;
    QComboBox *m_kind, *m_reading, *m_when;
    NumberField *m_limit, *m_least, *m_pause;
    QCheckBox* m_live;
    TextLabel* m_found_text;
    QPushButton *m_add, *m_keep;
    std::vector<Interval> m_found;
    ArchiveQuestion<std::vector<Interval>> m_question;
};

} // namespace cognitum
