#include "mirror/mirror.h"

#include "core/base/phrase.h"
#include "core/calibrate/record.h"
#include "mirror/mirror_schema.h"
#include "store/figures/value_doubts.h"
#include "store/samples/samples.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>
#include <map>
#include <optional>
#include <pqxx/pqxx>

namespace cognitum {

namespace {

constexpr const char* what_to_do =
    for_people("Look whether it runs and lets you in, then run the same again: it goes on where it stopped.");

/// Days since 1970, UTC.
int day_of(TimeUs t) {
    return static_cast<int>((t - (t % day_us + day_us) % day_us) / day_us);
}

/// How many samples each day has.
using DayCounts = std::map<int, std::uint64_t>;

Result<DayCounts> days_in_file(BenchFile& file, const std::string& reading) {
    DayCounts out;
    COGNITUM_CHECK(for_each_sample(file, reading, earliest_time, latest_time, [&](std::span<const Sample> samples) {
        for (const Sample& s : samples)
            ++out[day_of(s.time)];
        return true;
    }));
    return out;
}

DayCounts days_in_server(pqxx::connection& server, int reading_no) {
    pqxx::work work(server);
    DayCounts out;
    for (const auto& row :
         work.exec_params("SELECT day, n FROM cognitum.day_done WHERE reading_no = $1", reading_no))
        out[row[0].as<int>()] = row[1].as<std::uint64_t>();
    return out;
}

std::optional<double> number(double v) {
    return std::isfinite(v) ? std::optional(v) : std::nullopt;
}

class Copy {
  public:
    Copy(BenchFile& file, const Bench& bench, const Catalog& catalog, pqxx::connection& server,
         const MirrorOptions& options)
        : m_file(file), m_bench(bench), m_catalog(catalog), m_server(server), m_options(options) {}

    Result<void> run(MirrorReport& report) {
        m_bench_no = know_bench();
        std::vector<std::pair<const Reading*, DayCounts>> wanted;
        for (const Reading& reading : m_bench.readings) {
            const auto& named = m_options.readings;
            const bool by_name = std::find(named.begin(), named.end(), reading.id) != named.end();
            if (!named.empty() && !by_name) continue;
            if (reading.quantity.is_private() && !by_name) {
                report.private_readings.push_back(reading.name);
                continue;
            }
            ++report.readings;
            const int no = know_reading(reading);
            auto counted = days_in_file(m_file, reading.id);
            if (!counted) { // one series that cannot be read holds up no other
                keep_trouble(report, counted.error());
                continue;
            }
            DayCounts days = std::move(*counted);
            const DayCounts there = days_in_server(m_server, no);
            std::erase_if(days, [&](const auto& day) { // what is there already
                const auto known = there.find(day.first);
                return known != there.end() && known->second == day.second;
            });
            for (const auto& [day, n] : days)
                report.behind += n - (there.contains(day) ? std::min(n, there.at(day)) : 0);
            wanted.emplace_back(&reading, std::move(days));
        }
        COGNITUM_CHECK(copy_words());
        for (const auto& [reading, days] : wanted) {
            COGNITUM_TRY(records, m_file.calibrations(reading->id));
            ValueDoubts doubts(m_bench, m_catalog, *reading, std::move(records));
            for (const auto& day : days) {
                const auto go_on = copy_day(*reading, day.first, doubts, report);
                if (!go_on) keep_trouble(report, go_on.error());
                if (go_on && !*go_on) return {};
            }
        }
        return {};
    }

