#include "ui/stops/convert/convert_page.h"

#include "core/base/no_number.h"
#include "core/base/phrase.h"
#include "core/plan/path.h"
#include "core/plan/reading_doubt.h"
#include "core/units/format.h"
#include "core/units/quantity_kind.h"
#include "core/units/unit.h"
#include "ui/stops/convert/constants_view.h"
#include "ui/stops/convert/meter_view.h"
#include "ui/stops/convert/pulse_view.h"
#include "ui/stops/convert/sender_view.h"
#include "ui/stops/convert/step_ladder.h"
#include "ui/stops/convert/transfer_curve.h"
#include "ui/widgets/parts.h"

#include <QGridLayout>
#include <QMessageBox>
#include <QThreadPool>
#include <cmath>
#include <fmt/format.h>
#include <mutex>

namespace cognitum {

/// The answer is left here by the other thread and taken by the page's next refresh.
struct ConvertPage::Asked {
    std::mutex mutex;
    std::optional<MonteCarlo> answer;
    Budget budget;
    std::string unit;
    bool said = false;
};

ConvertPage::ConvertPage(Context& context, QWidget* parent)
    : Page(context, tr("From a count to a temperature"), parent) {
    m_empty = new TextLabel(theme(), TextLabel::Role::body);
    m_empty->setObjectName(QStringLiteral("convertEmpty"));
    m_empty->setWordWrap(true);
    body()->addWidget(m_empty);
    buildTabs();
    m_meter = new MeterView(context);
    m_sender = new SenderView(context);
    m_pulses = new PulseView(context);
    m_views = {buildSteps(), buildConstants(), m_meter, make_scroll(m_sender), make_scroll(m_pulses)};
    for (QWidget* view : m_views)
        body()->addWidget(view, 1);
    showTab(steps_tab);
}

ConvertPage::~ConvertPage() = default;

void ConvertPage::buildTabs() {
    auto* tabs = new QHBoxLayout; // in two lines where there is little room
    tabs->setSpacing(theme().px(6));
    QHBoxLayout* row = nullptr;
    const std::array names = {tr("Steps"), tr("Constants"), tr("Meter"), tr("Board’s arithmetic"), tr("Over time")};
    const std::array ids = {"tabSteps", "tabConstants", "tabMeter", "tabSender", "tabPulses"};
    for (std::size_t i = 0; i < m_tabs.size(); ++i) {
        if (i == 0 || i == sender_tab) {
            row = new QHBoxLayout;
            row->setSpacing(theme().px(6));
            tabs->addLayout(row, i == 0 ? 0 : 1);
        }
        m_tabs[i] = make_button(names[i], QLatin1String(ids[i]));
        m_tabs[i]->setCheckable(true);
        m_tabs[i]->setAutoExclusive(true);
        row->addWidget(m_tabs[i]);
        connect(m_tabs[i], &QPushButton::clicked, this, [this, i] { showTab(static_cast<Tab>(i)); });
        if (i + 1 == sender_tab) row->addStretch(0);
    }
    row->addStretch(1);
    body()->addLayout(tabs);
    stackWhenNarrow(tabs, 0);
}

QWidget* ConvertPage::buildSteps() {
    auto* content = new QWidget;
    auto* columns = new QHBoxLayout(content);
    stackWhenNarrow(columns);
    columns->setContentsMargins(0, 0, theme().px(6), 0); // beside a scroll bar
    columns->setSpacing(theme().px(26));
    auto* left = new QVBoxLayout;
    left->setSpacing(theme().px(6));
    columns->addLayout(left, 1);
    m_ladder = new StepLadder(context());
    left->addWidget(m_ladder);
    m_cause = new TextLabel(theme(), TextLabel::Role::body);
    m_cause->setObjectName(QStringLiteral("convertCause"));
    m_cause->setWordWrap(true);
    left->addWidget(m_cause);
    m_follows = new TextLabel(theme(), TextLabel::Role::body);
    m_follows->setObjectName(QStringLiteral("convertFollows"));
    m_follows->setWordWrap(true);
    left->addWidget(m_follows);
    m_live = make_link(tr("Back to live"), QStringLiteral("backToLive"));
    left->addWidget(m_live, 0, Qt::AlignLeft);
    left->addStretch(1);

    auto* right = new QVBoxLayout;
    right->setSpacing(theme().px(8));
    columns->addLayout(right, 1);
    right->addWidget(new TextLabel(theme(), TextLabel::Role::name, tr("Transfer curve")));
    m_curve = new TransferCurve(context());
    right->addWidget(m_curve, 1);
    right->addWidget(new RuleLine(theme()));
    m_table_title = new TextLabel(theme(), TextLabel::Role::name);
    right->addWidget(m_table_title);
    m_table = new QGridLayout;
    m_table->setVerticalSpacing(theme().px(6));
    m_table->setHorizontalSpacing(theme().px(10));
    right->addLayout(m_table);
    right->addWidget(new RuleLine(theme()));
    auto* buttons = new QHBoxLayout;
    buttons->setSpacing(theme().px(8));
    auto* why = make_button(tr("Why this number"), QStringLiteral("whyThisNumber"));
    m_draws = make_button(tr("Check the doubt"), QStringLiteral("checkByDraws"));
    m_draws->setToolTip(tr("Draws every doubtful number a million times and looks at what comes out"));
    buttons->addWidget(why);
    buttons->addWidget(m_draws);
    buttons->addStretch(1);
    right->addLayout(buttons);
    m_check = new TextLabel(theme(), TextLabel::Role::soft);
    m_check->setObjectName(QStringLiteral("drawsSay"));
    m_check->setWordWrap(true);
    right->addWidget(m_check);

    connect(m_ladder, &StepLadder::typed, this, [this](std::size_t step, double value) {
        m_typed = {step, value};
        refresh();
    });
    connect(m_live, &QPushButton::clicked, this, [this] {
        m_typed.reset();
        refresh();
    });
    connect(why, &QPushButton::clicked, this, &ConvertPage::explain);
    connect(m_draws, &QPushButton::clicked, this, &ConvertPage::checkByDraws);
    return make_scroll(content);
}

QWidget* ConvertPage::buildConstants() {
    auto* content = new QWidget;
    auto* box = new QVBoxLayout(content);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme().px(14));
    m_constants = new ConstantsView(context());
    box->addWidget(m_constants);
    box->addWidget(new RuleLine(theme()));
    m_formula = new FormulaEditor(context());
    box->addWidget(m_formula);
    box->addStretch(1);
    return make_scroll(content);
}

