#include "render/volume_light.h"

#include "base/parallel.h"
#include "base/random.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
namespace {
/// Real spherical harmonics up to the second order.
inline void harmonics(const Vec3& d, float y[9])
{
    y[0] = 0.2820948f;
    y[1] = 0.4886025f * d.y;
    y[2] = 0.4886025f * d.z;
    y[3] = 0.4886025f * d.x;
    y[4] = 1.0925484f * d.x * d.y;
    y[5] = 1.0925484f * d.y * d.z;
    y[6] = 0.3153916f * (3.f * d.z * d.z - 1.f);
    y[7] = 1.0925484f * d.x * d.z;
    y[8] = 0.5462742f * (d.x * d.x - d.y * d.y);
}
Vec3 directionOf(float u, float v)
{
    const float z = 1.f - 2.f * u, r = std::sqrt(std::max(0.f, 1.f - z * z)), a = 2.f * pi * v;
    return {r * std::cos(a), z, r * std::sin(a)};
}
Vec3 turned(const Vec3& d, float cosine, float u)
{
    Vec3 a, b;
    frameAround(d, a, b);
    const float sine = std::sqrt(std::max(0.f, 1.f - cosine * cosine)), angle = 2.f * pi * u;
    return (a * (sine * std::cos(angle)) + b * (sine * std::sin(angle)) + d * cosine).normalized();
}
/// Where a ray (of index space, in metres along it) is inside a box.
bool crosses(const Box3& box, const Vec3& o, const Vec3& d, float& t0, float& t1)
{
    for (int a = 0; a < 3; ++a) {
        const float inverse = 1.f / (std::abs(d[a]) < 1e-9f ? 1e-9f : d[a]), u = (box.min[a] - o[a]) * inverse, v = (box.max[a] - o[a]) * inverse;
        t0 = std::max(t0, std::min(u, v));
        t1 = std::min(t1, std::max(u, v));
    }
    return t0 < t1;
}
constexpr int sunSource = 0, skySource = 1, ownSource = 2;
} // namespace

VolumeLight::VolumeLight(std::shared_ptr<const shot::Shot> shot, std::size_t index) : shot_(std::move(shot)), index_(index), volume_(shot_->volumes[index])
{
    const Box3& box = volume_.density->bounds();
    const Vec3 extent = box.max - box.min;
    origin_ = box.min;
    cell_ = std::max({extent.x, extent.y, extent.z}) / most;
    for (int a = 0; a < 3; ++a)
        size_[static_cast<std::size_t>(a)] = std::clamp(static_cast<int>(std::ceil(extent[a] / cell_ - 1e-3f)), 1, most);
    const Mat4& m = volume_.toIndex;
    const float determinant = std::abs(m[0][0] * (m[1][1] * m[2][2] - m[1][2] * m[2][1]) - m[0][1] * (m[1][0] * m[2][2] - m[1][2] * m[2][0]) + m[0][2] * (m[1][0] * m[2][1] - m[1][1] * m[2][0]));
    cellVolume_ = cell_ * cell_ * cell_ / determinant;
    centre_ = (volume_.bounds.min + volume_.bounds.max) * 0.5f;
    radius_ = std::max(1e-3f, (volume_.bounds.max - volume_.bounds.min).length() * 0.5f);
    // ∫ p·P_l: by 4096 midpoints over the angle.
    constexpr int steps = 4096;
    double total[3] = {};
    for (int i = 0; i < steps; ++i) {
        const float angle = pi * (static_cast<float>(i) + 0.5f) / steps, c = std::cos(angle);
        const double p = static_cast<double>(volume_.phase(c)) * std::sin(static_cast<double>(angle)) * 2.0 * 3.14159265358979 * (3.14159265358979 / steps);
        total[0] += p;
        total[1] += p * static_cast<double>(c);
        total[2] += p * static_cast<double>(1.5f * c * c - 0.5f);
    }
    moments_[1] = static_cast<float>(total[1] / total[0]);
    moments_[2] = static_cast<float>(total[2] / total[0]);
    const std::size_t count = static_cast<std::size_t>(size_[0]) * static_cast<std::size_t>(size_[1]) * static_cast<std::size_t>(size_[2]);
    sums_.assign(count * 3 * terms, 0.f);
    toEye_.assign(count * 12, 0.f);
    open_.assign(count, 0.f);
    if (volume_.glow.heat && volume_.glow.table) {
        // What every cell gives off, from a few places in it.
        glowSums_.resize(count);
        const Mat4 toWorld = volume_.toIndex.inverse();
        parallelFor(count, [&](std::size_t c) {
            const Vec3 corner(static_cast<float>(c % static_cast<std::size_t>(size_[0])), static_cast<float>(c / static_cast<std::size_t>(size_[0]) % static_cast<std::size_t>(size_[1])),
                              static_cast<float>(c / static_cast<std::size_t>(size_[0] * size_[1])));
            Random random(hash32(static_cast<std::uint32_t>(c), 71u));
            F8 all = f8(0.f);
            for (int k = 0; k < 4; ++k) {
                F8 x, y, z;
                for (int i = 0; i < lanes; ++i) {
                    const Vec3 p = (origin_ + (corner + Vec3(random.next(), random.next(), random.next())) * cell_) * toWorld;
                    x[i] = p.x, y[i] = p.y, z[i] = p.z;
                }
                F8 l[3];
                media::glow8(volume_, x, y, z, l);
                all += l[0] * 0.2126f + l[1] * 0.7152f + l[2] * 0.0722f;
            }
            glowSums_[c] = sum(all) * (1.f / 32.f);
        });
        float running = 0.f;
        for (float& v : glowSums_)
            v = running += v;
        if (running <= 0.f)
            glowSums_.clear();
    }
}

