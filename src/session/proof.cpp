#include "session/proof.h"

#include "core/base/phrase.h"
#include "core/calibrate/certificate.h"
#include "session/session.h"
#include "store/samples/samples.h"

namespace cognitum {

Result<CalibrationRecord> Proof::finish(const std::string& id, const CalibrationDraft& draft,
                                        std::optional<Model> model) {
    const Reading* reading = m_session.bench().reading(id);
    if (!reading || !m_session.file()) return failure(phrase("the reading is not there any more."));
    COGNITUM_TRY(record, finish_calibration(*reading, draft, model, m_session.now()));
    return keep(
        std::move(record), model ? for_people("calibrated") : for_people("compared"),
        [model] { return model ? model_words(*model) : std::string(phrase("nothing changed")); }, nullptr);
}

Result<CalibrationRecord> Proof::finishIntoPath(const std::string& id, const CalibrationDraft& draft,
                                                const PathOffer& offer) {
    const Reading* reading = m_session.bench().reading(id);
    if (!reading || !m_session.file()) return failure(phrase("the reading is not there any more."));
    COGNITUM_TRY(record, finish_into_path(*reading, draft, offer, m_session.now()));
    return keep(
        std::move(record), for_people("calibrated"), [how = record.into] { return how; }, &offer.path);
}

/// The record stands in the file for ever; what follows from it is an edit of the plan, which undo takes back.
Result<CalibrationRecord> Proof::keep(CalibrationRecord record, const char* what,
                                      const std::function<std::string()>& how, const Chain* path) {
    if (m_session.refuseToChange()) return failure(m_session.lookOnly().toStdString());
    {
        const InEnglish in_the_record;
        record.references = references_in_words(record.points, m_session.bench().references, record.unit);
    }

    COGNITUM_TRY(record_id, m_session.file()->append_calibration(record));
    record.id = record.correction.record = record_id;
    m_session.note(record.reading, log_kind::calibration, [&] {
        return phrase("{}: {} at {} points, {}; as found {}, as left {}.",
                      m_session.bench().reading(record.reading)->name, phrase(what), points_taken(record), how(),
                      record.verdict_found.empty() ? phrase("not compared") : record.verdict_found,
                      record.verdict_left);
    });

    m_session.editReading(record.reading,
                          path                     ? Session::tr("Constants from a calibration")
                          : record.model == "none" ? Session::tr("Keep the comparison")
                                                   : Session::tr("Apply calibration"),
                          [&](Reading& r) {
                              r.correction = record.correction;
                              if (path) r.path = *path;
                          });
    saveDraft(record.reading, {});
    return record;
}

CalibrationDraft Proof::draft(const std::string& reading) {
    if (!m_session.file()) return {};
    auto kept = m_session.file()->draft(reading);
    if (!kept) emit m_session.trouble(QString::fromStdString(kept.error().text()));
    return kept && *kept ? std::move(**kept) : CalibrationDraft{};
}

void Proof::saveDraft(const std::string& reading, const CalibrationDraft& draft) {
    if (!m_session.file() || !m_session.lookOnly().isEmpty()) return;
    if (const auto saved = m_session.file()->save_draft(reading, draft == CalibrationDraft{} ? nullptr : &draft);
        !saved)
        emit m_session.trouble(QString::fromStdString(saved.error().text()));
}

std::vector<CalibrationRecord> Proof::calibrations(const std::string& reading) {
    if (!m_session.file()) return {};
    auto list = m_session.file()->calibrations(reading);
    if (!list) emit m_session.trouble(QString::fromStdString(list.error().text()));
    return list ? std::move(*list) : std::vector<CalibrationRecord>{};
}

QFuture<Result<Reevaluated>> Proof::reevaluate(const std::string& id, const std::optional<Interval>& stretch) {
    struct Done {
        Reevaluated result;
        Bench plan;
    };
    return answered_as<Result<Reevaluated>>(
        m_session.writeBeside<Done>(
            [id, stretch, now = m_session.now()](BenchFile& file, const std::atomic<bool>& stop) -> Result<Done> {
                COGNITUM_TRY(result, cognitum::reevaluate(file, id, stretch, now, [&] { return !stop; }));
                COGNITUM_TRY(plan, file.load_plan());
                return Done{std::move(result), std::move(plan)};
            }),
        &m_session, [this, mark = m_session.writingMark()](const Result<Done>& done) -> Result<Reevaluated> {
            const bool here = m_session.endWriting(mark);
            if (!done) return tl::make_unexpected(done.error());
            if (!here) return done->result;
            m_session.adoptReadings(Session::tr("Old readings seen anew"), done->plan);
            emit m_session.logChanged();
            return done->result;
        });
}

} // namespace cognitum
