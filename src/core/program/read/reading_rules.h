// What is looked for in a program, by subject; each adds its findings.
#pragma once

#include "core/program/read/program_trial.h"
#include "core/program/read/read_program.h"

namespace cognitum::program {

using ReadFindings = std::vector<ReadFinding>;

void look_at_wiring(const Trial& trial, ReadFindings& out);   ///< pins, speed, reference, addresses
void look_at_numbers(const Trial& trial, ReadFindings& out);  ///< arithmetic, constants, units, digits
void look_at_failures(const Trial& trial, ReadFindings& out); ///< numbers of a part that does not answer
void look_at_counts(const Trial& trial, ReadFindings& out);   ///< pulses and their interrupts
void look_at_time(const Trial& trial, ReadFindings& out);     ///< waits, intervals, time-outs, watchdog
void look_at_asking(const Trial& trial, ReadFindings& out);   ///< buses, triggers, how often a part is asked
void look_at_lines(const Trial& trial, ReadFindings& out);    ///< ends of lines, names beside numbers, how often
void look_at_text(const SyntaxTree& tree, const Trial* trial, ReadFindings& out); ///< what needs no evaluation

/// A finding at a place.
ReadFinding found(const Trial& trial, std::string id, Severity severity, const CodePlace& place,
                  std::string message, std::string why, std::string mended = {}, std::string reading = {});
/// The first number of the program's own text among these; null: they all come from elsewhere.
const Literal* own_literal(const Literals& literals);
/// The longest wait in loop(); null: it waits nowhere.
const Waited* longest_wait(const Observed& seen);
/// A number as the program has it: without blanks between its digits.
std::string code_number(double value);
/// A finding that is mended by one more statement at the beginning of setup(): at the line of setup() where that
/// can be written behind its brace, else at `place` with nothing to put in its stead.
ReadFinding found_in_setup(const Trial& trial, std::string id, const CodePlace& place, std::string message,
                           std::string why, const std::string& statement, std::string reading = {});
/// "60 s", "250 ms", "12 µs".
std::string wait_text(double ms);

} // namespace cognitum::program
