#include "ui/pages/program/program_view.h"

#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/pages/program/code_listing.h"
#include "ui/pages/program/read_view.h"
#include "ui/save_file.h"
#include "ui/widgets/parts.h"

#include <QApplication>
#include <QClipboard>
#include <QFileInfo>
#include <QHeaderView>
#include <cmath>

namespace cognitum {

namespace {
enum Column { reading, given, sent, says, off, mark };

/// Below this width the proof stands under the text.
constexpr int narrow = 900;
} // namespace

ProgramView::ProgramView(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    auto* rows = new QVBoxLayout(this);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(context.theme().px(8));
    rows->addLayout(buildBar());
    m_pages = new QStackedWidget;
    rows->addWidget(m_pages, 1);
    auto* written = new QWidget;
    m_columns = new QBoxLayout(QBoxLayout::LeftToRight, written);
    m_columns->setContentsMargins(0, 0, 0, 0);
    m_columns->setSpacing(context.theme().px(24));
    m_columns->addWidget(buildText(), 6);
    m_columns->addWidget(buildSide(), 5);
    m_pages->addWidget(written);
    m_own = new ReadView(context);
    m_pages->addWidget(m_own);
    connect(m_own, &ReadView::readShown, this, &ProgramView::proofShown);
    connect(m_save, &QPushButton::clicked, this, &ProgramView::save);
    connect(m_copy, &QPushButton::clicked, this, [this] {
        QApplication::clipboard()->setText(m_text->toPlainText());
        emit m_context.said(tr("The program is on the clipboard."));
    });
    connect(m_prove, &QPushButton::clicked, this, &ProgramView::prove);
    connect(m_constants, &QCheckBox::toggled, this, [this] { setBoard(m_board); });
    connect(&m_proof, &ProgramProof::finished, this, &ProgramView::show);
}

QLayout* ProgramView::buildBar() {
    auto* bar = new QHBoxLayout;
    bar->setSpacing(m_context.theme().px(6));
    m_from_plan = make_button(tr("From the plan"), QStringLiteral("programFromPlan"));
    m_mine = make_button(tr("Read mine"), QStringLiteral("programMine"));
    m_mine->setToolTip(tr("What a program that you wrote really computes, beside the plan"));
    for (QPushButton* button : {m_from_plan, m_mine}) {
        button->setCheckable(true);
        button->setAutoExclusive(true);
        bar->addWidget(button);
    }
    m_from_plan->setChecked(true);
    bar->addStretch(1);
    connect(m_from_plan, &QPushButton::clicked, this, [this] { showOwn(false); });
    connect(m_mine, &QPushButton::clicked, this, [this] { showOwn(true); });
    return bar;
}

void ProgramView::showOwn(bool own) {
    m_pages->setCurrentIndex(own ? 1 : 0);
}

QWidget* ProgramView::buildText() {
    Theme& theme = m_context.theme();
    auto* left = new QWidget;
    auto* rows = new QVBoxLayout(left);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(theme.px(8));
    m_head = new TextLabel(theme, TextLabel::Role::name);
    m_head->setObjectName(QStringLiteral("programHead"));
    rows->addWidget(m_head);
    m_text = new CodeListing(theme);
    m_text->setObjectName(QStringLiteral("programText"));
    m_text->setAccessibleName(tr("The program of the board"));
    rows->addWidget(m_text, 1);
    auto* bar = new QHBoxLayout;
    bar->setSpacing(theme.px(8));
    m_save = make_button(tr("Save the program…"), QStringLiteral("programSave"));
    m_copy = make_button(tr("Copy it"), QStringLiteral("programCopy"));
    bar->addWidget(m_save);
    bar->addWidget(m_copy);
    bar->addStretch(1);
    m_constants = new QCheckBox(tr("says values, too"));
    m_constants->setObjectName(QStringLiteral("programConstants"));
    m_constants->setToolTip(
        tr("The board computes each value by the plan's constants and sends it beside the raw number. "
           "After a calibration it needs its program anew; the raw numbers do not."));
    bar->addWidget(m_constants);
    rows->addLayout(bar);
    return left;
}

QWidget* ProgramView::buildSide() {
    Theme& theme = m_context.theme();
    auto* side = new QWidget;
    auto* rows = new QVBoxLayout(side);
    rows->setContentsMargins(0, 0, theme.px(8), 0);
    rows->setSpacing(theme.px(8));
    auto* head = new QHBoxLayout;
    m_proof_head = new TextLabel(theme, TextLabel::Role::name, tr("Is it right?"));
    head->addWidget(m_proof_head, 1);
    m_prove = make_button(tr("Prove it"), QStringLiteral("programProve"));
    m_prove->setToolTip(tr("Compiles it and runs it in a simulator, with values from end to end at every pin"));
    head->addWidget(m_prove);
    rows->addLayout(head);
    m_trouble = new TextLabel(theme, TextLabel::Role::body);
    m_trouble->setObjectName(QStringLiteral("programTrouble"));
    rows->addWidget(m_trouble);
    m_table = new QTableWidget(0, 6);
    m_table->setObjectName(QStringLiteral("programProof"));
    m_table->setAccessibleName(tr("Given, sent and said"));
    m_table->setHorizontalHeaderLabels(
        {tr("Reading"), tr("Given"), tr("It sent"), tr("That is"), tr("Off by"), tr("Held")});
    m_table->verticalHeader()->setVisible(false);
    m_table->verticalHeader()->setDefaultSectionSize(theme.px(26));
    m_table->horizontalHeader()->setSectionResizeMode(QHeaderView::ResizeToContents);
    m_table->horizontalHeader()->setSectionResizeMode(reading, QHeaderView::Stretch);
    m_table->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    m_table->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft);
    m_table->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_table->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_table->setShowGrid(false);
    rows->addWidget(m_table);
    m_proof_facts = new TextLabel(theme, TextLabel::Role::soft);
    m_proof_facts->setObjectName(QStringLiteral("programFacts"));
    rows->addWidget(m_proof_facts);
    m_notes = new QVBoxLayout;
    m_notes->setSpacing(theme.px(4));
    rows->addLayout(m_notes);
    rows->addWidget(new TextLabel(theme, TextLabel::Role::name, tr("How to put it on")));
    m_steps = new QVBoxLayout;
    m_steps->setSpacing(theme.px(4));
    rows->addLayout(m_steps);
    m_runs = new TextLabel(theme, TextLabel::Role::body);
    m_runs->setObjectName(QStringLiteral("programRuns"));
    rows->addWidget(m_runs);
    rows->addStretch(1);
    return make_scroll(side);
}

