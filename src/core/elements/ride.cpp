#include "elements/ride.h"

#include "elements/plume_parts.h"
#include "sim/smoke/slice.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
struct GasCarrier final : media::Carrier {
    explicit GasCarrier(std::shared_ptr<const sim::Gas> g) : gas(std::move(g)) {}
    Vec3 at(const Vec3& place) const override { return sim::velocityAt(*gas, place); }
    std::shared_ptr<const sim::Gas> gas;
};
} // namespace

Ride rideOn(const scene::Project& project, const std::string& plume, double frame, Store& store)
{
    Ride out;
    out.frame = std::clamp(frame, double(project.time.first), double(project.time.last));
    const int low = std::min(static_cast<int>(std::floor(out.frame)), project.time.last - 1);
    out.frameBefore = std::max(low, project.time.first);
    const auto carrier = [&](int at) -> std::shared_ptr<const media::Carrier> {
        const auto baked = keptFrame(project, plume, at, store);
        return baked ? std::make_shared<GasCarrier>(keptGas(*baked, store)) : nullptr;
    };
    out.before = carrier(static_cast<int>(out.frameBefore));
    out.after = carrier(static_cast<int>(out.frameBefore) + 1);
    return out;
}
} // namespace hygros::elements
