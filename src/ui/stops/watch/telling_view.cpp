#include "ui/stops/watch/telling_view.h"

#include "core/units/format.h"
#include "session/publish/station_page.h"
#include "ui/stops/watch/form_rows.h"
#include "ui/stops/watch/watch_rule_dialog.h"
#include "ui/widgets/parts.h"

#include <QFormLayout>
#include <QStyle>

namespace cognitum {

TellingView::TellingView(Context& context, QWidget* parent)
    : QWidget(parent), m_context(context), m_recorder(context.session()) {
    auto* rows = new QVBoxLayout(this);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(context.theme().px(10));
    addTelling(*rows);
    rows->addWidget(new RuleLine(context.theme()));
    addPublishing(*rows);
    rows->addWidget(new RuleLine(context.theme()));
    addPage(*rows);
    rows->addStretch(1);
    connect(&context.session().messenger(), &Messenger::changed, this, &TellingView::refresh);
}

/// Who hears what a rule says, and when nobody does.
void TellingView::addTelling(QVBoxLayout& rows) {
    Theme& theme = m_context.theme();
    auto* form = new QFormLayout;
    form->setSpacing(theme.px(8));
    m_goes_on = make_check("recorderGoesOn", tr("goes on by a recorder when this window is closed"));
    form->addRow(tr("Recording"), m_goes_on);
    m_desktop = make_check("tellDesktop", tr("this desktop’s notices"));
    m_sound = make_check("tellSound", tr("with a sound"));
    m_broker = make_check("tellBroker", tr("the broker below, under TOPIC/notices"));
    form->addRow(tr("Told by"), row_of(theme, {m_desktop, m_sound}));
    form->addRow(QString(), m_broker);
    m_quiet_from = make_field("quietFrom", tr("Quiet hours begin"), QStringLiteral("22:00"));
    m_quiet_to = make_field("quietTo", tr("Quiet hours end"), QStringLiteral("07:00"));
    for (QLineEdit* field : {m_quiet_from, m_quiet_to}) {
        field->setFixedWidth(theme.px(72));
        connect(field, &QLineEdit::editingFinished, this, &TellingView::takeQuietHours);
    }
    form->addRow(tr("Quiet hours"), row_of(theme, {m_quiet_from, soft_label(theme, tr("to")), m_quiet_to}));
    form->addRow(QString(), new TextLabel(theme, TextLabel::Role::soft,
                                          tr("what is raised in them is told once, at their end")));
    auto* now = make_button(tr("Try it now"), QStringLiteral("tellTry"));
    form->addRow(QString(), row_of(theme, {now}));
    rows.addLayout(form);
    m_trouble = new TextLabel(theme, TextLabel::Role::body);
    m_trouble->setObjectName(QStringLiteral("tellTrouble"));
    rows.addWidget(m_trouble);

    connect(m_goes_on, &QCheckBox::clicked, this, [this](bool on) {
        if (on)
            m_recorder.start();
        else
            m_recorder.stop();
        m_context.refresh();
    });
    connect(&m_recorder, &RecorderControl::said, &m_context, [this](const QString& sentence) {
        if (!sentence.isEmpty()) emit m_context.said(sentence);
    });
    connect(m_desktop, &QCheckBox::toggled, this,
            [this](bool on) { edit([on](Bench& b) { b.telling.desktop = on; }); });
    connect(m_sound, &QCheckBox::toggled, this,
            [this](bool on) { edit([on](Bench& b) { b.telling.sound = on; }); });
    connect(m_broker, &QCheckBox::toggled, this,
            [this](bool on) { edit([on](Bench& b) { b.telling.broker = on; }); });
    connect(now, &QPushButton::clicked, this, [this] { m_context.session().messenger().tryNow(); });
}

void TellingView::takeQuietHours() {
    const auto from = minute_of_day(m_quiet_from->text()), to = minute_of_day(m_quiet_to->text());
    for (const auto& [field, minute] : {std::pair{m_quiet_from, from}, std::pair{m_quiet_to, to}}) {
        field->setProperty("invalid", !minute && !field->text().isEmpty());
        field->style()->polish(field); // shows it
    }
    if (m_quiet_from->text().isEmpty() && m_quiet_to->text().isEmpty())
        edit([](Bench& b) { b.telling.quiet = {}; });
    else if (from && to)
        edit([&](Bench& b) { b.telling.quiet = {*from, *to}; });
}

/// Values that go out through a broker.
void TellingView::addPublishing(QVBoxLayout& rows) {
    Theme& theme = m_context.theme();
    rows.addWidget(
        new TextLabel(theme, TextLabel::Role::name, tr("Corrected values for others, through a broker")));
    auto* publish = new QFormLayout;
    publish->setSpacing(theme.px(8));
    m_host = make_field("publishHost", tr("Host of the broker"), tr("name or address; empty: nothing goes out"));
    m_port = new NumberField(theme, QStringLiteral("publishPort"), tr("Port of the broker"));
    m_port->setFixedWidth(theme.px(80));
    auto* place = new QHBoxLayout;
    place->setSpacing(theme.px(8));
    place->addWidget(m_host, 1);
    place->addWidget(m_port);
    publish->addRow(tr("Broker"), place);
    addLogIn(*publish);
    m_topic = make_field("publishTopic", tr("Topic"), QStringLiteral("cognitum"));
    m_every = new NumberField(theme, QStringLiteral("publishEvery"), tr("Published every"));
    m_every->setUnit(QStringLiteral("s"));
    m_every->setFixedWidth(theme.px(96));
    auto* topic = new QHBoxLayout;
    topic->setSpacing(theme.px(8));
    topic->addWidget(m_topic, 1);
    topic->addWidget(soft_label(theme, tr("every")));
    topic->addWidget(m_every);
    publish->addRow(tr("Topic"), topic);
    m_readings = new QListWidget;
    m_readings->setObjectName(QStringLiteral("publishReadings"));
    m_readings->setAccessibleName(tr("Readings that are published"));
    m_readings->setFlow(QListView::LeftToRight);
    m_readings->setWrapping(true);
    m_readings->setResizeMode(QListView::Adjust);
    m_readings->setFixedHeight(theme.px(96));
    publish->addRow(tr("Readings"), m_readings);
    rows.addLayout(publish);
    m_broker_state = new TextLabel(theme, TextLabel::Role::soft);
    m_broker_state->setObjectName(QStringLiteral("publishState"));
    rows.addWidget(m_broker_state);

    connect(m_host, &QLineEdit::editingFinished, this,
            [this] { edit([this](Bench& b) { b.publishing.host = m_host->text().trimmed().toStdString(); }); });
    connect(m_topic, &QLineEdit::editingFinished, this, [this] {
        const QString text = m_topic->text().trimmed();
        const bool fits = !text.isEmpty() && !text.contains(QLatin1Char('+')) && !text.contains(QLatin1Char('#'));
        if (fits) edit([&](Bench& b) { b.publishing.topic = text.toStdString(); });
        refresh();
    });
    connect(m_port, &NumberField::numberEdited, this, [this](double v) {
        if (v >= 1 && v <= 65535) edit([v](Bench& b) { b.publishing.port = static_cast<int>(v); });
        refresh();
    });
    connect(m_every, &NumberField::numberEdited, this, [this](double v) {
        if (v >= 1 && v <= 86400) edit([v](Bench& b) { b.publishing.every_s = v; });
        refresh();
    });
    connect(m_readings, &QListWidget::itemChanged, this, [this](const QListWidgetItem* item) {
        const std::string id = item->data(Qt::UserRole).toString().toStdString();
        const bool on = item->checkState() == Qt::Checked;
        edit([&](Bench& b) {
            std::erase(b.publishing.readings, id);
            if (on) b.publishing.readings.push_back(id);
        });
    });
}

void TellingView::addLogIn(QFormLayout& publish) {
    Theme& theme = m_context.theme();
    m_asks = make_check("publishAsks", tr("asks for a user name and a password"));
    publish.addRow(QString(), m_asks);
    m_secret = new QWidget;
    m_user = make_field("publishUser", tr("User name at the broker"), tr("user name"));
    m_password = make_field("publishPassword", tr("Password at the broker"), tr("password"));
    m_password->setEchoMode(QLineEdit::Password);
    auto* log_in = make_button(tr("Log in"), QStringLiteral("publishLogIn"));
    QHBoxLayout* secret = make_row(m_secret, theme.px(8));
    secret->addWidget(m_user, 1);
    secret->addWidget(m_password, 1);
    m_keep = make_check("publishKeepSecret", tr("keep it"));
    m_keep->setToolTip(tr("The desktop’s secret service keeps it; neither the bench nor Cognitum does."));
    m_keep->setVisible(m_context.session().secrets().canKeep());
    secret->addWidget(m_keep);
    secret->addWidget(log_in);
    publish.addRow(QString(), m_secret);
    connect(m_asks, &QCheckBox::toggled, this,
            [this](bool on) { edit([on](Bench& b) { b.publishing.log_in = on; }); });
    connect(log_in, &QPushButton::clicked, this, [this] {
        m_context.session().secrets().giveToBroker({m_user->text(), m_password->text()}, m_keep->isChecked());
        m_password->clear();
    });
}

/// The page that a phone in the same network shows.
void TellingView::addPage(QVBoxLayout& rows) {
    Theme& theme = m_context.theme();
    rows.addWidget(new TextLabel(theme, TextLabel::Role::name, tr("A page for the local network, read only")));
    m_page = make_check("pageOn", tr("served at port"));
    m_page_port = new NumberField(theme, QStringLiteral("pagePort"), tr("Port of the page"));
    m_page_port->setFixedWidth(theme.px(80));
    m_token = make_link(tr("Make a token for the network"), QStringLiteral("pageToken"));
    m_alone = make_link(tr("This computer alone"), QStringLiteral("pageAlone"));
    rows.addLayout(row_of(theme, {m_page, m_page_port}));
    rows.addLayout(row_of(theme, {m_token, m_alone}));
    m_page_state = new TextLabel(theme, TextLabel::Role::soft);
    m_page_state->setObjectName(QStringLiteral("pageState"));
    m_token_text = new TextLabel(theme, TextLabel::Role::body);
    m_token_text->setObjectName(QStringLiteral("pageTokenText"));
    m_token_text->setTextInteractionFlags(Qt::TextSelectableByMouse | Qt::TextSelectableByKeyboard);
    m_token_text->hide();
    rows.addWidget(m_page_state);
    rows.addWidget(m_token_text);

    StationPage& page = m_context.session().stationPage();
    connect(m_page, &QCheckBox::toggled, this, [this](bool on) { edit([on](Bench& b) { b.page.on = on; }); });
    connect(m_page_port, &NumberField::numberEdited, this, [this](double v) {
        if (v >= 1 && v <= 65535) edit([v](Bench& b) { b.page.port = static_cast<int>(v); });
        refresh();
    });
    connect(m_token, &QPushButton::clicked, this, [this, &page] {
        const QString token = page.makeToken();
        set_text(m_token_text,
                 tr("The token, shown this once: %1. Write it down, or put it into the phone’s address: "
                    "?token=%1")
                     .arg(token));
        m_token_text->show();
        refresh();
    });
    connect(m_alone, &QPushButton::clicked, this, [this, &page] {
        page.forgetToken();
        m_token_text->hide();
        refresh();
    });
    connect(&page, &StationPage::changed, this, &TellingView::refresh);
}

void TellingView::edit(const std::function<void(Bench&)>& change) {
    if (m_filling) return;
    m_context.session().edit(tr("Who is told"), change);
    m_context.refresh();
}

void TellingView::refresh() {
    const Bench& bench = m_context.session().bench();
    const Messenger& messenger = m_context.session().messenger();
    m_filling = true;
    m_goes_on->setChecked(m_context.session().isAttached());
    m_desktop->setChecked(bench.telling.desktop);
    m_sound->setChecked(bench.telling.sound);
    m_broker->setChecked(bench.telling.broker);
    m_asks->setChecked(bench.publishing.log_in);
    m_secret->setVisible(messenger.wantsSecret() && !bench.publishing.host.empty());
    const auto show_text = [](QLineEdit* field, const QString& text) {
        if (!field->hasFocus() && field->text() != text) field->setText(text);
    };
    const bool quiet = !bench.telling.quiet.whole_day();
    show_text(m_quiet_from, quiet ? time_of_day(bench.telling.quiet.from_min) : QString());
    show_text(m_quiet_to, quiet ? time_of_day(bench.telling.quiet.to_min) : QString());
    show_text(m_host, from_std(bench.publishing.host));
    show_text(m_topic, from_std(bench.publishing.topic));
    m_port->show(QString::number(bench.publishing.port));
    m_every->show(from_std(format_constant(bench.publishing.every_s)));
    QString listed;
    for (const Reading& r : bench.readings)
        listed += from_std(r.id + "|" + r.name + "|");
    if (listed != m_listed) {
        m_listed = listed;
        m_readings->clear();
        for (const Reading& r : bench.readings) {
            auto* item = new QListWidgetItem(
                r.quantity.is_private() ? tr("%1 (private)").arg(from_std(r.name)) : from_std(r.name), m_readings);
            item->setData(Qt::UserRole, from_std(r.id));
            item->setFlags(Qt::ItemIsEnabled | Qt::ItemIsUserCheckable | Qt::ItemIsSelectable);
        }
    }
    for (int i = 0; i < m_readings->count(); ++i) {
        QListWidgetItem* item = m_readings->item(i);
        const std::string id = item->data(Qt::UserRole).toString().toStdString();
        const auto& wanted = bench.publishing.readings;
        item->setCheckState(std::find(wanted.begin(), wanted.end(), id) == wanted.end() ? Qt::Unchecked
                                                                                        : Qt::Checked);
    }
    set_text(m_trouble, messenger.desktopTrouble());
    m_trouble->setVisible(!messenger.desktopTrouble().isEmpty());
    m_trouble->setColour(m_context.theme().colours().look);
    set_text(m_broker_state,
             bench.publishing.host.empty()      ? tr("Nothing is published.")
             : m_context.session().isAttached() ? tr("The recorder publishes them.")
             : messenger.wantsSecret() ? tr("Nothing goes out before the user name and the password are given.")
             : messenger.brokerConnected()
                 ? tr("The broker is there: each value is kept under %1/ID, with “gone” under %1/status when this "
                      "program goes.")
                       .arg(from_std(bench.publishing.topic))
             : messenger.brokerTrouble().isEmpty() ? tr("Looking for the broker …")
                                                   : messenger.brokerTrouble());
    m_page->setChecked(bench.page.on);
    m_page_port->show(QString::number(bench.page.port));
    m_token->setVisible(bench.page.on);
    m_alone->setVisible(bench.page.on && !bench.page.token_print.empty());
    const QString page_state = m_context.session().stationPage().state();
    set_text(m_page_state, page_state.isEmpty() ? tr("Off: nothing is listened to.") : page_state);
    m_filling = false;
}

} // namespace cognitum
