// The right side of the Calibrate stop: candidates, verdict, who signs, and the finish.
#include "core/calibrate/certificate.h"
#include "core/calibrate/path_offers.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/stops/calibrate/calibrate_page.h"
#include "ui/stops/calibrate/calibration_history.h"
#include "ui/stops/calibrate/path_offers_view.h"
#include "ui/stops/calibrate/recipe_strip.h"
#include "ui/stops/calibrate/reference_box.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QLineEdit>
#include <QPushButton>
#include <cmath>

namespace cognitum {

namespace {

QString upper_first(const std::string& text) {
    QString out = from_std(text);
    if (!out.isEmpty()) out[0] = out[0].toUpper();
    return out;
}

} // namespace

void CalibratePage::buildSide() {
    m_side = new QWidget;
    auto* side = new QVBoxLayout(m_side);
    side->setContentsMargins(0, 0, 0, 0);
    side->setSpacing(theme().px(8));
    side->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("So far")));
    m_so_far = new TextLabel(theme(), TextLabel::Role::body);
    m_so_far->setObjectName(QStringLiteral("calibrateSoFar"));
    side->addWidget(m_so_far);
    m_models = new QGridLayout;
    m_models->setHorizontalSpacing(theme().px(6));
    side->addLayout(m_models);
    side->addWidget(new RuleLine(theme()));
    side->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("Verdict")));
    m_verdict_found = new TextLabel(theme(), TextLabel::Role::body);
    m_verdict_found->setObjectName(QStringLiteral("verdictFound"));
    m_verdict_left = new TextLabel(theme(), TextLabel::Role::body);
    m_verdict_left->setObjectName(QStringLiteral("verdictLeft"));
    m_verdict_check = new TextLabel(theme(), TextLabel::Role::body);
    m_verdict_check->setObjectName(QStringLiteral("verdictCheck"));
    m_next = new TextLabel(theme(), TextLabel::Role::soft);
    m_next->setObjectName(QStringLiteral("whatNext"));
    for (TextLabel* label : {m_so_far, m_verdict_found, m_verdict_left, m_verdict_check, m_next})
        label->setWordWrap(true);
    side->addWidget(m_verdict_found);
    side->addWidget(m_verdict_left);
    side->addWidget(m_verdict_check);
    side->addWidget(m_next);
    m_adjusted = make_field("adjusted", tr("What was turned or changed"), tr("what was turned"));
    m_conditions = make_field("conditions", tr("Where and how it was done"), tr("place, weather, help"));
    m_by = make_field("signedBy", tr("Who signs the certificate"), tr("signed by"));
    m_turns = new QWidget;
    auto* turns = make_row(m_turns, theme().px(6));
    m_left_turns = new NumberField(theme(), QStringLiteral("leftTurns"), tr("Turns of the left stop, down"));
    m_right_turns = new NumberField(theme(), QStringLiteral("rightTurns"), tr("Turns of the right stop, down"));
    for (const auto& [field, word] : {std::pair{m_left_turns, tr("left")}, std::pair{m_right_turns, tr("right")}}) {
        turns->addWidget(new TextLabel(theme(), TextLabel::Role::soft, word));
        turns->addWidget(field);
        field->setUnit(tr("down"));
        field->setToolTip(tr("turns down; a minus: up"));
    }
    turns->addStretch(1);
    for (QLineEdit* field : {m_adjusted, m_conditions, m_by})
        side->addWidget(field);
    side->insertWidget(side->indexOf(m_adjusted) + 1, m_turns);
    for (QLineEdit* field :
         std::initializer_list<QLineEdit*>{m_adjusted, m_conditions, m_by, m_left_turns, m_right_turns})
        connect(field, &QLineEdit::editingFinished, this, &CalibratePage::keepDraft);
    for (NumberField* field : {m_left_turns, m_right_turns})
        connect(field, &QLineEdit::editingFinished, this, &CalibratePage::refreshBucket);
    m_adjusted->setVisible(false);
    m_turns->hide();
    m_finish = make_button(tr("Finish and apply"), QStringLiteral("finishCalibration"), true);
    m_compare_only = make_link(tr("Keep the comparison, change nothing"), QStringLiteral("compareOnly"));
    side->addWidget(m_finish, 0, Qt::AlignLeft);
    side->addWidget(m_compare_only, 0, Qt::AlignLeft);
    m_offers = new PathOffersView(context());
    side->addWidget(m_offers);
    connect(m_offers, &PathOffersView::chosen, this, &CalibratePage::finishIntoPath);
    connect(m_finish, &QPushButton::clicked, this, [this] { finish(true); });
    connect(m_compare_only, &QPushButton::clicked, this, [this] { finish(false); });
    connect(m_as_left, &QCheckBox::toggled, this, [this](bool left) {
        m_adjusted->setVisible(left);
        m_turns->setVisible(left && m_run.recipe() && m_run.recipe()->dose);
    });
    side->addWidget(new RuleLine(theme()));
    m_history = new CalibrationHistory(context());
    side->addWidget(m_history);
    m_side->hide();
}

