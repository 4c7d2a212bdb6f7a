#include "core/program/reference_code.h"

#include "core/program/driver.h"
#include "core/program/skeleton.h"

namespace cognitum::program {

namespace {

/// Its name in the core interface; the 8-bit boards have a converter of ten bits.
std::string name_in_core(const BoardCard& card, const std::string& id) {
    const bool eight_bit = card.bits == 10;
    if (id == "supply") return eight_bit ? "DEFAULT" : "AR_DEFAULT";
    if (!eight_bit) return "AR_INTERNAL";
    return id == "internal" ? "OWN_1V1" : "INTERNAL2V56";
}

} // namespace

bool is_choosable(const VoltageReference& reference) {
    return reference.id == "supply" || reference.id == "internal" || reference.id == "internal-2v56";
}

std::string reference_words(const BoardCard& card) {
    std::string out;
    for (const VoltageReference& r : card.references)
        if (is_choosable(r)) out += (out.empty() ? "" : "|") + r.id;
    return out;
}

std::string reference_code(const BoardCard& card, bool several) {
    std::string choices;
    int known = 0;
    for (const VoltageReference& r : card.references) {
        if (!is_choosable(r)) continue;
        ++known;
        choices += fill(R"(    if (!strcmp(word, "$id$")) {
        analogReference($name$);
        reference_now = "$id$";
        delay(20); // the capacitor at the reference settles
        return true;
    }
)",
                        {{"id", r.id}, {"name", name_in_core(card, r.id)}});
    }
    if (known < 2) choices.clear(); // nothing to choose: some cores have no function for it
    return fill(skeleton_reference, {{"choices", choices}}) + (several ? skeleton_each_reference : "");
}

} // namespace cognitum::program
