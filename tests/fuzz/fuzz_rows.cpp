// A bench whose rows somebody changed with SQL: any value of any type in any column, with or without a sum that
// holds. Nothing crashes or hangs; what verify calls sound can be read in order, and stays sound when samples are
// added.
#include "fuzz.h"
#include "store/upkeep/verify.h"

#include <SQLiteCpp/Statement.h>
#include <cstdlib>
#include <cstring>
#include <filesystem>
#include <sstream>
#include <unistd.h>

using namespace cognitum;

namespace {

std::string path_of(const char* name) {
    const char* folder = std::getenv("TMPDIR");
    return std::string(folder ? folder : "/tmp") + "/cognitum-" + name + std::to_string(::getpid()) + ".cognitum";
}

/// A small sound bench with a block, a tail, a calibration and an entry.
std::string template_bench() {
    const std::string path = path_of("template");
    std::filesystem::remove(path);
    const auto made = BenchFile::create(path, [](BenchFile& file) -> Result<void> {
        Bench bench;
        bench.readings.push_back({});
        bench.readings[0].id = bench.readings[0].name = "a";
        COGNITUM_CHECK(file.save_plan(bench));
        // A small block: what comes late stands alone before the full one, which then goes. Full blocks would take
        // most of the time of an input.
        for (const auto& [from, to] : {std::pair{1000, 1000 + 4096 + 20}, {0, 50}}) {
            SeriesBatch batch{"a", {}};
            for (int i = from; i < to; ++i)
                batch.samples.push_back({i * second_us, double(i % 5), double(i % 5), Cause::none});
            COGNITUM_CHECK(add_samples(file, std::span(&batch, 1)));
        }
        file.db().exec("DELETE FROM block WHERE n = 4096");
        CalibrationRecord record;
        record.reading = "a";
        record.model = "none";
        COGNITUM_CHECK(file.append_calibration(record));
        COGNITUM_CHECK(file.append_log({0, 1, "a", "note", "x", 0}));
        return {};
    });
    PROMISE(made.has_value());
    return path;
}

class Input {
  public:
    Input(const std::uint8_t* data, std::size_t size) : m_rest(text_of(data, size)) {}
    [[nodiscard]] bool empty() const { return m_rest.empty(); }
    std::uint8_t byte() {
        if (m_rest.empty()) return 0;
        const auto out = static_cast<std::uint8_t>(m_rest.front());
        m_rest.remove_prefix(1);
        return out;
    }
    std::string_view bytes(std::size_t n) {
        const std::string_view out = m_rest.substr(0, n);
        m_rest.remove_prefix(out.size());
        return out;
    }
    template <typename T>
    T number() {
        T out{};
        const std::string_view from = bytes(sizeof out);
        std::memcpy(&out, from.data(), from.size());
        return out;
    }

  private:
    std::string_view m_rest;
};

/// One column of one row gets a value of any type.
void change(SQLite::Database& db, Input& in) {
    const SummedTable& table = summed_tables[in.byte() % std::size(summed_tables)];
    std::vector<std::string> columns;
    std::istringstream names(table.columns);
    for (std::string name; std::getline(names >> std::ws, name, ',');)
        columns.push_back(name);
    const std::uint8_t how = in.byte();
    const std::string column = columns[in.byte() % columns.size()];
    const std::string sum = how & 1   ? "NULL"
                            : how & 2 ? std::string("row_sum(") + table.columns + ")"
                                      : "check_sum";
    const std::string where = std::string(" WHERE ") + columns[0] + " IN (SELECT " + columns[0] + " FROM " +
                              table.name + " LIMIT 1 OFFSET " + std::to_string(in.byte() % 4) + ")";
    SQLite::Statement set(db, std::string("UPDATE OR REPLACE ") + table.name + " SET " + column + " = ?" + where);
    switch (in.byte() % 6) {
    case 0: set.bind(1, in.number<std::int64_t>()); break;
    case 1: set.bind(1, in.number<double>()); break;
    case 2: set.bind(1, std::string(in.bytes(in.byte()))); break;
    case 3: {
        const std::string_view blob = in.bytes(in.byte());
        set.bind(1, blob.data(), static_cast<int>(blob.size()));
        break;
    }
    case 4: set.bind(1); break;
    default: set.bind(1, static_cast<std::int64_t>(in.byte()) - 2); break;
    }
    set.exec();
    db.exec(std::string("UPDATE ") + table.name + " SET check_sum = " + sum + where);
}

void read_everything(BenchFile& file) {
    (void)file.load_plan();
    (void)file.log(50);
    (void)file.calibrations("a");
    (void)file.draft("a");
    (void)extent(file, "a");
    (void)summaries(file, "a", earliest_time, latest_time, 100);
    std::vector<Unreadable> unreadable;
    (void)for_each_sample(
        file, "a", earliest_time, latest_time,
        [](std::span<const Sample> samples) {
            for (const Sample& s : samples)
                PROMISE(s.time >= earliest_time && s.time <= latest_time);
            return true;
        },
        &unreadable);
}

/// A copy of the sound bench that stays open, without the triggers that keep its records.
BenchFile* open_copy() {
    const std::string sound = template_bench();
    const std::string path = path_of("rows");
    std::filesystem::copy_file(sound, path, std::filesystem::copy_options::overwrite_existing);
    auto file = BenchFile::open(path, Access::write);
    PROMISE(file.has_value());
    const auto report = verify(*file);
    PROMISE(report && report->problems.empty() && report->samples > 0);
    for (const char* trigger : {"calibration_stays", "calibration_kept", "logbook_stays", "logbook_kept"})
        file->db().exec(std::string("DROP TRIGGER ") + trigger);
    file->db().exec("PRAGMA synchronous = OFF; ATTACH '" + sound + "' AS sound");
    return new BenchFile(std::move(*file));
}

/// Every row as it was.
void restore(SQLite::Database& db) {
    db.exec("BEGIN");
    for (const SummedTable& table : summed_tables) {
        const std::string name = table.name;
        db.exec("DELETE FROM main." + name + "; INSERT INTO main." + name + " SELECT * FROM sound." + name);
    }
    db.exec("COMMIT");
}

} // namespace

HARNESS(rows)(const std::uint8_t* data, std::size_t size) {
    static BenchFile* const file = open_copy();
    restore(file->db());
    Input in(data, size);
    for (int n = 0; n < 20 && !in.empty(); ++n) {
        try {
            change(file->db(), in);
        } catch (const std::exception&) { // SQLite refuses some, such as NULL where none may be
        }
    }
    read_everything(*file);
    const auto before = verify(*file);
    const SeriesBatch more{"a",
                           {{2 * second_us + 1, 1, 1, Cause::none}, {9'000'000 * second_us, 1, 1, Cause::none}}};
    const auto added = add_samples(*file, std::span(&more, 1));
    if (before && before->problems.empty() && added) {
        const auto after = verify(*file);
        PROMISE(after.has_value() && after->problems.empty());
    }
    return 0;
}
