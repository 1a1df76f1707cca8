/// The beams of spot lamps in the air.
#include "media/phase8.h"
#include "render/air_kernel.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
using media::Medium;
using media::Ray8;

void equiAngular8(const Vec3& o, const Vec3& d, const Vec3& lamp, float t0, float t1, float jitter, F8& t, F8& inversePdf)
{
    const float nearest = (lamp - o).dot(d);
    const float distance = std::max(1e-3f, (o + d * nearest - lamp).length());
    const float a = std::atan((t0 - nearest) / distance), b = std::atan((t1 - nearest) / distance);
    for (int i = 0; i < lanes; ++i) {
        const float u = (static_cast<float>(i) + jitter) / lanes;
        const float x = distance * std::tan(a + (b - a) * u);
        t[i] = std::clamp(nearest + x, t0, t1);
        inversePdf[i] = (b - a) * (distance * distance + x * x) / distance;
    }
}

namespace {
/// Where the eight samples lie in a lamp's beam and what one over their density is.
void placeSamples(const light::Lamp& lamp, const Vec3& o, const Vec3& d, float t0, float t1, float jitter, F8& t, F8& inversePdf)
{
    if (lamp.shape == light::Lamp::Shape::Parallel) { // as bright far off as near: evenly
        for (int i = 0; i < lanes; ++i)
            t[i] = t0 + (t1 - t0) * (static_cast<float>(i) + jitter) / lanes;
        inversePdf = f8(t1 - t0);
        return;
    }
    equiAngular8(o, d, lamp.shape == light::Lamp::Shape::Spot ? lamp.apex() : lamp.position, t0, t1, jitter, t, inversePdf);
}
} // namespace

std::uint8_t beamVisibility(const shot::Shot& shot, std::size_t index, const Vec3& o, const Vec3& d, float end, float jitter)
{
    const light::Lamp& lamp = shot.lamps[index];
    float t0 = 0.f, t1 = end;
    if (lamp.quick || lamp.shadows == light::Lamp::Shadows::None || !lamp.lightsAir() || !light::insideBeam(lamp, o, d, t0, t1))
        return 0xff;
    F8 t, pdf;
    placeSamples(lamp, o, d, t0, t1, jitter, t, pdf);
    geometry::ShadowRays8 rays;
    for (int i = 0; i < lanes; ++i) {
        const Vec3 p = o + d * t[i];
        // Another point of the source for each sample and pass: what it shades has the source's own penumbra.
        const float u = jitter + 0.754877666f * static_cast<float>(i), v = jitter * 8.f + 0.569840296f * static_cast<float>(i);
        const Vec3 to = light::sourcePoint(lamp, p, u - std::floor(u), v - std::floor(v)) - p;
        const float length = std::max(1e-6f, to.length());
        rays.ox[i] = p.x;
        rays.oy[i] = p.y;
        rays.oz[i] = p.z;
        rays.dx[i] = to.x / length;
        rays.dy[i] = to.y / length;
        rays.dz[i] = to.z / length;
        rays.reach[i] = std::max(0.f, length - light::clearanceOf(lamp));
    }
    return static_cast<std::uint8_t>(~shot.scene->occluded8(rays, 0xffu));
}

