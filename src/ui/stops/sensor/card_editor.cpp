#include "ui/stops/sensor/card_editor.h"

#include "core/units/format.h"
#include "store/file/data_files.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QDialogButtonBox>
#include <QHBoxLayout>
#include <QSignalBlocker>

namespace cognitum {

namespace {

/// "label = role, label = role": how legs are typed.
QString legs_text(const Json& card) {
    QStringList out;
    if (card.contains("legs"))
        for (const Json& leg : card["legs"])
            out << QStringLiteral("%1 = %2").arg(from_std(leg.value("label", "")), from_std(leg.value("role", "")));
    return out.join(QStringLiteral(", "));
}

Json legs_json(const QString& text) {
    Json out = Json::array();
    for (const QString& part : text.split(QLatin1Char(','), Qt::SkipEmptyParts)) {
        const QStringList pair = part.split(QLatin1Char('='));
        out.push_back({{"label", pair[0].trimmed().toStdString()},
                       {"role", pair.size() > 1 ? pair[1].trimmed().toStdString() : std::string()}});
    }
    return out;
}

QString addresses_text(const Json& card) {
    QStringList out;
    const Json::json_pointer at("/interface/addresses");
    if (card.contains(at))
        for (const Json& address : card.at(at))
            out << (address.is_string() ? from_std(address.get<std::string>()) : from_std(json_dump(address)));
    return out.join(QStringLiteral(", "));
}

} // namespace

CardEditor::CardEditor(Context& context, const PartCard& from, QWidget* parent)
    : QDialog(parent), m_context(context) {
    setObjectName(QStringLiteral("cardEditor"));
    setWindowTitle(tr("A part card of my own"));
    Theme& theme = context.theme();
    resize(theme.px(980), theme.px(640));
    auto* outer = new QVBoxLayout(this);
    outer->setContentsMargins(theme.px(24), theme.px(20), theme.px(24), theme.px(16));
    outer->setSpacing(theme.px(12));
    outer->addWidget(new TextLabel(theme, TextLabel::Role::title, tr("What your data sheet says")));
    outer->addWidget(
        new TextLabel(theme, TextLabel::Role::soft,
                      tr("The usual facts at the left, the whole card at the right; each follows the other. "
                         "It is kept in your data folder and stands beside the shipped ones.")));
    auto* columns = new QHBoxLayout;
    columns->setSpacing(theme.px(20));
    auto* left = new QWidget;
    left->setFixedWidth(theme.px(400));
    m_form = new QFormLayout(left);
    m_form->setContentsMargins(0, 0, 0, 0);
    m_form->setVerticalSpacing(theme.px(6));
    addText(tr("Name"), QStringLiteral("cardName"), "/name");
    addText(tr("Id"), QStringLiteral("cardId"), "/id");
    addText(tr("Marked"), QStringLiteral("cardMarking"), "/marking");
    addNumber(tr("Least that it measures"), QStringLiteral("cardLow"), "/measures/0/low");
    addNumber(tr("Most"), QStringLiteral("cardHigh"), "/measures/0/high");
    addText(tr("in"), QStringLiteral("cardUnit"), "/measures/0/unit");
    addNumber(tr("Accuracy ±"), QStringLiteral("cardAccuracy"), "/measures/0/accuracy");
    addNumber(tr("Supply, least V"), QStringLiteral("cardSupplyLow"), "/supply/low_V");
    addNumber(tr("Supply, most V"), QStringLiteral("cardSupplyHigh"), "/supply/high_V");
    addNumber(tr("Draws mA"), QStringLiteral("cardCurrent"), "/supply/typical_mA");
    addNumber(tr("Follows in s"), QStringLiteral("cardResponse"), "/response_s");
    m_addresses = new QLineEdit;
    m_addresses->setObjectName(QStringLiteral("cardAddresses"));
    m_form->addRow(tr("Addresses"), m_addresses);
    m_legs = new QLineEdit;
    m_legs->setObjectName(QStringLiteral("cardLegs"));
    m_legs->setToolTip(tr("In the order in which you see them: label = role, label = role"));
    m_form->addRow(tr("Legs"), m_legs);
    addText(tr("Seen from"), QStringLiteral("cardSeenFrom"), "/seen_from");
    m_price = new QComboBox;
    m_price->setObjectName(QStringLiteral("cardPrice"));
    m_price->addItems({QStringLiteral("€"), QStringLiteral("€€"), QStringLiteral("€€€")});
    m_form->addRow(tr("Price class"), m_price);
    columns->addWidget(left);
    m_text = new QPlainTextEdit;
    m_text->setObjectName(QStringLiteral("cardText"));
    m_text->setAccessibleName(tr("The whole card as JSON"));
    m_text->setFont(theme.mono(12));
    m_text->setLineWrapMode(QPlainTextEdit::NoWrap);
    columns->addWidget(m_text, 1);
    outer->addLayout(columns, 1);
    m_state = new TextLabel(theme, TextLabel::Role::body);
    m_state->setObjectName(QStringLiteral("cardState"));
    outer->addWidget(m_state);
    auto* buttons = new QDialogButtonBox;
    m_save = make_button(tr("Save the card"), QStringLiteral("saveCard"), true);
    buttons->addButton(m_save, QDialogButtonBox::AcceptRole);
    buttons->addButton(make_button(tr("Cancel"), QStringLiteral("cancelCard")), QDialogButtonBox::RejectRole);
    outer->addWidget(buttons);

    if (const auto text = part_card_text(from.id)) m_card = Json::parse(*text, nullptr, false);
    if (!m_card.is_object()) m_card = Json::object();
    if (!is_own_part(from.id)) {
        m_card["id"] = "my-" + from.id;
        m_card["name"] = "My " + from.name;
    }
    m_text->setPlainText(from_std(m_card.dump(2)));
    fillForm();
    check();

    connect(m_text, &QPlainTextEdit::textChanged, this, &CardEditor::textEdited);
    connect(m_legs, &QLineEdit::textEdited, this,
            [this](const QString& text) { formEdited("/legs", legs_json(text)); });
    connect(m_addresses, &QLineEdit::textEdited, this, [this](const QString& text) {
        Json list = Json::array();
        for (const QString& a : text.split(QLatin1Char(','), Qt::SkipEmptyParts))
            list.push_back(a.trimmed().toStdString());
        formEdited("/interface/addresses", list);
    });
    connect(m_price, &QComboBox::activated, this,
            [this] { formEdited("/price", m_price->currentText().toStdString()); });
    connect(m_save, &QPushButton::clicked, this, &CardEditor::save);
    connect(buttons, &QDialogButtonBox::rejected, this, &QDialog::reject);
}

QLineEdit* CardEditor::addText(const QString& label, const QString& name, const std::string& pointer) {
    auto* field = new QLineEdit;
    field->setObjectName(name);
    m_form->addRow(label, field);
    m_texts.emplace_back(field, pointer);
    connect(field, &QLineEdit::textEdited, this,
            [this, pointer](const QString& text) { formEdited(pointer, text.toStdString()); });
    return field;
}

QLineEdit* CardEditor::addNumber(const QString& label, const QString& name, const std::string& pointer) {
    auto* field = new QLineEdit;
    field->setObjectName(name);
    m_form->addRow(label, field);
    m_numbers.emplace_back(field, pointer);
    connect(field, &QLineEdit::textEdited, this, [this, pointer](const QString& text) {
        // What is no number goes in as text, so that the check names it.
        if (const auto number = typed_number(text))
            formEdited(pointer, *number);
        else
            formEdited(pointer, text.toStdString());
    });
    return field;
}

void CardEditor::formEdited(const std::string& pointer, const Json& value) {
    if (m_card.is_discarded() || !m_card.is_object()) return; // the text is broken: mend it first
    if (pointer == "/interface/addresses" && value.empty() && !m_card.contains(Pointer(pointer))) return;
    try {
        m_card[Pointer(pointer)] = value;
    } catch (const Json::exception&) {
        return; // the card has another shape there; the text is the place to change it
    }
    const QSignalBlocker quiet(m_text);
    m_text->setPlainText(from_std(m_card.dump(2)));
    check();
}

void CardEditor::textEdited() {
    const std::string text = m_text->toPlainText().toStdString();
    m_card = json_is_shallow(text) ? Json::parse(text, nullptr, false) : Json();
    if (m_card.is_object()) fillForm();
    check();
}

void CardEditor::fillForm() {
    const auto value = [&](const std::string& pointer) -> const Json* {
        return m_card.contains(Pointer(pointer)) ? &m_card.at(Pointer(pointer)) : nullptr;
    };
    for (const auto& [field, pointer] : m_texts) {
        const Json* v = value(pointer);
        field->setText(v && v->is_string() ? from_std(v->get<std::string>()) : QString());
    }
    for (const auto& [field, pointer] : m_numbers) {
        const Json* v = value(pointer);
        field->setText(v && v->is_number()   ? QString::number(v->get<double>(), 'g', 10)
                       : v && v->is_string() ? from_std(v->get<std::string>())
                                             : QString());
    }
    m_addresses->setText(addresses_text(m_card));
    m_legs->setText(legs_text(m_card));
    if (const Json* price = value("/price"); price && price->is_string())
        m_price->setCurrentText(from_std(price->get<std::string>()));
}

void CardEditor::check() {
    const auto document = JsonText::parse("card", m_text->toPlainText().toStdString());
    const auto card = document ? read_part_card(JsonReader(*document)) : tl::make_unexpected(document.error());
    m_save->setEnabled(card.has_value());
    if (card) {
        m_state->setColour(m_context.theme().colours().good);
        const bool replaces = m_context.session().catalog().part(card->id);
        set_text(m_state, replaces ? tr("● Sound. It takes the place of the card %1.").arg(from_std(card->id))
                                   : tr("● Sound: %1 legs, speaks %2.")
                                         .arg(card->legs.size())
                                         .arg(from_std(speech_title(card->interface.speech))));
    } else {
        m_state->setColour(m_context.theme().colours().bad);
        set_text(m_state, tr("◆ %1").arg(from_std(card.error().text())));
    }
}

void CardEditor::save() {
    const auto saved = save_own_card(m_text->toPlainText().toStdString());
    if (!saved) {
        m_state->setColour(m_context.theme().colours().bad);
        set_text(m_state, tr("◆ %1").arg(from_std(saved.error().text())));
        return;
    }
    m_saved_as = from_std(*saved);
    m_context.session().reloadCatalog();
    accept();
}

} // namespace cognitum
