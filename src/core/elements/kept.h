#pragma once
/// What several kinds keep in the store.
#include "base/store.h"
#include "geometry/ray_scene.h"
#include "image/colour_config.h"
#include "media/vdb.h"
#include "media/volume.h"

namespace hygros::elements {

/// Something read from a file: which version of it, and what else decides.
template <class Extra> struct FileKey {
    FileVersion file;
    Extra extra;
    bool operator==(const FileKey&) const = default;
};
/// For files of which there is one reading.
struct Whole {
    bool operator==(const Whole&) const = default;
};
/// What `make` reads from `file`. A file that changes while it is read is read again; `was` is told the version that
/// was.
template <class Extra, class Make>
auto keptFromFile(Store& store, const JobControl& job, const std::filesystem::path& file, const Extra& extra,
                  const Make& make, FileVersion* was = nullptr)
{
    for (int tries = 0;; ++tries) {
        const FileVersion version = versionOf(file);
        auto value = store.get(FileKey<Extra>{version, extra}, make, &job);
        if (tries == 3 || versionOf(file) == version) {
            if (was)
                *was = version;
            return value;
        }
    }
}

/// A set and where it stands, as a key.
struct PlacedKey {
    explicit PlacedKey(const geometry::PlacedSet& p) : set(p.set), place(p) { place.set.reset(); }
    Identity set;
    geometry::PlacedSet place;
    bool operator==(const PlacedKey&) const = default;
};
std::vector<PlacedKey> keysOf(const std::vector<geometry::PlacedSet>& placed);

/// The set in `file`; anew when it or a file that it reads (buffers, textures) has changed. Throws as importSet does.
std::shared_ptr<const geometry::SetGeometry> keptSet(Store& store, const std::filesystem::path& file, JobControl& job);
/// The ray structure of placed sets.
std::shared_ptr<const geometry::RayScene> keptScene(Store& store, const std::vector<geometry::PlacedSet>& placed,
                                                    JobControl& job,
                                                    const std::vector<geometry::PlacedWater>& waters = {});

/// A colour configuration; anew when it or a file that it reads has changed. Throws as ColourConfig::load does.
std::shared_ptr<const image::ColourConfig> keptColourConfig(Store& store, const std::filesystem::path& file,
                                                            JobControl& job, FileVersion* was = nullptr);
/// The same if it is at hand; null otherwise. Reads nothing, so a window may ask.
std::shared_ptr<const image::ColourConfig> colourConfigAtHand(Store& store, const std::filesystem::path& file);

/// What grids a volume file holds.
std::shared_ptr<const std::vector<media::VdbGrid>> keptVolumeFile(Store& store, const std::filesystem::path& file,
                                                                  const JobControl& job);
/// The same if it is at hand; null otherwise. Reads nothing, so a window may ask.
std::shared_ptr<const std::vector<media::VdbGrid>> volumeFileAtHand(Store& store, const std::filesystem::path& file);
/// One of a file's grids; `was` is told the file's version that was read.
std::shared_ptr<const media::LoadedGrid> keptGrid(Store& store, const std::filesystem::path& file,
                                                  const std::string& name, JobControl& job, FileVersion* was = nullptr);
/// A grid made coarser by halves.
std::shared_ptr<const media::BrickGrid> keptCoarser(Store& store, const std::shared_ptr<const media::BrickGrid>& grid,
                                                    int times, JobControl& job);
} // namespace hygros::elements
