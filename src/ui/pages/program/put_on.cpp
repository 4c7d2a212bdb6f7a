#include "ui/pages/program/put_on.h"

#include "ui/widgets/parts.h"

#include <QInputDialog>
#include <QPushButton>
#include <QSettings>
#include <QVBoxLayout>

namespace cognitum {

namespace {
const QString loader_key = QStringLiteral("loader");
}

PutOn::PutOn(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* rows = new QVBoxLayout(this);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(theme.px(8));
    rows->addWidget(new TextLabel(theme, TextLabel::Role::name, tr("How to put it on")));
    m_steps = new QVBoxLayout;
    m_steps->setSpacing(theme.px(4));
    rows->addLayout(m_steps);
    auto* bar = new QHBoxLayout;
    bar->setSpacing(theme.px(8));
    m_load = make_button(tr("Load it"), QStringLiteral("programLoad"));
    m_which = make_button(tr("Loader…"), QStringLiteral("programLoader"));
    m_which->setToolTip(tr("The command of this computer that loads a program onto a board"));
    m_await = make_button(tr("Wait for its first line"), QStringLiteral("programAwait"));
    m_await->setToolTip(tr("Once it is on the board: shows Raw, which says when the board runs this program"));
    for (QPushButton* button : {m_load, m_which})
        bar->addWidget(button);
    bar->addStretch(1);
    rows->addLayout(bar);
    rows->addWidget(m_await, 0, Qt::AlignLeft);
    m_state = new TextLabel(theme, TextLabel::Role::body);
    m_state->setObjectName(QStringLiteral("programLoaded"));
    m_state->hide();
    rows->addWidget(m_state);
    m_runs = new TextLabel(theme, TextLabel::Role::body);
    m_runs->setObjectName(QStringLiteral("programRuns"));
    rows->addWidget(m_runs);
    connect(m_load, &QPushButton::clicked, this, &PutOn::load);
    connect(m_which, &QPushButton::clicked, this, &PutOn::askForLoader);
    connect(m_await, &QPushButton::clicked, this, &PutOn::await);
    connect(&m_loader, &ProgramLoader::finished, this, &PutOn::loaded);
}

const BoardUse* PutOn::use() const {
    return m_context.session().bench().board(m_board);
}

void PutOn::setBoard(const std::string& board, const WrittenProgram* written) {
    if (board != m_board) m_state->hide();
    m_board = board;
    m_written = written ? std::optional(*written) : std::nullopt;
    fillSteps();
    const bool simulated = use() && use()->link.runs_the_program();
    const bool wire = use() && use()->link.kind == LinkKind::serial;
    m_load->setEnabled(m_written && !m_loader.runs() && (simulated || wire));
    m_load->setToolTip(simulated ? tr("The simulated processor begins anew with this program")
                       : wire
                           ? tr("With the loader of this computer; the link is closed meanwhile")
                           : tr("A program is loaded through a cable: choose a serial port as the board's link"));
    m_which->setVisible(!simulated);
    m_await->setEnabled(m_written.has_value());
    refreshLive();
}

void PutOn::fillSteps() {
    clear_layout(m_steps);
    const BoardCard* card = use() ? m_context.session().catalog().board(use()->card) : nullptr;
    if (!card) return;
    Theme& theme = m_context.theme();
    QStringList steps = {tr("Unplug whatever is on the mains before the programming lead is connected.")};
    for (const Phrase& step : card->programming)
        steps << from_std(step);
    if (m_written && m_written->files.size() > 1)
        steps << tr(
            "Fill in the names and passwords in secrets.h, which is saved beside the program. Cognitum does "
            "not keep them.");
    steps << tr(
        "Load the saved file with the tool that you use for this board, or with a loader of this computer.");
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

void PutOn::refreshLive() {
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

void PutOn::askForLoader() {
    bool given = false;
    const QString command =
        QInputDialog::getText(
            this, tr("Loader"),
            tr("The command that loads a program onto a board, with {port} for its port and\n"
               "{hex} for the compiled program, {source} for its text or {folder} for its folder:"),
            QLineEdit::Normal, QSettings().value(loader_key).toString(), &given)
            .trimmed();
    if (!given) return;
    if (const QString wrong = ProgramLoader::trouble(command); !command.isEmpty() && !wrong.isEmpty()) {
        m_state->show();
        m_state->setColour(m_context.theme().colours().bad);
        return set_text(m_state, wrong);
    }
    QSettings().setValue(loader_key, command);
    m_state->hide();
}

void PutOn::load() {
    if (!m_written || !use()) return;
    Worker& worker = m_context.session().worker();
    if (use()->link.runs_the_program()) { // its program is written anew from the plan when it gets power
        worker.setPlugged(m_board, false);
        worker.setPlugged(m_board, true);
        return await();
    }
    if (QSettings().value(loader_key).toString().isEmpty()) askForLoader();
    const QString command = QSettings().value(loader_key).toString();
    if (command.isEmpty()) return;
    m_load->setEnabled(false);
    m_state->show();
    m_state->setColour({});
    set_text(m_state, tr("It is being loaded …"));
    worker.setPlugged(m_board, false); // two programs cannot hold one port
    m_loader.start(m_context.session().bench(), {command, from_std(use()->link.port), m_board, *m_written});
}

void PutOn::loaded(bool done, const QString& said) {
    m_context.session().worker().setPlugged(m_board, true);
    m_load->setEnabled(m_written.has_value());
    m_state->show();
    m_state->setColour(done ? QColor() : m_context.theme().colours().bad);
    set_text(m_state, done ? tr("It is loaded.") : tr("It was not loaded: %1").arg(said));
    if (done) await();
}

/// Raw of one of the board's readings shows what its first line says.
void PutOn::await() {
    if (!m_written) return;
    m_context.awaited_program = {m_board, from_std(m_written->fingerprint)};
    for (const Reading& r : m_context.session().bench().readings)
        if (r.feed() == m_board && r.wiring.board == m_board) {
            m_context.selectReading(r.id);
            break;
        }
    emit m_context.stopRequested(static_cast<int>(Stop::raw));
}

} // namespace cognitum
