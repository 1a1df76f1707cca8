#pragma once
/// What a set file holds: triangle meshes with metallic-roughness materials (glTF 2.0's model), in the file's own unit.
#include "base/job.h"
#include "base/store.h"
#include "base/vec.h"

#include <cstdint>
#include <filesystem>
#include <memory>
#include <string>
#include <vector>

namespace hygros::geometry {

/// An eight-bit sRGB picture with a chain of halved copies; sampled in linear light, repeating.
class Texture {
public:
    /// rgb holds width·height·3 bytes, top row first.
    Texture(int width, int height, std::vector<std::uint8_t> rgb);
    /// Linear colour at uv (v down, as in glTF), from the level whose texels are about `footprint` wide in uv.
    Vec3 sample(const Vec2& uv, float footprint) const;
    std::size_t bytes() const;

private:
    struct Level {
        int width, height;
        std::vector<std::uint8_t> rgb;
    };
    std::vector<Level> levels_;
};

struct Material {
    std::string name;
    Vec3 baseColour{0.8f, 0.8f, 0.8f}; ///< linear, 0…1; times the texture if there is one
    float metallic = 0.f;              ///< 0…1
    float roughness = 0.8f;            ///< perceptual, 0…1 (GGX alpha is its square)
    bool isSnow = false;               ///< may glitter
    bool isWater = false;              ///< a mirror by its facets (Hit::facet), whatever its roughness
    Vec3 emission{0, 0, 0};            ///< radiance [W/m²/sr]
    std::shared_ptr<const Texture> texture;
};

struct Mesh {
    std::string name;
    std::vector<Vec3> positions, normals; ///< as many normals as positions, unit length
    std::vector<Vec2> uvs;                ///< empty or as many as positions
    std::vector<std::uint32_t> indices;   ///< three a triangle
    std::uint32_t material = 0;
    std::uint16_t group = 0; ///< its object, in SetGeometry::groups
};

struct SetGeometry;
/// What can set up a file's nodes and meshes at a time of one of its clips.
class Rig {
public:
    virtual ~Rig() = default;
    virtual SetGeometry posed(int clip, double seconds, JobControl& job) const = 0;
    virtual std::size_t bytes() const = 0;
};
struct Clip {
    std::string name;
    double seconds = 0.0; ///< how long it is
};

/// A node of the file, in the file's own unit: what lamps, cameras and air can be fixed to.
struct Part {
    std::string name; ///< no two are alike
    Mat4 toWorld;
};
/// A lamp that the file brings (glTF's KHR_lights_punctual; FBX), on a part of it.
struct FileLamp {
    std::string name, part;
    enum class Shape { Spot, Bulb, Distant } shape = Shape::Bulb;
    Vec3 position{0.f}, along{0, 0, -1}; ///< in the part's own axes
    Vec3 colour{1.f, 1.f, 1.f};
    double strength = 0.0; ///< candela, of distant ones lux; 0: the file gives no physical number
    double angle = 90.0;   ///< full opening of a spot [degrees]
    double edge = 0.0;     ///< share of the cone over which it fades
};
struct FileCamera {
    std::string part;
    Vec3 position{0.f}, along{0, 0, -1}, up{0, 1, 0};
    double width = 0.0, height = 0.0; ///< full angles of view [rad]; 0: not said
};

struct SetGeometry {
    std::vector<Mesh> meshes;
    std::vector<Material> materials; ///< never empty
    std::vector<std::string> groups; ///< names of its objects: meshes' names, endings like ".003" or "_12" left out
    Box3 bounds;
    std::size_t triangles = 0;
    std::vector<Clip> clips;        ///< of its animation
    std::shared_ptr<const Rig> rig; ///< null where it has no clips
    std::vector<Part> parts;        ///< its named nodes, where they stand
    std::vector<FileLamp> lamps;
    std::vector<FileCamera> cameras;
    std::string trouble;             ///< what of it was left out, in words; empty: nothing
    float metresPerUnit = 0.f;       ///< as the file says; 0: it does not say
    std::vector<FileVersion> beside; ///< other files that were read for it: buffers, materials, pictures
    std::size_t bytes() const;
};

/// Reads .gltf, .glb, .obj, .ply or .fbx. Throws an input Error (missing, truncated, damaged, no triangles, an index or
/// a number out of range) or Cancelled; reports progress.
std::shared_ptr<const SetGeometry> importSet(const std::filesystem::path& file, JobControl& job);

/// The set as its clip (by number, from 0) has it at a time; times outside of it are taken for its ends. The set itself
/// where it has no such clip. Throws as above.
std::shared_ptr<const SetGeometry> posedSet(const std::shared_ptr<const SetGeometry>& set,
                                            const std::filesystem::path& file, int clip, double seconds,
                                            JobControl& job);

namespace detail {
SetGeometry readGltf(const std::filesystem::path& file, JobControl& job);
SetGeometry readPly(const std::filesystem::path& file, JobControl& job);
/// OBJ and FBX.
SetGeometry readMesh(const std::filesystem::path& file, JobControl& job);
} // namespace detail
} // namespace hygros::geometry
