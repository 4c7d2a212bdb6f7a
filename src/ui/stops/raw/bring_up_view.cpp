#include "ui/stops/raw/bring_up_view.h"

#include "core/base/phrase.h"
#include "session/bring_up.h"
#include "ui/stops/raw/adjuster_panel.h"
#include "ui/stops/raw/stage_ladder.h"
#include "ui/stops/raw/trial_panel.h"
#include "ui/widgets/parts.h"

namespace cognitum {

namespace {}

BringUpView::BringUpView(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("bringUpView"));
    m_columns = new QHBoxLayout(this);
    m_columns->setContentsMargins(0, 0, 0, 0);
    m_columns->setSpacing(context.theme().px(24));
    m_columns->addWidget(buildLadder());
    m_columns->addWidget(buildStage(), 1);
    connect(m_ladder, &StageLadder::chosenChanged, this, &BringUpView::chooseStage);
    connect(m_trial, &TrialPanel::chosen, this, &BringUpView::chooseTest);
    connect(m_adjusters, &AdjusterPanel::chosen, this, [this](int index) {
        m_trial->setChoices(m_adjusters->choices(), index);
        chooseTest(index);
    });
    connect(m_trial, &TrialPanel::over, this, [this] {
        m_note->setText(m_trial->evidence());
        refreshSign();
    });
}

QWidget* BringUpView::buildLadder() {
    Theme& theme = m_context.theme();
    auto* left = new QWidget;
    left->setMaximumWidth(theme.px(250));
    auto* box = new QVBoxLayout(left);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme.px(8));
    m_ladder = new StageLadder(theme);
    box->addWidget(m_ladder);
    box->addWidget(new RuleLine(theme));
    box->addWidget(new TextLabel(theme, TextLabel::Role::soft,
                                 tr("Sealing, glueing and any knock move a calibration. Note it, and the last "
                                    "stages ask for their turn again.")));
    auto* row = new QHBoxLayout;
    m_how = new QComboBox;
    m_how->setObjectName(QStringLiteral("disturbedHow"));
    m_how->setAccessibleName(tr("What was done to it"));
    for (const char* how : {for_people("sealed"), for_people("moved"), for_people("opened"), for_people("glued"),
                            for_people("given a new cable")})
        m_how->addItem(from_std(phrase(how)), QString::fromUtf8(how));
    auto* note = make_button(tr("Note it"), QStringLiteral("noteDisturbed"));
    row->addWidget(m_how, 1);
    row->addWidget(note);
    box->addLayout(row);
    box->addStretch(1);
    connect(note, &QPushButton::clicked, this, [this] {
        note_disturbed(m_context.session(), m_context.readingId(), m_how->currentData().toString().toStdString());
        refresh();
    });
    return left;
}

QWidget* BringUpView::buildStage() {
    Theme& theme = m_context.theme();
    auto* right = new QWidget;
    auto* box = new QVBoxLayout(right);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme.px(8));
    m_title = new TextLabel(theme, TextLabel::Role::name);
    m_title->setObjectName(QStringLiteral("stageTitle"));
    box->addWidget(m_title);
    m_about = new TextLabel(theme, TextLabel::Role::body);
    box->addWidget(m_about);
    m_checks = new TextLabel(theme, TextLabel::Role::soft);
    m_checks->setObjectName(QStringLiteral("stageChecks"));
    box->addWidget(m_checks);
    box->addWidget(new RuleLine(theme));
    m_trial = new TrialPanel(m_context);
    box->addWidget(m_trial, 1);
    m_adjusters = new AdjusterPanel(m_context);
    m_adjusters->hide();
    box->addWidget(m_adjusters, 1);
    box->addWidget(new RuleLine(theme));
    m_signed = new TextLabel(theme, TextLabel::Role::soft);
    m_signed->setObjectName(QStringLiteral("stageSigned"));
    box->addWidget(m_signed);
    auto* row = new QHBoxLayout;
    row->setSpacing(theme.px(8));
    m_by = new QLineEdit;
    m_by->setObjectName(QStringLiteral("signBy"));
    m_by->setAccessibleName(tr("Signed by"));
    m_by->setPlaceholderText(tr("your name"));
    m_by->setMaximumWidth(
        std::max(theme.px(96), m_by->fontMetrics().horizontalAdvance(m_by->placeholderText()) + theme.px(30)));
    m_by->setText(m_context.settings().signer);
    m_note = new QLineEdit;
    m_note->setObjectName(QStringLiteral("signNote"));
    m_note->setAccessibleName(tr("What was seen"));
    m_note->setPlaceholderText(tr("what was seen"));
    m_pass = make_button(tr("Sign: passed"), QStringLiteral("signPassed"), true);
    m_fail = make_button(tr("Did not pass"), QStringLiteral("signFailed"));
    row->addWidget(m_by);
    row->addWidget(m_note, 1);
    box->addLayout(row);
    auto* ends = new QHBoxLayout;
    ends->setSpacing(theme.px(8));
    ends->addWidget(m_pass);
    ends->addWidget(m_fail);
    ends->addStretch(1);
    box->addLayout(ends);
    connect(m_pass, &QPushButton::clicked, this, [this] { sign(true); });
    connect(m_fail, &QPushButton::clicked, this, [this] { sign(false); });
    for (QLineEdit* edit : {m_by, m_note})
        connect(edit, &QLineEdit::textChanged, this, &BringUpView::refreshSign);
    return right;
}

const BringUpStage* BringUpView::stage() const {
    return &bring_up_stages()[static_cast<std::size_t>(m_ladder->chosen())];
}

