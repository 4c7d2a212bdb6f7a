// A whole recording without a window: bytes of three boards, interleaved, plugs pulled and put back, the clock set
// back, numbers typed, commits in between. Whatever comes, the bench stays sound and holds what was said to be
// saved.
#include "core/decode/stream.h"
#include "core/plan/intake.h"
#include "fuzz.h"
#include "store/upkeep/verify.h"

#include <array>
#include <cstdlib>
#include <filesystem>
#include <unistd.h>

using namespace cognitum;

namespace {

constexpr std::size_t boards = 3;

struct Board {
    Stream stream;
    Intake intake;
};

Bench plan_of_three() {
    Bench bench;
    for (std::size_t i = 0; i < boards; ++i) {
        Reading r;
        r.id = r.name = "r" + std::to_string(i);
        bench.readings.push_back(r);
    }
    return bench;
}

std::string path_of(const char* name) {
    const char* folder = std::getenv("TMPDIR");
    return std::string(folder ? folder : "/tmp") + "/cognitum-" + name + std::to_string(::getpid()) + ".cognitum";
}

std::string empty_bench() {
    const std::string path = path_of("empty");
    std::filesystem::remove(path);
    PROMISE(BenchFile::create(path, [](BenchFile& made) -> Result<void> {
                COGNITUM_CHECK(made.save_plan(plan_of_three()));
                return {};
            }).has_value());
    return path;
}

/// One that stays open and is emptied for each input.
BenchFile& empty_file() {
    static BenchFile* const file = [] {
        auto opened = BenchFile::open(empty_bench(), Access::write);
        PROMISE(opened.has_value());
        opened->db().exec("PRAGMA synchronous = OFF");
        return new BenchFile(std::move(*opened));
    }();
    file->db().exec("DELETE FROM tail; DELETE FROM block; DELETE FROM series");
    return *file;
}

} // namespace

HARNESS(boards)(const std::uint8_t* data, std::size_t size) {
    BenchFile& file = empty_file();
    const Bench plan = plan_of_three();
    std::array<Board, boards> all;
    for (std::size_t i = 0; i < boards; ++i)
        all[i].intake = Intake(plan.readings[i], {});
    TimeUs now = 1'700'000'000'000'000;
    std::vector<SeriesBatch> waiting;
    std::uint64_t saved = 0;
    const auto commit = [&] {
        const auto added = add_samples(file, waiting);
        PROMISE(added.has_value() && added->damaged.empty());
        saved += added->added;
        waiting.clear();
    };
    const auto take = [&](std::size_t b, TimeUs time, double raw) {
        if (const auto arrived = all[b].intake.take(time, raw, {}, 1))
            waiting.push_back(
                {plan.readings[b].id, {{time, arrived->raw, arrived->value.number, arrived->value.cause}}});
    };
    std::string_view bytes = text_of(data, size);
    while (bytes.size() >= 2) {
        const auto what = static_cast<unsigned char>(bytes[0]);
        const std::size_t n = std::min<std::size_t>(static_cast<unsigned char>(bytes[1]), bytes.size() - 2);
        const std::size_t b = what % boards;
        Board& board = all[b];
        now += what % 16 == 15 ? -3600 * second_us : 10'000;
        switch (what / 32) {
        case 0: // pulled and put back: what is learnt is forgotten
            board.stream = Stream();
            board.stream.decoder().joined_midway();
            break;
        case 1: commit(); break;
        case 2: {
            const Arrived typed = board.intake.finished(static_cast<double>(n));
            waiting.push_back({plan.readings[b].id, {{now, std::nan(""), typed.value.number, typed.value.cause}}});
            break;
        }
        default: {
            const auto& rows = what / 32 == 3 ? board.stream.feed_message(bytes.substr(2, n), "x", now)
                                              : board.stream.feed(bytes.substr(2, n), now);
            for (const Stream::Row& row : rows) {
                const Records& records = board.stream.records();
                PROMISE(row.row < records.rows.size());
                const Records::Row& cells = records.rows[row.row];
                if (cells.count > 0) take(b, row.time, records.cells[cells.first].value);
            }
        }
        }
        bytes.remove_prefix(2 + n);
    }
    commit();
    const auto report = verify(file);
    PROMISE(report.has_value() && report->problems.empty());
    PROMISE(report->samples == saved);
    return 0;
}
