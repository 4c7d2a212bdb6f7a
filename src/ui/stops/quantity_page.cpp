#include "ui/stops/quantity_page.h"

#include "core/units/format.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QGridLayout>
#include <QPainter>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

RangeScale::RangeScale(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("rangeScale"));
    setAccessibleName(tr("Expected range, band and value now, drawn as a scale"));
    setMinimumHeight(sizeHint().height());
}

QSize RangeScale::sizeHint() const {
    return {m_context.theme().px(240), m_context.theme().px(360)};
}

void RangeScale::paintEvent(QPaintEvent*) {
    const Reading* r = m_context.reading();
    if (!r) return;
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    const Quantity& q = r->quantity;
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const double margin = (q.high - q.low) * 0.12;
    const double low = q.low - margin;
    const double high = q.high + margin;
    const double top = theme.px(14);
    const double bottom = height() - theme.px(14);
    const auto y = [&](double value) { return bottom - (value - low) / (high - low) * (bottom - top); };
    const double x = theme.px(64);
    const double w = theme.px(22);

    p.fillRect(QRectF(x - theme.px(12), y(q.high), w + theme.px(24), y(q.low) - y(q.high)), t.tint);
    p.setPen(theme.pen(t.ink, 1.6));
    p.setBrush(t.sheet);
    p.drawRoundedRect(QRectF(x, top, w, bottom - top), w / 2, w / 2);
    if (r->bands) {
        p.setPen(Qt::NoPen);
        p.setBrush(t.good);
        p.drawRect(
            QRectF(x + w + theme.px(12), y(r->bands->high), theme.px(4), y(r->bands->low) - y(r->bands->high)));
        p.setPen(t.good);
        p.setFont(theme.text(11));
        p.drawText(QPointF(x + w + theme.px(22), (y(r->bands->high) + y(r->bands->low)) / 2 + theme.px(4)),
                   tr("in range"));
    }
    const double step = std::pow(10, std::floor(std::log10((q.high - q.low) / 3)));
    const double tick = (q.high - q.low) / step > 12 ? 5 * step : (q.high - q.low) / step > 6 ? 2 * step : step;
    p.setFont(theme.mono(12));
    for (double v = std::ceil(low / tick) * tick; v <= high; v += tick) {
        const bool inside = v >= q.low - 1e-9 && v <= q.high + 1e-9;
        p.setPen(inside ? t.ink : t.soft);
        p.drawText(QRectF(0, y(v) - theme.px(9), x - theme.px(18), theme.px(18)), Qt::AlignRight | Qt::AlignVCenter,
                   from_std(format_constant(std::abs(v) < 1e-9 ? 0 : v)));
        p.setPen(theme.pen(t.rule));
        p.drawLine(QPointF(x - theme.px(12), y(v)), QPointF(x - 1, y(v)));
    }
    const auto note = [&](double value, const QString& text, const QColor& colour) {
        p.setPen(colour);
        p.setFont(theme.text(11));
        p.drawText(QPointF(x + w + theme.px(22), y(value) + theme.px(4)), text);
    };
    note(q.high, tr("most you expect"), t.accent);
    note(q.low, tr("least you expect"), t.accent);
    const LiveReading* now = m_context.liveReading();
    if (now && now->value.ok() && m_context.state(r->id).freshness != Freshness::silent) {
        const double value = std::clamp(now->value.number, low, high);
        p.setPen(Qt::NoPen);
        p.setBrush(t.accent);
        p.drawRoundedRect(QRectF(x + w * 0.28, y(value), w * 0.44, bottom - y(value) - w * 0.28), w * 0.22,
                          w * 0.22);
        p.setPen(theme.pen(t.accent, 2));
        p.drawLine(QPointF(x - theme.px(4), y(value)), QPointF(x + w + theme.px(8), y(value)));
        p.setPen(t.ink);
        p.setFont(theme.mono(13, true));
        const double band_middle = r->bands ? (y(r->bands->high) + y(r->bands->low)) / 2 : -1000;
        const bool crowded = std::abs(y(value) - y(q.high)) < theme.px(16) ||
                             std::abs(y(value) - y(q.low)) < theme.px(16) ||
                             std::abs(y(value) - band_middle) < theme.px(16);
        p.drawText(QPointF(x + w + theme.px(crowded ? 116 : 22), y(value) + theme.px(5)),
                   tr("now %1").arg(m_context.state(r->id).value));
    }
}

