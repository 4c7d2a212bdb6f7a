#include "ui/shell/command_finder.h"

#include <QKeyEvent>
#include <QVBoxLayout>
#include <algorithm>

namespace cognitum {

CommandFinder::CommandFinder(Theme& theme, std::vector<Command> commands, QWidget* parent)
    : QDialog(parent), m_commands(std::move(commands)) {
    setObjectName(QStringLiteral("commandFinder"));
    setWindowTitle(tr("Find a command"));
    resize(theme.px(460), theme.px(360));
    auto* layout = new QVBoxLayout(this);
    m_field = new QLineEdit;
    m_field->setObjectName(QStringLiteral("commandField"));
    m_field->setAccessibleName(tr("Part of a command’s name"));
    m_field->setPlaceholderText(tr("what do you want to do, or where to go?"));
    m_list = new QListWidget;
    m_list->setObjectName(QStringLiteral("commandList"));
    m_list->setFrameShape(QFrame::NoFrame);
    layout->addWidget(m_field);
    layout->addWidget(m_list);
    m_field->installEventFilter(this);
    connect(m_field, &QLineEdit::textChanged, this, &CommandFinder::filter);
    connect(m_field, &QLineEdit::returnPressed, this, &CommandFinder::run);
    connect(m_list, &QListWidget::itemActivated, this, &CommandFinder::run);
    filter({});
}

void CommandFinder::filter(const QString& text) {
    m_list->clear();
    const QStringList words = text.toLower().split(QLatin1Char(' '), Qt::SkipEmptyParts);
    for (std::size_t i = 0; i < m_commands.size(); ++i) {
        const QString title = m_commands[i].title.toLower();
        if (!std::all_of(words.begin(), words.end(), [&](const QString& w) { return title.contains(w); })) continue;
        auto* item = new QListWidgetItem(
            m_commands[i].keys.isEmpty() ? m_commands[i].title
                                         : QStringLiteral("%1    %2").arg(m_commands[i].title, m_commands[i].keys));
        item->setData(Qt::UserRole, static_cast<int>(i));
        m_list->addItem(item);
    }
    m_list->setCurrentRow(0);
}

bool CommandFinder::eventFilter(QObject* watched, QEvent* event) {
    if (event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        const int step = key == Qt::Key_Down ? 1 : key == Qt::Key_Up ? -1 : 0;
        if (step != 0) {
            m_list->setCurrentRow(std::clamp(m_list->currentRow() + step, 0, std::max(0, m_list->count() - 1)));
            return true;
        }
    }
    return QDialog::eventFilter(watched, event);
}

void CommandFinder::run() {
    const QListWidgetItem* item = m_list->currentItem();
    if (!item) return;
    const auto command = m_commands[static_cast<std::size_t>(item->data(Qt::UserRole).toInt())].run;
    accept();
    command();
}

} // namespace cognitum
