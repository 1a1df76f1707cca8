/// The quick picture from air at a quarter of the size, and what single elements add.
#include "render/frame.h"

#include "base/parallel.h"
#include "render/frame_rows.h"

#include <algorithm>
#include <array>
#include <cmath>
#include <cstring>

namespace hygros::render {
using media::Ray8;

Frame::Contribution Frame::mediumAlone(const std::string& id)
{
    Contribution out{quickWidth_, quickHeight_, {}};
    out.rgb.assign(quickCells_.size() * 3, 0.f);
    const auto media = air_->media();
    const std::atomic<bool> never{false};
    for (std::size_t k = 0; k < media.size(); ++k)
        if (media[k].medium->id == id && quickBuilt_) {
            std::vector<float> profile;
            marchQuick(never, static_cast<int>(k), profile);
            for (std::size_t c = 0; c < quickCells_.size(); ++c)
                for (std::size_t ch = 0; ch < 3; ++ch)
                    out.rgb[c * 3 + ch] += profile[(c * quickSegments + quickSegments - 1) * 4 + ch];
        }
    return out;
}

Frame::Contribution Frame::lampAlone(const std::string& id)
{
    Contribution out{quickWidth_, quickHeight_, {}};
    out.rgb.assign(static_cast<std::size_t>(quickWidth_ * quickHeight_) * 3, 0.f);
    if (through_.empty())
        return out;
    parallelFor(static_cast<std::size_t>(quickHeight_), [&](std::size_t gy) {
        for (int gx = 0; gx < quickWidth_; ++gx) {
            const std::size_t p = index(std::min(width_ - 1, gx * 4 + 2), std::min(height_ - 1, static_cast<int>(gy) * 4 + 2));
            const Cluster& c = clusters_[p * clusterCount];
            const Through& t = through_[p];
            Vec3 l(0.f);
            const float view = std::max(0.f, t.view[0]), spotShare = 1.f / static_cast<float>(std::max<int>(1, rowSpots_[gy]));
            if (shot_->sky && id == shot_->sunId) {
                l = (c.light.sun * shot_->sky->sunIrradiance() * t.sun[0] + c.light.sky * t.sky[0]) * (view / c.weight);
                for (int ch = 0; ch < 3; ++ch)
                    l[ch] += airSun_[p * 3 + static_cast<std::size_t>(ch)] + airSky_[p * 3 + static_cast<std::size_t>(ch)];
            }
            for (std::size_t s = 0; s < lampCount_; ++s)
                if (shot_->spots[s].id == id) {
                    l = spotLight_[p * clusterCount * lampCount_ + s] * shot_->spots[s].intensity * (view / c.weight);
                    for (int ch = 0; ch < 3; ++ch)
                        l[ch] += airSpot_[(p * lampCount_ + s) * 3 + static_cast<std::size_t>(ch)] * spotShare;
                }
            for (std::size_t ch = 0; ch < 3; ++ch)
                out.rgb[(gy * static_cast<std::size_t>(quickWidth_) + static_cast<std::size_t>(gx)) * 3 + ch] = l[static_cast<int>(ch)];
        }
    });
    return out;
}

bool Frame::buildQuick(const std::atomic<bool>& stop)
{
    const std::size_t cells = static_cast<std::size_t>(quickWidth_ * quickHeight_);
    quickCells_.resize(cells);
    const std::size_t groups = (static_cast<std::size_t>(quickWidth_) + 7) / 8;
    quickSpots_.resize(cells * lampCount_ * lanes);
    quickSunLit_.resize(groups * static_cast<std::size_t>(quickHeight_) * quickSegments * lanes);
    quickSkyLit_.resize(groups * static_cast<std::size_t>(quickHeight_) * (quickSegments / 3) * lanes);
    std::vector<char> done(static_cast<std::size_t>(quickHeight_), 0);
    const bool whole = overRows(done, stop, [&](int gy) {
        for (int gx = 0; gx < quickWidth_; ++gx) {
            // Through the deepest pixel of the block: nothing stands in that ray's way up to the block's far end.
            int bx = 0, by = 0;
            float deepest = -1.f, span = 0.f;
            for (int y = gy * 4; y < std::min(height_, gy * 4 + 4); ++y)
                for (int x = gx * 4; x < std::min(width_, gx * 4 + 4); ++x) {
                    const float t = clusters_[index(x, y) * clusterCount].t;
                    if (t > deepest || (t == deepest && x == gx * 4 + 2 && y == gy * 4 + 2)) {
                        deepest = t;
                        bx = x;
                        by = y;
                    }
                    span = std::max(span, span_[index(x, y)]);
                }
            QuickCell& c = quickCells_[static_cast<std::size_t>(gy * quickWidth_ + gx)];
            c.direction = view_.direction(static_cast<float>(bx) + 0.5f, static_cast<float>(by) + 0.5f);
            c.span = deepest;
            c.logScale = static_cast<float>(quickSegments) / std::log(1.f + c.span / Segments8::a);
            c.jitter = jitterAt(gx, gy, 0);
        }
        for (int gx = 0; gx < quickWidth_; gx += lanes) {
            Ray8 ray = media::ray8(view_.position(), Vec3(0, 0, -1));
            F8 end = f8(1.f), jitter = f8(0.f);
            unsigned active = 0;
            for (int i = 0; i < lanes; ++i) {
                const QuickCell& c = quickCells_[static_cast<std::size_t>(gy * quickWidth_ + std::min(gx + i, quickWidth_ - 1))];
                ray.dx[i] = c.direction.x, ray.dy[i] = c.direction.y, ray.dz[i] = c.direction.z;
                end[i] = c.span;
                jitter[i] = c.jitter;
                if (gx + i < quickWidth_)
                    active |= 1u << i;
            }
            const std::size_t group = static_cast<std::size_t>(gy) * groups + static_cast<std::size_t>(gx / lanes);
            lookToLights(ray, end, jitter, quickSegments, 0, Look::Each, active, &quickSunLit_[group * quickSegments * lanes],
                         &quickSkyLit_[group * (quickSegments / 3) * lanes], gx, gy);
            for (int i = 0; i < lanes && gx + i < quickWidth_; ++i) {
                const std::size_t at = static_cast<std::size_t>(gy * quickWidth_ + gx + i);
                for (std::size_t l = 0; l < lampCount_; ++l) {
                    const unsigned lit = spotVisibility(*shot_, l, view_.position(), quickCells_[at].direction, quickCells_[at].span, 0.5f);
                    for (std::size_t k = 0; k < lanes; ++k)
                        quickSpots_[(l * quickCells_.size() + at) * lanes + k] = static_cast<std::uint8_t>((lit >> k) & 1u);
                }
            }
        }
    });
    quickBuilt_ = whole;
    quickNoiseKept_ = false;
    return whole;
}

bool Frame::marchQuick(const std::atomic<bool>& stop, int only, std::vector<float>& out)
{
    const std::size_t noisy = air_->noisyCount(), groups = (static_cast<std::size_t>(quickWidth_) + 7) / 8;
    const std::size_t groupMeans = quickSegments * noisy * 16;
    quickNoise_.resize(static_cast<std::size_t>(quickHeight_) * groups * groupMeans);
    out.resize(quickCells_.size() * quickSegments * 4);
    std::vector<char> done(static_cast<std::size_t>(quickHeight_), 0);
    const bool sample = !quickNoiseKept_;
    const bool whole = overRows(done, stop, [&](int gy) {
        AirSums8 sums;
        F8 profile[maxSegments][4];
        for (int gx = 0; gx < quickWidth_; gx += lanes) {
            AirRays8 rays;
            rays.ray = media::ray8(view_.position(), Vec3(0, 0, -1));
            rays.segments = quickSegments;
            for (int i = 0; i < lanes; ++i) {
                const QuickCell& c = quickCells_[static_cast<std::size_t>(gy * quickWidth_ + std::min(gx + i, quickWidth_ - 1))];
                rays.ray.dx[i] = c.direction.x, rays.ray.dy[i] = c.direction.y, rays.ray.dz[i] = c.direction.z;
                rays.end[i] = c.span;
                rays.jitter[i] = c.jitter;
            }
            rays.depths = 1;
            rays.depth[0] = rays.end;
            rays.weight[0] = f8(1.f);
            const std::size_t group = static_cast<std::size_t>(gy) * groups + static_cast<std::size_t>(gx / lanes);
            static constexpr std::array<float, quickSegments> once = [] {
                std::array<float, quickSegments> a{};
                a.fill(1.f);
                return a;
            }();
            rays.sunLit = &quickSunLit_[group * quickSegments * lanes];
            rays.skyLit = &quickSkyLit_[group * (quickSegments / 3) * lanes];
            rays.sunShare = rays.skyShare = once.data();
            if (noisy)
                rays.noise = {quickNoise_.data() + group * groupMeans, sample, f8(1.f)};
            marchAir(*air_, rays, sums, profile, only);
            for (int i = 0; i < lanes && gx + i < quickWidth_; ++i) {
                const std::size_t at = static_cast<std::size_t>(gy * quickWidth_ + gx + i);
                float* to = &out[at * quickSegments * 4];
                for (std::size_t s = 0; s < quickSegments; ++s)
                    for (std::size_t c = 0; c < 4; ++c)
                        to[s * 4 + c] = profile[s][c][i];
                const QuickCell& cell = quickCells_[at];
                for (std::size_t l = 0; l < lampCount_ && only < 0; ++l) {
                    // A lamp's beam is put where its light is met, in equal parts of three depths of the cone.
                    const light::Spot& lamp = shot_->spots[l];
                    float t0 = 0.f, t1 = cell.span;
                    if (!light::insideCone(lamp, view_.position(), cell.direction, spotReach(lamp), t0, t1))
                        continue;
                    constexpr int cuts = 3;
                    Vec3 before(0.f);
                    for (int k = 1; k <= cuts; ++k) {
                        const float depth = t0 + (t1 - t0) * static_cast<float>(k) / cuts, one = 1.f;
                        const Vec3 light = spotAirLight(*air_, l, view_.position(), cell.direction, cell.span, quickSegments,
                                                        reinterpret_cast<const float*>(sums.boundary) + i, 0.5f,
                                                        &quickSpots_[(l * quickCells_.size() + at) * lanes], 1.f, 1, &depth, &one,
                                                        noisy ? rays.noise.means + i : nullptr);
                        const Vec3 step = light - before;
                        before = light;
                        const int from = std::clamp(static_cast<int>(std::log(1.f + depth / Segments8::a) * cell.logScale), 0, quickSegments - 1);
                        for (std::size_t s = static_cast<std::size_t>(from); s < quickSegments; ++s)
                            for (std::size_t c = 0; c < 3; ++c)
                                to[s * 4 + c] += step[static_cast<int>(c)];
                    }
                }
            }
        }
    });
    quickNoiseKept_ = quickNoiseKept_ || whole;
    return whole;
}

/// Air light and transmittance (in the fourth lane) up to depth t, from the four cells around a pixel.
inline __m128 Frame::airUpTo(const std::size_t at[4], const float bilinear[4], float t, float logT) const
{
    __m128 total = _mm_setzero_ps();
    float weights = 0.f;
    for (int q = 0; q < 4; ++q) {
        const QuickCell& cell = quickCells_[at[q]];
        // A neighbour that ends before this depth knows nothing of the air behind; it counts only when there is no
        // other.
        float w = bilinear[q] + 1e-3f;
        if (t > cell.span * 1.05f)
            w *= 1e-3f;
        const float u = std::min(logT * cell.logScale, static_cast<float>(quickSegments));
        const int s = std::min(static_cast<int>(u), quickSegments - 1);
        const float f = u - static_cast<float>(s);
        const float* b = &quickProfile_[(at[q] * quickSegments + static_cast<std::size_t>(s)) * 4];
        const __m128 to = _mm_loadu_ps(b), from = s ? _mm_loadu_ps(b - 4) : _mm_set_ps(1.f, 0.f, 0.f, 0.f);
        total = _mm_add_ps(total, _mm_mul_ps(_mm_set1_ps(w), _mm_add_ps(from, _mm_mul_ps(_mm_sub_ps(to, from), _mm_set1_ps(f)))));
        weights += w;
    }
    return _mm_mul_ps(total, _mm_set1_ps(1.f / weights));
}

bool Frame::quickPicture(std::vector<float>& rgb, const std::atomic<bool>& stop)
{
    if (!quickBuilt_ && !buildQuick(stop))
        return false;
    if (!marchQuick(stop, -1, quickProfile_))
        return false;
    rgb.resize(span_.size() * 3);
    std::vector<char> done(static_cast<std::size_t>(height_), 0);
    lit_ = false; // the mirrors' air is now of the present media, the rest may not be
    makeNoiseRoom();
    const Vec3 sunLight = shot_->sky ? shot_->sky->sunIrradiance() : Vec3(0.f);
    const bool whole = overRows(done, stop, [&](int y) {
        if (!mirrors_[static_cast<std::size_t>(y)].empty()) {
            lightMirrorsRow(y, false, true);
        }
        const bool sample = !rowSurfaceNoise_[static_cast<std::size_t>(y)];
        const float gy = (static_cast<float>(y) + 0.5f) * 0.25f - 0.5f;
        const int y0 = std::clamp(static_cast<int>(std::floor(gy)), 0, quickHeight_ - 1), y1 = std::min(y0 + 1, quickHeight_ - 1);
        const float fy = std::clamp(gy - static_cast<float>(y0), 0.f, 1.f);
        for (int x = 0; x < width_; x += lanes) {
            const Ray8 ray = raysAt(x, y);
            const F8 jitter = jitters(x, y, 0);
            const std::size_t group = groupAt(x, y);
            const std::size_t p0 = index(x, y);
            const bool inside = x + lanes <= width_;
            F8 toSun[clusterCount], toSky[clusterCount], diffuse[clusterCount], depth[clusterCount];
            std::uint64_t allPlain = 0x0101010101010101u;
            if (inside)
                std::memcpy(&allPlain, &plain_[p0], 8);
            const bool plain = inside && allPlain == 0x0101010101010101u;
            int depths = 1;
            if (plain) {
                depth[0] = load8(&sheet_[0][p0]);
                surfaceAir(ray.x(depth[0]), ray.y(depth[0]), ray.z(depth[0]), jitter, surfaceNoise(group, 0, sample, f8(1.f)),
                           toSun[0], toSky[0], diffuse[0]);
            } else {
                for (int k = 0; k < clusterCount; ++k) {
                    bool used = k == 0;
                    for (int i = 0; i < lanes; ++i) {
                        const Cluster& c = clusters_[index(std::min(x + i, width_ - 1), y) * clusterCount + static_cast<std::size_t>(k)];
                        depth[k][i] = c.t;
                        used = used || c.weight > 0.f;
                    }
                    if (!used)
                        break;
                    depths = k + 1;
                    surfaceAir(ray.x(depth[k]), ray.y(depth[k]), ray.z(depth[k]), jitter, surfaceNoise(group, k, sample, f8(1.f)),
                               toSun[k], toSky[k], diffuse[k]);
                }
            }
            // Light of the nearest-sampled surfaces of all eight pixels, before the air in front of them.
            F8 behind[3] = {f8(0.f), f8(0.f), f8(0.f)};
            // Lane by lane into memory, then read as vectors: cheaper than inserting lanes one at a time.
            alignas(32) float air[3][lanes] = {}, view[lanes] = {}, depth0[lanes], logT0[lanes];
            if (inside) {
                for (int c = 0; c < 3; ++c)
                    behind[c] = load8(&sheet_[1 + c][p0]) + load8(&sheet_[4 + c][p0]) * (toSun[0] * sunLight[c]) +
                                load8(&sheet_[7 + c][p0]) * (toSky[0] + diffuse[0] * diffuseTint_[c]);
            }
            F8 logT[clusterCount];
            for (int k = 0; k < depths; ++k)
                logT[k] = log8(1.f + max8(depth[k], f8(0.f)) * (1.f / Segments8::a));
            store8(depth0, depth[0]);
            store8(logT0, logT[0]);
            const auto around = [&](int column, std::size_t at[4], float bilinear[4]) {
                const float gx = (static_cast<float>(column) + 0.5f) * 0.25f - 0.5f;
                const int x0 = std::clamp(static_cast<int>(gx), 0, quickWidth_ - 1), x1 = std::min(x0 + 1, quickWidth_ - 1);
                const float fx = std::clamp(gx - static_cast<float>(x0), 0.f, 1.f);
                at[0] = static_cast<std::size_t>(y0 * quickWidth_ + x0);
                at[1] = static_cast<std::size_t>(y0 * quickWidth_ + x1);
                at[2] = static_cast<std::size_t>(y1 * quickWidth_ + x0);
                at[3] = static_cast<std::size_t>(y1 * quickWidth_ + x1);
                bilinear[0] = (1.f - fx) * (1.f - fy), bilinear[1] = fx * (1.f - fy), bilinear[2] = (1.f - fx) * fy, bilinear[3] = fx * fy;
            };
            std::size_t at[4];
            float bilinear[4];
            // Eight pixels of one even surface: three looks and straight lines between.
            const auto [nearest, deepest] = std::minmax_element(depth0, depth0 + lanes);
            if (plain && *deepest < *nearest * 1.12f) {
                __m128 look[3];
                static constexpr int place[3] = {0, 4, 7};
                for (int k = 0; k < 3; ++k) {
                    around(x + place[k], at, bilinear);
                    look[k] = airUpTo(at, bilinear, depth0[place[k]], logT0[place[k]]);
                }
                for (int i = 0; i < lanes; ++i) {
                    const int k = i < 4 ? 0 : 1;
                    const float f = i < 4 ? static_cast<float>(i) * 0.25f : static_cast<float>(i - 4) * (1.f / 3.f);
                    float v[4];
                    _mm_storeu_ps(v, _mm_add_ps(look[k], _mm_mul_ps(_mm_sub_ps(look[k + 1], look[k]), _mm_set1_ps(f))));
                    air[0][i] = v[0], air[1][i] = v[1], air[2][i] = v[2], view[i] = v[3];
                }
            } else
            for (int i = 0; i < lanes && x + i < width_; ++i) {
                const std::size_t p = p0 + static_cast<std::size_t>(i);
                around(x + i, at, bilinear);
                if (plain_[p] && inside) {
                    const __m128 s = airUpTo(at, bilinear, depth0[i], logT0[i]);
                    float v[4];
                    _mm_storeu_ps(v, s);
                    air[0][i] = v[0], air[1][i] = v[1], air[2][i] = v[2], view[i] = v[3];
                    continue;
                }
                Through through;
                Vec3 airLight(0.f);
                for (int k = 0; k < depths; ++k) {
                    const Cluster& c = clusters_[p * clusterCount + static_cast<std::size_t>(k)];
                    if (c.weight == 0.f)
                        break;
                    float v[4];
                    _mm_storeu_ps(v, airUpTo(at, bilinear, c.t, logT[k][i]));
                    airLight += Vec3(v[0], v[1], v[2]) * (c.weight / samples_[p]);
                    through.view[k] = v[3];
                    through.sun[k] = toSun[k][i];
                    through.sky[k] = toSky[k][i];
                    through.diffuse[k] = diffuse[k][i];
                }
                float t = 0.f;
                const Vec3 l = behindAir(p, y, through, t) + airLight;
                // Same form as the plain ones: fully seen, with no air before it.
                view[i] = 0.f;
                for (int c = 0; c < 3; ++c)
                    air[c][i] = l[c];
            }
            float* to = &rgb[p0 * 3];
            for (int c = 0; c < 3; ++c) {
                alignas(32) float l[lanes];
                store8(l, behind[c] * load8(view) + load8(air[c]));
                for (int i = 0; i < lanes && x + i < width_; ++i)
                    to[i * 3 + c] = l[i];
            }
        }
        rowSurfaceNoise_[static_cast<std::size_t>(y)] = 1;
    });
    return whole;
}
} // namespace hygros::render
