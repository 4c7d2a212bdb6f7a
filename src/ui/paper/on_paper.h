// From the screen onto paper: what will be printed is shown first, and printed from there.
#pragma once

#include "ui/context.h"
#include "ui/paper/paper.h"

namespace cognitum {

/// The usual way of Context::showOnPaper: the pages in a window of their own, with the printer, its paper and its
/// margins to choose. `draw` draws all pages onto a printer; it is called anew for each choice.
void preview(QWidget* parent, QPageLayout::Orientation orientation, const DrawPages& draw);

/// The same for a paper; an error of its making is said.
void print_paper(Context& context, QWidget* parent, const Result<Paper>& paper);

} // namespace cognitum
