#include "ui/pages/rates_view.h"

#include "core/analyse/statistics.h"
#include "core/base/phrase.h"
#include "core/plan/rates.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/pages/budget_bars.h"
#include "ui/plots/plot.h"
#include "ui/widgets/parts.h"

#include <QGridLayout>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

namespace {

constexpr std::size_t shown_runs = 24;

QString rate_text(double per_s, const std::string& unit) {
    const bool slow = per_s < 0.5;
    return QStringLiteral("%1 %2/%3")
        .arg(from_std(format_constant(slow ? 60 * per_s : per_s, 3)), from_std(phrase_of(unit)),
             slow ? QStringLiteral("min") : QStringLiteral("s"));
}

std::vector<BudgetRow> rows_of(const RatePlan& plan) {
    std::vector<BudgetRow> rows;
    for (const RateSink& sink : plan.sinks) {
        BudgetRow row;
        row.name = from_std(sink.name);
        row.numbers = sink.accepted_per_s > 0 ? RatesView::tr("%1 of %2")
                                                    .arg(rate_text(sink.offered_per_s, sink.unit),
                                                         rate_text(sink.accepted_per_s, sink.unit))
                                              : rate_text(sink.offered_per_s, sink.unit);
        row.share = sink.share();
        row.mark = sink.lost() > 0 ? Mark::bad : sink.share() > 0.8 ? Mark::look : Mark::done;
        rows.push_back(row);
    }
    return rows;
}

} // namespace

RatesView::RatesView(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("ratesView"));
    Theme& theme = context.theme();
    auto* columns = new QHBoxLayout(this);
    columns->setContentsMargins(0, 0, 0, 0);
    columns->setSpacing(theme.px(32));
    auto* left = new QVBoxLayout;
    left->setSpacing(theme.px(8));
    m_intro = new TextLabel(theme, TextLabel::Role::body);
    m_intro->setObjectName(QStringLiteral("ratesIntro"));
    left->addWidget(m_intro);
    m_bars = new BudgetBars(theme);
    left->addWidget(m_bars);
    m_remedies = new QVBoxLayout;
    m_remedies->setSpacing(theme.px(4));
    left->addLayout(m_remedies);
    m_table = new QVBoxLayout;
    left->addLayout(m_table);
    left->addStretch(1);
    columns->addLayout(left, 1);
    columns->addWidget(buildPreview(), 1);
}

QWidget* RatesView::buildPreview() {
    Theme& theme = m_context.theme();
    auto* right = new QWidget;
    auto* box = new QVBoxLayout(right);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme.px(8));
    box->addWidget(new TextLabel(theme, TextLabel::Role::name, tr("What decimation keeps")));
    auto* row = new QHBoxLayout;
    row->setSpacing(theme.px(8));
    m_reading = new QComboBox;
    m_reading->setObjectName(QStringLiteral("rateReading"));
    m_reading->setAccessibleName(tr("Reading to look at"));
    m_every = new QSpinBox;
    m_every->setObjectName(QStringLiteral("rateEvery"));
    m_every->setAccessibleName(tr("Values that become one"));
    m_every->setRange(2, 1000);
    m_every->setValue(15);
    m_every->setPrefix(tr("one of "));
    m_every->setButtonSymbols(QAbstractSpinBox::NoButtons);
    m_every->setToolTip(tr("Type a number, or use the arrow keys"));
    row->addWidget(m_reading, 1);
    row->addWidget(m_every);
    box->addLayout(row);
    m_plot = new Plot(theme);
    m_plot->setObjectName(QStringLiteral("ratePlot"));
    m_plot->setAccessibleName(tr("Values, their mean with minimum and maximum, and the newest of each run alone"));
    m_plot->setMinimumHeight(theme.px(200));
    m_low = m_plot->addGraph();
    m_high = m_plot->addGraph();
    m_all = m_plot->addGraph();
    m_mean = m_plot->addGraph();
    m_newest = m_plot->addGraph();
    box->addWidget(m_plot, 1);
    m_loss = new TextLabel(theme, TextLabel::Role::body);
    m_loss->setObjectName(QStringLiteral("rateLoss"));
    box->addWidget(m_loss);
    connect(m_reading, &QComboBox::activated, this, &RatesView::chooseReading);
    connect(m_every, &QSpinBox::valueChanged, this, &RatesView::refreshLive);
    connect(m_plot, &Plot::restyled, this, &RatesView::restyle);
    restyle();
    return right;
}

