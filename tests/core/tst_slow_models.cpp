// Searches and sums of the core against ones that are slow and obviously right, on drawn cases.
#include "core/bench/correction.h"
#include "core/calibrate/fit.h"
#include "core/physics/battery.h"
#include "core/physics/sun.h"
#include "core/physics/vessel.h"
#include "core/plan/electrical.h"
#include "core/uncertainty/budget.h"
#include "core/watch/bands.h"
#include "core/watch/window.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <functional>
#include <numbers>
#include <random>

using namespace cognitum;

namespace {

/// What a window of ten seconds should hold, and since when it has been full.
struct KeptSamples {
    std::vector<TimedNumber> held;
    bool covered = false;

    void take(TimeUs time, double value) {
        const std::size_t before = held.size();
        std::erase_if(held, [&](const TimedNumber& s) { return s.time < time - 10 * second_us; });
        if (held.size() < before) covered = true;
        if (held.empty()) covered = false;
        if (!held.empty() && held.front().time == time - 10 * second_us) covered = true;
        held.push_back({time, value});
    }
    [[nodiscard]] double range() const {
        double low = held.front().value, high = low;
        for (const TimedNumber& s : held)
            low = std::min(low, s.value), high = std::max(high, s.value);
        return high - low;
    }
    /// Least squares by the sums of the text books.
    [[nodiscard]] std::optional<double> slope() const {
        if (held.size() < 3 || held.back().time - held.front().time < 5 * second_us) return {};
        double n = 0, x = 0, y = 0, xx = 0, xy = 0;
        for (const TimedNumber& s : held) {
            const double t = seconds(s.time - held.back().time);
            n += 1, x += t, y += s.value, xx += t * t, xy += t * s.value;
        }
        return (n * xy - x * y) / (n * xx - x * x);
    }
};

/// Elevation of the sun's centre, degrees, by the low-precision formulas of the Astronomical Almanac (page C5):
/// 0.01° from 1950 to 2050.
double elevation_deg(TimeUs t, double latitude_deg, double longitude_deg) {
    constexpr double degree = std::numbers::pi / 180;
    const double n = seconds(t) / 86400 + 2440587.5 - 2451545.0;
    const double mean_longitude = 280.460 + 0.9856474 * n, anomaly = (357.528 + 0.9856003 * n) * degree;
    const double longitude = (mean_longitude + 1.915 * std::sin(anomaly) + 0.020 * std::sin(2 * anomaly)) * degree;
    const double obliquity = (23.439 - 0.0000004 * n) * degree;
    const double right_ascension = std::atan2(std::cos(obliquity) * std::sin(longitude), std::cos(longitude));
    const double declination = std::asin(std::sin(obliquity) * std::sin(longitude));
    const double sidereal = (280.46062 + 360.98564737 * n + longitude_deg) * degree; // at the place
    const double latitude = latitude_deg * degree;
    return std::asin(std::sin(latitude) * std::sin(declination) +
                     std::cos(latitude) * std::cos(declination) * std::cos(sidereal - right_ascension)) /
           degree;
}

} // namespace

class TestSlowModels : public QObject {
    Q_OBJECT

