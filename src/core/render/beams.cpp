/// The beams of spot lamps in the air.
#include "media/phase8.h"
#include "render/air_kernel.h"
#include "render/lamp_glow.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
using media::Medium;
using media::Ray8;

static constexpr F8 eighths{0.f, 1.f, 2.f, 3.f, 4.f, 5.f, 6.f, 7.f};

void equiAngular8(const Vec3& o, const Vec3& d, const Vec3& lamp, float t0, float t1, float jitter, F8& t,
                  F8& inversePdf)
{
    const float nearest = (lamp - o).dot(d);
    const float distance = std::max(1e-3f, (o + d * nearest - lamp).length());
    const F8 ends = atan8(F8{t0 - nearest, t1 - nearest} / distance);
    const float a = ends[0], b = ends[1];
    const F8 x = distance * tan8(a + (b - a) * ((eighths + jitter) * (1.f / lanes)));
    t = min8(max8(nearest + x, f8(t0)), f8(t1));
    inversePdf = ((b - a) / distance) * (distance * distance + x * x);
}

namespace {
/// Where the eight samples lie in a lamp's beam and what one over their density is.
void placeSamples(const light::Lamp& lamp, const Vec3& o, const Vec3& d, float t0, float t1, float jitter, F8& t,
                  F8& inversePdf)
{
    if (lamp.shape == light::Lamp::Shape::Parallel) { // as bright far off as near: evenly
        t = t0 + (t1 - t0) * (eighths + jitter) * (1.f / lanes);
        inversePdf = f8(t1 - t0);
        return;
    }
    equiAngular8(o, d, lamp.shape == light::Lamp::Shape::Spot ? lamp.apex() : lamp.position, t0, t1, jitter, t,
                 inversePdf);
}
} // namespace

