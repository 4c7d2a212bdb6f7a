#include "core/analyse/spectrum.h"

#include "core/analyse/statistics.h"

#include <algorithm>
#include <cmath>
#include <gsl/gsl_fft_real.h>
#include <memory>
#include <numbers>

namespace cognitum {

namespace {

constexpr double two_pi = 2 * std::numbers::pi;

std::vector<double> without_line(std::span<const double> t, std::span<const double> y) {
    const LineFit line = fit_line(t, y);
    std::vector<double> out(y.size());
    for (std::size_t i = 0; i < y.size(); ++i)
        out[i] = y[i] - line.intercept - line.slope * t[i];
    return out;
}

double sum_of_squares(std::span<const double> v) {
    double out = 0;
    for (const double x : v)
        out += x * x;
    return out;
}

/// Takes the part along each of the columns out of y, one after the other, after making the columns orthogonal
/// (modified Gram–Schmidt). Returns how many columns stood for themselves.
int project_out(std::vector<std::vector<double>>& columns, std::vector<double>& y) {
    int used = 0;
    for (std::size_t k = 0; k < columns.size(); ++k) {
        std::vector<double>& c = columns[k];
        const double before = sum_of_squares(c);
        for (std::size_t j = 0; j < k; ++j) {
            double dot = 0;
            for (std::size_t i = 0; i < c.size(); ++i)
                dot += c[i] * columns[j][i];
            for (std::size_t i = 0; i < c.size(); ++i)
                c[i] -= dot * columns[j][i];
        }
        const double norm = std::sqrt(sum_of_squares(c));
        if (norm * norm < 1e-6 * before || norm == 0) {
            std::fill(c.begin(), c.end(), 0.0);
            continue;
        }
        for (double& x : c)
            x /= norm;
        double dot = 0;
        for (std::size_t i = 0; i < c.size(); ++i)
            dot += y[i] * c[i];
        for (std::size_t i = 0; i < c.size(); ++i)
            y[i] -= dot * c[i];
        ++used;
    }
    return used;
}

MainsShare share_of(double base, std::span<const double> t, const std::vector<double>& flat, double rate) {
    MainsShare out;
    out.mains_hz = base;
    out.seen_at_hz = folded(base, rate);
    const double span = t.back() - t.front();
    std::vector<std::vector<double>> columns;
    std::vector<double> taken;
    for (int harmonic = 1; harmonic <= 5; ++harmonic) {
        const double f = base * harmonic;
        const double seen = folded(f, rate);
        if (seen * span < 2 || std::any_of(taken.begin(), taken.end(), [&](double other) {
                return std::abs(other - seen) * span < 1; // shows where another one shows
            }))
            continue;
        taken.push_back(seen);
        for (const double phase : {0.0, std::numbers::pi / 2}) {
            std::vector<double> c(t.size());
            for (std::size_t i = 0; i < t.size(); ++i)
                c[i] = std::sin(two_pi * f * t[i] + phase);
            columns.push_back(std::move(c));
        }
    }
    const double all = sum_of_squares(flat);
    if (columns.empty() || !(all > 0)) return out;
    std::vector<double> rest = flat;
    std::vector<double> one = flat;
    std::vector<std::vector<double>> first(columns.begin(), columns.begin() + 2);
    project_out(first, one);
    const int used = project_out(columns, rest);
    const auto n = static_cast<double>(t.size());
    if (n <= used + 3) return out;
    out.share = std::clamp(1 - sum_of_squares(rest) / (n - 2 - used) / (all / (n - 2)), 0.0, 1.0);
    out.amplitude = std::sqrt(std::max(0.0, 2 * (all - sum_of_squares(one)) / n));
    return out;
}

} // namespace

double folded(double hz, double rate_hz) {
    if (!(rate_hz > 0)) return hz;
    return std::abs(hz - rate_hz * std::round(hz / rate_hz));
}

Spectrum amplitude_spectrum(std::span<const double> values, double rate_hz) {
    Spectrum out;
    const std::size_t n = values.size();
    if (n < 16 || !(rate_hz > 0)) return out;
    std::vector<double> t(n);
    for (std::size_t i = 0; i < n; ++i)
        t[i] = static_cast<double>(i);
    std::vector<double> y = without_line(t, values);
    double weight = 0;
    for (std::size_t i = 0; i < n; ++i) {
        const double w = 0.5 - 0.5 * std::cos(two_pi * static_cast<double>(i) / static_cast<double>(n));
        y[i] *= w;
        weight += w;
    }
    const std::unique_ptr<gsl_fft_real_wavetable, decltype(&gsl_fft_real_wavetable_free)> table(
        gsl_fft_real_wavetable_alloc(n), gsl_fft_real_wavetable_free);
    const std::unique_ptr<gsl_fft_real_workspace, decltype(&gsl_fft_real_workspace_free)> space(
        gsl_fft_real_workspace_alloc(n), gsl_fft_real_workspace_free);
    gsl_fft_real_transform(y.data(), 1, n, table.get(), space.get());
    out.step_hz = rate_hz / static_cast<double>(n);
    out.amplitude.assign(n / 2 + 1, 0);
    for (std::size_t k = 1; k <= n / 2; ++k) { // GSL's order: re0, re1, im1, re2, im2, …
        const double re = y[2 * k - 1];
        const double im = 2 * k < n ? y[2 * k] : 0;
        out.amplitude[k] = 2 * std::hypot(re, im) / weight;
    }
    return out;
}

double goertzel_power(std::span<const double> values, double rate_hz, double frequency_hz) {
    if (values.size() < 2 || !(rate_hz > 0)) return 0;
    const double mean = moments(values).mean;
    const double w = two_pi * frequency_hz / rate_hz;
    const double c = 2 * std::cos(w);
    double s1 = 0;
    double s2 = 0;
    for (const double v : values) {
        const double s0 = v - mean + c * s1 - s2;
        s2 = s1;
        s1 = s0;
    }
    const double power = s1 * s1 + s2 * s2 - c * s1 * s2;
    const auto n = static_cast<double>(values.size());
    return 4 * power / (n * n);
}

MainsShare mains_share(std::span<const double> times, std::span<const double> values) {
    if (times.size() < 16 || !(times.back() > times.front())) return {};
    std::vector<double> steps;
    for (std::size_t i = 1; i < times.size(); ++i)
        steps.push_back(times[i] - times[i - 1]);
    std::nth_element(steps.begin(), steps.begin() + static_cast<std::ptrdiff_t>(steps.size() / 2), steps.end());
    const double step = steps[steps.size() / 2];
    if (!(step > 0)) return {};
    std::vector<double> t(times.begin(), times.end());
    for (double& x : t)
        x -= times.front();
    const std::vector<double> flat = without_line(t, values);
    const MainsShare fifty = share_of(50, t, flat, 1 / step);
    const MainsShare sixty = share_of(60, t, flat, 1 / step);
    return sixty.share > fifty.share ? sixty : fifty;
}

} // namespace cognitum
