// The short table of the stop Convert: what a meter, or the board, should show for six values of the range.
#include "core/plan/path.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/stops/convert/convert_page.h"
#include "ui/stops/convert/meter_view.h"
#include "ui/stops/convert/transfer_curve.h"
#include "ui/widgets/parts.h"

#include <QGridLayout>
#include <algorithm>
#include <cmath>

namespace cognitum {

void ConvertPage::showShortTable(const Reading& r, const Chain& chain) {
    const QString key =
        from_std(chain_json(chain).dump()) + QString::number(r.quantity.low) + QString::number(r.quantity.high);
    if (key == m_table_key) return;
    m_table_key = key;
    const std::size_t meter = meter_step(chain);
    set_text(m_table_title, meter == 0 && chain.first_unit() != "count" ? tr("What it should send")
                            : meter == 0                                ? tr("What the board should count")
                                         : tr("What your meter should show at the pin"));
    const auto unit_at = [&](std::size_t i) {
        return i == 0 ? chain.first_unit() : output_unit(chain.stages[i - 1]);
    };
    std::vector<std::size_t> rows = {chain.stages.size()};
    if (meter != 0 && meter != chain.stages.size()) rows.push_back(meter);
    rows.push_back(0);
    constexpr int columns = 6;
    std::vector<Walk> walks;
    const double span = r.quantity.high - r.quantity.low;
    const double grain = round_step(span / 5, 4) / 2;
    for (int i = 0; i < columns; ++i)
        walks.push_back(walk_back(chain, std::round((r.quantity.low + span * i / (columns - 1)) / grain) * grain));
    const auto cell = [&](std::size_t row, int column) {
        return qobject_cast<QLabel*>(m_table->itemAtPosition(static_cast<int>(row), column)->widget());
    };
    if (m_table->count() !=
        static_cast<int>(rows.size()) * (columns + 1)) { // labels are dear; their words change often
        clear_layout(m_table);
        for (std::size_t row = 0; row < rows.size(); ++row)
            for (int i = 0; i <= columns; ++i) {
                auto* label = new TextLabel(theme(), i == 0 || row == 0 ? TextLabel::Role::mono_soft
                                                                        : TextLabel::Role::mono_small);
                if (i > 0) label->setAlignment(Qt::AlignRight);
                m_table->addWidget(label, static_cast<int>(row), i);
            }
    }
    for (std::size_t row = 0; row < rows.size(); ++row) {
        const std::size_t step = rows[row];
        const std::string unit = unit_at(step);
        set_text(cell(row, 0), unit == "count" ? tr("code") : from_std(unit_symbol(unit)));
        double largest = 0;
        for (const Walk& w : walks)
            if (w.steps[step].ok()) largest = std::max(largest, std::abs(w.steps[step].number));
        for (int i = 0; i < columns; ++i) {
            const Value& value = walks[static_cast<std::size_t>(i)].steps[step];
            set_text(cell(row, i + 1), from_std(row == 0 && value.ok() ? format_constant(value.number, 6)
                                                                       : meter_cell(value, unit, largest)));
        }
    }
}

} // namespace cognitum