void ProgramView::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    m_columns->setDirection(width() < m_context.theme().px(narrow) ? QBoxLayout::TopToBottom
                                                                   : QBoxLayout::LeftToRight);
}

void ProgramView::setBoard(const std::string& board) {
    const Session& session = m_context.session();
    const bool another = board != m_board;
    m_board = board;
    m_own->setBoard(board);
    const auto written = write_program(session.bench(), session.catalog(), board, options());
    m_written = written ? std::optional(*written) : std::nullopt;
    for (QWidget* w : std::initializer_list<QWidget*>{m_save, m_copy, m_prove})
        w->setEnabled(m_written.has_value());
    const QString text = m_written ? from_std(m_written->files.front().text) : QString();
    if (text != m_text->toPlainText()) m_text->setPlainText(text); // the place where it is read stays
    set_text(m_head, m_written ? tr("The program from the plan · %1 lines · plan %2")
                                     .arg(text.count(QLatin1Char('\n')))
                                     .arg(from_std(m_written->fingerprint))
                               : tr("There is no program yet"));
    if (another || !m_written || m_proven != m_written->files.front().text) {
        m_table->setVisible(false);
        set_text(m_proof_facts, m_written ? tr("Every pin gets values from end to end, contacts bounce, parts "
                                               "answer on their buses, and what it sends goes "
                                               "through the same path as the lines of a real board. For the 8-bit "
                                               "boards it is compiled with the real compiler "
                                               "and runs in a simulator of the processor; for the others it is "
                                               "evaluated with the types of the board.")
                                          : QString());
        set_text(m_trouble, written ? QString() : from_std(written.error().text()));
        m_trouble->setVisible(!written);
        m_trouble->setColour({});
    }
    fillNotes();
    fillSteps();
    refreshLive();
}

