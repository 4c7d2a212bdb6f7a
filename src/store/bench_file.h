// A bench as one file: an SQLite database, documented in docs/file-format.md. It opens only what is a bench of this
// version or older, touches nothing else, and turns every SQLite error into a sentence. One object belongs to one
// thread; several objects, in several threads or processes, may have the same file open (WAL).
#pragma once

#include "core/base/error.h"
#include "core/base/time.h"
#include "core/bench/bench.h"
#include "core/calibrate/record.h"

#include <SQLiteCpp/Database.h>
#include <memory>
#include <string>
#include <vector>

namespace cognitum {

inline constexpr std::int32_t bench_application_id = 0x436f676e; ///< "Cogn"; do not change
inline constexpr int bench_version = 1;                          ///< user_version; see docs/file-format.md

enum class Access { read, write };

struct LogEntry {
    std::int64_t id = 0;
    TimeUs time = 0;
    std::string reading; ///< id; empty: the whole bench
    std::string kind;    ///< recording, calibration, alert, note, edit, import, link
    std::string text;
    std::int64_t corrects = 0; ///< id of the entry that this one corrects; 0: none
};

class BenchFile {
  public:
    /// Makes a new, empty bench. Error when the file exists or cannot be made.
    static Result<BenchFile> create(const std::string& path);
    /// Error, and the file untouched: no such file, not a bench, of a newer version, truncated, or (for writing)
    /// read-only.
    static Result<BenchFile> open(const std::string& path, Access access);

    [[nodiscard]] const std::string& path() const { return m_path; }
    [[nodiscard]] SQLite::Database& db() { return *m_db; }

    Result<Bench> load_plan();
    /// Writes what differs from what is stored, in one transaction.
    Result<void> save_plan(const Bench& bench);

    /// Appends; nothing in the logbook or among the calibrations is ever changed or deleted (triggers see to it).
    Result<std::int64_t> append_log(const LogEntry& entry);
    Result<std::vector<LogEntry>> log(std::size_t newest = 1000);
    Result<std::int64_t> append_calibration(const CalibrationRecord& record);
    /// Of one reading, oldest first.
    Result<std::vector<CalibrationRecord>> calibrations(const std::string& reading);

    /// A calibration under way, kept at once so that a closed file loses nothing; nullptr: it ended.
    Result<void> save_draft(const std::string& reading, const CalibrationDraft* draft);
    Result<std::optional<CalibrationDraft>> draft(const std::string& reading);

    /// A whole, consistent copy, also while recording. Error when the target exists or cannot be written.
    Result<void> save_copy(const std::string& target);

  private:
    BenchFile(std::string path, std::unique_ptr<SQLite::Database> db)
        : m_path(std::move(path)), m_db(std::move(db)) {}
    std::string m_path;
    std::unique_ptr<SQLite::Database> m_db;
};

/// Runs f and turns a thrown SQLite error into an Error about `path`. f returns a Result.
template <typename F>
auto guarded(const std::string& path, F f) -> decltype(f()) {
    try {
        return f();
    } catch (const std::exception& e) {
        return failure(std::string("the file could not be used (") + e.what() + ").", path,
                       "Check the disk’s space and the file’s permissions, then try again.");
    }
}

} // namespace cognitum
