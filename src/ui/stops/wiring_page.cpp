#include "ui/stops/wiring_page.h"

#include "core/plan/path.h"
#include "core/units/format.h"
#include "ui/widgets/parts.h"

#include <QGridLayout>
#include <QHBoxLayout>
#include <QKeyEvent>
#include <fmt/format.h>

namespace cognitum {

WiringPage::WiringPage(Context& context) : Page(context, tr("Three wires")) {
    m_choices = new QWidget;
    auto* choices = new QHBoxLayout(m_choices);
    choices->setContentsMargins(0, 0, 0, 0);
    choices->setSpacing(theme().px(8));
    const auto choice = [&](const QString& label, const QString& name) {
        auto* box = new QComboBox;
        box->setObjectName(name);
        box->setAccessibleName(label);
        choices->addWidget(new TextLabel(theme(), TextLabel::Role::soft, label));
        choices->addWidget(box);
        return box;
    };
    m_pin = choice(tr("Pin"), QStringLiteral("wiringPin"));
    m_rail = choice(tr("fed from"), QStringLiteral("wiringRail"));
    m_reference = choice(tr("measured against"), QStringLiteral("wiringReference"));
    choices->addStretch(1);
    body()->addWidget(m_choices);

    m_work = new QWidget;
    auto* work = new QHBoxLayout(m_work);
    stackWhenNarrow(work);
    work->setContentsMargins(0, 0, 0, 0);
    work->setSpacing(theme().px(20));
    m_loom = new LoomView(theme());
    work->addWidget(m_loom, 3);
    auto* right = new QVBoxLayout;
    right->setSpacing(theme().px(10));
    right->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("In this order")));
    m_steps = new StepList(theme());
    right->addWidget(m_steps);
    m_done = make_button(tr("Step is done"), QStringLiteral("stepDone"), true);
    right->addWidget(m_done, 0, Qt::AlignLeft);
    right->addStretch(1);
    work->addLayout(right, 2);
    body()->addWidget(m_work);
    body()->addWidget(new RuleLine(theme()));
    m_mirrored = new TextLabel(theme(), TextLabel::Role::body);
    body()->addWidget(m_mirrored);
    m_empty = new TextLabel(theme(), TextLabel::Role::body,
                            tr("The wiring follows from the part and the board: choose a part at stop 2 first."));
    body()->addWidget(m_empty);
    body()->addStretch(1);

    m_side = new QWidget;
    auto* side = new QVBoxLayout(m_side);
    side->setContentsMargins(0, 0, 0, 0);
    side->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("This pin, this rail")));
    m_numbers = new TextLabel(theme(), TextLabel::Role::body);
    side->addWidget(m_numbers);
    m_caution = new TextLabel(
        theme(), TextLabel::Role::body,
        tr("▲ Low voltage only. Nothing here belongs on the mains: that is for a licensed electrician under "
           "your local code. Unplug the board before you touch a wire."));
    m_caution->setColour(theme().colours().look);
    side->addWidget(m_caution);
    m_side->hide();

    connect(m_steps, &StepList::toggled, this, &WiringPage::toggle);
    connect(m_done, &QPushButton::clicked, this, &WiringPage::stepDone);
    connect(m_pin, &QComboBox::activated, this, [this] {
        rewire(tr("Change pin"), [&](Wiring& w) { w.pin = m_pin->currentData().toString().toStdString(); });
    });
    connect(m_rail, &QComboBox::activated, this, [this] {
        rewire(tr("Change rail"), [&](Wiring& w) { w.rail = m_rail->currentData().toString().toStdString(); });
    });
    connect(m_reference, &QComboBox::activated, this, [this] {
        rewire(tr("Change reference"),
               [&](Wiring& w) { w.reference = m_reference->currentData().toString().toStdString(); });
    });
    setFocusPolicy(Qt::StrongFocus);
}

void WiringPage::rewire(const QString& what, const std::function<void(Wiring&)>& change) {
    const Reading* r = context().reading();
    const PartCard* part = r ? context().session().part(*r) : nullptr;
    const BoardCard* board = r ? context().session().boardCard(*r) : nullptr;
    if (!part || !board) return;
    context().session().editReading(r->id, what, [&](Reading& reading) {
        const Wiring before = reading.wiring;
        change(reading.wiring);
        if (reading.wiring == before) return;
        // Another pin keeps the constants that were measured; another rail or reference brings its own.
        if (reading.wiring.rail != before.rail || reading.wiring.reference != before.reference)
            reading.path = build_path(*part, *board, reading.wiring);
        reading.wiring.ticked.clear();
    });
}

