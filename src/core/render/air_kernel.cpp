#include "render/air_kernel.h"

#include "media/phase8.h"
#include "render/costs.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
using media::Medium;
using media::Ray8;
using media::Shape;

AirModel::AirModel(const shot::Shot& shot) : shot_(shot)
{
    for (const Medium& m : shot.media) {
        MediumData d{};
        d.medium = &m;
        d.noisyIndex = media::isPatterned(m) ? static_cast<int>(noisy_++) : -1;
        d.element = static_cast<int>(media_.size());
        for (const MediumData& before : media_)
            if (before.medium->id == m.id)
                d.element = before.element;
        d.bounded = m.shape != Shape::Thinning;
        d.flat = media::isFlat(m);
        d.clean = m.clean;
        grounds_ += m.ground ? 1 : 0;
        clean_ = clean_ || m.clean;
        d.bound = media::patternBound(m);
        d.clear = m.clear;
        d.sigma = m.sigmaT;
        d.base = m.base;
        d.top = m.top;
        d.diffusing = 0.75f * (1.f - m.phase.meanCosine());
        d.absorbing = 1.73f * (1.f - luminance(m.albedo));
        if (m.shape == Shape::Thinning) {
            d.inverse = 1.f / m.thinning;
            d.whole = m.sigmaT * m.thinning;
            d.level = 0.02f * m.thinning;
        } else if (m.shape == Shape::Layer && d.flat) {
            // As in media/medium.cpp: a short ramp up, a long one down.
            d.up = std::max(1e-4f, 0.25f * m.falloff);
            d.down = std::max(1e-4f, m.falloff);
            d.inverseUp = 1.f / d.up;
            d.inverseDown = 1.f / d.down;
            d.whole = m.sigmaT * ((m.top - m.base - 0.5f * d.up) - 0.5f * d.down);
            d.level = 0.02f * d.up;
        } else {
            d.level = 1e-3f;
        }
        media_.push_back(d);
    }
    if (shot.sky)
        sun_ = shot.sky->sunDirection();
    // A sun at or under the horizon shines along the ground; a hundred metres of way for one of height is enough.
    sunScale_ = 1.f / std::max(sun_.y, 0.01f);
}

namespace {
inline F8 rampUp(F8 u)
{
    const F8 c = clamp8(u, 0.f, 1.f);
    return c * c * (3.f - 2.f * c);
}
} // namespace

F8 AirModel::MediumData::density(F8 y) const
{
    switch (medium->shape) {
    case Shape::Uniform: return select(y <= top, f8(sigma), f8(0.f));
    case Shape::Thinning: return sigma * exp8((base - y) * inverse);
    default: return sigma * max8(f8(0.f), rampUp((y - base) * inverseUp) - rampUp((y - (top - down)) * inverseDown));
    }
}

F8 AirModel::columnTo(const MediumData& d, const Vec3& direction, float flatScale, F8 x, F8 y, F8 z) const
{
    if (d.flat)
        return d.above(y) * flatScale;
    const Ray8 ray{x, y, z, f8(direction.x), f8(direction.y), f8(direction.z)};
    const float share = d.medium->inside ? d.medium->inside->fill() : 1.f;
    return media::profileIntegral8(*d.medium, ray, f8(0.f), f8(media::outsideDistance)) * (d.sigma * share);
}

