// A way on which a board's bytes arrive. All links look like this from above: they start, say how they are in
// words, hand over bytes or whole messages, come back by themselves, and take commands for the board. A link lives
// in one thread with an event loop, never the GUI's.
#pragma once

#include "core/base/time.h"

#include <QByteArray>
#include <QObject>
#include <QString>

namespace cognitum {

enum class LinkState {
    closed,
    opening,
    open,
    lost, ///< it comes back by itself
};

/// A message that is whole by itself: a payload under a topic, a posted body.
struct LinkMessage {
    QString channel; ///< topic or path
    QByteArray payload;
    bool kept = false; ///< the broker kept it for whoever comes: its age is not known
};

class Link : public QObject {
    Q_OBJECT

  public:
    explicit Link(QObject* parent = nullptr) : QObject(parent) {}

    virtual void start() = 0;
    virtual void stop() = 0;
    /// A command to the board, as it is; dropped when the link is not open.
    virtual void send(const QByteArray& bytes) = 0;
    /// What something at the board should be, by its name: only the newest line of a name waits where a link has a
    /// queue. `topic`: of a broker; empty: the way of commands. False: it cannot be told now, or takes no commands.
    virtual bool tellState(const QString& /*name*/, const QByteArray& /*line*/, const QString& /*topic*/) {
        return false;
    }
    /// Device path or address for a person; empty when there is none yet.
    [[nodiscard]] virtual QString place() const = 0;
    /// True when a program that opens it may ask a board for its header ("reset").
    [[nodiscard]] virtual bool isWire() const { return false; }
    /// Hands over at once what has arrived and waits for its turn.
    virtual void flush() {}
    /// For a simulated board: pulls the cable, or puts it back.
    virtual void setPlugged(bool /*plugged*/) {}
    /// Messages that came faster than they were taken, and were let go.
    [[nodiscard]] virtual std::uint64_t dropped() const { return 0; }
    /// User name and password that were asked for.
    virtual void logIn(const QString& /*user*/, const QString& /*password*/) {}
    /// A person allowed on this computer that it listens to the whole network, as its plan asks.
    virtual void allowWide() {}

  signals:
    void bytes(const QByteArray& data);
    void message(const cognitum::LinkMessage& message);
    /// `reason` is a sentence for a person: what is wrong and what to do, or what is worth knowing; empty when all
    /// is well.
    void stateChanged(cognitum::LinkState state, const QString& reason);
    /// Something was found out and should stand in the plan: the speed of a port.
    void speedFound(int baud);
    /// It cannot go on without a user name and password; answered by logIn().
    void secretWanted(const QString& what);
    /// Its plan asks for something that a stranger's bench must not have unasked; answered by allowWide().
    void permissionWanted(const QString& what);
};

} // namespace cognitum
