// A calibration on paper and for other programs.
#pragma once

#include "core/calibrate/drift.h"

#include <string>
#include <vector>

namespace cognitum {

/// What a certificate states beside the record itself.
struct CertificateAbout {
    std::string bench, place;
    std::string reading, part; ///< names for a person
    std::string recipe;        ///< title; empty: none
    TimeUs due = 0;            ///< next; 0: not said
};

struct CertificateRow {
    std::string name, text;
};
/// Points that somebody took: without what a new path made of the same raw values.
std::size_t points_taken(const CalibrationRecord& record);

/// What, with what, by which recipe, found, left, doubt, conditions, verdict, next due: name and text, in order.
std::vector<CertificateRow> certificate_rows(const CalibrationRecord& record, const CertificateAbout& about);

/// "An offset of −0.65 °C", "1.0021 × indication + 0.12 mm", "A curve through 5 points".
std::string correction_text(const AppliedCorrection& correction, const std::string& unit);

Json certificate_json(const CalibrationRecord& record, const CertificateAbout& about);
/// A line for each point, those set aside with their reason; UTF-8, a header, numbers with every digit.
std::string certificate_csv(const CalibrationRecord& record);

} // namespace cognitum
