#include "geometry/cover.h"

#include "base/parallel.h"
#include "geometry/pattern.h"

#include <algorithm>
#include <array>
#include <bit>
#include <cmath>
#include <map>

namespace hygros::geometry {
namespace {
constexpr int levels = 4;     ///< nested squares, each of cells twice as large
constexpr float reach = 12.f; ///< half a side of the finest [m]
constexpr std::size_t mostCells = 250'000;
constexpr int mostLayers = 4;      ///< surfaces one under the other in a cell
constexpr float room = 0.25f;      ///< under what stands less far over a surface nothing lies [m]
constexpr float thinnest = 0.005f; ///< that is a cover [m]
constexpr float roof = 120.f;      ///< what is farther up shelters from nothing [m]
constexpr std::uint32_t none = 0xffffffffu;

/// A surface in a cell that flakes can meet.
struct Layer {
    float y = 0.f;
    Vec3 normal{0.f, 1.f, 0.f};
    float depth = 0.f;   ///< of what lies on it [m]
    float toEdge = 1e9f; ///< from it to where the cover ends [m]
    std::uint32_t vertex = none;
};
struct Column {
    std::array<Layer, mostLayers> layers;
    int count = 0;
};

/// How evenly it lies and melts: means of 1 over the ground.
struct Lumps {
    Lumps(float x, float z, std::uint32_t seed)
        : wide(pattern(x / 1.3f, z / 1.3f, seed + 11u) - 0.5f), fine(pattern(x / 0.35f, z / 0.35f, seed + 12u) - 0.5f)
    {
    }
    float wide, fine;
    float lies() const { return 1.f + 0.3f * wide + 0.12f * fine; }
    float melts() const { return 1.f + 0.6f * wide + 0.2f * fine; }
};
/// What melts of each place, of the depth on open ground, so that a share of all of it is gone.
float lossFor(float melted, std::uint32_t seed)
{
    if (melted <= 0.f)
        return 0.f;
    std::vector<Lumps> some;
    for (int i = 0; i < 4096; ++i)
        some.emplace_back(0.73f * static_cast<float>(i % 64), 0.79f * static_cast<float>(i / 64), seed);
    float low = 0.f, high = 4.f;
    for (int i = 0; i < 24; ++i) {
        const float loss = 0.5f * (low + high);
        double left = 0.0, whole = 0.0;
        for (const Lumps& l : some) {
            left += static_cast<double>(std::max(0.f, l.lies() - loss * l.melts()));
            whole += static_cast<double>(l.lies());
        }
        (left > whole * static_cast<double>(1.f - melted) ? low : high) = loss;
    }
    return 0.5f * (low + high);
}

class Square {
public:
    Square(const RayScene& bare, const CoverSettings& s, const Vec3& middle, float halfX, float halfZ, float cell)
        : bare_(bare), s_(s), cell_(cell), nx_(static_cast<int>(2.f * halfX / cell) + 1),
          nz_(static_cast<int>(2.f * halfZ / cell) + 1),
          // On whole cells, so that a camera that moves leaves them where they are.
          x0_(std::floor((middle.x - halfX) / cell) * cell), z0_(std::floor((middle.z - halfZ) / cell) * cell),
          loss_(lossFor(s.melted, s.seed)), columns_(static_cast<std::size_t>(nx_) * static_cast<std::size_t>(nz_))
    {
    }
    /// What a finer square holds already.
    void leaveOut(const Square& inner) { inner_ = &inner; }
    /// Beyond so much of it the cover thins to nothing.
    void fadeOut() { fades_ = true; }