void AirModel::lightWays(F8 x, F8 y, F8 z, const F8* modulation, F8& sunDepth, F8& skyShare, F8& diffused, float* kept) const
{
    const auto keptOr = [&](const auto& lookUp) {
        if (!kept)
            return lookUp();
        float* own = kept;
        kept += lanes;
        if (own[0] == unkept)
            store8(own, lookUp());
        return load8(own);
    };
    F8 slantDiffusing = f8(0.f), toSun = f8(0.f), diffusing = f8(0.f), absorbed = f8(0.f);
    for (const MediumData& d : media_) {
        if (d.clean)
            continue; // the sky's light has come through it already
        F8 up, slant;
        if (d.flat) {
            up = d.above(y);
            slant = up * sunScale_;
        } else if (d.medium->ground) {
            // As if level around the point.
            const media::Medium& m = *d.medium;
            up = kept || any(y < m.ground->highest() + m.top) ? media::aboveHeight8(m, y - keptOr([&] { return m.ground->height8(x, z); })) * d.sigma : f8(0.f);
            slant = up * sunScale_;
        } else {
            up = columnTo(d, Vec3(0, 1, 0), 1.f, x, y, z);
            slant = columnTo(d, sun_, sunScale_, x, y, z);
        }
        toSun += modulation && d.noisyIndex >= 0 ? slant * modulation[d.noisyIndex] : slant;
        diffusing += up * d.diffusing;
        slantDiffusing += slant * d.diffusing;
        absorbed += up * d.absorbing;
    }
    for (const media::CloudDeck& deck : shot_.decks) {
        // Below it all of its mean column, inside in part.
        const F8 share = clamp8((deck.base + deck.thickness - y) * (1.f / deck.thickness), 0.f, 1.f);
        if (!any(share > 0.f) && !kept)
            continue;
        const float spread = 0.75f * (1.f - deck.phase.meanCosine());
        F8 slant = f8(0.f);
        if (deck.shadow)
            slant = kept ? keptOr([&] { return deck.shadow->whole8(x, y, z); }) * deck.shadow->above8(y) : deck.shadow->depth8(x, y, z);
        toSun += slant;
        slantDiffusing += slant * spread;
        diffusing += share * (deck.meanColumn * spread);
        absorbed += share * (deck.meanColumn * 1.73f * (1.f - luminance(deck.albedo)));
    }
    sunDepth = toSun;
    // kept/(1 + a) and kept/(1 + b) with one division.
    const F8 a = 1.f + diffusing, b = 1.f + slantDiffusing, left = exp8(-absorbed) / (a * b);
    skyShare = left * b;
    diffused = left * a;
}

F8 AirModel::sunDepth(F8 x, F8 y, F8 z, const F8* modulation) const
{
    F8 depth, sky, diffused;
    lightWays(x, y, z, modulation, depth, sky, diffused);
    return depth;
}

media::DeckSun AirModel::deckSun() const
{
    media::DeckSun s{sun_, Vec3(0.f), Vec3(0.f), Vec3(0.f), shot_.scatteringOrders};
    if (shot_.sky) {
        s.irradiance = shot_.sky->sunIrradiance();
        s.zenith = shot_.sky->irradiance(Vec3(0, 1, 0)) * (1.f / pi);
        s.ground = shot_.sky->groundRadiance() * 0.7f; // part of it lies in the deck's own shadow
    }
    return s;
}

F8 AirModel::sunPathModulation(std::size_t index, F8 x, F8 y, F8 z, F8 nearModulation, F8 u) const
{
    const Medium& m = *media_[index].medium;
    if (m.ground && m.noise.contrast <= 0.f)
        return f8(1.f); // the way is by what lies above the ground already
    F8 t0 = f8(0.f), t1 = f8(media::outsideDistance);
    const Ray8 ray{x, y, z, f8(sun_.x), f8(sun_.y), f8(sun_.z)};
    media::clip8(m, ray, t0, t1);
    if (m.inside || (m.ends.far != 1.f && !m.ground)) {
        // The mean of three places on the way; what columnTo() counts as filled is taken out again.
        F8 total = f8(0.f);
        for (int k = 0; k < 3; ++k) {
            const F8 t = t0 + (t1 - t0) * ((static_cast<float>(k) + u) * (1.f / 3.f));
            total += media::pattern8(m, ray.x(t), ray.y(t), ray.z(t));
        }
        return min8(total * (1.f / (3.f * (m.inside ? std::max(0.01f, m.inside->fill()) : 1.f))), f8(media_[index].bound));
    }
    // Beyond a few cells the mean is known; sampling stays where structure still shows.
    t1 = min8(t1, t0 + 6.f * m.noise.scale);
    const F8 t = t0 + (t1 - t0) * u;
    if (m.ground)
        nearModulation = media::modulation8(m.noise, x, y, z);
    return min8(0.35f * nearModulation + 0.65f * media::modulation8(m.noise, ray.x(t), ray.y(t), ray.z(t)), f8(media_[index].bound));
}

F8 AirModel::cleanDepth(const Ray8& ray, F8 t) const
{
    F8 depth = f8(0.f);
    for (const MediumData& d : media_)
        if (d.clean) {
            const F8 from = f8(d.clear);
            depth += media::profileIntegral8(*d.medium, ray, from, max8(t, from)) * d.sigma;
        }
    return depth;
}

