#pragma once
/// Faces that were chosen on a set, as a project keeps them: by mesh and by number. Each mesh is known by its name and
/// by how its triangles hang together; one that has changed since has none chosen.
#include "geometry/set_geometry.h"

#include <map>
#include <optional>

namespace hygros::geometry {

class ChosenFaces {
public:
    /// From text(); nothing where that is damaged. Empty text: none is chosen.
    static std::optional<ChosenFaces> parse(const std::string& text);
    /// One line a mesh: digest, number of triangles, chosen ones as ranges, name.
    std::string text() const;
    /// Those of a set, by mesh and triangle; meshes without any are left out.
    explicit ChosenFaces(const SetGeometry& set, const std::map<std::size_t, std::vector<bool>>& on);
    ChosenFaces() = default;

    std::size_t count() const;
    bool isEmpty() const { return parts_.empty(); }
    struct On {
        std::map<std::size_t, std::vector<bool>> faces; ///< by mesh of the set, then by triangle
        std::size_t gone = 0;                           ///< chosen, but their mesh is not there as it was
    };
    On on(const SetGeometry& set) const;

private:
    struct Part {
        std::string name; ///< of the mesh; those after the first of that name have "#2", "#3", …
        std::uint64_t digest = 0;
        std::size_t triangles = 0;
        std::vector<std::pair<std::uint32_t, std::uint32_t>> runs; ///< first and last
    };
    std::vector<Part> parts_;
};
} // namespace hygros::geometry
