#include "ui/stops/raw/stage_ladder.h"

#include "ui/widgets/parts.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <algorithm>

namespace cognitum {

Mark mark_of(StageState state) {
    switch (state) {
    case StageState::passed: return Mark::done;
    case StageState::failed: return Mark::bad;
    case StageState::again: return Mark::look;
    case StageState::open: return Mark::not_begun;
    }
    return Mark::not_begun;
}

StageLadder::StageLadder(Theme& theme, QWidget* parent) : QWidget(parent), m_theme(theme) {
    setObjectName(QStringLiteral("stageLadder"));
    setAccessibleName(tr("Stages of the bring-up"));
    setFocusPolicy(Qt::StrongFocus);
    setCursor(Qt::PointingHandCursor);
    connect(&theme, &Theme::changed, this, [this] {
        updateGeometry();
        update();
    });
}

int StageLadder::rowHeight() const {
    return m_theme.px(44);
}

QSize StageLadder::sizeHint() const {
    return {m_theme.px(220), rowHeight() * static_cast<int>(m_rows.size())};
}

void StageLadder::setRows(std::vector<Row> rows) {
    m_rows = std::move(rows);
    QString spoken;
    for (const Row& row : m_rows)
        spoken += QStringLiteral("%1: %2; ").arg(row.title, row.about);
    setAccessibleDescription(spoken);
    setMinimumHeight(sizeHint().height());
    updateGeometry();
    update();
}

void StageLadder::choose(int row) {
    row = std::clamp(row, 0, std::max(0, static_cast<int>(m_rows.size()) - 1));
    if (row == m_chosen) return;
    m_chosen = row;
    update();
    emit chosenChanged(row);
}

void StageLadder::paintEvent(QPaintEvent*) {
    const Tokens& t = m_theme.colours();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const double x = m_theme.px(18);
    const auto middle = [&](int row) { return row * rowHeight() + rowHeight() / 2.0; };
    const auto n = static_cast<int>(m_rows.size());
    if (m_chosen < n) {
        p.fillRect(QRect(0, m_chosen * rowHeight(), width(), rowHeight()), t.selected);
        if (hasFocus()) {
            p.setPen(m_theme.pen(t.ink, 1));
            p.setBrush(Qt::NoBrush);
            p.drawRect(QRectF(0.5, m_chosen * rowHeight() + 0.5, width() - 1, rowHeight() - 1));
        }
    }
    for (int row = 0; row + 1 < n; ++row) {
        const bool whole = m_rows[static_cast<std::size_t>(row)].state == StageState::passed;
        QPen pen = m_theme.pen(whole ? t.accent : t.soft, whole ? 3 : 1.4);
        if (!whole) pen.setDashPattern({2, 3});
        p.setPen(pen);
        p.drawLine(QPointF(x, middle(row)), QPointF(x, middle(row + 1)));
    }
    for (int row = 0; row < n; ++row) {
        const Row& r = m_rows[static_cast<std::size_t>(row)];
        p.setPen(Qt::NoPen);
        p.setBrush(row == m_chosen ? t.selected : t.sheet);
        p.drawEllipse(QPointF(x, middle(row)), m_theme.px(9), m_theme.px(9));
        paint_mark(p, m_theme, QPointF(x, middle(row)), m_theme.px(13), mark_of(r.state));
        const QRect box(m_theme.px(38), row * rowHeight() + m_theme.px(4), width() - m_theme.px(42),
                        rowHeight() - m_theme.px(8));
        p.setPen(t.ink);
        p.setFont(m_theme.text(13, row == m_chosen));
        p.drawText(box, Qt::AlignLeft | Qt::AlignTop, r.title);
        p.setPen(t.soft);
        p.setFont(m_theme.text(11));
        p.drawText(box, Qt::AlignLeft | Qt::AlignBottom,
                   QFontMetrics(m_theme.text(11)).elidedText(r.about, Qt::ElideRight, box.width()));
    }
}

void StageLadder::mousePressEvent(QMouseEvent* event) {
    setFocus();
    choose(static_cast<int>(event->position().y()) / std::max(1, rowHeight()));
}

void StageLadder::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Up || event->key() == Qt::Key_Down)
        choose(m_chosen + (event->key() == Qt::Key_Up ? -1 : 1));
    else
        QWidget::keyPressEvent(event);
}

} // namespace cognitum