    void look(JobControl& job)
    {
        parallelFor(static_cast<std::size_t>(nz_), [&](std::size_t z) {
            for (int x = 0; x < nx_; ++x)
                if (!isInner(x, static_cast<int>(z)))
                    lookAt(x, static_cast<int>(z));
        });
        job.check();
        settle();
        job.check();
    }
    void build(Mesh& mesh, Cover& cover)
    {
        for (int z = 0; z < nz_; ++z)
            for (int x = 0; x < nx_; ++x)
                for (int l = 0; l < at(x, z).count; ++l)
                    if (Layer& one = at(x, z).layers[static_cast<std::size_t>(l)]; one.depth > thinnest)
                        one.vertex = add(mesh, Vec3(xAt(x), one.y, zAt(z)));
        for (int z = 0; z + 1 < nz_; ++z)
            for (int x = 0; x + 1 < nx_; ++x)
                quad(mesh, x, z);
        // Edges are round: a quarter of an ellipse, as wide as the cover is thick.
        for (Column& c : columns_)
            for (int l = 0; l < c.count; ++l) {
                const Layer& one = c.layers[static_cast<std::size_t>(l)];
                if (one.vertex == none)
                    continue;
                const float round = std::max(0.02f, one.depth), in = std::min(1.f, one.toEdge / round),
                            depth = one.depth * std::sqrt(1.f - (1.f - in) * (1.f - in));
                mesh.positions[one.vertex].y += depth;
                cover.thickest = std::max(cover.thickest, depth);
                cover.area += static_cast<double>(cell_ * cell_);
                cover.volume += static_cast<double>(cell_ * cell_ * depth);
            }
    }

private:
    Column& at(int x, int z)
    {
        return columns_[static_cast<std::size_t>(z) * static_cast<std::size_t>(nx_) + static_cast<std::size_t>(x)];
    }
    float xAt(int x) const { return x0_ + cell_ * static_cast<float>(x); }
    float zAt(int z) const { return z0_ + cell_ * static_cast<float>(z); }
    bool isInner(int x, int z) const
    {
        if (!inner_)
            return false;
        const Square& in = *inner_; // they overlap by a cell
        return xAt(x) > in.x0_ + cell_ && xAt(x) < in.xAt(in.nx_ - 1) - cell_ && zAt(z) > in.z0_ + cell_ &&
               zAt(z) < in.zAt(in.nz_ - 1) - cell_;
    }

    void lookAt(int x, int z)
    {
        Column& c = at(x, z);
        const Box3& box = bare_.bounds();
        Vec3 from(xAt(x), box.max.y + 1.f, zAt(z));
        float above = from.y + 1e3f; // the surface over this one
        for (int looks = 0; looks < 12 && c.count < mostLayers; ++looks) {
            Hit hit;
            if (!bare_.trace(from, Vec3(0.f, -1.f, 0.f), 0.f, from.y - box.min.y + 1.f, hit))
                return;
            const float y = from.y - hit.t;
            if (above - y > room) {
                Layer& one = c.layers[static_cast<std::size_t>(c.count)];
                one.y = y;
                one.normal = hit.geometricNormal;
                if (hit.material->roughness > bareRoughness)
                    one.depth = fallsOn(Vec3(from.x, y, from.z), one.normal, x, z);
                ++c.count;
            }
            above = y;
            from.y = y - 0.01f;
        }
    }

    /// As much as comes to a place, before it has settled.
    float fallsOn(const Vec3& place, const Vec3& normal, int x, int z) const
    {
        const float slope = std::acos(std::clamp(normal.y, -1.f, 1.f));
        if (slope >= s_.steepest)
            return 0.f;
        // It slides where it is steep, the more the nearer that is to what holds nothing.
        const float held = std::clamp((s_.steepest - slope) / (0.55f * s_.steepest), 0.f, 1.f),
                    faces = std::clamp(normal.dot(s_.from) / (s_.from.y * normal.y), 0.35f, 1.25f);
        const Vec3 side = std::abs(s_.from.y) > 0.99f ? Vec3(1.f, 0.f, 0.f)
                                                      : Vec3(0.f, 1.f, 0.f).cross(s_.from).normalized(),
                   up = s_.from.cross(side);
        const float turn = 2.f * pi *
                           unitFloat(hash32(static_cast<std::uint32_t>(x), static_cast<std::uint32_t>(z), s_.seed));
        ShadowRays8 rays;
        for (int i = 0; i < 8; ++i) {
            const float angle = turn + 2.39996f * static_cast<float>(i),
                        tilt = s_.spread * std::sqrt((static_cast<float>(i) + 0.5f) / 8.f);
            // Half of them on their common way; gusts near the ground let the others down from all sides.
            const Vec3 common = i & 1 ? Vec3(0.f, 1.f, 0.f) : s_.from, one = i & 1 ? Vec3(1.f, 0.f, 0.f) : side,
                       other = i & 1 ? Vec3(0.f, 0.f, 1.f) : up,
                       way = (common + (one * std::cos(angle) + other * std::sin(angle)) * std::tan(tilt)).normalized();
            const Vec3 o = place + normal * 0.01f;
            rays.ox[i] = o.x;
            rays.oy[i] = o.y;
            rays.oz[i] = o.z;
            rays.dx[i] = way.x;
            rays.dy[i] = way.y;
            rays.dz[i] = way.z;
            rays.reach[i] = roof;
        }
        const int open = 8 - std::popcount(bare_.occluded8(rays, 0xffu));
        if (open == 0)
            return 0.f;
        const Lumps here(place.x, place.z, s_.seed);
        const float lies = held * faces * static_cast<float>(open) / 8.f * here.lies() *
                           (s_.drifts > 0.f ? drifted(place, turn) : 1.f);
        float depth = s_.depth * (lies - loss_ * here.melts());
        if (fades_) {
            const float u = std::max(std::abs(2.f * static_cast<float>(x) / static_cast<float>(nx_ - 1) - 1.f),
                                     std::abs(2.f * static_cast<float>(z) / static_cast<float>(nz_ - 1) - 1.f));
            depth *= std::clamp((1.f - u) / 0.2f, 0.f, 1.f);
        }
        return std::max(0.f, depth);
    }

