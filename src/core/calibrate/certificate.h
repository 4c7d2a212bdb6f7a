// A calibration on paper and for other programs.
#pragma once

#include "core/calibrate/drift.h"
#include "core/calibrate/recipe.h"

#include <optional>
#include <span>
#include <string>
#include <vector>

namespace cognitum {

/// What a certificate states beside its record.
struct CertificateAbout {
    std::string bench, place;
    std::string reading, part;           ///< names for a person
    std::string recipe;                  ///< title; empty: none
    TimeUs due = 0;                      ///< next; 0: not said
    std::string marking = {};            ///< what the person's own part says on it
    std::vector<std::string> steps = {}; ///< of the recipe, as they were asked
    std::string raw_unit = {};           ///< of the points' raw means
};

struct Certificate {
    CalibrationRecord record;
    CertificateAbout about;
    std::optional<AppliedCorrection> before; ///< what was in force until then; none: the path alone
};

/// Whose records they are.
struct CertificateOf {
    const Bench& bench;
    const Reading& reading;
    const PartCard* part = nullptr; ///< null: none is chosen
    std::span<const Recipe> recipes;
};
/// Of record `i` of all records of a reading, oldest first: with what was in force before it, and, for the newest,
/// when the next one is due. i < records.size().
Certificate certificate(std::span<const CalibrationRecord> records, std::size_t i, const CertificateOf& of);

struct CertificateRow {
    std::string name, text;
};
/// Points that somebody took: without what a new path made of the same raw values.
std::size_t points_taken(const CalibrationRecord& record);

/// What, with what, by which recipe, found, left, doubt, conditions, verdict, next due: name and text, in order.
std::vector<CertificateRow> certificate_rows(const Certificate& certificate);

/// "An offset of −0.65 °C", "1.0021 × indication + 0.12 mm", "A curve through 5 points".
std::string correction_text(const AppliedCorrection& correction, const std::string& unit);

Json certificate_json(const Certificate& certificate);
/// A line for each point, those set aside with their reason; UTF-8, a header, numbers with every digit.
std::string certificate_csv(const CalibrationRecord& record);

} // namespace cognitum
