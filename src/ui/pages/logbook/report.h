// The report of a stretch, a session, a month or the whole bench, on paper.
#pragma once

#include "session/archive/stretch_report.h"
#include "ui/context.h"
#include "ui/paper/paper.h"

#include <QString>

namespace cognitum {

/// What the report says, in order: the lanes as vectors, the session's own summary, figures, periods, calibrations
/// in force, gaps, what happened, cautions, and how to find its fingerprint again.
Paper report_paper(const StretchReport& report, const Bench& bench, const QString& bench_path);

/// Asks where to, works it out beside the window, saves it and says so.
void save_report(Context& context, QWidget* parent, const ReportRequest& request);
/// The same, shown as it comes onto paper and printed from there.
void print_report(Context& context, QWidget* parent, const ReportRequest& request);

} // namespace cognitum
