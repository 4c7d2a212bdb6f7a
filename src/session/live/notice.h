// What somebody is told, on its way from the worker to the desktop and the broker.
#pragma once

#include "core/base/time.h"
#include "core/bench/watch_rule.h"

#include <QMetaType>
#include <QString>

namespace cognitum {

struct ToldNotice {
    QString rule, reading; ///< ids
    WatchRank rank = WatchRank::look;
    bool over = false;   ///< the end of what was told
    bool urgent = false; ///< nobody looked for too long
    bool health = false; ///< about somebody's health: stays on this computer
    TimeUs time = 0;
    QString title; ///< "Cistern: Nearly empty"
    QString text;  ///< a sentence with numbers
};

} // namespace cognitum

Q_DECLARE_METATYPE(cognitum::ToldNotice)
