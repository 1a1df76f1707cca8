#pragma once
/// Inside of the glTF reader: data by accessor, clips and poses. For import_gltf.cpp and gltf_clips.cpp alone.
#include "base/error.h"
#include "geometry/set_geometry.h"

#include <optional>
#include <tiny_gltf.h>

namespace hygros::geometry::detail {

struct GltfData {
    const std::filesystem::path& file;
    const tinygltf::Model& model;

    Error damaged(const std::string& why) const
    {
        return inputError("Importing", file.string(), why, "Nothing was replaced.");
    }
    /// Start and stride of an accessor after checking that all of it lies inside its buffer.
    const unsigned char* at(int accessor, int components, std::size_t& count, std::size_t& stride, int& type) const;
    /// All numbers of an accessor of floats.
    std::vector<float> floats(int accessor, int components) const;
};

/// What one node does in a clip.
struct GltfChannel {
    enum class What { Place, Turn, Size, Weights } what = What::Place;
    enum class Way { Linear, Step, Cubic } way = Way::Linear;
    int node = 0, width = 3;          ///< numbers a key
    std::vector<float> times, values; ///< of cubic ones three times as many values: slope in, value, slope out
    /// `width` numbers at a time [s]; before and after the keys the first and the last.
    std::vector<float> valueAt(double seconds) const;
};
struct GltfClip {
    std::string name;
    double seconds = 0.0;
    std::vector<GltfChannel> channels;
};
/// All clips that can be played; what is damaged is left out and said in `trouble`.
std::vector<GltfClip> clipsOf(const GltfData& data, std::string& trouble);

/// A node where a clip has it.
struct GltfPose {
    std::optional<Vec3> place, size;
    std::optional<std::array<float, 4>> turn; ///< quaternion x y z w
    std::vector<float> weights;
};
/// Names of the nodes as parts of the set, by node.
std::vector<std::string> partNames(const tinygltf::Model& model);
/// Lamps (KHR_lights_punctual) and cameras of the file.
void readLampsAndCameras(const tinygltf::Model& model, SetGeometry& set);

/// By node.
std::vector<GltfPose> posesAt(const GltfClip& clip, double seconds, std::size_t nodes);
} // namespace hygros::geometry::detail
