// A reading drawn as what it is, small enough for a row: the vessel in its own shape, rain as columns, a
// thermometer against its band, beds beside each other, a door, a tyre, a wave. Dashed where there is no fresh
// value.
#pragma once

#include "core/bench/bench.h"
#include "session/archive/recorded.h"
#include "ui/theme.h"

#include <QPainter>
#include <span>
#include <vector>

namespace cognitum {

struct ReadingPicture {
    const Reading* reading = nullptr;
    std::vector<double> values = {}; ///< more than one: beds beside each other; NaN: none
    const DayFigures* day = nullptr; ///< of the last 24 hours; null: not known
    std::vector<double> wave = {};   ///< the last seconds of the signal behind it
    [[nodiscard]] double value() const { return values.empty() ? no_number : values.front(); }
};

void paint_reading(QPainter& painter, const Theme& theme, const QRectF& box, const ReadingPicture& picture);

} // namespace cognitum
