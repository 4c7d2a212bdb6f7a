// Whether the sun is down at a place, by computed times.
#pragma once

#include "core/base/time.h"
#include "core/bench/geo_place.h"

namespace cognitum {

/// Night lasts from `margin_min` minutes after sunset to as many before sunrise (physics/sun.h). Where the sun does
/// not set or rise that day it is day, or night, all of it. Remembers until when its last answer holds.
class Night {
  public:
    Night(const GeoPlace& where, double margin_min) : m_where(where), m_margin(from_seconds(60 * margin_min)) {}
    bool operator()(TimeUs t);

  private:
    GeoPlace m_where;
    TimeUs m_margin;
    TimeUs m_from = 0, m_to = 0; ///< the answer holds in between, `to` excluded
    bool m_dark = false;
};

} // namespace cognitum
