#include "core/signal_path/feeds.h"

#include "core/base/phrase.h"
#include "core/units/unit.h"

#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {
/// All constants that follow one reading err together.
std::string cause_of(const std::string& reading) {
    return fmt::format("reading {}", reading);
}
} // namespace

std::vector<Fed> feed(Chain& chain, const Partners& partners) {
    std::vector<Fed> out;
    for (std::size_t i = 0; i < chain.stages.size(); ++i)
        for (const NamedConstant& named : constants(chain.stages[i])) {
            Constant& c = *named.constant;
            if (c.from.empty()) continue;
            Fed fed{i, named.key, c.from, false};
            const auto known = partners.find(c.from);
            // A constant of a person's own formula has no unit: it takes the number as the partner says it.
            const std::string unit =
                named.unit.empty() && known != partners.end() ? known->second.unit : named.unit;
            if (known != partners.end()) {
                const Partner& p = known->second;
                const auto value = convert_unit(p.value, p.unit, unit);
                const auto above = convert_unit(p.value + p.u, p.unit, unit);
                if (value && above && std::isfinite(*value)) {
                    c.value = *value;
                    c.doubt = std::abs(*above - *value);
                    c.spread = c.doubt > 0 ? Spread::standard : Spread::none;
                    c.origin = phrase("follows {}", p.name);
                    c.cause = cause_of(c.from);
                    fed.live = true;
                }
            }
            out.push_back(fed);
        }
    return out;
}

bool is_fed(const Constant& c) {
    return !c.from.empty() && c.cause == cause_of(c.from);
}

std::vector<std::string> followed(const Chain& chain) {
    std::vector<std::string> out;
    Chain copy = chain;
    for (Stage& stage : copy.stages)
        for (const NamedConstant& named : constants(stage))
            if (!named.constant->from.empty() &&
                std::find(out.begin(), out.end(), named.constant->from) == out.end())
                out.push_back(named.constant->from);
    return out;
}

} // namespace cognitum