void AirModel::cleanTint(const Ray8& ray, F8 t, F8 tint[3]) const
{
    const F8 depth = cleanDepth(ray, t);
    for (int c = 0; c < 3; ++c)
        tint[c] = exp8(depth * -media::cleanSpectrum[c]);
}

float AirModel::depthBetween(const Vec3& a, const Vec3& b) const { return depthTo(f8(b.x), f8(b.y), f8(b.z), f8(a.x), f8(a.y), f8(a.z))[0]; }

F8 AirModel::depthToLamp8(const light::Lamp& lamp, F8 x, F8 y, F8 z) const
{
    if (lamp.shadows != light::Lamp::Shadows::Full)
        return f8(0.f);
    if (lamp.shape != light::Lamp::Shape::Parallel)
        return depthTo(f8(lamp.position.x), f8(lamp.position.y), f8(lamp.position.z), x, y, z);
    const Vec3& d = lamp.direction;
    const F8 ahead = (x - lamp.position.x) * d.x + (y - lamp.position.y) * d.y + (z - lamp.position.z) * d.z;
    return depthTo(x - ahead * d.x, y - ahead * d.y, z - ahead * d.z, x, y, z);
}

F8 AirModel::depthTo(F8 tx, F8 ty, F8 tz, F8 x, F8 y, F8 z) const
{
    const F8 dx = tx - x, dy = ty - y, dz = tz - z, length = sqrt8(dx * dx + dy * dy + dz * dz), inv = 1.f / max8(length, f8(1e-6f));
    const Ray8 ray{x, y, z, dx * inv, dy * inv, dz * inv};
    F8 depth = f8(0.f);
    for (const MediumData& m : media_) {
        if (m.clean)
            continue;
        if (m.medium->ground) {
            // The way over the ground as straight from end to end.
            const media::Medium& g = *m.medium;
            const F8 from = y - g.ground->height8(x, z), to = ty - g.ground->height8(tx, tz), rise = to - from;
            const I8 level = abs8(rise) < 0.05f;
            depth += m.sigma * length *
                     select(level, media::atHeight8(g, from), (media::aboveHeight8(g, from) - media::aboveHeight8(g, to)) / select(level, f8(1.f), rise));
        } else if (m.medium->inside) {
            for (int k = 0; k < 4; ++k) {
                const F8 t = length * (0.125f + 0.25f * static_cast<float>(k));
                depth += media::profile8(*m.medium, ray.x(t), ray.y(t), ray.z(t)) * media::pattern8(*m.medium, ray.x(t), ray.y(t), ray.z(t)) * length * (0.25f * m.sigma);
            }
        } else {
            depth += media::profileIntegral8(*m.medium, ray, f8(0.f), length) * m.sigma;
        }
    }
    return depth;
}

Segments8::Segments8(F8 end, int count)
{
    ratio = exp8(log8(1.f + end * (1.f / a)) * (1.f / static_cast<float>(count)));
    first = (ratio - 1.f) * a;
}

int segmentsFor(float end, int most)
{
    const float share = std::log(1.f + end / Segments8::a) / std::log(1.f + shot::Shot::farDistance / Segments8::a);
    return std::clamp(3 * static_cast<int>(std::ceil(static_cast<float>(most) * std::sqrt(share) / 3.f - 0.01f)), 6, most);
}

namespace {
F8 widened(const std::uint16_t* from)
{
    const __m128i raw = _mm_loadu_si128(reinterpret_cast<const __m128i*>(from));
    return toFloat(reinterpret_cast<I8>(_mm256_cvtepu16_epi32(raw)));
}
} // namespace

F8 keepNoise(std::uint16_t* means, float bound, F8 modulation, F8 weight)
{
    const F8 value = modulation * (65535.f / bound), before = widened(means);
    F8 mean = select(before > 0.f, before + (value - before) * weight, value);
    mean = clamp8(mean, 1.f, 65535.f);
    const I8 rounded = toInt(mean + 0.5f);
    const auto whole = reinterpret_cast<__m256i>(rounded);
    const __m256i packed = _mm256_permute4x64_epi64(_mm256_packus_epi32(whole, whole), 0x08);
    _mm_storeu_si128(reinterpret_cast<__m128i*>(means), _mm256_castsi256_si128(packed));
    return toFloat(rounded) * (bound / 65535.f); // as it will be read
}

