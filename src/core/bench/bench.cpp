#include "core/bench/bench.h"

#include "core/base/phrase.h"
#include "core/units/unit.h"

#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {

template <typename List>
auto* find_by_id(List& items, std::string_view id) {
    const auto found = std::find_if(items.begin(), items.end(), [&](const auto& item) { return item.id == id; });
    return found == items.end() ? nullptr : &*found;
}

/// A calibration through the whole path has measured these; what is left of their doubt is the calibration's own.
void drop_doubt(Constant& constant) {
    constant.doubt = 0;
    constant.spread = Spread::none;
    constant.stability = 0;
}

/// A voltage that the whole path is counted against was measured by the calibration as well, and moves since then.
void keep_stability(Constant& constant) {
    constant.doubt = constant.lasting_uncertainty();
    constant.spread = constant.doubt > 0 ? Spread::standard : Spread::none;
}

} // namespace

Reading::Reading() = default;
Reading::Reading(const Reading& other) = default;
Reading::Reading(Reading&& other) noexcept = default;
Reading& Reading::operator=(const Reading& other) = default;
Reading& Reading::operator=(Reading&& other) noexcept = default;
Reading::~Reading() = default;
bool Reading::operator==(const Reading& other) const = default;

BoardUse::BoardUse() = default;
BoardUse::BoardUse(const BoardUse& other) = default;
BoardUse::BoardUse(BoardUse&& other) noexcept = default;
BoardUse& BoardUse::operator=(const BoardUse& other) = default;
BoardUse& BoardUse::operator=(BoardUse&& other) noexcept = default;
BoardUse::~BoardUse() = default;
bool BoardUse::operator==(const BoardUse& other) const = default;

Bench::Bench() = default;
Bench::Bench(const Bench& other) = default;
Bench::Bench(Bench&& other) noexcept = default;
Bench& Bench::operator=(const Bench& other) = default;
Bench& Bench::operator=(Bench&& other) noexcept = default;
Bench::~Bench() = default;
bool Bench::operator==(const Bench& other) const = default;

const Reading* Bench::reading(std::string_view id) const {
    return find_by_id(readings, id);
}
const BoardUse* Bench::board(std::string_view id) const {
    return find_by_id(boards, id);
}
const ReferenceInstrument* Bench::reference(std::string_view id) const {
    return find_by_id(references, id);
}
const TimedSession* Bench::session(std::string_view id) const {
    return find_by_id(sessions, id);
}
const SessionRule* Bench::session_rule(std::string_view id) const {
    return find_by_id(session_rules, id);
}
const WatchRule* Bench::watch_rule(std::string_view id) const {
    return find_by_id(watch_rules, id);
}
WatchRule* Bench::watch_rule(std::string_view id) {
    return find_by_id(watch_rules, id);
}
std::string defect_of(const std::vector<NamedBand>& bands) {
    if (bands.size() == 1) return phrase("one band says nothing: name at least two.");
    if (bands.size() > most_bands) return phrase("at most {} bands are named.", most_bands);
    for (std::size_t i = 0; i < bands.size(); ++i) {
        if (bands[i].name.empty()) return phrase("a band needs a name.");
        if (!std::isfinite(bands[i].to)) return phrase("the end of a band must be a number.");
        if (i > 0 && i + 1 < bands.size() && !(bands[i].to > bands[i - 1].to))
            return phrase("“{}” ends at {} and “{}” below it at {}: put them in order.", bands[i].name, bands[i].to,
                          bands[i - 1].name, bands[i - 1].to);
    }
    return {};
}

const LoadControl* Bench::control(std::string_view id) const {
    return find_by_id(controls, id);
}
LoadControl* Bench::control(std::string_view id) {
    return find_by_id(controls, id);
}
bool Bench::is_private(const TimedSession& session) const {
    return std::any_of(session.readings.begin(), session.readings.end(), [&](const std::string& id) {
        const Reading* r = reading(id);
        return r && r->quantity.is_private();
    });
}
std::vector<std::string> Bench::readings_for(SessionKind session) const {
    const auto wanted = [session](const QuantityKind& kind) {
        switch (session) {
        case SessionKind::drive: return kind.id == "pressure" || kind.id == "temperature";
        case SessionKind::fermentation: return kind.id == "temperature" || kind.id == "acidity";
        case SessionKind::swim: return kind.is_private || kind.id == "temperature";
        case SessionKind::pulse: return kind.is_private;
        case SessionKind::fire: return kind.id == "temperature";
        case SessionKind::other: break;
        }
        return !kind.is_private;
    };
    constexpr std::size_t most = 4;
    std::vector<std::string> out;
    for (const Reading& r : readings)
        if (out.size() < most && wanted(r.quantity.about())) out.push_back(r.id);
    // Of a swim and a pulse the heart leads, of others what stands first.
    std::stable_partition(out.begin(), out.end(),
                          [this](const std::string& id) { return reading(id)->quantity.about().is_private; });
    return out;
}
Reading* Bench::reading(std::string_view id) {
    return find_by_id(readings, id);
}
const Module* Bench::module(std::string_view id) const {
    return find_by_id(modules, id);
}
Module* Bench::module(std::string_view id) {
    return find_by_id(modules, id);
}
BoardUse* Bench::board(std::string_view id) {
    return find_by_id(boards, id);
}

