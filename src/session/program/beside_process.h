// A program of this project that works beside this one for something that could hang or harm it: started with the
// plan as a file, ended when it is no longer wanted. In the interface's thread.
#pragma once

#include "core/bench/bench.h"

#include <QObject>
#include <QProcess>
#include <QTemporaryDir>
#include <memory>

namespace cognitum {

class BesideProcess : public QObject {
    Q_OBJECT

  public:
    using QObject::QObject;
    ~BesideProcess() override;

    struct End {
        int code = -1; ///< −1: it could not be started
        bool crashed = false;
        QByteArray said;
        QString complaint;
    };
    /// A folder that lasts until the next one; the plan stands in it as bench.json. Empty: it could not be made.
    QString handOver(const Bench& bench);
    [[nodiscard]] QString path(const QString& name) const { return m_folder->filePath(name); }
    /// Ends what runs, and begins this.
    void start(const QString& program, const QStringList& arguments);
    void stop();
    [[nodiscard]] bool runs() const { return m_process != nullptr; }

  signals:
    void ended(const BesideProcess::End& end);

  private:
    void end(int code);
    std::unique_ptr<QTemporaryDir> m_folder;
    QProcess* m_process = nullptr; ///< owned by this
};

} // namespace cognitum
