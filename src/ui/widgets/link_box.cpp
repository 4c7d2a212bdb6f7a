#include "ui/widgets/link_box.h"

#include "link/serial_link.h"
#include "ui/widgets/parts.h"

#include <QGridLayout>
#include <QLineEdit>

namespace cognitum {

namespace {
const QString simulated_id = QStringLiteral("simulated:");
}

LinkBox::LinkBox(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(theme.px(8));
    m_port = new QComboBox;
    m_port->setObjectName(QStringLiteral("linkPort"));
    m_port->setAccessibleName(tr("Port"));
    m_port->setEditable(true);
    m_port->setMinimumWidth(theme.px(220));
    m_port->lineEdit()->setPlaceholderText(tr("choose a port, or type its path"));
    m_speed = new QComboBox;
    m_speed->setObjectName(QStringLiteral("linkSpeed"));
    m_speed->setAccessibleName(tr("Speed"));
    for (const int baud : {9600, 19200, 38400, 57600, 115200, 230400, 250000, 500000, 1000000})
        m_speed->addItem(tr("%1 Bd").arg(baud), baud);
    m_speed->setCurrentIndex(m_speed->findData(115200));
    m_open = make_button(tr("Connect"), QStringLiteral("linkOpen"), true);
    m_close = make_button(tr("Disconnect"), QStringLiteral("linkClose"));
    m_state = new TextLabel(theme, TextLabel::Role::soft);
    m_state->setObjectName(QStringLiteral("linkState"));
    grid->addWidget(m_port, 0, 0);
    grid->addWidget(m_speed, 0, 1);
    grid->addWidget(m_open, 0, 2);
    grid->setColumnStretch(3, 1);
    grid->addWidget(m_state, 1, 0, 1, 4);
    grid->addWidget(m_close, 1, 4);
    connect(m_open, &QPushButton::clicked, this, &LinkBox::connectPort);
    connect(m_close, &QPushButton::clicked, this, &LinkBox::disconnectPort);
    connect(m_port->lineEdit(), &QLineEdit::returnPressed, this, &LinkBox::connectPort);
    connect(&context, &Context::refreshed, this, [this] {
        if (isVisible()) refresh();
    });
}

void LinkBox::setBoard(const std::string& board) {
    if (board == m_board && m_port->count() > 0) return refresh();
    m_board = board;
    listPorts();
    const BoardUse* use = m_context.session().bench().board(board);
    if (use) {
        m_port->setEditText(use->link.kind == LinkKind::simulated ? tr("simulated board")
                                                                  : from_std(use->link.port));
        const int index = m_speed->findData(use->link.baud);
        if (index >= 0) m_speed->setCurrentIndex(index);
    }
    refresh();
}

void LinkBox::listPorts() {
    m_port->clear();
    for (const PortInfo& port : list_ports())
        m_port->addItem(port.about.isEmpty() ? port.path : QStringLiteral("%1  (%2)").arg(port.path, port.about),
                        port.path);
    m_port->addItem(tr("simulated board"), simulated_id);
}

void LinkBox::connectPort() {
    const QString text = m_port->currentText().trimmed();
    const int index = m_port->findText(text);
    const QString port = index >= 0 ? m_port->itemData(index).toString() : text;
    if (port.isEmpty()) {
        set_text(m_state, tr("Choose a port first, or type its path, such as /dev/ttyUSB0."));
        return;
    }
    const int baud = m_speed->currentData().toInt();
    m_context.session().edit(tr("Connect board"), [&](Bench& bench) {
        BoardUse* use = bench.board(m_board);
        if (!use) return;
        use->link.kind = port == simulated_id ? LinkKind::simulated : LinkKind::serial;
        use->link.port = port == simulated_id ? std::string() : port.toStdString();
        use->link.baud = baud;
        if (port == simulated_id && use->link.seed == 0) use->link.seed = 20261;
    });
}

void LinkBox::disconnectPort() {
    m_context.session().edit(tr("Disconnect board"), [&](Bench& bench) {
        if (BoardUse* use = bench.board(m_board)) use->link.kind = LinkKind::none;
    });
}

void LinkBox::refresh() {
    const BoardUse* use = m_context.session().bench().board(m_board);
    const bool linked = use && use->link.kind != LinkKind::none;
    m_close->setVisible(linked);
    for (QWidget* w :
         {static_cast<QWidget*>(m_port), static_cast<QWidget*>(m_speed), static_cast<QWidget*>(m_open)})
        w->setVisible(!linked);
    m_open->setEnabled(use);
    const auto found = m_context.live().boards.find(m_board);
    if (!linked || found == m_context.live().boards.end()) {
        if (!linked && !m_state->text().startsWith(tr("Choose"))) set_text(m_state, tr("Not connected."));
        return;
    }
    const LiveBoard& board = found->second;
    if (!board.reason.isEmpty())
        set_text(m_state, board.reason);
    else if (board.state == LinkState::open)
        set_text(m_state, tr("Connected to %1: %2 lines, %3 lost, %4 rejected")
                              .arg(board.port.isEmpty() ? from_std(use->name) : board.port)
                              .arg(board.lines)
                              .arg(board.lost)
                              .arg(board.rejected));
    else
        set_text(m_state, tr("Opening …"));
    m_state->setColour(board.state == LinkState::lost ? m_context.theme().colours().bad : QColor());
}

} // namespace cognitum
