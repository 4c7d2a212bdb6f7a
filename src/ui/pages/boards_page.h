// Bench page: the boards, how each is reached, who sits on its pins, what it carries, ways to more inputs, the
// bill.
#pragma once

#include "ui/widgets/page.h"

#include <QComboBox>
#include <QScrollArea>
#include <QTableWidget>

namespace cognitum {

class BillView;
class BudgetBars;
class BoardDrawing;
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
    void choose(const std::string& board);
    /// The maker's own program for the chosen board, on its tab.
    void readProgram(const QStringList& paths);

  protected:
    void refresh() override;
    void readingChanged() override { m_key.clear(); }

  private:
    void buildBar();
    void buildDrawn();
    void buildPins();
    void showTab(int tab);
    void addBoard();
    void assignAnew();
    void copyBuild();
    void fillBoards();
    void fillPins(const BoardUse& use, const BoardCard& card);
    void fillDrawn(const BoardUse& use);
    void fillPinsTab(const BoardUse& use, const BoardCard* card);
    [[nodiscard]] std::string chosen() const;

    QComboBox *m_board, *m_card;
    QWidget *m_content, *m_drawn_tab, *m_pins_tab;
    BoardDrawing* m_drawing;
    std::vector<QPushButton*> m_tabs;
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
    int m_tab = 0; ///< what is on the board
    QString m_key, m_cards_key;
};

} // namespace cognitum