void ConvertPage::showTab(Tab tab) {
    m_tab = tab;
    m_tabs[tab]->setChecked(true);
    for (std::size_t i = 0; i < m_views.size(); ++i)
        m_views[i]->setVisible(i == static_cast<std::size_t>(tab));
    if (isVisible()) refresh();
}

void ConvertPage::readingChanged() {
    m_typed.reset();
    m_table_key.clear();
    m_constants->forget();
    m_meter->forget();
    m_asked.reset();
    m_draws->setEnabled(true);
    m_check->clear();
}

Walk ConvertPage::currentWalk(const Reading& reading, const Chain& chain) {
    const LiveReading* live = context().liveReading();
    const Freshness freshness = context().state(reading.id).freshness;
    m_fresh = live && freshness != Freshness::silent && freshness != Freshness::none;
    if (m_typed && m_typed->first <= chain.stages.size())
        return walk_through(chain, m_typed->first, m_typed->second);
    const bool failed = live && live->value.cause == Cause::failed;
    if (m_fresh && !failed) return walk(chain, live->raw);
    Walk steps = walk(chain, no_number);
    steps.cause =
        failed && m_fresh ? live->cause : tr("No fresh value. Type one at any step to follow it.").toStdString();
    return steps;
}

void ConvertPage::refresh() {
    const Reading* r = context().reading();
    if (!r) return;
    const Chain chain = context().session().views().path(*r, context().live());
    const bool any = !chain.stages.empty();
    const bool pulses = PulseView::knows(*r);
    for (const Tab tab : {steps_tab, table_tab, sender_tab})
        m_tabs[tab]->setVisible(any);
    m_tabs[pulses_tab]->setVisible(pulses);
    m_tabs[constants_tab]->setText(any ? tr("Constants") : tr("A step of your own"));
    if (!any && m_tab != constants_tab && m_tab != pulses_tab) return showTab(pulses ? pulses_tab : constants_tab);
    if (m_tab == pulses_tab && !pulses) return showTab(any ? steps_tab : constants_tab);
    m_empty->setVisible(!any);
    if (!any) {
        const bool beats = r->source.collect == "beats";
        set_text(m_empty,
                 r->sensor.part.empty()
                     ? tr("The steps follow from the part and the board: choose a part at stop 2 first.")
                 : beats ? tr("The beats of the wave are counted here; nothing has to be converted.")
                         : tr("This part sends finished numbers: nothing has to be converted. A step of your own "
                              "can follow."));
    }
    const QuantityKind* kind = find_quantity_kind(r->quantity.kind);
    const Unit* first = find_unit(chain.first_unit());
    const Unit* last = find_unit(chain.last_unit());
    const QString from = chain.first_unit() == "count"                          ? tr("a count")
                         : first && last && first->dimension == last->dimension ? tr("what it sends")
                         : first && first->dimension == Dimension::time         ? tr("an echo")
                                                                        : from_std(unit_symbol(chain.first_unit()));
    setTitle(any ? tr("From %1 to %2").arg(from, kind ? from_std(inside_sentence(kind->title)) : tr("a value"))
                 : tr("A finished number"));
    setNote(!any ? QString() : m_typed ? tr("following what you typed") : tr("type at any step: the rest follows"));
    m_live->setVisible(m_typed.has_value());
    if (m_tab == constants_tab) {
        m_constants->setVisible(any);
        if (any) m_constants->show(*r, chain);
        m_formula->show(*r);
    } else if (m_tab == pulses_tab) {
        m_pulses->show(*r);
    } else if (m_tab == table_tab) {
        m_meter->show(*r, chain);
    } else {
        const Walk steps = currentWalk(*r, chain);
        if (m_tab == steps_tab)
            showSteps(*r, chain, steps);
        else
            m_sender->show(chain, steps,
                           steps.steps.front().ok() ? context()
                                                          .session()
                                                          .views()
                                                          .budget(*r, steps.steps.front().number, context().live())
                                                          .expanded()
                                                    : 0);
    }
}

