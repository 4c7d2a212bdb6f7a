// Help beside the work: what this stop or page answers, how it computes, what can go wrong, with this reading's own
// numbers; all words, and a search through all of it. The texts are docs/help/*.md, built into the program.
#pragma once

#include "ui/context.h"

#include <QLineEdit>
#include <QTextBrowser>
#include <QWidget>

namespace cognitum {

/// Names of the texts, without ".md": "quantity" … "watch", pages, "glossary".
QStringList help_topics();
/// Text of a topic as Markdown; empty: there is none. "walk-3" is the third station of the walk.
QString help_text(const QString& topic);
/// Lines of all topics that hold every word of the search, as a Markdown list with links.
QString help_search(const QString& words);

/// Stations of the walk through the demo, from 1.
inline constexpr int walk_stations = 10;

class HelpPanel : public QWidget {
    Q_OBJECT

  public:
    explicit HelpPanel(Context& context, QWidget* parent = nullptr);
    void showTopic(const QString& topic);
    [[nodiscard]] QString topic() const { return m_topic; }
    void leaveTopic() { m_topic.clear(); } ///< the walk ends here, and can be taken up again

  signals:
    void closed();
    void stationReached(int station); ///< of the walk: its place should be shown

  protected:
    void keyPressEvent(QKeyEvent* event) override;
    void paintEvent(QPaintEvent* event) override;

  private:
    void put(const QString& markdown);
    void restyle();

    Context& m_context;
    QLineEdit* m_search;
    QTextBrowser* m_text;
    QString m_topic;
};

} // namespace cognitum