    /// What wind leaves there of what fell, or brings: by how high what shelters it stands against the wind (the
    /// largest slope upwind, A. Winstral & D. Marks, Simulating wind fields and snow redistribution using terrain-based
    /// parameters, Hydrol. Process. 16, 2002), the mean of four ways a little apart.
    float drifted(const Vec3& place, float turn) const
    {
        // Angles over the level that are asked, and what comes of the highest that is hidden: swept where the ground
        // falls away before it, most in the lee, less right at the foot of a wall where the air turns over.
        constexpr float angles[8] = {-20.f, -10.f, -5.f, 3.f, 8.f, 15.f, 25.f, 40.f};
        constexpr float gains[9] = {-0.85f, -0.6f, -0.3f, 0.f, 0.35f, 0.8f, 1.3f, 1.6f, 0.9f};
        constexpr float sees = 15.f; // [m]
        const Vec3 o = place + Vec3(0.f, 0.05f + 0.25f * cell_, 0.f);
        float sum = 0.f;
        for (int k = 0; k < 4; ++k) {
            const float off = 0.16f * (static_cast<float>(k) - 1.5f) + 0.05f * std::sin(turn), c = std::cos(off),
                        s = std::sin(off);
            const Vec3 way(s_.upwind.x * c - s_.upwind.z * s, 0.f, s_.upwind.x * s + s_.upwind.z * c);
            ShadowRays8 rays;
            for (int i = 0; i < 8; ++i) {
                const float angle = radians(angles[i]);
                rays.ox[i] = o.x;
                rays.oy[i] = o.y;
                rays.oz[i] = o.z;
                rays.dx[i] = way.x * std::cos(angle);
                rays.dy[i] = std::sin(angle);
                rays.dz[i] = way.z * std::cos(angle);
                rays.reach[i] = sees;
            }
            sum += gains[std::bit_width(bare_.occluded8(rays, 0xffu) & 0xffu)];
        }
        return std::max(0.f, 1.f + 0.25f * sum * s_.drifts);
    }

    /// The layer of another column, (dx, dz) cells on, that goes on with this one; −1: none.
    int next(const Layer& one, int x, int z, int dx, int dz)
    {
        if (x + dx < 0 || z + dz < 0 || x + dx >= nx_ || z + dz >= nz_)
            return -1;
        const Column& other = at(x + dx, z + dz);
        const float step = slopeOf(one, dx, dz), bend = 0.03f + 0.3f * cell_;
        for (int l = 0; l < other.count; ++l) {
            const Layer& o = other.layers[static_cast<std::size_t>(l)];
            const float back = slopeOf(o, dx, dz), d = o.y - one.y;
            if (std::min(std::abs(d - step), std::abs(d - back)) < bend && std::abs(d) < 1.8f * cell_ + 0.03f)
                return l;
        }
        return -1;
    }
    /// How much a surface rises to a neighbour.
    float slopeOf(const Layer& one, int dx, int dz) const
    {
        const float up = std::max(0.2f, one.normal.y);
        return -(one.normal.x * static_cast<float>(dx) + one.normal.z * static_cast<float>(dz)) * cell_ / up;
    }

