#include "ui/shell/command_finder.h"

#include <QHeaderView>
#include <QKeyEvent>
#include <QVBoxLayout>
#include <algorithm>

namespace cognitum {

namespace {

constexpr int most_shown = 60;

/// 0: the best; nothing: a word is missing.
std::optional<int> rank_of(const Command& command, const QString& typed, const QStringList& words) {
    const QString title = command.title.toLower();
    if (title.startsWith(typed)) return 0;
    const QString spaced = QLatin1Char(' ') + title;
    const QString all =
        title + QLatin1Char(' ') + command.also.toLower() + QLatin1Char(' ') + command.about.toLower();
    int rank = 1;
    for (const QString& word : words) {
        if (spaced.contains(QLatin1Char(' ') + word)) continue;
        if (!all.contains(word)) return {};
        rank = std::max(rank, title.contains(word) ? 2 : 3);
    }
    return rank;
}

} // namespace

std::vector<std::size_t> found_commands(const std::vector<Command>& commands, const QString& typed) {
    const QString wanted = typed.toLower().simplified();
    const QStringList words = wanted.split(QLatin1Char(' '), Qt::SkipEmptyParts);
    std::vector<std::pair<int, std::size_t>> ranked;
    for (std::size_t i = 0; i < commands.size(); ++i)
        if (const auto rank = rank_of(commands[i], wanted, words)) ranked.emplace_back(*rank, i);
    std::stable_sort(ranked.begin(), ranked.end(), [](const auto& a, const auto& b) { return a.first < b.first; });
    std::vector<std::size_t> out;
    out.reserve(ranked.size());
    for (const auto& [rank, i] : ranked)
        out.push_back(i);
    return out;
}

CommandFinder::CommandFinder(Theme& theme, std::vector<Command> commands, QWidget* parent)
    : QDialog(parent), m_commands(std::move(commands)) {
    setObjectName(QStringLiteral("commandFinder"));
    setWindowTitle(tr("Find anything"));
    resize(theme.px(620), theme.px(420));
    auto* layout = new QVBoxLayout(this);
    m_field = new QLineEdit;
    m_field->setObjectName(QStringLiteral("commandField"));
    m_field->setAccessibleName(tr("Part of a name"));
    m_field->setPlaceholderText(tr("a command, reading, board, part, recipe, finding, setting or word"));
    m_list = new QTreeWidget;
    m_list->setObjectName(QStringLiteral("commandList"));
    m_list->setAccessibleName(tr("What was found"));
    m_list->setFrameShape(QFrame::NoFrame);
    m_list->setColumnCount(2);
    m_list->setHeaderHidden(true);
    m_list->setRootIsDecorated(false);
    m_list->setUniformRowHeights(true);
    m_list->setTextElideMode(Qt::ElideRight);
    m_list->header()->setStretchLastSection(false);
    m_list->header()->setSectionResizeMode(0, QHeaderView::Stretch);
    m_list->header()->setSectionResizeMode(1, QHeaderView::ResizeToContents);
    layout->addWidget(m_field);
    layout->addWidget(m_list);
    m_field->installEventFilter(this);
    connect(m_field, &QLineEdit::textChanged, this, &CommandFinder::filter);
    connect(m_field, &QLineEdit::returnPressed, this, &CommandFinder::run);
    connect(m_list, &QTreeWidget::itemActivated, this, &CommandFinder::run);
    filter({});
}

void CommandFinder::filter(const QString& text) {
    m_list->clear();
    const QColor soft = palette().color(QPalette::PlaceholderText);
    for (const std::size_t i : found_commands(m_commands, text)) {
        if (m_list->topLevelItemCount() == most_shown) break;
        auto* item = new QTreeWidgetItem(m_list, {m_commands[i].title, m_commands[i].about});
        item->setForeground(1, soft);
        item->setToolTip(0, m_commands[i].title);
        item->setData(0, Qt::UserRole, static_cast<int>(i));
    }
    m_list->setCurrentItem(m_list->topLevelItem(0));
}

bool CommandFinder::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        const int step = key == Qt::Key_Down ? 1 : key == Qt::Key_Up ? -1 : 0;
        if (step != 0 && m_list->topLevelItemCount() > 0) {
            const int now = m_list->indexOfTopLevelItem(m_list->currentItem());
            m_list->setCurrentItem(
                m_list->topLevelItem(std::clamp(now + step, 0, m_list->topLevelItemCount() - 1)));
            return true;
        }
    }
    return QDialog::eventFilter(watched, event);
}

void CommandFinder::run() {
    const QTreeWidgetItem* item = m_list->currentItem();
    if (!item) return;
    const auto command = m_commands[static_cast<std::size_t>(item->data(0, Qt::UserRole).toInt())].run;
    accept();
    command();
}

} // namespace cognitum
