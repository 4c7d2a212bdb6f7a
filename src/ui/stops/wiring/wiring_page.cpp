#include "ui/stops/wiring/wiring_page.h"

#include "core/base/phrase.h"
#include "core/plan/assign.h"
#include "core/plan/path.h"
#include "ui/paper/on_paper.h"
#include "ui/stops/wiring/wiring_sheet.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <QTimer>

namespace cognitum {

WiringPage::WiringPage(Context& context, QWidget* parent) : Page(context, tr("Wires"), parent) {
    m_choices = new QWidget;
    m_choice_rows = new QVBoxLayout(m_choices);
    m_choice_rows->setContentsMargins(0, 0, 0, 0);
    m_choice_rows->setSpacing(theme().px(6));
    body()->addWidget(m_choices);

    m_work = new QWidget;
    auto* work = new QHBoxLayout(m_work);
    stackWhenNarrow(work);
    work->setContentsMargins(0, 0, 0, 0);
    work->setSpacing(theme().px(16));
    auto* left = new QVBoxLayout;
    left->setSpacing(theme().px(6));
    auto* scope = new QHBoxLayout;
    scope->setSpacing(theme().px(6));
    m_scope_reading = make_button(tr("This reading"), QStringLiteral("loomReading"));
    m_scope_board = make_button(tr("Whole board"), QStringLiteral("loomBoard"));
    for (QPushButton* button : {m_scope_reading, m_scope_board}) {
        button->setCheckable(true);
        button->setAutoExclusive(true);
        scope->addWidget(button);
        connect(button, &QPushButton::clicked, this, [this] { refresh(); });
    }
    m_scope_reading->setChecked(true);
    scope->addStretch(1);
    for (const double step : {0.8, 1.25}) {
        auto* button = make_button(step < 1 ? QStringLiteral("−") : QStringLiteral("+"),
                                   step < 1 ? QStringLiteral("loomSmaller") : QStringLiteral("loomLarger"));
        button->setAccessibleName(step < 1 ? tr("Smaller drawing") : tr("Larger drawing"));
        button->setFixedWidth(theme().px(32));
        scope->addWidget(button);
        connect(button, &QPushButton::clicked, this, [this, step] { m_loom->setZoom(m_loom->zoom() * step); });
    }
    left->addLayout(scope);
    m_loom = new LoomView(theme());
    left->addWidget(m_loom, 1);
    work->addLayout(left, 8);
    m_order = new QWidget;
    auto* right = new QVBoxLayout(m_order);
    right->setContentsMargins(0, 0, 0, 0);
    right->setSpacing(theme().px(8));
    right->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("In this order")));
    m_steps = new StepList(theme());
    m_step_scroll = make_scroll(m_steps);
    m_step_scroll->setObjectName(QStringLiteral("stepScroll"));
    m_step_scroll->setMinimumHeight(theme().px(260)); // where the columns stack, the page scrolls
    right->addWidget(m_step_scroll, 1);
    m_done = make_button(tr("Step is done"), QStringLiteral("stepDone"), true);
    right->addWidget(m_done, 0, Qt::AlignLeft);
    auto* saving = new QHBoxLayout;
    saving->setSpacing(theme().px(6));
    auto* sheet = make_button(tr("Sheet…"), QStringLiteral("wiringSheet"));
    sheet->setToolTip(tr("Drawing, steps and cautions as PDF, for the bench"));
    saving->addWidget(sheet);
    auto* print = make_button(tr("Print"), QStringLiteral("wiringPrint"));
    saving->addWidget(print);
    auto* drawing = make_button(tr("Drawing…"), QStringLiteral("wiringDrawing"));
    drawing->setToolTip(tr("The drawing alone, as SVG or PDF"));
    saving->addWidget(drawing);
    saving->addStretch(1);
    left->addLayout(saving);
    m_order->setMinimumWidth(theme().px(272));
    work->addWidget(m_order, 4);
    body()->addWidget(m_work, 1);
    m_mirrored = new TextLabel(theme(), TextLabel::Role::body);
    m_mirrored->setObjectName(QStringLiteral("mirrorCheck"));
    body()->addWidget(m_mirrored);
    m_empty = new TextLabel(theme(), TextLabel::Role::body);
    m_empty->setObjectName(QStringLiteral("wiringEmpty"));
    body()->addWidget(m_empty);
    m_assign = make_button(tr("Find pins for it"), QStringLiteral("assignPins"));
    body()->addWidget(m_assign, 0, Qt::AlignLeft);
    body()->addStretch(0);

    m_side = new QWidget;
    auto* side = new QVBoxLayout(m_side);
    side->setContentsMargins(0, 0, 0, 0);
    side->setSpacing(theme().px(6));
    side->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("This pin, this rail")));
    m_numbers = new TextLabel(theme(), TextLabel::Role::body);
    m_numbers->setObjectName(QStringLiteral("wiringNumbers"));
    side->addWidget(m_numbers);
    m_caution = new TextLabel(theme(), TextLabel::Role::body);
    m_caution->setColour(theme().colours().look);
    side->addWidget(m_caution);
    m_programming_title = new TextLabel(theme(), TextLabel::Role::name, tr("Before the first upload"));
    side->addWidget(m_programming_title);
    m_programming = new TextLabel(theme(), TextLabel::Role::soft);
    m_programming->setObjectName(QStringLiteral("programmingList"));
    side->addWidget(m_programming);
    m_side->hide();

    connect(m_steps, &StepList::toggled, this, &WiringPage::toggle);
    connect(m_done, &QPushButton::clicked, this, &WiringPage::stepDone);
    connect(m_assign, &QPushButton::clicked, this, &WiringPage::assign);
    connect(sheet, &QPushButton::clicked, this, [this] { save(tr("Wiring sheet"), QStringLiteral("pdf")); });
    connect(print, &QPushButton::clicked, this, [this] {
        if (const Reading* r = this->context().reading())
            print_paper(this->context(), this, wiring_sheet(this->context().session(), *r));
    });
    connect(drawing, &QPushButton::clicked, this, [this] { save(tr("Drawing"), QStringLiteral("svg")); });
    setFocusPolicy(Qt::ClickFocus); // for its single keys; the tabulator goes on to what can be pressed
}

