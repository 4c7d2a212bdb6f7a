#include "ui/pages/more_inputs_view.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "ui/widgets/parts.h"

#include <fmt/format.h>

namespace cognitum {

MoreInputsView::MoreInputsView(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    auto* body = new QVBoxLayout(this);
    body->setContentsMargins(0, 0, 0, 0);
    body->setSpacing(context.theme().px(10));
    m_intro = new TextLabel(context.theme(), TextLabel::Role::body);
    m_intro->setObjectName(QStringLiteral("moreInputsIntro"));
    body->addWidget(m_intro);
    body->addStretch(1);
}

void MoreInputsView::setBoard(const std::string& board) {
    m_board = board;
    Session& session = m_context.session();
    Theme& theme = m_context.theme();
    const BoardUse* use = session.bench().board(board);
    if (!use) return;
    const std::vector<std::string> waiting = readings_without_input(session.bench(), session.catalog(), *use);
    QStringList names;
    for (const std::string& id : waiting)
        names << from_std(session.bench().reading(id)->name);
    set_text(
        m_intro,
        waiting.empty()
            ? tr("Every reading of %1 has its input. This is what one more would ask for.").arg(from_std(use->name))
            : tr("Without an analog input: %1. An external converter is suggested: it alone adds inputs and "
                 "bits at once.")
                  .arg(names.join(QStringLiteral(", "))));
    if (m_table) m_table->deleteLater();
    m_table = new QWidget;
    m_grid = new QGridLayout(m_table);
    m_grid->setContentsMargins(0, 0, 0, 0);
    m_grid->setHorizontalSpacing(theme.px(16));
    m_grid->setVerticalSpacing(theme.px(6));
    const QStringList heads = {QString(),   tr("inputs"),        tr("bits"),     tr("one count"),
                               tr("wires"), tr("pins it takes"), tr("a second"), tr("price")};
    const int columns = static_cast<int>(heads.size());
    for (int column = 0; column < columns; ++column)
        m_grid->addWidget(new TextLabel(theme, TextLabel::Role::soft, heads[column]), 0, column);
    int row = 1;
    for (const WayOut& way : ways_to_more_inputs(session.bench(), session.catalog(), *use)) {
        m_grid->addWidget(new RuleLine(theme), row++, 0, 1, columns + 1);
        auto* title = new TextLabel(theme, TextLabel::Role::name, from_std(way.title));
        title->setWordWrap(true);
        title->setMinimumWidth(theme.px(150));
        m_grid->addWidget(title, row, 0);
        if (way.possible) {
            const std::string unit = waiting.empty() ? "" : session.bench().reading(waiting.front())->quantity.unit;
            const QStringList cells = {
                QStringLiteral("+%1").arg(way.inputs),
                way.bits > 0 ? QString::number(way.bits) : QStringLiteral("—"),
                way.count > 0 && !unit.empty() ? from_std(format_measure(way.count, unit, 2)) : QStringLiteral("—"),
                QString::number(way.wires),
                QString::number(way.pins),
                from_std(format_constant(way.rate, 3)),
                from_std(fmt::format("{}{}{:.0f}", session.bench().currency, thin_space, way.price))};
            for (int column = 0; column < static_cast<int>(cells.size()); ++column)
                m_grid->addWidget(new TextLabel(theme, TextLabel::Role::mono, cells[column]), row, column + 1);
            auto* button = make_button(tr("Do this"), QStringLiteral("way_") + from_std(way.id), row == 2);
            button->setEnabled(!waiting.empty());
            connect(button, &QPushButton::clicked, this, [this, id = way.id] { take(id); });
            m_grid->addWidget(button, row, columns);
        }
        ++row;
        const std::string about = way.possible ? phrase("{} Program: {}.", way.brings, way.code) : way.why_not;
        m_grid->addWidget(new TextLabel(theme, TextLabel::Role::soft, from_std(about)), row++, 0, 1, columns);
    }
    m_grid->setColumnStretch(0, 1);
    static_cast<QVBoxLayout*>(layout())->insertWidget(1, m_table);
}

void MoreInputsView::take(const std::string& id) {
    Session& session = m_context.session();
    const BoardUse* use = session.bench().board(m_board);
    if (!use) return;
    for (const WayOut& way : ways_to_more_inputs(session.bench(), session.catalog(), *use))
        if (way.id == id && way.apply) {
            session.edit(tr("More inputs: %1").arg(from_std(way.title)), [&](Bench& bench) { way.apply(bench); });
            emit m_context.said(tr("%1 is planned, with its wires and addresses.").arg(from_std(way.title)));
            return;
        }
}

} // namespace cognitum
