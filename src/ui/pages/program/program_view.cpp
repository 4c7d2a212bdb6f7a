#include "ui/pages/program/program_view.h"

#include "ui/pages/program/code_listing.h"
#include "ui/pages/program/proof_table.h"
#include "ui/pages/program/put_on.h"
#include "ui/pages/program/read_view.h"
#include "ui/save_file.h"
#include "ui/widgets/parts.h"

#include <QApplication>
#include <QClipboard>
#include <QDir>
#include <QFileInfo>

namespace cognitum {

namespace {
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
    for (QCheckBox* box : {m_constants, m_sleep})
        connect(box, &QCheckBox::toggled, this, [this] { setBoard(m_board); });
    connect(m_average, &QComboBox::currentIndexChanged, this, [this] { setBoard(m_board); });
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

void ProgramView::readOwn(const QStringList& paths) {
    showOwn(true);
    m_own->readFiles(paths);
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
    m_save = make_button(tr("Save …"), QStringLiteral("programSave"));
    m_copy = make_button(tr("Copy"), QStringLiteral("programCopy"));
    bar->addWidget(m_save);
    bar->addWidget(m_copy);
    bar->addStretch(1);
    m_constants = new QCheckBox(tr("says values, too"));
    m_constants->setObjectName(QStringLiteral("programConstants"));
    m_constants->setToolTip(
        tr("The board computes each value by the plan's constants and sends it beside the raw number. "
           "After a calibration it needs its program anew; the raw numbers do not."));
    bar->addWidget(m_constants);
    m_sleep = new QCheckBox(tr("sleeps deeply"));
    m_sleep->setObjectName(QStringLiteral("programSleep"));
    m_sleep->setToolTip(
        tr("Between records its processor is off, for a board on a battery. Its watchdog's timer wakes it "
           "for what is due. To talk to it send an empty line first."));
    bar->addWidget(m_sleep);
    m_average = new QComboBox;
    m_average->setObjectName(QStringLiteral("programAverage"));
    m_average->setAccessibleName(tr("Conversions that become one number"));
    m_average->setToolTip(tr("Conversions of an analog input that become one number: noise falls with the root of "
                             "their count. Waves and parts on a bus are not averaged."));
    for (const int n : {1, 4, 16, 64})
        m_average->addItem(n == 1 ? tr("no averaging") : tr("mean of %1").arg(n), n);
    bar->addWidget(m_average);
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
    m_proof_table = new ProofTable(m_context);
    rows->addWidget(m_proof_table);
    m_notes = new QVBoxLayout;
    m_notes->setSpacing(theme.px(4));
    rows->addLayout(m_notes);
    m_put_on = new PutOn(m_context);
    rows->addWidget(m_put_on);
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
        m_proof_table->clear(m_written ? tr("Every pin gets values from end to end, contacts bounce, parts "
                                            "answer on their buses, and what it sends goes "
                                            "through the same path as the lines of a real board. For the 8-bit "
                                            "boards it is compiled with the real compiler "
                                            "and runs in a simulator of the processor; for the others it is "
                                            "evaluated with the types of the board.")
                                       : QString(),
                             written ? QString() : from_std(written.error().text()));
    }
    fillNotes();
    m_put_on->setBoard(board, m_written ? &*m_written : nullptr);
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

void ProgramView::refreshLive() {
    m_put_on->refreshLive();
}

ProgramOptions ProgramView::options() const {
    ProgramOptions out;
    out.constants = m_constants->isChecked();
    out.average = m_average->currentData().toInt();
    out.sleep = m_sleep->isChecked();
    return out;
}

void ProgramView::save() {
    if (!m_written) return;
    const ProgramFile& file = m_written->files.front();
    const QString path = m_context.askSavePath(this, tr("The program"), QFileInfo(from_std(file.name)).fileName(),
                                               tr("Programs (*.ino)"));
    if (path.isEmpty()) return;
    auto done = save_text(path, file.text);
    for (std::size_t i = 1; done && i < m_written->files.size(); ++i) {
        const ProgramFile& beside = m_written->files[i];
        const QString at = QFileInfo(path).dir().filePath(QFileInfo(from_std(beside.name)).fileName());
        if (!beside.yours || !QFileInfo::exists(at)) done = save_text(at, beside.text);
    }
    const QString also = m_written->files.size() > 1 ? tr(" Fill in secrets.h beside it.") : QString();
    emit m_context.said(done ? tr("Saved as %1.").arg(path) + also : from_std(done.error().text()));
}

void ProgramView::prove() {
    if (!m_written) return;
    m_prove->setEnabled(false);
    m_proof_table->clear(tr("It is being proven: this takes some seconds …"));
    m_proven = m_written->files.front().text;
    m_proof.start(m_context.session().bench(), m_context.session().catalog(), m_board, options());
}

void ProgramView::show(const ProofReport& report) {
    m_prove->setEnabled(m_written.has_value());
    m_proof_table->show(report);
    emit proofShown();
}

} // namespace cognitum
