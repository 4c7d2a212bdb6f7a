#include "ui/settings.h"

#include "session/language.h"

#include <QSettings>
#include <algorithm>

namespace cognitum {

namespace {

const QString dark_key = QStringLiteral("dark"); ///< absent: as the desktop
const QString desktop_dark_key = QStringLiteral("desktop_dark");
const QString language_key = QStringLiteral("language"); ///< read by wished_language() as well
const QString scale_key = QStringLiteral("scale");
const QString signer_key = QStringLiteral("signed_by");
const QString open_last_key = QStringLiteral("open_last");
const QString offer_private_key = QStringLiteral("offer_private");
const QString hand_over_key = QStringLiteral("hand_over");

const std::pair<const char*, std::string UnitsBeside::*> unit_keys[] = {
    {"beside/temperature", &UnitsBeside::temperature},
    {"beside/pressure", &UnitsBeside::pressure},
    {"beside/length", &UnitsBeside::length},
    {"beside/volume", &UnitsBeside::volume},
};

} // namespace

bool desktop_was_dark() {
    return QSettings().value(desktop_dark_key, false).toBool();
}

void remember_desktop_dark(bool dark) {
    if (dark != desktop_was_dark()) QSettings().setValue(desktop_dark_key, dark);
}

Settings Settings::load() {
    const QSettings kept;
    Settings out;
    if (kept.contains(dark_key))
        out.appearance = kept.value(dark_key).toBool() ? Appearance::dark : Appearance::light;
    out.language = wished_language();
    if (const double scale = kept.value(scale_key).toDouble(); scale > 0) out.scale = std::clamp(scale, 0.8, 2.0);
    for (const auto& [key, unit] : unit_keys)
        out.beside.*unit = kept.value(QLatin1String(key)).toString().toStdString();
    out.signer = kept.value(signer_key).toString();
    out.open_last = kept.value(open_last_key, out.open_last).toBool();
    out.offer_private = kept.value(offer_private_key, out.offer_private).toBool();
    out.at_close = kept.value(hand_over_key, false).toBool() ? AtClose::hand_over : AtClose::end_recording;
    return out;
}

void Settings::save() const {
    QSettings kept;
    if (appearance == Appearance::as_desktop)
        kept.remove(dark_key);
    else
        kept.setValue(dark_key, appearance == Appearance::dark);
    if (language.isEmpty())
        kept.remove(language_key);
    else
        kept.setValue(language_key, language);
    if (scale > 0)

        kept.setValue(scale_key, scale);
    else
        kept.remove(scale_key);
    for (const auto& [key, unit] : unit_keys)
        kept.setValue(QLatin1String(key), QString::fromStdString(beside.*unit));
    kept.setValue(signer_key, signer);
    kept.setValue(open_last_key, open_last);
    kept.setValue(offer_private_key, offer_private);
    kept.setValue(hand_over_key, at_close == AtClose::hand_over);
}

} // namespace cognitum
