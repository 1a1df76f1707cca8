#include "builder.h"

#include "base/atomic_file.h"
#include "base/error.h"

#include <stb/stb_image_write.h>
#include <tiny_gltf.h>

namespace hygros::demo {
namespace {
template <class T> int addView(tinygltf::Model& model, const std::vector<T>& values, int target)
{
    auto& bytes = model.buffers[0].data;
    while (bytes.size() % 4)
        bytes.push_back(0);
    tinygltf::BufferView view;
    view.buffer = 0;
    view.byteOffset = bytes.size();
    view.byteLength = values.size() * sizeof(T);
    view.target = target;
    const auto* from = reinterpret_cast<const unsigned char*>(values.data());
    bytes.insert(bytes.end(), from, from + view.byteLength);
    model.bufferViews.push_back(view);
    return static_cast<int>(model.bufferViews.size() - 1);
}

template <class T>
int addAccessor(tinygltf::Model& model, const std::vector<T>& values, int type, int component, int target)
{
    tinygltf::Accessor a;
    a.bufferView = addView(model, values, target);
    a.count = values.size();
    a.type = type;
    a.componentType = component;
    if constexpr (std::is_same_v<T, Vec3>) {
        Box3 box;
        for (const Vec3& v : values)
            box.extendBy(v);
        a.minValues = {box.min.x, box.min.y, box.min.z};
        a.maxValues = {box.max.x, box.max.y, box.max.z};
    }
    model.accessors.push_back(a);
    return static_cast<int>(model.accessors.size() - 1);
}
} // namespace

void writeGlb(const std::string& file, const std::vector<Builder>& meshes, const std::vector<Picture>& pictures)
{
    tinygltf::Model model;
    model.asset.version = "2.0";
    model.asset.generator = "hygros-marl";
    model.buffers.emplace_back();
    for (const Picture& p : pictures) {
        std::vector<unsigned char> png;
        stbi_write_png_to_func(
            [](void* to, void* bytes, int size) {
                auto* out = static_cast<std::vector<unsigned char>*>(to);
                const auto* b = static_cast<const unsigned char*>(bytes);
                out->insert(out->end(), b, b + size);
            },
            &png, p.size, p.size, 3, p.rgb.data(), p.size * 3);
        tinygltf::Image image;
        image.name = p.name;
        image.mimeType = "image/png";
        image.bufferView = addView(model, png, 0);
        model.images.push_back(image);
        tinygltf::Texture texture;
        texture.source = static_cast<int>(model.images.size() - 1);
        model.textures.push_back(texture);
    }
    tinygltf::Scene scene;
    scene.name = "The lock at Marl";
    for (const Builder& b : meshes) {
        if (b.indices.empty())
            continue;
        const Surface& s = b.surface;
        tinygltf::Material m;
        m.name = s.name;
        m.pbrMetallicRoughness.baseColorFactor = {s.colour.x, s.colour.y, s.colour.z, 1.0};
        m.pbrMetallicRoughness.metallicFactor = s.metallic;
        m.pbrMetallicRoughness.roughnessFactor = s.roughness;
        if (s.texture >= 0)
            m.pbrMetallicRoughness.baseColorTexture.index = s.texture;
        const float brightest = maxComponent(s.emission);
        if (brightest > 0.f) {
            m.emissiveFactor = {s.emission.x / brightest, s.emission.y / brightest, s.emission.z / brightest};
            tinygltf::Value::Object strength;
            strength["emissiveStrength"] = tinygltf::Value(static_cast<double>(brightest));
            m.extensions["KHR_materials_emissive_strength"] = tinygltf::Value(strength);
            model.extensionsUsed = {"KHR_materials_emissive_strength"};
        }
        m.doubleSided = true;
        model.materials.push_back(m);
        tinygltf::Primitive p;
        p.material = static_cast<int>(model.materials.size() - 1);
        p.mode = TINYGLTF_MODE_TRIANGLES;
        p.attributes["POSITION"] = addAccessor(model, b.positions, TINYGLTF_TYPE_VEC3, TINYGLTF_COMPONENT_TYPE_FLOAT,
                                               TINYGLTF_TARGET_ARRAY_BUFFER);
        p.attributes["NORMAL"] = addAccessor(model, b.normals, TINYGLTF_TYPE_VEC3, TINYGLTF_COMPONENT_TYPE_FLOAT,
                                             TINYGLTF_TARGET_ARRAY_BUFFER);
        p.attributes["TEXCOORD_0"] = addAccessor(model, b.uvs, TINYGLTF_TYPE_VEC2, TINYGLTF_COMPONENT_TYPE_FLOAT,
                                                 TINYGLTF_TARGET_ARRAY_BUFFER);
        p.indices = addAccessor(model, b.indices, TINYGLTF_TYPE_SCALAR, TINYGLTF_COMPONENT_TYPE_UNSIGNED_INT,
                                TINYGLTF_TARGET_ELEMENT_ARRAY_BUFFER);
        tinygltf::Mesh mesh;
        mesh.name = s.name;
        mesh.primitives.push_back(p);
        model.meshes.push_back(mesh);
        tinygltf::Node node;
        node.name = s.name;
        node.mesh = static_cast<int>(model.meshes.size() - 1);
        model.nodes.push_back(node);
        scene.nodes.push_back(static_cast<int>(model.nodes.size() - 1));
    }
    model.scenes.push_back(scene);
    model.defaultScene = 0;
    writeAtomically(file, [&](const std::filesystem::path& temporary) {
        tinygltf::TinyGLTF writer;
        if (!writer.WriteGltfSceneToFile(&model, temporary.string(), true, true, false, true))
            throw workingError("Writing", file, "the glTF writer failed");
    });
}
} // namespace hygros::demo
