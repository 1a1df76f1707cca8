#include "geometry/write_mesh.h"

#include "base/atomic_file.h"
#include "base/error.h"

#include <array>
#include <bit>
#include <charconv>
#include <fstream>
#include <nlohmann/json.hpp>

namespace hygros::geometry {
namespace {
static_assert(std::endian::native == std::endian::little);
static_assert(sizeof(Vec3) == 3 * sizeof(float));

void ply(std::ofstream& file, const Mesh& mesh)
{
    file << "ply\nformat binary_little_endian 1.0\ncomment metres, Y up\nelement vertex " << mesh.positions.size()
         << "\nproperty float x\nproperty float y\nproperty float z\nproperty float nx\nproperty float ny\nproperty "
            "float nz\nelement face "
         << mesh.indices.size() / 3 << "\nproperty list uchar int vertex_indices\nend_header\n";
    for (std::size_t i = 0; i < mesh.positions.size(); ++i)
        for (const Vec3& v : {mesh.positions[i], mesh.normals[i]})
            file.write(reinterpret_cast<const char*>(v.getValue()), sizeof(float) * 3);
    for (std::size_t i = 0; i + 2 < mesh.indices.size(); i += 3) {
        const char three = 3;
        file.write(&three, 1);
        file.write(reinterpret_cast<const char*>(&mesh.indices[i]), sizeof(std::uint32_t) * 3);
    }
}

void obj(std::ofstream& file, const Mesh& mesh)
{
    file << "# metres, Y up\n";
    const auto line = [&](const char* word, const Vec3& v) {
        file << word;
        for (int c = 0; c < 3; ++c) {
            std::array<char, 32> text;
            const auto end = std::to_chars(text.data(), text.data() + text.size(), v[c]).ptr;
            file << ' ' << std::string_view(text.data(), static_cast<std::size_t>(end - text.data()));
        }
        file << '\n';
    };
    for (const Vec3& p : mesh.positions)
        line("v", p);
    for (const Vec3& n : mesh.normals)
        line("vn", n);
    for (std::size_t i = 0; i + 2 < mesh.indices.size(); i += 3) {
        file << 'f';
        for (std::size_t k = 0; k < 3; ++k)
            file << ' ' << mesh.indices[i + k] + 1 << "//" << mesh.indices[i + k] + 1;
        file << '\n';
    }
}

/// Binary glTF 2.0: a header, what there is as JSON, the numbers.
void glb(std::ofstream& file, const Mesh& mesh)
{
    using nlohmann::json;
    const std::size_t points = mesh.positions.size() * sizeof(Vec3), triangles = mesh.indices.size() * 4;
    Box3 box;
    for (const Vec3& p : mesh.positions)
        box.extendBy(p);
    json j;
    j["asset"] = {{"version", "2.0"}, {"generator", "Hygros"}};
    j["scene"] = 0;
    j["scenes"] = json::array({{{"nodes", {0}}}});
    j["nodes"] = json::array({{{"mesh", 0}, {"name", mesh.name}}});
    j["meshes"] = json::array(
        {{{"name", mesh.name},
          {"primitives", json::array({{{"attributes", {{"POSITION", 0}, {"NORMAL", 1}}}, {"indices", 2}}})}}});
    j["buffers"] = json::array({{{"byteLength", 2 * points + triangles}}});
    j["bufferViews"] = json::array(
        {{{"buffer", 0}, {"byteOffset", 0}, {"byteLength", points}, {"target", 34962}},
         {{"buffer", 0}, {"byteOffset", points}, {"byteLength", points}, {"target", 34962}},
         {{"buffer", 0}, {"byteOffset", 2 * points}, {"byteLength", triangles}, {"target", 34963}}});
    j["accessors"] = json::array(
        {{{"bufferView", 0},
          {"componentType", 5126},
          {"count", mesh.positions.size()},
          {"type", "VEC3"},
          {"min", {box.min.x, box.min.y, box.min.z}},
          {"max", {box.max.x, box.max.y, box.max.z}}},
         {{"bufferView", 1}, {"componentType", 5126}, {"count", mesh.positions.size()}, {"type", "VEC3"}},
         {{"bufferView", 2}, {"componentType", 5125}, {"count", mesh.indices.size()}, {"type", "SCALAR"}}});
    std::string text = j.dump();
    text.resize((text.size() + 3) / 4 * 4, ' ');
    const auto number = [&](std::size_t v) {
        const auto n = static_cast<std::uint32_t>(v);
        file.write(reinterpret_cast<const char*>(&n), 4);
    };
    const std::size_t numbers = 2 * points + triangles; // whole fours
    number(0x46546C67);                                 // "glTF"
    number(2);
    number(12 + 8 + text.size() + 8 + numbers);
    number(text.size());
    number(0x4E4F534A); // "JSON"
    file.write(text.data(), static_cast<std::streamsize>(text.size()));
    number(numbers);
    number(0x004E4942); // "BIN"
    file.write(reinterpret_cast<const char*>(mesh.positions.data()), static_cast<std::streamsize>(points));
    file.write(reinterpret_cast<const char*>(mesh.normals.data()), static_cast<std::streamsize>(points));
    file.write(reinterpret_cast<const char*>(mesh.indices.data()), static_cast<std::streamsize>(triangles));
}
} // namespace

bool isMeshFile(const std::filesystem::path& file)
{
    const auto e = file.extension();
    return e == ".ply" || e == ".obj" || e == ".glb";
}

void writeMesh(const std::filesystem::path& out, const Mesh& mesh, const std::string& doing)
{
    writeAtomically(out, [&](const std::filesystem::path& to) {
        std::ofstream file(to, std::ios::binary);
        if (out.extension() == ".glb")
            glb(file, mesh);
        else if (out.extension() == ".obj")
            obj(file, mesh);
        else
            ply(file, mesh);
        if (!file.flush())
            throw workingError(doing, to.string(), "the file could not be written (is the disk full?)");
    });
}
} // namespace hygros::geometry
