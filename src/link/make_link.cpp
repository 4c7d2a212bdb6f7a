#include "link/make_link.h"

#include "link/file_link.h"
#include "link/http_receiver.h"
#include "link/listening.h"
#include "link/mqtt_link.h"
#include "link/secret.h"
#include "link/serial_link.h"

#include <QDir>
#include <QTimer>

namespace cognitum {

namespace {

/// One for each port; those that ask to listen wide, and have tokens, are apart from those that have none.
std::shared_ptr<HttpReceiver> receiver_for(const HttpPlan& plan, LinkServices& services) {
    auto& known = services.receivers[{plan.port, plan.wide}];
    if (auto receiver = known.lock()) return receiver;
    auto receiver = std::make_shared<HttpReceiver>(plan.port, plan.wide && is_wide_allowed(plan));
    known = receiver;
    return receiver;
}

QStringList simulation_arguments(const BoardUse& board, const LinkServices& services) {
    const std::string name = services.simulated_as ? services.simulated_as(board.id) : board.id;
    return services.simulation_arguments + QStringList{QStringLiteral("--board"), QString::fromStdString(name),
                                                       QStringLiteral("--seed"), QString::number(board.link.seed)};
}

std::unique_ptr<Link> simulated_wire(const BoardUse& board, const LinkServices& services) {
    std::function<QStringList()> program;
    if (board.link.processor && services.plan_file)
        program = [keep = services.plan_file, id = QString::fromStdString(board.id)] {
            return QStringList{QStringLiteral("--program"), keep(), QStringLiteral("--plan-board"), id};
        };
    return std::make_unique<SimulatedLink>(board.link, simulation_arguments(board, services), std::move(program));
}

std::unique_ptr<Link> simulated_mqtt(const BoardUse& board, LinkServices& services) {
    if (!services.broker) services.broker = std::make_unique<LocalBroker>();
    LocalBroker* broker = services.broker.get();
    LinkPlan plan = board.link;
    plan.mqtt.host = "127.0.0.1";
    plan.mqtt.port = broker->port();
    const QString where = QStringLiteral("127.0.0.1:%1").arg(plan.mqtt.port);
    const QString trouble = broker->trouble();
    auto link = std::make_unique<SimulatedLink>(simulation_arguments(board, services),
                                                std::make_unique<MqttLink>(plan), [where] {
                                                    return QStringList{QStringLiteral("--mqtt"), where};
                                                });
    if (!trouble.isEmpty()) {
        Link* told = link.get();
        QTimer::singleShot(0, told, [told, trouble] { emit told->stateChanged(LinkState::lost, trouble); });
    }
    return link;
}

std::unique_ptr<Link> simulated_http(const BoardUse& board, LinkServices& services) {
    const QString token = new_token(); // made for this run, known to the two ends alone
    LinkPlan plan = board.link;
    plan.http.token_print = token_print(token);
    plan.http.wide = false;
    plan.http.port = 0;
    const auto receiver = receiver_for(plan.http, services);
    const QString id = QString::fromStdString(board.id);
    return std::make_unique<SimulatedLink>(
        simulation_arguments(board, services), std::make_unique<HttpLink>(plan, id, receiver),
        [receiver] {
            return QStringList{QStringLiteral("--http"), QStringLiteral("127.0.0.1:%1").arg(receiver->port())};
        },
        token);
}

std::unique_ptr<Link> simulated_file(const BoardUse& board, LinkServices& services) {
    FilePlan plan = board.link.file;
    const QString path = QDir(services.folder).filePath(QString::fromStdString(board.id) + QStringLiteral(".csv"));
    plan.path = path.toStdString();
    return std::make_unique<SimulatedLink>(simulation_arguments(board, services), std::make_unique<FileLink>(plan),
                                           [path] {
                                               return QStringList{QStringLiteral("--file"), path};
                                           });
}

} // namespace

std::unique_ptr<Link> make_link(const BoardUse& board, LinkServices& services) {
    const LinkPlan& plan = board.link;
    switch (plan.kind) {
    case LinkKind::none: return nullptr;
    case LinkKind::serial: return std::make_unique<SerialLink>(plan);
    case LinkKind::simulated: return simulated_wire(board, services);
    case LinkKind::mqtt: return plan.simulated ? simulated_mqtt(board, services) : std::make_unique<MqttLink>(plan);
    case LinkKind::http:
        return plan.simulated ? simulated_http(board, services)
                              : std::make_unique<HttpLink>(plan, QString::fromStdString(board.id),
                                                           receiver_for(plan.http, services));
    case LinkKind::file:
        return plan.simulated ? simulated_file(board, services) : std::make_unique<FileLink>(plan.file);
    }
    return nullptr;
}

} // namespace cognitum
