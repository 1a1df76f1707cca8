#pragma once
/// Makes shots of the newest project, beside the window.
///
/// A state that freezes quickly is waited for; while one takes longer the next begins beside it, so that an edit never
/// waits for what it does not need. Both share the store: what both need is made once. When a newer state is ready,
/// older ones are cancelled.
#include "base/store.h"
#include "geometry/camera.h"
#include "scene/project.h"
#include "shot/shot.h"

#include <QObject>
#include <condition_variable>
#include <functional>
#include <memory>
#include <optional>
#include <thread>
#include <vector>

namespace hygros::app {

class Freezer : public QObject {
    Q_OBJECT
public:
    /// `ready` is called on a freezing thread with each shot, in rising order of requests, never twice at a time.
    using Ready = std::function<void(const std::shared_ptr<const shot::Shot>& shot, std::uint64_t request)>;
    Freezer(std::shared_ptr<Store> store, Ready ready, QObject* parent = nullptr);
    ~Freezer() override;

    /// Takes the place of requests that have not begun. `camera` looks from elsewhere than the shot.
    void request(scene::Project project, std::optional<geometry::Camera> camera);
    /// Gives up what is being frozen; the next request begins anew.
    void cancel();
    /// Nothing is requested and nothing in work.
    bool isIdle() const;
    /// How long the oldest of what is in work has taken [s]; 0 when idle. And what it does.
    double secondsInWork() const;
    float progress() const;
    QString message() const;

Q_SIGNALS:
    void failed(const QString& message);

private:
    struct Task {
        std::uint64_t number = 0;
        scene::Project project;
        std::optional<geometry::Camera> camera;
        JobControl job;
        std::chrono::steady_clock::time_point began;
    };
    void loop();

    std::shared_ptr<Store> store_;
    Ready ready_;
    mutable std::mutex mutex_;
    std::mutex readyMutex_; ///< so that shots are handed over one by one
    std::condition_variable wake_;
    std::shared_ptr<Task> pending_;
    std::vector<std::shared_ptr<Task>> working_; ///< oldest first
    std::uint64_t next_ = 1, delivered_ = 0;
    bool quit_ = false;
    std::vector<std::thread> threads_;
};
} // namespace hygros::app
