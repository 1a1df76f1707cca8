#include "media/volume.h"

#include "base/error.h"
#include "base/parallel.h"
#include "media/lookup.h"

#include <algorithm>
#include <cmath>

namespace hygros::media {
namespace {
struct Place8 {
    F8 x, y, z;
};
inline Place8 through(const Mat4& m, F8 x, F8 y, F8 z)
{
    return {x * m[0][0] + y * m[1][0] + z * m[2][0] + m[3][0], x * m[0][1] + y * m[1][1] + z * m[2][1] + m[3][1],
            x * m[0][2] + y * m[1][2] + z * m[2][2] + m[3][2]};
}
} // namespace

void Volume::place(const Mat4& toWorld)
{
    const double scale = std::abs(
        static_cast<double>(toWorld[0][0]) * (toWorld[1][1] * toWorld[2][2] - toWorld[1][2] * toWorld[2][1]) -
        static_cast<double>(toWorld[0][1]) * (toWorld[1][0] * toWorld[2][2] - toWorld[1][2] * toWorld[2][0]) +
        static_cast<double>(toWorld[0][2]) * (toWorld[1][0] * toWorld[2][1] - toWorld[1][1] * toWorld[2][0]));
    if (!(scale > 1e-30))
        throw inputError("Placing volume", id, "its voxels have no size");
    toIndex = toWorld.inverse();
    bounds = Box3();
    const Box3& own = density->bounds();
    for (int k = 0; k < 8 && !density->empty(); ++k)
        bounds.extendBy(
            Vec3(k & 1 ? own.max.x : own.min.x, k & 2 ? own.max.y : own.min.y, k & 4 ? own.max.z : own.min.z) *
            toWorld);
}

F8 density8(const Volume& v, F8 x, F8 y, F8 z)
{
    const Place8 p = through(v.toIndex, x, y, z);
    return v.density->sample8(p.x, p.y, p.z);
}
F8 extinction8(const Volume& v, F8 x, F8 y, F8 z) { return density8(v, x, y, z) * v.sigmaT; }
float extinction(const Volume& v, const Vec3& p) { return v.density->sample(v.indexOf(p)) * v.sigmaT; }

bool isGrey(const Volume& v)
{
    return v.spectrum == Vec3(1.f) && !v.remap &&
           std::none_of(v.tints.begin(), v.tints.end(), [](const Tint& t) { return t.onto == Tint::Onto::Absorption; });
}

namespace {
/// Nothing lets less than this through of a channel in a mean free path.
constexpr float darkest = 0.002f;
} // namespace

Vec3 meanRelative(const Volume& v)
{
    Vec3 mean = v.spectrum;
    if (v.remap) {
        float scattering = 0.f, absorption = 0.f;
        for (std::size_t i = 1; i < Remap::entries; ++i) {
            scattering += v.remap->scattering[i] / (Remap::entries - 1);
            absorption += v.remap->absorption[i] / (Remap::entries - 1);
        }
        mean *= v.albedo * scattering + (Vec3(1.f) - v.albedo) * absorption;
    }
    for (const Tint& t : v.tints)
        for (std::size_t i = 0; t.onto == Tint::Onto::Absorption && i < t.colours.size(); ++i)
            for (int c = 0; c < 3; ++c)
                mean[c] -= std::log(std::clamp(t.colours[i][c], darkest, 1.f)) / static_cast<float>(t.colours.size());
    return mean;
}

float mostRelative(const Volume& v)
{
    if (isGrey(v))
        return 1.f;
    float scattering = 1.f, absorption = 1.f;
    if (v.remap) {
        scattering = *std::max_element(v.remap->scattering.begin(), v.remap->scattering.end());
        absorption = *std::max_element(v.remap->absorption.begin(), v.remap->absorption.end());
    }
    Vec3 most;
    for (int c = 0; c < 3; ++c) // what tints take of scattering is absorbed
        most[c] = v.spectrum[c] * (v.albedo[c] * scattering + (1.f - v.albedo[c]) * absorption);
    for (const Tint& t : v.tints)
        if (t.onto == Tint::Onto::Absorption) {
            Vec3 least(1.f);
            for (const Vec3& colour : t.colours)
                for (int c = 0; c < 3; ++c)
                    least[c] = std::min(least[c], std::max(darkest, colour[c]));
            for (int c = 0; c < 3; ++c)
                most[c] -= std::log(least[c]);
        }
    return maxComponent(most) * 1.0001f;
}

void optics8(const Volume& v, F8 x, F8 y, F8 z, F8 extinction, F8 relative[3], F8 albedo[3])
{
    if (v.tints.empty() && !v.remap) {
        for (int c = 0; c < 3; ++c) {
            relative[c] = f8(v.spectrum[c]);
            albedo[c] = f8(v.albedo[c]);
        }
        return;
    }
    F8 kept[3] = {f8(1.f), f8(1.f), f8(1.f)}, absorbed[3] = {f8(0.f), f8(0.f), f8(0.f)};
    const auto value = [&] { return v.sigmaT > 0.f ? extinction * (1.f / v.sigmaT) : f8(0.f); };
    for (const Tint& t : v.tints) {
        F8 by = f8(0.f);
        const F8 dx = x - t.origin.x, dy = y - t.origin.y, dz = z - t.origin.z;
        switch (t.by) {
        case Tint::By::Axis: by = dx * t.direction.x + dy * t.direction.y + dz * t.direction.z; break;
        case Tint::By::Point: by = sqrt8(dx * dx + dy * dy + dz * dz); break;
        case Tint::By::Density: by = value(); break;
        case Tint::By::Heat: {
            if (!v.glow.heat)
                continue;
            const Place8 p = through(v.glow.toHeat, x, y, z);
            by = v.glow.heat->sample8(p.x, p.y, p.z);
            break;
        }
        case Tint::By::Surface: {
            if (!t.distance)
                continue;
            const Place8 p = through(t.toDistance, x, y, z);
            by = t.farthest - t.distance->sample8(p.x, p.y, p.z);
            break;
        }
        case Tint::By::Noise: by = clamp8(octaves8(t.noise, x, y, z) * 1.6f + 0.5f, 0.f, 1.f); break;
        }
        const float last = static_cast<float>(t.colours.size() - 1);
        const F8 place = clamp8((by - t.from) * (last / (t.to - t.from)), 0.f, last - 1e-4f);
        const I8 at = toInt(place);
        const F8 part = place - toFloat(at);
        for (int i = 0; i < lanes; ++i) {
            const Vec3 c = lerp(t.colours[static_cast<std::size_t>(at[i])],
                                t.colours[static_cast<std::size_t>(at[i]) + 1], part[i]);
            for (int k = 0; k < 3; ++k)
                if (t.onto == Tint::Onto::Absorption)
                    absorbed[k][i] -= std::log(std::clamp(c[k], darkest, 1.f));
                else
                    kept[k][i] *= c[k];
        }
    }
    F8 scatters = f8(1.f), absorbs = f8(1.f);
    if (v.remap) {
        const F8 place = clamp8(value() * ((Remap::entries - 1) / v.remap->most), 0.f, Remap::entries - 1.001f);
        const I8 at = toInt(place);
        const F8 part = place - toFloat(at);
        for (int i = 0; i < lanes; ++i) {
            const auto k = static_cast<std::size_t>(at[i]);
            scatters[i] = lerp(v.remap->scattering[k], v.remap->scattering[k + 1], part[i]);
            absorbs[i] = lerp(v.remap->absorption[k], v.remap->absorption[k + 1], part[i]);
        }
    }
    for (int c = 0; c < 3; ++c) {
        const F8 all = scatters * (v.spectrum[c] * v.albedo[c]);
        relative[c] = all + absorbs * (v.spectrum[c] * (1.f - v.albedo[c])) + absorbed[c];
        albedo[c] = clamp8(all * kept[c] / max8(relative[c], f8(1e-12f)), 0.f, 1.f);
    }
}

Optics opticsAt(const Volume& v, const Vec3& p)
{
    const float sigma = extinction(v, p);
    if (v.tints.empty() && !v.remap)
        return {v.spectrum * sigma, v.albedo};
    F8 r[3], a[3];
    optics8(v, f8(p.x), f8(p.y), f8(p.z), f8(sigma), r, a);
    return {Vec3(r[0][0], r[1][0], r[2][0]) * sigma, Vec3(a[0][0], a[1][0], a[2][0])};
}

void glow8(const Volume& v, F8 x, F8 y, F8 z, F8 out[3])
{
    out[0] = out[1] = out[2] = f8(0.f);
    if (!v.glow.heat)
        return;
    const Place8 p = through(v.glow.toHeat, x, y, z);
    const F8 heat = v.glow.heat->sample8(p.x, p.y, p.z) * v.glow.scale;
    if (!any(heat > 0.f))
        return;
    const std::vector<Vec3>& table = *v.glow.table;
    const float last = static_cast<float>(table.size() - 1);
    for (int i = 0; i < lanes; ++i) {
        const float at = std::min(heat[i], last - 1e-3f);
        const auto k = static_cast<std::size_t>(at);
        const Vec3 l = lerp(table[k], table[k + 1], at - static_cast<float>(k));
        out[0][i] = l.x, out[1][i] = l.y, out[2][i] = l.z;
    }
}

void clip8(const Volume& v, const Ray8& ray, F8& t0, F8& t1)
{
    const auto slab = [&](F8 o, F8 d, float low, float high) {
        const F8 inverse = 1.f / select(abs8(d) < 1e-9f, f8(1e-9f), d), a = (low - o) * inverse,
                 b = (high - o) * inverse;
        t0 = max8(t0, min8(a, b));
        t1 = min8(t1, max8(a, b));
    };
    slab(ray.ox, ray.dx, v.bounds.min.x, v.bounds.max.x);
    slab(ray.oy, ray.dy, v.bounds.min.y, v.bounds.max.y);
    slab(ray.oz, ray.dz, v.bounds.min.z, v.bounds.max.z);
    t1 = max8(t0, t1);
}

VolumeShadow::VolumeShadow(const Volume& volume, const Vec3& sun, int cells) : sun_(sun)
{
    frameAround(sun, right_, up_);
    if (volume.density->empty()) {
        columns_.assign(16, 0.f);
        return;
    }
    Box3 box; // in the sun's frame
    const Box3& own = volume.density->bounds();
    const Mat4 toWorld = volume.toIndex.inverse();
    for (int k = 0; k < 8; ++k) {
        const Vec3 p = Vec3(k & 1 ? own.max.x : own.min.x, k & 2 ? own.max.y : own.min.y,
                            k & 4 ? own.max.z : own.min.z) *
                       toWorld;
        box.extendBy(Vec3(p.dot(right_), p.dot(up_), p.dot(sun)));
    }
    const Vec3 extent = box.max - box.min;
    float voxel = 1e30f; // [m]
    for (int a = 0; a < 3; ++a)
        voxel = std::min(voxel, Vec3(toWorld[a][0], toWorld[a][1], toWorld[a][2]).length());
    cell_ = std::max(voxel, std::max({extent.x, extent.y, extent.z}) / static_cast<float>(cells));
    // A border of nothing around.
    for (std::size_t a = 0; a < 2; ++a)
        size_[a] = static_cast<int>(std::ceil(extent[static_cast<int>(a)] / cell_)) + 3;
    size_[2] = static_cast<int>(std::ceil(extent.z / cell_)) + 1;
    origin_ = Vec3(box.min.x - cell_, box.min.y - cell_, box.min.z);
    const int levels = size_[2];
    columns_.assign(
        static_cast<std::size_t>(size_[0]) * static_cast<std::size_t>(size_[1]) * static_cast<std::size_t>(levels) + 2,
        0.f);
    // Two or three places across a cell and along it where it is larger than a voxel.
    const int per = std::clamp(static_cast<int>(std::ceil(cell_ / voxel - 0.2f)), 1, 3);
    parallelFor(static_cast<std::size_t>(size_[1] - 2), [&](std::size_t row) {
        const int v = static_cast<int>(row) + 1;
        std::vector<F8> sums(static_cast<std::size_t>(levels), f8(0.f));
        for (int u = 1; u < size_[0] - 1; u += lanes) {
            F8 column;
            for (int i = 0; i < lanes; ++i)
                column[i] = static_cast<float>(u + i);
            std::fill(sums.begin(), sums.end(), f8(0.f));
            for (int k = levels - 2; k >= 0; --k) {
                F8 total = f8(0.f);
                for (int q = 0; q < per * per * per; ++q) {
                    const auto part = [&](int i) { return (static_cast<float>(i) + 0.5f) / static_cast<float>(per); };
                    const F8 a = origin_.x + (column + (part(q % per) - 0.5f)) * cell_;
                    const float b = origin_.y + (static_cast<float>(v) + part(q / per % per) - 0.5f) * cell_,
                                c = origin_.z + (static_cast<float>(k) + part(q / per / per)) * cell_;
                    const Place8 p = through(volume.toIndex, a * right_.x + (b * up_.x + c * sun.x),
                                             a * right_.y + (b * up_.y + c * sun.y),
                                             a * right_.z + (b * up_.z + c * sun.z));
                    total += volume.density->sample8(p.x, p.y, p.z);
                }
                sums[static_cast<std::size_t>(k)] = sums[static_cast<std::size_t>(k) + 1] +
                                                    total * (cell_ / static_cast<float>(per * per * per));
            }
            for (int i = 0; i < lanes && u + i < size_[0] - 1; ++i)
                for (int k = 0; k < levels; ++k)
                    columns_[static_cast<std::size_t>((v * size_[0] + u + i) * levels + k)] =
                        sums[static_cast<std::size_t>(k)][i];
        }
    });
}

F8 VolumeShadow::column8(F8 x, F8 y, F8 z) const
{
    const auto along = [&](const Vec3& axis, int a) {
        return (x * axis.x + y * axis.y + z * axis.z - origin_[a]) * (1.f / cell_);
    };
    const F8 u = along(right_, 0), v = along(up_, 1), w = along(sun_, 2);
    const I8 met = (u > 0.f) & (v > 0.f) & (u < static_cast<float>(size_[0] - 1)) &
                   (v < static_cast<float>(size_[1] - 1)) & (w < static_cast<float>(size_[2] - 1));
    if (!any(met))
        return f8(0.f);
    const F8 cu = select(met, u, f8(0.f)), cv = select(met, v, f8(0.f)), cw = select(met, max8(w, f8(0.f)), f8(0.f));
    const I8 iu = toInt(cu), iv = toInt(cv), iw = toInt(cw);
    const F8 fu = cu - toFloat(iu), fv = cv - toFloat(iv), fw = cw - toFloat(iw);
    const int across = size_[2], row = size_[0] * size_[2];
    const I8 at = (iv * size_[0] + iu) * size_[2] + iw;
    F8 a, b, c, d, e, f, g, h;
    pairs8(columns_.data(), at, a, b);
    pairs8(columns_.data() + across, at, c, d);
    pairs8(columns_.data() + row, at, e, f);
    pairs8(columns_.data() + row + across, at, g, h);
    const F8 low = (a + (b - a) * fw) * (1.f - fu) + (c + (d - c) * fw) * fu,
             high = (e + (f - e) * fw) * (1.f - fu) + (g + (h - g) * fw) * fu;
    return select(met, low + (high - low) * fv, f8(0.f));
}

F8 fineSunDepth8(const Volume& v, F8 x, F8 y, F8 z, F8 jitter)
{
    if (!v.shadow)
        return f8(0.f);
    const Vec3& s = v.shadow->sun();
    const float reach = 2.f * v.shadow->cell();
    F8 depth = f8(0.f);
    constexpr int looks = 2;
    for (int k = 0; k < looks; ++k) {
        const F8 t = (static_cast<float>(k) + jitter) * (reach / looks);
        depth += extinction8(v, x + t * s.x, y + t * s.y, z + t * s.z);
    }
    return depth * (reach / looks) + v.shadow->column8(x + s.x * reach, y + s.y * reach, z + s.z * reach) * v.sigmaT;
}
} // namespace hygros::media
