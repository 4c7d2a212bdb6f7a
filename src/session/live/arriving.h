// What boards send before anybody has said what it is: on every port of this computer that no board of the bench
// has, and on links that a person asked for. Each field comes with a proposal of what it may be, and one step makes
// it a reading. The bench knows nothing of what is only listened to here.
#pragma once

#include "core/bringup/field_proposal.h"
#include "core/units/quantity_kind.h"
#include "session/live/live.h"
#include "session/session.h"

#include <QTimer>

namespace cognitum {

struct ArrivedField {
    std::string name;
    QString example;                ///< last text of it
    std::vector<RawSample> samples; ///< the last `most_samples`
    FieldProposal proposal;
    std::string reading; ///< of the bench that has it; empty: none
    static constexpr std::size_t most_samples = 240;
};

struct ArrivingBoard {
    std::string id;    ///< of this list
    std::string board; ///< of the bench; empty: it is not in it yet
    QString title;     ///< "/dev/ttyUSB0", "broker at localhost"
    QString about;     ///< what the system knows of the port
    LinkPlan link;
    LiveBoard live;
    std::vector<ArrivedField> fields; ///< in the order of their first coming, at most `most_fields`
    std::string card;                 ///< board card that its numbers suggest; of a board of the bench its own
    static constexpr std::size_t most_fields = 60;
    [[nodiscard]] bool sends() const { return !fields.empty(); }
};

/// A reading of that kind as a person begins with it: the kind's usual range and accuracy, a name and an id of its
/// own.
Reading new_reading(const Bench& bench, const QuantityKind& kind, const std::string& wanted_name);

class Arrivals : public QObject {
    Q_OBJECT

  public:
    Arrivals(Session& session, SessionOptions options);
    ~Arrivals() override;

    /// Listens to every port on USB that comes, until end().
    void begin();
    void end();
    [[nodiscard]] bool isListening() const { return m_worker != nullptr; }
    /// A link that a person asked for: a broker, posts, a file, a simulated board, a port by its path.
    void listenTo(const LinkPlan& link, const QString& title);
    /// What arrives now; `live`: of the bench's own boards. Cheap; asked twice a second.
    std::vector<ArrivingBoard> look(const Live& live);
    /// A field becomes a reading of that kind, and its board one of the bench, in one step of undo. `card`: what
    /// its board is like. Id of the reading; empty: it is gone, or the bench cannot be changed.
    std::string take(const std::string& arriving, const std::string& field, const std::string& card,
                     const std::string& kind);

    /// As if it had been sent there; for tests and pictures.
    void injectNow(const std::string& arriving, const QByteArray& bytes) {
        if (m_worker) m_worker->injectBytesNow(arriving, bytes);
    }

  private:
    struct Heard {
        BoardUse use;
        QString title, about;
        bool asked_for = false; ///< by a person: it stays when no such port is there
    };
    void lookAtPorts();
    void tellWorker();
    [[nodiscard]] bool isOfBench(const LinkPlan& link) const;

    Session& m_session;
    SessionOptions m_options;
    std::unique_ptr<Worker> m_worker;
    std::vector<Heard> m_heard;
    Bench m_scratch; ///< a reading for each field that came, so that its numbers are kept
    Live m_live;
    std::vector<ArrivingBoard> m_seen;
    QTimer m_ports;
    int m_next = 1;
};

} // namespace cognitum
