#include "session/overview.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "session/language.h"
#include "session/session.h"
#include "store/samples/samples.h"
#include "store/zone.h"

#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

constexpr TimeUs sheet_looks_back = 35 * day_us;

QString said(const std::string& text) {
    return QString::fromStdString(text);
}

QString short_day(TimeUs time) {
    return date_said(time, "d MMM");
}

QString clock_of(TimeUs time) {
    return date_said(time, "HH:mm");
}

/// "Samphire bed" of "Samphire bed 3"; empty: its name ends with no number.
std::string family_of(const std::string& name) {
    std::size_t end = name.size();
    while (end > 0 && name[end - 1] >= '0' && name[end - 1] <= '9')
        --end;
    if (end == name.size() || end < 2 || name[end - 1] != ' ') return {};
    return name.substr(0, end - 1);
}

/// The first thing that a person should know of it, or nothing.
QString reason_to_look(const Session& session, const Live& live, const Reading& r, const PathState& state) {
    for (const WatchRule& rule : session.bench().watch_rules) {
        const auto known = live.rules.find(rule.id);
        if (rule.rank != WatchRank::note && rule.reading() == r.id && known != live.rules.end() &&
            known->second.raised)
            return Session::tr("%1, since %2").arg(said(rule.name), clock_of(known->second.since));
    }
    if (state.mark == Mark::bad || state.mark == Mark::look) {
        const auto now = live.readings.find(r.id);
        if (now != live.readings.end() && !now->second.value.ok() && !now->second.cause.empty())
            return said(now->second.cause);
        return state.word;
    }
    for (const Finding& f : session.views().findings(r, live))
        if (!f.is_caution && f.severity != Severity::note) return said(f.message);
    const Mark proof = state.stops[static_cast<std::size_t>(Stop::calibrate)].mark;
    if (!r.correction || (proof != Mark::look && proof != Mark::bad)) return {};
    if (proof == Mark::bad) return Session::tr("Its calibration of %1 failed.").arg(short_day(r.correction->time));
    return correction_is_stale(r)                      ? Session::tr("Its calibration was found with another path.")
           : r.bring_up.disturbed > r.correction->time ? Session::tr("It was moved since its calibration.")
                                                       : Session::tr("Its calibration is due.");
}

QString proof_of(const Reading& r) {
    if (r.correction)
        return Session::tr("calibrated %1 · %2")
            .arg(short_day(r.correction->time),
                 said(phrase_of(r.correction->verdict)).replace(QLatin1Char('-'), QLatin1Char(' ')));
    return r.path.stages.empty() ? Session::tr("as the board gives it") : Session::tr("calibrated never");
}

QString extremes_of(const Reading& r, const OverviewRecord& record) {
    const auto known = record.days.find(r.id);
    if (known == record.days.end()) return {}; // asked, and not answered yet
    const DayFigures& day = known->second;
    if (!day.trouble.empty()) return Session::tr("what was recorded cannot be read");
    if (!day.any) return Session::tr("nothing recorded in the last day");
    if (r.quantity.about().is_state() || r.quantity.about().is_total) return {};
    return Session::tr("%1 at %2, %3 at %4")
        .arg(said(format_value(day.low, r.quantity.accuracy, "1")), clock_of(day.low_at),
             said(format_value(day.high, r.quantity.accuracy, r.quantity.unit)), clock_of(day.high_at));
}

