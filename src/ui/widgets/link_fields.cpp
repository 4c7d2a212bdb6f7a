#include "ui/widgets/link_fields.h"

#include "core/program/proof_plan.h"
#include "core/units/format.h"
#include "link/secret.h"
#include "link/serial_link.h"
#include "ui/widgets/parts.h"

#include <QCheckBox>
#include <QComboBox>
#include <QCoreApplication>
#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>

namespace cognitum {

namespace {

TextLabel* field_name(Theme& theme, const QString& text) {
    auto* l = new TextLabel(theme, TextLabel::Role::soft, text);
    l->setWordWrap(false);
    return l;
}

QComboBox* make_choice(const char* name, const QString& about) {
    auto* box = new QComboBox;
    box->setObjectName(QLatin1String(name));
    box->setAccessibleName(about);
    return box;
}

QString trimmed(const QLineEdit* field) {
    return field->text().trimmed();
}

const QString simulated_id = QStringLiteral("simulated:"), processor_id = QStringLiteral("simulated:program");

/// A serial port, or a simulated board on a pseudo-terminal.
class PortFields : public LinkFields {
    Q_DECLARE_TR_FUNCTIONS(LinkFields)

  public:
    explicit PortFields(Theme& theme) : m_more(new QWidget) {
        auto* row = make_row(this, theme.px(8));
        m_port = make_choice("linkPort", tr("Port"));
        m_port->setEditable(true);
        m_port->lineEdit()->setAccessibleName(m_port->accessibleName());
        m_port->setMinimumWidth(theme.px(150));
        m_port->lineEdit()->setPlaceholderText(tr("choose a port, or type its path"));
        m_speed = make_choice("linkSpeed", tr("Speed"));
        m_speed->addItem(tr("find the speed"), 0);
        for (const int baud : {9600, 19200, 38400, 57600, 115200, 230400, 250000, 500000, 1000000})
            m_speed->addItem(tr("%1 Bd").arg(from_std(format_constant(baud, 7))), baud);
        m_speed->setCurrentIndex(m_speed->findData(115200));
        row->addWidget(m_port, 1);
        row->addWidget(m_speed);
        auto* folded = make_row(m_more, theme.px(8));
        m_frame = make_choice("linkFrame", tr("Data bits, parity, stop bits"));
        for (const char* frame : {"8N1", "7E1", "7O1", "8E1", "8O1", "8N2"})
            m_frame->addItem(QLatin1String(frame));
        m_may_reset = make_check("linkMayReset", tr("opening may reset the board"));
        m_may_reset->setToolTip(tr("Off: the reset line is kept still, and a board goes on where it is."));
        folded->addWidget(field_name(theme, tr("Frame")));
        folded->addWidget(m_frame);
        folded->addWidget(m_may_reset);
        folded->addStretch(1);
    }
    [[nodiscard]] QString title() const override { return tr("Port"); }
    [[nodiscard]] bool areFor(LinkKind kind) const override {
        return kind == LinkKind::serial || kind == LinkKind::simulated;
    }
    void showPlan(const LinkPlan& plan) override {
        m_port->setEditText(plan.runs_the_program()            ? withProgram()
                            : plan.kind == LinkKind::simulated ? tr("simulated board")
                                                               : from_std(plan.port));
        const int index = m_speed->findData(plan.find_speed ? 0 : plan.baud);
        if (index >= 0) m_speed->setCurrentIndex(index);
        const QString frame = from_std(plan.frame);
        if (m_frame->findText(frame) < 0) m_frame->addItem(frame);
        m_frame->setCurrentText(frame);
        m_may_reset->setChecked(plan.may_reset);
    }
    [[nodiscard]] QString readPlan(LinkPlan& plan) const override {
        const QString text = m_port->currentText().trimmed();
        const int index = m_port->findText(text);
        const QString port = index >= 0 ? m_port->itemData(index).toString() : text;
        if (port.isEmpty()) return tr("Choose a port first, or type its path, such as /dev/ttyUSB0.");
        const int baud = m_speed->currentData().toInt();
        const bool simulated = port == simulated_id || port == processor_id;
        plan.kind = simulated ? LinkKind::simulated : LinkKind::serial;
        plan.processor = port == processor_id;
        plan.port = simulated ? std::string() : port.toStdString();
        plan.find_speed = baud == 0 && !simulated;
        if (baud > 0) plan.baud = baud;
        if (simulated && plan.seed == 0) plan.seed = 20261;
        plan.frame = m_frame->currentText().toStdString();
        plan.may_reset = m_may_reset->isChecked();
        return {};
    }
    [[nodiscard]] QWidget* more() const override { return m_more; }
    void listChoices(const BoardUse* use, const Catalog& catalog) override {
        const QString typed = m_port->currentText();
        m_port->clear();
        for (const PortInfo& port : list_ports())
            m_port->addItem(port.about.isEmpty() ? port.path
                                                 : QStringLiteral("%1  (%2)").arg(port.path, port.about),
                            port.path);
        m_port->addItem(tr("simulated board"), simulated_id);
        if (const BoardCard* card = use ? catalog.board(use->card) : nullptr; card && is_simulated(*card))
            m_port->addItem(withProgram(), processor_id);
        m_port->setEditText(typed);
    }
    [[nodiscard]] std::vector<QLineEdit*> places() const override { return {m_port->lineEdit()}; }