void WiringPage::rewire(const QString& what, const std::function<void(Reading&)>& change) {
    const Reading* r = context().reading();
    if (!r) return;
    Session& session = context().session();
    session.edit(what, [&, id = r->id](Bench& bench) {
        const Bench before = bench;
        Reading& reading = *bench.reading(id);
        const Wiring old = reading.wiring;
        change(reading);
        if (reading.wiring == old) return;
        // Another pin keeps the constants that were measured; another rail or reference brings its own.
        refresh_changed_paths(before, session.catalog(), bench);
        reading.wiring.ticked.clear();
    });
}

void WiringPage::assign() {
    const Reading* r = context().reading();
    if (!r) return;
    Session& session = context().session();
    const std::string board = r->wiring.board;
    const Assignment found = assign_pins(session.bench(), session.catalog(), Keep::placed, board);
    session.edit(tr("Find pins"), [&](Bench& bench) { bench = found.bench; });
    emit context().said(found.gaps.empty() ? tr("Every leg has its pin.") : from_std(found.gaps.front()));
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
    const Placed p = place(session.bench(), session.catalog(), *r);
    const bool radio = p.part && p.part->interface.speech == Speech::radio;
    const Loom own = reading_loom(session.bench(), session.catalog(), *r);
    const bool wired = !own.blocks.empty();
    const bool planned = p.part && p.board && !radio;
    m_choices->setVisible(planned);
    m_work->setVisible(wired);
    m_mirrored->setVisible(false);
    m_empty->setVisible(!wired);
    m_assign->setVisible(planned && !wired);
    showSide(m_side, wired);
    if (planned) {
        buildChoices(p);
        showChoices(p);
    }
    if (!wired) {
        setTitle(radio ? tr("No wires") : tr("Wires"));
        setNote({});
        set_text(m_empty,
                 radio ? tr("This part reports by radio: %1 hears it. There is nothing to wire; note its number "
                            "from the first report at Raw.")
                             .arg(from_std(p.use ? p.use->name : phrase("a board")))
                 : planned ? tr("It has no pin yet.")
                           : tr("The wiring follows from the part and the board: choose a part at stop 2 first."));
        return;
    }
    const bool whole = m_scope_board->isChecked();
    const auto steps = wiring_steps(session.bench(), session.catalog(), *r, own);
    m_steps->setSteps(steps, r->wiring.ticked);
    const int now = m_steps->current();
    const bool all = now >= static_cast<int>(steps.size());
    m_loom->setLoom(whole ? board_loom(session.bench(), session.catalog(), *p.use) : own,
                    all || whole ? 0 : steps[static_cast<std::size_t>(now)].wire);
    setTitle(from_std(m_loom->loom().title));
    setNote(tr("N: next step · Backspace: back"));
    if (const QString key = from_std(r->id) + QString::number(now); key != m_in_sight) {
        m_in_sight = key;
        QTimer::singleShot(0, this, [this] { // when the rows have their heights
            const QRect row = m_steps->currentRect();
            m_step_scroll->ensureVisible(0, row.bottom(), 0, 8);
            m_step_scroll->ensureVisible(0, row.top(), 0, 8);
        });
    }
    m_done->setText(all ? tr("All done") : tr("Step %1 is done").arg(now + 1));
    m_done->setEnabled(!all);
    const std::string mirrored = mirror_check(session.bench(), session.catalog(), *r);
    m_order->setVisible(!whole); // a whole board needs the width
    m_mirrored->setVisible(!mirrored.empty() && !whole);
    set_text(m_mirrored, tr("If the legs are mirrored, %1").arg(from_std(mirrored)));
    buildSide(p);
}

} // namespace cognitum
