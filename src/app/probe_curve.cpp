#include "app/probe_curve.h"

#include "app/post.h"
#include "elements/plume_parts.h"
#include "sim/smoke/gas_file.h"
#include "sim/smoke/plume.h"

namespace hygros::app {

ProbeCurve::ProbeCurve(Session& session, QObject* parent) : QObject(parent), session_(session)
{
    pool_.setMaxThreadCount(1);
    // Frames come while something is baked, and are other ones after it.
    connect(&session.picture(), &Picture::shotChanged, this, [this] {
        if (wish_)
            read();
    });
}

ProbeCurve::~ProbeCurve()
{
    if (stop_)
        *stop_ = true;
    pool_.waitForDone();
}

void ProbeCurve::want(const std::string& element)
{
    const scene::Project& project = session_.project();
    const scene::Element* e = project.find(element);
    std::optional<elements::ProbeWish> wish;
    std::optional<elements::BuoyWish> buoy;
    try {
        wish = e ? elements::probeWish(project, *e, session_.store()) : std::nullopt;
        buoy = e ? elements::buoyWish(project, *e) : std::nullopt;
    } catch (const std::exception&) { // freezing says so
    }
    name_ = wish || buoy ? QString::fromStdString(e->name) : QString();
    const bool isNew = wish != wish_ || buoy != buoy_;
    if (isNew) {
        wish_ = wish;
        buoy_ = buoy;
        values_.clear();
        versions_.clear();
    }
    if (wish_)
        read();
    else if (buoy_ && isNew)
        measure();
    else if (!buoy_ && stop_)
        *stop_ = true;
}

void ProbeCurve::measure()
{
    if (stop_)
        *stop_ = true;
    stop_ = std::make_shared<std::atomic<bool>>(false);
    runOn(pool_, [this, wish = *buoy_, stop = stop_, store = session_.sharedStore()] {
        std::map<int, double> values;
        try {
            JobControl job;
            int frame = wish.time.first;
            for (const double height : elements::buoyHeights(wish, *store, job))
                values[frame++] = height;
        } catch (const std::exception&) { // freezing says so
        }
        post(this, [this, values = std::move(values), stop] {
            if (*stop)
                return;
            values_ = values;
            Q_EMIT changed();
        });
    });
}

void ProbeCurve::read()
{
    if (stop_)
        *stop_ = true;
    stop_ = std::make_shared<std::atomic<bool>>(false);
    const auto project = std::make_shared<const scene::Project>(session_.document().whole());
    runOn(pool_, [this, project, wish = *wish_, known = versions_, stop = stop_, store = session_.sharedStore()] {
        for (int f = project->time.first; f <= project->time.last && !*stop; ++f) {
            std::optional<double> value;
            FileVersion version;
            try {
                if (const auto frame = elements::keptFrame(*project, wish.plume, f, *store)) {
                    version = frame->version;
                    if (const auto was = known.find(f); was != known.end() && was->second == version)
                        continue;
                    const Payload payload = frame->read();
                    value = elements::probed(*sim::readGas(payload.bytes().subspan(sim::headOf(payload.bytes()))),
                                             wish);
                }
            } catch (const std::exception&) { // damaged: no value
            }
            if (!value && !known.count(f))
                continue;
            post(this, [this, f, value, version, stop] {
                if (*stop)
                    return;
                values_.erase(f);
                versions_.erase(f);
                if (value) {
                    values_[f] = *value;
                    versions_[f] = version;
                }
                Q_EMIT changed();
            });
        }
    });
}
} // namespace hygros::app