  private:
    static QString withProgram() { return tr("simulated, with the written program"); }

    QComboBox *m_port, *m_speed, *m_frame;
    QCheckBox* m_may_reset;
    QWidget* m_more;
};

class BrokerFields : public LinkFields {
    Q_DECLARE_TR_FUNCTIONS(LinkFields)

  public:
    explicit BrokerFields(Theme& theme) : m_more(new QWidget) {
        auto* row = make_row(this, theme.px(8));
        m_broker = make_field("linkBroker", tr("Broker, with its port"), tr("localhost:1883"));
        m_topics = make_field("linkTopics", tr("Topics, with + and # for any; blanks between"), tr("shed/#"));
        m_tls = make_check("linkTls", tr("TLS"));
        m_log_in = make_check("linkLogIn", tr("log in"));
        m_log_in->setToolTip(
            tr("User name and password are asked for each time; they are never written into the bench."));
        row->addWidget(m_broker, 2);
        row->addWidget(m_topics, 2);
        for (QCheckBox* box : {m_tls, m_log_in})
            row->addWidget(box);
        fillMore(theme);
    }
    [[nodiscard]] QString title() const override { return tr("MQTT broker"); }
    [[nodiscard]] bool areFor(LinkKind kind) const override { return kind == LinkKind::mqtt; }
    void showPlan(const LinkPlan& plan) override {
        m_broker->setText(QStringLiteral("%1:%2").arg(from_std(plan.mqtt.host)).arg(plan.mqtt.port));
        m_topics->setText(from_std(plan.mqtt.topics));
        m_tls->setChecked(plan.mqtt.tls);
        m_log_in->setChecked(plan.mqtt.log_in);
        m_status->setText(from_std(plan.mqtt.status_topic));
        m_gone->setText(from_std(plan.mqtt.gone_word));
        m_command->setText(from_std(plan.mqtt.command_topic));
        m_ca->setText(from_std(plan.mqtt.ca_file));
        m_version_5->setChecked(plan.mqtt.version == 5);
    }
    [[nodiscard]] QString readPlan(LinkPlan& plan) const override {
        const QString broker = trimmed(m_broker);
        const QString host = broker.section(QLatin1Char(':'), 0, 0);
        const int port = broker.contains(QLatin1Char(':')) ? broker.section(QLatin1Char(':'), 1).toInt()
                                                           : (m_tls->isChecked() ? 8883 : 1883);
        if (host.isEmpty() || port <= 0 || port > 65535)
            return tr("Type the broker’s name and port, such as localhost:1883.");
        const QString command = trimmed(m_command);
        if (command.contains(QLatin1Char('#')) || command.contains(QLatin1Char('+')))
            return tr("A command goes to one topic: no + and no # in it.");
        const QString ca = trimmed(m_ca);
        if (!ca.isEmpty() && !QFileInfo(ca).isReadable())
            return tr("The certificate %1 cannot be read. Choose the file, or leave it empty for the system’s.")
                .arg(ca);
        plan.kind = LinkKind::mqtt;
        plan.mqtt = {.host = host.toStdString(),
                     .port = port,
                     .topics = trimmed(m_topics).isEmpty() ? "#" : trimmed(m_topics).toStdString(),
                     .status_topic = trimmed(m_status).toStdString(),
                     .gone_word = trimmed(m_gone).isEmpty() ? "offline" : trimmed(m_gone).toStdString(),
                     .version = m_version_5->isChecked() ? 5 : 4,
                     .tls = m_tls->isChecked(),
                     .ca_file = ca.toStdString(),
                     .log_in = m_log_in->isChecked(),
                     .command_topic = command.toStdString()};
        return {};
    }
    [[nodiscard]] QWidget* more() const override { return m_more; }
    [[nodiscard]] std::vector<QLineEdit*> places() const override { return {m_broker, m_topics}; }

