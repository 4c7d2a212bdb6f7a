// Spectra and statistics against slow, obvious models and against what is known in closed form.
#include "core/analyse/spectrum.h"
#include "core/analyse/statistics.h"
#include "core/analyse/taps.h"
#include "demo/world.h"
#include "support/run_tests.h"
#include "support/support.h"

#include <numbers>
#include <random>

using namespace cognitum;

namespace {

constexpr double two_pi = 2 * std::numbers::pi;

std::vector<double> sine(std::size_t n, double rate, double hz, double amplitude, double mean = 0) {
    std::vector<double> out(n);
    for (std::size_t i = 0; i < n; ++i)
        out[i] = mean + amplitude * std::sin(two_pi * hz * static_cast<double>(i) / rate + 0.4);
    return out;
}

std::vector<double> times(std::size_t n, double rate) {
    std::vector<double> out(n);
    for (std::size_t i = 0; i < n; ++i)
        out[i] = static_cast<double>(i) / rate;
    return out;
}

std::vector<double> normal(std::size_t n, double sd, std::uint64_t seed) {
    std::vector<double> out(n);
    for (std::size_t i = 0; i < n; ++i)
        out[i] = sd * demo::hash_normal(seed, 77, static_cast<std::int64_t>(i));
    return out;
}

/// The sum that Goertzel's recursion stands for, term by term.
double slow_power(const std::vector<double>& v, double rate, double hz) {
    double mean = 0;
    for (const double x : v)
        mean += x / static_cast<double>(v.size());
    double re = 0;
    double im = 0;
    for (std::size_t i = 0; i < v.size(); ++i) {
        const double phase = two_pi * hz * static_cast<double>(i) / rate;
        re += (v[i] - mean) * std::cos(phase);
        im += (v[i] - mean) * std::sin(phase);
    }
    return 4 * (re * re + im * im) / (static_cast<double>(v.size()) * static_cast<double>(v.size()));
}

/// Outliers by sorting each window, as the definition reads.
std::vector<std::size_t> slow_hampel(const std::vector<double>& v, std::size_t half, double limit,
                                     double smallest) {
    std::vector<std::size_t> out;
    const std::size_t width = 2 * half + 1;
    for (std::size_t i = 0; i < v.size(); ++i) {
        std::size_t from = i < half ? 0 : i - half;
        if (from + width > v.size()) from = v.size() - width;
        std::vector<double> w(v.begin() + static_cast<std::ptrdiff_t>(from),
                              v.begin() + static_cast<std::ptrdiff_t>(from + width));
        std::sort(w.begin(), w.end());
        const double mid = w[half];
        for (double& x : w)
            x = std::abs(x - mid);
        std::sort(w.begin(), w.end());
        if (std::abs(v[i] - mid) > limit * 1.4826 * w[half] && std::abs(v[i] - mid) > smallest) out.push_back(i);
    }
    return out;
}

} // namespace

class TestSpectrum : public QObject {
    Q_OBJECT

