#include "ui/stops/watch/load_view.h"

#include "core/act/load_keeper.h"
#include "core/act/load_words.h"
#include "core/units/format.h"
#include "session/language.h"
#include "session/live/acting_allowed.h"
#include "ui/stops/watch/load_dialog.h"
#include "ui/widgets/parts.h"

namespace cognitum {

namespace {

constexpr TimeUs by_hand_for = hour_us;
constexpr TimeUs load_tried_again_after = 5 * minute_us;

QString clock_time(TimeUs time) {
    return date_said(time, "HH:mm");
}

/// A new control of the first load, with the habits of a careful person.
LoadControl first_control(const Bench& bench, const Catalog& catalog, const std::string& reading) {
    LoadControl out;
    for (const Module& m : bench.modules)
        if (const PartCard* part = catalog.part(m.part); part && part->kind == PartKind::load && out.load.empty()) {
            out.load = m.id;
            out.name = m.name;
            out.on_line = "load " + m.id + " on {s}";
            out.off_line = "load " + m.id + " off";
        }
    for (const WatchRule& rule : bench.watch_rules)
        if (rule.reading() == reading && out.rule.empty()) out.rule = rule.id;
    out.least_on_s = out.least_off_s = 120;
    out.longest_on_s = 1200;
    out.rest_s = 1800;
    out.time_out_s = 60;
    return out;
}

} // namespace

LoadView::LoadView(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* rows = new QVBoxLayout(this);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(theme.px(10));
    m_none = new TextLabel(theme, TextLabel::Role::soft);
    rows->addWidget(m_none);
    m_list = new QVBoxLayout;
    m_list->setSpacing(theme.px(10));
    rows->addLayout(m_list);
    m_new = make_button(tr("Let a load follow a rule"), QStringLiteral("loadNew"));
    rows->addWidget(m_new, 0, Qt::AlignLeft);
    connect(m_new, &QPushButton::clicked, this, [this] {
        const Session& session = m_context.session();
        open(first_control(session.bench(), session.catalog(), m_context.readingId()));
    });
}

std::vector<const LoadControl*> LoadView::mine() const {
    std::vector<const LoadControl*> out;
    const Bench& bench = m_context.session().bench();
    for (const LoadControl& c : bench.controls) {
        const WatchRule* rule = bench.watch_rule(c.rule);
        if (rule && rule->reading() == m_context.readingId()) out.push_back(&c);
    }
    return out;
}

void LoadView::open(const LoadControl& control) {
    auto* dialog = new LoadDialog(m_context, control, window());
    dialog->setAttribute(Qt::WA_DeleteOnClose);
    dialog->open();
}

void LoadView::hand(const std::string& control, std::optional<bool> on) {
    m_context.session().worker().handNow(control, on, m_context.session().now() + by_hand_for);
    refresh();
}

void LoadView::refresh() {
    const Session& session = m_context.session();
    const QString key =
        from_std(m_context.readingId()) + QLatin1Char(' ') + QString::number(session.planRevision());
    if (key != m_key) {
        m_key = key;
        rebuild();
    }
    for (const LoadControl* c : mine())
        if (const auto shown = m_shown.find(c->id); shown != m_shown.end()) showState(*c, shown->second);
    askTrials();
}

void LoadView::rebuild() {
    clear_layout(m_list);
    m_shown.clear();
    m_runs.clear();
    const Session& session = m_context.session();
    const Bench& bench = session.bench();
    bool has_load = false;
    bool has_rule = false;
    for (const Module& m : bench.modules)
        if (const PartCard* part = session.catalog().part(m.part); part && part->kind == PartKind::load)
            has_load = true;
    for (const WatchRule& rule : bench.watch_rules)
        has_rule = has_rule || rule.reading() == m_context.readingId();
    const auto controls = mine();
    m_none->setVisible(controls.empty());
    set_text(
        m_none,
        !has_load   ? tr("No load is wired. Add a low-voltage pump, lamp or relay, or a closed switch that is told "
                           "over the network, at Boards; then it can follow a rule of this reading.")
        : !has_rule ? tr("This reading has no rule yet. A load follows a rule: make one first, and look at how "
                         "often it would have spoken.")
                    : tr("Nothing follows this reading’s rules. A load is tried on the record first, with what it "
                         "does to the readings, and acts only when you say so."));
    m_new->setEnabled(has_load && has_rule);
    for (const LoadControl* c : controls)
        add(*c);
}

void LoadView::add(const LoadControl& control) {
    Theme& theme = m_context.theme();
    const Bench& bench = m_context.session().bench();
    Shown shown;
    auto* head = new QHBoxLayout;
    head->setSpacing(theme.px(8));
    shown.mark = new MarkLabel(theme);
    auto* name = new TextLabel(theme, TextLabel::Role::name, from_std(control.name));
    name->setWordWrap(true);
    shown.state = new TextLabel(theme, TextLabel::Role::body);
    shown.state->setObjectName(QStringLiteral("loadState"));
    head->addWidget(shown.mark);
    auto* words = new QVBoxLayout;
    words->setSpacing(theme.px(2));
    words->addWidget(name);
    words->addWidget(shown.state);
    head->addLayout(words, 1);
    auto* of_plan = new QHBoxLayout;
    of_plan->setSpacing(theme.px(16));
    head->addLayout(of_plan);
    m_list->addLayout(head);
    QString follows = from_std(follows_says(control, bench));
    follows.replace(0, 1, follows.left(1).toUpper());
    std::string text = follows.toStdString();
    const std::vector<std::string> limits = limits_say(control, bench);
    for (std::size_t i = 0; i < limits.size(); ++i) // the last two are about what nobody sees
        text += (i + 1 == limits.size() ? "; " : "\n· ") + limits[i];
    m_list->addWidget(new TextLabel(theme, TextLabel::Role::soft, from_std(text)));
    auto* by_hand = new QHBoxLayout;
    by_hand->setSpacing(theme.px(16));
    const auto link = [&](QHBoxLayout* row, const QString& title, const char* object) {
        QPushButton* out = make_link(title, QLatin1String(object));
        row->addWidget(out);
        return out;
    };
    const std::string id = control.id;
    shown.on = link(by_hand, tr("On for an hour"), "loadOn");
    shown.off = link(by_hand, tr("Off for an hour"), "loadOff");
    shown.by_rule = link(by_hand, tr("By its rule again"), "loadByRule");
    shown.allow = link(of_plan, tr("Let it act on this computer"), "loadAllow");
    QPushButton* change = link(of_plan, tr("Change it"), "loadChange");
    QPushButton* acts = link(of_plan, control.acts ? tr("Only try it") : tr("Let it act"), "loadToggle");
    by_hand->addStretch(1);
    m_list->addLayout(by_hand);
    shown.trial = new TextLabel(theme, TextLabel::Role::body);
    shown.trial->setObjectName(QStringLiteral("loadTrial"));
    shown.warns = new TextLabel(theme, TextLabel::Role::body);
    shown.warns->setObjectName(QStringLiteral("loadTrialWarns"));
    shown.warns->setColour(theme.colours().look);
    shown.warns->hide();
    m_list->addWidget(shown.trial);
    m_list->addWidget(shown.warns);
    m_list->addWidget(new RuleLine(theme));
    connect(shown.on, &QPushButton::clicked, this, [this, id] { hand(id, true); });
    connect(shown.off, &QPushButton::clicked, this, [this, id] { hand(id, false); });
    connect(shown.by_rule, &QPushButton::clicked, this, [this, id] { hand(id, {}); });
    connect(shown.allow, &QPushButton::clicked, this, [this, id] {
        m_context.session().allowActing(id);
        m_context.refresh();
    });
    connect(change, &QPushButton::clicked, this, [this, id] {
        if (const LoadControl* c = m_context.session().bench().control(id)) open(*c);
    });
    connect(acts, &QPushButton::clicked, this, [this, id] {
        const LoadControl* now = m_context.session().bench().control(id);
        if (!now) return;
        if (!now->acts && (now->on_line.empty() || now->off_line.empty()))
            return emit m_context.said(
                tr("It needs a line for on and one for off: say first what its board is told."));
        const bool act = !now->acts;
        m_context.session().edit(act ? tr("Let a load act") : tr("Only try a load"), [&](Bench& b) {
            if (LoadControl* c = b.control(id)) c->acts = act;
        });
        if (act) m_context.session().allowActing(id); // a person said so, here
        m_context.refresh();
    });
    m_shown[id] = shown;
}

void LoadView::showState(const LoadControl& control, const Shown& shown) {
    const auto& loads = m_context.live().loads;
    const auto live = loads.find(control.id);
    const bool judged = control.acts && live != loads.end();
    const bool allowed = is_acting_allowed(control, m_context.session().bench());
    shown.allow->setVisible(control.acts && !allowed);
    for (QPushButton* button : {shown.on, shown.off})
        button->setVisible(judged);
    shown.by_rule->setVisible(judged && live->second.by_hand);
    if (!judged) {
        std::string why = control.acts ? why_not(control, m_context.session().bench()) : std::string();
        if (why.empty() && !allowed && control.acts) why = "nobody on this computer has said yet that it may.";
        shown.mark->setMark(why.empty() ? Mark::not_begun : Mark::bad);
        return set_text(shown.state, !control.acts ? tr("only tried: it tells nobody anything")
                                     : why.empty() ? tr("begins with the next line")
                                                   : tr("does not act: %1").arg(from_std(why)));
    }
    const LiveLoad& now = live->second;
    shown.mark->setMark(!now.trouble.empty() ? Mark::bad : now.on ? Mark::done : Mark::not_begun);
    const TimeUs for_so_long = m_context.session().now() - now.since;
    QString text = now.on ? tr("on for %1: %2") : tr("off for %1: %2");
    text = text.arg(from_std(duration_text(std::max<TimeUs>(0, for_so_long))), from_std(now.why));
    if (now.waits_until > 0) text += tr(", and may go on at %1").arg(clock_time(now.waits_until));
    if (now.by_hand && now.why == "by hand")
        text += tr(" until %1").arg(clock_time(now.hand_until));
    else if (now.by_hand)
        text += tr("; by hand until %1").arg(clock_time(now.hand_until));
    if (!now.trouble.empty()) text += tr(". Not told: %1").arg(from_std(now.trouble));
    set_text(shown.state, text);
}

void LoadView::askTrials() {
    Session& session = m_context.session();
    const TimeUs now = session.now();
    const QString key = m_key + QLatin1Char(' ') + QString::number(now / load_tried_again_after);
    if (key == m_trial_key || m_shown.empty()) return;
    m_trial_key = key;
    std::vector<LoadControl> controls;
    for (const LoadControl* c : mine())
        controls.push_back(*c);
    m_question.ask(
        session.exports(), this,
        [controls, bench = session.bench(), catalog = session.catalog(), now](BenchFile& file) {
            std::vector<TriedLoad> out;
            out.reserve(controls.size());
            for (const LoadControl& c : controls)
                out.push_back(tried_load(file, bench, catalog, c, now));
            return Result<std::vector<TriedLoad>>(std::move(out));
        },
        [this, key](const Result<std::vector<TriedLoad>>& tried) {
            if (key != m_trial_key || !tried) return;
            const Bench& bench = m_context.session().bench();
            m_runs.clear();
            for (const TriedLoad& t : *tried) {
                for (const LoadEvent& e : t.trial.events)
                    if (e.on) m_runs.push_back(e.time);
                const auto shown = m_shown.find(t.control.id);
                if (shown == m_shown.end()) continue;
                set_text(shown->second.trial, from_std(trial_says(t.control, t.trial, bench)));
                QStringList warns;
                for (const std::string& w : trial_warns(t.control, t.trial, bench))
                    warns << QStringLiteral("▲ ") + from_std(w);
                set_text(shown->second.warns, warns.join(QLatin1Char('\n')));
                shown->second.warns->setVisible(!warns.isEmpty());
            }
            emit this->tried();
        });
}

} // namespace cognitum
