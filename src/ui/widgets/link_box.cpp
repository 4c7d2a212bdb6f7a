#include "ui/widgets/link_box.h"

#include "core/decode/message_format.h"
#include "core/program/proof_plan.h"
#include "core/units/format.h"
#include "link/listening.h"
#include "link/serial_link.h"
#include "ui/widgets/link_more.h"
#include "ui/widgets/live_label.h"
#include "ui/widgets/parts.h"

#include <QFileDialog>
#include <QHBoxLayout>

namespace cognitum {

namespace {

const QString simulated_id = QStringLiteral("simulated:"), processor_id = QStringLiteral("simulated:program");
enum Page { serial_page, mqtt_page, http_page, file_page };

QString simulated_processor() {
    return LinkBox::tr("simulated, with the written program");
}
} // namespace

LinkBox::LinkBox(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme.px(6));
    m_choice = new QWidget;
    auto* row = make_row(m_choice, theme.px(8));
    m_kind = new QComboBox;
    m_kind->setObjectName(QStringLiteral("linkKind"));
    m_kind->setAccessibleName(tr("Kind of link"));
    m_kind->addItem(tr("Port"), serial_page);
    m_kind->addItem(tr("MQTT broker"), mqtt_page);
    m_kind->addItem(tr("HTTP posts"), http_page);
    m_kind->addItem(tr("File"), file_page);
    row->addWidget(m_kind);
    m_fields = new QStackedWidget;
    m_fields->setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    for (QWidget* page : {serialFields(), mqttFields(), httpFields(), fileFields()})
        m_fields->addWidget(page);
    row->addWidget(m_fields, 1);
    m_format = new QComboBox;
    m_format->setObjectName(QStringLiteral("linkFormat"));
    m_format->setAccessibleName(tr("Format of the lines"));
    m_format->setEditable(true);
    m_format->setMinimumWidth(theme.px(130));
    for (const FormatKind kind : all_format_kinds())
        if (kind != FormatKind::frames && kind != FormatKind::record)
            m_format->addItem(kind == FormatKind::automatic ? tr("format found") : from_std(format_kind_name(kind)),
                              from_std(format_kind_name(kind)));
    m_format->setToolTip(
        tr("Found from what arrives; or type: frames start=0D end=54, record little u16:level crc8"));
    m_unfold = make_link(tr("More"), QStringLiteral("linkMore"));
    row->addWidget(m_unfold);
    m_open = make_button(tr("Connect"), QStringLiteral("linkOpen"), true);
    row->addWidget(m_open);
    box->addWidget(m_choice);
    m_folded = new QWidget;
    m_folded->hide();
    auto* folded = make_row(m_folded, theme.px(8));
    auto* format = new TextLabel(theme, TextLabel::Role::soft, tr("Format"));
    format->setWordWrap(false);
    format->setContentsMargins(0, theme.px(7), 0, 0); // on the line of the fields beside it
    folded->addWidget(format, 0, Qt::AlignTop);
    folded->addWidget(m_format, 0, Qt::AlignTop);
    m_more = new LinkMore(theme);
    folded->addWidget(m_more, 1);
    box->addWidget(m_folded);
    box->addWidget(secretRow());
    box->addWidget(permissionRow());
    auto* below = new QHBoxLayout;
    m_state = new TextLabel(theme, TextLabel::Role::soft);
    m_state->setObjectName(QStringLiteral("linkState"));
    below->addWidget(m_state, 1);
    m_counts = new LiveLabel(theme, LiveLabel::Role::soft);
    m_counts->setObjectName(QStringLiteral("linkCounts"));
    m_counts->hide();
    below->addWidget(m_counts, 1);
    m_close = make_button(tr("Disconnect"), QStringLiteral("linkClose"));
    below->addWidget(m_close);
    box->addLayout(below);

    connect(m_kind, &QComboBox::currentIndexChanged, this, &LinkBox::showKind);
    connect(m_unfold, &QPushButton::clicked, this, [this] {
        m_unfolded = !m_unfolded;
        showKind(m_kind->currentIndex());
    });
    connect(m_open, &QPushButton::clicked, this, &LinkBox::connectLink);
    connect(m_close, &QPushButton::clicked, this, &LinkBox::disconnectLink);
    connect(m_port->lineEdit(), &QLineEdit::returnPressed, this, &LinkBox::connectLink);
    for (QLineEdit* edit : {m_broker, m_topics, m_path, m_http_port})
        connect(edit, &QLineEdit::returnPressed, this, &LinkBox::connectLink);
    connect(new PortWatch(this), &PortWatch::changed, this, &LinkBox::listPorts);
    connect(&context, &Context::refreshed, this, [this] {
        if (isVisible()) refresh();
    });
}

