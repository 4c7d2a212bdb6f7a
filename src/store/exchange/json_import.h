// JSON and SenML (RFC 8428) into a bench, record by record, in bounded memory.
#pragma once

#include "store/exchange/csv_import.h"

#include <string>
#include <string_view>

namespace cognitum {

enum class ImportForm {
    csv,
    json, ///< {"readings": [{"name", "unit", "samples": [[time, value], …]}]}, as export writes it
    senml,
    plan ///< a bench's JSON form: no samples
};
/// By the beginning of a file.
ImportForm form_of(std::string_view head);

struct PointsPreview {
    struct Series {
        std::string name, unit;
        std::uint64_t n = 0;
        std::string says; ///< what becomes of it, for a person
        bool refused = false;
    };
    std::vector<Series> series; ///< in the order in which they come
    std::uint64_t good = 0;
    Rejections rejected;
    std::optional<TimeUs> first, last; ///< of the good ones
};
/// What the beginning of a file of JSON or SenML holds.
Result<PointsPreview> preview_points(const std::string& name, std::string_view head, const Bench& bench);

/// Any of the three forms, by the beginning of the file; of a pipe as well. See import_csv(). A record that is none
/// is set aside; text that is no JSON ends the import, and what came before stays. A time in SenML that is relative
/// to now has no place and is set aside.
Result<ImportReport> import_samples(BenchFile& file, Bench& bench, const std::string& name, int descriptor,
                                    const ImportOptions& options = {});

} // namespace cognitum
