#include "elements/places.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace hygros::elements {

std::vector<Spot> insideBox(const Vec3& centre, const Vec3& size, int count, Random& random)
{
    std::vector<Spot> out;
    for (int i = 0; i < count; ++i) {
        Spot spot;
        for (int a = 0; a < 3; ++a)
            spot.place[a] = centre[a] + size[a] * (random.next() - 0.5f);
        out.push_back(spot);
    }
    return out;
}

std::vector<Spot> onSurface(const geometry::PlacedSet& placed, int count, Random& random, float steepest)
{
    std::vector<std::array<Vec3, 3>> triangles;
    std::vector<double> sums;
    double whole = 0.0;
    const float upright = std::cos(steepest);
    for (const geometry::Mesh& m : placed.set->meshes) {
        if (std::find(placed.without.begin(), placed.without.end(), m.group) != placed.without.end())
            continue;
        for (std::size_t i = 0; i + 2 < m.indices.size(); i += 3) {
            std::array<Vec3, 3> t;
            for (std::size_t k = 0; k < 3; ++k)
                t[k] = m.positions[m.indices[i + k]] * placed.toWorld;
            const Vec3 normal = (t[1] - t[0]).cross(t[2] - t[0]);
            const float area = normal.length();
            if (steepest < pi && std::abs(normal.y) < upright * area)
                continue;
            whole += static_cast<double>(area);
            triangles.push_back(t);
            sums.push_back(whole);
        }
    }
    std::vector<Spot> out;
    for (int i = 0; i < count && whole > 0.0; ++i) {
        const double at = static_cast<double>(random.next()) * whole;
        const auto& t = triangles[static_cast<std::size_t>(
            std::min<std::ptrdiff_t>(std::upper_bound(sums.begin(), sums.end(), at) - sums.begin(),
                                     static_cast<std::ptrdiff_t>(sums.size()) - 1))];
        const float r = std::sqrt(random.next()), v = random.next();
        const Vec3 normal = (t[1] - t[0]).cross(t[2] - t[0]);
        out.push_back({t[0] * (1.f - r) + t[1] * (r * (1.f - v)) + t[2] * (r * v),
                       normal.length2() > 0.f ? normal.normalized() : Vec3(0, 1, 0)});
        if (out.back().up.y < 0.f)
            out.back().up = -out.back().up;
    }
    return out;
}

Mat4 tilt(const Vec3& up)
{
    Mat4 m;
    const Vec3 axis = Vec3(0, 1, 0).cross(up);
    if (axis.length2() > 1e-10f)
        m.setAxisAngle(axis.normalized(), std::acos(std::clamp(up.y, -1.f, 1.f)));
    return m;
}

Mat4 toSpot(const Vec3& foot, float size, float turn, const Spot& spot, bool tilted, float lift)
{
    Mat4 down, scale, rotation, move;
    down.setTranslation(-foot);
    scale.setScale(Vec3(size));
    rotation.setAxisAngle(Vec3(0, 1, 0), turn);
    if (tilted)
        rotation = rotation * tilt(spot.up);
    move.setTranslation(spot.place + (tilted ? spot.up : Vec3(0, 1, 0)) * lift);
    return down * scale * rotation * move;
}

namespace {
std::string listOf(const std::vector<std::string>& names)
{
    constexpr std::size_t most = 24;
    std::string all;
    for (std::size_t i = 0; i < std::min(most, names.size()); ++i)
        all += (i ? ", " : "") + names[i];
    return names.size() > most ? all + " and " + std::to_string(names.size() - most) + " more" : all;
}

} // namespace

std::optional<geometry::PlacedSet> chosenObject(const FreezeContext& c, const std::string& id, const std::string& part,
                                                const std::string& none)
{
    const scene::Element* e = id.empty() ? nullptr : c.project.find(id);
    auto placed = e ? placedSet(c, *e) : std::nullopt;
    if (!placed) {
        c.note(none);
        return std::nullopt;
    }
    if (part.empty())
        return placed;
    const auto& groups = placed->set->groups;
    const auto own = std::find(groups.begin(), groups.end(), part);
    if (own == groups.end()) {
        c.note(groups.size() > 1 ? "'" + e->name + "' has no object '" + part + "'; it has " + listOf(groups) + "."
                                 : "'" + e->name + "' has no objects to tell apart.");
        return std::nullopt;
    }
    for (std::size_t g = 0; g < groups.size(); ++g)
        if (static_cast<std::ptrdiff_t>(g) != own - groups.begin())
            placed->without.push_back(static_cast<std::uint16_t>(g));
    return placed;
}
} // namespace hygros::elements