QuantityPage::QuantityPage(Context& context) : Page(context, tr("What do you want to know?")) {
    auto* columns = new QHBoxLayout;
    stackWhenNarrow(columns);
    columns->setSpacing(theme().px(40));
    auto* form = new QGridLayout;
    form->setHorizontalSpacing(theme().px(12));
    form->setVerticalSpacing(theme().px(10));
    form->setColumnMinimumWidth(0, theme().px(120));
    columns->addLayout(form, 5);
    int row = 0;
    const auto add = [&](const QString& label, QWidget* widget, const QString& hint = {}) {
        form->addWidget(new TextLabel(theme(), TextLabel::Role::soft, label), row, 0, Qt::AlignVCenter);
        form->addWidget(widget, row, 1);
        if (!hint.isEmpty()) form->addWidget(new TextLabel(theme(), TextLabel::Role::small, hint), ++row, 1);
        ++row;
    };
    m_name = new QLineEdit;
    m_name->setObjectName(QStringLiteral("quantityName"));
    m_name->setAccessibleName(tr("Name of the reading"));
    add(tr("Name"), m_name);
    m_kind = new QComboBox;
    m_kind->setObjectName(QStringLiteral("quantityKind"));
    m_kind->setAccessibleName(tr("Kind of quantity"));
    for (const QuantityKind& kind : quantity_kinds())
        m_kind->addItem(from_std(kind.title), from_std(kind.id));
    add(tr("Kind"), m_kind);
    m_unit = new QComboBox;
    m_unit->setObjectName(QStringLiteral("quantityUnit"));
    m_unit->setAccessibleName(tr("Unit"));
    add(tr("Unit"), m_unit);
    m_low = new NumberField(theme(), QStringLiteral("quantityLow"), tr("Least you expect"));
    m_high = new NumberField(theme(), QStringLiteral("quantityHigh"), tr("Most you expect"));
    m_accuracy = new NumberField(theme(), QStringLiteral("quantityAccuracy"), tr("Needed accuracy, plus or minus"));
    m_interval = new NumberField(theme(), QStringLiteral("quantityInterval"), tr("A value every so many seconds"));
    m_interval->setUnit(QStringLiteral("s"));
    add(tr("Least you expect"), m_low);
    add(tr("Most you expect"), m_high);
    add(tr("Good enough is ±"), m_accuracy, tr("at 95 %: nineteen readings of twenty lie this close to the truth"));
    add(tr("A value every"), m_interval);
    m_place = new QLineEdit;
    m_place->setObjectName(QStringLiteral("quantityPlace"));
    m_place->setAccessibleName(tr("Place"));
    m_place->setPlaceholderText(tr("where it hangs, how high, in sun or shade"));
    add(tr("Place"), m_place);
    buildSurroundings(form, row);
    m_trouble = new TextLabel(theme(), TextLabel::Role::body);
    m_trouble->setObjectName(QStringLiteral("quantityTrouble"));
    form->addWidget(m_trouble, row++, 0, 1, 2);
    form->addWidget(new RuleLine(theme()), row++, 0, 1, 2);
    form->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("What that asks of the parts")), row++, 0, 1,
                    2);
    m_asks = new TextLabel(theme(), TextLabel::Role::body);
    form->addWidget(m_asks, row++, 0, 1, 2);
    form->setRowStretch(row, 1);
    m_scale = new RangeScale(context);
    columns->addWidget(m_scale, 4);
    body()->addLayout(columns, 1);

    connect(m_name, &QLineEdit::editingFinished, this, [this] {
        const std::string name = m_name->text().trimmed().toStdString();
        if (!name.empty()) edit(tr("Rename reading"), [&](Reading& r) { r.name = name; });
    });
    connect(m_place, &QLineEdit::editingFinished, this, [this] {
        edit(tr("Change place"), [&](Reading& r) { r.quantity.place = m_place->text().trimmed().toStdString(); });
    });
    connect(m_kind, &QComboBox::activated, this, [this](int index) {
        const QuantityKind& kind = quantity_kinds()[static_cast<std::size_t>(index)];
        edit(tr("Change kind"), [&](Reading& r) {
            if (r.quantity.kind == kind.id) return;
            const Quantity before = r.quantity;
            r.quantity = {};
            r.quantity.kind = kind.id;
            r.quantity.unit = kind.units[0];
            r.quantity.low = kind.low;
            r.quantity.high = kind.high;
            r.quantity.accuracy = kind.accuracy;
            r.quantity.interval_s = before.interval_s;
            r.quantity.place = before.place;
            r.quantity.around = before.around;
            r.sensor = {};
            r.wiring = {};
            r.path = {};
            r.bands.reset();
            r.correction.reset();
        });
    });
    connect(m_unit, &QComboBox::activated, this, [this] {
        const std::string unit = m_unit->currentData().toString().toStdString();
        edit(tr("Change unit"), [&](Reading& r) {
            if (!r.path.stages.empty()) return; // the path ends in its own unit
            const auto convert = [&](double v) { return convert_unit(v, r.quantity.unit, unit).value_or(v); };
            const double width = convert(r.quantity.low + r.quantity.accuracy) - convert(r.quantity.low);
            r.quantity.low = convert(r.quantity.low);
            r.quantity.high = convert(r.quantity.high);
            r.quantity.accuracy = width;
            r.quantity.unit = unit;
        });
    });
    const auto number = [this](NumberField* field, const QString& what, auto set) {
        connect(field, &NumberField::numberEdited, this,
                [this, what, set](double value) { edit(what, [&](Reading& r) { set(r.quantity, value); }); });
    };
    number(m_low, tr("Change expected range"), [](Quantity& q, double v) { q.low = v; });
    number(m_high, tr("Change expected range"), [](Quantity& q, double v) { q.high = v; });
    number(m_accuracy, tr("Change needed accuracy"), [](Quantity& q, double v) { q.accuracy = v; });
    number(m_interval, tr("Change interval"), [](Quantity& q, double v) { q.interval_s = v; });
}

