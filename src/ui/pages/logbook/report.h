// The report of a stretch on paper.
#pragma once

#include "session/stretch_report.h"
#include "ui/context.h"

#include <QString>

namespace cognitum {

/// A4, light whatever the window's theme: head, the lanes as vectors, figures, calibrations in force, what
/// happened, cautions; at the foot page, version and fingerprint.
Result<void> save_stretch_report(const QString& path, const Context& context, const StretchReport& report);

} // namespace cognitum
