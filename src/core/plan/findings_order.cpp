#include "core/plan/findings_order.h"

#include <algorithm>

namespace cognitum {

namespace {

Need need_of(const Finding& f) {
    if (f.is_caution) return Need::beware;
    if (f.severity == Severity::error || f.measures_nothing) return Need::first;
    return f.severity == Severity::look ? Need::then : Need::know;
}

} // namespace

std::vector<FindingGroup> by_need(const std::vector<Finding>& findings) {
    std::vector<FindingGroup> out;
    for (const Need need : {Need::beware, Need::first, Need::then, Need::know}) {
        FindingGroup group{need, {}};
        for (const Finding& f : findings)
            if (need_of(f) == need) group.findings.push_back(f);
        std::stable_sort(group.findings.begin(), group.findings.end(),
                         [](const Finding& a, const Finding& b) { return a.stop < b.stop; });
        if (!group.findings.empty()) out.push_back(std::move(group));
    }
    return out;
}

int count_to_do(const std::vector<Finding>& findings) {
    return static_cast<int>(std::count_if(findings.begin(), findings.end(), [](const Finding& f) {
        const Need need = need_of(f);
        return need == Need::first || need == Need::then;
    }));
}

} // namespace cognitum
