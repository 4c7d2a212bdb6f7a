#include "session/path_state.h"

#include "core/calibrate/drift.h"

#include "core/units/format.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"

#include <QCoreApplication>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

QString text(const std::string& s) {
    return QString::fromStdString(s);
}

void raise(Mark& mark, Severity severity) {
    if (severity == Severity::error)
        mark = Mark::bad;
    else if (severity == Severity::look && mark != Mark::bad)
        mark = Mark::look;
}

StopState quantity_stop(const Reading& r) {
    return {Mark::done, text(fmt::format("{}…{}", format_constant(r.quantity.low),
                                         format_measure(r.quantity.high, r.quantity.unit)))};
}

StopState sensor_stop(const Session& session, const Reading& r, const PartCard* part) {
    if (r.sensor.part.empty()) return {Mark::not_begun, Session::tr("not chosen")};
    if (!part) return {Mark::bad, Session::tr("card is missing")};
    const Measurand* measured = part->measurand(r.quantity.kind);
    if (measured)
        for (const Stage& stage : measured->transfer)
            if (const auto* linear = std::get_if<Linear>(&stage); linear && measured->unit == "degC")
                return {Mark::done, text(fmt::format("{} mV/°C, {} V", format_constant(1000 * linear->slope.value),
                                                     format_constant(linear->zero.value)))};
    const QString name = text(part->name.substr(0, part->name.find(',')));
    const BoardCard* board = session.boardCard(r);
    const Rail* rail = board ? board->rail(r.wiring.rail) : nullptr;
    return {Mark::done, rail && name.size() < 16 ? name + ", " + text(rail->label) : name};
}

StopState wiring_stop(const Session& session, const Reading& r, const PartCard* part) {
    const BoardUse* use = session.bench().board(r.wiring.board);
    if (!use || !part) return {Mark::not_begun, Session::tr("not placed")};
    if (part->interface.speech == Speech::radio) return {Mark::done, Session::tr("by radio")};
    if (r.wiring.pin().empty()) return {Mark::not_begun, Session::tr("no pin yet")};
    const auto steps = session.wiringSteps(r.id);
    const auto ticked = std::min(r.wiring.ticked.size(), steps);
    if (ticked < steps) return {Mark::not_begun, Session::tr("%1 of %2 ticked").arg(ticked).arg(steps)};
    const Module* between = session.bench().module(r.wiring.module);
    return {Mark::done, text(r.wiring.pin() + ", " +
                             (between                 ? between->name
                              : r.wiring.rail.empty() ? use->name
                                                      : r.wiring.rail))};
}

/// What is there or not has a word and no decimals.
QString event_word(const Reading& r, double value) {
    if (r.quantity.kind == "motion") return value != 0 ? Session::tr("moves") : Session::tr("still");
    if (r.quantity.kind == "contact") return value != 0 ? Session::tr("closed") : Session::tr("open");
    return {};
}

QString no_value_word(const LiveReading& live) {
    switch (live.value.cause) {
    case Cause::at_low_rail:
    case Cause::at_high_rail: return Session::tr("at the rail");
    case Cause::missing: return Session::tr("not in the lines");
    case Cause::failed: return Session::tr("no value");
    default: return Session::tr("no number");
    }
}

QString link_word(const LiveBoard& board) {
    switch (board.state) {
    case LinkState::closed: return Session::tr("no link");
    case LinkState::opening: return Session::tr("opening");
    case LinkState::lost: return Session::tr("unplugged");
    case LinkState::open: return Session::tr("no lines yet");
    }
    return {};
}

/// Failed, found with another path, overdue by its interval or by a knock: or good.
Mark calibration_mark(const Session& session, const Reading& r) {
    const AppliedCorrection& c = *r.correction;
    if (c.verdict == verdict_id(Verdict::fail)) return Mark::bad;
    const double months = r.calibrate_months > 0 ? r.calibrate_months : usual_calibration_months;
    const bool overdue = session.now() > c.time + from_seconds(months / 12 * 365.25 * 86400);
    return correction_is_stale(r) || overdue || r.bring_up.disturbed > c.time ? Mark::look : Mark::done;
}

} // namespace

QString stop_name(int stop) {
    static const char* names[] = {QT_TRANSLATE_NOOP("Stop", "Quantity"), QT_TRANSLATE_NOOP("Stop", "Sensor"),
                                  QT_TRANSLATE_NOOP("Stop", "Wiring"),   QT_TRANSLATE_NOOP("Stop", "Raw"),
                                  QT_TRANSLATE_NOOP("Stop", "Convert"),  QT_TRANSLATE_NOOP("Stop", "Calibrate"),
                                  QT_TRANSLATE_NOOP("Stop", "Watch")};
    return QCoreApplication::translate("Stop", names[stop]);
}

