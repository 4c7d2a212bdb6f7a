// What the forms of the Watch stop are made of.
#pragma once

#include "ui/widgets/parts.h"

namespace cognitum {

/// Soft text between the fields of a row, which is not wrapped.
inline TextLabel* soft_label(Theme& theme, const QString& text) {
    auto* label = new TextLabel(theme, TextLabel::Role::soft, text);
    label->setWordWrap(false);
    return label;
}

/// These in a row, from the left.
inline QHBoxLayout* row_of(const Theme& theme, std::initializer_list<QWidget*> widgets) {
    auto* row = new QHBoxLayout;
    row->setSpacing(theme.px(8));
    for (QWidget* w : widgets)
        row->addWidget(w);
    row->addStretch(1);
    return row;
}

} // namespace cognitum
