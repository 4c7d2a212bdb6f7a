#include "ui/stops/raw/raw_page.h"

#include "core/bringup/stages.h"
#include "core/units/format.h"
#include "ui/stops/raw/bring_up_row.h"
#include "ui/stops/raw/bring_up_view.h"
#include "ui/stops/raw/fault_finder.h"
#include "ui/stops/raw/field_choice.h"
#include "ui/stops/raw/raw_lines.h"
#include "ui/stops/raw/raw_plots.h"
#include "ui/stops/raw/raw_side.h"
#include "ui/widgets/link_box.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <QKeyEvent>

namespace cognitum {

RawPage::RawPage(Context& context, QWidget* parent) : Page(context, tr("What the board sends"), parent) {
    m_link = new LinkBox(context);
    body()->addWidget(m_link);
    buildTabs();
    buildSignal();
    m_bring_up = new BringUpView(context);
    stackWhenNarrow(m_bring_up->columns());
    body()->addWidget(m_bring_up, 1);
    m_finder = new FaultFinder(context);
    stackWhenNarrow(m_finder->columns());
    body()->addWidget(m_finder, 1);
    m_side = new RawSide(context);
    m_side->hide();
    setFocusPolicy(Qt::ClickFocus); // for its single keys; the tabulator goes on to what can be pressed
    m_draw_later.setSingleShot(true);
    m_draw_later.setInterval(100);
    connect(&m_draw_later, &QTimer::timeout, this, [this] {
        if (isVisible()) refresh();
    });
    connect(m_side, &RawSide::testRequested, this, [this](const Stimulus* stimulus) {
        showTab(bring_up_tab);
        m_bring_up->runTest(stimulus);
    });
    connect(m_side, &RawSide::finderRequested, this, [this] { showTab(fault_tab); });
    connect(m_stages, &BringUpRow::stageChosen, this, [this](int stage) {
        showTab(bring_up_tab);
        m_bring_up->showStage(static_cast<std::size_t>(stage));
    });
    showTab(signal_tab);
}

void RawPage::buildTabs() {
    auto* row = new QHBoxLayout;
    row->setSpacing(theme().px(6));
    const std::array names = {tr("Signal"), tr("Bring-up"), tr("Find a fault")};
    const std::array ids = {"tabSignal", "tabBringUp", "tabFault"};
    for (std::size_t i = 0; i < m_tabs.size(); ++i) {
        m_tabs[i] = make_button(names[i], QLatin1String(ids[i]));
        m_tabs[i]->setCheckable(true);
        m_tabs[i]->setAutoExclusive(true);
        row->addWidget(m_tabs[i]);
        connect(m_tabs[i], &QPushButton::clicked, this, [this, i] { showTab(static_cast<Tab>(i)); });
    }
    row->addStretch(1);
    auto* both = new QHBoxLayout;
    stackWhenNarrow(both);
    both->addLayout(row, 1);
    m_field = new FieldChoice(context());
    both->addWidget(m_field, 0, Qt::AlignLeft);
    body()->addLayout(both);
}

void RawPage::buildSignal() {
    m_signal = new QWidget;
    auto* box = new QVBoxLayout(m_signal);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme().px(10));
    m_empty = new TextLabel(theme(), TextLabel::Role::body);
    m_empty->setObjectName(QStringLiteral("rawEmpty"));
    box->addWidget(m_empty);
    m_program = new TextLabel(theme(), TextLabel::Role::body);
    m_program->setObjectName(QStringLiteral("rawProgram"));
    box->addWidget(m_program);
    m_health = new TextLabel(theme(), TextLabel::Role::body);
    m_health->setObjectName(QStringLiteral("rawHealth"));
    box->addWidget(m_health);
    m_content = new QWidget;
    auto* columns = new QHBoxLayout(m_content);
    stackWhenNarrow(columns);
    columns->setContentsMargins(0, 0, 0, 0);
    columns->setSpacing(theme().px(24));
    m_plots = new RawPlots(context());
    columns->addWidget(m_plots, 5);
    m_lines = new RawLines(context());
    columns->addWidget(m_lines, 3);
    box->addWidget(m_content, 100);
    box->addStretch(1); // where there is nothing to draw yet, words stand at the top
    box->addWidget(new RuleLine(theme()));
    m_stages = new BringUpRow(context());
    stackWhenNarrow(m_stages->columns());
    box->addWidget(m_stages);
    body()->addWidget(m_signal, 1);
}

void RawPage::showTab(Tab tab) {
    m_tab = tab;
    m_tabs[tab]->setChecked(true);
    m_signal->setVisible(tab == signal_tab);
    m_bring_up->setVisible(tab == bring_up_tab);
    m_finder->setVisible(tab == fault_tab);
    if (isVisible()) refresh();
}

QWidget* RawPage::side() {
    return m_side;
}

void RawPage::readingChanged() {
    m_lines->forget();
    m_side->forget();
    m_bring_up->forget();
    m_finder->forget();
}

void RawPage::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_P)
        m_lines->setPaused(!m_lines->isPaused());
    else if (event->key() == Qt::Key_T && !event->isAutoRepeat())
        m_side->tap();
    else
        Page::keyPressEvent(event);
}

