#include "core/calibrate/certificate.h"

#include "core/base/csv_text.h"
#include "core/base/phrase.h"
#include "core/calibrate/references.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <cmath>
#include <fmt/ranges.h>
#include <set>

namespace cognitum {

namespace {

std::string verdict_line(double worst, double doubt, double limit, const std::string& verdict,
                         const std::string& unit) {
    if (find_verdict(verdict) == Verdict::nothing_checks)
        return phrase("{}: no more points than constants; ± {} at 95 % from what is stated",
                      verdict_text(Verdict::nothing_checks), format_measure(doubt, unit, 2));
    return phrase("{}: off by up to {} at 95 %, limit ± {}", verdict_text(find_verdict(verdict)),
                  format_with_doubt(std::abs(worst), doubt, unit), format_measure(limit, unit));
}

/// The two parts of the correction's doubt, in the middle of what was proven.
std::string doubt_line(const CalibrationRecord& r) {
    const AppliedCorrection& c = r.correction;
    const double x = (c.from + c.to) / 2;
    const double all = correction_u(c, x); // of a line or a curve
    const double fit = std::sqrt(std::max(0.0, all * all - c.u_reference * c.u_reference));
    return phrase("at {}, standard: the references {}, which all points share; the {} through the points {}, with "
                  "{} degrees of freedom",
                  format_measure(x, r.unit, 4), format_measure(c.u_reference, r.unit, 2), r.model,
                  format_measure(fit, r.unit, 2), format_constant(c.dof, 3));
}

std::string replaced_line(const AppliedCorrection& before, const std::string& unit) {
    return fmt::format("{}{}", correction_text(before, unit),
                       before.record > 0
                           ? phrase(", record {} of {}", before.record, iso_time(before.time).substr(0, 10))
                           : std::string());
}

} // namespace

std::string correction_text(const AppliedCorrection& c, const std::string& unit) {
    const std::string symbol = unit_symbol(unit);
    if (!c.curve.empty())
        return phrase("A curve from {} to {} {}", format_constant(c.from, 4), format_constant(c.to, 4), symbol);
    const std::string sign = c.offset < 0 ? "−" : "+";
    if (c.gain == 1)
        return "An offset of " + (c.offset < 0 ? sign : "") + format_measure(std::abs(c.offset), unit, 3);
    if (c.offset == 0) return phrase("{} × indication", format_constant(c.gain, 5));
    return phrase("{} × indication {} {}", format_constant(c.gain, 5), sign,
                  format_measure(std::abs(c.offset), unit, 3));
}

std::size_t points_taken(const CalibrationRecord& record) {
    if (record.model != "path") return record.points.size();
    std::set<std::pair<TimeUs, double>> taken; // both say the same time and raw value
    for (const CalibrationPoint& p : record.points)
        taken.emplace(p.time, p.raw);
    return taken.size();
}

Certificate certificate(std::span<const CalibrationRecord> records, std::size_t i, const CertificateOf& of) {
    Certificate out{records[i], {}, {}};
    out.about.bench = of.bench.name;
    out.about.place = of.bench.place;
    out.about.reading = of.reading.name;
    out.about.marking = of.reading.sensor.marking;
    out.about.raw_unit = of.reading.path.first_unit();
    if (of.part) out.about.part = of.part->name;
    for (const Recipe& recipe : of.recipes)
        if (recipe.id == out.record.recipe) {
            out.about.recipe = recipe.title;
            for (const RecipeStep& step : recipe.steps)
                out.about.steps.push_back(step.text);
        }
    if (i > 0) out.before = records[i - 1].correction;
    if (i + 1 == records.size()) out.about.due = drift_by_card(of.reading, records, of.part).due;
    return out;
}

std::vector<CertificateRow> certificate_rows(const Certificate& certificate) {
    const auto& [r, about, before] = certificate;
    std::vector<CertificateRow> rows = {
        {phrase("What"), about.reading + (about.part.empty() ? "" : ", " + about.part) +
                             (about.marking.empty() ? "" : phrase(", marked ") + about.marking)},
        {phrase("Where"), about.bench + (about.place.empty() ? "" : ", " + about.place)},
        {phrase("When"), iso_time(r.time).substr(0, 10) + " " + iso_time(r.time).substr(11, 5) + " UTC"}};
    if (!about.recipe.empty()) {
        std::string method = about.recipe;
        for (std::size_t i = 0; i < about.steps.size(); ++i)
            method += fmt::format("\n{}. {}", i + 1, about.steps[i]);
        rows.push_back({phrase("By which recipe"), method});
    }
    if (!r.references.empty())
        rows.push_back({phrase("With what"), fmt::format("{}", fmt::join(r.references, "\n"))});
    if (!r.conditions.empty()) rows.push_back({phrase("Conditions"), r.conditions});
    rows.push_back({phrase("As found"), r.verdict_found.empty() ? phrase("not compared before it was adjusted")
                                                                : verdict_line(r.worst_found, r.doubt_found,
                                                                               r.limit, r.verdict_found, r.unit)});
    if (!r.adjusted.empty()) rows.push_back({phrase("Adjusted"), r.adjusted});
    rows.push_back({phrase("Correction"), r.model == "none"   ? phrase("None: compared, and nothing changed")
                                          : r.model == "path" ? read_back(r.into)
                                                              : correction_text(r.correction, r.unit)});
    if (r.model != "none" && r.model != "path") rows.push_back({phrase("Behind its doubt"), doubt_line(r)});
    if (before) rows.push_back({phrase("It replaces"), replaced_line(*before, r.unit)});
    rows.push_back({phrase("As left"), verdict_line(r.worst_left, r.doubt_left, r.limit, r.verdict_left, r.unit)});
    if (!r.verdict_check.empty())
        rows.push_back(
            {phrase("Check"), verdict_line(r.worst_check, r.doubt_check, r.limit, r.verdict_check, r.unit)});
    rows.push_back({phrase("Proven"), phrase("from {} to {}", format_constant(r.correction.from, 4),
                                             format_measure(r.correction.to, r.unit, 4))});
    if (about.due > 0) rows.push_back({phrase("Next due"), iso_time(about.due).substr(0, 10)});
    if (!r.note.empty()) rows.push_back({phrase("Note"), r.note});
    rows.push_back({phrase("Signed"), r.by.empty() ? phrase("by nobody yet") : r.by});
    return rows;
}

Json certificate_json(const Certificate& certificate) {
    const auto& [record, about, before] = certificate;
    Json out = record_json(record);
    out["id"] = record.id;
    out["about"] = {{"bench", about.bench},
                    {"place", about.place},
                    {"reading", about.reading},
                    {"part", about.part},
                    {"recipe", about.recipe}};
    if (about.due > 0) out["about"]["next_due"] = iso_time(about.due);
    return out;
}

std::string certificate_csv(const CalibrationRecord& r) {
    std::string out = "time,reference_kind,instrument,reference,u_reference,indication,u_indication,raw,corrected,"
                      "run,as_left,check,forced,set_aside\n";
    for (const CalibrationPoint& p : r.points) {
        const double after = said_after(r, p);
        out += fmt::format(
            "{},{},{},{},{},{},{},{},{},{},{},{},{},{}\n", iso_time(p.time), csv_field(p.reference_kind),
            csv_field(p.instrument), p.reference, p.u_reference, p.indication, p.u_indication, p.raw,
            std::isfinite(after) ? fmt::format("{}", after) : std::string(),
            p.run > 0   ? "up"
            : p.run < 0 ? "down"
                        : "",
            p.as_left ? "yes" : "no", p.check ? "yes" : "no", p.forced ? "yes" : "no", csv_field(p.set_aside));
    }
    return out;
}

} // namespace cognitum
