// One finding as a row: mark, what will happen, why, what to do, and the way out as a link.
#pragma once

#include "core/plan/findings.h"

#include <QString>
#include <QVBoxLayout>
#include <functional>
#include <vector>

namespace cognitum {

class Context;

struct FindingPlace {
    QString name; ///< "Hut air · Wiring": a link above the sentence
    std::function<void()> go;
};

/// At the end of `list`. `places`: where it is, when that is not plain; several where the same holds for several.
void add_finding(QVBoxLayout* list, Context& context, const Finding& finding,
                 const std::vector<FindingPlace>& places = {});

} // namespace cognitum
