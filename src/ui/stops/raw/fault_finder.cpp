#include "ui/stops/raw/fault_finder.h"

#include "core/base/phrase.h"
#include "session/bring_up.h"
#include "ui/stops/raw/cause_map.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>

namespace cognitum {

FaultFinder::FaultFinder(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("faultFinder"));
    m_columns = new QHBoxLayout(this);
    m_columns->setContentsMargins(0, 0, 0, 0);
    m_columns->setSpacing(context.theme().px(24));
    m_columns->addWidget(buildSymptoms());
    m_columns->addWidget(buildWalk(), 1);
}

QWidget* FaultFinder::buildSymptoms() {
    Theme& theme = m_context.theme();
    auto* left = new QWidget;
    left->setMaximumWidth(theme.px(340));
    m_symptoms = new QVBoxLayout(left);
    m_symptoms->setContentsMargins(0, 0, 0, 0);
    m_symptoms->setSpacing(theme.px(4));
    m_symptoms->addWidget(new TextLabel(theme, TextLabel::Role::name, tr("What is wrong?")));
    m_seen = new TextLabel(theme, TextLabel::Role::soft);
    m_seen->setObjectName(QStringLiteral("symptomSeen"));
    m_symptoms->addWidget(m_seen);
    for (const Symptom& s : m_context.session().guide().symptoms.symptoms) {
        auto* button = make_button(from_std(s.title), QStringLiteral("symptom_") + from_std(s.id));
        button->setCheckable(true);
        button->setAutoExclusive(true);
        button->setProperty("row", true);
        button->setProperty("flush", true);
        button->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
        button->setToolTip(from_std(s.title));
        m_symptoms->addWidget(button);
        m_links[s.id] = button;
        connect(button, &QPushButton::clicked, this, [this, id = s.id] { choose(id); });
    }
    m_symptoms->addStretch(1);
    return left;
}

QWidget* FaultFinder::buildWalk() {
    Theme& theme = m_context.theme();
    auto* right = new QWidget;
    auto* box = new QVBoxLayout(right);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme.px(8));
    m_steps = new QVBoxLayout;
    m_steps->setSpacing(theme.px(4));
    box->addLayout(m_steps);
    m_question_box = new QWidget;
    auto* question = new QVBoxLayout(m_question_box);
    question->setContentsMargins(0, 0, 0, 0);
    question->setSpacing(theme.px(6));
    m_question = new TextLabel(theme, TextLabel::Role::title);
    m_question->setObjectName(QStringLiteral("finderQuestion"));
    m_question->setWordWrap(true);
    question->addWidget(m_question);
    m_how = new TextLabel(theme, TextLabel::Role::body);
    m_how->setObjectName(QStringLiteral("finderHow"));
    question->addWidget(m_how);
    m_ratio = new QWidget;
    auto* ratio = new QHBoxLayout(m_ratio);
    ratio->setContentsMargins(0, 0, 0, 0);
    m_shown = new QLineEdit;
    m_shown->setObjectName(QStringLiteral("finderShown"));
    m_shown->setPlaceholderText(tr("what is shown"));
    m_shown->setAccessibleName(tr("What is shown"));
    m_true = new QLineEdit;
    m_true->setObjectName(QStringLiteral("finderTrue"));
    m_true->setPlaceholderText(tr("what is true"));
    m_true->setAccessibleName(tr("What is true"));
    auto* compare = make_button(tr("Compare"), QStringLiteral("finderCompare"), true);
    for (QLineEdit* edit : {m_shown, m_true}) {
        edit->setMaximumWidth(theme.px(130));
        ratio->addWidget(edit);
        connect(edit, &QLineEdit::returnPressed, this, &FaultFinder::answerRatio);
    }
    ratio->addWidget(compare);
    ratio->addStretch(1);
    connect(compare, &QPushButton::clicked, this, &FaultFinder::answerRatio);
    question->addWidget(m_ratio);
    m_answers_box = new QWidget;
    m_answers = new QVBoxLayout(m_answers_box);
    m_answers->setContentsMargins(0, 0, 0, 0);
    m_answers->setSpacing(theme.px(4));
    question->addWidget(m_answers_box);
    box->addWidget(m_question_box);
    m_cause_box = new QWidget;
    auto* cause = new QVBoxLayout(m_cause_box);
    cause->setContentsMargins(0, 0, 0, 0);
    cause->setSpacing(theme.px(6));
    m_cause = new TextLabel(theme, TextLabel::Role::title);
    m_cause->setObjectName(QStringLiteral("finderCause"));
    m_cause->setWordWrap(true);
    cause->addWidget(m_cause);
    m_proof = new TextLabel(theme, TextLabel::Role::body);
    m_proof->setObjectName(QStringLiteral("finderProof"));
    cause->addWidget(m_proof);
    m_mend = new TextLabel(theme, TextLabel::Role::body);
    m_mend->setObjectName(QStringLiteral("finderMend"));
    cause->addWidget(m_mend);
    m_caution = new TextLabel(theme, TextLabel::Role::body);
    m_caution->setObjectName(QStringLiteral("finderCaution"));
    cause->addWidget(m_caution);
    m_keep = make_button(tr("It was this: write it down"), QStringLiteral("finderKeep"), true);
    cause->addWidget(m_keep, 0, Qt::AlignLeft);
    connect(m_keep, &QPushButton::clicked, this, [this] {
        const Reading* r = m_context.reading();
        if (!m_walk.cause || !symptom() || !r) return;
        m_context.session().note(r->id, for_people("fault"), [&] {
            return fmt::format("{}, “{}”: {}. {}", r->name, symptom()->title, m_walk.cause->title,
                               m_walk.cause->mend);
        });
        emit m_context.said(tr("The logbook keeps what it was."));
    });
    box->addWidget(m_cause_box);
    m_back = make_link(tr("One question back"), QStringLiteral("finderBack"));
    box->addWidget(m_back, 0, Qt::AlignLeft);
    connect(m_back, &QPushButton::clicked, this, [this] {
        if (m_order.empty()) return;
        m_given.erase(m_order.back());
        m_order.pop_back();
        refresh();
    });
    box->addWidget(new RuleLine(theme));
    m_left = new TextLabel(theme, TextLabel::Role::soft);
    m_left->setObjectName(QStringLiteral("finderLeft"));
    box->addWidget(m_left);
    m_map = new CauseMap(theme);
    box->addWidget(m_map);
    box->addStretch(1);
    return right;
}

