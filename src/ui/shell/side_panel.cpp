#include "ui/shell/side_panel.h"

#include "core/plan/reading_doubt.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/widgets/finding_row.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace cognitum {

DoubtBars::DoubtBars(Theme& theme, QWidget* parent) : QWidget(parent), m_theme(theme) {
    setObjectName(QStringLiteral("doubtBars"));
    setAccessibleName(tr("What makes the doubt, largest first"));
    connect(&theme, &Theme::changed, this, [this] {
        updateGeometry();
        update();
    });
}

void DoubtBars::setBudget(const Budget& budget) {
    if (budget.contributions.size() != m_budget.contributions.size()) updateGeometry();
    m_budget = budget;
    QString spoken;
    for (const Contribution& c : budget.contributions)
        spoken += QStringLiteral("%1 %2; ").arg(from_std(c.label), from_std(format_constant(c.u, 2)));
    setAccessibleDescription(spoken);
    update();
}

QSize DoubtBars::sizeHint() const {
    const auto rows = static_cast<int>(std::min<std::size_t>(m_budget.contributions.size(), 6));
    return {m_theme.px(240), m_theme.px(30) * rows};
}

void DoubtBars::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    const Tokens& t = m_theme.colours();
    const double largest = m_budget.contributions.empty() ? 1 : m_budget.contributions.front().u;
    int y = 0;
    for (const Contribution& c : m_budget.contributions) {
        if (y + m_theme.px(30) > height() + 1) break;
        painter.setPen(t.ink);
        painter.setFont(m_theme.text(12));
        const QRect row(0, y, width(), m_theme.px(18));
        painter.drawText(row, Qt::AlignLeft | Qt::AlignVCenter, from_std(c.label));
        painter.setFont(m_theme.mono(12));
        painter.drawText(row, Qt::AlignRight | Qt::AlignVCenter,
                         from_std(format_fixed(c.u, decimals_for(m_budget.standard_uncertainty) + 1)));
        const QRect bar(0, y + m_theme.px(20), width(), m_theme.px(4));
        painter.fillRect(bar, t.rule);
        const double share = largest > 0 ? c.u / largest : 0;
        painter.fillRect(QRect(bar.left(), bar.top(), static_cast<int>(bar.width() * share), bar.height()),
                         t.accent);
        y += m_theme.px(30);
    }
}

SidePanel::SidePanel(Context& context, QWidget* parent) : QScrollArea(parent), m_context(context) {
    Theme& theme = context.theme();
    setObjectName(QStringLiteral("sidePanel"));
    setWidgetResizable(true);
    setFrameShape(QFrame::NoFrame);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_body = new QWidget(this);
    setWidget(m_body);
    m_body->setObjectName(QStringLiteral("paper"));
    m_layout = new QVBoxLayout(m_body);
    m_layout->setContentsMargins(theme.px(16), theme.px(14), theme.px(16), theme.px(14));
    m_layout->setSpacing(theme.px(16));

    m_findings_box = new QWidget(m_body);
    m_findings_box->setObjectName(QStringLiteral("findingsBox"));
    auto* box = new QVBoxLayout(m_findings_box);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme.px(8));
    auto* head = new QHBoxLayout;
    m_findings_title = new TextLabel(theme, TextLabel::Role::name, tr("Findings"), m_findings_box);
    m_findings_count = new TextLabel(theme, TextLabel::Role::soft, {}, m_findings_box);
    m_findings_count->setObjectName(QStringLiteral("findingsCount"));
    head->addWidget(m_findings_title, 0);
    head->addWidget(m_findings_count, 1);
    box->addLayout(head);
    box->addWidget(new RuleLine(theme, false, m_findings_box));
    m_findings = new QVBoxLayout;
    m_findings->setSpacing(theme.px(10));
    box->addLayout(m_findings);
    m_layout->addWidget(m_findings_box);

    m_doubt_box = new QWidget(m_body);
    auto* doubt = new QVBoxLayout(m_doubt_box);
    doubt->setContentsMargins(0, 0, 0, 0);
    doubt->setSpacing(theme.px(6));
    doubt->addWidget(new RuleLine(theme, false, m_doubt_box));
    auto* doubt_head = new QHBoxLayout;
    doubt_head->addWidget(new TextLabel(theme, TextLabel::Role::name, tr("Doubt"), m_doubt_box));
    m_doubt_value = new TextLabel(theme, TextLabel::Role::mono, {}, m_doubt_box);
    m_doubt_value->setObjectName(QStringLiteral("doubtValue"));
    doubt_head->addWidget(m_doubt_value, 1);
    doubt->addLayout(doubt_head);
    m_doubt_about = new TextLabel(theme, TextLabel::Role::soft, {}, m_doubt_box);
    doubt->addWidget(m_doubt_about);
    m_bars = new DoubtBars(theme, m_doubt_box);
    doubt->addWidget(m_bars);
    m_help_title = new TextLabel(theme, TextLabel::Role::name, tr("What would help most"), m_doubt_box);
    m_help = new TextLabel(theme, TextLabel::Role::body, {}, m_doubt_box);
    m_help->setObjectName(QStringLiteral("whatWouldHelp"));
    m_help_then = new TextLabel(theme, TextLabel::Role::soft, {}, m_doubt_box);
    for (QWidget* w :
         {static_cast<QWidget*>(m_help_title), static_cast<QWidget*>(m_help), static_cast<QWidget*>(m_help_then)})
        doubt->addWidget(w);
    m_layout->addWidget(m_doubt_box);
    m_layout->addStretch(1);

    connect(&context, &Context::refreshed, this, &SidePanel::refresh);
    connect(&context, &Context::selectionChanged, this, &SidePanel::refresh);
    connect(&theme, &Theme::changed, this, [this] { setWide(m_wide); });
    setWide(m_wide);
}

