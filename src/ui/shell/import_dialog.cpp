#include "ui/shell/import_dialog.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "session/language.h"
#include "store/zone.h"
#include "ui/widgets/parts.h"

#include <QFile>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>

namespace cognitum {

namespace {

constexpr qint64 head_bytes = 256 * 1024;

QString moment(TimeUs t) {
    return date_said(t, "d MMM yyyy HH:mm");
}

QString set_aside(const Rejections& rejected) {
    QString out;
    for (const Rejection& r : rejected.reasons())
        out +=
            ImportDialog::tr("\n%1 × %2, first in line %3").arg(r.count).arg(from_std(r.reason)).arg(r.first_line);
    return out;
}

} // namespace

ImportDialog::ImportDialog(Context& context, const QString& path, QWidget* parent)
    : QDialog(parent), m_context(context), m_path(path), m_watch(std::make_shared<Session::ImportWatch>()) {
    Theme& theme = context.theme();
    setObjectName(QStringLiteral("importDialog"));
    setWindowTitle(tr("Import %1").arg(QFileInfo(path).fileName()));
    resize(theme.px(820), theme.px(520));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(theme.px(24), theme.px(18), theme.px(24), theme.px(18));
    layout->setSpacing(theme.px(10));
    layout->addWidget(new TextLabel(theme, TextLabel::Role::title, tr("What it holds, and where it goes")));
    m_about = new TextLabel(theme, TextLabel::Role::body);
    m_about->setObjectName(QStringLiteral("importAbout"));
    m_about->setWordWrap(true);
    layout->addWidget(m_about);
    auto* times = new QHBoxLayout;
    m_times_label = new TextLabel(theme, TextLabel::Role::soft, tr("Its times are those of"));
    times->addWidget(m_times_label);
    const auto choice = [&](const char* name, const QString& about) {
        auto* box = new QComboBox;
        box->setObjectName(QLatin1String(name));
        box->setAccessibleName(about);
        times->addWidget(box);
        connect(box, &QComboBox::activated, this, &ImportDialog::preview);
        return box;
    };
    m_zone = choice("importZone", tr("The clock that wrote the times"));
    m_zone->addItem(tr("UTC"), QStringLiteral("UTC"));
    m_zone->addItem(tr("this computer’s clock"), QStringLiteral("local"));
    m_order = choice("importOrder", tr("Order of the dates"));
    m_order->addItem(tr("day first: 31.12.2026"), QStringLiteral("dmy"));
    m_order->addItem(tr("month first: 12/31/2026"), QStringLiteral("mdy"));
    m_order->setCurrentIndex(-1);
    m_order->setPlaceholderText(tr("which number is the day?"));
    times->addStretch(1);
    layout->addLayout(times);
    m_raw = new QCheckBox(tr("these are raw counts: send them through the reading’s path"));
    m_raw->setObjectName(QStringLiteral("importRaw"));
    layout->addWidget(m_raw);
    m_table = new QTableWidget;
    m_table->setObjectName(QStringLiteral("importPreview"));
    m_table->setAccessibleName(tr("First rows of the file; the row on top says where each column goes"));
    m_table->verticalHeader()->setVisible(false);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setShowGrid(false);
    layout->addWidget(m_table, 1);
    m_result = new TextLabel(theme, TextLabel::Role::body);
    m_result->setObjectName(QStringLiteral("importResult"));
    m_result->setWordWrap(true);
    layout->addWidget(m_result);
    m_progress = new QProgressBar;
    m_progress->setRange(0, 1000);
    m_progress->setTextVisible(false);
    m_progress->setAccessibleName(tr("How much of the file is in"));
    m_progress->hide();
    layout->addWidget(m_progress);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch(1);
    m_stop = make_button(tr("Stop"), QStringLiteral("importStop"));
    m_stop->setToolTip(tr("What is saved so far stays."));
    m_stop->hide();
    m_close = make_button(tr("Close"), QStringLiteral("importClose"));
    m_import = make_button(tr("Import"), QStringLiteral("importNow"), true);
    for (QPushButton* button : {m_stop, m_close, m_import})
        buttons->addWidget(button);
    layout->addLayout(buttons);
    connect(m_close, &QPushButton::clicked, this, &QDialog::accept);
    connect(m_import, &QPushButton::clicked, this, &ImportDialog::importNow);
    connect(m_stop, &QPushButton::clicked, this, [this] { m_watch->stop = true; });
    connect(m_raw, &QCheckBox::toggled, this, &ImportDialog::preview);
    m_tick.setInterval(100);
    connect(&m_tick, &QTimer::timeout, this, [this] {
        const auto size = static_cast<double>(std::max<qint64>(1, QFileInfo(m_path).size()));
        m_progress->setValue(static_cast<int>(1000 * static_cast<double>(m_watch->read) / size));
    });
    preview();
}

void ImportDialog::refuse(const Error& error) {
    set_text(m_about, from_std(error.text()));
    m_about->setColour(m_context.theme().colours().bad);
    m_import->setEnabled(false);
}

ImportOptions ImportDialog::options() const {
    ImportOptions out;
    out.as_raw = m_raw->isChecked();
    if (m_zone->currentData().toString() == QStringLiteral("local")) out.zone = system_zone();
    out.order = m_order->currentIndex() < 0 ? std::nullopt
                                            : date_order_named(m_order->currentData().toString().toStdString());
    return out;
}

void ImportDialog::preview() {
    QFile file(m_path);
    m_import->setEnabled(false);
    m_about->setColour({});
    m_table->clear();
    m_targets.clear();
    if (!QFileInfo(m_path).isFile() || !file.open(QIODevice::ReadOnly)) // a pipe would wait for its writer
        return refuse({phrase("it cannot be read."), m_path.toStdString(), phrase("Check its permissions.")});
    const QByteArray bytes = file.read(head_bytes);
    const std::string_view head(bytes.constData(), static_cast<std::size_t>(bytes.size()));
    m_form = form_of(head);
    if (m_form == ImportForm::plan)
        return refuse({phrase("this is the plan of a bench, and holds no samples."), m_path.toStdString(),
                       phrase("Open a bench, or make one of it with cognitum-cli import.")});
    if (m_form == ImportForm::csv)
        previewTable(head);
    else
        previewPoints(head);
}

QByteArray ImportDialog::endOfFile() const {
    constexpr qint64 end_bytes = 64 * 1024;
    QFile file(m_path);
    if (!file.open(QIODevice::ReadOnly)) return {};
    file.seek(std::max<qint64>(0, file.size() - end_bytes));
    return file.read(end_bytes);
}

void ImportDialog::previewTable(std::string_view head) {
    auto found = preview_csv(m_path.toStdString(), head, m_context.session().bench(), options());
    if (!found) return refuse(found.error());
    m_preview = std::move(*found);
    const bool unclear = !m_preview.order;
    const bool year_last = unclear || m_preview.order != DateOrder::year_first;
    m_times_label->setVisible(m_preview.local_times);
    m_zone->setVisible(m_preview.local_times);
    m_order->setVisible(year_last);
    if (year_last && !unclear) m_order->setCurrentIndex(m_preview.order == DateOrder::month_first ? 1 : 0);
    QString about =
        tr("The first %n row(s): %1 good", nullptr, static_cast<int>(m_preview.good + m_preview.rejected.total()))
            .arg(m_preview.good);
    if (m_preview.first && !unclear) {
        const std::optional<TimeUs> last = last_time(m_preview, endOfFile().toStdString(), options());
        about += last ? tr(", from %1 to %2").arg(moment(*m_preview.first), moment(*last))
                      : tr(", from %1 on").arg(moment(*m_preview.first));
    }
    about += QLatin1Char('.') + set_aside(m_preview.rejected);
    if (unclear) about = tr("Its dates can be read as day first and as month first: say which.");
    set_text(m_about, about);
    m_raw->setVisible(true);
    showColumns();
    m_import->setEnabled(!unclear);
    showSays();
}

void ImportDialog::showColumns() {
    m_table->setColumnCount(static_cast<int>(m_preview.columns.size()));
    m_table->setRowCount(static_cast<int>(m_preview.rows.size()) + 2);
    for (int c = 0; c < m_table->columnCount(); ++c) {
        const CsvColumn& column = m_preview.columns[static_cast<std::size_t>(c)];
        const QString title =
            from_std(column.name) +
            (column.unit.empty() ? QString() : QStringLiteral(" [%1]").arg(from_std(column.unit)));
        m_table->setHorizontalHeaderItem(c, new QTableWidgetItem(title));
        auto* target = new QComboBox;
        target->setObjectName(QStringLiteral("importTarget%1").arg(c));
        target->setAccessibleName(tr("Where %1 goes").arg(title));
        if (column.use == CsvColumn::Use::time || column.use == CsvColumn::Use::date || m_preview.is_long) {
            const bool is_time = column.use == CsvColumn::Use::time || column.use == CsvColumn::Use::date;
            target->addItem(is_time ? tr("time") : tr("as it says"), QStringLiteral("!as_it_is"));
            target->setEnabled(false);
        } else {
            target->addItem(tr("leave it out"), QStringLiteral("!skip"));
            target->addItem(tr("a new reading"), QString());
            for (const Reading& r : m_context.session().bench().readings)
                target->addItem(from_std(r.name), from_std(r.id));
            target->setCurrentIndex(
                std::max(0, target->findData(column.use == CsvColumn::Use::skip ? QStringLiteral("!skip")
                                                                                : from_std(column.reading))));
            connect(target, &QComboBox::activated, this, &ImportDialog::showSays);
        }
        m_targets.append(target);
        m_table->setCellWidget(0, c, target);
        for (int r = 0; r < static_cast<int>(m_preview.rows.size()); ++r) {
            const auto& cells = m_preview.rows[static_cast<std::size_t>(r)];
            if (c < static_cast<int>(cells.size()))
                m_table->setItem(r + 2, c, new QTableWidgetItem(from_std(cells[static_cast<std::size_t>(c)])));
        }
        m_table->setColumnWidth(c, m_context.theme().px(210));
    }
    m_table->setRowHeight(0, m_context.theme().px(38));
}

/// Under each choice: what becomes of the numbers.
void ImportDialog::showSays() {
    bool possible = m_preview.order.has_value();
    QString why; // the first column that cannot be taken: it may stand beyond the edge
    for (int c = 0; c < m_table->columnCount(); ++c) {
        if (m_preview.is_long) continue;
        const auto says = column_says(column(c), m_context.session().bench());
        possible = possible && says;
        if (!says && why.isEmpty())
            why = tr("%1: %2 %3")
                      .arg(m_table->horizontalHeaderItem(c)->text(), from_std(says.error().what),
                           from_std(says.error().fix));
        auto* item = new QTableWidgetItem(from_std(says ? *says : says.error().what));
        item->setForeground(says ? m_context.theme().colours().soft : m_context.theme().colours().bad);
        item->setToolTip(item->text());
        m_table->setItem(1, c, item);
    }
    set_text(m_result, why);
    m_result->setColour(why.isEmpty() ? QColor() : m_context.theme().colours().bad);
    m_import->setEnabled(possible);
}

void ImportDialog::previewPoints(std::string_view head) {
    const auto found = preview_points(m_path.toStdString(), head, m_context.session().bench());
    if (!found) return refuse(found.error());
    for (QWidget* part : std::initializer_list<QWidget*>{m_times_label, m_zone, m_order, m_raw})
        part->hide();
    QString about = tr("It begins with %n sample(s)", nullptr, static_cast<int>(found->good));
    if (found->first) about += tr(", from %1 to %2").arg(moment(*found->first), moment(*found->last));
    set_text(m_about, about + QLatin1Char('.') + set_aside(found->rejected));
    m_table->setColumnCount(4);
    m_table->setHorizontalHeaderLabels({tr("Name"), tr("Unit"), tr("Samples so far"), tr("What becomes of it")});
    m_table->horizontalHeader()->setStretchLastSection(true);
    m_table->setRowCount(static_cast<int>(found->series.size()));
    for (int row = 0; row < m_table->rowCount(); ++row) {
        const PointsPreview::Series& s = found->series[static_cast<std::size_t>(row)];
        const QString cells[] = {from_std(s.name), from_std(s.unit), QString::number(s.n), from_std(s.says)};
        for (int c = 0; c < 4; ++c)
            m_table->setItem(row, c, new QTableWidgetItem(cells[c]));
        if (s.refused) m_table->item(row, 3)->setForeground(m_context.theme().colours().bad);
    }
    m_table->resizeColumnsToContents();
    m_import->setEnabled(found->good > 0);
}

CsvColumn ImportDialog::column(int at) const {
    CsvColumn out = m_preview.columns[static_cast<std::size_t>(at)];
    const QString target = m_targets[at]->currentData().toString();
    if (target == QStringLiteral("!as_it_is")) return out;
    if (target == QStringLiteral("!skip")) {
        out.use = CsvColumn::Use::skip;
        return out;
    }
    if (out.use == CsvColumn::Use::causes && target == from_std(out.reading)) return out;
    out.reading = target.toStdString();
    const Reading* r = m_context.session().bench().reading(out.reading);
    const bool counts =
        r && !out.unit.empty() && same_unit(out.unit, r->path.first_unit()); // of the one that was chosen
    const bool raw = r && !r->path.stages.empty() && (m_raw->isChecked() || counts);
    out.use = raw ? CsvColumn::Use::raw : CsvColumn::Use::values;
    return out;
}

void ImportDialog::importNow() {
    ImportOptions chosen = options();
    if (m_form == ImportForm::csv && !m_preview.is_long)
        for (int c = 0; c < m_targets.size(); ++c)
            chosen.columns.push_back(column(c));
    if (m_form == ImportForm::csv) chosen.order = m_preview.order;
    m_watch->stop = false;
    m_import->setEnabled(false);
    m_stop->show();
    m_progress->show();
    m_tick.start();
    set_text(m_result, tr("It goes in beside your work; this window may be closed."));
    m_result->setColour({});
    Context* context = &m_context;
    when_answered(m_context.session().importFile(m_path, std::move(chosen), m_watch), &m_context,
                  [context, dialog = QPointer<ImportDialog>(this)](const Result<ImportReport>& report) {
                      if (dialog) dialog->imported(report);
                      emit context->said(report ? tr("%n row(s) taken.", nullptr, static_cast<int>(report->rows))
                                                : from_std(report.error().text()));
                  });
}

void ImportDialog::imported(const Result<ImportReport>& report) {
    m_tick.stop();
    m_stop->hide();
    m_progress->hide();
    if (!report) {
        set_text(m_result, from_std(report.error().text()));
        m_result->setColour(m_context.theme().colours().bad);
        return;
    }
    const QString text =
        tr("%n row(s) taken", nullptr, static_cast<int>(report->rows)) +
        tr(" into %n reading(s), %1 set aside.", nullptr, static_cast<int>(report->readings.size()))
            .arg(report->rejected.total());
    set_text(m_result, (m_watch->stop ? tr("Stopped. ") : QString()) + text + set_aside(report->rejected));
    m_result->setColour({});
}

} // namespace cognitum
