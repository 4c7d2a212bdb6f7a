// Ctrl+K: everything that can be done or gone to, found by typing parts of its name.
#pragma once

#include "ui/theme.h"

#include <QDialog>
#include <QLineEdit>
#include <QTreeWidget>
#include <functional>

namespace cognitum {

struct Command {
    QString title;
    QString about; ///< its keys, or what it is and where it leads
    std::function<void()> run;
    QString also = {}; ///< further words by which it is found
};

/// Which of them hold every word of `typed`, the best first: whose title begins with it, then whose words begin
/// with its words, then those that hold them somewhere. In the order given among equals; nothing typed: all.
std::vector<std::size_t> found_commands(const std::vector<Command>& commands, const QString& typed);

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
    QTreeWidget* m_list;
};

} // namespace cognitum
