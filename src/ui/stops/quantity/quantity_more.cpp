// The part of the Quantity page that depends on the kind: surroundings, vessel, funnel, what is expected when.
#include "core/base/phrase.h"
#include "core/physics/vessel.h"
#include "core/units/format.h"
#include "ui/stops/quantity/quantity_page.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QGridLayout>
#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {

bool has_vessel(const Quantity& q) {
    return q.about().in_vessel;
}

bool asks_for(const Quantity& q, const char* size) {
    const auto kind = physics::vessel_kind(q.vessel.shape);
    if (!has_vessel(q) || !kind) return false;
    const auto sizes = physics::vessel_sizes(*kind);
    return std::find(sizes.begin(), sizes.end(), size) != sizes.end();
}

QString if_so(bool shown, const QString& label) {
    return shown ? label : QString();
}

QString width_label(const Quantity& q) {
    if (q.vessel.shape == "frustum") return Session::tr("Top diameter");
    if (asks_for(q, "diameter") && q.vessel.shape != "rounded-box") return Session::tr("Diameter");
    if (asks_for(q, "width")) return Session::tr("Width");
    return if_so(has_vessel(q), Session::tr("Free width"));
}

QString diameter_label(const Quantity& q) {
    if (q.vessel.shape == "frustum") return Session::tr("Bottom diameter");
    return if_so(q.vessel.shape == "rounded-box" && has_vessel(q), Session::tr("Edges’ diameter"));
}

} // namespace

NumberField* QuantityPage::addMore(const char* name, const QString& unit, double* (*get)(Quantity&),
                                   QString (*label_for)(const Quantity&)) {
    // They belong to the page before a place is found for them, or they would be windows.
    auto* field = new NumberField(theme(), QLatin1String(name), QLatin1String(name), 13, sheet());
    field->setUnit(unit);
    auto* text = new TextLabel(theme(), TextLabel::Role::soft, {}, sheet());
    text->setWordWrap(false);
    m_more.push_back({field, text, get, label_for});
    connect(field, &NumberField::numberEdited, this, [this, get, field](double value) {
        const bool below = field->objectName() == QStringLiteral("quantityAltitude");
        if (value < 0 && !below) {
            set_text(m_trouble, tr("A size is above zero: nothing was changed."));
            m_trouble->setColour(theme().colours().bad);
            return;
        }
        edit(tr("Change surroundings"), [&](Reading& r) { *get(r.quantity) = value; });
    });
    return field;
}

