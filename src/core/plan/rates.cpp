#include "core/plan/rates.h"

#include "core/base/phrase.h"
#include "core/bench/limits.h"
#include "core/plan/budgets.h"
#include "core/units/format.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr double bits_per_byte = 10; // one start and one stop bit around eight

std::string every_nth(double factor) {
    return phrase("Send a mean, minimum and maximum of {} instead of each.",
                  static_cast<long>(std::ceil(factor - 1e-9)));
}

std::size_t whole(double ratio) {
    return static_cast<std::size_t>(std::max(1.0, std::round(ratio)));
}

} // namespace

RatePlan rate_plan(const Bench& bench, const BoardUse& use) {
    RatePlan plan;
    double values_per_s = 0;
    double fastest_s = 0;
    for (const Reading& r : bench.readings) {
        if (r.feed() != use.id) continue;
        const double interval = std::max(r.quantity.interval_s, 1e-6);
        const double sample = r.quantity.sample_s > 0 ? r.quantity.sample_s : interval;
        plan.sources.push_back({r.id, r.name, 1 / sample, 1 / interval});
        values_per_s += 1 / interval;
        if (fastest_s == 0 || interval < fastest_s) fastest_s = interval;
        if (interval / sample > 1.5)
            plan.decimations.push_back({r.id, r.name, whole(interval / sample), interval, phrase("on the board")});
    }
    if (plan.sources.empty()) return plan;
    std::stable_sort(plan.sources.begin(), plan.sources.end(),
                     [](const RateSource& a, const RateSource& b) { return a.samples_per_s > b.samples_per_s; });
    const double lines_per_s = 1 / fastest_s;
    const double bytes = line_bytes(bench, use);
    const auto add = [&](RateSink sink) {
        if (sink.share() <= 1) sink.remedy.clear();
        plan.sinks.push_back(std::move(sink));
    };
    if (use.link.is_wire())
        add({"line", phrase("line at {} Bd", format_constant(use.link.baud, 7)), for_people("bytes"),
             bytes * lines_per_s, use.link.baud / bits_per_byte,
             phrase("{} Or raise the speed.",
                    every_nth(bytes * lines_per_s * bits_per_byte / std::max(1, use.link.baud)))});
    if (!use.uplink.to.empty())
        add({"uplink", phrase("wire to the other board at {} Bd", format_constant(use.uplink.baud, 7)),
             for_people("bytes"), bytes * lines_per_s, use.uplink.baud / bits_per_byte,
             every_nth(bytes * lines_per_s * bits_per_byte / std::max(1, use.uplink.baud))});
    if (use.link.kind == LinkKind::http)
        add({for_people("posts"), phrase("posts to this computer"), for_people("posts"), lines_per_s,
             http_posts_per_s, phrase("Put several values into one post.")});
    if (use.upload_s > 0 || use.quota_s > 0) {
        // What is not said is as fast as the readings are.
        const double upload = use.upload_s > 0 ? use.upload_s : fastest_s;
        if (use.quota_s > 0)
            add({"service", phrase("service, one update each {}", format_measure(use.quota_s, "s")),
                 for_people("updates"), 1 / upload, 1 / use.quota_s,
                 phrase("Upload every {}: {}", format_measure(std::max(use.quota_s, upload), "s"),
                        every_nth(use.quota_s / upload))});
        const double update = std::max(upload, use.quota_s);
        add({"service-values", phrase("service, {:.0f} values a second in all", service_values_per_s),
             for_people("values"), static_cast<double>(plan.sources.size()) / update, service_values_per_s,
             phrase("Upload less often, or fewer readings.")});
        for (const Reading& r : bench.readings)
            if (r.feed() == use.id && update / r.quantity.interval_s > 1.5)
                plan.decimations.push_back({r.id, r.name, whole(update / r.quantity.interval_s), update,
                                            phrase("on the way to the service")});
    }
    add({"recording", phrase("recording on this computer"), for_people("samples"), values_per_s, 0, {}});
    return plan;
}

DecimationLoss loss_of_newest_only(std::span<const double> values, std::size_t every) {
    DecimationLoss out;
    every = std::max<std::size_t>(1, every);
    for (std::size_t from = 0; from < values.size(); from += every) {
        double low = 0, high = 0, sum = 0, newest = 0;
        std::size_t n = 0;
        for (std::size_t i = from; i < std::min(values.size(), from + every); ++i) {
            const double x = values[i];
            if (!std::isfinite(x)) continue;
            low = n == 0 ? x : std::min(low, x);
            high = n == 0 ? x : std::max(high, x);
            sum += x;
            newest = x;
            ++n;
        }
        if (n == 0) continue;
        ++out.runs;
        out.missed_above = std::max(out.missed_above, high - newest);
        out.missed_below = std::max(out.missed_below, newest - low);
        out.mean_off = std::max(out.mean_off, std::abs(sum / static_cast<double>(n) - newest));
    }
    return out;
}

} // namespace cognitum
