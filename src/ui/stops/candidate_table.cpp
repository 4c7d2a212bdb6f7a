#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/stops/sensor_page.h"
#include "ui/widgets/parts.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr int head_height = 30, row_height = 78;

Mark mark_of(Fitness fitness) {
    return fitness == Fitness::fits ? Mark::done : fitness == Fitness::fits_with_change ? Mark::look : Mark::bad;
}

QString word_of(Fitness fitness) {
    switch (fitness) {
    case Fitness::fits: return CandidateTable::tr("fits");
    case Fitness::fits_with_change: return CandidateTable::tr("fits with this change");
    case Fitness::does_not: return CandidateTable::tr("does not");
    }
    return {};
}

} // namespace

CandidateTable::CandidateTable(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("candidateTable"));
    setAccessibleName(tr("Parts that could measure this"));
    setFocusPolicy(Qt::StrongFocus);
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
}

void CandidateTable::setCandidates(std::vector<Candidate> candidates) {
    m_candidates = std::move(candidates);
    m_chosen = std::min(m_chosen, static_cast<int>(m_candidates.size()) - 1);
    updateGeometry();
    update();
}

void CandidateTable::setChosen(int row) {
    m_chosen = std::clamp(row, -1, static_cast<int>(m_candidates.size()) - 1);
    if (m_chosen >= 0) setAccessibleDescription(from_std(m_candidates[static_cast<std::size_t>(m_chosen)].because));
    update();
    emit chosenChanged();
}

QSize CandidateTable::sizeHint() const {
    const Theme& theme = m_context.theme();
    return {theme.px(640), theme.px(head_height) + static_cast<int>(m_candidates.size()) * theme.px(row_height)};
}

QRect CandidateTable::rowRect(int row) const {
    const Theme& theme = m_context.theme();
    return {0, theme.px(head_height) + row * theme.px(row_height), width(), theme.px(row_height)};
}

void CandidateTable::paintEvent(QPaintEvent*) {
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    QPainter p(this);
    p.setFont(theme.text(12));
    p.setPen(t.soft);
    const int w = width();
    const auto head = [&](double x, const QString& text) {
        p.drawText(QRect(static_cast<int>(x * w), 0, w / 3, theme.px(head_height)),
                   Qt::AlignLeft | Qt::AlignVCenter, text);
    };
    head(0.01, tr("Kind of part"));
    head(0.34, tr("Reach, and what you want"));
    head(0.57, tr("Doubt here"));
    head(0.69, tr("For this reading"));
    p.fillRect(QRect(0, theme.px(head_height) - 1, w, 1), t.ink);
    for (int row = 0; row < static_cast<int>(m_candidates.size()); ++row)
        paintRow(p, row);
    if (hasFocus() && m_chosen >= 0) {
        QPen focus = theme.pen(t.accent);
        focus.setStyle(Qt::DotLine);
        p.setPen(focus);
        p.drawRect(rowRect(m_chosen).adjusted(0, 0, -1, -2));
    }
}

