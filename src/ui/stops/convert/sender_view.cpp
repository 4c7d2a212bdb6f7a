#include "ui/stops/convert/sender_view.h"

#include "core/base/no_number.h"
#include "core/physics/sound.h"
#include "core/signal_path/board_arithmetic.h"
#include "core/units/format.h"
#include "core/units/unit.h"
#include "ui/widgets/parts.h"

#include <QGridLayout>
#include <QVBoxLayout>
#include <algorithm>
#include <cmath>
#include <fmt/format.h>

namespace cognitum {

SenderView::SenderView(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    setObjectName(QStringLiteral("senderView"));
    Theme& theme = context.theme();
    auto* box = new QVBoxLayout(this);
    box->setContentsMargins(0, 0, 0, 0);
    box->setSpacing(theme.px(10));
    m_truth = new TextLabel(theme, TextLabel::Role::body);
    m_truth->setObjectName(QStringLiteral("senderTruth"));
    m_truth->setWordWrap(true);
    box->addWidget(m_truth);
    m_grid = new QGridLayout;
    m_grid->setHorizontalSpacing(theme.px(16));
    m_grid->setVerticalSpacing(theme.px(9));
    m_grid->setColumnStretch(3, 1);
    box->addLayout(m_grid);
    box->addWidget(new RuleLine(theme));
    m_divisors = new TextLabel(theme, TextLabel::Role::body);
    m_divisors->setObjectName(QStringLiteral("senderDivisors"));
    m_divisors->setWordWrap(true);
    box->addWidget(m_divisors);
    m_sound = new TextLabel(theme, TextLabel::Role::body);
    m_sound->setObjectName(QStringLiteral("senderSound"));
    m_sound->setWordWrap(true);
    box->addWidget(m_sound);
    box->addStretch(1);
}

void SenderView::show(const Chain& chain, const Walk& walk, double doubt) {
    const double raw = walk.steps.front().number;
    const std::string key = fmt::format("{}|{}|{}", chain_json(chain).dump(), raw, doubt);
    if (key == m_key) return;
    m_key = key;
    Theme& theme = m_context.theme();
    const Tokens& t = theme.colours();
    clear_layout(m_grid);
    const std::string unit = chain.last_unit();
    std::vector<SenderWay> ways = walk.result().ok() ? sender_ways(chain, raw) : std::vector<SenderWay>{};
    std::stable_sort(ways.begin(), ways.end(),
                     [](const SenderWay& a, const SenderWay& b) { return std::abs(a.error) > std::abs(b.error); });
    set_text(m_truth, ways.empty() ? tr("There is no value to compute with. Type one at the steps.")
                                   : tr("The board sent %1, which is %2. Its own program may print something else:")
                                         .arg(from_std(format_measure(raw, chain.first_unit(), 6)),
                                              from_std(format_with_doubt(walk.result().number, doubt, unit))));
    int row = 0;
    if (!ways.empty()) {
        const std::array heads = {tr("How it computes"), tr("prints"), tr("off by"), tr("why, and what mends it")};
        for (std::size_t c = 0; c < heads.size(); ++c) {
            auto* head = new TextLabel(theme, TextLabel::Role::soft, heads[c]);
            head->setAlignment(c == 1 || c == 2 ? Qt::AlignRight : Qt::AlignLeft);
            m_grid->addWidget(head, row, static_cast<int>(c));
        }
        ++row;
    }
    for (const SenderWay& way : ways) {
        const bool matters = !std::isfinite(way.error) || std::abs(way.error) > doubt;
        m_grid->addWidget(new TextLabel(theme, TextLabel::Role::body, from_std(way.title)), row, 0, Qt::AlignTop);
        auto* prints =
            new TextLabel(theme, TextLabel::Role::mono, way.prints.empty() ? tr("nothing") : from_std(way.prints));
        prints->setObjectName(QStringLiteral("sender_%1").arg(from_std(way.id)));
        m_grid->addWidget(prints, row, 1, Qt::AlignRight | Qt::AlignTop);
        auto* off =
            new TextLabel(theme, TextLabel::Role::mono,
                          std::isfinite(way.error)
                              ? from_std((way.error > 0 ? "+" : "") + format_value(way.error, doubt / 10, unit))
                              : QStringLiteral("—"));
        off->setColour(matters ? t.bad : t.good);
        m_grid->addWidget(off, row, 2, Qt::AlignRight | Qt::AlignTop);
        auto* why = new QVBoxLayout;
        why->setSpacing(theme.px(2));
        auto* what = new TextLabel(theme, TextLabel::Role::soft, from_std(way.what));
        what->setWordWrap(true);
        why->addWidget(what);
        if (matters && !way.mend.empty()) {
            auto* mend = new TextLabel(theme, TextLabel::Role::mono_small, from_std(way.mend));
            mend->setObjectName(QStringLiteral("sender_line"));
            mend->setWordWrap(true);
            mend->setTextInteractionFlags(Qt::TextSelectableByMouse);
            why->addWidget(mend);
        }
        m_grid->addLayout(why, row++, 3);
    }
    const double gap = walk.result().ok() ? convention_gap(chain, raw) : no_number;
    m_divisors->setVisible(std::isfinite(gap));
    if (std::isfinite(gap))
        set_text(m_divisors,
                 tr("Divided by 2^N − 1 instead of 2^N it would read %1 more: %2. A converter has 2^N codes, so "
                    "2^N is right; the other way is off by one code at the top and by nothing at the bottom.")
                     .arg(from_std(format_value(gap, std::max(std::abs(gap) / 20, 1e-9), unit)),
                          std::abs(gap) > doubt ? tr("more than the doubt") : tr("less than the doubt")));
    const auto fixed = with_fixed_speed(chain, raw, physics::dry_speed_of_sound(20));
    m_sound->setVisible(fixed.has_value());
    if (fixed) {
        const double millimetres = fixed->distance_mm;
        const bool litres = !same_unit(unit, "mm");
        const QString how = millimetres > 0 ? tr("long") : tr("short");
        const QString result =
            litres ? tr(", which makes %1")
                         .arg(from_std((fixed->result > 0 ? "+" : "") + format_value(fixed->result, 0.5, unit)))
                   : QString();
        set_text(
            m_sound,
            tr("With the fixed speed of sound at 20 °C (%1 m/s instead of %2 m/s) the distance comes out %3 too "
               "%4%5. It costs about 0.18 % of the distance for each degree.")
                .arg(from_std(format_fixed(fixed->fixed_m_s, 1)), from_std(format_fixed(fixed->real_m_s, 1)),
                     from_std(format_value(std::abs(millimetres), 0.5, "mm")), how, result));
    }
}

} // namespace cognitum
