// The logbook's time line as a drawing, on the screen and on paper: a lane for each reading, then recordings,
// calibrations, alerts, upkeep and notes, all over one time axis.
#pragma once

#include "session/archive/lanes.h"
#include "ui/theme.h"

#include <QCoreApplication>
#include <QPainter>
#include <functional>
#include <optional>
#include <span>

namespace cognitum {

/// What it refers to must outlive it.
class LanesPicture {
    Q_DECLARE_TR_FUNCTIONS(LanesPicture)

  public:
    const Theme& theme;
    const Bench& bench;
    const Lanes& lanes;
    Interval range;
    std::optional<Interval> stretch;
    QRectF box;

    void draw(QPainter& painter) const;
    [[nodiscard]] double labelWidth() const;
    [[nodiscard]] double axisHeight() const;
    [[nodiscard]] double xOf(TimeUs t) const;
    [[nodiscard]] TimeUs timeAt(double x) const; ///< the nearest in the range
    [[nodiscard]] double firstMarkLane() const;  ///< top of the lanes with marks of entries
    /// The session whose bar is there; nullptr: none.
    [[nodiscard]] const TimedSession* sessionAt(const QPointF& at) const;

  private:
    struct Row {
        double top = 0, height = 0;
    };
    [[nodiscard]] double markRow() const; ///< height of a lane of marks
    [[nodiscard]] Row readingRow(std::size_t lane) const;
    [[nodiscard]] Row markRowOf(int index) const;
    [[nodiscard]] std::span<const Summary> visible(const std::vector<Summary>& parts) const;
    void drawAxis(QPainter& painter) const;
    void drawLane(QPainter& painter, const Lane& lane, const Row& row) const;
    void drawCurve(QPainter& painter, const Lane& lane, const Reading& reading, const Row& row) const;
    void drawColumns(QPainter& painter, const Lane& lane, const Row& row) const;
    void drawShare(QPainter& painter, const Lane& lane, const Row& row) const;
    void drawSilence(QPainter& painter, const Lane& lane, const Row& row) const;
    void drawSessions(QPainter& painter, const Row& row) const;
    void drawRecorded(QPainter& painter, const Row& row) const;
    void drawEntries(QPainter& painter, const Row& row, const std::function<bool(const LogEntry&)>& belongs) const;
    void drawStretch(QPainter& painter) const;
};

} // namespace cognitum
