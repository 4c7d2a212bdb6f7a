#include "ui/stops/calibrate/path_offers_view.h"

#include "ui/widgets/parts.h"

#include <QPushButton>
#include <QVBoxLayout>

namespace cognitum {

PathOffersView::PathOffersView(Context& context, QWidget* parent) : QWidget(parent), m_context(context) {
    auto* layout = new QVBoxLayout(this);
    layout->setContentsMargins(0, 0, 0, 0);
    layout->setSpacing(context.theme().px(4));
    layout->addWidget(
        new TextLabel(context.theme(), TextLabel::Role::soft, tr("Or no correction, but the path itself:")));
    m_rows = new QVBoxLayout;
    m_rows->setSpacing(context.theme().px(2));
    layout->addLayout(m_rows);
    hide();
}

void PathOffersView::show(std::vector<PathOffer> offers) {
    std::string key;
    for (const PathOffer& offer : offers)
        key += offer.id + (offer.possible ? " can " : " cannot ") + offer.words + "\n";
    m_offers = std::move(offers);
    setVisible(!m_offers.empty());
    if (key == m_key) return;
    m_key = key;
    clear_layout(m_rows);
    for (std::size_t i = 0; i < m_offers.size(); ++i) {
        const PathOffer& offer = m_offers[i];
        auto* link = make_link(from_std(offer.title), QStringLiteral("offer_") + from_std(offer.id));
        link->setEnabled(offer.possible);
        link->setToolTip(tr("Ends the calibration: the points become constants of the path, and no correction "
                            "stands behind it. Undo takes it back."));
        connect(link, &QPushButton::clicked, this, [this, i] { emit chosen(m_offers[i]); });
        m_rows->addWidget(link, 0, Qt::AlignLeft);
        auto* words = new TextLabel(m_context.theme(), TextLabel::Role::soft, from_std(offer.words));
        words->setObjectName(QStringLiteral("offerWords_") + from_std(offer.id));
        words->setWordWrap(true);
        m_rows->addWidget(words);
    }
}

} // namespace cognitum
