/// Where paths are followed beside the march, and what they say of it.
#include "render/frame.h"

#include "base/parallel.h"
#include "render/frame_lit.h"
#include "render/frame_rows.h"
#include "render/path_integrator.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {

/// What the artist has turned away from what is physical is the march's alone.
std::array<bool, PathRatios::sources> Frame::comparable() const
{
    const shot::Shot& s = *shot_;
    const bool orders = s.scatteringOrders >= shot::Shot().scatteringOrders;
    const auto plain = [](const auto& all) {
        return std::all_of(all.begin(), all.end(), [](const auto& one) { return one.ambient == 1.f; });
    };
    const bool quick = std::any_of(s.lamps.begin(), s.lamps.end(), [](const light::Lamp& l) { return l.quick; });
    return {orders && s.sky, orders && s.sky && plain(s.media) && plain(s.volumes) && plain(s.decks),
            orders && (lampCount_ > 0 || !s.volumes.empty()) && !quick};
}

void Frame::followPaths()
{
    const auto compared = comparable();
    if (!followsPaths_ || std::none_of(compared.begin(), compared.end(), [](bool c) { return c; }))
        return;
    if (!paths_)
        paths_ = std::make_shared<PathIntegrator>(shot_, 8, 8);
    constexpr std::size_t pixelsALook = 64, fewest = 1024;
    const std::size_t count = std::max(fewest, span_.size() / pixelsALook);
    const std::vector<std::string>& sources = paths_->gathered().sources;
    std::vector<int> kind; // of the paths' sources; < 0: nothing to compare
    for (const std::string& id : sources)
        kind.push_back(id == "own"                        ? -1
                       : shot_->sky && id == shot_->sunId ? PathRatios::sun
                       : shot_->sky && id == "sky"        ? PathRatios::sky
                                                          : PathRatios::lamps);
    std::vector<PathRatios::Look> looks(count);
    const std::uint32_t begun = pathLooks_;
    parallelRanges(count, 64, [&](std::size_t first, std::size_t last) {
        std::vector<float> setBy(sources.size() * 3), airBy(setBy.size());
        for (std::size_t i = first; i < last; ++i) {
            // Evenly over the picture, however many there will be: Roberts' R2 sequence.
            const std::uint32_t k = begun + static_cast<std::uint32_t>(i);
            const auto part = [k](double step) {
                const double v = 0.5 + step * static_cast<double>(k);
                return static_cast<float>(v - std::floor(v));
            };
            const int x = std::min(width_ - 1, static_cast<int>(part(0.7548776662466927) * static_cast<float>(width_))),
                      y = std::min(height_ - 1,
                                   static_cast<int>(part(0.5698402909980532) * static_cast<float>(height_)));
            // The same draw in every frame of a sequence: what is left of noise stands still.
            Random random(hash32(k, 0x70617468u, 0u));
            std::fill(setBy.begin(), setBy.end(), 0.f);
            std::fill(airBy.begin(), airBy.end(), 0.f);
            looks[i] = lookByPath(x, y, random, kind, setBy, airBy);
        }
    });
    pathLooks_ += static_cast<std::uint32_t>(count);
    for (PathRatios::Look& look : looks) {
        for (std::size_t s = 0; s < PathRatios::sources; ++s)
            if (!compared[s])
                look.air[s] = look.airMarched[s] = look.set[s] = look.setMarched[s] = Vec3(0.f);
        ratios_.add(look);
    }
    ratios_.solve();
}

