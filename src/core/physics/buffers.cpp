#include "core/physics/buffers.h"

#include "core/base/no_number.h"

#include <array>
#include <cmath>

namespace cognitum::physics {

namespace {

constexpr std::array<double, 8> temperatures = {0, 10, 20, 25, 30, 37, 40, 50};
struct Buffer {
    std::string_view name;
    std::array<double, 8> pH; ///< at those temperatures
};
constexpr std::array<Buffer, 3> buffers = {{
    {"phthalate", {4.000, 3.997, 4.001, 4.005, 4.011, 4.022, 4.027, 4.050}},
    {"phosphate", {6.984, 6.923, 6.881, 6.865, 6.853, 6.841, 6.838, 6.833}},
    {"borax", {9.464, 9.332, 9.225, 9.180, 9.139, 9.088, 9.068, 9.011}},
}};

} // namespace

double buffer_pH(std::string_view name, double theta) {
    for (const Buffer& buffer : buffers) {
        if (buffer.name != name) continue;
        for (std::size_t i = 1; i < temperatures.size(); ++i)
            if (theta >= temperatures[i - 1] && theta <= temperatures[i])
                return std::lerp(buffer.pH[i - 1], buffer.pH[i],
                                 (theta - temperatures[i - 1]) / (temperatures[i] - temperatures[i - 1]));
    }
    return no_number;
}

} // namespace cognitum::physics
