// A text that may be selected and breaks where its column ends.
#pragma once

#include "ui/widgets/parts.h"

namespace cognitum {

inline QLabel* wrapped(TextLabel* label) {
    label->setTextInteractionFlags(Qt::TextSelectableByMouse);
    label->setWordWrap(true);
    QSizePolicy policy(QSizePolicy::Preferred, QSizePolicy::Minimum);
    policy.setHeightForWidth(true);
    label->setSizePolicy(policy);
    return label;
}

} // namespace cognitum
