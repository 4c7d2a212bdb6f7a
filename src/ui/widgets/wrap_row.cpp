#include "ui/widgets/wrap_row.h"

#include <QHBoxLayout>
#include <QWidget>
#include <algorithm>

namespace cognitum {

WrapRow::WrapRow(int between) {
    setSpacing(between);
}

WrapRow::~WrapRow() = default;

void WrapRow::addTogether(const std::vector<QWidget*>& parts) {
    auto* together = new QHBoxLayout;
    together->setSpacing(spacing());
    for (QWidget* part : parts)
        together->addWidget(part);
    addChildLayout(together);
    addItem(together);
}

void WrapRow::addItem(QLayoutItem* item) {
    m_items.emplace_back(item);
}

QLayoutItem* WrapRow::itemAt(int index) const {
    return index >= 0 && index < count() ? m_items[static_cast<std::size_t>(index)].get() : nullptr;
}

QLayoutItem* WrapRow::takeAt(int index) {
    if (!itemAt(index)) return nullptr;
    const auto at = m_items.begin() + index;
    QLayoutItem* taken = at->release();
    m_items.erase(at);
    return taken;
}

QSize WrapRow::sizeHint() const {
    QSize all(0, 0);
    for (const auto& item : m_items) {
        if (item->isEmpty()) continue;
        const QSize size = item->sizeHint();
        all = {all.width() + (all.width() > 0 ? spacing() : 0) + size.width(),
               std::max(all.height(), size.height())};
    }
    return all;
}

QSize WrapRow::minimumSize() const {
    QSize widest(0, 0);
    for (const auto& item : m_items)
        if (!item->isEmpty()) widest = widest.expandedTo(item->minimumSize());
    return widest;
}

void WrapRow::setGeometry(const QRect& rect) {
    QLayout::setGeometry(rect);
    place(rect, true);
}

int WrapRow::place(const QRect& rect, bool move) const {
    int top = rect.top();
    std::size_t next = 0;
    while (next < m_items.size()) {
        // As many as there is room for, and one at least; then each in the middle of the line's height.
        std::vector<QLayoutItem*> line;
        int used = 0, height = 0;
        for (; next < m_items.size(); ++next) {
            QLayoutItem* item = m_items[next].get();
            if (item->isEmpty()) continue;
            const int needed = item->sizeHint().width() + (line.empty() ? 0 : spacing());
            if (!line.empty() && used + needed > rect.width()) break;
            line.push_back(item);
            used += needed;
            height = std::max(height, item->sizeHint().height());
        }
        if (line.empty()) break;
        int left = rect.left();
        for (QLayoutItem* item : line) {
            const QSize size(std::min(item->sizeHint().width(), rect.width()), item->sizeHint().height());
            if (move) item->setGeometry({QPoint(left, top + (height - size.height()) / 2), size});
            left += size.width() + spacing();
        }
        top += height + spacing();
    }
    return std::max(0, top - spacing() - rect.top());
}

} // namespace cognitum