void ProgramView::fillNotes() {
    clear_layout(m_notes);
    if (!m_written) return;
    Theme& theme = m_context.theme();
    const Bench& bench = m_context.session().bench();
    for (const ProgramNote& note : m_written->notes) {
        const Reading* r = bench.reading(note.reading);
        auto* line = new QHBoxLayout;
        line->setSpacing(theme.px(6));
        line->addWidget(new MarkLabel(theme, Mark::look), 0, Qt::AlignTop);
        const QString text = from_std(note.text);
        line->addWidget(new TextLabel(theme, TextLabel::Role::body,
                                      r ? tr("%1 is not in it: %2").arg(from_std(r->name), text) : text),
                        1);
        m_notes->addLayout(line);
    }
}

void ProgramView::fillSteps() {
    clear_layout(m_steps);
    const Session& session = m_context.session();
    const BoardUse* use = session.bench().board(m_board);
    const BoardCard* card = use ? session.catalog().board(use->card) : nullptr;
    if (!card) return;
    Theme& theme = m_context.theme();
    QStringList steps = {tr("Unplug whatever is on the mains before the programming lead is connected.")};
    for (const std::string& step : card->programming)
        steps << from_std(step);
    steps << tr("Load the saved file with the tool that you use for this board.");
    steps << tr("Open its link: the first line says which plan it was written from.");
    int number = 1;
    for (const QString& step : steps) {
        auto* line = new QHBoxLayout;
        line->setSpacing(theme.px(8));
        auto* place = new TextLabel(theme, TextLabel::Role::mono_soft, QString::number(number++));
        place->setFixedWidth(theme.px(16));
        line->addWidget(place, 0, Qt::AlignTop);
        line->addWidget(new TextLabel(theme, TextLabel::Role::body, step), 1);
        m_steps->addLayout(line);
    }
}

void ProgramView::refreshLive() {
    const auto live = m_context.live().boards.find(m_board);
    const QString says = live == m_context.live().boards.end() ? QString() : live->second.program;
    if (!m_written || says.isEmpty()) {
        set_text(m_runs, tr("The board has not said which program it runs."));
        return m_runs->setColour(m_context.theme().colours().soft);
    }
    const bool same = says.section(QLatin1Char('-'), 0, 0) == from_std(m_written->fingerprint);
    set_text(m_runs, same ? tr("The board runs this program.")
                          : tr("▲ The board runs a program of another plan (%1).").arg(says));
    m_runs->setColour(same ? QColor() : m_context.theme().colours().look);
}

ProgramOptions ProgramView::options() const {
    ProgramOptions out;
    out.constants = m_constants->isChecked();
    return out;
}

void ProgramView::save() {
    if (!m_written) return;
    const ProgramFile& file = m_written->files.front();
    const QString path = m_context.askSavePath(this, tr("The program"), QFileInfo(from_std(file.name)).fileName(),
                                               tr("Programs (*.ino)"));
    if (path.isEmpty()) return;
    const auto done = save_text(path, file.text);
    emit m_context.said(done ? tr("Saved as %1.").arg(path) : from_std(done.error().text()));
}

void ProgramView::prove() {
    if (!m_written) return;
    m_prove->setEnabled(false);
    m_trouble->setVisible(false);
    set_text(m_proof_facts, tr("It is being proven: this takes some seconds …"));
    m_proven = m_written->files.front().text;
    m_proof.start(m_context.session().bench(), m_context.session().catalog(), m_board, options());
}

