#include "base/atomic_file.h"
#include "base/error.h"
#include "base/json_depth.h"
#include "base/parallel.h"
#include "geometry/set_geometry.h"

#include <Imath/ImathQuat.h>
#include <atomic>
#include <cmath>
#include <cstring>
#include <stb/stb_image.h>
#include <tiny_gltf.h>

namespace hygros::geometry::detail {
namespace {
Error damaged(const std::filesystem::path& file, const std::string& why)
{
    return inputError("Importing", file.string(), why, "Nothing was replaced.");
}

Mat4 matrixOf(const tinygltf::Node& node)
{
    Mat4 m;
    if (node.matrix.size() == 16) {
        // glTF stores columns; Imath multiplies row vectors, whose matrix is the transpose: the same order.
        for (int i = 0; i < 16; ++i)
            m[i / 4][i % 4] = static_cast<float>(node.matrix[static_cast<std::size_t>(i)]);
        return m;
    }
    const auto component = [](const std::vector<double>& v, std::size_t i, double otherwise) {
        return static_cast<float>(i < v.size() ? v[i] : otherwise);
    };
    Mat4 s, r, t;
    s.setScale(Vec3(component(node.scale, 0, 1), component(node.scale, 1, 1), component(node.scale, 2, 1)));
    Imath::Quatf q(component(node.rotation, 3, 1), component(node.rotation, 0, 0), component(node.rotation, 1, 0),
                   component(node.rotation, 2, 0));
    r = q.toMatrix44();
    t.setTranslation(
        Vec3(component(node.translation, 0, 0), component(node.translation, 1, 0), component(node.translation, 2, 0)));
    return s * r * t;
}

class Reader {
public:
    Reader(const std::filesystem::path& file, const tinygltf::Model& model, JobControl& job)
        : file_(file), model_(model), job_(job)
    {
    }
    SetGeometry read();

private:
    void node(int index, const Mat4& parent, int depth);
    void primitive(const tinygltf::Mesh& mesh, const tinygltf::Primitive& p, const Mat4& m);
    /// Start and stride of an accessor after checking that all of it lies inside its buffer.
    const unsigned char* data(int accessor, int components, std::size_t& count, std::size_t& stride, int& type) const;
    void materials();

