// cognitum-cli signal: figures and verdicts over a recorded series.
#include "cli/cli.h"
#include "core/analyse/health.h"
#include "core/analyse/spectrum.h"
#include "core/analyse/statistics.h"
#include "core/decode/number_text.h"

#include <algorithm>
#include <cstdio>
#include <fmt/format.h>

namespace cognitum::cli {

namespace {

constexpr std::pair<const char*, SignalKind> kinds[] = {
    {"codes", SignalKind::codes},     {"wave", SignalKind::wave},         {"counter", SignalKind::counter},
    {"contact", SignalKind::contact}, {"distance", SignalKind::distance}, {"measured", SignalKind::measured},
};

/// "bits=10", "kind=wave", "low=0", "high=1023", "resolution=0.25", "interval=1", "fastest=10" (an hour).
Result<SignalAbout> read_about(const std::vector<std::string>& arguments) {
    SignalAbout about;
    about.kind = SignalKind::measured;
    bool kind_told = false;
    for (const std::string& argument : arguments) {
        const std::size_t equals = argument.find('=');
        const std::string key = argument.substr(0, equals);
        const std::string text = equals == std::string::npos ? "" : argument.substr(equals + 1);
        if (key == "kind") {
            const auto* const known =
                std::find_if(std::begin(kinds), std::end(kinds), [&](const auto& k) { return text == k.first; });
            if (known == std::end(kinds))
                return failure(fmt::format("“{}” is no kind of signal.", text), "kind",
                               "Known are codes, wave, counter, contact, distance and measured.");
            about.kind = known->second;
            kind_told = true;
            continue;
        }
        const NumberText number = read_number_text(text);
        if (!number.there) return failure(fmt::format("“{}” holds no number.", argument), {}, "Write bits=10.");
        if (key == "bits" && number.value >= 1 && number.value <= 32) {
            const SignalAbout codes = about_codes(static_cast<int>(number.value));
            about.bits = codes.bits;
            about.low = codes.low;
            about.high = codes.high;
            about.resolution = 1;
            if (!kind_told) about.kind = SignalKind::codes;
        } else if (key == "low") {
            about.low = number.value;
        } else if (key == "high") {
            about.high = number.value;
        } else if (key == "resolution" && number.value > 0) {
            about.resolution = number.value;
        } else if (key == "interval" && number.value > 0) {
            about.promised_s = number.value;
        } else if (key == "fastest" && number.value > 0) {
            about.fastest_per_hour = number.value;
        } else {
            return failure(fmt::format("“{}” is not understood.", argument), {},
                           "Known are bits, kind, low, high, resolution, interval (s) and fastest (an hour).");
        }
    }
    return about;
}

const char* rank_word(HealthRank rank) {
    return rank == HealthRank::bad ? "error" : rank == HealthRank::look ? "look" : "note";
}

void print_figures(const SignalFigures& f, const SignalAbout& about, const MainsShare& mains,
                   const std::vector<HealthVerdict>& verdicts) {
    std::string out =
        fmt::format("{} values, {} without a number, one every {:.4g} s\n", f.n, f.failed, f.interval_s);
    out += fmt::format("mean {:.6g}, scatter {:.4g}, peak to peak {:.6g}, noise {:.4g}\n", f.mean, f.sd,
                       f.peak_to_peak, f.noise);
    if (about.bits > 0) out += fmt::format("good bits {:.1f} of {}\n", f.effective_bits, about.bits);
    out += fmt::format("drift {:.4g} an hour, mains {:.0f} % at {:.0f} Hz\n", f.drift_per_hour, 100 * mains.share,
                       mains.mains_hz);
    for (const HealthVerdict& v : verdicts) {
        out += fmt::format("{}: {}: {}\n", rank_word(v.rank), v.title, v.evidence);
        for (const std::string& cause : v.causes)
            out += "    likely: " + cause + "\n";
        if (!v.next_test.empty()) out += "    next: " + v.next_test + "\n";
    }
    if (verdicts.empty()) out += "healthy\n";
    std::fputs(out.c_str(), stdout);
}

} // namespace

int run_signal(const std::string& series, const std::vector<std::string>& arguments, bool json) {
    const auto about = read_about(arguments);
    if (!about) return complain(about.error(), usage);
    const auto samples = read_raw_series(series, EmptyCell::failed);
    if (!samples) return complain(samples.error());
    const SignalFigures f = signal_figures(*samples, about->bits);
    std::vector<double> t;
    std::vector<double> v;
    std::vector<TimeUs> times;
    for (const RawSample& s : *samples)
        if (std::isfinite(s.code)) {
            t.push_back(seconds(s.time - samples->front().time));
            v.push_back(s.code);
            times.push_back(s.time);
        }
    // Regression over every sample of a long file would cost more than it tells.
    constexpr std::size_t enough = 20000;
    const std::size_t n = std::min(v.size(), enough);
    const MainsShare mains = mains_share(std::span(t).last(n), std::span(v).last(n));
    StreamFacts facts;
    facts.lines = samples->size();
    const auto verdicts = judge_health(std::span(*samples).last(std::min(samples->size(), enough)), *about, facts);
    const bool bad = std::any_of(verdicts.begin(), verdicts.end(), [](const HealthVerdict& x) { return x.bad(); });
    if (!json) {
        print_figures(f, *about, mains, verdicts);
        return bad ? answer_is_no : done;
    }
    Json outliers = Json::array();
    const double step = std::max(f.quantum, about->resolution);
    for (const std::size_t i : hampel_outliers(v, 5, 6, 4 * step))
        outliers.push_back({{"time", iso_time(times[i])}, {"value", v[i]}});
    Json list = Json::array();
    for (const HealthVerdict& x : verdicts)
        list.push_back({{"id", x.id},
                        {"severity", rank_word(x.rank)},
                        {"evidence", x.evidence},
                        {"causes", x.causes},
                        {"next_test", x.next_test}});
    const auto of_values = [&](double x) { return v.empty() ? Json(nullptr) : number_or_null(x); };
    print_json({{"n", f.n},
                {"failed", f.failed},
                {"mean", of_values(f.mean)},
                {"sd", of_values(f.sd)},
                {"peak_to_peak", of_values(f.peak_to_peak)},
                {"noise", of_values(f.noise)},
                {"noise_density", of_values(f.noise_density)},
                {"effective_bits", about->bits > 0 ? of_values(f.effective_bits) : Json(nullptr)},
                {"drift_per_hour", of_values(f.drift_per_hour)},
                {"autocorrelation_s", of_values(f.autocorrelation_s)},
                {"mains_share", of_values(mains.share)},
                {"mains_hz", mains.mains_hz},
                {"interval_s", f.interval_s},
                {"jitter_s", f.jitter_s},
                {"gaps", f.gaps},
                {"outliers", outliers},
                {"verdicts", list}});
    return bad ? answer_is_no : done;
}

} // namespace cognitum::cli
