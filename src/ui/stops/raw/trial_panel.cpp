#include "ui/stops/raw/trial_panel.h"

#include "core/base/no_number.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "session/bring_up.h"
#include "ui/plots/plot.h"
#include "ui/widgets/live_label.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <cmath>

namespace cognitum {

namespace {
constexpr double shown_before_s = 20;

} // namespace

TrialPanel::TrialPanel(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme.px(6));
    auto* head = new QHBoxLayout;
    head->setSpacing(theme.px(8));
    m_mark = new MarkLabel(theme);
    head->addWidget(m_mark);
    m_choice = new QComboBox;
    m_choice->setObjectName(QStringLiteral("trialChoice"));
    m_choice->setAccessibleName(tr("Test"));
    head->addWidget(m_choice, 1);
    m_left = new LiveLabel(theme, LiveLabel::Role::mono_soft);
    m_left->setSample(tr("%1 s left").arg(1000));
    m_left->setAlignment(Qt::AlignRight);
    m_left->setObjectName(QStringLiteral("trialLeft"));
    head->addWidget(m_left);
    m_start = make_button(tr("Start the test"), QStringLiteral("trialStart"), true);
    head->addWidget(m_start);
    box->addLayout(head);
    buildAct(box);
    m_must = new TextLabel(theme, TextLabel::Role::soft);
    m_must->setObjectName(QStringLiteral("trialMust"));
    box->addWidget(m_must);
    m_seen = new TextLabel(theme, TextLabel::Role::body);
    m_seen->setObjectName(QStringLiteral("trialSeen"));
    box->addWidget(m_seen);
    m_plot = new Plot(theme);
    m_plot->setObjectName(QStringLiteral("trialPlot"));
    m_plot->setAccessibleName(tr("Raw signal during the test, with its level before and its pass mark"));
    m_plot->setMinimumHeight(theme.px(110));
    m_graph = m_plot->addGraph();
    m_level = m_plot->addGraph();
    m_low = m_plot->addGraph();
    m_high = m_plot->addGraph();
    m_begun = new QCPItemStraightLine(m_plot);
    box->addWidget(m_plot, 1);
    connect(m_choice, &QComboBox::activated, this, [this](int index) { emit chosen(index); });
    connect(m_start, &QPushButton::clicked, this, [this] { isRunning() ? stop() : start(); });
    connect(m_plot, &Plot::restyled, this, &TrialPanel::restyle);
    restyle();
    setStimulus(nullptr);
}

void TrialPanel::buildAct(QVBoxLayout* box) {
    Theme& theme = m_context.theme();
    m_act = new TextLabel(theme, TextLabel::Role::body);
    m_act->setObjectName(QStringLiteral("trialAct"));
    box->addWidget(m_act);
    m_caution_row = new QWidget;
    auto* caution = new QHBoxLayout(m_caution_row);
    caution->setContentsMargins(0, 0, 0, 0);
    caution->setSpacing(theme.px(6));
    m_caution_mark = new MarkLabel(theme, Mark::look);
    caution->addWidget(m_caution_mark, 0, Qt::AlignTop);
    m_caution = new TextLabel(theme, TextLabel::Role::body);
    m_caution->setObjectName(QStringLiteral("trialCaution"));
    caution->addWidget(m_caution, 1);
    box->addWidget(m_caution_row);
    m_asked = new QWidget;
    auto* asked = new QHBoxLayout(m_asked);
    asked->setContentsMargins(0, 0, 0, 0);
    asked->setSpacing(theme.px(6));
    m_asks = new TextLabel(theme, TextLabel::Role::soft);
    asked->addWidget(m_asks, 1);
    m_read_off = new QLineEdit;
    m_read_off->setObjectName(QStringLiteral("trialReadOff"));
    m_read_off->setMaximumWidth(theme.px(90));
    m_read_off->setPlaceholderText(tr("value"));
    m_read_doubt = new QLineEdit;
    m_read_doubt->setObjectName(QStringLiteral("trialReadDoubt"));
    m_read_doubt->setAccessibleName(tr("Its doubt, plus and minus"));
    m_read_doubt->setMaximumWidth(theme.px(110));
    m_read_doubt->setPlaceholderText(tr("doubt"));
    m_unit = new TextLabel(theme, TextLabel::Role::mono_soft);
    asked->addWidget(m_read_off);
    asked->addWidget(new TextLabel(theme, TextLabel::Role::mono, QStringLiteral("±")));
    asked->addWidget(m_read_doubt);
    asked->addWidget(m_unit);
    box->addWidget(m_asked);
    m_hand_row = new QWidget;
    auto* hand = new QHBoxLayout(m_hand_row);
    hand->setContentsMargins(0, 0, 0, 0);
    hand->setSpacing(theme.px(12));
    auto* about = new TextLabel(theme, TextLabel::Role::soft, tr("This board is simulated: the hand is, too."));
    about->setWordWrap(false);
    auto* act = make_link(tr("Do it"), QStringLiteral("trialHand"));
    auto* leave = make_link(tr("Let go"), QStringLiteral("trialHandOff"));
    hand->addWidget(about);
    hand->addWidget(act);
    hand->addWidget(leave);
    hand->addStretch(1);
    box->addWidget(m_hand_row);
    connect(m_read_off, &QLineEdit::returnPressed, this, &TrialPanel::start);
    connect(act, &QPushButton::clicked, this, [this] {
        if (m_stimulus)
            tellBoard(QStringLiteral("%1 %2").arg(from_std(m_stimulus->id), from_std(m_context.readingId())));
    });
    connect(leave, &QPushButton::clicked, this, [this] { tellBoard(QStringLiteral("off")); });
}

