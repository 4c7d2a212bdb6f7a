// The part of a help text that is about the chosen reading: its own numbers in the arithmetic that the text
// explains.
#pragma once

#include "ui/context.h"

namespace cognitum {

/// Markdown; empty: there is nothing to say about this topic and this reading.
QString help_numbers(const Context& context, const QString& topic);

} // namespace cognitum
