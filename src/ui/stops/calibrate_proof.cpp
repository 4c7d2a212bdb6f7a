// The right side of the Calibrate stop: candidates, verdict, who signs, and the finish.
#include "core/calibrate/certificate.h"
#include "core/calibrate/path_offers.h"
#include "core/calibrate/special.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/stops/calibrate_page.h"
#include "ui/stops/calibration_history.h"
#include "ui/stops/path_offers_view.h"
#include "ui/stops/recipe_strip.h"
#include "ui/stops/reference_box.h"
#include "ui/widgets/parts.h"

#include <QCheckBox>
#include <QGridLayout>
#include <QLineEdit>
#include <QPushButton>
#include <QRegularExpression>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

QString upper_first(std::string text) {
    if (!text.empty()) text[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(text[0])));
    return from_std(text);
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
    m_conditions = make_field("conditions", tr("Where and how it was done"), tr("where, weather, who helped"));
    m_by = make_field("signedBy", tr("Who signs the certificate"), tr("signed by"));
    for (QLineEdit* field : {m_adjusted, m_conditions, m_by}) {
        side->addWidget(field);
        connect(field, &QLineEdit::editingFinished, this, &CalibratePage::keepDraft);
    }
    m_adjusted->setVisible(false);
    m_finish = make_button(tr("Finish and apply"), QStringLiteral("finishCalibration"), true);
    m_compare_only = make_link(tr("Keep the comparison, change nothing"), QStringLiteral("compareOnly"));
    side->addWidget(m_finish, 0, Qt::AlignLeft);
    side->addWidget(m_compare_only, 0, Qt::AlignLeft);
    m_offers = new PathOffersView(context());
    side->addWidget(m_offers);
    connect(m_offers, &PathOffersView::chosen, this, &CalibratePage::finishIntoPath);
    connect(m_finish, &QPushButton::clicked, this, [this] { finish(true); });
    connect(m_compare_only, &QPushButton::clicked, this, [this] { finish(false); });
    connect(m_as_left, &QCheckBox::toggled, m_adjusted, &QWidget::setVisible);
    side->addWidget(new RuleLine(theme()));
    m_history = new CalibrationHistory(context());
    side->addWidget(m_history);
    m_side->hide();
}

void CalibratePage::refreshModels(const Fit* chosen) {
    QString key; // built anew only when a word of it differs
    for (const Fit& f : m_choice->candidates)
        key += QStringLiteral("%1 %2 %3;")
                   .arg(from_std(model_name(f.model)), from_std(format_constant(f.cross_validated_error, 2)))
                   .arg(&f == chosen);
    key += QString::number(std::min<std::size_t>(fit_points(m_draft.points).size(), 10)) + from_std(m_reading);
    if (key == m_models_key) return;
    m_models_key = key;
    clear_layout(m_models);
    int row = 0;
    m_models->addWidget(new TextLabel(theme(), TextLabel::Role::soft, tr("model")), row, 0);
    m_models->addWidget(new TextLabel(theme(), TextLabel::Role::soft, tr("left-out error")), row++, 1);
    const auto add = [&](const QString& name, const QString& error, bool bold) {
        m_models->addWidget(new TextLabel(theme(), bold ? TextLabel::Role::name : TextLabel::Role::body, name), row,
                            0);
        m_models->addWidget(new TextLabel(theme(), TextLabel::Role::mono_small, error), row, 1);
    };
    for (const Fit& f : m_choice->candidates) {
        const bool is_chosen = &f == chosen;
        add(from_std(model_words(f.model)),
            std::isfinite(f.cross_validated_error)
                ? from_std(format_measure(f.cross_validated_error, context().reading()->quantity.unit, 2))
                : tr("cannot tell"),
            is_chosen);
        if (is_chosen) {
            auto* label = new TextLabel(theme(), TextLabel::Role::name, tr("chosen"));
            label->setColour(theme().colours().accent);
            m_models->addWidget(label, row, 2);
        } else {
            auto* use = make_link(tr("use"), QStringLiteral("useModel_") + from_std(model_name(f.model)));
            connect(use, &QPushButton::clicked, this, [this, m = f.model] {
                m_model = m;
                refreshFit();
            });
            m_models->addWidget(use, row, 2);
        }
        ++row;
    }
    const std::size_t taken = fit_points(m_draft.points).size();
    const std::vector<Model> wanted = m_strip->recipe() ? m_strip->recipe()->models : std::vector<Model>{};
    for (const Model m : wanted)
        if (static_cast<std::size_t>(parameter_count(m)) > taken) {
            add(from_std(model_words(m)), tr("needs %1 points").arg(parameter_count(m) + 2), false);
            ++row;
        }
}

