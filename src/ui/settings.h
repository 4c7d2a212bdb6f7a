// What a person chose for this computer, apart from any bench. Kept by QSettings under the keys of settings.cpp.
#pragma once

#include "core/units/units_beside.h"

#include <QString>

namespace cognitum {

enum class Appearance { as_desktop, light, dark };
enum class AtClose { end_recording, hand_over }; ///< what becomes of a recording when the window closes

struct Settings {
    QString language; ///< code; empty: the desktop's. Holds from the next start on
    Appearance appearance = Appearance::as_desktop;
    double scale = 0; ///< of all text, 0.8…2; 0: as the desktop's font
    UnitsBeside beside;
    QString signer; ///< stands where a name is asked for
    bool open_last = false;
    bool offer_private = true; ///< an export asks about readings about somebody's health; false: leaves them out
    AtClose at_close = AtClose::end_recording;
    bool operator==(const Settings&) const = default;

    static Settings load();
    void save() const;
};

/// How the desktop wanted its programs to look when it was asked last: a start shows that until it answers.
bool desktop_was_dark();
void remember_desktop_dark(bool dark);

} // namespace cognitum