void RatesView::restyle() {
    Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    QColor band = t.accent;
    band.setAlphaF(0.22F);
    m_low->setPen(Qt::NoPen);
    m_high->setPen(Qt::NoPen);
    m_high->setBrush(band);
    m_high->setChannelFillGraph(m_low);
    for (QCPGraph* graph : {m_low, m_high, m_mean})
        graph->setLineStyle(QCPGraph::lsStepLeft);
    QColor faint = t.soft;
    faint.setAlphaF(0.7F);
    m_all->setPen(theme.pen(faint, 1));
    m_mean->setPen(theme.pen(t.accent, 2));
    m_newest->setLineStyle(QCPGraph::lsNone);
    m_newest->setScatterStyle(QCPScatterStyle(QCPScatterStyle::ssCircle, t.look, t.sheet, theme.px(6)));
}

void RatesView::setBoard(const std::string& board) {
    m_board = board;
    Session& session = m_context.session();
    Theme& theme = m_context.theme();
    const BoardUse* use = session.bench().board(board);
    if (!use) return;
    const RatePlan plan = rate_plan(session.bench(), *use);
    double values = 0;
    for (const RateSource& s : plan.sources)
        values += s.values_per_s;
    set_text(m_intro, plan.sources.empty()
                          ? tr("No reading’s numbers come over %1 yet.").arg(from_std(use->name))
                          : tr("%n reading(s) make %1 over %2.", nullptr, static_cast<int>(plan.sources.size()))
                                .arg(rate_text(values, "values"), from_std(use->name)));
    m_bars->setRows(rows_of(plan));
    clear_layout(m_remedies);
    for (const RateSink& sink : plan.sinks)
        if (sink.lost() > 0) {
            auto* text = new TextLabel(theme, TextLabel::Role::body,
                                       tr("%1 % have no room at the %2. %3")
                                           .arg(std::lround(100 * sink.lost()))
                                           .arg(from_std(sink.name), from_std(sink.remedy)));
            text->setColour(theme.colours().bad);
            m_remedies->addWidget(text);
        }
    clear_layout(m_table);
    if (!plan.sources.empty()) {
        auto* grid = new QGridLayout;
        grid->setHorizontalSpacing(theme.px(14));
        grid->setVerticalSpacing(theme.px(5));
        const QStringList heads = {tr("reading"), tr("looks"), tr("sends"),
                                   plan.decimations.empty() ? QString() : tr("so many become one")};
        for (int column = 0; column < heads.size(); ++column)
            grid->addWidget(new TextLabel(theme, TextLabel::Role::soft, heads[column]), 0, column);
        int row = 1;
        for (const RateSource& s : plan.sources) {
            auto* name = new TextLabel(theme, TextLabel::Role::body, from_std(s.name));
            name->setWordWrap(false);
            grid->addWidget(name, row, 0);
            QStringList runs;
            for (const RateDecimation& d : plan.decimations)
                if (d.reading == s.reading) runs << tr("%1, %2").arg(d.every).arg(from_std(d.where));
            const QStringList cells = {rate_text(s.samples_per_s, {}), rate_text(s.values_per_s, {})};
            for (int column = 0; column < cells.size(); ++column)
                grid->addWidget(new TextLabel(theme, TextLabel::Role::mono, cells[column]), row, column + 1);
            grid->addWidget(new TextLabel(theme, TextLabel::Role::soft, runs.join(QStringLiteral("; "))), row, 3);
            ++row;
        }
        grid->setColumnStretch(3, 1);
        m_table->addLayout(grid);
        if (plan.decimations.empty())
            m_table->addWidget(new TextLabel(
                theme, TextLabel::Role::soft,
                tr("Nothing has to be thinned out. A service with a quota is set under “How it is fed and run”.")));
    }
    const QString before = m_reading->currentData().toString();
    m_reading->clear();
    for (const RateSource& s : plan.sources)
        m_reading->addItem(from_std(s.name), from_std(s.reading));
    m_reading->setCurrentIndex(std::max(0, m_reading->findData(before)));
    m_thinned.clear();
    for (const RateDecimation& d : plan.decimations) // what a board thins out never arrives here
        if (d.where != "on the board")
            m_thinned[d.reading] = static_cast<int>(std::min<std::size_t>(d.every, 1000));
    chooseReading();
}

