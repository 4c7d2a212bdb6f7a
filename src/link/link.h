// A way on which a board's bytes arrive. All links look like this from above: they start, say how they are in
// words, hand over bytes with their arrival time, come back by themselves, and take commands for the board. A link
// lives in one thread with an event loop, never the GUI's.
#pragma once

#include "core/base/time.h"

#include <QByteArray>
#include <QObject>
#include <QString>

namespace cognitum {

enum class LinkState { closed, opening, open, lost };

class Link : public QObject {
    Q_OBJECT

  public:
    explicit Link(QObject* parent = nullptr) : QObject(parent) {}

    virtual void start() = 0;
    virtual void stop() = 0;
    /// Bytes to the board, as they are; dropped when the link is not open.
    virtual void send(const QByteArray& bytes) = 0;
    /// Device path or address for a person; empty when there is none yet.
    [[nodiscard]] virtual QString place() const = 0;

  signals:
    void bytes(const QByteArray& data);
    /// `reason` is a sentence for a person: what is wrong and what to do; empty when all is well.
    void stateChanged(cognitum::LinkState state, const QString& reason);
};

} // namespace cognitum