/// What stands around the sensor, and the vessel under it: the rules of Sensor and Wiring ask for these.
void QuantityPage::buildSurroundings(QGridLayout* form, int& row) {
    auto* around = new QHBoxLayout;
    around->setSpacing(theme().px(10));
    const auto box = [&](const QString& text, const QString& name, bool Surroundings::*member) {
        auto* check = new QCheckBox(text);
        check->setObjectName(name);
        around->addWidget(check);
        m_around.emplace_back(check, member);
        connect(check, &QCheckBox::clicked, this, [this, member](bool on) {
            edit(tr("Change surroundings"), [&](Reading& r) { r.quantity.around.*member = on; });
        });
    };
    box(tr("wet"), QStringLiteral("aroundWater"), &Surroundings::water);
    box(tr("outdoors"), QStringLiteral("aroundOutdoors"), &Surroundings::outdoors);
    box(tr("food"), QStringLiteral("aroundFood"), &Surroundings::food);
    box(tr("beside the board"), QStringLiteral("aroundRegulator"), &Surroundings::beside_regulator);
    around->addStretch(1);
    form->addWidget(new TextLabel(theme(), TextLabel::Role::soft, tr("There it is")), row, 0, Qt::AlignVCenter);
    form->addLayout(around, row++, 1);
    auto* pairs = new QGridLayout;
    pairs->setHorizontalSpacing(theme().px(8));
    pairs->setVerticalSpacing(theme().px(6));
    pairs->setColumnStretch(1, 1);
    pairs->setColumnStretch(3, 1);
    form->addLayout(pairs, row++, 0, 1, 2);
    int place = 0;
    const auto number = [&](const QString& label, const QString& name, const QString& unit, auto get) {
        auto* field = new NumberField(theme(), name, label);
        field->setUnit(unit);
        auto* text = new TextLabel(theme(), TextLabel::Role::soft, label);
        text->setWordWrap(false);
        pairs->addWidget(text, place / 2, 2 * (place % 2), Qt::AlignVCenter);
        pairs->addWidget(field, place / 2, 2 * (place % 2) + 1);
        ++place;
        m_more.push_back({field, text, get});
        connect(field, &NumberField::numberEdited, this, [this, get](double value) {
            if (value < 0) return;
            edit(tr("Change surroundings"), [&](Reading& r) { *get(r.quantity) = value; });
        });
    };
    number(tr("Hottest there"), QStringLiteral("aroundHottest"), QStringLiteral("°C"),
           [](Quantity& q) { return &q.around.hottest_degC; });
    number(tr("Fastest change"), QStringLiteral("quantityChange"), QStringLiteral("s"),
           [](Quantity& q) { return &q.change_s; });
    m_vessel_from = m_more.size();
    number(tr("Free width"), QStringLiteral("vesselWidth"), QStringLiteral("mm"),
           [](Quantity& q) { return &q.vessel.width_mm; });
    number(tr("Vessel’s length"), QStringLiteral("vesselLength"), QStringLiteral("mm"),
           [](Quantity& q) { return &q.vessel.length_mm; });
    number(tr("Sensor’s height"), QStringLiteral("vesselMount"), QStringLiteral("mm"),
           [](Quantity& q) { return &q.vessel.mount_mm; });
    number(tr("Full level"), QStringLiteral("vesselFull"), QStringLiteral("mm"),
           [](Quantity& q) { return &q.vessel.full_mm; });
}

