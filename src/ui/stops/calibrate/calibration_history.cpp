#include "ui/stops/calibrate/calibration_history.h"

#include "core/base/phrase.h"
#include "core/calibrate/board_constants.h"
#include "core/calibrate/certificate.h"
#include "core/plan/reading_doubt.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/paper/on_paper.h"
#include "ui/plots/plot.h"
#include "ui/stops/calibrate/calibration_paper.h"
#include "ui/stops/calibrate/constants_dialog.h"
#include "ui/stops/calibrate/side_by_side.h"
#include "ui/widgets/parts.h"

#include <QDateTime>
#include <QLocale>
#include <QPushButton>
#include <QVBoxLayout>
#include <cmath>

namespace cognitum {

Mark mark_of_verdict(Verdict v) {
    return v == Verdict::pass ? Mark::done : v == Verdict::fail ? Mark::bad : Mark::look;
}

QString mark_word(Verdict v) {
    const Mark mark = mark_of_verdict(v);
    return mark == Mark::done ? QStringLiteral("●") : mark == Mark::bad ? QStringLiteral("◆") : QStringLiteral("▲");
}

QString day_text(TimeUs time) {
    return QLocale().toString(QDateTime::fromMSecsSinceEpoch(time / 1000).date(), QStringLiteral("d MMM yyyy"));
}

CalibrationHistory::CalibrationHistory(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(theme.px(6));
    layout->addWidget(new TextLabel(theme, TextLabel::Role::name, tr("Before this")));
    m_plot = new Plot(theme);
    m_plot->setObjectName(QStringLiteral("driftPlot"));
    m_plot->setAccessibleName(tr("Error as found at each calibration, with the drift and its band"));
    m_plot->setFixedHeight(theme.px(104));
    const QSharedPointer<QCPAxisTickerDateTime> years(new QCPAxisTickerDateTime);
    years->setDateTimeFormat(QStringLiteral("MMM yy"));
    years->setTickCount(3);
    m_plot->xAxis->setTicker(years);
    m_plot->yAxis->setNumberPrecision(2);
    m_low = m_plot->addGraph();
    m_high = m_plot->addGraph();
    m_high->setChannelFillGraph(m_low);
    m_line = m_plot->addGraph();
    m_limit_high = m_plot->addGraph();
    m_limit_low = m_plot->addGraph();
    m_points = m_plot->addGraph();
    layout->addWidget(m_plot);
    m_drift = new TextLabel(theme, TextLabel::Role::soft);
    m_drift->setObjectName(QStringLiteral("driftText"));
    m_due = new TextLabel(theme, TextLabel::Role::body);
    m_due->setObjectName(QStringLiteral("dueText"));
    m_drift->setWordWrap(true);
    m_due->setWordWrap(true);
    layout->addWidget(m_drift);
    layout->addWidget(m_due);
    m_list = new QVBoxLayout;
    m_list->setSpacing(theme.px(4));
    layout->addLayout(m_list);
    auto* constants = make_link(tr("Constants for the board"), QStringLiteral("boardConstants"));
    auto* anew = make_link(tr("Old readings with this correction"), QStringLiteral("reevaluate"));
    layout->addWidget(constants, 0, Qt::AlignLeft);
    layout->addWidget(anew, 0, Qt::AlignLeft);
    auto* beside = make_link(tr("Side by side with another reading"), QStringLiteral("openSideBySide"));
    layout->addWidget(beside, 0, Qt::AlignLeft);
    connect(beside, &QPushButton::clicked, this, [this] {
        const Reading* r = m_context.session().bench().reading(m_reading);
        if (!r) return;
        auto* dialog = new SideBySide(m_context, *r, this);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        dialog->open();
    });
    connect(constants, &QPushButton::clicked, this, &CalibrationHistory::showConstants);
    connect(anew, &QPushButton::clicked, this, [this] {
        const Reading* r = m_context.session().bench().reading(m_reading);
        if (!r) return;
        emit m_context.said(tr("The old readings of %1 go through the path of today …").arg(from_std(r->name)));
        when_answered(m_context.session().proof().reevaluate(m_reading), this,
                      [this, quantity = r->quantity](const Result<Reevaluated>& made) {
                          emit m_context.said(
                              from_std(made ? reevaluated_says(*made, quantity) : made.error().text()));
                      });
    });
    const auto restyle = [this] {
        const Theme& th = m_context.theme();
        const Tokens& t = th.colours();
        QColor band = t.accent;
        band.setAlphaF(0.16F);
        for (QCPGraph* g : {m_low, m_high})
            g->setPen(Qt::NoPen);
        m_high->setBrush(band);
        m_plot->setBackground(QBrush(t.paper));
        m_line->setPen(th.pen(t.accent, 2));
        QPen dashed = th.pen(t.look, 1.2);
        dashed.setStyle(Qt::DashLine);
        m_limit_high->setPen(dashed);
        m_limit_low->setPen(dashed);
        m_points->setLineStyle(QCPGraph::lsNone);
        m_points->setScatterStyle(
            QCPScatterStyle(QCPScatterStyle::ssCircle, th.pen(t.ink, 1.6), t.sheet, th.px(8)));
    };
    connect(m_plot, &Plot::restyled, this, restyle);
    restyle();
}

void CalibrationHistory::setReading(const std::string& id) {
    m_reading = id;
    m_all = false;
    refresh();
}

void CalibrationHistory::refresh() {
    const Reading* r = m_context.session().bench().reading(m_reading);
    if (!r) return;
    const auto records = m_context.session().proof().calibrations(m_reading);
    const Drift drift = drift_by_card(*r, records, m_context.session().part(*r));
    refreshPlot(drift, *r);
    refreshList(records);
    set_text(m_drift, from_std(drift_text(drift, r->quantity.unit)));
    m_drift->setVisible(!records.empty());
    const TimeUs now = m_context.session().now();
    QString due;
    if (drift.due > 0) {
        const QString why = drift.because == Drift::Because::drift ? tr("then drift and doubt may meet the limit")
                            : drift.because == Drift::Because::disturbed
                                ? tr("because it was %1").arg(from_std(phrase_of(r->bring_up.disturbed_how)))
                                : tr("by its interval");
        due = drift.due <= now ? tr("▲ due since %1, %2").arg(day_text(drift.due), why)
                               : tr("next due %1, %2").arg(day_text(drift.due), why);
    }
    set_text(m_due, due);
    m_due->setColour(drift.due > 0 && drift.due <= now ? m_context.theme().colours().look : QColor());
    m_due->setVisible(!due.isEmpty());
}

void CalibrationHistory::refreshPlot(const Drift& drift, const Reading& reading) {
    m_plot->setVisible(drift.points.size() >= 2);
    if (drift.points.size() < 2) return;
    QVector<double> x, y, t, line, low, high;
    double least = 0, most = 0;
    for (const DriftPoint& p : drift.points) {
        x.append(seconds(p.time));
        y.append(p.error);
        least = std::min(least, p.error);
        most = std::max(most, p.error);
    }
    const TimeUs first = drift.points.front().time, last = drift.points.back().time;
    const TimeUs end = std::max(drift.due, last);
    constexpr int steps = 40;
    const double here = drift.points.back().error;
    for (int i = 0; i <= steps; ++i) {
        const TimeUs at = first + (end - first) / steps * i;
        t.append(seconds(at));
        line.append(here + drift.shift_at(at));
        low.append(line.back() - drift.band_at(at));
        high.append(line.back() + drift.band_at(at));
    }
    m_points->setData(x, y, true);
    m_line->setData(t, line, true);
    m_low->setData(t, low, true);
    m_high->setData(t, high, true);
    // The limit counts from what the calibration mended.
    const double limit = reading.quantity.accuracy;
    m_limit_high->setData({seconds(last), seconds(end)}, {here + limit, here + limit}, true);
    m_limit_low->setData({seconds(last), seconds(end)}, {here - limit, here - limit}, true);
    m_plot->xAxis->setRange(seconds(first) - 0.04 * seconds(end - first),
                            seconds(end) + 0.04 * seconds(end - first));
    m_plot->yAxis->setRange(comfortable_range(std::min(least, here - limit), std::max(most, here + limit), limit));
    m_plot->setYUnit(tr("error found, %1").arg(from_std(unit_symbol(reading.quantity.unit))));
    m_plot->drawLater();
}

void CalibrationHistory::refreshList(const std::vector<CalibrationRecord>& records) {
    clear_layout(m_list);
    Theme& theme = m_context.theme();
    const Reading& r = *m_context.session().bench().reading(m_reading);
    if (records.empty()) {
        auto* label = new TextLabel(theme, TextLabel::Role::soft,
                                    tr("Never calibrated: the data sheet’s tolerance is all there is."));
        label->setWordWrap(true);
        m_list->addWidget(label);
    }
    std::size_t shown = 0;
    for (auto record = records.rbegin(); record != records.rend() && (m_all || shown < few); ++record, ++shown) {
        const bool in_force = r.correction && r.correction->record == record->id;
        const Verdict found = find_verdict(record->verdict_found), left = find_verdict(record->verdict_left);
        auto* row = new QWidget;
        QHBoxLayout* line = make_row(row, theme.px(4));
        const QString mark = mark_word(record->model == "none" ? found : left);
        line->addWidget(new TextLabel(theme, TextLabel::Role::body, tr("%1 %2").arg(mark, day_text(record->time))),
                        1);
        auto* paper = make_link(tr("certificate"), QStringLiteral("certificate%1").arg(record->id));
        line->addWidget(paper);
        connect(paper, &QPushButton::clicked, this,
                [this, id = record->id, time = record->time] { saveCertificate(id, time); });
        auto* print = make_link(tr("print"), QStringLiteral("printCertificate%1").arg(record->id));
        line->addWidget(print);
        connect(print, &QPushButton::clicked, this, [this, id = record->id] {
            if (const Reading* of = m_context.session().bench().reading(m_reading))
                print_paper(m_context, this, certificate_paper(m_context.session(), *of, id));
        });
        m_list->addWidget(row);
        const QString what =
            record->model == "none" ? tr("compared, nothing changed")
            : record->model == "path"
                ? from_std(read_back(record->into))
                : tr("left by %1").arg(from_std(format_measure(std::abs(record->worst_left), record->unit, 2)));
        auto* about = new TextLabel(
            theme, TextLabel::Role::soft,
            (in_force ? tr("in force; ") : QString()) +
                tr("%n point(s), %1, %2%3", nullptr, static_cast<int>(points_taken(*record)))
                    .arg(record->verdict_found.empty()
                             ? tr("adjusted before it was compared")
                             : tr("found off by %1")
                                   .arg(from_std(format_measure(std::abs(record->worst_found), record->unit, 2))),
                         what, record->by.empty() ? QString() : tr("; %1").arg(from_std(record->by))));
        about->setWordWrap(true);
        m_list->addWidget(about);
    }
    if (records.size() <= few) return;
    auto* older = make_link(m_all ? tr("the newest alone") : tr("%1 older").arg(records.size() - few),
                            QStringLiteral("olderCalibrations"));
    connect(older, &QPushButton::clicked, this, [this] {
        m_all = !m_all;
        refresh();
    });
    m_list->addWidget(older, 0, Qt::AlignLeft);
}

void CalibrationHistory::saveCertificate(std::int64_t record, TimeUs time) {
    const Reading* r = m_context.session().bench().reading(m_reading);
    if (!r) return;
    const QString path = m_context.askSavePath(
        this, tr("Save the certificate"),
        QStringLiteral("%1-%2.pdf").arg(from_std(r->id), from_std(iso_time(time).substr(0, 10))),
        tr("PDF (*.pdf);;JSON (*.json);;CSV (*.csv)"));
    if (path.isEmpty()) return;
    const auto saved = save_certificate(m_context.session(), *r, record, path);
    emit m_context.said(saved ? tr("The certificate is saved as %1.").arg(path) : from_std(saved.error().text()));
}

void CalibrationHistory::showConstants() {
    const Reading* r = m_context.session().bench().reading(m_reading);
    if (!r) return;
    auto* dialog = new ConstantsDialog(m_context, *r, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

} // namespace cognitum