void QuantityPage::buildSurroundings(QGridLayout* form, int& row) {
    auto* around = new QHBoxLayout; // two and two, one over the other where it is narrow
    around->setSpacing(theme().px(10));
    stackWhenNarrow(around);
    QHBoxLayout* halves[] = {new QHBoxLayout, new QHBoxLayout};
    for (QHBoxLayout* half : halves) {
        half->setSpacing(theme().px(10));
        around->addLayout(half);
    }
    const auto box = [&](const QString& text, const QString& name, bool Surroundings::*member) {
        auto* check = new QCheckBox(text, sheet());
        check->setObjectName(name);
        halves[m_around.size() / 2]->addWidget(check);
        m_around.emplace_back(check, member);
        connect(check, &QCheckBox::clicked, this, [this, member](bool on) {
            edit(tr("Change surroundings"), [&](Reading& r) { r.quantity.around.*member = on; });
        });
    };
    box(tr("wet"), QStringLiteral("aroundWater"), &Surroundings::water);
    box(tr("outdoors"), QStringLiteral("aroundOutdoors"), &Surroundings::outdoors);
    box(tr("food"), QStringLiteral("aroundFood"), &Surroundings::food);
    box(tr("beside the board"), QStringLiteral("aroundRegulator"), &Surroundings::beside_regulator);
    for (QHBoxLayout* half : halves)
        half->addStretch(1);
    form->addWidget(new TextLabel(theme(), TextLabel::Role::soft, tr("There it is"), sheet()), row, 0,
                    Qt::AlignVCenter);
    form->addLayout(around, row++, 1);
    m_private = new QCheckBox(tr("private: only when asked for by name"), sheet());
    m_private->setObjectName(QStringLiteral("quantityPrivate"));
    connect(m_private, &QCheckBox::clicked, this, [this](bool on) {
        edit(tr("Change who may have it"), [&](Reading& r) { r.quantity.kept_private = on; });
    });
    form->addWidget(new TextLabel(theme(), TextLabel::Role::soft, tr("It leaves the bench"), sheet()), row, 0,
                    Qt::AlignVCenter);
    form->addWidget(m_private, row++, 1);

    m_shape_label = new TextLabel(theme(), TextLabel::Role::soft, tr("Vessel"), sheet());
    m_shape = new QComboBox(sheet());
    m_shape->setObjectName(QStringLiteral("vesselShape"));
    m_shape->setAccessibleName(tr("Shape of the vessel"));
    m_shape->addItem(tr("not said"), QString());
    for (const std::string& name : physics::vessel_names())
        if (const auto kind = physics::vessel_kind(name); kind && kind != physics::VesselKind::stack)
            m_shape->addItem(from_std(physics::vessel_title(*kind)), from_std(name));
    form->addWidget(m_shape_label, row, 0, Qt::AlignVCenter);
    form->addWidget(m_shape, row++, 1);
    connect(m_shape, &QComboBox::activated, this, [this] {
        const std::string shape = m_shape->currentData().toString().toStdString();
        edit(tr("Change vessel"), [&](Reading& r) { r.quantity.vessel.shape = shape; });
    });
    m_table_label = new TextLabel(theme(), TextLabel::Role::soft, tr("Levels and litres"), sheet());
    m_table = make_field("vesselTable", tr("Levels in mm and litres"), tr("0:0, 200:50, 900:400 (mm:L)"), sheet());
    form->addWidget(m_table_label, row, 0, Qt::AlignVCenter);
    form->addWidget(m_table, row++, 1);
    connect(m_table, &QLineEdit::editingFinished, this, &QuantityPage::readTable);

    m_pairs = new QGridLayout;
    m_pairs->setHorizontalSpacing(theme().px(8));
    m_pairs->setVerticalSpacing(theme().px(6));
    m_pairs->setColumnStretch(1, 1);
    m_pairs->setColumnStretch(3, 1);
    form->addLayout(m_pairs, row++, 0, 1, 2);
    const QString mm = QStringLiteral("mm");
    addMore(
        "aroundHottest", QStringLiteral("°C"), [](Quantity& q) { return &q.around.hottest_degC; },
        [](const Quantity&) { return tr("Hottest there"); });
    addMore(
        "quantityChange", QStringLiteral("s"), [](Quantity& q) { return &q.change_s; },
        [](const Quantity&) { return tr("Fastest change"); });
    addMore(
        "quantityAltitude", QStringLiteral("m"), [](Quantity& q) { return &q.altitude_m; },
        [](const Quantity& q) { return if_so(!has_vessel(q), tr("Above the sea")); });
    addMore(
        "vesselWidth", mm, [](Quantity& q) { return &q.vessel.width_mm; }, width_label);
    addMore(
        "vesselDiameter", mm, [](Quantity& q) { return &q.vessel.diameter_mm; }, diameter_label);
    addMore(
        "vesselLength", mm, [](Quantity& q) { return &q.vessel.length_mm; },
        [](const Quantity& q) { return if_so(asks_for(q, "length"), tr("Length")); });
    addMore(
        "vesselHeight", mm, [](Quantity& q) { return &q.vessel.height_mm; },
        [](const Quantity& q) { return if_so(asks_for(q, "height"), tr("Height")); });
    addMore(
        "vesselMount", mm, [](Quantity& q) { return &q.vessel.mount_mm; },
        [](const Quantity& q) { return if_so(has_vessel(q), tr("Sensor’s height")); });
    addMore(
        "vesselFull", mm, [](Quantity& q) { return &q.vessel.full_mm; },
        [](const Quantity& q) { return if_so(has_vessel(q), tr("Full level")); });
    addMore(
        "vesselEmpty", mm, [](Quantity& q) { return &q.vessel.empty_mm; },
        [](const Quantity& q) { return if_so(has_vessel(q), tr("Empty level")); });
    addMore(
        "vesselBulge", QStringLiteral("%"), [](Quantity& q) { return &q.vessel.bulge_percent; },
        [](const Quantity& q) { return if_so(!q.about().from_level.empty(), tr("Bulges by")); });
    addMore(
        "funnelArea", QStringLiteral("cm²"), [](Quantity& q) { return &q.funnel.area_cm2; },
        [](const Quantity& q) { return if_so(q.about().events == Events::tips, tr("Funnel’s area")); });
    addMore(
        "funnelTip", QStringLiteral("mL"), [](Quantity& q) { return &q.funnel.tip_mL; },
        [](const Quantity& q) { return if_so(q.about().events == Events::tips, tr("One tip")); });

    m_expected = make_field("quantityExpected", tr("What is expected when"),
                            tr("what is usual, when: noon in June, after rain"), sheet());
    form->addWidget(new TextLabel(theme(), TextLabel::Role::soft, tr("Expected when"), sheet()), row, 0,
                    Qt::AlignVCenter);
    form->addWidget(m_expected, row++, 1);
    connect(m_expected, &QLineEdit::editingFinished, this, [this] {
        edit(tr("Change what is expected"),
             [&](Reading& r) { r.quantity.expected_when = m_expected->text().trimmed().toStdString(); });
    });
}