void CalibratePage::refreshModels() {
    const std::vector<ModelCandidate> candidates = m_run.models();
    const auto error_of = [&](const ModelCandidate& c) {
        if (!c.fit) return tr("needs %1 points").arg(c.points_needed);
        if (!std::isfinite(c.fit->cross_validated_error)) return tr("cannot tell");
        return from_std(format_measure(c.fit->cross_validated_error, context().reading()->quantity.unit, 2));
    };
    QString key = from_std(m_reading); // built anew only when a word of it differs
    for (const ModelCandidate& c : candidates)
        key += QStringLiteral("%1 %2 %3;").arg(from_std(model_name(c.model)), error_of(c)).arg(c.chosen);
    if (key == m_models_key) return;
    m_models_key = key;
    clear_layout(m_models);
    int row = 0;
    m_models->addWidget(new TextLabel(theme(), TextLabel::Role::soft, tr("model")), row, 0);
    m_models->addWidget(new TextLabel(theme(), TextLabel::Role::soft, tr("left-out error")), row++, 1);
    for (const ModelCandidate& c : candidates) {
        m_models->addWidget(new TextLabel(theme(), c.chosen ? TextLabel::Role::name : TextLabel::Role::body,
                                          from_std(model_words(c.model))),
                            row, 0);
        m_models->addWidget(new TextLabel(theme(), TextLabel::Role::mono_small, error_of(c)), row, 1);
        if (c.chosen) {
            auto* label = new TextLabel(theme(), TextLabel::Role::name, tr("chosen"));
            label->setColour(theme().colours().accent);
            m_models->addWidget(label, row, 2);
        } else if (c.fit) {
            auto* use = make_link(tr("use"), QStringLiteral("useModel_") + from_std(model_name(c.model)));
            connect(use, &QPushButton::clicked, this, [this, m = c.model] {
                m_run.use_model(m);
                refreshFit();
            });
            m_models->addWidget(use, row, 2);
        }
        ++row;
    }
}

/// The bucket's sides: which stop to turn, which way and how far.
void CalibratePage::refreshBucket() {
    const auto advice = m_run.bucket(m_reference->input("funnel_cm2").value_or(0));
    m_turns->setVisible(advice && m_as_left->isChecked());
    if (!advice) return;
    QString words = tr("Doses count left and right in turn; the next is for the %1 side. ")
                        .arg(advice->next_is_left ? tr("left") : tr("right"));
    if (const auto& fit = advice->fit)
        words +=
            tr("%1 %2 The sides differ by %3 %. Once they are turned, say below that something was, and how far.")
                .arg(from_std(fit->left.advice), from_std(fit->right.advice))
                .arg(100 * std::abs(fit->asymmetry), 0, 'f', 0);
    else
        words += from_std(fit.error().text());
    set_text(m_so_far, words);
}