    const std::filesystem::path& file_;
    const tinygltf::Model& model_;
    JobControl& job_;
    SetGeometry set_;
};

const unsigned char* Reader::data(int index, int components, std::size_t& count, std::size_t& stride, int& type) const
{
    if (index < 0 || index >= static_cast<int>(model_.accessors.size()))
        throw damaged(file_, "a mesh refers to data that is not there");
    const tinygltf::Accessor& a = model_.accessors[static_cast<std::size_t>(index)];
    if (a.bufferView < 0 || a.bufferView >= static_cast<int>(model_.bufferViews.size()) || a.sparse.isSparse)
        throw damaged(file_, "a mesh keeps its data in a way that cannot be read (sparse or without a buffer view)");
    if (tinygltf::GetNumComponentsInType(static_cast<std::uint32_t>(a.type)) != components)
        throw damaged(file_, "a mesh's data has the wrong shape");
    const tinygltf::BufferView& view = model_.bufferViews[static_cast<std::size_t>(a.bufferView)];
    if (view.buffer < 0 || view.buffer >= static_cast<int>(model_.buffers.size()))
        throw damaged(file_, "a mesh refers to a buffer that is not there");
    const auto& bytes = model_.buffers[static_cast<std::size_t>(view.buffer)].data;
    const int step = a.ByteStride(view);
    const int size = tinygltf::GetComponentSizeInBytes(static_cast<std::uint32_t>(a.componentType));
    if (step <= 0 || size <= 0)
        throw damaged(file_, "a mesh's data has an unknown type");
    count = a.count;
    stride = static_cast<std::size_t>(step);
    type = a.componentType;
    const std::size_t start = view.byteOffset + a.byteOffset;
    if (count == 0 || start > bytes.size() || count > bytes.size() ||
        start + (count - 1) * stride + static_cast<std::size_t>(size * components) > bytes.size())
        throw damaged(file_, "it is truncated: a mesh's data ends before it should");
    return bytes.data() + start;
}

void Reader::primitive(const tinygltf::Mesh& mesh, const tinygltf::Primitive& p, const Mat4& m)
{
    if (p.mode != TINYGLTF_MODE_TRIANGLES && p.mode != -1)
        return; // points, lines and strips are not surfaces here
    const auto position = p.attributes.find("POSITION");
    if (position == p.attributes.end())
        return;
    Mesh out;
    out.name = mesh.name;
    out.material = p.material < 0 ? 0u : static_cast<std::uint32_t>(p.material);
    std::size_t count = 0, stride = 0;
    int type = 0;
    const auto floats = [&](int accessor, int components, auto&& take) {
        const unsigned char* at = data(accessor, components, count, stride, type);
        if (type != TINYGLTF_COMPONENT_TYPE_FLOAT)
            throw damaged(file_, "a mesh's vertices are not floating-point");
        for (std::size_t i = 0; i < count; ++i, at += stride) {
            float v[3] = {0, 0, 0};
            std::memcpy(v, at, sizeof(float) * static_cast<std::size_t>(components));
            take(v);
        }
    };
    floats(position->second, 3, [&](const float* v) {
        Vec3 q;
        m.multVecMatrix(Vec3(v[0], v[1], v[2]), q);
        out.positions.push_back(q);
    });
    Mat4 forNormals = m.inverse().transposed();
    if (const auto normal = p.attributes.find("NORMAL"); normal != p.attributes.end())
        floats(normal->second, 3, [&](const float* v) {
            Vec3 q;
            forNormals.multDirMatrix(Vec3(v[0], v[1], v[2]), q);
            out.normals.push_back(q.length2() > 0.f ? q.normalized() : Vec3(0, 1, 0));
        });
    if (const auto uv = p.attributes.find("TEXCOORD_0"); uv != p.attributes.end()) {
        const auto& a = model_.accessors.at(static_cast<std::size_t>(uv->second));
        if (a.componentType == TINYGLTF_COMPONENT_TYPE_FLOAT)
            floats(uv->second, 2, [&](const float* v) { out.uvs.emplace_back(v[0], v[1]); });
    }
    if (p.indices >= 0) {
        const unsigned char* at = data(p.indices, 1, count, stride, type);
        for (std::size_t i = 0; i < count; ++i, at += stride) {
            std::uint32_t v = 0;
            if (type == TINYGLTF_COMPONENT_TYPE_UNSIGNED_INT)
                std::memcpy(&v, at, 4);
            else if (type == TINYGLTF_COMPONENT_TYPE_UNSIGNED_SHORT)
                v = static_cast<std::uint32_t>(at[0] | (at[1] << 8));
            else
                v = at[0];
            out.indices.push_back(v);
        }
    } else {
        for (std::uint32_t i = 0; i < out.positions.size(); ++i)
            out.indices.push_back(i);
    }
    out.indices.resize(out.indices.size() / 3 * 3);
    set_.meshes.push_back(std::move(out));
}

void Reader::node(int index, const Mat4& parent, int depth)
{
    job_.check();
    if (index < 0 || index >= static_cast<int>(model_.nodes.size()) || depth > 64)
        throw damaged(file_, "its tree of nodes is broken");
    const tinygltf::Node& n = model_.nodes[static_cast<std::size_t>(index)];
    const Mat4 m = matrixOf(n) * parent;
    if (n.mesh >= 0 && n.mesh < static_cast<int>(model_.meshes.size())) {
        const tinygltf::Mesh& mesh = model_.meshes[static_cast<std::size_t>(n.mesh)];
        for (const tinygltf::Primitive& p : mesh.primitives)
            primitive(mesh, p, m);
    }
    for (const int child : n.children)
        node(child, m, depth + 1);
}

void Reader::materials()
{
    // Pictures were left encoded by the loader (see keepEncoded); decode them side by side.
    std::vector<std::shared_ptr<const Texture>> pictures(model_.images.size());
    std::atomic<bool> broken{false};
    parallelFor(pictures.size(), [&](std::size_t i) {
        const auto& bytes = model_.images[i].image;
        int w = 0, h = 0, channels = 0;
        unsigned char* rgb = bytes.empty() ? nullptr
                                           : stbi_load_from_memory(bytes.data(), static_cast<int>(bytes.size()), &w, &h,
                                                                   &channels, 3);
        if (!rgb) {
            broken = true;
            return;
        }
        pictures[i] = std::make_shared<Texture>(
            w, h, std::vector<std::uint8_t>(rgb, rgb + static_cast<std::ptrdiff_t>(w) * h * 3));
        stbi_image_free(rgb);
    });
    if (broken)
        throw damaged(file_, "a texture in it cannot be read");
    for (const tinygltf::Material& m : model_.materials) {
        Material out;
        out.name = m.name;
        const auto& pbr = m.pbrMetallicRoughness;
        const auto unit = [](double v) {
            return static_cast<float>(std::isfinite(v) ? std::fmin(1.0, std::fmax(0.0, v)) : 0.5);
        };
        if (pbr.baseColorFactor.size() >= 3)
            out.baseColour = Vec3(unit(pbr.baseColorFactor[0]), unit(pbr.baseColorFactor[1]),
                                  unit(pbr.baseColorFactor[2]));
        out.metallic = unit(pbr.metallicFactor);
        out.roughness = unit(pbr.roughnessFactor);
        float strength = 1.f;
        if (const auto e = m.extensions.find("KHR_materials_emissive_strength");
            e != m.extensions.end() && e->second.Has("emissiveStrength"))
            strength = static_cast<float>(e->second.Get("emissiveStrength").GetNumberAsDouble());
        if (m.emissiveFactor.size() == 3)
            out.emission = Vec3(unit(m.emissiveFactor[0]), unit(m.emissiveFactor[1]), unit(m.emissiveFactor[2])) *
                           strength;
        const int t = pbr.baseColorTexture.index;
        if (t >= 0 && t < static_cast<int>(model_.textures.size())) {
            const int source = model_.textures[static_cast<std::size_t>(t)].source;
            if (source >= 0 && source < static_cast<int>(pictures.size()))
                out.texture = pictures[static_cast<std::size_t>(source)];
        }
        set_.materials.push_back(std::move(out));
    }
}

SetGeometry Reader::read()
{
    job_.report(0.4f, "Reading meshes");
    const Mat4 identity;
    if (model_.scenes.empty()) {
        std::vector<char> isChild(model_.nodes.size(), 0);
        for (const auto& n : model_.nodes)
            for (const int c : n.children)
                if (c >= 0 && c < static_cast<int>(isChild.size()))
                    isChild[static_cast<std::size_t>(c)] = 1;
        for (std::size_t i = 0; i < isChild.size(); ++i)
            if (!isChild[i])
                node(static_cast<int>(i), identity, 0);
    } else {
        const auto wanted = static_cast<std::size_t>(std::max(0, model_.defaultScene));
        for (const int n : model_.scenes[std::min(wanted, model_.scenes.size() - 1)].nodes)
            node(n, identity, 0);
    }
    job_.report(0.6f, "Reading materials");
    materials();
    return std::move(set_);
}

/// A relative address as a file's name: "two%20words.png" is "two words.png".
std::string decoded(const std::string& uri)
{
    std::string out;
    for (std::size_t i = 0; i < uri.size(); ++i)
        if (uri[i] == '%' && i + 2 < uri.size() && std::isxdigit(static_cast<unsigned char>(uri[i + 1])) &&
            std::isxdigit(static_cast<unsigned char>(uri[i + 2]))) {
            out += static_cast<char>(std::stoi(uri.substr(i + 1, 2), nullptr, 16));
            i += 2;
        } else {
            out += uri[i];
        }
    return out;
}

bool keepEncoded(tinygltf::Image* image, const int, std::string*, std::string*, int, int, const unsigned char* bytes,
                 int size, void*)
{
    image->image.assign(bytes, bytes + size);
    return true;
}
} // namespace

namespace {
/// The reader goes as deep as its JSON does.
void checkDepth(const std::filesystem::path& file, bool binary)
{
    std::string text = readText(file, "Importing");
    if (binary) {
        constexpr std::size_t head = 20; // magic, version, length; then the length and name of the JSON chunk
        std::uint32_t length = 0;
        if (text.size() < head)
            return; // told by the reader
        std::memcpy(&length, text.data() + 12, sizeof length);
        text = text.substr(head, length);
    }
    checkJsonDepth(text, "Importing", file.string());
}
} // namespace

SetGeometry readGltf(const std::filesystem::path& file, JobControl& job)
{
    job.report(0.1f, "Reading " + file.filename().string());
    tinygltf::TinyGLTF loader;
    loader.SetImageLoader(keepEncoded, nullptr);
    tinygltf::Model model;
    std::string error, warning;
    const bool binary = file.extension() == ".glb" || file.extension() == ".GLB";
    checkDepth(file, binary);
    bool good = false;
    try {
        good = binary ? loader.LoadBinaryFromFile(&model, &error, &warning, file.string())
                      : loader.LoadASCIIFromFile(&model, &error, &warning, file.string());
    } catch (const std::exception& e) {
        error = e.what();
    }
    if (!good) {
        for (char& c : error)
            if (c == '\n')
                c = ' ';
        while (error.ends_with(' ') || error.ends_with('.'))
            error.pop_back();
        throw damaged(file,
                      "it is damaged or truncated (" + (error.empty() ? std::string("no valid glTF") : error) + ")");
    }
    job.check();
    SetGeometry set = Reader(file, model, job).read();
    const auto alsoRead = [&](const std::string& uri) {
        if (!uri.empty() && !uri.starts_with("data:"))
            set.beside.push_back(versionOf(file.parent_path() / decoded(uri)));
    };
    for (const tinygltf::Buffer& b : model.buffers)
        alsoRead(b.uri);
    for (const tinygltf::Image& i : model.images)
        alsoRead(i.uri);
    return set;
}
} // namespace hygros::geometry::detail
