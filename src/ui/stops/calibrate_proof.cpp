// The right side of the Calibrate stop: points as a table, candidates, verdict, history, and the finish.
#include "core/uncertainty/reading_doubt.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/stops/calibrate_page.h"
#include "ui/widgets/parts.h"

#include <QDateTime>
#include <QGridLayout>
#include <QLocale>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

QString signed_text(double value, int decimals) {
    return (value >= 0 ? QStringLiteral("+") : QString()) + from_std(format_fixed(value, decimals));
}

QString day_text(TimeUs time) {
    return QLocale().toString(QDateTime::fromMSecsSinceEpoch(time / 1000).date(), QStringLiteral("d MMM yyyy"));
}

Verdict verdict_of(const std::string& id) {
    for (const Verdict v : {Verdict::pass, Verdict::pass_within_doubt, Verdict::fail_within_doubt})
        if (verdict_id(v) == id) return v;
    return Verdict::fail;
}

Mark mark_of(Verdict v) {
    return v == Verdict::pass ? Mark::done : v == Verdict::fail ? Mark::bad : Mark::look;
}

QString mark_text(Mark mark) {
    return mark == Mark::done ? QStringLiteral("●") : mark == Mark::bad ? QStringLiteral("◆") : QStringLiteral("▲");
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
    m_models->setHorizontalSpacing(theme().px(10));
    side->addLayout(m_models);
    side->addWidget(new RuleLine(theme()));
    side->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("Verdict")));
    m_verdict_found = new TextLabel(theme(), TextLabel::Role::body);
    m_verdict_found->setObjectName(QStringLiteral("verdictFound"));
    m_verdict_left = new TextLabel(theme(), TextLabel::Role::body);
    m_verdict_left->setObjectName(QStringLiteral("verdictLeft"));
    side->addWidget(m_verdict_found);
    side->addWidget(m_verdict_left);
    m_next = new TextLabel(theme(), TextLabel::Role::soft);
    side->addWidget(m_next);
    m_finish = make_button(tr("Finish and apply"), QStringLiteral("finishCalibration"), false);
    side->addWidget(m_finish, 0, Qt::AlignLeft);
    connect(m_finish, &QPushButton::clicked, this, &CalibratePage::finish);
    side->addWidget(new RuleLine(theme()));
    side->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("Before this")));
    m_history = new QVBoxLayout;
    m_history->setSpacing(theme().px(6));
    side->addLayout(m_history);
    m_side->hide();
}

void CalibratePage::refreshPoints() {
    const Reading& r = *context().reading();
    clear_layout(m_table);
    if (m_points.empty()) {
        m_table->addWidget(
            new TextLabel(
                theme(), TextLabel::Role::soft,
                tr("No point yet. Ice and water costs nothing and is good to 0.05 °C; a second point at the "
                   "warm end of your range tells a shift from a slope.")),
            0, 0);
        return;
    }
    int column = 1;
    for (const QString& head : {tr("reference"), tr("indication"), tr("error")})
        m_table->addWidget(new TextLabel(theme(), TextLabel::Role::soft, head), 0, column++);
    for (std::size_t i = 0; i < m_points.size(); ++i) {
        const CalibrationPoint& p = m_points[i];
        const int row = static_cast<int>(i) + 1;
        QString title = from_std(p.reference_kind)
                            .replace(QStringLiteral("reference-"), QString())
                            .replace(QLatin1Char('-'), QLatin1Char(' '));
        if (p.forced) title += tr(", forced");
        if (!p.counts()) title += tr(", set aside");
        auto* name = new TextLabel(theme(), p.counts() ? TextLabel::Role::body : TextLabel::Role::soft,
                                   QStringLiteral("%1  %2").arg(i + 1).arg(title));
        name->setToolTip(
            tr("taken at %1")
                .arg(QDateTime::fromMSecsSinceEpoch(p.time / 1000).toString(QStringLiteral("HH:mm:ss"))));
        m_table->addWidget(name, row, 0);
        m_table->addWidget(
            new TextLabel(theme(), TextLabel::Role::mono_small,
                          from_std(format_fixed(p.reference, 2) + " ± " + format_fixed(p.u_reference, 2))),
            row, 1);
        m_table->addWidget(
            new TextLabel(theme(), TextLabel::Role::mono_small, from_std(format_fixed(p.indication, 2))), row, 2);
        m_table->addWidget(
            new TextLabel(theme(), TextLabel::Role::mono_small, signed_text(error_found(p, r.correction), 2)), row,
            3);
        auto* aside = make_link(p.counts() ? tr("set aside") : tr("count it"), QStringLiteral("aside%1").arg(i));
        connect(aside, &QPushButton::clicked, this, [this, i] { setAside(i); });
        m_table->addWidget(aside, row, 4);
    }
    m_table->setColumnStretch(0, 1);
}

