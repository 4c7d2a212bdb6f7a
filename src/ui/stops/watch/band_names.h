// Bands with names of a person's own, from the lowest: how far each goes and with which shape.
#pragma once

#include "ui/context.h"

#include <QVBoxLayout>
#include <QWidget>
#include <functional>

namespace cognitum {

class TextLabel;

class BandNames : public QWidget {
    Q_OBJECT

  public:
    explicit BandNames(Context& context, QWidget* parent = nullptr);
    void refresh();

  private:
    void addRow(const Reading& reading, std::size_t i);
    /// Nothing is changed, and it is said why, where the bands would contradict each other.
    void edit(const QString& text, const std::function<void(std::vector<NamedBand>&)>& change);

    Context& m_context;
    QVBoxLayout* m_rows;
    TextLabel* m_trouble;
    QString m_key;
};

} // namespace cognitum
