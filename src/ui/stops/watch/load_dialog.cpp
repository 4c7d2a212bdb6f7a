#include "ui/stops/watch/load_dialog.h"

#include "core/act/load_words.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/stops/watch/condition_row.h"
#include "ui/stops/watch/form_rows.h"

#include <algorithm>

namespace cognitum {

namespace {

constexpr double load_minute_s = 60;

QComboBox* choice(const QByteArray& name, const QString& about) {
    auto* box = new QComboBox;
    box->setObjectName(QLatin1String(name));
    box->setAccessibleName(about);
    box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    return box;
}

QString number_text(double v) {
    return from_std(format_constant(v, 7));
}

} // namespace

LoadDialog::LoadDialog(Context& context, const LoadControl& control, QWidget* parent)
    : QDialog(parent), m_context(context), m_control(control) {
    setObjectName(QStringLiteral("loadDialog"));
    Theme& theme = context.theme();
    const Session& session = context.session();
    const bool is_new = control.id.empty();
    setWindowTitle(is_new ? tr("A load follows a rule") : tr("Load"));
    auto* rows = new QVBoxLayout(this);
    rows->setContentsMargins(theme.px(24), theme.px(20), theme.px(24), theme.px(20));
    rows->setSpacing(theme.px(10));
    rows->addWidget(new TextLabel(theme, TextLabel::Role::title, tr("What is switched, and what keeps it safe?")));
    auto* form = new QFormLayout;
    form->setSpacing(theme.px(8));
    m_name = make_field("loadName", tr("Name"), tr("such as “Water bed 2 when it is dry”"));
    form->addRow(tr("Name"), m_name);
    m_load = choice("loadModule", tr("Load"));
    for (const Module& m : session.bench().modules)
        if (const PartCard* part = session.catalog().part(m.part); part && part->kind == PartKind::load)
            m_load->addItem(from_std(m.name), from_std(m.id));
    m_rule = choice("loadRule", tr("Rule that it follows"));
    for (const WatchRule& r : session.bench().watch_rules) {
        const Reading* reading = session.bench().reading(r.reading());
        m_rule->addItem((reading ? from_std(reading->name) + QStringLiteral(": ") : QString()) + from_std(r.name),
                        from_std(r.id));
    }
    auto* follows = new QHBoxLayout;
    follows->setSpacing(theme.px(8));
    follows->addWidget(m_load, 2);
    follows->addWidget(soft_label(theme, tr("is on while")));
    follows->addWidget(m_rule, 3);
    form->addRow(tr("Load"), follows);
    m_care = new TextLabel(theme, TextLabel::Role::soft);
    m_care->setObjectName(QStringLiteral("loadCare"));
    form->addRow(QString(), m_care);
    addTimes(form);
    auto* conditions = new QVBoxLayout;
    conditions->setSpacing(theme.px(8));
    m_conditions = new QVBoxLayout;
    m_conditions->setSpacing(theme.px(8));
    conditions->addLayout(m_conditions);
    auto* more = make_link(tr("Add what keeps it off"), QStringLiteral("loadNeverAdd"));
    conditions->addWidget(more, 0, Qt::AlignLeft);
    form->addRow(tr("Never while"), conditions);
    addEffect(form);
    addWayOut(form);
    m_acts = make_check("loadActs", tr("acts; without it, it is only tried on the record"));
    form->addRow(QString(), m_acts);
    rows->addLayout(form);
    rows->addWidget(new RuleLine(theme));
    m_says = new TextLabel(theme, TextLabel::Role::body);
    m_says->setObjectName(QStringLiteral("loadSays"));
    m_warns = new TextLabel(theme, TextLabel::Role::body);
    m_warns->setObjectName(QStringLiteral("loadWarns"));
    m_warns->setColour(theme.colours().look);
    rows->addWidget(m_says);
    rows->addWidget(m_warns);
    rows->addStretch(1);
    auto* foot = new QHBoxLayout;
    auto* remove = make_link(tr("Remove it"), QStringLiteral("loadRemove"));
    remove->setVisible(!is_new);
    auto* shut = make_button(tr("Close"), QStringLiteral("loadClose"));
    m_keep = make_button(tr("Keep it"), QStringLiteral("loadKeep"), true);
    foot->addWidget(remove);
    foot->addStretch(1);
    foot->addWidget(shut);
    foot->addWidget(m_keep);
    rows->addLayout(foot);
    fill();
    connect(more, &QPushButton::clicked, this, [this] {
        if (m_rows.size() >= most_conditions) return;
        WatchCondition next;
        const WatchRule* rule =
            m_context.session().bench().watch_rule(m_rule->currentData().toString().toStdString());
        next.reading = rule ? rule->reading() : std::string();
        next.when = WatchWhen::below;
        addCondition(next);
        tryIt();
    });
    for (QLineEdit* field : {m_name, m_on_line, m_off_line, m_topic})
        connect(field, &QLineEdit::textEdited, this, &LoadDialog::tryIt);
    for (QComboBox* box : {m_load, m_rule, m_safe})
        connect(box, &QComboBox::activated, this, &LoadDialog::tryIt);
    connect(m_acts, &QCheckBox::toggled, this, &LoadDialog::tryIt);
    connect(shut, &QPushButton::clicked, this, &QDialog::close);
    connect(m_keep, &QPushButton::clicked, this, &LoadDialog::keep);
    connect(remove, &QPushButton::clicked, this, [this] {
        m_context.session().edit(tr("Let the load follow nothing"), [this](Bench& bench) {
            std::erase_if(bench.controls, [this](const LoadControl& c) { return c.id == m_control.id; });
        });
        m_context.refresh();
        close();
    });
    resize(theme.px(720), sizeHint().height());
    tryIt();
}

NumberField* LoadDialog::number(const QByteArray& name, const QString& about, const QString& unit) {
    auto* f = new NumberField(m_context.theme(), QLatin1String(name), about);
    f->setUnit(unit);
    f->setFixedWidth(m_context.theme().px(96));
    connect(f, &NumberField::numberEdited, this, &LoadDialog::tryIt);
    return f;
}

void LoadDialog::addTimes(QFormLayout* form) {
    Theme& theme = m_context.theme();
    const auto soft = [&](const QString& text) { return soft_label(theme, text); };
    m_least_on = number("loadLeastOn", tr("On for at least"), tr("min"));
    m_longest = number("loadLongest", tr("On for at most; 0: no limit"), tr("min"));
    m_rest = number("loadRest", tr("Off after its longest run"), tr("min"));
    m_least_off = number("loadLeastOff", tr("Off for at least"), tr("min"));
    form->addRow(tr("On for at least"),
                 row_of(theme, {m_least_on, soft(tr("at most")), m_longest, soft(tr("then off for")), m_rest}));
    form->addRow(tr("Off for at least"), row_of(theme, {m_least_off}));
    m_within = number("loadWithin", tr("A value that is older says nothing; 0: as its reading reports"), tr("min"));
    m_safe = choice("loadSafe", tr("What it is while nobody knows"));
    m_safe->setSizeAdjustPolicy(QComboBox::AdjustToContents);
    m_safe->addItem(tr("it is off"), false);
    m_safe->addItem(tr("it is on"), true);
    form->addRow(tr("Without a value"),
                 row_of(theme, {soft(tr("for")), m_within, m_safe, soft(tr("0 min: as its reading reports"))}));
}

void LoadDialog::addEffect(QFormLayout* form) {
    Theme& theme = m_context.theme();
    auto* rows = new QVBoxLayout;
    rows->setSpacing(theme.px(8));
    m_effects = new QVBoxLayout;
    m_effects->setSpacing(theme.px(8));
    rows->addLayout(m_effects);
    auto* more = make_link(tr("Add a reading that it changes"), QStringLiteral("loadEffectAdd"));
    rows->addWidget(more, 0, Qt::AlignLeft);
    form->addRow(tr("It changes"), rows);
    connect(more, &QPushButton::clicked, this, [this] {
        if (m_effect_rows.size() < most_effects) addEffectRow({});
        tryIt();
    });
}

void LoadDialog::addEffectRow(const LoadEffect& effect) {
    Theme& theme = m_context.theme();
    const QByteArray place = QByteArray::number(static_cast<int>(m_effect_rows.size()));
    EffectRow row;
    row.reading = choice("loadEffect" + place, tr("Reading that it changes"));
    row.reading->addItem(tr("nothing that is measured"), QString());
    for (const Reading& r : m_context.session().bench().readings)
        row.reading->addItem(from_std(r.name), from_std(r.id));
    row.reading->setCurrentIndex(std::max(0, row.reading->findData(from_std(effect.reading))));
    connect(row.reading, &QComboBox::activated, this, &LoadDialog::tryIt);
    row.at_once = number("loadAtOnce" + place, tr("Added while it is on"), {});
    row.an_hour = number("loadAnHour" + place, tr("Added for each hour that it is on"), {});
    row.at_once->show(number_text(effect.at_once));
    row.an_hour->show(number_text(effect.an_hour));
    auto* line = new QHBoxLayout;
    line->setSpacing(theme.px(8));
    line->addWidget(row.reading, 1);
    line->addWidget(soft_label(theme, tr("by, at once")));
    line->addWidget(row.at_once);
    line->addWidget(soft_label(theme, tr("each hour")));
    line->addWidget(row.an_hour);
    m_effects->addLayout(line);
    m_effect_rows.push_back(row);
}

void LoadDialog::addWayOut(QFormLayout* form) {
    Theme& theme = m_context.theme();
    const auto soft = [&](const QString& text) { return soft_label(theme, text); };
    m_on_line = make_field("loadOnLine", tr("Line for on"), QStringLiteral("load pump on {s}"));
    m_off_line = make_field("loadOffLine", tr("Line for off"), QStringLiteral("load pump off"));
    auto* lines = new QHBoxLayout;
    lines->setSpacing(theme.px(8));
    lines->addWidget(m_on_line, 1);
    lines->addWidget(soft(tr("and for off")));
    lines->addWidget(m_off_line, 1);
    form->addRow(tr("Sent for on"), lines);
    m_time_out = number("loadTimeOut", tr("It goes off by itself after"), tr("s"));
    m_topic = make_field("loadTopic", tr("Topic of a broker"), tr("empty: its board’s own way"));
    auto* way = new QHBoxLayout;
    way->setSpacing(theme.px(8));
    way->addWidget(m_time_out);
    way->addWidget(soft(tr("after it was told last, {s} in the line; topic")));
    way->addWidget(m_topic, 1);
    form->addRow(tr("Off by itself"), way);
}

void LoadDialog::addCondition(const WatchCondition& condition) {
    auto* row = new ConditionRow(m_context.theme(), m_context.session().bench(), condition,
                                 ConditionRow::Place::alone, this);
    m_conditions->addWidget(row);
    m_rows.push_back(row);
    connect(row, &ConditionRow::edited, this, &LoadDialog::tryIt);
    connect(row, &ConditionRow::removed, this, [this, row] {
        std::erase(m_rows, row);
        row->deleteLater();
        tryIt();
    });
}

void LoadDialog::fill() {
    const LoadControl& c = m_control;
    m_name->setText(from_std(c.name));
    m_load->setCurrentIndex(std::max(0, m_load->findData(from_std(c.load))));
    m_rule->setCurrentIndex(std::max(0, m_rule->findData(from_std(c.rule))));
    m_least_on->show(number_text(c.least_on_s / load_minute_s));
    m_longest->show(number_text(c.longest_on_s / load_minute_s));
    m_rest->show(number_text(c.rest_s / load_minute_s));
    m_least_off->show(number_text(c.least_off_s / load_minute_s));
    m_within->show(number_text(c.value_within_s / load_minute_s));
    m_safe->setCurrentIndex(c.safe_on ? 1 : 0);
    for (const WatchCondition& condition : c.never_while)
        addCondition(condition);
    for (const LoadEffect& effect : c.effects)
        addEffectRow(effect);
    if (c.effects.empty()) addEffectRow({});
    m_on_line->setText(from_std(c.on_line));
    m_off_line->setText(from_std(c.off_line));
    m_topic->setText(from_std(c.topic));
    m_time_out->show(number_text(c.time_out_s));
    m_acts->setChecked(c.acts);
}

LoadControl LoadDialog::control() const {
    LoadControl out = m_control;
    const auto minutes = [](const NumberField* f) { return load_minute_s * f->number().value_or(0); };
    out.name = m_name->text().trimmed().toStdString();
    out.load = m_load->currentData().toString().toStdString();
    out.rule = m_rule->currentData().toString().toStdString();
    out.least_on_s = minutes(m_least_on);
    out.longest_on_s = minutes(m_longest);
    out.rest_s = minutes(m_rest);
    out.least_off_s = minutes(m_least_off);
    out.value_within_s = minutes(m_within);
    out.safe_on = m_safe->currentData().toBool();
    out.never_while.clear();
    for (const ConditionRow* row : m_rows)
        out.never_while.push_back(row->condition());
    out.effects.clear();
    for (const EffectRow& row : m_effect_rows)
        if (const std::string reading = row.reading->currentData().toString().toStdString(); !reading.empty())
            out.effects.push_back({reading, row.at_once->number().value_or(0), row.an_hour->number().value_or(0)});
    out.on_line = m_on_line->text().trimmed().toStdString();
    out.off_line = m_off_line->text().trimmed().toStdString();
    out.topic = m_topic->text().trimmed().toStdString();
    out.time_out_s = m_time_out->number().value_or(0);
    out.acts = m_acts->isChecked();
    return out;
}

void LoadDialog::tryIt() {
    Session& session = m_context.session();
    const LoadControl now = control();
    for (const EffectRow& row : m_effect_rows) {
        const Reading* changed = session.bench().reading(row.reading->currentData().toString().toStdString());
        for (NumberField* f : {row.at_once, row.an_hour}) {
            f->setUnit(changed ? from_std(unit_symbol(changed->quantity.unit)) : QString());
            f->setEnabled(changed != nullptr);
        }
    }
    const Module* load = session.bench().module(now.load);
    const PartCard* part = load ? session.catalog().part(load->part) : nullptr;
    set_text(m_care, part ? from_std(part->care) : QString());
    m_care->setVisible(part && !part->care.empty());
    std::string defect = defect_of(now);
    for (const ConditionRow* row : m_rows)
        if (const QString trouble = row->trouble(); !trouble.isEmpty()) defect = trouble.toStdString();
    m_keep->setEnabled(defect.empty());
    if (!defect.empty()) {
        if (defect[0] >= 'a' && defect[0] <= 'z') defect[0] = static_cast<char>(defect[0] - 'a' + 'A');
        set_text(m_says, from_std(defect));
        m_says->setColour(m_context.theme().colours().bad);
        return m_warns->hide();
    }
    m_says->setColour({});
    set_text(m_says, tr("Trying it on what was recorded …"));
    m_question.ask(
        session.exports(), this,
        [now, bench = session.bench(), catalog = session.catalog(), at = session.now()](BenchFile& file) {
            return Result<TriedLoad>(tried_load(file, bench, catalog, now, at));
        },
        [this](const Result<TriedLoad>& tried) {
            if (!tried) return set_text(m_says, from_std(tried.error().text()));
            if (tried->control != control()) return;
            const Bench& bench = m_context.session().bench();
            set_text(m_says, from_std(trial_says(tried->control, tried->trial, bench)));
            QStringList warns;
            for (const std::string& w : trial_warns(tried->control, tried->trial, bench))
                warns << QStringLiteral("▲ ") + from_std(w);
            set_text(m_warns, warns.join(QLatin1Char('\n')));
            m_warns->setVisible(!warns.isEmpty());
        });
}

void LoadDialog::keep() {
    LoadControl kept = control();
    m_context.session().edit(tr("Let a load follow a rule"), [&](Bench& bench) {
        if (LoadControl* known = kept.id.empty() ? nullptr : bench.control(kept.id)) {
            *known = kept;
            return;
        }
        if (kept.id.empty()) kept.id = bench.free_id(kept.name);
        bench.controls.push_back(kept);
    });
    m_control = kept;
    if (kept.acts) m_context.session().allowActing(kept.id); // a person said so, here
    m_context.refresh();
    close();
}

} // namespace cognitum
