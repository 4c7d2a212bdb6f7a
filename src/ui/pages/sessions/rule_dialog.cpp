#include "ui/pages/sessions/rule_dialog.h"

#include "core/bench/limits.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "store/figures/session_figures.h"
#include "ui/pages/logbook/time_ticks.h"
#include "ui/widgets/parts.h"

#include <QFormLayout>
#include <algorithm>

namespace cognitum {

namespace {

/// " °C", of rain " mm/h"; nothing where a number has no unit.
QString unit_text(const Reading& reading) {
    if (reading.quantity.unit == "1") return {};
    const QString per = reading.quantity.about().is_total ? QStringLiteral("/h") : QString();
    return QChar(0x202f) + from_std(unit_symbol(reading.quantity.unit)) + per;
}

} // namespace

QString rule_says(const SessionRule& rule, const Bench& bench) {
    const Reading* reading = bench.reading(rule.reading);
    const QString name = reading ? from_std(reading->name) : RuleDialog::tr("a reading that is gone");
    const QString limit = from_std(format_constant(rule.limit, 6)) + (reading ? unit_text(*reading) : QString());
    QString out =
        rule.when == SessionWhen::above   ? RuleDialog::tr("%1: %2 above %3").arg(from_std(rule.name), name, limit)
        : rule.when == SessionWhen::below ? RuleDialog::tr("%1: %2 below %3").arg(from_std(rule.name), name, limit)
                                          : RuleDialog::tr("%1: %2 has a value").arg(from_std(rule.name), name);
    if (!rule.live) out += RuleDialog::tr(" (only in old data)");
    return out;
}

RuleDialog::RuleDialog(Context& context, const std::string& id, QWidget* parent)
    : QDialog(parent), m_context(context) {
    setObjectName(QStringLiteral("ruleDialog"));
    Theme& theme = context.theme();
    const Bench& bench = context.session().bench();
    const SessionRule* known = bench.session_rule(id);
    m_is_new = known == nullptr;
    if (known) {
        m_rule = *known;
    } else {
        m_rule.name = session_title(SessionKind::fire);
        m_rule.kind = SessionKind::fire;
        m_rule.limit = 60;
        const std::vector<std::string> about = bench.readings_for(m_rule.kind);
        if (!about.empty()) m_rule.reading = about.front();
        if (const Reading* shown = context.reading()) m_rule.reading = shown->id;
    }
    setWindowTitle(m_is_new ? tr("New rule") : tr("Rule"));
    auto* rows = new QVBoxLayout(this);
    rows->setContentsMargins(theme.px(24), theme.px(20), theme.px(24), theme.px(20));
    rows->setSpacing(theme.px(12));
    rows->addWidget(new TextLabel(theme, TextLabel::Role::title, tr("When does a session begin and end?")));
    auto* form = new QFormLayout;
    form->setSpacing(theme.px(8));
    m_name = make_field("ruleName", tr("Name of its sessions"), tr("such as “Evening fire”"));
    const auto choice = [&](const char* name, const QString& about) {
        auto* box = new QComboBox;
        box->setObjectName(QLatin1String(name));
        box->setAccessibleName(about);
        return box;
    };
    m_kind = choice("ruleKind", tr("What its sessions are"));
    for (const auto& [kind, word] : session_kind_words())
        m_kind->addItem(QString::fromUtf8(session_title(kind)), static_cast<int>(kind));
    m_reading = choice("ruleReading", tr("Reading that it looks at"));
    for (const Reading& r : bench.readings)
        m_reading->addItem(from_std(r.name), from_std(r.id));
    m_when = choice("ruleWhen", tr("Condition"));
    m_when->addItem(tr("is above"), static_cast<int>(SessionWhen::above));
    m_when->addItem(tr("is below"), static_cast<int>(SessionWhen::below));
    m_when->addItem(tr("has a value at all"), static_cast<int>(SessionWhen::valued));
    m_limit = new NumberField(theme, QStringLiteral("ruleLimit"), tr("Limit"));
    m_least = new NumberField(theme, QStringLiteral("ruleLeast"), tr("Shortest session"));
    m_pause = new NumberField(theme, QStringLiteral("rulePause"), tr("Longest pause within one"));
    m_least->setUnit(QStringLiteral("min"));
    m_pause->setUnit(QStringLiteral("min"));
    m_live = make_check("ruleLive", tr("also while it is recorded, not in old data alone"));
    form->addRow(tr("Name"), m_name);
    form->addRow(tr("What it is"), m_kind);
    form->addRow(tr("Under way while"), m_reading);
    auto* condition = new QHBoxLayout;
    condition->addWidget(m_when);
    condition->addWidget(m_limit, 1);
    form->addRow(QString(), condition);
    form->addRow(tr("No shorter than"), m_least);
    form->addRow(tr("Ends when it has not been so for"), m_pause);
    form->addRow(QString(), m_live);
    rows->addLayout(form);
    m_found_text = new TextLabel(theme, TextLabel::Role::body);
    m_found_text->setObjectName(QStringLiteral("ruleFound"));
    m_found_text->setWordWrap(true);
    rows->addWidget(m_found_text);
    auto* foot = new QHBoxLayout;
    auto* remove = make_link(tr("Remove the rule"), QStringLiteral("ruleRemove"));
    remove->setVisible(!m_is_new);
    foot->addWidget(remove);
    foot->addStretch(1);
    auto* shut = make_button(tr("Close"), QStringLiteral("ruleClose"));
    m_add = make_button(tr("Keep those found as sessions"), QStringLiteral("ruleAddFound"));
    m_keep = make_button(m_is_new ? tr("Add the rule") : tr("Keep the rule"), QStringLiteral("ruleKeep"), true);
    for (QPushButton* button : {shut, m_add, m_keep})
        foot->addWidget(button);
    rows->addLayout(foot);
    fill();
    connect(shut, &QPushButton::clicked, this, &QDialog::close);
    connect(m_keep, &QPushButton::clicked, this, [this] {
        keep();
        close();
    });
    connect(m_add, &QPushButton::clicked, this, &RuleDialog::addFound);
    connect(remove, &QPushButton::clicked, this, [this] {
        m_context.session().edit(tr("Remove the rule"), [this](Bench& plan) {
            std::erase_if(plan.session_rules, [this](const SessionRule& r) { return r.id == m_rule.id; });
        });
        m_context.refresh();
        close();
    });
    connect(m_name, &QLineEdit::textEdited, this, &RuleDialog::tryIt);
    for (QComboBox* box : {m_kind, m_reading, m_when})
        connect(box, &QComboBox::activated, this, &RuleDialog::tryIt);
    for (NumberField* field : {m_limit, m_least, m_pause})
        connect(field, &NumberField::numberEdited, this, &RuleDialog::tryIt);
    resize(theme.px(560), sizeHint().height());
    tryIt();
}

void RuleDialog::fill() {
    m_name->setText(from_std(m_rule.name));
    m_kind->setCurrentIndex(m_kind->findData(static_cast<int>(m_rule.kind)));
    m_reading->setCurrentIndex(std::max(0, m_reading->findData(from_std(m_rule.reading))));
    m_when->setCurrentIndex(m_when->findData(static_cast<int>(m_rule.when)));
    m_limit->show(from_std(format_constant(m_rule.limit)));
    m_least->show(from_std(format_constant(m_rule.least_s / 60)));
    m_pause->show(from_std(format_constant(m_rule.pause_s / 60)));
    m_live->setChecked(m_rule.live);
}

SessionRule RuleDialog::rule() const {
    SessionRule out = m_rule;
    out.name = m_name->text().trimmed().toStdString();
    out.kind = static_cast<SessionKind>(m_kind->currentData().toInt());
    out.reading = m_reading->currentData().toString().toStdString();
    out.when = static_cast<SessionWhen>(m_when->currentData().toInt());
    out.limit = m_limit->number().value_or(m_rule.limit);
    out.least_s = 60 * m_least->number().value_or(m_rule.least_s / 60);
    out.pause_s = 60 * m_pause->number().value_or(m_rule.pause_s / 60);
    out.live = m_live->isChecked();
    out.readings.clear();
    for (const std::string& id : m_context.session().bench().readings_for(out.kind))
        if (id != out.reading && out.readings.size() < 3) out.readings.push_back(id);
    return out;
}

/// Tells what the rule finds in all that was recorded.
void RuleDialog::tryIt() {
    const SessionRule now = rule();
    const Bench& bench = m_context.session().bench();
    const Reading* reading = bench.reading(now.reading);
    m_limit->setVisible(now.when != SessionWhen::valued);
    if (reading) m_limit->setUnit(unit_text(*reading).trimmed());
    const std::string_view defect = defect_of(now);
    m_keep->setEnabled(defect.empty() && reading);
    m_add->setEnabled(false);
    m_found.clear();
    if (!defect.empty() || !reading) {
        set_text(m_found_text, reading ? from_std(std::string(defect)) : tr("The bench has no reading yet."));
        return;
    }
    set_text(m_found_text, tr("Looking through what was recorded …"));
    m_question.ask(
        m_context.session().exports(), this,
        [now, bench](BenchFile& file) { return find_sessions(file, bench, now, earliest_time, latest_time); },
        [this](const Result<std::vector<Interval>>& found) {
            if (!found) return set_text(m_found_text, from_std(found.error().text()));
            m_found = *found;
            m_add->setEnabled(!m_found.empty());
            set_text(m_found_text,
                     m_found.empty() ? tr("In what was recorded there is none.")
                                     : tr("In what was recorded there are %n, the last one %1, %2 long.", nullptr,
                                          static_cast<int>(m_found.size()))
                                           .arg(stretch_text(m_found.back().from, m_found.back().to),
                                                from_std(duration_text(m_found.back().to - m_found.back().from))));
        });
}

void RuleDialog::keep() {
    SessionRule kept = rule();
    m_context.session().edit(tr("Rule of sessions"), [&](Bench& bench) {
        if (kept.id.empty()) kept.id = bench.free_id(kept.name + " rule");
        for (SessionRule& r : bench.session_rules)
            if (r.id == kept.id) {
                r = kept;
                return;
            }
        bench.session_rules.push_back(kept);
    });
    m_rule = kept;
    m_is_new = false;
    m_context.refresh();
}

void RuleDialog::addFound() {
    keep();
    const Reading* reading = m_context.session().bench().reading(m_rule.reading);
    if (!reading) return;
    const FollowedRule followed{m_rule, SessionFinder(m_rule), RuleValues(*reading), 0, m_found};
    std::size_t before = 0, after = 0;
    m_context.session().edit(tr("Sessions that were found"), [&](Bench& bench) {
        before = bench.sessions.size();
        put_sessions(bench, {followed});
        after = bench.sessions.size();
    });
    m_context.refresh();
    QString said = tr("%n session(s) added.", nullptr, static_cast<int>(after - before));
    if (after == most_items)
        said += tr(" The bench holds %1, which is all it takes: remove old ones, or look through less.")
                    .arg(most_items);
    emit m_context.said(said);
    set_text(m_found_text, said);
    m_add->setEnabled(false);
}

} // namespace cognitum
