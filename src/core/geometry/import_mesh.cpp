#include "base/error.h"
#include "geometry/set_geometry.h"

#include <algorithm>
#include <assimp/DefaultIOSystem.h>
#include <assimp/Importer.hpp>
#include <assimp/ProgressHandler.hpp>
#include <assimp/config.h>
#include <assimp/material.h>
#include <assimp/postprocess.h>
#include <assimp/scene.h>

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

/// The meshes of a node and all below it, where they stand in the file's own world; several placings of one mesh become
/// several.
void addNode(const aiScene& scene, const aiNode& node, const aiMatrix4x4& above, SetGeometry& set)
{
    const aiMatrix4x4 toWorld = above * node.mTransformation;
    aiMatrix3x3 forNormals(toWorld);
    const float determinant = forNormals.Determinant();
    const bool mirrored = determinant < 0.f;
    if (std::abs(determinant) > 1e-20f)
        forNormals.Inverse().Transpose();
    for (unsigned i = 0; i < node.mNumMeshes; ++i) {
        const aiMesh& from = *scene.mMeshes[node.mMeshes[i]];
        if (!(from.mPrimitiveTypes & aiPrimitiveType_TRIANGLE))
            continue; // points and lines
        Mesh m;
        m.name = from.mName.length ? from.mName.C_Str() : node.mName.C_Str();
        m.material = from.mMaterialIndex;
        for (unsigned v = 0; v < from.mNumVertices; ++v) {
            m.positions.push_back(vec(toWorld * from.mVertices[v]));
            if (from.HasNormals())
                m.normals.push_back(vec((forNormals * from.mNormals[v]).NormalizeSafe()));
            if (from.HasTextureCoords(0))
                m.uvs.emplace_back(from.mTextureCoords[0][v].x, from.mTextureCoords[0][v].y);
        }
        for (unsigned f = 0; f < from.mNumFaces; ++f)
            for (unsigned k = 0; k < 3 && from.mFaces[f].mNumIndices == 3; ++k)
                m.indices.push_back(from.mFaces[f].mIndices[mirrored ? 2 - k : k]);
        set.meshes.push_back(std::move(m));
    }
    for (unsigned i = 0; i < node.mNumChildren; ++i)
        addNode(scene, *node.mChildren[i], toWorld, set);
}
} // namespace

SetGeometry readMesh(const std::filesystem::path& file, JobControl& job)
{
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
    if (scene->mRootNode)
        addNode(*scene, *scene->mRootNode, aiMatrix4x4(), set);
    return set;
}
} // namespace hygros::geometry::detail
