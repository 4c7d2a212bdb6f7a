// Painted things that say in words what they show: read by whoever asks the desktop's accessibility service.
#pragma once

#include <QAccessible>
#include <QString>

namespace cognitum {

class Spoken {
  public:
    virtual ~Spoken() = default;
    /// What is seen now, as sentences; asked for each time, so that it is never older than the picture.
    [[nodiscard]] virtual QString spoken() const = 0;
    [[nodiscard]] virtual QAccessible::Role spokenRole() const { return QAccessible::Graphic; }
};

/// From now on every widget that is Spoken answers with it. May be called again.
void install_spoken();

} // namespace cognitum
