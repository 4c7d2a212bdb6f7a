// What a program printed beside the raw numbers that it was given, point by point.
#pragma once

#include "core/program/read/program_trial.h"

namespace cognitum::program {

/// Numbers of a reading at all points where it was given one and one was printed.
struct Pairs {
    std::vector<double> raw, printed, step; ///< step: of the printed digits
    bool echo = false, number = false;
    double resolution = 0;
    double bearable = 0; ///< unit of the reading; far less than the printed numbers differ from one another
};

/// `real`: what real arithmetic would have printed, without the losses of the board's types.
Pairs pairs_of(const Trial& trial, const SentNumber& sent, bool real);
/// True when all printed numbers are those of the path behind its stage `stage` (0: the raw ones), times `factor`.
bool follows(const Pairs& pairs, const Chain& path, std::size_t stage, double factor, bool real);

} // namespace cognitum::program