bool VolumeLight::serves(const shot::Shot& shot, std::size_t index) const
{
    const media::Volume& other = shot.volumes[index];
    const auto sameLamps = [&] {
        return std::equal(shot_->lamps.begin(), shot_->lamps.end(), shot.lamps.begin(), shot.lamps.end(), [&](const light::Lamp& a, const light::Lamp& b) {
            return light::sameBeam(a, b) && a.intensity == b.intensity && a.toAir == b.toAir && a.volumeReach == b.volumeReach;
        });
    };
    return volume_.sameAs(other) && shot_->sky == shot.sky && shot_->scene == shot.scene && sameLamps();
}

std::size_t VolumeLight::cellOf(const Vec3& p) const
{
    const auto at = [&](int a) { return std::clamp(static_cast<int>((p[a] - origin_[a]) / cell_), 0, size_[static_cast<std::size_t>(a)] - 1); };
    return static_cast<std::size_t>((at(2) * size_[1] + at(1)) * size_[0] + at(0));
}

void VolumeLight::photon(int source, Random& random, Vec3 o, Vec3 d, Vec3 weight, std::vector<float>& to) const
{
    const Vec3 whole = weight;
    bool scattered = source != sunSource;
    for (int event = 0; event < 2000; ++event) {
        float t0 = 0.f, t1 = 1e9f;
        if (!crosses(volume_.density->bounds(), volume_.indexOf(o), volume_.indexDirection(d), t0, t1))
            return;
        // The flight to the next collision.
        float end = t1;
        bool collided = false;
        media::overVolume(volume_, o, d, t0, t1, [&](float a, float b, float bound) {
            for (float t = a;;) {
                t -= std::log(1.f - random.next()) / bound;
                if (t >= b)
                    return true;
                if (random.next() * bound < media::extinction(volume_, o + d * t)) {
                    end = t;
                    collided = true;
                    return false;
                }
            }
        });
        if (scattered) {
            const float at = t0 + (end - t0) * random.next();
            const Vec3 share = weight * ((end - t0) / cellVolume_);
            float y[9];
            harmonics(d, y);
            const int first = source == sunSource ? 0 : source == skySource ? sunTerms : sunTerms + otherTerms, count = source == sunSource ? sunTerms : otherTerms;
            float* cell = &to[cellOf(volume_.indexOf(o + d * at)) * 3 * terms];
            for (int c = 0; c < 3; ++c)
                for (int k = 0; k < count; ++k)
                    cell[c * terms + first + k] += share[c] * y[k];
        }
        if (!collided)
            return;
        o += d * end;
        weight *= volume_.albedo;
        scattered = true;
        const float left = maxComponent(weight), before = maxComponent(whole);
        if (left < 0.1f * before) {
            if (random.next() * 0.2f * before >= left)
                return;
            weight *= 0.2f * before / left;
        }
        d = turned(d, media::samplePhase(volume_.phase, [&] { return random.next(); }), random.next());
    }
}

