#include "ui/stops/convert/constants_view.h"

#include "core/base/phrase.h"
#include "core/signal_path/board_arithmetic.h"
#include "core/signal_path/feeds.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/widgets/number_field.h"
#include "ui/widgets/parts.h"

#include <QComboBox>
#include <QGridLayout>
#include <QVBoxLayout>
#include <algorithm>
#include <fmt/format.h>

namespace cognitum {

namespace {

/// Readings whose unit converts into the constant's, and that would close no loop.
std::vector<const Reading*> possible_partners(const Bench& bench, const Reading& reading,
                                              const NamedConstant& named, bool of_formula) {
    std::vector<const Reading*> out;
    for (const Reading& r : bench.readings) {
        if (r.id == reading.id) continue;
        // Temperatures, pressures and humidities change under a path; a formula may ask for anything.
        const Unit* unit = find_unit(named.unit);
        const bool fits = unit &&
                          (unit->dimension == Dimension::temperature || unit->dimension == Dimension::pressure ||
                           (unit->dimension == Dimension::number && r.quantity.kind == "humidity")) &&
                          convert_unit(1, r.quantity.unit, named.unit);
        if (!fits && !of_formula) continue;
        Bench trial = bench;
        Reading& self = *trial.reading(reading.id);
        Constant probe;
        probe.from = r.id;
        Linear line; // any stage that follows it shows whether a circle closes
        line.zero = probe;
        self.path.stages.emplace_back(line);
        if (feed_loop(trial, reading.id).empty()) out.push_back(&r);
    }
    return out;
}

} // namespace

QString plain_name(const std::string& key) {
    if (const std::string label = constant_label(key);
        label != key && key != "offset" && key != "gain" && key.size() > 1)
        return from_std(label);
    std::string name = key;
    for (const char* suffix :
         {"_degC", "_mm", "_ohm", "_V", "_m_s", "_m", "_Pa", "_hPa", "_kPa", "_per_K", "_uV_per_K"})
        if (const std::string_view s = suffix; name.size() > s.size() && name.ends_with(s)) {
            name.resize(name.size() - s.size());
            break;
        }
    for (char& c : name)
        if (c == '_') c = ' ';
    return from_std(name);
}

ConstantsView::ConstantsView(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("constantsView"));
    Theme& theme = context.theme();
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme.px(10));
    m_grid = new QGridLayout;
    m_grid->setHorizontalSpacing(theme.px(10));
    m_grid->setVerticalSpacing(theme.px(6));
    m_grid->setColumnStretch(3, 1);
    box->addLayout(m_grid);
    buildFactor(box);
    box->addStretch(1);
}

void ConstantsView::buildFactor(QLayout* box) {
    Theme& theme = m_context.theme();
    m_factor_box = new QWidget;
    auto* inner = new QVBoxLayout(m_factor_box);
    inner->setContentsMargins(0, 0, 0, 0);
    inner->setSpacing(theme.px(6));
    inner->addWidget(new RuleLine(theme));
    inner->addWidget(new TextLabel(theme, TextLabel::Role::name, tr("A factor that you copied, taken apart")));
    auto* row = new QHBoxLayout;
    row->setSpacing(theme.px(12));
    m_factor = new NumberField(theme, QStringLiteral("copiedFactor"), tr("Factor for each count"), 13);
    m_factor->setFixedWidth(theme.px(150));
    row->addWidget(m_factor, 0, Qt::AlignTop);
    m_factor_says = new TextLabel(theme, TextLabel::Role::body);
    m_factor_says->setObjectName(QStringLiteral("factorSays"));
    m_factor_says->setWordWrap(true);
    row->addWidget(m_factor_says, 1);
    inner->addLayout(row);
    box->addWidget(m_factor_box);
    connect(m_factor, &NumberField::numberEdited, this, [this] {
        if (const Reading* r = m_context.reading()) showFactor(r->path);
    });
}