  private slots:
    void aSineStandsAtItsFrequency_data() {
        QTest::addColumn<int>("n");
        QTest::addColumn<double>("hz");
        QTest::newRow("power of two") << 1024 << 12.5;
        QTest::newRow("prime length") << 997 << 20.0;
        QTest::newRow("even length") << 600 << 33.0;
        QTest::newRow("odd length") << 601 << 7.0;
    }
    void aSineStandsAtItsFrequency() {
        QFETCH(int, n);
        QFETCH(double, hz);
        const auto v = sine(static_cast<std::size_t>(n), 100, hz, 3, 500);
        const Spectrum s = amplitude_spectrum(v, 100);
        QCOMPARE(s.amplitude.size(), static_cast<std::size_t>(n / 2 + 1));
        const auto peak = std::max_element(s.amplitude.begin(), s.amplitude.end()) - s.amplitude.begin();
        CLOSE(s.step_hz * static_cast<double>(peak), hz, s.step_hz);
        CLOSE(s.amplitude[static_cast<std::size_t>(peak)], 3, 0.5); // between two lines the window loses up to 15 %
        CLOSE(s.amplitude[1], 0, 0.1);                              // neither mean nor slope leaks in
    }
    void aStraightLineHasNoSpectrum() {
        std::vector<double> v(256);
        for (std::size_t i = 0; i < v.size(); ++i)
            v[i] = 3.0 * static_cast<double>(i) - 7;
        for (const double a : amplitude_spectrum(v, 10).amplitude)
            CLOSE(a, 0, 1e-9);
        QVERIFY(amplitude_spectrum(std::span<const double>(v).first(8), 10).amplitude.empty());
        QVERIFY(amplitude_spectrum(v, 0).amplitude.empty());
    }
    void goertzelIsTheSum() {
        const auto v = normal(333, 2, 5);
        for (const double hz : {0.5, 3.0, 17.3, 49.9})
            CLOSE(goertzel_power(v, 100, hz), slow_power(v, 100, hz), 1e-9);
        CLOSE(std::sqrt(goertzel_power(sine(1000, 200, 50, 4, 100), 200, 50)), 4, 1e-6);
    }
    void frequenciesFold() {
        CLOSE(folded(50, 200), 50, 1e-12);
        CLOSE(folded(50, 62.5), 12.5, 1e-12);
        CLOSE(folded(100, 62.5), 25, 1e-12);
        CLOSE(folded(50, 1), 0, 1e-12);
        CLOSE(folded(60, 50), 10, 1e-12);
        for (double rate = 1; rate < 300; rate += 7.3)
            for (double hz = 0; hz < 200; hz += 3.1)
                QVERIFY(folded(hz, rate) >= 0 && folded(hz, rate) <= rate / 2 + 1e-9);
    }
    void theMainsShareIsTheShareOfTheVariance() {
        for (const double mains : {50.0, 60.0})
            for (const double to_noise : {0.0, 0.5, 1.0, 3.0}) { // amplitude over the noise's sd
                auto v = sine(1000, 200, mains, 2 * to_noise);
                const auto noise = normal(1000, 2, 9);
                for (std::size_t i = 0; i < v.size(); ++i)
                    v[i] += noise[i];
                const MainsShare m = mains_share(times(1000, 200), v);
                const double share = to_noise * to_noise / 2 / (to_noise * to_noise / 2 + 1);
                CLOSE(m.share, share, 0.05);
                if (to_noise > 0) {
                    QCOMPARE(m.mains_hz, mains);
                    CLOSE(m.amplitude, 2 * to_noise, 0.2);
                }
            }
    }
    void foldedMainsIsSeenAndSlowMainsIsNotGuessed() {
        // Sampled 62.5 times a second 50 Hz shows at 12.5 Hz, and still is 50 Hz.
        std::vector<double> v;
        const auto t = times(600, 62.5);
        for (const double s : t)
            v.push_back(5 * std::sin(two_pi * 50 * s));
        const MainsShare m = mains_share(t, v);
        CLOSE(m.share, 1, 0.02);
        CLOSE(m.seen_at_hz, 12.5, 1e-9);
        // Once a second it folds to standstill: nothing can be said.
        CLOSE(mains_share(times(300, 1), normal(300, 1, 3)).share, 0, 0.06);
        CLOSE(mains_share(std::vector<double>{0, 1}, std::vector<double>{0, 1}).share, 0, 0);
    }

