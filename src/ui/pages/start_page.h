// First start: the demo bench, a new bench, or a file.
#pragma once

#include "ui/theme.h"

#include <QVBoxLayout>
#include <QWidget>

namespace cognitum {

class StartPage : public QWidget {
    Q_OBJECT

  public:
    explicit StartPage(Theme& theme, QWidget* parent = nullptr);

  signals:
    void demoAsked();
    void walkAsked();
    void newAsked();
    void openAsked();
    void recentAsked(const QString& path);

  private:
    void buildRecent(Theme& theme, QVBoxLayout* column);
};

} // namespace cognitum