void TrialPanel::restyle() {
    Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    m_graph->setPen(theme.pen(t.ink, 1.6));
    QPen soft = theme.pen(t.soft, 1);
    soft.setStyle(Qt::DotLine);
    m_level->setPen(soft);
    m_begun->setPen(soft);
    QPen mark = theme.pen(t.accent, 1.6);
    mark.setStyle(Qt::DashLine);
    m_low->setPen(mark);
    m_high->setPen(mark);
}

void TrialPanel::tellBoard(const QString& hand) {
    if (const Reading* r = m_context.reading())
        m_context.session().worker().sendCommand(r->feed(), QStringLiteral("hand ") + hand);
}

void TrialPanel::setChoices(const QStringList& titles, int chosen) {
    m_choice->clear();
    m_choice->addItems(titles);
    m_choice->setCurrentIndex(chosen);
}

void TrialPanel::setStimulus(const Stimulus* stimulus) {
    stop();
    m_stimulus = stimulus;
    m_view = {};
    m_read_off->clear();
    m_read_doubt->clear();
    setVisible(stimulus);
    if (!stimulus) return;
    set_text(m_caution, from_std(stimulus->caution));
    m_caution_row->setVisible(!stimulus->caution.empty());
    const bool asks = stimulus->movement == Movement::agrees;
    m_asked->setVisible(asks);
    set_text(m_asks, from_std(stimulus->asks));
    m_read_off->setAccessibleName(from_std(stimulus->asks));
    refresh();
}

void TrialPanel::start() {
    const Reading* r = m_context.reading();
    if (!r || !m_stimulus) return;
    Trial trial{m_stimulus, m_context.session().now(), line_count(*r, m_context.live()), {}, {}};
    if (m_stimulus->movement == Movement::agrees) {
        const auto value = typed_number(m_read_off->text()), doubt = typed_number(m_read_doubt->text());
        if (!value || !doubt || *doubt < 0) {
            set_text(m_seen, tr("Type what you read off and its doubt: half a division of the scale, or more."));
            return;
        }
        trial.read_off = *value;
        trial.read_off_doubt = *doubt;
    } else {
        trial.read_off = no_number;
    }
    m_trial = trial;
    m_samples = m_context.session().views().rawSamples(*r, m_context.live());
    m_reading = r->id;
    m_view = {};
    refresh();
}

void TrialPanel::stop() {
    const bool ran = isRunning();
    m_trial.started = 0;
    if (ran) {
        m_view = {};
        showTexts();
    }
}

QString TrialPanel::evidence() const {
    return m_stimulus && m_view.over() ? tr("%1: %2").arg(from_std(m_stimulus->title), from_std(m_view.seen))
                                       : QString();
}

