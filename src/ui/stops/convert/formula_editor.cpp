#include "core/base/phrase.h"
#include "core/bench/quantity_change.h"
#include "core/units/format.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"
#include "ui/stops/convert/constants_view.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QComboBox>
#include <QGridLayout>
#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {

const Formula* own_step(const Reading& reading) {
    return reading.path.stages.empty() ? nullptr : std::get_if<Formula>(&reading.path.stages.back());
}

/// Unit in front of the step.
std::string unit_before(const Reading& reading) {
    if (const Formula* formula = own_step(reading)) return formula->input_unit;
    if (!reading.path.stages.empty()) return reading.path.last_unit();
    return reading.source.unit.empty() ? reading.quantity.unit : reading.source.unit;
}

} // namespace

FormulaEditor::FormulaEditor(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("formulaEditor"));
    Theme& theme = context.theme();
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(theme.px(12));
    grid->setVerticalSpacing(theme.px(8));
    grid->addWidget(new TextLabel(theme, TextLabel::Role::name, tr("A step of your own, behind the others")), 0, 0,
                    1, 4);
    m_from = new TextLabel(theme, TextLabel::Role::soft);
    m_from->setObjectName(QStringLiteral("formulaFrom"));
    m_from->setWordWrap(true);
    grid->addWidget(m_from, 1, 0, 1, 4);
    const auto label = [&](const QString& text, int row, int column) {
        grid->addWidget(new TextLabel(theme, TextLabel::Role::body, text), row, column);
    };
    label(tr("Formula in x"), 2, 0);
    m_expression = make_field("formulaExpression", tr("Formula in x"), QStringLiteral("a * x ^ b"));
    grid->addWidget(m_expression, 2, 1, 1, 3);
    label(tr("Constants"), 3, 0);
    m_names = make_field("formulaNames", tr("Constants with names, doubts behind ±"),
                         QStringLiteral("a = 12 ± 1, b = 3"));
    grid->addWidget(m_names, 3, 1, 1, 3);
    label(tr("x lies between"), 4, 0);
    auto* span = new QHBoxLayout;
    span->setSpacing(theme.px(8));
    m_low = make_field("formulaLow", tr("Least x"), tr("anywhere"));
    m_high = make_field("formulaHigh", tr("Largest x"), tr("anywhere"));
    for (QLineEdit* field : {m_low, m_high})
        field->setFixedWidth(std::max(
            theme.px(92), field->fontMetrics().horizontalAdvance(field->placeholderText()) + theme.px(30)));
    span->addWidget(m_low);
    span->addWidget(new TextLabel(theme, TextLabel::Role::soft, tr("and")));
    span->addWidget(m_high);
    span->addStretch(1);
    grid->addLayout(span, 4, 1);
    label(tr("gives"), 4, 2);
    m_unit = new QComboBox;
    m_unit->setObjectName(QStringLiteral("formulaUnit"));
    m_unit->setAccessibleName(tr("Unit of the result"));
    grid->addWidget(m_unit, 4, 3);
    m_says = new TextLabel(theme, TextLabel::Role::body);
    m_says->setObjectName(QStringLiteral("formulaSays"));
    m_says->setWordWrap(true);
    grid->addWidget(m_says, 5, 0, 1, 4);
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(theme.px(12));
    m_take = make_button(tr("Use this step"), QStringLiteral("formulaTake"));
    m_remove = make_link(tr("Remove it"), QStringLiteral("formulaRemove"));
    buttons->addWidget(m_take);
    buttons->addWidget(m_remove);
    buttons->addStretch(1);
    grid->addLayout(buttons, 6, 0, 1, 4);
    grid->setColumnStretch(1, 1);
    for (QLineEdit* field : {m_expression, m_names, m_low, m_high})
        connect(field, &QLineEdit::textEdited, this, &FormulaEditor::check);
    connect(m_unit, &QComboBox::activated, this, [this] { check(); });
    connect(m_take, &QPushButton::clicked, this, &FormulaEditor::take);
    connect(m_remove, &QPushButton::clicked, this, &FormulaEditor::removeStep);
}

void FormulaEditor::show(const Reading& reading) {
    const Formula* own = own_step(reading);
    const std::string shown = reading.id + "|" + (own ? stage_json(*own).dump() : reading.path.last_unit());
    if (shown == m_shown) return;
    m_shown = shown;
    m_from->setText(
        tr("It takes %1 and gives the reading. It knows + − * / ^, sqrt, ln, log10, exp, sin, abs, min, max and "
           "a ? b : c.")
            .arg(unit_before(reading) == "count" ? tr("counts") : from_std(unit_symbol(unit_before(reading)))));
    m_unit->clear();
    if (const QuantityKind* kind = find_quantity_kind(reading.quantity.kind))
        for (const std::string& unit : kind->units)
            m_unit->addItem(unit_symbol(unit).empty() ? tr("no unit") : from_std(unit_symbol(unit)),
                            from_std(unit));
    m_unit->setCurrentIndex(std::max(0, m_unit->findData(from_std(own ? own->unit : reading.quantity.unit))));
    QStringList names;
    if (own)
        for (const auto& [name, c] : own->names)
            names << from_std(fmt::format("{} = {}{}", name, format_constant(c.value, 8),
                                          c.doubt > 0 ? " ± " + format_constant(c.doubt, 3) : ""));
    m_expression->setText(own ? from_std(own->expression) : QString());
    m_names->setText(names.join(QStringLiteral(", ")));
    const bool bounded = own && own->low < own->high;
    m_low->setText(bounded ? from_std(format_constant(own->low)) : QString());
    m_high->setText(bounded ? from_std(format_constant(own->high)) : QString());
    m_remove->setVisible(own != nullptr);
    check();
}

