#include "ui/stops/raw/raw_plots.h"

#include "core/analyse/spectrum.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/plots/plot.h"
#include "ui/widgets/live_label.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <algorithm>
#include <fmt/format.h>
#include <map>

namespace cognitum {

namespace {
constexpr std::size_t shown_samples = 300;
constexpr std::size_t spectrum_samples = 1024;

/// Decimals that a number of this size is worth reading with.
int decimals_of(double size) {
    return size >= 100 ? 0 : size >= 10 ? 1 : size >= 1 ? 2 : 3;
}

QString seconds_text(double s) {
    return s < 1 ? RawPlots::tr("%1 ms").arg(from_std(format_fixed(s * 1000, s < 0.01 ? 1 : 0)))
                 : RawPlots::tr("%1 s").arg(from_std(format_fixed(s, s < 10 ? 1 : 0)));
}
} // namespace

RawPlots::RawPlots(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme.px(6));
    auto* head = new QHBoxLayout;
    m_trace_head = new TextLabel(theme, TextLabel::Role::name);
    head->addWidget(m_trace_head);
    m_trace_note = new TextLabel(theme, TextLabel::Role::soft);
    m_trace_note->setObjectName(QStringLiteral("rawTraceNote"));
    m_trace_note->setWordWrap(true);
    head->addWidget(m_trace_note, 1);
    box->addLayout(head);
    m_trace = addPlot("rawTrace", tr("Trace of the raw signal over the last lines"), 138);
    m_graph = m_trace->addGraph();
    m_low = m_trace->addGraph();
    m_high = m_trace->addGraph();
    m_now = m_trace->addGraph();
    box->addWidget(m_trace, 3);

    auto* two = new QHBoxLayout;
    two->setSpacing(theme.px(20));
    auto* left = new QVBoxLayout;
    m_codes_head = new TextLabel(theme, TextLabel::Role::name);
    left->addWidget(m_codes_head);
    m_codes = addPlot("rawCodes", tr("Distribution over values"), 90);
    m_codes->yAxis->setVisible(false);
    m_codes->xAxis->ticker()->setTickCount(4);
    m_bars = new QCPBars(m_codes->xAxis, m_codes->yAxis);
    left->addWidget(m_codes, 1);
    two->addLayout(left, 1);
    auto* right = new QVBoxLayout;
    auto* spectrum_head = new QHBoxLayout;
    spectrum_head->addWidget(new TextLabel(theme, TextLabel::Role::name, tr("How fast it moves, Hz")));
    m_spectrum_note = new TextLabel(theme, TextLabel::Role::soft);
    m_spectrum_note->setWordWrap(true);
    spectrum_head->addWidget(m_spectrum_note, 1);
    right->addLayout(spectrum_head);
    m_spectrum = addPlot("rawSpectrum", tr("Spectrum of the raw signal"), 90);
    m_spectrum->yAxis->setVisible(false);
    m_lines = m_spectrum->addGraph();
    for (int i = 0; i < 2; ++i) {
        m_mains.append(new QCPItemStraightLine(m_spectrum));
        m_mains_text.append(m_spectrum->addLabel({}, theme.colours().look));
    }
    right->addWidget(m_spectrum, 1);
    two->addLayout(right, 1);
    box->addLayout(two, 2);

    box->addWidget(new RuleLine(theme));
    auto* figures = new QGridLayout;
    figures->setHorizontalSpacing(theme.px(14));
    figures->setVerticalSpacing(theme.px(2));
    int column = 0;
    for (const QString& name : {tr("mean"), tr("scatter"), tr("noise"), tr("peak to peak"), tr("good bits"),
                                tr("drift"), tr("alike for"), tr("rate"), tr("jitter"), tr("gaps")}) {
        const int row = column < 5 ? 0 : 2;
        auto* label = new TextLabel(theme, TextLabel::Role::soft, name);
        label->setWordWrap(false);
        figures->addWidget(label, row, column % 5);
        m_figures.append(new LiveLabel(theme, LiveLabel::Role::mono));
        m_figures.last()->setSample(QStringLiteral("0000.00"));
        m_figures.last()->setObjectName(QStringLiteral("rawFigure%1").arg(column));
        figures->addWidget(m_figures.last(), row + 1, column % 5);
        ++column;
    }
    for (int i = 0; i < 5; ++i)
        figures->setColumnStretch(i, 1);
    box->addLayout(figures);
    connect(m_trace, &Plot::restyled, this, &RawPlots::restyle);
    restyle();
}

