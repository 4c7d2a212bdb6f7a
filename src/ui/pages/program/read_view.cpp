#include "ui/pages/program/read_view.h"

#include "core/units/format.h"
#include "core/units/unit.h"
#include "store/file/data_files.h"
#include "ui/pages/program/code_listing.h"
#include "ui/pages/program/computed_paths.h"
#include "ui/pages/program/wrapped_label.h"
#include "ui/widgets/parts.h"

#include <QDir>
#include <QDragEnterEvent>
#include <QFile>
#include <QFileInfo>
#include <QMimeData>
#include <QStringDecoder>
#include <QTextBlock>
#include <QUrl>

namespace cognitum {

namespace {

constexpr int stacked_below = 900;     ///< below this width the findings stand under the text
constexpr qint64 most_bytes = 4 << 20; ///< of a program's file

constexpr std::size_t most_files = 40; ///< of a program

/// A file of a program. Nothing: it cannot be opened, is too large, or is not written in UTF-8.
std::optional<ProgramText> load(const QString& path) {
    QFile file(path);
    if (!file.open(QIODevice::ReadOnly) || file.size() > most_bytes) return std::nullopt;
    QStringDecoder utf8(QStringDecoder::Utf8);
    QString text = utf8(file.readAll());
    if (utf8.hasError()) return std::nullopt;
    return ProgramText{QFileInfo(path).fileName(), std::move(text)};
}

bool is_program(const QString& path) {
    static const QStringList kinds = {QStringLiteral("ino"), QStringLiteral("cpp"), QStringLiteral("c"),
                                      QStringLiteral("h"),   QStringLiteral("hpp"), QStringLiteral("txt")};
    return kinds.contains(QFileInfo(path).suffix().toLower());
}

} // namespace

ReadView::ReadView(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setAcceptDrops(true);
    m_columns = new QBoxLayout(QBoxLayout::LeftToRight, this);
    m_columns->setContentsMargins(0, 0, 0, 0);
    m_columns->setSpacing(context.theme().px(24));
    m_columns->addWidget(buildText(), 6);
    m_columns->addWidget(buildSide(), 5);
    connect(&m_reader, &ProgramReader::finished, this, &ReadView::show);
    connect(m_computed, &ComputedPaths::ran, this, &ReadView::readShown);
    showFindings();
}

QWidget* ReadView::buildText() {
    Theme& theme = m_context.theme();
    auto* left = new QWidget;
    auto* rows = new QVBoxLayout(left);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(theme.px(8));
    m_head = new TextLabel(theme, TextLabel::Role::name, tr("Your program"));
    m_head->setObjectName(QStringLiteral("readHead"));
    rows->addWidget(m_head);
    m_text = new CodeListing(theme);
    m_text->setReadOnly(false);
    m_text->setUndoRedoEnabled(true);
    m_text->setTextInteractionFlags(Qt::TextEditorInteraction);
    m_text->setAcceptDrops(false); // a file that is dropped is opened by the page
    m_text->setObjectName(QStringLiteral("readText"));
    m_text->setAccessibleName(tr("Your program"));
    m_text->setPlaceholderText(
        tr("Paste it here, drop its files here, or open them.\n\nIt is read and never run."));
    rows->addWidget(m_text, 1);
    auto* bar = new QHBoxLayout;
    bar->setSpacing(theme.px(8));
    auto* open_button = make_button(tr("Open…"), QStringLiteral("readOpen"));
    m_again = make_button(tr("Read it"), QStringLiteral("readAgain"), true);
    auto* example_button = make_button(tr("An example with mistakes"), QStringLiteral("readExample"));
    bar->addWidget(open_button);
    bar->addWidget(m_again);
    bar->addStretch(1);
    bar->addWidget(example_button);
    rows->addLayout(bar);
    connect(open_button, &QPushButton::clicked, this, &ReadView::open);
    connect(m_again, &QPushButton::clicked, this, &ReadView::readShownText);
    connect(example_button, &QPushButton::clicked, this, &ReadView::example);
    connect(m_text, &QPlainTextEdit::textChanged, this,
            [this] { m_again->setEnabled(!m_text->document()->isEmpty()); });
    m_again->setEnabled(false);
    return left;
}

QWidget* ReadView::buildSide() {
    Theme& theme = m_context.theme();
    auto* side = new QWidget;
    auto* rows = new QVBoxLayout(side);
    rows->setContentsMargins(0, 0, theme.px(8), 0);
    rows->setSpacing(theme.px(8));
    m_found_head = new TextLabel(theme, TextLabel::Role::name);
    m_found_head->setObjectName(QStringLiteral("readFoundHead"));
    rows->addWidget(m_found_head);
    m_state = new TextLabel(theme, TextLabel::Role::body);
    m_state->setObjectName(QStringLiteral("readState"));
    rows->addWidget(m_state);
    m_found = new QVBoxLayout;
    m_found->setSpacing(theme.px(12));
    rows->addLayout(m_found);
    rows->addSpacing(theme.px(8));
    m_computed = new ComputedPaths(m_context);
    rows->addWidget(m_computed);
    rows->addStretch(1);
    QScrollArea* area = make_scroll(side);
    area->setObjectName(QStringLiteral("readSide"));
    return area;
}

void ReadView::setBoard(const std::string& board) {
    const std::uint64_t plan = m_context.session().planRevision();
    if (board == m_board && plan == m_plan) return;
    m_board = board;
    m_plan = plan;
    // What was found was beside another board or another plan.
    if (!m_files.empty()) readShownText();
}

void ReadView::open() {
    const QString path =
        m_context.askOpenPath(this, tr("Your program"), tr("Programs (*.ino *.cpp *.c *.h *.hpp *.txt)"));
    if (!path.isEmpty()) readFiles({path});
}

void ReadView::readFiles(const QStringList& paths) {
    std::vector<ProgramText> files;
    QString refused;
    for (const QString& path : paths) {
        if (files.size() >= most_files) break;
        if (auto file = load(path))
            files.push_back(std::move(*file));
        else
            refused = path;
    }
    if (files.empty())
        return set_text(
            m_state,
            tr("%1 cannot be read: it must be a text in UTF-8 of at most 4 MB that you may read.").arg(refused));
    // The other parts of the program stand beside it.
    const QFileInfo sketch(paths.front());
    if (paths.size() == 1 && sketch.suffix() == QStringLiteral("ino") &&
        sketch.dir().dirName() == sketch.completeBaseName())
        for (const QFileInfo& beside : sketch.dir().entryInfoList(
                 {QStringLiteral("*.ino"), QStringLiteral("*.h"), QStringLiteral("*.hpp"), QStringLiteral("*.cpp")},
                 QDir::Files))
            if (beside.absoluteFilePath() != sketch.absoluteFilePath() && files.size() < most_files)
                if (auto file = load(beside.absoluteFilePath())) files.push_back(std::move(*file));
    // The one with setup() is shown.
    std::stable_sort(files.begin(), files.end(), [](const ProgramText& a, const ProgramText& b) {
        return a.text.contains(QLatin1String("void setup")) > b.text.contains(QLatin1String("void setup"));
    });
    read(files);
}

void ReadView::example() {
    const QDir folder(from_std(data_folder()) + QStringLiteral("/practice_programs"));
    const QStringList names = folder.entryList({QStringLiteral("*.ino")}, QDir::Files, QDir::Name);
    if (names.isEmpty()) return;
    if (auto file = load(
            folder.filePath(names[static_cast<qsizetype>(m_example++ % static_cast<std::size_t>(names.size()))])))
        read({*file});
}

void ReadView::readShownText() {
    if (m_files.empty()) m_files.push_back({QStringLiteral("program.ino"), {}});
    m_files.front().text = m_text->toPlainText();
    read(std::vector<ProgramText>(m_files));
}

void ReadView::read(const std::vector<ProgramText>& files) {
    if (files.empty() || m_board.empty()) return;
    m_files = files;
    if (m_text->toPlainText() != files.front().text) m_text->setPlainText(files.front().text);
    set_text(m_state, tr("It is being read …"));
    m_state->setVisible(true);
    m_state->setColour({});
    m_reader.start(m_context.session().bench(), m_board, m_files);
}

void ReadView::show(const ProgramReadReport& report) {
    m_read = report.read;
    showFindings();
    m_computed->show(m_board, m_files, m_read);
    if (!report.trouble.isEmpty()) {
        set_text(m_state, report.trouble);
        m_state->setColour(m_context.theme().colours().bad);
        m_state->setVisible(true);
    }
    emit readShown();
}

void ReadView::showFindings() {
    clear_layout(m_found);
    Theme& theme = m_context.theme();
    const bool something = !m_files.empty();
    const auto n = static_cast<int>(m_read.findings.size());
    set_text(m_head, something ? tr("%1 · %n line(s)", nullptr, m_text->blockCount()).arg(m_files.front().name)
                               : tr("Your program"));
    set_text(m_found_head, !something        ? tr("What is in it?")
                           : n > 0           ? tr("%n thing(s) to look at", nullptr, n)
                           : m_read.compared ? tr("It does what the plan says")
                                             : tr("Nothing was found, and not all was compared"));
    m_state->setColour({});
    set_text(m_state, something ? QString()
                                : tr("Each number is followed from its pin or bus to where it is sent, with the "
                                     "types of this board, and put "
                                     "beside the plan: pins, references, constants, units, waits, interrupts, what "
                                     "is sent when a part fails."));
    m_state->setVisible(!something);
    std::map<int, Mark> marks;
    for (const ReadFinding& f : m_read.findings) {
        addFinding(f);
        if (m_files.empty() || (!f.file.empty() && from_std(f.file) != m_files.front().name)) continue;
        Mark& mark = marks.try_emplace(f.line, mark_of(f.severity)).first->second;
        if (f.severity == Severity::error) mark = mark_of(f.severity);
    }
    m_text->setMarks(marks);
    for (const std::string& note : m_read.notes)
        m_found->addWidget(wrapped(new TextLabel(theme, TextLabel::Role::soft, from_std(note))));
}

void ReadView::addFinding(const ReadFinding& f) {
    Theme& theme = m_context.theme();
    auto* line = new QHBoxLayout;
    line->setSpacing(theme.px(8));
    line->addWidget(new MarkLabel(theme, mark_of(f.severity)), 0, Qt::AlignTop);
    auto* words = new QVBoxLayout;
    words->setSpacing(theme.px(2));
    const bool here = f.file.empty() || m_files.empty() || from_std(f.file) == m_files.front().name;
    auto* message =
        new TextLabel(theme, TextLabel::Role::name,
                      here ? tr("Line %1: %2").arg(f.line).arg(from_std(f.message))
                           : tr("%1, line %2: %3").arg(from_std(f.file)).arg(f.line).arg(from_std(f.message)));
    message->setObjectName(QStringLiteral("found-") + from_std(f.id));
    words->addWidget(wrapped(message));
    if (!f.why.empty()) words->addWidget(wrapped(new TextLabel(theme, TextLabel::Role::soft, from_std(f.why))));
    auto* links = new QHBoxLayout;
    links->setSpacing(theme.px(12));
    if (here && f.line > 0) {
        auto* go = make_link(tr("Show it"), QStringLiteral("show-") + from_std(f.id));
        connect(go, &QPushButton::clicked, this, [this, n = f.line] {
            m_text->goTo(n);
            m_text->setFocus();
        });
        links->addWidget(go);
    }
    if (!f.mended.empty()) {
        words->addWidget(wrapped(new TextLabel(theme, TextLabel::Role::mono_small, from_std(f.mended))));
        if (here) {
            auto* link = make_link(tr("Mend this line"), QStringLiteral("mend-") + from_std(f.id));
            connect(link, &QPushButton::clicked, this, [this, f] { mend(f); });
            links->addWidget(link);
        }
    }
    links->addStretch(1);
    words->addLayout(links);
    line->addLayout(words, 1);
    m_found->addLayout(line);
}

void ReadView::mend(const ReadFinding& f) {
    const QTextBlock block = m_text->document()->findBlockByNumber(f.line - 1);
    if (!block.isValid()) return;
    // What was typed since it was read may have moved the line.
    if (m_files.empty() || m_text->toPlainText() != m_files.front().text) {
        readShownText();
        emit m_context.said(tr("The text has changed since it was read: it is read again first."));
        return;
    }
    const QString old = block.text();
    QString indent;
    for (const QChar c : old) {
        if (!c.isSpace()) break;
        indent += c;
    }
    QTextCursor cursor(block);
    cursor.movePosition(QTextCursor::EndOfBlock, QTextCursor::KeepAnchor);
    cursor.insertText(indent + from_std(f.mended));
    readShownText();
}

void ReadView::dragEnterEvent(QDragEnterEvent* event) {
    for (const QUrl& url : event->mimeData()->urls())
        if (url.isLocalFile() && is_program(url.toLocalFile())) return event->acceptProposedAction();
}

void ReadView::dropEvent(QDropEvent* event) {
    QStringList paths;
    for (const QUrl& url : event->mimeData()->urls())
        if (url.isLocalFile() && is_program(url.toLocalFile())) paths << url.toLocalFile();
    if (paths.isEmpty()) return;
    event->acceptProposedAction();
    readFiles(paths);
}

void ReadView::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    m_columns->setDirection(width() < m_context.theme().px(stacked_below) ? QBoxLayout::TopToBottom
                                                                          : QBoxLayout::LeftToRight);
}

} // namespace cognitum
