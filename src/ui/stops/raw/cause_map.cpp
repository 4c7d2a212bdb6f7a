#include "ui/stops/raw/cause_map.h"

#include "ui/widgets/parts.h"

#include <QPainter>
#include <algorithm>

namespace cognitum {

CauseMap::CauseMap(Theme& theme, QWidget* parent) : QWidget(parent), m_theme(theme) {
    setObjectName(QStringLiteral("causeMap"));
    setAccessibleName(tr("All questions and causes of this symptom"));
    connect(&theme, &Theme::changed, this, [this] {
        updateGeometry();
        update();
    });
}

void CauseMap::setWalk(const SymptomTree* tree, const std::string& start, const SymptomWalk& walk) {
    m_tree = tree;
    m_nodes.clear();
    m_rows = m_depth = 0;
    m_way = {start};
    for (const SymptomStep& step : walk.steps)
        m_way.push_back(step.answer->to);
    add(start, -1, 0, {}, true);
    setMinimumHeight(sizeHint().height());
    updateGeometry();
    update();
}

/// Adds a node and what is below it; a cause takes a row, a question stands in the middle of its answers.
int CauseMap::add(const std::string& id, int parent, int depth, std::vector<std::string> above, bool on_way) {
    const int index = static_cast<int>(m_nodes.size());
    const auto place = static_cast<std::size_t>(depth);
    Node node;
    node.parent = parent;
    node.depth = depth;
    node.taken = on_way && place < m_way.size() && m_way[place] == id;
    node.here = node.taken && place + 1 == m_way.size();
    // Ruled out: beside the way, not below its end.
    const bool below_end = depth > 0 && above.size() >= m_way.size() && above[m_way.size() - 1] == m_way.back();
    node.out = !node.taken && !below_end;
    const auto question = m_tree->questions.find(id);
    node.cause = question == m_tree->questions.end();
    m_depth = std::max(m_depth, depth);
    above.push_back(id);
    m_nodes.push_back(node);
    if (node.cause) {
        if (const auto cause = m_tree->causes.find(id); cause != m_tree->causes.end())
            m_nodes[static_cast<std::size_t>(index)].text = from_std(cause->second.title);
        m_nodes[static_cast<std::size_t>(index)].row = m_rows++;
        return index;
    }
    double first = 0, last = 0;
    for (std::size_t i = 0; i < question->second.answers.size(); ++i) {
        const int child = add(question->second.answers[i].to, index, depth + 1, above, node.taken);
        const double row = m_nodes[static_cast<std::size_t>(child)].row;
        if (i == 0) first = row;
        last = row;
    }
    m_nodes[static_cast<std::size_t>(index)].row = (first + last) / 2;
    return index;
}

int CauseMap::open() const {
    return static_cast<int>(
        std::count_if(m_nodes.begin(), m_nodes.end(), [](const Node& n) { return n.cause && !n.out; }));
}

QSize CauseMap::sizeHint() const {
    return {m_theme.px(360), rowHeight() * m_rows + m_theme.px(8)};
}

void CauseMap::paintEvent(QPaintEvent*) {
    const Tokens& t = m_theme.colours();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const double step = m_theme.px(26);
    const double text_x = m_theme.px(10) + step * m_depth + m_theme.px(10);
    const auto at = [&](const Node& n) {
        const double x = m_theme.px(8) + step * (n.cause ? m_depth : n.depth);
        return QPointF(x, m_theme.px(4) + (n.row + 0.5) * rowHeight());
    };
    const auto faded = [&](const QColor& colour, bool out) {
        QColor c = colour;
        if (out) c.setAlphaF(0.35F);
        return c;
    };
    // The way taken is drawn last, over what fades.
    for (const bool taken : {false, true})
        for (const Node& n : m_nodes) {
            if (n.parent < 0 || n.taken != taken) continue;
            const QPointF from = at(m_nodes[static_cast<std::size_t>(n.parent)]);
            const QPointF to = at(n);
            QPen pen = m_theme.pen(n.taken ? t.accent : faded(t.soft, n.out), n.taken ? 3 : 1);
            p.setPen(pen);
            const double bend = from.x() + step / 2;
            p.drawPolyline(QPolygonF({from, QPointF(bend, from.y()), QPointF(bend, to.y()), to}));
        }
    p.setFont(m_theme.text(12));
    const QFontMetrics metrics(p.font());
    for (const Node& n : m_nodes) {
        const QPointF centre = at(n);
        const double r = n.here ? m_theme.px(5) : m_theme.px(3);
        p.setPen(m_theme.pen(n.taken ? t.accent : faded(t.soft, n.out), n.here ? 2.4 : 1.4));
        p.setBrush(n.cause ? (n.taken ? t.accent : faded(t.soft, n.out)) : t.sheet);
        p.drawEllipse(centre, r, r);
        if (!n.cause) continue;
        p.setFont(m_theme.text(12, n.taken));
        p.setPen(n.out ? faded(t.soft, true) : t.ink);
        const QRectF box(text_x, centre.y() - rowHeight() / 2.0, width() - text_x, rowHeight());
        p.drawText(box, Qt::AlignLeft | Qt::AlignVCenter,
                   metrics.elidedText(n.text, Qt::ElideRight, static_cast<int>(box.width())));
    }
}

} // namespace cognitum
