// Bench page: the boards, how each is reached, and who sits on its pins.
#pragma once

#include "ui/page.h"

#include <QComboBox>
#include <QTableWidget>

namespace cognitum {

class LinkBox;
class TextLabel;

class BoardsPage : public Page {
    Q_OBJECT

  public:
    explicit BoardsPage(Context& context);
    [[nodiscard]] bool wantsSide() const override { return false; }

  protected:
    void refresh() override;
    void readingChanged() override { m_key.clear(); }

  private:
    void addBoard();
    void fillPins(const BoardUse& use, const BoardCard& card);
    [[nodiscard]] std::string chosen() const;

    QComboBox* m_board;
    QComboBox* m_card;
    QPushButton* m_add;
    LinkBox* m_link;
    TextLabel *m_facts, *m_empty;
    QTableWidget* m_pins;
    QWidget* m_content;
    QString m_key;
};

} // namespace cognitum
