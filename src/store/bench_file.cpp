#include "store/bench_file.h"

#include "store/file_header.h"

#include <SQLiteCpp/Statement.h>
#include <SQLiteCpp/Transaction.h>
#include <filesystem>
#include <fmt/format.h>
#include <sqlite3.h>

namespace cognitum {

namespace fs = std::filesystem;

namespace {

constexpr const char* schema = R"sql(
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
)sql";

bool writable(const std::string& path) {
    std::error_code code;
    const auto perms = fs::status(path, code).permissions();
    using p = fs::perms;
    return (perms & (p::owner_write | p::group_write | p::others_write)) != p::none;
}

} // namespace

Result<BenchFile> BenchFile::create(const std::string& path) {
    std::error_code code;
    if (fs::exists(path, code))
        return failure("there is a file of that name already.", path, "Choose another name.");
    const fs::path folder = fs::path(path).parent_path();
    if (!folder.empty() && !fs::is_directory(folder, code))
        return failure("the folder does not exist.", folder.string(), "Make it first, or choose another.");
    return guarded(path, [&]() -> Result<BenchFile> {
        auto db = std::make_unique<SQLite::Database>(path, SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE, 5000);
        // All of it in one transaction with a rollback journal: a half-made bench cannot exist.
        SQLite::Transaction transaction(*db);
        db->exec(fmt::format("PRAGMA application_id = {}; PRAGMA user_version = {};", bench_application_id,
                             bench_version));
        db->exec(schema);
        transaction.commit();
        db->exec("PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL;");
        return BenchFile(path, std::move(db));
    });
}

Result<BenchFile> BenchFile::open(const std::string& path, Access access) {
    if (FileHeader header = read_file_header(path); header.kind != FileKind::bench)
        return tl::make_unexpected(std::move(header.error));
    if (access == Access::write && !writable(path))
        return failure("the file is read-only.", path, "Save a copy elsewhere and open that, or allow writing.");
    return guarded(path, [&]() -> Result<BenchFile> {
        const int flags = access == Access::write ? SQLite::OPEN_READWRITE : SQLite::OPEN_READONLY;
        auto db = std::make_unique<SQLite::Database>(path, flags, 5000);
        if (access == Access::write) db->exec("PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL;");
        db->execAndGet("SELECT count(*) FROM sqlite_schema");
        return BenchFile(path, std::move(db));
    });
}

Result<Bench> BenchFile::load_plan() {
    return guarded(m_path, [&]() -> Result<Bench> {
        Bench bench;
        SQLite::Statement rows(*m_db, "SELECT kind, id, body FROM plan ORDER BY kind, position");
        while (rows.executeStep()) {
            const std::string kind = rows.getColumn(0).getString();
            const std::string id = rows.getColumn(1).getString();
            auto text = JsonText::parse(fmt::format("{} ({} {})", m_path, kind, id), rows.getColumn(2).getString());
            if (!text) return tl::make_unexpected(text.error());
            const JsonReader json(*text);
            if (kind == "bench") {
                COGNITUM_TRY(name, json.string("bench"));
                COGNITUM_TRY(place, json.string_or("place", {}));
                bench.name = name;
                bench.place = place;
                if (json.has("prices")) {
                    COGNITUM_TRY(prices, json.object("prices"));
                    COGNITUM_CHECK(read_prices(prices, bench));
                }
            } else if (kind == "board") {
                COGNITUM_TRY(board, read_board_use(json));
                bench.boards.push_back(board);
            } else if (kind == "reading") {
                COGNITUM_TRY(reading, read_reading(json));
                bench.readings.push_back(reading);
            } else if (kind == "reference") {
                COGNITUM_TRY(reference, read_reference(json));
                bench.references.push_back(reference);
            } else if (kind == "module") {
                COGNITUM_TRY(module, read_module(json));
                bench.modules.push_back(module);
            }
        }
        return bench;
    });
}

Result<void> BenchFile::save_plan(const Bench& bench) {
    return guarded(m_path, [&]() -> Result<void> {
        SQLite::Transaction transaction(*m_db, SQLite::TransactionBehavior::IMMEDIATE);
        m_db->exec("CREATE TEMP TABLE IF NOT EXISTS kept (kind TEXT, id TEXT); DELETE FROM kept;");
        SQLite::Statement write(
            *m_db, "INSERT INTO plan (kind, id, position, body) VALUES (?, ?, ?, ?) ON CONFLICT (kind, id) "
                   "DO UPDATE SET position = excluded.position, body = excluded.body "
                   "WHERE position <> excluded.position OR body <> excluded.body");
        SQLite::Statement keep(*m_db, "INSERT INTO kept VALUES (?, ?)");
        int position = 0;
        const auto put = [&](const char* kind, const std::string& id, const Json& body) {
            write.bind(1, kind);
            write.bind(2, id);
            write.bind(3, position++);
            write.bind(4, body.dump());
            write.exec();
            write.reset();
            keep.bind(1, kind);
            keep.bind(2, id);
            keep.exec();
            keep.reset();
        };
        Json head = {{"bench", bench.name}, {"place", bench.place}};
        if (const Json prices = prices_json(bench); !prices.empty()) head["prices"] = prices;
        put("bench", "bench", head);
        for (const BoardUse& board : bench.boards)
            put("board", board.id, board_use_json(board));
        for (const Reading& reading : bench.readings)
            put("reading", reading.id, reading_json(reading));
        for (const Module& module : bench.modules)
            put("module", module.id, module_json(module));
        for (const ReferenceInstrument& reference : bench.references)
            put("reference", reference.id, reference_json(reference));
        m_db->exec("DELETE FROM plan WHERE kind <> 'draft' AND (kind, id) NOT IN (SELECT kind, id FROM kept)");
        transaction.commit();
        return {};
    });
}

