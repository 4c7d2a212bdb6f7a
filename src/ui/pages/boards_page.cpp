#include "ui/pages/boards_page.h"

#include "core/base/phrase.h"
#include "core/plan/assign.h"
#include "core/plan/bill.h"
#include "core/plan/board_picture.h"
#include "core/plan/budgets.h"
#include "core/plan/findings.h"
#include "core/units/format.h"
#include "ui/pages/bill_view.h"
#include "ui/pages/board_drawing.h"
#include "ui/pages/board_settings.h"
#include "ui/pages/budget_bars.h"
#include "ui/pages/modules_view.h"
#include "ui/pages/more_inputs_view.h"
#include "ui/pages/program/program_view.h"
#include "ui/pages/rates_view.h"
#include "ui/widgets/finding_row.h"
#include "ui/widgets/link_box.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <QHeaderView>
#include <QInputDialog>
#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {
enum Tab { drawn_tab, pins_tab, program_tab, modules_tab, more_tab, rates_tab, bill_tab };
}

BoardsPage::BoardsPage(Context& context, QWidget* parent)
    : Page(context, tr("Boards, and who sits on their pins"), parent) {
    buildBar();
    m_empty = new QWidget;
    auto* none = new QVBoxLayout(m_empty);
    none->setContentsMargins(0, 0, 0, 0);
    none->addWidget(new TextLabel(
        theme(), TextLabel::Role::body,
        tr("No board yet. Plug yours in and see what it sends, or add the one that you plan with: its card "
           "knows the pins, the converter and the rails.")));
    auto* see = make_button(tr("See what is plugged in"), QStringLiteral("boardsFirst"), true);
    none->addWidget(see, 0, Qt::AlignLeft);
    connect(see, &QPushButton::clicked, this,
            [this] { emit this->context().pageRequested(QStringLiteral("new")); });
    body()->addWidget(m_empty);
    m_content = new QWidget;
    auto* content = new QVBoxLayout(m_content);
    content->setContentsMargins(0, 0, 0, 0);
    content->setSpacing(theme().px(10));
    m_link = new LinkBox(context);
    content->addWidget(m_link);
    auto* tabs = new QHBoxLayout;
    tabs->setSpacing(theme().px(6));
    const QStringList names = {tr("Board"),       tr("Pins"),  tr("Program"), tr("Other parts"),
                               tr("More inputs"), tr("Rates"), tr("Cost")};
    const QStringList ids = {QStringLiteral("tabBoard"),   QStringLiteral("tabPins"), QStringLiteral("tabProgram"),
                             QStringLiteral("tabModules"), QStringLiteral("tabMore"), QStringLiteral("tabRates"),
                             QStringLiteral("tabBill")};
    for (int i = 0; i < names.size(); ++i) {
        auto* button = make_button(names[i], ids[i]);
        button->setCheckable(true);
        button->setAutoExclusive(true);
        tabs->addWidget(button);
        m_tabs.push_back(button);
        connect(button, &QPushButton::clicked, this, [this, i] { showTab(i); });
    }
    tabs->addStretch(1);
    auto* assign = make_button(tr("Choose all pins anew"), QStringLiteral("assignAnew"));
    assign->setToolTip(tr("Pins that you chose yourself stay"));
    auto* copy = make_button(tr("Copy for a second place…"), QStringLiteral("copyBuild"));
    auto* actions = new QHBoxLayout;
    actions->setSpacing(theme().px(6));
    actions->addWidget(assign);
    actions->addWidget(copy);
    actions->addStretch(1);
    auto* bar = new QHBoxLayout; // tabs, and beside or below them what can be done
    bar->setSpacing(theme().px(6));
    bar->addLayout(tabs, 1);
    bar->addLayout(actions);
    stackWhenNarrow(bar, 960);
    content->addLayout(bar);
    buildDrawn();
    content->addWidget(m_drawn_tab, 1);
    buildPins();
    content->addWidget(m_pins_tab, 1);
    m_modules = new ModulesView(context);
    content->addWidget(m_modules, 1);
    m_more = new MoreInputsView(context);
    content->addWidget(m_more, 1);
    m_rates = new RatesView(context);
    content->addWidget(m_rates, 1);
    m_bill = new BillView(context);
    content->addWidget(m_bill, 1);
    m_program = new ProgramView(context);
    content->addWidget(m_program, 1);
    body()->addWidget(m_content, 1);
    body()->addStretch(0);
    m_tabs[drawn_tab]->setChecked(true);
    connect(assign, &QPushButton::clicked, this, &BoardsPage::assignAnew);
    connect(copy, &QPushButton::clicked, this, &BoardsPage::copyBuild);
    connect(m_board, &QComboBox::activated, this, [this] {
        m_key.clear();
        refresh();
    });
}

