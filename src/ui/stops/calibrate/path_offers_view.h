// What the points could become in the path itself, each with the constants that it would have: one click ends the
// calibration that way.
#pragma once

#include "core/calibrate/path_offers.h"
#include "ui/context.h"

#include <QWidget>

class QVBoxLayout;

namespace cognitum {

class PathOffersView : public QWidget {
    Q_OBJECT

  public:
    explicit PathOffersView(Context& context, QWidget* parent = nullptr);

    /// Built anew only when a word differs; hidden without an offer.
    void show(std::vector<PathOffer> offers);

  signals:
    void chosen(const PathOffer& offer);

  private:
    Context& m_context;
    QVBoxLayout* m_rows;
    std::vector<PathOffer> m_offers;
    std::string m_key;
};

} // namespace cognitum
