// A bench as one file: an SQLite database, documented in docs/file-format.md. It opens only what is a bench of this
// version or older, touches nothing else, and turns every SQLite error into a sentence. One object belongs to one
// thread; several objects, in several threads or processes, may have the same file open (WAL).
#pragma once

#include "core/base/error.h"
#include "core/base/time.h"
#include "core/bench/bench.h"
#include "core/calibrate/record.h"

#include "core/base/phrase.h"
#include "core/bench/plan_difference.h"
#include "store/file/open_files.h"
#include "store/file/schema.h"

#include <SQLiteCpp/Database.h>
#include <functional>
#include <memory>
#include <optional>
#include <string>
#include <utility>
#include <vector>

namespace cognitum {

inline constexpr std::int32_t bench_application_id = 0x436f676e; ///< "Cogn"; do not change

enum class Access { read, write };

/// Kinds of an entry in the logbook.
namespace log_kind {
inline constexpr const char* recording = for_people("recording");
inline constexpr const char* calibration = for_people("calibration");
inline constexpr const char* alert = for_people("alert");         ///< out of its band
inline constexpr const char* recovery = for_people("recovery");   ///< back in its band
inline constexpr const char* switching = for_people("switching"); ///< a load went on or off
inline constexpr const char* note = for_people("note");           ///< typed by a person
inline constexpr const char* upkeep =
    for_people("upkeep"); ///< cleaned, sealed, a battery changed; typed by a person
inline constexpr const char* bring_up = for_people("bring-up"); ///< a stage signed, or to be repeated
inline constexpr const char* edit = for_people("edit");
inline constexpr const char* import = for_people("import");
} // namespace log_kind

struct LogEntry {
    std::int64_t id = 0;
    TimeUs time = 0;
    std::string reading; ///< id; empty: the whole bench
    std::string kind;    ///< one of log_kind
    std::string text;
    std::int64_t corrects = 0; ///< id of the entry that this one corrects; 0: none
    /// As it is said now: what Cognitum wrote stands in English in the file, what a person typed stays.
    [[nodiscard]] std::string said() const {
        return kind == log_kind::note || kind == log_kind::upkeep ? text : read_back(text);
    }
};

/// Which entries of the logbook.
struct LogFilter {
    TimeUs from = earliest_time, to = latest_time; ///< to excluded
    std::string text = {};                         ///< in it, or in its reading's id; A to Z as a to z
    std::string kind = {};                         ///< one of log_kind; empty: all
    std::size_t newest = 1000;
};

struct PlanSaved {
    /// The plan was changed in the file by another program since it was read: what is stored now has both changes.
    bool merged = false;
    Bench plan;                    ///< as it is stored now
    std::vector<std::string> both; ///< a sentence for each item that both had changed
};

class BenchFile {
  public:
    using Fill = std::function<Result<void>(BenchFile&)>;
    /// Makes a new bench beside its name, lets `fill` put in what belongs there from the start, and moves it to its
    /// name whole: a half-made bench cannot exist. A file of no bytes is taken over. Error, and nothing left, when
    /// the file exists, cannot be made or `fill` fails.
    static Result<BenchFile> create(const std::string& path, const Fill& fill = {});
    /// Error, and the file untouched: no such file, not a bench, of a newer version, truncated, with a schema that
    /// is not ours, or (for writing) read-only. An older version is brought up to date when it is opened for
    /// writing. For reading, a file in a folder that cannot be written is opened as well.
    static Result<BenchFile> open(const std::string& path, Access access);

    [[nodiscard]] const std::string& path() const { return m_path; }
    [[nodiscard]] SQLite::Database& db() { return *m_db; }

    /// Error when a row is not what was written, or cannot be read.
    Result<Bench> load_plan();
    /// Writes what differs from what is stored, in one transaction. What another program changed since this object
    /// loaded or saved the plan is merged. A reading that has samples leaves its row as kind `removed`.
    Result<PlanSaved> save_plan(const Bench& bench);

    /// False when another program changed the plan since it was loaded or saved here.
    Result<bool> plan_is_current();
    /// The plan as it was loaded or saved last.
    [[nodiscard]] const Bench& base() const { return m_base; }

    /// Error when the file was taken away, or another has its name: what is written now would be lost.
    [[nodiscard]] Result<void> check_in_place() const;
    /// Puts what was committed from the journal into the file itself, as far as no reader holds it, so that a file
    /// that takes this one's place finds no journal of it. Called after each commit.
    void settle();

    /// Appends; nothing in the logbook or among the calibrations is ever changed or deleted (triggers see to it).
    Result<std::int64_t> append_log(const LogEntry& entry);
    /// The newest entries by their time, newest first; of one time the one that was written last comes first.
    Result<std::vector<LogEntry>> log(std::size_t newest = 1000) { return find_log({.newest = newest}); }
    Result<std::vector<LogEntry>> find_log(const LogFilter& filter);
    /// Time of the first and of the last entry.
    Result<std::optional<std::pair<TimeUs, TimeUs>>> log_span();
    Result<std::int64_t> append_calibration(const CalibrationRecord& record);
    /// Of one reading, oldest first.
    Result<std::vector<CalibrationRecord>> calibrations(const std::string& reading);

    /// A calibration under way, kept at once so that a closed file loses nothing; nullptr: it ended.
    Result<void> save_draft(const std::string& reading, const CalibrationDraft* draft);
    Result<std::optional<CalibrationDraft>> draft(const std::string& reading);

    /// A whole, consistent copy, also while recording. Error when the target exists or cannot be written.
    Result<void> save_copy(const std::string& target);

  private:
    BenchFile(std::string path, std::unique_ptr<OpenMark> mark, std::unique_ptr<SQLite::Database> db)
        : m_path(std::move(path)), m_mark(std::move(mark)), m_db(std::move(db)) {}
    Result<Bench> read_plan();
    void write_plan(const Bench& bench);
    [[nodiscard]] std::int64_t stored_revision();
    std::string m_path;
    std::unique_ptr<OpenMark> m_mark; ///< outlives the connection
    std::unique_ptr<SQLite::Database> m_db;
    std::optional<std::int64_t> m_revision; ///< of the plan in the file when it was loaded or saved last
    Bench m_base;                           ///< that plan
};

/// Runs f and turns a thrown SQLite error into an Error about `path`. f returns a Result.
template <typename F>
auto guarded(const std::string& path, F f) -> decltype(f()) {
    try {
        return f();
    } catch (const std::exception& e) {
        return failure(phrase("the file could not be used ({}).", e.what()), path,
                       phrase("Check the disk’s space and the file’s permissions, then try again."));
    }
}

struct LoadedBench {
    BenchFile file;
    Bench plan;
};
/// Opens a file and reads its plan; on any thread.
Result<LoadedBench> load_bench(const std::string& name, Access access);

} // namespace cognitum
