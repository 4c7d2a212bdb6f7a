#include "ui/widgets/link_more.h"

#include "ui/widgets/parts.h"

#include <QFileDialog>
#include <QFileInfo>
#include <QHBoxLayout>

namespace cognitum {

namespace {

TextLabel* label(Theme& theme, const QString& text) {
    auto* l = new TextLabel(theme, TextLabel::Role::soft, text);
    l->setWordWrap(false);
    return l;
}

} // namespace

LinkMore::LinkMore(Theme& theme, QWidget* parent) : QStackedWidget(parent), m_theme(theme) {
    setSizePolicy(QSizePolicy::Preferred, QSizePolicy::Fixed);
    for (QWidget* page : {portFields(), brokerFields(), fileFields()})
        addWidget(page);
}

QWidget* LinkMore::portFields() {
    auto* page = new QWidget;
    auto* row = make_row(page, m_theme.px(8));
    m_frame = new QComboBox;
    m_frame->setObjectName(QStringLiteral("linkFrame"));
    m_frame->setAccessibleName(tr("Data bits, parity, stop bits"));
    for (const char* frame : {"8N1", "7E1", "7O1", "8E1", "8O1", "8N2"})
        m_frame->addItem(QLatin1String(frame));
    m_may_reset = make_check("linkMayReset", tr("opening may reset the board"));
    m_may_reset->setToolTip(tr("Off: the reset line is kept still, and a board goes on where it is."));
    row->addWidget(label(m_theme, tr("Frame")));
    row->addWidget(m_frame);
    row->addWidget(m_may_reset);
    row->addStretch(1);
    return page;
}

QWidget* LinkMore::brokerFields() {
    auto* page = new QWidget;
    auto* rows = new QVBoxLayout(page);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(m_theme.px(6));
    auto* row = new QHBoxLayout;
    row->setSpacing(m_theme.px(8));
    rows->addLayout(row);
    m_status = make_field("linkStatusTopic",
                          tr("Topic where the board says that it is there, and its will that it is gone"),
                          tr("shed/status"));
    m_gone = make_field("linkGoneWord", tr("Word of the will"), tr("offline"));
    m_gone->setMaximumWidth(m_theme.px(80));
    m_command =
        make_field("linkCommandTopic", tr("Topic on which the board listens for commands"), tr("shed/command"));
    m_ca =
        make_field("linkCaFile", tr("Certificate of the authority that signed the broker’s; empty: the system’s"),
                   tr("the system’s"));
    auto* browse = make_link(tr("Choose …"), QStringLiteral("linkCaBrowse"));
    connect(browse, &QPushButton::clicked, this, [this] {
        const QString path = QFileDialog::getOpenFileName(this, tr("Certificate of the authority"));
        if (!path.isEmpty()) m_ca->setText(path);
    });
    row->addWidget(label(m_theme, tr("Status")));
    row->addWidget(m_status, 1);
    row->addWidget(m_gone);
    row->addWidget(label(m_theme, tr("Commands")));
    row->addWidget(m_command, 1);
    auto* below = new QHBoxLayout;
    below->setSpacing(m_theme.px(8));
    rows->addLayout(below);
    m_version_5 = make_check("linkVersion5", tr("MQTT version 5"));
    below->addWidget(label(m_theme, tr("TLS signed by")));
    below->addWidget(m_ca, 1);
    below->addWidget(browse);
    below->addWidget(m_version_5);
    return page;
}

QWidget* LinkMore::fileFields() {
    auto* page = new QWidget;
    auto* row = make_row(page, m_theme.px(8));
    m_speed = new QComboBox;
    m_speed->setObjectName(QStringLiteral("linkReplay"));
    m_speed->setAccessibleName(tr("Pace of the replay"));
    m_speed->addItem(tr("as fast as it can"), 0.0);
    m_speed->addItem(tr("as it was recorded"), 1.0);
    for (const int times : {10, 60, 600})
        m_speed->addItem(tr("%1 times as fast").arg(times), static_cast<double>(times));
    row->addWidget(label(m_theme, tr("What is in it already comes")));
    row->addWidget(m_speed);
    row->addStretch(1);
    return page;
}

bool LinkMore::setKind(LinkKind kind) {
    switch (kind) {
    case LinkKind::serial:
    case LinkKind::simulated: setCurrentIndex(0); return true;
    case LinkKind::mqtt: setCurrentIndex(1); return true;
    case LinkKind::file: setCurrentIndex(2); return true;
    default: return false;
    }
}

void LinkMore::showPlan(const LinkPlan& plan) {
    const QString frame = from_std(plan.frame);
    if (m_frame->findText(frame) < 0) m_frame->addItem(frame);
    m_frame->setCurrentText(frame);
    m_may_reset->setChecked(plan.may_reset);
    m_status->setText(from_std(plan.mqtt.status_topic));
    m_gone->setText(from_std(plan.mqtt.gone_word));
    m_command->setText(from_std(plan.mqtt.command_topic));
    m_ca->setText(from_std(plan.mqtt.ca_file));
    m_version_5->setChecked(plan.mqtt.version == 5);
    int speed = m_speed->findData(plan.file.speed);
    if (speed < 0) {
        m_speed->addItem(tr("%1 times as fast").arg(plan.file.speed), plan.file.speed);
        speed = m_speed->count() - 1;
    }
    m_speed->setCurrentIndex(speed);
}

QString LinkMore::readPlan(LinkPlan& plan) const {
    plan.frame = m_frame->currentText().toStdString();
    plan.may_reset = m_may_reset->isChecked();
    if (plan.kind == LinkKind::file) plan.file.speed = m_speed->currentData().toDouble();
    if (plan.kind != LinkKind::mqtt) return {};
    const QString command = m_command->text().trimmed();
    if (command.contains(QLatin1Char('#')) || command.contains(QLatin1Char('+')))
        return tr("A command goes to one topic: no + and no # in it.");
    const QString ca = m_ca->text().trimmed();
    if (!ca.isEmpty() && !QFileInfo(ca).isReadable())
        return tr("The certificate %1 cannot be read. Choose the file, or leave it empty for the system’s.")
            .arg(ca);
    plan.mqtt.status_topic = m_status->text().trimmed().toStdString();
    plan.mqtt.gone_word = m_gone->text().trimmed().isEmpty() ? "offline" : m_gone->text().trimmed().toStdString();
    plan.mqtt.command_topic = command.toStdString();
    plan.mqtt.ca_file = ca.toStdString();
    plan.mqtt.version = m_version_5->isChecked() ? 5 : 4;
    return {};
}

} // namespace cognitum