void CalibratePage::refreshSide(const std::optional<ModelChoice>& choice) {
    const Reading& r = *context().reading();
    const std::string& unit = r.quantity.unit;
    clear_layout(m_models);
    m_finish->setEnabled(choice.has_value());
    if (!choice) {
        set_text(m_so_far, tr("Nothing to fit yet. One point mends a shift; two tell a shift from a slope; four "
                              "leave something to check with."));
        set_text(m_verdict_found, tr("—"));
        set_text(m_verdict_left, {});
        m_verdict_found->setColour({});
        set_text(m_next, {});
        return;
    }
    const Model model = chosenModel(*choice);
    int row = 0;
    m_models->addWidget(new TextLabel(theme(), TextLabel::Role::soft, tr("model")), row, 0);
    m_models->addWidget(new TextLabel(theme(), TextLabel::Role::soft, tr("left-out error")), row++, 1);
    for (const Fit& f : choice->candidates) {
        const bool chosen = f.model == model;
        m_models->addWidget(new TextLabel(theme(), chosen ? TextLabel::Role::name : TextLabel::Role::body,
                                          f.model == Model::offset ? tr("offset") : tr("straight line")),
                            row, 0);
        m_models->addWidget(new TextLabel(theme(), TextLabel::Role::mono_small,
                                          std::isfinite(f.cross_validated_error)
                                              ? from_std(format_measure(f.cross_validated_error, unit, 2))
                                              : tr("needs more")),
                            row, 1);
        if (chosen) {
            auto* label = new TextLabel(theme(), TextLabel::Role::name, tr("chosen"));
            label->setColour(theme().colours().accent);
            m_models->addWidget(label, row, 2);
        } else {
            auto* use = make_link(tr("use"), QStringLiteral("useModel_") + from_std(model_name(f.model)));
            connect(use, &QPushButton::clicked, this, [this, m = f.model] {
                m_model = m;
                m_side_key.clear();
                refresh();
            });
            m_models->addWidget(use, row, 2);
        }
        ++row;
    }
    const auto record = finish_calibration(r, m_points, model, context().session().now(), {});
    if (!record) return;
    const AppliedCorrection& c = record->correction;
    std::string reason = choice->reason;
    if (!reason.empty()) reason[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(reason[0])));
    QString so_far = model == Model::offset
                         ? tr("An offset of %1 mends it.").arg(from_std(format_measure(c.offset, unit, 3)))
                         : tr("A line mends it: %1 × indication %2.")
                               .arg(from_std(format_constant(c.gain, 5)),
                                    (c.offset < 0 ? QStringLiteral("− ") : QStringLiteral("+ ")) +
                                        from_std(format_measure(std::abs(c.offset), unit, 3)));
    so_far += QLatin1Char(' ') + (m_model ? tr("Chosen by hand.") : from_std(reason));
    set_text(m_so_far, so_far);

    const auto say = [&](TextLabel* label, const QString& when, double worst, const std::string& verdict) {
        const Verdict v = verdict_of(verdict);
        set_text(label, tr("%1 %2: off by up to %3, %4")
                            .arg(mark_text(mark_of(v)), when, from_std(format_measure(std::abs(worst), unit, 2)),
                                 from_std(verdict_text(v))));
        label->setColour(mark_colour(theme(), mark_of(v)));
    };
    say(m_verdict_found, tr("as found"), record->worst_found, record->verdict_found);
    say(m_verdict_left, tr("as left"), record->worst_left, record->verdict_left);
    std::string next;
    for (const Fit& f : choice->candidates)
        if (f.model == model && !f.warnings.empty()) next = f.warnings.front();
    if (c.from > r.quantity.low || c.to < r.quantity.high)
        next += fmt::format("{}Proven from {} to {}; beyond that it is extrapolated.", next.empty() ? "" : " ",
                            format_constant(c.from, 3), format_measure(c.to, unit, 3));
    if (!next.empty()) next[0] = static_cast<char>(std::toupper(static_cast<unsigned char>(next[0])));
    set_text(m_next, from_std(next));
}

