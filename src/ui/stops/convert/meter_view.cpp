#include "ui/stops/convert/meter_view.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/paper/on_paper.h"
#include "ui/save_file.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QPainter>
#include <QTableWidget>
#include <QVBoxLayout>
#include <cmath>

namespace cognitum {

std::string meter_cell(const Value& value, const std::string& unit, double largest) {
    if (!value.ok()) return "—";
    if (same_unit(unit, "count")) return format_fixed(value.number, 0);
    const double power = largest > 0 ? std::floor(std::log10(largest)) : 0;
    return format_fixed(value.number, std::clamp(3 - static_cast<int>(power), 0, 6));
}

namespace {

double largest_of(const MeterTable& table, std::size_t column) {
    double out = 0;
    for (const auto& row : table.rows)
        if (row[column].ok()) out = std::max(out, std::abs(row[column].number));
    return out;
}

QString head_of(const MeterTable::Column& column) {
    const QString unit = column.unit == "count" ? Session::tr("count") : from_std(unit_symbol(column.unit));
    return unit.isEmpty() ? from_std(column.title) : QStringLiteral("%1, %2").arg(from_std(column.title), unit);
}

} // namespace

MeterView::MeterView(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("meterView"));
    Theme& theme = context.theme();
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme.px(10));
    auto* row = new QHBoxLayout;
    row->setSpacing(theme.px(8));
    const auto field = [&](const QString& text, const char* name) {
        row->addWidget(new TextLabel(theme, TextLabel::Role::body, text));
        auto* out = new NumberField(theme, QLatin1String(name), text, 13);
        out->setFixedWidth(theme.px(110));
        row->addWidget(out);
        return out;
    };
    m_from = field(tr("from"), "meterFrom");
    m_to = field(tr("to"), "meterTo");
    m_step = field(tr("in steps of"), "meterStep");
    row->addStretch(1);
    box->addLayout(row);
    row = new QHBoxLayout; // of its own: beside the fields it needs a window of more than 1280
    row->setSpacing(theme.px(8));
    auto* pdf = make_button(tr("Save as PDF"), QStringLiteral("meterPdf"));
    auto* csv = make_button(tr("Save as CSV"), QStringLiteral("meterCsv"));
    auto* print = make_button(tr("Print"), QStringLiteral("meterPrint"));
    row->addWidget(print);
    row->addWidget(pdf);
    row->addWidget(csv);
    row->addStretch(1);
    box->addLayout(row);
    m_table = new QTableWidget;
    m_table->setObjectName(QStringLiteral("meterTable"));
    m_table->setAccessibleName(tr("What a meter should show"));
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setSelectionMode(QAbstractItemView::NoSelection);
    m_table->setShowGrid(false);
    m_table->setFrameShape(QFrame::NoFrame);
    m_table->verticalHeader()->hide();
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::Stretch);
    m_table->horizontalHeader()->setDefaultAlignment(Qt::AlignRight | Qt::AlignVCenter);
    box->addWidget(m_table, 1);
    m_note = new TextLabel(theme, TextLabel::Role::soft);
    m_note->setWordWrap(true);
    box->addWidget(m_note);
    connect(m_from, &NumberField::numberEdited, this, [this](double v) { m_typed_from = v, fill(); });
    connect(m_to, &NumberField::numberEdited, this, [this](double v) { m_typed_to = v, fill(); });
    connect(m_step, &NumberField::numberEdited, this, [this](double v) { m_typed_step = v, fill(); });
    connect(print, &QPushButton::clicked, this, [this] {
        if (const Reading* r = m_context.reading())
            print_paper(m_context, this, meter_paper(m_context.session().bench(), *r, m_values));
    });
    connect(pdf, &QPushButton::clicked, this, [this] { save(true); });
    connect(csv, &QPushButton::clicked, this, [this] { save(false); });
}

void MeterView::forget() {
    m_typed_from.reset();
    m_typed_to.reset();
    m_typed_step.reset();
    m_key.clear();
}

