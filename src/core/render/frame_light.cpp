/// Light through the present media: one march.
#include "render/frame.h"

#include "base/parallel.h"
#include "render/frame_lit.h"
#include "render/frame_rows.h"

#include <algorithm>
#include <bit>
#include <cmath>

namespace hygros::render {
using media::Ray8;

NoiseRecord Frame::surfaceNoise(std::size_t group, int cluster, bool sample, F8 weight)
{
    if (surfaceNoise_.empty())
        return {};
    return {surfaceNoise_.at(group, static_cast<std::size_t>(cluster) * air_->noisyCount()), sample, weight};
}

AirModel::SurfaceWays Frame::surfaceAir(const Ray8& ray, F8 depth, const F8 normal[3], F8 jitter,
                                        const NoiseRecord& noise, float* kept) const
{
    // What lies at the far distance is sky and shines by itself.
    if (air_->clear() || !shot_->sky || !any(depth < shot::Shot::farDistance))
        return {f8(1.f), f8(0.f), f8(1.f), f8(0.f)};
    F8 few[8];
    std::vector<F8> many(air_->noisyCount() > 8 ? air_->noisyCount() : 0);
    F8* modulation = many.empty() ? few : many.data();
    const F8 x = ray.x(depth), y = ray.y(depth), z = ray.z(depth);
    const auto media = air_->media();
    const Vec3 s = air_->sunDirection();
    for (std::size_t k = 0; k < media.size(); ++k) {
        const media::Medium& m = *media[k].medium;
        if (media[k].noisyIndex < 0)
            continue;
        std::uint16_t* means = noise.means ? noise.means + media[k].noisyIndex * lanes : nullptr;
        if (means && !noise.sample) {
            // 0 is left by clusters found after the noise was sampled: the mean of all noise stands in for them.
            const F8 mean = keptNoise(means, media[k].bound);
            modulation[media[k].noisyIndex] = select(mean > 0.f, mean, f8(1.f));
            continue;
        }
        F8 a = f8(0.f), b = f8(media::outsideDistance);
        const Ray8 way{x, y, z, f8(s.x), f8(s.y), f8(s.z)};
        media::clip8(m, way, a, b);
        F8 mod = f8(1.f);
        if (any(b > a))
            mod = air_->sunPathModulation(k, x, y, z, media::pattern8(m, x, y, z), jitter);
        if (means)
            mod = keepNoise(means, media[k].bound, mod, noise.weight);
        modulation[media[k].noisyIndex] = mod;
    }
    AirModel::SurfaceWays ways = air_->surfaceWays(x, y, z, normal, modulation, kept);
    if (shot_->scatteringOrders <= 1)
        ways.diffuse = ways.around = f8(0.f);
    return ways;
}

/// Without plate, veils and clean air: what most pictures are made of.
inline Frame::Seen Frame::behindPlainAir(std::size_t pixel, int y, const Through& through, const float* lamps, int lead,
                                         int source, const RatioRow& ratios) const
{
    const int lane = static_cast<int>(pixel % static_cast<std::size_t>(width_)) % lanes;
    const std::size_t group = groupOf(pixel);
    const auto which = lampsOf(group);
    const Cluster* c = &clusters_[pixel * clusterCount];
    Seen out;
    Vec3 view[clusterCount]{Vec3(0.f), Vec3(0.f), Vec3(0.f)};
    float known = 0.f, transmittance = 0.f;
    PathRatios::By ratio;
    for (int k = 0; k < clusterCount; ++k)
        known += through.view[k] >= 0.f ? c[k].weight : 0.f;
    for (int k = 0; k < clusterCount; ++k) {
        if (c[k].weight == 0.f || through.view[k] < 0.f)
            continue;
        const float share = c[k].weight / known;
        view[k] = Vec3(through.view[k]);
        transmittance += share * through.view[k];
        const auto point = [&] {
            const int x = static_cast<int>(pixel % static_cast<std::size_t>(width_));
            return view_.ray(static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f).at(c[k].t);
        };
        const Vec3 l = lit(c[k].light, which, lampOn(group, k, lane), lampStride, point, through.onto[k], c[k].shaded,
                           lamps ? lamps + static_cast<std::size_t>(k) * which.size() * lampWays * lanes : nullptr,
                           source, setRatioOf(pixel, y, k, ratios, ratio) ? &ratio : nullptr);
        out.behind += l * (share * through.view[k]);
    }
    out.transmittance = Vec3(transmittance);
    if (mirrorOf_[pixel] >= 0) {
        const int column = static_cast<int>(pixel % static_cast<std::size_t>(width_));
        if (ratios_.known())
            ratio = mirrorRatio(column, y, ratios);
        out.behind += litMirrors(pixel, y, view, lead, source, ratios_.known() ? &ratio : nullptr);
    }
    return out;
}

Frame::Seen Frame::behindAir(std::size_t pixel, int y, const Through& through, const Overlay* overlays,
                             const RatioRow& ratios, const float* lamps, int lead, int source) const
{
    if (!overlays && !shot_->plate)
        return behindPlainAir(pixel, y, through, lamps, lead, source, ratios);
    const int lane = static_cast<int>(pixel % static_cast<std::size_t>(width_)) % lanes;
    const std::size_t group = groupOf(pixel);
    const auto which = lampsOf(group);
    const Cluster* c = &clusters_[pixel * clusterCount];
    Seen out;
    Vec3 view[clusterCount]{Vec3(0.f), Vec3(0.f), Vec3(0.f)}, airTimes(0.f);
    // A cluster found after the last march has no air yet; the others stand in for it.
    float seen = 0.f, spared = 0.f;
    PathRatios::By ratio;
    for (int k = 0; k < clusterCount; ++k)
        seen += through.view[k] >= 0.f ? c[k].weight : 0.f;
    for (int k = 0; k < clusterCount; ++k) {
        if (c[k].weight == 0.f || through.view[k] < 0.f)
            continue;
        const float share = c[k].weight / seen, plate = c[k].plateShare();
        float left = through.view[k];
        if (plate > 0.f && c[k].t >= shot::Shot::farDistance && shot_->plateSky != 1.f) {
            // How much the air covers a plate's sky is the artist's choice.
            left = 1.f - shot_->plateSky * (1.f - left);
            spared += share * (1.f - shot_->plateSky);
        }
        view[k] = Vec3(left);
        if (overlays) {
            view[k] = overlays[k].tint * overlays[k].times * left;
            airTimes += overlays[k].times * share;
            out.veils += overlays[k].plus * share;
        }
        out.transmittance += view[k] * share;
        Vec3 l(0.f);
        if (plate < 1.f) {
            const auto point = [&] {
                const int x = static_cast<int>(pixel % static_cast<std::size_t>(width_));
                return view_.ray(static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f).at(c[k].t);
            };
            l = lit(c[k].light, which, lampOn(group, k, lane), lampStride, point, through.onto[k],
                    std::max(1.f, c[k].shaded),
                    lamps ? lamps + static_cast<std::size_t>(k) * which.size() * lampWays * lanes : nullptr, source,
                    setRatioOf(pixel, y, k, ratios, ratio) ? &ratio : nullptr);
            if (plate > 0.f)
                l *= 1.f - plate;
        }
        if (plate > 0.f && (source == allSources || source == sourceOwn))
            l = plate < 1.f ? l + plateAt(pixel) * plate : plateAt(pixel);
        // A plate that is all there is passes through unchanged to the last bit where nothing covers it.
        out.behind = share == 1.f ? l * view[k] : out.behind + l * (view[k] * share);
    }
    if (overlays)
        out.airTimes = airTimes;
    out.airTimes *= 1.f - spared;
    if (mirrorOf_[pixel] >= 0) {
        const int column = static_cast<int>(pixel % static_cast<std::size_t>(width_));
        if (ratios_.known())
            ratio = mirrorRatio(column, y, ratios);
        out.behind += litMirrors(pixel, y, view, lead, source, ratios_.known() ? &ratio : nullptr);
    }
    return out;
}

void Frame::seenFromAir(int x, int y, F8 end, F8* sun, F8* sky) const
{
    // The eight pixels around, where they look equally far in as many pieces.
    struct Neighbour {
        std::size_t group, beside; ///< where the eight are, and the one that is shifted in
        std::uint64_t mask;        ///< 0xff in the lanes that count
        int shift;                 ///< of columns
    };
    Neighbour around[8];
    int count = 0;
    F8 neighbours = f8(0.f);
    const std::size_t own = groupAt(x, y);
    const int segments = pieces_[own];
    for (int dy = -1; dy <= 1; ++dy) {
        if (y + dy < 0 || y + dy >= height_)
            continue;
        const float* row = &span_[index(0, y + dy)];
        const std::size_t group = groupAt(x, y + dy);
        for (int dx = -1; dx <= 1; ++dx) {
            if (dx == 0 && dy == 0)
                continue;
            Neighbour n{group, group, 0, dx};
            if (dx < 0 && x > 0)
                n.beside = group - 1;
            else if (dx > 0 && x + lanes < width_)
                n.beside = group + 1;
            for (int i = 0; i < lanes; ++i) {
                const int column = x + i + dx;
                if (column < 0 || column >= width_ ||
                    pieces_[i + dx < 0 || i + dx >= lanes ? n.beside : group] != segments)
                    continue;
                const float ratio = row[column] / end[i];
                if (ratio > 0.9f && ratio < 1.11f) {
                    n.mask |= std::uint64_t{0xff} << (8 * i);
                    neighbours[i] += 1.f;
                }
            }
            if (n.mask)
                around[count++] = n;
        }
    }
    const int looks = rowLooks_[static_cast<std::size_t>(y)];
    // Four pieces at a time: 32 counts of one group lie together, eight a piece.
    const auto means = [&](const Planes<std::uint8_t>& counts, int pieces, const auto& looksOf, F8* out) {
        for (int first = 0; first < pieces; first += 4) {
            const auto at = [&](std::size_t group) {
                return _mm256_loadu_si256(
                    reinterpret_cast<const __m256i*>(counts.at(group, static_cast<std::size_t>(first))));
            };
            __m256i low = _mm256_setzero_si256(), high = low;
            for (int k = 0; k < count; ++k) {
                __m256i v = at(around[k].group);
                if (around[k].shift > 0)
                    v = _mm256_or_si256(_mm256_srli_epi64(v, 8), _mm256_slli_epi64(at(around[k].beside), 56));
                else if (around[k].shift < 0)
                    v = _mm256_or_si256(_mm256_slli_epi64(v, 8), _mm256_srli_epi64(at(around[k].beside), 56));
                v = _mm256_and_si256(v, _mm256_set1_epi64x(static_cast<long long>(around[k].mask)));
                low = _mm256_add_epi16(low, _mm256_cvtepu8_epi16(_mm256_castsi256_si128(v)));
                high = _mm256_add_epi16(high, _mm256_cvtepu8_epi16(_mm256_extracti128_si256(v, 1)));
            }
            const __m128i sums[4] = {_mm256_castsi256_si128(low), _mm256_extracti128_si256(low, 1),
                                     _mm256_castsi256_si128(high), _mm256_extracti128_si256(high, 1)};
            for (int k = 0; k < 4 && first + k < pieces; ++k) {
                // Neighbours help while there are few looks; their weight goes to nothing as these grow, and so does
                // any bias.
                const auto ownLooks = static_cast<float>(looksOf(first + k));
                const float weight = 1.f / (1.f + ownLooks * (1.f / 32.f));
                const F8 mine = countsTimes(counts.at(own, static_cast<std::size_t>(first + k)), 1.f);
                out[first + k] = (mine + toFloat(reinterpret_cast<I8>(_mm256_cvtepu16_epi32(sums[k]))) * weight) /
                                 ((1.f + neighbours * weight) * ownLooks);
            }
        }
    };
    means(
        sunLit_, segments, [&](int i) { return sunLooks(i, looks); }, sun);
    // The first pass looks at every part of the sky, the others at a third.
    means(
        skyLit_, segments / 3, [&](int g) { return 1 + (looks - 1 + 2 - (g + 2) % 3) / 3; }, sky);
}

namespace {
/// What a lamp's glow adds along the ray that speaks for eight pixels, up to each of its samples.
struct GlowAlong {
    F8 t = f8(0.f);
    Vec3 upTo[lanes + 1];
    void set(const BeamSamples& samples)
    {
        t = samples.t; // they lie one behind the other
        for (int i = 0; i < lanes; ++i)
            upTo[i + 1] = upTo[i] + Vec3(samples.light[0][i], samples.light[1][i], samples.light[2][i]);
    }
    /// For a pixel that ends at each of up to three depths with its weight.
    Vec3 before(int depths, const float* depth, const float* weight) const
    {
        Vec3 l(0.f);
        for (int k = 0; k < depths; ++k)
            if (weight[k] > 0.f)
                l += upTo[std::popcount(static_cast<unsigned>(_mm256_movemask_ps(t < f8(depth[k]))))] * weight[k];
        return l;
    }
};
} // namespace

/// Glow is smooth: one ray speaks for eight pixels, and between two of them it is mixed.
struct Frame::GlowRow {
    std::vector<GlowAlong> along; ///< by slot of the row
    std::vector<float> reach;     ///< how far the ray of a group is followed [m]
};

void Frame::addGlowRow(int y, const GlowRow& row, bool first)
{
    const std::size_t begin = lampBase_[groupAt(0, y)];
    for (int x = 0; x < width_; x += lanes) {
        const std::size_t group = groupAt(x, y);
        const auto which = lampsOf(group);
        for (int i = 0; i < lanes && x + i < width_ && !which.empty(); ++i) {
            const std::size_t p = index(x + i, y);
            float depth[clusterCount], weight[clusterCount], deepest = 0.f;
            for (int k = 0; k < clusterCount; ++k) {
                const Cluster& c = clusters_[p * clusterCount + static_cast<std::size_t>(k)];
                depth[k] = std::min(c.t, span_[p]);
                weight[k] = c.weight / samples_[p];
                deepest = c.weight > 0.f ? std::max(deepest, depth[k]) : deepest;
            }
            // The eight on this pixel's side, where they are followed as far.
            const float aside = (static_cast<float>(i) + 0.5f) / lanes - 0.5f;
            const int next = x + (aside < 0.f ? -lanes : lanes);
            const bool beside = next >= 0 && next < width_ &&
                                row.reach[static_cast<std::size_t>(next / lanes)] >= 0.95f * deepest;
            const std::size_t other = beside ? groupAt(next, y) : group;
            const auto theirs = lampsOf(other);
            const float share = beside ? std::abs(aside) : 0.f;
            for (std::size_t j = 0; j < which.size(); ++j) {
                Vec3 glow = row.along[lampBase_[group] - begin + j].before(clusterCount, depth, weight);
                if (share > 0.f) {
                    const std::size_t same = j < theirs.size() && theirs[j] == which[j]
                                                 ? j
                                                 : static_cast<std::size_t>(
                                                       std::find(theirs.begin(), theirs.end(), which[j]) -
                                                       theirs.begin());
                    if (same < theirs.size())
                        glow = lerp(glow,
                                    row.along[lampBase_[other] - begin + same].before(clusterCount, depth, weight),
                                    share);
                }
                const std::size_t slot = (lampBase_[group] + j) * lanes + static_cast<std::size_t>(i);
                for (int c = 0; c < 3; ++c) {
                    if (!airGlow_.empty())
                        airGlow_.at(slot)[c] = (first ? 0.f : airGlow_.at(slot)[c]) + glow[c];
                    airLamp_.at(slot)[c] += glow[c];
                }
            }
        }
    }
}

void Frame::lightRow(int y, Unshadowed* out)
{
    Meter meter;
    meter.prepare(lampCount_, air_->mediumCount());
    const std::uint64_t begun = ticks();
    constexpr int meterEvery = 8; // groups
    const auto row = static_cast<std::size_t>(y);
    const std::size_t noisy = air_->noisyCount();
    const int noiseLooks = rowNoise_[row], beamMarches = rowBeams_[row], bodyLooks = rowBodies_[row];
    const bool sample = noisy && !out && noiseLooks < std::min<int>(noiseEnough, rowLooks_[row]);
    const F8 noiseWeight = f8(1.f / static_cast<float>(noiseLooks + 1));
    // The same for all pixels: the eight samples lie on smooth surfaces and show no grain; marches average them.
    const float beamJitter = std::fmod(0.25f + 0.61803399f * static_cast<float>(beamMarches), 1.f);
    GlowRow glows;
    if (!out && anyGlow_) {
        glows.along.resize(lampBase_[groupAt(0, y) + groupsPerRow()] - lampBase_[groupAt(0, y)]);
        glows.reach.resize(groupsPerRow());
    }
    AirSums8 sums;
    static constexpr std::uint8_t lit[lanes] = {1, 1, 1, 1, 1, 1, 1, 1};
    for (int x = 0; x < width_; x += lanes) {
        const std::size_t group = groupAt(x, y);
        AirRays8 rays;
        const bool metered = (x / lanes + 3 * y) % meterEvery == 0;
        rays.clock = metered ? meter.media.data() : nullptr;
        rays.ray = raysAt(x, y);
        rays.jitter = jitters(x, y, draw_ + noiseLooks);
        rays.depths = 1;
        for (int i = 0; i < lanes; ++i) {
            const std::size_t p = index(std::min(x + i, width_ - 1), y);
            rays.end[i] = span_[p];
            for (int k = 0; k < clusterCount; ++k) {
                const Cluster& c = clusters_[p * clusterCount + static_cast<std::size_t>(k)];
                rays.depth[k][i] = std::min(c.t, span_[p]);
                rays.weight[k][i] = c.weight / samples_[p];
                if (c.weight > 0.f)
                    rays.depths = std::max(rays.depths, k + 1);
            }
        }
        rays.segments = pieces_[group];
        F8 sunSeen[maxSegments], skySeen[maxSegments / 3];
        seenFromAir(x, y, rays.end, sunSeen, skySeen);
        rays.sunSeen = out ? nullptr : sunSeen;
        rays.skySeen = skySeen;
        if (noisy)
            rays.noise = {airNoise_.at(group), sample, noiseWeight};
        F8 body[mostSlabs * bodyPlanes];
        if (bodyFloats() > 0) {
            float* seenBodies = bodySeen_.at(group);
            if (!out && bodyLooks < noiseEnough && (bodyLooks < rowLooks_[row] || bodyLooks == 0)) {
                const std::uint64_t before = ticks();
                lookAtBodies(rays.ray, rays.end, jitters(x, y + 7, draw_ + bodyLooks), static_cast<float>(bodyLooks),
                             seenBodies);
                meter.bodies += static_cast<double>(ticks() - before);
            }
            putBodies(seenBodies, body, rays);
        }
        marchAir(*air_, rays, sums);
        F8 sun[3], sky[3];
        colourAir(*air_, rays.ray, sums, sun, sky);
        AirModel::SurfaceWays ways[clusterCount];
        for (int k = 0; k < rays.depths && !out; ++k) {
            F8 normal[3] = {f8(0.f), f8(1.f), f8(0.f)};
            for (int i = 0; i < lanes; ++i)
                setNormal(normal, i,
                          clusters_[index(std::min(x + i, width_ - 1), y) * clusterCount + static_cast<std::size_t>(k)]
                              .light);
            ways[k] = surfaceAir(rays.ray, rays.depth[k], normal, rays.jitter,
                                 surfaceNoise(group, k, sample, noiseWeight));
        }
        // Of the eight the middle one speaks for their glow, or the one that is followed farthest.
        int speaks = -1;
        if (!glows.along.empty()) {
            speaks = std::min(lanes / 2, width_ - 1 - x);
            float enough = 0.f;
            for (int i = 0; i < lanes; ++i)
                enough = std::max(enough, 0.95f * rays.end[i]);
            for (int i = 0; i < lanes && x + i < width_ && rays.end[speaks] < enough; ++i)
                if (rays.end[i] > rays.end[speaks])
                    speaks = i;
            glows.reach[static_cast<std::size_t>(x / lanes)] = rays.end[speaks];
        }
        for (int i = 0; i < lanes && x + i < width_; ++i) {
            const std::size_t p = index(x + i, y);
            for (std::size_t c = 0; c < 3; ++c) {
                (out ? out->sun : airSun_).at(p)[c] = sun[c][i];
                if (!out)
                    airSky_.at(p)[c] = sky[c][i];
                if (!out && !airOwn_.empty())
                    airOwn_.at(p)[c] = sums.body[2][c][i];
            }
            Through none, &t = out ? none : through_[p];
            t = Through();
            for (int k = 0; k < rays.depths && !out; ++k) {
                if (rays.weight[k][i] == 0.f)
                    continue;
                t.view[k] = sums.transmittance[k][i];
                t.onto[k] = laneOf(ways[k], i);
            }
            const auto which = lampsOf(group);
            if (which.empty())
                continue;
            const Vec3 d(rays.ray.dx[i], rays.ray.dy[i], rays.ray.dz[i]);
            float depth[clusterCount], weight[clusterCount];
            for (int k = 0; k < rays.depths; ++k) {
                depth[k] = rays.depth[k][i];
                weight[k] = rays.weight[k][i];
            }
            const MarchedRay marched(
                *air_, Vec3(rays.ray.ox[i], rays.ray.oy[i], rays.ray.oz[i]), d, span_[p], rays.segments,
                reinterpret_cast<const float*>(sums.boundary) + i, noisy ? rays.noise.means + i : nullptr,
                shot_->scatteringOrders > 1 ? reinterpret_cast<const float*>(sums.onward) + i : nullptr);
            for (std::size_t j = 0; j < which.size(); ++j) {
                const std::size_t slot = (lampBase_[group] + j) * lanes + static_cast<std::size_t>(i);
                float* to = (out ? out->lamps : airLamp_).at(slot);
                if (!shot_->lamps[which[j]].lightsAir()) { // nothing of it, and no time for it
                    for (int c = 0; c < 3 && (out || beamMarches == 0); ++c)
                        to[c] = 0.f;
                    continue;
                }
                const std::uint64_t before = metered ? ticks() : 0;
                // Two looks at each of the eight, so that the edge of a narrow beam is not missed between them; the
                // marches after the first look at other places by themselves.
                Vec3 a(0.f);
                const int times = out || beamMarches == 0 ? 2 : 1;
                for (int k = 0; k < times; ++k)
                    a += beamLight(marched, which[j], std::fmod(beamJitter + 0.5f * static_cast<float>(k), 1.f),
                                   out ? lit : beamLit_.at(lampBase_[group] + j, static_cast<std::size_t>(i)),
                                   out ? 1.f : 1.f / static_cast<float>(beamLooks(x + i, y, rowLooks_[row])),
                                   rays.depths, depth, weight) *
                         (1.f / static_cast<float>(times));
                // What stands in the beam's way is in its glow already.
                BeamSamples turned;
                if (i == speaks && glowSamples(marched, which[j], beamJitter, turned))
                    glows.along[lampBase_[group] - lampBase_[groupAt(0, y)] + j].set(turned);
                for (int c = 0; c < 3; ++c)
                    to[c] = (out || beamMarches == 0 ? 0.f : to[c]) + a[c];
                if (metered)
                    meter.lamps[which[j]] += static_cast<double>(ticks() - before);
            }
        }
    }
    if (out)
        return;
    if (!glows.along.empty())
        addGlowRow(y, glows, beamMarches == 0);
    lightMirrorsRow(y, sample, false);
    if (bodyLooks < noiseEnough && (bodyLooks < rowLooks_[row] || bodyLooks == 0))
        rowBodies_[row] = static_cast<std::uint16_t>(bodyLooks + 1);
    rowBeams_[row] = static_cast<std::uint16_t>(std::min(60000, beamMarches + 1));
    for (std::vector<double>* part : {&meter.lamps, &meter.media})
        for (double& v : *part)
            v *= meterEvery;
    meter.total = static_cast<double>(ticks() - begun);
    meterRow(meter);
    if (sample) {
        ++rowNoise_[row];
        rowSurfaceNoise_[row] = 1;
    }
}

bool Frame::light(const std::atomic<bool>& stop)
{
    const std::size_t pixels = span_.size();
    if (through_.empty()) {
        airSun_.resize(pixels);
        airSky_.resize(pixels);
        airLamp_.resize(lampSlots() * lanes);
        airGlow_.resize(airLamp_.size());
        through_.resize(pixels);
    }
    airOwn_.resize(bodies_.own ? pixels : 0);
    for (const auto& body : bodies_.list)
        body->feed(*air_);
    // Once a march, also where that was stopped and is begun again.
    if (!fed_)
        feedLampGlows();
    fed_ = true;
    makeNoiseRoom();
    lit_ = false;
    std::vector<char> done(static_cast<std::size_t>(height_), 0);
    if (!overRows(done, stop, [&](int y) { lightRow(y); }))
        return false;
    lit_ = marchedAnew_ = true;
    fed_ = false;
    // After an edit the picture comes first, with what paths said before it.
    if (std::exchange(pathsWait_, false) && ratios_.known())
        return true;
    followPaths(stop);
    return true;
}

void Frame::makeNoiseRoom()
{
    const std::size_t groups = static_cast<std::size_t>(height_) * groupsPerRow(), noisy = air_->noisyCount();
    bodySeen_.resize(groups, bodyFloats() / lanes);
    surfaceNoise_.resize(groups, clusterCount * noisy);
    if (tracedPasses_ > 0)
        airNoise_.resize(groups, maxSegments * noisy * 2);
}
} // namespace hygros::render
