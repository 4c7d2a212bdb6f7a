#include "core/bringup/stimulus.h"

#include "core/analyse/health.h"
#include "core/base/json_fields.h"
#include "core/base/phrase.h"
#include "core/bringup/stages.h"
#include "core/units/quantity_kind.h"

#include <algorithm>
#include <array>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr std::array movements = {
    std::pair{Movement::rises, "rises"},   std::pair{Movement::falls, "falls"},
    std::pair{Movement::moves, "moves"},   std::pair{Movement::returns, "returns"},
    std::pair{Movement::sweeps, "sweeps"}, std::pair{Movement::counts, "counts"},
    std::pair{Movement::stands, "stands"}, std::pair{Movement::calms, "calms"},
    std::pair{Movement::agrees, "agrees"}, std::pair{Movement::arrives, "arrives"},
    std::pair{Movement::beats, "beats"},   std::pair{Movement::breaks, "breaks"},
};
constexpr std::array kind_names = {
    std::pair{SignalKind::codes, "codes"},       std::pair{SignalKind::wave, "wave"},
    std::pair{SignalKind::counter, "counter"},   std::pair{SignalKind::contact, "contact"},
    std::pair{SignalKind::distance, "distance"}, std::pair{SignalKind::measured, "measured"},
};

bool holds(const std::vector<std::string>& list, std::string_view item) {
    return std::find(list.begin(), list.end(), item) != list.end();
}
bool empty_or_holds(const std::vector<std::string>& list, std::string_view item) {
    return list.empty() || holds(list, item);
}

/// First of `given` that is not known; empty: all are.
template <typename Known>
std::string stranger(const std::vector<std::string>& given, Known known) {
    for (const std::string& name : given)
        if (!known(name)) return name;
    return {};
}

Result<Stimulus> read_stimulus(const JsonReader& json) {
    Stimulus s;
    std::string movement;
    JsonFields fields(json);
    fields.need("id", s.id).need("title", s.title).need("act", s.act).need("movement", movement);
    fields.need("yes", s.yes).need("no", s.no);
    fields.may("undo", s.undo).may("asks", s.asks).may("raw", s.raw).may("caution", s.caution);
    fields.may("least", s.least).may("within_s", s.within_s).may("count", s.count);
    fields.may("quantities", s.quantities).may("families", s.families).may("signals", s.signal_kinds);
    fields.may("stages", s.stages).may("verdicts", s.verdicts);
    const auto found =
        std::find_if(movements.begin(), movements.end(), [&](const auto& m) { return movement == m.second; });
    if (found != movements.end()) s.movement = found->first;
    fields.check(found != movements.end(), "movement", phrase("no such movement; see core/bringup/stimulus.h."));
    const std::string stage = stranger(s.stages, [](const std::string& id) { return find_stage(id); });
    fields.check(stage.empty(), "stages", phrase("there is no stage \"{}\".", stage));
    const std::string verdict =
        stranger(s.verdicts, [](const std::string& id) { return holds(all_verdict_ids(), id); });
    fields.check(verdict.empty(), "verdicts", phrase("there is no verdict \"{}\".", verdict));
    const std::string kind = stranger(s.quantities, [](const std::string& id) { return find_quantity_kind(id); });
    fields.check(kind.empty(), "quantities", phrase("there is no quantity \"{}\".", kind));
    const std::string signal = stranger(s.signal_kinds, [](const std::string& name) {
        return std::any_of(kind_names.begin(), kind_names.end(), [&](const auto& k) { return name == k.second; });
    });
    fields.check(signal.empty(), "signals", phrase("there is no kind of signal \"{}\".", signal));
    fields.check(s.within_s > 0 && s.within_s <= 3600, "within_s", phrase("a test takes up to an hour."));
    fields.check(s.least >= 0, "least", phrase("the least change is a size, without a sign."));
    fields.check(s.movement != Movement::counts || s.count > 0, "count",
                 phrase("say how many events there are to be."));
    fields.check(s.movement != Movement::returns || !s.undo.empty(), "undo", phrase("say how the stimulus ends."));
    fields.check(s.movement != Movement::agrees || !s.asks.empty(), "asks", phrase("say what is to be read off."));
    fields.check(!s.stages.empty() || !s.verdicts.empty(), "stages",
                 phrase("a test belongs to a stage, or to a verdict."));
    COGNITUM_CHECK(fields.done());
    return s;
}

} // namespace

const char* signal_kind_name(SignalKind kind) {
    for (const auto& [k, name] : kind_names)
        if (k == kind) return name;
    return "";
}

bool suits(const Stimulus& s, const StimulusFor& r) {
    return empty_or_holds(s.quantities, r.quantity) && empty_or_holds(s.families, r.family) &&
           empty_or_holds(s.signal_kinds, signal_kind_name(r.signal));
}

std::vector<const Stimulus*> stimuli_for_stage(const std::vector<Stimulus>& all, const StimulusFor& reading,
                                               std::string_view stage) {
    std::vector<const Stimulus*> out;
    for (const Stimulus& s : all)
        if (holds(s.stages, stage) && suits(s, reading)) out.push_back(&s);
    // What was written for this very family says more than what suits anything.
    const auto narrow = [](const Stimulus* s) {
        return (s->families.empty() ? 0 : 4) + (s->quantities.empty() ? 0 : 2) + (s->signal_kinds.empty() ? 0 : 1);
    };
    std::stable_sort(out.begin(), out.end(),
                     [&](const Stimulus* a, const Stimulus* b) { return narrow(a) > narrow(b); });
    return out;
}

const Stimulus* stimulus_for_verdict(const std::vector<Stimulus>& all, const StimulusFor& reading,
                                     std::string_view verdict) {
    for (const Stimulus& s : all)
        if (holds(s.verdicts, verdict) && suits(s, reading)) return &s;
    return nullptr;
}

Result<std::vector<Stimulus>> read_stimuli(const JsonReader& json) {
    std::vector<Stimulus> out;
    JsonFields fields(json);
    fields.list("stimuli", [&](const JsonReader& item) -> Result<void> {
        COGNITUM_TRY(stimulus, read_stimulus(item));
        for (const Stimulus& before : out)
            if (before.id == stimulus.id)
                return item.error(phrase("there are two tests \"{}\".", stimulus.id), "id");
        out.push_back(std::move(stimulus));
        return {};
    });
    COGNITUM_CHECK(fields.done());
    return out;
}

} // namespace cognitum
