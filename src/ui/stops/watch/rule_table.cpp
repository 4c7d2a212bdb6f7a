#include "ui/stops/watch/rule_table.h"

#include "ui/widgets/parts.h"

#include <QHeaderView>
#include <QKeyEvent>
#include <QStyledItemDelegate>
#include <algorithm>

namespace cognitum {

namespace {

enum Role { upper_role = Qt::UserRole, lower_role, mark_role, tone_role };
enum Tone { plain, calm, live, loud };
constexpr double row_height = 48;

/// Two lines: what it is, and below, smaller, what belongs to it.
class TwoLines : public QStyledItemDelegate {
  public:
    TwoLines(Theme& theme, QObject* parent) : QStyledItemDelegate(parent), m_theme(theme) {}

    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override {
        const Tokens& t = m_theme.colours();
        painter->save();
        if (option.state & QStyle::State_Selected) painter->fillRect(option.rect, t.tint);
        painter->setPen(m_theme.pen(t.rule));
        painter->drawLine(option.rect.bottomLeft(), option.rect.bottomRight());
        QRect text = option.rect.adjusted(m_theme.px(4), m_theme.px(5), -m_theme.px(6), -m_theme.px(4));
        if (const QVariant mark = index.data(mark_role); mark.isValid()) {
            paint_mark(*painter, m_theme, QPointF(text.topLeft()) + QPointF(m_theme.px(6), m_theme.px(9)),
                       m_theme.px(10), static_cast<Mark>(mark.toInt()));
            text.setLeft(text.left() + m_theme.px(20));
        }
        const bool numbers = index.column() == 2;
        const auto tone = static_cast<Tone>(index.data(tone_role).toInt());
        painter->setFont(numbers ? m_theme.mono(13) : m_theme.text(13, index.column() == 0));
        painter->setPen(tone == loud && numbers ? t.look : tone == calm ? t.soft : t.ink);
        line(*painter, text, index.data(upper_role).toString());
        text.setTop(text.top() + m_theme.px(20));
        painter->setFont(m_theme.text(12));
        painter->setPen(tone == live ? t.accent : tone == loud ? t.look : t.soft);
        line(*painter, text, index.data(lower_role).toString());
        painter->restore();
    }
    [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem&, const QModelIndex&) const override {
        return {m_theme.px(120), m_theme.px(row_height)};
    }

  private:
    static void line(QPainter& painter, const QRect& where, const QString& text) {
        painter.drawText(where, Qt::AlignLeft | Qt::AlignTop,
                         painter.fontMetrics().elidedText(text, Qt::ElideRight, where.width()));
    }
    Theme& m_theme;
};

} // namespace

RuleTable::RuleTable(Theme& theme, QWidget* parent) : QTableWidget(0, 3, parent), m_theme(theme) {
    setObjectName(QStringLiteral("watchRules"));
    setAccessibleName(tr("Rules of this reading"));
    setItemDelegate(new TwoLines(theme, this));
    setHorizontalHeaderLabels({tr("Rule"), tr("When"), tr("On the record")});
    verticalHeader()->setVisible(false);
    verticalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    horizontalHeader()->setSectionResizeMode(1, QHeaderView::Stretch);
    horizontalHeader()->setHighlightSections(false);
    horizontalHeader()->setDefaultAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    setEditTriggers(QAbstractItemView::NoEditTriggers);
    setSelectionBehavior(QAbstractItemView::SelectRows);
    setSelectionMode(QAbstractItemView::SingleSelection);
    setShowGrid(false);
    setTabKeyNavigation(false);
    setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    connect(this, &QTableWidget::cellDoubleClicked, this,
            [this] { emit opened(QString::fromStdString(chosen())); });
}

void RuleTable::setRows(const std::vector<RuleRow>& rows) {
    if (rows == m_rows && rowCount() == static_cast<int>(rows.size())) return;
    const std::string before = chosen();
    m_rows = rows;
    const QSignalBlocker quiet(this);
    setRowCount(static_cast<int>(rows.size()));
    for (int i = 0; i < rowCount(); ++i) {
        const RuleRow& row = rows[static_cast<std::size_t>(i)];
        const bool off = row.state == tr("off");
        const auto cell = [&](int column, const QString& upper, const QString& lower, Tone tone) {
            auto* item = new QTableWidgetItem(upper + QStringLiteral(", ") + lower); // for who listens
            item->setData(upper_role, upper);
            item->setData(lower_role, lower);
            item->setData(tone_role, tone);
            item->setToolTip(upper + QLatin1Char('\n') + lower);
            setItem(i, column, item);
            return item;
        };
        cell(0, row.name, row.state,
             off          ? calm
             : row.raised ? loud
                          : live)
            ->setData(mark_role, static_cast<int>(row.mark));
        cell(1, row.when, row.how, off ? calm : plain);
        cell(2, row.spoke, row.about, row.too_often ? loud : plain);
    }
    choose(before);
    const int shown = std::clamp(rowCount(), 1, 4);
    setFixedHeight(horizontalHeader()->sizeHint().height() + shown * m_theme.px(row_height) + m_theme.px(2));
}

std::string RuleTable::chosen() const {
    const int row = currentRow();
    return row >= 0 && row < static_cast<int>(m_rows.size()) ? m_rows[static_cast<std::size_t>(row)].id
                                                             : std::string();
}

void RuleTable::choose(const std::string& id) {
    for (int i = 0; i < rowCount(); ++i)
        if (m_rows[static_cast<std::size_t>(i)].id == id) return selectRow(i);
    if (rowCount() > 0) selectRow(0);
}

void RuleTable::resizeEvent(QResizeEvent* event) {
    QTableWidget::resizeEvent(event);
    const int w = viewport()->width();
    setColumnWidth(0, std::clamp(w * 24 / 100, m_theme.px(124), m_theme.px(180)));
    setColumnWidth(2, std::clamp(w * 22 / 100, m_theme.px(112), m_theme.px(160)));
}

void RuleTable::keyPressEvent(QKeyEvent* event) {
    if (event->key() == Qt::Key_Return || event->key() == Qt::Key_Enter) {
        emit opened(QString::fromStdString(chosen()));
        return;
    }
    QTableWidget::keyPressEvent(event);
}

} // namespace cognitum
