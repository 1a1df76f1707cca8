#pragma once
/// Work for the window's thread, from any other.
#include <QObject>
#include <QThreadPool>
#include <mutex>
#include <utility>

namespace hygros::app {

#if defined(__SANITIZE_THREAD__)
/// What the thread sanitizer cannot see, since Qt is not built with it: that what was queued was made before it is
/// run. Both threads take this lock, which it does see; in other builds there is none.
inline std::mutex queuedLock;
struct Queued {
    std::lock_guard<std::mutex> lock{queuedLock};
};
#else
struct Queued {
    Queued() {}
};
#endif

/// Runs `work` on the thread of `receiver`, soon; never if that goes first.
template <class Work> void post(QObject* receiver, Work work)
{
    const Queued queued;
    QMetaObject::invokeMethod(
        receiver,
        [work = std::move(work)]() mutable {
            {
                const Queued before;
            }
            work();
        },
        Qt::QueuedConnection);
}

/// Runs `work` on a thread of the pool.
template <class Work> void runOn(QThreadPool& pool, Work work)
{
    const Queued queued;
    pool.start([work = std::move(work)]() mutable {
        {
            const Queued before;
        }
        work();
    });
}
} // namespace hygros::app
