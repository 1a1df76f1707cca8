#pragma once
/// Inside the reference integrator: what path_integrator.cpp and path_light.cpp share.
#include "render/path_integrator.h"

namespace hygros::render {

/// What one path carries from event to event, and where its light goes.
struct PathIntegrator::Walk {
    Random& random;
    float pixelAngle;
    PathLight out;
    Vec3 weight{1.f};
    float time = 0.f;  ///< of the open shutter, as the path's ray of sight
    bool first = true; ///< before the first event
    bool firstInAir = false;
    bool sharp = true;      ///< so far the eye, or a mirror: sources are seen themselves
    float direction = -1.f; ///< density the present direction was drawn with [1/sr]; < 0: it was not drawn, or nothing
                            ///< else finds what it meets
    float skyReach = 1.f;   ///< of the last event
    float* setBy = nullptr; ///< one colour a source; null: not asked for
    float* airBy = nullptr;
    float* shadowBy = nullptr;

    void gain(const Vec3& l, std::size_t source) { gainAs(l, source, firstInAir); }
    void gainAs(const Vec3& l, std::size_t source, bool inAir)
    {
        (inAir ? out.air : out.set) += l;
        if (float* by = inAir ? airBy : setBy)
            for (std::size_t c = 0; c < 3; ++c)
                by[source * 3 + c] += l[static_cast<int>(c)];
    }
    /// Light of what is seen itself.
    void see(const Vec3& l, std::size_t source)
    {
        out.seen += l;
        gain(l, source);
    }
    void shadow(const Vec3& l, std::size_t source)
    {
        for (std::size_t c = 0; c < 3 && shadowBy; ++c)
            shadowBy[source * 3 + c] += l[static_cast<int>(c)];
    }
};

/// Where lamps' light can be met along one flight, and how likely each is looked for.
struct PathIntegrator::BeamSearch {
    struct Beam {
        std::size_t lamp;
        float t0, t1, closest, distance, from,
            angle; ///< `from`, `angle`: of the view from the lamp; a parallel beam is searched evenly
        bool even;
        float chance;
    };
    std::vector<Beam> beams;

    float density(const Beam& b, float t) const
    {
        if (t < b.t0 || t > b.t1)
            return 0.f;
        return b.even ? 1.f / (b.t1 - b.t0)
                      : b.distance / (b.angle * (b.distance * b.distance + (t - b.closest) * (t - b.closest)));
    }
    /// Chance that this lamp was looked for, times the density of the distance.
    float densityOf(std::size_t lamp, float t) const
    {
        for (const Beam& b : beams)
            if (b.lamp == lamp)
                return b.chance * density(b, t);
        return 0.f;
    }
};
} // namespace hygros::render
