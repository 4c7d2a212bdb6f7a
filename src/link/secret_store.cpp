#include "link/secret_store.h"

#include <QCoreApplication>
#include <QJsonDocument>
#include <QJsonObject>
#include <QObject>
#include <qt6keychain/keychain.h>

namespace cognitum {

namespace {

const QString service_name = QStringLiteral("cognitum");
const QString user_key = QStringLiteral("user");
const QString password_key = QStringLiteral("password");

class DesktopSecrets : public SecretStore {
  public:
    void keep(const QString& place, const Login& login,
              const std::function<void(const QString& trouble)>& answer) override {
        auto* job = new QKeychain::WritePasswordJob(service_name); // deletes itself when it is done
        job->setKey(place);
        const QJsonObject text{{user_key, login.user}, {password_key, login.password}};
        job->setTextData(QString::fromUtf8(QJsonDocument(text).toJson(QJsonDocument::Compact)));
        QObject::connect(job, &QKeychain::Job::finished, job, [answer](const QKeychain::Job* done) {
            answer(done->error() == QKeychain::NoError
                       ? QString()
                       : QCoreApplication::translate("SecretStore",
                                                     "The desktop’s secret service did not keep it (%1). It is "
                                                     "asked for again at the next start.")
                             .arg(done->errorString()));
        });
        job->start();
    }

    void find(const QString& place, const std::function<void(const std::optional<Login>&)>& answer) override {
        auto* job = new QKeychain::ReadPasswordJob(service_name);
        job->setKey(place);
        QObject::connect(job, &QKeychain::Job::finished, job, [answer, job] {
            const QJsonObject text = QJsonDocument::fromJson(job->textData().toUtf8()).object();
            if (job->error() != QKeychain::NoError || !text.contains(password_key)) return answer({});
            answer(Login{text[user_key].toString(), text[password_key].toString()});
        });
        job->start();
    }

    void forget(const QString& place) override {
        auto* job = new QKeychain::DeletePasswordJob(service_name);
        job->setKey(place);
        job->start();
    }
};

} // namespace

std::unique_ptr<SecretStore> desktop_secrets() {
    return std::make_unique<DesktopSecrets>();
}

} // namespace cognitum
