// The readings of the bench as a list: mark, name, value; under them the band's word and the age.
#pragma once

#include "ui/context.h"

#include <QAbstractListModel>
#include <QStyledItemDelegate>

namespace cognitum {

class ReadingModel : public QAbstractListModel {
    Q_OBJECT

  public:
    enum Role { id_role = Qt::UserRole, value_role, word_role, mark_role };
    explicit ReadingModel(Context& context, QObject* parent = nullptr);

    [[nodiscard]] int rowCount(const QModelIndex& parent = {}) const override;
    [[nodiscard]] QVariant data(const QModelIndex& index, int role) const override;
    [[nodiscard]] int rowOf(const std::string& id) const;

  private:
    void update();

    struct Row {
        std::string id;
        QString name, value, word;
        Mark mark = Mark::not_begun;
        bool operator==(const Row&) const = default;
    };
    [[nodiscard]] std::vector<Row> rowsNow() const;

    Context& m_context;
    std::vector<Row> m_rows;
};

class ReadingDelegate : public QStyledItemDelegate {
    Q_OBJECT

  public:
    explicit ReadingDelegate(Theme& theme, QObject* parent = nullptr)
        : QStyledItemDelegate(parent), m_theme(theme) {}
    void paint(QPainter* painter, const QStyleOptionViewItem& option, const QModelIndex& index) const override;
    [[nodiscard]] QSize sizeHint(const QStyleOptionViewItem& option, const QModelIndex& index) const override;

  private:
    Theme& m_theme;
};

} // namespace cognitum
