#include "core/calibrate/path_offers.h"

#include "core/base/phrase.h"
#include "core/calibrate/special.h"
#include "core/units/format.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

/// The points that a fit rests on, and what an offer is made from.
struct Basis {
    const Reading& reading;
    const Partners& partners;
    const std::vector<CalibrationPoint>& points;
    TimeUs now;
    bool after;
    std::size_t n;

    [[nodiscard]] const std::string& unit() const { return reading.quantity.unit; }
    [[nodiscard]] Constant constant(double value) const {
        // Its doubt stands in the correction, for all of them together: they were found from the same points.
        const InEnglish in_the_file;
        return {value, 0, Spread::none,        phrase("from {} points, {}", n, iso_time(now).substr(0, 10)), {},
                {},    0, KnownBy::calibration};
    }
    /// What stands before a stage when that raw value comes in.
    [[nodiscard]] Value before(std::size_t stage, double raw) const {
        Chain chain = reading.path;
        feed(chain, partners);
        chain.stages.resize(stage);
        return forward(chain, raw);
    }
};

template <typename S>
std::size_t last_stage(const Chain& path) {
    std::size_t at = path.stages.size();
    for (std::size_t i = 0; i < path.stages.size(); ++i)
        if (std::holds_alternative<S>(path.stages[i])) at = i;
    return at;
}

/// "1.1292 · 10⁻³"
std::string power_of_ten(double value) {
    if (value == 0) return "0";
    static const char* const digits[] = {"⁰", "¹", "²", "³", "⁴", "⁵", "⁶", "⁷", "⁸", "⁹"};
    const int power = static_cast<int>(std::floor(std::log10(std::abs(value))));
    std::string out = format_fixed(value / std::pow(10, power), 4) + " · 10" + (power < 0 ? "⁻" : "");
    for (const char digit : std::to_string(std::abs(power)))
        out += digits[digit - '0'];
    return out;
}

// A straight line: the correction that was found goes into the stage that the part's own line stands in.

/// out' = gain · out + shift at that stage; false where it has no constants for it.
bool fold(Stage& stage, double gain, double shift, const Basis& basis, std::string& words) {
    if (auto* s = std::get_if<Linear>(&stage)) {
        const double slope = s->slope.value / gain, zero = s->zero.value - shift * slope;
        s->slope = basis.constant(slope);
        s->zero = basis.constant(zero);
        words = phrase("zero {}, slope {} for each {}", format_measure(zero, s->input_unit),
                       format_measure(slope, s->input_unit), unit_symbol(s->unit));
        return true;
    }
    if (auto* s = std::get_if<Scale>(&stage)) {
        s->factor = basis.constant(gain * s->factor.value);
        s->offset = basis.constant(gain * s->offset.value + shift);
        words = phrase("{} for each {}", format_measure(s->factor.value, s->unit),
                       s->input_unit == "count" && basis.reading.quantity.about().events == Events::tips
                           ? phrase("tip")
                           : unit_symbol(s->input_unit));
        if (s->offset.value != 0) words += phrase(", and {}", format_measure(s->offset.value, s->unit));
        return true;
    }
    if (auto* s = std::get_if<Between>(&stage)) {
        const double span = s->at_100.value - s->at_0.value;
        const double at_0 = s->at_0.value - shift / gain / 100 * span;
        const double at_100 = s->at_0.value + (100 - shift) / gain / 100 * span;
        s->at_0 = basis.constant(at_0);
        s->at_100 = basis.constant(at_100);
        words = phrase("0 % at {}, 100 % at {}", format_measure(at_0, s->input_unit),
                       format_measure(at_100, s->input_unit));
        return true;
    }
    if (auto* s = std::get_if<LevelBelow>(&stage); s && gain == 1) {
        s->mount_height_mm = basis.constant(s->mount_height_mm.value + shift);
        words = phrase("face {} above the bottom", format_measure(s->mount_height_mm.value, "mm", 5));
        return true;
    }
    return false;
}

/// The doubt of a fitted line at x, as one of what the line makes of x.
AppliedCorrection doubt_behind(const AppliedCorrection& c) {
    AppliedCorrection out = c;
    const double k = 1 / c.gain;
    out.gain = 1;
    out.offset = 0;
    out.var_gain = c.var_gain * k * k;
    out.covariance = c.covariance * k - c.offset * c.var_gain * k * k;
    out.var_offset =
        std::max(0.0, c.var_offset - 2 * c.offset * k * c.covariance + c.offset * c.offset * k * k * c.var_gain);
    out.from = corrected(c, c.from);
    out.to = corrected(c, c.to);
    return out;
}

