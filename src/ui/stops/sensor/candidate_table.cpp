#include "ui/stops/sensor/candidate_table.h"

#include "core/plan/placed.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/widgets/parts.h"

#include <QKeyEvent>
#include <QMouseEvent>
#include <QPainter>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr int head_height = 30, least_row_height = 64;
/// Where the columns stand, as shares of the width; a narrow table gives its reasons more of it.
struct Columns {
    double name_to = 0.30, reach_from = 0.315, reach_to = 0.515, doubt_from = 0.535, why_from = 0.655;
};
Columns columns_for(int width, const Theme& theme) {
    return width < theme.px(600) ? Columns{0.29, 0.305, 0.42, 0.44, 0.60} : Columns{};
}

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
    layScale();
    layRows();
    updateGeometry();
    update();
}

void CandidateTable::setChosen(int row) {
    m_chosen = std::clamp(row, -1, static_cast<int>(m_candidates.size()) - 1);
    if (m_chosen >= 0) setAccessibleDescription(from_std(m_candidates[static_cast<std::size_t>(m_chosen)].because));
    update();
    emit chosenChanged();
}

/// One scale for all rows; beyond three times what is wanted a bar ends in an arrow.
void CandidateTable::layScale() {
    m_scale_unit.clear();
    const Reading* reading = m_context.reading();
    for (const Candidate& c : m_candidates) {
        const Measurand* m = measurand(c);
        if (!m || (!m_scale_unit.empty() && m->unit != m_scale_unit)) continue;
        const auto low = convert_unit(reading->quantity.low, reading->quantity.unit, m->unit);
        const auto high = convert_unit(reading->quantity.high, reading->quantity.unit, m->unit);
        if (!low || !high) return;
        if (m_scale_unit.empty()) {
            m_scale_unit = m->unit;
            m_scale_low = *low;
            m_scale_high = *high;
        }
        const double span = *high - *low;
        m_scale_low = std::max(std::min(m_scale_low, m->low), *low - span);
        m_scale_high = std::min(std::max(m_scale_high, m->high), *high + 2 * span);
    }
}

/// Rows are as high as their reason needs, so that nothing is cut.
void CandidateTable::layRows() {
    const Theme& theme = m_context.theme();
    const int wide = std::max(theme.px(300), width());
    const Columns at = columns_for(wide, theme);
    const QFontMetrics reason(theme.text(12));
    const QFontMetrics name(theme.text(13, true));
    m_tops.assign(1, theme.px(head_height));
    for (const Candidate& c : m_candidates) {
        const PartCard* part = m_context.session().catalog().part(c.part);
        const QRect why(0, 0, static_cast<int>((1 - at.why_from) * wide), 10000);
        const QRect names(0, 0, static_cast<int>((at.name_to - 0.01) * wide), 10000);
        const int why_height =
            theme.px(34) + reason.boundingRect(why, Qt::TextWordWrap, from_std(c.because)).height();
        const int name_height =
            theme.px(34) +
            name.boundingRect(names, Qt::TextWordWrap, from_std(part ? part->name : c.part)).height();
        m_tops.push_back(m_tops.back() + std::max({theme.px(least_row_height), why_height, name_height}));
    }
}

void CandidateTable::resizeEvent(QResizeEvent*) {
    layRows();
    updateGeometry();
}

QSize CandidateTable::sizeHint() const {
    return {m_context.theme().px(640), m_tops.empty() ? m_context.theme().px(head_height) : m_tops.back()};
}

QRect CandidateTable::rowRect(int row) const {
    const auto i = static_cast<std::size_t>(row);
    if (i + 1 >= m_tops.size()) return {};
    return {0, m_tops[i], width(), m_tops[i + 1] - m_tops[i]};
}

QRect CandidateTable::column(int row, double from, double to) const {
    const QRect box = rowRect(row);
    const Theme& theme = m_context.theme();
    return {static_cast<int>(from * width()), box.top() + theme.px(9), static_cast<int>((to - from) * width()),
            box.height() - theme.px(14)};
}

const Measurand* CandidateTable::measurand(const Candidate& candidate) const {
    const Reading* reading = m_context.reading();
    if (!reading) return nullptr;
    Reading probe = *reading;
    probe.sensor.part = candidate.part;
    return place(m_context.session().bench(), m_context.session().catalog(), probe).measurand;
}

