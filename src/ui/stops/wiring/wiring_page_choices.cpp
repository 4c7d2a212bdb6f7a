// The rows of choices above the loom: pins, rail, address, cable, colours, supply; each change rewires.
#include "ui/stops/wiring/wiring_page.h"

#include "core/base/phrase.h"
#include "core/plan/path.h"
#include "core/units/format.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"
#include "ui/widgets/wrap_row.h"

#include <fmt/format.h>

namespace cognitum {

WrapRow& WiringPage::choiceRow(int row) const {
    return *qobject_cast<WrapRow*>(m_choice_rows->itemAt(row)->layout());
}

QComboBox* WiringPage::makeChoice(const QString& label, const QString& name, std::vector<QWidget*>& parts) const {
    auto* text = new TextLabel(theme(), TextLabel::Role::soft, label);
    text->setWordWrap(false);
    auto* box = new QComboBox;
    box->setObjectName(name);
    box->setAccessibleName(label);
    parts.insert(parts.end(), {text, box});
    return box;
}

QComboBox* WiringPage::addChoice(const QString& label, const QString& name, int row) {
    std::vector<QWidget*> parts;
    QComboBox* box = makeChoice(label, name, parts);
    choiceRow(row).addTogether(parts);
    return box;
}

void WiringPage::buildChoices(const Placed& p) {
    const QString key = from_std(p.reading->id + p.reading->sensor.part + p.use->card + p.reading->wiring.module);
    if (key == m_choices_key) return;
    m_choices_key = key;
    clear_layout(m_choice_rows);
    m_pins.clear();
    m_rail = m_reference = m_address = m_colour = m_colour_leg = nullptr;
    constexpr int pin_row = 0, supply_row = 1, added_row = 2;
    for (int row = pin_row; row <= added_row; ++row)
        m_choice_rows->addLayout(new WrapRow(theme().px(6)));
    const bool behind = p.module_part != nullptr;
    for (const PinNeed& need : pin_needs(*p.part)) {
        const bool first = m_pins.empty();
        QComboBox* box = addChoice(
            from_std(need.leg),
            first ? QStringLiteral("wiringPin") : QStringLiteral("wiringPin_") + from_std(need.leg), pin_row);
        if (behind)
            for (const Leg& leg : p.module_part->legs) {
                if (leg.role == "channel") box->addItem(from_std(leg.label), from_std(leg.label));
            }
        else
            for (const Pin& pin : p.board->pins)
                if (pin.can(need.function) || (need.function == "digital" && pin.can("interrupt")))
                    box->addItem(from_std(pin.label), from_std(pin.label));
        m_pins.emplace_back(box, need.leg);
        connect(box, &QComboBox::activated, this, [this, box, leg = need.leg] {
            rewire(tr("Change pin"), [&](Reading& r) {
                Connection* c = r.wiring.connection(leg);
                if (!c) c = &r.wiring.pins.emplace_back(Connection{leg, {}, false, {}});
                c->pin = box->currentData().toString().toStdString();
                c->fixed = true; // the person's choice stays
            });
        });
        if (behind) break; // one channel for all its wires
    }
    if (p.part->supply.high_V > 0) {
        m_rail = addChoice(tr("fed from"), QStringLiteral("wiringRail"), supply_row);
        for (const Rail& rail : p.board->rails)
            m_rail->addItem(from_std(rail.label), from_std(rail.label));
        connect(m_rail, &QComboBox::activated, this, [this] {
            rewire(tr("Change rail"),
                   [&](Reading& r) { r.wiring.rail = m_rail->currentData().toString().toStdString(); });
        });
    }
    if (p.is_voltage() && !behind && p.board->references.size() > 1) {
        m_reference = addChoice(tr("measured against"), QStringLiteral("wiringReference"), supply_row);
        for (const VoltageReference& reference : p.board->references)
            m_reference->addItem(from_std(reference.name), from_std(reference.id));
        connect(m_reference, &QComboBox::activated, this, [this] {
            rewire(tr("Change reference"),
                   [&](Reading& r) { r.wiring.reference = m_reference->currentData().toString().toStdString(); });
        });
    }
    if (p.part->interface.addresses.size() > 1) {
        m_address = addChoice(tr("address"), QStringLiteral("wiringAddress"), supply_row);
        for (const int address : p.part->interface.addresses)
            m_address->addItem(from_std(fmt::format("0x{:02X}", address)), address);
        m_address->setToolTip(from_std(p.part->interface.strap));
        connect(m_address, &QComboBox::activated, this, [this] {
            rewire(tr("Change address"), [&](Reading& r) { r.wiring.address = m_address->currentData().toInt(); });
        });
    }
    auto* text = new TextLabel(theme(), TextLabel::Role::soft, tr("cable"));
    text->setWordWrap(false);
    m_cable = new NumberField(theme(), QStringLiteral("wiringCable"), tr("Length of the cable"));
    m_cable->setUnit(QStringLiteral("m"));
    m_cable->setFixedWidth(theme().px(72));
    choiceRow(supply_row).addTogether({text, m_cable});
    connect(m_cable, &NumberField::numberEdited, this, [this](double metres) {
        if (metres < 0 || metres > 1000) return;
        rewire(tr("Change cable"), [&](Reading& r) { r.wiring.cable_m = metres; });
    });
    std::vector<QWidget*> colour_parts;
    m_colour_leg = makeChoice(tr("wire"), QStringLiteral("wireLeg"), colour_parts);
    m_colour = makeChoice(tr("is"), QStringLiteral("wireColour"), colour_parts);
    choiceRow(supply_row).addTogether(colour_parts);
    for (const Leg& leg : p.part->legs)
        if (leg.role != "unused" && leg.role != "strap")
            m_colour_leg->addItem(from_std(leg.label), from_std(leg.role));
    for (const std::string& colour : wire_colours())
        m_colour->addItem(from_std(phrase_of(colour)), from_std(colour));
    connect(m_colour_leg, &QComboBox::activated, this, [this] { refresh(); });
    connect(m_colour, &QComboBox::activated, this, [this] {
        const std::string leg = m_colour_leg->currentText().toStdString();
        const std::string colour = m_colour->currentData().toString().toStdString();
        context().session().editReading(context().readingId(), tr("Change wire colour"), [&](Reading& r) {
            std::erase_if(r.wiring.colours, [&](const auto& entry) { return entry.first == leg; });
            if (usual_colour(m_colour_leg->currentData().toString().toStdString()) != colour)
                r.wiring.colours.emplace_back(leg, colour);
        });
    });
    buildSupplyChoices(p, choiceRow(added_row));
    m_turned = nullptr;
    if (p.part->leg_with_role("supply") >= 0) {
        m_turned = new QCheckBox(tr("legs the other way round"));
        m_turned->setObjectName(QStringLiteral("legsTurned"));
        m_turned->setToolTip(tr("The card sees it: %1").arg(from_std(p.part->seen_from)));
        choiceRow(pin_row).addWidget(m_turned);
        connect(m_turned, &QCheckBox::clicked, this, [this](bool on) {
            context().session().editReading(context().readingId(), tr("Turn the part"),
                                            [&](Reading& r) { r.wiring.turned = on; });
        });
    }
}

/// A supply of its own, its ground, a pull-up, and one-wire parts that live on their data wire.
void WiringPage::buildSupplyChoices(const Placed& p, WrapRow& row) {
    const auto number = [&](const QString& label, const char* name, const QString& unit, double most,
                            void (*set)(Wiring&, double)) {
        auto* text = new TextLabel(theme(), TextLabel::Role::soft, label);
        text->setWordWrap(false);
        auto* field = new NumberField(theme(), QLatin1String(name), label);
        field->setUnit(unit);
        field->setFixedWidth(theme().px(most > 1000 ? 90 : 72));
        row.addTogether({text, field});
        connect(field, &NumberField::numberEdited, this, [this, most, set, label](double value) {
            if (value >= 0 && value <= most)
                rewire(tr("Change: %1").arg(label), [&](Reading& r) { set(r.wiring, value); });
        });
        return field;
    };
    const auto check = [&](const QString& label, const char* name, bool Wiring::*member) {
        auto* box = new QCheckBox(label);
        box->setObjectName(QLatin1String(name));
        row.addWidget(box);
        connect(box, &QCheckBox::clicked, this, [this, label, member](bool on) {
            rewire(tr("Change: %1").arg(label), [&](Reading& r) { r.wiring.*member = on; });
        });
        return box;
    };
    m_own_supply = nullptr;
    m_ground = m_parasite = m_protected = nullptr;
    if (p.part->supply.high_V > 0) {
        m_own_supply = number(tr("own supply"), "wiringOwnSupply", QStringLiteral("V"), 60,
                              [](Wiring& w, double v) { w.own_supply_V = v; });
        m_ground = check(tr("ground joined"), "wiringGround", &Wiring::ground_joined);
    }
    m_pull_up = number(tr("added pull-up"), "wiringPullUp", QStringLiteral("Ω"), 1e6,
                       [](Wiring& w, double v) { w.pull_up_ohm = v; });
    if (p.part->interface.speech == Speech::one_wire)
        m_parasite = check(tr("no supply wire"), "wiringParasite", &Wiring::parasite);
    if (p.part->network.kind == Network::Kind::shunt)
        m_protected = check(tr("10 kΩ and diodes at the pin"), "wiringProtected", &Wiring::input_protected);
}

void WiringPage::showChoices(const Placed& p) {
    const Wiring& w = p.reading->wiring;
    for (const auto& [box, leg] : m_pins) {
        const Connection* c = w.connection(leg);
        box->setCurrentIndex(c ? box->findData(from_std(c->pin)) : -1);
    }
    if (m_rail) m_rail->setCurrentIndex(m_rail->findData(from_std(w.rail)));
    if (m_reference) m_reference->setCurrentIndex(m_reference->findData(from_std(w.reference)));
    if (m_address) m_address->setCurrentIndex(m_address->findData(bus_address(w.address, *p.part)));
    m_cable->show(from_std(format_constant(w.cable_m)));
    if (m_turned) m_turned->setChecked(w.turned);
    if (m_own_supply) m_own_supply->show(from_std(format_constant(w.own_supply_V)));
    m_pull_up->show(from_std(format_constant(w.pull_up_ohm)));
    if (m_ground) m_ground->setChecked(w.ground_joined);
    if (m_parasite) m_parasite->setChecked(w.parasite);
    if (m_protected) m_protected->setChecked(w.input_protected);
    std::string colour = usual_colour(m_colour_leg->currentData().toString().toStdString());
    for (const auto& [leg, chosen] : w.colours)
        if (leg == m_colour_leg->currentText().toStdString()) colour = chosen;
    m_colour->setCurrentIndex(m_colour->findData(from_std(colour)));
}

} // namespace cognitum
