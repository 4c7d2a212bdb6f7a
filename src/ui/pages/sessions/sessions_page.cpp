#include "ui/pages/sessions/sessions_page.h"

#include "core/units/format.h"
#include "store/zone.h"
#include "ui/pages/logbook/figures_table.h"
#include "ui/pages/sessions/rule_dialog.h"
#include "ui/pages/sessions/session_words.h"
#include "ui/pages/sessions/since_start_plot.h"
#include "ui/widgets/parts.h"

#include <QHeaderView>
#include <algorithm>
#include <cmath>

namespace cognitum {

void SessionsPage::readingChanged() {
    m_list_key.clear();
    m_asked.clear();
    if (!context().session().isOpen()) m_chosen.clear();
}

const TimedSession* SessionsPage::chosen() const {
    return context().session().bench().session(m_chosen);
}

ReportRequest SessionsPage::reportRequest() const {
    const TimedSession& s = *chosen();
    return {s.name, {s.from, s.end(context().session().now())}, s.readings, s.id};
}

void SessionsPage::refresh() {
    if (!context().session().isOpen()) return;
    fillList();
    ask();
}

void SessionsPage::select(const std::string& id) {
    m_chosen = id;
    m_list_key.clear();
    refresh();
}

void SessionsPage::fillList() {
    const Bench& bench = context().session().bench();
    const TimeUs now = context().session().now();
    // Of one that goes on the length grows by the minute.
    const bool any_going = std::any_of(bench.sessions.begin(), bench.sessions.end(),
                                       [](const TimedSession& s) { return s.goes_on(); });
    const QString key = QStringLiteral("%1|%2|%3")
                            .arg(context().session().path())
                            .arg(context().session().planRevision())
                            .arg(any_going ? now / minute_us : 0);
    if (key == m_list_key) return;
    m_list_key = key;
    std::vector<const TimedSession*> order;
    for (const TimedSession& s : bench.sessions)
        order.push_back(&s);
    std::sort(order.begin(), order.end(), [](const auto* a, const auto* b) { return a->from > b->from; });
    if (!chosen() && !order.empty()) m_chosen = order.front()->id;
    m_ids.clear();
    const QSignalBlocker quiet(m_list);
    m_list->setRowCount(static_cast<int>(order.size()));
    for (int row = 0; row < m_list->rowCount(); ++row) {
        const TimedSession& s = *order[static_cast<std::size_t>(row)];
        m_ids.push_back(s.id);
        const QString name = from_std(s.name) + (bench.is_private(s) ? tr(" · private") : QString());
        const QString cells[] = {name, session_began(s), s.goes_on() ? tr("goes on") : session_length(s, now)};
        for (int column = 0; column < 3; ++column) {
            m_list->setItem(row, column, new QTableWidgetItem(cells[column]));
            m_list->item(row, column)->setToolTip(cells[column]);
        }
        if (s.id == m_chosen) m_list->selectRow(row);
    }
    const auto going = std::count_if(bench.sessions.begin(), bench.sessions.end(),
                                     [](const TimedSession& s) { return s.goes_on(); });
    set_text(m_going, going > 0 ? tr("%n under way", nullptr, static_cast<int>(going)) : QString());
    m_empty->setVisible(order.empty());
    m_list_part->setVisible(!order.empty());
    m_summary->setVisible(!order.empty());
    body()->setStretch(body()->count() - 2, order.empty() ? 0 : 1); // the columns, and what is left below them
    body()->setStretch(body()->count() - 1, order.empty() ? 1 : 0);
    setNote(order.empty() ? QString() : tr("%n session(s)", nullptr, static_cast<int>(order.size())));
    fillRules();
}

void SessionsPage::fillRules() {
    clear_layout(m_rules);
    for (const SessionRule& rule : context().session().bench().session_rules) {
        auto* link =
            make_link(rule_says(rule, context().session().bench()), QStringLiteral("rule_") + from_std(rule.id));
        connect(link, &QPushButton::clicked, this, [this, id = rule.id] { editRule(id); });
        m_rules->addWidget(link, 0, Qt::AlignLeft);
    }
}

void SessionsPage::choose() {
    const int row = m_list->currentRow();
    if (row < 0 || row >= static_cast<int>(m_ids.size())) return;
    m_chosen = m_ids[static_cast<std::size_t>(row)];
    m_asked.clear();
    ask();
}

void SessionsPage::ask() {
    const TimedSession* session = chosen();
    if (!session) return;
    Session& open = context().session();
    const Bench& bench = open.bench();
    const TimeUs now = open.now();
    // Choices that follow the session: its readings, and others of its kind.
    const std::string wanted_reading = m_reading->currentData().toString().toStdString();
    const QString wanted_other = m_other->currentData().toString();
    QString choices = from_std(session->id);
    for (const std::string& id : session->readings)
        choices += QLatin1Char('|') + from_std(id);
    if (choices != m_reading->property("choices").toString()) {
        m_reading->setProperty("choices", choices);
        m_reading->clear();
        for (const std::string& id : session->readings)
            if (const Reading* r = bench.reading(id)) m_reading->addItem(from_std(r->name), from_std(id));
        m_reading->setCurrentIndex(std::max(0, m_reading->findData(from_std(wanted_reading))));
    }
    const QString others = QStringLiteral("%1|%2").arg(from_std(session->id)).arg(open.planRevision());
    if (others != m_other->property("choices").toString()) {
        m_other->setProperty("choices", others);
        m_other->clear();
        m_other->addItem(tr("nothing"), QString());
        std::vector<const TimedSession*> same;
        for (const TimedSession& s : bench.sessions)
            if (s.id != session->id && s.kind == session->kind) same.push_back(&s);
        std::sort(same.begin(), same.end(), [](const auto* a, const auto* b) { return a->from > b->from; });
        for (const TimedSession* s : same)
            m_other->addItem(QStringLiteral("%1, %2").arg(from_std(s->name), session_began(*s)), from_std(s->id));
        m_other->setCurrentIndex(std::max(0, m_other->findData(wanted_other)));
        m_other->setEnabled(m_other->count() > 1);
    }
    if (!m_name->hasFocus()) m_name->setText(from_std(session->name));
    m_kind->setCurrentIndex(std::max(0, m_kind->findData(static_cast<int>(session->kind))));
    set_text(m_when, QStringLiteral("%1 · %2%3")
                         .arg(session_when(*session, now), session_length(*session, now),
                              bench.is_private(*session) ? tr(" · private: only this bench has it") : QString()));
    m_end->setVisible(session->goes_on());
    const std::string reading = m_reading->currentData().toString().toStdString();
    const TimedSession* other = bench.session(m_other->currentData().toString().toStdString());
    const QString key = QStringLiteral("%1|%2|%3|%4|%5")
                            .arg(from_std(session->id), from_std(reading), from_std(other ? other->id : ""))
                            .arg(open.planRevision())
                            .arg(session->goes_on() ? now / (10 * second_us) : 0);
    if (key == m_asked) return;
    m_asked = key;
    m_question.ask(
        open.exports(), this, // long sessions take a while: no chart waits for it
        [bench, catalog = open.catalog(), asked = *session,
         laid_over = other ? std::optional(*other) : std::nullopt, reading, now](BenchFile& file) -> Result<Shown> {
            Shown out;
            COGNITUM_TRY(figures, session_figures(file, bench, catalog, asked, now, system_zone()));
            out.figures = std::move(figures);
            if (!bench.reading(reading)) return out;
            COGNITUM_TRY(first, since_start(file, reading, {asked.from, asked.end(now)}));
            out.first = std::move(first);
            if (laid_over) {
                COGNITUM_TRY(second, since_start(file, reading, {laid_over->from, laid_over->end(now)}));
                out.second = std::move(second);
            }
            return out;
        },
        [this, id = session->id](const Result<Shown>& shown) {
            if (!shown) return void(emit context().said(from_std(shown.error().text())));
            if (id == m_chosen) show(*shown);
        });
}

void SessionsPage::show(const Shown& shown) {
    const Bench& bench = context().session().bench();
    showFacts(shown.figures);
    const Reading* reading = bench.reading(m_reading->currentData().toString().toStdString());
    const TimedSession* session = chosen();
    const TimedSession* other = bench.session(m_other->currentData().toString().toStdString());
    if (!reading || !session) return;
    const auto label = [](const TimedSession& s) {
        return QStringLiteral("%1, %2").arg(from_std(s.name), session_began(s));
    };
    m_plot->show(*reading, shown.first, label(*session), shown.second, other ? label(*other) : QString());
}

void SessionsPage::showFacts(const SessionFigures& figures) {
    const Bench& bench = context().session().bench();
    m_facts->setRowCount(0);
    const auto add = [&](const QString& reading, const QString& name, const QString& value, bool number = true) {
        const int row = m_facts->rowCount();
        m_facts->insertRow(row);
        m_facts->setItem(row, 0, new QTableWidgetItem(reading));
        m_facts->setItem(row, 1, new QTableWidgetItem(name));
        auto* said = new QTableWidgetItem(value);
        if (number) said->setFont(theme().mono(13));
        said->setToolTip(value);
        m_facts->setItem(row, 2, said);
    };
    for (std::size_t i = 0; i < figures.readings.size(); ++i) {
        const Reading* reading = bench.reading(figures.readings[i]);
        if (!reading) continue;
        QString name = from_std(reading->name);
        const ReadingFigures& f = figures.figures[i];
        for (const SessionFact& fact : figures.facts)
            if (fact.reading == reading->id) {
                add(name, from_std(fact.name), from_std(session_fact_text(fact)));
                name.clear();
            }
        add(name, tr("over all"), from_std(stretch_says(f, *reading)), false);
        if (f.stretch.n > 0 && f.stretch.coverage < 0.995)
            add({}, tr("measured"), tr("%1 % of the time").arg(100 * f.stretch.coverage, 0, 'f', 0));
    }
    for (int column = 0; column < 2; ++column)
        m_facts->resizeColumnToContents(column);
    constexpr int most_rows = 8;
    const int row_height = theme().px(28);
    m_facts->verticalHeader()->setDefaultSectionSize(row_height);
    m_facts->setFixedHeight(std::min(m_facts->rowCount(), most_rows) * row_height + 2);
    m_days->setVisible(!figures.days.empty());
    m_days->setRowCount(static_cast<int>(figures.days.size()));
    const Reading* lead = figures.readings.empty() ? nullptr : bench.reading(figures.readings.front());
    for (int row = 0; row < m_days->rowCount() && lead; ++row) {
        const SessionDay& day = figures.days[static_cast<std::size_t>(row)];
        const StretchFigures& s = day.figures;
        const double digits = std::hypot(lead->quantity.accuracy / 2, s.noise);
        const auto value = [&](double v) { return from_std(format_value(v, digits, lead->quantity.unit)); };
        const QString cells[] = {tr("day %1, %2").arg(row + 1).arg(from_std(day.day.label)), value(s.least),
                                 value(s.mean), value(s.most), tr("%1 %").arg(100 * s.coverage, 0, 'f', 0)};
        for (int column = 0; column < 5; ++column)
            m_days->setItem(row, column, new QTableWidgetItem(cells[column]));
    }
    m_days->resizeColumnsToContents();
    set_text(m_caution, figures.caution.empty() ? QString() : QStringLiteral("▲ ") + from_std(figures.caution));
    m_caution->setVisible(!figures.caution.empty());
}

void SessionsPage::edit(const QString& text, const std::function<void(TimedSession&)>& change) {
    context().session().edit(text, [&](Bench& bench) {
        for (TimedSession& s : bench.sessions)
            if (s.id == m_chosen) change(s);
    });
    context().refresh();
}

void SessionsPage::begin(SessionKind kind) {
    Session& open = context().session();
    TimedSession session = session_begun(open.bench(), kind, open.now(), 0);
    if (session.readings.empty())
        return void(emit context().said(tr("The bench has no reading that a session of this kind is about.")));
    m_chosen = session.id;
    open.edit(tr("Begin a session"), [&](Bench& bench) { bench.sessions.push_back(session); });
    if (!context().live().recording.on)
        emit context().said(tr("Nothing is recorded now: press Ctrl R, or the session stays empty."));
    context().refresh();
}

void SessionsPage::end() {
    const TimeUs now = context().session().now();
    edit(tr("End the session"), [&](TimedSession& s) { s.to = std::max(now, s.from + 1); });
}

void SessionsPage::editRule(const std::string& id) {
    auto* dialog = new RuleDialog(context(), id, this);
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

} // namespace cognitum
