#include "ui/pages/logbook/periods_dialog.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "store/zone.h"
#include "ui/pages/logbook/figures_table.h"
#include "ui/pages/logbook/report.h"
#include "ui/widgets/parts.h"

#include <QDateTime>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QPainter>
#include <algorithm>
#include <cmath>

namespace cognitum {

namespace {

QString with_doubt(double value, double doubt) {
    if (!std::isfinite(value)) return QStringLiteral("—");
    if (!std::isfinite(doubt)) return from_std(format_constant(value, 4));
    return from_std(format_with_doubt(value, doubt, "1"));
}

QString measured(double coverage) {
    return PeriodsDialog::tr("%1 %").arg(
        from_std(format_fixed(100 * coverage, coverage > 0 && coverage < 0.1 ? 1 : 0)));
}

} // namespace

PeriodsDialog::PeriodsDialog(Context& context, const std::string& reading, QWidget* parent)
    : QDialog(parent), m_context(context) {
    setObjectName(QStringLiteral("periodsDialog"));
    setWindowTitle(tr("Month by month"));
    Theme& theme = context.theme();
    auto* rows = new QVBoxLayout(this);
    rows->setContentsMargins(theme.px(24), theme.px(20), theme.px(24), theme.px(20));
    rows->setSpacing(theme.px(10));
    auto* bar = new QHBoxLayout;
    const auto choice = [&](const char* name, const QString& about) {
        auto* box = new QComboBox(this);
        box->setObjectName(QLatin1String(name));
        box->setAccessibleName(about);
        bar->addWidget(box);
        return box;
    };
    m_reading = choice("periodReading", tr("Reading"));
    bar->addWidget(new TextLabel(theme, TextLabel::Role::soft, tr("beside"), this));
    m_other = choice("periodOther", tr("Another reading beside it"));
    m_period = choice("periodLength", tr("Length of a period"));
    m_day = choice("periodDay", tr("When a day begins"));
    bar->addStretch(1);
    for (const Reading& r : context.session().bench().readings)
        m_reading->addItem(from_std(r.name), from_std(r.id));
    m_reading->setCurrentIndex(std::max(0, m_reading->findData(from_std(reading))));
    for (const auto& [text, word] : {std::pair{tr("by month"), "month"},
                                     {tr("by day"), "day"},
                                     {tr("by season"), "season"},
                                     {tr("by year"), "year"}})
        m_period->addItem(text, QString::fromLatin1(word));
    m_day->addItem(tr("day from midnight"), 0);
    m_day->addItem(tr("day from 09:00"), 9);
    rows->addLayout(bar);
    m_bars = new PeriodBars(theme, this);
    rows->addWidget(m_bars, 1);
    m_table = new QTableWidget(this);
    m_table->setObjectName(QStringLiteral("periodTable"));
    m_table->setAccessibleName(tr("Figures of each period"));
    rows->addWidget(m_table, 1);
    m_says = new TextLabel(theme, TextLabel::Role::soft, {}, this);
    m_says->setObjectName(QStringLiteral("periodSays"));
    m_says->setWordWrap(true);
    auto* foot = new QHBoxLayout;
    foot->addWidget(m_says, 1);
    auto* report = make_link(tr("Report …"), QStringLiteral("periodsReport"));
    report->setToolTip(tr("Of the row that is chosen, or of all of them."));
    connect(report, &QPushButton::clicked, this, &PeriodsDialog::saveReport);
    foot->addWidget(report);
    auto* close = make_button(tr("Close"), QStringLiteral("periodsClose"));
    connect(close, &QPushButton::clicked, this, &QDialog::close);
    foot->addWidget(close);
    rows->addLayout(foot);
    fillOthers();
    connect(m_reading, &QComboBox::activated, this, [this] {
        fillOthers();
        ask();
    });
    for (QComboBox* box : {m_other, m_period, m_day})
        connect(box, &QComboBox::activated, this, &PeriodsDialog::ask);
    resize(theme.px(860), theme.px(560));
    ask();
}

/// Those of one dimension; the same reading is no comparison.
void PeriodsDialog::fillOthers() {
    const Bench& bench = m_context.session().bench();
    const Reading* own = bench.reading(m_reading->currentData().toString().toStdString());
    m_other->clear();
    m_other->addItem(tr("nothing"), QString());
    for (const Reading& r : bench.readings)
        if (own && r.id != own->id && r.quantity.kind == own->quantity.kind)
            m_other->addItem(from_std(r.name), from_std(r.id));
    m_other->setEnabled(m_other->count() > 1);
}

void PeriodsDialog::saveReport() {
    if (m_shown.rows.empty()) return;
    const int row = m_table->currentRow();
    const bool one = row >= 0 && row < static_cast<int>(m_shown.rows.size());
    const CalendarPeriod& first =
        one ? m_shown.rows[static_cast<std::size_t>(row)].period : m_shown.rows.front().period;
    const CalendarPeriod& last = one ? first : m_shown.rows.back().period;
    ReportRequest request;
    request.stretch = {first.from, last.to};
    request.title = m_reading->currentText().toStdString() + ", " +
                    (one || first.label == last.label ? first.label : first.label + phrase(" to ") + last.label);
    request.readings = {m_reading->currentData().toString().toStdString()};
    if (const QString other = m_other->currentData().toString(); !other.isEmpty())
        request.readings.push_back(other.toStdString());
    // Of one month its days are of use, of several they are the rows themselves.
    request.periods = one ? Period::day : *period_named(m_period->currentData().toString().toStdString());
    save_report(m_context, this, request);
}

void PeriodsDialog::ask() {
    Session& session = m_context.session();
    const std::string own = m_reading->currentData().toString().toStdString();
    const std::string other = m_other->currentData().toString().toStdString();
    const Period period = *period_named(m_period->currentData().toString().toStdString());
    const TimeUs day_start = m_day->currentData().toInt() * hour_us;
    const ZoneOffset zone = system_zone();
    m_question.ask(
        session.exports(), this,
        [=, bench = session.bench(), catalog = session.catalog()](BenchFile& file) -> Result<PeriodTable> {
            const Reading* a = bench.reading(own);
            if (!a) return failure(phrase("the reading is no longer in the plan."));
            return figures_by_period(file, bench, catalog, *a, bench.reading(other), period, zone, day_start);
        },
        [this](const Result<PeriodTable>& table) {
            if (table)
                show(*table);
            else
                set_text(m_says, from_std(table.error().text()));
        });
}

void PeriodsDialog::show(const PeriodTable& table) {
    m_shown = table;
    m_bars->show(table, m_reading->currentText(), m_other->currentText());
    const bool two =
        std::any_of(table.rows.begin(), table.rows.end(), [](const auto& r) { return r.other.has_value(); });
    const QString unit = from_std(unit_symbol(table.unit));
    QStringList head = {m_period->currentText().section(QLatin1Char(' '), -1),
                        (table.totals ? tr("total, %1") : tr("mean, %1")).arg(unit), tr("measured")};
    if (two) head << m_other->currentText() << tr("measured") << tr("difference") << tr("what it can prove");
    make_plain(m_table, head);
    m_table->setRowCount(static_cast<int>(table.rows.size()));
    for (int row = 0; row < static_cast<int>(table.rows.size()); ++row) {
        const PeriodFigures& f = table.rows[static_cast<std::size_t>(row)];
        QStringList cells = {from_std(f.period.label), with_doubt(f.own.value, f.own.doubt),
                             measured(f.own.coverage)};
        if (two && f.other)
            cells << with_doubt(f.other->value, f.other->doubt) << measured(f.other->coverage)
                  << with_doubt(f.difference, f.doubt_of_difference) << from_std(f.says);
        for (int column = 0; column < cells.size(); ++column) {
            auto* item = new QTableWidgetItem(cells[column]);
            if (column < 6) item->setFont(m_context.theme().mono(12));
            item->setToolTip(column == 6 ? cells[column] : QString());
            m_table->setItem(row, column, item);
        }
    }
    for (int column = 0; column + 1 < m_table->columnCount(); ++column)
        m_table->resizeColumnToContents(column);
    constexpr std::size_t few_rows = 400; // what can be proven may need two lines; of very many, one is enough
    m_table->verticalHeader()->setSectionResizeMode(table.rows.size() <= few_rows ? QHeaderView::ResizeToContents
                                                                                  : QHeaderView::Fixed);
    set_text(m_says,
             table.rows.empty()
                 ? tr("Nothing is recorded for this reading.")
                 : tr("± at 95 %. What was not measured is in no figure: a month of which little was measured "
                      "is no dry month."));
}

PeriodBars::PeriodBars(Theme& theme, QWidget* parent) : QWidget(parent), m_theme(theme) {
    setAccessibleName(tr("Periods as bars"));
    setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Expanding);
}