void TrialPanel::refresh() {
    const Reading* r = m_context.reading();
    if (!r || !m_stimulus) return;
    if (m_reading != r->id) stop();
    const BoardUse* use = m_context.session().bench().board(r->feed());
    m_hand_row->setVisible(use && use->link.is_simulated() && isRunning());
    const Session& session = m_context.session();
    const SignalAbout about = session.views().rawAbout(*r);
    const Chain read = read_off_path(*m_stimulus, r->path);
    set_text(m_unit, from_std(unit_symbol(!read.stages.empty() ? read.last_unit()
                                          : about.unit.empty() ? r->quantity.unit
                                                               : about.unit)));
    const std::vector<RawSample> samples = session.views().rawSamples(*r, m_context.live());
    if (isRunning()) {
        // The session keeps the last values only; a test needs those from before its start as well.
        const TimeUs last = m_samples.empty() ? 0 : m_samples.back().time;
        for (const RawSample& s : samples)
            if (s.time > last) m_samples.push_back(s);
        m_view = judge_trial(m_trial, trial_about(place(session.bench(), session.catalog(), *r)), m_samples,
                             line_count(*r, m_context.live()), session.now());
        draw(m_samples);
        if (m_view.over()) { // what was decided stays decided
            if (use && use->link.is_simulated()) tellBoard(QStringLiteral("off"));
            emit over(m_view.phase == TrialPhase::passed);
        }
    } else if (!m_view.over()) {
        draw(samples);
    }
    showTexts();
}

void TrialPanel::showTexts() {
    if (!m_stimulus) return;
    const bool running = isRunning();
    m_start->setText(running ? tr("Stop") : m_view.over() ? tr("Once more") : tr("Start the test"));
    m_mark->setMark(m_view.phase == TrialPhase::passed   ? Mark::done
                    : m_view.phase == TrialPhase::failed ? Mark::bad
                                                         : Mark::not_begun);
    m_left->setText(running ? tr("%1 s left").arg(std::lround(std::ceil(m_view.seconds_left))) : QString());
    set_text(m_act, running || m_view.over() ? from_std(m_view.now) : from_std(m_stimulus->act));
    set_text(m_must, from_std(m_view.must));
    m_must->setVisible(!m_view.must.empty());
    if (running || m_view.over())
        set_text(m_seen, m_view.over()
                             ? (m_view.phase == TrialPhase::passed ? tr("Passed: %1.") : tr("Not passed: %1."))
                                   .arg(from_std(m_view.seen))
                             : tr("Seen: %1.").arg(from_std(m_view.seen)));
    else if (m_stimulus->movement != Movement::agrees)
        set_text(m_seen, QString());
    const Tokens& t = m_context.theme().colours();
    m_seen->setColour(m_view.phase == TrialPhase::passed   ? t.good
                      : m_view.phase == TrialPhase::failed ? t.bad
                                                           : QColor());
}

void TrialPanel::draw(const std::vector<RawSample>& samples) {
    const TimeUs now = m_context.session().now();
    const TimeUs begun = m_trial.started != 0 ? m_trial.started : now;
    const double from = -std::max(shown_before_s, 10 * m_context.reading()->quantity.interval_s);
    const double to = m_trial.started != 0 ? std::max(seconds(now - begun) + m_view.seconds_left, 1.0) : 1.0;
    QVector<double> x, y;
    double low = m_view.level, high = m_view.level;
    for (const double edge : {m_view.mark_low, m_view.mark_high}) {
        low = std::fmin(low, edge);
        high = std::fmax(high, edge);
    }
    for (const RawSample& s : samples) {
        const double at = seconds(s.time - begun);
        if (at < from) continue;
        x.append(at);
        y.append(s.code);
        low = std::fmin(low, s.code);
        high = std::fmax(high, s.code);
    }
    m_graph->setData(x, y, true);
    const auto line = [&](QCPGraph* graph, double level, double start) {
        graph->setVisible(std::isfinite(level));
        if (std::isfinite(level)) graph->setData({start, to}, {level, level});
    };
    line(m_level, m_view.level, from);
    line(m_low, m_view.mark_low, 0);
    line(m_high, m_view.mark_high, 0);
    m_begun->setVisible(m_trial.started != 0);
    m_begun->point1->setCoords(0, 0);
    m_begun->point2->setCoords(0, 1);
    m_plot->xAxis->setRange(from, to);
    if (std::isfinite(low) && std::isfinite(high)) {
        const SignalAbout about = m_context.session().views().rawAbout(*m_context.reading());
        m_plot->yAxis->setRange(comfortable_range(low, high, about.unit.empty() ? 4 : 4 * about.resolution));
        m_plot->setYUnit(about.unit.empty() ? tr("counts") : from_std(unit_symbol(about.unit)));
    }
    m_plot->drawLater();
}

} // namespace cognitum
