#include "session/secrets.h"

#include "link/mqtt_link.h"
#include "session/session.h"

#include <QPointer>

namespace cognitum {

Secrets::Secrets(Session& session) : m_session(session) {
    connect(&session, &Session::benchOpened, this, [this] { m_looked_for.clear(); });
}

QString Secrets::brokerPlace() const {
    const Publishing& plan = m_session.bench().publishing;
    return broker_place(plan.host, plan.port, false);
}

void Secrets::keep(const QString& place, const Login& login) {
    if (!m_store) return;
    m_store->keep(place, login, [self = QPointer<Secrets>(this)](const QString& trouble) {
        if (self)
            emit self->said(trouble.isEmpty() ? tr("The desktop’s secret service keeps the password.") : trouble);
    });
}

void Secrets::giveToBoard(const std::string& board, const Login& login, bool keep_it) {
    const BoardUse* use = m_session.bench().board(board);
    if (keep_it && use && use->link.kind == LinkKind::mqtt)
        keep(broker_place(use->link.mqtt.host, use->link.mqtt.port, use->link.mqtt.tls), login);
    m_session.worker().logIn(board, login.user, login.password);
}

void Secrets::giveToBroker(const Login& login, bool keep_it) {
    if (keep_it) keep(brokerPlace(), login);
    m_session.messenger().logIn(login.user, login.password);
}

void Secrets::look() {
    if (!m_store || !m_session.isOpen()) return;
    const QPointer<Secrets> self(this);
    const std::uint64_t opened = m_session.archive().opened();
    const auto same_bench = [self, opened] { return self && self->m_session.archive().opened() == opened; };
    m_session.worker().pull(m_live);
    for (const auto& [id, board] : m_live.boards) {
        const QString place = board.secret_wanted;
        if (place.isEmpty() || !m_looked_for.insert(QString::fromStdString(id) + place).second) continue;
        m_store->find(place, [self, same_bench, board_id = id](const std::optional<Login>& found) {
            if (found && same_bench()) self->m_session.worker().logIn(board_id, found->user, found->password);
        });
    }
    const Publishing& plan = m_session.bench().publishing;
    if (plan.host.empty() || !m_session.messenger().wantsSecret()) return;
    const QString place = brokerPlace();
    if (!m_looked_for.insert(place).second) return;
    m_store->find(place, [self, same_bench, place](const std::optional<Login>& found) {
        if (found && same_bench() && self->brokerPlace() == place)
            self->m_session.messenger().logIn(found->user, found->password);
    });
}

int Secrets::forgetAll() {
    if (!m_store) return 0;
    std::set<QString> places;
    for (const BoardUse& use : m_session.bench().boards)
        if (use.link.kind == LinkKind::mqtt)
            places.insert(broker_place(use.link.mqtt.host, use.link.mqtt.port, use.link.mqtt.tls));
    if (!m_session.bench().publishing.host.empty()) places.insert(brokerPlace());
    for (const QString& place : places)
        m_store->forget(place);
    return static_cast<int>(places.size());
}

} // namespace cognitum
