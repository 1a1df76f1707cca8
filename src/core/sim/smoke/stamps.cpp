#include "sim/smoke/stamps.h"

#include <algorithm>
#include <cmath>
#include <unordered_map>

namespace hygros::sim {
namespace {
/// Which way is outward at a place of a feed's own metres.
Vec3 outwardAt(const media::Feed& f, const Vec3& p)
{
    using Form = media::Feed::Form;
    const Vec3 from = f.form == Form::Disc   ? Vec3(p.x, 0.f, p.z)
                      : f.form == Form::Line ? Vec3(p.x - std::clamp(p.x, -f.half.x, f.half.x), p.y, p.z)
                                             : p;
    return from.length2() > 1e-12f ? from.normalized() : Vec3(0.f);
}

/// How much of a cell lies inside, by the signed distance of its middle [m]: even over the cell's width.
float shareOf(float distance, float h) { return std::clamp(0.5f - distance / h, 0.f, 1.f); }

/// Signed distance from a feed's surface in its own metres, below 0 inside; of stretched balls about.
float distanceTo(const media::Feed& f, const Vec3& p)
{
    using Form = media::Feed::Form;
    const auto box = [](const Vec3& at, const Vec3& half) {
        const Vec3 d(std::abs(at.x) - half.x, std::abs(at.y) - half.y, std::abs(at.z) - half.z);
        const Vec3 out(std::max(0.f, d.x), std::max(0.f, d.y), std::max(0.f, d.z));
        return out.length() + std::min(0.f, maxComponent(d));
    };
    switch (f.form) {
    case Form::Box: return box(p, f.half);
    case Form::Disc: {
        const float r = std::hypot(p.x / f.half.x, p.z / f.half.z);
        return std::max((r - 1.f) * std::min(f.half.x, f.half.z), std::abs(p.y) - f.half.y);
    }
    case Form::Line: {
        const float along = std::clamp(p.x, -f.half.x, f.half.x);
        return Vec3(p.x - along, p.y, p.z).length() - f.half.y;
    }
    default: {
        const Vec3 q(p.x / f.half.x, p.y / f.half.y, p.z / f.half.z);
        return (q.length() - 1.f) * std::min({f.half.x, f.half.y, f.half.z});
    }
    }
}

class Stamp {
public:
    explicit Stamp(const Lattice& l) : l_(l) {}
    void put(int x, int y, int z, float share, const Vec3& outward = Vec3(0.f))
    {
        // The last blocks at the high sides stay free: faces of what is before them stand there.
        if (share <= 0.f || x < 0 || y < 0 || z < 0 || x >= l_.n[0] - Lattice::side || y >= l_.n[1] - Lattice::side ||
            z >= l_.n[2] - Lattice::side)
            return;
        Held& v = held_[(static_cast<std::uint64_t>(z) << 40) | (static_cast<std::uint64_t>(y) << 20) |
                        static_cast<std::uint64_t>(x)];
        v.share = std::max(v.share, share);
        v.outward += outward;
    }
    void form(const media::Feed& f, const Mat4& toWorld)
    {
        const Mat4 into = toWorld.inverse();
        Box3 box;
        for (int c = 0; c < 8; ++c)
            box.extendBy(
                Vec3((c & 1 ? 1.f : -1.f) * (f.form == media::Feed::Form::Line ? f.half.x + f.half.y : f.half.x),
                     (c & 2 ? 1.f : -1.f) * f.half.y,
                     (c & 4 ? 1.f : -1.f) * (f.form == media::Feed::Form::Line ? f.half.y : f.half.z)) *
                toWorld);
        int low[3], high[3];
        for (int a = 0; a < 3; ++a) {
            low[a] = std::max(0, static_cast<int>(std::floor((box.min[a] - l_.origin[a]) / l_.h)) - 1);
            high[a] = std::min(l_.n[static_cast<std::size_t>(a)] - 1,
                               static_cast<int>(std::ceil((box.max[a] - l_.origin[a]) / l_.h)) + 1);
        }
        for (int z = low[2]; z <= high[2]; ++z)
            for (int y = low[1]; y <= high[1]; ++y)
                for (int x = low[0]; x <= high[0]; ++x) {
                    const Vec3 own = l_.middle(x, y, z) * into;
                    Vec3 outward;
                    toWorld.multDirMatrix(outwardAt(f, own), outward);
                    const float open = f.mask
                                           ? f.mask->at(0.5f + 0.5f * own.x / f.half.x, 0.5f + 0.5f * own.z / f.half.z)
                                           : 1.f;
                    put(x, y, z, open * shareOf(distanceTo(f, own), l_.h), outward);
                }
    }
    void points(const std::vector<media::FeedPoint>& points, const Mat4& toWorld)
    {
        for (const media::FeedPoint& p : points) {
            const Vec3 at = (p.at * toWorld - l_.origin) / l_.h;
            Vec3 normal;
            toWorld.multDirMatrix(p.normal, normal);
            put(static_cast<int>(std::floor(at.x)), static_cast<int>(std::floor(at.y)),
                static_cast<int>(std::floor(at.z)), 1.f, normal);
        }
    }
    /// Puts the cells into an inflow, in their order in space.
    void give(Inflow& in, const media::Noise& noise, float outwardSpeed) const
    {
        std::vector<std::uint64_t> keys;
        for (const auto& [key, held] : held_)
            keys.push_back(key);
        std::sort(keys.begin(), keys.end());
        for (const std::uint64_t key : keys) {
            const Held& held = held_.at(key);
            const auto x = static_cast<std::int16_t>(key & 0xfffff),
                       y = static_cast<std::int16_t>((key >> 20) & 0xfffff), z = static_cast<std::int16_t>(key >> 40);
            const float by = noise.contrast > 0.f ? media::modulation(noise, l_.middle(x, y, z)) : 1.f;
            if (!(held.share * by > 1e-3f))
                continue;
            in.cells.push_back({{x, y, z}, held.share * by});
            if (outwardSpeed != 0.f) {
                const float length = held.outward.length();
                in.beside.push_back(length > 1e-6f ? held.outward * (outwardSpeed / length) : Vec3(0.f));
            }
        }
    }

private:
    const Lattice& l_;
    struct Held {
        float share = 0.f;
        Vec3 outward{0.f}; ///< of any length
    };
    std::unordered_map<std::uint64_t, Held> held_;
};

/// Whether a triangle meets a cube around `middle` (T. Akenine-Möller, Fast 3D triangle-box overlap testing, 2001).
bool meets(const Vec3& middle, float half, const Vec3 (&corners)[3])
{
    const Vec3 v[3] = {corners[0] - middle, corners[1] - middle, corners[2] - middle};
    const Vec3 e[3] = {v[1] - v[0], v[2] - v[1], v[0] - v[2]};
    const auto apart = [&](const Vec3& axis) {
        const float a = v[0].dot(axis), b = v[1].dot(axis), c = v[2].dot(axis);
        const float r = half * (std::abs(axis.x) + std::abs(axis.y) + std::abs(axis.z));
        return std::min({a, b, c}) > r || std::max({a, b, c}) < -r;
    };
    for (int a = 0; a < 3; ++a) {
        Vec3 unit(0.f);
        unit[a] = 1.f;
        if (apart(unit))
            return false;
        for (const Vec3& edge : e)
            if (apart(unit.cross(edge)))
                return false;
    }
    return !apart(e[0].cross(e[1]));
}
} // namespace

Inflow inflowOf(const media::Feed& f, const Mat4& before, const Lattice& l)
{
    constexpr int most = 64;
    Stamp stamp(l);
    // As many places on the way as leave no cell out.
    float way = 0.f;
    for (int c = 0; c < 8; ++c) {
        const Vec3 corner((c & 1 ? 1.f : -1.f) * f.half.x, (c & 2 ? 1.f : -1.f) * f.half.y,
                          (c & 4 ? 1.f : -1.f) * f.half.z);
        way = std::max(way, (corner * f.toWorld - corner * before).length());
    }
    const int pieces = std::clamp(static_cast<int>(std::ceil(way / l.h)), 1, most);
    for (int k = 1; k <= pieces; ++k) {
        const float u = static_cast<float>(k) / static_cast<float>(pieces);
        const Mat4 at = k == pieces ? f.toWorld : before * (1.f - u) + f.toWorld * u;
        if (f.form != media::Feed::Form::Points)
            stamp.form(f, at);
        else if (f.points)
            stamp.points(*f.points, at);
    }
    Inflow in;
    in.heat = f.heat;
    in.soot = f.soot;
    in.fuel = f.fuel;
    in.velocity = f.velocity;
    in.pushes = f.pushes;
    in.rate = f.rate;
    stamp.give(in, f.noise, f.outward);
    return in;
}

std::vector<std::uint8_t> solidsOf(const std::vector<geometry::PlacedSet>& obstacles, const Lattice& l, JobControl& job)
{
    std::vector<std::uint8_t> solid;
    const Vec3 high = l.origin +
                      Vec3(static_cast<float>(l.n[0]), static_cast<float>(l.n[1]), static_cast<float>(l.n[2])) * l.h;
    for (const geometry::PlacedSet& placed : obstacles)
        for (const geometry::Mesh& mesh : placed.set->meshes) {
            job.check();
            if (std::find(placed.without.begin(), placed.without.end(), mesh.group) != placed.without.end())
                continue;
            std::vector<Vec3> world;
            world.reserve(mesh.positions.size());
            for (const Vec3& p : mesh.positions)
                world.push_back(p * placed.toWorld);
            for (std::size_t i = 0; i + 2 < mesh.indices.size(); i += 3) {
                const Vec3 t[3] = {world[mesh.indices[i]], world[mesh.indices[i + 1]], world[mesh.indices[i + 2]]};
                int from[3], to[3];
                bool outside = false;
                for (int a = 0; a < 3; ++a) {
                    const float least = std::min({t[0][a], t[1][a], t[2][a]}),
                                most = std::max({t[0][a], t[1][a], t[2][a]});
                    outside = outside || most < l.origin[a] || least > high[a];
                    from[a] = std::max(0, static_cast<int>(std::floor((least - l.origin[a]) / l.h)));
                    to[a] = std::min(l.n[static_cast<std::size_t>(a)] - 1,
                                     static_cast<int>(std::floor((most - l.origin[a]) / l.h)));
                }
                if (outside)
                    continue;
                for (int z = from[2]; z <= to[2]; ++z)
                    for (int y = from[1]; y <= to[1]; ++y)
                        for (int x = from[0]; x <= to[0]; ++x) {
                            const auto at = static_cast<std::size_t>(l.at(x, y, z));
                            if (!solid.empty() && solid[at])
                                continue;
                            if (!meets(l.middle(x, y, z), 0.5f * l.h, t))
                                continue;
                            if (solid.empty())
                                solid.assign(l.size(), 0);
                            solid[at] = 1;
                        }
            }
        }
    return solid;
}
} // namespace hygros::sim
