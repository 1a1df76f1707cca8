#include "app/jobs.h"

#include "app/post.h"
#include "app/words.h"

#include <algorithm>
#include <new>

namespace hygros::app {

Jobs::Jobs(QObject* parent) : QObject(parent)
{
    timer_.setInterval(80);
    connect(&timer_, &QTimer::timeout, this, &Jobs::changed);
}

Jobs::~Jobs()
{
    cancelAll();
    for (const auto& job : jobs_)
        if (job->thread.joinable())
            job->thread.join();
}

int Jobs::run(const QString& name, const std::function<void(JobControl&)>& work, const std::function<void()>& done,
              const std::function<void()>& ended)
{
    auto job = std::make_shared<Job>();
    job->id = next_++;
    job->name = name;
    jobs_.push_back(job);
    timer_.start();
    job->thread = std::thread([this, job, work, done, ended] {
        QString problem;
        bool good = false;
        try {
            work(job->control);
            good = true;
        } catch (const Cancelled&) {
        } catch (const std::bad_alloc&) {
            problem = job->name + say(": there is not enough memory. Nothing was replaced.");
        } catch (const std::exception& e) {
            problem = troubleOf(e);
        }
        post(this, [this, job, good, problem, done, ended] {
            job->thread.join();
            std::erase(jobs_, job);
            if (jobs_.empty())
                timer_.stop();
            Q_EMIT changed();
            if (!problem.isEmpty())
                Q_EMIT failed(problem);
            if (good)
                done();
            else if (ended)
                ended();
        });
    });
    Q_EMIT changed();
    return job->id;
}

std::vector<Jobs::State> Jobs::states() const
{
    std::vector<State> all;
    for (const auto& job : jobs_)
        all.push_back({job->id, job->name, QString::fromStdString(job->control.message()),
                       static_cast<double>(job->control.progress())});
    return all;
}

void Jobs::cancel(int id)
{
    for (const auto& job : jobs_)
        if (job->id == id)
            job->control.cancel();
}

void Jobs::cancelAll()
{
    for (const auto& job : jobs_)
        job->control.cancel();
}
} // namespace hygros::app
