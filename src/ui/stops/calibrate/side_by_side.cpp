#include "ui/stops/calibrate/side_by_side.h"

#include "core/units/format.h"
#include "core/units/unit.h"
#include "store/exchange/text_table.h"
#include "store/file/data_files.h"
#include "ui/plots/plot.h"
#include "ui/widgets/parts.h"

#include <QComboBox>
#include <QFileInfo>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

constexpr std::size_t most_samples = 20'000; ///< the newest ones: a comparison that nobody waits for

Result<std::vector<TimedValue>> read_series(const std::string& path) {
    COGNITUM_TRY(text, read_text_file(path, 256 << 20));
    COGNITUM_TRY(table, parse_table(path, text));
    return series_of(table);
}

std::vector<TimedValue> since_then(const std::vector<TimedValue>& all, TimeUs since) {
    auto first = std::find_if(all.begin(), all.end(), [&](const TimedValue& v) { return v.time >= since; });
    if (all.end() - first > static_cast<std::ptrdiff_t>(most_samples)) first = all.end() - most_samples;
    return {first, all.end()};
}

} // namespace

SideBySide::SideBySide(Context& context, const Reading& reading, QWidget* parent)
    : QDialog(parent), m_context(context), m_reading(reading.id) {
    Theme& theme = context.theme();
    setWindowTitle(tr("Side by side"));
    setObjectName(QStringLiteral("sideBySide"));
    auto* layout = new QVBoxLayout(this);
    layout->setSpacing(theme.px(8));
    auto* row = new QHBoxLayout;
    row->addWidget(new TextLabel(theme, TextLabel::Role::name, tr("%1 beside").arg(from_std(reading.name))));
    m_other = new QComboBox;
    m_other->setObjectName(QStringLiteral("otherReading"));
    m_other->setAccessibleName(tr("The other reading"));
    const Unit* own = find_unit(reading.quantity.unit);
    for (const Reading& other : context.session().bench().readings) {
        const Unit* its = find_unit(other.quantity.unit);
        if (other.id != reading.id && own && its && own->dimension == its->dimension &&
            other.quantity.kind == reading.quantity.kind)
            m_other->addItem(from_std(other.name), from_std(other.id));
    }
    m_other->addItem(tr("a file of time and value …"), QString());
    m_span = new QComboBox;
    m_span->setObjectName(QStringLiteral("comparedSpan"));
    m_span->setAccessibleName(tr("Span"));
    for (const auto& [text, days] :
         {std::pair{tr("the last day"), 1}, std::pair{tr("the last week"), 7}, std::pair{tr("all of it"), 0}})
        m_span->addItem(text, days);
    m_span->setCurrentIndex(2);
    row->addWidget(m_other, 1);
    row->addWidget(m_span);
    layout->addLayout(row);
    m_plot = new Plot(theme);
    m_plot->setObjectName(QStringLiteral("sideBySidePlot"));
    m_plot->setAccessibleName(tr("Both readings over time"));
    m_plot->setMinimumHeight(theme.px(200));
    m_plot->useTimeAxis();
    m_a = m_plot->addGraph();
    m_b = m_plot->addGraph();
    layout->addWidget(m_plot, 1);
    m_verdict = new TextLabel(theme, TextLabel::Role::name);
    m_verdict->setObjectName(QStringLiteral("sideBySideVerdict"));
    m_figures = new TextLabel(theme, TextLabel::Role::body);
    m_figures->setObjectName(QStringLiteral("sideBySideFigures"));
    m_cannot = new TextLabel(theme, TextLabel::Role::soft);
    m_cannot->setObjectName(QStringLiteral("sideBySideCannot"));
    for (TextLabel* label : {m_verdict, m_figures, m_cannot}) {
        label->setWordWrap(true);
        layout->addWidget(label);
    }
    auto* close = make_button(tr("Close"), QStringLiteral("sideBySideClose"));
    layout->addWidget(close, 0, Qt::AlignLeft);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    connect(m_other, &QComboBox::activated, this, &SideBySide::otherChosen);
    connect(m_span, &QComboBox::activated, this, &SideBySide::compare);
    m_a->setPen(theme.pen(theme.colours().accent, 2));
    QPen dashed = theme.pen(theme.colours().look, 1.6);
    dashed.setStyle(Qt::DashLine);
    m_b->setPen(dashed);
    compare();
    resize(theme.px(680), theme.px(520));
}

/// A file is read once, when it is chosen; its values are in the reading's own unit.
void SideBySide::otherChosen() {
    m_from_file.clear();
    m_file_trouble.clear();
    if (!m_other->currentData().toString().isEmpty()) return compare();
    const QString path = m_context.askOpenPath(this, tr("What another instrument recorded"), tr("CSV (*.csv)"));
    m_file_name = QFileInfo(path).completeBaseName().toStdString();
    if (path.isEmpty()) {
        m_file_trouble = tr("No file was chosen.");
        return compare();
    }
    const int choice = ++m_choice;
    set_text(m_verdict, tr("The file is being read …"));
    set_text(m_figures, {});
    set_text(m_cannot, {});
    m_file_question.ask(
        m_context.session().archive(), this, [path = path.toStdString()](BenchFile&) { return read_series(path); },
        [this, choice](const Result<std::vector<TimedValue>>& series) {
            if (choice != m_choice) return;
            if (series)
                m_from_file = *series;
            else
                m_file_trouble = from_std(series.error().text());
            compare();
        });
}