void VolumeLight::fromSun(const AirModel& air, int count, Random& random, std::vector<float>& to) const
{
    const Vec3 sun = shot_->sky->sunDirection(), d = -sun;
    Vec3 a, b;
    frameAround(sun, a, b);
    const Vec3 share = shot_->sky->sunIrradiance() * (volume_.bySun * pi * radius_ * radius_ / static_cast<float>(count));
    const float turn = random.next(), shift = random.next();
    for (int i = 0; i < count; ++i) {
        // Evenly over the disc that the ball shows the sun (a golden-ratio spiral).
        const float r = radius_ * std::sqrt((static_cast<float>(i) + shift) / static_cast<float>(count)), angle = 2.f * pi * std::fmod(turn + 0.61803399f * static_cast<float>(i), 1.f);
        const Vec3 o = centre_ + a * (r * std::cos(angle)) + b * (r * std::sin(angle)) - d * (1.5f * radius_);
        float t0 = 0.f, t1 = 1e9f;
        if (!crosses(volume_.density->bounds(), volume_.indexOf(o), volume_.indexDirection(d), t0, t1))
            continue;
        const Vec3 p = o + d * t0;
        if (shot_->shadowsOfSun().occluded(p, sun, 1e6f))
            continue;
        photon(sunSource, random, p, d, share * std::exp(-air.sunDepthBeside(index_, p)), to);
    }
}

void VolumeLight::fromSky(int count, Random& random, std::vector<float>& to) const
{
    const float share = volume_.bySky * volume_.ambient * 4.f * pi * pi * radius_ * radius_ / static_cast<float>(count);
    const Vec3 ground = shot_->sky->groundRadiance();
    for (int i = 0; i < count; ++i) {
        const Vec3 from = directionOf((static_cast<float>(i) + random.next()) / static_cast<float>(count), random.next()), d = -from;
        Vec3 a, b;
        frameAround(from, a, b);
        const float r = radius_ * std::sqrt(random.next()), angle = 2.f * pi * random.next();
        const Vec3 o = centre_ + a * (r * std::cos(angle)) + b * (r * std::sin(angle)) + from * (1.5f * radius_);
        float t0 = 0.f, t1 = 1e9f;
        if (!crosses(volume_.density->bounds(), volume_.indexOf(o), volume_.indexDirection(d), t0, t1))
            continue;
        const Vec3 p = o + d * t0;
        if (from.y > 0.f && shot_->scene->occluded(p, from, 1e6f))
            continue;
        photon(skySource, random, p, d, (from.y > 0.f ? shot_->sky->radiance(from) : ground) * share, to);
    }
}

void VolumeLight::fromLamp(const light::Lamp& lamp, int count, const AirModel& air, Random& random, std::vector<float>& to) const
{
    if (lamp.toAir <= 0.f || lamp.reachOfVolume(index_) <= 0.f)
        return;
    const float strength = lamp.toAir * lamp.reachOfVolume(index_);
    const Vec3 toCentre = centre_ - lamp.position;
    const float distance = toCentre.length();
    const bool parallel = lamp.shape == light::Lamp::Shape::Parallel, inside = !parallel && distance < radius_ * 1.02f;
    const Vec3 axis = parallel ? lamp.direction : inside ? Vec3(0, 1, 0) : toCentre / distance;
    Vec3 a, b;
    frameAround(axis, a, b);
    const float cosine = inside ? -1.f : std::sqrt(std::max(0.f, 1.f - radius_ * radius_ / (distance * distance)));
    const float solid = 2.f * pi * (1.f - cosine);
    for (int i = 0; i < count; ++i) {
        Vec3 o, d, share;
        light::LampSample s;
        const float u = (static_cast<float>(i) + random.next()) / static_cast<float>(count), v = random.next(), r1 = random.next(), r2 = random.next();
        if (parallel) {
            const float r = lamp.radius * std::sqrt(u);
            o = lamp.position + a * (r * std::cos(2.f * pi * v)) + b * (r * std::sin(2.f * pi * v));
            d = axis;
            if (!light::sampleLamp(lamp, o + d * 0.01f, r1, r2, s))
                continue;
            share = s.irradiance * (pi * lamp.radius * lamp.radius);
        } else {
            // Toward a far place in that direction: what arrives there, times the square of the way, is what leaves the source.
            const float c = 1.f - u * (1.f - cosine), sine = std::sqrt(std::max(0.f, 1.f - c * c));
            const Vec3 w = axis * c + a * (sine * std::cos(2.f * pi * v)) + b * (sine * std::sin(2.f * pi * v));
            const float far = std::max(distance, radius_);
            const Vec3 target = lamp.position + w * far;
            if (!light::sampleLamp(lamp, target, r1, r2, s))
                continue;
            d = -s.way;
            o = target + s.way * far;
            share = s.irradiance * (far * far * solid);
        }
        float t0 = 0.f, t1 = 1e9f;
        if (!crosses(volume_.density->bounds(), volume_.indexOf(o), volume_.indexDirection(d), t0, t1))
            continue;
        const Vec3 p = o + d * t0;
        if (lamp.shadows != light::Lamp::Shadows::None) {
            if (t0 > 0.f && shot_->shadowsOf(lamp).occluded(p, -d, std::max(0.f, t0 - light::clearanceOf(lamp))))
                continue;
            if (lamp.shadows == light::Lamp::Shadows::Full && t0 > 0.f)
                share *= std::exp(-air.depthBetween(o, p));
        }
        share *= lamp.intensity;
        photon(ownSource, random, p, d, share * (strength / static_cast<float>(count)), to);
    }
}

