#include "store/samples/sample_rows.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"

#include <SQLiteCpp/Savepoint.h>
#include <SQLiteCpp/Statement.h>
#include <SQLiteCpp/Transaction.h>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <limits>
#include <numeric>
#include <stdexcept>

namespace cognitum {

namespace {

constexpr std::size_t rows_per_level = 64;

void bind_real(SQLite::Statement& statement, int index, double value) {
    if (std::isnan(value))
        statement.bind(index);
    else
        statement.bind(index, value);
}

std::int64_t make_series(SQLite::Database& db, const std::string& reading) {
    if (const std::int64_t known = find_series(db, reading)) return known;
    SQLite::Statement insert(db, "INSERT INTO series (reading, check_sum) VALUES (?1, row_sum(?1))");
    insert.bind(1, reading);
    insert.exec();
    const std::int64_t id = db.getLastInsertRowid();
    // Of a reading that the plan does not have: as one that was removed, so that samples never belong to nobody.
    SQLite::Statement owner(db, "INSERT INTO plan (kind, id, position, body, check_sum) "
                                "SELECT 'removed', ?1, 0, '{}', row_sum('removed', ?1, 0, '{}') WHERE NOT EXISTS "
                                "(SELECT 1 FROM plan WHERE kind IN ('reading', 'removed') AND id = ?1)");
    owner.bind(1, reading);
    owner.exec();
    return id;
}

void write_tail(SQLite::Database& db, std::int64_t series, std::span<const Sample> samples) {
    // A row of the same time can only be a damaged one: what is sound takes its place.
    SQLite::Statement insert(db, "INSERT OR REPLACE INTO tail (series, time, raw, value, cause, check_sum) "
                                 "VALUES (?1, ?2, ?3, ?4, ?5, row_sum(?1, ?2, ?3, ?4, ?5))");
    for (const Sample& s : samples) {
        insert.bind(1, series);
        insert.bind(2, s.time);
        bind_real(insert, 3, s.raw);
        bind_real(insert, 4, s.value);
        insert.bind(5, static_cast<int>(s.cause));
        insert.exec();
        insert.reset();
    }
}

void insert_row(SQLite::Database& db, std::int64_t series, int level, const Summary& s, const std::string& digest,
                const std::string* data) {
    SQLite::Statement insert(
        db, "INSERT INTO block (series, level, first, last, n, valued, low, high, sum, digest, data, check_sum) "
            "VALUES (?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11, "
            "row_sum(?1, ?2, ?3, ?4, ?5, ?6, ?7, ?8, ?9, ?10, ?11))");
    insert.bind(1, series);
    insert.bind(2, level);
    insert.bind(3, s.from);
    insert.bind(4, s.to);
    insert.bind(5, static_cast<std::int64_t>(s.n));
    insert.bind(6, static_cast<std::int64_t>(s.valued));
    if (s.valued) {
        insert.bind(7, s.low);
        insert.bind(8, s.high);
        insert.bind(9, s.sum);
    }
    insert.bind(10, digest.data(), static_cast<int>(digest.size()));
    if (data) insert.bind(11, data->data(), static_cast<int>(data->size()));
    insert.exec();
}

void write_block(SQLite::Database& db, std::int64_t series, std::span<const Sample> samples) {
    const std::string data = encode_block(samples);
    insert_row(db, series, 0, summarise(samples), encode_digest(digest_of(samples)), &data);
}

Summary summary_of_row(SQLite::Statement& row) { // first, last, n, valued, low, high, sum in columns 0…6
    Summary s;
    s.from = row.getColumn(0).getInt64();
    s.to = row.getColumn(1).getInt64();
    s.n = static_cast<std::uint64_t>(row.getColumn(2).getInt64());
    s.valued = static_cast<std::uint64_t>(row.getColumn(3).getInt64());
    if (s.valued) {
        s.low = row.getColumn(4).getDouble();
        s.high = row.getColumn(5).getDouble();
        s.sum = row.getColumn(6).getDouble();
    }
    return s;
}

/// Where the rows of a level end; they stand one behind the other, so that the one that begins last ends last.
std::optional<TimeUs> end_of_level(SQLite::Database& db, std::int64_t series, int level) {
    SQLite::Statement last(db, "SELECT last FROM block WHERE series = ? AND level = ? ORDER BY first DESC LIMIT 1");
    last.bind(1, series);
    last.bind(2, level);
    return last.executeStep() ? std::optional<TimeUs>(last.getColumn(0).getInt64()) : std::nullopt;
}

/// Adds a row to the next level whenever 64 rows of a level stand behind its last one.
void build_levels(SQLite::Database& db, std::int64_t series) {
    for (int level = 0;; ++level) {
        bool built = false;
        while (true) {
            const std::optional<TimeUs> covered = end_of_level(db, series, level + 1);
            SQLite::Statement rows(
                db, "SELECT first, last, n, valued, low, high, sum FROM block WHERE series = ? AND level = ? "
                    "AND first > ? ORDER BY first LIMIT ?");
            rows.bind(1, series);
            rows.bind(2, level);
            rows.bind(3, covered.value_or(std::numeric_limits<TimeUs>::min()));
            rows.bind(4, static_cast<std::int64_t>(rows_per_level));
            std::vector<Summary> parts;
            while (rows.executeStep())
                parts.push_back(summary_of_row(rows));
            if (parts.size() < rows_per_level) break;
            insert_row(db, series, level + 1, summarise(parts), encode_digest(parts), nullptr);
            built = true;
        }
        if (!built) return;
    }
}

/// What new samples belong among cannot be read.
struct DamagedBlock : std::runtime_error {
    using std::runtime_error::runtime_error;
};

std::vector<Sample> blocks_in(SQLite::Database& db, std::int64_t series, TimeUs from, TimeUs to) {
    SQLite::Statement rows(
        db, "SELECT data FROM block WHERE series = ? AND level = 0 AND last >= ? AND first <= ? ORDER BY first");
    rows.bind(1, series);
    rows.bind(2, from);
    rows.bind(3, to);
    std::vector<Sample> out;
    while (rows.executeStep()) {
        const auto samples = decode_block(blob(rows.getColumn(0)));
        if (!samples) throw DamagedBlock(samples.error().what);
        out.insert(out.end(), samples->begin(), samples->end());
    }
    return out;
}

struct Ends {
    TimeUs last_block = std::numeric_limits<TimeUs>::min();
    TimeUs last = std::numeric_limits<TimeUs>::min();
    std::size_t waiting = 0;
};

Ends ends_of(SQLite::Database& db, std::int64_t series) {
    Ends ends;
    if (const auto last = end_of_level(db, series, 0)) ends.last_block = ends.last = *last;
    SQLite::Statement tail(db, "SELECT count(*) FROM tail WHERE series = ?");
    tail.bind(1, series);
    tail.executeStep();
    ends.waiting = static_cast<std::size_t>(tail.getColumn(0).getInt64());
    SQLite::Statement newest(db, "SELECT time FROM tail WHERE series = ? AND " + tail_row_holds +
                                     " ORDER BY time DESC LIMIT 1");
    newest.bind(1, series);
    if (newest.executeStep()) ends.last = std::max(ends.last, newest.getColumn(0).getInt64());
    return ends;
}

/// What waits; a damaged row stays for verify().
void delete_tail(SQLite::Database& db, std::int64_t series) {
    SQLite::Statement tail(db, "DELETE FROM tail WHERE series = ? AND " + tail_row_holds);
    tail.bind(1, series);
    tail.exec();
}

void delete_between(SQLite::Database& db, std::int64_t series, TimeUs from, TimeUs to) {
    SQLite::Statement blocks(db, "DELETE FROM block WHERE series = ? AND level = 0 AND last >= ? AND first <= ?");
    blocks.bind(1, series);
    blocks.bind(2, from);
    blocks.bind(3, to);
    blocks.exec();
    SQLite::Statement above(db, "DELETE FROM block WHERE series = ? AND level > 0 AND last >= ?");
    above.bind(1, series);
    above.bind(2, from);
    above.exec();
}

/// Full blocks into `block`; what is left waits in the (empty) tail, or becomes a small block where later ones
/// stand.
void write_run(SQLite::Database& db, std::int64_t series, std::span<const Sample> samples, bool rest_to_tail) {
    while (samples.size() >= samples_per_block || (!rest_to_tail && !samples.empty())) {
        const std::size_t n = std::min(samples.size(), samples_per_block);
        write_block(db, series, samples.first(n));
        samples = samples.subspan(n);
    }
    write_tail(db, series, samples);
    build_levels(db, series);
}

/// Samples of one series in order of time, each time once; `index` is where each stood in the batch.
struct Ordered {
    std::vector<Sample> samples;
    std::vector<std::size_t> index, left_out;
};

Ordered in_order(const std::vector<Sample>& incoming) {
    std::vector<std::size_t> order(incoming.size());
    std::iota(order.begin(), order.end(), std::size_t(0));
    const auto earlier = [&](std::size_t a, std::size_t b) { return incoming[a].time < incoming[b].time; };
    if (!std::is_sorted(order.begin(), order.end(), earlier)) std::stable_sort(order.begin(), order.end(), earlier);
    Ordered out;
    out.samples.reserve(incoming.size());
    out.index.reserve(incoming.size());
    for (const std::size_t i : order) {
        const Sample& s = incoming[i];
        const bool known = !out.samples.empty() && out.samples.back().time == s.time;
        if (known || s.time < earliest_time || s.time > latest_time) {
            out.left_out.push_back(i);
        } else {
            out.samples.push_back(s);
            out.index.push_back(i);
        }
    }
    return out;
}

/// Samples that lie among those that are there: what they overlap is read, merged and written anew.
void merge_into_series(SQLite::Database& db, std::int64_t series, const Ends& ends, Ordered& fresh) {
    const TimeUs low = fresh.samples.front().time;
    const TimeUs high = fresh.samples.back().time;
    std::vector<Sample> there = blocks_in(db, series, low, high);
    const bool is_last = high > ends.last_block || (!there.empty() && there.back().time == ends.last_block);
    if (is_last && ends.waiting > 0) {
        const auto tail = read_tail(db, series, std::numeric_limits<TimeUs>::min(), end_of_time);
        there.insert(there.end(), tail.begin(), tail.end());
    }
    std::vector<Sample> merged;
    merged.reserve(there.size() + fresh.samples.size());
    std::size_t a = 0;
    for (std::size_t i = 0; i < fresh.samples.size(); ++i) {
        const Sample& s = fresh.samples[i];
        while (a < there.size() && there[a].time < s.time)
            merged.push_back(there[a++]);
        if (a < there.size() && there[a].time == s.time)
            fresh.left_out.push_back(fresh.index[i]);
        else
            merged.push_back(s);
    }
    merged.insert(merged.end(), there.begin() + static_cast<std::ptrdiff_t>(a), there.end());
    delete_between(db, series, low, high);
    if (is_last) delete_tail(db, series);
    write_run(db, series, merged, is_last);
}

/// Adds to a series; returns the indices that were left out.
std::vector<std::size_t> add_to_series(SQLite::Database& db, std::int64_t series,
                                       const std::vector<Sample>& incoming) {
    Ordered fresh = in_order(incoming);
    if (!fresh.samples.empty()) {
        const Ends ends = ends_of(db, series);
        if (fresh.samples.front().time <= ends.last) {
            merge_into_series(db, series, ends, fresh);
        } else if (ends.waiting + fresh.samples.size() < samples_per_block) { // the usual case: new and later
            write_tail(db, series, fresh.samples);
        } else {
            std::vector<Sample> run = read_tail(db, series, std::numeric_limits<TimeUs>::min(), end_of_time);
            run.insert(run.end(), fresh.samples.begin(), fresh.samples.end());
            delete_tail(db, series);
            write_run(db, series, run, true);
        }
    }
    std::sort(fresh.left_out.begin(), fresh.left_out.end());
    return fresh.left_out;
}

} // namespace

Result<AddResult> add_samples(BenchFile& file, std::span<const SeriesBatch> batches) {
    return guarded(file.path(), [&]() -> Result<AddResult> {
        SQLite::Transaction transaction(file.db(), SQLite::TransactionBehavior::IMMEDIATE);
        AddResult out;
        for (std::size_t i = 0; i < batches.size(); ++i) {
            const SeriesBatch& batch = batches[i];
            SQLite::Savepoint one_series(file.db(), "one_series"); // a damaged one must not hold up the others
            try {
                out.left_out.push_back(
                    add_to_series(file.db(), make_series(file.db(), batch.reading), batch.samples));
                one_series.release();
                out.added += batch.samples.size() - out.left_out.back().size();
            } catch (const DamagedBlock& e) {
                one_series.rollback();
                out.left_out.emplace_back();
                out.damaged[i] = {phrase("new samples belong among old ones that cannot be read ({})", e.what()),
                                  phrase("{}, reading {}", file.path(), batch.reading),
                                  phrase("Run: cognitum-cli verify")};
            }
        }
        COGNITUM_CHECK(file.check_in_place());
        transaction.commit();
        file.settle();
        return out;
    });
}

} // namespace cognitum
