#include "geometry/set_geometry.h"

#include "base/error.h"
#include "base/srgb.h"

#include <algorithm>
#include <array>
#include <cmath>

namespace hygros::geometry {
namespace {
const std::array<float, 256>& linearOfByte()
{
    static const std::array<float, 256> table = [] {
        std::array<float, 256> t{};
        for (unsigned i = 0; i < 256; ++i) {
            t[i] = linearOfSrgb(static_cast<float>(i) / 255.f);
        }
        return t;
    }();
    return table;
}
} // namespace

Texture::Texture(int width, int height, std::vector<std::uint8_t> rgb)
{
    levels_.push_back({width, height, std::move(rgb)});
    while (levels_.back().width > 1 && levels_.back().height > 1) {
        const Level& big = levels_.back();
        Level small{big.width / 2, big.height / 2, {}};
        small.rgb.resize(static_cast<std::size_t>(small.width * small.height) * 3);
        for (int y = 0; y < small.height; ++y)
            for (int x = 0; x < small.width; ++x)
                for (int c = 0; c < 3; ++c) {
                    const auto at = [&](int px, int py) {
                        return static_cast<int>(big.rgb[static_cast<std::size_t>((py * big.width + px) * 3 + c)]);
                    };
                    small.rgb[static_cast<std::size_t>((y * small.width + x) * 3 + c)] = static_cast<std::uint8_t>(
                        (at(2 * x, 2 * y) + at(2 * x + 1, 2 * y) + at(2 * x, 2 * y + 1) + at(2 * x + 1, 2 * y + 1) +
                         2) /
                        4);
                }
        levels_.push_back(std::move(small));
    }
}

std::size_t Texture::bytes() const
{
    std::size_t sum = 0;
    for (const Level& l : levels_)
        sum += l.rgb.size();
    return sum;
}

std::size_t SetGeometry::bytes() const
{
    std::size_t sum = sizeof *this;
    for (const Mesh& m : meshes)
        sum += (m.positions.size() + m.normals.size()) * sizeof(Vec3) + m.uvs.size() * sizeof(Vec2) +
               m.indices.size() * sizeof(std::uint32_t);
    for (const Material& m : materials)
        sum += m.texture ? m.texture->bytes() : 0;
    sum += parts.size() * sizeof(Part) + (rig ? rig->bytes() : 0);
    return sum;
}

Vec3 Texture::sample(const Vec2& uv, float footprint) const
{
    const float texels = footprint * static_cast<float>(std::max(levels_[0].width, levels_[0].height));
    const int which = std::clamp(static_cast<int>(std::lround(std::log2(std::max(1.f, texels)))), 0,
                                 static_cast<int>(levels_.size()) - 1);
    const Level& l = levels_[static_cast<std::size_t>(which)];
    const float x = (uv.x - std::floor(uv.x)) * static_cast<float>(l.width) - 0.5f;
    const float y = (uv.y - std::floor(uv.y)) * static_cast<float>(l.height) - 0.5f;
    const int x0 = static_cast<int>(std::floor(x)), y0 = static_cast<int>(std::floor(y));
    const float fx = x - static_cast<float>(x0), fy = y - static_cast<float>(y0);
    const auto wrap = [](int v, int n) { return v < 0 ? v + n : (v >= n ? v - n : v); };
    const auto& linear = linearOfByte();
    const auto at = [&](int px, int py) {
        const std::uint8_t* t =
            &l.rgb[static_cast<std::size_t>((wrap(py, l.height) * l.width + wrap(px, l.width)) * 3)];
        return Vec3(linear[t[0]], linear[t[1]], linear[t[2]]);
    };
    return lerp(lerp(at(x0, y0), at(x0 + 1, y0), fx), lerp(at(x0, y0 + 1), at(x0 + 1, y0 + 1), fx), fy);
}

namespace {
/// Copies of one thing are one object: "post.003" and "post_12" are "post".
std::string objectName(std::string name)
{
    while (!name.empty() && std::isdigit(static_cast<unsigned char>(name.back())))
        name.pop_back();
    while (!name.empty() && (name.back() == '.' || name.back() == '_' || name.back() == '-' || name.back() == ' '))
        name.pop_back();
    return name.empty() ? "rest" : name;
}
} // namespace

namespace {
/// Coordinates farther out than this mean a damaged file [m].
constexpr float farthest = 1e7f;

/// Throws where a mesh's numbers are not finite or beyond what floats can place.
void checkNumbers(const Mesh& m, float most, const std::filesystem::path& file)
{
    const auto refuse = [&](const std::string& what, bool finite) {
        throw inputError("Importing", file.string(),
                         "mesh '" + m.name + "' has a " + what +
                             (finite ? " beyond 10 000 km" : " that is not a number"),
                         "The file is damaged. Nothing was replaced.");
    };
    const auto check = [&](const auto& values, const char* what, float limit) {
        for (const auto& v : values)
            for (unsigned c = 0; c < v.dimensions(); ++c)
                if (!(std::abs(v[static_cast<int>(c)]) <= limit))
                    refuse(what, std::isfinite(v[static_cast<int>(c)]));
    };
    check(m.positions, "position", most);
    check(m.normals, "normal", 1e7f);
    check(m.uvs, "texture coordinate", 1e7f);
}
} // namespace

namespace {
constexpr const char* doing = "Importing";
void finish(SetGeometry* set, const std::filesystem::path& file, JobControl& job);
} // namespace

std::shared_ptr<const SetGeometry> importSet(const std::filesystem::path& file, JobControl& job)
{
    if (!std::filesystem::exists(file))
        throw inputError(doing, file.string(), "there is no such file", "Nothing was replaced.");
    std::string ending = file.extension().string();
    std::transform(ending.begin(), ending.end(), ending.begin(), [](unsigned char c) { return std::tolower(c); });
    auto set = std::make_shared<SetGeometry>();
    if (ending == ".gltf" || ending == ".glb")
        *set = detail::readGltf(file, job);
    else if (ending == ".ply")
        *set = detail::readPly(file, job);
    else if (ending == ".obj" || ending == ".fbx")
        *set = detail::readMesh(file, job);
    else
        throw inputError(doing, file.string(), "the ending '" + ending + "' is not one that can be read",
                         "Use .glb, .gltf, .obj, .ply or .fbx.");
    job.report(0.8f, "Checking");
    finish(set.get(), file, job);
    job.report(1.f, "Imported");
    return set;
}

std::shared_ptr<const SetGeometry> posedSet(const std::shared_ptr<const SetGeometry>& set,
                                            const std::filesystem::path& file, int clip, double seconds,
                                            JobControl& job)
{
    if (!set->rig || clip < 0 || clip >= static_cast<int>(set->clips.size()))
        return set;
    auto posed = std::make_shared<SetGeometry>(set->rig->posed(clip, seconds, job));
    finish(posed.get(), file, job);
    posed->metresPerUnit = set->metresPerUnit;
    posed->beside = set->beside;
    posed->lamps = set->lamps;
    posed->cameras = set->cameras;
    return posed;
}

namespace {
void finish(SetGeometry* set, const std::filesystem::path& file, JobControl& job)
{
    if (set->materials.empty())
        set->materials.emplace_back();
    for (Mesh& m : set->meshes) {
        job.check();
        const std::string name = objectName(m.name);
        const auto found = std::find(set->groups.begin(), set->groups.end(), name);
        m.group = static_cast<std::uint16_t>(found - set->groups.begin());
        if (found == set->groups.end() && set->groups.size() < 250)
            set->groups.push_back(name);
        m.group = std::min<std::uint16_t>(m.group, 249); // the last one stands for all further ones
        checkNumbers(m, set->metresPerUnit > 0.f ? farthest / set->metresPerUnit : farthest, file);
        for (const Vec3& p : m.positions)
            set->bounds.extendBy(p);
        for (const std::uint32_t i : m.indices)
            if (i >= m.positions.size())
                throw inputError(doing, file.string(), "mesh '" + m.name + "' refers to a vertex that is not there",
                                 "The file is damaged. Nothing was replaced.");
        set->triangles += m.indices.size() / 3;
        if (m.material >= set->materials.size())
            m.material = 0;
        if (m.normals.size() != m.positions.size()) {
            m.normals.assign(m.positions.size(), Vec3(0.f));
            for (std::size_t i = 0; i + 2 < m.indices.size(); i += 3) {
                const Vec3 &a = m.positions[m.indices[i]], &b = m.positions[m.indices[i + 1]],
                           &c = m.positions[m.indices[i + 2]];
                const Vec3 n = (b - a).cross(c - a);
                for (std::size_t k = 0; k < 3; ++k)
                    m.normals[m.indices[i + k]] += n;
            }
            for (Vec3& n : m.normals)
                n = n.length2() > 0.f ? n.normalized() : Vec3(0, 1, 0);
        }
        if (m.uvs.size() != m.positions.size())
            m.uvs.clear();
    }
    if (set->triangles == 0)
        throw inputError(doing, file.string(), "it holds no faces",
                         "Points and lines alone make no set. Nothing was replaced.");
}
} // namespace
} // namespace hygros::geometry
