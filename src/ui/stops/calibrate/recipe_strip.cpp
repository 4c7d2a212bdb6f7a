#include "ui/stops/calibrate/recipe_strip.h"

#include "core/units/format.h"
#include "ui/widgets/parts.h"

#include <QComboBox>
#include <QPushButton>
#include <QVBoxLayout>

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
    connect(m_recipe, &QComboBox::activated, this,
            [this] { emit recipeChosen(m_recipe->currentData().toString().toStdString()); });
    connect(m_back, &QPushButton::clicked, this, [this] { emit stepMoved(-1); });
    connect(m_next, &QPushButton::clicked, this, [this] { emit stepMoved(1); });
}

void RecipeStrip::resizeEvent(QResizeEvent* event) {
    QWidget::resizeEvent(event);
    const bool narrow = width() < m_context.theme().px(600);
    m_row->setDirection(narrow ? QBoxLayout::TopToBottom : QBoxLayout::LeftToRight);
}

void RecipeStrip::setRecipes(const CalibrationRun& run) {
    m_recipe->clear();
    for (const Recipe& recipe : run.recipes()) {
        m_recipe->addItem(from_std(recipe.title), from_std(recipe.id));
        m_recipe->setItemData(m_recipe->count() - 1, from_std(recipe.about), Qt::ToolTipRole);
        if (&recipe == run.recipe()) m_recipe->setCurrentIndex(m_recipe->count() - 1);
    }
}

void RecipeStrip::refresh(const CalibrationRun& run, const Quantity& quantity) {
    const Recipe* r = run.recipe();
    setVisible(r != nullptr);
    if (!r) return;
    const int steps = static_cast<int>(r->steps.size());
    const RecipeStep* step = run.current_step();
    QString where = step ? tr("step %1 of %2 · %3").arg(run.step() + 1).arg(steps).arg(from_std(step->title))
                         : tr("all %1 steps are done").arg(steps);
    if (step && step->share >= 0) {
        where += tr(", about %1").arg(from_std(format_measure(step->place_in(quantity), quantity.unit, 2)));
    }
    set_text(m_where, where);
    QString words = step ? from_std(step->text) : from_std(r->finish);
    if (run.step() == 0 && !r->equipment.empty()) {
        QStringList things;
        for (const Phrase& thing : r->equipment)
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
    m_back->setEnabled(run.step() > 0);
    m_next->setEnabled(run.step() < steps);
}

} // namespace cognitum
