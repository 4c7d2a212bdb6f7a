#include "ui/shell/status_line.h"

#include "core/units/format.h"
#include "session/language.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <QPainter>

namespace cognitum {

StatusLine::StatusLine(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    setObjectName(QStringLiteral("statusLine"));
    auto* layout = new QHBoxLayout(this);
    layout->setContentsMargins(theme.px(16), 0, theme.px(16), 0);
    layout->setSpacing(theme.px(24));
    m_links = new TextLabel(theme, TextLabel::Role::soft, {}, this);
    m_links->setObjectName(QStringLiteral("statusLinks"));
    m_message = new TextLabel(theme, TextLabel::Role::soft, {}, this);
    m_message->setObjectName(QStringLiteral("statusMessage"));
    m_recording = new TextLabel(theme, TextLabel::Role::soft, {}, this);
    m_recording->setObjectName(QStringLiteral("statusRecording"));
    for (TextLabel* l : {m_links, m_message, m_recording})
        l->setWordWrap(false);
    m_message->setSizePolicy(QSizePolicy::Ignored, QSizePolicy::Preferred);
    m_rail = make_link(tr("Readings and pages"), QStringLiteral("railToggle"), this);
    m_side = make_link(tr("Findings and doubt"), QStringLiteral("sideToggle"), this);
    connect(m_rail, &QPushButton::clicked, this, &StatusLine::railWanted);
    connect(m_side, &QPushButton::clicked, this, &StatusLine::sideWanted);
    layout->addWidget(m_rail);
    layout->addWidget(m_side);
    offer(false, false);
    layout->addWidget(m_links);
    layout->addWidget(m_message, 1);
    layout->addWidget(m_recording);
    connect(&context, &Context::refreshed, this, &StatusLine::refresh);
    const auto fix = [this] { setFixedHeight(m_context.theme().px(28)); };
    connect(&theme, &Theme::changed, this, fix);
    fix();
}

void StatusLine::offer(bool rail, bool side) {
    m_rail->setVisible(rail);
    m_side->setVisible(side);
}

void StatusLine::say(const QString& sentence) {
    m_said_at = m_context.session().now();
    set_text(m_message, sentence);
    m_message->setToolTip(sentence);
}

void StatusLine::refresh() {
    const Live& live = m_context.live();
    QStringList links;
    std::uint64_t lost = 0;
    int sending = 0;
    for (const BoardUse& use : m_context.session().bench().boards) {
        const auto found = live.boards.find(use.id);
        if (use.link.kind == LinkKind::none || found == live.boards.end()) continue;
        const LiveBoard& b = found->second;
        const QString name = from_std(use.name);
        if (b.state == LinkState::open) {
            ++sending;
            const QString way = use.link.is_wire() ? tr("%1 Bd").arg(from_std(format_constant(use.link.baud, 7)))
                                : use.link.kind == LinkKind::mqtt ? tr("broker")
                                : use.link.kind == LinkKind::http ? tr("posts")
                                                                  : tr("file");
            lost += b.lost + b.rejected;
            links << (b.last_line ? tr("%1  %2, %3 ago")
                                        .arg(name, way,
                                             from_std(age_text(std::max<TimeUs>(
                                                 second_us, m_context.session().now() - *b.last_line))))
                                  : tr("%1  %2").arg(name, way));
        } else {
            links << tr("◆ %1  %2")
                         .arg(name, b.state == LinkState::lost ? tr("unplugged, waiting for it") : tr("opening"));
        }
    }
    const auto boards = links.size();
    if (!links.isEmpty()) links << tr("lost lines %1").arg(lost);
    const QString whole = links.join(QStringLiteral("     "));
    // Where there is no room for each, how many send.
    const double room =
        width() * 0.68 - (m_rail->isHidden() ? 0 : m_rail->width()) - (m_side->isHidden() ? 0 : m_side->width());
    const bool fits = m_links->fontMetrics().horizontalAdvance(whole) < room;
    set_text(m_links, fits || boards == 0 ? whole : tr("%1 of %2 boards send").arg(sending).arg(boards));
    m_links->setToolTip(fits ? QString() : whole);
    m_links->setVisible(fits || m_links->sizeHint().width() < width() - m_recording->sizeHint().width() -
                                                                  m_context.theme().px(130) -
                                                                  (m_rail->isHidden() ? 0 : m_rail->width()) -
                                                                  (m_side->isHidden() ? 0 : m_side->width()));
    if (m_said_at != 0 && m_context.session().now() - m_said_at > 30 * second_us) {
        m_said_at = 0;
        set_text(m_message, {});
    }
    const Tokens& t = m_context.theme().colours();
    const LiveRecording& rec = live.recording;
    const TimeUs now = m_context.session().now();
    if (!rec.trouble.isEmpty() || !m_context.session().saveTrouble().isEmpty()) {
        const QString trouble =
            rec.trouble.isEmpty()
                ? m_context.session().saveTrouble()
                : tr("%n sample(s) wait in memory: %1", nullptr, static_cast<int>(rec.waiting)).arg(rec.trouble);
        set_text(m_recording, QStringLiteral("◆ ") + m_recording->fontMetrics().elidedText(
                                                         trouble, Qt::ElideRight, m_context.theme().px(420)));
        m_recording->setToolTip(trouble);
        m_recording->setColour(t.bad);
    } else if (rec.on) {
        const QString since = date_said(rec.since, "HH:mm");
        set_text(
            m_recording,
            tr("● recording since %1 · %2")
                    .arg(since, rec.saved_at
                                    ? tr("saved %1 ago")
                                          .arg(from_std(age_text(std::max<TimeUs>(second_us, now - *rec.saved_at))))
                                    : tr("nothing saved yet")) +
                (m_context.session().isAttached() ? tr(" · goes on without this window") : QString()));
        m_recording->setColour(t.ink);
    } else {
        const auto saved = m_context.session().savedAt();
        set_text(m_recording, saved ? tr("not recording · plan saved %1").arg(date_said(*saved, "HH:mm"))
                                    : tr("not recording · Ctrl R records"));
        m_recording->setColour({});
    }
}

void StatusLine::paintEvent(QPaintEvent*) {
    QPainter painter(this);
    painter.fillRect(rect(), m_context.theme().colours().paper);
    painter.fillRect(QRect(0, 0, width(), 1), m_context.theme().colours().rule);
}

} // namespace cognitum