void ProgramView::show(const ProofReport& report) {
    m_prove->setEnabled(m_written.has_value());
    m_trouble->setVisible(!report.trouble.isEmpty());
    m_table->setVisible(report.trouble.isEmpty());
    Theme& theme = m_context.theme();
    if (!report.trouble.isEmpty()) {
        set_text(m_trouble, report.trouble);
        m_trouble->setColour(theme.colours().bad);
        return set_text(m_proof_facts, {});
    }
    const Bench& bench = m_context.session().bench();
    m_table->setRowCount(static_cast<int>(report.rows.size()));
    for (int i = 0; i < m_table->rowCount(); ++i) {
        const ProofReportRow& row = report.rows[static_cast<std::size_t>(i)];
        const Reading* r = bench.reading(row.reading);
        const auto put = [&](int column, const QString& text, bool mono) {
            auto* item = new QTableWidgetItem(text);
            item->setFont(mono ? theme.mono(11) : theme.text(12));
            item->setToolTip(text);
            m_table->setItem(i, column, item);
        };
        const bool counts = !r || r->path.stages.empty();
        const double step = r ? r->quantity.accuracy / 10 : 0;
        const auto amount = [&](double v) {
            return std::isfinite(v)
                       ? from_std(counts ? format_measure(v, "counts", 5) : format_value(v, step, r->quantity.unit))
                       : QStringLiteral("–");
        };
        put(reading, r ? from_std(r->name) : from_std(row.reading), false);
        put(given, amount(row.truth), true);
        put(sent, row.sent, true);
        put(says, amount(row.said), true);
        put(off,
            std::isfinite(row.off_by)
                ? from_std(format_measure(row.off_by, counts ? "counts" : unit_symbol(r->quantity.unit), 2))
                : QStringLiteral("–"),
            true);
        put(mark, tr("%1 of %2").arg(row.held).arg(row.points), true);
        if (row.held < row.points)
            for (int column = reading; column <= mark; ++column)
                m_table->item(i, column)->setForeground(theme.colours().bad);
    }
    m_table->setFixedHeight(m_table->horizontalHeader()->sizeHint().height() +
                            m_table->rowCount() * m_table->verticalHeader()->defaultSectionSize() + theme.px(4));
    QString facts = report.holds ? tr("All hold: each was given %1 values from end to end; its worst is shown.")
                                       .arg(report.rows.empty() ? 0 : report.rows.front().points)
                                 : tr("Something does not hold; the worst of each is shown.");
    if (report.evaluated) {
        facts += QLatin1Char(' ') + tr("For this board no compiler is packaged here: its program was checked "
                                       "against a stand-in of the core's headers and evaluated "
                                       "with the types of this board, against the same models of its parts. A turn "
                                       "of loop() takes %1 ms at most by that clock.")
                                        .arg(report.longest_loop_ms, 0, 'f', 1);
        if (!report.stopped.isEmpty())
            facts += QLatin1Char(' ') + tr("It went no further: %1.").arg(report.stopped);
    } else {
        facts += QLatin1Char(' ') +
                 tr("%1 of %2 KB of flash, %3 of %4 KB of memory; a turn of loop() takes %5 ms at most.")
                     .arg(report.flash / 1024.0, 0, 'f', 1)
                     .arg(report.flash_there / 1024)
                     .arg(report.memory / 1024.0, 0, 'f', 1)
                     .arg(report.memory_there / 1024)
                     .arg(report.longest_loop_ms, 0, 'f', 1);
    }
    if (report.restarts > 0) facts += QLatin1Char(' ') + tr("It restarted %1 times.").arg(report.restarts);
    for (const auto& [id, why] : report.not_proven) {
        const Reading* r = bench.reading(id);
        facts += QLatin1Char('\n') + tr("%1 is not proven: %2").arg(r ? from_std(r->name) : from_std(id), why);
    }
    set_text(m_proof_facts, facts);
    emit proofShown();
}

} // namespace cognitum
