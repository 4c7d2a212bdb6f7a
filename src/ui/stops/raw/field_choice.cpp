#include "ui/stops/raw/field_choice.h"

#include "ui/widgets/parts.h"

#include <QHBoxLayout>

namespace cognitum {

namespace {

QComboBox* combo(Theme& theme, const char* name, const QString& about) {
    auto* box = new QComboBox;
    box->setObjectName(QLatin1String(name));
    box->setAccessibleName(about);
    box->setToolTip(about);
    box->setMinimumWidth(theme.px(120));
    box->setMaximumWidth(theme.px(220));
    return box;
}

} // namespace

FieldChoice::FieldChoice(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* row = new QHBoxLayout(this);
    row->setContentsMargins(0, 0, 0, 0);
    row->setSpacing(theme.px(6));
    const auto label = [&](const QString& text) {
        auto* l = new TextLabel(theme, TextLabel::Role::soft, text);
        l->setWordWrap(false);
        return l;
    };
    m_field = combo(theme, "fieldChoice", tr("Field of the lines that this reading takes"));
    m_signal = combo(theme, "signalChoice", tr("Field with the wave behind it, for the eye"));
    row->addWidget(label(tr("takes")));
    row->addWidget(m_field);
    m_signal_row = new QWidget;
    auto* wave = new QHBoxLayout(m_signal_row);
    wave->setContentsMargins(0, 0, 0, 0);
    wave->setSpacing(theme.px(6));
    wave->addWidget(label(tr("its wave")));
    wave->addWidget(m_signal);
    row->addWidget(m_signal_row);
    connect(m_field, &QComboBox::activated, this, [this] { take(m_field, tr("Take a field"), &Source::field); });
    connect(m_signal, &QComboBox::activated, this, [this] { take(m_signal, tr("Take a wave"), &Source::signal); });
}

void FieldChoice::take(QComboBox* box, const QString& undo_text, std::string Source::*member) {
    const std::string field = box->currentData().toString().toStdString();
    m_context.session().editReading(m_context.readingId(), undo_text, [&](Reading& r) {
        // The label of its pin is what it takes without being told.
        r.source.*member = member == &Source::field && field == r.wiring.pin() ? std::string() : field;
    });
    m_key.clear();
}

void FieldChoice::fill(QComboBox* box, const std::string& chosen, const QString& none) {
    box->clear();
    if (!none.isEmpty()) box->addItem(none, QString());
    if (const LiveBoard* board = m_context.liveBoard())
        for (const Field& field : board->fields)
            if (field.numeric)
                box->addItem(field.example.empty()
                                 ? from_std(field.name)
                                 : QStringLiteral("%1  (%2)").arg(from_std(field.name), from_std(field.example)),
                             from_std(field.name));
    int index = box->findData(from_std(chosen));
    if (index < 0) {
        box->insertItem(0, tr("%1  (not in the lines)").arg(from_std(chosen)), from_std(chosen));
        index = 0;
    }
    box->setCurrentIndex(index);
}

void FieldChoice::refresh() {
    const Reading* r = m_context.reading();
    const LiveBoard* board = m_context.liveBoard();
    setVisible(r && board && !board->fields.empty());
    if (!r || !board) return;
    // Examples move with every line; the list is made anew when what there is to choose changes, not with each.
    QString key = QStringLiteral("%1|%2|%3").arg(from_std(r->id), from_std(r->field()), from_std(r->source.signal));
    for (const Field& field : board->fields)
        key += QLatin1Char('|') + from_std(field.name) + (field.numeric ? QLatin1Char('1') : QLatin1Char('0'));
    if (key == m_key || m_field->view()->isVisible() || m_signal->view()->isVisible()) return;
    m_key = key;
    fill(m_field, r->field(), {});
    const bool pulse = r->quantity.about().events == Events::beats;
    m_signal_row->setVisible(pulse);
    if (pulse) fill(m_signal, r->source.signal, tr("none"));
}

} // namespace cognitum