void BringUpView::forget() {
    m_reading.clear();
    m_trial->setStimulus(nullptr);
    m_adjusters->forget();
}

void BringUpView::showStage(std::size_t stage) {
    refresh();
    m_ladder->choose(static_cast<int>(stage));
    chooseStage();
}

void BringUpView::runTest(const Stimulus* stimulus) {
    refresh();
    m_apart = true;
    offer({stimulus});
    refresh();
    m_trial->start();
}

void BringUpView::offer(std::vector<const Stimulus*> tests) {
    m_tests = std::move(tests);
    QStringList titles;
    for (const Stimulus* s : m_tests)
        titles << (s ? from_std(s->title) : tr("Which trimmer is which?"));
    m_trial->setChoices(titles, 0);
    m_adjusters->setChoices(titles);
    chooseTest(0);
}

void BringUpView::chooseTest(int index) {
    const bool any = index >= 0 && index < static_cast<int>(m_tests.size());
    const Stimulus* stimulus = any ? m_tests[static_cast<std::size_t>(index)] : nullptr;
    const bool adjusts = any && !stimulus;
    m_trial->setStimulus(stimulus);
    m_adjusters->setVisible(adjusts);
    m_note->clear();
    refreshSign();
}

/// What the chosen stage asks for: its checks, and the tests that suit this reading.
void BringUpView::chooseStage() {
    const Reading* r = m_context.reading();
    if (!r) return;
    m_apart = false;
    const Session& session = m_context.session();
    auto tests = stimuli_for_stage(session.guide().stimuli,
                                   stimulus_for(place(session.bench(), session.catalog(), *r)), stage()->id);
    const PartCard* part = session.part(*r);
    if (part && !part->adjusters.empty() && stage()->id == "sensor-alone") tests.push_back(nullptr);
    offer(std::move(tests));
    QStringList checks;
    for (const Phrase& check : stage()->checks)
        checks << QStringLiteral("· ") + from_std(check);
    set_text(m_checks, checks.join(QLatin1Char('\n')));
    refresh();
}

void BringUpView::refresh() {
    const Reading* r = m_context.reading();
    if (!r) return;
    const Session& session = m_context.session();
    const auto reports = stage_reports(r->bring_up);
    std::vector<StageLadder::Row> rows;
    for (const StageReport& report : reports) {
        QString about;
        const QString age = report.last ? from_std(age_text(session.now() - report.last->time)) : QString();
        const QString by = report.last && !report.last->by.empty() ? from_std(report.last->by) : tr("no name");
        switch (report.state) {
        case StageState::open: about = tr("not signed yet"); break;
        case StageState::passed: about = tr("%1, %2 ago").arg(by, age); break;
        case StageState::failed: about = tr("did not pass, %1 ago").arg(age); break;
        case StageState::again:
            about = tr("again: it was %1, %2 ago")
                        .arg(from_std(r->bring_up.disturbed_how.empty() ? phrase("moved")
                                                                        : phrase_of(r->bring_up.disturbed_how)),
                             from_std(age_text(session.now() - r->bring_up.disturbed)));
            break;
        }
        rows.push_back({from_std(report.stage->title), about, report.state});
    }
    m_ladder->setRows(std::move(rows));
    if (m_reading != r->id) {
        m_reading = r->id;
        m_ladder->choose(static_cast<int>(std::min(next_stage(reports), reports.size() - 1)));
        chooseStage();
        return;
    }
    m_checks->setVisible(!m_apart);
    set_text(m_title, m_apart ? tr("Tell the causes apart") : from_std(stage()->title));
    set_text(m_about, m_apart ? tr("A test outside of the stages; it can be signed for the stage that is chosen.")
                              : from_std(stage()->about));
    m_trial->refresh();
    if (m_adjusters->isVisible()) m_adjusters->refresh();
    refreshSign();
}

void BringUpView::refreshSign() {
    const Reading* r = m_context.reading();
    if (!r) return;
    const auto reports = stage_reports(r->bring_up);
    const StageReport& report = reports[static_cast<std::size_t>(m_ladder->chosen())];
    const bool ready = !m_by->text().trimmed().isEmpty() && !m_note->text().trimmed().isEmpty();
    m_pass->setEnabled(ready && !(m_trial->view().phase == TrialPhase::failed && !m_apart));
    m_fail->setEnabled(ready);
    QString text;
    if (report.last)
        text = tr("Signed by %1 on %2: %3. %4")
                   .arg(report.last->by.empty() ? tr("nobody") : from_std(report.last->by),
                        from_std(iso_time(report.last->time).substr(0, 10)),
                        report.last->passed ? tr("passed") : tr("did not pass"), from_std(report.last->note));
    else
        text = tr("Run the test, or type what you saw yourself; then sign with your name.");
    set_text(m_signed, text);
}

void BringUpView::sign(bool passed) {
    const QString by = m_by->text().trimmed();
    m_context.change([&](Settings& s) { s.signer = by; });
    const auto chosen = static_cast<std::size_t>(m_ladder->chosen());
    sign_stage(m_context.session(), m_context.readingId(), from_std(stage()->id), passed, by,
               m_note->text().trimmed());
    m_note->clear();
    const Reading* r = m_context.reading();
    // On to the next stage, where there is one; a failed one stays in sight.
    if (passed && r) {
        const std::size_t next = next_stage(stage_reports(r->bring_up));
        if (next < bring_up_stages().size() && next != chosen) {
            showStage(next);
            return;
        }
    }
    refresh();
}

} // namespace cognitum
