#include "ui/stops/raw/raw_side.h"

#include "core/base/phrase.h"
#include "core/bringup/trial.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "demo/faults.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <QKeyEvent>
#include <fmt/format.h>

namespace cognitum {

namespace {

QWidget* section(QVBoxLayout* box, Theme& theme, const QString& title, QVBoxLayout** inside) {
    auto* widget = new QWidget;
    auto* layout = new QVBoxLayout(widget);
    layout->setContentsMargins(0, 0, 0, theme.px(8));
    layout->setSpacing(theme.px(6));
    layout->addWidget(new TextLabel(theme, TextLabel::Role::name, title));
    box->addWidget(widget);
    *inside = layout;
    return widget;
}

} // namespace

RawSide::RawSide(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(context.theme().px(6));
    buildTest(box);
    buildCommand(box);
    buildHand(box);
    buildSimulated(box);
}

void RawSide::buildTest(QVBoxLayout* box) {
    QVBoxLayout* inside = nullptr;
    m_test = section(box, m_context.theme(), tr("Tell them apart"), &inside);
    m_next = new TextLabel(m_context.theme(), TextLabel::Role::body);
    m_next->setObjectName(QStringLiteral("rawNextTest"));
    inside->addWidget(m_next);
    m_start = make_button(tr("Start the test"), QStringLiteral("startTest"), true);
    inside->addWidget(m_start, 0, Qt::AlignLeft);
    m_then = new TextLabel(m_context.theme(), TextLabel::Role::soft);
    m_then->setObjectName(QStringLiteral("rawThen"));
    inside->addWidget(m_then);
    auto* ask = make_link(tr("Or question by question"), QStringLiteral("openFinder"));
    inside->addWidget(ask, 0, Qt::AlignLeft);
    connect(m_start, &QPushButton::clicked, this, [this] {
        if (m_stimulus) emit testRequested(m_stimulus);
    });
    connect(ask, &QPushButton::clicked, this, &RawSide::finderRequested);
}

void RawSide::buildCommand(QVBoxLayout* box) {
    QVBoxLayout* inside = nullptr;
    section(box, m_context.theme(), tr("Ask the board"), &inside);
    m_command = new QLineEdit;
    m_command->setObjectName(QStringLiteral("boardCommand"));
    m_command->setAccessibleName(tr("Command line to the board"));
    m_command->setPlaceholderText(tr("interval 250"));
    m_command->setToolTip(tr("Return sends it as one line; up and down go through what was sent."));
    m_command->installEventFilter(this);
    inside->addWidget(m_command);
    m_buttons = new QHBoxLayout;
    m_buttons->setSpacing(m_context.theme().px(10));
    inside->addLayout(m_buttons);
    m_answer = new TextLabel(m_context.theme(), TextLabel::Role::mono_soft);
    m_answer->setObjectName(QStringLiteral("boardAnswer"));
    m_answer->setWordWrap(true);
    inside->addWidget(m_answer);
    connect(m_command, &QLineEdit::returnPressed, this, [this] {
        const QString line = m_command->text().trimmed();
        if (line.isEmpty()) return;
        m_history.removeAll(line);
        m_history.append(line);
        m_history_at = m_history.size();
        m_command->clear();
        send(line, 2);
    });
}

void RawSide::buildHand(QVBoxLayout* box) {
    Theme& theme = m_context.theme();
    QVBoxLayout* inside = nullptr;
    section(box, theme, tr("Read by hand"), &inside);
    auto* row = new QHBoxLayout;
    row->setSpacing(theme.px(6));
    m_hand_value = new QLineEdit;
    m_hand_value->setObjectName(QStringLiteral("handValue"));
    m_hand_value->setAccessibleName(tr("Value read by hand"));
    m_hand_value->setPlaceholderText(tr("value"));
    m_hand_doubt = new QLineEdit;
    m_hand_doubt->setObjectName(QStringLiteral("handDoubt"));
    m_hand_doubt->setAccessibleName(tr("Its doubt, plus and minus"));
    m_hand_doubt->setPlaceholderText(tr("doubt"));
    auto* enter = make_button(tr("Enter"), QStringLiteral("handEnter"));
    row->addWidget(m_hand_value, 1);
    row->addWidget(new TextLabel(theme, TextLabel::Role::mono, QStringLiteral("±")));
    row->addWidget(m_hand_doubt, 1);
    inside->addLayout(row);
    auto* below = new QHBoxLayout;
    below->setSpacing(theme.px(6));
    m_hand_note = new TextLabel(theme, TextLabel::Role::soft);
    m_hand_note->setObjectName(QStringLiteral("handNote"));
    below->addWidget(m_hand_note, 1);
    below->addWidget(enter, 0, Qt::AlignTop);
    inside->addLayout(below);
    connect(enter, &QPushButton::clicked, this, &RawSide::enterByHand);
    connect(m_hand_value, &QLineEdit::returnPressed, this, &RawSide::enterByHand);
    connect(m_hand_doubt, &QLineEdit::returnPressed, this, &RawSide::enterByHand);
}

void RawSide::buildSimulated(QVBoxLayout* box) {
    QVBoxLayout* inside = nullptr;
    m_simulated = section(box, m_context.theme(), tr("Simulated bench"), &inside);
    inside->addWidget(new TextLabel(m_context.theme(), TextLabel::Role::soft,
                                    tr("This board is simulated: give it a fault and see how it shows.")));
    m_fault = new QComboBox;
    m_fault->setObjectName(QStringLiteral("simulatedFault"));
    m_fault->setAccessibleName(tr("Fault of the simulated board"));
    inside->addWidget(m_fault);
    m_plug = new QCheckBox(tr("cable plugged in"));
    m_plug->setObjectName(QStringLiteral("simulatedPlug"));
    m_plug->setChecked(true);
    inside->addWidget(m_plug);
    connect(m_fault, &QComboBox::activated, this, [this] {
        const Reading* r = m_context.reading();
        if (!r) return;
        m_context.session().worker().sendCommand(r->feed(),
                                                 QStringLiteral("fault ") + m_fault->currentData().toString());
        m_fault->setToolTip(m_fault->currentData(Qt::ToolTipRole).toString());
    });
    connect(m_plug, &QCheckBox::toggled, this, [this](bool on) {
        if (const Reading* r = m_context.reading()) m_context.session().worker().setPlugged(r->feed(), on);
    });
}

bool RawSide::eventFilter(QObject* watched, QEvent* event) {
    if (watched == m_command && event->type() == QEvent::KeyPress) {
        const int key = static_cast<QKeyEvent*>(event)->key();
        if ((key == Qt::Key_Up || key == Qt::Key_Down) && !m_history.isEmpty()) {
            m_history_at = std::clamp<qsizetype>(m_history_at + (key == Qt::Key_Up ? -1 : 1), 0, m_history.size());
            m_command->setText(m_history_at < m_history.size() ? m_history[m_history_at] : QString());
            return true;
        }
    }
    return QWidget::eventFilter(watched, event);
}

void RawSide::send(const QString& line, double answer_s) {
    const Reading* r = m_context.reading();
    if (!r) return;
    const LiveBoard* board = m_context.liveBoard();
    m_answers_before = board ? board->answers : 0;
    m_asked = m_context.session().now();
    m_answered = 0;
    m_promised_s = answer_s;
    m_context.session().worker().sendCommand(r->feed(), line);
    refreshCommand();
}

void RawSide::refreshCommand() {
    const Reading* r = m_context.reading();
    const LiveBoard* board = m_context.liveBoard();
    const BoardUse* use = r ? m_context.session().bench().board(r->feed()) : nullptr;
    QString key;
    if (use)
        for (const CommandButton& button : use->buttons)
            key += from_std(button.label) + QLatin1Char('\n');
    if (use && key != m_button_key) {
        m_button_key = key;
        clear_layout(m_buttons);
        for (const CommandButton& button : use->buttons) {
            auto* link = make_link(from_std(button.label), QStringLiteral("commandButton"));
            link->setToolTip(from_std(button.line));
            connect(link, &QPushButton::clicked, this,
                    [this, button] { send(from_std(button.line), button.answer_s); });
            m_buttons->addWidget(link);
        }
        m_buttons->addStretch(1);
    }
    const TimeUs now = m_context.session().now();
    if (m_asked == 0 || !board) {
        set_text(m_answer, board && !board->answer.isEmpty() ? tr("answered: %1").arg(board->answer)
                                                             : tr("commands go to the board as one line"));
    } else if (board->answers > m_answers_before) {
        if (m_answered == 0) m_answered = now;
        set_text(m_answer, tr("answered: %1 · %2 s")
                               .arg(board->answer)
                               .arg(from_std(format_fixed(seconds(m_answered - m_asked), 1))));
    } else if (seconds(now - m_asked) > m_promised_s) {
        set_text(m_answer,
                 tr("no answer within %1 s. Does the board know this word? Ask it for help.").arg(m_promised_s));
    } else {
        set_text(m_answer, tr("waiting for the answer …"));
    }
}

void RawSide::refreshSimulated() {
    const Reading* r = m_context.reading();
    const BoardUse* use = r ? m_context.session().bench().board(r->feed()) : nullptr;
    m_simulated->setVisible(use && use->link.is_simulated());
    const QString board = use ? from_std(use->id) : QString();
    if (board == m_fault_board) return;
    m_fault_board = board;
    m_fault->clear();
    m_fault->addItem(tr("no fault"), QStringLiteral("none"));
    for (const demo::Fault& fault : demo::all_faults()) {
        if (use && fault.board != use->id && !(use->link.kind == LinkKind::simulated && fault.board == "gauge"))
            continue;
        m_fault->addItem(from_std(phrase_of(fault.title)), from_std(fault.name));
        m_fault->setItemData(m_fault->count() - 1, from_std(phrase_of(fault.about)), Qt::ToolTipRole);
    }
}

void RawSide::enterByHand() {
    const Reading* r = m_context.reading();
    if (!r) return;
    const auto value = typed_number(m_hand_value->text()), doubt = typed_number(m_hand_doubt->text());
    const QString unit = from_std(unit_symbol(r->quantity.unit));
    if (!value || !doubt || *doubt <= 0) {
        set_text(
            m_hand_note,
            tr("A value in %1 and its doubt are needed: half a division of the scale, or what your eye may miss.")
                .arg(unit));
        return;
    }
    m_context.session().worker().enterByHandNow(r->id, *value, *doubt);
    m_hand_value->clear();
    set_text(m_hand_note, tr("Kept: %1. The logbook says that a person read it.")
                              .arg(from_std(format_with_doubt(*value, *doubt, r->quantity.unit))));
}

void RawSide::tap() {
    const Reading* r = m_context.reading();
    if (!r) return;
    m_taps.tap(m_context.session().now());
    const auto rate = m_taps.rate();
    if (r->quantity.about().events != Events::beats) {
        set_text(m_hand_note, tr("%n tap(s)", nullptr, static_cast<int>(m_taps.taps())));
        return;
    }
    if (!rate) {
        set_text(m_hand_note, tr("%n tap(s); go on", nullptr, static_cast<int>(m_taps.taps())));
        return;
    }
    m_hand_value->setText(from_std(format_fixed(rate->per_minute, 1)));
    m_hand_doubt->setText(from_std(format_fixed(rate->doubt, 1)));
    set_text(m_hand_note, tr("%1 taps: Enter keeps it. No diagnosis.").arg(rate->taps));
}

void RawSide::forget() {
    m_hand_note->clear();
    m_hand_value->clear();
    m_hand_doubt->clear();
    m_taps.clear();
    m_asked = 0;
}

void RawSide::refresh(const std::vector<HealthVerdict>& verdicts) {
    const HealthVerdict* first = nullptr;
    for (const HealthVerdict& v : verdicts)
        if (!v.next_test.empty() && !first) first = &v;
    m_test->setVisible(first && first->rank != HealthRank::note);
    const Reading* r = m_context.reading();
    m_stimulus = nullptr;
    if (first && r) {
        const Session& session = m_context.session();
        m_stimulus = stimulus_for_verdict(session.guide().stimuli,
                                          stimulus_for(place(session.bench(), session.catalog(), *r)), first->id);
        set_text(m_next, m_stimulus ? from_std(m_stimulus->act) : from_std(first->next_test));
        if (m_stimulus)
            set_text(m_then, tr("If so: %1 Else: %2").arg(from_std(m_stimulus->yes), from_std(m_stimulus->no)));
    }
    m_start->setVisible(m_stimulus);
    m_then->setVisible(m_stimulus);
    if (r && m_hand_note->text().isEmpty())
        set_text(
            m_hand_note,
            r->quantity.about().events == Events::beats ? tr("Or count: tap T at each beat.")
            : r->quantity.about().events == Events::tips
                ? tr("Or tap T at each tip that you see.")
                : tr("A dip stick, a gauge read once a week: in %1.").arg(from_std(unit_symbol(r->quantity.unit))));
    refreshCommand();
    refreshSimulated();
}

} // namespace cognitum
