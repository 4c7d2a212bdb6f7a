// Where something stands on the earth.
#pragma once

namespace cognitum {

struct GeoPlace {
    double latitude_deg = 0;  ///< −90…90, north positive
    double longitude_deg = 0; ///< −180…180, east positive
    bool operator==(const GeoPlace&) const = default;
};

} // namespace cognitum