Result<std::int64_t> BenchFile::append_log(const LogEntry& entry) {
    return guarded(m_path, [&]() -> Result<std::int64_t> {
        SQLite::Statement insert(
            *m_db, "INSERT INTO logbook (time, reading, kind, text, corrects) VALUES (?, ?, ?, ?, ?)");
        insert.bind(1, entry.time);
        insert.bind(2, entry.reading);
        insert.bind(3, entry.kind);
        insert.bind(4, entry.text);
        insert.bind(5, entry.corrects);
        insert.exec();
        return m_db->getLastInsertRowid();
    });
}

Result<std::vector<LogEntry>> BenchFile::log(std::size_t newest) {
    return guarded(m_path, [&]() -> Result<std::vector<LogEntry>> {
        SQLite::Statement rows(
            *m_db, "SELECT id, time, reading, kind, text, corrects FROM logbook ORDER BY id DESC LIMIT ?");
        rows.bind(1, static_cast<std::int64_t>(newest));
        std::vector<LogEntry> out;
        while (rows.executeStep())
            out.push_back({rows.getColumn(0).getInt64(), rows.getColumn(1).getInt64(),
                           rows.getColumn(2).getString(), rows.getColumn(3).getString(),
                           rows.getColumn(4).getString(), rows.getColumn(5).getInt64()});
        return out;
    });
}

Result<std::int64_t> BenchFile::append_calibration(const CalibrationRecord& record) {
    return guarded(m_path, [&]() -> Result<std::int64_t> {
        SQLite::Statement insert(*m_db, "INSERT INTO calibration (reading, time, body) VALUES (?, ?, ?)");
        insert.bind(1, record.reading);
        insert.bind(2, record.time);
        insert.bind(3, record_json(record).dump());
        insert.exec();
        return m_db->getLastInsertRowid();
    });
}

Result<std::vector<CalibrationRecord>> BenchFile::calibrations(const std::string& reading) {
    return guarded(m_path, [&]() -> Result<std::vector<CalibrationRecord>> {
        SQLite::Statement rows(*m_db, "SELECT id, body FROM calibration WHERE reading = ? ORDER BY time, id");
        rows.bind(1, reading);
        std::vector<CalibrationRecord> out;
        while (rows.executeStep()) {
            const std::int64_t id = rows.getColumn(0).getInt64();
            auto text =
                JsonText::parse(fmt::format("{} (calibration {})", m_path, id), rows.getColumn(1).getString());
            if (!text) return tl::make_unexpected(text.error());
            COGNITUM_TRY(record, read_record(JsonReader(*text)));
            record.id = record.correction.record = id;
            out.push_back(record);
        }
        return out;
    });
}

Result<void> BenchFile::save_draft(const std::string& reading, const CalibrationDraft* draft) {
    return guarded(m_path, [&]() -> Result<void> {
        SQLite::Statement change(*m_db, draft ? "INSERT OR REPLACE INTO plan (kind, id, position, body) "
                                                "VALUES ('draft', ?, 0, ?)"
                                              : "DELETE FROM plan WHERE kind = 'draft' AND id = ?");
        change.bind(1, reading);
        if (draft) change.bind(2, draft_json(*draft).dump());
        change.exec();
        return {};
    });
}

Result<std::optional<CalibrationDraft>> BenchFile::draft(const std::string& reading) {
    return guarded(m_path, [&]() -> Result<std::optional<CalibrationDraft>> {
        SQLite::Statement rows(*m_db, "SELECT body FROM plan WHERE kind = 'draft' AND id = ?");
        rows.bind(1, reading);
        if (!rows.executeStep()) return std::nullopt;
        COGNITUM_TRY(text, JsonText::parse(fmt::format("{} (calibration under way of {})", m_path, reading),
                                           rows.getColumn(0).getString()));
        COGNITUM_TRY(draft, read_draft(JsonReader(text)));
        return draft;
    });
}

Result<void> BenchFile::save_copy(const std::string& target) {
    std::error_code code;
    if (fs::exists(target, code))
        return failure("there is a file of that name already.", target, "Choose another name.");
    return guarded(target, [&]() -> Result<void> {
        SQLite::Statement copy(*m_db, "VACUUM INTO ?");
        copy.bind(1, target);
        copy.exec();
        return {};
    });
}

} // namespace cognitum
