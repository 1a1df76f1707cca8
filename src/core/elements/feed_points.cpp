/// Places from which a feed that has no form of its own feeds: faces of a set, embers.
#include "elements/plume_parts.h"
#include "geometry/chosen_faces.h"
#include "sim/embers.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {
namespace {
struct PointsKey {
    Identity set;
    float spacing, scale;
    std::string material, painted;
    bool operator==(const PointsKey&) const = default;
};

} // namespace

std::shared_ptr<const std::vector<media::FeedPoint>> surfaceOf(const FreezeContext& c,
                                                               const geometry::PlacedSet& placed, const Mat4& toOwn,
                                                               float spacing, const std::string& material,
                                                               const std::string& painted)
{
    constexpr std::size_t most = 400'000;
    const float scale = Vec3(toOwn[0][0], toOwn[0][1], toOwn[0][2]).length();
    return c.store.get(PointsKey{placed.set, spacing, scale, material, painted}, [&] {
        auto out = std::make_shared<std::vector<media::FeedPoint>>();
        const auto chosen = geometry::ChosenFaces::parse(painted);
        const auto on = painted.empty() || !chosen ? geometry::ChosenFaces::On() : chosen->on(*placed.set);
        for (std::size_t mesh = 0; mesh < placed.set->meshes.size(); ++mesh) {
            const geometry::Mesh& m = placed.set->meshes[mesh];
            const auto faces = on.faces.find(mesh);
            if (!painted.empty() && faces == on.faces.end())
                continue;
            if (!material.empty() &&
                (m.material >= placed.set->materials.size() || placed.set->materials[m.material].name != material))
                continue;
            for (std::size_t i = 0; i + 2 < m.indices.size() && out->size() < most; i += 3) {
                if (!painted.empty() && !faces->second[i / 3])
                    continue;
                const Vec3 a = m.positions[m.indices[i]] * toOwn, b = m.positions[m.indices[i + 1]] * toOwn - a,
                           d = m.positions[m.indices[i + 2]] * toOwn - a;
                Vec3 normal = b.cross(d);
                if (!(normal.length2() > 0.f)) // no area
                    continue;
                normal.normalize();
                const int n = std::clamp(
                    static_cast<int>(std::ceil(std::max({b.length(), d.length(), (b - d).length()}) / spacing)), 1,
                    400);
                for (int u = 0; u < n; ++u)
                    for (int v = 0; u + v < n && out->size() < most; ++v)
                        out->push_back({a + b * ((static_cast<float>(u) + 0.33f) / static_cast<float>(n)) +
                                            d * ((static_cast<float>(v) + 0.33f) / static_cast<float>(n)),
                                        normal});
            }
        }
        return std::shared_ptr<const std::vector<media::FeedPoint>>(std::move(out));
    });
}

std::shared_ptr<const std::vector<media::FeedPoint>> emberPoints(const FreezeContext& c, const std::string& embers,
                                                                 float spacing)
{
    constexpr int most = 64; // on one's way
    const auto baked = keptFrame(c.whole, embers, c.whole.frameNumber(), c.store);
    if (!baked)
        return nullptr;
    const auto state = sim::EmberSolver(embers).read(baked->read().bytes());
    const auto seconds = static_cast<float>(1.0 / c.whole.time.rate.perSecond());
    auto out = std::make_shared<std::vector<media::FeedPoint>>();
    for (const auto& one : static_cast<const sim::EmberState&>(*state).embers) {
        const float speed = one.velocity.length();
        const Vec3 normal = speed > 1e-4f ? one.velocity / speed : Vec3(0.f, 1.f, 0.f);
        const float way = std::min(speed * seconds, speed * one.age); // since the last frame
        const int n = std::clamp(static_cast<int>(std::ceil(way / spacing)), 1, most);
        for (int k = 0; k < n; ++k)
            out->push_back({one.place - normal * (way * static_cast<float>(k) / static_cast<float>(n)), normal});
    }
    return out;
}
} // namespace hygros::elements
