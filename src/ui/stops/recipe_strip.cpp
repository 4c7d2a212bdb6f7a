#include "ui/stops/recipe_strip.h"

#include "core/units/format.h"
#include "ui/widgets/parts.h"

#include <QComboBox>
#include <QPushButton>
#include <QVBoxLayout>
#include <algorithm>

namespace cognitum {

RecipeStrip::RecipeStrip(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(theme.px(4));
    m_row = new QHBoxLayout;
    m_recipe = new QComboBox;
    m_recipe->setObjectName(QStringLiteral("recipe"));
    m_recipe->setAccessibleName(tr("Recipe"));
    m_where = new TextLabel(theme, TextLabel::Role::name);
    m_where->setObjectName(QStringLiteral("recipeStep"));
    m_where->setWordWrap(true);
    m_recipe->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
    m_recipe->setMinimumContentsLength(27);
    m_back = make_link(tr("step back"), QStringLiteral("stepBack"));
    m_next = make_link(tr("next step"), QStringLiteral("stepNext"));
    m_row->setSpacing(theme.px(8));
    auto* ways = new QHBoxLayout;
    ways->addWidget(m_back);
    ways->addWidget(m_next);
    ways->addStretch(0);
    m_row->addWidget(m_recipe);
    m_row->addWidget(m_where, 1);
    m_row->addLayout(ways);
    layout->addLayout(m_row);
    m_text = new TextLabel(theme, TextLabel::Role::body);
    m_text->setObjectName(QStringLiteral("recipeText"));
    m_caution = new TextLabel(theme, TextLabel::Role::body);
    m_caution->setObjectName(QStringLiteral("recipeCaution"));
    for (TextLabel* label : {m_text, m_caution}) {
        label->setWordWrap(true);
        layout->addWidget(label);
    }
    connect(m_recipe, &QComboBox::activated, this, [this] {
        m_step = 0;
        emit chosen();
    });
    connect(m_back, &QPushButton::clicked, this, [this] { goTo(m_step - 1); });
    connect(m_next, &QPushButton::clicked, this, [this] { goTo(m_step + 1); });
}

void RecipeStrip::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    const bool narrow = width() < m_context.theme().px(600);
    m_row->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
}

void RecipeStrip::setRecipes(const std::vector<const Recipe*>& recipes, const std::string& wanted, int step) {
    m_recipes = recipes;
    m_recipe->clear();
    int index = 0;
    for (const Recipe* recipe : recipes) {
        if (recipe->id == wanted) index = m_recipe->count();
        m_recipe->addItem(from_std(recipe->title), from_std(recipe->id));
        m_recipe->setItemData(m_recipe->count() - 1, from_std(recipe->about), Qt::ToolTipRole);
    }
    if (!recipes.empty()) m_recipe->setCurrentIndex(index);
    m_step = recipe() ? std::clamp(step, 0, static_cast<int>(recipe()->steps.size())) : 0;
}

const Recipe* RecipeStrip::recipe() const {
    const int index = m_recipe->currentIndex();
    return index >= 0 && index < static_cast<int>(m_recipes.size()) ? m_recipes[static_cast<std::size_t>(index)]
                                                                    : nullptr;
}

const RecipeStep* RecipeStrip::current() const {
    const Recipe* r = recipe();
    return r && m_step < static_cast<int>(r->steps.size()) ? &r->steps[static_cast<std::size_t>(m_step)] : nullptr;
}

void RecipeStrip::goTo(int step) {
    if (!recipe()) return;
    m_step = std::clamp(step, 0, static_cast<int>(recipe()->steps.size()));
    emit chosen();
}

void RecipeStrip::pointTaken(int taken_at_step) {
    if (const RecipeStep* step = current(); step && !step->reference.empty() && taken_at_step >= step->points)
        goTo(m_step + 1);
}

void RecipeStrip::refresh(const Reading& reading) {
    const Recipe* r = recipe();
    setVisible(r != nullptr);
    if (!r) return;
    const int steps = static_cast<int>(r->steps.size());
    const RecipeStep* step = current();
    QString where = step ? tr("step %1 of %2 · %3").arg(m_step + 1).arg(steps).arg(from_std(step->title))
                         : tr("all %1 steps are done").arg(steps);
    if (step && step->share >= 0) {
        const double at = reading.quantity.low + step->share * (reading.quantity.high - reading.quantity.low);
        where += tr(", about %1").arg(from_std(format_measure(at, reading.quantity.unit, 2)));
    }
    set_text(m_where, where);
    QString words = step ? from_std(step->text) : from_std(r->finish);
    if (m_step == 0 && !r->equipment.empty()) {
        QStringList things;
        for (const std::string& thing : r->equipment)
            things << from_std(thing);
        words = tr("You need: %1. ").arg(things.join(QStringLiteral(", "))) + words;
    }
    set_text(m_text, words);
    m_text->setVisible(!words.isEmpty());
    set_text(m_caution,
             step && !step->caution.empty() ? QStringLiteral("▲ ") + from_std(step->caution) : QString());
    m_caution->setColour(m_context.theme().colours().look);
    m_caution->setVisible(!m_caution->text().isEmpty());
    m_recipe->setToolTip(from_std(r->about));
    m_back->setEnabled(m_step > 0);
    m_next->setEnabled(m_step < steps);
}

} // namespace cognitum
