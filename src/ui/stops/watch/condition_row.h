// One condition of a watch rule as fields: which reading, what of it, and the limits that this asks for.
#pragma once

#include "core/bench/bench.h"
#include "ui/widgets/number_field.h"

#include <QComboBox>
#include <QLineEdit>
#include <QPushButton>

namespace cognitum {

class TextLabel;

class ConditionRow : public QWidget {
    Q_OBJECT

  public:
    enum class Place {
        first,  ///< of a rule
        joined, ///< to those before it
        alone   ///< it holds by itself, and may go
    };
    ConditionRow(Theme& theme, const Bench& bench, const WatchCondition& condition, Place place,
                 QWidget* parent = nullptr);
    [[nodiscard]] WatchCondition condition() const;
    /// What cannot be read in its fields; empty: all can.
    [[nodiscard]] QString trouble() const;
    void setBench(const Bench& bench) { m_bench = bench; }

  signals:
    void edited();
    void removed();

  private:
    void fill(const WatchCondition& condition);
    void suit(); ///< shows the fields that the condition has
    Theme& m_theme;
    Bench m_bench;
    WatchCondition m_condition;
    QComboBox *m_join, *m_reading, *m_when;
    QLineEdit* m_corridor; ///< limits by day
    NumberField *m_value, *m_upper, *m_clear, *m_step, *m_over;
    TextLabel *m_to, *m_back, *m_within, *m_by_day;
};

} // namespace cognitum
