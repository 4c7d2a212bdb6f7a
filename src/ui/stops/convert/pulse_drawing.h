// Pulses over time and what was made of them, drawn: see core/pulses/picture.h.
#pragma once

#include "core/pulses/picture.h"
#include "ui/theme.h"

#include <QWidget>

namespace cognitum {

class PulseDrawing : public QWidget {
    Q_OBJECT

  public:
    explicit PulseDrawing(Theme& theme, QWidget* parent = nullptr);
    void show(PulsePicture picture);
    [[nodiscard]] QSize sizeHint() const override;

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void paintPanel(QPainter& painter, const PulsePicture::Panel& panel, const QRectF& box);
    void paintSpans(QPainter& painter, const PulsePicture::Panel& panel, const QRectF& box);
    void paintTime(QPainter& painter, const QRectF& box);
    [[nodiscard]] double xOf(double at_s, const QRectF& box) const;

    Theme& m_theme;
    PulsePicture m_picture;
};

} // namespace cognitum
