#include "ui/stops/wiring/step_list.h"

#include "ui/widgets/parts.h"

#include <QMouseEvent>
#include <QPainter>
#include <algorithm>

namespace cognitum {

StepList::StepList(Theme& theme, QWidget* parent) : QWidget(parent), m_theme(theme) {
    setObjectName(QStringLiteral("wiringSteps"));
    setAccessibleName(tr("Wiring steps"));
    setMinimumWidth(theme.px(250));
    connect(&theme, &Theme::changed, this, [this] {
        layRows();
        update();
    });
}

void StepList::setSteps(std::vector<WiringStep> steps, std::vector<int> ticked) {
    m_steps = std::move(steps);
    m_ticked = std::move(ticked);
    QString spoken;
    for (const WiringStep& s : m_steps)
        spoken += QStringLiteral("%1 %2; ").arg(isTicked(s.number) ? tr("done:") : tr("to do:"), from_std(s.text));
    setAccessibleDescription(spoken);
    layRows();
    update();
}

bool StepList::isTicked(int number) const {
    return std::find(m_ticked.begin(), m_ticked.end(), number) != m_ticked.end();
}

int StepList::current() const {
    for (std::size_t i = 0; i < m_steps.size(); ++i)
        if (!isTicked(m_steps[i].number)) return static_cast<int>(i);
    return static_cast<int>(m_steps.size());
}

std::vector<StepList::Line> StepList::linesOf(std::size_t i) const {
    const WiringStep& step = m_steps[i];
    const bool now = static_cast<int>(i) == current();
    std::vector<Line> out;
    const int wide = std::max(width(), minimumWidth()) - m_theme.px(36);
    const auto add = [&](const QString& text, const QFont& font, bool warns) {
        const int height =
            QFontMetrics(font).boundingRect(QRect(0, 0, wide, 2000), Qt::TextWordWrap, text).height();
        out.push_back({text, font, warns, height});
    };
    if (now && !step.caution.empty())
        add(QStringLiteral("▲ ") + from_std(step.caution), m_theme.text(12, true), true);
    add(from_std(step.text), m_theme.text(13, now), false);
    add(tr("meter: %1").arg(from_std(step.meter)), m_theme.mono(11), false);
    if (now && !step.if_not.empty()) add(tr("If not: %1").arg(from_std(step.if_not)), m_theme.text(12), false);
    return out;
}

void StepList::layRows() {
    m_tops.assign(1, 0);
    for (std::size_t i = 0; i < m_steps.size(); ++i) {
        int height = m_theme.px(12);
        for (const Line& line : linesOf(i))
            height += line.height + m_theme.px(1);
        m_tops.push_back(m_tops.back() + height);
    }
    if (minimumHeight() != m_tops.back()) setMinimumHeight(m_tops.back());
    updateGeometry();
}

void StepList::resizeEvent(QResizeEvent*) {
    layRows();
}

QRect StepList::currentRect() const {
    const auto at = static_cast<std::size_t>(current());
    return at + 1 < m_tops.size() ? QRect(0, m_tops[at], width(), m_tops[at + 1] - m_tops[at]) : QRect();
}

QSize StepList::sizeHint() const {
    return {m_theme.px(270), m_tops.empty() ? 0 : m_tops.back()};
}

void StepList::paintEvent(QPaintEvent*) {
    const Tokens& t = m_theme.colours();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const int now = current();
    for (int i = 0; i < static_cast<int>(m_steps.size()); ++i) {
        const auto at = static_cast<std::size_t>(i);
        const QRect row(0, m_tops[at], width(), m_tops[at + 1] - m_tops[at]);
        if (i == now) p.fillRect(row, t.tint);
        const bool ticked = isTicked(m_steps[at].number);
        const QRectF box(row.left() + m_theme.px(8), row.top() + m_theme.px(7), m_theme.px(14), m_theme.px(14));
        p.setPen(m_theme.pen(i == now || ticked ? t.accent : t.soft, 1.6));
        p.setBrush(ticked ? QBrush(t.accent) : QBrush(Qt::NoBrush));
        p.drawRect(box);
        if (ticked) {
            p.setPen(m_theme.pen(t.sheet, 1.8));
            p.drawPolyline(QPolygonF({{box.left() + box.width() * 0.2, box.center().y()},
                                      {box.left() + box.width() * 0.42, box.bottom() - box.height() * 0.25},
                                      {box.right() - box.width() * 0.18, box.top() + box.height() * 0.25}}));
        }
        int y = row.top() + m_theme.px(5);
        bool first = true;
        for (const Line& line : linesOf(at)) {
            p.setFont(line.font);
            p.setPen(line.warns ? t.look : first ? t.ink : t.soft);
            p.drawText(QRect(m_theme.px(32), y, width() - m_theme.px(36), line.height), Qt::TextWordWrap,
                       line.text);
            y += line.height + m_theme.px(1);
            if (!line.warns) first = false;
        }
    }
}

void StepList::mousePressEvent(QMouseEvent* event) {
    const int y = static_cast<int>(event->position().y());
    for (std::size_t i = 0; i < m_steps.size(); ++i)
        if (y >= m_tops[i] && y < m_tops[i + 1]) {
            emit toggled(m_steps[i].number);
            return;
        }
}

} // namespace cognitum
