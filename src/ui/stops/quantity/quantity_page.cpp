#include "ui/stops/quantity/quantity_page.h"

#include "core/base/phrase.h"
#include "core/bench/quantity_change.h"
#include "core/plan/path.h"
#include "core/units/format.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"
#include "ui/stops/quantity/range_scale.h"
#include "ui/stops/quantity/vessel_drawing.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QGridLayout>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

QuantityPage::QuantityPage(Context& context, QWidget* parent)
    : Page(context, tr("What do you want to know?"), parent) {
    auto* columns = new QHBoxLayout;
    stackWhenNarrow(columns);
    columns->setSpacing(theme().px(28));
    auto* form = new QGridLayout;
    form->setHorizontalSpacing(theme().px(12));
    form->setVerticalSpacing(theme().px(10));
    form->setColumnMinimumWidth(0, theme().px(104));
    columns->addLayout(form, 5);
    makeFields();
    int row = 0;
    const auto add = [&](const QString& label, QWidget* widget) {
        form->addWidget(new TextLabel(theme(), TextLabel::Role::soft, label, sheet()), row, 0, Qt::AlignVCenter);
        form->addWidget(widget, row++, 1);
    };
    add(tr("Name"), m_name);
    addPair(form, row, tr("Kind"), m_kind, tr("in"), m_unit);
    m_only_numbers = addPair(form, row, tr("You expect"), m_low, tr("to"), m_high);
    m_only_numbers.insert(m_only_numbers.end(), {m_low, m_high, m_accuracy});
    auto accuracy = addPair(form, row, tr("Good enough is ±"), m_accuracy, tr("every"), m_interval);
    accuracy.push_back(new TextLabel(theme(), TextLabel::Role::small,
                                     tr("at 95 %: nineteen readings of twenty lie this close to the truth"),
                                     sheet()));
    form->addWidget(accuracy.back(), row++, 1);
    m_good_enough = qobject_cast<QLabel*>(accuracy.front());
    m_only_numbers.insert(m_only_numbers.end(), accuracy.begin() + 1, accuracy.end());
    add(tr("Place"), m_place);
    buildSurroundings(form, row);
    m_trouble = new TextLabel(theme(), TextLabel::Role::body, {}, sheet());
    m_trouble->setObjectName(QStringLiteral("quantityTrouble"));
    form->addWidget(m_trouble, row++, 0, 1, 2);
    form->addWidget(new RuleLine(theme(), false, sheet()), row++, 0, 1, 2);
    form->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("What that asks of the parts"), sheet()),
                    row++, 0, 1, 2);
    m_asks = new TextLabel(theme(), TextLabel::Role::body, {}, sheet());
    form->addWidget(m_asks, row++, 0, 1, 2);
    form->setRowStretch(row, 1);
    columns->addLayout(makePictures(), 4);
    body()->addLayout(columns, 1);
    followFields();
}

void QuantityPage::makeFields() {
    m_name = new QLineEdit(sheet());
    m_name->setObjectName(QStringLiteral("quantityName"));
    m_name->setAccessibleName(tr("Name of the reading"));
    m_kind = new QComboBox(sheet());
    m_kind->setObjectName(QStringLiteral("quantityKind"));
    m_kind->setAccessibleName(tr("Kind of quantity"));
    for (const QuantityKind& kind : quantity_kinds())
        m_kind->addItem(from_std(kind.title), from_std(kind.id));
    m_kind->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_kind->setMinimumContentsLength(8);
    m_unit = new QComboBox(sheet());
    m_unit->setObjectName(QStringLiteral("quantityUnit"));
    m_unit->setAccessibleName(tr("Unit"));
    m_low = new NumberField(theme(), QStringLiteral("quantityLow"), tr("Least you expect"), 13, sheet());
    m_high = new NumberField(theme(), QStringLiteral("quantityHigh"), tr("Most you expect"), 13, sheet());
    m_accuracy = new NumberField(theme(), QStringLiteral("quantityAccuracy"), tr("Needed accuracy, plus or minus"),
                                 13, sheet());
    m_interval = new NumberField(theme(), QStringLiteral("quantityInterval"), tr("A value every so many seconds"),
                                 13, sheet());
    m_interval->setUnit(QStringLiteral("s"));
    m_place = new QLineEdit(sheet());
    m_place->setObjectName(QStringLiteral("quantityPlace"));
    m_place->setAccessibleName(tr("Place"));
    m_place->setPlaceholderText(tr("where it hangs, how high, in sun or shade"));
}

/// A row with two fields; its two words.
std::vector<QWidget*> QuantityPage::addPair(QGridLayout* form, int& row, const QString& label, QWidget* first,
                                            const QString& between, QWidget* second) {
    auto* both = new QHBoxLayout;
    both->setSpacing(theme().px(8));
    for (QWidget* field : {first, second})
        field->setMinimumWidth(theme().px(56)); // with large text they share what there is
    auto* word = new TextLabel(theme(), TextLabel::Role::soft, between, sheet());
    both->addWidget(first, 1);
    both->addWidget(word);
    both->addWidget(second, 1);
    auto* head = new TextLabel(theme(), TextLabel::Role::soft, label, sheet());
    form->addWidget(head, row, 0, Qt::AlignVCenter);
    form->addLayout(both, row++, 1);
    return {head, word};
}

