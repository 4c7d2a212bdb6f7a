// What helps somebody who is asked for help: versions, sizes and states; no values, no names, no secrets.
#pragma once

#include <QString>

namespace cognitum {

class Session;

QString trouble_report(const Session& session);

} // namespace cognitum
