/// Voxel volumes as bodies.
#include "base/parallel.h"
#include "render/bodies.h"
#include "render/volume_march.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
namespace {
using media::Volume;

class VolumeBody final : public Body {
public:
    explicit VolumeBody(const std::vector<Volume>& volumes)
        : volumes_(volumes), tree_(std::make_shared<const media::VolumeTree>(volumes)),
          shades_(volumes, shaded(volumes))
    {
        for (const Volume& v : volumes) {
            const Vec3 mean = media::meanRelative(v);
            mean_.push_back((mean.x + mean.y + mean.z) / 3.f);
            // Of a body's chords the mean is four times its volume by its surface.
            const Vec3 size = v.bounds.isEmpty() ? Vec3(0.f) : v.bounds.max - v.bounds.min;
            const float faces = 2.f * (size.x * size.y + size.y * size.z + size.z * size.x);
            const float lost = 1.f - luminance(v.albedo);
            swallowed_.push_back(faces > 0.f && lost > 0.05f ? 4.f * size.x * size.y * size.z / faces * lost : 0.f);
            grey_.push_back(media::isGrey(v));
            glows_ |= v.glow.heat != nullptr;
        }
        coloured_ = std::find(grey_.begin(), grey_.end(), false) != grey_.end();
    }

    std::size_t count() const override { return volumes_.size(); }
    const std::string& id(std::size_t body) const override { return volumes_[body].id; }
    std::size_t keptCount() const override
    {
        if (isCrowd())
            return 0;
        const auto white = std::count(swallowed_.begin(), swallowed_.end(), 0.f);
        return 2 * volumes_.size() - static_cast<std::size_t>(white);
    }

    /// They are no layers: what they turn from its way goes off sideways.
    void shade(F8 x, F8 y, F8 z, Kept& kept, Shade& out) const override
    {
        // The room is other bodies' where a crowd keeps nothing.
        Kept none(nullptr);
        Kept& own = isCrowd() ? none : kept;
        const auto one = [&](std::size_t k) {
            const Volume& v = volumes_[k];
            const F8 column = own.value([&] { return v.shadow ? v.shadow->column8(x, y, z) : f8(0.f); });
            if (swallowed_[k] > 0.f)
                out.within += own.value([&] { return media::density8(v, x, y, z); }) *
                              (v.sigmaT * v.shadowShare * swallowed_[k]);
            if (!v.shadow)
                return true;
            const F8 slant = column * (v.sigmaT * v.shadowShare * mean_[k]);
            out.beside += slant;
            out.aside += slant * (1.f - luminance(v.albedo) * v.phase.meanCosine());
            return true;
        };
        if (isCrowd()) {
            const Vec3 sun = volumes_.front().shadow ? volumes_.front().shadow->sun() : Vec3(0.f, 1.f, 0.f);
            shades_.over8({x, y, z, f8(sun.x), f8(sun.y), f8(sun.z)}, f8(1e30f), one);
        } else
            for (std::size_t k = 0; k < volumes_.size(); ++k)
                one(k);
    }

    /// From a few places on each way.
    F8 depthOn(const media::Ray8& way, F8 length, const light::Lamp* from) const override
    {
        F8 depth = f8(0.f);
        tree_->over8(way, length, [&](std::size_t k) {
            const Volume& v = volumes_[k];
            F8 t0 = f8(0.f), t1 = length;
            media::clip8(v, way, t0, t1);
            if ((from && from->ofBody == static_cast<int>(k)) || !any(t1 > t0))
                return true;
            constexpr int places = 8;
            const F8 step = (t1 - t0) * (1.f / places);
            F8 total = f8(0.f);
            for (int i = 0; i < places; ++i) {
                const F8 t = t0 + step * (static_cast<float>(i) + 0.5f);
                total += media::extinction8(v, way.x(t), way.y(t), way.z(t));
            }
            const float lost = from ? 1.f - luminance(v.albedo) * v.phase.meanCosine() : 1.f;
            depth += total * step * (v.shadowShare * mean_[k] * lost);
            return true;
        });
        return depth;
    }

