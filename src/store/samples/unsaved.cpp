#include "store/samples/unsaved.h"

#include "core/base/phrase.h"
#include "store/file/data_files.h"
#include "store/file/whole_file.h"

#include <algorithm>
#include <filesystem>
#include <fmt/format.h>
#include <functional>

namespace cognitum {

namespace fs = std::filesystem;

namespace {

constexpr const char* marked = ".unsaved-";

/// Beside the bench, and where that cannot be written a folder of this bench's own: another one may have its name.
std::vector<fs::path> folders_for(const std::string& path) {
    std::vector<fs::path> out = {fs::path(path).parent_path()};
    const std::string full = full_path(path).value_or(path);
    if (const std::string own = own_data_folder(); !own.empty())
        out.push_back(fs::path(own) / "unsaved" / fmt::format("{:016x}", std::hash<std::string>{}(full)));
    return out;
}

/// "2026-06-01T09-00-00-250000": a time as part of a file's name.
std::string time_in_name(TimeUs time) {
    std::string out = iso_time(time);
    for (char& c : out)
        if (c == ':' || c == '.') c = '-';
    return out;
}

Result<std::uint64_t> take_back(BenchFile& file, const std::string& kept) {
    COGNITUM_TRY(from, BenchFile::open(kept, Access::read));
    COGNITUM_TRY(plan, from.load_plan());
    std::uint64_t added = 0;
    for (const Reading& reading : plan.readings) {
        Result<void> failed;
        COGNITUM_CHECK(
            for_each_sample(from, reading.id, earliest_time, latest_time, [&](std::span<const Sample> samples) {
                const SeriesBatch batch{reading.id, {samples.begin(), samples.end()}};
                const auto done = add_samples(file, std::span(&batch, 1));
                if (!done)
                    failed = tl::make_unexpected(done.error());
                else if (!done->damaged.empty())
                    failed = tl::make_unexpected(done->damaged.begin()->second);
                else
                    added += done->added;
                return failed.has_value();
            }));
        COGNITUM_CHECK(failed);
    }
    COGNITUM_TRY(entries, from.log());
    for (auto entry = entries.rbegin(); entry != entries.rend(); ++entry) // oldest first
        COGNITUM_CHECK(file.append_log(*entry));
    return added;
}

} // namespace

Result<std::string> keep_unsaved(const std::string& path, const Bench& plan, const Unsaved& unsaved, TimeUs now) {
    const std::string name = fs::path(path).stem().string() + marked + (unsaved.empty() ? "plan-" : "") +
                             time_in_name(now) + ".cognitum";
    Result<std::string> out = failure(phrase("there is no folder to keep it in."));
    const std::vector<fs::path> folders = folders_for(path);
    for (const fs::path& folder : folders) {
        std::error_code code;
        if (folder != folders.front())
            fs::create_directories(folder, code); // a stick that was pulled is not made anew
        const std::string target = (folder / name).string();
        const auto made = BenchFile::create(target, [&](BenchFile& file) -> Result<void> {
            COGNITUM_CHECK(file.save_plan(plan));
            COGNITUM_CHECK(add_samples(file, unsaved.samples));
            for (const LogEntry& entry : unsaved.log)
                COGNITUM_CHECK(file.append_log(entry));
            return {};
        });
        if (made) return target;
        out = tl::make_unexpected(made.error());
    }
    return out;
}

Result<TakenBack> take_back_unsaved(BenchFile& file) {
    TakenBack out;
    const std::string start = fs::path(file.path()).stem().string() + marked;
    for (const fs::path& folder : folders_for(file.path())) {
        std::error_code code;
        std::vector<fs::path> found;
        for (const auto& entry : fs::directory_iterator(folder, code)) {
            const std::string name = entry.path().filename().string();
            if (name.starts_with(start) && !name.starts_with(start + "plan-") &&
                entry.path().extension() == ".cognitum")
                found.push_back(entry.path());
        }
        std::sort(found.begin(), found.end());
        for (const fs::path& kept : found) {
            COGNITUM_TRY(added, take_back(file, kept.string()));
            out.samples += added;
            out.files.push_back(kept.string());
            fs::remove(kept, code);
        }
    }
    return out;
}

} // namespace cognitum