void CalibratePage::refreshHistory() {
    clear_layout(m_history);
    const Reading& r = *context().reading();
    const auto records = context().session().calibrations(r.id);
    if (records.empty())
        m_history->addWidget(new TextLabel(theme(), TextLabel::Role::soft,
                                           tr("Never calibrated: the data sheet’s tolerance is all there is.")));
    for (auto record = records.rbegin(); record != records.rend(); ++record) {
        const bool in_force = r.correction && r.correction->record == record->id;
        const Verdict left = verdict_of(record->verdict_left);
        m_history->addWidget(new TextLabel(theme(), TextLabel::Role::body,
                                           tr("%1 %2%3").arg(mark_text(mark_of(left)), day_text(record->time),
                                                             in_force ? tr(" · in force") : QString())));
        m_history->addWidget(new TextLabel(
            theme(), TextLabel::Role::soft,
            tr("%1 points, %2 %3; found off by %4, left by %5%6")
                .arg(record->points.size())
                .arg(from_std(record->model), from_std(format_measure(record->correction.offset, record->unit, 2)),
                     from_std(format_measure(std::abs(record->worst_found), record->unit, 2)),
                     from_std(format_measure(std::abs(record->worst_left), record->unit, 2)),
                     record->by.empty() ? QString() : tr("; by %1").arg(from_std(record->by)))));
    }
    const PartCard* part = context().session().part(r);
    const Measurand* measured = part ? part->measurand(r.quantity.kind) : nullptr;
    if (r.correction && measured && measured->drift_per_year > 0) {
        // The limit, less what the calibration itself leaves open, divided by how fast the part may drift.
        const double room =
            r.quantity.accuracy - 1.96 * correction_u(*r.correction, (r.correction->from + r.correction->to) / 2);
        const double years = room / measured->drift_per_year;
        const TimeUs due = r.correction->time + from_seconds(std::clamp(years, 0.0, 2.0) * 365.25 * 86400);
        m_history->addWidget(new TextLabel(
            theme(), TextLabel::Role::soft,
            tr("drifts up to %1 a year · next due %2")
                .arg(from_std(format_measure(measured->drift_per_year, r.quantity.unit)), day_text(due))));
    }
}

void CalibratePage::finish() {
    const Reading* r = context().reading();
    static constexpr Model applicable[] = {Model::offset, Model::line};
    const auto choice = choose_model(fit_points(m_points), applicable);
    if (!r || !choice) return;
    const auto record = context().session().finishCalibration(r->id, m_points, chosenModel(*choice), {});
    if (!record) {
        emit context().said(from_std(record.error().text()));
        return;
    }
    m_points.clear();
    m_model.reset();
    m_side_key.clear();
    emit context().said(
        tr("Calibrated and applied from now on. The record is kept; undo takes the correction off again."));
    refresh();
}

} // namespace cognitum
