#include "ui/pages/logbook/logbook_page.h"

#include "core/base/phrase.h"
#include "session/language.h"
#include "store/zone.h"
#include "ui/pages/logbook/figures_table.h"
#include "ui/pages/logbook/report.h"
#include "ui/pages/logbook/time_lanes.h"
#include "ui/pages/logbook/time_ticks.h"
#include "ui/pages/sessions/session_words.h"
#include "ui/widgets/parts.h"

#include <algorithm>
#include <set>

namespace cognitum {

namespace {

constexpr std::size_t usual_lanes = 4;
constexpr std::size_t most_entries_shown = 1000;

} // namespace

LogbookPage::LogbookPage(Context& context, QWidget* parent) : Page(context, tr("What happened, and when"), parent) {
    body()->setSpacing(theme().px(6));
    body()->addLayout(makeBar());
    m_lanes = new TimeLanes(context, this);
    body()->addWidget(m_lanes, 5);
    m_cursor = new TextLabel(theme(), TextLabel::Role::small,
                             tr("The wheel zooms, dragging pans, Shift and dragging takes a stretch."), this);
    m_cursor->setObjectName(QStringLiteral("lanesCursor"));
    body()->addWidget(m_cursor);
    m_empty = new TextLabel(theme(), TextLabel::Role::soft,
                            tr("Nothing is recorded yet. Ctrl R records; the bench menu imports a file."), this);
    body()->addWidget(m_empty);
    m_stretch_row = new QWidget(this);
    m_stretch_row->setLayout(makeStretchRow());
    body()->addWidget(m_stretch_row);
    m_figures = new FiguresTable(context, this);
    body()->addWidget(m_figures);
    m_stretch_row->hide();
    m_figures->hide();
    body()->addLayout(makeWriteRow());
    m_entries = new QTableWidget(this);
    m_entries->setObjectName(QStringLiteral("logEntries"));
    m_entries->setAccessibleName(tr("Logbook, newest first"));
    make_plain(m_entries, {tr("Time"), tr("What"), tr("Reading"), QString()});
    m_entries->setMinimumHeight(theme().px(96));
    m_entries->setSizePolicy(QSizePolicy::Expanding, QSizePolicy::Ignored);
    body()->addWidget(m_entries, 1);

    connect(m_lanes, &TimeLanes::rangeChanged, this, [this] {
        m_follow = false; // somebody pans or zooms
        showRange();
        ask();
        askEntries();
    });
    connect(m_lanes, &TimeLanes::stretchChanged, this, [this] {
        const bool taken = m_lanes->stretch().has_value();
        m_stretch_row->setVisible(taken);
        m_figures->setVisible(taken);
        if (taken)
            set_text(m_stretch_text,
                     tr("Taken: %1").arg(stretch_text(m_lanes->stretch()->from, m_lanes->stretch()->to)));
        m_note->setPlaceholderText(taken ? tr("name or annotate this stretch") : tr("write a note"));
        askFigures();
        askEntries();
    });
    connect(&context.session(), &Session::logChanged, this, [this] {
        m_entries_key.clear();
        m_asked.reset();
    });
    connect(m_lanes, &TimeLanes::entryClicked, this, &LogbookPage::selectEntry);
    connect(m_lanes, &TimeLanes::cursorMoved, this, [this](const QString& text) { set_text(m_cursor, text); });
    connect(m_entries, &QTableWidget::itemSelectionChanged, this, [this] {
        const int row = m_entries->currentRow();
        const bool own = row >= 0 && row < static_cast<int>(m_shown.size()) &&
                         (m_shown[static_cast<std::size_t>(row)].kind == log_kind::note ||
                          m_shown[static_cast<std::size_t>(row)].kind == log_kind::upkeep);
        m_correct->setEnabled(own);
    });
    connect(m_entries, &QTableWidget::cellActivated, this, [this](int row, int) {
        const TimeUs at = m_shown[static_cast<std::size_t>(row)].time;
        const TimeUs length = m_lanes->range().to - m_lanes->range().from;
        m_follow = false;
        m_lanes->setRange(at - length / 2, at - length / 2 + length);
        showRange();
        ask();
    });
}

void LogbookPage::readingChanged() {
    m_asked.reset();
    m_entries_key.clear();
    if (!context().session().isOpen()) m_first = true;
}

void LogbookPage::showLast(double span_s) {
    m_follow_s = span_s;
    m_follow = true;
    follow();
    ask();
    askEntries();
}

/// Puts the range where it belongs: its end is the present until somebody pans.
void LogbookPage::follow() {
    const TimeUs now = context().session().now();
    Interval span = m_span.value_or(Interval{now - day_us, now});
    span.to = std::max(span.to, now);
    const TimeUs air = std::max<TimeUs>(minute_us, (span.to - span.from) / 50);
    m_lanes->setLimits({std::min(span.from, now - 30 * day_us) - air, span.to + air});
    if (!m_follow) return;
    if (m_follow_s > 0)
        m_lanes->setRange(now - from_seconds(m_follow_s), now);
    else
        m_lanes->setRange(span.from, span.to);
    showRange();
}

void LogbookPage::showRange() {
    setNote(stretch_text(m_lanes->range().from, m_lanes->range().to));
    for (const auto& [button, span] : m_spans)
        button->setChecked(m_follow && span == m_follow_s);
}

std::vector<std::string> LogbookPage::shownReadings() const {
    const auto& readings = context().session().bench().readings;
    std::vector<std::string> out;
    for (const std::string& id : m_chosen)
        if (context().session().bench().reading(id)) out.push_back(id);
    if (!out.empty()) return out;
    // The first of each kind, and no health reading: nobody asked for one by name.
    std::set<std::string> kinds;
    for (const bool again : {false, true})
        for (const Reading& r : readings)
            if (out.size() < usual_lanes && !r.quantity.is_private() &&
                (again || kinds.insert(r.quantity.kind).second) &&
                std::find(out.begin(), out.end(), r.id) == out.end())
                out.push_back(r.id);
    return out;
}

void LogbookPage::refresh() {
    Session& session = context().session();
    if (!session.isOpen()) return;
    const QString key = session.path();
    if (m_first || m_path != key) {
        m_first = false;
        m_path = key;
        m_follow = true;
        m_lanes->setFocus();
        m_lanes->takeStretch({});
        m_span_question.ask(
            session.archive(), this,
            [bench = session.bench()](BenchFile& file) { return recorded_span(file, bench); },
            [this](const Result<std::optional<Interval>>& span) {
                if (span) m_span = *span;
                follow();
                ask();
            });
    }
    follow();
    ask();
    askEntries();
}

void LogbookPage::ask() {
    Session& session = context().session();
    if (!session.isOpen()) return;
    const Interval range = m_lanes->range();
    const int width = std::max(300, m_lanes->width());
    // The present moves on by what can be seen: one pixel.
    const TimeUs pixel = std::max<TimeUs>(second_us, (range.to - range.from) / width);
    const Asked wanted{{range.from / pixel, range.to / pixel},
                       shownReadings(),
                       context().live().log_revision,
                       session.planRevision(),
                       width,
                       session.path()};
    if (m_asked == wanted) return;
    m_asked = wanted;
    LanesQuestion question;
    question.readings = wanted.readings;
    question.from = range.from;
    question.to = range.to;
    question.most = static_cast<std::size_t>(width / 2); // no more than the eye can tell apart
    question.columns = range.to - range.from <= 100 * day_us ? Period::day : Period::month;
    question.zone = system_zone();
    m_lanes_question.ask(
        session.archive(), this,
        [question, bench = session.bench()](BenchFile& file) { return recorded_lanes(file, bench, question); },
        [this](const Result<Lanes>& lanes) {
            if (!lanes) emit context().said(from_std(lanes.error().text()));
            m_lanes->setLanes(lanes.value_or(Lanes{}));
            if (m_lanes->lanes().entries.size() == most_lane_entries)
                set_text(m_cursor, tr("The lanes mark the newest %1 entries of this time; zoom in for older ones.")
                                       .arg(most_lane_entries));
            m_empty->setVisible(m_lanes->lanes().recorded.empty());
        });
}

void LogbookPage::askFigures() {
    if (!m_lanes->stretch()) return;
    Session& session = context().session();
    const Interval stretch = *m_lanes->stretch();
    const std::vector<std::string> readings = shownReadings();
    m_figures_question.ask(
        session.exports(), this, // it may take long: no chart waits for it
        [stretch, readings, bench = session.bench(), catalog = session.catalog()](BenchFile& file) {
            return recorded_figures(file, bench, catalog, readings, stretch.from, stretch.to);
        },
        [this, stretch, readings](const Result<std::vector<ReadingFigures>>& figures) {
            if (m_lanes->stretch() != stretch) return;
            if (!figures) emit context().said(from_std(figures.error().text()));
            m_figures->show(readings, figures.value_or(std::vector<ReadingFigures>{}));
        });
}

void LogbookPage::askEntries() {
    Session& session = context().session();
    if (!session.isOpen()) return;
    LogFilter filter;
    filter.text = m_find->text().trimmed().toStdString();
    filter.kind = m_find_kind->currentData().toString().toStdString();
    filter.newest = most_entries_shown;
    if (filter.text.empty()) { // what is looked for is found at all times
        const Interval shown = m_lanes->stretch().value_or(m_lanes->range());
        filter.from = shown.from;
        filter.to = m_follow && !m_lanes->stretch() ? latest_time : shown.to;
    }
    const TimeUs grain = m_follow && !m_lanes->stretch() ? minute_us : 1;
    const QString key = QStringLiteral("%1|%2|%3|%4|%5|%6")
                            .arg(context().live().log_revision)
                            .arg(session.path(), from_std(filter.text), from_std(filter.kind))
                            .arg(filter.from / grain)
                            .arg(filter.to);
    if (key == m_entries_key) return;
    m_entries_key = key;
    m_entries_question.ask(
        session.archive(), this, [filter](BenchFile& file) { return file.find_log(filter); },
        [this](const Result<std::vector<LogEntry>>& entries) {
            if (!entries) emit context().said(from_std(entries.error().text()));
            fillEntries(entries.value_or(std::vector<LogEntry>{}));
        });
}

void LogbookPage::fillEntries(const std::vector<LogEntry>& entries) {
    m_shown = entries;
    if (entries.size() == most_entries_shown)
        set_text(m_cursor, tr("The list holds the newest %1 entries of this time; zoom in, or find, for others.")
                               .arg(most_entries_shown));
    m_entries->setRowCount(static_cast<int>(entries.size()));
    for (int row = 0; row < static_cast<int>(entries.size()); ++row) {
        const LogEntry& e = entries[static_cast<std::size_t>(row)];
        const Reading* r = context().session().bench().reading(e.reading);
        const QString text = e.corrects > 0 ? tr("correction: %1").arg(from_std(e.said())) : from_std(e.said());
        const QString texts[] = {date_said(e.time, "d MMM yyyy HH:mm:ss"), from_std(phrase_of(e.kind)),
                                 r ? from_std(r->name) : from_std(e.reading), text};
        for (int column = 0; column < 4; ++column)
            m_entries->setItem(row, column, new QTableWidgetItem(texts[column]));
    }
    for (int column = 0; column < 3; ++column)
        m_entries->resizeColumnToContents(column);
}

void LogbookPage::write() {
    const QString text = m_note->text().trimmed();
    if (text.isEmpty()) return;
    LogEntry entry{0,
                   context().session().now(),
                   {},
                   m_write_kind->currentData().toString().toStdString(),
                   text.toStdString(),
                   m_correcting};
    m_note->clear(); // ends a correction
    if (entry.corrects > 0) {
        for (const LogEntry& e : m_shown)
            if (e.id == entry.corrects) {
                entry.time = e.time; // it stands beside what it corrects
                entry.reading = e.reading;
                entry.kind = e.kind;
            }
    } else if (const auto& stretch = m_lanes->stretch()) {
        entry.time = stretch->from;
        entry.text = tr("%1: %2").arg(stretch_text(stretch->from, stretch->to), text).toStdString();
    }
    context().session().log(entry);
    context().refresh();
}

void LogbookPage::correct() {
    const int row = m_entries->currentRow();
    if (row < 0 || row >= static_cast<int>(m_shown.size())) return;
    const LogEntry& e = m_shown[static_cast<std::size_t>(row)];
    m_note->setText(from_std(e.text));
    setCorrecting(e.id);
    m_note->setFocus();
    m_note->selectAll();
}

void LogbookPage::setCorrecting(std::int64_t id) {
    m_correcting = id;
    m_correct->setText(id > 0 ? tr("Correcting") : tr("Correct …"));
}

void LogbookPage::selectEntry(qint64 id) {
    for (std::size_t row = 0; row < m_shown.size(); ++row)
        if (m_shown[row].id == id) {
            m_entries->selectRow(static_cast<int>(row));
            m_entries->scrollToItem(m_entries->item(static_cast<int>(row), 0));
        }
}

ReportRequest LogbookPage::reportRequest() const {
    const Interval stretch = m_lanes->stretch().value_or(m_lanes->range());
    return {tr("Report of a stretch").toStdString(), stretch, shownReadings()};
}

void LogbookPage::showStretch(const Interval& stretch, const std::vector<std::string>& readings) {
    m_chosen = readings;
    if (m_chosen.size() > most_lanes_shown) m_chosen.resize(most_lanes_shown);
    m_follow = false;
    const TimeUs air = std::max<TimeUs>(minute_us, (stretch.to - stretch.from) / 10);
    m_lanes->setRange(stretch.from - air, stretch.to + air);
    m_lanes->takeStretch(stretch);
    showRange();
    ask();
    askEntries();
}

void LogbookPage::makeSession(SessionKind kind) {
    if (!m_lanes->stretch()) return;
    TimedSession made =
        session_begun(context().session().bench(), kind, m_lanes->stretch()->from, m_lanes->stretch()->to);
    made.readings = shownReadings();
    context().session().edit(tr("Make a session"), [&](Bench& bench) { bench.sessions.push_back(made); });
    emit context().sessionRequested(from_std(made.id));
}

} // namespace cognitum
