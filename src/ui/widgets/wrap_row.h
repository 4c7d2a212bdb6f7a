// A row of small parts that goes on in a second line where there is no room for all in one.
#pragma once

#include <QLayout>
#include <memory>
#include <vector>

namespace cognitum {

class WrapRow : public QLayout {
    Q_OBJECT

  public:
    /// `between`: pixels between parts, and between lines.
    explicit WrapRow(int between);
    ~WrapRow() override;
    /// Words and their fields, which stay in one line.
    void addTogether(const std::vector<QWidget*>& parts);
    void addItem(QLayoutItem* item) override;
    [[nodiscard]] int count() const override { return static_cast<int>(m_items.size()); }
    [[nodiscard]] QLayoutItem* itemAt(int index) const override;
    QLayoutItem* takeAt(int index) override;
    [[nodiscard]] Qt::Orientations expandingDirections() const override { return {}; }
    [[nodiscard]] bool hasHeightForWidth() const override { return true; }
    [[nodiscard]] int heightForWidth(int width) const override { return place(QRect(0, 0, width, 0), false); }
    /// All in one line.
    [[nodiscard]] QSize sizeHint() const override;
    /// The widest part.
    [[nodiscard]] QSize minimumSize() const override;
    void setGeometry(const QRect& rect) override;

  private:
    /// The height that the lines take, pixels; moves the parts there when they are to be moved.
    int place(const QRect& rect, bool move) const;
    std::vector<std::unique_ptr<QLayoutItem>> m_items;
};

} // namespace cognitum
