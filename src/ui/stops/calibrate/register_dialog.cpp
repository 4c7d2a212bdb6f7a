#include "ui/stops/calibrate/register_dialog.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QComboBox>
#include <QDate>
#include <QFormLayout>
#include <QLineEdit>
#include <QPushButton>
#include <algorithm>

namespace cognitum {

namespace {

QString day_of(TimeUs time) {
    return time > 0 ? from_std(iso_time(time).substr(0, 10)) : QString();
}

/// 0 for nothing; empty for what is no day.
std::optional<TimeUs> typed_day(const QString& text) {
    if (text.trimmed().isEmpty()) return TimeUs(0);
    const QDate day = QDate::fromString(text.trimmed(), Qt::ISODate);
    return day.isValid() ? parse_time(day.toString(Qt::ISODate).toStdString() + "T00:00:00Z") : std::nullopt;
}

} // namespace

RegisterDialog::RegisterDialog(Context& context, QWidget* parent) : QDialog(parent), m_context(context) {
    Theme& theme = context.theme();
    setWindowTitle(tr("Register of references"));
    setObjectName(QStringLiteral("registerDialog"));
    auto* layout = new QVBoxLayout(this);
    layout->setSpacing(theme.px(8));
    auto* about = new TextLabel(theme, TextLabel::Role::body,
                                tr("What your readings are compared with. A reference should be at least three "
                                   "times as good as the limit, of another "
                                   "design than what it judges, and checked itself from time to time."));
    about->setWordWrap(true);
    layout->addWidget(about);
    m_which = new QComboBox;
    m_which->setObjectName(QStringLiteral("registerWhich"));
    m_which->setAccessibleName(tr("Reference"));
    layout->addWidget(m_which);
    auto* form = new QFormLayout;
    m_kind = new QComboBox;
    m_kind->setObjectName(QStringLiteral("registerKind"));
    for (const QuantityKind& kind : quantity_kinds())
        m_kind->addItem(from_std(kind.title), from_std(kind.id));
    m_name = make_field("registerName", tr("Name of the reference"), tr("Thermometer number 3"));
    m_unit = new QComboBox;
    m_unit->setObjectName(QStringLiteral("registerUnit"));
    m_unit->setAccessibleName(tr("Its unit"));
    m_doubt = new NumberField(theme, QStringLiteral("registerDoubt"), tr("Its standard uncertainty"));
    m_resolution = new NumberField(theme, QStringLiteral("registerResolution"), tr("One step of its display"));
    m_design =
        make_field("registerDesign", tr("What it is by its data sheet"), tr("stem thermometer, −10 to 50 °C"));
    m_certificate = make_field("registerCertificate", tr("Number of its certificate"), tr("none"));
    m_certified = make_field("registerCertified", tr("Day of its certificate"), tr("2026-02-01"));
    m_due = make_field("registerDue", tr("Day on which it is due itself"), tr("2028-02-01"));
    form->addRow(tr("Name"), m_name);
    form->addRow(tr("Measures"), m_kind);
    form->addRow(tr("Unit"), m_unit);
    form->addRow(tr("Standard uncertainty"), m_doubt);
    form->addRow(tr("Step of its display"), m_resolution);
    form->addRow(tr("Design"), m_design);
    form->addRow(tr("Certificate"), m_certificate);
    form->addRow(tr("Certified on"), m_certified);
    form->addRow(tr("Due on"), m_due);
    layout->addLayout(form);
    m_says = new TextLabel(theme, TextLabel::Role::body);
    m_says->setObjectName(QStringLiteral("registerSays"));
    m_says->setWordWrap(true);
    layout->addWidget(m_says);
    auto* row = new QHBoxLayout;
    auto* keep = make_button(tr("Keep it"), QStringLiteral("registerKeep"), true);
    auto* away = make_button(tr("Remove it"), QStringLiteral("registerRemove"));
    auto* close = make_button(tr("Close"), QStringLiteral("registerClose"));
    for (QPushButton* button : {keep, away, close})
        row->addWidget(button);
    row->addStretch(1);
    layout->addLayout(row);
    connect(m_which, &QComboBox::activated, this, [this] {
        const ReferenceInstrument* r =
            m_context.session().bench().reference(m_which->currentData().toString().toStdString());
        show(r ? *r : ReferenceInstrument{});
    });
    connect(m_kind, &QComboBox::activated, this, [this] { offerUnits({}); });
    connect(m_unit, &QComboBox::currentIndexChanged, this, [this] {
        for (NumberField* field : {m_doubt, m_resolution})
            field->setUnit(m_unit->currentText());
    });
    connect(keep, &QPushButton::clicked, this, &RegisterDialog::save);
    connect(away, &QPushButton::clicked, this, &RegisterDialog::remove);
    connect(close, &QPushButton::clicked, this, &QDialog::accept);
    fill();
    resize(theme.px(480), sizeHint().height());
}

void RegisterDialog::fill() {
    m_which->clear();
    for (const ReferenceInstrument& r : m_context.session().bench().references)
        m_which->addItem(from_std(r.name), from_std(r.id));
    m_which->addItem(tr("a new one"), QString());
    const auto& all = m_context.session().bench().references;
    show(all.empty() ? ReferenceInstrument{} : all.front());
}

/// The units of the chosen quantity; one that a file brought stays.
void RegisterDialog::offerUnits(const std::string& wanted) {
    const QuantityKind* kind = find_quantity_kind(m_kind->currentData().toString().toStdString());
    m_unit->clear();
    if (!kind) return;
    for (const std::string& unit : kind->units)
        m_unit->addItem(unit == "1" ? tr("no unit") : from_std(unit_symbol(unit)), from_std(unit));
    if (!wanted.empty() && m_unit->findData(from_std(wanted)) < 0)
        m_unit->addItem(from_std(unit_symbol(wanted)), from_std(wanted));
    m_unit->setCurrentIndex(std::max(0, m_unit->findData(from_std(wanted))));
}

void RegisterDialog::show(const ReferenceInstrument& r) {
    const auto number = [](double value) { return value > 0 ? from_std(format_constant(value, 6)) : QString(); };
    m_name->setText(from_std(r.name));
    const int kind = m_kind->findData(from_std(r.kind));
    m_kind->setCurrentIndex(std::max(0, kind));
    offerUnits(r.unit);
    m_doubt->setText(number(r.u));
    m_resolution->setText(number(r.resolution));
    m_design->setText(from_std(r.design));
    m_certificate->setText(from_std(r.certificate));
    m_certified->setText(day_of(r.certified));
    m_due->setText(day_of(r.due));
    const bool overdue = r.due > 0 && r.due < m_context.session().now();
    set_text(m_says,
             overdue
                 ? tr("▲ It was due itself on %1: have it certified before it judges others.").arg(day_of(r.due))
                 : QString());
    m_says->setColour(m_context.theme().colours().look);
}

Result<ReferenceInstrument> RegisterDialog::typed() const {
    ReferenceInstrument r;
    r.id = m_which->currentData().toString().toStdString();
    r.name = m_name->text().trimmed().toStdString();
    if (r.name.empty()) return failure(phrase("The name is missing."));
    if (r.id.empty()) r.id = m_context.session().bench().free_id(r.name);
    r.kind = m_kind->currentData().toString().toStdString();
    r.unit = m_unit->currentData().toString().toStdString();
    const QuantityKind* kind = find_quantity_kind(r.kind);
    if (!kind || !convert_unit(1, r.unit, kind->units[0]))
        return failure(phrase("That unit does not measure this quantity."));
    const auto doubt = typed_number(m_doubt->text());
    if (!doubt || !(*doubt > 0))
        return failure(
            phrase("Its standard uncertainty must be above zero: a reference without doubt does not exist."));
    r.u = *doubt;
    if (!m_resolution->text().trimmed().isEmpty()) {
        const auto step = typed_number(m_resolution->text());
        if (!step || *step < 0) return failure(phrase("The step of its display is no number."));
        r.resolution = *step;
    }
    r.design = m_design->text().trimmed().toStdString();
    r.certificate = m_certificate->text().trimmed().toStdString();
    const auto certified = typed_day(m_certified->text()), due = typed_day(m_due->text());
    if (!certified || !due) return failure(phrase("A day is written as 2026-02-01."));
    if (*due > 0 && *due < *certified) return failure(phrase("It cannot be due before it was certified."));
    r.certified = *certified;
    r.due = *due;
    return r;
}

void RegisterDialog::save() {
    const auto r = typed();
    if (!r) {
        set_text(m_says, QStringLiteral("◆ ") + from_std(r.error().text()));
        m_says->setColour(m_context.theme().colours().bad);
        return;
    }
    m_context.session().edit(tr("Register %1").arg(from_std(r->name)), [&](Bench& bench) {
        const auto known = std::find_if(bench.references.begin(), bench.references.end(),
                                        [&](const auto& k) { return k.id == r->id; });
        if (known != bench.references.end())
            *known = *r;
        else
            bench.references.push_back(*r);
    });
    fill();
    m_which->setCurrentIndex(m_which->findData(from_std(r->id)));
    show(*r);
    set_text(m_says, tr("Kept."));
    m_says->setColour({});
}

void RegisterDialog::remove() {
    const std::string id = m_which->currentData().toString().toStdString();
    m_context.session().edit(tr("Remove a reference"), [&](Bench& bench) {
        std::erase_if(bench.references, [&](const auto& r) { return r.id == id; });
    });
    fill();
}

} // namespace cognitum
