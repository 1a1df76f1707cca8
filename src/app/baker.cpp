#include "app/baker.h"

#include "app/post.h"

#include <algorithm>

namespace hygros::app {
using State = FrameStore::State;

Baker::Baker(Document& document, Jobs& jobs, std::shared_ptr<Store> store, QObject* parent)
    : QObject(parent), document_(document), jobs_(jobs), store_(std::move(store))
{
    pool_.setMaxThreadCount(1);
    soon_.setSingleShot(true);
    soon_.setInterval(60);
    connect(&soon_, &QTimer::timeout, this, &Baker::look);
    during_.setInterval(150);
    connect(&during_, &QTimer::timeout, this, &Baker::look);
    connect(&document_, &Document::projectChanged, &soon_, qOverload<>(&QTimer::start));
    connect(&jobs_, &Jobs::changed, this, [this] {
        if (!jobOf_.empty())
            Q_EMIT changed();
    });
    soon_.start();
}

Baker::~Baker() { pool_.waitForDone(); }

std::shared_ptr<FrameStore> Baker::frames() const
{
    const auto folder = document_.project().baked;
    return folder.empty() ? nullptr : std::make_shared<FrameStore>(folder);
}

QString Baker::folder() const { return QString::fromStdString(document_.project().baked.string()); }

std::string Baker::frameNow() const
{
    std::string all;
    for (const auto& [id, span] : spans_) {
        const int at = document_.frame() - span.first;
        all += id + (at >= 0 && at < static_cast<int>(span.states.size())
                         ? std::to_string(static_cast<int>(span.states[static_cast<std::size_t>(at)]))
                         : "-");
    }
    return all;
}

void Baker::look()
{
    if (looking_) {
        again_ = true;
        return;
    }
    const scene::Project project = document_.whole();
    const auto ids = elements::simulated(project);
    if (ids.empty() && spans_.empty())
        return;
    looking_ = true;
    runOn(pool_, [this, project, ids, store = store_] {
        std::map<std::string, elements::BakedSpan> spans;
        const auto frames = elements::frameStoreOf(project, *store);
        for (const std::string& id : ids)
            try {
                spans[id] = frames ? elements::bakedSpan(project, id, *frames, *store) : elements::BakedSpan();
            } catch (const std::exception&) { // said when it is baked
            }
        post(this, [this, spans = std::move(spans)]() mutable {
            looking_ = false;
            spans_ = std::move(spans);
            if (std::exchange(again_, false))
                soon_.start();
            watch();
            const std::string now = frameNow();
            if (std::exchange(atFrame_, now) != now)
                Q_EMIT frameChanged();
            Q_EMIT changed();
        });
    });
}

void Baker::watch()
{
    const auto found = spans_.find(watchedElement_);
    if (found == spans_.end())
        return;
    const auto& states = found->second.states;
    const auto end = std::find_if(states.begin(), states.end(), [](State s) { return s != State::Fresh; });
    const int newest = found->second.first + static_cast<int>(end - states.begin()) - 1;
    if (document_.frame() == watched_ && newest > watched_)
        document_.setFrame(watched_ = newest);
    if (!isBaking(watchedElement_)) // this was the last that came
        watchedElement_.clear();
}

QString Baker::said(const std::string& element) const
{
    if (const auto job = jobOf_.find(element); job != jobOf_.end())
        for (const Jobs::State& s : jobs_.states())
            if (s.id == job->second)
                return "Baking: " + s.message;
    const auto found = spans_.find(element);
    if (found == spans_.end())
        return {};
    const elements::BakedSpan& span = found->second;
    const int fresh = span.count(State::Fresh), stale = span.count(State::Stale) + span.count(State::Damaged);
    QString text = QString("Baked: %1 of %2 frames").arg(fresh).arg(span.states.size());
    if (span.bytes > 0)
        text += QString(", %1 MB").arg(QString::fromStdString(formatNumber(double(span.bytes) * 1e-6, 2)));
    if (stale > 0)
        text += QString("; %1 stale: %2").arg(stale).arg(QString::fromStdString(span.why));
    return text + ".";
}

void Baker::bake(const std::string& element)
{
    if (isBaking(element))
        return;
    const auto own = frames();
    const scene::Element* e = document_.project().find(element);
    if (!own || !e)
        return;
    watched_ = document_.frame();
    watchedElement_ = element;
    auto done = std::make_shared<sim::BakeResult>();
    const auto ended = [this, element] {
        jobOf_.erase(element);
        if (jobOf_.empty())
            during_.stop();
        look();
        Q_EMIT changed();
    };
    jobOf_[element] = jobs_.run(
        "Baking " + QString::fromStdString(e->name),
        [project = document_.whole(), element, own, done, store = store_](JobControl& job) {
            *done = elements::bake(project, element, *own, *store, job);
        },
        [this, ended, done, name = QString::fromStdString(e->name)] {
            ended();
            if (done->baked == 0) // else the card says it
                Q_EMIT told(name + ": all frames are fresh.");
        },
        ended);
    during_.start();
    Q_EMIT changed();
}

void Baker::cancel(const std::string& element)
{
    if (const auto job = jobOf_.find(element); job != jobOf_.end())
        jobs_.cancel(job->second);
}

void Baker::purge(const std::string& element)
{
    for (const auto& [id, job] : jobOf_)
        if (element.empty() || id == element)
            jobs_.cancel(job);
    if (const auto own = frames())
        own->purge(element);
    look();
}

std::vector<FrameStore::Contents> Baker::contents() const
{
    const auto own = frames();
    return own ? own->contents() : std::vector<FrameStore::Contents>();
}
} // namespace hygros::app
