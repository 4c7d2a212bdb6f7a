// The rows of the logbook page: spans and readings, what can be done with a stretch, writing and finding entries.
#include "ui/pages/logbook/logbook_page.h"

#include "ui/pages/logbook/periods_dialog.h"
#include "ui/pages/logbook/report.h"
#include "ui/pages/logbook/time_lanes.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <algorithm>

namespace cognitum {

QHBoxLayout* LogbookPage::makeBar() {
    auto* bar = new QHBoxLayout;
    for (const auto& [text, span] :
         {std::pair{tr("day"), 86400.0}, std::pair{tr("week"), 7 * 86400.0}, std::pair{tr("month"), 30 * 86400.0},
          std::pair{tr("year"), 365.25 * 86400}, std::pair{tr("all"), 0.0}}) {
        auto* button = make_button(text, QStringLiteral("span_%1").arg(static_cast<int>(span)));
        button->setCheckable(true);
        connect(button, &QPushButton::clicked, this, [this, span = span] { showLast(span); });
        m_spans.emplace_back(button, span);
        bar->addWidget(button);
    }
    bar->addSpacing(theme().px(16));
    auto* readings = make_button(tr("Readings …"), QStringLiteral("logReadings"));
    m_readings_menu = new QMenu(readings);
    m_readings_menu->setObjectName(QStringLiteral("logReadingsMenu"));
    readings->setMenu(m_readings_menu);
    connect(m_readings_menu, &QMenu::aboutToShow, this, &LogbookPage::chooseReadings);
    bar->addWidget(readings);
    auto* periods = make_button(tr("Month by month …"), QStringLiteral("logPeriods"));
    connect(periods, &QPushButton::clicked, this, [this] {
        if (shownReadings().empty()) return;
        auto* dialog = new PeriodsDialog(this->context(), shownReadings().front(), this);
        dialog->setAttribute(Qt::WA_DeleteOnClose);
        dialog->open();
    });
    bar->addWidget(periods);
    bar->addStretch(1);
    return bar;
}

QHBoxLayout* LogbookPage::makeStretchRow() {
    auto* row = new QHBoxLayout;
    row->setContentsMargins(0, 0, 0, 0);
    m_stretch_text = new TextLabel(theme(), TextLabel::Role::name, {}, m_stretch_row);
    m_stretch_text->setObjectName(QStringLiteral("stretchTaken"));
    m_stretch_text->setWordWrap(true); // the links beside it must fit into a narrow page
    m_stretch_text->setColour(theme().colours().accent);
    connect(&theme(), &Theme::changed, this, [this] { m_stretch_text->setColour(theme().colours().accent); });
    row->addWidget(m_stretch_text, 1);
    auto* save = make_link(tr("Export …"), QStringLiteral("exportStretch"));
    connect(save, &QPushButton::clicked, this, [this] {
        const Interval s = *m_lanes->stretch();
        emit context().exportRequested(s.from, s.to, shownReadings());
    });
    row->addWidget(save);
    auto* session = make_link(tr("As a session …"), QStringLiteral("sessionOfStretch"));
    auto* kinds = new QMenu(session);
    for (const auto& [kind, word] : session_kind_words()) {
        QAction* action = kinds->addAction(QString::fromUtf8(session_title(kind)));
        action->setObjectName(QStringLiteral("stretchAs_") + QLatin1String(word));
        connect(action, &QAction::triggered, this, [this, kind = kind] { makeSession(kind); });
    }
    session->setMenu(kinds);
    row->addWidget(session);
    auto* anew = make_link(tr("See anew …"), QStringLiteral("stretchAnew"));
    anew->setToolTip(
        tr("The raw numbers of this stretch through the constants and the calibration of today, beside "
           "what was recorded."));
    m_anew_menu = new QMenu(anew);
    m_anew_menu->setObjectName(QStringLiteral("stretchAnewMenu"));
    connect(m_anew_menu, &QMenu::aboutToShow, this, &LogbookPage::fillAnewMenu);
    anew->setMenu(m_anew_menu);
    row->addWidget(anew);
    auto* report = make_link(tr("Report …"), QStringLiteral("reportStretch"));
    connect(report, &QPushButton::clicked, this, [this] { save_report(this->context(), this, reportRequest()); });
    row->addWidget(report);
    auto* print = make_link(tr("Print …"), QStringLiteral("printStretch"));
    connect(print, &QPushButton::clicked, this, [this] { print_report(this->context(), this, reportRequest()); });
    row->addWidget(print);
    auto* leave = make_link(tr("Let go"), QStringLiteral("leaveStretch"));
    connect(leave, &QPushButton::clicked, this, [this] { m_lanes->takeStretch({}); });
    row->addWidget(leave);
    return row;
}

QHBoxLayout* LogbookPage::makeWriteRow() {
    auto* row = new QHBoxLayout;
    m_write_kind = new QComboBox(this);
    m_write_kind->setObjectName(QStringLiteral("logWriteKind"));
    m_write_kind->setAccessibleName(tr("Kind of the entry that is written"));
    m_write_kind->addItem(tr("note"), QString::fromLatin1(log_kind::note));
    m_write_kind->addItem(tr("upkeep"), QString::fromLatin1(log_kind::upkeep));
    row->addWidget(m_write_kind);
    m_note = make_field("logNote", tr("Note for the logbook"), tr("write a note"));
    row->addWidget(m_note, 3);
    m_correct = make_link(tr("Correct …"), QStringLiteral("logCorrect"));
    m_correct->setToolTip(tr("Writes a new entry beside the chosen one, which stays as it was written."));
    m_correct->setEnabled(false);
    row->addWidget(m_correct);
    row->addSpacing(theme().px(12));
    m_find = make_field("logFind", tr("Find in all entries"), tr("find an entry"));
    row->addWidget(m_find, 2);
    m_find_kind = new QComboBox(this);
    m_find_kind->setObjectName(QStringLiteral("logFindKind"));
    m_find_kind->setAccessibleName(tr("Kind of entries to list"));
    m_find_kind->addItem(tr("all kinds"), QString());
    for (const char* kind :
         {log_kind::recording, log_kind::calibration, log_kind::alert, log_kind::recovery, log_kind::upkeep,
          log_kind::note, log_kind::bring_up, log_kind::edit, log_kind::import})
        m_find_kind->addItem(from_std(phrase(kind)), QLatin1String(kind));
    row->addWidget(m_find_kind);
    connect(m_note, &QLineEdit::returnPressed, this, &LogbookPage::write);
    connect(m_note, &QLineEdit::textChanged, this, [this](const QString& text) {
        if (text.isEmpty()) setCorrecting(0); // given up: what is typed next corrects nothing
    });
    connect(m_correct, &QPushButton::clicked, this, &LogbookPage::correct);
    connect(m_find, &QLineEdit::textChanged, this, [this] { askEntries(); });
    connect(m_find_kind, &QComboBox::activated, this, [this] { askEntries(); });
    return row;
}

void LogbookPage::fillAnewMenu() {
    m_anew_menu->clear();
    for (const std::string& id : shownReadings()) {
        const Reading* r = context().session().bench().reading(id);
        if (!r || r->path.stages.empty()) continue; // finished numbers have nothing to go through
        QAction* action = m_anew_menu->addAction(from_std(r->name).replace(QLatin1Char('&'), QStringLiteral("&&")));
        action->setObjectName(QStringLiteral("anew_") + from_std(id));
        connect(action, &QAction::triggered, this, [this, id] { seeAnew(id); });
    }
    if (m_anew_menu->isEmpty()) m_anew_menu->addAction(tr("none of these has a path"))->setEnabled(false);
}

/// Both series stand over each other then.
void LogbookPage::seeAnew(const std::string& id) {
    const Reading* r = context().session().bench().reading(id);
    if (!r || !m_lanes->stretch()) return;
    emit context().said(tr("%1 goes through the constants of today …").arg(from_std(r->name)));
    when_answered(context().session().proof().reevaluate(id, m_lanes->stretch()), this,
                  [this, id, quantity = r->quantity](const Result<Reevaluated>& made) {
                      emit context().said(from_std(made ? reevaluated_says(*made, quantity) : made.error().text()));
                      if (!made) return;
                      m_chosen = shownReadings();
                      const auto old = std::find(m_chosen.begin(), m_chosen.end(), id);
                      m_chosen.insert(old == m_chosen.end() ? old : old + 1, made->reading);
                      if (m_chosen.size() > most_lanes_shown) m_chosen.pop_back();
                      ask();
                      askFigures();
                  });
}

void LogbookPage::chooseReadings() {
    m_readings_menu->clear();
    const std::vector<std::string> shown = shownReadings();
    for (const Reading& r : context().session().bench().readings) {
        QAction* action =
            m_readings_menu->addAction(from_std(r.name).replace(QLatin1Char('&'), QStringLiteral("&&")));
        action->setObjectName(QStringLiteral("lane_") + from_std(r.id));
        action->setCheckable(true);
        const bool on = std::find(shown.begin(), shown.end(), r.id) != shown.end();
        action->setChecked(on);
        action->setEnabled(on ? shown.size() > 1 : shown.size() < most_lanes_shown);
        connect(action, &QAction::toggled, this, [this, id = r.id](bool checked) {
            m_chosen = shownReadings();
            std::erase(m_chosen, id);
            if (checked) m_chosen.push_back(id);
            ask();
            askFigures();
        });
    }
}

} // namespace cognitum