bool beamSamples(const AirModel& model, std::size_t lampIndex, const Vec3& o, const Vec3& d, float end, int segments,
                 const float* boundary, float jitter, const std::uint8_t* lit, float share, const std::uint16_t* noise, BeamSamples& out)
{
    const light::Lamp& lamp = model.shot().lamps[lampIndex];
    float t0 = 0.f, t1 = end;
    std::uint64_t anyLit;
    std::memcpy(&anyLit, lit, sizeof anyLit);
    if (!anyLit || model.clear() || !lamp.lightsAir() || !light::insideBeam(lamp, o, d, t0, t1))
        return false;
    F8 t, inversePdf;
    placeSamples(lamp, o, d, t0, t1, lamp.quick ? 0.5f : jitter, t, inversePdf);
    const Ray8 ray = media::ray8(o, d);
    const F8 x = ray.x(t), y = ray.y(t), z = ray.z(t);
    F8 toward[3], distance, fluence[3];
    light::lampFluence8(lamp, x, y, z, toward, distance, fluence);
    // Scattering angle: from the lamp's light (from lamp to point) to the way back along the ray.
    const F8 cosine = toward[0] * d.x + toward[1] * d.y + toward[2] * d.z;

    // Transmittance of the view at the samples, from the march's boundaries (linear in optical depth).
    const float scale = static_cast<float>(segments) / std::log(1.f + end / Segments8::a);
    const F8 at = min8(max8(log8(1.f + t * (1.f / Segments8::a)) * scale, f8(0.f)), f8(static_cast<float>(segments) - 1e-3f));
    const I8 piece = toInt(at);
    F8 before, after;
    for (int i = 0; i < lanes; ++i) {
        before[i] = boundary[piece[i] * lanes];
        after[i] = boundary[(piece[i] + 1) * lanes];
    }
    const F8 view = before * exp8(log8(max8(after, f8(1e-30f)) / max8(before, f8(1e-30f))) * (at - toFloat(piece)));
    // Way from the lamp, noise by its mean at the sample.
    const Ray8 toLamp{x, y, z, toward[0], toward[1], toward[2]};
    F8 lampDepth = f8(0.f);
    const auto media = model.media();
    const std::size_t count = media.size(), noisy = model.noisyCount();
    F8 few[8];
    std::vector<F8> many(count > 8 ? count : 0);
    F8* perMedium = count > 8 ? many.data() : few;
    for (std::size_t k = 0; k < count; ++k) {
        const Medium& m = *media[k].medium;
        F8 here = media::profile8(m, x, y, z) * m.sigmaT;
        if (m.clear > 0.f)
            here = select(t > m.clear, here, f8(0.f));
        F8 way = media::profileIntegral8(m, toLamp, f8(0.f), distance) * m.sigmaT;
        if (const int q = media[k].noisyIndex; q >= 0 && (!lamp.quick || m.ground || m.inside)) {
            F8 n = f8(1.f);
            if (noise) {
                // The march's own means of the pieces, linearly between their middles.
                const float bound = media[k].bound / 65535.f;
                const auto mean = [&](int s) {
                    const std::uint16_t v = noise[(static_cast<std::size_t>(s) * noisy + static_cast<std::size_t>(q)) * 16];
                    return v ? static_cast<float>(v) * bound : 1.f;
                };
                for (int i = 0; i < lanes; ++i) {
                    const float middle = at[i] - 0.5f;
                    const int s0 = std::clamp(static_cast<int>(std::floor(middle)), 0, segments - 1), s1 = std::min(s0 + 1, segments - 1);
                    n[i] = mean(s0) + (mean(s1) - mean(s0)) * std::clamp(middle - static_cast<float>(s0), 0.f, 1.f);
                }
            } else {
                n = media::pattern8(m, x, y, z);
            }
            here = here * n;
            // Ground and mesh fill their bounds only as far as the pattern says.
            way = way * (m.ground || m.inside ? n : 0.5f + 0.5f * n);
        }
        perMedium[k] = here * (lamp.toAir * lamp.reachOfMedium(k));
        if (!m.clean && lamp.shadows == light::Lamp::Shadows::Full)
            lampDepth += way;
    }
    const F8 common = countsTimes(lit, share * (1.f / lanes)) * view * inversePdf;
    const F8 quarter = exp8(lampDepth * -0.25f), half = quarter * quarter, full = half * half, again = scatteredAgain(full);
    out.t = t;
    F8 clean[3] = {f8(1.f), f8(1.f), f8(1.f)};
    if (model.hasClean())
        model.cleanTint(ray, t, clean);
    for (F8& channel : out.light)
        channel = f8(0.f);
    for (std::size_t k = 0; k < count; ++k) {
        const Medium& m = *media[k].medium;
        float energy = 1.f;
        Vec3 albedo = m.albedo;
        for (int order = 0; order < std::min(octaveCount, model.shot().scatteringOrders); ++order) {
            const F8 phase = media::phase8(m.phase.blunted(order), cosine);
            const F8 s = common * perMedium[k] * phase * (order == 0 ? full : (order == 1 ? half : quarter) * again) * energy;
            for (int c = 0; c < 3; ++c)
                out.light[c] += s * fluence[c] * clean[c] * (lamp.intensity[c] * albedo[c] * (m.clean ? media::cleanSpectrum[c] : 1.f));
            energy *= octaveEnergy;
            albedo *= m.albedo;
        }
    }
    return true;
}

Vec3 beamLight(const AirModel& model, std::size_t lamp, const Vec3& o, const Vec3& d, float end, int segments,
                  const float* boundary, float jitter, const std::uint8_t* lit, float share, int depths, const float* depth,
                  const float* weight, const std::uint16_t* noise)
{
    BeamSamples s;
    if (!beamSamples(model, lamp, o, d, end, segments, boundary, jitter, lit, share, noise, s))
        return Vec3(0.f);
    F8 reach = f8(0.f);
    for (int c = 0; c < depths; ++c)
        reach += select(s.t < depth[c], f8(weight[c]), f8(0.f));
    return Vec3(sum(s.light[0] * reach), sum(s.light[1] * reach), sum(s.light[2] * reach));
}
} // namespace hygros::render
