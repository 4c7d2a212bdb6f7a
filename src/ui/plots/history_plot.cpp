#include "ui/plots/history_plot.h"

#include "core/units/format.h"
#include "core/units/unit.h"
#include "session/language.h"

#include <algorithm>
#include <cmath>
#include <tuple>

namespace cognitum {

HistoryPlot::HistoryPlot(Context& context, QWidget* parent) : Plot(context.theme(), parent), m_context(context) {
    setObjectName(QStringLiteral("historyPlot"));
    setAccessibleName(tr("The reading over time"));
    useTimeAxis();
    m_band = new QCPItemRect(this);
    m_low = addGraph();
    m_high = addGraph();
    m_high->setChannelFillGraph(m_low);
    m_mean = addGraph();
    m_now = addGraph();
    for (QCPGraph*& shape : m_shapes)
        shape = addGraph();
    m_tracer = new QCPItemTracer(this);
    m_tracer->setStyle(QCPItemTracer::tsCircle);
    m_tracer->setVisible(false);
    setInteractions(QCP::iRangeDrag | QCP::iRangeZoom);
    axisRect()->setRangeDrag(Qt::Horizontal);
    axisRect()->setRangeZoom(Qt::Horizontal);
    connect(xAxis, qOverload<const QCPRange&>(&QCPAxis::rangeChanged), this, [this] {
        if (m_setting) return;
        m_follow = false; // somebody pans or zooms
        reload();
    });
    connect(this, &QCustomPlot::mouseMove, this, &HistoryPlot::onMove);
    const auto restyle = [this] {
        const Tokens& t = m_context.theme().colours();
        QColor wash = t.ink;
        wash.setAlphaF(0.18F);
        m_low->setPen(Qt::NoPen);
        m_high->setPen(Qt::NoPen);
        m_high->setBrush(wash);
        m_mean->setPen(m_context.theme().pen(t.ink, 1.4));
        m_now->setScatterStyle(
            QCPScatterStyle(QCPScatterStyle::ssDisc, t.accent, t.accent, m_context.theme().px(7)));
        const std::tuple<QCPScatterStyle::ScatterShape, QColor, bool> shapes[] = {
            {QCPScatterStyle::ssTriangle, t.look, true},
            {QCPScatterStyle::ssDiamond, t.bad, true},
            {QCPScatterStyle::ssCircle, t.soft, false}};
        for (std::size_t i = 0; i < m_shapes.size(); ++i) {
            const auto& [shape, colour, full] = shapes[i];
            m_shapes[i]->setLineStyle(QCPGraph::lsNone);
            m_shapes[i]->setScatterStyle(QCPScatterStyle(shape, m_context.theme().pen(colour, 1.6),
                                                         full ? QBrush(colour) : QBrush(t.sheet),
                                                         m_context.theme().px(10)));
        }
        m_band->setBrush(t.tint);
        m_band->setPen(Qt::NoPen);
        m_tracer->setPen(m_context.theme().pen(t.accent, 2));
        m_tracer->setBrush(t.sheet);
    };
    connect(this, &Plot::restyled, this, restyle);
    restyle();
}

void HistoryPlot::setReading(const std::string& id) {
    if (id == m_reading) return;
    m_reading = id;
    m_follow = true;
    reload(true);
}

void HistoryPlot::showLast(double span_s) {
    m_follow_s = span_s;
    m_follow = true;
    reload(true);
}

void HistoryPlot::reload(bool force) {
    Session& session = m_context.session();
    if (!session.isOpen() || m_reading.empty()) return;
    const bool all = m_follow && m_follow_s == 0;
    TimeUs to = session.now() / second_us * second_us; // the present moves by whole seconds
    if (m_follow && !all) setRange(to - from_seconds(m_follow_s), to);
    std::optional<TimeUs> from;
    if (!all) {
        from = from_seconds(xAxis->range().lower);
        to = from_seconds(xAxis->range().upper);
    }
    const Loaded wanted{m_context.live().recording.saved, session.planRevision(), from, to};
    if (!force && wanted == m_loaded) return;
    m_loaded = wanted;
    const auto most = static_cast<std::size_t>(std::max(200, width() / 2)); // no more than the eye can tell apart
    m_question.ask(
        session.archive(), this,
        [id = m_reading, from, to, most](BenchFile& file) { return recorded_stretch(file, id, from, to, most); },
        [this, id = m_reading, all](const Result<Stretch>& stretch) {
            if (id != m_reading) return;
            if (!stretch) { // nothing, rather than what was drawn before
                emit m_context.said(QString::fromStdString(stretch.error().text()));
                return draw({});
            }
            if (all && m_follow) setRange(stretch->from, stretch->to);
            draw(stretch->parts);
        });
}

void HistoryPlot::setRange(TimeUs from, TimeUs to) {
    m_setting = true;
    xAxis->setRange(seconds(from), seconds(to) + seconds(to - from) * 0.01);
    m_setting = false;
}

void HistoryPlot::draw(const std::vector<Summary>& parts) {
    const Reading* r = m_context.session().bench().reading(m_reading);
    QVector<double> x, low, high, mean;
    std::vector<double> steps;
    for (std::size_t i = 1; i < parts.size(); ++i)
        steps.push_back(seconds(parts[i].from - parts[i - 1].to));
    double usual = 0;
    if (!steps.empty()) {
        std::nth_element(steps.begin(), steps.begin() + static_cast<std::ptrdiff_t>(steps.size() / 2), steps.end());
        usual = steps[steps.size() / 2];
    }
    double bottom = INFINITY;
    double top = -INFINITY;
    const bool is_state = r && r->quantity.about().is_state();
    const auto gap = [&](double at) {
        x.append(at);
        for (auto* list : {&low, &high, &mean})
            list->append(qQNaN());
    };
    for (std::size_t i = 0; i < parts.size(); ++i) {
        const Summary& s = parts[i];
        const double at = seconds(s.from / 2 + s.to / 2);
        if (i > 0 && seconds(s.from - parts[i - 1].to) > std::max(5 * usual, 3.0))
            gap(seconds(parts[i - 1].to) + 0.001);
        if (s.valued == 0) { // failed measurements are a hole, not a number
            gap(at);
            continue;
        }
        x.append(at);
        // Of a state the share of the time, which has no band of extremes.
        low.append(is_state ? s.mean() : s.low);
        high.append(is_state ? s.mean() : s.high);
        mean.append(s.mean());
        bottom = std::min(bottom, low.last());
        top = std::max(top, high.last());
    }
    m_parts = parts;
    m_points = static_cast<int>(x.size());
    m_empty = !(bottom <= top);
    m_low->setData(x, low, true);
    m_high->setData(x, high, true);
    m_mean->setData(x, mean, true);
    m_now->data()->clear();
    if (m_follow && !m_empty && !parts.empty() && parts.back().valued) m_now->setData({x.last()}, {mean.last()});
    if (!m_empty)
        yAxis->setRange(is_state ? QCPRange(0, std::max(1.1 * top, 0.1))
                                 : comfortable_range(bottom, top, r ? 2 * r->quantity.accuracy : 1));
    setYUnit(is_state ? tr("share of the time")
             : r      ? QString::fromStdString(unit_symbol(r->quantity.unit))
                      : QString());
    drawBands();
    drawMarks();
    drawLater();
    emit drawn();
}

/// The band as a tint; of named ones their limits as thin lines with each band's name beside the axis.
void HistoryPlot::drawBands() {
    const Reading* r = m_context.session().bench().reading(m_reading);
    for (QCPAbstractItem* item : m_band_names)
        removeItem(item);
    m_band_names.clear();
    const QCPRange v = yAxis->range();
    const bool named = r && !r->named_bands.empty();
    m_band->setVisible(r && r->bands && !named);
    if (m_band->visible()) {
        m_band->topLeft->setCoords(xAxis->range().lower, std::clamp(r->bands->high, v.lower, v.upper));
        m_band->bottomRight->setCoords(xAxis->range().upper, std::clamp(r->bands->low, v.lower, v.upper));
    }
    if (!named) return;
    double low = v.lower;
    for (std::size_t i = 0; i < r->named_bands.size(); ++i) {
        const bool last = i + 1 == r->named_bands.size();
        const double high = last ? v.upper : std::clamp(r->named_bands[i].to, v.lower, v.upper);
        if (high - low > 0.08 * v.size()) { // there is room for its name
            auto* name = new QCPItemText(this);
            name->position->setTypeX(QCPItemPosition::ptAxisRectRatio);
            name->position->setTypeY(QCPItemPosition::ptPlotCoords);
            name->position->setCoords(0.995, (low + high) / 2);
            name->setPositionAlignment(Qt::AlignRight | Qt::AlignVCenter);
            name->setText(QString::fromStdString(r->named_bands[i].name));
            name->setColor(m_context.theme().colours().soft);
            m_band_names.push_back(name);
        }
        if (!last && r->named_bands[i].to > v.lower && r->named_bands[i].to < v.upper) {
            auto* line = new QCPItemStraightLine(this);
            line->point1->setCoords(xAxis->range().lower, high);
            line->point2->setCoords(xAxis->range().upper, high);
            line->setPen(QPen(m_context.theme().colours().soft, 1, Qt::DotLine));
            m_band_names.push_back(line);
        }
        low = std::max(low, high);
    }
}

void HistoryPlot::setMarks(const std::vector<HistoryMark>& marks) {
    if (marks == m_marks) return;
    m_marks = marks;
    drawMarks();
    drawLater();
}

/// Each at the value that was recorded nearest to it; those beside the picture are left out.
void HistoryPlot::drawMarks() {
    std::array<QVector<double>, 3> x, y;
    for (const HistoryMark& mark : m_marks) {
        const auto at = std::lower_bound(m_parts.begin(), m_parts.end(), mark.time,
                                         [](const Summary& s, TimeUs t) { return s.to < t; });
        if (m_empty || m_parts.empty() || !xAxis->range().contains(seconds(mark.time))) continue;
        auto near = at == m_parts.end() ? std::prev(at) : at;
        while (near != m_parts.begin() && !near->valued)
            --near;
        if (!near->valued) continue;
        const std::size_t shape = mark.mark == Mark::bad ? 1 : mark.mark == Mark::not_begun ? 2 : 0;
        x[shape].append(seconds(mark.time));
        y[shape].append(near->mean());
    }
    for (std::size_t i = 0; i < m_shapes.size(); ++i)
        m_shapes[i]->setData(x[i], y[i]);
}

int HistoryPlot::marksShown() const {
    int out = 0;
    for (const QCPGraph* shape : m_shapes)
        out += shape->dataCount();
    return out;
}

Interval HistoryPlot::shownStretch() const {
    return {from_seconds(xAxis->range().lower), from_seconds(xAxis->range().upper)};
}

void HistoryPlot::onMove(QMouseEvent* event) {
    if (m_empty) return;
    const double at = xAxis->pixelToCoord(event->position().x());
    const TimeUs time = from_seconds(at);
    const Summary* nearest = nullptr;
    for (const Summary& s : m_parts)
        if (s.valued && (!nearest || std::abs(s.from - time) < std::abs(nearest->from - time))) nearest = &s;
    const Reading* r = m_context.session().bench().reading(m_reading);
    if (!nearest || !r) return;
    const double x = seconds(nearest->from / 2 + nearest->to / 2);
    m_tracer->setVisible(true);
    m_tracer->setGraph(m_mean);
    m_tracer->setGraphKey(x);
    const double doubt = m_context.budget().expanded();
    const QString when = date_said(nearest->from, "d MMM HH:mm:ss");
    QString text = tr("%1 at %2")
                       .arg(QString::fromStdString(format_with_doubt(
                                nearest->mean(), std::isfinite(doubt) ? doubt : 0, r->quantity.unit)),
                            when);
    if (nearest->n > 1)
        text += tr(" · %n value(s), %1…%2", nullptr, static_cast<int>(nearest->n))
                    .arg(QString::fromStdString(format_value(nearest->low, doubt, "1")),
                         QString::fromStdString(format_value(nearest->high, doubt, r->quantity.unit)));
    emit cursorMoved(text);
    drawLater();
}

} // namespace cognitum
