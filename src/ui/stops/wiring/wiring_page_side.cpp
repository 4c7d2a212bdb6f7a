// What the Wiring stop says beside the drawing, and what it saves.
#include "ui/stops/wiring/wiring_page.h"

#include "core/base/phrase.h"
#include "core/plan/budgets.h"
#include "core/plan/path.h"
#include "core/units/format.h"
#include "ui/paper/paper.h"
#include "ui/stops/wiring/wiring_sheet.h"
#include "ui/widgets/parts.h"

#include <fmt/format.h>

namespace cognitum {

void WiringPage::save(const QString& what, const QString& suffix) {
    const Reading* r = context().reading();
    if (!r) return;
    const QString filter = suffix == QStringLiteral("pdf") ? paper_filter() : tr("SVG (*.svg);;PDF (*.pdf)");
    const QString path = context().askSavePath(this, what, from_std(r->id) + QLatin1Char('.') + suffix, filter);
    if (path.isEmpty()) return;
    Result<void> done;
    if (suffix == QStringLiteral("pdf")) {
        const Result<Paper> sheet = wiring_sheet(context().session(), *r);
        done = sheet ? sheet->save(path) : tl::make_unexpected(sheet.error());
    } else if (path.endsWith(QStringLiteral(".pdf")))
        done = export_loom_pdf(m_loom->loom(), path);
    else
        done = export_loom_svg(m_loom->loom(), path);
    emit context().said(done ? tr("%1 saved as %2.").arg(what, path) : from_std(done.error().text()));
}

void WiringPage::buildSide(const Placed& p) {
    const BoardBudget budget = board_budget(*p.bench, *p.catalog, *p.use);
    std::vector<std::string> lines;
    for (const RailLoad& load : budget.rails)
        if (load.rail == p.reading->wiring.rail) {
            lines.push_back(phrase("{} rail: {} of {}", load.rail, format_constant(load.typical_mA, 3),
                                   format_measure(load.limit_mA, "mA")));
            lines.push_back(phrase("at its peak: {}", format_measure(load.peak_mA, "mA", 3)));
        }
    const Connection* c = p.reading->wiring.pins.empty() ? nullptr : &p.reading->wiring.pins.front();
    if (const VoltRange volts = pin_range(p); volts.known() && p.is_voltage()) {
        lines.push_back(phrase("pin {}: {}…{}", p.reading->wiring.pin(), format_constant(volts.low, 2),
                               format_measure(volts.high, "V", 2)));
        lines.push_back(phrase("full scale: {}, {} codes", format_measure(p.full_scale_V(), "V"),
                               format_constant(1 << p.bits(), 7)));
        if (const double one = count_size(*p.reading); one > 0)
            lines.push_back(phrase("one count: {}", format_measure(one, p.reading->quantity.unit, 2)));
    } else {
        lines.push_back(
            phrase("pin {} withstands {}", p.reading->wiring.pin(), format_measure(p.board->input_limit_V, "V")));
    }
    if (c && c->divider.there()) {
        const double high = p.part->interface.high_V > 0 ? p.part->interface.high_V : p.supply_V();
        lines.push_back(
            phrase("divider draws {}",
                   format_measure(1000 * high / (c->divider.top_ohm + c->divider.bottom_ohm), "mA", 2)));
    }
    if (p.part->interface.speech == Speech::i2c) {
        lines.push_back(phrase("bus: {} parts, {:.0f} pF", budget.bus_devices, budget.bus_pF));
        lines.push_back(phrase("rise: {:.0f} of {:.0f} ns", budget.rise_ns, budget.rise_limit_ns));
    }
    std::string text;
    for (const std::string& line : lines)
        text += (text.empty() ? "" : "\n") + line;
    set_text(m_numbers, from_std(text));
    set_text(m_caution,
             p.reading->quantity.around.water
                 ? tr("▲ Wet hands, low voltage only. Nothing here belongs on the mains: that is for a licensed "
                      "electrician under your local code. Unplug the board before you touch a wire.")
                 : tr("▲ Low voltage only. Nothing here belongs on the mains: that is for a licensed electrician "
                      "under your local code. Unplug the board before you touch a wire."));
    QString list;
    for (const Phrase& line : p.board->programming)
        list += (list.isEmpty() ? QStringLiteral("☐ ") : QStringLiteral("\n☐ ")) + from_std(line);
    set_text(m_programming, list);
    m_programming->setVisible(!list.isEmpty());
    m_programming_title->setVisible(!list.isEmpty());
}

} // namespace cognitum
