// What a maker's program really computes, beside the plan of its board: findings with their line, and each
// reading's path in the program.
#pragma once

#include "core/plan/findings.h"

#include <optional>
#include <string>
#include <vector>

namespace cognitum {

namespace program {
struct SyntaxTree;
}

struct ReadFinding {
    std::string id; ///< of the rule: "whole-number-division"
    Severity severity = Severity::look;
    std::string reading; ///< id; empty: of the whole program
    std::string file;
    int line = 0;
    std::string message, why;
    std::string mended; ///< the line as it should be; empty: there is none to show
};

/// One thing that the program does to the number, beside what the plan says.
struct ReadStep {
    std::string what; ///< "× 3.3"
    std::string note; ///< "the plan's reference is 4.998 V"
    int line = 0;
    bool differs = false;
};

struct PrintsAt {
    double truth = 0;    ///< unit of the reading
    double raw = 0;      ///< what its pin or part gave: counts, µs, the part's own number
    std::string printed; ///< as the program sent it; empty: nothing
};

/// How a number stands to the plan's path.
enum class SentAs { raw, on_the_way, value, other_unit, another, not_known };

struct ReadPath {
    std::string reading; ///< id
    std::string pin;     ///< label; of a bus its address
    std::string file;
    int line = 0;                ///< where it is sent
    std::string label;           ///< the text before it
    int column = 0, columns = 0; ///< its place among the numbers of its line, from 0, and how many they are
    double interval_s = 0;       ///< usual time between two of them; 0: it is sent once
    SentAs sent_as = SentAs::not_known;
    std::string unit; ///< of what is sent, where it is known
    std::vector<ReadStep> steps;
    std::optional<Chain> path;       ///< from the raw number to what is sent, as a path of the bench could have it
    std::vector<PrintsAt> prints_at; ///< three
};

struct ProgramRead {
    std::vector<ReadFinding> findings; ///< by line
    std::vector<ReadPath> readings;
    bool compared = false; ///< every number of a reading that it sends was put beside the plan, and there is one
    std::vector<std::string> notes;     ///< what could not be followed, and why
    std::vector<std::string> not_in_it; ///< ids of the board's readings that it does not send
};

/// Error: no such board, or one without a card.
Result<ProgramRead> read_program(const program::SyntaxTree& tree, const Bench& bench, const Catalog& catalog,
                                 const std::string& board);
/// The path for a board that keeps running this program: what it sends goes back through its arithmetic to the raw
/// number, and from there the way of the plan. Where its arithmetic has no simple way back and its value is right,
/// the value is taken as it comes. Empty: neither is so.
std::optional<Chain> path_behind(const Reading& reading, const ReadPath& program);
/// A header that names the pins of a board, for the parser.
Result<std::string> pins_header(const Bench& bench, const Catalog& catalog, const std::string& board);
/// True when the board's int has 16 bits.
bool has_short_int(const Bench& bench, const Catalog& catalog, const std::string& board);

} // namespace cognitum
