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
        if (isOn())
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
    try {
        wish = e ? elements::probeWish(project, *e, session_.store()) : std::nullopt;
    } catch (const std::exception&) { // freezing says so
    }
    name_ = wish ? QString::fromStdString(e->name) : QString();
    if (wish != wish_) {
        wish_ = wish;
        values_.clear();
        versions_.clear();
    }
    if (wish_)
        read();
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
