// The statements by which a program chooses what its analog inputs are measured against.
#pragma once

#include "core/catalog/cards.h"

#include <string>

namespace cognitum::program {

/// One that a program can choose by the core's interface.
bool is_choosable(const VoltageReference& reference);
/// Names of those of a board, as its command takes them: "supply|internal".
std::string reference_words(const BoardCard& card);
/// use_reference(); `several`: with choose_reference(), which each reading calls.
std::string reference_code(const BoardCard& card, bool several);

} // namespace cognitum::program
