#include "base/atomic_file.h"
#include "base/error.h"
#include "base/json_depth.h"
#include "base/parallel.h"
#include "geometry/gltf.h"
#include "geometry/gltf_uri.h"

#include <Imath/ImathQuat.h>
#include <atomic>
#include <cmath>
#include <cstring>
#include <stb/stb_image.h>

namespace hygros::geometry::detail {
namespace {
Error damaged(const std::filesystem::path& file, const std::string& why)
{
    return inputError("Importing", file.string(), why, "Nothing was replaced.");
}

Mat4 matrixOf(const tinygltf::Node& node, const GltfPose* pose)
{
    Mat4 m;
    const bool posed = pose && (pose->place || pose->turn || pose->size);
    if (node.matrix.size() == 16 && !posed) {
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
    if (posed && pose->size)
        s.setScale(*pose->size);
    if (posed && pose->turn) {
        const auto& v = *pose->turn;
        r = Imath::Quatf(v[3], v[0], v[1], v[2]).normalized().toMatrix44();
    }
    if (posed && pose->place)
        t.setTranslation(*pose->place);
    return s * r * t;
}

class Reader {
public:
    /// `poses`: by node, as a clip has them; null: as the file has them.
    Reader(const std::filesystem::path& file, const tinygltf::Model& model, JobControl& job,
           const std::vector<GltfPose>* poses = nullptr)
        : file_(file), model_(model), job_(job), poses_(poses), names_(partNames(model))
    {
    }
    SetGeometry read();
    /// Meshes alone.
    SetGeometry readMeshes();

private:
    void node(int index, const Mat4& parent, int depth);
    void findWorlds(int index, const Mat4& parent, int depth);
    std::vector<int> roots() const;
    const GltfPose* poseOf(int index) const { return poses_ ? &(*poses_)[static_cast<std::size_t>(index)] : nullptr; }
    void primitive(const tinygltf::Mesh& mesh, const tinygltf::Primitive& p, const Mat4& m, int index);
    /// Adds morph targets to points and normals, by the node's weights.
    void morph(const tinygltf::Mesh& mesh, const tinygltf::Primitive& p, int index, std::vector<Vec3>& positions,
               std::vector<Vec3>& normals) const;
    /// The matrix of each vertex by the joints that carry it; empty where it has none.
    std::vector<Mat4> skinned(const tinygltf::Primitive& p, int index, std::size_t vertices) const;
    const unsigned char* data(int accessor, int components, std::size_t& count, std::size_t& stride, int& type) const
    {
        return GltfData{file_, model_}.at(accessor, components, count, stride, type);
    }
    void materials();

    const std::filesystem::path& file_;
    const tinygltf::Model& model_;
    JobControl& job_;
    const std::vector<GltfPose>* poses_;
    std::vector<Mat4> worlds_; ///< by node, of posed ones
    std::vector<std::string> names_;
    SetGeometry set_;
};
} // namespace

const unsigned char* GltfData::at(int index, int components, std::size_t& count, std::size_t& stride, int& type) const
{
    if (index < 0 || index >= static_cast<int>(model.accessors.size()))
        throw damaged("a mesh refers to data that is not there");
    const tinygltf::Accessor& a = model.accessors[static_cast<std::size_t>(index)];
    if (a.bufferView < 0 || a.bufferView >= static_cast<int>(model.bufferViews.size()) || a.sparse.isSparse)
        throw damaged("a mesh keeps its data in a way that cannot be read (sparse or without a buffer view)");
    if (tinygltf::GetNumComponentsInType(static_cast<std::uint32_t>(a.type)) != components)
        throw damaged("a mesh's data has the wrong shape");
    const tinygltf::BufferView& view = model.bufferViews[static_cast<std::size_t>(a.bufferView)];
    if (view.buffer < 0 || view.buffer >= static_cast<int>(model.buffers.size()))
        throw damaged("a mesh refers to a buffer that is not there");
    const auto& bytes = model.buffers[static_cast<std::size_t>(view.buffer)].data;
    const int step = a.ByteStride(view);
    const int size = tinygltf::GetComponentSizeInBytes(static_cast<std::uint32_t>(a.componentType));
    if (step <= 0 || size <= 0)
        throw damaged("a mesh's data has an unknown type");
    count = a.count;
    stride = static_cast<std::size_t>(step);
    type = a.componentType;
    const std::size_t start = view.byteOffset + a.byteOffset;
    if (count == 0 || start > bytes.size() || count > bytes.size() ||
        start + (count - 1) * stride + static_cast<std::size_t>(size * components) > bytes.size())
        throw damaged("it is truncated: a mesh's data ends before it should");
    return bytes.data() + start;
}

namespace {
void Reader::primitive(const tinygltf::Mesh& mesh, const tinygltf::Primitive& p, const Mat4& m, int index)
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
    floats(position->second, 3, [&](const float* v) { out.positions.emplace_back(v[0], v[1], v[2]); });
    if (const auto normal = p.attributes.find("NORMAL"); normal != p.attributes.end())
        floats(normal->second, 3, [&](const float* v) { out.normals.emplace_back(v[0], v[1], v[2]); });
    if (poses_)
        morph(mesh, p, index, out.positions, out.normals);
    const std::vector<Mat4> byVertex = poses_ ? skinned(p, index, out.positions.size()) : std::vector<Mat4>();
    for (std::size_t i = 0; i < out.positions.size(); ++i) {
        const Vec3 q = out.positions[i];
        (byVertex.empty() ? m : byVertex[i]).multVecMatrix(q, out.positions[i]);
    }
    const Mat4 forNormals = m.inverse().transposed();
    for (std::size_t i = 0; i < out.normals.size(); ++i) {
        Vec3 q;
        (byVertex.empty() || i >= byVertex.size() ? forNormals : byVertex[i].inverse().transposed())
            .multDirMatrix(out.normals[i], q);
        out.normals[i] = q.length2() > 0.f ? q.normalized() : Vec3(0, 1, 0);
    }
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
    const Mat4 m = matrixOf(n, poseOf(index)) * parent;
    set_.parts.push_back({names_[static_cast<std::size_t>(index)], m});
    if (n.mesh >= 0 && n.mesh < static_cast<int>(model_.meshes.size())) {
        const tinygltf::Mesh& mesh = model_.meshes[static_cast<std::size_t>(n.mesh)];
        for (const tinygltf::Primitive& p : mesh.primitives)
            primitive(mesh, p, m, index);
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

std::vector<int> Reader::roots() const
{
    if (!model_.scenes.empty()) {
        const auto wanted = static_cast<std::size_t>(std::max(0, model_.defaultScene));
        return model_.scenes[std::min(wanted, model_.scenes.size() - 1)].nodes;
    }
    std::vector<char> isChild(model_.nodes.size(), 0);
    for (const auto& n : model_.nodes)
        for (const int c : n.children)
            if (c >= 0 && c < static_cast<int>(isChild.size()))
                isChild[static_cast<std::size_t>(c)] = 1;
    std::vector<int> out;
    for (std::size_t i = 0; i < isChild.size(); ++i)
        if (!isChild[i])
            out.push_back(static_cast<int>(i));
    return out;
}

SetGeometry Reader::readMeshes()
{
    if (poses_) {
        worlds_.resize(model_.nodes.size());
        for (const int n : roots())
            findWorlds(n, Mat4(), 0);
    }
    for (const int n : roots())
        node(n, Mat4(), 0);
    return std::move(set_);
}

SetGeometry Reader::read()
{
    job_.report(0.4f, "Reading meshes");
    for (const int n : roots())
        node(n, Mat4(), 0);
    job_.report(0.6f, "Reading materials");
    materials();
    return std::move(set_);
}

void Reader::findWorlds(int index, const Mat4& parent, int depth)
{
    if (index < 0 || index >= static_cast<int>(model_.nodes.size()) || depth > 64)
        throw damaged(file_, "its tree of nodes is broken");
    const tinygltf::Node& n = model_.nodes[static_cast<std::size_t>(index)];
    worlds_[static_cast<std::size_t>(index)] = matrixOf(n, poseOf(index)) * parent;
    for (const int child : n.children)
        findWorlds(child, worlds_[static_cast<std::size_t>(index)], depth + 1);
}

void Reader::morph(const tinygltf::Mesh& mesh, const tinygltf::Primitive& p, int index, std::vector<Vec3>& positions,
                   std::vector<Vec3>& normals) const
{
    const GltfData from{file_, model_};
    for (std::size_t k = 0; k < p.targets.size(); ++k) {
        const std::vector<float>& posed = poseOf(index)->weights;
        const auto& own = model_.nodes[static_cast<std::size_t>(index)].weights;
        const auto& plain = own.empty() ? mesh.weights : own;
        const float weight = k < posed.size() ? posed[k] : k < plain.size() ? static_cast<float>(plain[k]) : 0.f;
        if (weight == 0.f)
            continue;
        for (const auto& [name, to] : {std::pair("POSITION", &positions), std::pair("NORMAL", &normals)})
            if (const auto found = p.targets[k].find(name); found != p.targets[k].end()) {
                const std::vector<float> by = from.floats(found->second, 3);
                for (std::size_t i = 0; i < std::min(to->size(), by.size() / 3); ++i)
                    (*to)[i] += Vec3(by[3 * i], by[3 * i + 1], by[3 * i + 2]) * weight;
            }
    }
}

std::vector<Mat4> Reader::skinned(const tinygltf::Primitive& p, int index, std::size_t vertices) const
{
    const int which = model_.nodes[static_cast<std::size_t>(index)].skin;
    const auto joints = p.attributes.find("JOINTS_0"), weights = p.attributes.find("WEIGHTS_0");
    if (which < 0 || which >= static_cast<int>(model_.skins.size()) || joints == p.attributes.end() ||
        weights == p.attributes.end())
        return {};
    const tinygltf::Skin& skin = model_.skins[static_cast<std::size_t>(which)];
    const GltfData from{file_, model_};
    std::vector<Mat4> bones(skin.joints.size());
    const std::vector<float> inverse = skin.inverseBindMatrices >= 0 ? from.floats(skin.inverseBindMatrices, 16)
                                                                     : std::vector<float>();
    for (std::size_t b = 0; b < bones.size(); ++b) {
        const int node = skin.joints[b];
        if (node < 0 || node >= static_cast<int>(worlds_.size()))
            throw damaged(file_, "a skin refers to a joint that is not there");
        Mat4 bind;
        if (inverse.size() >= (b + 1) * 16)
            for (int i = 0; i < 16; ++i)
                bind[i / 4][i % 4] = inverse[b * 16 + static_cast<std::size_t>(i)];
        bones[b] = bind * worlds_[static_cast<std::size_t>(node)];
    }
    const std::vector<float> share = from.floats(weights->second, 4);
    std::size_t count = 0, stride = 0;
    int type = 0;
    const unsigned char* at = from.at(joints->second, 4, count, stride, type);
    if (count < vertices || share.size() < vertices * 4)
        throw damaged(file_, "a skin has fewer weights than its mesh has vertices");
    std::vector<Mat4> out(vertices);
    for (std::size_t i = 0; i < vertices; ++i, at += stride) {
        Mat4 sum;
        float all = 0.f;
        for (int r = 0; r < 4; ++r)
            for (int c = 0; c < 4; ++c)
                sum[r][c] = 0.f;
        for (std::size_t k = 0; k < 4; ++k) {
            const std::size_t joint = type == TINYGLTF_COMPONENT_TYPE_UNSIGNED_SHORT
                                          ? static_cast<std::size_t>(at[2 * k] | (at[2 * k + 1] << 8))
                                          : at[k];
            const float w = share[i * 4 + k];
            if (w == 0.f)
                continue;
            if (joint >= bones.size())
                throw damaged(file_, "a skin refers to a joint that is not there");
            for (int r = 0; r < 4; ++r)
                for (int c = 0; c < 4; ++c)
                    sum[r][c] += w * bones[joint][r][c];
            all += w;
        }
        out[i] = all > 0.f ? sum * (1.f / all) : Mat4();
    }
    return out;
}

/// A file with clips, kept to be posed.
class GltfRig final : public Rig {
public:
    GltfRig(std::filesystem::path file, tinygltf::Model model, std::vector<GltfClip> clips,
            std::vector<Material> materials)
        : file_(std::move(file)), model_(std::move(model)), clips_(std::move(clips)), materials_(std::move(materials))
    {
        for (tinygltf::Image& image : model_.images)
            image.image = {};
    }
    SetGeometry posed(int clip, double seconds, JobControl& job) const override
    {
        const auto poses = posesAt(clips_[static_cast<std::size_t>(clip)], seconds, model_.nodes.size());
        SetGeometry set = Reader(file_, model_, job, &poses).readMeshes();
        set.materials = materials_;
        return set;
    }
    std::size_t bytes() const override
    {
        std::size_t sum = 0;
        for (const tinygltf::Buffer& b : model_.buffers)
            sum += b.data.size();
        for (const GltfClip& c : clips_)
            for (const GltfChannel& channel : c.channels)
                sum += (channel.times.size() + channel.values.size()) * sizeof(float);
        return sum;
    }

private:
    std::filesystem::path file_;
    tinygltf::Model model_;
    std::vector<GltfClip> clips_;
    std::vector<Material> materials_;
};

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
    readLampsAndCameras(model, set);
    const auto alsoRead = [&](const std::string& uri) {
        if (!uri.empty() && !uri.starts_with("data:"))
            set.beside.push_back(versionOf(file.parent_path() / decodedUri(uri)));
    };
    for (const tinygltf::Buffer& b : model.buffers)
        alsoRead(b.uri);
    for (const tinygltf::Image& i : model.images)
        alsoRead(i.uri);
    std::vector<GltfClip> clips = clipsOf({file, model}, set.trouble);
    for (const GltfClip& c : clips)
        set.clips.push_back({c.name, c.seconds});
    if (!clips.empty())
        set.rig = std::make_shared<GltfRig>(file, std::move(model), std::move(clips), set.materials);
    return set;
}
} // namespace hygros::geometry::detail
