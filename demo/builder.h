#pragma once
/// Small tools to build a place out of triangles: one mesh a material, metres, y up.
#include "base/random.h"
#include "base/vec.h"

#include <cstdint>
#include <span>
#include <string>
#include <vector>

namespace hygros::demo {

struct Surface {
    std::string name;
    Vec3 colour{1.f, 1.f, 1.f};
    float roughness = 0.8f, metallic = 0.f;
    int texture = -1;
    float texturesPerMetre = 1.f; ///< boxes, tubes and grids lay their texture by this
    Vec3 emission{0.f, 0.f, 0.f};
};

class Builder {
public:
    std::uint32_t vertex(const Vec3& p, const Vec3& n, const Vec2& uv);
    void triangle(std::uint32_t a, std::uint32_t b, std::uint32_t c);
    /// Corners in turn, seen from the side the normal points to.
    void quad(const Vec3& a, const Vec3& b, const Vec3& c, const Vec3& d);
    /// A box with chamfered edges. `turn` is about the vertical through its centre, then `tilt` in its own frame.
    void box(const Vec3& centre, const Vec3& size, float bevel = 0.012f, float turn = 0.f, float tilt = 0.f);
    /// A round bar through points with a radius at each.
    void tube(std::span<const Vec3> points, std::span<const float> radii, int sides);
    void tube(const Vec3& a, const Vec3& b, float ra, float rb, int sides);
    /// A thin upright leaf: one triangle seen from both sides.
    void blade(const Vec3& root, const Vec3& tip, float width);

    Surface surface;
    std::vector<Vec3> positions, normals;
    std::vector<Vec2> uvs;
    std::vector<std::uint32_t> indices;
};

/// Value noise that repeats after `period` cells, 0…1; for textures.
float tiledNoise(float x, float y, int period, std::uint32_t seed);
/// Four octaves of it.
float tiledClouds(float x, float y, int period, std::uint32_t seed);
/// Smooth noise over the plane without period, −1…1; for ground.
float groundNoise(float x, float y, std::uint32_t seed);

struct Picture {
    std::string name;
    int size = 256;
    std::vector<std::uint8_t> rgb; ///< sRGB
};
/// Textures by number, in this order.
enum PictureId { pictureStone, pictureBrick, picturePlanks, pictureGrass, pictureGravel, pictureBark, pictureCount };
std::vector<Picture> paintTextures();

/// Writes a binary glTF file.
void writeGlb(const std::string& file, const std::vector<Builder>& meshes, const std::vector<Picture>& pictures);
} // namespace hygros::demo
