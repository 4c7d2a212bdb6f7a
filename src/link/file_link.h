// A file, or the files of a folder in the order of their names, as if a board sent them: at once, at the pace at
// which they were recorded, or faster; and on as the last one grows.
#pragma once

#include "core/bench/link_plan.h"
#include "link/link.h"

#include <QFile>
#include <QTimer>
#include <optional>

namespace cognitum {

class FileLink : public Link {
    Q_OBJECT

  public:
    explicit FileLink(const FilePlan& plan, QObject* parent = nullptr);

    void start() override;
    void stop() override;
    void send(const QByteArray&) override {} ///< a file takes no commands
    [[nodiscard]] QString place() const override { return m_file.fileName(); }

  private:
    void work();
    bool openNext();
    bool wasReplaced();
    void pace(const QByteArray& line);

    FilePlan m_plan;
    QStringList m_waiting; ///< files of a folder that come next
    QFile m_file;
    QTimer m_timer;
    QByteArray m_held; ///< a line whose time has not come yet
    std::optional<TimeUs> m_last_time;
    bool m_folder = false;
};

/// First absolute time in a line, for pacing a replay.
std::optional<TimeUs> time_in_line(std::string_view line);

} // namespace cognitum