PathState path_state(const Session& session, const Reading& r, const Live& live,
                     const std::vector<Finding>& findings) {
    PathState out;
    const PartCard* part = session.part(r);
    const std::string& unit = r.quantity.unit;
    out.stops[0] = quantity_stop(r);
    out.stops[1] = sensor_stop(session, r, part);
    out.stops[2] = wiring_stop(session, r, part);
    for (int i = 3; i < 7; ++i)
        out.stops[static_cast<std::size_t>(i)] = {Mark::not_begun, QStringLiteral("—")};
    out.reaches = -1;
    out.value = QStringLiteral("—");
    out.word = Session::tr("planned");

    const BoardUse* use = session.bench().board(r.feed());
    const auto board = live.boards.find(r.feed());
    const bool linked = use && use->link.kind != LinkKind::none && board != live.boards.end();
    const auto known = live.readings.find(r.id);
    const LiveReading* now = known == live.readings.end() ? nullptr : &known->second;
    out.freshness = freshness(now ? now->time : std::nullopt, session.now(), r.quantity);
    if (now && now->time) out.age = text(age_text(session.now() - *now->time));
    // A cable that is known to be out ends the path at once, however young the last value is.
    const bool pulled = linked && board->second.state == LinkState::lost;
    const bool fresh = !pulled && (out.freshness == Freshness::fresh || out.freshness == Freshness::late);

    auto& raw = out.stops[3];
    // The board talks, but its lines never brought this reading: its program does not send it yet.
    const bool never_sent =
        linked && board->second.state == LinkState::open && board->second.lines > 0 && (!now || !now->time);
    if (now && now->by_hand && now->value.ok() && out.freshness != Freshness::silent) {
        // Read by a person: there is no raw signal behind it, and its doubt is the person's.
        raw = {Mark::done, Session::tr("by hand")};
        out.value = text(format_value(now->value.number, now->hand_doubt, unit));
        out.stops[4] = {Mark::done, out.value};
        out.word = r.bands ? QString::fromLatin1(zone_word(now->zone)) : Session::tr("by hand");
        out.mark = now->zone == Zone::low || now->zone == Zone::high ? Mark::look : Mark::done;
        out.reaches = 6;
    } else if (never_sent) {
        raw = {Mark::not_begun, Session::tr("not in the lines")};
        out.word = raw.text;
        out.reaches = 2;
    } else if (linked && !fresh) {
        raw = {pulled ? Mark::bad : Mark::not_begun, link_word(board->second)};
        out.word = pulled                               ? Session::tr("unplugged")
                   : out.freshness == Freshness::silent ? Session::tr("silent")
                                                        : raw.text;
        out.reaches = 2;
    } else if (linked && now) {
        out.reaches = 3;
        raw = {Mark::done,
               std::isfinite(now->raw) ? text(format_measure(now->raw, r.path.first_unit())) : no_value_word(*now)};
        Chain path = r.path;
        const Partners partners = session.partners(r, live);
        feed(path, partners);
        for (const auto& [id, partner] : partners) // a derived value is as old as its oldest input
            if (now->time && partner.time > 0 && partner.time < *now->time)
                if (const TimeUs age = session.now() - partner.time; seconds(age) > 2 * r.quantity.interval_s + 1)
                    out.age = text(age_text(age) + " (" + partner.name + ")");
        const Walk steps = walk(path, now->raw);
        // A pin that floats, sticks or clips gives codes, but they measure nothing.
        const auto sick = std::find_if(findings.begin(), findings.end(), [](const Finding& f) {
            const auto& verdicts = all_verdict_ids();
            return f.severity == Severity::error && f.id != "half-lines" && f.id != "failed" &&
                   f.id != "restarts" && std::find(verdicts.begin(), verdicts.end(), f.id) != verdicts.end();
        });
        if (sick != findings.end()) {
            out.word = text(sick->id).replace(QLatin1Char('-'), QLatin1Char(' '));
            raw = {Mark::bad, out.word};
            out.mark = Mark::bad;
            out.stops[4].text = Session::tr("no value");
        } else if (now->value.ok() && steps.result().ok()) {
            const Budget budget = session.budget(r, now->raw, live);
            const double doubt = budget.expanded();
            out.reaches = 6;
            out.stops[4] = {Mark::done, text(format_value(steps.result().number, doubt, unit))};
            out.value = event_word(r, now->value.number);
            if (out.value.isEmpty()) out.value = text(format_value(now->value.number, doubt, unit));
            out.stops[5].text =
                r.correction ? text(format_with_doubt(now->value.number, doubt, unit)) : Session::tr("never");
            out.word = r.bands ? QString::fromLatin1(zone_word(now->zone)) : Session::tr("no band");
            if (now->zone == Zone::low || now->zone == Zone::high)
                out.mark = Mark::look;
            else
                out.mark = Mark::done;
        } else {
            raw.mark = Mark::bad;
            out.mark = Mark::bad;
            out.word = no_value_word(*now);
            out.stops[4].text = Session::tr("no value");
        }
    }
    if (r.correction) out.stops[5].mark = calibration_mark(session, r);
    if (r.correction && out.stops[5].text == QStringLiteral("—")) out.stops[5].text = Session::tr("calibrated");
    if (r.bands) {
        out.stops[6].mark = out.mark == Mark::look ? Mark::look : Mark::done;
        out.stops[6].text =
            out.reaches == 6
                ? out.word
                : text(fmt::format("{}…{}", format_constant(r.bands->low), format_measure(r.bands->high, unit)));
    } else if (out.reaches == 6) {
        out.stops[6].text = Session::tr("no band");
    }
    for (const Finding& f : findings)
        raise(out.stops[static_cast<std::size_t>(f.stop)].mark, f.severity);
    if (out.freshness == Freshness::silent || pulled) out.mark = Mark::bad;
    if (std::any_of(findings.begin(), findings.end(),
                    [](const Finding& f) { return f.severity == Severity::error; }) &&
        out.mark != Mark::not_begun)
        out.mark = Mark::bad;

    static const char* words[] = {QT_TRANSLATE_NOOP("Fresh", "nothing yet"), QT_TRANSLATE_NOOP("Fresh", "fresh"),
                                  QT_TRANSLATE_NOOP("Fresh", "late"), QT_TRANSLATE_NOOP("Fresh", "silent")};
    const QString freshness_word = QCoreApplication::translate("Fresh", words[static_cast<int>(out.freshness)]);
    out.about = use ? Session::tr("%1 · every %2 · %3")
                          .arg(text(use->name), text(format_measure(r.quantity.interval_s, "s")), freshness_word)
                    : Session::tr("planned · no board reports it yet");
    return out;
}

} // namespace cognitum
