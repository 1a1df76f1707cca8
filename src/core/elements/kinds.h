#pragma once
/// The kinds of element, one file each, and how they come together in a Shot.
///
/// To add a kind: a file beside this one with its settings struct, its table and its contribution; one line in
/// registry.cpp.
#include "scene/project.h"
#include "shot/shot.h"

#include <map>
#include <mutex>

namespace hygros::elements {

/// Imported sets and built ray structures, kept by the content they came from. Safe to use from many threads.
class GeometryCache {
public:
    /// The set in `file`, imported unless this very version of the file is at hand. Throws as importSet does.
    std::shared_ptr<const geometry::SetGeometry> set(const std::filesystem::path& file, JobControl& job);
    std::shared_ptr<const geometry::RayScene> scene(const std::vector<geometry::PlacedSet>& placed, JobControl& job);

private:
    struct Entry {
        std::filesystem::file_time_type modified;
        std::uintmax_t size = 0;
        std::shared_ptr<const geometry::SetGeometry> set;
    };
    std::mutex mutex_;
    std::map<std::filesystem::path, Entry> sets_;
    std::vector<geometry::PlacedSet> lastPlaced_;
    std::shared_ptr<const geometry::RayScene> lastScene_;
    light::SkySettings lastSkySettings_;
    std::shared_ptr<const light::Sky> lastSky_;

public:
    std::shared_ptr<const light::Sky> sky(const light::SkySettings& settings);
};

/// What a kind sees while a project is frozen.
struct FreezeContext {
    const scene::Project& project;
    const scene::Element& element;
    double seconds; ///< time of the frame; frame 1 is at 0
    shot::Shot& shot;
    std::vector<geometry::PlacedSet>& placed;
    GeometryCache& cache;
    JobControl& job;
};

struct Kind : scene::ElementKind {
    std::function<void(FreezeContext&)> contribute;
    bool staysWhenSilent = false; ///< the shot and the look are not muted
};

const std::vector<Kind>& kinds();
const scene::ElementKind* findKind(const std::string& id);

/// One frame of the project. Throws an input Error when a set cannot be imported; Cancelled.
std::shared_ptr<const shot::Shot> freeze(const scene::Project& project, GeometryCache& cache, JobControl& job);

/// A project with a shot, a look, a sun and nothing else.
scene::Project newProject();

// The kinds of this version.
Kind hazeKind();
Kind fogBankKind();
Kind sunKind();
Kind spotKind();
Kind setKind();
Kind shotKind();
Kind lookKind();
} // namespace hygros::elements
