// Stop 5, the table of what a meter should show at chosen values, printed as PDF or saved as CSV.
#pragma once

#include "core/signal_path/meter_table.h"
#include "ui/context.h"
#include "ui/paper/paper.h"

#include <QWidget>

class QTableWidget;

namespace cognitum {

class NumberField;
class TextLabel;

class MeterView : public QWidget {
    Q_OBJECT

  public:
    explicit MeterView(Context& context, QWidget* parent = nullptr);
    void show(const Reading& reading, const Chain& chain);
    /// Another reading: its own range and step again.
    void forget();

  private:
    struct Span {
        double from, to, step;
    };
    [[nodiscard]] Span span() const;
    [[nodiscard]] MeterTable table() const;
    void fill();
    void save(bool pdf);

    Context& m_context;
    NumberField *m_from, *m_to, *m_step;
    QTableWidget* m_table;
    TextLabel* m_note;
    Chain m_chain;
    std::optional<double> m_typed_from, m_typed_to, m_typed_step;
    MeterTable m_values;
    std::string m_key;
};

/// Digits for a column of the table, by its unit and size: 0.7104 V, 1 238 mm, 139.
std::string meter_cell(const Value& value, const std::string& unit, double largest);

Paper meter_paper(const Bench& bench, const Reading& reading, const MeterTable& values);

} // namespace cognitum
