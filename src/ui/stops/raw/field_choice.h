// Which field of the board's lines a reading takes, with an example of each; for a pulse also the wave behind it.
#pragma once

#include "ui/context.h"

#include <QComboBox>
#include <QWidget>

namespace cognitum {

class FieldChoice : public QWidget {
    Q_OBJECT

  public:
    explicit FieldChoice(Context& context, QWidget* parent = nullptr);
    void refresh();

  private:
    void take(QComboBox* box, const QString& undo_text, std::string Source::*member);
    void fill(QComboBox* box, const std::string& chosen, const QString& none);

    Context& m_context;
    QComboBox *m_field, *m_signal;
    QWidget* m_signal_row;
    QString m_key;
};

} // namespace cognitum
