// User names and passwords of brokers, kept by the desktop's secret service (Secret Service API): never in a bench,
// never in a file of ours. Nothing here waits; answers come in the asker's thread.
#pragma once

#include <QString>
#include <functional>
#include <memory>
#include <optional>

namespace cognitum {

struct Login {
    QString user, password;
    bool operator==(const Login&) const = default;
};

class SecretStore {
  public:
    virtual ~SecretStore() = default;
    /// `place`: see broker_place(). `trouble` empty: kept; else why not, in a sentence.
    virtual void keep(const QString& place, const Login& login,
                      const std::function<void(const QString& trouble)>& answer) = 0;
    /// Nothing: there is none, or the service is not there or locked.
    virtual void find(const QString& place, const std::function<void(const std::optional<Login>&)>& answer) = 0;
    virtual void forget(const QString& place) = 0;
};

/// The secret service of this desktop session. Needs an event loop.
std::unique_ptr<SecretStore> desktop_secrets();

} // namespace cognitum
