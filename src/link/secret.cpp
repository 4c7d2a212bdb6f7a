#include "link/secret.h"

#include <QCryptographicHash>
#include <QRandomGenerator>

namespace cognitum {

QString new_token() {
    QByteArray bytes(16, '\0');
    for (char& c : bytes)
        c = static_cast<char>(QRandomGenerator::system()->bounded(256));
    return QString::fromLatin1(bytes.toHex());
}

std::string token_print(const QString& token) {
    return QCryptographicHash::hash(token.toUtf8(), QCryptographicHash::Sha256).toHex().toStdString();
}

bool same_secret(const std::string& a, const std::string& b) {
    unsigned different = static_cast<unsigned>(a.size() ^ b.size());
    for (std::size_t i = 0; i < a.size() && i < b.size(); ++i)
        different |= static_cast<unsigned>(static_cast<unsigned char>(a[i]) ^ static_cast<unsigned char>(b[i]));
    return different == 0;
}

} // namespace cognitum
