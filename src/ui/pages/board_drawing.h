// A board drawn with who sits on its pins and what hangs on its rails: see core/plan/board_picture.h. A click, or
// Return, on a pin opens its reading.
#pragma once

#include "core/plan/board_picture.h"
#include "ui/theme.h"

#include <QWidget>
#include <vector>

namespace cognitum {

class BoardDrawing : public QWidget {
    Q_OBJECT

  public:
    explicit BoardDrawing(Theme& theme, QWidget* parent = nullptr);
    void show(BoardPicture picture);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override;
    /// Label of the chosen pin; empty: none.
    [[nodiscard]] QString chosen() const;

  signals:
    void readingWanted(const QString& id);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;
    bool event(QEvent* event) override;

  private:
    struct Place {
        const PicturedPin* pin;
        bool left;
        QRectF row; ///< from the board's edge outwards
    };
    [[nodiscard]] std::vector<Place> places() const;
    [[nodiscard]] QRectF boardBox() const;
    [[nodiscard]] int placeAt(const QPointF& at) const;
    void paintRails(QPainter& painter);
    void paintPin(QPainter& painter, const Place& place, bool chosen, bool hovered);

    Theme& m_theme;
    BoardPicture m_picture;
    int m_chosen = -1, m_hover = -1; ///< of places()
};

} // namespace cognitum