  private:
    static void keep_trouble(MirrorReport& report, const Error& error) {
        if (report.trouble.what.empty()) report.trouble = error;
    }
    int know_bench() {
        pqxx::work work(m_server);
        const auto row =
            work.exec_params1("INSERT INTO cognitum.bench (name, place, mirrored_at) VALUES ($1, $2, now()) ON "
                              "CONFLICT (name) DO UPDATE "
                              "SET place = excluded.place, mirrored_at = excluded.mirrored_at RETURNING bench_no",
                              m_options.bench.empty() ? m_bench.name : m_options.bench, m_bench.place);
        work.commit();
        return row[0].as<int>();
    }
    int know_reading(const Reading& reading) {
        pqxx::work work(m_server);
        const auto row = work.exec_params1(
            "INSERT INTO cognitum.reading (bench_no, id, name, kind, unit) VALUES ($1, $2, $3, $4, $5) "
            "ON CONFLICT (bench_no, id) DO UPDATE SET name = excluded.name, kind = excluded.kind, unit = "
            "excluded.unit "
            "RETURNING reading_no",
            m_bench_no, reading.id, reading.name, reading.quantity.kind, reading.quantity.unit);
        work.commit();
        return m_reading_no[reading.id] = row[0].as<int>();
    }
    /// Calibrations and the logbook: both only grow.
    Result<void> copy_words() {
        pqxx::work work(m_server);
        for (const auto& [id, no] : m_reading_no) {
            COGNITUM_TRY(records, m_file.calibrations(id));
            for (const CalibrationRecord& r : records)
                work.exec_params(
                    "INSERT INTO cognitum.calibration VALUES ($1, $2, $3, $4, $5::jsonb) ON CONFLICT DO NOTHING",
                    m_bench_no, r.id, r.reading, iso_time(r.time), json_dump(record_json(r)));
        }
        const auto last =
            work.exec_params1("SELECT coalesce(max(id), 0) FROM cognitum.log_entry WHERE bench_no = $1",
                              m_bench_no)[0]
                .as<std::int64_t>();
        LogFilter all;
        all.newest = 10'000'000;
        COGNITUM_TRY(entries, m_file.find_log(all));
        for (const LogEntry& e : entries) {
            const bool of_others =
                !e.reading.empty() && !m_reading_no.contains(e.reading) && m_bench.reading(e.reading);
            if (e.id <= last || of_others) continue; // also of a health reading: its words are about somebody
            work.exec_params(
                "INSERT INTO cognitum.log_entry VALUES ($1, $2, $3, $4, $5, $6, $7) ON CONFLICT DO NOTHING",
                m_bench_no, e.id, iso_time(e.time), e.reading, e.kind, e.text,
                e.corrects > 0 ? std::optional(e.corrects) : std::nullopt);
        }
        work.commit();
        return {};
    }
    /// False: it was stopped.
    Result<bool> copy_day(const Reading& reading, int day, ValueDoubts& doubts, MirrorReport& report) {
        const TimeUs from = day * day_us;
        const int no = m_reading_no.at(reading.id);
        pqxx::work work(m_server);
        work.exec("CREATE TEMP TABLE IF NOT EXISTS incoming (LIKE cognitum.sample) ON COMMIT DELETE ROWS");
        std::uint64_t n = 0;
        {
            pqxx::stream_to rows(work, "incoming",
                                 std::vector<std::string>{"reading_no", "time", "raw", "value", "doubt", "cause"});
            COGNITUM_CHECK(
                for_each_sample(m_file, reading.id, from, from + day_us - 1, [&](std::span<const Sample> samples) {
                    for (const Sample& s : samples)
                        rows << std::make_tuple(no, iso_time(s.time), number(s.raw), number(s.value),
                                                doubts.at(s.value, s.time), static_cast<int>(s.cause));
                    n += samples.size();
                    return true;
                }));
            rows.complete();
        }
        const auto added =
            work.exec("INSERT INTO cognitum.sample SELECT * FROM incoming ON CONFLICT DO NOTHING").affected_rows();
        work.exec_params(
            "INSERT INTO cognitum.day_done VALUES ($1, $2, $3) ON CONFLICT (reading_no, day) DO UPDATE "
            "SET n = excluded.n",
            no, day, n);
        work.commit();
        report.samples += added;
        report.behind -= std::min<std::uint64_t>(report.behind, added);
        return !m_options.progress || m_options.progress(report.samples, report.behind);
    }

    BenchFile& m_file;
    const Bench& m_bench;
    const Catalog& m_catalog;
    pqxx::connection& m_server;
    const MirrorOptions& m_options;
    int m_bench_no = 0;
    std::map<std::string, int> m_reading_no;
};

/// A server's own words, which may name a host but no password.
std::string said_by(const std::exception& e) {
    std::string text = e.what();
    while (!text.empty() && (text.back() == '\n' || text.back() == ' '))
        text.pop_back();
    std::replace(text.begin(), text.end(), '\n', ' ');
    return text;
}

} // namespace

Result<MirrorReport> mirror(BenchFile& file, const Bench& bench, const Catalog& catalog, const std::string& address,
                            const MirrorOptions& options) {
    if (!address.starts_with("postgresql://") && !address.starts_with("postgres://"))
        return failure(phrase("this is no address of a PostgreSQL server."), "address",
                       phrase("Write postgresql://user@host/database; the password may stand in ~/.pgpass."));
    MirrorReport report;
    std::optional<pqxx::connection> server;
    try {
        server.emplace(address);
        pqxx::work work(*server);
        work.exec("SET client_min_messages = warning");
        work.exec("SELECT pg_advisory_xact_lock(4717421)"); // two mirrors that begin at once make the schema once
        work.exec(mirror_schema);
        for (int i = 1; i <= static_cast<int>(last_cause); ++i)
            work.exec_params("INSERT INTO cognitum.cause VALUES ($1, $2) ON CONFLICT DO NOTHING", i,
                             cause_text(static_cast<Cause>(i)));
        work.commit();
    } catch (const std::exception& e) {
        return failure(phrase("the server cannot be used ({}).", said_by(e)), phrase("the mirror’s server"),
                       phrase(what_to_do));
    }
    try {
        if (const auto copied = Copy(file, bench, catalog, *server, options).run(report); !copied)
            report.trouble = copied.error();
    } catch (const std::exception& e) {
        report.trouble = {phrase("the copy broke off ({}).", said_by(e)), phrase("the mirror’s server"),
                          phrase(what_to_do)};
    }
    return report;
}

} // namespace cognitum
