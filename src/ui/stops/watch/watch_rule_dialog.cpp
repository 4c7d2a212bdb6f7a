#include "ui/stops/watch/watch_rule_dialog.h"

#include "core/units/format.h"
#include "core/watch/rule_words.h"
#include "ui/stops/watch/condition_row.h"
#include "ui/stops/watch/form_rows.h"
#include "ui/widgets/parts.h"

#include <QFormLayout>
#include <QRegularExpression>
#include <algorithm>
#include <cmath>

namespace cognitum {

std::optional<int> minute_of_day(const QString& text) {
    static const QRegularExpression form(QStringLiteral("^\\s*(\\d{1,2}):(\\d{2})\\s*$"));
    const auto match = form.match(text);
    if (!match.hasMatch()) return {};
    const int hour = match.captured(1).toInt(), minute = match.captured(2).toInt();
    if (hour > 23 || minute > 59) return {};
    return 60 * hour + minute;
}

QString time_of_day(int minute) {
    return QStringLiteral("%1:%2")
        .arg(minute / 60, 2, 10, QLatin1Char('0'))
        .arg(minute % 60, 2, 10, QLatin1Char('0'));
}

WatchRuleDialog::WatchRuleDialog(Context& context, const WatchRule& rule, QWidget* parent)
    : QDialog(parent), m_context(context), m_rule(rule) {
    setObjectName(QStringLiteral("watchRuleDialog"));
    Theme& theme = context.theme();
    const bool is_new = rule.id.empty();
    setWindowTitle(is_new ? tr("New rule") : tr("Rule"));
    auto* rows = new QVBoxLayout(this);
    rows->setContentsMargins(theme.px(24), theme.px(20), theme.px(24), theme.px(20));
    rows->setSpacing(theme.px(12));
    rows->addWidget(new TextLabel(theme, TextLabel::Role::title, tr("When is somebody to be told?")));
    const auto number = [&](const char* name, const QString& about, const QString& unit) {
        auto* f = new NumberField(theme, QLatin1String(name), about);
        f->setUnit(unit);
        f->setFixedWidth(theme.px(112));
        connect(f, &NumberField::numberEdited, this, &WatchRuleDialog::tryIt);
        return f;
    };
    const auto soft = [&](const QString& text) { return soft_label(theme, text); };
    auto* form = new QFormLayout;
    form->setSpacing(theme.px(10));
    m_name = make_field("watchRuleName", tr("Name of the rule"), tr("such as “Nearly empty”"));
    m_rank = new QComboBox;
    m_rank->setObjectName(QStringLiteral("watchRuleRank"));
    m_rank->setAccessibleName(tr("How grave it is"));
    m_rank->addItem(tr("● good to know"), static_cast<int>(WatchRank::note));
    m_rank->addItem(tr("▲ needs a look"), static_cast<int>(WatchRank::look));
    m_rank->addItem(tr("◆ must not wait"), static_cast<int>(WatchRank::bad));
    auto* head = new QHBoxLayout;
    head->setSpacing(theme.px(8));
    head->addWidget(m_name, 1);
    head->addWidget(m_rank);
    form->addRow(tr("Name"), head);
    auto* conditions = new QVBoxLayout;
    conditions->setSpacing(theme.px(8));
    m_conditions = new QVBoxLayout;
    m_conditions->setSpacing(theme.px(10));
    conditions->addLayout(m_conditions);
    auto* more = make_link(tr("Add a condition: and, or, while"), QStringLiteral("conditionAdd"));
    conditions->addWidget(more, 0, Qt::AlignLeft);
    form->addRow(tr("When"), conditions);
    m_count = number("watchRuleCount", tr("Lines in a row"), tr("lines"));
    m_for = number("watchRuleFor", tr("Least time"), tr("min"));
    form->addRow(tr("Confirmed by"), row_of(theme, {m_count, soft(tr("in a row, and after")), m_for}));
    m_from = make_field("watchRuleFrom", tr("From this time of the day"), QStringLiteral("00:00"));
    m_to = make_field("watchRuleTo", tr("To this time of the day"), QStringLiteral("00:00"));
    for (QLineEdit* field : {m_from, m_to}) {
        field->setFixedWidth(theme.px(72));
        connect(field, &QLineEdit::editingFinished, this, &WatchRuleDialog::tryIt);
    }
    form->addRow(tr("Looks from"),
                 row_of(theme, {m_from, soft(tr("to")), m_to, soft(tr("the same twice: always"))}));
    m_repeat = number("watchRuleRepeat", tr("Told again after"), tr("h"));
    m_escalate = number("watchRuleEscalate", tr("Urgent after"), tr("min"));
    form->addRow(tr("Told again after"),
                 row_of(theme, {m_repeat, soft(tr("urgent when nobody looked for")), m_escalate}));
    m_latitude = number("watchLatitude", tr("Latitude, north positive"), tr("° N"));
    m_longitude = number("watchLongitude", tr("Longitude, east positive"), tr("° E"));
    m_where = new QWidget;
    QHBoxLayout* where_row = make_row(m_where, theme.px(8));
    where_row->addWidget(soft(tr("The sun is computed for")));
    where_row->addWidget(m_latitude);
    where_row->addWidget(m_longitude);
    where_row->addStretch(1);
    form->addRow(QString(), m_where);
    m_sure = make_check("watchRuleSure", tr("only when it is beyond the limit by more than the doubt"));
    m_breaks = make_check("watchRuleBreaks", tr("breaks the quiet hours"));
    m_on = make_check("watchRuleOn", tr("on"));
    for (QCheckBox* check : {m_sure, m_breaks, m_on}) {
        form->addRow(QString(), check);
        connect(check, &QCheckBox::toggled, this, &WatchRuleDialog::tryIt);
    }
    rows->addLayout(form);
    rows->addWidget(new RuleLine(theme));
    m_says = new TextLabel(theme, TextLabel::Role::body);
    m_says->setObjectName(QStringLiteral("watchRuleSays"));
    m_tried = new TextLabel(theme, TextLabel::Role::body);
    m_tried->setObjectName(QStringLiteral("watchRuleTried"));
    m_calm = make_link(tr("Make it calmer"), QStringLiteral("watchRuleCalm"));
    m_calm->hide();
    rows->addWidget(m_says);
    rows->addWidget(m_tried);
    rows->addWidget(m_calm, 0, Qt::AlignLeft);
    rows->addStretch(1);
    auto* foot = new QHBoxLayout;
    auto* remove = make_link(tr("Remove the rule"), QStringLiteral("watchRuleRemove"));
    remove->setVisible(!is_new);
    auto* shut = make_button(tr("Close"), QStringLiteral("watchRuleClose"));
    m_keep = make_button(is_new ? tr("Add the rule") : tr("Keep the rule"), QStringLiteral("watchRuleKeep"), true);
    foot->addWidget(remove);
    foot->addStretch(1);
    foot->addWidget(shut);
    foot->addWidget(m_keep);
    rows->addLayout(foot);
    fill();
    connect(more, &QPushButton::clicked, this, [this] {
        WatchCondition next;
        next.reading = m_rule.reading();
        if (m_rows.size() >= most_conditions) return;
        addCondition(next);
        tryIt();
    });
    connect(m_name, &QLineEdit::textEdited, this, &WatchRuleDialog::tryIt);
    connect(m_rank, &QComboBox::activated, this, &WatchRuleDialog::tryIt);
    connect(shut, &QPushButton::clicked, this, &QDialog::close);
    connect(m_keep, &QPushButton::clicked, this, &WatchRuleDialog::keep);
    connect(m_calm, &QPushButton::clicked, this, [this] {
        if (!m_calmer) return;
        m_rule = *m_calmer;
        fill();
        tryIt();
    });
    connect(remove, &QPushButton::clicked, this, [this] {
        m_context.session().edit(tr("Remove the rule"), [this](Bench& bench) {
            std::erase_if(bench.watch_rules, [this](const WatchRule& r) { return r.id == m_rule.id; });
        });
        m_context.refresh();
        close();
    });
    resize(theme.px(680), sizeHint().height());
    tryIt();
}

void WatchRuleDialog::addCondition(const WatchCondition& condition) {
    auto* row = new ConditionRow(m_context.theme(), m_context.session().bench(), condition,
                                 m_rows.empty() ? ConditionRow::Place::first : ConditionRow::Place::joined, this);
    m_conditions->addWidget(row);
    m_rows.push_back(row);
    connect(row, &ConditionRow::edited, this, &WatchRuleDialog::tryIt);
    connect(row, &ConditionRow::removed, this, [this, row] {
        std::erase(m_rows, row);
        row->deleteLater();
        tryIt();
    });
}

void WatchRuleDialog::fill() {
    const auto text = [](double v) { return from_std(format_constant(v, 7)); };
    for (ConditionRow* row : m_rows)
        row->deleteLater();
    m_rows.clear();
    m_name->setText(from_std(m_rule.name));
    m_rank->setCurrentIndex(std::max(0, m_rank->findData(static_cast<int>(m_rule.rank))));
    for (const WatchCondition& c : m_rule.conditions)
        addCondition(c);
    m_count->show(text(m_rule.count));
    m_for->show(text(m_rule.for_s / 60));
    m_repeat->show(text(m_rule.repeat_s / 3600));
    m_escalate->show(text(m_rule.escalate_s / 60));
    m_from->setText(time_of_day(m_rule.hours.from_min));
    m_to->setText(time_of_day(m_rule.hours.to_min));
    if (const auto& where = m_context.session().bench().where) {
        m_latitude->show(text(where->latitude_deg));
        m_longitude->show(text(where->longitude_deg));
    }
    const std::pair<QCheckBox*, bool> checks[] = {
        {m_sure, m_rule.for_sure}, {m_breaks, m_rule.breaks_quiet}, {m_on, m_rule.on}};
    for (const auto& [check, on] : checks) {
        const QSignalBlocker quiet(check);
        check->setChecked(on);
    }
}

WatchRule WatchRuleDialog::rule() const {
    WatchRule out = m_rule;
    out.name = m_name->text().trimmed().toStdString();
    out.rank = static_cast<WatchRank>(m_rank->currentData().toInt());
    out.conditions.clear();
    for (const ConditionRow* row : m_rows)
        out.conditions.push_back(row->condition());
    out.count = static_cast<int>(std::clamp(m_count->number().value_or(1), 0.0, 1e6));
    if (!out.conditions.empty() && goes_by_clock(out.conditions.front().when)) out.count = 1; // there are no lines
    out.for_s = 60 * m_for->number().value_or(0);
    out.repeat_s = 3600 * m_repeat->number().value_or(0);
    out.escalate_s = 60 * m_escalate->number().value_or(0);
    out.hours = {minute_of_day(m_from->text()).value_or(0), minute_of_day(m_to->text()).value_or(0)};
    out.for_sure = m_sure->isChecked();
    out.breaks_quiet = m_breaks->isChecked();
    out.on = m_on->isChecked();
    return out;
}

/// Where the bench stands, as it is typed here.
std::optional<GeoPlace> WatchRuleDialog::where() const {
    const auto latitude = m_latitude->number();
    const auto longitude = m_longitude->number();
    if (!latitude || !longitude || std::abs(*latitude) > 90 || std::abs(*longitude) > 180) return {};
    return GeoPlace{*latitude, *longitude};
}

Bench WatchRuleDialog::placed(Bench bench) const {
    if (const auto typed = where(); typed && m_where->isVisibleTo(this)) bench.where = typed;
    return bench;
}

std::string WatchRuleDialog::defect(const WatchRule& now) const {
    for (const ConditionRow* row : m_rows)
        if (const QString trouble = row->trouble(); !trouble.isEmpty()) return trouble.toStdString();
    if (std::string found = defect_of(now); !found.empty()) return found;
    if (!minute_of_day(m_from->text()) || !minute_of_day(m_to->text())) return "Write a time of the day as 22:00.";
    if (m_where->isVisibleTo(this) && !where())
        return "Type where the bench stands: latitude −90 to 90 and longitude −180 to 180.";
    return {};
}

void WatchRuleDialog::tryIt() {
    const WatchRule now = rule();
    Session& session = m_context.session();
    m_count->setEnabled(now.conditions.empty() || !goes_by_clock(now.conditions.front().when));
    m_where->setVisible(std::any_of(now.conditions.begin(), now.conditions.end(),
                                    [](const WatchCondition& c) { return c.when == WatchWhen::night; }));
    std::string defect = this->defect(now);
    m_keep->setEnabled(defect.empty());
    m_calm->hide();
    m_calmer.reset();
    if (!defect.empty()) {
        if (defect[0] >= 'a' && defect[0] <= 'z') defect[0] = static_cast<char>(defect[0] - 'a' + 'A');
        set_text(m_says, from_std(defect));
        m_says->setColour(m_context.theme().colours().bad);
        set_text(m_tried, {});
        return;
    }
    m_says->setColour({});
    set_text(m_says, from_std(rule_says(now, session.bench()) + " · " + confirmation_says(now)));
    set_text(m_tried, tr("Trying it on what was recorded …"));
    m_question.ask(
        session.exports(), this,
        [now, bench = placed(session.bench()), catalog = session.catalog(), at = session.now(),
         live = m_context.live().recording.on](BenchFile& file) {
            return tried_rule(file, bench, catalog, now, at, live);
        },
        [this](const Result<TriedRule>& tried) {
            if (!tried) return set_text(m_tried, from_std(tried.error().text()));
            if (tried->rule == rule()) show(*tried);
        });
}

void WatchRuleDialog::show(const TriedRule& tried) {
    std::string says = trial_says(tried.rule, tried.trial);
    if (const std::string score = score_says(tried.score); !score.empty()) says += " " + score;
    m_calmer = tried.calmer;
    m_calm->setVisible(m_calmer.has_value());
    if (m_calmer) says += "\n" + calmer_says(tried, m_context.session().bench());
    set_text(m_tried, from_std(says));
}

void WatchRuleDialog::keep() {
    WatchRule kept = rule();
    m_context.session().edit(m_rule.id.empty() ? tr("Add a rule") : tr("Change a rule"), [&](Bench& bench) {
        bench = placed(bench);
        if (WatchRule* known = kept.id.empty() ? nullptr : bench.watch_rule(kept.id)) {
            *known = kept;
            return;
        }
        if (kept.id.empty()) kept.id = bench.free_id(kept.name);
        bench.watch_rules.push_back(kept);
    });
    m_rule = kept;
    m_context.refresh();
    close();
}

} // namespace cognitum
