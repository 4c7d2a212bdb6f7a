#include "core/bringup/symptoms.h"

#include "core/analyse/health.h"
#include "core/base/json_fields.h"
#include "core/base/phrase.h"

#include <algorithm>
#include <fmt/format.h>
#include <set>

namespace cognitum {

namespace {

Result<Answer> read_answer(const JsonReader& json) {
    Answer a;
    JsonFields fields(json);
    fields.need("say", a.say).need("to", a.to).may("when", a.when).may("from", a.from).may("below", a.below);
    COGNITUM_CHECK(fields.done());
    return a;
}

Result<void> read_question(const JsonReader& json, SymptomTree& tree) {
    Question q;
    JsonFields fields(json);
    fields.need("id", q.id).need("ask", q.ask).need("how", q.how).may("fact", q.fact).may("ratio", q.ratio);
    fields.list("answers", [&](const JsonReader& item) -> Result<void> {
        COGNITUM_TRY(answer, read_answer(item));
        if (q.ratio != answer.has_band())
            return item.error(phrase("the answers of a ratio question, and only those, have a band from … below."));
        if (!answer.when.empty() && q.fact.empty())
            return item.error(phrase("this question asks for no fact."), "when");
        q.answers.push_back(std::move(answer));
        return {};
    });
    fields.check(q.answers.size() >= 2, "answers", phrase("a question has at least two answers."));
    fields.check(!tree.questions.contains(q.id), "id", phrase("there are two questions of this id."));
    COGNITUM_CHECK(fields.done());
    tree.questions.emplace(q.id, std::move(q));
    return {};
}

Result<void> read_cause(const JsonReader& json, SymptomTree& tree) {
    FaultCause c;
    JsonFields fields(json);
    fields.need("id", c.id).need("title", c.title).need("proof", c.proof).need("mend", c.mend);
    fields.may("caution", c.caution);
    fields.check(!tree.causes.contains(c.id) && !tree.questions.contains(c.id), "id",
                 phrase("this id is taken by another cause or question."));
    COGNITUM_CHECK(fields.done());
    tree.causes.emplace(c.id, std::move(c));
    return {};
}

Result<void> read_symptom(const JsonReader& json, SymptomTree& tree) {
    Symptom s;
    JsonFields fields(json);
    fields.need("id", s.id).need("title", s.title).need("start", s.start).may("verdicts", s.verdicts);
    for (const std::string& verdict : s.verdicts) {
        const auto& known = all_verdict_ids();
        fields.check(std::find(known.begin(), known.end(), verdict) != known.end(), "verdicts",
                     phrase("there is no verdict \"{}\".", verdict));
    }
    COGNITUM_CHECK(fields.done());
    tree.symptoms.push_back(std::move(s));
    return {};
}

/// Marks what is reached from `id`; the id of the first place that is wrong, or empty.
std::string follow(const SymptomTree& tree, const std::string& id, std::set<std::string>& above,
                   std::set<std::string>& reached) {
    if (tree.causes.contains(id)) {
        reached.insert(id);
        return {};
    }
    const auto at = tree.questions.find(id);
    if (at == tree.questions.end()) return phrase("\"{}\" is neither a question nor a cause.", id);
    if (!above.insert(id).second) return phrase("the question \"{}\" leads back to itself.", id);
    if (reached.insert(id).second)
        for (const Answer& answer : at->second.answers)
            if (std::string wrong = follow(tree, answer.to, above, reached); !wrong.empty()) return wrong;
    above.erase(id);
    return {};
}

void gather_causes(const SymptomTree& tree, const std::string& id, std::set<std::string>& seen,
                   std::set<std::string>& causes) {
    if (tree.causes.contains(id)) causes.insert(id);
    const auto at = tree.questions.find(id);
    if (at == tree.questions.end() || !seen.insert(id).second) return;
    for (const Answer& answer : at->second.answers)
        gather_causes(tree, answer.to, seen, causes);
}

} // namespace

Result<SymptomTree> read_symptoms(const JsonReader& json) {
    SymptomTree tree;
    JsonFields fields(json);
    fields.list("questions", [&](const JsonReader& item) { return read_question(item, tree); });
    fields.list("causes", [&](const JsonReader& item) { return read_cause(item, tree); });
    fields.list("symptoms", [&](const JsonReader& item) { return read_symptom(item, tree); });
    COGNITUM_CHECK(fields.done());
    std::set<std::string> reached;
    for (const Symptom& symptom : tree.symptoms) {
        std::set<std::string> above;
        if (std::string wrong = follow(tree, symptom.start, above, reached); !wrong.empty())
            return json.error(std::move(wrong), "questions");
    }
    for (const auto& [id, question] : tree.questions)
        if (!reached.contains(id)) return json.error(phrase("nothing leads to the question \"{}\".", id));
    for (const auto& [id, cause] : tree.causes)
        if (!reached.contains(id)) return json.error(phrase("nothing leads to the cause \"{}\".", id));
    return tree;
}

std::size_t causes_below(const SymptomTree& tree, const std::string& id) {
    std::set<std::string> seen, causes;
    gather_causes(tree, id, seen, causes);
    return causes.size();
}

std::optional<std::size_t> answer_of_ratio(const Question& question, double shown, double is_true) {
    if (is_true == 0) return {};
    const double ratio = shown / is_true;
    for (std::size_t i = 0; i < question.answers.size(); ++i)
        if (ratio >= question.answers[i].from && ratio < question.answers[i].below) return i;
    return {};
}

SymptomWalk walk_symptom(const SymptomTree& tree, const Symptom& symptom, const SymptomFacts& facts,
                         const std::map<std::string, std::size_t>& given) {
    SymptomWalk out;
    std::string at = symptom.start;
    for (;;) {
        const auto question = tree.questions.find(at);
        if (question == tree.questions.end()) break;
        const Question& q = question->second;
        const Answer* answer = nullptr;
        bool by_itself = false;
        // What a person says counts before what the bench believes.
        if (const auto said = given.find(q.id); said != given.end() && said->second < q.answers.size())
            answer = &q.answers[said->second];
        else if (const auto fact = facts.find(q.fact); !q.fact.empty() && fact != facts.end())
            for (const Answer& a : q.answers)
                if (!a.when.empty() && a.when == fact->second) {
                    answer = &a;
                    by_itself = true;
                }
        if (!answer) {
            out.next = &q;
            break;
        }
        out.steps.push_back({&q, answer, by_itself});
        at = answer->to;
    }
    if (const auto cause = tree.causes.find(at); cause != tree.causes.end()) out.cause = &cause->second;
    out.causes_left = causes_below(tree, at);
    return out;
}

} // namespace cognitum