void SidePanel::setWide(bool wide) {
    m_wide = wide;
    const int width = m_context.theme().px(280);
    setMinimumWidth(width);
    setMaximumWidth(wide ? QWIDGETSIZE_MAX : width);
}

void SidePanel::setPageSection(QWidget* section, bool alone) {
    m_alone = alone;
    if (section != m_page_section) {
        if (m_page_section) {
            m_layout->removeWidget(m_page_section);
            m_page_section->hide();
            m_page_section->setParent(nullptr);
        }
        m_page_section = section;
        if (section) {
            // What the page says comes first where it says all, else behind the findings.
            m_layout->insertWidget(alone ? 0 : 1, section);
            show_part(section, true);
        }
    }
    show_part(m_findings_box, !alone);
    show_part(m_doubt_box, !alone);
    refresh();
}

void SidePanel::refresh() {
    const Reading* reading = m_context.reading();
    if (!reading || m_alone) return;
    rebuildFindings(m_context.findings(), reading->wiring.mended);

    const Budget& budget = m_context.budget();
    const bool known = std::isfinite(budget.standard_uncertainty) && !budget.contributions.empty() &&
                       !reading->quantity.about().is_state(); // on or off has no ±
    show_part(m_doubt_box, known);
    if (!known) return;
    const std::string& unit = reading->quantity.unit;
    const int decimals = decimals_for(budget.expanded());
    set_text(m_doubt_value, from_std("± " + format_fixed(budget.expanded(), decimals) + std::string(thin_space) +
                                     unit_symbol(unit)));
    set_text(m_doubt_about,
             tr("95 %, k = %1; what makes it, as standard uncertainty:").arg(from_std(format_fixed(budget.k, 1))));
    m_bars->setBudget(budget);
    const Session& session = m_context.session();
    const Advice advice = what_would_help(place(session.bench(), session.catalog(), *reading), budget);
    show_part(m_help_title, !advice.first.empty());
    set_text(m_help, from_std(advice.first));
    set_text(m_help_then, from_std(advice.then));
    show_part(m_help, !advice.first.empty());
    show_part(m_help_then, !advice.then.empty());
}

void SidePanel::rebuildFindings(const std::vector<Finding>& findings, const std::vector<std::string>& mended) {
    QString key;
    for (const Finding& f : findings)
        key += from_std(f.id + f.message + f.fix + "|");
    for (const std::string& m : mended)
        key += from_std(m);
    key += from_std(m_context.readingId());
    if (key == m_shown) return;
    m_shown = key;
    clear_layout(m_findings);
    Theme& theme = m_context.theme();
    const auto open = std::count_if(findings.begin(), findings.end(),
                                    [](const Finding& f) { return f.severity != Severity::note; });
    QString count = open == 0 ? tr("nothing to look at") : tr("%1 to look at").arg(open);
    if (!mended.empty()) count += tr(", %1 mended").arg(mended.size());
    set_text(m_findings_count, count);

    for (const Finding& f : findings)
        add_finding(m_findings, m_context, f);
    for (const std::string& m : mended) {
        auto* line = new QHBoxLayout;
        line->setSpacing(theme.px(6));
        line->addWidget(new MarkLabel(theme, Mark::done), 0, Qt::AlignTop);
        line->addWidget(new TextLabel(theme, TextLabel::Role::soft, tr("mended: %1").arg(from_std(m))), 1);
        m_findings->addLayout(line);
    }
}

} // namespace cognitum
