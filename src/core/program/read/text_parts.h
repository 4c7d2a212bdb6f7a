// Texts that know which of their letters were numbers, as print(), String and the language's functions make them.
#pragma once

#include "core/program/read/evaluator.h"

#include <string>

namespace cognitum::program {

inline constexpr std::size_t longest_text = 8192; ///< letters; what would make a text longer is left out

void append(Text& to, const Text& more);
/// The number's words, which stay tied to it.
void append_number(Text& to, const CodeValue& v, const std::string& words);
/// No more than so many letters of it.
void cut(Text& text, double letters);
CodeValue as_value(Text text);

/// Who shows a value: a port rounds a real number by adding a half of the last digit, a String as it is nearest.
enum class Shows { port, string };
/// What print() and String() make of a value; `how`: base of a whole number, digits of a real one.
Text shown(Evaluator& e, const CodeValue& v, int how, bool how_given, Shows by = Shows::string);
/// Of the first thing that a call is given, with the second as `how`.
Text first_shown(Evaluator& e, Evaluator::Call& c, Shows by);

} // namespace cognitum::program
