// What the open bench holds, read on a thread of its own: a question is asked and answered later, so that nothing
// in the window waits for the disk. Questions are answered one after another, in the order they came.
#pragma once

#include "core/base/error.h"
#include "core/base/phrase.h"
#include "session/archive/answer.h"

#include <QFuture>
#include <QPromise>
#include <QThreadPool>
#include <atomic>
#include <exception>
#include <functional>
#include <memory>
#include <mutex>
#include <optional>
#include <string>
#include <utility>

namespace cognitum {

class BenchFile;

class Archive {
  public:
    Archive();
    ~Archive();
    /// From now on questions are about this file.
    void open(const std::string& path);
    /// Ends the question under way. What was asked and not answered is answered with an error.
    void close();

    /// The question runs on the archive's thread, with a connection of its own to the file. Its answer is an error
    /// when no bench is open or the file cannot be opened.
    template <typename Answer>
    [[nodiscard]] QFuture<Result<Answer>> ask(std::function<Result<Answer>(BenchFile&)> question) {
        auto promise = std::make_shared<QPromise<Result<Answer>>>();
        promise->start();
        run([promise, question = std::move(question)](const Result<BenchFile*>& file) {
            promise->addResult(file ? guardedAnswer<Answer>([&] { return question(**file); })
                                    : Result<Answer>(tl::make_unexpected(file.error())));
            promise->finish();
        });
        return promise->future();
    }

    /// What a library throws ends here, as an error: another thread's exception would end the program.
    template <typename Answer>
    static Result<Answer> guardedAnswer(const std::function<Result<Answer>()>& work) {
        try {
            return work();
        } catch (const std::exception& e) {
            return failure(phrase("the file could not be used ({}).", e.what()));
        }
    }

    /// Grows with each file that is opened: an answer of an older one is of no use any more.
    [[nodiscard]] std::uint64_t opened() const { return m_opened; }
    /// Questions so far. With finishNow() for tests and pictures: when it does not grow, nothing is outstanding.
    [[nodiscard]] std::uint64_t asked() const { return m_asked; }
    void finishNow() { m_thread.waitForDone(); }

  private:
    void run(std::function<void(const Result<BenchFile*>&)> job);
    Result<BenchFile*> file(std::uint64_t opened);

    std::string m_path;
    std::unique_ptr<BenchFile> m_file; ///< opened by the first question, on the archive's thread
    std::mutex m_file_mutex;           ///< of m_path and m_file, while close() interrupts
    std::atomic<std::uint64_t> m_opened = 0, m_asked = 0;
    QThreadPool m_thread;
};

/// The questions of one part of a page: one at a time, and of those that wait only the newest. Belongs to `owner`,
/// in whose thread answers come; an answer of a bench that was closed meanwhile does not.
template <typename Answer>
class ArchiveQuestion {
  public:
    using Ask = std::function<Result<Answer>(BenchFile&)>;
    using Take = std::function<void(const Result<Answer>&)>;

    template <typename Owner>
    void ask(Archive& archive, Owner* owner, Ask ask, Take take) {
        m_next = [this, &archive, owner, ask = std::move(ask), take = std::move(take)] {
            m_under_way = true;
            when_answered(archive.ask<Answer>(ask), owner,
                          [this, &archive, take, opened = archive.opened()](const Result<Answer>& answer) {
                              m_under_way = false;
                              if (opened == archive.opened()) take(answer);
                              start();
                          });
        };
        if (!m_under_way) start();
    }

  private:
    void start() {
        if (const auto next = std::exchange(m_next, {})) next();
    }
    bool m_under_way = false;
    std::function<void()> m_next;
};

} // namespace cognitum
