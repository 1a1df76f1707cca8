#include "media/inside.h"

#include "base/parallel.h"

#include <algorithm>
#include <cmath>
#include <map>
#include <unordered_map>

namespace hygros::media {

std::size_t openEdgesOf(const geometry::SetGeometry& set)
{
    // Vertices at one place are one: exporters split them for their normals.
    struct Key {
        std::int64_t x, y, z;
        bool operator==(const Key&) const = default;
    };
    struct Hash {
        std::size_t operator()(const Key& k) const
        {
            return static_cast<std::size_t>(k.x * 73856093) ^ static_cast<std::size_t>(k.y * 19349663) ^
                   static_cast<std::size_t>(k.z * 83492791);
        }
    };
    const float size = std::max(1e-6f, (set.bounds.max - set.bounds.min).length()), grain = size * 1e-6f;
    std::unordered_map<Key, std::uint32_t, Hash> places;
    std::unordered_map<std::uint64_t, int> edges;
    for (const geometry::Mesh& m : set.meshes) {
        std::vector<std::uint32_t> place(m.positions.size());
        for (std::size_t i = 0; i < m.positions.size(); ++i) {
            const Vec3& p = m.positions[i];
            const Key k{std::llround(p.x / grain), std::llround(p.y / grain), std::llround(p.z / grain)};
            place[i] = places.emplace(k, static_cast<std::uint32_t>(places.size())).first->second;
        }
        for (std::size_t i = 0; i + 2 < m.indices.size(); i += 3)
            for (std::size_t k = 0; k < 3; ++k) {
                const std::uint64_t a = place[m.indices[i + k]], b = place[m.indices[i + (k + 1) % 3]];
                if (a != b)
                    ++edges[std::min(a, b) << 32 | std::max(a, b)];
            }
    }
    std::size_t open = 0;
    for (const auto& [edge, count] : edges)
        open += count % 2 != 0; // several closed shells may share an edge
    return open;
}

InsideField::InsideField(const geometry::PlacedSet& mesh, int cells, JobControl& job)
{
    openEdges_ = openEdgesOf(*mesh.set);
    const geometry::RayScene scene({mesh}, job);
    bounds_ = scene.bounds();
    const Vec3 extent = bounds_.max - bounds_.min;
    cell_ = std::max(1e-5f, maxComponent(extent) / static_cast<float>(cells));
    for (int a = 0; a < 3; ++a)
        size_[a] = std::max(1, static_cast<int>(std::ceil(extent[a] / cell_)));
    origin_ = bounds_.min + Vec3(0.5f * cell_);
    const auto nx = static_cast<std::size_t>(size_[0]), ny = static_cast<std::size_t>(size_[1]),
               nz = static_cast<std::size_t>(size_[2]);
    std::vector<std::uint8_t> votes(nx * ny * nz, 0);
    const std::size_t stride[3] = {1, nx, nx * ny};
    for (int along = 0; along < 3; ++along) {
        job.report(static_cast<float>(along) / 4.f, "Finding the inside");
        job.check();
        const int u = (along + 1) % 3, v = (along + 2) % 3;
        parallelFor(static_cast<std::size_t>(size_[v]), [&](std::size_t j) {
            for (int i = 0; i < size_[u]; ++i) {
                Vec3 o = origin_, d(0.f);
                // A hair off the cell's middle, so that no line runs exactly along an edge of a neat mesh.
                o[u] += cell_ * (static_cast<float>(i) + 0.0137f);
                o[v] += cell_ * (static_cast<float>(j) + 0.0071f);
                o[along] = bounds_.min[along] - cell_;
                d[along] = 1.f;
                std::vector<float> crossings;
                float from = 0.f;
                const float end = extent[along] + 3.f * cell_;
                geometry::Hit hit;
                while (crossings.size() < 4096 && scene.trace(o, d, from, end, hit)) {
                    crossings.push_back(hit.t);
                    from = hit.t + cell_ * 1e-4f;
                }
                if (crossings.size() % 2 != 0)
                    continue; // an open side: this line knows nothing
                for (std::size_t k = 0; k + 1 < crossings.size(); k += 2) {
                    const int first = std::max(0, static_cast<int>(std::ceil((crossings[k] - 1.5f * cell_) / cell_))),
                              last = std::min(size_[along] - 1,
                                              static_cast<int>(std::floor((crossings[k + 1] - 1.5f * cell_) / cell_)));
                    for (int c = first; c <= last; ++c)
                        ++votes[static_cast<std::size_t>(c) * stride[along] + static_cast<std::size_t>(i) * stride[u] +
                                j * stride[v]];
                }
            }
        });
    }
    job.check();
    // Exact squared distances to the nearest cell outside, one axis after the other (Felzenszwalb & Huttenlocher 2012).
    depth_.resize(votes.size());
    std::size_t inside = 0;
    for (std::size_t i = 0; i < votes.size(); ++i) {
        depth_[i] = votes[i] >= 2 ? 1e12f : 0.f;
        inside += votes[i] >= 2;
    }
    fill_ = static_cast<float>(inside) / static_cast<float>(std::max<std::size_t>(1, votes.size()));
    for (int along = 0; along < 3; ++along) {
        const int u = (along + 1) % 3, v = (along + 2) % 3, n = size_[along];
        parallelFor(static_cast<std::size_t>(size_[v]), [&](std::size_t j) {
            // One cell outside is added at both ends: beyond the bounds nothing is inside.
            std::vector<float> f(static_cast<std::size_t>(n) + 2), z(f.size() + 1);
            std::vector<int> hull(f.size());
            for (int i = 0; i < size_[u]; ++i) {
                float* at = &depth_[static_cast<std::size_t>(i) * stride[u] + j * stride[v]];
                f.front() = f.back() = 0.f;
                for (int k = 0; k < n; ++k)
                    f[static_cast<std::size_t>(k) + 1] = at[static_cast<std::size_t>(k) * stride[along]];
                int count = 0;
                hull[0] = 0;
                z[0] = -1e20f;
                z[1] = 1e20f;
                for (int q = 1; q < n + 2; ++q) {
                    float s;
                    for (;;) {
                        const int p = hull[static_cast<std::size_t>(count)];
                        s = ((f[static_cast<std::size_t>(q)] + static_cast<float>(q * q)) -
                             (f[static_cast<std::size_t>(p)] + static_cast<float>(p * p))) /
                            static_cast<float>(2 * (q - p));
                        if (s > z[static_cast<std::size_t>(count)] || count == 0)
                            break;
                        --count;
                    }
                    ++count;
                    hull[static_cast<std::size_t>(count)] = q;
                    z[static_cast<std::size_t>(count)] = s;
                    z[static_cast<std::size_t>(count) + 1] = 1e20f;
                }
                int k = 0;
                for (int q = 1; q <= n; ++q) {
                    while (z[static_cast<std::size_t>(k) + 1] < static_cast<float>(q))
                        ++k;
                    const int p = hull[static_cast<std::size_t>(k)];
                    at[static_cast<std::size_t>(q - 1) * stride[along]] = static_cast<float>((q - p) * (q - p)) +
                                                                          f[static_cast<std::size_t>(p)];
                }
            }
        });
    }
    for (float& d : depth_)
        d = std::max(0.f, std::sqrt(d) - 0.5f) * cell_; // to the face between the two cells
}

F8 InsideField::depth8(F8 x, F8 y, F8 z) const
{
    F8 f[3], out;
    I8 at[3];
    const F8 p[3] = {x, y, z};
    for (int a = 0; a < 3; ++a) {
        const F8 u = (p[a] - origin_[a]) * (1.f / cell_), low = floor8(u);
        f[a] = u - low;
        at[a] = toInt(clamp8(low, -1e6f, 1e6f));
    }
    const auto value = [&](int i, int j, int k) {
        if (i < 0 || j < 0 || k < 0 || i >= size_[0] || j >= size_[1] || k >= size_[2])
            return 0.f;
        return depth_[(static_cast<std::size_t>(k) * static_cast<std::size_t>(size_[1]) + static_cast<std::size_t>(j)) *
                          static_cast<std::size_t>(size_[0]) +
                      static_cast<std::size_t>(i)];
    };
    for (int l = 0; l < lanes; ++l) {
        const int i = at[0][l], j = at[1][l], k = at[2][l];
        if (i < -1 || j < -1 || k < -1 || i >= size_[0] || j >= size_[1] || k >= size_[2]) {
            out[l] = 0.f;
            continue;
        }
        const auto mix = [](float a, float b, float t) { return a + (b - a) * t; };
        const float fx = f[0][l], fy = f[1][l], fz = f[2][l];
        out[l] = mix(
            mix(mix(value(i, j, k), value(i + 1, j, k), fx), mix(value(i, j + 1, k), value(i + 1, j + 1, k), fx), fy),
            mix(mix(value(i, j, k + 1), value(i + 1, j, k + 1), fx),
                mix(value(i, j + 1, k + 1), value(i + 1, j + 1, k + 1), fx), fy),
            fz);
    }
    return out;
}
} // namespace hygros::media
