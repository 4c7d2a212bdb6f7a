// How controls of loads stand in the bench file, see stored.h.
#pragma once

#include "core/base/phrase.h"
#include "core/bench/load_control.h"
#include "core/bench/stored_watch.h"

namespace cognitum {

template <>
struct Description<LoadEffect> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("reading", &LoadEffect::reading)
            .may("at_once", &LoadEffect::at_once)
            .may("an_hour", &LoadEffect::an_hour);
    }
};

template <>
struct Description<LoadControl> {
    template <typename Fields>
    static void fields(Fields& f) {
        f.must("id", &LoadControl::id)
            .must("name", &LoadControl::name)
            .must("load", &LoadControl::load)
            .must("rule", &LoadControl::rule)
            .always("acts", &LoadControl::acts)
            .may("least_on_s", &LoadControl::least_on_s)
            .may("least_off_s", &LoadControl::least_off_s)
            .may("longest_on_s", &LoadControl::longest_on_s)
            .may("rest_s", &LoadControl::rest_s)
            .may("safe_on", &LoadControl::safe_on)
            .may("value_within_s", &LoadControl::value_within_s)
            .may("never_while", &LoadControl::never_while)
            .may("on_line", &LoadControl::on_line)
            .may("off_line", &LoadControl::off_line)
            .may("topic", &LoadControl::topic)
            .may("time_out_s", &LoadControl::time_out_s)
            .may("effects", &LoadControl::effects);
        f.rule(
            "id", [](const LoadControl& c) { return !c.id.empty(); }, phrase("a control needs an id."));
        f.rule(
            "name", [](const LoadControl& c) { return defect_of(c).empty(); },
            [](const LoadControl& c) { return defect_of(c); });
    }
};

} // namespace cognitum