const Symptom* FaultFinder::symptom() const {
    for (const Symptom& s : m_context.session().guide().symptoms.symptoms)
        if (s.id == m_symptom) return &s;
    return nullptr;
}

void FaultFinder::forget() {
    m_symptom.clear();
    m_given.clear();
    m_order.clear();
    m_key.clear();
}

void FaultFinder::choose(const std::string& id) {
    m_symptom = id;
    m_given.clear();
    m_order.clear();
    refresh();
}

void FaultFinder::answer(std::size_t index) {
    if (!m_walk.next) return;
    m_given[m_walk.next->id] = index;
    m_order.push_back(m_walk.next->id);
    refresh();
}

void FaultFinder::answerRatio() {
    if (!m_walk.next || !m_walk.next->ratio) return;
    const auto shown = typed_number(m_shown->text()), is_true = typed_number(m_true->text());
    if (!shown || !is_true || *is_true == 0) {
        set_text(m_how, tr("Two numbers in one unit are needed, and the true one must not be zero."));
        return;
    }
    if (const auto index = answer_of_ratio(*m_walk.next, *shown, *is_true)) return answer(*index);
    set_text(m_how, tr("%1 times what is true is no usual share. If it is within one in two hundred, it is right; "
                       "else take a second point: when the difference is the same there, choose “Off by the same "
                       "everywhere”.")
                        .arg(*shown / *is_true, 0, 'g', 3));
}