void BoardsPage::buildBar() {
    auto* bar = new QHBoxLayout;
    bar->setSpacing(theme().px(8));
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
    m_card->setMaximumWidth(theme().px(380));
    m_card->setSizeAdjustPolicy(
        QComboBox::AdjustToMinimumContentsLengthWithIcon); // it may be cut in a small window
    m_card->setMinimumContentsLength(16);
    m_card->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Fixed);
    bar->addWidget(m_card, 4);
    auto* add = make_button(tr("Add it"), QStringLiteral("addBoard"));
    bar->addWidget(add);
    body()->addLayout(bar);
    stackWhenNarrow(bar);
    connect(add, &QPushButton::clicked, this, &BoardsPage::addBoard);
}

void BoardsPage::buildPins() {
    m_pins_tab = new QWidget;
    auto* columns = new QHBoxLayout(m_pins_tab);
    columns->setContentsMargins(0, 0, 0, 0);
    columns->setSpacing(theme().px(24));
    auto* left = new QVBoxLayout;
    left->setSpacing(theme().px(6));
    m_facts = new TextLabel(theme(), TextLabel::Role::soft);
    left->addWidget(m_facts);
    m_pins = new QTableWidget(0, 4);
    m_pins->setObjectName(QStringLiteral("boardPins"));
    m_pins->setAccessibleName(tr("Pins of the board"));
    m_pins->setHorizontalHeaderLabels({tr("Pin"), tr("Port"), tr("Taken by"), tr("Can do")});
    m_pins->verticalHeader()->setVisible(false);
    m_pins->verticalHeader()->setDefaultSectionSize(theme().px(24));
    m_pins->horizontalHeader()->setStretchLastSection(true);
    m_pins->horizontalHeader()->setDefaultAlignment(Qt::AlignLeft);
    m_pins->setEditTriggers(QAbstractItemView::NoEditTriggers);
    m_pins->setSelectionBehavior(QAbstractItemView::SelectRows);
    m_pins->setShowGrid(false);
    m_pins->setHorizontalScrollBarPolicy(Qt::ScrollBarAlwaysOff);
    left->addWidget(m_pins, 1);
    columns->addLayout(left, 1);

    auto* side = new QWidget;
    auto* right = new QVBoxLayout(side);
    right->setContentsMargins(0, 0, theme().px(8), 0);
    right->setSpacing(theme().px(8));
    m_bars = new BudgetBars(theme());
    right->addWidget(m_bars);
    right->addStretch(1);
    QScrollArea* scroll = make_scroll(side);
    scroll->setMinimumWidth(theme().px(370));
    scroll->setMaximumWidth(theme().px(440));
    columns->addWidget(scroll);
}

std::string BoardsPage::chosen() const {
    return m_board->currentData().toString().toStdString();
}

void BoardsPage::showTab(int tab) {
    m_tab = tab;
    m_key.clear();
    refresh();
}

void BoardsPage::choose(const std::string& board) {
    refresh();
    if (const int at = m_board->findData(from_std(board)); at >= 0) m_board->setCurrentIndex(at);
}

void BoardsPage::readProgram(const QStringList& paths) {
    refresh();
    showTab(program_tab);
    m_program->readOwn(paths);
}

