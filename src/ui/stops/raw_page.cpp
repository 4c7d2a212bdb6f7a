#include "ui/stops/raw_page.h"

#include "core/units/format.h"
#include "ui/stops/raw_lines.h"
#include "ui/stops/raw_plots.h"
#include "ui/stops/raw_side.h"
#include "ui/widgets/link_box.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <QKeyEvent>

namespace cognitum {

RawPage::RawPage(Context& context) : Page(context, tr("What the board sends")) {
    m_link = new LinkBox(context);
    body()->addWidget(m_link);
    m_empty = new TextLabel(theme(), TextLabel::Role::body);
    m_empty->setObjectName(QStringLiteral("rawEmpty"));
    body()->addWidget(m_empty);
    m_health = new TextLabel(theme(), TextLabel::Role::body);
    m_health->setObjectName(QStringLiteral("rawHealth"));
    body()->addWidget(m_health);
    m_content = new QWidget;
    auto* columns = new QHBoxLayout(m_content);
    stackWhenNarrow(columns);
    columns->setContentsMargins(0, 0, 0, 0);
    columns->setSpacing(theme().px(24));
    m_plots = new RawPlots(context);
    columns->addWidget(m_plots, 5);
    m_lines = new RawLines(context);
    columns->addWidget(m_lines, 3);
    body()->addWidget(m_content, 1);
    m_side = new RawSide(context);
    m_side->hide();
    setFocusPolicy(Qt::StrongFocus);
}

QWidget* RawPage::side() {
    return m_side;
}

void RawPage::readingChanged() {
    m_lines->forget();
    m_side->forget();
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
    return tr("The board sends lines, but none brings “%1” for %2. They bring: %3. Name the right one at the "
              "board’s link, or "
              "let its program print it.")
        .arg(from_std(r.field()), from_std(r.name),
             brings.isEmpty() ? tr("nothing that can be read") : brings.mid(0, 12).join(QStringLiteral(", ")));
}

void RawPage::refresh() {
    const Reading* r = context().reading();
    if (!r) return;
    const Session& session = context().session();
    const BoardUse* use = session.bench().board(r->feed());
    m_link->setVisible(use);
    m_side->setEnabled(use);
    if (use) m_link->setBoard(use->id);
    const LiveBoard* board = context().liveBoard();
    const std::vector<RawSample> samples = session.rawSamples(*r, context().live());
    const bool has_lines = board && board->lines > 0;
    m_content->setVisible(has_lines);
    m_plots->setVisible(!samples.empty());
    m_empty->setVisible(samples.empty());
    if (samples.empty()) set_text(m_empty, emptyText(*r, use, board));
    setNote(has_lines ? tr("%1/min · %2").arg(from_std(format_fixed(60 * board->lines_per_s, 0)), board->format)
                      : QString());
    const auto& verdicts = session.health(*r, context().live());
    refreshHealth(verdicts, !samples.empty());
    m_side->refresh(verdicts);
    if (!has_lines) return;
    if (!samples.empty()) m_plots->show(samples, session.rawAbout(*r));
    m_lines->refresh();
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