void CandidateTable::paintEvent(QPaintEvent*) {
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    QPainter p(this);
    p.setFont(theme.text(12));
    p.setPen(t.soft);
    const int w = width();
    const Columns at = columns_for(w, theme);
    const auto head = [&](double from, double to, const QString& text) {
        const QRect box(static_cast<int>(from * w), 0, static_cast<int>((to - from) * w) - theme.px(4),
                        theme.px(head_height));
        p.drawText(box, Qt::AlignLeft | Qt::AlignVCenter,
                   p.fontMetrics().elidedText(text, Qt::ElideRight, box.width()));
    };
    head(0.01, at.name_to, tr("Kind of part"));
    head(at.reach_from, at.doubt_from, tr("Reach, and what you want"));
    head(at.doubt_from, at.why_from, tr("Doubt here"));
    head(at.why_from, 1, tr("For this reading"));
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
    const Measurand* measured = measurand(c);
    if (!part || !reading || !measured) return;
    const QRect box = rowRect(row);
    const Columns at = columns_for(width(), theme);
    const bool chosen = row == m_chosen;
    if (chosen) p.fillRect(box, t.tint);
    p.fillRect(QRect(0, box.bottom(), width(), 1), t.rule);

    const bool in_use = reading->sensor.part == c.part;
    p.setPen(t.ink);
    p.setFont(theme.text(13, true));
    const QRect name_box = column(row, 0.01, at.name_to);
    QRect used;
    p.drawText(name_box, Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, from_std(part->name), &used);
    p.setFont(theme.text(12));
    p.setPen(in_use ? t.accent : t.soft);
    QStringList facts;
    if (in_use) facts << tr("in use");
    if (part->supply.high_V > 0)
        facts << tr("%1…%2 V").arg(from_std(format_constant(part->supply.low_V)),
                                   from_std(format_constant(part->supply.high_V)));
    facts << from_std(speech_title(part->interface.speech)) << from_std(part->price);
    p.drawText(QRect(name_box.left(), used.bottom() + theme.px(2), name_box.width(), theme.px(18)), Qt::AlignLeft,
               p.fontMetrics().elidedText(facts.join(QStringLiteral(" · ")), Qt::ElideRight, name_box.width()));

    paintReach(p, column(row, at.reach_from, at.reach_to), c, *measured, chosen);

    p.setFont(theme.mono(13));
    p.setPen(c.doubt <= reading->quantity.accuracy * 1.0001 ? t.ink : t.bad);
    const QString doubt =
        std::isfinite(c.doubt)
            ? QStringLiteral("± %1").arg(from_std(format_measure(c.doubt, reading->quantity.unit, 2)))
            : QStringLiteral("—");
    p.drawText(column(row, at.doubt_from, at.why_from), Qt::AlignLeft | Qt::AlignTop, doubt);

    const QRect why = column(row, at.why_from, 1.0);
    paint_mark(p, theme, QPointF(why.left() + theme.px(5), why.top() + theme.px(8)), theme.px(10),
               mark_of(c.fitness));
    p.setFont(theme.text(12, true));
    p.setPen(mark_colour(theme, mark_of(c.fitness)));
    p.drawText(QRect(why.left() + theme.px(16), why.top(), why.width() - theme.px(16), theme.px(18)),
               Qt::AlignLeft | Qt::AlignVCenter, word_of(c.fitness));
    p.setFont(theme.text(12));
    p.setPen(t.ink);
    p.drawText(QRect(why.left(), why.top() + theme.px(19), why.width(), why.height() - theme.px(14)),
               Qt::AlignLeft | Qt::AlignTop | Qt::TextWordWrap, from_std(c.because));
}

/// The part as a bar over what is wanted, all on one scale. A part that reaches far beyond ends in an arrow.
void CandidateTable::paintReach(QPainter& p, const QRect& reach, const Candidate& c, const Measurand& measured,
                                bool chosen) {
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    const Quantity& q = m_context.reading()->quantity;
    const auto want_low = convert_unit(q.low, q.unit, measured.unit);
    const auto want_high = convert_unit(q.high, q.unit, measured.unit);
    const bool comparable = want_low && want_high;
    const bool common = measured.unit == m_scale_unit;
    const double low = common ? m_scale_low : measured.low;
    const double high = common ? m_scale_high : measured.high;
    const auto x = [&](double v) {
        return reach.left() + (std::clamp(v, low, high) - low) / (high - low) * (reach.width() - theme.px(8));
    };
    const double y = reach.top() + theme.px(16);
    if (comparable)
        p.fillRect(QRectF(x(*want_low), reach.top(), std::max(2.0, x(*want_high) - x(*want_low)), theme.px(40)),
                   chosen ? t.sheet : t.tint);
    const QColor colour = mark_colour(theme, mark_of(c.fitness));
    p.fillRect(QRectF(x(measured.low), y - theme.px(2), x(measured.high) - x(measured.low), theme.px(4)), colour);
    p.setPen(theme.pen(t.ink, 1.6));
    for (const double end : {measured.low, measured.high}) {
        if (end >= low - 1e-9 && end <= high + 1e-9)
            p.drawLine(QPointF(x(end), y - theme.px(6)), QPointF(x(end), y + theme.px(6)));
        else // it goes on
            p.drawPolyline(QPolygonF({{x(end) + theme.px(end < low ? 5 : -5), y - theme.px(5)},
                                      {x(end) + theme.px(end < low ? 0 : 1), y},
                                      {x(end) + theme.px(end < low ? 5 : -5), y + theme.px(5)}}));
    }
    p.setFont(theme.mono(11));
    p.setPen(t.soft);
    const QString low_text = from_std(format_constant(measured.low));
    const QString high_text = from_std(format_measure(measured.high, measured.unit));
    const double right = x(measured.high) - p.fontMetrics().horizontalAdvance(high_text);
    p.drawText(QPointF(x(measured.low), y + theme.px(22)), low_text);
    p.drawText(QPointF(std::max(right, x(measured.low) +
                                           p.fontMetrics().horizontalAdvance(low_text + QStringLiteral("  "))),
                       y + theme.px(22)),
               high_text);
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