void CandidateTable::paintRow(QPainter& p, int row) {
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    const Candidate& c = m_candidates[static_cast<std::size_t>(row)];
    const PartCard* part = m_context.session().catalog().part(c.part);
    const Reading* reading = m_context.reading();
    if (!part || !reading) return;
    const QRect box = rowRect(row);
    const int w = width();
    if (row == m_chosen) p.fillRect(box, t.tint);
    p.fillRect(QRect(0, box.bottom(), w, 1), t.rule);

    const auto column = [&](double from, double to) {
        return QRect(static_cast<int>(from * w), box.top() + theme.px(9), static_cast<int>((to - from) * w),
                     box.height() - theme.px(14));
    };
    const bool in_use = reading->sensor.part == c.part;
    p.setPen(t.ink);
    p.setFont(theme.text(13, true));
    const QRect name_box = column(0.01, 0.33);
    QRect used;
    p.drawText(name_box, Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, from_std(part->name), &used);
    p.setFont(theme.text(12));
    p.setPen(in_use ? t.accent : t.soft);
    const QString line =
        QStringLiteral("%1%2…%3 V · %4")
            .arg(in_use ? tr("in use · ") : QString(), from_std(format_constant(part->supply_low_V)),
                 from_std(format_constant(part->supply_high_V)), from_std(part->price));
    p.drawText(QRect(name_box.left(), used.bottom() + theme.px(2), name_box.width(), theme.px(18)), Qt::AlignLeft,
               line);

    // Reach: the part as a bar over what is wanted, on one common scale.
    const Quantity& q = reading->quantity;
    double low = q.low;
    double high = q.high;
    for (const Candidate& other : m_candidates)
        if (const PartCard* card = m_context.session().catalog().part(other.part)) {
            low = std::min(low, card->low);
            high = std::max(high, card->high);
        }
    const QRect reach = column(0.34, 0.54);
    const auto x = [&](double v) { return reach.left() + (v - low) / (high - low) * reach.width(); };
    const double y = reach.top() + theme.px(16);
    p.fillRect(QRectF(x(q.low), reach.top(), x(q.high) - x(q.low), theme.px(44)),
               row == m_chosen ? t.sheet : t.tint);
    const QColor colour = c.fitness == Fitness::fits               ? t.good
                          : c.fitness == Fitness::fits_with_change ? t.look
                                                                   : t.soft;
    p.fillRect(QRectF(x(part->low), y - theme.px(2), x(part->high) - x(part->low), theme.px(4)), colour);
    p.setPen(theme.pen(t.ink, 1.6));
    for (const double end : {part->low, part->high})
        p.drawLine(QPointF(x(end), y - theme.px(6)), QPointF(x(end), y + theme.px(6)));
    p.setFont(theme.mono(11));
    p.setPen(t.soft);
    p.drawText(QPointF(x(part->low), y + theme.px(22)), from_std(format_constant(part->low)));
    const QString high_text = from_std(format_measure(part->high, part->unit));
    p.drawText(QPointF(x(part->high) - p.fontMetrics().horizontalAdvance(high_text), y + theme.px(22)), high_text);

    p.setFont(theme.mono(13));
    p.setPen(c.doubt <= q.accuracy ? t.ink : t.bad);
    const QString doubt = std::isfinite(c.doubt)
                              ? QStringLiteral("± %1").arg(from_std(format_measure(c.doubt, q.unit, 2)))
                              : QStringLiteral("—");
    p.drawText(column(0.57, 0.69), Qt::AlignLeft | Qt::AlignTop, doubt);

    const QRect why = column(0.69, 1.0);
    paint_mark(p, theme, QPointF(why.left() + theme.px(5), why.top() + theme.px(8)), theme.px(10),
               mark_of(c.fitness));
    p.setFont(theme.text(12, true));
    p.setPen(mark_colour(theme, mark_of(c.fitness)));
    p.drawText(QRect(why.left() + theme.px(16), why.top(), why.width() - theme.px(16), theme.px(18)),
               Qt::AlignLeft | Qt::AlignVCenter, word_of(c.fitness));
    p.setFont(theme.text(12));
    p.setPen(t.ink);
    p.drawText(QRect(why.left(), why.top() + theme.px(19), why.width(), why.height() - theme.px(16)),
               Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, from_std(c.because));
}

void CandidateTable::mousePressEvent(QMouseEvent* event) {
    for (int row = 0; row < static_cast<int>(m_candidates.size()); ++row)
        if (rowRect(row).contains(event->pos())) setChosen(row);
}

void CandidateTable::mouseDoubleClickEvent(QMouseEvent*) {
    emit activated();
}

void CandidateTable::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Down)
        setChosen(m_chosen + 1);
    else if (event->key() == Qt::Key_Up)
        setChosen(std::max(0, m_chosen - 1));
    else if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter)
        emit activated();
    else
        QWidget::keyPressEvent(event);
}

} // namespace cognitum