Plot* RawPlots::addPlot(const char* name, const QString& about, int height) {
    auto* plot = new Plot(m_context.theme());
    plot->setObjectName(QLatin1String(name));
    plot->setAccessibleName(about);
    plot->setMinimumHeight(m_context.theme().px(height));
    return plot;
}

void RawPlots::restyle() {
    Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    m_graph->setPen(theme.pen(t.ink, 1.4));
    for (QCPGraph* limit : {m_low, m_high}) {
        QPen pen = theme.pen(t.accent, 1);
        pen.setStyle(Qt::DashLine);
        limit->setPen(pen);
    }
    m_now->setPen(theme.pen(t.accent));
    m_now->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssDisc, t.accent, t.accent, theme.px(8)));
    m_lines->setPen(theme.pen(t.ink, 1.2));
    QColor fill = t.accent;
    fill.setAlphaF(0.7F);
    m_bars->setPen(Qt::NoPen);
    m_bars->setBrush(fill);
    for (QCPItemStraightLine* line : m_mains) {
        QPen pen = theme.pen(t.look, 1);
        pen.setStyle(Qt::DotLine);
        line->setPen(pen);
    }
    for (QCPItemText* text : m_mains_text)
        text->setColor(t.look);
}

void RawPlots::show(const std::vector<RawSample>& samples, const SignalAbout& about) {
    if (samples.empty()) return;
    const SignalFigures f = signal_figures(samples, about.bits);
    const QString unit = about.unit.empty() ? tr("counts") : from_std(unit_symbol(about.unit));
    set_text(m_trace_head, about.unit.empty() ? tr("Counts") : unit);
    set_text(m_codes_head, tr("How often each value, %1").arg(unit));
    showTrace(samples, about, f);
    showCodes(samples, about, f);
    // The spectrum is the dearest; once a second is enough for the eye.
    const TimeUs second = m_context.session().now() / second_us;
    if (second != m_spectrum_second || m_context.readingId() != m_spectrum_reading) {
        m_spectrum_second = second;
        m_spectrum_reading = m_context.readingId();
        showSpectrum(samples, f);
    }
    showFigures(about, f);
}

void RawPlots::showTrace(const std::vector<RawSample>& samples, const SignalAbout& about, const SignalFigures& f) {
    QVector<double> x, y;
    const TimeUs now = m_context.session().now();
    const std::size_t from = samples.size() > shown_samples ? samples.size() - shown_samples : 0;
    double low = std::numeric_limits<double>::infinity();
    double high = -low;
    for (std::size_t i = from; i < samples.size(); ++i) {
        if (i > from && f.interval_s > 0 && seconds(samples[i].time - samples[i - 1].time) > 3 * f.interval_s) {
            x.append(seconds(samples[i - 1].time - now));
            y.append(qQNaN()); // a gap stays a gap
        }
        x.append(seconds(samples[i].time - now));
        y.append(samples[i].code);
        if (!std::isfinite(samples[i].code)) continue;
        low = std::min(low, samples[i].code);
        high = std::max(high, samples[i].code);
    }
    m_graph->setLineStyle(about.kind == SignalKind::wave ? QCPGraph::lsLine : QCPGraph::lsStepLeft);
    m_graph->setAntialiased(about.kind ==
                            SignalKind::wave); // steps stand on pixels, and are drawn ten times as fast
    m_graph->setData(x, y, true);
    m_now->setData({x.last()}, {y.last()});
    const double end = std::max(0.0, -x.first() * 0.01);
    m_trace->xAxis->setRange(x.first(), end);
    if (low <= high)
        m_trace->yAxis->setRange(
            comfortable_range(low, high, about.unit.empty() ? 8 : 8 * std::max(about.resolution, f.quantum / 2)));
    const bool expected = std::isfinite(about.expect_low + about.expect_high);
    QString note;
    if (about.bits > 0) note = tr("of 0…%1").arg(from_std(format_constant(about.high, 7)));
    if (expected) {
        m_low->setData({x.first(), end}, {about.expect_low, about.expect_low});
        m_high->setData({x.first(), end}, {about.expect_high, about.expect_high});
        note += (note.isEmpty() ? QString() : QStringLiteral("; ")) +
                tr("your range is %1…%2")
                    .arg(from_std(format_constant(std::round(about.expect_low), 7)),
                         from_std(format_constant(std::round(about.expect_high), 7)));
    }
    m_low->setVisible(expected);
    m_high->setVisible(expected);
    note += (note.isEmpty() ? QString() : QStringLiteral("; ")) + tr("seconds before now");
    set_text(m_trace_note, note);
    m_trace->drawLater();
}