bool is_own_line(const Stage& stage) {
    if (std::holds_alternative<LevelBelow>(stage)) return true;
    if (!std::holds_alternative<Linear>(stage) && !std::holds_alternative<Scale>(stage) &&
        !std::holds_alternative<Between>(stage))
        return false;
    const Unit *in = find_unit(input_unit(stage)), *out = find_unit(output_unit(stage));
    return std::holds_alternative<Between>(stage) || (in && out && in->dimension != out->dimension) ||
           input_unit(stage) == "count";
}

void offer_straight(const Basis& basis, const std::optional<AppliedCorrection>& c, std::vector<PathOffer>& out) {
    const std::vector<Stage>& stages = basis.reading.path.stages;
    for (std::size_t i = stages.size(); i-- > 0;) {
        if (!is_own_line(stages[i])) continue;
        // What follows must carry a line on: y = a·out + b, whatever the readings say that it follows.
        double a = 1, b = 0;
        bool proportional = false, straight = true;
        for (std::size_t k = i + 1; k < stages.size(); ++k) {
            Affine line{};
            if (as_affine(stages[k], line)) {
                b = line.a * b + line.b;
                a *= line.a;
            } else if (std::holds_alternative<Conductivity25>(stages[k])) {
                proportional = true;
            } else {
                straight = false;
            }
        }
        if (!straight) return;
        PathOffer offer{"straight", phrase("Into the path’s own constants"), {}, false, basis.reading.path, {}, {}};
        if (!c) {
            offer.words = basis.n == 0 ? phrase("a point first") : phrase("not with these points: see above");
        } else if (!c->curve.empty()) {
            offer.words = phrase("for an offset, a gain or a line; a curve has no place there");
        } else if (proportional && c->offset != 0) {
            offer.words = phrase("for a gain only: what follows it changes with the temperature");
        } else if (std::holds_alternative<LevelBelow>(stages[i]) && c->gain != 1) {
            offer.words = phrase("for an offset only: a face hangs higher or lower, and nothing else");
        } else if (fold(offer.path.stages[i], c->gain, (c->gain * b + c->offset - b) / a, basis, offer.words)) {
            offer.possible = true;
            offer.doubt = doubt_behind(*c);
            for (const CalibrationPoint& p : basis.points)
                offer.indications.push_back(c->gain * p.indication + c->offset);
        }
        out.push_back(std::move(offer));
        return;
    }
}

// Fits of their own.

/// What a new path makes of the points, and the doubt of a line through what it leaves over.
void look_through(PathOffer& offer, const Basis& basis) {
    Chain path = offer.path;
    feed(path, basis.partners);
    std::vector<CalibrationPoint> again = basis.points;
    double worst = 0;
    for (CalibrationPoint& p : again) {
        const Value v = forward(path, p.raw);
        offer.indications.push_back(v.number);
        p.indication = v.number;
        if (p.fitted(basis.after) && v.ok()) worst = std::max(worst, std::abs(v.number - p.reference));
    }
    offer.possible = true;
    auto fitted = fit_points(again);
    for (const Model model : {Model::line, Model::offset}) {
        const auto fit = fit_model(fitted, model);
        const auto line =
            fit ? correction_from(*fit, again, basis.reading.quantity.low, basis.reading.quantity.high)
                : Result<AppliedCorrection>(tl::make_unexpected(fit.error()));
        if (!line) continue;
        offer.doubt = *line;
        offer.doubt.gain = 1;
        offer.doubt.offset = 0;
        break;
    }
    if (!basis.reading.quantity.about().is_state())
        offer.words += phrase("; leaves up to {}", format_measure(worst, basis.unit(), 2));
}

