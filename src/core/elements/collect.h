#pragma once
/// Everything a project uses, beside it: so that it can be handed on as one folder.
#include "base/job.h"
#include "scene/project.h"

#include <cstdint>
#include <filesystem>
#include <string>
#include <vector>

namespace hygros::elements {

/// A file with what it needs beside it: buffers and textures of a glTF, materials and textures of an OBJ, all frames of
/// a numbered one (# in its name). The file itself first where it is one; only such as exist. What cannot be read for
/// its companions has none.
std::vector<std::filesystem::path> withCompanions(const std::filesystem::path& file);

struct Collected {
    int copied = 0, there = 0;        ///< files; those that lay beside the project already
    std::uintmax_t bytes = 0;         ///< copied
    std::vector<std::string> missing; ///< names of files that are not there; they stay as they are named
};
/// Copies what lies elsewhere into the folder "<project>-files" beside `target`, where the project is to be, and names
/// it from there. A file of the same content is not copied again; another one is never written over. The project is not
/// saved. Throws an Error when a copy fails (what was copied stays, the project is as it was), Cancelled.
Collected collect(scene::Project& project, const std::filesystem::path& target, JobControl& job);
} // namespace hygros::elements
