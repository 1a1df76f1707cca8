#include "matter.h"

#include "base/parallel.h"
#include "base/random.h"
#include "media/noise.h"
#include "media/vdb.h"

#include <cmath>
#include <functional>

namespace hygros::demo {
namespace {
using media::gradientNoise8;

F8 ramp(F8 u)
{
    const F8 c = clamp8(u, 0.f, 1.f);
    return c * c * (3.f - 2.f * c);
}
/// Rounded bulges, 0…1: one less the noise's size, in three octaves.
F8 bulges(F8 x, F8 y, F8 z, float size, std::uint32_t seed)
{
    F8 total = f8(0.f);
    float amplitude = 0.55f, f = 1.f / size;
    for (std::uint32_t o = 0; o < 4; ++o) {
        total += (1.f - min8(f8(1.f), abs8(gradientNoise8(x * f, y * f, z * f, seed + o)) * 2.4f)) * amplitude;
        amplitude *= 0.5f;
        f *= 2.07f;
    }
    return total;
}
struct Sample8 {
    F8 density{}, heat{};
};
using Field = std::function<Sample8(F8, F8, F8)>;

/// Fills the box from `low` on with the field, values at voxel centres.
void write(const std::filesystem::path& file, const Vec3& low, const Vec3& size, float voxel, const Field& field,
           bool hot)
{
    media::VdbOut density, heat;
    density.name = "density";
    heat.name = "temperature";
    for (int a = 0; a < 3; ++a)
        density.size[static_cast<std::size_t>(a)] = static_cast<int>(std::ceil(size[a] / voxel));
    heat.size = density.size;
    const auto [nx, ny, nz] = density.size;
    density.values.resize(static_cast<std::size_t>(nx) * static_cast<std::size_t>(ny) * static_cast<std::size_t>(nz));
    heat.values.resize(hot ? density.values.size() : 0);
    parallelFor(static_cast<std::size_t>(nx), [&, ny = ny, nz = nz](std::size_t i) {
        for (int j = 0; j < ny; ++j)
            for (int k = 0; k < nz; k += lanes) {
                F8 z;
                for (int l = 0; l < lanes; ++l)
                    z[l] = low.z + (static_cast<float>(k + l) + 0.5f) * voxel;
                const Sample8 s = field(f8(low.x + (static_cast<float>(i) + 0.5f) * voxel),
                                        f8(low.y + (static_cast<float>(j) + 0.5f) * voxel), z);
                for (int l = 0; l < lanes && k + l < nz; ++l) {
                    const std::size_t at = (i * static_cast<std::size_t>(ny) + static_cast<std::size_t>(j)) *
                                               static_cast<std::size_t>(nz) +
                                           static_cast<std::size_t>(k + l);
                    density.values[at] = s.density[l] < 2e-3f ? 0.f : s.density[l];
                    if (hot)
                        heat.values[at] = s.heat[l] < 300.f ? 0.f : s.heat[l];
                }
            }
    });
    Mat4 place;
    place.setScale(Vec3(voxel));
    Mat4 move;
    move.setTranslation(low + Vec3(0.5f * voxel));
    std::vector<media::VdbOut> out;
    out.push_back(std::move(density));
    if (hot)
        out.push_back(std::move(heat));
    JobControl job;
    media::writeVdb(file, out, place * move, job, true, 0.f);
}

struct Ball {
    Vec3 centre;
    float radius;
};
/// Signed distance to balls, flowing together over `blend` metres.
F8 heap(const std::vector<Ball>& balls, F8 x, F8 y, F8 z, float blend)
{
    F8 d = f8(1e9f);
    for (const Ball& b : balls) {
        const F8 dx = x - b.centre.x, dy = y - b.centre.y, dz = z - b.centre.z;
        const F8 own = sqrt8(dx * dx + dy * dy + dz * dz) - b.radius;
        const F8 h = max8(f8(0.f), blend - abs8(d - own)) * (1.f / blend);
        d = min8(d, own) - h * h * (0.25f * blend);
    }
    return d;
}

void cumulus(const std::filesystem::path& file)
{
    Random random(31);
    std::vector<Ball> balls;
    for (int i = 0; i < 46; ++i) {
        const float a = 2.f * pi * random.next(), r = 78.f * std::sqrt(random.next()),
                    tall = std::exp(-r * r / (46.f * 46.f));
        const float h = random.next() * (18.f + 78.f * tall);
        balls.push_back({Vec3(r * 1.25f * std::cos(a), 12.f + h, r * 0.8f * std::sin(a)),
                         13.f + 13.f * tall * random.next() + 7.f * random.next()});
    }
    write(
        file, Vec3(-135, 0, -95), Vec3(270, 140, 190), 1.1f,
        [&](F8 x, F8 y, F8 z) {
            Sample8 s;
            F8 d = heap(balls, x, y, z, 10.f);
            if (!any(d < 16.f))
                return s;
            d = d - 19.f * (bulges(x, y * 1.1f, z, 36.f, 5) - 0.35f) - 6.f * (bulges(x, y, z, 10.f, 15) - 0.5f) -
                1.8f * (bulges(x, y, z, 3.2f, 25) - 0.5f);
            // A flat base, ragged a little.
            const F8 base = (y - 9.f - 5.f * gradientNoise8(x * 0.03f, f8(0.5f), z * 0.03f, 9)) * (1.f / 7.f);
            s.density = ramp(d * (-1.f / 2.6f)) * ramp(base);
            return s;
        },
        false);
}

struct Column {
    float height, foot, widening, lean, bulge, size, voxel, thinning;
    std::uint32_t seed;
    float heat = 0.f;
};
/// A column of smoke that leans with the wind, widens in proportion to its height and thins as it does.
void column(const std::filesystem::path& file, const Column& c)
{
    const float widest = c.foot + c.widening * c.height + c.bulge;
    const Vec3 low(-widest, 0.f, -widest), size(2.f * widest + c.lean * c.height, c.height, 2.f * widest);
    write(
        file, low, size, c.voxel,
        [&](F8 x, F8 y, F8 z) {
            Sample8 s;
            const F8 u = clamp8(y * (1.f / c.height), 0.f, 1.f), radius = c.foot + c.widening * y;
            const F8 meander = c.lean * c.height * 0.08f *
                               (gradientNoise8(y * (2.3f / c.height), f8(3.7f), f8(0.f), c.seed) * u);
            const F8 dx = x - c.lean * c.height * u * sqrt8(max8(u, f8(1e-6f))) - meander, dz = z - meander;
            const F8 r = sqrt8(dx * dx + dz * dz);
            if (!any(r < radius * 1.9f + c.bulge))
                return s;
            // Bulges rise with the smoke and grow as it widens.
            const F8 scale = 1.f /
                             (0.35f + 0.65f * radius * (1.f / std::max(1e-3f, c.foot + 0.5f * c.widening * c.height)));
            const F8 swell = bulges(dx * scale, y * scale, dz * scale, c.size, c.seed + 3);
            const F8 d = r - radius * (0.5f + 1.05f * (swell - 0.3f));
            const F8 soft = 0.11f * radius + 0.02f;
            const F8 thin = 1.f / (1.f + c.thinning * u * 4.f);
            s.density = ramp(-d / soft) * thin * ramp((1.f - u) * 5.f) * ramp(u * 25.f) * (0.6f + 0.6f * swell);
            if (c.heat > 0.f)
                s.heat = select(s.density > 2e-3f,
                                c.heat * ramp(-d / (radius * 0.7f)) * ramp(1.f - u * 2.2f) * (0.55f + 0.7f * swell),
                                f8(0.f));
            return s;
        },
        c.heat > 0.f);
}

void fireball(const std::filesystem::path& file)
{
    Random random(11);
    std::vector<Ball> balls;
    for (int i = 0; i < 26; ++i) {
        const float a = 2.f * pi * random.next(), r = 2.1f * std::sqrt(random.next());
        balls.push_back(
            {Vec3(r * std::cos(a), 4.4f + 1.5f * random.next(), r * std::sin(a)), 0.7f + 0.8f * random.next()});
    }
    for (int i = 0; i < 7; ++i)
        balls.push_back(
            {Vec3(0.3f * (random.next() - 0.5f), 0.5f + 0.6f * static_cast<float>(i), 0.3f * (random.next() - 0.5f)),
             0.5f + 0.09f * static_cast<float>(i)});
    write(
        file, Vec3(-4.6f, 0, -4.6f), Vec3(9.2f, 9.2f, 9.2f), 0.07f,
        [&](F8 x, F8 y, F8 z) {
            Sample8 s;
            F8 d = heap(balls, x, y, z, 0.7f);
            if (!any(d < 1.6f))
                return s;
            const F8 swell = bulges(x, y, z, 1.5f, 21), fine = bulges(x, y, z, 0.42f, 27);
            d = d - 0.95f * (swell - 0.35f) - 0.22f * (fine - 0.5f);
            s.density = ramp(d * (-1.f / 0.3f)) * (0.35f + 0.65f * swell) * ramp((y - 0.1f) * 2.f);
            // Hottest a little under the surface, between the bulges, cooling upward; the crust is soot.
            const F8 inside = ramp((-d - 0.12f) * (1.f / 0.75f)), crack = ramp((0.62f - swell) * 3.2f);
            s.heat = select(s.density > 2e-3f,
                            2050.f * (0.35f * inside + 0.65f * crack * ramp((-d + 0.05f) * 4.f)) * (1.12f - 0.05f * y) *
                                (0.8f + 0.35f * fine),
                            f8(0.f));
            return s;
        },
        true);
}

void dust(const std::filesystem::path& file)
{
    write(
        file, Vec3(-14, 0, -7), Vec3(28, 7, 14), 0.16f,
        [&](F8 x, F8 y, F8 z) {
            Sample8 s;
            const F8 along = (x + 12.f) * (1.f / 24.f), height = 0.8f + 4.6f * clamp8(along, 0.f, 1.f),
                     across = z / (1.2f + 4.2f * clamp8(along, 0.f, 1.f));
            const F8 swell = bulges(x, y * 1.2f, z, 4.5f, 61);
            const F8 r = sqrt8(across * across + (y / height) * (y / height));
            s.density = ramp((0.95f - r + 0.7f * (swell - 0.45f)) * 1.6f) * ramp(along * 6.f) *
                        ramp((1.f - along) * 2.2f) * (0.25f + swell) * (1.f / (0.5f + 1.6f * clamp8(along, 0.f, 1.f)));
            return s;
        },
        false);
}

void embers(const std::filesystem::path& file)
{
    write(
        file, Vec3(-0.62f, 0, -0.62f), Vec3(1.24f, 0.7f, 1.24f), 0.012f,
        [&](F8 x, F8 y, F8 z) {
            Sample8 s;
            const F8 r = sqrt8(x * x + z * z), lumps = bulges(x, y * 1.4f, z, 0.16f, 81),
                     fine = bulges(x, y, z, 0.045f, 87);
            const F8 bed = 0.2f - 0.34f * r * r + 0.11f * (lumps - 0.4f) - y;
            const F8 coal = ramp(bed * 45.f) * ramp((0.56f - r) * 9.f);
            // A thin breath of smoke above.
            const F8 smoke = ramp((0.3f - r * 0.8f + 0.25f * (lumps - 0.5f)) * 4.f) * ramp((0.68f - y) * 4.f) *
                             ramp(y * 8.f) * 0.012f;
            s.density = coal + smoke;
            s.heat = select(coal > 0.02f,
                            1480.f * ramp((0.86f - fine) * 2.f) * ramp(1.25f - r * 1.9f) * ramp(0.35f + bed * 6.f),
                            f8(0.f));
            return s;
        },
        true);
}
} // namespace

void makeMatter(const std::filesystem::path& folder)
{
    std::filesystem::create_directories(folder);
    cumulus(folder / "cumulus.vdb");
    //                                     height foot widen lean bulge size voxel thinning seed heat
    column(folder / "stack-steam.vdb", {14.f, 0.35f, 0.20f, 0.9f, 1.2f, 2.2f, 0.11f, 3.f, 101});
    column(folder / "oil-smoke.vdb", {30.f, 1.5f, 0.27f, 0.55f, 2.5f, 5.0f, 0.26f, 0.4f, 131, 1150.f});
    column(folder / "wood-smoke.vdb", {12.f, 0.22f, 0.11f, 0.8f, 0.8f, 1.3f, 0.08f, 1.6f, 151});
    column(folder / "coloured-smoke.vdb", {7.f, 0.2f, 0.24f, 0.5f, 0.7f, 1.2f, 0.06f, 0.6f, 171});
    fireball(folder / "fireball.vdb");
    dust(folder / "dust-plume.vdb");
    embers(folder / "embers.vdb");
}
} // namespace hygros::demo
