#include "ui/pages/settings_page.h"

#include "core/units/format.h"
#include "core/units/quantity_kind.h"
#include "session/language.h"
#include "session/trouble_report.h"
#include "store/file/data_files.h"
#include "ui/widgets/parts.h"

#include <QClipboard>
#include <QDesktopServices>
#include <QDir>
#include <QGuiApplication>
#include <QScrollArea>
#include <QUrl>
#include <array>

namespace cognitum {

namespace {

constexpr std::array text_sizes = {0.0, 0.8, 0.9, 1.0, 1.1, 1.25, 1.5, 1.75, 2.0}; ///< 0: as the desktop

QString unit_title(Dimension dimension) {
    switch (dimension) {
    case Dimension::temperature: return SettingsPage::tr("Temperatures also in");
    case Dimension::pressure: return SettingsPage::tr("Pressures also in");
    case Dimension::length: return SettingsPage::tr("Rain and lengths also in");
    default: return SettingsPage::tr("Volumes also in");
    }
}

QString unit_name(Dimension dimension) {
    return QStringLiteral("beside_%1").arg(static_cast<int>(dimension));
}

QComboBox* choice(const QString& name, const QString& about, const QStringList& choices) {
    auto* box = new QComboBox;
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    box->setMinimumContentsLength(8);
    box->setObjectName(name);
    box->setAccessibleName(about);
    box->addItems(choices);
    return box;
}

} // namespace

std::vector<std::pair<QString, QString>> SettingsPage::entries() {
    std::vector<std::pair<QString, QString>> out = {
        {tr("Language"), QStringLiteral("settingLanguage")},
        {tr("Colours: light, dark, or as the desktop"), QStringLiteral("settingColours")},
        {tr("Text size"), QStringLiteral("settingSize")},
        {tr("Who signs"), QStringLiteral("settingSigner")},
        {tr("Open the bench of last time at the start"), QStringLiteral("settingLast")},
        {tr("What runs when the window closes"), QStringLiteral("settingClosing")},
        {tr("Private readings in exports"), QStringLiteral("settingPrivate")},
        {tr("Name of the bench"), QStringLiteral("settingName")},
        {tr("Place, latitude and longitude of the bench, for the sun"), QStringLiteral("settingLatitude")},
        {tr("Currency"), QStringLiteral("settingCurrency")},
        {tr("Folder of your own cards and recipes"), QStringLiteral("settingFolder")},
        {tr("Forget kept passwords"), QStringLiteral("settingForget")},
        {tr("Copy what helps with trouble"), QStringLiteral("settingTrouble")},
    };
    for (const UnitsOffered& offered : units_offered())
        out.emplace_back(unit_title(offered.dimension), unit_name(offered.dimension));
    return out;
}

SettingsPage::SettingsPage(Context& context, QWidget* parent) : Page(context, tr("Settings"), parent) {
    auto* columns = new QHBoxLayout;
    columns->setSpacing(theme().px(40));
    auto* left = new QVBoxLayout;
    auto* right = new QVBoxLayout;
    for (QVBoxLayout* column : {left, right}) {
        column->setSpacing(theme().px(10));
        columns->addLayout(column, 1);
    }
    buildLook(left);
    buildPerson(left);
    buildBench(right);
    buildFolders(right);
    buildTrouble(right);
    left->addStretch(1);
    right->addStretch(1);
    body()->addLayout(columns);
    m_said = new TextLabel(theme(), TextLabel::Role::soft);
    m_said->setObjectName(QStringLiteral("settingSaid"));
    body()->addWidget(m_said);
    body()->addStretch(1);
    stackWhenNarrow(columns, 860);
    connect(&context, &Context::settingsChanged, this, &SettingsPage::refresh);
    connect(&theme(), &Theme::changed, this, [this] {
        for (TextLabel* label : m_labels)
            label->setFixedWidth(theme().px(152));
    });
}

QFormLayout* SettingsPage::group(QBoxLayout* column, const QString& title) {
    if (column->count() > 0) column->addSpacing(theme().px(10));
    column->addWidget(new TextLabel(theme(), TextLabel::Role::name, title));
    column->addWidget(new RuleLine(theme()));
    auto* form = new QFormLayout;
    form->setHorizontalSpacing(theme().px(16));
    form->setVerticalSpacing(theme().px(8));
    form->setLabelAlignment(Qt::AlignLeft | Qt::AlignVCenter);
    form->setFieldGrowthPolicy(QFormLayout::AllNonFixedFieldsGrow);
    form->setRowWrapPolicy(QFormLayout::DontWrapRows);
    column->addLayout(form);
    return form;
}

/// Labels of one width, so that the controls of all groups stand below each other.
void SettingsPage::add(QFormLayout* form, const QString& label, QWidget* control) {
    auto* text = new TextLabel(theme(), TextLabel::Role::body, label);
    text->setFixedWidth(theme().px(152));
    m_labels.push_back(text);
    form->addRow(text, control);
}

void SettingsPage::buildLook(QBoxLayout* column) {
    QFormLayout* form = group(column, tr("How it looks"));
    QStringList names = {tr("as the desktop")};
    for (const LanguageChoice& language : languages())
        names << language.name;
    m_language = choice(QStringLiteral("settingLanguage"), tr("Language"), names);
    connect(m_language, &QComboBox::activated, this, [this](int chosen) {
        const QString code = chosen > 0 ? languages().at(static_cast<std::size_t>(chosen - 1)).code : QString();
        context().change([&](Settings& s) { s.language = code; });
        emit context().said(tr("The language holds from the next start of Cognitum on."));
    });
    add(form, tr("Language"), m_language);

    m_colours =
        choice(QStringLiteral("settingColours"), tr("Colours"), {tr("as the desktop"), tr("light"), tr("dark")});
    connect(m_colours, &QComboBox::activated, this, [this](int chosen) {
        context().change([chosen](Settings& s) { s.appearance = static_cast<Appearance>(chosen); });
    });
    add(form, tr("Colours"), m_colours);
    QStringList sizes = {tr("as the desktop")};
    for (std::size_t i = 1; i < text_sizes.size(); ++i)
        sizes << QStringLiteral("%1 %").arg(qRound(100 * text_sizes.at(i)));
    m_size = choice(QStringLiteral("settingSize"), tr("Text size"), sizes);
    connect(m_size, &QComboBox::activated, this, [this](int chosen) {
        context().change([chosen](Settings& s) { s.scale = text_sizes.at(static_cast<std::size_t>(chosen)); });
    });
    add(form, tr("Text size"), m_size);

    QFormLayout* units = group(column, tr("Units that you think in"));
    for (const UnitsOffered& offered : units_offered()) {
        QStringList symbols = {tr("nothing beside")};
        for (const std::string& code : offered.codes)
            symbols << from_std(unit_symbol(code));
        QComboBox* box = choice(unit_name(offered.dimension), unit_title(offered.dimension), symbols);
        connect(box, &QComboBox::activated, this, [this, &offered](int chosen) {
            const std::string code = chosen > 0 ? offered.codes.at(static_cast<std::size_t>(chosen - 1)) : "";
            context().change([&](Settings& s) { s.beside.*offered.unit = code; });
        });
        add(units, unit_title(offered.dimension), box);
        m_units.push_back(box);
    }
    column->addWidget(new TextLabel(theme(), TextLabel::Role::soft,
                                    tr("Shown beside the reading’s own unit on Overview and Watch. What is kept, "
                                       "exported and calibrated stays in the reading’s own.")));
}

void SettingsPage::buildPerson(QBoxLayout* column) {
    QFormLayout* form = group(column, tr("You, and this computer"));
    m_signer = make_field("settingSigner", tr("Who signs"), tr("your name"));
    m_signer->setMaxLength(80);
    connect(m_signer, &QLineEdit::editingFinished, this,
            [this] { context().change([this](Settings& s) { s.signer = m_signer->text().trimmed(); }); });
    add(form, tr("Who signs"), m_signer);
    m_closing = choice(QStringLiteral("settingClosing"), tr("What runs when the window closes"),
                       {tr("the recording ends"), tr("the recorder goes on without a window")});
    connect(m_closing, &QComboBox::activated, this, [this](int chosen) {
        context().change([chosen](Settings& s) { s.at_close = static_cast<AtClose>(chosen); });
    });
    add(form, tr("When the window closes"), m_closing);
    m_last = make_check("settingLast", tr("open the bench of last time at the start"));
    connect(m_last, &QCheckBox::clicked, this,
            [this](bool on) { context().change([on](Settings& s) { s.open_last = on; }); });
    add(form, QString(), m_last);
    m_private = make_check("settingPrivate", tr("exports ask about private readings"));
    m_private->setToolTip(tr("Without it they are always left out."));
    connect(m_private, &QCheckBox::clicked, this,
            [this](bool on) { context().change([on](Settings& s) { s.offer_private = on; }); });
    add(form, QString(), m_private);
    m_private_now = new TextLabel(theme(), TextLabel::Role::soft);
    m_private_now->setObjectName(QStringLiteral("settingPrivateNow"));
    column->addWidget(m_private_now);
}

void SettingsPage::buildBench(QBoxLayout* column) {
    QFormLayout* form = group(column, tr("This bench"));
    const auto text = [&](const char* name, const QString& about, const QString& hint, std::string Bench::*part) {
        QLineEdit* field = make_field(name, about, hint);
        field->setMaxLength(120);
        connect(field, &QLineEdit::editingFinished, this, [this, field, about, part] {
            const std::string typed = field->text().trimmed().toStdString();
            const Bench& bench = context().session().bench();
            if (typed == bench.*part || (typed.empty() && part != &Bench::place)) return refreshBench();
            context().session().edit(about, [&](Bench& b) { b.*part = typed; });
        });
        add(form, about, field);
        return field;
    };
    m_name = text("settingName", tr("Name"), tr("name of the bench"), &Bench::name);
    m_place = text("settingPlace", tr("Place"), tr("where it stands"), &Bench::place);
    m_latitude = new NumberField(theme(), QStringLiteral("settingLatitude"), tr("Latitude, north positive"));
    m_longitude = new NumberField(theme(), QStringLiteral("settingLongitude"), tr("Longitude, east positive"));
    m_latitude->setUnit(tr("° N"));
    m_longitude->setUnit(tr("° E"));
    auto* where = new QHBoxLayout;
    where->setSpacing(theme().px(8));
    where->addWidget(m_latitude);
    where->addWidget(m_longitude);
    where->addStretch(1);
    auto* both = new QWidget;
    where->setContentsMargins(0, 0, 0, 0);
    both->setLayout(where);
    add(form, tr("Where, for the sun"), both);
    for (NumberField* field : {m_latitude, m_longitude})
        connect(field, &NumberField::numberEdited, this, &SettingsPage::placeTyped);
    m_currency = text("settingCurrency", tr("Currency"), QStringLiteral("€"), &Bench::currency);
    m_currency->setMaxLength(4);
    m_currency->setMaximumWidth(theme().px(64));
}

/// Both numbers or none: half a place is kept nowhere.
void SettingsPage::placeTyped() {
    const auto north = m_latitude->number(), east = m_longitude->number();
    if (!north || !east) return set_text(m_said, tr("The other number is needed as well."));
    if (std::abs(*north) > 90 || std::abs(*east) > 180)
        return set_text(m_said,
                        tr("A latitude is from −90 to 90, a longitude from −180 to 180; nothing was changed."));
    set_text(m_said, {});
    context().session().edit(tr("Where the bench stands"), [&](Bench& b) { b.where = GeoPlace{*north, *east}; });
}

void SettingsPage::buildFolders(QBoxLayout* column) {
    group(column, tr("Cards and recipes of your own"));
    m_cards = new TextLabel(theme(), TextLabel::Role::body);
    m_cards->setObjectName(QStringLiteral("settingCards"));
    column->addWidget(m_cards);
    QPushButton* open = make_link(tr("Open the folder"), QStringLiteral("settingFolder"));
    connect(open, &QPushButton::clicked, this, [] {
        const QString folder = from_std(own_data_folder());
        for (const char* inside : {"parts", "boards", "recipes"})
            QDir(folder).mkpath(QLatin1String(inside));
        QDesktopServices::openUrl(QUrl::fromLocalFile(folder));
    });
    column->addWidget(open, 0, Qt::AlignLeft);
}

void SettingsPage::buildTrouble(QBoxLayout* column) {
    group(column, tr("Passwords and trouble"));
    QPushButton* forget =
        make_link(tr("Forget the passwords for this bench’s brokers"), QStringLiteral("settingForget"));
    forget->setVisible(context().session().secrets().canKeep());
    connect(forget, &QPushButton::clicked, this, [this] {
        const int n = context().session().secrets().forgetAll();
        set_text(m_said, n == 0 ? tr("This bench names no broker.")
                                : tr("The desktop’s secret service forgets %n place(s).", nullptr, n));
    });
    column->addWidget(forget, 0, Qt::AlignLeft);
    QPushButton* copy = make_link(tr("Copy what helps with trouble"), QStringLiteral("settingTrouble"));
    connect(copy, &QPushButton::clicked, this, [this] {
        QGuiApplication::clipboard()->setText(trouble_report(context().session()));
        set_text(m_said,
                 tr("It is on the clipboard: versions, sizes and states, no values, no names, no secrets."));
    });
    column->addWidget(copy, 0, Qt::AlignLeft);
}

void SettingsPage::refresh() {
    const Settings& s = context().settings();
    const auto spoken = std::find_if(languages().begin(), languages().end(),
                                     [&](const LanguageChoice& language) { return language.code == s.language; });
    m_language->setCurrentIndex(spoken == languages().end() ? 0
                                                            : static_cast<int>(spoken - languages().begin()) + 1);
    m_colours->setCurrentIndex(static_cast<int>(s.appearance));

    const auto size = std::min_element(text_sizes.begin(), text_sizes.end(), [&](double a, double b) {
        return std::abs(a - s.scale) < std::abs(b - s.scale);
    });
    m_size->setCurrentIndex(static_cast<int>(size - text_sizes.begin()));
    for (std::size_t i = 0; i < m_units.size(); ++i) {
        const UnitsOffered& offered = units_offered()[i];
        const auto at = std::find(offered.codes.begin(), offered.codes.end(), s.beside.*offered.unit);
        m_units[i]->setCurrentIndex(at == offered.codes.end() ? 0
                                                              : static_cast<int>(at - offered.codes.begin()) + 1);
    }
    if (!m_signer->hasFocus()) m_signer->setText(s.signer);
    m_closing->setCurrentIndex(static_cast<int>(s.at_close));
    m_last->setChecked(s.open_last);
    m_private->setChecked(s.offer_private);
    refreshBench();
    refreshFolders();
}

void SettingsPage::refreshBench() {
    const Bench& bench = context().session().bench();
    for (const auto& [field, text] :
         {std::pair{m_name, &bench.name}, std::pair{m_place, &bench.place}, std::pair{m_currency, &bench.currency}})
        if (!field->hasFocus()) field->setText(from_std(*text));
    if (bench.where != m_where_shown) { // what is typed and not whole yet stays
        m_where_shown = bench.where;
        m_latitude->show(bench.where ? from_std(format_constant(bench.where->latitude_deg, 8)) : QString());
        m_longitude->show(bench.where ? from_std(format_constant(bench.where->longitude_deg, 8)) : QString());
    }
    QStringList about_health;
    for (const Reading& r : bench.readings)
        if (r.quantity.is_private()) about_health << from_std(r.name);
    set_text(
        m_private_now,
        about_health.isEmpty()
            ? tr("This bench has none that is private.")
            : tr("Private here: %1. They leave this computer only by name; others are made private at Quantity.")
                  .arg(about_health.join(QStringLiteral(", "))));
}

void SettingsPage::refreshFolders() {
    const auto& problems = context().session().catalogProblems();
    QString text = tr("Files in parts, boards and recipes under %1 stand before those that Cognitum brings. Drop a "
                      "card on the window to add it.")
                       .arg(from_std(own_data_folder()));
    if (!problems.empty()) text += QLatin1Char(' ') + tr("Not read: %1").arg(from_std(problems.front().text()));
    set_text(m_cards, text);
}

void SettingsPage::showEntry(const QString& name) {
    auto* control = findChild<QWidget*>(name);
    if (!control) return;
    for (QWidget* above = control->parentWidget(); above; above = above->parentWidget())
        if (auto* scroll = qobject_cast<QScrollArea*>(above)) scroll->ensureWidgetVisible(control);
    control->setFocus(Qt::ShortcutFocusReason);
}

} // namespace cognitum