void VolumeLight::fromGlow(int count, Random& random, std::vector<float>& to) const
{
    const Mat4 toWorld = volume_.toIndex.inverse();
    const float whole = glowSums_.back();
    for (int i = 0; i < count; ++i) {
        const float u = (static_cast<float>(i) + random.next()) / static_cast<float>(count) * whole;
        const auto at = static_cast<std::size_t>(std::min<std::ptrdiff_t>(std::upper_bound(glowSums_.begin(), glowSums_.end(), u) - glowSums_.begin(), static_cast<std::ptrdiff_t>(glowSums_.size()) - 1));
        const float own = glowSums_[at] - (at > 0 ? glowSums_[at - 1] : 0.f);
        if (own <= 0.f)
            continue;
        const Vec3 corner(static_cast<float>(at % static_cast<std::size_t>(size_[0])), static_cast<float>(at / static_cast<std::size_t>(size_[0]) % static_cast<std::size_t>(size_[1])),
                          static_cast<float>(at / static_cast<std::size_t>(size_[0] * size_[1])));
        const Vec3 p = (origin_ + (corner + Vec3(random.next(), random.next(), random.next())) * cell_) * toWorld;
        F8 l[3];
        media::glow8(volume_, f8(p.x), f8(p.y), f8(p.z), l);
        const Vec3 given(l[0][0], l[1][0], l[2][0]);
        if (maxComponent(given) <= 0.f)
            continue;
        photon(ownSource, random, p, directionOf(random.next(), random.next()), given * (4.f * pi * cellVolume_ * whole / (own * static_cast<float>(count))), to);
    }
}

void VolumeLight::add(const AirModel& air, int photons)
{
    if (volume_.density->empty())
        return;
    // A fixed number of parts, added in order: the same light whatever the number of threads.
    constexpr std::size_t parts = 4;
    std::vector<std::vector<float>> own(parts, std::vector<float>(sums_.size(), 0.f));
    const int each = std::max(1, photons / static_cast<int>(parts));
    const auto weight = static_cast<float>(each);
    parallelFor(parts, [&](std::size_t part) {
        Random random(hash32(static_cast<std::uint32_t>(batches_) * static_cast<std::uint32_t>(parts) + static_cast<std::uint32_t>(part), 4177u));
        if (shot_->sky && volume_.bySun > 0.f)
            fromSun(air, each, random, own[part]);
        if (shot_->sky && volume_.bySky * volume_.ambient > 0.f)
            fromSky(each * 2 / 3, random, own[part]);
        for (const light::Lamp& lamp : shot_->lamps)
            fromLamp(lamp, std::max(64, each / 4 / static_cast<int>(std::max<std::size_t>(1, shot_->lamps.size() / 4))), air, random, own[part]);
        if (!glowSums_.empty())
            fromGlow(each / 2, random, own[part]);
    });
    for (const std::vector<float>& part : own)
        for (std::size_t i = 0; i < sums_.size(); ++i)
            sums_[i] += part[i] * (weight / parts);
    if (shot_->sky && volume_.bySun > 0.f) {
        // And one look to the sun from every cell: what of the set and of the air stands in its way.
        const Mat4 toWorld = volume_.toIndex.inverse();
        const Vec3 sun = shot_->sky->sunDirection();
        parallelFor(static_cast<std::size_t>(size_[2] * size_[1]), [&](std::size_t row) {
            Random random(hash32(static_cast<std::uint32_t>(row), static_cast<std::uint32_t>(batches_), 9176u));
            const int y = static_cast<int>(row) % size_[1], z = static_cast<int>(row) / size_[1];
            for (int x = 0; x < size_[0]; ++x) {
                const Vec3 p = (origin_ + (Vec3(static_cast<float>(x), static_cast<float>(y), static_cast<float>(z)) + Vec3(random.next(), random.next(), random.next())) * cell_) * toWorld;
                const bool lit = !shot_->shadowsOfSun().occluded(p, sun, 1e6f);
                open_[row * static_cast<std::size_t>(size_[0]) + static_cast<std::size_t>(x)] += lit ? weight * std::exp(-air.sunDepthBeside(index_, p)) : 0.f;
            }
        });
    }
    ++batches_;
    photons_ += weight;
}

