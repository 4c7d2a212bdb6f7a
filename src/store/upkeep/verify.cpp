#include "store/upkeep/verify.h"

#include "core/base/phrase.h"

#include "core/decode/rejections.h" // for shown_text

#include <SQLiteCpp/Statement.h>
#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {

std::string_view bytes_of(const SQLite::Column& c) {
    return {static_cast<const char*>(c.getBlob()), static_cast<std::size_t>(c.getBytes())};
}

std::string from_to(TimeUs first, TimeUs last) {
    return phrase("from {} to {}", iso_time(std::clamp(first, earliest_time, latest_time)),
                  iso_time(std::clamp(last, earliest_time, latest_time)));
}

/// What is wrong with a block's bytes beside its row; empty: nothing. What can be read
/// is added to `readable`; `first`, `last` and `n` are what the row says.
std::string block_problem(std::string_view data, TimeUs first, TimeUs last, std::int64_t n,
                          std::uint64_t& readable) {
    const auto samples = decode_block(data);
    if (!samples) return samples.error().what;
    readable += samples->size();
    const bool sorted = std::is_sorted(samples->begin(), samples->end(),
                                       [](const Sample& a, const Sample& b) { return a.time <= b.time; });
    const bool as_said = !samples->empty() && samples->front().time == first && samples->back().time == last &&
                         static_cast<std::int64_t>(samples->size()) == n;
    return sorted && as_said ? "" : phrase("its samples are not what its row says.");
}

void verify_blocks(BenchFile& file, VerifyReport& report) {
    SQLite::Statement rows(file.db(), "SELECT b.id, s.reading, b.level, b.first, b.last, b.n, b.digest, b.data, "
                                      "typeof(b.level) = 'integer' AND typeof(b.first) = 'integer' AND "
                                      "typeof(b.last) = 'integer' AND typeof(b.n) = 'integer' AND "
                                      "typeof(b.valued) = 'integer' FROM block b "
                                      "LEFT JOIN series s ON s.id = b.series ORDER BY b.series, b.level, b.first");
    std::string previous;
    TimeUs previous_last = 0;
    while (rows.executeStep()) {
        const bool orphan = rows.getColumn(1).isNull();
        const std::string reading = orphan ? phrase("(none)") : rows.getColumn(1).getString();
        const int level = rows.getColumn(2).getInt();
        const TimeUs first = rows.getColumn(3).getInt64();
        const TimeUs last = rows.getColumn(4).getInt64();
        const std::int64_t n = rows.getColumn(5).getInt64();
        const auto tell = [&](const std::string& what) {
            report.problems.push_back({phrase("reading {}, block {}", reading, rows.getColumn(0).getInt64()),
                                       phrase("{} samples {}: {}", n, from_to(first, last), what), first, last});
        };
        if (orphan) tell(phrase("they belong to no reading."));
        if (rows.getColumn(8).getInt() == 0) tell(phrase("its row holds no numbers where numbers belong."));
        if (const auto digest = decode_digest(bytes_of(rows.getColumn(6))); !digest)
            tell(phrase("its summary for charts is damaged."));
        const std::string place = reading + "/" + std::to_string(level);
        if (place == previous && first <= previous_last) tell(phrase("it overlaps the block before it."));
        if (first < earliest_time || last > latest_time || first > last) tell(phrase("its times cannot be."));
        previous = place;
        previous_last = last;
        if (level > 0) continue;
        if (const std::string what = block_problem(bytes_of(rows.getColumn(7)), first, last, n, report.samples);
            !what.empty())
            tell(what);
    }
}

void verify_tail(BenchFile& file, VerifyReport& report) {
    SQLite::Statement rows(
        file.db(), "SELECT s.reading, count(*), min(t.time), max(t.time), "
                   "sum(typeof(t.time) <> 'integer' OR t.time < ?1 OR t.time > ?2), "
                   "sum(typeof(t.cause) <> 'integer' OR t.cause < 0 OR t.cause > ?3 OR "
                   "typeof(t.raw) NOT IN ('real', 'null') OR typeof(t.value) NOT IN ('real', 'null')), "
                   "sum(t.time <= (SELECT max(last) FROM block b WHERE b.series = t.series AND b.level = 0)), "
                   "sum(t.check_sum IS NOT NULL AND "
                   "t.check_sum <> row_sum(t.series, t.time, t.raw, t.value, t.cause)) "
                   "FROM tail t LEFT JOIN series s ON s.id = t.series GROUP BY t.series");
    rows.bind(1, earliest_time);
    rows.bind(2, latest_time);
    rows.bind(3, static_cast<int>(last_cause));
    while (rows.executeStep()) {
        const std::int64_t n = rows.getColumn(1).getInt64();
        const bool orphan = rows.getColumn(0).isNull();
        const std::string where =
            orphan ? phrase("newest samples") : phrase("reading {}, newest samples", rows.getColumn(0).getString());
        const TimeUs first = rows.getColumn(2).getInt64();
        const TimeUs last = rows.getColumn(3).getInt64();
        const auto tell = [&](std::int64_t count, const char* what) {
            if (count > 0)
                report.problems.push_back(
                    {where, fmt::format("{} {} ({}).", count, what, from_to(first, last)), first, last});
        };
        tell(orphan ? n : 0, phrase("belong to no reading"));
        tell(rows.getColumn(4).getInt64(), phrase("have a time that cannot be"));
        tell(rows.getColumn(5).getInt64(),
             phrase("have a cause that this version does not know, or a number that is none"));
        tell(rows.getColumn(6).getInt64(), phrase("belong before a block"));
        const std::int64_t changed = rows.getColumn(7).getInt64();
        tell(changed, phrase("are not what was written"));
        report.samples += orphan ? 0 : static_cast<std::uint64_t>(n - changed);
    }
}

/// Rows that are not what was written, by their sums.
void verify_sums(BenchFile& file, VerifyReport& report) {
    for (const SummedTable& table : summed_tables) {
        if (std::string_view(table.name) == "tail") continue; // told with its times
        SQLite::Statement rows(file.db(),
                               fmt::format("SELECT {1} FROM {0} WHERE check_sum <> row_sum({2}) LIMIT 20",
                                           table.name, table.row_name, table.columns));
        while (rows.executeStep())
            report.problems.push_back(
                {shown_text(rows.getColumn(0).getString()), phrase("it is not what was written.")});
    }
}

/// Samples of readings that the plan neither has nor had: a plan was lost.
void verify_owners(BenchFile& file, VerifyReport& report) {
    SQLite::Statement rows(file.db(), "SELECT reading FROM series WHERE reading NOT IN "
                                      "(SELECT id FROM plan WHERE kind IN ('reading', 'removed')) LIMIT 20");
    while (rows.executeStep())
        report.problems.push_back({fmt::format("reading {}", shown_text(rows.getColumn(0).getString())),
                                   phrase("it has samples, and the plan neither has nor had it.")});
}

} // namespace

Result<VerifyReport> verify(BenchFile& file) {
    return guarded(file.path(), [&]() -> Result<VerifyReport> {
        VerifyReport report;
        SQLite::Statement check(file.db(), "PRAGMA integrity_check(20)");
        while (check.executeStep())
            if (const std::string line = check.getColumn(0).getString(); line != "ok")
                report.problems.push_back({"database", line});
        if (const auto plan = file.load_plan(); !plan) report.problems.push_back({"plan", plan.error().text()});
        verify_blocks(file, report);
        verify_tail(file, report);
        verify_sums(file, report);
        verify_owners(file, report);
        return report;
    });
}

} // namespace cognitum
