#include "base/error.h"
#include "geometry/fbx_check.h"
#include "geometry/set_geometry.h"

#include <algorithm>
#include <assimp/DefaultIOSystem.h>
#include <assimp/Importer.hpp>
#include <assimp/ProgressHandler.hpp>
#include <assimp/config.h>
#include <assimp/material.h>
#include <assimp/postprocess.h>
#include <assimp/scene.h>
#include <cmath>
#include <map>
#include <string_view>

namespace hygros::geometry::detail {
namespace {
class Progress : public Assimp::ProgressHandler {
public:
    explicit Progress(JobControl& job) : job_(job) {}
    bool Update(float share) override
    {
        job_.report(0.1f + 0.6f * std::fmax(0.f, share), "Reading meshes");
        return !job_.cancelled();
    }

private:
    JobControl& job_;
};
/// Remembers what was opened.
class Files : public Assimp::DefaultIOSystem {
public:
    Assimp::IOStream* Open(const char* name, const char* mode) override
    {
        if (std::find(opened.begin(), opened.end(), name) == opened.end())
            opened.emplace_back(name);
        return DefaultIOSystem::Open(name, mode);
    }
    std::vector<std::string> opened;
};

Vec3 vec(const aiVector3D& v) { return {v.x, v.y, v.z}; }
/// Imath multiplies row vectors, whose matrix is the transpose.
Mat4 matrix(const aiMatrix4x4& m)
{
    Mat4 out;
    for (unsigned r = 0; r < 4; ++r)
        for (unsigned c = 0; c < 4; ++c)
            out[static_cast<int>(c)][static_cast<int>(r)] = m[r][c];
    return out;
}

/// A clip at a time.
struct Pose {
    const aiAnimation& clip;
    double ticks;
};

aiVector3D between(const aiVector3D& a, const aiVector3D& b, float u) { return a + (b - a) * u; }
aiQuaternion between(const aiQuaternion& a, const aiQuaternion& b, float u)
{
    aiQuaternion out;
    aiQuaternion::Interpolate(out, a, b, u); // along the shorter arc
    return out.Normalize();
}
/// What keys say at a time; before and after them the first and the last.
template <class Key> auto valueAt(const Key* keys, unsigned count, double ticks)
{
    const Key* after = std::upper_bound(keys, keys + count, ticks, [](double t, const Key& k) { return t < k.mTime; });
    if (after == keys)
        return keys[0].mValue;
    if (after == keys + count)
        return keys[count - 1].mValue;
    const Key *a = after - 1, *b = after;
    return between(a->mValue, b->mValue, static_cast<float>((ticks - a->mTime) / (b->mTime - a->mTime)));
}

aiMatrix4x4 localOf(const aiNode& node, const Pose* pose)
{
    for (unsigned i = 0; pose && i < pose->clip.mNumChannels; ++i)
        if (const aiNodeAnim& c = *pose->clip.mChannels[i]; c.mNodeName == node.mName)
            return {valueAt(c.mScalingKeys, c.mNumScalingKeys, pose->ticks),
                    valueAt(c.mRotationKeys, c.mNumRotationKeys, pose->ticks),
                    valueAt(c.mPositionKeys, c.mNumPositionKeys, pose->ticks)};
    return node.mTransformation;
}

/// Where each node stands in the file's own world, by name.
using Worlds = std::map<std::string, aiMatrix4x4>;
void findWorlds(const aiNode& node, const aiMatrix4x4& above, const Pose* pose, Worlds& worlds)
{
    const aiMatrix4x4 world = above * localOf(node, pose);
    worlds[node.mName.C_Str()] = world;
    for (unsigned i = 0; i < node.mNumChildren; ++i)
        findWorlds(*node.mChildren[i], world, pose, worlds);
}

/// The matrix of each vertex by the bones that carry it; empty where none does.
std::vector<aiMatrix4x4> skinned(const aiMesh& mesh, const Worlds& worlds)
{
    if (mesh.mNumBones == 0)
        return {};
    aiMatrix4x4 nothing;
    nothing = nothing * 0.f;
    std::vector<aiMatrix4x4> out(mesh.mNumVertices, nothing);
    std::vector<float> all(mesh.mNumVertices, 0.f);
    for (unsigned b = 0; b < mesh.mNumBones; ++b) {
        const aiBone& bone = *mesh.mBones[b];
        const auto world = worlds.find(bone.mName.C_Str());
        if (world == worlds.end())
            continue;
        const aiMatrix4x4 by = world->second * bone.mOffsetMatrix;
        for (unsigned i = 0; i < bone.mNumWeights; ++i)
            if (const aiVertexWeight& w = bone.mWeights[i]; w.mVertexId < mesh.mNumVertices) {
                out[w.mVertexId] = out[w.mVertexId] + by * w.mWeight;
                all[w.mVertexId] += w.mWeight;
            }
    }
    for (unsigned v = 0; v < mesh.mNumVertices; ++v)
        if (all[v] > 0.f)
            out[v] = out[v] * (1.f / all[v]);
        else
            return {}; // not all of it hangs on bones: it moves as its node does
    return out;
}

/// The meshes of a node and all below it, where they stand in the file's own world; several placings of one mesh become
/// several.
void addNode(const aiScene& scene, const aiNode& node, const Worlds& worlds, const Pose* pose, SetGeometry& set)
{
    const aiMatrix4x4& toWorld = worlds.at(node.mName.C_Str());
    if (!std::string_view(node.mName.C_Str()).empty() &&
        std::string_view(node.mName.C_Str()).find("$AssimpFbx$") == std::string_view::npos)
        set.parts.push_back({node.mName.C_Str(), matrix(toWorld)});
    for (unsigned i = 0; i < node.mNumMeshes; ++i) {
        const aiMesh& from = *scene.mMeshes[node.mMeshes[i]];
        if (!(from.mPrimitiveTypes & aiPrimitiveType_TRIANGLE))
            continue; // points and lines
        const std::vector<aiMatrix4x4> bones = pose ? skinned(from, worlds) : std::vector<aiMatrix4x4>();
        const auto at = [&](unsigned v) -> const aiMatrix4x4& { return bones.empty() ? toWorld : bones[v]; };
        const auto forNormals = [](const aiMatrix4x4& m) {
            aiMatrix3x3 n(m);
            if (std::abs(n.Determinant()) > 1e-20f)
                n.Inverse().Transpose();
            return n;
        };
        const bool mirrored = aiMatrix3x3(toWorld).Determinant() < 0.f;
        const aiMatrix3x3 one = forNormals(toWorld);
        Mesh m;
        m.name = from.mName.length ? from.mName.C_Str() : node.mName.C_Str();
        m.material = from.mMaterialIndex;
        for (unsigned v = 0; v < from.mNumVertices; ++v) {
            m.positions.push_back(vec(at(v) * from.mVertices[v]));
            if (from.HasNormals())
                m.normals.push_back(
                    vec(((bones.empty() ? one : forNormals(bones[v])) * from.mNormals[v]).NormalizeSafe()));
            if (from.HasTextureCoords(0))
                m.uvs.emplace_back(from.mTextureCoords[0][v].x, from.mTextureCoords[0][v].y);
        }
        for (unsigned f = 0; f < from.mNumFaces; ++f)
            for (unsigned k = 0; k < 3 && from.mFaces[f].mNumIndices == 3; ++k)
                m.indices.push_back(from.mFaces[f].mIndices[mirrored ? 2 - k : k]);
        set.meshes.push_back(std::move(m));
    }
    for (unsigned i = 0; i < node.mNumChildren; ++i)
        addNode(scene, *node.mChildren[i], worlds, pose, set);
}

void addMeshes(const aiScene& scene, const Pose* pose, SetGeometry& set)
{
    if (!scene.mRootNode)
        return;
    Worlds worlds;
    findWorlds(*scene.mRootNode, aiMatrix4x4(), pose, worlds);
    addNode(scene, *scene.mRootNode, worlds, pose, set);
}

double ticksPerSecond(const aiAnimation& a) { return a.mTicksPerSecond > 0.0 ? a.mTicksPerSecond : 25.0; }

/// What is wrong with a clip, a sentence without its subject; empty: nothing.
std::string troubleOf(const aiAnimation& a)
{
    const auto good = [](const auto* keys, unsigned count) {
        bool fine = count > 0;
        for (unsigned i = 0; fine && i < count; ++i) {
            fine = std::isfinite(keys[i].mTime) && (i == 0 || keys[i].mTime > keys[i - 1].mTime);
            if constexpr (requires { keys[i].mValue.w; })
                fine = fine && std::isfinite(keys[i].mValue.w);
            fine = fine && std::isfinite(keys[i].mValue.x) && std::isfinite(keys[i].mValue.y) &&
                   std::isfinite(keys[i].mValue.z);
        }
        return fine;
    };
    for (unsigned i = 0; i < a.mNumChannels; ++i) {
        const aiNodeAnim& c = *a.mChannels[i];
        if (!good(c.mPositionKeys, c.mNumPositionKeys) || !good(c.mRotationKeys, c.mNumRotationKeys) ||
            !good(c.mScalingKeys, c.mNumScalingKeys))
            return "has keys that are no numbers, or whose times do not rise,";
    }
    return {};
}

/// A file with clips, kept to be posed.
class MeshRig final : public Rig {
public:
    MeshRig(std::shared_ptr<const aiScene> scene, std::vector<unsigned> clips, std::vector<Material> materials)
        : scene_(std::move(scene)), clips_(std::move(clips)), materials_(std::move(materials))
    {
    }
    SetGeometry posed(int clip, double seconds, JobControl& job) const override
    {
        const aiAnimation& a = *scene_->mAnimations[clips_[static_cast<std::size_t>(clip)]];
        const Pose pose{a, seconds * ticksPerSecond(a)};
        job.check();
        SetGeometry set;
        set.materials = materials_;
        addMeshes(*scene_, &pose, set);
        return set;
    }
    std::size_t bytes() const override
    {
        std::size_t sum = 0;
        for (unsigned i = 0; i < scene_->mNumMeshes; ++i)
            sum += scene_->mMeshes[i]->mNumVertices * (3 * sizeof(aiVector3D)) +
                   scene_->mMeshes[i]->mNumFaces * (sizeof(aiFace) + 3 * sizeof(unsigned));
        return sum;
    }

private:
    std::shared_ptr<const aiScene> scene_;
    std::vector<unsigned> clips_; ///< the scene's that can be played
    std::vector<Material> materials_;
};

void addLampsAndCameras(const aiScene& scene, SetGeometry& set)
{
    constexpr double degree = 180.0 / static_cast<double>(pi);
    for (unsigned i = 0; i < scene.mNumLights; ++i) {
        const aiLight& from = *scene.mLights[i];
        FileLamp lamp;
        lamp.name = lamp.part = from.mName.C_Str();
        lamp.shape = from.mType == aiLightSource_SPOT          ? FileLamp::Shape::Spot
                     : from.mType == aiLightSource_DIRECTIONAL ? FileLamp::Shape::Distant
                                                               : FileLamp::Shape::Bulb;
        lamp.position = vec(from.mPosition);
        if (from.mDirection.SquareLength() > 0.f)
            lamp.along = vec(from.mDirection);
        const Vec3 colour(from.mColorDiffuse.r, from.mColorDiffuse.g, from.mColorDiffuse.b);
        if (const float most = maxComponent(colour); most > 0.f && std::isfinite(most))
            lamp.colour = colour / most;
        if (from.mAngleOuterCone > 1e-3f && from.mAngleOuterCone < 3.f) {
            lamp.angle = static_cast<double>(from.mAngleOuterCone) * degree;
            if (from.mAngleInnerCone >= 0.f && from.mAngleInnerCone <= from.mAngleOuterCone)
                lamp.edge = 1.0 - static_cast<double>(from.mAngleInnerCone / from.mAngleOuterCone);
        }
        set.lamps.push_back(lamp);
    }
    for (unsigned i = 0; i < scene.mNumCameras; ++i) {
        const aiCamera& from = *scene.mCameras[i];
        FileCamera camera;
        camera.part = from.mName.C_Str();
        camera.position = vec(from.mPosition);
        // Some readers give where it looks, some which way.
        const Vec3 along = vec(from.mLookAt);
        camera.along = along.length2() > 0.f ? along : Vec3(0, 0, -1);
        if (const Vec3 up = vec(from.mUp); up.length2() > 0.f)
            camera.up = up;
        if (from.mHorizontalFOV > 1e-3f && from.mHorizontalFOV < 3.1f)
            camera.width = static_cast<double>(from.mHorizontalFOV);
        set.cameras.push_back(camera);
    }
}
} // namespace

SetGeometry readMesh(const std::filesystem::path& file, JobControl& job)
{
    std::string ending = file.extension().string();
    std::transform(ending.begin(), ending.end(), ending.begin(), [](char c) { return static_cast<char>(c | 0x20); });
    if (ending == ".fbx")
        checkFbx(file);
    Assimp::Importer importer;
    auto* files = new Files; // the importer's own from here on
    importer.SetIOHandler(files);
    Progress progress(job);
    importer.SetProgressHandler(&progress);
    const aiScene* scene = importer.ReadFile(file.string(), aiProcess_Triangulate | aiProcess_GenSmoothNormals |
                                                                aiProcess_JoinIdenticalVertices |
                                                                aiProcess_SortByPType | aiProcess_FlipUVs);
    importer.SetProgressHandler(nullptr);
    job.check();
    if (!scene || (scene->mFlags & AI_SCENE_FLAGS_INCOMPLETE))
        throw inputError("Importing", file.string(), std::string("it is damaged (") + importer.GetErrorString() + ")",
                         "Nothing was replaced.");
    SetGeometry set;
    // What an FBX says of its unit, in centimetres; other formats say nothing.
    double centimetres = 0.0;
    float single = 0.f;
    if (scene->mMetaData &&
        (scene->mMetaData->Get("UnitScaleFactor", centimetres) ||
         (scene->mMetaData->Get("UnitScaleFactor", single) && (centimetres = static_cast<double>(single)) > 0.0)))
        set.metresPerUnit = static_cast<float>(centimetres * 0.01);
    for (unsigned i = 0; i < scene->mNumMaterials; ++i) {
        const aiMaterial& from = *scene->mMaterials[i];
        Material m;
        m.name = from.GetName().C_Str();
        aiColor3D colour;
        if (from.Get(AI_MATKEY_COLOR_DIFFUSE, colour) == aiReturn_SUCCESS)
            m.baseColour = Vec3(colour.r, colour.g, colour.b);
        if (from.Get(AI_MATKEY_COLOR_EMISSIVE, colour) == aiReturn_SUCCESS)
            m.emission = Vec3(colour.r, colour.g, colour.b);
        float number = 0.f;
        if (from.Get(AI_MATKEY_ROUGHNESS_FACTOR, number) == aiReturn_SUCCESS)
            m.roughness = number;
        if (from.Get(AI_MATKEY_METALLIC_FACTOR, number) == aiReturn_SUCCESS)
            m.metallic = number;
        set.materials.push_back(std::move(m));
    }
    for (const std::string& name : files->opened)
        if (const auto other = std::filesystem::path(name).lexically_normal(); other != file.lexically_normal())
            set.beside.push_back(versionOf(other));
    addMeshes(*scene, nullptr, set);
    addLampsAndCameras(*scene, set);
    std::vector<unsigned> clips;
    for (unsigned i = 0; i < scene->mNumAnimations; ++i) {
        const aiAnimation& a = *scene->mAnimations[i];
        const std::string name = a.mName.length ? a.mName.C_Str() : "clip " + std::to_string(i + 1);
        const std::string trouble = troubleOf(a);
        if (!trouble.empty() || a.mNumMorphMeshChannels > 0)
            set.trouble += (set.trouble.empty() ? "" : " ") + ("Its clip '" + name + "' ") +
                           (trouble.empty() ? "also changes shapes, which is left out."
                                            : trouble + " and is left out.");
        if (!trouble.empty() || a.mNumChannels == 0)
            continue;
        double last = 0.0;
        for (unsigned c = 0; c < a.mNumChannels; ++c)
            last = std::max({last, a.mChannels[c]->mPositionKeys[a.mChannels[c]->mNumPositionKeys - 1].mTime,
                             a.mChannels[c]->mRotationKeys[a.mChannels[c]->mNumRotationKeys - 1].mTime,
                             a.mChannels[c]->mScalingKeys[a.mChannels[c]->mNumScalingKeys - 1].mTime});
        set.clips.push_back({name, last / ticksPerSecond(a)});
        clips.push_back(i);
    }
    if (!clips.empty())
        set.rig = std::make_shared<MeshRig>(std::shared_ptr<const aiScene>(importer.GetOrphanedScene()),
                                            std::move(clips), set.materials);
    return set;
}
} // namespace hygros::geometry::detail
