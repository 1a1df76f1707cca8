#include "render/air_kernel.h"

#include "media/phase8.h"
#include "render/costs.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
using media::Medium;
using media::Ray8;
using media::Shape;

Segments8::Segments8(F8 end, int count)
{
    ratio = exp8(log8(1.f + end * (1.f / a)) * (1.f / static_cast<float>(count)));
    first = (ratio - 1.f) * a;
}

int segmentsFor(float end, int most)
{
    const float share = std::log(1.f + end / Segments8::a) / std::log(1.f + shot::Shot::farDistance / Segments8::a);
    return std::clamp(3 * static_cast<int>(std::ceil(static_cast<float>(most) * std::sqrt(share) / 3.f - 0.01f)), 6,
                      most);
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

F8 keptNoise(const std::uint16_t* means, float bound) { return widened(means) * (bound / 65535.f); }

/// Colour of each medium's sums: [medium][sun slots, sky][channel].
static void tintsOf(const AirModel& model, const Ray8& ray, int only, F8* tint)
{
    const light::Sky* sky = model.shot().sky.get();
    const auto media = model.media();
    const Vec3 sun = model.sunDirection(), light = sky ? sky->sunIrradiance() : Vec3(0.f);
    const F8 cosine = ray.dx * sun.x + ray.dy * sun.y + ray.dz * sun.z;
    for (std::size_t k = 0; k < media.size(); ++k) {
        const Medium& m = *media[k].medium;
        F8* to = tint + k * allSlots * 3;
        const auto reachOf = [k](const std::vector<float>& reach) { return k < reach.size() ? reach[k] : 1.f; };
        const float bySun = reachOf(model.shot().sunReach.media), bySky = reachOf(model.shot().skyReach.media);
        const bool silent = !sky || (only >= 0 && media[static_cast<std::size_t>(only)].element != media[k].element);
        const bool many = !silent && model.shot().scatteringOrders > 1;
        F8 lobe[sunSlots] = {f8(0.f), f8(0.f), f8(0.f), f8(0.f)};
        if (!silent)
            lobe[0] = media::phase8(m.phase, cosine);
        if (many) {
            lobe[1] = media::phase8(m.phase.again(), cosine);
            lobe[2] = media::phase8(m.phase.broad(), cosine);
            lobe[3] = f8(m.ambient / (4.f * pi));
        }
        for (int c = 0; c < 3; ++c) {
            // Its colour counts once more with every turn.
            const float colour = m.albedo[c] / std::max(1e-6f, luminance(m.albedo)),
                        first = light[c] * m.albedo[c] * bySun;
            const float turns[sunSlots] = {1.f, colour, colour * colour, colour * colour};
            for (int o = 0; o < sunSlots; ++o)
                to[o * 3 + c] = lobe[o] * (first * turns[o]);
        }
        F8 around[3] = {f8(0.f), f8(0.f), f8(0.f)};
        if (!silent)
            sky->scattered8(ray.dx, ray.dy, ray.dz, m.phase.meanCosine(), around);
        for (int c = 0; c < 3; ++c) {
            const float sent = m.albedo[c] * m.ambient * bySky;
            to[sunSlots * 3 + c] = around[c] * sent;
            to[(sunSlots + 1) * 3 + c] = f8(silent ? 0.f : model.skyAround()[c] * sent);
        }
    }
}

namespace {
template <bool clean>
void march(const AirModel& model, const AirRays8& in, AirSums8& sums, F8 (*profile)[4], int onlyMedium)
{
    const auto media = model.media();
    const std::size_t count = media.size(), noisy = model.noisyCount(), keptLanes = model.keptCount() * lanes;
    sums.prepare(count);
    const int n = in.segments;
    const Segments8 grid(in.end, n);
    F8 t0 = f8(0.f), width = grid.first, through = f8(1.f);
    sums.boundary[0] = through;
    F8 onward = f8(0.f);
    sums.onward[0] = onward;
    for (int c = 0; c < in.depths; ++c)
        sums.transmittance[c] = f8(1.f);

    /// Per medium: what the march carries from piece to piece.
    struct Carried {
        F8 delta, enter, leave, above;
        F8 first, from, to; ///< of the piece: what lies above its start; where in it the medium is
        I8 level;           ///< the piece is too level for that
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
        sums.body[0][c] = sums.body[1][c] = sums.body[2][c] = f8(0.f);
    for (int c = 0; c < 3; ++c)
        sums.tinted[0][c] = sums.tinted[1][c] = f8(0.f);

    // For the optional profile the colours are needed on the way.
    F8 rgb[3] = {f8(0.f), f8(0.f), f8(0.f)};
    F8 smallTint[few * allSlots * 3];
    std::vector<F8> bigTint((profile || clean) && count > few ? count * allSlots * 3 : 0);
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
                carry.first = carry.above;
                carry.above = next;
                carry.level = level;
            } else if (any(b > a)) {
                d = media::profileIntegral8(m, in.ray, a, b) * md.sigma;
            }
            if (const int q = media[k].noisyIndex; q >= 0) {
                const bool here = any(d > 0.f);
                std::uint16_t* means = in.noise.means ? in.noise.means + (static_cast<std::size_t>(i) * noisy +
                                                                          static_cast<std::size_t>(q)) *
                                                                             16
                                                      : nullptr;
                F8 along = f8(1.f), toSun = f8(1.f);
                if (means && !in.noise.sample) {
                    if (here) {
                        along = keptNoise(means, md.bound);
                        toSun = keptNoise(means + 8, md.bound);
                    }
                } else if (here) {
                    F8 t = a + (b - a) * j;
                    along = m.ground ? media::groundShare8(m, in.ray, a, b, 0.15f + 0.7f * j)
                                     : media::pattern8(m, in.ray.x(t), in.ray.y(t), in.ray.z(t));
                    if (m.ground && any(along > 0.f))
                        along = along * media::detail8(m, in.ray.x(t), in.ray.y(t), in.ray.z(t));
                    if (m.inside) {
                        // Edges of the shape itself: four places evenly over the piece, and light where most of it is.
                        F8 most = along, weightedT = along * t;
                        for (int s = 1; s < 4; ++s) {
                            F8 u = j + 0.25f * static_cast<float>(s);
                            u = u - select(u >= 1.f, f8(1.f), f8(0.f));
                            const F8 ts = a + (b - a) * u,
                                     p = media::pattern8(m, in.ray.x(ts), in.ray.y(ts), in.ray.z(ts));
                            most += p;
                            weightedT += p * ts;
                        }
                        t = select(most > 0.f, weightedT / max8(most, f8(1e-12f)), t);
                        along = most * 0.25f;
                    }
                    if (model.shot().sky)
                        toSun = model.sunPathModulation(k, in.ray.x(t), in.ray.y(t), in.ray.z(t), along,
                                                        pieceJitter(in.jitter, i + 13));
                    if (means) {
                        along = keepNoise(means, md.bound, along, in.noise.weight);
                        toSun = keepNoise(means + 8, md.bound, toSun, in.noise.weight);
                    }
                }
                d = d * along;
                sunModulation[q] = toSun;
            }
            carry.delta = d;
            carry.from = a;
            carry.to = b;
            if (md.clean) {
                cleanTotal += d;
            } else {
                total += d;
                onward += d * (1.f - md.lost);
            }
            where += d * (0.5f * (a + b)); // lit at the middle of what is there
            if (in.clock)
                in.clock[k] += static_cast<double>(ticks() - begun);
        }
        const F8 thick = max8(total, f8(1e-12f));
        const F8 leave = exp8(-total);
        // (1 − e^{−δ})/δ without cancellation for thin pieces.
        const F8 held = select(total < 1e-3f, 1.f - 0.5f * total, (1.f - leave) / thick);
        F8 reach = f8(0.f),
           toSky = f8(0.f); // the second: of rays that end in the sky, on which clean air counts for nothing
        const F8 perWidth = 1.f / width;
        // How much of what is in this piece lies before a place: a thin sheet at its near end lies before all that
        // stands in it.
        const auto shareBefore = [&](F8 depth) {
            const F8 plain = clamp8((depth - t0) * perWidth, 0.f, 1.f);
            const I8 within = (plain > 0.f) & (plain < 1.f);
            if (!any(within))
                return plain;
            F8 before = f8(0.f), all = f8(1e-20f);
            for (std::size_t k = 0; k < count; ++k) {
                const Carried& c = carried[k];
                F8 share = clamp8((depth - c.from) / max8(c.to - c.from, f8(1e-6f)), 0.f, 1.f);
                if (media[k].flat) {
                    const F8 there = media[k].above(in.ray.oy + in.ray.dy * depth), drop = c.first - c.above;
                    share = select(c.level | (abs8(drop) < 1e-12f), plain,
                                   clamp8((c.first - there) / select(abs8(drop) < 1e-12f, f8(1.f), drop), 0.f, 1.f));
                }
                before += c.delta * share;
                all += c.delta;
            }
            return select(within & (all > 1e-12f), before / all, plain);
        };
        for (int c = 0; c < in.depths; ++c) {
            const F8 share = shareBefore(in.depth[c]);
            reach += in.weight[c] * share;
            if (clean)
                toSky += select(in.depth[c] >= shot::Shot::farDistance, in.weight[c] * share, f8(0.f));
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
            tintedWeight[c] = through * tintBefore[c] * (reach - toSky) *
                              select(depth < 1e-3f, 1.f - 0.5f * depth, (1.f - left) / max8(depth, f8(1e-12f)));
        }
        if (any(total + cleanTotal > 0.f) && model.shot().sky) {
            // Where there is nothing yet the middle stands in, for what is kept of the place.
            const F8 tm = select(total + cleanTotal > 1e-12f,
                                 min8(max8(where / max8(total + cleanTotal, f8(1e-12f)), t0), t1), 0.5f * (t0 + t1));
            const F8 x = in.ray.x(tm), y = in.ray.y(tm), z = in.ray.z(tm);
            const AirModel::LightWays ways = model.lightWays(
                x, y, z, sunModulation, in.kept ? in.kept + static_cast<std::size_t>(i) * keptLanes : nullptr);
            const F8 sunny = in.sunSeen ? in.sunSeen[i] : f8(1.f), open = in.skySeen ? in.skySeen[i / 3] : f8(1.f);
            const F8 weight = through * held * reach, around = 0.15f + 0.85f * open;
            // Broadly spread light has half of the sun's shadows.
            const F8 lobe[sunSlots] = {sunny * exp8(-ways.sunDepth), sunny * ways.turned,
                                       0.5f * (sunny + around) * ways.broad, around * ways.around};
            const F8 skyShare[skySlots] = {around * ways.straight, around * ways.sky};
            for (std::size_t k = 0; clean && k < count; ++k) {
                const F8* c = &tint[k * allSlots * 3];
                const F8 plain = media[k].clean ? f8(0.f) : through * held * toSky * carried[k].delta;
                for (int ch = 0; ch < 3; ++ch) {
                    const F8 w = tintedWeight[ch] * carried[k].delta *
                                     (media[k].clean ? media::cleanSpectrum[ch] : 1.f) +
                                 plain;
                    const F8 bySun = w * (c[ch] * lobe[0] + c[3 + ch] * lobe[1] + c[6 + ch] * lobe[2] +
                                          c[9 + ch] * lobe[3]),
                             bySky = w *
                                     (skyShare[0] * c[sunSlots * 3 + ch] + skyShare[1] * c[(sunSlots + 1) * 3 + ch]);
                    sums.tinted[0][ch] += bySun;
                    sums.tinted[1][ch] += bySky;
                    rgb[ch] += bySun + bySky;
                }
            }
            for (std::size_t k = 0; !clean && k < count; ++k) {
                const F8 w = weight * carried[k].delta;
                F8* to = &sums.sun[k * sunSlots];
                for (int o = 0; o < sunSlots; ++o)
                    to[o] += w * lobe[o];
                for (int o = 0; o < skySlots; ++o)
                    sums.sky[k * skySlots + static_cast<std::size_t>(o)] += w * skyShare[o];
                if (profile) {
                    const F8* c = &tint[k * allSlots * 3];
                    for (int ch = 0; ch < 3; ++ch)
                        rgb[ch] += w *
                                   (c[ch] * lobe[0] + c[3 + ch] * lobe[1] + c[6 + ch] * lobe[2] + c[9 + ch] * lobe[3] +
                                    c[sunSlots * 3 + ch] * skyShare[0] + c[(sunSlots + 1) * 3 + ch] * skyShare[1]);
                }
            }
        }
        F8 bodiesLeft = f8(1.f);
        for (int b = 0; b < in.slabCount; ++b) {
            const F8* body = in.bodies + b * bodyPlanes;
            const F8 at = body[bodyAt];
            const I8 here = (at >= t0) & (at < t1) & ((body[bodyThrough] < 1.f) | (body[6] + body[7] + body[8] > 0.f));
            if (any(here)) {
                const F8 share = shareBefore(at), before = through * bodiesLeft * exp8(-total * share);
                F8 meets = f8(0.f), meetsSky = f8(0.f);
                for (int c = 0; c < in.depths; ++c) {
                    const I8 beyond = here & (in.depth[c] > at);
                    meets += select(beyond, in.weight[c], f8(0.f));
                    if (clean)
                        meetsSky += select(beyond & (in.depth[c] >= shot::Shot::farDistance), in.weight[c], f8(0.f));
                    sums.transmittance[c] = select(beyond, sums.transmittance[c] * body[bodyThrough],
                                                   sums.transmittance[c]);
                }
                bodiesLeft = select(here, bodiesLeft * body[bodyThrough], bodiesLeft);
                for (int c = 0; c < 3 && onlyMedium < 0; ++c) {
                    F8 w = before * meets;
                    if (clean)
                        w = before * (meetsSky + (meets - meetsSky) * tintBefore[c] *
                                                     exp8(cleanTotal * share * -media::cleanSpectrum[c]));
                    for (int s = 0; s < 3; ++s)
                        sums.body[s][c] += w * body[s * 3 + c];
                    rgb[c] += w * (body[c] + body[3 + c] + body[6 + c]);
                }
            }
        }
        through = through * leave * bodiesLeft;
        for (int c = 0; clean && c < 3; ++c)
            tintBefore[c] = tintAfter[c];
        sums.boundary[i + 1] = through;
        sums.onward[i + 1] = onward;
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
                sums.onward[rest + 1] = onward;
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
            sunOut[c] = sums.tinted[0][c] + sums.body[0][c];
            skyOut[c] = sums.tinted[1][c] + sums.body[1][c];
        }
        return;
    }
    for (int c = 0; c < 3; ++c) {
        sunOut[c] = sums.body[0][c];
        skyOut[c] = sums.body[1][c];
    }
    const std::size_t count = model.mediumCount();
    F8 small[8 * allSlots * 3];
    std::vector<F8> big(count > 8 ? count * allSlots * 3 : 0);
    F8* tint = count > 8 ? big.data() : small;
    tintsOf(model, ray, only, tint);
    for (std::size_t k = 0; k < count; ++k)
        for (int c = 0; c < 3; ++c) {
            const F8* t = tint + k * allSlots * 3 + c;
            for (std::size_t o = 0; o < sunSlots; ++o)
                sunOut[c] += sums.sun[k * sunSlots + o] * t[o * 3];
            for (std::size_t o = 0; o < skySlots; ++o)
                skyOut[c] += sums.sky[k * skySlots + o] * t[(sunSlots + o) * 3];
        }
}

F8 AirModel::cleanDepth(const Ray8& ray, F8 t) const
{
    F8 depth = f8(0.f);
    for (const MediumData& d : media_)
        if (d.clean) {
            const F8 from = f8(d.clear);
            depth += media::profileIntegral8(*d.medium, ray, from, max8(t, from)) * d.sigma;
        }
    // The sky's light has come through it already.
    return select(t >= shot::Shot::farDistance, f8(0.f), depth);
}

void AirModel::cleanTint(const Ray8& ray, F8 t, F8 tint[3]) const
{
    const F8 depth = cleanDepth(ray, t);
    for (int c = 0; c < 3; ++c)
        tint[c] = exp8(depth * -media::cleanSpectrum[c]);
}
} // namespace hygros::render
