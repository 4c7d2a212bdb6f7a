// The beginning of a file of JSON or SenML, as a preview reads it; and times as other programs write them.
#include "core/base/local_time.h"
#include "fuzz.h"
#include "store/exchange/json_import.h"

#include <string>

using namespace cognitum;

HARNESS(points)(const std::uint8_t* data, std::size_t size) {
    const std::string_view text = text_of(data, size);
    TimeReader reader(static_cast<DateOrder>(size % 3), [](TimeUs utc) { return utc % 7 * hour_us; });
    if (const auto t = reader.read(text)) PROMISE(*t >= earliest_time - day_us && *t <= latest_time + day_us);
    DateOrderJudge judge;
    judge.take(text);
    if (form_of(text) == ImportForm::csv) return 0;
    const auto preview = preview_points("fuzz", text, {});
    if (!preview) {
        PROMISE(!preview.error().what.empty());
        return 0;
    }
    PROMISE(!preview->first || (*preview->first >= earliest_time && *preview->first <= *preview->last));
    std::uint64_t n = 0;
    for (const PointsPreview::Series& series : preview->series) {
        PROMISE(!series.name.empty() && series.n > 0);
        n += series.n;
    }
    PROMISE(n == preview->good);
    return 0;
}
