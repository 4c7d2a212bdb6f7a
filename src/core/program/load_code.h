// The loads of a board in its program: a row of its table each.
#pragma once

#include "core/program/driver.h"

namespace cognitum::program {

/// Rows of the table of loads; empty: the board switches none. Notes say where the plan tells a load in other
/// words.
std::string load_rows(const Bench& bench, const Catalog& catalog, const BoardUse& use, const BoardCard& card,
                      std::vector<ProgramNote>& notes);

} // namespace cognitum::program
