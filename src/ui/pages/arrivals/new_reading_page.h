// What do you want to know? Two ways to a new reading: from what boards send already, or by its kind, before
// anything is wired. A new bench begins here.
#pragma once

#include "ui/widgets/page.h"

#include <QGridLayout>
#include <QTimer>

class QGridLayout;

namespace cognitum {

class ArrivingView;

class NewReadingPage : public Page {
    Q_OBJECT

  public:
    NewReadingPage(Context& context, QWidget* parent);
    [[nodiscard]] bool wantsSide() const override { return false; }

  signals:
    void planned(const QString& kind); ///< id of a QuantityKind

  protected:
    void refresh() override;
    void showEvent(QShowEvent* event) override;
    void hideEvent(QHideEvent* event) override;

  private:
    void buildWays();
    void buildKinds();
    void placeKinds();
    void resizeEvent(QResizeEvent* event) override;
    void look();
    void take(const std::string& arriving, const QString& field, const QString& kind);
    void listenToPort();
    void listenToBroker();
    void listenToFile();

    QVBoxLayout* m_boards;
    TextLabel* m_nothing;
    std::map<std::string, ArrivingView*> m_views; ///< by id of the arriving board
    QTimer m_often;
    QGridLayout* m_kinds = nullptr;
    std::vector<QPushButton*> m_kind_buttons;
    int m_kind_columns = 0;
};

} // namespace cognitum