QLayout* QuantityPage::makePictures() {
    auto* right = new QVBoxLayout;
    right->setSpacing(theme().px(8));
    m_scale = new RangeScale(context(), sheet());
    m_vessel = new VesselDrawing(context(), sheet());
    m_funnel = new FunnelDrawing(context(), sheet());
    for (QWidget* drawing :
         {static_cast<QWidget*>(m_scale), static_cast<QWidget*>(m_vessel), static_cast<QWidget*>(m_funnel)})
        right->addWidget(drawing);
    m_vessel_says = new TextLabel(theme(), TextLabel::Role::body, {}, sheet());
    m_vessel_says->setObjectName(QStringLiteral("vesselSays"));
    m_vessel_says->setWordWrap(true);
    right->addWidget(m_vessel_says);
    right->addStretch(1);
    return right;
}

void QuantityPage::followFields() {
    connect(m_name, &QLineEdit::editingFinished, this, [this] {
        const std::string name = m_name->text().trimmed().toStdString();
        if (!name.empty()) edit(tr("Rename reading"), [&](Reading& r) { r.name = name; });
    });
    connect(m_place, &QLineEdit::editingFinished, this, [this] {
        edit(tr("Change place"), [&](Reading& r) { r.quantity.place = m_place->text().trimmed().toStdString(); });
    });
    connect(m_kind, &QComboBox::activated, this, [this](int index) {
        std::vector<std::string> stopped;
        editBench(tr("Change kind"), [&](Bench& bench, const std::string& id) {
            stopped = change_kind(bench, id, quantity_kinds()[static_cast<std::size_t>(index)]);
        });
        if (!stopped.empty())
            emit context().said(tr("Switched off, as their limits stood in the old unit: %1.")
                                    .arg(from_std(fmt::format("{}", fmt::join(stopped, ", ")))));
    });
    connect(m_unit, &QComboBox::activated, this, [this] {
        const std::string unit = m_unit->currentData().toString().toStdString();
        editBench(tr("Change unit"), [&](Bench& bench, const std::string& id) { change_unit(bench, id, unit); });
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

/// One step of undo; paths that hang on what changed are made anew.
void QuantityPage::editBench(const QString& what,
                             const std::function<void(Bench&, const std::string& reading)>& change) {
    Session& session = context().session();
    session.edit(what, [&, id = context().readingId()](Bench& bench) {
        const Bench was = bench;
        change(bench, id);
        refresh_changed_paths(was, session.catalog(), bench);
    });
    refresh();
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
    if (!trouble.isEmpty()) return refresh();
    editBench(what, [&](Bench& bench, const std::string& id) { change(*bench.reading(id)); });
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
            m_unit->addItem(from_std(unit_symbol(unit).empty() ? phrase("no unit") : unit_symbol(unit)),
                            from_std(unit));
    }
    m_unit->setCurrentIndex(m_unit->findData(from_std(q.unit)));
    m_unit->setEnabled(!r->correction);
    m_unit->setToolTip(m_unit->isEnabled() ? QString() : tr("It is calibrated in %1.").arg(symbol));
    for (NumberField* field : {m_low, m_high, m_accuracy})
        field->setUnit(symbol);
    m_low->show(from_std(format_constant(q.low)));
    m_high->show(from_std(format_constant(q.high)));
    m_accuracy->show(from_std(format_constant(q.accuracy)));
    m_interval->show(from_std(format_constant(q.interval_s)));
    showSurroundings(q);
    // On or off has no range and no ±.
    const bool state = q.about().is_state();
    for (QWidget* widget : m_only_numbers)
        show_part(widget, !state);
    set_text(m_good_enough, state ? tr("A value every") : tr("Good enough is ±"));
    const double parts = (q.high - q.low) / q.accuracy;
    if (state)
        set_text(m_asks, tr("It is “%1” or “%2”: %3 values a day. What lasts less than %4 between two of them is "
                            "only seen when the "
                            "board counts it, or sends each change.")
                             .arg(from_std(q.about().off_word), from_std(q.about().on_word),
                                  from_std(format_constant(std::round(86400 / q.interval_s), 8)),
                                  from_std(format_measure(q.interval_s, "s"))));
    else
        set_text(m_asks, from_std(phrase(
                             "{} of span at ± {}: one part in {:.0f}. A converter needs at least {:.0f} bits over "
                             "that span to tell a third of it apart. {} values a day.",
                             format_measure(q.high - q.low, q.unit), format_measure(q.accuracy, q.unit), parts,
                             std::ceil(std::log2(std::max(1.0, 3 * parts))),
                             format_constant(std::round(86400 / q.interval_s), 8))));
    setNote(tr("every change can be undone"));
    const bool vessel = q.about().in_vessel && q.vessel.mount_mm > 0;
    show_part(m_vessel, vessel);
    const bool funnel = q.about().events == Events::tips;
    show_part(m_funnel, funnel);
    show_part(m_scale, !vessel && !funnel && !state);
    set_text(m_vessel_says, vessel ? m_vessel->words() : funnel ? m_funnel->words() : QString());
    show_part(m_vessel_says, !m_vessel_says->text().isEmpty());
    m_scale->update();
    m_vessel->update();
    m_funnel->update();
}

} // namespace cognitum
