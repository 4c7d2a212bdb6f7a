// How a bench's plan stands in its file and in JSON: one description of each struct (docs/file-format.md names the
// same keys); those of boards and wires are in stored_boards.h. Only the *_json.cpp files and tests include this.
#pragma once

#include "core/base/phrase.h"
#include "core/bench/stored_boards.h"
#include "core/units/unit.h"

namespace cognitum {

struct ChainForm {
    Json write(const Chain& chain) const { return chain_json(chain); }
    Result<void> read(const JsonReader& json, Chain& out) const {
        COGNITUM_TRY(chain, read_chain(json));
        out = std::move(chain);
        return {};
    }
};

template <>
struct Description<ReferenceInstrument> {
    template <typename Fields>
    static void fields(Fields& f) {
        using R = ReferenceInstrument;
        f.must("id", &R::id)
            .must("name", &R::name)
            .must("kind", &R::kind)
            .must("unit", &R::unit)
            .must("u", &R::u)
            .may("resolution", &R::resolution)
            .may("design", &R::design)
            .may("certificate", &R::certificate)
            .may("certified", &R::certified, TimeForm{})
            .may("due", &R::due, TimeForm{});
        f.rule(
            "u", [](const R& r) { return r.u > 0; },
            phrase("a reference without doubt does not exist: write its standard uncertainty."));
        f.rule(
            "resolution", [](const R& r) { return r.resolution >= 0; },
            phrase("a step of a display is not below zero."));
        f.rule(
            "unit", [](const R& r) { return find_unit(r.unit) != nullptr; }, phrase("this unit is not known."));
        f.rule(
            "kind", [](const R& r) { return find_quantity_kind(r.kind) != nullptr; },
            phrase("this kind of quantity is not known."));
    }
};

template <>
struct Description<Surroundings> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.always("water", &Surroundings::water)
            .always("food", &Surroundings::food)
            .always("outdoors", &Surroundings::outdoors)
            .always("beside_regulator", &Surroundings::beside_regulator)
            .always("hottest_degC", &Surroundings::hottest_degC);
    }
};

template <>
struct Description<Vessel> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.always("shape", &Vessel::shape)
            .always("width_mm", &Vessel::width_mm)
            .always("length_mm", &Vessel::length_mm)
            .always("height_mm", &Vessel::height_mm)
            .always("mount_mm", &Vessel::mount_mm)
            .always("full_mm", &Vessel::full_mm)
            .may("diameter_mm", &Vessel::diameter_mm)
            .may("empty_mm", &Vessel::empty_mm)
            .may("bulge_percent", &Vessel::bulge_percent)
            .may("levels_mm", &Vessel::levels_mm)
            .may("volumes_L", &Vessel::volumes_L);
        f.rule(
            "levels_mm", [](const Vessel& v) { return v.levels_mm.size() == v.volumes_L.size(); },
            phrase("a strapping table has as many volumes as levels."));
        not_below_zero<Vessel>(f, {{"width_mm", &Vessel::width_mm},
                                   {"length_mm", &Vessel::length_mm},
                                   {"height_mm", &Vessel::height_mm},
                                   {"mount_mm", &Vessel::mount_mm},
                                   {"full_mm", &Vessel::full_mm},
                                   {"diameter_mm", &Vessel::diameter_mm},
                                   {"empty_mm", &Vessel::empty_mm},
                                   {"bulge_percent", &Vessel::bulge_percent}});
    }
};

template <>
struct Description<Funnel> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.always("area_cm2", &Funnel::area_cm2).always("tip_mL", &Funnel::tip_mL);
        not_below_zero<Funnel>(f, {{"area_cm2", &Funnel::area_cm2}, {"tip_mL", &Funnel::tip_mL}});
    }
};

template <>
struct Description<Quantity> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("kind", &Quantity::kind)
            .must("unit", &Quantity::unit)
            .must("low", &Quantity::low)
            .must("high", &Quantity::high)
            .must("accuracy", &Quantity::accuracy)
            .must("interval_s", &Quantity::interval_s)
            .always("place", &Quantity::place)
            .may("sample_s", &Quantity::sample_s)
            .may("change_s", &Quantity::change_s)
            .may("stale_s", &Quantity::stale_s)
            .may("around", &Quantity::around)
            .may("vessel", &Quantity::vessel)
            .may("funnel", &Quantity::funnel)
            .may("altitude_m", &Quantity::altitude_m)
            .may("expected_when", &Quantity::expected_when)
            .may("private", &Quantity::kept_private);
        f.rule(
            "kind", [](const Quantity& q) { return find_quantity_kind(q.kind) != nullptr; },
            [](const Quantity& q) { return "the quantity \"" + q.kind + "\" is not known."; });
        f.rule(
            "unit", [](const Quantity& q) { return find_unit(q.unit) != nullptr; },
            [](const Quantity& q) { return "the unit \"" + q.unit + "\" is not known."; });
        f.rule(
            "low", [](const Quantity& q) { return q.low < q.high; }, phrase("low must be below high."));
        f.rule(
            "accuracy", [](const Quantity& q) { return q.accuracy > 0; },
            phrase("the needed accuracy must be above zero."));
        f.rule(
            "interval_s", [](const Quantity& q) { return q.interval_s > 0; },
            phrase("the interval must be above zero."));
        not_below_zero<Quantity>(f, {{"sample_s", &Quantity::sample_s},
                                     {"change_s", &Quantity::change_s},
                                     {"stale_s", &Quantity::stale_s}});
    }
};

