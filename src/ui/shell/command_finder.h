// Ctrl+K: everything that can be done or gone to, found by typing a part of its name.
#pragma once

#include "ui/theme.h"

#include <QDialog>
#include <QLineEdit>
#include <QListWidget>
#include <functional>

namespace cognitum {

struct Command {
    QString title, keys;
    std::function<void()> run;
};

class CommandFinder : public QDialog {
    Q_OBJECT

  public:
    CommandFinder(Theme& theme, std::vector<Command> commands, QWidget* parent = nullptr);

  protected:
    bool eventFilter(QObject* watched, QEvent* event) override;

  private:
    void filter(const QString& text);
    void run();

    std::vector<Command> m_commands;
    QLineEdit* m_field;
    QListWidget* m_list;
};

} // namespace cognitum