void QuantityPage::showSurroundings(const Quantity& q) {
    for (const auto& [check, member] : m_around)
        check->setChecked(q.around.*member);
    Quantity copy = q;
    const bool vessel = q.kind == "level" || q.kind == "volume";
    for (std::size_t i = 0; i < m_more.size(); ++i) {
        const bool visible = i < m_vessel_from || vessel;
        m_more[i].field->setVisible(visible);
        m_more[i].label->setVisible(visible);
        m_more[i].field->show(from_std(format_constant(*m_more[i].get(copy))));
    }
}

void QuantityPage::edit(const QString& what, const std::function<void(Reading&)>& change) {
    const Reading* before = context().reading();
    if (!before) return;
    Reading trial = *before;
    change(trial);
    QString trouble;
    if (!(trial.quantity.low < trial.quantity.high))
        trouble = tr("The least must be below the most: nothing was changed.");
    else if (!(trial.quantity.accuracy > 0))
        trouble = tr("Good enough must be above zero: nothing was changed.");
    else if (!(trial.quantity.interval_s > 0))
        trouble = tr("The interval must be above zero: nothing was changed.");
    set_text(m_trouble, trouble);
    m_trouble->setColour(theme().colours().bad);
    if (trouble.isEmpty()) context().session().editReading(before->id, what, change);
    refresh();
}

void QuantityPage::refresh() {
    const Reading* r = context().reading();
    if (!r) return;
    const Quantity& q = r->quantity;
    const QString symbol = from_std(unit_symbol(q.unit));
    if (!m_name->hasFocus()) m_name->setText(from_std(r->name));
    if (!m_place->hasFocus()) m_place->setText(from_std(q.place));
    m_kind->setCurrentIndex(m_kind->findData(from_std(q.kind)));
    const QuantityKind* kind = find_quantity_kind(q.kind);
    if (kind && (m_unit->count() != static_cast<int>(kind->units.size()) ||
                 m_unit->itemData(0).toString() != from_std(kind->units[0]))) {
        m_unit->clear();
        for (const std::string& unit : kind->units)
            m_unit->addItem(from_std(unit_symbol(unit).empty() ? "no unit" : unit_symbol(unit)), from_std(unit));
    }
    m_unit->setCurrentIndex(m_unit->findData(from_std(q.unit)));
    m_unit->setEnabled(r->path.stages.empty());
    m_unit->setToolTip(m_unit->isEnabled() ? QString() : tr("The chosen part gives %1.").arg(symbol));
    for (NumberField* field : {m_low, m_high, m_accuracy})
        field->setUnit(symbol);
    m_low->show(from_std(format_constant(q.low)));
    m_high->show(from_std(format_constant(q.high)));
    m_accuracy->show(from_std(format_constant(q.accuracy)));
    m_interval->show(from_std(format_constant(q.interval_s)));
    showSurroundings(q);
    const double parts = (q.high - q.low) / q.accuracy;
    set_text(m_asks, from_std(fmt::format(
                         "{} of span at ± {}: one part in {:.0f}. A converter needs at least {:.0f} bits over "
                         "that span to tell a third of it apart. {} values a day.",
                         format_measure(q.high - q.low, q.unit), format_measure(q.accuracy, q.unit), parts,
                         std::ceil(std::log2(std::max(1.0, 3 * parts))),
                         format_constant(std::round(86400 / q.interval_s), 8))));
    setNote(tr("every change can be undone"));
    m_scale->update();
}

} // namespace cognitum
