// An import under way, whatever the form of the file: samples on their way into a bench, kept in a thread while the
// next are read; readings that the file brings; and what became of it all.
#pragma once

#include "core/catalog/cards.h"
#include "core/decode/rejections.h"
#include "store/file/bench_file.h"
#include "store/samples/sample.h"

#include <chrono>
#include <functional>
#include <future>
#include <string>
#include <vector>

namespace cognitum {

struct ImportReport {
    std::uint64_t rows = 0;            ///< taken
    std::uint64_t samples = 0;         ///< added
    std::vector<std::string> readings; ///< ids that got samples
    Rejections rejected;
};

/// The reading of this name, in capitals or not, or of this id; nullptr: there is none.
const Reading* reading_called(const Bench& bench, std::string_view name);

/// A line through numbers of one unit to those of another.
struct UnitLine {
    double factor = 1, offset = 0;
    [[nodiscard]] double of(double value) const { return factor * value + offset; }
};
/// From the unit that a file names to the reading's own. A unit that is not known, or none, changes nothing. Error
/// when the two measure different things.
Result<UnitLine> unit_line(const std::string& unit, const Reading& reading);

/// A reading for numbers that a file brings, with a kind by its unit and name.
std::string create_reading(Bench& bench, const std::string& name, const std::string& unit);

class ImportRun {
  public:
    ImportRun(BenchFile& file, const Bench& bench) : m_file(file), m_plan(bench), m_stored(bench) {}

    /// The plan with the readings that the file brings; it is saved with the first samples.
    [[nodiscard]] Bench& plan() { return m_plan; }
    /// Its index among the lanes, made when it is new.
    std::size_t lane(const std::string& reading);

    /// A sample of the row that was begun last.
    void add(std::size_t lane, const Sample& sample);
    void begin_row(std::uint64_t line) { m_line = line, m_row_empty = true; }
    void reject(std::string_view reason, std::uint64_t line, std::string_view text) {
        m_report.rejected.add(reason, line, text);
    }

    /// Nothing was added or rejected.
    [[nodiscard]] bool is_empty() const {
        return m_report.rows == 0 && m_rows.samples == 0 && !m_under_way.valid() && m_report.rejected.total() == 0;
    }
    /// Begins to keep what was added, when it is much or has waited. Error when what was begun before failed.
    Result<void> keep_much();
    Result<void> keep_old();
    /// What happened to the input, and how much is saved.
    Error broken(const std::string& what, const std::string& name);
    /// Keeps the rest. Error when nothing was taken; the bench is then as it was, else it has what is stored now.
    Result<ImportReport> finish(const std::string& name, Bench& bench);

  private:
    struct Rows;
    struct Kept;
    static Result<Kept> keep_rows(BenchFile& file, const std::vector<std::string>& readings, Rows rows);
    Result<void> begin_keeping();
    Result<void> wait();

    /// Rows on their way into the file, by lanes.
    struct Rows {
        struct Lane {
            std::vector<Sample> samples;
            std::vector<std::uint32_t> row; ///< of each sample, in `lines`
        };
        std::vector<Lane> lanes;
        std::vector<std::uint64_t> lines; ///< number of each row's line
        std::size_t samples = 0;
    };
    struct Kept {
        std::uint64_t samples = 0;
        std::vector<std::size_t> lanes;           ///< that got samples
        std::uint64_t rows = 0;                   ///< of which anything was new
        std::vector<std::uint64_t> lines_doubled; ///< of which nothing was
    };

    BenchFile& m_file;
    Bench m_plan, m_stored; ///< another program may have changed the one in the file
    std::size_t m_saved_readings = 0;
    bool m_plan_saved = false;
    std::vector<std::string> m_lanes; ///< ids
    Rows m_rows;
    std::uint64_t m_line = 0;
    bool m_row_empty = true;
    ImportReport m_report;
    std::chrono::steady_clock::time_point m_last_kept = std::chrono::steady_clock::now();
    std::future<Result<Kept>> m_under_way; ///< the file belongs to its thread; its end is waited for
};

} // namespace cognitum