F8 keptNoise(const std::uint16_t* means, float bound)
{
    return widened(means) * (bound / 65535.f);
}

/// Colour of each medium's sums: [medium][sun slots, sky][channel].
static void tintsOf(const AirModel& model, const Ray8& ray, int only, F8* tint)
{
    const light::Sky* sky = model.shot().sky.get();
    const auto media = model.media();
    const Vec3 sun = model.sunDirection(), light = sky ? sky->sunIrradiance() : Vec3(0.f);
    const F8 cosine = ray.dx * sun.x + ray.dy * sun.y + ray.dz * sun.z;
    for (std::size_t k = 0; k < media.size(); ++k) {
        const Medium& m = *media[k].medium;
        F8* to = tint + k * (sunSlots + 1) * 3;
        const auto reachOf = [k](const std::vector<float>& reach) { return k < reach.size() ? reach[k] : 1.f; };
        const float bySun = reachOf(model.shot().sunReach.media), bySky = reachOf(model.shot().skyReach.media);
        const bool silent = !sky || (only >= 0 && media[static_cast<std::size_t>(only)].element != media[k].element);
        float energy = silent ? 0.f : 1.f;
        Vec3 albedo = m.albedo;
        for (std::size_t o = 0; o < octaveCount; ++o) {
            const F8 phase = media::phase8(m.phase.blunted(static_cast<int>(o)), cosine);
            for (int c = 0; c < 3; ++c)
                to[o * 3 + static_cast<std::size_t>(c)] = phase * (light[c] * albedo[c] * (energy * bySun));
            energy *= static_cast<int>(o) + 1 < model.shot().scatteringOrders ? octaveEnergy : 0.f;
            albedo *= m.albedo;
        }
        const bool many = !silent && model.shot().scatteringOrders > 1;
        for (int c = 0; c < 3; ++c)
            to[octaveCount * 3 + c] = f8(many ? bySun * light[c] * std::max(0.f, sun.y) * (1.f / pi) * m.albedo[c] * m.ambient : 0.f);
        F8 around[3] = {f8(0.f), f8(0.f), f8(0.f)};
        if (!silent)
            sky->scattered8(ray.dx, ray.dy, ray.dz, m.phase.meanCosine(), around);
        for (int c = 0; c < 3; ++c)
            to[sunSlots * 3 + c] = around[c] * (m.albedo[c] * m.ambient * bySky);
    }
}

