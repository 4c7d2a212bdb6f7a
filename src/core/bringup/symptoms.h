// From a symptom to its cause in the fewest questions: a tree as data (data/bringup/symptoms.json). What the bench
// sees for itself is answered by itself; every cause names the measurement that proves it.
#pragma once

#include "core/base/json_reader.h"
#include "core/base/phrase.h"

#include <map>
#include <optional>

namespace cognitum {

struct Answer {
    Phrase say;                 ///< "yes", "only after a reset"
    std::string to;             ///< id of a question or a cause
    std::string when;           ///< the value of the question's fact that means this answer
    double from = 0, below = 0; ///< of a ratio question: this answer's band
    [[nodiscard]] bool has_band() const { return below > from; }
};

struct Question {
    std::string id;
    Phrase ask;
    Phrase how;         ///< how to find out: what to measure, where, what is normal
    std::string fact;   ///< what the bench may know by itself; empty: nothing
    bool ratio = false; ///< asks for what is shown and what is true; the answer follows from shown / true
    std::vector<Answer> answers;
};

struct FaultCause {
    std::string id;
    Phrase title;
    Phrase proof;   ///< the measurement that proves it, with the value to see
    Phrase mend;    ///< what to do then
    Phrase caution; ///< where that can hurt; empty: it cannot
};

struct Symptom {
    std::string id;
    Phrase title;
    std::string start;                 ///< id of its first question
    std::vector<std::string> verdicts; ///< ids of health verdicts that mean it
};

struct SymptomTree {
    std::vector<Symptom> symptoms;
    std::map<std::string, Question> questions;
    std::map<std::string, FaultCause> causes;
};

/// Refuses trees in which an answer leads nowhere, a question leads back to itself, a question or cause is never
/// reached, or fewer than two answers stand.
Result<SymptomTree> read_symptoms(const JsonReader& json);

/// What the bench sees: name of the fact → its value.
using SymptomFacts = std::map<std::string, std::string>;

/// One step of a walk: a question and the answer taken.
struct SymptomStep {
    const Question* question = nullptr;
    const Answer* answer = nullptr;
    bool by_itself = false; ///< the bench answered
};

/// Where the answers so far lead.
struct SymptomWalk {
    std::vector<SymptomStep> steps;
    const Question* next = nullptr; ///< to be asked; null: `cause` is found
    const FaultCause* cause = nullptr;
    std::size_t causes_left = 0; ///< that can still be reached
};
/// `given` maps questions to the index of the answer that a person chose; facts answer the others.
SymptomWalk walk_symptom(const SymptomTree& tree, const Symptom& symptom, const SymptomFacts& facts,
                         const std::map<std::string, std::size_t>& given);

/// Causes that can be reached from a question or cause.
std::size_t causes_below(const SymptomTree& tree, const std::string& id);

/// Index of the answer whose band holds shown / is_true; empty when none does or `is_true` is zero.
std::optional<std::size_t> answer_of_ratio(const Question& question, double shown, double is_true);

} // namespace cognitum