void ConstantsView::show(const Reading& reading, const Chain& live) {
    const Chain effective = effective_path(reading);
    QString key = from_std(chain_json(effective).dump() + chain_json(reading.path).dump());
    for (const Reading& r : m_context.session().bench().readings)
        key += from_std(r.name) + QLatin1Char('|');
    if (key != m_key) {
        m_key = key;
        build(reading, effective);
        m_factor->setUnit(from_std(unit_symbol(reading.quantity.unit)) + tr(" per count"));
        m_factor_box->setVisible(take_apart(1, reading.path).has_value());
        showFactor(reading.path);
    }
    // What a followed reading says now.
    Chain now = live;
    for (const auto& [label, where] : m_now)
        for (const NamedConstant& named : constants(now.stages[where.first])) {
            if (named.key != where.second) continue;
            const bool fed = is_fed(*named.constant);
            set_text(label, fed ? tr("now %1").arg(from_std(format_with_doubt(
                                      named.constant->value, 2 * named.constant->doubt, named.unit)))
                                : tr("silent: the value at the left is assumed"));
            label->setColour(fed ? m_context.theme().colours().accent : m_context.theme().colours().look);
        }
}

void ConstantsView::build(const Reading& reading, const Chain& effective) {
    Theme& theme = m_context.theme();
    m_now.clear();
    clear_layout(m_grid);
    Chain chain = effective;
    int row = 0;
    for (std::size_t s = 0; s < chain.stages.size(); ++s) {
        const auto list = constants(chain.stages[s]);
        bool first = true;
        for (const NamedConstant& named : list) {
            const bool own = s < reading.path.stages.size();
            if (!own && named.key == "gain" && named.constant->value == 1) continue;
            if (named.key == "bulge" && named.constant->value == 0) continue;
            if (first) {
                auto* title = new TextLabel(theme, TextLabel::Role::name, from_std(stage_title(chain.stages[s])));
                m_grid->addWidget(title, row++, 0, 1, 4);
                first = false;
            }
            addRow(reading, s, named, row++, own);
        }
    }
    if (row == 0)
        m_grid->addWidget(new TextLabel(theme, TextLabel::Role::body, tr("This path rests on no constants.")), 0, 0,
                          1, 4);
}

