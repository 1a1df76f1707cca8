#include "elements/kept.h"

#include "geometry/set_rays.h"

#include <algorithm>

namespace hygros::elements {

std::vector<PlacedKey> keysOf(const std::vector<geometry::PlacedSet>& placed)
{
    std::vector<PlacedKey> keys;
    for (const geometry::PlacedSet& p : placed)
        keys.emplace_back(p);
    return keys;
}

namespace {
/// What stands beside a file, as it is now.
std::vector<FileVersion> versionsOf(const std::vector<FileVersion>& beside)
{
    std::vector<FileVersion> now;
    for (const FileVersion& file : beside)
        now.push_back(versionOf(file.path));
    return now;
}
} // namespace

std::shared_ptr<const geometry::SetGeometry> keptSet(Store& store, const std::filesystem::path& file, JobControl& job)
{
    const auto import = [&] { return geometry::importSet(file, job); };
    auto set = keptFromFile(store, job, file, Whole(), import);
    // What stands beside the file may change while the file itself does not.
    const std::vector<FileVersion> now = versionsOf(set->beside);
    return now == set->beside ? set : keptFromFile(store, job, file, now, import);
}

std::shared_ptr<const image::ColourConfig> keptColourConfig(Store& store, const std::filesystem::path& file,
                                                            JobControl& job, FileVersion* was)
{
    const auto load = [&] { return image::ColourConfig::load(file); };
    auto config = keptFromFile(store, job, file, Whole(), load, was);
    const std::vector<FileVersion> now = versionsOf(config->beside());
    return now == config->beside() ? config : keptFromFile(store, job, file, now, load, was);
}

std::shared_ptr<const image::ColourConfig> colourConfigAtHand(Store& store, const std::filesystem::path& file)
{
    return store.atHand<image::ColourConfig>(FileKey<Whole>{versionOf(file), {}});
}

namespace {
struct WaterKey {
    Identity surface;
    std::uint16_t order;
    bool operator==(const WaterKey&) const = default;
};
std::vector<WaterKey> watersOf(const std::vector<geometry::PlacedWater>& waters)
{
    std::vector<WaterKey> out;
    for (const geometry::PlacedWater& w : waters)
        out.push_back({w.surface, w.order});
    return out;
}
struct SceneKey {
    std::vector<PlacedKey> placed;
    std::vector<WaterKey> waters;
    bool operator==(const SceneKey&) const = default;
};
struct RaysKey {
    Identity set;
    std::vector<std::uint16_t> without;
    bool operator==(const RaysKey&) const = default;
};
struct GridKey {
    std::string name;
    bool operator==(const GridKey&) const = default;
};
struct CoarseKey {
    Identity grid;
    int times;
    bool operator==(const CoarseKey&) const = default;
};
} // namespace

std::shared_ptr<const geometry::RayScene> keptScene(Store& store, const std::vector<geometry::PlacedSet>& placed,
                                                    JobControl& job, const std::vector<geometry::PlacedWater>& waters)
{
    const auto raysOf = [&](const geometry::PlacedSet& p) {
        return store.get(
            RaysKey{p.set, p.without}, [&] { return std::make_shared<const geometry::SetRays>(p.set, p.without, job); },
            &job);
    };
    return store.get(
        SceneKey{keysOf(placed), watersOf(waters)},
        [&] { return std::make_shared<const geometry::RayScene>(placed, job, raysOf, waters); }, &job);
}

std::shared_ptr<const std::vector<media::VdbGrid>> keptVolumeFile(Store& store, const std::filesystem::path& file,
                                                                  const JobControl& job)
{
    return keptFromFile(store, job, file, Whole(),
                        [&] { return std::make_shared<const std::vector<media::VdbGrid>>(media::vdbGrids(file)); });
}

std::shared_ptr<const std::vector<media::VdbGrid>> volumeFileAtHand(Store& store, const std::filesystem::path& file)
{
    return store.atHand<std::vector<media::VdbGrid>>(FileKey<Whole>{versionOf(file), {}});
}

std::shared_ptr<const media::LoadedGrid> keptGrid(Store& store, const std::filesystem::path& file,
                                                  const std::string& name, JobControl& job, FileVersion* was)
{
    return keptFromFile(
        store, job, file, GridKey{name},
        [&] { return std::make_shared<const media::LoadedGrid>(media::loadVdb(file, name, job)); }, was);
}

std::shared_ptr<const media::BrickGrid> keptCoarser(Store& store, const std::shared_ptr<const media::BrickGrid>& grid,
                                                    int times, JobControl& job)
{
    if (times <= 0)
        return grid;
    return store.get(
        CoarseKey{grid, times}, [&] { return keptCoarser(store, grid, times - 1, job)->halved(job); }, &job);
}
} // namespace hygros::elements
