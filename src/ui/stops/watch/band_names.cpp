#include "ui/stops/watch/band_names.h"

#include "core/base/phrase.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/stops/watch/form_rows.h"
#include "ui/widgets/number_field.h"

#include <QComboBox>

namespace cognitum {

namespace {

/// What to begin with: low, in range and high as they are, or a third of what is expected each.
std::vector<NamedBand> three_bands(const Reading& r) {
    const Quantity& q = r.quantity;
    const double third = (q.high - q.low) / 3;
    const Bands limits = r.bands.value_or(Bands{q.low + third, q.high - third, 0});
    return {{"low", limits.low, WatchRank::look},
            {phrase("in range"), limits.high, WatchRank::note},
            {"high", 0, WatchRank::look}};
}

/// One more above: as wide as the one below it.
void add_band_above(std::vector<NamedBand>& bands) {
    const std::size_t n = bands.size();
    const double below = bands[n - 2].to;
    const double width = n > 2 ? below - bands[n - 3].to : std::max(1.0, std::abs(below));
    bands.back().to = below + width;
    bands.push_back({"higher", 0, WatchRank::bad});
}

} // namespace

BandNames::BandNames(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    Theme& theme = context.theme();
    auto* all = new QVBoxLayout(this);
    all->setContentsMargins(0, 0, 0, 0);
    all->setSpacing(theme.px(6));
    m_rows = new QVBoxLayout;
    m_rows->setSpacing(theme.px(6));
    all->addLayout(m_rows);
    auto* more = make_link(tr("Name a band"), QStringLiteral("bandAdd"));
    all->addWidget(more, 0, Qt::AlignLeft);
    m_trouble = new TextLabel(theme, TextLabel::Role::body);
    m_trouble->setObjectName(QStringLiteral("bandTrouble"));
    m_trouble->setColour(theme.colours().bad);
    m_trouble->hide();
    all->addWidget(m_trouble);
    connect(more, &QPushButton::clicked, this, [this] {
        const Reading* r = m_context.reading();
        if (!r) return;
        edit(tr("Name a band"), [&](std::vector<NamedBand>& bands) {
            if (bands.size() < 2)
                bands = three_bands(*r);
            else
                add_band_above(bands);
        });
    });
}

void BandNames::edit(const QString& text, const std::function<void(std::vector<NamedBand>&)>& change) {
    const Reading* r = m_context.reading();
    if (!r) return;
    std::vector<NamedBand> bands = r->named_bands;
    change(bands);
    if (bands.size() == 1) bands.clear(); // the last but one was removed
    const std::string defect = defect_of(bands);
    m_trouble->setVisible(!defect.empty());
    if (!defect.empty()) {
        std::string says = defect;
        if (says[0] >= 'a' && says[0] <= 'z') says[0] = static_cast<char>(says[0] - 'a' + 'A');
        set_text(m_trouble, from_std(says) + tr(" Nothing was changed."));
    } else {
        m_context.session().editReading(r->id, text, [&](Reading& reading) { reading.named_bands = bands; });
    }
    m_key.clear(); // what was typed and refused is shown as it is
    m_context.refresh();
    refresh();
}

void BandNames::refresh() {
    const Reading* r = m_context.reading();
    if (!r) return;
    QString key = from_std(r->id + "|" + r->quantity.unit);
    for (const NamedBand& b : r->named_bands)
        key += QStringLiteral("|%1|%2|%3").arg(from_std(b.name)).arg(b.to).arg(static_cast<int>(b.rank));
    if (key == m_key) return;
    m_key = key;
    clear_layout(m_rows);
    for (std::size_t i = 0; i < r->named_bands.size(); ++i)
        addRow(*r, i);
}

void BandNames::addRow(const Reading& reading, std::size_t i) {
    Theme& theme = m_context.theme();
    const NamedBand& band = reading.named_bands[i];
    const bool last = i + 1 == reading.named_bands.size();
    const QString number = QString::number(i);
    auto* name = make_field("bandName", tr("Name of the band"), tr("such as “frost”"));
    name->setObjectName(QStringLiteral("bandName") + number);
    name->setText(from_std(band.name));
    name->setFixedWidth(theme.px(220));
    auto* to = new NumberField(theme, QStringLiteral("bandTo") + number, tr("Up to"));
    to->setUnit(from_std(unit_symbol(reading.quantity.unit)));
    to->setFixedWidth(theme.px(112));
    to->show(last ? QString() : from_std(format_constant(band.to, 7)));
    auto* rank = new QComboBox;
    rank->setObjectName(QStringLiteral("bandRank") + number);
    rank->setAccessibleName(tr("Shape of the band"));
    rank->addItem(tr("● fine"), static_cast<int>(WatchRank::note));
    rank->addItem(tr("▲ needs a look"), static_cast<int>(WatchRank::look));
    rank->addItem(tr("◆ must not be"), static_cast<int>(WatchRank::bad));
    rank->setCurrentIndex(static_cast<int>(band.rank));
    auto* remove = make_link(tr("Remove"), QStringLiteral("bandRemove") + number);
    m_rows->addLayout(
        row_of(theme, {name, rank, soft_label(theme, last ? tr("all above") : tr("up to")), to, remove}));
    to->setVisible(!last);
    connect(name, &QLineEdit::editingFinished, this, [this, i, name] {
        const std::string typed = name->text().trimmed().toStdString();
        const Reading* r = m_context.reading();
        if (!r || i >= r->named_bands.size() || r->named_bands[i].name == typed) return;
        edit(tr("Name a band"), [&](std::vector<NamedBand>& bands) { bands[i].name = typed; });
    });
    connect(to, &NumberField::numberEdited, this, [this, i](double v) {
        edit(tr("Change a band"), [&](std::vector<NamedBand>& bands) {
            if (i < bands.size()) bands[i].to = v;
        });
    });
    connect(rank, &QComboBox::activated, this, [this, i, rank] {
        const auto chosen = static_cast<WatchRank>(rank->currentData().toInt());
        edit(tr("Change a band"), [&](std::vector<NamedBand>& bands) {
            if (i < bands.size()) bands[i].rank = chosen;
        });
    });
    connect(remove, &QPushButton::clicked, this, [this, i] {
        edit(tr("Remove a band"), [&](std::vector<NamedBand>& bands) {
            if (i < bands.size()) bands.erase(bands.begin() + static_cast<std::ptrdiff_t>(i));
        });
    });
}

} // namespace cognitum
