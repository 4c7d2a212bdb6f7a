// The vessel under a ranger, drawn to scale from its typed sizes: section, sensor, dead zone, beam against the
// wall, full, empty and what is in it now. And a rain gauge's funnel with its bucket.
#pragma once

#include "ui/context.h"
#include "ui/widgets/spoken.h"

#include <QWidget>

namespace cognitum {

class VesselDrawing : public QWidget, public Spoken {
    Q_OBJECT

  public:
    explicit VesselDrawing(Context& context, QWidget* parent = nullptr);
    [[nodiscard]] QSize sizeHint() const override;
    /// Litres per millimetre now and where it is worst, and what stands against the sensor there.
    [[nodiscard]] QString words() const;
    [[nodiscard]] QString spoken() const override { return words(); }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    /// Level now, mm above the bottom; NaN: not known.
    [[nodiscard]] double levelNow() const;
    Context& m_context;
};

class FunnelDrawing : public QWidget, public Spoken {
    Q_OBJECT

  public:
    explicit FunnelDrawing(Context& context, QWidget* parent = nullptr);
    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QString words() const;
    [[nodiscard]] QString spoken() const override { return words(); }

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    Context& m_context;
};

} // namespace cognitum