QSize PeriodBars::sizeHint() const {
    return {m_theme.px(700), m_theme.px(190)};
}

void PeriodBars::show(const PeriodTable& table, const QString& own, const QString& other) {
    m_table = table;
    m_own = own;
    m_other = other;
    update();
}

void PeriodBars::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.setRenderHint(QPainter::Antialiasing);
    const Tokens& t = m_theme.colours();
    double low = 0; // totals and means of bars stand on zero, where zero is a zero
    double high = 0;
    for (const PeriodFigures& f : m_table.rows)
        for (const PeriodValue& v : {f.own, f.other.value_or(PeriodValue{})})
            if (std::isfinite(v.value)) {
                const double reach = std::isfinite(v.doubt) ? v.doubt : 0;
                high = std::max(high, v.value + reach);
                low = std::min(low, v.value - reach);
            }
    if (!(high > low) || m_table.rows.empty()) return;
    const double left = m_theme.px(48);
    const double bottom = height() - m_theme.px(20);
    const double top = m_theme.px(m_table.rows.front().other ? 24 : 8);
    const auto y_of = [&](double v) { return bottom - (v - low) / (high - low) * (bottom - top); };
    painter.setFont(m_theme.mono(10));
    painter.setPen(t.soft);
    painter.drawText(QRectF(0, top - 6, left - 6, 14), Qt::AlignRight | Qt::AlignVCenter,
                     from_std(format_constant(high, 3)));
    painter.drawText(QRectF(0, y_of(0) - 7, left - 6, 14), Qt::AlignRight | Qt::AlignVCenter, QStringLiteral("0"));
    if (m_table.rows.front().other) { // which bar is whose
        painter.setFont(m_theme.text(12, true));
        const double own_width = QFontMetricsF(painter.font()).horizontalAdvance(m_own) + m_theme.px(12);
        painter.setPen(t.accent);
        painter.drawText(QRectF(left + 4, 0, own_width, m_theme.px(18)), Qt::AlignLeft | Qt::AlignVCenter, m_own);
        painter.setPen(t.note);
        painter.drawText(QRectF(left + 4 + own_width, 0, width(), m_theme.px(18)), Qt::AlignLeft | Qt::AlignVCenter,
                         m_other);
    }
    painter.setPen(m_theme.pen(t.ink));
    painter.drawLine(QPointF(left, y_of(0)), QPointF(width(), y_of(0)));
    const double each = (width() - left) / static_cast<double>(m_table.rows.size());
    double written = left;
    for (std::size_t i = 0; i < m_table.rows.size(); ++i) {
        const PeriodFigures& f = m_table.rows[i];
        const double x = left + each * static_cast<double>(i);
        const double bar = std::min<double>(m_theme.px(44), each * 0.8) / (f.other ? 2 : 1);
        const double start = x + (each - bar * (f.other ? 2 : 1)) / 2;
        const auto draw = [&](const PeriodValue& v, double at, const QColor& colour) {
            if (!std::isfinite(v.value)) return;
            const QRectF box = QRectF(QPointF(at, y_of(v.value)), QPointF(at + bar - 1, y_of(0))).normalized();
            constexpr double nearly_all = 0.95;
            painter.fillRect(box, v.coverage < nearly_all ? QBrush(colour, Qt::BDiagPattern) : QBrush(colour));
            painter.setPen(m_theme.pen(colour));
            painter.setBrush(Qt::NoBrush);
            painter.drawRect(box);
            if (!std::isfinite(v.doubt)) return;
            painter.setPen(m_theme.pen(t.ink, 1.4));
            const double middle = at + bar / 2;
            painter.drawLine(QPointF(middle, y_of(v.value - v.doubt)), QPointF(middle, y_of(v.value + v.doubt)));
        };
        draw(f.own, start, t.accent);
        if (f.other) draw(*f.other, start + bar, t.note);
        painter.setFont(m_theme.text(11));
        const QString label = from_std(f.period.label);
        const double half = QFontMetricsF(painter.font()).horizontalAdvance(label) / 2;
        const double centre = x + each / 2;
        if (centre - half < written) continue;
        written = centre + half + m_theme.px(8);
        painter.setPen(t.soft);
        painter.drawText(QRectF(centre - half, bottom + 3, 2 * half + 2, m_theme.px(16)), Qt::AlignCenter, label);
    }
}

} // namespace cognitum
