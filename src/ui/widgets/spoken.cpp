#include "ui/widgets/spoken.h"

#include <QAccessibleWidget>
#include <QWidget>

namespace cognitum {

namespace {

class SpokenAccess : public QAccessibleWidget {
  public:
    SpokenAccess(QWidget* widget, const Spoken& spoken)
        : QAccessibleWidget(widget, spoken.spokenRole()), m_spoken(spoken) {}
    [[nodiscard]] QString text(QAccessible::Text kind) const override {
        return kind == QAccessible::Description ? m_spoken.spoken() : QAccessibleWidget::text(kind);
    }

  private:
    const Spoken& m_spoken; ///< the widget itself
};

QAccessibleInterface* speak(const QString& /*type*/, QObject* object) {
    const auto* spoken = dynamic_cast<Spoken*>(object);
    return spoken ? new SpokenAccess(static_cast<QWidget*>(object), *spoken) : nullptr;
}

} // namespace

void install_spoken() {
    static const bool once = [] {
        QAccessible::installFactory(speak);
        return true;
    }();
    (void)once;
}

} // namespace cognitum
