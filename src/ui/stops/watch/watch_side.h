// Beside the Watch stop: what follows from the record, and rules that this kind of reading needs, to be added with
// one click.
#pragma once

#include "session/archive/watch_record.h"
#include "ui/context.h"

#include <QVBoxLayout>
#include <QWidget>

namespace cognitum {

class TextLabel;

class WatchSide : public QWidget {
    Q_OBJECT

  public:
    explicit WatchSide(Context& context, QWidget* parent = nullptr);
    /// nullptr: it is not known yet.
    void show(const WatchRecord* record);

  signals:
    void wanted(const cognitum::WatchRule& rule);

  private:
    Context& m_context;
    QWidget *m_follows_box, *m_offers_box;
    QVBoxLayout *m_follows, *m_offers;
    QString m_shown;
};

} // namespace cognitum