void MeterView::show(const Reading& reading, const Chain& chain) {
    std::string key = chain_json(chain).dump() + reading.id;
    if (key == m_key) return;
    m_key = std::move(key);
    m_chain = chain;
    fill();
}

MeterView::Span MeterView::span() const {
    const Quantity& q = m_context.reading()->quantity;
    const double from = m_typed_from.value_or(q.low), to = m_typed_to.value_or(q.high);
    return {from, to, m_typed_step.value_or(round_step(to - from, 14))};
}

MeterTable MeterView::table() const {
    const auto [from, to, step] = span();
    return meter_table(m_chain, from, to, step);
}

void MeterView::fill() {
    const Reading* r = m_context.reading();
    if (!r) return;
    const auto [from, to, step] = span();

    const QString symbol = from_std(unit_symbol(r->quantity.unit));
    for (NumberField* field : {m_from, m_to, m_step})
        field->setUnit(symbol);
    m_from->show(from_std(format_constant(from)));
    m_to->show(from_std(format_constant(to)));
    m_step->show(from_std(format_constant(step)));
    m_values = table();

    m_table->clear();
    m_table->setColumnCount(static_cast<int>(m_values.columns.size()));
    m_table->setRowCount(static_cast<int>(m_values.rows.size()));
    QStringList heads;
    for (const auto& column : m_values.columns)
        heads << head_of(column);
    m_table->setHorizontalHeaderLabels(heads);
    std::string cause;
    for (std::size_t i = 0; i < m_values.rows.size(); ++i) {
        if (cause.empty()) cause = m_values.causes[i];
        for (std::size_t c = 0; c < m_values.columns.size(); ++c) {
            auto* item = new QTableWidgetItem(
                from_std(meter_cell(m_values.rows[i][c], m_values.columns[c].unit, largest_of(m_values, c))));
            item->setTextAlignment(Qt::AlignRight | Qt::AlignVCenter);
            item->setFont(m_context.theme().mono(c == 0 ? 13 : 12));
            m_table->setItem(static_cast<int>(i), static_cast<int>(c), item);
        }
        m_table->setRowHeight(static_cast<int>(i), static_cast<int>(m_context.theme().px(24)));
    }
    set_text(m_note, m_values.rows.empty()
                         ? tr("Nothing to show: the step must be above zero and the range must rise.")
                     : cause.empty() ? tr("Constants as they are now; what follows other readings moves with them.")
                                     : from_std(phrase("A dash: ") + cause));
}

void MeterView::save(bool pdf) {
    const Reading* r = m_context.reading();
    if (!r) return;
    const QString name = from_std(r->id) + (pdf ? QStringLiteral("-meter.pdf") : QStringLiteral("-meter.csv"));
    const QString path =
        m_context.askSavePath(this, tr("What a meter should show"), name, pdf ? paper_filter() : tr("CSV (*.csv)"));
    if (path.isEmpty()) return;
    const auto in_english = [&] {
        const InEnglish in_the_file;
        return meter_table_csv(table());
    };
    const Result<void> done =
        pdf ? meter_paper(m_context.session().bench(), *r, m_values).save(path) : save_text(path, in_english());
    emit m_context.said(done ? tr("The table is saved as %1.").arg(path) : from_std(done.error().text()));
}

Paper meter_paper(const Bench& bench, const Reading& reading, const MeterTable& values) {
    Paper paper(from_std(bench.name + (bench.place.empty() ? "" : ", " + bench.place)), from_std(reading.name),
                Session::tr("What a meter should show, place by place along the path."));
    PaperTable table;
    for (const auto& column : values.columns) {
        table.numbers << static_cast<int>(table.head.size());
        table.head << head_of(column);
    }
    for (const auto& row : values.rows) {
        QStringList cells;
        for (std::size_t c = 0; c < row.size(); ++c)
            cells << from_std(meter_cell(row[c], values.columns[c].unit, largest_of(values, c)));
        table.rows << cells;
    }
    paper.table(table);
    return paper;
}

} // namespace cognitum
