// A file, or the files of a folder in the order of their names, as if a board sent them: at once, at the pace at
// which they were recorded, or faster; and on as the last one grows, is renamed by its logger, or begun anew.
#pragma once

#include "core/bench/link_plan.h"
#include "link/link.h"
#include "store/file/open_files.h"

#include <QFile>
#include <QTimer>
#include <optional>
#include <vector>

namespace cognitum {

class FileLink : public Link {
    Q_OBJECT

  public:
    explicit FileLink(const FilePlan& plan, QObject* parent = nullptr);

    void start() override;
    void stop() override;
    void send(const QByteArray&) override {} ///< a file takes no commands
    [[nodiscard]] QString place() const override { return m_path; }

  private:
    void work();
    bool openNext();
    bool readOn();
    void give(const QByteArray& data);
    void closeFile();
    [[nodiscard]] bool wasBegunAnew();
    [[nodiscard]] bool hasAnotherFile() const;
    void listFolder();
    void pace(const QByteArray& line);

    FilePlan m_plan;
    QStringList m_waiting;            ///< files that come next
    std::vector<FileIdentity> m_read; ///< of a folder; one that its logger renamed is not read twice
    QString m_path;                   ///< of the open file, or the last one
    QFile m_file;
    std::optional<FileIdentity> m_identity; ///< of the open file
    QByteArray m_end;                       ///< the last bytes that were read of it
    bool m_renamed = false;                 ///< another file had its name when its end was reached
    QTimer m_timer;
    QByteArray m_held; ///< a line whose time has not come yet
    std::optional<TimeUs> m_last_time;
    bool m_folder = false;
};

/// First absolute time in a line, for pacing a replay.
std::optional<TimeUs> time_in_line(std::string_view line);

} // namespace cognitum