void FaultFinder::refresh() {
    const Reading* r = m_context.reading();
    if (!r) return;
    const Session& session = m_context.session();
    const SymptomTree& tree = session.guide().symptoms;
    const auto& verdicts = session.views().health(*r, m_context.live());
    const Symptom* pointed = symptom_of_verdicts(tree, verdicts);
    set_text(m_seen, pointed ? tr("The bench sees: %1.").arg(from_std(inside_sentence(verdicts.front().title)))
                             : tr("The bench sees nothing wrong by itself."));
    if (m_symptom.empty() && pointed) m_symptom = pointed->id;
    for (const auto& [id, button] : m_links) {
        button->setAutoExclusive(false);
        button->setChecked(id == m_symptom);
        button->setAutoExclusive(true);
    }
    const Symptom* s = symptom();
    m_map->setVisible(s);
    if (!s) {
        m_walk = {};
        m_question_box->setVisible(true);
        m_cause_box->hide();
        m_ratio->hide();
        m_answers_box->hide();
        m_back->hide();
        clear_layout(m_steps);
        m_key.clear();
        set_text(m_question, tr("Choose what you see"));
        set_text(m_how, tr("Each question halves what it can be. What the bench sees for itself is not asked."));
        set_text(m_left, QString());
        return;
    }
    show(walk_symptom(tree, *s, seen_facts(session, *r, m_context.live()), m_given));
}

void FaultFinder::show(const SymptomWalk& walk) {
    QString key = from_std(m_symptom) + from_std(m_context.readingId());
    for (const SymptomStep& step : walk.steps)
        key += QStringLiteral("|%1>%2%3")
                   .arg(from_std(step.question->id), from_std(step.answer->to))
                   .arg(step.by_itself);
    if (key == m_key) return;
    m_key = key;
    m_walk = walk;
    showSteps();
    m_question_box->setVisible(walk.next);
    m_cause_box->setVisible(walk.cause);
    m_back->setVisible(!m_order.empty());
    if (walk.next) showQuestion();
    if (walk.cause) showCause();
    set_text(m_left, walk.cause ? tr("This is what is left.")
                                : tr("%1 of %2 causes left")
                                      .arg(walk.causes_left)
                                      .arg(causes_below(m_context.session().guide().symptoms, symptom()->start)));
    m_map->setWalk(&m_context.session().guide().symptoms, symptom()->start, walk);
}

void FaultFinder::showSteps() {
    clear_layout(m_steps);
    Theme& theme = m_context.theme();
    for (const SymptomStep& step : m_walk.steps) {
        auto* row = new QHBoxLayout;
        row->setSpacing(theme.px(8));
        row->addWidget(new MarkLabel(theme, Mark::done), 0, Qt::AlignTop);
        row->addWidget(new TextLabel(theme, TextLabel::Role::soft, from_std(step.question->ask)), 1);
        auto* said = new TextLabel(theme, TextLabel::Role::name,
                                   step.by_itself ? tr("%1 (the bench sees it)").arg(from_std(step.answer->say))
                                                  : from_std(step.answer->say));
        said->setWordWrap(false);
        row->addWidget(said);
        m_steps->addLayout(row);
    }
}

void FaultFinder::showQuestion() {
    const Question& q = *m_walk.next;
    set_text(m_question, from_std(q.ask));
    set_text(m_how, from_std(q.how));
    m_ratio->setVisible(q.ratio);
    m_answers_box->setVisible(!q.ratio);
    clear_layout(m_answers);
    if (q.ratio) return;
    const SymptomTree& tree = m_context.session().guide().symptoms;
    for (std::size_t i = 0; i < q.answers.size(); ++i) {
        auto* row = new QHBoxLayout;
        row->setSpacing(m_context.theme().px(10));
        auto* button = make_button(from_std(q.answers[i].say), QStringLiteral("answer%1").arg(i));
        row->addWidget(button);
        const std::size_t left = causes_below(tree, q.answers[i].to);
        auto* then = new TextLabel(m_context.theme(), TextLabel::Role::soft,
                                   left == 1 ? tr("then it is clear") : tr("%1 causes left").arg(left));
        then->setWordWrap(false);
        row->addWidget(then);
        row->addStretch(1);
        m_answers->addLayout(row);
        connect(button, &QPushButton::clicked, this, [this, i] { answer(i); });
    }
}

void FaultFinder::showCause() {
    const FaultCause& c = *m_walk.cause;
    set_text(m_cause, from_std(c.title));
    set_text(m_proof, tr("Proof: %1").arg(from_std(c.proof)));
    set_text(m_mend, tr("Then: %1").arg(from_std(c.mend)));
    m_caution->setVisible(!c.caution.empty());
    set_text(m_caution, tr("▲ %1").arg(from_std(c.caution)));
    m_caution->setColour(m_context.theme().colours().look);
}

} // namespace cognitum