std::string Bench::free_id(std::string_view wanted) const {
    std::string base;
    for (const char c : wanted) {
        const bool plain = (c >= 'a' && c <= 'z') || (c >= '0' && c <= '9');
        const bool upper = c >= 'A' && c <= 'Z';
        if (plain || upper)
            base += upper ? static_cast<char>(c - 'A' + 'a') : c;
        else if (!base.empty() && base.back() != '-')
            base += '-';
    }
    while (!base.empty() && base.back() == '-')
        base.pop_back();
    if (base.empty()) base = "reading";
    std::string id = base;
    for (int n = 2; reading(id) || board(id) || module(id) || reference(id) || session(id) || session_rule(id) ||
                    watch_rule(id) || control(id);
         ++n)
        id = fmt::format("{}-{}", base, n);
    return id;
}

std::string path_key(const Reading& reading) {
    Chain bare = reading.path;
    for (Stage& stage : bare.stages)
        for (const NamedConstant& named : constants(stage)) {
            // A better doubt or a note on the origin does not change the path.
            drop_doubt(*named.constant);
            named.constant->origin.clear();
            named.constant->known_by = KnownBy::statement;
        }
    const Wiring& w = reading.wiring;
    return fmt::format("{}|{}|{}|{}|{}|{}", reading.sensor.part, w.board, w.pin(), w.module, w.reference,
                       chain_json(bare).dump());
}

namespace {

bool reaches(const Bench& bench, const std::string& from, const std::string& goal, std::vector<std::string>& way) {
    const Reading* reading = bench.reading(from);
    if (!reading || way.size() > bench.readings.size()) return false;
    way.push_back(from);
    for (const std::string& next : followed(reading->path)) {
        if (next == goal) return true;
        if (std::find(way.begin(), way.end(), next) == way.end() && reaches(bench, next, goal, way)) return true;
    }
    way.pop_back();
    return false;
}

} // namespace

std::vector<std::string> feed_loop(const Bench& bench, const std::string& id) {
    std::vector<std::string> way;
    reaches(bench, id, id, way);
    return way;
}

bool correction_is_stale(const Reading& reading) {
    return reading.correction && reading.correction->path_key != path_key(reading);
}

Chain uncorrected_path(const Reading& reading, const Partners& partners) {
    Chain chain = reading.path;
    feed(chain, partners);
    if (!chain.stages.empty()) return chain;
    // A finished number may come in another unit than the reading is wanted in.
    const std::string &from = reading.source.unit, &to = reading.quantity.unit;
    if (chain.input_unit.empty()) chain.input_unit = from.empty() ? to : from;
    const auto at_zero = convert_unit(0, chain.input_unit, to);
    const auto at_one = convert_unit(1, chain.input_unit, to);
    if (same_unit(chain.input_unit, to) || !at_zero || !at_one) return chain;
    Scale scale;
    scale.factor.value = *at_one - *at_zero;
    scale.offset.value = *at_zero;
    scale.input_unit = chain.input_unit;
    scale.unit = to;
    chain.stages.emplace_back(scale);
    return chain;
}

Chain effective_path(const Reading& reading, const Partners& partners) {
    Chain chain = uncorrected_path(reading, partners);
    if (!reading.correction) return chain;
    const bool line = correction_is_line(*reading.correction);
    if (!correction_is_stale(reading))
        for (Stage& stage : chain.stages)
            for (const NamedConstant& named : constants(stage)) {
                const bool shifts = named.key == "zero" || named.key == "offset" || named.key == "r0_ohm" ||
                                    named.key == "mount_height_mm" || named.key == "at_0";
                const bool tilts = named.key == "slope" || named.key == "factor" || named.key == "beta_K" ||
                                   named.key == "fixed_ohm" || named.key == "at_100";
                const bool counts = named.key == "reference_V" || named.key == "supply_V";
                if (shifts || (line && tilts))
                    drop_doubt(*named.constant);
                else if (line && counts)
                    keep_stability(*named.constant);
            }
    chain.stages.push_back(correction_stage(*reading.correction, chain.last_unit()));
    return chain;
}

} // namespace cognitum
