// The program of a board, written from its plan: setup() and loop() in the usual core interface of small boards,
// one record a line, failures as words, no library beside those of the core. It compiles for the 8-bit boards as
// C++11.
#pragma once

#include "core/bench/bench.h"
#include "core/catalog/cards.h"

#include <string>
#include <vector>

namespace cognitum {

struct ProgramFile {
    std::string name; ///< with its folder, as the usual tools want it: "gauge/gauge.ino"
    std::string text;
    bool yours = false; ///< a person fills it in: one that is there is never written over
};

/// What could not be written, or what to know: for a person.
struct ProgramNote {
    std::string reading; ///< id; empty: of the whole program
    std::string text;
    bool left_out = false; ///< its reading is not in the program
};

struct WrittenProgram {
    std::vector<ProgramFile> files; ///< the first holds setup() and loop()
    std::string fingerprint;        ///< of what it was written from: eight hexadecimal digits
    std::vector<ProgramNote> notes;
    std::vector<std::string> fields; ///< names in its records, beside seq and ms
};

struct ProgramOptions {
    int average = 1;        ///< conversions of an analog input that become one number, 1 to 64
    bool constants = false; ///< values by the plan's constants are sent beside the raw numbers, as FIELD_value
    bool sleep = false;     ///< deeply between records, where nothing keeps it awake
};

/// Fingerprint of what the program of a board depends on. A plan whose fingerprint differs needs another program.
std::string program_fingerprint(const Bench& bench, const Catalog& catalog, const BoardUse& board);
/// The same of the constants that a program with them has. A board that has them says PLAN-CONSTANTS.
std::string constants_fingerprint(const Bench& bench, const BoardUse& board);

/// Error: no such board, no card, or none of its readings has a pin that a program could read.
Result<WrittenProgram> write_program(const Bench& bench, const Catalog& catalog, const std::string& board,
                                     const ProgramOptions& options = {});

} // namespace cognitum
