#include "ui/stops/calibrate/reference_box.h"

#include "core/calibrate/reference_for.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/stops/calibrate/register_dialog.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QComboBox>
#include <QGridLayout>
#include <algorithm>
#include <cmath>

namespace cognitum {

ReferenceBox::ReferenceBox(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(theme.px(6));
    auto* head = new QHBoxLayout;
    head->addWidget(new TextLabel(theme, TextLabel::Role::soft, tr("The reference")), 1);
    auto* all = make_link(tr("register"), QStringLiteral("openRegister"));
    head->addWidget(all);
    layout->addLayout(head);
    connect(all, &QPushButton::clicked, this, [this] {
        auto* dialog = new RegisterDialog(m_context, this);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        connect(dialog, &QDialog::finished, this, &ReferenceBox::registerChanged);
        dialog->open();
    });
    m_kind = new QComboBox;
    m_kind->setObjectName(QStringLiteral("referenceKind"));
    m_kind->setAccessibleName(tr("Kind of reference"));
    layout->addWidget(m_kind);
    m_instrument = new QComboBox;
    m_instrument->setObjectName(QStringLiteral("referenceInstrument"));
    m_instrument->setAccessibleName(tr("Instrument of the register"));
    layout->addWidget(m_instrument);
    m_inputs = new QWidget;
    m_input_grid = new QGridLayout(m_inputs);
    m_input_grid->setContentsMargins(0, 0, 0, 0);
    m_input_grid->setVerticalSpacing(theme.px(4));
    layout->addWidget(m_inputs);
    auto* row = new QHBoxLayout;
    m_value = new NumberField(theme, QStringLiteral("referenceValue"), tr("The reference says"), 18);
    m_doubt = new NumberField(theme, QStringLiteral("referenceDoubt"), tr("Its standard uncertainty"), 13);
    m_doubt->setToolTip(tr("standard uncertainty of the reference"));
    row->addWidget(m_value, 3);
    row->addWidget(new TextLabel(theme, TextLabel::Role::mono, QStringLiteral("±")));
    row->addWidget(m_doubt, 2);
    layout->addLayout(row);
    m_note = new TextLabel(theme, TextLabel::Role::soft);
    m_note->setObjectName(QStringLiteral("referenceNote"));
    m_note->setWordWrap(true);
    m_note->hide();
    layout->addWidget(m_note);
    m_caution = new TextLabel(theme, TextLabel::Role::body);
    m_caution->setObjectName(QStringLiteral("calibrateCaution"));
    m_remarks = new TextLabel(theme, TextLabel::Role::body);
    m_remarks->setObjectName(QStringLiteral("referenceRemarks"));
    for (TextLabel* label : {m_caution, m_remarks}) {
        label->setWordWrap(true);
        layout->addWidget(label);
    }
    connect(m_kind, &QComboBox::activated, this, &ReferenceBox::kindChosen);
    connect(m_instrument, &QComboBox::activated, this, &ReferenceBox::instrumentChosen);
    for (NumberField* field : {m_value, m_doubt})
        connect(field, &QLineEdit::textEdited, this, &ReferenceBox::changed);
}

const ReferenceKind* ReferenceBox::current() const {
    const int index = m_kind->currentIndex();
    return index >= 0 && index < static_cast<int>(m_kinds.size()) ? &m_kinds[static_cast<std::size_t>(index)]
                                                                  : nullptr;
}

void ReferenceBox::setReading(const Reading& reading, const std::vector<Recipe>& recipes) {
    m_reading = reading.id;
    m_kinds.clear();
    const Unit* own = find_unit(reading.quantity.unit);
    const auto offer_kind = [&](const std::string& id) {
        const ReferenceKind* kind = find_reference_kind(id);
        const Unit* its = kind && !kind->typed() ? find_unit(kind->unit) : own;
        const bool fits = kind && own && its && its->dimension == own->dimension;
        const bool known = std::any_of(m_kinds.begin(), m_kinds.end(), [&](const auto& k) { return k.id == id; });
        if (fits && !known) m_kinds.push_back(reference_at(*kind, reading.quantity.altitude_m));
    };
    for (const Recipe& recipe : recipes)
        for (const RecipeStep& step : recipe.steps)
            offer_kind(step.reference);
    offer_kind("other");
    for (ReferenceKind& kind : m_kinds)
        for (ReferenceInput& input : kind.inputs) {
            if (input.key == "funnel_cm2" && reading.quantity.funnel.area_cm2 > 0)
                input.value = reading.quantity.funnel.area_cm2;
            if (input.key == "face_mm" && reading.quantity.vessel.mount_mm > 0)
                input.value = reading.quantity.vessel.mount_mm;
        }
    m_kind->clear();
    for (const ReferenceKind& kind : m_kinds)
        m_kind->addItem(from_std(kind.title), from_std(kind.id));
    fillInstruments(reading);
    for (NumberField* field : {m_value, m_doubt})
        field->setUnit(from_std(unit_symbol(reading.quantity.unit)));
    kindChosen();
}

void ReferenceBox::fillInstruments(const Reading& reading) {
    const Unit* own = find_unit(reading.quantity.unit);
    m_instrument->clear();
    m_instrument->addItem(tr("not in the register"), QString());
    for (const ReferenceInstrument& r : m_context.session().bench().references) {
        const Unit* its = find_unit(r.unit);
        if (own && its && its->dimension == own->dimension) m_instrument->addItem(from_std(r.name), from_std(r.id));
    }
}

void ReferenceBox::registerChanged() {
    const Reading* reading = m_context.session().bench().reading(m_reading);
    if (!reading) return;
    const QVariant chosen = m_instrument->currentData();
    fillInstruments(*reading);
    m_instrument->setCurrentIndex(std::max(0, m_instrument->findData(chosen)));
    if (const ReferenceKind* kind = current()) m_instrument->setVisible(kind->typed() && m_instrument->count() > 1);
    instrumentChosen();
}

void ReferenceBox::choose(const std::string& kind) {
    const int index = m_kind->findData(from_std(kind));
    if (index < 0 || index == m_kind->currentIndex()) return;
    m_kind->setCurrentIndex(index);
    kindChosen();
}

void ReferenceBox::offer(double value) {
    if (const ReferenceKind* kind = current(); kind && kind->typed()) {
        m_value->show(from_std(format_constant(value, 6)));
        emit changed();
    }
}

std::optional<double> ReferenceBox::waterTemperature(const Reading& reading) const {
    for (const auto& [id, partner] : m_context.session().views().partners(reading, m_context.live()))
        if (const auto celsius = convert_unit(partner.value, partner.unit, "degC")) return *celsius;
    return {};
}

void ReferenceBox::kindChosen() {
    const ReferenceKind* kind = current();
    const Reading* reading = m_context.session().bench().reading(m_reading);
    if (!kind || !reading) return;
    clear_layout(m_input_grid);
    m_input_fields.clear();
    m_note->hide();
    int row = 0;
    // The thermometer in the same water says how warm it is, until somebody knows better.
    const std::optional<double> water = waterTemperature(*reading);
    for (ReferenceInput input : kind->inputs) {
        if (input.key == "water_degC" && water) input.value = std::round(*water * 10) / 10;
        auto* field = new NumberField(m_context.theme(), QStringLiteral("input_") + from_std(input.key),
                                      from_std(input.label));
        field->setUnit(input.unit == "1" ? QString() : from_std(unit_symbol(input.unit)));
        if (std::isfinite(input.value)) field->show(from_std(format_constant(input.value, 6)));
        connect(field, &QLineEdit::textEdited, this, &ReferenceBox::compute);
        m_input_fields[input.key] = field;
        m_input_grid->addWidget(new TextLabel(m_context.theme(), TextLabel::Role::soft, from_std(input.label)), row,
                                0);
        m_input_grid->addWidget(field, row++, 1);
    }
    m_inputs->setVisible(!kind->inputs.empty());
    m_instrument->setVisible(kind->typed() && m_instrument->count() > 1);
    m_kind->setToolTip(from_std(kind->how)); // the recipe's step says it in full
    set_text(m_caution, kind->caution.empty() ? QString() : QStringLiteral("▲ ") + from_std(kind->caution));
    m_caution->setColour(m_context.theme().colours().look);
    m_caution->setVisible(!kind->caution.empty());
    m_value->show({});
    m_value->setPlaceholderText(kind->typed() ? tr("type it") : QString());
    if (kind->typed()) {
        m_doubt->show(from_std(format_constant(kind->u > 0 ? kind->u : reading->quantity.accuracy / 8, 2)));
        if (kind->id == "reference-instrument" && m_instrument->count() > 1 && m_instrument->currentIndex() == 0)
            m_instrument->setCurrentIndex(1);
        instrumentChosen();
    } else {
        compute();
    }
}

void ReferenceBox::instrumentChosen() {
    const Reading* reading = m_context.session().bench().reading(m_reading);
    const ReferenceInstrument* r = m_context.session().bench().reference(instrument());
    if (reading && r)
        if (const auto u = instrument_doubt(*r, *reading)) m_doubt->show(from_std(format_constant(*u, 2)));
    emit changed();
}

void ReferenceBox::compute() {
    const ReferenceKind* kind = current();
    const Reading* reading = m_context.session().bench().reading(m_reading);
    if (!kind || !reading || kind->typed()) return;
    std::map<std::string, double> inputs;
    for (const auto& [key, field] : m_input_fields)
        if (const auto number = field->number()) inputs[key] = *number;
    const auto reference = reference_for(*kind, inputs, *reading);
    QString note;
    if (reference && reference->own)
        note = tr("%1 at %2, which this path states at 25 °C")
                   .arg(from_std(format_value(reference->own->value, reference->own->u, kind->unit)),
                        from_std(format_measure(reference->water_degC, "degC")));
    set_text(m_note, note);
    m_note->setVisible(!note.isEmpty());
    if (!reference) {
        m_value->show({});
        m_value->setPlaceholderText(tr("see above"));
    } else {
        const auto [value, u] = reference->value;
        const bool state = kind->unit == "1";
        m_value->show(
            from_std(state ? format_constant(value) : format_fixed(value, std::max(2, decimals_for(u / 2)))));
        m_doubt->show(from_std(format_constant(std::max(u, 1e-6), 2)));
    }
    emit changed();
}

std::optional<ReferenceValue> ReferenceBox::value() const {
    const auto value = m_value->number(), u = m_doubt->number();
    if (!value || !u) return {};
    return ReferenceValue{*value, *u};
}

std::string ReferenceBox::kind() const {
    const ReferenceKind* kind = current();
    return kind ? kind->id : "other";
}

std::string ReferenceBox::instrument() const {
    const ReferenceKind* kind = current();
    return kind && kind->typed() ? m_instrument->currentData().toString().toStdString() : std::string();
}

std::optional<double> ReferenceBox::input(const std::string& key) const {
    const auto field = m_input_fields.find(key);
    return field == m_input_fields.end() ? std::nullopt : field->second->number();
}

QString ReferenceBox::trouble() const {
    const Reading* reading = m_context.session().bench().reading(m_reading);
    const auto v = value();
    if (!reading || !v) return tr("type what the reference says");
    const auto checked = check_reference(reading->quantity, v->value, v->u);
    return checked ? QString() : from_std(checked.error().text());
}

void ReferenceBox::refresh(double indication) {
    const Reading* reading = m_context.session().bench().reading(m_reading);
    if (!reading) return;
    const Bench& bench = m_context.session().bench();
    QStringList remarks;
    for (const std::string& remark :
         reference_doubts(value(), bench.reference(instrument()), *reading, indication, m_context.session().now()))
        remarks << from_std(remark);
    set_text(m_remarks,
             remarks.isEmpty() ? QString() : QStringLiteral("▲ ") + remarks.join(QStringLiteral("\n▲ ")));
    m_remarks->setVisible(!remarks.isEmpty());
}

std::vector<NumberField*> ReferenceBox::fields() const {
    std::vector<NumberField*> out = {m_value, m_doubt};
    for (const auto& [key, field] : m_input_fields)
        out.push_back(field);
    return out;
}

} // namespace cognitum
