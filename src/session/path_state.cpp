#include "session/path_state.h"

#include "core/calibrate/drift.h"
#include "core/plan/intake.h"

#include "core/units/format.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"

#include <QCoreApplication>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

const QString none = QStringLiteral("—");

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
    const QuantityKind& kind = r.quantity.about();
    if (kind.is_state()) return {Mark::done, text(kind.off_word + " / " + kind.on_word)};
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
    const std::string whole_name = part->name;
    const QString name = text(whole_name.substr(0, whole_name.find(',')));
    const BoardCard* board = session.boardCard(r);
    const Rail* rail = board ? board->rail(r.wiring.rail) : nullptr;
    return {Mark::done, rail && name.size() < 16 ? name + ", " + text(rail->label) : name};
}

StopState wiring_stop(const Session& session, const Reading& r, const PartCard* part) {
    const BoardUse* use = session.bench().board(r.wiring.board);
    if (!use || !part) return {Mark::not_begun, Session::tr("not placed")};
    if (part->interface.speech == Speech::radio) return {Mark::done, Session::tr("by radio")};
    if (r.wiring.pin().empty()) return {Mark::not_begun, Session::tr("no pin yet")};
    const auto steps = session.views().wiringSteps(r.id);
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
    const QuantityKind& kind = r.quantity.about();
    return QString::fromStdString(value != 0 ? kind.on_word : kind.off_word);
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

/// What the path line is worked out from.
struct Scene {
    const Session& session;
    const Reading& reading;
    const Live& live;
    const std::vector<Finding>& findings;
    const BoardUse* use = nullptr;    ///< null: no board reports it yet
    const LiveBoard* board = nullptr; ///< null: no link is planned
    const LiveReading* now = nullptr; ///< null: nothing is known of it
    bool pulled = false;              ///< its cable is out
    bool fresh = false;               ///< the last value counts
};

Scene look_at(const Session& session, const Reading& r, const Live& live, const std::vector<Finding>& findings,
              Freshness age) {
    Scene s{session, r, live, findings, session.bench().board(r.feed()), nullptr, nullptr, false, false};
    const auto board = live.boards.find(r.feed());
    if (s.use && s.use->link.kind != LinkKind::none && board != live.boards.end()) s.board = &board->second;
    if (const auto known = live.readings.find(r.id); known != live.readings.end()) s.now = &known->second;
    // A cable that is known to be out ends the path at once, however young the last value is.
    s.pulled = s.board && s.board->state == LinkState::lost;
    s.fresh = !s.pulled && (age == Freshness::fresh || age == Freshness::late);
    return s;
}

Mark band_mark(const Reading& r, const LiveReading& now) {
    if (const NamedBand* band = named_band(r, now.value.number))
        return band->rank == WatchRank::note ? Mark::done : band->rank == WatchRank::look ? Mark::look : Mark::bad;
    return now.zone == Zone::low || now.zone == Zone::high ? Mark::look : Mark::done;
}

/// The name of its band; `without`: it has no bands.
QString band_word(const Reading& r, const LiveReading& now, const QString& without) {
    if (const NamedBand* band = named_band(r, now.value.number)) return text(band->name);
    return r.bands ? QString::fromUtf8(zone_word(now.zone)) : without;
}

// The situations of a reading's path, in the order in which they are looked for. Each says whether it is this one,
// and then fills in what the path line shows.

/// Read by a person: there is no raw signal behind it, and its doubt is the person's.
bool by_hand(const Scene& s, PathState& out) {
    if (!s.now || !s.now->by_hand || !s.now->value.ok() || out.freshness == Freshness::silent) return false;
    out.stops[3] = {Mark::done, Session::tr("by hand")};
    out.value = text(format_value(s.now->value.number, s.now->hand_doubt, s.reading.quantity.unit));
    out.stops[4] = {Mark::done, out.value};
    out.word = band_word(s.reading, *s.now, Session::tr("by hand"));
    out.mark = band_mark(s.reading, *s.now);
    out.reaches = 6;
    return true;
}

/// The board talks, but its lines never brought this reading: its program does not send it yet.
bool not_in_the_lines(const Scene& s, PathState& out) {
    if (!s.board || s.board->state != LinkState::open || s.board->lines == 0 || (s.now && s.now->time))
        return false;
    out.stops[3] = {Mark::not_begun, Session::tr("not in the lines")};
    out.word = out.stops[3].text;
    out.reaches = 2;
    return true;
}

/// Nothing came for too long, or the cable is out.
bool silent(const Scene& s, PathState& out) {
    if (!s.board || s.fresh) return false;
    out.stops[3] = {s.pulled ? Mark::bad : Mark::not_begun, link_word(*s.board)};
    out.word = s.pulled                             ? Session::tr("unplugged")
               : out.freshness == Freshness::silent ? Session::tr("silent")
                                                    : out.stops[3].text;
    out.reaches = 2;
    return true;
}

/// Numbers come, and measure nothing: a pin that floats, sticks or clips gives codes all the same.
bool measures_nothing(const Scene& s, PathState& out) {
    const auto why =
        std::find_if(s.findings.begin(), s.findings.end(), [](const Finding& f) { return f.measures_nothing; });
    if (why == s.findings.end()) return false;
    out.word = text(why->id).replace(QLatin1Char('-'), QLatin1Char(' '));
    out.stops[3] = {Mark::bad, out.word};
    out.stops[4].text = Session::tr("no value");
    out.mark = Mark::bad;
    return true;
}

/// All is there, up to the value and its doubt. `converted`: by the path without correction.
bool valued(const Scene& s, const Value& converted, PathState& out) {
    if (!s.now->value.ok() || !converted.ok()) return false;
    const Reading& r = s.reading;
    const std::string& unit = r.quantity.unit;
    const double doubt = s.session.views().budget(r, s.now->raw, s.live).expanded();
    out.reaches = 6;
    const QString word = event_word(r, converted.number);
    out.stops[4] = {Mark::done, word.isEmpty() ? text(format_value(converted.number, doubt, unit)) : word};
    out.value = event_word(r, s.now->value.number);
    if (out.value.isEmpty()) out.value = text(format_value(s.now->value.number, doubt, unit));
    out.stops[5].text =
        r.correction ? text(format_with_doubt(s.now->value.number, doubt, unit)) : Session::tr("never");
    out.word = band_word(r, *s.now, Session::tr("no band"));
    out.mark = band_mark(r, *s.now);
    return true;
}

/// A line came, and brought no value.
void failed(const Scene& s, PathState& out) {
    out.stops[3].mark = Mark::bad;
    out.mark = Mark::bad;
    out.word = no_value_word(*s.now);
    out.stops[4].text = Session::tr("no value");
}

/// A line came: what it brought, and what became of it.
bool arrived(const Scene& s, PathState& out) {
    if (!s.board || !s.now) return false;
    const Reading& r = s.reading;
    out.reaches = 3;
    out.stops[3] = {Mark::done, std::isfinite(s.now->raw) ? text(format_measure(s.now->raw, r.path.first_unit()))
                                                          : no_value_word(*s.now)};
    if (std::isfinite(s.now->raw) && !no_way(r).empty()) {
        out.stops[3].text = text(format_measure(s.now->raw, r.source.unit));
        out.word = Session::tr("raw only");
        return true;
    }
    Chain path = r.path;
    const Partners partners = s.session.views().partners(r, s.live);
    feed(path, partners);
    for (const auto& [id, partner] : partners) // a derived value is as old as its oldest input
        if (s.now->time && partner.time > 0 && partner.time < *s.now->time)
            if (const TimeUs age = s.session.now() - partner.time; seconds(age) > 2 * r.quantity.interval_s + 1)
                out.age = text(age_text(age) + " (" + partner.name + ")");
    if (!measures_nothing(s, out) && !valued(s, forward(path, s.now->raw), out)) failed(s, out);
    return true;
}

/// The last two stops, whatever the situation is.
void proof_and_watch(const Scene& s, PathState& out) {
    const Reading& r = s.reading;
    if (r.correction) {
        out.stops[5].mark = calibration_mark(s.session, r);
        if (out.stops[5].text == none) out.stops[5].text = Session::tr("calibrated");
    }
    const bool whole = out.reaches == 6;
    if (const std::vector<double> limits = band_limits(r); !limits.empty()) {
        out.stops[6].mark = out.mark == Mark::look || (whole && out.mark == Mark::bad) ? out.mark : Mark::done;
        out.stops[6].text = whole ? out.word
                                  : text(fmt::format("{}…{}", format_constant(limits.front()),
                                                     format_measure(limits.back(), r.quantity.unit)));
    } else if (whole) {
        out.stops[6].text = Session::tr("no band");
    }
}

} // namespace

