// The simulated bench: starts cognitum-simboard, beside this program, at the other end of a real link, and a broker
// on loopback where one is needed. Each looks like the real thing from above and can be unplugged.
#pragma once

#include "core/bench/link_plan.h"
#include "link/link.h"

#include <QProcess>
#include <functional>
#include <memory>

namespace cognitum {

/// A broker of our own on a free port of loopback, for simulated boards; one for a bench.
class LocalBroker {
  public:
    ~LocalBroker();
    /// Port of the running broker, started on the first call; 0 with a sentence in trouble() when there is none.
    int port();
    [[nodiscard]] QString trouble() const { return m_trouble; }
    /// Ends it as a crash would; port() starts it again where it was.
    void kill();

  private:
    QProcess m_process;
    int m_port = 0;
    QString m_trouble;
};

/// Program `cognitum-simboard` with the given arguments; ends with its owner.
class SimulatedBoard : public QObject {
    Q_OBJECT

  public:
    SimulatedBoard(QStringList arguments, QObject* parent = nullptr);
    ~SimulatedBoard() override;
    void start();
    void stop();
    void setMore(const QStringList& more) { m_more = more; } ///< arguments of the next start
    void command(const QByteArray& line);                    ///< on its standard input
    /// Handed over in its environment, never in its arguments, which anybody can read.
    void setToken(const QString& token);

  signals:
    void ready(const QString& place); ///< the first line that it printed
    void failed(const QString& reason);
    void ended(); ///< its process did, however that came

  private:
    QStringList m_arguments, m_more;
    QProcess m_process;
};

/// A link with a simulated board at its far end.
class SimulatedLink : public Link {
    Q_OBJECT

  public:
    /// Serial, through a pseudo-terminal. `more`: arguments that are asked for at each start.
    SimulatedLink(const LinkPlan& plan, QStringList arguments, std::function<QStringList()> more = {},
                  QObject* parent = nullptr);
    /// Around another link. `where` tells the board where that one listens, when it is started; `token` is for its
    /// environment.
    SimulatedLink(QStringList arguments, std::unique_ptr<Link> link, std::function<QStringList()> where,
                  const QString& token = {}, QObject* parent = nullptr);

    void start() override;
    void stop() override;
    void send(const QByteArray& bytes) override;
    bool tellState(const QString& name, const QByteArray& line, const QString& topic) override;
    [[nodiscard]] QString place() const override { return m_place.isEmpty() ? m_link->place() : m_place; }
    [[nodiscard]] bool isWire() const override { return m_link->isWire(); }
    [[nodiscard]] std::uint64_t dropped() const override { return m_link->dropped(); }
    void setPlugged(bool plugged) override;
    void flush() override { m_link->flush(); }

  private:
    void forward();
    void startBoard();

    std::unique_ptr<Link> m_link;
    QStringList m_arguments;
    std::function<QStringList()> m_where, m_more;
    std::unique_ptr<SimulatedBoard> m_board;
    QString m_place, m_token;
    bool m_wanted = false;
};

} // namespace cognitum
