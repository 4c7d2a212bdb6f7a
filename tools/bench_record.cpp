// The record: CSV in, a bench of many samples opened and panned, bytes a sample, cost of a sample as a file grows.
#include "bench_parts.h"

#include "store/samples/samples.h"

#include <cmath>
#include <cstdio>
#include <cstdlib>
#include <filesystem>
#include <fmt/format.h>
#include <fstream>

namespace cognitum::bench {

namespace {

namespace fs = std::filesystem;

fs::path scratch() {
    const char* home = std::getenv("XDG_DATA_HOME"); // tools/bench makes it and takes it away
    return fs::path(home ? home : "/tmp");
}

bool ran(const std::string& command) {
    return std::system(command.c_str()) == 0; // NOLINT: a measurement runs programs
}

Json told_by_view(const std::string& folder, const fs::path& file, long samples) {
    const fs::path said = scratch() / "said.json";
    if (!ran(fmt::format("{}/cognitum-record-view {} {} > {} 2> /dev/null", folder, file.string(), samples,
                         said.string())))
        return Json(Json::value_t::discarded);
    std::ifstream in(said);
    return Json::parse(in, nullptr, false);
}

double number_of(const Json& told, const char* key) {
    return told.is_discarded() ? std::nan("") : told[key].get<double>();
}

/// A slow 12-bit reading at one a second.
std::vector<Sample> slow_signal(std::int64_t from, std::int64_t n) {
    std::vector<Sample> out;
    for (std::int64_t k = from; k < from + n; ++k) {
        const double code = std::floor(2048 + 900 * std::sin(static_cast<double>(k) / 13751.0));
        out.push_back({k * second_us, code, code * 0.01, Cause::none});
    }
    return out;
}

} // namespace

Json p4(const std::string& folder) {
    fs::create_directories(scratch());
    const fs::path csv = scratch() / "rows.csv";
    constexpr int rows = 5'000'000;
    {
        std::ofstream out(csv);
        out << "time,Air\n";
        for (const Sample& s : slow_signal(1'700'000'000, rows))
            out << fmt::format("{},{:.2f}\n", iso_time(s.time), s.value);
    }
    const fs::path ours = scratch() / "rows.cognitum", theirs = scratch() / "rows.db";
    bool went = true;
    const Pair p = alternate(
        5,
        [&] {
            fs::remove(ours);
            went = ran(fmt::format("{}/cognitum-cli import {} --bench {} > /dev/null", folder, csv.string(),
                                   ours.string())) &&
                   went;
        },
        [&] {
            fs::remove(theirs);
            went = ran(fmt::format(
                       "sqlite3 {} -cmd 'create table t(time text, air real)' '.mode csv' '.import --skip 1 {} t'",
                       theirs.string(), csv.string())) &&
                   went;
        });
    const double size = static_cast<double>(fs::file_size(ours)) / static_cast<double>(fs::file_size(theirs));
    return {{"what", "CSV of 5 million rows into a bench, durably, s; baseline the sqlite3 shell's .import"},
            {"value", p.ours},
            {"baseline", p.baseline},
            {"ratio", p.baseline / p.ours},
            {"size_ratio", size},
            {"target", "4 times as fast, file <= 1/4"},
            {"met", went && p.baseline >= 4 * p.ours && size <= 0.25}};
}

std::pair<Json, Json> p6_p7(const std::string& folder) {
    fs::create_directories(scratch());
    const fs::path many = scratch() / "many.cognitum", few = scratch() / "few.cognitum";
    std::vector<double> opened_many, opened_few, memory_many, memory_few, frame, frame_99;
    for (int i = 0; i < 6; ++i) {
        const Json a = told_by_view(folder, many, 50'000'000);
        const Json b = told_by_view(folder, few, 50'000);
        if (i == 0) continue; // the files were made
        opened_many.push_back(number_of(a, "opened_ms"));
        opened_few.push_back(number_of(b, "opened_ms"));
        memory_many.push_back(number_of(a, "peak_MB"));
        memory_few.push_back(number_of(b, "peak_MB"));
        frame.push_back(number_of(a, "frame_ms"));
        frame_99.push_back(number_of(a, "frame_99_ms"));
    }
    const double ours = median(opened_many), base = median(opened_few);
    const double more = median(memory_many) - median(memory_few);
    const Json p6 = {
        {"what", "a bench of 50 million samples until its first time line is drawn, ms; baseline 50 thousand"},
        {"value", ours},
        {"baseline", base},
        {"ratio", ours / base},
        {"more_MB", more},
        {"target", "ratio <= 2, more_MB <= 100"},
        {"met", ours <= 2 * base && more <= 100}};
    const Json p7 = {{"what", "panning and zooming that time line, ms a frame"},
                     {"value", median(frame)},
                     {"frame_99_ms", median(frame_99)},
                     {"baseline", 1000.0 / 60},
                     {"ratio", median(frame) / (1000.0 / 60)},
                     {"target", "<= 16 ms, 99 % <= 33 ms"},
                     {"met", median(frame) <= 16 && median(frame_99) <= 33}};
    return {p6, p7};
}

Json p10() {
    fs::create_directories(scratch());
    const fs::path path = scratch() / "slow.cognitum";
    constexpr std::int64_t n = 2'000'000;
    fs::remove(path);
    const auto made = BenchFile::create(path.string(), [&](BenchFile& file) -> Result<void> {
        const SeriesBatch batch{"air", slow_signal(0, n)};
        COGNITUM_CHECK(add_samples(file, std::span(&batch, 1)));
        return {};
    });
    const double bytes = made ? static_cast<double>(fs::file_size(path)) / n : std::nan("");
    return {{"what", "bytes a sample of a slow 12-bit reading, 1 Hz; baseline raw time and value"},
            {"value", bytes},
            {"baseline", 16},
            {"ratio", bytes / 16},
            {"target", "<= 2"},
            {"met", bytes <= 2}};
}

Json growth() {
    fs::create_directories(scratch());
    const fs::path path = scratch() / "growth.cognitum";
    fs::remove(path);
    Json steps = Json::array();
    std::vector<double> cost;
    const auto made = BenchFile::create(path.string(), [&](BenchFile& file) -> Result<void> {
        std::int64_t at = 0;
        for (const std::int64_t until : {1'000'000L, 10'000'000L, 100'000'000L}) {
            constexpr std::int64_t part = 100'000;
            const std::int64_t measured = std::min<std::int64_t>(until, 10 * part);
            while (at < until - measured) { // up to there, unmeasured
                const std::int64_t n = std::min<std::int64_t>(1'000'000, until - measured - at);
                const SeriesBatch batch{"air", slow_signal(at, n)};
                COGNITUM_CHECK(add_samples(file, std::span(&batch, 1)));
                at += n;
            }
            std::vector<double> each;
            for (; at < until; at += part) {
                const SeriesBatch batch{"air", slow_signal(at, part)};
                each.push_back(time_s([&] { (void)add_samples(file, std::span(&batch, 1)); }) * 1e9 / part);
            }
            cost.push_back(median(each));
            steps.push_back({{"samples", at}, {"ns_a_sample", cost.back()}});
        }
        return {};
    });
    const double worst = *std::max_element(cost.begin() + 1, cost.end());
    return {{"what", "ns to add a sample as the file grows from 10^6 to 10^8, medians of ten"},
            {"value", worst},
            {"baseline", cost.front()},
            {"ratio", worst / cost.front()},
            {"steps", steps},
            {"target", "flat: ratio <= 1.5"},
            {"met", made.has_value() && worst <= 1.5 * cost.front()}};
}

} // namespace cognitum::bench
