#include "ui/stops/convert/step_ladder.h"
#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QGridLayout>
#include <QPainter>
#include <cmath>

namespace cognitum {

namespace {

QString title_of_input(const std::string& unit) {
    if (unit == "count") return Session::tr("Code");
    if (unit == "us") return Session::tr("Echo time");
    return Session::tr("What it sends");
}

/// "reference 4.998 V: measured with a meter; …" for the constants that a person may want to question.
QString origins(Stage stage) {
    QStringList out;
    for (const NamedConstant& named : constants(stage)) {
        const Constant& c = *named.constant;
        if (named.key == "offset" && c.value == 0) continue;
        if (c.origin.empty() || (named.key == "bulge" && c.value == 0)) continue;
        const QString text = from_std(read_back(c.origin));
        if (!out.contains(text)) out << text;
    }
    return out.join(QStringLiteral(" · "));
}

} // namespace

StepLadder::StepLadder(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("stepLadder"));
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(context.theme().px(22), 0, 0, 0);
    layout->setSpacing(context.theme().px(3));
}

void StepLadder::build(std::size_t steps) {
    clear_layout(layout());
    m_steps.clear();
    Theme& theme = m_context.theme();
    auto* column = qobject_cast<QVBoxLayout*>(layout());
    for (std::size_t i = 0; i < steps; ++i) {
        auto* head = new QHBoxLayout;
        Step step{new TextLabel(theme, TextLabel::Role::name), new TextLabel(theme, TextLabel::Role::mono_soft),
                  new NumberField(theme, QStringLiteral("step%1").arg(i), tr("Step %1").arg(i + 1),
                                  i + 1 == steps ? 22 : 17),
                  new TextLabel(theme, TextLabel::Role::mono_soft), new TextLabel(theme, TextLabel::Role::small)};
        step.arithmetic->setWordWrap(true);
        step.origin->setWordWrap(true);
        step.doubt->setAlignment(Qt::AlignRight);
        head->addWidget(step.title);
        head->addWidget(step.doubt, 1);
        column->addLayout(head);
        column->addWidget(step.field);
        column->addWidget(step.arithmetic);
        column->addWidget(step.origin);
        column->addSpacing(theme.px(steps > 5 ? 5 : 9));
        connect(step.field, &NumberField::numberEdited, this, [this, i](double value) { emit typed(i, value); });
        m_steps.push_back(step);
    }
}

void StepLadder::show(const Chain& chain, const Walk& walk, const std::vector<double>& doubts,
                      std::optional<std::size_t> typed) {
    if (m_steps.size() != walk.steps.size()) build(walk.steps.size());
    m_failed_from = walk.steps.size();
    for (std::size_t i = 0; i < walk.steps.size(); ++i) {
        Step& step = m_steps[i];
        const std::string unit = i == 0 ? chain.first_unit() : output_unit(chain.stages[i - 1]);
        const Value& value = walk.steps[i];
        if (!value.ok()) m_failed_from = std::min(m_failed_from, i);
        set_text(step.title,
                 i == 0 ? title_of_input(chain.first_unit()) : from_std(stage_title(chain.stages[i - 1])));
        step.field->setUnit(from_std(unit_symbol(unit)));
        // One digit more than the doubt carries, so that steps can be followed by hand; the last shows what is
        // meant.
        const double doubt = i < doubts.size() ? doubts[i] : 0;
        const int decimals = i == 0 ? (value.ok() && value.number == std::round(value.number) ? 0 : 1)
                                    : std::min(9, decimals_for(doubt) + (i + 1 == walk.steps.size() ? 0 : 1));
        step.field->show(value.ok() ? from_std(format_fixed(value.number, decimals)) : QStringLiteral("—"));
        if (i == 0)
            set_text(step.doubt, unit == "count" ? tr("± ½ count") : QString());
        else
            set_text(step.doubt,
                     doubt > 0 && value.ok()
                         ? from_std("± " +
                                    format_fixed(doubt * (unit == "V" ? 1000 : 1),
                                                 unit == "V" ? decimals_for(doubt * 1000) : decimals_for(doubt)) +
                                    std::string(thin_space) + (unit == "V" ? "mV" : unit_symbol(unit)))
                         : QString());
        if (typed == i)
            set_text(step.arithmetic, tr("typed here; the others follow"));
        else if (i == 0)
            set_text(step.arithmetic, typed ? tr("what the board would send") : tr("the board sends it"));
        else
            set_text(step.arithmetic, walk.steps[i - 1].ok()
                                          ? from_std(arithmetic_text(chain.stages[i - 1], walk.steps[i - 1].number))
                                          : QString());
        set_text(step.origin, i == 0 ? QString() : origins(chain.stages[i - 1]));
        step.origin->setVisible(!step.origin->text().isEmpty());
    }
    update();
}

void StepLadder::paintEvent(QPaintEvent*) {
    if (m_steps.empty()) return;
    const Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    QPainter p(this);
    p.setRenderHint(QPainter::Antialiasing);
    const double x = theme.px(8);
    const auto y = [&](std::size_t i) { return m_steps[i].title->geometry().center().y() + 1.0; };
    for (std::size_t i = 0; i + 1 < m_steps.size(); ++i) {
        QPen pen = theme.pen(i + 1 < m_failed_from ? t.accent : t.soft, i + 1 < m_failed_from ? 3 : 1.6);
        if (i + 1 >= m_failed_from) pen.setDashPattern({2, 3});
        p.setPen(pen);
        p.drawLine(QPointF(x, y(i)), QPointF(x, y(i + 1)));
    }
    for (std::size_t i = 0; i < m_steps.size(); ++i) {
        p.setBrush(t.sheet);
        p.setPen(theme.pen(i < m_failed_from ? t.accent : t.soft, 2.4));
        p.drawEllipse(QPointF(x, y(i)), theme.px(5), theme.px(5));
    }
}

} // namespace cognitum