void WiringPage::toggle(int number) {
    const Reading* r = context().reading();
    if (!r) return;
    context().session().editReading(r->id, tr("Tick wiring step"), [&](Reading& reading) {
        auto& ticked = reading.wiring.ticked;
        const auto at = std::find(ticked.begin(), ticked.end(), number);
        if (at == ticked.end())
            ticked.push_back(number);
        else
            ticked.erase(at);
    });
}

void WiringPage::stepDone() {
    if (m_done->isEnabled()) toggle(m_steps->current() + 1);
}

void WiringPage::stepBack() {
    const Reading* r = context().reading();
    if (r && !r->wiring.ticked.empty()) toggle(r->wiring.ticked.back());
}

void WiringPage::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_N)
        stepDone();
    else if (event->key() == Qt::Key_Backspace)
        stepBack();
    else
        Page::keyPressEvent(event);
}

void WiringPage::refresh() {
    const Reading* r = context().reading();
    if (!r) return;
    Session& session = context().session();
    const PartCard* part = session.part(*r);
    const BoardUse* use = session.bench().board(r->wiring.board);
    const BoardCard* board = session.boardCard(*r);
    std::optional<Loom> loom;
    if (part && use && board) loom = make_loom(*r, *part, *use, *board);
    for (QWidget* w : {m_choices, m_work, static_cast<QWidget*>(m_mirrored)})
        w->setVisible(loom.has_value());
    showSide(m_side, loom.has_value());
    m_empty->setVisible(!loom);
    if (!loom) {
        setTitle(tr("Nothing to wire yet"));
        setNote({});
        return;
    }
    setTitle(from_std(loom->title));
    setNote(tr("N: next step · Backspace: back"));
    const auto fill = [](QComboBox* box, const QStringList& texts, const QStringList& values,
                         const std::string& now) {
        if (box->count() != texts.size() || (box->count() > 0 && box->itemText(0) != texts[0])) {
            box->clear();
            for (int i = 0; i < texts.size(); ++i)
                box->addItem(texts[i], values[i]);
        }
        box->setCurrentIndex(box->findData(from_std(now)));
    };
    QStringList pins, rails, rail_ids, references, reference_ids;
    for (const Pin& pin : board->pins)
        if (pin.can("analog")) pins << from_std(pin.label);
    for (const Rail& rail : board->rails) {
        rails << from_std(rail.label);
        rail_ids << from_std(rail.label);
    }
    for (const VoltageReference& reference : board->references) {
        references << from_std(reference.name);
        reference_ids << from_std(reference.id);
    }
    fill(m_pin, pins, pins, r->wiring.pin);
    fill(m_rail, rails, rail_ids, r->wiring.rail);
    fill(m_reference, references, reference_ids, r->wiring.reference);

    m_steps->setSteps(loom->steps, r->wiring.ticked);
    const int now = m_steps->current();
    const bool all = now >= static_cast<int>(loom->steps.size());
    m_loom->setLoom(loom, all ? 0 : loom->steps[static_cast<std::size_t>(now)].wire);
    m_done->setText(all ? tr("All steps are done") : tr("Step %1 is done").arg(now + 1));
    m_done->setEnabled(!all);
    m_mirrored->setVisible(!loom->if_mirrored.empty());
    set_text(m_mirrored, tr("If the legs are mirrored, %1").arg(from_std(loom->if_mirrored)));

    const Rail* rail = board->rail(r->wiring.rail);
    const VoltageReference* reference = board->reference(r->wiring.reference);
    const VoltRange volts = output_range(r->quantity, *part, *board, r->wiring);
    double drawn = 0;
    for (const Reading& other : session.bench().readings)
        if (const PartCard* p = session.part(other);
            p && other.wiring.board == use->id && other.wiring.rail == r->wiring.rail)
            drawn += p->supply_mA;
    if (rail && reference)
        set_text(m_numbers, from_std(fmt::format(
                                "{} rail: {} of {}\npin {}: {}…{}\nfull scale: {}, {} codes\none count: {}",
                                rail->label, format_constant(drawn, 2), format_measure(rail->current_mA, "mA"),
                                r->wiring.pin, format_constant(volts.low, 2), format_measure(volts.high, "V", 2),
                                format_measure(reference->voltage_V, "V"), format_constant(1 << board->bits, 7),
                                format_measure(count_size(*r), r->quantity.unit, 2))));
}

} // namespace cognitum
