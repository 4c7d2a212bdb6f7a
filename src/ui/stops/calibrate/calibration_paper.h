// A certificate as a file: PDF with plots, JSON or CSV, by the ending of its name.
#pragma once

#include "core/calibrate/record.h"
#include "session/session.h"
#include "ui/paper/paper.h"

#include <QString>

namespace cognitum {

/// The certificate as it is printed. Error: that calibration is not in the bench any more.
Result<Paper> certificate_paper(Session& session, const Reading& reading, std::int64_t record);
/// Error with a sentence when the file cannot be written or its ending is none of the three.
Result<void> save_certificate(Session& session, const Reading& reading, std::int64_t record, const QString& path);

} // namespace cognitum