  private slots:
    /// Also after pauses that are longer than the window, and with samples that fall on its edge.
    void aWindowAgainstAllItsSamples() {
        TimeWindow window(10 * second_us);
        KeptSamples kept;
        std::mt19937 random(5);
        TimeUs t = 0;
        int slopes = 0, covered = 0, on_the_edge = 0;
        for (int i = 0; i < 4000; ++i) {
            t += static_cast<TimeUs>(random() % 60 == 0 ? 23 + random() % 3 : 1 + random() % 8) * second_us / 2;
            const auto value = static_cast<double>(random() % 1000);
            window.take(t, value);
            kept.take(t, value);
            CLOSE(window.range(), kept.range(), 0);
            CLOSE(window.gain(), kept.held.back().value - kept.held.front().value, 0);
            QCOMPARE(window.covered(), kept.covered);
            const auto slope = kept.slope();
            QCOMPARE(window.slope().has_value(), slope.has_value());
            if (slope) CLOSE(*window.slope(), *slope, 1e-9 * (1 + std::abs(*slope)));
            slopes += slope.has_value();
            covered += kept.covered;
            on_the_edge += kept.held.back().time - kept.held.front().time == 5 * second_us;
        }
        QVERIFY2(slopes > 1000 && slopes < 4000 && covered > 1000 && covered < 4000 && on_the_edge > 5,
                 qPrintable(QString("%1 %2 %3").arg(slopes).arg(covered).arg(on_the_edge)));
    }
    void aWindowWhoseClockWasSet() {
        TimeWindow window(10 * second_us), apart(10 * second_us);
        for (int i = 0; i < 30; ++i) {
            if (i == 20) window.shift(-3600 * second_us);
            window.take((i < 20 ? i : i - 3600) * second_us, i % 7);
            apart.take(i * second_us, i % 7);
            CLOSE(window.range(), apart.range(), 0);
            CLOSE(window.gain(), apart.gain(), 0);
            QCOMPARE(window.slope().has_value(), apart.slope().has_value());
            if (apart.slope()) CLOSE(*window.slope(), *apart.slope(), 1e-12);
        }
    }
    /// No pair of the series that does what is asked has a higher output, and none that is as high is nearer to 5
    /// kΩ.
    void aDividerAgainstEveryPair() {
        std::mt19937 random(8);
        const auto drawn = [&](double low, double high) {
            return low + (high - low) * static_cast<double>(random() % 10001) / 10000;
        };
        int twelve = 0, more = 0, none = 0;
        for (int i = 0; i < 200; ++i) {
            const double input = drawn(3.5, 24), limit = drawn(1, 3.6);
            const DividerAsk ask{input, drawn(1, 1.1) * input,    drawn(0.9, 1) * input,
                                 limit, drawn(0.5, 0.95) * limit, random() % 3 ? 0 : drawn(2e4, 2e6)};
            const auto choice = choose_divider(ask);
            // The best of each series: among outputs as high as the highest the one nearest to 5 kΩ.
            const auto off = [](const LevelDivider& d) {
                return std::abs(std::log((d.top_ohm + d.bottom_ohm) / 5e3));
            };
            const auto best_of = [&](int series) {
                std::vector<LevelDivider> pairs;
                double highest = 0;
                for (const double a : e_series(series))
                    for (const double b : e_series(series))
                        for (const double top : {a * 1e3, a * 1e4})
                            for (const double bottom : {b * 1e3, b * 1e4}) {
                                if (top + bottom < 3e3 || top + bottom > 30e3) continue;
                                bool holds = true;
                                for (const double up : {0.99, 1.01})
                                    for (const double down : {0.99, 1.01}) {
                                        const LevelDivider real{top * up, bottom * down};
                                        holds = holds &&
                                                loaded_output(real, ask.highest_V, ask.load_ohm) <= limit &&
                                                loaded_output(real, ask.lowest_V, ask.load_ohm) >= ask.floor_V;
                                    }
                                if (!holds) continue;
                                pairs.push_back({top, bottom});
                                highest = std::max(highest, loaded_output(pairs.back(), input, ask.load_ohm));
                            }
                std::optional<LevelDivider> best;
                for (const LevelDivider& pair : pairs)
                    if (loaded_output(pair, input, ask.load_ohm) >= highest - 0.004 * limit &&
                        (!best || off(pair) < off(*best) - 1e-9))
                        best = pair;
                return best;
            };
            const auto output = [&](const LevelDivider& d) { return loaded_output(d, input, ask.load_ohm); };
            const auto coarse = best_of(12), fine = best_of(24);
            const bool is_coarse = coarse && (output(*coarse) >= 0.9 * limit || !fine);
            QCOMPARE(choice.has_value(), coarse || fine);
            none += !choice;
            if (!choice) continue;
            QCOMPARE(choice->series, is_coarse ? 12 : 24);
            ++(is_coarse ? twelve : more);
            const LevelDivider& wanted = is_coarse ? *coarse : *fine;
            CLOSE(choice->output_V, output(wanted), 0.004 * limit);
            CLOSE(off(choice->divider), off(wanted), 1e-9);
            CLOSE(choice->output_V, output(choice->divider), 1e-12);
            CLOSE(choice->margin, 1 - choice->worst_V / limit, 1e-12);
        }
        QVERIFY2(twelve > 20 && more > 5 && none > 5,
                 qPrintable(QString("%1 %2 %3").arg(twelve).arg(more).arg(none)));
    }
    /// Straight between the knots; beyond them it grows as over the last piece, and never shrinks.
    void theDoubtOfACurve() {
        AppliedCorrection c;
        c.u_reference = 0.03;
        c.curve = {{0, 1, 0.04}, {10, 12, 0.02}, {30, 33, 0.06}, {40, 41, 0.05}};
        const std::vector<std::pair<double, double>> by_hand = {{-20, 0.08}, {-5, 0.05}, {0, 0.04},  {5, 0.03},
                                                                {9, 0.022},  {10, 0.02}, {15, 0.03}, {30, 0.06},
                                                                {34, 0.056}, {40, 0.05}, {50, 0.05}, {90, 0.05}};
        for (const auto& [x, u] : by_hand)
            CLOSE(correction_u(c, x), std::hypot(u, 0.03), 1e-12);
        std::reverse(c.curve.begin(), c.curve.end()); // shrinks to the left, grows to the right
        for (CurveKnot& knot : c.curve)
            knot.indication = 40 - knot.indication, knot.reference = 41 - knot.reference;
        for (const auto& [x, u] : by_hand)
            CLOSE(correction_u(c, 40 - x), std::hypot(u, 0.03), 1e-12);
        c.curve.resize(2);
        CLOSE(correction_u(c, 5), std::hypot(0.055, 0.03), 1e-12);
        CLOSE(correction_u(c, 20), std::hypot(0.07, 0.03), 1e-12);
        // Two of three variances are the references', which hold for ever: ν = ν_fit · (u / u_fit)⁴ (JCGM 100,
        // G.4).
        AppliedCorrection line;
        line.var_offset = 1e-4;
        line.u_reference = std::sqrt(2e-4);
        line.dof = 4;
        CLOSE(correction_dof(line, 7), 36, 1e-9);
        line.var_gain = 1e-6;
        line.covariance = -5e-6;
        CLOSE(correction_u(line, 7), std::sqrt(1e-4 + 2e-4 - 70e-6 + 49e-6), 1e-12);
        line.dof = 0;
        QVERIFY(std::isinf(correction_dof(line, 7)));
    }
    /// Warned of exactly where the means of the two runs differ by more than t times the doubt of their difference.
    void runsThatDiffer() {
        std::mt19937 random(4);
        std::normal_distribution<double> scatter(0, 0.1);
        int warned = 0, quiet = 0, too_few = 0;
        for (int i = 0; i < 400; ++i) {
            std::vector<FitPoint> points;
            const double apart = 0.02 * static_cast<double>(random() % 10);
            for (int k = 0; k < 9; ++k) {
                FitPoint p{double(k), 3 + 0.5 * k + scatter(random), 0, 0};
                p.run = static_cast<int>(random() % 3) - 1;
                p.reference += apart * p.run;
                points.push_back(p);
            }
            VALUE_OF(fit, fit_model(points, Model::line));
            std::array<std::vector<double>, 2> runs; // falling, rising
            for (std::size_t k = 0; k < points.size(); ++k)
                if (points[k].run != 0) runs[points[k].run > 0].push_back(fit.residuals[k]);
            bool differ = false;
            if (runs[0].size() < 2 || runs[1].size() < 2) {
                ++too_few;
            } else {
                std::array<double, 2> mean{};
                double squares = 0;
                for (const std::size_t r : {0u, 1u}) {
                    for (const double v : runs[r])
                        mean[r] += v / double(runs[r].size());
                    for (const double v : runs[r])
                        squares += (v - mean[r]) * (v - mean[r]);
                }
                const double dof = double(runs[0].size() + runs[1].size()) - 2;
                const double u =
                    std::sqrt(squares / dof * (1 / double(runs[0].size()) + 1 / double(runs[1].size())));
                differ = std::abs(mean[1] - mean[0]) > coverage_factor(dof) * u;
                ++(differ ? warned : quiet);
            }
            bool said = false;
            for (const std::string& warning : fit.warnings)
                said = said || warning.find("rising and falling") != std::string::npos;
            QCOMPARE(said, differ);
        }
        QVERIFY(warned > 50 && quiet > 50 && too_few > 20);
    }
    /// The charge of a hundred intervals, counted one by one.
    void aBatteryDayByDay() {
        physics::BatteryUse use{2000, 0.05, 80, 4, 300, 0.1, 0.2};
        VALUE_OF(life, physics::battery_life(use));
        const double board_mAh = (4 * 80 + 296 * 0.05) / 3600,
                     self_mAh = 2000 * 0.1 * 300 / (365.25 * 86400); // an interval
        double left = 2000 * 0.8;
        int intervals = 0;
        for (; left > 0; ++intervals)
            left -= board_mAh + self_mAh;
        CLOSE(life.days, intervals * 300.0 / 86400, 300.0 / 86400);
        CLOSE(life.average_mA, board_mAh * 3600 / 300, 1e-9);
        CLOSE(life.self_discharge_share, self_mAh / (board_mAh + self_mAh), 1e-9);
        CLOSE(life.active_share, 4 * 80 / 3600.0 / (board_mAh + self_mAh), 1e-9);
        CLOSE(life.sleep_share + life.active_share + life.self_discharge_share, 1, 1e-12);
        const auto refused = [&](double physics::BatteryUse::*member, double last, double beyond) {
            physics::BatteryUse other = use;
            other.*member = last;
            const bool taken = physics::battery_life(other).has_value();
            other.*member = beyond;
            return taken && !physics::battery_life(other);
        };
        using Use = physics::BatteryUse;
        QVERIFY(refused(&Use::capacity_mAh, 1e-3, 0) && refused(&Use::interval_s, 4, 3.999) &&
                refused(&Use::active_s, 0, -1e-9));
        QVERIFY(refused(&Use::active_s, 300, 300.001) && refused(&Use::self_discharge_per_year, 12, 12.01));
        QVERIFY(refused(&Use::self_discharge_per_year, 0, -1e-9) && refused(&Use::reserve, 0, -1e-9) &&
                refused(&Use::reserve, 0.999, 1));
        QVERIFY(refused(&Use::sleep_mA, 0, -1e-9) && refused(&Use::active_mA, 0, -1e-9));
        QVERIFY(!physics::battery_life({2000, 0, 0, 4, 300, 0, 0})); // nothing draws: no end to be told
    }
    /// What is drawn of a vessel is what its litres are computed from: the section's width, squared or times the
    /// length, is the slope of the volume.
    void theWidthsOfVessels() {
        using namespace physics;
        const auto shape = [](VesselKind kind, double diameter, double length, double width, double height) {
            VesselShape out;
            out.kind = kind;
            out.diameter_m = diameter, out.length_m = length, out.width_m = width, out.height_m = height;
            return out;
        };
        constexpr double pi = std::numbers::pi;
        using Area = std::function<double(double)>; // of the water, from the width
        const std::vector<std::pair<VesselShape, Area>> vessels = {
            {shape(VesselKind::box, 0, 1.2, 0.7, 0.9), [](double w) { return 1.2 * w; }},
            {shape(VesselKind::upright_cylinder, 0.8, 0, 0, 0.9), [](double w) { return pi / 4 * w * w; }},
            {shape(VesselKind::cone, 0.8, 0, 0, 0.9), [](double w) { return pi / 4 * w * w; }},
            {shape(VesselKind::frustum, 0.5, 0, 0.8, 0.9), [](double w) { return pi / 4 * w * w; }},
            {shape(VesselKind::frustum, 0.8, 0, 0.5, 0.9), [](double w) { return pi / 4 * w * w; }},
            {shape(VesselKind::sphere, 0.8, 0, 0, 0), [](double w) { return pi / 4 * w * w; }},
            {shape(VesselKind::lying_cylinder, 0.8, 1.3, 0, 0), [](double w) { return 1.3 * w; }},
            {shape(VesselKind::lying_oval, 0, 1.3, 0.9, 0.6), [](double w) { return 1.3 * w; }},
        };
        for (const auto& [vessel, area] : vessels) {
            const auto sound = check_vessel(vessel);
            QVERIFY2(sound.has_value(), sound ? "" : sound.error().text().c_str());
            const double height = vessel_height(vessel);
            for (const double part : {0.1, 0.35, 0.5, 0.8, 0.95}) {
                const double h = part * height, d = 1e-5;
                const double slope = (vessel_volume(vessel, h + d) - vessel_volume(vessel, h - d)) / (2 * d) / 1000;
                QVERIFY2(
                    std::abs(area(vessel_width(vessel, h)) - slope) < 1e-4,
                    qPrintable(QString::fromStdString(vessel_name(vessel.kind)) + QString(" at %1").arg(part)));
                CLOSE(vessel_litres_per_mm(vessel, h), slope, 1e-3);
                CLOSE(vessel_level(vessel, vessel_volume(vessel, h)), h, 1e-6);
            }
            QVERIFY(std::isnan(vessel_width(vessel, -0.01)) && std::isnan(vessel_width(vessel, height + 0.01)));
            QVERIFY(!std::isnan(vessel_width(vessel, 0)) && !std::isnan(vessel_width(vessel, height)));
        }
    }
    /// Rise and set against the sun's height, looked at in each minute of the day.
    void theSunAgainstItsHeight() {
        int rises = 0, days_without = 0, days = 0;
        const TimeUs first = *parse_time("2026-01-01");
        for (const auto& [latitude, longitude] : {std::pair(0.0, 0.0),
                                                  {50.1, -5.2},
                                                  {-41.0, 174.0},
                                                  {64.0, -180.0},
                                                  {-64.9, 180.0},
                                                  {21.0, -158.0},
                                                  {69.0, 18.0},
                                                  {-70.0, 60.0}})
            for (int day = 0; day < 365; day += 13, ++days) {
                const TimeUs midnight = first + day * day_us;
                std::optional<TimeUs> rise, set;
                bool was_up = elevation_deg(midnight, latitude, longitude) >= -0.833;
                const bool up_at_first = was_up;
                for (int minute = 1; minute <= 1440; ++minute) {
                    const TimeUs t = midnight + minute * 60 * second_us;
                    const bool up = elevation_deg(t, latitude, longitude) >= -0.833;
                    if (up != was_up) (up ? rise : set) = t - 30 * second_us;
                    was_up = up;
                }
                const physics::SunTimes times =
                    physics::sun_times(midnight + (day % 3) * day_us / 3 + (day % 3), latitude, longitude);
                const QByteArray where = QByteArray::number(latitude) + " " + QByteArray::number(day);
                if (!rise && !set) {
                    ++days_without;
                    QVERIFY2(!times.sunrise && !times.sunset && times.always_up == up_at_first &&
                                 times.never_up == !up_at_first,
                             where);
                    continue;
                }
                // Where the sun crosses the horizon at a shallow angle, a hundredth of a degree is minutes.
                const double within = std::abs(latitude) > 66 ? 6 * 60 : std::abs(latitude) > 60 ? 100 : 65;
                for (const auto& [said, seen] : {std::pair(times.sunrise, rise), {times.sunset, set}}) {
                    QVERIFY2(said.has_value() == seen.has_value(), where);
                    if (seen) QVERIFY2(std::abs(seconds(*said - *seen)) < within, where);
                    rises += seen.has_value();
                }
            }
        QVERIFY2(rises > 300 && days_without > 10,
                 qPrintable(QString("%1 %2 of %3").arg(rises).arg(days_without).arg(days)));
        for (const auto& [latitude, longitude] :
             {std::pair(91.0, 0.0), {-90.1, 0.0}, {0.0, 180.5}, {0.0, -181.0}}) {
            const physics::SunTimes nowhere = physics::sun_times(first, latitude, longitude);
            QVERIFY(!nowhere.sunrise && !nowhere.sunset && !nowhere.always_up && !nowhere.never_up);
        }
        QVERIFY(physics::sun_times(*parse_time("2026-06-21"), 90, 0).always_up);
        QVERIFY(physics::sun_times(*parse_time("2026-06-21"), -90, 0).never_up);
    }
};

RUN_TESTS_OF(TestSlowModels)
#include "tst_slow_models.moc"
