#pragma once
/// Long tasks on threads of their own, several at once, with progress and cancel.
#include "base/job.h"

#include <QObject>
#include <QString>
#include <QTimer>
#include <functional>
#include <memory>
#include <thread>
#include <vector>

namespace hygros::app {

class Jobs : public QObject {
    Q_OBJECT
public:
    explicit Jobs(QObject* parent = nullptr);
    /// Cancels what runs and waits for it.
    ~Jobs() override;

    /// Runs `work` beside everything else; then, on the window's thread, `done` if it succeeded or `ended` in any other
    /// case. What it throws is told by failed(). Returns its number.
    int run(const QString& name, const std::function<void(JobControl&)>& work, const std::function<void()>& done,
            const std::function<void()>& ended = {});
    bool isBusy() const { return !jobs_.empty(); }
    struct State {
        int id;
        QString name, message;
        double progress; ///< 0…1
    };
    /// Of those that run, in the order in which they began.
    std::vector<State> states() const;
    void cancel(int id);
    void cancelAll();

Q_SIGNALS:
    void changed(); ///< one began, went on or ended
    void failed(const QString& message);

private:
    struct Job {
        int id;
        QString name;
        JobControl control;
        std::thread thread;
    };
    std::vector<std::shared_ptr<Job>> jobs_;
    int next_ = 1;
    QTimer timer_;
};
} // namespace hygros::app
