#include "elements/kinds.h"

#include "base/error.h"

#include <algorithm>

namespace hygros::elements {

const std::vector<Kind>& kinds()
{
    static const std::vector<Kind> all{hazeKind(), fogBankKind(), sunKind(), spotKind(), setKind(), shotKind(), lookKind()};
    return all;
}

const scene::ElementKind* findKind(const std::string& id)
{
    for (const Kind& k : kinds())
        if (k.id == id)
            return &k;
    return nullptr;
}

std::shared_ptr<const geometry::SetGeometry> GeometryCache::set(const std::filesystem::path& file, JobControl& job)
{
    std::error_code ec;
    Entry now;
    now.modified = std::filesystem::last_write_time(file, ec);
    now.size = ec ? 0 : std::filesystem::file_size(file, ec);
    {
        const std::lock_guard lock(mutex_);
        const auto found = sets_.find(file);
        if (!ec && found != sets_.end() && found->second.modified == now.modified && found->second.size == now.size)
            return found->second.set;
    }
    now.set = geometry::importSet(file, job);
    const std::lock_guard lock(mutex_);
    sets_[file] = now;
    return now.set;
}

std::shared_ptr<const geometry::RayScene> GeometryCache::scene(const std::vector<geometry::PlacedSet>& placed, JobControl& job)
{
    {
        const std::lock_guard lock(mutex_);
        const auto same = [](const geometry::PlacedSet& a, const geometry::PlacedSet& b) {
            return a.set == b.set && a.toWorld == b.toWorld;
        };
        if (lastScene_ && std::equal(placed.begin(), placed.end(), lastPlaced_.begin(), lastPlaced_.end(), same))
            return lastScene_;
    }
    auto built = std::make_shared<const geometry::RayScene>(placed, job);
    const std::lock_guard lock(mutex_);
    lastPlaced_ = placed;
    lastScene_ = built;
    return built;
}

std::shared_ptr<const light::Sky> GeometryCache::sky(const light::SkySettings& settings)
{
    {
        const std::lock_guard lock(mutex_);
        if (lastSky_ && lastSkySettings_ == settings)
            return lastSky_;
    }
    auto built = std::make_shared<const light::Sky>(settings);
    const std::lock_guard lock(mutex_);
    lastSkySettings_ = settings;
    lastSky_ = built;
    return built;
}

std::shared_ptr<const shot::Shot> freeze(const scene::Project& project, GeometryCache& cache, JobControl& job)
{
    auto result = std::make_shared<shot::Shot>();
    result->frame = project.frame;
    std::vector<geometry::PlacedSet> placed;
    for (const scene::Element& e : project.elements) {
        const Kind& kind = static_cast<const Kind&>(*e.kind);
        if (project.silent(e) && !kind.staysWhenSilent)
            continue;
        FreezeContext context{project, e, (project.frame - 1) / project.framesPerSecond, *result, placed, cache, job};
        kind.contribute(context);
    }
    result->scene = cache.scene(placed, job);
    return result;
}

scene::Project newProject()
{
    scene::Project p;
    for (const char* id : {"shot", "look", "sun"}) {
        const scene::ElementKind* kind = findKind(id);
        p.add(*kind, kind->label).id = id;
    }
    return p;
}
} // namespace hygros::elements