void LinkBox::showKind(int page) {
    m_fields->setCurrentIndex(page);
    m_more->setVisible(m_more->setKind(page == mqtt_page   ? LinkKind::mqtt
                                       : page == http_page ? LinkKind::http
                                       : page == file_page ? LinkKind::file
                                                           : LinkKind::serial));
    m_unfold->setText(m_unfolded ? tr("Less") : tr("More"));
    m_folded->setVisible(m_unfolded && m_choice->isVisibleTo(this));
}

void LinkBox::setBoard(const std::string& board) {
    if (board == m_board && m_port->count() > 0) return refresh();
    m_board = board;
    m_complaint.clear();
    m_token_print.clear();
    listPorts();
    if (const BoardUse* use = m_context.session().bench().board(board)) showPlan(use->link);
    refresh();
}

void LinkBox::showPlan(const LinkPlan& plan) {
    m_kind->setCurrentIndex(plan.kind == LinkKind::mqtt   ? mqtt_page
                            : plan.kind == LinkKind::http ? http_page
                            : plan.kind == LinkKind::file ? file_page
                                                          : serial_page);
    m_port->setEditText(plan.runs_the_program()            ? simulated_processor()
                        : plan.kind == LinkKind::simulated ? tr("simulated board")
                                                           : from_std(plan.port));
    const int index = m_speed->findData(plan.find_speed ? 0 : plan.baud);
    if (index >= 0) m_speed->setCurrentIndex(index);
    m_broker->setText(QStringLiteral("%1:%2").arg(from_std(plan.mqtt.host)).arg(plan.mqtt.port));
    m_topics->setText(from_std(plan.mqtt.topics));
    m_tls->setChecked(plan.mqtt.tls);
    m_log_in->setChecked(plan.mqtt.log_in);
    m_http_port->setText(QString::number(plan.http.port));
    m_wide->setChecked(plan.http.wide);
    m_token_print = plan.http.token_print;
    set_text(m_token, plan.http.token_print.empty() ? tr("no token yet") : tr("token set"));
    m_path->setText(from_std(plan.file.path));
    m_follow->setChecked(plan.file.follow);
    m_more->showPlan(plan);
    const int format = m_format->findData(from_std(plan.format));
    if (format >= 0)
        m_format->setCurrentIndex(format);
    else
        m_format->setEditText(from_std(plan.format));
}

void LinkBox::listPorts() {
    const QString typed = m_port->currentText();
    m_port->clear();
    for (const PortInfo& port : list_ports())
        m_port->addItem(port.about.isEmpty() ? port.path : QStringLiteral("%1  (%2)").arg(port.path, port.about),
                        port.path);
    m_port->addItem(tr("simulated board"), simulated_id);
    const BoardUse* use = m_context.session().bench().board(m_board);
    if (const BoardCard* card = use ? m_context.session().catalog().board(use->card) : nullptr;
        card && is_simulated(*card))
        m_port->addItem(simulated_processor(), processor_id);
    m_port->setEditText(typed);
}

bool LinkBox::readPlan(LinkPlan& plan, QString& trouble) const {
    plan.processor = false;
    const int format = m_format->findText(m_format->currentText());
    plan.format =
        (format >= 0 ? m_format->itemData(format).toString() : m_format->currentText()).trimmed().toStdString();
    if (const auto read = parse_format(plan.format); !read) {
        trouble = from_std(read.error().text());
        return false;
    }
    plan.simulated = false;
    switch (m_kind->currentIndex()) {
    case mqtt_page: {
        const QString broker = m_broker->text().trimmed();
        const QString host = broker.section(QLatin1Char(':'), 0, 0);
        const int port = broker.contains(QLatin1Char(':')) ? broker.section(QLatin1Char(':'), 1).toInt()
                                                           : (m_tls->isChecked() ? 8883 : 1883);
        if (host.isEmpty() || port <= 0 || port > 65535) {
            trouble = tr("Type the broker’s name and port, such as localhost:1883.");
            return false;
        }
        plan.kind = LinkKind::mqtt;
        plan.mqtt.host = host.toStdString();
        plan.mqtt.port = port;
        plan.mqtt.topics = m_topics->text().trimmed().isEmpty() ? "#" : m_topics->text().trimmed().toStdString();
        plan.mqtt.tls = m_tls->isChecked();
        plan.mqtt.log_in = m_log_in->isChecked();
        return true;
    }
    case http_page: {
        const int port = m_http_port->text().toInt();
        if (port <= 0 || port > 65535) {
            trouble = tr("Type a port from 1 to 65 535, such as 8765.");
            return false;
        }
        if (m_wide->isChecked() && m_token_print.empty()) {
            trouble = tr("Make a token first: without one anybody in the network could post.");
            return false;
        }
        plan.kind = LinkKind::http;
        plan.http = {port, m_wide->isChecked(), m_token_print};
        return true;
    }
    case file_page:
        if (m_path->text().trimmed().isEmpty()) {
            trouble = tr("Type the path of a file or a folder.");
            return false;
        }
        plan.kind = LinkKind::file;
        plan.file.path = m_path->text().trimmed().toStdString();
        plan.file.follow = m_follow->isChecked();
        return true;
    default: break;
    }
    const QString text = m_port->currentText().trimmed();
    const int index = m_port->findText(text);
    const QString port = index >= 0 ? m_port->itemData(index).toString() : text;
    if (port.isEmpty()) {
        trouble = tr("Choose a port first, or type its path, such as /dev/ttyUSB0.");
        return false;
    }
    const int baud = m_speed->currentData().toInt();
    const bool simulated = port == simulated_id || port == processor_id;
    plan.kind = simulated ? LinkKind::simulated : LinkKind::serial;
    plan.processor = port == processor_id;
    plan.port = simulated ? std::string() : port.toStdString();
    plan.find_speed = baud == 0 && !simulated;
    if (baud > 0) plan.baud = baud;
    if (simulated && plan.seed == 0) plan.seed = 20261;
    return true;
}

