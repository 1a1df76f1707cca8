/// Paths within water: it takes, and scatters to all sides alike; its surface lets them out or mirrors them.
#include "render/path_walk.h"
#include "render/water_light.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
using geometry::WaterSurface;

namespace {
constexpr int certainEvents = 6; ///< before roulette begins
constexpr int mostEvents = 2000;
} // namespace

/// Light that comes to a place in water straight from the sun and the lamps. `hit` null: it is the water's own.
void PathIntegrator::lightInWater(Walk& walk, const WaterSurface& water, const Vec3& p, const geometry::Hit* hit,
                                  const Vec3& diffuse) const
{
    Random& random = walk.random;
    // By a share of what comes along a way.
    const auto facing = [&](const Vec3& way) {
        if (!hit)
            return 1.f / (4.f * pi);
        return way.dot(hit->geometricNormal) > 0.f ? std::max(0.f, way.dot(hit->normal)) / pi : 0.f;
    };
    const auto reachOf = [&](const std::vector<float>& reach) {
        return hit && hit->set < reach.size() ? reach[hit->set] : 1.f;
    };
    if (shot_->sky && uniform_ < 0.f && shot_->sky->hasSun()) {
        const Vec3 sun = towardSun(*shot_->sky, sunTangent_, sunBitangent_, random.next(), random.next());
        Vec3 way;
        const Vec3 share = sunUnderWater(*shot_, water, p, sun, walk.time, way);
        if (const float f = facing(way); f > 0.f && maxComponent(share) > 0.f) {
            const Vec3 above = p + way * (std::max(0.f, water.level() - p.y) / way.y);
            walk.gain(walk.weight * diffuse * share * shot_->sky->sunIrradiance() *
                          (f * reachOf(shot_->sunReach.sets)) *
                          flights_.through(above, sun, media::outsideDistance, false, true, random),
                      sunSource_);
        }
    }
    for (std::size_t i = 0; i < shot_->lamps.size(); ++i) {
        const light::Lamp& lamp = shot_->lamps[i];
        const float reach = hit ? lamp.reachOfSet(hit->set) * lamp.toDiffuse : lamp.toAir;
        light::LampSample s;
        if (!(reach > 0.f) || !light::sampleLamp(lamp, p, random.next(), random.next(), s))
            continue;
        if (const float f = facing(s.way); f > 0.f)
            walk.gain(walk.weight * diffuse * lamp.intensity * s.irradiance * (reach * f) *
                          lampUnderWater(*shot_, lamp, water, p, s.way, s.distance, walk.time),
                      lampSource_[i]);
    }
}

bool PathIntegrator::underWater(Walk& walk, const WaterSurface& water, Vec3& o, Vec3& d) const
{
    Random& random = walk.random;
    const Vec3 scatter = scatteredInWater(water), lost = water.absorption() + scatter;
    // Distances by the channel that loses least: weights stay bounded.
    const float rate = maxComponent(scatter) > 0.f ? std::min({lost.x, lost.y, lost.z}) : 0.f;
    for (int event = 0; event < mostEvents; ++event) {
        geometry::Hit hit;
        const bool met = shot_->scene->traceUnder(water, o, d, 1e-4f, 2000.f, hit, walk.time);
        const float end = met ? hit.t : 2000.f,
                    t = rate > 0.f ? -std::log(std::max(1e-12f, 1.f - random.next())) / rate : 1e9f;
        if (walk.first && event == 0) {
            walk.out.depth = met ? end : shot::Shot::farDistance;
            walk.out.normal = met ? hit.normal : Vec3(0.f);
        }
        if (t < end) {
            for (int c = 0; c < 3; ++c)
                walk.weight[c] *= scatter[c] / rate * std::exp(-(lost[c] - rate) * t);
            o += d * t;
            lightInWater(walk, water, o, nullptr, Vec3(1.f));
            const float y = 1.f - 2.f * random.next(), r = std::sqrt(std::max(0.f, 1.f - y * y)),
                        a = 2.f * pi * random.next();
            d = Vec3(r * std::cos(a), y, r * std::sin(a));
            walk.sharp = false;
        } else if (!met || hit.matte) {
            return false;
        } else {
            for (int c = 0; c < 3; ++c)
                walk.weight[c] *= std::exp(-(lost[c] - rate) * end);
            const Vec3 p = o + d * end;
            const Vec3 start = p + hit.geometricNormal *
                                       (1e-4f + 2e-6f * (std::abs(p.x) + std::abs(p.y) + std::abs(p.z) + end));
            if (hit.water && !hit.material->isWater) { // foam: light from above comes through, as live
                const Vec3 up(0.f, 1.f, 0.f), sent = throughFoam(water, hit.material->baseColour);
                o = p + up * (1e-3f + 2e-6f * end);
                if (shot_->sky && uniform_ < 0.f && shot_->sky->hasSun()) {
                    const Vec3 sun = towardSun(*shot_->sky, sunTangent_, sunBitangent_, random.next(), random.next());
                    if (sun.y > 0.f && !shot_->shadowsOfSun().occluded(o, sun, 1e6f, walk.time))
                        walk.gain(walk.weight * sent * shot_->sky->sunIrradiance() * (sun.y / pi) *
                                      flights_.through(o, sun, media::outsideDistance, false, true, random),
                                  sunSource_);
                }
                walk.weight *= sent;
                walk.sharp = false;
                walk.direction = -1.f;
                d = cosineDirection(up, random.next(), random.next());
                return true;
            }
            if (hit.material->isWater) {
                if (random.next() < geometry::mirroredInWater(-d.dot(hit.facet))) {
                    d = (d - hit.facet * (2.f * d.dot(hit.facet))).normalized();
                    if (d.y > -0.01f) // into the next small wave, and down from that
                        d = (d - Vec3(0.f, d.y + 0.01f, 0.f)).normalized();
                    o = start - Vec3(0.f, 1e-3f, 0.f);
                } else {
                    d = geometry::refractedOut(d, hit.facet);
                    if (d.y < 0.01f)
                        d = (d + Vec3(0.f, 0.01f - d.y, 0.f)).normalized();
                    walk.weight *= geometry::waterIndex * geometry::waterIndex;
                    o = p - hit.geometricNormal * (1e-3f + 2e-6f * end);
                    walk.direction = -1.f;
                    return true;
                }
            } else {
                const Brdf brdf(*hit.material,
                                SurfaceSampler::baseColour(hit, walk.pixelAngle, end, -d.dot(hit.normal)));
                if (walk.first && event == 0)
                    walk.out.albedo = brdf.diffuse;
                if (walk.sharp)
                    walk.gain(walk.weight * hit.material->emission, ownSource_);
                const Vec3 matte = brdf.diffuse + brdf.f0 * 0.5f;
                lightInWater(walk, water, start, &hit, matte);
                walk.skyReach = hit.set < shot_->skyReach.sets.size() ? shot_->skyReach.sets[hit.set] : 1.f;
                walk.weight *= matte;
                d = cosineDirection(hit.normal, random.next(), random.next());
                if (d.dot(hit.geometricNormal) <= 0.f)
                    return false;
                o = start;
                walk.sharp = false;
            }
        }
        if (event + 1 >= certainEvents) {
            const float go = std::min(0.95f, maxComponent(walk.weight));
            if (!(go > 0.f) || random.next() >= go)
                return false;
            walk.weight /= go;
        }
    }
    return false;
}
} // namespace hygros::render
