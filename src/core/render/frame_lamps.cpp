/// Which lamps are worth looking at where, and what they and the elements cost.
#include "render/frame_lit.h"

#include "base/parallel.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {

void Frame::listLamps()
{
    for (std::size_t l = 0; l < lampCount_; ++l)
        everyLamp_.push_back(static_cast<std::uint16_t>(l));
    lampBase_.assign(static_cast<std::size_t>(height_) * groupsPerRow() + 1, 0);
    if (lampCount_ == 0)
        return;
    std::vector<std::vector<light::Ball>> balls;
    for (const light::Lamp& lamp : shot_->lamps)
        balls.push_back(light::ballsOf(lamp));
    for (std::size_t l = 0; l < lampCount_; ++l)
        if (const AirModel::Glow& glow = air_->glowOf(l); glow.power > 0.f)
            balls[l].push_back({glow.centre, AirModel::glowReach});
    constexpr int tileWidth = 32, tileHeight = 16;
    const int columns = (width_ + tileWidth - 1) / tileWidth, rows = (height_ + tileHeight - 1) / tileHeight;
    std::vector<std::vector<std::uint16_t>> lists(static_cast<std::size_t>(columns * rows));
    const Vec3 eye = view_.position();
    parallelFor(lists.size(), [&](std::size_t t) {
        // The tile as a cone of sight, a pixel wider than it is.
        const int x0 = static_cast<int>(t) % columns * tileWidth, y0 = static_cast<int>(t) / columns * tileHeight;
        const auto corner = [&](int x, int y) {
            return view_.direction(static_cast<float>(x0) + static_cast<float>(x),
                                   static_cast<float>(y0) + static_cast<float>(y));
        };
        const Vec3 axis = corner(tileWidth / 2, tileHeight / 2);
        float least = 1.f;
        for (const Vec3& d : {corner(-1, -1), corner(tileWidth + 1, -1), corner(-1, tileHeight + 1),
                              corner(tileWidth + 1, tileHeight + 1)})
            least = std::min(least, d.dot(axis));
        const float half = std::acos(std::clamp(least, -1.f, 1.f));
        for (std::size_t l = 0; l < lampCount_; ++l) {
            const bool met = std::any_of(balls[l].begin(), balls[l].end(), [&](const light::Ball& b) {
                const Vec3 v = b.centre - eye;
                const float d = v.length();
                return d <= b.radius ||
                       std::acos(std::clamp(v.dot(axis) / d, -1.f, 1.f)) <= half + std::asin(b.radius / d);
            });
            if (met)
                lists[t].push_back(static_cast<std::uint16_t>(l));
        }
    });
    for (int y = 0; y < height_; ++y)
        for (std::size_t g = 0; g < groupsPerRow(); ++g) {
            const std::size_t group = static_cast<std::size_t>(y) * groupsPerRow() + g;
            const auto& own =
                lists[static_cast<std::size_t>(y / tileHeight * columns + static_cast<int>(g) * lanes / tileWidth)];
            lampList_.insert(lampList_.end(), own.begin(), own.end());
            lampBase_[group + 1] = lampList_.size();
        }
}

void Frame::lampsThrough(int x, int y, const media::Ray8& ray, std::vector<F8>& out) const
{
    const std::size_t group = groupAt(x, y);
    const auto which = lampsOf(group);
    out.assign(clusterCount * which.size() * lampWays, f8(0.f));
    for (std::size_t k = 0; k < clusterCount; ++k) {
        F8 depth = f8(1.f), weight = f8(0.f), normal[3];
        for (int i = 0; i < lanes; ++i) {
            const Cluster& c = clusters_[index(std::min(x + i, width_ - 1), y) * clusterCount + k];
            depth[i] = c.t;
            weight[i] = c.shaded;
            setNormal(normal, i, c.light);
        }
        for (std::size_t j = 0; j < which.size() && any(weight > 0.f); ++j) {
            F8* ways = &out[(k * which.size() + j) * lampWays];
            glowOnto(which[j], ray.x(depth), ray.y(depth), ray.z(depth), normal, ways + 1);
            bool some = false;
            for (int i = 0; i < lanes; ++i) {
                some = some || maxComponent(*lampOn(group, static_cast<int>(k), i, j)) > 0.f;
            }
            if (some)
                ways[0] = exp8(-air_->depthToLamp8(shot_->lamps[which[j]], ray.x(depth), ray.y(depth), ray.z(depth)));
        }
    }
}

