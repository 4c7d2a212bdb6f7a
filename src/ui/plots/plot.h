// The one style of all charts: thin horizontal rules, an ink line, small labels, no frame and no legend.
#pragma once

#include "core/base/time.h"
#include "ui/theme.h"
#include "ui/widgets/spoken.h"

#include <qcustomplot.h>

namespace cognitum {

class Plot : public QCustomPlot, public Spoken {
    Q_OBJECT

  public:
    explicit Plot(Theme& theme, QWidget* parent = nullptr);
    /// Time at the bottom, in the desktop's zone; the axis counts seconds since 1970.
    void useTimeAxis();
    /// A label in plot coordinates, in the theme's small text.
    QCPItemText* addLabel(const QString& text, const QColor& colour);
    /// The vertical axis' unit, lying, above its numbers.
    void setYUnit(const QString& unit);
    /// What it shows changed: it is drawn again when it is seen, once for all changes until then.
    void drawLater();
    [[nodiscard]] Theme& theme() const { return m_theme; }
    /// Where each line begins and ends, and its least and most, within what is shown.
    [[nodiscard]] QString spoken() const override;
    [[nodiscard]] QAccessible::Role spokenRole() const override { return QAccessible::Chart; }

  signals:
    void restyled(); ///< after the theme changed: set the pens of graphs again

  protected:
    /// The base draws at each size that a layout tries; here only the last is drawn.
    void resizeEvent(QResizeEvent*) override { drawLater(); }
    void paintEvent(QPaintEvent* event) override;

  private:
    void restyle();
    Theme& m_theme;
    QCPItemText* m_y_unit = nullptr;
    bool m_is_time = false;
    bool m_stale = true; ///< the drawing is older than what it shows
};

/// Range that holds [low, high] with some air, at least `smallest` wide.
QCPRange comfortable_range(double low, double high, double smallest);

} // namespace cognitum
