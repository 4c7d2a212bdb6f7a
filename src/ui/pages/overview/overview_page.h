// Bench page: the log sheet. Groups, order and what is shown are the user's.
#pragma once

#include "ui/widgets/page.h"

namespace cognitum {

class OverviewSheet;

class OverviewPage : public Page {
    Q_OBJECT

  public:
    OverviewPage(Context& context, QWidget* parent);
    [[nodiscard]] bool wantsSide() const override { return false; }

  protected:
    void refresh() override;

  private:
    void showMenu(const QString& reading, const QPoint& at);
    void edit(const QString& text, const std::function<void(Bench&)>& change);
    void move(const std::string& reading, int by);
    void print();
    void printOn(QPrinter& printer);
    OverviewSheet* m_sheet;
    QWidget *m_empty, *m_foot;
    QPushButton *m_large, *m_hidden;
};

} // namespace cognitum
