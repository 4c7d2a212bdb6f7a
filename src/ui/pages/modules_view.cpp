#include "ui/pages/modules_view.h"

#include "core/base/phrase.h"
#include "core/plan/assign.h"
#include "core/units/format.h"
#include "ui/widgets/parts.h"

#include <QCheckBox>
#include <QHBoxLayout>
#include <QLineEdit>
#include <fmt/format.h>

namespace cognitum {

namespace {
const QString own_supply = QStringLiteral("own supply");
}

ModulesView::ModulesView(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* body = new QVBoxLayout(this);
    body->setContentsMargins(0, 0, 0, 0);
    body->setSpacing(theme.px(10));
    m_intro = new TextLabel(theme, TextLabel::Role::body);
    body->addWidget(m_intro);
    auto* bar = new QHBoxLayout;
    bar->setSpacing(theme.px(8));
    m_part = new QComboBox;
    m_part->setObjectName(QStringLiteral("modulePart"));
    m_part->setAccessibleName(tr("Kind of part to add to the board"));
    for (const PartCard& part : context.session().catalog().parts)
        if (part.kind != PartKind::sensor) m_part->addItem(from_std(part.name), from_std(part.id));
    bar->addWidget(m_part);
    auto* button = make_button(tr("Add it to the board"), QStringLiteral("addModule"), true);
    bar->addWidget(button);
    bar->addStretch(1);
    body->addLayout(bar);
    body->addStretch(1);
    connect(button, &QPushButton::clicked, this, &ModulesView::add);
}

void ModulesView::setBoard(const std::string& board) {
    m_board = board;
    const Session& session = m_context.session();
    const BoardUse* use = session.bench().board(board);
    if (!use) return;
    if (m_rows) m_rows->deleteLater();
    m_rows = new QWidget;
    auto* rows = new QVBoxLayout(m_rows);
    rows->setContentsMargins(0, 0, 0, 0);
    rows->setSpacing(m_context.theme().px(6));
    int n = 0;
    for (const Module& m : session.bench().modules)
        if (m.board == board) {
            if (n++ > 0) rows->addWidget(new RuleLine(m_context.theme()));
            rows->addWidget(row(m));
        }
    set_text(m_intro,
             n == 0 ? tr("Nothing but sensors is wired to %1. A lamp, a relay, a converter or a switch is added "
                         "here; its pins are found for it.")
                          .arg(from_std(use->name))
                    : tr("Wired to %1 beside its sensors:").arg(from_std(use->name)));
    static_cast<QVBoxLayout*>(layout())->insertWidget(1, m_rows);
}

QWidget* ModulesView::row(const Module& m) {
    const Session& session = m_context.session();
    Theme& theme = m_context.theme();
    const PartCard* part = session.catalog().part(m.part);
    const BoardCard* card = session.catalog().board(session.bench().board(m.board)->card);
    auto* out = new QWidget;
    auto* line = new QHBoxLayout(out);
    line->setContentsMargins(0, 0, 0, 0);
    line->setSpacing(theme.px(8));
    const QString suffix = QLatin1Char('_') + from_std(m.id);
    auto* name = new QLineEdit(from_std(m.name));
    name->setObjectName(QStringLiteral("moduleName") + suffix);
    name->setAccessibleName(tr("Name of the part"));
    name->setFixedWidth(theme.px(150));
    line->addWidget(name);
    connect(name, &QLineEdit::editingFinished, this, [this, name, id = m.id] {
        const std::string text = name->text().trimmed().toStdString();
        if (!text.empty()) change(id, tr("Rename"), [&](Module& module) { module.name = text; });
    });
    std::string pins;
    for (const Connection& c : m.pins)
        pins += fmt::format("{}{} {}", pins.empty() ? "" : ", ", c.leg, c.pin.empty() ? "—" : c.pin);
    const std::string about = fmt::format("{}\n{}", part ? part->name : phrase("no card ") + m.part, pins);
    line->addWidget(new TextLabel(theme, TextLabel::Role::soft, from_std(about)), 1);
    const auto label = [&](const QString& text) {
        auto* l = new TextLabel(theme, TextLabel::Role::soft, text);
        l->setWordWrap(false);
        line->addWidget(l);
    };
    if (part && part->leg_with_role("supply") >= 0 && card) {
        label(tr("fed from"));
        auto* rail = new QComboBox;
        rail->setObjectName(QStringLiteral("moduleRail") + suffix);
        for (const Rail& r : card->rails)
            rail->addItem(from_std(r.label), from_std(r.label));
        rail->addItem(tr("its own supply"), own_supply);
        rail->setCurrentIndex(rail->findData(m.own_supply_V > 0 ? own_supply : from_std(m.rail)));
        line->addWidget(rail);
        const double volts = std::clamp(5.0, part->supply.low_V, part->supply.high_V);
        connect(rail, &QComboBox::activated, this, [this, rail, id = m.id, volts] {
            const QString chosen = rail->currentData().toString();
            change(id, tr("Change rail"), [&](Module& module) {
                module.own_supply_V = chosen == own_supply ? volts : 0;
                if (chosen != own_supply) module.rail = chosen.toStdString();
            });
        });
        if (m.own_supply_V > 0) {
            auto* ground = new QCheckBox(tr("ground joined"));
            ground->setObjectName(QStringLiteral("moduleGround") + suffix);
            ground->setChecked(m.ground_joined);
            line->addWidget(ground);
            connect(ground, &QCheckBox::clicked, this, [this, id = m.id](bool on) {
                change(id, tr("Join the grounds"), [on](Module& module) { module.ground_joined = on; });
            });
        }
    }
    if (part && part->kind == PartKind::load) {
        label(tr("switched by"));
        auto* by = new QComboBox;
        by->setObjectName(QStringLiteral("moduleSwitch") + suffix);
        by->addItem(tr("nothing yet"), QString());
        for (const Reading& r : session.bench().readings)
            by->addItem(from_std(r.name), from_std(r.id));
        by->setCurrentIndex(std::max(0, by->findData(from_std(m.switched_by))));
        line->addWidget(by);
        connect(by, &QComboBox::activated, this, [this, by, id = m.id] {
            change(id, tr("Switch by"),
                   [&](Module& module) { module.switched_by = by->currentData().toString().toStdString(); });
        });
    }
    if (part && part->lamp) {
        auto* screened = new QCheckBox(tr("its sensor cannot see it"));
        screened->setObjectName(QStringLiteral("moduleScreened") + suffix);
        screened->setChecked(m.screened);
        line->addWidget(screened);
        connect(screened, &QCheckBox::clicked, this, [this, id = m.id](bool on) {
            change(id, tr("Screen the lamp"), [on](Module& module) { module.screened = on; });
        });
    }
    auto* off = make_link(tr("Take it off"), QStringLiteral("moduleRemove") + suffix);
    line->addWidget(off);
    connect(off, &QPushButton::clicked, this, [this, id = m.id] { remove(id); });
    return out;
}

void ModulesView::change(const std::string& id, const QString& what, const std::function<void(Module&)>& change) {
    m_context.session().edit(what, [&](Bench& bench) {
        if (Module* module = bench.module(id)) change(*module);
    });
}

void ModulesView::add() {
    Session& session = m_context.session();
    const PartCard* part = session.catalog().part(m_part->currentData().toString().toStdString());
    if (!part) return;
    Bench planned = session.bench();
    Module m;
    m.name = part->name.text().substr(0, part->name.text().find(','));
    m.id = planned.free_id(part->name.english().substr(0, part->name.english().find(',')));
    m.part = part->id;
    m.board = m_board;
    planned.modules.push_back(m);
    const Assignment placed = assign_pins(planned, session.catalog(), Keep::placed, m_board);
    session.edit(tr("Add %1").arg(from_std(m.name)), [&](Bench& bench) { bench = placed.bench; });
    emit m_context.said(placed.gaps.empty() ? tr("%1 has its pins.").arg(from_std(m.name))
                                            : from_std(placed.gaps.front()));
}

/// Readings that went through it are left without an input, and say so.
void ModulesView::remove(const std::string& id) {
    m_context.session().edit(tr("Take it off"), [&](Bench& bench) {
        std::erase_if(bench.modules, [&](const Module& m) { return m.id == id; });
        for (Reading& r : bench.readings)
            if (r.wiring.module == id) {
                r.wiring.module.clear();
                r.wiring.pins.clear();
                r.path.stages.clear();
            }
    });
}

} // namespace cognitum
