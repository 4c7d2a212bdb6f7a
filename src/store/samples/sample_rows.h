// Rows of samples in the bench file: what those that write and those that read them share.
#pragma once

#include "store/samples/samples.h"

#include <SQLiteCpp/Statement.h>
#include <limits>
#include <string>
#include <string_view>
#include <vector>

namespace cognitum {

inline constexpr TimeUs end_of_time = std::numeric_limits<TimeUs>::max();

/// True for a row of `tail` that is what was written, as far as a sum says so.
inline const std::string tail_row_holds =
    "(check_sum IS NULL OR check_sum = row_sum(series, time, raw, value, cause))";

inline std::string_view blob(const SQLite::Column& column) {
    return {static_cast<const char*>(column.getBlob()), static_cast<std::size_t>(column.getBytes())};
}

/// 0: there is none.
std::int64_t find_series(SQLite::Database& db, const std::string& reading);

/// Rows that are not what was written are left out, and counted.
std::vector<Sample> read_tail(SQLite::Database& db, std::int64_t series, TimeUs from, TimeUs to,
                              std::uint64_t* damaged = nullptr);

} // namespace cognitum