/// The bucket's sides: which stop to turn, which way and how far.
void CalibratePage::refreshBucket() {
    const Recipe* recipe = m_strip->recipe();
    if (!recipe || !recipe->dose) return;
    const Reading& r = *context().reading();
    const double area = m_reference->input("funnel_cm2").value_or(r.quantity.funnel.area_cm2);
    const double tip = r.quantity.funnel.tip_mL > 0 ? r.quantity.funnel.tip_mL : indicationStep() * area / 10;
    std::vector<BucketTry> tries(1);
    bool left = true;
    for (const CalibrationPoint& p : m_draft.points) {
        if (!p.counts() || p.check) continue;
        if (p.as_left && tries.size() == 1) {
            // "left 0.5 down, right 1 up": what was turned stands in the field for it.
            const auto turns = [&](const QString& side) {
                static const QRegularExpression form(QStringLiteral("(left|right)\\s+([0-9.,]+)\\s*(down|up)"));
                for (auto all = form.globalMatch(m_adjusted->text()); all.hasNext();) {
                    const auto match = all.next();
                    if (match.captured(1) != side) continue;
                    const double n =
                        QString(match.captured(2)).replace(QLatin1Char(','), QLatin1Char('.')).toDouble();
                    return match.captured(3) == QLatin1String("down") ? n : -n;
                }
                return 0.0;
            };
            tries[0].left_turns = turns(QStringLiteral("left"));
            tries[0].right_turns = turns(QStringLiteral("right"));
            tries.emplace_back();
            left = true;
        }
        tries.back().doses.push_back({left, p.reference * area / 10});
        left = !left;
    }
    const auto fit = fit_bucket(tries, tip);
    QString words = tr("Doses count left and right in turn; the next is for the %1 side. ")
                        .arg(left ? tr("left") : tr("right"));
    if (fit)
        words += tr("%1 %2 The sides differ by %3 %. Write the turns as “left 0.5 down, right 1 up”.")
                     .arg(from_std(fit->left.advice), from_std(fit->right.advice))
                     .arg(100 * std::abs(fit->asymmetry), 0, 'f', 0);
    else
        words += from_std(fit.error().text());
    set_text(m_so_far, words);
}

void CalibratePage::refreshVerdict(const Fit* chosen) {
    const Reading& r = *context().reading();
    const std::string& unit = r.quantity.unit;
    const std::optional<Model> model = chosen ? std::optional(chosen->model) : std::nullopt;
    const auto record = finish_calibration(r, m_draft, model, context().session().now());
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
    const bool compares = m_strip->recipe() && m_strip->recipe()->models.empty();
    set_text(m_so_far, compares  ? tr("This recipe compares, and corrects nothing.")
                       : !chosen ? tr("No correction fits these points: %1").arg(m_no_fit)
                                 : tr("%1 mends it. %2")
                                       .arg(from_std(correction_text(c, unit)),
                                            m_model ? tr("Chosen by hand.") : upper_first(m_choice->reason)));
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
    if (isState() && std::abs(record->worst_found) > 1)
        set_text(m_verdict_found, tr("◆ as found: what it sends is a number, and no state yet"));
    say(m_verdict_left, tr("as left"), record->worst_left, record->doubt_left, record->verdict_left);
    if (checked) say(m_verdict_check, tr("check"), record->worst_check, record->doubt_check, record->verdict_check);
    QStringList next;
    if (checked && find_verdict(record->verdict_check) == Verdict::fail)
        next << tr("The check, which the fit does not rest on, speaks against it: look for what differed, and take "
                   "the points once more.");
    const std::vector<std::string> warnings =
        chosen ? fit_warnings(*chosen, fit_points(m_draft.points)) : std::vector<std::string>{};
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
    m_offers->show(path_offers(r, context().session().partners(r, context().live()), m_draft.points, line,
                               context().session().now()));
}

void CalibratePage::refreshSide() {
    const Fit* fit = chosenFit();
    const bool any = !fit_points(m_draft.points).empty();
    m_compare_only->setEnabled(any);
    if (!fit) {
        clear_layout(m_models);
        m_models_key.clear();
    }
    if (any) {
        if (fit) refreshModels(fit);
        refreshVerdict(fit);
    } else {
        m_finish->setEnabled(false);
        refreshOffers(nullptr);
        set_text(m_so_far, isState() ? tr("Nothing yet. Five of each state tell whether it says what you see, and "
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
    const Fit* fit = chosenFit();
    if (!r || (change && !fit)) return;
    keepDraft();
    const auto record = context().session().finishCalibration(
        r->id, m_draft, change ? std::optional<Model>(fit->model) : std::nullopt);
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
    const PathOffer taken = offer; // the list is made anew while the plan changes
    const auto record = context().session().finishIntoPath(r->id, m_draft, taken);
    ended(record ? tr("The path has the new constants from now on. The record is kept; undo takes them back.")
                 : from_std(record.error().text()),
          record.has_value());
}

void CalibratePage::ended(const QString& words, bool kept) {
    emit context().said(words);
    if (!kept) return;
    m_remote->setChecked(false); // its secret ends with the calibration
    m_draft = {};
    m_model.reset();
    m_gate.reset(); // the path may be another one
    m_as_left->setChecked(false);
    m_adjusted->clear();
    m_conditions->clear();
    m_strip->goTo(0);
    refreshFit();
    m_history->refresh();
    refresh();
}

} // namespace cognitum
