// The bring-up of a reading on the running bench: what the live values say to its tests and questions, and its
// signatures in plan and logbook.
#pragma once

#include "core/bringup/facts.h"
#include "core/bringup/trial.h"
#include "session/session.h"

namespace cognitum {

/// Signs a stage: one step of undo in the plan, and a line in the logbook that stays.
void sign_stage(Session& session, const std::string& reading, const QString& stage, bool passed, const QString& by,
                const QString& evidence);
/// It was moved, opened, sealed: the last stages are to be done again.
void note_disturbed(Session& session, const std::string& reading, const std::string& how);

/// Lines of the reading's board so far.
LineCount line_count(const Reading& reading, const Live& live);
/// What the bench knows for the question tree.
SymptomFacts seen_facts(const Session& session, const Reading& reading, const Live& live);

} // namespace cognitum
