#include "ui/shell/import_dialog.h"

#include "core/units/format.h"
#include "ui/widgets/parts.h"

#include <QFile>
#include <QFileInfo>
#include <QHBoxLayout>
#include <QHeaderView>
#include <QProgressDialog>

namespace cognitum {

ImportDialog::ImportDialog(Context& context, const QString& path, QWidget* parent)
    : QDialog(parent), m_context(context), m_path(path) {
    Theme& theme = context.theme();
    setObjectName(QStringLiteral("importDialog"));
    setWindowTitle(tr("Import %1").arg(QFileInfo(path).fileName()));
    resize(theme.px(760), theme.px(480));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(theme.px(24), theme.px(18), theme.px(24), theme.px(18));
    layout->setSpacing(theme.px(10));
    layout->addWidget(new TextLabel(theme, TextLabel::Role::title, tr("Where does each column go?")));
    m_about = new TextLabel(theme, TextLabel::Role::body);
    m_about->setObjectName(QStringLiteral("importAbout"));
    layout->addWidget(m_about);
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
    layout->addWidget(m_result);
    auto* buttons = new QHBoxLayout;
    buttons->addStretch(1);
    m_close = make_button(tr("Close"), QStringLiteral("importClose"));
    m_import = make_button(tr("Import"), QStringLiteral("importNow"), true);
    buttons->addWidget(m_close);
    buttons->addWidget(m_import);
    layout->addLayout(buttons);
    connect(m_close, &QPushButton::clicked, this, &QDialog::accept);
    connect(m_import, &QPushButton::clicked, this, &ImportDialog::importNow);
    connect(m_raw, &QCheckBox::toggled, this, &ImportDialog::preview);
    preview();
}

void ImportDialog::preview() {
    QFile file(m_path);
    m_import->setEnabled(false);
    if (!QFileInfo(m_path).isFile() || !file.open(QIODevice::ReadOnly)) { // a pipe would wait for its writer
        set_text(m_about, tr("%1 cannot be read. Check its permissions.").arg(m_path));
        return;
    }
    const QByteArray head = file.read(256 * 1024);
    auto found = preview_csv(m_path.toStdString(), {head.constData(), static_cast<std::size_t>(head.size())},
                             m_context.session().bench(), m_raw->isChecked());
    if (!found) {
        set_text(m_about, from_std(found.error().text()));
        m_about->setColour(m_context.theme().colours().bad);
        return;
    }
    m_preview = std::move(*found);
    QString about =
        tr("The first %n row(s): %1 good.", nullptr, static_cast<int>(m_preview.good + m_preview.rejected.total()))
            .arg(m_preview.good);
    for (const Rejection& r : m_preview.rejected.reasons())
        about += tr(" %1 × %2, first in line %3.").arg(r.count).arg(from_std(r.reason)).arg(r.first_line);
    set_text(m_about, about);
    m_table->clear();
    m_targets.clear();
    m_table->setColumnCount(static_cast<int>(m_preview.columns.size()));
    m_table->setRowCount(static_cast<int>(m_preview.rows.size()) + 1);
    for (int c = 0; c < m_table->columnCount(); ++c) {
        const CsvColumn& column = m_preview.columns[static_cast<std::size_t>(c)];
        const QString title =
            from_std(column.name) +
            (column.unit.empty() ? QString() : QStringLiteral(" [%1]").arg(from_std(column.unit)));
        m_table->setHorizontalHeaderItem(c, new QTableWidgetItem(title));
        auto* target = new QComboBox;
        target->setObjectName(QStringLiteral("importTarget%1").arg(c));
        if (column.use == CsvColumn::Use::time) {
            target->addItem(tr("time"), QStringLiteral("!time"));
            target->setEnabled(false);
        } else {
            target->addItem(tr("leave it out"), QStringLiteral("!skip"));
            target->addItem(tr("a new reading"), QString());
            for (const Reading& r : m_context.session().bench().readings)
                target->addItem(from_std(r.name), from_std(r.id));
            target->setCurrentIndex(
                std::max(0, target->findData(column.use == CsvColumn::Use::skip ? QStringLiteral("!skip")
                                                                                : from_std(column.reading))));
        }
        m_targets.append(target);
        m_table->setCellWidget(0, c, target);
        for (int r = 0; r < static_cast<int>(m_preview.rows.size()); ++r) {
            const auto& cells = m_preview.rows[static_cast<std::size_t>(r)];
            if (c < static_cast<int>(cells.size()))
                m_table->setItem(r + 1, c, new QTableWidgetItem(from_std(cells[static_cast<std::size_t>(c)])));
        }
        m_table->setColumnWidth(c, m_context.theme().px(210));
    }
    m_table->setRowHeight(0, m_context.theme().px(38));
    m_import->setEnabled(true);
}

std::vector<CsvColumn> ImportDialog::columns() const {
    std::vector<CsvColumn> out = m_preview.columns;
    for (std::size_t i = 0; i < out.size(); ++i) {
        const QString target = m_targets[static_cast<qsizetype>(i)]->currentData().toString();
        if (out[i].use == CsvColumn::Use::time) continue;
        if (target == QStringLiteral("!skip")) {
            out[i].use = CsvColumn::Use::skip;
            continue;
        }
        out[i].reading = target.toStdString();
        const Reading* r = m_context.session().bench().reading(out[i].reading);
        const bool raw = r && !r->path.stages.empty() && (m_raw->isChecked() || out[i].use == CsvColumn::Use::raw);
        out[i].use = raw ? CsvColumn::Use::raw : CsvColumn::Use::values;
    }
    return out;
}

void ImportDialog::importNow() {
    ImportOptions options;
    options.as_raw = m_raw->isChecked();
    options.columns = columns();
    QProgressDialog progress(tr("Importing …"), tr("Stop"), 0, 100, this);
    progress.setWindowModality(Qt::WindowModal);
    progress.setMinimumDuration(400);
    const auto size = static_cast<double>(std::max<qint64>(1, QFileInfo(m_path).size()));
    options.progress = [&](std::uint64_t read) {
        progress.setValue(static_cast<int>(100 * static_cast<double>(read) / size)); // runs the event loop
        return !progress.wasCanceled();
    };
    const auto report = m_context.session().importCsv(m_path, options);
    progress.reset();
    if (!report) {
        set_text(m_result, from_std(report.error().text()));
        m_result->setColour(m_context.theme().colours().bad);
        return;
    }
    QString text = tr("%n row(s) taken", nullptr, static_cast<int>(report->rows)) +
                   tr(" into %n reading(s), %1 set aside.", nullptr, static_cast<int>(report->readings.size()))
                       .arg(report->rejected.total());
    for (const Rejection& r : report->rejected.reasons())
        text += tr("\n%1 × %2, first in line %3").arg(r.count).arg(from_std(r.reason)).arg(r.first_line);
    set_text(m_result, text);
    m_result->setColour({});
    m_import->setEnabled(false);
    emit m_context.said(text.section(QLatin1Char('\n'), 0, 0));
}

} // namespace cognitum
