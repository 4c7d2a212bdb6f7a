#include "session/trouble_report.h"

#include "session/session.h"
#include "store/file/data_files.h"
#include "store/file/schema.h"

#include <QCoreApplication>
#include <QFileInfo>
#include <QSysInfo>
#include <fmt/format.h>
#include <sqlite3.h>

namespace cognitum {

namespace {

const char* word_of(LinkState state) {
    switch (state) {
    case LinkState::closed: return "closed";
    case LinkState::opening: return "opening";
    case LinkState::open: return "open";
    case LinkState::lost: return "lost";
    }
    return "?";
}

} // namespace

QString trouble_report(const Session& session) {
    std::string out = fmt::format(
        "Cognitum {}\nQt {} on {} ({}), {}\nSQLite {}\n", QCoreApplication::applicationVersion().toStdString(),
        qVersion(), QSysInfo::prettyProductName().toStdString(), QSysInfo::currentCpuArchitecture().toStdString(),
        qEnvironmentVariable("XDG_SESSION_TYPE", QStringLiteral("no desktop")).toStdString(), sqlite3_libversion());
    const Catalog& cards = session.catalog();
    out += fmt::format("Cards: {} parts, {} boards, {} recipes; not read: {}\n", cards.parts.size(),
                       cards.boards.size(), session.recipes().size(), session.catalogProblems().size());
    if (!session.isOpen()) return QString::fromStdString(out + "No bench is open.\n");
    const Bench& bench = session.bench();
    out += fmt::format("Bench: format {}, {} bytes, {} boards, {} readings, {} rules, {} sessions; {}\n",
                       bench_version, QFileInfo(session.path()).size(), bench.boards.size(), bench.readings.size(),
                       bench.watch_rules.size(), bench.sessions.size(),
                       session.isAttached()           ? "a recorder has it"
                       : session.lookOnly().isEmpty() ? "open to change"
                                                      : "only looked at");
    const Live live = session.worker().live();
    out += fmt::format("Recording: {}, {} samples saved, {} waiting, {} lost\n", live.recording.on ? "on" : "off",
                       live.recording.saved, live.recording.waiting, live.recording.lost);
    int n = 0;
    for (const BoardUse& use : bench.boards) {
        ++n;
        out += fmt::format("Board {}: card {}, link {}", n, use.card, link_kind_name(use.link.kind));
        const auto found = live.boards.find(use.id);
        if (found == live.boards.end()) {
            out += ", not listened to\n";
            continue;
        }
        const LiveBoard& board = found->second;
        out += fmt::format(", {}, format {}, {} lines ({:.2g}/s), {} lost, {} rejected, {} resets, {} fields\n",
                           word_of(board.state), board.format.toStdString(), board.lines, board.lines_per_s,
                           board.lost, board.rejected, board.resets, board.fields.size());
    }
    n = 0;
    for (const Reading& r : bench.readings) {
        ++n;
        const auto found = live.readings.find(r.id);
        out += fmt::format("Reading {}: {}, part {}, {}\n", n, r.quantity.kind,
                           r.sensor.part.empty() ? "none" : r.sensor.part,
                           found == live.readings.end() ? "nothing came"
                           : found->second.value.ok()   ? "has a value"
                                                        : "has no value");
    }
    return QString::fromStdString(out);
}

} // namespace cognitum
