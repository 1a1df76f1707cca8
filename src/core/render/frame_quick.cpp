/// The quick picture from air at a quarter of the size.
#include "render/frame.h"

#include "base/parallel.h"
#include "render/frame_lit.h"
#include "render/frame_rows.h"

#include <algorithm>
#include <cmath>
#include <cstring>

namespace hygros::render {
using media::Ray8;

bool Frame::buildQuick(const std::atomic<bool>& stop)
{
    const std::size_t cells = static_cast<std::size_t>(quickWidth_ * quickHeight_);
    quickCells_.resize(cells);
    const std::size_t groups = (static_cast<std::size_t>(quickWidth_) + 7) / 8;
    quickBeams_.resize(lampCount_, cells);
    quickSunLit_.resize(groups * static_cast<std::size_t>(quickHeight_), quickSegments);
    quickSkyLit_.resize(groups * static_cast<std::size_t>(quickHeight_), quickSegments / 3);
    std::vector<char> done(static_cast<std::size_t>(quickHeight_), 0);
    const bool whole = overRows(done, stop, [&](int gy) {
        for (int gx = 0; gx < quickWidth_; ++gx) {
            // Through the deepest pixel of the block: nothing stands in that ray's way up to the block's far end.
            int bx = 0, by = 0;
            float deepest = -1.f;
            for (int y = gy * 4; y < std::min(height_, gy * 4 + 4); ++y)
                for (int x = gx * 4; x < std::min(width_, gx * 4 + 4); ++x) {
                    const float t = clusters_[index(x, y) * clusterCount].t;
                    if (t > deepest || (t == deepest && x == gx * 4 + 2 && y == gy * 4 + 2)) {
                        deepest = t;
                        bx = x;
                        by = y;
                    }
                }
            QuickCell& c = quickCells_[static_cast<std::size_t>(gy * quickWidth_ + gx)];
            c.sight = view_.ray(static_cast<float>(bx) + 0.5f, static_cast<float>(by) + 0.5f);
            c.span = deepest;
            c.jitter = jitterAt(gx, gy, 0);
        }
        for (int gx = 0; gx < quickWidth_; gx += lanes) {
            Ray8 ray = media::ray8(view_.ray(0.f, 0.f));
            F8 end = f8(1.f), jitter = f8(0.f);
            unsigned active = 0;
            float longest = 0.f;
            const auto cellAt = [&](int i) -> QuickCell& {
                return quickCells_[static_cast<std::size_t>(gy * quickWidth_ + std::min(gx + i, quickWidth_ - 1))];
            };
            for (int i = 0; i < lanes; ++i)
                longest = std::max(longest, cellAt(i).span);
            const int segments = segmentsFor(longest, quickSegments);
            for (int i = 0; i < lanes; ++i) {
                QuickCell& c = cellAt(i);
                c.segments = segments;
                c.logScale = static_cast<float>(segments) / std::log(1.f + c.span / Segments8::a);
                c.last = static_cast<float>(segments) * 0.999999f;
                media::setLane(ray, i, c.sight);
                end[i] = c.span;
                jitter[i] = c.jitter;
                if (gx + i < quickWidth_)
                    active |= 1u << i;
            }
            const std::size_t group = static_cast<std::size_t>(gy) * groups + static_cast<std::size_t>(gx / lanes);
            lookToLights(ray, end, jitter, segments, 0, Look::Each, active, -1, quickSunLit_.at(group),
                         quickSkyLit_.at(group), gx, gy);
            for (int i = 0; i < lanes && gx + i < quickWidth_; ++i) {
                const std::size_t at = static_cast<std::size_t>(gy * quickWidth_ + gx + i);
                for (const std::size_t l : lampsOf(groupAt(std::min(width_ - 1, (gx + i) * 4), gy * 4))) {
                    const unsigned lit = beamVisibility(*shot_, l, quickCells_[at].sight.origin,
                                                        quickCells_[at].sight.direction, quickCells_[at].span, 0.5f);
                    for (std::size_t k = 0; k < lanes; ++k)
                        quickBeams_.at(l, at)[k] = static_cast<std::uint8_t>((lit >> k) & 1u);
                }
            }
        }
    });
    quickBuilt_ = whole;
    quickNoiseKept_ = quickBodiesKept_ = false;
    return whole;
}

bool Frame::marchQuick(const std::atomic<bool>& stop, int only, std::vector<std::uint16_t>& out)
{
    const std::size_t noisy = air_->noisyCount(), groups = (static_cast<std::size_t>(quickWidth_) + 7) / 8;
    quickNoise_.resize(static_cast<std::size_t>(quickHeight_) * groups, quickSegments * noisy * 2);
    out.resize(quickCells_.size() * (quickSegments + 1) * 4);
    std::vector<char> done(static_cast<std::size_t>(quickHeight_), 0);
    const bool sample = !quickNoiseKept_;
    quickBodies_.resize(static_cast<std::size_t>(quickHeight_) * groups, bodyFloats() / lanes);
    if (!quickBodiesKept_)
        for (const auto& body : bodies_.list)
            body->feed(*air_);
    const bool whole = overRows(done, stop, [&](int gy) {
        AirSums8 sums;
        F8 profile[maxSegments][4];
        for (int gx = 0; gx < quickWidth_; gx += lanes) {
            AirRays8 rays;
            rays.ray = media::ray8(view_.ray(0.f, 0.f));
            rays.segments = quickCells_[static_cast<std::size_t>(gy * quickWidth_ + gx)].segments;
            for (int i = 0; i < lanes; ++i) {
                const QuickCell& c =
                    quickCells_[static_cast<std::size_t>(gy * quickWidth_ + std::min(gx + i, quickWidth_ - 1))];
                media::setLane(rays.ray, i, c.sight);
                rays.end[i] = c.span;
                rays.jitter[i] = c.jitter;
            }
            rays.depths = 1;
            rays.depth[0] = rays.end;
            rays.weight[0] = f8(1.f);
            const std::size_t group = static_cast<std::size_t>(gy) * groups + static_cast<std::size_t>(gx / lanes);
            F8 sunSeen[quickSegments], skySeen[quickSegments / 3];
            for (std::size_t k = 0; k < quickSegments; ++k)
                sunSeen[k] = countsTimes(quickSunLit_.at(group, k), 1.f);
            for (std::size_t k = 0; k < quickSegments / 3; ++k)
                skySeen[k] = countsTimes(quickSkyLit_.at(group, k), 1.f);
            rays.sunSeen = sunSeen;
            rays.skySeen = skySeen;
            if (noisy)
                rays.noise = {quickNoise_.at(group), sample, f8(1.f)};
            if (!quickKept_.empty())
                rays.kept = quickKept_.at(group);
            F8 body[mostSlabs * bodyPlanes];
            if (bodyFloats() > 0) {
                float* seen = quickBodies_.at(group);
                for (int look = 0; look < 2 && !quickBodiesKept_; ++look)
                    lookAtBodies(rays.ray, rays.end, pieceJitter(rays.jitter, look), static_cast<float>(look), seen);
                putBodies(seen, body, rays);
            }
            marchAir(*air_, rays, sums, profile, only);
            for (int i = 0; i < lanes && gx + i < quickWidth_; ++i) {
                const std::size_t at = static_cast<std::size_t>(gy * quickWidth_ + gx + i);
                float own[(quickSegments + 1) * 4];
                float* to = own;
                // What stands at the eye, then at each boundary.
                to[0] = to[1] = to[2] = 0.f;
                to[3] = 1.f;
                to += 4;
                for (std::size_t s = 0; s < static_cast<std::size_t>(rays.segments); ++s)
                    for (std::size_t c = 0; c < 4; ++c)
                        to[s * 4 + c] = profile[s][c][i];
                const QuickCell& cell = quickCells_[at];
                const auto listed = only < 0 ? lampsOf(groupAt(std::min(width_ - 1, (gx + i) * 4), gy * 4))
                                             : std::span<const std::uint16_t>();
                std::optional<MarchedRay> marched;
                if (!listed.empty())
                    marched.emplace(
                        *air_, cell.sight.origin, cell.sight.direction, cell.span, rays.segments,
                        reinterpret_cast<const float*>(sums.boundary) + i, noisy ? rays.noise.means + i : nullptr,
                        shot_->scatteringOrders > 1 ? reinterpret_cast<const float*>(sums.onward) + i : nullptr);
                for (const std::size_t l : listed) {
                    // Each of a beam's samples is put where it is met.
                    BeamSamples beam;
                    float light[quickSegments][3] = {};
                    const auto put = [&](bool any) {
                        const F8 where = any ? log8(1.f + beam.t * (1.f / Segments8::a)) * cell.logScale : f8(0.f);
                        for (int k = 0; any && k < lanes; ++k) {
                            const int s = std::clamp(static_cast<int>(where[k]), 0, rays.segments - 1);
                            for (int c = 0; c < 3; ++c)
                                light[s][c] += beam.light[c][k];
                        }
                        return any;
                    };
                    const bool straight = put(beamSamples(*marched, l, 0.5f, quickBeams_.at(l, at), 1.f, beam));
                    if (!put(glowSamples(*marched, l, 0.5f, beam)) && !straight)
                        continue;
                    float total[3] = {};
                    for (int s = 0; s < rays.segments; ++s)
                        for (int c = 0; c < 3; ++c)
                            to[s * 4 + c] += total[c] += light[s][c];
                }
                std::uint16_t* halves = &out[at * (quickSegments + 1) * 4];
                for (int b = 0; b <= rays.segments; ++b)
                    _mm_storel_epi64(reinterpret_cast<__m128i*>(halves + b * 4),
                                     _mm_cvtps_ph(_mm_min_ps(_mm_loadu_ps(own + b * 4), _mm_set1_ps(65000.f)), 0));
            }
        }
    });
    quickNoiseKept_ = quickNoiseKept_ || whole;
    quickBodiesKept_ = quickBodiesKept_ || whole;
    return whole;
}

/// `trust` becomes 1e-3 where the cell ends before t and knows nothing of the air behind: such a cell counts only when
/// there is no other.
inline __m128 Frame::airUpTo(std::size_t cellIndex, float t, float logT, float& trust) const
{
    const QuickCell& cell = quickCells_[cellIndex];
    trust = t > cell.span * 1.05f ? 1e-3f : 1.f;
    const float u = std::min(logT * cell.logScale, cell.last);
    const int s = static_cast<int>(u);
    const std::uint16_t* b = &quickProfile_[(cellIndex * (quickSegments + 1) + static_cast<std::size_t>(s)) * 4];
    const __m256 both = _mm256_cvtph_ps(_mm_loadu_si128(reinterpret_cast<const __m128i*>(b)));
    const __m128 from = _mm256_castps256_ps128(both), to = _mm256_extractf128_ps(both, 1);
    return _mm_add_ps(from, _mm_mul_ps(_mm_sub_ps(to, from), _mm_set1_ps(u - static_cast<float>(s))));
}

float* Frame::surfaceKept(std::size_t group, int cluster)
{
    if (surfaceKept_.empty())
        return nullptr;
    return surfaceKept_.at(group, static_cast<std::size_t>(cluster) * air_->keptCount());
}

void Frame::makeKeptRoom()
{
    const std::size_t kept = air_->keptCount(), cells = static_cast<std::size_t>(quickHeight_) *
                                                        ((static_cast<std::size_t>(quickWidth_) + 7) / 8);
    quickKept_.resize(cells, quickSegments * kept, AirModel::unkept);
    // Surfaces move a little with every pass.
    if (surfaceKeptAt_ != surfacePasses_)
        surfaceKept_.clear();
    surfaceKept_.resize(static_cast<std::size_t>(height_) * groupsPerRow(), clusterCount * kept, AirModel::unkept);
    surfaceKeptAt_ = surfacePasses_;
}

namespace {
/// Whether two rows of packed normals are about the same.
bool alike(const std::uint16_t* a, const std::uint16_t* b)
{
    F8 m[3], n[3];
    unpackNormals(a, m);
    unpackNormals(b, n);
    return !any(m[0] * n[0] + m[1] * n[1] + m[2] * n[2] < 0.94f);
}
} // namespace

inline __m128 Frame::litFromSheet(const MirrorSheet& sheet, const MirrorCluster& air, __m128 view,
                                  const PathRatios::By& ratio) const
{
    const auto halves = [](const std::uint16_t* v) {
        return _mm_cvtph_ps(_mm_loadl_epi64(reinterpret_cast<const __m128i*>(v)));
    };
    const auto vector = [](const Vec3& v) { return _mm_set_ps(0.f, v.z, v.y, v.x); };
    const __m128 reflectance = halves(sheet.reflectance), share = _mm_shuffle_ps(reflectance, reflectance, 0xff);
    const Onto& onto = air.onto;
    const __m128 open = halves(sheet.open);
    const __m128 bySun = _mm_add_ps(_mm_mul_ps(halves(sheet.sun), _mm_set1_ps(onto.sun)),
                                    _mm_mul_ps(open, _mm_set1_ps(onto.diffuse)));
    const __m128 bySky = _mm_add_ps(_mm_mul_ps(halves(sheet.sky), _mm_set1_ps(onto.sky)),
                                    _mm_mul_ps(open, _mm_mul_ps(vector(air_->skyOnLevel()), _mm_set1_ps(onto.around))));
    const __m128 light = _mm_add_ps(
        _mm_add_ps(halves(sheet.emitted), _mm_mul_ps(bySun, vector(sunLight_ * ratio.of[PathRatios::sun]))),
        _mm_mul_ps(bySky, vector(ratio.of[PathRatios::sky])));
    const __m128 all = _mm_add_ps(
        _mm_mul_ps(light, _mm_mul_ps(vector(air.tint), _mm_set1_ps(air.view))),
        _mm_mul_ps(vector(air.airSun * ratio.of[PathRatios::sun] + air.airSky * ratio.of[PathRatios::sky] +
                          air.airOwn * ratio.of[PathRatios::lamps]),
                   reflectance));
    return _mm_mul_ps(all, _mm_mul_ps(view, share));
}

bool Frame::quickPicture(std::vector<float>& rgb, const std::atomic<bool>& stop)
{
    if (!quickBuilt_ && !buildQuick(stop))
        return false;
    makeKeptRoom();
    if (!marchQuick(stop, -1, quickProfile_))
        return false;
    rgb.resize(span_.size() * 3);
    // Rows go in fours: three take the second one's light on surfaces that go on evenly.
    std::vector<char> done(static_cast<std::size_t>((height_ + 3) / 4), 0);
    struct Lit {
        int depths = 0; ///< of clusters; 0: nothing to follow
        F8 depth[clusterCount];
        AirModel::SurfaceWays ways[clusterCount];
        bool plain = false;
        std::uint16_t facing[lanes] = {};
        F8 tint[3], times[3], plus[3]; ///< of plain ones: clean air and veils
        std::vector<F8> lamps;         ///< what the air leaves of lamps' light; of plain ones −1: not known
        QuickRatios ratios;
    };
    lit_ = false; // the mirrors' air is now of the present media, the rest may not be
    makeNoiseRoom();
    // One row of four lights its mirrors by itself, the others follow it.
    const auto leadRow = [&](int y) { return std::min(height_ - 1, y / 4 * 4 + 1); };
    std::vector<char> led(static_cast<std::size_t>(quickHeight_), 0);
    const auto leadBand = [&](int band) {
        if (const int y = leadRow(band * 4); !mirrors_[static_cast<std::size_t>(y)].empty())
            lightMirrorsRow(y, false, true);
    };
    if (!overRows(led, stop, leadBand))
        return false;
    const auto lightRowOf = [&](int y, int first, std::vector<Lit>& above) {
        const int lead = y == leadRow(y) ? -1 : leadRow(y);
        if (lead >= 0 && !mirrors_[static_cast<std::size_t>(y)].empty()) {
            bool alone = false;
            for (int x = 0; x < width_ && !alone; ++x)
                alone = mirrorOf_[index(x, y)] >= 0 && mirrorOf_[index(x, lead)] < 0;
            if (alone)
                lightMirrorsRow(y, false, true, lead);
        }
        const bool sample = !rowSurfaceNoise_[static_cast<std::size_t>(y)];
        const float gy = (static_cast<float>(y) + 0.5f) * 0.25f - 0.5f;
        const int y0 = std::clamp(static_cast<int>(std::floor(gy)), 0, quickHeight_ - 1),
                  y1 = std::min(y0 + 1, quickHeight_ - 1);
        const float fy = std::clamp(gy - static_cast<float>(y0), 0.f, 1.f);
        Overlay overlays[lanes][clusterCount]; // of one group after the other
        const RatioRow ratioRow = this->ratioRow(y);
        for (int x = 0; x < width_; x += lanes) {
            const F8 jitter = sample ? jitters(x, y, 0) : f8(0.5f); // places noise samples only
            const std::size_t group = groupAt(x, y);
            const std::size_t p0 = index(x, y);
            const std::uint16_t* sheet = sheet_.at(group);
            const bool inside = x + lanes <= width_;
            F8 depth[clusterCount];
            std::uint64_t allPlain = 0x0101010101010101u;
            if (inside)
                std::memcpy(&allPlain, &plain_[p0], 8);
            const bool plain = inside && allPlain == 0x0101010101010101u;
            int depths = 1;
            Lit& over = above[static_cast<std::size_t>(x / lanes)];
            if (plain) {
                depth[0] = loadHalf8(sheet);
            } else {
                for (int k = 0; k < clusterCount; ++k) {
                    bool used = k == 0;
                    for (int i = 0; i < lanes; ++i) {
                        const Cluster& c = clusters_[index(std::min(x + i, width_ - 1), y) * clusterCount +
                                                     static_cast<std::size_t>(k)];
                        depth[k][i] = c.t;
                        used = used || c.weight > 0.f;
                    }
                    if (!used)
                        break;
                    depths = k + 1;
                }
            }
            bool follows = !sample && y != first && over.depths == depths && over.plain == plain;
            // Surfaces that face another way get other light.
            if (follows)
                follows = std::memcmp(over.facing, sheet + 13 * lanes, sizeof over.facing) == 0 ||
                          alike(over.facing, sheet + 13 * lanes);
            for (int k = 0; k < depths && follows; ++k)
                follows = !any(abs8(depth[k] - over.depth[k]) > over.depth[k] * 0.06f);
            const Ray8 ray = raysAt(x, y);
            if (!follows) {
                std::memcpy(over.facing, sheet + 13 * lanes, sizeof over.facing);
                over.depths = depths;
                over.plain = plain;
            }
            for (int k = 0; k < depths; ++k) {
                if (!follows) {
                    over.depth[k] = depth[k];
                    F8 normal[3] = {f8(0.f), f8(1.f), f8(0.f)};
                    if (k == 0)
                        unpackNormals(sheet + 13 * lanes, normal);
                    else
                        for (int i = 0; i < lanes; ++i)
                            setNormal(normal, i,
                                      clusters_[index(std::min(x + i, width_ - 1), y) * clusterCount +
                                                static_cast<std::size_t>(k)]
                                          .light);
                    over.ways[k] = surfaceAir(ray, depth[k], normal, jitter, surfaceNoise(group, k, sample, f8(1.f)),
                                              surfaceKept(group, k));
                }
            }
            // Light of the nearest-sampled surfaces of all eight pixels, before the air in front of them.
            F8 behind[3] = {f8(0.f), f8(0.f), f8(0.f)};
            // By pixel: light of the air before it, and what comes through (0 where the light behind is in already).
            __m128 got[lanes];
            std::fill(got, got + lanes, _mm_setzero_ps());
            I8 finished{}; // pixels that were put together by themselves have their overlay already
            alignas(32) float depth0[lanes], logT0[lanes];
            store8(depth0, depth[0]);
            if (ratios_.known() && !follows)
                quickRatiosAt(x, y, depth0, sheet, ratioRow, over.ratios);
            const QuickRatios& ratios = over.ratios;
            if (inside) {
                const F8(*by)[3] = ratios.set;
                for (int c = 0; c < 3; ++c)
                    behind[c] = loadHalf8(sheet + (1 + c) * lanes) +
                                (loadHalf8(sheet + (4 + c) * lanes) * over.ways[0].sun +
                                 loadHalf8(sheet + (10 + c) * lanes) * over.ways[0].diffuse) *
                                    (sunLight_[c] * by[PathRatios::sun][c]) +
                                (loadHalf8(sheet + (7 + c) * lanes) * over.ways[0].sky +
                                 loadHalf8(sheet + (10 + c) * lanes) * (over.ways[0].around * air_->skyOnLevel()[c])) *
                                    by[PathRatios::sky][c];
            }
            if (!plain && lampCount_ > 0 && !follows)
                lampsThrough(x, y, ray, over.lamps);
            if (inside && lampCount_) { // pixels with more than one cluster leave this out again
                const LampSheet& lit = lampSheet_[static_cast<std::size_t>(y)];
                const auto at = static_cast<std::size_t>(x / lanes);
                const auto listed = lampsOf(group);
                if (plain && !follows)
                    over.lamps.assign(listed.size() * lampWays, f8(-1.f));
                for (std::size_t e = lit.base[at]; e < lit.base[at + 1]; ++e) {
                    const light::Lamp& lamp = shot_->lamps[listed[lit.which[e]]];
                    F8& through = over.lamps[lit.which[e] * lampWays];
                    if (through[0] < 0.f)
                        through = exp8(-air_->depthToLamp8(lamp, ray.x(depth[0]), ray.y(depth[0]), ray.z(depth[0])));
                    for (std::size_t c = 0; c < 3; ++c)
                        behind[c] += loadHalf8(&lit.halves[(e * 3 + c) * lanes]) * through *
                                     (lamp.intensity[static_cast<int>(c)] * (1.f / lampSheetScale)) *
                                     ratios.set[PathRatios::lamps][c];
                }
                for (std::size_t j = 0; j < listed.size(); ++j) {
                    if (!air_->glowOf(listed[j]).found)
                        continue;
                    F8* onto = &over.lamps[j * lampWays + 1];
                    if (onto[0][0] < 0.f) {
                        F8 normal[3];
                        unpackNormals(sheet + 13 * lanes, normal);
                        glowOnto(listed[j], ray.x(depth[0]), ray.y(depth[0]), ray.z(depth[0]), normal, onto);
                    }
                    for (int c = 0; c < 3; ++c)
                        behind[c] += loadHalf8(sheet + (10 + c) * lanes) * onto[c] *
                                     shot_->lamps[listed[j]].intensity[c] * ratios.set[PathRatios::lamps][c];
                }
            }
            // Clean air and veils: for all eight pixels' first surfaces at once, and for the others where there are
            // any.
            const bool overlaid = hasOverlay();
            F8 tint[3], times[3], plus[3];
            for (int c = 0; follows && plain && c < 3; ++c) {
                tint[c] = over.tint[c];
                times[c] = over.times[c];
                plus[c] = over.plus[c];
            }
            for (int k = 0; overlaid && !(follows && plain) && k < depths; ++k) {
                F8 tk[3], mk[3], pk[3];
                overlay8(x, y, ray, depth[k], tk, mk, pk);
                for (int c = 0; c < 3 && k == 0; ++c) {
                    tint[c] = tk[c];
                    times[c] = mk[c];
                    plus[c] = pk[c];
                    if (plain) { // what others may follow
                        over.tint[c] = tk[c];
                        over.times[c] = mk[c];
                        over.plus[c] = pk[c];
                    }
                }
                for (int i = 0; !plain && i < lanes; ++i)
                    overlays[i][k] = {Vec3(tk[0][i], tk[1][i], tk[2][i]), Vec3(mk[0][i], mk[1][i], mk[2][i]),
                                      Vec3(pk[0][i], pk[1][i], pk[2][i])};
            }
            F8 logT[clusterCount];
            for (int k = 0; k < depths; ++k)
                logT[k] = log8(1.f + max8(depth[k], f8(0.f)) * (1.f / Segments8::a));
            store8(logT0, logT[0]);
            // Columns of cells that the eight pixels lie between, and a pixel's place among them.
            const int firstColumn = x / 4 - 1;
            const auto cellAt = [&](int column, int row) {
                return static_cast<std::size_t>(row * quickWidth_ +
                                                std::clamp(firstColumn + column, 0, quickWidth_ - 1));
            };
            static constexpr float across[lanes] = {0.625f, 0.875f, 1.125f, 1.375f, 1.625f, 1.875f, 2.125f, 2.375f};
            const auto lookUp = [&](int i, float t, float logT_) {
                const int column = static_cast<int>(across[i]);
                const float fx = across[i] - static_cast<float>(column);
                __m128 total = _mm_setzero_ps();
                float weights = 0.f;
                for (int q = 0; q < 4; ++q) {
                    float trust;
                    const __m128 v = airUpTo(cellAt(column + (q & 1), q < 2 ? y0 : y1), t, logT_, trust);
                    const float w = ((q & 1 ? fx : 1.f - fx) * (q < 2 ? 1.f - fy : fy) + 1e-3f) * trust;
                    total = _mm_add_ps(total, _mm_mul_ps(v, _mm_set1_ps(w)));
                    weights += w;
                }
                return _mm_mul_ps(total, _mm_set1_ps(1.f / weights));
            };
            // Eight pixels of one even surface share their looks: one at each cell around.
            const auto [nearest, deepest] = std::minmax_element(depth0, depth0 + lanes);
            const bool even = plain && *deepest < *nearest * 1.12f;
            if (even) {
                __m128 columns[4];
                float weights[4];
                static constexpr int place[4] = {0, 2, 5, 7};
                for (int k = 0; k < 4; ++k) {
                    float upper, lower;
                    const __m128 a = airUpTo(cellAt(k, y0), depth0[place[k]], logT0[place[k]], upper),
                                 b = airUpTo(cellAt(k, y1), depth0[place[k]], logT0[place[k]], lower);
                    upper *= 1.001f - fy;
                    lower *= fy + 1e-3f;
                    columns[k] = _mm_add_ps(_mm_mul_ps(a, _mm_set1_ps(upper)), _mm_mul_ps(b, _mm_set1_ps(lower)));
                    weights[k] = upper + lower;
                }
                for (int i = 0; i < lanes; ++i) {
                    const int k = static_cast<int>(across[i]);
                    const float f = across[i] - static_cast<float>(k);
                    const float inverse = 1.f / (weights[k] + (weights[k + 1] - weights[k]) * f);
                    got[i] = _mm_mul_ps(
                        _mm_add_ps(columns[k], _mm_mul_ps(_mm_sub_ps(columns[k + 1], columns[k]), _mm_set1_ps(f))),
                        _mm_set1_ps(inverse));
                }
            }
            for (int i = 0; !even && i < lanes && x + i < width_; ++i) {
                const std::size_t p = p0 + static_cast<std::size_t>(i);
                if (plain_[p] && inside) {
                    got[i] = lookUp(i, depth0[i], logT0[i]);
                    continue;
                }
                Through through;
                Vec3 airLight(0.f);
                for (int k = 0; k < depths; ++k) {
                    const Cluster& c = clusters_[p * clusterCount + static_cast<std::size_t>(k)];
                    if (c.weight == 0.f)
                        break;
                    float v[4];
                    _mm_storeu_ps(v, lookUp(i, c.t, logT[k][i]));
                    airLight += Vec3(v[0], v[1], v[2]) * (c.weight / samples_[p]);
                    through.view[k] = v[3];
                    through.onto[k] = laneOf(over.ways[k], i);
                }
                const Seen all = behindAir(p, y, through, overlaid ? overlays[i] : nullptr, ratioRow,
                                           lampCount_ ? reinterpret_cast<const float*>(over.lamps.data()) + i : nullptr,
                                           lead);
                airLight *= Vec3(ratios.air[0][i], ratios.air[1][i], ratios.air[2][i]);
                const Vec3 l = all.behind + airLight * all.airTimes + all.veils;
                got[i] = _mm_set_ps(0.f, l.z, l.y, l.x);
                finished[i] = -1;
            }
            for (int i = 0; ratios_.known() && i < lanes; ++i)
                if (!finished[i])
                    got[i] = _mm_mul_ps(got[i], _mm_set_ps(1.f, ratios.air[2][i], ratios.air[1][i], ratios.air[0][i]));
            // What plain water mirrors.
            for (int i = 0; inside && i < lanes; ++i)
                if (plain_[p0 + static_cast<std::size_t>(i)] && mirrorOf_[p0 + static_cast<std::size_t>(i)] >= 0) {
                    const std::size_t p = p0 + static_cast<std::size_t>(i);
                    const MirrorSheet& mirrored = mirrorSheet_[p];
                    const MirrorCluster* air =
                        mirrored.share == 0 ? nullptr
                        : lead >= 0
                            ? leadingMirror(x + i, lead, mirrored.t)
                            : mirrors_[static_cast<std::size_t>(y)][static_cast<std::size_t>(mirrorOf_[p])].clusters;
                    if (air && air->view >= 0.f) {
                        __m128 view = _mm_shuffle_ps(got[i], got[i], 0xff);
                        if (overlaid)
                            view = _mm_mul_ps(view, _mm_set_ps(0.f, tint[2][i], tint[1][i], tint[0][i]));
                        got[i] = _mm_add_ps(got[i], litFromSheet(mirrored, *air, view, ratios.mirror));
                        continue;
                    }
                    Vec3 seen[clusterCount] = {Vec3(_mm_cvtss_f32(_mm_shuffle_ps(got[i], got[i], 0xff))), Vec3(0.f),
                                               Vec3(0.f)};
                    if (overlaid) // veils come after
                        seen[0] *= Vec3(tint[0][i], tint[1][i], tint[2][i]);
                    const Vec3 l = litMirrors(p, y, seen, lead, allSources, ratios_.known() ? &ratios.mirror : nullptr);
                    got[i] = _mm_add_ps(got[i], _mm_set_ps(0.f, l.z, l.y, l.x));
                }
            _MM_TRANSPOSE4_PS(got[0], got[1], got[2], got[3]);
            _MM_TRANSPOSE4_PS(got[4], got[5], got[6], got[7]);
            const F8 view = _mm256_set_m128(got[7], got[3]);
            float* to = &rgb[p0 * 3];
            for (int c = 0; c < 3; ++c) {
                alignas(32) float l[lanes];
                const F8 air = F8(_mm256_set_m128(got[4 + c], got[c]));
                F8 picture = behind[c] * view + air;
                if (overlaid)
                    picture = select(finished, picture, times[c] * (behind[c] * view * tint[c] + air) + plus[c]);
                store8(l, picture);
                for (int i = 0; i < lanes && x + i < width_; ++i)
                    to[i * 3 + c] = l[i];
            }
        }
        rowSurfaceNoise_[static_cast<std::size_t>(y)] = 1;
    };
    if (!overRows(done, stop, [&](int band) {
            std::vector<Lit> above(groupsPerRow());
            const int first = leadRow(band * 4);
            lightRowOf(first, first, above);
            for (int y = 4 * band; y < std::min(height_, 4 * band + 4); ++y)
                if (y != first)
                    lightRowOf(y, first, above);
        }))
        return false;
    shimmer_.bend(rgb, 3);
    rain_.addTo(rgb);
    sparks_.addTo(rgb);
    return true;
}
} // namespace hygros::render