void VolumeLight::lookFrom(const Vec3& eye)
{
    const Mat4 toWorld = volume_.toIndex.inverse();
    const float share = 1.f / std::max(1.f, photons_);
    parallelFor(static_cast<std::size_t>(size_[2]), [&](std::size_t z) {
        for (int y = 0; y < size_[1]; ++y)
            for (int x = 0; x < size_[0]; ++x) {
                const std::size_t cell = (z * static_cast<std::size_t>(size_[1]) + static_cast<std::size_t>(y)) * static_cast<std::size_t>(size_[0]) + static_cast<std::size_t>(x);
                const Vec3 p = (origin_ + Vec3(static_cast<float>(x) + 0.5f, static_cast<float>(y) + 0.5f, static_cast<float>(z) + 0.5f) * cell_) * toWorld;
                const Vec3 way = (eye - p).normalized();
                float basis[9];
                harmonics(way, basis);
                toEye_[cell * 12 + 9] = open_[cell] * share;
                for (int k = 1; k < 9; ++k)
                    basis[k] *= moments_[k < 4 ? 1 : 2];
                for (int c = 0; c < 3; ++c) {
                    const float* from = &sums_[(cell * 3 + static_cast<std::size_t>(c)) * terms];
                    float l[3] = {};
                    for (int k = 0; k < sunTerms; ++k)
                        l[0] += from[k] * basis[k];
                    for (int k = 0; k < otherTerms; ++k) {
                        l[1] += from[sunTerms + k] * basis[k];
                        l[2] += from[sunTerms + otherTerms + k] * basis[k];
                    }
                    for (int s = 0; s < 3; ++s)
                        toEye_[cell * 12 + static_cast<std::size_t>(s * 3 + c)] = std::max(0.f, l[s]) * share * volume_.albedo[c];
                }
            }
    });
}

void VolumeLight::at8(F8 x, F8 y, F8 z, Scattered8& out) const
{
    const Mat4& m = volume_.toIndex;
    const auto place = [&](int a) {
        const F8 p = x * m[0][a] + y * m[1][a] + z * m[2][a] + m[3][a];
        return clamp8((p - origin_[a]) * (1.f / cell_) - 0.5f, 0.f, std::max(0.f, static_cast<float>(size_[static_cast<std::size_t>(a)]) - 1.001f));
    };
    const F8 u = place(0), v = place(1), w = place(2);
    const I8 iu = toInt(u), iv = toInt(v), iw = toInt(w);
    const F8 fu = u - toFloat(iu), fv = v - toFloat(iv), fw = w - toFloat(iw);
    const int dx = size_[0] > 1 ? 12 : 0, dy = size_[1] > 1 ? 12 * size_[0] : 0, dz = size_[2] > 1 ? 12 * size_[0] * size_[1] : 0;
    alignas(32) float all[lanes][12];
    for (int i = 0; i < lanes; ++i) {
        const float* at = &toEye_[static_cast<std::size_t>((iw[i] * size_[1] + iv[i]) * size_[0] + iu[i]) * 12];
        F8 low = f8(0.f);
        __m128 high = _mm_setzero_ps();
        for (int k = 0; k < 8; ++k) {
            const float weight = (k & 1 ? fu[i] : 1.f - fu[i]) * (k & 2 ? fv[i] : 1.f - fv[i]) * (k & 4 ? fw[i] : 1.f - fw[i]);
            const float* cell = at + (k & 1 ? dx : 0) + (k & 2 ? dy : 0) + (k & 4 ? dz : 0);
            low += load8(cell) * weight;
            high = _mm_add_ps(high, _mm_mul_ps(_mm_loadu_ps(cell + 8), _mm_set1_ps(weight)));
        }
        store8(all[i], low);
        _mm_store_ps(all[i] + 8, high);
    }
    for (int i = 0; i < lanes; ++i)
        out.open[i] = all[i][9];
    for (int c = 0; c < 3; ++c)
        for (int i = 0; i < lanes; ++i) {
            out.sun[c][i] = all[i][c];
            out.sky[c][i] = all[i][3 + c];
            out.own[c][i] = all[i][6 + c];
        }
}
} // namespace hygros::render
