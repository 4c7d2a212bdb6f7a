// The tables of a bench file, version by version, and what a connection must be like before it trusts a file that a
// stranger may have made: the schema is compared with what it should be, and nothing in the file can run.
#pragma once

#include "core/base/error.h"

#include <SQLiteCpp/Database.h>

namespace cognitum {

inline constexpr int bench_version = 8; ///< user_version; see docs/file-format.md

/// Limits, no trust in the schema, and the function row_sum(…): a 64-bit FNV-1a over its arguments with their
/// types, which each row carries in its column `check_sum`.
void prepare_connection(SQLite::Database& db);
/// Makes the tables in an empty file, or brings those of an older version up to date. Call it within a transaction.
void bring_up_to_date(SQLite::Database& db, int from_version);
/// Error when the file's tables, indexes, views or triggers are not exactly those of its version. Bounded in work.
Result<void> check_schema(SQLite::Database& db, const std::string& path);
/// For an older file that is only read: its tables look like those of today. Rows without a sum count as unchecked.
void show_as_of_today(SQLite::Database& db, int version);

/// Tables whose rows carry a sum: its name, the columns that it is made of, and SQL that names a row for a person.
struct SummedTable {
    const char *name, *columns, *row_name;
};
inline constexpr SummedTable summed_tables[] = {
    {"plan", "kind, id, position, body", "kind || ' ' || id"},
    {"series", "reading", "reading"},
    {"tail", "series, time, raw, value, cause", "'sample'"},
    {"block", "series, level, first, last, n, valued, low, high, sum, digest, data", "'block ' || id"},
    {"calibration", "reading, time, body", "'calibration ' || id"},
    {"logbook", "time, reading, kind, text, corrects", "'entry ' || id"},
};

} // namespace cognitum
