#include "elements/kinds.h"

#include "base/error.h"

#include <algorithm>
#include <cmath>

namespace hygros::elements {

const std::vector<Kind>& kinds()
{
    static const std::vector<Kind> all{allAirKind(), hazeKind(),        fogBankKind(), cloudDeckKind(), volumeKind(),
                                       tintKind(),   combinationKind(), copiesKind(),  veilKind(),      sunKind(),
                                       spotKind(),   bulbKind(),        panelKind(),   tubeKind(),      beamKind(),
                                       setKind(),    plateKind(),       shotKind(),    lookKind()};
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

std::shared_ptr<const geometry::RayScene> GeometryCache::scene(const std::vector<geometry::PlacedSet>& placed,
                                                               JobControl& job)
{
    {
        const std::lock_guard lock(mutex_);
        if (lastScene_ && placed == lastPlaced_)
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

namespace {
/// What `key` was built into, or built now and kept among the last few.
template <class List, class Key, class Build>
auto keptOrBuilt(std::mutex& mutex, List& list, const Key& key, const Build& build, std::size_t most = 4)
{
    {
        const std::lock_guard lock(mutex);
        for (std::size_t i = 0; i < list.size(); ++i)
            if (list[i].key == key) {
                std::rotate(list.begin(), list.begin() + static_cast<std::ptrdiff_t>(i),
                            list.begin() + static_cast<std::ptrdiff_t>(i) + 1);
                return list.front().value;
            }
    }
    auto built = build();
    const std::lock_guard lock(mutex);
    list.insert(list.begin(), {key, built});
    if (list.size() > most)
        list.pop_back();
    return built;
}
} // namespace

std::shared_ptr<const geometry::RayScene> GeometryCache::shadows(const std::vector<geometry::PlacedSet>& placed,
                                                                 JobControl& job)
{
    return keptOrBuilt(
        mutex_, shadowScenes_, placed, [&] { return std::make_shared<const geometry::RayScene>(placed, job); }, 3);
}

std::shared_ptr<const media::GroundHeights>
GeometryCache::ground(const std::shared_ptr<const geometry::RayScene>& scene, media::GroundSettings settings,
                      JobControl& job)
{
    for (int axis = 0; axis < 3; ++axis)
        settings.around[axis] = axis == 1 ? 0.f : 32.f * std::floor(settings.around[axis] / 32.f + 0.5f);
    return keptOrBuilt(mutex_, grounds_, GroundKey{scene, settings},
                       [&] { return std::make_shared<const media::GroundHeights>(*scene, settings, job); });
}

std::shared_ptr<const geometry::Plate> GeometryCache::plate(const geometry::PlateSource& source)
{
    std::error_code ec;
    const PlateKey key{source, std::filesystem::last_write_time(source.picture, ec),
                       std::filesystem::last_write_time(source.depth, ec)};
    return keptOrBuilt(mutex_, plates_, key,
                       [&] { return std::shared_ptr<const geometry::Plate>(geometry::loadPlate(source)); });
}

std::shared_ptr<const geometry::SetGeometry> GeometryCache::relief(const std::shared_ptr<const geometry::Plate>& plate,
                                                                   float focalMm, float sensorMm)
{
    return keptOrBuilt(mutex_, reliefs_, ReliefKey{plate, focalMm, sensorMm},
                       [&] { return geometry::reliefOf(*plate, focalMm, sensorMm); });
}

std::shared_ptr<const media::DeckShadow> GeometryCache::deckShadow(const media::CloudDeck& deck, const Vec3& sun,
                                                                   const Vec3& eye)
{
    // The grid is wide: it follows the camera in steps.
    const Vec3 near(500.f * std::floor(eye.x / 500.f + 0.5f), 0.f, 500.f * std::floor(eye.z / 500.f + 0.5f));
    return keptOrBuilt(mutex_, deckShadows_, DeckKey{deck, sun, near},
                       [&] { return std::make_shared<const media::DeckShadow>(deck, sun, near); });
}

std::shared_ptr<const media::InsideField> GeometryCache::inside(const geometry::PlacedSet& mesh, JobControl& job)
{
    return keptOrBuilt(mutex_, insides_, mesh,
                       [&] { return std::make_shared<const media::InsideField>(mesh, 96, job); });
}

std::shared_ptr<const std::vector<media::VdbGrid>> GeometryCache::volumeFile(const std::filesystem::path& file)
{
    std::error_code ec;
    return keptOrBuilt(
        mutex_, volumeFiles_, FileKey{file, std::filesystem::last_write_time(file, ec)},
        [&] { return std::make_shared<const std::vector<media::VdbGrid>>(media::vdbGrids(file)); }, 16);
}

std::shared_ptr<const std::vector<media::VdbGrid>> GeometryCache::volumeFileAtHand(const std::filesystem::path& file)
{
    std::error_code ec;
    const FileKey key{file, std::filesystem::last_write_time(file, ec)};
    const std::lock_guard lock(mutex_);
    for (const auto& kept : volumeFiles_)
        if (kept.key == key)
            return kept.value;
    return nullptr;
}

std::shared_ptr<const media::LoadedGrid> GeometryCache::grid(const std::filesystem::path& file, const std::string& name,
                                                             JobControl& job)
{
    std::error_code ec;
    return keptOrBuilt(
        mutex_, grids_, GridKey{file, std::filesystem::last_write_time(file, ec), name},
        [&] { return std::make_shared<const media::LoadedGrid>(media::loadVdb(file, name, job)); }, 12);
}

std::shared_ptr<const media::LoadedGrid> GeometryCache::shape(const ShapeSource& source, JobControl& job)
{
    return keptOrBuilt(
        mutex_, shapes_, source, [&] { return std::make_shared<const media::LoadedGrid>(voxelsOf(source, job)); }, 6);
}

std::shared_ptr<const media::BrickGrid> GeometryCache::coarser(const std::shared_ptr<const media::BrickGrid>& grid,
                                                               int times, JobControl& job)
{
    if (times <= 0)
        return grid;
    return keptOrBuilt(
        mutex_, coarseGrids_, CoarseKey{grid, times}, [&] { return coarser(grid, times - 1, job)->halved(job); }, 12);
}

std::shared_ptr<const std::vector<light::Lamp>>
GeometryCache::glowLamps(const media::Volume& volume, const std::function<std::vector<light::Lamp>()>& build)
{
    return keptOrBuilt(
        mutex_, glowLamps_, GlowKey{volume}, [&] { return std::make_shared<const std::vector<light::Lamp>>(build()); },
        8);
}

std::shared_ptr<const media::VolumeShadow> GeometryCache::volumeShadow(const media::Volume& volume, const Vec3& sun,
                                                                       int most)
{
    return keptOrBuilt(
        mutex_, volumeShadows_, VolumeShadowKey{volume.density, volume.toIndex, sun, most},
        [&] { return std::make_shared<const media::VolumeShadow>(volume, sun, most); }, 420);
}

std::shared_ptr<const media::LoadedGrid> GeometryCache::worked(const std::shared_ptr<const media::LoadedGrid>& base,
                                                               const Mat4& toWorld,
                                                               const std::vector<media::GridStep>& steps,
                                                               JobControl& job)
{
    return keptOrBuilt(
        mutex_, worked_, WorkedKey{base, toWorld, steps},
        [&] { return std::make_shared<const media::LoadedGrid>(media::worked(*base, toWorld, steps, job)); }, 8);
}

std::shared_ptr<const media::LoadedGrid> GeometryCache::moved(const std::filesystem::path& file,
                                                              const std::string& name, const std::string& velocity,
                                                              double seconds, JobControl& job, float power)
{
    std::error_code ec;
    return keptOrBuilt(
        mutex_, moved_, MovedKey{file, std::filesystem::last_write_time(file, ec), name, velocity, seconds, power},
        [&] {
            return std::make_shared<const media::LoadedGrid>(
                media::motionBlurred(file, name, velocity, seconds, job, power));
        },
        6);
}

std::shared_ptr<const media::DistanceField> GeometryCache::distance(const geometry::PlacedSet& set, const Box3& bounds,
                                                                    float reach, JobControl& job)
{
    return keptOrBuilt(
        mutex_, distances_, DistanceKey{set, bounds.min, bounds.max, reach},
        [&] {
            std::vector<Vec3> corners;
            Box3 near(bounds.min - Vec3(reach), bounds.max + Vec3(reach));
            for (const geometry::Mesh& m : set.set->meshes)
                for (std::size_t i = 0; i + 2 < m.indices.size(); i += 3) {
                    Box3 own;
                    std::array<Vec3, 3> t;
                    for (std::size_t k = 0; k < 3; ++k)
                        own.extendBy(t[k] = m.positions[m.indices[i + k]] * set.toWorld);
                    if (near.intersects(own))
                        corners.insert(corners.end(), t.begin(), t.end());
                }
            return std::make_shared<const media::DistanceField>(media::distanceTo(corners, bounds, reach, job));
        },
        4);
}

std::shared_ptr<const light::Profile> GeometryCache::profile(const std::filesystem::path& file)
{
    std::error_code ec;
    return keptOrBuilt(
        mutex_, profiles_, FileKey{file, std::filesystem::last_write_time(file, ec)},
        [&] { return light::Profile::load(file); }, 64);
}

std::shared_ptr<const light::Panorama> GeometryCache::panorama(const std::filesystem::path& file)
{
    std::error_code ec;
    return keptOrBuilt(
        mutex_, panoramas_, FileKey{file, std::filesystem::last_write_time(file, ec)},
        [&] { return light::Panorama::load(file); }, 2);
}

std::shared_ptr<const light::Gobo> GeometryCache::gobo(const light::Gobo::Settings& settings)
{
    return keptOrBuilt(
        mutex_, goboPatterns_, settings, [&] { return std::make_shared<const light::Gobo>(settings); }, 24);
}

std::shared_ptr<const light::Gobo> GeometryCache::gobo(const std::filesystem::path& file, float softness)
{
    std::error_code ec;
    return keptOrBuilt(
        mutex_, goboPictures_, FileKey{file, std::filesystem::last_write_time(file, ec), softness},
        [&] { return light::Gobo::load(file, softness); }, 24);
}

std::shared_ptr<const light::Gobo> GeometryCache::placed(const std::shared_ptr<const light::Gobo>& gobo,
                                                         const light::Gobo::Placing& placing)
{
    return keptOrBuilt(
        mutex_, goboPlaced_, PlacedGoboKey{gobo, placing}, [&] { return gobo->placed(placing); }, 64);
}

namespace {
/// The set without what a light does not reach at all; null where it reaches everything.
std::shared_ptr<const geometry::RayScene> reachedAlone(const std::vector<geometry::PlacedSet>& placed,
                                                       const std::vector<float>& reach, GeometryCache& cache,
                                                       JobControl& job)
{
    std::vector<geometry::PlacedSet> left = placed;
    bool some = false;
    for (geometry::PlacedSet& p : left)
        for (std::uint16_t group = 0; group < std::max<std::size_t>(1, p.set->groups.size()); ++group)
            if (const std::size_t at = p.order + group; at < reach.size() && reach[at] <= 0.f) {
                p.without.push_back(group);
                some = true;
            }
    return some ? cache.shadows(left, job) : nullptr;
}

/// Strengths as the renderer wants them: by index; empty when all are 1.
void resolveReach(const scene::Project& project, shot::Shot& shot, const std::vector<geometry::PlacedSet>& placed,
                  GeometryCache& cache, JobControl& job)
{
    const auto shadowsToo = [](const scene::Element& e) { return std::get<bool>(e.value("reachShadows")); };
    const auto listed = [](const scene::Element& light, const std::string& row, const auto& items, const auto& idOf) {
        std::vector<float> out;
        bool other = false;
        for (const auto& item : items) {
            const std::string id = idOf(item);
            double strength = light.reachTo(row + id);
            if (const auto slash = id.find('/'); slash != std::string::npos) // an object's, times its set's
                strength *= light.reachTo(row + id.substr(0, slash));
            out.push_back(static_cast<float>(strength));
            other = other || out.back() != 1.f;
        }
        return other ? out : std::vector<float>();
    };
    const auto own = [](const auto& m) { return m.id; };
    const auto self = [](const std::string& id) { return id; };
    for (light::Lamp& lamp : shot.lamps)
        if (const scene::Element* e = project.find(lamp.id); e && !e->reach.empty()) {
            lamp.mediaReach = listed(*e, "", shot.media, own);
            lamp.deckReach = listed(*e, "", shot.decks, own);
            lamp.volumeReach = listed(*e, "", shot.volumes, own);
            lamp.setReach = listed(*e, "", shot.setIds, self);
            if (shadowsToo(*e))
                lamp.shadowScene = reachedAlone(placed, lamp.setReach, cache, job);
        }
    if (const scene::Element* e = project.find(shot.sunId); e && !e->reach.empty()) {
        shot.sunReach = {listed(*e, "", shot.media, own), listed(*e, "", shot.decks, own),
                         listed(*e, "", shot.setIds, self), listed(*e, "", shot.volumes, own)};
        if (shadowsToo(*e))
            shot.sunShadows = reachedAlone(placed, shot.sunReach.sets, cache, job);
        shot.skyReach = {listed(*e, "sky/", shot.media, own), listed(*e, "sky/", shot.decks, own),
                         listed(*e, "sky/", shot.setIds, self), listed(*e, "sky/", shot.volumes, own)};
        for (std::size_t i = 0; i < shot.volumes.size(); ++i) {
            shot.volumes[i].bySun = shot.sunReach.volumes.empty() ? 1.f : shot.sunReach.volumes[i];
            shot.volumes[i].bySky = shot.skyReach.volumes.empty() ? 1.f : shot.skyReach.volumes[i];
        }
        for (std::size_t i = 0; i < shot.decks.size(); ++i) {
            shot.decks[i].bySun = shot.sunReach.decks.empty() ? 1.f : shot.sunReach.decks[i];
            shot.decks[i].bySky = shot.skyReach.decks.empty() ? 1.f : shot.skyReach.decks[i];
        }
    }
}
} // namespace

std::shared_ptr<const shot::Shot> freeze(const scene::Project& project, GeometryCache& cache, JobControl& job)
{
    auto result = std::make_shared<shot::Shot>();
    result->frame = project.frame;
    std::vector<geometry::PlacedSet> placed;
    // Camera and set first: air may lie on the ground or fill an object.
    const auto forEach = [&](const auto& wanted, std::function<void(FreezeContext&)> Kind::*step) {
        for (const scene::Element& e : project.elements) {
            const Kind& kind = static_cast<const Kind&>(*e.kind);
            if (!wanted(kind) || !(kind.*step) || (project.silent(e) && !kind.staysWhenSilent))
                continue;
            FreezeContext context{project, e,  (project.frame - 1) / project.framesPerSecond, *result, placed,
                                  cache,   job};
            (kind.*step)(context);
        }
    };
    const auto isShot = [](const Kind& k) { return k.id == "shot"; };
    forEach(isShot, &Kind::contribute);
    forEach([&](const Kind& k) { return k.family == scene::Family::Set && !isShot(k); }, &Kind::contribute);
    for (geometry::PlacedSet& p : placed) {
        p.order = static_cast<std::uint16_t>(result->setIds.size());
        if (p.set->groups.size() <= 1)
            result->setIds.push_back(p.element);
        else
            for (const std::string& object : p.set->groups)
                result->setIds.push_back(p.element + "/" + object);
    }
    result->scene = cache.scene(placed, job);
    forEach([](const Kind& k) { return k.family != scene::Family::Set; }, &Kind::contribute);
    forEach([](const Kind&) { return true; }, &Kind::complete);
    resolveReach(project, *result, placed, cache, job);
    return result;
}

void holdOut(scene::Project& project, const std::string& id)
{
    bool found = false;
    for (scene::Element& e : project.elements)
        if (e.kind->id == "set" && (id == "all" || e.id == id)) {
            e.set("matte", true);
            found = true;
        }
    if (!found && id != "all")
        throw inputError("Holding out", id, "there is no such set in the project");
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
