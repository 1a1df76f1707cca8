#include "app/baker.h"

#include "app/choices.h"

#include "app/post.h"
#include "app/words.h"

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
    connect(&document_, &Document::projectChanged, this, &Baker::renew);
    connect(&jobs_, &Jobs::changed, this, [this] {
        if (!runs_.empty())
            Q_EMIT changed();
    });
    soon_.start();
}

Baker::~Baker() { pool_.waitForDone(); }

std::shared_ptr<FrameStore> Baker::frames() const
{
    const auto folder = document_.project().baked;
    return folder.empty()
               ? nullptr
               : std::make_shared<FrameStore>(folder, static_cast<std::uintmax_t>(Choices::now().bakedGb * 1e9));
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
    if (!watchedRun_)
        return;
    const int newest = watchedRun_->newest;
    const bool waits = shown_ && *shown_ != document_.frame();
    if (!waits && newest != std::numeric_limits<int>::min() && document_.frame() == watched_ && newest != watched_)
        document_.setFrame(watched_ = newest);
    const bool goes = std::any_of(runs_.begin(), runs_.end(), [&](const auto& r) { return r.second == watchedRun_; });
    if (!goes && !waits) // this was the last that came
        watchedRun_.reset();
}

void Baker::pictureShows(int frame)
{
    shown_ = frame;
    watch();
}

void Baker::renew()
{
    for (const auto& [id, run] : runs_) {
        auto next = std::make_shared<const scene::Project>(document_.whole());
        const auto& was = run->time;
        const auto& time = next->time;
        if (next->baked != run->baked)
            continue; // another project: this one's frames are its own
        if (time.first != was.first || time.last != was.last || !(time.rate == was.rate) ||
            time.preRoll != was.preRoll || time.loop != was.loop) {
            run->again = true;
            jobs_.cancel(run->job);
            continue;
        }
        const std::lock_guard lock(run->mutex);
        run->next = std::move(next);
    }
}

QString Baker::said(const std::string& element) const
{
    if (const auto run = runs_.find(element); run != runs_.end())
        for (const Jobs::State& s : jobs_.states())
            if (s.id == run->second->job)
                return say("Baking: ") + s.message;
    const auto found = spans_.find(element);
    if (found == spans_.end())
        return {};
    const elements::BakedSpan& span = found->second;
    const int fresh = span.count(State::Fresh), stale = span.count(State::Stale) + span.count(State::Damaged);
    QString text = say("Baked: %1 of %2 frames").arg(fresh).arg(span.states.size());
    if (span.bytes > 0)
        text += say(", %1 MB").arg(figures(double(span.bytes) * 1e-6, 2));
    if (stale > 0)
        text += say("; %1 stale: %2").arg(stale).arg(QString::fromStdString(span.why));
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
    auto run = std::make_shared<Run>();
    run->time = document_.project().time;
    run->baked = document_.project().baked;
    watched_ = document_.frame();
    watchedRun_ = run;
    auto done = std::make_shared<sim::BakeResult>();
    runs_[element] = run;
    run->job = jobs_.run(
        say("Baking ") + QString::fromStdString(e->name),
        [project = document_.whole(), element, own, done, run, store = store_](JobControl& job) {
            elements::BakeWishes wishes;
            wishes.renewed = [run] {
                const std::lock_guard lock(run->mutex);
                return std::exchange(run->next, nullptr);
            };
            wishes.kept = [run](int frame) { run->newest = frame; };
            *done = elements::bake(project, element, *own, *store, job, wishes);
        },
        [this, element, done, name = QString::fromStdString(e->name)] {
            ended(element);
            if (done->baked == 0) // else the card says it
                Q_EMIT told(name + say(": all frames are fresh."));
        },
        [this, element] { ended(element); });
    during_.start();
    Q_EMIT changed();
}

void Baker::ended(const std::string& element)
{
    const auto run = runs_.at(element);
    runs_.erase(element);
    if (runs_.empty())
        during_.stop();
    if (const auto own = frames(); own && run->anew)
        own->purge(element);
    if (run->again)
        bake(element);
    look();
    Q_EMIT changed();
}

void Baker::again(const std::string& element)
{
    if (const auto own = frames(); own && !isBaking(element)) {
        own->purge(element);
        return bake(element);
    }
    if (const auto run = runs_.find(element); run != runs_.end()) {
        run->second->again = run->second->anew = true;
        jobs_.cancel(run->second->job);
    }
}

void Baker::cancel(const std::string& element)
{
    if (const auto run = runs_.find(element); run != runs_.end())
        jobs_.cancel(run->second->job);
}

void Baker::purge(const std::string& element)
{
    for (const auto& [id, run] : runs_)
        if (element.empty() || id == element) {
            run->again = false;
            jobs_.cancel(run->job);
        }
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
