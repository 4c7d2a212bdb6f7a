#include "ui/stops/raw/adjuster_panel.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "session/bring_up.h"
#include "ui/widgets/parts.h"

#include <QGridLayout>

namespace cognitum {

AdjusterPanel::AdjusterPanel(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme.px(8));
    m_choice = new QComboBox;
    m_choice->setObjectName(QStringLiteral("adjustChoice"));
    m_choice->setAccessibleName(tr("Test"));
    box->addWidget(m_choice);
    connect(m_choice, &QComboBox::activated, this, [this](int index) { emit chosen(index); });
    m_intro = new TextLabel(theme, TextLabel::Role::body);
    box->addWidget(m_intro);
    auto* grid = new QGridLayout;
    grid->setHorizontalSpacing(theme.px(10));
    grid->setVerticalSpacing(theme.px(8));
    m_before_button = make_button(tr("Record as it is"), QStringLiteral("adjustBefore"), true);
    m_before_text = new TextLabel(theme, TextLabel::Role::mono_soft);
    m_before_text->setObjectName(QStringLiteral("adjustBeforeText"));
    grid->addWidget(new TextLabel(theme, TextLabel::Role::mono, QStringLiteral("1")), 0, 0);
    grid->addWidget(m_before_button, 0, 1);
    grid->addWidget(m_before_text, 0, 2);
    m_which = new QLineEdit(tr("the left one"));
    m_which->setObjectName(QStringLiteral("adjustWhich"));
    m_which->setAccessibleName(tr("Trimmer that is turned"));
    m_turn = new QComboBox;
    m_turn->setObjectName(QStringLiteral("adjustTurn"));
    m_turn->setAccessibleName(tr("Way of turning"));
    m_turn->addItem(tr("a quarter turn clockwise"), true);
    m_turn->addItem(tr("a quarter turn anticlockwise"), false);
    grid->addWidget(new TextLabel(theme, TextLabel::Role::mono, QStringLiteral("2")), 1, 0);
    grid->addWidget(m_which, 1, 1);
    grid->addWidget(m_turn, 1, 2);
    m_after_button = make_button(tr("Record again"), QStringLiteral("adjustAfter"));
    m_after_text = new TextLabel(theme, TextLabel::Role::mono_soft);
    m_after_text->setObjectName(QStringLiteral("adjustAfterText"));
    grid->addWidget(new TextLabel(theme, TextLabel::Role::mono, QStringLiteral("3")), 2, 0);
    grid->addWidget(m_after_button, 2, 1);
    grid->addWidget(m_after_text, 2, 2);
    grid->setColumnStretch(2, 1);
    box->addLayout(grid);
    m_verdict = new TextLabel(theme, TextLabel::Role::body);
    m_verdict->setObjectName(QStringLiteral("adjustVerdict"));
    box->addWidget(m_verdict);
    m_keep = make_link(tr("Write it into the logbook"), QStringLiteral("adjustKeep"));
    box->addWidget(m_keep, 0, Qt::AlignLeft);
    box->addStretch(1);
    connect(m_before_button, &QPushButton::clicked, this, [this] {
        m_after = {};
        record(m_before);
    });
    connect(m_after_button, &QPushButton::clicked, this, [this] { record(m_after); });
    connect(m_keep, &QPushButton::clicked, this, [this] {
        m_context.session().note(m_context.readingId(), log_kind::bring_up, [this] {
            return phrase("Trimmer: {}. {}", m_which->text().toStdString(), judged().text);
        });
        emit m_context.said(tr("The logbook knows which trimmer it is."));
    });
    forget();
}

void AdjusterPanel::forget() {
    m_before = m_after = {};
    m_found = {};
    m_verdict->clear();
    m_keep->hide();
    refresh();
}

void AdjusterPanel::setChoices(const QStringList& titles) {
    m_choice->clear();
    m_choice->addItems(titles);
    m_choice->setCurrentIndex(static_cast<int>(titles.size()) - 1);
}

QStringList AdjusterPanel::choices() const {
    QStringList out;
    for (int i = 0; i < m_choice->count(); ++i)
        out << m_choice->itemText(i);
    return out;
}

void AdjusterPanel::record(Recording& into) {
    if (into.from != 0 && !into.done()) {
        finish(into);
    } else {
        into = {};
        into.from = m_context.session().now();
        m_found = {};
        m_verdict->clear();
        m_keep->hide();
    }
    refresh();
}

void AdjusterPanel::finish(Recording& recording) {
    recording.to = m_context.session().now();
    if (m_before.done() && m_after.done()) judge();
}

QString AdjusterPanel::figures(const Recording& recording) const {
    const Reading* r = m_context.reading();
    if (recording.from == 0 || !r) return {};
    const SignalAbout about = m_context.session().views().rawAbout(*r);
    const AdjusterFigures f = adjuster_figures(recording.samples, about.kind);
    if (f.samples == 0) return tr("waiting for values …");
    const QString what =
        about.kind == SignalKind::contact
            ? tr("went on %1 times, for %2 each").arg(f.events).arg(from_std(format_measure(f.hold_s, "s", 2)))
            : tr("at rest %1, swing %2")
                  .arg(from_std(format_constant(f.rest, 4)), from_std(format_constant(f.swing, 3)));
    return recording.done() ? what : tr("recording: %1").arg(what);
}

AdjusterVerdict AdjusterPanel::judged() const {
    const Reading* r = m_context.reading();
    const PartCard* part = r ? m_context.session().part(*r) : nullptr;
    if (!part) return {};
    const SignalAbout about = m_context.session().views().rawAbout(*r);
    return judge_adjuster(adjuster_figures(m_before.samples, about.kind),
                          adjuster_figures(m_after.samples, about.kind), m_turn->currentData().toBool(), about,
                          {part->adjusters.begin(), part->adjusters.end()});
}

void AdjusterPanel::judge() {
    m_found = judged();

    set_text(m_verdict, from_std(m_found.text));
    m_keep->setVisible(!m_found.sets.empty());
}

void AdjusterPanel::refresh() {
    const Reading* r = m_context.reading();
    const PartCard* part = r ? m_context.session().part(*r) : nullptr;
    if (!part || part->adjusters.empty()) return;
    m_choice->setCurrentIndex(m_choice->count() - 1);
    QStringList could_be;
    for (const Phrase& name : part->adjusters)
        could_be << from_std(name);
    set_text(m_intro, tr("Its trimmers set %1, and nothing says which. Do the same to it twice, beginning at rest: "
                         "once as it is, and once with one of them turned.")
                          .arg(could_be.join(tr(" and "))));
    for (Recording* recording : {&m_before, &m_after})
        if (recording->from != 0 && !recording->done()) {
            const TimeUs last = recording->samples.empty() ? recording->from : recording->samples.back().time;
            for (const RawSample& s : m_context.session().views().rawSamples(*r, m_context.live()))
                if (s.time > last) recording->samples.push_back(s);
        }
    const bool before_runs = m_before.from != 0 && !m_before.done();
    const bool after_runs = m_after.from != 0 && !m_after.done();
    m_before_button->setText(before_runs ? tr("Enough") : tr("Record as it is"));
    m_after_button->setText(after_runs ? tr("Enough") : tr("Record again"));
    m_before_button->setEnabled(!after_runs);
    m_after_button->setEnabled(m_before.done());
    set_text(m_before_text, figures(m_before));
    set_text(m_after_text, figures(m_after));
}

} // namespace cognitum