/// "0:0, 200:50": a level in mm and the litres at it.
void QuantityPage::readTable() {
    std::vector<double> levels, volumes;
    QString trouble;
    for (const QString& part : m_table->text().split(QLatin1Char(','), Qt::SkipEmptyParts)) {
        const auto level = typed_number(part.section(QLatin1Char(':'), 0, 0));
        const auto volume = typed_number(part.section(QLatin1Char(':'), 1));
        if (!level || !volume) trouble = tr("“%1” is no level and volume: write 200:50.").arg(part.trimmed());
        levels.push_back(level.value_or(0));
        volumes.push_back(volume.value_or(0));
    }
    if (trouble.isEmpty() && !levels.empty()) {
        Vessel trial;
        trial.shape = "strapping";
        trial.levels_mm = levels;
        trial.volumes_L = volumes;
        if (const auto sound = physics::check_vessel(vessel_shape(trial)); !sound)
            trouble = from_std(sound.error().what);
    }
    if (!trouble.isEmpty()) {
        set_text(m_trouble, trouble + tr(" Nothing was changed."));
        m_trouble->setColour(theme().colours().bad);
        return;
    }
    edit(tr("Change vessel"), [&](Reading& r) {
        r.quantity.vessel.levels_mm = levels;
        r.quantity.vessel.volumes_L = volumes;
    });
}

void QuantityPage::showSurroundings(const Quantity& q) {
    for (const auto& [check, member] : m_around)
        check->setChecked(q.around.*member);
    m_private->setChecked(q.is_private());
    m_private->setEnabled(!q.about().is_private);
    m_private->setToolTip(q.about().is_private
                              ? tr("What is about somebody’s health always is.")
                              : tr("Exports, reports, the page for the network and the mirror leave it out, and a "
                                   "notice tells no number, unless it is asked for by name."));

    Quantity copy = q;
    int place = 0;
    const int across = width() < theme().px(500) ? 1 : 2;
    for (const More& more : m_more) {
        const QString label = more.label_for(q);
        const bool shown = !label.isEmpty();
        show_part(more.field, shown);
        show_part(more.label, shown);
        m_pairs->removeWidget(more.field);
        m_pairs->removeWidget(more.label);
        if (!shown) continue;
        set_text(more.label, label);
        more.field->setAccessibleName(label);
        m_pairs->addWidget(more.label, place / across, 2 * (place % across), Qt::AlignVCenter);
        m_pairs->addWidget(more.field, place / across, 2 * (place % across) + 1);
        ++place;
        more.field->show(from_std(format_constant(*more.get(copy))));
    }
    const bool vessel = has_vessel(q);
    show_part(m_shape, vessel);
    show_part(m_shape_label, vessel);
    m_shape->setCurrentIndex(std::max(0, m_shape->findData(from_std(q.vessel.shape))));
    const bool table = vessel && q.vessel.shape == "strapping";
    show_part(m_table, table);
    show_part(m_table_label, table);
    if (table && !m_table->hasFocus()) {
        QStringList rows;
        for (std::size_t i = 0; i < q.vessel.levels_mm.size(); ++i)
            rows << from_std(fmt::format("{:g}:{:g}", q.vessel.levels_mm[i], q.vessel.volumes_L[i]));
        m_table->setText(rows.join(QStringLiteral(", ")));
    }
    if (!m_expected->hasFocus()) {
        m_expected->setText(from_std(q.expected_when));
        m_expected->setCursorPosition(0); // its beginning is read first
    }
}

} // namespace cognitum
