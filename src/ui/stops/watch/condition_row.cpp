#include "ui/stops/watch/condition_row.h"

#include "core/units/format.h"
#include "core/units/unit.h"
#include "core/watch/corridor.h"
#include "ui/widgets/parts.h"

#include <QHBoxLayout>
#include <QVBoxLayout>

namespace cognitum {

namespace {

constexpr double minute_s = 60;

std::pair<WatchWhen, const char*> when_titles[] = {
    {WatchWhen::above, QT_TRANSLATE_NOOP("ConditionRow", "is above")},
    {WatchWhen::below, QT_TRANSLATE_NOOP("ConditionRow", "is below")},
    {WatchWhen::outside, QT_TRANSLATE_NOOP("ConditionRow", "is outside")},
    {WatchWhen::equal, QT_TRANSLATE_NOOP("ConditionRow", "is equal to")},
    {WatchWhen::changes, QT_TRANSLATE_NOOP("ConditionRow", "changes by more than")},
    {WatchWhen::unchanged, QT_TRANSLATE_NOOP("ConditionRow", "moves by no more than")},
    {WatchWhen::rises, QT_TRANSLATE_NOOP("ConditionRow", "rises faster than")},
    {WatchWhen::falls, QT_TRANSLATE_NOOP("ConditionRow", "falls faster than")},
    {WatchWhen::grows, QT_TRANSLATE_NOOP("ConditionRow", "adds up to more than")},
    {WatchWhen::silent, QT_TRANSLATE_NOOP("ConditionRow", "says nothing for")},
    {WatchWhen::failing, QT_TRANSLATE_NOOP("ConditionRow", "sends lines without a value")},
    {WatchWhen::night, QT_TRANSLATE_NOOP("ConditionRow", "by the sun: night, later by")},
    {WatchWhen::corridor, QT_TRANSLATE_NOOP("ConditionRow", "leaves its corridor")}};

} // namespace

ConditionRow::ConditionRow(Theme& theme, const Bench& bench, const WatchCondition& condition, Place place,
                           QWidget* parent)
    : QWidget(parent), m_theme(theme), m_bench(bench), m_condition(condition) {
    auto* rows = new QVBoxLayout(this);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(theme.px(6));
    auto* what = new QHBoxLayout;
    auto* limits = new QHBoxLayout;
    for (QHBoxLayout* row : {what, limits})
        row->setSpacing(theme.px(8));
    rows->addLayout(what);
    rows->addLayout(limits);
    const auto choice = [&](const char* name, const QString& about) {
        auto* box = new QComboBox(this);
        box->setObjectName(QLatin1String(name));
        box->setAccessibleName(about);
        box->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        connect(box, &QComboBox::activated, this, [this] {
            suit();
            emit edited();
        });
        return box;
    };
    m_join = choice("conditionJoin", tr("How it follows the one before"));
    m_join->addItem(tr("and"), static_cast<int>(WatchJoin::all));
    m_join->addItem(tr("or"), static_cast<int>(WatchJoin::any));
    m_join->addItem(tr("while"), static_cast<int>(WatchJoin::only));
    m_join->setVisible(place == Place::joined);
    m_reading = choice("conditionReading", tr("Reading"));
    for (const Reading& r : bench.readings)
        m_reading->addItem(from_std(r.name), from_std(r.id));
    if (!bench.reading(condition.reading)) // gone: it stays to be seen until another is chosen
        m_reading->addItem(tr("%1 (gone)").arg(from_std(condition.reading)), from_std(condition.reading));
    m_when = choice("conditionWhen", tr("What of it"));
    for (const auto& [when, title] : when_titles)
        m_when->addItem(tr(title), static_cast<int>(when));
    what->addWidget(m_join);
    what->addWidget(m_reading, 3);
    what->addWidget(m_when, 3);
    if (place != Place::first) {
        auto* remove = make_link(tr("Remove"), QStringLiteral("conditionRemove"));
        connect(remove, &QPushButton::clicked, this, &ConditionRow::removed);
        what->addWidget(remove);
    }
    const auto field = [&](const char* name, const QString& about) {
        auto* f = new NumberField(theme, QLatin1String(name), about, 13, this);
        f->setFixedWidth(theme.px(112));
        connect(f, &NumberField::numberEdited, this, &ConditionRow::edited);
        return f;
    };
    const auto word = [&](const QString& text) {
        auto* label = new TextLabel(theme, TextLabel::Role::soft, text, this);
        label->setWordWrap(false);
        return label;
    };
    m_value = field("conditionValue", tr("Limit"));
    m_upper = field("conditionUpper", tr("Upper limit"));
    m_clear = field("conditionClear", tr("It is over at"));
    m_step = field("conditionStep", tr("It is over when inside by"));
    m_over = field("conditionOver", tr("Time over which it looks"));
    m_over->setUnit(tr("min"));
    m_to = word(tr("to"));
    m_within = word(tr("within"));
    m_back = word(tr("over at"));
    for (QWidget* w :
         std::initializer_list<QWidget*>{m_value, m_to, m_upper, m_within, m_over, m_back, m_clear, m_step})
        limits->addWidget(w);
    m_corridor = new QLineEdit(this);
    m_corridor->setObjectName(QStringLiteral("conditionCorridor"));
    m_corridor->setAccessibleName(tr("Limits from each day of the session on"));
    m_corridor->setPlaceholderText(tr("1: 18 to 20; 5: 20 to 22"));
    m_corridor->setToolTip(tr("From this day of the session on: lowest and highest value. Day 1 begins with the "
                              "session and lasts 24 hours."));
    connect(m_corridor, &QLineEdit::textEdited, this, &ConditionRow::edited);
    m_by_day = word({});
    limits->insertWidget(0, m_corridor, 1);
    limits->insertWidget(1, m_by_day);
    limits->addStretch(1);
    fill(condition);
    suit();
}

void ConditionRow::fill(const WatchCondition& c) {
    const auto number = [](double v) { return from_std(format_constant(v, 7)); };
    m_join->setCurrentIndex(std::max(0, m_join->findData(static_cast<int>(c.join))));
    m_reading->setCurrentIndex(std::max(0, m_reading->findData(from_std(c.reading))));
    m_when->setCurrentIndex(std::max(0, m_when->findData(static_cast<int>(c.when))));
    m_value->show(number(c.when == WatchWhen::silent ? c.value / minute_s : c.value));
    m_upper->show(number(c.upper));
    m_clear->show(number(c.clear.value_or(c.value)));
    m_step->show(number(c.hysteresis));
    m_over->show(number(c.over_s / minute_s));
    m_corridor->setText(from_std(corridor_text(c.corridor)));
}

WatchCondition ConditionRow::condition() const {
    WatchCondition out;
    out.join = static_cast<WatchJoin>(m_join->currentData().toInt());
    out.reading = m_reading->currentData().toString().toStdString();
    out.when = static_cast<WatchWhen>(m_when->currentData().toInt());
    out.value = m_value->number().value_or(0) * (out.when == WatchWhen::silent ? minute_s : 1);
    if (out.when == WatchWhen::failing) out.value = 0;
    if (out.when == WatchWhen::outside) out.upper = m_upper->number().value_or(0);
    if (m_clear->isVisibleTo(this))
        if (const auto clear = m_clear->number(); clear && *clear != out.value) out.clear = clear;
    if (m_step->isVisibleTo(this)) out.hysteresis = m_step->number().value_or(0);
    if (looks_over_time(out.when)) out.over_s = minute_s * m_over->number().value_or(0);
    if (out.when == WatchWhen::corridor) {
        out.value = 0;
        out.corridor = read_corridor(m_corridor->text().toStdString()).value_or(std::vector<CorridorStep>{});
    }
    return out;
}

QString ConditionRow::trouble() const {
    if (static_cast<WatchWhen>(m_when->currentData().toInt()) != WatchWhen::corridor) return {};
    const auto steps = read_corridor(m_corridor->text().toStdString());
    return steps ? QString() : from_std(steps.error().text());
}

void ConditionRow::suit() {
    const auto when = static_cast<WatchWhen>(m_when->currentData().toInt());
    const Reading* reading = m_bench.reading(m_reading->currentData().toString().toStdString());
    const bool is_state = reading && reading->quantity.about().is_state();
    const QString unit =
        reading && reading->quantity.unit != "1" ? from_std(unit_symbol(reading->quantity.unit)) : QString();
    const bool slope = when == WatchWhen::rises || when == WatchWhen::falls;
    const bool one_limit = when == WatchWhen::above || when == WatchWhen::below;
    const bool by_day = when == WatchWhen::corridor;
    m_corridor->setVisible(by_day);
    m_by_day->setVisible(by_day);
    set_text(m_by_day, unit.isEmpty() ? tr("by day") : tr("%1, by day").arg(unit));
    m_value->setVisible(when != WatchWhen::failing && !by_day);
    m_value->setUnit(goes_by_clock(when) ? tr("min")
                     : slope             ? (unit.isEmpty() ? tr("an hour") : unit + QStringLiteral("/h"))
                     : when == WatchWhen::grows && is_state ? tr("times")
                                                            : unit);
    m_upper->setUnit(unit);
    m_clear->setUnit(unit);
    m_step->setUnit(slope && !unit.isEmpty() ? unit + QStringLiteral("/h") : unit);
    m_to->setVisible(when == WatchWhen::outside);
    m_upper->setVisible(when == WatchWhen::outside);
    m_within->setVisible(looks_over_time(when));
    m_over->setVisible(looks_over_time(when));
    if (looks_over_time(when) && m_over->number().value_or(0) <= 0) m_over->show(QStringLiteral("60"));
    constexpr double longest_twilight_min = 240;
    if (when == WatchWhen::night && m_value->number().value_or(-1) > longest_twilight_min)
        m_value->show(QStringLiteral("20")); // it was a limit of something else
    m_clear->setVisible(one_limit && !is_state);
    const bool steps = !one_limit && !goes_by_clock(when) && when != WatchWhen::failing && !is_state;
    m_step->setVisible(steps);
    set_text(m_back, m_clear->isVisibleTo(this) ? tr("over at") : tr("over when inside by"));
    m_back->setVisible(m_clear->isVisibleTo(this) || steps);
    if (by_day && m_corridor->text().isEmpty() && reading)
        m_corridor->setText(
            from_std(corridor_text(std::vector{CorridorStep{1, reading->quantity.low, reading->quantity.high}})));
    if (when == WatchWhen::outside && m_upper->number().value_or(0) <= m_value->number().value_or(0) && reading)
        m_upper->show(from_std(format_constant(reading->quantity.high, 7)));
}

} // namespace cognitum
