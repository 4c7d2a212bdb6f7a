// What a window remembers from one start to the next: its size, the benches that were open, and where somebody was
// in each of them. Kept by QSettings on this computer, never in a bench.
#pragma once

#include <QDateTime>
#include <QString>
#include <vector>

class QWidget;

namespace cognitum {

struct RecentBench {
    QString path;
    QString name, place; ///< as it said when it was open last
    int readings = 0;
    QDateTime opened;
    QString page, reading; ///< where somebody was; page empty: at a stop
    int stop = 0;
};

/// The newest first, at most eight; those whose file is gone are left out.
std::vector<RecentBench> recent_benches();
/// Puts it first; what stood there of the same path goes.
void remember_bench(const RecentBench& bench);
/// "Whelk Point, shore station · 13 readings · 28 Nov": what it is.
QString describe(const RecentBench& bench);

void remember_window(const QWidget& window);
/// Size and place of last time, where a screen still has room for them. False: nothing is known.
bool restore_window(QWidget& window);

} // namespace cognitum
