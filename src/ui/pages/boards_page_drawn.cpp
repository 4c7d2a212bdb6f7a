// The first tab of the page Boards: the board drawn, what the rules find on it, and how it is fed.
#include "core/plan/board_picture.h"
#include "core/plan/findings.h"
#include "ui/pages/board_drawing.h"
#include "ui/pages/board_settings.h"
#include "ui/pages/boards_page.h"
#include "ui/widgets/finding_row.h"
#include "ui/widgets/parts.h"

namespace cognitum {

void BoardsPage::buildDrawn() {
    m_drawn_tab = new QWidget;
    auto* columns = new QHBoxLayout(m_drawn_tab);
    columns->setContentsMargins(0, 0, 0, 0);
    columns->setSpacing(theme().px(24));
    stackWhenNarrow(columns, 900);
    auto* left = new QVBoxLayout;
    m_drawing = new BoardDrawing(theme());
    left->addWidget(m_drawing);
    left->addWidget(new TextLabel(theme(), TextLabel::Role::small,
                                  tr("Pins stand by what they can do, not where they are on the board. A click on "
                                     "one opens its reading.")));
    left->addStretch(1);
    columns->addLayout(left, 3);
    auto* right = new QVBoxLayout;
    right->setSpacing(theme().px(8));
    right->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("What to look at")));
    right->addWidget(new RuleLine(theme()));
    m_findings = new QVBoxLayout;
    m_findings->setSpacing(theme().px(10));
    right->addLayout(m_findings);
    right->addSpacing(theme().px(12));
    right->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("How it is fed and run")));
    right->addWidget(new RuleLine(theme()));
    m_settings = new BoardSettings(context());
    right->addWidget(m_settings);
    right->addStretch(1);
    columns->addLayout(right, 2);
    connect(m_drawing, &BoardDrawing::readingWanted, this, [this](const QString& id) {
        context().selectReading(id.toStdString());
        emit context().stopRequested(static_cast<int>(Stop::wiring));
    });
}

void BoardsPage::fillDrawn(const BoardUse& use) {
    clear_layout(m_findings);
    Session& session = context().session();
    const std::vector<Finding> found = check_board(session.bench(), session.catalog(), use);
    for (const Finding& f : found)
        add_finding(m_findings, context(), f);
    if (found.empty())
        m_findings->addWidget(new TextLabel(theme(), TextLabel::Role::soft,
                                            tr("Nothing: its pins, rails and lines carry what hangs on them.")));
    m_drawing->show(board_picture(session.bench(), session.catalog(), use));
    m_settings->setBoard(use.id);
}

} // namespace cognitum