  private:
    void fillMore(Theme& theme) {
        auto* rows = new QVBoxLayout(m_more);
        rows->setContentsMargins(0, 0, 0, 0);
        rows->setSpacing(theme.px(6));
        auto* row = new QHBoxLayout;
        row->setSpacing(theme.px(8));
        rows->addLayout(row);
        m_status = make_field("linkStatusTopic",
                              tr("Topic where the board says that it is there, and its will that it is gone"),
                              tr("shed/status"));
        m_gone = make_field("linkGoneWord", tr("Word of the will"), tr("offline"));
        m_gone->setMaximumWidth(theme.px(80));
        m_command =
            make_field("linkCommandTopic", tr("Topic on which the board listens for commands"), tr("shed/command"));
        m_ca = make_field("linkCaFile",
                          tr("Certificate of the authority that signed the broker’s; empty: the system’s"),
                          tr("the system’s"));
        auto* browse = make_link(tr("Choose …"), QStringLiteral("linkCaBrowse"));
        connect(browse, &QPushButton::clicked, this, [this] {
            const QString path = QFileDialog::getOpenFileName(this, tr("Certificate of the authority"));
            if (!path.isEmpty()) m_ca->setText(path);
        });
        row->addWidget(field_name(theme, tr("Status")));
        row->addWidget(m_status, 1);
        row->addWidget(m_gone);
        row->addWidget(field_name(theme, tr("Commands")));
        row->addWidget(m_command, 1);
        auto* below = new QHBoxLayout;
        below->setSpacing(theme.px(8));
        rows->addLayout(below);
        m_version_5 = make_check("linkVersion5", tr("MQTT version 5"));
        below->addWidget(field_name(theme, tr("TLS signed by")));
        below->addWidget(m_ca, 1);
        below->addWidget(browse);
        below->addWidget(m_version_5);
    }

    QLineEdit *m_broker, *m_topics, *m_status, *m_gone, *m_command, *m_ca;
    QCheckBox *m_tls, *m_log_in, *m_version_5;
    QWidget* m_more;
};

class PostFields : public LinkFields {
    Q_DECLARE_TR_FUNCTIONS(LinkFields)

  public:
    explicit PostFields(Theme& theme) {
        auto* row = make_row(this, theme.px(8));
        m_port = make_field("linkHttpPort", tr("Port to listen on"), tr("8765"));
        m_port->setMaximumWidth(theme.px(70));
        m_wide = make_check("linkWide", tr("from other computers"));
        m_wide->setToolTip(tr("Off: only programs on this computer can post. On: a token is needed."));
        auto* fresh = make_link(tr("New token"), QStringLiteral("linkToken"));
        m_token = new TextLabel(theme, TextLabel::Role::mono_small);
        m_token->setObjectName(QStringLiteral("linkTokenText"));
        m_token->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
        connect(fresh, &QPushButton::clicked, this, [this] {
            const QString token = new_token();
            m_print = token_print(token);
            set_text(m_token, tr("%1 (shown once: put it into the board’s program)").arg(token));
        });
        row->addWidget(m_port);
        row->addWidget(m_wide);
        row->addWidget(fresh);
        row->addWidget(m_token, 1);
    }
    [[nodiscard]] QString title() const override { return tr("HTTP posts"); }
    [[nodiscard]] bool areFor(LinkKind kind) const override { return kind == LinkKind::http; }
    void showPlan(const LinkPlan& plan) override {
        m_port->setText(QString::number(plan.http.port));
        m_wide->setChecked(plan.http.wide);
        m_print = plan.http.token_print;
        set_text(m_token, m_print.empty() ? tr("no token yet") : tr("token set"));
    }
    [[nodiscard]] QString readPlan(LinkPlan& plan) const override {
        const int port = m_port->text().toInt();
        if (port <= 0 || port > 65535) return tr("Type a port from 1 to 65 535, such as 8765.");
        if (m_wide->isChecked() && m_print.empty())
            return tr("Make a token first: without one anybody in the network could post.");
        plan.kind = LinkKind::http;
        plan.http = {port, m_wide->isChecked(), m_print};
        return {};
    }
    [[nodiscard]] std::vector<QLineEdit*> places() const override { return {m_port}; }

