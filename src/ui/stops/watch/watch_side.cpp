#include "ui/stops/watch/watch_side.h"

#include "core/watch/rule_words.h"
#include "ui/widgets/parts.h"

namespace cognitum {

WatchSide::WatchSide(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    setObjectName(QStringLiteral("watchSide"));
    auto* rows = new QVBoxLayout(this);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(theme.px(16));
    const auto section = [&](const QString& title, QVBoxLayout*& lines) {
        auto* box = new QWidget(this);
        auto* inner = new QVBoxLayout(box);
        inner->setContentsMargins(0, 0, 0, 0);
        inner->setSpacing(theme.px(8));
        inner->addWidget(new RuleLine(theme));
        inner->addWidget(new TextLabel(theme, TextLabel::Role::name, title));
        lines = new QVBoxLayout;
        lines->setSpacing(theme.px(8));
        inner->addLayout(lines);
        rows->addWidget(box);
        box->hide();
        return box;
    };
    m_follows_box = section(tr("What follows from it"), m_follows);
    m_offers_box = section(tr("Rules that it needs"), m_offers);
}

void WatchSide::show(const WatchRecord* record) {
    const Bench& bench = m_context.session().bench();
    QString key;
    if (record) {
        for (const std::string& line : record->outlook.lines)
            key += from_std(line + "|");
        for (const RuleOffer& offer : record->offers)
            key += from_std(offer.rule.name + offer.rule.reading() + rule_says(offer.rule, bench));
    }
    if (key == m_shown) return;
    m_shown = key;
    clear_layout(m_follows);
    clear_layout(m_offers);
    m_follows_box->setVisible(record && !record->outlook.lines.empty());
    m_offers_box->setVisible(record && !record->offers.empty());
    if (!record) return;
    Theme& theme = m_context.theme();
    for (const std::string& line : record->outlook.lines)
        m_follows->addWidget(new TextLabel(theme, TextLabel::Role::body, from_std(line)));
    for (const RuleOffer& offer : record->offers) {
        auto* texts = new QVBoxLayout;
        texts->setSpacing(theme.px(2));
        auto* add = make_link(from_std(offer.rule.name), QStringLiteral("offer_") + from_std(offer.rule.name));
        add->setAccessibleName(tr("Add the rule %1").arg(from_std(offer.rule.name)));
        connect(add, &QPushButton::clicked, this, [this, rule = offer.rule] { emit wanted(rule); });
        texts->addWidget(add, 0, Qt::AlignLeft);
        texts->addWidget(
            new TextLabel(theme, TextLabel::Role::soft, from_std(rule_says(offer.rule, bench) + ". " + offer.why)));
        m_offers->addLayout(texts);
    }
}

} // namespace cognitum
