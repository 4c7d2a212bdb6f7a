#include "ui/widgets/finding_row.h"

#include "ui/context.h"
#include "ui/widgets/parts.h"

namespace cognitum {

void add_finding(QVBoxLayout* list, Context& context, const Finding& finding,
                 const std::vector<FindingPlace>& places) {
    Theme& theme = context.theme();
    auto* line = new QHBoxLayout;
    line->setSpacing(theme.px(6));
    // A caution is no state that is well: it has the triangle, though there is nothing to mend.
    line->addWidget(new MarkLabel(theme, finding.is_caution ? Mark::look : mark_of(finding.severity)), 0,
                    Qt::AlignTop);
    auto* texts = new QVBoxLayout;
    texts->setSpacing(theme.px(2));
    line->addLayout(texts, 1);
    list->addLayout(line);
    for (const FindingPlace& place : places) {
        QPushButton* there = make_link(on_button(place.name), QStringLiteral("at_") + from_std(finding.id));
        QObject::connect(there, &QPushButton::clicked, &context, place.go);
        texts->addWidget(there, 0, Qt::AlignLeft);
    }
    texts->addWidget(new TextLabel(theme, TextLabel::Role::body, from_std(finding.message)));
    if (!finding.why.empty()) texts->addWidget(new TextLabel(theme, TextLabel::Role::soft, from_std(finding.why)));
    if (!finding.fix.empty()) texts->addWidget(new TextLabel(theme, TextLabel::Role::soft, from_std(finding.fix)));
    if (!finding.action) return;
    QPushButton* way_out =
        make_link(from_std(finding.action->label), QStringLiteral("fix_") + from_std(finding.id));
    QObject::connect(way_out, &QPushButton::clicked, &context, [&context, finding] {
        if (finding.action->stop < 0) return context.session().applyFix(finding);
        if (!finding.reading.empty()) context.selectReading(finding.reading);
        emit context.stopRequested(finding.action->stop);
    });
    texts->addWidget(way_out, 0, Qt::AlignLeft);
}

} // namespace cognitum
