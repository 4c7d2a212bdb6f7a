#include "store/file/schema.h"

#include "core/base/phrase.h"
#include "core/decode/rejections.h"
#include "store/file/bench_file.h"

#include <SQLiteCpp/Statement.h>
#include <algorithm>
#include <array>
#include <bit>
#include <cstring>
#include <fmt/format.h>
#include <sqlite3.h>
#include <tuple>
#include <vector>

namespace cognitum {

namespace {

/// What each version adds to the one before. A step is never changed; a new version is a new step.
constexpr std::array<const char*, bench_version> steps = {
    R"sql(
CREATE TABLE plan (
  kind TEXT NOT NULL, id TEXT NOT NULL, position INTEGER NOT NULL, body TEXT NOT NULL, PRIMARY KEY (kind, id));
CREATE TABLE series (id INTEGER PRIMARY KEY, reading TEXT NOT NULL UNIQUE);
CREATE TABLE tail (
  series INTEGER NOT NULL, time INTEGER NOT NULL, raw REAL, value REAL, cause INTEGER NOT NULL,
  PRIMARY KEY (series, time)) WITHOUT ROWID;
CREATE TABLE block (
  id INTEGER PRIMARY KEY, series INTEGER NOT NULL, level INTEGER NOT NULL, first INTEGER NOT NULL,
  last INTEGER NOT NULL, n INTEGER NOT NULL, valued INTEGER NOT NULL, low REAL, high REAL, sum REAL,
  digest BLOB NOT NULL, data BLOB);
CREATE UNIQUE INDEX block_place ON block (series, level, first, last, n);
CREATE TABLE calibration (
  id INTEGER PRIMARY KEY AUTOINCREMENT, reading TEXT NOT NULL, time INTEGER NOT NULL, body TEXT NOT NULL);
CREATE TABLE logbook (
  id INTEGER PRIMARY KEY AUTOINCREMENT, time INTEGER NOT NULL, reading TEXT NOT NULL, kind TEXT NOT NULL,
  text TEXT NOT NULL, corrects INTEGER NOT NULL);
CREATE TRIGGER calibration_stays BEFORE UPDATE ON calibration BEGIN SELECT RAISE(ABORT, 'calibrations are never changed'); END;
CREATE TRIGGER calibration_kept BEFORE DELETE ON calibration BEGIN SELECT RAISE(ABORT, 'calibrations are never deleted'); END;
CREATE TRIGGER logbook_stays BEFORE UPDATE ON logbook BEGIN SELECT RAISE(ABORT, 'the logbook is never changed'); END;
CREATE TRIGGER logbook_kept BEFORE DELETE ON logbook BEGIN SELECT RAISE(ABORT, 'the logbook is never deleted'); END;
)sql",
    R"sql(
ALTER TABLE plan ADD COLUMN check_sum INTEGER;
ALTER TABLE series ADD COLUMN check_sum INTEGER;
ALTER TABLE tail ADD COLUMN check_sum INTEGER;
ALTER TABLE block ADD COLUMN check_sum INTEGER;
ALTER TABLE calibration ADD COLUMN check_sum INTEGER;
ALTER TABLE logbook ADD COLUMN check_sum INTEGER;
INSERT INTO plan (kind, id, position, body) SELECT 'removed', reading, 0, '{}' FROM series
  WHERE reading NOT IN (SELECT id FROM plan WHERE kind = 'reading');
)sql",
    "-- The plan may hold sessions and their rules, which a program of version 2 would delete.",
    "-- The plan may hold rules for watching, which a program of version 3 would delete.",
    "-- The plan may hold controls of loads, which a program of version 4 would delete.",
    "-- A watch rule may hold a corridor, which a program of version 5 would refuse.",
    "-- A simulated link may run the written program, which a program of version 6 would refuse.",
    "-- A reading may be kept private, which a program of version 7 would refuse."};

/// FNV-1a of 64 bits (Fowler, Noll, Vo): each step is a bijection, so that any one changed byte changes the sum.
class Fnv {
  public:
    void add(const void* bytes, std::size_t n) {
        const auto* p = static_cast<const unsigned char*>(bytes);
        for (std::size_t i = 0; i < n; ++i)
            m_sum = (m_sum ^ p[i]) * 0x100000001b3U;
    }
    void add_number(std::uint64_t bits) { add(&bits, sizeof bits); }
    [[nodiscard]] std::int64_t sum() const { return static_cast<std::int64_t>(m_sum); }

  private:
    std::uint64_t m_sum = 0xcbf29ce484222325U;
};

