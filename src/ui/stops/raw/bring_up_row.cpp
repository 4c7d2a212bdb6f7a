#include "ui/stops/raw/bring_up_row.h"

#include "core/bringup/stages.h"
#include "ui/stops/raw/stage_ladder.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>

namespace cognitum {

BringUpRow::BringUpRow(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    m_columns = new QHBoxLayout(this);
    m_columns->setContentsMargins(0, theme.px(4), 0, 0);
    m_columns->setSpacing(theme.px(4));
    // Two halves, which stand below each other where the page is narrow.
    auto* row = new QHBoxLayout;
    auto* second = new QHBoxLayout;
    for (QHBoxLayout* half : {row, second}) {
        half->setSpacing(theme.px(4));
        m_columns->addLayout(half);
    }
    m_columns->addStretch(1);
    row->addWidget(new TextLabel(theme, TextLabel::Role::name, tr("Bring-up")));
    row->addSpacing(theme.px(10));
    int index = 0;
    for (const BringUpStage& stage : bring_up_stages()) {
        m_marks.push_back(new MarkLabel(theme));
        auto* link = make_link(from_std(stage.title), QStringLiteral("stage_") + from_std(stage.id));
        link->setProperty("link", QVariant());
        link->setProperty("quiet", true);
        link->setSizePolicy(QSizePolicy::Fixed, QSizePolicy::Fixed); // the halves stack before a name breaks
        m_links.push_back(link);
        QHBoxLayout* half = index < 3 ? row : second;
        half->addWidget(m_marks.back());
        half->addWidget(link);
        half->addSpacing(theme.px(6));
        connect(link, &QPushButton::clicked, this, [this, index] { emit stageChosen(index); });
        ++index;
    }
    row->addStretch(1);
    second->addStretch(1);
}

void BringUpRow::refresh() {
    const Reading* r = m_context.reading();
    if (!r) return;
    const auto reports = stage_reports(r->bring_up);
    for (std::size_t i = 0; i < reports.size(); ++i) {
        m_marks[i]->setMark(mark_of(reports[i].state));
        m_links[i]->setToolTip(from_std(reports[i].stage->about));
    }
}

} // namespace cognitum
