#include "store/samples/sample_rows.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {

double real_or_nan(const SQLite::Column& column) {
    return column.isNull() ? no_number : column.getDouble();
}

} // namespace

std::int64_t find_series(SQLite::Database& db, const std::string& reading) {
    SQLite::Statement find(db, "SELECT id FROM series WHERE reading = ?");
    find.bind(1, reading);
    return find.executeStep() ? find.getColumn(0).getInt64() : 0;
}

std::vector<Sample> read_tail(SQLite::Database& db, std::int64_t series, TimeUs from, TimeUs to,
                              std::uint64_t* damaged) {
    SQLite::Statement rows(db, "SELECT time, raw, value, cause, " + tail_row_holds +
                                   " FROM tail WHERE series = ? AND time BETWEEN ? AND ? ORDER BY time");
    rows.bind(1, series);
    rows.bind(2, from);
    rows.bind(3, to);
    std::vector<Sample> out;
    while (rows.executeStep()) {
        if (rows.getColumn(4).getInt() == 0) {
            if (damaged) ++*damaged;
            continue;
        }
        const auto cause = cause_from_number(rows.getColumn(3).getInt64());
        // An unknown cause is damage that verify() names; it must not make a value of what is none.
        out.push_back({rows.getColumn(0).getInt64(), real_or_nan(rows.getColumn(1)),
                       cause ? real_or_nan(rows.getColumn(2)) : no_number, cause.value_or(Cause::failed)});
    }
    return out;
}

Result<void> for_each_sample(BenchFile& file, const std::string& reading, TimeUs from, TimeUs to,
                             const std::function<bool(std::span<const Sample>)>& f,
                             std::vector<Unreadable>* unreadable) {
    return guarded(file.path(), [&]() -> Result<void> {
        const std::int64_t series = find_series(file.db(), reading);
        if (!series) return {};
        const auto cut = [&](std::span<const Sample> all) {
            const auto later = [](const Sample& s, TimeUs t) { return s.time < t; };
            const auto begin = std::lower_bound(all.begin(), all.end(), from, later);
            const auto end = to == end_of_time ? all.end() : std::lower_bound(begin, all.end(), to + 1, later);
            return std::span<const Sample>(begin, end);
        };
        SQLite::Statement rows(
            file.db(),
            "SELECT data, first, last, n FROM block WHERE series = ? AND level = 0 AND last >= ? AND first <= ? "
            "ORDER BY first");
        rows.bind(1, series);
        rows.bind(2, from);
        rows.bind(3, to);
        while (rows.executeStep()) {
            const auto samples = decode_block(blob(rows.getColumn(0)));
            if (!samples && !unreadable)
                return failure(samples.error().what, file.path(), phrase("Run: cognitum-cli verify"));
            if (!samples)
                // Its row may be damaged as well: what is told stays within what can be.
                unreadable->push_back(
                    {reading, std::clamp(rows.getColumn(1).getInt64(), earliest_time, latest_time),
                     std::clamp(rows.getColumn(2).getInt64(), earliest_time, latest_time),
                     static_cast<std::uint64_t>(std::max<std::int64_t>(0, rows.getColumn(3).getInt64())),
                     samples.error().what});
            else if (!f(cut(*samples)))
                return {};
        }
        std::uint64_t damaged = 0;
        const auto tail = read_tail(file.db(), series, from, to, &damaged);
        const char* const not_as_written = phrase("they are not what was written");
        if (damaged > 0 && !unreadable)
            return failure(not_as_written, file.path(), phrase("Run: cognitum-cli verify"));
        if (damaged > 0)
            unreadable->push_back(
                {reading, std::max(from, earliest_time), std::min(to, latest_time), damaged, not_as_written});
        if (!tail.empty()) f(tail);
        return {};
    });
}

Result<SeriesExtent> extent(BenchFile& file, const std::string& reading) {
    return guarded(file.path(), [&]() -> Result<SeriesExtent> {
        SeriesExtent out;
        const std::int64_t series = find_series(file.db(), reading);
        if (!series) return out;
        SQLite::Statement row(
            file.db(),
            "SELECT sum(n), min(first), max(last) FROM ("
            "SELECT sum(n) AS n, min(first) AS first, max(last) AS last FROM block WHERE series = ?1 AND level = 0 "
            "UNION ALL SELECT count(*), min(time), max(time) FROM tail WHERE series = ?1)");
        row.bind(1, series);
        row.executeStep();
        out.n = static_cast<std::uint64_t>(row.getColumn(0).getInt64());
        out.first = row.getColumn(1).getInt64();
        out.last = row.getColumn(2).getInt64();
        return out;
    });
}

Result<std::optional<TimeUs>> sample_before(BenchFile& file, const std::string& reading, TimeUs time) {
    return guarded(file.path(), [&]() -> Result<std::optional<TimeUs>> {
        const std::int64_t series = find_series(file.db(), reading);
        SQLite::Statement row(
            file.db(), "SELECT max(t) FROM (SELECT max(first) AS t FROM block WHERE series = ?1 AND level = 0 AND "
                       "first < ?2 UNION ALL SELECT max(time) FROM tail WHERE series = ?1 AND time < ?2)");
        row.bind(1, series);
        row.bind(2, time);
        if (!row.executeStep() || row.getColumn(0).isNull()) return std::optional<TimeUs>{};
        return std::optional<TimeUs>{row.getColumn(0).getInt64()};
    });
}

Result<bool> has_samples(BenchFile& file) {
    return guarded(file.path(), [&]() -> Result<bool> {
        return file.db()
                   .execAndGet("SELECT EXISTS (SELECT 1 FROM tail) OR EXISTS (SELECT 1 FROM block)")
                   .getInt() != 0;
    });
}

} // namespace cognitum