void offer_thermistor(const Basis& basis, std::vector<PathOffer>& out) {
    const Chain& path = basis.reading.path;
    const std::size_t beta = last_stage<ThermistorBeta>(path), sh = last_stage<ThermistorSteinhartHart>(path);
    const std::size_t at = std::min(beta, sh);
    if (at == path.stages.size()) return;
    PathOffer two{"thermistor-beta", phrase("Into the thermistor’s β and R25"), {}, false, path, {}, {}};
    PathOffer three{
        "thermistor-steinhart-hart", phrase("Into the thermistor’s three coefficients"), {}, false, path, {}, {}};
    std::vector<ResistancePair> pairs;
    for (const CalibrationPoint& p : basis.points) {
        if (!p.fitted(basis.after)) continue;
        const Value ohm = basis.before(at, p.raw);
        const auto celsius = convert_unit(p.reference, basis.unit(), "degC");
        const auto one_more = convert_unit(p.reference + 1, basis.unit(), "degC");
        if (ohm.ok() && celsius) pairs.push_back({*celsius, ohm.number, p.u_reference * (*one_more - *celsius)});
    }
    const auto fit = fit_thermistor(pairs);
    if (!fit) {
        two.words = pairs.size() < 2 ? phrase("from two temperatures on") : fit.error().what;
    } else {
        two.path.stages[at] =
            ThermistorBeta{basis.constant(fit->r25_ohm), basis.constant(25), basis.constant(fit->beta_K)};
        two.words = fmt::format("β {}, R25 {}",
                                std::isfinite(fit->u_beta_K) && fit->u_beta_K > 0
                                    ? format_with_doubt(fit->beta_K, 1.96 * fit->u_beta_K, "K")
                                    : format_measure(fit->beta_K, "K"),
                                format_measure(fit->r25_ohm, "ohm"));
        look_through(two, basis);
    }
    if (!fit || !fit->steinhart_hart) {
        three.words = phrase("from three temperatures on");
    } else {
        three.path.stages[at] =
            ThermistorSteinhartHart{basis.constant(fit->a), basis.constant(fit->b), basis.constant(fit->c)};
        three.words =
            fmt::format("a {}, b {}, c {}", power_of_ten(fit->a), power_of_ten(fit->b), power_of_ten(fit->c));
        look_through(three, basis);
    }
    out.push_back(std::move(two));
    out.push_back(std::move(three));
}

void offer_strapping(const Basis& basis, std::vector<PathOffer>& out) {
    const Chain& path = basis.reading.path;
    const std::size_t at = last_stage<VesselFill>(path);
    if (at == path.stages.size()) return;
    PathOffer offer{"strapping", phrase("Into the vessel’s table"), {}, false, path, {}, {}};
    struct Row {
        double level, litres, u;
    };
    std::vector<Row> rows;
    for (const CalibrationPoint& p : basis.points) {
        const Value level = basis.before(at, p.raw);
        const auto litres = convert_unit(p.reference, basis.unit(), "L"), one = convert_unit(1, basis.unit(), "L");
        if (p.fitted(basis.after) && level.ok() && litres)
            rows.push_back({level.number, *litres, p.u_reference * *one});
    }
    std::sort(rows.begin(), rows.end(), [](const Row& a, const Row& b) { return a.litres < b.litres; });
    std::vector<FillStep> steps;
    double before = 0, u = 0;
    for (const Row& row : rows) {
        // The doubt of a row is that of everything poured in: what this step adds to it.
        steps.push_back({row.level, row.litres - before, std::sqrt(std::max(0.0, row.u * row.u - u * u))});
        before = row.litres;
        u = std::max(u, row.u);
    }
    auto table =
        rows.size() < 3 ? Result<Strapping>(failure(phrase("from three levels on"))) : fit_strapping(steps);
    if (table) {
        if (table->levels_mm.front() > 0) { // it is empty at its bottom
            table->levels_mm.insert(table->levels_mm.begin(), 0);
            table->volumes_L.insert(table->volumes_L.begin(), 0);
        }
        VesselFill fill;
        fill.kind = physics::VesselKind::strapping;
        fill.levels_mm = table->levels_mm;
        fill.volumes_L = table->volumes_L;
        if (const auto sound = physics::check_vessel(fill.shape()); !sound) {
            offer.words = sound.error().what;
        } else {
            offer.path.stages[at] = fill;
            offer.words = phrase("{} rows up to {}", table->levels_mm.size(), format_measure(before, "L"));
            look_through(offer, basis);
            offer.doubt.var_offset = offer.doubt.var_gain = offer.doubt.covariance = 0;
            offer.doubt.dof = 0;
            offer.doubt.u_reference = table->u_L.back() / *convert_unit(1, basis.unit(), "L");
        }
    } else {
        offer.words = table.error().what;
    }
    out.push_back(std::move(offer));
}

