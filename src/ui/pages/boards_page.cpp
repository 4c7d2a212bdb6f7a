#include "ui/pages/boards_page.h"

#include "core/units/format.h"
#include "ui/widgets/link_box.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

BoardsPage::BoardsPage(Context& context) : Page(context, tr("Boards, and who sits on their pins")) {
    auto* bar = new QHBoxLayout;
    m_board = new QComboBox;
    m_board->setObjectName(QStringLiteral("boardChoice"));
    m_board->setAccessibleName(tr("Board"));
    m_board->setMinimumWidth(theme().px(180));
    bar->addWidget(m_board);
    bar->addStretch(1);
    auto* label = new TextLabel(theme(), TextLabel::Role::soft, tr("Add a board like"));
    label->setWordWrap(false);
    bar->addWidget(label);
    m_card = new QComboBox;
    m_card->setObjectName(QStringLiteral("boardCard"));
    m_card->setAccessibleName(tr("Kind of board to add"));
    for (const BoardCard& card : context.session().catalog().boards)
        m_card->addItem(from_std(card.name), from_std(card.id));
    bar->addWidget(m_card);
    m_add = make_button(tr("Add it"), QStringLiteral("addBoard"));
    bar->addWidget(m_add);
    body()->addLayout(bar);
    m_empty = new TextLabel(theme(), TextLabel::Role::body,
                            tr("No board yet. Add the one that is on your bench: its card knows the pins, the "
                               "converter and the rails."));
    body()->addWidget(m_empty);
    m_content = new QWidget;
    auto* content = new QVBoxLayout(m_content);
    content->setContentsMargins(0, 0, 0, 0);
    content->setSpacing(theme().px(12));
    m_link = new LinkBox(context);
    content->addWidget(m_link);
    m_facts = new TextLabel(theme(), TextLabel::Role::body);
    content->addWidget(m_facts);
    m_pins = new QTableWidget(0, 3);
    m_pins->setObjectName(QStringLiteral("boardPins"));
    m_pins->setAccessibleName(tr("Pins of the board"));
    m_pins->setHorizontalHeaderLabels({tr("Pin"), tr("Can do"), tr("Taken by")});
    m_pins->verticalHeader()->setVisible(false);
    m_pins->verticalHeader()->setDefaultSectionSize(theme().px(26));
    m_pins->horizontalHeader()->setStretchLastSection(true);
    m_pins->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft);
    m_pins->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_pins->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_pins->setShowGrid(false);
    content->addWidget(m_pins, 1);
    body()->addWidget(m_content, 1);
    body()->addStretch(0);
    connect(m_add, &QPushButton::clicked, this, &BoardsPage::addBoard);
    connect(m_board, &QComboBox::activated, this, [this] {
        m_key.clear();
        refresh();
    });
}

std::string BoardsPage::chosen() const {
    return m_board->currentData().toString().toStdString();
}

void BoardsPage::addBoard() {
    const BoardCard* card = context().session().catalog().board(m_card->currentData().toString().toStdString());
    if (!card) return;
    const auto n = context().session().bench().boards.size() + 1;
    const std::string name = n == 1 ? "my board" : fmt::format("board {}", n);
    context().session().edit(tr("Add board"), [&](Bench& bench) {
        bench.boards.push_back({bench.free_id(name), name, card->id, {}});
    });
    refresh();
    m_board->setCurrentIndex(m_board->count() - 1);
    m_key.clear();
    refresh();
}

void BoardsPage::refresh() {
    const Bench& bench = context().session().bench();
    if (m_board->count() != static_cast<int>(bench.boards.size()) ||
        (!bench.boards.empty() && m_board->itemData(0).toString() != from_std(bench.boards[0].id))) {
        const int before = std::max(0, m_board->currentIndex());
        m_board->clear();
        for (const BoardUse& b : bench.boards)
            m_board->addItem(from_std(b.name), from_std(b.id));
        m_board->setCurrentIndex(std::min(before, m_board->count() - 1));
    }
    const bool any = !bench.boards.empty();
    m_board->setVisible(any);
    m_content->setVisible(any);
    m_empty->setVisible(!any);
    if (!any) return;
    const BoardUse* use = bench.board(chosen());
    const BoardCard* card = use ? context().session().catalog().board(use->card) : nullptr;
    if (use) m_link->setBoard(use->id);
    m_facts->setVisible(card);
    m_pins->setVisible(card);
    if (!card) return;
    setNote(from_std(card->name));
    QString key = from_std(use->id);
    for (const Reading& r : bench.readings)
        key += from_std(r.name + r.wiring.board + r.wiring.pin);
    if (key == m_key) return;
    m_key = key;
    std::string rails;
    for (const Rail& rail : card->rails)
        rails += fmt::format("{}{} gives up to {}", rails.empty() ? "" : ", ", rail.label,
                             format_measure(rail.current_mA, "mA"));
    std::string references;
    for (const VoltageReference& r : card->references)
        references += fmt::format("{}{} (± {})", references.empty() ? "" : " or ", r.name,
                                  format_measure(r.tolerance_V, "V"));
    set_text(m_facts, from_std(fmt::format("{} bits against {}. {}. A pin stands {}.", card->bits, references,
                                           rails, format_measure(card->input_limit_V, "V"))));
    fillPins(*use, *card);
}

void BoardsPage::fillPins(const BoardUse& use, const BoardCard& card) {
    m_pins->setRowCount(0);
    for (const bool analog : {true, false}) // analog inputs are the scarce ones
        for (const Pin& pin : card.pins) {
            if (pin.can("analog") != analog) continue;
            QString taken = from_std(pin.taken_by);
            for (const Reading& r : context().session().bench().readings)
                if (r.wiring.board == use.id && r.wiring.pin == pin.label) taken = from_std(r.name);
            QStringList functions;
            for (const std::string& f : pin.functions)
                functions << from_std(f);
            const int row = m_pins->rowCount();
            m_pins->insertRow(row);
            m_pins->setItem(row, 0, new QTableWidgetItem(from_std(pin.label)));
            m_pins->setItem(row, 1, new QTableWidgetItem(functions.join(QStringLiteral(", "))));
            m_pins->setItem(row, 2, new QTableWidgetItem(taken.isEmpty() ? tr("free") : taken));
        }
    m_pins->setColumnWidth(0, theme().px(80));
    m_pins->setColumnWidth(1, theme().px(220));
}

} // namespace cognitum
