#include "store/upkeep/thin.h"

#include "core/base/phrase.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>

namespace cognitum {

namespace {

TimeUs step_of(TimeUs time, TimeUs step) {
    return time / step - (time % step < 0 ? 1 : 0);
}

} // namespace

void Thinner::take(const Sample& sample, std::vector<Sample>& out) {
    if (sample.time >= m_before) {
        finish(out);
        out.push_back(sample);
        return;
    }
    if (const TimeUs step = step_of(sample.time, m_step); step != m_at || m_waiting.empty()) {
        finish(out);
        m_at = step;
    }
    m_waiting.push_back(sample);
}

/// What a step keeps of its samples.
void Thinner::finish(std::vector<Sample>& out) {
    if (m_waiting.empty()) return;
    std::vector<bool> keep(m_waiting.size(), false);
    keep.front() = keep.back() = true;
    std::size_t least = m_waiting.size(), most = least, failure = least;
    for (std::size_t i = 0; i < m_waiting.size(); ++i) {
        const Sample& s = m_waiting[i];
        if (!std::isfinite(s.value)) {
            failure = std::min(failure, i);
            continue;
        }
        if (least == m_waiting.size() || s.value < m_waiting[least].value) least = i;
        if (most == m_waiting.size() || s.value > m_waiting[most].value) most = i;
    }
    for (const std::size_t i : {least, most, failure})
        if (i < m_waiting.size()) keep[i] = true;
    for (std::size_t i = 1; i < m_waiting.size() && m_is_state; ++i)
        if (m_waiting[i].value != m_waiting[i - 1].value) keep[i - 1] = keep[i] = true; // a failure is a change too
    for (std::size_t i = 0; i < m_waiting.size(); ++i)
        if (keep[i]) out.push_back(m_waiting[i]);
    m_waiting.clear();
}

Result<ThinReport> thin_into(BenchFile& file, const ThinRequest& request, const std::string& target, TimeUs now) {
    if (request.step <= 0) return failure(phrase("the step must be longer than nothing."));
    COGNITUM_TRY(plan, file.load_plan());
    const auto is_thinned = [&](const std::string& id) {
        return request.readings.empty() ||
               std::find(request.readings.begin(), request.readings.end(), id) != request.readings.end();
    };
    std::map<std::string, Thinner> thinners;
    std::map<std::string, ThinReport::Series> series;
    const auto keep = [&](const std::string& id, std::span<const Sample> samples, bool ended) {
        if (!is_thinned(id)) return std::vector<Sample>(samples.begin(), samples.end());
        const Reading* reading = plan.reading(id);
        const bool is_state = reading && reading->quantity.about().is_state();
        Thinner& thinner = thinners.try_emplace(id, request.before, request.step, is_state).first->second;
        std::vector<Sample> out;
        for (const Sample& s : samples)
            thinner.take(s, out);
        if (ended) thinner.finish(out);
        ThinReport::Series& count = series.try_emplace(id, ThinReport::Series{id, 0, 0}).first->second;
        count.kept += out.size();
        count.thrown += samples.size(); // less what was kept, below
        return out;
    };
    ThinReport report;
    const auto write_log = [&](BenchFile& copy, const CopyReport& copied) -> Result<void> {
        if (!copied.lost.empty())
            return failure(phrase("part of it cannot be read: {}", copied.lost.front().what), file.path(),
                           phrase("Mend it first: cognitum-cli verify FILE --mend COPY."));
        for (auto& [id, count] : series) {
            count.thrown -= count.kept;
            if (count.thrown == 0) continue;
            const std::string text =
                phrase("Thinned before {}: {} of {} samples are kept, of each {} s the first, last, least and "
                       "most value and "
                       "the first failure. Means of that time are those of what was kept. The whole is in {}.",
                       iso_time(request.before), count.kept, count.kept + count.thrown, seconds(request.step),
                       file.path());
            COGNITUM_CHECK(copy.append_log({0, now, id, log_kind::edit, text, 0}));
            report.series.push_back(count);
        }
        return {};
    };
    COGNITUM_CHECK(copy_bench(file, target, keep, write_log));
    return report;
}

} // namespace cognitum