void BoardsPage::addBoard() {
    const BoardCard* card = context().session().catalog().board(m_card->currentData().toString().toStdString());
    if (!card) return;
    const auto n = context().session().bench().boards.size() + 1;
    const std::string name = n == 1 ? "my board" : phrase("board {}", n);
    context().session().edit(tr("Add board"), [&](Bench& bench) {
        BoardUse use;
        use.id = bench.free_id(name);
        use.name = name;
        use.card = card->id;
        bench.boards.push_back(use);
    });
    refresh();
    m_board->setCurrentIndex(m_board->count() - 1);
    m_key.clear();
    refresh();
}

void BoardsPage::assignAnew() {
    Session& session = context().session();
    const Assignment found = assign_pins(session.bench(), session.catalog(), Keep::fixed, chosen());
    session.edit(tr("Choose all pins anew"), [&](Bench& bench) {
        bench = found.bench;
        for (Reading& r : bench.readings) {
            const Reading* before = session.bench().reading(r.id);
            if (before && !(before->wiring.pins == r.wiring.pins)) r.wiring.ticked.clear();
        }
    });
    emit context().said(found.gaps.empty() ? tr("Every leg has its pin.") : from_std(found.gaps.front()));
    m_key.clear();
    refresh();
}

void BoardsPage::copyBuild() {
    bool given = false;
    const QString place = QInputDialog::getText(this, tr("A second build"), tr("Where will it stand?"),
                                                QLineEdit::Normal, tr("second place"), &given);
    if (!given || place.trimmed().isEmpty()) return;
    Session& session = context().session();
    const Bench copied = copy_build(session.bench(), chosen(), place.trimmed().toStdString());
    session.edit(tr("Copy a build"), [&](Bench& bench) { bench = copied; });
    emit context().said(tr("Copied with its plan and without its calibrations: those belong to one probe."));
}

void BoardsPage::fillBoards() {
    const auto& cards = context().session().catalog().boards; // one may have come meanwhile
    if (m_card->count() != static_cast<int>(cards.size())) {
        const QString before = m_card->currentData().toString();
        m_card->clear();
        for (const BoardCard& card : cards)
            m_card->addItem(from_std(card.name), from_std(card.id));
        m_card->setCurrentIndex(std::max(0, m_card->findData(before)));
    }
    const Bench& bench = context().session().bench();
    QString key;
    for (const BoardUse& b : bench.boards)
        key += from_std(b.id + b.name + "|");
    if (key == m_cards_key && m_board->count() > 0) return;
    m_cards_key = key;
    const QString before = m_board->currentData().toString();
    m_board->clear();
    for (const BoardUse& b : bench.boards)
        m_board->addItem(from_std(b.name), from_std(b.id));
    m_board->setCurrentIndex(std::max(0, m_board->findData(before)));
}

void BoardsPage::refresh() {
    const Session& session = context().session();
    const Bench& bench = session.bench();
    fillBoards();
    const bool any = !bench.boards.empty();
    m_board->setVisible(any);
    m_content->setVisible(any);
    m_empty->setVisible(!any);
    if (!any) return;
    const BoardUse* use = bench.board(chosen());
    if (!use) return;
    const BoardCard* card = session.catalog().board(use->card);
    m_link->setBoard(use->id);
    m_drawn_tab->setVisible(m_tab == drawn_tab);
    m_pins_tab->setVisible(m_tab == pins_tab);
    m_modules->setVisible(m_tab == modules_tab);
    m_more->setVisible(m_tab == more_tab);
    m_rates->setVisible(m_tab == rates_tab);
    m_bill->setVisible(m_tab == bill_tab);
    m_program->setVisible(m_tab == program_tab);
    m_link->setVisible(m_tab == drawn_tab);
    setNote(from_std(card ? card->name : phrase("its card is missing: ") + use->card));
    const QString key = from_std(use->id) + QStringLiteral(" %1 %2").arg(session.planRevision()).arg(m_tab);
    if (key == m_key) {
        if (m_tab == rates_tab) m_rates->refreshLive();
        if (m_tab == program_tab) m_program->refreshLive();
        return;
    }
    m_key = key;
    if (m_tab == modules_tab) m_modules->setBoard(use->id);
    if (m_tab == more_tab) m_more->setBoard(use->id);
    if (m_tab == rates_tab) m_rates->setBoard(use->id);
    if (m_tab == bill_tab) m_bill->refresh();
    if (m_tab == program_tab) m_program->setBoard(use->id);
    if (m_tab == drawn_tab) fillDrawn(*use);
    if (m_tab == pins_tab) fillPinsTab(*use, card);
}