    void begin(const std::shared_ptr<const shot::Shot>& shot, const Vec3& eye, const Body* before) override
    {
        const auto* last = dynamic_cast<const VolumeBody*>(before);
        // Many volumes have coarser lattices, so that all of them together take little more than a dozen; copies of one
        // grid share what it is.
        const float crowd = std::max(1.f, static_cast<float>(volumes_.size()) / 12.f);
        const int cells = std::max(8, static_cast<int>(static_cast<float>(VolumeLight::most) / std::cbrt(crowd)));
        lights_.clear();
        for (std::size_t k = 0; k < volumes_.size(); ++k) {
            const VolumeLight* lends = last && k < last->lights_.size() ? last->lights_[k].get() : nullptr;
            for (std::size_t j = k; j-- > 0 && volumes_.size() > 4;)
                if (volumes_[j].density == volumes_[k].density) {
                    lends = lights_[j].get();
                    break;
                }
            lights_.push_back(std::make_unique<VolumeLight>(shot, k, eye, lends, cells, tree_));
        }
    }

    void feed(const AirModel& air) override
    {
        // Few photons for the first picture after a change, then more with every march.
        constexpr int atFirst = 12000, perMarch = 48000, enough = 40;
        parallelFor(lights_.size(), [&](std::size_t k) {
            VolumeLight& light = *lights_[k];
            if (light.batches() >= enough)
                return;
            // Many volumes share what four of them would get.
            const int share = std::max<int>(1, static_cast<int>(lights_.size() + 3) / 4);
            light.add(air, std::max(1500, (light.batches() == 0 ? atFirst : perMarch) / share));
        });
    }

    bool dependsOnAir() const override { return true; }
    bool hasOwnLight() const override { return true; }
    bool isColoured() const override { return coloured_; }

    void sources(std::vector<std::shared_ptr<const void>>& out) const override
    {
        for (const Volume& v : volumes_)
            out.push_back(v.shadow);
    }

    /// Of all together: a single one needs few.
    int slabs() const override { return volumes_.size() == 1 ? 2 : 4; }

    void look(const AirModel& air, const media::Ray8& ray, F8 end, F8 jitter, bool first, Seen8* out) const override
    {
        F8 t0 = f8(0.f), t1 = f8(0.f), left = f8(1.f);
        volumesOn8(volumes_, *tree_, ray, end, t0, t1);
        const int count = slabs();
        for (int slab = 0; slab < count; ++slab) {
            const F8 from = t0 + (t1 - t0) * (static_cast<float>(slab) / static_cast<float>(count)),
                     to = slab + 1 == count
                              ? t1
                              : t0 + (t1 - t0) * (static_cast<float>(slab + 1) / static_cast<float>(count));
            if (!any((to > from) & (left > 1e-3f)))
                continue;
            lightVolumes8(air.shot(), *tree_, lights_, ray, from, to, jitter, (first ? 32 : 64) / count, out[slab]);
            left = left * ((out[slab].through[0] + out[slab].through[1] + out[slab].through[2]) * (1.f / 3.f));
        }
    }

    media::Optics opticsAt(std::size_t body, const Vec3& point) const override
    {
        return media::opticsAt(volumes_[body], point);
    }
    const media::Phase& phase(std::size_t body) const override { return volumes_[body].phase; }

    bool collide(const Flight& f, Collision& nearest) const override
    {
        bool found = false;
        tree_->over(f.origin, f.direction, nearest.t, [&](std::size_t k) {
            const Volume& v = volumes_[k];
            media::overVolume(v, f.origin, f.direction, 0.f, nearest.t, [&](float t0, float t1, float bound) {
                for (float at = t0;;) {
                    at -= std::log(1.f - f.random.next()) / bound;
                    if (at >= t1)
                        return true;
                    Vec3 factor(1.f);
                    const float u = f.random.next();
                    const Vec3 p = f.origin + f.direction * at;
                    const bool happens = grey_[k] ? u * bound < media::extinction(v, p)
                                                  : media::collides(f.weight, media::opticsAt(v, p).extinction, bound,
                                                                    u, factor);
                    if (happens) {
                        nearest = {at, k, factor};
                        found = true;
                        return false;
                    }
                    if (!grey_[k])
                        f.nulls.push_back({at, factor});
                }
            });
            return true;
        });
        return found;
    }

