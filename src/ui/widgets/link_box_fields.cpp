// The fields of each kind of link, and of what is asked for.
#include "ui/widgets/link_box.h"

#include "core/units/format.h"
#include "link/secret.h"
#include "ui/widgets/parts.h"

#include <QFileDialog>

namespace cognitum {

QWidget* LinkBox::serialFields() {
    Theme& theme = m_context.theme();
    auto* page = new QWidget;
    auto* row = make_row(page, theme.px(8));
    m_port = new QComboBox;
    m_port->setObjectName(QStringLiteral("linkPort"));
    m_port->setAccessibleName(tr("Port"));
    m_port->setEditable(true);
    m_port->setMinimumWidth(theme.px(150));
    m_port->lineEdit()->setPlaceholderText(tr("choose a port, or type its path"));
    m_speed = new QComboBox;
    m_speed->setObjectName(QStringLiteral("linkSpeed"));
    m_speed->setAccessibleName(tr("Speed"));
    m_speed->addItem(tr("find the speed"), 0);
    for (const int baud : {9600, 19200, 38400, 57600, 115200, 230400, 250000, 500000, 1000000})
        m_speed->addItem(tr("%1 Bd").arg(from_std(format_constant(baud, 7))), baud);
    m_speed->setCurrentIndex(m_speed->findData(115200));
    row->addWidget(m_port, 1);
    row->addWidget(m_speed);
    return page;
}

QWidget* LinkBox::mqttFields() {
    auto* page = new QWidget;
    auto* row = make_row(page, m_context.theme().px(8));
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
    return page;
}

QWidget* LinkBox::httpFields() {
    Theme& theme = m_context.theme();
    auto* page = new QWidget;
    auto* row = make_row(page, theme.px(8));
    m_http_port = make_field("linkHttpPort", tr("Port to listen on"), tr("8765"));
    m_http_port->setMaximumWidth(theme.px(70));
    m_wide = make_check("linkWide", tr("from other computers"));
    m_wide->setToolTip(tr("Off: only programs on this computer can post. On: a token is needed."));
    auto* fresh = make_link(tr("New token"), QStringLiteral("linkToken"));
    m_token = new TextLabel(theme, TextLabel::Role::mono_small);
    m_token->setObjectName(QStringLiteral("linkTokenText"));
    m_token->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
    connect(fresh, &QPushButton::clicked, this, [this] {
        const QString token = new_token();
        m_token_print = token_print(token);
        set_text(m_token, tr("%1 (shown once: put it into the board’s program)").arg(token));
    });
    row->addWidget(m_http_port);
    row->addWidget(m_wide);
    row->addWidget(fresh);
    row->addWidget(m_token, 1);
    return page;
}

QWidget* LinkBox::fileFields() {
    auto* page = new QWidget;
    auto* row = make_row(page, m_context.theme().px(8));
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
    return page;
}

/// A bench from a stranger may ask to be reached by the whole network: only a person here can allow it.
QWidget* LinkBox::permissionRow() {
    m_permission = new QWidget;
    auto* row = make_row(m_permission, m_context.theme().px(8));
    auto* asks = new TextLabel(m_context.theme(), TextLabel::Role::body,
                               tr("The bench asks to take posts from the whole network. Allow it only if you know "
                                  "why."));
    asks->setWordWrap(true);
    auto* allow = make_button(tr("Allow it"), QStringLiteral("linkAllow"));
    connect(allow, &QPushButton::clicked, this, [this] { m_context.session().allowWide(m_board); });
    row->addWidget(asks, 1);
    row->addWidget(allow, 0, Qt::AlignTop);
    return m_permission;
}

QWidget* LinkBox::secretRow() {
    m_secret = new QWidget;
    auto* row = make_row(m_secret, m_context.theme().px(8));
    m_user = make_field("linkUser", tr("User name"), tr("user name"));
    m_password = make_field("linkPassword", tr("Password"), tr("password"));
    m_password->setEchoMode(QLineEdit::Password);
    auto* enter = make_button(tr("Log in"), QStringLiteral("linkSecret"), true);
    const auto log_in = [this] {
        m_context.session().secrets().giveToBoard(m_board, {m_user->text(), m_password->text()},
                                                  m_keep->isChecked());
        m_password->clear();
    };
    connect(enter, &QPushButton::clicked, this, log_in);
    connect(m_password, &QLineEdit::returnPressed, this, log_in);
    row->addWidget(m_user);
    row->addWidget(m_password);
    m_keep = make_check("linkKeepSecret", tr("keep it"));
    m_keep->setToolTip(tr("The desktop’s secret service keeps it; neither the bench nor Cognitum does."));
    m_keep->setVisible(m_context.session().secrets().canKeep());
    row->addWidget(m_keep);
    row->addWidget(enter);
    row->addStretch(1);
    return m_secret;
}

} // namespace cognitum
