#include "ui/pages/board_settings.h"

#include "core/plan/placed.h"
#include "core/units/format.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QGridLayout>

namespace cognitum {

BoardSettings::BoardSettings(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* grid = new QGridLayout(this);
    grid->setContentsMargins(0, 0, 0, 0);
    grid->setHorizontalSpacing(theme.px(8));
    grid->setVerticalSpacing(theme.px(4));
    grid->setColumnStretch(1, 1);
    grid->setColumnStretch(3, 1);
    m_radio = new QCheckBox;
    m_radio->setObjectName(QStringLiteral("radioOn"));
    grid->addWidget(m_radio, 0, 0, 1, 2);
    connect(m_radio, &QCheckBox::clicked, this,
            [this](bool on) { change(tr("Switch the radio"), [on](BoardUse& use) { use.radio_on = on; }); });
    int place = 4; // two to a row, below the radio
    const auto heading = [&](const QString& text) {
        place = (place + 3) / 4 * 4;
        grid->addWidget(new TextLabel(theme, TextLabel::Role::small, text), place / 4, 0, 1, 4);
        place += 4;
    };
    heading(tr("What feeds it"));
    const auto add = [&](const QString& label, const char* name, const QString& unit, double most,
                         double (*get)(const BoardUse&), void (*set)(BoardUse&, double)) {
        auto* text = new TextLabel(theme, TextLabel::Role::soft, label);
        text->setWordWrap(false);
        auto* field = new NumberField(theme, QLatin1String(name), label);
        field->setUnit(unit);
        field->setMinimumWidth(theme.px(72));
        grid->addWidget(text, place / 4, place % 4);
        grid->addWidget(field, place / 4, place % 4 + 1);
        place += 2;
        m_entries.push_back({field, get});
        connect(field, &NumberField::numberEdited, this, [this, label, set, most](double value) {
            if (value < 0 || value > most) {
                emit m_context.said(tr("%1: from 0 to %2; nothing was changed.").arg(label).arg(most));
                return;
            }
            change(tr("Change: %1").arg(label), [set, value](BoardUse& use) { set(use, value); });
        });
    };
    add(
        tr("fed with (0: USB)"), "boardSupply", QStringLiteral("V"), 60,
        [](const BoardUse& u) { return u.supply_V; }, [](BoardUse& u, double v) { u.supply_V = v; });
    add(
        tr("adapter"), "boardAdapter", QStringLiteral("V"), 24, [](const BoardUse& u) { return u.adapter_V; },
        [](BoardUse& u, double v) { u.adapter_V = v; });
    add(
        tr("air around it"), "boardAmbient", QStringLiteral("°C"), 90,
        [](const BoardUse& u) { return u.ambient_degC; }, [](BoardUse& u, double v) { u.ambient_degC = v; });
    heading(tr("Its lines"));
    add(
        tr("program sends at"), "boardBaud", QStringLiteral("Bd"), 4e6,
        [](const BoardUse& u) { return double(u.code_baud); },
        [](BoardUse& u, double v) { u.code_baud = static_cast<int>(v); });
    add(
        tr("I²C speed"), "boardBusSpeed", QStringLiteral("kHz"), 3400, [](const BoardUse& u) { return u.i2c_kHz; },
        [](BoardUse& u, double v) { u.i2c_kHz = std::max(1.0, v); });
    add(
        tr("added pull-up"), "boardPullUp", QStringLiteral("Ω"), 1e6,
        [](const BoardUse& u) { return u.i2c_pull_up_ohm; }, [](BoardUse& u, double v) { u.i2c_pull_up_ohm = v; });
    heading(tr("When it runs, on a battery"));
    add(
        tr("sleeps for"), "boardSleep", QStringLiteral("s"), 1e6, [](const BoardUse& u) { return u.sleep_s; },
        [](BoardUse& u, double v) { u.sleep_s = v; });
    add(
        tr("awake for"), "boardWake", QStringLiteral("s"), 1e6, [](const BoardUse& u) { return u.wake_s; },
        [](BoardUse& u, double v) { u.wake_s = v; });
    add(
        tr("uploads every"), "boardUpload", QStringLiteral("s"), 1e6, [](const BoardUse& u) { return u.upload_s; },
        [](BoardUse& u, double v) { u.upload_s = v; });
    add(
        tr("service takes one in"), "boardQuota", QStringLiteral("s"), 1e6,
        [](const BoardUse& u) { return u.quota_s; }, [](BoardUse& u, double v) { u.quota_s = v; });
}

void BoardSettings::change(const QString& what, const std::function<void(BoardUse&)>& change) {
    m_context.session().edit(what, [&](Bench& bench) {
        if (BoardUse* use = bench.board(m_board)) change(*use);
    });
}

void BoardSettings::setBoard(const std::string& board) {
    m_board = board;
    const Session& session = m_context.session();
    const BoardUse* use = session.bench().board(board);
    if (!use) return;
    const BoardCard* card = session.catalog().board(use->card);
    m_radio->setVisible(card && !card->radio.empty());
    // Lines that come by radio need it: then it is on, and nothing to be chosen.
    BoardUse without = *use;
    without.radio_on = false;
    m_radio->setChecked(radio_is_on(*use, card));
    m_radio->setEnabled(!radio_is_on(without, card));
    if (card) m_radio->setText(tr("%1 on").arg(from_std(card->radio)));
    for (const Entry& entry : m_entries)
        entry.field->show(from_std(format_constant(entry.get(*use), 7)));
}

} // namespace cognitum
