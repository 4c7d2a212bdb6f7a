#include "store/samples/reevaluate.h"

#include "core/base/phrase.h"
#include "core/plan/intake.h"
#include "core/units/format.h"
#include "store/samples/samples.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr std::size_t raw_at_once = 200'000;
constexpr const char* not_finished = " (not finished)";

void count(Reevaluated& out, double before, const Sample& now) {
    const bool had = std::isfinite(before), has = std::isfinite(now.value);
    out.lost += had && !has;
    out.found += !had && has;
    if (!had || !has) return;
    const double difference = now.value - before;
    ++out.both;
    out.mean_difference += (difference - out.mean_difference) / static_cast<double>(out.both);
    if (out.both == 1 || std::abs(difference) > std::abs(out.largest_difference)) {
        out.largest_difference = difference;
        out.largest_at = now.time;
    }
}

Result<void> rename(BenchFile& file, const std::string& id, const std::string& name) {
    COGNITUM_TRY(plan, file.load_plan());
    if (Reading* reading = plan.reading(id)) reading->name = name;
    COGNITUM_CHECK(file.save_plan(plan));
    return {};
}

std::string signed_value(double value, double digits, const std::string& unit) {
    return (value > 0 ? "+" : "") + format_value(value, digits, unit);
}

} // namespace

std::string reevaluated_says(const Reevaluated& r, const Quantity& quantity) {
    std::string out = phrase("{} recorded values seen anew through the path of today, as “{}”. The old ones "
                             "stay as they were.",
                             format_fixed(static_cast<double>(r.samples), 0), r.name);
    const double digits = quantity.accuracy / 10;
    if (r.both > 0)
        out += phrase(" New less old: {} on average, {} at most, at {}.",
                      signed_value(r.mean_difference, digits, quantity.unit),
                      signed_value(r.largest_difference, digits, quantity.unit), iso_time(r.largest_at));
    if (r.lost > 0) out += phrase(" {} have no value any more.", r.lost);
    if (r.found > 0) out += phrase(" {} have a value now.", r.found);
    return out;
}

Result<Reevaluated> reevaluate(BenchFile& file, const std::string& id, const std::optional<Interval>& stretch,
                               TimeUs now, const std::function<bool()>& go_on) {
    COGNITUM_TRY(plan, file.load_plan());
    const Reading* found = plan.reading(id);
    if (!found) return failure(phrase("the reading is not there any more."), file.path());
    const Reading reading = *found; // the plan grows below
    if (!followed(reading.path).empty())
        return failure(
            phrase("its path follows another reading, whose values of that time are not asked."), {},
            phrase("With what is assumed instead the old values would be wrong: export both, and convert them."));
    if (const std::string why = no_way(reading); !why.empty()) return failure(why, reading.name);
    COGNITUM_TRY(known, extent(file, id));
    const Interval asked = stretch.value_or(Interval{known.first, known.last + 1});
    const Chain path = effective_path(reading);
    Reading again = reading;
    again.id = plan.free_id(fmt::format("{} again", reading.name));
    const TimeUs since = reading.correction ? reading.correction->time : now;
    Reevaluated out;
    out.reading = again.id;
    out.name = reading.name + (reading.correction ? ", as calibrated on " : ", by the constants of ") +
               iso_time(since).substr(0, 10);
    again.name = out.name + not_finished;
    again.wiring = {}; // a series of its own: nothing arrives there any more
    again.source = {};
    if (again.correction && !correction_is_stale(reading)) again.correction->path_key = path_key(again); // it holds
    SeriesBatch batch{again.id, {}};
    bool planned = false, any_raw = false;
    const auto keep = [&]() -> Result<void> {
        if (batch.samples.empty() || !any_raw) return {};
        if (!std::exchange(planned, true)) {
            plan.readings.push_back(again);
            COGNITUM_CHECK(file.save_plan(plan));
        }
        COGNITUM_TRY(added, add_samples(file, {&batch, 1}));
        out.samples += added.added;
        batch.samples.clear();
        return {};
    };
    // Read in pieces: no statement is open while samples are added.
    TimeUs next = asked.from;
    bool ended = known.n == 0;
    while (!ended) {
        ended = true;
        COGNITUM_CHECK(for_each_sample(file, id, next, asked.to - 1, [&](std::span<const Sample> samples) {
            for (Sample sample : samples) {
                next = sample.time + 1;
                const bool is_raw = std::isfinite(sample.raw);
                if (!is_raw && sample.cause == Cause::none) continue; // a finished value: nothing to see anew
                any_raw = any_raw || is_raw;
                const double before = sample.value;
                const Value v = is_raw ? forward(path, sample.raw) : Value::none(sample.cause);
                sample.value = v.number;
                sample.cause = v.cause;
                count(out, before, sample);
                batch.samples.push_back(sample);
            }
            ended = batch.samples.size() < raw_at_once;
            return ended;
        }));
        COGNITUM_CHECK(keep());
        if (go_on && !go_on())
            return failure(phrase("it was stopped."), again.name, phrase("Remove this reading, or begin anew."));
    }
    if (out.samples == 0)
        return failure(phrase("nothing was recorded raw of it in that time."), {},
                       phrase("There is nothing to see with other eyes."));
    COGNITUM_CHECK(rename(file, again.id, out.name));
    const InEnglish in_the_logbook;
    const std::string by = reading.correction ? phrase(" Calibration {}.", reading.correction->record) : "";

    COGNITUM_CHECK(
        file.append_log({0, now, id, log_kind::calibration, reevaluated_says(out, reading.quantity) + by, 0}));
    return out;
}

} // namespace cognitum
