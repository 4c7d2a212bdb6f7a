#include "ui/shell/everything.h"

#include "core/calibrate/recipe.h"
#include "core/plan/findings.h"
#include "core/units/quantity_kind.h"
#include "ui/help/help_panel.h"
#include "ui/pages/settings_page.h"
#include "ui/widgets/parts.h"

#include <QRegularExpression>

namespace cognitum {

namespace {

void add_readings(std::vector<Command>& out, Context& context, const Ways& ways, int stop_now) {
    for (const Reading& r : context.session().bench().readings)
        out.push_back({from_std(r.name), QObject::tr("reading · %1").arg(context.state(r.id).word),
                       [&context, ways, id = r.id, stop_now] {
                           context.selectReading(id);
                           ways.stop(stop_now);
                       },
                       from_std(r.id + " " + r.quantity.about().title + " " + r.group)});
}

void add_boards(std::vector<Command>& out, const Session& session, const Ways& ways) {
    for (const BoardUse& board : session.bench().boards)
        out.push_back({from_std(board.name), QObject::tr("board"), [ways, id = board.id] { ways.board(id); },
                       from_std(board.id + " " + board.card)});
}

void add_plan(std::vector<Command>& out, Context& context, const Ways& ways) {
    const Bench& bench = context.session().bench();
    constexpr int watch = static_cast<int>(Stop::watch);
    for (const WatchRule& rule : bench.watch_rules) {
        const Reading* r = bench.reading(rule.reading());
        if (r)
            out.push_back({from_std(rule.name), QObject::tr("rule · %1").arg(from_std(r->name)),
                           [&context, ways, id = r->id] {
                               context.selectReading(id);
                               ways.stop(watch);
                           }});
    }
    for (const TimedSession& session : bench.sessions)
        out.push_back({from_std(session.name), QObject::tr("session"),
                       [&context, id = from_std(session.id)] { emit context.sessionRequested(id); }});
    for (const Finding& f : check_bench(bench, context.session().catalog())) {
        const Reading* r = bench.reading(f.reading);
        if (!r) continue;
        out.push_back({from_std(f.message), QObject::tr("finding · %1").arg(from_std(r->name)),
                       [&context, ways, id = r->id, stop = static_cast<int>(f.stop)] {
                           context.selectReading(id);
                           ways.stop(stop);
                       },
                       from_std(f.id + " " + f.why + " " + f.fix)});
    }
}

/// A recipe leads to the chosen reading where it suits, else to the first that it suits.
void add_recipes(std::vector<Command>& out, Context& context, const Ways& ways) {
    Session& session = context.session();
    std::map<std::string, std::string> reading_of;
    const auto offer = [&](const Reading& r) {
        for (const Recipe* recipe : recipes_for(session.recipes(), r, session.part(r)))
            reading_of.emplace(recipe->id, r.id);
    };
    if (context.reading()) offer(*context.reading());
    for (const Reading& r : session.bench().readings)
        offer(r);
    for (const Recipe& recipe : session.recipes()) {
        const auto suits = reading_of.find(recipe.id);
        const Reading* r = suits == reading_of.end() ? nullptr : session.bench().reading(suits->second);
        out.push_back(
            {from_std(recipe.title),
             r ? QObject::tr("recipe · %1").arg(from_std(r->name)) : QObject::tr("recipe · no reading for it"),
             [&context, ways, id = r ? r->id : std::string(), title = from_std(recipe.title)] {
                 if (id.empty()) {
                     emit context.said(QObject::tr("No reading of this bench is calibrated by “%1”.").arg(title));
                     return;
                 }
                 context.selectReading(id);
                 ways.stop(static_cast<int>(Stop::calibrate));
             },
             from_std(recipe.about)});
    }
}

void add_parts(std::vector<Command>& out, const Session& session, const Ways& ways) {
    for (const PartCard& part : session.catalog().parts)
        out.push_back({from_std(part.name), QObject::tr("part · at Sensor"),
                       [ways, id = from_std(part.id)] { ways.part(id); }, from_std(part.id)});
}

void add_help(std::vector<Command>& out, const Ways& ways) {
    static const QRegularExpression row(QStringLiteral("^\\| ([^|]+) \\| ([^|]+) \\|$"),
                                        QRegularExpression::MultilineOption);
    for (const QString& topic : help_topics()) {
        const QString text = help_text(topic);
        QString title = text.section(QLatin1Char('\n'), 0, 0);
        title.remove(QRegularExpression(QStringLiteral("^#+ *")));
        out.push_back({title, QObject::tr("help"), [ways, topic] { ways.help(topic); }, topic});
        if (topic != QStringLiteral("glossary")) continue;
        auto words = row.globalMatch(text);
        while (words.hasNext()) {
            const auto word = words.next();
            if (word.captured(1) != QStringLiteral("Word"))
                out.push_back({word.captured(1), QObject::tr("word: %1").arg(word.captured(2).left(60)),
                               [ways, topic] { ways.help(topic); }});
        }
    }
}

} // namespace

std::vector<Command> everything(Context& context, const Ways& ways, int stop_now) {
    std::vector<Command> out;
    add_readings(out, context, ways, stop_now);
    add_boards(out, context.session(), ways);
    add_plan(out, context, ways);
    add_recipes(out, context, ways);
    add_parts(out, context.session(), ways);
    for (const auto& [title, name] : SettingsPage::entries())
        out.push_back({title, QObject::tr("setting"), [ways, name = name] { ways.setting(name); }});
    add_help(out, ways);
    return out;
}

} // namespace cognitum