Result<Stage> FormulaEditor::typed() const {
    const Reading* r = m_context.reading();
    if (!r) return failure(phrase("no reading is chosen."));
    Json json = {
        {"stage", "formula"}, {"expression", m_expression->text().toStdString()}, {"names", Json::array()}};
    json["input_unit"] = unit_before(*r);
    json["unit"] = m_unit->currentData().toString().toStdString();
    for (const QString& part : m_names->text().split(QLatin1Char(','), Qt::SkipEmptyParts)) {
        const QString name = part.section(QLatin1Char('='), 0, 0).trimmed();
        const QString rest = part.section(QLatin1Char('='), 1);
        const auto value = typed_number(rest.section(QChar(0xb1), 0, 0));
        if (!value || name.isEmpty())
            return failure(phrase("\"{}\" is no constant: write name = number.", part.trimmed().toStdString()));
        json["names"].push_back(name.toStdString());
        json[name.toStdString()] = *value;
        json["origin_" + name.toStdString()] = "typed by hand";
        json["known_by_" + name.toStdString()] = "hand";
        if (rest.contains(QChar(0xb1))) {
            const auto doubt = typed_number(rest.section(QChar(0xb1), 1));
            if (!doubt) return failure(phrase("the doubt of {} is no number.", name.toStdString()));
            json["tol_" + name.toStdString()] = *doubt;
        }
    }
    if (json["names"].empty()) json.erase("names");
    for (const auto& [key, field] : {std::pair{"low", m_low}, std::pair{"high", m_high}}) {
        if (field->text().trimmed().isEmpty()) continue;
        const auto value = typed_number(field->text());
        if (!value) return failure(phrase("x lies between two numbers, or anywhere."));
        json[key] = *value;
    }
    const auto text = JsonText::parse("formula", json.dump());
    if (!text) return tl::make_unexpected(text.error());
    return read_stage(JsonReader(*text));
}

void FormulaEditor::check() {
    const Tokens& t = m_context.theme().colours();
    m_take->setEnabled(false);
    if (m_expression->text().trimmed().isEmpty()) {
        set_text(m_says, {});
        return;
    }
    const auto stage = typed();
    m_take->setEnabled(stage.has_value());
    if (!stage) {
        set_text(m_says, from_std(stage.error().what));
        m_says->setColour(t.bad);
        return;
    }
    // What it makes of what comes now; and whether there is a way back.
    const Reading* r = m_context.reading();
    const LiveReading* live = m_context.liveReading();
    Chain before = m_context.session().views().path(*r, m_context.live());
    while (!before.stages.empty() && (std::holds_alternative<Correction>(before.stages.back()) ||
                                      std::holds_alternative<Formula>(before.stages.back())))
        before.stages.pop_back();
    const double x = live ? forward(before, live->raw).number : (r->quantity.low + r->quantity.high) / 2;
    const Value y = forward(*stage, x);
    const std::string from = format_measure(x, input_unit(*stage), 5),
                      to = format_measure(y.number, output_unit(*stage), 5);
    if (!y.ok()) {
        set_text(m_says, from_std(cause_text(*stage, y.cause, x)));
        m_says->setColour(t.look);
        return;
    }
    const Value back = inverse(*stage, y.number);
    set_text(m_says, back.ok() ? tr("%1 becomes %2; the way back is clear.").arg(from_std(from), from_std(to))
                     : back.cause == Cause::ambiguous
                         ? tr("%1 becomes %2; other values of x give that too: say between which two x lies.")
                               .arg(from_std(from), from_std(to))
                         : tr("%1 becomes %2; there is no way back.").arg(from_std(from), from_std(to)));
    m_says->setColour(back.ok() ? t.good : t.look);
}

void FormulaEditor::take() {
    const auto stage = typed();
    const Reading* r = m_context.reading();
    if (!stage || !r) return;
    m_context.session().edit(tr("Own formula"), [&, id = r->id](Bench& bench) {
        Reading& reading = *bench.reading(id);
        if (own_step(reading)) reading.path.stages.pop_back();
        if (reading.path.stages.empty()) reading.path.input_unit = input_unit(*stage);
        reading.path.stages.push_back(*stage);
        if (!change_unit(bench, id, output_unit(*stage))) change_unit(reading.quantity, output_unit(*stage));
    });
    m_context.refresh();
}

void FormulaEditor::removeStep() {
    const Reading* r = m_context.reading();
    if (!r || !own_step(*r)) return;
    m_context.session().editReading(r->id, tr("Remove own formula"),
                                    [](Reading& reading) { reading.path.stages.pop_back(); });
    m_context.refresh();
}

} // namespace cognitum