void find_next_step(PathState& state) {
    const auto begun = [&](int stop) {
        return state.stops[static_cast<std::size_t>(stop)].mark != Mark::not_begun;
    };
    const bool arrives = state.reaches >= 3; // then it is wired, whatever was ticked
    for (int stop = 1; stop < 7 && state.next < 0; ++stop)
        if (!begun(stop) && !(stop == 2 && arrives)) state.next = stop;
    switch (state.next) {
    case 1: state.next_step = Session::tr("choose the part that measures it"); break;
    case 2: state.next_step = Session::tr("wire it, and tick the steps"); break;
    case 3: state.next_step = Session::tr("let its board send it"); break;
    case 4: state.next_step = Session::tr("say how the raw number becomes a value"); break;
    case 5: state.next_step = Session::tr("compare it with a reference"); break;
    case 6: state.next_step = Session::tr("say what is too low and too high"); break;
    default: break;
    }
}

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
    out.stops[0] = quantity_stop(r);
    out.stops[1] = sensor_stop(session, r, part);
    out.stops[2] = wiring_stop(session, r, part);
    for (std::size_t i = 3; i < out.stops.size(); ++i)
        out.stops[i] = {Mark::not_begun, none};
    out.reaches = -1;
    out.value = none;
    out.word = Session::tr("planned");

    const auto known = live.readings.find(r.id);
    const std::optional<TimeUs> last = known == live.readings.end() ? std::nullopt : known->second.time;
    out.freshness = freshness(last, session.now(), r.quantity);
    if (last) out.age = text(age_text(session.now() - *last));
    const Scene scene = look_at(session, r, live, findings, out.freshness);
    (void)(by_hand(scene, out) || not_in_the_lines(scene, out) || silent(scene, out) || arrived(scene, out));
    proof_and_watch(scene, out);

    bool wrong = out.freshness == Freshness::silent || scene.pulled;
    for (const Finding& f : findings) {
        raise(out.stops[static_cast<std::size_t>(f.stop)].mark, f.severity);
        wrong = wrong || (f.severity == Severity::error && out.mark != Mark::not_begun);
    }
    if (wrong) out.mark = Mark::bad;

    static const char* words[] = {QT_TRANSLATE_NOOP("Fresh", "nothing yet"), QT_TRANSLATE_NOOP("Fresh", "fresh"),
                                  QT_TRANSLATE_NOOP("Fresh", "late"), QT_TRANSLATE_NOOP("Fresh", "silent")};
    const QString freshness_word = QCoreApplication::translate("Fresh", words[static_cast<int>(out.freshness)]);
    out.about = scene.use ? Session::tr("%1 · every %2 · %3")
                                .arg(text(scene.use->name), text(format_measure(r.quantity.interval_s, "s")),
                                     freshness_word)
                          : Session::tr("planned · no board reports it yet");
    find_next_step(out);
    return out;
}

} // namespace cognitum