namespace {
template <bool clean> void march(const AirModel& model, const AirRays8& in, AirSums8& sums, F8 (*profile)[4], int onlyMedium)
{
    const auto media = model.media();
    const std::size_t count = media.size(), noisy = model.noisyCount(), keptLanes = model.keptCount() * lanes;
    sums.prepare(count);
    const int n = in.segments;
    const Segments8 grid(in.end, n);
    F8 t0 = f8(0.f), width = grid.first, through = f8(1.f);
    sums.boundary[0] = through;
    for (int c = 0; c < in.depths; ++c)
        sums.transmittance[c] = f8(1.f);

    /// Per medium: what the march carries from piece to piece.
    struct Carried {
        F8 delta, enter, leave, above;
    };
    constexpr std::size_t few = 8;
    Carried smallStore[few];
    F8 smallModulation[few];
    std::vector<Carried> bigStore(count > few ? count : 0);
    std::vector<F8> bigModulation(count > few ? count : 0);
    Carried* carried = count > few ? bigStore.data() : smallStore;
    F8* sunModulation = count > few ? bigModulation.data() : smallModulation;
    const F8 safeDy = select(abs8(in.ray.dy) < 1e-7f, f8(1e-7f), in.ray.dy), perDy = 1.f / safeDy;
    for (std::size_t k = 0; k < count; ++k) {
        carried[k].enter = f8(0.f);
        carried[k].leave = in.end;
        if (media[k].bounded)
            media::clip8(*media[k].medium, in.ray, carried[k].enter, carried[k].leave);
        const float clear = in.fromEye ? media[k].clear : 0.f;
        carried[k].enter = max8(carried[k].enter, f8(clear));
        carried[k].leave = max8(carried[k].leave, carried[k].enter);
        if (media[k].flat)
            carried[k].above = media[k].above(in.ray.oy + in.ray.dy * clear);
    }
    F8 tintBefore[3] = {f8(1.f), f8(1.f), f8(1.f)};
    for (int c = 0; c < 3; ++c)
        sums.deck[0][c] = sums.deck[1][c] = f8(0.f);
    for (int c = 0; c < 3; ++c)
        sums.tinted[0][c] = sums.tinted[1][c] = f8(0.f);

    // For the optional profile the colours are needed on the way.
    F8 rgb[3] = {f8(0.f), f8(0.f), f8(0.f)};
    F8 smallTint[few * (sunSlots + 1) * 3];
    std::vector<F8> bigTint((profile || clean) && count > few ? count * (sunSlots + 1) * 3 : 0);
    F8* tint = count > few ? bigTint.data() : smallTint;
    if (profile || clean)
        tintsOf(model, in.ray, onlyMedium, tint);

    for (int i = 0; i < n; ++i) {
        const F8 t1 = t0 + width;
        const F8 j = pieceJitter(in.jitter, i);
        F8 total = f8(0.f), where = f8(0.f), cleanTotal = f8(0.f);
        const F8 y1 = in.ray.oy + in.ray.dy * t1, y0 = in.ray.oy + in.ray.dy * t0;
        for (std::size_t k = 0; k < count; ++k) {
            const AirModel::MediumData& md = media[k];
            const Medium& m = *md.medium;
            const std::uint64_t begun = in.clock ? ticks() : 0;
            Carried& carry = carried[k];
            const F8 a = max8(t0, carry.enter), b = max8(a, min8(t1, carry.leave));
            F8 d = f8(0.f);
            if (md.flat) {
                // Along a straight ray the depth is the difference of what lies above its two ends, by the slope.
                F8 ya = y0, yb = y1, length = width;
                if (md.clear > 0.f && in.fromEye) {
                    const F8 near = max8(t0, f8(md.clear)), far = max8(t1, f8(md.clear));
                    ya = in.ray.oy + in.ray.dy * near;
                    yb = in.ray.oy + in.ray.dy * far;
                    length = far - near;
                }
                const F8 next = md.above(yb);
                d = max8(f8(0.f), (carry.above - next) * perDy);
                const I8 level = abs8(yb - ya) < md.level;
                if (any(level))
                    d = select(level, md.density(0.5f * (ya + yb)) * length, d);
                carry.above = next;
            } else if (any(b > a)) {
                d = media::profileIntegral8(m, in.ray, a, b) * md.sigma;
            }
            if (const int q = media[k].noisyIndex; q >= 0) {
                const bool here = any(d > 0.f);
                std::uint16_t* means =
                    in.noise.means ? in.noise.means + (static_cast<std::size_t>(i) * noisy + static_cast<std::size_t>(q)) * 16 : nullptr;
                F8 along = f8(1.f), toSun = f8(1.f);
                if (means && !in.noise.sample) {
                    if (here) {
                        along = keptNoise(means, md.bound);
                        toSun = keptNoise(means + 8, md.bound);
                    }
                } else if (here) {
                    F8 t = a + (b - a) * j;
                    along = m.ground ? media::groundShare8(m, in.ray, a, b, 0.15f + 0.7f * j) : media::pattern8(m, in.ray.x(t), in.ray.y(t), in.ray.z(t));
                    if (m.ground && any(along > 0.f))
                        along = along * media::detail8(m, in.ray.x(t), in.ray.y(t), in.ray.z(t));
                    if (m.inside) {
                        // Edges of the shape itself: four places evenly over the piece, and light where most of it is.
                        F8 most = along, weightedT = along * t;
                        for (int s = 1; s < 4; ++s) {
                            F8 u = j + 0.25f * static_cast<float>(s);
                            u = u - select(u >= 1.f, f8(1.f), f8(0.f));
                            const F8 ts = a + (b - a) * u, p = media::pattern8(m, in.ray.x(ts), in.ray.y(ts), in.ray.z(ts));
                            most += p;
                            weightedT += p * ts;
                        }
                        t = select(most > 0.f, weightedT / max8(most, f8(1e-12f)), t);
                        along = most * 0.25f;
                    }
                    if (model.shot().sky)
                        toSun = model.sunPathModulation(k, in.ray.x(t), in.ray.y(t), in.ray.z(t), along, pieceJitter(in.jitter, i + 13));
                    if (means) {
                        along = keepNoise(means, md.bound, along, in.noise.weight);
                        toSun = keepNoise(means + 8, md.bound, toSun, in.noise.weight);
                    }
                }
                d = d * along;
                sunModulation[q] = toSun;
            }
            carry.delta = d;
            if (md.clean)
                cleanTotal += d;
            else
                total += d;
            where += d * (0.5f * (a + b)); // lit at the middle of what is there
            if (in.clock)
                in.clock[k] += static_cast<double>(ticks() - begun);
        }
        const F8 thick = max8(total, f8(1e-12f));
        const F8 leave = exp8(-total);
        // (1 − e^{−δ})/δ without cancellation for thin pieces.
        const F8 held = select(total < 1e-3f, 1.f - 0.5f * total, (1.f - leave) / thick);
        F8 reach = f8(0.f);
        const F8 perWidth = 1.f / width;
        for (int c = 0; c < in.depths; ++c) {
            const F8 share = clamp8((in.depth[c] - t0) * perWidth, 0.f, 1.f);
            reach += in.weight[c] * share;
            // Transmittance at the depth: full pieces multiply, the last one in part.
            const I8 part = (share > 0.f) & (share < 1.f);
            F8 factor = select(share >= 1.f, leave, f8(1.f));
            if (any(part))
                factor = select(part, exp8(-total * share), factor);
            sums.transmittance[c] = sums.transmittance[c] * factor;
        }
        F8 tintAfter[3], tintedWeight[3];
        for (int c = 0; clean && c < 3; ++c) {
            // The piece's own transmittance and mean, by channel.
            const F8 depth = total + cleanTotal * media::cleanSpectrum[c], left = exp8(-depth);
            tintAfter[c] = tintBefore[c] * exp8(cleanTotal * -media::cleanSpectrum[c]);
            tintedWeight[c] = through * tintBefore[c] * reach *
                              select(depth < 1e-3f, 1.f - 0.5f * depth, (1.f - left) / max8(depth, f8(1e-12f)));
        }
        if (any(total + cleanTotal > 0.f) && model.shot().sky) {
            // Where there is nothing yet the middle stands in, for what is kept of the place.
            const F8 tm = select(total + cleanTotal > 1e-12f, min8(max8(where / max8(total + cleanTotal, f8(1e-12f)), t0), t1), 0.5f * (t0 + t1));
            const F8 x = in.ray.x(tm), y = in.ray.y(tm), z = in.ray.z(tm);
            F8 sunTau, skyShare, diffused;
            model.lightWays(x, y, z, sunModulation, sunTau, skyShare, diffused, in.kept ? in.kept + static_cast<std::size_t>(i) * keptLanes : nullptr);
            const F8 sunny = in.sunSeen ? in.sunSeen[i] : f8(1.f), open = in.skySeen ? in.skySeen[i / 3] : f8(1.f);
            const F8 quarterWay = exp8(sunTau * -0.25f), halfWay = quarterWay * quarterWay, full = halfWay * halfWay, again = scatteredAgain(full * full),
                     half = halfWay * again, quarter = quarterWay * again;
            const F8 weight = through * held * reach;
            const F8 sunWeight = weight * sunny;
            const F8 around = weight * (0.15f + 0.85f * open), skyWeight = around * skyShare,
                     diffuseWeight = around * max8(f8(0.f), diffused - full);
            for (std::size_t k = 0; clean && k < count; ++k) {
                const F8* c = &tint[k * (sunSlots + 1) * 3];
                const F8 around1 = 0.15f + 0.85f * open, lost = max8(f8(0.f), diffused - full);
                for (int ch = 0; ch < 3; ++ch) {
                    const F8 w = tintedWeight[ch] * carried[k].delta * (media[k].clean ? media::cleanSpectrum[ch] : 1.f);
                    const F8 bySun = w * (sunny * (c[ch] * full + c[3 + ch] * half + c[6 + ch] * quarter) + around1 * lost * c[9 + ch]),
                             bySky = w * around1 * skyShare * c[12 + ch];
                    sums.tinted[0][ch] += bySun;
                    sums.tinted[1][ch] += bySky;
                    rgb[ch] += bySun + bySky;
                }
            }
            for (std::size_t k = 0; !clean && k < count; ++k) {
                const F8 s = sunWeight * carried[k].delta, s0 = s * full, s1 = s * half, s2 = s * quarter, sk = skyWeight * carried[k].delta,
                         sd = diffuseWeight * carried[k].delta;
                F8* to = &sums.sun[k * sunSlots];
                to[0] += s0;
                to[1] += s1;
                to[2] += s2;
                to[3] += sd;
                sums.sky[k] += sk;
                if (profile) {
                    const F8* c = &tint[k * (sunSlots + 1) * 3];
                    for (int ch = 0; ch < 3; ++ch)
                        rgb[ch] += c[ch] * s0 + c[3 + ch] * s1 + c[6 + ch] * s2 + c[9 + ch] * sd + c[12 + ch] * sk;
                }
            }
        }
        F8 deckLeft = f8(1.f);
        if (in.deck) {
            const F8 at = in.deck[deckAt];
            const I8 here = (at >= t0) & (at < t1) & (in.deck[deckThrough] < 1.f);
            if (any(here)) {
                const F8 share = (at - t0) * perWidth, before = through * exp8(-total * share);
                F8 meets = f8(0.f);
                for (int c = 0; c < in.depths; ++c) {
                    const I8 beyond = here & (in.depth[c] > at);
                    meets += select(beyond, in.weight[c], f8(0.f));
                    sums.transmittance[c] = select(beyond, sums.transmittance[c] * in.deck[deckThrough], sums.transmittance[c]);
                }
                deckLeft = select(here, in.deck[deckThrough], f8(1.f));
                for (int c = 0; c < 3 && onlyMedium < 0; ++c) {
                    F8 w = before * meets;
                    if (clean)
                        w = w * tintBefore[c] * exp8(cleanTotal * share * -media::cleanSpectrum[c]);
                    sums.deck[0][c] += w * in.deck[c];
                    sums.deck[1][c] += w * in.deck[3 + c];
                    rgb[c] += w * (in.deck[c] + in.deck[3 + c]);
                }
            }
        }
        through = through * leave * deckLeft;
        for (int c = 0; clean && c < 3; ++c)
            tintBefore[c] = tintAfter[c];
        sums.boundary[i + 1] = through;
        if (profile) {
            for (int ch = 0; ch < 3; ++ch)
                profile[i][ch] = rgb[ch];
            profile[i][3] = through;
        }
        t0 = t1;
        width = width * grid.ratio;
        // Nothing behind this can be seen any more; noise that is being sampled is wanted for thinner air too.
        if (!in.noise.sample && !any(through > 1e-5f)) {
            for (int rest = i + 1; rest < n; ++rest) {
                sums.boundary[rest + 1] = through;
                if (profile)
                    std::copy(profile[i], profile[i] + 4, profile[rest]);
            }
            for (int c = 0; c < in.depths; ++c)
                sums.transmittance[c] = select(in.depth[c] > t1, f8(0.f), sums.transmittance[c]);
            break;
        }
    }
}

} // namespace

