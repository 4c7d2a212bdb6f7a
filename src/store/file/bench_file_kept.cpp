// What a bench file keeps beside the plan: the logbook, calibrations, and one that is under way.
#include "core/base/phrase.h"
#include "store/file/bench_file.h"

#include <SQLiteCpp/Statement.h>
#include <fmt/format.h>

namespace cognitum {

Result<std::int64_t> BenchFile::append_log(const LogEntry& entry) {
    return guarded(m_path, [&]() -> Result<std::int64_t> {
        COGNITUM_CHECK(check_in_place());
        SQLite::Statement insert(*m_db, "INSERT INTO logbook (time, reading, kind, text, corrects, check_sum) "
                                        "VALUES (?1, ?2, ?3, ?4, ?5, row_sum(?1, ?2, ?3, ?4, ?5))");
        insert.bind(1, entry.time);
        insert.bind(2, entry.reading);
        insert.bind(3, entry.kind);
        insert.bind(4, entry.text);
        insert.bind(5, entry.corrects);
        insert.exec();
        const std::int64_t id = m_db->getLastInsertRowid();
        settle();
        return id;
    });
}

Result<std::vector<LogEntry>> BenchFile::find_log(const LogFilter& filter) {
    return guarded(m_path, [&]() -> Result<std::vector<LogEntry>> {
        SQLite::Statement rows(*m_db,
                               "SELECT id, time, reading, kind, text, corrects FROM logbook WHERE time >= ?1 AND "
                               "time < ?2 AND (?3 = '' OR instr(lower(text), lower(?3)) OR "
                               "instr(lower(reading), lower(?3))) AND (?4 = '' OR kind = ?4) "
                               "ORDER BY time DESC, id DESC LIMIT ?5");
        rows.bind(1, filter.from);
        rows.bind(2, filter.to);
        rows.bind(3, filter.text);
        rows.bind(4, filter.kind);
        rows.bind(5, static_cast<std::int64_t>(filter.newest));
        std::vector<LogEntry> out;
        while (rows.executeStep())
            out.push_back({rows.getColumn(0).getInt64(), rows.getColumn(1).getInt64(),
                           rows.getColumn(2).getString(), rows.getColumn(3).getString(),
                           rows.getColumn(4).getString(), rows.getColumn(5).getInt64()});
        return out;
    });
}

Result<std::optional<std::pair<TimeUs, TimeUs>>> BenchFile::log_span() {
    return guarded(m_path, [&]() -> Result<std::optional<std::pair<TimeUs, TimeUs>>> {
        SQLite::Statement row(*m_db, "SELECT min(time), max(time) FROM logbook");
        if (!row.executeStep() || row.getColumn(0).isNull()) return std::optional<std::pair<TimeUs, TimeUs>>{};
        return std::optional{std::pair<TimeUs, TimeUs>{row.getColumn(0).getInt64(), row.getColumn(1).getInt64()}};
    });
}

Result<std::int64_t> BenchFile::append_calibration(const CalibrationRecord& record) {
    return guarded(m_path, [&]() -> Result<std::int64_t> {
        COGNITUM_CHECK(check_in_place());
        SQLite::Statement insert(*m_db, "INSERT INTO calibration (reading, time, body, check_sum) "
                                        "VALUES (?1, ?2, ?3, row_sum(?1, ?2, ?3))");
        insert.bind(1, record.reading);
        insert.bind(2, record.time);
        insert.bind(3, json_dump(record_json(record)));
        insert.exec();
        const std::int64_t id = m_db->getLastInsertRowid();
        settle();
        return id;
    });
}

Result<std::vector<CalibrationRecord>> BenchFile::calibrations(const std::string& reading) {
    return guarded(m_path, [&]() -> Result<std::vector<CalibrationRecord>> {
        SQLite::Statement rows(*m_db, "SELECT id, body, check_sum IS NULL OR check_sum = row_sum(reading, time, "
                                      "body) FROM calibration WHERE reading = ? ORDER BY time, id");
        rows.bind(1, reading);
        std::vector<CalibrationRecord> out;
        while (rows.executeStep()) {
            const std::int64_t id = rows.getColumn(0).getInt64();
            const std::string where = phrase("{} (calibration {})", m_path, id);
            if (rows.getColumn(2).getInt() == 0)
                return failure(phrase("this record is damaged: it is not what was written."), where,
                               phrase("Run: cognitum-cli verify FILE"));
            COGNITUM_TRY(text, JsonText::parse(where, rows.getColumn(1).getString()));
            COGNITUM_TRY(record, read_record(JsonReader(text)));
            record.id = record.correction.record = id;
            out.push_back(record);
        }
        return out;
    });
}

Result<void> BenchFile::save_draft(const std::string& reading, const CalibrationDraft* draft) {
    return guarded(m_path, [&]() -> Result<void> {
        COGNITUM_CHECK(check_in_place());
        SQLite::Statement change(*m_db, draft ? "INSERT OR REPLACE INTO plan (kind, id, position, body, check_sum) "
                                                "VALUES ('draft', ?1, 0, ?2, row_sum('draft', ?1, 0, ?2))"
                                              : "DELETE FROM plan WHERE kind = 'draft' AND id = ?");
        change.bind(1, reading);
        if (draft) change.bind(2, json_dump(draft_json(*draft)));
        change.exec();
        settle();
        return {};
    });
}

Result<std::optional<CalibrationDraft>> BenchFile::draft(const std::string& reading) {
    return guarded(m_path, [&]() -> Result<std::optional<CalibrationDraft>> {
        SQLite::Statement rows(*m_db, "SELECT body FROM plan WHERE kind = 'draft' AND id = ?");
        rows.bind(1, reading);
        if (!rows.executeStep()) return std::nullopt;
        COGNITUM_TRY(text, JsonText::parse(phrase("{} (calibration under way of {})", m_path, reading),
                                           rows.getColumn(0).getString()));
        COGNITUM_TRY(draft, read_draft(JsonReader(text)));
        return draft;
    });
}

} // namespace cognitum
