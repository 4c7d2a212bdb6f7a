// The loom on the screen: fits its width, zooms with Ctrl and the wheel or with + and −.
#pragma once

#include "core/plan/loom/loom.h"
#include "ui/theme.h"

#include <QScrollArea>

namespace cognitum {

class LoomView : public QScrollArea {
    Q_OBJECT

  public:
    explicit LoomView(Theme& theme, QWidget* parent = nullptr);
    void setLoom(Loom loom, int current_wire);
    [[nodiscard]] const Loom& loom() const { return m_loom; }
    /// Times the fitting size; 1: fits the width.
    [[nodiscard]] double zoom() const { return m_zoom; }
    void setZoom(double zoom);

  protected:
    void wheelEvent(QWheelEvent* event) override;
    void resizeEvent(QResizeEvent* event) override;
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void paintSheet();
    void fit();

    Theme& m_theme;
    Loom m_loom;
    QWidget* m_sheet;
    int m_current = 0;
    double m_zoom = 1, m_scale = 1;
};

} // namespace cognitum