void Frame::glowOnto(std::size_t lamp, F8 x, F8 y, F8 z, const F8 normal[3], F8 irradiance[3]) const
{
    const AirModel::Glow& glow = air_->glowOf(lamp);
    const F8 dx = x - glow.centre.x, dy = y - glow.centre.y, dz = z - glow.centre.z;
    constexpr float reach = 1.75f * AirModel::glowReach; // into the corners
    if (!glow.found || !any(dx * dx + dy * dy + dz * dz < reach * reach)) {
        std::fill(irradiance, irradiance + 3, f8(0.f));
        return;
    }
    glow.found->at8(x, y, z).onto(normal, irradiance);
    // By the least of its strengths on sets: whose surface this is is not known here.
    const std::vector<float>& strengths = shot_->lamps[lamp].setReach;
    const float least = strengths.empty() ? 1.f : *std::min_element(strengths.begin(), strengths.end());
    for (int c = 0; c < 3; ++c)
        irradiance[c] = irradiance[c] * least;
}

void Frame::makeLampGlows()
{
    std::vector<std::shared_ptr<LampGlow>> next(shot_->lamps.size());
    // Lamps whose light is met nowhere in the picture need none.
    std::vector<bool> listed(next.size(), false);
    for (const std::uint16_t l : lampList_)
        listed[l] = true;
    parallelFor(next.size(), [&](std::size_t l) {
        const auto& known = lampGlows_.empty() ? knownGlows_ : lampGlows_;
        if (listed[l] && air_->glowOf(l).power > 0.f)
            next[l] = std::make_shared<LampGlow>(*air_, l, l < known.size() ? known[l].get() : nullptr);
    });
    lampGlows_ = std::move(next);
    knownGlows_.clear();
    anyGlow_ = std::any_of(lampGlows_.begin(), lampGlows_.end(), [](const auto& glow) { return glow != nullptr; });
    for (std::size_t l = 0; l < lampGlows_.size(); ++l)
        air_->setGlow(l, lampGlows_[l]);
}

void Frame::feedLampGlows()
{
    if (lampGlows_.empty() && lampCount_ > 0)
        makeLampGlows();
    std::vector<LampGlow*> wanting;
    for (const auto& glow : lampGlows_)
        if (glow && !glow->isSettled())
            wanting.push_back(glow.get());
    if (wanting.empty())
        return;
    // Fewer before the first picture of an air; many lamps share what few would get.
    constexpr int together = 24000, fewest = 800;
    const Flights flights(*shot_);
    for (LampGlow* glow : wanting)
        glow->add(*air_, flights, *sampler_, std::max(fewest, together / static_cast<int>(wanting.size())));
}

void Frame::meterRow(const Meter& row)
{
    const std::lock_guard lock(meterMutex_);
    meter_.add(row);
}

Costs Frame::costs() const
{
    const std::lock_guard lock(meterMutex_);
    Costs out;
    if (meter_.total <= 0.0)
        return out;
    for (std::size_t l = 0; l < std::min(lampCount_, meter_.lamps.size()); ++l)
        out[shot_->lamps[l].id] += meter_.lamps[l] / meter_.total;
    for (std::size_t m = 0; m < std::min(shot_->media.size(), meter_.media.size()); ++m)
        out[shot_->media[m].id] += meter_.media[m] / meter_.total;
    const std::vector<std::string> bodies = shot_->bodyIds();
    for (const std::string& id : bodies)
        out[id] += meter_.bodies / meter_.total / static_cast<double>(bodies.size());
    if (shot_->sky)
        out[shot_->sunId] += meter_.toSky / meter_.total;
    return out;
}
} // namespace hygros::render