void BoardsPage::fillPinsTab(const BoardUse& use_here, const BoardCard* card) {
    const BoardUse* use = &use_here;
    const Session& session = context().session();
    const Bench& bench = session.bench();
    if (!card) {
        m_pins->setRowCount(0);
        m_bars->setRows({});
        return;
    }
    std::string references;
    for (const VoltageReference& r : card->references)
        references += fmt::format("{}{} (± {})", references.empty() ? "" : phrase(" or "), r.name,
                                  format_measure(r.tolerance_V, "V"));
    const auto live = context().live().boards.find(use->id);
    const std::string clock = live != context().live().boards.end() && live->second.facts.clock.known()
                                  ? " " + clock_text(live->second.facts.clock)
                                  : std::string();
    set_text(m_facts, from_std(phrase(
                          "{} bits against {}. A pin withstands {}, calls high what is above {}, drives {}. {}{}",
                          card->bits, references, format_measure(card->input_limit_V, "V"),
                          format_measure(card->high_threshold_V, "V"), format_measure(card->drive_mA, "mA"),
                          card->good_for, clock)));
    double money = 0;
    for (const BillRow& row : bill_of_materials(bench, session.catalog()))
        if (row.item == use->card) money += row.each;
    for (const Reading& r : bench.readings)
        if (const PartCard* part = session.part(r); part && r.wiring.board == use->id && !is_shared(bench, r))
            money += price_of(bench, part->id, price_guess(part->price));
    for (const Module& m : bench.modules)
        if (const PartCard* part = session.catalog().part(m.part); part && m.board == use->id)
            money += price_of(bench, part->id, price_guess(part->price));
    m_bars->setRows(budget_rows(board_budget(bench, session.catalog(), *use), money, bench.currency));
    fillPins(*use, *card);
}

void BoardsPage::fillPins(const BoardUse& use, const BoardCard& card) {
    const Session& session = context().session();
    m_pins->setRowCount(static_cast<int>(card.pins.size()));
    std::vector<const Pin*> order;
    for (const bool taken : {true, false}) // who sits there first, then what is free
        for (const Pin& pin : card.pins)
            if (pin_is_used(session.bench(), use, pin) == taken) order.push_back(&pin);
    for (int row = 0; row < static_cast<int>(order.size()); ++row) {
        const Pin& pin = *order[static_cast<std::size_t>(row)];
        const QString user = from_std(pin_user(session.bench(), session.catalog(), use, pin));
        QStringList functions;
        for (const std::string& f : pin.functions)
            functions << from_std(phrase_of(f));
        if (pin.direction == "in") functions << tr("listens only");
        if (pin.lost_with_radio) functions << tr("analog lost with the radio");
        if (!pin.boot.empty()) functions << tr("must be %1 at reset").arg(from_std(phrase_of(pin.boot)));
        const auto put = [&](int column, const QString& text, bool mono) {
            auto* item = new QTableWidgetItem(text);
            item->setFont(mono ? theme().mono(12) : theme().text(12));
            item->setToolTip(text);
            if (user == QStringLiteral("free") && column == 2) item->setForeground(theme().colours().soft);
            if (!pin.taken_by.empty() || column == 3) item->setForeground(theme().colours().soft);
            m_pins->setItem(row, column, item);
        };
        put(0, from_std(pin.label), true);
        put(1, pin.port >= 0 ? QString::number(pin.port) : QString(), true);
        put(2, user, false);
        put(3, functions.join(QStringLiteral(", ")), false);
    }
    m_pins->setColumnWidth(0, theme().px(52));
    m_pins->setColumnWidth(1, theme().px(44));
    m_pins->setColumnWidth(2, theme().px(m_pins->width() < theme().px(480) ? 160 : 210));
}

} // namespace cognitum
