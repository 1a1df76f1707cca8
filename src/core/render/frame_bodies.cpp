/// Voxel volumes and cloud decks: looked at by themselves, kept as means by pixel.
#include "render/frame.h"
#include "render/volume_march.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
using media::Ray8;

void Frame::makeVolumeLights()
{
    std::vector<std::unique_ptr<VolumeLight>> next;
    // Many volumes have coarser lattices, so that all of them together take little more than a dozen; copies of one
    // grid share what it is.
    const float crowd = std::max(1.f, static_cast<float>(shot_->volumes.size()) / 12.f);
    const int cells = std::max(8, static_cast<int>(static_cast<float>(VolumeLight::most) / std::cbrt(crowd)));
    for (std::size_t k = 0; k < shot_->volumes.size(); ++k) {
        const VolumeLight* lends = k < volumeLights_.size() ? volumeLights_[k].get() : nullptr;
        for (std::size_t j = k; j-- > 0 && shot_->volumes.size() > 4;)
            if (shot_->volumes[j].density == shot_->volumes[k].density) {
                lends = next[j].get();
                break;
            }
        next.push_back(std::make_unique<VolumeLight>(shot_, k, view_.position(), lends, cells));
    }
    volumeLights_ = std::move(next);
    colouredBodies_ = std::any_of(shot_->volumes.begin(), shot_->volumes.end(),
                                  [](const media::Volume& v) { return !media::isGrey(v); });
}

void Frame::feedVolumeLights()
{
    // Few photons for the first picture after a change, then more with every march until they would change little.
    constexpr int atFirst = 12000, perMarch = 48000, enough = 40;
    for (const auto& light : volumeLights_) {
        if (light->batches() >= enough)
            continue;
        // Many volumes share what four of them would get.
        const int share = std::max<int>(1, static_cast<int>(volumeLights_.size() + 3) / 4);
        light->add(*air_, std::max(1500, (light->batches() == 0 ? atFirst : perMarch) / share));
    }
}

void Frame::lookAtBodies(const Ray8& ray, F8 end, F8 jitter, float before, float* means) const
{
    const float weight = 1.f / (before + 1.f);
    const auto keep = [&](const F8 values[bodyPlanes], float* to) {
        for (int v = 0; v < bodyPlanes; ++v) {
            const F8 mean = load8(to + v * lanes);
            store8(to + v * lanes, before > 0.f ? mean + (values[v] - mean) * weight : values[v]);
        }
    };
    // The slabs of a ray are the same from look to look, or their means would mix.
    const int slabs = volumeSlabs(*shot_);
    F8 t0 = f8(0.f), t1 = f8(0.f), left = f8(1.f);
    if (slabs > 0)
        volumesOn8(*shot_, ray, end, t0, t1);
    for (int slab = 0; slab < slabs; ++slab) {
        const F8 from = t0 + (t1 - t0) * (static_cast<float>(slab) / static_cast<float>(slabs)),
                 to = slab + 1 == slabs ? t1
                                        : t0 + (t1 - t0) * (static_cast<float>(slab + 1) / static_cast<float>(slabs));
        F8 values[bodyPlanes];
        std::fill(values, values + bodyPlanes, f8(0.f));
        values[bodyThrough] = values[bodyColour] = values[bodyColour + 1] = values[bodyColour + 2] = f8(1.f);
        if (any((to > from) & (left > 1e-3f))) {
            VolumeSeen8 seen;
            lightVolumes8(*shot_, volumeLights_, ray, from, to, jitter, (before > 0.f ? 64 : 32) / slabs, seen);
            // Distances are weighted by how much was met; glow counts a little, so that a bare flame has one.
            const F8 through = (seen.through[0] + seen.through[1] + seen.through[2]) * (1.f / 3.f);
            F8 met = 1.f - through;
            for (int c = 0; c < 3; ++c)
                met += seen.own[c] * 1e-6f;
            for (int c = 0; c < 3; ++c) {
                values[c] = seen.sun[c];
                values[3 + c] = seen.sky[c];
                values[6 + c] = seen.own[c];
                values[bodyColour + c] = seen.through[c];
            }
            values[bodyThrough] = through;
            values[bodyAt] = seen.distance * met;
            left = left * through;
        }
        keep(values, means);
        means += bodyPlanes * lanes;
    }
    if (!shot_->decks.empty()) {
        media::DeckLight8 look;
        media::lightDecks8(shot_->decks, air_->deckSun(), ray, end, jitter, shot::Shot::farDistance, look);
        const F8 values[bodyPlanes] = {look.sun[0],
                                       look.sun[1],
                                       look.sun[2],
                                       look.sky[0],
                                       look.sky[1],
                                       look.sky[2],
                                       f8(0.f),
                                       f8(0.f),
                                       f8(0.f),
                                       look.through,
                                       look.distance * (1.f - look.through),
                                       look.through,
                                       look.through,
                                       look.through};
        keep(values, means);
    }
}

void Frame::tintByBodies(int x, int y, F8 depth, F8 tint[3]) const
{
    if (bodySeen_.empty())
        return;
    F8 body[mostSlabs * bodyPlanes];
    bodiesSeen(&bodySeen_[groupAt(x, y) * bodyFloats()], body);
    // The march counts their mean over channels.
    for (int b = 0; b < volumeSlabs(*shot_); ++b) {
        const F8* seen = body + b * bodyPlanes;
        const I8 behind = (depth > seen[bodyAt]) & (seen[bodyThrough] > 1e-6f);
        for (int c = 0; c < 3; ++c)
            tint[c] = tint[c] * select(behind, seen[bodyColour + c] / max8(seen[bodyThrough], f8(1e-6f)), f8(1.f));
    }
}

int Frame::bodiesSeen(const float* means, F8 out[mostSlabs * bodyPlanes]) const
{
    const int count = bodiesOf(*shot_);
    for (int v = 0; v < count * bodyPlanes; ++v)
        out[v] = load8(means + v * lanes);
    for (int b = 0; b < count; ++b) {
        F8* body = out + b * bodyPlanes;
        const F8 met = 1.f - body[bodyThrough] + (body[6] + body[7] + body[8]) * 1e-6f;
        body[bodyAt] = body[bodyAt] / max8(met, f8(1e-9f));
    }
    return count;
}
} // namespace hygros::render
