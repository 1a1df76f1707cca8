#include "media/volume.h"

#include "base/error.h"
#include "base/parallel.h"
#include "media/lookup.h"

#include <cmath>

namespace hygros::media {
namespace {
struct Place8 {
    F8 x, y, z;
};
inline Place8 through(const Mat4& m, F8 x, F8 y, F8 z)
{
    return {x * m[0][0] + y * m[1][0] + z * m[2][0] + m[3][0], x * m[0][1] + y * m[1][1] + z * m[2][1] + m[3][1], x * m[0][2] + y * m[1][2] + z * m[2][2] + m[3][2]};
}
} // namespace

void Volume::place(const Mat4& toWorld)
{
    const double scale = std::abs(static_cast<double>(toWorld[0][0]) * (toWorld[1][1] * toWorld[2][2] - toWorld[1][2] * toWorld[2][1]) -
                                  static_cast<double>(toWorld[0][1]) * (toWorld[1][0] * toWorld[2][2] - toWorld[1][2] * toWorld[2][0]) +
                                  static_cast<double>(toWorld[0][2]) * (toWorld[1][0] * toWorld[2][1] - toWorld[1][1] * toWorld[2][0]));
    if (!(scale > 1e-30))
        throw inputError("Placing volume", id, "its voxels have no size");
    toIndex = toWorld.inverse();
    bounds = Box3();
    const Box3& own = density->bounds();
    for (int k = 0; k < 8 && !density->empty(); ++k)
        bounds.extendBy(Vec3(k & 1 ? own.max.x : own.min.x, k & 2 ? own.max.y : own.min.y, k & 4 ? own.max.z : own.min.z) * toWorld);
}

bool Volume::sameAs(const Volume& o) const
{
    return id == o.id && density == o.density && toIndex == o.toIndex && sigmaT == o.sigmaT && albedo == o.albedo && phase == o.phase && ambient == o.ambient &&
           bySun == o.bySun && bySky == o.bySky && shadowShare == o.shadowShare && glow.sameAs(o.glow) && !shadow == !o.shadow && (!shadow || shadow->sun() == o.shadow->sun());
}

F8 extinction8(const Volume& v, F8 x, F8 y, F8 z)
{
    const Place8 p = through(v.toIndex, x, y, z);
    return v.density->sample8(p.x, p.y, p.z) * v.sigmaT;
}
float extinction(const Volume& v, const Vec3& p) { return v.density->sample(v.indexOf(p)) * v.sigmaT; }

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
        const F8 inverse = 1.f / select(abs8(d) < 1e-9f, f8(1e-9f), d), a = (low - o) * inverse, b = (high - o) * inverse;
        t0 = max8(t0, min8(a, b));
        t1 = min8(t1, max8(a, b));
    };
    slab(ray.ox, ray.dx, v.bounds.min.x, v.bounds.max.x);
    slab(ray.oy, ray.dy, v.bounds.min.y, v.bounds.max.y);
    slab(ray.oz, ray.dz, v.bounds.min.z, v.bounds.max.z);
    t1 = max8(t0, t1);
}

