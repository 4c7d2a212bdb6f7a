#include "session/publish/phone_button.h"

#include "link/http_server.h"
#include "link/secret.h"

#include <QHostAddress>
#include <QNetworkInterface>
#include <mutex>

namespace cognitum {

namespace {

constexpr const char* page = R"html(<!doctype html><html lang="en"><meta charset="utf-8">
<meta name="viewport" content="width=device-width, initial-scale=1"><title>Take the point</title>
<style>body{font:18px sans-serif;margin:8vmin;background:#f3ecdf;color:#20242a}
button{width:100%;font-size:9vmin;padding:9vmin 0;border:0;background:#0b6670;color:#fff}
p{min-height:3em}</style>
<p id="says">…</p><button onclick="fetch(location.pathname,{method:'POST'}).then(look)">Take the point</button>
<script>function look(){fetch(location.pathname+'/says').then(r=>r.text()).then(t=>says.textContent=t)
.catch(()=>says.textContent='No answer: it is switched off, or out of reach.')}
setInterval(look,700);look()</script></html>)html";

} // namespace

QStringList PhoneButton::addresses() {
    QStringList out;
    for (const QHostAddress& address : QNetworkInterface::allAddresses())
        if (address.protocol() == QAbstractSocket::IPv4Protocol && !address.isLoopback() && !address.isLinkLocal())
            out << address.toString();
    return out;
}

struct PhoneButton::Shown {
    std::mutex mutex;
    std::string says = "…";
};

PhoneButton::PhoneButton(QObject* parent) : QObject(parent), m_shown(std::make_unique<Shown>()) {}
PhoneButton::~PhoneButton() = default;

Result<QString> PhoneButton::open(const QString& address) {
    constexpr std::size_t longest_press = 1024; // a press has no body
    const std::string secret = "/" + new_token().toStdString();
    m_server = std::make_unique<HttpServer>(
        address.toStdString(), 0, longest_press, [this, secret](const HttpRequest& request) -> HttpAnswer {
            const bool asks = request.path.ends_with("/says");
            const std::string path = asks ? request.path.substr(0, request.path.size() - 5) : request.path;
            if (!same_secret(path, secret)) return {404, "nothing here\n"};
            if (asks) {
                const std::lock_guard lock(m_shown->mutex);
                return {200, m_shown->says};
            }
            if (request.method != "POST") return {200, page, "text/html; charset=utf-8"};
            emit pressed(); // queued: this is another thread
            return {200, "ok\n"};
        });
    if (m_server->listen())
        return QStringLiteral("http://%1:%2%3")
            .arg(address)
            .arg(m_server->port())
            .arg(QString::fromStdString(secret));
    m_server.reset();
    return failure("this computer cannot listen for the phone at that address.", address.toStdString(),
                   "Choose another address of this computer.");
}

void PhoneButton::say(const QString& text) {
    const std::lock_guard lock(m_shown->mutex);
    m_shown->says = text.toStdString();
}

} // namespace cognitum