void ConstantsView::addRow(const Reading& reading, std::size_t stage, const NamedConstant& named, int row,
                           bool own) {
    Theme& theme = m_context.theme();
    const Constant& c = *named.constant;
    m_grid->addWidget(new TextLabel(theme, TextLabel::Role::body, plain_name(named.key)), row, 0);
    auto* field =
        new NumberField(theme, QStringLiteral("constant_%1").arg(from_std(named.key)), plain_name(named.key), 12);
    field->setUnit(from_std(unit_symbol(named.unit)));
    field->setFixedWidth(std::max(theme.px(100), field->minimumSizeHint().width()));
    field->show(from_std(format_constant(c.value, own ? 6 : 3)));
    field->setReadOnly(!own);
    const std::string today = iso_time(m_context.session().now()).substr(0, 10);
    connect(field, &NumberField::numberEdited, this, [this, stage, key = named.key, today](double value) {
        editConstant(stage, key, tr("Type constant"), [value, today](Constant& constant, bool volts) {
            constant.value = value;
            constant.known_by = KnownBy::hand;
            const InEnglish in_the_file;
            constant.origin =
                volts ? phrase("measured with a meter, {}", today) : phrase("typed by hand, {}", today);
            if (volts) { // what a hand-held meter is good for
                constant.spread = Spread::rectangular;
                constant.doubt = 0.005;
            }
        });
    });
    m_grid->addWidget(field, row, 1);

    auto* doubt = new NumberField(theme, QStringLiteral("doubt_%1").arg(from_std(named.key)),
                                  tr("Doubt of %1").arg(plain_name(named.key)), 12);
    doubt->setFixedWidth(theme.px(72));
    doubt->setUnit(QStringLiteral("±"));
    doubt->show(c.doubt > 0 ? from_std(format_constant(c.doubt, 3)) : QString());
    doubt->setReadOnly(!own);
    doubt->setToolTip(c.spread == Spread::standard ? tr("standard uncertainty, one sigma")
                                                   : tr("half width: the value lies within"));
    connect(doubt, &NumberField::numberEdited, this, [this, stage, key = named.key](double value) {
        editConstant(stage, key, tr("Type doubt"), [value](Constant& constant, bool) {
            constant.doubt = value;
            if (constant.spread == Spread::none) constant.spread = Spread::rectangular;
        });
    });
    m_grid->addWidget(doubt, row, 2);

    std::string origin = c.origin.empty() ? phrase("origin unknown") : read_back(c.origin);
    if (own && reading.correction && c.doubt <= 0) origin += phrase(", now held by the calibration");
    auto* about = new QVBoxLayout; // one below the other: beside each other they need a window of 1280
    about->setSpacing(theme.px(4));
    const std::vector<const Reading*> partners =
        own ? possible_partners(m_context.session().bench(), reading, named,
                                std::holds_alternative<Formula>(reading.path.stages[stage]))
            : std::vector<const Reading*>{};
    auto* words = new TextLabel(theme, TextLabel::Role::soft, from_std(origin));
    words->setWordWrap(true);
    about->addWidget(words);
    if (!partners.empty() || !c.from.empty()) {
        auto* follow = new QComboBox;
        follow->setObjectName(QStringLiteral("follow_%1").arg(from_std(named.key)));
        follow->setAccessibleName(tr("Reading that %1 follows").arg(plain_name(named.key)));
        follow->setMaximumWidth(theme.px(176));
        follow->setSizeAdjustPolicy(QComboBox::AdjustToMinimumContentsLengthWithIcon);
        follow->setMinimumContentsLength(7);
        follow->addItem(tr("follows nothing"), QString());
        for (const Reading* r : partners)
            follow->addItem(tr("follows %1").arg(from_std(r->name)), from_std(r->id));
        if (!c.from.empty() && follow->findData(from_std(c.from)) < 0)
            follow->addItem(tr("follows %1, which is gone").arg(from_std(c.from)), from_std(c.from));
        follow->setCurrentIndex(follow->findData(from_std(c.from)));
        connect(follow, &QComboBox::activated, this, [this, follow, stage, key = named.key](int) {
            const std::string id = follow->currentData().toString().toStdString();
            editConstant(stage, key, tr("Follow a reading"),
                         [id](Constant& constant, bool) { constant.from = id; });
        });
        about->addWidget(follow);
        if (!c.from.empty()) {
            auto* now = new TextLabel(theme, TextLabel::Role::mono_small);
            now->setWordWrap(true);
            now->setObjectName(QStringLiteral("now_%1").arg(from_std(named.key)));
            about->addWidget(now);
            m_now.emplace_back(now, std::pair{stage, named.key});
        }
    }
    m_grid->addLayout(about, row, 3);
}

void ConstantsView::editConstant(std::size_t stage, const std::string& key, const QString& what,
                                 const std::function<void(Constant&, bool)>& change) {
    const Reading* r = m_context.reading();
    if (!r || stage >= r->path.stages.size()) return;
    m_context.session().editReading(r->id, what, [&](Reading& reading) {
        Stage candidate = reading.path.stages[stage];
        for (const NamedConstant& named : constants(candidate))
            if (named.key == key)
                change(*named.constant, named.unit == "V" && std::holds_alternative<Adc>(candidate));
        // The same rules as for a file: a slope of zero or a negative doubt is not taken.
        const auto text = JsonText::parse("typed", stage_json(candidate).dump());
        const auto checked = text ? read_stage(JsonReader(*text)) : tl::make_unexpected(text.error());
        if (checked)
            reading.path.stages[stage] = *checked;
        else
            emit m_context.said(from_std(checked.error().what + phrase(" Nothing was changed.")));
    });
    m_key.clear();
    m_context.refresh();
}

void ConstantsView::showFactor(const Chain& path) {
    const auto typed = m_factor->number();
    const auto parts = typed ? take_apart(*typed, path) : std::nullopt;
    set_text(
        m_factor_says,
        parts
            ? from_std(parts->sentence)
            : tr("Type the number that stands in the code, in %1 for each count: Cognitum says for which reference "
                 "and how many codes it was made.")
                  .arg(from_std(unit_symbol(path.last_unit()))));
    m_factor_says->setColour(!parts        ? m_context.theme().colours().soft
                             : parts->fits ? m_context.theme().colours().good
                                           : m_context.theme().colours().look);
}

} // namespace cognitum
