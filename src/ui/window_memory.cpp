#include "ui/window_memory.h"

#include "session/language.h"

#include <QCoreApplication>
#include <QFileInfo>
#include <QSettings>
#include <QWidget>
#include <algorithm>

namespace cognitum {

namespace {

constexpr std::size_t most_recent = 8;
const QString benches_key = QStringLiteral("benches");
const QString window_key = QStringLiteral("window");

std::vector<RecentBench> kept_benches() {
    QSettings kept;
    std::vector<RecentBench> out;
    const int n = kept.beginReadArray(benches_key);
    for (int i = 0; i < n; ++i) {
        kept.setArrayIndex(i);
        out.push_back(
            {kept.value(QStringLiteral("path")).toString(), kept.value(QStringLiteral("name")).toString(),
             kept.value(QStringLiteral("place")).toString(), kept.value(QStringLiteral("readings")).toInt(),
             kept.value(QStringLiteral("opened")).toDateTime(), kept.value(QStringLiteral("page")).toString(),
             kept.value(QStringLiteral("reading")).toString(),
             std::clamp(kept.value(QStringLiteral("stop")).toInt(), 0, 6)});
    }
    kept.endArray();
    return out;
}

} // namespace

std::vector<RecentBench> recent_benches() {
    std::vector<RecentBench> out = kept_benches();
    std::erase_if(out, [](const RecentBench& b) { return !QFileInfo::exists(b.path); });
    return out;
}

void remember_bench(const RecentBench& bench) {
    std::vector<RecentBench> all = kept_benches();
    std::erase_if(all, [&](const RecentBench& b) { return b.path == bench.path; });
    all.insert(all.begin(), bench);
    if (all.size() > most_recent) all.resize(most_recent);
    QSettings kept;
    kept.remove(benches_key);
    kept.beginWriteArray(benches_key, static_cast<int>(all.size()));
    for (std::size_t i = 0; i < all.size(); ++i) {
        kept.setArrayIndex(static_cast<int>(i));
        kept.setValue(QStringLiteral("path"), all[i].path);
        kept.setValue(QStringLiteral("name"), all[i].name);
        kept.setValue(QStringLiteral("place"), all[i].place);
        kept.setValue(QStringLiteral("readings"), all[i].readings);
        kept.setValue(QStringLiteral("opened"), all[i].opened);
        kept.setValue(QStringLiteral("page"), all[i].page);
        kept.setValue(QStringLiteral("reading"), all[i].reading);
        kept.setValue(QStringLiteral("stop"), all[i].stop);
    }
    kept.endArray();
}

QString describe(const RecentBench& bench) {
    QStringList parts;
    if (!bench.place.isEmpty()) parts << bench.place;
    parts << QCoreApplication::translate("RecentBench", "%n reading(s)", nullptr, bench.readings);
    if (bench.opened.isValid()) parts << date_said(bench.opened, "d MMM yyyy, HH:mm");
    return parts.join(QStringLiteral(" · "));
}

void remember_window(const QWidget& window) {
    QSettings().setValue(window_key, window.saveGeometry());
}

bool restore_window(QWidget& window) {
    return window.restoreGeometry(QSettings().value(window_key).toByteArray());
}

} // namespace cognitum