    /// What lies evens out with what lies beside it; what stands alone is too small to be told from its twig.
    void settle()
    {
        constexpr std::array<std::array<int, 2>, 4> sides{{{1, 0}, {-1, 0}, {0, 1}, {0, -1}}};
        for (int pass = 0; pass < 3; ++pass) {
            std::vector<std::array<float, mostLayers>> after(columns_.size());
            parallelFor(static_cast<std::size_t>(nz_), [&](std::size_t row) {
                const int z = static_cast<int>(row);
                for (int x = 0; x < nx_; ++x) {
                    const Column& c = at(x, z);
                    for (int l = 0; l < c.count; ++l) {
                        const Layer& one = c.layers[static_cast<std::size_t>(l)];
                        float sum = 2.f * one.depth, weight = 2.f;
                        int beside = 0;
                        for (const auto& [dx, dz] : sides)
                            if (const int o = next(one, x, z, dx, dz); o >= 0) {
                                sum += at(x + dx, z + dz).layers[static_cast<std::size_t>(o)].depth;
                                weight += 1.f;
                                ++beside;
                            }
                        auto& to = after[row * static_cast<std::size_t>(nx_) + static_cast<std::size_t>(x)];
                        to[static_cast<std::size_t>(l)] = beside < 2 ? 0.f : one.depth > 0.f ? sum / weight : 0.f;
                    }
                }
            });
            for (std::size_t i = 0; i < columns_.size(); ++i)
                for (int l = 0; l < columns_[i].count; ++l)
                    columns_[i].layers[static_cast<std::size_t>(l)].depth = after[i][static_cast<std::size_t>(l)];
        }
    }

    std::uint32_t add(Mesh& mesh, const Vec3& p) const
    {
        mesh.positions.push_back(p);
        return static_cast<std::uint32_t>(mesh.positions.size() - 1);
    }

    /// The surfaces over one square of four columns.
    void quad(Mesh& mesh, int x, int z)
    {
        constexpr int dx[4] = {0, 1, 1, 0}, dz[4] = {0, 0, 1, 1};
        const auto column = [&](int k) -> Column& { return at(x + dx[k & 3], z + dz[k & 3]); };
        std::array<std::array<bool, mostLayers>, 4> used{};
        for (int first = 0; first < 4; ++first)
            for (int l = 0; l < column(first).count; ++l) {
                if (used[static_cast<std::size_t>(first)][static_cast<std::size_t>(l)])
                    continue;
                // One layer of each corner, as far as they go on in each other.
                int of[4] = {-1, -1, -1, -1};
                of[first] = l;
                for (int round = 0; round < 3; ++round)
                    for (int k = 0; k < 4; ++k) {
                        const int k2 = (k + 1) & 3;
                        const auto grow = [&](int a, int b) {
                            if (of[a] < 0 || of[b] >= 0)
                                return;
                            const int o = next(column(a).layers[static_cast<std::size_t>(of[a])], x + dx[a], z + dz[a],
                                               dx[b] - dx[a], dz[b] - dz[a]);
                            if (o >= 0 && !used[static_cast<std::size_t>(b)][static_cast<std::size_t>(o)])
                                of[b] = o;
                        };
                        grow(k, k2);
                        grow(k2, k);
                    }
                for (int k = 0; k < 4; ++k)
                    if (of[k] >= 0)
                        used[static_cast<std::size_t>(k)][static_cast<std::size_t>(of[k])] = true;
                polygon(mesh, x, z, of);
            }
    }
    void polygon(Mesh& mesh, int x, int z, const int (&of)[4])
    {
        constexpr int dx[4] = {0, 1, 1, 0}, dz[4] = {0, 0, 1, 1};
        const auto layer = [&](int k) -> Layer* {
            return of[k] < 0 ? nullptr : &at(x + dx[k], z + dz[k]).layers[static_cast<std::size_t>(of[k])];
        };
        std::vector<std::uint32_t> round;
        for (int k = 0; k < 4; ++k) {
            const int k2 = (k + 1) & 3;
            Layer *a = layer(k), *b = layer(k2);
            const bool inA = a && a->vertex != none, inB = b && b->vertex != none;
            if (inA)
                round.push_back(a->vertex);
            if (inA != inB)
                round.push_back(inA ? crossing(mesh, *a, b, x + dx[k], z + dz[k], dx[k2] - dx[k], dz[k2] - dz[k])
                                    : crossing(mesh, *b, a, x + dx[k2], z + dz[k2], dx[k] - dx[k2], dz[k] - dz[k2]));
        }
        for (std::size_t i = 2; i < round.size(); ++i) {
            // Seen from above, the way round that looks up.
            mesh.indices.push_back(round[0]);
            mesh.indices.push_back(round[i]);
            mesh.indices.push_back(round[i - 1]);
        }
    }

