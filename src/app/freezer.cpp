#include "app/freezer.h"

#include "app/post.h"
#include "app/words.h"

#include "base/random.h"
#include "elements/kinds.h"
#include "finish/display.h"

#include <algorithm>

namespace hygros::app {
namespace {
using Clock = std::chrono::steady_clock;
constexpr auto patience = std::chrono::milliseconds(150); ///< before a second one begins beside the first
constexpr int threads = 3;
} // namespace

Freezer::Freezer(std::shared_ptr<Store> store, Ready ready, QObject* parent)
    : QObject(parent), store_(std::move(store)), ready_(std::move(ready))
{
    for (int i = 0; i < threads; ++i)
        threads_.emplace_back([this, i] {
            if (i == 0) {
                // Tables that every picture needs, made while the first project is being read.
                BlueNoise::tile();
                finish::Display warm{shot::Look()};
            }
            loop();
        });
}

Freezer::~Freezer()
{
    {
        const std::lock_guard lock(mutex_);
        quit_ = true;
        for (const auto& task : working_)
            task->job.cancel();
    }
    wake_.notify_all();
    for (std::thread& t : threads_)
        t.join();
}

void Freezer::request(scene::Project project, std::optional<geometry::Camera> camera)
{
    {
        const std::lock_guard lock(mutex_);
        pending_ = std::make_shared<Task>();
        pending_->number = next_++;
        pending_->project = std::move(project);
        pending_->camera = camera;
        // The oldest may be making what all of them need; those between are of no use any more.
        for (std::size_t i = 1; i < working_.size(); ++i)
            working_[i]->job.cancel();
    }
    wake_.notify_all();
}

void Freezer::cancel()
{
    const std::lock_guard lock(mutex_);
    pending_.reset();
    for (const auto& task : working_)
        task->job.cancel();
}

bool Freezer::isIdle() const
{
    const std::lock_guard lock(mutex_);
    return !pending_ && working_.empty();
}

double Freezer::secondsInWork() const
{
    const std::lock_guard lock(mutex_);
    return working_.empty() ? 0.0 : std::chrono::duration<double>(Clock::now() - working_.front()->began).count();
}

float Freezer::progress() const
{
    const std::lock_guard lock(mutex_);
    return working_.empty() ? 0.f : working_.front()->job.progress();
}

QString Freezer::message() const
{
    const std::lock_guard lock(mutex_);
    return working_.empty() ? QString() : QString::fromStdString(working_.front()->job.message());
}

void Freezer::loop()
{
    std::unique_lock lock(mutex_);
    while (!quit_) {
        if (!pending_) {
            wake_.wait(lock);
            continue;
        }
        if (!working_.empty()) {
            const auto due = working_.back()->began + patience;
            if (Clock::now() < due) {
                wake_.wait_until(lock, due);
                continue;
            }
        }
        const std::shared_ptr<Task> task = std::move(pending_);
        pending_ = nullptr;
        task->began = Clock::now();
        working_.push_back(task);
        lock.unlock();
        QString problem;
        try {
            const auto frozen = elements::freeze(task->project, *store_, task->job, elements::Missing::Told,
                                                 task->camera);
            const std::lock_guard one(readyMutex_);
            bool newest = false;
            {
                const std::lock_guard again(mutex_);
                newest = task->number > delivered_ && !quit_;
                if (newest)
                    delivered_ = task->number;
                for (const auto& other : working_)
                    if (other->number < task->number)
                        other->job.cancel();
            }
            if (newest)
                ready_(frozen, task->number);
        } catch (const Cancelled&) {
        } catch (const std::bad_alloc&) {
            problem = say("There is not enough memory for this state; the picture shows the one before.");
        } catch (const std::exception& e) {
            problem = troubleOf(e);
        }
        lock.lock();
        std::erase(working_, task);
        // What an older state cannot do is of no interest once a newer one is there.
        if (!problem.isEmpty() && task->number > delivered_ && !task->job.cancelled())
            post(this, [this, problem] { Q_EMIT failed(problem); });
        wake_.notify_all();
    }
}
} // namespace hygros::app