void marchAir(const AirModel& model, const AirRays8& rays, AirSums8& sums, F8 (*profile)[4], int onlyMedium)
{
    if (model.hasClean())
        march<true>(model, rays, sums, profile, onlyMedium);
    else
        march<false>(model, rays, sums, profile, onlyMedium);
}

void colourAir(const AirModel& model, const Ray8& ray, const AirSums8& sums, F8 sunOut[3], F8 skyOut[3], int only)
{
    if (model.hasClean()) {
        for (int c = 0; c < 3; ++c) {
            sunOut[c] = sums.tinted[0][c] + sums.deck[0][c];
            skyOut[c] = sums.tinted[1][c] + sums.deck[1][c];
        }
        return;
    }
    for (int c = 0; c < 3; ++c) {
        sunOut[c] = sums.deck[0][c];
        skyOut[c] = sums.deck[1][c];
    }
    const std::size_t count = model.mediumCount();
    F8 small[8 * (sunSlots + 1) * 3];
    std::vector<F8> big(count > 8 ? count * (sunSlots + 1) * 3 : 0);
    F8* tint = count > 8 ? big.data() : small;
    tintsOf(model, ray, only, tint);
    for (std::size_t k = 0; k < count; ++k)
        for (int c = 0; c < 3; ++c) {
            const F8* t = tint + k * (sunSlots + 1) * 3 + c;
            for (std::size_t o = 0; o < sunSlots; ++o)
                sunOut[c] += sums.sun[k * sunSlots + o] * t[o * 3];
            skyOut[c] += sums.sky[k] * t[sunSlots * 3];
        }
}
} // namespace hygros::render
