// Bench page: the boards, how each is reached, who sits on its pins, what it carries, ways to more inputs, the
// bill.
#pragma once

#include "ui/page.h"

#include <QComboBox>
#include <QScrollArea>
#include <QTableWidget>

namespace cognitum {

class BillView;
class BudgetBars;
class BoardSettings;
class LinkBox;
class ModulesView;
class MoreInputsView;
class ProgramView;
class RatesView;
class TextLabel;

class BoardsPage : public Page {
    Q_OBJECT

  public:
    BoardsPage(Context& context, QWidget* parent);
    [[nodiscard]] bool wantsSide() const override { return false; }

  protected:
    void refresh() override;
    void readingChanged() override { m_key.clear(); }
    void resizeEvent(QResizeEvent* event) override;

  private:
    void buildBar();
    void buildPins();
    void showTab(int tab);
    void addBoard();
    void assignAnew();
    void copyBuild();
    void fillBoards();
    void fillPins(const BoardUse& use, const BoardCard& card);
    void fillFindings(const BoardUse& use);
    [[nodiscard]] std::string chosen() const;

    QComboBox *m_board, *m_card;
    QWidget *m_content, *m_pins_tab;
    std::vector<QPushButton*> m_tabs;
    QBoxLayout* m_bar; ///< tabs, and beside or below them what can be done
    LinkBox* m_link;
    TextLabel* m_facts;
    QWidget* m_empty;
    BoardSettings* m_settings;
    QTableWidget* m_pins;
    BudgetBars* m_bars;
    QVBoxLayout* m_findings;
    ModulesView* m_modules;
    MoreInputsView* m_more;
    ProgramView* m_program;
    RatesView* m_rates;
    BillView* m_bill;
    int m_tab = 0;
    QString m_key, m_cards_key;
};

} // namespace cognitum