void RawPlots::showCodes(const std::vector<RawSample>& samples, const SignalAbout& about, const SignalFigures& f) {
    // One bar for each step of the signal, and never more than a plot can show.
    double step = about.bits > 0 || about.unit.empty() ? 1 : std::max(about.resolution, f.quantum);
    if (!(step > 0)) step = 1;
    while (f.peak_to_peak / step > 80)
        step *= 2;
    std::map<long, int> histogram;
    for (const RawSample& s : samples)
        if (std::isfinite(s.code)) ++histogram[std::lround(s.code / step)];
    QVector<double> at, counts;
    for (const auto& [k, n] : histogram) {
        at.append(static_cast<double>(k) * step);
        counts.append(n);
    }
    m_bars->setData(at, counts, true);
    m_bars->setWidth(0.8 * step);
    if (!at.isEmpty()) m_codes->xAxis->setRange(comfortable_range(at.first(), at.last(), 10 * step));
    m_codes->yAxis->setRange(0, counts.isEmpty() ? 1 : *std::max_element(counts.begin(), counts.end()) * 1.05);
    m_codes->drawLater();
}

void RawPlots::showSpectrum(const std::vector<RawSample>& samples, const SignalFigures& f) {
    std::vector<double> values;
    const std::size_t from = samples.size() > spectrum_samples ? samples.size() - spectrum_samples : 0;
    for (std::size_t i = from; i < samples.size(); ++i)
        if (std::isfinite(samples[i].code)) values.push_back(samples[i].code);
    const double rate = f.interval_s > 0 ? 1 / f.interval_s : 0;
    const Spectrum s = amplitude_spectrum(values, rate);
    const bool there = s.amplitude.size() > 8;
    m_lines->setVisible(there);
    QVector<double> x, y;
    double highest = 1e-9;
    for (std::size_t i = 1; i < s.amplitude.size(); ++i) {
        x.append(s.step_hz * static_cast<double>(i));
        y.append(s.amplitude[i]);
        highest = std::max(highest, s.amplitude[i]);
    }
    m_lines->setData(x, y, true);
    const double top = rate > 0 ? rate / 2 : 1;
    m_spectrum->xAxis->setRange(0, top);
    m_spectrum->yAxis->setRange(0, 1.15 * highest);
    int shown = 0;
    for (const double mains : {50.0, 60.0}) {
        const double seen = folded(mains, rate);
        const bool visible = there && seen > 4 * s.step_hz;
        QCPItemStraightLine* line = m_mains[shown];
        QCPItemText* text = m_mains_text[shown++];
        line->setVisible(visible);
        text->setVisible(visible);
        line->point1->setCoords(seen, 0);
        line->point2->setCoords(seen, 1);
        text->setText(mains <= top ? tr("%1").arg(mains) : tr("%1 folded").arg(mains));
        text->position->setCoords(seen, (mains == 50 ? 1.06 : 0.94) * highest);
        text->setPositionAlignment(seen > 0.7 * top ? Qt::AlignRight | Qt::AlignVCenter
                                                    : Qt::AlignLeft | Qt::AlignVCenter);
    }
    set_text(
        m_spectrum_note,
        there ? QString()
              : tr("wants %1 more values").arg(std::max<qsizetype>(1, 18 - static_cast<qsizetype>(values.size()))));
    m_spectrum->drawLater();
}

void RawPlots::showFigures(const SignalAbout& about, const SignalFigures& f) {
    const int decimals = about.bits > 0 || about.unit.empty() ? 2 : decimals_of(std::max(f.sd, f.quantum));
    const auto number = [](double v, int d) { return from_std(format_fixed(v, d)); };
    const QStringList texts = {
        number(f.mean, std::min(decimals, 2)),
        number(f.sd, decimals),
        number(f.noise, decimals),
        number(f.peak_to_peak, about.bits > 0 ? 0 : std::min(decimals, 2)),
        about.bits > 0 ? tr("%1 of %2").arg(number(f.effective_bits, 1)).arg(about.bits) : QStringLiteral("—"),
        tr("%1 /h").arg(number(f.drift_per_hour, decimals_of(std::abs(f.drift_per_hour)) > 1 ? 1 : 0)),
        seconds_text(f.autocorrelation_s),
        f.rate_hz >= 0.2 ? tr("%1 /s").arg(number(f.rate_hz, f.rate_hz < 10 ? 1 : 0))
                         : tr("%1 /min").arg(number(60 * f.rate_hz, 1)),
        seconds_text(f.jitter_s),
        QString::number(f.gaps)};
    for (int i = 0; i < texts.size(); ++i)
        m_figures[i]->setText(texts[i]);
}

} // namespace cognitum