template <>
struct Description<Rejected> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("part", &Rejected::part).always("because", &Rejected::because);
    }
};

template <>
struct Description<SensorChoice> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.always("part", &SensorChoice::part)
            .always("reason", &SensorChoice::reason)
            .may("rejected", &SensorChoice::rejected)
            .may("marking", &SensorChoice::marking)
            .may("shared_with", &SensorChoice::shared_with);
    }
};

template <>
struct Description<Source> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.may("field", &Source::field)
            .may("signal", &Source::signal)
            .may("collect", &Source::collect)
            .may("feed", &Source::feed)
            .may("unit", &Source::unit);
        f.rule(
            "collect",
            [](const Source& s) { return s.collect.empty() || s.collect == "beats" || s.collect == "rate"; },
            phrase("numbers are collected to \"beats\" or to a \"rate\"."));
        f.rule(
            "unit", [](const Source& s) { return s.unit.empty() || find_unit(s.unit); },
            phrase("this unit is not known."));
    }
};

template <>
struct Description<SignOff> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("stage", &SignOff::stage)
            .must("time", &SignOff::time, TimeForm{})
            .always("by", &SignOff::by)
            .always("passed", &SignOff::passed)
            .always("note", &SignOff::note);
    }
};

template <>
struct Description<BringUp> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.always("signs", &BringUp::signs)
            .may("disturbed", &BringUp::disturbed, TimeForm{})
            .may("disturbed_how", &BringUp::disturbed_how);
    }
};

template <>
struct Description<NamedBand> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("name", &NamedBand::name)
            .may("to", &NamedBand::to)
            .may("rank", &NamedBand::rank,
                 NamedForm<WatchRank>{watch_rank_words(), phrase("a band’s rank is note, look or bad.")});
    }
};

template <>
struct Description<Bands> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("low", &Bands::low).must("high", &Bands::high).always("hysteresis", &Bands::hysteresis);
        f.rule(
            "low", [](const Bands& b) { return b.low < b.high; }, phrase("low must be below high."));
        f.rule(
            "hysteresis", [](const Bands& b) { return b.hysteresis >= 0 && b.hysteresis < b.high - b.low; },
            phrase("the hysteresis must be between 0 and the width of the band."));
    }
};

/// A knot as [indication, reference, doubt].
struct CurveForm {
    Json write(const std::vector<CurveKnot>& curve) const {
        Json out = Json::array();
        for (const CurveKnot& knot : curve)
            out.push_back({knot.indication, knot.reference, knot.u});
        return out;
    }
    Result<void> read(const JsonReader& json, std::vector<CurveKnot>& out) const {
        std::vector<std::vector<double>> rows;
        COGNITUM_CHECK(PlainForm{}.read(json, rows));
        for (const std::vector<double>& row : rows) {
            if (row.size() != 3)
                return json.error(phrase("a knot of the curve is [indication, reference, doubt]."));
            out.push_back({row[0], row[1], row[2]});
        }
        for (std::size_t i = 1; i < out.size(); ++i)
            if (!(out[i].indication > out[i - 1].indication && out[i].reference > out[i - 1].reference))
                return json.error(phrase("the curve goes back: indications and references must grow."));
        return {};
    }
};

template <>
struct Description<AppliedCorrection> {
    template <typename Fields>
    static void fields(Fields& f) {
        using C = AppliedCorrection;
        f.must("gain", &C::gain)
            .must("offset", &C::offset)
            .must("var_offset", &C::var_offset)
            .must("var_gain", &C::var_gain)
            .must("covariance", &C::covariance)
            .must("u_reference", &C::u_reference)
            .must("dof", &C::dof)
            .must("from", &C::from)
            .must("to", &C::to)
            .always("record", &C::record)
            .always("time", &C::time, TimeForm{})
            .always("verdict", &C::verdict)
            .always("path_key", &C::path_key)
            .may("curve", &C::curve, CurveForm{});
    }
};

template <>
struct Description<Reading> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("id", &Reading::id)
            .must("name", &Reading::name)
            .must("quantity", &Reading::quantity)
            .always("sensor", &Reading::sensor)
            .always("wiring", &Reading::wiring)
            .always("path", &Reading::path, ChainForm{})
            .may("correction", &Reading::correction)
            .may("bands", &Reading::bands)
            .may("named_bands", &Reading::named_bands)
            .may("source", &Reading::source)
            .may("calibrate_months", &Reading::calibrate_months)
            .may("group", &Reading::group)
            .may("hidden", &Reading::hidden)
            .may("bring_up", &Reading::bring_up);
        f.rule(
            "named_bands", [](const Reading& r) { return defect_of(r.named_bands).empty(); },
            [](const Reading& r) { return defect_of(r.named_bands); });
        f.rule(
            "id", [](const Reading& r) { return !r.id.empty(); }, phrase("a reading needs an id and a name."));
        f.rule(
            "name", [](const Reading& r) { return !r.name.empty(); }, phrase("a reading needs an id and a name."));
        f.rule(
            "calibrate_months", [](const Reading& r) { return r.calibrate_months >= 0; },
            phrase("an interval is not below zero."));
    }
};

} // namespace cognitum
