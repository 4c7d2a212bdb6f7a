#include "core/physics/salts.h"

#include "core/base/no_number.h"
#include "core/physics/table.h"

namespace cognitum::physics {

namespace {

struct Salt {
    const char* name;
    double doubt_percent;
    std::vector<double> percent; ///< at 0, 5, 10 … °C
};

const std::vector<Salt>& salts() {
    static const std::vector<Salt> all = {
        {"lithium-chloride", 0.27, {11.23, 11.26, 11.29, 11.30, 11.31, 11.30, 11.28, 11.25, 11.21}},
        {"magnesium-chloride", 0.16, {33.66, 33.60, 33.47, 33.30, 33.07, 32.78, 32.44, 32.05, 31.60}},
        {"potassium-carbonate", 0.39, {43.13, 43.13, 43.14, 43.15, 43.16, 43.16, 43.17}},
        {"magnesium-nitrate", 0.22, {60.35, 58.86, 57.36, 55.87, 54.38, 52.89, 51.40, 49.91, 48.42}},
        {"sodium-chloride", 0.12, {75.51, 75.65, 75.67, 75.61, 75.47, 75.29, 75.09, 74.87, 74.68}},
        {"potassium-chloride", 0.26, {88.61, 87.67, 86.77, 85.92, 85.11, 84.34, 83.62, 82.95, 82.32}},
        {"potassium-nitrate", 0.55, {96.33, 96.27, 95.96, 95.41, 94.62, 93.58, 92.31, 90.79, 89.03}},
        {"potassium-sulfate", 0.45, {98.77, 98.48, 98.18, 97.89, 97.59, 97.30, 97.00, 96.71, 96.41}},
    };
    return all;
}

const Salt* find(std::string_view name) {
    for (const Salt& salt : salts())
        if (salt.name == name) return &salt;
    return nullptr;
}

} // namespace

double salt_humidity(std::string_view name, double theta) {
    const Salt* salt = find(name);
    return salt ? interpolate_even(salt->percent, 0, 5, theta) / 100 : no_number;
}

double salt_humidity_doubt(std::string_view name) {
    const Salt* salt = find(name);
    return salt ? salt->doubt_percent / 100 : no_number;
}

std::vector<std::string> salt_names() {
    std::vector<std::string> out;
    for (const Salt& salt : salts())
        out.emplace_back(salt.name);
    return out;
}

} // namespace cognitum::physics
