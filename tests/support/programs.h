// What programs of boards are compared with.
#pragma once

#include "store/file/data_files.h"

#include <QString>

namespace cognitum::test {

/// The demo's plan.
inline const QString demo = QString::fromStdString(data_folder()) + "/demo/whelk-point.json";

} // namespace cognitum::test