void ConvertPage::showSteps(const Reading& r, const Chain& chain, const Walk& steps) {
    Session& session = context().session();
    set_text(m_cause, from_std(steps.cause));
    m_cause->setVisible(!steps.cause.empty());
    m_cause->setColour(m_typed || m_fresh ? theme().colours().bad : theme().colours().soft);
    const Partners partners = session.views().partners(r, context().live());
    std::vector<double> doubts(chain.stages.size() + 1, 0);
    if (steps.steps.front().ok()) {
        const double raw = steps.steps.front().number;
        doubts = doubts_at_steps(session.bench(), session.catalog(), r, chain, raw,
                                 session.views().budget(r, raw, context().live()), partners);
    }
    const double whole = doubts.back();
    m_ladder->show(chain, steps, doubts, m_typed ? std::optional<std::size_t>(m_typed->first) : std::nullopt);
    m_curve->show(chain, r, steps, whole);
    showShortTable(r, chain);

    QStringList follows;
    bool assumed = false;
    Chain fed = r.path;
    for (const Fed& f : feed(fed, partners)) {
        const Reading* other = session.bench().reading(f.from);
        const QString name = other ? from_std(other->name) : from_std(f.from);
        if (f.live) {
            const TimeUs age = session.now() - partners.at(f.from).time;
            follows << (age < 2 * second_us
                            ? tr("%1: from %2, just now.").arg(plain_name(f.key), name)
                            : tr("%1: from %2, %3 old.").arg(plain_name(f.key), name, from_std(age_text(age))));
        } else {
            assumed = true;
            follows << tr("%1: assumed, with a larger doubt, because %2 is silent.").arg(plain_name(f.key), name);
        }
    }
    for (const Stage& stage : r.path.stages)
        if (std::holds_alternative<Between>(stage) && r.quantity.kind == "soil-moisture")
            follows << tr("This is a scale between your dry and your wet point, not the share of water in the "
                          "soil: that needs "
                          "weighing.");
    for (const Stage& stage : r.path.stages)
        if (std::holds_alternative<DissolvedSolids>(stage))
            follows << tr("Dissolved solids are an estimate: the factor depends on the salts.");
    set_text(m_follows, follows.join(QLatin1Char(' ')));
    m_follows->setVisible(!follows.isEmpty());
    m_follows->setColour(assumed ? theme().colours().look : theme().colours().soft);

    if (m_asked && !m_asked->said) {
        const std::lock_guard lock(m_asked->mutex);
        if (!m_asked->answer) return;
        const MonteCarlo& mc = *m_asked->answer;
        m_asked->said = true;
        m_draws->setEnabled(true);
        const auto plus_minus = [&](double doubt) {
            return from_std("± " + format_value(doubt, doubt / 10, m_asked->unit));
        };
        if (!std::isfinite(mc.mean)) {
            set_text(m_check, tr("Hardly any of the draws gave a value: this is too near an end."));
            return;
        }
        set_text(m_check, disagree(m_asked->budget, mc)
                              ? tr("A million draws: %1; the budget says %2. They differ by more than 5 %: the "
                                   "path is too curved here, "
                                   "or one tolerance with hard edges rules. Trust the draws.")
                                    .arg(plus_minus(mc.expanded()), plus_minus(m_asked->budget.expanded()))
                              : tr("A million draws: %1; the budget says %2. They agree.")
                                    .arg(plus_minus(mc.expanded()), plus_minus(m_asked->budget.expanded())));
        m_check->setColour(disagree(m_asked->budget, mc) ? theme().colours().look : theme().colours().good);
    }
}

