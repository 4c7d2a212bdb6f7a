// The left column of the Calibrate stop: what the probe says, what it is compared with, and the key that takes a
// point.
#include "session/publish/phone_button.h"
#include "ui/plots/plot.h"
#include "ui/stops/calibrate/calibrate_page.h"
#include "ui/stops/calibrate/reference_box.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QCheckBox>
#include <QKeyEvent>
#include <QPushButton>

namespace cognitum {

void CalibratePage::buildCapture(QVBoxLayout* layout) {
    layout->addWidget(new TextLabel(theme(), TextLabel::Role::soft, tr("The probe says, uncorrected")));
    auto* big = new QHBoxLayout;
    m_number = new TextLabel(theme(), TextLabel::Role::mono, QStringLiteral("—"));
    m_number->setObjectName(QStringLiteral("indication"));
    m_number->setAccessibleName(tr("Indication of the probe"));
    m_number_unit = new TextLabel(theme(), TextLabel::Role::mono);
    big->addWidget(m_number);
    big->addWidget(m_number_unit, 1, Qt::AlignBottom);
    layout->addLayout(big);
    m_trend = new Plot(theme());
    m_trend->setObjectName(QStringLiteral("steadinessTrend"));
    m_trend->setAccessibleName(tr("The last minute of the indication; the box is the window that must be steady"));
    m_trend->setFixedHeight(theme().px(58));
    m_trend->xAxis->setVisible(false);
    m_trend->yAxis->setVisible(false);
    m_trend->axisRect()->setAutoMargins(QCP::msNone);
    m_trend->axisRect()->setMargins(QMargins(0, 2, 0, 2));
    m_trend_line = m_trend->addGraph();
    m_window = new QCPItemRect(m_trend);
    layout->addWidget(m_trend);
    m_steady = new TextLabel(theme(), TextLabel::Role::name);
    m_steady->setObjectName(QStringLiteral("steadyText"));
    m_steady->setWordWrap(true);
    m_steady_figures = new TextLabel(theme(), TextLabel::Role::soft);
    m_steady_figures->setWordWrap(true);
    layout->addWidget(m_steady);
    layout->addWidget(m_steady_figures);
    layout->addSpacing(theme().px(4));
    m_reference = new ReferenceBox(context());
    layout->addWidget(m_reference);
    auto* take = new QHBoxLayout;
    m_begin = make_button(tr("Start here"), QStringLiteral("beginChange"));
    m_take = make_button(tr("Take the point"), QStringLiteral("takePoint"), true);
    m_take_hint = new TextLabel(theme(), TextLabel::Role::soft, tr("Space"));
    m_take_hint->setObjectName(QStringLiteral("takeHint"));
    m_take_hint->setWordWrap(true);
    layout->addWidget(m_begin, 0, Qt::AlignLeft);
    take->addWidget(m_take);
    take->addWidget(m_take_hint, 1);
    layout->addLayout(take);
    m_as_left = make_check("asLeft", tr("something was turned: as left"));
    m_as_left->setToolTip(tr("Points from here on are taken after an adjustment; those before stay as found."));
    layout->addWidget(m_as_left);
    m_remote = make_check("remoteKey", tr("take points with a phone"));
    m_remote->setToolTip(
        tr("Opens a page with one button in your own network, until you switch it off or the calibration ends."));
    m_remote_address = new QComboBox;
    m_remote_address->setObjectName(QStringLiteral("remoteAddress"));
    m_remote_address->setAccessibleName(tr("Address of this computer that the phone reaches"));
    m_remote_address->setToolTip(tr("Address of this computer that the phone reaches"));
    m_remote_address->addItems(PhoneButton::addresses());
    m_remote_address->setVisible(m_remote_address->count() > 1);
    m_remote_where = new TextLabel(theme(), TextLabel::Role::mono_small);
    m_remote_where->setObjectName(QStringLiteral("remoteWhere"));
    m_remote_where->setWordWrap(true);
    m_remote_where->setTextInteractionFlags(Qt::TextSelectableByMouse);
    m_remote_where->hide();
    auto* remote = new QHBoxLayout;
    remote->addWidget(m_remote);
    remote->addWidget(m_remote_address);
    remote->addStretch(1);
    layout->addLayout(remote);
    layout->addWidget(m_remote_where);
    buildBench(layout);
    layout->addStretch(1);
    connect(m_take, &QPushButton::clicked, this, &CalibratePage::takePoint);
    connect(m_begin, &QPushButton::clicked, this, [this] {
        m_run.start_change(context().session().now());
        keepDraft();
        refresh();
    });
    connect(m_reference, &ReferenceBox::changed, this, [this] {
        watchFields();
        if (context().reading()) refreshGate();
    });
    connect(m_remote, &QCheckBox::toggled, this, &CalibratePage::setPhoneButton);
    connect(m_remote_address, &QComboBox::activated, this, [this] { setPhoneButton(m_remote->isChecked()); });
}

void CalibratePage::buildBench(QVBoxLayout* layout) {
    m_simulated = new QWidget;
    auto* bench = new QVBoxLayout(m_simulated);
    bench->setContentsMargins(0, 0, 0, 0);
    bench->addWidget(new RuleLine(theme()));
    bench->addWidget(new TextLabel(theme(), TextLabel::Role::soft, tr("Simulated bench: put the probe")));
    m_probe = new QComboBox;
    m_probe->setObjectName(QStringLiteral("simulatedProbe"));
    m_probe->setAccessibleName(tr("Where the simulated probe is"));
    for (const auto& [text, command] : {std::pair{tr("in the air"), QStringLiteral("probe air")},
                                        std::pair{tr("into ice and water"), QStringLiteral("probe ice")},
                                        std::pair{tr("into a bath of 12 °C"), QStringLiteral("probe bath 12.1")},
                                        std::pair{tr("into a bath of 21 °C"), QStringLiteral("probe bath 21.4")},
                                        std::pair{tr("into a bath of 33 °C"), QStringLiteral("probe bath 32.7")}})
        m_probe->addItem(text, command);
    bench->addWidget(m_probe);
    auto* read = make_link(tr("Read the thermometer in it"), QStringLiteral("readThermometer"));
    bench->addWidget(read, 0, Qt::AlignLeft);
    layout->addWidget(m_simulated);
    connect(m_probe, &QComboBox::activated, this, [this] {
        if (const Reading* r = context().reading())
            context().session().worker().sendCommand(r->feed(), m_probe->currentData().toString());
    });
    connect(read, &QPushButton::clicked, this, [this] {
        if (const Reading* r = context().reading())
            context().session().worker().sendCommand(r->feed(), QStringLiteral("thermometer"));
    });
}

void CalibratePage::watchFields() {
    for (NumberField* field : m_reference->fields()) {
        field->removeEventFilter(this);
        field->installEventFilter(this);
    }
}

bool CalibratePage::eventFilter(QObject* watched, QEvent* event) {
    // A reference has no spaces: the key takes the point from here as well.
    if (event->type() == QEvent::ShortcutOverride && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Space)
        return true;
    if (event->type() == QEvent::KeyPress && static_cast<QKeyEvent*>(event)->key() == Qt::Key_Space) {
        takePoint();
        return true;
    }
    return Page::eventFilter(watched, event);
}

void CalibratePage::setPhoneButton(bool on) {
    m_phone_button.reset();
    m_remote_where->setVisible(on);
    if (!on) return;
    m_phone_button = std::make_unique<PhoneButton>();
    connect(m_phone_button.get(), &PhoneButton::pressed, this, [this] {
        if (isVisible()) takePoint();
    });
    const auto where = m_phone_button->open(m_remote_address->currentText());
    set_text(m_remote_where,
             where ? tr("On a phone in this network: %1").arg(*where) : from_std(where.error().text()));
    if (!where) m_phone_button.reset();
}

} // namespace cognitum