void SideBySide::compare() {
    const int choice = ++m_choice; // an answer to an older one is of no use
    Session& session = m_context.session();
    const Reading* a = session.bench().reading(m_reading);
    const std::string id = m_other->currentData().toString().toStdString();
    const Reading* b = session.bench().reading(id);
    if (id.empty() && !m_file_trouble.isEmpty()) {
        set_text(m_verdict, m_file_trouble);
        set_text(m_figures,
                 tr("A file has a header line “time,value”, times as ISO 8601 or seconds since 1970, and "
                    "values in %1.")
                     .arg(from_std(unit_symbol(a ? a->quantity.unit : std::string()))));
        set_text(m_cannot, {});
        return;
    }
    if (!a || (!b && m_from_file.empty())) {
        set_text(m_verdict, tr("There is no other reading of this quantity on the bench."));
        set_text(m_figures, tr("Put a second sensor beside this one, or choose a file of what another instrument "
                               "recorded."));
        set_text(m_cannot, {});
        return;
    }
    const int days = m_span->currentData().toInt();
    const TimeUs now = session.now();
    const TimeUs since = days > 0 ? now - days * day_us : 0;
    const std::string other = b ? b->name : m_file_name;
    const bool one_design = b && !a->sensor.part.empty() && a->sensor.part == b->sensor.part;
    set_text(m_verdict, tr("Comparing …"));
    set_text(m_figures, {}); // those of the last choice would look like its own
    set_text(m_cannot, {});
    m_question.ask(
        session.archive(), this,
        [a = *a, b = b ? std::optional(*b) : std::nullopt, other, since, now,
         from_file = since_then(m_from_file, since)](BenchFile& file) -> Result<Compared> {
            const std::string& unit = a.quantity.unit;
            Compared out;
            COGNITUM_TRY(first, recorded_values(file, a, since, now, unit, most_samples));
            out.first = std::move(first);
            out.second = from_file;
            if (b) {
                COGNITUM_TRY(second, recorded_values(file, *b, since, now, unit, most_samples));
                out.second = std::move(second);
            }
            out.comparison = compare_series(out.first, out.second, 0, {a.name, other, unit});
            return out;
        },
        [this, other, one_design, choice](const Result<Compared>& compared) {
            if (choice != m_choice) return;
            if (compared) return show(*compared, from_std(other), one_design);
            set_text(m_verdict, from_std(compared.error().text()));
            set_text(m_figures, {});
            set_text(m_cannot, {});
        });
}

void SideBySide::show(const Compared& compared, const QString& other, bool one_design) {
    const Reading* a = m_context.session().bench().reading(m_reading);
    if (!a) return;
    const Comparison& c = compared.comparison;
    draw(compared.first, compared.second, other);
    if (c.n == 0) {
        set_text(m_verdict, tr("The two were not recorded at the same time."));
        set_text(m_figures, tr("Record both for a while, over as much of the range as you can."));
        set_text(m_cannot, {});
        return;
    }
    QString verdict = from_std(c.verdict);
    if (!verdict.isEmpty()) verdict[0] = verdict[0].toUpper();
    set_text(m_verdict, verdict);
    const auto say = [&](double value) {
        return from_std(format_measure(std::abs(value) < 1e-9 ? 0 : value, a->quantity.unit, 2));
    };
    set_text(m_figures,
             tr("%1 pairs; bias %2 (± %3), scatter of the differences %4. Slope %5 (Theil–Sen), %6 (York). %7")
                 .arg(c.n)
                 .arg(say(c.bias), say(2 * c.u_bias), say(c.sd), from_std(format_constant(c.slope, 3)),
                      from_std(format_constant(c.slope_york, 3)),
                      c.lag_known ? tr("%1 is %2 s later.").arg(other, from_std(format_constant(c.lag_s, 3)))
                                  : tr("A lag cannot be told.")));
    QStringList cannot;
    for (const std::string& words : c.cannot_show)
        cannot << from_std(words);
    if (one_design) cannot.prepend(tr("Both are of one design: what both get wrong does not show here."));
    set_text(m_cannot, cannot.join(QLatin1Char(' ')));
}

/// What both have, and a little around it.
void SideBySide::draw(const std::vector<TimedValue>& a, const std::vector<TimedValue>& b, const QString& other) {
    const auto set = [](QCPGraph* graph, const std::vector<TimedValue>& values) {
        QVector<double> x, y;
        const std::size_t step = std::max<std::size_t>(1, values.size() / 2000);
        for (std::size_t i = 0; i < values.size(); i += step) {
            x.append(seconds(values[i].time));
            y.append(values[i].value);
        }
        graph->setData(x, y, true);
    };
    set(m_a, a);
    set(m_b, b);
    if (a.empty() && b.empty()) return;
    const std::vector<TimedValue>&one = a.empty() ? b : a, &two = b.empty() ? a : b;
    const double begin = seconds(std::max(one.front().time, two.front().time));
    const double end = std::max(begin + 1, seconds(std::min(one.back().time, two.back().time)));
    const double air = 0.03 * std::max(end - begin, 60.0);
    const QCPRange shown(begin - air, end + air);
    double low = std::numeric_limits<double>::infinity(), high = -low;
    for (const auto* values : {&a, &b})
        for (const TimedValue& v : *values)
            if (shown.contains(seconds(v.time))) {
                low = std::min(low, v.value);
                high = std::max(high, v.value);
            }
    const Reading* reading = m_context.session().bench().reading(m_reading);
    m_plot->xAxis->setRange(shown);
    if (high >= low) m_plot->yAxis->setRange(comfortable_range(low, high, reading->quantity.accuracy));
    m_plot->setYUnit(tr("%1; %2 broken").arg(from_std(unit_symbol(reading->quantity.unit)), other));
    m_plot->drawLater();
}

} // namespace cognitum
