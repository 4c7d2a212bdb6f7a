// User names and passwords that links and the broker ask for: given by a person, or found where the desktop keeps
// secrets. In the interface's thread.
#pragma once

#include "link/secret_store.h"
#include "session/live/live.h"

#include <QObject>
#include <memory>
#include <set>
#include <string>

namespace cognitum {

class Session;

class Secrets : public QObject {
    Q_OBJECT

  public:
    explicit Secrets(Session& session);
    /// Where secrets are kept; null (as a test begins): nowhere, they are asked for at each start.
    void setStore(std::unique_ptr<SecretStore> store) { m_store = std::move(store); }
    [[nodiscard]] bool canKeep() const { return m_store != nullptr; }

    void giveToBoard(const std::string& board, const Login& login, bool keep);
    void giveToBroker(const Login& login, bool keep);
    /// What a link of this bench or its broker waits for, and nobody looked for yet, is looked for.
    void look();
    /// Forgets what the desktop keeps for the links and the broker of the open bench. How many places that were.
    int forgetAll();

  signals:
    void said(const QString& sentence);

  private:
    void keep(const QString& place, const Login& login);
    [[nodiscard]] QString brokerPlace() const;
    Session& m_session;
    std::unique_ptr<SecretStore> m_store;
    Live m_live;
    std::set<QString> m_looked_for; ///< in this bench: what was refused is not tried again
};

} // namespace cognitum
