#include "render/lamp_glow.h"

#include "base/parallel.h"
#include "render/air_kernel.h"

#include <algorithm>
#include <cmath>

namespace hygros::render {
using media::Ray8;

float LampGlow::Axis::place(float u) const { return std::sinh(from + (to - from) * u / static_cast<float>(cells)); }

F8 LampGlow::Axis::at8(F8 v) const
{
    const F8 size = abs8(v), warped = log8(size + sqrt8(size * size + 1.f));
    return (select(v < 0.f, -warped, warped) - from) * (static_cast<float>(cells) / (to - from));
}

int LampGlow::Axis::cell(float v) const
{
    const float u = (std::asinh(v) - from) * (static_cast<float>(cells) / (to - from));
    return u >= 0.f && u < static_cast<float>(cells) ? static_cast<int>(u) : -1;
}

LampGlow::LampGlow(const AirModel& air, std::size_t lamp, const LampGlow* before) : lamp_(lamp)
{
    const shot::Shot& shot = air.shot();
    if (shot.sky && !shot.sky->panorama()) {
        ground_ = shot::groundLevel(shot);
        groundAlbedo_ = shot.sky->settings().groundAlbedo;
    }
    const AirModel::Glow& glow = air.glowOf(lamp);
    centre_ = glow.centre;
    reach_ = AirModel::glowReach;
    // Distances are counted in widths of the finest cells.
    finest_ = std::max(0.4f, 2.f * shot.lamps[lamp].radius);
    floor_ = std::clamp(glow.lowest - centre_.y, -reach_, -0.2f);
    const float end = std::asinh(reach_ / finest_);
    axis_[0] = axis_[2] = {-end, end, side};
    axis_[1] = {std::asinh(std::min(-0.5f, floor_ / finest_)), end, high};
    // How diffusion falls off, between two and ten metres.
    F8 near[3], far8[3], unused;
    F8 cosines, sines;
    for (int i = 0; i < lanes; ++i) {
        cosines[i] = std::cos(0.25f * pi * static_cast<float>(i));
        sines[i] = std::sin(0.25f * pi * static_cast<float>(i));
    }
    const auto around = [&](float r, F8 to[3]) {
        air.diffused(lamp, centre_.x + cosines * r, f8(centre_.y), centre_.z + sines * r, to, unused);
    };
    around(2.f, near);
    around(10.f, far8);
    const float soft = 0.5f * finest_;
    fall_ = std::clamp(
        std::log(std::max(1e-30f, sum(near[1])) * (2.f + soft) / (std::max(1e-30f, sum(far8[1])) * (10.f + soft))) /
            8.f,
        0.f, 2.f);
    room_.resize(cells());
    diffused_.resize(cells());
    prior_.assign(cells() * stride, 0.f);
    for (std::size_t cell = 0; cell < cells(); ++cell) {
        const Vec3 corner = placeIn(cell, 0.f, 0.f, 0.f), width = placeIn(cell, 1.f, 1.f, 1.f) - corner;
        float mean = 0.f;
        constexpr int places = 64;
        for (int k = 0; k < places; ++k) {
            const auto at = [](int i) { return (static_cast<float>(i & 3) + 0.5f) * 0.25f; };
            mean += shape(corner + width * Vec3(at(k), at(k >> 2), at(k >> 4)));
        }
        room_[cell] = width.x * width.y * width.z * mean / places;
    }
    for (std::size_t first = 0; first < cells(); first += lanes) {
        F8 x, y, z;
        for (int i = 0; i < lanes; ++i) {
            const Vec3 p = middleOf(first + static_cast<std::size_t>(i));
            x[i] = p.x, y[i] = p.y, z[i] = p.z;
        }
        F8 fluence[3], outward;
        air.diffused(lamp, x, y, z, fluence, outward);
        for (int i = 0; i < lanes; ++i) {
            const std::size_t cell = first + static_cast<std::size_t>(i);
            float* to = &prior_[cell * stride];
            const Vec3 l = Vec3(fluence[0][i], fluence[1][i], fluence[2][i]) * shot.lamps[lamp].toAir;
            const float inverse = 1.f / shape(middleOf(cell));
            const Vec3 away = Vec3(x[i], y[i], z[i]) - centre_;
            const Vec3 flux = away * (luminance(l) * outward[i] / (3.f * std::max(1e-3f, away.length())));
            for (int c = 0; c < 3; ++c) {
                to[c] = l[c] * inverse;
                for (int way = 0; way < 2; ++way)
                    to[3 + 2 * c + way] = std::max(0.f, 0.25f * luminance(l) + (way ? 0.5f : -0.5f) * flux[c]) *
                                          inverse;
            }
            diffused_[cell] = luminance(l);
            if (before && before->centre_ == centre_ && before->floor_ == floor_ && before->photons_ > 0.0) {
                // What was found out about the air before, as far as it can be told from diffusion.
                const float was = before->diffused_[cell];
                const float scale = was > 1e-12f ? std::clamp(diffused_[cell] / was, 0.05f, 20.f) : 1.f;
                for (std::size_t v = 0; v < used; ++v)
                    to[v] = before->held_[cell * stride + v] * (scale * before->shape(middleOf(cell)) * inverse);
            }
        }
    }
    held_ = prior_;
    sums_.assign(cells() * stride, 0.f);
}

Vec3 LampGlow::placeIn(std::size_t cell, float x, float y, float z) const
{
    return centre_ + Vec3(axis_[0].place(static_cast<float>(cell % side) + x),
                          axis_[1].place(static_cast<float>(cell / side % high) + y),
                          axis_[2].place(static_cast<float>(cell / (side * high)) + z)) *
                         finest_;
}

float LampGlow::shape(const Vec3& p) const
{
    const float r = (p - centre_).length();
    return std::exp(-fall_ * r) / (r + 0.5f * finest_);
}

void LampGlow::deposit(const Vec3& p, const Vec3& d, const Vec3& weight, std::vector<float>& to) const
{
    const Vec3 own = (p - centre_) / finest_;
    const int x = axis_[0].cell(own.x), y = axis_[1].cell(own.y), z = axis_[2].cell(own.z);
    if (x < 0 || y < 0 || z < 0)
        return;
    float* at = &to[index(x, y, z) * stride];
    const float bright = luminance(weight);
    for (int c = 0; c < 3; ++c) {
        at[c] += weight[c];
        at[d[c] < 0.f ? 3 + 2 * c : 4 + 2 * c] += bright * std::abs(d[c]);
    }
}

void LampGlow::follow(const AirModel& air, const Flights& flights, const SurfaceSampler& sampler, Random& random,
                      Vec3 o, Vec3 d, Vec3 weight, std::vector<float>& to) const
{
    const shot::Shot& shot = air.shot();
    const light::Lamp& lamp = shot.lamps[lamp_];
    const float whole = std::max(1e-30f, maxComponent(weight)), outside = 2.5f * reach_;
    bool turned = false, first = true;
    constexpr int most = 200;
    for (int event = 0; event < most; ++event) {
        // To where it leaves the region; what comes back from farther is left out.
        const Vec3 v = o - centre_;
        const float b = v.dot(d), root = b * b - v.length2() + outside * outside;
        if (root <= 0.f)
            return;
        float limit = -b + std::sqrt(root);
        if (limit <= 0.f)
            return;
        geometry::Hit hit;
        bool met = false;
        if (first && lamp.shadows == light::Lamp::Shadows::None)
            ;
        else if (first) // its holder does not shade it
            met = shot.shadowsOf(lamp).blocked(o + d * light::clearanceOf(lamp), d, limit, hit) &&
                  (hit.t += light::clearanceOf(lamp), true);
        else
            met = sampler.meets(o, d, hit) && hit.t < limit;
        if (met)
            limit = std::min(limit, hit.t);
        // Beyond the set the air lies on matte ground.
        const bool onGround = !met && d.y < -1e-6f && o.y > ground_ && (o.y - ground_) / -d.y < limit;
        if (onGround)
            limit = (o.y - ground_) / -d.y;
        Flights::Collision at;
        const bool collides = flights.collide(o, d, limit, false, weight, random, at);
        const float way = collides ? at.t : limit;
        if (turned) {
            // Fluence is the sum of ways by volume: some places speak for this one, more for a long one.
            const int places = std::clamp(static_cast<int>(way * 0.3f), 2, 8);
            for (int k = 0; k < places; ++k)
                deposit(o + d * (way * (static_cast<float>(k) + random.next()) / static_cast<float>(places)), d,
                        weight * (way / static_cast<float>(places)), to);
        }
        if (collides) {
            const Vec3 p = o + d * at.t;
            weight *= flights.opticsAt(at.scatterer, p, false).albedo;
            const media::Phase& phase = flights.phase(at.scatterer);
            o = p;
            const float kept = std::max(0.f, phase.forwardShare());
            if (random.next() >= kept) {
                if (first) // what it reaches of media counts where the eye looks at them
                    weight *= lamp.toAir;
                Vec3 a, c;
                frameAround(d, a, c);
                // The rest of the phase function, by its mean cosine.
                const float cosine = media::sampleHenyeyGreenstein((phase.meanCosine() - kept) / (1.f - kept),
                                                                   random.next()),
                            sine = std::sqrt(std::max(0.f, 1.f - cosine * cosine)), turn = 2.f * pi * random.next();
                d = d * cosine + a * (sine * std::cos(turn)) + c * (sine * std::sin(turn));
                turned = true;
                first = false;
            }
        } else if (met) {
            if (hit.matte)
                return;
            const Brdf brdf(*hit.material,
                            SurfaceSampler::baseColour(hit, 0.02f, hit.t, std::max(0.05f, -d.dot(hit.normal))));
            weight *= brdf.diffuse;
            if (first)
                weight *= lamp.toDiffuse * lamp.reachOfSet(hit.set);
            o += d * hit.t;
            o += hit.geometricNormal * (1e-4f + 2e-6f * (std::abs(o.x) + std::abs(o.y) + std::abs(o.z)));
            d = cosineDirection(hit.normal, random.next(), random.next());
            if (d.dot(hit.geometricNormal) <= 0.f)
                return;
            turned = true;
            first = false;
        } else if (onGround) {
            weight *= groundAlbedo_;
            o = Vec3(o.x + d.x * limit, ground_ + 1e-3f, o.z + d.z * limit);
            d = cosineDirection(Vec3(0.f, 1.f, 0.f), random.next(), random.next());
            turned = true;
            first = false;
        } else {
            return;
        }
        const float left = maxComponent(weight) / whole;
        if (left < 0.2f) {
            if (!(random.next() < left * 4.f))
                return;
            weight *= 0.25f / left;
        }
    }
}

void LampGlow::add(const AirModel& air, const Flights& flights, const SurfaceSampler& sampler, int photons)
{
    const light::Lamp& lamp = air.shot().lamps[lamp_];
    using Shape = light::Lamp::Shape;
    const bool parallel = lamp.shape == Shape::Parallel;
    const float cosine = lamp.shape == Shape::Spot                                     ? std::max(-1.f, lamp.cosOuter)
                         : lamp.shape == Shape::Rectangle || lamp.shape == Shape::Disc ? 0.f
                                                                                       : -1.f;
    const float solid = 2.f * pi * (1.f - cosine);
    // What leaves the source in a direction is what arrives at a far place, times the square of the way.
    const float far = 1000.f * std::max({0.05f, lamp.radius, lamp.width, lamp.height});
    Vec3 a, b;
    frameAround(lamp.direction, a, b);
    // A fixed number of parts, added in order: the same light whatever the number of threads.
    constexpr std::size_t parts = 2;
    const int each = std::max(1, photons / static_cast<int>(parts));
    std::vector<std::vector<float>> own(parts);
    parallelFor(parts, [&](std::size_t part) {
        std::vector<float>& to = own[part];
        to.assign(sums_.size(), 0.f);
        Random random(hash32(batches_ * static_cast<std::uint32_t>(parts) + static_cast<std::uint32_t>(part),
                             7193u + static_cast<std::uint32_t>(lamp_)));
        for (int i = 0; i < each; ++i) {
            const float u = (static_cast<float>(i) + random.next()) / static_cast<float>(each), v = random.next(),
                        r1 = random.next(), r2 = random.next();
            light::LampSample s;
            Vec3 o, d, weight;
            if (parallel) {
                const float r = lamp.radius * std::sqrt(u);
                o = lamp.position + a * (r * std::cos(2.f * pi * v)) + b * (r * std::sin(2.f * pi * v));
                d = lamp.direction;
                if (!light::sampleLamp(lamp, o + d * 0.01f, r1, r2, s))
                    continue;
                weight = s.irradiance * (pi * lamp.radius * lamp.radius);
            } else {
                const float c = 1.f - u * (1.f - cosine), sine = std::sqrt(std::max(0.f, 1.f - c * c));
                const Vec3 w = lamp.direction * c + a * (sine * std::cos(2.f * pi * v)) +
                               b * (sine * std::sin(2.f * pi * v));
                const Vec3 target = lamp.position + w * far;
                if (!light::sampleLamp(lamp, target, r1, r2, s))
                    continue;
                d = -s.way;
                o = light::sourcePoint(lamp, target, r1, r2);
                weight = s.irradiance * (far * far * solid);
            }
            follow(air, flights, sampler, random, o, d, weight, to);
        }
    });
    for (const std::vector<float>& part : own)
        for (std::size_t i = 0; i < sums_.size(); ++i)
            sums_[i] += part[i];
    photons_ += static_cast<double>(each) * static_cast<double>(parts);
    ++batches_;
    settle();
}

void LampGlow::settle()
{
    // Evened with their neighbours, by volume; more while there are few photons.
    std::vector<float> now = sums_, next(sums_.size());
    std::vector<float> room = room_, roomNext(cells());
    const auto evened = [&](int dx, int dy, int dz) {
        const std::size_t step = index(dx, dy, dz);
        parallelFor(side, [&](std::size_t zz) {
            const int z = static_cast<int>(zz);
            for (int y = 0; y < high; ++y)
                for (int x = 0; x < side; ++x) {
                    const std::size_t cell = index(x, y, z);
                    const bool before = x >= dx && y >= dy && z >= dz,
                               after = x + dx < side && y + dy < high && z + dz < side;
                    const float* c = &now[cell * stride];
                    const float *l = before ? c - step * stride : c, *r = after ? c + step * stride : c;
                    for (std::size_t v = 0; v < used; ++v)
                        next[cell * stride + v] = 0.5f * c[v] + 0.25f * (l[v] + r[v]);
                    roomNext[cell] = 0.5f * room[cell] +
                                     0.25f * (room[before ? cell - step : cell] + room[after ? cell + step : cell]);
                }
        });
        now.swap(next);
        room.swap(roomNext);
    };
    // Upward least: light that comes down ends at the floor.
    for (int i = 0; i < (photons_ < 3e4 ? 2 : 1); ++i) {
        evened(1, 0, 0);
        evened(0, 0, 1);
    }
    if (photons_ < 6e4)
        evened(0, 1, 0);
    const auto photons = static_cast<float>(photons_);
    for (std::size_t cell = 0; cell < cells(); ++cell)
        for (std::size_t v = 0; v < used; ++v)
            held_[cell * stride + v] = (now[cell * stride + v] / std::max(1e-20f, room[cell]) +
                                        prior_[cell * stride + v] * priorWorth) /
                                       (photons + priorWorth);
    keepMeans();
}

void LampGlow::measureParts()
{
    parts_.resize(cells() * 8);
    parallelFor(side, [&](std::size_t zz) {
        const int z = static_cast<int>(zz);
        for (int y = 0; y < high; ++y)
            for (int x = 0; x < side; ++x) {
                const std::size_t cell = index(x, y, z);
                for (int part = 0; part < 8; ++part) {
                    const int way[3] = {part & 1 ? 1 : -1, part & 2 ? 1 : -1, part & 4 ? 1 : -1}, own[3] = {x, y, z};
                    const auto at = [](int w) { return w > 0 ? 0.75f : 0.25f; };
                    float weight = shape(placeIn(cell, at(way[0]), at(way[1]), at(way[2])));
                    for (int a = 0; a < 3; ++a) {
                        const auto u = static_cast<float>(own[a]);
                        const float middle = axis_[a].place(u + 0.5f);
                        weight *= way[a] > 0 ? axis_[a].place(u + 1.f) - middle : middle - axis_[a].place(u);
                    }
                    parts_[cell * 8 + static_cast<std::size_t>(part)] = weight;
                }
            }
    });
}

/// Between the middles of cells values are mixed, and cells grow outward: what is read is made to have, over each cell,
/// the mean that was found there.
void LampGlow::keepMeans()
{
    if (parts_.empty())
        measureParts();
    std::vector<float> wanted(cells()), now(cells()), next(cells());
    for (std::size_t cell = 0; cell < cells(); ++cell)
        wanted[cell] = luminance(Vec3(held_[cell * stride], held_[cell * stride + 1], held_[cell * stride + 2]));
    now = wanted;
    constexpr int rounds = 3;
    for (int round = 0; round < rounds; ++round) {
        parallelFor(side, [&](std::size_t zz) {
            const int z = static_cast<int>(zz);
            for (int y = 0; y < high; ++y)
                for (int x = 0; x < side; ++x) {
                    const std::size_t cell = index(x, y, z);
                    float sum = 0.f, weights = 0.f;
                    for (int part = 0; part < 8; ++part) {
                        const int way[3] = {part & 1 ? 1 : -1, part & 2 ? 1 : -1, part & 4 ? 1 : -1};
                        const float weight = parts_[cell * 8 + static_cast<std::size_t>(part)];
                        // A quarter of the way to the neighbours on this side.
                        const auto beside = [](int from, int w, int count) {
                            return std::clamp(from + w, 0, count - 1);
                        };
                        const int nx = beside(x, way[0], side), nz = beside(z, way[2], side);
                        const auto level = [&](int row) {
                            return 0.75f * (0.75f * now[index(x, row, z)] + 0.25f * now[index(nx, row, z)]) +
                                   0.25f * (0.75f * now[index(x, row, nz)] + 0.25f * now[index(nx, row, nz)]);
                        };
                        const float here = level(y);
                        const float there = y == 0 && way[1] < 0 ? 2.f * here - level(1)
                                                                 : level(beside(y, way[1], high));
                        sum += weight * (0.75f * here + 0.25f * there);
                        weights += weight;
                    }
                    const float mean = sum / std::max(1e-30f, weights);
                    next[cell] = mean > 0.f ? now[cell] * std::clamp(wanted[cell] / mean, 0.5f, 2.f) : now[cell];
                }
        });
        now.swap(next);
    }
    for (std::size_t cell = 0; cell < cells(); ++cell)
        for (std::size_t v = 0; v < used && wanted[cell] > 0.f; ++v)
            held_[cell * stride + v] *= now[cell] / wanted[cell];
}

LampGlow::Light8 LampGlow::at8(F8 x, F8 y, F8 z) const
{
    const F8 dx = x - centre_.x, dy = y - centre_.y, dz = z - centre_.z, r = sqrt8(dx * dx + dy * dy + dz * dz);
    const float inverse = 1.f / finest_;
    const F8 places[3] = {dx * inverse, dy * inverse, dz * inverse};
    // Toward the end of what is followed it fades.
    F8 inside = clamp8(4.f - r * (4.f / reach_), 0.f, 1.f), low[3], share[3];
    for (int a = 0; a < 3; ++a) {
        const F8 u = axis_[a].at8(places[a]);
        const auto last = static_cast<float>(axis_[a].cells);
        inside = select((u > -1.f) & (u < last), inside, f8(0.f));
        // On the floor what stands over it goes on as it does above.
        const F8 middle = clamp8(u - 0.5f, a == 1 ? -0.5f : 0.f, last - 1.001f);
        low[a] = max8(floor8(middle), f8(0.f));
        share[a] = middle - low[a];
    }
    const I8 cell = (toInt(low[2]) * high + toInt(low[1])) * side + toInt(low[0]);
    F8 low8[lanes], high8[lanes]; // values 0…7 and 4…11
    for (int l = 0; l < lanes; ++l) {
        low8[l] = high8[l] = f8(0.f);
        if (!(inside[l] > 0.f))
            continue;
        const float* p = &held_[static_cast<std::size_t>(cell[l]) * stride];
        constexpr std::size_t row = std::size_t{side} * stride, plane = row * high;
        const auto mixed = [&](const float* q) {
            const auto along = [&](const float* e) { return load8(e) + (load8(e + stride) - load8(e)) * share[0][l]; };
            const auto across = [&](const float* e) {
                const F8 a = along(e);
                return a + (along(e + row) - a) * share[1][l];
            };
            const F8 near = across(q);
            return (near + (across(q + plane) - near) * share[2][l]) * inside[l];
        };
        low8[l] = mixed(p);
        high8[l] = mixed(p + 4);
    }
    transpose8(low8);
    transpose8(high8);
    const F8 by = exp8(r * -fall_) / (r + 0.5f * finest_);
    Light8 out;
    for (int v = 0; v < static_cast<int>(used); ++v)
        (v < 3 ? out.fluence[v] : out.half[v - 3]) = max8((v < 8 ? low8[v] : high8[v - 4]) * by, f8(0.f));
    return out;
}

void LampGlow::Light8::onto(const F8 normal[3], F8 irradiance[3]) const
{
    F8 told = f8(0.f);
    for (int a = 0; a < 3; ++a)
        told += normal[a] * normal[a] * select(normal[a] > 0.f, half[2 * a], half[2 * a + 1]);
    told = told / max8(luminance(), f8(1e-30f));
    for (int c = 0; c < 3; ++c)
        irradiance[c] = fluence[c] * told;
}
} // namespace hygros::render