    /// One after the other, each by its bricks' own bounds; what they let through multiplies.
    void through(const Vec3& o, const Vec3& d, float length, bool shades, Random& random, Vec3& left) const override
    {
        tree_->over(o, d, length, [&](std::size_t k) {
            const Volume& v = volumes_[k];
            const float dial = shades ? v.shadowShare : 1.f;
            if (dial <= 0.f)
                return true;
            media::overVolume(v, o, d, 0.f, length, [&](float t0, float t1, float most) {
                const float bound = most * dial;
                for (float at = t0;;) {
                    at -= std::log(1.f - random.next()) / bound;
                    if (at >= t1)
                        return left.x + left.y + left.z > 0.f;
                    const Vec3 p = o + d * at;
                    if (grey_[k])
                        left *= 1.f - dial * media::extinction(v, p) / bound;
                    else
                        left *= Vec3(1.f) - media::opticsAt(v, p).extinction * (dial / bound);
                    if (!media::survives(left, random))
                        return false;
                }
            });
            return left.x + left.y + left.z > 0.f;
        });
    }

    /// From one random place in every brick that is crossed.
    Vec3 glow(const Vec3& o, const Vec3& d, float length, bool asLight, Random& random,
              const Dimming& dimming) const override
    {
        Vec3 total(0.f);
        if (!glows_)
            return total;
        // Heat may lie beyond the box of the density, so that the tree cannot be asked.
        for (const Volume& v : volumes_) {
            const float strength = asLight ? v.glow.lights : 1.f;
            if (!v.glow.heat || strength <= 0.f)
                continue;
            const Vec3 start = o * v.glow.toHeat;
            Vec3 way;
            v.glow.toHeat.multDirMatrix(d, way);
            v.glow.heat->overBricks(start, way, 0.f, length, [&](float t0, float t1, float) {
                const float t = t0 + (t1 - t0) * random.next();
                const Vec3 p = o + d * t;
                F8 l[3];
                media::glow8(v, f8(p.x), f8(p.y), f8(p.z), l);
                const Vec3 given = Vec3(l[0][0], l[1][0], l[2][0]) * ((t1 - t0) * strength);
                if (maxComponent(given) > 0.f)
                    total += dimming ? given * dimming(t) : given;
                return true;
            });
        }
        return total;
    }

private:
    /// So many that points are shaded by those between them and the sun alone, anew each time: to keep what each of
    /// them does to every point would take more memory than it saves time.
    bool isCrowd() const { return volumes_.size() > 12; }
    /// How far a shadow reaches beyond the box of what casts it.
    static std::vector<float> shaded(const std::vector<Volume>& volumes)
    {
        std::vector<float> out;
        for (const Volume& v : volumes)
            out.push_back(v.shadow ? 2.f * v.shadow->cell() : 0.f);
        return out;
    }

    const std::vector<Volume>& volumes_;
    std::shared_ptr<const media::VolumeTree> tree_;
    media::VolumeTree shades_; ///< by shaded()
    bool glows_ = false;
    std::vector<float> swallowed_; ///< on the mean way through, per extinction [m]; 0 of what is nearly white
    std::vector<float> mean_;      ///< over channels of what its extinction is of its grey one
    std::vector<bool> grey_;
    bool coloured_ = false;
    std::vector<std::unique_ptr<VolumeLight>> lights_; ///< from begin() on
};
} // namespace

std::shared_ptr<Body> volumeBody(const shot::Shot& shot)
{
    return shot.volumes.empty() ? nullptr : std::make_shared<VolumeBody>(shot.volumes);
}
} // namespace hygros::render
