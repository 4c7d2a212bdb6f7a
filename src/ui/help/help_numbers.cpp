#include "ui/help/help_numbers.h"

#include "core/signal_path/chain.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/help/help_panel.h"
#include "ui/widgets/parts.h"

#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

/// Names come from benches and cards, which may be a stranger's: shown as they stand, never as markup, a link or a
/// picture that is loaded.
QString plain(const QString& text) {
    QString out;
    for (const QChar c : text) {
        const bool is_mark = c.unicode() < 0x80 && (c.isPunct() || c.isSymbol());
        if (is_mark) out += QLatin1Char('\\');
        out += c == QLatin1Char('\n') ? QChar(QLatin1Char(' ')) : c;
    }
    return out;
}

QString line(const QString& text) {
    return QStringLiteral("- ") + plain(text) + QLatin1Char('\n');
}

QString measure(double value, const std::string& unit) {
    return from_std(format_measure(value, unit));
}

QString quantity_numbers(const Quantity& q) {
    const double parts = (q.high - q.low) / q.accuracy;
    return line(HelpPanel::tr("(%1 − %2) ÷ %3 is one part in %4")
                    .arg(from_std(format_constant(q.high)), from_std(format_constant(q.low)),
                         measure(q.accuracy, q.unit))
                    .arg(std::lround(parts))) +
           line(HelpPanel::tr("log₂(3 × %1) = %2: at least %3 bits over this range")
                    .arg(std::lround(parts))
                    .arg(from_std(format_fixed(std::log2(3 * parts), 1)))
                    .arg(std::ceil(std::log2(3 * parts))));
}

QString wiring_numbers(const Context& context, const Reading& r) {
    const BoardCard* card = context.session().boardCard(r);
    if (!card || r.wiring.pin().empty()) return {};
    return line(HelpPanel::tr("pin %1 of %2").arg(from_std(r.wiring.pin()), from_std(card->name))) +
           line(HelpPanel::tr("a pin withstands %1 and calls high what is above %2")
                    .arg(measure(card->input_limit_V, "V"), measure(card->high_threshold_V, "V")));
}

/// Each stage with the number before and after it.
QString path_numbers(const Context& context, const Reading& r) {
    const LiveReading* live = context.liveReading();
    if (!live || !std::isfinite(live->raw)) return {};
    const Chain path = effective_path(r, context.session().views().partners(r, context.live()));
    const Walk walked = walk(path, live->raw);
    QString out = line(HelpPanel::tr("raw: %1").arg(measure(live->raw, path.first_unit())));
    for (std::size_t i = 0; i < path.stages.size() && i + 1 < walked.steps.size(); ++i) {
        if (!walked.steps[i].ok()) break;
        out += line(HelpPanel::tr("%1: %2 = %3")
                        .arg(from_std(stage_title(path.stages[i])),
                             from_std(arithmetic_text(path.stages[i], walked.steps[i].number)),
                             walked.steps[i + 1].ok()
                                 ? measure(walked.steps[i + 1].number, output_unit(path.stages[i]))
                                 : HelpPanel::tr("no value")));
    }
    if (const double doubt = context.budget().expanded(); doubt > 0)
        out += line(HelpPanel::tr("doubt of the value: ± %1 %2")
                        .arg(from_std(format_constant(doubt, 2)), from_std(unit_symbol(r.quantity.unit))));
    return out;
}

QString calibrate_numbers(const Reading& r) {
    if (!r.correction)
        return line(HelpPanel::tr("%1 has never been compared with a reference").arg(from_std(r.name)));
    const AppliedCorrection& c = *r.correction;
    return line(HelpPanel::tr("calibrated on %1").arg(from_std(iso_time(c.time)).left(10))) +
           line(HelpPanel::tr("added at zero: %1; times %2")
                    .arg(measure(c.offset, r.quantity.unit))
                    .arg(from_std(format_fixed(c.gain, 4))));
}

QString watch_numbers(const Reading& r) {
    if (!r.bands) return line(HelpPanel::tr("%1 has no band yet").arg(from_std(r.name)));
    return line(HelpPanel::tr("in range from %1 to %2")
                    .arg(from_std(format_constant(r.bands->low)), measure(r.bands->high, r.quantity.unit))) +
           line(HelpPanel::tr("an alarm ends %1 inside").arg(measure(r.bands->hysteresis, r.quantity.unit)));
}

} // namespace

QString help_numbers(const Context& context, const QString& topic) {
    const Reading* r = context.reading();
    if (!r) return {};
    QString lines;
    if (topic == QStringLiteral("quantity"))
        lines = quantity_numbers(r->quantity);
    else if (topic == QStringLiteral("wiring"))
        lines = wiring_numbers(context, *r);
    else if (topic == QStringLiteral("raw") || topic == QStringLiteral("convert"))
        lines = path_numbers(context, *r);
    else if (topic == QStringLiteral("calibrate"))
        lines = calibrate_numbers(*r);
    else if (topic == QStringLiteral("watch"))
        lines = watch_numbers(*r);
    if (lines.isEmpty()) return {};
    return QStringLiteral("\n\n## ") + plain(HelpPanel::tr("With the numbers of %1").arg(from_std(r->name))) +
           QStringLiteral("\n\n") + lines;
}

} // namespace cognitum