    /// The point at which a cover ends between a place that has it and the next that has not.
    std::uint32_t crossing(Mesh& mesh, Layer& one, const Layer* other, int x, int z, int dx, int dz)
    {
        const auto [known, isNew] = ends_.try_emplace({one.vertex, dx + 2 * dz}, none);
        if (!isNew)
            return known->second;
        const Vec3 from(xAt(x), one.y, zAt(z)),
            way(static_cast<float>(dx) * cell_, slopeOf(one, dx, dz), static_cast<float>(dz) * cell_);
        float t = 0.f;
        Vec3 end = from;
        bool isWall = false;
        if (other) { // the ground goes on, what lies on it does not
            t = std::clamp((one.depth - thinnest) / std::max(1e-6f, one.depth - other->depth), 0.05f, 0.95f);
            end = from + Vec3(way.x, other->y - one.y, way.z) * t;
        } else {
            float beyond = 1.f;
            for (int i = 0; i < 5; ++i) {
                const float u = 0.5f * (t + beyond), over = 0.02f + 0.2f * cell_;
                const Vec3 p = from + way * u;
                Hit hit;
                if (bare_.trace(p + Vec3(0.f, over, 0.f), Vec3(0.f, -1.f, 0.f), 0.f, 2.f * over, hit)) {
                    t = u;
                    end = Vec3(p.x, p.y + over - hit.t, p.z);
                } else
                    beyond = u;
            }
            Hit hit;
            const Vec3 o = end + Vec3(0.f, 0.02f + 0.5f * one.depth, 0.f),
                       level = Vec3(static_cast<float>(dx), 0.f, static_cast<float>(dz));
            isWall = bare_.trace(o, level, 0.f, (beyond - t) * cell_ + 0.06f, hit);
            if (isWall) // it fills the corner
                end = Vec3(o.x, end.y, o.z) + level * (hit.t + 0.01f) + Vec3(0.f, 1.12f * one.depth, 0.f);
        }
        if (!isWall)
            one.toEdge = std::min(one.toEdge, t * cell_);
        return known->second = add(mesh, end);
    }

    const RayScene& bare_;
    const CoverSettings& s_;
    float cell_;
    int nx_, nz_;
    float x0_, z0_;
    float loss_;
    const Square* inner_ = nullptr;
    bool fades_ = false;
    std::vector<Column> columns_;
    std::map<std::pair<std::uint32_t, int>, std::uint32_t> ends_;
};
} // namespace

Cover coverOf(const RayScene& bare, const CoverSettings& s, JobControl& job)
{
    auto set = std::make_shared<SetGeometry>();
    set->materials.push_back(snowMaterial());
    set->groups.push_back("snow");
    Mesh mesh;
    mesh.name = "snow";
    Cover out;
    if (s.depth > 0.f && s.melted < 1.f && bare.triangles() > 0 && !s.around.empty()) {
        Box3 where;
        for (const Vec3& p : s.around)
            where.extendBy(p);
        const Vec3 middle = (where.min + where.max) * 0.5f;
        const float halfX = reach + 0.5f * (where.max.x - where.min.x),
                    halfZ = reach + 0.5f * (where.max.z - where.min.z);
        // A long way of the camera has larger cells.
        const float cell = std::max(std::max(0.02f, s.cell),
                                    std::sqrt(4.f * halfX * halfZ / static_cast<float>(mostCells)));
        std::vector<std::unique_ptr<Square>> squares;
        for (int k = 0; k < levels; ++k) {
            const auto scale = static_cast<float>(1 << k);
            squares.push_back(std::make_unique<Square>(bare, s, middle, halfX * scale, halfZ * scale, cell * scale));
            Square& q = *squares.back();
            if (k > 0)
                q.leaveOut(*squares[static_cast<std::size_t>(k) - 1]);
            if (k == levels - 1)
                q.fadeOut();
            q.look(job);
            q.build(mesh, out);
            job.report(static_cast<float>(k + 1) / levels, "Snow settles");
        }
    }
    mesh.normals.assign(mesh.positions.size(), Vec3(0.f));
    for (std::size_t i = 0; i + 2 < mesh.indices.size(); i += 3) {
        const std::uint32_t* t = &mesh.indices[i];
        const Vec3 n = (mesh.positions[t[1]] - mesh.positions[t[0]]).cross(mesh.positions[t[2]] - mesh.positions[t[0]]);
        for (int k = 0; k < 3; ++k)
            mesh.normals[t[k]] += n;
    }
    for (Vec3& n : mesh.normals)
        n = n.length2() > 0.f ? n.normalized() : Vec3(0.f, 1.f, 0.f);
    for (const Vec3& p : mesh.positions)
        set->bounds.extendBy(p);
    set->triangles = mesh.indices.size() / 3;
    set->metresPerUnit = 1.f;
    set->meshes.push_back(std::move(mesh));
    out.set = std::move(set);
    return out;
}
} // namespace hygros::geometry