VolumeShadow::VolumeShadow(const Volume& volume, const Vec3& sun) : sun_(sun)
{
    const BrickGrid::Means density = volume.density->means(most);
    size_ = density.size;
    if (volume.density->empty()) {
        size_ = {1, 1, 1};
        column_.assign(8, 0.f);
        return;
    }
    origin_ = density.origin;
    perCell_ = 1.f / density.cell;
    // A metre toward the sun in lattice cells; one step goes from slice to slice of the axis it is steepest along.
    towardSun_ = volume.indexDirection(sun) * perCell_;
    int main = 0;
    for (int a = 1; a < 3; ++a)
        if (std::abs(towardSun_[a]) > std::abs(towardSun_[main]))
            main = a;
    const float step = 1.f / std::abs(towardSun_[main]); // metres from slice to slice
    cellMetres_ = step;
    const int first = (main + 1) % 3, second = (main + 2) % 3;
    const auto n = [&](int a) { return size_[static_cast<std::size_t>(a)]; };
    const std::size_t stride[3] = {1, static_cast<std::size_t>(n(0) + 1), static_cast<std::size_t>(n(0) + 1) * static_cast<std::size_t>(n(1) + 1)};
    const std::size_t from[3] = {1, static_cast<std::size_t>(n(0)), static_cast<std::size_t>(n(0)) * static_cast<std::size_t>(n(1))};
    column_.assign(stride[2] * static_cast<std::size_t>(n(2) + 1), 0.f);
    const int direction = towardSun_[main] > 0.f ? 1 : -1;
    const float da = towardSun_[first] * step, db = towardSun_[second] * step;
    for (int k = 0; k < n(main); ++k) {
        const int slice = direction > 0 ? n(main) - 1 - k : k, before = slice + direction;
        parallelRanges(static_cast<std::size_t>(n(second)), 16, [&](std::size_t begin, std::size_t end) {
            for (std::size_t b = begin; b < end; ++b)
                for (int a = 0; a < n(first); ++a) {
                    const auto own = [&](int s, int i, int j) {
                        return density.values[static_cast<std::size_t>(s) * from[main] + static_cast<std::size_t>(i) * from[first] + static_cast<std::size_t>(j) * from[second]];
                    };
                    // Half of the step lies in this cell, half in the slice before, where the depth is met between four cells.
                    float sum = own(slice, a, static_cast<int>(b)) * 0.5f * step;
                    if (k > 0) {
                        const float u = static_cast<float>(a) + da, v = static_cast<float>(b) + db;
                        const int iu = static_cast<int>(std::floor(u)), iv = static_cast<int>(std::floor(v));
                        const float fu = u - static_cast<float>(iu), fv = v - static_cast<float>(iv);
                        for (int q = 0; q < 4; ++q) {
                            const int i = iu + (q & 1), j = iv + (q >> 1);
                            if (i < 0 || j < 0 || i >= n(first) || j >= n(second))
                                continue; // outside there is nothing on the way
                            const float w = (q & 1 ? fu : 1.f - fu) * (q >> 1 ? fv : 1.f - fv);
                            const float beyond = column_[static_cast<std::size_t>(before) * stride[main] + static_cast<std::size_t>(i) * stride[first] + static_cast<std::size_t>(j) * stride[second]];
                            sum += w * (beyond + own(before, i, j) * 0.5f * step);
                        }
                    }
                    column_[static_cast<std::size_t>(slice) * stride[main] + static_cast<std::size_t>(a) * stride[first] + b * stride[second]] = sum;
                }
        });
    }
    // The last value once more at every axis' end, so that reading between cells needs no bounds.
    for (int z = 0; z <= n(2); ++z)
        for (int y = 0; y <= n(1); ++y)
            for (int x = 0; x <= n(0); ++x)
                if (x == n(0) || y == n(1) || z == n(2))
                    column_[static_cast<std::size_t>(x) + static_cast<std::size_t>(y) * stride[1] + static_cast<std::size_t>(z) * stride[2]] =
                        column_[static_cast<std::size_t>(std::min(x, n(0) - 1)) + static_cast<std::size_t>(std::min(y, n(1) - 1)) * stride[1] +
                                static_cast<std::size_t>(std::min(z, n(2) - 1)) * stride[2]];
}

F8 VolumeShadow::column8(const Volume& v, F8 x, F8 y, F8 z) const
{
    Place8 p = through(v.toIndex, x, y, z);
    p = {(p.x - origin_.x) * perCell_, (p.y - origin_.y) * perCell_, (p.z - origin_.z) * perCell_};
    // To where the way to the sun enters the lattice.
    F8 t0 = f8(0.f), t1 = f8(1e9f);
    const auto slab = [&](F8 o, float d, int cells) {
        const float high = static_cast<float>(cells);
        if (std::abs(d) < 1e-9f) {
            const I8 out = (o < 0.f) | (o > high);
            t1 = select(out, f8(-1.f), t1);
            return;
        }
        const F8 a = -o * (1.f / d), b = (high - o) * (1.f / d);
        t0 = max8(t0, min8(a, b));
        t1 = min8(t1, max8(a, b));
    };
    slab(p.x, towardSun_.x, size_[0]);
    slab(p.y, towardSun_.y, size_[1]);
    slab(p.z, towardSun_.z, size_[2]);
    const I8 met = t1 > t0;
    if (!any(met))
        return f8(0.f);
    // Values stand at cell centres.
    const auto place = [&](F8 o, float d, int cells) { return clamp8(o + t0 * d - 0.5f, 0.f, static_cast<float>(cells) - 1.f); };
    const F8 u = select(met, place(p.x, towardSun_.x, size_[0]), f8(0.f)), w = select(met, place(p.y, towardSun_.y, size_[1]), f8(0.f)),
             q = select(met, place(p.z, towardSun_.z, size_[2]), f8(0.f));
    const I8 iu = toInt(u), iw = toInt(w), iq = toInt(q);
    const F8 fu = u - toFloat(iu), fw = w - toFloat(iw), fq = q - toFloat(iq);
    const int row = size_[0] + 1, slice = row * (size_[1] + 1);
    const I8 at = iu + iw * row + iq * slice;
    F8 a, b, c, d, e, f, g, h;
    pairs8(column_.data(), at, a, b);
    pairs8(column_.data() + row, at, c, d);
    pairs8(column_.data() + slice, at, e, f);
    pairs8(column_.data() + slice + row, at, g, h);
    const F8 near = (a + (b - a) * fu) * (1.f - fw) + (c + (d - c) * fu) * fw, far = (e + (f - e) * fu) * (1.f - fw) + (g + (h - g) * fu) * fw;
    // From the middle of the entry cell on: the half cell before it is there already.
    return select(met, near + (far - near) * fq, f8(0.f));
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
    return depth * (reach / looks) + v.shadow->column8(v, x + s.x * reach, y + s.y * reach, z + s.z * reach) * v.sigmaT;
}
} // namespace hygros::media