std::uint8_t beamVisibility(const shot::Shot& shot, std::size_t index, const Vec3& o, const Vec3& d, float end,
                            float jitter)
{
    const light::Lamp& lamp = shot.lamps[index];
    float t0 = 0.f, t1 = end;
    if (lamp.quick || lamp.shadows == light::Lamp::Shadows::None || !lamp.lightsAir() ||
        !light::insideBeam(lamp, o, d, t0, t1))
        return 0xff;
    F8 t, pdf;
    placeSamples(lamp, o, d, t0, t1, jitter, t, pdf);
    geometry::ShadowRays8 rays;
    const float turned = jitter * 31.f;
    rays.time = turned - std::floor(turned);
    for (int i = 0; i < lanes; ++i) {
        const Vec3 p = o + d * t[i];
        // Another point of the source for each sample and pass: what it shades has the source's own penumbra.
        const float u = jitter + 0.754877666f * static_cast<float>(i),
                    v = jitter * 8.f + 0.569840296f * static_cast<float>(i);
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
    return static_cast<std::uint8_t>(~shot.shadowsOf(lamp).occluded8(rays, 0xffu));
}

namespace {
F8 looked(const float* table, I8 at) { return _mm256_i32gather_ps(table, reinterpret_cast<__m256i>(at), 4); }
} // namespace

MarchedRay::MarchedRay(const AirModel& m, const Vec3& o, const Vec3& d, float length, int segments,
                       const float* boundary, const std::uint16_t* noise, const float* onward)
    : model(m), origin(o), direction(d), end(length), segments_(segments), boundary_(boundary), noise_(noise),
      onward_(onward)
{
}

void MarchedRay::read() const
{
    read_ = true;
    const int segments = segments_;
    const std::uint16_t* noise = noise_;
    scale_ = static_cast<float>(segments) / std::log(1.f + end / Segments8::a);
    for (int b = 0; b < segments; b += lanes) {
        F8 through;
        for (int i = 0; i < lanes; ++i)
            through[i] = boundary_[std::min(b + i, segments) * lanes];
        store8(depth_ + b, -log8(max8(through, f8(1e-30f))));
        store8(edge_ + b, (exp8((eighths + static_cast<float>(b)) * (1.f / scale_)) - 1.f) * Segments8::a);
    }
    edge_[segments] = end;
    depth_[segments] = -std::log(std::max(1e-30f, boundary_[segments * lanes]));
    for (int i = 0; i <= segments; ++i)
        kept_[i] = onward_ ? onward_[i * lanes] : 0.f;
    const std::size_t noisy = model.noisyCount();
    if (!noise)
        return;
    many_.resize(noisy > fewNoisy ? noisy * stride : 0);
    for (const AirModel::MediumData& data : model.media())
        if (data.noisyIndex >= 0) {
            const auto q = static_cast<std::size_t>(data.noisyIndex);
            float* to = (many_.empty() ? few_ : many_.data()) + q * stride;
            for (int s = 0; s < segments; ++s) {
                const std::uint16_t v = noise[(static_cast<std::size_t>(s) * noisy + q) * 16];
                to[s] = v ? static_cast<float>(v) * (data.bound / 65535.f) : 1.f;
            }
        }
}

MarchedRay::Places MarchedRay::at(F8 t) const
{
    if (!read_)
        read();
    const Ray8 ray = media::ray8(origin, direction);
    Places p{*this, t, ray.x(t), ray.y(t), ray.z(t), {}, {}, {}};
    p.piece = min8(max8(log8(1.f + t * (1.f / Segments8::a)) * scale_, f8(0.f)),
                   f8(static_cast<float>(segments_) - 1e-3f));
    const I8 before = toInt(p.piece);
    const F8 from = looked(depth_, before), to = looked(depth_, before + 1);
    // Evenly over a piece.
    const F8 begin = looked(edge_, before), length = looked(edge_, before + 1) - begin;
    const F8 share = clamp8((t - begin) / max8(length, f8(1e-6f)), 0.f, 1.f), depth = from + (to - from) * share;
    p.view = p.wide = exp8(-depth);
    if (onward_) {
        const F8 near = looked(kept_, before), far = looked(kept_, before + 1);
        p.wide = exp8(min8(near + (far - near) * share - depth, f8(0.f)));
    }
    return p;
}

F8 MarchedRay::Places::even(std::size_t k) const
{
    const Medium& m = *on.model.media()[k].medium;
    const F8 here = media::profile8(m, x, y, z) * m.sigmaT;
    return m.clear > 0.f ? select(t > m.clear, here, f8(0.f)) : here;
}

F8 MarchedRay::Places::pattern(std::size_t k, bool sampled) const
{
    const AirModel::MediumData& data = on.model.media()[k];
    if (!on.noise_ || !sampled)
        return media::pattern8(*data.medium, x, y, z);
    // The march's own means of the pieces, linearly between their middles.
    const float* table = (on.many_.empty() ? on.few_ : on.many_.data()) +
                         static_cast<std::size_t>(data.noisyIndex) * stride;
    const float last = static_cast<float>(on.segments_ - 1);
    const F8 middle = clamp8(piece - 0.5f, 0.f, last), whole = min8(floor8(middle), f8(std::max(0.f, last - 1.f)));
    const I8 s = toInt(whole);
    const F8 from = looked(table, s), to = looked(table, s + 1);
    return from + (to - from) * (middle - whole);
}

void MarchedRay::Places::tint(F8 light[3]) const
{
    if (!on.model.hasClean())
        return;
    F8 clean[3];
    on.model.cleanTint(media::ray8(on.origin, on.direction), t, clean);
    for (int c = 0; c < 3; ++c)
        light[c] = light[c] * clean[c];
}

bool beamSamples(const MarchedRay& marched, std::size_t lampIndex, float jitter, const std::uint8_t* lit, float share,
                 BeamSamples& out)
{
    const AirModel& model = marched.model;
    const Vec3 &o = marched.origin, &d = marched.direction;
    const light::Lamp& lamp = model.shot().lamps[lampIndex];
    float t0 = 0.f, t1 = marched.end;
    std::uint64_t anyLit;
    std::memcpy(&anyLit, lit, sizeof anyLit);
    if (!anyLit || model.clear() || !lamp.lightsAir() || !light::insideBeam(lamp, o, d, t0, t1))
        return false;
    F8 t, inversePdf;
    placeSamples(lamp, o, d, t0, t1, lamp.quick ? 0.5f : jitter, t, inversePdf);
    const MarchedRay::Places along = marched.at(t);
    const F8 &x = along.x, &y = along.y, &z = along.z;
    F8 toward[3], distance, fluence[3];
    light::lampFluence8(lamp, x, y, z, toward, distance, fluence);
    // Scattering angle: from the lamp's light (from lamp to point) to the way back along the ray.
    const F8 cosine = toward[0] * d.x + toward[1] * d.y + toward[2] * d.z;

    // Way from the lamp, noise by its mean at the sample.
    const Ray8 toLamp{x, y, z, toward[0], toward[1], toward[2]};
    F8 lampDepth = f8(0.f), lost = f8(0.f); // of the straight light; and of what goes on more or less forward
    const auto media = model.media();
    const std::size_t count = media.size();
    F8 few[8];
    std::vector<F8> many(count > 8 ? count : 0);
    F8* perMedium = count > 8 ? many.data() : few;
    for (std::size_t k = 0; k < count; ++k) {
        const Medium& m = *media[k].medium;
        F8 here = along.even(k), way = media::profileIntegral8(m, toLamp, f8(0.f), distance) * m.sigmaT;
        if (const int q = media[k].noisyIndex; q >= 0 && (!lamp.quick || m.ground || m.inside)) {
            const F8 n = along.pattern(k, !lamp.quick);
            here = here * n;
            // Ground and mesh fill their bounds only as far as the pattern says.
            way = way * (m.ground || m.inside ? n : 0.5f + 0.5f * n);
        }
        perMedium[k] = here * (lamp.toAir * lamp.reachOfMedium(k));
        if (!m.clean && lamp.shadows == light::Lamp::Shadows::Full) {
            lampDepth += way;
            lost += way * media[k].lost;
        }
    }
    const F8 common = countsTimes(lit, share * (1.f / lanes)) * inversePdf;
    const F8 straight = exp8(-lampDepth) * along.view, forward = exp8(-lost) * along.wide - straight;
    const bool followed = model.glowOf(lampIndex).found != nullptr;
    out.t = t;
    for (F8& channel : out.light)
        channel = f8(0.f);
    for (std::size_t k = 0; k < count; ++k) {
        const Medium& m = *media[k].medium;
        F8 s = media::phase8(m.phase, cosine) * straight;
        // Light left on its way comes from about there: blunted by one more event, or, as scaled transport (delta-M)
        // has it, by what the phase function is without its peak. Between the two is nearest to reference paths.
        if (model.shot().scatteringOrders > 1) {
            F8 again = media::phase8(m.phase.again(), cosine);
            if (const float kept = m.phase.forwardShare(); followed && kept > 0.f)
                again = 0.5f * (again + (1.f - kept) * media::phase8(media::plainPhase((m.phase.meanCosine() - kept) /
                                                                                       (1.f - kept)),
                                                                     cosine));
            s += again * forward;
        }
        s = s * common * perMedium[k];
        for (int c = 0; c < 3; ++c)
            out.light[c] += s * fluence[c] *
                            (lamp.intensity[c] * m.albedo[c] * (m.clean ? media::cleanSpectrum[c] : 1.f));
    }
    along.tint(out.light);
    return true;
}

bool glowSamples(const MarchedRay& marched, std::size_t lampIndex, float jitter, BeamSamples& out)
{
    const AirModel& model = marched.model;
    const Vec3 &o = marched.origin, &d = marched.direction;
    const AirModel::Glow& glow = model.glowOf(lampIndex);
    if (glow.power <= 0.f)
        return false;
    const light::Lamp& lamp = model.shot().lamps[lampIndex];
    // Where the ray passes within reach.
    const float middle = (glow.centre - o).dot(d), off2 = (o + d * middle - glow.centre).length2();
    constexpr float reach = AirModel::glowReach;
    if (off2 >= reach * reach)
        return false;
    const float half = std::sqrt(reach * reach - off2), t0 = std::max(0.f, middle - half),
                t1 = std::min(marched.end, middle + half);
    if (t1 <= t0)
        return false;
    F8 t, inversePdf;
    equiAngular8(o, d, glow.centre, t0, t1, jitter, t, inversePdf);
    const MarchedRay::Places along = marched.at(t);
    const F8 &x = along.x, &y = along.y, &z = along.z;
    // What flows one way by net is scattered on from there, the rest comes from all around.
    F8 fluence[3], flowing, cosine;
    if (glow.found) {
        const LampGlow::Light8 l = glow.found->at8(x, y, z);
        for (int c = 0; c < 3; ++c)
            fluence[c] = l.fluence[c];
        const F8 fx = l.flux(0), fy = l.flux(1), fz = l.flux(2), flux = sqrt8(fx * fx + fy * fy + fz * fz);
        flowing = min8(flux / max8(l.luminance(), f8(1e-30f)), f8(1.f));
        cosine = (fx * -d.x + fy * -d.y + fz * -d.z) / max8(flux, f8(1e-30f));
    } else {
        F8 outward;
        model.diffused(lampIndex, x, y, z, fluence, outward);
        const F8 dx = x - glow.centre.x, dy = y - glow.centre.y, dz = z - glow.centre.z;
        const F8 r = sqrt8(max8(dx * dx + dy * dy + dz * dz, f8(1e-4f)));
        flowing = outward * (1.f / 3.f);
        cosine = (dx * -d.x + dy * -d.y + dz * -d.z) / r;
        for (F8& l : fluence) // fading toward the end of what is followed
            l = l * clamp8(4.f - r * (4.f / reach), 0.f, 1.f) * lamp.toAir;
    }
    const F8 common = along.view * inversePdf * (1.f / (4.f * pi * lanes));
    const auto media = model.media();
    out.t = t;
    for (F8& channel : out.light)
        channel = f8(0.f);
    for (std::size_t k = 0; k < media.size(); ++k) {
        if (media[k].clean)
            continue;
        const media::Phase& phase = media[k].medium->phase;
        // Light that flows so is taken to lie about its way as Henyey & Greenstein's function of that mean cosine does;
        // two of them one after the other are one of the product.
        const F8 lobe = flowing * phase.meanCosine(), bent = max8(1.f + lobe * lobe - 2.f * lobe * cosine, f8(1e-4f));
        const F8 spreading = (1.f - lobe * lobe) / (bent * sqrt8(bent));
        const F8 s = spreading * along.even(k) * (media[k].noisyIndex >= 0 ? along.pattern(k) : f8(1.f)) * common *
                     lamp.reachOfMedium(k);
        for (int c = 0; c < 3; ++c)
            out.light[c] += s * fluence[c] * (media[k].medium->albedo[c] * lamp.intensity[c]);
    }
    along.tint(out.light);
    return true;
}

namespace {
Vec3 summed(const BeamSamples& s, int depths, const float* depth, const float* weight)
{
    F8 reach = f8(0.f);
    for (int c = 0; c < depths; ++c)
        reach += select(s.t < depth[c], f8(weight[c]), f8(0.f));
    return Vec3(sum(s.light[0] * reach), sum(s.light[1] * reach), sum(s.light[2] * reach));
}
} // namespace

Vec3 glowLight(const MarchedRay& ray, std::size_t lamp, float jitter, int depths, const float* depth,
               const float* weight)
{
    BeamSamples s;
    return glowSamples(ray, lamp, jitter, s) ? summed(s, depths, depth, weight) : Vec3(0.f);
}

Vec3 beamLight(const MarchedRay& ray, std::size_t lamp, float jitter, const std::uint8_t* lit, float share, int depths,
               const float* depth, const float* weight)
{
    BeamSamples s;
    return beamSamples(ray, lamp, jitter, lit, share, s) ? summed(s, depths, depth, weight) : Vec3(0.f);
}
} // namespace hygros::render
