#include "store/upkeep/bench_copy.h"

#include "core/base/phrase.h"

#include "core/decode/rejections.h" // for shown_text

#include <SQLiteCpp/Statement.h>
#include <SQLiteCpp/Transaction.h>
#include <algorithm>
#include <fmt/format.h>
#include <limits>

namespace cognitum {

namespace {

std::string times_between(TimeUs first, TimeUs last) {
    return phrase("from {} to {}", iso_time(std::clamp(first, earliest_time, latest_time)),
                  iso_time(std::clamp(last, earliest_time, latest_time)));
}

/// Rows of a table into the same table of the copy, one by one: a damaged page ends that table, not the copy. A row
/// that is not what was written is copied as it stands, and told.
void copy_rows(SQLite::Database& from, SQLite::Database& to, const SummedTable& table, const std::string& columns,
               std::vector<Problem>& lost) {
    std::uint64_t copied = 0;
    try {
        SQLite::Statement rows(from, fmt::format("SELECT {1}, check_sum IS NULL OR check_sum = row_sum({2}), {3} "
                                                 "FROM {0}",
                                                 table.name, columns, table.columns, table.row_name));
        const int n = rows.getColumnCount() - 2;
        std::string marks = "?1";
        for (int i = 2; i <= n; ++i)
            marks += fmt::format(", ?{}", i);
        const std::string summed = columns == table.columns ? marks : marks.substr(marks.find(' ') + 1);
        SQLite::Statement insert(to, fmt::format("INSERT INTO {} ({}, check_sum) VALUES ({}, row_sum({}))",
                                                 table.name, columns, marks, summed));
        while (rows.executeStep()) {
            for (int i = 0; i < n; ++i) {
                const SQLite::Column c = rows.getColumn(i);
                if (c.isInteger())
                    insert.bind(i + 1, c.getInt64());
                else if (c.isNull())
                    insert.bind(i + 1);
                else
                    insert.bind(i + 1, c.getString());
            }
            insert.exec();
            insert.reset();
            ++copied;
            if (rows.getColumn(n).getInt() == 0)
                lost.push_back({shown_text(rows.getColumn(n + 1).getString()),
                                phrase("it is not what was written; it is in the copy as it stands. Look at it.")});
        }
    } catch (const std::exception& e) {
        lost.push_back({table.name, phrase("only {} rows can be read ({}).", copied, e.what())});
    }
}

/// Error when the copy cannot be written; what cannot be read is told in the report.
Result<void> copy_series(BenchFile& from, BenchFile& to, const std::string& reading, const KeepSamples& keep,
                         CopyReport& report) {
    Result<void> written;
    const auto put = [&](std::vector<Sample> samples) {
        if (samples.empty()) return true;
        const TimeUs first = samples.front().time, last = samples.back().time;
        const SeriesBatch batch{reading, std::move(samples)};
        const auto added = add_samples(to, std::span(&batch, 1));
        if (!added) {
            written = tl::make_unexpected(added.error());
            return false;
        }
        report.samples += added->added;
        if (const std::size_t left = added->left_out[0].size(); left > 0)
            report.lost.push_back({fmt::format("reading {}", reading),
                                   phrase("{} samples have a time that is there twice or cannot be ({}).", left,
                                          times_between(first, last))});
        return true;
    };
    std::vector<Unreadable> unreadable;
    const auto done = for_each_sample(
        from, reading, std::numeric_limits<TimeUs>::min(), std::numeric_limits<TimeUs>::max(),
        [&](std::span<const Sample> samples) {
            return put(keep ? keep(reading, samples, false) : std::vector<Sample>(samples.begin(), samples.end()));
        },
        &unreadable);
    if (keep && written) put(keep(reading, {}, true));
    if (!written) return written;
    if (!done) report.lost.push_back({fmt::format("reading {}", reading), done.error().text()});
    for (const Unreadable& u : unreadable)
        report.lost.push_back({fmt::format("reading {}", reading),
                               phrase("{} samples {}: {}", u.n, times_between(u.first, u.last), u.what), u.first,
                               u.last});
    return {};
}

} // namespace

Result<CopyReport> copy_bench(BenchFile& file, const std::string& target, const KeepSamples& keep,
                              const std::function<Result<void>(BenchFile&, const CopyReport&)>& more) {
    CopyReport report;
    const auto made = BenchFile::create(target, [&](BenchFile& copy) -> Result<void> {
        return guarded(file.path(), [&]() -> Result<void> {
            {
                SQLite::Transaction transaction(copy.db(), SQLite::TransactionBehavior::IMMEDIATE);
                for (const SummedTable& table : summed_tables)
                    if (const std::string_view of = table.name; of == "plan")
                        copy_rows(file.db(), copy.db(), table, table.columns, report.lost);
                    else if (of == "calibration" || of == "logbook")
                        copy_rows(file.db(), copy.db(), table, std::string("id, ") + table.columns, report.lost);
                transaction.commit();
            }
            std::vector<std::string> readings;
            SQLite::Statement rows(file.db(), "SELECT reading FROM series ORDER BY id");
            while (rows.executeStep())
                readings.push_back(rows.getColumn(0).getString());
            for (const std::string& reading : readings)
                COGNITUM_CHECK(copy_series(file, copy, reading, keep, report));
            if (more) COGNITUM_CHECK(more(copy, report));
            return {};
        });
    });
    if (!made) return tl::make_unexpected(made.error());
    return report;
}

} // namespace cognitum