void CalibratePage::refreshVerdict() {
    const Reading& r = *context().reading();
    const std::string& unit = r.quantity.unit;
    const Fit* chosen = m_run.fit();
    const auto record = m_run.record(chosen != nullptr, context().session().now());
    m_finish->setEnabled(chosen && record);
    refreshOffers(chosen && record ? &record->correction : nullptr);
    const bool checked = record && !record->verdict_check.empty();
    m_verdict_left->setVisible(chosen && record);
    m_verdict_check->setVisible(checked);
    if (!record) {
        set_text(m_verdict_found, tr("◆ %1").arg(from_std(record.error().text())));
        m_verdict_found->setColour(theme().colours().bad);
        set_text(m_next, {});
        return;
    }
    const AppliedCorrection& c = record->correction;
    set_text(m_so_far, m_run.only_compares() ? tr("This recipe compares, and corrects nothing.")
                       : !chosen
                           ? tr("No correction fits these points: %1").arg(from_std(m_run.no_fit()))
                           : tr("%1 mends it. %2")
                                 .arg(from_std(correction_text(c, unit)),
                                      m_run.model_by_hand() ? tr("Chosen by hand.") : upper_first(m_run.reason())));
    const auto say = [&](TextLabel* label, const QString& when, double worst, double doubt,
                         const std::string& verdict) {
        const Verdict v = find_verdict(verdict);
        set_text(label, tr("%1 %2: off by up to %3, %4")
                            .arg(mark_word(v), when, from_std(format_with_doubt(std::abs(worst), doubt, unit)),
                                 from_std(verdict_text(v))));
        label->setColour(mark_colour(theme(), mark_of_verdict(v)));
    };
    say(m_verdict_found, tr("as found"), record->worst_found, record->doubt_found, record->verdict_found);
    if (record->verdict_found.empty()) {
        set_text(m_verdict_found, tr("○ as found: not compared before it was adjusted"));
        m_verdict_found->setColour(theme().colours().soft);
    }
    if (m_run.is_state() && std::abs(record->worst_found) > 1)
        set_text(m_verdict_found, tr("◆ as found: what it sends is a number, and no state yet"));
    say(m_verdict_left, tr("as left"), record->worst_left, record->doubt_left, record->verdict_left);
    if (checked) say(m_verdict_check, tr("check"), record->worst_check, record->doubt_check, record->verdict_check);
    QStringList next;
    if (checked && find_verdict(record->verdict_check) == Verdict::fail)
        next << tr("The check, which the fit does not rest on, speaks against it: look for what differed, and take "
                   "the points once more.");
    const std::vector<std::string> warnings =
        chosen ? fit_warnings(*chosen, fit_points(m_run.points())) : std::vector<std::string>{};
    for (const std::string& warning : warnings)
        next << upper_first(warning);
    if (chosen && find_verdict(record->verdict_found) == Verdict::pass)
        next << tr("It was good as found: keeping the comparison and changing nothing is the better choice.");
    if (chosen && (c.from > r.quantity.low || c.to < r.quantity.high))
        next << tr("Proven from %1 to %2; beyond that it is extrapolated.")
                    .arg(from_std(format_constant(c.from, 3)), from_std(format_measure(c.to, unit, 3)));
    set_text(m_next, next.join(QStringLiteral("\n")));
}

void CalibratePage::refreshOffers(const AppliedCorrection* correction) {
    const Reading& r = *context().reading();
    const std::optional<AppliedCorrection> line = correction ? std::optional(*correction) : std::nullopt;
    m_offers->show(path_offers(r, context().session().views().partners(r, context().live()), m_run.points(), line,
                               context().session().now()));
}

void CalibratePage::refreshSide() {
    const Fit* fit = m_run.fit();
    const bool any = !fit_points(m_run.points()).empty();
    m_compare_only->setEnabled(any);
    if (!fit) {
        clear_layout(m_models);
        m_models_key.clear();
    }
    if (any) {
        if (fit) refreshModels();
        refreshVerdict();
    } else {
        m_finish->setEnabled(false);
        refreshOffers(nullptr);
        set_text(m_so_far, m_run.is_state()
                               ? tr("Nothing yet. Five of each state tell whether it says what you see, and "
                                    "where the threshold belongs.")
                               : tr("Nothing to fit yet. One point mends a shift; two tell a shift from a "
                                    "slope; four leave something to check with."));
        set_text(m_verdict_found, tr("—"));
        m_verdict_found->setColour({});
        m_verdict_left->hide();
        m_verdict_check->hide();
        set_text(m_next, {});
    }
    refreshBucket();
}

void CalibratePage::finish(bool change) {
    const Reading* r = context().reading();
    if (!r || (change && !m_run.fit())) return;
    keepDraft();
    const auto record = context().session().proof().finish(
        r->id, m_run.draft(), change ? std::optional(m_run.fit()->model) : std::nullopt);
    ended(!record ? from_std(record.error().text())
          : change
              ? tr("Calibrated and applied from now on. The record is kept; undo takes the correction off again.")
              : tr("The comparison is kept. Nothing was changed."),
          record.has_value());
}

void CalibratePage::finishIntoPath(const PathOffer& offer) {
    const Reading* r = context().reading();
    if (!r) return;
    keepDraft();
    const auto record = context().session().proof().finishIntoPath(r->id, m_run.draft(), PathOffer(offer));
    ended(record ? tr("The path has the new constants from now on. The record is kept; undo takes them back.")
                 : from_std(record.error().text()),
          record.has_value());
}

void CalibratePage::ended(const QString& words, bool kept) {
    emit context().said(words);
    if (!kept) return;
    m_remote->setChecked(false); // its secret ends with the calibration
    m_as_left->setChecked(false);
    m_adjusted->clear();
    m_conditions->clear();
    CalibrationDraft next; // begins anew: the path may be another one
    next.recipe = m_run.draft().recipe;
    begin(std::move(next));
    if (const RecipeStep* step = m_run.current_step()) m_reference->choose(step->reference);
    for (NumberField* field : {m_left_turns, m_right_turns})
        field->show({});
    refreshFit();
    m_history->refresh();
    refresh();
}

} // namespace cognitum
