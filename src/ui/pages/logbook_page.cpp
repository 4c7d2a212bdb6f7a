#include "ui/pages/logbook_page.h"

#include "core/units/format.h"
#include "store/bench_file.h"
#include "ui/plots/history_plot.h"
#include "ui/widgets/parts.h"

#include <QDateTime>
#include <QHBoxLayout>
#include <QHeaderView>

namespace cognitum {

LogbookPage::LogbookPage(Context& context, QWidget* parent) : Page(context, tr("What happened, and when"), parent) {
    auto* bar = new QHBoxLayout;
    m_reading = new QComboBox;
    m_reading->setObjectName(QStringLiteral("historyReading"));
    m_reading->setAccessibleName(tr("Reading to show"));
    m_reading->setMinimumWidth(theme().px(200));
    bar->addWidget(m_reading);
    m_plot = new HistoryPlot(context);
    for (const auto& [text, span] : {std::pair{tr("hour"), 3600.0}, std::pair{tr("day"), 86400.0},
                                     std::pair{tr("week"), 7 * 86400.0}, std::pair{tr("all"), 0.0}}) {
        auto* button = make_button(text, QStringLiteral("span_%1").arg(static_cast<int>(span)));
        connect(button, &QPushButton::clicked, this, [this, span] { m_plot->showLast(span); });
        bar->addWidget(button);
    }
    m_cursor = new TextLabel(theme(), TextLabel::Role::mono_soft, tr("wheel zooms, dragging pans"));
    m_cursor->setAlignment(Qt::AlignRight | Qt::AlignVCenter);
    bar->addWidget(m_cursor, 1);
    body()->addLayout(bar);
    m_plot->setMinimumHeight(theme().px(240));
    m_plot->showLast(0);
    body()->addWidget(m_plot, 3);
    m_empty = new TextLabel(
        theme(), TextLabel::Role::soft,
        tr("Nothing is recorded for this reading yet. Ctrl R records; the bench menu imports a file."));
    body()->addWidget(m_empty);
    connect(m_plot, &HistoryPlot::drawn, this, [this] { m_empty->setVisible(m_plot->isEmpty()); });
    connect(m_plot, &HistoryPlot::cursorMoved, this, [this](const QString& text) { set_text(m_cursor, text); });

    m_note = new QLineEdit;
    m_note->setObjectName(QStringLiteral("logNote"));
    m_note->setAccessibleName(tr("Note for the logbook"));
    m_note->setPlaceholderText(tr("write a note for the logbook, such as “sleeved the probe”"));
    body()->addWidget(m_note);
    m_entries = new QTableWidget(0, 4);
    m_entries->setObjectName(QStringLiteral("logEntries"));
    m_entries->setAccessibleName(tr("Logbook, newest first"));
    m_entries->setHorizontalHeaderLabels({tr("Time"), tr("What"), tr("Reading"), QString()});
    m_entries->verticalHeader()->setVisible(false);
    m_entries->horizontalHeader()->setStretchLastSection(true);
    m_entries->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft);
    m_entries->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_entries->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_entries->setShowGrid(false);
    m_entries->setMinimumHeight(theme().px(160));
    body()->addWidget(m_entries, 2);

    connect(m_reading, &QComboBox::activated, this,
            [this] { m_plot->setReading(m_reading->currentData().toString().toStdString()); });
    connect(m_note, &QLineEdit::returnPressed, this, [this] {
        const QString text = m_note->text().trimmed();
        if (text.isEmpty()) return;
        m_note->clear();
        this->context().session().note({}, log_kind::note, text);
    });
    connect(&context.session(), &Session::logChanged, this, [this] { m_key.clear(); });
}

void LogbookPage::fillReadings() {
    const auto& readings = context().session().bench().readings;
    QStringList named;
    for (const Reading& r : readings)
        named << from_std(r.id) + QLatin1Char('\n') + from_std(r.name);
    if (named == m_named) return;
    m_named = named;
    m_reading->clear();
    for (const Reading& r : readings)
        m_reading->addItem(from_std(r.name), from_std(r.id));
    m_reading->setCurrentIndex(std::max(0, m_reading->findData(from_std(context().readingId()))));
    m_plot->setReading(m_reading->currentData().toString().toStdString());
}

void LogbookPage::refresh() {
    fillReadings();
    m_plot->reload();
    setNote(tr("entries are never changed; a correction is a new entry"));
    const QString key = QString::number(context().live().log_revision) + context().session().path();
    if (key == m_key) return;
    m_key = key;
    m_question.ask(context().session().archive(), this, recorded_entries,
                   [this](const Result<std::vector<LogEntry>>& entries) {
                       if (!entries) emit context().said(from_std(entries.error().text()));
                       fillEntries(entries.value_or(std::vector<LogEntry>{}));
                   });
}

void LogbookPage::fillEntries(const std::vector<LogEntry>& entries) {
    m_entries->setRowCount(static_cast<int>(entries.size()));
    for (int row = 0; row < static_cast<int>(entries.size()); ++row) {
        const LogEntry& e = entries[static_cast<std::size_t>(row)];
        const Reading* r = context().session().bench().reading(e.reading);
        const QString texts[] = {
            QDateTime::fromMSecsSinceEpoch(e.time / 1000).toString(QStringLiteral("d MMM yyyy HH:mm:ss")),
            from_std(e.kind), r ? from_std(r->name) : from_std(e.reading), from_std(e.text)};
        for (int column = 0; column < 4; ++column)
            m_entries->setItem(row, column, new QTableWidgetItem(texts[column]));
    }
    for (int column = 0; column < 3; ++column)
        m_entries->resizeColumnToContents(column);
}

} // namespace cognitum
