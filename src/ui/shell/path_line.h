// The chosen reading's path as one line across the top: seven stops with mark and live value. The line is solid as
// far as a fresh value travels and dashed from where it dies; the chosen stop opens downwards into the page.
#pragma once

#include "ui/context.h"
#include "ui/widgets/spoken.h"

#include <QWidget>

namespace cognitum {

class PathLine : public QWidget, public Spoken {
    Q_OBJECT

  public:
    explicit PathLine(Context& context, QWidget* parent = nullptr);
    void setStop(int stop);
    [[nodiscard]] int stop() const { return m_stop; }
    /// Rectangle of a stop, for tests and for the mouse.
    [[nodiscard]] QRect stopRect(int stop) const;
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QString spoken() const override;
    [[nodiscard]] QAccessible::Role spokenRole() const override { return QAccessible::PageTabList; }

  signals:
    void stopChosen(int stop);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void leaveEvent(QEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    static constexpr int none = -1,
                         next_step = -2; ///< in place of a stop: nothing, and the words about the next step
    void paintStop(QPainter& painter, int stop, const StopState& state);
    void paintNext(QPainter& painter, const PathState& state, int from);
    [[nodiscard]] int stopAt(const QPoint& point) const; ///< or one of those

    Context& m_context;
    QRect m_next; ///< of the next step; empty: there is none
    int m_stop = 0;
    int m_hover = none;
};

} // namespace cognitum
