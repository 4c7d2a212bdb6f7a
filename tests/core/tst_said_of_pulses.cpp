// What is made of pulses and of raw signals: beats of a wave, tips, contacts, wind, clocks, and the figures of
// raw_courses that hum, drift, jump and stand still; to four digits, beside what was read by a person and kept in
// tests/fixtures/said.
#include "core/analyse/signal.h"
#include "core/analyse/spectrum.h"
#include "core/analyse/statistics.h"
#include "core/analyse/taps.h"
#include "core/pulses/beats.h"
#include "core/pulses/collector.h"
#include "core/pulses/events.h"
#include "core/pulses/picture.h"
#include "core/pulses/rain.h"
#include "core/pulses/summary.h"
#include "core/pulses/wind.h"
#include "support/run_tests.h"
#include "support/said.h"

#include <functional>
#include <numbers>
#include <random>

using namespace cognitum;
using test::add_said;

namespace {

std::string four_digits(double x) {
    return std::abs(x) < 1e-9 ? "0" : fmt::format("{:.4g}", x);
}

/// Evenly spread numbers between -1 and 1; the same with every library.
class DrawnNumber {
  public:
    explicit DrawnNumber(unsigned seed) : m_random(seed) {}
    double operator()() { return 2 * static_cast<double>(m_random() % 100'001) / 100'000 - 1; }

  private:
    std::mt19937 m_random;
};

constexpr TimeUs morning = 1'780'650'000'000'000;

/// A pulse wave: a steep rise, a slow fall with a second wave, as a probe on a finger gives.
struct Heart {
    const char* what;
    double bpm = 70, rate_hz = 100, seconds = 20, height = 100, noise = 0, mains = 0, wander = 0, uneven = 0;
    std::function<double(double)> also = {}; ///< what is added at a time
};
std::vector<double> wave_of(const Heart& heart) {
    DrawnNumber drawn(3);
    std::vector<double> out, beats;
    for (double t = 0.2; t < heart.seconds + 2; t += 60 / heart.bpm * (1 + heart.uneven * drawn()))
        beats.push_back(t);
    for (int i = 0; i < static_cast<int>(heart.seconds * heart.rate_hz); ++i) {
        const double t = i / heart.rate_hz;
        double v = 512 + heart.noise * drawn() + heart.mains * std::sin(2 * std::numbers::pi * 50 * t) +
                   heart.wander * std::sin(2 * std::numbers::pi * 0.2 * t);
        for (const double b : beats)
            v += heart.height *
                 (std::exp(-std::pow((t - b) / 0.08, 2)) + 0.3 * std::exp(-std::pow((t - b - 0.3) / 0.1, 2)));
        out.push_back(std::round(v + (heart.also ? heart.also(t) : 0)));
    }
    return out;
}
const std::vector<Heart> hearts = {
    {"calm"},
    {"slow", 42},
    {"fast", 165},
    {"read seldom", 70, 21},
    {"read often", 70, 1000, 8},
    {"weak and noisy", 70, 100, 20, 8, 5},
    {"with hum of the mains", 70, 100, 20, 100, 0, 60},
    {"with hum that folds to 5 Hz", 70, 55, 20, 100, 0, 30},
    {"with breath", 70, 100, 20, 100, 2, 0, 150},
    {"uneven", 70, 100, 20, 100, 2, 0, 0, 0.2},
    {"very uneven", 70, 100, 20, 100, 2, 0, 0, 0.6},
    {"too short", 70, 100, 2.9},
    {"just long enough", 70, 100, 3},
    {"a finger that is lifted", 70, 100, 20, 100, 1, 0, 0, 0,
     [](double t) { return t > 10 && t < 12 ? 300.0 : 0; }},
    {"a finger that came late", 70, 100, 20, 100, 1, 0, 0, 0, [](double t) { return t < 5 ? -400.0 : 0; }},
    {"at the upper end", 70, 100, 20, 100, 0, 0, 0, 0, [](double t) { return std::fmod(t, 2) < 1 ? 411.0 : 500; }},
    {"no finger", 70, 100, 20, 0, 2},
    {"nothing moves", 70, 100, 20, 0},
};

std::string beats_said() {
    std::string out;
    for (const Heart& heart : hearts) {
        const std::vector<double> wave = wave_of(heart);
        const Beats b = find_beats(wave, heart.rate_hz);
        out += std::string(heart.what) + "\n";
        add_said(out, "beats",
                 fmt::format("{} a minute, {}, {} tops, {} set aside, least height {}. {}", four_digits(b.bpm),
                             pulse_quality_name(b.quality), b.times.size(), b.rejected, four_digits(b.least_height),
                             b.why));
        std::string times;
        for (std::size_t i = 0; i < b.times.size(); i += 3)
            times += " " + four_digits(b.times[i]);
        add_said(out, "at", times);
        std::string filtered;
        for (std::size_t i = 5; i < b.filtered.size(); i += 170)
            filtered += fmt::format(" {:.0f}", b.filtered[i] + 0.01);
        add_said(out, "filtered", filtered);
        add_said(out, "by a fixed threshold",
                 fmt::format("{} of 560 and {} of 540; from the recording {}",
                             threshold_beats(wave, heart.rate_hz, 560).size(),
                             threshold_beats(wave, heart.rate_hz, 540).size(),
                             four_digits(threshold_from_recording(wave, heart.rate_hz))));
        std::vector<RawSample> samples;
        for (std::size_t i = 0; i < wave.size(); ++i)
            samples.push_back({morning + from_seconds(static_cast<double>(i) / heart.rate_hz), wave[i]});
        for (const PulseFact& fact : beat_facts(samples))
            add_said(out, fact.label.c_str(), fact.value + ". " + fact.note);
        add_said(out, "picture", beats_picture(samples).spoken);
        Collector collector(Collector::Kind::beats, 5);
        std::string collected;
        for (const RawSample& s : samples)
            if (const auto c = collector.take(s.time, s.code))
                collected += fmt::format(" {} {}", four_digits(c->number), c->why);
        add_said(out, "every five seconds", collected);
    }
    return out;
}

/// Seconds of a bucket's tips over two days: single ones, a shower, a cloudburst with bounces, one that goes back.
std::vector<TimeUs> tips() {
    std::vector<double> at = {100, 100.05, 100.1, 100.21, 4000, 7000, 7001};
    for (int i = 0; i < 20; ++i)
        at.push_back(30'000 + 40.0 * i);
    for (int i = 0; i < 60; ++i)
        at.push_back(52'000 + 2.5 * i);
    for (const double t : {52'150.01, 52'149.0, 73'750.0, 73'751.0, 86'399.9, 86'400.0, 90'000.0, 172'799.0})
        at.push_back(t);
    std::vector<TimeUs> out;
    for (const double t : at)
        out.push_back(morning - morning % day_us + from_seconds(t));
    return out;
}

std::string rain_of(const std::vector<RainAmount>& all) {
    std::string out;
    for (const RainAmount& a : all)
        out += fmt::format(" {} {}", iso_time(a.start).substr(5, 11), four_digits(a.mm));
    return out;
}

std::string rain_said() {
    std::string out;
    const auto all = tips();
    for (const auto& [what, options] : std::vector<std::pair<const char*, RainOptions>>{
             {"as it is", {}},
             {"days from nine o'clock, an hour ahead", {0.1, 9 * 3600 * second_us, 3600 * second_us}},
             {"two tips a pulse, a short dry spell", {0.1, 0, 0, 2, 1800}},
             {"with what is lost while it tips", {0.3, 0, -7200 * second_us, 1, 6 * 3600, 1.05, 1.02}},
         }) {
        const RainTotals r = rain_totals(all, 0.2, options);
        out += fmt::format("{}\n  {} mm, corrected {}, {} tips, {} bounces, at most {} mm/h\n", what,
                           four_digits(r.total_mm), four_digits(r.corrected_mm), r.tips, r.rejected,
                           four_digits(r.max_intensity_mm_h));
        add_said(out, "hours", rain_of(r.hours));
        add_said(out, "days", rain_of(r.days));
        add_said(out, "months", rain_of(r.months));
        add_said(out, "years", rain_of(r.years));
        for (const RainEvent& e : r.events)
            add_said(out, "event",
                     fmt::format("{} to {}: {}", iso_time(e.start), iso_time(e.end), four_digits(e.mm)));
        for (const double after : {10.0, 3600.0, 90'000.0})
            for (const PulseFact& fact : rain_facts(all, 0.2, all.back() + from_seconds(after), options))
                add_said(out, fact.label.c_str(), fact.value + ". " + fact.note);
        const PulsePicture picture = tips_picture(all, 0.2, all.back() + second_us, options);
        add_said(out, "picture", picture.spoken);
    }
    for (const double window : {1.0, 3600.0, 86'400.0, 86'401.0})
        out += fmt::format("  within {} s: {} mm\n", four_digits(window),
                           four_digits(rain_within(all, 0.2, all.back(), from_seconds(window))));
    const std::vector<TimeUs> times = {0, 10 * second_us, 20 * second_us, 30 * second_us, 40 * second_us};
    for (const std::vector<double>& counts :
         {std::vector<double>{3, 3, 4, 7, 7}, {5, 9, 1, 1, 3}, {0, no_number, 2, 2, 2}}) {
        out += "  steps at";
        for (const TimeUs t : tips_of_counts(times, counts))
            out += " " + four_digits(seconds(t));
        out += "\n";
    }
    return out;
}

std::string switches_said() {
    std::string out;
    std::vector<SwitchSample> samples;
    std::vector<RawSample> raw;
    const auto set = [&](double at, bool on) {
        samples.push_back({morning + from_seconds(at), on});
        raw.push_back({samples.back().time, on ? 1.0 : 0.0});
    };
    for (const auto& [at, on] : std::vector<std::pair<double, bool>>{{0, false},
                                                                     {10, true},
                                                                     {10.005, false},
                                                                     {10.015, true},
                                                                     {15, false},
                                                                     {15.5, true},
                                                                     {20, false},
                                                                     {20.02, true},
                                                                     {20.04, false},
                                                                     {300, true},
                                                                     {305, false},
                                                                     {900, true},
                                                                     {901, true},
                                                                     {1300, false},
                                                                     {3599, true},
                                                                     {3600, false}})
        set(at, on);
    for (const EventOptions& options : {EventOptions{}, {0.02, 1}, {0, 0}, {0.5, 300}, {0.01, 0.02}}) {
        const EventReport report = switch_events(samples, options);
        out +=
            fmt::format("bounce {} s, hold {} s: {} bounces, {} an hour, on for {}\n", options.debounce_s,
                        options.hold_s, report.bounces, four_digits(report.per_hour), four_digits(report.on_share));
        for (const SwitchEvent& e : report.events)
            add_said(out, "event",
                     fmt::format("{} to {}, {} times", four_digits(seconds(e.start - morning)),
                                 four_digits(seconds(e.end - morning)), e.triggers));
    }
    for (const double hold : {0.0, 1.0, 300.0})
        for (const double now : {3600.0, 3700.0, 9000.0}) {
            for (const PulseFact& fact : switch_facts(raw, morning + from_seconds(now), hold))
                add_said(out, fact.label.c_str(), fact.value + ". " + fact.note);
            const PulsePicture picture = switch_picture(raw, morning + from_seconds(now), hold, 3600, 500);
            std::string drawn = picture.spoken;
            for (const auto& panel : picture.panels) {
                drawn += fmt::format(" | {}:", panel.title);
                for (const auto& p : panel.trace)
                    drawn += fmt::format(" {}@{}", four_digits(p.value), four_digits(p.at_s));
                for (const auto& s : panel.spans)
                    drawn += fmt::format(" {}-{} {}", four_digits(s.from_s), four_digits(s.to_s),
                                         static_cast<int>(s.use));
            }
            add_said(out, "picture", drawn);
        }
    return out;
}

std::string wind_said() {
    std::string out;
    DrawnNumber drawn(9);
    std::vector<WindSample> wind;
    std::vector<RawSample> speeds;
    for (int i = 0; i < 900; ++i) {
        if (i % 97 == 5) continue;
        const double gust = i > 500 && i < 504 ? 9 : 0;
        wind.push_back({morning + i * second_us, i % 50 == 3 ? no_number : 4 + drawn() + gust,
                        i % 40 == 7 ? no_number : 355 + 15 * drawn() - (i > 450 ? 200 : 0)});
        speeds.push_back({wind.back().time, wind.back().speed});
    }
    for (const auto& [window, gust] :
         {std::pair(600.0, 3.0), {60.0, 3.0}, {600.0, 10.0}, {3.0, 3.0}, {2000.0, 1.0}}) {
        const WindReport r = wind_report(wind, window, gust);
        out += fmt::format("{} s and gusts of {} s: {} with {}, from {} ({}), {} samples\n", window, gust,
                           four_digits(r.mean), four_digits(r.gust), four_digits(r.direction_deg),
                           four_digits(r.steadiness), r.samples);
    }
    for (const PulseFact& fact : wind_facts(speeds, "m/s"))
        add_said(out, fact.label.c_str(), fact.value + ". " + fact.note);
    add_said(out, "picture", wind_picture(speeds, "m/s", 5).spoken);
    return out;
}

/// What a raw signal may look like, once a second unless it says otherwise.
struct RawCourse {
    const char* what;
    std::function<double(int, double)> value; ///< of a number and something drawn
    double step_s = 1;
    int n = 240;
};
const std::vector<RawCourse> raw_courses = {
    {"quiet", [](int, double d) { return std::round(512 + 1.4 * d); }},
    {"drifts", [](int i, double d) { return 300 + 0.05 * i + d; }},
    {"jumps once", [](int i, double d) { return (i < 150 ? 400.0 : 460.0) + d; }},
    {"stands still at the end", [](int i, double d) { return i < 200 ? std::round(500 + 3 * d) : 501.0; }},
    {"fails now and then", [](int i, double d) { return i % 17 == 3 ? no_number : 100 + d; }},
    {"hums", [](int i, double d) { return 500 + 20 * std::sin(2 * std::numbers::pi * 50 * i * 0.0031) + d; },
     0.0031},
    {"hums as elsewhere",
     [](int i, double d) { return 500 + 20 * std::sin(2 * std::numbers::pi * 60 * i * 0.0073) + d; }, 0.0073},
    {"even steps", [](int i, double) { return 4.0 * (i / 10); }},
    {"two numbers", [](int i, double) { return i % 2 ? 3.0 : 1.0; }, 1, 2},
    {"seventeen numbers", [](int i, double d) { return std::sin(i * 0.7) + 0.1 * d; }, 0.5, 17},
    {"one number", [](int, double) { return 7.0; }, 1, 1},
};

std::string signals_said() {
    std::string out;
    for (const RawCourse& signal : raw_courses) {
        DrawnNumber drawn(6);
        std::vector<RawSample> samples;
        std::vector<double> times, values;
        for (int i = 0; i < signal.n; ++i) {
            const double late = (i % 60 == 30 ? 3.2 : 0.01 * drawn()) * signal.step_s;
            samples.push_back({morning + from_seconds(i * signal.step_s + late), signal.value(i, drawn())});
            if (!std::isfinite(samples.back().code)) continue;
            times.push_back(seconds(samples.back().time - morning));
            values.push_back(samples.back().code);
        }
        out += std::string(signal.what) + "\n";
        const SignalFigures f = signal_figures(samples, 10);
        add_said(out, "figures",
                 fmt::format(
                     "{} good, {} failed, mean {}, sd {}, {} from top to bottom, noise {} ({}/√Hz), {} bits, {} an "
                     "hour, "
                     "autocorrelation {} s, {} lines a second, {} s apart ± {}, {} gaps, last {} the same, step {}",
                     f.n, f.failed, four_digits(f.mean), four_digits(f.sd), four_digits(f.peak_to_peak),
                     four_digits(f.noise), four_digits(f.noise_density), four_digits(f.effective_bits),
                     four_digits(f.drift_per_hour), four_digits(f.autocorrelation_s), four_digits(f.rate_hz),
                     four_digits(f.interval_s), four_digits(f.jitter_s), f.gaps, f.run, four_digits(f.quantum)));
        const MainsShare m = mains_share(times, values);
        const LineFit line = fit_line(times, values);
        add_said(out, "mains",
                 fmt::format("{} of {} Hz, ± {} seen at {} Hz; line {} + {}·t ± {}", four_digits(m.share),
                             four_digits(m.mains_hz), four_digits(m.amplitude), four_digits(m.seen_at_hz),
                             four_digits(line.intercept), four_digits(line.slope), four_digits(line.slope_se)));
        std::string odd;
        for (const std::size_t i : hampel_outliers(values, 5, 4, 0.5))
            odd += fmt::format(" {}", i);
        add_said(out, "statistics",
                 fmt::format("lag one {}, {} from differences, {} samples together, median {}; odd:{}",
                             four_digits(lag_one_correlation(values)), four_digits(difference_sd(values)),
                             four_digits(autocorrelation_time(values)), four_digits(median(values)), odd));
        const Spectrum s = amplitude_spectrum(values, 1 / signal.step_s);
        std::string lines;
        for (std::size_t i = 1; i < s.amplitude.size(); i = i * 2 + 1)
            lines +=
                fmt::format(" {}@{}", four_digits(s.amplitude[i]), four_digits(static_cast<double>(i) * s.step_hz));
        add_said(out, "spectrum", lines);
        add_said(out, "at a tenth of the rate",
                 four_digits(goertzel_power(values, 1 / signal.step_s, 0.1 / signal.step_s)));
        std::string pieces;
        for (const Decimated& d : decimate(values, 50))
            pieces += fmt::format(" {} ({} to {}, {})", four_digits(d.mean), four_digits(d.low),
                                  four_digits(d.high), d.n);
        add_said(out, "in pieces", pieces);
        Collector rate(Collector::Kind::rate, 10);
        std::string collected;
        double count = 0;
        for (const RawSample& sample : samples)
            if (const auto c =
                    rate.take(sample.time, count += std::isfinite(sample.code) ? std::round(sample.code / 100) : 0))
                collected += fmt::format(" {}{}", four_digits(c->number), c->why);
        add_said(out, "as a rate", collected.substr(0, 200));
    }
    TapCounter taps;
    std::string tapped;
    for (const double at : {0.0, 1.0, 2.1, 2.9, 4.0, 9.0, 9.5, 10.0, 10.5, 16.0}) {
        taps.tap(morning + from_seconds(at));
        const auto r = taps.rate();
        tapped +=
            r ? fmt::format(" {} ± {} ({})", four_digits(r->per_minute), four_digits(r->doubt), r->taps) : " -";
    }
    add_said(out, "tapped", tapped);
    for (const double drift : {0.0, 42e-6, -3e-3}) {
        ClockCompare compare;
        DrawnNumber drawn(2);
        for (int i = 0; i < 900; ++i)
            compare.take(morning + from_seconds(i * (1 + drift) - 0.7),
                         morning + from_seconds(i + 0.1 + 0.05 * std::abs(drawn())), drift > 0);
        const ClockFit fit = compare.fit();
        add_said(out, "clock",
                 fmt::format("{} ± {} ppm over {} s. {}", four_digits(fit.drift_ppm), four_digits(fit.u_drift_ppm),
                             four_digits(fit.span_s), fit.known() ? clock_text(fit) : std::string()));
    }
    return out;
}

} // namespace

class TestSaidOfPulses : public QObject {
    Q_OBJECT

  private slots:
    void beats() { test::compare_said("beats", beats_said()); }
    void rain() { test::compare_said("rain", rain_said()); }
    void switches() { test::compare_said("switches", switches_said()); }
    void wind() { test::compare_said("wind", wind_said()); }
    void signalsOfSensors() { test::compare_said("signals", signals_said()); }
};

RUN_TESTS_OF(TestSaidOfPulses)
#include "tst_said_of_pulses.moc"