void LinkBox::complain(const QString& sentence) {
    m_complaint = sentence;
    set_text(m_state, sentence);
}

void LinkBox::connectLink() {
    const BoardUse* use = m_context.session().bench().board(m_board);
    if (!use) return;
    LinkPlan plan = use->link;
    QString trouble;
    if (!readPlan(plan, trouble)) return complain(trouble);
    if (trouble = m_more->readPlan(plan); !trouble.isEmpty()) return complain(trouble);
    m_complaint.clear();
    if (plan.kind == LinkKind::http && plan.http.wide) allow_wide(plan.http); // it was ticked here, by a person
    m_context.session().edit(tr("Connect board"), [&](Bench& bench) {
        if (BoardUse* board = bench.board(m_board)) board->link = plan;
    });
}

void LinkBox::disconnectLink() {
    m_complaint.clear();
    m_context.session().edit(tr("Disconnect board"), [&](Bench& bench) {
        if (BoardUse* use = bench.board(m_board)) use->link.kind = LinkKind::none;
    });
}

void LinkBox::refresh() {
    const BoardUse* use = m_context.session().bench().board(m_board);
    const bool linked = use && use->link.kind != LinkKind::none;
    m_close->setVisible(linked);
    m_choice->setVisible(!linked);
    showKind(m_kind->currentIndex());
    m_open->setEnabled(use);
    const auto found = m_context.live().boards.find(m_board);
    const LiveBoard* board = found == m_context.live().boards.end() ? nullptr : &found->second;
    m_secret->setVisible(linked && board && !board->secret_wanted.isEmpty());
    m_permission->setVisible(linked && board && !board->permission_wanted.isEmpty());
    if (!linked || !board) {
        m_counts->hide();
        m_state->show();
        set_text(m_state, m_complaint.isEmpty() ? tr("Not connected.") : m_complaint);
        m_state->setColour({});
        return;
    }
    // Counts grow with every line and are only painted; a reason is a sentence that may take two lines.
    const bool counts = board->reason.isEmpty() && board->state == LinkState::open;
    m_counts->setVisible(counts);
    m_state->setVisible(!counts);
    if (counts) {
        m_counts->setText(countsText(*use, *board));
        return;
    }
    set_text(m_state, !board->reason.isEmpty()            ? board->reason
                      : board->state == LinkState::closed ? tr("Closed.")
                                                          : tr("Opening …"));
    m_state->setColour(board->state == LinkState::lost ? m_context.theme().colours().bad : QColor());
}

QString LinkBox::countsText(const BoardUse& use, const LiveBoard& board) {
    QString text = tr("Connected to %1: %2 lines, %3 lost, %4 rejected")
                       .arg(board.port.isEmpty() ? from_std(use.name) : board.port)
                       .arg(board.lines)
                       .arg(board.lost)
                       .arg(board.rejected);
    if (!board.rejections.empty()) {
        text += tr(" (%1)").arg(from_std(board.rejections.front().reason));
        m_counts->setToolTip(
            tr("Last set aside: %1")
                .arg(board.rejected_last.empty() ? QString() : from_std(board.rejected_last.back().text)));
    }
    if (board.dropped > 0) text += tr("; %1 came faster than they could be taken").arg(board.dropped);
    if (board.kept > 0) text += tr("; %1 kept by the broker").arg(board.kept);
    return text;
}

} // namespace cognitum
