// How a calibration under way and a finished one stand in the bench file (docs/file-format.md names the same keys).
#pragma once

#include "core/base/phrase.h"
#include "core/bench/stored.h"
#include "core/calibrate/record.h"

namespace cognitum {

/// 1 of a rising run, −1 of a falling one, 0: not said.
inline constexpr std::pair<int, const char*> run_names[] = {{1, "up"}, {-1, "down"}, {0, ""}};

template <>
struct Description<CalibrationPoint> {
    template <typename Fields>
    static void fields(Fields& f) {
        using P = CalibrationPoint;
        f.must("time", &P::time, TimeForm{})
            .must("reference_kind", &P::reference_kind)
            .must("reference", &P::reference)
            .must("u_reference", &P::u_reference)
            .must("indication", &P::indication)
            .must("u_indication", &P::u_indication)
            .must("raw", &P::raw)
            .always("forced", &P::forced)
            .always("set_aside", &P::set_aside)
            .may("instrument", &P::instrument)
            .may("run", &P::run, NamedForm<int>{run_names, phrase("a run is \"up\" or \"down\".")})
            .may("as_left", &P::as_left)
            .may("check", &P::check);
    }
};

/// A moment and an indication.
struct StartForm {
    Json write(const std::optional<TimedValue>& start) const {
        return {{"time", iso_time(start->time)}, {"indication", start->value}};
    }
    Result<void> read(const JsonReader& json, std::optional<TimedValue>& out) const {
        TimedValue start;
        COGNITUM_TRY(time, json.at("time"));
        COGNITUM_CHECK(TimeForm{}.read(time, start.time));
        COGNITUM_TRY(indication, json.number("indication"));
        start.value = indication;
        out = start;
        return json.only_keys({"time", "indication"});
    }
};

template <>
struct Description<CalibrationDraft> {
    template <typename Fields>
    static void fields(Fields& f) {
        using D = CalibrationDraft;
        f.always("recipe", &D::recipe)
            .always("step", &D::step)
            .always("adjusted", &D::adjusted)
            .always("conditions", &D::conditions)
            .always("by", &D::by)
            .must("points", &D::points)
            .may("left_turns", &D::left_turns)
            .may("right_turns", &D::right_turns)
            .may("started", &D::started, StartForm{});
    }
};

template <>
struct Description<CalibrationRecord> {
    template <typename Fields>
    static void fields(Fields& f) {
        using R = CalibrationRecord;
        f.must("reading", &R::reading)
            .must("time", &R::time, TimeForm{})
            .must("unit", &R::unit)
            .must("limit", &R::limit)
            .must("points", &R::points)
            .must("model", &R::model)
            .must("correction", &R::correction)
            .may("into", &R::into)
            .may("worst_check", &R::worst_check)
            .may("doubt_check", &R::doubt_check)
            .may("verdict_check", &R::verdict_check)
            .must("worst_found", &R::worst_found)
            .must("worst_left", &R::worst_left)
            .always("doubt_found", &R::doubt_found)
            .always("doubt_left", &R::doubt_left)
            .must("verdict_found", &R::verdict_found)
            .must("verdict_left", &R::verdict_left)
            .may("recipe", &R::recipe)
            .may("adjusted", &R::adjusted)
            .may("conditions", &R::conditions)
            .may("references", &R::references)
            .always("by", &R::by)
            .always("note", &R::note)
            .always("supersedes", &R::supersedes);
        f.old("path_key", [](R& r, const std::string& key) { // where older records keep it
            if (r.correction.path_key.empty()) r.correction.path_key = key;
        });
    }
};

} // namespace cognitum