void ConvertPage::checkByDraws() {
    const Reading* r = context().reading();
    if (!r) return;
    const Chain chain = context().session().views().path(*r, context().live());
    const Walk steps = currentWalk(*r, chain);
    if (!steps.result().ok()) return;
    const double raw = steps.steps.front().number;
    m_asked = std::make_shared<Asked>();
    m_asked->budget = context().session().views().budget(*r, raw, context().live());
    m_asked->unit = r->quantity.unit;
    m_draws->setEnabled(false);
    set_text(m_check, tr("Drawing …"));
    m_check->setColour(theme().colours().soft);
    QThreadPool::globalInstance()->start(
        [asked = m_asked, chain, raw, inputs = context().session().views().doubts(*r, raw, context().live())] {
            const MonteCarlo answer = monte_carlo(chain, raw, inputs);
            const std::lock_guard lock(asked->mutex);
            asked->answer = answer;
        });
}

void ConvertPage::explain() {
    const Reading* r = context().reading();
    if (!r) return;
    const Chain chain = context().session().views().path(*r, context().live());
    const Walk w = currentWalk(*r, chain);
    std::string text =
        fmt::format("{}\n\n", w.steps[0].ok() ? phrase("The board sent ") +
                                                    format_measure(w.steps[0].number, chain.first_unit(), 7) + "."
                                              : w.cause);
    for (std::size_t i = 0; i < chain.stages.size() && w.steps[i].ok() && w.steps[i + 1].ok(); ++i) {
        text += fmt::format("{}: {} = {}\n", stage_title(chain.stages[i]),
                            arithmetic_text(chain.stages[i], w.steps[i].number),
                            format_measure(w.steps[i + 1].number, output_unit(chain.stages[i]), 5));
        Stage stage = chain.stages[i];
        for (const NamedConstant& named : constants(stage))
            if (!named.constant->origin.empty() && !(named.key == "offset" && named.constant->value == 0))
                text += fmt::format("    {} = {}: {}\n", named.key, format_constant(named.constant->value),
                                    named.constant->origin);
    }
    if (w.result().ok()) {
        const Budget b = context().session().views().budget(*r, w.steps[0].number, context().live());
        text +=
            phrase("\nSo it is {}, at 95 %.", format_with_doubt(w.result().number, b.expanded(), r->quantity.unit));
        if (!b.contributions.empty()) text += phrase(" Most of the doubt: ") + b.contributions.front().label + ".";
    } else if (!w.cause.empty() && w.steps[0].ok()) {
        text += "\n" + w.cause;
    }
    QMessageBox box(QMessageBox::NoIcon, tr("Why this number"), from_std(text), QMessageBox::Close, this);
    box.setObjectName(QStringLiteral("whyBox"));
    box.exec();
}

} // namespace cognitum
