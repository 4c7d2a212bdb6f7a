// The left side: the bench's name (its menu is the file menu), the bench pages, the readings, the boards.
#pragma once

#include "ui/shell/reading_list.h"

#include <QListView>
#include <QMenu>
#include <QPushButton>

namespace cognitum {

class TextLabel;

class NavigationRail : public QWidget {
    Q_OBJECT

  public:
    explicit NavigationRail(Context& context, QMenu* bench_menu, QWidget* parent = nullptr);
    /// Marks one of the bench pages as shown; empty: a reading is shown.
    void setPage(const QString& page);

  signals:
    void pageChosen(const QString& page);
    void readingChosen();
    void newReadingAsked();

  protected:
    void paintEvent(QPaintEvent* event) override;

  private:
    void addPage(const QString& id, const QString& title, const QString& keys);
    void refresh();

    Context& m_context;
    QPushButton* m_title;
    TextLabel* m_place;
    QWidget* m_pages;
    QList<QPushButton*> m_page_buttons;
    ReadingModel m_model;
    ReadingDelegate m_delegate;
    QListView* m_list;
    TextLabel* m_boards;
    QString m_page;
};

} // namespace cognitum
