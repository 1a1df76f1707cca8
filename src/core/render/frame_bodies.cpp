/// Bodies: looked at by themselves, kept as means by pixel.
#include "render/frame.h"

#include <typeinfo>

namespace hygros::render {
using media::Ray8;

void Frame::makeBodies()
{
    Bodies next;
    next.list = bodiesOf(*shot_);
    for (const auto& body : next.list) {
        // One of the same kind as before, if there was one.
        const Body* before = nullptr;
        for (const auto& other : bodies_.list)
            if (typeid(*other) == typeid(*body))
                before = other.get();
        body->begin(shot_, view_.position(), before);
        next.slabs += body->slabs();
        next.coloured = next.coloured || body->isColoured();
        next.onAir = next.onAir || body->dependsOnAir();
        next.own = next.own || body->hasOwnLight();
    }
    bodies_ = std::move(next);
}

void Frame::lookAtBodies(const Ray8& ray, F8 end, F8 jitter, float before, float* means) const
{
    const float weight = 1.f / (before + 1.f);
    for (const auto& body : bodies_.list) {
        Body::Seen8 slabs[mostSlabs];
        body->look(*air_, ray, end, jitter, before <= 0.f, slabs);
        for (int s = 0; s < body->slabs(); ++s) {
            const Body::Seen8& seen = slabs[s];
            // Distances are weighted by how much was met; glow counts a little, so that a bare flame has one.
            F8 values[bodyPlanes];
            const F8 through = (seen.through[0] + seen.through[1] + seen.through[2]) * (1.f / 3.f);
            F8 met = 1.f - through;
            for (int c = 0; c < 3; ++c) {
                values[c] = seen.sun[c];
                values[3 + c] = seen.sky[c];
                values[6 + c] = seen.own[c];
                values[bodyColour + c] = seen.through[c];
                met += seen.own[c] * 1e-6f;
            }
            values[bodyThrough] = through;
            values[bodyAt] = seen.distance * met;
            for (int v = 0; v < bodyPlanes; ++v, means += lanes) {
                const F8 mean = load8(means);
                store8(means, before > 0.f ? mean + (values[v] - mean) * weight : values[v]);
            }
        }
    }
}

void Frame::tintByBodies(int x, int y, F8 depth, F8 tint[3]) const
{
    if (bodySeen_.empty())
        return;
    F8 seen[mostSlabs * bodyPlanes];
    AirRays8 rays;
    putBodies(bodySeen_.at(groupAt(x, y)), seen, rays);
    // The march counts their mean over channels.
    for (int b = 0; b < bodies_.slabs; ++b) {
        const F8* slab = seen + b * bodyPlanes;
        const I8 behind = (depth > slab[bodyAt]) & (slab[bodyThrough] > 1e-6f);
        for (int c = 0; c < 3; ++c)
            tint[c] = tint[c] * select(behind, slab[bodyColour + c] / max8(slab[bodyThrough], f8(1e-6f)), f8(1.f));
    }
}

void Frame::putBodies(const float* means, F8 room[mostSlabs * bodyPlanes], AirRays8& rays) const
{
    for (int v = 0; v < bodies_.slabs * bodyPlanes; ++v)
        room[v] = load8(means + v * lanes);
    for (int b = 0; b < bodies_.slabs; ++b) {
        F8* slab = room + b * bodyPlanes;
        const F8 met = 1.f - slab[bodyThrough] + (slab[6] + slab[7] + slab[8]) * 1e-6f;
        slab[bodyAt] = slab[bodyAt] / max8(met, f8(1e-9f));
    }
    rays.bodies = room;
    rays.slabCount = bodies_.slabs;
}
} // namespace hygros::render
