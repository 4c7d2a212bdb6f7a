// What happens when an answer that is worked out on another thread is there.
#pragma once

#include <QFuture>
#include <QFutureWatcher>
#include <QPromise>
#include <memory>
#include <utility>

namespace cognitum {

/// Calls `take` with the answer in the owner's thread, from its event loop. Not called when the owner is gone by
/// then, nor when nobody answers. QFuture::then() is not used for this: in Qt 6.4 it runs what it was given twice
/// when the other thread finishes at the same moment, the second time with a promise that is gone.
template <typename Answer, typename Owner, typename Take>
void when_answered(const QFuture<Answer>& future, Owner* owner, Take take) {
    auto* watcher = new QFutureWatcher<Answer>(owner);
    QObject::connect(watcher, &QFutureWatcherBase::finished, owner, [watcher, take = std::move(take)] {
        watcher->deleteLater();
        const QFuture<Answer> answered = watcher->future();
        if (answered.resultCount() > 0) take(answered.result());
    });
    watcher->setFuture(future);
}

/// The same, where what `take` makes of the answer is itself an answer that somebody waits for.
template <typename Made, typename Answer, typename Owner, typename Take>
[[nodiscard]] QFuture<Made> answered_as(const QFuture<Answer>& future, Owner* owner, Take take) {
    auto promise = std::make_shared<QPromise<Made>>();
    promise->start();
    QFuture<Made> made = promise->future();
    when_answered(future, owner, [promise = std::move(promise), take = std::move(take)](const Answer& answer) {
        promise->addResult(take(answer));
        promise->finish();
    });
    return made;
}

} // namespace cognitum