void RatesView::chooseReading() {
    const auto planned = m_thinned.find(m_reading->currentData().toString().toStdString());
    m_every->setValue(planned == m_thinned.end() ? 15 : planned->second);
    refreshLive();
}

void RatesView::refreshLive() {
    const Reading* r = m_context.session().bench().reading(m_reading->currentData().toString().toStdString());
    const auto live = r ? m_context.live().readings.find(r->id) : m_context.live().readings.end();
    QVector<double> x;
    std::vector<double> values;
    if (live != m_context.live().readings.end())
        for (const LivePoint& p : live->second.points) {
            if (!std::isfinite(p.value)) continue;
            x.append(seconds(p.time - m_context.session().now()));
            values.push_back(p.value);
        }
    const auto every = static_cast<std::size_t>(m_every->value());
    if (const std::size_t shown = shown_runs * every; values.size() > shown) { // as many as the eye can part
        values.erase(values.begin(), values.end() - static_cast<std::ptrdiff_t>(shown));
        x.remove(0, x.size() - static_cast<qsizetype>(shown));
    }
    m_plot->setVisible(values.size() > every);
    if (!r || values.size() <= every) {
        set_text(m_loss, tr("It takes %1 live values to show what becomes of them.").arg(every + 1));
        return;
    }
    const auto runs = decimate(values, every);
    QVector<double> run_x, low, high, mean, newest_x, newest;
    for (std::size_t k = 0; k < runs.size(); ++k) {
        const std::size_t end = std::min(values.size(), (k + 1) * every) - 1;
        run_x.append(x[static_cast<qsizetype>(k * every)]);
        low.append(runs[k].low);
        high.append(runs[k].high);
        mean.append(runs[k].mean);
        newest_x.append(x[static_cast<qsizetype>(end)]);
        newest.append(values[end]);
    }
    run_x.append(x.last());
    low.append(low.last());
    high.append(high.last());
    mean.append(mean.last());
    m_low->setData(run_x, low, true);
    m_high->setData(run_x, high, true);
    m_mean->setData(run_x, mean, true);
    m_newest->setData(newest_x, newest, true);
    m_all->setData(x, QVector<double>(values.begin(), values.end()), true);
    m_plot->xAxis->setLabel(tr("seconds before now"));
    m_plot->xAxis->setRange(x.first(), 0);
    const auto [least, most] = std::minmax_element(values.begin(), values.end());
    m_plot->yAxis->setRange(comfortable_range(*least, *most, 1e-9));
    m_plot->setYUnit(from_std(unit_symbol(r->quantity.unit)));
    const DecimationLoss loss = loss_of_newest_only(values, every);
    const double missed = std::max(loss.missed_above, loss.missed_below);
    set_text(
        m_loss,
        tr("Of the last %1 values, sending only one in %2 (circles) would have hidden up to %3 and been off the "
           "mean by up to %4. Mean, minimum and maximum (line and band) hide nothing.")
            .arg(values.size())
            .arg(every)
            .arg(from_std(format_measure(missed, r->quantity.unit, 2)),
                 from_std(format_measure(loss.mean_off, r->quantity.unit, 2))));
    m_plot->drawLater();
}

} // namespace cognitum
