#include "link/remote_key.h"

#include <QHostAddress>
#include <QNetworkInterface>
#include <QRandomGenerator>
#include <httplib.h>
#include <mutex>
#include <thread>

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

/// The first address of this computer that others in the network can reach.
QString own_address() {
    for (const QHostAddress& address : QNetworkInterface::allAddresses())
        if (address.protocol() == QAbstractSocket::IPv4Protocol && !address.isLoopback() && !address.isLinkLocal())
            return address.toString();
    return QStringLiteral("127.0.0.1");
}

} // namespace

struct RemoteKey::Server {
    httplib::Server http;
    std::thread thread;
    std::mutex mutex;
    std::string says = "…";
    ~Server() {
        http.stop();
        if (thread.joinable()) thread.join();
    }
};

RemoteKey::RemoteKey(QObject* parent) : QObject(parent) {}
RemoteKey::~RemoteKey() = default;

Result<QString> RemoteKey::open(bool loopback) {
    m_server = std::make_unique<Server>();
    Server& server = *m_server;
    server.http.new_task_queue = [] { return new httplib::ThreadPool(2); };
    server.http.set_read_timeout(2, 0);
    server.http.set_payload_max_length(1024); // a press has no body
    const QString secret = QString::number(QRandomGenerator::system()->generate64(), 36);
    const std::string path = "/" + secret.toStdString();
    server.http.Get(path, [](const httplib::Request&, httplib::Response& response) {
        response.set_content(page, "text/html; charset=utf-8");
    });
    server.http.Get(path + "/says", [&server](const httplib::Request&, httplib::Response& response) {
        const std::lock_guard lock(server.mutex);
        response.set_content(server.says, "text/plain; charset=utf-8");
    });
    server.http.Post(path, [this](const httplib::Request&, httplib::Response& response) {
        emit pressed(); // queued: this is another thread
        response.set_content("ok\n", "text/plain");
    });
    const QString host = loopback ? QStringLiteral("127.0.0.1") : own_address();
    const int port = server.http.bind_to_any_port(loopback ? "127.0.0.1" : "0.0.0.0");
    if (port <= 0) {
        m_server.reset();
        return failure("no port is free for the phone’s page.", {},
                       "Close another program that listens, and try again.");
    }
    server.thread = std::thread([&server] { server.http.listen_after_bind(); });
    while (!server.http.is_running()) // stop() only works on one that runs; it takes microseconds
        std::this_thread::yield();
    return QStringLiteral("http://%1:%2/%3").arg(host).arg(port).arg(secret);
}

void RemoteKey::say(const QString& text) {
    if (!m_server) return;
    const std::lock_guard lock(m_server->mutex);
    m_server->says = text.toStdString();
}

} // namespace cognitum
