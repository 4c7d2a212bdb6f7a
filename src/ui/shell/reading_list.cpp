#include "ui/shell/reading_list.h"

#include "ui/widgets/parts.h"

#include <QPainter>

namespace cognitum {

ReadingModel::ReadingModel(Context& context, QObject* parent) : QAbstractListModel(parent), m_context(context) {
    connect(&context, &Context::refreshed, this, &ReadingModel::update);
    m_rows = rowsNow();
}

std::vector<ReadingModel::Row> ReadingModel::rowsNow() const {
    std::vector<Row> rows;
    for (const Reading& r : m_context.session().bench().readings) {
        const PathState& s = m_context.state(r.id);
        const QString word = s.age.isEmpty() ? s.word : QStringLiteral("%1 · %2").arg(s.word, s.age);
        rows.push_back({r.id, from_std(r.name), s.value, word, s.mark});
    }
    return rows;
}

void ReadingModel::update() {
    std::vector<Row> next = rowsNow();
    const bool same_readings =
        next.size() == m_rows.size() && std::equal(next.begin(), next.end(), m_rows.begin(),
                                                   [](const Row& a, const Row& b) { return a.id == b.id; });
    if (!same_readings) {
        beginResetModel();
        m_rows = std::move(next);
        endResetModel();
        return;
    }
    for (std::size_t i = 0; i < next.size(); ++i)
        if (!(next[i] == m_rows[i])) {
            m_rows[i] = std::move(next[i]);
            emit dataChanged(index(static_cast<int>(i)), index(static_cast<int>(i)));
        }
}

int ReadingModel::rowCount(const QModelIndex& parent) const {
    return parent.isValid() ? 0 : static_cast<int>(m_rows.size());
}

int ReadingModel::rowOf(const std::string& id) const {
    for (std::size_t i = 0; i < m_rows.size(); ++i)
        if (m_rows[i].id == id) return static_cast<int>(i);
    return -1;
}

QVariant ReadingModel::data(const QModelIndex& index, int role) const {
    if (!index.isValid() || index.row() >= static_cast<int>(m_rows.size())) return {};
    const Row& row = m_rows[static_cast<std::size_t>(index.row())];
    switch (role) {
    case Qt::DisplayRole: return row.name;
    case Qt::AccessibleTextRole: return QStringLiteral("%1, %2, %3").arg(row.name, row.value, row.word);
    case id_role: return from_std(row.id);
    case value_role: return row.value;
    case word_role: return row.word;
    case mark_role: return static_cast<int>(row.mark);
    default: return {};
    }
}

QSize ReadingDelegate::sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const {
    return {m_theme.px(200), m_theme.px(42)};
}

void ReadingDelegate::paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const {
    const Tokens& t = m_theme.colours();
    const QRect box = option.rect;
    painter->save();
    if (option.state & QStyle::State_Selected) {
        painter->fillRect(box, t.selected);
        painter->fillRect(QRect(box.left(), box.top(), m_theme.px(3), box.height()), t.accent);
    } else if (option.state & QStyle::State_MouseOver) {
        painter->fillRect(box, t.selected);
    }
    const int y = box.top() + m_theme.px(13);
    paint_mark(*painter, m_theme, QPointF(box.left() + m_theme.px(22), y), m_theme.px(9),
               static_cast<Mark>(index.data(ReadingModel::mark_role).toInt()));

    painter->setFont(m_theme.mono(13));
    painter->setPen(t.ink);
    const QString value = index.data(ReadingModel::value_role).toString();
    const int right = box.right() - m_theme.px(16);
    const int value_width = painter->fontMetrics().horizontalAdvance(value);
    painter->drawText(QRect(right - value_width, box.top() + m_theme.px(3), value_width + 2, m_theme.px(20)),
                      Qt::AlignLeft | Qt::AlignVCenter, value);

    painter->setFont(m_theme.text(13));
    const int left = box.left() + m_theme.px(36);
    const QRect name_box(left, box.top() + m_theme.px(3), right - value_width - left - m_theme.px(6),
                         m_theme.px(20));
    painter->drawText(name_box, Qt::AlignLeft | Qt::AlignVCenter,
                      painter->fontMetrics().elidedText(index.data().toString(), Qt::ElideRight, name_box.width()));
    painter->setFont(m_theme.text(11));
    painter->setPen(t.soft);
    painter->drawText(QRect(left, box.top() + m_theme.px(22), right - left, m_theme.px(16)),
                      Qt::AlignLeft | Qt::AlignVCenter, index.data(ReadingModel::word_role).toString());
    painter->restore();
}

} // namespace cognitum
