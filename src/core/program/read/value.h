// What the evaluator holds: a number as the board's own type has it, the number that real arithmetic would have
// given, where it came from, and what was lost on the way.
#pragma once

#include "core/program/read/syntax.h"

#include <cstdint>
#include <memory>
#include <optional>
#include <string>
#include <vector>

namespace cognitum::program {

enum class SourceKind : std::uint8_t { analog, level, echo, i2c, spi, pulses, one_pin_bus, library };

/// A number that stands in the program's text.
struct Literal {
    double value = 0;
    CodePlace place;
    bool operator==(const Literal&) const = default;
};
using Literals = std::shared_ptr<const std::vector<Literal>>;
Literals joined(const Literals& a, const Literals& b);

struct Trace;
using TraceRef = std::shared_ptr<const Trace>;

/// What a number goes back to: a pin or a bus, or a function of such.
struct Origin {
    bool is_source = true;
    SourceKind kind = SourceKind::analog;
    std::string key;            ///< label of the pin, "0x48" of an address
    std::string function;       ///< "log", "whole", "/" (a number divided by it), "+", …
    std::vector<TraceRef> of;   ///< what the function is of
    std::vector<double> beside; ///< its other numbers
    Literals literals;
    int depth = 0; ///< functions inside each other
    CodePlace place;
};
using OriginRef = std::shared_ptr<const Origin>;

/// One thing that was done to it, in the program's order: x op number.
struct TraceStep {
    char op = '*'; ///< + - * /, w: cut to a whole number
    double number = 0;
    CodePlace place;
    Literals literals;
};

/// slope · origin + offset
struct Trace {
    OriginRef origin;
    double slope = 1, offset = 0;
    std::vector<TraceStep> steps; ///< the last of a loop's turns; most_steps at the most
};
inline constexpr std::size_t most_steps = 24;
inline constexpr int deepest_origin = 24;

TraceRef trace_source(SourceKind kind, std::string key, const CodePlace& place);
/// A pin's level, or a count of its pulses.
bool is_level(const Origin& source);
/// The source that a trace goes back to first; null: none.
const Origin* source_of(const TraceRef& trace);
/// All different sources of it.
std::vector<const Origin*> sources_of(const TraceRef& trace);
/// Every number of the text that it was made with.
std::vector<Literal> literals_of(const TraceRef& trace);
/// Every constant that several numbers of the text make together (0.02 / 4), where the first of them stands.
std::vector<Literal> made_constants_of(const TraceRef& trace);

struct CodeValue;

/// Text with the numbers that were written into it.
struct TextPiece {
    std::size_t begin = 0, end = 0;
    std::shared_ptr<const CodeValue> value;
};
struct Text {
    std::string words;
    std::vector<TextPiece> pieces;
};

struct CodeValue {
    enum class Kind : std::uint8_t { none, number, address, text, function, unknown };
    Kind kind = Kind::none;
    int type = nothing;
    std::int64_t whole = 0; ///< of whole numbers
    double real = 0;        ///< of floating numbers, rounded to the board's width
    double ideal = 0;       ///< by real arithmetic without end
    TraceRef trace;
    Literals literals;
    std::uint64_t losses = 0;       ///< bits: see Losses
    int object = nothing, slot = 0; ///< address; slot alone: a function
    std::shared_ptr<const Text> text;
    enum class Clock : std::uint8_t { none, ms, us };
    Clock clock = Clock::none; ///< a time of the board, or a difference of two
    bool is_float = false;
    std::int8_t watched = nothing; ///< of a time in µs: it was read just after this pin was looked at

    [[nodiscard]] double number() const { return is_float ? real : static_cast<double>(whole); }
    [[nodiscard]] bool is_number() const { return kind == Kind::number; }
    [[nodiscard]] bool truth() const {
        return kind == Kind::number    ? number() != 0
               : kind == Kind::address ? object != nothing
                                       : kind != Kind::none && kind != Kind::unknown;
    }
};

CodeValue whole_value(std::int64_t number, int type = nothing);
CodeValue real_value(double number, int type = nothing);
CodeValue text_value(std::string words);
/// A pointer into a text, so many letters further on; at its end there is a zero.
CodeValue later_in_text(const CodeValue& text, std::int64_t letters);
CodeValue unknown_value(int type = nothing);

/// The number as a type of the board has it: wrapped, cut to a whole one, rounded to its width. `changed`: it
/// wrapped.
CodeValue in_type(const CodeValue& value, const CodeType& type, int type_index, bool* wrapped = nullptr,
                  bool* cut = nullptr);

/// The trace of a op b, where at least one has a trace.
TraceRef combined(char op, const CodeValue& a, const CodeValue& b, const CodePlace& place);
/// The trace of a function of it.
TraceRef applied(const std::string& function, const std::vector<CodeValue>& of, const CodePlace& place);

} // namespace cognitum::program
