#pragma once
/// Work for the window's thread, from any other.
#include "base/sanitize.h"

#include <QObject>
#include <memory>
#include <utility>

namespace hygros::app {

/// Runs `work` on the thread of `receiver`, soon; never if that goes first.
template <class Work> void post(QObject* receiver, Work work)
{
    auto hand = std::make_shared<HandOver>();
    hand->release();
    QMetaObject::invokeMethod(
        receiver,
        [hand, work = std::move(work)]() mutable {
            hand->acquire();
            work();
        },
        Qt::QueuedConnection);
}
} // namespace hygros::app