  private:
    QLineEdit* m_port;
    QCheckBox* m_wide;
    TextLabel* m_token;
    std::string m_print; ///< of the token
};

/// A file, or a folder of files.
class FileFields : public LinkFields {
    Q_DECLARE_TR_FUNCTIONS(LinkFields)

  public:
    explicit FileFields(Theme& theme) : m_more(new QWidget) {
        auto* row = make_row(this, theme.px(8));
        m_path = make_field("linkPath", tr("File, or folder of files, that the board or its logger writes"),
                            tr("/home/me/log.csv"));
        m_follow = make_check("linkFollow", tr("follow as it grows"));
        m_follow->setChecked(true);
        auto* browse = make_link(tr("Choose …"), QStringLiteral("linkBrowse"));
        connect(browse, &QPushButton::clicked, this, [this] {
            const QString path = QFileDialog::getOpenFileName(this, tr("File of lines"));
            if (!path.isEmpty()) m_path->setText(path);
        });
        row->addWidget(m_path, 1);
        row->addWidget(browse);
        row->addWidget(m_follow);
        auto* folded = make_row(m_more, theme.px(8));
        m_speed = make_choice("linkReplay", tr("Pace of the replay"));
        m_speed->addItem(tr("as fast as it can"), 0.0);
        m_speed->addItem(tr("as it was recorded"), 1.0);
        for (const int times : {10, 60, 600})
            m_speed->addItem(tr("%1 times as fast").arg(times), static_cast<double>(times));
        folded->addWidget(field_name(theme, tr("What is in it already comes")));
        folded->addWidget(m_speed);
        folded->addStretch(1);
    }
    [[nodiscard]] QString title() const override { return tr("File"); }
    [[nodiscard]] bool areFor(LinkKind kind) const override { return kind == LinkKind::file; }
    void showPlan(const LinkPlan& plan) override {
        m_path->setText(from_std(plan.file.path));
        m_follow->setChecked(plan.file.follow);
        int speed = m_speed->findData(plan.file.speed);
        if (speed < 0) {
            m_speed->addItem(tr("%1 times as fast").arg(plan.file.speed), plan.file.speed);
            speed = m_speed->count() - 1;
        }
        m_speed->setCurrentIndex(speed);
    }
    [[nodiscard]] QString readPlan(LinkPlan& plan) const override {
        if (trimmed(m_path).isEmpty()) return tr("Type the path of a file or a folder.");
        plan.kind = LinkKind::file;
        plan.file = {trimmed(m_path).toStdString(), m_follow->isChecked(), m_speed->currentData().toDouble()};
        return {};
    }
    [[nodiscard]] QWidget* more() const override { return m_more; }
    [[nodiscard]] std::vector<QLineEdit*> places() const override { return {m_path}; }

  private:
    QLineEdit* m_path;
    QCheckBox* m_follow;
    QComboBox* m_speed;
    QWidget* m_more;
};

} // namespace

std::vector<LinkFields*> make_link_fields(Theme& theme) {
    return {new PortFields(theme), new BrokerFields(theme), new PostFields(theme), new FileFields(theme)};
}

} // namespace cognitum