OverviewRow row_of(const Session& session, const Live& live, const Reading& r, const PathState& state,
                   const OverviewRecord& record) {
    OverviewRow out;
    out.readings = {r.id};
    out.group = said(r.group);
    out.name = said(r.name);
    out.mark = state.mark;
    out.why = reason_to_look(session, live, r, state);
    out.needs_look = !out.why.isEmpty();
    if (out.needs_look && out.mark == Mark::done) out.mark = Mark::look;
    const auto now = live.readings.find(r.id);
    const bool valued = now != live.readings.end() && now->second.value.ok() && state.reaches == 6;
    out.values = {valued ? now->second.value.number : no_number};
    const QuantityKind& kind = r.quantity.about();
    if (!valued) {
        out.number = QStringLiteral("—");
    } else if (kind.is_state()) {
        out.number = said(now->second.value.number > 0.5 ? kind.on_word : kind.off_word);
    } else {
        const double doubt = session.views().budget(r, now->second.raw, live).expanded();
        out.number = said(format_fixed(now->second.value.number, decimals_for(doubt)));
        out.expanded = doubt;
        out.doubt = said("± " + format_value(doubt, doubt, r.quantity.unit));
    }
    out.state = state.age.isEmpty() ? state.word : QStringLiteral("%1 · %2").arg(state.word, state.age);
    const auto outlook = record.outlooks.find(r.id);
    if (outlook != record.outlooks.end())
        out.follows = !outlook->second.headline.empty() ? said(outlook->second.headline)
                      : outlook->second.lines.empty()   ? QString()
                                                        : said(outlook->second.lines.front());
    const QString extremes = extremes_of(r, record);
    if (out.follows.isEmpty())
        out.follows = extremes;
    else if (!extremes.isEmpty() && out.follows.size() < 24)
        out.follows += QStringLiteral(" · ") + extremes;
    out.proven = proof_of(r);
    return out;
}

/// A bed beside those of its family.
void join(OverviewRow& row, const OverviewRow& other) {
    row.readings.insert(row.readings.end(), other.readings.begin(), other.readings.end());
    row.values.insert(row.values.end(), other.values.begin(), other.values.end());
    row.number += QStringLiteral("  ") + other.number;
    if (row.doubt.isEmpty()) row.doubt = other.doubt;
    if (other.needs_look && !row.needs_look) {
        row.why = other.name + QStringLiteral(": ") + other.why;
        row.mark = other.mark;
    }
    row.needs_look = row.needs_look || other.needs_look;
}

} // namespace

Result<OverviewRecord> overview_record(BenchFile& file, const Bench& bench, OverviewRecord known, TimeUs now) {
    std::vector<std::string> ids;
    for (const Reading& r : bench.readings)
        ids.push_back(r.id);
    COGNITUM_TRY(days, recorded_days(file, ids, now));
    known.days = std::move(days);
    const ZoneOffset zone = system_zone();
    for (const Reading& r : bench.readings) {
        TimeUs& from = known.read_to.try_emplace(r.id, now - sheet_looks_back).first->second;
        HourCounter& hours = known.hours[r.id];
        const auto read = for_each_sample(file, r.id, from, latest_time, [&](std::span<const Sample> samples) {
            for (const Sample& s : samples)
                hours.take(s.time, s.value);
            from = samples.back().time + 1;
            return true;
        });
        known.outlooks[r.id] = {};
        if (!read) continue; // its day says that it cannot be read
        known.outlooks[r.id] = outlook(r, hours.finish(), r.quantity.accuracy / 2, now, zone);
    }
    return known;
}

std::vector<OverviewRow> overview_rows(const Session& session, const Live& live,
                                       const std::function<const PathState&(const std::string&)>& state_of,
                                       const OverviewRecord& record) {
    std::vector<OverviewRow> out;
    std::map<std::string, std::size_t> families; ///< place of the row that they share
    for (const Reading& r : session.bench().readings) {
        if (r.hidden) continue;
        OverviewRow row = row_of(session, live, r, state_of(r.id), record);
        const std::string family = family_of(r.name);
        const std::string key = family + "|" + r.quantity.kind + "|" + r.quantity.unit + "|" + r.group;
        if (const auto known = families.find(key); !family.empty() && known != families.end()) {
            join(out[known->second], row);
            const OverviewRow& shared = out[known->second];
            out[known->second].name =
                QStringLiteral("%1 %2 to %3")
                    .arg(said(family),
                         said(session.bench().reading(shared.readings.front())->name).section(QLatin1Char(' '), -1),
                         said(r.name).section(QLatin1Char(' '), -1));
            continue;
        }
        if (!family.empty()) families[key] = out.size();
        out.push_back(std::move(row));
    }
    std::stable_sort(out.begin(), out.end(), [](const OverviewRow& a, const OverviewRow& b) {
        if (a.needs_look != b.needs_look) return a.needs_look;
        return !a.needs_look && a.group < b.group;
    });
    return out;
}

} // namespace cognitum
