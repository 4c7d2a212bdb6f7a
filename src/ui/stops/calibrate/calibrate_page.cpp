#include "ui/stops/calibrate/calibrate_page.h"

#include "core/base/phrase.h"
#include "core/decode/table_decoder.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "session/publish/phone_button.h"
#include "store/file/bench_file.h"
#include "ui/plots/plot.h"
#include "ui/stops/calibrate/calibration_history.h"
#include "ui/stops/calibrate/point_table.h"
#include "ui/stops/calibrate/recipe_strip.h"
#include "ui/stops/calibrate/reference_box.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QCheckBox>
#include <QKeyEvent>
#include <QPushButton>
#include <algorithm>

namespace cognitum {

namespace {

void show_turns(NumberField* field, double turns) {
    field->show(turns != 0 ? from_std(format_constant(turns, 4)) : QString());
}

} // namespace

CalibratePage::CalibratePage(Context& context, QWidget* parent)
    : Page(context, tr("Against what, and how far off"), parent) {
    m_empty = new TextLabel(theme(), TextLabel::Role::body);
    body()->addWidget(m_empty);
    m_content = new QWidget;
    auto* whole = new QVBoxLayout(m_content);
    whole->setContentsMargins(0, 0, 0, 0);
    whole->setSpacing(theme().px(10));
    m_strip = new RecipeStrip(context);
    whole->addWidget(m_strip);
    whole->addWidget(new RuleLine(theme()));
    auto* columns = new QHBoxLayout;
    stackWhenNarrow(columns);
    columns->setSpacing(theme().px(24));
    auto* left = new QVBoxLayout;
    left->setSpacing(theme().px(6));
    columns->addLayout(left, 4);
    buildCapture(left);
    auto* right = new QVBoxLayout;
    right->setSpacing(theme().px(8));
    columns->addLayout(right, 8);
    buildPlots(right);
    whole->addLayout(columns, 1);
    body()->addWidget(m_content, 1);
    buildSide();
    connect(m_strip, &RecipeStrip::recipeChosen, this, [this](const std::string& id) {
        m_run.choose_recipe(id);
        refreshFit();
        stepChosen();
    });
    connect(m_strip, &RecipeStrip::stepMoved, this, [this](int by) {
        m_run.go_to_step(m_run.step() + by);
        stepChosen();
    });
    m_keep_soon.setSingleShot(true);
    m_keep_soon.setInterval(150);
    connect(&m_keep_soon, &QTimer::timeout, this, &CalibratePage::keepDraft);
    connect(&theme(), &Theme::changed, this, [this] { // verdicts and models have colours of their own
        m_models_key.clear();
        if (!m_reading.empty() && m_reading == this->context().readingId()) refreshFit();
    });
}

CalibratePage::~CalibratePage() = default;

void CalibratePage::readingChanged() {
    if (m_keep_soon.isActive()) keepDraft();
    m_reading = context().readingId();
    m_remote->setChecked(false); // a press must not take a point of another reading
    const Reading* r = context().reading();
    if (!r) return;
    begin(context().session().proof().draft(r->id));
    m_plan_seen = 0;
    m_reference->setReading(*r, m_run.recipes());
    if (const RecipeStep* step = m_run.current_step()) m_reference->choose(step->reference);
    watchFields();
    const CalibrationDraft& draft = m_run.draft();
    m_by->setText(draft.by.empty() ? context().settings().signer : from_std(draft.by));
    m_conditions->setText(from_std(draft.conditions));
    m_adjusted->setText(from_std(draft.adjusted));
    show_turns(m_left_turns, draft.left_turns);
    show_turns(m_right_turns, draft.right_turns);
    const bool turned = draft.left_turns != 0 || draft.right_turns != 0 || !draft.adjusted.empty();
    m_as_left->setChecked(turned || (!draft.points.empty() && draft.points.back().as_left));
    m_history->setReading(r->id);
    refreshFit();
}

void CalibratePage::begin(CalibrationDraft draft) {
    const Reading& r = *context().reading();
    Session& session = context().session();
    const PartCard* part = session.part(r);
    m_run = CalibrationRun(r, part, recipes_for(session.recipes(), r, part), std::move(draft));
    m_strip->setRecipes(m_run);
}

void CalibratePage::stepChosen() {
    if (const RecipeStep* step = m_run.current_step()) m_reference->choose(step->reference);
    keepDraft();
    refresh();
}

/// What a person did so far is in the file before the next thing happens.
void CalibratePage::keepDraft() {
    m_keep_soon.stop();
    if (m_reading.empty()) return;
    m_run.say(m_by->text().trimmed().toStdString(), m_conditions->text().trimmed().toStdString(),
              m_adjusted->text().trimmed().toStdString());
    m_run.turned(m_left_turns->number().value_or(0), m_right_turns->number().value_or(0));
    context().session().proof().saveDraft(m_reading, m_run.begun() ? m_run.draft() : CalibrationDraft{});
}

void CalibratePage::feedRun() {
    const Reading& r = *context().reading();
    m_run.follow(r, uncorrected_path(r, context().session().views().partners(r, context().live())));
    if (const LiveReading* live = context().liveReading())
        for (const LivePoint& p : live->points)
            m_run.feed(p.time, p.raw);
}

void CalibratePage::refreshTrend() {
    QVector<double> x, y;
    for (const TimedValue& s : m_run.arrivals()) {
        x.append(seconds(s.time - context().session().now()));
        y.append(s.value);
    }
    m_trend_line->setData(x, y, true);
    const double window = m_run.window_s();
    m_trend->xAxis->setRange(-3 * window, 0);
    if (!y.isEmpty()) {
        const auto [low, high] = std::minmax_element(y.begin(), y.end());
        m_trend->yAxis->setRange(comfortable_range(*low, *high, context().reading()->quantity.accuracy));
        m_window->topLeft->setCoords(-window, m_trend->yAxis->range().upper);
        m_window->bottomRight->setCoords(0, m_trend->yAxis->range().lower);
    }
    m_trend->drawLater();
}

QString CalibratePage::steadyText() const {
    const TimeUs started = m_run.draft().started ? m_run.draft().started->time : 0;
    switch (m_shown.readiness) {
    case Readiness::no_value: {
        const LiveReading* live = context().liveReading();
        return tr("◆ no value: %1")
            .arg(live && !live->cause.empty() ? from_std(live->cause) : context().state(m_reading).word);
    }
    case Readiness::went_back:
        return tr("◆ the total went back since the start: the board began anew. Start again.");
    case Readiness::not_started: return tr("▲ start before you pour");
    case Readiness::changing:
        return tr("● since the start, %1 s ago").arg(seconds(context().session().now() - started), 0, 'f', 0);
    case Readiness::as_it_is: return tr("● as it is now");
    case Readiness::steady: return tr("● steady for %1 s").arg(static_cast<int>(m_shown.gate.steady_for_s));
    case Readiness::moving: return tr("▲ waiting: %1").arg(from_std(m_shown.gate.waiting_for));
    }
    return {};
}

void CalibratePage::refreshGate() {
    const Reading& r = *context().reading();
    const Tokens& t = theme().colours();
    const std::string& unit = r.quantity.unit;
    const Freshness fresh = context().state(r.id).freshness;
    const LiveReading* live = context().liveReading();
    // A failed measurement has a raw number as well: it is not followed.
    const bool failed = live && live->value.cause == Cause::failed;
    const bool arrives = live && fresh != Freshness::silent && fresh != Freshness::none;
    m_shown = m_run.look(context().session().now(), arrives && !failed ? std::optional(live->raw) : std::nullopt,
                         failed ? Cause::failed : Cause::missing);
    const bool there = m_shown.now.ok(), state = m_run.is_state(), change = m_run.is_change();
    set_text(m_number, !there  ? QStringLiteral("—")
                       : state ? from_std(format_constant(m_shown.now.number, 4))
                               : from_std(format_fixed(m_shown.shown, m_shown.decimals)));
    set_text(m_number_unit, !state                    ? from_std(unit_symbol(unit))
                            : m_shown.now.number == 1 ? tr("on")
                            : m_shown.now.number == 0 ? tr("off")
                                                      : QString());
    refreshTrend();
    set_text(m_steady, steadyText());
    const bool wrong = m_shown.readiness == Readiness::no_value || m_shown.readiness == Readiness::went_back;
    const bool waits = m_shown.readiness == Readiness::not_started || m_shown.readiness == Readiness::moving;
    m_steady->setColour(wrong ? t.bad : waits ? t.look : t.good);
    m_steady_figures->setVisible(!state);
    set_text(m_steady_figures,
             tr("slope %1/min, scatter %2, mean of %3 values")
                 .arg(from_std(format_value(m_shown.gate.slope_per_min, r.quantity.accuracy / 20, unit)),
                      from_std(format_value(m_shown.gate.scatter, r.quantity.accuracy / 20, unit)))
                 .arg(m_shown.gate.n));
    m_reference->refresh(there ? m_shown.shown : m_shown.now.number);
    const QString trouble = m_reference->trouble();
    m_begin->setVisible(change);
    m_begin->setEnabled(there);
    m_begin->setText(m_run.draft().started ? tr("Start again") : tr("Start here"));
    m_take->setEnabled(m_shown.can_take() && trouble.isEmpty());
    const bool forced = m_shown.readiness == Readiness::moving;
    m_take->setText(change ? tr("End and take it") : forced ? tr("Take it anyway") : tr("Take the point"));
    set_text(m_take_hint, !trouble.isEmpty() ? trouble : forced ? tr("it will be marked as forced") : tr("Space"));
    if (m_phone_button)
        m_phone_button->say(
            tr("%1: %2 %3 · %4").arg(from_std(r.name), m_number->text(), m_number_unit->text(), m_steady->text()));
}

void CalibratePage::takePoint() {
    const Reading* r = context().reading();
    const auto reference = m_reference->value();
    if (!r || !m_take->isEnabled() || !reference || !m_reference->trouble().isEmpty()) return;
    const RecipeStep* before = m_run.current_step();
    const CalibrationPoint* p = m_run.take(
        context().session().now(), {m_reference->kind(), m_reference->instrument(), reference->value, reference->u},
        m_as_left->isChecked());
    if (!p) return;
    context().session().note(r->id, log_kind::calibration, [&] {
        return phrase("Point taken{}: reference {}, indication {}.", p->forced ? phrase(" by force") : "",
                      format_with_doubt(p->reference, p->u_reference, r->quantity.unit),
                      format_value(p->indication, p->u_indication, r->quantity.unit));
    });
    if (const RecipeStep* step = m_run.current_step(); step && step != before) m_reference->choose(step->reference);
    keepDraft();
    refreshFit();
    refresh();
}

void CalibratePage::setAside(int row, const QString& reason) {
    m_run.set_aside(static_cast<std::size_t>(row), reason.toStdString());
    refreshFit();
    m_keep_soon.start();
}

void CalibratePage::hideEvent(QHideEvent* event) {
    if (m_keep_soon.isActive()) keepDraft();
    Page::hideEvent(event);
}

void CalibratePage::refresh() {
    const Reading* r = context().reading();
    if (!r) return;
    if (m_reading != r->id) readingChanged();
    const bool possible = !r->feed().empty();
    m_content->setVisible(possible);
    showSide(m_side, possible);
    m_empty->setVisible(!possible);
    if (!possible) {
        set_text(m_empty, tr("A calibration compares what the whole path says with something that is known. First "
                             "choose a part and connect the board."));
        setNote({});
        return;
    }
    setNote(tr("limit ± %1 · %2 points")
                .arg(from_std(format_measure(r->quantity.accuracy, r->quantity.unit)))
                .arg(m_run.points().size()));
    const BoardUse* use = context().session().bench().board(r->feed());
    m_simulated->setVisible(use && use->link.kind == LinkKind::simulated && r->quantity.kind == "temperature");
    if (const LiveBoard* board = context().liveBoard(); board && board->answers != m_answers) {
        m_answers = board->answers;
        const std::string says = comment_value(board->answer.toStdString(), "thermometer_degC");
        if (const auto value = typed_number(from_std(says)); value && !says.empty()) m_reference->offer(*value);
    }
    m_strip->refresh(m_run, r->quantity);
    feedRun();
    refreshGate();
    const std::uint64_t plan = r->correction ? static_cast<std::uint64_t>(r->correction->record) + 1 : 1;
    if (plan != m_plan_seen) {
        m_plan_seen = plan;
        refreshFit();
        m_history->refresh();
    }
}

void CalibratePage::refreshFit() {
    const Reading* r = context().reading();
    if (!r) return;
    refreshPlots();
    m_table->points()->show(*r, m_run.points(), m_run.fit());
    m_table->setVisible(!m_run.points().empty());
    m_no_points->setVisible(m_run.points().empty());
    refreshSide();
}

} // namespace cognitum
