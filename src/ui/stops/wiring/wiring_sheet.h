// The wiring of one reading on paper: drawing, steps with boxes, cautions, what to check before programming.
#pragma once

#include "core/plan/loom/loom.h"
#include "session/session.h"
#include "ui/paper/paper.h"

#include <QString>

namespace cognitum {

/// The drawing alone. Error with a sentence when the file cannot be written.
Result<void> export_loom_svg(const Loom& loom, const QString& path);
Result<void> export_loom_pdf(const Loom& loom, const QString& path);
/// A4, one page or more. Error: nothing is wired yet.
Result<Paper> wiring_sheet(const Session& session, const Reading& reading);

} // namespace cognitum