QString RawPage::emptyText(const Reading& r, const BoardUse* use, const LiveBoard* board) const {
    if (!use)
        return tr(
            "No board carries this reading yet. Choose a part at stop 2; it takes a pin of the bench’s board.");
    if (!board || board->lines == 0)
        return tr("Connect the board above. Its lines appear here as they come: a table of numbers with a header "
                  "that names "
                  "the pins, names and values, JSON, or any other format that is found by "
                  "itself.\n\nseq,ms,A2\n0,1000,138\n1,2000,139");
    QStringList brings;
    for (const Field& field : board->fields)
        if (field.numeric) brings << QStringLiteral("%1 (%2)").arg(from_std(field.name), from_std(field.example));
    return tr("The board sends lines, but none brings “%1” for %2. They bring: %3. Choose the right one above, or "
              "let "
              "its program print it.")
        .arg(from_std(r.field()), from_std(r.name),
             brings.isEmpty() ? tr("nothing that can be read") : brings.mid(0, 12).join(QStringLiteral(", ")));
}

void RawPage::refresh() {
    const Reading* r = context().reading();
    if (!r) return;
    const Session& session = context().session();
    const BoardUse* use = session.bench().board(r->feed());
    // While a stage is signed or a fault is looked for, a link that is set up needs no place of its own.
    m_link->setVisible(use && (m_tab == signal_tab || use->link.kind == LinkKind::none));
    m_side->setEnabled(use);
    if (use) m_link->setBoard(use->id);
    m_field->refresh();
    const auto& verdicts = session.views().health(*r, context().live());
    m_side->refresh(verdicts);
    m_tabs[bring_up_tab]->setText(tr("Bring-up: %1").arg(from_std(bring_up_summary(r->bring_up))));
    const LiveBoard* board = context().liveBoard();
    setNote(board && board->lines > 0
                ? tr("%1/min · %2").arg(from_std(format_fixed(60 * board->lines_per_s, 0)), board->format)
                : QString());
    if (m_tab == signal_tab) refreshSignal(*r, verdicts);
    if (m_tab == bring_up_tab) m_bring_up->refresh();
    if (m_tab == fault_tab) m_finder->refresh();
}

void RawPage::refreshSignal(const Reading& reading, const std::vector<HealthVerdict>& verdicts) {
    const Session& session = context().session();
    const BoardUse* use = session.bench().board(reading.feed());
    const LiveBoard* board = context().liveBoard();
    const std::vector<RawSample> samples = session.views().rawSamples(reading, context().live());
    const bool has_lines = board && board->lines > 0;
    m_content->setVisible(has_lines);
    m_plots->setVisible(!samples.empty());
    const bool nothing = !has_lines || samples.empty();
    m_empty->setVisible(nothing);
    if (nothing) set_text(m_empty, emptyText(reading, use, board));
    refreshProgram(reading, board);
    refreshHealth(verdicts, has_lines && !samples.empty());
    m_stages->refresh();
    if (!has_lines) return;
    // A fast board is drawn ten times a second: more is not seen, and it is what costs most.
    if (board->lines_per_s > 50 && m_drawn.isValid() && m_drawn.elapsed() < 95 && m_drawn_reading == reading.id) {
        if (!m_draw_later.isActive()) m_draw_later.start(); // the last lines are seen, too, when it falls silent
        return;
    }
    m_drawn.start();
    m_drawn_reading = reading.id;
    if (!samples.empty()) m_plots->show(samples, session.views().rawAbout(reading));
    m_lines->refresh();
}

/// After a program was put onto the board: whether its first line has come, and says that plan.
void RawPage::refreshProgram(const Reading& reading, const LiveBoard* board) {
    const auto& awaited = context().awaited_program;
    const bool of_this = awaited && awaited->board == reading.feed();
    m_program->setVisible(of_this);
    if (!of_this) return;
    const Tokens& t = theme().colours();
    const QString says = board ? board->program.section(QLatin1Char('-'), 0, 0) : QString();
    if (says == awaited->plan) {
        set_text(
            m_program,
            board->restart.isEmpty()
                ? tr("● The board runs the program of this plan (%1).").arg(says)
                : tr("● The board runs the program of this plan (%1). It began by: %2.").arg(says, board->restart));
        return m_program->setColour(t.good);
    }
    const QString waits = tr("… Waiting for the board's first line, which says plan %1. Connect its link; where "
                             "nothing comes, press the board's reset.")
                              .arg(awaited->plan);
    set_text(m_program,
             says.isEmpty() ? waits : waits + QLatin1Char(' ') + tr("Its last one said plan %1.").arg(says));
    m_program->setColour(t.look);
}

void RawPage::refreshHealth(const std::vector<HealthVerdict>& verdicts, bool samples) {
    m_health->setVisible(samples || !verdicts.empty());
    const Tokens& t = theme().colours();
    if (verdicts.empty()) {
        set_text(m_health, tr("● healthy: nothing stuck, clipped, floating or lost"));
        m_health->setColour(t.good);
        return;
    }
    const HealthVerdict& first = verdicts.front();
    const QString mark = first.bad()                      ? QStringLiteral("◆")
                         : first.rank == HealthRank::look ? QStringLiteral("▲")
                                                          : QStringLiteral("●");
    set_text(m_health, tr("%1 %2: %3").arg(mark, from_std(first.title), from_std(first.evidence)));
    m_health->setColour(first.bad() ? t.bad : first.rank == HealthRank::look ? t.look : t.good);
}

} // namespace cognitum
