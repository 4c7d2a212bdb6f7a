#include "store/file/bench_file.h"

#include "core/base/phrase.h"
#include "core/decode/rejections.h" // for shown_text
#include "store/file/file_header.h"
#include "store/file/whole_file.h"

#include <SQLiteCpp/Statement.h>
#include <SQLiteCpp/Transaction.h>
#include <filesystem>
#include <fmt/format.h>
#include <sqlite3.h>

namespace cognitum {

namespace fs = std::filesystem;

namespace {

constexpr int longest_wait_ms = 5000; ///< for another program's transaction
constexpr int most_plan_rows = 20000;

bool writable(const std::string& path) {
    std::error_code code;
    const auto perms = fs::status(path, code).permissions();
    using p = fs::perms;
    return (perms & (p::owner_write | p::group_write | p::others_write)) != p::none;
}

/// A path as an SQLite URI that promises that nobody writes: for files in folders where no journal can be made.
std::string as_immutable(const std::string& path) {
    std::string out = "file:";
    for (const char c : path)
        out += c == '%' || c == '?' || c == '#' ? fmt::format("%{:02X}", static_cast<unsigned char>(c))
                                                : std::string(1, c);
    return out + "?immutable=1";
}

bool has_journal(const std::string& path) {
    std::error_code code;
    return fs::exists(path + "-wal", code) && fs::file_size(path + "-wal", code) > 0;
}

/// Everything from the journal into the file itself: what is moved to its name must be whole without it.
Result<void> empty_journal(SQLite::Database& db, const std::string& path) {
    int left = 0;
    if (sqlite3_wal_checkpoint_v2(db.getHandle(), nullptr, SQLITE_CHECKPOINT_TRUNCATE, &left, nullptr) ==
            SQLITE_OK &&
        left == 0)
        return {};
    return failure(phrase("it could not be written whole."), path,
                   phrase("Check the disk’s space, then try again."));
}

std::unique_ptr<SQLite::Database> connect(const std::string& path, int flags) {
    auto db = std::make_unique<SQLite::Database>(path, flags, longest_wait_ms);
    prepare_connection(*db);
    db->execAndGet("SELECT count(*) FROM sqlite_schema"); // the first look at the file and its journal
    return db;
}

std::unique_ptr<SQLite::Database> connect(const std::string& path, Access access) {
    if (access == Access::write) return connect(path, SQLite::OPEN_READWRITE);
    try {
        return connect(path, SQLite::OPEN_READONLY);
    } catch (const SQLite::Exception& e) {
        const bool no_journal_here = e.getErrorCode() == SQLITE_CANTOPEN || e.getErrorCode() == SQLITE_READONLY;
        if (!no_journal_here || has_journal(path)) throw;
        return connect(as_immutable(path), SQLite::OPEN_READONLY | SQLite::OPEN_URI);
    }
}

} // namespace

Result<BenchFile> BenchFile::create(const std::string& name, const Fill& fill) {
    COGNITUM_TRY(path, full_path(name));
    std::error_code code;
    if (fs::exists(path, code) && !(fs::is_regular_file(path, code) && fs::file_size(path, code) == 0))
        return failure(phrase("there is a file of that name already."), path, phrase("Choose another name."));
    const fs::path folder = fs::path(path).parent_path();
    if (!fs::is_directory(folder, code))
        return failure(phrase("the folder does not exist."), folder.string(),
                       phrase("Make it first, or choose another."));
    const std::string beside = path_beside(path);
    auto made = guarded(path, [&]() -> Result<void> {
        {
            SQLite::Database db(beside, SQLite::OPEN_READWRITE | SQLite::OPEN_CREATE, longest_wait_ms);
            SQLite::Transaction transaction(db);
            bring_up_to_date(db, 0);
            transaction.commit();
            // Of two programs that open it at once, none may have to change how it keeps its journal.
            db.exec("PRAGMA journal_mode = WAL");
        }
        if (!fill) return {};
        COGNITUM_TRY(file, open(beside, Access::write));
        file.db().exec("PRAGMA synchronous = OFF"); // nobody was told of it yet; put_in_place() flushes it whole
        COGNITUM_CHECK(fill(file));
        return empty_journal(file.db(), path);
    });
    if (made) made = put_in_place(beside, path, Existing::keep);
    if (made) return open(path, Access::write);
    for (const char* suffix : {"", "-journal", "-wal", "-shm"})
        fs::remove(beside + suffix, code);
    return tl::make_unexpected(made.error());
}

Result<BenchFile> BenchFile::open(const std::string& name, Access access) {
    COGNITUM_TRY(path, full_path(name));
    if (FileHeader header = read_file_header(path); header.kind != FileKind::bench)
        return tl::make_unexpected(std::move(header.error));
    if (access == Access::write && !writable(path))
        return failure(phrase("the file is read-only."), path,
                       phrase("Save a copy elsewhere and open that, or allow writing."));
    const auto identity = identity_of(path);
    if (!identity) return failure(phrase("the bench file is gone."), path, phrase("Put it back, or save a copy."));
    if (has_old_file_open(path, *identity))
        return failure(phrase("the bench file was replaced by another file."), path,
                       phrase("It is opened as soon as the old one is closed."));
    return guarded(path, [&]() -> Result<BenchFile> {
        auto mark = std::make_unique<OpenMark>(path, *identity);
        auto db = connect(path, access);
        COGNITUM_CHECK(check_schema(*db, path));
        const int version = db->execAndGet("PRAGMA user_version").getInt();
        if (access == Access::write) {
            db->exec("PRAGMA journal_mode = WAL; PRAGMA synchronous = FULL;");
            if (version < bench_version) {
                SQLite::Transaction transaction(*db, SQLite::TransactionBehavior::IMMEDIATE);
                if (const int now = db->execAndGet("PRAGMA user_version").getInt(); now < bench_version)
                    bring_up_to_date(*db, now);
                transaction.commit();
            }
        } else {
            show_as_of_today(*db, version);
        }
        return BenchFile(path, std::move(mark), std::move(db));
    });
}

Result<LoadedBench> load_bench(const std::string& name, Access access) {
    COGNITUM_TRY(file, BenchFile::open(name, access));
    COGNITUM_TRY(plan, file.load_plan());
    return LoadedBench{std::move(file), std::move(plan)};
}

Result<void> BenchFile::check_in_place() const {
    const auto now = identity_of(m_path);
    if (!now) return failure(phrase("the bench file is gone."), m_path, phrase("Put it back, or save a copy."));
    if (!(*now == m_mark->identity()))
        return failure(phrase("the bench file was replaced by another file."), m_path,
                       phrase("What was saved before is in the file that had the name."));
    return {};
}

void BenchFile::settle() {
    sqlite3* handle = m_db->getHandle();
    sqlite3_busy_timeout(handle, 0); // nobody waits for a reader: the next commit does it
    sqlite3_wal_checkpoint_v2(handle, nullptr, SQLITE_CHECKPOINT_TRUNCATE, nullptr, nullptr);
    sqlite3_busy_timeout(handle, longest_wait_ms);
}

std::int64_t BenchFile::stored_revision() {
    SQLite::Statement row(*m_db, "SELECT position FROM plan WHERE kind = 'revision'");
    return row.executeStep() ? row.getColumn(0).getInt64() : 0;
}

Result<bool> BenchFile::plan_is_current() {
    return guarded(m_path, [&]() -> Result<bool> { return !m_revision || *m_revision == stored_revision(); });
}

Result<Bench> BenchFile::load_plan() {
    return guarded(m_path, [&]() -> Result<Bench> {
        SQLite::Transaction same_moment(*m_db);
        COGNITUM_TRY(bench, read_plan());
        m_revision = stored_revision();
        m_base = bench;
        return bench;
    });
}

Result<Bench> BenchFile::read_plan() {
    Bench bench;
    SQLite::Statement rows(*m_db,
                           "SELECT kind, id, body, check_sum IS NULL OR check_sum = row_sum(kind, id, position, "
                           "body) FROM plan WHERE kind <> 'draft' ORDER BY kind, position");
    for (int n = 0; rows.executeStep(); ++n) {
        const std::string kind = rows.getColumn(0).getString();
        const std::string id = rows.getColumn(1).getString();
        const std::string where = fmt::format("{} ({} {})", m_path, kind, shown_text(id));
        if (n >= most_plan_rows)
            return failure(phrase("its plan has more than {} rows.", most_plan_rows), m_path,
                           phrase("This is no bench that a person made."));
        if (rows.getColumn(3).getInt() == 0)
            return failure(phrase("this part of the plan is damaged: it is not what was written."), where,
                           phrase("Run: cognitum-cli verify FILE --mend COPY, and look at that part in the copy."));
        if (kind == "revision" || kind == "removed") continue;
        COGNITUM_TRY(text, JsonText::parse(where, rows.getColumn(2).getString()));
        const JsonReader json(text);
        if (kind == "bench") {
            COGNITUM_TRY(title, json.string("bench"));
            COGNITUM_TRY(place, json.string_or("place", {}));
            bench.name = title;
            bench.place = place;
            if (json.has("prices")) {
                COGNITUM_TRY(prices, json.object("prices"));
                COGNITUM_CHECK(read_prices(prices, bench));
            }
            if (json.has("where")) {
                COGNITUM_TRY(part, json.object("where"));
                COGNITUM_TRY(stands, read_where(part));
                bench.where = stands;
            }
            if (json.has("telling")) {
                COGNITUM_TRY(part, json.object("telling"));
                COGNITUM_TRY(telling, read_telling(part));
                bench.telling = telling;
            }
            if (json.has("publishing")) {
                COGNITUM_TRY(part, json.object("publishing"));
                COGNITUM_TRY(publishing, read_publishing(part));
                bench.publishing = publishing;
            }
            if (json.has("page")) {
                COGNITUM_TRY(part, json.object("page"));
                COGNITUM_TRY(page, read_page(part));
                bench.page = page;
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
        } else if (kind == "session") {
            COGNITUM_TRY(session, read_session(json));
            bench.sessions.push_back(session);
        } else if (kind == "session-rule") {
            COGNITUM_TRY(rule, read_session_rule(json));
            bench.session_rules.push_back(rule);
        } else if (kind == "watch-rule") {
            COGNITUM_TRY(rule, read_watch_rule(json));
            bench.watch_rules.push_back(rule);
        } else if (kind == "control") {
            COGNITUM_TRY(control, read_control(json));
            bench.controls.push_back(control);
        } else if (kind == "module") {
            COGNITUM_TRY(module, read_module(json));
            bench.modules.push_back(module);
        }
    }
    if (const auto within = plan_within_limits(bench); !within)
        return failure(within.error().what, m_path, phrase("This is no bench that a person made."));
    return bench;
}

Result<PlanSaved> BenchFile::save_plan(const Bench& bench) {
    return guarded(m_path, [&]() -> Result<PlanSaved> {
        SQLite::Transaction transaction(*m_db, SQLite::TransactionBehavior::IMMEDIATE);
        PlanSaved out{false, bench, {}};
        if (m_revision && *m_revision != stored_revision()) {
            COGNITUM_TRY(theirs, read_plan());
            MergedPlan merged = merge_plans(m_base, bench, theirs);
            out = {true, std::move(merged.plan), std::move(merged.both)};
        }
        COGNITUM_CHECK(plan_within_limits(out.plan));
        write_plan(out.plan);
        COGNITUM_CHECK(check_in_place());
        transaction.commit();
        m_revision = stored_revision();
        m_base = out.plan;
        settle();
        return out;
    });
}

/// Within a transaction: rows that differ, and those that went.
void BenchFile::write_plan(const Bench& bench) {
    m_db->exec("CREATE TEMP TABLE IF NOT EXISTS kept (kind TEXT, id TEXT); DELETE FROM kept;");
    SQLite::Statement write(*m_db, "INSERT INTO plan (kind, id, position, body, check_sum) "
                                   "VALUES (?1, ?2, ?3, ?4, row_sum(?1, ?2, ?3, ?4)) ON CONFLICT (kind, id) "
                                   "DO UPDATE SET position = excluded.position, body = excluded.body, "
                                   "check_sum = excluded.check_sum "
                                   "WHERE position <> excluded.position OR body <> excluded.body");
    SQLite::Statement keep(*m_db, "INSERT INTO kept VALUES (?, ?)");
    std::int64_t position = 0;
    int changed = 0;
    const auto put = [&](const char* kind, const std::string& id, std::int64_t at, const Json& body) {
        write.bind(1, kind);
        write.bind(2, id);
        write.bind(3, at);
        write.bind(4, json_dump(body));
        changed += write.exec();
        write.reset();
        keep.bind(1, kind);
        keep.bind(2, id);
        keep.exec();
        keep.reset();
    };
    Json head = {{"bench", bench.name}, {"place", bench.place}};
    if (const Json prices = prices_json(bench); !prices.empty()) head["prices"] = prices;
    if (bench.where) head["where"] = where_json(*bench.where);
    if (const Json telling = telling_json(bench.telling); !telling.empty()) head["telling"] = telling;
    if (const Json publishing = publishing_json(bench.publishing); !publishing.empty())
        head["publishing"] = publishing;
    if (const Json page = page_json(bench.page); !page.empty()) head["page"] = page;
    put("bench", "bench", position++, head);
    for (const BoardUse& board : bench.boards)
        put("board", board.id, position++, board_use_json(board));
    for (const Reading& reading : bench.readings)
        put("reading", reading.id, position++, reading_json(reading));
    for (const Module& module : bench.modules)
        put("module", module.id, position++, module_json(module));
    for (const ReferenceInstrument& reference : bench.references)
        put("reference", reference.id, position++, reference_json(reference));
    for (const TimedSession& session : bench.sessions)
        put("session", session.id, position++, session_json(session));
    for (const SessionRule& rule : bench.session_rules)
        put("session-rule", rule.id, position++, session_rule_json(rule));
    for (const WatchRule& rule : bench.watch_rules)
        put("watch-rule", rule.id, position++, watch_rule_json(rule));
    for (const LoadControl& control : bench.controls)
        put("control", control.id, position++, control_json(control));
    // Samples of a reading that was removed stay, and so does what they were.
    changed += m_db->exec("INSERT OR REPLACE INTO plan (kind, id, position, body, check_sum) "
                          "SELECT 'removed', id, 0, body, row_sum('removed', id, 0, body) FROM plan "
                          "WHERE kind = 'reading' AND (kind, id) NOT IN (SELECT kind, id FROM kept) "
                          "AND id IN (SELECT reading FROM series)");
    m_db->exec("DELETE FROM plan WHERE kind = 'removed' AND id IN (SELECT id FROM kept WHERE kind = 'reading')");
    changed += m_db->exec("DELETE FROM plan WHERE kind NOT IN ('draft', 'revision', 'removed') "
                          "AND (kind, id) NOT IN (SELECT kind, id FROM kept)");
    if (changed > 0) put("revision", "revision", stored_revision() + 1, Json::object());
}

Result<void> BenchFile::save_copy(const std::string& name) {
    COGNITUM_TRY(target, full_path(name));
    std::error_code code;
    if (fs::exists(target, code))
        return failure(phrase("there is a file of that name already."), target, phrase("Choose another name."));
    const std::string beside = path_beside(target);
    fs::remove(beside, code);
    auto made = guarded(target, [&]() -> Result<void> {
        SQLite::Statement copy(*m_db, "VACUUM INTO ?");
        copy.bind(1, beside);
        copy.exec();
        return {};
    });
    if (made) return put_in_place(beside, target, Existing::keep);
    fs::remove(beside, code);
    return made;
}

} // namespace cognitum
