// The logbook's time line: a lane for each chosen reading, then recordings, calibrations, alerts, upkeep and notes,
// all over one time axis. It zooms and pans by mouse and keys, and takes a stretch of time.
#pragma once

#include "ui/context.h"
#include "ui/pages/logbook/lanes_picture.h"
#include "ui/widgets/spoken.h"

#include <QWidget>
#include <optional>

namespace cognitum {

class TimeLanes : public QWidget, public Spoken {
    Q_OBJECT

  public:
    TimeLanes(Context& context, QWidget* parent);

    void setRange(TimeUs from, TimeUs to);
    [[nodiscard]] Interval range() const { return m_range; }
    /// What can be shown at the most: panning and zooming end there.
    void setLimits(const Interval& limits) { m_limits = limits; }
    void setLanes(const Lanes& lanes);
    [[nodiscard]] const Lanes& lanes() const { return m_lanes; }
    [[nodiscard]] QString spoken() const override;
    [[nodiscard]] QAccessible::Role spokenRole() const override { return QAccessible::Chart; }

    [[nodiscard]] const std::optional<Interval>& stretch() const { return m_stretch; }
    void takeStretch(std::optional<Interval> stretch);

    [[nodiscard]] QSize sizeHint() const override;
    [[nodiscard]] QSize minimumSizeHint() const override;

  signals:
    void rangeChanged();   ///< by the person
    void stretchChanged(); ///< taken, or left
    void entryClicked(qint64 id);
    void cursorMoved(const QString& text);

  protected:
    void paintEvent(QPaintEvent* event) override;
    void mousePressEvent(QMouseEvent* event) override;
    void mouseMoveEvent(QMouseEvent* event) override;
    void mouseReleaseEvent(QMouseEvent* event) override;
    void wheelEvent(QWheelEvent* event) override;
    void keyPressEvent(QKeyEvent* event) override;

  private:
    enum class Drag { none, pan, stretch };
    [[nodiscard]] LanesPicture picture() const;
    void moveTo(TimeUs from, TimeUs to);
    void zoom(double factor, TimeUs around);
    void say(TimeUs at);

    Context& m_context;
    Interval m_range, m_limits;
    Lanes m_lanes;
    std::optional<Interval> m_stretch;
    std::optional<TimeUs> m_cursor; ///< of the keys
    TimeUs m_anchor = 0;            ///< where a stretch began
    Drag m_drag = Drag::none;
    Interval m_drag_range;
    double m_drag_x = 0;
    bool m_moved = false;
};

} // namespace cognitum
