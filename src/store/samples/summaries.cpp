// Reading a series at any zoom.
#include "store/samples/samples.h"

#include <SQLiteCpp/Statement.h>
#include <algorithm>
#include <cmath>
#include <string>

namespace cognitum {

namespace {

/// Rows of a level between two moments, ?3 and ?4. They stand one behind the other, so that of those that begin
/// before only the last one may reach into it: it is found at once, however many there are.
const std::string rows_between_moments =
    "FROM block WHERE series = ?1 AND level = ?2 AND first >= coalesce((SELECT max(p.first) FROM block p WHERE "
    "p.series = ?1 AND p.level = ?2 AND p.first <= ?3), ?3) AND first <= ?4 AND last >= ?3 ";

constexpr std::int64_t rows_at_most = 64; // of the coarsest level that is read; each carries 64 entries

struct Reader {
    SQLite::Database& db;
    std::int64_t series;
    TimeUs from, to;

    [[nodiscard]] std::int64_t rows(int level) const {
        SQLite::Statement count(db, "SELECT count(*) " + rows_between_moments);
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
        SQLite::Statement rows_between(db, "SELECT first, last, digest " + rows_between_moments + "ORDER BY first");
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
            covered = std::max(covered, std::min(rows_between.getColumn(1).getInt64(), to) + 1); // rows may lie
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

} // namespace cognitum