void offer_threshold(const Basis& basis, std::vector<PathOffer>& out) {
    if (!basis.reading.quantity.about().is_state()) return;
    const Chain& path = basis.reading.path;
    const std::size_t at = last_stage<Threshold>(path);
    PathOffer offer{"threshold", phrase("Into the threshold between off and on"), {}, false, path, {}, {}};
    std::vector<double> off, on;
    for (const CalibrationPoint& p : basis.points) {
        if (!p.fitted(basis.after)) continue;
        const Value v = basis.before(at, p.raw);
        if (v.ok()) (p.reference < 0.5 ? off : on).push_back(v.number);
    }
    const auto fit = fit_threshold(off, on);
    if (fit) {
        Threshold stage;
        stage.level = basis.constant(fit->threshold);
        stage.hysteresis = basis.constant(fit->hysteresis);
        stage.above_is_on = fit->high_is_on;
        Chain until = path;
        until.stages.resize(at);
        stage.input_unit = uncorrected_path(basis.reading).first_unit();
        if (!until.stages.empty()) stage.input_unit = until.last_unit();
        offer.path.stages.resize(at);
        offer.path.stages.emplace_back(stage);
        offer.path.input_unit = offer.path.first_unit();
        offer.words =
            phrase("{} {}, no value within ± {}", fit->high_is_on ? phrase("on above") : phrase("on below"),
                   format_measure(fit->threshold, stage.input_unit, 3),
                   format_measure(fit->hysteresis / 2, stage.input_unit, 2));
        look_through(offer, basis);
        offer.doubt.var_offset = offer.doubt.var_gain = offer.doubt.covariance = 0;
        offer.doubt.u_reference = 0;
    } else {
        offer.words = fit.error().text();
    }
    out.push_back(std::move(offer));
}

} // namespace

namespace {

std::vector<PathOffer> offers(const Reading& reading, const Partners& partners,
                              const std::vector<CalibrationPoint>& points,
                              const std::optional<AppliedCorrection>& correction, TimeUs now) {
    const bool after = adjusted_between(points);
    const auto n = std::count_if(points.begin(), points.end(), [&](const auto& p) { return p.fitted(after); });
    const Basis basis{reading, partners, points, now, after, static_cast<std::size_t>(n)};
    std::vector<PathOffer> out;
    offer_straight(basis, correction, out);
    offer_thermistor(basis, out);
    offer_strapping(basis, out);
    offer_threshold(basis, out);
    return out;
}

} // namespace

std::vector<PathOffer> path_offers(const Reading& reading, const Partners& partners,
                                   const std::vector<CalibrationPoint>& points,
                                   const std::optional<AppliedCorrection>& correction, TimeUs now) {
    std::vector<PathOffer> out = offers(reading, partners, points, correction, now);
    const bool is_english = !language().read_back;
    const InEnglish in_the_record;
    const std::vector<PathOffer> english = is_english ? out : offers(reading, partners, points, correction, now);
    for (std::size_t i = 0; i < out.size() && i < english.size(); ++i)
        out[i].in_record = english[i].title + ": " + english[i].words;
    return out;
}

Result<CalibrationRecord> finish_into_path(const Reading& reading, const CalibrationDraft& draft,
                                           const PathOffer& offer, TimeUs now) {
    if (!offer.possible || offer.indications.size() != draft.points.size())
        return failure(offer.words, {},
                       phrase("Take the points that are missing, or use a correction behind the path."));
    const InEnglish in_the_record;

    CalibrationDraft both = draft;
    const bool after = adjusted_between(draft.points);
    for (std::size_t i = 0; i < draft.points.size(); ++i) {
        CalibrationPoint again = draft.points[i];
        if (!again.counts() || (after && !again.as_left)) continue;
        if (after || again.check) both.points[i].set_aside = phrase("taken before the path had these constants");
        again.as_left = true;
        again.indication = offer.indications[i];
        if (!std::isfinite(again.indication)) {
            again.indication = draft.points[i].indication;
            again.set_aside = phrase("the new path has no value there");
        }
        both.points.push_back(again);
    }
    AppliedCorrection correction = offer.doubt;
    Reading mended = reading;
    mended.path = offer.path;
    correction.path_key = path_key(mended);
    CalibrationRecord record = judged_record(reading, both, correction, "path", now);
    record.into = offer.in_record;
    return record;
}

} // namespace cognitum