PathRatios::Look Frame::lookByPath(int x, int y, Random& random, std::span<const int> kind, std::span<float> setBy,
                                   std::span<float> airBy) const
{
    const std::size_t p = index(x, y);
    PathIntegrator::Probe probe;
    probe.pixelAngle = view_.pixelAngle();
    probe.time = shot_->scene->moves() ? random.next() : 0.f;
    const float dx = tent(random.next()), dy = tent(random.next());
    const geometry::SightRay sight = view_.ray(static_cast<float>(x) + dx, static_cast<float>(y) + dy, 0.5f, 0.5f,
                                               probe.time);
    probe.origin = sight.origin;
    probe.direction = sight.direction;
    if (!plateDepth_.empty()) {
        probe.onPlate = true;
        probe.limit = plateDepth_[p];
    }
    const PathIntegrator::PathLight light = paths_->light(probe, random, setBy.data(), airBy.data());

    PathRatios::Look look;
    look.x = (static_cast<float>(x) + 0.5f) / static_cast<float>(width_);
    look.y = (static_cast<float>(y) + 0.5f) / static_cast<float>(height_);
    const float depth = depthAt(x, y);
    look.t = depth;
    look.isSky = depth >= shot::Shot::farDistance;
    for (std::size_t s = 0; s < PathRatios::sources; ++s)
        look.air[s] = look.airMarched[s] = look.set[s] = look.setMarched[s] = Vec3(0.f);
    for (std::size_t s = 0; s < kind.size(); ++s)
        for (std::size_t c = 0; c < 3 && kind[s] >= 0; ++c) {
            look.air[static_cast<std::size_t>(kind[s])][static_cast<int>(c)] += airBy[s * 3 + c];
            look.set[static_cast<std::size_t>(kind[s])][static_cast<int>(c)] += setBy[s * 3 + c];
        }
    const std::size_t group = groupOf(p);
    const auto lane = static_cast<std::size_t>(x % lanes);
    const auto which = lampsOf(group);
    const float beamShare = 1.f / static_cast<float>(std::max<int>(1, rowBeams_[static_cast<std::size_t>(y)]));
    for (std::size_t c = 0; c < 3; ++c) {
        const int ch = static_cast<int>(c);
        look.airMarched[PathRatios::sun][ch] = airSun_[p * 3 + c];
        look.airMarched[PathRatios::sky][ch] = airSky_[p * 3 + c];
        float lamps = airOwn_.empty() ? 0.f : airOwn_[p * 3 + c];
        for (std::size_t slot = lampBase_[group]; slot < lampBase_[group + 1]; ++slot)
            lamps += airLamp_[(slot * lanes + lane) * 3 + c] * beamShare;
        look.airMarched[PathRatios::lamps][ch] = lamps;
    }
    // The surface that the path has met, as the march has it. Mirrors, plates and lamps that are seen are left alone.
    const Cluster* c = &clusters_[p * clusterCount];
    int met = -1;
    for (int k = 0; k < clusterCount; ++k)
        if (c[k].weight > 0.f && through_[p].view[k] >= 0.f && std::abs(c[k].t - light.depth) < 0.1f * light.depth &&
            (met < 0 || std::abs(c[k].t - light.depth) < std::abs(c[met].t - light.depth)))
            met = k;
    if (met < 0 || mirrorOf_[p] >= 0 || light.lampSeen || light.matte || c[met].held > 0 || c[met].fromPlate > 0 ||
        c[met].t >= shot::Shot::farDistance || c[met].shaded == 0.f)
        return look;
    look.surface = true;
    look.t = look.isSky ? look.t : c[met].t;
    look.normal = c[met].light.normal();
    Vec3 view(through_[p].view[met]);
    if (hasOverlay()) {
        Overlay overlays[lanes][clusterCount];
        const int x0 = x / lanes * lanes;
        overlaysAt(x0, y, raysAt(x0, y), overlays);
        view *= overlays[lane][met].tint;
    }
    const auto from = [&](int source) {
        const auto point = [&] {
            return view_.ray(static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f).at(c[met].t);
        };
        return lit(c[met].light, which, lampLight_.data() + lampAt(group, met, static_cast<int>(lane)), lampStride,
                   point, through_[p].onto[met], c[met].shaded, nullptr, source) *
               view;
    };
    if (shot_->sky) {
        look.setMarched[PathRatios::sun] = from(sourceSun);
        look.setMarched[PathRatios::sky] = from(sourceSky);
    }
    for (const std::uint16_t l : which)
        look.setMarched[PathRatios::lamps] += from(sourceLamps + l);
    return look;
}

void Frame::beginWith(const PathRatios& ratios)
{
    ratios_ = ratios;
    ratios_.begin();
}

bool Frame::setRatioOf(std::size_t pixel, int y, int cluster, PathRatios::By& out) const
{
    const Cluster& c = clusters_[pixel * clusterCount + static_cast<std::size_t>(cluster)];
    if (!ratios_.known() || mirrorOf_[pixel] >= 0 || c.t >= shot::Shot::farDistance)
        return false;
    out = setRatio(static_cast<int>(pixel % static_cast<std::size_t>(width_)), y, c.t, c.light.normal());
    return true;
}

PathRatios::By Frame::airRatio(int x, int y) const
{
    const float depth = depthAt(x, y);
    return ratios_.air((static_cast<float>(x) + 0.5f) / static_cast<float>(width_),
                       (static_cast<float>(y) + 0.5f) / static_cast<float>(height_), depth,
                       depth >= shot::Shot::farDistance);
}

PathRatios::By Frame::setRatio(int x, int y, float depth, const Vec3& normal) const
{
    return ratios_.set((static_cast<float>(x) + 0.5f) / static_cast<float>(width_),
                       (static_cast<float>(y) + 0.5f) / static_cast<float>(height_), depth, normal);
}
} // namespace hygros::render
