// Why a program prints another number than the plan's path makes of the same: which constant is another one, which
// leg is on the other side, which unit it is.
#pragma once

#include "core/program/read/program_trial.h"
#include "core/program/read/read_program.h"

#include <optional>

namespace cognitum::program {

/// Steps of the converter as the program reads it: what it sets, else those of the board, or of a converter of its
/// own.
double codes_in_program(const Trial& trial, const Reading& reading);

/// The raw number of a reading at a point, as its path takes it: the code of its converter, or what its part gave.
enum class Counts { of_plan, of_program };
double raw_number(const Trial& trial, const Reading& reading, const ProofPoint& point,
                  Counts counts = Counts::of_plan);

/// How the printed numbers stand to the path.
struct Standing {
    SentAs as = SentAs::not_known;
    std::size_t stage = 0; ///< of the path, from 1, behind which it stands; the last one: the value
    std::string unit;      ///< of what is sent
};
/// `real`: by real arithmetic, without what the board's types lost.
Standing standing_of(const Trial& trial, const SentNumber& sent, bool real);

struct Explanation {
    std::string key;              ///< of the constant in the path's JSON form: "reference_V"; "unknown": the leg
    std::string words;            ///< "the reference"
    double planned = 0, used = 0; ///< in the unit of the key
    std::string planned_text, used_text;
    std::optional<Literal> literal; ///< where it stands in the program, and what it must be there
    double must_be = 0;
    std::optional<CodePlace> made_at; ///< of a constant that several numbers of the program make
    std::string apart;                ///< a factor taken apart: "0.4882 is 5 V / 1 024 · 100"
    std::string beside;               ///< another constant that differs as well, as a sentence
};
std::optional<Explanation> explain(const Trial& trial, const SentNumber& sent);

} // namespace cognitum::program
