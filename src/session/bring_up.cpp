#include "session/bring_up.h"

#include "core/base/phrase.h"
#include "core/bringup/stages.h"
#include "store/file/bench_file.h"

#include <algorithm>

namespace cognitum {

namespace {

const LiveBoard* board_of(const Reading& reading, const Live& live) {
    const auto at = live.boards.find(reading.feed());
    return at == live.boards.end() ? nullptr : &at->second;
}

} // namespace

void sign_stage(Session& session, const std::string& id, const QString& stage, bool passed, const QString& by,
                const QString& evidence) {
    const BringUpStage* known = find_stage(stage.toStdString());
    const Reading* reading = session.bench().reading(id);
    if (!known || !reading) return;
    const SignOff sign{known->id, session.now(), by.toStdString(), passed, evidence.toStdString()};
    session.editReading(id, Session::tr("Sign %1").arg(QString::fromStdString(known->title)),
                        [&](Reading& r) { r.bring_up.signs.push_back(sign); });
    session.note(id, log_kind::bring_up, [&] {
        return fmt::format("{}, {}: {}{}{}", reading->name, known->title,
                           passed ? phrase("passed") : phrase("did not pass"),
                           by.isEmpty() ? "" : phrase("; signed by {}", by.toStdString()),
                           evidence.isEmpty() ? "" : ". " + evidence.toStdString());
    });
}

void note_disturbed(Session& session, const std::string& id, const std::string& how) {
    const Reading* reading = session.bench().reading(id);
    if (!reading) return;
    session.editReading(id, Session::tr("It was %1").arg(QString::fromStdString(phrase_of(how))), [&](Reading& r) {
        r.bring_up.disturbed = session.now();
        r.bring_up.disturbed_how = how;
    });
    session.note(id, log_kind::bring_up, [&] {
        return phrase("{} was {}: its last stages are to be repeated, and its calibration checked.", reading->name,
                      how);
    });
}

LineCount line_count(const Reading& reading, const Live& live) {
    const LiveBoard* board = board_of(reading, live);
    return board ? LineCount{board->lines, board->lost} : LineCount{};
}

SymptomFacts seen_facts(const Session& session, const Reading& reading, const Live& live) {
    SeenByBench seen;
    if (const LiveBoard* board = board_of(reading, live)) {
        seen.open = board->state == LinkState::open;
        seen.refused = board->state == LinkState::lost && board->lines == 0;
        const std::string field = reading.field();
        seen.brings_reading = std::any_of(board->fields.begin(), board->fields.end(),
                                          [&](const Field& f) { return f.name == field; });
        seen.stream = board->facts;
    }
    const std::vector<RawSample> samples = session.views().rawSamples(reading, live);
    seen.samples = samples;
    seen.verdicts = session.views().health(reading, live);
    return symptom_facts(place(session.bench(), session.catalog(), reading), session.views().rawAbout(reading),
                         seen);
}

} // namespace cognitum
