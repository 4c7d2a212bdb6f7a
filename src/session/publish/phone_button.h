// One button on a phone: a small page in the own network that takes a calibration's point from where the hand is.
// Off unless somebody switches it on, reachable only with the address' secret, gone when it is switched off.
#pragma once

#include "core/base/error.h"

#include <QObject>
#include <QString>
#include <QStringList>
#include <memory>

namespace cognitum {

class HttpServer;

class PhoneButton : public QObject {
    Q_OBJECT

  public:
    explicit PhoneButton(QObject* parent = nullptr);
    ~PhoneButton() override;
    PhoneButton(const PhoneButton&) = delete;
    PhoneButton& operator=(const PhoneButton&) = delete;

    /// Addresses at which others in the network reach this computer.
    static QStringList addresses();
    /// Begins to listen at one address of this computer; returns what to open on the phone, with a secret of 128
    /// bits that is good for as long as this object lives. Error when it cannot listen there.
    Result<QString> open(const QString& address);
    /// What the page shows beside its button.
    void say(const QString& text);

  signals:
    void pressed();

  private:
    struct Shown;
    std::unique_ptr<Shown> m_shown;
    std::unique_ptr<HttpServer> m_server; ///< ends first: its thread uses the other
};

} // namespace cognitum
