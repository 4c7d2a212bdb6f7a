// Reading a series at any zoom.
#include "store/samples.h"

#include <SQLiteCpp/Statement.h>
#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

constexpr std::int64_t rows_at_most = 64; // of the coarsest level that is read; each carries 64 entries

struct Reader {
    SQLite::Database& db;
    std::int64_t series;
    TimeUs from, to;

    [[nodiscard]] std::int64_t rows(int level) const {
        SQLite::Statement count(
            db, "SELECT count(*) FROM block WHERE series = ? AND level = ? AND last >= ? AND first <= ?");
        count.bind(1, series);
        count.bind(2, level);
        count.bind(3, from);
        count.bind(4, to);
        count.executeStep();
        return count.getColumn(0).getInt64();
    }

    /// Entries of a level between a and b; where the level has no row (it is built behind the newest blocks), those
    /// of the level below.
    void collect(int level, TimeUs a, TimeUs b, std::vector<Summary>& out) const {
        if (level < 0 || a > b) return;
        SQLite::Statement rows_between(
            db, "SELECT first, last, digest FROM block WHERE series = ? AND level = ? AND last >= ? "
                "AND first <= ? ORDER BY first");
        rows_between.bind(1, series);
        rows_between.bind(2, level);
        rows_between.bind(3, a);
        rows_between.bind(4, b);
        TimeUs covered = a;
        while (rows_between.executeStep()) {
            const TimeUs first = rows_between.getColumn(0).getInt64();
            if (first > covered) collect(level - 1, covered, first - 1, out);
            const SQLite::Column column = rows_between.getColumn(2);
            const auto digest = decode_digest(
                {static_cast<const char*>(column.getBlob()), static_cast<std::size_t>(column.getBytes())});
            if (!digest) throw std::runtime_error(digest.error().what);
            for (const Summary& s : *digest)
                if (s.to >= a && s.from <= b) out.push_back(s);
            covered = rows_between.getColumn(1).getInt64() + 1;
        }
        collect(level - 1, covered, b, out);
    }
};

Summary of_one(const Sample& s) {
    return summarise(std::span(&s, 1));
}

} // namespace

Result<std::vector<Summary>> summaries(BenchFile& file, const std::string& reading, TimeUs from, TimeUs to,
                                       std::size_t fine) {
    return guarded(file.path(), [&]() -> Result<std::vector<Summary>> {
        std::vector<Summary> out;
        SQLite::Statement find(file.db(), "SELECT id FROM series WHERE reading = ?");
        find.bind(1, reading);
        if (!find.executeStep()) return out;
        const Reader reader{file.db(), find.getColumn(0).getInt64(), from, to};
        const auto fine_blocks = static_cast<std::int64_t>(fine / samples_per_block + 2);
        if (reader.rows(0) <= fine_blocks) {
            COGNITUM_CHECK(for_each_sample(file, reading, from, to, [&](std::span<const Sample> samples) {
                for (const Sample& s : samples)
                    out.push_back(of_one(s));
                return true;
            }));
            return out;
        }
        int level = 0;
        while (reader.rows(level) > rows_at_most && reader.rows(level + 1) > 0)
            ++level;
        reader.collect(level, from, to, out);
        const TimeUs behind = out.empty() ? from : std::max(from, out.back().to + 1);
        COGNITUM_CHECK(for_each_sample(file, reading, behind, to, [&](std::span<const Sample> samples) {
            for (const Sample& s : samples)
                out.push_back(of_one(s));
            return true;
        }));
        return out;
    });
}

Result<VerifyReport> verify(BenchFile& file) {
    return guarded(file.path(), [&]() -> Result<VerifyReport> {
        VerifyReport report;
        SQLite::Statement check(file.db(), "PRAGMA integrity_check(20)");
        while (check.executeStep())
            if (const std::string line = check.getColumn(0).getString(); line != "ok")
                report.problems.push_back({"database", line});
        if (const auto plan = file.load_plan(); !plan) report.problems.push_back({"plan", plan.error().text()});

        SQLite::Statement rows(
            file.db(), "SELECT b.id, s.reading, b.level, b.first, b.last, b.n, b.digest, b.data FROM block b "
                       "JOIN series s ON s.id = b.series ORDER BY b.series, b.level, b.first");
        std::string previous;
        TimeUs last = 0;
        while (rows.executeStep()) {
            const std::string reading = rows.getColumn(1).getString();
            const int level = rows.getColumn(2).getInt();
            const std::string where =
                "reading " + reading + ", block " + std::to_string(rows.getColumn(0).getInt64());
            const TimeUs first = rows.getColumn(3).getInt64();
            const auto blob = [&](int column) {
                const SQLite::Column c = rows.getColumn(column);
                return std::string_view(static_cast<const char*>(c.getBlob()),
                                        static_cast<std::size_t>(c.getBytes()));
            };
            if (const auto digest = decode_digest(blob(6)); !digest)
                report.problems.push_back({where, digest.error().what});
            const std::string place = reading + "/" + std::to_string(level);
            if (place == previous && first <= last)
                report.problems.push_back({where, "it overlaps the block before it."});
            previous = place;
            last = rows.getColumn(4).getInt64();
            if (level > 0) continue;
            const auto samples = decode_block(blob(7));
            if (!samples) {
                report.problems.push_back({where, samples.error().what});
                continue;
            }
            const bool sorted = std::is_sorted(samples->begin(), samples->end(),
                                               [](const Sample& a, const Sample& b) { return a.time <= b.time; });
            if (!sorted || samples->empty() || samples->front().time != first || samples->back().time != last ||
                static_cast<std::int64_t>(samples->size()) != rows.getColumn(5).getInt64())
                report.problems.push_back({where, "its samples are not what its row says."});
            report.samples += samples->size();
        }
        report.samples += static_cast<std::uint64_t>(file.db().execAndGet("SELECT count(*) FROM tail").getInt64());
        const auto early =
            file.db().execAndGet("SELECT count(*) FROM tail t WHERE t.time <= (SELECT max(last) FROM block b WHERE "
                                 "b.series = t.series AND b.level = 0)");
        if (early.getInt64() > 0) report.problems.push_back({"tail", "samples wait that belong before a block."});
        return report;
    });
}

} // namespace cognitum