void row_sum(sqlite3_context* context, int n, sqlite3_value** values) {
    Fnv fnv;
    for (int i = 0; i < n; ++i) {
        const int type = sqlite3_value_type(values[i]);
        fnv.add_number(static_cast<std::uint64_t>(type));
        if (type == SQLITE_INTEGER) {
            fnv.add_number(static_cast<std::uint64_t>(sqlite3_value_int64(values[i])));
        } else if (type == SQLITE_FLOAT) {
            const double v = sqlite3_value_double(values[i]);
            fnv.add_number(std::bit_cast<std::uint64_t>(v == 0 ? 0.0 : v)); // SQLite keeps no sign of zero
        } else if (type != SQLITE_NULL) {
            const void* bytes = type == SQLITE_TEXT ? sqlite3_value_text(values[i]) : sqlite3_value_blob(values[i]);
            const auto size = static_cast<std::size_t>(sqlite3_value_bytes(values[i]));
            fnv.add_number(size);
            if (size > 0) fnv.add(bytes, size);
        }
    }
    sqlite3_result_int64(context, fnv.sum());
}

using SchemaRow = std::tuple<std::string, std::string, std::string, std::string>;

std::vector<SchemaRow> schema_of(SQLite::Database& db) {
    SQLite::Statement rows(db, "SELECT type, name, tbl_name, ifnull(sql, '') FROM sqlite_schema "
                               "ORDER BY type, name LIMIT 100");
    std::vector<SchemaRow> out;
    while (rows.executeStep())
        out.emplace_back(rows.getColumn(0).getString(), rows.getColumn(1).getString(),
                         rows.getColumn(2).getString(), rows.getColumn(3).getString());
    return out;
}

/// Ends whatever a file makes SQLite do after this many instructions of its machine.
class WorkLimit {
  public:
    explicit WorkLimit(SQLite::Database& db) : m_db(db) {
        sqlite3_progress_handler(
            m_db.getHandle(), 1000, [](void* turns) { return ++*static_cast<int*>(turns) > 10000 ? 1 : 0; },
            &m_turns);
    }
    ~WorkLimit() { sqlite3_progress_handler(m_db.getHandle(), 0, nullptr, nullptr); }
    WorkLimit(const WorkLimit&) = delete;
    WorkLimit& operator=(const WorkLimit&) = delete;

  private:
    SQLite::Database& m_db;
    int m_turns = 0;
};

} // namespace

void prepare_connection(SQLite::Database& db) {
    sqlite3* handle = db.getHandle();
    sqlite3_db_config(handle, SQLITE_DBCONFIG_DEFENSIVE, 1, nullptr);
    sqlite3_db_config(handle, SQLITE_DBCONFIG_TRUSTED_SCHEMA, 0, nullptr);
    sqlite3_limit(handle, SQLITE_LIMIT_LENGTH, 64 << 20);
    sqlite3_limit(handle, SQLITE_LIMIT_EXPR_DEPTH, 100);
    db.exec("PRAGMA cell_size_check = ON; PRAGMA temp_store = MEMORY;");
    db.createFunction("row_sum", -1, true, nullptr, &row_sum);
}

void bring_up_to_date(SQLite::Database& db, int from_version) {
    for (int version = from_version; version < bench_version; ++version)
        db.exec(steps[static_cast<std::size_t>(version)]);
    db.exec(
        fmt::format("PRAGMA application_id = {}; PRAGMA user_version = {};", bench_application_id, bench_version));
}

Result<void> check_schema(SQLite::Database& db, const std::string& path) {
    const WorkLimit limit(db);
    const int version = db.execAndGet("PRAGMA user_version").getInt();
    SQLite::Database model(":memory:", SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE);
    for (int step = 0; step < version && step < bench_version; ++step)
        model.exec(steps[static_cast<std::size_t>(step)]);
    const std::vector<SchemaRow> found = schema_of(db);
    const std::vector<SchemaRow> wanted = schema_of(model);
    if (found == wanted) return {};
    for (const SchemaRow& row : found)
        if (std::find(wanted.begin(), wanted.end(), row) == wanted.end())
            return failure(phrase("the {} \"{}\" in it is not one of Cognitum’s.", std::get<0>(row),
                                  shown_text(std::get<1>(row))),
                           path, phrase("Do not use this file: somebody changed how it is built."));
    return failure(phrase("a table of a bench is missing in it."), path, phrase("Take a copy or a backup."));
}

void show_as_of_today(SQLite::Database& db, int version) {
    if (version >= 2) return;
    for (const SummedTable& table : summed_tables)
        db.exec(fmt::format("CREATE TEMP VIEW {0} AS SELECT *, NULL AS check_sum FROM main.{0}", table.name));
}

} // namespace cognitum