    void outliersAreThoseOfTheDefinition() {
        std::mt19937_64 random(4);
        for (int round = 0; round < 20; ++round) {
            auto v = normal(120, 1, static_cast<std::uint64_t>(round));
            for (int k = 0; k < 5; ++k)
                v[random() % v.size()] += 30;
            QVERIFY(hampel_outliers(v, 3, 6, 2) == slow_hampel(v, 3, 6, 2));
            QVERIFY(hampel_outliers(v, 5, 8, 6) == slow_hampel(v, 5, 8, 6));
        }
        QVERIFY(hampel_outliers(std::vector<double>(5, 1.0), 3, 6, 1).empty()); // shorter than its window
    }
    void autocorrelationTimeOfAKnownProcess() {
        // x = φ·x + e has τ = (1 + φ)/(1 − φ).
        for (const double phi : {0.0, 0.5, 0.8}) {
            auto v = normal(40000, 1, 21);
            for (std::size_t i = 1; i < v.size(); ++i)
                v[i] += phi * v[i - 1];
            const double tau = (1 + phi) / (1 - phi);
            CLOSE(autocorrelation_time(v), tau, 0.12 * tau);
        }
        CLOSE(autocorrelation_time(std::vector<double>(100, 3.0)), 1, 0); // what does not move
    }
    void mediansAreInTheMiddle() {
        CLOSE(median({3, 1, 2}), 2, 0);
        CLOSE(median({4, 1, 3, 2}), 2.5, 0);
        CLOSE(median({7}), 7, 0);
        CLOSE(median({}), 0, 0);
    }
    void decimationKeepsMeanLeastAndMost() {
        auto v = normal(1003, 5, 8);
        v[17] = std::nan("");
        for (std::size_t i = 40; i < 50; ++i)
            v[i] = std::nan("");
        for (const std::size_t every : {1UL, 7UL, 10UL, 5000UL}) {
            const auto out = decimate(v, every);
            QCOMPARE(out.size(), (v.size() + every - 1) / every);
            double sum = 0;
            std::size_t n = 0;
            double low = 1e9;
            double high = -1e9;
            for (const Decimated& d : out) {
                if (d.n == 0) continue;
                QVERIFY(d.low <= d.mean + 1e-12 && d.mean <= d.high + 1e-12);
                sum += d.mean * static_cast<double>(d.n);
                n += d.n;
                low = std::min(low, d.low);
                high = std::max(high, d.high);
            }
            double all = 0;
            double least = 1e9;
            double most = -1e9;
            for (const double x : v) {
                if (!std::isfinite(x)) continue;
                all += x;
                least = std::min(least, x);
                most = std::max(most, x);
            }
            QCOMPARE(n, v.size() - 11);
            CLOSE(sum, all, 1e-8);
            CLOSE(low, least, 0);
            CLOSE(high, most, 0);
        }
        QCOMPARE(decimate(v, 10)[4].n, std::size_t(0)); // a run without a number stays one
        QVERIFY(decimate(v, 0).empty());
    }

    void tapsGiveARateWithItsDoubt() {
        TapCounter taps;
        TimeUs t = 0;
        for (int i = 0; i < 3; ++i)
            taps.tap(t += 800'000);
        QVERIFY(!taps.rate()); // too few
        for (int i = 0; i < 28; ++i)
            taps.tap(t += 800'000);
        CLOSE(taps.rate()->per_minute, 75, 1e-9);
        QCOMPARE(taps.rate()->taps, 31);
        CLOSE(taps.rate()->doubt, 2 * 75 * std::sqrt(2.0) * 0.05 / 24, 1e-9);
        taps.tap(t += 9 * second_us); // a pause begins anew
        QCOMPARE(taps.taps(), 1);
        taps.tap(t - second_us); // so does a clock that is set back
        QCOMPARE(taps.taps(), 1);
        for (int i = 0; i < 200; ++i)
            taps.tap(t += 500'000);
        QVERIFY(taps.taps() <= 121); // a minute's, whatever is tapped
        taps.clear();
        QVERIFY(!taps.rate());
        for (int i = 0; i < 6; ++i)
            taps.tap(t); // a key that bounces
        QVERIFY(!taps.rate());
    }
};

RUN_TESTS_OF(TestSpectrum)
#include "tst_spectrum.moc"
